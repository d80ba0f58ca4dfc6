import type {
  BenchView,
  BladeList,
  BladeQuery,
  BladeRow,
  BladeState,
  RegisterRow,
  SpecRevision,
} from '@tally-stone/contract';
import { BLADE_STATE_KEYS, placesWith, readCode } from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import type { Database } from '../database.js';
import { Refusal } from '@tally-stone/cycle';
import { listSpecs } from '../spec/specs.js';

interface Found {
  bladeId: string;
  code: string;
  specId: string;
  specName: string;
  state: BladeState;
  place: string;
  mowerName: string | null;
  position: string | null;
  grinds: number;
  cycleId: string | null;
  waitingSince: string | null;
  usedSince: string | null;
  /** Where it was asked for. */
  lastGroundAt?: string | null;
}

/** When a blade was ground last, of its cycles that are signed off: they follow each other, so the newest tells. */
export const LAST_GROUND = `(SELECT cycle.signedAt FROM cycle
  WHERE cycle.bladeId = blade.id AND cycle.signedAt IS NOT NULL
    AND EXISTS (SELECT 1 FROM pass WHERE pass.cycleId = cycle.id)
  ORDER BY cycle.openedAt DESC LIMIT 1)`;

/** A blade with its standing code and its spec: what it is found and sorted by. */
export const FROM_BLADES = `FROM blade
  JOIN bladeCode ON bladeCode.bladeId = blade.id AND bladeCode."to" IS NULL
  JOIN spec ON spec.id = blade.specId`;

/** One row a blade: code, spec, size, where it is now, and the mower it is on or last came off. */
const COLUMNS = `blade.id AS bladeId, bladeCode.code AS code, blade.specId AS specId, spec.name AS specName,
    blade.state AS state, blade.place AS place, mower.name AS mowerName, spindle.position AS position,
    blade.grinds AS grinds, cycle.id AS cycleId, blade.waitingSince AS waitingSince,
    CASE blade.knownFrom WHEN 'used' THEN blade.createdAt END AS usedSince`;
const FROM = `${FROM_BLADES}
  LEFT JOIN cycle ON cycle.bladeId = blade.id AND cycle.signedAt IS NULL
  LEFT JOIN fit ON fit.id =
    (SELECT id FROM fit WHERE bladeId = blade.id ORDER BY "from" DESC, id DESC LIMIT 1)
  LEFT JOIN spindle ON spindle.id = fit.spindleId
  LEFT JOIN deck ON deck.id = spindle.deckId
  LEFT JOIN mower ON mower.id = deck.mowerId`;

const toRow = (found: Found, spec: SpecRevision['figures'] | undefined): RegisterRow => ({
  bladeId: found.bladeId,
  code: found.code,
  specName: found.specName,
  lengthMm: spec?.newLengthMm ?? 0,
  widthMm: spec?.newWidthMm ?? 0,
  state: found.state,
  place: found.place,
  grinds: found.grinds,
  ...(found.mowerName === null ? {} : { mowerName: found.mowerName }),
  ...(found.position === null ? {} : { position: found.position }),
  ...(found.cycleId === null ? {} : { cycleId: found.cycleId }),
  ...(found.waitingSince === null ? {} : { waitingSince: found.waitingSince }),
  ...(found.usedSince === null ? {} : { usedSince: found.usedSince }),
  ...(found.lastGroundAt ? { lastGroundAt: found.lastGroundAt } : {}),
});

interface Asked {
  readonly limit?: number;
  /** What they are sorted by, in SQL; longest waiting first unless told. */
  readonly order?: string;
  /** With when each was ground last. */
  readonly lastGround?: boolean;
}

/** Blades where `where` holds, in SQL. */
export async function bladeRows(
  database: Database,
  where: string,
  replacements: Record<string, unknown>,
  { limit = 500, order = 'blade.waitingSince, bladeCode.serial', lastGround = false }: Asked = {},
): Promise<RegisterRow[]> {
  const columns = lastGround ? `${COLUMNS}, ${LAST_GROUND} AS lastGroundAt` : COLUMNS;
  const [rows, revisions] = await Promise.all([
    database.connection.sequelize.query<Found>(
      `SELECT ${columns} ${FROM} WHERE ${where} ORDER BY ${order} LIMIT ${limit}`,
      { type: QueryTypes.SELECT, replacements },
    ),
    listSpecs(database),
  ]);
  const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
  return rows.map((row) => toRow(row, specs.get(row.specId)));
}

