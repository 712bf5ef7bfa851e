-- Who works here and what their role allows. Roles are the shop's data.
CREATE TABLE IF NOT EXISTS roles (
    name VARCHAR(40) NOT NULL PRIMARY KEY,
    open_builds BOOLEAN NOT NULL,
    measure BOOLEAN NOT NULL,
    set_targets BOOLEAN NOT NULL,
    concede BOOLEAN NOT NULL,
    concede_tight BOOLEAN NOT NULL,
    sign_assembler BOOLEAN NOT NULL,
    sign_checker BOOLEAN NOT NULL
);

INSERT IGNORE INTO roles (name, open_builds, measure, set_targets, concede, concede_tight, sign_assembler, sign_checker) VALUES
    ('apprentice', FALSE, TRUE, FALSE, FALSE, FALSE, FALSE, FALSE),
    ('assembler', TRUE, TRUE, TRUE, TRUE, FALSE, TRUE, FALSE),
    ('checker', TRUE, TRUE, TRUE, TRUE, FALSE, TRUE, TRUE),
    ('lead', TRUE, TRUE, TRUE, TRUE, TRUE, TRUE, TRUE);

-- People known from imported builds have no login.
CREATE TABLE IF NOT EXISTS people (
    id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    name VARCHAR(300) NOT NULL,
    login VARCHAR(60) NULL UNIQUE,
    password_hash VARCHAR(200) NULL,
    role VARCHAR(40) NULL REFERENCES roles (name)
);

CREATE TABLE IF NOT EXISTS sessions (
    id CHAR(32) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    data TEXT NOT NULL,
    expires_at BIGINT NOT NULL,
    INDEX (expires_at)
);

-- Wrong passwords slow down the next try, whichever server it reaches.
CREATE TABLE IF NOT EXISTS sign_in_failures (
    login VARCHAR(60) NOT NULL PRIMARY KEY,
    failures INT NOT NULL,
    last_at BIGINT NOT NULL
);
