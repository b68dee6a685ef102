package api

import (
	"context"
	"log/slog"
	"net/http"
	"net/url"
	"reflect"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/evening"
)

// Scale is the one on the bench. StandIn is nil when it is a real one.
type Scale struct {
	Reads interface {
		Weight() evening.Weight
		Tare() error
	}
	StandIn interface {
		Put(grams float64)
		PutAbout(grams float64)
		Behave(mode string)
		State() (grams float64, mode string)
	}
	Modes []string
}

// sees what lies on the scale, beside what is aimed at.
func (s *Scale) sees(aim *evening.Aim) evening.WeightView {
	now := evening.Weight{Why: "there is no scale"}
	if s != nil {
		now = s.Reads.Weight()
	}
	v := aim.View(now)
	if s != nil && s.StandIn != nil {
		v.StandIn = true
		v.OnIt, v.Mode = s.StandIn.State()
	}
	return v
}

// pairsOf reads whether balls are weighed two by two; nil: nobody said.
func pairsOf(text string) *bool {
	switch text {
	case "yes", "no":
		return new(text == "yes")
	}
	return nil
}

// deviceEvery is how often a device is looked at while somebody looks on.
const deviceEvery = 150 * time.Millisecond

// scaleLive pushes the weight as it changes. What is aimed at is read once: a
// reading asks the database nothing.
func scaleLive(s *studio.Service, scale *Scale, live *Live, log *slog.Logger) echo.HandlerFunc {
	return deviceLive(live, log, "weight", deviceEvery, func(ctx context.Context, slug string, q url.Values) (func() evening.WeightView, error) {
		aim, err := s.AimAt(ctx, slug, q.Get("op"), pairsOf(q.Get("pairs")))
		return func() evening.WeightView { return scale.sees(aim) }, err
	})
}

// deviceLive pushes what a device says as it changes, looked at so often, as an event of
// that name.
func deviceLive[V any](live *Live, log *slog.Logger, event string, every time.Duration, aimed func(ctx context.Context, slug string, q url.Values) (func() V, error)) echo.HandlerFunc {
	return func(c *echo.Context) error {
		ctx := c.Request().Context()
		sees, err := aimed(ctx, c.Param("studio"), c.Request().URL.Query())
		if err != nil {
			return refuse(ctx, log, event, err)
		}
		if live != nil { // it counts among the windows that follow
			words := live.open(-1)
			if words == nil {
				return problem(http.StatusServiceUnavailable, "Too many windows follow this program: close some.")
			}
			defer live.shut(words)
		}
		t, err := tellerOf(c)
		if err != nil {
			return err
		}
		var closed chan struct{}
		if live != nil {
			closed = live.closed
		}
		tick := time.NewTicker(every)
		defer tick.Stop()
		var last V
		quiet := 0
		for first := true; ; first = false {
			// a word now and then shows that the window is still there
			if v := sees(); first || !reflect.DeepEqual(v, last) || quiet > 60 {
				last, quiet = v, 0
				if t.say(event, v) != nil {
					return nil
				}
			}
			quiet++
			select {
			case <-ctx.Done():
				return nil
			case <-closed:
				return nil
			case <-tick.C:
			}
		}
	}
}

// scaleRoutes are what the bench asks of the scale.
func scaleRoutes(a huma.API, s *studio.Service, scale *Scale, log *slog.Logger) {
	view := func(ctx context.Context, slug, op string) (evening.WeightView, error) {
		aim, err := s.AimAt(ctx, slug, op, nil)
		if err != nil {
			return evening.WeightView{}, err
		}
		return scale.sees(aim), nil
	}
	get(a, log, "scale", "/s/{studio}/scale", func(ctx context.Context, in *struct {
		InStudio
		Op string `query:"op" doc:"the press whose ball is weighed"`
	}) (evening.WeightView, error) {
		return view(ctx, in.Studio, in.Op)
	})
	post(a, log, "tare", "/s/{studio}/scale/tare", func(ctx context.Context, in *InStudio) (evening.WeightView, error) {
		if scale == nil {
			return evening.WeightView{}, problem(http.StatusNotFound, "There is no scale.")
		}
		if err := scale.Reads.Tare(); err != nil {
			return evening.WeightView{}, fault.New(fault.Contradiction, "scale", "Not tared: %v.", err)
		}
		return view(ctx, in.Studio, "")
	})
	post(a, log, "standIn", "/s/{studio}/scale/standIn", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Mode string  `json:"mode" required:"false" doc:"steady, noisy, drifting or unplugged"`
			Put  float64 `json:"put" required:"false" minimum:"0" maximum:"50000" doc:"grams that are laid on it"`
			Ball string  `json:"ball" required:"false" doc:"a press: about one of its balls is laid on it"`
		}
	}) (evening.WeightView, error) {
		if scale == nil || scale.StandIn == nil {
			return evening.WeightView{}, problem(http.StatusNotFound, "A real scale is read: what lies on it is not set from here.")
		}
		switch b := in.Body; {
		case b.Mode != "":
			if !slices.Contains(scale.Modes, b.Mode) {
				return evening.WeightView{}, fault.New(fault.UnknownValue, "mode", "It can be steady, noisy, drifting or unplugged.")
			}
			scale.StandIn.Behave(b.Mode)
		case b.Ball != "":
			aim, err := s.AimAt(ctx, in.Studio, b.Ball, nil)
			if err != nil {
				return evening.WeightView{}, err
			}
			scale.StandIn.PutAbout(aim.Grams)
		default:
			scale.StandIn.Put(b.Put)
		}
		return view(ctx, in.Studio, in.Body.Ball)
	})
	get(a, log, "portions", "/s/{studio}/bench/{op}/portions", func(ctx context.Context, in *struct {
		InStudio
		Op    string `path:"op"`
		Pairs string `query:"pairs" enum:",yes,no" doc:"two by two; empty: as is usual in its way of making"`
	}) (evening.PortionView, error) {
		return s.Portions(ctx, in.Studio, in.Op, pairsOf(in.Pairs))
	})
	post(a, log, "portion", "/s/{studio}/bench/{op}/portion/{version}", func(ctx context.Context, in *struct {
		StepOf
		Anyway bool `query:"anyway" doc:"although a wait before it still runs"`
		Body   struct {
			Grams string `json:"grams" doc:"a weight as people write it"`
		}
	}) (evening.BenchView, error) {
		return s.Portion(ctx, in.Studio, in.Op, in.Version, in.Body.Grams, in.Anyway)
	})
	post(a, log, "portionBack", "/s/{studio}/bench/{op}/portion/{version}/back", func(ctx context.Context, in *StepOf) (evening.BenchView, error) {
		return s.PortionBack(ctx, in.Studio, in.Op, in.Version)
	})
	post(a, log, "keepWeightOf", "/s/{studio}/tools/{id}/weigh", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Grams string `json:"grams" doc:"a weight as people write it"`
		}
	}) (made, error) {
		return made{in.ID}, s.KeepWeightOf(ctx, in.Studio, in.ID, in.Body.Grams)
	})
	post(a, log, "keepWeight", "/s/{studio}/bench/{op}/weigh", func(ctx context.Context, in *struct {
		InStudio
		Op   string `path:"op"`
		Body struct {
			Grams string `json:"grams" doc:"a weight as people write it"`
		}
	}) (evening.BenchView, error) {
		return s.KeepWeight(ctx, in.Studio, in.Op, in.Body.Grams)
	})
}
