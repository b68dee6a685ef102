package studio_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// trouble finds a trouble of the bench by its code; nil: there is none.
func (h *house) trouble(code string) *noun.Trouble {
	h.t.Helper()
	all := h.bench().Troubles
	i := slices.IndexFunc(all, func(x noun.Trouble) bool { return x.Code == code })
	if i < 0 {
		return nil
	}
	return &all[i]
}

// told asserts a trouble of a kind whose sentence holds some words.
func (h *house) told(code, words string) *noun.Trouble {
	h.t.Helper()
	x := h.trouble(code)
	if x == nil || !strings.Contains(x.Says, words) || x.Remedy == "" || x.Commission == "" && x.CommissionID != 0 {
		h.t.Fatalf("%+v: want %s with %q; %+v", x, code, words, h.bench().Troubles)
	}
	return x
}

// TestPiecesShortAfterTheLastPress: too few are whole and nothing more is to come.
// Until that is mended nothing of the order goes on the cake.
func TestPiecesShortAfterTheLastPress(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	h.after(time.Hour)
	press := h.finish("press")
	if x := h.trouble("short"); x != nil {
		t.Fatalf("nothing is short yet: %+v", x)
	}
	for h.bench().Tallies[0].Short == 0 {
		_, err := h.Broke(t.Context(), h.slug, press.Op, h.bench().Tallies[0].Version, "tore")
		h.ok(err)
	}
	x := h.told("short", "Leaves: 1 short, 5 whole of 6 wanted")
	if x.More != 2 || !strings.HasSuffix(x.Remedy, "As they break, 2 make it sure.") || // one may break again
		x.PieceID != p || !x.Stops {
		t.Errorf("%+v", x)
	}
	rows, err := h.list()
	h.ok(err)
	if rows[0].Trouble == nil || rows[0].Trouble.Code != "short" || rows[0].Troubles < 1 {
		t.Errorf("%+v", rows[0])
	}
	v, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if len(v.Troubles) == 0 || v.Troubles[0].Code != "short" || len(h.line().Troubles) == 0 {
		t.Errorf("%+v", v.Troubles)
	}
	for i := 0; i < 40 && h.bench().Now != nil && !h.bench().Now.Planned.Places; i++ {
		h.after(6 * time.Hour)
	}
	if b := h.bench(); b.Now != nil && b.Now.Planned.Places || slices.ContainsFunc(b.Next, func(s plan.LineStep) bool { return s.Planned.Places }) {
		t.Errorf("pieces are put on while one is short: %+v", b.Now)
	}
	_, err = h.PressMore(t.Context(), h.slug, p, x.More)
	h.ok(err)
	if x := h.trouble("short"); x != nil {
		t.Errorf("it is on the way: %+v", x)
	}
}

// TestPasteShortIsSaidWithItsHour: each of two orders finds enough, both together do
// not, and the later one is told by when.
func TestPasteShortIsSaidWithItsHour(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	white := h.lot("White", "sugarPaste", "120 g", nil)
	m := h.mould(nil)
	h.piece(h.order(nil), m, set{"wanted": "20", "eaten": "mouthful"})
	if x := h.trouble("stock"); x != nil {
		t.Fatalf("one order finds enough: %+v", x)
	}
	second := h.order(set{"title": "Spring tea", "handOver": "6 Dec 10:00"})
	h.piece(second, m, set{"name": "Buds", "wanted": "20", "eaten": "mouthful"})
	x := h.told("stock", "White short: ")
	var first time.Time
	for _, st := range h.steps("knead") {
		if st.PlannedStart.After(first) {
			first = st.PlannedStart
		}
	}
	if x.By == nil || !x.By.Equal(first) || !strings.Contains(x.Says, "Needed "+first.Format("Mon ")) || x.To != "pantry/shopping" {
		t.Errorf("%+v, kneaded %s", x, first)
	}
	h.must("lots", white, set{"massG": "1 kg"})
	if x := h.trouble("stock"); x != nil {
		t.Errorf("there is enough now: %+v", x)
	}
	h.must("lots", white, set{"bestBefore": "20 Nov 2026"})
	if x := h.told("old", "White is past its date, 20 Nov 2026"); x.By == nil || x.To == "" {
		t.Errorf("%+v", x)
	}
}

// TestKneadedPasteIsWatched: it is said before the paste is lost, and when it is.
func TestKneadedPasteIsWatched(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start.Add(10 * time.Minute)
	h.finish("knead")
	if x := h.trouble("lying"); x != nil {
		t.Fatalf("just kneaded: %+v", x)
	}
	keeps := 0
	for _, g := range h.steps("press")[0].Planned.Kept.After {
		if g.Max != nil {
			keeps = max(keeps, *g.Max)
		}
	}
	if keeps < 60 {
		t.Fatalf("paste keeps %d min in its bag", keeps)
	}
	h.after(time.Duration(keeps-20) * time.Minute)
	h.told("lying", "the kneaded paste keeps until")
	h.after(2 * time.Hour)
	x := h.told("lying", "has lain longer than it keeps")
	if !strings.Contains(x.Remedy, "knead it again") || x.CommissionID != o {
		t.Errorf("%+v", x)
	}
	h.finish("press")
	if x := h.trouble("lying"); x != nil {
		t.Errorf("it is pressed: %+v", x)
	}
}