export async function bladeRow(database: Database, bladeId: string): Promise<BladeRow> {
  const [row] = await bladeRows(database, 'blade.id = :bladeId', { bladeId }, { limit: 1 });
  if (!row) throw new Refusal('notFound', $localize`There is no such blade.`);
  return row;
}

/** Several blades, in the order asked for. */
export async function bladeRowsOf(
  database: Database,
  bladeIds: readonly string[],
  asked: Asked = {},
): Promise<RegisterRow[]> {
  if (bladeIds.length === 0) return [];
  const limit = bladeIds.length;
  const rows = await bladeRows(
    database,
    'blade.id IN (:bladeIds)',
    { bladeIds },
    { limit, ...asked },
  );
  const byId = new Map(rows.map((row) => [row.bladeId, row]));
  return bladeIds.flatMap((id) => byId.get(id) ?? []);
}

/** Of which states how many are looked up: a shop has thousands, and few are shown. */
type Most = Partial<Record<BladeState, number>>;

const LAST_SIGNED = `(SELECT cycle.signedAt FROM cycle WHERE cycle.bladeId = blade.id
  ORDER BY cycle.openedAt DESC LIMIT 1)`;

/** The first blades of a state, longest waiting first, of the retired the last; in SQL. */
const firstOf = (state: BladeState, most: number): string =>
  `SELECT id FROM (SELECT id FROM blade WHERE state = '${state}'
     ORDER BY ${state === 'retired' ? `${LAST_SIGNED} DESC` : 'waitingSince, rowid'} LIMIT ${most})`;

/** The first blades of some states, so many of each that none is crowded out by another. */
export const bladeRowsIn = (database: Database, most: Most): Promise<BladeRow[]> => {
  const states = Object.entries(most) as [BladeState, number][];
  return bladeRows(
    database,
    `blade.id IN (${states.map(([state, first]) => firstOf(state, first)).join(' UNION ALL ')})`,
    {},
    {
      limit: states.reduce((sum, [, first]) => sum + first, 0),
      order: `CASE blade.state WHEN 'retired' THEN ${LAST_SIGNED} END DESC, blade.waitingSince, bladeCode.serial`,
    },
  );
};

/** So many ready blades, those asked for among them. */
export const readyRows = (
  database: Database,
  asked: readonly string[],
  most: number,
): Promise<BladeRow[]> =>
  bladeRows(
    database,
    `blade.id IN (SELECT value FROM json_each(:asked)) OR blade.id IN (
       SELECT id FROM (SELECT id FROM blade WHERE state = 'ready' AND id NOT IN (SELECT value FROM json_each(:asked))
         ORDER BY waitingSince, rowid LIMIT :more))`,
    { asked: JSON.stringify(asked), more: Math.max(0, most - asked.length) },
    { limit: Math.max(most, asked.length) },
  );

/** How many blades there are of a state. */
export async function bladeCounts({
  models,
}: Database): Promise<(...states: BladeState[]) => number> {
  const counted = await models.blade.count({ group: ['state'] });
  return (...states) =>
    counted.reduce(
      (sum, { state, count }) => sum + (states.includes(state as BladeState) ? count : 0),
      0,
    );
}

/** What the bench shows of each state at most. */
const ON_BENCH: Most = { 'at-bench': 100, waiting: 300, hold: 100, new: 100 };

/** What the bench sees first: in hand, waiting longest first, on hold. */
export async function bench(database: Database): Promise<BenchView> {
  const rows = await bladeRowsIn(database, ON_BENCH);
  const { models } = database;
  const [of, people, grinders, mowers, specs] = await Promise.all([
    bladeCounts(database),
    models.person.count(),
    models.grinder.count(),
    models.mower.count(),
    listSpecs(database),
  ]);
  const all = of(...BLADE_STATE_KEYS);
  const there = { people, spec: specs.length, grinder: grinders, mower: mowers, blades: all };
  const inState = (...states: BladeState[]): BladeRow[] =>
    states.flatMap((state) => rows.filter((row) => row.state === state));
  return {
    atBench: inState('at-bench'),
    waiting: inState('waiting', 'new'),
    onHold: inState('hold'),
    counts: {
      waiting: of('waiting', 'new'),
      onHold: of('hold'),
      ready: of('ready'),
      onMower: of('on-mower'),
      retired: of('retired'),
      all,
    },
    missing: (['people', 'spec', 'grinder', 'mower', 'blades'] as const).filter(
      (thing) => there[thing] === 0,
    ),
  };
}

