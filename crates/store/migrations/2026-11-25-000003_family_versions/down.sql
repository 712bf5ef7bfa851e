ALTER TABLE shell_families DROP COLUMN version;
