package studio

import (
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/caution"
)

// BenchView is what to do now, what waits, and what comes after.
type BenchView struct {
	Heading  string            `json:"heading"`
	Until    string            `json:"until"`
	Room     string            `json:"room"`
	Now      *LineStep         `json:"now,omitempty"`
	Opens    string            `json:"opens" doc:"when the bench opens next, if there is nothing to do now"`
	Waiting  []WaitView        `json:"waiting"`
	Next     []LineStep        `json:"next"`
	Done     []LineStep        `json:"done" doc:"the latest, the last one last"`
	Evening  []LineStep        `json:"evening"`
	Waits    []LineStep        `json:"waits" doc:"what begins to wait on this evening"`
	Nothing  string            `json:"nothing"`
	Cautions []caution.Caution `json:"cautions"`
}

// WaitView is a wait that runs.
type WaitView struct {
	Title string  `json:"title"`
	Until string  `json:"until"`
	In    string  `json:"in"`
	Share float64 `json:"share"`
	Cord  string  `json:"cord"`
}

// mostDone is how many finished steps the bench shows.
const mostDone = 8

// Bench shows the bench: the step to do now is the first attended one that is
// not done.
func (s *Service) Bench(ctx context.Context, slug string) (out BenchView, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := s.replan(tx, k, now); err != nil {
			return err
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
}

func (s *Service) benchNow(tx Tx, k *Kitchen, now time.Time) (BenchView, error) {
	out := BenchView{Heading: now.Format("Monday"), Room: reader{k}.temp(k.TempC) + ", " + trimmed(k.RHPercent, 0) + " %", Waiting: []WaitView{}, Next: []LineStep{}, Done: []LineStep{}, Evening: []LineStep{}, Waits: []LineStep{}, Cautions: caution.Bench()}
	switch h := now.Hour(); {
	case h < 12:
		out.Heading += " morning"
	case h < 18:
		out.Heading += " afternoon"
	default:
		out.Heading += " evening"
	}
	line, err := s.line(tx, k, now, 0)
	if err != nil {
		return out, err
	}
	var all []LineStep
	for _, r := range line.Rows {
		all = append(all, r.Steps...)
	}
	slices.SortStableFunc(all, func(a, b LineStep) int { return a.Start.Compare(b.Start) })
	for _, w := range k.openHours(now.Add(-24*time.Hour), now.AddDate(0, 0, 21)) {
		if w.start.After(now) || !w.end.After(now) {
			continue
		}
		out.Until = fmt.Sprintf("until %s, %s left", w.end.Format("15:04"), SayMinutes(int(w.end.Sub(now)/time.Minute)))
		if len(w.names) > 0 {
			out.Until += ", " + list(w.names)
		}
	}
	evening := ""
	for i := range all {
		st := &all[i]
		switch {
		case st.ActualEnd != nil && st.Attended:
			out.Done = append(out.Done, *st)
		case st.ActualStart != nil && !st.Attended && st.ActualEnd == nil && st.PlannedEnd.After(now):
			end := st.PlannedEnd
			share := 1.0
			if end.After(*st.ActualStart) {
				share = min(1, max(0, now.Sub(*st.ActualStart).Minutes()/end.Sub(*st.ActualStart).Minutes()))
			}
			out.Waiting = append(out.Waiting, WaitView{st.Title, SayTime(end, now), SayWhen(end, now), share, st.Planned.Cord})
		case st.Attended && st.ActualStart == nil:
			if evening == "" {
				evening = st.Planned.Window
			}
			if st.Planned.Window == evening {
				out.Evening = append(out.Evening, *st)
			}
			if out.Now == nil {
				out.Now = st
				if st.Start.After(now.Add(30 * time.Minute)) {
					out.Opens = SayTime(st.Start, now) + ", " + SayWhen(st.Start, now)
				}
			} else if len(out.Next) < 5 {
				out.Next = append(out.Next, *st)
			}
		}
	}
	slices.SortStableFunc(out.Done, func(a, b LineStep) int { return a.ActualEnd.Compare(*b.ActualEnd) })
	out.Done = out.Done[max(0, len(out.Done)-mostDone):]
	for i := range all {
		if st := &all[i]; !st.Attended && slices.ContainsFunc(out.Evening, func(e LineStep) bool { return e.Planned.After == st.Op }) {
			out.Waits = append(out.Waits, *st)
		}
	}
	if out.Now == nil {
		out.Nothing = "Nothing waits for your hands. Take an order, or look at the line."
		if line.Trouble != "" {
			out.Nothing = line.Trouble
		} else if len(line.LeftOut) > 0 {
			out.Nothing = line.LeftOut[0]
		}
	}
	return out, nil
}
