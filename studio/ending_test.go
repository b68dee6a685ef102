package studio_test

import (
	"bytes"
	"errors"
	"math"
	"slices"
	"strings"
	"testing"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/leaving"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

func (h *house) dust(name, kind, hex string, s set) int64 {
	h.t.Helper()
	return h.lot(name, kind, "5 g", with(set{"swatch": hex, "labelRead": "yes"}, s))
}

func (h *house) tones(piece int64, passes ...noun.Pass) error {
	h.t.Helper()
	return h.SetTones(h.t.Context(), h.slug, piece, h.version(studio.KindPiece, piece), passes)
}

func tone(role string, percent float64, times int, lots ...int64) (p noun.Pass) {
	p = noun.Pass{Role: role, Percent: percent, Times: times}
	for _, l := range lots {
		p.Lots = append(p.Lots, noun.DustPart{Lot: l, Parts: 1})
	}
	return p
}

func (h *house) leaving(order int64) leaving.LeavingView {
	h.t.Helper()
	v, err := h.Leaving.Read(h.t.Context(), h.slug, order)
	h.ok(err)
	return v
}

// TestTonesAreStepsAndComeOutOfThePantry: dust in its order at the step that dusts, paint in
// coats with waits, what fixes it, and grams out of the lots; one undo takes tones back.
func TestTonesAreStepsAndComeOutOfThePantry(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	moss, bark := h.dust("Moss", "petalDust", "#6F7F3F", nil), h.dust("Bark", "petalDust", "#5A3A22", nil)
	gold := h.dust("Gold", "metalPowder", "#C49A3A", nil)
	p := h.piece(o, m, set{"joined": "dry"})
	h.ok(h.tones(p, tone("high", 20, 2, moss), tone("depth", 25, 2, bark), tone("base", 100, 2, moss, bark), tone("speck", 10, 1, gold)))
	v := h.view(o, p).Finish
	var order []string
	for _, x := range v.Tones {
		order = append(order, x.Role)
	}
	if got := strings.Join(order, " "); got != "base depth high speck" {
		t.Errorf("they come on as %s", got)
	}
	if v.Lock == nil || v.Lock.Code != "steam" || v.Minutes == nil {
		t.Errorf("%+v", v)
	}
	dust, coats := h.steps("dust"), h.steps("paint")
	if len(dust) != 1 || len(dust[0].Planned.Uses) != 2 || len(coats) == 0 || len(h.steps("lock")) != 1 {
		t.Fatalf("%d steps dust, %d paint", len(dust), len(coats))
	}
	if !has(coats[0].Says, "citrus extract") || !has(coats[0].Cautions, "Clear spirit and extract") {
		t.Errorf("%v", coats[0].Says)
	}
	h.must(studio.KindCommission, o, set{"without": "alcohol"})
	if coats = h.steps("paint"); !has(coats[0].Says, "piping gel") || has(coats[0].Says, "extract") {
		t.Errorf("without alcohol: %v", coats[0].Says)
	}
	for _, kind := range []string{"knead", "press"} {
		h.finish(kind)
	}
	h.finish("dust")
	if left := h.raw(moss).MassG; left >= 5 || left < 4.5 {
		t.Errorf("%g g of moss are left of 5", left)
	}
	h.undo() // the dusting
	if left := h.raw(moss).MassG; math.Abs(left-5) > 1e-9 {
		t.Errorf("%g g of moss after it was taken back", left)
	}
	if coats[0].Cautions == nil || has(coats[0].Cautions, "Clear spirit and extract") {
		t.Errorf("no spirit is in hand: %v", coats[0].Cautions)
	}
	for _, st := range h.steps("dust") {
		if st.Planned.Draws {
			t.Error("dust is taken for paste")
		}
	}
	h.refused(h.tones(p, tone("nose", 20, 2, moss)), "passes[0].role", "where the tone goes")
	h.refused(h.tones(p, tone("base", 0, 2, moss)), "passes[0].percent", "1 to 100")
	h.refused(h.tones(p, tone("base", 50, 2, 9999)), "passes[0].lots", "not in the pantry")
	shell := h.dust("Shell", "lustreDust", "#F2F0EA", set{"holds": "crustaceans"})
	h.must(studio.KindCommission, o, set{"allergies": "crustaceans"})
	h.refused(h.tones(p, tone("high", 20, 2, shell)), "passes[0].lots", "holds crustaceans")
	if n := len(h.pieceRow(p).Finish.Passes); n != 4 {
		t.Errorf("%d tones after what was refused", n)
	}
}

// TestTonesAndFieldsAreKeptSideBySide: windows that read the same piece say tones and a name; only
// tones said twice from one reading meet one another.
func TestTonesAndFieldsAreKeptSideBySide(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	moss := h.dust("Moss", "petalDust", "#6F7F3F", nil)
	p := h.piece(o, m, nil)
	first := h.version(studio.KindPiece, p)
	h.ok(h.tones(p, tone("base", 100, 1, moss)))
	h.ok(h.Change(t.Context(), h.slug, studio.KindPiece, p, journal.ChangeIn{Version: first, Set: set{"name": "Ferns"}}))
	h.ok(h.SetTones(t.Context(), h.slug, p, first+1, []noun.Pass{tone("base", 100, 3, moss)})) // read before it was renamed
	if v := h.view(o, p); v.Name != "Ferns" || len(v.Finish.Tones) != 1 || v.Finish.Tones[0].Times != 3 {
		t.Errorf("%s with %+v", v.Name, v.Finish.Tones)
	}
	if err := h.SetTones(t.Context(), h.slug, p, first+1, nil); !errors.Is(err, journal.ErrStale) {
		t.Errorf("tones said from what stood before were taken: %v", err)
	}
}

// TestDustIsOnTheShoppingList: what the tones of open orders take is claimed and bought like
// paste, and what was brushed on already is not wanted again.
func TestDustIsOnTheShoppingList(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	moss := h.dust("Moss", "petalDust", "#6F7F3F", set{"massG": "0.02 g"})
	p := h.piece(o, m, set{"wanted": "40"})
	h.ok(h.tones(p, tone("base", 100, 2, moss)))
	dust := func() (need, short string) {
		n, err := h.Needs(t.Context(), h.slug)
		h.ok(err)
		for _, l := range n.Commissions[0].Lines {
			if l.Name == "Moss" {
				need = l.Need
			}
		}
		for _, l := range n.Shopping {
			if l.Name == "Moss" {
				short = l.Short.Text
			}
		}
		return need, short
	}
	if need, short := dust(); need == "" || short == "" {
		t.Errorf("%q of moss wanted, %q short", need, short)
	}
	h.must(studio.KindLot, moss, set{"massG": "5 g"})
	if need, short := dust(); need == "" || short != "" {
		t.Errorf("%q of moss wanted of 5 g, %q short", need, short)
	}
	for _, kind := range []string{"knead", "press", "dust"} {
		h.finish(kind)
	}
	if need, _ := dust(); need != "" {
		t.Errorf("%q of moss wanted after the dusting", need)
	}
}

// TestAMixOfOwnedDusts is found for a tone, by parts, as it looks on the piece.
func TestAMixOfOwnedDusts(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	_, err := h.MixTone(t.Context(), h.slug, p, "#7F8F4A", 2)
	h.refused(err, "target", "no dust")
	h.dust("Moss", "petalDust", "#5B6B3A", nil)
	h.dust("Straw", "petalDust", "#D9C36A", nil)
	mixes, err := h.MixTone(t.Context(), h.slug, p, "#A9B27A", 5)
	h.ok(err)
	if len(mixes) == 0 || !strings.Contains(mixes[0].Says, " : ") || mixes[0].Reach == "out of reach" {
		t.Errorf("%+v", mixes)
	}
	_, err = h.MixTone(t.Context(), h.slug, p, "no colour at all", 2)
	h.refused(err, "target", "")
}

// TestWhatHoldsAPiece is said with its reasons; the own choice replaces it unless it does not
// hold; what came off lowers its limit here, and the label follows.
func TestWhatHoldsAPiece(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "joined": "dry"})
	h.must(studio.KindPiece, p, set{"load": "hanging"})
	join := func() *work.JoinView { return h.view(o, p).Join }
	if v := join(); !v.Fits || v.With != "water" || len(v.Refused) == 0 || len(v.Figures) < 2 || v.Figures[0].Why == nil {
		t.Fatalf("%+v", join())
	}
	h.must(studio.KindPiece, p, set{"with": "gumGlue"})
	if v := join(); v.With != "gumGlue" || !v.Own || !has(h.steps("putOn")[0].Says, "Edible glue") {
		t.Errorf("%+v %v", v, h.steps("putOn")[0].Says)
	}
	h.must(studio.KindPiece, p, set{"with": ""})
	h.ok(h.Leaving.Held(t.Context(), h.slug, p, false))
	h.ok(h.Leaving.Held(t.Context(), h.slug, p, false))
	if v := join(); v.With == "water" {
		t.Errorf("water fell twice and is still ours: %+v", v.Says)
	}
	h.must(studio.KindPiece, p, set{"load": "standing", "with": "meltedChocolate"})
	if v := join(); !strings.Contains(v.Clash, "holds on chocolate only") {
		t.Errorf("%q", v.Clash)
	}
	h.refused(h.set(studio.KindPiece, p, set{"load": "floating"}), "load", "")
	h.refused(h.set(studio.KindPiece, p, set{"inserts": "two wires"}), "inserts", "1 wire, 1 pick")
	h.refused(h.set(studio.KindPiece, p, set{"standOff": "90 mm"}), "standOff", "30")
	if v := h.leaving(o).AtCake; v.Empty || len(v.Rows) != 1 {
		t.Errorf("%+v", v)
	}
}

