// Package demo is the demonstration school: made up, rich enough to show
// every view, and the fixture of the browser tests.
package demo

import (
	"fmt"
	"time"

	"freshapron/internal/core/class"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/room"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
	"freshapron/internal/store"
)

// School is the name of the demonstration school.
const School = "Quillhaven School"

// TimeZone is where its clocks are.
const TimeZone = "Europe/London"

// FoodRoom is the seniors' room.
func FoodRoom() lesson.Room {
	oven := lesson.NewOven()
	for i := range 6 {
		oven.Units = append(oven.Units, fit.Unit{ID: fmt.Sprintf("oven-%d", i+1), Name: fmt.Sprintf("Oven %d", i+1), Places: 2})
	}
	ring := fit.Equipment{ID: "ring", PerStation: true}
	for i := range 2 {
		ring.Units = append(ring.Units, fit.Unit{ID: fmt.Sprintf("ring-%d", i+1), Name: fmt.Sprintf("Ring %d", i+1), Places: 1})
	}
	blender := fit.Equipment{ID: "blender"}
	for i := range 3 {
		blender.Units = append(blender.Units, fit.Unit{ID: fmt.Sprintf("blender-%d", i+1), Name: fmt.Sprintf("Stick blender %d", i+1), Places: 1})
	}
	return lesson.Room{
		Name: "Food Room", Benches: 12, PerBench: 2, Learners: 36, Adults: 1,
		Equipment: []fit.Equipment{oven, ring, blender},
		Instruments: measure.Instruments{
			Scales: []measure.Scale{
				{Division: exact.Int(1), Least: exact.Int(2)},
			},
			Spoons: measure.SpoonSet,
			Jugs:   []measure.Jug{{Marks: exact.Int(25), Holds: exact.Int(1000)}},
		},
	}
}

// Rooms are the food rooms with what stands in them.
func Rooms() []store.Room {
	senior, junior := store.Room{Room: FoodRoom()}, store.Room{Room: JuniorCorner()}
	senior.Ovens = map[string]measure.Oven{}
	for i := range 6 {
		o := measure.Oven{Fan: i != 5}
		if i == 1 || i == 4 {
			o.RunsHot = exact.Int(10)
		}
		senior.Ovens[fmt.Sprintf("oven-%d", i+1)] = o
	}
	senior.Things = store.Things{
		Boards: []room.Board{{Name: "green edge", For: "vegetables and fruit", Count: 14}, {Name: "white edge", For: "dough and bread", Count: 12}, {Name: "notched edge", For: room.RawUse, Count: 12}},
		Sharps: []room.Thing{
			{Name: "vegetable knives", Count: 24, Place: "locked rack by the desk"}, {Name: "cook’s knives", Count: 12, Place: "locked rack by the desk"},
			{Name: "peelers", Count: 12, Place: "drawer 3"}, {Name: "kitchen scissors", Count: 12, Place: "drawer 3"},
		},
		Kept: []room.Thing{
			{Name: "probes", Count: 4, Place: "shelf over the fridge"}, {Name: "scales, 1 g", Count: 10, Place: "trolley"}, {Name: "scales, 0.1 g", Count: 2, Place: "store"},
			{Name: "measuring jugs, 25 ml", Count: 12, Place: "trolley"}, {Name: "spoon sets", Count: 12, Place: "drawer 1"}, {Name: "mixing bowls", Count: 26, Place: "under benches"},
			{Name: "baking trays", Count: 14, Place: "rack"}, {Name: "oven gloves", Count: 12, Place: "hooks by the ovens"}, {Name: "fire blankets", Count: 2, Place: "by the door"},
		},
		Floor: room.Usual(12, senior.OvensOf()),
	}
	junior.Ovens = map[string]measure.Oven{"oven": {Fan: true}}
	junior.Things = store.Things{
		Boards: []room.Board{{Name: "green edge", For: "vegetables and fruit", Count: 20}},
		Sharps: []room.Thing{{Name: "serrated knives with round ends", Count: 20, Place: "locked box"}, {Name: "graters", Count: 5, Place: "locked box"}},
		Kept:   []room.Thing{{Name: "scales, 5 g", Count: 5, Place: "cupboard"}, {Name: "measuring jugs, 50 ml", Count: 5, Place: "cupboard"}, {Name: "steps", Count: 4, Place: "corner"}},
		Floor:  room.Usual(5, junior.OvensOf()),
	}
	return []store.Room{senior, junior}
}

// A Period of the school day.
type Period struct {
	Name       string
	Start, End clock.Time
}

