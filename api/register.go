package api

import (
	"context"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/reckon"
	"dustyfern/studio/journal"
)

type body[T any] struct{ Body T }

// answer is what an operation answers; Told counts what windows were told: as it read, or its
// own change included, so that a window need not read that again.
type answer[T any] struct {
	Told string `header:"X-Told"`
	Body T
}

// InStudio names the studio by its address.
type InStudio struct {
	Studio string `path:"studio"`
}

// RowOf names one row of a studio.
type RowOf struct {
	Studio string `path:"studio"`
	Kind   string `path:"kind" enum:"tools,lots,commissions,pieces,ways,racks,notes"`
	ID     int64  `path:"id"`
}

// StepOf names a step and the version of it that was seen.
type StepOf struct {
	InStudio
	Op      string `path:"op"`
	Version int64  `path:"version"`
}

// StepNamed is a step of the line by its name.
type StepNamed struct {
	InStudio
	Op string `path:"op" maxLength:"80"`
}

// DaysFrom is some days from a date on.
type DaysFrom struct {
	InStudio
	From string `query:"from" maxLength:"10" doc:"the first day, as 2026-12-01; empty: today"`
}

// made is the id of a new row.
type made struct {
	ID int64 `json:"id"`
}

// newRow is a row to be made, of the texts of a form.
type keyed struct {
	Key string `json:"key"`
}

type sketched struct {
	Set map[string]string `json:"set" doc:"texts by field, as typed so far"`
}

type newRow struct {
	Parent int64             `json:"parent" required:"false" doc:"the commission of a piece"`
	Set    map[string]string `json:"set"`
}

func get[In, Out any](a huma.API, log *slog.Logger, id, path string, f func(context.Context, *In) (Out, error)) {
	register(a, log, http.MethodGet, id, path, f)
}

func post[In, Out any](a huma.API, log *slog.Logger, id, path string, f func(context.Context, *In) (Out, error)) {
	register(a, log, http.MethodPost, id, path, f)
}

func register[In, Out any](a huma.API, log *slog.Logger, method, id, path string, f func(context.Context, *In) (Out, error), more ...func(*huma.Operation)) {
	op := huma.Operation{OperationID: id, Method: method, Path: path, Errors: []int{403, 404, 409, 422, 500, 503}}
	for _, change := range more {
		change(&op)
	}
	huma.Register(a, op,
		func(ctx context.Context, in *In) (*answer[Out], error) {
			var told int64
			if method == http.MethodGet {
				ctx = journal.WithHeld(ctx, &told)
			} else {
				ctx = journal.WithTold(ctx, &told)
			}
			out, err := f(ctx, in)
			if err != nil {
				return nil, refuse(ctx, log, id, err)
			}
			a := &answer[Out]{Body: out}
			if told > 0 {
				a.Told = strconv.FormatInt(told, 10)
			}
			return a, nil
		})
}

// reckonTopic answers one topic of the core: the bare result, or a problem.
func reckonTopic(c *echo.Context) error {
	raw, err := io.ReadAll(c.Request().Body)
	if err != nil {
		return err
	}
	out, err := reckon.Answer(c.Param("topic"), raw)
	if err == nil {
		return c.JSON(http.StatusOK, out)
	}
	var f *fault.Fault
	if !errors.As(err, &f) {
		return err
	}
	status := http.StatusUnprocessableEntity
	switch f.Code {
	case fault.Syntax, fault.Required, fault.OutOfRange, fault.UnknownValue:
		status = http.StatusBadRequest
	}
	if f.Field == "topic" {
		status = http.StatusNotFound
	}
	p := problem(status, f.Message)
	p.Code, p.Field, p.Fields = f.Code, f.Field, []FieldFault{{Field: f.Field, Code: f.Code, Detail: f.Message}}
	return writeProblem(c, p)
}

// cutLast parts "name:2" into its name and its number.
func cutLast(text string) (name string, n int, ok bool) {
	i := strings.LastIndexByte(text, ':')
	if i < 1 {
		return "", 0, false
	}
	n, err := strconv.Atoi(text[i+1:])
	return text[:i], n, err == nil
}
