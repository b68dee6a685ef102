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

// Piece is a counted decoration of a commission.
type Piece struct {
	Row
	CommissionID  int64    `json:"commissionId,omitempty"`
	Position      int      `json:"position"`
	Name          string   `json:"name"`
	Wanted        int      `json:"wanted"`
	ToolID        *int64   `json:"toolId,omitempty"`                // what it is shaped with
	Technique     string   `json:"technique"`                       // how it is made; "" by its tool
	Tools         ToolsOf  `json:"tools" gorm:"serializer:json"`    // other tools by their role; in a document their numbers
	Measures      Measures `json:"measures" gorm:"serializer:json"` // of the way of making, where they are not the usual
	Ways          Ways     `json:"ways" gorm:"serializer:json"`     // options taken, by question
	Joins         []Join   `json:"joins" gorm:"serializer:json"`    // parts that go on to it, in order
	Colour        string   `json:"colour"`
	Swatch        string   `json:"swatch"`
	Eaten         string   `json:"eaten"`
	KnifePasses   bool     `json:"knifePasses"`
	Stance        string   `json:"stance"`
	HeightMM      *float64 `json:"heightMM,omitempty"`
	Bent          bool     `json:"bent"`
	Joined        string   `json:"joined"`
	Support       string   `json:"support"`
	Rack          *int64   `json:"rack,omitempty"` // where it dries; nil: in the kitchen. In a document its number
	Carries       bool     `json:"carries"`
	Bagged        bool     `json:"bagged"`
	HandledSoon   bool     `json:"handledSoon"`
	EdgeMM        *float64 `json:"edgeMM,omitempty"`
	Dusted        bool     `json:"dusted"`
	Chill         bool     `json:"chill"`
	HeldUp        bool     `json:"heldUp"`
	WayOut        string   `json:"wayOut"`
	PegPercent    *float64 `json:"pegPercent,omitempty"`
	School        string   `json:"school"`
	Dough         string   `json:"dough"`
	TrialG        *float64 `json:"trialG,omitempty"`
	TrialLowG     *float64 `json:"trialLowG,omitempty"`
	TrialHighG    *float64 `json:"trialHighG,omitempty"`
	TrialText     string   `json:"trialText"`
	TrialEstimate bool     `json:"trialEstimate"`
	Extras        []int    `json:"extras" gorm:"serializer:json"`          // pressed again, by batch
	GelLots       []int64  `json:"gelLots" gorm:"serializer:json"`         // bottles that make its colour, when not the best set; in a document their numbers
	ColourFrom    string   `json:"colourFrom"`                             // "" gels into the paste, leftovers, asItIs
	Strands       []Strand `json:"strands" gorm:"serializer:json"`         // part-mixed: what lies beside its own colour
	Outline       Outline  `json:"outline" gorm:"serializer:json"`         // what it is cut to, when it is drawn and no cutter's
	Laid          []Put    `json:"laid" gorm:"serializer:json"`            // put down on the rolled sheet by hand
	Finish        Finish   `json:"finish,omitzero" gorm:"serializer:json"` // what comes on to it
	Goes          Goes     `json:"goes,omitzero" gorm:"serializer:json"`   // how it goes on the cake
}

// Strand is a paste that is half kneaded into a piece beside its own colour, which has
// one part: a colour of its own, or the paste as it comes where Swatch is empty.
type Strand struct {
	Colour string  `json:"colour"`
	Swatch string  `json:"swatch"`
	Parts  float64 `json:"parts"`
}

// MostStrands lie beside a piece's own colour.
const MostStrands = 3

// ToolsOf are tools by the role in which they work.
type ToolsOf map[string]int64

// Ways are the options taken, by question.
type Ways map[string]string

// Join is a part that goes on to a piece: another piece of the same order, so
// often for each, in that state. In a document Part is the number of a piece.
type Join struct {
	Part    int64   `json:"part"`
	Each    int     `json:"each"`
	Says    string  `json:"says"`    // where and how, in the decorator's words
	With    string  `json:"with"`    // what holds it
	Minutes float64 `json:"minutes"` // of hands for each
}

