package studio_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/technique"
	"dustyfern/store"
	"dustyfern/studio"
	"dustyfern/studio/work"
)

// madeUp is a way of making that this program has never heard of: balls squashed in
// threes under a stamp, stacked, left to set, put on.
const madeUp = `{
 "format": "dustyfern-technique/1", "key": "X77", "version": 3, "names": {"uk": "Squashed pagoda", "us": "Squashed pagoda"},
 "about": "Three balls squashed under a stamp and stacked.", "limit": "one stamp", "breakage": "delicate",
 "tools": [{"role": "press", "kind": "stamp"}],
 "measures": [{"name": "massG", "says": "Weight of one stack", "unit": "g", "from": 0, "to": 50, "default": 0}, {"name": "storeys", "says": "Storeys", "unit": "", "from": 1, "to": 9, "default": 3}],
 "pictures": [], "pastes": [{"paste": "halfAndHalf", "why": "it stands by itself"}], "demands": [{"code": "embossed", "why": "the stamp must show"}],
 "bodies": [{"id": "main", "shape": "block", "thicknessMM": "press.depthMM * storeys", "support": "board", "says": "the stack"}],
 "given": [
  {"name": "freshPlaced", "is": "0"}, {"name": "airMinutes", "is": "0"}, {"name": "dustMM2", "is": "0"},
  {"name": "eachG", "is": "storeys * 0.9"},
  {"name": "weightG", "is": "massG", "when": "massG >= 0.01"}, {"name": "weightG", "is": "eachG"},
  {"name": "placeMin", "is": "0.5"}, {"name": "lieLengthMM", "is": "press.diameterMM"}, {"name": "lieWidthMM", "is": "press.diameterMM"},
  {"name": "perRound", "is": "4"}
 ],
 "ways": [{"question": "tip", "says": "What crowns it?", "options": [{"id": "ball", "says": "A small ball.", "why": "it ends the line", "ours": true}, {"id": "none", "says": "Nothing.", "why": "quicker", "sets": {"storeys": "2"}}]}],
 "runs": [{"id": "stack", "verb": "shape", "says": "Roll, squash, stack: four at a time.", "round": "perRound", "why": "the glue is tacky for four"}],
 "steps": [
  {"id": "knead", "as": "knead"},
  {"id": "rest", "as": "rest"},
  {"id": "roll", "verb": "shape", "says": ["Roll three balls the size of hazels."], "hands": true, "run": "stack", "after": [{"step": "rest", "max": "bagRested"}, {"step": "knead", "max": "bagPaste", "when": "restMinutes < 1"}], "minutes": {"round": "1", "piece": "0.2 * storeys"}, "source": "assumed", "uses": [{"what": "press", "count": "1"}], "ways": ["tip"]},
  {"id": "squash", "verb": "press", "says": ["Squash each under the stamp and stack them, a dot of water between."], "hands": true, "run": "stack", "after": [{"step": "roll"}], "minutes": {"piece": "0.5"}, "source": "assumed", "checks": ["stands plumb"], "cautions": ["blade"]},
  {"id": "dry", "as": "dry", "after": [{"step": "squash", "max": "layOut"}]},
  {"id": "putOn", "as": "putOn", "after": [{"step": "dry"}]}
 ],
 "joins": [{"id": "cake", "step": "putOn", "what": "the stack", "onto": "cake", "states": ["D"], "default": "D", "ontoState": "fresh or set", "attacher": "attach.choose", "says": "it stands by itself"}],
 "faults": []
}`

