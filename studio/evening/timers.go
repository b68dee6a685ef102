package evening

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// TimerView is a running timer, of a piece its next moment; the browser counts down to
// Rings by the server's clock.
type TimerView struct {
	ID        string   `json:"id" doc:"its address"`
	Kind      string   `json:"kind"`
	Says      string   `json:"says" doc:"while it runs"`
	Rang      string   `json:"rang" doc:"when it rings"`
	Starts    int64    `json:"starts" doc:"ms since 1970, by the server's clock"`
	Rings     int64    `json:"rings" doc:"ms since 1970, by the server's clock"`
	RingsSays string   `json:"ringsSays"`
	Cord      string   `json:"cord"`
	Then      []Moment `json:"then" doc:"what comes after it for the same piece"`
}

// Moment is a later one of a piece.
type Moment struct {
	Kind  string `json:"kind"`
	Rings int64  `json:"rings"`
	Says  string `json:"says"`
}

// runs is what a clock says while it runs, with its hour.
var runs = map[string]string{"rest": "rests until", "dew": "turns matt until", "freezer": "in the freezer until", "open": "bend them before", "touch": "has a skin about", "lift": "holds its curve about", "cover": "still bends until about", "join": "firm about"}

// cords are how the wait of a clock is drawn.
var cords = map[string]string{"freezer": "freezer", "dew": "freezer", "touch": "drying", "lift": "drying", "cover": "drying", "join": "drying"}

// hourOf a clock in words: an estimate no finer than it is.
func hourOf(t *noun.Timer, r read.Reader, now time.Time) string {
	if cords[t.Kind] == "drying" {
		return r.About(t.RingsAt, t.StartsAt, now)
	}
	return r.Time(t.RingsAt, now)
}

func timerView(t *noun.Timer, r read.Reader, now time.Time) TimerView {
	v := TimerView{ID: t.Key(), Kind: t.Kind, Says: t.Says, Rang: t.Says, Starts: t.StartsAt.UnixMilli(), Rings: t.RingsAt.UnixMilli(), RingsSays: hourOf(t, r, now), Cord: cords[t.Kind], Then: []Moment{}}
	if say, ok := runs[t.Kind]; ok {
		v.Says = fmt.Sprintf("%s: %s %s", t.What, say, v.RingsSays)
	}
	if v.Cord == "" {
		v.Cord = "rest"
	}
	return v
}

// running are the clocks that run now, soonest first: one's own, and those that
// follow from steps.
func running(own []noun.Timer, steps []noun.Step, answers []noun.Timer) []noun.Timer {
	out := append(slices.Clone(own), work.Clocks(steps, answers)...)
	slices.SortStableFunc(out, func(a, b noun.Timer) int { return a.RingsAt.Compare(b.RingsAt) })
	return out
}

// timerRows are a row for each piece, with its next moment, and one for each clock of
// one's own.
func timerRows(all []noun.Timer, r read.Reader, now time.Time) []TimerView {
	out := []TimerView{}
	row := map[string]int{}
	for i := range all {
		t := &all[i]
		piece, _, _ := strings.Cut(t.Op, ".")
		at, there := row[piece]
		if t.Kind == "own" || !there {
			if t.Kind != "own" {
				row[piece] = len(out)
			}
			out = append(out, timerView(t, r, now))
			continue
		}
		v := timerView(t, r, now)
		out[at].Then = append(out[at].Then, Moment{t.Kind, v.Rings, v.Says})
	}
	return out
}

var hoursAndMinutes = regexp.MustCompile(`^\s*\d+\s*h(ours?)?\s*\d+\s*$`)

// StartTimer starts a clock of one's own: minutes as people write them.
func (s *Evening) StartTimer(ctx context.Context, slug, text, says string) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		says := strings.Join(strings.Fields(says), " ")
		if says == "" {
			says = "Time is up"
		}
		if len([]rune(says)) > 80 {
			return fault.New(fault.OutOfRange, "says", "At most 80 characters.")
		}
		if read.BareNumber.MatchString(text) || hoursAndMinutes.MatchString(text) {
			text += " min"
		}
		p, err := measure.Parse(measure.ParseIn{Text: &text, Want: new("time")})
		if err != nil || p.Ambiguous {
			return fault.New(fault.Syntax, "minutes", "Write minutes, such as 8 or 1 h 30.")
		}
		if *p.Value < 1.0/60 || *p.Value > 7*1440 {
			return fault.New(fault.OutOfRange, "minutes", "From a second to a week.")
		}
		a.Bench = true
		a.Say(0, "started a timer of %s: %s", read.SayMinutes(max(1, int(*p.Value+0.5))), says)
		at := a.Now.Truncate(time.Second)
		return a.Create(&noun.Timer{Row: noun.Row{Version: 1}, Kind: "own", Says: says, StartsAt: at, RingsAt: at.Add(time.Duration(*p.Value * float64(time.Minute)))})
	}, s.showBench(ctx, &out))
	return out, err
}

// AnswerTimer stops a clock, ringing or not. One that somebody has answered
// already stays answered.
func (s *Evening) AnswerTimer(ctx context.Context, slug, key string) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		a.Bench = true
		at := a.Now.Truncate(time.Second)
		if id, err := strconv.ParseInt(key, 10, 64); err == nil {
			t, err := journal.Get[noun.Timer](a, id)
			if err != nil || t.AnsweredAt != nil || t.DeletedAt != nil {
				return err
			}
			a.Say(0, "answered the timer: %s", t.Says)
			t.AnsweredAt = &at
			return a.Save(&t)
		}
		op, _, _ := strings.Cut(key, "~")
		st, err := a.Step(op)
		if errors.Is(err, journal.ErrNotFound) {
			return journal.TooLate("What that clock ran for is no longer in the plan.")
		}
		if err != nil {
			return err
		}
		steps, err := a.Steps(st.CommissionID)
		if err != nil {
			return err
		}
		answers, err := a.Answers()
		if err != nil {
			return err
		}
		all := work.Clocks(work.Derived(steps, a.House, a.Now), answers)
		i := slices.IndexFunc(all, func(t noun.Timer) bool { return t.Key() == key })
		if i < 0 {
			return nil // answered, or its step went on: it is silent already
		}
		t := all[i]
		t.Version, t.AnsweredAt = 1, &at
		a.Say(st.CommissionID, "answered the timer: %s", t.Says)
		return a.Create(&t)
	}, s.showBench(ctx, &out))
	return out, err
}
