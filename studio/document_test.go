package studio_test

import (
	"bytes"
	"compress/gzip"
	"fmt"
	"io"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/demo"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/evening"
)

// lived is a house in which everything that a document can hold has happened.
func lived(t *testing.T) *house {
	h := newHouse(t)
	row, err := h.Import(t.Context(), demo.Document(h.now))
	h.ok(err)
	h.slug = row.Slug
	h.kitchen(set{"exceptions": "Thu 24 Dec shut\nSat 28 Nov 9:00-12:00 Ines", "name": "Moss & Ümlaut <b>"})
	h.now = time.Date(2026, 12, 3, 21, 31, 0, 0, time.UTC)
	b := h.hands()
	for range 40 { // until hands are in the middle of the rounds of a mould
		if b.Move != nil && b.Now.ActualStart != nil && len(b.Tallies) > 0 && b.Tallies[0].Made > b.Tallies[0].Broken {
			break
		}
		b = h.after(4 * time.Minute).hands()
	}
	_, err = h.Broke(t.Context(), h.slug, b.Tallies[0].Op, b.Tallies[0].Version, "tore")
	h.ok(err)
	_, err = h.PressMore(t.Context(), h.slug, b.Tallies[0].PieceID, 2)
	h.ok(err)
	_, err = h.StartTimer(t.Context(), h.slug, "20", "Syrup")
	h.ok(err)
	gone := h.mould(set{"name": "Gone"})
	h.ok(h.Delete(t.Context(), h.slug, studio.KindTool, gone, false))
	h.undo()
	return h
}

func (h *house) export(slug string) []byte {
	h.t.Helper()
	b, err := h.Export(h.t.Context(), slug)
	h.ok(err)
	return b
}

func TestADocumentComesBackByteForByte(t *testing.T) {
	t.Parallel()
	h := lived(t)
	first := h.export(h.slug)
	for _, want := range []string{`"why": "tore"`, `"says": "Syrup"`, `"answeredAt": "`, `"extras": [`, `"fills": [`, `took Gone away`, `"Moss & Ümlaut <b>"`} {
		if !bytes.Contains(first, []byte(want)) {
			t.Errorf("%s is not in it", want)
		}
	}
	// into the same database, as another studio, and into another database
	row, err := h.Import(t.Context(), first)
	h.ok(err)
	if second := h.export(row.Slug); !bytes.Equal(first, second) {
		t.Errorf("beside itself it comes back changed:\n%s", difference(first, second))
	}
	s, _ := storetest.Open(t)
	other := studio.New(s, h.Clock)
	other.Wake = func(slug string) { h.ok(other.Plan(t.Context(), slug)) }
	row, err = other.Import(t.Context(), first)
	h.ok(err)
	third, err := other.Export(t.Context(), row.Slug)
	h.ok(err)
	if !bytes.Equal(first, third) {
		t.Errorf("elsewhere it comes back changed:\n%s", difference(first, third))
	}
	// and the work goes on where it was
	b, err := other.Bench(t.Context(), row.Slug, "")
	h.ok(err)
	say := func(m *evening.MoveView) string {
		if m == nil {
			return ""
		}
		return m.Say
	}
	if was := h.bench(); b.Now.Title != was.Now.Title || say(b.Move) != say(was.Move) || len(b.Timers) != len(was.Timers) || b.Tallies[0].Says != was.Tallies[0].Says {
		t.Errorf("%s, %+v; it was %s, %+v", b.Now.Title, b.Move, was.Now.Title, was.Move)
	}
	// what came with the document was done elsewhere: it cannot be taken back
	if b.LastID != 0 {
		t.Errorf("%s can be taken back", b.LastSays)
	}
}

// difference is the first line in which two documents differ.
func difference(a, b []byte) string {
	x, y := strings.Split(string(a), "\n"), strings.Split(string(b), "\n")
	for i := range min(len(x), len(y)) {
		if x[i] != y[i] {
			return strings.Join(x[max(0, i-4):i+1], "\n") + "\nis\n" + y[i]
		}
	}
	return "one is longer"
}

