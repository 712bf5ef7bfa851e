-- What one person reads otherwise than another with a gauge, as a study of hands found.
ALTER TABLE gauges ADD COLUMN IF NOT EXISTS people_nm BIGINT NULL;
