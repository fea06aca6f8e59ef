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
)

// Format and Version name the lesson file.
const (
	Format  = "fresh-apron/lesson"
	Version = 1
)

// Read reads a lesson file. The error is a problem.List with the path of each
// thing that is wrong, unless the reader itself fails.
func Read(from io.Reader) (fit.Lesson, error) {
	value, err := decode(from)
	if err != nil {
		return fit.Lesson{}, err
	}
	r := &reader{}
	root := node{r, "$", value, true}.object()
	if root.fields == nil {
		return fit.Lesson{}, r.problems
	}
	l := r.lesson(root)
	err = l.Check()
	if len(r.problems) == 0 {
		return l, err
	}
	// What Check finds where the reader had to fill in a default is only an
	// echo of what the reader has said already.
	found := r.problems
	var more problem.List
	if errors.As(err, &more) {
		for _, p := range more {
			if !slices.ContainsFunc(found, func(f problem.Problem) bool { return f.Path == "$" || strings.HasPrefix(f.Path, p.Path) }) {
				r.problems = append(r.problems, p)
			}
		}
	}
	return fit.Lesson{}, r.problems
}

func (r *reader) lesson(o *object) fit.Lesson {
	var l fit.Lesson
	if f := o.text("format", true); o.has("format") && f != Format {
		r.add("format", "is %q; a lesson file says %q", f, Format)
	}
	if v := o.count("version", Version, true); v != Version {
		r.add("version", "is %d; this program reads version %d", v, Version)
	}
	l.Title = o.text("title", false)
	r.period(o.field("period", true).object(), &l)
	o.field("phases", false).each(func(_ int, n node) { l.Phases = append(l.Phases, r.phase(n.object())) })
	r.room(o.field("room", false).object(), &l)
	o.field("groups", true).each(func(_ int, n node) { l.Groups = append(l.Groups, r.group(n.object())) })
	o.field("dishes", true).each(func(_ int, n node) { l.Dishes = append(l.Dishes, r.dish(n.object())) })
	if o.has("risk") {
		l.Spreads = r.spreads(o.field("risk", false).object())
	}
	l.Now = o.maybe("now_min", false)
	o.field("progress", false).each(func(_ int, n node) { l.Progress = append(l.Progress, r.progress(n.object())) })
	o.done()
	return l
}

func (r *reader) period(o *object, l *fit.Lesson) {
	l.Date = o.text("date", false)
	if l.Date != "" {
		if _, err := time.Parse(time.DateOnly, l.Date); err != nil {
			r.add("period.date", "%q is no date such as 2026-11-26", l.Date)
		}
	}
	at := func(name string) clock.Time {
		text := o.text(name, true)
		if text == "" {
			return 0
		}
		c, err := clock.Parse(text)
		if err != nil {
			r.add("period."+name, "%s", err)
		}
		return c
	}
	l.Start, l.End = at("start"), at("end")
	o.done()
}

func (r *reader) phase(o *object) fit.Phase {
	p := fit.Phase{Name: o.text("name", false), Minutes: o.number("minutes", exact.Number{}, true), Waits: o.flag("waits")}
	at := o.choice("at", "", []string{"start", "end"})
	minute := o.maybe("at_minute", false)
	switch {
	case at != "" && minute != nil:
		r.add(o.path, "has both \"at\" and \"at_minute\"; a phase has one of them")
	case minute != nil:
		p.Place, p.Minute = fit.AtMinute, *minute
	case at == "end":
		p.Place = fit.AtEnd
	case at == "" && !o.has("at") && o.fields != nil:
		r.add(o.path, "says neither \"at\": \"start\" or \"end\" nor \"at_minute\"")
	}
	o.done()
	return p
}

func (r *reader) room(o *object, l *fit.Lesson) {
	l.Adults = 1
	if !o.found {
		return
	}
	l.Adults = o.count("adults", 1, false)
	o.field("adults_out", false).each(func(_ int, n node) {
		a := n.object()
		l.Away = append(l.Away, fit.Away{
			Adults: a.count("adults", 1, false),
			From:   a.number("from_minute", exact.Number{}, true), Minutes: a.number("minutes", exact.Number{}, true),
		})
		a.done()
	})
	o.field("out", false).each(func(_ int, n node) {
		out := n.object()
		l.Out = append(l.Out, fit.Outage{
			Equipment: out.text("equipment", true), Unit: out.text("unit", true),
			From: out.number("from_min", exact.Number{}, true), To: out.maybe("to_min", false), Usable: out.flag("usable"),
		})
		out.done()
	})
	o.field("equipment", false).each(func(_ int, n node) { l.Equipment = append(l.Equipment, r.equipment(n.object())) })
	o.done()
}

