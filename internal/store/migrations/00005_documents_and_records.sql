-- +goose Up
-- One table for what people said and may change. parent is the block of a planting and the planting of rows; schema is
-- the version of the body's form.
CREATE TABLE document (
    kind     TEXT    NOT NULL CHECK (kind IN ('estate', 'block', 'planting', 'rows', 'sheet')),
    id       TEXT    NOT NULL,
    parent   TEXT    NOT NULL DEFAULT '',
    schema   INTEGER NOT NULL CHECK (schema > 0),
    revision INTEGER NOT NULL CHECK (revision > 0),
    body     TEXT    NOT NULL CHECK (json_valid(body)),
    digest   TEXT    NOT NULL,
    removed  INTEGER NOT NULL DEFAULT 0 CHECK (removed IN (0, 1)),
    seq      INTEGER NOT NULL,
    PRIMARY KEY (kind, id)
) STRICT;
CREATE INDEX document_parent ON document (kind, parent);

INSERT INTO document SELECT 'estate', '', '', 1, revision, body, digest, 0, 1 FROM estate;
INSERT INTO document SELECT 'block', id, '', 1, revision, body, digest, removed, rowid + 1 FROM block;
DROP TABLE block;
DROP TABLE estate;

-- What happened. Written once, never changed, never taken away: a later record corrects or withdraws an earlier one.
CREATE TABLE record (
    seq       INTEGER PRIMARY KEY AUTOINCREMENT,
    id        TEXT NOT NULL UNIQUE,
    block     TEXT NOT NULL,
    planting  TEXT NOT NULL,
    operation TEXT NOT NULL,
    kind      TEXT NOT NULL,
    day       TEXT NOT NULL,
    who       TEXT NOT NULL,
    corrects  TEXT REFERENCES record (id),
    body      TEXT NOT NULL CHECK (json_valid(body)),
    at        TEXT NOT NULL
) STRICT;
CREATE INDEX record_block ON record (block);

-- +goose StatementBegin
CREATE TRIGGER record_stays BEFORE UPDATE ON record BEGIN SELECT RAISE(ABORT, 'a record is never changed'); END;
-- +goose StatementEnd
-- +goose StatementBegin
CREATE TRIGGER record_remains BEFORE DELETE ON record BEGIN SELECT RAISE(ABORT, 'a record is never taken away'); END;
-- +goose StatementEnd

-- A change says what it is: something done, the undo of a change, or the redo of one (of). An item keeps the document
-- as it was before, packed, against the same document before the change base where that says most of it; what came after stands in the next item of the document, or in the document itself.
CREATE TABLE change_new (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    at   TEXT NOT NULL,
    who  TEXT NOT NULL,
    what TEXT NOT NULL,
    deed TEXT NOT NULL CHECK (deed IN ('do', 'undo', 'redo')),
    of   INTEGER REFERENCES change_new (id),
    CHECK ((deed = 'do') = (of IS NULL))
) STRICT;
CREATE TABLE change_item_new (
    change_id INTEGER NOT NULL REFERENCES change_new (id),
    kind      TEXT    NOT NULL,
    entity    TEXT    NOT NULL,
    block     TEXT    NOT NULL,
    schema    INTEGER NOT NULL,
    before    ANY,
    base      INTEGER,
    revision  INTEGER NOT NULL,
    PRIMARY KEY (change_id, kind, entity)
) STRICT;
INSERT INTO change_new SELECT id, at, who, what, CASE WHEN undoes IS NULL THEN 'do' ELSE 'undo' END, undoes FROM change;
INSERT INTO change_item_new SELECT change_id, kind, entity, CASE kind WHEN 'block' THEN entity ELSE '' END, 1, before, NULL, revision FROM change_item;
DROP TABLE change_item;
DROP TABLE change;
ALTER TABLE change_new RENAME TO change;
ALTER TABLE change_item_new RENAME TO change_item;
CREATE INDEX change_item_entity ON change_item (kind, entity);
CREATE INDEX change_item_block ON change_item (block);
CREATE INDEX change_of ON change (of);

-- +goose Down
-- The form before held no records and no plantings of their own: there is no way back but the copy made before.
SELECT json('there is no way back: restore the copy made before this migration');
