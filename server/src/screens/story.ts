import type { BladeView, CycleSummary } from '@tally-stone/contract';
import {
  correctedFor,
  COUNT_WORDS,
  counted,
  isSameNotch,
  said,
  strikeTold,
} from '@tally-stone/core';
import type { StandingReadingRow } from '../cycle/standing-reading.model.js';
import { rawRows } from '../db/raw-rows.js';
import type { BladeRowStored } from '../blade/blade.model.js';
import type { CorrectionRow } from '../cycle/correction.model.js';
import type { DamageRow } from '../cycle/damage.model.js';
import type { TrimmingRow } from '../blade/trimming.model.js';
import type { StrikeRow } from '../fleet/strike.model.js';
import type { Models } from '../models.js';

/** What a blade's page tells of its life besides its figures: marks, series, and what happened when. */
type Fit = BladeView['fits'][number] & {
  readonly to: string | null;
  readonly hoursH: number | null;
  readonly mowerId: string;
};

/**
 * Marks of a trimmed blade where they lie now: the hole stays, the tip is nearer. What lay on the metal that was cut off
 * is gone with it.
 */
export const afterTrimming = <Mark extends Pick<DamageRow, 'fromTipMm' | 'radiusMm'>>(
  marks: readonly Mark[],
  trimmedAt: string | null,
  lengthMm: number,
): Mark[] =>
  trimmedAt === null
    ? [...marks]
    : marks.flatMap((mark) => {
        const fromTipMm = lengthMm / 2 - mark.radiusMm;
        return fromTipMm < 0 ? [] : [{ ...mark, fromTipMm }];
      });

export function marksOf(
  damage: readonly DamageRow[],
  cycleIds: readonly string[],
): BladeView['marks'] {
  const numbered = damage
    .map((mark) => ({ ...mark, cycle: cycleIds.indexOf(mark.cycleId) + 1 }))
    .sort((a, b) => a.cycle - b.cycle);
  return numbered.map(({ id, kind, end, fromTipMm, radiusMm, depthMm, cycle }) => ({
    damageId: id,
    kind,
    end,
    fromTipMm,
    depthMm,
    cycle,
    // The tip wears, the hole does not: places are compared from the hole.
    returns: numbered.some(
      (earlier) =>
        earlier.cycle < cycle && earlier.end === end && isSameNotch(earlier.radiusMm, radiusMm),
    ),
  }));
}

/** The last reading of each cycle, after its grind where there is one. */
export function seriesOf(
  readings: readonly StandingReadingRow[],
  cycleIds: readonly string[],
): BladeView['series'] {
  const nth = new Map(cycleIds.map((id, i) => [id, i + 1]));
  const series: Record<string, { cycle: number; value: number; after: boolean }[]> = {};
  for (const { cycleId, quantity, end, phase, value, source } of readings) {
    const key = quantity === 'wing' ? `wing:${end ?? ''}` : quantity;
    if (source === 'carried' || !['wing', 'length', 'mass'].includes(quantity)) continue;
    const cycle = nth.get(cycleId) ?? 0;
    const points = (series[key] ??= []);
    const known = points.find((point) => point.cycle === cycle);
    if (!known) points.push({ cycle, value, after: phase === 'after' });
    else if (phase === 'after' || !known.after) {
      known.value = value;
      known.after = phase === 'after';
    }
  }
  return Object.fromEntries(
    Object.entries(series).map(([key, points]) => [
      key,
      points.sort((a, b) => a.cycle - b.cycle).map(({ cycle, value }) => ({ cycle, value })),
    ]),
  );
}

const FITS = `FROM fit JOIN spindle ON spindle.id = fit.spindleId JOIN deck ON deck.id = spindle.deckId`;

/** Where a blade was and is fitted, as it was put on. */
export const fitsOf = ({ fit }: Models, bladeId: string): Promise<Fit[]> =>
  rawRows<Fit>(
    fit,
    `SELECT mower.name AS mowerName, mower.id AS mowerId, spindle.position AS position, fit."from" AS "from", fit."to" AS "to",
       fit.toHoursH - fit.fromHoursH AS hoursH
     ${FITS} JOIN mower ON mower.id = deck.mowerId WHERE fit.bladeId = :bladeId ORDER BY fit."from"`,
    { bladeId },
  );

/** What the mowers a blade is on or was on struck, ever, oldest first. */
export const strikesOf = (
  { strike }: Models,
  bladeId: string,
): Promise<Pick<StrikeRow, 'mowerId' | 'at' | 'what' | 'hard'>[]> =>
  rawRows(
    strike,
    `SELECT mowerId, at, what, hard FROM strike
     WHERE mowerId IN (SELECT deck.mowerId ${FITS} WHERE fit.bladeId = :bladeId) ORDER BY at`,
    { bladeId },
  );

