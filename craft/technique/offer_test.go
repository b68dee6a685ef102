package technique

import (
	"slices"
	"strings"
	"testing"

	"dustyfern/craft/fault"
)

func in(key string, set func(*ChainIn)) ChainIn {
	x := ChainIn{Technique: &key, Wanted: new(12), Tools: map[string]map[string]float64{}, Manner: map[string]float64{}, Measures: map[string]float64{}}
	if set != nil {
		set(&x)
	}
	return x
}

// What a paste is asked for follows from how a piece is made and used, before anybody
// knows how long it dries.
func TestWhatAPieceAsksOfItsPaste(t *testing.T) {
	for _, c := range []struct {
		say  string
		in   ChainIn
		want []string
	}{
		{"a long string cut with the cake", in("T02", func(x *ChainIn) {
			x.Tools["mould"] = map[string]float64{"lengthMM": 180, "widthMM": 4, "depthMM": 4}
			x.Manner["knifePasses"] = 1
		}), []string{"knifeThrough", "strands", "cut"}},
		{"a slim hoop stood up dry", in("T10", func(x *ChainIn) {
			x.Manner["upright"], x.Measures["veined"] = 1, 0
		}), []string{"standsDry", "cut"}},
		{"the same stood up while it gives", in("T10", func(x *ChainIn) {
			x.Manner["upright"], x.Measures["veined"], x.Join = 1, 0, new("S")
		}), []string{"upright", "cut"}},
		{"kept soft in a bag and bent", in("T01", func(x *ChainIn) {
			x.Manner["bent"], x.Manner["bagged"], x.Join = 1, 1, new("P")
		}), []string{"wrapped", "staysPliable"}},
		{"scraped lace", in("T09", nil), []string{"scrapedLace"}},
	} {
		f, err := Ours.Foresee(c.in)
		if err != nil || !slices.Equal(f.Demands, c.want) {
			t.Errorf("%s: %v, %v; want %v", c.say, f.Demands, err, c.want)
		}
	}
	// nobody knows how it is made: what is known of its use
	if got := Ours.Use(map[string]float64{"nibbled": 1, "upright": 1}); !slices.Equal(got, []string{"nibbled", "standsDry"}) {
		t.Error(got)
	}
}

// A tool makes pieces in the way that was written for the most it asks of its paste:
// what branches wants the stiffest.
func TestTheUsualWayOfATool(t *testing.T) {
	for _, c := range []struct {
		kind, state string
		measures    map[string]float64
		manner      map[string]float64
		want        string
	}{
		{"cavityMould", "", nil, nil, "T01"},
		{"cavityMould", "", map[string]float64{"patterned": 1}, nil, "T01"},
		{"cavityMould", "", map[string]float64{"patterned": 1, "branching": 1}, nil, "T04"},
		{"cavityMould", "C", nil, nil, "T04"}, // straight out it does not go on cold
		{"cavityMould", "", map[string]float64{"branching": 1}, map[string]float64{"dough": 1}, "T01"},
		{"channelMould", "", nil, nil, "T02"},
		{"laceMould", "", nil, nil, "T09"},
		{"plungerCutter", "", nil, nil, "T10"},
		{"cutter", "", nil, nil, "T10"}, // a plain cutter does what a plunger does
	} {
		got := Ours.Usual(c.kind, c.state, c.measures, c.manner)
		if got == nil || got.Key != c.want {
			t.Errorf("%s %v %s: %v, want %s", c.kind, c.measures, c.state, got, c.want)
		}
	}
	if got := Ours.Usual("brush", "", nil, nil); got != nil {
		t.Errorf("a brush makes %s", got.Key)
	}
}

// What shapes a piece is its leading tool: not what holds it, nor what rolls its sheet.
func TestTheLeadingTool(t *testing.T) {
	for key, want := range map[string]string{"T01": "mould", "T06": "mould", "T10": "cutter"} {
		if r := Ours.Leading(Ours.Of(key)); r == nil || r.Role != want {
			t.Errorf("%s: %+v", key, r)
		}
	}
}

