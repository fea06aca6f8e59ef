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
	Dish, Class, Room, Period string
	Date                      string
	GroupSize                 string
	Each, Demo, Spare         string
	Phases                    []PhaseRequest
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
	l.Each, l.Demo, l.Spare = l.Dish.Each, l.Dish.Yield, 1
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
		{"dish", was.Dish, r.Dish}, {"class", was.Class, r.Class}, {"room", was.Room, r.Room},
		{"period", was.Period, r.Period}, {"date", was.Date, r.Date}, {"groups", was.GroupSize, r.GroupSize},
		{"pieces for each", was.Each, r.Each}, {"demonstration", was.Demo, r.Demo}, {"spare sets", was.Spare, r.Spare},
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
		Dish: id(l.Dish.ID), Class: id(l.Class.ID), Room: id(l.Room.ID), Period: id(l.Period.ID),
		Date: l.Date.Format(time.DateOnly), GroupSize: strconv.Itoa(l.GroupSize),
		Each: strconv.Itoa(l.Each), Demo: strconv.Itoa(l.Demo), Spare: strconv.Itoa(l.Spare),
	}
	for _, p := range l.Phases {
		row := PhaseRequest{Name: p.Name, Minutes: p.Minutes.Decimal(2), Place: "start"}
		switch p.Place {
		case fit.AtEnd:
			row.Place = "end"
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
	if r.Dish != strconv.FormatInt(l.Dish.ID, 10) || l.Dish.ID == 0 { // a dish that has been set aside may stay
		if head := typed.Choose(&f, "dish", "a dish", r.Dish, c.Dishes, func(e school.Entry) int64 { return e.ID }); head.ID != 0 {
			if l.Dish, err = a.Dish(ctx, head.ID); err != nil {
				return l, err
			}
		}
	}
	l.Class = typed.Choose(&f, "class", "a class", r.Class, c.Classes, func(c store.Class) int64 { return c.ID })
	l.Period = typed.Choose(&f, "period", "a period", r.Period, c.Periods, func(p store.Period) int64 { return p.ID })
	l.Room = typed.Choose(&f, "room", "a room", r.Room, c.Rooms, func(r store.Room) int64 { return r.ID })
	l.GroupSize = f.Whole("group_size", "Learners in a group", r.GroupSize)
	l.Date = f.Date("date", r.Date, "2026-11-26")
	if says, really, crosses := term.Crosses(l.Date, l.Period.Start, l.Period.End, a.Location); crosses && f.Problems == nil {
		f.Add("date", "The clocks change in this period: it says %d minutes and has %d. Choose another day.", says, really)
	}
	if r.Phases != nil {
		l.Each = f.Whole("each", "For each learner", r.Each)
		l.Demo = f.Whole("demo", "Demonstration", r.Demo)
		l.Spare = f.Whole("spare", "Spare sets", r.Spare)
		l.Phases = readPhases(&f, r.Phases)
	}
	if f.Problems != nil {
		return l, f.Problems
	}
	return l, nil
}

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
