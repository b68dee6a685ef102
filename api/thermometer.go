package api

import (
	"context"
	"log/slog"
	"net/http"
	"net/url"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/evening"
)

// Thermometer is the one in the pan. StandIn is nil when it is a real one.
type Thermometer struct {
	Reads   interface{ Heat() evening.Heat }
	StandIn interface {
		Behave(mode string)
		State() string
	}
	Modes []string
}

// sees what the probe says, beside what is cooked to.
func (t *Thermometer) sees(aim *evening.HeatAim) evening.HeatView {
	now := evening.Heat{Why: "there is no thermometer"}
	if t != nil {
		now = t.Reads.Heat()
	}
	v := aim.View(now)
	if t != nil && t.StandIn != nil {
		v.StandIn, v.Mode = true, t.StandIn.State()
	}
	return v
}

// thermometerLive pushes the temperature as it changes.
func thermometerLive(s *studio.Service, t *Thermometer, live *Live, log *slog.Logger) echo.HandlerFunc {
	return deviceLive(live, log, "heat", deviceEvery, func(ctx context.Context, slug string, q url.Values) (func() evening.HeatView, error) {
		aim, err := s.HeatAt(ctx, slug, q.Get("op"))
		return func() evening.HeatView { return t.sees(aim) }, err
	})
}

// thermometerRoutes are what the bench asks of the thermometer.
func thermometerRoutes(a huma.API, s *studio.Service, t *Thermometer, log *slog.Logger) {
	get(a, log, "thermometer", "/s/{studio}/thermometer", func(ctx context.Context, in *struct {
		InStudio
		Op string `query:"op" doc:"the step that cooks"`
	}) (evening.HeatView, error) {
		aim, err := s.HeatAt(ctx, in.Studio, in.Op)
		if err != nil {
			return evening.HeatView{}, err
		}
		return t.sees(aim), nil
	})
	post(a, log, "pan", "/s/{studio}/thermometer/standIn", func(ctx context.Context, in *struct {
		InStudio
		Body struct {
			Mode string `json:"mode" doc:"off, heating, open probe or unplugged"`
		}
	}) (evening.HeatView, error) {
		if t == nil || t.StandIn == nil {
			return evening.HeatView{}, problem(http.StatusNotFound, "A real thermometer is read: its pan is not heated from here.")
		}
		if !slices.Contains(t.Modes, in.Body.Mode) {
			return evening.HeatView{}, fault.New(fault.UnknownValue, "mode", "It can be off, heating, with an open probe or unplugged.")
		}
		t.StandIn.Behave(in.Body.Mode)
		aim, err := s.HeatAt(ctx, in.Studio, "")
		if err != nil {
			return evening.HeatView{}, err
		}
		return t.sees(aim), nil
	})
}
