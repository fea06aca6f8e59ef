package rescue

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// A Lever says how much sooner the lesson would end with one thing more, or
// with a step that is ten minutes shorter.
type Lever struct {
	Equipment  string // id, where it is one unit more
	Adult      bool   // one adult more
	Dish, Step string // where it is a step made shorter
	Minutes    float64
}

// A Lack says what would be enough where no rescue is. What would not help, or
// not with a few more, is 0.
type Lack struct {
	Minutes   float64 // more before the deadline for everybody in 9 of 10 lessons
	Equipment string  // id of what there should be more of
	Units     int     // of it
	Adults    int
}

const (
	shorter     = 10 // minutes
	mostLevers  = 12 // steps on the longest chain that are tried shorter
	mostLacking = 3  // units or adults more
)

// levers plans the lesson with each thing more, and with each step on the
// longest chain shorter.
func (t Trial) levers() []Lever {
	var list []Lever
	for _, e := range t.Lesson.Equipment {
		if !e.PerStation && waitedFor(t.Plan, e.ID) {
			list = append(list, Lever{Equipment: e.ID})
		}
	}
	if waitedFor(t.Plan, "adults") {
		list = append(list, Lever{Adult: true})
	}
	steps := 0
	for _, link := range t.Plan.Chain {
		known := slices.ContainsFunc(list, func(l Lever) bool { return l.Dish == link.Dish && l.Step == link.Step })
		if !known && steps < mostLevers {
			list = append(list, Lever{Dish: link.Dish, Step: link.Step})
			steps++
		}
	}
	t.inParallel(len(list), func(i int) {
		list[i].Minutes = t.gain(list[i].apply(t.Lesson, 1))
	})
	list = slices.DeleteFunc(list, func(l Lever) bool { return l.Minutes < worthMinutes && l.Step != "" })
	slices.SortStableFunc(list, func(a, b Lever) int { return cmp.Compare(b.Minutes, a.Minutes) })
	return list
}

// waitedFor reports whether anybody waits for a thing in the plan.
func waitedFor(p *fit.Plan, id string) bool {
	for _, g := range p.Groups {
		if slices.ContainsFunc(g.Steps, func(s fit.StepPlan) bool { return s.Held.For == id && s.Held.Minutes > 0 }) {
			return true
		}
	}
	return false
}

func (t Trial) gain(l fit.Lesson) float64 {
	opt := t.Options
	opt.Runs = 1
	p, err := fit.Solve(l, opt)
	if err != nil || p.Conflicts != nil {
		return 0
	}
	return max(0, t.Plan.Finish-p.Finish)
}

// apply returns the lesson with so many more of the lever's thing.
func (v Lever) apply(l fit.Lesson, more int) fit.Lesson {
	switch {
	case v.Adult:
		l.Adults += more
	case v.Equipment != "":
		l.Equipment = slices.Clone(l.Equipment)
		for i := range l.Equipment {
			e := &l.Equipment[i]
			if e.ID != v.Equipment {
				continue
			}
			last := e.Units[len(e.Units)-1]
			e.Units = slices.Clone(e.Units)
			for n := range more {
				e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("%s and %d", last.Name, n+1), Places: last.Places})
			}
		}
	default:
		l.Dishes = slices.Clone(l.Dishes)
		for d := range l.Dishes {
			if l.Dishes[d].ID != v.Dish {
				continue
			}
			l.Dishes[d].Steps = slices.Clone(l.Dishes[d].Steps)
			for i := range l.Dishes[d].Steps {
				if s := &l.Dishes[d].Steps[i]; s.ID == v.Step {
					shorten(s)
				}
			}
		}
	}
	return l
}

// shorten takes ten minutes off a step: from the longer of its parts first.
func shorten(s *fit.Step) {
	left := exact.Int(shorter)
	take := func(part *exact.Number) {
		off := left
		if part.Less(off) {
			off = *part
		}
		*part, left = part.Sub(off), left.Sub(off)
	}
	if s.Wait.Less(s.Work) {
		take(&s.Work)
		take(&s.Wait)
	} else {
		take(&s.Wait)
		take(&s.Work)
	}
}

// lack finds what would be enough.
func (t Trial) lack() *Lack {
	out := &Lack{Minutes: math.Ceil(max(t.Plan.Overrun, t.Plan.Risk.More))}
	sure := func(l fit.Lesson) bool {
		p, err := fit.Solve(l, t.Options)
		return err == nil && !Needed(p) && p.Conflicts == nil
	}
	type try struct {
		lever Lever
		more  int
	}
	var tries []try
	for _, e := range t.Lesson.Equipment {
		for more := 1; more <= mostLacking && !e.PerStation && waitedFor(t.Plan, e.ID); more++ {
			tries = append(tries, try{Lever{Equipment: e.ID}, more})
		}
	}
	for more := 1; more <= mostLacking && waitedFor(t.Plan, "adults"); more++ {
		tries = append(tries, try{Lever{Adult: true}, more})
	}
	enough := make([]bool, len(tries))
	t.inParallel(len(tries), func(i int) { enough[i] = sure(tries[i].lever.apply(t.Lesson, tries[i].more)) })
	for i, v := range tries {
		switch {
		case !enough[i]:
		case v.lever.Adult && (out.Adults == 0 || v.more < out.Adults):
			out.Adults = v.more
		case !v.lever.Adult && (out.Units == 0 || v.more < out.Units):
			out.Equipment, out.Units = v.lever.Equipment, v.more
		}
	}
	return out
}

// Says what would be enough.
func (l Lack) Says() string {
	parts := []string{fmt.Sprintf("%.0f min more", l.Minutes)}
	if l.Units > 0 {
		parts = append(parts, words.Plural(l.Units, l.Equipment+" more", l.Equipment+"s more"))
	}
	if l.Adults > 0 {
		parts = append(parts, words.Plural(l.Adults, "adult more", "adults more"))
	}
	return "Nothing that was tried is enough by itself or in pairs. What would be: " + strings.Join(parts, ", or ") + "."
}

// LeversSay tells what one thing more would bring, and which step made ten
// minutes shorter would help most.
func LeversSay(l fit.Lesson, levers []Lever) []string {
	var out []string
	step := false
	for _, v := range levers {
		gain := fmt.Sprintf("%.0f min", v.Minutes)
		if v.Minutes < 1 {
			gain = "nothing"
		}
		switch {
		case v.Adult:
			out = append(out, "One adult more would bring "+gain+".")
		case v.Equipment != "":
			out = append(out, fmt.Sprintf("One %s more would bring %s.", v.Equipment, gain))
		case !step:
			step = true
			out = append(out, fmt.Sprintf("Of all steps “%s”, made %d min shorter, would help most: %s.", l.StepTitle(v.Dish, v.Step), shorter, gain))
		}
	}
	return out
}
