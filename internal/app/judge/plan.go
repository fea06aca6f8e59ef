package judge

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/store"
)

// A TimePlan is a learner's own plan with what it is judged by.
type TimePlan struct {
	assess.TimePlan
	Lesson fit.Lesson     // of this learner alone
	Plan   *fit.GroupPlan // as the school would plan it; nil where there is none
	Entry  store.Entry
}

// Now says what the learner is at in a minute, and what comes next and when: by their own
// plan where it has rows, else by the school's.
func (p TimePlan) Now(minute float64) (at, next string) {
	type line struct {
		start       float64
		clock, says string
	}
	var lines []line
	for _, r := range p.Rows {
		lines = append(lines, line{r.At, r.Clock, r.What})
	}
	if lines == nil && p.Plan != nil {
		for _, s := range p.Plan.Steps {
			lines = append(lines, line{s.Start, p.Lesson.At(s.Start), p.Lesson.StepTitle(s.Dish, s.Step)})
		}
	}
	slices.SortStableFunc(lines, func(a, b line) int { return cmp.Compare(a.start, b.start) })
	for _, l := range lines {
		if l.start > minute {
			return at, l.clock + " " + l.says
		}
		at = l.says
	}
	return at, ""
}

// groupOf returns the plan of a group.
func groupOf(v *lessons.View, id string) (*fit.GroupPlan, bool) {
	if v.Plan == nil {
		return nil, false
	}
	at := slices.IndexFunc(v.Plan.Groups, func(g fit.GroupPlan) bool { return g.ID == id })
	if at < 0 {
		return nil, false
	}
	return &v.Plan.Groups[at], true
}

// alone is the lesson of one learner: their group and what it makes.
func alone(v *lessons.View, learner int64) (fit.Lesson, string) {
	at := benchOf(v, learner)
	if at < 0 || v.Problems != nil {
		return fit.Lesson{}, ""
	}
	l, id := v.Fit, v.Benches[at].ID
	l.Groups = slices.DeleteFunc(slices.Clone(l.Groups), func(g fit.Group) bool { return g.ID != id })
	if len(l.Groups) == 1 && l.Groups[0].Dishes != nil {
		l.Dishes = slices.DeleteFunc(slices.Clone(l.Dishes), func(d fit.Dish) bool { return !slices.Contains(l.Groups[0].Dishes, d.ID) })
	}
	return l, id
}

// keptPlans is how many judged plans are kept: a year of tasks of a school.
const keptPlans = 600

type judged struct {
	plan TimePlan
	err  error
}

// PlanOf reads and judges the time plan of a learner, once for what it is made of. The
// problem says what can't be read of it.
func PlanOf(ctx context.Context, t *Task, learner int64, e store.Entry) (TimePlan, error) {
	kept := school.Keep[string, judged](school.In(ctx).Site, keptPlans)
	key := fmt.Sprint(t.School, " ", t.ID, " ", learner, " ", e.Version, " ", t.View.Key())
	if x, ok := kept.Get(key); ok {
		return x.plan, x.err
	}
	plan, err := planOf(t, learner, e)
	kept.Add(key, judged{plan, err})
	return plan, err
}

func planOf(t *Task, learner int64, e store.Entry) (TimePlan, error) {
	l, id := alone(t.View, learner)
	out := TimePlan{Lesson: l, Entry: e}
	if id == "" {
		return out, problem.New("plan", "The practical has no place for this learner: plan the choices in first")
	}
	out.Plan, _ = groupOf(t.View, id)
	if strings.TrimSpace(e.Plan) == "" {
		return out, nil
	}
	rows, err := judgefile.ReadTimePlan(strings.NewReader(e.Plan), l)
	if err != nil {
		return out, err
	}
	for i, r := range rows {
		if steps := e.Taken[r.Line]; len(steps) > 0 && r.Step == "" {
			rows[i].Step = steps[0]
		}
	}
	out.TimePlan = assess.CheckTimePlan(l, rows)
	out.Findings = together(out.Findings)
	return out, nil
}

// together puts all rows that are late into one finding: it is one mistake.
func together(list []assess.Finding) []assess.Finding {
	var out []assess.Finding
	late := -1
	for _, f := range list {
		switch {
		case f.Rule == "late" && late >= 0:
			out[late].Lines = append(out[late].Lines, f.Lines...)
		case f.Rule == "late":
			late = len(out)
			f.Lines = slices.Clone(f.Lines)
			out = append(out, f)
		default:
			out = append(out, f)
		}
	}
	return out
}

// longestPlan of a learner, in bytes.
const longestPlan = 200_000

// SavePlan keeps the time plan of a learner as a table: what was typed, pasted or brought
// in. What can't be read as one is a problem, and nothing is kept.
func SavePlan(ctx context.Context, t *Task, learner int64, version string, data []byte, taken map[int][]string) error {
	e, err := entryOf(ctx, t, learner, version)
	if err != nil {
		return err
	}
	if len(data) > longestPlan {
		return problem.New("plan", "It is longer than %d kB", longestPlan/1000)
	}
	l, id := alone(t.View, learner)
	if id == "" {
		return problem.New("plan", "The practical has no place for this learner: plan the choices in first")
	}
	rows, err := judgefile.TakeTimePlan(bytes.NewReader(data), l)
	if err != nil {
		return problem.New("plan", "%s: %s", problem.Of(err)[0].Path, problem.Of(err)[0].Says)
	}
	e.Plan, e.Taken = judgefile.PlanText(rows), taken
	return school.In(ctx).SaveEntry(ctx, t.ID, e)
}

// RowsOf are the rows of a plan as they are typed.
func RowsOf(e store.Entry, l fit.Lesson) []assess.Row {
	rows, err := judgefile.ReadTimePlan(strings.NewReader(e.Plan), l)
	if err != nil {
		return nil
	}
	return rows
}

// TableOf puts rows that were typed into cells together as a table.
func TableOf(clock, dish, what, minutes []string) []byte {
	var rows [][]string
	for i := range what {
		at := func(list []string) string {
			if i < len(list) {
				return strings.TrimSpace(list[i])
			}
			return ""
		}
		if at(clock)+at(dish)+at(what)+at(minutes) == "" {
			continue
		}
		rows = append(rows, []string{at(clock), at(dish), at(what), at(minutes)})
	}
	return []byte(judgefile.PlanTable(rows))
}
