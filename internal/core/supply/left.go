package supply

import (
	"cmp"
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/order"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
)

// Unneeded is a batch on its way of which no need takes all.
type Unneeded struct {
	Batch  Batch
	Item   Item
	Amount exact.Number // that nobody takes
}

// Unneeded returns what was ordered and is not needed any more, as far as it can
// be told from what each need takes.
func (p *Plan) Unneeded() []Unneeded {
	used := make([]exact.Number, len(p.week.Stock))
	for _, u := range p.Order.Uses {
		if u.From.Supplier == "" {
			used[u.From.Stock] = used[u.From.Stock].Add(u.Amount)
		}
	}
	var out []Unneeded
	for i, b := range p.week.Stock {
		if rest := b.Amount.Sub(used[i]); b.From != nil && rest.Sign() > 0 {
			out = append(out, Unneeded{p.Batches[p.stock[i]], p.items[b.Item], rest})
		}
	}
	return out
}

// An Idea is something that a left-over could become.
type Idea struct {
	Dish     int   // its place in the list of dishes; -1 for a lesson
	Lesson   int64 // that needs it anyway
	On       order.Day
	Uses     exact.Number // of the left-over, in the item's unit
	Share    float64      // of the left-over
	Learners int          // who can make the dish of it
}

// leastShare is the share of a left-over under which a dish is no way to use it
// up.
const leastShare = 0.15

// Ideas returns what a left-over could become before its date: first the later
// lessons that need it, then the dishes for a class of so many learners, those
// that use most of it first.
func (l Left) Ideas(later []Need, dishes []recipe.Recipe, learners int) []Idea {
	var lessons, out []Idea
	for _, n := range later {
		if n.Item.Key != l.Item.Key || l.UseBy != nil && n.On > *l.UseBy {
			continue
		}
		for _, o := range n.Of {
			at := slices.IndexFunc(lessons, func(i Idea) bool { return i.Lesson == o.Lesson })
			if at < 0 {
				at = len(lessons)
				lessons = append(lessons, Idea{Dish: -1, Lesson: o.Lesson, On: n.On})
			}
			lessons[at].Uses = lessons[at].Uses.Add(o.Adds)
		}
	}
	for at, d := range dishes {
		if i, ok := l.idea(d, learners); ok {
			i.Dish = at
			out = append(out, i)
		}
	}
	slices.SortStableFunc(out, func(a, b Idea) int { return cmp.Compare(b.Share, a.Share) })
	for i := range lessons {
		lessons[i].Share = min(1, lessons[i].Uses.Div(l.Amount).Float())
	}
	return append(lessons, out...)
}

// idea is a dish made by so many learners, or by as many as the left-over is
// enough for.
func (l Left) idea(d recipe.Recipe, learners int) (Idea, bool) {
	one := exact.Number{} // what a learner takes of it
	factor := exact.Frac(int64(max(1, d.Each)), int64(max(1, d.Yield)))
	for _, in := range d.Ingredients {
		if in.Pantry != l.Item.Key || !in.Given() {
			continue
		}
		if n, ok := l.Item.used(scale.Used(in, factor)); ok {
			one = one.Add(n)
		}
	}
	if one.Sign() == 0 || learners < 1 || l.Amount.Sign() <= 0 {
		return Idea{}, false
	}
	i := Idea{Uses: one.Mul(exact.Int(int64(learners))), Learners: learners}
	if l.Amount.Less(i.Uses) {
		i.Learners = int(l.Amount.Div(one).Floor())
		i.Uses = one.Mul(exact.Int(int64(i.Learners)))
	}
	i.Share = i.Uses.Div(l.Amount).Float()
	return i, i.Learners > 0 && i.Share >= leastShare
}

// A Tray is what stands at one place of a lesson before it begins.
type Tray struct {
	Place, Says string
	Swapped     bool // something on it is not what the others have
	Lines       []TrayLine
}

// A TrayLine is one thing on a tray.
type TrayLine struct {
	Name, Amount string
	For          string // what it stands in for
	Home         string // "from home", "half from home"; empty where the school gives all
	Course       int
}

// Trays returns what goes to each bench: those with a tray of their own first,
// then in the order of the benches, with the demonstration and the spare last.
func Trays(takes []lesson.Take, benches []lesson.Bench) []Tray {
	var out []Tray
	for _, t := range takes {
		at := slices.IndexFunc(out, func(o Tray) bool { return o.Place == t.Place })
		if at < 0 {
			at = len(out)
			out = append(out, Tray{Place: t.Place, Says: t.Says})
		}
		l := TrayLine{Name: t.Line.Name, Amount: cmp.Or(t.Told, t.Amount.String()), For: t.For, Course: t.Course}
		switch {
		case t.Home.Cmp(exact.Int(1)) == 0:
			l.Home = "from home"
		case t.Home.Sign() > 0:
			l.Home = "part from home"
		}
		out[at].Swapped = out[at].Swapped || t.For != ""
		out[at].Lines = append(out[at].Lines, l)
	}
	place := func(t Tray) int {
		at := slices.IndexFunc(benches, func(b lesson.Bench) bool { return b.ID == t.Place })
		switch {
		case at < 0:
			return len(benches)
		case t.Swapped:
			return at - len(benches)
		}
		return at
	}
	slices.SortStableFunc(out, func(a, b Tray) int { return place(a) - place(b) })
	return out
}
