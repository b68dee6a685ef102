package read

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

// roles are the parts of a piece that carry a tone of their own, in the order in which they
// come on.
var roles = options("base", "all over", "depth", "in the depths", "vein", "along the veins", "edge", "at the edges", "underside", "underneath", "tip", "at the tips", "high", "on the high points", "speck", "specks")

// ToneRole is where a tone can go, and how it is put there as a rule (assumed).
type ToneRole struct {
	Code    string  `json:"code"`
	Say     string  `json:"say"`
	Percent float64 `json:"percent"`
	Times   int     `json:"times"`
}

// Roles are the choices of where a tone goes: a base covers all, another tone a quarter.
func Roles() (out []ToneRole) {
	for _, o := range roles {
		r := ToneRole{o.Code, o.Say, 25, 2}
		if o.Code == "base" {
			r.Percent = 100
		}
		out = append(out, r)
	}
	return out
}

// RoleSay is where a tone goes, in words.
func RoleSay(role string) string { return sayOf(roles, role) }

func sayOf(all []Option, code string) string {
	for _, o := range all {
		if o.Code == code {
			return o.Say
		}
	}
	return code
}

// Dusts tells whether a kind of lot comes on to a piece when it is made.
func Dusts(kind string) bool {
	return slices.Contains([]string{"petalDust", "lustreDust", "metalPowder", "gel"}, kind)
}

// CheckPass refuses a tone that nobody could put on; its lots are judged elsewhere.
func CheckPass(p *noun.Pass) error {
	if !slices.ContainsFunc(roles, func(o Option) bool { return o.Code == p.Role }) {
		return fault.New(fault.UnknownValue, "role", "Say where the tone goes: all over, in the depths, at the edges, on the high points.")
	}
	if len(p.Lots) < 1 || len(p.Lots) > 3 {
		return fault.New(fault.Required, "lots", "A tone is of one to three dusts.")
	}
	for _, l := range p.Lots {
		if l.Parts < 1 || l.Parts > 12 {
			return fault.New(fault.OutOfRange, "lots", "From 1 to 12 parts of each dust.")
		}
	}
	if !(p.Percent >= 1 && p.Percent <= 100) {
		return fault.New(fault.OutOfRange, "percent", "A tone lies on 1 to 100 %% of what is seen.")
	}
	if p.Times < 1 || p.Times > 20 {
		return fault.New(fault.OutOfRange, "times", "From 1 to 20 passes.")
	}
	return nil
}

// attachers in words.
var attachers = options("nothing", "nothing: it clings by itself", "water", "water", "gumGlue", "edible glue", "pipingGel", "piping gel", "royalIcing", "royal icing", "buttercream", "buttercream", "meltedChocolate", "melted chocolate")

// AttacherSay is an attacher in words.
func AttacherSay(code string) string {
	if code == "nothing" {
		return "nothing"
	}
	return sayOf(attachers, code)
}

// locks in words.
var locks = options("none", "nothing", "steam", "steam", "glazeMist", "a mist of glaze", "lacquer", "confectioner's lacquer", "shineSpray", "shine spray")

// LockSay is what fixes a finish, in words.
func LockSay(code string) string { return sayOf(locks, code) }

// first puts a choice before the others.
func first(code, say string, rest []Option) []Option {
	return append(options(code, say), rest...)
}

// itemSays are what is taken out before anybody eats, one and many.
var itemSays = map[string][2]string{"wire": {"wire", "wires"}, "pick": {"pick", "picks"}, "dowel": {"dowel", "dowels"}, "stick": {"stick", "sticks"}, "toothpick": {"toothpick", "toothpicks"},
	"ribbon": {"ribbon", "ribbons"}, "foil": {"foil", "foils"}, "card": {"card", "cards"}, "prop": {"prop", "props"}, "former": {"former", "formers"}}

// ItemsName is an item in words, many of it.
func ItemsName(item string) string { return itemSays[item][1] }

// ItemsSay is so many of an item, in words.
func ItemsSay(item string, n int) string {
	say := itemSays[item]
	if n == 1 {
		return "1 " + say[0]
	}
	return strconv.Itoa(n) + " " + say[1]
}

var insertLine = regexp.MustCompile(`^(\d+)\s+(\pL+)$`)

// readInserts reads "1 wire, 1 pick".
func readInserts(text string) ([]noun.Insert, error) {
	var out []noun.Insert
	for part := range strings.SplitSeq(text, ",") {
		part = strings.ToLower(strings.TrimSpace(part))
		if part == "" {
			continue
		}
		m := insertLine.FindStringSubmatch(part)
		item := ""
		if m != nil {
			for code, say := range itemSays {
				if m[2] == say[0] || m[2] == say[1] {
					item = code
				}
			}
		}
		if item == "" {
			return nil, fault.New(fault.Syntax, "inserts", "Write how many of what: 1 wire, 1 pick. Known are wires, picks, dowels, sticks, toothpicks, ribbons, foils, cards, props and formers.")
		}
		n, err := strconv.Atoi(m[1])
		if err != nil || n < 1 || n > noun.MostEach {
			return nil, fault.New(fault.OutOfRange, "inserts", "From 1 to %d.", noun.MostEach)
		}
		if slices.ContainsFunc(out, func(x noun.Insert) bool { return x.Item == item }) {
			return nil, fault.New(fault.Contradiction, "inserts", "%s stand there twice.", UpperFirst(itemSays[item][1]))
		}
		out = append(out, noun.Insert{Item: item, Each: n})
	}
	slices.SortFunc(out, func(a, b noun.Insert) int {
		return slices.Index(caution.Items, a.Item) - slices.Index(caution.Items, b.Item)
	})
	return out, nil
}

