package colour

import (
	"math"

	"dustyfern/craft/measure"
)

// sameToTheEye is the difference that no eye tells (assumed).
const sameToTheEye = 1.0

// HandsGel is one gel as hands take it.
type HandsGel struct {
	Gel         string   `json:"gel"`
	Way         string   `json:"way"` // drops or mother
	Drops       *int     `json:"drops,omitempty"`
	Dabs        *int     `json:"dabs,omitempty"`
	MotherBaseG *float64 `json:"motherBaseG,omitempty"`
	MotherUseG  *float64 `json:"motherUseG,omitempty"`
	GotG        float64  `json:"gotG"`
	Grams       *float64 `json:"grams,omitempty"` // only when the scale may speak of them
	Text        string   `json:"text"`
}

// GelNeed is gel that must be there.
type GelNeed struct {
	Gel   string  `json:"gel"`
	MassG float64 `json:"massG"`
}

// Hands is the recipe that is made and shown: rounded to drops, dabs and mother
// pastes, of the sets that no eye tells apart the one with the fewest gels.
type Hands struct {
	Gels      []HandsGel `json:"gels"`
	GelCount  int        `json:"gelCount"`
	De00      float64    `json:"de00"`
	LeastDe00 float64    `json:"leastDe00"`
	Lab       [3]float64 `json:"lab"`
	Hex       string     `json:"hex"`
	BaseG     float64    `json:"baseG"`     // to weigh out
	BaseNeedG float64    `json:"baseNeedG"` // with what the mother pastes are mixed in
	GelNeeds  []GelNeed  `json:"gelNeeds"`

	mothers int
}

// hands rounds every candidate to what hands can do and takes the plainest of
// those that look alike.
func (s *solver) hands(few []recipe, in *RecipeIn) *Hands {
	var all []Hands
	least := math.Inf(1)
	for _, r := range few {
		h := s.rounded(r, in)
		least = math.Min(least, h.De00)
		all = append(all, h)
	}
	var best *Hands
	for i := range all {
		h := &all[i]
		h.LeastDe00 = least
		if h.De00 > least+sameToTheEye+1e-12 {
			continue
		}
		if best == nil || h.GelCount < best.GelCount || h.GelCount == best.GelCount && (h.mothers < best.mothers || h.mothers == best.mothers && h.De00 < best.De00) {
			best = h
		}
	}
	return best
}

// rounded is one recipe for in.BatchG grams as hands make it. A gel of less
// than a dab goes in by mother paste, whose base is part of the batch; when
// there is too little base for that as one dab, or not at all.
func (s *solver) rounded(r recipe, in *RecipeIn) Hands {
	batch, dab := *in.BatchG, *in.DabG
	h := Hands{Gels: []HandsGel{}, GelNeeds: []GelNeed{}, BaseG: batch}
	var set []int
	var doses []float64
	for j, g := range r.gels {
		grams := r.doses[j] * batch / 100
		x := HandsGel{Gel: s.gels[g].Name, Way: "drops"}
		need := 0.0
		if grams < dab-1e-12 {
			use, got, off, ok := measure.Mother(grams, dab, *in.MotherBaseG, *in.StepG)
			switch {
			case !ok:
				continue
			case use <= h.BaseG+1e-9:
				h.BaseG -= off
				h.BaseNeedG += *in.MotherBaseG
				h.mothers++
				x.Way, x.MotherBaseG, x.MotherUseG, x.GotG = "mother", in.MotherBaseG, &use, got
				x.Text = measure.GelByHand(grams, *in.DropG, dab, *in.MotherBaseG, *in.StepG).Text
				need = dab
			case grams >= dab/2:
				grams = dab
			default:
				continue
			}
		}
		if x.Way == "drops" {
			d := measure.GelByHand(grams, *in.DropG, dab, *in.MotherBaseG, *in.StepG)
			x.Drops, x.Dabs, x.GotG, x.Text, x.Grams = d.Drops, d.Dabs, *d.GotG, d.Text, d.RoundedG
			need = x.GotG
		}
		h.Gels, h.GelNeeds = append(h.Gels, x), append(h.GelNeeds, GelNeed{x.Gel, need})
		set, doses = append(set, g), append(doses, 100*x.GotG/batch)
	}
	h.GelCount = len(h.Gels)
	h.BaseNeedG += h.BaseG
	p := s.tinted(set, doses)
	refl := p.reflectance()
	h.Lab, h.Hex = refl.lab(), hexOf(refl.xyz())
	h.De00 = difference(h.Lab, s.target).de00()
	return h
}
