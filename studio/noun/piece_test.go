package noun

import (
	"testing"
	"time"

	"dustyfern/craft/technique"
)

func TestHowManyAnOrderTakes(t *testing.T) {
	gone := time.Now()
	for _, c := range []struct {
		say    string
		pieces []Piece
		want   map[int64]int
	}{
		{"by themselves", []Piece{{Row: Row{ID: 1}, Wanted: 4}, {Row: Row{ID: 2}, Wanted: 0}}, map[int64]int{1: 4}},
		{"sixteen flowers want sixteen centres and 48 petals", []Piece{{Row: Row{ID: 1}, Wanted: 16, Joins: []Join{{Part: 2, Each: 1}, {Part: 3, Each: 3}}}, {Row: Row{ID: 2}}, {Row: Row{ID: 3}}}, map[int64]int{1: 16, 2: 16, 3: 48}},
		{"a part of a part, and two more by itself", []Piece{{Row: Row{ID: 1}, Wanted: 2, Joins: []Join{{Part: 2, Each: 3}}}, {Row: Row{ID: 2}, Wanted: 2, Joins: []Join{{Part: 3, Each: 5}}}, {Row: Row{ID: 3}}}, map[int64]int{1: 2, 2: 8, 3: 40}},
		{"shared by two", []Piece{{Row: Row{ID: 1}, Wanted: 2, Joins: []Join{{Part: 3, Each: 1}}}, {Row: Row{ID: 2}, Wanted: 5, Joins: []Join{{Part: 3, Each: 2}}}, {Row: Row{ID: 3}}}, map[int64]int{1: 2, 2: 5, 3: 12}},
		{"a part that is gone", []Piece{{Row: Row{ID: 1}, Wanted: 2, Joins: []Join{{Part: 2, Each: 1}}}, {Row: Row{ID: 2, DeletedAt: &gone}}}, map[int64]int{1: 2}},
	} {
		got := Needed(c.pieces)
		for id, n := range c.want {
			if got[id] != n {
				t.Errorf("%s: %d of piece %d, want %d", c.say, got[id], id, n)
			}
		}
		if got[9] != 0 || len(got) > len(c.want) {
			t.Errorf("%s: %v", c.say, got)
		}
	}
}

func TestWhatHoldsWhat(t *testing.T) {
	a, b, c := &Piece{Row: Row{ID: 1}, Joins: []Join{{Part: 2}}}, &Piece{Row: Row{ID: 2}, Joins: []Join{{Part: 3}}}, &Piece{Row: Row{ID: 3}}
	all := map[int64]*Piece{1: a, 2: b, 3: c}
	if !a.Holds(3, all) || a.Holds(1, all) || c.Holds(1, all) {
		t.Error("a holds b holds c, and nothing else")
	}
	c.Joins = []Join{{Part: 1}} // a circle ends all the same
	if !a.Holds(1, all) || a.Holds(7, all) {
		t.Error("a circle")
	}
}

// A tool of another kind keeps the measures that both have, and what it holds and what
// can be worked with follow from its copies.
func TestAToolOfAnotherKind(t *testing.T) {
	x := BlankTool("cavityMould")
	x.Measures["lengthMM"], x.Measures["widthMM"], x.Measures["depthMM"], x.Measures["undercut"] = 60, 30, 4, 1
	x.TakeKind("laceMould")
	if x.Of("lengthMM") != 60 || x.Of("depthMM") != 4 || x.Measures["undercut"] != 0 || x.Of("tips") != 8 {
		t.Errorf("%+v", x.Measures)
	}
	x.TakeKind("cup")
	if _, kept := x.Measures["depthMM"]; kept || x.Of("places") != 24 || x.Presses() {
		t.Errorf("%+v", x.Measures)
	}
	x.Copies, x.Lent, x.Broken = 3, 1, 1
	if x.InUse() != 1 || x.Places() != 24 {
		t.Errorf("%d copies, %d places", x.InUse(), x.Places())
	}
	x.Broken = 2
	if x.InUse() != 0 || x.Asked()["places"] < 1 {
		t.Errorf("%d copies, asked as %v", x.InUse(), x.Asked())
	}
	for kind, want := range map[string][3]float64{"stripCutter": {180, 40, 0}, "circleCutter": {32, 32, 0}, "letterCutter": {10, 10, 0}, "flagCutter": {32, 28, 0}, "bandMould": {150, 18, 3}, "brush": {0, 0, 0}} {
		x := BlankTool(kind)
		for _, m := range technique.Ours.Kind(kind).Measures {
			x.Measures[m.Name] = m.Default
		}
		if a, b, c := x.Box(); [3]float64{a, b, c} != want {
			t.Errorf("%s: %v %v %v, want %v", kind, a, b, c, want)
		}
	}
}

func TestTheStateInWhichAPieceGoesOn(t *testing.T) {
	for _, c := range []struct {
		way, joined, state string
		own                bool
	}{{"T01", "", "D", true}, {"T01", "pliable", "P", true}, {"T01", "cold", "D", false}, {"T02", "", "C", true}, {"T07", "dry", "P", false}} {
		p := Piece{Joined: c.joined}
		if state, own := p.JoinState(technique.Ours.Of(c.way)); state != c.state || own != c.own {
			t.Errorf("%s %q: %s %v", c.way, c.joined, state, own)
		}
	}
}

// A drawer is grouped by what tools do.
func TestWhereAToolLies(t *testing.T) {
	for kind, want := range map[string]string{"cavityMould": "Moulds", "stamp": "Moulds", "cutter": "Cutters", "plungerCutter": "Cutters", "circleCutter": "Cutters", "letterCutter": "Cutters",
		"pin": "Rollers", "machine": "Rollers", "cup": "Formers", "dowel": "Formers", "former": "Formers", "brush": "Other tools", "model": "Other tools", "no such": "Other tools"} {
		if got := DrawerGroup(kind); got != want {
			t.Errorf("%s lies with the %s, want %s", kind, got, want)
		}
	}
}

// What a round cutter, a dome or a ball mould makes is round as it lies.
func TestWhatIsRound(t *testing.T) {
	for _, c := range []struct {
		kind, shape string
		measures    Measures
		round       bool
	}{
		{"circleCutter", "", Measures{"diameterMM": 30}, true},
		{"cavityMould", "dome", Measures{"lengthMM": 20, "widthMM": 20}, true},
		{"cavityMould", "ball", Measures{"lengthMM": 20, "widthMM": 20}, true},
		{"cavityMould", "block", Measures{"lengthMM": 20, "widthMM": 20}, false},
		{"cutter", "", Measures{"lengthMM": 20, "widthMM": 20}, false},
	} {
		if x := (&Tool{Kind: c.kind, Shape: c.shape, Measures: c.measures}); x.Round() != c.round {
			t.Errorf("%s %s: round %v", c.kind, c.shape, x.Round())
		}
	}
}
