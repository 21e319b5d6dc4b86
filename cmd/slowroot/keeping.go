package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"slowroot/internal/estate"
	"slowroot/internal/store"
)

// copyEstate makes or takes a copy of a data folder.
func copyEstate(ctx context.Context, cmd, dir, file string, out io.Writer) error {
	if cmd == "export" {
		return export(ctx, dir, file, out)
	}
	if cmd == "restore" {
		if store.IsArchive(file) {
			temp, err := os.MkdirTemp("", "slowroot-archive")
			if err != nil {
				return err
			}
			defer os.RemoveAll(temp)
			db, err := store.Unarchive(ctx, file, temp, store.Options{Upcast: estate.Upcast})
			if err != nil {
				return fmt.Errorf("%s: %w", file, err)
			}
			file = db
		}
		kept, err := store.Restore(ctx, file, dir, time.Now())
		if err != nil {
			return err
		}
		fmt.Fprintf(out, "restored %s from %s\n", dir, file)
		if kept != "" {
			fmt.Fprintf(out, "what was there is kept in %s\n", kept)
		}
		return nil
	}
	r, err := backup(ctx, dir, file)
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "copied %s to %s and read it back: %s\n", dir, file, told(r))
	return nil
}

// export writes everything as an open archive: by itself, or by asking the program that runs on the folder.
func export(ctx context.Context, dir, file string, out io.Writer) error {
	if _, err := os.Lstat(file); err == nil {
		return fmt.Errorf("%s exists already: name a new file", file)
	}
	if _, err := os.Stat(filepath.Join(dir, store.FileName)); err != nil {
		return fmt.Errorf("%s: %w", dir, store.ErrNoEstate)
	}
	st, err := store.Open(ctx, dir, store.Options{Upcast: estate.Upcast})
	if address := store.Address(dir); errors.Is(err, store.ErrInUse) && address != "" {
		err = download(ctx, "http://"+address+"/api/v1/archive", file)
	} else if err == nil {
		defer st.Close()
		var f *os.File
		if f, err = os.OpenFile(file, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600); err == nil {
			err = errors.Join(st.Archive(ctx, f), f.Sync(), f.Close())
		}
	}
	if err != nil {
		return fmt.Errorf("exporting %s: %w", dir, err)
	}
	fmt.Fprintf(out, "everything of %s is in %s\n", dir, file)
	return nil
}

func told(r store.Report) string {
	last := "never changed"
	if !r.Last.IsZero() {
		last = "last changed " + r.Last.Local().Format("2 January 2006, 15:04")
	}
	return fmt.Sprintf("%s, %d blocks, %d changes, %s", r.Estate, r.Blocks, r.Changes, last)
}

// backup copies a folder: by itself, or by asking the program that runs on it.
func backup(ctx context.Context, dir, file string) (store.Report, error) {
	if _, err := os.Stat(filepath.Join(dir, store.FileName)); err != nil {
		return store.Report{}, fmt.Errorf("%s: %w", dir, store.ErrNoEstate)
	}
	st, err := store.Open(ctx, dir, store.Options{Upcast: estate.Upcast})
	if err == nil {
		defer st.Close()
		r, err := st.Backup(ctx, file)
		if err != nil {
			return r, err
		}
		return r, st.NoteTaken(ctx)
	}
	address := store.Address(dir)
	if !errors.Is(err, store.ErrInUse) || address == "" {
		return store.Report{}, err
	}
	if _, err := os.Lstat(file); err == nil {
		return store.Report{}, fmt.Errorf("%s exists already: name a new file", file)
	}
	part := file + ".part"
	defer os.Remove(part)
	if err := download(ctx, "http://"+address+"/api/v1/copies/fresh", part); err != nil {
		return store.Report{}, fmt.Errorf("asking the program that runs on %s: %w", dir, err)
	}
	r, err := store.Verify(ctx, part)
	if err != nil {
		return r, err
	}
	return r, os.Rename(part, file)
}

func download(ctx context.Context, url, to string) error {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, url, nil)
	if err != nil {
		return err
	}
	res, err := (&http.Client{Transport: &http.Transport{Proxy: nil}, Timeout: 5 * time.Minute}).Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	if res.StatusCode != http.StatusOK {
		text, _ := io.ReadAll(io.LimitReader(res.Body, 2000)) // what can be read of it
		return fmt.Errorf("it answers %d: %s", res.StatusCode, text)
	}
	f, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(f, res.Body)
	return errors.Join(err, f.Sync(), f.Close())
}

// check reads a data folder or a copy whole.
func check(ctx context.Context, path string, out io.Writer) error {
	if info, err := os.Stat(path); err == nil && info.IsDir() {
		path = filepath.Join(path, store.FileName)
	}
	r, err := store.Verify(ctx, path)
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%s is sound: %s\n", path, told(r))
	return nil
}

// keepEvery is how often it is asked whether a copy or a check is due.
const keepEvery = 10 * time.Minute

// keep makes the copy of the day and the daily check.
func keep(ctx context.Context, svc *estate.Service, log *slog.Logger) {
	wait := 5 * time.Second
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		wait = keepEvery
		if err := svc.Keep(ctx); err != nil && ctx.Err() == nil {
			log.Error("keeping the estate safe", "error", err)
		}
	}
}
