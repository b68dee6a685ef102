// Package faulttest puts files out of order, value by value, so that tests see how
// they are refused.
package faulttest

import (
	"encoding/json"
	"fmt"
	"maps"
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

// Tear calls judge with one of the files, every time with one value put out of order, and fails
// the test with what judge says; "" is well. A field that stands at many places, in lists or in
// several files, is torn in each way that fits it at so many of them.
func Tear(t *testing.T, files [][]byte, times int, judge func(file int, torn []byte) (says string)) {
	t.Helper()
	var fields []string
	places := map[string][]place{}
	all := make([]any, len(files))
	for i, file := range files {
		if err := json.Unmarshal(file, &all[i]); err != nil {
			t.Fatal(err)
		}
		walk("", "", all[i], func(field string, p place) {
			if places[field] == nil {
				fields = append(fields, field)
			}
			p.file = i
			places[field] = append(places[field], p)
		})
	}
	for _, field := range fields {
		at := places[field]
		for i, tear := range tears {
			for n := range min(times, len(at)) {
				p := at[(i+n*len(tears))%len(at)]
				by, ok := tear.do(p.was)
				if !ok {
					continue
				}
				p.put(by)
				torn, err := json.Marshal(all[p.file])
				p.put(p.was)
				if err != nil {
					t.Fatal(err)
				}
				if says := standing(judge, p.file, torn); says != "" {
					t.Errorf("file %d%s, %s: %s", p.file, p.at, tear.say, says)
				}
			}
		}
	}
}

// standing is what judge says, or that it fell over.
func standing(judge func(int, []byte) string, file int, torn []byte) (says string) {
	defer func() {
		if r := recover(); r != nil {
			says = fmt.Sprintf("it fell over: %v", r)
		}
	}()
	return judge(file, torn)
}

// place is where a value stands, and what puts another in its place.
type place struct {
	file int
	at   string
	was  any
	put  func(any)
}

// walk calls f with each value below v: its field, the same for all of a list, and its place.
func walk(field, at string, v any, f func(field string, p place)) {
	visit := func(field, at string, was any, put func(any)) {
		f(field, place{at: at, was: was, put: put})
		walk(field, at, was, f)
	}
	switch x := v.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(x)) {
			visit(field+"."+k, at+"."+k, x[k], func(by any) { x[k] = by })
		}
	case []any:
		for i := range x {
			visit(field+"[]", fmt.Sprintf("%s[%d]", at, i), x[i], func(by any) { x[i] = by })
		}
	}
}
