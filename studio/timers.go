package studio

import (
	"context"
	"fmt"
	"regexp"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// Timer is a clock that runs on the server: it outlives the window and the
// program that began it.
type Timer struct {
	ID           int64      `json:"id,omitempty"`
	Version      int64      `json:"version,omitempty"`
	DeletedAt    *time.Time `json:"deletedAt,omitempty"`
	CommissionID *int64     `json:"commissionId,omitempty"`
	Op           string     `json:"op"`
	Kind         string     `json:"kind"` // rest freezer dew open touch lift join own
	N            int        `json:"n"`
	Says         string     `json:"says"`
	StartsAt     time.Time  `json:"startsAt"`
	RingsAt      time.Time  `json:"ringsAt"`
	AnsweredAt   *time.Time `json:"answeredAt,omitempty"`
}

// TimerView is a running timer; the browser counts down to Rings by the
// server's clock.
type TimerView struct {
	ID        int64  `json:"id"`
	Kind      string `json:"kind"`
	Says      string `json:"says"`
	Starts    int64  `json:"starts" doc:"ms since 1970, by the server's clock"`
	Rings     int64  `json:"rings" doc:"ms since 1970, by the server's clock"`
	RingsSays string `json:"ringsSays"`
	Cord      string `json:"cord"`
}

func timerView(t *Timer, now time.Time) TimerView {
	cord := map[string]string{"freezer": "freezer", "dew": "freezer", "touch": "drying", "lift": "drying", "join": "drying"}[t.Kind]
	if cord == "" {
		cord = "rest"
	}
	return TimerView{t.ID, t.Kind, t.Says, t.StartsAt.UnixMilli(), t.RingsAt.UnixMilli(), SayTime(t.RingsAt, now), cord}
}

// openWarning is how long before its sheet skins an open piece is called.
const openWarning = 2 * time.Minute

// markSays is what may be done at a mark of drying.
var markSays = map[string]string{"touch": "may be touched: it has a skin", "lift": "may be lifted: it holds its curve", "join": "is firm: lift, join, assemble"}

// startTimers starts the clocks of a wait that begins.
func startTimers(tx Tx, st *Step, at time.Time) error {
	start := func(kind, says string, rings time.Time) error {
		return tx.CreateTimer(&Timer{Version: 1, CommissionID: &st.CommissionID, Op: st.Op, Kind: kind, Says: says, StartsAt: at, RingsAt: rings})
	}
	switch st.Kind {
	case "rest":
		return start("rest", "Over: "+lowerFirst(st.Title), st.PlannedEnd)
	case "air":
		return start("dew", "Matt: "+lowerFirst(st.Title), st.PlannedEnd)
	case "settle":
		return start("rest", "It has taken hold: "+lowerFirst(st.Title), st.PlannedEnd)
	case "dry":
		what := strings.TrimPrefix(st.Title, "Dry ")
		if i := strings.LastIndex(what, " on "); i > 0 {
			what = what[:i]
		}
		for _, m := range st.Planned.Marks {
			if err := start(m.Kind, upperFirst(what)+" "+markSays[m.Kind], at.Add(time.Duration(m.Minutes)*time.Minute)); err != nil {
				return err
			}
		}
	}
	return nil
}

// answerOf marks the timers of a step as answered: n 0 for all of them.
func answerOf(tx Tx, op, kind string, n int, now time.Time) error {
	ts, err := tx.Timers()
	if err != nil {
		return err
	}
	for i := range ts {
		if t := &ts[i]; t.Op == op && (kind == "" || t.Kind == kind) && (n == 0 || t.N == n) {
			t.AnsweredAt = &now
			if err := tx.SaveTimer(t); err != nil {
				return err
			}
		}
	}
	return nil
}

var hoursAndMinutes = regexp.MustCompile(`^\s*\d+\s*h(ours?)?\s*\d+\s*$`)

// StartTimer starts a clock of one's own: minutes as people write them.
func (s *Service) StartTimer(ctx context.Context, slug, text, says string) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		says := strings.Join(strings.Fields(says), " ")
		if says == "" {
			says = "Time is up"
		}
		if len([]rune(says)) > 80 {
			return fault.New(fault.OutOfRange, "says", "At most 80 characters.")
		}
		if bareNumber.MatchString(text) || hoursAndMinutes.MatchString(text) {
			text += " min"
		}
		p, err := measure.Parse(measure.ParseIn{Text: &text, Want: new("time")})
		if err != nil {
			return fault.New(fault.Syntax, "minutes", "Write minutes, such as 8 or 1 h 30.")
		}
		if *p.Value < 1.0/60 || *p.Value > 7*1440 {
			return fault.New(fault.OutOfRange, "minutes", "From a second to a week.")
		}
		a.bench = true
		a.say(0, "started a timer of %s: %s", SayMinutes(max(1, int(*p.Value+0.5))), says)
		at := a.now.Truncate(time.Second)
		return a.CreateTimer(&Timer{Version: 1, Kind: "own", Says: says, StartsAt: at, RingsAt: at.Add(time.Duration(*p.Value * float64(time.Minute)))})
	}, s.showBench(&out))
	return out, err
}

// AnswerTimer stops a timer, ringing or not. A repeat does nothing.
func (s *Service) AnswerTimer(ctx context.Context, slug string, id int64) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		t, err := a.Timer(id)
		if err != nil {
			return err
		}
		if t.AnsweredAt != nil || t.DeletedAt != nil {
			return nil
		}
		a.bench = true
		commission := int64(0)
		if t.CommissionID != nil {
			commission = *t.CommissionID
		}
		a.say(commission, "answered the timer: %s", t.Says)
		t.AnsweredAt = new(a.now.Truncate(time.Second))
		return a.SaveTimer(&t)
	}, s.showBench(&out))
	return out, err
}

func freezerSays(name string, n, of int) string {
	if of == 1 {
		return name + " may be opened"
	}
	return fmt.Sprintf("%s: fill %d of %d may be opened", name, n, of)
}
