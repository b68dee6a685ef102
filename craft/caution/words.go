package caution

// words are the cautions that steps of techniques name.
var words = map[string]string{
	"aerosol":     "Sprays: good air, a mask, no flame near; masks for those who stand beside.",
	"any":         "Hands washed, no rings; the label of each lot comes first.",
	"blade":       "Blades cut away from the fingers; count them in and out.",
	"chocolate":   "Chocolate dough holds milk or nuts by many labels: read it.",
	"copied":      "A mould taken from somebody's design is for yourself: ask before you sell from it.",
	"dust":        dustSays,
	"flame":       "Flame: hair and sleeves tied back, nothing with spirit near, a wet cloth at hand.",
	"freezer":     "In the freezer: a closed box, away from raw food.",
	"hotSugar":    "Hot sugar burns deep: long sleeves, a bowl of cold water beside, nobody small in the kitchen.",
	"microwave":   "Microwave: short bursts, no metal; the middle is hotter than it feels.",
	"piece:small": "Small pieces: a choking hazard for young children.",
	"powder":      "Powder: keep it out of the air and out of lungs; a mask for more than a pinch.",
	"spirit":      "Spirit: away from flame; it dries off, yet an order without alcohol wants water instead.",
	"steam":       "Steam scalds: at arm's length, hands behind the spout.",
	"wire":        "Wires never go into what is eaten: in a pick, counted in and out.",
}

// Word is what a caution of a step says; "" for one that is not known.
func Word(code string) string { return words[code] }
