// Package mending is what to do when something went wrong: from what is seen, and from what
// the batch knows of itself, to the likely cause, what to do now and what to change.
package mending

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/rescue"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Mending is the use cases of what went wrong.
type Mending struct{ *plan.Planning }

// Asked is what is known so far: where it was seen, what was and was not, and what questions
// were answered.
type Asked struct {
	Op        string          `json:"op,omitempty" doc:"a step of the batch"`
	Technique string          `json:"technique,omitempty" doc:"without a batch: how it is made"`
	Seen      []string        `json:"seen,omitempty"`
	Absent    []string        `json:"absent,omitempty"`
	Answers   map[string]bool `json:"answers,omitempty"`
}

// RescueView is what Rescue shows.
type RescueView struct {
	About      RescueAbout    `json:"about"`
	Techniques []read.Option  `json:"techniques" doc:"to choose from, where no batch says it"`
	Symptoms   []SymptomView  `json:"symptoms" doc:"those to be expected first at the head"`
	Causes     []CauseView    `json:"causes"`
	Sure       bool           `json:"sure"`
	Apart      bool           `json:"apart" doc:"no one cause explains all of it"`
	BatchWide  string         `json:"batchWide"`
	Facts      []FactView     `json:"facts" doc:"what counted"`
	Ask        *AskView       `json:"ask,omitempty"`
	Cautions   []string       `json:"cautions"`
	Batches    []BatchToMend  `json:"batches" doc:"what is on the bench and on the shelf, to begin from"`
	Confirmed  []ConfirmedRow `json:"confirmed" doc:"what was confirmed lately"`
}

// RescueAbout is the batch that it is seen of.
type RescueAbout struct {
	Op        string `json:"op"`
	Name      string `json:"name"`
	Step      string `json:"step"`
	OrderID   int64  `json:"orderId"`
	PieceID   int64  `json:"pieceId"`
	Technique string `json:"technique"`
	Made      string `json:"made" doc:"how it is made, in words"`
}

// BatchToMend is a batch somebody may come from.
type BatchToMend struct {
	Op   string `json:"op"`
	Says string `json:"says"`
}

// ConfirmedRow is a cause that was confirmed.
type ConfirmedRow struct {
	When string `json:"when"`
	Name string `json:"name"`
	Says string `json:"says"`
}

// SymptomView is something that may be seen.
type SymptomView struct {
	Code    string `json:"code"`
	Says    string `json:"says"`
	Look    string `json:"look"`
	Seen    bool   `json:"seen"`
	Absent  bool   `json:"absent"`
	Likely  bool   `json:"likely" doc:"to be expected of this way of making"`
	Percent int    `json:"percent"`
}

// CauseView is a likely cause, what to do now and what to change.
type CauseView struct {
	Code    string       `json:"code"`
	Says    string       `json:"says"`
	How     string       `json:"how" enum:"likely,possible,less likely"`
	Harm    string       `json:"harm"`
	Check   string       `json:"check"`
	Now     string       `json:"now"`
	Next    string       `json:"next"`
	Changes []ChangeView `json:"changes"`
	Why     *noun.Why    `json:"why"`
}

// ChangeView is a change that is offered: pressed, it is kept where it belongs.
type ChangeView struct {
	At     int    `json:"at"`
	Says   string `json:"says"`
	Where  string `json:"where" doc:"where it belongs, in words"`
	Does   string `json:"does" doc:"what a press does"`
	Target string `json:"target"`
}

// FactView is something that counted.
type FactView struct {
	Code  string `json:"code"`
	Says  string `json:"says"`
	Value bool   `json:"value"`
	From  string `json:"from" enum:"record,answer"`
}

// AskView is the question that would tell most.
type AskView struct {
	Code    string `json:"code"`
	Says    string `json:"says"`
	Takes   string `json:"takes"`
	Spoils  bool   `json:"spoils"`
	IfYes   string `json:"ifYes"`
	IfNo    string `json:"ifNo"`
	Decides bool   `json:"decides" doc:"its answer turns the cause"`
}

// harmSays is how much harm a rescue does, in words.
var harmSays = []string{"harmless to try", "costs a little", "may cost the piece", "costs the batch"}

// targetSays are where changes belong.
var targetSays = map[string]string{"plan": "at the step", "dose": "at the paste", "paste": "at the paste", "mould": "with the mould", "habit": "as a habit", "room": "at the room", "record": "in the notebook"}

// found is a case with its piece, where it has one.
type found struct {
	about RescueAbout
	b     *work.Means
	w     *work.Reckoned
	in    rescue.DiagnoseIn
}

