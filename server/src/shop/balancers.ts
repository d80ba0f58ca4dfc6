import type { BalancerView, ShopCommand } from '@tally-stone/contract';
import {
  barInertiaGmm2,
  BenchError,
  calibrateShaft,
  ENTERED_RANGE,
  QUANTITIES,
  USUAL_DRAG_PER_S,
  type KnownWeightDrops,
  type ShaftCalibration,
  said,
} from '@tally-stone/core';
import type { Done, WriteContext } from '../write-context.js';
import type { Models } from '../models.js';
import { parsed, refusalFromBench, Refusal, wrongField } from '@tally-stone/cycle';

type Of<Type extends ShopCommand['type']> = Extract<ShopCommand, { type: Type }>;

export async function addBalancer(
  { balancerId, name, device }: Of<'add-balancer'>,
  { models }: WriteContext,
): Promise<Done> {
  await models.balancer.create({ id: balancerId, name, device });
  return {
    changes: [
      {
        what: 'balancer added',
        subjectKind: 'shop',
        subjectId: balancerId,
        before: null,
        after: { name, device },
      },
    ],
  };
}

/** Above this the drops do not fit their own times: a weight, an end or a time was noted wrongly. */
const MOST_MISFIT = 3;

function calibrated(
  bladeMassG: number,
  inertiaGmm2: number,
  drops: readonly KnownWeightDrops[],
): ShaftCalibration {
  try {
    return calibrateShaft({ bladeMassG, inertiaGmm2, drops, dragPerS: USUAL_DRAG_PER_S.value });
  } catch (error) {
    if (error instanceof BenchError) throw refusalFromBench(error, error.field);
    throw error;
  }
}

/** Keeps what known weights tell of a shaft balancer; drops that contradict each other are refused. */
export async function calibrateBalancer(
  command: Of<'calibrate-balancer'>,
  { models, receivedAt }: WriteContext,
): Promise<Done> {
  const { balancerId, calibrationId, blade, personId } = command;
  const balancer = await models.balancer.findByPk(balancerId);
  if (!balancer) throw new Refusal('notFound', $localize`There is no such balancer.`);
  if (balancer.device !== 'bearing-shaft') {
    throw wrongField(
      'balancerId',
      $localize`does not turn freely: drops are timed on a bearing shaft`,
    );
  }
  const bladeMassG = parsed(blade.mass, 'g', 'blade.mass.text', QUANTITIES.mass.possible);
  const lengthMm = parsed(blade.length, 'mm', 'blade.length.text', QUANTITIES.length.possible);
  const widthMm = parsed(blade.width, 'mm', 'blade.width.text', QUANTITIES.width.possible);
  const { testWeightG, testRadiusMm } = ENTERED_RANGE;
  const weights = {
    light: parsed(command.light, 'g', 'light.text', testWeightG),
    heavy: parsed(command.heavy, 'g', 'heavy.text', testWeightG),
  };
  const radiusMm = parsed(command.radius, 'mm', 'radius.text', testRadiusMm);
  if (radiusMm > lengthMm / 2) {
    throw wrongField(
      'radius.text',
      $localize`is beyond the tip, ${said(lengthMm / 2, 'mm')} from the hole centre`,
    );
  }
  const drops = command.drops.map(({ weight, end, turned, timesS }) => ({
    weightG: weights[weight],
    radiusMm,
    end,
    turned,
    timesS,
  }));
  const found = calibrated(bladeMassG, barInertiaGmm2(bladeMassG, lengthMm, widthMm), drops);
  if (found.misfit > MOST_MISFIT) {
    throw wrongField(
      'drops',
      $localize`do not fit each other: see which weight hung at which end, and time the odd one again`,
    );
  }
  const { frictionGmm, inertiaFactor, centringMm, misfit } = found;
  await models.balancerCalibration.create({
    id: calibrationId,
    balancerId,
    frictionGmm: frictionGmm.value,
    frictionU: frictionGmm.u,
    inertiaFactor: inertiaFactor.value,
    // One half turn is one look: what it shows, or its own doubt, whichever is more.
    centringMm: centringMm ? Math.max(centringMm.value, centringMm.u) : null,
    misfit,
    drops,
    madeBy: personId,
    madeAt: receivedAt,
  });
  return {
    changes: [
      {
        what: 'balancer calibrated',
        subjectKind: 'shop',
        subjectId: balancerId,
        before: null,
        after: { frictionGmm, inertiaFactor, centringMm: centringMm ?? null, misfit },
      },
    ],
  };
}

/** The shop's balancers, each with its newest calibration. */
export async function listBalancers(models: Models): Promise<BalancerView[]> {
  const rows = await models.balancer.findAll({
    include: ['calibrations'],
    order: [
      ['id', 'ASC'],
      ['calibrations', 'madeAt', 'ASC'],
    ],
  });
  return rows.map(({ id, name, device, calibrations }): BalancerView => {
    const last = calibrations?.at(-1);
    if (!last) return { balancerId: id, name, device };
    const { madeAt, frictionGmm, frictionU, inertiaFactor, centringMm, misfit } = last;
    return {
      balancerId: id,
      name,
      device,
      calibration: {
        madeAt,
        frictionGmm,
        frictionU,
        inertiaFactor,
        misfit,
        ...(centringMm === null ? {} : { centringMm }),
      },
    };
  });
}
