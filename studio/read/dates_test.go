package read

import (
	"math"
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
		"Saturday in a week, 10:00": "Sat 5 Dec, 10:00", "Sat 5 December 2026 at 10:00": "Sat 5 Dec, 10:00",
	} {
		got, ok := uk.ReadDate(text, now, 12)
		if !ok || uk.Date(got, now) != want {
			t.Errorf("%q: %s %v, want %s", text, uk.Date(got, now), ok, want)
		}
	}
	for _, text := range []string{"someday", "32 Nov", "Mon 5 Dec", "25:00", "5 Dec 10:75", "🍰", "13/13"} {
		if got, ok := uk.ReadDate(text, now, 12); ok {
			t.Errorf("%q was read as %s", text, uk.Date(got, now))
		}
	}
}

// What is shown is understood again, to the minute.
func TestShownDatesReadBack(t *testing.T) {
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	for h := 1; h < 24*400; h += 37 {
		at := now.Add(time.Duration(h) * time.Hour)
		got, ok := uk.ReadDate(uk.Date(at, now), now, 12)
		if !ok || !got.Equal(at) {
			t.Fatalf("%s came back as %s %v", uk.Date(at, now), uk.Date(got, now), ok)
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
		all, err := readWeekly(line)
		if err != nil || len(all) != 1 || (uk).HoursText(all[0]) != want {
			t.Errorf("%q: %+v %v", line, all, err)
		}
	}
	for _, line := range []string{"Tue", "Noday 19:00-22:00", "Tue 22:00-19:00", "Tue 19:00-25:00 x"} {
		if _, err := readWeekly(line); err == nil {
			t.Errorf("%q was read", line)
		}
	}
	for _, line := range []string{"round 250 mm, 110 mm tall, coated 5 mm sage sugar paste", "square 180 mm", "round 150 mm, 90 mm tall"} {
		tier, err := readTier(uk, line)
		if err != nil || showTier(uk, tier) != line {
			t.Errorf("%q: %q %v", line, showTier(uk, tier), err)
		}
	}
}

// TestAmericansReadTheirOwn: inches, twelve hours, the month first, in lines as in
// fields, and what is shown is read back as it is.
func TestAmericansReadTheirOwn(t *testing.T) {
	for line, want := range map[string]string{
		"Tue 7pm-10pm Ines":           "Tue 7 pm-10 pm Ines",
		"Sat 9-1pm":                   "Sat 9 am-1 pm",
		"Sun 9:30 am to noon":         "Sun 9:30 am-12 pm",
		"Mon-Wed 7-10pm":              "Mon 7 pm-10 pm, Tue 7 pm-10 pm, Wed 7 pm-10 pm",
		"Sat, Sun 10am-midnight Tobi": "Sat 10 am-midnight Tobi, Sun 10 am-midnight Tobi",
		"weekdays 19:00-22:00":        "Mon 7 pm-10 pm, Tue 7 pm-10 pm, Wed 7 pm-10 pm, Thu 7 pm-10 pm, Fri 7 pm-10 pm",
	} {
		all, err := readWeekly(line)
		var got, again []string
		for _, h := range all {
			shown := h.Weekday.String()[:3] + " " + (us).HoursText(h)
			got = append(got, shown)
			back, err2 := readWeekly(shown)
			if err2 != nil || len(back) != 1 || back[0].From != h.From || back[0].To != h.To {
				t.Errorf("%q is read as %+v, %v", shown, back, err2)
			}
		}
		if strings.Join(got, ", ") != want {
			t.Errorf("%q: %q %v %v", line, got, again, err)
		}
	}
	for _, line := range []string{"Tue 10pm-7pm", "Tue 13pm-14pm", "Foo-Bar 7pm-10pm", "Mon-Tue-Wed 7-8pm"} {
		if all, err := readWeekly(line); err == nil {
			t.Errorf("%q was read: %+v", line, all)
		}
	}
	for line, mm := range map[string]float64{"5 of 16 x 12 in": 406.4, "5 of 16 x 12": 406.4, "5 of 400 x 300 mm": 400, "2 trays of 1 ft x 10 in": 304.8} {
		tray, err := readTray(us, line)
		if err != nil || math.Abs(tray.LengthMM-mm) > 0.01 {
			t.Errorf("%q: %+v %v", line, tray, err)
		}
	}
	for line, want := range map[string]noun.Tier{"round 10 in, 4 in tall, coated 1/4 in sage fondant": {Shape: "round", SizeMM: 254, HeightMM: 101.6, CoatingMM: 6.35, Coating: "sage fondant"}, "square 8": {Shape: "square", SizeMM: 203.2}, "round 25 cm, 11 cm tall": {Shape: "round", SizeMM: 250, HeightMM: 110}} {
		tier, err := readTier(us, line)
		if err != nil || math.Abs(tier.SizeMM-want.SizeMM)+math.Abs(tier.HeightMM-want.HeightMM)+math.Abs(tier.CoatingMM-want.CoatingMM) > 0.01 || tier.Coating != want.Coating {
			t.Errorf("%q: %+v %v", line, tier, err)
		}
		if again, err := readTier(us, showTier(us, tier)); err != nil || math.Abs(again.SizeMM-tier.SizeMM) > 0.02 || again.Coating != tier.Coating {
			t.Errorf("%q: %+v %v", showTier(us, tier), again, err)
		}
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	for text, want := range map[string]string{"3/15/2027": "Mon Mar 15, 2027, 12:00 pm", "12/5 10am": "Sat Dec 5, 10:00 am", "15.3.2027": "Mon Mar 15, 2027, 12:00 pm", "2 days ago": "Sun Nov 22, 12:00 pm", "yesterday 9am": "Mon Nov 23, 9:00 am"} {
		got, ok := us.ReadDate(text, now, 12)
		if !ok || us.Date(got, now) != want {
			t.Errorf("%q: %s, want %s", text, us.Date(got, now), want)
		}
	}
	if got, ok := uk.ReadDate("5/12 10am", now, 12); !ok || uk.Date(got, now) != "Sat 5 Dec, 10:00" {
		t.Errorf("%s", uk.Date(got, now))
	}
	for text, want := range map[string]string{"03/2027": "2027-03-31", "3/2027": "2027-03-31", "2027-02": "2027-02-28", "Feb 2028": "2028-02-29", "end of 11/2026": "2026-11-30"} {
		if got, ok := readTub(text, now); !ok || got.Format(time.DateOnly) != want {
			t.Errorf("%q: %s %t", text, got.Format(time.DateOnly), ok)
		}
	}
	for text, want := range map[string]string{"a dozen": "12", "2 dozen": "24", "half a dozen": "6", "two dozen": "24", "dozen": "12", "12": "12", "a dozen roses": "a dozen roses"} {
		if got := dozens(text); got != want {
			t.Errorf("%q: %q", text, got)
		}
	}
}

// who reads: as most of these tests, and Americans.
var (
	uk = Reader{&noun.Kitchen{}}
	us = Reader{&noun.Kitchen{Units: "us", Words: "us"}}
)

func FuzzReadDate(f *testing.F) {
	for _, s := range []string{"Sat week, 10:00", "5 Dec 10am", "in 9 days", "2026-12-05 10:00", "next next", "at at 10", "0/0"} {
		f.Add(s)
	}
	now := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, text string) {
		if got, ok := uk.ReadDate(text, now, 12); ok && got.IsZero() {
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
		all, err := readWeekly(line)
		for _, h := range all {
			if err == nil && (h.From >= h.To || len(h.People) > 4) {
				t.Fatalf("%q: %+v", line, h)
			}
		}
		if tier, err := readTier(uk, line); err == nil && (tier.SizeMM < 20 || tier.HeightMM < 0) {
			t.Fatalf("%q: %+v", line, tier)
		}
		if tray, err := readTray(uk, line); err == nil && (tray.Count < 1 || tray.LengthMM < 50) {
			t.Fatalf("%q: %+v", line, tray)
		}
		if x, err := readException(uk, line, now); err == nil && x.Date == "" {
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
		got, ok := uk.ReadDate(text, now, 12)
		if !ok || got.UTC().Format(time.RFC3339) != want {
			t.Errorf("%q: %s %v, want %s", text, got.UTC().Format(time.RFC3339), ok, want)
		}
	}
	for from, want := range map[time.Time]string{time.Date(2027, 1, 31, 9, 0, 0, 0, zone): "28 Feb", time.Date(2028, 1, 31, 9, 0, 0, 0, zone): "29 Feb", time.Date(2027, 8, 31, 9, 0, 0, 0, zone): "30 Sep"} {
		if got, ok := uk.ReadDate("in a month 9:00", from, 12); !ok || got.Format("2 Jan") != want {
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