// Step is a step of a chain as it stands in the plan, or has happened.
type Step struct {
	ID           int64      `json:"-"`
	Version      int64      `json:"version"`
	CommissionID int64      `json:"commissionId"`
	PieceID      *int64     `json:"pieceId,omitempty"`
	Op           string     `json:"op"`
	Kind         string     `json:"kind"`
	Title        string     `json:"title"`
	Attended     bool       `json:"attended"`
	PlannedStart time.Time  `json:"plannedStart"`
	PlannedEnd   time.Time  `json:"plannedEnd"`
	ActualStart  *time.Time `json:"actualStart,omitempty"`
	ActualEnd    *time.Time `json:"actualEnd,omitempty"`
	Says         []string   `json:"says" gorm:"serializer:json"`
	Checks       []string   `json:"checks" gorm:"serializer:json"`
	Cautions     []string   `json:"cautions" gorm:"serializer:json"`
	Ways         []Way      `json:"ways" gorm:"serializer:json"`
	Figures      []Figure   `json:"figures" gorm:"serializer:json"`
	Planned      Planned    `json:"planned" gorm:"serializer:json"`
	Fills        []Fill     `json:"fills" gorm:"serializer:json"`
	Breaks       []Break    `json:"breaks" gorm:"serializer:json"`
	Made         *int       `json:"made,omitempty"`
	Takes        []Taken    `json:"takes" gorm:"serializer:json"`
	Longer       *Longer    `json:"longer,omitempty" gorm:"serializer:json"`
	Weighed      []Weighing `json:"weighed,omitempty" gorm:"serializer:json"` // balls, as they were portioned
	Who          string     `json:"who,omitempty"`                            // finished it, when that was said
	Clocked      bool       `json:"clocked,omitempty"`                        // both its beginning and its end were seen
	Pinned       *time.Time `json:"pinned,omitempty"`                         // somebody wants it begun just then
	Away         []Away     `json:"away,omitempty" gorm:"serializer:json"`    // hands were called off, and came back
	Tended       []Tended   `json:"tended,omitempty" gorm:"serializer:json"`  // of a drying: what hands did to it meanwhile
	Looked       Looked     `json:"looked,omitempty" gorm:"serializer:json"`  // checks that were looked at

	// Never is that a wait which runs does not end in this room: it follows from the facts
	// and is not kept.
	Never bool `json:"never,omitempty" gorm:"-"`
}

// Looked is how checks came out, by their words: well, or not.
type Looked map[string]bool

// Away is a stretch in which nobody was at a step that had begun.
type Away struct {
	From  time.Time  `json:"from"`
	Until *time.Time `json:"until,omitempty"` // nil: still
}

// Heated is the band of a stage that is cooked to, C.
type Heated struct {
	LowC  float64 `json:"lowC"`
	HighC float64 `json:"highC"`
}

// Planned is what the plan says of a step beside its times.
type Planned struct {
	Name    string `json:"name"` // of its piece; of the assembly the commission's title
	Part    int    `json:"part,omitempty"`
	Parts   int    `json:"parts,omitempty"`
	Again   bool   `json:"again,omitempty"`   // pressed again
	Support string `json:"support,omitempty"` // of a drying: on what, in words

	Colour     string `json:"colour"`
	Swatch     string `json:"swatch"`
	Window     string `json:"window"`
	Hands      []int  `json:"hands"`
	CleanDown  int    `json:"cleanDown"`
	Latest     string `json:"latest"` // instant, RFC 3339
	SlackMin   int    `json:"slackMinutes"`
	SpareMin   *int   `json:"spareMinutes,omitempty"` // of the last drying of a batch: until something waits for it
	NotLater   string `json:"notLater"`
	NotEarlier string `json:"notEarlier"`
	Decides    bool   `json:"decides"`
	Cord       string `json:"cord"` // of a wait: rest, freezer or drying
	After      string `json:"after"`
	Minutes    int    `json:"minutes"`
	Round      string `json:"round"`
	Run        *Run   `json:"run,omitempty"`   // of a press
	Marks      []Mark `json:"marks,omitempty"` // of a drying: when it may be touched, lifted, joined
	Body       *Body  `json:"body,omitempty"`  // and what dries
	OpenMin    int    `json:"openMinutes,omitempty"`

	Uses []Taken `json:"uses,omitempty"` // of a knead: what it takes out of the pantry
	// of a part-mixed knead: what its trimmings become, kneaded through
	Leaves string `json:"leaves,omitempty"`

	Kept   *Kept    `json:"kept,omitempty"`
	Draws  bool     `json:"draws,omitempty"`  // its paste comes out of the pantry
	Share  float64  `json:"share,omitempty"`  // of the piece's paste
	Heat   *Heated  `json:"heat,omitempty"`   // what is cooked to
	Places bool     `json:"places,omitempty"` // after it the pieces are on the cake
	Done   string   `json:"done,omitempty"`   // what a press of the button says
	Clock  string   `json:"clock,omitempty"`  // of a wait: the kind of clock that follows
	Rings  string   `json:"rings,omitempty"`  // and what it says before the step's title
	LayOut []string `json:"layOut,omitempty"` // what it wants on the table
	Fetch  []Fetch  `json:"fetch,omitempty"`  // what it takes of pastes and powders
}

// Words are what a step says at the bench.
type Words struct {
	Says, Checks, Cautions []string
	Ways                   []Way
}
