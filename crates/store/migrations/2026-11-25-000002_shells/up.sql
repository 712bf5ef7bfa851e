-- What the shop knows of its shells is set-up, read and written whole.
CREATE TABLE IF NOT EXISTS shell_families (
    id VARCHAR(40) CHARACTER SET ascii NOT NULL PRIMARY KEY,
    place INT NOT NULL,
    detail LONGTEXT NOT NULL
);

-- Halves on the shelf. The database itself keeps a shelf from going below empty.
CREATE TABLE IF NOT EXISTS shell_stock (
    family VARCHAR(40) CHARACTER SET ascii NOT NULL REFERENCES shell_families (id),
    undersize_nm BIGINT NOT NULL,
    half VARCHAR(10) CHARACTER SET ascii NOT NULL,
    class VARCHAR(20) NOT NULL,
    count INT NOT NULL CHECK (count >= 0),
    place VARCHAR(40) NOT NULL,
    PRIMARY KEY (family, undersize_nm, half, class)
);

-- Every change of it, with its reason.
CREATE TABLE IF NOT EXISTS shell_moves (
    seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    id CHAR(36) CHARACTER SET ascii NOT NULL UNIQUE,
    family VARCHAR(40) CHARACTER SET ascii NOT NULL REFERENCES shell_families (id),
    undersize_nm BIGINT NOT NULL,
    half VARCHAR(10) CHARACTER SET ascii NOT NULL,
    class VARCHAR(20) NOT NULL,
    kind VARCHAR(10) CHARACTER SET ascii NOT NULL,
    change_by INT NOT NULL,
    left_after INT NOT NULL,
    reason VARCHAR(400) NOT NULL,
    by_id CHAR(36) CHARACTER SET ascii NOT NULL REFERENCES people (id),
    by_name VARCHAR(80) NOT NULL,
    at_ms BIGINT NOT NULL,
    KEY shell_moves_of_family (family, seq)
);
