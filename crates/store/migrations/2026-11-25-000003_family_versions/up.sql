-- Two people who edit one family at a time: the second names a version that is gone.
ALTER TABLE shell_families ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;
