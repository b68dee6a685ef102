package studio_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/shelf"
)

// TestReadingsRunTheClocks: what a sensor says of the kitchen is the air by which things
// dry; a damp hour while they lie there moves shelf, line and clock alike; nonsense is
// marked and not used, and a silent sensor ages.
func TestReadingsRunTheClocks(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, nil)
	h.kitchen(set{"sensor": "Kitchen"})
	start := h.dryingNow().PlannedEnd
	for range 3 {
		h.heard(21, 50)
		h.after(time.Hour)
	}
	if end := h.dryingNow().PlannedEnd; end.Sub(start).Abs() > 20*time.Minute {
		t.Errorf("read as it was said they are firm at %s instead of %s", end, start)
	}
	told := func() int64 {
		_, n, err := h.StudioID(t.Context(), h.slug)
		h.ok(err)
		return n
	}
	before := told()
	for range 4 {
		h.after(20 * time.Minute)
		h.heard(20, 68)
	}
	if told() == before {
		t.Error("no window was told of the damp")
	}
	damp := h.dryingNow()
	if !damp.Never && !damp.PlannedEnd.After(start.Add(time.Hour)) {
		t.Errorf("in damp air they are firm at %s, before at %s", damp.PlannedEnd, start)
	}
	if !damp.Never {
		if at := h.joinClock(); at.Sub(damp.PlannedEnd).Abs() > time.Minute {
			t.Errorf("the clock rings at %s, the line says %s", at, damp.PlannedEnd)
		}
	}
	if r := h.shelf().Racks[0]; !r.Air.Read || !r.Air.Slow || r.Air.RH < 65 {
		t.Errorf("%+v", r.Air)
	}
	h.heard(85, 0)
	if r := h.shelf().Racks[0]; r.Air.TempC > 30 {
		t.Errorf("nonsense is believed: %+v", r.Air)
	}
	v, err := h.Shelf.Strip(t.Context(), h.slug, 0, 72)
	h.ok(err)
	if len(v.Read) < 4 || len(v.Comes) != 73 || !strings.Contains(v.Gaps, "1 reading cannot have been so and was not used") {
		t.Errorf("%d read, %d to come, %q", len(v.Read), len(v.Comes), v.Gaps)
	}
	// what is said after it was read counts, until it is read again
	h.after(time.Minute)
	h.kitchen(set{"rhPercent": "41 %"})
	if r := h.shelf().Racks[0]; r.Air.Read || r.Air.RH != 41 {
		t.Errorf("said after it was read: %+v", r.Air)
	}
	h.after(time.Minute)
	h.heard(20, 66)
	if r := h.shelf().Racks[0]; !r.Air.Read || r.Air.RH < 60 {
		t.Errorf("read after it was said: %+v", r.Air)
	}
	h.after(2 * time.Hour)
	if r := h.shelf().Racks[0]; !r.Air.Stale || !strings.Contains(r.Air.Age, "older than it should be") {
		t.Errorf("%+v", r.Air)
	}
}

// TestReadingsOutOfAFile: a table by the minute, with a semicolon and a comma; rows that
// cannot be read are named, what cannot be is marked, the same file again changes nothing.
func TestReadingsOutOfAFile(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	var b strings.Builder
	b.WriteString("Date and time;Temperature (°C);Humidity (%)\n")
	from := h.now.Add(-48 * time.Hour).Truncate(time.Hour)
	for i := range 48 * 6 {
		fmt.Fprintf(&b, "%s;%.1f;%.1f\n", from.Add(time.Duration(i)*10*time.Minute).Format("2006-01-02 15:04:05"), 21+math.Sin(float64(i)/20), 50+5*math.Sin(float64(i)/30))
	}
	b.WriteString("yesterday;21;50\n" + from.Format(time.RFC3339) + ";about;50\n" + from.Add(time.Hour+30*time.Second).Format("2006-01-02 15:04:05") + ";21;0\n")
	raw := []byte(strings.ReplaceAll(b.String(), ".0;", ",0;"))
	look, err := h.Shelf.LookIn(t.Context(), h.slug, raw, shelf.Columns{At: -1, Temp: -1, RH: -1})
	h.ok(err)
	if look.Good != 288 || look.Unused != 1 || len(look.Bad) != 2 || !strings.HasPrefix(look.Bad[0], "Row 290: ") {
		t.Fatalf("%+v", look)
	}
	for range 2 {
		n, err := h.Shelf.BringIn(t.Context(), h.slug, 0, raw, shelf.Columns{At: 0, Temp: 1, RH: 2})
		h.ok(err)
		v, err := h.Shelf.Strip(t.Context(), h.slug, 0, 72)
		h.ok(err)
		if n != 289 || len(v.Read) != 48 {
			t.Errorf("%d came in, %d hours read", n, len(v.Read))
		}
		for _, p := range v.Read {
			if p.TempC < 19.9 || p.TempC > 22.1 || p.Low > p.RH || p.RH > p.High {
				t.Errorf("%+v", p)
			}
		}
	}
	// the same hours of the last days are expected
	v, err := h.Shelf.Strip(t.Context(), h.slug, 0, 72)
	h.ok(err)
	if v.Comes[24].RH != v.Comes[48].RH {
		t.Errorf("the same hour on two days: %v and %v", v.Comes[24], v.Comes[48])
	}
	_, err = h.Shelf.LookIn(t.Context(), h.slug, []byte("only one column\n1\n"), shelf.Columns{At: -1, Temp: -1, RH: -1})
	h.refused(err, "file", "at least two columns")
	_, err = h.Shelf.LookIn(t.Context(), h.slug, raw, shelf.Columns{At: 0, Temp: 0, RH: 2})
	h.refused(err, "columns", "three columns")
	if _, err := h.Shelf.Strip(t.Context(), h.slug, 0, 71); err == nil {
		t.Error("a strip of 71 hours")
	}
}

// TestAYearByTheMinuteIsSummedUp: the strip of a year reads days, whatever was kept, and
// minutes are forgotten by a rule while hours stay.
func TestAYearByTheMinuteIsSummedUp(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	var all []noun.Reading
	for d := range 30 {
		for m := range 144 {
			all = append(all, noun.Reading{At: h.now.AddDate(0, 0, -d).Add(-time.Duration(m) * 10 * time.Minute).UTC(), TempC: 21, RHPercent: 40 + float64(d%20)})
		}
	}
	h.ok(h.Store.Write(t.Context(), h.slug, func(tx journal.Tx) error { return tx.AddReadings(all) }))
	v, err := h.Shelf.Strip(t.Context(), h.slug, 0, 8760)
	h.ok(err)
	if len(v.Read) < 30 || len(v.Read) > 32 || len(v.Comes) != 1 {
		t.Errorf("%d points of 30 days", len(v.Read))
	}
	h.ok(h.Prune(t.Context(), h.slug))
	w, err := h.Shelf.Strip(t.Context(), h.slug, 0, 8760)
	h.ok(err)
	if len(w.Read) != len(v.Read) {
		t.Errorf("after the minutes are forgotten %d points stand, before %d", len(w.Read), len(v.Read))
	}
}
