package studio_test

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
	"testing"

	"dustyfern/craft/fault"
	"dustyfern/demo"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
)

// raw is a lot as it is kept.
func (h *house) raw(id int64) (l noun.Lot) {
	h.t.Helper()
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) (err error) {
		l, err = journal.Get[noun.Lot](tx, id)
		return err
	}))
	return l
}

func (h *house) undoLast() {
	h.t.Helper()
	h.undo()
}

func TestABatchTakesItsPasteAndGivesItBack(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	white, powder := h.tub("White").ID, h.lot("CMC", "cmc", "45 g", nil)
	p := h.piece(o, m, set{"wanted": "30"})
	h.must(studio.KindPiece, p, set{"school": "modelling"})
	want := map[string]float64{}
	for _, x := range h.view(o, p).Paste.Mix {
		want[x.Name] = x.Grams.Value
	}
	if want["White"] < 100 {
		t.Fatalf("%v", want)
	}
	h.finish("knead")
	if got := 2000 - h.raw(white).MassG; !near(got, want["White"], 1e-6) {
		t.Errorf("%.3f g were taken of %.3f", got, want["White"])
	}
	if got := 45 - h.raw(powder).MassG; !near(got, want["hardener powder, CMC"], 1e-6) {
		t.Errorf("%.3f g of powder were taken of %v", got, want)
	}
	// what is kneaded already is not wanted once more
	after := map[string]float64{}
	for _, x := range h.view(o, p).Paste.Mix {
		after[x.Name] = x.Grams.Value
	}
	if !near(after["White"], want["White"], 1e-6) || h.view(o, p).Paste.Short != "" {
		t.Errorf("%v, %q", after, h.view(o, p).Paste.Short)
	}
	entry := h.lastEntry()
	h.ok(h.Take(t.Context(), h.slug, white, "100 g", "a child"))
	h.ok(h.Undo(t.Context(), h.slug, entry, false)) // the older one: grams come back, whatever went since
	if got := h.raw(white).MassG; !near(got, 1900, 1e-6) {
		t.Errorf("%.3f g are there, not 1900", got)
	}
	h.redo()
	if got := h.raw(white).MassG; !near(got, 1900-want["White"], 1e-6) {
		t.Errorf("done again: %.3f g", got)
	}
}

func (h *house) lastEntry() int64 {
	h.t.Helper()
	j, err := h.Journal(h.t.Context(), h.slug, 0, 0)
	h.ok(err)
	return j.Entries[0].ID
}

func TestStockNeverGoesBelowNothing(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	white := h.tub("White").ID
	p := h.piece(o, m, set{"wanted": "30"})
	h.must(studio.KindPiece, p, set{"school": "light"})
	want := h.view(o, p).Paste.Mix[0].Grams.Value
	h.must(studio.KindLot, white, set{"massG": "50 g"})
	h.finish("knead")
	l := h.raw(white)
	if l.MassG != 0 || !near(l.OwesG, want-50, 1e-6) {
		t.Errorf("%.2f g there, %.2f g owed of %.2f", l.MassG, l.OwesG, want)
	}
	if v := h.onShelf("White"); !strings.Contains(v.Asks, "How much is there really?") {
		t.Errorf("%q", v.Asks)
	}
	h.undoLast()
	if l := h.raw(white); !near(l.MassG, 50, 1e-6) || l.OwesG != 0 {
		t.Errorf("taken back: %.2f g there, %.2f g owed", l.MassG, l.OwesG)
	}
	h.finish("knead")
	h.must(studio.KindLot, white, set{"massG": "12 g"})
	if v := h.onShelf("White"); v.Asks != "" || h.raw(white).MassG != 12 {
		t.Errorf("said anew it asks no more: %q", v.Asks)
	}
	h.refused(h.Take(t.Context(), h.slug, white, "13 g", ""), "amount", "Only 12")
	h.refused(h.Take(t.Context(), h.slug, white, "", ""), "amount", "How much")
	h.refused(h.Take(t.Context(), h.slug, white, "nine lives", ""), "amount", "")
	h.ok(h.Take(t.Context(), h.slug, white, "12 g", ""))
	if h.raw(white).MassG != 0 {
		t.Error("all of it may be taken")
	}
}

