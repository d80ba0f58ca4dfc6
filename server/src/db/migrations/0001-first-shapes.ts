/**
 * All shapes the product is meant to live in, in plain SQL: SQLite's own ALTER and Sequelize's
 * changeColumn rebuild tables and drop their triggers and CHECKs. The tests list both after the last
 * migration.
 */
export const MOMENT = (column: string): string => `${column} GLOB '????-??-??T??:??:??*Z'`;
export const FINITE = (column: string, low: number, high: number): string =>
  `typeof(${column}) IN ('real', 'integer') AND ${column} >= ${low} AND ${column} <= ${high}`;

const TABLES = [
  `CREATE TABLE shop (
    id TEXT PRIMARY KEY, name TEXT NOT NULL, timeZone TEXT NOT NULL,
    rules TEXT NOT NULL CHECK (json_valid(rules)))`,
  `CREATE TABLE person (
    id TEXT PRIMARY KEY, name TEXT NOT NULL CHECK (length(name) > 0),
    role TEXT NOT NULL CHECK (role IN ('technician', 'manager', 'crew')), pinHash TEXT)`,
  `CREATE TABLE spec (id TEXT PRIMARY KEY, name TEXT NOT NULL UNIQUE)`,
  `CREATE TABLE specRevision (
    id TEXT PRIMARY KEY, specId TEXT NOT NULL REFERENCES spec(id),
    revision INTEGER NOT NULL CHECK (revision >= 1),
    figures TEXT NOT NULL CHECK (json_valid(figures)),
    createdAt TEXT NOT NULL CHECK (${MOMENT('createdAt')}),
    UNIQUE (specId, revision))`,
  `CREATE TABLE blade (
    id TEXT PRIMARY KEY, specId TEXT NOT NULL REFERENCES spec(id),
    state TEXT NOT NULL CHECK (state IN ('new','on-mower','waiting','at-bench','ready','hold','retired')),
    place TEXT NOT NULL, grinds INTEGER NOT NULL DEFAULT 0 CHECK (grinds >= 0),
    createdAt TEXT NOT NULL CHECK (${MOMENT('createdAt')}), waitingSince TEXT)`,
  `CREATE TABLE bladeCode (
    code TEXT PRIMARY KEY, serial INTEGER NOT NULL UNIQUE, bladeId TEXT NOT NULL REFERENCES blade(id),
    "from" TEXT NOT NULL, "to" TEXT CHECK ("to" IS NULL OR "to" >= "from"))`,
  `CREATE TABLE cycle (
    id TEXT PRIMARY KEY, bladeId TEXT NOT NULL REFERENCES blade(id),
    specRevisionId TEXT NOT NULL REFERENCES specRevision(id),
    revision INTEGER NOT NULL CHECK (revision >= 0),
    openedAt TEXT NOT NULL CHECK (${MOMENT('openedAt')}), openedBy TEXT NOT NULL REFERENCES person(id),
    signedAt TEXT, signedBy TEXT REFERENCES person(id),
    outcome TEXT CHECK (outcome IN ('ready', 'hold', 'retired')),
    retireReason TEXT, frozen TEXT CHECK (frozen IS NULL OR json_valid(frozen)),
    CHECK ((signedAt IS NULL) = (outcome IS NULL) AND (signedAt IS NULL) = (signedBy IS NULL)),
    CHECK ((outcome = 'retired') = (retireReason IS NOT NULL) OR outcome IS NULL))`,
  `CREATE TABLE reading (
    id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
    phase TEXT NOT NULL CHECK (phase IN ('before', 'after')),
    quantity TEXT NOT NULL CHECK (quantity IN
      ('mass','length','thickness','width','bevel','face','land','wing','hole-wear','tip-height')),
    "end" TEXT CHECK ("end" IN ('A', 'B')), stationKey TEXT,
    radiusMm REAL CHECK (radiusMm IS NULL OR radiusMm >= 0),
    value REAL NOT NULL CHECK (${FINITE('value', 0, 20000)}),
    u REAL NOT NULL CHECK (${FINITE('u', 0, 20000)}),
    resolution REAL NOT NULL CHECK (resolution > 0),
    enteredText TEXT NOT NULL, enteredUnit TEXT NOT NULL, calibration TEXT,
    source TEXT NOT NULL CHECK (source IN ('typed', 'instrument', 'carried')),
    takenAt TEXT NOT NULL CHECK (${MOMENT('takenAt')}),
    CHECK (quantity <> 'bevel' OR value BETWEEN 10 AND 60),
    CHECK (quantity NOT IN ('mass', 'length', 'thickness', 'width', 'face') OR value > 0))`,
  `CREATE TABLE damage (
    id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
    kind TEXT NOT NULL CHECK (kind IN ('nick', 'chip', 'rounded-tip', 'thin-wing')),
    "end" TEXT NOT NULL CHECK ("end" IN ('A', 'B')),
    fromTipMm REAL NOT NULL CHECK (${FINITE('fromTipMm', 0, 1000)}),
    radiusMm REAL NOT NULL CHECK (radiusMm >= 0),
    depthMm REAL NOT NULL CHECK (depthMm > 0 AND depthMm <= 200))`,
  `CREATE TABLE pass (
    id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
    "end" TEXT NOT NULL CHECK ("end" IN ('A', 'B')), zone TEXT NOT NULL,
    count INTEGER NOT NULL CHECK (count >= 1), countedAt TEXT NOT NULL)`,
  `CREATE TABLE balanceRound (
    id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
    phase TEXT NOT NULL CHECK (phase IN ('before', 'after')), device TEXT NOT NULL,
    heavyEnd TEXT NOT NULL CHECK (heavyEnd IN ('A', 'B', 'level')),
    unbalanceGmm REAL NOT NULL CHECK (${FINITE('unbalanceGmm', -1e6, 1e6)}),
    u REAL NOT NULL CHECK (u >= 0),
    weightG REAL CHECK (weightG IS NULL OR weightG >= 0), radiusMm REAL CHECK (radiusMm IS NULL OR radiusMm > 0),
    takenAt TEXT NOT NULL)`,
  `CREATE TABLE correction (
    id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id),
    correctsKind TEXT NOT NULL, correctsId TEXT NOT NULL, value TEXT NOT NULL CHECK (json_valid(value)),
    reason TEXT NOT NULL CHECK (length(reason) > 0), personId TEXT NOT NULL REFERENCES person(id),
    secondPersonId TEXT REFERENCES person(id), madeAt TEXT NOT NULL,
    CHECK (secondPersonId IS NULL OR secondPersonId <> personId))`,
  `CREATE TABLE mower (
    id TEXT PRIMARY KEY, name TEXT NOT NULL UNIQUE,
    energy TEXT NOT NULL CHECK (energy IN ('petrol', 'diesel', 'battery')), site TEXT NOT NULL)`,
  `CREATE TABLE deck (
    id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower(id),
    bladeSpeedRpm REAL NOT NULL CHECK (bladeSpeedRpm > 0))`,
  `CREATE TABLE spindle (
    id TEXT PRIMARY KEY, deckId TEXT NOT NULL REFERENCES deck(id), position TEXT NOT NULL,
    ordinal INTEGER NOT NULL, UNIQUE (deckId, position))`,
  `CREATE TABLE hourMeterSegment (
    id TEXT PRIMARY KEY, mowerId TEXT NOT NULL REFERENCES mower(id), "from" TEXT NOT NULL, "to" TEXT,
    startReadingH REAL NOT NULL CHECK (startReadingH >= 0),
    lastReadingH REAL NOT NULL CHECK (lastReadingH >= startReadingH),
    carriedH REAL NOT NULL CHECK (carriedH >= 0))`,
  `CREATE TABLE fit (
    id TEXT PRIMARY KEY, bladeId TEXT NOT NULL REFERENCES blade(id),
    spindleId TEXT NOT NULL REFERENCES spindle(id), "from" TEXT NOT NULL, "to" TEXT,
    fromHoursH REAL NOT NULL, toHoursH REAL,
    CHECK ("to" IS NULL OR "to" >= "from"), CHECK (toHoursH IS NULL OR toHoursH >= fromHoursH))`,
  `CREATE TABLE setMembership (
    id TEXT PRIMARY KEY, setId TEXT NOT NULL, bladeId TEXT NOT NULL REFERENCES blade(id),
    "from" TEXT NOT NULL, "to" TEXT CHECK ("to" IS NULL OR "to" >= "from"))`,
  `CREATE TABLE command (
    id TEXT PRIMARY KEY, sequence INTEGER NOT NULL UNIQUE, type TEXT NOT NULL,
    cycleId TEXT REFERENCES cycle(id), revision INTEGER, personId TEXT NOT NULL,
    occurredAt TEXT NOT NULL, receivedAt TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid(body)), event TEXT CHECK (event IS NULL OR json_valid(event)),
    answer TEXT NOT NULL CHECK (json_valid(answer)))`,
  `CREATE TABLE journal (
    sequence INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, personId TEXT NOT NULL,
    commandId TEXT NOT NULL, what TEXT NOT NULL, subjectKind TEXT NOT NULL, subjectId TEXT NOT NULL,
    "before" TEXT, "after" TEXT)`,
];

