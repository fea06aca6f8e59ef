package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/room"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A RoomForm is a room as a form has it, in the words that were typed. Lists
// have one thing a line.
type RoomForm struct {
	Name, Benches, PerBench, Learners, Adults string
	Ovens                                     string // name; shelves; fan or still; °C that it runs hot
	Rings                                     string // at each bench
	Shared                                    string // kind; name; how many can use it at once
	Scales, Jugs                              string // g and least g; ml between marks and ml that it holds
	Spoons                                    bool
	Boards, Sharps, Kept                      string // name; for what or place; how many
}

// RoomFormOf returns a room in the words of the form.
func RoomFormOf(r store.Room) RoomForm {
	n := strconv.Itoa
	f := RoomForm{Name: r.Name, Benches: n(r.Benches), PerBench: n(r.PerBench), Learners: n(r.Learners), Adults: n(r.Adults), Rings: "0", Spoons: len(r.Instruments.Spoons) > 0}
	line := func(into *string, parts ...string) { *into += strings.Join(parts, "; ") + "\n" }
	for _, e := range r.Equipment {
		for _, u := range e.Units {
			switch {
			case e.PerStation:
				continue
			case e.Temperature:
				o, kind := r.Ovens[u.Name], "still"
				if o.Fan {
					kind = "fan"
				}
				line(&f.Ovens, u.Name, n(u.Places), kind, o.RunsHot.Decimal(0))
			default:
				line(&f.Shared, e.ID, u.Name, n(u.Places))
			}
		}
		if e.PerStation && e.ID == "ring" {
			f.Rings = n(len(e.Units))
		}
	}
	for _, s := range r.Instruments.Scales {
		line(&f.Scales, s.Division.Decimal(3), s.Least.Decimal(3))
	}
	for _, j := range r.Instruments.Jugs {
		line(&f.Jugs, j.Marks.Decimal(1), j.Holds.Decimal(0))
	}
	for _, b := range r.Things.Boards {
		line(&f.Boards, b.Name, b.For, n(b.Count))
	}
	for _, s := range r.Things.Sharps {
		line(&f.Sharps, s.Name, s.Place, n(s.Count))
	}
	for _, k := range r.Things.Kept {
		line(&f.Kept, k.Name, k.Place, n(k.Count))
	}
	return f
}

// rows reads the lines of a list into their parts, of which there are so many.
func (f *form) rows(field, what, text string, parts int) [][]string {
	const mostLines = 200
	var out [][]string
	for i, l := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		if strings.TrimSpace(l) == "" {
			continue
		}
		row := strings.Split(l, ";")
		for k := range row {
			row[k] = strings.TrimSpace(row[k])
		}
		switch {
		case len(row) != parts || row[0] == "":
			f.add(field, "%s, line %d: “%s” has not the %d parts that it needs, with semicolons between.", what, i+1, words.Short(l), parts)
		case utf8.RuneCountInString(l) > 3*longestName:
			f.add(field, "%s, line %d is too long.", what, i+1)
		case len(out) == mostLines:
			f.add(field, "%s: more than %d lines.", what, mostLines)
			return out
		default:
			out = append(out, row)
		}
	}
	return out
}

func (f *form) between(field, what, text string, least, most int) int {
	n, err := strconv.Atoi(strings.TrimSpace(text))
	if err != nil || n < least || n > most {
		f.add(field, "%s: “%s” is not a whole number from %d to %d.", what, words.Short(text), least, most)
	}
	return n
}

func (f *form) positive(field, what, text string) exact.Number {
	n, err := exact.Parse(strings.ReplaceAll(strings.TrimSpace(text), ",", "."))
	if err != nil || n.Sign() <= 0 {
		f.add(field, "%s: “%s” is not a number over 0.", what, words.Short(text))
	}
	return n
}

