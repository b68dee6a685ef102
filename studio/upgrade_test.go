package studio_test

import (
	"compress/gzip"
	"context"
	"io"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"dustyfern/craft/bench"
	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// before is a house in a database as the version before wrote it, in the middle of an
// evening: fronds drying, two caps of twenty turned out, a sheet of beetles in the
// freezer, paste for the large fronds kneaded and nothing pressed yet.
func before(t *testing.T, name string) *house {
	t.Helper()
	packed, err := os.Open("testdata/database6.sql.gz")
	if err != nil {
		t.Fatal(err)
	}
	defer packed.Close()
	plain, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	sql, err := io.ReadAll(plain)
	if err != nil {
		t.Fatal(err)
	}
	if err := storetest.Exec(t, "postgres", "CREATE DATABASE "+name); err != nil {
		t.Fatal(err)
	}
	c, err := pgx.Connect(t.Context(), storetest.OwnerDSN(name))
	if err != nil {
		t.Fatal(err)
	}
	_, err = c.PgConn().Exec(t.Context(), string(sql)).ReadAll()
	_ = c.Close(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	var from int64
	if err := store.Migrate(t.Context(), storetest.OwnerDSN(name), func(_ context.Context, version int64) error { from = version; return nil }); err != nil || from != 6 {
		t.Fatalf("from %d: %v", from, err)
	}
	s, err := store.Open(t.Context(), storetest.DSN(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	h := &house{t: t, now: time.Date(2026, 11, 24, 20, 13, 0, 0, time.UTC), slug: "hollow-lane-sugar-room"}
	h.Service = studio.New(s, func() time.Time { return h.now })
	h.Wake = h.planNow
	return h
}

// of is a step as it stands.
func (h *house) of(op string) (st noun.Step) {
	h.t.Helper()
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) (err error) { st, err = tx.Step(op); return err }))
	return st
}

func (h *house) stepVersion(op string) int64 { h.t.Helper(); return h.of(op).Version }

// What was half made before the upgrade is gone on with: the same balls, the same
// freezer, nothing pressed twice.
func TestADatabaseOfBefore(t *testing.T) {
	t.Parallel()
	h := before(t, "evening6")
	b := h.bench()
	if b.Now == nil || b.Now.Op != "p4.1.press" || b.Move == nil || b.Move.N != 3 || b.Move.Of != 20 {
		t.Fatalf("%+v %+v", b.Now, b.Move)
	}
	for i := range 3 { // three caps more
		h.now = h.now.Add(time.Minute)
		if _, err := h.Hands(t.Context(), h.slug, "p4.1.press", h.stepVersion("p4.1.press"), bench.PressOut, true); err != nil {
			t.Fatal(i, err)
		}
	}
	if caps := h.of("p4.1.press"); caps.Out() != 5 || len(caps.Fills) != 5 || caps.Planned.Run.Fills != 20 {
		t.Errorf("%+v", caps)
	}
	// the sheet of beetles comes out of the freezer it was in
	h.now = h.now.Add(12 * time.Minute)
	if _, err := h.Hands(t.Context(), h.slug, "p6.1.press", h.stepVersion("p6.1.press"), bench.Open, true); err != nil {
		t.Fatal(err)
	}
	if beetles := h.of("p6.1.press"); beetles.Out() != 3 || beetles.Planned.Run.Fills != 5 {
		t.Errorf("%+v", beetles)
	}
	// each batch presses once, and what it says now of putting on is there as well
	var large []string
	for _, s := range h.steps("") {
		if s.PieceID != nil && *s.PieceID == 1 {
			large = append(large, s.Op[strings.LastIndexByte(s.Op, '.')+1:])
		}
	}
	if n := len(slices.DeleteFunc(slices.Clone(large), func(s string) bool { return !strings.HasPrefix(s, "press") })); n != 1 || !slices.Contains(large, "putOn") {
		t.Errorf("large fronds: %v", large)
	}
	// the rest of the evening: every step of that batch can be finished in its order
	for range 40 {
		now := h.due().Now
		if now == nil || now.PieceID == nil || *now.PieceID != 4 {
			break
		}
		h.now = h.now.Add(2 * time.Minute)
		if _, err := h.Hands(t.Context(), h.slug, now.Op, now.Version, "", true); err != nil {
			t.Fatal(now.Op, err)
		}
	}
	if caps := h.of("p4.1.press"); caps.ActualEnd == nil || caps.Out() != 20 {
		t.Errorf("%+v", caps)
	}
}

// Tools, pieces and the kitchen are those of before, in their new shape.
func TestADrawerOfBefore(t *testing.T) {
	t.Parallel()
	h := before(t, "drawer6")
	ts, err := h.Tools(t.Context(), h.slug)
	h.ok(err)
	names := map[string]string{}
	for _, x := range ts {
		names[x.Name] = x.Kind + "; " + strings.Join(x.Says, "; ")
	}
	for name, want := range map[string]string{
		"Toadstool cap":     "mould with a cavity; 20 mm × 20 mm, 11 mm deep; holds 2.1 ml; 1 copy, straight out",
		"Fern frond, large": "mould with a cavity; 92 mm × 46 mm, 4 mm deep; a piece weighs 4.2 g; 2 copies, chilled",
		"cupped holes":      "holed cups; 40 mm × 40 mm; 24 places; 1 copy",
		"dowels of 30 mm":   "dowels; 30 mm × 30 mm; 4 places; 1 copy",
	} {
		if names[name] != want {
			t.Errorf("%s: %s", name, names[name])
		}
	}
	var cap4 noun.Tool
	h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) (err error) { cap4, err = journal.Get[noun.Tool](tx, 6); return err }))
	if cap4.Of("fillSec") != 90 || cap4.Kind != "cavityMould" || cap4.Cavities() != 1 {
		t.Errorf("%+v", cap4)
	}
	if v := h.view(1, 1); v.ToolName != "Fern frond, large" || v.Missing != "" || v.Make == nil || v.Wanted != 14 {
		t.Errorf("%+v", v)
	}
	// the journal of before can still be read, and what it can put back it does
	page, err := h.Journal(t.Context(), h.slug, 0, 0)
	h.ok(err)
	i := slices.IndexFunc(page.Entries, func(l journal.EntryView) bool { return strings.Contains(l.Says, "how many from 14 to 15") })
	if i < 0 {
		t.Fatalf("%+v", page.Entries)
	}
	h.ok(h.Undo(t.Context(), h.slug, page.Entries[i].ID, false))
	if v := h.view(1, 5); v.Wanted != 14 || v.ToolName != "Toadstool stem" {
		t.Errorf("%+v", v)
	}
}
