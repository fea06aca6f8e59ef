package plan

import (
	"fmt"
	"html/template"
	"math"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
	"freshapron/internal/web/timeline"
)

// A page is the view model of a lesson.
type page struct {
	head.Head
	Verdicts []verdict

	Settings settings
	MayPlan  bool // whoever reads it may change it

	Planned  bool // what follows is there
	Tables   []table
	ClassFor string

	Now       string // minute of the lesson, of one today; empty otherwise
	Timing    timingHTML
	Panel     panel
	Rescue    bool // the lesson needs a rescue
	Effect    *effect
	Decisions []decision
	Half      *half
	Undo      []pair
	Sides     []frame.Side
}

// An effect is what the last change did, in words.
type effect struct {
	Did, Says string
	Light     string
}

// A decision is something that was decided in the plan, with the way to take
// it back.
type decision struct {
	Says, Broken string
	Hidden       []pair
}

// A half says that a lesson is one of two.
type half struct {
	Says, Other, Href string
	Light, Word       string
}

// A timing is the view model of the picture and the running sheet.
type timing struct {
	Guesses  bool // some minutes are only typical
	TimeSays string
	Looks    []link
	Benches  []link // one close up
	Picture  *timeline.Picture
	Calls    []call
	Chain    string
	Lines    []line
}

type link struct {
	Name, Label, Href string
	Current           bool
}

// A call is a checkpoint, by its number in the picture.
type call struct {
	Number               int
	Clock, ToBell, Slack string
	Says                 string
}

// typicalOf tells which minutes of a lesson's steps are guesses.
func typicalOf(v *lessons.View) func(dish, step string) (work, wait bool) {
	return func(dish, step string) (work, wait bool) { return v.Core.Typical(v.Fit, dish, step) }
}

func timingOf(v *lessons.View, s state) timing {
	look := s.look(v.ID)
	look.Typical = typicalOf(v)
	guessed, _ := v.Core.Guessed()
	t := timing{
		Guesses:  guessed >= 1,
		TimeSays: v.Verdicts[0].Head + ". " + v.Verdicts[0].Says,
		Picture:  timeline.Draw(v.Fit, v.Plan, look), Lines: linesOf(v), Chain: chainOf(v),
	}
	add := func(label, by string) {
		t.Looks = append(t.Looks, link{label, label, state{By: by}.address(v.ID, "") + "#timing", s.By == by})
	}
	add("All benches", timeline.ByBench)
	if len(v.Fit.Groups) > 1 {
		add("Each bench", timeline.ByEach)
	}
	add("Ovens and other things", timeline.ByThing)
	for _, g := range v.Fit.Groups {
		t.Benches = append(t.Benches, link{g.Label(), strings.TrimPrefix(g.Label(), "Bench "), state{By: g.ID}.address(v.ID, "") + "#timing", s.By == g.ID})
	}
	t.Calls = callsFrom(v.Fit, v.Plan)
	return t
}

func callsFrom(l fit.Lesson, p *fit.Plan) []call {
	var out []call
	for i, c := range fit.Checkpoints(l, p) {
		out = append(out, call{
			Number: i + 1, Clock: l.At(c.At), ToBell: fmt.Sprint(l.ToBell(c.At)), Slack: lesson.Minutes(c.Slack), Says: c.Says(),
		})
	}
	return out
}

// chainOf names what decides the end: the steps of the longest chain.
func chainOf(v *lessons.View) string {
	var parts []string
	for i, l := range v.Plan.Chain {
		text := v.Fit.StepTitle(l.Dish, l.Step)
		if i == 0 || v.Plan.Chain[i-1].Group != l.Group {
			text = v.Fit.GroupLabel(l.Group) + ": " + text
		}
		if i > 0 && l.After != "rule" && l.After != "cooks" {
			text = "then, waiting for " + lesson.Thing(l.After) + ", " + text
		}
		parts = append(parts, text)
	}
	return strings.Join(parts, " → ")
}

func effectOf(v *lessons.View, done *lessons.Effect) *effect {
	if done == nil {
		return nil
	}
	e := &effect{Did: done.Did, Light: string(lesson.Good)}
	was := done.Before
	if was == nil || v.Plan == nil || len(was.Groups) == 0 || len(v.Plan.Groups) == 0 {
		return e
	}
	by := v.Plan.Finish - was.Finish
	switch {
	case math.Abs(by) < 0.25:
		e.Says = fmt.Sprintf("Done by %s as before", v.Fit.At(v.Plan.Finish))
	case by > 0:
		e.Says = fmt.Sprintf("Done by %s, %s later than before", v.Fit.At(v.Plan.Finish), lesson.Minutes(by))
		e.Light = string(lesson.Look)
	default:
		e.Says = fmt.Sprintf("Done by %s, %s sooner than before", v.Fit.At(v.Plan.Finish), lesson.Minutes(-by))
	}
	e.Says += fmt.Sprintf("; %s, before %s.", v.Plan.Risk.Benches.Says("bench", "benches"), was.Risk.Benches.Figure())
	return e
}

