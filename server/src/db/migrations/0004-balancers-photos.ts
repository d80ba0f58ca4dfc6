/** Balancers with what their calibrations found; photos of a cycle, their files beside the database. */
export const balancersAndPhotos = {
  name: '0004-balancers-photos',
  up: [
    `CREATE TABLE balancer (
      id TEXT PRIMARY KEY, name TEXT NOT NULL,
      device TEXT NOT NULL CHECK (device IN ('bearing-shaft', 'cone-point', 'straightedge', 'nail')))`,
    `CREATE TABLE balancerCalibration (
      id TEXT PRIMARY KEY, balancerId TEXT NOT NULL REFERENCES balancer(id),
      frictionGmm REAL NOT NULL CHECK (frictionGmm >= 0), frictionU REAL NOT NULL CHECK (frictionU >= 0),
      inertiaFactor REAL NOT NULL CHECK (inertiaFactor > 0), centringMm REAL CHECK (centringMm >= 0),
      misfit REAL NOT NULL, drops TEXT NOT NULL CHECK (json_valid(drops)),
      madeBy TEXT NOT NULL REFERENCES person(id), madeAt TEXT NOT NULL)`,
    'CREATE INDEX balancerCalibrationOf ON balancerCalibration (balancerId, madeAt)',
    'ALTER TABLE balanceRound ADD COLUMN balancerId TEXT REFERENCES balancer(id)',
    'ALTER TABLE balanceRound ADD COLUMN halfTurnOf TEXT REFERENCES balanceRound(id)',
    `CREATE TABLE photo (
      id TEXT PRIMARY KEY, cycleId TEXT NOT NULL REFERENCES cycle(id), damageId TEXT,
      file TEXT NOT NULL, takenAt TEXT NOT NULL, takenBy TEXT NOT NULL REFERENCES person(id))`,
    'CREATE INDEX photoOf ON photo (cycleId)',
  ],
};
