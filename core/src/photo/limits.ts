export const MARKERS_A_ROW = 7;
export const MARKERS_A_MAT = 2 * MARKERS_A_ROW;

/** Each mat takes markers of its own. */
export const MOST_MATS = Math.floor(250 / MARKERS_A_MAT);

/**
 * What an edge photo can be like: at most half a metre of edge, a doubt that is worth something, and never surer than a
 * burr and a print leave it.
 */
export const BENCH_PHOTO_LIMITS = {
  placesMost: 1000,
  uMostMm: 2,
  placeULeastMm: 0.002,
  sharedULeastMm: 0.01,
} as const;
