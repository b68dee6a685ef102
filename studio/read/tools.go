package read

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

var shapeOptions = options("", "as its way of making says", "sheet", "thin and flat", "block", "flat back, solid", "rod", "a string or rod", "ball", "a ball", "dome", "a half-ball")

// KindOptions are the kinds of tools that a drawer holds; trays, the freezer and the
// scale belong to the kitchen.
func KindOptions() (out []Option) {
	for _, k := range technique.Ours.Common.Tools {
		if InDrawer(k.Kind) {
			out = append(out, Option{k.Kind, k.Names.UK})
		}
	}
	return out
}

// InDrawer tells whether a kind of tool lies in the drawer, not in the kitchen.
func InDrawer(kind string) bool {
	return kind != "tray" && kind != "freezer" && kind != "spoonScale"
}

// toolFieldsFirst and those after its measures are the same for every kind.
var (
	toolFieldsFirst = []*Field[noun.Tool]{
		{Name: "name", Label: "Tool", group: "Tool", Kind: "text", Must: true, at: func(t *noun.Tool) any { return &t.Name }},
		{Name: "kind", Label: "It is", group: "Tool", Kind: "choice", Must: true, options: KindOptions(), at: func(t *noun.Tool) any { return &t.Kind },
			read: func(_ Reader, text string, t *noun.Tool, _ time.Time) error {
				code := codeOf(KindOptions(), text)
				if code == "" {
					return fault.New(fault.UnknownValue, "kind", "Choose one of: %s.", List(Says(KindOptions())))
				}
				if code != t.Kind {
					t.TakeKind(code)
				}
				return nil
			}},
	}
	toolFieldsShape = []*Field[noun.Tool]{
		{Name: "shape", Label: "Piece as it lies", group: "One piece", Kind: "choice", options: shapeOptions, at: func(t *noun.Tool) any { return &t.Shape }},
	}
	toolFieldsPiece = []*Field[noun.Tool]{
		{Name: "cavityML", Label: "Cavity holds", group: "One piece", Kind: "amount", Dim: "volume", Lo: 0.01, Hi: 5000, hint: "ml, or weigh a piece below", at: func(t *noun.Tool) any { return &t.CavityML }},
		{Name: "weighedG", Label: "A piece weighed", group: "One piece", Kind: "amount", Dim: "mass", Lo: 0.01, Hi: 50000, hint: "beats the volume", at: func(t *noun.Tool) any { return &t.WeighedG }},
		{Name: "breakage", Label: "How much breaks", group: "One piece", Kind: "choice", options: append([]Option{{"", "as its way of making says"}}, breakageOptions...), at: func(t *noun.Tool) any { return &t.Breakage }},
	}
	toolFieldsFrozen = []*Field[noun.Tool]{
		{Name: "chilled", Label: "Chilled before it is opened", group: "Freezer", Kind: "yes", at: func(t *noun.Tool) any { return &t.Chilled }},
		{Name: "freezeMinutes", Label: "In the freezer", group: "Freezer", Kind: "amount", Dim: "minutes", Lo: 0, Hi: 10080, hint: "empty: as its way of making says", at: func(t *noun.Tool) any { return &t.FreezeMinutes }},
		{Name: "unmouldMinutes", Label: "Unmould", group: "Freezer", Kind: "amount", Dim: "minutes", Lo: 0.01, Hi: 240, hint: "empty: as its way of making says", at: func(t *noun.Tool) any { return &t.UnmouldMinutes }},
	}
	toolFieldsLast = []*Field[noun.Tool]{
		{Name: "copies", Label: "Copies owned", group: "Copies", Kind: "count", Lo: 1, Hi: 1000, Must: true, at: func(t *noun.Tool) any { return &t.Copies }},
		{Name: "lent", Label: "of these lent", group: "Copies", Kind: "count", Lo: 0, Hi: 1000, at: func(t *noun.Tool) any { return &t.Lent }},
		{Name: "broken", Label: "of these broken", group: "Copies", Kind: "count", Lo: 0, Hi: 1000, at: func(t *noun.Tool) any { return &t.Broken }},
	}
)