// withMadeUp is a house whose folder of techniques holds one file more.
func withMadeUp(t *testing.T) *house {
	t.Helper()
	dir := t.TempDir()
	ours, err := filepath.Glob("../craft/technique/data/*.json")
	if err != nil || len(ours) < 11 {
		t.Fatalf("%d files: %v", len(ours), err)
	}
	for _, f := range ours {
		raw, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(filepath.Join(dir, filepath.Base(f)), raw, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.WriteFile(filepath.Join(dir, "X77.json"), []byte(madeUp), 0o600); err != nil {
		t.Fatal(err)
	}
	lib, err := technique.Read(os.DirFS(dir))
	if err != nil {
		t.Fatal(err)
	}
	h := newHouse(t)
	h.Store.(*store.Store).Library = lib
	h.lot("White", "sugarPaste", "2 kg", nil)
	h.lot("Flower", "flowerPaste", "500 g", set{"holds": "egg"})
	return h
}

// A further way of making costs one file of data: with no other file changed it is
// offered, planned, worked and printed.
func TestAWayThatIsOnlyAFile(t *testing.T) {
	t.Parallel()
	h := withMadeUp(t)
	stamp := h.make(studio.KindTool, 0, set{"name": "Star stamp", "kind": "stamp", "diameterMM": "14 mm", "depthMM": "2 mm"})
	o := h.order(nil)
	offers, err := h.Offers(t.Context(), h.slug, o, studio.WishIn{})
	h.ok(err)
	i := slices.IndexFunc(offers.Ways, func(w work.WayOffer) bool { return w.Key == "X77" })
	if i < 0 || offers.Ways[i].Lacks != "" || offers.Ways[i].ToolID != stamp || offers.Ways[i].HandsMin <= 0 || offers.Ways[i].Breakage != "10 in 100 break" {
		t.Fatalf("%+v", offers.Ways)
	}
	// a stamp makes it as is usual: nobody needs to say how
	p := h.make(studio.KindPiece, o, set{"name": "Pagodas", "wanted": "9", "tool": "1", "measure.storeys": "4"})
	v := h.view(o, p)
	if v.Missing != "" || v.Way == nil || v.Way.Name != "Squashed pagoda" || v.Make == nil || v.Make.Ball.Text != "3.6 g" || v.Dry == nil || v.Dry.Never != "" {
		raw, _ := json.Marshal(v)
		t.Fatalf("%s", raw)
	}
	if got := strings.Join(kinds(h.steps("")), " "); got != "knead rest shape dry putOn settle pack" && got != "knead shape dry putOn settle pack" {
		t.Errorf("%s; %v", got, h.line().LeftOut)
	}
	shape := h.steps("shape")[0]
	if shape.Title != "Shape 12 Pagodas" && !strings.HasPrefix(shape.Title, "Shape ") || shape.Planned.Run == nil || shape.Planned.Run.Word != "sheet" && shape.Planned.Run.Word != "piece" {
		t.Errorf("%s %+v", shape.Title, shape.Planned.Run)
	}
	// its words stand on the sheet, its question with it, its caution too
	sheet := h.bench()
	if !slices.ContainsFunc(sheet.Evening, func(s planStep) bool {
		return strings.Contains(strings.Join(s.Says, " "), "Roll three balls the size of hazels.") && has(s.Checks, "stands plumb") && has(s.Cautions, "Blades, needles and shears") &&
			slices.ContainsFunc(s.Ways, func(w nounWay) bool { return w.Asks == "What crowns it?" && w.Say == "A small ball." && w.Usual })
	}) {
		t.Errorf("%+v", sheet.Evening)
	}
	// the side that is taken is kept, and changes the numbers
	h.ok(h.ChooseWay(t.Context(), h.slug, p, "tip", "none"))
	if v := h.view(o, p); v.Make.Ball.Text != "1.8 g" {
		t.Errorf("two storeys weigh %s", v.Make.Ball.Text)
	}
	h.undo()
	// and hands work it from end to end
	for range 60 {
		b := h.due()
		if b.Now == nil || b.Now.Kind == "pack" {
			break
		}
		h.now = h.now.Add(2 * time.Minute)
		if b.Now.Start.After(h.now) {
			h.now = b.Now.Start.Add(time.Minute)
		}
		_, err := h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, "", true)
		h.ok(err)
	}
	if f := h.leaf(o, p); f.State != "placed" {
		t.Errorf("%+v", f)
	}
}