// room reads a form on top of a room.
func (f *form) room(in RoomForm, r store.Room) store.Room {
	if r.Name = strings.TrimSpace(in.Name); r.Name == "" || utf8.RuneCountInString(r.Name) > longestName {
		f.add("name", "Give the room a name of at most %d letters.", longestName)
	}
	r.Benches, r.PerBench = f.between("benches", "Benches", in.Benches, 1, 64), f.between("per_bench", "Groups at a bench", in.PerBench, 1, 8)
	r.Learners, r.Adults = f.between("learners", "Learners at most", in.Learners, 1, 200), f.between("adults", "Adults", in.Adults, 0, 20)
	r.Equipment, r.Ovens = nil, map[string]measure.Oven{}
	oven := fit.Equipment{ID: "oven", Temperature: true, Preheat: exact.Int(12), Reheat: exact.Int(5)}
	seen := map[string]bool{}
	once := func(field, name string) {
		if seen[strings.ToLower(name)] {
			f.add(field, "“%s” is there twice.", words.Short(name))
		}
		seen[strings.ToLower(name)] = true
	}
	for _, row := range f.rows("ovens", "Ovens", in.Ovens, 4) {
		once("ovens", row[0])
		hot, err := strconv.Atoi(row[3])
		if err != nil || hot < -60 || hot > 60 {
			f.add("ovens", "%s: “%s” is not how many °C it runs hot, from −60 to 60.", row[0], words.Short(row[3]))
		}
		if row[2] != "fan" && row[2] != "still" {
			f.add("ovens", "%s: “%s” is neither fan nor still.", row[0], words.Short(row[2]))
		}
		oven.Units = append(oven.Units, fit.Unit{Name: row[0], Places: f.between("ovens", row[0]+", shelves", row[1], 1, 10)})
		r.Ovens[row[0]] = measure.Oven{Fan: row[2] == "fan", RunsHot: exact.Int(int64(hot))}
	}
	if oven.Units != nil {
		r.Equipment = append(r.Equipment, oven)
	}
	if n := f.between("rings", "Rings at each bench", in.Rings, 0, 8); n > 0 {
		ring := fit.Equipment{ID: "ring", PerStation: true}
		for i := range n {
			ring.Units = append(ring.Units, fit.Unit{Name: fmt.Sprintf("Ring %d", i+1), Places: 1})
		}
		r.Equipment = append(r.Equipment, ring)
	}
	for _, row := range f.rows("shared", "Shared things", in.Shared, 3) {
		once("shared", row[1])
		id := strings.ToLower(row[0])
		if id == "oven" || slices.ContainsFunc(r.Equipment, func(e fit.Equipment) bool { return e.ID == id && e.PerStation }) {
			f.add("shared", "“%s” has its own place on this form.", words.Short(row[0]))
			continue
		}
		at := slices.IndexFunc(r.Equipment, func(e fit.Equipment) bool { return e.ID == id })
		if at < 0 {
			at = len(r.Equipment)
			r.Equipment = append(r.Equipment, fit.Equipment{ID: id})
		}
		r.Equipment[at].Units = append(r.Equipment[at].Units, fit.Unit{Name: row[1], Places: f.between("shared", row[1], row[2], 1, 10)})
	}
	r.Instruments = measure.Instruments{}
	for _, row := range f.rows("scales", "Scales", in.Scales, 2) {
		r.Instruments.Scales = append(r.Instruments.Scales, measure.Scale{Division: f.positive("scales", "A scale shows", row[0]), Least: f.positive("scales", "A scale’s least", row[1])})
	}
	for _, row := range f.rows("jugs", "Jugs", in.Jugs, 2) {
		r.Instruments.Jugs = append(r.Instruments.Jugs, measure.Jug{Marks: f.positive("jugs", "A jug’s marks", row[0]), Holds: f.positive("jugs", "A jug holds", row[1])})
	}
	if in.Spoons {
		r.Instruments.Spoons = measure.SpoonSet
	}
	r.Things.Boards, r.Things.Sharps, r.Things.Kept = nil, nil, nil
	for _, row := range f.rows("boards", "Boards", in.Boards, 3) {
		r.Things.Boards = append(r.Things.Boards, room.Board{Name: row[0], For: row[1], Count: f.between("boards", row[0], row[2], 0, 500)})
	}
	for _, row := range f.rows("sharps", "Sharp things", in.Sharps, 3) {
		r.Things.Sharps = append(r.Things.Sharps, room.Thing{Name: row[0], Place: row[1], Count: f.between("sharps", row[0], row[2], 0, 500)})
	}
	for _, row := range f.rows("kept", "Equipment", in.Kept, 3) {
		r.Things.Kept = append(r.Things.Kept, room.Thing{Name: row[0], Place: row[1], Count: f.between("kept", row[0], row[2], 0, 500)})
	}
	return r
}

// AddRoom adds a room and lays its floor out as is usual.
func (a *App) AddRoom(ctx context.Context, in RoomForm) (int64, error) {
	var f form
	r := f.room(in, store.Room{})
	if f.problems != nil {
		return 0, f.problems
	}
	r.Things.Floor = room.Usual(r.Benches, OvenNames(r.Room))
	id, err := a.School.CreateRoom(ctx, r)
	return id, sameRoom(err)
}

// ChangeRoom writes a room over the version that was seen.
func (a *App) ChangeRoom(ctx context.Context, id int64, version string, in RoomForm) error {
	r, err := a.roomAt(ctx, id, version)
	if err != nil {
		return err
	}
	var f form
	r = f.room(in, r)
	if f.problems != nil {
		return f.problems
	}
	r.Things.Floor = r.Things.Floor.Fitted(r.Benches, OvenNames(r.Room))
	return sameRoom(a.School.ChangeRoom(ctx, r))
}

func (a *App) roomAt(ctx context.Context, id int64, version string) (store.Room, error) {
	r, err := a.School.Room(ctx, id)
	if err == nil && version != strconv.Itoa(r.Version) {
		err = store.ErrChanged
	}
	return r, err
}

func sameRoom(err error) error {
	if errors.Is(err, store.ErrTaken) {
		return problem.List{{Path: "name", Says: "There is a room with this name already."}}
	}
	return err
}

