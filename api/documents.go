package api

import (
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"dustyfern/studio/document"
)

const (
	importPath   = "/api/studios/import"
	linesPath    = importPath + "/lines"
	mostDocument = 128 << 20
)

// whole is a document as it was sent.
type whole struct {
	RawBody []byte `contentType:"application/json"`
}

// broughtIn is a line of an import while it runs: how far it is, and at the end the
// studio or what went wrong. Nothing stands before the line with the studio.
type broughtIn struct {
	Done    int                 `json:"done"`
	Of      int                 `json:"of"`
	Row     *document.StudioRow `json:"row,omitempty"`
	Problem error               `json:"problem,omitempty"`
}

// bringIn imports a document and says line by line how far it is. What is wrong with
// the document is answered before the first line, as everywhere.
func bringIn(c *echo.Context, o *Options) error {
	ctx := c.Request().Context()
	raw, err := io.ReadAll(http.MaxBytesReader(c.Response(), c.Request().Body, mostDocument))
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		return problem(http.StatusRequestEntityTooLarge, fmt.Sprintf("A document of up to %d MB is read; this one is larger.", mostDocument>>20))
	}
	if err != nil {
		return err
	}
	d, err := document.ReadDocument(raw)
	if err != nil {
		return refuse(ctx, o.Log, "bringIn", err)
	}
	c.Response().Header().Set("Content-Type", "application/x-ndjson")
	c.Response().WriteHeader(http.StatusOK)
	lines, out := json.NewEncoder(c.Response()), http.NewResponseController(c.Response())
	last := broughtIn{}
	row, err := o.Service.BringIn(ctx, &d, func(done, of int) {
		last = broughtIn{Done: done, Of: of}
		_ = lines.Encode(last) // who has gone away is noticed by the context
		_ = out.Flush()
	})
	if last.Row = &row; err != nil {
		last.Row, last.Problem = nil, refuse(ctx, o.Log, "bringIn", err)
	}
	_ = lines.Encode(last)
	return nil
}

// documents are the doors for whole files: a studio as JSON, tables as CSV.
func documents(g *echo.Group, o *Options) {
	s := o.Service
	g.POST(strings.TrimPrefix(linesPath, "/api"), func(c *echo.Context) error { return bringIn(c, o) })
	prints(g, o)
	cards(g, o)
	calendars(g, o)
	g.GET("/s/:studio/photos/:photo", func(c *echo.Context) error { return photoFile(c, o) })
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
	g.GET("/s/:studio/notebook/file/:kind", func(c *echo.Context) error {
		rows, err := s.Notebook.Table(c.Request().Context(), c.Param("studio"))
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		switch c.Param("kind") {
		case "csv":
			return writeTable(c, "notebook.csv", rows)
		case "json":
			return attach(c, "notebook.json", "application/json", notesAsJSON(rows))
		}
		return echo.ErrNotFound
	})
	g.GET("/s/:studio/csv/:kind", func(c *echo.Context) error {
		rows, err := s.Table(c.Request().Context(), c.Param("studio"), c.Param("kind"))
		if err != nil {
			return refuse(c.Request().Context(), o.Log, "file", err)
		}
		return writeTable(c, c.Param("kind")+".csv", rows)
	})
}

func writeTable(c *echo.Context, name string, rows [][]string) error {
	h := c.Response().Header()
	h.Set("Content-Type", "text/csv; charset=utf-8")
	h.Set("Content-Disposition", `attachment; filename="`+name+`"`)
	w := csv.NewWriter(c.Response())
	for _, row := range rows {
		if err := w.Write(row); err != nil {
			return nil
		}
	}
	w.Flush()
	return nil
}

// notesAsJSON is the table of notes as one document: an object a note, of what it has.
func notesAsJSON(rows [][]string) []byte {
	notes := []map[string]string{}
	for _, row := range rows[1:] {
		n := map[string]string{}
		for i, cell := range row {
			if cell != "" {
				n[rows[0][i]] = cell
			}
		}
		notes = append(notes, n)
	}
	raw, _ := json.MarshalIndent(map[string]any{"format": "dustyfern-notes/1", "notes": notes}, "", " ") // maps of texts always marshal
	return raw
}

func attach(c *echo.Context, name, kind string, raw []byte) error {
	c.Response().Header().Set("Content-Disposition", `attachment; filename="`+name+`"`)
	return c.Blob(http.StatusOK, kind, raw)
}
