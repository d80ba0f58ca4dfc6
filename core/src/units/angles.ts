const RADIAN_DEG = 180 / Math.PI;

/**
 * Degrees to radians.
 * @example toRad(180) // 3.14159
 */
export const toRad = (angleDeg: number): number => angleDeg / RADIAN_DEG;

/**
 * Radians to degrees.
 * @example toDeg(Math.PI) // 180
 */
export const toDeg = (angleRad: number): number => angleRad * RADIAN_DEG;

/**
 * Angular speed in rad/s from revolutions a minute, ω = 2πn/60.
 * @example omegaRadPerS(60) // 6.28319
 */
export const omegaRadPerS = (speedRpm: number): number => (2 * Math.PI * speedRpm) / 60;
