package caution

import "slices"

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
