package api

import (
	"context"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"dustyfern/demo"
	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio"
)

// queries counts what reaches the database, but what opens and closes a
// transaction.
type queries struct{ n, rows atomic.Int64 }

func (q *queries) TraceQueryStart(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	s := strings.ToLower(strings.TrimSpace(d.SQL))
	if s != "" && !strings.HasPrefix(s, "begin") && !strings.HasPrefix(s, "commit") && !strings.HasPrefix(s, "rollback") && !strings.Contains(s, "set_config") && !strings.HasPrefix(s, "-- ping") {
		q.n.Add(1)
	}
	return ctx
}
func (q *queries) TraceQueryEnd(_ context.Context, _ *pgx.Conn, d pgx.TraceQueryEndData) {
	q.rows.Add(d.CommandTag.RowsAffected())
}

func counted(t testing.TB) (*studio.Service, *queries) {
	h := serve(t, true)
	q := &queries{}
	s, err := store.Open(t.Context(), storetest.DSN(h.name), q)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	service := studio.New(s, func() time.Time { return h.now })
	h.now = time.Date(2026, 12, 2, 19, 10, 0, 0, time.UTC) // at the bench
	if err := service.Plan(t.Context(), demo.Slug); err != nil {
		t.Fatal(err)
	}
	return service, q
}

func TestACommissionIsReadInEighteenQueries(t *testing.T) {
	t.Parallel()
	s, q := counted(t)
	before := q.n.Load()
	if _, err := s.Commission(t.Context(), demo.Slug, 1); err != nil {
		t.Fatal(err)
	}
	if n := q.n.Load() - before; n < 4 || n > 18 {
		t.Errorf("%d queries", n)
	}
}

func TestTheBenchIsReadInFourteenQueries(t *testing.T) {
	t.Parallel()
	s, q := counted(t)
	before := q.n.Load()
	b, err := s.Bench(t.Context(), demo.Slug, "")
	if err != nil || b.Now == nil {
		t.Fatal(err)
	}
	if n := q.n.Load() - before; n < 4 || n > 14 {
		t.Errorf("%d queries", n)
	}
}

// BenchmarkKeyPress is what a Space at the bench costs on the server: a ball
// pressed, the journal, the plan, and the bench read again.
func BenchmarkKeyPress(b *testing.B) {
	s, _ := counted(b)
	ctx := b.Context()
	view, err := s.Bench(ctx, demo.Slug, "")
	if err != nil {
		b.Fatal(err)
	}
	if view, err = s.Hands(ctx, demo.Slug, view.Offers[0].Op, view.Offers[0].Version, "", true); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if view, err = s.Hands(ctx, demo.Slug, view.Now.Op, view.Now.Version, "", true); err != nil {
			b.Fatal(err)
		}
		if view.Move == nil || view.Move.N > 10 {
			b.StopTimer()
			for view.Move == nil || view.Move.N > 2 {
				if view, err = s.TakeBack(ctx, demo.Slug, view.LastID); err != nil {
					b.Fatal(err)
				}
			}
			b.StartTimer()
		}
	}
}

func BenchmarkBenchRead(b *testing.B) {
	s, q := counted(b)
	before, n := q.n.Load(), 0
	for b.Loop() {
		n++
		if _, err := s.Bench(b.Context(), demo.Slug, ""); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(q.n.Load()-before)/float64(n), "queries/op")
}

func BenchmarkCommissionRead(b *testing.B) {
	s, q := counted(b)
	before := q.n.Load()
	n := 0
	for b.Loop() {
		n++
		if _, err := s.Commission(b.Context(), demo.Slug, 1); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(q.n.Load()-before)/float64(n), "queries/op")
}
