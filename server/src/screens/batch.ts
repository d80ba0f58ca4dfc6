import type { BatchView, BladeRow, SpecFigures, StepKey } from '@tally-stone/contract';
import { matchOfSet, orderBatch, type SetUpKey } from '@tally-stone/core';
import { assess, nextStepOf, stepsOf } from '@tally-stone/cycle';
import { Op, QueryTypes } from 'sequelize';
import { cyclesAt } from '../cycle/facts.js';
import type { Database } from '../database.js';
import type { BatchRow } from '../batch/batch.model.js';
import { membersOf } from '../fleet/geometry.js';
import { listSpecs } from '../spec/specs.js';
import { bladeRowsOf } from './blade-rows.js';

export const setUpOf = ({ bevelDeg, hand, kind }: SpecFigures): SetUpKey => ({
  bevelDeg,
  hand,
  // A wavy edge wants a rounded table.
  table: kind === 'mulching' ? 'rounded' : 'flat',
});

interface Member {
  readonly bladeId: string;
  readonly specId: string;
  readonly deckId: string | null;
  readonly cameOff: string | null;
  /** How its cycle in this batch ended, or the cycle still open. */
  readonly outcome: 'ready' | 'hold' | 'retired' | null;
}

const MEMBERS = `
  SELECT blade.id AS bladeId, blade.specId AS specId,
    (SELECT "to" FROM fit WHERE fit.bladeId = blade.id ORDER BY "from" DESC, id DESC LIMIT 1) AS cameOff,
    (SELECT spindle.deckId FROM fit JOIN spindle ON spindle.id = fit.spindleId
     WHERE fit.bladeId = blade.id ORDER BY fit."from" DESC, fit.id DESC LIMIT 1) AS deckId,
    (SELECT outcome FROM cycle WHERE cycle.bladeId = blade.id AND signedAt > :madeAt
     ORDER BY signedAt DESC LIMIT 1) AS outcome
  FROM blade WHERE blade.id IN (:bladeIds)`;

/** The next step of each blade that is taken up, by the blade; one that is not starts with cleaning. */
async function stepsOfBlades(
  database: Database,
  blades: readonly BladeRow[],
): Promise<Map<string, StepKey>> {
  const taken = await cyclesAt(
    database,
    blades.flatMap(({ cycleId }) => cycleId ?? []),
  );
  const steps = new Map(
    taken.map(({ state, facts }) => {
      const assessment = assess(state, facts);
      return [state.cycleId, nextStepOf(stepsOf(state, assessment, facts), assessment)];
    }),
  );
  return new Map(
    blades.map(({ bladeId, cycleId = '' }) => [bladeId, steps.get(cycleId) ?? 'clean']),
  );
}

type Batch = NonNullable<BatchView['batch']>;

/** Blades that came off with those of a batch, are not in it, and are ready again: signed before it was made. */
async function readyBefore(
  { models }: Database,
  members: readonly Member[],
): Promise<{ readonly id: string; readonly deckId: string; readonly code: string }[]> {
  const cameOff = [...new Set(members.flatMap(({ cameOff: at }) => at ?? []))];
  const fits = await models.fit.findAll({
    where: { to: cameOff, bladeId: { [Op.notIn]: members.map(({ bladeId }) => bladeId) } },
    include: [
      { association: 'spindle', required: true },
      {
        association: 'blade',
        where: { state: 'ready' },
        include: [{ association: 'codes', where: { to: null }, required: false }],
      },
    ],
  });
  return fits.flatMap(({ to, spindle, blade }) => {
    const deckId = spindle?.deckId ?? '';
    const together = members.some((member) => member.deckId === deckId && member.cameOff === to);
    return together && blade ? [{ id: blade.id, deckId, code: blade.codes?.[0]?.code ?? '' }] : [];
  });
}

