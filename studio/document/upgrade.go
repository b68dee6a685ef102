package document

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"dustyfern/studio/noun"
)

func formatVersion(format string) (version int, known bool) {
	name, rest, _ := strings.Cut(format, "/")
	n, err := fmt.Sscanf(rest, "%d", &version)
	return version, name == documentName && n == 1 && err == nil && version > 0
}

// upgrade1 brings a document of version 1 to version 2: gels of a piece are
// lots, not names; a wait is no fact; clocks follow from waits (ran are those that had not been
// heard, as op~kind~n); a teaspoon is of
// a powder; a step carries what it is about.
func upgrade1(raw []byte) (upgraded []byte, ran map[string]bool, err error) {
	var d map[string]any
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	if err := dec.Decode(&d); err != nil {
		return nil, nil, err
	}
	d["format"] = documentName + "/2"
	if k, ok := d["kitchen"].(map[string]any); ok {
		if g, old := k["gramsPerTsp"]; old {
			delete(k, "gramsPerTsp")
			if powder, ok := k["powder"].(string); ok && g != nil {
				k["spoonGrams"] = map[string]any{powder: g}
			}
		}
	}
	lots := map[string]int{}
	for i, x := range listOf(d["lots"]) {
		name, _ := x["name"].(string)
		if _, twice := lots[name]; !twice {
			lots[name] = i + 1
		}
	}
	for _, c := range listOf(d["commissions"]) {
		pieces := listOf(c["pieces"])
		for _, p := range pieces {
			gels := []int{}
			if names, _ := p["gels"].(string); names != "" {
				for name := range strings.SplitSeq(names, " + ") {
					if no, ok := lots[name]; ok {
						gels = append(gels, no)
					}
				}
			}
			delete(p, "gels")
			p["gelLots"] = gels
		}
		for _, st := range listOf(c["steps"]) {
			upgradeStep1(c, pieces, st)
		}
	}
	own, ran := []map[string]any{}, map[string]bool{}
	for _, t := range listOf(d["timers"]) {
		if t["kind"] == "own" {
			own = append(own, t)
			continue
		}
		ran[fmt.Sprintf("%v~%v~%v", t["op"], t["kind"], t["n"])] = true
	}
	d["timers"] = own
	upgraded, err = json.Marshal(d)
	return upgraded, ran, err
}

// upgrade2 brings a document of version 2 to version 3: a tool is of a kind with the
// measures of that kind, what holds a curve is a tool, and a piece has what its way
// of making asks for.
func upgrade2(raw []byte) ([]byte, error) {
	var d map[string]any
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	if err := dec.Decode(&d); err != nil {
		return nil, err
	}
	d["format"] = documentName + "/3"
	tools, _ := d["tools"].([]any)
	for _, t := range listOf(d["tools"]) {
		upgradeTool2(t)
	}
	if k, ok := d["kitchen"].(map[string]any); ok {
		for _, f := range listOf(k["formers"]) {
			name, _ := f["name"].(string)
			kind := "former"
			for _, word := range []string{"cup", "dowel", "hook"} {
				if strings.Contains(strings.ToLower(name), word) {
					kind = word
					break
				}
			}
			tools = append(tools, map[string]any{"name": name, "kind": kind, "measures": map[string]any{"places": f["count"]}, "shape": "", "chilled": false, "copies": 1, "weighings": []any{}})
		}
		delete(k, "formers")
		d["tools"] = tools
	}
	for _, c := range listOf(d["commissions"]) {
		for _, p := range listOf(c["pieces"]) {
			if no, had := p["mould"]; had {
				p["tool"] = no
				delete(p, "mould")
			}
			p["technique"], p["tools"], p["measures"], p["ways"], p["joins"] = "", map[string]any{}, map[string]any{}, map[string]any{}, []any{}
		}
	}
	return json.Marshal(d)
}

