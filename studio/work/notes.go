package work

import (
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// NoteSays is a note in one line.
func NoteSays(n *noun.Note, r read.Reader, now time.Time) string {
	return r.Time(n.At.In(now.Location()), now) + " " + NoteBrief(n, r)
}

// NoteBrief is what was seen, without when.
func NoteBrief(n *noun.Note, r read.Reader) string {
	after := ""
	if n.Hours > 0 {
		after = " after " + read.SayMinutes(int(n.Hours*60+0.5))
	}
	says := ""
	switch n.What {
	case "firm":
		says = map[string]string{"hold": "it holds", "hard": "hard"}[n.Stage]
		if says == "" {
			says = "firm"
		}
		says += " already" + after
	case "firmNow":
		says = "firm just now" + after
		if n.Stage == "hold" {
			says = "holds just now" + after
		}
	case "soft":
		says = "still soft" + after
	case "weighed":
		if n.Grams != nil {
			says = "weighs " + r.Mass(*n.Grams)
			if n.FromGrams != nil && *n.FromGrams > 0 {
				says = fmt.Sprintf("lost %s %% of its weight%s", read.Trimmed(100*(1 - *n.Grams / *n.FromGrams), 1), after)
			}
		}
	case "said":
	default:
		k, _ := noun.NoteKindOf(n.What)
		says = read.LowerFirst(k.Says)
		if n.Count > 0 {
			says = fmt.Sprintf("%d %s", n.Count, says)
		}
	}
	if n.Says != "" {
		says = strings.TrimPrefix(says+": "+n.Says, ": ")
	}
	return r.Say(says)
}

// LastTime is what happened once before, in one line.
type LastTime struct {
	When    string `json:"when"`
	OrderID int64  `json:"orderId" doc:"0: it came out of a file"`
	Says    string `json:"says"`
}

// StepSays is what a step of a way of making is called.
func StepSays(t *technique.Technique, op string, r read.Reader) string {
	for i := range t.Steps {
		if t.Steps[i].ID == op {
			return r.Say(VerbSay(t.Steps[i].Verb))
		}
	}
	return op
}

// DryMore adds to a piece what only its own page shows: what could be done otherwise, how
// long good makers wait, and what was learnt.
func (b *Means) DryMore(w *Reckoned) {
	v := w.View.Dry
	if v == nil {
		return
	}
	v.Tries, v.Habits = b.Tries(w), b.Habits(w)
	if len(b.Kitchen.Around.Belief.Mean) > 0 && !w.Sets() && w.family != "" {
		f, sd := b.Kitchen.Pace(w.family, b.Now)
		v.Learnt = fmt.Sprintf("By your notes %s takes %s times the model's hours here; the band is %s %% as wide as before any note.", b.Reader.Say(read.PasteName(w.family)), read.Trimmed(f, 2), read.Trimmed(100*sd/0.35, 0))
	}
}

// NotesOffered are the kinds of note that can be made of a batch, as buttons.
func NotesOffered(r read.Reader, stage string, dries bool) []read.Option {
	out := []read.Option{}
	for _, k := range noun.NoteKinds {
		if k.Dries && !dries || k.Elsewhere {
			continue
		}
		says := k.Says
		if x := map[string]string{"firm": "It holds already", "firmNow": "It holds just now"}[k.Code]; stage == "hold" && x != "" {
			says = x
		}
		out = append(out, read.Option{Code: k.Code, Say: r.Say(says)})
	}
	return out
}
