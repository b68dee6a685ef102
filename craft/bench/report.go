package bench

// Plan is where every step stands, why it stands there, and what decides.
type Plan struct {
	Format        string    `json:"format"`
	Instance      string    `json:"instance"`
	Feasible      bool      `json:"feasible"`
	Objective     []float64 `json:"objective"`
	Span          int       `json:"span"`
	StartBy       string    `json:"startBy,omitempty"`
	CouldBeginBy  string    `json:"couldBeginBy,omitempty"`
	LeastSpare    []Spare   `json:"leastSpare"`
	SlackOfWhole  bool      `json:"slackOfWhole"`
	Bound         *Bound    `json:"bound,omitempty"`
	Gap           float64   `json:"gap"`
	Late          []Late    `json:"late,omitempty"`
	Ops           []Planned `json:"ops"`
	Holds         []Held    `json:"holds"`
	CriticalChain []string  `json:"criticalChain"`
	Loads         []Load    `json:"loads"`
	Moved         []Moved   `json:"moved,omitempty"`
	Warnings      []Warning `json:"warnings,omitempty"`
}

// Spare is the batch of a commission with the least time between its drying and
// what waits for it, in minutes.
type Spare struct {
	Commission string `json:"commission"`
	Batch      string `json:"batch"`
	Minutes    int    `json:"minutes"`
	Wanted     int    `json:"wanted"`
}

// Late is a commission that ends after its hand-over, and what stands there.
type Late struct {
	Commission string `json:"commission"`
	Minutes    int    `json:"minutes"`
	By         string `json:"by"`
}

// Planned is a step in the plan.
type Planned struct {
	Op          string  `json:"op"`
	Start       string  `json:"start"`
	End         string  `json:"end"`
	State       string  `json:"state"`
	Window      string  `json:"window,omitempty"`
	Hands       []int   `json:"hands,omitempty"`
	CleanDown   int     `json:"cleanDown,omitempty"`
	LatestStart string  `json:"latestStart,omitempty"`
	Slack       int     `json:"slack"`
	Spare       *int    `json:"spare,omitempty"` // of the last drying of a batch that wants some: minutes until something waits for it
	NotLater    *Reason `json:"notLater,omitempty"`
	NotEarlier  *Reason `json:"notEarlier,omitempty"`
}

// Reason is what forbids one more minute.
type Reason struct {
	By   string `json:"by"`
	What string `json:"what,omitempty"`
	Say  string `json:"say"`
	step int    // in the way, -1 when none
}

// Held is copies of a resource over a stretch of time.
type Held struct {
	Resource string `json:"resource"`
	Count    int    `json:"count"`
	From     string `json:"from"`
	To       string `json:"to"`
	Start    string `json:"start"`
	End      string `json:"end"`
	Units    []int  `json:"units"`
}

// Load is how much of a resource, or of a window's hands, is used.
type Load struct {
	Resource string  `json:"resource"`
	Used     int     `json:"used"`
	Offered  int     `json:"offered"`
	Peak     int     `json:"peak"`
	Share    float64 `json:"share"`
}

// Moved is a step that stands elsewhere than in the old plan; By in minutes,
// later positive.
type Moved struct {
	Op   string `json:"op"`
	From string `json:"from"`
	To   string `json:"to"`
	By   int    `json:"by"`
	Why  string `json:"why"`
}

// Warning is something that the plan had to leave aside.
type Warning struct {
	Code    string `json:"code"`
	Field   string `json:"field"`
	Message string `json:"message"`
}

// KeepsMore says that a plan is better than another of the same instance in what
// people would move for: lateness, what is given up, margin, unwelcome hours, spare
// after drying and full evenings, in whole steps and in this order.
func (p *Plan) KeepsMore(than *Plan) bool {
	for a := late; a <= crowd; a++ {
		if x, y := int(p.Objective[a])/coarse[a], int(than.Objective[a])/coarse[a]; x != y {
			return x < y
		}
	}
	return false
}

// KeepsAll says that there is nothing left of what KeepsMore compares.
func (p *Plan) KeepsAll() bool { return !(&Plan{Objective: make([]float64, told)}).KeepsMore(p) }
