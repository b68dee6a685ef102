// Package technique is every way of making as data: the reader of a technique's
// file and of its small expressions, and the one function that turns a part with
// its measures into steps. It knows how to read a technique, and none by name. See
// docs/models/technique.md.
package technique

import (
	"embed"
	"encoding/json"
	"slices"
)

//go:embed data
var embedded embed.FS

// The formats that this program reads.
const (
	commonFormat    = "dustyfern-techniques-common/1"
	techniqueFormat = "dustyfern-technique/1"
)

// Names are what a thing is called on either side of the ocean.
type Names struct {
	UK string `json:"uk"`
	US string `json:"us"`
}

// Measure is one number of a tool or a technique; Unit "yes" is 0 or 1. Draws says
// what it shows true to scale.
type Measure struct {
	Name    string  `json:"name"`
	Says    string  `json:"says"`
	Unit    string  `json:"unit"`
	From    float64 `json:"from"`
	To      float64 `json:"to"`
	Default float64 `json:"default"`
	Draws   string  `json:"draws,omitempty"`
}

// ToolKind is what a decorator owns; Capacity names the measure that says how many
// may be in use at once.
type ToolKind struct {
	Kind     string    `json:"kind"`
	Names    Names     `json:"names"`
	Measures []Measure `json:"measures"`
	Capacity string    `json:"capacity,omitempty"`
	Draws    string    `json:"draws,omitempty"`
}

// Role is a kind of tool in a technique; Also are other kinds with the same
// measures that do as well.
type Role struct {
	Role string   `json:"role"`
	Kind string   `json:"kind"`
	Also []string `json:"also,omitempty"`
}

// Takes tells whether a tool of a kind can work in the role.
func (r *Role) Takes(kind string) bool { return r.Kind == kind || slices.Contains(r.Also, kind) }

// Option is an answer to a way; Sets are numbers that it changes.
type Option struct {
	ID   string            `json:"id"`
	Says string            `json:"says"`
	Why  string            `json:"why"`
	Ours bool              `json:"ours,omitempty"`
	Sets map[string]string `json:"sets,omitempty"`
}

// Way is a question on which good makers differ.
type Way struct {
	Question string   `json:"question"`
	Says     string   `json:"says"`
	Options  []Option `json:"options"`
}

// When is something that holds while an expression is over 0.
type When struct {
	Code  string `json:"code,omitempty"`  // of a demand
	Paste string `json:"paste,omitempty"` // usual, or refused
	Field string `json:"field,omitempty"` // of a refusal
	When  string `json:"when,omitempty"`
	Why   string `json:"why,omitempty"`
}

// Body is what dries: the input of drying.predict. BodyMM is the whole width of what is
// rolled.
type Body struct {
	ID          string `json:"id"`
	Shape       string `json:"shape"`
	ThicknessMM string `json:"thicknessMM"`
	BodyMM      string `json:"bodyMM,omitempty"`
	Support     string `json:"support"`
	Says        string `json:"says"`
}

// Given is a number: of an expression, or of a topic of the core.
type Given struct {
	Name  string            `json:"name,omitempty"`
	Is    string            `json:"is,omitempty"`
	Topic string            `json:"topic,omitempty"`
	In    map[string]any    `json:"in,omitempty"`
	Out   map[string]string `json:"out,omitempty"`
	When  string            `json:"when,omitempty"`
	Says  string            `json:"says,omitempty"`
}

// Run is a stretch of steps worked round by round, Round pieces at most in each.
type Run struct {
	ID    string `json:"id"`
	Verb  string `json:"verb"`
	Says  string `json:"says"`
	Round string `json:"round"`
	Why   string `json:"why"`
}

// After is what a step comes after, within Min and Max minutes of its end.
type After struct {
	Step  string `json:"step"`
	Min   string `json:"min,omitempty"`
	Max   string `json:"max,omitempty"`
	Spans bool   `json:"spans,omitempty"`
	When  string `json:"when,omitempty"`
}

