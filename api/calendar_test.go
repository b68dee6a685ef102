package api

import (
	"net/http"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"

	"dustyfern/demo"
)

// TestTheCalendarShowsTheSameInstants: another program's parser reads every planned step
// and hand-over out of the file at the instant at which the line has it, also across the
// night in which summer time ends.
func TestTheCalendarShowsTheSameInstants(t *testing.T) {
	t.Parallel()
	h := serve(t, false)
	h.now = time.Date(2026, 10, 22, 19, 0, 0, 0, time.UTC) // the clocks go back on the 25th
	if err := demo.Load(t.Context(), h.store, h.now); err != nil {
		t.Fatal(err)
	}
	want := map[string]time.Time{}
	summer, winter := 0, 0
	for _, s := range h.steps() {
		if s.Attended && s.ActualStart == nil {
			want[s.Title+" "+s.Start.UTC().Format(time.RFC3339)] = s.Start
			if s.Start.Before(time.Date(2026, 10, 25, 1, 0, 0, 0, time.UTC)) {
				summer++
			} else {
				winter++
			}
		}
	}
	if summer == 0 || winter == 0 {
		t.Fatalf("%d steps before the clocks change and %d after: nothing is tried", summer, winter)
	}
	got, err := http.Get(h.url + "/api" + hollow + "/calendar")
	if err != nil {
		t.Fatal(err)
	}
	defer got.Body.Close()
	if head := got.Header; !strings.HasPrefix(head.Get("Content-Type"), "text/calendar") || !strings.Contains(head.Get("Content-Disposition"), ".ics") {
		t.Errorf("%v", head)
	}
	cal, err := ics.ParseCalendar(got.Body)
	if err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	overs := 0
	for _, e := range cal.Events() {
		start, err := e.GetStartAt()
		if err != nil {
			t.Fatal(err)
		}
		end, err := e.GetEndAt()
		if err != nil || !end.After(start) || seen[e.Id()] {
			t.Errorf("%s from %s to %s (%v)", e.Id(), start, end, err)
		}
		seen[e.Id()] = true
		title := e.GetProperty(ics.ComponentPropertySummary).Value
		title = strings.NewReplacer(`\,`, ",", `\;`, ";", `\\`, `\`).Replace(title)
		if strings.HasPrefix(title, "Hand over: ") {
			overs++
			continue
		}
		delete(want, title+" "+start.UTC().Format(time.RFC3339)) // of the first order
	}
	for title := range want {
		t.Errorf("%s is not in the calendar at that instant", title)
	}
	if len(seen)-overs < 60 || overs < 3 {
		t.Errorf("%d steps and %d hand-overs", len(seen)-overs, overs)
	}
	if none, err := http.Get(h.url + "/api/s/nowhere/calendar"); err != nil || none.StatusCode != http.StatusNotFound {
		t.Errorf("%v %v for a studio that is none", none, err)
	}
}
