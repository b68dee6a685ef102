package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"dustyfern/demo"
	"dustyfern/studio"

	"dustyfern/studio/plan"
)

// years is a studio with so many open orders of six pieces, a day apart, and so
// many finished ones behind them, each with all its steps. Its plan is made.
func years(t testing.TB, open, finished int) (*studio.Service, *queries, string) {
	t.Helper()
	s, q := counted(t)
	now := s.Clock()
	var d struct {
		Format      string            `json:"format"`
		Kitchen     map[string]any    `json:"kitchen"`
		Tools       []json.RawMessage `json:"tools"`
		Lots        []json.RawMessage `json:"lots"`
		Commissions []map[string]any  `json:"commissions"`
		Timers      []int             `json:"timers"`
		Journal     []int             `json:"journal"`
	}
	raw := demo.Document(now)
	at := strings.Index(string(raw), `"timers"`)
	if err := json.Unmarshal([]byte(string(raw[:at])+`"timers": [], "journal": []}`), &d); err != nil {
		t.Fatal(err)
	}
	whole := d.Commissions[0]
	d.Commissions = nil
	d.Kitchen["name"] = "Many years"
	copied := func(v any, from, to string) (out any) {
		b, err := json.Marshal(v)
		if err != nil {
			t.Fatal(err)
		}
		if err := json.Unmarshal([]byte(strings.ReplaceAll(string(b), from, to)), &out); err != nil {
			t.Fatal(err)
		}
		return out
	}
	for i := range open + finished {
		c := map[string]any{}
		for k, v := range whole {
			c[k] = v
		}
		c["title"], c["steps"] = fmt.Sprintf("Order %d", i), []any{}
		c["handOver"] = now.AddDate(0, 0, 11+i).UTC().Truncate(time.Hour).Format(time.RFC3339)
		if i >= open {
			c["state"] = "handedOver"
			c["handOver"] = now.AddDate(0, 0, open-i-1).UTC().Truncate(time.Hour).Format(time.RFC3339)
			var steps []any
			for piece := 1; piece <= 6; piece++ {
				for _, st := range copied(whole["steps"], "p1-3.", fmt.Sprintf("p%d-%d.", i+1, piece)).([]any) {
					st.(map[string]any)["piece"] = piece
					steps = append(steps, st)
				}
			}
			c["steps"] = steps
		}
		d.Commissions = append(d.Commissions, c)
	}
	doc, err := json.Marshal(d)
	if err != nil {
		t.Fatal(err)
	}
	if _, test := t.(*testing.T); test {
		s.Budget = time.Minute // what is counted must not depend on how fast this machine is
	}
	row, err := s.Import(t.Context(), doc)
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Plan(t.Context(), row.Slug); err != nil {
		t.Fatal(err)
	}
	return s, q, row.Slug
}

