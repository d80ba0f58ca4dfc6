import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEFAULT_RULES, STAND_INS, type StandIn } from '@tally-stone/contract';
import type {
  CommandAnswer,
  CycleAct,
  CycleView,
  DeckFigures,
  Problem,
  Quantity,
  ShopAct,
} from '@tally-stone/contract';
import { v7 as uuidv7 } from 'uuid';
import { openDatabase, type Database } from '../database.js';
import type { Durability } from '../db/connection.js';
import { SPECS } from '../demo/specs.js';
import { Heavy } from '../heavy/heavy.js';
import { serve, type Serving } from '../http/serve.js';

export interface Reply<T> {
  readonly status: number;
  readonly headers: Headers;
  readonly body: T;
}

let template: Promise<Buffer> | undefined;

/** The file of an empty shop, migrated once a process: a copy of it opens five times sooner than a new one. */
export function emptyShop(): Promise<Buffer> {
  template ??= (async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-template-'));
    const file = join(folder, 'shop.sqlite');
    const { connection, heavy, pictures } = await openDatabase(file);
    await connection.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
    await connection.close();
    await heavy.close();
    await pictures.close();
    const bytes = readFileSync(file);
    rmSync(folder, { recursive: true, force: true });
    return bytes;
  })();
  return template;
}

/** One worker for all shops of a process: each of its own would load the same again for every test. */
class SharedHeavy extends Heavy {
  override close(): Promise<void> {
    return Promise.resolve();
  }
}
const SHARED = { heavy: new SharedHeavy(), pictures: new SharedHeavy() };

/** A small shop on a real port with a real file, for tests: one technician, one spec, one mower. */
export class TestShop {
  readonly specId = uuidv7();
  readonly personId = uuidv7();
  readonly mowerId = uuidv7();
  readonly spindleIds = [uuidv7(), uuidv7()] as const;

  private constructor(
    readonly folder: string,
    readonly database: Database,
    readonly serving: Serving,
  ) {}

  /** What a test leaves behind need not outlive a power cut. */
  static async open(durability: Durability = 'throwaway'): Promise<TestShop> {
    const folder = mkdtempSync(join(tmpdir(), 'tally-stone-'));
    writeFileSync(join(folder, 'shop.sqlite'), await emptyShop());
    const database = {
      ...(await openDatabase(join(folder, 'shop.sqlite'), durability)),
      ...SHARED,
    };
    const serving = await serve({ database, host: '127.0.0.1', port: 0, patienceMs: 1500 });
    const shop = new TestShop(folder, database, serving);
    const [figures] = SPECS;
    if (!figures) throw new Error('no spec to test with');
    await shop.send({
      type: 'add-person',
      newPersonId: shop.personId,
      name: 'Ash',
      role: 'technician',
    });
    await shop.send({ type: 'add-spec', specId: shop.specId, specRevisionId: uuidv7(), figures });
    await shop.send({
      type: 'add-mower',
      mowerId: shop.mowerId,
      name: 'Wagtail',
      energy: 'battery',
      site: 'Test ground',
      bladeSpeedRpm: 3100,
      hoursH: 100,
      spindles: shop.spindleIds.map((spindleId, i) => ({ spindleId, position: `s${i}` })),
    });
    return shop;
  }

  async close(): Promise<void> {
    await this.serving.close();
    rmSync(this.folder, { recursive: true, force: true });
  }

  async get<T>(path: string, headers: Record<string, string> = {}): Promise<Reply<T>> {
    return reply(await fetch(this.serving.address + path, { headers }));
  }

  async post<T = Problem>(body: unknown, raw?: string): Promise<Reply<T>> {
    return reply(
      await fetch(`${this.serving.address}/api/v1/commands`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: raw ?? JSON.stringify(body),
      }),
    );
  }

  envelope(): { id: string; personId: string; occurredAt: string } {
    return { id: uuidv7(), personId: this.personId, occurredAt: new Date().toISOString() };
  }

  async send(act: ShopAct): Promise<CommandAnswer> {
    const { status, body } = await this.post<CommandAnswer>({ ...act, ...this.envelope() });
    if (status !== 200) throw new Error(`${act.type}: ${JSON.stringify(body)}`);
    return body;
  }

  /** Simulates these instruments, all unless told. */
  async simulate(standIns: readonly StandIn[] = STAND_INS): Promise<void> {
    await this.send({ type: 'set-rules', rules: { ...DEFAULT_RULES, standIns: [...standIns] } });
  }

  /** The deck of its mower, measured: blades of its spec side by side with a gap between them. */
  deckFigures(change: Partial<DeckFigures> = {}): DeckFigures {
    return {
      specId: this.specId,
      spindles: this.spindleIds.map((spindleId, i) => ({
        spindleId,
        acrossMm: 545 * i,
        aheadMm: 0,
      })),
      leastClearanceMm: 6,
      leastOverlapMm: 0,
      timed: false,
      stack: [],
      raising: 'front-up',
      duty: { turf: 'soft', soil: 'loam' },
      ...change,
    };
  }

  async measureDeck(change: Partial<DeckFigures> = {}): Promise<void> {
    const deck = await this.database.models.deck.findOne({ where: { mowerId: this.mowerId } });
    await this.send({
      type: 'set-deck',
      deckId: deck?.id ?? '',
      figures: this.deckFigures(change),
    });
  }

  /** Another mower of two spindles, measured. */
  async oneMoreMower(name: string): Promise<void> {
    const mowerId = uuidv7();
    const deckId = uuidv7();
    const spindleIds = [uuidv7(), uuidv7()];
    await this.send({
      type: 'add-mower',
      mowerId,
      deckId,
      name,
      energy: 'petrol',
      site: 'Test ground',
      bladeSpeedRpm: 3100,
      hoursH: 100,
      spindles: spindleIds.map((spindleId, i) => ({ spindleId, position: `s${i}` })),
    });
    const spindles = spindleIds.map((spindleId, i) => ({
      spindleId,
      acrossMm: 545 * i,
      aheadMm: 0,
    }));
    await this.send({ type: 'set-deck', deckId, figures: this.deckFigures({ spindles }) });
  }

  async newBlade(): Promise<{ bladeId: string; code: string }> {
    const { blades } = await this.send({ type: 'register-blades', specId: this.specId, count: 1 });
    const [blade] = blades ?? [];
    if (!blade) throw new Error('no blade came back');
    return blade;
  }

  /** A blade as if it had been signed off ready, without its cycle: for what comes after the bench. */
  async readyBlade(): Promise<string> {
    const { bladeId } = await this.newBlade();
    await this.database.connection.write(() =>
      this.database.models.blade.update({ state: 'ready' }, { where: { id: bladeId } }),
    );
    return bladeId;
  }

  async openCycle(): Promise<TestCycle> {
    const { bladeId, code } = await this.newBlade();
    return this.openCycleOf(bladeId, code);
  }

  async openCycleOf(bladeId: string, code = ''): Promise<TestCycle> {
    const cycleId = uuidv7();
    await this.send({ type: 'open-cycle', cycleId, bladeId });
    return new TestCycle(this, cycleId, bladeId, code);
  }
}

