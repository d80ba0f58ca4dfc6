import { passesIn, type CycleState, type CycleView } from '@tally-stone/contract';
import { ENDS } from '@tally-stone/core';
import { bladeRow } from '../blades/queries.js';
import type { Database } from '../db/database.js';
import { toSpecRevision } from '../specs/specs.js';
import { Op } from 'sequelize';
import type { Tables } from '../db/tables.js';
import { cycleAt, historyKey, toolOf, type CycleFacts } from './facts.js';
import { correctedView, correctionsOf, takeBackView } from './corrections.js';
import { mayUndo } from './decide.js';
import { toJudgementView, toWitnessView } from './figures.js';
import { labelOf, nowAt } from './readings.js';
import { bevelAimDeg, carriedAt } from './worth.js';
import { assess, nextStepOf, signOffFrom, stepsOf } from './sign-off.js';

const withoutEmpty = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)) as T;

const MOST_EARLIER = 6;

/** Marks of the last cycles before this one. */
async function damageBefore(
  tables: Tables,
  { blade, row }: CycleFacts,
): Promise<CycleView['earlierDamage']> {
  const cycles = await tables.cycle.pick(
    ['id'],
    { bladeId: blade.id, openedAt: { [Op.lt]: row.openedAt } },
    'committed',
    { order: [['openedAt', 'DESC']], limit: MOST_EARLIER },
  );
  const damage =
    cycles.length === 0
      ? []
      : await tables.damage.all({ cycleId: cycles.map(({ id }) => id) }, 'committed');
  return damage.map(({ id, kind, end, fromTipMm, depthMm }) => ({
    damageId: id,
    kind,
    end,
    fromTipMm,
    depthMm,
  }));
}

function agreementView(state: CycleState, facts: CycleFacts): Pick<CycleView, 'agreement'> {
  const agreement = facts.removal?.agreement;
  if (!agreement) return {};
  const tool = facts.grinders.find(({ grinderId }) => grinderId === state.setUp?.grinderId);
  return { agreement: { ...agreement, tool: tool?.figures.name ?? 'This shop' } };
}

/** One cycle as the run shows it. A signed-off cycle shows the verdict frozen then. */
export async function cycleView(database: Database, cycleId: string): Promise<CycleView> {
  const { tables } = database;
  const { state, facts } = await cycleAt(tables, cycleId, 'committed');
  const assessment = assess(state, facts);
  const steps = stepsOf(state, assessment, facts);
  const { frozen } = facts.row;
  const [blade, person, earlierDamage, corrections, back, corrected] = await Promise.all([
    bladeRow(database, facts.blade.id),
    tables.person.one({ id: state.openedBy }, 'committed'),
    damageBefore(tables, facts),
    correctionsOf(tables, cycleId, 'committed', (reading) => labelOf(facts, reading)),
    takeBackView(tables, state, facts),
    correctedView(tables, state, facts),
  ]);
  const widths = Object.fromEntries(
    ENDS.map((end) => [
      end,
      facts.spec.stations.flatMap((station) => {
        const { radiusMm, key: stationKey } = station;
        const place = { quantity: 'width', end, stationKey } as const;
        const now = nowAt(state, facts, place);
        // Read once and asked for again: what it should be by now, until it is.
        const known =
          now ?? (facts.last.has(historyKey(place)) ? carriedAt(facts, place) : undefined);
        if (!known) return [];
        return [
          { radiusMm, widthMm: known.value, ...(now?.carried === false ? {} : { worked: true }) },
        ];
      }),
    ]),
  ) as CycleView['widths'];
  return {
    cycleId,
    revision: state.revision,
    blade,
    spec: toSpecRevision(facts.revision),
    openedAt: state.openedAt,
    openedBy: person?.name ?? '',
    cleaned: state.cleaned,
    ...(state.crack
      ? { crack: withoutEmpty(state.crack) as { found: boolean; where?: string } }
      : {}),
    slots: assessment.slots,
    damage: state.damage.map(withoutEmpty) as CycleView['damage'],
    photos: state.photos.map(withoutEmpty) as CycleView['photos'],
    earlierDamage,
    corrections,
    ...(back ? { takeBack: back } : {}),
    passes: [...state.passes],
    counts: toolOf(state, facts)?.figures.counts ?? 'pass',
    ...(state.setUp ? { setUp: withoutEmpty(state.setUp) as NonNullable<CycleView['setUp']> } : {}),
    fullLook: state.fullLook,
    burr: passesIn(state) > 0 && state.deburredAfter !== passesIn(state),
    bevelAimDeg: bevelAimDeg(state, facts),
    rounds: assessment.rounds,
    lightTest: withoutEmpty({ ...state.lightTest }) as CycleView['lightTest'],
    before: toJudgementView(assessment.before),
    now: toJudgementView(frozen?.judgement ?? assessment.now),
    lengthMm:
      nowAt(state, facts, { quantity: 'length' })?.value ??
      facts.last.get('length:-:-')?.value ??
      facts.spec.newLengthMm,
    widths,
    // Signed, what was foretold and found stays what it was then, whatever the tool teaches later.
    witnesses: toWitnessView(assessment.witnesses, frozen?.witnesses),
    ...(corrected ? { corrected } : {}),
    ...agreementView(state, facts),
    steps,
    nextStep: nextStepOf(steps, assessment),
    signOff: signOffFrom(assessment),
    ...(state.signedOff
      ? {
          signedOff: {
            ...(withoutEmpty(state.signedOff) as NonNullable<CycleView['signedOff']>),
            ...(mayUndo(state, facts) ? { undoable: true } : {}),
          },
        }
      : {}),
  };
}
