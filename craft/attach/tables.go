// Package attach is how pieces are put on: what holds them, in which state, how long it
// takes, and in which order one pair of hands puts them on. See docs/models/attach.md.
package attach

// kept is what an attacher can do. The masses that hang with the contact unknown are
// usual in the trade; all else is assumed.
type kept struct {
	name          string
	hangsG        float64 // with the contact unknown
	perCM2        float64 // g a cm2 of contact
	holdsOffMM    float64
	tackMinutes   float64
	holdSeconds   float64
	setMinutes    float64
	dries         bool // sets by drying, so the room counts
	setsHard      bool
	contains, may []string
	byState       map[string]float64 // share of the limit; a pliable piece takes the whole
	cost          float64
}

// Nothing is the attacher of a piece that holds by itself.
const Nothing = "nothing"

// kepts in the order in which they are asked; ties of cost keep it.
var kepts = []kept{
	{name: Nothing, cost: 0.8},
	{name: "water", hangsG: 5, perCM2: 1, holdsOffMM: 0.3, holdSeconds: 10, setMinutes: 10, dries: true, setsHard: true, byState: states(0.7, 0.9, 0.9)},
	{name: "gumGlue", hangsG: 15, perCM2: 2.5, holdsOffMM: 0.5, tackMinutes: 1.5, holdSeconds: 15, setMinutes: 20, dries: true, setsHard: true, byState: states(0.9, 1, 0.9), cost: 0.5},
	{name: "pipingGel", hangsG: 10, perCM2: 1.5, holdsOffMM: 1, holdSeconds: 15, setMinutes: 60, dries: true, may: []string{"gelatine"}, byState: states(1, 1, 0.9), cost: 0.9},
	{name: "royalIcing", hangsG: 60, perCM2: 8, holdsOffMM: 6, holdSeconds: 30, setMinutes: 60, dries: true, setsHard: true, contains: []string{"egg"}, byState: states(1, 1, 0.9), cost: 1.2},
	{name: "buttercream", hangsG: 8, perCM2: 1.2, holdsOffMM: 10, holdSeconds: 10, setMinutes: 30, contains: []string{"milk"}, byState: states(1, 1, 1), cost: 1.6},
	{name: "meltedChocolate", hangsG: 20, perCM2: 4, holdsOffMM: 3, holdSeconds: 30, setMinutes: 10, setsHard: true, contains: []string{"soya"}, may: []string{"milk"}, byState: states(1, 1, 1), cost: 1.3},
}

func states(dry, semiDry, cold float64) map[string]float64 {
	return map[string]float64{pliable: 1, "dry": dry, halfDry: semiDry, chilled: cold}
}

// Words of the inputs that are asked for by name.
const (
	pliable   = "pliable"
	halfDry   = "semiDry"
	chilled   = "cold"
	hanging   = "hanging"
	resting   = "resting"
	goesRound = "goesRound"
	standing  = "standing"
	fresh     = "freshIcing"
	chocolate = "chocolate"
)

// grounds take their share of a limit: a fresh piece stretches, a crust peels.
var grounds = map[string]float64{"freshPiece": 0.7, "crustedIcing": 0.5, "biscuit": 0.8}

// loads by how a piece is held: what of its weight pulls at the join.
var loads = map[string]float64{hanging: 1, resting: 0.15, goesRound: 0.25, standing: 1.5}

// joinCode is how the state of a piece is written before "on W".
var joinCode = map[string]string{pliable: "P", halfDry: "S", "dry": "D", chilled: "C"}

// Attachers are their names, in the order in which they are asked.
func Attachers() []string {
	out := make([]string, len(kepts))
	for i := range kepts {
		out[i] = kepts[i].name
	}
	return out
}

// UsualLimit is what an attacher carries before a studio's own joins moved it; false for
// nothing, and for what is not known.
func UsualLimit(name string) (Limit, bool) {
	for i := range kepts {
		if k := &kepts[i]; k.name == name && name != Nothing {
			return Limit{k.hangsG, k.perCM2}, true
		}
	}
	return Limit{}, false
}

// Base is what pulls at a join as it would at a pliable piece on coating, so that joins of
// all states teach the same limit.
func (in *ChooseIn) Base(name string, load float64) float64 {
	for i := range kepts {
		if k := &kepts[i]; k.name == name && k.hangsG > 0 {
			return load / (in.limit(&kept{hangsG: 1, byState: k.byState, name: ""}, false))
		}
	}
	return 0
}
