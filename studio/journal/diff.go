package journal

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"
)

// fields of a row, as JSON by name.
type fields map[string]json.RawMessage

// snapshot of a row as it stands in the store.
func snapshot(row any) (fields, error) {
	b, err := json.Marshal(row)
	if err != nil {
		return nil, err
	}
	var f fields
	return f, json.Unmarshal(b, &f)
}

// fewChanged is how many elements of a list are named one by one; more than
// that, and the list is kept whole.
const fewChanged = 4

// diff gives the fields that differ, before and after. The version is no field
// of what people changed.
func (f fields) diff(after fields) (was, is fields) {
	was, is = fields{}, fields{}
	names := maps.Clone(f)
	maps.Copy(names, after)
	for name := range names {
		a, b := f[name], after[name]
		if name == "version" || same(a, b) {
			continue
		}
		if listDiff(name, a, b, was, is) {
			continue
		}
		if a != nil {
			was[name] = a
		}
		if b != nil {
			is[name] = b
		}
	}
	return was, is
}

// listDiff names the elements of a list that differ, when they are few and none
// was taken out of the middle.
func listDiff(name string, a, b json.RawMessage, was, is fields) bool {
	x, okX := elements(a)
	y, okY := elements(b)
	if !okX || !okY || len(x) == 0 && len(y) == 0 {
		return false
	}
	var changed []int
	for i := range max(len(x), len(y)) {
		if i >= len(x) || i >= len(y) || !same(x[i], y[i]) {
			changed = append(changed, i)
		}
	}
	if len(changed) > fewChanged {
		return false
	}
	for _, i := range changed {
		key := fmt.Sprintf("%s[%d]", name, i)
		if i < len(x) {
			was[key] = x[i]
		}
		if i < len(y) {
			is[key] = y[i]
		}
	}
	return true
}

func elements(raw json.RawMessage) ([]json.RawMessage, bool) {
	if len(raw) == 0 || raw[0] != '[' {
		return nil, false
	}
	var out []json.RawMessage
	return out, json.Unmarshal(raw, &out) == nil
}

// element splits "Fills[3]" into its list and place; -1 for a plain field.
func element(name string) (list string, at int) {
	head, rest, ok := strings.Cut(name, "[")
	if !ok {
		return name, -1
	}
	n, err := strconv.Atoi(strings.TrimSuffix(rest, "]"))
	if err != nil {
		return name, -1
	}
	return head, n
}

// set puts a value (nil: none) in the place of a field or an element. An
// element is only taken away at the end of its list.
func (f fields) set(name string, to json.RawMessage) error {
	list, at := element(name)
	if at < 0 {
		if to == nil {
			delete(f, name)
		} else {
			f[name] = to
		}
		return nil
	}
	all, ok := elements(f[list])
	switch {
	case !ok && f[list] != nil || at > len(all):
		return fmt.Errorf("%s has no place %d", list, at)
	case to == nil && at == len(all)-1:
		all = all[:at]
	case to == nil:
		return fmt.Errorf("%s: an element in the middle stays", list)
	case at == len(all):
		all = append(all, to)
	default:
		all[at] = to
	}
	if all == nil {
		all = []json.RawMessage{}
	}
	raw, err := json.Marshal(all)
	f[list] = raw
	return err
}

// get is a field or an element, nil when there is none.
func (f fields) get(name string) json.RawMessage {
	list, at := element(name)
	if at < 0 {
		return f[name]
	}
	all, _ := elements(f[list])
	if at >= len(all) {
		return nil
	}
	return all[at]
}

// restore undoes a change: what was after it becomes what was before it.
func (f fields) restore(before, after fields) error {
	names := maps.Clone(before)
	if names == nil {
		names = fields{}
	}
	maps.Copy(names, after)
	for _, name := range inTurn(names, before) {
		if err := f.set(name, before[name]); err != nil {
			return err
		}
	}
	return nil
}

// inTurn orders the names of what is put back: elements are taken away from the
// end of a list, and put there one after another.
func inTurn(names, to fields) []string {
	return slices.SortedFunc(maps.Keys(names), func(a, b string) int {
		la, ia := element(a)
		lb, ib := element(b)
		if c := strings.Compare(la, lb); c != 0 {
			return c
		}
		switch goesA, goesB := to[a] == nil, to[b] == nil; {
		case goesA && goesB:
			return ib - ia
		case goesA != goesB && goesA:
			return -1
		case goesA != goesB:
			return 1
		}
		return ia - ib
	})
}

