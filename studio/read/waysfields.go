package read

import (
	"fmt"
	"slices"
	"sort"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

// WayFields are what a studio can change of a way of its own: its name and what it is,
// and of each step its words, its checks, its minutes and its wait; of its measures
// what is usual; of its questions the side that is its usual one. What a step takes,
// holds and warns of stays.
func WayFields(t *technique.Technique) []*Field[noun.OwnWay] {
	if t == nil {
		return nil
	}
	text := func(name, label, group string, must bool, at func(*technique.Technique) *string) *Field[noun.OwnWay] {
		return &Field[noun.OwnWay]{Name: name, Label: label, group: group, Kind: "text", Must: must,
			read: func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
				return changed(w, func(t *technique.Technique) error { *at(t) = text; return nil })
			},
			show: func(_ Reader, w *noun.OwnWay, _ time.Time) string { return *at(w.Definition) }}
	}
	const first = "The way"
	name := text("name", "Called", first, true, func(t *technique.Technique) *string { return &t.Names.UK })
	name.read = func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
		return changed(w, func(t *technique.Technique) error { t.Names = technique.Names{UK: text, US: text}; return nil })
	}
	out := []*Field[noun.OwnWay]{name,
		text("about", "What it is", first, false, func(t *technique.Technique) *string { return &t.About }),
		text("limit", "What sets the pace", first, false, func(t *technique.Technique) *string { return &t.Limit }),
		wayBreakage(first)}
	for i := range t.Measures {
		out = append(out, usualMeasure(t.Measures[i]))
	}
	for i := range t.Steps {
		out = append(out, stepFields(&t.Steps[i])...)
	}
	for i := range t.Ways {
		out = append(out, usualSide(&t.Ways[i]))
	}
	return out
}

// changed works on a copy of the data: a change that is refused leaves no trace.
func changed(w *noun.OwnWay, do func(*technique.Technique) error) error {
	next, err := w.Definition.Copy()
	if err != nil {
		return err
	}
	if err := do(next); err != nil {
		return err
	}
	w.Definition = next
	return nil
}

func wayBreakage(group string) *Field[noun.OwnWay] {
	all := append(options("none", "nothing breaks"), breakageOptions...)
	return &Field[noun.OwnWay]{Name: "breakage", Label: "How much breaks", group: group, Kind: "choice", Must: true, options: all,
		read: func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
			code := codeOf(all, text)
			if code == "" {
				return fault.New(fault.UnknownValue, "breakage", "Choose one of: %s.", List(Says(all)))
			}
			return changed(w, func(t *technique.Technique) error { t.Breakage = code; return nil })
		},
		show: func(_ Reader, w *noun.OwnWay, _ time.Time) string { return w.Definition.Breakage }}
}

// usualMeasure is what a measure of a way usually is.
func usualMeasure(m technique.Measure) *Field[noun.OwnWay] {
	name := "usual." + m.Name
	have := noun.Measures{}
	f := measureField(m, name, "What is measured, as usual", true, func(*noun.OwnWay) *noun.Measures { return &have })
	one := *f
	f.read = func(r Reader, text string, w *noun.OwnWay, now time.Time) error {
		if err := one.read(r, text, w, now); err != nil {
			return err
		}
		return changed(w, func(t *technique.Technique) error {
			for i := range t.Measures {
				if x, said := have[m.Name]; said && t.Measures[i].Name == m.Name {
					t.Measures[i].Default = x
				}
			}
			return nil
		})
	}
	f.show = func(r Reader, w *noun.OwnWay, now time.Time) string {
		for _, x := range w.Definition.Measures {
			if x.Name == m.Name {
				have = noun.Measures{m.Name: x.Default}
			}
		}
		return one.show(r, w, now)
	}
	return f
}

