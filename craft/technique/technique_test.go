package technique

import (
	"encoding/json"
	"errors"
	"io/fs"
	"math"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"dustyfern/craft/fault"
)

func TestExpressions(t *testing.T) {
	t.Parallel()
	of := func(name string) (float64, error) {
		if name == "mould.widthMM" {
			return 12, nil
		}
		if name == "n" {
			return 7, nil
		}
		return 0, broken("unknownName", "no %s", name)
	}
	for text, want := range map[string]float64{
		"2 + 3 * 4": 14, "(2 + 3) * 4": 20, "-2 + 3": 1, "10 - 4 - 3": 3, "24 / 4 / 2": 3, "-n * 2": -14, "2 * -n": -14,
		"3 < 3": 0, "3 >= 3": 1, "2.9999999999 >= 3": 1, "3 < 3.0000000001": 0, "n - 6 < 2": 1, "(n >= 7) * 5": 5,
		"ceil(7 / 7)": 1, "ceil(7.0000000001 / 7)": 1, "ceil(7.1 / 7)": 2, "floor(1.9999999999)": 2, "floor(-0.5)": -1,
		"min(3, n, 5)": 3, "max(1, mould.widthMM)": 12, "max(1, 2, 3, 4, 5, 6, 7, 8)": 8, "  1  ": 1, "0.5*0.5": 0.25,
		"1 - 1 * 0": 1, strings.Repeat("(", 32) + "1" + strings.Repeat(")", 32): 1,
	} {
		e, err := Parse(text)
		if err != nil {
			t.Errorf("%s: %v", text, err)
			continue
		}
		if x, err := e.root.value(of); err != nil || math.Abs(x-want) > 1e-12 {
			t.Errorf("%s = %v (%v), want %v", text, x, err, want)
		}
	}
	for text, kind := range map[string]string{
		"": "syntax", "1 +": "syntax", "1 2": "syntax", "a < b < c": "syntax", "(1": "syntax", "1)": "syntax", "min(1)": "syntax", "max(1,2,3,4,5,6,7,8,9)": "syntax", "ceil 1": "syntax",
		"--1": "syntax", "2 * * 3": "syntax", "a.": "syntax", "a..b": "syntax", "1.2.3": "syntax", "1.": "syntax", "§": "syntax", "a ? b": "syntax", "x = 3": "syntax", "a > b": "syntax",
		strings.Repeat("(", 34) + "1" + strings.Repeat(")", 34): "syntax", strings.Repeat("1+", 120) + "1": "syntax",
		"pots": "unknownName", "0 * pots": "unknownName", "1 / 0": "divideByZero", "0 * (1 / 0)": "divideByZero", "1000000 * 1000000 * 2": "notFinite", "9999999999999": "notFinite",
	} {
		e, err := Parse(text)
		if err == nil {
			_, err = e.root.value(of)
		}
		var broke *exprError
		if !errors.As(err, &broke) || broke.Kind != kind {
			t.Errorf("%q: %v, want %s", text, err, kind)
		}
	}
}

func FuzzExpression(f *testing.F) {
	for _, s := range []string{"1 + a.b * (2 - -c)", "min(a, b) >= ceil(2 / 3)", "((((", "1e9", "max(,)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		e, err := Parse(s)
		if err != nil {
			return
		}
		x, err := e.root.value(func(string) (float64, error) { return 1, nil })
		if err == nil && (math.IsNaN(x) || math.Abs(x) > largestNumber) {
			t.Errorf("%q = %v", s, x)
		}
	})
}

// sewn is a way of making that nobody has: nothing but a file.
const sewn = `{
 "format": "dustyfern-technique/1", "key": "our-moss", "version": 3, "names": {"uk": "Sieved moss", "us": "Sieved moss"},
 "about": "Paste pushed through a sieve, cut off in tufts.", "limit": "hands", "breakage": "robust",
 "tools": [{"role": "board2", "kind": "foam"}], "measures": [{"name": "tuftG", "says": "One tuft", "unit": "g", "from": 0.1, "to": 20, "default": 1}],
 "pictures": [], "pastes": [{"paste": "sugarPaste", "why": "soft"}], "demands": [{"code": "mouthful", "why": "it is eaten"}],
 "bodies": [{"id": "main", "shape": "block", "thicknessMM": "6", "support": "foam", "says": "a tuft"}],
 "given": [{"name": "freshPlaced", "is": "0"}, {"name": "eachG", "is": "tuftG * 1.05"}, {"name": "weightG", "is": "tuftG"}, {"name": "placeMin", "is": "0.5"},
  {"name": "lieLengthMM", "is": "15"}, {"name": "lieWidthMM", "is": "15"}, {"name": "tuftMin", "is": "0.5"}],
 "ways": [{"question": "tool", "says": "Sieve or press?", "options": [{"id": "sieve", "says": "A sieve.", "why": "fine", "ours": true}, {"id": "press", "says": "A press.", "why": "quick", "sets": {"tuftMin": "0.2"}}]}],
 "steps": [{"id": "knead", "as": "knead"}, {"id": "rest", "as": "rest"},
  {"id": "tuft", "verb": "shape", "says": ["Push it through, cut off a tuft."], "hands": true, "after": [{"step": "rest", "max": "bagRested"}, {"step": "knead", "max": "bagPaste", "when": "restMinutes < 1"}], "minutes": {"piece": "tuftMin"}, "source": "assumed", "ways": ["tool"]},
  {"id": "dry", "as": "dry", "after": [{"step": "tuft", "max": "layOut"}]},
  {"id": "putOn", "as": "putOn", "after": [{"step": "dry"}, {"step": "tuft", "max": "bag", "spans": true, "when": "isP"}]}],
 "joins": [{"id": "cake", "step": "putOn", "what": "the moss", "onto": "cake", "states": ["P", "D"], "default": "D", "ontoState": "set", "attacher": "water"}], "faults": []}`

