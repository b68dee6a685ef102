package paste

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

func index(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

var (
	ratioShape   = regexp.MustCompile(`(\d+(?:[.,]\d+)?)\s*(?::|/|to|-)\s*(\d+(?:[.,]\d+)?)`)
	partsShape   = regexp.MustCompile(`(\d+(?:[.,]\d+)?)\s*parts?\b.*?(\d+(?:[.,]\d+)?)\s*parts?\b`)
	percentShape = regexp.MustCompile(`(\d+(?:[.,]\d+)?)\s*(?:%|per ?cent)`)
	flowerWords  = regexp.MustCompile(`flower ?paste|gum ?paste|petal ?paste|florist ?paste`)
	modelWords   = regexp.MustCompile(`modell?ing ?paste`)
	sugarWords   = regexp.MustCompile(`sugar ?paste|fondant|plain paste`)
	doughWords   = regexp.MustCompile(`chocolate|marzipan`)
	numberWords  = regexp.MustCompile(`\b(one|two|three|four|five|six)\b`)
)

var asDigit = map[string]string{"one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6"}

// byName reads "3:1 sugar paste and gum paste". Some say modelling paste for
// flower paste, others for hardened sugar paste; that is asked, never guessed,
// and so is a name without a second paste.
func byName(in StrengthIn) (StrengthOut, error) {
	refuse := func(code, field, format string, args ...any) (StrengthOut, error) {
		return StrengthOut{}, fault.New(code, field, format, args...)
	}
	if len(in.Parts) > 0 {
		return refuse(fault.Contradiction, "mix", "Give the parts, or the name of the mix, not both.")
	}
	if len(in.Powders) > 0 {
		return refuse(fault.Contradiction, "powders", "Powders go with parts; a named mix has none.")
	}
	if in.UsedG != nil {
		return refuse(fault.Contradiction, "usedG", "What was used goes with parts in grams; a named mix has none.")
	}
	if err := fault.Check(&in); err != nil {
		return StrengthOut{}, err
	}
	plain := PlainStrength
	if in.PlainPercent != nil {
		plain = *in.PlainPercent
	}
	text := strings.ToLower(strings.TrimSpace(*in.Mix))
	if text == "" {
		return refuse(fault.Required, "mix", "Say the mix, such as 3:1 sugar paste and flower paste.")
	}
	if len(text) > 200 {
		return refuse(fault.Syntax, "mix", "That is too long for a mix: say it like 3:1 with flower paste.")
	}
	text = numberWords.ReplaceAllStringFunc(text, func(w string) string { return asDigit[w] })
	share, ok := shareOf(text)
	if !ok {
		return refuse(fault.Syntax, "mix", "No parts in that: say it like 3:1 with flower paste, or half and half.")
	}
	if doughWords.MatchString(text) {
		return refuse(fault.Contradiction, "mix", "Fat-set doughs and sugar pastes do not bind: keep them apart.")
	}
	flower, model, sugar := flowerWords.FindStringIndex(text), modelWords.FindStringIndex(text), sugarWords.FindStringIndex(text)
	if strings.Contains(text, "halfandhalf") {
		flower, share = []int{0, 0}, 0.5
	}
	second := flower
	if second == nil {
		second = model
	}
	if second != nil && sugar != nil && second[0] < sugar[0] {
		share = 1 - share // the stiff paste was named first
	}
	mean := func(e float64) float64 { return plain + share*(e-plain) }
	if flower != nil && model == nil {
		return StrengthOut{Ambiguous: new(false), With: "flowerPaste", WithShare: &share, StrengthPercent: new(mean(FlowerStrength))}, nil
	}
	return StrengthOut{Ambiguous: new(true), Choices: []MixChoice{
		{"flowerPaste", share, mean(FlowerStrength), "sugar paste and flower paste, which some call modelling paste"},
		{"modellingPaste", share, mean(StrengthOf("modellingPaste")), "sugar paste and a paste of sugar paste with hardener"},
	}}, nil
}

// shareOf finds the share of the second paste.
func shareOf(text string) (float64, bool) {
	num := func(s string) float64 {
		x, _ := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
		return x
	}
	for _, shape := range []*regexp.Regexp{partsShape, ratioShape} {
		if m := shape.FindStringSubmatch(text); m != nil {
			a, b := num(m[1]), num(m[2])
			return b / (a + b), a+b > 0
		}
	}
	if m := percentShape.FindStringSubmatch(text); m != nil {
		p := num(m[1]) / 100
		return p, p <= 1
	}
	for _, w := range []string{"half and half", "half-and-half", "half & half", "halfandhalf", "half", "equal", "50-50"} {
		if strings.Contains(text, w) {
			return 0.5, true
		}
	}
	return 0, false
}
