package noun

// Figure is a number as the reader sees it, with its reason.
type Figure struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Text  string  `json:"text"`
	Why   *Why    `json:"why,omitempty"`
}

// Why opens a number: the rule, the formula, and the values that went in.
type Why struct {
	Rule    string  `json:"rule"`
	Formula string  `json:"formula"`
	Values  []Named `json:"values"`
}

// Named is a value under its name.
type Named struct {
	Name string `json:"name"`
	Text string `json:"text"`
}

// Way is one way that good makers take, with its reason; Usual marks ours, Chosen
// what was taken for this piece.
type Way struct {
	Question string `json:"question,omitempty"`
	Asks     string `json:"asks,omitempty"`
	Option   string `json:"option,omitempty"`
	Say      string `json:"say"`
	Why      string `json:"why"`
	Usual    bool   `json:"usual"`
	Chosen   bool   `json:"chosen,omitempty"`
}
