package pantry

import (
	"context"
	"fmt"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Photo is the JPEG of a photo.
func (s *Keeping) Photo(ctx context.Context, slug string, id int64) (jpeg []byte, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, _ *noun.Kitchen, _ time.Time) error {
		jpeg, err = tx.Photo(id)
		return err
	})
	return jpeg, err
}

// Photograph gives a tool a photo that is small enough to keep, or takes it away when
// there is none. Marks are of the photo before and go with it.
func (s *Keeping) Photograph(ctx context.Context, slug string, tool int64, jpeg []byte) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := ofDrawer(a, tool)
		if err != nil {
			return err
		}
		t.Photo, t.Marks = nil, []noun.Spot{}
		if jpeg == nil {
			a.Say(0, "took the photo of %s away", t.Name)
			return a.Save(&t)
		}
		id, err := a.KeepPhoto(jpeg)
		if err != nil {
			return err
		}
		t.Photo = &id
		a.Say(0, "put a photo to %s", t.Name)
		return a.Save(&t)
	}, nil)
	return err
}

// Mark says where on the photo of a tool its deep zones and small ends are. photo is
// the one that was looked at.
func (s *Keeping) Mark(ctx context.Context, slug string, tool, photo int64, marks []noun.Spot) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := ofDrawer(a, tool)
		if err != nil {
			return err
		}
		if t.Photo == nil || *t.Photo != photo {
			return fault.New(fault.Contradiction, "photo", "%s has another photo meanwhile: look at it, then mark it.", t.Name)
		}
		if err := noun.CheckMarks(marks); err != nil {
			return err
		}
		t.Marks = noun.Some(marks)
		a.Say(0, "marked the photo of %s: %s", t.Name, marksSay(marks))
		return a.Save(&t)
	}, nil)
	return err
}

func ofDrawer(tx journal.Tx, id int64) (noun.Tool, error) {
	t, err := journal.Get[noun.Tool](tx, id)
	if err == nil && t.DeletedAt != nil {
		err = journal.ErrNotFound
	}
	return t, err
}

func marksSay(marks []noun.Spot) string {
	deep, small := 0, 0
	for _, m := range marks {
		if m.What == noun.DeepZone {
			deep++
		} else {
			small++
		}
	}
	return fmt.Sprintf("%s, %s", read.Count(deep, "deep zone"), read.Count(small, "small end"))
}
