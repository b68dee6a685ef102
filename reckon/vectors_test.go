package reckon

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dustyfern/craft/fault/faulttest"
)

type vector struct {
	Topic string          `json:"topic"`
	Input json.RawMessage `json:"input"`
	Want  any             `json:"want"`
	Tol   map[string]any  `json:"tol"`
	Why   string          `json:"why"`
}

// cases calls f with each case of testdata, and where it stands.
func cases(t *testing.T, f func(at string, v *vector)) {
	t.Helper()
	files, _ := filepath.Glob("testdata/*.jsonl")
	if len(files) < 6 {
		t.Fatalf("only %d files of vectors", len(files))
	}
	for _, file := range files {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for line := range bytes.Lines(raw) {
			n++
			var v vector
			if err := json.Unmarshal(line, &v); err != nil {
				t.Fatalf("%s:%d: %v", file, n, err)
			}
			f(fmt.Sprintf("%s:%d %s", file, n, v.Topic), &v)
		}
	}
}

// heard is a reply as it is read outside.
type heard struct {
	OK     bool
	Result any
	Error  map[string]any
}

func asked(topic string, in []byte) (a heard, err error) {
	line, _ := Reply(topic, in)
	return a, json.Unmarshal(line, &a)
}

// TestVectors holds every topic against the cases agreed for it.
func TestVectors(t *testing.T) {
	cases(t, func(at string, v *vector) {
		a, err := asked(v.Topic, v.Input)
		if err != nil {
			t.Fatalf("%s: %v", at, err)
		}
		want, got := v.Want, a.Result
		if m, ok := want.(map[string]any); ok && m["error"] != nil {
			if a.OK {
				t.Errorf("%s (%s): an error was wanted, got %v", at, v.Why, got)
				return
			}
			if s, _ := a.Error["message"].(string); strings.TrimSpace(s) == "" {
				t.Errorf("%s: a refusal without a sentence", at)
			}
			want, got = m["error"], any(a.Error)
		}
		if d := differ(want, got, v.Tol, ""); d != "" {
			t.Errorf("%s (%s): %s", at, v.Why, d)
		}
	})
}

// Whatever value of a question is put out of order, it is answered with numbers that
// are numbers, or refused with the place and a sentence.
func TestTornQuestionsAreAnsweredOrRefused(t *testing.T) {
	t.Parallel()
	codes := []string{"syntax", "required", "out_of_range", "unknown_value", "contradiction", "unreachable"}
	asks, from := map[string][][]byte{}, map[string][]string{}
	cases(t, func(at string, v *vector) {
		if m, ok := v.Want.(map[string]any); ok && m["error"] != nil {
			return
		}
		asks[v.Topic], from[v.Topic] = append(asks[v.Topic], v.Input), append(from[v.Topic], at)
	})
	for topic, inputs := range asks {
		faulttest.Tear(t, inputs, 6, func(file int, torn []byte) string {
			a, err := asked(topic, torn)
			if err != nil {
				return fmt.Sprintf("%s is answered with what is no JSON: %v", from[topic][file], err)
			}
			code, _ := a.Error["code"].(string)
			field, _ := a.Error["field"].(string)
			say, _ := a.Error["message"].(string)
			if !a.OK && (!slices.Contains(codes, code) || say == "" || strings.Contains(say, "runtime error")) {
				return fmt.Sprintf("%s of %s is refused by %q at %q: %s", from[topic][file], torn, code, field, say)
			}
			return ""
		})
	}
	if len(asks) < 20 {
		t.Errorf("only %d topics were asked", len(asks))
	}
}

// toleranceAt is the rule of the most exact name on the way to a field.
func toleranceAt(tol map[string]any, path string) map[string]any {
	names := strings.Split(path, ".")
	var bare []string
	for _, n := range names {
		if _, err := strconv.Atoi(n); err != nil {
			bare = append(bare, n)
		}
	}
	keys := []string{path, strings.Join(bare, ".")}
	for i := len(names) - 1; i >= 0; i-- {
		keys = append(keys, names[i])
	}
	for _, k := range keys {
		if own, ok := tol[k].(map[string]any); ok {
			return own
		}
		if abs, ok := tol[k].(float64); ok && k != "abs" && k != "rel" {
			return map[string]any{"abs": abs}
		}
	}
	return tol
}

func near(want, got float64, tol map[string]any) bool {
	if most, ok := tol["atMost"].(float64); ok {
		return got <= want+most
	}
	if span, ok := tol["between"].([]any); ok {
		return got >= span[0].(float64) && got <= span[1].(float64)
	}
	abs, hasAbs := tol["abs"].(float64)
	rel, hasRel := tol["rel"].(float64)
	if !hasAbs && !hasRel {
		abs, rel = 1e-7, 2e-6
	}
	return math.Abs(got-want) <= math.Max(abs, rel*math.Abs(want))+1e-12
}

