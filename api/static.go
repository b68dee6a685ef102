package api

import (
	"errors"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/labstack/echo/v5"
)

// packings are how files were packed when the interface was built, the smallest
// first.
var packings = [][2]string{{"br", ".br"}, {"gzip", ".gz"}}

// static serves the interface; every address without a file is the page
// itself, but a missing asset is missing.
func static(ui fs.FS) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if strings.HasPrefix(r.URL.Path, "/api/") || r.Method != http.MethodGet && r.Method != http.MethodHead {
				return next(c)
			}
			if err := next(c); err == nil || !errors.Is(err, echo.ErrNotFound) {
				return err
			}
			name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
			asset := strings.HasPrefix(name, "assets/")
			if info, err := fs.Stat(ui, name); err != nil || info.IsDir() || strings.HasPrefix(path.Base(name), ".") {
				if asset {
					return echo.ErrNotFound
				}
				name = "index.html"
			}
			return serveFile(c, ui, name, asset)
		}
	}
}

// serveFile answers with a file as it was packed, when the browser takes that.
func serveFile(c *echo.Context, ui fs.FS, name string, asset bool) error {
	h := c.Response().Header()
	h.Set("Cache-Control", "no-cache")
	if asset { // its name changes with its contents
		h.Set("Cache-Control", "public, max-age=31536000, immutable")
	}
	kind := mime.TypeByExtension(path.Ext(name))
	if path.Ext(name) == ".webmanifest" {
		kind = "application/manifest+json"
	}
	h.Add("Vary", "Accept-Encoding")
	takes := c.Request().Header.Get("Accept-Encoding")
	for _, p := range packings {
		if !strings.Contains(takes, p[0]) {
			continue
		}
		if raw, err := fs.ReadFile(ui, name+p[1]); err == nil {
			h.Set("Content-Encoding", p[0])
			return c.Blob(http.StatusOK, kind, raw)
		}
	}
	raw, err := fs.ReadFile(ui, name)
	if err != nil {
		return echo.ErrNotFound
	}
	return c.Blob(http.StatusOK, kind, raw)
}
