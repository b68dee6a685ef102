package api

import (
	"context"
	"log/slog"
	"mime"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dustyfern/studio"
	"dustyfern/studio/leaving"
	"dustyfern/studio/mending"
	"dustyfern/studio/noun"
)

// RescueAsked is what is known so far of something that went wrong, in an address that can be
// gone back to.
type RescueAsked struct {
	InStudio
	Op        string   `query:"op" maxLength:"80"`
	Technique string   `query:"technique" maxLength:"8"`
	Seen      []string `query:"seen" maxItems:"20"`
	Absent    []string `query:"absent" maxItems:"20"`
	Answers   []string `query:"answers" maxItems:"80" doc:"a question and its answer: weakPaste:yes"`
}

func (in *RescueAsked) asked() mending.Asked {
	out := mending.Asked{Op: in.Op, Technique: in.Technique, Seen: in.Seen, Absent: in.Absent, Answers: map[string]bool{}}
	for _, a := range in.Answers {
		if id, said, ok := strings.Cut(a, ":"); ok && (said == "yes" || said == "no") {
			out.Answers[id] = said == "yes"
		}
	}
	return out
}

// endingRoutes are what comes on to pieces, how they go on, what leaves the house, and what to
// do when something went wrong.
func endingRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	post(a, log, "setTones", "/s/{studio}/pieces/{id}/tones", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Version int64       `json:"version"`
			Passes  []noun.Pass `json:"passes" maxItems:"40"`
		}
	}) (made, error) {
		return made{in.ID}, s.SetTones(ctx, in.Studio, in.ID, in.Body.Version, in.Body.Passes)
	})
	get(a, log, "mixTone", "/s/{studio}/pieces/{id}/tones/mix", func(ctx context.Context, in *struct {
		NumberIn
		Target string `query:"target" maxLength:"40"`
		Passes int    `query:"passes" minimum:"1" maximum:"20" default:"2"`
	}) ([]studio.DustMixView, error) {
		return s.MixTone(ctx, in.Studio, in.ID, in.Target, in.Passes)
	})
	post(a, log, "joinHeld", "/s/{studio}/pieces/{id}/join/{did}", func(ctx context.Context, in *struct {
		NumberIn
		Did string `path:"did" enum:"held,fell"`
	}) (made, error) {
		return made{in.ID}, s.Leaving.Held(ctx, in.Studio, in.ID, in.Did == "held")
	})
	get(a, log, "leaving", "/s/{studio}/commissions/{id}/leaving", func(ctx context.Context, in *NumberIn) (leaving.LeavingView, error) {
		return s.Leaving.Read(ctx, in.Studio, in.ID)
	})
	post(a, log, "countIn", "/s/{studio}/commissions/{id}/counted/{item}", func(ctx context.Context, in *struct {
		NumberIn
		Item string `path:"item"`
		Body struct {
			Counted *int `json:"counted,omitempty" doc:"absent: nobody has counted"`
		}
	}) (made, error) {
		return made{in.ID}, s.Leaving.Count(ctx, in.Studio, in.ID, in.Item, in.Body.Counted)
	})
	post(a, log, "clientKnows", "/s/{studio}/commissions/{id}/knows", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Code    string `json:"code" maxLength:"80"`
			Because string `json:"because" maxLength:"400"`
			Says    string `json:"says" maxLength:"600" doc:"what was written; empty: the stop stands again"`
		}
	}) (made, error) {
		return made{in.ID}, s.Leaving.Clear(ctx, in.Studio, in.ID, in.Body.Code, in.Body.Because, in.Body.Says)
	})
	register(a, log, http.MethodPost, "photographFinished", "/s/{studio}/commissions/{id}/finished", func(ctx context.Context, in *struct {
		NumberIn
		RawBody []byte `contentType:"application/octet-stream"`
	}) (made, error) {
		jpeg, err := keptSmall(ctx, in.RawBody)
		if err != nil {
			return made{}, err
		}
		return made{in.ID}, s.Leaving.Finished(ctx, in.Studio, in.ID, jpeg)
	}, func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostPhoto, true })
	get(a, log, "rescue", "/s/{studio}/rescue", func(ctx context.Context, in *RescueAsked) (mending.RescueView, error) {
		return s.Mending.Read(ctx, in.Studio, in.asked())
	})
	post(a, log, "confirmCause", "/s/{studio}/rescue/confirm/{cause}", func(ctx context.Context, in *struct {
		RescueAsked
		Cause string `path:"cause"`
	}) (made, error) {
		return made{}, s.Mending.Confirm(ctx, in.Studio, in.asked(), in.Cause)
	})
	post(a, log, "takeChange", "/s/{studio}/rescue/take/{cause}/{at}", func(ctx context.Context, in *struct {
		RescueAsked
		Cause string `path:"cause"`
		At    int    `path:"at" minimum:"0" maximum:"20"`
	}) (didChange, error) {
		says, err := s.Mending.Take(ctx, in.Studio, in.asked(), in.Cause, in.At)
		return didChange{says}, err
	})
}

// didChange is what a change did, in words.
type didChange struct {
	Says string `json:"says"`
}

// cards are the doors for the card as it is printed.
func cards(g *echo.Group, o *Options) {
	g.GET("/s/:studio/card/:id/:size", func(c *echo.Context) error {
		ctx := c.Request().Context()
		id, err := echo.PathParam[int64](c, "id")
		if err != nil {
			return echo.ErrNotFound
		}
		name, pdf, err := o.Service.Leaving.Print(ctx, c.Param("studio"), id, c.Param("size"))
		if err != nil {
			return refuse(ctx, o.Log, "card", err)
		}
		c.Response().Header().Set("Content-Disposition", mime.FormatMediaType("inline", map[string]string{"filename": name + ".pdf"}))
		return c.Blob(http.StatusOK, "application/pdf", pdf)
	})
}