// differ is "" when got satisfies want: fields not asked for are ignored, null
// means absent, numbers keep to the tolerance.
func differ(want, got any, tol map[string]any, path string) string {
	switch w := want.(type) {
	case nil:
		if got != nil {
			return fmt.Sprintf("%s should be absent, is %v", path, got)
		}
	case map[string]any:
		g, ok := got.(map[string]any)
		if !ok {
			return fmt.Sprintf("%s: want %v, got %v", path, want, got)
		}
		for k, x := range w {
			if d := differ(x, g[k], tol, strings.TrimPrefix(path+"."+k, ".")); d != "" {
				return d
			}
		}
	case []any:
		g, ok := got.([]any)
		if !ok || len(g) != len(w) {
			return fmt.Sprintf("%s: want %v, got %v", path, want, got)
		}
		for i := range w {
			if d := differ(w[i], g[i], tol, fmt.Sprintf("%s.%d", path, i)); d != "" {
				return d
			}
		}
	case float64:
		g, ok := got.(float64)
		if !ok || !near(w, g, toleranceAt(tol, path)) {
			return fmt.Sprintf("%s: want %v, got %v", path, want, got)
		}
	case string:
		g, ok := got.(string)
		if n, is := toleranceAt(tol, path)["channel"].(float64); is && ok && len(w) == 7 && len(g) == 7 {
			for i := 1; i < 7; i += 2 {
				a, _ := strconv.ParseInt(w[i:i+2], 16, 32)
				b, err := strconv.ParseInt(g[i:i+2], 16, 32)
				if err != nil || math.Abs(float64(a-b)) > n {
					return fmt.Sprintf("%s: want %v, got %v", path, want, got)
				}
			}
			return ""
		}
		if w != g {
			return fmt.Sprintf("%s: want %v, got %v", path, want, got)
		}
	default:
		if want != got {
			return fmt.Sprintf("%s: want %v, got %v", path, want, got)
		}
	}
	return ""
}

func TestReadIsStrict(t *testing.T) {
	for _, c := range []struct{ topic, in, code, field string }{
		{"spare.make", `{"Wanted": 3}`, "syntax", "Wanted"},
		{"spare.make", `[1]`, "syntax", ""},
		{"spare.make", `{"wanted": 3} {}`, "syntax", ""},
		{"spare.make", `{"wanted": 2.5}`, "syntax", "wanted"},
		{"spare.make", `{"wanted": 1e999}`, "out_of_range", "wanted"},
		{"paste.strength", `{"parts":[{"paste":"sugarPaste","massG":"5"}]}`, "syntax", "parts[0].massG"},
		{"paste.strength", `{"parts":[{"paste":"sugarPaste","massG":5,"colour":"red"}]}`, "syntax", "parts[0].colour"},
		{"mould.cycle", `{"fillMinutes":2,"freezeMinutes":null,"unmouldMinutes":1,"moulds":1}`, "required", "freezeMinutes"},
		{"plan.build", `{}`, "required", "instance"},
		{"no.such", `{}`, "unknown_value", "topic"},
	} {
		line, ok := Reply(c.topic, []byte(c.in))
		var r struct{ Error struct{ Code, Field string } }
		_ = json.Unmarshal(line, &r)
		if ok || r.Error.Code != c.code || r.Error.Field != c.field {
			t.Errorf("%s %s: %s", c.topic, c.in, line)
		}
	}
	if line, ok := Reply("spare.make", []byte(`{"wanted": 2.0}`)); !ok {
		t.Errorf("2.0 is a whole number: %s", line)
	}
}

func TestBatchAnswersEachLine(t *testing.T) {
	for in, want := range map[string]string{
		`{"topic":"measure.convert","input":{"value":1,"unit":"lb","to":"g"}}`: `"text":"454 g"`,
		`nonsense`:                            `"code":"syntax"`,
		`{"topic":"drying.dew","input":null}`: `"field":"tempC"`,
		`{"input":{}}`:                        `"field":"topic"`,
	} {
		if got := string(Line([]byte(in))); !strings.Contains(got, want) {
			t.Errorf("%s: %s", in, got)
		}
	}
}

func FuzzAnswer(f *testing.F) {
	for _, name := range Topics() {
		f.Add(name, `{"text":"1½ tsp","wanted":3,"pasteG":100,"tempC":21,"rhPercent":45,"instance":{}}`)
	}
	f.Fuzz(func(t *testing.T, topic, in string) {
		if topic == "plan.build" && len(in) > 2000 {
			t.Skip()
		}
		line, _ := Reply(topic, []byte(in))
		if !json.Valid(line) {
			t.Fatalf("%q %q: %s", topic, in, line)
		}
	})
}

func BenchmarkPasteAdvice(b *testing.B) {
	in := []byte(`{"demands":["embossed","knifeThrough","wrapped","nibbled"],"depthMM":13,"widthMM":14,"lengthMM":300,"chilled":true}`)
	for b.Loop() {
		if _, err := Answer("paste.advise", in); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkMouldBatch(b *testing.B) {
	for b.Loop() {
		if _, err := Answer("mould.batch", []byte(`{"wanted":36,"pieceG":4.2}`)); err != nil {
			b.Fatal(err)
		}
	}
}
