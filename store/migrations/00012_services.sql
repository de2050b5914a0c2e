-- +goose Up

CREATE TABLE templates (
  id              TEXT PRIMARY KEY,
  name            TEXT NOT NULL,
  vcpus           INTEGER,
  given_bytes     INTEGER,
  disk_bytes      INTEGER,
  system          TEXT,
  system_version  TEXT,
  supported_until TEXT,
  notes           TEXT,
  remarks         TEXT
);

-- What a device runs; and of VMs and containers, which are devices that run on
-- another one, what they are given.
ALTER TABLE devices ADD COLUMN runs TEXT;
ALTER TABLE devices ADD COLUMN system TEXT;
ALTER TABLE devices ADD COLUMN system_version TEXT;
ALTER TABLE devices ADD COLUMN supported_until TEXT;
ALTER TABLE devices ADD COLUMN keeps_bytes INTEGER;
ALTER TABLE devices ADD COLUMN template_id TEXT REFERENCES templates (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN guest_count INTEGER;
ALTER TABLE devices ADD COLUMN vcpus INTEGER;
ALTER TABLE devices ADD COLUMN given_bytes INTEGER;
ALTER TABLE devices ADD COLUMN uses_bytes INTEGER;
ALTER TABLE devices ADD COLUMN uses_on TEXT;
ALTER TABLE devices ADD COLUMN network_of_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN handed_through TEXT;
ALTER TABLE devices ADD COLUMN pinned INTEGER;
ALTER TABLE devices ADD COLUMN elsewhere TEXT;
ALTER TABLE devices ADD COLUMN starts INTEGER;
ALTER TABLE devices ADD COLUMN wait_s REAL;
ALTER TABLE devices ADD COLUMN starts_after_ids TEXT;
ALTER TABLE devices ADD COLUMN worth TEXT;
ALTER TABLE devices ADD COLUMN listens TEXT;

ALTER TABLE datasets ADD COLUMN guest_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED;

CREATE TABLE services (
  id           TEXT PRIMARY KEY,
  name         TEXT NOT NULL,
  in_device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  listens      TEXT,
  speaks       TEXT,
  worth        TEXT,
  state        TEXT NOT NULL,
  used_by      TEXT,
  purpose      TEXT,
  notes        TEXT,
  remarks      TEXT
);

CREATE TABLE clusters (
  id              TEXT PRIMARY KEY,
  name            TEXT NOT NULL,
  host_ids        TEXT NOT NULL,
  shared_pool_ids TEXT,
  guest_count     INTEGER,
  given_bytes     INTEGER,
  notes           TEXT,
  remarks         TEXT
);

CREATE TABLE stacks (
  id          TEXT PRIMARY KEY,
  name        TEXT NOT NULL,
  guest_ids   TEXT,
  service_ids TEXT,
  purpose     TEXT,
  notes       TEXT,
  remarks     TEXT
);