// TestFourOrdersToTheCard: for each table a stop, its way on, and then the card may go.
func TestFourOrdersToTheCard(t *testing.T) {
	t.Parallel()
	for name, x := range map[string]struct {
		order, piece set
		lot          func(h *house) // put into the pantry before the piece
		dust         string
		stop         string
		mend         func(h *house, o, p int64) // "" : the client knows
	}{
		"nuts":               {order: set{"allergies": "nuts"}, lot: func(h *house) { h.lot("Dry white", "sugarPaste", "3 kg", set{"may": "nuts", "labelRead": "yes"}) }, stop: "may:nuts"},
		"no alcohol":         {order: set{"without": "alcohol"}, dust: "metalPowder", stop: ""},
		"under three":        {order: set{"atRisk": "under3"}, piece: set{"tool": "bead"}, stop: "smallUnder3"},
		"nothing of animals": {order: set{"without": "animal"}, piece: set{"with": "royalIcing"}, stop: ""},
	} {
		h := newHouse(t)
		if x.lot != nil {
			x.lot(h)
		} else {
			h.lot("White", "sugarPaste", "2 kg", set{"labelRead": "yes"})
		}
		h.lot("Flower", "flowerPaste", "500 g", set{"labelRead": "yes"})
		o := h.order(x.order)
		tool := h.mould(nil)
		extra := set{}
		for k, v := range x.piece {
			if v == "bead" {
				tool = h.mould(set{"name": "Bead", "lengthMM": "9 mm", "widthMM": "9 mm", "weighedG": "0.6 g"})
				extra["eaten"], extra["joined"] = "nibbled", "dry"
			} else if k != "with" {
				extra[k] = v
			}
		}
		p := h.piece(o, tool, extra)
		if with := x.piece["with"]; with != "" {
			h.must(studio.KindPiece, p, set{"with": with})
		}
		if x.piece["tool"] == "bead" {
			h.must(studio.KindPiece, p, set{"peg": "1.6"})
		}
		if x.dust != "" {
			gold := h.dust("Gold", x.dust, "#C49A3A", nil)
			h.ok(h.tones(p, tone("base", 60, 1, gold)))
		}
		card := h.leaving(o).Card
		i := slices.IndexFunc(card.Stops, func(s leaving.StopView) bool { return s.Code == x.stop })
		if x.stop == "" {
			if len(card.Stops) != 0 || !card.Ready {
				t.Errorf("%s: %+v %v", name, card.Stops, card.Missing)
			}
			continue
		}
		if i < 0 || card.Ready {
			t.Errorf("%s: %+v", name, card.Stops)
			continue
		}
		h.refused(h.SetState(t.Context(), h.slug, o, "handedOver", true), "state", "may not go yet")
		s := card.Stops[i]
		if x.stop == "smallUnder3" && s.By != "Leaves and children under three" {
			t.Errorf("%s: because of %s", name, s.By)
		}
		h.ok(h.Leaving.Clear(t.Context(), h.slug, o, s.Code, s.Because, "letter of 20 November"))
		card = h.leaving(o).Card
		for _, s := range card.Stops {
			if s.Cleared == "" {
				h.ok(h.Leaving.Clear(t.Context(), h.slug, o, s.Code, s.Because, "the same letter"))
			}
		}
		if card = h.leaving(o).Card; !card.Ready {
			t.Errorf("%s, cleared: %v", name, card.Missing)
		}
		h.ok(h.SetState(t.Context(), h.slug, o, "handedOver", true))
		h.refused(h.Leaving.Clear(t.Context(), h.slug, o, "nosuch", "of nothing", "x"), "code", "does not stand")
	}
}