// Read answers what is known so far.
func (s *Mending) Read(ctx context.Context, slug string, asked Asked) (out RescueView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		f, err := about(tx, k, now, asked)
		if err != nil {
			return err
		}
		if err := f.view(tx, k, now, asked, &out); err != nil {
			return err
		}
		return f.begin(tx, k, now, asked, &out)
	})
	return out, err
}

// about finds the batch, and what its record knows.
func about(tx journal.Tx, k *noun.Kitchen, now time.Time, asked Asked) (*found, error) {
	f := &found{in: rescue.DiagnoseIn{Symptoms: asked.Seen, Absent: asked.Absent, Answers: asked.Answers, Top: new(5)}}
	code := asked.Technique
	if asked.Op != "" {
		st, err := tx.Step(asked.Op)
		if err != nil {
			return nil, err
		}
		f.about = RescueAbout{Op: st.Op, Name: st.Planned.Name, Step: work.VerbSay(st.Kind), OrderID: st.CommissionID}
		if st.PieceID != nil {
			f.about.PieceID = *st.PieceID
			if err := f.record(tx, k, now, &st); err != nil {
				return nil, err
			}
			if f.w != nil && f.w.Way != nil {
				code = work.TechniqueCode(f.w.Way)
				f.about.Made = work.NameOf(read.Reader{K: k}, f.w.Way.Names)
			}
		}
	}
	if rescue.Knows(code) {
		f.in.Technique, f.about.Technique = &code, code
	}
	if f.in.Technique != nil {
		confirmed, err := tx.Causes(code)
		if err != nil {
			return nil, err
		}
		maps.DeleteFunc(confirmed, func(c string, _ int) bool { return !rescue.KnowsCause(c) })
		f.in.Confirmed = confirmed
	}
	return f, nil
}

func (f *found) record(tx journal.Tx, k *noun.Kitchen, now time.Time, st *noun.Step) error {
	b, c, ps, err := plan.GatherOne(tx, k, now, st.CommissionID)
	if err != nil {
		return err
	}
	mine, err := tx.Steps(st.CommissionID)
	if err != nil {
		return err
	}
	mine = work.Derived(mine, k, now)
	for i := range ps {
		if ps[i].ID == *st.PieceID {
			f.b, f.w = b, b.Work(&c, &ps[i])
			r := b.RecordOf(f.w, st, mine)
			f.in.Record = &r
		}
	}
	return nil
}

// view is what follows from it.
func (f *found) view(_ journal.Tx, k *noun.Kitchen, _ time.Time, asked Asked, out *RescueView) error {
	r := read.Reader{K: k}
	*out = RescueView{About: f.about, Techniques: []read.Option{}, Symptoms: []SymptomView{}, Causes: []CauseView{}, Facts: []FactView{}, Cautions: []string{}, Batches: []BatchToMend{}, Confirmed: []ConfirmedRow{}}
	all, err := rescue.Symptoms(rescue.SymptomsIn{Technique: f.in.Technique})
	if err != nil {
		return err
	}
	for i, s := range all.Symptoms {
		out.Symptoms = append(out.Symptoms, SymptomView{Code: s.Symptom, Says: r.Say(read.UpperFirst(s.Says)), Look: r.Say(s.Look), Seen: slices.Contains(asked.Seen, s.Symptom), Absent: slices.Contains(asked.Absent, s.Symptom), Likely: f.in.Technique != nil && i < likelyShown, Percent: int(s.Share*100 + 0.5)})
	}
	if len(asked.Seen) == 0 {
		return nil
	}
	d, err := rescue.Diagnose(f.in)
	if err != nil {
		return err
	}
	out.Sure, out.Apart = d.Sure, d.Apart
	for _, c := range d.Causes {
		x := CauseView{Code: c.Cause, Says: r.Say(read.UpperFirst(c.Says)), Why: whyOf(&c, &d), How: how(c.Probability), Harm: harmSays[c.Harm], Check: "looked at in " + minutesSay(c.CheckMinutes), Now: r.Say(read.UpperFirst(c.Rescue)), Next: r.Say(read.UpperFirst(c.Next)), Changes: []ChangeView{}}
		for i, ch := range c.Changes {
			y := ChangeView{At: i, Says: r.Say(read.UpperFirst(ch.Change)), Where: targetSays[ch.Target], Target: ch.Target, Does: "Remember it"}
			if f.w != nil && len(setsOf(ch, f.w)) > 0 {
				y.Does = "Change it for this piece"
			}
			x.Changes = append(x.Changes, y)
		}
		out.Causes = append(out.Causes, x)
	}
	for _, x := range d.Facts {
		out.Facts = append(out.Facts, FactView{Code: x.ID, Says: r.Say(rescue.Question(x.ID)), Value: x.Value, From: x.From})
	}
	if d.BatchWide != nil && *d.BatchWide {
		out.BatchWide = "More than one in seven broke: look for the fault in the method, not in the hand."
	}
	if a := d.Ask; a != nil {
		out.Ask = &AskView{Code: a.ID, Says: r.Say(a.Says), Takes: minutesSay(a.Minutes), Spoils: a.Spoils, IfYes: r.Say(rescue.CauseSays(a.IfYes)), IfNo: r.Say(rescue.CauseSays(a.IfNo)), Decides: a.Turns}
	}
	f.cautions(r, out)
	return nil
}