// OvenNames lists the ovens of a room.
func OvenNames(r lesson.Room) []string {
	var out []string
	for _, e := range r.Equipment {
		if e.Temperature {
			for _, u := range e.Units {
				out = append(out, u.Name)
			}
		}
	}
	return out
}

// Floor returns the floor of a room, laid out as is usual where nobody has
// drawn it.
func Floor(r store.Room) room.Floor {
	if r.Things.Floor.W > 0 {
		return r.Things.Floor
	}
	return room.Usual(r.Benches, OvenNames(r.Room))
}

// MoveFloor writes where things stand.
func (a *App) MoveFloor(ctx context.Context, id int64, version string, floor room.Floor) error {
	r, err := a.roomAt(ctx, id, version)
	if err != nil {
		return err
	}
	if says := floor.Check(); says != nil {
		return problem.List{{Path: "floor", Says: strings.Join(says, " ")}}
	}
	r.Things.Floor = floor
	return a.School.ChangeRoom(ctx, r)
}

// An OutageForm says what does not work, in the words that were typed.
type OutageForm struct{ Unit, Why, Until string }

// AddOutage says that something of a room does not work from today on, and
// returns under which id.
func (a *App) AddOutage(ctx context.Context, id int64, in OutageForm) (int64, error) {
	r, err := a.School.Room(ctx, id)
	if err != nil {
		return 0, err
	}
	var f form
	o := store.Outage{Room: id, Unit: in.Unit, Why: strings.TrimSpace(in.Why), Who: Acting(ctx).Name, First: a.Today()}
	for _, e := range r.Equipment {
		if !e.PerStation && slices.ContainsFunc(e.Units, func(u fit.Unit) bool { return u.Name == in.Unit }) {
			o.Equipment = e.ID
		}
	}
	if o.Equipment == "" {
		f.add("unit", "Choose what does not work.")
	}
	if utf8.RuneCountInString(o.Why) > longestName {
		f.add("why", "The reason is longer than %d letters.", longestName)
	}
	if strings.TrimSpace(in.Until) != "" {
		if o.Last, err = time.Parse(time.DateOnly, in.Until); err != nil || o.Last.Before(o.First) {
			f.add("until", "“%s” is not a date from today on, such as %s.", words.Short(in.Until), o.First.Format(time.DateOnly))
		}
	}
	already, err := a.School.Outages(ctx, a.Today(), id)
	if err != nil {
		return 0, err
	}
	if slices.ContainsFunc(already, func(x store.Outage) bool { return x.Unit == o.Unit }) {
		f.add("unit", "%s is marked already.", o.Unit)
	}
	if f.problems != nil {
		return 0, f.problems
	}
	return a.School.AddOutage(ctx, o)
}

// Affected is a lesson whose plan used something that does not work now.
type Affected struct {
	*View
	Before *fit.Plan // with it
}

// affectedDays is how far is looked for lessons that an outage changes.
const affectedDays = 14

// Affected returns the lessons whose plans would use something, were it not
// out of order.
func (a *App) Affected(ctx context.Context, o store.Outage) ([]Affected, error) {
	first, last := a.Today(), a.Today().AddDate(0, 0, affectedDays)
	if o.First.After(first) {
		first = o.First
	}
	if !o.Last.IsZero() && o.Last.Before(last) {
		last = o.Last
	}
	lessons, err := a.School.LessonsBetween(ctx, first, last)
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	others, err := a.School.Outages(ctx, first, o.Room)
	if err != nil {
		return nil, err
	}
	room, err := a.School.Room(ctx, o.Room)
	if err != nil {
		return nil, err
	}
	var out []Affected
	for _, l := range lessons {
		if l.Room.ID != o.Room {
			continue
		}
		whole := l
		whole.Room = room
		for _, other := range others {
			if other.ID != o.ID && other.On(l.Date) {
				whole.Room = whole.Room.Without(other)
			}
		}
		before, err := a.view(whole, larder)
		if err != nil {
			return nil, err
		}
		if before.Plan == nil || !usesUnit(before.Plan, o.Unit) {
			continue
		}
		now, err := a.view(l, larder)
		if err != nil {
			return nil, err
		}
		out = append(out, Affected{now, before.Plan})
	}
	return out, nil
}

func usesUnit(p *fit.Plan, unit string) bool {
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if slices.ContainsFunc(s.Units, func(u fit.UnitPlan) bool { return u.Unit == unit }) {
				return true
			}
		}
	}
	return false
}

// CountSharps writes down how many sharp things were counted, out or in.
func (a *App) CountSharps(ctx context.Context, id int64, way, counted string) error {
	r, err := a.School.Room(ctx, id)
	if err != nil {
		return err
	}
	var f form
	n := f.between("counted", "Counted", counted, 0, 5000)
	if way != "out" && way != "in" {
		f.add("way", "Choose whether they were counted out or in.")
	}
	if f.problems != nil {
		return f.problems
	}
	return a.School.CountSharps(ctx, id, store.SharpCount{Out: way == "out", Counted: n, Expected: r.Sharps, Who: Acting(ctx).Name, At: a.Now()})
}
