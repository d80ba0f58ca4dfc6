/**
 * Signed-off cycles and their readings with what was corrected since, each as one view: of corrections the newest
 * counts. A cycle's revision is that of its newest command; it no longer stands a second time in its row.
 */
export const theRecordAsItStands = {
  name: '0013-the-record-as-it-stands',
  up: [
    'DROP TRIGGER cycleNoUpdateOnceSigned',
    `CREATE TRIGGER cycleNoUpdateOnceSigned BEFORE UPDATE ON cycle
       WHEN OLD.signedAt IS NOT NULL AND NOT (
         OLD.outcome = 'retired' AND NEW.id = OLD.id AND NEW.bladeId = OLD.bladeId
         AND NEW.specRevisionId = OLD.specRevisionId AND NEW.openedAt = OLD.openedAt
         AND NEW.openedBy = OLD.openedBy
         AND NEW.signedAt IS NULL AND NEW.signedBy IS NULL AND NEW.outcome IS NULL
         AND NEW.retireReason IS NULL AND NEW.frozen IS NULL
         AND NOT EXISTS (SELECT 1 FROM correction WHERE cycleId = OLD.id))
       BEGIN SELECT RAISE(ABORT, 'a signed-off cycle is never edited: write a correction'); END`,
    'ALTER TABLE cycle DROP COLUMN revision',
    'DROP VIEW standingReading',
    `CREATE VIEW standingReading AS
       SELECT id, cycleId, phase, quantity, "end", stationKey, radiusMm,
         coalesce((SELECT json_extract(correction.value, '$.value') FROM correction
                   WHERE correction.correctsId = reading.id AND correctsKind = 'reading'
                   ORDER BY madeAt DESC, correction.id DESC LIMIT 1), value) AS value,
         u, resolution, source, takenAt
       FROM reading`,
    `CREATE VIEW signedCycle AS
       SELECT id, bladeId, openedAt, signedAt, signedBy, outcome, retireReason, frozen,
         (SELECT figures FROM correction
          WHERE correction.cycleId = cycle.id AND figures IS NOT NULL
          ORDER BY madeAt DESC, correction.id DESC LIMIT 1) AS corrected,
         EXISTS (SELECT 1 FROM correction
                 WHERE correction.cycleId = cycle.id AND correctsKind = 'retirement') AS takenBack,
         EXISTS (SELECT 1 FROM pass WHERE pass.cycleId = cycle.id) AS ground
       FROM cycle WHERE signedAt IS NOT NULL`,
    'DROP VIEW finishedGrind',
    `CREATE VIEW finishedGrind AS
       SELECT id, bladeId, signedAt, json_extract(figures, '$.removedG.value') AS removedG,
         coalesce(json_extract(figures, '$.teaches'), 1) AS teaches
       FROM (SELECT id, bladeId, signedAt, coalesce(corrected, frozen) AS figures FROM signedCycle)
       WHERE json_extract(figures, '$.removedG.value') > 0`,
  ],
};
