package technique

import (
	"errors"
	"strings"

	"dustyfern/craft/fault"
)

// giveOne is a number that an expression gives, when it does: the tool's or the
// studio's own, else what a way sets, else as the technique says.
func (p *part) giveOne(g *Given) (x float64, holds bool, err error) {
	if x, own := p.in.Own[g.Name]; own {
		return x, true, nil
	}
	text, set := p.sets[g.Name]
	if !set {
		if holds, err = p.holds(g.When, nil); err != nil || !holds {
			return 0, false, err
		}
		text = g.Is
	}
	x, err = p.value(text, nil)
	return x, true, err
}

func (p *part) askWhen(g *Given) error {
	holds, err := p.holds(g.When, nil)
	if err != nil || !holds {
		return err
	}
	return p.ask(g)
}

// ask puts a question to a topic of the core and takes the numbers of its answer.
func (p *part) ask(g *Given) error {
	in, err := p.question(g.In)
	if err != nil {
		return err
	}
	answer, err := quantities[g.Topic](in.(map[string]any))
	if err != nil {
		return fault.At(err, g.Topic+".")
	}
	for name, from := range g.Out {
		if _, there := p.given[name]; there {
			continue
		}
		if own, said := p.in.Own[name]; said {
			p.given[name] = own
			continue
		}
		if x, ok := answer[from]; ok {
			p.given[name] = x
		}
	}
	return nil
}

func (p *part) question(v any) (any, error) {
	switch x := v.(type) {
	case string:
		if word, ok := strings.CutPrefix(x, "'"); ok {
			return word, nil
		}
		return p.value(x, nil)
	case map[string]any:
		out := map[string]any{}
		for k, e := range x {
			y, err := p.question(e)
			if err != nil {
				return nil, err
			}
			out[k] = y
		}
		return out, nil
	case []any:
		out := make([]any, len(x))
		for i, e := range x {
			y, err := p.question(e)
			if err != nil {
				return nil, err
			}
			out[i] = y
		}
		return out, nil
	}
	return v, nil
}

// value of an expression, with the names of a batch when there is one.
func (p *part) value(text string, b *batch) (float64, error) {
	e, ok := p.t.expresses[text]
	if !ok {
		var err error
		if e, err = Parse(text); err != nil {
			return 0, fault.New(fault.Syntax, "definition", "%q: %v.", text, err)
		}
	}
	x, err := e.root.value(func(name string) (float64, error) { return p.look(name, b) })
	var broke *exprError
	if errors.As(err, &broke) {
		code := fault.Unreachable
		if broke.Kind == "unknownName" {
			code = fault.Syntax
		}
		return 0, fault.New(code, "definition", "%q has no number: %v.", text, err)
	}
	return x, err
}

// holds tells whether a condition is over 0; none always holds.
func (p *part) holds(text string, b *batch) (bool, error) {
	if text == "" {
		return true, nil
	}
	x, err := p.value(text, b)
	return x > 0, err
}

func (p *part) look(name string, b *batch) (float64, error) {
	if b != nil {
		if x, ok, err := b.look(name); ok || err != nil {
			return x, err
		}
	}
	if x, ok := p.given[name]; ok {
		return x, nil
	}
	if err, open := p.unknown[name]; open {
		return 0, err
	}
	if x, ok := p.base[name]; ok {
		return x, nil
	}
	if p.l.isStage(name) {
		x, there := p.in.Stages[name]
		if !there {
			return 0, fault.New(fault.Required, "stages."+name, "It must be foretold when %s.", p.l.stageSays(name))
		}
		if x == nil {
			return 0, fault.New(fault.Unreachable, "stages."+name, "The moment never comes here when %s.", p.l.stageSays(name))
		}
		return *x, nil
	}
	return 0, broken("unknownName", "nothing gives %q here", name)
}

func (l *Library) stageSays(name string) string {
	for _, s := range l.Common.Stages {
		if s.Name == name || s.Body && strings.HasSuffix(name, "."+s.Name) {
			return s.Says
		}
	}
	return name
}
