package work

import (
	"dustyfern/craft/caution"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// PieceView is a piece as its stages show it.
type PieceView struct {
	ID       int64             `json:"id"`
	Version  int64             `json:"version"`
	Name     string            `json:"name"`
	Wanted   int               `json:"wanted"`
	ToolName string            `json:"toolName"`
	Last     []LastTime        `json:"last" doc:"the last three times such pieces were made"`
	Way      *WayOfMaking      `json:"way,omitempty" doc:"how it is made"`
	Needed   int               `json:"needed" doc:"how many the order takes, as parts of others among them"`
	Parts    []PartView        `json:"parts" doc:"what goes on to it, in order"`
	PartOf   []string          `json:"partOf" doc:"what it is a part of"`
	Ways     []WayAsked        `json:"ways" doc:"questions on which good makers differ, at their steps"`
	Colour   string            `json:"colour"`
	Swatch   string            `json:"swatch"`
	Missing  string            `json:"missing"`
	Fields   []read.FieldView  `json:"fields"`
	Settings map[string]string `json:"settings"`
	Cautions []caution.Caution `json:"cautions"`
	Paste    *PasteView        `json:"paste,omitempty"`
	Make     *MakeView         `json:"make,omitempty"`
	Beside   []BesideView      `json:"beside" doc:"the piece and whatever goes on to it, side by side; none when it has no parts"`
	Made     string            `json:"made" doc:"what is made so far"`
	Dry      *DryView          `json:"dry,omitempty"`
	Finish   *FinishStage      `json:"finish,omitempty"`
	Join     *JoinView         `json:"join,omitempty" doc:"how it goes on"`
	Fits     []noun.Figure     `json:"fits" doc:"how many stand round each tier, from below"`
}

// PasteView is the firmness rail and what lies below it.
type PasteView struct {
	Empty       bool         `json:"empty"`
	Bars        []BarView    `json:"bars"`
	From        float64      `json:"from"`
	To          float64      `json:"to"`
	WindowSays  string       `json:"windowSays"`
	Open        bool         `json:"open" doc:"a window exists"`
	Axis        []AxisMark   `json:"axis"`
	AxisEnd     float64      `json:"axisEnd"`
	Peg         *noun.Figure `json:"peg,omitempty"`
	PegSays     string       `json:"pegSays"`
	Advised     float64      `json:"advised"`
	AdvisedSays string       `json:"advisedSays"`
	Own         bool         `json:"own" doc:"the peg was moved by hand"`
	Broken      []string     `json:"broken"`
	Clash       []string     `json:"clash"`
	Ways        []WayView    `json:"ways"`
	Mix         []MixView    `json:"mix"`
	MixSays     string       `json:"mixSays"`
	Short       string       `json:"short"`
	Refused     []string     `json:"refused"`
	Rest        string       `json:"rest"`
	Schools     []DoseView   `json:"schools"`
	Doughs      []DoughView  `json:"doughs"`
	FatSet      string       `json:"fatSet"`
	Notes       []string     `json:"notes"`
	Knead       []string     `json:"knead" doc:"the knead, movement by movement"`
	Sides       []SchoolView `json:"sides" doc:"questions on which good makers differ that this piece raises"`
}

// BarView is one demand over the rail.
type BarView struct {
	Code string  `json:"code"`
	Say  string  `json:"say"`
	Why  string  `json:"why"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
	Hard bool    `json:"hard"`
	Met  bool    `json:"met"`
	Span string  `json:"span"`
}

// AxisMark names a place on the rail.
type AxisMark struct {
	At  float64 `json:"at"`
	Say string  `json:"say"`
}

// WayView is a way out of an empty window: a press sets fields, another takes
// them back.
type WayView struct {
	Do      string            `json:"do"`
	Say     string            `json:"say"`
	Why     string            `json:"why"`
	Applied bool              `json:"applied"`
	Set     map[string]string `json:"set"`
}

// MixView is grams of one lot.
type MixView struct {
	Name   string      `json:"name"`
	Note   string      `json:"note"`
	Swatch string      `json:"swatch,omitempty"`
	Grams  noun.Figure `json:"grams"`
	Powder string      `json:"powder,omitempty" doc:"of hardener its kind"`
}

// DoseView is a school of hardener for this piece.
type DoseView struct {
	Code     string      `json:"code"`
	Name     string      `json:"name"`
	Why      string      `json:"why"`
	Percent  string      `json:"percent"`
	Spread   string      `json:"spread"`
	Strength string      `json:"strength"`
	Plain    noun.Figure `json:"plain"`
	Powder   noun.Figure `json:"powder"`
	Spoons   string      `json:"spoons"`
	Rounding string      `json:"rounding"`
	Rest     string      `json:"rest"`
	Warning  string      `json:"warning"`
	Chosen   bool        `json:"chosen"`
	Usual    bool        `json:"usual" doc:"the studio's usual dose"`
	Out      string      `json:"out" doc:"why it does not suit this piece"`
}

// DoughView is a fat-set dough beside the sugar pastes.
type DoughView struct {
	Code    string `json:"code"`
	Name    string `json:"name"`
	Refused string `json:"refused"`
	Says    string `json:"says"`
	Chosen  bool   `json:"chosen"`
}

// PartView is a part that goes on to a piece.
type PartView struct {
	Part    int64  `json:"part"`
	Name    string `json:"name"`
	Swatch  string `json:"swatch"`
	Each    int    `json:"each"`
	Total   int    `json:"total"`
	State   string `json:"state" doc:"in which it goes on"`
	Says    string `json:"says"`
	With    string `json:"with"`
	Minutes string `json:"minutes"`
}

// WayAsked is a question with its options, and the step that it concerns.
type WayAsked struct {
	Question string     `json:"question"`
	Asks     string     `json:"asks"`
	At       string     `json:"at" doc:"the step, in words"`
	Options  []noun.Way `json:"options"`
}

// WayOfMaking is how a piece is made, in words.
type WayOfMaking struct {
	Key    string   `json:"key"`
	Name   string   `json:"name"`
	About  string   `json:"about"`
	Limit  string   `json:"limit" doc:"what sets the pace"`
	Faults []string `json:"faults" doc:"steps at which faults are first seen"`
}

// ChainStep is one step of a chain, as Make shows it.
type ChainStep struct {
	Op      string `json:"op"`
	Say     string `json:"say"`
	Hands   bool   `json:"hands"`
	Text    string `json:"text" doc:"how long"`
	Minutes int    `json:"minutes"`
	Rounds  string `json:"rounds"`
	Uses    string `json:"uses" doc:"what it takes up meanwhile"`
}

// ChainBatch is some of the pieces with steps of their own.
type ChainBatch struct {
	Pieces int         `json:"pieces"`
	Steps  []ChainStep `json:"steps"`
}

// MakeView is the batch.
type MakeView struct {
	Pictures []Drawn      `json:"pictures" doc:"what is measured, to scale"`
	RollOut  *RollOutView `json:"rollOut,omitempty" doc:"of what is cut from a sheet"`
	Draws    string       `json:"draws" doc:"what a drawing of its outline would be; empty: it is cut from no sheet"`
	Drawn    string       `json:"drawn" doc:"its own outline as SVG path data in mm; empty: none"`
	OnTiers  bool         `json:"onTiers" doc:"it can be set round a tier"`

	Learnt    []LearntView   `json:"learnt" doc:"what these hands have taught"`
	Shortcuts []ShortcutView `json:"shortcuts" doc:"changes that save hands, the greatest first"`
	LengthMM  float64        `json:"lengthMM" doc:"as it lies"`
	WidthMM   float64        `json:"widthMM"`
	Round     float64        `json:"round" doc:"how round its corners are, of its width"`
	Word      string         `json:"word" doc:"what is counted: ball or piece"`
	Batches   []ChainBatch   `json:"batches"`
	SplitSays string         `json:"splitSays" doc:"why it is made in more than one batch"`
	Longest   string         `json:"longest" doc:"the longest wait"`
	Weighed   string         `json:"weighed" doc:"mean and spread of the pieces of its mould that were weighed"`
	From      string         `json:"from"`
	Trial     string         `json:"trial"`
	Estimate  bool           `json:"estimate"`
	Note      string         `json:"note"`
	Ball      noun.Figure    `json:"ball"`
	Tolerance string         `json:"tolerance"`
	Balls     noun.Figure    `json:"balls"`
	Spares    string         `json:"spares"`
	Paste     noun.Figure    `json:"paste"`
	Rounds    *noun.Figure   `json:"rounds,omitempty"`
	LimitedBy string         `json:"limitedBy"`
	Bench     *noun.Figure   `json:"bench,omitempty"`
	Waiting   *noun.Figure   `json:"waiting,omitempty"`
}

// BesideView is a piece or a part of it as it stands beside the others.
type BesideView struct {
	ID       int64        `json:"id"`
	Name     string       `json:"name"`
	Swatch   string       `json:"swatch"`
	On       string       `json:"on" doc:"how many go on to what; empty: the piece itself"`
	LengthMM float64      `json:"lengthMM" doc:"as it lies"`
	WidthMM  float64      `json:"widthMM"`
	Round    float64      `json:"round" doc:"how round its corners are, of its width"`
	Ball     *noun.Figure `json:"ball,omitempty"`
	Balls    *noun.Figure `json:"balls,omitempty"`
	Spares   string       `json:"spares"`
	Bench    *noun.Figure `json:"bench,omitempty"`
	Made     string       `json:"made" doc:"what is made so far"`
	Missing  string       `json:"missing"`
}

// DryView is when the pieces pass their stages in this room.
type DryView struct {
	Room    string      `json:"room"`
	Sets    bool        `json:"sets" doc:"chocolate dough: it sets by temperature"`
	Stages  []StageView `json:"stages"`
	EndHour float64     `json:"endHour"`
	Never   string      `json:"never"`
	Help    []string    `json:"help"`
	Notes   []string    `json:"notes"`
	Dew     []string    `json:"dew"`
	Learnt  string      `json:"learnt" doc:"what notes have taught of this kitchen, in a sentence"`
	Tries   []Try       `json:"tries" doc:"what could be done otherwise, and the times it would give"`
	Habits  []Habit     `json:"habits" doc:"how long good makers wait, and what each costs here"`
	Why     *noun.Why   `json:"why,omitempty"`
}

// StageView is one stage with its band, in hours; -1 where there is none.
type StageView struct {
	Code   string  `json:"code"`
	Say    string  `json:"say"`
	Means  string  `json:"means"`
	P10    float64 `json:"p10"`
	P50    float64 `json:"p50"`
	P90    float64 `json:"p90"`
	Text   string  `json:"text"`
	Band   string  `json:"band"`
	Status string  `json:"status"`
}

// Leaf is one leaflet of a commission's frond.
type Leaf struct {
	Name   string  `json:"name"`
	Swatch string  `json:"swatch"`
	State  string  `json:"state" enum:"curled,open,drying,firm,placed"`
	Share  float64 `json:"share" doc:"of the drying that is over, 0 to 1"`
	Says   string  `json:"says"`
}

// StageMark is a stage of a commission, and whether it is settled.
type StageMark struct {
	Key     int    `json:"key"`
	Code    string `json:"code"`
	Label   string `json:"label"`
	Settled bool   `json:"settled"`
}

// CommissionView is a commission as its page shows it.
type CommissionView struct {
	ID       int64             `json:"id"`
	Version  int64             `json:"version"`
	Title    string            `json:"title"`
	Customer string            `json:"customer"`
	State    string            `json:"state"`
	HandOver string            `json:"handOver"`
	In       string            `json:"in"`
	BeginBy  string            `json:"beginBy"`
	Next     string            `json:"next"`
	Troubles []noun.Trouble    `json:"troubles" doc:"what is wrong today, the dearest first"`
	Says     string            `json:"says"`
	Guests   string            `json:"guests" doc:"who eats, in a line"`
	Fields   []read.FieldView  `json:"fields"`
	Cautions []caution.Caution `json:"cautions"`
	Stages   []StageMark       `json:"stages"`
	Frond    []Leaf            `json:"frond"`
	Pieces   []PieceRow        `json:"pieces"`
	Cake     *CakeView         `json:"cake,omitempty"`
	Eats     []Consequence     `json:"eats" doc:"what follows from who eats"`
}

// Consequence is what follows from somebody at the table.
type Consequence struct {
	What string   `json:"what"`
	Says string   `json:"says"`
	Out  []string `json:"out" doc:"lots of the pantry that it rules out"`
}

// PieceRow is a piece in the list of its commission.
type PieceRow struct {
	ID       int64   `json:"id"`
	Version  int64   `json:"version"`
	Name     string  `json:"name"`
	Wanted   int     `json:"wanted"`
	ToolName string  `json:"toolName"`
	Needed   int     `json:"needed"`
	Part     bool    `json:"part" doc:"it is only a part of others"`
	AcrossMM float64 `json:"acrossMM" doc:"what it is drawn from, true beside the cake"`
	HighMM   float64 `json:"highMM"`
	Colour   string  `json:"colour"`
	Swatch   string  `json:"swatch"`
	Missing  string  `json:"missing"`
}

// CommissionRow is a commission in the list.
type CommissionRow struct {
	ID       int64         `json:"id"`
	Version  int64         `json:"version"`
	Title    string        `json:"title"`
	Customer string        `json:"customer"`
	State    string        `json:"state"`
	HandOver string        `json:"handOver"`
	In       string        `json:"in"`
	BeginBy  string        `json:"beginBy"`
	Next     string        `json:"next"`
	Trouble  *noun.Trouble `json:"trouble,omitempty" doc:"the worst of what is wrong"`
	Troubles int           `json:"troubles" doc:"how much is wrong"`
	Guests   string        `json:"guests" doc:"who eats, in a line"`
	Frond    []Leaf        `json:"frond"`
}

// RowView is a row of the drawer, the pantry or the kitchen as a form.
type RowView struct {
	ID      int64            `json:"id"`
	Version int64            `json:"version"`
	Name    string           `json:"name"`
	Says    []string         `json:"says"`
	Swatch  string           `json:"swatch"`
	Fields  []read.FieldView `json:"fields"`
}

const ShownFelt = 12
