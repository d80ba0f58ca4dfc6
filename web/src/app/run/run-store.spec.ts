import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { CycleAct, CycleCommand } from '@tally-stone/contract';
import { EMPTY } from 'rxjs';
import { OutboxForTests } from '../../testing/served';
import { cycleView } from '../../testing/views';
import { Changes } from '../data/changes';
import { newId } from '../data/commands';
import { Outbox } from '../data/outbox';
import { RunStore } from './run-store';

describe('the run store', () => {
  const soon = () => new Promise((done) => setTimeout(done, 5));
  const act: CycleAct = { type: 'judge-crack', found: false };

  async function opened() {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        RunStore,
        { provide: Changes, useValue: { all$: EMPTY, lines$: EMPTY } },
        { provide: Outbox, useFactory: () => new OutboxForTests() },
      ],
    });
    const store = TestBed.inject(RunStore);
    const http = TestBed.inject(HttpTestingController);
    const sent = async () => {
      await soon();
      return http.expectOne(({ method }) => method === 'POST');
    };
    const opening = store.open('c');
    await soon();
    http.expectOne('/api/v1/cycles/c').flush(cycleView({ revision: 3 }));
    await opening;
    return { store, http, sent };
  }

  it('hangs a blade once where it was pressed twice, and again where it was hung again', async () => {
    const { store, http, sent } = await opened();
    const hanging = (roundId: string): CycleAct => ({
      type: 'balance-round',
      roundId,
      phase: 'after',
      device: 'bearing-shaft',
      heavyEnd: 'A',
      drops: [3.1, 3.2],
    });
    const [first, again] = [newId(), newId()];
    const both = [store.act(hanging(first)), store.act(hanging(newId()))];
    const one = await sent();
    expect((one.request.body as { roundId: string }).roundId).toBe(first);
    one.flush({ commandId: 'x', sequence: 4, revision: 4 });
    expect(await Promise.all(both)).toEqual([undefined, undefined]);
    await soon();
    http.expectNone(({ method }) => method === 'POST');
    void store.act(hanging(again));
    expect(((await sent()).request.body as { roundId: string }).roundId).toBe(again);
  });

  it('enters nothing once the blade was left, whatever was still under way', async () => {
    const { store, http } = await opened();
    TestBed.resetTestingModule();
    expect(await store.act(act)).toBeDefined();
    await soon();
    http.expectNone(({ method }) => method === 'POST');
  });

  it('decides on the revision it knows while it asks anew after a refusal', async () => {
    const { store, http, sent } = await opened();
    void store.act(act);
    const refused = await sent();
    expect((refused.request.body as CycleCommand).expectedRevision).toBe(3);
    refused.flush(
      { type: '/problems/refused', title: 'Refused', status: 422, detail: 'No.' },
      { status: 422, statusText: 'refused' },
    );
    await soon();
    // The look at the newest state is still under way.
    void store.act(act);
    const next = await sent();
    expect((next.request.body as CycleCommand).expectedRevision).toBe(3);
    http.expectOne('/api/v1/cycles/c').flush(cycleView({ revision: 3 }));
  });
});
