package fit

import (
	"cmp"
	"math"
	"slices"
	"strings"
)

// A Checkpoint is a moment worth calling: by then every bench that makes the
// dish has begun a step, and the lesson has little to give if it has not.
type Checkpoint struct {
	At    float64 // minutes from the door, a whole minute
	Slack float64 // minutes by which the bench that is most pressed can be later
	Begun []Milestone
	Done  []Milestone // since the checkpoint before, the most pressing only
}

// A Milestone is a step that all benches have come to.
type Milestone struct{ Dish, Step, Title string }

const (
	mostCheckpoints = 5
	mostDone        = 2
)

// milestone is what the plan says of one step over all groups.
type milestone struct {
	Milestone
	begun, done float64 // when the last group has begun, and has ended
	slack       float64 // least of all groups
}

// Checkpoints chooses up to five moments, where the slack is least, spread
// over the working time.
func Checkpoints(l Lesson, p *Plan) []Checkpoint {
	stones := milestones(l, p)
	if len(stones) == 0 {
		return nil
	}
	byTime := slices.Clone(stones)
	slices.SortStableFunc(byTime, func(a, b milestone) int { return cmp.Compare(a.begun, b.begun) })
	first, last := byTime[0].begun, byTime[len(byTime)-1].begun
	apart := (last - first) / (mostCheckpoints + 1)
	slices.SortStableFunc(stones, func(a, b milestone) int {
		return cmp.Or(cmp.Compare(inMinutes(a.slack), inMinutes(b.slack)), -cmp.Compare(a.begun, b.begun))
	})
	var out []Checkpoint
	for _, s := range stones {
		at := math.Ceil(s.begun - 1e-9)
		near := slices.IndexFunc(out, func(c Checkpoint) bool { return math.Abs(c.At-at) < max(apart, 1) })
		switch {
		case near >= 0 && out[near].At == at && len(out[near].Begun) < mostDone:
			out[near].Begun = append(out[near].Begun, s.Milestone)
		case near < 0 && len(out) < mostCheckpoints && s.begun > first:
			out = append(out, Checkpoint{At: at, Slack: max(0, s.slack-(at-s.begun)), Begun: []Milestone{s.Milestone}})
		}
	}
	slices.SortFunc(out, func(a, b Checkpoint) int { return cmp.Compare(a.At, b.At) })
	before := math.Inf(-1)
	for i := range out {
		c := &out[i]
		for _, s := range stones { // the most pressed first
			if before < s.done && s.done <= c.At && len(c.Done) < mostDone && !slices.Contains(c.Begun, s.Milestone) {
				c.Done = append(c.Done, s.Milestone)
			}
		}
		before = c.At
	}
	return out
}

// inMinutes rounds to whole minutes; half a minute is one, also where the last
// figure of a written plan is a little less.
func inMinutes(m float64) float64 { return math.Floor(m + 0.5 + 1e-3) }

// milestones gathers the steps by title, so that benches which make more or
// fewer pieces of the same count as one.
func milestones(l Lesson, p *Plan) []milestone {
	var out []milestone
	at := map[[2]string]int{}
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			title := l.StepTitle(s.Dish, s.Step)
			key := [2]string{s.Step, title}
			i, ok := at[key]
			if !ok {
				i = len(out)
				at[key] = i
				out = append(out, milestone{Milestone: Milestone{s.Dish, s.Step, title}, slack: math.Inf(1)})
			}
			m := &out[i]
			m.begun, m.done = max(m.begun, s.Start), max(m.done, s.End)
			m.slack = min(m.slack, s.LatestStart-s.Start)
		}
	}
	return out
}

// Says tells what to call: "“Bake” under way, “Fill” done".
func (c Checkpoint) Says() string {
	var parts []string
	for _, m := range c.Begun {
		parts = append(parts, "“"+m.Title+"” under way")
	}
	for _, m := range c.Done {
		parts = append(parts, "“"+m.Title+"” done")
	}
	return strings.Join(parts, ", ")
}
