package studio_test

import (
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
)

func TestAStudioInAnotherZone(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"timeZone": "America/New_York"})
	k, err := h.Kitchen(t.Context(), h.slug)
	h.ok(err)
	if k.NowSays != "Tuesday 24 Nov, 14:30" {
		t.Error(k.NowSays)
	}
	c, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if c.HandOver != "Sat 5 Dec, 05:00" { // the instant is the same
		t.Error(c.HandOver)
	}
	h.piece(o, m, nil)
	zone, err := time.LoadLocation("America/New_York")
	h.ok(err)
	for _, s := range h.steps("press") {
		if hour := s.Start.In(zone).Hour(); hour < 9 || hour > 21 {
			t.Errorf("pressed at %s, by the clock of the studio", s.Start)
		}
	}
}

// TestANewStudioReadsAsItsBrowserDoes: its zone and words, where they are known; nothing
// of another studio stands in it.
func TestANewStudioReadsAsItsBrowserDoes(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	for as, want := range map[studio.Reads]string{
		{TimeZone: "America/Chicago", Language: "en-US"}: "America/Chicago us us",
		{TimeZone: "Europe/Oslo", Language: "nb-NO"}:     "Europe/Oslo uk metric",
		{TimeZone: "Mars/Olympus", Language: "en"}:       "Europe/London uk metric",
		{TimeZone: "Local"}:                              "Europe/London uk metric",
	} {
		row, err := h.CreateStudio(t.Context(), "New bench", as)
		h.ok(err)
		k, err := h.Service.Kitchen(t.Context(), row.Slug)
		h.ok(err)
		zone := ""
		for _, f := range k.Row.Fields {
			if f.Name == "timeZone" {
				zone = f.Text
			}
			for _, text := range []string{f.Hint, f.Text} {
				if strings.Contains(text, "Ines") || strings.Contains(text, "Tobi") || strings.Contains(text, "Hollow") {
					t.Errorf("%s: %q is of the demo", f.Name, text)
				}
			}
		}
		if got := zone + " " + k.Words + " " + k.Units; got != want {
			t.Errorf("%+v: %s, want %s", as, got, want)
		}
	}
}

// TestAStudioBeginsWithThreeAnswers, each read as it is given, and written down together
// or not at all. Without hours nothing is planned, and that is said.
func TestAStudioBeginsWithThreeAnswers(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	row, err := h.CreateStudio(t.Context(), "Ash Bench", studio.Reads{})
	h.ok(err)
	h.slug = row.Slug
	k, err := h.Kitchen(t.Context(), h.slug)
	h.ok(err)
	if got := text(k.Row.Fields, "hours"); got != "" {
		t.Errorf("nobody said these hours: %q", got)
	}
	p := h.piece(h.order(nil), h.mould(nil), nil)
	if x := h.told("plan", "Nobody has said when you are at the bench"); x.To != "kitchen" || len(h.steps("")) != 0 {
		t.Errorf("%+v", x)
	}
	h.ok(h.Delete(t.Context(), h.slug, studio.KindPiece, p, false))
	first := func(upTo int, s set) error {
		_, err := h.First(t.Context(), h.slug, studio.FirstIn{UpTo: upTo, Set: s})
		return err
	}
	s := set{"name": "Ivy leaves", "wanted": "some"}
	h.refused(first(1, s), "wanted", "")
	s["wanted"] = "20"
	h.ok(first(1, s))
	h.refused(first(2, s), "handOver", "When is it handed over")
	s["handOver"] = "Sat week 10:00"
	h.refused(first(2, s), "hours", "at the bench")
	s["hours"] = "Tue, Thu 19:00-22:00"
	h.ok(first(2, s))
	h.refused(first(3, s), "weighedG", "What does one weigh")
	s["weighedG"], s["lengthMM"], s["widthMM"] = "3.5 g", "60 mm", "38 mm"
	before, err := h.list()
	h.ok(err)
	h.refused(first(3, s), "depthMM", "")
	if after, err := h.list(); err != nil || len(after) != len(before) {
		t.Error("half of it was written down")
	}
	s["depthMM"] = "4 mm"
	h.ok(first(3, s))
	if steps := h.steps("press"); len(steps) != 1 || steps[0].Title != "Press 22 Ivy leaves" {
		t.Errorf("%+v", steps)
	}
	h.refused(first(1, set{"nickname": "x"}), "nickname", "")
}
