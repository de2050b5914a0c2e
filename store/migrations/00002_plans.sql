-- +goose Up
CREATE TABLE drafts (
  id       TEXT PRIMARY KEY,
  name     TEXT NOT NULL,
  notes    TEXT,
  begun_on TEXT
);

-- changes is JSON: each record's before and after. What a step changes need
-- not be in the lab any more, so nothing refers to it from here.
CREATE TABLE steps (
  id          TEXT PRIMARY KEY,
  draft_id    TEXT NOT NULL REFERENCES drafts (id) DEFERRABLE INITIALLY DEFERRED,
  "order"     INTEGER,
  changes     TEXT NOT NULL,
  words       TEXT,
  note        TEXT,
  price_minor INTEGER,
  done_on     TEXT
);
CREATE INDEX steps_by_draft ON steps (draft_id);

CREATE TABLE notes (
  id   TEXT PRIMARY KEY,
  day  TEXT NOT NULL,
  text TEXT NOT NULL
);

CREATE TABLE acceptances (
  id       TEXT PRIMARY KEY,
  finding  TEXT NOT NULL,
  reason   TEXT NOT NULL,
  again_on TEXT
);

-- Who gets in. Nothing here can be turned back into what was typed or sent:
-- the passphrase is an argon2id hash, sessions and tokens are SHA-256 sums of
-- random secrets. No part of the lab, so no part of the logbook either.
CREATE TABLE owner (
  one        INTEGER PRIMARY KEY CHECK (one = 1),
  passphrase TEXT NOT NULL
);

CREATE TABLE sessions (
  secret  BLOB PRIMARY KEY,
  made_at TEXT NOT NULL,
  seen_at TEXT NOT NULL,
  from_ip TEXT,
  browser TEXT
);

CREATE TABLE tokens (
  id      TEXT PRIMARY KEY,
  name    TEXT NOT NULL,
  secret  BLOB NOT NULL UNIQUE,
  may     TEXT NOT NULL CHECK (may IN ('read', 'full')),
  made_at TEXT NOT NULL,
  seen_at TEXT
);

CREATE INDEX logbook_by_time ON logbook (at);
CREATE INDEX logbook_records_by_revision ON logbook_records (revision);

-- +goose Down
DROP INDEX logbook_records_by_revision;
DROP INDEX logbook_by_time;
DROP TABLE tokens;
DROP TABLE sessions;
DROP TABLE owner;
DROP TABLE acceptances;
DROP TABLE notes;
DROP TABLE steps;
DROP TABLE drafts;
