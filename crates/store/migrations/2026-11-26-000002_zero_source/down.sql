ALTER TABLE readings DROP COLUMN IF EXISTS zero_source;
