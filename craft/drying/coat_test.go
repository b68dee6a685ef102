package drying

import (
	"testing"

	"dustyfern/craft/fault"
)

func coat(t *testing.T, kind string, coats int, temp, rh float64) CoatOut {
	t.Helper()
	c, err := Coat(CoatIn{Coat: &kind, Coats: &coats, TempC: &temp, RHPercent: &rh})
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// One pass of lacquer takes 15 to 20 min; water waits for a dry room, spirit only for a
// damp one to end; warmth helps both; each further coat waits on the one below.
func TestCoats(t *testing.T) {
	if c := coat(t, "lacquer", 1, 21, 45); c.P50Minutes < 15 || c.P50Minutes > 20 || c.P10Minutes >= c.P50Minutes || c.P90Minutes <= c.P50Minutes {
		t.Errorf("%+v", c)
	}
	for _, kind := range Coats() {
		dry, damp, warm := coat(t, kind, 1, 21, 40), coat(t, kind, 1, 21, 75), coat(t, kind, 1, 26, 40)
		if damp.P50Minutes <= dry.P50Minutes || warm.P50Minutes >= dry.P50Minutes {
			t.Errorf("%s: %.1f dry, %.1f damp, %.1f warm", kind, dry.P50Minutes, damp.P50Minutes, warm.P50Minutes)
		}
		one, three := coat(t, kind, 1, 21, 45), coat(t, kind, 3, 21, 45)
		if three.P50Minutes < 2*one.P50Minutes || three.NextCoatMinutes != one.NextCoatMinutes {
			t.Errorf("%s: three coats %.1f, one %.1f", kind, three.P50Minutes, one.P50Minutes)
		}
	}
	if a, b := coat(t, "spiritMetal", 1, 21, 40), coat(t, "spiritMetal", 1, 21, 58); a.P50Minutes != b.P50Minutes {
		t.Error("spirit below 60 % does not mind the damp")
	}
	_, err := Coat(CoatIn{Coat: new("tar"), TempC: new(21.0), RHPercent: new(45.0)})
	if f, ok := err.(*fault.Fault); !ok || f.Field != "coat" || f.Code != fault.UnknownValue {
		t.Error(err)
	}
}
