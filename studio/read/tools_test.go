package read

import (
	"errors"
	"math"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

var readers = map[string]Reader{
	"metric": {&noun.Kitchen{Words: "uk", Units: "metric"}},
	"US":     {&noun.Kitchen{Words: "us", Units: "us"}},
}

// Each measure of each kind of tool is read as it is shown, in both readers' units,
// and refused beside its field when it lies outside what the kind allows.
func TestEachMeasureOfATool(t *testing.T) {
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	seen := 0
	for _, o := range KindOptions() {
		kind := technique.Ours.Kind(o.Code)
		for who, r := range readers {
			for _, m := range kind.Measures {
				if m.Name == "copies" {
					continue // those are fields of the tool itself
				}
				seen++
				full, bare := noun.BlankTool(o.Code), noun.BlankTool(o.Code)
				full.Measures = noun.Measures{m.Name: m.Default}
				bare.Measures = noun.Measures{}
				f := fieldNamed(ToolFields(&full, nil), m.Name)
				if f == nil {
					t.Errorf("%s has no field for %s", o.Code, m.Name)
					continue
				}
				said := f.Text(r, &full, now)
				if err := Apply(ToolFields(&bare, nil), r, &bare, map[string]string{m.Name: said}, now); err != nil {
					t.Errorf("%s, %s: %s is shown as %q, and that is refused: %v", o.Code, who, m.Name, said, err)
				} else if got := bare.Measures[m.Name]; math.Abs(got-m.Default) > 0.02*math.Abs(m.Default)+0.02 {
					t.Errorf("%s, %s: %s is %g, shown as %q, read as %g", o.Code, who, m.Name, m.Default, said, got)
				}
				if f.Kind == "yes" {
					continue // has no other values
				}
				full.Measures[m.Name] = m.To*2 + 1
				beyond := f.Text(r, &full, now)
				err := Apply(ToolFields(&bare, nil), r, &bare, map[string]string{m.Name: beyond}, now)
				var wrong *fault.Fault
				if !errors.As(err, &wrong) || wrong.Field != m.Name {
					t.Errorf("%s, %s: %s of %q is let in: %v", o.Code, who, m.Name, beyond, err)
				}
			}
		}
	}
	if seen < 100 {
		t.Errorf("only %d measures were tried", seen)
	}
}

func fieldNamed(fields []*Field[noun.Tool], name string) *Field[noun.Tool] {
	for _, f := range fields {
		if f.Name == name {
			return f
		}
	}
	return nil
}

// The form of a tool asks what its kind has, and nothing else.
func TestWhatTheFormOfAToolAsks(t *testing.T) {
	names := func(kind string, set map[string]string) string {
		tool := noun.BlankTool(kind)
		var out []string
		for _, f := range ToolFields(&tool, set) {
			out = append(out, f.Name)
		}
		return " " + strings.Join(out, " ") + " "
	}
	for _, c := range []struct{ kind, asks, never string }{
		{"cavityMould", "lengthMM depthMM cavityML weighedG chilled freezeMinutes copies lent broken", "thicknessMM"},
		{"plungerCutter", "weighedG copies lent broken", "cavityML chilled freezeMinutes"},
		{"cup", "diameterMM copies", "weighedG cavityML chilled"},
		{"machine", "copies", "weighedG depthMM"},
	} {
		got := names(c.kind, nil)
		for _, name := range strings.Fields(c.asks) {
			if !strings.Contains(got, " "+name+" ") {
				t.Errorf("%s is not asked for its %s:%s", c.kind, name, got)
			}
		}
		for _, name := range strings.Fields(c.never) {
			if strings.Contains(got, " "+name+" ") {
				t.Errorf("%s is asked for its %s:%s", c.kind, name, got)
			}
		}
	}
	if got, want := names("cup", map[string]string{"kind": "cavityMould"}), names("cavityMould", nil); got != want {
		t.Errorf("said to be a mould it is asked for%s, not%s", got, want)
	}
	// what it shows no field for is checked all the same: it may have been of another kind
	for field, wrong := range map[string]func(*noun.Tool){
		"shape": func(t *noun.Tool) { t.Shape = "sulky" }, "cavityML": func(t *noun.Tool) { t.CavityML = new(-1.0) },
		"weighedG": func(t *noun.Tool) { t.WeighedG = new(1e9) }, "freezeMinutes": func(t *noun.Tool) { t.FreezeMinutes = new(1e9) }, "unmouldMinutes": func(t *noun.Tool) { t.UnmouldMinutes = new(0.0) },
	} {
		tool := noun.BlankTool("cup")
		tool.Name = "Cup"
		if err := CheckRow("tools[3]", ToolColumns(), tool); err != nil {
			t.Fatal(err)
		}
		wrong(&tool)
		if err := CheckRow("tools[3]", ToolColumns(), tool); err == nil || !strings.Contains(err.Error(), "tools[3]."+field) {
			t.Errorf("%s of a cup: %v", field, err)
		}
	}
}
