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
	k.Room = said(k.Room, tempC, rhPercent, RoomSaid{now, k.TempC, k.RHPercent})
}

// said is what was said of an air, with what is said now; before the first it had always
// been as it was.
func said(room []RoomSaid, tempC, rhPercent float64, is RoomSaid) []RoomSaid {
	is.At = is.At.UTC().Truncate(time.Second)
	out := slices.Clone(room)
	if len(out) == 0 {
		out = []RoomSaid{{TempC: tempC, RHPercent: rhPercent}}
	}
	out = append(out, is)
	for len(out) > 1 && (out[1].At.Before(is.At.Add(-roomKept)) || len(out) > MostRoomSaid) {
		out = out[1:]
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
	Rack      int64   `json:"rack,omitempty"` // where it is laid out
}
