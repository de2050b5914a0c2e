-- +goose Up
-- NULL is a fact that is not known. Lengths are millimetres, weights kilograms.
CREATE TABLE lab (
  id             TEXT PRIMARY KEY CHECK (id = 'lab'),
  name           TEXT,
  currency       TEXT,
  mains_v        REAL,
  unit_numbering TEXT NOT NULL
);
INSERT INTO lab (id, unit_numbering) VALUES ('lab', 'bottom');

CREATE TABLE places (
  id       TEXT PRIMARY KEY,
  name     TEXT NOT NULL,
  place_id TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  notes    TEXT
);

CREATE TABLE racks (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL,
  place_id   TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  height_u   INTEGER NOT NULL,
  form       TEXT,
  face_mm    REAL,
  opening_mm REAL,
  depth_mm   REAL,
  holds_kg   REAL,
  stance     TEXT,
  notes      TEXT
);

-- at_unit counts from the rack's foot whatever the numbering on the rail.
CREATE TABLE devices (
  id           TEXT PRIMARY KEY,
  name         TEXT,
  device_kind  TEXT NOT NULL,
  state        TEXT NOT NULL,
  purpose      TEXT,
  notes        TEXT,
  height_mm    REAL,
  takes_u      INTEGER,
  width_mm     REAL,
  depth_mm     REAL,
  weight_kg    REAL,
  at_where     TEXT,
  at_rack_id   TEXT REFERENCES racks (id) DEFERRABLE INITIALLY DEFERRED,
  at_unit      INTEGER,
  at_face      TEXT,
  at_share     TEXT,
  at_device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  at_place_id  TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  at_order     INTEGER
);

-- What is held is looked for when its holder goes.
CREATE INDEX places_by_place ON places (place_id);
CREATE INDEX racks_by_place ON racks (place_id);
CREATE INDEX devices_by_rack ON devices (at_rack_id);
CREATE INDEX devices_by_device ON devices (at_device_id);
CREATE INDEX devices_by_place ON devices (at_place_id);

-- Every change that was made: each record's before and after. What undoes or
-- redoes an older entry is an entry itself.
CREATE TABLE logbook (
  revision INTEGER PRIMARY KEY,
  at       TEXT NOT NULL,
  label    TEXT NOT NULL,
  changes  TEXT NOT NULL,
  undoes   INTEGER REFERENCES logbook (revision),
  redoes   INTEGER REFERENCES logbook (revision)
);

-- Which records an entry touched.
CREATE TABLE logbook_records (
  revision INTEGER NOT NULL REFERENCES logbook (revision),
  kind     TEXT NOT NULL,
  id       TEXT NOT NULL,
  PRIMARY KEY (kind, id, revision)
) WITHOUT ROWID;

-- +goose Down
DROP TABLE logbook_records;
DROP TABLE logbook;
DROP TABLE devices;
DROP TABLE racks;
DROP TABLE places;
DROP TABLE lab;
