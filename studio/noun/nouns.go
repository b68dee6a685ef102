// Package noun is what the studio speaks of: kitchen, tools, lots, commissions and
// their pieces, the steps that follow from them, clocks, and what each of these
// knows by itself.
package noun

import (
	"time"

	"dustyfern/craft/technique"
)

// Kitchen is a studio: its room, hours, places and habits.
type Kitchen struct {
	ID            int64       `json:"id,omitempty"`
	Version       int64       `json:"version,omitempty"`
	Slug          string      `json:"slug,omitempty"`
	Name          string      `json:"name"`
	TimeZone      string      `json:"timeZone"`
	TempC         float64     `json:"tempC"`
	RHPercent     float64     `json:"rhPercent"`
	FreezerPlaces int         `json:"freezerPlaces"`
	ScaleStepG    float64     `json:"scaleStepG"`
	Powder        string      `json:"powder"`
	School        string      `json:"school"`
	Words         string      `json:"words"`
	Units         string      `json:"units"`
	Scheme        string      `json:"scheme"`
	Keys          bool        `json:"keys"`
	BufferMinutes int         `json:"bufferMinutes"`
	Confidence    float64     `json:"confidence"`
	ToDarker      int         `json:"toDarker"`
	ToLighter     int         `json:"toLighter"`
	ToWhite       int         `json:"toWhite"`
	WhiteFrom     float64     `json:"whiteFrom"`
	KneadFirst    int         `json:"kneadFirst"`
	KneadMore     int         `json:"kneadMore"`
	PutOnBase     float64     `json:"putOnBase"`
	PutOnSmall    float64     `json:"putOnSmall"`
	PutOnLarge    float64     `json:"putOnLarge"`
	SettleMinutes int         `json:"settleMinutes"`
	PackMinutes   int         `json:"packMinutes"`
	FreshDays     float64     `json:"freshDays"`
	Trays         []Tray      `json:"trays" gorm:"serializer:json"`
	Hours         []Hours     `json:"hours" gorm:"serializer:json"`
	Exceptions    []Exception `json:"exceptions" gorm:"serializer:json"`
	UnitGrams     UnitGrams   `json:"unitGrams" gorm:"serializer:json"`
	SpoonGrams    UnitGrams   `json:"spoonGrams" gorm:"serializer:json"` // a level teaspoon of each powder
	DropG         float64     `json:"dropG"`
	DabG          float64     `json:"dabG"`
	Sides         Sides       `json:"sides" gorm:"serializer:json"`
	Room          []RoomSaid  `json:"room" gorm:"serializer:json"` // as it was said, the latest last
	WashedAt      *time.Time  `json:"washedAt,omitempty"`          // board, pin and bags, when nuts or the like had lain there
	BoilingC      *float64    `json:"boilingC,omitempty"`          // what the own thermometer says in boiling water
	Busy          []Busy      `json:"busy" gorm:"serializer:json"` // in order of time, out of calendars
	CalendarKey   string      `json:"-"`                           // who knows it reads the line as a calendar; "": nobody
	ToFree        int         `json:"toFree"`                      // minutes until a board is free of an allergen
	MixWith       string      `json:"mixWith"`                     // what "modelling paste" means in "1:1 with modelling paste"
	AirMS         float64     `json:"airMS"`                       // how fast its air moves
	Sensor        string      `json:"sensor"`                      // what its room sensor calls it; "": none
	Expects       []Expected  `json:"expects" gorm:"serializer:json"`

	Around Surroundings `json:"-" gorm:"-"` // read with it, never saved
}

// Sides is which side this studio is on where good makers differ, by question.
type Sides map[string]string

// UnitGrams is how many grams are in one packet, sachet, leaf, sheet or stick,
// or in a spoon, by what it is of.
type UnitGrams map[string]float64

// Tray is trays of one size.
type Tray struct {
	Count    int     `json:"count"`
	LengthMM float64 `json:"lengthMM"`
	WidthMM  float64 `json:"widthMM"`
}

// Hours is a weekly stretch at the bench. From and To are "19:00" in the
// studio's zone; Unwelcome hours are used only when there is no other way.
type Hours struct {
	Weekday   time.Weekday `json:"weekday"`
	From      string       `json:"from"`
	To        string       `json:"to"`
	People    []string     `json:"people"`
	Unwelcome bool         `json:"unwelcome"`
}

