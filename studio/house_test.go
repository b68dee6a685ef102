package studio_test

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func TestMain(m *testing.M) { os.Exit(storetest.Run(m)) }

type set = map[string]string

// house is a studio of its own in a database of its own, with a clock.
type house struct {
	*studio.Service
	t    testing.TB
	now  time.Time
	slug string
}

// tuesday evening, in the hours of a new kitchen.
var tuesday = time.Date(2026, 11, 24, 19, 30, 0, 0, time.UTC)

func newHouse(t testing.TB) *house {
	t.Helper()
	s, _ := storetest.Open(t)
	h := &house{t: t, now: tuesday}
	h.Service = studio.New(s, func() time.Time { return h.now })
	h.Wake = h.planNow
	row, err := h.CreateStudio(t.Context(), "Elm Bench", studio.Reads{})
	h.ok(err)
	h.slug = row.Slug
	h.kitchen(set{"hours": "Tue 19:00-22:00\nThu 19:00-22:00\nSat 9:00-13:00"})
	return h
}

// planNow makes the plan as soon as it is wanted, so that tests need not wait for
// it.
func (h *house) planNow(slug string) {
	if err := h.Plan(h.t.Context(), slug); err != nil {
		h.t.Error(err)
	}
}

func (h *house) ok(err error) {
	h.t.Helper()
	if err != nil {
		h.t.Fatal(err)
	}
}

// refused asserts a fault on a field whose sentence holds some words.
func (h *house) refused(err error, field, words string) {
	h.t.Helper()
	var f *fault.Fault
	if !errors.As(err, &f) || f.Field != field || !strings.Contains(f.Message, words) {
		h.t.Errorf("%v: want a fault on %s that says %q", err, field, words)
	}
}

// overtaken asserts that an act came too late, in words.
func (h *house) overtaken(err error, words string) {
	h.t.Helper()
	var o *journal.Overtaken
	if !errors.As(err, &o) || !strings.Contains(o.Say, words) {
		h.t.Errorf("%v: want what happened meanwhile, with %q", err, words)
	}
}

func (h *house) make(kind studio.Kind, parent int64, s set) int64 {
	h.t.Helper()
	id, err := h.Create(h.t.Context(), h.slug, kind, parent, s)
	h.ok(err)
	return id
}

// with fills in what a row needs and is not said.
func with(base, s set) set {
	out := set{}
	for k, v := range base {
		out[k] = v
	}
	for k, v := range s {
		out[k] = v
	}
	return out
}

func (h *house) mould(s set) int64 {
	h.t.Helper()
	return h.make(studio.KindTool, 0, with(set{"name": "Leaf", "lengthMM": "60 mm", "widthMM": "30 mm", "depthMM": "4 mm", "weighedG": "4 g", "breakage": "ordinary"}, s))
}

func (h *house) lot(name, kind, mass string, s set) int64 {
	h.t.Helper()
	return h.make(studio.KindLot, 0, with(set{"name": name, "kind": kind, "massG": mass}, s))
}

func (h *house) order(s set) int64 {
	h.t.Helper()
	return h.make(studio.KindCommission, 0, with(set{"title": "Winter wedding", "handOver": "5 Dec 10:00"}, s))
}

func (h *house) piece(order, mould int64, s set) int64 {
	h.t.Helper()
	return h.make(studio.KindPiece, order, with(set{"name": "Leaves", "wanted": "12", "tool": fmt.Sprint(mould)}, s))
}

// stocked is a house with white paste, flower paste, one mould and one order.
func stocked(t testing.TB) (h *house, mould, order int64) {
	h = newHouse(t)
	h.lot("White", "sugarPaste", "2 kg", nil)
	h.lot("Flower", "flowerPaste", "500 g", set{"holds": "egg"})
	return h, h.mould(nil), h.order(nil)
}

func (h *house) view(_, id int64) work.PieceView {
	h.t.Helper()
	p, err := h.ShowPiece(h.t.Context(), h.slug, id)
	h.ok(err)
	return p
}

// set changes a row from its newest version.
func (h *house) set(kind studio.Kind, id int64, s set) error {
	h.t.Helper()
	return h.Change(h.t.Context(), h.slug, kind, id, journal.ChangeIn{Version: h.version(kind, id), Set: s})
}

func (h *house) version(kind studio.Kind, id int64) (v int64) {
	h.t.Helper()
	rows := map[studio.Kind]noun.Noun{studio.KindTool: &noun.Tool{}, studio.KindLot: &noun.Lot{}, studio.KindCommission: &noun.Commission{}, studio.KindWay: &noun.OwnWay{}, studio.KindRack: &noun.Rack{}, studio.KindPiece: &noun.Piece{}}
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) error { return tx.Take(rows[kind], id) }))
	_, at := rows[kind].Stamp()
	return *at
}

func (h *house) must(kind studio.Kind, id int64, s set) {
	h.t.Helper()
	h.ok(h.set(kind, id, s))
}

func (h *house) kitchen(s set) {
	h.t.Helper()
	k, err := h.Kitchen(h.t.Context(), h.slug)
	h.ok(err)
	_, err = h.ChangeKitchen(h.t.Context(), h.slug, journal.ChangeIn{Version: k.Row.Version, Set: s})
	h.ok(err)
}

