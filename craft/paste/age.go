package paste

// Days after which a lot that was opened is used first (assumed).
const (
	DoughUseFirstDays    = 7
	PasteUseFirstDays    = 42
	LeftoverUseFirstDays = 21
)

// BestWithinDays is how near its date a lot is used first (assumed).
const BestWithinDays = 14

// LeastTrimmingsG is what is worth a tub of its own, g (assumed).
const LeastTrimmingsG = 5.0
