/** Photo mats with the true size of their print, and the edges read from pictures on them. */
export const photoMats = {
  name: '0018-photo-mat',
  up: [
    `CREATE TABLE photoMat (
      id TEXT PRIMARY KEY, matNumber INTEGER NOT NULL, acrossMm REAL NOT NULL, downMm REAL NOT NULL,
      scaleU REAL NOT NULL, measuredAt TEXT NOT NULL, measuredBy TEXT NOT NULL REFERENCES person(id))`,
    `CREATE TABLE edgePhoto (
      id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id), "end" TEXT NOT NULL CHECK ("end" IN ('A', 'B')),
      phase TEXT NOT NULL CHECK (phase IN ('before', 'after')), edge TEXT NOT NULL, takenAt TEXT NOT NULL)`,
    'CREATE INDEX edgePhotoOf ON edgePhoto (cycleId)',
  ],
};
