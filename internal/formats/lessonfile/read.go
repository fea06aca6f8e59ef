// Package lessonfile reads and writes the planner's open formats: the lesson
// file, the plan, and the running sheet as plain text. docs/formats holds
// their JSON Schemas.
package lessonfile

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/jsonkind"
	"freshapron/internal/formats/tree"
)

// Format and Version name the lesson file.
const (
	Format  = "fresh-apron/lesson"
	Version = 1
)

// A reader reads the parts of a lesson file.
type reader struct{ tree.Reader }

// Read reads a lesson file. The error is a problem.List with the path of each
// thing that is wrong, unless the reader itself fails.
func Read(from io.Reader) (fit.Lesson, error) {
	value, err := tree.Decode(from)
	if err != nil {
		return fit.Lesson{}, err
	}
	r := &reader{}
	root := r.Root(value).Object()
	if root.Fields == nil {
		return fit.Lesson{}, r.Problems
	}
	l := r.lesson(root)
	err = l.Check()
	if len(r.Problems) == 0 {
		return l, err
	}
	// What Check finds where the reader had to fill in a default is only an
	// echo of what the reader has said already.
	found := r.Problems
	var more problem.List
	if errors.As(err, &more) {
		for _, p := range more {
			if !slices.ContainsFunc(found, func(f problem.Problem) bool { return f.Path == "$" || strings.HasPrefix(f.Path, p.Path) }) {
				r.Problems = append(r.Problems, p)
			}
		}
	}
	return fit.Lesson{}, r.Problems
}

func (r *reader) lesson(o *tree.Object) fit.Lesson {
	var l fit.Lesson
	o.Head(Format, Version, "a lesson file")
	l.Title = o.Text("title", false)
	r.period(o.Field("period", true).Object(), &l)
	o.Field("phases", false).Each(func(_ int, n tree.Node) { l.Phases = append(l.Phases, r.phase(n.Object())) })
	r.room(o.Field("room", false).Object(), &l)
	o.Field("groups", true).Each(func(_ int, n tree.Node) { l.Groups = append(l.Groups, r.group(n.Object())) })
	o.Field("dishes", true).Each(func(_ int, n tree.Node) { l.Dishes = append(l.Dishes, r.dish(n.Object())) })
	if o.Has("risk") {
		l.Spreads = r.spreads(o.Field("risk", false).Object())
	}
	l.Now = o.Maybe("now_min", false)
	o.Field("progress", false).Each(func(_ int, n tree.Node) { l.Progress = append(l.Progress, r.progress(n.Object())) })
	o.Done()
	return l
}

func (r *reader) period(o *tree.Object, l *fit.Lesson) {
	l.Date = o.Text("date", false)
	if l.Date != "" {
		if _, err := time.Parse(time.DateOnly, l.Date); err != nil {
			r.Add("period.date", "%q is no date such as 2026-11-26", l.Date)
		}
	}
	at := func(name string) clock.Time {
		text := o.Text(name, true)
		if text == "" {
			return 0
		}
		c, err := clock.Parse(text)
		if err != nil {
			r.Add("period."+name, "%s", err)
		}
		return c
	}
	l.Start, l.End = at("start"), at("end")
	o.Done()
}

func (r *reader) phase(o *tree.Object) fit.Phase {
	p := fit.Phase{Name: o.Text("name", false), Minutes: o.Number("minutes", exact.Number{}, true), Waits: o.Flag("waits")}
	at := o.Choice("at", "", []string{"start", "end"})
	minute := o.Maybe("at_minute", false)
	switch {
	case at != "" && minute != nil:
		r.Add(o.Path, "has both \"at\" and \"at_minute\"; a phase has one of them")
	case minute != nil:
		p.Place, p.Minute = fit.AtMinute, *minute
	case at == "end":
		p.Place = fit.AtEnd
	case at == "" && !o.Has("at") && o.Fields != nil:
		r.Add(o.Path, "says neither \"at\": \"start\" or \"end\" nor \"at_minute\"")
	}
	o.Done()
	return p
}

func (r *reader) room(o *tree.Object, l *fit.Lesson) {
	l.Adults = 1
	if !o.Found {
		return
	}
	l.Adults = o.Count("adults", 1, false)
	o.Field("adults_out", false).Each(func(_ int, n tree.Node) {
		a := n.Object()
		l.Away = append(l.Away, fit.Away{
			Adults: a.Count("adults", 1, false),
			From:   a.Number("from_minute", exact.Number{}, true), Minutes: a.Number("minutes", exact.Number{}, true),
		})
		a.Done()
	})
	o.Field("out", false).Each(func(_ int, n tree.Node) {
		out := n.Object()
		l.Out = append(l.Out, fit.Outage{
			Equipment: out.Text("equipment", true), Unit: out.Text("unit", true),
			From: out.Number("from_min", exact.Number{}, true), To: out.Maybe("to_min", false), Usable: out.Flag("usable"),
		})
		out.Done()
	})
	o.Field("equipment", false).Each(func(_ int, n tree.Node) { l.Equipment = append(l.Equipment, r.equipment(n.Object())) })
	o.Done()
}

