-- +goose Up
-- What the units of a make and model share; groups of ports, bays, slots and
-- outlets are JSON. A device has the same columns for what it says itself.
CREATE TABLE spec_sheets (
  id                TEXT PRIMARY KEY,
  name              TEXT NOT NULL,
  device_kind       TEXT NOT NULL,
  notes             TEXT,
  maker             TEXT,
  model             TEXT,
  height_mm         REAL,
  takes_u           INTEGER,
  width_mm          REAL,
  depth_mm          REAL,
  weight_kg         REAL,
  front_mm          REAL,
  holds_kg          REAL,
  mount             TEXT,
  rail_mm           REAL,
  rail_from_mm      REAL,
  rail_to_mm        REAL,
  ports             TEXT,
  bays              TEXT,
  slots             TEXT,
  outlets           TEXT,
  memory_slots      INTEGER,
  memory_type       TEXT,
  memory_slot_bytes INTEGER,
  memory_most_bytes INTEGER,
  sockets           INTEGER,
  socket_type       TEXT,
  supply_bays       INTEGER,
  supply_w          REAL,
  supply_grade      TEXT,
  supplies_needed   INTEGER,
  power_leads       INTEGER,
  standby_w         REAL,
  idle_w            REAL,
  typical_w         REAL,
  most_w            REAL,
  poe_budget_w      REAL,
  noise_db          REAL,
  temp_from_c       REAL,
  temp_to_c         REAL,
  figures_by        TEXT
);

ALTER TABLE racks ADD COLUMN door_mm REAL;
ALTER TABLE racks ADD COLUMN moving_kg REAL;
ALTER TABLE devices ADD COLUMN why TEXT;
ALTER TABLE devices ADD COLUMN sheet_id TEXT REFERENCES spec_sheets (id) DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE devices ADD COLUMN maker TEXT;
ALTER TABLE devices ADD COLUMN model TEXT;
ALTER TABLE devices ADD COLUMN front_mm REAL;
ALTER TABLE devices ADD COLUMN holds_kg REAL;
ALTER TABLE devices ADD COLUMN mount TEXT;
ALTER TABLE devices ADD COLUMN rail_mm REAL;
ALTER TABLE devices ADD COLUMN rail_from_mm REAL;
ALTER TABLE devices ADD COLUMN rail_to_mm REAL;
ALTER TABLE devices ADD COLUMN ports TEXT;
ALTER TABLE devices ADD COLUMN bays TEXT;
ALTER TABLE devices ADD COLUMN slots TEXT;
ALTER TABLE devices ADD COLUMN outlets TEXT;
ALTER TABLE devices ADD COLUMN memory_slots INTEGER;
ALTER TABLE devices ADD COLUMN memory_type TEXT;
ALTER TABLE devices ADD COLUMN memory_slot_bytes INTEGER;
ALTER TABLE devices ADD COLUMN memory_most_bytes INTEGER;
ALTER TABLE devices ADD COLUMN sockets INTEGER;
ALTER TABLE devices ADD COLUMN socket_type TEXT;
ALTER TABLE devices ADD COLUMN supply_bays INTEGER;
ALTER TABLE devices ADD COLUMN supply_w REAL;
ALTER TABLE devices ADD COLUMN supply_grade TEXT;
ALTER TABLE devices ADD COLUMN supplies_needed INTEGER;
ALTER TABLE devices ADD COLUMN power_leads INTEGER;
ALTER TABLE devices ADD COLUMN standby_w REAL;
ALTER TABLE devices ADD COLUMN idle_w REAL;
ALTER TABLE devices ADD COLUMN typical_w REAL;
ALTER TABLE devices ADD COLUMN most_w REAL;
ALTER TABLE devices ADD COLUMN poe_budget_w REAL;
ALTER TABLE devices ADD COLUMN noise_db REAL;
ALTER TABLE devices ADD COLUMN temp_from_c REAL;
ALTER TABLE devices ADD COLUMN temp_to_c REAL;
ALTER TABLE devices ADD COLUMN figures_by TEXT;
ALTER TABLE devices ADD COLUMN remote_address TEXT;
ALTER TABLE devices ADD COLUMN web_page TEXT;
ALTER TABLE devices ADD COLUMN console TEXT;
ALTER TABLE devices ADD COLUMN serial TEXT;
ALTER TABLE devices ADD COLUMN private TEXT;
ALTER TABLE devices ADD COLUMN links TEXT;
ALTER TABLE devices ADD COLUMN never_known TEXT;
ALTER TABLE devices ADD COLUMN price_minor INTEGER;
ALTER TABLE devices ADD COLUMN bought_on TEXT;
ALTER TABLE devices ADD COLUMN got TEXT;
ALTER TABLE devices ADD COLUMN warranty_until TEXT;
ALTER TABLE devices ADD COLUMN return_until TEXT;
ALTER TABLE devices ADD COLUMN yearly TEXT;
CREATE INDEX devices_by_sheet ON devices (sheet_id);

-- A part is in a device, or lies in the spares bin, or is on order.
CREATE TABLE parts (
  id             TEXT PRIMARY KEY,
  name           TEXT,
  part_kind      TEXT NOT NULL,
  state          TEXT NOT NULL,
  device_id      TEXT REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  seat           INTEGER,
  ordered        INTEGER,
  maker          TEXT,
  model          TEXT,
  notes          TEXT,
  serial         TEXT,
  size_bytes     INTEGER,
  form           TEXT,
  medium         TEXT,
  interface      TEXT,
  recording      TEXT,
  hours          REAL,
  rpm            REAL,
  memory_type    TEXT,
  cores          INTEGER,
  threads        INTEGER,
  base_ghz       REAL,
  design_w       REAL,
  socket_type    TEXT,
  card_kind      TEXT,
  mode           TEXT,
  wide           INTEGER,
  length_mm      REAL,
  card_height    TEXT,
  lanes          INTEGER,
  power_leads    INTEGER,
  gives_w        REAL,
  grade          TEXT,
  chemistry      TEXT,
  put_in         TEXT,
  connector      TEXT,
  speed_mb       INTEGER,
  price_minor    INTEGER,
  bought_on      TEXT,
  got            TEXT,
  warranty_until TEXT,
  return_until   TEXT,
  yearly         TEXT
);
CREATE INDEX parts_by_device ON parts (device_id);

CREATE TABLE photos (
  id        TEXT PRIMARY KEY,
  device_id TEXT NOT NULL REFERENCES devices (id) DEFERRABLE INITIALLY DEFERRED,
  file      TEXT NOT NULL, -- the picture's sha256; a lab loaded from a text file comes without it
  caption   TEXT,
  "order"   INTEGER,
  width_px  INTEGER NOT NULL,
  height_px INTEGER NOT NULL
);
CREATE INDEX photos_by_device ON photos (device_id);

-- The pictures themselves, each once. They stay while the logbook may lead
-- back to them.
CREATE TABLE pictures (
  sha256    TEXT PRIMARY KEY,
  added_at  TEXT NOT NULL,
  jpeg      BLOB NOT NULL,
  thumbnail BLOB NOT NULL
);

CREATE TABLE filters (
  id      TEXT PRIMARY KEY,
  name    TEXT NOT NULL,
  "text"  TEXT,
  columns TEXT,
  sort    TEXT,
  "group" TEXT
);