async function setsOf(
  database: Database,
  members: readonly Member[],
  rows: ReadonlyMap<string, BladeRow>,
  specs: ReadonlyMap<string, SpecFigures>,
): Promise<Batch['sets']> {
  const decks = [...new Set(members.flatMap(({ deckId }) => deckId ?? []))];
  const before = await readyBefore(database, members);
  const blades = await database.models.blade.findAll({
    where: {
      id: [
        ...members.flatMap(({ bladeId, outcome }) => (outcome === 'ready' ? [bladeId] : [])),
        ...before.map(({ id }) => id),
      ],
    },
  });
  const measuredOf = await membersOf(database, blades, (specId) => specs.get(specId));
  return decks.map((deckId) => {
    const here = members.filter((member) => member.deckId === deckId);
    const set = [
      ...here.map(({ bladeId, outcome }) => ({ bladeId, outcome })),
      ...before.flatMap(({ id, deckId: of }) =>
        of === deckId ? [{ bladeId: id, outcome: 'ready' as const }] : [],
      ),
    ];
    const ready = set.filter(({ outcome }) => outcome === 'ready');
    const codeOf = (bladeId: string | undefined): string =>
      rows.get(bladeId ?? '')?.code ?? before.find(({ id }) => id === bladeId)?.code ?? '';
    const base = {
      name: rows.get(here[0]?.bladeId ?? '')?.mowerName ?? '',
      codes: set.map(({ bladeId }) => codeOf(bladeId)),
      ready: ready.length,
      over: [],
    };
    if (ready.length < set.length || set.length < 2) return base;
    const measured = set.flatMap(({ bladeId }) => measuredOf.get(bladeId) ?? []);
    const { spread, over, oddId } = matchOfSet(measured);
    return {
      ...base,
      spread,
      over: [...over],
      ...(oddId ? { oddCode: codeOf(oddId) } : {}),
    };
  });
}

/** The open batch in working order; nothing where there is none. */
export async function batchView(database: Database): Promise<BatchView> {
  const { models, connection } = database;
  const [batch] = await models.batch.findAll({ where: { closedAt: null }, limit: 1 });
  return batch ? { batch: await inOrder(database, batch) } : {};

  async function inOrder(of: Database, { id, madeAt, bladeIds }: BatchRow): Promise<Batch> {
    const [blades, members, revisions] = await Promise.all([
      bladeRowsOf(of, bladeIds),
      connection.sequelize.query<Member>(MEMBERS, {
        type: QueryTypes.SELECT,
        replacements: { madeAt, bladeIds },
      }),
      listSpecs(database),
    ]);
    const specs = new Map(revisions.map(({ specId, figures }) => [specId, figures]));
    const rows = new Map(blades.map((blade) => [blade.bladeId, blade]));
    const memberById = new Map(members.map((member) => [member.bladeId, member]));
    const runs = orderBatch(
      blades.flatMap(({ bladeId }) => {
        const member = memberById.get(bladeId);
        const spec = specs.get(member?.specId ?? '');
        return spec
          ? [{ id: bladeId, setUp: setUpOf(spec), setId: member?.deckId ?? undefined }]
          : [];
      }),
    );
    const steps = await stepsOfBlades(
      of,
      blades.filter(({ bladeId }) => !memberById.get(bladeId)?.outcome),
    );
    return {
      batchId: id,
      madeAt,
      changeMinutes: runs.reduce((sum, run) => sum + run.changeMinutes, 0),
      runs: runs.map(({ setUp, changeMinutes, ids }) => ({
        ...setUp,
        changeMinutes,
        blades: ids.flatMap((bladeId) => {
          const blade = rows.get(bladeId);
          const member = memberById.get(bladeId);
          const step = steps.get(bladeId);
          return blade
            ? [
                {
                  blade,
                  ...(step ? { step } : {}),
                  ...(member?.outcome ? { outcome: member.outcome } : {}),
                  ...(member?.deckId && blade.mowerName ? { setName: blade.mowerName } : {}),
                },
              ]
            : [];
        }),
      })),
      sets: await setsOf(of, members, rows, specs),
    };
  }
}
