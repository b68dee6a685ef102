package api

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// calendarOf is a calendar file with such events.
func calendarOf(events ...string) []byte {
	out := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Elm Bench//Test//EN\r\n"
	for i, e := range events {
		if !strings.Contains(e, "UID:") {
			e += fmt.Sprintf("\nUID:e%d", i)
		}
		out += "BEGIN:VEVENT\r\n" + strings.ReplaceAll(strings.TrimSpace(e), "\n", "\r\n") + "\r\nEND:VEVENT\r\n"
	}
	return []byte(out + "END:VCALENDAR\r\n")
}

// Busy times are read as calendars write them: in a zone, in UTC or of the kitchen, whole
// days, for a length, again and again across a change of summer time, with what is called
// off or moved; notes and what cannot be read are left out.
func TestBusyTimesOutOfACalendar(t *testing.T) {
	t.Parallel()
	london, err := time.LoadLocation("Europe/London")
	if err != nil {
		t.Fatal(err)
	}
	from, to := time.Date(2026, 10, 20, 0, 0, 0, 0, time.UTC), time.Date(2026, 11, 12, 0, 0, 0, 0, time.UTC)
	for name, x := range map[string]struct {
		events []string
		want   string
		unread int
	}{
		"in UTC":               {[]string{"DTSTART:20261022T190000Z\nDTEND:20261022T200000Z"}, "22 19:00-20:00", 0},
		"of the kitchen":       {[]string{"DTSTART:20261022T190000\nDTEND:20261022T200000"}, "22 18:00-19:00", 0},
		"in a zone":            {[]string{"DTSTART;TZID=Europe/Berlin:20261022T190000\nDTEND;TZID=Europe/Berlin:20261022T200000"}, "22 17:00-18:00", 0},
		"in a zone of its own": {[]string{"DTSTART;TZID=Somewhere:20261022T190000\nDTEND;TZID=Somewhere:20261022T200000"}, "22 18:00-19:00", 0},
		"a whole day":          {[]string{"DTSTART;VALUE=DATE:20261025"}, "24 23:00-00:00", 0}, // it has 25 hours
		"for a length":         {[]string{"DTSTART:20261022T190000Z\nDURATION:PT1H30M"}, "22 19:00-20:30", 0},
		"every week":           {[]string{"DTSTART;TZID=Europe/London:20260901T190000\nDTEND;TZID=Europe/London:20260901T200000\nRRULE:FREQ=WEEKLY"}, "20 18:00-19:00, 27 19:00-20:00, 03 19:00-20:00, 10 19:00-20:00", 0},
		"but not then":         {[]string{"DTSTART;TZID=Europe/London:20260901T190000\nDTEND;TZID=Europe/London:20260901T200000\nRRULE:FREQ=WEEKLY\nEXDATE;TZID=Europe/London:20261027T190000"}, "20 18:00-19:00, 03 19:00-20:00, 10 19:00-20:00", 0},
		"moved once": {[]string{"UID:a\nDTSTART;TZID=Europe/London:20261103T190000\nDTEND;TZID=Europe/London:20261103T200000\nRRULE:FREQ=WEEKLY;COUNT=2",
			"UID:a\nRECURRENCE-ID;TZID=Europe/London:20261110T190000\nDTSTART;TZID=Europe/London:20261111T100000\nDTEND;TZID=Europe/London:20261111T110000"}, "03 19:00-20:00, 11 10:00-11:00", 0},
		"a note":           {[]string{"DTSTART:20261022T190000Z\nDTEND:20261022T200000Z\nTRANSP:TRANSPARENT"}, "", 0},
		"called off":       {[]string{"DTSTART:20261022T190000Z\nDTEND:20261022T200000Z\nSTATUS:CANCELLED"}, "", 0},
		"long ago":         {[]string{"DTSTART:20250101T190000Z\nDTEND:20250101T200000Z"}, "", 0},
		"goes on into it":  {[]string{"DTSTART:20261019T220000Z\nDTEND:20261020T030000Z"}, "19 22:00-03:00", 0},
		"by the second":    {[]string{"DTSTART:19700101T000000Z\nDTEND:19700101T000100Z\nRRULE:FREQ=SECONDLY"}, "", 1},
		"backwards":        {[]string{"DTSTART:20261022T190000Z\nDTEND:20261022T180000Z"}, "", 1},
		"without a time":   {[]string{"SUMMARY:nothing"}, "", 1},
		"a torn rule":      {[]string{"DTSTART:20261022T190000Z\nDTEND:20261022T200000Z\nRRULE:FREQ=OFTEN"}, "", 1},
		"a torn length":    {[]string{"DTSTART:20261022T190000Z\nDURATION:PT"}, "", 1},
		"without a length": {[]string{"DTSTART:20261022T190000Z"}, "", 1},
	} {
		got, unread, err := busyTimes(calendarOf(x.events...), london, from, to)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		slices.SortFunc(got, func(a, b noun.Busy) int { return a.Start.Compare(b.Start) })
		var says []string
		for _, b := range got {
			says = append(says, b.Start.UTC().Format("02 15:04")+"-"+b.End.UTC().Format("15:04"))
		}
		if s := strings.Join(says, ", "); s != x.want || unread != x.unread {
			t.Errorf("%s: %q and %d unread, not %q and %d", name, s, unread, x.want, x.unread)
		}
	}
	for _, torn := range []string{"", "hello", "{}", "BEGIN:VCALENDAR", "\x00\xff"} {
		if _, _, err := busyTimes([]byte(torn), london, from, to); err == nil && torn != "BEGIN:VCALENDAR" {
			t.Errorf("%q is read", torn)
		} else if f, ok := err.(*fault.Fault); err != nil && (!ok || f.Field != "file") {
			t.Errorf("%q: %v", torn, err)
		}
	}
}

