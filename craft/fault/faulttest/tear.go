// Package faulttest puts files out of order, value by value, so that tests see how
// they are refused.
package faulttest

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
)

// tears are the ways in which a value is put out of order; false: not this one.
var tears = []struct {
	say string
	do  func(was any) (any, bool)
}{
	{"nothing in its place", func(any) (any, bool) { return nil, true }},
	{"a word that is none", func(was any) (any, bool) { _, ok := was.(string); return "?", ok }},
	{"an empty text", func(was any) (any, bool) { _, ok := was.(string); return "", ok }},
	{"below nothing", func(was any) (any, bool) { _, ok := was.(float64); return -1.0, ok }},
	{"beyond all measure", func(was any) (any, bool) { _, ok := was.(float64); return 1e300, ok }},
	{"a list three times", func(was any) (any, bool) {
		list, ok := was.([]any)
		return slices.Repeat(list, 3), ok && len(list) > 0
	}},
	{"an empty list", func(was any) (any, bool) { list, ok := was.([]any); return []any{}, ok && len(list) > 0 }},
}

// Tear calls judge with the file once for each of its places, every time with one
// value put out of order, and fails the test with what judge says; "" is well. Each
// place is torn in one way of seven: another first gives each another one.
func Tear(t *testing.T, file []byte, first int, judge func(torn []byte) (says string)) {
	t.Helper()
	var all any
	if err := json.Unmarshal(file, &all); err != nil {
		t.Fatal(err)
	}
	n := first
	walk("", all, func(at string, was any, put func(any)) {
		n++
		tear := tears[n%len(tears)]
		by, ok := tear.do(was)
		if !ok {
			return
		}
		put(by)
		torn, err := json.Marshal(all)
		put(was)
		if err != nil {
			t.Fatal(err)
		}
		if says := standing(judge, torn); says != "" {
			t.Errorf("%s, %s: %s", at, tear.say, says)
		}
	})
}

// standing is what judge says, or that it fell over.
func standing(judge func([]byte) string, torn []byte) (says string) {
	defer func() {
		if r := recover(); r != nil {
			says = fmt.Sprintf("it fell over: %v", r)
		}
	}()
	return judge(torn)
}

// walk calls f with each value below v, and with what puts another in its place.
func walk(at string, v any, f func(at string, was any, put func(any))) {
	visit := func(at string, was any, put func(any)) {
		f(at, was, put)
		walk(at, was, f)
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
