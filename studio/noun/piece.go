package noun

import (
	"fmt"
	"strings"

	"dustyfern/craft/paste"
	"dustyfern/craft/technique"
)

// Piece is a counted decoration of a commission.
type Piece struct {
	Row
	CommissionID  int64    `json:"commissionId,omitempty"`
	Position      int      `json:"position"`
	Name          string   `json:"name"`
	Wanted        int      `json:"wanted"`
	ToolID        *int64   `json:"toolId,omitempty"`                // what it is shaped with
	Technique     string   `json:"technique"`                       // how it is made; "" by its tool
	Tools         ToolsOf  `json:"tools" gorm:"serializer:json"`    // other tools by their role; in a document their numbers
	Measures      Measures `json:"measures" gorm:"serializer:json"` // of the way of making, where they are not the usual
	Ways          Ways     `json:"ways" gorm:"serializer:json"`     // options taken, by question
	Joins         []Join   `json:"joins" gorm:"serializer:json"`    // parts that go on to it, in order
	Colour        string   `json:"colour"`
	Swatch        string   `json:"swatch"`
	Eaten         string   `json:"eaten"`
	KnifePasses   bool     `json:"knifePasses"`
	Stance        string   `json:"stance"`
	HeightMM      *float64 `json:"heightMM,omitempty"`
	Bent          bool     `json:"bent"`
	Joined        string   `json:"joined"`
	Support       string   `json:"support"`
	Rack          *int64   `json:"rack,omitempty"` // where it dries; nil: in the kitchen. In a document its number
	Carries       bool     `json:"carries"`
	Bagged        bool     `json:"bagged"`
	HandledSoon   bool     `json:"handledSoon"`
	EdgeMM        *float64 `json:"edgeMM,omitempty"`
	Dusted        bool     `json:"dusted"`
	Chill         bool     `json:"chill"`
	HeldUp        bool     `json:"heldUp"`
	WayOut        string   `json:"wayOut"`
	PegPercent    *float64 `json:"pegPercent,omitempty"`
	School        string   `json:"school"`
	Dough         string   `json:"dough"`
	TrialG        *float64 `json:"trialG,omitempty"`
	TrialLowG     *float64 `json:"trialLowG,omitempty"`
	TrialHighG    *float64 `json:"trialHighG,omitempty"`
	TrialText     string   `json:"trialText"`
	TrialEstimate bool     `json:"trialEstimate"`
	Extras        []int    `json:"extras" gorm:"serializer:json"`          // pressed again, by batch
	GelLots       []int64  `json:"gelLots" gorm:"serializer:json"`         // bottles that make its colour, when not the best set; in a document their numbers
	ColourFrom    string   `json:"colourFrom"`                             // "" gels into the paste, leftovers, asItIs
	Strands       []Strand `json:"strands" gorm:"serializer:json"`         // part-mixed: what lies beside its own colour
	Outline       Outline  `json:"outline" gorm:"serializer:json"`         // what it is cut to, when it is drawn and no cutter's
	Laid          []Put    `json:"laid" gorm:"serializer:json"`            // put down on the rolled sheet by hand
	Finish        Finish   `json:"finish,omitzero" gorm:"serializer:json"` // what comes on to it
	Goes          Goes     `json:"goes,omitzero" gorm:"serializer:json"`   // how it goes on the cake
}

// Strand is a paste that is half kneaded into a piece beside its own colour, which has
// one part: a colour of its own, or the paste as it comes where Swatch is empty.
type Strand struct {
	Colour string  `json:"colour"`
	Swatch string  `json:"swatch"`
	Parts  float64 `json:"parts"`
}

// MostStrands lie beside a piece's own colour.
const MostStrands = 3

// ToolsOf are tools by the role in which they work.
type ToolsOf map[string]int64

// Join is a part that goes on to a piece: another piece of the same order, so
// often for each, in that state. In a document Part is the number of a piece.
type Join struct {
	Part    int64   `json:"part"`
	Each    int     `json:"each"`
	Says    string  `json:"says"`    // where and how, in the decorator's words
	With    string  `json:"with"`    // what holds it
	Minutes float64 `json:"minutes"` // of hands for each
}

// MostCopies is how many copies of a tool a way of making reckons with.
const MostCopies = 40

// MostEach is how many of a part go on to one piece.
const MostEach = 200

// BatchID is the name of a batch of a piece: "p12.1", as its steps begin.
func BatchID(piece int64, no int) string { return fmt.Sprintf("p%d.%d", piece, no) }

// BatchOf is the batch of a step by its name: "p12.1" of "p12.1.press".
func BatchOf(op string) string {
	if i := strings.LastIndexByte(op, '.'); i >= 0 {
		return op[:i]
	}
	return op
}

