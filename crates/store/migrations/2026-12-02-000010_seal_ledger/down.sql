DROP TABLE IF EXISTS seal_ledger;
DELETE FROM shop_settings WHERE name = 'seal_ledger';
