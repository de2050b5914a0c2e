-- +goose Up

CREATE TABLE circuits (
  id                  TEXT PRIMARY KEY,
  name                TEXT NOT NULL,
  amps                REAL,
  volts               REAL,
  poles               INTEGER,
  continuous_fraction REAL,
  place_id            TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  notes               TEXT,
  remarks             TEXT
);

-- What feeders are made for and lose, of a make and model.
ALTER TABLE spec_sheets ADD COLUMN rated_va REAL;
ALTER TABLE spec_sheets ADD COLUMN rated_w REAL;
ALTER TABLE spec_sheets ADD COLUMN rated_a REAL;
ALTER TABLE spec_sheets ADD COLUMN takes_v REAL;
ALTER TABLE spec_sheets ADD COLUMN gives_v REAL;
ALTER TABLE spec_sheets ADD COLUMN efficiency REAL;
ALTER TABLE spec_sheets ADD COLUMN power_factor REAL;
ALTER TABLE spec_sheets ADD COLUMN boot_w REAL;
ALTER TABLE devices ADD COLUMN rated_va REAL;
ALTER TABLE devices ADD COLUMN rated_w REAL;
ALTER TABLE devices ADD COLUMN rated_a REAL;
ALTER TABLE devices ADD COLUMN takes_v REAL;
ALTER TABLE devices ADD COLUMN gives_v REAL;
ALTER TABLE devices ADD COLUMN efficiency REAL;
ALTER TABLE devices ADD COLUMN power_factor REAL;
ALTER TABLE devices ADD COLUMN boot_w REAL;

-- How a device is fed, and what it drew.
ALTER TABLE devices ADD COLUMN circuit_id TEXT REFERENCES circuits (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN starts_one_by_one INTEGER;
ALTER TABLE devices ADD COLUMN bypass INTEGER;
ALTER TABLE devices ADD COLUMN measured_w REAL;
ALTER TABLE devices ADD COLUMN "measured_on" TEXT;
ALTER TABLE devices ADD COLUMN measured_by TEXT;
ALTER TABLE devices ADD COLUMN measured_behind_w REAL;
ALTER TABLE devices ADD COLUMN "measured_behind_on" TEXT;
ALTER TABLE devices ADD COLUMN measured_behind_by TEXT;
ALTER TABLE devices ADD COLUMN run_times TEXT;

ALTER TABLE lab ADD COLUMN continuous_fraction REAL;
