package plan

import (
	"fmt"
	"html/template"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// A settings is the form of a lesson: its facts in a sentence, each of which
// opens to its fields.
type settings struct {
	choiceFields
	Spare         frame.Field
	Menu          []courseRow
	MenuProblem   string
	Phases        []phaseRow
	PhasesProblem string
	PhasesSay     string // how many, and how long
	Problem       string
	Changed       []string // what somebody else's version says
	IsChanged     bool
	Failed        bool // what is typed is not what the plan shows
	Unplanned     bool // the lesson can't be planned as it stands
	opens         map[string]bool
}

// Loose reports whether facts open in the page, rather than one at a time
// over it.
func (s settings) Loose() bool { return s.Failed || s.Unplanned }

// Fact returns how a fact stands: open where there is something to mend in it.
func (s settings) Fact(name string) template.HTMLAttr {
	switch {
	case s.opens[name]:
		return "open"
	case s.Loose():
		return ""
	}
	return `name="fact"`
}

// factOf names the fact that holds the field of a problem.
func factOf(path string) string {
	field, _, _ := strings.Cut(path, "[")
	switch field {
	case "group_size":
		return "size"
	case "date":
		return "period"
	}
	return field
}

// A courseRow is a dish of the menu.
type courseRow struct {
	Index                 int
	Title                 string
	Dish, Each, Demo, Who frame.Field
	New, Only             bool   // Only: it can't be taken off
	Choose                string // where its learners say what they choose; empty where there is nothing to
}

type phaseRow struct {
	Index                        int
	Name, Minutes, Place, Minute frame.Field
	New                          bool
}

func settingsOf(v *lessons.View, c lessons.Choices, t trial) settings {
	r, problems := t.request, t.problems
	if problems == nil && !t.changed {
		problems = v.Problems
	}
	s := settings{
		choiceFields: choicesOf(c, r, problems),
		Spare:        frame.Text("spare", "Spare sets", r.Spare, problems),
		Failed:       t.problems != nil || t.changed,
		IsChanged:    t.changed,
		Unplanned:    v.Problems != nil,
		opens:        map[string]bool{},
	}
	for _, p := range problems {
		s.opens[factOf(p.Path)] = true
	}
	shown := []string{"class", "room", "period", "group_size", "date", "spare", "phases", "menu"}
	menu := append(r.Menu[:len(r.Menu):len(r.Menu)], lessons.CourseRequest{})
	for i, row := range menu {
		path := fmt.Sprintf("menu[%d]", i)
		c := courseRowOf(i, path, row, v, c, problems)
		c.New, c.Only = i == len(menu)-1, len(r.Menu) == 1
		s.Menu = append(s.Menu, c)
		shown = append(shown, path+".dish", path+".each", path+".demo", path+".who")
	}
	s.MenuProblem = problems.At("menu")
	rows := append(r.Phases[:len(r.Phases):len(r.Phases)], lessons.PhaseRequest{Place: "start"})
	for i, row := range rows {
		path := fmt.Sprintf("phases[%d]", i)
		last := i == len(rows)-1
		s.Phases = append(s.Phases, phaseRowOf(i, path, row, last, problems))
		shown = append(shown, path+".name", path+".minutes", path+".at_minute", path+".place")
	}
	s.PhasesProblem = problems.At("phases")
	s.PhasesSay = phasesSay(v.Core.Phases)
	s.Problem = rest(problems, shown)
	if t.changed {
		s.Changed = differences(lessons.RequestOf(v.Lesson), r, s)
	}
	return s
}

func phasesSay(phases []fit.Phase) string {
	if len(phases) == 0 {
		return "no phases"
	}
	sum := 0.0
	for _, p := range phases {
		sum += p.Minutes.Float()
	}
	return words.Plural(len(phases), "phase", "phases") + ", " + lesson.Minutes(sum)
}

func courseRowOf(i int, path string, row lessons.CourseRequest, v *lessons.View, c lessons.Choices, problems problem.List) courseRow {
	pieces := "pieces"
	dishes := dishOptions(c)
	out := courseRow{Index: i}
	for _, own := range v.Menu {
		id := fmt.Sprint(own.Dish.ID)
		if id == row.Dish {
			pieces, out.Title = own.Dish.Pieces, own.Dish.Title
			if len(own.Dish.Choices) > 0 {
				out.Choose = fmt.Sprintf("/lessons/%d/who#choices", v.ID)
			}
		}
		if !slices.ContainsFunc(dishes, func(o frame.Option) bool { return o.Value == id }) {
			dishes = append(dishes, frame.Option{Value: id, Label: own.Dish.Title}) // set aside meanwhile
		}
	}
	label := "Dish"
	if len(v.Menu) > 1 {
		label = fmt.Sprintf("Dish %d", i+1)
	}
	out.Dish = frame.Choice(path+".dish", label, row.Dish, problems, dishes)
	out.Each = frame.Text(path+".each", words.Capital(pieces)+" for each", row.Each, problems)
	out.Demo = frame.Text(path+".demo", "Demonstration", row.Demo, problems)
	out.Who = frame.Text(path+".who", "Made by", row.Who, problems)
	for name, f := range map[string]*frame.Field{"dish": &out.Dish, "each": &out.Each, "demo": &out.Demo, "who": &out.Who} {
		f.ID = fmt.Sprintf("menu-%d-%s", i, name)
	}
	return out
}

func phaseRowOf(i int, path string, row lessons.PhaseRequest, last bool, problems problem.List) phaseRow {
	name := fmt.Sprintf("phases[%d]", i)
	label := "Phase " + fmt.Sprint(i+1)
	if last {
		label = "New phase"
	}
	f := func(key, what, value, at string) frame.Field {
		return frame.Field{Name: name + "." + key, ID: fmt.Sprintf("phase-%d-%s", i, key), Label: label + ": " + what, Value: value, Problem: problems.At(path + at)}
	}
	place := f("place", "when", row.Place, ".place")
	for _, o := range []frame.Option{{Value: "start", Label: "from the door"}, {Value: "minute", Label: "at minute"}, {Value: "end", Label: "up to the bell"}, {Value: "end_waits", Label: "up to the bell, baking goes on"}} {
		o.Chosen = o.Value == row.Place
		place.Options = append(place.Options, o)
	}
	return phaseRow{
		Index: i, New: last, Place: place,
		Name: f("name", "name", row.Name, ".name"), Minutes: f("minutes", "minutes", row.Minutes, ".minutes"),
		Minute: f("minute", "starts at minute", row.Minute, ".at_minute"),
	}
}

// differences tells, field by field, what the saved lesson says where the
// form says otherwise, and opens the facts with these fields.
func differences(saved, typed lessons.Request, s settings) []string {
	var out []string
	label := func(f frame.Field, value string) string {
		for _, o := range f.Options {
			if o.Value == value {
				return o.Label
			}
		}
		return value
	}
	for _, d := range []struct {
		field        frame.Field
		saved, typed string
	}{
		{s.Class, saved.Class, typed.Class},
		{s.Room, saved.Room, typed.Room},
		{s.Period, saved.Period, typed.Period},
		{s.Date, saved.Date, typed.Date},
		{s.GroupSize, saved.GroupSize, typed.GroupSize},
		{s.Spare, saved.Spare, typed.Spare},
	} {
		if d.saved != d.typed {
			s.opens[factOf(d.field.Name)] = true
			out = append(out, fmt.Sprintf("%s is now “%s”, you have “%s”", d.field.Label, label(d.field, d.saved), label(d.field, d.typed)))
		}
	}
	if fmt.Sprint(saved.Menu) != fmt.Sprint(typed.Menu) {
		s.opens["menu"] = true
		out = append(out, "The menu differs: "+menuInWords(saved.Menu, s.Menu[0].Dish, label))
	}
	if fmt.Sprint(saved.Phases) != fmt.Sprint(typed.Phases) {
		s.opens["phases"] = true
		out = append(out, "The phases differ: "+phasesInWords(saved.Phases))
	}
	return out
}

func menuInWords(rows []lessons.CourseRequest, dish frame.Field, label func(frame.Field, string) string) string {
	var parts []string
	for _, c := range rows {
		parts = append(parts, fmt.Sprintf("%s, %s each, %s in the demonstration, by %s", label(dish, c.Dish), c.Each, c.Demo, c.Who))
	}
	return "it is now " + strings.Join(parts, "; ")
}

func phasesInWords(rows []lessons.PhaseRequest) string {
	var parts []string
	for _, p := range rows {
		parts = append(parts, fmt.Sprintf("%s %s min", p.Name, p.Minutes))
	}
	return "they are now " + strings.Join(parts, ", ")
}
