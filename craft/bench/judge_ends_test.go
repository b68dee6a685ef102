package bench

import (
	"slices"
	"testing"
)

func (j *judged) ends() {
	for _, c := range j.in.Commissions {
		over := -far
		for _, x := range j.order {
			if j.in.Batches[x.batch].Commission == c.ID {
				over = max(over, x.end-minuteOf(j.t, c.HandOver))
			}
		}
		j.aims[late] += max(0, over)
		j.aims[bufferShort] += min(c.BufferMinutes, max(0, over+c.BufferMinutes))
	}
	for b, batch := range j.in.Batches {
		first := far
		for _, x := range j.order {
			if x.batch == b && x.free {
				first = min(first, x.start)
			}
		}
		weight := 0.0
		if j.in.Format == olderFormat {
			weight = 1
		}
		if batch.FreshWeight != nil {
			weight = *batch.FreshWeight
		}
		if first < far {
			j.aims[stale] += int(weight * float64(max(0, j.handOver(batch.Commission)-first)))
		}
		j.aims[spareShort] += j.spareMissing(b)
	}
}

func (j *judged) spareMissing(b int) int {
	batch := j.in.Batches[b]
	var reached, gates []*judgedStep
	dries := 0
	for _, o := range batch.Ops {
		if o.Dry != nil {
			reached = append(reached, j.steps[o.ID])
			dries++
		}
	}
	limited, open, end := false, false, -far
	for k := 0; k < len(reached); k++ {
		x := reached[k]
		if k < dries {
			open, end = open || x.free, max(end, x.end)
		}
		for _, l := range j.in.Lags {
			if l.From != x.op.ID {
				continue
			}
			to := j.steps[l.To]
			limited = limited || l.Max != nil && (to.batch != b || k < dries)
			if to.batch != b {
				gates = append(gates, to)
			} else if !slices.Contains(reached, to) {
				reached = append(reached, to)
			}
		}
	}
	want := 0
	if dries > 0 && !limited {
		want = 720
	}
	if batch.SpareMinutes != nil {
		want = *batch.SpareMinutes
	}
	if want == 0 || !open || slices.ContainsFunc(gates, func(g *judgedStep) bool { return !g.free }) {
		return 0
	}
	gate := j.handOver(batch.Commission)
	for k, g := range gates {
		if k == 0 || g.start < gate {
			gate = g.start
		}
	}
	return max(0, want-(gate-end))
}

func violations(t testing.TB, in *Instance, p Plan) []string {
	t.Helper()
	return judge(t, in, p).bad
}