func FuzzBusyTimes(f *testing.F) {
	f.Add(calendarOf("DTSTART:20261022T190000Z\nDTEND:20261022T200000Z\nRRULE:FREQ=WEEKLY;BYDAY=TU"))
	f.Add(calendarOf("DTSTART;VALUE=DATE:20261025\nRDATE:20261030\nEXDATE:20261025"))
	from := time.Date(2026, 10, 20, 0, 0, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, raw []byte) {
		got, _, err := busyTimes(raw, time.UTC, from, from.AddDate(0, 0, 30))
		for _, b := range got {
			if err != nil || !b.End.After(b.Start) || !b.End.After(from) {
				t.Errorf("%+v %v", b, err)
			}
		}
	})
}

// The hours at the bench close while somebody is busy, of one or of everybody; it is seen
// before it is kept, the plan goes elsewhere, and it is taken back like any change.
func TestBusyTimesCloseTheHours(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	file := calendarOf("DTSTART;TZID=Europe/London:20261124T180000\nDTEND;TZID=Europe/London:20261124T230000\nRRULE:FREQ=WEEKLY;BYDAY=TH")
	post := func(path string, raw []byte, into any) Problem {
		t.Helper()
		status, p, body := h.send(hollow+path, "application/octet-stream", raw)
		if status == http.StatusOK && into != nil {
			into.(*said).read(t, body)
		}
		return p
	}
	var look said
	post("/kitchen/busy/look?who=Ines", file, &look)
	if v := look.BusyView; v.Found != 13 || v.In != 13 || len(v.Lines) != 6 || !strings.Contains(v.Says, "13 of them in hours at the bench of Ines") {
		t.Errorf("%+v", v)
	}
	if got := h.thursdays(); !slices.Equal(got, []string{"19:00 to 22:00, Ines and Tobi"}) {
		t.Errorf("a look has changed the hours: %q", got)
	}
	if p := post("/kitchen/busy?who=Nobody", file, nil); len(p.Fields) != 1 || p.Fields[0].Field != "who" {
		t.Errorf("%+v", p)
	}
	if p := post("/kitchen/busy?who=Ines", []byte("no calendar"), nil); len(p.Fields) != 1 || p.Fields[0].Field != "file" {
		t.Errorf("%+v", p)
	}
	post("/kitchen/busy?who=Ines", file, nil)
	if got := h.thursdays(); !slices.Equal(got, []string{"19:00 to 22:00, Tobi"}) {
		t.Errorf("Ines is busy: %q", got)
	}
	post("/kitchen/busy?who=", file, nil)
	if got := h.thursdays(); !slices.Equal(got, []string{"shut"}) {
		t.Errorf("all are busy: %q", got)
	}
	for _, s := range h.steps() {
		if s.Attended && s.ActualStart == nil && s.Start.Weekday() == time.Thursday {
			t.Errorf("%s is planned for %s", s.Title, s.StartSays)
		}
	}
	h.must(hollow+"/journal/undo?last=true&entry="+fmt.Sprint(h.journal().UndoID), struct{}{}, nil)
	if got := h.thursdays(); !slices.Equal(got, []string{"19:00 to 22:00, Tobi"}) {
		t.Errorf("taken back: %q", got)
	}
	h.must(hollow+"/kitchen/busy/off?who=Ines", struct{}{}, nil)
	if got := h.thursdays(); !slices.Equal(got, []string{"19:00 to 22:00, Ines and Tobi"}) {
		t.Errorf("let go: %q", got)
	}
}

