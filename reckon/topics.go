// Package reckon is the table of topics: each is one function of the core,
// answered from a JSON object. The command line, the server and the tests ask
// through the same table.
package reckon

import (
	"encoding/json"
	"errors"
	"sort"

	"dustyfern/craft/attach"
	"dustyfern/craft/bench"
	"dustyfern/craft/caution"
	"dustyfern/craft/colour"
	"dustyfern/craft/drying"
	"dustyfern/craft/fault"
	"dustyfern/craft/finish"
	"dustyfern/craft/measure"
	"dustyfern/craft/mix"
	"dustyfern/craft/outline"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/craft/rescue"
	"dustyfern/craft/ribbon"
	"dustyfern/craft/technique"
	"dustyfern/craft/tier"
)

type answer func(raw []byte) (any, error)

// topic makes an answer of a core function.
func topic[In, Out any](f func(In) (Out, error)) answer {
	return func(raw []byte) (any, error) {
		var in In
		if err := read(raw, &in); err != nil {
			return nil, err
		}
		out, err := f(in)
		if err != nil {
			return nil, err
		}
		return out, nil
	}
}

var table = map[string]answer{
	"measure.parse":     topic(measure.Parse),
	"measure.convert":   topic(measure.Convert),
	"measure.doable":    topic(measure.Doable),
	"attach.choose":     topic(attach.Choose),
	"attach.order":      topic(attach.Order),
	"finish.dust":       topic(colour.MixDusts),
	"finish.shade":      topic(finish.Shade),
	"finish.fade":       topic(finish.Fade),
	"finish.metal":      topic(finish.Metal),
	"finish.lock":       topic(finish.Lock),
	"finish.chain":      topic(finish.Chain),
	"rescue.diagnose":   topic(rescue.Diagnose),
	"rescue.symptoms":   topic(rescue.Symptoms),
	"safety.allergens":  topic(caution.Carry),
	"safety.cautions":   topic(caution.Cautions),
	"safety.card":       topic(caution.CardOf),
	"paste.strength":    topic(paste.Strength),
	"paste.hardener":    topic(paste.Hardener),
	"paste.dose":        topic(paste.Dose),
	"paste.blend":       topic(paste.Blend),
	"paste.advise":      topic(paste.Advise),
	"paste.needs":       topic(paste.Needs),
	"mould.piece":       topic(piece.OnePiece),
	"mould.batch":       topic(piece.Batch),
	"mould.strings":     topic(piece.Strings),
	"mould.cycle":       topic(piece.Cycle),
	"cut.area":          topic(outline.Area),
	"cut.circles":       topic(outline.Circles),
	"cut.nest":          topic(outline.Nest),
	"cut.reroll":        topic(piece.Reroll),
	"outline.measure":   topic(outline.Measure),
	"outline.offset":    topic(outline.Offset),
	"outline.limits":    topic(outline.Limits),
	"tier.run":          topic(tier.Run),
	"tier.band":         topic(tier.Band),
	"tier.spacing":      topic(tier.Spacing),
	"tier.studs":        topic(tier.Studs),
	"tier.drape":        topic(tier.Drape),
	"tier.marks":        topic(tier.Marks),
	"ribbon.roller":     topic(ribbon.Roller),
	"ribbon.strips":     topic(ribbon.Strips),
	"ribbon.bow":        topic(ribbon.Bow),
	"ribbon.length":     topic(ribbon.Length),
	"flower.strips":     topic(ribbon.RoseStrips),
	"flower.fold":       topic(ribbon.Fold),
	"mix.gelatine":      topic(mix.Gelatine),
	"mix.syrup":         topic(mix.Syrup),
	"mix.cooling":       topic(mix.Cooling),
	"effort.job":        topic(piece.Job),
	"spare.make":        topic(piece.Spares),
	"spare.order":       topic(piece.Order),
	"spare.more":        topic(piece.More),
	"drying.predict":    topic(drying.Predict),
	"drying.balance":    topic(drying.Balance),
	"drying.dew":        topic(drying.Dew),
	"drying.cool":       topic(drying.Cool),
	"drying.coat":       topic(drying.Coat),
	"drying.syrup":      topic(drying.Syrup),
	"drying.learn":      topic(drying.Learn),
	"colour.difference": topic(colour.Difference),
	"colour.curve":      topic(colour.Curve),
	"colour.film":       topic(colour.Film),
	"colour.tint":       topic(colour.Tint),
	"colour.mix":        topic(colour.Mix),
	"colour.recipe":     topic(colour.Recipe),
	"colour.leftovers":  topic(colour.Leftovers),
	"colour.ladder":     topic(colour.Ladder),
	"colour.finish":     topic(colour.Finish),
	"colour.calibrate":  topic(colour.Calibrate),
	"colour.marble":     topic(colour.Marble),
	"colour.kitchen":    topic(colour.Kitchen),
	"technique.chain":   topic(technique.Ours.Chain),
	"plan.build":        topic(bench.Build),
	"plan.replan":       topic(bench.Replan),
	"plan.ways":         topic(bench.Ways),
}

// Topics lists the names, sorted.
func Topics() []string {
	var out []string
	for name := range table {
		out = append(out, name)
	}
	sort.Strings(out)
	return out
}

// Answer computes one topic from a JSON object. Its errors are *fault.Fault.
func Answer(name string, raw []byte) (any, error) {
	f, ok := table[name]
	if !ok {
		return nil, fault.New(fault.UnknownValue, "topic", "There is no topic %q: dustyfern reckon --topics lists them.", name)
	}
	return f(raw)
}

// Line answers one line of a batch: {"topic": .., "input": ..}.
func Line(raw []byte) []byte {
	var q struct {
		Topic *string         `json:"topic"`
		Input json.RawMessage `json:"input"`
	}
	if err := json.Unmarshal(raw, &q); err != nil {
		return reply(nil, fault.New(fault.Syntax, "", "This line is no JSON object: %v.", err))
	}
	if q.Topic == nil {
		return reply(nil, fault.New(fault.UnknownValue, "topic", "Each line names its topic."))
	}
	if string(q.Input) == "null" {
		q.Input = nil
	}
	return reply(Answer(*q.Topic, q.Input))
}

// Reply is the object that the command prints for one answer.
func Reply(name string, raw []byte) (line []byte, ok bool) {
	out, err := Answer(name, raw)
	return reply(out, err), err == nil
}

func reply(out any, err error) []byte {
	var f *fault.Fault
	if err != nil {
		if !errors.As(err, &f) {
			f = fault.New(fault.Unreachable, "", "%v", err)
		}
		b, _ := json.Marshal(map[string]any{"ok": false, "error": f})
		return b
	}
	b, err := json.Marshal(map[string]any{"ok": true, "result": out})
	if err != nil { // a number that is not finite would be a fault of ours
		b, _ = json.Marshal(map[string]any{"ok": false, "error": fault.New(fault.Unreachable, "", "The answer has no finite number.")})
	}
	return b
}
