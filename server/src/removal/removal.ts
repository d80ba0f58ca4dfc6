import type { Agreement, GrinderView, ToolRemoval } from '@tally-stone/contract';
import {
  inHand,
  learnHand,
  learnZones,
  teachesOf,
  trailingZone,
  usualGramsPer,
  usualZones,
  type CountedTool,
  type HandGrind,
  type LearnedZones,
  type PlanZone,
  type ZoneGrind,
  type ZoneKey,
} from '@tally-stone/core';
import { QueryTypes } from 'sequelize';
import type { Book } from '../database.js';

/** The agreement is told over so many grinds, and from so many on. */
const AGREEMENT_OVER = 20;
const AGREEMENT_FROM = 5;

/** Each grind foretold from those before it only, or the tool would agree with itself. */
function agreementOf(
  grinds: readonly ZoneGrind[],
  { foretold }: LearnedZones,
): Agreement | undefined {
  const differences = grinds
    .flatMap(({ removedG }, i) => {
      const predicted = foretold[i];
      return predicted ? [predicted.value - removedG] : [];
    })
    .slice(-AGREEMENT_OVER);
  if (differences.length < AGREEMENT_FROM) return undefined;
  const n = differences.length;
  return {
    grinds: n,
    biasG: differences.reduce((sum, each) => sum + each, 0) / n,
    rmsG: Math.sqrt(differences.reduce((sum, each) => sum + each * each, 0) / n),
  };
}

const MOST_GRINDS = 200;

interface Row {
  readonly cycleId: string;
  readonly zone: ZoneKey;
  readonly passes: number;
  readonly removedG: number;
  readonly grinderId: string | null;
  readonly abrasiveId: string | null;
  readonly personId: string | null;
}

/** Finished grinds that may teach, oldest first, each with its passes by zone. */
async function finishedGrinds({ models }: Book): Promise<Row[]> {
  const { sequelize } = models.cycle;
  if (!sequelize) return [];
  return sequelize.query<Row>(
    `SELECT pass.cycleId AS cycleId, pass.zone AS zone, sum(pass.count) AS passes,
       finished.removedG AS removedG, max(pass.grinderId) AS grinderId,
       max(pass.abrasiveId) AS abrasiveId, max(pass.personId) AS personId
     FROM (SELECT id, signedAt, removedG FROM finishedGrind
           WHERE teaches ORDER BY signedAt DESC LIMIT ${MOST_GRINDS}) AS finished
       JOIN pass ON pass.cycleId = finished.id
     GROUP BY pass.cycleId, pass.zone ORDER BY finished.signedAt`,
    { type: QueryTypes.SELECT },
  );
}

function asGrinds(rows: readonly Row[]): HandGrind[] {
  const byCycle = new Map<
    string,
    { -readonly [Key in keyof HandGrind]: HandGrind[Key] } & { passes: Record<string, number> }
  >();
  for (const { cycleId, zone, passes, removedG, personId, grinderId, abrasiveId } of rows) {
    const grind = byCycle.get(cycleId) ?? {
      passes: {},
      removedG,
      by: personId ?? undefined,
      // Every grinder's belts and wheels are its own.
      abrasive: `${grinderId ?? ''} ${abrasiveId ?? ''}`,
    };
    grind.passes[zone] = passes;
    byCycle.set(cycleId, grind);
  }
  return [...byCycle.values()];
}

const zonesOf = (edgeLengthMm: number, fullG: number): PlanZone[] => [
  ...usualZones(edgeLengthMm, fullG),
  trailingZone(edgeLengthMm, fullG),
];

/** Where nobody has said on what: as on a machine, in passes. */
const UNSAID: CountedTool = { kind: 'belt', counts: 'pass' };

/**
 * Grams of what is counted on this grinder with this abrasive: what the shop has learned on tools of its kind,
 * counted in the same way, is where it starts, its own grinds carry it on, and where `by` has shown a hand of
 * their own on it, that counts too. Without a grinder (nobody has said which) it is the shop's.
 */
export async function toolRemoval(
  book: Book,
  grinders: readonly Pick<GrinderView, 'grinderId' | 'figures'>[],
  edgeLengthMm: number,
  tool?: Tool,
  by?: string,
): Promise<ToolRemoval> {
  const figures =
    grinders.find(({ grinderId }) => grinderId === tool?.grinderId)?.figures ?? UNSAID;
  const alike = grinders
    .filter((each) => teachesOf(each.figures, figures))
    .map(({ grinderId }) => grinderId);
  const question = ['removal', edgeLengthMm, tool?.grinderId, tool?.abrasiveId, by, ...alike];
  return book.signed.of(JSON.stringify(question), async () => {
    const rows = await book.signed.of('finished grinds', () => finishedGrinds(book));
    const teaching = rows.filter(({ grinderId }) =>
      grinderId === null ? teachesOf(UNSAID, figures) : alike.includes(grinderId),
    );
    return learnRemoval(teaching, edgeLengthMm, figures, tool, by);
  });
}

interface Tool {
  readonly grinderId: string;
  readonly abrasiveId: string;
}

function learnRemoval(
  rows: readonly Row[],
  edgeLengthMm: number,
  counted: CountedTool,
  tool: Tool | undefined,
  by: string | undefined,
): ToolRemoval {
  const usual = usualGramsPer(counted);
  // All belts and wheels this grinder has had: what it does with a new one is what it did with the last when new.
  const own = (row: Row): boolean => row.grinderId === tool?.grinderId;
  const shop = learnZones(
    asGrinds(tool ? rows.filter((row) => !own(row)) : rows),
    zonesOf(edgeLengthMm, usual),
  );
  const start = shop.perZone['full']?.value ?? usual;
  const ownGrinds = asGrinds(tool ? rows.filter(own) : rows);
  const priors = zonesOf(edgeLengthMm, start);
  const now = tool && `${tool.grinderId} ${tool.abrasiveId}`;
  const anyHand = tool ? learnZones(ownGrinds, priors, now) : shop;
  const hand = tool && by ? learnHand(by, ownGrinds, priors) : undefined;
  const learned = hand ? inHand(anyHand, hand) : anyHand;
  const gramsOf = (key: ZoneKey): number | undefined => learned.perZone[key]?.value;
  const fullG = gramsOf('full') ?? start;
  return {
    learned,
    zones: usualZones(edgeLengthMm, fullG, gramsOf),
    trailing: trailingZone(edgeLengthMm, fullG, gramsOf('back')),
    agreement: agreementOf(ownGrinds, anyHand),
    hand,
  };
}
