package lesson

import (
	"cmp"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
)

// A BenchSheet is what one bench works from.
type BenchSheet struct {
	Bench
	DoneBy float64 // minute
	Dishes []BenchDish
	Lanes  [][]Doing  // what each cook does, by time
	Trays  []fit.Tray // into which oven, and when
	Says   []string   // other ways to do it, without saying for whom
	Large  bool       // in large print
}

// A BenchDish is what a bench makes of one course.
type BenchDish struct {
	Title, Makes string
	Amounts      []scale.Scaled
}

// A Doing is a step of one cook or adult, a call, or a phase for the whole
// class.
type Doing struct {
	From, To          float64 // minutes
	Group, Dish, Step string  // ids; empty where it is no step
	Kind              fit.Kind
	What              string
	Method            []string // what to do, a sentence each
	LookFor, Careful  string
	Share             string // which part of what they do together is theirs
	Together          bool   // with others of the bench
	Adult             fit.Adult
	Units             []string
	Whole             bool // for the whole class
	Call              bool // something to call
	Out               bool // out of the room
}

// StepOf returns the recipe's step behind a step of the plan.
func (l Lesson) StepOf(f fit.Lesson, dish, step string) recipe.Step {
	if at := l.CourseOf(f.Of(dish)); at >= 0 {
		for _, s := range l.Menu[at].Recipe.Steps {
			if s.ID == step {
				return s
			}
		}
	}
	return recipe.Step{}
}

// Names lists the members of a bench by their given names, and whole ones where
// two share one.
func (b Bench) Names() []string {
	count := map[string]int{}
	for _, m := range b.Members {
		count[m.Given]++
	}
	var out []string
	for _, m := range b.Members {
		if m.Given == "" || count[m.Given] > 1 {
			out = append(out, m.Name())
		} else {
			out = append(out, m.Given)
		}
	}
	return out
}

// BenchSheets returns what each bench works from, of the lesson as it is
// planned and with what its kinds of benches measure out.
func (l Lesson) BenchSheets(f fit.Lesson, p *fit.Plan, sizes []Size) []BenchSheet {
	var out []BenchSheet
	trays := fit.Trays(f, p)
	benches := l.Benches()
	for _, gp := range p.Groups {
		at := slices.IndexFunc(benches, func(b Bench) bool { return b.ID == gp.ID })
		if at < 0 {
			continue
		}
		g, _ := f.Group(gp.ID)
		s := BenchSheet{Bench: benches[at], DoneBy: gp.Finish}
		for _, size := range sizes {
			if slices.ContainsFunc(size.Benches, func(b Bench) bool { return b.ID == gp.ID }) {
				r := l.Menu[size.Course].Recipe
				s.Dishes = append(s.Dishes, BenchDish{r.Title, r.Count(size.Pieces), size.Amounts})
			}
		}
		s.Says, s.Large = l.waysAt(s.Bench)
		for cook, lane := range fit.CookLanes(gp, g.Cooks) {
			var rows []Doing
			for _, k := range lane {
				sp := gp.Steps[k]
				d := l.doing(f, gp.ID, sp.Dish, sp.Step)
				d.From, d.To, d.Together = sp.Start, sp.End, sp.Cooks > 1
				for _, u := range sp.Units {
					d.Units = append(d.Units, u.Unit)
				}
				if d.Kind == fit.Clean && d.Together {
					d.Share = shareOf(slices.Index(sp.Hands, cook+1), sp.Cooks)
				}
				rows = append(rows, d)
			}
			s.Lanes = append(s.Lanes, withPhases(f, rows))
		}
		for _, t := range trays {
			if t.Group == gp.ID {
				s.Trays = append(s.Trays, t)
			}
		}
		out = append(out, s)
	}
	return out
}

func (l Lesson) doing(f fit.Lesson, group, dish, step string) Doing {
	text := l.StepOf(f, dish, step)
	return Doing{
		Group: group, Dish: dish, Step: step, Kind: text.Kind, What: f.StepTitle(dish, step),
		Method: words.Sentences(text.Text), LookFor: text.LookFor, Careful: text.Hazard,
	}
}

// washingUp is what those who wash up together share: who is one of two takes
// every second part of it.
var washingUp = []string{"wash, the greasy things last", "dry and put away", "wipe bench and hob, empty the bin", "count the knives in, sweep the floor"}

// shareOf returns the parts of the washing up of one of so many cooks.
func shareOf(cook, cooks int) string {
	var own []string
	for n, part := range washingUp {
		if n%cooks == cook {
			own = append(own, part)
		}
	}
	return strings.Join(own, "; ")
}

// largePrint is the way that makes a bench's sheet larger.
const largePrint = "large-print"

// LargePrint reports whether a bench has what it reads in large print.
func (l Lesson) LargePrint(bench string) bool {
	for _, b := range l.Benches() {
		if b.ID == bench {
			return slices.ContainsFunc(b.Ways, func(w WayTaken) bool { return w.Way == largePrint })
		}
	}
	return false
}

// waysAt says in which other ways a bench works, without saying for whom.
func (l Lesson) waysAt(b Bench) (says []string, large bool) {
	for _, taken := range b.Ways {
		w, ok := l.Safety.Way(taken.Way)
		large = large || taken.Way == largePrint
		if !ok || w.Says == "" {
			continue
		}
		line := w.Says
		if at := l.CourseOf(taken.Dish); at >= 0 {
			for _, s := range l.Menu[at].Recipe.Steps {
				if s.ID == taken.Step {
					line = s.Title + ": " + w.Says
				}
			}
		}
		if !slices.Contains(says, line) {
			says = append(says, line)
		}
	}
	return says, large
}

// AdultSheets returns what each adult of the lesson does, and calls, by time.
func (l Lesson) AdultSheets(f fit.Lesson, p *fit.Plan) [][]Doing {
	out := make([][]Doing, f.Adults)
	duties, calls := fit.Duties(f, p), fit.Checkpoints(f, p)
	for n := range out {
		var rows []Doing
		for _, d := range duties {
			if d.Adult != n {
				continue
			}
			row := Doing{Out: true}
			if d.Group != "" {
				row = l.doing(f, d.Group, d.Dish, d.Step)
				row.Adult = fit.Watches
				if d.Does {
					row.Adult = fit.Does
				}
			}
			row.From, row.To = d.From, d.To
			rows = append(rows, row)
		}
		for _, c := range calls {
			rows = append(rows, Doing{From: c.At, To: c.At, What: c.Says(), Call: true})
		}
		out[n] = withPhases(f, rows)
	}
	return out
}

// withPhases sets the whole-class phases among what somebody does.
func withPhases(f fit.Lesson, rows []Doing) []Doing {
	for _, s := range f.Spans() {
		if s.To > s.From {
			rows = append(rows, Doing{From: s.From, To: s.To, What: s.Name, Whole: true})
		}
	}
	slices.SortStableFunc(rows, func(a, b Doing) int { return cmp.Compare(a.From, b.From) })
	return rows
}
