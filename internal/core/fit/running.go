package fit

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// At prints the clock time of a minute of the lesson, hh:mm.
func (l Lesson) At(minute float64) string { return (l.Start + wholeMinute(minute)).String() }

// ToBell returns the whole minutes from a minute of the lesson to the bell.
func (l Lesson) ToBell(minute float64) int { return int(l.End - l.Start - wholeMinute(minute)) }

// wholeMinute forgives the rounding of seconds to minutes.
func wholeMinute(minute float64) Clock {
	const rounding = 1e-6
	return Clock(math.Floor(minute + rounding))
}

// A Line is one entry of the running sheet: a phase, or a step with all who
// begin it in the same minute.
type Line struct {
	Phase      bool
	From, To   float64 // minutes from the door
	Latest     float64 // the last moment to begin, for the first who must
	Who        string  // "everyone", "all 12", "Bench 3, Bench 4"
	Groups     []string
	Dish, Step string // ids, empty for a phase
	What       string
	Where      []string // units, each once
}

// Running returns the running sheet of a plan, by time.
func Running(l Lesson, p *Plan) []Line {
	var lines []Line
	for _, s := range l.Spans() {
		lines = append(lines, Line{Phase: true, From: s.From, To: s.To, Who: "everyone", What: s.Name})
	}
	names := map[string]string{}
	for _, g := range l.Groups {
		names[g.ID] = g.Name
		if g.Name == "" {
			names[g.ID] = g.ID
		}
	}
	type key struct {
		title, step string
		minute      Clock
	}
	at := map[key]int{}
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			k := key{l.title(s.Dish, s.Step), s.Step, wholeMinute(s.Start)}
			i, ok := at[k]
			if !ok {
				i = len(lines)
				at[k] = i
				lines = append(lines, Line{From: s.Start, Latest: s.LatestStart, What: k.title, Dish: s.Dish, Step: s.Step})
			}
			line := &lines[i]
			line.From, line.Latest, line.To = min(line.From, s.Start), min(line.Latest, s.LatestStart), max(line.To, s.End)
			line.Groups = append(line.Groups, names[g.ID])
			for _, u := range s.Units {
				if !slices.Contains(line.Where, u.Unit) {
					line.Where = append(line.Where, u.Unit)
				}
			}
		}
	}
	for i := range lines {
		line := &lines[i]
		switch n := len(line.Groups); {
		case line.Phase:
		case n == len(p.Groups) && n > 1:
			line.Who = fmt.Sprintf("all %d", n)
		default:
			line.Who = strings.Join(line.Groups, ", ")
		}
	}
	slices.SortStableFunc(lines, func(a, b Line) int {
		switch {
		case a.From < b.From:
			return -1
		case a.From > b.From:
			return 1
		}
		return 0
	})
	return lines
}

// title returns the title of a step, or its id where it has none.
func (l Lesson) title(dish, step string) string {
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			if d.ID == dish && s.ID == step && s.Title != "" {
				return s.Title
			}
		}
	}
	return step
}