// TestASprayedTier takes no paste and no weight: its rows are said and its steps planned.
func TestASprayedTier(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.must(studio.KindCommission, o, set{"carrier": "tiers", "tiers": "round 200 mm, 110 mm tall, coated 5 mm sugar paste"})
	p := h.make(studio.KindPiece, o, set{"name": "Honey fade", "wanted": "1", "technique": "T26", "colour": "honey"})
	v := h.view(o, p)
	if v.Missing != "" || v.Finish.Fade == nil || len(v.Finish.Fade.Bands) < 5 || v.Finish.Fade.Drops.Value <= 0 {
		t.Fatalf("%q %+v", v.Missing, v.Finish.Fade)
	}
	if v.Make == nil || v.Make.Ball.Text != "no paste" {
		t.Errorf("%+v", v.Make)
	}
	if spray := h.steps("spray"); len(spray) < 2 {
		t.Errorf("%d sprays are planned", len(spray))
	}
	if s := h.leaving(o).Card.Stops; len(s) != 0 {
		t.Errorf("%+v", s)
	}
	h.must(studio.KindCommission, o, set{"without": "alcohol"})
	if s := h.leaving(o).Card.Stops; len(s) != 1 || s[0].Code != "alcoholGuests" || s[0].WayOn == "" {
		t.Errorf("spirit in the brush where no alcohol is taken: %+v", s)
	}
}