// ToolFields are the fields of a tool of its kind. set may say another kind: then
// of that one.
func ToolFields(t *noun.Tool, set map[string]string) []*Field[noun.Tool] {
	kind := t.Kind
	if said := codeOf(KindOptions(), strings.TrimSpace(set["kind"])); said != "" {
		kind = said
	}
	out := append([]*Field[noun.Tool]{}, toolFieldsFirst...)
	k := technique.Ours.Kind(kind)
	if k == nil {
		return append(out, toolFieldsLast...)
	}
	cavities := false
	for _, m := range k.Measures {
		if m.Name == "copies" {
			continue
		}
		cavities = cavities || m.Name == "depthMM"
		out = append(out, toolMeasure(m))
	}
	hasMeasure := func(name string) bool {
		return slices.ContainsFunc(k.Measures, func(m technique.Measure) bool { return m.Name == name })
	}
	switch {
	case noun.TakesOutline(kind):
		out = append(out, toolFieldsCut...)
	case hasMeasure("ringMM"):
		out = append(out, toolFieldsRings...)
	case hasMeasure("steps"):
		out = append(out, toolFieldsRoll...)
	case hasMeasure("pulls"):
		out = append(out, toolFieldsCast...)
	}
	switch {
	case k.Capacity == "copies":
		out = append(append(out, toolFieldsShape...), toolFieldsPiece...)
	case noun.DrawerGroup(kind) == "Cutters":
		out = append(out, toolFieldsPiece[1:]...) // a cutter holds nothing
	}
	if k.Capacity == "copies" && cavities {
		out = append(out, toolFieldsFrozen...)
	}
	return append(out, toolFieldsLast...)
}

// ToolColumns are the fields of a tool that are kept whatever its kind: it may have
// been of another one.
func ToolColumns() []*Field[noun.Tool] {
	return slices.Concat(toolFieldsFirst, toolFieldsShape, toolFieldsPiece, toolFieldsFrozen, toolFieldsLast)
}

// groupOf a measure of a tool.
func groupOf(m technique.Measure) string {
	switch {
	case m.Unit == "yes":
		return "Ticks"
	case noun.IsSize(m.Name):
		return "Piece as it lies"
	}
	return "Measures"
}

func toolMeasure(m technique.Measure) *Field[noun.Tool] {
	return measureField(m, m.Name, groupOf(m), noun.IsSize(m.Name), func(t *noun.Tool) *noun.Measures { return &t.Measures })
}

// measureField reads and writes one measure of a row that keeps them by name. One
// that is as usual shows its usual number; must: none is usual.
func measureField[T any](m technique.Measure, name, group string, must bool, of func(*T) *noun.Measures) *Field[T] {
	f := &Field[T]{Name: name, Label: m.Says, group: group, Kind: "amount", Dim: dimOf(m.Unit), Lo: m.From, Hi: m.To, Must: must}
	switch {
	case m.Unit == "yes":
		f.Kind = "yes"
	case f.Dim == "":
		f.Kind = "count"
		if m.Default != math.Trunc(m.Default) || m.From != math.Trunc(m.From) {
			f.Kind, f.Dim = "amount", "number"
		}
	}
	f.read = func(r Reader, text string, row *T, _ time.Time) error {
		next := noun.Measures{}
		for k, x := range *of(row) {
			next[k] = x
		}
		*of(row) = next
		switch {
		case text == "":
			delete(next, m.Name)
			return nil
		case f.Kind == "yes" && (text == "yes" || text == "no"):
			next[m.Name] = map[string]float64{"yes": 1, "no": 0}[text]
			return nil
		case f.Kind == "yes":
			return fault.New(fault.Syntax, name, "Say yes or no.")
		}
		x, err := f.Number(r, text)
		if err != nil {
			return err
		}
		next[m.Name] = x
		return nil
	}
	f.show = func(r Reader, row *T, _ time.Time) string {
		x, said := (*of(row))[m.Name]
		switch {
		case !said && must:
			return ""
		case !said:
			x = m.Default
		}
		if f.Kind == "yes" {
			return map[bool]string{true: "yes", false: "no"}[x > 0]
		}
		return f.print(r, x)
	}
	return f
}

// dimOf a unit of a measure; "" for what is counted.
func dimOf(unit string) string {
	switch unit {
	case "mm":
		return "length"
	case "g":
		return "mass"
	case "ml":
		return "volume"
	case "min":
		return "minutes"
	case "C":
		return "temp"
	case "":
		return ""
	}
	return "number"
}

