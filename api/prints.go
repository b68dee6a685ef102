package api

import (
	"context"
	"mime"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"log/slog"

	"dustyfern/craft/fault"
	"dustyfern/craft/outline"
	"dustyfern/studio"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// cutRoutes are those of outlines, of the rolled sheet and of what goes round a tier.
func cutRoutes(a huma.API, s *studio.Service, log *slog.Logger) {
	type drawing struct {
		NumberIn
		RawBody []byte `contentType:"application/octet-stream"`
	}
	file := func(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = outline.MostSVGBytes+1, true }
	register(a, log, http.MethodPost, "drawTool", "/s/{studio}/tools/{id}/outline", func(ctx context.Context, in *drawing) (made, error) {
		return made{in.ID}, s.DrawTool(ctx, in.Studio, in.ID, in.RawBody)
	}, file)
	register(a, log, http.MethodPost, "drawPiece", "/s/{studio}/pieces/{id}/outline", func(ctx context.Context, in *drawing) (made, error) {
		return made{in.ID}, s.DrawPiece(ctx, in.Studio, in.ID, in.RawBody)
	}, file)
	post(a, log, "undrawPiece", "/s/{studio}/pieces/{id}/outline/remove", func(ctx context.Context, in *NumberIn) (made, error) {
		return made{in.ID}, s.DrawPiece(ctx, in.Studio, in.ID, nil)
	})
	post(a, log, "layPieces", "/s/{studio}/pieces/{id}/laid", func(ctx context.Context, in *struct {
		NumberIn
		Body struct {
			Laid []struct {
				XMM float64 `json:"xMM"`
				YMM float64 `json:"yMM"`
				Deg float64 `json:"deg"`
			} `json:"laid" maxItems:"100" doc:"empty: as they fit best"`
		}
	}) (made, error) {
		put := make([]noun.Put, len(in.Body.Laid))
		for i, p := range in.Body.Laid {
			put[i] = noun.Put{XMM: p.XMM, YMM: p.YMM, Deg: p.Deg}
		}
		return made{in.ID}, s.LayPieces(ctx, in.Studio, in.ID, put)
	})
	get(a, log, "round", "/s/{studio}/pieces/{id}/round", func(ctx context.Context, in *struct {
		NumberIn
		Tier  int `query:"tier" minimum:"0" maximum:"100" doc:"which tier, from 0 below"`
		Count int `query:"count" minimum:"0" maximum:"1000" doc:"0: as many as is usual"`
	}) (rounded, error) {
		v, err := s.Round(ctx, in.Studio, in.ID, in.Tier, in.Count)
		return rounded{v}, err
	})
}

// rounded is what goes round a tier; none where the order has no tiers.
type rounded struct {
	Round *work.RoundView `json:"round,omitempty"`
}

// prints are the doors for what is printed at true size.
func prints(g *echo.Group, o *Options) {
	s := o.Service
	g.GET("/s/:studio/print/:what/:id/:as", func(c *echo.Context) error {
		ctx, slug := c.Request().Context(), c.Param("studio")
		id, err := echo.PathParam[int64](c, "id")
		if err != nil {
			return echo.ErrNotFound
		}
		var p *studio.Print
		switch c.Param("what") {
		case "cutter":
			p, err = s.PrintTool(ctx, slug, id)
		case "piece":
			p, err = s.PrintPiece(ctx, slug, id)
		case "sheet":
			p, err = s.PrintRollOut(ctx, slug, id)
		case "strip":
			tier, _ := echo.QueryParamOr(c, "tier", 0)
			count, _ := echo.QueryParamOr(c, "count", 0)
			p, err = s.PrintStrip(ctx, slug, id, tier, count)
		default:
			return echo.ErrNotFound
		}
		if err != nil {
			return refuse(ctx, o.Log, "print", err)
		}
		c.Response().Header().Set("Content-Disposition", mime.FormatMediaType("inline", map[string]string{"filename": p.Name + "." + c.Param("as")}))
		switch c.Param("as") {
		case "svg":
			// a drawing opened by itself runs nothing and fetches nothing
			c.Response().Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'")
			return c.Blob(http.StatusOK, "image/svg+xml", p.SVG())
		case "pdf":
			pdf, err := p.PDF()
			if err != nil {
				return refuse(ctx, o.Log, "print", fault.New(fault.OutOfRange, "id", "It is too large for pages of A4 (%v): take the SVG.", err))
			}
			return c.Blob(http.StatusOK, "application/pdf", pdf)
		}
		return echo.ErrNotFound
	})
}
