package api

import (
	"encoding/csv"
	"io"
	"net/http"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

const (
	importPath   = "/api/studios/import"
	mostDocument = 16 << 20
)

// documents are the doors for whole files: a studio as JSON, tables as CSV.
func documents(g *echo.Group, o *Options) {
	s := o.Service
	answer := func(c *echo.Context, status int, out any, err error) error {
		if err != nil {
			return refuse(o.Log, err)
		}
		return c.JSON(status, out)
	}
	g.POST("/studios/import", func(c *echo.Context) error {
		raw, err := io.ReadAll(c.Request().Body)
		if err != nil {
			return err
		}
		if c.QueryParam("look") != "" {
			seen, err := s.Look(c.Request().Context(), raw)
			return answer(c, http.StatusOK, seen, err)
		}
		row, err := s.Import(c.Request().Context(), raw)
		return answer(c, http.StatusOK, row, err)
	}, middleware.BodyLimit(mostDocument))
	g.GET("/s/:studio/export", func(c *echo.Context) error {
		raw, err := s.Export(c.Request().Context(), c.Param("studio"))
		if err != nil {
			return refuse(o.Log, err)
		}
		return attach(c, c.Param("studio")+".json", "application/json", raw)
	})
	g.GET("/s/:studio/csv/:kind", func(c *echo.Context) error {
		rows, err := s.Table(c.Request().Context(), c.Param("studio"), c.Param("kind"))
		if err != nil {
			return refuse(o.Log, err)
		}
		h := c.Response().Header()
		h.Set("Content-Type", "text/csv; charset=utf-8")
		h.Set("Content-Disposition", `attachment; filename="`+c.Param("kind")+`.csv"`)
		w := csv.NewWriter(c.Response())
		for _, row := range rows {
			for i := range row {
				row[i] = harmless(row[i])
			}
			if err := w.Write(row); err != nil {
				return nil
			}
		}
		w.Flush()
		return nil
	})
	g.POST("/s/:studio/reset", func(c *echo.Context) error {
		if o.Reset == nil {
			return problem(http.StatusNotFound, "There is no demo here to be put back.")
		}
		return answer(c, http.StatusOK, struct{}{}, o.Reset(c.Request().Context(), c.Param("studio")))
	})
}

func attach(c *echo.Context, name, kind string, raw []byte) error {
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	return c.Blob(http.StatusOK, kind, raw)
}

// harmless keeps a spreadsheet from reading a text as a formula.
func harmless(s string) string {
	if s != "" && (s[0] == '=' || s[0] == '+' || s[0] == '@' || s[0] == '-' && len(s) > 1 && (s[1] < '0' || s[1] > '9')) {
		return "'" + s
	}
	return s
}
