import type { ShopCommand } from '@tally-stone/contract';
import {
  ENDS,
  HALVES_ALIKE_MM,
  isTrimmedWhile,
  parseQuantity,
  said,
  TRIMMED_WITHIN_MM,
  trimmedTo,
  typedResolution,
  typedUncertainty,
  unlikeHalvesGmm,
} from '@tally-stone/core';
import { at, parsed, Refusal, wrongField } from '@tally-stone/cycle';
import { Op } from 'sequelize';
import { currentRevision } from '../spec/specs.js';
import { trimmedSpec } from '../spec/trimmed.js';
import type { Change, Done, WriteContext } from '../write-context.js';
import { bladeOf } from './look-up.js';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

/** Both halves as measured, mm; refused where they differ, or where the blade is not of the length it was trimmed to. */
function measuredHalves(
  { halves, toLengthMm }: Of<'trim-blade'>,
  spec: Parameters<typeof unlikeHalvesGmm>[0],
): Record<'A' | 'B', number> {
  const [A, B] = ENDS.map((end) =>
    parsed(halves[end], 'mm', `halves.${end}.text`, [
      toLengthMm / 2 - TRIMMED_WITHIN_MM * 20,
      toLengthMm / 2 + TRIMMED_WITHIN_MM * 20,
    ]),
  ) as [number, number];
  if (Math.abs(A - B) > HALVES_ALIKE_MM) {
    const [longer, other] = A > B ? (['A', 'B'] as const) : (['B', 'A'] as const);
    const unbalance = said(unlikeHalvesGmm(spec, A, B), 'g·mm', 0);
    throw wrongField(
      `halves.${longer}.text`,
      $localize`is ${said(Math.abs(A - B), 'mm')} more than end ${other}, ${unbalance} out of balance: take the difference off end ${longer} and measure again`,
    );
  }
  const off = A + B - toLengthMm;
  if (Math.abs(off) > TRIMMED_WITHIN_MM)
    throw wrongField(
      'toLengthMm',
      $localize`is ${said(Math.abs(off), 'mm')} ${off > 0 ? $localize`less` : $localize`more`} than the two halves make: ${said(A + B, 'mm')}`,
    );
  return { A, B };
}

/**
 * A blade trimmed at both ends, as its maker allows. It is of a spec of the new length from now on, nothing read of its
 * length, width or mass before counts, and it waits for the bench, where it is measured and balanced.
 */
export async function trimBlade(command: Of<'trim-blade'>, context: WriteContext): Promise<Done> {
  const { models } = context;
  const { bladeId, halves, toLengthMm, occurredAt, personId } = command;
  const blade = await bladeOf(models, bladeId);
  if (!isTrimmedWhile(blade.state))
    throw new Refusal(
      blade.state === 'retired' ? 'retired' : 'refused',
      blade.state === 'retired'
        ? $localize`This blade is retired: trimming does not bring it back.`
        : $localize`Trim a blade that is off its mower and not at the bench.`,
    );
  const now = await currentRevision(context, blade.specId);
  const { trimming, trimmedFrom } = now.figures;
  if (!trimming)
    throw new Refusal(
      'refused',
      $localize`Its spec does not say that the maker lets it be trimmed: it is not trimmed.`,
    );
  at('toLengthMm', () => trimmedTo(now.figures, toLengthMm));
  const halvesMm = measuredHalves(command, now.figures);
  const whole = trimmedFrom ? await currentRevision(context, trimmedFrom) : now;
  const { specId, changes } = await trimmedSpec(whole, toLengthMm, command, context);
  const { unit } = parseQuantity(halves.A.text, halves.A.unit, 'halves.A.text');
  const resolution = typedResolution(halves.A.text, unit, 'mm');
  const { state, place, waitingSince, lastLengthMm, trimmedAt } = blade;
  await models.trimming.create({
    id: command.trimId,
    bladeId,
    fromSpecId: blade.specId,
    toSpecId: specId,
    fromLengthMm: now.figures.newLengthMm,
    toLengthMm,
    halfAMm: halvesMm.A,
    halfBMm: halvesMm.B,
    u: typedUncertainty('length', resolution),
    resolution,
    bladeBefore: { specId: blade.specId, state, place, waitingSince, lastLengthMm, trimmedAt },
    at: occurredAt,
    personId,
    takenBackAt: null,
  });
  const after = {
    specId,
    state: 'waiting',
    waitingSince: waitingSince ?? occurredAt,
    lastLengthMm: halvesMm.A + halvesMm.B,
    trimmedAt: occurredAt,
  } as const;
  await models.blade.update(after, { where: { id: bladeId } });
  const trimmed: Change = {
    what: 'blade trimmed',
    subjectKind: 'blade',
    subjectId: bladeId,
    before: { specId: blade.specId, state, lastLengthMm },
    after: { ...after, halvesMm },
  };
  return { changes: [trimmed, ...changes] };
}

/** Puts a blade back as it was before a trimming that was recorded by mistake. */
export async function takeBackTrim(
  { trimId, occurredAt }: Of<'take-back-trim'>,
  { models }: WriteContext,
): Promise<Done> {
  const row = await models.trimming.scope('standing').findByPk(trimId);
  if (!row)
    throw new Refusal(
      'notFound',
      $localize`There is no such trimming, or it is taken back already.`,
    );
  const blade = await bladeOf(models, row.bladeId);
  const since = { bladeId: row.bladeId, openedAt: { [Op.gte]: row.at } };
  if (blade.specId !== row.toSpecId || (await models.cycle.count({ where: since })) > 0)
    throw new Refusal(
      'refused',
      $localize`This blade was started since: it was measured at its new length.`,
    );
  await models.trimming.update({ takenBackAt: occurredAt }, { where: { id: trimId } });
  await models.blade.update(row.bladeBefore, { where: { id: row.bladeId } });
  return {
    changes: [
      {
        what: 'trimming taken back',
        subjectKind: 'blade',
        subjectId: row.bladeId,
        before: { specId: row.toSpecId, state: blade.state, lastLengthMm: blade.lastLengthMm },
        after: row.bladeBefore,
      },
    ],
  };
}