const INDEXES = [
  `CREATE UNIQUE INDEX oneOpenCyclePerBlade ON cycle (bladeId) WHERE signedAt IS NULL`,
  `CREATE UNIQUE INDEX oneCurrentCodePerBlade ON bladeCode (bladeId) WHERE "to" IS NULL`,
  `CREATE UNIQUE INDEX oneFitPerBlade ON fit (bladeId) WHERE "to" IS NULL`,
  `CREATE UNIQUE INDEX oneFitPerSpindle ON fit (spindleId) WHERE "to" IS NULL`,
  `CREATE UNIQUE INDEX oneMeterPerMower ON hourMeterSegment (mowerId) WHERE "to" IS NULL`,
  `CREATE UNIQUE INDEX oneSetPerBlade ON setMembership (bladeId) WHERE "to" IS NULL`,
  `CREATE UNIQUE INDEX oneCommandPerRevision ON command (cycleId, revision) WHERE cycleId IS NOT NULL`,
  `CREATE INDEX bladeByState ON blade (state, waitingSince)`,
  `CREATE INDEX cycleByBlade ON cycle (bladeId, openedAt)`,
  `CREATE INDEX readingByCycle ON reading (cycleId)`,
  `CREATE INDEX damageByCycle ON damage (cycleId)`,
  `CREATE INDEX passByCycle ON pass (cycleId)`,
  `CREATE INDEX roundByCycle ON balanceRound (cycleId)`,
  `CREATE INDEX fitByBlade ON fit (bladeId, "from")`,
];

