import { ENDS, type End } from '../../blade/shape.js';
import { COVERAGE_K } from '../../reading/uncertainty.js';
import type { Finding } from '../finding.js';
import type { JudgedReading, JudgeInput } from '../judged.js';

function judgeBevel({ spec }: JudgeInput, end: End, angle: JudgedReading): Finding {
  const off = Math.abs(angle.value - spec.bevelDeg);
  const expandedUncertainty = COVERAGE_K * angle.u;
  return {
    id: `bevel:${end}`,
    reason: 'bevel',
    severity: off > spec.bevelToleranceDeg + expandedUncertainty ? 'grind' : 'fine',
    end,
    value: angle.value,
    limit: spec.bevelDeg,
    tolerance: spec.bevelToleranceDeg,
    unit: '°',
    margin: spec.bevelToleranceDeg - off,
    expandedUncertainty,
    source: { by: 'spec' },
    carried: angle.carried,
  };
}

function judgeLand({ rules }: JudgeInput, end: End, flat: JudgedReading): Finding {
  return {
    id: `land:${end}`,
    reason: 'land',
    severity: flat.value > rules.dullLandMm ? 'grind' : 'fine',
    end,
    value: flat.value,
    limit: rules.dullLandMm,
    unit: 'mm',
    margin: rules.dullLandMm - flat.value,
    expandedUncertainty: COVERAGE_K * flat.u,
    source: { by: 'working-edge' },
    carried: flat.carried,
  };
}

/** The cutting edge of each end: a bevel off its tolerance or a flat that is dull asks for a grind. */
export const judgeEdges = (input: JudgeInput): Finding[] =>
  ENDS.flatMap((end) => {
    const [angle, flat] = [input.read('bevel', end), input.read('land', end)];
    return [
      ...(angle ? [judgeBevel(input, end, angle)] : []),
      ...(flat ? [judgeLand(input, end, flat)] : []),
    ];
  });

/**
 * Is a finding about the edge itself: still to be ground where it says so?
 * @example isAboutEdge({ reason: 'land' }) // true
 */
export const isAboutEdge = ({ reason }: Pick<Finding, 'reason'>): boolean =>
  reason === 'land' || reason === 'bevel';
