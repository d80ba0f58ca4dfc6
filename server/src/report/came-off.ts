/** SQL for the mower that a cycle's blade came off last: `of` is the table, or its name in the query. */
export const CAME_OFF = (of: string): string => `
  (SELECT mower.id FROM fit JOIN spindle ON spindle.id = fit.spindleId
     JOIN deck ON deck.id = spindle.deckId JOIN mower ON mower.id = deck.mowerId
   WHERE fit.bladeId = ${of}.bladeId AND fit."from" <= ${of}.openedAt
   ORDER BY fit."from" DESC LIMIT 1)`;
