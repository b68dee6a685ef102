package api

import (
	"mime"
	"net/http"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/labstack/echo/v5"

	"dustyfern/studio/plan"
)

// calendars are the doors for the plan as an iCalendar file. Instants are written in
// UTC, so that a change of summer time moves none of them.
func calendars(g *echo.Group, o *Options) {
	g.GET("/s/:studio/calendar", func(c *echo.Context) error {
		ctx, slug := c.Request().Context(), c.Param("studio")
		name, now, events, err := o.Service.Calendar(ctx, slug)
		if err != nil {
			return refuse(ctx, o.Log, "calendar", err)
		}
		c.Response().Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": slug + ".ics"}))
		return c.Blob(http.StatusOK, calendarType, calendarFile(name, now, events))
	})
	// whoever knows the secret reads the line, and nothing else
	g.GET("/s/:studio/calendar/:key", func(c *echo.Context) error {
		ctx := c.Request().Context()
		name, now, events, err := o.Service.CalendarAt(ctx, c.Param("studio"), strings.TrimSuffix(c.Param("key"), ".ics"))
		if err != nil {
			return refuse(ctx, o.Log, "calendar", err)
		}
		c.Response().Header().Set("Cache-Control", "no-store")
		return c.Blob(http.StatusOK, calendarType, calendarFile(name, now, events))
	})
}

const (
	calendarType  = "text/calendar; charset=utf-8"
	calendarFresh = "PT30M" // how soon a calendar should look again
)

func calendarFile(name string, now time.Time, events []plan.CalendarEvent) []byte {
	cal := ics.NewCalendar()
	cal.SetProductId("-//Dusty Fern//The line//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(name)
	cal.SetRefreshInterval(calendarFresh)
	cal.SetXPublishedTTL(calendarFresh)
	for _, x := range events {
		e := cal.AddEvent(x.UID + "@dustyfern")
		e.SetDtStampTime(now)
		e.SetStartAt(x.Start)
		e.SetEndAt(x.End)
		e.SetSummary(x.Title)
		if x.Says != "" {
			e.SetDescription(x.Says)
		}
	}
	return []byte(cal.Serialize())
}
