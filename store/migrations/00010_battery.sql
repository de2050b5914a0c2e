-- +goose Up

-- How long a UPS holds what load, and what is loud at its most.
ALTER TABLE spec_sheets ADD COLUMN runtimes TEXT;
ALTER TABLE spec_sheets ADD COLUMN busy_db REAL;
ALTER TABLE devices ADD COLUMN runtimes TEXT;
ALTER TABLE devices ADD COLUMN busy_db REAL;

-- When a device goes after the mains have failed, and who watches a UPS.
ALTER TABLE devices ADD COLUMN goes_at_percent REAL;
ALTER TABLE devices ADD COLUMN goes_after_min REAL;
ALTER TABLE devices ADD COLUMN goes_after_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN goes_last INTEGER;
ALTER TABLE devices ADD COLUMN stops_s REAL;
ALTER TABLE devices ADD COLUMN watched_by_id TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN watched_over TEXT;
ALTER TABLE devices ADD COLUMN to_hold_min REAL;

ALTER TABLE parts ADD COLUMN energy_wh REAL;
ALTER TABLE parts ADD COLUMN outside INTEGER;

-- What energy costs.
ALTER TABLE lab ADD COLUMN prices TEXT;
ALTER TABLE lab ADD COLUMN standing_day REAL;
ALTER TABLE lab ADD COLUMN to_hold_min REAL;

-- Where it gets warm, and where it must be quiet.
ALTER TABLE places ADD COLUMN shut INTEGER;
ALTER TABLE places ADD COLUMN most_db REAL;
