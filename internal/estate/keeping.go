package estate

import (
	"context"
	"errors"
	"io"
	"os"
	"path/filepath"
	"time"

	"slowroot/internal/store"
)

// Copies is how safe the estate is: the copies in its folder, when one last left it, and what a full check found.
type Copies struct {
	Copies  []store.CopyInfo `json:"copies"`
	Taken   string           `json:"taken"`   // when a copy last left the data folder, RFC 3339; "" never
	Remind  bool             `json:"remind"`  // seven days of changes lie in this folder only
	Trouble string           `json:"trouble"` // what the last full check found; while it is not "" nothing is written
	Folder  string           `json:"folder"`
}

// Restored is what was put in place, and where what stood is kept.
type Restored struct {
	Estate string `json:"estate"`
	Blocks int    `json:"blocks"`
	Kept   string `json:"kept"`
}

// Copies lists them.
func (s *Service) Copies(ctx context.Context) (Copies, error) {
	c := Copies{Copies: s.store.Copies(), Folder: s.store.Folder()}
	taken, err := s.store.Taken(ctx)
	if err != nil {
		return c, err
	}
	if !taken.IsZero() {
		c.Taken = taken.Format(time.RFC3339)
	}
	if c.Remind, err = s.store.RemindToCopy(ctx); err != nil {
		return c, err
	}
	if t := s.store.Trouble(); t != nil {
		c.Trouble = t.Error()
	}
	return c, nil
}

// MakeCopy makes a copy in the data folder now.
func (s *Service) MakeCopy(ctx context.Context) (Copies, error) {
	if _, err := s.store.Copy(ctx); err != nil {
		return Copies{}, err
	}
	return s.Copies(ctx)
}

// TakeCopy writes a whole copy to w, which leaves the data folder, and remembers that.
func (s *Service) TakeCopy(ctx context.Context, w io.Writer) error {
	dir, err := os.MkdirTemp(s.store.Folder(), ".taking-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "copy.db")
	if _, err := s.store.Backup(ctx, file); err != nil {
		return err
	}
	return s.send(ctx, file, w)
}

// TakeArchive writes everything to w as an open archive, and remembers that it left the data folder.
func (s *Service) TakeArchive(ctx context.Context, w io.Writer) error {
	if _, err := s.store.Estate(ctx); err != nil {
		return err
	}
	if err := s.store.Archive(ctx, w); err != nil {
		return err
	}
	return s.store.NoteTaken(ctx)
}

// TakeKept writes a copy kept in the data folder to w.
func (s *Service) TakeKept(ctx context.Context, name string, w io.Writer) error {
	file, err := s.store.CopyPath(name)
	if err != nil {
		return err
	}
	return s.send(ctx, file, w)
}

func (s *Service) send(ctx context.Context, file string, w io.Writer) error {
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := io.Copy(w, f); err != nil {
		return err
	}
	return s.store.NoteTaken(ctx)
}

// RestoreKept puts a copy kept in the data folder in place.
func (s *Service) RestoreKept(ctx context.Context, name string) (Restored, error) {
	file, err := s.store.CopyPath(name)
	if err != nil {
		return Restored{}, err
	}
	return s.replace(ctx, file)
}

// Restore puts the copy read from r in place. It is read whole and verified before anything is touched.
func (s *Service) Restore(ctx context.Context, r io.Reader) (Restored, error) {
	dir, err := os.MkdirTemp(s.store.Folder(), ".arriving-")
	if err != nil {
		return Restored{}, err
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "sent copy")
	f, err := os.OpenFile(file, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return Restored{}, err
	}
	_, err = io.Copy(f, r)
	if err := errors.Join(err, f.Close()); err != nil {
		return Restored{}, err
	}
	return s.replace(ctx, file)
}

func (s *Service) replace(ctx context.Context, file string) (Restored, error) {
	if store.IsArchive(file) {
		dir, err := os.MkdirTemp(s.store.Folder(), ".arriving-")
		if err != nil {
			return Restored{}, err
		}
		defer os.RemoveAll(dir)
		if file, err = store.Unarchive(ctx, file, dir, store.Options{Upcast: Upcast}); err != nil {
			return Restored{}, err
		}
	}
	report, err := store.Verify(ctx, file)
	if err != nil {
		return Restored{}, err
	}
	kept, err := s.store.Replace(context.WithoutCancel(ctx), file)
	if err != nil {
		return Restored{}, err
	}
	s.memory.forget()
	s.stationReads.Add(1) // the days a station sent are others now
	return Restored{report.Estate, report.Blocks, kept}, nil
}

// Keep makes the copy of the day and the full check when they are due.
func (s *Service) Keep(ctx context.Context) error {
	var errs []error
	if s.store.CopyDue(ctx) {
		_, err := s.store.Copy(ctx)
		errs = append(errs, err)
	}
	if s.store.CheckDue() {
		errs = append(errs, s.store.FullCheck(ctx))
	}
	return errors.Join(errs...)
}
