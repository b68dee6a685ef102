package studio_test

import (
	"strings"
	"testing"

	"dustyfern/studio/plan"
)

// TestCanItBeTaken: an order that is only asked about is planned among the open ones;
// it is told whether it fits, what it begins and pushes, and nothing of it is kept.
func TestCanItBeTaken(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00\nWed 19:00-22:00\nThu 19:00-22:00\nFri 19:00-22:00"})
	h.piece(o, m, nil)
	before := h.line()
	ask := func(handOver, count string, lines ...plan.RoughLine) plan.RoughView {
		t.Helper()
		out, err := h.CanTake(t.Context(), h.slug, plan.RoughIn{HandOver: handOver, Count: count, Lines: lines})
		h.ok(err)
		return out
	}
	few := ask("in 10 days", "6", plan.RoughLine{Each: "2", Tool: m})
	if !few.Fits || few.Begins == "" || few.Evenings < 1 || few.Hands == "" || !strings.HasPrefix(few.Says, "Yes: it would begin") {
		t.Errorf("%+v", few)
	}
	many := ask("Thu 19:30", "200", plan.RoughLine{Each: "3", Tool: m})
	if many.Fits || len(many.Late) == 0 || !strings.Contains(many.Late[0], "late") {
		t.Errorf("%+v", many)
	}
	if more := ask("in 10 days", "40", plan.RoughLine{Each: "2", Tool: m}, plan.RoughLine{Each: "1", Way: "T14"}); more.Evenings < few.Evenings {
		t.Errorf("%d evenings for 80 and 40, %d for 12", more.Evenings, few.Evenings)
	}
	after := h.line()
	rows, err := h.list()
	h.ok(err)
	if len(rows) != 1 || after.StartBy != before.StartBy || len(after.Rows) != len(before.Rows) {
		t.Errorf("something of it stayed: %d orders, %s, then %s", len(rows), before.StartBy, after.StartBy)
	}
	for _, c := range []struct {
		rough        plan.RoughIn
		field, words string
	}{
		{plan.RoughIn{Count: "2", Lines: []plan.RoughLine{{Each: "1", Tool: m}}}, "handOver", "when it is wanted"},
		{plan.RoughIn{HandOver: "someday", Count: "2", Lines: []plan.RoughLine{{Each: "1", Tool: m}}}, "handOver", ""},
		{plan.RoughIn{HandOver: "Sat", Count: "some", Lines: []plan.RoughLine{{Each: "1", Tool: m}}}, "count", "whole number"},
		{plan.RoughIn{HandOver: "Sat", Count: "2"}, "lines", "at least one kind"},
		{plan.RoughIn{HandOver: "Sat", Count: "2", Lines: []plan.RoughLine{{Each: "0", Tool: m}}}, "lines[0].each", "whole number"},
		{plan.RoughIn{HandOver: "Sat", Count: "2", Lines: []plan.RoughLine{{Each: "1"}}}, "lines[0].tool", "what it is made with"},
		{plan.RoughIn{HandOver: "Sat", Count: "2", Lines: []plan.RoughLine{{Each: "1", Tool: 9999}}}, "lines[0].tool", "no such tool"},
		{plan.RoughIn{HandOver: "Sat", Count: "2", Lines: []plan.RoughLine{{Each: "1", Way: "T99"}}}, "lines[0].way", "no such way"},
	} {
		_, err := h.CanTake(t.Context(), h.slug, c.rough)
		h.refused(err, c.field, c.words)
	}
}
