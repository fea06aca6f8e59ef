package lessons

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/term"
	"freshapron/internal/core/typed"
	"freshapron/internal/store"
)

// Choices are what a teacher can choose from when planning.
type Choices struct {
	Dishes  []school.Entry // that are ready
	Classes []store.Class
	Rooms   []store.Room
	Periods []store.Period
}

// ToChoose loads them.
func ToChoose(ctx context.Context) (Choices, error) {
	a := school.In(ctx)
	var c Choices
	larder, err := a.Larder(ctx)
	if err != nil {
		return c, err
	}
	all, err := a.Shelf(ctx, larder)
	if err != nil {
		return c, err
	}
	c.Dishes = school.OfStatus(all, store.Ready)
	if c.Classes, err = a.Classes(ctx); err != nil {
		return c, err
	}
	if c.Rooms, err = a.Rooms(ctx); err != nil {
		return c, err
	}
	c.Periods, err = a.Periods(ctx)
	return c, err
}

// A Request is a lesson as a form asks for it, in the words that were typed.
type Request struct {
	Dish                string // of a new lesson, where the menu is not given
	Class, Room, Period string
	Date                string
	GroupSize, Spare    string
	Menu                []CourseRequest
	Phases              []PhaseRequest
}

// A CourseRequest is one row of the menu.
type CourseRequest struct {
	Dish, Each, Demo string
	Who              string // who makes it; see lesson.ReadMakers
}

// A PhaseRequest is one row of the phases.
type PhaseRequest struct {
	Name, Minutes string
	Place         string // start, end or minute
	Minute        string
}

// New plans a lesson for the first time and saves it. The form is the UUID
// of the empty form.
func New(ctx context.Context, r Request, form string) (int64, error) {
	a := school.In(ctx)
	l, err := read(ctx, r, store.Lesson{Setup: store.Setup{Phases: lesson.UsualPhases()}})
	if err != nil {
		return 0, err
	}
	l.Spare = 1
	larder, err := a.Larder(ctx)
	if err != nil {
		return 0, err
	}
	if err := l.Plan(larder.Tables()).Check(); err != nil {
		return 0, err
	}
	return a.CreateLesson(ctx, l, form)
}

// Change plans a lesson anew and saves it where it can be planned. It returns
// school.ErrChanged where the version is not the newest.
func Change(ctx context.Context, id int64, version string, r Request) (*View, error) {
	a := school.In(ctx)
	l, err := current(ctx, id, version)
	if err != nil {
		return nil, err
	}
	did := changed(RequestOf(l), r)
	if l, err = read(ctx, r, l); err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	v, err := compute(a.Site, l, larder) // not kept: it has the version of what it replaces
	if err != nil {
		return nil, err
	}
	if v.Problems != nil {
		return nil, v.Problems
	}
	if err := a.ChangeLesson(ctx, l, did); err != nil {
		return nil, err
	}
	return One(ctx, id)
}

// changed names what a form asks to be other than it is.
func changed(was, r Request) string {
	var names []string
	for _, f := range []struct{ name, was, is string }{
		{"menu", fmt.Sprint(was.Menu), fmt.Sprint(r.Menu)}, {"class", was.Class, r.Class}, {"room", was.Room, r.Room},
		{"period", was.Period, r.Period}, {"date", was.Date, r.Date}, {"groups", was.GroupSize, r.GroupSize},
		{"spare sets", was.Spare, r.Spare},
		{"phases", fmt.Sprint(was.Phases), fmt.Sprint(r.Phases)},
	} {
		if f.was != f.is {
			names = append(names, f.name)
		}
	}
	if names == nil {
		return "Planned again"
	}
	return "Changed: " + strings.Join(names, ", ")
}

// RequestOf returns a lesson in the words of the form.
func RequestOf(l store.Lesson) Request {
	id := func(n int64) string { return strconv.FormatInt(n, 10) }
	r := Request{
		Class: id(l.Class.ID), Room: id(l.Room.ID), Period: id(l.Period.ID),
		Date: l.Date.Format(time.DateOnly), GroupSize: strconv.Itoa(l.GroupSize),
		Spare: strconv.Itoa(l.Spare),
	}
	benches := l.Plan(lesson.Tables{}).Benches()
	for _, c := range l.Menu {
		r.Menu = append(r.Menu, CourseRequest{Dish: id(c.Dish.ID), Each: strconv.Itoa(c.Each), Demo: strconv.Itoa(c.Demo), Who: c.By.Says(benches, l.Class.NameOf)})
	}
	for _, p := range l.Phases {
		row := PhaseRequest{Name: p.Name, Minutes: p.Minutes.Decimal(2), Place: "start"}
		switch p.Place {
		case fit.AtEnd:
			row.Place = "end"
			if p.Waits {
				row.Place = endWaits
			}
		case fit.AtMinute:
			row.Place, row.Minute = "minute", p.Minute.Decimal(2)
		}
		r.Phases = append(r.Phases, row)
	}
	return r
}