// Hold is a tool that is in use: for the step, or until another ends.
type Hold struct {
	What  string `json:"what"`
	Count string `json:"count"`
	To    string `json:"to,omitempty"`
}

// Limit is what splits a batch.
type Limit struct {
	Of   string `json:"of,omitempty"`
	Most string `json:"most"`
	Why  string `json:"why"`
}

// Cycle is rounds of a mould: filled, held, opened.
type Cycle struct {
	Pieces     string `json:"pieces"`
	FillSec    string `json:"fillSec"`
	HoldSec    string `json:"holdSec"`
	UnmouldSec string `json:"unmouldSec"`
	Copies     string `json:"copies"`
}

// Show is a number that hands want in sight at a step: an expression with what it is and
// its unit (mm, g, ml, C, s, or none for a count). It is there while When holds. Of a
// thickness Roller is the role of the machine whose setting is said beside it.
type Show struct {
	Is   string `json:"is"`
	Says string `json:"says"`
	Unit string `json:"unit,omitempty"`
	When string `json:"when,omitempty"`

	Roller string `json:"roller,omitempty"`
}

// Shown is such a number.
type Shown struct {
	Says  string  `json:"says"`
	Unit  string  `json:"unit,omitempty"`
	Value float64 `json:"value"`

	Roller string `json:"roller,omitempty"`
}

// Step is one movement of the hands or one wait: exactly one of Minutes, Cycle,
// Wait and Dry says how long.
type Step struct {
	ID        string            `json:"id"`
	As        string            `json:"as,omitempty"`
	Verb      string            `json:"verb,omitempty"`
	Says      []string          `json:"says,omitempty"`
	Hands     bool              `json:"hands,omitempty"`
	When      string            `json:"when,omitempty"`
	Run       string            `json:"run,omitempty"`
	Starts    bool              `json:"starts,omitempty"`
	After     []After           `json:"after,omitempty"`
	Minutes   map[string]string `json:"minutes,omitempty"`
	Cycle     *Cycle            `json:"cycle,omitempty"`
	Wait      string            `json:"wait,omitempty"`
	Dry       string            `json:"dry,omitempty"`
	People    int               `json:"people,omitempty"`
	Attention int               `json:"attention,omitempty"`
	Uses      []Hold            `json:"uses,omitempty"`
	Holds     []Hold            `json:"holds,omitempty"`
	Limits    []Limit           `json:"limits,omitempty"`
	Checks    []string          `json:"checks,omitempty"`
	Cautions  []string          `json:"cautions,omitempty"`
	Ways      []string          `json:"ways,omitempty"`
	Shows     []Show            `json:"shows,omitempty"`
	Source    string            `json:"source,omitempty"`
	NoPaste   bool              `json:"noPaste,omitempty"`
	Assembly  bool              `json:"assembly,omitempty"`
	CakeReady string            `json:"cakeReady,omitempty"`
}

// Join is what goes on to what, in which of the states P S D C N.
type Join struct {
	ID        string   `json:"id"`
	Step      string   `json:"step"`
	What      string   `json:"what"`
	Onto      string   `json:"onto"`
	States    []string `json:"states"`
	Default   string   `json:"default"`
	OntoState string   `json:"ontoState"`
	Attacher  string   `json:"attacher"`
	Says      string   `json:"says,omitempty"`
}

// Fault is where a symptom is first seen.
type Fault struct {
	Symptom string `json:"symptom"`
	Step    string `json:"step"`
}

// Picture is what is drawn, and from which numbers; while the number When is over 0.
type Picture struct {
	Draws string   `json:"draws"`
	From  []string `json:"from"`
	When  string   `json:"when,omitempty"`
}

// Rolls is how pieces are cut from a sheet: what is cut, how thin it is rolled, and how
// much of a sheet is used while it stays open. The last four are names of numbers that are
// given.
type Rolls struct {
	Cuts        []Cut  `json:"cuts"`
	ThicknessMM string `json:"thicknessMM"`
	AcrossMM    string `json:"acrossMM,omitempty"` // of the roller; none: as wide as the board
	MostPieces  string `json:"mostPieces,omitempty"`
	MostStrips  string `json:"mostStrips,omitempty"`
	PasteG      string `json:"pasteG,omitempty"` // the number that says what of the paste all of it takes
	EachG       string `json:"eachG,omitempty"`  // or what one piece takes
}

