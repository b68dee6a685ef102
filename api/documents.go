package api

import (
	"encoding/csv"
	"net/http"

	"github.com/labstack/echo/v5"
)

const (
	importPath   = "/api/studios/import"
	mostDocument = 128 << 20
)

// whole is a document as it was sent.
type whole struct {
	RawBody []byte `contentType:"application/json"`
}

// documents are the doors for whole files: a studio as JSON, tables as CSV.
func documents(g *echo.Group, o *Options) {
	s := o.Service
	g.GET("/s/:studio/export", func(c *echo.Context) error {
		raw, err := s.Export(c.Request().Context(), c.Param("studio"))
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		return attach(c, c.Param("studio")+".json", "application/json", raw)
	})
	g.GET("/s/:studio/pantry/file/:kind", func(c *echo.Context) error {
		kind := c.Param("kind")
		if kind != "csv" && kind != "json" {
			return echo.ErrNotFound
		}
		raw, err := s.PantryFile(c.Request().Context(), c.Param("studio"), kind)
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		return attach(c, "pantry."+kind, map[string]string{"csv": "text/csv; charset=utf-8", "json": "application/json"}[kind], raw)
	})
	g.GET("/s/:studio/shopping/file/:kind", func(c *echo.Context) error {
		kind := c.Param("kind")
		if kind != "csv" && kind != "txt" {
			return echo.ErrNotFound
		}
		raw, err := s.ShoppingFile(c.Request().Context(), c.Param("studio"), kind)
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		return attach(c, "shopping."+kind, map[string]string{"csv": "text/csv; charset=utf-8", "txt": "text/plain; charset=utf-8"}[kind], raw)
	})
	g.GET("/s/:studio/csv/:kind", func(c *echo.Context) error {
		rows, err := s.Table(c.Request().Context(), c.Param("studio"), c.Param("kind"))
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		h := c.Response().Header()
		h.Set("Content-Type", "text/csv; charset=utf-8")
		h.Set("Content-Disposition", `attachment; filename="`+c.Param("kind")+`.csv"`)
		w := csv.NewWriter(c.Response())
		for _, row := range rows {
			if err := w.Write(row); err != nil {
				return nil
			}
		}
		w.Flush()
		return nil
	})
}

func attach(c *echo.Context, name, kind string, raw []byte) error {
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	return c.Blob(http.StatusOK, kind, raw)
}
