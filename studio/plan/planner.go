package plan

import (
	"context"
	"log/slog"
	"sync"
	"time"
)

// planBudget is how long a search may last before the best plan so far is taken.
const planBudget = 2 * time.Second

// Planner makes plans beside the writes: one at a time in each studio, of the
// latest inputs only.
type Planner struct {
	service *Planning
	log     *slog.Logger
	ctx     context.Context
	slots   chan struct{} // so many studios at once
	mu      sync.Mutex
	due     map[string]bool // true: wanted again while it is being made
	wait    sync.WaitGroup
	pruned  map[string]string // the day on which a journal was last pruned
}

// NewPlanner makes a planner that works until ctx ends.
func NewPlanner(ctx context.Context, s *Planning, log *slog.Logger) *Planner {
	return &Planner{service: s, log: log, ctx: ctx, slots: make(chan struct{}, 2), due: map[string]bool{}, pruned: map[string]string{}}
}

// Wake has the plan of a studio made soon. Many calls while one is being made
// are one more.
func (p *Planner) Wake(slug string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if _, busy := p.due[slug]; busy {
		p.due[slug] = true
		return
	}
	if p.ctx.Err() != nil {
		return
	}
	p.due[slug] = false
	p.wait.Add(1)
	go p.work(slug)
}

func (p *Planner) work(slug string) {
	defer p.wait.Done()
	for {
		select {
		case p.slots <- struct{}{}:
		case <-p.ctx.Done():
			return
		}
		ctx, cancel := context.WithTimeout(p.ctx, planLongest)
		err := p.service.Plan(ctx, slug)
		if err == nil {
			err = p.prune(ctx, slug)
		}
		cancel()
		<-p.slots
		if err != nil && p.ctx.Err() == nil {
			p.log.Warn("no plan was made", "studio", slug, "err", err) // the next press or look tries again
		}
		p.mu.Lock()
		again := p.due[slug] && p.ctx.Err() == nil
		if again {
			p.due[slug] = false
		} else {
			delete(p.due, slug)
		}
		p.mu.Unlock()
		if !again {
			return
		}
	}
}

// prune forgets old lines of a journal once a day. Only one work of a studio
// runs at once, yet two studios may.
func (p *Planner) prune(ctx context.Context, slug string) error {
	today := p.service.Clock().Format(time.DateOnly)
	p.mu.Lock()
	done := p.pruned[slug] == today
	p.pruned[slug] = today
	p.mu.Unlock()
	if done {
		return nil
	}
	return p.service.Prune(ctx, slug)
}

// planLongest is when even reading and writing a plan has taken too long.
const planLongest = 30 * time.Second

// Wait returns when nothing is being planned; ctx of NewPlanner should have
// ended.
func (p *Planner) Wait() { p.wait.Wait() }
