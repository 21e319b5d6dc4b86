-- +goose Up
-- Inputs only: what people said, accepted and did. Plans are computed, never stored.
CREATE TABLE estate (
    id       INTEGER PRIMARY KEY CHECK (id = 1),
    body     TEXT    NOT NULL CHECK (json_valid(body)),
    revision INTEGER NOT NULL CHECK (revision > 0)
) STRICT;

CREATE TABLE block (
    id       TEXT    PRIMARY KEY,
    body     TEXT    NOT NULL CHECK (json_valid(body)),
    revision INTEGER NOT NULL CHECK (revision > 0),
    removed  INTEGER NOT NULL DEFAULT 0 CHECK (removed IN (0, 1))
) STRICT;

-- Practice sheets as they were when a plan was adopted with them.
CREATE TABLE sheet_copy (
    digest TEXT PRIMARY KEY,
    sheet  TEXT NOT NULL,
    body   TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE sheet_copy;
DROP TABLE block;
DROP TABLE estate;
