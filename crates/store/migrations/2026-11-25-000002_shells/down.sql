DROP TABLE shell_moves;
DROP TABLE shell_stock;
DROP TABLE shell_families;
