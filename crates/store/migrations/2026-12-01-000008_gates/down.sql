ALTER TABLE target_changes DROP COLUMN IF EXISTS place_kind;
ALTER TABLE concessions DROP COLUMN IF EXISTS gate;
