package api

import (
	"context"
	"crypto/tls"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"
)

// exchange lets huma describe and serve operations on Echo v5; huma's own
// adapter is for Echo v4 only.
type exchange struct {
	op     *huma.Operation
	c      *echo.Context
	status int
}

var _ huma.Context = (*exchange)(nil)

func (h *exchange) Operation() *huma.Operation        { return h.op }
func (h *exchange) Context() context.Context          { return h.c.Request().Context() }
func (h *exchange) Method() string                    { return h.c.Request().Method }
func (h *exchange) Host() string                      { return h.c.Request().Host }
func (h *exchange) RemoteAddr() string                { return h.c.Request().RemoteAddr }
func (h *exchange) URL() url.URL                      { return *h.c.Request().URL }
func (h *exchange) Param(name string) string          { return h.c.Param(name) }
func (h *exchange) Query(name string) string          { return h.c.QueryParam(name) }
func (h *exchange) Header(name string) string         { return h.c.Request().Header.Get(name) }
func (h *exchange) BodyReader() io.Reader             { return h.c.Request().Body }
func (h *exchange) SetReadDeadline(t time.Time) error { return huma.SetReadDeadline(h.c.Response(), t) }
func (h *exchange) SetStatus(code int)                { h.status = code; h.c.Response().WriteHeader(code) }
func (h *exchange) Status() int                       { return h.status }
func (h *exchange) AppendHeader(name, value string)   { h.c.Response().Header().Add(name, value) }
func (h *exchange) SetHeader(name, value string)      { h.c.Response().Header().Set(name, value) }
func (h *exchange) BodyWriter() io.Writer             { return h.c.Response() }
func (h *exchange) TLS() *tls.ConnectionState         { return h.c.Request().TLS }

func (h *exchange) EachHeader(cb func(name, value string)) {
	for name, values := range h.c.Request().Header {
		for _, v := range values {
			cb(name, v)
		}
	}
}

func (h *exchange) GetMultipartForm() (*multipart.Form, error) {
	err := h.c.Request().ParseMultipartForm(8 << 20)
	return h.c.Request().MultipartForm, err
}

func (h *exchange) Version() huma.ProtoVersion {
	r := h.c.Request()
	return huma.ProtoVersion{Proto: r.Proto, ProtoMajor: r.ProtoMajor, ProtoMinor: r.ProtoMinor}
}

type adapter struct {
	http.Handler
	add func(method, path string, h echo.HandlerFunc, m ...echo.MiddlewareFunc) echo.RouteInfo
}

var braces = strings.NewReplacer("{", ":", "}", "")

func (a *adapter) Handle(op *huma.Operation, handler func(huma.Context)) {
	a.add(op.Method, braces.Replace(op.Path), func(c *echo.Context) error {
		handler(&exchange{op: op, c: c})
		return nil
	})
}