// thursdays are the hours of the coming Thursday, as the week sheet has them.
func (h *house) thursdays() (out []string) {
	h.t.Helper()
	var w plan.WeekSheet
	h.must(hollow+"/week", nil, &w)
	for _, d := range w.Days {
		if strings.HasPrefix(d.Name, "Thursday") {
			out = append(out, d.Hours)
		}
	}
	return out
}

// The address at which a calendar reads the line holds a secret: without it nothing is
// read, another one makes the old one dead, and it goes neither into documents nor back
// with an undo.
func TestTheAddressOfTheLineIsASecret(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	address := func() string {
		var k studio.KitchenView
		h.must(hollow+"/kitchen", nil, &k)
		return k.Calendar
	}
	read := func(path string) (int, string) {
		t.Helper()
		got, err := http.Get(h.url + path)
		if err != nil {
			t.Fatal(err)
		}
		defer got.Body.Close()
		body, err := io.ReadAll(got.Body)
		if err != nil {
			t.Fatal(err)
		}
		return got.StatusCode, string(body)
	}
	if a := address(); a != "" {
		t.Fatalf("nobody asked for %q", a)
	}
	if status, _ := read("/api" + hollow + "/calendar/.ics"); status != http.StatusNotFound {
		t.Errorf("without a secret: %d", status)
	}
	h.must(hollow+"/kitchen/calendar/renew", struct{}{}, nil)
	first := address()
	if status, body := read(first); status != http.StatusOK || strings.Count(body, "BEGIN:VEVENT") < 20 || !strings.Contains(body, "REFRESH-INTERVAL") {
		t.Errorf("%d %.200s", status, body)
	}
	if status, _ := read(strings.TrimSuffix(first, ".ics") + "X.ics"); status != http.StatusNotFound {
		t.Errorf("with another secret: %d", status)
	}
	h.kitchen(set{"bufferMinutes": "90"})
	h.must(hollow+"/journal/undo?last=true&entry="+fmt.Sprint(h.journal().UndoID), struct{}{}, nil)
	if a := address(); a != first {
		t.Errorf("a change that is taken back made %q of %q", a, first)
	}
	if _, body := read("/api" + hollow + "/export"); strings.Contains(body, first[strings.LastIndexByte(first, '/')+1:len(first)-4]) {
		t.Error("the secret goes out with the document")
	}
	h.must(hollow+"/kitchen/calendar/renew", struct{}{}, nil)
	if status, _ := read(first); status != http.StatusNotFound || address() == first {
		t.Errorf("the old address still reads: %d", status)
	}
	second := address()
	h.must(hollow+"/kitchen/calendar/off", struct{}{}, nil)
	if status, _ := read(second); status != http.StatusNotFound || address() != "" {
		t.Errorf("switched off, it reads: %d", status)
	}
}

// said is what a file would close.
type said struct{ studio.BusyView }

func (s *said) read(t *testing.T, body []byte) {
	t.Helper()
	if err := json.Unmarshal(body, &s.BusyView); err != nil {
		t.Fatal(err)
	}
}
