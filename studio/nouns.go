// Package studio is what a decorator does: commissions and their pieces, the
// pantry, the tool drawer, the kitchen, the line and the bench. It owns the
// nouns, calls craft for every rule of the job, and remembers through Store.
package studio

import "time"

// Kitchen is a studio: its room, hours, places and habits.
type Kitchen struct {
	ID            int64
	Version       int64
	Slug          string
	Name          string
	TimeZone      string
	TempC         float64
	RHPercent     float64
	FreezerPlaces int
	GramsPerTsp   *float64
	ScaleStepG    float64
	Powder        string
	School        string
	Breakage      string
	Words         string
	Units         string
	Scheme        string
	Keys          bool
	BufferMinutes int
	Confidence    float64
	ToDarker      int
	ToLighter     int
	ToWhite       int
	WhiteFrom     float64
	KneadFirst    int
	KneadMore     int
	PutOnBase     float64
	PutOnSmall    float64
	PutOnLarge    float64
	SettleMinutes int
	PackMinutes   int
	FreshDays     float64
	Trays         []Tray      `gorm:"serializer:json"`
	Formers       []Former    `gorm:"serializer:json"`
	Hours         []Hours     `gorm:"serializer:json"`
	Exceptions    []Exception `gorm:"serializer:json"`
}

// Tray is trays of one size.
type Tray struct {
	Count    int     `json:"count"`
	LengthMM float64 `json:"lengthMM"`
	WidthMM  float64 `json:"widthMM"`
}

// Former is something that holds a curve while it dries, and how many.
type Former struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
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

// Exception changes one date: shut, or these hours instead of the weekly ones.
type Exception struct {
	Date string  `json:"date"`
	Open []Hours `json:"open"`
}

// Tool is a mould of the drawer.
type Tool struct {
	ID             int64
	Version        int64
	DeletedAt      *time.Time
	Name           string
	Make           string
	Shape          string
	CavityML       *float64
	WeighedG       *float64
	LengthMM       float64
	WidthMM        float64
	DepthMM        float64
	DetailMM       *float64
	Undercut       bool
	Patterned      bool
	Branching      bool
	Chilled        bool
	FreezeMinutes  *float64
	Cavities       int
	Copies         int
	FillMinutes    *float64
	UnmouldMinutes *float64
}

// Lot is a paste of the pantry.
type Lot struct {
	ID        int64
	Version   int64
	DeletedAt *time.Time
	Name      string
	Kind      string
	MassG     float64
	Grade     *int
	OpenedOn  *time.Time
	Swatch    *string
	Allergens []string `gorm:"serializer:json"`
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
	ID         int64
	Version    int64
	DeletedAt  *time.Time
	Title      string
	Customer   string
	HandOver   *time.Time
	CakeReady  *time.Time
	Carrier    string
	Tiers      []Tier `gorm:"serializer:json"`
	Count      *int
	AcrossMM   *float64
	Domed      bool
	Guests     string
	Children   bool
	Allergies  []string `gorm:"serializer:json"`
	NoAlcohol  bool
	NoGelatine bool
	Notes      string
	State      string
}

// Piece is a counted decoration of a commission.
type Piece struct {
	ID            int64
	Version       int64
	DeletedAt     *time.Time
	CommissionID  int64
	Position      int
	Name          string
	Wanted        int
	MouldID       *int64
	Colour        string
	Swatch        string
	Eaten         string
	KnifePasses   bool
	Stance        string
	HeightMM      *float64
	Bent          bool
	Joined        string
	Support       string
	Carries       bool
	Bagged        bool
	HandledSoon   bool
	EdgeMM        *float64
	Dusted        bool
	Chill         bool
	HeldUp        bool
	WayOut        string
	PegPercent    *float64
	School        string
	Dough         string
	TrialG        *float64
	TrialLowG     *float64
	TrialHighG    *float64
	TrialText     string
	TrialEstimate bool
	Extras        []int `gorm:"serializer:json"` // pressed again, by batch
}

