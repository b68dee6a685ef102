package plan

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// allWays is the task of an order with one piece of each way of making, and a toadstool
// whose cap and specks go on to its stem. The scheduler's own tests judge plans of it.
const allWays = "../../craft/bench/testdata/all-ways.json"

// wayTools are a tool for each way, by the key that uses it first.
var wayTools = []struct {
	way, kind string
	measures  noun.Measures
	copies    int
}{
	{"T01", "cavityMould", noun.Measures{"lengthMM": 20, "widthMM": 20, "depthMM": 10}, 2},
	{"T02", "channelMould", noun.Measures{"lengthMM": 180, "widthMM": 4, "depthMM": 4, "pitchMM": 4, "cavities": 1}, 2},
	{"T03", "sheetMould", noun.Measures{"lengthMM": 120, "widthMM": 25, "depthMM": 10, "cavities": 1}, 1},
	{"T04", "cavityMould", noun.Measures{"lengthMM": 92, "widthMM": 46, "depthMM": 6, "branching": 1}, 2},
	{"T05", "cavityMould", noun.Measures{"lengthMM": 40, "widthMM": 40, "depthMM": 6}, 1},
	{"T06", "lippedMould", noun.Measures{"lengthMM": 110, "widthMM": 45, "depthMM": 3, "windows": 12, "bridgeMM": 2}, 1},
	{"T07", "bandMould", noun.Measures{"lengthMM": 150, "heightMM": 18, "depthMM": 3, "lapMM": 15}, 1},
	{"T08", "channelMould", noun.Measures{"lengthMM": 180, "widthMM": 6, "depthMM": 4, "pitchMM": 6, "cavities": 1}, 1},
	{"T09", "laceMould", noun.Measures{"lengthMM": 70, "widthMM": 40, "depthMM": 2, "tips": 8}, 1},
	{"T10", "plungerCutter", noun.Measures{"lengthMM": 34, "widthMM": 26}, 1},
	{"T11", "blossomCutter", noun.Measures{"diameterMM": 40, "petals": 8}, 1},
	{"T12", "blossomCutter", noun.Measures{"diameterMM": 30, "petals": 5}, 1},
	{"T13", "stripCutter", noun.Measures{"lengthMM": 180, "widthMM": 40, "petals": 6}, 1},
	{"T14", "", nil, 0},
	{"T15", "", nil, 0},
	{"T16", "", nil, 0},
	{"T17", "", nil, 0},
	{"T18", "", nil, 0},
	{"T19", "circleCutter", noun.Measures{"diameterMM": 32}, 1},
	{"T20", "cutter", noun.Measures{"lengthMM": 50, "widthMM": 30}, 1},
	{"T21", "", nil, 0},
	{"T22", "", nil, 0},
	{"T23", "", nil, 0},
	{"T24", "spoonMould", noun.Measures{"diameterMM": 36, "volumeML": 22}, 2},
	{"T25", "flagCutter", noun.Measures{"widthMM": 28, "heightMM": 32, "perPress": 9}, 1},
	{"T27", "model", noun.Measures{"lengthMM": 40, "widthMM": 30, "heightMM": 12, "volumeML": 6}, 1},
}

