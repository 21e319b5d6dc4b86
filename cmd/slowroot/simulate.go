package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"time"

	"slowroot/core/civil"
	"slowroot/core/finding"
	"slowroot/internal/estate"
	"slowroot/internal/server"
	"slowroot/internal/standin"
)

// simulate runs a stand-in for an outside device or service until it is stopped.
func simulate(ctx context.Context, args []string, out, errOut io.Writer) error {
	if len(args) == 0 {
		return errors.New("say what to simulate: soil-lab or weather-station")
	}
	kind := args[0]
	addrs := map[string]string{"soil-lab": "127.0.0.1:8432", "weather-station": "127.0.0.1:8431"}
	f := flag.NewFlagSet(kind, flag.ContinueOnError)
	f.SetOutput(errOut)
	f.Usage = func() { fmt.Fprint(errOut, usage) }
	addr := f.String("addr", addrs[kind], "address to listen on")
	seed := f.Uint64("seed", 1, "what is made up follows from it")
	delay := f.Duration("delay", 20*time.Second, "soil-lab: from request to report")
	today := f.String("today", "", "weather-station: the last day it has at its start")
	perDay := f.Duration("per-day", 24*time.Hour, "weather-station: how long a day takes")
	south := f.Bool("south", false, "weather-station: south of the equator")
	clean := f.Bool("no-faults", false, "weather-station: no gaps and no nonsense")
	if err := f.Parse(args[1:]); err != nil {
		return err
	}
	var h http.Handler
	switch kind {
	case "soil-lab":
		h = (&standin.Laboratory{Seed: *seed, Delay: *delay}).Handler()
	case "weather-station":
		day, err := civil.Parse(*today)
		if err != nil {
			return fmt.Errorf("--today: %w", err)
		}
		if day.IsZero() {
			y, m, d := time.Now().Date()
			day = civil.Must(y, int(m), d)
		}
		h = (&standin.Station{Seed: *seed, South: *south, Begins: day.AddMonths(-12), Today: day, PerDay: *perDay, Started: time.Now(), Faults: !*clean}).Handler()
	default:
		return fmt.Errorf("%q cannot be simulated; soil-lab and weather-station can", kind)
	}
	if !server.Loopback(*addr) {
		return fmt.Errorf("--addr %s is not a loopback address: a stand-in serves this machine only", *addr)
	}
	ln, err := net.Listen("tcp", *addr)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", *addr, err)
	}
	fmt.Fprintf(out, "http://%s\n", ln.Addr())
	srv := server.HTTP(h)
	done := make(chan error, 1)
	go func() { done <- srv.Serve(ln) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	return srv.Close()
}

// pollEvery is how often a weather station that is entered is asked.
const pollEvery = time.Hour

// poll asks the weather station again and again. One that does not answer is asked again later.
func poll(ctx context.Context, svc *estate.Service, log *slog.Logger) {
	wait := time.Minute
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		wait = pollEvery
		got, err := svc.PollStation(ctx)
		var none *finding.FieldError
		switch {
		case errors.As(err, &none): // no station is entered
		case err != nil:
			log.Warn("weather station", "error", err)
		case got.New > 0:
			log.Info("weather station", "days", got.New, "to", got.To.String())
		}
	}
}