/** Those of them that happened while it was on. */
export const whileOn = <Struck extends Pick<StrikeRow, 'mowerId' | 'at'>>(
  strikes: readonly Struck[],
  fits: readonly Fit[],
): Struck[] =>
  strikes.filter(({ mowerId, at }) =>
    fits.some(
      (fit) => fit.mowerId === mowerId && fit.from <= at && (fit.to === null || at <= fit.to),
    ),
  );

type Entry = BladeView['timeline'][number];

function cycleEntry(cycle: CycleSummary): Entry {
  const at = cycle.signedAt ?? cycle.openedAt;
  const took = cycle.removedG ? $localize`, ${said(cycle.removedG.value, 'g')} off` : '';
  const made = cycle.tools.map(({ name, counts, passes }) => {
    const words = counted(passes.A + passes.B, COUNT_WORDS[counts]);
    return cycle.tools.length > 1 && name
      ? $localize`${words} on the ${name.toLowerCase()}`
      : words;
  });
  const isGround = made.length > 0;
  const ground = isGround
    ? $localize`Ground, ${made.join(', ')}${took}`
    : $localize`Looked at, not ground`;
  const by = cycle.signedBy ? ` (${cycle.signedBy})` : '';
  const { cycleId } = cycle;
  if (!cycle.outcome)
    return { at, kind: 'looked-at', words: $localize`Started at the bench`, cycleId };
  if (cycle.outcome === 'retired') {
    return {
      at,
      kind: 'retired',
      words: $localize`Retired${by}:ph0:: ${cycle.verdictWords}`,
      cycleId,
    };
  }
  if (cycle.outcome === 'hold') {
    return {
      at,
      kind: 'held',
      words: $localize`Put on hold${by}:ph0:: ${cycle.verdictWords}`,
      cycleId,
    };
  }
  return {
    at,
    kind: isGround ? 'ground' : 'looked-at',
    words: $localize`${ground}, ready${by}`,
    cycleId,
  };
}

/** Everything that happened to a blade, oldest first. */
export function timelineOf({
  stored,
  summaries,
  fits,
  strikes,
  corrections,
  trimmings,
}: {
  readonly stored: BladeRowStored;
  readonly summaries: readonly CycleSummary[];
  readonly fits: readonly Fit[];
  readonly strikes: readonly Pick<StrikeRow, 'mowerId' | 'at' | 'what' | 'hard'>[];
  readonly corrections: readonly Pick<
    CorrectionRow,
    'cycleId' | 'correctsKind' | 'reason' | 'madeAt'
  >[];
  readonly trimmings: readonly TrimmingRow[];
}): Entry[] {
  const mowerOf = (id: string): string =>
    fits.find(({ mowerId }) => mowerId === id)?.mowerName ?? $localize`Its mower`;
  const entries: Entry[] = [
    {
      at: stored.createdAt,
      kind: 'came',
      words:
        stored.knownFrom === 'used'
          ? $localize`Taken in used: what was before is not known`
          : $localize`Registered as new`,
    },
    ...summaries.map(cycleEntry),
    ...fits.flatMap(({ from, to, mowerName, position, hoursH }): Entry[] => [
      { at: from, kind: 'fitted', words: $localize`Fitted on ${mowerName}, ${position}` },
      ...(to
        ? [
            {
              at: to,
              kind: 'pulled' as const,
              words: $localize`Off ${mowerName} after ${(hoursH ?? 0).toFixed(0)} h`,
            },
          ]
        : []),
    ]),
    ...strikes.map(({ at, mowerId, what, hard }): Entry => ({
      at,
      kind: 'strike',
      words: strikeTold(mowerOf(mowerId), what, hard),
    })),
    ...trimmings.map(({ at, fromLengthMm, toLengthMm }): Entry => ({
      at,
      kind: 'trimmed',
      words: $localize`Trimmed at both ends from ${said(fromLengthMm, 'mm')} to ${said(toLengthMm, 'mm')}`,
    })),
    ...corrections.map(({ madeAt, correctsKind, reason, cycleId }): Entry => ({
      at: madeAt,
      kind: 'corrected',
      words:
        correctsKind === 'retirement'
          ? $localize`Taken back from retirement, with a second person`
          : $localize`Corrected ${correctsKind === 'crack' ? $localize`a crack that was none` : $localize`a reading`}:ph0:: ${correctedFor(reason).toLowerCase()}`,
      cycleId,
    })),
  ];
  return entries.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
}