// Figure is a number as the reader sees it, with its reason.
type Figure struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Text  string  `json:"text"`
	Why   *Why    `json:"why,omitempty"`
}

// Why opens a number: the rule, the formula, and the values that went in.
type Why struct {
	Rule    string  `json:"rule"`
	Formula string  `json:"formula"`
	Values  []Named `json:"values"`
}

// Named is a value under its name.
type Named struct {
	Name string `json:"name"`
	Text string `json:"text"`
}

// Way is one way that good makers take, with its reason; Usual marks ours.
type Way struct {
	Say   string `json:"say"`
	Why   string `json:"why"`
	Usual bool   `json:"usual"`
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
	Planned      Standing   `json:"planned" gorm:"serializer:json"`
	Fills        []Fill     `json:"fills" gorm:"serializer:json"`
	Breaks       []Break    `json:"breaks" gorm:"serializer:json"`
	Made         *int       `json:"made,omitempty"`
}

// Standing is what the plan says of a step beside its times.
type Standing struct {
	Colour     string `json:"colour"`
	Swatch     string `json:"swatch"`
	Window     string `json:"window"`
	Hands      []int  `json:"hands"`
	CleanDown  int    `json:"cleanDown"`
	Latest     string `json:"latest"` // instant, RFC 3339
	SlackMin   int    `json:"slackMinutes"`
	NotLater   string `json:"notLater"`
	NotEarlier string `json:"notEarlier"`
	Decides    bool   `json:"decides"`
	Cord       string `json:"cord"` // of a wait: rest, freezer or drying
	After      string `json:"after"`
	Minutes    int    `json:"minutes"`
	Round      string `json:"round"`
	Run        *Run   `json:"run,omitempty"`   // of a press
	Marks      []Mark `json:"marks,omitempty"` // of a drying: when it may be touched, lifted, joined
	OpenMin    int    `json:"openMinutes,omitempty"`
}

// Run is the rounds of a press: how often the mould is filled, and how long
// each movement takes.
type Run struct {
	Fills      int `json:"fills"`
	Copies     int `json:"copies"`
	FillSec    int `json:"fillSec"`
	HoldSec    int `json:"holdSec"`
	UnmouldSec int `json:"unmouldSec"`
	Cavities   int `json:"cavities"`
	Balls      int `json:"balls"`
}

// Mark is a stage of drying, in minutes after the pieces were laid out.
type Mark struct {
	Kind    string `json:"kind"`
	Minutes int    `json:"minutes"`
}

// Plan is what is kept of the one plan beside its steps.
type Plan struct {
	Hash    string
	MadeAt  time.Time
	Summary Summary `gorm:"serializer:json"`
}

// Summary is what decides, and what does not fit.
type Summary struct {
	Fits     bool          `json:"fits"`
	StartBy  *time.Time    `json:"startBy,omitempty"`
	SlackMin int           `json:"slackMinutes"`
	Chain    []string      `json:"chain"`
	Late     []LateLine    `json:"late"`
	LeftOut  []LeftOutLine `json:"leftOut"`
	Trouble  string        `json:"trouble"`
	Windows  []OpenWindow  `json:"windows"`
	Moved    []MovedLine   `json:"moved"`
	MovedWhy string        `json:"movedWhy"`
	Before   []Place       `json:"before"`
}

// LateLine is a commission that does not fit, by how much, and why.
type LateLine struct {
	CommissionID int64  `json:"commissionId"`
	Minutes      int    `json:"minutes"`
	By           string `json:"by"`
}

// LeftOutLine is a piece that is not in the plan, and why.
type LeftOutLine struct {
	CommissionID int64  `json:"commissionId"`
	PieceID      int64  `json:"pieceId"`
	Say          string `json:"say"`
}

// OpenWindow is a stretch at the bench with at least one step.
type OpenWindow struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}
