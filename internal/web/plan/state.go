package plan

import (
	"fmt"
	"net/url"

	"freshapron/internal/web/timeline"
)

// A state is how a lesson is looked at. It is in the address, or in hidden
// fields of the forms on the page.
type state struct {
	By string // timeline.ByBench, timeline.ByThing or a group's id
	At timeline.Ref
}

func stateOf(by, at string) state {
	if by == "" {
		by = timeline.ByBench
	}
	return state{by, timeline.ParseRef(at)}
}

// address returns where the lesson is looked at so. The part is "" for the
// lesson's page, or "/steps".
func (s state) address(id int64, part string) string {
	q := url.Values{}
	if s.By != timeline.ByBench {
		q.Set("by", s.By)
	}
	if part != "" && s.At != (timeline.Ref{}) {
		q.Set("at", s.At.String())
	}
	a := fmt.Sprintf("/lessons/%d%s", id, part)
	if len(q) > 0 {
		a += "?" + q.Encode()
	}
	return a
}

// hidden returns the fields that carry the state and the version through a
// form.
func (s state) hidden(version int) []pair {
	out := []pair{{"version", fmt.Sprint(version)}, {"by", s.By}}
	if s.At != (timeline.Ref{}) {
		out = append(out, pair{"at", s.At.String()})
	}
	return out
}

// look returns what the picture is to show, with links to the steps.
// pageWidth is that of the picture on a lesson's page, where a unit is about a
// pixel on a teacher's screen.
const pageWidth = 1216

func (s state) look(id int64) timeline.Look {
	return timeline.Look{
		Width: pageWidth, By: s.By, Chosen: s.At,
		Step: func(r timeline.Ref) string { return state{s.By, r}.address(id, "/steps") },
		Bench: func(group string) string {
			return state{By: group}.address(id, "") + "#timing"
		},
	}
}
