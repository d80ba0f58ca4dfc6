const RADIAN_DEG = 180 / Math.PI;
/**
 * Degrees to radians.
 * @example toRad(180) // 3.14159
 */
export const toRad = (angleDeg) => angleDeg / RADIAN_DEG;
/**
 * Radians to degrees.
 * @example toDeg(Math.PI) // 180
 */
export const toDeg = (angleRad) => angleRad * RADIAN_DEG;
/**
 * Angular speed in rad/s from revolutions a minute, ω = 2πn/60.
 * @example omegaRadPerS(60) // 6.28319
 */
export const omegaRadPerS = (speedRpm) => (2 * Math.PI * speedRpm) / 60;
//# sourceMappingURL=angles.js.map