package api

import (
	"context"
	"errors"
	"io"
	"net/http"
	"runtime/debug"

	"github.com/labstack/echo/v5"

	"dustyfern/craft/fault"
	"dustyfern/craft/photo"
)

const (
	photoPath = "/photo"
	mostPhoto = 12 << 20
)

// unfolding is held while a photo is unfolded, which may take some hundred MB:
// one at a time. Who goes away waits no longer.
var unfolding = make(chan struct{}, 1)

// photoSpot answers the colour of a spot of a photo: ?x= and y=, and for a white
// card cardX= and cardY=, each a share of the width and height as it is looked
// at.
func photoSpot(c *echo.Context) error {
	raw, err := io.ReadAll(http.MaxBytesReader(c.Response(), c.Request().Body, mostPhoto))
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		return refuseSpot(c, http.StatusRequestEntityTooLarge, fault.New(fault.OutOfRange, "photo", "A photo of up to 12 MB is read; this one is larger. Save it smaller, or crop it."))
	}
	if err != nil {
		return err
	}
	var in photo.In
	if in.Spot, err = spotOf(c, "x", "y"); err != nil {
		return refuseSpot(c, http.StatusUnprocessableEntity, err)
	}
	if c.QueryParam("cardX") != "" {
		card, err := spotOf(c, "cardX", "cardY")
		if err != nil {
			return refuseSpot(c, http.StatusUnprocessableEntity, err)
		}
		in.Card = &card
	}
	var out photo.Out
	err = unfolded(c.Request().Context(), func() (err error) {
		out, err = photo.Pick(raw, in)
		return err
	})
	if errors.Is(err, errCrowd) {
		return problem(http.StatusServiceUnavailable, "Other photos are being read: try again in a moment.")
	}
	if err != nil {
		return refuseSpot(c, http.StatusUnprocessableEntity, err)
	}
	return c.JSON(http.StatusOK, out)
}

// errCrowd is a turn that was not waited for.
var errCrowd = errors.New("other photos are being read")

// unfolded runs f in its turn, and gives the turn back whatever a broken photo does
// to its decoder.
func unfolded(ctx context.Context, f func() error) error {
	select {
	case unfolding <- struct{}{}:
	case <-ctx.Done():
		return errCrowd
	}
	defer func() {
		debug.FreeOSMemory() // the unfolded photo is not kept beside the work
		<-unfolding
	}()
	return f()
}

// keptSmall makes a photo small enough to keep.
func keptSmall(ctx context.Context, raw []byte) (jpeg []byte, err error) {
	err = unfolded(ctx, func() (err error) {
		jpeg, err = photo.Small(raw)
		return err
	})
	return jpeg, err
}

// photoFile answers a photo. It never changes: a browser may keep it.
func photoFile(c *echo.Context, o *Options) error {
	id, err := echo.PathParam[int64](c, "photo")
	if err != nil {
		return echo.ErrNotFound
	}
	jpeg, err := o.Service.Photo(c.Request().Context(), c.Param("studio"), id)
	if err != nil {
		return refuse(c.Request().Context(), o.Log, "photo", err)
	}
	c.Response().Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	return c.Blob(http.StatusOK, "image/jpeg", jpeg)
}

func refuseSpot(c *echo.Context, status int, err error) error {
	var f *fault.Fault
	if !errors.As(err, &f) {
		return err
	}
	p := problem(status, f.Message)
	p.Code, p.Field, p.Fields = f.Code, f.Field, []FieldFault{{Field: f.Field, Code: f.Code, Detail: f.Message}}
	return writeProblem(c, p)
}

func spotOf(c *echo.Context, x, y string) (s photo.Spot, err error) {
	if s.X, err = echo.QueryParam[float64](c, x); err == nil {
		s.Y, err = echo.QueryParam[float64](c, y)
	}
	if err != nil || !(s.X >= 0 && s.X <= 1 && s.Y >= 0 && s.Y <= 1) {
		return s, fault.New(fault.OutOfRange, x, "A spot is a share of the width and the height, from 0 to 1.")
	}
	return s, nil
}
