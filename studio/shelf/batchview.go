package shelf

import (
	"strings"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// BatchView is a batch that lies there.
type BatchView struct {
	Op          string        `json:"op"`
	Version     int64         `json:"version"`
	Name        string        `json:"name"`
	Order       string        `json:"order"`
	OrderID     int64         `json:"orderId"`
	PieceID     int64         `json:"pieceId"`
	Swatch      string        `json:"swatch"`
	Count       int           `json:"count" doc:"on this tray"`
	All         int           `json:"all"`
	LengthMM    float64       `json:"lengthMM" doc:"as one lies"`
	WidthMM     float64       `json:"widthMM"`
	Round       bool          `json:"round"`
	Support     string        `json:"support"`
	SupportCode string        `json:"supportCode"`
	Since       string        `json:"since"`
	Marks       []MarkView    `json:"marks"`
	Ready       bool          `json:"ready"`
	Never       string        `json:"never" doc:"it does not set here, and what would help"`
	Bagged      bool          `json:"bagged"`
	MayTurn     bool          `json:"mayTurn"`
	Turn        string        `json:"turn" doc:"about turning them"`
	MayBag      bool          `json:"mayBag"`
	Notes       []string      `json:"notes" doc:"what was seen of it"`
	Done        []string      `json:"done" doc:"what hands did meanwhile"`
	Tacky       string        `json:"tacky"`
	Then        string        `json:"then" doc:"the step of hands that follows"`
	Next        string        `json:"next" doc:"what may be done with it next, and when"`
	Spots       []SpotView    `json:"spots" doc:"where they lie on this tray, mm from its upper left"`
	Offers      []read.Option `json:"offers" doc:"what can be noted of it"`
}

// MarkView is what may be done with a batch, and when.
type MarkView struct {
	Code  string `json:"code" enum:"touch,lift,paint,join,cover"`
	Says  string `json:"says"`
	When  string `json:"when"`
	Band  string `json:"band"`
	State string `json:"state" enum:"no,maybe,yes,never"`
}

// batchView is a batch in words.
func batchView(k *noun.Kitchen, st *noun.Step, d *work.Drying, press *noun.Step, order string, p *noun.Piece, c work.Chain, r read.Reader, now time.Time) BatchView {
	v := BatchView{Op: st.Op, Version: st.Version, Name: read.UpperFirst(st.Planned.What()), Order: order, OrderID: st.CommissionID, PieceID: *st.PieceID, Swatch: p.Swatch, Support: r.Say(supportSays(d.Support)), SupportCode: d.Support,
		Since: r.Time(st.ActualStart.In(now.Location()), now), Marks: []MarkView{}, Bagged: d.Bagged, Notes: []string{}, Done: []string{}, Spots: []SpotView{}, Offers: work.NotesOffered(r, st.Planned.Body.Until, true), Round: round(st.Planned.Body.Shape)}
	if press != nil {
		v.All = max(0, press.Out()-press.Broken())
	}
	v.All = max(0, v.All-st.Broken())
	v.Count = v.All
	if next := c.NextHands(st); next != nil {
		v.Then = next.Title
	}
	for _, m := range marksOf(st, d) {
		v.Marks = append(v.Marks, m.view(st, r, now))
	}
	for _, m := range v.Marks {
		if m.State == "no" || m.State == "maybe" {
			v.Next = m.Says + " " + m.When
			break
		}
	}
	if v.Next == "" {
		v.Next = "ready"
	}
	if st.Never {
		v.Next = "will not set here"
	}
	firm := d.Stages.Of("firm")
	past := now.Sub(*st.ActualStart).Minutes()
	v.Ready = !st.Never && !st.PlannedEnd.After(now)
	if st.Never {
		v.Never = plan.NeverSays(st, k, now)
		if help := work.WouldHelp(st, k, now, r); help != "" {
			v.Never += " " + help
		}
	}
	flat := st.Planned.Body.Shape == "sheet" || st.Planned.Body.Shape == "block"
	switch {
	case d.Support == "foam" && flat:
		v.Turn = "On foam what dries stays put: it dries from both sides."
	case firm == nil:
	case flat && d.Support == "board" && past < float64(firm.P10):
		v.Turn = "Turn them once they are firm, about " + r.About(st.ActualStart.Add(time.Duration(firm.P50)*time.Minute), *st.ActualStart, now) + "."
	case flat && d.Support == "board":
		v.MayTurn = true
	}
	v.MayBag = !d.Bagged && !st.Planned.Body.Sets && !v.Ready
	for _, t := range st.Tended {
		v.Done = append(v.Done, tendedSays(k, t, r, now))
	}
	return v
}

func round(shape string) bool { return shape == "ball" || shape == "dome" || shape == "rolled" }

type mark struct {
	code, says string
	at         *work.Band
}

// marksOf are what may be done with a batch, in order: touched from its skin, lifted when it
// holds, joined when it is firm, painted wet when it is hard if thin, firm if solid; a
// semi-dry piece is covered before it is too firm to bend.
func marksOf(st *noun.Step, d *work.Drying) []mark {
	body := st.Planned.Body
	paint := d.Stages.Of("firm")
	if body.Shape == "sheet" || body.Shape == "rolled" {
		paint = d.Stages.Of("hard")
	}
	if body.Sets {
		return []mark{{"lift", "lift", d.Stages.Of("hold")}, {"join", "join", d.Stages.Of("firm")}}
	}
	out := []mark{{"touch", "touch", d.Stages.Of("skin")}, {"lift", "lift", d.Stages.Of("hold")}}
	if body.Until == "hold" {
		out = append(out, mark{"join", "join", d.Stages.Of("hold")})
		if firm := d.Stages.Of("firm"); firm != nil {
			out = append(out, mark{"cover", "cover by", &work.Band{P10: firm.P10, P50: firm.P10, P90: firm.P10}})
		}
		return out
	}
	return append(out, mark{"join", "join", d.Stages.Of(body.Until)}, mark{"paint", "paint wet", paint})
}

func (m mark) view(st *noun.Step, r read.Reader, now time.Time) MarkView {
	v := MarkView{Code: m.code, Says: m.says, State: "never", When: "not here"}
	if m.at == nil {
		return v
	}
	start := *st.ActualStart
	at := func(min int) time.Time { return start.Add(time.Duration(min) * time.Minute).In(now.Location()) }
	past := now.Sub(start).Minutes()
	switch {
	case past >= float64(m.at.P90):
		v.State = "yes"
	case past >= float64(m.at.P10):
		v.State = "maybe"
	default:
		v.State = "no"
	}
	v.When = r.About(at(m.at.P50), start, now)
	if m.at.P10 != m.at.P90 {
		v.Band = stretchSays(r.About(at(m.at.P10), start, now), r.About(at(m.at.P90), start, now))
	}
	return v
}

// stretchSays is from one hour to another; the day is said once.
func stretchSays(from, to string) string {
	day, _, _ := strings.Cut(from, " ")
	if rest, same := strings.CutPrefix(to, day+" "); same {
		to = rest
	}
	if from == to {
		return ""
	}
	return from + " to " + to
}
