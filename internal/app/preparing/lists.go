package preparing

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// FetchList is what is fetched from the store on a day.
func FetchList(day time.Time) string { return "fetch/" + day.Format(time.DateOnly) }

// TraysList is the trays of a lesson.
func TraysList(lesson int64) string { return fmt.Sprintf("trays/%d", lesson) }

// ThingsList is the equipment of a lesson.
func ThingsList(lesson int64) string { return fmt.Sprintf("things/%d", lesson) }

// JobsList is the jobs of a lesson.
func JobsList(lesson int64) string { return fmt.Sprintf("jobs/%d", lesson) }

// HomeList is what learners bring to a lesson.
func HomeList(lesson int64) string { return fmt.Sprintf("home/%d", lesson) }

// GardenList is what is picked on a day.
func GardenList(day time.Time) string { return "garden/" + day.Format(time.DateOnly) }

// A Ticked is a tick as a list sends it.
type Ticked struct {
	List, Line string
	Done       bool
	Made       time.Time
	Press      string
}

const (
	mostTicks = 500
	longestID = 200
)

// Tick keeps ticks, those too that were made a while ago without a network. A
// moment that lies ahead counts as now.
func Tick(ctx context.Context, list []Ticked) error {
	s := school.In(ctx)
	var problems problem.List
	if len(list) > mostTicks {
		return problem.New("ticks", "%d ticks at once are too many; %d are the most", len(list), mostTicks)
	}
	now := s.Now()
	out := make([]store.Tick, len(list))
	checked := map[string]error{}
	for i, t := range list {
		at := fmt.Sprintf("ticks[%d]", i)
		if _, err := uuid.Parse(t.Press); err != nil {
			problems.Add(at+".press", "it has no number of its own")
		}
		if t.Line == "" || len(t.Line) > longestID {
			problems.Add(at+".line", "it names no line")
		}
		if _, ok := checked[t.List]; !ok {
			checked[t.List] = exists(ctx, t.List)
		}
		if err := checked[t.List]; err != nil {
			problems.Add(at+".list", "%s", err)
		}
		if t.Made.IsZero() || t.Made.After(now) {
			t.Made = now
		}
		out[i] = store.Tick{List: t.List, Line: t.Line, Done: t.Done, Who: school.Acting(ctx).Name, Made: t.Made, At: now, Press: t.Press}
	}
	if problems != nil {
		return problems
	}
	return s.AddTicks(ctx, out)
}

// exists returns why there is no such list, or nil.
func exists(ctx context.Context, list string) error {
	kind, about, _ := strings.Cut(list, "/")
	switch {
	case slices.Contains([]string{"fetch", "garden"}, kind):
		if _, err := time.Parse(time.DateOnly, about); err != nil {
			return fmt.Errorf("“%s” is no day", about)
		}
		return nil
	case slices.Contains([]string{"trays", "things", "jobs", "home"}, kind):
		var id int64
		if _, err := fmt.Sscan(about, &id); err != nil {
			return fmt.Errorf("“%s” is no lesson", about)
		}
		if _, err := school.In(ctx).Lesson(ctx, id); err != nil {
			return fmt.Errorf("the lesson of this list is gone")
		}
		return nil
	}
	return fmt.Errorf("there is no list “%s”", list)
}

// Ticks are how lines of lists stand.
type Ticks map[string]map[string]store.Tick

// TicksOf returns how the lines of lists stand.
func TicksOf(ctx context.Context, lists ...string) (Ticks, error) {
	rows, err := school.In(ctx).Ticks(ctx, lists...)
	out := Ticks{}
	for _, t := range rows {
		if out[t.List] == nil {
			out[t.List] = map[string]store.Tick{}
		}
		out[t.List][t.Line] = t
	}
	return out, err
}

// Is reports whether a line is ticked.
func (t Ticks) Is(list, line string) bool { return t[list][line].Done }

// Done counts the ticked lines of a list.
func (t Ticks) Done(list string) int {
	n := 0
	for _, tick := range t[list] {
		if tick.Done {
			n++
		}
	}
	return n
}

// By says who ticked a line; empty where it is not ticked.
func (t Ticks) By(list, line string) string {
	if tick := t[list][line]; tick.Done {
		return tick.Who
	}
	return ""
}
