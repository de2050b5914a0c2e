-- +goose Up

-- What needs what, as a person wrote it down. Both sides name records of several kinds.
CREATE TABLE needs (
  id      TEXT PRIMARY KEY,
  of_kind TEXT NOT NULL,
  of_id   TEXT NOT NULL,
  any_of  TEXT NOT NULL,
  wants   INTEGER,
  notes   TEXT,
  remarks TEXT
);
