package technique

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"

	"dustyfern/craft/fault"
	"dustyfern/craft/fault/faulttest"
)

// A studio edits its own copies, and files come from anywhere: whatever value of a
// file is put out of order, it is refused with its name, or it still makes chains that
// hold all pieces, or a question is refused with a field.
func TestATornFileIsRefusedOrWorks(t *testing.T) {
	t.Parallel()
	var files [][]byte
	for _, key := range Ours.Keys() {
		raw, err := fs.ReadFile(embedded, "data/"+key+".json")
		if err != nil {
			t.Fatal(err)
		}
		files = append(files, raw)
	}
	faulttest.Tear(t, files, 3, func(_ int, torn []byte) string {
		l, err := folder(t, "torn.json", string(torn))
		if err != nil {
			if !strings.Contains(err.Error(), "torn.json") {
				return "it is refused without its name: " + err.Error()
			}
			return ""
		}
		return chained(l)
	})
}

// chained says what is wrong with the chain of the one way of a folder.
func chained(l *Library) string {
	key, window := l.Keys()[0], 180.0
	out, err := l.Chain(ChainIn{Technique: &key, Wanted: new(9), Made: new(11), Stages: allStages, WindowMinutes: &window, Tools: map[string]map[string]float64{"freezer": {"places": 6}}})
	var f *fault.Fault
	switch {
	case errors.As(err, &f):
		return ""
	case err != nil:
		return "it is refused without a field: " + err.Error()
	}
	sum := 0
	for i := range out.Batches {
		b := &out.Batches[i]
		sum += b.Pieces
		for j := range b.Ops {
			if n := b.Ops[j].Length(); n < 0 || n > 10_000_000 {
				return fmt.Sprintf("%s takes %d min", b.Ops[j].Op, n)
			}
		}
	}
	if sum != 11 {
		return fmt.Sprintf("%d pieces of 11", sum)
	}
	return ""
}
