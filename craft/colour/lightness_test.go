package colour

import (
	"errors"
	"math"
	"strings"
	"testing"

	"dustyfern/craft/fault"
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

func TestColoursAreReadAsTyped(t *testing.T) {
	for text, want := range map[string]string{
		"#5f8a4a": "#5F8A4A", " 5F8A4A ": "#5F8A4A", "#5a4": "#55AA44",
		"rgb 95 138 74": "#5F8A4A", "rgb(95, 138, 74)": "#5F8A4A", "RGB: 0;0;0": "#000000",
		"lab 100 0 0": "#FFFFFF", "Lab(50.03, 0, 0)": "#777777", "L* 53.24 a* 80.09 b* 67.20": "#FF0000", "L=32.30 a=79.19 b=−107.86": "#0000FF",
	} {
		if got, err := Read(text); err != nil || got != want {
			t.Errorf("%q: %s %v, want %s", text, got, err, want)
		}
	}
	for text, says := range map[string]string{
		"": "Write a swatch", "rowan": "Write a swatch", "#12": "Write a swatch", "1 2 3": "Write a swatch", "lab 1 2": "Write a swatch", "lab 1 2 3 4": "Write a swatch",
		"rgb 256 0 0": "0 to 255", "rgb 1.5 0 0": "0 to 255", "lab 120 0 0": "0 to 100", "lab 50 999 0": "-150 to 150", "lab 50 120 -120": "The nearest is #",
	} {
		_, err := Read(text)
		var f *fault.Fault
		if !errors.As(err, &f) || !strings.Contains(f.Message, says) {
			t.Errorf("%q: %v, want %q", text, err, says)
			continue
		}
		for _, c := range f.Choices { // what is offered can be taken
			if _, err := Read(c.Text); err != nil {
				t.Errorf("%q offers %q: %v", text, c.Text, err)
			}
		}
	}
}

func FuzzReadColour(f *testing.F) {
	for _, s := range []string{"#5f8a4a", "rgb(1,2,3)", "lab 50 10 -10", "L* 5 a* 1 b* 2", "lab 1e9 0 0", "#\u2212"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if hex, err := Read(text); err == nil {
			if again, err := Read(hex); err != nil || again != hex {
				t.Errorf("%q is read as %q, which is read as %q: %v", text, hex, again, err)
			}
		}
	})
}

// TestAGlazeDeepens: dark colours more than light ones, and white hardly.
func TestAGlazeDeepens(t *testing.T) {
	for _, hex := range []string{"#F7F5EE", "#8FB377", "#4F7A3F", "#2B3A34"} {
		wet, err := Glazed(hex)
		if err != nil {
			t.Fatal(err)
		}
		a, _ := Lightness(hex)
		b, _ := Lightness(wet)
		most := map[string]float64{"#F7F5EE": 1, "#8FB377": 3, "#4F7A3F": 8, "#2B3A34": 20}[hex]
		if b > a || hex != "#F7F5EE" && a-b < 0.4 || a-b > most {
			t.Errorf("%s (L %.1f) looks %s (L %.1f)", hex, a, wet, b)
		}
	}
	if black, _ := Glazed("#000000"); black != "#000000" {
		t.Error(black)
	}
	if _, err := Glazed("fern"); err == nil {
		t.Error("fern is no swatch")
	}
}
