package app

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/term"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

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

// form collects what is wrong with a request, by field.
type form struct{ problems problem.List }

func (f *form) add(field, format string, args ...any) {
	f.problems = append(f.problems, problem.Problem{Path: field, Says: fmt.Sprintf(format, args...)})
}

func (f *form) whole(field, what, text string) int {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil {
		f.add(field, "%s: “%s” is not a whole number.", what, words.Short(text))
	}
	return n
}

func (f *form) minutes(field, what, text string) exact.Number {
	n, err := exact.Parse(strings.ReplaceAll(strings.TrimSpace(text), ",", "."))
	if err != nil {
		f.add(field, "%s: “%s” is not a number of minutes.", what, words.Short(text))
	} else if n.Sign() < 0 {
		f.add(field, "%s: minutes can’t be less than 0.", what)
	}
	return n
}

// choose finds what was chosen by its id.
func choose[T any](f *form, field, what, text string, list []T, id func(T) int64) (chosen T) {
	for _, c := range list {
		if strconv.FormatInt(id(c), 10) == text {
			return c
		}
	}
	f.add(field, "Choose %s.", what)
	return chosen
}

// read turns a request into a lesson, on top of one that may be there. What
// the request leaves empty of phases, pieces and sets stays as it is.
func (a *App) read(ctx context.Context, r Request, l store.Lesson) (store.Lesson, error) {
	c, err := a.Choices(ctx)
	if err != nil {
		return l, err
	}
	var f form
	if r.Dish != strconv.FormatInt(l.Dish.ID, 10) || l.Dish.ID == 0 { // a dish that has been set aside may stay
		if head := choose(&f, "dish", "a dish", r.Dish, c.Dishes, func(e Entry) int64 { return e.ID }); head.ID != 0 {
			if l.Dish, err = a.School.Dish(ctx, head.ID); err != nil {
				return l, err
			}
		}
	}
	l.Class = choose(&f, "class", "a class", r.Class, c.Classes, func(c store.Class) int64 { return c.ID })
	l.Period = choose(&f, "period", "a period", r.Period, c.Periods, func(p store.Period) int64 { return p.ID })
	l.Room = choose(&f, "room", "a room", r.Room, c.Rooms, func(r store.Room) int64 { return r.ID })
	l.GroupSize = f.whole("group_size", "Learners in a group", r.GroupSize)
	if l.Date, err = time.Parse(time.DateOnly, r.Date); err != nil {
		f.add("date", "“%s” is not a date such as 2026-11-26.", words.Short(r.Date))
	} else if y := l.Date.Year(); y < 2000 || y > 2100 {
		f.add("date", "The year %d is too far away.", y)
	}
	if says, really, crosses := term.Crosses(l.Date, l.Period.Start, l.Period.End, a.School.Location); crosses && f.problems == nil {
		f.add("date", "The clocks change in this period: it says %d minutes and has %d. Choose another day.", says, really)
	}
	if r.Phases != nil {
		l.Each = f.whole("each", "For each learner", r.Each)
		l.Demo = f.whole("demo", "Demonstration", r.Demo)
		l.Spare = f.whole("spare", "Spare sets", r.Spare)
		l.Phases = f.phases(r.Phases)
	}
	if f.problems != nil {
		return l, f.problems
	}
	return l, nil
}

// phases reads the rows; one with neither name nor minutes is left out.
func (f *form) phases(rows []PhaseRequest) []fit.Phase {
	const longestName = 60
	var out []fit.Phase
	for i, row := range rows {
		field := fmt.Sprintf("phases[%d]", i)
		name := strings.TrimSpace(row.Name)
		if name == "" && strings.TrimSpace(row.Minutes) == "" {
			continue
		}
		p := fit.Phase{Name: name}
		if name == "" {
			f.add(field+".name", "Give this phase a name.")
		} else if utf8.RuneCountInString(name) > longestName {
			f.add(field+".name", "The name is longer than %d letters.", longestName)
		} else {
			name = "“" + name + "”"
		}
		p.Minutes = f.minutes(field+".minutes", "Minutes of "+name, row.Minutes)
		switch row.Place {
		case "start":
		case "end":
			p.Place = fit.AtEnd
		case "minute":
			p.Place = fit.AtMinute
			p.Minute = f.minutes(field+".at_minute", "Start of "+name, row.Minute)
		default:
			f.add(field+".place", "Choose when %s is.", name)
		}
		out = append(out, p)
	}
	return out
}
