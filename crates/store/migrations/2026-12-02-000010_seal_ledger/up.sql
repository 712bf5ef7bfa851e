-- The ledger of seals: what seals stand on, a line after the other, bound together by the shop's key.
CREATE TABLE IF NOT EXISTS seal_ledger (
    number INT NOT NULL PRIMARY KEY,
    kind VARCHAR(20) NOT NULL,
    about UUID NOT NULL,
    seq INT NOT NULL,
    text VARCHAR(200) NOT NULL,
    at_ms BIGINT NOT NULL,
    link CHAR(64) NOT NULL
);
-- Whoever writes a line holds this row.
INSERT IGNORE INTO shop_settings (name, detail, version) VALUES ('seal_ledger', 'null', 1);
