// Package demo is the made-up studio that shows what Dusty Fern does: a studio
// document like any other (docs/formats.md), whose dates follow the day on which
// it is loaded.
package demo

import (
	"context"
	_ "embed"
	"fmt"
	"os"
	"regexp"
	"strconv"
	"time"

	"dustyfern/studio"
	papers "dustyfern/studio/document"
	"dustyfern/studio/journal"
)

// Slug is the demo studio's address.
const Slug = "hollow-lane-sugar-room"

// document has its instants as "@now-4h30m", "@day+5 18:00", "@sat+7 10:00" (the
// Saturday to come and seven days) and "@date-9".
//
//go:embed studio.json
var document []byte

// Use takes another document as the demo, from a file: the tests' own, or a teacher's. It is
// not read before it is wanted.
func Use(file string) error {
	raw, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	if _, err := papers.ReadDocument(asOf(raw, time.Now())); err != nil {
		return fmt.Errorf("%s is no demo studio: %w", file, err)
	}
	document = raw
	return nil
}

var token = regexp.MustCompile(`"@(now|day|sat|date)([+-]\d+)(?:h(\d\d)m)?(?: (\d\d):(\d\d))?"`)

// Document is the demo studio as if it had been begun some hours before now:
// the small fronds are pressed already and lie drying.
func Document(now time.Time) []byte { return asOf(document, now) }

func asOf(document []byte, now time.Time) []byte {
	zone, err := time.LoadLocation("Europe/London")
	if err != nil {
		zone = time.UTC
	}
	now = now.In(zone).Truncate(time.Minute)
	saturday := (int(time.Saturday) - int(now.Weekday()) + 7) % 7
	if saturday == 0 {
		saturday = 7
	}
	return token.ReplaceAllFunc(document, func(found []byte) []byte {
		m := token.FindSubmatch(found)
		n := func(i int) int { x, _ := strconv.Atoi(string(m[i])); return x }
		days, at := n(2), now
		switch string(m[1]) {
		case "now":
			minutes := n(3)
			if m[2][0] == '-' {
				minutes = -minutes
			}
			at = now.Add(time.Duration(days*60+minutes) * time.Minute)
		case "date":
			at = time.Date(now.Year(), now.Month(), now.Day()+days, 0, 0, 0, 0, time.UTC)
		case "sat":
			days += saturday
			fallthrough
		case "day":
			at = time.Date(now.Year(), now.Month(), now.Day()+days, n(4), n(5), 0, 0, zone)
		}
		return []byte(strconv.Quote(at.UTC().Format(time.RFC3339)))
	})
}

// Load brings the demo studio in, through the import that everybody has.
func Load(ctx context.Context, store journal.Store, now time.Time) error {
	s := studio.New(store, func() time.Time { return now })
	if _, err := s.Import(ctx, Document(now)); err != nil {
		return fmt.Errorf("the demo studio: %w", err)
	}
	return nil
}