func toolID(field, text string) (*int64, error) {
	if text == "" {
		return nil, nil
	}
	id, err := strconv.ParseInt(text, 10, 64)
	if err != nil {
		return nil, fault.New(fault.UnknownValue, field, "Choose a tool of the tool drawer.")
	}
	return &id, nil
}

const mostMeasure = 10_000

// CheckMeasures refuses measures that a kind of tool, or a way of making, has not.
func CheckMeasures(place string, have noun.Measures, known []technique.Measure) error {
	for name, x := range have {
		found := false
		for _, m := range known {
			if m.Name == name {
				found = true
				// an older drawer may hold what no form lets in now: its pieces say so
				if !(x >= 0 && x <= mostMeasure) {
					return fault.New(fault.OutOfRange, place+"."+name, "%s lies from %g to %g, not %g.", m.Says, m.From, m.To, x)
				}
			}
		}
		if !found {
			return fault.New(fault.UnknownValue, place+"."+name, "There is no such measure here.")
		}
	}
	return nil
}

// Prefixes of the fields of a piece that follow from its way of making.
const (
	prefixMeasure = "measure."
	prefixTool    = "tool."
	prefixWay     = "way."
)

// PieceFieldsOf are the fields of a piece with those that its way of making has:
// its measures, the other tools by their role, and the questions on which good
// makers differ. t may be nil: how it is made is not known.
func PieceFieldsOf(lib *technique.Library, t *technique.Technique) []*Field[noun.Piece] {
	out := append([]*Field[noun.Piece]{}, PieceFields...)
	if t == nil {
		return out
	}
	for _, m := range t.Measures {
		if m.Name != "massG" { // the trial piece says it
			out = append(out, measureField(m, prefixMeasure+m.Name, "What is measured", false, func(p *noun.Piece) *noun.Measures { return &p.Measures }))
		}
	}
	lead := lib.Leading(t)
	for _, r := range t.Tools {
		if k := lib.Kind(r.Kind); len(k.Measures) > 0 && (lead == nil || r.Role != lead.Role) && InDrawer(r.Kind) {
			out = append(out, roleField(r.Role, k.Names.UK))
		}
	}
	seen := map[string]bool{}
	for _, s := range t.Steps {
		for _, q := range s.Ways {
			if w := lib.Way(t, q); w != nil && !seen[q] {
				seen[q] = true
				out = append(out, wayField(w))
			}
		}
	}
	return out
}

func roleField(role, label string) *Field[noun.Piece] {
	name := prefixTool + role
	return &Field[noun.Piece]{Name: name, Label: UpperFirst(label), group: "With", Kind: "choice",
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) error {
			id, err := toolID(name, text)
			if err != nil {
				return err
			}
			next := noun.ToolsOf{}
			for k, x := range p.Tools {
				next[k] = x
			}
			delete(next, role)
			if id != nil {
				next[role] = *id
			}
			p.Tools = next
			return nil
		},
		show: func(_ Reader, p *noun.Piece, _ time.Time) string {
			if id, ok := p.Tools[role]; ok {
				return strconv.FormatInt(id, 10)
			}
			return ""
		}}
}

func wayField(w *technique.Way) *Field[noun.Piece] {
	name := prefixWay + w.Question
	ours := ""
	all := []Option{{"", "as usual"}}
	for _, o := range w.Options {
		if o.Ours {
			ours = o.ID
		}
		all = append(all, Option{o.ID, o.Says + " " + UpperFirst(o.Why) + "."})
	}
	if ours != "" {
		all[0].Say = "as usual: " + LowerFirst(all[1+indexOf(all[1:], ours)].Say)
	}
	return &Field[noun.Piece]{Name: name, Label: w.Says, group: "Where good makers differ", Kind: "choice", options: all,
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) error {
			next := noun.Ways{}
			for k, x := range p.Ways {
				next[k] = x
			}
			delete(next, w.Question)
			if text != "" {
				if indexOf(all, text) < 0 {
					return fault.New(fault.UnknownValue, name, "Choose one of: %s.", List(Says(all[1:])))
				}
				next[w.Question] = text
			}
			p.Ways = next
			return nil
		},
		show: func(_ Reader, p *noun.Piece, _ time.Time) string { return p.Ways[w.Question] }}
}

func indexOf(all []Option, code string) int {
	for i, o := range all {
		if o.Code == code {
			return i
		}
	}
	return -1
}
