package read

import (
	"strings"
	"testing"
	"time"

	"dustyfern/studio/noun"
)

func TestDatesAsPeopleSayThem(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	if err != nil {
		t.Fatal(err)
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, zone) // a Tuesday
	for text, want := range map[string]string{
		"Sat week, 10:00": "Sat 5 Dec, 10:00", "sat 10am": "Sat 28 Nov, 10:00", "5 Dec 10:00": "Sat 5 Dec, 10:00", "tomorrow 18:00": "Wed 25 Nov, 18:00", "in 9 days": "Thu 3 Dec, 12:00",
		"2026-12-05 10:00": "Sat 5 Dec, 10:00", "next Friday 6.30pm": "Fri 4 Dec, 18:30", "Sat 5 Dec, 10:00": "Sat 5 Dec, 10:00", "5 January": "Tue 5 Jan 2027, 12:00", "December 5, noon": "Sat 5 Dec, 12:00",
		"in two weeks 15:00": "Tue 8 Dec, 15:00", "Tuesday 19:00": "Tue 1 Dec, 19:00", "tuesday 21:00": "Tue 24 Nov, 21:00", "5/12 9:00": "Sat 5 Dec, 09:00", "today 23:00": "Tue 24 Nov, 23:00",
	} {
		got, ok := ReadDate(text, now, 12)
		if !ok || SayDate(got, now) != want {
			t.Errorf("%q: %s %v, want %s", text, SayDate(got, now), ok, want)
		}
	}
	for _, text := range []string{"someday", "32 Nov", "Mon 5 Dec", "25:00", "5 Dec 10:75", "🍰", "13/13"} {
		if got, ok := ReadDate(text, now, 12); ok {
			t.Errorf("%q was read as %s", text, SayDate(got, now))
		}
	}
}

// What is shown is understood again, to the minute.
func TestShownDatesReadBack(t *testing.T) {
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	for h := 1; h < 24*400; h += 37 {
		at := now.Add(time.Duration(h) * time.Hour)
		got, ok := ReadDate(SayDate(at, now), now, 12)
		if !ok || !got.Equal(at) {
			t.Fatalf("%s came back as %s %v", SayDate(at, now), SayDate(got, now), ok)
		}
	}
}

func TestLengthsOfTime(t *testing.T) {
	for m, want := range map[int]string{0: "0 min", 59: "59 min", 60: "1 h", 200: "3 h 20", 2880: "2 days", 3120: "2 days 4 h"} {
		if got := SayMinutes(m); got != want {
			t.Errorf("%d: %q", m, got)
		}
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	for d, want := range map[time.Duration]string{0: "now", 200 * time.Minute: "in 3 h 20", -2 * time.Hour: "2 h ago", 9 * 24 * time.Hour: "in 9 days"} {
		if got := SayWhen(now.Add(d), now); got != want {
			t.Errorf("%v: %q", d, got)
		}
	}
}

// Summer time is inside the concrete windows: 19:00 stays 19:00 on the clock.
func TestWindowsOverTheChangeOfTheClock(t *testing.T) {
	k := noun.NewKitchen("x")
	zone := k.Zone()
	from := time.Date(2026, 3, 23, 0, 0, 0, 0, zone)
	for _, w := range k.OpenHours(from, from.AddDate(0, 0, 14)) {
		if h := w.Start.In(zone).Hour(); h != 19 && h != 9 {
			t.Errorf("%s begins at %s", w.Id, w.Start.In(zone))
		}
		if l := w.End.Sub(w.Start); l != 3*time.Hour && l != 4*time.Hour {
			t.Errorf("%s lasts %s", w.Id, l)
		}
	}
	k.Exceptions = []noun.Exception{{Date: "2026-03-24", Open: []noun.Hours{}}}
	for _, w := range k.OpenHours(from, from.AddDate(0, 0, 14)) {
		if w.Day == "2026-03-24" {
			t.Error("a shut day is open")
		}
	}
}

func TestLinesOfForms(t *testing.T) {
	for line, want := range map[string]string{"Tue 19:00-22:00 Ines, Tobi": "19:00-22:00 Ines, Tobi", "sunday 14-18": "14:00-18:00", "Sat 7.00 to 9.30 (unwelcome)": "07:00-09:30 (unwelcome)"} {
		h, err := readWeekly(line)
		if err != nil || showHours(h) != want {
			t.Errorf("%q: %q %v", line, showHours(h), err)
		}
	}
	for _, line := range []string{"Tue", "Noday 19:00-22:00", "Tue 22:00-19:00", "Tue 19:00-25:00 x"} {
		if _, err := readWeekly(line); err == nil {
			t.Errorf("%q was read", line)
		}
	}
	for _, line := range []string{"round 250 mm, 110 mm tall, coated 5 mm sage sugar paste", "square 180 mm", "round 150 mm, 90 mm tall"} {
		tier, err := readTier(line)
		if err != nil || showTier(tier) != line {
			t.Errorf("%q: %q %v", line, showTier(tier), err)
		}
	}
}

func FuzzReadDate(f *testing.F) {
	for _, s := range []string{"Sat week, 10:00", "5 Dec 10am", "in 9 days", "2026-12-05 10:00", "next next", "at at 10", "0/0"} {
		f.Add(s)
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, text string) {
		if got, ok := ReadDate(text, now, 12); ok && got.IsZero() {
			t.Fatal(text)
		}
	})
}

