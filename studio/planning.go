package studio

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
)

func meets(allergens []string, c *Commission) []string {
	return caution.Meets(allergens, c.Allergies, c.NoGelatine)
}

// replan makes the one plan anew when an input or a fact has changed, or a
// planned start has passed unmarked. A plan that cannot be made is kept as a
// sentence; it never stands in the way of a change.
func (s *Service) replan(tx Tx, k *Kitchen, now time.Time) error {
	cs, err := tx.Commissions()
	if err != nil {
		return err
	}
	ps, err := tx.Pieces(0)
	if err != nil {
		return err
	}
	steps, err := tx.Steps(0)
	if err != nil {
		return err
	}
	if err := beginWaits(tx, steps, now); err != nil {
		return err
	}
	b, err := s.bench(tx, k, now)
	if err != nil {
		return err
	}
	l, err := b.instance(cs, ps, steps)
	if err != nil {
		return err
	}
	hash := l.hash()
	old := tx.Plan()
	passed := slices.ContainsFunc(steps, func(st Step) bool {
		return st.ActualStart == nil && st.PlannedStart.Before(now.Truncate(time.Minute))
	})
	if old != nil && old.Hash == hash && !passed {
		return nil
	}
	plan := Plan{Hash: hash, MadeAt: now, Summary: Summary{Fits: true, Chain: []string{}, Late: []LateLine{}, LeftOut: l.leftOut, Windows: []OpenWindow{}}}
	var planned []Step
	if len(l.in.Batches) > 0 {
		made, err := bench.Build(bench.BuildIn{Instance: &l.in})
		if noPlace(err) && l.dropFreshness() {
			made, err = bench.Build(bench.BuildIn{Instance: &l.in})
			plan.Summary.Trouble = fmt.Sprintf("Not everything fits into the %s days that eaten pieces stay fresh: some are planned earlier.", trimmed(k.FreshDays, 1))
		}
		if noPlace(err) && l.dropOpenTimes() {
			made, err = bench.Build(bench.BuildIn{Instance: &l.in})
			plan.Summary.Trouble = "A piece that is made already waits longer than it should: cover it, check it, or make it again."
		}
		if err != nil {
			plan.Summary.Fits, plan.Summary.Trouble = false, l.trouble(err)
		} else {
			planned = l.stand(&made, &plan.Summary)
		}
	}
	if err := tx.ReplacePlanned(planned); err != nil {
		return err
	}
	return tx.SavePlan(&plan)
}

func noPlace(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && f.Code == bench.NoPlace
}

// dropOpenTimes gives up the longest waits after what has happened already.
func (l *liner) dropOpenTimes() bool {
	any := false
	for i := range l.in.Lags {
		g := &l.in.Lags[i]
		if _, begun := l.facts[g.From]; begun && g.Max != nil {
			g.Max, any = nil, true
		}
	}
	return any
}

// dropFreshness gives up the longest age of eaten pieces, where it leaves no
// place at all.
func (l *liner) dropFreshness() bool {
	any := false
	for i := range l.in.Batches {
		any = any || l.in.Batches[i].FreshMinutes != nil
		l.in.Batches[i].FreshMinutes = nil
	}
	return any
}

