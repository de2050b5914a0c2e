-- +goose Up

-- The version of the program that opened the file last, so that an older one can say which it is.
CREATE TABLE written_by (
  one     INTEGER PRIMARY KEY CHECK (one = 1),
  version TEXT NOT NULL
);
