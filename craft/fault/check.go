package fault

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// limits are the guards that many fields share (docs/models/quantity.md, 0).
var limits = map[string]string{
	"mass":      "0.01..50000",
	"length":    "0.1..10000",
	"area":      "0.01..1e8",
	"thickness": "0.2..20",
	"density":   "0.2..3",
	"minutes":   "0.01..10080",
	"count":     "0..100000",
	"share":     "0..1",
	"kitchen":   "-30..260",
	"gap":       "0..1000",
	"strength":  "0..10",
}

// units by the end of a field's name, for sentences.
var units = []struct{ suffix, unit string }{
	{"GPerML", "g/ml"}, {"GPerM2", "g/m2"}, {"MM2", "mm2"}, {"MM", "mm"}, {"ML", "ml"}, {"Minutes", "minutes"}, {"Hours", "hours"},
	{"Percent", "%"}, {"MS", "m/s"}, {"C", "°C"}, {"G", "g"},
}

type rule struct {
	index    int
	name     string
	need     bool
	def      string
	lo, hi   float64
	limited  bool
	words    []string
	most     int
	elements bool // a list or struct whose own fields carry rules
}

var rules sync.Map // reflect.Type -> []rule

func rulesOf(t reflect.Type) []rule {
	if r, ok := rules.Load(t); ok {
		return r.([]rule)
	}
	var out []rule
	for i := range t.NumField() {
		f := t.Field(i)
		r := rule{index: i, name: f.Tag.Get("json"), need: f.Tag.Get("need") == "true", def: f.Tag.Get("def")}
		r.name, _, _ = strings.Cut(r.name, ",")
		if in := f.Tag.Get("in"); in != "" {
			if l, ok := limits[in]; ok {
				in = l
			}
			lo, hi, _ := strings.Cut(in, "..")
			r.lo, _ = strconv.ParseFloat(lo, 64)
			r.hi, _ = strconv.ParseFloat(hi, 64)
			r.limited = true
		}
		if of := f.Tag.Get("of"); of != "" {
			r.words = strings.Fields(of)
		}
		if m := f.Tag.Get("most"); m != "" {
			r.most, _ = strconv.Atoi(m)
		}
		e := f.Type
		if e.Kind() == reflect.Slice || e.Kind() == reflect.Pointer {
			e = e.Elem()
		}
		r.elements = e.Kind() == reflect.Struct
		out = append(out, r)
	}
	rules.Store(t, out)
	return out
}

// Check walks the fields of *in in the order in which they are declared, fills
// in defaults and returns the first Fault. It reads these tags beside json:
//
//	need:"true"     must be given (a list or text: not empty)
//	def:"1.35"      value when absent
//	in:"0..8"       least and most, or a name of the shared limits ("mass")
//	of:"us metric"  the words allowed
//	most:"8"        longest list
//
// Only the named fields are looked at when names are given.
func Check(in any, names ...string) error {
	if f := check(reflect.ValueOf(in).Elem(), "", names); f != nil {
		return f
	}
	return nil
}

func check(v reflect.Value, prefix string, names []string) *Fault {
	for _, r := range rulesOf(v.Type()) {
		if len(names) > 0 && !slices.Contains(names, r.name) {
			continue
		}
		f, path := v.Field(r.index), prefix+r.name
		switch f.Kind() {
		case reflect.Slice:
			if r.need && f.Len() == 0 {
				return New(Required, path, "%s: list at least one.", path)
			}
			if r.most > 0 && f.Len() > r.most {
				return New(OutOfRange, path, "%s: at most %d, not %d.", path, r.most, f.Len())
			}
			for i := range f.Len() {
				var bad *Fault
				if r.elements {
					bad = check(f.Index(i), ".", nil)
				} else {
					bad = r.value(f.Index(i), "")
				}
				if bad != nil { // the path is only spelled out when it is needed
					at := fmt.Sprintf("%s[%d]", path, i)
					bad.Field, bad.Message = at+bad.Field, at+bad.Message
					return bad
				}
			}
		case reflect.Pointer:
			if f.IsNil() {
				if r.def == "" {
					if r.need {
						return New(Required, path, "%s is missing.", path)
					}
					continue
				}
				f.Set(reflect.New(f.Type().Elem()))
				setDefault(f.Elem(), r.def)
			}
			if r.elements {
				if bad := check(f.Elem(), path+".", nil); bad != nil {
					return bad
				}
				continue
			}
			if r.need && f.Elem().Kind() == reflect.String && f.Elem().String() == "" {
				return New(Required, path, "%s is empty.", path)
			}
			if bad := r.value(f.Elem(), path); bad != nil {
				return bad
			}
		}
	}
	return nil
}

func setDefault(v reflect.Value, def string) {
	switch v.Kind() {
	case reflect.Float64:
		x, _ := strconv.ParseFloat(def, 64)
		v.SetFloat(x)
	case reflect.Int:
		x, _ := strconv.Atoi(def)
		v.SetInt(int64(x))
	case reflect.String:
		v.SetString(def)
	}
}

func (r *rule) value(v reflect.Value, path string) *Fault {
	switch v.Kind() {
	case reflect.Float64, reflect.Int:
		var x float64
		if v.Kind() == reflect.Int {
			x = float64(v.Int())
		} else {
			x = v.Float()
		}
		if math.IsNaN(x) || math.IsInf(x, 0) {
			return New(OutOfRange, path, "%s must be a finite number.", path)
		}
		if r.limited && (x < r.lo || x > r.hi) {
			more := ""
			if strings.HasSuffix(r.name, "GPerML") && x > r.hi {
				more = " Is this kg/m3? Divide by 1000."
			}
			if r.lo == 0.2 && r.hi == 20 && x > r.hi {
				more = mixedInch(x)
			}
			return New(OutOfRange, path, "%s must be from %s to %s%s, not %s.%s", path, num(r.lo), num(r.hi), unitOf(r.name), num(x), more)
		}
	case reflect.String:
		if len(r.words) > 0 && !slices.Contains(r.words, v.String()) {
			return New(UnknownValue, path, "%s must be one of %s, not %q.", path, strings.Join(r.words, ", "), v.String())
		}
	}
	return nil
}

// mixedInch answers "28.6 mm" where a rolled thickness is meant: somebody read
// "1 1/8 in" for "1/8 in" when the fraction alone would be a thickness.
func mixedInch(mm float64) string {
	for d := 2; d <= 32; d *= 2 {
		for n := 1; n < d; n += 2 {
			alone := float64(n) / float64(d) * 25.4
			whole := math.Round((mm - alone) / 25.4)
			if alone >= 0.5 && alone <= 8 && whole >= 1 && math.Abs(whole*25.4+alone-mm) < 0.06 {
				return fmt.Sprintf(" Did you mean %d/%d in?", n, d)
			}
		}
	}
	return ""
}

func unitOf(name string) string {
	for _, u := range units {
		if strings.HasSuffix(name, u.suffix) {
			return " " + u.unit
		}
	}
	return ""
}

func num(x float64) string { return strconv.FormatFloat(x, 'g', 6, 64) }
