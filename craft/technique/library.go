package technique

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io/fs"
	"slices"
	"sort"
)

// Library is the techniques that are there, read from files.
type Library struct {
	Common     Common
	techniques map[string]*Technique
	keys       []string
}

// Ours is the library that comes with the program.
var Ours = func() *Library {
	sub, err := fs.Sub(embedded, "data")
	if err == nil {
		var l *Library
		if l, err = Read(sub); err == nil {
			return l
		}
	}
	panic(fmt.Sprintf("the techniques that come with the program: %v", err))
}()

// Read reads a folder: common.json and one file for each technique. A file that is
// no technique, or one whose chain does not hold together, is an error that names
// it.
func Read(dir fs.FS) (*Library, error) {
	l := &Library{techniques: map[string]*Technique{}}
	if err := decode(dir, "common.json", &l.Common); err != nil {
		return nil, err
	}
	if l.Common.Format != commonFormat {
		return nil, fmt.Errorf("common.json is of format %q: this program reads %q", l.Common.Format, commonFormat)
	}
	files, err := fs.Glob(dir, "*.json")
	if err != nil {
		return nil, err
	}
	for _, f := range files {
		if f == "common.json" {
			continue
		}
		t := &Technique{}
		if err := decode(dir, f, t); err != nil {
			return nil, err
		}
		if err := l.ready(t); err != nil {
			return nil, fmt.Errorf("%s: %w", f, err)
		}
		if l.techniques[t.Key] != nil {
			return nil, fmt.Errorf("%s: there is a technique %q already", f, t.Key)
		}
		l.techniques[t.Key] = t
		l.keys = append(l.keys, t.Key)
	}
	sort.Strings(l.keys)
	return l, nil
}

func decode(dir fs.FS, file string, into any) error {
	raw, err := fs.ReadFile(dir, file)
	if err != nil {
		return err
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	return nil
}

// Keys lists the techniques, sorted.
func (l *Library) Keys() []string { return slices.Clone(l.keys) }

// Of finds a technique by its key; nil when there is none.
func (l *Library) Of(key string) *Technique { return l.techniques[key] }

// Kind finds a kind of tool; nil when there is none.
func (l *Library) Kind(kind string) *ToolKind {
	for i := range l.Common.Tools {
		if l.Common.Tools[i].Kind == kind {
			return &l.Common.Tools[i]
		}
	}
	return nil
}

// Roles are the tools that a technique works with, everybody's among them.
func (l *Library) Roles(t *Technique) []Role { return slices.Concat(t.Tools, l.Common.Roles) }

// Way finds a question of a technique, its own first.
func (l *Library) Way(t *Technique, question string) *Way {
	for _, ways := range [][]Way{t.Ways, l.Common.Ways} {
		for i := range ways {
			if ways[i].Question == question {
				return &ways[i]
			}
		}
	}
	return nil
}

// laid puts a step over the common one that it names: its own fields win.
func (l *Library) laid(s Step) (Step, error) {
	if s.As == "" {
		return s, nil
	}
	base, ok := l.Common.Steps[s.As]
	if !ok {
		return s, fmt.Errorf("there is no common step %q", s.As)
	}
	timed := s.Minutes != nil || s.Cycle != nil || s.Wait != "" || s.Dry != ""
	base.ID, base.As = s.ID, s.As
	set(&base.Verb, s.Verb)
	set(&base.When, s.When)
	set(&base.Run, s.Run)
	set(&base.Source, s.Source)
	set(&base.CakeReady, s.CakeReady)
	base.Hands = base.Hands || s.Hands
	base.Starts = base.Starts || s.Starts
	base.NoPaste, base.Assembly = base.NoPaste || s.NoPaste, base.Assembly || s.Assembly
	if timed {
		base.Minutes, base.Cycle, base.Wait, base.Dry = s.Minutes, s.Cycle, s.Wait, s.Dry
	}
	over(&base.Says, s.Says)
	over(&base.After, s.After)
	over(&base.Uses, s.Uses)
	over(&base.Holds, s.Holds)
	over(&base.Limits, s.Limits)
	over(&base.Checks, s.Checks)
	over(&base.Cautions, s.Cautions)
	over(&base.Ways, s.Ways)
	over(&base.Shows, s.Shows)
	if s.People != 0 {
		base.People = s.People
	}
	if s.Attention != 0 {
		base.Attention = s.Attention
	}
	return base, nil
}

func set(at *string, own string) {
	if own != "" {
		*at = own
	}
}

// over takes a list of one's own, an empty one too.
func over[T any](at *[]T, own []T) {
	if own != nil {
		*at = own
	}
}
