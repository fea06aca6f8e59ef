// Package rooms is the food rooms: what stands in them and where, what works
// today, and the count of sharp things.
package rooms

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/room"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// What the store keeps of rooms.
type (
	// A Room with its identity.
	Room = store.Room
	// An Outage is something of a room that does not work.
	Outage = store.Outage
)

// All returns the school's rooms by name, as they are when all works.
func All(ctx context.Context) ([]Room, error) { return school.In(ctx).Rooms(ctx) }

// One returns one of them.
func One(ctx context.Context, id int64) (Room, error) { return school.In(ctx).Room(ctx, id) }

// Outages returns what does not work in rooms from today on.
func Outages(ctx context.Context, rooms ...int64) ([]Outage, error) {
	a := school.In(ctx)
	return a.Outages(ctx, a.Today(), rooms...)
}

// EndOutage says that something works again from today on.
func EndOutage(ctx context.Context, id int64) error {
	a := school.In(ctx)
	return a.EndOutage(ctx, id, a.Today())
}

// SharpCounts returns the newest counts of sharp things of a room.
func SharpCounts(ctx context.Context, room int64) ([]store.SharpCount, error) {
	const few = 6
	return school.In(ctx).SharpCounts(ctx, room, few)
}

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
				o, kind := r.Ovens[u.ID], "still"
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

// room reads a form on top of a room.
func (in RoomForm) room(f *typed.Form, r store.Room) store.Room {
	r.Name = f.Name("name", "Give the room a name.", in.Name)
	r.Benches, r.PerBench = f.Between("benches", "Benches", in.Benches, 1, 64), f.Between("per_bench", "Groups at a bench", in.PerBench, 1, 8)
	r.Learners, r.Adults = f.Between("learners", "Learners at most", in.Learners, 1, 200), f.Between("adults", "Adults", in.Adults, 0, 20)
	ids := unitIDs{was: r.Equipment}
	r.Equipment, r.Ovens = nil, map[string]measure.Oven{}
	oven := lesson.NewOven()
	seen := map[string]bool{}
	once := func(field, name string) {
		if seen[strings.ToLower(name)] {
			f.Add(field, "“%s” is there twice.", words.Short(name))
		}
		seen[strings.ToLower(name)] = true
	}
	rows := f.Rows("ovens", "Ovens", in.Ovens, 4)
	id := ids.of("oven", names(rows, 0))
	for i, row := range rows {
		once("ovens", row[0])
		hot, err := strconv.Atoi(row[3])
		if err != nil || hot < -60 || hot > 60 {
			f.Add("ovens", "%s: “%s” is not how many °C it runs hot, from −60 to 60.", row[0], words.Short(row[3]))
		}
		if row[2] != "fan" && row[2] != "still" {
			f.Add("ovens", "%s: “%s” is neither fan nor still.", row[0], words.Short(row[2]))
		}
		oven.Units = append(oven.Units, fit.Unit{ID: id[i], Name: row[0], Places: f.Between("ovens", row[0]+", shelves", row[1], 1, 10)})
		r.Ovens[id[i]] = measure.Oven{Fan: row[2] == "fan", RunsHot: exact.Int(int64(hot))}
	}
	if oven.Units != nil {
		r.Equipment = append(r.Equipment, oven)
	}
	if n := f.Between("rings", "Rings at each bench", in.Rings, 0, 8); n > 0 {
		ring := fit.Equipment{ID: "ring", PerStation: true}
		for i := range n {
			ring.Units = append(ring.Units, fit.Unit{ID: fmt.Sprintf("ring-%d", i+1), Name: fmt.Sprintf("Ring %d", i+1), Places: 1})
		}
		r.Equipment = append(r.Equipment, ring)
	}
	shared := f.Rows("shared", "Shared things", in.Shared, 3)
	byKind := map[string][]string{}
	for _, row := range shared {
		byKind[strings.ToLower(row[0])] = append(byKind[strings.ToLower(row[0])], row[1])
	}
	unit := map[string][]string{}
	for kind, list := range byKind {
		unit[kind] = ids.of(kind, list)
	}
	for _, row := range shared {
		once("shared", row[1])
		id := strings.ToLower(row[0])
		if id == "oven" || slices.ContainsFunc(r.Equipment, func(e fit.Equipment) bool { return e.ID == id && e.PerStation }) {
			f.Add("shared", "“%s” has its own place on this form.", words.Short(row[0]))
			continue
		}
		at := slices.IndexFunc(r.Equipment, func(e fit.Equipment) bool { return e.ID == id })
		if at < 0 {
			at = len(r.Equipment)
			r.Equipment = append(r.Equipment, fit.Equipment{ID: id})
		}
		r.Equipment[at].Units = append(r.Equipment[at].Units, fit.Unit{ID: unit[id][len(r.Equipment[at].Units)], Name: row[1], Places: f.Between("shared", row[1], row[2], 1, 10)})
	}
	r.Instruments = measure.Instruments{}
	for _, row := range f.Rows("scales", "Scales", in.Scales, 2) {
		r.Instruments.Scales = append(r.Instruments.Scales, measure.Scale{Division: f.Positive("scales", "A scale shows", row[0]), Least: f.Positive("scales", "A scale’s least", row[1])})
	}
	for _, row := range f.Rows("jugs", "Jugs", in.Jugs, 2) {
		r.Instruments.Jugs = append(r.Instruments.Jugs, measure.Jug{Marks: f.Positive("jugs", "A jug’s marks", row[0]), Holds: f.Positive("jugs", "A jug holds", row[1])})
	}
	if in.Spoons {
		r.Instruments.Spoons = measure.SpoonSet
	}
	r.Things.Boards, r.Things.Sharps, r.Things.Kept = nil, nil, nil
	for _, row := range f.Rows("boards", "Boards", in.Boards, 3) {
		r.Things.Boards = append(r.Things.Boards, room.Board{Name: row[0], For: row[1], Count: f.Between("boards", row[0], row[2], 0, 500)})
	}
	for _, row := range f.Rows("sharps", "Sharp things", in.Sharps, 3) {
		r.Things.Sharps = append(r.Things.Sharps, room.Thing{Name: row[0], Place: row[1], Count: f.Between("sharps", row[0], row[2], 0, 500)})
	}
	for _, row := range f.Rows("kept", "Equipment", in.Kept, 3) {
		r.Things.Kept = append(r.Things.Kept, room.Thing{Name: row[0], Place: row[1], Count: f.Between("kept", row[0], row[2], 0, 500)})
	}
	return r
}

