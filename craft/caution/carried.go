package caution

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// nodes are the lots and makes by their names; a material stands for itself.
func (in *CarryIn) nodes() (map[string]node, error) {
	out := map[string]node{}
	for i := range in.Lots {
		l, at := &in.Lots[i], fmt.Sprintf("lots[%d].", i)
		if err := named(l.ID, out, at); err != nil {
			return nil, err
		}
		s := source{asked: l.Asked}
		if l.Material != nil {
			m, ok := MaterialOf(*l.Material)
			if !ok {
				return nil, fault.New(fault.UnknownValue, at+"material", "No material is called %q here.", *l.Material)
			}
			s = source{contains: m.Contains, may: m.May, asked: slices.Concat(m.Asked, l.Asked)}
		}
		read := l.Contains != nil || l.May != nil
		if read {
			s.contains, s.may = l.Contains, l.May
		}
		s.unread = !read && (l.Labelled == nil || !*l.Labelled) || l.Labelled != nil && !*l.Labelled
		if err := wordsOf(l.Contains, Allergens, at+"contains"); err != nil {
			return nil, err
		}
		if err := wordsOf(l.May, Allergens, at+"may"); err != nil {
			return nil, err
		}
		if err := wordsOf(l.Asked, Asked, at+"asked"); err != nil {
			return nil, err
		}
		for j, a := range l.May {
			if slices.Contains(l.Contains, a) {
				return nil, fault.New(fault.Contradiction, fmt.Sprintf("%smay[%d]", at, j), "It contains %s: that it may is no question.", a)
			}
		}
		out[*l.ID] = node{source: s}
	}
	for i := range in.Makes {
		m, at := &in.Makes[i], fmt.Sprintf("makes[%d].", i)
		if err := named(m.ID, out, at); err != nil {
			return nil, err
		}
		if len(m.From) == 0 {
			return nil, fault.New(fault.Required, at+"from", "Say what it is made of.")
		}
		out[*m.ID] = node{from: m.From}
	}
	for i := range in.Makes {
		if err := known(in.Makes[i].From, out, fmt.Sprintf("makes[%d].from", i)); err != nil {
			return nil, err
		}
	}
	return out, in.circle()
}

// known finds each name among lots and makes, or takes it as a material.
func known(from []string, nodes map[string]node, at string) error {
	for j, id := range from {
		if _, ok := nodes[id]; ok {
			continue
		}
		m, ok := MaterialOf(id)
		if !ok {
			return fault.New(fault.UnknownValue, fmt.Sprintf("%s[%d]", at, j), "%q is no lot, nothing made here and no material.", id)
		}
		nodes[id] = node{source: source{contains: m.Contains, may: m.May, asked: m.Asked}}
	}
	return nil
}

// named refuses a missing name, and one that is taken.
func named[T any](id *string, taken map[string]T, at string) error {
	if id == nil || *id == "" {
		return fault.New(fault.Required, at+"id", "Give it a name.")
	}
	if _, twice := taken[*id]; twice {
		return fault.New(fault.Contradiction, at+"id", "%q is there twice: two things need two names.", *id)
	}
	return nil
}

func wordsOf(list, all []string, at string) error {
	for j, w := range list {
		if !slices.Contains(all, w) {
			return fault.New(fault.UnknownValue, fmt.Sprintf("%s[%d]", at, j), "%q is none of: %v.", w, all)
		}
	}
	return nil
}

// circle refuses what is made of itself, at the place that closes the circle.
func (in *CarryIn) circle() error {
	at := map[string]int{}
	for i := range in.Makes {
		at[*in.Makes[i].ID] = i
	}
	const open, done = 1, 2
	state := map[string]int{}
	var visit func(i int) error
	visit = func(i int) error {
		m := &in.Makes[i]
		state[*m.ID] = open
		for j, id := range m.From {
			k, isMake := at[id]
			if !isMake || state[id] == done {
				continue
			}
			if state[id] == open {
				return fault.New(fault.Contradiction, fmt.Sprintf("makes[%d].from[%d]", i, j), "%q would be made of itself.", id)
			}
			if err := visit(k); err != nil {
				return err
			}
		}
		state[*m.ID] = done
		return nil
	}
	for i := range in.Makes {
		if state[*in.Makes[i].ID] == 0 {
			if err := visit(i); err != nil {
				return err
			}
		}
	}
	return nil
}

// checked refuses pieces, benches and words that cannot be; it gives what the benches
// that are not cleaned hold.
func (in *CarryIn) checked(nodes map[string]node) (map[string][]string, error) {
	if len(in.Pieces) == 0 {
		return nil, fault.New(fault.Required, "pieces", "Which pieces? There is none.")
	}
	benches := map[string][]string{}
	for i := range in.Benches {
		b, at := &in.Benches[i], fmt.Sprintf("benches[%d].", i)
		if err := named(b.ID, benches, at); err != nil {
			return nil, err
		}
		if err := wordsOf(b.Allergens, Allergens, at+"allergens"); err != nil {
			return nil, err
		}
		benches[*b.ID] = nil
		if !b.Cleaned {
			benches[*b.ID] = b.Allergens
		}
	}
	pieces := map[string]bool{}
	for i := range in.Pieces {
		p, at := &in.Pieces[i], fmt.Sprintf("pieces[%d].", i)
		if err := named(p.ID, pieces, at); err != nil {
			return nil, err
		}
		pieces[*p.ID] = true
		if len(p.From) == 0 {
			return nil, fault.New(fault.Required, at+"from", "Say what it is made of.")
		}
		if err := known(p.From, nodes, at+"from"); err != nil {
			return nil, err
		}
		for j, b := range p.On {
			if _, ok := benches[b]; !ok {
				return nil, fault.New(fault.UnknownValue, fmt.Sprintf("%son[%d]", at, j), "%q is no bench or mould of these.", b)
			}
		}
	}
	return benches, wordsOf(in.Avoid, slices.Concat(Allergens, Asked), "avoid")
}