// upgrade3 brings a document of version 3 to version 4: a label says apart what a lot
// holds and what guests ask about besides, and so does a table.
func upgrade3(raw []byte) ([]byte, error) {
	var d map[string]any
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	if err := dec.Decode(&d); err != nil {
		return nil, err
	}
	d["format"] = documentName + "/4"
	apart := func(x map[string]any, name string) (fourteen, besides []any) {
		fourteen, besides = []any{}, []any{}
		list, _ := x[name].([]any)
		for _, w := range list {
			if slices.Contains([]any{"maize", "citrus", "gelatine", "colourings"}, w) {
				besides = append(besides, w)
			} else {
				fourteen = append(fourteen, w)
			}
		}
		delete(x, name)
		return fourteen, besides
	}
	if k, ok := d["kitchen"].(map[string]any); ok {
		class := k["breakage"]
		delete(k, "breakage")
		for _, t := range listOf(d["tools"]) {
			if class == "delicate" || class == "fragile" {
				t["breakage"] = class
			}
		}
	}
	for _, l := range listOf(d["lots"]) {
		list, _ := l["allergens"].([]any)
		l["labelRead"] = len(list) > 0
		l["holds"], l["asks"] = apart(l, "allergens")
		l["may"] = []any{}
	}
	for _, c := range listOf(d["commissions"]) {
		var without []any
		c["allergies"], without = apart(c, "allergies")
		if c["noAlcohol"] == true {
			without = append(without, "alcohol")
		}
		if c["noGelatine"] == true && !slices.Contains(without, "gelatine") {
			without = append(without, "gelatine")
		}
		delete(c, "noAlcohol")
		delete(c, "noGelatine")
		c["without"], c["atRisk"] = without, []any{}
	}
	return json.Marshal(d)
}

// upgrade4 brings a document of version 4 to version 5: a part-mixed piece says what lies
// beside its own colour; before it was plain paste.
func upgrade4(raw []byte) ([]byte, error) {
	var d map[string]any
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	if err := dec.Decode(&d); err != nil {
		return nil, err
	}
	d["format"] = DocumentFormat
	for _, c := range listOf(d["commissions"]) {
		for _, p := range listOf(c["pieces"]) {
			if p["marbled"] == true {
				p["strands"] = []any{map[string]any{"parts": 1}}
			}
			delete(p, "marbled")
		}
	}
	return json.Marshal(d)
}

func upgradeTool2(t map[string]any) {
	measures := map[string]any{}
	take := func(from, to string) {
		switch x := t[from].(type) {
		case json.Number:
			measures[to] = x
		case bool:
			measures[to] = map[bool]int{true: 1}[x]
		}
		delete(t, from)
	}
	take("lengthMM", "lengthMM")
	take("widthMM", "widthMM")
	take("depthMM", "depthMM")
	cavity := map[string]string{"detailMM": "detailMM", "undercut": "undercut", "branching": "branching", "patterned": "patterned", "cavities": "cavities", "fillMinutes": "fillSec"}
	switch t["make"] {
	case "lace":
		t["kind"] = "laceMould"
	case "lip":
		t["kind"] = "lippedMould"
	default:
		t["kind"] = "cavityMould"
		if fill, ok := t["fillMinutes"].(json.Number); ok {
			if x, err := fill.Float64(); err == nil {
				t["fillMinutes"] = json.Number(fmt.Sprint(x * 60))
			}
		}
		for from, to := range cavity {
			take(from, to)
		}
	}
	for from := range cavity {
		delete(t, from)
	}
	delete(t, "make")
	t["measures"] = measures
}

func upgradeStep1(c map[string]any, pieces []map[string]any, st map[string]any) {
	if st["attended"] != true {
		delete(st, "actualStart")
		delete(st, "actualEnd")
	}
	planned, ok := st["planned"].(map[string]any)
	if !ok {
		planned = map[string]any{}
		st["planned"] = planned
	}
	planned["name"] = c["title"]
	op, _ := st["op"].(string)
	var order, no, part int
	if n, _ := fmt.Sscanf(op, "p%d-%d.%d", &order, &no, &part); n == 3 && no >= 1 && no <= len(pieces) {
		planned["name"], planned["part"], planned["again"] = pieces[no-1]["name"], part, part >= noun.AgainFrom
	}
}

func listOf(x any) (out []map[string]any) {
	all, _ := x.([]any)
	for _, e := range all {
		if m, ok := e.(map[string]any); ok {
			out = append(out, m)
		}
	}
	return out
}