// beginWaits lets a wait begin that follows another wait which is over: hands
// have nothing to do with it.
func beginWaits(tx Tx, steps []Step, now time.Time) error {
	for range 3 {
		for i := range steps {
			st := &steps[i]
			if st.Attended || st.ActualStart != nil {
				continue
			}
			for _, before := range steps {
				if before.Attended || before.Planned.After != st.Op || before.ActualStart == nil {
					continue
				}
				over := before.PlannedEnd
				if before.ActualEnd != nil {
					over = *before.ActualEnd
				}
				if over.After(now) {
					continue
				}
				length := st.PlannedEnd.Sub(st.PlannedStart)
				st.ActualStart, st.PlannedStart, st.PlannedEnd = &over, over, over.Add(length)
				if err := tx.SaveStep(st); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// trouble puts a refused plan into the reader's words: titles for step names.
func (l *liner) trouble(err error) string {
	say := sentence(err)
	for id, st := range l.steps {
		say = strings.ReplaceAll(say, "\""+id+"\"", "\""+st.Title+"\"")
	}
	return say
}

// named replaces step ids by what the steps are called.
func (l *liner) named(say string) string {
	ids := slices.Clone(l.order)
	slices.SortFunc(ids, func(a, b string) int { return len(b) - len(a) })
	for _, id := range ids {
		if strings.Contains(say, id) {
			say = strings.ReplaceAll(say, id, lowerFirst(l.steps[id].Title))
		}
	}
	for _, r := range l.in.Resources {
		if id, ok := strings.CutPrefix(r.ID, "mould"); ok && r.Kind == "mould" {
			n, _ := strconv.ParseInt(id, 10, 64)
			if m := l.b.tools[n]; m != nil {
				say = strings.ReplaceAll(say, "All of "+r.ID, "Every copy of "+m.Name)
			}
		}
	}
	return upperFirst(strings.NewReplacer("All of freezer", "The whole freezer", "All of tray", "Every tray").Replace(say))
}

func lowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// stand writes the plan into the steps and tells what decides.
func (l *liner) stand(p *bench.Plan, sum *Summary) []Step {
	zone := l.b.now.Location()
	at := func(text string) time.Time {
		t, _ := time.Parse(time.RFC3339, text)
		return t.In(zone)
	}
	sum.Fits = p.Feasible
	if p.StartBy != "" {
		sum.StartBy = new(at(p.StartBy))
	}
	sum.Chain = p.CriticalChain
	for _, late := range p.Late {
		id, _ := strconv.ParseInt(strings.TrimPrefix(late.Commission, "c"), 10, 64)
		sum.Late = append(sum.Late, LateLine{id, late.Minutes, l.named(late.By)})
	}
	least := -1
	used := map[string]bool{}
	after := map[string]string{}
	for _, g := range l.in.Lags {
		if after[g.From] == "" {
			after[g.From] = g.To
		}
	}
	var out []Step
	for _, o := range p.Ops {
		st := l.steps[o.Op]
		if o.State != "planned" {
			continue
		}
		st.PlannedStart, st.PlannedEnd = at(o.Start), at(o.End)
		st.Planned.Window, st.Planned.Hands, st.Planned.CleanDown, st.Planned.SlackMin, st.Planned.Latest = o.Window, o.Hands, o.CleanDown, o.Slack, o.LatestStart
		if st.Planned.Hands == nil {
			st.Planned.Hands = []int{}
		}
		st.Planned.NotLater, st.Planned.NotEarlier = l.named(o.NotLater.Say), l.named(o.NotEarlier.Say)
		st.Planned.Decides = slices.Contains(p.CriticalChain, o.Op)
		st.Planned.After = after[o.Op]
		st.Planned.Minutes = int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		used[o.Window] = true
		if least < 0 || o.Slack < least {
			least = o.Slack
		}
		st.Version = 1
		out = append(out, *st)
	}
	sum.SlackMin = max(0, least)
	for _, w := range l.windows {
		if used[w.id] {
			sum.Windows = append(sum.Windows, OpenWindow{w.start, w.end})
		}
	}
	return out
}

// frond is the progress of a commission, a leaflet for each piece in order.
func frond(ps []Piece, steps []Step, now time.Time) []Leaf {
	out := []Leaf{}
	for i := range ps {
		p := &ps[i]
		if p.DeletedAt != nil {
			continue
		}
		l := Leaf{Name: p.Name, Swatch: p.Swatch, State: "curled", Says: "not begun"}
		var begun, made, dry, parts, placed int
		share := 0.0
		for _, s := range steps {
			if s.Kind == "putOn" && s.CommissionID == p.CommissionID && s.ActualEnd != nil {
				placed++
			}
			if s.PieceID == nil || *s.PieceID != p.ID {
				continue
			}
			switch s.Kind {
			case "press":
				parts++
				if s.ActualEnd != nil {
					made++
				}
				if s.ActualStart != nil {
					begun++
				}
			case "knead":
				if s.ActualStart != nil {
					begun++
				}
			case "dry":
				if s.ActualStart != nil {
					until := s.PlannedEnd
					if s.ActualEnd != nil {
						until = *s.ActualEnd
					}
					f := 1.0
					if until.After(now) && until.After(*s.ActualStart) {
						f = now.Sub(*s.ActualStart).Minutes() / until.Sub(*s.ActualStart).Minutes()
					}
					share += f
					if f >= 1 {
						dry++
					}
				}
			}
		}
		switch {
		case placed > 0:
			l.State, l.Says, l.Share = "placed", "on the cake", 1
		case parts > 0 && dry == parts:
			l.State, l.Says, l.Share = "firm", "firm", 1
		case made > 0 && share > 0:
			l.State, l.Share = "drying", share/float64(max(1, parts))
			l.Says = fmt.Sprintf("drying, %.0f %% of its time", l.Share*100)
		case begun > 0:
			l.State, l.Says = "open", "being made"
		}
		out = append(out, l)
	}
	return out
}

// nextSay is the next step of a commission in words.
func nextSay(steps []Step, commission int64, now time.Time) string {
	for _, s := range steps {
		if s.CommissionID == commission && s.ActualEnd == nil && s.Attended {
			if s.ActualStart == nil {
				return s.Title + ", " + SayTime(s.PlannedStart, now)
			}
			return s.Title
		}
	}
	return ""
}

// trouble of a commission: late by how much, or what is missing.
func troubleSay(c *Commission, plan *Plan, now time.Time) string {
	if plan == nil || c.State != "open" {
		return ""
	}
	for _, l := range plan.Summary.Late {
		if l.CommissionID == c.ID {
			return fmt.Sprintf("Late by %s. %s", SayMinutes(l.Minutes), l.By)
		}
	}
	for _, l := range plan.Summary.LeftOut {
		if l.CommissionID == c.ID {
			return l.Say
		}
	}
	if plan.Summary.Trouble != "" {
		return plan.Summary.Trouble
	}
	if c.HandOver != nil && c.HandOver.Before(now) {
		return "The hand-over is over: hand it over, or say a new date."
	}
	return ""
}

// beginBy is the latest start of what is not begun.
func beginBy(steps []Step, commission int64, now time.Time) (time.Time, bool) {
	var first time.Time
	for _, s := range steps {
		if s.CommissionID != commission || s.ActualStart != nil || s.Planned.Latest == "" {
			continue
		}
		if t, err := time.Parse(time.RFC3339, s.Planned.Latest); err == nil && (first.IsZero() || t.Before(first)) {
			first = t.In(now.Location())
		}
	}
	return first, !first.IsZero()
}

// Commissions lists what needs a hand first: the earliest "begin by", then the
// earliest hand-over; then what lies aside, then what is done.
func (s *Service) Commissions(ctx context.Context, slug string) (out []CommissionRow, err error) {
	out = []CommissionRow{}
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := s.replan(tx, k, now); err != nil {
			return err
		}
		cs, err := tx.Commissions()
		if err != nil {
			return err
		}
		ps, err := tx.Pieces(0)
		if err != nil {
			return err
		}
		steps, err := tx.Steps(0)
		if err != nil {
			return err
		}
		type keyed struct {
			row    CommissionRow
			group  int
			when   time.Time
			second time.Time
		}
		var rows []keyed
		far := now.AddDate(50, 0, 0)
		for i := range cs {
			c := &cs[i]
			if c.DeletedAt != nil {
				continue
			}
			r := keyed{row: CommissionRow{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Next: nextSay(steps, c.ID, now), Trouble: troubleSay(c, tx.Plan(), now)},
				group: map[string]int{"open": 0, "aside": 1, "handedOver": 2}[c.State], when: far, second: far}
			if c.HandOver != nil {
				r.row.HandOver, r.row.In = SayDate(*c.HandOver, now), SayWhen(*c.HandOver, now)
				r.when, r.second = *c.HandOver, *c.HandOver
			}
			if t, ok := beginBy(steps, c.ID, now); ok {
				r.row.BeginBy = SayTime(t, now)
				r.when = t
			}
			var mine []Piece
			for _, p := range ps {
				if p.CommissionID == c.ID {
					mine = append(mine, p)
				}
			}
			r.row.Frond = frond(mine, steps, now)
			if c.State == "handedOver" {
				for j := range r.row.Frond {
					r.row.Frond[j].State, r.row.Frond[j].Says = "placed", "handed over"
				}
			}
			rows = append(rows, r)
		}
		slices.SortStableFunc(rows, func(a, b keyed) int {
			if a.group != b.group {
				return a.group - b.group
			}
			if a.group == 2 {
				return b.second.Compare(a.second)
			}
			if c := a.when.Compare(b.when); c != 0 {
				return c
			}
			return a.second.Compare(b.second)
		})
		for _, r := range rows {
			out = append(out, r.row)
		}
		return nil
	})
	return out, err
}

// Commission shows one commission with everything that follows from it.
func (s *Service) Commission(ctx context.Context, slug string, id int64) (out CommissionView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		c, err := tx.Commission(id)
		if err != nil {
			return err
		}
		if c.DeletedAt != nil {
			return ErrNotFound
		}
		ps, err := tx.Pieces(id)
		if err != nil {
			return err
		}
		steps, err := tx.Steps(id)
		if err != nil {
			return err
		}
		b, err := s.bench(tx, k, now)
		if err != nil {
			return err
		}
		out = b.commission(&c, ps, steps, tx.Plan())
		return nil
	})
	return out, err
}

