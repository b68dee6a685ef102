package studio_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"

	"dustyfern/studio/plan"
)

// facts is everything that is true of the studio's work at this moment: what has
// begun and ended, waits among it, the fills, the clocks that run, and what is in
// the tubs.
func (h *house) facts() string {
	h.t.Helper()
	type fact struct {
		Op         string
		Start, End *time.Time
		Fills      any
		Made       *int
	}
	var out struct {
		Facts  []fact
		Clocks []string
		Lots   []string
	}
	for _, s := range h.steps("") {
		if s.ActualStart != nil {
			f := fact{Op: s.Op, Start: s.ActualStart, End: s.ActualEnd, Made: s.Made}
			if len(s.Fills) > 0 {
				f.Fills = s.Fills
			}
			out.Facts = append(out.Facts, f)
		}
	}
	for _, t := range h.bench().Timers {
		out.Clocks = append(out.Clocks, fmt.Sprint(t.ID, " ", t.Rings))
	}
	for _, l := range h.lots() {
		out.Lots = append(out.Lots, l.Name+" "+l.Mass)
	}
	slices.SortFunc(out.Facts, func(a, b fact) int { return strings.Compare(a.Op, b.Op) })
	slices.Sort(out.Clocks)
	b, err := json.MarshalIndent(out, "", " ")
	h.ok(err)
	return string(b)
}

// TestEachChainForwardAndBack walks a piece from the knead to the box, movement
// by movement, and takes all of it back: at each moment on the way back those
// facts stand that stood there on the way forward. No wait begins of itself and
// stays, no clock rings of what was taken back, no gram is lost.
func TestEachChainForwardAndBack(t *testing.T) {
	t.Parallel()
	for name, begin := range map[string]func(t *testing.T) *house{
		"dry": func(t *testing.T) *house {
			h, m, o := stocked(t)
			h.piece(o, m, set{"wanted": "5", "bent": "yes"})
			return h
		},
		"chilled": func(t *testing.T) *house {
			h, _, _ := chilledEvening(t, nil)
			return h
		},
		"damp": func(t *testing.T) *house {
			h, m, o := stocked(t)
			h.kitchen(set{"rhPercent": "62 %", "tempC": "17 °C"})
			h.piece(o, m, set{"wanted": "4", "joined": "semiDry"})
			return h
		},
		"two parts": func(t *testing.T) *house {
			h, _, o := stocked(t)
			h.kitchen(set{"hours": "Tue 19:00-20:00\nWed 19:00-20:00\nThu 19:00-20:00\nFri 19:00-20:00\nSat 7:00-8:00"})
			m := h.mould(set{"fillSec": "480", "unmouldMinutes": "2"})
			h.piece(o, m, set{"wanted": "9"})
			return h
		},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			h := begin(t)
			type moment struct {
				now   time.Time
				facts string
				did   string
			}
			past := []moment{{h.now, h.facts(), "nothing"}}
			for range 400 {
				b := h.due()
				if b.Now == nil {
					break
				}
				if b.Move != nil && b.Move.Do == "wait" {
					h.now = time.UnixMilli(b.Move.AtMS)
					continue
				}
				if b.Now.Start.After(h.now) {
					h.now = b.Now.Start
				}
				do := ""
				if b.Move != nil {
					do = b.Move.Do
				}
				_, err := h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, do, true)
				var waits *fault.Fault
				if errors.As(err, &waits) { // what it waits for has not ended
					h.after(30 * time.Minute)
					continue
				}
				h.ok(err)
				past = append(past, moment{h.now, h.facts(), b.Now.Op + " " + do})
				h.after(time.Minute)
			}
			if last := past[len(past)-1]; !strings.HasSuffix(last.did, "pack ") {
				t.Fatalf("it ends with %s:\n%s", last.did, last.facts)
			}
			kneads := 0
			for _, m := range past {
				if strings.Contains(m.did, ".knead") {
					kneads++
				}
			}
			if (name == "two parts") != (kneads > 1) {
				t.Fatalf("%d kneads", kneads)
			}
			end := h.now
			for i := len(past) - 1; i > 0; i-- {
				if _, err := h.back(); err != nil {
					t.Fatalf("%s is not taken back: %v", past[i].did, err)
				}
				h.now = past[i-1].now
				if got := h.facts(); got != past[i-1].facts {
					t.Fatalf("%s taken back (%d of %d), after %s:\n%s", past[i].did, i, len(past)-1, past[i-1].did, difference([]byte(past[i-1].facts), []byte(got)))
				}
				h.now = end
			}
		})
	}
}

// TestReadingWritesNothing: hours go by and waits end, every view is looked at,
// and not a row has changed, nor is anybody told of a change.
func TestReadingWritesNothing(t *testing.T) {
	t.Parallel()
	h, o, p := chilledEvening(t, nil)
	h.after(6 * time.Minute).hands()
	for range 2 {
		h.hands()
		h.after(2 * time.Minute)
	}
	h.Wake = nil // the plan is made beside, not by the reader
	rows := func() (out string) {
		h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
			k := tx.Kitchen()
			steps, err := tx.Steps(o)
			h.ok(err)
			plan, err := tx.Plan()
			h.ok(err)
			es, err := tx.Entries(0, 0, 500)
			h.ok(err)
			lots, err := tx.Lots()
			h.ok(err)
			pulse, err := tx.Pulse()
			h.ok(err)
			b, err := json.Marshal([]any{k, steps, plan, es, lots, pulse})
			h.ok(err)
			out = string(b)
			return nil
		}))
		return out
	}
	before := rows()
	for range 4 {
		h.after(9 * time.Hour)
		ctx := t.Context()
		for name, read := range map[string]func() error{
			"bench":      func() error { _, err := h.Bench(ctx, h.slug, ""); return err },
			"line":       func() error { _, err := h.Line(ctx, h.slug, plan.LineIn{}); return err },
			"its line":   func() error { _, err := h.Line(ctx, h.slug, plan.LineIn{Commission: o}); return err },
			"list":       func() error { _, err := h.Commissions(ctx, h.slug, 0); return err },
			"order":      func() error { _, err := h.Commission(ctx, h.slug, o); return err },
			"piece":      func() error { _, err := h.ShowPiece(ctx, h.slug, p); return err },
			"colours":    func() error { _, err := h.Colours(ctx, h.slug, o); return err },
			"needs":      func() error { _, err := h.Needs(ctx, h.slug); return err },
			"pantry":     func() error { _, err := h.Pantry(ctx, h.slug); return err },
			"journal":    func() error { _, err := h.Journal(ctx, h.slug, 0, 0); return err },
			"kitchen":    func() error { _, err := h.Kitchen(ctx, h.slug); return err },
			"the export": func() error { _, err := h.Export(ctx, h.slug); return err },
		} {
			h.ok(read())
			if after := rows(); after != before {
				t.Fatalf("reading %s has written:\n%s", name, difference([]byte(before), []byte(after)))
			}
		}
	}
}
