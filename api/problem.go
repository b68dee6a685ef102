package api

import (
	"encoding/json"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/studio"
)

// Problem is RFC 9457 with the fields at fault; a conflict carries both states.
type Problem struct {
	Type    string            `json:"type"`
	Title   string            `json:"title"`
	Status  int               `json:"status"`
	Detail  string            `json:"detail"`
	Code    string            `json:"code,omitempty"`
	Field   string            `json:"field,omitempty"`
	Fields  []FieldFault      `json:"fields" nullable:"false"`
	Yours   map[string]string `json:"yours,omitempty"`
	Theirs  map[string]string `json:"theirs,omitempty"`
	Version int64             `json:"version,omitempty"`
}

// FieldFault is one field and the sentence that says what would be right.
type FieldFault struct {
	Field  string `json:"field"`
	Code   string `json:"code"`
	Detail string `json:"detail"`

	Choices   []fault.Choice `json:"choices,omitempty" doc:"readings of what was typed, and what to write for each"`
	GramsEach string         `json:"gramsEach,omitempty" doc:"a unit whose grams the kitchen may keep"`
}

func (p *Problem) Error() string             { return p.Title + ": " + p.Detail }
func (p *Problem) GetStatus() int            { return p.Status }
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func problem(status int, detail string) *Problem {
	return &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: detail, Fields: []FieldFault{}}
}

func init() {
	// huma makes every error of its own through this hook
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		if msg == "request body is required" {
			msg = "Nothing was sent: the file is empty."
		}
		p := problem(status, msg)
		for _, err := range errs {
			var d *huma.ErrorDetail
			if errors.As(err, &d) {
				p.Fields = append(p.Fields, FieldFault{Field: strings.TrimPrefix(strings.TrimPrefix(d.Location, "body"), "."), Code: fault.Syntax, Detail: d.Message})
			} else if err != nil {
				p.Detail += ": " + err.Error()
			}
		}
		return p
	}
	huma.DefaultArrayNullable = false
}

// refuse turns an error of a use case into its problem; what nobody foresaw is
// logged and said without its inside.
func refuse(log *slog.Logger, err error) error {
	var f *fault.Fault
	var clash *studio.Conflict
	switch {
	case err == nil:
		return nil
	case errors.As(err, &f):
		p := problem(http.StatusUnprocessableEntity, f.Message)
		p.Code, p.Field = f.Code, f.Field
		p.Fields = []FieldFault{{Field: f.Field, Code: f.Code, Detail: f.Message, Choices: f.Choices, GramsEach: f.GramsEach}}
		return p
	case errors.As(err, &clash):
		p := problem(http.StatusConflict, "Somebody changed this meanwhile, in another window.")
		p.Code, p.Yours, p.Theirs, p.Version = "changed", clash.Yours, clash.Theirs, clash.Version
		for _, name := range clash.Fields {
			p.Fields = append(p.Fields, FieldFault{Field: name, Code: "changed", Detail: "It now says: " + clash.Theirs[name]})
		}
		return p
	case errors.Is(err, studio.ErrNotFound):
		return problem(http.StatusNotFound, "There is nothing here: it was never made, or was deleted.")
	case errors.Is(err, studio.ErrFull):
		log.Error("disk full", "err", err)
		return problem(http.StatusInsufficientStorage, "The disk of the data folder is full: make room on it, then try once more. Nothing was half written.")
	case errors.Is(err, studio.ErrStale):
		p := problem(http.StatusConflict, "Somebody changed this at the same moment: try once more.")
		p.Code = "changed"
		return p
	}
	var known *Problem
	if errors.As(err, &known) {
		return known
	}
	log.Error("unexpected", "err", err)
	return problem(http.StatusServiceUnavailable, "The database does not answer just now. What you typed is still here: try again in a moment.")
}

func writeProblem(c *echo.Context, p *Problem) error {
	b, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return c.Blob(p.Status, "application/problem+json", b)
}
