-- +goose Up
-- What else a device is besides its kind.
ALTER TABLE devices ADD COLUMN also_kinds TEXT;