func FuzzLinesOfForms(f *testing.F) {
	for _, s := range []string{"Tue 19:00-22:00 Ines", "round 250 mm, 110 mm tall", "5 of 400 x 300 mm", "24 cupped holes", "Thu 24 Dec shut", "Sat 28 Nov 9:00-12:00 Ines"} {
		f.Add(s)
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, line string) {
		if h, err := readWeekly(line); err == nil && (h.From >= h.To || len(h.People) > 4) {
			t.Fatalf("%q: %+v", line, h)
		}
		if tier, err := readTier(line); err == nil && (tier.SizeMM < 20 || tier.HeightMM < 0) {
			t.Fatalf("%q: %+v", line, tier)
		}
		if tray, err := readTray(line); err == nil && (tray.Count < 1 || tray.LengthMM < 50) {
			t.Fatalf("%q: %+v", line, tray)
		}
		if x, err := readException(line, now); err == nil && x.Date == "" {
			t.Fatalf("%q: %+v", line, x)
		}
	})
}

// TestDaysThatAreLeftOut: where a zone skipped a day the calendar ends all the
// same, and that day has no hours.
func TestDaysThatAreLeftOut(t *testing.T) {
	k := noun.NewKitchen("x")
	k.TimeZone = "Pacific/Apia" // there was no Friday 30 December 2011
	k.Hours = nil
	for d := range 7 {
		k.Hours = append(k.Hours, noun.Hours{Weekday: time.Weekday(d), From: "19:00", To: "22:00"})
	}
	from := time.Date(2011, 12, 28, 0, 0, 0, 0, k.Zone())
	days := []string{}
	for _, w := range k.OpenHours(from, from.Add(5*24*time.Hour)) {
		days = append(days, w.Day[5:])
	}
	if got := strings.Join(days, " "); got != "12-28 12-29 12-31 01-01 01-02" {
		t.Error(got)
	}
}

// TestClocksAsPeopleMeanThem: an hour that comes twice is the first, one that is
// left out is after the gap, and a month after the 31st is its last day.
func TestClocksAsPeopleMeanThem(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	if err != nil {
		t.Fatal(err)
	}
	now := time.Date(2026, 10, 20, 12, 0, 0, 0, zone)
	for text, want := range map[string]string{
		"25 Oct 1:30":         "2026-10-25T00:30:00Z", // twice: summer time is the first
		"28 March 2027 1:30":  "2027-03-28T01:30:00Z", // left out: 2:30 of summer time
		"25 Oct 3:00":         "2026-10-25T03:00:00Z",
		"in 1 month 10:00":    "2026-11-20T10:00:00Z",
		"in 3 weeks 10:00":    "2026-11-10T10:00:00Z",
		"31 Oct 10:00":        "2026-10-31T10:00:00Z",
		"29 Feb 2028, 10:00":  "2028-02-29T10:00:00Z",
		"in four months 9:00": "2027-02-20T09:00:00Z",
	} {
		got, ok := ReadDate(text, now, 12)
		if !ok || got.UTC().Format(time.RFC3339) != want {
			t.Errorf("%q: %s %v, want %s", text, got.UTC().Format(time.RFC3339), ok, want)
		}
	}
	for from, want := range map[time.Time]string{time.Date(2027, 1, 31, 9, 0, 0, 0, zone): "28 Feb", time.Date(2028, 1, 31, 9, 0, 0, 0, zone): "29 Feb", time.Date(2027, 8, 31, 9, 0, 0, 0, zone): "30 Sep"} {
		if got, ok := ReadDate("in a month 9:00", from, 12); !ok || got.Format("2 Jan") != want {
			t.Errorf("a month after %s: %s %v", from, got, ok)
		}
	}
}

// TestAGradeIsOneOfFive: neither a date nor a number that begins like one.
func TestAGradeIsOneOfFive(t *testing.T) {
	for text, want := range map[string]int{"3": 3, "5 cracks": 5, "31 Feb": 0, "33": 0, "6": 0, "0": 0, "4.5": 0} {
		var l noun.Lot
		err := Apply(LotFields, Reader{K: new(noun.NewKitchen("x"))}, &l, map[string]string{"grade": text}, time.Now())
		if (err == nil) != (want > 0) || want > 0 && *l.Grade != want {
			t.Errorf("%q: %v %v", text, l.Grade, err)
		}
	}
}