// spreads reads how uneven real lessons are.
func (r *reader) spreads(o *tree.Object) *fit.Spreads {
	s := &fit.Spreads{}
	spread := func(name string) *float64 {
		n := o.Maybe(name, false)
		if n == nil {
			return nil
		}
		f := n.Float()
		if f < 0 || f > 5 {
			r.Add(o.Path+"."+name, "is %s; a spread is 0 to 5", n.Decimal(4))
		}
		return &f
	}
	s.Class, s.Group = spread("class"), spread("group")
	if n := o.Maybe("patience_min", false); n != nil && n.Sign() != 0 {
		r.Add(o.Path+".patience_min", "is %s; in this planner's lessons nobody overtakes, so it is 0", n.Decimal(4))
	}
	o.Done()
	return s
}

// progress reads one entry of a lesson under way.
func (r *reader) progress(o *tree.Object) fit.Progress {
	p := fit.Progress{
		Group: o.Text("group", true), Dish: o.Text("dish", true), Step: o.Text("step", true),
		Skipped: o.Flag("skipped"), Start: o.Number("start_min", exact.Number{}, false),
		WorkEnd: o.Maybe("work_end_min", false), End: o.Maybe("end_min", false), Hands: o.Counts("hands"),
	}
	if o.Has("cooks") {
		n := o.Count("cooks", 0, false)
		p.Cooks = &n
	}
	if o.Has("units") {
		p.Units = []fit.UnitPlan{}
	}
	o.Field("units", false).Each(func(_ int, n tree.Node) {
		u := n.Object()
		p.Units = append(p.Units, fit.UnitPlan{Equipment: u.Text("equipment", true), Unit: u.Text("unit", true)})
		u.Done()
	})
	switch {
	case p.Skipped && (o.Has("start_min") || o.Has("work_end_min") || o.Has("end_min")):
		r.Add(o.Path+".skipped", "a step that is skipped has no times: leave them out, or \"skipped\"")
	case !p.Skipped && !o.Has("start_min") && o.Fields != nil:
		r.Add(o.Path+".start_min", "is missing")
	}
	o.Field("cooks", false)
	o.Done()
	return p
}

func (r *reader) equipment(o *tree.Object) fit.Equipment {
	zero := exact.Number{}
	e := fit.Equipment{
		ID:          o.Text("id", true),
		PerStation:  o.Choice("per", "room", []string{"room", "station"}) == "station",
		Temperature: o.Flag("temperature"),
		OnAt:        o.Number("on_at_minute", zero, false),
		Preheat:     o.Number("preheat_minutes", zero, false),
		Reheat:      o.Number("reheat_minutes", zero, false),
	}
	count := o.Count("count", 0, false)
	o.Field("units", false).Each(func(_ int, n tree.Node) {
		u := n.Object()
		e.Units = append(e.Units, fit.Unit{Name: u.Text("name", true), Places: u.Count("places", 1, false)})
		u.Done()
	})
	switch {
	case o.Has("units") && o.Has("count"):
		r.Add(o.Path, "has both \"units\" and \"count\"; give one of them")
	case o.Has("count") && count < 1:
		r.Add(o.Path+".count", "is %d; it must be at least 1", count)
	case count > 1000:
		r.Add(o.Path+".count", "is %d; the most is 1000", count)
	default:
		for i := range count {
			e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("%s %d", e.ID, i+1), Places: 1})
		}
	}
	o.Done()
	return e
}

func (r *reader) group(o *tree.Object) fit.Group {
	g := fit.Group{
		ID: o.Text("id", true), Name: o.Text("name", false),
		Cooks: o.Count("cooks", 1, false),
		Pace:  o.Number("pace", exact.Int(1), false),
	}
	if o.Has("dishes") {
		g.Dishes = []string{}
	}
	o.Field("dishes", false).Each(func(_ int, n tree.Node) {
		s, ok := n.Value.(string)
		if !ok {
			r.Add(n.Path, "is %s; it must be the id of a dish", jsonkind.Of(n.Value))
		}
		g.Dishes = append(g.Dishes, s)
	})
	if g.Dishes != nil && len(g.Dishes) == 0 {
		r.Add(o.Path+".dishes", "is empty; name a dish, or leave it out for every dish")
	}
	o.Field("pins", false).Each(func(_ int, n tree.Node) { g.Pins = append(g.Pins, r.pin(n.Object())) })
	o.Done()
	return g
}

