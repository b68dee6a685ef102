package paste

import "math"

// fatForStiff is the white fat for a paste that is stiff but not dry, by mass of
// it (assumed).
const fatForStiff = 0.005

// The strength below which a lot that is too soft is brought up by this much at
// least, and the one that a slip of the spoon adds, % gum (assumed).
const (
	stiffenBy  = 0.1
	overdoseBy = 1.0
	overPlain  = 0.05 // nearer to the plain paste, thinning does nothing
)

// Remedy brings a paste back that went wrong: what is seen, what to do, what is
// added, and when to bin it instead.
type Remedy struct {
	Code      string // tooSoft, tooStiff, overDosed, dry
	Say       string
	Do        []string
	Additions []Addition
	Bin       string
}

// Addition is what is kneaded in, in g, and the rule it is reckoned by: a share of
// the paste, or a balance of gum from Have to Want (% gum; Plain is the strength
// of the paste it is thinned with).
type Addition struct {
	What              string // powder, whiteFat, water, plain
	G                 float64
	Share             float64
	Have, Want, Plain float64
}

// Remedies of massG grams of a sugar paste that should have strength base and has
// strength have (both % gum), with the powder of the house and the strength of the
// plain paste that is there. A remedy that would do nothing is left out.
func Remedies(massG, base, have float64, powder string, plain float64) []Remedy {
	var out []Remedy
	want := math.Max(base, have+stiffenBy)
	if d, err := Dose(DoseIn{MassG: &massG, HavePercent: &have, WantPercent: &want, Powder: &powder}); err == nil && d.AddPowderG > 0 {
		out = append(out, Remedy{Code: "tooSoft", Say: "Too soft: it sticks, slumps or stretches",
			Do:        []string{"Knead in the powder in two goes, rest it in its bag, squeeze again.", "On a hot day cool it first: warmth alone makes paste soft."},
			Additions: []Addition{{What: "powder", G: d.AddPowderG, Have: have, Want: want}}, Bin: "Bin it when it is sour, wet through or speckled: powder mends none of these."})
	}
	out = append(out, Remedy{Code: "tooStiff", Say: "Too stiff: it cracks at the fold",
		Do:        []string{"Warm it in the hands, or 5 s at a time in the microwave; knead in the fat; then soften with plain paste if it must bend.", "Never water first: it turns the outside to glue."},
		Additions: []Addition{{What: "whiteFat", G: massG * fatForStiff, Share: fatForStiff}}})
	if over := have + overdoseBy; over > plain+overPlain {
		back := base
		if base <= plain { // what is plain itself comes half-way only
			back = (over + plain) / 2
		}
		if d, err := Dose(DoseIn{MassG: &massG, HavePercent: &over, WantPercent: &back, PlainPercent: &plain}); err == nil && d.AddPlainG > 0 {
			out = append(out, Remedy{Code: "overDosed", Say: "Over-dosed: a per cent too much gum went in",
				Do:        []string{"Knead in plain paste of the same colour; rest it overnight before judging again."},
				Additions: []Addition{{What: "plain", G: d.AddPlainG, Have: over, Want: back, Plain: plain}},
				Bin:       "Bin what is over: past three times its own mass fresh paste is cheaper."})
		}
	}
	return append(out, Remedy{Code: "dry", Say: "Dry: crumbs at the edge, squeeze grade 5",
		Do:        []string{"Cut off what is hard as bone. Knead in the fat, then the water drop by drop; bag it for an hour.", "Not more hardener: it is dry, not weak."},
		Additions: []Addition{{What: "whiteFat", G: massG * whiteFatShare, Share: whiteFatShare}, {What: "water", G: massG * waterShare, Share: waterShare}},
		Bin:       "Bin it when lumps stay hard after the hour: they tear every sheet."})
}
