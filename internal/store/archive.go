package store

import (
	"archive/zip"
	"bufio"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path"
	"path/filepath"
	"strings"
	"time"
)

// ArchiveFormat names the archive; its version is the second number.
const (
	ArchiveFormat  = "slowroot-archive"
	archiveVersion = 1
	// mostArchived bounds what one entry of an archive may unpack to, in bytes.
	mostArchived = 1 << 30
)

// ErrNotArchive is a file that is no archive of an estate.
var ErrNotArchive = errors.New("this is not an archive of an estate")

// manifest is what an archive says of itself.
type manifest struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Made    time.Time `json:"made"`
	Read    string    `json:"read"`
}

const howToRead = "documents.jsonl: what people said, one document to a line, with the version of its form; records.jsonl: what happened, in order; history.jsonl: changes, each with its documents as they were before it; sheets and files: practice sheets kept at adoption, heights and weather, under their digests; station.jsonl: days read from a weather station. UTF-8; lengths, masses and temperatures in the units of the field names."

type archivedDoc struct {
	Kind     Kind            `json:"kind"`
	ID       string          `json:"id"`
	Parent   string          `json:"parent,omitempty"`
	Schema   int             `json:"schema"`
	Revision int             `json:"revision"`
	Removed  bool            `json:"removed,omitempty"`
	Body     json.RawMessage `json:"body"`
}

type archivedRecord struct {
	ID        string          `json:"id"`
	Block     string          `json:"block"`
	Planting  string          `json:"planting,omitempty"`
	Operation string          `json:"operation,omitempty"`
	Kind      string          `json:"kind"`
	Day       string          `json:"day,omitempty"`
	Who       string          `json:"who,omitempty"`
	Corrects  string          `json:"corrects,omitempty"`
	At        time.Time       `json:"at"`
	Body      json.RawMessage `json:"body"`
}

type archivedChange struct {
	ID    int64          `json:"id"`
	At    time.Time      `json:"at"`
	Who   string         `json:"who"`
	What  string         `json:"what"`
	Deed  Deed           `json:"deed"`
	Of    int64          `json:"of,omitempty"`
	Items []archivedItem `json:"items"`
}

type archivedItem struct {
	Kind     Kind            `json:"kind"`
	ID       string          `json:"id"`
	Block    string          `json:"block,omitempty"`
	Schema   int             `json:"schema"`
	Revision int             `json:"revision"`
	Before   json.RawMessage `json:"before,omitempty"`
}

// Archive writes everything as a zip of JSON lines and plain files that any program can read, and Unarchive can put back.
func (s *Store) Archive(ctx context.Context, w io.Writer) error {
	z := zip.NewWriter(w)
	lines := func(name string, write func(*json.Encoder) error) error {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		enc := json.NewEncoder(f)
		enc.SetEscapeHTML(false)
		return write(enc)
	}
	err := lines("manifest.json", func(e *json.Encoder) error {
		return e.Encode(manifest{ArchiveFormat, archiveVersion, s.now().UTC(), howToRead})
	})
	err = errors.Join(err, s.tx(ctx, func(tx *sql.Tx) error {
		return errors.Join(
			lines("documents.jsonl", func(e *json.Encoder) error { return writeDocs(ctx, tx, e) }),
			lines("records.jsonl", func(e *json.Encoder) error { return writeRecords(ctx, tx, e) }),
			lines("history.jsonl", func(e *json.Encoder) error { return writeHistory(ctx, tx, e) }),
			lines("station.jsonl", func(e *json.Encoder) error { return writeStation(ctx, tx, e) }),
			writeFiles(ctx, tx, z))
	}))
	return errors.Join(err, z.Close())
}

// each runs f over the rows of a query.
func each(ctx context.Context, tx *sql.Tx, f func(*sql.Rows) error, query string, args ...any) error {
	rows, err := tx.QueryContext(ctx, query, args...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := f(rows); err != nil {
			return err
		}
	}
	return rows.Err()
}

func writeDocs(ctx context.Context, tx *sql.Tx, e *json.Encoder) error {
	return each(ctx, tx, func(r *sql.Rows) error {
		var d archivedDoc
		var body string
		if err := r.Scan(&d.Kind, &d.ID, &d.Parent, &d.Schema, &d.Revision, &d.Removed, &body); err != nil {
			return err
		}
		d.Body = json.RawMessage(body)
		return e.Encode(d)
	}, `SELECT kind, id, parent, schema, revision, removed, body FROM document ORDER BY seq`)
}

func writeRecords(ctx context.Context, tx *sql.Tx, e *json.Encoder) error {
	return each(ctx, tx, func(r *sql.Rows) error {
		var d archivedRecord
		var body, at string
		if err := r.Scan(&d.ID, &d.Block, &d.Planting, &d.Operation, &d.Kind, &d.Day, &d.Who, &d.Corrects, &body, &at); err != nil {
			return err
		}
		d.Body = json.RawMessage(body)
		var err error
		if d.At, err = time.Parse(time.RFC3339, at); err != nil {
			return err
		}
		return e.Encode(d)
	}, `SELECT id, block, planting, operation, kind, day, who, COALESCE(corrects, ''), body, at FROM record ORDER BY seq`)
}

