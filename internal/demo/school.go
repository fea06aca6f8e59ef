// Package demo is the demonstration school: made up, rich enough to show
// every view, and the fixture of the browser tests.
package demo

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
)

// School is the name of the demonstration school.
const School = "Quillhaven School"

// TimeZone is where its clocks are.
const TimeZone = "Europe/London"

// FoodRoom is the seniors' room.
func FoodRoom() lesson.Room {
	oven := fit.Equipment{ID: "oven", Temperature: true, Preheat: exact.Int(12), Reheat: exact.Int(5)}
	for i := range 6 {
		oven.Units = append(oven.Units, fit.Unit{Name: fmt.Sprintf("Oven %d", i+1), Places: 2})
	}
	ring := fit.Equipment{ID: "ring", PerStation: true}
	for i := range 2 {
		ring.Units = append(ring.Units, fit.Unit{Name: fmt.Sprintf("Ring %d", i+1), Places: 1})
	}
	blender := fit.Equipment{ID: "blender"}
	for i := range 3 {
		blender.Units = append(blender.Units, fit.Unit{Name: fmt.Sprintf("Stick blender %d", i+1), Places: 1})
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

// A Period of the school day.
type Period struct {
	Name       string
	Start, End fit.Clock
}

// Periods are those of a senior day.
func Periods() []Period {
	return []Period{
		{"Period 1", clock("08:55"), clock("10:00")},
		{"Period 2", clock("10:05"), clock("11:10")},
		{"Period 3", clock("11:30"), clock("12:35")},
		{"Period 4", clock("13:20"), clock("14:25")},
		{"Period 5", clock("14:30"), clock("15:35")},
		{"Double 1 and 2", clock("08:55"), clock("11:05")},
		{"Double 4 and 5", clock("13:20"), clock("15:30")},
	}
}

func clock(s string) fit.Clock {
	c, err := fit.ParseClock(s)
	if err != nil {
		panic(err)
	}
	return c
}

// Classes are the teaching groups.
func Classes() []lesson.Class {
	return []lesson.Class{
		{Name: "7 Alder", Learners: 26, Pace: exact.Frac(11, 10)},
		{Name: "8 Hazel", Learners: 24, Pace: exact.Int(1)},
	}
}

// phases are the usual ones with a demonstration and a tasting of their own
// length, in minutes.
func phases(demonstration, taste int64) []fit.Phase {
	p := lesson.UsualPhases()
	p[1].Minutes, p[3].Minutes = exact.Int(demonstration), exact.Int(taste)
	return p
}
