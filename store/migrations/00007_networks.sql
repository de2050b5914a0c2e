-- +goose Up

-- VLANs: a number means one of them in its switching domain, and in the one that
-- goes without saying where it names none.
CREATE TABLE vlans (
  id               TEXT PRIMARY KEY,
  number           INTEGER NOT NULL,
  name             TEXT,
  switching_domain TEXT,
  colour           TEXT,
  purpose          TEXT,
  notes            TEXT,
  remarks          TEXT
);

-- What access points send. Those that send it are a list of devices' ids.
CREATE TABLE wireless_networks (
  id               TEXT PRIMARY KEY,
  name             TEXT NOT NULL,
  vlan             INTEGER,
  access_point_ids TEXT,
  purpose          TEXT,
  down_mb          INTEGER,
  up_mb            INTEGER,
  notes            TEXT,
  remarks          TEXT
);

-- What ports carry is kept with what else sets them apart (port_marks); these
-- hold for the ports of which nothing is said.
ALTER TABLE devices ADD COLUMN switching_domain TEXT;
ALTER TABLE devices ADD COLUMN untagged TEXT;
ALTER TABLE devices ADD COLUMN tagged TEXT;
ALTER TABLE devices ADD COLUMN bridge_priority INTEGER;
ALTER TABLE devices ADD COLUMN mac TEXT;
ALTER TABLE devices ADD COLUMN aggregates TEXT;
ALTER TABLE devices ADD COLUMN wireless_id TEXT REFERENCES wireless_networks (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN management TEXT;
ALTER TABLE spec_sheets ADD COLUMN management TEXT;
ALTER TABLE cables ADD COLUMN untagged TEXT;
ALTER TABLE cables ADD COLUMN tagged TEXT;
