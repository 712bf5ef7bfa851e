DROP TABLE IF EXISTS shop_log, invitations, known_browsers, sign_in_tries;
CREATE TABLE IF NOT EXISTS sign_in_failures (
    login VARCHAR(60) NOT NULL PRIMARY KEY,
    failures INT NOT NULL,
    last_at BIGINT NOT NULL
);
ALTER TABLE sessions DROP INDEX IF EXISTS sessions_of_person;
ALTER TABLE sessions DROP COLUMN IF EXISTS address, DROP COLUMN IF EXISTS browser, DROP COLUMN IF EXISTS seen_at,
    DROP COLUMN IF EXISTS begun_at, DROP COLUMN IF EXISTS person_id;
ALTER TABLE people DROP COLUMN IF EXISTS version, DROP COLUMN IF EXISTS disabled;
ALTER TABLE target_changes DROP COLUMN IF EXISTS lifted;
ALTER TABLE signatures DROP COLUMN IF EXISTS mark;
