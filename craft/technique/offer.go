package technique

import (
	"encoding/json"
	"errors"
	"math"
	"slices"
	"sort"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
)

// With is the library and some techniques more: one of a key that is there already
// takes its place. A chain that does not hold together is an error.
func (l *Library) With(more ...*Technique) (*Library, error) {
	out := &Library{Common: l.Common, techniques: map[string]*Technique{}, keys: slices.Clone(l.keys)}
	for key, t := range l.techniques {
		out.techniques[key] = t
	}
	for _, t := range more {
		if err := out.ready(t); err != nil {
			return nil, err
		}
		if out.techniques[t.Key] == nil {
			out.keys = append(out.keys, t.Key)
		}
		out.techniques[t.Key] = t
	}
	sort.Strings(out.keys)
	return out, nil
}

// All are the techniques that are there, by their keys.
func (l *Library) All() []*Technique {
	out := make([]*Technique, len(l.keys))
	for i, k := range l.keys {
		out[i] = l.techniques[k]
	}
	return out
}

// TakesPaste tells whether any of its steps takes paste: what is only sprayed or painted on
// takes none.
func (t *Technique) TakesPaste() bool {
	return slices.ContainsFunc(t.Steps, func(s Step) bool { return s.Hands && !s.NoPaste })
}

// Leading is the role of the tool that gives a piece its shape: the first that the size
// of the piece as it lies follows from; nil when hands do, with no tool or any.
func (l *Library) Leading(t *Technique) *Role {
	if t.lead < 0 || t.lead >= len(t.Tools) {
		return nil
	}
	return &t.Tools[t.lead]
}

// Names of a technique that say how large a piece is as it lies, mm.
var lying = []string{"lieLengthMM", "lieWidthMM"}

// leads finds the role that leads, by the names that the size of a piece follows from.
func (t *Technique) leads() int {
	seen := map[string]bool{}
	roles := map[string]bool{}
	var follow func(name string)
	note := func(text string) {
		if e, ok := t.expresses[text]; ok {
			walk(e.root, follow)
		}
	}
	follow = func(name string) {
		if role, _, of := strings.Cut(name, "."); of {
			roles[role] = true
			return
		}
		if seen[name] {
			return
		}
		seen[name] = true
		for i := range t.Given {
			g := &t.Given[i]
			if g.Name == name {
				note(g.Is)
			}
			if _, gives := g.Out[name]; gives {
				inTexts(g.In, func(_, text string) { note(text) })
			}
		}
	}
	for _, name := range lying {
		follow(name)
	}
	return slices.IndexFunc(t.Tools, func(r Role) bool { return roles[r.Role] })
}

// OfPieces tells whether a way makes pieces; one that only colours or marks what stands
// there joins nothing.
func (t *Technique) OfPieces() bool { return t.Join().Default != "N" }

// Makes lists the ways in which a tool of a kind gives a piece its shape.
func (l *Library) Makes(kind string) (out []*Technique) {
	for _, t := range l.All() {
		if r := l.Leading(t); r != nil && r.Takes(kind) {
			out = append(out, t)
		}
	}
	return out
}

// Usual is the way in which a tool with these measures makes a piece, when nobody
// said which: one that goes on in the state that is wished (one of P S D C, "" for
// any), and of these that which was written for the most that the tool asks of its
// paste; of several the first. nil when no way is known.
func (l *Library) Usual(kind, state string, measures, manner map[string]float64) *Technique {
	var best *Technique
	most := -1.0
	for _, t := range l.Makes(kind) {
		r := l.Leading(t)
		in := ChainIn{Technique: &t.Key, Wanted: new(1), Tools: map[string]map[string]float64{r.Role: measures}, Manner: manner}
		f, err := l.Foresee(in)
		if err != nil {
			continue // it refuses the piece
		}
		own := 0.0
		for _, d := range t.Demands {
			if d.When != "" && slices.Contains(f.Demands, d.Code) {
				own = math.Max(own, paste.Least(d.Code))
			}
		}
		if state != "" && slices.Contains(t.Join().States, state) {
			own += beyondGum
		}
		if own > most {
			best, most = t, own
		}
	}
	if best == nil {
		if all := l.Makes(kind); len(all) > 0 {
			return all[0]
		}
	}
	return best
}

// beyondGum is more than any paste is asked for, % gum.
const beyondGum = 100

// Dries is a body of a part with its numbers.
type Dries struct {
	ID          string
	Shape       string
	ThicknessMM float64
	BodyMM      float64 // of what is rolled; else 0
	Support     string
	Says        string
}

// Foreseen is what is known of a part before anything is foretold of its drying.
type Foreseen struct {
	Made    int
	State   string             // of the join: P S D C N
	Names   map[string]float64 // those that follow from no moment
	Base    map[string]float64 // constants, manner, measures of the piece and of its tools
	Paste   string             // the usual one
	Refused []When             // pastes that are not offered, with their sentences
	Demands []string
	Sizes   map[string]any
	Bodies  []Dries
	Rests   float64 // minutes in the bag
	Chills  float64 // minutes in the freezer
	Rolled  *Rolled // nil: nothing is cut from a sheet
	Round   RoundIs
}

// Rolled is what is cut from a sheet, in numbers.
type Rolled struct {
	Cuts        []RolledCut
	ThicknessMM float64
	AcrossMM    float64 // of the roller; 0: as wide as the board
}

// RolledCut is one thing that is cut, and how many of it a piece takes.
type RolledCut struct {
	Says, Role     string
	LongMM, WideMM float64
	Each           float64
}

