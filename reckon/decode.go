package reckon

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"math"
	"reflect"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

// read fills *into from one JSON object, strictly: names are exact, capitals
// too, a field that does not exist is a fault, whole numbers are whole, and
// null is the same as absent.
func read(raw []byte, into any) error {
	raw = bytes.TrimSpace(raw)
	if len(raw) == 0 {
		raw = []byte("{}")
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	d.UseNumber()
	var tree any
	if err := d.Decode(&tree); err != nil {
		return fault.New(fault.Syntax, "", "This is not readable as JSON: %v.", err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return fault.New(fault.Syntax, "", "One JSON object is wanted, and nothing after it.")
	}
	if _, ok := tree.(map[string]any); !ok {
		return fault.New(fault.Syntax, "", "A JSON object is wanted: {\"field\": value, ...}.")
	}
	if f := fill(reflect.ValueOf(into).Elem(), tree, ""); f != nil {
		return f
	}
	return nil
}

func wrong(path, want string) *fault.Fault {
	return fault.New(fault.Syntax, path, "%s must be %s.", path, want)
}

func fill(v reflect.Value, tree any, path string) *fault.Fault {
	if tree == nil {
		return nil
	}
	switch v.Kind() {
	case reflect.Interface:
		v.Set(reflect.ValueOf(tree))
	case reflect.Pointer:
		n := reflect.New(v.Type().Elem())
		if f := fill(n.Elem(), tree, path); f != nil {
			return f
		}
		v.Set(n)
	case reflect.Struct:
		return fillStruct(v, tree, path)
	case reflect.Slice:
		list, ok := tree.([]any)
		if !ok {
			return wrong(path, "a list")
		}
		out := reflect.MakeSlice(v.Type(), len(list), len(list))
		for i, e := range list {
			p := path + "[" + strconv.Itoa(i) + "]"
			if e == nil {
				return wrong(p, "given, not null")
			}
			if f := fill(out.Index(i), e, p); f != nil {
				return f
			}
		}
		v.Set(out)
	case reflect.Map:
		m, ok := tree.(map[string]any)
		if !ok {
			return wrong(path, "an object")
		}
		out := reflect.MakeMap(v.Type())
		for k, e := range m {
			if e == nil {
				if v.Type().Elem().Kind() == reflect.Pointer { // null says something here: never
					out.SetMapIndex(reflect.ValueOf(k), reflect.Zero(v.Type().Elem()))
				}
				continue
			}
			n := reflect.New(v.Type().Elem()).Elem()
			if f := fill(n, e, path+"."+k); f != nil {
				return f
			}
			out.SetMapIndex(reflect.ValueOf(k), n)
		}
		v.Set(out)
	case reflect.String:
		s, ok := tree.(string)
		if !ok {
			return wrong(path, "text")
		}
		v.SetString(s)
	case reflect.Bool:
		b, ok := tree.(bool)
		if !ok {
			return wrong(path, "true or false")
		}
		v.SetBool(b)
	case reflect.Float64, reflect.Int:
		n, ok := tree.(json.Number)
		if !ok {
			return wrong(path, "a number")
		}
		x, err := n.Float64()
		if err != nil {
			return fault.New(fault.OutOfRange, path, "%s is too large a number.", path)
		}
		if v.Kind() == reflect.Float64 {
			v.SetFloat(x)
		} else if x != math.Trunc(x) {
			return wrong(path, "a whole number")
		} else if math.Abs(x) > 1e15 {
			return fault.New(fault.OutOfRange, path, "%s is too large a number.", path)
		} else {
			v.SetInt(int64(x))
		}
	}
	return nil
}

func fillStruct(v reflect.Value, tree any, path string) *fault.Fault {
	m, ok := tree.(map[string]any)
	if !ok {
		return wrong(path, "an object")
	}
	at := func(name string) string {
		if path == "" {
			return name
		}
		return path + "." + name
	}
	known := 0
	for i := range v.NumField() {
		name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		e, ok := m[name]
		if !ok {
			continue
		}
		known++
		if f := fill(v.Field(i), e, at(name)); f != nil {
			return f
		}
	}
	if known == len(m) {
		return nil
	}
	for name := range m {
		found := false
		for i := range v.NumField() {
			n, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
			found = found || n == name
		}
		if !found {
			return fault.New(fault.Syntax, at(name), "There is no field %q here.", name)
		}
	}
	return nil
}