// Two copies of the program, fifty hands at once: no gram is lost or doubled.
func TestManyHandsInOneTub(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	tub := h.lot("White", "sugarPaste", "400 g", nil)
	other := studio.New(h.Store, h.Clock)
	var wg sync.WaitGroup
	got := make([]error, 50)
	for i := range got {
		wg.Go(func() {
			s := h.Service
			if i%2 == 1 {
				s = other
			}
			got[i] = s.Take(t.Context(), h.slug, tub, "10 g", fmt.Sprint(i))
		})
	}
	wg.Wait()
	took, refused := 0, 0
	for _, err := range got {
		var f *fault.Fault
		switch {
		case err == nil:
			took++
		case errors.As(err, &f) && f.Field == "amount":
			refused++
		default:
			t.Error(err)
		}
	}
	if l := h.raw(tub); took != 40 || refused != 10 || l.MassG != 0 || l.OwesG != 0 {
		t.Errorf("%d took, %d were refused, %g g are left", took, refused, l.MassG)
	}
}

// Five grams are worth a tub, four are thrown away.
func TestALittleIsNoTub(t *testing.T) {
	t.Parallel()
	for wanted, tub := range map[string]bool{"40": true, "30": false} {
		h := newHouse(t)
		h.lot("White", "sugarPaste", "2 kg", nil)
		m, o := h.mould(nil), h.order(nil)
		p := h.piece(o, m, set{"wanted": wanted, "swatch": "#5F8A4A", "colour": "leaf green", "eaten": "mouthful"})
		kneaded := 0.0
		for _, x := range h.view(o, p).Paste.Mix {
			kneaded += x.Grams.Value
		}
		h.finish("knead")
		made := h.made(h.finish("press").Op)
		rest := kneaded - 4*float64(made)
		if least := map[bool][2]float64{true: {5, 6}, false: {3, 5}}[tub]; rest < least[0] || rest >= least[1] {
			t.Fatalf("%s wanted leave %.2f g: the case is not what it should be", wanted, rest)
		}
		if there := slices.ContainsFunc(h.lots(), func(l pantry.ShelfLot) bool { return strings.HasPrefix(l.Name, "Trimmings") }); there != tub {
			t.Errorf("%.2f g left: a tub %t", rest, there)
		}
	}
}

func TestTrimmingsComeBackAsATub(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("White", "sugarPaste", "2 kg", set{"openedOn": "12 Nov", "bestBefore": "3 Mar 2027"})
	h.lot("Flower", "flowerPaste", "500 g", set{"holds": "egg"})
	m, o := h.mould(nil), h.order(nil)
	p := h.piece(o, m, set{"wanted": "60", "swatch": "#5F8A4A", "colour": "leaf green"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	kneaded := 0.0
	for _, x := range h.view(o, p).Paste.Mix {
		kneaded += x.Grams.Value
	}
	h.finish("knead")
	done := h.finish("press")
	made := h.made(done.Op)
	tub := h.tub("Trimmings, leaf green")
	l := h.raw(tub.ID)
	if rest := kneaded - float64(made)*4; !near(l.MassG, math.Floor(rest*10)/10, 0.11) || l.MassG < 5 {
		t.Errorf("%.2f g in the tub: %.2f kneaded, %d of 4 g made", l.MassG, kneaded, made)
	}
	if !l.Leftover || l.Swatch == nil || *l.Swatch != "#5F8A4A" || fmt.Sprint(l.Holds) != "[egg]" || l.OpenedOn.Format("2 Jan") != "12 Nov" || l.BestBefore.Format("2 Jan") != "3 Mar" {
		t.Errorf("%+v", l)
	}
	if v := tub.Strength; v == nil || !near(v.Figure.Value, 1.6, 0.01) {
		t.Errorf("half of each is 1.6: %+v", v)
	}
	h.undoLast()
	if h.raw(tub.ID).DeletedAt == nil {
		t.Error("taken back, the tub is gone")
	}
}

func (h *house) made(op string) (n int) {
	h.t.Helper()
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) error {
		st, err := tx.Step(op)
		if err == nil && st.Made != nil {
			n = *st.Made
		}
		return err
	}))
	return n
}

