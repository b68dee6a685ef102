package caution

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// CarryIn asks what travels from lots through what is made of them to pieces, and what
// meets guests there. See docs/models/safety.md.
type CarryIn struct {
	Lots    []CarryLot   `json:"lots"`
	Makes   []CarryMake  `json:"makes"`
	Pieces  []CarryPiece `json:"pieces"`
	Benches []CarryBench `json:"benches"`
	Avoid   []string     `json:"avoid"`
}

// CarryLot is something bought. Contains or May are its label's, and then replace the
// table of its material; Asked adds to it.
type CarryLot struct {
	ID       *string  `json:"id"`
	Material *string  `json:"material"`
	Contains []string `json:"contains"`
	May      []string `json:"may"`
	Asked    []string `json:"asked"`
	Labelled *bool    `json:"labelled"`
}

// CarryMake is something made here of lots, materials and other makes.
type CarryMake struct {
	ID   *string  `json:"id"`
	From []string `json:"from"`
}

// CarryPiece is a piece of lots, makes and materials, worked on benches and in moulds.
type CarryPiece struct {
	ID        *string  `json:"id"`
	From      []string `json:"from"`
	On        []string `json:"on"`
	Removable bool     `json:"removable"`
}

// CarryBench is a bench or a mould, with what was worked there before.
type CarryBench struct {
	ID        *string  `json:"id"`
	Allergens []string `json:"allergens"`
	Cleaned   bool     `json:"cleaned"`
}

// CarryOut is what each piece holds, what the card names, and what meets guests.
type CarryOut struct {
	Pieces    []Carried  `json:"pieces"`
	Card      Card       `json:"card"`
	ReadLabel []string   `json:"readLabel"`
	Conflicts []Conflict `json:"conflicts"`
	Refused   bool       `json:"refused"`
}

// Carried is what one piece holds; ReadLabel are lots in it whose label nobody read.
type Carried struct {
	ID        string   `json:"id"`
	Contains  []string `json:"contains"`
	May       []string `json:"may"`
	Asked     []string `json:"asked"`
	ReadLabel []string `json:"readLabel"`
}

// Card is what is named to the client.
type Card struct {
	Contains []string `json:"contains"`
	May      []string `json:"may"`
	Asked    []string `json:"asked"`
}

// Conflict is something that guests avoid in a piece, and the shortest way by which it
// came there. Kind is contains, uses, bench or mayContain; the last is the client's to
// decide, in writing.
type Conflict struct {
	Piece   string   `json:"piece"`
	Avoid   string   `json:"avoid"`
	Found   string   `json:"found"`
	Kind    string   `json:"kind"`
	Via     []string `json:"via"`
	Refused bool     `json:"refused"`
}

// animal is what somebody avoids who eats nothing of animals.
var animal = []string{"animal", "egg", "milk", "gelatine"}

// source is a lot or a material as it is by itself.
type source struct {
	contains, may, asked []string
	unread               bool
}

// node of what things are made of: a source, or a make with what it is from.
type node struct {
	source
	from []string
}

// Carry follows allergens from lots to pieces, and finds what meets guests. A bench
// that was not cleaned gives what lay on it.
func Carry(in CarryIn) (CarryOut, error) {
	nodes, err := in.nodes()
	if err != nil {
		return CarryOut{}, err
	}
	benches, err := in.checked(nodes)
	if err != nil {
		return CarryOut{}, err
	}
	out := CarryOut{Pieces: []Carried{}, Card: Card{[]string{}, []string{}, []string{}}}
	for i := range in.Pieces {
		p := &in.Pieces[i]
		f := follow(p.From, nodes)
		for _, b := range p.On {
			for _, a := range benches[b] {
				f.bench.note(a, []string{b})
			}
		}
		c := Carried{ID: *p.ID, Contains: f.contains.list(), May: []string{}, Asked: f.asked.list(), ReadLabel: sorted(f.unread)}
		for _, a := range sorted(slices.Concat(f.may.names, f.bench.names)) {
			if !slices.Contains(c.Contains, a) {
				c.May = append(c.May, a)
			}
		}
		if len(c.ReadLabel) == 0 {
			c.ReadLabel = nil
		}
		out.Pieces = append(out.Pieces, c)
		out.ReadLabel = append(out.ReadLabel, c.ReadLabel...)
		if !p.Removable {
			out.Card.Contains = append(out.Card.Contains, c.Contains...)
			out.Card.May = append(out.Card.May, c.May...)
			out.Card.Asked = append(out.Card.Asked, c.Asked...)
		}
		for _, a := range in.Avoid {
			out.Conflicts = append(out.Conflicts, f.conflicts(c.ID, a)...)
		}
	}
	out.Card.Contains, out.Card.Asked = sorted(out.Card.Contains), sorted(out.Card.Asked)
	out.Card.May = slices.DeleteFunc(sorted(out.Card.May), func(a string) bool { return slices.Contains(out.Card.Contains, a) })
	if out.ReadLabel = sorted(out.ReadLabel); len(out.ReadLabel) == 0 {
		out.ReadLabel = nil
	}
	out.Refused = slices.ContainsFunc(out.Conflicts, func(c Conflict) bool { return c.Refused })
	return out, nil
}

// sorted is a list in order, each once, never null.
func sorted(list []string) []string {
	out := append([]string{}, list...)
	slices.Sort(out)
	return slices.Compact(out)
}

// found are words with the shortest way to each, in the order in which they were met.
type found struct {
	names []string
	via   map[string][]string
}

func (f *found) note(word string, via []string) {
	if _, known := f.via[word]; known {
		return
	}
	if f.via == nil {
		f.via = map[string][]string{}
	}
	f.names = append(f.names, word)
	f.via[word] = via
}

func (f *found) list() []string { return sorted(f.names) }

// followed is everything that goes into a piece.
type followed struct {
	contains, may, asked, bench found
	unread                      []string
}

// follow goes from the nearest to the farthest, so that the first way met is the
// shortest.
func follow(from []string, nodes map[string]node) (f followed) {
	type at struct {
		id  string
		via []string
	}
	var todo []at
	for _, id := range from {
		todo = append(todo, at{id, []string{id}})
	}
	seen := map[string]bool{}
	for len(todo) > 0 {
		x := todo[0]
		todo = todo[1:]
		if seen[x.id] {
			continue
		}
		seen[x.id] = true
		n := nodes[x.id]
		for _, a := range n.contains {
			f.contains.note(a, x.via)
		}
		for _, a := range n.may {
			f.may.note(a, x.via)
		}
		for _, a := range n.asked {
			f.asked.note(a, x.via)
		}
		if n.unread {
			f.unread = append(f.unread, x.id)
		}
		for _, id := range n.from {
			todo = append(todo, at{id, append(slices.Clone(x.via), id)})
		}
	}
	return f
}

// conflicts of a piece with something that is avoided.
func (f *followed) conflicts(piece, avoid string) (out []Conflict) {
	looked := []string{avoid}
	if avoid == "animal" {
		looked = animal
	}
	for _, a := range looked {
		for _, k := range []struct {
			kind    string
			in      *found
			refused bool
		}{{"contains", &f.contains, true}, {"uses", &f.asked, true}, {"bench", &f.bench, true}, {"mayContain", &f.may, false}} {
			if via, met := k.in.via[a]; met {
				out = append(out, Conflict{Piece: piece, Avoid: avoid, Found: a, Kind: k.kind, Via: via, Refused: k.refused})
				break
			}
		}
	}
	return out
}

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