// unitIDs finds the ids of units that a form names: what was there before keeps
// its own, under whatever name.
type unitIDs struct{ was []fit.Equipment }

// of returns the ids of the units of an equipment with the names given.
func (u unitIDs) of(equipment string, names []string) []string {
	var before []fit.Unit
	for _, e := range u.was {
		if e.ID == equipment && !e.PerStation {
			before = e.Units
		}
	}
	var was []string
	for _, b := range before {
		was = append(was, b.Name)
	}
	out := make([]string, len(names))
	for i, at := range room.Kept(was, names) {
		if at >= 0 {
			out[i] = before[at].ID
		} else {
			out[i] = uuid.NewString() // never that of something that is gone
		}
	}
	return out
}

func names(rows [][]string, column int) []string {
	var out []string
	for _, row := range rows {
		out = append(out, row[column])
	}
	return out
}

// AddRoom adds a room and lays its floor out as is usual.
func AddRoom(ctx context.Context, in RoomForm) (int64, error) {
	a := school.In(ctx)
	var f typed.Form
	r := in.room(&f, store.Room{})
	if f.Problems != nil {
		return 0, f.Problems
	}
	r.Things.Floor = room.Usual(r.Benches, r.OvensOf())
	id, err := a.CreateRoom(ctx, r)
	return id, sameRoom(err)
}