func decisionsOf(v *lessons.View, s state) []decision {
	var out []decision
	for i, d := range v.Core.Decisions() {
		out = append(out, decision{d.Says, d.Broken, append(s.hidden(v.Version), pair{"place", fmt.Sprint(i)})})
	}
	for _, late := range v.Plan.LatePins {
		out = append(out, decision{
			Says:   fmt.Sprintf("%s: “%s”", v.Fit.GroupLabel(late.Group), v.Fit.StepTitle(late.Dish, late.Step)),
			Broken: fmt.Sprintf("no plan was found that begins it in time: %s too late", lesson.Minutes(late.Minutes)),
		})
	}
	return out
}

func halfOf(h *lessons.Halves) *half {
	if h == nil {
		return nil
	}
	out := &half{Says: h.Says, Light: string(lesson.Stop)}
	switch {
	case h.Keeps && h.Apart == nil:
		out.Light = string(lesson.Good)
	case h.Keeps:
		out.Light = string(lesson.Look)
	}
	if h.Apart != nil {
		out.Says += " The two don’t go together any more: " + strings.Join(h.Apart, "; ") + "."
	}
	out.Word = wordFor[lesson.Light(out.Light)]
	if h.Other.ID != 0 {
		which := "The second lesson"
		if h.Half == 2 {
			which = "The first lesson"
		}
		out.Other = fmt.Sprintf("%s: %s, %s", which, h.Other.Date.Format("Monday 2 January"), h.Other.Period.Name)
		out.Href = fmt.Sprintf("/lessons/%d", h.Other.ID)
	}
	return out
}

type verdict struct {
	Icon        string
	Light, Word string
	Head, Says  string
	Href        string
}

// wordFor a light, so that the colour does not speak alone.
var wordFor = map[lesson.Light]string{lesson.Good: "good", lesson.Look: "look here", lesson.Stop: "stop"}

var placeOf = map[string]string{"time": "#timing", "chance": "#timing", "queue": "#timing", "amounts": "#amounts", "benches": "#settings"}

var iconOf = map[string]string{"time": "bell", "chance": "spread", "queue": "oven", "amounts": "scale", "benches": "bench"}

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