// spreads reads how uneven real lessons are.
func (r *reader) spreads(o *object) *fit.Spreads {
	s := &fit.Spreads{}
	spread := func(name string) *float64 {
		n := o.maybe(name, false)
		if n == nil {
			return nil
		}
		f := n.Float()
		if f < 0 || f > 5 {
			r.add(o.path+"."+name, "is %s; a spread is 0 to 5", n.Decimal(4))
		}
		return &f
	}
	s.Class, s.Group = spread("class"), spread("group")
	if n := o.maybe("patience_min", false); n != nil && n.Sign() != 0 {
		r.add(o.path+".patience_min", "is %s; in this planner's lessons nobody overtakes, so it is 0", n.Decimal(4))
	}
	o.done()
	return s
}

// progress reads one entry of a lesson under way.
func (r *reader) progress(o *object) fit.Progress {
	p := fit.Progress{
		Group: o.text("group", true), Dish: o.text("dish", true), Step: o.text("step", true),
		Skipped: o.flag("skipped"), Start: o.number("start_min", exact.Number{}, false),
		WorkEnd: o.maybe("work_end_min", false), End: o.maybe("end_min", false), Hands: o.counts("hands"),
	}
	if o.has("cooks") {
		n := o.count("cooks", 0, false)
		p.Cooks = &n
	}
	if o.has("units") {
		p.Units = []fit.UnitPlan{}
	}
	o.field("units", false).each(func(_ int, n node) {
		u := n.object()
		p.Units = append(p.Units, fit.UnitPlan{Equipment: u.text("equipment", true), Unit: u.text("unit", true)})
		u.done()
	})
	switch {
	case p.Skipped && (o.has("start_min") || o.has("work_end_min") || o.has("end_min")):
		r.add(o.path+".skipped", "a step that is skipped has no times: leave them out, or \"skipped\"")
	case !p.Skipped && !o.has("start_min") && o.fields != nil:
		r.add(o.path+".start_min", "is missing")
	}
	o.field("cooks", false)
	o.done()
	return p
}

func (r *reader) equipment(o *object) fit.Equipment {
	zero := exact.Number{}
	e := fit.Equipment{
		ID:          o.text("id", true),
		PerStation:  o.choice("per", "room", []string{"room", "station"}) == "station",
		Temperature: o.flag("temperature"),
		OnAt:        o.number("on_at_minute", zero, false),
		Preheat:     o.number("preheat_minutes", zero, false),
		Reheat:      o.number("reheat_minutes", zero, false),
	}
	count := o.count("count", 0, false)
	o.field("units", false).each(func(_ int, n node) {
		u := n.object()
		e.Units = append(e.Units, fit.Unit{Name: u.text("name", true), Places: u.count("places", 1, false)})
		u.done()
	})
	switch {
	case o.has("units") && o.has("count"):
		r.add(o.path, "has both \"units\" and \"count\"; give one of them")
	case o.has("count") && count < 1:
		r.add(o.path+".count", "is %d; it must be at least 1", count)
	case count > 1000:
		r.add(o.path+".count", "is %d; the most is 1000", count)
	default:
		for i := range count {
			e.Units = append(e.Units, fit.Unit{Name: fmt.Sprintf("%s %d", e.ID, i+1), Places: 1})
		}
	}
	o.done()
	return e
}

func (r *reader) group(o *object) fit.Group {
	g := fit.Group{
		ID: o.text("id", true), Name: o.text("name", false),
		Cooks: o.count("cooks", 1, false),
		Pace:  o.number("pace", exact.Int(1), false),
	}
	if o.has("dishes") {
		g.Dishes = []string{}
	}
	o.field("dishes", false).each(func(_ int, n node) {
		s, ok := n.value.(string)
		if !ok {
			r.add(n.path, "is %s; it must be the id of a dish", jsonkind.Of(n.value))
		}
		g.Dishes = append(g.Dishes, s)
	})
	if g.Dishes != nil && len(g.Dishes) == 0 {
		r.add(o.path+".dishes", "is empty; name a dish, or leave it out for every dish")
	}
	o.field("pins", false).each(func(_ int, n node) { g.Pins = append(g.Pins, r.pin(n.object())) })
	o.done()
	return g
}

