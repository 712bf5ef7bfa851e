-- What the shop decides for itself, beside what a build says; the factory's wear range beside a target; and what a role
-- allows of the shelf, of others' readings and of the shop.
CREATE TABLE IF NOT EXISTS shop_settings (
    name VARCHAR(40) NOT NULL PRIMARY KEY,
    detail LONGTEXT NOT NULL CHECK (JSON_VALID(detail)),
    version INT NOT NULL
);
ALTER TABLE target_changes ADD COLUMN IF NOT EXISTS wear TEXT NULL CHECK (JSON_VALID(wear));
ALTER TABLE roles ADD COLUMN IF NOT EXISTS correct_shelf BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE roles ADD COLUMN IF NOT EXISTS strike_others BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE roles ADD COLUMN IF NOT EXISTS run_shop BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE roles ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;
UPDATE roles SET correct_shelf = open_builds, strike_others = open_builds, run_shop = concede_tight;
ALTER TABLE gauges ADD COLUMN IF NOT EXISTS serial VARCHAR(60) NULL;
-- An indicator in a bore head goes into bores; it was filed among the gauges for shafts.
UPDATE gauges SET measures = 'inside' WHERE kind = 'indicator';
