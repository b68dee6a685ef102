package api

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
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

// doorFault puts what the door has against a field into the words of the house.
func doorFault(d *huma.ErrorDetail) FieldFault {
	field := d.Location
	for _, head := range []string{"body", "path", "query", "header"} {
		field = strings.TrimPrefix(strings.TrimPrefix(field, head+"."), head)
	}
	f := FieldFault{Field: field, Code: fault.Syntax, Detail: d.Message}
	name := field[strings.LastIndex(field, ".")+1:]
	switch {
	case strings.Contains(d.Message, "unexpected property"):
		f.Detail = fmt.Sprintf("There is no field called %q here.", name)
	case strings.Contains(d.Message, "required property"):
		_, missing, _ := strings.Cut(d.Message, "required property ")
		missing, _, _ = strings.Cut(missing, " ")
		f.Code, f.Field = fault.Required, strings.TrimPrefix(field+"."+missing, ".")
		f.Detail = fmt.Sprintf("%s is missing.", missing)
	case strings.Contains(d.Message, "required"):
		f.Code, f.Detail = fault.Required, fmt.Sprintf("%s is missing.", name)
	case strings.Contains(d.Message, "expected number >= "):
		_, least, _ := strings.Cut(d.Message, ">= ")
		f.Code, f.Detail = fault.OutOfRange, fmt.Sprintf("%s is at least %s.", name, least)
	case strings.Contains(d.Message, "expected number <= "):
		_, most, _ := strings.Cut(d.Message, "<= ")
		f.Code, f.Detail = fault.OutOfRange, fmt.Sprintf("%s is at most %s.", name, most)
	case strings.Contains(d.Message, "expected number"), strings.Contains(d.Message, "expected integer"), strings.Contains(d.Message, "invalid integer"), strings.Contains(d.Message, "invalid float"), strings.Contains(d.Message, "invalid value"):
		f.Detail = fmt.Sprintf("%s is a number.", name)
	case strings.Contains(d.Message, "one of"):
		f.Code = fault.UnknownValue
		_, words, _ := strings.Cut(d.Message, "one of ")
		f.Detail = fmt.Sprintf("%s is one of %s.", name, strings.Trim(words, `"`))
	case strings.Contains(d.Message, "expected string"):
		f.Detail = fmt.Sprintf("%s is a text.", name)
	case strings.Contains(d.Message, "expected object"):
		f.Detail = fmt.Sprintf("%s holds fields by name.", cmp.Or(name, "What is sent"))
	case strings.Contains(d.Message, "expected array"):
		f.Detail = fmt.Sprintf("%s is a list.", name)
	case strings.Contains(d.Message, "expected boolean"):
		f.Detail = fmt.Sprintf("%s is true or false.", name)
	case strings.Contains(d.Message, "length"):
		f.Code = fault.OutOfRange
	}
	return f
}

func init() {
	// huma makes every error of its own through this hook
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		if msg == "request body is required" {
			msg = "Nothing was sent: the file is empty."
		}
		if status == http.StatusUnprocessableEntity && msg == "validation failed" {
			msg = "That cannot be taken as it is."
		}
		p := problem(status, msg)
		for _, err := range errs {
			var d *huma.ErrorDetail
			if errors.As(err, &d) {
				p.Fields = append(p.Fields, doorFault(d))
			} else if err != nil {
				p.Detail += ": " + err.Error()
			}
		}
		if len(p.Fields) > 0 {
			p.Code, p.Field = p.Fields[0].Code, p.Fields[0].Field
			p.Detail = p.Fields[0].Detail
		}
		return p
	}
	huma.DefaultArrayNullable = false
}

// requestKey holds the number of a request in its context.
type requestKey struct{}

func requestOf(ctx context.Context) string {
	id, _ := ctx.Value(requestKey{}).(string)
	return id
}

// refuse turns an error of a use case into its problem. 503 is the database
// away; what nobody foresaw is 500, logged with the request, the operation and
// the cause, and said without its inside.
func refuse(ctx context.Context, log *slog.Logger, operation string, err error) error {
	var f *fault.Fault
	var clash *journal.Conflict
	var late *journal.Overtaken
	var known *Problem
	switch {
	case err == nil:
		return nil
	case errors.As(err, &known):
		return known
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
	case errors.As(err, &late):
		p := problem(http.StatusConflict, late.Say)
		p.Code = "overtaken"
		return p
	case errors.Is(err, journal.ErrNotFound):
		return problem(http.StatusNotFound, "There is nothing here: it was never made, or was deleted.")
	case errors.Is(err, journal.ErrFull):
		log.Error("disk full", "operation", operation, "request", requestOf(ctx), "err", err)
		return problem(http.StatusInsufficientStorage, "The disk of the data folder is full: make room on it, then try once more. Nothing was half written.")
	case errors.Is(err, journal.ErrStale):
		p := problem(http.StatusConflict, "Somebody changed this at the same moment: try once more.")
		p.Code = "changed"
		return p
	case errors.Is(err, journal.ErrAway):
		log.Warn("the database is away", "operation", operation, "request", requestOf(ctx), "err", err)
		return problem(http.StatusServiceUnavailable, "The database does not answer just now. What you typed is still here: try again in a moment.")
	}
	log.Error("unforeseen", "operation", operation, "request", requestOf(ctx), "err", err)
	return problem(http.StatusInternalServerError, "Something went wrong here, not with you. The server's log has it under "+requestOf(ctx)+".")
}

func writeProblem(c *echo.Context, p *Problem) error {
	b, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return c.Blob(p.Status, "application/problem+json", b)
}
