import {
  innerZone,
  learnZones,
  predictRemoval,
  squareZone,
  trailingZone,
  usualZones,
  type HandGrind,
  type LearnedZones,
  type Measured,
  type PlanZone,
  type ZoneKey,
} from '@tally-stone/core';
import { toolKey } from '@tally-stone/cycle';
import type { Book } from '../database.js';
import { groupedBy } from '../db/grouped.js';
import { exactNumber, rowsInJson } from '../db/in-json.js';

const MOST_GRINDS = 200;

interface Row {
  readonly signedAt: string;
  readonly cycleId: string;
  readonly zone: ZoneKey;
  readonly passes: number;
  readonly removedG: number;
  readonly grinderId: string | null;
  readonly abrasiveId: string | null;
  readonly personId: string | null;
}

/** One tool's part of a finished grind. */
export interface Part extends HandGrind {
  readonly grinderId: string | undefined;
  readonly abrasiveId: string | undefined;
}

/** A finished grind, part by part where it was made on several tools. */
export interface Grind {
  readonly removedG: number;
  readonly parts: readonly Part[];
  /** What the scale says each tool took, by its key: where the blade was weighed between them. */
  readonly byTool: Readonly<Record<string, Measured>>;
}

/** Finished grinds that may teach, oldest first. */
export async function finishedGrinds({ models }: Book): Promise<Grind[]> {
  const rows = await rowsInJson<Row>(
    models.pass,
    {
      signedAt: 'signedAt',
      cycleId: 'cycleId',
      zone: 'zone',
      passes: 'passes',
      removedG: exactNumber('removedG'),
      grinderId: 'grinderId',
      abrasiveId: 'abrasiveId',
      personId: 'personId',
    },
    `FROM (SELECT finished.signedAt, pass.cycleId, pass.zone, sum(pass.count) AS passes, finished.removedG,
         pass.grinderId, pass.abrasiveId, max(pass.personId) AS personId
       FROM (SELECT id, signedAt, removedG FROM finishedGrind
             WHERE teaches ORDER BY signedAt DESC LIMIT ${MOST_GRINDS}) AS finished
         JOIN pass ON pass.cycleId = finished.id
       GROUP BY pass.cycleId, pass.grinderId, pass.abrasiveId, pass.zone)`,
  );
  rows.sort((a, b) => Number(a.signedAt > b.signedAt) - Number(a.signedAt < b.signedAt));
  const byCycle = groupedBy(rows, ({ cycleId }) => cycleId);
  const partsOf = new Map([...byCycle].map(([id, own]) => [id, [...groupedBy(own, toolKey)]]));
  const onSeveral = [...partsOf].filter(([, parts]) => parts.length > 1).map(([id]) => id);
  const signed =
    onSeveral.length === 0
      ? []
      : await models.signedCycle.findAll({
          attributes: ['id', 'frozen', 'corrected'],
          where: { id: onSeveral },
        });
  const weighed = new Map(
    signed.map(({ id, frozen, corrected }) => [id, (corrected ?? frozen)?.removedByTool]),
  );
  return [...partsOf].map(([id, parts]) => ({
    removedG: byCycle.get(id)?.[0]?.removedG ?? 0,
    byTool: weighed.get(id) ?? {},
    parts: parts.map(([, own]) => partOf(own)),
  }));
}

function partOf(rows: readonly Row[]): Part {
  const [{ removedG, personId, grinderId, abrasiveId }] = rows as [Row];
  return {
    passes: Object.fromEntries(rows.map(({ zone, passes }) => [zone, passes])),
    removedG,
    by: personId ?? undefined,
    grinderId: grinderId ?? undefined,
    abrasiveId: abrasiveId ?? undefined,
    // Every grinder's belts and wheels are its own.
    abrasive: `${grinderId ?? ''} ${abrasiveId ?? ''}`,
  };
}

/** A part whose grams are less sure than this, relative, teaches nothing. Common practice, no source. */
const TOO_UNSURE = 0.5;

/**
 * Each tool's own part of every grind, oldest first: all of it where there was one tool, what the scale says where the
 * blade was weighed between them, else what is left when the others' part is taken off by what they take by themselves.
 */
export function partsOf(grinds: readonly Grind[], usualOf: (part: Part) => number): Part[] {
  const sure = ({ removedG, parts, byTool }: Grind, part: Part): Part[] => {
    if (parts.length === 1) return [{ ...part, removedG }];
    const own = byTool[toolKey(part)];
    return own ? [{ ...part, removedG: own.value, uG: own.u }] : [];
  };
  const known = new Map<string, LearnedZones>();
  const takes = (part: Part): Measured => {
    const key = toolKey(part);
    const own = grinds.flatMap((grind) =>
      grind.parts.filter((each) => toolKey(each) === key).flatMap((each) => sure(grind, each)),
    );
    const learned = known.get(key) ?? learnZones(own, everyZone(LONGEST_EDGE_MM, usualOf(part)));
    known.set(key, learned);
    return predictRemoval(learned, part.passes);
  };
  return grinds.flatMap((grind) =>
    grind.parts.flatMap((part) => {
      const own = sure(grind, part);
      if (own.length > 0) return own;
      const others = grind.parts.filter((each) => each !== part).map(takes);
      const removedG = grind.removedG - others.reduce((sum, { value }) => sum + value, 0);
      const uG = Math.hypot(...others.map(({ u }) => u));
      return uG <= TOO_UNSURE * removedG ? [{ ...part, removedG, uG }] : [];
    }),
  );
}

/** An edge of which every zone there is has its own length, mm. */
const LONGEST_EDGE_MM = 150;

/** Every zone there is on an edge, by the usual share of what the whole of it takes. */
export const everyZone = (edgeLengthMm: number, fullG: number): PlanZone[] => [
  ...usualZones(edgeLengthMm, fullG),
  trailingZone(edgeLengthMm, fullG),
  innerZone(edgeLengthMm, fullG),
  squareZone(edgeLengthMm, fullG),
];
