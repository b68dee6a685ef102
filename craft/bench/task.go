package bench

import (
	"fmt"
	"time"

	"dustyfern/craft/fault"
)

// step is an Op in minutes from now. Its number is its rank.
type step struct {
	id         string
	batch      int
	commission int
	attended   bool
	dries      bool
	length     int
	attention  int
	colour     int // -1: none
	people     int
	uses       []need
	notBefore  int // least start
	notAfter   int // greatest end
	pinned     int // start, or noTime
	state      string
	start, end int // of a fact
	hands      uint8
}

func (s *step) planned() bool { return s.state == statePlanned }

// States of a step in a plan.
const (
	statePlanned = "planned"
	stateRunning = "running"
	stateDone    = "done"
)

type need struct{ resource, count int }

const (
	noTime    = -1 << 30
	far       = 1 << 28
	maxPeople = 4
)

type arc struct {
	from, to, min, max int // max far: none
	index              int // of the lag in the instance
}

// window has its times as given, and as far as an overrun may stretch it.
type window struct {
	id, day    string
	start, end int
	from, to   int
	preferred  bool
	people     int
	dayNumber  int
	limit      int // minutes of one person that do not crowd it
}

type hold struct {
	resource, count, from, to int
	least                     int // minutes from the start of from to the end of to, by waits alone
}

type commission struct {
	id               string
	handOver, buffer int
}

// batch is what the aims ask of the steps of one piece.
type batch struct {
	steps      []int
	commission int
	fresh      int // least start, noTime when it may be any age
	lostFrom   int // the bound that was given up, noTime when none was
	weight     float64
	dries      []int
	gates      []int
	want       int  // minutes of spare after drying
	counted    bool // whether its spare still counts
}

// task is an instance translated: what the passes work on.
type task struct {
	in          *Instance
	zone        *time.Location
	now         time.Time
	steps       []step
	byID        map[string]int
	windows     []window // by start
	days        int
	resources   []Resource
	colours     []Colour
	wipes       [][]int
	commissions []commission
	batches     []batch
	arcs        []arc
	next, prev  [][]int // arcs by step
	holds       []hold
	holdsOf     [][]int
	topo        []int
	topoAt      []int   // place in topo, by step
	gateOf      [][]int // batches of which a step is a gate
	last        [][]int // by commission: steps that nothing of it follows
	warnings    []Warning
	noHaste     bool   // what is overdue need not stand first: pins leave it no place
	lost        []bool // by arc: a longest wait that is given up
	begun       []bool // facts, and waits that begin by themselves
	set         []place
	isSet       []bool  // stands before anything else is placed
	old         []place // where steps stood in the plan followed until now; nil for none
}

// place is where a step stands.
type place struct {
	step, start, window int
	hands               uint8
}

func (t *task) instant(m int) string {
	return t.now.Add(time.Duration(m) * time.Minute).In(t.zone).Format(time.RFC3339)
}

func (t *task) minute(text, field string) (int, error) {
	at, err := time.Parse(time.RFC3339, text)
	if err != nil || at.Second() != 0 || at.Nanosecond() != 0 {
		return 0, fault.New(BadInstant, field, "%q is no instant on a whole minute with a zone, such as 2026-03-05T19:00:00Z.", text)
	}
	d := at.Sub(t.now)
	if d > 5*366*24*time.Hour || d < -5*366*24*time.Hour {
		return 0, fault.New(BadInstant, field, "%q is years away from now.", text)
	}
	return int(d / time.Minute), nil
}

func at(format string, args ...any) string { return "instance." + fmt.Sprintf(format, args...) }

// free says that a step is for the search to place.
func (t *task) free(i int) bool { return t.steps[i].planned() && !t.isSet[i] }

func (t *task) wipe(from, to int) int { return t.wipes[from][to] }
