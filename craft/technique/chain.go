package technique

import (
	"bytes"
	"encoding/json"
	"maps"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/craft/piece"
)

// ChainIn asks for the steps of a part: a technique by its key, or a whole
// definition; how many are wanted (and made, spares in it); how it is joined; what
// differs from the usual numbers; the moments that other topics foretell, null for
// never.
type ChainIn struct {
	Technique     *string                       `json:"technique"`
	Definition    any                           `json:"definition,omitempty"`
	Wanted        *int                          `json:"wanted" need:"true" in:"1..5000"`
	Made          *int                          `json:"made" in:"1..100000"`
	Join          *string                       `json:"join"`
	Measures      map[string]float64            `json:"measures"`
	Tools         map[string]map[string]float64 `json:"tools"`
	Manner        map[string]float64            `json:"manner"`
	Ways          map[string]string             `json:"ways"`
	Stages        map[string]*float64           `json:"stages"`
	WindowMinutes *float64                      `json:"windowMinutes" def:"180" in:"10..1440"`
	Minutes       map[string]float64            `json:"minutes"`
	Own           map[string]float64            `json:"-"` // of a tool or a studio, for names that are given: they win
	Pace          map[string]float64            `json:"-"` // by op: how much longer these hands take than is usual
}

// ChainOut is the steps, in as few batches as fit, with what was reckoned on the
// way.
type ChainOut struct {
	Technique          string             `json:"technique"`
	Version            int                `json:"version"`
	Made               int                `json:"made"`
	Names              map[string]float64 `json:"names"`
	Batches            []Batch            `json:"batches"`
	HandsMinutes       float64            `json:"handsMinutes"`
	LongestWaitMinutes int                `json:"longestWaitMinutes"`
	LongestWaitStep    string             `json:"longestWaitStep"`
	SplitBy            string             `json:"splitBy,omitempty"`
	Paste              string             `json:"paste"`
	Demands            []string           `json:"demands"`
	Sizes              map[string]any     `json:"sizes,omitempty"`
}

// part is a technique with the numbers of one piece.
type part struct {
	l      *Library
	t      *Technique
	in     *ChainIn
	wanted int
	made   int
	state  string
	window float64
	base   map[string]float64 // constants, manner, measures, tools, sets
	given  map[string]float64
	sets   map[string]string // of ways, for names that are given later
	// names that cannot be known before a moment is foretold; nil: all must be
	unknown map[string]error
}

// Chain turns a part into steps. Its errors are *fault.Fault; models/technique.md
// says which field each names.
func (l *Library) Chain(in ChainIn) (ChainOut, error) {
	p, err := l.part(&in)
	if err != nil {
		return ChainOut{}, err
	}
	if err := p.give(); err != nil {
		return ChainOut{}, err
	}
	batches, splitBy, err := p.split()
	if err != nil {
		return ChainOut{}, err
	}
	out := ChainOut{Technique: p.t.Key, Version: p.t.Version, Made: p.made, Names: p.given, Batches: batches, SplitBy: splitBy, Demands: []string{}}
	for _, b := range batches {
		for _, o := range b.Ops {
			out.HandsMinutes += o.HandsMinutes
			if w := o.waits(); w > out.LongestWaitMinutes {
				out.LongestWaitMinutes, out.LongestWaitStep = w, o.Op
			}
		}
	}
	return out, p.asked(&out)
}

// part gathers the numbers that stand before anything is reckoned, steps 1 to 5 of
// the model.
func (l *Library) part(in *ChainIn) (*part, error) {
	t, err := l.meant(in)
	if err != nil {
		return nil, err
	}
	if err := fault.Check(in); err != nil {
		return nil, err
	}
	p := &part{l: l, t: t, in: in, wanted: *in.Wanted, window: *in.WindowMinutes, base: map[string]float64{"massG": 0}, given: map[string]float64{}, sets: map[string]string{}}
	last := t.Joins[len(t.Joins)-1]
	p.state = last.Default
	if in.Join != nil {
		if p.state = *in.Join; !slices.Contains(last.States, p.state) {
			return nil, fault.New(fault.UnknownValue, "join", "%s goes on in one of %s, not %q.", upper(last.What), strings.Join(last.States, ", "), p.state)
		}
	}
	if err := p.count(); err != nil {
		return nil, err
	}
	if err := p.numbers(); err != nil {
		return nil, err
	}
	for _, s := range states {
		p.base["is"+s] = yes(p.state == s)
	}
	p.base["window"], p.base["wanted"], p.base["made"] = p.window, float64(p.wanted), float64(p.made)
	if err := p.choose(); err != nil {
		return nil, err
	}
	if err := p.own(); err != nil {
		return nil, err
	}
	for _, r := range slices.Concat(t.Refuses, l.Common.Refuses) {
		holds, err := p.holds(r.When, nil)
		if err != nil {
			return nil, err
		}
		if holds {
			return nil, fault.New(fault.Contradiction, r.Field, "%s: %s.", t.Names.UK, r.Why)
		}
	}
	return p, nil
}

