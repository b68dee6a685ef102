package noun

import "time"

// Trouble is something that is wrong today: one sentence, one remedy, and a press
// where one mends it. Its text stands as it was found; By is told apart, since the
// hour nears.
type Trouble struct {
	Code         string     `json:"code" enum:"allergen,stop,label,never,cannot,late,short,stock,lying,missed,old,handOver,plan"`
	CommissionID int64      `json:"commissionId,omitempty"`
	Commission   string     `json:"commission,omitempty" doc:"its title"`
	PieceID      int64      `json:"pieceId,omitempty"`
	Piece        string     `json:"-"` // its name, where Says begins with it
	Says         string     `json:"says"`
	Remedy       string     `json:"remedy"`
	Do           string     `json:"do,omitempty" doc:"what the press says; empty: there is none"`
	Act          string     `json:"act,omitempty" enum:"washed" doc:"the press does this"`
	More         int        `json:"more,omitempty" doc:"the press has so many more made"`
	To           string     `json:"to,omitempty" doc:"the press opens this page of the studio"`
	Stops        bool       `json:"stops,omitempty" doc:"nothing of its order goes on the cake before"`
	By           *time.Time `json:"by,omitempty" doc:"when it bites"`
}

// troubleOrder is what troubles cost, the dearest first: somebody's health, the
// order, pieces, paste, time.
var troubleOrder = []string{"allergen", "stop", "label", "late", "never", "cannot", "plan", "short", "stock", "lying", "missed", "handOver", "old"}

// TroubleCost orders troubles: the lower, the dearer.
func TroubleCost(code string) int {
	for i, c := range troubleOrder {
		if c == code {
			return i
		}
	}
	return len(troubleOrder)
}
