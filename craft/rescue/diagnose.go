package rescue

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// Targets are where a change that is offered belongs.
var Targets = []string{"plan", "dose", "paste", "mould", "habit", "room", "record"}

// somethingElse is the cause that the table does not know.
const somethingElse = "somethingElse"

// DiagnoseIn is what is seen and what is known. Answers win over the record; Confirmed are
// a studio's own cases of this technique, by cause.
type DiagnoseIn struct {
	Symptoms  []string        `json:"symptoms" need:"true"`
	Absent    []string        `json:"absent"`
	Technique *string         `json:"technique"`
	Record    *Record         `json:"record"`
	Answers   map[string]bool `json:"answers"`
	Confirmed map[string]int  `json:"confirmed"`
	Top       *int            `json:"top" def:"5" in:"1..20"`
}

// DiagnoseOut are the likely causes, and the question that would tell them apart.
type DiagnoseOut struct {
	Causes    []Cause `json:"causes"`
	Bits      float64 `json:"bits"` // of doubt that is left
	Sure      bool    `json:"sure"`
	Apart     bool    `json:"apart"` // several symptoms that no one cause explains: ask for each alone
	Facts     []Fact  `json:"facts,omitempty"`
	Technique string  `json:"technique,omitempty"`
	BatchWide *bool   `json:"batchWide,omitempty"` // a fault of the method, not of the hand
	Ask       *Ask    `json:"ask,omitempty"`
}

// Cause is one likely cause with what to do now and next time.
type Cause struct {
	Cause        string   `json:"cause"`
	Says         string   `json:"says"`
	Probability  float64  `json:"probability"`
	Harm         int      `json:"harm"`
	CheckMinutes float64  `json:"checkMinutes"`
	Rescue       string   `json:"rescue"`
	Next         string   `json:"next"`
	Changes      []Change `json:"changes"`
}

// Change is what would keep it from happening again, and where that belongs.
type Change struct {
	Target string `json:"target"`
	Change string `json:"change"`
}

// Fact is a question that was answered, by the record or by hand.
type Fact struct {
	ID    string `json:"id"`
	Value bool   `json:"value"`
	From  string `json:"from"`
}

// Ask is the question that would tell most for its minutes.
type Ask struct {
	ID       string  `json:"id"`
	Says     string  `json:"says"`
	Minutes  float64 `json:"minutes"`
	Spoils   bool    `json:"spoils"`
	GainBits float64 `json:"gainBits"`
	IfYes    string  `json:"ifYes"`
	IfNo     string  `json:"ifNo"`
	Turns    bool    `json:"turns"`
}

// Weights of the judgement (assumed).
const (
	tableCases   = 20.0   // cases that the table stands for
	unlisted     = 0.0015 // a cause that shows what its line does not name
	elseShows    = 0.05
	leastShare   = 0.03 // no single entry decides alone
	rankStep     = 0.02
	sureFrom     = 0.6
	noAskFrom    = 0.9
	leastGain    = 0.05
	spoilsFrom   = 1.0 // bits of doubt
	leastShown   = 0.01
	wideFrom     = 5
	wideShare    = 0.15
	equalMinutes = 1e-9
)

// Diagnose ranks the causes of what is seen. Errors are *fault.Fault;
// docs/models/rescue.md.
func Diagnose(in DiagnoseIn) (DiagnoseOut, error) { return ours.diagnose(in) }

func (t *table) diagnose(in DiagnoseIn) (DiagnoseOut, error) {
	if err := t.check(&in); err != nil {
		return DiagnoseOut{}, err
	}
	technique := ""
	switch {
	case in.Technique != nil:
		technique = *in.Technique
	case in.Record != nil && in.Record.MouldKind != nil:
		technique = moulds[*in.Record.MouldKind]
	}
	facts := t.facts(&in, technique)
	p := t.posterior(&in, technique, facts)
	out := DiagnoseOut{Causes: []Cause{}, Bits: bits(p), Facts: facts, Technique: technique}
	order := t.ranked(p)
	first := order[0]
	out.Sure = p[first] >= sureFrom
	out.Apart = len(in.Symptoms) > 1 && t.causes[first].id == somethingElse
	for i, at := range order[:min(*in.Top, len(order))] {
		if i > 0 && p[at] < leastShown {
			continue
		}
		c := &t.causes[at]
		out.Causes = append(out.Causes, Cause{c.id, c.says, p[at], c.harm, c.minutes, c.rescue, c.next, c.changes})
	}
	if r := in.Record; r != nil && r.Made != nil && r.Broken != nil && *r.Made >= wideFrom {
		out.BatchWide = new(float64(*r.Broken)/float64(*r.Made) > wideShare)
	}
	out.Ask = t.ask(p, facts)
	return out, nil
}

