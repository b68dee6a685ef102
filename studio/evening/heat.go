package evening

import (
	"context"
	"fmt"
	"math"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/mix"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Heat is what a thermometer says now.
type Heat struct {
	Plugged   bool
	C         float64
	PerMinute float64 // how fast it warms
	Why       string  // why there is none
}

// HeatView is the thermometer as the bench shows it, beside the stage that is cooked to.
type HeatView struct {
	Plugged bool    `json:"plugged"`
	Why     string  `json:"why"`
	Text    string  `json:"text"`
	Stage   string  `json:"stage" doc:"what the sugar is by now, in words"`
	Aim     string  `json:"aim" doc:"the stage that is wanted, here"`
	Verdict string  `json:"verdict" enum:"none,under,near,good,over"`
	Place   float64 `json:"place" doc:"where it lies: 0 the room, 1 the least that is wanted"`
	Says    string  `json:"says" doc:"what to do now"`
	StandIn bool    `json:"standIn"`
	Mode    string  `json:"mode"`
}

// HeatAim is the stage that a step cooks to, C at this kitchen's height.
type HeatAim struct {
	low, high float64
	stage     string
	lower     float64 // by how much every stage lies lower here
	r         read.Reader
}

// HeatAt reads what a step cooks to; "" for none.
func (s *Evening) HeatAt(ctx context.Context, slug, op string) (*HeatAim, error) {
	aim := &HeatAim{}
	err := s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		kept := *k
		aim.r = read.Reader{K: &kept}
		if op == "" {
			return nil
		}
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		h := st.Planned.Heat
		if h == nil {
			return fault.New(fault.Contradiction, "op", "Nothing is cooked in this step.")
		}
		aim.low, aim.high = h.LowC, h.HighC
		for _, stage := range mix.Stages { // no two stages are equally wide
			if math.Abs(stage.HighC-stage.LowC-(h.HighC-h.LowC)) < 0.01 {
				aim.stage, aim.lower = stageNames[stage.Code], stage.LowC-h.LowC
			}
		}
		return nil
	})
	return aim, err
}

// What is near enough to be ready for it, C, and when a pan is off the flame in time: how
// long it goes on, minutes, and by how much at most, C (assumed).
const (
	nearC  = 8.0
	goesOn = 0.5
	mostOn = 6.0
	pourC  = 130.0
)

var stageNames = map[string]string{"thread": "thread", "softBall": "soft ball", "firmBall": "firm ball", "hardBall": "hard ball", "softCrack": "soft crack", "hardCrack": "hard crack"}

// View puts a temperature beside what is cooked to.
func (a *HeatAim) View(now Heat) HeatView {
	out := HeatView{Plugged: now.Plugged, Why: read.UpperFirst(now.Why), Verdict: "none"}
	if a.high > 0 {
		out.Aim = fmt.Sprintf("%s here: %s to %s", a.stage, a.r.Temp(math.Round(a.low)), a.r.Temp(math.Round(a.high)))
	}
	if !now.Plugged {
		return out
	}
	out.Text = a.r.Temp(math.Round(now.C))
	for _, s := range mix.Stages {
		if now.C >= s.LowC-a.lower {
			out.Stage = stageNames[s.Code]
		}
	}
	if a.high <= 0 {
		return out
	}
	out.Place = math.Max(0, (now.C-21)/(a.low-21))
	ahead := now.C + math.Min(mostOn, math.Max(0, now.PerMinute)*goesOn)
	switch {
	case now.C > a.high:
		out.Verdict, out.Says = "over", "Too hot: off the flame, the foot of the pan into cold water. Darker than this it is for the bin."
	case now.C >= a.low:
		out.Verdict, out.Says = "good", fmt.Sprintf("Off the flame. It is poured at about %s, some %s from now.", a.r.Temp(pourC-a.lower), waitSays(now.C, pourC-a.lower))
	case ahead >= a.low:
		out.Verdict, out.Says = "near", "Off the flame now: the pan goes on by itself."
	case now.C >= a.low-nearC:
		out.Verdict, out.Says = "near", "Nearly there: stay with it, cold water at hand."
	case now.PerMinute < -1 && now.C <= pourC-a.lower+2 && now.C > pourC-a.lower-15:
		out.Verdict, out.Says = "under", "Pour now, all in one go."
	default:
		out.Verdict, out.Says = "under", "Stir, wash the sides down. Long sleeves, no children, no pets near the pan."
	}
	return out
}

// waitSays is how long a pan cools to what it is poured at.
func waitSays(from, to float64) string {
	c, err := mix.Cooling(mix.CoolingIn{StartTempC: &from, PourTempC: &to})
	if err != nil || c.WaitMinutes == nil {
		return "minutes"
	}
	return read.SayMinutes(int(math.Round(*c.WaitMinutes)))
}