// Asked are the measures of a tool as a way of making asks for them: copies and
// places are those that can be worked with.
func (t *Tool) Asked() map[string]float64 {
	out := map[string]float64{}
	k := t.kind()
	if k == nil {
		return out
	}
	for _, m := range k.Measures {
		x, said := t.Measures[m.Name]
		switch {
		case m.Name == "copies":
			out[m.Name] = float64(max(1, min(MostCopies, t.InUse()))) // none: its pieces say so
		case m.Name == "places" && t.Copies > 1:
			out[m.Name] = max(m.From, min(m.To, float64(t.Places())))
		case said:
			out[m.Name] = x
		}
	}
	return out
}

func yes(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// Manner is how a piece is used and kept, by the names that a way of making asks
// for.
func (p *Piece) Manner() map[string]float64 {
	return map[string]float64{
		"mouthful": yes(p.Eaten == "mouthful"), "nibbled": yes(p.Eaten == "nibbled"), "shown": yes(p.Eaten == "shown"),
		"knifePasses": yes(p.KnifePasses), "bent": yes(p.Bent), "upright": yes(p.Stance == "upright"), "carries": yes(p.Carries),
		"bagged": yes(p.Bagged), "dusted": yes(p.Dusted), "handledSoon": yes(p.HandledSoon),
	}
}

// MadeAs is the way in which a piece is made: the one that was chosen, else the
// usual one of its tool; nil when neither is known.
func (p *Piece) MadeAs(lib *technique.Library, tool *Tool) *technique.Technique {
	if p.Technique != "" {
		return lib.Of(p.Technique)
	}
	if tool == nil {
		return nil
	}
	manner := map[string]float64{}
	if k, ok := paste.KindOf(p.Dough); ok && k.SoftPoint > 0 {
		manner["dough"] = 1
	}
	return lib.Usual(tool.Kind, joinStates[p.Joined], tool.Asked(), manner)
}

// ToolFor is the tool of a role: its own, or what it is shaped with where the role
// is the leading one.
func (p *Piece) ToolFor(lib *technique.Library, t *technique.Technique, role string) (id int64, ok bool) {
	if lead := lib.Leading(t); lead != nil && lead.Role == role && p.ToolID != nil {
		return *p.ToolID, true
	}
	id, ok = p.Tools[role]
	return id, ok
}

// joinStates are the states in which a piece goes on, as techniques write them.
var joinStates = map[string]string{"pliable": "P", "semiDry": "S", "dry": "D", "cold": "C"}

// JoinState is how the piece goes on when it is made so: as was said, else as is
// usual for it. own tells that what was said is none of its ways.
func (p *Piece) JoinState(t *technique.Technique) (state string, own bool) {
	j := t.Join()
	for _, s := range j.States {
		if s == joinStates[p.Joined] {
			return s, true
		}
	}
	return j.Default, p.Joined == ""
}

// Holds tells whether a piece is among the parts of this one, at any depth.
func (p *Piece) Holds(id int64, all map[int64]*Piece) bool {
	seen := map[int64]bool{}
	var look func(p *Piece) bool
	look = func(p *Piece) bool {
		if p == nil || seen[p.ID] {
			return false
		}
		seen[p.ID] = true
		for _, j := range p.Joins {
			if j.Part == id || look(all[j.Part]) {
				return true
			}
		}
		return false
	}
	return look(p)
}

// Needed is how many of each piece an order takes: those that go on the cake by
// themselves, and those that are parts of others.
func Needed(pieces []Piece) map[int64]int {
	by := map[int64]*Piece{}
	for i := range pieces {
		if pieces[i].DeletedAt == nil {
			by[pieces[i].ID] = &pieces[i]
		}
	}
	out := map[int64]int{}
	var take func(p *Piece, n, depth int)
	take = func(p *Piece, n, depth int) {
		out[p.ID] += n
		if depth > len(pieces) {
			return // a circle, which no form lets in
		}
		for _, j := range p.Joins {
			if part := by[j.Part]; part != nil {
				take(part, n*j.Each, depth+1)
			}
		}
	}
	for _, p := range by {
		if p.Wanted > 0 {
			take(p, p.Wanted, 0)
		}
	}
	return out
}

// AsItComes is a piece whose paste stays as it is.
const AsItComes = "asItIs"

// Paint gives a piece the colour that is wanted; one that was left as it comes is
// coloured from then on.
func (p *Piece) Paint(hex string) {
	if hex != p.Swatch && p.ColourFrom == AsItComes {
		p.ColourFrom = ""
	}
	p.Swatch = hex
}
