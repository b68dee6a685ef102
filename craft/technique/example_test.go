package technique_test

import (
	"fmt"

	"dustyfern/craft/technique"
)

// Fourteen bead strings for a tier, laid on cold from three moulds: the putting on
// is part of each round.
func ExampleLibrary_Chain() {
	key, wanted, made, join := "T02", 14, 16, "C"
	out, err := technique.Ours.Chain(technique.ChainIn{Technique: &key, Wanted: &wanted, Made: &made, Join: &join,
		Measures: map[string]float64{"massG": 4.2}, Tools: map[string]map[string]float64{"mould": {"copies": 3}}})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, b := range out.Batches {
		fmt.Printf("%d strings:", b.Pieces)
		for _, o := range b.Ops {
			fmt.Printf(" %s %.0f", o.Op, o.HandsMinutes)
		}
		fmt.Println()
	}
	// Output: 16 strings: mark 8 knead 6 rest 0 press 64
}

// The same minutes for a studio that needs five for a knead.
func ExampleLibrary_Chain_ownMinutes() {
	key, wanted, never := "T02", 4, map[string]float64{"knead.batch": 3}
	out, err := technique.Ours.Chain(technique.ChainIn{Technique: &key, Wanted: &wanted, Minutes: never})
	fmt.Println(out.Batches[0].Ops[1].HandsMinutes, err)
	// Output: 5 <nil>
}