/** Whoever writes to the file, by whatever program, cannot rewrite what happened. */
const refuse = (name: string, when: string, condition: string, words: string): string =>
  `CREATE TRIGGER ${name} ${when} ${condition ? `WHEN ${condition} ` : ''}BEGIN SELECT RAISE(ABORT, '${words}'); END`;

const SIGNED = (row: 'NEW' | 'OLD'): string =>
  `EXISTS (SELECT 1 FROM cycle WHERE id = ${row}.cycleId AND signedAt IS NOT NULL)`;

export const childTriggers = (table: string): string[] => {
  const words = `a signed-off cycle is never edited: write a correction`;
  return [
    refuse(`${table}NoInsertOnceSigned`, `BEFORE INSERT ON ${table}`, SIGNED('NEW'), words),
    refuse(`${table}NoUpdateOnceSigned`, `BEFORE UPDATE ON ${table}`, SIGNED('OLD'), words),
    refuse(`${table}NoDeleteOnceSigned`, `BEFORE DELETE ON ${table}`, SIGNED('OLD'), words),
  ];
};

const TRIGGERS = [
  refuse('journalNoUpdate', 'BEFORE UPDATE ON journal', '', 'the journal is append-only'),
  refuse('journalNoDelete', 'BEFORE DELETE ON journal', '', 'the journal is append-only'),
  refuse(
    'journalNoReplace',
    'BEFORE INSERT ON journal',
    'EXISTS (SELECT 1 FROM journal WHERE sequence = NEW.sequence)',
    'the journal is append-only',
  ),
  refuse(
    'cycleNoUpdateOnceSigned',
    'BEFORE UPDATE ON cycle',
    'OLD.signedAt IS NOT NULL',
    'a signed-off cycle is never edited: write a correction',
  ),
  refuse(
    'cycleNoDelete',
    'BEFORE DELETE ON cycle',
    'OLD.signedAt IS NOT NULL',
    'a signed-off cycle is never deleted',
  ),
  refuse(
    'cycleNoReplace',
    'BEFORE INSERT ON cycle',
    'EXISTS (SELECT 1 FROM cycle WHERE id = NEW.id)',
    'this cycle exists already',
  ),
  refuse(
    'cycleNoneForRetired',
    'BEFORE INSERT ON cycle',
    "EXISTS (SELECT 1 FROM blade WHERE id = NEW.bladeId AND state = 'retired')",
    'a retired blade is never opened again',
  ),
  refuse(
    'fitNoneForRetired',
    'BEFORE INSERT ON fit',
    "EXISTS (SELECT 1 FROM blade WHERE id = NEW.bladeId AND state IN ('retired', 'hold'))",
    'a retired or held blade is never fitted',
  ),
  refuse(
    'commandNoReplace',
    'BEFORE INSERT ON command',
    'EXISTS (SELECT 1 FROM command WHERE id = NEW.id)',
    'this command was accepted already',
  ),
  refuse('commandNoUpdate', 'BEFORE UPDATE ON command', '', 'accepted commands are never edited'),
  refuse('commandNoDelete', 'BEFORE DELETE ON command', '', 'accepted commands are never deleted'),
  refuse(
    'specRevisionNoUpdate',
    'BEFORE UPDATE ON specRevision',
    '',
    'a spec revision is never edited',
  ),
  ...['reading', 'damage', 'pass', 'balanceRound'].flatMap(childTriggers),
];

export const firstShapes = { name: '0001-first-shapes', up: [...TABLES, ...INDEXES, ...TRIGGERS] };
