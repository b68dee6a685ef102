package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"os"
	"strings"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/journal"
)

// shelf is where studios are taken out of and put into: a running copy of the
// program, or the database itself.
type shelf interface {
	Export(ctx context.Context, slug string) ([]byte, error)
	Look(ctx context.Context, raw []byte) (document.Preview, error)
	Import(ctx context.Context, raw []byte) (document.StudioRow, error)
}

// exporting prints a studio as one document.
func exporting(args []string) int {
	f := flag.NewFlagSet("export", flag.ContinueOnError)
	data := f.String("data", dataFolder(), "folder of the private database")
	if err := f.Parse(args); err != nil || f.NArg() != 1 {
		fmt.Fprint(os.Stderr, "dustyfern export [--data FOLDER] STUDIO > studio.json\n")
		return 2
	}
	return withShelf(*data, func(ctx context.Context, s shelf) error {
		raw, err := s.Export(ctx, f.Arg(0))
		if errors.Is(err, journal.ErrNotFound) {
			return fmt.Errorf("there is no studio %q: its name is the word after /s/ in the address", f.Arg(0))
		}
		if err != nil {
			return err
		}
		_, err = os.Stdout.Write(raw)
		return err
	})
}

// importing makes a studio of a document, or only says what it would make.
func importing(args []string) int {
	f := flag.NewFlagSet("import", flag.ContinueOnError)
	data := f.String("data", dataFolder(), "folder of the private database")
	look := f.Bool("look", false, "only say what it would bring")
	if err := f.Parse(args); err != nil || f.NArg() != 1 {
		fmt.Fprint(os.Stderr, "dustyfern import [--look] [--data FOLDER] studio.json (- for standard input)\n")
		return 2
	}
	in := io.Reader(os.Stdin)
	if f.Arg(0) != "-" {
		file, err := os.Open(f.Arg(0))
		if err != nil {
			return fail("%s cannot be read: %v.", f.Arg(0), errors.Unwrap(err))
		}
		defer file.Close()
		in = file
	}
	raw, err := io.ReadAll(in)
	if err != nil {
		return fail("%s cannot be read: %v.", f.Arg(0), err)
	}
	if _, err := document.ReadDocument(raw); err != nil {
		return fail("nothing was brought in: %v", err)
	}
	return withShelf(*data, func(ctx context.Context, s shelf) error {
		if *look {
			seen, err := s.Look(ctx, raw)
			fmt.Println(seen.Says)
			return err
		}
		row, err := s.Import(ctx, raw)
		if err == nil {
			fmt.Printf("%s is at /s/%s\n", row.Name, row.Slug)
		}
		return err
	})
}

// withShelf opens what holds the studios, and closes it.
func withShelf(folder string, f func(context.Context, shelf) error) int {
	ctx := context.Background()
	if where := runsAlready(folder); os.Getenv("DATABASE_URL") == "" && strings.HasPrefix(where, "http") {
		if err := f(ctx, running(where)); err != nil {
			return fail("%v", err)
		}
		return 0
	}
	d := &data{log: newLog(), s: settings{data: folder, noDemo: true, quiet: true}, clock: time.Now}
	defer d.close()
	open := d.openURL
	if os.Getenv("DATABASE_URL") == "" {
		if _, err := os.Stat(folder); err != nil {
			return fail("there is no data folder %s: name it with --data.", folder)
		}
		open = func(ctx context.Context) error { return d.openPrivate(ctx, "") }
	}
	err := open(ctx)
	if err == nil {
		err = f(ctx, studio.New(d.store, d.clock))
	}
	if err != nil {
		return fail("%v", err)
	}
	return 0
}

// running is a copy of the program that serves already: its address.
type running string

func (r running) ask(req *http.Request, into any) error {
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		return fmt.Errorf("the running Dusty Fern at %s does not answer", string(r))
	}
	defer resp.Body.Close()
	raw, err := io.ReadAll(resp.Body)
	if err != nil {
		return err
	}
	if resp.StatusCode == http.StatusNotFound {
		return journal.ErrNotFound
	}
	if resp.StatusCode != http.StatusOK {
		var p struct{ Detail string }
		_ = json.Unmarshal(raw, &p)
		return errors.New(p.Detail)
	}
	if b, ok := into.(*[]byte); ok {
		*b = raw
		return nil
	}
	return json.Unmarshal(raw, into)
}

func (r running) Export(ctx context.Context, slug string) (raw []byte, err error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, string(r)+"/api/s/"+url.PathEscape(slug)+"/export", nil)
	if err != nil {
		return nil, err
	}
	return raw, r.ask(req, &raw)
}

func (r running) post(ctx context.Context, more string, raw []byte, into any) error {
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, string(r)+"/api/studios/import"+more, bytes.NewReader(raw))
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/json")
	return r.ask(req, into)
}

func (r running) Look(ctx context.Context, raw []byte) (p document.Preview, err error) {
	return p, r.post(ctx, "/look", raw, &p)
}

func (r running) Import(ctx context.Context, raw []byte) (row document.StudioRow, err error) {
	return row, r.post(ctx, "", raw, &row)
}