func (r *reader) pin(o *object) fit.Pin {
	p := fit.Pin{
		Dish: o.text("dish", true), Step: o.text("step", true),
		NotBefore: o.maybe("not_before", false), BeginBy: o.maybe("begin_by", false),
	}
	o.field("units", false).each(func(_ int, n node) {
		name, ok := n.value.(string)
		if !ok {
			r.add(n.path, "is %s; it must be the name of a unit", jsonkind.Of(n.value))
		}
		p.Units = append(p.Units, name)
	})
	if p.NotBefore == nil && p.BeginBy == nil && p.Units == nil && o.fields != nil {
		r.add(o.path, "pins nothing: give \"not_before\", \"begin_by\" or \"units\"")
	}
	o.done()
	return p
}

func (r *reader) dish(o *object) fit.Dish {
	d := fit.Dish{ID: o.text("id", true), Title: o.text("title", false)}
	o.field("ingredients", false).each(func(_ int, n node) { d.Ingredients = append(d.Ingredients, r.ingredient(n.object())) })
	o.field("steps", true).each(func(_ int, n node) { d.Steps = append(d.Steps, r.step(n.object())) })
	o.done()
	return d
}

func (r *reader) ingredient(o *object) fit.Ingredient {
	i := fit.Ingredient{
		Name: o.text("name", true), Amount: o.maybe("amount", false), Unit: o.text("unit", false),
		Note:   o.text("note", false),
		Scales: o.choice("scales", "", []string{"linear", "whole", "taste", "fixed", "surface"}),
		PartOf: o.text("part_of", false), Brought: o.flag("brought"),
	}
	if i.Amount != nil && i.Amount.Sign() < 0 {
		r.add(o.path+".amount", "is %s; an amount can't be less than 0", i.Amount.Decimal(4))
	}
	o.done()
	return i
}

func (r *reader) step(o *object) fit.Step {
	zero := exact.Number{}
	kinds := make([]string, len(fit.Kinds))
	for i, k := range fit.Kinds {
		kinds[i] = string(k)
	}
	s := fit.Step{
		ID: o.text("id", true), Title: o.text("title", false),
		Kind:      fit.Kind(o.choice("kind", string(fit.Prepare), kinds)),
		Work:      o.number("work_minutes", zero, false),
		Wait:      o.number("wait_minutes", zero, false),
		Shareable: o.flag("shareable"),
		Adult:     fit.Adult(o.choice("adult", string(fit.NoAdult), []string{"none", "does", "watches"})),
		KeepShut:  o.flag("keep_shut"),
		Pieces:    o.count("pieces", 0, false),
		PerLoad:   o.count("pieces_per_load", 0, false),
		Load:      o.number("load_minutes", zero, false),
	}
	cooks := 1
	if s.Adult == fit.Does {
		cooks = 0
	}
	s.Cooks = o.count("cooks", cooks, false)
	if spread := o.maybe("spread", false); spread != nil {
		f := spread.Float()
		s.Spread = &f
	}
	if loads := []string{"pieces", "pieces_per_load", "load_minutes"}; o.has(loads[0]) || o.has(loads[1]) || o.has(loads[2]) {
		for _, name := range loads {
			if !o.has(name) {
				r.add(o.path+"."+name, "is missing: cooking in loads needs pieces, pieces_per_load and load_minutes")
			}
		}
	}
	o.field("after", false).each(func(_ int, n node) {
		a := n.object()
		s.After = append(s.After, fit.After{
			Dish: a.text("dish", false), Step: a.text("step", true),
			MinGap: a.number("min_gap", zero, false), MaxGap: a.maybe("max_gap", false),
		})
		a.done()
	})
	o.field("uses", false).each(func(_ int, n node) {
		u := n.object()
		s.Uses = append(s.Uses, fit.Use{
			Equipment: u.text("equipment", true), Places: u.count("places", 1, false),
			Temperature: u.maybe("temperature_c", false),
			During:      fit.Part(u.choice("during", string(fit.WholeStep), []string{"work", "wait", "all"})),
		})
		u.done()
	})
	if o.has("hold") {
		h := o.field("hold", false).object()
		s.Hold = &fit.Hold{Where: h.text("where", true), MaxMinutes: h.number("max_minutes", zero, true)}
		h.done()
	}
	o.done()
	return s
}