// folder is ours with another file beside it.
func folder(t *testing.T, file, text string) (*Library, error) {
	t.Helper()
	dir := fstest.MapFS{file: {Data: []byte(text)}}
	raw, err := fs.ReadFile(embedded, "data/common.json")
	if err != nil {
		t.Fatal(err)
	}
	dir["common.json"] = &fstest.MapFile{Data: raw}
	return Read(dir)
}

var firm = map[string]*float64{"firm.p50": new(300.0), "firm.p90": new(480.0)}

// A way of making is one file: put into the folder it makes steps.
func TestAFileIsAWayOfMaking(t *testing.T) {
	t.Parallel()
	l, err := folder(t, "moss.json", sewn)
	if err != nil {
		t.Fatal(err)
	}
	out, err := l.Chain(ChainIn{Technique: new("our-moss"), Wanted: new(100), Made: new(104), Stages: firm, WindowMinutes: new(120.0)})
	if err != nil {
		t.Fatal(err)
	}
	ops := []string{}
	for _, o := range out.Batches[0].Ops {
		ops = append(ops, o.Op)
	}
	if got := strings.Join(ops, " "); got != "knead rest tuft dry putOn" || len(out.Batches) != 1 || out.Version != 3 || out.LongestWaitStep != "dry" || out.Paste != "sugarPaste" {
		t.Errorf("%s in %d batches, %+v", got, len(out.Batches), out)
	}
	if tuft := out.Batches[0].Ops[2]; *tuft.Minutes != 52 || tuft.HandsMinutes != 52 {
		t.Errorf("104 tufts of half a minute: %+v", tuft)
	}
	quick, err := l.Chain(ChainIn{Technique: new("our-moss"), Wanted: new(100), Made: new(104), Stages: firm, Ways: map[string]string{"tool": "press"}})
	if err != nil || *quick.Batches[0].Ops[2].Minutes != 21 {
		t.Errorf("with the press: %+v %v", quick.Batches, err)
	}
	// the same as a definition, asked without a folder
	var def any
	if err := json.Unmarshal([]byte(sewn), &def); err != nil {
		t.Fatal(err)
	}
	if same, err := Ours.Chain(ChainIn{Definition: def, Wanted: new(100), Made: new(104), Stages: firm, WindowMinutes: new(120.0)}); err != nil || same.HandsMinutes != out.HandsMinutes {
		t.Errorf("%v %v", same.HandsMinutes, err)
	}
}

