package noun

import (
	"regexp"
	"strings"
)

var slugShape = regexp.MustCompile(`[^a-z0-9]+`)

// NewKitchen is a studio before anything was said of it: starting values that
// Kitchen shows and changes.
func NewKitchen(name string) Kitchen {
	slug := strings.Trim(slugShape.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(slug) > 50 {
		slug = strings.Trim(slug[:50], "-")
	}
	if slug == "" {
		slug = "studio"
	}
	return Kitchen{Version: 1, Slug: slug, Name: name, TimeZone: "Europe/London", TempC: 21, RHPercent: 50, FreezerPlaces: 4, ScaleStepG: 0.1, Powder: "cmc", School: "modelling",
		Words: "uk", Units: "metric", Scheme: "system", Keys: true, BufferMinutes: 60, Confidence: 0.9, ToDarker: 2, ToLighter: 8, ToWhite: 12, ToFree: 20, WhiteFrom: 95,
		KneadFirst: 6, KneadMore: 2, PutOnBase: 4, PutOnSmall: 0.75, PutOnLarge: 1.5, SettleMinutes: 60, PackMinutes: 15, FreshDays: 4,
		Trays: []Tray{{2, 400, 300}}, AirMS: StillAir, Expects: []Expected{}, Exceptions: []Exception{}, Busy: []Busy{}, Room: []RoomSaid{}, UnitGrams: UnitGrams{}, SpoonGrams: UnitGrams{}, Sides: Sides{}, DropG: 0.045, DabG: 0.015,
		Hours: []Hours{{Weekday: 2, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 4, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 6, From: "09:00", To: "13:00", People: []string{}}}}
}

// BlankTool is a tool of a kind of which nothing was said yet.
func BlankTool(kind string) Tool {
	t := Tool{Row: Row{Version: 1}, Copies: 1, Weighings: []Weighing{}, Marks: []Spot{}}
	t.TakeKind(kind)
	return t
}

// BlankLot is a lot of which nothing was said yet.
func BlankLot() Lot {
	return Lot{Row: Row{Version: 1}, Kind: "sugarPaste", Holds: []string{}, May: []string{}, Asks: []string{}, Felt: []Felt{}, Mixes: []Mixed{}}
}

// BlankCommission is an order of which nothing was said yet.
func BlankCommission() Commission {
	return Commission{Row: Row{Version: 1}, Carrier: "tiers", Tiers: []Tier{}, Allergies: []string{}, Without: []string{}, AtRisk: []string{}, State: "open"}
}

// PlainSwatch is paste as it comes.
const PlainSwatch = "#F7F5EE"

// BlankPiece is a piece of which nothing was said yet.
func BlankPiece() Piece {
	return Piece{Row: Row{Version: 1}, Wanted: 12, Swatch: PlainSwatch, ColourFrom: AsItComes, Eaten: "nibbled", Stance: "lying", Joined: "", Support: "", Tools: ToolsOf{}, Measures: Measures{}, Ways: Ways{}, Joins: []Join{}, Extras: []int{}, GelLots: []int64{}, Strands: []Strand{}, Laid: []Put{}}
}

// TitlesOf are the titles of commissions by their number.
func TitlesOf(cs []Commission) map[int64]string {
	out := map[int64]string{}
	for _, c := range cs {
		out[c.ID] = c.Title
	}
	return out
}

// AgainFrom is the number of the first part of a piece that is pressed again.
const AgainFrom = 101

// AgainEach sets apart the batches of one press again, when it takes several.
const AgainEach = 100

// JoinNo is the number of the batch in which the parts of a piece are joined.
const JoinNo = 100
