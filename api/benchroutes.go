package api

import (
	"context"
	"log/slog"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/plan"
)

// benchRoutes are those of the bench and what hands do there.
func benchRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	get(a, log, "line", "/s/{studio}/line", func(ctx context.Context, in *struct {
		InStudio
		Commission int64  `query:"commission"`
		From       string `query:"from" maxLength:"10" doc:"of the whole line: the day from which it is shown"`
		Days       int    `query:"days" minimum:"0" maximum:"42" doc:"of the whole line: how many; 0 is a week"`
		By         string `query:"by" enum:",piece,person" doc:"what hangs on one string; empty: a batch"`
	}) (plan.LineView, error) {
		return s.Line(ctx, in.Studio, plan.LineIn{Commission: in.Commission, From: in.From, Days: in.Days, By: in.By})
	})
	get(a, log, "readStep", "/s/{studio}/line/steps/{op}", func(ctx context.Context, in *StepNamed) (plan.StepRead, error) {
		return s.ReadStep(ctx, in.Studio, in.Op)
	})
	get(a, log, "lookPin", "/s/{studio}/line/steps/{op}/look", func(ctx context.Context, in *struct {
		StepNamed
		At int64 `query:"at" required:"true" doc:"ms since 1970"`
	}) (plan.PinView, error) {
		return s.LookPin(ctx, in.Studio, in.Op, time.UnixMilli(in.At))
	})
	post(a, log, "pin", "/s/{studio}/line/steps/{op}/pin", func(ctx context.Context, in *struct {
		StepNamed
		At int64 `query:"at" doc:"ms since 1970; 0: it is let go"`
	}) (made, error) {
		at := time.Time{}
		if in.At != 0 {
			at = time.UnixMilli(in.At)
		}
		return made{}, s.Pin(ctx, in.Studio, in.Op, at)
	})
	get(a, log, "week", "/s/{studio}/week", func(ctx context.Context, in *DaysFrom) (plan.WeekSheet, error) {
		return s.Week(ctx, in.Studio, in.From)
	})
	get(a, log, "workload", "/s/{studio}/workload", func(ctx context.Context, in *DaysFrom) (plan.Workload, error) {
		return s.Workload(ctx, in.Studio, in.From)
	})
	post(a, log, "enoughPlanning", "/s/{studio}/line/enough", func(_ context.Context, in *InStudio) (struct{}, error) {
		s.BestSoFar(in.Studio)
		return struct{}{}, nil
	})
	get(a, log, "waysOut", "/s/{studio}/line/waysOut", func(ctx context.Context, in *InStudio) (plan.WaysOutView, error) {
		return s.WaysOut(ctx, in.Studio)
	})
	post(a, log, "takeWayOut", "/s/{studio}/line/waysOut", func(ctx context.Context, in *struct {
		InStudio
		Body plan.WayOut
	}) (made, error) {
		return made{in.Body.ID}, s.TakeWayOut(ctx, in.Studio, in.Body)
	})
	post(a, log, "canTake", "/s/{studio}/line/canTake", func(ctx context.Context, in *struct {
		InStudio
		Body plan.RoughIn
	}) (plan.RoughView, error) {
		return s.CanTake(ctx, in.Studio, in.Body)
	})
	get(a, log, "bench", "/s/{studio}/bench", func(ctx context.Context, in *struct {
		InStudio
		At string `query:"at" doc:"a step that hands take although it is not due"`
	}) (evening.BenchView, error) {
		return s.Bench(ctx, in.Studio, in.At)
	})
	get(a, log, "fits", "/s/{studio}/bench/fits", func(ctx context.Context, in *struct {
		InStudio
		Minutes int `query:"minutes" required:"true"`
	}) (evening.FitsView, error) {
		return s.Fits(ctx, in.Studio, in.Minutes)
	})
	post(a, log, "callOff", "/s/{studio}/bench/{op}/off/{version}", func(ctx context.Context, in *StepOf) (evening.BenchView, error) {
		return s.CallOff(ctx, in.Studio, in.Op, in.Version)
	})
	post(a, log, "goOn", "/s/{studio}/bench/{op}/on/{version}", func(ctx context.Context, in *StepOf) (evening.BenchView, error) {
		return s.GoOn(ctx, in.Studio, in.Op, in.Version)
	})
	post(a, log, "finish", "/s/{studio}/bench/{op}/finish/{version}", func(ctx context.Context, in *struct {
		StepOf
		Anyway bool `query:"anyway" doc:"although a wait before it still runs"`
	}) (evening.BenchView, error) {
		return s.Finish(ctx, in.Studio, in.Op, in.Version, in.Anyway)
	})
	post(a, log, "hands", "/s/{studio}/bench/{op}/hands/{version}", func(ctx context.Context, in *struct {
		StepOf
		Do     string `query:"do" enum:",press,pressOut,open" doc:"the movement that hands were at"`
		Anyway bool   `query:"anyway" doc:"although a wait before it still runs"`
	}) (evening.BenchView, error) {
		return s.Hands(ctx, in.Studio, in.Op, in.Version, in.Do, in.Anyway)
	})
	post(a, log, "lookedAt", "/s/{studio}/bench/{op}/look/{version}", func(ctx context.Context, in *struct {
		StepOf
		Body struct {
			Check string `json:"check" maxLength:"400"`
			Well  *bool  `json:"well,omitempty" doc:"absent: it is to be looked at again"`
		}
	}) (evening.BenchView, error) {
		return s.LookedAt(ctx, in.Studio, in.Op, in.Version, in.Body.Check, in.Body.Well)
	})
	post(a, log, "count", "/s/{studio}/bench/{op}/count/{version}/{by}", func(ctx context.Context, in *struct {
		StepOf
		By int `path:"by" minimum:"-1" maximum:"1"`
	}) (evening.BenchView, error) {
		return s.Count(ctx, in.Studio, in.Op, in.Version, in.By)
	})
	post(a, log, "broke", "/s/{studio}/bench/{op}/broke/{version}/{why}", func(ctx context.Context, in *struct {
		StepOf
		Why string `path:"why"`
	}) (evening.BenchView, error) {
		return s.Broke(ctx, in.Studio, in.Op, in.Version, in.Why)
	})
	get(a, log, "find", "/s/{studio}/find", func(ctx context.Context, in *struct {
		InStudio
		Text string `query:"text" maxLength:"200"`
	}) ([]studio.Found, error) {
		return s.Find(ctx, in.Studio, in.Text)
	})
	post(a, log, "enough", "/s/{studio}/bench/{op}/enough/{version}", func(ctx context.Context, in *StepOf) (evening.BenchView, error) {
		return s.Enough(ctx, in.Studio, in.Op, in.Version)
	})
	post(a, log, "washed", "/s/{studio}/bench/washed", func(ctx context.Context, in *InStudio) (evening.BenchView, error) { return s.Washed(ctx, in.Studio) })
	post(a, log, "takeBack", "/s/{studio}/bench/takeBack/{entry}", func(ctx context.Context, in *struct {
		InStudio
		Entry int64 `path:"entry" minimum:"1" doc:"the line that was seen as the last"`
	}) (evening.BenchView, error) {
		return s.TakeBack(ctx, in.Studio, in.Entry)
	})
	post(a, log, "startTimer", "/s/{studio}/timers", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Minutes string `json:"minutes"`
			Says    string `json:"says" required:"false"`
		}
	}) (evening.BenchView, error) {
		return s.StartTimer(ctx, in.Studio, in.Body.Minutes, in.Body.Says)
	})
	post(a, log, "answerTimer", "/s/{studio}/timers/{id}/answer", func(ctx context.Context, in *struct {
		InStudio
		ID string `path:"id" maxLength:"80"`
	}) (evening.BenchView, error) {
		return s.AnswerTimer(ctx, in.Studio, in.ID)
	})
}
