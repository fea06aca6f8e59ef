package reading

import (
	"strconv"

	"freshapron/internal/core/pattern"
)

// A plan is a form in which people put the lines of a plan in order. Of a line it reads
// when it begins and how long it lasts, in minutes, 0 where that is not said.
type plan struct {
	words *pattern.Pattern
	read  func(first, second int) (from, lasts int)
	door  bool // only a lesson's stretches count: "2-3 carrots" may follow "1-2 onions"
}

var (
	clocked = pattern.Must(`^\[?(\d{1,2})[:.]([0-5]\d)\]?(?:\s*(?:-|–|—|to)\s*\d{1,2}[:.][0-5]\d)?(?:\s*[-–—:|]\s*|\s+)(\pL.*)$`)
	plans   = []plan{
		{clocked, func(hour, minute int) (int, int) { return 60*hour + minute, 0 }, false},
		{pattern.Must(`(?i)^\[?t ?\+ ?(\d{1,3})()\]?\s*(?:mins?)?\s*[-–—:|]?\s+(\pL.*)$`), func(from, _ int) (int, int) { return from, 0 }, false},
		{pattern.Must(`(?i)^\(?(\d{1,3})\s*mins?()\)?\s*[-–—:|]?\s+(\pL.*)$`), func(lasts, _ int) (int, int) { return 0, lasts }, false},
		{pattern.Must(`^\[?(\d{1,3})\s*(?:-|–|—|to)\s*(\d{1,3})\]?\s*(?:mins?|minutes)?\s*[-–—:|]?\s+(\pL.*)$`), func(from, until int) (int, int) { return from, until - from }, true},
	}
)

// leastRun is how many lines in order are no chance.
const leastRun = 3

// A planned line is one of a plan.
type planned struct {
	line, from, lasts int
	text              string
}

// timed finds lines that a plan by the clock or by the minute puts in order: "10:05 melt
// butter", "5-15 rub in". Each is a step, which lasts as long as its stretch where it says
// nothing else.
func timed(lines []line) []line {
	for _, form := range plans {
		run := form.longest(lines)
		if len(run) < leastRun || form.door && !fromTheDoor(run) {
			continue
		}
		for _, p := range run {
			text := p.text
			if p.lasts > 0 {
				text = lasting(text, strconv.Itoa(p.lasts))
			}
			lines[p.line] = made(lines[p.line], text, method)
			lines[p.line].whole = text != p.text
		}
	}
	return lines
}

// longest returns the longest run of lines of a plan of which none begins before the one
// before it.
func (f plan) longest(lines []line) (best []planned) {
	var run []planned
	begun := 0
	for n, l := range lines {
		m := f.words.FindStringSubmatch(bulleted.ReplaceAllString(l.text, ""))
		if m == nil || l.quiet != "" || l.is != preface {
			continue
		}
		first, _ := strconv.Atoi(m[1])
		second, _ := strconv.Atoi(m[2])
		p := planned{line: n, text: m[3]}
		if p.from, p.lasts = f.read(first, second); p.lasts < 0 {
			continue
		}
		if p.from < begun { // two may go on at once
			run = nil
		}
		run = append(run, p)
		begun = p.from
		if len(run) > len(best) {
			best = run
		}
	}
	return best
}

// fromTheDoor reports whether stretches of minutes are those of a lesson: they begin at
// the door or go on for twenty minutes.
func fromTheDoor(run []planned) bool {
	last := run[len(run)-1]
	return run[0].from == 0 || last.from+last.lasts >= 20
}
