package timetable_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/formats/timetable"
	"freshapron/internal/golden"
)

// Lines that stand over a week or below it: those that the reading was mended for, and those that are for
// measuring only.
var (
	overTuned     = []string{"Greenhill School", "Staff timetable: Mrs L Odu", "Timetable 2026-27", "Autumn term", "Printed 12/09/2026", "Teacher: Mr Ahmed   Room: F1", "Food technology department", "Week A", "My week", "Cycle 1 of 2"}
	underTuned    = []string{"Page 1 of 1", "Total lessons: 12", "PPA = planning", "Key: F1 = Food Room", "Please check for cover daily", "Updated 3 Sept by the office", "* double lesson", "End of timetable"}
	overMeasured  = []string{"St Aldate's C of E High School", "Personal timetable", "Name: F Dang", "Valid from 1 September", "Dept of Technology, rooms F1 and F2", "Spring 2027", "WEEK 1", "Two-week timetable"}
	underMeasured = []string{"Registration is at 8:40 each day", "22 periods taught", "Printed by the office on Monday", "© Oakfield Academy", "Form: 9B", "Free periods are left blank", "Duty: Tuesday break, canteen", "Last changed: 4.11.2026"}
)

// The lessons of a week are the same under a line of the school and above one of the office.
func TestLinesBesideTheWeek(t *testing.T) {
	lessons := func(text string) (out []string) {
		for _, e := range timetable.Read([]byte(text), london).Entries {
			for _, e := range e.Each() {
				out = append(out, fmt.Sprintf("%s %s %t %s-%s %s", e.Day.Name(), e.Period, e.Timed, e.Start, e.End, e.Class))
			}
		}
		slices.Sort(out)
		return out
	}
	cases := golden.Cases(t, "tuned.txt")
	golden.Beside{Says: "mended for", Over: overTuned, Under: underTuned, Least: 98}.Same(t, cases, true, lessons)
	golden.Beside{Says: "measured only", Over: overMeasured, Under: underMeasured, Least: 95}.Same(t, cases, false, lessons)
}

// What stands beside the week is kept to be shown; a text of nothing else, and what may be a lesson, is asked about.
func TestLinesBesideTheWeekAreKept(t *testing.T) {
	w := timetable.Read([]byte("Greenhill School\nDay,Period,Class,Room\nMon,1,9 Elm,Food Room\nTue,2,8 Hazel,Food Room\nPrinted: 3 Sept, by the office,,\n"), london)
	assert.Equal(t, []string{"Greenhill School", "Printed: 3 Sept, by the office"}, w.Beside)
	assert.Len(t, w.Entries, 2)
	assert.Empty(t, w.Problems)
	for text, says := range map[string]string{
		"Greenhill School\nStaff room": "day, period, class and room are needed", "Mon 1 9 Elm\nTue 2 8 Hazel\nOn Wed I teach 7 Alder at 3": "row 3: when on Wednesday?",
		"Monday, P1, 9 Elm, F1; Tuesday, P2, 8 Hazel, F1": "row 1: it has several days",
		"Mon 1 9 Elm\nFood tech\nTue 2 8 Hazel":           "row 2: day, period, class and room are needed",
	} {
		w := timetable.Read([]byte(text), london)
		assert.Empty(t, w.Beside, text)
		assert.Contains(t, strings.Join(w.Problems, "; "), says, text)
	}
}
