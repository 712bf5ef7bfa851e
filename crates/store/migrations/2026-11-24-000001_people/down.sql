DROP TABLE sign_in_failures;
DROP TABLE sessions;
DROP TABLE people;
DROP TABLE roles;
