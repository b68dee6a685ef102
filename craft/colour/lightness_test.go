package colour

import (
	"math"
	"testing"
)

func TestLightnessOfKnownSwatches(t *testing.T) {
	for hex, want := range map[string]float64{"#000000": 0, "#FFFFFF": 100, "#777777": 50.03, "#FF0000": 53.24, "#00FF00": 87.73, "#0000FF": 32.30} {
		if got, err := Lightness(hex); err != nil || math.Abs(got-want) > 0.02 {
			t.Errorf("%s: %.3f %v, want %.2f", hex, got, err, want)
		}
	}
	for _, bad := range []string{"", "#12", "red", "#12345G", "1234567"} {
		if _, err := Lightness(bad); err == nil {
			t.Errorf("%q is no swatch", bad)
		}
	}
}