// likelyShown are how many symptoms stand at the head.
const likelyShown = 9

func how(p float64) string {
	switch {
	case p >= 0.5:
		return "likely"
	case p >= 0.15:
		return "possible"
	}
	return "less likely"
}

// whyOf is how a likelihood came about.
func whyOf(c *rescue.Cause, d *rescue.DiagnoseOut) *noun.Why {
	return &noun.Why{Rule: "Usual pattern, not measured: shares of cases that show what was seen, with what the batch knows and what was answered (Bayes). Causes that you confirm count in their place.",
		Formula: "weight for this way of making × share that shows it × share of each fact, over all causes", Values: []noun.Named{{Name: "this cause", Text: fmt.Sprintf("%.0f %%", c.Probability*100)}, {Name: "doubt left", Text: read.Trimmed(d.Bits, 1) + " bits"}, {Name: "facts that counted", Text: fmt.Sprint(len(d.Facts))}}}
}

func minutesSay(m float64) string {
	if m < 1 {
		return fmt.Sprintf("%d s", int(m*60+0.5))
	}
	return read.SayMinutes(read.UpMinutes(m))
}

// cautions are those of what a rescue of this way of making handles.
func (f *found) cautions(r read.Reader, out *RescueView) {
	in := caution.CautionsIn{ShownOn: new("step")}
	if f.in.Technique != nil {
		in.Techniques = []string{*f.in.Technique}
	}
	for _, c := range out.Causes[:min(3, len(out.Causes))] {
		text := strings.ToLower(c.Now + " " + c.Next)
		for word, brings := range map[string]string{"freez": "freezer", "knife": "blade", "blade": "blade", "burst": "microwave", "steam": "steam", "spirit": "spirit", "wire": "wire", "syrup": "hotSugar"} {
			if strings.Contains(text, word) && !slices.Contains(in.Words, brings) {
				in.Words = append(in.Words, brings)
			}
		}
	}
	all, err := caution.Cautions(in)
	if err != nil {
		return
	}
	for _, p := range all.Cautions {
		out.Cautions = append(out.Cautions, r.Say(p.Says))
	}
}

// confirmedShown are how many causes stand there that were found lately.
const confirmedShown = 6

// mostBegun are how many steps are looked at for batches to begin from.
const mostBegun = 60

// begin is what somebody can come from, when nothing was said yet.
func (f *found) begin(tx journal.Tx, k *noun.Kitchen, now time.Time, asked Asked, out *RescueView) error {
	if asked.Op == "" {
		lib, err := tx.Library()
		if err != nil {
			return err
		}
		for _, t := range lib.All() {
			if code := work.TechniqueCode(t); t.From == "" && rescue.Knows(code) {
				out.Techniques = append(out.Techniques, read.Option{Code: code, Say: work.NameOf(read.Reader{K: k}, t.Names)})
			}
		}
		slices.SortFunc(out.Techniques, func(a, b read.Option) int { return cmp.Compare(a.Say, b.Say) })
	}
	if asked.Op != "" {
		return nil
	}
	near, err1 := tx.StepsNear(mostBegun)
	done, err2 := tx.StepsDone(mostBegun)
	if err := errors.Join(err1, err2); err != nil {
		return err
	}
	seen := map[string]bool{}
	for _, st := range work.Derived(slices.Concat(near, done), k, now) {
		batch := noun.BatchOf(st.Op)
		if st.PieceID == nil || st.ActualStart == nil || seen[batch] || strings.HasSuffix(batch, fmt.Sprintf(".%d", noun.JoinNo)) {
			continue
		}
		seen[batch] = true
		out.Batches = append(out.Batches, BatchToMend{st.Op, fmt.Sprintf("%s: %s", st.Planned.Name, work.VerbSay(st.Kind))})
	}
	notes, err := tx.CausesLately(confirmedShown)
	if err != nil {
		return err
	}
	for _, n := range notes {
		out.Confirmed = append(out.Confirmed, ConfirmedRow{read.Reader{K: k}.Time(n.At, now), n.Name, n.Says})
	}
	return nil
}
