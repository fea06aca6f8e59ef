package lesson_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/rescue"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
)

// Between which limits each figure of a lesson has to lie, and from where on what is said
// of its plan becomes something else.
func TestWhatALessonCanBe(t *testing.T) {
	l := lessonOf("leek-tartlets")
	l.Class = withNames(12)
	l.Menu = append(l.Menu, lesson.Course{Recipe: demo.Dish("herb-scones"), Each: 1, Demo: 2, By: lesson.Makers{Groups: []string{"b1"}, Learners: []int64{7}}})
	l.Absent, l.Teams = []int64{2, 3}, [][]int64{{1, 4}, {5, 6}}
	l.Swaps = []lesson.Swap{{Learner: 1, Dish: "leek-tartlets", For: "butter", Use: "75 g sunflower spread"}}
	l.OtherWays = []lesson.WayTaken{{Learner: 7, Dish: "leek-tartlets", Step: "leek", Way: "scissors"}}
	l.Changes = []rescue.Change{{Kind: rescue.LeaveOut, Dish: "leek-tartlets", Step: "leek"}}
	require.NoError(t, l.Check())
	can := struct {
		Date             *string
		Start, End       *clock.Time
		Phases           *[]fit.Phase
		Size, Spare      *int
		Pace             *exact.Number
		Age              *int
		Room             *lesson.Room
		Absent           *[]int64
		Teams            *[][]int64
		Swaps            *[]lesson.Swap
		Ways             *[]lesson.WayTaken
		Changes          *[]rescue.Change
		Each, Demo       *int
		Groups           *[]string
		Learners         *[]int64
		Yield, EachOfAll *int
	}{&l.Date, &l.Start, &l.End, &l.Phases, &l.GroupSize, &l.Spare, &l.Class.Pace, &l.Class.Age, &l.Room, &l.Absent, &l.Teams, &l.Swaps, &l.OtherWays, &l.Changes, &l.Menu[1].Each, &l.Menu[1].Demo, &l.Menu[1].By.Groups, &l.Menu[1].By.Learners, &l.Menu[1].Recipe.Yield, &l.Menu[1].Recipe.Each}
	var b strings.Builder
	b.WriteString(golden.Limits(&can, func() error { return l.Check() }))

	l = eight(2)
	f, p, _ := plan(t, l)
	sizes := l.Sizes()
	b.WriteString("= said of the plan\n")
	of := struct {
		Fits                            *bool
		Finish, Slack, Overrun, More, P *float64
		Mean                            *float64
		AtLeast                         *int
		Idle                            *[]fit.Idle
		Start, End                      *float64
		For                             *fit.Wait
	}{&p.Fits, &p.Finish, &p.Slack, &p.Overrun, &p.Risk.More, &p.Risk.AllOnTime, &p.Risk.Benches.Mean, &p.Risk.Benches.AtLeast8In10, &p.Idle, &p.Groups[0].Steps[0].Start, &p.Groups[0].Steps[0].End, &p.Groups[1].Steps[1].Held}
	b.WriteString(golden.Limits(&of, func() error {
		var says []string
		for _, v := range l.Verdicts(f, p, sizes) {
			says = append(says, fmt.Sprintf("%s: %s %s %s", v.About, v.Light, v.Head, v.Says))
		}
		return errors.New(strings.Join(says, "\n"))
	}))
	golden.Same(t, "limits.golden", b.String())
}
