package skills

import (
	"slices"
	"time"
)

// A Gap is what somebody is not ready for in a lesson.
type Gap struct {
	Step     string  // its title
	Skill    Skill   // that it asks for
	Missing  []Skill // of it and of what it stands on, the lowest first
	Practise string  // the template of an exercise that would do; empty where there is none
}

// A Step of a lesson, with the words that say what is done.
type Step struct{ Title, Words string }

// Wants are the skills that each of the steps asks for.
func (g Graph) Wants(steps []Step) [][]Skill {
	out := make([][]Skill, len(steps))
	for i, s := range steps {
		out[i] = g.For(s.Title + ". " + s.Words)
	}
	return out
}

// Ready returns what somebody is not ready for: a skill that a step asks for and of
// which nothing is known, or of what it stands on. Each skill is said once, at the first
// step that asks for it.
func (g Graph) Ready(steps []Step, wants [][]Skill, list []Evidence, now time.Time) []Gap {
	levels := map[string]Level{}
	byID := map[string][]Evidence{}
	for _, e := range list {
		byID[e.Skill] = append(byID[e.Skill], e)
	}
	level := func(id string) Level {
		l, ok := levels[id]
		if !ok {
			l = Of(byID[id], id, now).Level
			levels[id] = l
		}
		return l
	}
	said := map[string]bool{}
	var out []Gap
	for i, step := range steps {
		for _, s := range wants[i] {
			if said[s.ID] || level(s.ID) > 0 {
				continue
			}
			said[s.ID] = true
			gap := Gap{Step: step.Title, Skill: s, Practise: s.Template}
			for _, below := range g.Below(s.ID) {
				if level(below.ID) == 0 && !g.shownBy(below.ID, level) {
					gap.Missing = append(gap.Missing, below)
					if gap.Practise == "" || below.Template != "" && len(gap.Missing) == 1 {
						gap.Practise = below.Template
					}
				}
			}
			gap.Missing = append(gap.Missing, s)
			out = append(out, gap)
		}
	}
	return out
}

// shownBy reports whether somebody has a skill that stands on another: who dices, has
// sliced.
func (g Graph) shownBy(id string, level func(string) Level) bool {
	for _, s := range g.Skills {
		if slices.Contains(s.On, id) && (level(s.ID) >= Can || g.shownBy(s.ID, level)) {
			return true
		}
	}
	return false
}

// A Lacking is a skill that a step of a lesson asks for, and who has not shown it.
type Lacking struct {
	Skill    Skill
	Step     string  // the first that asks for it
	Who      []int   // places of the learners
	Before   []Skill // what it stands on that is not known of most of them either
	Practise string  // the template of an exercise that would do; empty where there is none
}

// Lack returns which skills that a lesson asks for are not known of whom of a class, the
// most first.
func (g Graph) Lack(steps []Step, class [][]Evidence, now time.Time) []Lacking {
	wants := g.Wants(steps)
	at := map[string]int{}
	var out []Lacking
	var before []map[string]int
	for n, list := range class {
		for _, gap := range g.Ready(steps, wants, list, now) {
			i, ok := at[gap.Skill.ID]
			if !ok {
				i = len(out)
				at[gap.Skill.ID] = i
				out = append(out, Lacking{Skill: gap.Skill, Step: gap.Step, Practise: gap.Practise})
				before = append(before, map[string]int{})
			}
			out[i].Who = append(out[i].Who, n)
			for _, m := range gap.Missing[:len(gap.Missing)-1] {
				before[i][m.ID]++
			}
		}
	}
	for i, l := range out {
		for _, s := range g.Below(l.Skill.ID) {
			if 2*before[i][s.ID] > len(l.Who) {
				out[i].Before = append(out[i].Before, s)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Lacking) int { return len(b.Who) - len(a.Who) })
	return out
}

// All returns how somebody stands at every skill of the graph, and which could come next:
// what they stand on is there, or shown by what stands on it.
func (g Graph) All(list []Evidence, now time.Time) (standings []Standing, next []Skill) {
	levels := map[string]Level{}
	for _, s := range g.Skills {
		at := Of(list, s.ID, now)
		standings = append(standings, at)
		levels[s.ID] = at.Level
	}
	level := func(id string) Level { return levels[id] }
	lacks := func(id string) bool { return level(id) == 0 && !g.shownBy(id, level) }
	for _, s := range g.Skills {
		if lacks(s.ID) && !slices.ContainsFunc(s.On, lacks) {
			next = append(next, s)
		}
	}
	return standings, next
}
