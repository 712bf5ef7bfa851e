DROP TABLE notes;
ALTER TABLE readings DROP COLUMN session_id, DROP COLUMN part_mc, DROP COLUMN gauge_mc, DROP COLUMN blind_id;
ALTER TABLE target_changes DROP COLUMN bearing_row;
ALTER TABLE engine_patterns DROP COLUMN rod_target;
RENAME TABLE gauges TO gauge_kinds;
ALTER TABLE gauge_kinds
    DROP COLUMN kind, DROP COLUMN from_nm, DROP COLUMN to_nm, DROP COLUMN calibrated, DROP COLUMN due,
    DROP COLUMN version;
