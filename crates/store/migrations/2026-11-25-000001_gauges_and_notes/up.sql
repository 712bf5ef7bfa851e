-- A gauge is an instrument of its own: what it reaches, and how long its calibration holds.
ALTER TABLE IF EXISTS gauge_kinds
    ADD COLUMN IF NOT EXISTS kind VARCHAR(20) NULL,
    ADD COLUMN IF NOT EXISTS from_nm BIGINT NULL,
    ADD COLUMN IF NOT EXISTS to_nm BIGINT NULL,
    ADD COLUMN IF NOT EXISTS calibrated CHAR(10) CHARACTER SET ascii NULL,
    ADD COLUMN IF NOT EXISTS due CHAR(10) CHARACTER SET ascii NULL,
    ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;
RENAME TABLE IF EXISTS gauge_kinds TO gauges;

ALTER TABLE engine_patterns
    ADD COLUMN IF NOT EXISTS rod_target LONGTEXT NULL;

ALTER TABLE target_changes
    ADD COLUMN IF NOT EXISTS bearing_row VARCHAR(10) NOT NULL DEFAULT 'mains';

-- What a reading was taken with, as far as it was known.
ALTER TABLE readings
    ADD COLUMN IF NOT EXISTS session_id CHAR(36) CHARACTER SET ascii NULL REFERENCES facts (id),
    ADD COLUMN IF NOT EXISTS part_mc INT NULL,
    ADD COLUMN IF NOT EXISTS gauge_mc INT NULL,
    ADD COLUMN IF NOT EXISTS blind_id CHAR(36) CHARACTER SET ascii NULL REFERENCES facts (id);

-- Sessions, work, set-ups, looks, requests, rules and plans: read whole with their build and never
-- searched by a column of their own, so their details stay JSON.
CREATE TABLE IF NOT EXISTS notes (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    kind VARCHAR(20) NOT NULL,
    detail LONGTEXT NOT NULL
);