// TestAStepThatCouldNotBeKept is told with where it stood and where it hangs now,
// until it is begun.
func TestAStepThatCouldNotBeKept(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	first := h.steps("knead")[0]
	h.now = first.PlannedStart.Add(40 * time.Minute)
	h.bench() // has the line hung anew
	x := h.told("missed", "could not be kept")
	if !strings.Contains(strings.ToLower(x.Says), strings.ToLower(first.Title)) || !strings.Contains(x.Says, "planned for "+first.PlannedStart.Format("Mon 15:04")+", now ") || x.To == "" || x.CommissionID != o {
		t.Errorf("%+v", x)
	}
	h.finish("knead")
	if x := h.trouble("missed"); x != nil && strings.Contains(x.Says, first.Title) {
		t.Errorf("it is done: %+v", x)
	}
}

// TestTheDearestTroubleStandsFirst: an order that is over, one that is late, a piece
// that cannot be planned.
func TestTheDearestTroubleStandsFirst(t *testing.T) {
	t.Parallel()
	h, m, _ := stocked(t)
	soon := h.order(set{"title": "Too soon", "handOver": "24 Nov 20:30"})
	h.piece(soon, m, set{"wanted": "40"})
	lost := h.order(set{"title": "No tool"})
	h.make("pieces", lost, set{"name": "Stars", "wanted": "4"})
	h.told("late", "Late by ")
	if x := h.told("cannot", "Stars: "); !x.Stops || x.To == "" {
		t.Errorf("%+v", x)
	}
	all := h.bench().Troubles
	for i := range all[1:] {
		if noun.TroubleCost(all[i].Code) > noun.TroubleCost(all[i+1].Code) {
			t.Errorf("%s before %s", all[i].Code, all[i+1].Code)
		}
	}
	h.now = h.now.Add(26 * time.Hour)
	if x := h.told("handOver", "The hand-over is over"); x.Commission != "Too soon" {
		t.Errorf("%+v", x)
	}
}

// TestShortIsTheSameEverywhere: what the pantry page says of an order and what its line
// says are one sum, shared out in the order in which paste is kneaded, not by hand-over.
func TestShortIsTheSameEverywhere(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("White", "sugarPaste", "120 g", nil)
	m := h.mould(nil)
	orders := map[int64]string{}
	for i, x := range []struct{ handOver, eaten, wanted string }{
		{"Sun week 18:00", "mouthful", "10"}, // handed over first, kneaded as late as it keeps
		{"Mon week 18:00", "mouthful", "9"},
		{"Sat 5 Dec 2026, 18:00", "mouthful", "14"},
		{"Sun 6 Dec 2026, 10:00", "shown", "8"},
	} {
		o := h.order(set{"title": fmt.Sprint("Order ", i), "handOver": x.handOver})
		orders[o] = fmt.Sprint("Order ", i)
		p := h.piece(o, m, set{"name": "Leaves", "wanted": x.wanted})
		h.must(studio.KindPiece, p, set{"eaten": x.eaten, "peg": "0.4"})
	}
	for _, has := range []string{"30 g", "60 g", "90 g", "120 g"} {
		h.must(studio.KindLot, h.tub("White").ID, set{"massG": has})
		h.bench()
		needs, err := h.Needs(t.Context(), h.slug)
		h.ok(err)
		does := 0
		for _, n := range needs.Commissions {
			v, err := h.Commission(t.Context(), h.slug, n.ID)
			h.ok(err)
			short := slices.ContainsFunc(v.Troubles, func(x noun.Trouble) bool { return x.Code == "stock" })
			if short == n.Does {
				t.Errorf("%s there: %s %s in the pantry, %+v on its own page", has, n.Title, n.Says, v.Troubles)
			}
			if n.Does {
				does++
			}
		}
		if does == 0 && has != "30 g" || does == len(orders) {
			t.Errorf("%s does for %d orders: nothing is seen by it", has, does)
		}
	}
}

// TestADampRoomIsOneThingToSee: what the air keeps from setting is one line at the bench, however
// many pieces it is; each has its own line in its order.
func TestADampRoomIsOneThingToSee(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	second := h.order(set{"title": "Harvest supper"})
	for i, order := range []int64{o, o, o, o, second, second, second} {
		h.piece(order, m, set{"name": fmt.Sprintf("Leaves %c", 'A'+i), "joined": "dry"})
	}
	h.kitchen(set{"rhPercent": "85 %"})
	nevers := func(all []noun.Trouble) (says []string) {
		for _, x := range all {
			if x.Code == "never" {
				says = append(says, x.Says)
			}
		}
		return says
	}
	b, err := h.Bench(t.Context(), h.slug, "")
	h.ok(err)
	want := "Leaves A will not set here: at 85 % humidity it takes too long or never comes to it. The same of Leaves B, Leaves C, Leaves D, Leaves E and 2 more."
	if got := nevers(b.Troubles); len(got) != 1 || got[0] != want {
		t.Errorf("the bench says %q", got)
	}
	c, err := h.Commission(t.Context(), h.slug, second)
	h.ok(err)
	if got := nevers(c.Troubles); len(got) != 3 {
		t.Errorf("the order says %q", got)
	}
}
