ALTER TABLE target_changes DROP COLUMN IF EXISTS made_of;