// reads are what a window asks for, all of them bounded.
func reads(t testing.TB, s *studio.Service, slug string) map[string]func() any {
	one := func(v any, err error) any {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	all, err := s.Commissions(t.Context(), slug, 0)
	if err != nil {
		t.Fatal(err)
	}
	first := all.Rows[0].ID
	ctx := t.Context()
	return map[string]func() any{
		"bench":   func() any { v, err := s.Bench(ctx, slug, ""); return one(v, err) },
		"list":    func() any { v, err := s.Commissions(ctx, slug, 0); return one(v, err) },
		"order":   func() any { v, err := s.Commission(ctx, slug, first); return one(v, err) },
		"colours": func() any { v, err := s.Colours(ctx, slug, first); return one(v, err) },
		"needs":   func() any { v, err := s.Needs(ctx, slug); return one(v, err) },
		"line":    func() any { v, err := s.Line(ctx, slug, plan.LineIn{}); return one(v, err) },
		"journal": func() any { v, err := s.Journal(ctx, slug, 0, 0); return one(v, err) },
	}
}

// TestNothingGrowsWithTheYears: behind sixty finished orders, from which all is learnt
// that is ever looked at, 120 more cost a read nothing at all; open ones cost no
// queries, and rows by the order.
func TestNothingGrowsWithTheYears(t *testing.T) {
	t.Parallel()
	type cost struct{ queries, rows, bytes int64 }
	costs := func(open, finished int) map[string]cost {
		s, q, slug := years(t, open, finished)
		out := map[string]cost{}
		for name, read := range reads(t, s, slug) {
			n, rows := q.n.Load(), q.rows.Load()
			v := read()
			b, err := json.Marshal(v)
			if err != nil {
				t.Fatal(err)
			}
			out[name] = cost{q.n.Load() - n, q.rows.Load() - rows, int64(len(b))}
		}
		// a press: what it writes and what it reads for the answer
		b, err := s.Bench(t.Context(), slug, "")
		if err != nil || b.Now == nil {
			t.Fatalf("nothing to press: %v %+v", err, b)
		}
		n, rows := q.n.Load(), q.rows.Load()
		if _, err := s.Hands(t.Context(), slug, b.Now.Op, b.Now.Version, "", true); err != nil {
			t.Fatal(err)
		}
		out["press"] = cost{q.n.Load() - n, q.rows.Load() - rows, 0}
		return out
	}
	few, some, years := costs(5, 60), costs(20, 60), costs(5, 180)
	for name, a := range few {
		b, c := some[name], years[name]
		t.Logf("%s: %+v, with 20 open %+v, with 120 more finished %+v", name, a, b, c)
		if c != a {
			t.Errorf("%s costs %+v, and %+v with 120 more finished orders behind", name, a, c)
		}
		if b.queries > a.queries+2 {
			t.Errorf("%s takes %d queries with 5 open orders, %d with 20", name, a.queries, b.queries)
		}
		if name != "order" && name != "colours" && b.rows > 6*a.rows+40 {
			t.Errorf("%s reads %d rows with 5 open orders, %d with 20", name, a.rows, b.rows)
		}
	}
	// five that are open, and a page of twenty that are closed with their pieces and steps
	if n := few["list"].rows; n > 300+20*(1+6+32) {
		t.Errorf("the list reads %d rows", n)
	}
	for name, most := range map[string]int64{"bench": 120_000, "list": 60_000, "line": 100_000, "order": 20_000, "journal": 30_000} {
		if some[name].bytes > most {
			t.Errorf("%s of 20 open orders is %d bytes", name, some[name].bytes)
		}
	}
}

// TestAnOrderOfFortyPieces is a list; a piece is read when it is taken in hand.
func TestAnOrderOfFortyPieces(t *testing.T) {
	t.Parallel()
	s, q, slug := years(t, 1, 0)
	all, err := s.Commissions(t.Context(), slug, 0)
	if err != nil {
		t.Fatal(err)
	}
	c, err := s.Commission(t.Context(), slug, all.Rows[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	for range 34 {
		if _, err := s.Duplicate(t.Context(), slug, c.Pieces[0].ID); err != nil {
			t.Fatal(err)
		}
	}
	n := q.n.Load()
	if c, err = s.Commission(t.Context(), slug, c.ID); err != nil || len(c.Pieces) != 40 {
		t.Fatal(err, len(c.Pieces))
	}
	b, err := json.Marshal(c)
	if err != nil {
		t.Fatal(err)
	}
	if len(b) > 24_000 || q.n.Load()-n > 15 {
		t.Errorf("%d bytes by %d queries", len(b), q.n.Load()-n)
	}
}

// BenchmarkGrowth is the table of docs/architecture.md: reads and a press at 5,
// 20 and 60 open orders, with none and 500 finished behind.
func BenchmarkGrowth(b *testing.B) {
	for _, open := range []int{5, 20, 60, 100} {
		for _, finished := range []int{0, 500} {
			if open == 100 && finished > 0 {
				continue
			}
			b.Run(fmt.Sprintf("open=%d/finished=%d", open, finished), func(b *testing.B) {
				s, _, slug := years(b, open, finished)
				for name, read := range reads(b, s, slug) {
					var v any
					b.Run(name, func(b *testing.B) {
						for b.Loop() {
							v = read()
						}
						text, err := json.Marshal(v)
						if err != nil {
							b.Fatal(err)
						}
						b.ReportMetric(float64(len(text))/1000, "kB")
					})
				}
				// a count set right and taken back is a press that the freezer never holds up
				op, version := begun(b, s, slug)
				b.Run("plan", func(b *testing.B) {
					for by := 1; b.Loop(); by = -by {
						b.StopTimer()
						v, err := s.Count(b.Context(), slug, op, version, by)
						if err != nil {
							b.Fatal(err)
						}
						version = v.Tallies[0].Version
						b.StartTimer()
						if err := s.Plan(b.Context(), slug); err != nil {
							b.Fatal(err)
						}
					}
				})
				b.Run("press", func(b *testing.B) {
					for by := 1; b.Loop(); by = -by {
						v, err := s.Count(b.Context(), slug, op, version, by)
						if err != nil {
							b.Fatal(err)
						}
						version = v.Tallies[0].Version
					}
				})
			})
		}
	}
}

// begun does what comes first at the bench until a step that counts stands begun.
func begun(t testing.TB, s *studio.Service, slug string) (op string, version int64) {
	t.Helper()
	for range 12 {
		b, err := s.Bench(t.Context(), slug, "")
		if err != nil || b.Now == nil {
			t.Fatalf("nothing to press: %v", err)
		}
		if len(b.Tallies) > 0 {
			return b.Tallies[0].Op, b.Tallies[0].Version
		}
		if _, err := s.Hands(t.Context(), slug, b.Now.Op, b.Now.Version, "", true); err != nil {
			t.Fatal(err)
		}
	}
	t.Fatal("twelve movements, and nothing to count")
	return "", 0
}
