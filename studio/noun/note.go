package noun

import (
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/drying"
)

// Note is what was seen of a batch: firm, still soft, cracked. What is known of it then is
// kept with it, so that nothing is asked and nothing is lost when the order is gone.
type Note struct {
	Row
	At           time.Time `json:"at"`
	Who          string    `json:"who"`
	CommissionID *int64    `json:"commissionId,omitempty"`
	PieceID      *int64    `json:"pieceId,omitempty"`
	Op           string    `json:"op"`   // the step it was seen at; "": brought in from elsewhere
	Name         string    `json:"name"` // of its piece
	What         string    `json:"what"` // of NoteKinds
	Count        int       `json:"count,omitempty"`
	Grams        *float64  `json:"grams,omitempty"`
	FromGrams    *float64  `json:"fromGrams,omitempty"` // what the same pieces weighed fresh
	Says         string    `json:"says,omitempty"`
	Photo        *int64    `json:"photo,omitempty"`
	Tool         string    `json:"tool,omitempty"`
	Technique    string    `json:"technique,omitempty"`

	Paste       string  `json:"paste,omitempty"` // family by which it dries
	GumPercent  float64 `json:"gumPercent,omitempty"`
	Shape       string  `json:"shape,omitempty"`
	ThicknessMM float64 `json:"thicknessMM,omitempty"`
	Support     string  `json:"support,omitempty"`
	Rack        string  `json:"rack,omitempty"`  // where it dried
	TempC       float64 `json:"tempC,omitempty"` // the mean until then
	RHPercent   float64 `json:"rhPercent,omitempty"`

	Hours      float64 `json:"hours,omitempty"`      // since it was laid out
	Stage      string  `json:"stage,omitempty"`      // that was looked at: hold, firm or hard
	ModelHours float64 `json:"modelHours,omitempty"` // until that stage by the model alone; 0: it teaches nothing of drying
	LowHours   float64 `json:"lowHours,omitempty"`   // as it was foretold then
	MidHours   float64 `json:"midHours,omitempty"`
	HighHours  float64 `json:"highHours,omitempty"`
	LeftOut    bool    `json:"leftOut,omitempty"` // of what is learnt

	Symptoms []string `json:"symptoms,omitempty" gorm:"serializer:json"` // of a confirmed cause: what was seen
	Cause    string   `json:"cause,omitempty"`                           // that was confirmed
	Target   string   `json:"target,omitempty"`                          // of something to remember: where it belongs
	Attacher string   `json:"attacher,omitempty"`                        // of a join that held or fell
	Load     float64  `json:"load,omitempty"`                            // what pulled at it, as of a pliable piece on coating
	PerCM2   bool     `json:"perCM2,omitempty"`                          // the load is g a cm2 of contact, not g
}

// Word of the noun.
func (*Note) Word() string { return "note" }

// Called is what it is in the journal.
func (n *Note) Called() (string, int64) {
	if n.CommissionID != nil {
		return n.Name, *n.CommissionID
	}
	return n.Name, 0
}

// Teaches tells whether something follows from the note that can be left out: hours of
// drying, a cause, what is to be remembered, what a join carries.
func (n *Note) Teaches() bool { return n.ModelHours > 0 || n.Cause != "" || n.Attacher != "" }

// NoteKind is something that can be seen of a batch.
type NoteKind struct {
	Code, Says string
	Counts     bool // of how many
	Dries      bool // while it dries only
	Elsewhere  bool // noted where it belongs, not by a tap
}

// NoteKinds in the order in which they are offered.
var NoteKinds = []NoteKind{
	{"firm", "Firm already", false, true, false},
	{"firmNow", "Firm just now", false, true, false},
	{"soft", "Still soft", false, true, false},
	{"cracked", "Cracked", true, false, false},
	{"sagged", "Sagged", true, false, false},
	{"stuck", "Stuck", true, false, false},
	{"broke", "Broke", true, false, false},
	{"tooHard", "Too hard to eat", false, false, false},
	{"tasty", "Tasted well", false, false, false},
	{"weighed", "Weighed again", false, true, false},
	{"said", "In words", false, false, false},
	{"cause", "What it was", false, false, true},
	{"remind", "To remember", false, false, true},
	{"held", "It held", false, false, true},
	{"fell", "It came off", false, false, true},
	{"finished", "Finished", false, false, true},
}

// NoteKindOf finds one by its code.
func NoteKindOf(code string) (NoteKind, bool) {
	for _, k := range NoteKinds {
		if k.Code == code {
			return k, true
		}
	}
	return NoteKind{}, false
}

// NoteFind is what is looked for among notes: each of the words, in a name, a tool or what
// was said, or a kind of note or a paste that is called so.
type NoteFind struct {
	Words  []string
	Kinds  map[string][]string // by word
	Pastes map[string][]string
}

// Stretched is what was read over a stretch, the mean and the ends of its humidity.
type Stretched struct {
	At        time.Time
	TempC     *float64
	RHPercent *float64
	LowRH     *float64
	HighRH    *float64
	N         int
	Bad       int
}

// MostTeaching is by how many of the latest notes a kitchen is known: what was before has
// faded.
const MostTeaching = 300

// Learn is what notes teach of drying, the latest first as they are read. Looks at the same
// batch for the same stage are one note: still soft until the last of those, firm by the
// first of these.
func Learn(notes []Note) (b drying.Belief) {
	type look struct {
		first       Note
		soft, firm  float64
		at, already bool
	}
	by := map[string]*look{}
	var order []*look
	for _, n := range slices.Backward(notes) {
		if n.LeftOut || n.ModelHours <= 0 || n.Hours <= 0 {
			continue
		}
		key := n.Op + "|" + n.Stage
		if n.Op == "" {
			key = fmt.Sprint(n.ID)
		}
		l := by[key]
		if l == nil {
			l = &look{first: n}
			by[key] = l
			order = append(order, l)
		}
		switch n.What {
		case "soft":
			l.soft = max(l.soft, n.Hours)
		case "firm", "firmNow":
			if !l.already || n.Hours < l.firm {
				l.firm, l.at, l.already, l.first = n.Hours, n.What == "firmNow", true, n
			}
		}
	}
	slices.SortStableFunc(order, func(a, b *look) int { return a.first.At.Compare(b.first.At) })
	for _, l := range order {
		n := l.first
		day := DayNumber(n.At)
		out := drying.Note{Paste: &n.Paste, DayNumber: &day, ModelHours: &n.ModelHours}
		say := func(kind string, hours float64) { out.Kind, out.Hours = &kind, &hours }
		switch {
		case l.already && l.at:
			say(drying.At, l.firm)
		case l.already && l.soft > 0 && l.soft < l.firm:
			say(drying.Between, l.soft)
			out.HoursTo = &l.firm
		case l.already:
			say(drying.Before, l.firm)
		case l.soft > 0:
			say(drying.After, l.soft)
		default:
			continue
		}
		if out.Check() == nil {
			b = b.Note(out)
		}
	}
	return b
}

// NoteCodes are the codes of NoteKinds.
func NoteCodes() (out []string) {
	for _, k := range NoteKinds {
		out = append(out, k.Code)
	}
	return out
}

// Dries tells whether a paste is one that dries by the model.
func Dries(paste string) bool {
	_, err := drying.Balance(drying.BalanceIn{Paste: &paste, RHPercent: new(50.0)})
	return err == nil
}

// MonthOf is what hands made in a month.
type MonthOf struct {
	Year, Month int
	Minutes     float64
	Pieces      int
}
