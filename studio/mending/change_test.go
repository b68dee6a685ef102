package mending

import (
	"testing"

	"dustyfern/craft/rescue"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// TestWhatIsSetStandsInTheTable: a change that the program does by itself is known by its
// words; a correction of the table that drops them is seen here.
func TestWhatIsSetStandsInTheTable(t *testing.T) {
	w := &work.Reckoned{Way: technique.Ours.Of("T01"), Piece: &noun.Piece{}, Strength: 0.1}
	seen := map[string]bool{}
	for _, c := range rescue.Causes() {
		for _, ch := range rescue.ChangesOf(c) {
			for name := range setsOf(ch, w) {
				seen[name] = true
			}
		}
	}
	for _, name := range []string{"way.release", "chill", "peg"} {
		if !seen[name] {
			t.Errorf("no line of the table sets %s any more", name)
		}
	}
}
