-- +goose Up

CREATE TABLE pools (
  id               TEXT PRIMARY KEY,
  name             TEXT NOT NULL,
  device_id        TEXT NOT NULL REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  with_device_ids  TEXT,
  sets             TEXT,
  spares           TEXT,
  cache            TEXT,
  log              TEXT,
  boot             TEXT,
  for_boot         INTEGER,
  file_system      TEXT,
  keeps_back_bytes INTEGER,
  used_bytes       INTEGER,
  used_on          TEXT,
  grows_bytes      INTEGER,
  purpose          TEXT,
  notes            TEXT,
  remarks          TEXT
);

CREATE TABLE datasets (
  id            TEXT PRIMARY KEY,
  name          TEXT NOT NULL,
  on_pool_id    TEXT REFERENCES pools (id) DEFERRABLE INITIALLY DEFERRED,
  on_device_id  TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  on_part_id    TEXT REFERENCES parts (id) DEFERRABLE INITIALLY DEFERRED,
  on_place_id   TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  size_bytes    INTEGER,
  size_on       TEXT,
  grows_bytes   INTEGER,
  worth         TEXT,
  films_cameras INTEGER,
  films_mbit    REAL,
  films_hours   REAL,
  films_days    REAL,
  purpose       TEXT,
  notes         TEXT,
  remarks       TEXT
);

CREATE TABLE shares (
  id            TEXT PRIMARY KEY,
  name          TEXT NOT NULL,
  dataset_id    TEXT NOT NULL REFERENCES datasets (id) DEFERRABLE INITIALLY DEFERRED,
  protocol      TEXT,
  to_device_ids TEXT,
  mounted_by    TEXT,
  notes         TEXT,
  remarks       TEXT
);

CREATE TABLE data_copies (
  id             TEXT PRIMARY KEY,
  dataset_id     TEXT NOT NULL REFERENCES datasets (id) DEFERRABLE INITIALLY DEFERRED,
  from_pool_id   TEXT REFERENCES pools (id) DEFERRABLE INITIALLY DEFERRED,
  from_device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  from_part_id   TEXT REFERENCES parts (id) DEFERRABLE INITIALLY DEFERRED,
  from_place_id  TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  to_pool_id     TEXT REFERENCES pools (id) DEFERRABLE INITIALLY DEFERRED,
  to_device_id   TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  to_part_id     TEXT REFERENCES parts (id) DEFERRABLE INITIALLY DEFERRED,
  to_place_id    TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  every_h        REAL,
  kept           INTEGER,
  last           TEXT,
  restored       TEXT,
  encryption     TEXT,
  key_at         TEXT,
  by_hand        INTEGER,
  outside        INTEGER,
  place_id       TEXT REFERENCES places (id) DEFERRABLE INITIALLY DEFERRED,
  tunnel_id      TEXT REFERENCES tunnels (id) DEFERRABLE INITIALLY DEFERRED,
  notes          TEXT,
  remarks        TEXT
);

ALTER TABLE places ADD COLUMN outside INTEGER;

-- What a drive reads or writes for hours.
ALTER TABLE parts ADD COLUMN rate_mb REAL;