func stepFields(s *technique.Step) []*Field[noun.OwnWay] {
	id, group := s.ID, "Step: "+s.ID
	if len(s.Says) > 0 {
		group = s.Says[0]
	}
	lines := func(kind, label string, at func(*technique.Step) *[]string) *Field[noun.OwnWay] {
		name := fmt.Sprintf("step.%s.%s", id, kind)
		return &Field[noun.OwnWay]{Name: name, Label: label, group: group, Kind: "lines",
			read: func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
				var all []string
				for l := range strings.SplitSeq(text, "\n") {
					if l = strings.TrimSpace(l); l != "" {
						if len([]rune(l)) > mostWords {
							return fault.New(fault.OutOfRange, name, "%d characters a line at most: it is read from the bench.", mostWords)
						}
						all = append(all, l)
					}
				}
				if kind == "says" && (len(all) < 1 || len(all) > 6) {
					return fault.New(fault.OutOfRange, name, "One to six lines of what hands do.")
				}
				return changed(w, func(t *technique.Technique) error { *at(t.Step(id)) = all; return nil })
			},
			show: func(_ Reader, w *noun.OwnWay, _ time.Time) string {
				if s := w.Definition.Step(id); s != nil {
					return strings.Join(*at(s), "\n")
				}
				return ""
			}}
	}
	out := []*Field[noun.OwnWay]{lines("says", "What hands do, a line each", func(s *technique.Step) *[]string { return &s.Says }),
		lines("checks", "What to look at, a line each", func(s *technique.Step) *[]string { return &s.Checks })}
	units := make([]string, 0, len(s.Minutes))
	for u := range s.Minutes {
		units = append(units, u)
	}
	sort.Strings(units)
	for _, u := range units {
		out = append(out, expression(fmt.Sprintf("step.%s.minutes.%s", id, u), "Minutes, "+u, group, id, u))
	}
	if s.Wait != "" {
		out = append(out, expression(fmt.Sprintf("step.%s.wait", id), "Waits, minutes", group, id, ""))
	}
	return out
}

// mostWords is how long a line of a step may be (technique.md, 1).
const mostWords = 140

// expression is minutes as a number or a small expression of the way's own numbers.
func expression(name, label, group, id, unit string) *Field[noun.OwnWay] {
	return &Field[noun.OwnWay]{Name: name, Label: label, group: group, Kind: "text", Must: true, hint: "a number, or an expression such as 0.5 + 0.25 * letters",
		read: func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
			if _, err := technique.Parse(text); err != nil {
				return fault.New(fault.Syntax, name, "%v.", err)
			}
			return changed(w, func(t *technique.Technique) error {
				s := t.Step(id)
				if unit == "" {
					s.Wait = text
				} else {
					s.Minutes[unit] = text
				}
				return nil
			})
		},
		show: func(_ Reader, w *noun.OwnWay, _ time.Time) string {
			s := w.Definition.Step(id)
			switch {
			case s == nil:
				return ""
			case unit == "":
				return s.Wait
			}
			return s.Minutes[unit]
		}}
}

func usualSide(way *technique.Way) *Field[noun.OwnWay] {
	var all []Option
	for _, o := range way.Options {
		all = append(all, Option{o.ID, o.Says})
	}
	q, name := way.Question, "side."+way.Question
	at := func(t *technique.Technique) *technique.Way {
		i := slices.IndexFunc(t.Ways, func(w technique.Way) bool { return w.Question == q })
		if i < 0 {
			return nil
		}
		return &t.Ways[i]
	}
	return &Field[noun.OwnWay]{Name: name, Label: way.Says, group: "Which side is usual here", Kind: "choice", Must: true, options: all,
		read: func(_ Reader, text string, w *noun.OwnWay, _ time.Time) error {
			code := codeOf(all, text)
			if code == "" {
				return fault.New(fault.UnknownValue, name, "Choose one of: %s.", List(Says(all)))
			}
			return changed(w, func(t *technique.Technique) error {
				for i := range at(t).Options {
					at(t).Options[i].Ours = at(t).Options[i].ID == code
				}
				return nil
			})
		},
		show: func(_ Reader, w *noun.OwnWay, _ time.Time) string {
			if x := at(w.Definition); x != nil {
				for _, o := range x.Options {
					if o.Ours {
						return o.ID
					}
				}
			}
			return ""
		}}
}
