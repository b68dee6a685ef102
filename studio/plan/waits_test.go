package plan

import (
	"strings"
	"testing"
	"time"

	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// The longest waits of a pressed piece stand in what the planner is asked: kneaded
// paste is pressed in the same evening, what is turned out is laid to dry within ten
// minutes.
func TestTheLongestWaitsAreAsked(t *testing.T) {
	k := noun.NewKitchen("Elm Bench")
	now := time.Date(2026, 11, 24, 19, 30, 0, 0, time.UTC)
	grams, mould, handOver := 4.0, int64(7), now.AddDate(0, 0, 11)
	tool := noun.BlankTool("cavityMould")
	tool.ID, tool.Name, tool.WeighedG = mould, "Leaf", &grams
	tool.Measures["lengthMM"], tool.Measures["widthMM"], tool.Measures["depthMM"] = 60, 30, 4
	white := noun.BlankLot()
	white.ID, white.Name, white.MassG = 1, "White", 2000
	c, p := noun.BlankCommission(), noun.BlankPiece()
	c.ID, c.Title, c.HandOver = 3, "Winter wedding", &handOver
	p.ID, p.CommissionID, p.Name, p.Wanted, p.ToolID = 5, 3, "Leaves", 12, &mould
	b := &work.Means{Kitchen: &k, Reader: read.Reader{K: &k}, Now: now, Tools: map[int64]*noun.Tool{mould: &tool}, Lots: []noun.Lot{white}, Library: technique.Ours, Needed: map[int64]int{5: 12}}
	l, err := instance(t.Context(), b, []noun.Commission{c}, []noun.Piece{p}, nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	longest := map[string]int{}
	for _, g := range l.in.Lags {
		if g.Max != nil {
			longest[g.From[strings.LastIndex(g.From, ".")+1:]+" "+g.To[strings.LastIndex(g.To, ".")+1:]] = *g.Max
		}
	}
	for pair, want := range map[string]int{"knead press": 240, "press dry": 10} {
		if longest[pair] != want {
			t.Errorf("%s within %d min, want %d; of %v", pair, longest[pair], want, longest)
		}
	}
}