func (b *benchOf) commission(c *Commission, ps []Piece, steps []Step, plan *Plan) CommissionView {
	v := CommissionView{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Fields: views(commissionFields, b.r, c, b.now),
		Next: nextSay(steps, c.ID, b.now), Trouble: troubleSay(c, plan, b.now), Frond: frond(ps, steps, b.now), Pieces: []PieceView{},
		Cautions: caution.Brief(caution.Case{Children: c.Children, NoAlcohol: c.NoAlcohol, NoGelatine: c.NoGelatine, Allergies: c.Allergies})}
	if v.Cautions == nil {
		v.Cautions = []caution.Caution{}
	}
	if c.HandOver != nil {
		v.HandOver, v.In = SayDate(*c.HandOver, b.now), SayWhen(*c.HandOver, b.now)
	}
	if t, ok := beginBy(steps, c.ID, b.now); ok {
		v.BeginBy = SayTime(t, b.now)
	}
	v.Says = c.says(b.r)
	pasteOK, makeOK, dryOK := true, true, true
	for i := range ps {
		if ps[i].DeletedAt != nil {
			continue
		}
		w := b.work(c, &ps[i])
		v.Pieces = append(v.Pieces, w.view)
		pasteOK = pasteOK && (w.strength > 0 || ps[i].Dough != "") && w.view.Paste != nil && w.view.Paste.Short == ""
		makeOK = makeOK && w.view.Make != nil && !ps[i].TrialEstimate && (ps[i].TrialG != nil || w.mould != nil && w.mould.WeighedG != nil)
		dryOK = dryOK && w.view.Dry != nil && w.never == "" && len(w.view.Dry.Stages) > 0
	}
	any := len(v.Pieces) > 0
	v.Stages = []StageMark{{1, "brief", "Brief", c.HandOver != nil}, {2, "pieces", "Pieces", any && !slices.ContainsFunc(v.Pieces, func(p PieceView) bool { return p.Missing != "" })},
		{3, "paste", "Paste", any && pasteOK}, {5, "make", "Make", any && makeOK}, {6, "dry", "Dry", any && dryOK}}
	return v
}

