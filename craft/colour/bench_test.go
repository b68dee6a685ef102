package colour

import (
	"fmt"
	"testing"
)

func BenchmarkRecipeOf12Gels(b *testing.B) {
	gels := make([]any, 12)
	for i := range gels {
		gels[i] = gelSwatches[i].name
	}
	for b.Loop() {
		if _, err := Recipe(RecipeIn{Target: "#6E8F4E", Gels: gels, BatchG: new(200.0)}); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkLeftoversOf15(b *testing.B) {
	in := LeftoversIn{Target: "#9AA06A", MassG: new(120.0)}
	for i := range 15 {
		p, _ := PasteOf(fmt.Sprintf("#%02X%02X%02X", 250-i*12, 90+i*9, 60+i*i%150))
		in.Stock = append(in.Stock, Leftover{Paste: p, MassG: new(40.0)})
	}
	for b.Loop() {
		if _, err := Leftovers(in); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkCurve(b *testing.B) {
	rgb, _ := readHex("#5C9A58")
	for b.Loop() {
		curve(rgb, &ones)
	}
}

func BenchmarkGelLadderOf6(b *testing.B) {
	for b.Loop() {
		if _, err := Ladder(LadderIn{Path: new("gels"), From: "#F2CE48", To: "#37775E", Steps: new(6)}); err != nil {
			b.Fatal(err)
		}
	}
}
