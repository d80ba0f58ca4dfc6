import { dropTimeS, ENDS } from '@tally-stone/core';
import { v7 as uuidv7 } from 'uuid';
import { SHAFT_DAMPING_PER_S, SHAFT_FRICTION_GMM } from '../instrument/bench.js';
import { checkBladeTruth } from '../instrument/truth.js';
import { BenchHand } from './bench-hand.js';
import { newBlade, type TrueBlade } from './blade-on-the-bench.js';
import { BALANCERS, FIELD_GRINDER, GRINDERS, PEOPLE } from './catalogue.js';
import { seededDice } from './dice.js';
import { SPECS } from './specs.js';

/** Sets the demo shop up: who works there, its machines, its specs and its blades. */
export class ShopSetUp extends BenchHand {
  protected readonly specIds: string[] = [];
  protected async addPeople(): Promise<void> {
    for (const person of PEOPLE) {
      const newPersonId = uuidv7();
      if (this.technician) this.second ||= newPersonId;
      this.technician ||= newPersonId;
      await this.send({ type: 'add-person', newPersonId, ...person });
    }
  }
  protected async addGrinders(): Promise<void> {
    for (const figures of GRINDERS) {
      const grinderId = uuidv7();
      this.grinderIds.push(grinderId);
      await this.send({ type: 'add-grinder', grinderId, abrasiveId: uuidv7(), figures });
    }
    await this.send({
      type: 'add-grinder',
      grinderId: uuidv7(),
      abrasiveId: uuidv7(),
      figures: FIELD_GRINDER,
    });
  }
  /** The balancers, the shaft calibrated with the check blade before the season. */
  protected async addBalancers(): Promise<void> {
    const grams = (text: string) => ({ text, unit: 'g' as const });
    const mm = (text: string) => ({ text, unit: 'mm' as const });
    // Chances of its own: the season's stay as they are.
    const hand = seededDice(91);
    for (const balancer of BALANCERS) {
      const balancerId = uuidv7();
      await this.send({ type: 'add-balancer', balancerId, ...balancer });
      if (balancer.device !== 'bearing-shaft') continue;
      // An old blade of the yard in good balance: long and heavy, so that its drops are slow to time.
      const [massG, lengthMm, widthMm, radiusMm] = [1600, 533, 64, 200];
      const drops = (['light', 'heavy', 'turned'] as const).flatMap((group) =>
        ENDS.map((end) => {
          const turned = group === 'turned';
          const weightG = group === 'heavy' ? 4 : 0.8;
          const on = checkBladeTruth({ massG, lengthMm, widthMm, weightG, radiusMm, end, turned });
          const time = dropTimeS(Math.abs(on.unbalanceGmm), {
            inertiaGmm2: on.inertiaGmm2,
            markDeg: 90,
            frictionGmm: SHAFT_FRICTION_GMM,
            dragPerS: SHAFT_DAMPING_PER_S,
          });
          const timesS = [1, 2, 3].map(() => Number((time + hand.normal(0, 0.05)).toFixed(2)));
          return { weight: turned ? ('light' as const) : group, end, turned, timesS };
        }),
      );
      await this.send({
        type: 'calibrate-balancer',
        calibrationId: uuidv7(),
        balancerId,
        blade: { mass: grams('1600'), length: mm('533'), width: mm('64') },
        light: grams('0.8'),
        heavy: grams('4'),
        radius: mm('200'),
        drops,
      });
    }
    // One mat is printed and measured; a printer is rarely quite true.
    await this.send({
      type: 'measure-mat',
      measureId: uuidv7(),
      matNumber: 1,
      across: mm('139.82'),
      down: mm('140.06'),
    });
  }
  protected async addSpecs(): Promise<string[]> {
    const ids = this.specIds;
    for (const figures of SPECS) {
      const specId = uuidv7();
      ids.push(specId);
      await this.send({ type: 'add-spec', specId, specRevisionId: uuidv7(), figures });
    }
    return ids;
  }
  protected async register(spec: number, count: number, specIds: string[]): Promise<TrueBlade[]> {
    const figures = SPECS[spec];
    const specId = specIds[spec];
    if (!figures || !specId) throw new Error(`The demo has no spec ${spec}.`);
    const { blades } = await this.send({ type: 'register-blades', specId, count });
    return (blades ?? []).map(({ bladeId, code }) => newBlade(bladeId, code, figures, this.dice));
  }
}