// says what the commission goes on, in a few words.
func (c *Commission) says(r reader) string {
	var parts []string
	switch c.Carrier {
	case "tiers":
		if n := len(c.Tiers); n > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", n, map[bool]string{true: "tier", false: "tiers"}[n == 1]))
		}
	case "smallCakes":
		if c.Count != nil {
			parts = append(parts, fmt.Sprintf("%d small cakes", *c.Count))
		}
	case "biscuits":
		if c.Count != nil {
			parts = append(parts, r.say(fmt.Sprintf("%d biscuits", *c.Count)))
		}
	}
	if c.Guests != "" {
		parts = append(parts, c.Guests)
	}
	return strings.Join(parts, ", ")
}

// --- the line and the bench

// LineView is the one plan: every step with its times, and what decides.
type LineView struct {
	Fits     bool              `json:"fits"`
	Trouble  string            `json:"trouble"`
	StartBy  string            `json:"startBy"`
	Slack    string            `json:"slack"`
	Says     string            `json:"says"`
	Decides  []string          `json:"decides"`
	Late     []string          `json:"late"`
	LeftOut  []string          `json:"leftOut"`
	Rows     []LineRow         `json:"rows"`
	Sessions []Session         `json:"sessions"`
	Now      time.Time         `json:"now"`
	NowSays  string            `json:"nowSays"`
	Cautions []caution.Caution `json:"cautions"`
}

