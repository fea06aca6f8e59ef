package plan

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/shelf"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// choiceFields are the fields that both forms share.
type choiceFields struct {
	Class, Room, Period, GroupSize, Date frame.Field
}

func choicesOf(c lessons.Choices, r lessons.Request, problems problem.List) choiceFields {
	id := func(n int64) string { return strconv.FormatInt(n, 10) }
	var classes, rooms, periods []frame.Option
	for _, k := range c.Classes {
		classes = append(classes, frame.Option{Value: id(k.ID), Label: k.Name + ", " + words.Plural(k.Learners, "learner", "learners")})
	}
	for _, room := range c.Rooms {
		rooms = append(rooms, frame.Option{Value: id(room.ID), Label: room.Name + ", " + words.Plural(room.Benches, "bench", "benches")})
	}
	for _, p := range c.Periods {
		periods = append(periods, frame.Option{Value: id(p.ID), Label: fmt.Sprintf("%s, %s–%s", p.Name, p.Start, p.End)})
	}
	return choiceFields{
		Class:     frame.Choice("class", "Class", orOnly(r.Class, classes), problems, classes),
		Room:      frame.Choice("room", "Room", orOnly(r.Room, rooms), problems, rooms),
		Period:    frame.Choice("period", "Period", r.Period, problems, periods),
		GroupSize: frame.Choice("group_size", "Learners work", r.GroupSize, problems, groupSizes(r.GroupSize)),
		Date:      frame.Text("date", "Date", r.Date, problems),
	}
}

// dishOptions are the dishes that are ready.
func dishOptions(c lessons.Choices) []frame.Option {
	var out []frame.Option
	for _, d := range c.Dishes {
		out = append(out, frame.Option{Value: strconv.FormatInt(d.ID, 10), Label: d.Title, Small: facts(d.Facts)})
	}
	return out
}

// orOnly chooses the only option where nothing is chosen yet.
func orOnly(chosen string, options []frame.Option) string {
	if chosen == "" && len(options) == 1 {
		return options[0].Value
	}
	return chosen
}

func groupSizes(chosen string) []frame.Option {
	out := []frame.Option{
		{Value: "1", Label: "Alone"},
		{Value: "2", Label: "In pairs"},
		{Value: "3", Label: "In threes"},
		{Value: "4", Label: "In fours"},
		{Value: "5", Label: "In fives"},
	}
	if n, err := strconv.Atoi(chosen); err == nil && n > 5 {
		out = append(out, frame.Option{Value: chosen, Label: "In groups of " + chosen})
	}
	return out
}

// facts are what decides about a dish at a glance.
func facts(f shelf.Facts) string {
	text := fmt.Sprintf("%s. %s: %.0f min of hands-on work, %.0f min in all for a pair", f.Why, f.Makes, math.Ceil(f.Hands), math.Ceil(f.InAll))
	if f.Oven {
		text += ", with the oven"
	}
	return text + "."
}

// newForm is the view model of the form for a new lesson.
type newForm struct {
	choiceFields
	Dish    frame.Field
	Form    string
	Problem string
	Next    []nextFree
}

// A nextFree is the next lesson of a class in which nothing is planned yet.
type nextFree struct{ Href, Class, When string }

func formOf(c lessons.Choices, in posted, problems problem.List) newForm {
	f := newForm{choiceFields: choicesOf(c, in.request(), problems), Form: in.Form, Dish: frame.Choice("dish", "Dish", in.Dish, problems, dishOptions(c))}
	shown := []string{"dish", "class", "room", "period", "group_size", "date"}
	f.Problem = rest(problems, shown)
	return f
}

// rest returns the problems that no field shows.
func rest(problems problem.List, shown []string) string {
	var says []string
next:
	for _, p := range problems {
		for _, s := range shown {
			if p.Path == s {
				continue next
			}
		}
		says = append(says, problem.Sentence(p.Says))
	}
	return strings.Join(says, " ")
}
