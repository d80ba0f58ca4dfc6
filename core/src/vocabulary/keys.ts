/** The zones a pass can go to, as the shop names them. */
export const ZONES = ['square', 'full', 'outer-half', 'outer-50', 'inner', 'back'] as const;
export type ZoneKey = (typeof ZONES)[number];

/** Who speaks of the metal removed. */
export const WITNESSES = ['scale', 'caliper', 'photo', 'passes'] as const;
export type Witness = (typeof WITNESSES)[number];
