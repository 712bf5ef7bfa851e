-- The mark of the shop's key on a seal, and what a change of a target lifted that was tight.
ALTER TABLE signatures ADD COLUMN IF NOT EXISTS mark CHAR(64) CHARACTER SET ascii NULL;
ALTER TABLE target_changes ADD COLUMN IF NOT EXISTS lifted TEXT NULL CHECK (JSON_VALID(lifted));

-- Accounts come and go; what their people did stays.
ALTER TABLE people ADD COLUMN IF NOT EXISTS disabled BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE people ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;

-- Whose a session is, and from where, for those who look through them.
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS person_id UUID NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS begun_at BIGINT NOT NULL DEFAULT 0;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS seen_at BIGINT NOT NULL DEFAULT 0;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS browser VARCHAR(200) NULL;
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS address VARCHAR(60) NULL;
ALTER TABLE sessions ADD INDEX IF NOT EXISTS sessions_of_person (person_id);

-- Wrong passwords slow down the next try of the same login from the same place.
DROP TABLE IF EXISTS sign_in_failures;
CREATE TABLE IF NOT EXISTS sign_in_tries (
    login VARCHAR(60) NOT NULL,
    place VARCHAR(80) CHARACTER SET ascii NOT NULL,
    failures INT NOT NULL,
    last_at BIGINT NOT NULL,
    PRIMARY KEY (login, place),
    INDEX (last_at)
);

-- Browsers that somebody has signed in from: strangers' wrong guesses do not slow them down. Of every secret the digest only.
CREATE TABLE IF NOT EXISTS known_browsers (
    token CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    person_id UUID NOT NULL REFERENCES people (id),
    seen_at BIGINT NOT NULL,
    INDEX (seen_at)
);

CREATE TABLE IF NOT EXISTS invitations (
    token CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    person_id UUID NOT NULL UNIQUE REFERENCES people (id),
    ends_at BIGINT NOT NULL
);

-- What was done to the shop itself: people, roles, builds removed. Rows are only ever added.
CREATE TABLE IF NOT EXISTS shop_log (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    at_ms BIGINT NOT NULL,
    by_id UUID NULL,
    by_name VARCHAR(300) NOT NULL,
    kind VARCHAR(40) NOT NULL,
    detail LONGTEXT NOT NULL CHECK (JSON_VALID(detail))
);
