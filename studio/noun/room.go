package noun

import (
	"slices"
	"time"
)

// RoomSaid is the room from an instant on, as somebody said it.
type RoomSaid struct {
	At        time.Time `json:"at"`
	TempC     float64   `json:"tempC"`
	RHPercent float64   `json:"rhPercent"`
}

// How much is kept of what was said of the room: longer than anything dries.
const (
	roomKept     = 15 * 24 * time.Hour
	MostRoomSaid = 200
)

// SaysRoom notes that the room is another one from now on than it was.
func (k *Kitchen) SaysRoom(tempC, rhPercent float64, now time.Time) {
	now = now.UTC().Truncate(time.Second)
	said := slices.Clone(k.Room)
	if len(said) == 0 {
		said = []RoomSaid{{TempC: tempC, RHPercent: rhPercent}} // as it had always been
	}
	said = append(said, RoomSaid{now, k.TempC, k.RHPercent})
	for len(said) > 1 && (said[1].At.Before(now.Add(-roomKept)) || len(said) > MostRoomSaid) {
		said = said[1:]
	}
	k.Room = said
}

// RoomFrom is the room from an instant on: as it was then, and each change since.
func (k *Kitchen) RoomFrom(at time.Time) []RoomSaid {
	out := []RoomSaid{{at, k.TempC, k.RHPercent}}
	for i, r := range k.Room {
		switch {
		case !r.At.After(at) || i == 0:
			out = []RoomSaid{{at, r.TempC, r.RHPercent}}
		default:
			out = append(out, r)
		}
	}
	return out
}

// Body is what dries in a step, kept with it: another room dries it in another time.
type Body struct {
	Paste       string  `json:"paste"` // family by which it dries; of a dough the dough
	GumPercent  float64 `json:"gumPercent"`
	Shape       string  `json:"shape"`
	ThicknessMM float64 `json:"thicknessMM"`
	BodyMM      float64 `json:"bodyMM,omitempty"` // of what is rolled: its whole width
	Support     string  `json:"support"`
	Sets        bool    `json:"sets,omitempty"` // by temperature
	Until       string  `json:"until"`          // the stage that the step waits for: hold or firm

	// of the room for which it was planned; 0: not kept
	TempC     float64 `json:"tempC,omitempty"`
	RHPercent float64 `json:"rhPercent,omitempty"`
}