func (t *table) check(in *DiagnoseIn) error {
	if err := fault.Check(in); err != nil {
		return err
	}
	for _, list := range []struct {
		field string
		ids   []string
	}{{"symptoms", in.Symptoms}, {"absent", in.Absent}} {
		for i, id := range list.ids {
			field := fmt.Sprintf("%s[%d]", list.field, i)
			if t.symptom(id) < 0 {
				return fault.New(fault.UnknownValue, field, "There is no symptom %q: rescue.symptoms lists them.", id)
			}
			if list.field == "absent" && slices.Contains(in.Symptoms, id) {
				return fault.New(fault.Contradiction, field, "%q is seen and not seen.", id)
			}
		}
	}
	if in.Technique != nil && !isTechnique(*in.Technique) {
		return fault.New(fault.UnknownValue, "technique", "There is no technique %q: T1 to T%d.", *in.Technique, techniques)
	}
	if in.Record != nil {
		if err := in.Record.check(); err != nil {
			return err
		}
	}
	for _, id := range slices.Sorted(maps.Keys(in.Answers)) {
		if t.question(id) < 0 {
			return fault.New(fault.UnknownValue, "answers."+id, "There is no question %q.", id)
		}
	}
	for _, id := range slices.Sorted(maps.Keys(in.Confirmed)) {
		if t.cause(id) < 0 {
			return fault.New(fault.UnknownValue, "confirmed."+id, "There is no cause %q.", id)
		}
		if in.Confirmed[id] < 0 || in.Confirmed[id] > 1_000_000 {
			return fault.New(fault.OutOfRange, "confirmed."+id, "A count is from 0 to 1000000, not %d.", in.Confirmed[id])
		}
	}
	return nil
}

// facts are the questions that are answered, in the order of the table.
func (t *table) facts(in *DiagnoseIn, technique string) (out []Fact) {
	for i := range t.questions {
		id := t.questions[i].id
		if v, said := in.Answers[id]; said {
			out = append(out, Fact{id, v, "answer"})
			continue
		}
		rule := ruled[id]
		if in.Record == nil || rule == nil {
			continue
		}
		if v := rule(in.Record, technique); v != nil {
			out = append(out, Fact{id, *v, "record"})
		}
	}
	return out
}

// priors of the causes for a technique, with the studio's own confirmed cases.
func (t *table) priors(technique string, confirmed map[string]int) []float64 {
	p := make([]float64, len(t.causes))
	total, cases := 0.0, 0.0
	for i := range t.causes {
		c := &t.causes[i]
		p[i] = c.prior
		if technique != "" {
			factor, own := c.factors[technique]
			if !own {
				if factor, own = c.factors["*"]; !own {
					factor = 1
				}
			}
			p[i] *= factor
		}
		total += p[i]
		cases += float64(confirmed[c.id])
	}
	for i := range p {
		p[i] = (tableCases*p[i]/total + float64(confirmed[t.causes[i].id])) / (tableCases + cases)
	}
	return p
}

// shown is the share of a cause's cases that show a symptom.
func (c *cause) shown(symptom string) float64 {
	if s, listed := c.shows[symptom]; listed {
		return s
	}
	if c.id == somethingElse {
		return elseShows
	}
	return unlisted
}

// yes is the share of a cause's cases in which a question is answered so.
func (c *cause) yes(q *question) float64 {
	e, own := c.answers[q.id]
	if !own {
		e = q.base
	}
	return min(1-leastShare, max(leastShare, e))
}

// posterior by Bayes, in logarithms.
func (t *table) posterior(in *DiagnoseIn, technique string, facts []Fact) []float64 {
	p := t.priors(technique, in.Confirmed)
	for i := range p {
		c := &t.causes[i]
		l := math.Log(p[i])
		for _, s := range in.Symptoms {
			l += math.Log(c.shown(s))
		}
		for _, s := range in.Absent {
			l += math.Log(1 - c.shown(s))
		}
		for _, f := range facts {
			e := c.yes(&t.questions[t.question(f.ID)])
			if !f.Value {
				e = 1 - e
			}
			l += math.Log(e)
		}
		p[i] = l
	}
	most := slices.Max(p)
	for i := range p {
		p[i] = math.Exp(p[i] - most)
	}
	return normal(p)
}

func normal(p []float64) []float64 {
	total := 0.0
	for _, x := range p {
		total += x
	}
	for i := range p {
		p[i] /= total
	}
	return p
}

