-- +goose Up

-- Where a name leads besides, and on from there; from where names and services are
-- meant to be reached, and what stands before them.
ALTER TABLE names ADD COLUMN service_id TEXT REFERENCES services (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE names ADD COLUMN tunnel_id TEXT REFERENCES tunnels (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE names ADD COLUMN name_id TEXT REFERENCES names (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE names ADD COLUMN port INTEGER;
ALTER TABLE names ADD COLUMN "then" TEXT;
ALTER TABLE names ADD COLUMN exposure TEXT;
ALTER TABLE names ADD COLUMN exposed_vlans TEXT;
ALTER TABLE names ADD COLUMN sign_in TEXT;
ALTER TABLE names ADD COLUMN sign_in_by TEXT;
ALTER TABLE names ADD COLUMN certificate_until TEXT;

ALTER TABLE services ADD COLUMN exposure TEXT;
ALTER TABLE services ADD COLUMN exposed_vlans TEXT;
ALTER TABLE services ADD COLUMN sign_in TEXT;
ALTER TABLE services ADD COLUMN sign_in_by TEXT;
ALTER TABLE services ADD COLUMN certificate_until TEXT;
