package recipes

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
)

// A StepForm is one step of the form. Its times and things stand in it twice:
// in short, as Timing, and in a field for each. Was is the short form as it was
// shown; where Timing differs from it, somebody has typed there, and the fields
// follow; else the fields have the word.
type StepForm struct {
	ID, Title, Timing, Text string
	LookFor                 string `form:"look"`
	Mistake, Hazard, Takes  string

	Was                  string
	Kind, Work, Wait     string
	On, Heat, Who        string
	After                string // ids of the steps that come before, parted by spaces
	Pieces, PerLoad, Per string // so many, so many at a time, minutes for each load
	Sure                 string // what was typical is right
}

// Unsettled is the choice of equipment that leaves what a step uses as it is
// written in short.
const Unsettled = "as-written"

// stepForm returns a step in the words of the form.
func stepForm(s recipe.Step) StepForm {
	f := StepForm{
		ID: s.ID, Title: s.Title, Timing: s.Timing(), Text: s.Text, LookFor: s.LookFor, Mistake: s.Mistake, Hazard: s.Hazard,
		Takes: strings.Join(s.Takes, ", "),
	}
	f.fill(s)
	return f
}

// fill sets the fields to what the short form says.
func (f *StepForm) fill(s recipe.Step) {
	count := func(n int) string {
		if n == 0 {
			return ""
		}
		return fmt.Sprint(n)
	}
	minutes := func(n exact.Number) string {
		if n.Sign() == 0 {
			return ""
		}
		return measure.Mixed(n)
	}
	f.Was, f.Kind, f.Sure = f.Timing, string(s.Kind), ""
	f.Work, f.Wait, f.Per = minutes(s.Work), minutes(s.Wait), minutes(s.Load)
	f.Pieces, f.PerLoad = count(s.Pieces), count(s.PerLoad)
	f.Who, f.On, f.Heat = string(s.Adult), "", ""
	switch {
	case len(s.Uses) == 1 && s.Uses[0].Places == 1:
		f.On = s.Uses[0].Equipment
		if t := s.Uses[0].Temperature; t != nil {
			f.Heat = t.Decimal(0)
		}
	case len(s.Uses) > 0:
		f.On = Unsettled
	}
	var after []string
	for _, a := range s.After {
		if a.Dish == "" {
			after = append(after, a.Step)
		}
	}
	f.After = strings.Join(after, " ")
}

// Doubts reports whether the minutes of work, or of waiting, are only typical.
func (f StepForm) Doubts() (work, wait bool) {
	var s recipe.Step
	recipe.ParseTiming(f.Was, &s)
	return s.WorkFrom == recipe.Typical, s.WaitFrom == recipe.Typical
}

// Doubtful reports whether somebody should look at the minutes: typical ones
// that are more than a moment beside a wait that is said.
func (f StepForm) Doubtful() bool {
	var s recipe.Step
	recipe.ParseTiming(f.Was, &s)
	beside := s.Wait.Sign() > 0 && s.WaitFrom != recipe.Typical && s.Work.Cmp(exact.Int(2)) <= 0
	return s.WaitFrom == recipe.Typical || s.WorkFrom == recipe.Typical && !beside
}

// ordinary are the fields for the times and things of a step. What can't be
// read in them has no place in a recipe.
var ordinary = pattern.Must(`^steps\[\d+\]\.(?:work|wait|per|pieces|perload|heat)$`)

// AtItsField reports whether a problem is said at a field of a step.
func AtItsField(path string) bool {
	return ordinary.MatchString(path) || strings.HasPrefix(path, "steps[") && (strings.HasSuffix(path, ".timing") || strings.HasSuffix(path, ".text"))
}

// settle makes the short form and the fields say the same again. A field that
// can't be read is named, and stays as it was typed.
func (f *StepForm) settle(in *typed.Form, at string) {
	var s recipe.Step
	if f.Timing != f.Was || f.Kind == "" {
		if recipe.ParseTiming(f.Timing, &s); strings.TrimSpace(f.Timing) != "" {
			f.fill(s)
		}
		return
	}
	recipe.ParseTiming(f.Was, &s)
	shown := StepForm{Timing: f.Was}
	shown.fill(s)
	before := len(in.Problems)
	f.times(&s, shown, in, at)
	f.things(&s, shown, in, at)
	if f.After != shown.After {
		s.After = slices.DeleteFunc(s.After, func(a fit.After) bool { return a.Dish == "" && !slices.Contains(strings.Fields(f.After), a.Step) })
		for _, id := range strings.Fields(f.After) {
			if !slices.ContainsFunc(s.After, func(a fit.After) bool { return a.Dish == "" && a.Step == id }) {
				s.After = append(s.After, fit.After{Step: id})
			}
		}
	}
	if len(in.Problems) == before {
		f.Timing = s.Timing()
		f.fill(s)
	}
}