// Moments that nobody foretold leave open what follows from them, and nothing else.
func TestForeseenBeforeAnythingDries(t *testing.T) {
	f, err := Ours.Foresee(in("T10", func(x *ChainIn) { x.Measures["thicknessMM"] = 3 }))
	if err != nil {
		t.Fatal(err)
	}
	if f.Names["eachG"] <= 0 || f.Paste != "halfAndHalf" || f.State != "D" {
		t.Errorf("%+v", f)
	}
	if _, known := f.Names["perRound"]; known {
		t.Error("how many a sheet gives while it stays open is known before it is")
	}
	i := slices.IndexFunc(f.Bodies, func(b Dries) bool { return b.ID == "main" })
	if i < 0 || f.Bodies[i].ThicknessMM != 3 || f.Bodies[i].Shape != "sheet" {
		t.Errorf("%+v", f.Bodies)
	}
	// a mould's own minutes in the freezer win over what the way says
	cold := in("T01", func(x *ChainIn) {
		x.Ways, x.Own = map[string]string{"freeze": "freeze"}, map[string]float64{"chillMinutes": 25}
	})
	if f, err := Ours.Foresee(cold); err != nil || f.Chills != 25 {
		t.Errorf("%v %v", f.Chills, err)
	}
}

// A library takes one more way, its steps standing by themselves; a torn one is
// refused with its place and changes nothing.
func TestOneMoreWay(t *testing.T) {
	own, err := Ours.Of("T01").Copy()
	if err != nil {
		t.Fatal(err)
	}
	own.Key, own.Names = "our-caps", Names{UK: "Our caps", US: "Our caps"}
	lib, err := Ours.With(own)
	if err != nil || lib.Of("our-caps") == nil || Ours.Of("our-caps") != nil || len(lib.Keys()) != len(Ours.Keys())+1 {
		t.Fatalf("%v %v", lib, err)
	}
	a, err1 := Ours.Chain(*Ours.Of("T01").asked())
	q := *Ours.Of("T01").asked()
	q.Technique = new("our-caps")
	b, err2 := lib.Chain(q)
	if err1 != nil || err2 != nil || a.HandsMinutes != b.HandsMinutes || len(a.Batches) != len(b.Batches) {
		t.Errorf("a copy takes %v, ours %v; %v %v", b.HandsMinutes, a.HandsMinutes, err1, err2)
	}
	torn, _ := own.Copy()
	torn.Steps[3].After[0].Step = "nowhere"
	if _, err := Ours.With(torn); err == nil || !strings.Contains(err.Error(), "film") {
		t.Errorf("a torn chain is taken: %v", err)
	}
	// a way of the same key takes the place of the one before
	next, _ := own.Copy()
	next.Names.UK = "Our caps, quicker"
	if lib, err = lib.With(next); err != nil || lib.Of("our-caps").Names.UK != "Our caps, quicker" || len(lib.Keys()) != len(Ours.Keys())+1 {
		t.Errorf("%v %v", lib.Keys(), err)
	}
}

// asked is the question of a technique's own example.
func (t *Technique) asked() *ChainIn {
	q := t.Example.Input
	q.Technique = &t.Key
	return &q
}

// The first state that a way does not know is refused with those that it does.
func TestAJoinThatIsNone(t *testing.T) {
	_, err := Ours.Foresee(in("T02", func(x *ChainIn) { x.Join = new("D") }))
	if f, ok := err.(*fault.Fault); !ok || f.Field != "join" {
		t.Error(err)
	}
	if q, option := Ours.Sets(Ours.Of("T01"), "chillMinutes", true); q != "freeze" || option != "freeze" {
		t.Errorf("%s %s", q, option)
	}
	if q, _ := Ours.Sets(Ours.Of("T04"), "chillMinutes", true); q != "" {
		t.Errorf("what freezes as is usual is asked to: %s", q)
	}
}
