package paste_test

import (
	"fmt"

	"dustyfern/craft/paste"
)

// A bead string on a cake that the knife passes, pressed in a mould: what may the
// paste be?
func ExampleAdvise() {
	a, err := paste.Advise(paste.AdviseIn{Demands: []string{"strands", "knifeThrough"}, LengthMM: new(180.0), WidthMM: new(4.0), DepthMM: new(4.0)})
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println("firm enough and soft enough at", a.Window.Says())
	fmt.Printf("taken: %s, %.1f %% gum\n", a.Use.Way, a.Use.StrengthPercent)
	// Output:
	// firm enough and soft enough at 1.4 to 1.9 % gum
	// taken: halfAndHalf, 1.6 % gum
}