// Periods are those of a senior day.
func Periods() []Period {
	return []Period{
		{"Period 1", at("08:55"), at("10:00")},
		{"Period 2", at("10:05"), at("11:10")},
		{"Period 3", at("11:30"), at("12:35")},
		{"Period 4", at("13:20"), at("14:25")},
		{"Period 5", at("14:30"), at("15:35")},
		{"Double 1 and 2", at("08:55"), at("11:05")},
		{"Double 4 and 5", at("13:20"), at("15:30")},
		{"Junior afternoon", at("13:10"), at("14:25")},
		{"Assessed morning", at("08:55"), at("12:35")},
	}
}

func at(s string) clock.Time {
	c, err := clock.Parse(s)
	if err != nil {
		panic(err)
	}
	return c
}

// JuniorCorner is the juniors' room.
func JuniorCorner() lesson.Room {
	oven := lesson.NewOven()
	oven.Units = []fit.Unit{{ID: "oven", Name: "Junior oven", Places: 2}}
	return lesson.Room{
		Name: "Junior corner", Benches: 5, PerBench: 1, Learners: 30, Adults: 2,
		Equipment: []fit.Equipment{
			oven,
			{ID: "ring", Units: []fit.Unit{{ID: "ring-1", Name: "Portable ring 1", Places: 1}, {ID: "ring-2", Name: "Portable ring 2", Places: 1}}},
		},
		Instruments: measure.Instruments{
			Scales: []measure.Scale{{Division: exact.Int(5), Least: exact.Int(10)}},
			Spoons: measure.SpoonSet,
			Jugs:   []measure.Jug{{Marks: exact.Int(50), Holds: exact.Int(1000)}},
		},
	}
}

// Classes are the teaching groups.
func Classes() []lesson.Class {
	return []lesson.Class{
		{Name: "7 Alder", Learners: 26, Pace: exact.Frac(11, 10), Age: 11, Rules: []class.Rule{{Kind: class.SameDiet}}},
		{Name: "8 Hazel", Learners: 24, Pace: exact.Int(1), Age: 12},
		{Name: "9 Rowan", Learners: 22, Pace: exact.Int(1), Age: 13},
		{Name: "10 Option B", Learners: 16, Pace: exact.Frac(9, 10), Age: 14},
		{Name: "4 Finch", Learners: 28, Pace: exact.Frac(13, 10), Age: 8},
		{Name: "2 Wren", Learners: 20, Pace: exact.Frac(14, 10), Age: 6},
	}
}

// teaching says which of the people belong to which class, by their places in
// the lists.
var teaching = [][]int{{0, 1}, {0, 1}, {0}, {0, 1}, {2}, {2, 4}}

// Terms of the demonstration's year are laid round the day on which it
// begins, so that there is school on it.
func Terms(today time.Time) []term.Span {
	monday := today.AddDate(0, 0, -int(term.Of(today)))
	week := func(n int) time.Time { return monday.AddDate(0, 0, 7*n) }
	return []term.Span{
		{Name: "This term", First: week(-9), Last: week(7).AddDate(0, 0, -3)},
		{Name: "Half term", First: week(-4), Last: week(-4).AddDate(0, 0, 4), Off: true},
		{Name: "Training day", First: week(3), Last: week(3), Off: true},
		{Name: "Next term", First: week(9), Last: week(20).AddDate(0, 0, -3)},
	}
}

// Slots of the week: class, room, period, by their places in the lists, and
// weekday.
var week = []struct{ class, room, period, day int }{
	{0, 0, 1, 0}, {1, 0, 3, 1}, {2, 0, 0, 1}, {3, 0, 6, 2}, {1, 0, 2, 3}, {0, 0, 1, 4}, {2, 0, 3, 4}, {4, 1, 7, 1}, {5, 1, 7, 3},
}

// phases are the usual ones with a demonstration and a tasting of their own
// length, in minutes.
func phases(demonstration, taste int64) []fit.Phase {
	p := lesson.UsualPhases()
	p[1].Minutes, p[3].Minutes = exact.Int(demonstration), exact.Int(taste)
	return p
}

// People are the staff. They have no passwords: the demonstration lets anybody
// come in as one of them.
func People() []store.Account {
	return []store.Account{
		{Name: "Maren Holt", Email: "maren.holt@quillhaven.example", Role: staff.Head},
		{Name: "Idris Bell", Email: "idris.bell@quillhaven.example", Role: staff.Teacher},
		{Name: "Nell Carver", Email: "nell.carver@quillhaven.example", Role: staff.Teacher},
		{Name: "Tomas Finney", Email: "tomas.finney@quillhaven.example", Role: staff.Technician},
		{Name: "Bea Lindqvist", Email: "bea.lindqvist@quillhaven.example", Role: staff.Assistant},
		{Name: "Signe Amsel", Email: "signe.amsel@otherschool.example", Role: staff.Assessor},
	}
}