async function reply<T>(response: Response): Promise<Reply<T>> {
  const text = await response.text();
  const json = response.headers.get('content-type')?.includes('json') ?? false;
  return {
    status: response.status,
    headers: response.headers,
    body: (json ? JSON.parse(text) : text) as T,
  };
}

/** One cycle under test, keeping count of its revision. */
export class TestCycle {
  revision = 0;

  constructor(
    readonly shop: TestShop,
    readonly cycleId: string,
    readonly bladeId: string,
    readonly code: string,
  ) {}

  async act(act: CycleAct): Promise<Reply<Problem>> {
    const answer = await this.shop.post<Problem & { revision?: number }>({
      ...act,
      ...this.shop.envelope(),
      cycleId: this.cycleId,
      expectedRevision: this.revision,
    });
    this.revision = answer.body.revision ?? this.revision;
    return answer;
  }

  async do(act: CycleAct): Promise<void> {
    const { status, body } = await this.act(act);
    if (status !== 200) throw new Error(`${act.type}: ${JSON.stringify(body)}`);
  }

  read(
    phase: 'before' | 'after',
    quantity: Quantity,
    text: string,
    place: { end?: 'A' | 'B'; stationKey?: string; repeat?: boolean } = {},
  ): Promise<Reply<Problem>> {
    const { repeat, ...where } = place;
    const unit = quantity === 'mass' ? 'g' : quantity === 'bevel' ? 'deg' : 'mm';
    return this.act({
      type: 'take-reading',
      readingId: uuidv7(),
      place: { phase, quantity, ...where },
      entered: { text, unit },
      repeat: repeat ?? false,
    });
  }

  async inspectClean(tipB = '40.0'): Promise<void> {
    await this.do({ type: 'clean', done: true });
    await this.do({ type: 'judge-crack', found: false });
    await this.read('before', 'tip-height', '40.0', { end: 'A' });
    await this.read('before', 'tip-height', tipB, { end: 'B' });
  }

  async measure(
    phase: 'before' | 'after',
    { mass = '1600.0', width = '62.0', land = '0.50' } = {},
  ): Promise<void> {
    await this.read(phase, 'mass', mass);
    for (const end of ['A', 'B'] as const) {
      for (const stationKey of ['tip', 'middle', 'root']) {
        await this.read(phase, 'width', width, { end, stationKey });
      }
      await this.read(phase, 'bevel', '30.0', { end });
      await this.read(phase, 'land', land, { end });
    }
  }

  async grind(passes = 6): Promise<void> {
    for (const end of ['A', 'B'] as const) {
      await this.do({ type: 'count-passes', passId: uuidv7(), end, count: passes });
    }
  }

  async balance(weight = '0.4'): Promise<void> {
    await this.do({ type: 'deburr', done: true });
    await this.hang(weight, 'after');
  }

  /** End A hangs low, by a test weight on the shaft. */
  hang(weight: string, phase: 'before' | 'after' = 'before'): Promise<void> {
    return this.do({
      type: 'balance-round',
      roundId: uuidv7(),
      phase,
      device: 'bearing-shaft',
      heavyEnd: 'A',
      weight: { text: weight, unit: 'g' },
      radius: { text: '240', unit: 'mm' },
    });
  }

  async lightTests(): Promise<void> {
    for (const end of ['A', 'B'] as const) {
      await this.do({ type: 'light-test', end, brightLine: false });
    }
  }

  /** Everything up to the sign-off of an ordinary grind, after which the blade is so wide, mm. */
  async upToSignOff(width = '61.5'): Promise<void> {
    await this.inspectClean();
    await this.measure('before', { width: (Number(width) + 0.5).toFixed(1) });
    await this.grind();
    await this.balance();
    await this.measure('after', { mass: '1592.0', width, land: '0.15' });
    await this.lightTests();
  }

  async view(): Promise<CycleView> {
    return (await this.shop.get<CycleView>(`/api/v1/cycles/${this.cycleId}`)).body;
  }
}
