-- Pictures of a build, by the digest of what is kept; what each shows stands in its facts.
CREATE TABLE IF NOT EXISTS pictures (
    build_id UUID NOT NULL REFERENCES builds (id),
    digest CHAR(64) CHARACTER SET ascii NOT NULL,
    jpeg MEDIUMBLOB NOT NULL,
    PRIMARY KEY (build_id, digest)
);
