-- What a new build starts from: editable set-up of the shop.
CREATE TABLE IF NOT EXISTS gauge_kinds (
    id VARCHAR(60) NOT NULL PRIMARY KEY,
    unit VARCHAR(2) NOT NULL,
    name VARCHAR(120) NOT NULL,
    measures VARCHAR(10) NOT NULL,
    resolution_nm BIGINT NOT NULL,
    repeatability_nm BIGINT NOT NULL,
    calibration_nm BIGINT NOT NULL,
    place INT NOT NULL
);

CREATE TABLE IF NOT EXISTS engine_patterns (
    id VARCHAR(60) NOT NULL PRIMARY KEY,
    engine VARCHAR(300) NOT NULL,
    unit VARCHAR(2) NOT NULL,
    layout LONGTEXT NOT NULL,
    target LONGTEXT NOT NULL
);

-- seq counts the build's facts; taking a build's row lock orders its writes.
CREATE TABLE IF NOT EXISTS builds (
    id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    code VARCHAR(24) NOT NULL UNIQUE,
    engine VARCHAR(300) NOT NULL,
    unit VARCHAR(2) NOT NULL,
    layout LONGTEXT NOT NULL,
    rules LONGTEXT NOT NULL,
    gauges LONGTEXT NOT NULL,
    opened_at BIGINT NOT NULL,
    opened_by_id CHAR(36) CHARACTER SET ascii NOT NULL,
    opened_by_name VARCHAR(300) NOT NULL,
    seq INT NOT NULL
);

-- The append-only log: who recorded what and when. The details stand in one table per kind.
CREATE TABLE IF NOT EXISTS facts (
    build_id CHAR(36) CHARACTER SET ascii NOT NULL REFERENCES builds (id),
    seq INT NOT NULL,
    id CHAR(36) CHARACTER SET ascii NOT NULL UNIQUE,
    at BIGINT NOT NULL,
    by_id CHAR(36) CHARACTER SET ascii NOT NULL,
    by_name VARCHAR(300) NOT NULL,
    PRIMARY KEY (build_id, seq)
);

CREATE TABLE IF NOT EXISTS readings (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    station VARCHAR(8) NOT NULL,
    feature VARCHAR(20) NOT NULL,
    axial VARCHAR(10) NOT NULL,
    angle INT NOT NULL,
    size_nm BIGINT NOT NULL,
    dial_nm BIGINT NULL,
    reference_nm BIGINT NULL,
    gauge VARCHAR(60) NOT NULL,
    raw VARCHAR(120) NOT NULL,
    source VARCHAR(20) NOT NULL,
    forced BOOLEAN NOT NULL
);

CREATE TABLE IF NOT EXISTS strikes (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    reading_id CHAR(36) CHARACTER SET ascii NOT NULL UNIQUE REFERENCES readings (fact_id),
    reason VARCHAR(300) NOT NULL
);

CREATE TABLE IF NOT EXISTS target_changes (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    station VARCHAR(8) NULL,
    rule TEXT NULL,
    source VARCHAR(20) NOT NULL,
    reason VARCHAR(300) NOT NULL
);

CREATE TABLE IF NOT EXISTS concessions (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    station VARCHAR(8) NOT NULL,
    state VARCHAR(10) NOT NULL,
    clearance_nm BIGINT NOT NULL,
    low_nm BIGINT NOT NULL,
    aim_nm BIGINT NOT NULL,
    high_nm BIGINT NOT NULL,
    reason VARCHAR(300) NOT NULL
);

CREATE TABLE IF NOT EXISTS signatures (
    fact_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY REFERENCES facts (id),
    role VARCHAR(20) NOT NULL,
    revision INT NOT NULL,
    digest CHAR(64) CHARACTER SET ascii NOT NULL
);
