const RADIAN_DEG = 180 / Math.PI;

/** Degrees to radians. */
export const toRad = (angleDeg: number): number => angleDeg / RADIAN_DEG;

/** Radians to degrees. */
export const toDeg = (angleRad: number): number => angleRad * RADIAN_DEG;

/** Angular speed in rad/s from revolutions a minute, ω = 2πn/60. */
export const omegaRadPerS = (speedRpm: number): number => (2 * Math.PI * speedRpm) / 60;
