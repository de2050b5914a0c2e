-- +goose Up

-- Addresses and subnets are written as they are everywhere: 10.20.0.12,
-- fd20:20::/64. Addresses of devices are a list of theirs, those of a link outside
-- every VLAN stand with its ends.
ALTER TABLE devices ADD COLUMN addresses TEXT;
ALTER TABLE devices ADD COLUMN routing TEXT;
ALTER TABLE cables ADD COLUMN address_a TEXT;
ALTER TABLE cables ADD COLUMN address_b TEXT;
ALTER TABLE vlans ADD COLUMN name_server_ids TEXT;

CREATE TABLE subnets (
  id               TEXT PRIMARY KEY,
  cidr             TEXT NOT NULL,
  vlan             INTEGER,
  switching_domain TEXT,
  gateway          TEXT,
  handed_out       TEXT,
  handed_out_by_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  names_end_in     TEXT,
  name_server_ids  TEXT,
  purpose          TEXT,
  notes            TEXT,
  remarks          TEXT
);

-- A name leads to an address, a device or another name.
CREATE TABLE names (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  address   TEXT,
  device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  alias_of  TEXT,
  notes     TEXT,
  remarks   TEXT
);

CREATE TABLE virtual_routers (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  vlans     TEXT,
  purpose   TEXT,
  notes     TEXT,
  remarks   TEXT
);

CREATE TABLE routes (
  id                TEXT PRIMARY KEY,
  cidr              TEXT NOT NULL,
  via               TEXT,
  virtual_router_id TEXT REFERENCES virtual_routers (id) DEFERRABLE INITIALLY DEFERRED,
  device_id         TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  notes             TEXT,
  remarks           TEXT
);

CREATE TABLE outside_lines (
  id                TEXT PRIMARY KEY,
  name              TEXT NOT NULL,
  medium            TEXT,
  down_mb           INTEGER,
  up_mb             INTEGER,
  line_address      TEXT,
  hand_over_vlan    INTEGER,
  device_id         TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  port              TEXT,
  line_order        TEXT,
  with_line_id      TEXT REFERENCES outside_lines (id) DEFERRABLE INITIALLY DEFERRED,
  line_state        TEXT,
  site              TEXT,
  price_month_minor INTEGER,
  opens             TEXT,
  why               TEXT,
  notes             TEXT,
  remarks           TEXT
);

CREATE TABLE openings (
  id        TEXT PRIMARY KEY,
  line_id   TEXT NOT NULL REFERENCES outside_lines (id) DEFERRABLE INITIALLY DEFERRED,
  protocol  TEXT NOT NULL,
  port_from INTEGER NOT NULL,
  port_to   INTEGER,
  device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  notes     TEXT,
  remarks   TEXT
);

CREATE TABLE tunnels (
  id          TEXT PRIMARY KEY,
  name        TEXT NOT NULL,
  tunnel_sort TEXT,
  device_id   TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  site        TEXT,
  joins       TEXT,
  why         TEXT,
  notes       TEXT,
  remarks     TEXT
);

CREATE TABLE remote_accesses (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  device_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  why       TEXT,
  notes     TEXT,
  remarks   TEXT
);

-- Who may reach whom. Either side is a record of the kind that it names, or
-- internet, which has no id.
CREATE TABLE rules (
  id           TEXT PRIMARY KEY,
  from_kind    TEXT NOT NULL,
  from_id      TEXT,
  to_kind      TEXT NOT NULL,
  to_id        TEXT,
  says         TEXT NOT NULL,
  what         TEXT,
  down_mb      INTEGER,
  up_mb        INTEGER,
  only_line_id TEXT REFERENCES outside_lines (id) DEFERRABLE INITIALLY DEFERRED,
  notes        TEXT,
  remarks      TEXT
);
