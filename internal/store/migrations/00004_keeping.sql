-- +goose Up
-- A digest of each document, so that a character changed on the disk is seen; and what is remembered about copies.
ALTER TABLE estate ADD COLUMN digest TEXT NOT NULL DEFAULT '';
ALTER TABLE block ADD COLUMN digest TEXT NOT NULL DEFAULT '';

CREATE TABLE keeping (
    name  TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE keeping;
ALTER TABLE block DROP COLUMN digest;
ALTER TABLE estate DROP COLUMN digest;