func TestAnAmountIsTakenAsItIsWritten(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.kitchen(set{"spoonGrams": "CMC 2.8 g"})
	cmc := h.lot("CMC", "cmc", "2 tsp", nil)
	if l := h.raw(cmc); !near(l.MassG, 5.6, 1e-9) {
		t.Errorf("two of my teaspoons are %.3f g", l.MassG)
	}
	h.kitchen(set{"spoonGrams": "CMC 2.8 g\nCornstarch: 2.6 g\nicing sugar 2.5 g"}) // each powder by its own spoon
	for kind, want := range map[string]float64{"cornflour": 5.2, "icingSugar": 5, "tragacanth": 6} {
		if l := h.raw(h.lot(kind, kind, "2 tsp", nil)); !near(l.MassG, want, 1e-9) {
			t.Errorf("two teaspoons of %s are %.3f g", kind, l.MassG)
		}
	}
	for _, bad := range []string{"CMC", "CMC 30 g", "flour 3 g", "CMC lots"} {
		_, err := h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: h.kitchenVersion(), Set: set{"spoonGrams": bad}})
		h.refused(err, "spoonGrams", "")
	}
	h.kitchen(set{"units": "us"}) // whichever teaspoon it is, mine holds what I weighed
	if l := h.raw(h.lot("CMC of two spoons", "cmc", "2 tsp", nil)); !near(l.MassG, 5.6, 1e-9) {
		t.Errorf("two of my teaspoons are %.3f g in US units", l.MassG)
	}
	h.kitchen(set{"units": "metric"})
	white := h.lot("White", "sugarPaste", "1 lb 2 oz", nil)
	if l := h.raw(white); !near(l.MassG, 510.29, 0.01) {
		t.Errorf("%.3f g", l.MassG)
	}
	h.ok(h.Take(t.Context(), h.slug, cmc, "½ tsp", ""))
	if l := h.raw(cmc); !near(l.MassG, 4.2, 1e-9) {
		t.Errorf("%.3f g are left", l.MassG)
	}
	err := h.set(studio.KindLot, cmc, set{"massG": "2 sachets"})
	var f *fault.Fault
	if !errors.As(err, &f) || f.GramsEach != "sachet" || len(f.Choices) < 2 {
		t.Fatalf("a sachet is asked for: %+v", err)
	}
	h.refused(func() error {
		_, err := h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: h.kitchenVersion(), Set: set{"unitGrams": "bucket 3 g"}})
		return err
	}(), "unitGrams", "bucket")
	h.kitchen(set{"unitGrams": "sachet 11 g"})
	h.must(studio.KindLot, cmc, set{"massG": "2 sachets"})
	if l := h.raw(cmc); l.MassG != 22 {
		t.Errorf("%g g", l.MassG)
	}
}

func TestThePantryGoesOutAndComesInTheSame(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	row, err := h.Import(t.Context(), demo.Document(h.now))
	h.ok(err)
	h.slug = row.Slug
	h.ok(h.Take(t.Context(), h.slug, h.tub("Leftover, sage").ID, "0.123456 g", "")) // no round number
	h.ok(h.Feel(t.Context(), h.slug, h.tub("Leftover, sage").ID, "dragged"))
	file := func(slug, kind string) []byte {
		b, err := h.PantryFile(t.Context(), slug, kind)
		h.ok(err)
		return b
	}
	for _, kind := range []string{"csv", "json"} {
		for _, units := range []string{"metric", "us"} {
			fresh, err := h.CreateStudio(t.Context(), kind+" "+units, studio.Reads{})
			h.ok(err)
			from := h.slug
			h.slug = fresh.Slug
			h.kitchen(set{"units": units})
			h.slug = from
			raw := file(from, kind)
			seen, err := h.LookAtPantry(t.Context(), fresh.Slug, raw)
			h.ok(err)
			if len(seen.Bad) != 0 || seen.Says != "35 lots can be taken in." {
				t.Errorf("%s: %+v", kind, seen)
			}
			if b := file(fresh.Slug, "json"); !strings.Contains(string(b), `"lots": []`) {
				t.Error("looking takes nothing in")
			}
			_, err = h.ImportPantry(t.Context(), fresh.Slug, raw)
			h.ok(err)
			if again := file(fresh.Slug, kind); !bytes.Equal(raw, again) {
				t.Errorf("%s, %s: %s", kind, units, difference(raw, again))
			}
		}
	}
}

