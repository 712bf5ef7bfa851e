-- What an aim is the sum of.
ALTER TABLE target_changes ADD COLUMN IF NOT EXISTS made_of TEXT NULL CHECK (JSON_VALID(made_of));