func TestWhatCannotBeReadIsRefusedWithItsPlace(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	good := string(demo.Document(h.now))
	swap := func(old, with string) string {
		t.Helper()
		if !strings.Contains(good, old) {
			t.Fatalf("%s is not in the demo", old)
		}
		return strings.Replace(good, old, with, 1)
	}
	for _, c := range []struct{ say, doc, field, words string }{
		{"nothing", "", "document", "no studio document"},
		{"no JSON", "{", "document", "Line 1"},
		{"another format", swap(document.DocumentFormat, "another/1"), "format", "this program reads"},
		{"a field that does not exist", swap(`"tempC"`, `"temperature"`), "document", "temperature"},
		{"a word for a number", swap(`"tempC": 21`, `"tempC": "warm"`), "kitchen.tempC", "Line"},
		{"a room on fire", swap(`"tempC": 21`, `"tempC": 400`), "kitchen.tempC", "From 5 °C to 40 °C"},
		{"a zone of Mars", swap(`"Europe/London"`, `"Mars/Olympus"`), "kitchen.timeZone", "no time zone"},
		{"a mould of nothing", swap(`"lengthMM": 180`, `"lengthMM": -1`), "tools[0].measures.lengthMM", ""},
		{"a rolling pin of no shape", swap(`    "ringMM": 2
   },
   "shape": ""`, `    "ringMM": 2
   },
   "shape": "sulky"`), "tools[17].shape", "Choose one of"},
		{"a lot of lead", swap(`"kind": "flowerPaste"`, `"kind": "lead"`), "lots[3].kind", "Choose one of"},
		{"a mould that is not there", swap(`"tool": 3`, `"tool": 99`), "commissions[0].pieces[0].tool", "no tool number 99"},
		{"a state of its own", swap(`"state": "handedOver"`, `"state": "eaten"`), ".state", "not \"eaten\""},
		{"a step that ends before it began", swap(`"actualEnd": "2026-11-24T14:30:00Z"`, `"actualEnd": "2026-11-20T14:30:00Z"`), "commissions[0].steps[0].actualStart", "ends after"},
		{"a newer document", swap(document.DocumentFormat, "dustyfern-studio/99"), "format", "newer Dusty Fern"},
		{"a clock that runs of itself", swap(`,
   "answeredAt": "2026-11-24T17:45:00Z"`, ""), "timers[0].kind", "follow from the steps"},
		{"an answer to no step", swap(`"op": "p1-3.1.press",
   "kind": "open"`, `"op": "p1-4.1.press",
   "kind": "open"`), "timers[0].op", "no step"},
		{"more after it", good + "{}", "document", "there is more"},
		{"a piece that weighs less than nothing", swap(`"trialG": 4.2`, `"trialG": -4.2`), "commissions[0].pieces[0].trialG", "0.01 g"},
	} {
		_, err := h.Import(t.Context(), []byte(c.doc))
		if err == nil {
			t.Errorf("%s was let in", c.say)
			continue
		}
		if !strings.Contains(err.Error(), c.words) || !strings.HasPrefix(err.Error(), c.field) && !strings.Contains(err.Error(), c.field+":") {
			t.Errorf("%s: %v, want %s and %q", c.say, err, c.field, c.words)
		}
	}
	all, err := h.Studios(t.Context())
	h.ok(err)
	if len(all) != 1 {
		t.Errorf("a half import is left: %v", all)
	}
	seen, err := h.Look(t.Context(), []byte(good))
	h.ok(err)
	if seen.Says != `A new studio "Hollow Lane Sugar Room" with 41 tools, 35 lots, 6 commissions with 28 pieces, and 29 steps of what has begun.` {
		t.Error(seen.Says)
	}
	if all, _ = h.Studios(t.Context()); len(all) != 1 {
		t.Error("looking made a studio")
	}
}

func TestPuttingTheDemoBack(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	row, err := h.Import(t.Context(), demo.Document(h.now))
	h.ok(err)
	first := h.export(row.Slug)
	own := h.export(h.slug)
	elm := h.slug
	h.slug = row.Slug
	h.finish("knead")
	h.kitchen(set{"rhPercent": "70 %"})
	h.ok(h.Delete(t.Context(), h.slug, studio.KindCommission, 1, false))
	h.ok(h.Replace(t.Context(), h.slug, demo.Document(h.now)))
	if again := h.export(h.slug); !bytes.Equal(first, again) {
		t.Error(difference(first, again))
	}
	if !bytes.Equal(own, h.export(elm)) {
		t.Error("another studio was touched")
	}
}

func TestTables(t *testing.T) {
	t.Parallel()
	h := lived(t)
	for kind, want := range map[string]int{"tools": 43} {
		rows, err := h.Table(t.Context(), h.slug, kind)
		h.ok(err)
		if len(rows) != want || len(rows[0]) < 7 {
			t.Errorf("%s: %d rows of %d", kind, len(rows), len(rows[0]))
		}
	}
	rows, err := h.Table(t.Context(), h.slug, "steps")
	h.ok(err)
	made := 0
	for _, r := range rows[1:] {
		if r[8] != "" {
			made++
		}
	}
	if made < 1 || rows[1][0] != "Fernery centenary" {
		t.Errorf("%d made: %v", made, rows[1])
	}
	_, err = h.Table(t.Context(), h.slug, "beetles")
	h.refused(err, "kind", "tools and steps")
}

