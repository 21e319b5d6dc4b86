-- +goose Up
-- Long records (heights, weather) under the digest of their text, which the estate's document names. A
-- file never changes, so that undo finds what it needs.
CREATE TABLE file (
    digest TEXT PRIMARY KEY,
    kind   TEXT NOT NULL CHECK (kind IN ('heights', 'weather')),
    body   BLOB NOT NULL
) STRICT;

-- Days read from a weather station. An instrument's record is no person's change: it stands outside the
-- history, and a day read again replaces the earlier reading.
CREATE TABLE station_day (
    day  TEXT PRIMARY KEY,
    tmin REAL, tmax REAL, rain REAL, rh REAL, wind REAL, sun REAL
) STRICT;

-- +goose Down
DROP TABLE station_day;
DROP TABLE file;
