package store

import (
	"testing"

	"dustyfern/studio/noun"
)

// TestACopyOfACopy is what the first was copied from; one that goes in a circle ends.
func TestACopyOfACopy(t *testing.T) {
	own := func(key, from string) noun.OwnWay { return noun.OwnWay{Key: key, FromKey: from} }
	ways := []noun.OwnWay{own("our-b", "our-a"), own("our-a", "T24"), own("our-x", "our-y"), own("our-y", "our-x"), own("our-lost", "our-gone")}
	for from, want := range map[string]string{"T01": "T01", "our-a": "T24", "our-b": "T24", "our-lost": "our-gone"} {
		if got := originOf(ways, from); got != want {
			t.Errorf("%s comes from %s, want %s", from, got, want)
		}
	}
	if got := originOf(ways, "our-x"); got != "our-x" && got != "our-y" {
		t.Errorf("a circle ends as %s", got)
	}
}