func (h *house) line() seenLine {
	h.t.Helper()
	_, err := h.Line(h.t.Context(), h.slug, plan.LineIn{}) // a look at it has a plan made that is due
	h.ok(err)
	l, err := h.Line(h.t.Context(), h.slug, plan.LineIn{})
	h.ok(err)
	return seen(l)
}

// seenLine is the line with what is wrong sorted out: what is late, what is not in the
// plan, and what is wrong with the whole of it.
type seenLine struct {
	plan.LineView
	Late, LeftOut []string
	Trouble       string
}

func seen(v plan.LineView) seenLine {
	out := seenLine{LineView: v}
	for _, x := range v.Troubles {
		switch x.Code {
		case "late":
			out.Late = append(out.Late, x.Commission+": "+x.Says+" "+x.Remedy)
		case "cannot", "never":
			out.LeftOut = append(out.LeftOut, x.Commission+": "+x.Says)
		case "plan":
			out.Trouble += x.Says
		}
	}
	return out
}

// list is the open commissions, then the closed ones.
func (h *house) list() ([]work.CommissionRow, error) {
	v, err := h.Commissions(h.t.Context(), h.slug, 0)
	return append(v.Rows, v.Closed...), err
}

// steps of all orders in the plan, of a kind ("" all), in their order.
func (h *house) steps(kind string) (out []plan.LineStep) {
	h.t.Helper()
	h.line()
	var all []noun.Step
	names := map[int64]string{}
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) (err error) {
		cs, err := tx.OpenCommissions()
		if err != nil {
			return err
		}
		for _, c := range cs {
			names[c.ID] = c.Title
			steps, err := tx.Steps(c.ID)
			if err != nil {
				return err
			}
			all = append(all, work.Derived(steps, tx.Kitchen(), h.now)...)
		}
		return nil
	}))
	for _, s := range all {
		if kind == "" || s.Kind == kind {
			out = append(out, plan.NewLineStep(s, names[s.CommissionID], h.reader(), h.now))
		}
	}
	return out
}

func (h *house) bench() evening.BenchView {
	h.t.Helper()
	_, err := h.Bench(h.t.Context(), h.slug, "")
	h.ok(err)
	b, err := h.Bench(h.t.Context(), h.slug, "")
	h.ok(err)
	return b
}

// reader is who reads in this house.
func (h *house) reader() (r read.Reader) {
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) error {
		k := *tx.Kitchen()
		r.K = &k
		return nil
	}))
	return r
}

// due is the bench when something is due next: now, or when it says.
func (h *house) due() evening.BenchView {
	h.t.Helper()
	b := h.bench()
	if b.Now == nil && b.BeforeMS > 0 {
		h.now = time.UnixMilli(b.BeforeMS).In(h.now.Location())
		b = h.bench()
	}
	return b
}

// back takes back what the bench shows as the last.
func (h *house) back() (evening.BenchView, error) {
	h.t.Helper()
	b := h.bench()
	if b.LastID == 0 {
		return b, nil
	}
	return h.TakeBack(h.t.Context(), h.slug, b.LastID)
}

// finish marks the next step of a kind done.
func (h *house) finish(kind string) plan.LineStep {
	h.t.Helper()
	for _, s := range h.steps(kind) {
		if s.ActualEnd == nil {
			_, err := h.Finish(h.t.Context(), h.slug, s.Op, s.Version, true)
			h.ok(err)
			return s
		}
	}
	h.t.Fatalf("no %s to finish", kind)
	return plan.LineStep{}
}

func grams(p work.PieceView) map[string]float64 {
	out := map[string]float64{}
	for _, m := range p.Paste.Mix {
		out[m.Name] += m.Grams.Value
	}
	return out
}

func has(list []string, words string) bool {
	return slices.ContainsFunc(list, func(s string) bool { return strings.Contains(s, words) })
}

// lots of the pantry, shelf by shelf.
func (h *house) lots() (out []pantry.ShelfLot) {
	h.t.Helper()
	p, err := h.Pantry(h.t.Context(), h.slug)
	h.ok(err)
	for _, sh := range p.Shelves {
		out = append(out, sh.Lots...)
	}
	return out
}

func (h *house) onShelf(name string) pantry.ShelfLot {
	h.t.Helper()
	lots := h.lots()
	i := slices.IndexFunc(lots, func(l pantry.ShelfLot) bool { return l.Name == name })
	if i < 0 {
		h.t.Fatalf("there is no lot %q", name)
	}
	return lots[i]
}

func (h *house) tub(name string) pantry.LotView {
	h.t.Helper()
	v, err := h.Lot(h.t.Context(), h.slug, h.onShelf(name).ID)
	h.ok(err)
	return v
}

type (
	planStep  = plan.LineStep
	waitView  = evening.WaitView
	cautionOf = caution.Caution
	shopLine  = pantry.ShopLine
	txOf      = journal.Tx
	nounWay   = noun.Way
)

// leaf is how far a piece is.
func (h *house) leaf(order, piece int64) work.Leaf {
	h.t.Helper()
	v, err := h.Commission(h.t.Context(), h.slug, order)
	h.ok(err)
	for i, p := range v.Pieces {
		if p.ID == piece {
			return v.Frond[i]
		}
	}
	h.t.Fatalf("no piece %d", piece)
	return work.Leaf{}
}