// Cut is one thing that is cut: by the tool of a role, or by the piece's own outline
// (role "own"), or a strip of a length and a width.
type Cut struct {
	Says   string `json:"says"`
	Role   string `json:"role,omitempty"`
	LongMM string `json:"longMM,omitempty"`
	WideMM string `json:"wideMM,omitempty"`
	Each   string `json:"each"` // of one piece
	When   string `json:"when,omitempty"`
}

// Round is what goes round a tier: how many, or how far apart.
type Round struct {
	Says    string `json:"says"`
	Count   string `json:"count,omitempty"`
	PitchMM string `json:"pitchMM,omitempty"`
	WideMM  string `json:"wideMM,omitempty"` // of one, along the run
	LapMM   string `json:"lapMM,omitempty"`  // of one on the next
}

// OwnOutline is the role of the outline that a piece has itself.
const OwnOutline = "own"

// Technique is one way of making.
type Technique struct {
	Format    string             `json:"format"`
	Key       string             `json:"key"`
	Version   int                `json:"version"`
	Names     Names              `json:"names"`
	About     string             `json:"about"`
	Limit     string             `json:"limit"`
	Breakage  string             `json:"breakage"`
	Tools     []Role             `json:"tools"`
	Measures  []Measure          `json:"measures"`
	Pictures  []Picture          `json:"pictures"`
	Rolls     *Rolls             `json:"rolls,omitempty"`
	Pairs     bool               `json:"pairs,omitempty"` // its balls are weighed against one another, two by two
	Round     *Round             `json:"round,omitempty"`
	Defaults  map[string]float64 `json:"defaults,omitempty"`
	Pastes    []When             `json:"pastes"`
	Refused   []When             `json:"refused,omitempty"`
	Refuses   []When             `json:"refuses,omitempty"`
	Demands   []When             `json:"demands"`
	Sizes     map[string]string  `json:"sizes,omitempty"`
	Bodies    []Body             `json:"bodies"`
	Given     []Given            `json:"given"`
	Counts    map[string]string  `json:"counts,omitempty"`
	Ways      []Way              `json:"ways"`
	Runs      []Run              `json:"runs,omitempty"`
	Steps     []Step             `json:"steps"`
	Joins     []Join             `json:"joins"`
	Faults    []Fault            `json:"faults"`
	Example   *Example           `json:"example,omitempty"`
	From      string             `json:"-"` // key of the way of ours that a studio's own was copied from
	expresses map[string]Expression
	lead      int // the tool that gives a piece its shape, by its place; -1: none
}

// Example is a piece made this way, with what comes of it.
type Example struct {
	Piece string          `json:"piece"`
	Input ChainIn         `json:"input"`
	Want  json.RawMessage `json:"want"`
}

// Term is a word of ours and the reader's.
type Term = Names

// Common is what all techniques share.
type Common struct {
	Format    string            `json:"format"`
	Units     []string          `json:"units"`
	Verbs     []string          `json:"verbs"`
	Constants []Measure         `json:"constants"`
	Manner    []Measure         `json:"manner"`
	Stages    []Stage           `json:"stages"`
	Roles     []Role            `json:"roles"`
	Counts    map[string]string `json:"counts"`
	Demands   []When            `json:"demands"`
	Refuses   []When            `json:"refuses"`
	Tools     []ToolKind        `json:"tools"`
	Steps     map[string]Step   `json:"steps"`
	Ways      []Way             `json:"ways"`
	Terms     []Term            `json:"terms"`
}

// Stage is a moment that another topic foretells.
type Stage struct {
	Name string `json:"name"`
	Says string `json:"says"`
	From string `json:"from"`
	Body bool   `json:"body,omitempty"`
}