func TestGoodRowsComeInAndBadOnesAreShown(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	table := "\xef\xbb\xbfname,kind,massG,swatch\n" +
		"White,sugarPaste,1 kg,\n" +
		",sugarPaste,1 kg,\n" +
		"Lead,lead,1 kg,\n" +
		"\"Sage, old\",sugarPaste,\"1/2 lb\",#A9B99A\n" +
		"Green,gel,a lot,#5C9A58\n" +
		"Red,gel,20 g,rowan\n" +
		"Short,gel\n"
	seen, err := h.LookAtPantry(t.Context(), h.slug, []byte(table))
	h.ok(err)
	want := []pantry.BadRow{{Row: 3, Place: "name"}, {Row: 4, Place: "kind"}, {Row: 6, Place: "massG"}, {Row: 7, Place: "swatch"}, {Row: 8}}
	if len(seen.Bad) != len(want) || fmt.Sprint(seen.Good) != "[White Sage, old]" {
		t.Fatalf("%+v", seen)
	}
	for i, b := range seen.Bad {
		if b.Row != want[i].Row || b.Place != want[i].Place || b.Why == "" {
			t.Errorf("%+v, not %+v", b, want[i])
		}
	}
	if len(h.lots()) != 0 {
		t.Error("looking takes nothing in")
	}
	_, err = h.ImportPantry(t.Context(), h.slug, []byte(table))
	h.ok(err)
	if got := h.lots(); len(got) != 2 || !near(h.raw(h.tub("Sage, old").ID).MassG, 226.8, 0.01) {
		t.Errorf("%+v", got)
	}
	h.undoLast()
	if len(h.lots()) != 0 {
		t.Error("an import is taken back at once")
	}
	for doc, field := range map[string]string{"": "", "name,kind\n": "massG", "name,kind,massG,shine\n": "", "name,name,kind,massG\n": "name", `{"format":"x","lots":[]}`: "format", `{"format":`: ""} {
		_, err := h.ImportPantry(t.Context(), h.slug, []byte(doc))
		h.refused(err, field, "")
	}
	_, err = h.ImportPantry(t.Context(), h.slug, []byte(`{"format":"dustyfern-pantry/1","lots":[{"name":"A","kind":"sugarPaste","massG":-4},{"name":"B","kind":"sugarPaste","massG":4,"shine":1},7]}`))
	h.refused(err, "", "no row")
}

// TestTablesOfOtherPrograms: a semicolon or a tab between the cells, the names
// of the form for columns, words of either side, a quote left open.
func TestTablesOfOtherPrograms(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Honey", "sugarPaste", "1 kg", nil)
	for table, want := range map[string]string{
		"Lot;It is;Left\r\nHoney;sugar paste;300,5 g\r\n":              "1 lot can be taken in. By name 1 is there already and would stand there twice.",
		"NAME\tKind\tmassG\nA\tfondant\t1 kg\nB\tflower paste\t1 kg\n": "2 lots can be taken in.",
		"name,kind,massG\nA,gum paste,1 kg\n":                          "0 lots can be taken in, 1 row cannot.",
		"name,kind,massG\n\"open,gel,3 g\n":                            "0 lots can be taken in, 1 row cannot.",
	} {
		seen, err := h.LookAtPantry(t.Context(), h.slug, []byte(table))
		h.ok(err)
		if seen.Says != want {
			t.Errorf("%q: %q, %+v", table, seen.Says, seen.Bad)
		}
	}
	for _, raw := range []string{"name,kind,massG\nH\xe4rter,cmc,3 g\n", "name,kind,massG\nA\x00,cmc,3 g\n"} {
		_, err := h.LookAtPantry(t.Context(), h.slug, []byte(raw))
		h.refused(err, "", "UTF-8")
	}
	h.kitchen(set{"words": "us"})
	_, err := h.ImportPantry(t.Context(), h.slug, []byte("name,kind,massG\nA,gum paste,1 kg\n"))
	h.ok(err)
	if l := h.raw(h.tub("A").ID); l.Kind != "flowerPaste" {
		t.Errorf("in American words it is %s", l.Kind)
	}
}

// TestWhatIsOverOfStripes goes into its tub as the one colour that it becomes.
func TestWhatIsOverOfStripes(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58"})
	p := h.piece(o, m, set{"wanted": "60", "swatch": "#8FB983", "colour": "leaf"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	h.ok(h.SetStrands(t.Context(), h.slug, []int64{p}, []string{""}, ""))
	step := h.finish("knead")
	if !has(step.Says, "Only the first is coloured") {
		t.Errorf("%q", step.Says)
	}
	h.finish("press")
	l := h.raw(h.tub("Trimmings, leaf").ID)
	solid := h.colours(o).Colours[0].Marbled.Solid
	if l.Swatch == nil || *l.Swatch != solid || *l.Swatch == "#8FB983" {
		t.Errorf("%v in the tub, %s kneaded through", l.Swatch, solid)
	}
}
