package plan

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"freshapron/internal/app"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/shelf"
)

// A field of a form, ready to show.
type field struct {
	Name, ID, Label, Value string
	Problem                string
	Options                []option
}

type option struct {
	Value, Label, Small string
	Chosen              bool
	ID                  string
}

// find returns the problems of a field as one text.
func find(problems fit.Problems, path string) string {
	var says []string
	for _, p := range problems {
		if p.Path == path {
			says = append(says, sentence(p.Says))
		}
	}
	return strings.Join(says, " ")
}

// sentence makes a sentence of a problem's text.
func sentence(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	s = strings.ToUpper(string(r[0])) + string(r[1:])
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}

func choice(name, label, chosen string, problems fit.Problems, options []option) field {
	f := field{Name: name, ID: name, Label: label, Value: chosen, Problem: find(problems, name), Options: options}
	for i := range f.Options {
		f.Options[i].Chosen = f.Options[i].Value == chosen
		f.Options[i].ID = name + "-" + f.Options[i].Value
	}
	return f
}

func text(name, label, value string, problems fit.Problems) field {
	return field{Name: name, ID: name, Label: label, Value: value, Problem: find(problems, name)}
}

// choiceFields are the fields that both forms share.
type choiceFields struct {
	Dish, Class, Room, Period, GroupSize, Date field
}

func choicesOf(c app.Choices, r app.Request, problems fit.Problems) choiceFields {
	id := func(n int64) string { return strconv.FormatInt(n, 10) }
	var dishes, classes, rooms, periods []option
	for _, d := range c.Dishes {
		dishes = append(dishes, option{Value: id(d.ID), Label: d.Title, Small: facts(d.Facts)})
	}
	for _, k := range c.Classes {
		classes = append(classes, option{Value: id(k.ID), Label: fmt.Sprintf("%s, %d learners", k.Name, k.Learners)})
	}
	for _, room := range c.Rooms {
		rooms = append(rooms, option{Value: id(room.ID), Label: fmt.Sprintf("%s, %d benches", room.Name, room.Benches)})
	}
	for _, p := range c.Periods {
		periods = append(periods, option{Value: id(p.ID), Label: fmt.Sprintf("%s, %s–%s", p.Name, p.Start, p.End)})
	}
	return choiceFields{
		Dish:      choice("dish", "Dish", r.Dish, problems, dishes),
		Class:     choice("class", "Class", orOnly(r.Class, classes), problems, classes),
		Room:      choice("room", "Room", orOnly(r.Room, rooms), problems, rooms),
		Period:    choice("period", "Period", r.Period, problems, periods),
		GroupSize: choice("group_size", "Learners work", r.GroupSize, problems, groupSizes(r.GroupSize)),
		Date:      text("date", "Date", r.Date, problems),
	}
}

// orOnly chooses the only option where nothing is chosen yet.
func orOnly(chosen string, options []option) string {
	if chosen == "" && len(options) == 1 {
		return options[0].Value
	}
	return chosen
}

func groupSizes(chosen string) []option {
	out := []option{
		{Value: "1", Label: "Alone"},
		{Value: "2", Label: "In pairs"},
		{Value: "3", Label: "In threes"},
		{Value: "4", Label: "In fours"},
		{Value: "5", Label: "In fives"},
	}
	if n, err := strconv.Atoi(chosen); err == nil && n > 5 {
		out = append(out, option{Value: chosen, Label: "In groups of " + chosen})
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
	Form    string
	Problem string
}

func formOf(c app.Choices, in posted, problems fit.Problems) newForm {
	f := newForm{choiceFields: choicesOf(c, in.request(), problems), Form: in.Form}
	shown := []string{"dish", "class", "room", "period", "group_size", "date"}
	f.Problem = rest(problems, shown)
	return f
}

// rest returns the problems that no field shows.
func rest(problems fit.Problems, shown []string) string {
	var says []string
next:
	for _, p := range problems {
		for _, s := range shown {
			if p.Path == s {
				continue next
			}
		}
		says = append(says, sentence(p.Says))
	}
	return strings.Join(says, " ")
}
