package api

import (
	"mime"
	"net/http"

	ics "github.com/arran4/golang-ical"
	"github.com/labstack/echo/v5"
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
		cal := ics.NewCalendar()
		cal.SetProductId("-//Dusty Fern//The line//EN")
		cal.SetMethod(ics.MethodPublish)
		cal.SetXWRCalName(name)
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
		c.Response().Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": slug + ".ics"}))
		return c.Blob(http.StatusOK, "text/calendar; charset=utf-8", []byte(cal.Serialize()))
	})
}