func writeHistory(ctx context.Context, tx *sql.Tx, e *json.Encoder) error {
	var all []archivedChange
	err := each(ctx, tx, func(r *sql.Rows) error {
		c, err := scanChange(r)
		all = append(all, archivedChange{ID: c.ID, At: c.At, Who: c.Who, What: c.What, Deed: c.Deed, Of: c.Of, Items: []archivedItem{}})
		return err
	}, `SELECT id, at, who, what, deed, COALESCE(of, 0), 0 FROM change ORDER BY id`)
	if err != nil {
		return err
	}
	for _, c := range all {
		items, err := itemsOf(ctx, tx, c.ID)
		if err != nil {
			return err
		}
		for _, i := range items {
			a := archivedItem{Kind: i.Kind, ID: i.ID, Block: i.Block, Schema: i.WasSchema, Before: i.Before}
			if err := tx.QueryRowContext(ctx, `SELECT revision FROM change_item WHERE change_id = ? AND kind = ? AND entity = ?`, c.ID, string(i.Kind), i.ID).Scan(&a.Revision); err != nil {
				return err
			}
			c.Items = append(c.Items, a)
		}
		if err := e.Encode(c); err != nil {
			return err
		}
	}
	return nil
}

// stationColumns are those of a day read from a weather station.
var stationColumns = []string{"tmin", "tmax", "rain", "rh", "wind", "sun"}

func writeStation(ctx context.Context, tx *sql.Tx, e *json.Encoder) error {
	return each(ctx, tx, func(r *sql.Rows) error {
		var day string
		var v [6]sql.NullFloat64
		if err := r.Scan(&day, &v[0], &v[1], &v[2], &v[3], &v[4], &v[5]); err != nil {
			return err
		}
		out := map[string]any{"day": day}
		for i, name := range stationColumns {
			if v[i].Valid {
				out[name] = v[i].Float64
			}
		}
		return e.Encode(out)
	}, `SELECT day, tmin, tmax, rain, rh, wind, sun FROM station_day ORDER BY day`)
}

func writeFiles(ctx context.Context, tx *sql.Tx, z *zip.Writer) error {
	put := func(name, text string) error {
		f, err := z.Create(name)
		if err != nil {
			return err
		}
		_, err = io.WriteString(f, text)
		return err
	}
	err := each(ctx, tx, func(r *sql.Rows) error {
		var digest, kind string
		var body []byte
		if err := r.Scan(&digest, &kind, &body); err != nil {
			return err
		}
		text, err := unpack(digest, body)
		return errors.Join(err, put("files/"+kind+"/"+digest+".txt", text))
	}, `SELECT digest, kind, body FROM file ORDER BY digest`)
	return errors.Join(err, each(ctx, tx, func(r *sql.Rows) error {
		var digest, sheet, body string
		if err := r.Scan(&digest, &sheet, &body); err != nil {
			return err
		}
		return put("sheets/"+sheet+"/"+digest+".yaml", body)
	}, `SELECT digest, sheet, body FROM sheet_copy ORDER BY digest`))
}

// IsArchive tells whether a file begins as an archive does.
func IsArchive(file string) bool {
	f, err := os.Open(file)
	if err != nil {
		return false
	}
	defer f.Close()
	var head [4]byte
	_, err = io.ReadFull(f, head[:])
	return err == nil && string(head[:]) == "PK\x03\x04"
}

// Unarchive reads an archive into a database of its own in dir, which must be empty, and returns its file. Documents of
// an older form are brought forward as when a folder is opened.
func Unarchive(ctx context.Context, file, dir string, o Options) (string, error) {
	z, err := zip.OpenReader(file)
	if err != nil {
		return "", fmt.Errorf("%w: %v", ErrNotArchive, err)
	}
	defer z.Close()
	parts := map[string]*zip.File{}
	for _, f := range z.File {
		parts[f.Name] = f
	}
	var m manifest
	if err := readLines(parts["manifest.json"], func(d *json.Decoder) error { return d.Decode(&m) }); err != nil || m.Format != ArchiveFormat {
		return "", fmt.Errorf("%w: its manifest.json says nothing of one", ErrNotArchive)
	}
	if m.Version > archiveVersion {
		return "", fmt.Errorf("%w: it is of version %d, this program knows %d", ErrNewer, m.Version, archiveVersion)
	}
	upcast := o.Upcast
	o.Upcast = nil
	s, err := Open(ctx, dir, o)
	if err != nil {
		return "", err
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		return errors.Join(readDocs(ctx, tx, parts["documents.jsonl"]), readRecords(ctx, tx, parts["records.jsonl"]),
			readHistory(ctx, tx, parts["history.jsonl"]), readStation(ctx, tx, parts["station.jsonl"]), readFiles(ctx, tx, z.File))
	})
	s.options.Upcast = upcast
	if err == nil {
		err = s.bringForward(ctx)
	}
	return filepath.Join(dir, FileName), errors.Join(err, s.Close())
}

