package lessonfile

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/fit"
)

// mostColumns is how wide the timeline may be; a column is then one minute,
// or two, three …
const mostColumns = 96

// writeTimeline draws a line for each group: # hands-on, @ with an adult,
// = waiting without hands, : a whole-class phase, | the bell.
func writeTimeline(to io.Writer, l fit.Lesson, p *fit.Plan) {
	if len(p.Groups) == 0 {
		return
	}
	bell := float64(l.End - l.Start)
	last := math.Max(bell, math.Ceil(p.Finish))
	step := math.Ceil(last / mostColumns)
	columns := int(math.Ceil(last/step)) + 1
	wide := 0
	for _, g := range l.Groups {
		wide = max(wide, utf8.RuneCountInString(g.Label()))
	}
	line := func(name string, cells []rune) {
		fmt.Fprintf(to, "%s%s %s\n", name, strings.Repeat(" ", wide-utf8.RuneCountInString(name)), string(cells))
	}
	at := func(minute float64) int { return int(minute/step + 1e-9) }
	empty := func() []rune {
		cells := []rune(strings.Repeat(" ", columns))
		for _, s := range l.Spans() {
			fill(cells, at(s.From), at(s.To), ':')
		}
		return cells
	}

	axis := []rune(strings.Repeat(" ", columns+5))
	for m := 0.0; m <= last; m++ {
		if int(l.Start+clock.Time(m))%15 == 0 && at(m)+5 <= len(axis) {
			copy(axis[at(m):], []rune(l.At(m)))
		}
	}
	line("", axis)
	for _, g := range p.Groups {
		cells := empty()
		for _, s := range g.Steps {
			fill(cells, at(s.WorkEnd), at(s.End), '=')
		}
		for _, s := range g.Steps {
			mark := '#'
			if step, _ := l.Step(s.Dish, s.Step); step.Adult != fit.NoAdult {
				mark = '@'
			}
			fill(cells, at(s.Start), max(at(s.WorkEnd), at(s.Start)+1)*sign(s.WorkEnd-s.Start), mark)
		}
		cells[at(bell)] = '|'
		line(l.GroupLabel(g.ID), cells)
	}
	fmt.Fprintf(to, "%s # hands-on  @ with an adult  = waits  : whole class  | the bell%s\n\n", strings.Repeat(" ", wide), scale(step))
}

func scale(step float64) string {
	if step == 1 {
		return ""
	}
	return fmt.Sprintf("  (a column is %.0f min)", step)
}

// sign is 0 for what takes no time and 1 for what does.
func sign(minutes float64) int {
	if minutes > 0 {
		return 1
	}
	return 0
}

func fill(cells []rune, from, to int, mark rune) {
	for i := from; i < to && i < len(cells); i++ {
		cells[i] = mark
	}
}

func writeCheckpoints(to io.Writer, l fit.Lesson, p *fit.Plan) {
	points := fit.Checkpoints(l, p)
	if l.Now != nil {
		points = slices.DeleteFunc(points, func(c fit.Checkpoint) bool { return c.At <= l.Now.Float() })
	}
	if len(points) == 0 {
		return
	}
	fmt.Fprintln(to, "Call out:")
	for _, c := range points {
		fmt.Fprintf(to, "  %s  %s\n", l.At(c.At), c.Says())
	}
	fmt.Fprintln(to)
}
