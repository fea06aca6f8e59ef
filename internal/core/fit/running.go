package fit

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
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
		lines[i].Who, lines[i].Where = NameList(who[i]), NameList(where[i])
		if n := len(who[i]); n == len(p.Groups) && n > 1 {
			lines[i].Who = fmt.Sprintf("all %d", n)
		}
	}
	slices.SortStableFunc(lines, func(a, b Line) int { return cmp.Compare(a.From, b.From) })
	return lines
}

// NameList prints names in order, those that differ only in the number at the
// end together: "Bench 1–4, 7, Oven 2", "Bench 1a–3b".
func NameList(names []string) string {
	type numbered struct {
		name, letter string
		number       int // −1 where there is none
	}
	list := make([]numbered, len(names))
	for i, n := range names {
		list[i] = numbered{name: n, number: -1}
		at := strings.LastIndexByte(n, ' ')
		if at <= 0 {
			continue
		}
		digits := strings.TrimRight(n[at+1:], "abcdefghijklmnopqrstuvwxyz")
		if v, err := strconv.Atoi(digits); err == nil && v >= 0 {
			list[i] = numbered{n[:at], n[at+1+len(digits):], v}
		}
	}
	slices.SortStableFunc(list, func(a, b numbered) int {
		return cmp.Or(cmp.Compare(a.name, b.name), cmp.Compare(a.number, b.number), cmp.Compare(a.letter, b.letter))
	})
	next := func(a, b numbered) bool {
		switch {
		case a.name != b.name || len(a.letter) != len(b.letter) || len(a.letter) > 1:
			return false
		case a.letter == "" || b.letter == "a":
			return b.number == a.number+1
		}
		return b.number == a.number && b.letter[0] == a.letter[0]+1
	}
	var out strings.Builder
	for i := 0; i < len(list); i++ {
		n := list[i]
		if i > 0 {
			out.WriteString(", ")
		}
		if n.number < 0 {
			out.WriteString(n.name)
			continue
		}
		if i == 0 || list[i-1].name != n.name || list[i-1].number < 0 {
			out.WriteString(n.name + " ")
		}
		out.WriteString(strconv.Itoa(n.number) + n.letter)
		last := i
		for last+1 < len(list) && next(list[last], list[last+1]) {
			last++
		}
		if last > i+1 {
			out.WriteString("–" + strconv.Itoa(list[last].number) + list[last].letter)
			i = last
		}
	}
	return out.String()
}