// Busy is a stretch in which somebody cannot be at the bench, out of a calendar of
// theirs. What they do then is not kept.
type Busy struct {
	Who   string    `json:"who"` // "": everybody
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// Exception changes one date: shut, or these hours instead of the weekly ones.
type Exception struct {
	Date string  `json:"date"`
	Open []Hours `json:"open"`
}

// Tool is something of the drawer: of a kind, with the measures of that kind.
type Tool struct {
	Row
	Name           string     `json:"name"`
	Kind           string     `json:"kind"` // of technique.Common.Tools
	Measures       Measures   `json:"measures" gorm:"serializer:json"`
	Shape          string     `json:"shape"` // of the piece as it lies; "" as its way of making says
	CavityML       *float64   `json:"cavityML,omitempty"`
	WeighedG       *float64   `json:"weighedG,omitempty"`
	Chilled        bool       `json:"chilled"`
	FreezeMinutes  *float64   `json:"freezeMinutes,omitempty"`
	UnmouldMinutes *float64   `json:"unmouldMinutes,omitempty"`
	Breakage       string     `json:"breakage,omitempty"` // how much breaks of its pieces; "" as its way of making says
	Copies         int        `json:"copies"`             // all that are owned
	Lent           int        `json:"lent"`
	Broken         int        `json:"broken"`
	Weighings      []Weighing `json:"weighings" gorm:"serializer:json"` // pieces of it, the latest last
	Photo          *int64     `json:"photo,omitempty"`                  // in a document its place in the list of photos, from 1
	Marks          []Spot     `json:"marks" gorm:"serializer:json"`     // on the photo
	Outline        Outline    `json:"outline" gorm:"serializer:json"`   // of what a cutter cuts
	Roller         Roller     `json:"roller" gorm:"serializer:json"`    // of a rolling machine
	Cast           Cast       `json:"cast" gorm:"serializer:json"`      // of a home-made mould
}

// Spot is a place on the photo of a tool that hands must know, as shares of its width
// and height.
type Spot struct {
	What string  `json:"what" enum:"deep,small"` // a deep zone, or a small end
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
}

// Measures are numbers by their names, each ending in its unit.
type Measures map[string]float64

// OwnWay is a way of making that a studio has made its own.
type OwnWay struct {
	Row
	Key         string               `json:"key"`
	FromKey     string               `json:"fromKey"`
	FromVersion int                  `json:"fromVersion"`
	Definition  *technique.Technique `json:"definition" gorm:"serializer:json"`
}

// Lot is something of the pantry: a paste, a colour, or a helper.
type Lot struct {
	Row
	Name       string     `json:"name"`
	Kind       string     `json:"kind"`
	MassG      float64    `json:"massG"`
	Grade      *int       `json:"grade,omitempty"`
	OpenedOn   *time.Time `json:"openedOn,omitempty"`
	BestBefore *time.Time `json:"bestBefore,omitempty"`
	Swatch     *string    `json:"swatch,omitempty"`             // of a gel: 1 g in 100 g of white sugar paste
	Holds      []string   `json:"holds" gorm:"serializer:json"` // allergens by its label
	May        []string   `json:"may" gorm:"serializer:json"`   // that it may contain
	Asks       []string   `json:"asks" gorm:"serializer:json"`  // what guests ask about besides
	LabelRead  bool       `json:"labelRead"`
	Kept       string     `json:"kept"`
	PackG      *float64   `json:"packG,omitempty"` // what is bought at once
	Leftover   bool       `json:"leftover,omitempty"`
	OwesG      float64    `json:"owesG,omitempty"` // taken beyond what was written down

	StrengthPercent *float64 `json:"strengthPercent,omitempty"` // of a paste: its own gum strength
	Felt            []Felt   `json:"felt" gorm:"serializer:json"`

	Deepening     *float64 `json:"deepening,omitempty"` // of a gel, as it rests
	HalfTimeHours *float64 `json:"halfTimeHours,omitempty"`
	DropG         *float64 `json:"dropG,omitempty"`
	Mixes         []Mixed  `json:"mixes" gorm:"serializer:json"`
}

// Felt is how a lot felt once: a squeeze grade, or what came of its pieces.
type Felt struct {
	At    time.Time `json:"at"`
	Who   string    `json:"who"`
	Feel  string    `json:"feel"` // squeezed, stretched, dragged, cracked or tooHard
	Grade int       `json:"grade,omitempty"`
}

// Mixed is a mix of a gel that was compared with what it should be.
type Mixed struct {
	At    time.Time `json:"at"`
	Dose  float64   `json:"dose"` // g in 100 g
	Base  string    `json:"base"`
	Seen  string    `json:"seen"`
	Hours float64   `json:"hours"` // after kneading
	Ratio float64   `json:"ratio"` // how strong against its swatch
	Off   float64   `json:"de00"`  // what stays unexplained
}

// Taken is grams that a step takes out of a lot. In a document Lot is the
// number of the lot.
type Taken struct {
	Lot  int64   `json:"lot"`
	Name string  `json:"name"`
	G    float64 `json:"g"`
}

// Tier of a cake.
type Tier struct {
	Shape     string  `json:"shape"`
	SizeMM    float64 `json:"sizeMM"`
	HeightMM  float64 `json:"heightMM"`
	CoatingMM float64 `json:"coatingMM"`
	Coating   string  `json:"coating"`
}

// Commission is an order: who and what for, when, and who eats.
type Commission struct {
	Row
	Title     string     `json:"title"`
	Customer  string     `json:"customer"`
	HandOver  *time.Time `json:"handOver,omitempty"`
	CakeReady *time.Time `json:"cakeReady,omitempty"`
	Carrier   string     `json:"carrier"`
	Tiers     []Tier     `json:"tiers" gorm:"serializer:json"`
	Count     *int       `json:"count,omitempty"`
	AcrossMM  *float64   `json:"acrossMM,omitempty"`
	Domed     bool       `json:"domed"`
	Guests    string     `json:"guests"`
	Children  bool       `json:"children"`
	Allergies []string   `json:"allergies" gorm:"serializer:json"`
	Without   []string   `json:"without" gorm:"serializer:json"` // what nobody takes besides: alcohol, animal, ...
	AtRisk    []string   `json:"atRisk" gorm:"serializer:json"`  // under3, pregnant, frail
	Notes     string     `json:"notes"`
	State     string     `json:"state"`
	Leaves    Leaves     `json:"leaves,omitzero" gorm:"serializer:json"` // what is settled before it leaves the house
}

// Ways are the options taken, by question.
type Ways map[string]string
