/** A day of the clock, in milliseconds; a shop day may be an hour longer or shorter. */
export const DAY_MS = 86_400_000;
