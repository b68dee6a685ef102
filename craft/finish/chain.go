package finish

import (
	"fmt"

	"dustyfern/craft/fault"
)

func at(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

// ChainIn asks for the steps of an airbrushed tier (T26) or of a gelatine mould (T27).
type ChainIn struct {
	Chain           *string  `json:"chain" need:"true" of:"T26 T27"`
	RunMM           *float64 `json:"runMM" in:"length"`
	LightPasses     *int     `json:"lightPasses" def:"6" in:"0..1000"`
	FarPasses       *int     `json:"farPasses" def:"6" in:"0..1000"`
	NearPasses      *int     `json:"nearPasses" def:"6" in:"0..1000"`
	HandMMPerSecond *float64 `json:"handMMPerSecond" def:"100" in:"1..2000"`
	BatchML         *float64 `json:"batchML" in:"5..2000"`
	Pulls           *int     `json:"pulls" def:"1" in:"1..100000"`
	PullMinutes     *float64 `json:"pullMinutes" def:"1.5" in:"minutes"`
	Remelts         *int     `json:"remelts" def:"0" in:"0..6"`
	RoomTempC       *float64 `json:"roomTempC" def:"21" in:"5..40"`
	RoomRHPercent   *float64 `json:"roomRhPercent" def:"45" in:"5..99"`
}

// ChainOut are the steps, those with hands and those that wait.
type ChainOut struct {
	Steps        []Step  `json:"steps"`
	HandsMinutes float64 `json:"handsMinutes"`
	WaitMinutes  float64 `json:"waitMinutes"`
}

// Step is one thing to do or to wait for.
type Step struct {
	Step         string   `json:"step"`
	Attended     bool     `json:"attended"`
	Minutes      float64  `json:"minutes"`
	Check        string   `json:"check,omitempty"`
	Caution      string   `json:"caution,omitempty"`
	Bursts       *int     `json:"bursts,omitempty"`
	BurstSeconds *float64 `json:"burstSeconds,omitempty"`
}

// Of a gelatine mould and of a turn of the cake (assumed).
const (
	turnSeconds  = 8.0
	burstSeconds = 9.0
	burstOfML    = 59.0
	setMinutes   = 30.0
	softAboveC   = 30.0
)

// Chain gives the steps of T26 or T27. Errors are *fault.Fault; docs/models/finish.md.
func Chain(in ChainIn) (ChainOut, error) {
	if err := fault.Check(&in); err != nil {
		return ChainOut{}, err
	}
	f := in.mould
	if *in.Chain == "T26" {
		f = in.airbrush
	}
	steps, err := f()
	if err != nil {
		return ChainOut{}, err
	}
	out := ChainOut{Steps: steps}
	for _, s := range steps {
		if s.Attended {
			out.HandsMinutes += s.Minutes
		} else {
			out.WaitMinutes += s.Minutes
		}
	}
	return out, nil
}

func hands(step string, minutes float64) Step {
	return Step{Step: step, Attended: true, Minutes: minutes}
}

func (in *ChainIn) airbrush() ([]Step, error) {
	if in.RunMM == nil {
		return nil, fault.New(fault.Required, "runMM", "How long is the run round the tier?")
	}
	coat, err := coatMinutes("spiritWash", *in.RoomTempC, *in.RoomRHPercent)
	pass := (*in.RunMM / *in.HandMMPerSecond + turnSeconds) / 60
	of := func(n int) float64 { return float64(n) * pass }
	return []Step{hands("maskBoard", 5), hands("mixLight", 3), hands("sprayLight", of(*in.LightPasses)), {Step: "dryLight", Minutes: coat}, hands("addStrong", 2),
		hands("sprayFar", of(*in.FarPasses)), hands("sprayNear", of(*in.NearPasses)), hands("look", 1), {Step: "dryFade", Minutes: coat}, hands("cleanBrush", 5)}, err
}

func (in *ChainIn) mould() ([]Step, error) {
	if in.BatchML == nil {
		return nil, fault.New(fault.Required, "batchML", "How many ml of gelatine are mixed?")
	}
	if *in.RoomTempC > softAboveC {
		return nil, fault.New(fault.Unreachable, "roomTempC", "A gelatine mould does not hold its form above %g °C: cool the room, or take another mould.", softAboveC)
	}
	s := burstSeconds * *in.BatchML / burstOfML
	checked := func(x Step, check, caution string) Step {
		x.Check, x.Caution = check, caution
		return x
	}
	heated := func(step string, n int, minutes float64) Step {
		x := checked(hands(step, minutes+float64(n)*s/60), "clear, never boiling", "hotSpots")
		x.Bursts, x.BurstSeconds = &n, &s
		return x
	}
	firm := func(step string) Step {
		return Step{Step: step, Minutes: setMinutes, Check: "firm to the touch at room warmth"}
	}
	steps := []Step{
		checked(hands("cleanModel", 3), "clean, dry, no sharp undercut", "modelClean"), checked(hands("weigh", 4), "grams, never sachets counted", ""),
		checked(hands("stirIn", 3), "no lumps", ""), heated("bursts", 3, 1), checked(hands("pourAndSink", 2), "no bubbles on the model", ""), firm("set"),
		hands("easeOut", 3), hands("trim", 2), checked(hands("press", float64(*in.Pulls)**in.PullMinutes), "freed at once, no chill", "")}
	for range *in.Remelts {
		steps = append(steps, heated("remelt", 2, 4.5), firm("setAgain"))
	}
	return steps, nil
}
