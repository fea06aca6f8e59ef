package preparing

import (
	"context"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/typed"
	"freshapron/internal/store"
)

func number(n int) exact.Number { return exact.Int(int64(n)) }

// A ClassMoney is what a class's term costs.
type ClassMoney struct {
	Class    store.Class
	Lessons  []LessonMoney
	Spent    int // pence, of lessons that are over
	Planned  int // of those to come
	Each     int // of all of them, for each learner
	Asked    int // of each learner
	Received int
	Mine     bool
}

// A LessonMoney is what a lesson costs.
type LessonMoney struct {
	Lesson   Lesson
	Pence    int
	Each     int // for each learner
	Portion  int // for each piece that is taken home
	Unpriced []string
	Over     bool // it is over, and the figure is what was used
}

// A Thrown is what was thrown away.
type Thrown struct {
	Movements []store.Movement
	Pence     int
	Grams     int
	Unweighed int // of which nobody knows what they weighed
}

// A MoneyView is what preparing costs.
type MoneyView struct {
	From, To         time.Time
	Classes          []ClassMoney
	Thrown           Thrown
	Limit, TermLimit int // pence for each learner, of a lesson and of a term; 0 is none
}

// MoneyOf adds up the term of a day: what lessons cost, what was asked for and came
// in, and what was thrown away.
func MoneyOf(ctx context.Context) (*MoneyView, error) {
	s := school.In(ctx)
	today := s.Today()
	m := &MoneyView{From: today.AddDate(0, 0, -28), To: today.AddDate(0, 0, 28)}
	terms, err := s.Terms(ctx)
	if err != nil {
		return nil, err
	}
	for _, t := range terms {
		if !t.Off && !today.Before(t.First) && !today.After(t.Last) {
			m.From, m.To = t.First, t.Last
		}
	}
	larder, err := s.Larder(ctx)
	if err != nil {
		return nil, err
	}
	m.Limit, m.TermLimit = larder.Settings.Lesson, larder.Settings.Term
	list, err := between(ctx, m.From, m.To)
	if err != nil {
		return nil, err
	}
	own, err := s.ClassesOf(ctx, school.Acting(ctx).ID)
	if err != nil {
		return nil, err
	}
	var ids []int64
	for _, l := range list {
		at := slices.IndexFunc(m.Classes, func(c ClassMoney) bool { return c.Class.ID == l.Class.ID })
		if at < 0 {
			at = len(m.Classes)
			m.Classes = append(m.Classes, ClassMoney{Class: l.Class, Mine: slices.Contains(own, l.Class.ID)})
			ids = append(ids, l.Class.ID)
		}
		c := &m.Classes[at]
		pence, unpriced := l.Costs()
		lm := LessonMoney{Lesson: l, Pence: pence, Each: l.Each(), Unpriced: unpriced, Over: l.Booked != nil}
		if n := pieces(l); n > 0 {
			lm.Portion = (pence + n - 1) / n
		}
		if lm.Over {
			c.Spent += pence
		} else {
			c.Planned += pence
		}
		c.Each += lm.Each
		c.Asked += l.Home.Asks
		c.Lessons = append(c.Lessons, lm)
	}
	got, err := s.Contributions(ctx, ids...)
	if err != nil {
		return nil, err
	}
	for _, g := range got {
		for i := range m.Classes {
			if m.Classes[i].Class.ID == g.Class && !g.At.Before(m.From) {
				m.Classes[i].Received += g.Pence
			}
		}
	}
	slices.SortStableFunc(m.Classes, func(a, b ClassMoney) int { return strings.Compare(a.Class.Name, b.Class.Name) })
	m.Thrown, err = thrown(ctx, m.From)
	return m, err
}

func between(ctx context.Context, from, to time.Time) ([]Lesson, error) {
	views, err := lessons.From(ctx, from, int(to.Sub(from).Hours()/24)+1)
	if err != nil {
		return nil, err
	}
	return withHomes(ctx, views)
}

// pieces counts what all benches make.
func pieces(l Lesson) int {
	n := 0
	for _, b := range l.Benches {
		for _, made := range b.Makes {
			n += made.Pieces
		}
	}
	return n
}

const mostMovements = 1000

func thrown(ctx context.Context, from time.Time) (Thrown, error) {
	var t Thrown
	list, err := school.In(ctx).Movements(ctx, from, mostMovements)
	for _, m := range list {
		if m.Kind != store.Thrown {
			continue
		}
		t.Movements = append(t.Movements, m)
		t.Pence += m.Pence
		t.Grams += m.Grams
		if m.Grams == 0 {
			t.Unweighed++
		}
	}
	return t, err
}

// A Paying is a learner with what has come in for them.
type Paying struct {
	class.Learner
	Received int
}

// Payings returns the learners of a class with what has come in for each in the
// term, to the staff of the class only.
func Payings(ctx context.Context, classID int64, from time.Time) (school.Class, []Paying, error) {
	c, err := school.Own(ctx, classID)
	if err != nil {
		return c, nil, err
	}
	got, err := school.In(ctx).Contributions(ctx, classID)
	out := make([]Paying, len(c.Roster))
	for i, l := range c.Roster {
		out[i].Learner = l
		for _, g := range got {
			if g.Learner == l.ID && !g.At.Before(from) {
				out[i].Received += g.Pence
			}
		}
	}
	return c, out, err
}

// Receive writes down money that came in for a learner; with a minus, that was
// given back.
func Receive(ctx context.Context, classID int64, learner, pounds string) error {
	s := school.In(ctx)
	c, err := school.Own(ctx, classID)
	if err != nil {
		return err
	}
	var f typed.Form
	who := typed.Choose(&f, "learner", "a learner", learner, c.Roster, func(l class.Learner) int64 { return l.ID })
	back := strings.HasPrefix(strings.TrimSpace(pounds), "-")
	n := pence(&f, "pounds", strings.TrimPrefix(strings.TrimSpace(pounds), "-"))
	if n == 0 && f.Problems == nil {
		f.Add("pounds", "Say how much came in")
	}
	if f.Problems != nil {
		return f.Problems
	}
	if back {
		n = -n
	}
	return s.AddContribution(ctx, store.Contribution{Class: classID, Learner: who.ID, Pence: n, Who: school.Acting(ctx).Name, At: s.Now()})
}

// SetLimits writes what a lesson and a term may cost for each learner.
func SetLimits(ctx context.Context, lesson, term string) error {
	s := school.In(ctx)
	settings, err := s.Settings(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	settings.Lesson, settings.Term = 0, 0
	if strings.TrimSpace(lesson) != "" {
		settings.Lesson = pence(&f, "lesson", lesson)
	}
	if strings.TrimSpace(term) != "" {
		settings.Term = pence(&f, "term", term)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return s.SaveSettings(ctx, settings)
}
