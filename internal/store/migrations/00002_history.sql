-- +goose Up
-- The change history: written in the same transaction as the change itself.
CREATE TABLE change (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    at     TEXT    NOT NULL,
    who    TEXT    NOT NULL,
    what   TEXT    NOT NULL,
    undoes INTEGER REFERENCES change (id)
) STRICT;

CREATE TABLE change_item (
    change_id INTEGER NOT NULL REFERENCES change (id),
    kind      TEXT    NOT NULL CHECK (kind IN ('estate', 'block')),
    entity    TEXT    NOT NULL,
    before    TEXT,
    after     TEXT,
    revision  INTEGER NOT NULL,
    PRIMARY KEY (change_id, kind, entity)
) STRICT;

-- +goose Down
DROP TABLE change_item;
DROP TABLE change;
