-- +goose Up

-- Ports are not rows: a spec's groups define them. What sets single ones apart
-- is kept with their device.
ALTER TABLE devices ADD COLUMN port_marks TEXT;
ALTER TABLE lab ADD COLUMN legend TEXT;
ALTER TABLE lab ADD COLUMN slack_mm REAL;
ALTER TABLE lab ADD COLUMN label_pattern TEXT;
ALTER TABLE parts ADD COLUMN takes TEXT;
ALTER TABLE parts ADD COLUMN fibre TEXT;

-- A run is a way through the building that cables lie in.
CREATE TABLE runs (
  id            TEXT PRIMARY KEY,
  name          TEXT NOT NULL,
  from_place_id TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  to_place_id   TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  length_m      REAL,
  inside_mm     REAL,
  notes         TEXT
);

-- A cable has two ends, each in a port of a device or open.
CREATE TABLE cables (
  id          TEXT PRIMARY KEY,
  label       TEXT,
  cable_kind  TEXT,
  colour      TEXT,
  length_m    REAL,
  state       TEXT NOT NULL,
  a_device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  a_port      TEXT,
  a_rear      INTEGER,
  b_device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  b_port      TEXT,
  b_rear      INTEGER,
  way         TEXT,
  run_id      TEXT REFERENCES runs (id) DEFERRABLE INITIALLY DEFERRED,
  speed_mb    INTEGER,
  notes       TEXT
);
CREATE INDEX cables_by_a ON cables (a_device_id);
CREATE INDEX cables_by_b ON cables (b_device_id);
CREATE INDEX cables_by_run ON cables (run_id);
