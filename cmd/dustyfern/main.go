// Command dustyfern is the bench companion: it serves the application, answers
// single reckonings, and keeps the database in order.
package main

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"log/slog"
	"os"
	_ "time/tzdata" // the studio's zone must be known on every machine

	"dustyfern/api"
	"dustyfern/reckon"
	"dustyfern/store"
)

const usage = `dustyfern start     serve the application (PostgreSQL of its own, or DATABASE_URL)
dustyfern demo      put the demo studio into DATABASE_URL
dustyfern migrate   bring the tables of DATABASE_URL up to date
dustyfern export    STUDIO > studio.json: a studio as one document
dustyfern import    [--look] studio.json: a new studio of a document
dustyfern reckon    TOPIC (JSON on standard input), --batch (JSON Lines), --topics
dustyfern openapi   print the description of the HTTP interface
`

func main() { os.Exit(run(os.Args[1:])) }

func run(args []string) int {
	if len(args) == 0 {
		fmt.Fprint(os.Stderr, usage)
		return 2
	}
	switch args[0] {
	case "start":
		return start(args[1:])
	case "demo":
		return withDatabase("demo", loadDemo)
	case "migrate":
		return withDatabase("migrate", func(ctx context.Context, _ string) error { return store.Migrate(ctx, ownerURL(), nil) })
	case "export":
		return exporting(args[1:])
	case "import":
		return importing(args[1:])
	case "reckon":
		return reckoning(args[1:], os.Stdin, os.Stdout)
	case "openapi":
		_, a := api.New(api.Options{Log: slog.New(slog.DiscardHandler)})
		b, err := a.OpenAPI().MarshalJSON()
		if err != nil {
			return fail("%v", err)
		}
		fmt.Println(string(b))
		return 0
	case "help", "-h", "--help":
		fmt.Print(usage)
		return 0
	}
	fmt.Fprint(os.Stderr, usage)
	return 2
}

// fail says one sentence and gives the exit code of a failure.
func fail(format string, args ...any) int {
	fmt.Fprintf(os.Stderr, "Dusty Fern: "+format+"\n", args...)
	return 1
}

func reckoning(args []string, in io.Reader, out io.Writer) int {
	w := bufio.NewWriter(out)
	defer w.Flush()
	switch {
	case len(args) == 1 && args[0] == "--topics":
		for _, t := range reckon.Topics() {
			fmt.Fprintln(w, t)
		}
	case len(args) == 1 && args[0] == "--batch":
		lines := bufio.NewReader(in)
		for {
			line, err := lines.ReadBytes('\n')
			if len(bytes.TrimSpace(line)) > 0 {
				w.Write(reckon.Line(line))
				w.WriteByte('\n')
				w.Flush()
			}
			if err != nil {
				return 0
			}
		}
	case len(args) == 1:
		raw, err := io.ReadAll(in)
		if err != nil {
			return fail("standard input cannot be read: %v", err)
		}
		line, ok := reckon.Reply(args[0], raw)
		fmt.Fprintln(w, string(line))
		if !ok {
			return 1
		}
	default:
		fmt.Fprint(os.Stderr, usage)
		return 2
	}
	return 0
}
