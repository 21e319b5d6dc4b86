// Command slowroot plans the establishment and management of perennial crops.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"
	"time"

	"slowroot/core/civil"
	"slowroot/core/practice"
	"slowroot/demo"
	"slowroot/internal/estate"
	"slowroot/internal/server"
	"slowroot/internal/store"
	"slowroot/web"
)

// Version is the program's; build is stamped by the linker.
const Version = "0.1.0"

var build = "source"

const usage = `slowroot plans the establishment and management of perennial crops.

  slowroot serve   [--addr 127.0.0.1:8420] [--data DIR] [--today YYYY-MM-DD] [--as-it-is]
  slowroot demo    [--addr 127.0.0.1:8420] [--data DIR] [--today YYYY-MM-DD]
  slowroot backup  --data DIR FILE     writes a whole copy and reads it back, also while a program runs on DIR
  slowroot export  --data DIR FILE.zip writes everything as an open archive: JSON lines, heights, weather, sheets
  slowroot restore --data DIR FILE     puts a copy or an archive in place; what was there is kept beside it; no program may run on DIR
  slowroot check   DIR or FILE         reads a data folder or a copy whole and says what it holds
  slowroot simulate soil-lab        [--addr 127.0.0.1:8432] [--seed N] [--delay 20s]
  slowroot simulate weather-station [--addr 127.0.0.1:8431] [--seed N] [--today DAY] [--per-day 1m] [--south] [--no-faults]
  slowroot version

serve starts with what DIR holds and offers to begin an estate or load the demonstration. While it runs it keeps a
verified copy of each of the last seven days, four weeks and twelve months in DIR/copies. --as-it-is goes on with a
folder whose last run left no log.
demo fills an empty DIR with the demonstration estate. Port 0 picks a free port; the address is the
first line printed. simulate runs a made-up laboratory or weather station on this machine, to be entered
under the estate's settings; the program reads them as it would real ones.
`

func main() {
	// Few people read an estate and it is small: memory is spent for answers that come sooner, up to a gigabyte of it. Who set
	// GOGC or GOMEMLIMIT keeps their own.
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(150)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(1 << 30)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := run(ctx, os.Args[1:], os.Stdout, os.Stderr); err != nil {
		fmt.Fprintln(os.Stderr, "slowroot:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, args []string, out, errOut io.Writer) error {
	if len(args) == 0 {
		fmt.Fprint(errOut, usage)
		return errors.New("say what to do: serve, demo, backup, export, restore, check, simulate or version")
	}
	cmd, args := args[0], args[1:]
	if cmd == "simulate" {
		return simulate(ctx, args, out, errOut)
	}
	f := flag.NewFlagSet(cmd, flag.ContinueOnError)
	f.SetOutput(errOut)
	f.Usage = func() { fmt.Fprint(errOut, usage) }
	addr := f.String("addr", "127.0.0.1:8420", "address to listen on")
	data := f.String("data", "", "data folder")
	today := f.String("today", "", "day the plan is seen from")
	verbose := f.Bool("verbose", false, "log every request")
	asItIs := f.Bool("as-it-is", false, "go on although the log of the last run is missing")
	if err := f.Parse(args); err != nil {
		return err
	}
	switch cmd {
	case "version":
		fmt.Fprintf(out, "slowroot %s (build %s, %s)\n", Version, build, goVersion())
		return nil
	case "check":
		if f.NArg() != 1 {
			return errors.New("check needs one DIR or FILE")
		}
		return check(ctx, f.Arg(0), out)
	case "backup", "restore", "export":
		if f.NArg() != 1 || *data == "" {
			return fmt.Errorf("%s needs --data DIR and one FILE", cmd)
		}
		return copyEstate(ctx, cmd, *data, f.Arg(0), out)
	case "serve", "demo":
		level := slog.LevelInfo
		if *verbose {
			level = slog.LevelDebug
		}
		log := slog.New(slog.NewTextHandler(errOut, &slog.HandlerOptions{Level: level}))
		if *data == "" {
			*data = map[string]string{"serve": "data", "demo": "demo-data"}[cmd]
		}
		return serve(ctx, cmd == "demo", *addr, *data, *today, *asItIs, out, log)
	}
	fmt.Fprint(errOut, usage)
	return fmt.Errorf("%q is not something slowroot does", cmd)
}

func goVersion() string {
	if bi, ok := debug.ReadBuildInfo(); ok {
		return bi.GoVersion
	}
	return "unknown Go"
}

func serve(ctx context.Context, withDemo bool, addr, dir, today string, asItIs bool, out io.Writer, log *slog.Logger) error {
	if !server.Loopback(addr) {
		return fmt.Errorf("--addr %s is not a loopback address: until people and roles exist the program serves this machine only; use 127.0.0.1:PORT", addr)
	}
	day, err := civil.Parse(today)
	if err != nil {
		return fmt.Errorf("--today: %w", err)
	}
	demonstration, err := estate.ReadDemonstration(demo.Files)
	if err != nil {
		return fmt.Errorf("reading the demonstration: %w", err)
	}
	if withDemo && day.IsZero() {
		day = demonstration.Today
	}
	clock := func() civil.Date { return day }
	if day.IsZero() {
		clock = func() civil.Date {
			y, m, d := time.Now().Date()
			return civil.Must(y, int(m), d)
		}
	}
	sheets, err := practice.BuiltIn()
	if err != nil {
		return fmt.Errorf("reading the practice sheets: %w", err)
	}
	st, err := store.Open(ctx, dir, store.Options{AsItIs: asItIs, Upcast: estate.Upcast})
	if err != nil {
		return err
	}
	defer st.Close()
	svc := estate.New(st, sheets, clock)
	if withDemo {
		if _, err := svc.Estate(ctx); errors.Is(err, store.ErrNotFound) {
			if _, err := svc.LoadDemonstration(ctx, demonstration); err != nil {
				return fmt.Errorf("loading the demonstration: %w", err)
			}
		} else if err != nil {
			return err
		}
	}
	dist, err := fs.Sub(web.Dist, "dist")
	if err != nil {
		return err
	}
	ln, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", addr, err)
	}
	srv := server.HTTP(server.New(server.Config{Estate: svc, Demo: func() (estate.Demonstration, error) { return demonstration, nil },
		Web: dist, Version: Version, Build: build, TodayFixed: !day.IsZero(), Log: log}))
	// Whoever reads the address may ask for a copy at once: the folder says where the program is before the program does.
	if err := st.Announce(ln.Addr().String()); err != nil {
		return err
	}
	fmt.Fprintf(out, "http://%s\n", ln.Addr())
	log.Info("serving", "data", dir, "today", clock().String())
	go poll(ctx, svc, log)
	go keep(ctx, svc, log)
	done := make(chan error, 1)
	go func() { done <- srv.Serve(ln) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping")
	stop, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	if err := srv.Shutdown(stop); err != nil {
		return err
	}
	if err := <-done; !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}
