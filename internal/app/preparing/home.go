package preparing

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Bringer is a learner with what they bring.
type Bringer struct {
	class.Learner
	Bench  string
	Brings []string // "150 g plain flour"
	Not    bool     // the school gives theirs
}

// Bringers returns who brings what to a lesson: of what a bench takes, each of its
// cooks an equal share.
func (l Lesson) Bringers() []Bringer {
	var out []Bringer
	for _, b := range l.Benches {
		for _, m := range b.Members {
			br := Bringer{Learner: m, Bench: b.Name, Not: slices.Contains(l.Home.Not, m.ID)}
			for _, t := range l.Takes {
				if t.Place == b.ID && t.Home.Sign() > 0 && !br.Not {
					br.Brings = append(br.Brings, share(l, t, b.Cooks))
				}
			}
			out = append(out, br)
		}
	}
	slices.SortStableFunc(out, func(a, b Bringer) int { return strings.Compare(a.Name(), b.Name()) })
	return out
}

// share is a cook's part of what a bench takes, as it is measured at home: whole
// ones of what is counted.
func share(l Lesson, t lesson.Take, cooks int) string {
	q := measure.Quantity{Amount: t.Amount.Amount.Div(number(cooks)), Unit: t.Amount.Unit}
	if q.Unit.Dimension == measure.Count {
		q.Amount = number(int(q.Amount.Ceil()))
	}
	if stock, ok := l.Larder.Pantry.Find(t.Line.Pantry); ok {
		return stock.Of(q)
	}
	return q.String() + " " + t.Line.Name
}

// A HomeForm is what is brought to a lesson, in the words of a form.
type HomeForm struct {
	Version         string
	Lines           []string // "course.line"
	Not             []string // learners
	Container, Note string
	Asks            string // pounds
}

const longestNote = 500

// Own returns a lesson of a class to which whoever acts belongs: who brings what is
// for these only. It returns school.ErrNotYours to others.
func Own(ctx context.Context, id int64) (Lesson, error) {
	l, err := One(ctx, id)
	if err == nil {
		_, err = school.Own(ctx, l.Class.ID)
	}
	return l, err
}