// A chain that does not hold together is refused, and the place is named.
func TestATornChainIsRefused(t *testing.T) {
	t.Parallel()
	for _, c := range []struct{ old, by, names string }{
		{`"after": [{"step": "tuft", "max": "layOut"}]`, `"after": []`, "dry: orphan"},
		{`{"step": "tuft", "max": "layOut"}`, `{"step": "snip", "max": "layOut"}`, "snip"},
		{`"verb": "shape"`, `"verb": "wish"`, "wish"},
		{`"minutes": {"piece": "tuftMin"}`, `"minutes": {"bunch": "tuftMin"}`, "bunch"},
		{`"minutes": {"piece": "tuftMin"}`, `"minutes": {"piece": "tuftMinutes"}`, "tuftMinutes"},
		{`"minutes": {"piece": "tuftMin"}`, `"minutes": {"fill": "tuftMin"}`, "nothing counts its minutes for each fill"},
		{`"minutes": {"piece": "tuftMin"}`, `"hands": false, "dry": "wet"`, "which is no moment"},
		{`{"name": "tuftMin", "is": "0.5"}`, `{"name": "tuftMin", "is": "0.5"}, {"says": "nothing"}`, "given"},
		{`"minutes": {"piece": "tuftMin"}`, `"minutes": {"piece": "tuftMin +"}`, "ends too early"},
		{`"minutes": {"piece": "tuftMin"}`, `"minutes": {"piece": "1"}, "wait": "3"`, "exactly one"},
		{`"ways": ["tool"]`, `"ways": ["why"]`, "why"},
		{`"kind": "foam"`, `"kind": "spade"`, "spade"},
		{`"as": "rest"`, `"as": "nap"`, "nap"},
		{`"default": "D"`, `"default": "Q"`, "join cake"},
		{`"default": 1}`, `"default": 40}`, "tuftG"},
		{`"key": "our-moss"`, `"key": "our moss"`, "key"},
		{`dustyfern-technique/1`, `dustyfern-technique/9`, "format"},
		{`"limit": "hands"`, `"limits": "hands"`, "limits"},
		{`{"name": "tuftMin", "is": "0.5"}`, `{"topic": "moss.sieve", "in": {}, "out": {"tuftMin": "min"}}`, "moss.sieve"},
	} {
		text := strings.Replace(sewn, c.old, c.by, 1)
		if text == sewn {
			t.Fatalf("%s is not in the file", c.old)
		}
		if _, err := folder(t, "moss.json", text); err == nil || !strings.Contains(err.Error(), c.names) || !strings.Contains(err.Error(), "moss.json") {
			t.Errorf("%s: %v, want it to name %q", c.by, err, c.names)
		}
	}
}

// allStages are moments of a slow day, each that a shipped way asks for.
var allStages = func() map[string]*float64 {
	out := map[string]*float64{}
	for name, x := range map[string]float64{"skin.p10": 24, "skin.p50": 30, "skin.p90": 40, "hold.p10": 100, "hold.p50": 150, "hold.p90": 240, "firm.p10": 420, "firm.p50": 700, "firm.p90": 1100,
		"hard.p10": 900, "hard.p50": 1300, "hard.p90": 2000, "open.p10": 18, "dew.dustable": 12, "dew.cold": 9} {
		out[name] = &x
	}
	for _, s := range Ours.Common.Stages {
		if strings.HasPrefix(s.Name, "coat.") {
			out[s.Name] = new(map[string]float64{"next": 10, "p50": 20, "p90": 24}[s.Name[strings.LastIndexByte(s.Name, '.')+1:]])
		}
	}
	for _, t := range Ours.All() {
		for _, b := range t.Bodies {
			for _, stage := range []string{"skin", "hold", "firm", "hard"} {
				for _, q := range []string{".p10", ".p50", ".p90"} {
					if b.ID != "main" {
						out[b.ID+"."+stage+q] = out[stage+q]
					}
				}
			}
		}
	}
	return out
}()

// Whatever is asked, the batches hold all pieces, their sizes differ by one at
// most, and each step of hands fits the stretch.
func TestBatchesHoldAllPieces(t *testing.T) {
	t.Parallel()
	for _, key := range Ours.Keys() {
		tech := Ours.Of(key)
		for _, state := range tech.Joins[len(tech.Joins)-1].States {
			for _, wanted := range []int{1, 7, 40, 150} {
				window := 120.0
				out, err := Ours.Chain(ChainIn{Technique: &key, Wanted: &wanted, Join: &state, Stages: allStages, WindowMinutes: &window, Tools: map[string]map[string]float64{"freezer": {"places": 6}}})
				if err != nil {
					t.Errorf("%s %s, %d wanted: %v", key, state, wanted, err)
					continue
				}
				sum, hands := 0, 0.0
				for i, b := range out.Batches {
					sum += b.Pieces
					if i > 0 && (b.Pieces > out.Batches[i-1].Pieces || out.Batches[0].Pieces-b.Pieces > 1) {
						t.Errorf("%s %s: batches of %d and %d", key, state, out.Batches[i-1].Pieces, b.Pieces)
					}
					for _, o := range b.Ops {
						hands += o.HandsMinutes
						if o.Attended && float64(o.length) > window || o.Attended && o.HandsMinutes > float64(o.length)+1e-9 {
							t.Errorf("%s %s: %s takes %d min, %.1f of hands", key, state, o.Op, o.length, o.HandsMinutes)
						}
					}
					for _, g := range b.Lags {
						if g.Max != nil && *g.Max < g.Min {
							t.Errorf("%s %s: %+v", key, state, g)
						}
					}
				}
				if sum != out.Made || out.Made < wanted || math.Abs(hands-out.HandsMinutes) > 1e-6 {
					t.Errorf("%s %s: %d in batches of %d made for %d; %.2f min of %.2f", key, state, sum, out.Made, wanted, hands, out.HandsMinutes)
				}
				if len(out.Batches) > 1 && out.SplitBy == "" {
					t.Errorf("%s %s: split without a reason", key, state)
				}
			}
		}
	}
}