// bits of doubt (Shannon).
func bits(p []float64) (h float64) {
	for _, x := range p {
		if x > 0 {
			h -= x * math.Log2(x)
		}
	}
	return h
}

// compare is the rank of two causes: the likelier by steps, then the harmless, then the
// quick to check.
func (t *table) compare(p []float64, a, b int) int {
	x, y := &t.causes[a], &t.causes[b]
	step := func(v float64) float64 { return math.Floor(v/rankStep + 0.5) }
	fine := func(v float64) float64 { return math.Floor(v*1e9 + 0.5) }
	return cmp.Or(cmp.Compare(step(p[b]), step(p[a])), cmp.Compare(x.harm, y.harm), cmp.Compare(x.minutes, y.minutes), cmp.Compare(fine(p[b]), fine(p[a])), cmp.Compare(a, b))
}

func (t *table) ranked(p []float64) []int {
	order := make([]int, len(p))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int { return t.compare(p, a, b) })
	return order
}

func (t *table) first(p []float64) string {
	best := 0
	for i := range p {
		if t.compare(p, i, best) < 0 {
			best = i
		}
	}
	return t.causes[best].id
}

// ask is the question that tells the causes best apart, or nil.
func (t *table) ask(p []float64, facts []Fact) *Ask {
	h := bits(p)
	if slices.Max(p) >= noAskFrom {
		return nil
	}
	var all []Ask
	for i := range t.questions {
		q := &t.questions[i]
		known := slices.ContainsFunc(facts, func(f Fact) bool { return f.ID == q.id })
		if known || q.spoils && h < spoilsFrom {
			continue
		}
		yes, no := make([]float64, len(p)), make([]float64, len(p))
		share := 0.0
		for c := range p {
			e := t.causes[c].yes(q)
			yes[c], no[c] = p[c]*e, p[c]*(1-e)
			share += yes[c]
		}
		yes, no = normal(yes), normal(no)
		a := Ask{ID: q.id, Says: q.says, Minutes: q.minutes, Spoils: q.spoils, GainBits: h - share*bits(yes) - (1-share)*bits(no), IfYes: t.first(yes), IfNo: t.first(no)}
		if a.Turns = a.IfYes != a.IfNo; a.GainBits >= leastGain {
			all = append(all, a)
		}
	}
	if slices.ContainsFunc(all, func(a Ask) bool { return a.Turns }) {
		all = slices.DeleteFunc(all, func(a Ask) bool { return !a.Turns })
	}
	if len(all) == 0 {
		return nil
	}
	greatest := slices.MaxFunc(all, func(a, b Ask) int { return cmp.Compare(a.GainBits, b.GainBits) }).GainBits
	all = slices.DeleteFunc(all, func(a Ask) bool { return a.GainBits < greatest-leastGain })
	best := &all[0]
	for i := range all {
		a := &all[i]
		if a.Minutes < best.Minutes-equalMinutes || math.Abs(a.Minutes-best.Minutes) <= equalMinutes && a.GainBits > best.GainBits {
			best = a
		}
	}
	return best
}

// SymptomsIn asks what may be seen, for one technique or for all.
type SymptomsIn struct {
	Technique *string `json:"technique"`
}

// SymptomsOut are the symptoms, those to be expected first at the head.
type SymptomsOut struct {
	Symptoms []Symptom `json:"symptoms"`
}

// Symptom is something that may be seen, where to look for it, and how often a fault of
// this technique shows it.
type Symptom struct {
	Symptom string  `json:"symptom"`
	Says    string  `json:"says"`
	Look    string  `json:"look"`
	Share   float64 `json:"share"`
}

// Symptoms lists what may be seen. Errors are *fault.Fault.
func Symptoms(in SymptomsIn) (SymptomsOut, error) {
	technique := ""
	if in.Technique != nil {
		if technique = *in.Technique; !isTechnique(technique) {
			return SymptomsOut{}, fault.New(fault.UnknownValue, "technique", "There is no technique %q: T1 to T%d.", technique, techniques)
		}
	}
	p := ours.priors(technique, nil)
	out := SymptomsOut{Symptoms: []Symptom{}}
	for _, s := range ours.symptoms {
		share := 0.0
		for i := range p {
			share += p[i] * ours.causes[i].shown(s.id)
		}
		out.Symptoms = append(out.Symptoms, Symptom{s.id, s.says, s.look, share})
	}
	slices.SortStableFunc(out.Symptoms, func(a, b Symptom) int { return cmp.Compare(b.Share, a.Share) })
	return out, nil
}