// LineRow is the steps of one commission.
type LineRow struct {
	CommissionID int64      `json:"commissionId"`
	Title        string     `json:"title"`
	HandOver     time.Time  `json:"handOver"`
	HandOverSays string     `json:"handOverSays"`
	Steps        []LineStep `json:"steps"`
}

// Session is a stretch at the bench, or the fold between two.
type Session struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	Day   string    `json:"day"`
	From  string    `json:"from"`
}

// LineStep is a step with its times in words.
type LineStep struct {
	Step
	StartSays  string    `json:"startSays"`
	EndSays    string    `json:"endSays"`
	LengthSays string    `json:"lengthSays"`
	DoneSays   string    `json:"doneSays"`
	Commission string    `json:"commission"`
	Piece      string    `json:"piece"`
	Start      time.Time `json:"start"`
	End        time.Time `json:"end"`
}

func lineStep(st Step, title, piece string, now time.Time) LineStep {
	l := LineStep{Step: st, Commission: title, Piece: piece, Start: st.PlannedStart.In(now.Location()), End: st.PlannedEnd.In(now.Location())}
	if st.ActualStart != nil {
		l.Start = *st.ActualStart
	}
	if st.ActualEnd != nil {
		l.End = *st.ActualEnd
		l.DoneSays = "done " + SayTime(*st.ActualEnd, now)
	}
	l.StartSays, l.EndSays = SayTime(l.Start, now), SayTime(l.End, now)
	l.LengthSays = SayMinutes(max(0, int(l.End.Sub(l.Start)/time.Minute)))
	return l
}

// Line shows the plan; commission 0 is the whole of it.
func (s *Service) Line(ctx context.Context, slug string, commission int64) (out LineView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := s.replan(tx, k, now); err != nil {
			return err
		}
		out, err = s.line(tx, k, now, commission)
		return err
	})
	return out, err
}