// readLines decodes the values of a part one after another; a part that is not there is an error with its name.
func readLines(f *zip.File, one func(*json.Decoder) error) error {
	if f == nil {
		return fmt.Errorf("%w: a part of it is missing", ErrNotArchive)
	}
	r, err := f.Open()
	if err != nil {
		return fmt.Errorf("%w: %s: %v", ErrDamaged, f.Name, err)
	}
	defer r.Close()
	d := json.NewDecoder(bufio.NewReader(io.LimitReader(r, mostArchived)))
	d.DisallowUnknownFields()
	for line := 1; d.More(); line++ {
		if err := one(d); err != nil {
			return fmt.Errorf("%s, line %d: %w", f.Name, line, err)
		}
	}
	return nil
}

func readDocs(ctx context.Context, tx *sql.Tx, f *zip.File) error {
	seq := 0
	return readLines(f, func(d *json.Decoder) error {
		var a archivedDoc
		if err := d.Decode(&a); err != nil {
			return err
		}
		seq++
		_, err := tx.ExecContext(ctx, `INSERT INTO document (kind, id, parent, schema, revision, body, digest, removed, seq) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			string(a.Kind), a.ID, a.Parent, a.Schema, a.Revision, string(a.Body), digestOf(a.Body), a.Removed, seq)
		return err
	})
}

func readRecords(ctx context.Context, tx *sql.Tx, f *zip.File) error {
	return readLines(f, func(d *json.Decoder) error {
		var a archivedRecord
		if err := d.Decode(&a); err != nil {
			return err
		}
		var corrects any
		if a.Corrects != "" {
			corrects = a.Corrects
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO record (id, block, planting, operation, kind, day, who, corrects, body, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			a.ID, a.Block, a.Planting, a.Operation, a.Kind, a.Day, a.Who, corrects, string(a.Body), a.At.UTC().Format(time.RFC3339))
		return err
	})
}

func readHistory(ctx context.Context, tx *sql.Tx, f *zip.File) error {
	return readLines(f, func(d *json.Decoder) error {
		var a archivedChange
		if err := d.Decode(&a); err != nil {
			return err
		}
		var of any
		if a.Of > 0 {
			of = a.Of
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO change (id, at, who, what, deed, of) VALUES (?, ?, ?, ?, ?, ?)`, a.ID, a.At.UTC().Format(time.RFC3339), a.Who, a.What, string(a.Deed), of); err != nil {
			return err
		}
		for _, i := range a.Items {
			var before, base any
			if i.Before != nil {
				var err error
				if before, base, err = packed(ctx, tx, Doc{Kind: i.Kind, ID: i.ID, Body: i.Before}); err != nil {
					return err
				}
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO change_item (change_id, kind, entity, block, schema, before, base, revision) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
				a.ID, string(i.Kind), i.ID, i.Block, i.Schema, before, base, i.Revision); err != nil {
				return err
			}
		}
		return nil
	})
}

func readStation(ctx context.Context, tx *sql.Tx, f *zip.File) error {
	return readLines(f, func(d *json.Decoder) error {
		var a map[string]any
		if err := d.Decode(&a); err != nil {
			return err
		}
		args := []any{a["day"]}
		for _, name := range stationColumns {
			args = append(args, a[name])
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO station_day (day, tmin, tmax, rain, rh, wind, sun) VALUES (?, ?, ?, ?, ?, ?, ?)`, args...)
		return err
	})
}

func readFiles(ctx context.Context, tx *sql.Tx, list []*zip.File) error {
	for _, f := range list {
		kind := path.Base(path.Dir(f.Name))
		digest, ending := strings.TrimSuffix(strings.TrimSuffix(path.Base(f.Name), ".txt"), ".yaml"), path.Ext(f.Name)
		if ending != ".txt" && ending != ".yaml" {
			continue
		}
		r, err := f.Open()
		if err != nil {
			return fmt.Errorf("%w: %s: %v", ErrDamaged, f.Name, err)
		}
		text, err := io.ReadAll(io.LimitReader(r, mostArchived))
		r.Close()
		if err != nil {
			return fmt.Errorf("%w: %s: %v", ErrDamaged, f.Name, err)
		}
		if ending == ".yaml" {
			_, err = tx.ExecContext(ctx, `INSERT INTO sheet_copy (digest, sheet, body) VALUES (?, ?, ?)`, digest, kind, string(text))
		} else if one := (File{Kind: kind, Text: string(text)}); one.Digest() != digest {
			err = fmt.Errorf("%w: %s does not have its digest", ErrDamaged, f.Name)
		} else {
			err = one.keep(ctx, tx)
		}
		if err != nil {
			return err
		}
	}
	return nil
}
