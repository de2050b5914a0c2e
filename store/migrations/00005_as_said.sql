-- +goose Up
-- Unusual phrases and kinds of device, kept as they were said.
ALTER TABLE places ADD COLUMN remarks TEXT;
ALTER TABLE racks ADD COLUMN remarks TEXT;
ALTER TABLE devices ADD COLUMN remarks TEXT;
ALTER TABLE devices ADD COLUMN other_kind TEXT;
ALTER TABLE parts ADD COLUMN remarks TEXT;
ALTER TABLE runs ADD COLUMN remarks TEXT;
ALTER TABLE cables ADD COLUMN remarks TEXT;