// same compares two values; the store may have put the names within them into
// another order.
func same(a, b json.RawMessage) bool {
	if a == nil {
		a = json.RawMessage("null")
	}
	if b == nil {
		b = json.RawMessage("null")
	}
	if bytes.Equal(a, b) {
		return true
	}
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}

// givenBack is a mass now, without what an entry changed of it.
func givenBack(now, before, after json.RawMessage) (json.RawMessage, error) {
	var g [3]float64
	for i, x := range []json.RawMessage{now, before, after} {
		if x == nil {
			continue // nothing is left out
		}
		if err := json.Unmarshal(x, &g[i]); err != nil {
			return nil, err
		}
	}
	return json.Marshal(math.Max(0, g[0]+g[1]-g[2]))
}

// putBack gives a row the fields that it had before an entry. A field that has
// been changed since is not touched over: the name of it is returned. A row that
// the entry made goes, and can come back.
func putBack(row any, t *Touched, at time.Time) (since string, err error) {
	now, err := snapshot(row)
	if err != nil {
		return "", err
	}
	before, after := t.Before, t.After
	if t.made() {
		gone, err := json.Marshal(at.UTC())
		if err != nil {
			return "", err
		}
		before, after = fields{"deletedAt": gone}, fields{}
	}
	names := maps.Clone(after)
	if names == nil {
		names = fields{}
	}
	maps.Copy(names, before)
	for _, name := range inTurn(names, before) {
		to, was := before[name], after[name]
		if name == "version" || t.Noun == "piece" && name == "gels" || same(to, was) {
			continue // gels: of before, by name
		}
		if t.Noun == "lot" && !t.made() && (name == "massG" || name == "owesG") {
			// grams are given back, whatever else was taken since
			if to, err = givenBack(now[name], to, was); err != nil {
				return "", err
			}
		} else if planned := name == "PlannedStart" || name == "PlannedEnd"; planned && t.Noun == "step" {
			if start := before["ActualStart"]; len(start) == 0 || string(start) == "null" {
				continue // what has not begun is planned anew
			}
		} else if !same(now.get(name), was) {
			list, _ := element(name)
			return list, nil
		}
		if now.set(name, to) != nil {
			list, _ := element(name)
			return list, nil
		}
	}
	b, err := json.Marshal(now)
	if err != nil {
		return "", err
	}
	fresh := reflect.New(reflect.TypeOf(row).Elem()) // lists of the old row are not written into
	if err := json.Unmarshal(b, fresh.Interface()); err != nil {
		return "", err
	}
	keepUntold(fresh.Elem(), reflect.ValueOf(row).Elem())
	reflect.ValueOf(row).Elem().Set(fresh.Elem())
	return "", nil
}

// keepUntold keeps of a row what is no part of its story, such as a secret.
func keepUntold(fresh, row reflect.Value) {
	for i := range fresh.NumField() {
		if fresh.Type().Field(i).Tag.Get("json") == "-" {
			fresh.Field(i).Set(row.Field(i))
		}
	}
}

// RowAt is a row as it was at an earlier version, out of what was changed since;
// nil when that is no longer known.
func RowAt[T any](tx Tx, id, version int64, row *T) (*T, error) {
	es, err := tx.EntriesSince(nounOf[T](), id, version)
	if err != nil {
		return nil, err
	}
	f, err := snapshot(row)
	if err != nil {
		return nil, err
	}
	known := versionOf(row)
	for _, e := range es {
		for i := range e.Rows {
			t := &e.Rows[i]
			if t.Noun != nounOf[T]() || t.ID != id || t.To <= version {
				continue
			}
			if t.made() || t.To != known || f.restore(t.Before, t.After) != nil {
				return nil, nil
			}
			known = t.From
		}
	}
	if known != version {
		return nil, nil
	}
	b, err := json.Marshal(f)
	if err != nil {
		return nil, err
	}
	out := new(T)
	return out, json.Unmarshal(b, out)
}
