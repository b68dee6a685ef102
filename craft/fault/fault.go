// Package fault is how the core refuses: a code for programs, the field that
// is meant, and a sentence that says what would be right.
package fault

import (
	"errors"
	"fmt"
)

// Codes of a refusal. Plans have more of their own (package bench).
const (
	Syntax        = "syntax"        // not readable, wrong type, a field that does not exist
	Required      = "required"      // missing or empty
	OutOfRange    = "out_of_range"  // below or above the limits
	UnknownValue  = "unknown_value" // a word that is not in the list
	Contradiction = "contradiction" // two inputs cannot both be true
	Unreachable   = "unreachable"   // well said, but it cannot be done
)

// Fault is a refusal that a person can act on. Field is a path such as
// "parts[0].massG", counted from 0.
type Fault struct {
	Code    string `json:"code"`
	Field   string `json:"field"`
	Message string `json:"message"`

	// Of text that has several readings: each, and what to write for it.
	Choices []Choice `json:"choices,omitempty"`
	// Of a packet, sachet, leaf, sheet or stick whose grams nobody has said.
	GramsEach string `json:"gramsEach,omitempty"`
}

// Choice is one reading of a text that has several.
type Choice struct {
	Say  string `json:"say"`
	Text string `json:"text"`
	Keep string `json:"keep,omitempty"` // a line for the kitchen: "sachet 12 g"
}

func (f *Fault) Error() string { return f.Field + ": " + f.Message }

// New makes a fault; the message is a format with its arguments.
func New(code, field, format string, args ...any) *Fault {
	return &Fault{Code: code, Field: field, Message: fmt.Sprintf(format, args...)}
}

// At puts a fault of a part under the path of the whole: At(err, "pieces[2].").
func At(err error, path string) error {
	var f *Fault
	if !errors.As(err, &f) {
		return err
	}
	under := *f
	under.Field = path + f.Field
	return &under
}
