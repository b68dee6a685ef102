package studio_test

import (
	"errors"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"dustyfern/craft/fault"
	"dustyfern/craft/fault/faulttest"
	"dustyfern/demo"
	"dustyfern/studio/document"
)

// every how many documents that can be read is brought in.
const everyTorn = 120

// A document comes from anywhere: whatever value of it is put out of order, it is read, or it is
// refused with its place and what would be right. What can be read comes in, is planned and shown,
// and goes out as it came: no check is left to the tables.
func TestWhatIsReadComesIn(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.Wake = nil // one plan of each will do
	read := 0
	faulttest.Tear(t, [][]byte{demo.Document(h.now)}, 1, func(_ int, torn []byte) string {
		var f *fault.Fault
		switch _, err := document.ReadDocument(torn); {
		case err == nil:
		case !errors.As(err, &f) || f.Field == "" || f.Message == "":
			return "it is refused without a place: " + err.Error()
		default:
			return ""
		}
		if read++; read%everyTorn != 0 {
			return ""
		}
		row, err := h.Import(t.Context(), torn)
		if err != nil {
			return "it was read, and then: " + err.Error()
		}
		h.planNow(row.Slug)
		if _, err := h.Bench(t.Context(), row.Slug, ""); err != nil {
			return "its bench: " + err.Error()
		}
		list, err := h.Commissions(t.Context(), row.Slug, 0)
		if err != nil {
			return "its commissions: " + err.Error()
		}
		for _, c := range list.Rows {
			if _, err := h.Commission(t.Context(), row.Slug, c.ID); err != nil {
				return fmt.Sprintf("its %s: %v", c.Title, err)
			}
		}
		once, err := h.Export(t.Context(), row.Slug)
		if err != nil {
			return "it does not go out: " + err.Error()
		}
		again, err := h.Import(t.Context(), once)
		if err != nil {
			return "what went out does not come in: " + err.Error()
		}
		if twice, err := h.Export(t.Context(), again.Slug); err != nil || string(twice) != string(once) {
			return fmt.Sprintf("it does not go out as it came in: %v", err)
		}
		return ""
	})
	if read < everyTorn {
		t.Errorf("%d could be read", read)
	}
}

// What a document leaves empty comes in as empty.
func TestNothingIsAnEmptyList(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	doc := string(demo.Document(h.now))
	for _, field := range []string{"measures", "weighings", "extras", "tools", "ways", "joins", "gelLots", "allergies", "felt", "mixes"} {
		doc = regexp.MustCompile(`"`+field+`": (\[\]|\{\}|\{\n    "ringMM": 2\n   \})`).ReplaceAllString(doc, `"`+field+`": null`)
	}
	row, err := h.Import(t.Context(), []byte(doc))
	h.ok(err)
	out, err := h.Export(t.Context(), row.Slug)
	h.ok(err)
	if strings.Contains(string(out), "null") {
		t.Error("what was empty went out as nothing")
	}
}