func pageOf(v *lessons.View, c lessons.Choices, t trial, mayPlan bool) page {
	p := page{
		Head:    head.Of(v),
		MayPlan: mayPlan,
	}
	p.Settings = settingsOf(v, c, t)
	if p.Planned = v.Problems == nil; !p.Planned {
		return p
	}
	for _, judged := range v.Verdicts {
		p.Verdicts = append(p.Verdicts, verdict{
			Icon: iconOf[judged.About], Light: string(judged.Light), Word: wordFor[judged.Light], Head: judged.Head, Says: judged.Says, Href: placeOf[judged.About],
		})
	}
	p.Tables, p.ClassFor = tablesOf(v)
	p.Panel = panelOf(v, t.state, t.decision, mayPlan)
	if p.Rescue = len(v.Plan.Groups) > 0 && rescue.Needed(v.Plan); p.Rescue {
		for i := range p.Verdicts { // what would help stands behind what is wrong
			if about := v.Verdicts[i].About; about == "time" || about == "chance" {
				p.Verdicts[i].Href = "#rescues"
			}
		}
	}
	p.Decisions = decisionsOf(v, t.state)
	if !mayPlan {
		for i := range p.Decisions {
			p.Decisions[i].Hidden = nil
		}
	}
	p.Undo = t.state.hidden(v.Version)
	return p
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

// A table is the amounts for benches that make the same number of pieces.
type table struct {
	Head  string
	Count string
	Class bool // the first table has the class beside it
	Parts []part
}

type part struct {
	Name string
	Rows []row
}

type row struct {
	Name, Note     string
	Exact          string
	Weight, Volume measured
	Says           string
	Warning        string
	Benches, Total string
}

// A measured amount with how far off it can be. Best marks the nearest of
// the ways to measure.
type measured struct {
	Says, Off string
	About     string // "about " where even this is not near enough
	Best      bool
}

func tablesOf(v *lessons.View) ([]table, string) {
	var out []table
	first := map[int]bool{}
	for _, size := range v.Sizes {
		r := v.Core.Menu[size.Course].Recipe
		t := table{Head: "One bench: " + r.Count(size.Pieces), Class: !first[size.Course]}
		if len(v.Menu) > 1 {
			t.Head = r.Title + ", one bench: " + r.Count(size.Pieces)
		}
		first[size.Course] = true
		switch {
		case len(size.Swaps) > 0:
			t.Head, t.Count = benchNames(size.Benches)+", with swaps: "+r.Count(size.Pieces), swapsOf(size.Swaps)
		case len(v.Sizes) > 1 || len(v.Menu) > 1:
			t.Count = fmt.Sprintf("%d of the %d benches", len(size.Benches), len(v.Benches))
		}
		if size.Open > 0 {
			t.Count += fmt.Sprintf(", %d at each still to choose", size.Open)
		}
		for _, name := range size.Recipe.Parts() {
			p := part{Name: name}
			for k, a := range size.Amounts {
				if a.Line.Part == name {
					p.Rows = append(p.Rows, rowOf(a, needOf(v, size, a, size.Lines[k])))
				}
			}
			t.Parts = append(t.Parts, p)
		}
		out = append(out, t)
	}
	return out, v.Core.Sets()
}

// needOf returns what the class needs of a line of a bench's recipe.
func needOf(v *lessons.View, size lesson.Size, a scale.Scaled, line int) scale.Need {
	if own := v.Needs[size.Course]; line < len(own) {
		return own[line]
	}
	for _, c := range v.Chosen {
		if c.Course == size.Course && c.Line.Name == a.Line.Name && (c.Line.Part == a.Line.Part || c.Choice == a.Line.Part) {
			return c.Need
		}
	}
	return scale.Need{}
}

// benchNames lists benches: "Bench 3", "Bench 3, Bench 7".
func benchNames(benches []lesson.Bench) string {
	var names []string
	for _, b := range benches {
		names = append(names, b.Name)
	}
	return strings.Join(names, ", ")
}

func swapsOf(list []lesson.Swap) string {
	var out []string
	for _, s := range list {
		out = append(out, s.Use+" for "+s.For)
	}
	return strings.Join(out, ", ")
}

func rowOf(a scale.Scaled, n scale.Need) row {
	best := a.First()
	r := row{
		Name: a.Called(a.Exact), Note: a.Line.Note, Exact: a.Exact.String(), Says: a.Says,
		Weight: measuredOf(a.ByWeight, best), Volume: measuredOf(a.ByVolume, best),
		Benches: n.Benches.String(), Total: n.Total.String(),
	}
	if a.ByCount != nil && (a.Exact.Unit.Dimension == measure.Count || best == a.ByCount) {
		r.Weight = measuredOf(a.ByCount, best)
	}
	if !a.Measurable() {
		r.Warning = warning(a)
		r.Weight.About, r.Volume.About = "about ", "about "
	}
	return r
}

func measuredOf(i, best *measure.Instruction) measured {
	if i == nil {
		return measured{}
	}
	m := measured{Says: i.Says, Best: i == best}
	if percent := i.Error() * 100; percent >= 0.5 {
		m.Off = fmt.Sprintf("± %d %%", int(math.Round(percent)))
	}
	return m
}

// warning says how far off an amount is that can't be measured well, and the
// way out.
func warning(a scale.Scaled) string {
	limit := fmt.Sprintf("%.0f %%", a.Tolerance*100)
	if best := a.Best(); best != nil {
		return fmt.Sprintf("At best ± %.0f %%, and %s is the limit: weigh it once for the whole class and share it out.", best.Error()*100, limit)
	}
	return "Nothing in this room measures so little: weigh it once for the whole class and share it out."
}

// A line of the running sheet, ready to show.
type line struct {
	Clock, Until, ToBell string
	What, Who, Where     string
	Latest               string
	LookFor              string
	Phase                bool
}

func linesOf(v *lessons.View) []line {
	return linesFrom(v.Fit, v.Plan, func(dish, step string) string { return v.Core.StepOf(v.Fit, dish, step).LookFor })
}

// linesFrom writes the running sheet, with what to look for at a step.
func linesFrom(f fit.Lesson, p *fit.Plan, lookFor func(dish, step string) string) []line {
	var out []line
	for _, l := range fit.Running(f, p) {
		m := line{
			Clock: f.At(l.From), Until: f.At(l.To), ToBell: fmt.Sprint(f.ToBell(l.From)),
			What: l.What, Who: l.Who, Where: l.Where, Phase: l.Phase,
		}
		if !l.Phase {
			m.Latest, m.LookFor = f.At(l.Latest), lookFor(l.Dish, l.Step)
		}
		out = append(out, m)
	}
	return out
}