// SetHome writes what learners bring to a lesson.
func SetHome(ctx context.Context, id int64, in HomeForm) error {
	s := school.In(ctx)
	l, err := Own(ctx, id)
	if err != nil {
		return err
	}
	if strconv.Itoa(l.Home.Version) != in.Version {
		return school.ErrChanged
	}
	var f typed.Form
	h := store.Home{Version: l.Home.Version, Container: strings.Join(strings.Fields(in.Container), " "), Note: strings.TrimSpace(in.Note)}
	for _, line := range in.Lines {
		var c, n int
		if _, err := fmt.Sscanf(line, "%d.%d", &c, &n); err != nil || c < 0 || c >= len(l.Menu) || n < 0 || n >= len(l.Menu[c].Dish.Ingredients) {
			return school.ErrNotFound
		}
		h.Lines = append(h.Lines, lesson.HomeLine{Dish: l.Menu[c].Dish.Recipe.ID, Name: l.Menu[c].Dish.Ingredients[n].Name})
	}
	for _, text := range in.Not {
		id, err := strconv.ParseInt(text, 10, 64)
		if err != nil || !slices.ContainsFunc(l.Class.Roster, func(p class.Learner) bool { return p.ID == id }) {
			return school.ErrNotFound
		}
		h.Not = append(h.Not, id)
	}
	if len([]rune(h.Note)) > longestNote {
		f.Add("note", "The note has over %d letters", longestNote)
	}
	if len([]rune(h.Container)) > typed.LongestName {
		f.Add("container", "The container has over %d letters", typed.LongestName)
	}
	if strings.TrimSpace(in.Asks) != "" {
		h.Asks = pence(&f, "asks", in.Asks)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return s.SaveHome(ctx, id, h)
}

// A Letter is what goes home before a lesson, without anything about any learner.
type Letter struct {
	Class, Dish, When string
	Brings            []string // what everybody brings; by learner where it differs
	ByLearner         []Bringer
	Container, Note   string
	Asks              string
	Contains          []string
	May               []string // what labels have to be read for
	Next              string
}

// LetterOf writes the letter of a lesson.
func LetterOf(ctx context.Context, l Lesson) (Letter, error) {
	out := Letter{Class: l.Class.Name, Dish: l.Titles(), When: l.View.Date.Format("Monday 2 January"), Container: l.Home.Container, Note: l.Home.Note}
	if l.Home.Asks > 0 {
		out.Asks = measure.Price(l.Home.Asks)
	}
	all := l.Bringers()
	same := true
	for i := range all {
		same = same && slices.Equal(all[i].Brings, all[0].Brings)
	}
	if same && len(all) > 0 {
		out.Brings = all[0].Brings
	} else {
		out.ByLearner = slices.DeleteFunc(all, func(b Bringer) bool { return len(b.Brings) == 0 })
	}
	out.Contains, out.May = Declared(l)
	next, err := lessons.Next(ctx, l.Class.ID)
	if err != nil {
		return out, err
	}
	for _, n := range next {
		if n.Date.After(l.View.Date) {
			out.Next = n.Date.Format("Monday 2 January") + ": " + n.Titles()
			break
		}
	}
	return out, nil
}

// Text is the letter to copy into a message.
func (l Letter) Text() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %s on %s\n\n", l.Class, l.Dish, l.When)
	if len(l.Brings) > 0 {
		fmt.Fprintf(&b, "Please bring %s.\n", words.Names(l.Brings))
	}
	if len(l.ByLearner) > 0 {
		b.WriteString("Please bring what is on your own slip.\n")
	}
	if len(l.Brings)+len(l.ByLearner) == 0 {
		b.WriteString("The school gives the ingredients.\n")
	}
	if l.Container != "" {
		fmt.Fprintf(&b, "For the way home: %s.\n", l.Container)
	}
	if l.Asks != "" {
		fmt.Fprintf(&b, "We ask for %s towards the ingredients; nobody is left out.\n", l.Asks)
	}
	if len(l.Contains) > 0 {
		fmt.Fprintf(&b, "It contains: %s.\n", strings.Join(l.Contains, ", "))
	} else {
		b.WriteString("None of the declared allergens is in its recipe.\n")
	}
	if len(l.May) > 0 {
		fmt.Fprintf(&b, "Depending on the product, read the label for: %s.\n", strings.Join(l.May, ", "))
	}
	if l.Note != "" {
		b.WriteString(l.Note + "\n")
	}
	if l.Next != "" {
		fmt.Fprintf(&b, "Next: %s.\n", l.Next)
	}
	return b.String()
}

// Declared returns the allergens of what a lesson makes, swaps and all, as the
// school's law wants them named, and those for which labels have to be read.
func Declared(l Lesson) (contains, read []string) {
	var has, may []pantry.Allergen
	for _, t := range l.Takes {
		stock, known := l.Larder.Pantry.Find(t.Line.Pantry)
		if !known || stock.Unknown {
			read = append(read, t.Line.Name+" (not looked up)")
			continue
		}
		has = append(has, stock.Allergens...)
		may = append(may, stock.ToRead()...)
	}
	may = slices.DeleteFunc(may, func(a pantry.Allergen) bool { return slices.Contains(has, a) })
	list := l.Larder.Declared()
	read = append(together(list.Declare(may)), read...)
	slices.Sort(read)
	return together(list.Declare(has)), slices.Compact(read)
}

// together names once what is declared with the kind in brackets: "cereals
// containing gluten (wheat, oats)".
func together(names []string) []string {
	var out []string
	for _, n := range names {
		head, kind, ok := strings.Cut(n, " (")
		at := slices.IndexFunc(out, func(o string) bool { return ok && strings.HasPrefix(o, head+" (") })
		if at < 0 {
			out = append(out, n)
			continue
		}
		out[at] = strings.TrimSuffix(out[at], ")") + ", " + kind
	}
	return out
}