// read turns a request into a lesson, on top of one that may be there. What
// the request leaves empty of phases, pieces and sets stays as it is.
func read(ctx context.Context, r Request, l store.Lesson) (store.Lesson, error) {
	a := school.In(ctx)
	c, err := ToChoose(ctx)
	if err != nil {
		return l, err
	}
	var f typed.Form
	was := l
	l.Class = typed.Choose(&f, "class", "a class", r.Class, c.Classes, func(c store.Class) int64 { return c.ID })
	l.Period = typed.Choose(&f, "period", "a period", r.Period, c.Periods, func(p store.Period) int64 { return p.ID })
	l.Room = typed.Choose(&f, "room", "a room", r.Room, c.Rooms, func(r store.Room) int64 { return r.ID })
	l.GroupSize = f.Whole("group_size", "Learners in a group", r.GroupSize)
	l.Date = f.Date("date", r.Date, "2026-11-26")
	if says, really, crosses := term.Crosses(l.Date, l.Period.Start, l.Period.End, a.Location); crosses && f.Problems == nil {
		f.Add("date", "The clocks change in this period: it says %d minutes and has %d. Choose another day.", says, really)
	}
	if r.Phases != nil {
		l.Spare = f.Whole("spare", "Spare sets", r.Spare)
		l.Phases = readPhases(&f, r.Phases)
	}
	if err := readMenu(ctx, &f, r, c, was, &l); err != nil {
		return l, err
	}
	if f.Problems != nil {
		return l, f.Problems
	}
	return l, nil
}

// readMenu reads the courses; a row without a dish is left out. What a new dish
// leaves empty is as its recipe says. A dish that has been set aside may stay.
func readMenu(ctx context.Context, f *typed.Form, r Request, c Choices, was store.Lesson, l *store.Lesson) error {
	if l.Class.ID != was.Class.ID && l.Class.ID != 0 { // names are of the new one
		full, err := school.In(ctx).Class(ctx, l.Class.ID)
		if err != nil {
			return err
		}
		l.Class = full
	} else {
		l.Class.Roster = was.Class.Roster
	}
	rows := r.Menu
	if rows == nil {
		rows = []CourseRequest{{Dish: r.Dish}}
	}
	before := was.Plan(lesson.Tables{}).Benches()
	l.Menu = nil
	for i, row := range rows {
		field := func(name string) string { return fmt.Sprintf("menu[%d].%s", i, name) }
		if r.Menu == nil {
			field = func(name string) string { return name }
		} else if strings.TrimSpace(row.Dish) == "" {
			continue
		}
		course, err := readDish(ctx, f, field("dish"), row.Dish, c, was)
		if err != nil {
			return err
		}
		if course.Dish.ID == 0 {
			continue
		}
		if row.Each != "" {
			course.Each = f.Whole(field("each"), "For each learner", row.Each)
		}
		if row.Demo != "" {
			course.Demo = f.Whole(field("demo"), "Demonstration", row.Demo)
		}
		if row.Who != course.By.Says(before, was.Class.NameOf) {
			if course.By, err = l.Plan(lesson.Tables{}).ReadMakers(row.Who); err != nil {
				f.Add(field("who"), "%s.", err)
			}
		}
		l.Menu = append(l.Menu, course)
	}
	if len(l.Menu) == 0 && f.Problems == nil {
		f.Add("menu", "Choose a dish.")
	}
	return nil
}

// readDish reads which dish a course is of: as it was, or as its recipe says.
func readDish(ctx context.Context, f *typed.Form, field, id string, c Choices, was store.Lesson) (store.Course, error) {
	for _, own := range was.Menu {
		if id == strconv.FormatInt(own.Dish.ID, 10) {
			return own, nil
		}
	}
	head := typed.Choose(f, field, "a dish", id, c.Dishes, func(e school.Entry) int64 { return e.ID })
	if head.ID == 0 {
		return store.Course{}, nil
	}
	d, err := school.In(ctx).Dish(ctx, head.ID)
	return store.Course{Dish: d, Each: d.Each, Demo: d.Yield}, err
}

// endWaits is the place of an end phase in which what needs no hands goes on.
const endWaits = "end_waits"

// readPhases reads the rows; one with neither name nor minutes is left out.
func readPhases(f *typed.Form, rows []PhaseRequest) []fit.Phase {
	var out []fit.Phase
	for i, row := range rows {
		field := fmt.Sprintf("phases[%d]", i)
		name := strings.TrimSpace(row.Name)
		if name == "" && strings.TrimSpace(row.Minutes) == "" {
			continue
		}
		p := fit.Phase{Name: name}
		if name == "" {
			f.Add(field+".name", "Give this phase a name.")
		} else if utf8.RuneCountInString(name) > typed.LongestName {
			f.Add(field+".name", "The name is longer than %d letters.", typed.LongestName)
		} else {
			name = "“" + name + "”"
		}
		p.Minutes = f.Minutes(field+".minutes", "Minutes of "+name, row.Minutes)
		switch row.Place {
		case "start":
		case "end":
			p.Place = fit.AtEnd
		case endWaits:
			p.Place, p.Waits = fit.AtEnd, true
		case "minute":
			p.Place = fit.AtMinute
			p.Minute = f.Minutes(field+".at_minute", "Start of "+name, row.Minute)
		default:
			f.Add(field+".place", "Choose when %s is.", name)
		}
		out = append(out, p)
	}
	return out
}
