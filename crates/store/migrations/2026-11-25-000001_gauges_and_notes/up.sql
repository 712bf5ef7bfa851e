-- A gauge is an instrument of its own: what it reaches, and how long its calibration holds.
ALTER TABLE gauge_kinds
    ADD COLUMN kind VARCHAR(20) NULL,
    ADD COLUMN from_nm BIGINT NULL,
    ADD COLUMN to_nm BIGINT NULL,
    ADD COLUMN calibrated CHAR(10) CHARACTER SET ascii NULL,
    ADD COLUMN due CHAR(10) CHARACTER SET ascii NULL,
    ADD COLUMN version INT NOT NULL DEFAULT 1;
RENAME TABLE gauge_kinds TO gauges;

ALTER TABLE engine_patterns
    ADD COLUMN rod_target LONGTEXT NULL;

ALTER TABLE target_changes
    ADD COLUMN bearing_row VARCHAR(10) NOT NULL DEFAULT 'mains';

-- What a reading was taken with, as far as it was known.
ALTER TABLE readings
    ADD COLUMN session_id CHAR(36) CHARACTER SET ascii NULL REFERENCES facts (id),
    ADD COLUMN part_mc INT NULL,
    ADD COLUMN gauge_mc INT NULL,
    ADD COLUMN blind_id CHAR(36) CHARACTER SET ascii NULL REFERENCES facts (id);

-- Sessions, work, set-ups, looks, requests, rules and plans: read whole with their build and never
-- searched by a column of their own, so their details stay JSON.
CREATE TABLE notes (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    kind VARCHAR(20) NOT NULL,
    detail LONGTEXT NOT NULL
);
