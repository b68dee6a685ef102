package technique

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
)

var (
	keyShape = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9-]{0,39}$`)
	states   = []string{"P", "S", "D", "C", "N"}
)

// ready lays the steps over the common ones, reads every expression and checks
// that the chain holds together. Its errors name the place.
func (l *Library) ready(t *Technique) error {
	if t.Format != techniqueFormat {
		return fmt.Errorf("it is of format %q: this program reads %q", t.Format, techniqueFormat)
	}
	if !keyShape.MatchString(t.Key) || t.Version < 1 {
		return fmt.Errorf("a technique has a key of letters and digits, and a version from 1")
	}
	if len(t.Steps) == 0 || len(t.Joins) == 0 {
		return fmt.Errorf("a technique has steps, and a join on to something")
	}
	t.expresses = map[string]Expression{}
	for i, s := range t.Steps {
		laid, err := l.laid(s)
		if err != nil {
			return fmt.Errorf("step %s: %w", s.ID, err)
		}
		t.Steps[i] = laid
	}
	if err := l.checkTools(t); err != nil {
		return err
	}
	if err := l.checkSteps(t); err != nil {
		return err
	}
	for _, j := range t.Joins {
		if t.step(j.Step) == nil || !slices.Contains(j.States, j.Default) || slices.ContainsFunc(j.States, func(s string) bool { return !slices.Contains(states, s) }) {
			return fmt.Errorf("join %s: it stands at a step, in states of P S D C N, one of them usual", j.ID)
		}
	}
	if err := l.checkNames(t); err != nil {
		return err
	}
	t.lead = t.leads()
	return nil
}

func (t *Technique) step(id string) *Step {
	for i := range t.Steps {
		if t.Steps[i].ID == id {
			return &t.Steps[i]
		}
	}
	return nil
}

func (t *Technique) run(id string) *Run {
	for i := range t.Runs {
		if t.Runs[i].ID == id {
			return &t.Runs[i]
		}
	}
	return nil
}

func (l *Library) checkTools(t *Technique) error {
	seen := map[string]bool{}
	for _, r := range l.Roles(t) {
		if seen[r.Role] || l.Kind(r.Kind) == nil {
			return fmt.Errorf("tool %s: there is no kind %q, or the role is there twice", r.Role, r.Kind)
		}
		seen[r.Role] = true
	}
	if t.Rolls != nil {
		for _, c := range t.Rolls.Cuts {
			if c.Role != OwnOutline && !seen[c.Role] && (c.LongMM == "" || c.WideMM == "") || c.Each == "" || c.Says == "" {
				return fmt.Errorf("rolls: what is cut has a name, how many of a piece, and the role of its cutter or a length and a width")
			}
		}
	}
	for _, m := range t.Measures {
		if !(m.From <= m.Default && m.Default <= m.To) {
			return fmt.Errorf("measure %s: its usual value lies outside its limits", m.Name)
		}
	}
	return nil
}

// showUnits are the units of a number that a step shows.
var showUnits = []string{"", "mm", "g", "ml", "C", "s"}

func (l *Library) checkSteps(t *Technique) error {
	before, ended, open := map[string]bool{}, map[string]bool{}, ""
	for i, s := range t.Steps {
		wrong := func(say string, args ...any) error {
			return fmt.Errorf("step %s: %s", s.ID, fmt.Sprintf(say, args...))
		}
		if s.ID == "" || before[s.ID] {
			return wrong("it needs an id of its own")
		}
		before[s.ID] = true
		if !slices.Contains(l.Common.Verbs, s.Verb) {
			return wrong("there is no verb %q", s.Verb)
		}
		lengths := 0
		for _, there := range []bool{s.Minutes != nil, s.Cycle != nil, s.Wait != "", s.Dry != ""} {
			if there {
				lengths++
			}
		}
		if lengths != 1 || s.Minutes != nil && !s.Hands {
			return wrong("exactly one of minutes, cycle, wait and dry says how long")
		}
		for _, x := range s.Shows {
			if !slices.Contains(showUnits, x.Unit) || x.Says == "" {
				return wrong("it shows %q in %q: a number has words, and a unit of mm, g, ml, C, s or none", x.Says, x.Unit)
			}
		}
		for unit := range s.Minutes {
			if _, counted := t.Counts[unit]; !counted && !slices.Contains(l.Common.Units, unit) {
				return wrong("there is no unit %q", unit)
			}
		}
		if s.Dry != "" && !(l.isStage(s.Dry+".p50") && l.isStage(s.Dry+".p90")) {
			return wrong("it dries until %q, which is no moment", s.Dry)
		}
		if s.Run != open {
			if s.Run != "" && (ended[s.Run] || t.run(s.Run) == nil) {
				return wrong("the steps of a run stand together, and the run is listed")
			}
			ended[open], open = true, s.Run
		}
		if len(s.After) == 0 && !s.Starts && i > 0 {
			return wrong("orphan: it comes after nothing and does not start")
		}
		for _, a := range s.After {
			if t.step(a.Step) == nil || a.Step == s.ID {
				return wrong("it comes after %q, which is no other step", a.Step)
			}
		}
		for _, h := range slices.Concat(s.Uses, s.Holds) {
			if !slices.ContainsFunc(l.Roles(t), func(r Role) bool { return r.Role == h.What }) {
				return wrong("there is no tool %q", h.What)
			}
		}
		for _, h := range s.Holds {
			if t.step(h.To) == nil {
				return wrong("what it holds is given back at %q, which is no step", h.To)
			}
		}
		for _, w := range s.Ways {
			if l.Way(t, w) == nil {
				return wrong("there is no way %q", w)
			}
		}
	}
	return nil
}

// checkNames reads every expression, and sees that each name it uses comes about
// somewhere.
func (l *Library) checkNames(t *Technique) error {
	known := map[string]bool{"window": true, "wanted": true, "made": true, "n": true, "batchG": true, "minutes": true, "massG": true}
	for _, s := range states {
		known["is"+s] = true
	}
	for _, list := range [][]Measure{l.Common.Constants, l.Common.Manner, t.Measures} {
		for _, m := range list {
			known[m.Name] = true
		}
	}
	for _, r := range l.Roles(t) {
		for _, m := range l.Kind(r.Kind).Measures {
			known[r.Role+"."+m.Name] = true
		}
	}
	for _, counts := range []map[string]string{l.Common.Counts, t.Counts} {
		for name := range counts {
			known[name] = true
		}
	}
	for i, g := range t.Given {
		if (g.Name == "") == (g.Topic == "") {
			return fmt.Errorf("given %d: it is a name with its expression, or a topic that is asked", i)
		}
		if g.Name != "" {
			known[g.Name] = true
		}
		for name := range g.Out {
			known[name] = true
		}
		if g.Topic != "" && quantities[g.Topic] == nil {
			return fmt.Errorf("given: there is no quantity %q", g.Topic)
		}
	}
	for _, s := range t.Steps {
		for unit := range s.Minutes {
			if !known[unit] && !slices.Contains([]string{"batch", "piece", "round"}, unit) {
				return fmt.Errorf("step %s: nothing counts its minutes for each %s", s.ID, unit)
			}
		}
	}
	for place, text := range t.texts() {
		e, err := Parse(text)
		if err != nil {
			return fmt.Errorf("%s: %w", place, err)
		}
		t.expresses[text] = e
		var unknown string
		walk(e.root, func(name string) {
			if !known[name] && !l.isStage(name) {
				unknown = name
			}
		})
		if unknown != "" {
			return fmt.Errorf("%s: %w", place, broken("unknownName", "nothing gives %q", unknown))
		}
	}
	shared := slices.Collect(maps.Values(l.Common.Counts))
	for _, w := range slices.Concat(l.Common.Demands, l.Common.Refuses) {
		if w.When != "" {
			shared = append(shared, w.When)
		}
	}
	for _, text := range shared {
		e, err := Parse(text)
		if err != nil {
			return err
		}
		t.expresses[text] = e
	}
	return nil
}

// texts are all expressions of a technique, by place.
func (t *Technique) texts() map[string]string {
	out := map[string]string{}
	put := func(place, text string) {
		if text != "" {
			out[place] = text
		}
	}
	for name, text := range t.Counts {
		put("count "+name, text)
	}
	for name, text := range t.Sizes {
		put("size "+name, text)
	}
	for kind, list := range map[string][]When{"paste": t.Pastes, "refused": t.Refused, "refuses": t.Refuses, "demand": t.Demands} {
		for i, w := range list {
			put(fmt.Sprintf("%s %d", kind, i), w.When)
		}
	}
	for _, b := range t.Bodies {
		put("body "+b.ID, b.ThicknessMM)
		put("body "+b.ID+" width", b.BodyMM)
	}
	if r := t.Rolls; r != nil {
		put("rolls thickness", r.ThicknessMM)
		put("rolls across", r.AcrossMM)
		for i, c := range r.Cuts {
			for k, text := range []string{c.LongMM, c.WideMM, c.Each, c.When} {
				put(fmt.Sprintf("rolls cut %d, %d", i, k), text)
			}
		}
	}
	if r := t.Round; r != nil {
		put("round count", r.Count)
		put("round pitch", r.PitchMM)
		put("round width", r.WideMM)
		put("round lap", r.LapMM)
	}
	for i, g := range t.Given {
		put(fmt.Sprintf("given %d", i), g.Is)
		put(fmt.Sprintf("given %d, when", i), g.When)
		inTexts(g.In, func(at, text string) { put(fmt.Sprintf("given %d, in %s", i, at), text) })
	}
	for _, w := range t.Ways {
		for _, o := range w.Options {
			for name, text := range o.Sets {
				put("way "+w.Question+" "+o.ID+" "+name, text)
			}
		}
	}
	for _, r := range t.Runs {
		put("run "+r.ID, r.Round)
	}
	for _, s := range t.Steps {
		at := "step " + s.ID + " "
		put(at+"when", s.When)
		put(at+"wait", s.Wait)
		put(at+"cakeReady", s.CakeReady)
		for unit, text := range s.Minutes {
			put(at+"minutes "+unit, text)
		}
		if c := s.Cycle; c != nil {
			for i, text := range []string{c.Pieces, c.FillSec, c.HoldSec, c.UnmouldSec, c.Copies} {
				put(fmt.Sprintf("%scycle %d", at, i), text)
			}
		}
		for i, a := range s.After {
			put(fmt.Sprintf("%safter %d min", at, i), a.Min)
			put(fmt.Sprintf("%safter %d max", at, i), a.Max)
			put(fmt.Sprintf("%safter %d when", at, i), a.When)
		}
		for i, x := range s.Shows {
			put(fmt.Sprintf("%sshows %d", at, i), x.Is)
			put(fmt.Sprintf("%sshows %d when", at, i), x.When)
		}
		for i, h := range slices.Concat(s.Uses, s.Holds) {
			put(fmt.Sprintf("%stool %d", at, i), h.Count)
		}
		for i, x := range s.Limits {
			put(fmt.Sprintf("%slimit %d of", at, i), x.Of)
			put(fmt.Sprintf("%slimit %d most", at, i), x.Most)
		}
	}
	return out
}

// inTexts calls f with each expression of what a topic is asked: texts that do not
// begin with an apostrophe.
func inTexts(v any, f func(at, text string)) {
	switch x := v.(type) {
	case string:
		if !strings.HasPrefix(x, "'") {
			f("", x)
		}
	case map[string]any:
		for k, e := range x {
			inTexts(e, func(at, text string) { f(k+at, text) })
		}
	case []any:
		for i, e := range x {
			inTexts(e, func(at, text string) { f(fmt.Sprintf("[%d]%s", i, at), text) })
		}
	}
}

// isStage tells whether a name is a moment: of the main body, or of another
// ("centre.firm.p90").
func (l *Library) isStage(name string) bool {
	for _, s := range l.Common.Stages {
		if s.Name == name {
			return true
		}
		if s.Body {
			if body, ok := strings.CutSuffix(name, "."+s.Name); ok && body != "" && !strings.Contains(body, ".") {
				return true
			}
		}
	}
	return false
}
