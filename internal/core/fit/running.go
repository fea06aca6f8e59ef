package fit

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/words"
)

// At prints the clock time of a minute of the lesson, hh:mm.
func (l Lesson) At(minute float64) string { return (l.Start + wholeMinute(minute)).String() }

// ToBell returns the whole minutes from a minute of the lesson to the bell.
func (l Lesson) ToBell(minute float64) int { return int(l.End - l.Start - wholeMinute(minute)) }

// wholeMinute forgives the rounding of seconds to minutes.
func wholeMinute(minute float64) clock.Time {
	const rounding = 1e-6
	return clock.Time(math.Floor(minute + rounding))
}

// A Line is one entry of the running sheet: a phase, or a step with all who
// begin it at about the same time.
type Line struct {
	Phase      bool
	From, To   float64 // minutes from the door: the first who begins, the last who ends
	Latest     float64 // the last moment to begin, for the first who must
	Who        string  // "everyone", "all 12", "Bench 3, 4"
	Dish, Step string  // ids, empty for a phase
	What       string
	Where      string // units, each once
}

// sameTime is how many minutes apart groups may begin a step and still stand
// on one line of the running sheet.
const sameTime = 3

// Running returns the running sheet of a plan, by time.
func Running(l Lesson, p *Plan) []Line {
	var lines []Line
	for _, s := range l.Spans() {
		lines = append(lines, Line{Phase: true, From: s.From, To: s.To, Who: "everyone", What: s.Name})
	}
	type entry struct {
		StepPlan
		who, title string
	}
	var entries []entry
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			entries = append(entries, entry{s, l.GroupLabel(g.ID), l.StepTitle(s.Dish, s.Step)})
		}
	}
	slices.SortStableFunc(entries, func(a, b entry) int { return cmp.Compare(a.Start, b.Start) })
	type key struct{ title, step string }
	open := map[key]int{}
	who, where := map[int][]string{}, map[int][]string{}
	for _, e := range entries {
		k := key{e.title, e.Step}
		i, ok := open[k]
		if !ok || e.Start > lines[i].From+sameTime {
			i = len(lines)
			open[k] = i
			lines = append(lines, Line{From: e.Start, Latest: e.LatestStart, What: e.title, Dish: e.Dish, Step: e.Step})
		}
		line := &lines[i]
		line.Latest, line.To = min(line.Latest, e.LatestStart), max(line.To, e.End)
		who[i] = append(who[i], e.who)
		for _, u := range e.Units {
			if !slices.Contains(where[i], u.Unit) {
				where[i] = append(where[i], u.Unit)
			}
		}
	}
	for i := range lines {
		if lines[i].Phase {
			continue
		}
		lines[i].Who, lines[i].Where = words.Numbered(who[i]), words.Numbered(where[i])
		if n := len(who[i]); n == len(p.Groups) && n > 1 {
			lines[i].Who = fmt.Sprintf("all %d", n)
		}
	}
	slices.SortStableFunc(lines, func(a, b Line) int { return cmp.Compare(a.From, b.From) })
	return lines
}