// TestTheEndingGoesOutAndComesIn with its tones, its joins, what was counted and what the
// client knows.
func TestTheEndingGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	moss := h.dust("Moss", "petalDust", "#6F7F3F", nil)
	p := h.piece(o, m, set{"joined": "dry"})
	h.ok(h.tones(p, tone("base", 80, 2, moss)))
	h.must(studio.KindPiece, p, set{"with": "gumGlue", "standOff": "1 mm", "inserts": "2 wires", "lock": "none"})
	h.must(studio.KindCommission, o, set{"bestDays": "5", "allergies": "egg"})
	h.ok(h.Leaving.Count(t.Context(), h.slug, o, "wire", new(24)))
	for _, s := range h.leaving(o).Card.Stops {
		h.ok(h.Leaving.Clear(t.Context(), h.slug, o, s.Code, s.Because, "by telephone, then in writing"))
	}
	h.ok(h.Leaving.Held(t.Context(), h.slug, p, true))
	first := h.export(h.slug)
	for _, want := range []string{`"passes"`, `"standOffMM": 1`, `"counted"`, `"attacher": "pipingGel"`, `"bestDays": 5`} {
		if !bytes.Contains(first, []byte(want)) {
			t.Errorf("%s is not in it", want)
		}
	}
	row, err := h.Import(t.Context(), first)
	h.ok(err)
	if second := h.export(row.Slug); !bytes.Equal(first, second) {
		t.Errorf("it comes back changed:\n%s", difference(first, second))
	}
}