// ChangeRoom writes a room over the version that was seen.
func ChangeRoom(ctx context.Context, id int64, version string, in RoomForm) error {
	a := school.In(ctx)
	r, err := roomAt(ctx, id, version)
	if err != nil {
		return err
	}
	var f typed.Form
	r = in.room(&f, r)
	if f.Problems != nil {
		return f.Problems
	}
	r.Things.Floor = r.Things.Floor.Fitted(r.Benches, r.OvensOf())
	return sameRoom(a.ChangeRoom(ctx, r))
}

func roomAt(ctx context.Context, id int64, version string) (store.Room, error) {
	a := school.In(ctx)
	r, err := a.Room(ctx, id)
	if err == nil && version != strconv.Itoa(r.Version) {
		err = school.ErrChanged
	}
	return r, err
}

func sameRoom(err error) error {
	if errors.Is(err, store.ErrTaken) {
		return problem.List{{Path: "name", Says: "There is a room with this name already."}}
	}
	return err
}

// Floor returns the floor of a room, laid out as is usual where nobody has
// drawn it.
func Floor(r store.Room) room.Floor {
	if r.Things.Floor.W > 0 {
		return r.Things.Floor
	}
	return room.Usual(r.Benches, r.OvensOf())
}

// MoveFloor writes where things stand.
func MoveFloor(ctx context.Context, id int64, version string, floor room.Floor) error {
	a := school.In(ctx)
	r, err := roomAt(ctx, id, version)
	if err != nil {
		return err
	}
	if says := floor.Check(); says != nil {
		return problem.List{{Path: "floor", Says: strings.Join(says, " ")}}
	}
	r.Things.Floor = floor
	return a.ChangeRoom(ctx, r)
}

// An OutageForm says what does not work: the unit by its id, the rest in the
// words that were typed.
type OutageForm struct{ Unit, Why, Until string }

// AddOutage says that something of a room does not work from today on, and
// returns under which id.
func AddOutage(ctx context.Context, id int64, in OutageForm) (int64, error) {
	a := school.In(ctx)
	r, err := a.Room(ctx, id)
	if err != nil {
		return 0, err
	}
	var f typed.Form
	o := store.Outage{Room: id, Unit: in.Unit, Why: strings.TrimSpace(in.Why), Who: school.Acting(ctx).Name, First: a.Today()}
	for _, e := range r.Equipment {
		if !e.PerStation && slices.ContainsFunc(e.Units, func(u fit.Unit) bool { return u.ID == in.Unit }) {
			o.Equipment = e.ID
		}
	}
	if o.Equipment == "" {
		f.Add("unit", "Choose what does not work.")
	}
	if utf8.RuneCountInString(o.Why) > typed.LongestName {
		f.Add("why", "The reason is longer than %d letters.", typed.LongestName)
	}
	if strings.TrimSpace(in.Until) != "" {
		if o.Last, err = time.Parse(time.DateOnly, in.Until); err != nil || o.Last.Before(o.First) {
			f.Add("until", "“%s” is not a date from today on, such as %s.", words.Short(in.Until), o.First.Format(time.DateOnly))
		}
	}
	already, err := a.Outages(ctx, a.Today(), id)
	if err != nil {
		return 0, err
	}
	if slices.ContainsFunc(already, func(x store.Outage) bool { return x.Unit == o.Unit }) {
		f.Add("unit", "%s is marked already.", r.UnitName(o.Unit))
	}
	if f.Problems != nil {
		return 0, f.Problems
	}
	return a.AddOutage(ctx, o)
}

// CountSharps writes down how many sharp things were counted, out or in; the same press
// again is the same count.
func CountSharps(ctx context.Context, id int64, press, way, counted string) error {
	a := school.In(ctx)
	r, err := a.Room(ctx, id)
	if err != nil {
		return err
	}
	var f typed.Form
	n := f.Between("counted", "Counted", counted, 0, 5000)
	if way != "out" && way != "in" {
		f.Add("way", "Choose whether they were counted out or in.")
	}
	if f.Problems != nil {
		return f.Problems
	}
	c := store.SharpCount{Out: way == "out", Counted: n, Expected: r.Sharps, Who: school.Acting(ctx).Name, At: a.Now()}
	return a.Once(ctx, press, c.At, func(tx *store.School) error { return tx.CountSharps(ctx, id, c) })
}
