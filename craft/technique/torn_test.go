package technique

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"testing"

	"dustyfern/craft/fault"
)

// tears are the ways in which a value of a file is put out of order.
var tears = []struct {
	say string
	do  func(was any) (any, bool)
}{
	{"nothing in its place", func(any) (any, bool) { return nil, true }},
	{"a word that is none", func(was any) (any, bool) { _, ok := was.(string); return "?", ok }},
	{"an empty text", func(was any) (any, bool) { _, ok := was.(string); return "", ok }},
	{"below nothing", func(was any) (any, bool) { _, ok := was.(float64); return -1.0, ok }},
	{"beyond all measure", func(was any) (any, bool) { _, ok := was.(float64); return 1e300, ok }},
	{"a list without an end", func(was any) (any, bool) {
		list, ok := was.([]any)
		if !ok || len(list) == 0 {
			return nil, false
		}
		return slices.Repeat(list, 3), true
	}},
	{"an empty list", func(was any) (any, bool) { list, ok := was.([]any); return []any{}, ok && len(list) > 0 }},
}

// places calls f with each value of a file, and what puts another in its place.
func places(at string, v any, f func(at string, was any, put func(any))) {
	visit := func(at string, was any, put func(any)) {
		f(at, was, put)
		places(at, was, f)
	}
	switch x := v.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for k := range x {
			keys = append(keys, k)
		}
		slices.Sort(keys)
		for _, k := range keys {
			visit(at+"."+k, x[k], func(by any) { x[k] = by })
		}
	case []any:
		for i := range x {
			visit(fmt.Sprintf("%s[%d]", at, i), x[i], func(by any) { x[i] = by })
		}
	}
}

// judged says what is wrong with how a torn file was taken: it is refused with its
// name, or it still makes chains that hold all pieces, or a question is refused with
// a field. Nothing falls over.
func judged(t *testing.T, text string) (says string) {
	defer func() {
		if r := recover(); r != nil {
			says = fmt.Sprintf("it fell over: %v", r)
		}
	}()
	l, err := folder(t, "torn.json", text)
	if err != nil {
		if !strings.Contains(err.Error(), "torn.json") {
			return "it is refused without its name: " + err.Error()
		}
		return ""
	}
	key := l.Keys()[0]
	window := 180.0
	out, err := l.Chain(ChainIn{Technique: &key, Wanted: new(9), Made: new(11), Stages: allStages, WindowMinutes: &window, Tools: map[string]map[string]float64{"freezer": {"places": 6}}})
	var f *fault.Fault
	if err != nil {
		if !errors.As(err, &f) {
			return "it is refused without a field: " + err.Error()
		}
		return ""
	}
	sum := 0
	for i := range out.Batches {
		b := &out.Batches[i]
		sum += b.Pieces
		for j := range b.Ops {
			if n := b.Ops[j].Length(); n < 0 || n > 10_000_000 {
				return fmt.Sprintf("%s takes %d min", b.Ops[j].Op, n)
			}
		}
	}
	if sum != 11 {
		return fmt.Sprintf("%d pieces of 11", sum)
	}
	return ""
}

// A studio edits its own copies, and files come from anywhere: whatever value of a
// file is put out of order, it is refused by name or works, and nothing falls over.
func TestATornFileIsRefusedOrWorks(t *testing.T) {
	t.Parallel()
	for n, key := range Ours.Keys() {
		raw, err := fs.ReadFile(embedded, "data/"+key+".json")
		if err != nil {
			t.Fatal(err)
		}
		var file any
		if err := json.Unmarshal(raw, &file); err != nil {
			t.Fatal(err)
		}
		place := n
		places("", file, func(at string, was any, put func(any)) {
			place++ // each tear meets every seventh place of a file, others in another file
			tear := tears[place%len(tears)]
			by, ok := tear.do(was)
			if !ok {
				return
			}
			put(by)
			text, err := json.Marshal(file)
			put(was)
			if err != nil {
				t.Fatal(err)
			}
			if says := judged(t, string(text)); says != "" {
				t.Errorf("%s%s, %s: %s", key, at, tear.say, says)
			}
		})
	}
}
