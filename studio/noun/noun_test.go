package noun

import (
	"math"
	"testing"
	"time"
)

// An evening is as long as its clock says, also in the week in which the hour jumps;
// an exception takes the place of the weekly hours, none at all shuts the day.
func TestHoursOfADay(t *testing.T) {
	k := NewKitchen("Elm Bench")
	k.Hours = []Hours{{Weekday: time.Sunday, From: "00:30", To: "03:00", People: []string{"Ines"}}, {Weekday: time.Monday, From: "19:00", To: "24:00", People: []string{"Ines", "Tobi"}}}
	k.Exceptions = []Exception{{Date: "2027-04-05", Open: nil}}
	from := time.Date(2027, 3, 27, 12, 0, 0, 0, time.UTC)
	got := k.OpenHours(from, from.AddDate(0, 0, 10))
	// Sunday 28 March: the hour from one to two is left out in London
	want := []struct {
		day    string
		length time.Duration
		people int
	}{{"2027-03-28", 90 * time.Minute, 1}, {"2027-03-29", 5 * time.Hour, 2}, {"2027-04-04", 150 * time.Minute, 1}}
	if len(got) != len(want) {
		t.Fatalf("%+v", got)
	}
	for i, w := range want {
		if g := got[i]; g.Day != w.day || g.End.Sub(g.Start) != w.length || g.People != w.people {
			t.Errorf("%s: %s with %d, want %s: %s with %d", g.Day, g.End.Sub(g.Start), g.People, w.day, w.length, w.people)
		}
	}
	if who := k.PersonAt(time.Date(2027, 3, 29, 19, 0, 0, 0, time.UTC)); who != "Ines" {
		t.Errorf("on Monday evening it is %s", who)
	}
	k.Hours = nil
	if who := k.PersonAt(from); who != "Somebody" {
		t.Errorf("with nobody named it is %s", who)
	}
}

// What is begun before the stretch that is asked about begins with it; less than
// five minutes are no stretch.
func TestHoursAreCutToWhatIsAsked(t *testing.T) {
	k := NewKitchen("Elm Bench")
	k.TimeZone = "UTC"
	k.Hours = []Hours{{Weekday: time.Tuesday, From: "19:00", To: "22:00"}}
	at := func(h, m int) time.Time { return time.Date(2027, 3, 30, h, m, 0, 0, time.UTC) }
	if got := k.OpenHours(at(20, 15), at(23, 0)); len(got) != 1 || !got[0].Start.Equal(at(20, 15)) || !got[0].End.Equal(at(22, 0)) {
		t.Errorf("%+v", got)
	}
	if got := k.OpenHours(at(21, 56), at(23, 0)); len(got) != 0 {
		t.Errorf("four minutes: %+v", got)
	}
	k.TimeZone = "Nowhere/Atall"
	if k.Zone() != time.UTC {
		t.Error("a zone that does not exist")
	}
}

// Pieces that were weighed give their mean and spread; mixes of a gel how it tints,
// and how well that is known.
func TestWhatThingsKnow(t *testing.T) {
	tool := Tool{Weighings: []Weighing{{Grams: 4.1}, {Grams: 4.3}, {Grams: 4.2}}}
	if mean, spread := tool.Weighed(); math.Abs(mean-4.2) > 1e-9 || math.Abs(spread-0.1) > 1e-9 {
		t.Errorf("%.3f ± %.3f", mean, spread)
	}
	l := Lot{Kind: "gel"}
	ratio, unknown, n := l.Ratio()
	if ratio != 1 || n != 0 {
		t.Errorf("nothing mixed: %.2f of %d", ratio, n)
	}
	l.Mixes = []Mixed{{Ratio: 0.5}, {Ratio: 2}}
	ratio, wide, n := l.Ratio()
	if math.Abs(ratio-1) > 1e-9 || n != 2 || wide < unknown {
		t.Errorf("half and double: %.2f within %.2f of %d", ratio, wide, n)
	}
	l.Mixes = []Mixed{{Ratio: 1.2}, {Ratio: 1.2}, {Ratio: 1.2}, {Ratio: 1.2}, {Ratio: 1.2}, {Ratio: 1.2}}
	if ratio, narrow, n := l.Ratio(); math.Abs(ratio-1.2) > 1e-9 || n != 5 || narrow >= wide || narrow <= 0 {
		t.Errorf("always the same: %.2f within %.2f of %d", ratio, narrow, n)
	}
	// squeezes are kept as far as anybody looks at them
	for range MostFelt + 20 {
		l.Squeeze(3, time.Now())
	}
	if len(l.Felt) != MostFelt || *l.Grade != 3 {
		t.Errorf("%d squeezes are kept", len(l.Felt))
	}
	st := Step{Breaks: []Break{{Count: 1}, {Count: 2}}}
	if st.Broken() != 3 || st.Out() != 0 || st.PieceG() != 0 {
		t.Errorf("%d broken, %d out", st.Broken(), st.Out())
	}
	own, ring := Timer{Kind: "own", Row: Row{ID: 7}}, Timer{Kind: "freezer", Op: "p3.1.press", N: 2}
	if own.Key() == ring.Key() || own.Key() != "7" {
		t.Errorf("%s and %s", own.Key(), ring.Key())
	}
}

// A plan is due when a planned start went by, and when it comes from the future.
func TestWhenAPlanIsDue(t *testing.T) {
	now := time.Date(2027, 3, 30, 19, 0, 0, 0, time.UTC)
	for say, c := range map[string]struct {
		made time.Time
		due  *time.Time
		want bool
	}{
		"nothing is planned":         {now.Add(-time.Hour), nil, false},
		"a start lies ahead":         {now.Add(-time.Hour), new(now.Add(time.Minute)), false},
		"a start went by":            {now.Add(-time.Hour), new(now.Add(-time.Minute)), true},
		"made by a clock just ahead": {now.Add(50 * time.Second), nil, false},
		"made tomorrow":              {now.Add(24 * time.Hour), nil, true},
	} {
		p := Plan{MadeAt: c.made, Summary: Summary{DueAt: c.due}}
		if got := p.Due(now); got != c.want {
			t.Errorf("%s: due %t", say, got)
		}
	}
}