// InsertsSay are what is in each piece that nobody eats, in words.
func InsertsSay(all []noun.Insert) string {
	var out []string
	for _, x := range all {
		out = append(out, ItemsSay(x.Item, x.Each))
	}
	return strings.Join(out, ", ")
}

// EndingFields are what a piece is finished and put on with, set from their stages.
var EndingFields = []*Field[noun.Piece]{
	{Name: "lock", Label: "What fixes it", group: "Finish", Kind: "choice", options: first("", "as suits it best", locks), at: func(p *noun.Piece) any { return &p.Finish.Lock }},
	{Name: "gloss", Label: "It should be", group: "Finish", Kind: "choice", options: options("", "as it comes", "matt", "matt", "satin", "satin", "gloss", "glossy"), at: func(p *noun.Piece) any { return &p.Finish.Gloss }},
	{Name: "medium", Label: "Metallic paint with", group: "Finish", Kind: "choice", options: options("", "as suits the table", "citrusExtract", "citrus extract", "clearSpirit", "clear spirit", "pipingGel", "thinned piping gel"), at: func(p *noun.Piece) any { return &p.Finish.Medium }},
	{Name: "seenPercent", Label: "One scrap was covered by, %", group: "Finish", Kind: "amount", Dim: "number", Lo: 1, Hi: 99, at: func(p *noun.Piece) any { return &p.Finish.SeenPercent }},
	{Name: "seenPasses", Label: "after so many passes", group: "Finish", Kind: "amount", Dim: "number", Lo: 0.1, Hi: 1000, at: func(p *noun.Piece) any { return &p.Finish.SeenPasses }},
	{Name: "place", Label: "Where it goes", group: "Assemble", Kind: "choice", options: options("", "as is usual", "side", "on the side", "topEdge", "at the top edge", "top", "on top", "board", "on the board"), at: func(p *noun.Piece) any { return &p.Goes.Place }},
	{Name: "load", Label: "How it is held", group: "Assemble", Kind: "choice", options: options("", "as follows from its place", "hanging", "it hangs", "resting", "it rests", "goesRound", "it goes round", "standing", "it stands"), at: func(p *noun.Piece) any { return &p.Goes.Load }},
	{Name: "ground", Label: "What it goes on to", group: "Assemble", Kind: "choice", options: options("", "as the order says", "sugarPaste", "sugar paste", "royalIcing", "royal icing", "freshIcing", "icing that is fresh", "crustedIcing", "icing that has crusted", "dryPiece", "a dry piece", "freshPiece", "a fresh piece", "chocolate", "chocolate", "biscuit", "bare biscuit"), at: func(p *noun.Piece) any { return &p.Goes.Ground }},
	{Name: "standOff", Label: "It stands off by", group: "Assemble", Kind: "amount", Dim: "length", Lo: 0, Hi: 30, at: func(p *noun.Piece) any { return &p.Goes.StandOffMM }},
	{Name: "inLine", Label: "One of a row", group: "Assemble", Kind: "yes", at: func(p *noun.Piece) any { return &p.Goes.Line }},
	{Name: "with", Label: "Put on with", group: "Assemble", Kind: "choice", options: first("", "what suits it best", attachers), at: func(p *noun.Piece) any { return &p.Goes.With }},
	{Name: "inserts", Label: "In each, not eaten", group: "Assemble", Kind: "text", hint: "1 wire, 1 pick", read: func(_ Reader, text string, p *noun.Piece, _ time.Time) (err error) {
		p.Goes.Inserts, err = readInserts(text)
		return err
	}, show: func(_ Reader, p *noun.Piece, _ time.Time) string { return InsertsSay(p.Goes.Inserts) }},
}

// LeavesFields are what is said of keeping when an order leaves the house.
var LeavesFields = []*Field[noun.Commission]{
	{Name: "inserts", Label: "In the cake itself, not eaten", group: "Hand over", Kind: "text", hint: "5 dowels", read: func(_ Reader, text string, c *noun.Commission, _ time.Time) (err error) {
		c.Leaves.Inserts, err = readInserts(text)
		return err
	}, show: func(_ Reader, c *noun.Commission, _ time.Time) string { return InsertsSay(c.Leaves.Inserts) }},
	{Name: "bestDays", Label: "Best within, days", group: "Hand over", Kind: "amount", Dim: "number", Lo: 0, Hi: 365, at: func(c *noun.Commission) any { return &c.Leaves.BestDays }},
	{Name: "serveHours", Label: "Once cut, serve within, hours", group: "Hand over", Kind: "amount", Dim: "number", Lo: 0, Hi: 1000, at: func(c *noun.Commission) any { return &c.Leaves.ServeHours }},
}
