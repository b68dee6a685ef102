package studio_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/photo"
	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
)

// plate is a photo of nothing, of its own size.
func plate(t testing.TB, side int) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, side, side)), nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func (h *house) tool(id int64) pantry.ToolView {
	h.t.Helper()
	ts, err := h.Tools(h.t.Context(), h.slug)
	h.ok(err)
	for _, x := range ts {
		if x.ID == id {
			return x
		}
	}
	h.t.Fatal("no such tool")
	return pantry.ToolView{}
}

// A tool has a photo with what hands must know marked on it; it stands beside the
// pressing, and what is taken back comes back with its marks.
func TestAToolHasAPhoto(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	ctx := t.Context()
	first := plate(t, 40)
	h.ok(h.Photograph(ctx, h.slug, m, first))
	at := h.tool(m).Photo.ID
	if got, err := h.Photo(ctx, h.slug, at); err != nil || !bytes.Equal(got, first) {
		t.Fatal(len(got), err)
	}
	marks := []noun.Spot{{What: "deep", X: 0.25, Y: 0.75}, {What: "small", X: 1, Y: 0}}
	h.ok(h.Mark(ctx, h.slug, m, at, marks))
	if p := h.tool(m).Photo; !slices.Equal(p.Marks, marks) || len(p.Says) != 2 || !strings.Contains(p.Says[0], "Deep zones first") {
		t.Errorf("%+v", p)
	}
	for _, bad := range []noun.Spot{{What: "soft", X: 0, Y: 0}, {What: "deep", X: 1.01, Y: 0}, {What: "deep", X: 0, Y: -0.1}} {
		if err := h.Mark(ctx, h.slug, m, at, []noun.Spot{bad}); err == nil {
			t.Errorf("%+v was taken", bad)
		}
	}
	h.refused(h.Mark(ctx, h.slug, m, at, make([]noun.Spot, noun.MostMarks+1)), "marks", "At most 24")

	// beside the pressing, and only there
	h.piece(o, m, set{"name": "Shells"})
	h.now = h.steps("knead")[0].Start
	if b := h.bench(); b.Now == nil || b.Photo != nil {
		t.Errorf("a photo of the mould at %+v", b.Now)
	}
	h.finish("knead")
	for b := h.bench(); b.Now != nil && !b.Now.Makes(); b = h.bench() {
		h.finish(b.Now.Kind)
	}
	h.after(40 * time.Minute)
	if b := h.bench(); b.Now == nil || b.Photo == nil || len(b.Photo.Marks) != 2 {
		t.Errorf("no photo at %+v", b.Now)
	}

	// another photo has marks of its own; taken back, the old one is there with its own
	h.ok(h.Photograph(ctx, h.slug, m, plate(t, 50)))
	if p := h.tool(m).Photo; len(p.Marks) != 0 || p.ID == at {
		t.Errorf("%+v", p)
	}
	h.refused(h.Mark(ctx, h.slug, m, at, marks), "photo", "another photo")
	j, err := h.Journal(ctx, h.slug, 0, 0)
	h.ok(err)
	h.ok(h.Undo(ctx, h.slug, j.Entries[0].ID, true))
	if p := h.tool(m).Photo; p.ID != at || len(p.Marks) != 2 {
		t.Errorf("%+v", p)
	}
	h.ok(h.Photograph(ctx, h.slug, m, nil))
	if p := h.tool(m).Photo; p != nil {
		t.Errorf("%+v", p)
	}
	if err := h.Photograph(ctx, h.slug, 999, first); !errors.Is(err, journal.ErrNotFound) {
		t.Error(err)
	}
}

// A studio that is carried elsewhere carries its photos; what is none is refused with
// its place, and another studio's are out of reach.
func TestPhotosAreCarried(t *testing.T) {
	t.Parallel()
	h, m, _ := stocked(t)
	ctx := t.Context()
	h.ok(h.Photograph(ctx, h.slug, m, plate(t, 60)))
	at := h.tool(m).Photo.ID
	h.ok(h.Mark(ctx, h.slug, m, at, []noun.Spot{{What: "deep", X: 0.5, Y: 0.5}}))
	raw, err := h.Export(ctx, h.slug)
	h.ok(err)
	row, err := h.Import(ctx, raw)
	h.ok(err)
	ts, err := h.Tools(ctx, row.Slug)
	h.ok(err)
	i := slices.IndexFunc(ts, func(x pantry.ToolView) bool { return x.Photo != nil })
	if i < 0 || len(ts[i].Photo.Marks) != 1 {
		t.Fatalf("%+v", ts)
	}
	if got, err := h.Photo(ctx, row.Slug, ts[i].Photo.ID); err != nil || !bytes.Equal(got, plate(t, 60)) {
		t.Error(len(got), err)
	}
	if _, err := h.Photo(ctx, row.Slug, at); !errors.Is(err, journal.ErrNotFound) {
		t.Errorf("another studio's photo: %v", err)
	}
	for field, spoil := range map[string]func(*document.Document){
		"photos[0].photo":        func(d *document.Document) { d.Photos[0] = []byte("tea") },
		"tools[0].photo":         func(d *document.Document) { d.Tools[0].Photo = new(int64(2)) },
		"tools[0].marks[0].what": func(d *document.Document) { d.Tools[0].Marks = []noun.Spot{{What: "tea"}} },
	} {
		var d document.Document
		h.ok(json.Unmarshal(raw, &d))
		spoil(&d)
		b, err := json.Marshal(d)
		h.ok(err)
		_, err = document.ReadDocument(b)
		var f *fault.Fault
		if !errors.As(err, &f) || f.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// A photo that no tool has is forgotten when no line can bring it back.
func TestOldPhotosGo(t *testing.T) {
	t.Parallel()
	h, m, _ := stocked(t)
	ctx := t.Context()
	h.ok(h.Photograph(ctx, h.slug, m, plate(t, 30)))
	old := h.tool(m).Photo.ID
	h.ok(h.Photograph(ctx, h.slug, m, plate(t, 31)))
	is := h.tool(m).Photo.ID
	prune := func(before time.Time) {
		t.Helper()
		h.ok(h.Store.Write(ctx, h.slug, func(tx journal.Tx) error {
			_, err := tx.Prune(before, before, 1000)
			return err
		}))
	}
	prune(h.now.Add(-time.Hour))
	if _, err := h.Photo(ctx, h.slug, old); err != nil {
		t.Errorf("it can still be taken back: %v", err)
	}
	prune(h.now.Add(time.Hour))
	if _, err := h.Photo(ctx, h.slug, old); !errors.Is(err, journal.ErrNotFound) {
		t.Errorf("nothing brings it back: %v", err)
	}
	if _, err := h.Photo(ctx, h.slug, is); err != nil {
		t.Error(err)
	}
	h.must(studio.KindTool, m, set{"name": "Renamed"})
}

// All photos of a studio go into one document: what would not come in again is
// refused when it is taken.
func TestADrawerOfPhotosCanBeCarried(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	large := make([]byte, photo.MostKept)
	n := 0
	for ; n <= noun.MostPhotoBytes/photo.MostKept; n++ {
		id := h.mould(set{"name": fmt.Sprintf("Mould %d", n)})
		err := h.Photograph(t.Context(), h.slug, id, large)
		if n < noun.MostPhotoBytes/photo.MostKept {
			h.ok(err)
			continue
		}
		h.refused(err, "photo", "take some away first")
		h.ok(h.Photograph(t.Context(), h.slug, 1, nil))
		h.ok(h.Photograph(t.Context(), h.slug, id, large))
	}
	if n < 50 {
		t.Errorf("%d photos", n)
	}
}
