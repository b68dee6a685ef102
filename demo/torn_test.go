package demo_test

import (
	"errors"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/fault/faulttest"
	"dustyfern/demo"
	"dustyfern/studio/document"
)

// A document comes from anywhere: whatever value of it is put out of order, it is
// read, or it is refused with its place and what would be right.
func TestATornDocumentIsReadOrRefused(t *testing.T) {
	t.Parallel()
	whole := demo.Document(time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC))
	faulttest.Tear(t, whole, 0, func(torn []byte) string {
		_, err := document.ReadDocument(torn)
		var f *fault.Fault
		switch {
		case err == nil:
			return ""
		case !errors.As(err, &f) || f.Field == "" || f.Message == "":
			return "it is refused without a place: " + err.Error()
		}
		return ""
	})
}