// Each file's own example comes out as the file says.
func TestExamplesComeOut(t *testing.T) {
	t.Parallel()
	for _, key := range Ours.Keys() {
		ex := Ours.Of(key).Example
		if ex == nil {
			t.Errorf("%s has no example", key)
			continue
		}
		in := ex.Input
		in.Technique = &key
		out, err := Ours.Chain(in)
		if err != nil {
			t.Errorf("%s: %v", key, err)
			continue
		}
		var want struct {
			HandsMinutes       float64
			LongestWaitMinutes int
			LongestWaitStep    string
			Made, Parts        int
			Ops                []string
			Paste              string
		}
		if err := json.Unmarshal(ex.Want, &want); err != nil {
			t.Fatal(err)
		}
		var ops []string
		for _, o := range out.Batches[0].Ops {
			ops = append(ops, o.Op)
		}
		if math.Abs(out.HandsMinutes-want.HandsMinutes) > 0.01 || out.LongestWaitMinutes != want.LongestWaitMinutes || out.LongestWaitStep != want.LongestWaitStep ||
			out.Made != want.Made || len(out.Batches) != want.Parts || !slices.Equal(ops, want.Ops) || out.Paste != want.Paste {
			t.Errorf("%s: %.2f min, %d of %s, %d made in %d, %v, %s; want %+v", key, out.HandsMinutes, out.LongestWaitMinutes, out.LongestWaitStep, out.Made, len(out.Batches), ops, out.Paste, want)
		}
	}
}

// What asks wrongly is told where.
func TestQuestionsAreRefusedWhereTheyAreWrong(t *testing.T) {
	t.Parallel()
	ask := func(change func(*ChainIn)) error {
		in := ChainIn{Technique: new("T01"), Wanted: new(10), Stages: firm}
		change(&in)
		_, err := Ours.Chain(in)
		return err
	}
	for _, c := range []struct {
		field, code string
		change      func(*ChainIn)
	}{
		{"technique", fault.Required, func(in *ChainIn) { in.Technique = nil }},
		{"definition", fault.Contradiction, func(in *ChainIn) { in.Definition = map[string]any{} }},
		{"definition", fault.Syntax, func(in *ChainIn) { in.Technique, in.Definition = nil, map[string]any{"key": "x"} }},
		{"wanted", fault.Required, func(in *ChainIn) { in.Wanted = nil }},
		{"wanted", fault.OutOfRange, func(in *ChainIn) { in.Wanted = new(0) }},
		{"tools.spade", fault.Syntax, func(in *ChainIn) { in.Tools = map[string]map[string]float64{"spade": {}} }},
		{"tools.mould.teeth", fault.Syntax, func(in *ChainIn) { in.Tools = map[string]map[string]float64{"mould": {"teeth": 3}} }},
		{"tools.mould.depthMM", fault.OutOfRange, func(in *ChainIn) { in.Tools = map[string]map[string]float64{"mould": {"depthMM": 300}} }},
		{"manner.tired", fault.Syntax, func(in *ChainIn) { in.Manner = map[string]float64{"tired": 1} }},
		{"manner.dusted", fault.OutOfRange, func(in *ChainIn) { in.Manner = map[string]float64{"dusted": 2} }},
		{"ways.luck", fault.UnknownValue, func(in *ChainIn) { in.Ways = map[string]string{"luck": "good"} }},
		{"minutes.press.fill", fault.OutOfRange, func(in *ChainIn) { in.Minutes = map[string]float64{"press.fill": 0} }},
		{"minutes.press.sheet", fault.UnknownValue, func(in *ChainIn) { in.Minutes = map[string]float64{"press.sheet": 1} }},
		{"minutes.nap.batch", fault.UnknownValue, func(in *ChainIn) { in.Minutes = map[string]float64{"nap.batch": 1} }},
		{"windowMinutes", fault.OutOfRange, func(in *ChainIn) { in.WindowMinutes = new(5.0) }},
		{"manner.dough", fault.Contradiction, func(in *ChainIn) { in.Manner = map[string]float64{"dough": 1, "carries": 1} }},
	} {
		var f *fault.Fault
		if err := ask(c.change); !errors.As(err, &f) || f.Field != c.field || f.Code != c.code || !strings.HasSuffix(f.Message, ".") {
			t.Errorf("%v, want %s on %s", err, c.code, c.field)
		}
	}
}

func BenchmarkChain(b *testing.B) {
	for _, key := range Ours.Keys() {
		in := Ours.Of(key).Example.Input
		in.Technique = &key
		b.Run(key, func(b *testing.B) {
			for b.Loop() {
				if _, err := Ours.Chain(in); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