func (s *Service) line(tx Tx, k *Kitchen, now time.Time, commission int64) (LineView, error) {
	out := LineView{Fits: true, Decides: []string{}, Late: []string{}, LeftOut: []string{}, Rows: []LineRow{}, Sessions: []Session{}, Now: now, NowSays: now.Format("Mon 15:04"), Cautions: caution.Bench()}
	cs, err := tx.Commissions()
	if err != nil {
		return out, err
	}
	steps, err := tx.Steps(commission)
	if err != nil {
		return out, err
	}
	ps, err := tx.Pieces(commission)
	if err != nil {
		return out, err
	}
	names := map[int64]string{}
	for _, p := range ps {
		names[p.ID] = p.Name
	}
	hands, batches := 0, map[string]bool{}
	for i := range cs {
		c := &cs[i]
		if c.State != "open" || c.DeletedAt != nil || commission != 0 && c.ID != commission {
			continue
		}
		row := LineRow{CommissionID: c.ID, Title: c.Title, Steps: []LineStep{}}
		if c.HandOver != nil {
			row.HandOver, row.HandOverSays = c.HandOver.In(now.Location()), SayDate(*c.HandOver, now)
		}
		for _, st := range steps {
			if st.CommissionID != c.ID {
				continue
			}
			piece := ""
			if st.PieceID != nil {
				piece = names[*st.PieceID]
			}
			row.Steps = append(row.Steps, lineStep(st, c.Title, piece, now))
			if st.Attended && st.ActualStart == nil {
				hands += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
			}
			if st.Kind == "press" {
				batches[st.Op] = true
			}
		}
		if len(row.Steps) > 0 {
			out.Rows = append(out.Rows, row)
		}
	}
	p := tx.Plan()
	if p == nil {
		return out, nil
	}
	sum := p.Summary
	out.Fits, out.Trouble = sum.Fits, sum.Trouble
	if sum.StartBy != nil {
		out.StartBy = SayTime(*sum.StartBy, now)
	}
	out.Slack = SayMinutes(sum.SlackMin)
	byOp := map[string]Step{}
	for _, st := range steps {
		byOp[st.Op] = st
	}
	for _, op := range sum.Chain {
		if st, ok := byOp[op]; ok {
			out.Decides = append(out.Decides, st.Title+", "+SayTime(st.PlannedStart, now))
		}
	}
	title := func(id int64) string {
		for _, c := range cs {
			if c.ID == id {
				return c.Title
			}
		}
		return ""
	}
	for _, l := range sum.Late {
		if commission == 0 || l.CommissionID == commission {
			out.Late = append(out.Late, fmt.Sprintf("%s is late by %s. %s", title(l.CommissionID), SayMinutes(l.Minutes), l.By))
		}
	}
	for _, l := range sum.LeftOut {
		if commission == 0 || l.CommissionID == commission {
			out.LeftOut = append(out.LeftOut, title(l.CommissionID)+": "+l.Say)
		}
	}
	for _, w := range sum.Windows {
		st := w.Start.In(now.Location())
		out.Sessions = append(out.Sessions, Session{st, w.End.In(now.Location()), st.Format("Mon 2"), st.Format("15:04")})
	}
	out.Says = fmt.Sprintf("%s, %s, %s of hands in %s", count(len(out.Rows), "commission"), count(len(batches), "batch"), SayMinutes(hands), count(len(sum.Windows), "session"))
	return out, nil
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "ch") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// BenchView is what to do now, what waits, and what comes after.
type BenchView struct {
	Heading  string            `json:"heading"`
	Until    string            `json:"until"`
	Room     string            `json:"room"`
	Now      *LineStep         `json:"now,omitempty"`
	Opens    string            `json:"opens" doc:"when the bench opens next, if there is nothing to do now"`
	Waiting  []WaitView        `json:"waiting"`
	Next     []LineStep        `json:"next"`
	Done     []LineStep        `json:"done"`
	Evening  []LineStep        `json:"evening"`
	Nothing  string            `json:"nothing"`
	Cautions []caution.Caution `json:"cautions"`
}

// WaitView is a wait that runs.
type WaitView struct {
	Title string  `json:"title"`
	Until string  `json:"until"`
	In    string  `json:"in"`
	Share float64 `json:"share"`
	Cord  string  `json:"cord"`
}