// times takes the minutes and loads that were changed.
func (f *StepForm) times(s *recipe.Step, shown StepForm, in *typed.Form, at string) {
	minutes := func(name, what, text, was string, into *exact.Number, from *recipe.Origin) {
		switch {
		case text == was:
			if f.Sure != "" && from != nil {
				*from = ""
			}
		case strings.TrimSpace(text) == "":
			*into = exact.Number{}
		default:
			n, ok := mixed(text)
			if !ok {
				in.Minutes(at+"."+name, what, text) // says what is wrong
				return
			}
			*into = n
		}
		if text != was && from != nil {
			*from = ""
		}
	}
	minutes("work", "Minutes of work", f.Work, shown.Work, &s.Work, &s.WorkFrom)
	minutes("wait", "Minutes of waiting", f.Wait, shown.Wait, &s.Wait, &s.WaitFrom)
	minutes("per", "Minutes for a load", f.Per, shown.Per, &s.Load, nil)
	if f.Pieces == shown.Pieces && f.PerLoad == shown.PerLoad {
		return
	}
	s.Pieces, s.PerLoad = 0, 0
	if strings.TrimSpace(f.Pieces+f.PerLoad) != "" {
		s.Pieces = in.Count(at+".pieces", "Pieces", f.Pieces, fit.MaxCount)
		s.PerLoad = in.Count(at+".perload", "At a time", f.PerLoad, fit.MaxCount)
	}
}

// mixed reads a number as it is shown: 12, 1½, 2 1/2, 0.5.
func mixed(text string) (exact.Number, bool) {
	r := measure.Read(strings.TrimSpace(text)+" x", measure.Metric)
	return r.Low, r.Given && r.Low.Cmp(r.High) == 0 && r.Name == "x" && r.Low.Cmp(exact.Int(fit.MaxMinutes)) <= 0
}

// things takes the kind, the equipment, its heat and who does it, where they
// were changed.
func (f *StepForm) things(s *recipe.Step, shown StepForm, in *typed.Form, at string) {
	if f.Kind != shown.Kind && slices.Contains(fit.Kinds, fit.Kind(f.Kind)) {
		s.Kind = fit.Kind(f.Kind)
	}
	if f.Who != shown.Who {
		s.Adult, s.Cooks = fit.Adult(f.Who), max(1, s.Cooks)
		if s.Adult == fit.Does {
			s.Cooks = 0
		}
	}
	heated := f.Heat != shown.Heat
	switch {
	case f.On == shown.On && !heated:
		return
	case heated && strings.TrimSpace(f.Heat) != "" && (f.On == Unsettled || f.On == ""):
		in.Add(at+".heat", "“%s” °C of what? Choose what it is on or in.", words.Short(f.Heat))
		return
	case f.On == Unsettled:
		return
	}
	s.Uses = nil
	if f.On == "" {
		return
	}
	u := fit.Use{Equipment: f.On, Places: 1, During: fit.WholeStep}
	if slices.Contains(Waiting, f.On) && s.Wait.Sign() > 0 {
		u.During = fit.WaitPart
	}
	if strings.TrimSpace(f.Heat) != "" {
		n := in.Between(at+".heat", "Heat", strings.TrimSuffix(strings.TrimSpace(f.Heat), "°C"), 1, 400)
		c := exact.Int(int64(n))
		u.Temperature = &c
	} else if f.On == "oven" {
		in.Add(at+".heat", "How hot is the oven? Write °C, conventional.")
	}
	s.Uses = []fit.Use{u}
}

// Waiting are the things in which food stays while nobody has a hand on it.
var Waiting = []string{"oven", "fridge", "freezer"}

// Things are those that a step can be done on or in.
var Things = []string{"ring", "oven", "grill", "microwave", "fridge", "freezer", "blender", "processor", "mixer", "steamer"}
