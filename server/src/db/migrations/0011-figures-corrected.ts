/**
 * What a signed-off cycle's figures come to once its readings are corrected. The signed record stays as it is; each
 * correction keeps the figures worked out again, and the newest of them stand wherever later work is reckoned.
 *
 * One thing may happen to a signed cycle: a retirement is undone at the bench, which gives the whole sign-off back at
 * once. That it was signed and undone stays in the commands and the journal, which nothing edits.
 */
export const figuresCorrected = {
  name: '0011-figures-corrected',
  up: [
    'DROP TRIGGER cycleNoUpdateOnceSigned',
    `CREATE TRIGGER cycleNoUpdateOnceSigned BEFORE UPDATE ON cycle
       WHEN OLD.signedAt IS NOT NULL AND NOT (
         OLD.outcome = 'retired' AND NEW.id = OLD.id AND NEW.bladeId = OLD.bladeId
         AND NEW.specRevisionId = OLD.specRevisionId AND NEW.openedAt = OLD.openedAt
         AND NEW.openedBy = OLD.openedBy AND NEW.revision = OLD.revision + 1
         AND NEW.signedAt IS NULL AND NEW.signedBy IS NULL AND NEW.outcome IS NULL
         AND NEW.retireReason IS NULL AND NEW.frozen IS NULL
         AND NOT EXISTS (SELECT 1 FROM correction WHERE cycleId = OLD.id))
       BEGIN SELECT RAISE(ABORT, 'a signed-off cycle is never edited: write a correction'); END`,
    'ALTER TABLE correction ADD COLUMN figures TEXT CHECK (figures IS NULL OR json_valid(figures))',
    'CREATE INDEX correctionByCycle ON correction (cycleId, madeAt)',
    'CREATE INDEX correctionByWhat ON correction (correctsId, madeAt)',
    `CREATE VIEW standingReading AS
       SELECT id, cycleId, phase, quantity, "end", stationKey,
         coalesce((SELECT json_extract(correction.value, '$.value') FROM correction
                   WHERE correction.correctsId = reading.id AND correctsKind = 'reading'
                   ORDER BY madeAt DESC, correction.id DESC LIMIT 1), value) AS value,
         u, source, takenAt
       FROM reading`,
    `CREATE VIEW finishedGrind AS
       SELECT id, bladeId, signedAt, json_extract(figures, '$.removedG.value') AS removedG,
         coalesce(json_extract(figures, '$.teaches'), 1) AS teaches
       FROM (SELECT cycle.id AS id, bladeId, signedAt,
               coalesce((SELECT correction.figures FROM correction
                         WHERE correction.cycleId = cycle.id AND correction.figures IS NOT NULL
                         ORDER BY madeAt DESC, correction.id DESC LIMIT 1), frozen) AS figures
             FROM cycle WHERE signedAt IS NOT NULL)
       WHERE json_extract(figures, '$.removedG.value') > 0`,
  ],
};
