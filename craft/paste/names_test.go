package paste

import (
	"math"
	"strings"
	"testing"
)

func TestNamesOfMixes(t *testing.T) {
	for mix, c := range map[string]struct {
		share, strength float64
		asked           bool
	}{
		"half and half with flower paste":                 {0.5, 1.6, false},
		"3:1 sugar paste and gum paste":                   {0.25, 1.0, false},
		"1:3 gum paste and sugar paste":                   {0.25, 1.0, false}, // the stiff one was named first
		"two parts fondant to one part gum paste":         {1.0 / 3, 1.2, false},
		"30 % flower paste":                               {0.3, 1.12, false},
		"1:1 with modelling paste":                        {0.5, 1.6, true}, // of which two?
		"half and half":                                   {0.5, 1.6, true},
		"equal parts fondant and modelling paste":         {0.5, 1.6, true},
		"50/50 sugar paste and florist paste":             {0.5, 1.6, false},
		"one part petal paste to three parts plain paste": {0.25, 1.0, false},
	} {
		out, err := Strength(StrengthIn{Mix: &mix})
		if err != nil || *out.Ambiguous != c.asked {
			t.Errorf("%q: %+v %v", mix, out, err)
			continue
		}
		share, e := out.WithShare, out.StrengthPercent
		if c.asked {
			share, e = &out.Choices[0].WithShare, &out.Choices[0].StrengthPercent
			if out.Choices[1].With != "modellingPaste" || math.Abs(out.Choices[1].StrengthPercent-(0.4+*share*1.1)) > 1e-9 {
				t.Errorf("%q: %+v", mix, out.Choices)
			}
		}
		if math.Abs(*share-c.share) > 1e-9 || math.Abs(*e-c.strength) > 1e-9 {
			t.Errorf("%q: share %.4f at %.3f %%, want %.4f at %.3f", mix, *share, *e, c.share, c.strength)
		}
	}
	for _, mix := range []string{"", "a bit of both", "2:1 chocolate and flower paste", "0:0 with flower paste", strings.Repeat("1:1 ", 80), "140 % flower paste"} {
		if out, err := Strength(StrengthIn{Mix: &mix}); err == nil {
			t.Errorf("%q: %+v", mix, out)
		}
	}
}

func TestTheStrengthOfAMix(t *testing.T) {
	mix := func(in StrengthIn) StrengthOut {
		t.Helper()
		out, err := Strength(in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	// equal masses of 0.4 and 2.8 are half and half, and powder counts whole
	out := mix(StrengthIn{Parts: []Part{{Paste: new("sugarPaste"), MassG: new(100.0)}, {Paste: new("flowerPaste"), MassG: new(100.0)}}})
	if math.Abs(*out.StrengthPercent-1.6) > 1e-9 || *out.MassG != 200 || *out.FatSet {
		t.Errorf("%+v", out)
	}
	out = mix(StrengthIn{Parts: []Part{{Paste: new("sugarPaste"), MassG: new(99.0)}}, Powders: []Powder{{MassG: new(1.0)}}})
	if math.Abs(*out.StrengthPercent-(99*0.4+100)/100) > 1e-9 {
		t.Errorf("%+v", out)
	}
	// a lot that is too dry is not stiffer: it wants 1 % of fat and 2 % of water
	out = mix(StrengthIn{Parts: []Part{{Paste: new("sugarPaste"), MassG: new(200.0), Grade: new(5)}}})
	if *out.StrengthPercent != 0.4 || *out.WhiteFatG != 2 || *out.WaterG != 4 {
		t.Errorf("%+v", out)
	}
	out = mix(StrengthIn{Parts: []Part{{Paste: new("darkChocolate"), MassG: new(100.0)}}})
	if !*out.FatSet || out.StrengthPercent != nil {
		t.Errorf("%+v", out)
	}
	for say, in := range map[string]StrengthIn{
		"nothing":                  {},
		"dough and sugar paste":    {Parts: []Part{{Paste: new("darkChocolate"), MassG: new(1.0)}, {Paste: new("sugarPaste"), MassG: new(1.0)}}},
		"powder in dough":          {Parts: []Part{{Paste: new("marzipan"), MassG: new(1.0)}}, Powders: []Powder{{MassG: new(1.0)}}},
		"a graded dough":           {Parts: []Part{{Paste: new("marzipan"), MassG: new(1.0), Grade: new(2)}}},
		"a dough's gum":            {Parts: []Part{{Paste: new("marzipan"), MassG: new(1.0), StrengthPercent: new(1.0)}}},
		"a part without a name":    {Parts: []Part{{MassG: new(1.0)}}},
		"a name and parts":         {Mix: new("1:1 with flower paste"), Parts: []Part{{Paste: new("sugarPaste"), MassG: new(1.0)}}},
		"a name and powder":        {Mix: new("1:1 with flower paste"), Powders: []Powder{{MassG: new(1.0)}}},
		"parts and plain strength": {PlainPercent: new(0.4), Parts: []Part{{Paste: new("sugarPaste"), MassG: new(1.0)}}},
	} {
		if out, err := Strength(in); err == nil {
			t.Errorf("%s: %+v", say, out)
		}
	}
}