// Bench shows the bench: the step to do now is the first attended one that is
// not done.
func (s *Service) Bench(ctx context.Context, slug string) (out BenchView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := s.replan(tx, k, now); err != nil {
			return err
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
}

func (s *Service) benchNow(tx Tx, k *Kitchen, now time.Time) (BenchView, error) {
	out := BenchView{Heading: now.Format("Monday"), Room: reader{k}.temp(k.TempC) + ", " + trimmed(k.RHPercent, 0) + " %", Waiting: []WaitView{}, Next: []LineStep{}, Done: []LineStep{}, Evening: []LineStep{}, Cautions: caution.Bench()}
	switch h := now.Hour(); {
	case h < 12:
		out.Heading += " morning"
	case h < 18:
		out.Heading += " afternoon"
	default:
		out.Heading += " evening"
	}
	line, err := s.line(tx, k, now, 0)
	if err != nil {
		return out, err
	}
	var all []LineStep
	for _, r := range line.Rows {
		all = append(all, r.Steps...)
	}
	slices.SortStableFunc(all, func(a, b LineStep) int { return a.Start.Compare(b.Start) })
	for _, w := range k.openHours(now.Add(-24*time.Hour), now.AddDate(0, 0, 21)) {
		if w.start.After(now) || !w.end.After(now) {
			continue
		}
		out.Until = fmt.Sprintf("until %s, %s left", w.end.Format("15:04"), SayMinutes(int(w.end.Sub(now)/time.Minute)))
		if len(w.names) > 0 {
			out.Until += ", " + list(w.names)
		}
	}
	evening := ""
	for i := range all {
		st := &all[i]
		switch {
		case st.ActualEnd != nil && st.Attended:
			out.Done = append(out.Done, *st)
		case st.ActualStart != nil && !st.Attended && st.ActualEnd == nil && st.PlannedEnd.After(now):
			end := st.PlannedEnd
			share := 1.0
			if end.After(*st.ActualStart) {
				share = min(1, max(0, now.Sub(*st.ActualStart).Minutes()/end.Sub(*st.ActualStart).Minutes()))
			}
			out.Waiting = append(out.Waiting, WaitView{st.Title, SayTime(end, now), SayWhen(end, now), share, st.Planned.Cord})
		case st.Attended && st.ActualStart == nil:
			if evening == "" {
				evening = st.Planned.Window
			}
			if st.Planned.Window == evening {
				out.Evening = append(out.Evening, *st)
			}
			if out.Now == nil {
				out.Now = st
				if st.Start.After(now.Add(30 * time.Minute)) {
					out.Opens = SayTime(st.Start, now) + ", " + SayWhen(st.Start, now)
				}
			} else if len(out.Next) < 5 {
				out.Next = append(out.Next, *st)
			}
		}
	}
	if out.Now == nil {
		out.Nothing = "Nothing waits for your hands. Take an order, or look at the line."
		if line.Trouble != "" {
			out.Nothing = line.Trouble
		} else if len(line.LeftOut) > 0 {
			out.Nothing = line.LeftOut[0]
		}
	}
	return out, nil
}

// Finish marks a step done now, with its time. It names the step and its
// version: a repeat does nothing. The waits that follow it begin by themselves.
func (s *Service) Finish(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		if st.ActualEnd == nil && st.Version == version {
			if !st.Attended {
				return fault.New(fault.Contradiction, "op", "A wait ends by itself: finish the step before it.")
			}
			all, err := tx.Steps(st.CommissionID)
			if err != nil {
				return err
			}
			if err := finishable(&st, all); err != nil {
				return err
			}
			if err := finish(tx, &st, all, now); err != nil {
				return err
			}
			if err := s.replan(tx, k, now); err != nil {
				return err
			}
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
}

// finishable refuses a step whose own batch has an earlier one open.
func finishable(st *Step, all []Step) error {
	for _, o := range all {
		if o.Attended && o.ActualEnd == nil && o.Op != st.Op && o.Planned.After != "" && (o.Planned.After == st.Op || chainLeads(all, o.Planned.After, st.Op)) {
			return fault.New(fault.Contradiction, "op", "First: %s.", lowerFirst(o.Title))
		}
	}
	return nil
}

// chainLeads reports whether the waits after an op lead to another.
func chainLeads(all []Step, from, to string) bool {
	for range len(all) {
		i := slices.IndexFunc(all, func(s Step) bool { return s.Op == from })
		if i < 0 || all[i].Planned.After == "" {
			return false
		}
		from = all[i].Planned.After
		if from == to {
			return true
		}
	}
	return false
}

// finish writes the facts: the step, and the wait that begins with its end.
func finish(tx Tx, st *Step, all []Step, now time.Time) error {
	now = now.Truncate(time.Second)
	start := now
	if st.PlannedEnd.After(st.PlannedStart) {
		start = now.Add(-st.PlannedEnd.Sub(st.PlannedStart))
	}
	if st.PlannedStart.After(start) && st.PlannedStart.Before(now) {
		start = st.PlannedStart
	}
	// a step begins after what was finished before it in its own chain
	for _, o := range all {
		if o.Attended && o.ActualEnd != nil && o.Op != st.Op && (o.Planned.After == st.Op || chainLeads(all, o.Op, st.Op)) && o.ActualEnd.After(start) && !o.ActualEnd.After(now) {
			start = *o.ActualEnd
		}
	}
	st.ActualStart, st.ActualEnd = &start, &now
	if err := tx.SaveStep(st); err != nil {
		return err
	}
	// waits before it are over with it, the wait after it begins
	for i := range all {
		o := &all[i]
		if !o.Attended && o.ActualStart != nil && o.Planned.After == st.Op && (o.ActualEnd == nil || o.ActualEnd.After(start)) {
			over := start
			if o.PlannedEnd.Before(over) && !o.PlannedEnd.Before(*o.ActualStart) {
				over = o.PlannedEnd
			}
			if o.ActualStart.After(over) {
				over = *o.ActualStart
			}
			o.ActualEnd = &over
			if err := tx.SaveStep(o); err != nil {
				return err
			}
		}
	}
	i := slices.IndexFunc(all, func(o Step) bool { return o.Op == st.Planned.After })
	if i < 0 || all[i].Attended || all[i].ActualStart != nil {
		return nil
	}
	o := &all[i] // a wait after this one begins by itself when it is over
	length := o.PlannedEnd.Sub(o.PlannedStart)
	o.ActualStart, o.PlannedStart, o.PlannedEnd = &now, now, now.Add(length)
	if err := tx.SaveStep(o); err != nil {
		return err
	}
	return nil
}

// TakeBack takes the last finished step back, with the wait that it began.
func (s *Service) TakeBack(ctx context.Context, slug string) (out BenchView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		all, err := tx.Steps(0)
		if err != nil {
			return err
		}
		last := -1
		for i := range all {
			if all[i].Attended && all[i].ActualEnd != nil && (last < 0 || all[i].ActualEnd.After(*all[last].ActualEnd) ||
				all[i].ActualEnd.Equal(*all[last].ActualEnd) && all[i].PlannedStart.After(all[last].PlannedStart)) {
				last = i
			}
		}
		if last >= 0 {
			st := &all[last]
			for i := range all {
				if o := &all[i]; o.Op == st.Planned.After && !o.Attended && o.ActualStart != nil {
					o.ActualStart, o.ActualEnd = nil, nil
					if err := tx.SaveStep(o); err != nil {
						return err
					}
				}
			}
			st.ActualStart, st.ActualEnd = nil, nil
			if err := tx.SaveStep(st); err != nil {
				return err
			}
			if err := s.replan(tx, k, now); err != nil {
				return err
			}
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
}