func (r *reader) pin(o *tree.Object) fit.Pin {
	p := fit.Pin{
		Dish: o.Text("dish", true), Step: o.Text("step", true),
		NotBefore: o.Maybe("not_before", false), BeginBy: o.Maybe("begin_by", false),
	}
	o.Field("units", false).Each(func(_ int, n tree.Node) {
		name, ok := n.Value.(string)
		if !ok {
			r.Add(n.Path, "is %s; it must be the name of a unit", jsonkind.Of(n.Value))
		}
		p.Units = append(p.Units, name)
	})
	if p.NotBefore == nil && p.BeginBy == nil && p.Units == nil && o.Fields != nil {
		r.Add(o.Path, "pins nothing: give \"not_before\", \"begin_by\" or \"units\"")
	}
	o.Done()
	return p
}

func (r *reader) dish(o *tree.Object) fit.Dish {
	d := fit.Dish{ID: o.Text("id", true), Title: o.Text("title", false)}
	o.Field("ingredients", false).Each(func(_ int, n tree.Node) { d.Ingredients = append(d.Ingredients, r.ingredient(n.Object())) })
	o.Field("steps", true).Each(func(_ int, n tree.Node) { d.Steps = append(d.Steps, r.step(n.Object())) })
	o.Done()
	return d
}

func (r *reader) ingredient(o *tree.Object) fit.Ingredient {
	i := fit.Ingredient{
		Name: o.Text("name", true), Amount: o.Maybe("amount", false), Unit: o.Text("unit", false),
		Note:   o.Text("note", false),
		Scales: o.Choice("scales", "", []string{"linear", "whole", "taste", "fixed", "surface"}),
		PartOf: o.Text("part_of", false), Brought: o.Flag("brought"),
	}
	if i.Amount != nil && i.Amount.Sign() < 0 {
		r.Add(o.Path+".amount", "is %s; an amount can't be less than 0", i.Amount.Decimal(4))
	}
	o.Done()
	return i
}

func (r *reader) step(o *tree.Object) fit.Step {
	zero := exact.Number{}
	kinds := make([]string, len(fit.Kinds))
	for i, k := range fit.Kinds {
		kinds[i] = string(k)
	}
	s := fit.Step{
		ID: o.Text("id", true), Title: o.Text("title", false),
		Kind:      fit.Kind(o.Choice("kind", string(fit.Prepare), kinds)),
		Work:      o.Number("work_minutes", zero, false),
		Wait:      o.Number("wait_minutes", zero, false),
		Shareable: o.Flag("shareable"),
		Adult:     fit.Adult(o.Choice("adult", string(fit.NoAdult), []string{"none", "does", "watches"})),
		KeepShut:  o.Flag("keep_shut"),
		Pieces:    o.Count("pieces", 0, false),
		PerLoad:   o.Count("pieces_per_load", 0, false),
		Load:      o.Number("load_minutes", zero, false),
	}
	cooks := 1
	if s.Adult == fit.Does {
		cooks = 0
	}
	s.Cooks = o.Count("cooks", cooks, false)
	if spread := o.Maybe("spread", false); spread != nil {
		f := spread.Float()
		s.Spread = &f
	}
	if loads := []string{"pieces", "pieces_per_load", "load_minutes"}; o.Has(loads[0]) || o.Has(loads[1]) || o.Has(loads[2]) {
		for _, name := range loads {
			if !o.Has(name) {
				r.Add(o.Path+"."+name, "is missing: cooking in loads needs pieces, pieces_per_load and load_minutes")
			}
		}
	}
	o.Field("after", false).Each(func(_ int, n tree.Node) {
		a := n.Object()
		s.After = append(s.After, fit.After{
			Dish: a.Text("dish", false), Step: a.Text("step", true),
			MinGap: a.Number("min_gap", zero, false), MaxGap: a.Maybe("max_gap", false),
		})
		a.Done()
	})
	o.Field("uses", false).Each(func(_ int, n tree.Node) {
		u := n.Object()
		s.Uses = append(s.Uses, fit.Use{
			Equipment: u.Text("equipment", true), Places: u.Count("places", 1, false),
			Temperature: u.Maybe("temperature_c", false),
			During:      fit.Part(u.Choice("during", string(fit.WholeStep), []string{"work", "wait", "all"})),
		})
		u.Done()
	})
	if o.Has("hold") {
		h := o.Field("hold", false).Object()
		s.Hold = &fit.Hold{Where: h.Text("where", true), MaxMinutes: h.Number("max_minutes", zero, true)}
		h.Done()
	}
	o.Done()
	return s
}
