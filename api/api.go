// Package api is the door: it decodes, asks one use case and writes the
// answer. No rule of the job lives here.
package api

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"dustyfern/craft/fault"
	"dustyfern/studio"
)

const mostBody = 1 << 20

// mostOf is how many bytes a door takes.
func mostOf(path string) int64 {
	switch {
	case strings.HasPrefix(path, importPath):
		return mostDocument
	case strings.HasSuffix(path, "/pantry/look") || strings.HasSuffix(path, "/pantry/import"):
		return mostPantry
	case strings.HasSuffix(path, photoPath):
		return mostPhoto
	case isTable(path):
		return mostTable
	case strings.HasSuffix(path, "/kitchen/busy") || strings.HasSuffix(path, "/kitchen/busy/look"):
		return mostCalendar
	}
	return mostBody
}

// isTable tells of doors that take tables of readings and of notes.
func isTable(path string) bool {
	for _, end := range []string{"/room/readings", "/room/readings/look", "/notebook/look", "/notebook/take"} {
		if strings.HasSuffix(path, end) {
			return true
		}
	}
	return false
}

// hasOwnLimit names the doors that take whole files.
func hasOwnLimit(path string) bool { return mostOf(path) != mostBody }

// notSwallowed refuses a body that says it is too large before any of it is read.
func notSwallowed(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		most := mostOf(r.URL.Path)
		if r.ContentLength <= most {
			return next(c)
		}
		c.Response().Header().Set("Connection", "close") // what comes is not waited for
		say := fmt.Sprintf("That is %.1f MB: at most %d MB are taken here. Nothing of it was read.", float64(r.ContentLength)/(1<<20), most>>20)
		if strings.HasSuffix(r.URL.Path, photoPath) {
			return refuseSpot(c, http.StatusRequestEntityTooLarge, fault.New(fault.OutOfRange, "photo", "%s Save it smaller, or crop it.", say))
		}
		return writeProblem(c, problem(http.StatusRequestEntityTooLarge, say))
	}
}

// Options of the server.
type Options struct {
	Service     *studio.Service
	Live        *Live                                          // nil: no streams
	Reset       func(ctx context.Context, studio string) error // puts the demo back to its first state; nil: there is none
	Scale       *Scale                                         // nil: there is none
	Thermometer *Thermometer                                   // nil: there is none
	Room        *RoomSensor                                    // nil: there is none
	UI          fs.FS                                          // nil: no interface
	Log         *slog.Logger
}

// New makes the server's handler and its description.
func New(o Options) (*echo.Echo, huma.API) {
	e := echo.New()
	e.Logger = o.Log
	e.HTTPErrorHandler = func(c *echo.Context, err error) {
		if r, _ := echo.UnwrapResponse(c.Response()); r != nil && r.Committed {
			return
		}
		var p *Problem
		if !errors.As(err, &p) {
			status := echo.StatusCode(err)
			if status == 0 || status >= 500 {
				status = http.StatusInternalServerError
				o.Log.Error("unexpected", "err", err, "path", c.Request().URL.Path, "request", c.Response().Header().Get(echo.HeaderXRequestID))
				p = problem(status, "Something went wrong here, not with you. Try once more; the server's log says what it was.")
			} else {
				p = problem(status, sentences[status])
			}
		}
		_ = writeProblem(c, p)
	}
	e.Use(middleware.RequestID(), numbered, logRequests(o.Log), middleware.Recover(), localHost, apart, notSwallowed)
	e.Use(middleware.SecureWithConfig(middleware.SecureConfig{XFrameOptions: "DENY", ContentTypeNosniff: "nosniff", ReferrerPolicy: "same-origin",
		// PrimeVue puts its styles into the page: style-src needs 'unsafe-inline'
		ContentSecurityPolicy: "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"}))
	e.Use(middleware.BodyLimitWithConfig(middleware.BodyLimitConfig{LimitBytes: mostBody, Skipper: func(c *echo.Context) bool { return hasOwnLimit(c.Request().URL.Path) }}))
	e.Use(middleware.GzipWithConfig(middleware.GzipConfig{Skipper: func(c *echo.Context) bool {
		path := c.Request().URL.Path // files are packed when the interface is built
		return streams(path) || path == linesPath || !strings.HasPrefix(path, "/api/")
	}}))
	g := e.Group("/api", sameSite, whoActs, inTime)
	cfg := huma.DefaultConfig("Dusty Fern", "1")
	cfg.OpenAPIPath, cfg.DocsPath, cfg.SchemasPath = "/openapi", "", ""
	cfg.CreateHooks = nil // no $schema field in every body
	cfg.Servers = []*huma.Server{{URL: "/api"}}
	a := huma.NewAPI(cfg, &adapter{Handler: e, add: g.Add})
	if o.Service != nil {
		routes(a, o.Service, o.Reset, o.Log)
		scaleRoutes(a, o.Service, o.Scale, o.Log)
		thermometerRoutes(a, o.Service, o.Thermometer, o.Log)
		roomRoutes(a, o.Service, o.Room, o.Log)
		endingRoutes(a, o.Service, o.Log)
	} else {
		routes(a, &studio.Service{}, nil, o.Log) // described only
		scaleRoutes(a, &studio.Service{}, nil, o.Log)
		thermometerRoutes(a, &studio.Service{}, nil, o.Log)
		roomRoutes(a, &studio.Service{}, nil, o.Log)
		endingRoutes(a, &studio.Service{}, o.Log)
	}
	g.POST("/reckon/:topic", reckonTopic)
	g.POST(photoPath, photoSpot)
	documents(g, &o)
	if o.Live != nil {
		g.GET("/s/:studio/events", o.Live.stream(o.Service, o.Log))
	}
	if o.Thermometer != nil {
		g.GET("/s/:studio/thermometer/live", thermometerLive(o.Service, o.Thermometer, o.Live, o.Log))
	}
	if o.Room != nil {
		g.GET("/s/:studio/room/live", roomLive(o.Service, o.Room, o.Live, o.Log))
	}
	if o.Scale != nil {
		g.GET("/s/:studio/scale/live", scaleLive(o.Service, o.Scale, o.Live, o.Log))
	}
	g.RouteNotFound("/*", func(c *echo.Context) error { return echo.ErrNotFound })
	e.GET("/healthz", func(c *echo.Context) error { return c.String(http.StatusOK, "ok\n") })
	e.GET("/readyz", func(c *echo.Context) error {
		ctx, cancel := context.WithTimeout(c.Request().Context(), readyWithin)
		defer cancel()
		if err := o.Service.Store.Ping(ctx); err != nil {
			return problem(http.StatusServiceUnavailable, "The database does not answer.")
		}
		return c.String(http.StatusOK, "ready\n")
	})
	if o.UI != nil {
		e.Use(static(o.UI))
	}
	return e, a
}