func upper(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// meant is the technique of the key, or of the definition.
func (l *Library) meant(in *ChainIn) (*Technique, error) {
	switch {
	case in.Technique != nil && in.Definition != nil:
		return nil, fault.New(fault.Contradiction, "definition", "A key and a definition name two techniques: say one of them.")
	case in.Definition != nil:
		raw, err := json.Marshal(in.Definition)
		if err != nil {
			return nil, fault.New(fault.Syntax, "definition", "%v", err)
		}
		t := &Technique{}
		d := json.NewDecoder(bytes.NewReader(raw))
		d.DisallowUnknownFields()
		if err := d.Decode(t); err != nil {
			return nil, fault.New(fault.Syntax, "definition", "This is no technique: %v.", err)
		}
		if err := l.ready(t); err != nil {
			return nil, fault.New(fault.Syntax, "definition", "This technique does not hold together: %v.", err)
		}
		return t, nil
	case in.Technique == nil || *in.Technique == "":
		return nil, fault.New(fault.Required, "technique", "Which technique? One of %s.", strings.Join(l.keys, ", "))
	}
	t := l.techniques[*in.Technique]
	if t == nil {
		return nil, fault.New(fault.UnknownValue, "technique", "There is no technique %q: one of %s.", *in.Technique, strings.Join(l.keys, ", "))
	}
	return t, nil
}

// count settles how many are made.
func (p *part) count() error {
	switch {
	case p.in.Made != nil:
		if p.made = *p.in.Made; p.made < p.wanted {
			return fault.New(fault.Contradiction, "made", "%d are wanted: as many at least are made.", p.wanted)
		}
	case p.t.Breakage == "none":
		p.made = p.wanted
	default:
		class := p.t.Breakage
		s, err := piece.Spares(piece.SpareIn{Wanted: &p.wanted, Breakage: &class})
		if err != nil {
			return err
		}
		p.made = s.Make
	}
	return nil
}

// numbers are constants, manner, measures and tools: usual values, then the
// technique's, then the piece's own.
func (p *part) numbers() error {
	manner := slices.Concat(p.l.Common.Constants, p.l.Common.Manner)
	if err := p.measures("manner.", "", manner, p.in.Manner); err != nil {
		return err
	}
	for name, x := range p.t.Defaults {
		if _, own := p.in.Manner[name]; !own {
			p.base[name] = x
		}
	}
	if err := p.measures("measures.", "", p.t.Measures, p.in.Measures); err != nil {
		return err
	}
	roles := p.l.Roles(p.t)
	for _, role := range slices.Sorted(maps.Keys(p.in.Tools)) {
		if !slices.ContainsFunc(roles, func(r Role) bool { return r.Role == role }) {
			return fault.New(fault.Syntax, "tools."+role, "%s works with no tool %q.", p.t.Names.UK, role)
		}
	}
	for _, r := range roles {
		if err := p.measures("tools."+r.Role+".", r.Role+".", p.l.Kind(r.Kind).Measures, p.in.Tools[r.Role]); err != nil {
			return err
		}
	}
	return nil
}

func (p *part) measures(path, prefix string, list []Measure, own map[string]float64) error {
	for _, name := range slices.Sorted(maps.Keys(own)) {
		if !slices.ContainsFunc(list, func(m Measure) bool { return m.Name == name }) {
			return fault.New(fault.Syntax, path+name, "%s has no measure %q.", p.t.Names.UK, name)
		}
	}
	for _, m := range list {
		x, there := own[m.Name]
		if !there {
			x = m.Default
		} else if !(x >= m.From && x <= m.To) {
			return fault.New(fault.OutOfRange, path+m.Name, "%s lies from %g to %g%s, not %g.", m.Says, m.From, m.To, unit(m.Unit), x)
		}
		p.base[prefix+m.Name] = x
	}
	return nil
}

func unit(u string) string {
	if u == "" || u == "yes" {
		return ""
	}
	return " " + u
}

// choose takes what the chosen ways set: now, where the name stands by now, else
// when it is given.
func (p *part) choose() error {
	now := maps.Clone(p.base)
	for _, q := range slices.Sorted(maps.Keys(p.in.Ways)) {
		w := p.l.Way(p.t, q)
		if w == nil {
			return fault.New(fault.UnknownValue, "ways."+q, "%s asks no question %q.", p.t.Names.UK, q)
		}
		i := slices.IndexFunc(w.Options, func(o Option) bool { return o.ID == p.in.Ways[q] })
		if i < 0 {
			return fault.New(fault.UnknownValue, "ways."+q, "%s One of: %s.", w.Says, optionIDs(w))
		}
		for name, text := range w.Options[i].Sets {
			if _, stands := now[name]; !stands {
				p.sets[name] = text
				continue
			}
			x, err := p.value(text, nil)
			if err != nil {
				return err
			}
			now[name] = x
		}
	}
	p.base = now
	return nil
}

func optionIDs(w *Way) string {
	ids := make([]string, len(w.Options))
	for i, o := range w.Options {
		ids[i] = o.ID
	}
	return strings.Join(ids, ", ")
}

// own checks the studio's own minutes: a step and a unit that it has.
func (p *part) own() error {
	for _, key := range slices.Sorted(maps.Keys(p.in.Minutes)) {
		id, u, _ := strings.Cut(key, ".")
		s := p.t.step(id)
		ok := s != nil && (s.Cycle != nil && (u == "fill" || u == "open"))
		if s != nil && !ok {
			_, ok = s.Minutes[u]
		}
		if !ok {
			return fault.New(fault.UnknownValue, "minutes."+key, "%s has no step with minutes of its own called %q.", p.t.Names.UK, key)
		}
		if x := p.in.Minutes[key]; !(x > 0 && x <= 1440) {
			return fault.New(fault.OutOfRange, "minutes."+key, "Minutes lie over 0 and up to 1440, not %g.", x)
		}
	}
	return nil
}

// give works through what is given: an expression or a topic each, the first that
// holds.
func (p *part) give() error {
	for i := range p.t.Given {
		g := &p.t.Given[i]
		if g.Name != "" {
			_, there := p.given[g.Name]
			if _, open := p.unknown[g.Name]; there || open {
				continue
			}
			x, holds, err := p.giveOne(g)
			switch {
			case err != nil && p.unknown != nil && foretold(err):
				p.unknown[g.Name] = err
			case err != nil:
				return err
			case holds:
				p.given[g.Name] = x
			}
			continue
		}
		err := p.askWhen(g)
		if err != nil && p.unknown != nil && foretold(err) {
			for name := range g.Out {
				p.unknown[name] = err
			}
			continue
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// asked is what the paste is asked for: the usual paste, demands, sizes.
func (p *part) asked(out *ChainOut) error {
	for _, x := range p.t.Pastes {
		holds, err := p.holds(x.When, nil)
		if err != nil {
			return err
		}
		if holds {
			out.Paste = x.Paste
			break
		}
	}
	for _, d := range slices.Concat(p.l.Common.Demands, p.t.Demands) {
		holds, err := p.holds(d.When, nil)
		if err != nil {
			return err
		}
		if holds && !slices.Contains(out.Demands, d.Code) {
			out.Demands = append(out.Demands, d.Code)
		}
	}
	for name, text := range p.t.Sizes {
		x, err := p.value(text, nil)
		if err != nil {
			return err
		}
		if x > 0 {
			if out.Sizes == nil {
				out.Sizes = map[string]any{}
			}
			out.Sizes[name] = x
		}
	}
	return nil
}

func roundUp(x float64) int   { return int(math.Ceil(x - slack)) }
func roundDown(x float64) int { return int(math.Floor(x + slack)) }