// everyWay is a studio with an order of all of them, and what is asked of the scheduler.
func everyWay(t *testing.T) (*liner, *work.Means, noun.Commission) {
	t.Helper()
	k := noun.NewKitchen("Elm Bench")
	k.FreezerPlaces, k.Trays = 6, []noun.Tray{{Count: 5, LengthMM: 400, WidthMM: 300}}
	k.Hours = []noun.Hours{}
	for d := time.Sunday; d <= time.Saturday; d++ {
		from := "18:00"
		if d == time.Saturday { // what goes on half set wants the whole of a day
			from = "09:00"
		}
		k.Hours = append(k.Hours, noun.Hours{Weekday: d, From: from, To: "22:00", People: []string{"Ines", "Tobi"}})
	}
	now := time.Date(2026, 11, 24, 17, 30, 0, 0, time.UTC)
	handOver := now.AddDate(0, 0, 12)
	c := noun.BlankCommission()
	c.ID, c.Title, c.HandOver = 3, "One of each", &handOver
	b := &work.Means{Kitchen: &k, Reader: read.Reader{K: &k}, Now: now, Tools: map[int64]*noun.Tool{}, Library: technique.Ours, Pieces: map[int64]*noun.Piece{}}
	for i, kind := range []string{"sugarPaste", "flowerPaste", "darkChocolate"} {
		l := noun.BlankLot()
		l.ID, l.Name, l.Kind, l.MassG = int64(i+1), kind, kind, 3000
		b.Lots = append(b.Lots, l)
	}
	var pieces []noun.Piece
	add := func(id int64, name, way string, tool int64, wanted int) *noun.Piece {
		p := noun.BlankPiece()
		p.ID, p.CommissionID, p.Name, p.Technique, p.Wanted, p.Position = id, c.ID, name, way, wanted, int(id)
		if tool > 0 {
			p.ToolID = &tool
		}
		pieces = append(pieces, p)
		return &pieces[len(pieces)-1]
	}
	for i, x := range wayTools {
		id := int64(0)
		if x.kind != "" {
			tool := noun.BlankTool(x.kind)
			tool.ID, tool.Name, tool.Copies, tool.WeighedG = int64(i+1), "Tool "+x.way, x.copies, new(4.0)
			for name, v := range x.measures {
				tool.Measures[name] = v
			}
			id, b.Tools[tool.ID] = tool.ID, &tool
		}
		p := add(int64(i+1), "Piece "+x.way, x.way, id, 6)
		p.Dusted = i%2 == 0
		if technique.Ours.Of(x.way).Defaults["dough"] > 0 {
			p.Dough, p.Dusted = "darkChocolate", false
		}
		if x.way == "T08" { // semi-dry leaves its paint no time in this room: it says so
			p.Joined, p.Bagged = "pliable", true
		}
	}
	stem := add(41, "Stems", "", 1, 8)
	stem.Carries = true
	stem.Joins = []noun.Join{{Part: 42, Each: 1, Says: "cap", With: "royal icing", Minutes: 0.75}, {Part: 43, Each: 5, Says: "specks", Minutes: 0.2}}
	add(42, "Caps", "", 1, 0)
	specks := add(43, "Specks", "T10", 10, 0)
	specks.Joined = "pliable"
	b.Needed = noun.Needed(pieces)
	b.Kinds = kindsOf(pieces, b.Needed)
	for i := range pieces {
		b.Pieces[pieces[i].ID] = &pieces[i]
	}
	l, err := instance(t.Context(), b, []noun.Commission{c}, pieces, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	return l, b, c
}

// Every way of making becomes a task that the scheduler is tested with as it stands.
func TestTheTaskOfAllWays(t *testing.T) {
	l, _, _ := everyWay(t)
	if len(l.leftOut) != 0 {
		t.Fatalf("%+v", l.leftOut)
	}
	raw, err := json.MarshalIndent(l.in, "", " ")
	if err != nil {
		t.Fatal(err)
	}
	raw = append(raw, '\n')
	if os.Getenv("UPDATE") != "" {
		if err := os.WriteFile(allWays, raw, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	kept, err := os.ReadFile(allWays)
	if err != nil || !bytes.Equal(raw, kept) {
		t.Errorf("the task is another one than the scheduler is tested with (%v): look at the difference, then UPDATE=1 go test ./studio/plan", err)
	}
	ops := map[string]bool{}
	for _, b := range l.in.Batches {
		for _, o := range b.Ops {
			ops[o.ID] = true
		}
	}
	for i, x := range wayTools {
		if !slices.ContainsFunc(l.order, func(op string) bool { return strings.HasPrefix(op, fmt.Sprintf("p%d.", i+1)) && l.steps[op].Makes() }) {
			t.Errorf("%s makes nothing", x.way)
		}
	}
	// parts are made and joined, and none of them goes on the cake by itself
	if !ops["p41.100.join1"] || !ops["p41.100.join2"] || ops["p42.1.putOn"] || !ops["p41.1.putOn"] {
		t.Errorf("%v", l.order)
	}
}

// Parts follow from the count of what they belong to; a join waits for both sides,
// then the next one for what has taken hold.
func TestPartsAreCountedAndJoined(t *testing.T) {
	l, b, _ := everyWay(t)
	if b.Needed[42] != 8 || b.Needed[43] != 40 || b.Needed[41] != 8 {
		t.Errorf("%v", b.Needed)
	}
	made := map[string]int{}
	for _, x := range l.in.Batches {
		made[x.Piece] += x.Pieces
	}
	if made["Caps"] < 8 || made["Specks"] < 40 {
		t.Errorf("%v", made)
	}
	lag := func(from, to string) *int {
		for _, g := range l.in.Lags {
			if strings.HasPrefix(g.From, from) && g.To == to {
				return &g.Min
			}
		}
		return nil
	}
	if lag("p42.1.dry", "p41.100.join1") == nil || lag("p41.1.dry", "p41.100.join1") == nil {
		t.Error("the cap goes on before it or its stem is dry")
	}
	if m := lag("p41.100.join1", "p41.100.join2"); m == nil || *m != b.Kitchen.SettleMinutes {
		t.Error("the specks go on before the cap has taken hold")
	}
	if m := lag("p41.100.join2", "p41.1.putOn"); m == nil || *m != b.Kitchen.SettleMinutes {
		t.Error("the toadstool goes on before its specks have taken hold")
	}
	// specks are joined soft: they are kept covered, and no longer than they keep
	for _, g := range l.in.Lags {
		if strings.HasPrefix(g.From, "p43.") && g.To == "p41.100.join2" && (g.Max == nil || *g.Max < 1 || *g.Max > work.BagMinutes) {
			t.Errorf("%+v", g)
		}
	}
}
