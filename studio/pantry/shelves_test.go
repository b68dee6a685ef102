package pantry

import (
	"testing"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// A tool is drawn by its own measures: a strip lies, a lipped mould shows its windows.
func TestWhatAToolIsDrawnFrom(t *testing.T) {
	r := read.Reader{K: new(noun.NewKitchen("Elm Bench"))}
	tool := func(kind string, m noun.Measures) noun.Tool {
		x := noun.BlankTool(kind)
		for k, v := range m {
			x.Measures[k] = v
		}
		return x
	}
	for _, c := range []struct {
		tool         noun.Tool
		shape        string
		across, high float64
		lies         bool
	}{
		{tool("lippedMould", noun.Measures{"lengthMM": 110, "widthMM": 45, "depthMM": 3}), "lip", 45, 110, false},
		{tool("laceMould", noun.Measures{"lengthMM": 70, "widthMM": 40, "depthMM": 2}), "lace", 40, 70, false},
		{tool("channelMould", noun.Measures{"lengthMM": 180, "widthMM": 4, "depthMM": 4}), "rod", 180, 4, true},
		{tool("circleCutter", noun.Measures{"diameterMM": 32}), "circleCutter", 32, 32, false},
		{tool("brush", nil), "brush", plainLong, plainWide, true},
	} {
		p := pictureOf(&c.tool, r)
		if p.Shape != c.shape || p.AcrossMM != c.across || p.HighMM != c.high || p.Lies != c.lies || p.Says == "" {
			t.Errorf("%s: %+v", c.tool.Kind, p)
		}
	}
}
