import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { CycleAct, CycleCommand } from '@tally-stone/contract';
import { EMPTY } from 'rxjs';
import { OutboxForTests } from '../../testing/served';
import { cycleView } from '../../testing/views';
import { Changes } from '../data/changes';
import { Outbox } from '../data/outbox';
import { RunStore } from './run-store';

describe('the run store', () => {
  const soon = () => new Promise((done) => setTimeout(done, 5));
  const act: CycleAct = { type: 'judge-crack', found: false };

  it('decides on the revision it knows while it asks anew after a refusal', async () => {
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
    const opened = store.open('c');
    await soon();
    http.expectOne('/api/v1/cycles/c').flush(cycleView({ revision: 3 }));
    await opened;
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
