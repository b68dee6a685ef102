package pantry_test

import (
	"testing"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
)

// FuzzReadPantry: whatever a file holds, each row is taken, refused with a
// reason, or the whole file is.
func FuzzReadPantry(f *testing.F) {
	for _, s := range []string{"name,kind,massG\nA,gel,3 g\n", "name;kind;massG\r\n\"A;gel;3 g", "Lot\tIt is\tLeft\n\t\t\n", `{"format":"dustyfern-pantry/1","lots":[{"name":"A","kind":"gel","massG":5},7]}`, "{", "\xff", ""} {
		f.Add([]byte(s))
	}
	k := noun.NewKitchen("Fuzz")
	now := time.Date(2026, 11, 24, 20, 0, 0, 0, time.UTC)
	f.Fuzz(func(t *testing.T, raw []byte) {
		good, bad, err := pantry.ReadPantry(&k, now, raw)
		if err != nil && len(good)+len(bad) > 0 {
			t.Error("refused, and taken")
		}
		for _, l := range good {
			if l.Name == "" || l.Kind == "" || !(l.MassG >= 0) || l.OwesG < 0 {
				t.Errorf("%+v", l)
			}
		}
		for _, b := range bad {
			if b.Row < 1 || b.Why == "" {
				t.Errorf("%+v", b)
			}
		}
	})
}
