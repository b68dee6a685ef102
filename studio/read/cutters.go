package read

import (
	"cmp"
	"errors"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/outline"
	"dustyfern/studio/noun"
)

// OutlineOptions are the shapes of the table that a cutter may have.
var OutlineOptions = options("", "as its kind is", "leaf", "a leaf", "oval", "round or oval", "rectangle", "straight, four corners", "drop", "a drop", "blossom", "a blossom", "star", "a star", "regular", "equal sides",
	"triangle", "a triangle", "swallowtail", "a flag with two tails", noun.OwnShape, "its own, from a drawing")

// toolFieldsCut are those of what cuts an outline.
var toolFieldsCut = []*Field[noun.Tool]{
	{Name: "outline", Label: "It cuts", group: "Outline", Kind: "choice", options: OutlineOptions,
		show: func(_ Reader, t *noun.Tool, _ time.Time) string { return t.Outline.Shape },
		read: func(_ Reader, text string, t *noun.Tool, _ time.Time) error {
			code := text
			if text != "" {
				if code = codeOf(OutlineOptions, text); code == "" {
					return fault.New(fault.UnknownValue, "outline", "Choose one of: %s.", List(Says(OutlineOptions)))
				}
			}
			if code == noun.OwnShape && t.Outline.Path == "" {
				return fault.New(fault.Required, "outline", "Bring the drawing first: an SVG file, below.")
			}
			t.Outline.Shape = code
			if !outline.Shapes()[code] {
				t.Outline.Count = 0
			}
			return nil
		}},
	{Name: "outlineCount", Label: "Petals, points or sides", group: "Outline", Kind: "count", Lo: 0, Hi: 100, hint: "of a blossom, a star or equal sides; 0: five",
		show: func(_ Reader, t *noun.Tool, _ time.Time) string { return strconv.Itoa(t.Outline.Count) },
		read: func(r Reader, text string, t *noun.Tool, _ time.Time) error {
			n, err := strconv.Atoi(strings.TrimSpace(text))
			switch {
			case text == "":
				n = 0
			case err != nil || n < 0 || n > 100 || n > 0 && n < 3:
				return fault.New(fault.OutOfRange, "outlineCount", "From 3 to 100, or 0 for five.")
			}
			t.Outline.Count = n
			return nil
		}},
}

var settingShape = regexp.MustCompile(`^(-?\d{1,4}(?:[.,]\d{1,2})?)\s*(?:=|:|\s)\s*(.+)$`)

// settingMM reads how thick a machine rolls at one setting.
var settingMM = Field[noun.Tool]{Name: "settings", Kind: "amount", Dim: "length", Lo: 0.2, Hi: 20}

// toolFieldsRoll are those of a rolling machine with settings.
var toolFieldsRoll = []*Field[noun.Tool]{
	{Name: "settings", Label: "It rolls, by setting", group: "Settings", Kind: "notes", hint: "1 = 3.2 mm; 3 = 1.6 mm; 9 = 0.5 mm, as usual; straight between, either way round",
		show: func(r Reader, t *noun.Tool, _ time.Time) string {
			var out []string
			for _, s := range t.Roller.Settings {
				out = append(out, Trimmed(s.At, 2)+" = "+settingMM.print(r, s.MM))
			}
			return strings.Join(out, "; ")
		},
		read: func(r Reader, text string, t *noun.Tool, _ time.Time) error {
			next := noun.Roller{Strips: t.Roller.Strips}
			for part := range strings.FieldsFuncSeq(text, func(c rune) bool { return c == ';' || c == '\n' }) {
				part = strings.TrimSpace(part)
				if part == "" {
					continue
				}
				m := settingShape.FindStringSubmatch(part)
				if m == nil {
					return fault.New(fault.Syntax, "settings", "%q is no setting with its thickness: 3 = 1.6 mm, a semicolon between.", part)
				}
				at, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
				if err != nil {
					return fault.New(fault.Syntax, "settings", "%q is no setting.", m[1])
				}
				mm, err := settingMM.Number(r, m[2])
				if err != nil {
					return err
				}
				next.Settings = append(next.Settings, noun.Setting{At: at, MM: mm})
			}
			slices.SortStableFunc(next.Settings, func(a, b noun.Setting) int {
				switch {
				case a.At < b.At:
					return -1
				case a.At > b.At:
					return 1
				}
				return 0
			})
			if err := next.Check(); err != nil {
				return fault.New(fault.OutOfRange, "settings", "%s", sentence(err))
			}
			t.Roller = next
			return nil
		}},
}

// toolFieldsRings are those of a rolling pin with rings.
var toolFieldsRings = []*Field[noun.Tool]{
	{Name: "rings", Label: "Rings it has", group: "Settings", Kind: "text", hint: "1, 2, 3 and 5 mm; empty: only the one above",
		show: func(r Reader, t *noun.Tool, _ time.Time) string {
			var out []string
			for _, s := range t.Roller.Settings {
				out = append(out, settingMM.print(r, s.MM))
			}
			return strings.Join(out, "; ")
		},
		read: func(r Reader, text string, t *noun.Tool, _ time.Time) error {
			next := noun.Roller{Strips: t.Roller.Strips}
			for part := range strings.FieldsFuncSeq(strings.ReplaceAll(strings.ReplaceAll(text, " and ", ";"), ", ", ";"), func(c rune) bool { return c == ';' }) {
				mm, err := settingMM.Number(r, strings.TrimSpace(part))
				if err != nil {
					return fault.New(fault.Syntax, "rings", "%q is no ring: 1, 2, 3 and 5 mm, each from 0.2 to 20 mm.", strings.TrimSpace(part))
				}
				if !slices.ContainsFunc(next.Settings, func(s noun.Setting) bool { return s.At == mm }) {
					next.Settings = append(next.Settings, noun.Setting{At: mm, MM: mm})
				}
			}
			if len(next.Settings) == 1 { // one ring is the measure itself
				return fault.New(fault.Required, "rings", "Say two rings or more; one alone is said above.")
			}
			slices.SortFunc(next.Settings, func(a, b noun.Setting) int { return cmp.Compare(a.At, b.At) })
			if err := next.Check(); err != nil {
				return fault.New(fault.OutOfRange, "rings", "%s", sentence(err))
			}
			t.Roller = next
			return nil
		}},
}

// toolFieldsCast are those of a home-made mould that is melted and cast again.
var toolFieldsCast = []*Field[noun.Tool]{
	{Name: "remelts", Label: "Melted and cast again so often", group: "Bought or made?", Kind: "count", Lo: 0, Hi: 1000, at: func(t *noun.Tool) any { return &t.Cast.Remelts }},
	{Name: "costBought", Label: "A bought mould costs", group: "Bought or made?", Kind: "amount", Dim: "number", Lo: 0, Hi: 100_000, hint: "in your money, all three alike", at: func(t *noun.Tool) any { return &t.Cast.Bought }},
	{Name: "costMix", Label: "The mix costs", group: "Bought or made?", Kind: "amount", Dim: "number", Lo: 0, Hi: 100_000, at: func(t *noun.Tool) any { return &t.Cast.Mix }},
	{Name: "costRemelt", Label: "Melting it again costs", group: "Bought or made?", Kind: "amount", Dim: "number", Lo: 0, Hi: 100_000, hint: "what is topped up, and the heat", at: func(t *noun.Tool) any { return &t.Cast.Remelt }},
}

func sentence(err error) string {
	var f *fault.Fault
	if errors.As(err, &f) {
		return f.Message
	}
	return err.Error()
}
