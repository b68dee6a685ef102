package bench_test

import (
	"fmt"

	"dustyfern/craft/bench"
)

// Leaves are pressed and dry for six hours; two evenings are open before the
// hand-over. The plan begins on the first of them, so that a broken leaf can be made
// again, and leaves the end of an evening free.
func ExampleBuild() {
	in := bench.Instance{Format: "dustyfern-bench-instance/2", Name: "leaves", Now: "2026-03-03T12:00:00Z",
		Windows: []bench.Window{
			{ID: "tue", Day: "2026-03-03", Start: "2026-03-03T19:00:00Z", End: "2026-03-03T22:00:00Z", Preferred: true},
			{ID: "wed", Day: "2026-03-04", Start: "2026-03-04T19:00:00Z", End: "2026-03-04T22:00:00Z", Preferred: true},
		},
		Colours:     []bench.Colour{{ID: "green", Lightness: 50}},
		Commissions: []bench.Commission{{ID: "fair", HandOver: "2026-03-05T10:00:00Z", BufferMinutes: 60}},
		Batches: []bench.Batch{{ID: "leaves", Commission: "fair", Colour: "green", Ops: []bench.Op{
			{ID: "press", Kind: "press", Attended: true, Minutes: new(40)},
			{ID: "dry", Kind: "dry", Dry: &bench.Drying{P50: 240, P90: 360}},
			{ID: "putOn", Kind: "putOn", Attended: true, Minutes: new(20)},
		}}},
		Lags: []bench.Lag{{From: "press", To: "dry"}, {From: "dry", To: "putOn"}},
	}
	p, err := bench.Build(bench.BuildIn{Instance: &in})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, o := range p.Ops {
		fmt.Println(o.Op, o.Start)
	}
	// Output:
	// press 2026-03-03T19:00:00Z
	// dry 2026-03-03T19:40:00Z
	// putOn 2026-03-04T19:00:00Z
}
