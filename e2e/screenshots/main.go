// Command screenshots takes the pictures of docs/screenshots from the demonstration estate:
// make screenshots. With arguments NAME=PATH it takes only those, into the folder OUT or docs/screenshots.
package main

import (
	"context"
	"encoding/json"
	"fmt"
	"log"
	"net/http"
	"os"
	"path/filepath"
	"strings"

	"slowroot/e2e/drive"
)

type picture struct {
	name, path string
	w, h       int64
	press      []string
}

func main() {
	if err := run(); err != nil {
		log.Fatal(err)
	}
}

func run() error {
	dir, err := os.MkdirTemp("", "slowroot-shots")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	prog, err := drive.Start("bin/slowroot", "demo", "--addr", "127.0.0.1:0", "--data", dir)
	if err != nil {
		return err
	}
	defer func() { _ = prog.Stop() }()
	ids, err := blocks(prog.URL)
	if err != nil {
		return err
	}
	ctx, stop, err := drive.Browser()
	if err != nil {
		return err
	}
	defer stop()
	out := os.Getenv("OUT")
	if out == "" {
		out = "docs/screenshots"
	}
	list := []picture{
		{"estate", "/", 1280, 800, nil},
		{"ground", "/blocks/{Gate Field}/ground", 1280, 800, nil},
		{"pit-wall", "/blocks/{Gate Field}/soil", 1280, 900, []string{"Middle"}},
		{"drains", "/blocks/{Orchard Foot}/drains", 1280, 1000, nil},
		{"water-table", "/blocks/{Orchard Foot}/drains", 1280, 900, []string{"Water table"}},
		{"fit", "/blocks/{Gate Field}/fit", 1280, 1000, nil},
		{"prepare", "/blocks/{Hill Paddock}/prepare", 1280, 900, []string{"What binds"}},
		{"climate", "/climate", 1280, 1000, nil},
		{"heights", "/heights", 1280, 800, nil},
		{"stores", "/stores", 1280, 800, nil},
		{"block-rows", "/blocks/{Hill Paddock}/rows", 1280, 800, nil},
		{"working", "/blocks/{North Bank}/rows", 1280, 800, []string{"#rows.stations"}},
		{"block-plants", "/blocks/{Orchard Foot}/plants", 1280, 800, nil},
		{"block-yield", "/blocks/{Long Strip}/yield", 1280, 800, nil},
		{"draw", "/blocks/{Gate Field}/draw", 1280, 800, nil},
		{"jobs", "/jobs", 1280, 800, nil},
		{"sheet", "/sheets/hazelnut", 1280, 800, nil},
		{"bench", "/bench/plants-to-order", 1280, 800, nil},
		{"print", "/blocks/{Orchard Foot}/print", 1000, 1100, nil},
	}
	if len(os.Args) > 1 {
		var some []picture
		for _, a := range os.Args[1:] {
			if name, rest, ok := strings.Cut(a, "="); ok { // any place: name=path|press|press, 1280 by 1000
				parts := strings.Split(rest, "|")
				some = append(some, picture{name, parts[0], 1280, 1000, parts[1:]})
			}
			for _, p := range list {
				if p.name == a {
					some = append(some, p)
				}
			}
		}
		list = some
	}
	for _, pic := range list {
		for name, id := range ids {
			pic.path = strings.ReplaceAll(pic.path, "{"+name+"}", id)
		}
		if err := take(ctx, prog.URL, pic, out); err != nil {
			return fmt.Errorf("%s: %w", pic.name, err)
		}
	}
	return nil
}

func blocks(url string) (map[string]string, error) {
	r, err := http.Get(url + "/api/v1/overview")
	if err != nil {
		return nil, err
	}
	defer r.Body.Close()
	var o struct{ Blocks []struct{ ID, Name string } }
	if err := json.NewDecoder(r.Body).Decode(&o); err != nil {
		return nil, err
	}
	ids := map[string]string{}
	for _, b := range o.Blocks {
		ids[b.Name] = b.ID
	}
	return ids, nil
}

func take(ctx context.Context, url string, pic picture, out string) error {
	page, done, err := drive.Open(ctx, url, pic.w, pic.h)
	if err != nil {
		return err
	}
	defer done()
	if err := page.Go(pic.path); err != nil {
		return err
	}
	for _, words := range pic.press {
		press := page.Press
		if path, ok := strings.CutPrefix(words, "#"); ok {
			press, words = page.PressFigure, path
		}
		if err := press(words); err != nil {
			return err
		}
		if err := page.Settled(); err != nil {
			return err
		}
	}
	png, err := page.Shot()
	if err != nil {
		return err
	}
	for _, p := range page.Problems() {
		fmt.Println(pic.name, p)
	}
	return os.WriteFile(filepath.Join(out, pic.name+".png"), png, 0o644)
}