// Foresee works out of a part what the paste is asked for and what will dry, from
// which the moments that Chain asks for are foretold. Errors are those of Chain.
func (l *Library) Foresee(in ChainIn) (Foreseen, error) {
	p, err := l.part(&in)
	if err != nil {
		return Foreseen{}, err
	}
	p.unknown = map[string]error{}
	if err := p.give(); err != nil {
		return Foreseen{}, err
	}
	out := Foreseen{Made: p.made, State: p.state, Names: p.given, Base: p.base, Rests: p.base["restMinutes"], Chills: p.given["chillMinutes"]}
	var asked ChainOut
	if err := p.asked(&asked); err != nil {
		return out, err
	}
	out.Paste, out.Demands, out.Sizes = asked.Paste, asked.Demands, asked.Sizes
	for _, x := range p.t.Refused {
		holds, err := p.holds(x.When, nil)
		if err != nil {
			return out, err
		}
		if holds {
			out.Refused = append(out.Refused, x)
		}
	}
	for _, b := range p.t.Bodies {
		x, err := p.value(b.ThicknessMM, nil)
		if err != nil {
			return out, err
		}
		d := Dries{ID: b.ID, Shape: b.Shape, ThicknessMM: x, Support: b.Support, Says: b.Says}
		if b.BodyMM != "" {
			if d.BodyMM, err = p.value(b.BodyMM, nil); err != nil {
				return out, err
			}
		}
		out.Bodies = append(out.Bodies, d)
	}
	if r := p.t.Round; r != nil {
		if err := p.values([]string{r.Count, r.PitchMM, r.WideMM, r.LapMM}, &out.Round.Count, &out.Round.PitchMM, &out.Round.WideMM, &out.Round.LapMM); err != nil {
			return out, err
		}
		out.Round.Says = r.Says
	}
	out.Rolled, err = p.rolled()
	return out, err
}

// RoundIs is what goes round a tier, in numbers; 0 for what is not said.
type RoundIs struct {
	Says           string
	Count, PitchMM float64
	WideMM, LapMM  float64
}

// values works expressions out into numbers; an empty one leaves its number alone.
func (p *part) values(texts []string, to ...*float64) (err error) {
	for i, text := range texts {
		if text == "" {
			continue
		}
		if *to[i], err = p.value(text, nil); err != nil {
			return err
		}
	}
	return nil
}

// rolled works out what is cut from a sheet.
func (p *part) rolled() (*Rolled, error) {
	r := p.t.Rolls
	if r == nil {
		return nil, nil
	}
	out := &Rolled{}
	if err := p.values([]string{r.ThicknessMM, r.AcrossMM}, &out.ThicknessMM, &out.AcrossMM); err != nil {
		return nil, err
	}
	for _, c := range r.Cuts {
		holds, err := p.holds(c.When, nil)
		if err != nil || !holds {
			if err != nil {
				return nil, err
			}
			continue
		}
		x := RolledCut{Says: c.Says, Role: c.Role}
		if err := p.values([]string{c.LongMM, c.WideMM, c.Each}, &x.LongMM, &x.WideMM, &x.Each); err != nil {
			return nil, err
		}
		if x.Each > 0 {
			out.Cuts = append(out.Cuts, x)
		}
	}
	return out, nil
}

// foretold tells whether an error is that of a moment which nobody foretold.
func foretold(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && f.Code == fault.Required && strings.Contains(f.Field, "stages.")
}

// Step finds a step of the technique; nil when there is none.
func (t *Technique) Step(id string) *Step { return t.step(id) }

// Run finds a run of the technique; nil when there is none.
func (t *Technique) Run(id string) *Run { return t.run(id) }

// Join is how the whole goes on to what it is made for.
func (t *Technique) Join() *Join { return &t.Joins[len(t.Joins)-1] }

// Sets finds the option of a question that sets a number to over 0, or to none.
func (l *Library) Sets(t *Technique, name string, on bool) (question, option string) {
	for _, ways := range [][]Way{t.Ways, l.Common.Ways} {
		for _, w := range ways {
			for _, o := range w.Options {
				text, sets := o.Sets[name]
				if sets && (text != "0") == on {
					return w.Question, o.ID
				}
				if !on && o.Ours && slices.ContainsFunc(w.Options, func(x Option) bool { _, sets := x.Sets[name]; return sets }) {
					return w.Question, o.ID
				}
			}
		}
	}
	return "", ""
}

// Use is what a paste is asked for by how a piece is used, while nobody knows how it
// is made.
func (l *Library) Use(manner map[string]float64) (out []string) {
	p := &part{l: l, t: &Technique{}, in: &ChainIn{}, base: map[string]float64{}, given: map[string]float64{}}
	for _, m := range l.Common.Manner {
		p.base[m.Name] = m.Default
	}
	for name, x := range manner {
		p.base[name] = x
	}
	for _, s := range states {
		p.base["is"+s] = yes(s == "D")
	}
	for _, d := range l.Common.Demands {
		if holds, err := p.holds(d.When, nil); err == nil && holds {
			out = append(out, d.Code)
		}
	}
	return out
}

// Copy is the technique once more, to be changed without changing this one. Its steps
// are laid over the common ones already, so they stand by themselves.
func (t *Technique) Copy() (*Technique, error) {
	raw, err := json.Marshal(t)
	if err != nil {
		return nil, err
	}
	out := &Technique{}
	if err := json.Unmarshal(raw, out); err != nil {
		return nil, err
	}
	for i := range out.Steps {
		out.Steps[i].As = ""
	}
	return out, nil
}