var sentences = map[int]string{
	http.StatusNotFound:              "There is nothing at this address.",
	http.StatusMethodNotAllowed:      "This address does not do that.",
	http.StatusRequestEntityTooLarge: "That is more than a megabyte: too much at once.",
	http.StatusBadRequest:            "That request cannot be read.",
	http.StatusForbidden:             "That is not allowed from there.",
}

// localHost refuses names other than this machine's own: a page elsewhere that
// points its name here must not reach a kitchen.
func localHost(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		host := c.Request().Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		if !slices.Contains([]string{"127.0.0.1", "localhost", "[::1]", "::1"}, host) {
			return problem(http.StatusForbidden, "Dusty Fern answers on 127.0.0.1 and localhost only.")
		}
		return next(c)
	}
}

// readyWithin is how long the database may take to show that it is there.
const readyWithin = 2 * time.Second

// longest is how long a use case may take: a database that hangs is as good as
// away, and the window keeps what was typed. Whole files take longer.
const (
	longest     = 10 * time.Second
	longestFile = 5 * time.Minute
)

// streams tells the answers that stay open.
func streams(path string) bool {
	return strings.HasSuffix(path, "/events") || strings.HasSuffix(path, "/scale/live") || strings.HasSuffix(path, "/thermometer/live") || strings.HasSuffix(path, "/room/live")
}

// wholeFile tells the doors through which whole files go.
func wholeFile(path string) bool {
	return hasOwnLimit(path) || strings.HasSuffix(path, "/export") || strings.HasSuffix(path, "/reset") || strings.HasSuffix(path, "/delete")
}

func inTime(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		most := longest
		switch {
		case streams(r.URL.Path):
			return next(c)
		case wholeFile(r.URL.Path):
			most = longestFile
			out := http.NewResponseController(c.Response())
			at := time.Now().Add(most)
			if err := errors.Join(out.SetReadDeadline(at), out.SetWriteDeadline(at)); err != nil && !errors.Is(err, http.ErrNotSupported) {
				return err
			}
		}
		ctx, cancel := context.WithTimeout(r.Context(), most)
		defer cancel()
		c.SetRequest(r.WithContext(ctx))
		return next(c)
	}
}

// numbered puts the number of the request where what goes wrong is logged.
func numbered(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		c.SetRequest(r.WithContext(context.WithValue(r.Context(), requestKey{}, c.Response().Header().Get(echo.HeaderXRequestID))))
		return next(c)
	}
}

// apart keeps other sites' pages from holding or reading ours, and our page from
// what it never asks for.
func apart(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), payment=(), usb=()")
		return next(c)
	}
}

// sameSite refuses requests that another site's page sends.
func sameSite(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		site := r.Header.Get("Sec-Fetch-Site")
		if site == "cross-site" || site == "same-site" {
			return problem(http.StatusForbidden, "Requests from other sites are refused.")
		}
		if origin := r.Header.Get("Origin"); origin != "" && origin != "http://"+r.Host {
			return problem(http.StatusForbidden, "Requests from other sites are refused.")
		}
		return next(c)
	}
}

func logRequests(log *slog.Logger) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			err := next(c)
			log.Debug("request", "method", c.Request().Method, "path", c.Request().URL.Path, "request", c.Response().Header().Get(echo.HeaderXRequestID), "err", err)
			return err
		}
	}
}
