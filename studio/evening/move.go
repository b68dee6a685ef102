package evening

import (
	"fmt"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func moveView(st *noun.Step, m bench.Move, r read.Reader, now time.Time) *MoveView {
	run := st.Run()
	v := &MoveView{Steps: []string{}, Do: m.Do, N: m.N, Of: run.Fills, Done: map[string]string{bench.Press: doneWord(st), bench.Open: "Opened", bench.WaitFor: "Wait"}[m.Do]}
	what := run.Word
	if what == "" {
		what = "ball"
	}
	if run.Cavities > 1 {
		what = fmt.Sprintf("%s of %d", map[bool]string{true: "sheet", false: what}[what == "ball"], run.Cavities)
	}
	verb := work.VerbDo(st.Kind)
	if k := st.Planned.Kept; k != nil && len(k.Op.Steps) > 1 && run.Word != "ball" {
		v.Steps = st.Says
	}
	turned := "turn it out at once"
	if run.Word != "ball" && run.Word != "" {
		turned = "then the next"
	}
	which := ""
	if run.Copies > 1 {
		which = fmt.Sprintf(", copy %d", m.Copy)
	}
	switch m.Do {
	case bench.Press:
		v.Say, v.Sub = fmt.Sprintf("%s %s %d of %d", verb, what, m.N, run.Fills), fmt.Sprintf("then into the freezer%s", which)
	case bench.PressOut:
		v.Say, v.Sub = fmt.Sprintf("%s %s %d of %d", verb, what, m.N, run.Fills), turned
		v.Done = doneWord(st)
		if turned != "then the next" {
			v.Done += " and out"
		}
	case bench.Open:
		v.Say, v.Sub = fmt.Sprintf("Open %s %d of %d", what, m.N, run.Fills), "its time in the freezer is up"+which
	case bench.WaitFor:
		at := time.Unix(int64(m.At), 0).In(now.Location())
		v.Say, v.Sub, v.AtMS = "Wait for the freezer", fmt.Sprintf("fill %d may be opened at %s", m.N, r.Clock(at)), at.UnixMilli()
	}
	if x := st.Longer; x != nil && (m.Do == bench.Press || m.Do == bench.PressOut) && m.N > x.Fills-(x.More+max(1, run.Cavities)-1)/max(1, run.Cavities) {
		v.Sub = work.AgainSay + " " + read.UpperFirst(v.Sub) + "."
	}
	return v
}