/** Tolerance when a blade is looked for by its length: worn tips and a tape measure. */
const LENGTH_SEARCH_MM = 12;

/** Specs as long as that, or nearly. */
async function specsOfLength(database: Database, lengthMm: number): Promise<string[]> {
  const near = (await listSpecs(database)).filter(
    ({ figures }) => Math.abs(figures.newLengthMm - lengthMm) <= LENGTH_SEARCH_MM,
  );
  // SQL knows no empty list.
  return near.length === 0 ? [''] : near.map(({ specId }) => specId);
}

/** A word as SQL's LIKE takes it, anywhere in a text. */
export const anywhere = (word: string): string =>
  `%${word.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;

/**
 * Blades whose place holds a word, as it is stored or as it is said to whoever asks: in SQL, and what is put into it by
 * names that begin with `key`.
 */
export function placeHas(
  word: string,
  key: string,
): { sql: string; replacements: Record<string, string | string[]> } {
  const { places, beginnings } = placesWith(word);
  const like = [anywhere(word), ...beginnings.map((beginning) => `${beginning}%`)];
  return {
    sql: [
      ...like.map((_, i) => `blade.place LIKE :${key}${i} ESCAPE '\\'`),
      ...(places.length > 0 ? [`blade.place IN (:${key}In)`] : []),
    ].join(' OR '),
    replacements: {
      ...Object.fromEntries(like.map((each, i) => [`${key}${i}`, each])),
      ...(places.length > 0 ? { [`${key}In`]: places } : {}),
    },
  };
}

/** Blades by mower, place, size or state: how one whose stamp cannot be read is found. */
export async function findBlades(database: Database, query: BladeQuery): Promise<BladeList> {
  const conditions = ['1 = 1'];
  if (query.mowerId) conditions.push('mower.id = :mowerId');
  const place = query.place ? placeHas(query.place, 'place') : undefined;
  if (place)
    conditions.push(
      `(${place.sql} OR instr(lower(coalesce(spindle.position, '')), lower(:place)) > 0)`,
    );
  if (query.lengthMm) {
    conditions.push('blade.specId IN (:specIds)');
  }
  if (query.state) conditions.push('blade.state = :state');
  const specIds = query.lengthMm ? await specsOfLength(database, query.lengthMm) : [];
  const blades = await bladeRows(database, conditions.join(' AND '), {
    ...query,
    ...place?.replacements,
    specIds,
  });
  return { blades, total: blades.length };
}

/** The blade behind a scanned or typed code; a misread code is told apart from an unknown one. */
export async function bladeByCode(database: Database, text: string): Promise<BladeRow> {
  const reading = readCode(text);
  const misread = (message: string): Refusal =>
    new Refusal('misreadCode', $localize`Code "${text.trim()}" ${message}`, [
      { field: 'text', message },
    ]);
  switch (reading.kind) {
    case 'empty':
      throw misread($localize`is empty: scan the tag or type the stamped code.`);
    case 'foreign-character':
      throw misread(
        $localize`has "${reading.character}", which is never stamped here: look at the stamp again.`,
      );
    case 'wrong-length':
      throw misread(
        $localize`has ${reading.code.length} characters, a stamp has ${reading.expected}.`,
      );
    case 'wrong-check':
      throw misread(
        $localize`does not check: one character was misread or mistyped. Look at the stamp again.`,
      );
    case 'code': {
      const [row] = await bladeRows(
        database,
        'bladeCode.code = :code',
        { code: reading.code },
        { limit: 1 },
      );
      if (row) return row;
      throw new Refusal(
        'unknownCode',
        $localize`Code ${reading.code} is well formed, but no blade of this shop has it. Find the blade by mower and size, or register it as new.`,
        [{ field: 'text', message: $localize`is not a blade of this shop` }],
      );
    }
  }
}