func FuzzReadDocument(f *testing.F) {
	f.Add(demo.Document(tuesday))
	f.Add([]byte(`{"format":"dustyfern-studio/1","kitchen":{"name":"x","timeZone":"UTC"}}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		if d, err := document.ReadDocument(raw); err == nil && d.Format != document.DocumentFormat {
			t.Fatal("another format was read")
		}
	})
}

// TestLabelsOfBefore: a document of version 3 had one list for all that a label names,
// and a tick each for two of the things that a table leaves out.
func TestLabelsOfBefore(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	h.lot("Mallow", "marshmallowPaste", "1 kg", set{"holds": "milk"})
	raw := string(h.export(h.slug))
	raw = strings.Replace(raw, document.DocumentFormat, "dustyfern-studio/3", 1)
	raw = regexp.MustCompile(`"holds": (\[[^\]]*\]),\s*"may": \[\],\s*"asks": \[\],\s*"labelRead": \w+`).ReplaceAllString(raw, `"allergens": $1`)
	raw = strings.Replace(raw, `"milk"`, `"milk", "gelatine"`, 1)
	raw = regexp.MustCompile(`"allergies": \[\],\s*"without": \[\],\s*"atRisk": \[\]`).ReplaceAllString(raw, `"allergies": ["nuts", "maize"], "noAlcohol": true, "noGelatine": false`)
	d, err := document.ReadDocument([]byte(raw))
	h.ok(err)
	for _, l := range d.Lots {
		want := map[string]string{"White": "[] [] false", "Flower": "[egg] [] true", "Mallow": "[milk] [gelatine] true"}[l.Name]
		if got := fmt.Sprint(l.Holds, l.Asks, l.LabelRead); got != strings.ReplaceAll(want, "  ", " ") {
			t.Errorf("%s: %s, want %s", l.Name, got, want)
		}
	}
	if c := d.Commissions[0]; fmt.Sprint(c.Allergies, c.Without) != "[nuts] [maize alcohol]" {
		t.Errorf("%v %v", c.Allergies, c.Without)
	}
}

// TestADocumentOfBefore knew one teaspoon, of the hardener.
func TestADocumentOfBefore(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	raw := h.export(h.slug)
	for _, field := range []string{"spoonGrams", "unitGrams", "sides"} {
		raw = regexp.MustCompile(`\n *"`+field+`": \{\},`).ReplaceAll(raw, nil)
	}
	raw = bytes.Replace(raw, []byte(document.DocumentFormat), []byte("dustyfern-studio/1"), 1)
	raw = regexp.MustCompile(`\n *"(may|asks|room)": \[\],`).ReplaceAll(raw, nil)
	old := bytes.Replace(raw, []byte(`"powder"`), []byte(`"gramsPerTsp": 3.1, "powder"`), 1)
	d, err := document.ReadDocument(old)
	h.ok(err)
	if g := d.Kitchen.SpoonGrams["cmc"]; g != 3.1 {
		t.Errorf("%+v", d.Kitchen)
	}
	if bytes.Contains(raw, []byte("spoonGrams")) {
		t.Error("the document is no document of before")
	}
	for _, bad := range []string{`"spoonGrams": {"lead": 3}`, `"spoonGrams": {"cmc": 30}`, `"unitGrams": {"bucket": 3}`} {
		_, err := document.ReadDocument(bytes.Replace(raw, []byte(`"powder"`), []byte(bad+`, "powder"`), 1))
		h.refused(err, "kitchen."+bad[1:strings.Index(bad, `":`)], "")
	}
}

// TestAnEveningOfBefore is a document of version 1, as it was written in the
// middle of the caps: two balls pressed, one clock of one's own, two that ran and
// two that had been heard.
func TestAnEveningOfBefore(t *testing.T) {
	t.Parallel()
	packed, err := os.Open("testdata/document1.json.gz")
	if err != nil {
		t.Fatal(err)
	}
	defer packed.Close()
	plain, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := io.ReadAll(plain)
	if err != nil {
		t.Fatal(err)
	}
	h := newHouse(t)
	h.now = time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	row, err := h.Import(t.Context(), raw)
	h.ok(err)
	h.slug = row.Slug
	b := h.bench()
	if b.Now == nil || b.Now.Kind != "press" || b.Move == nil || b.Move.N != 3 {
		t.Errorf("%+v %+v", b.Now, b.Move)
	}
	var runs []string
	for _, x := range b.Timers {
		runs = append(runs, x.Kind)
		for _, m := range x.Then {
			runs = append(runs, m.Kind)
		}
	}
	slices.Sort(runs)
	if fmt.Sprint(runs) != "[join lift own]" {
		t.Errorf("%v run: %+v", runs, b.Timers)
	}
	// and it goes out as it is now
	if again := h.export(h.slug); !bytes.Contains(again, []byte(document.DocumentFormat)) {
		t.Error("it goes out in the old format")
	}
}
