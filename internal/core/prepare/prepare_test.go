package prepare_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/safety"
	"freshapron/internal/demo"
)

func clock(m prepare.Moment) string {
	day := ""
	for m < 0 {
		m, day = m+prepare.DayMinutes, day+"-"
	}
	for m >= prepare.DayMinutes {
		m, day = m-prepare.DayMinutes, day+"+"
	}
	return fmt.Sprintf("%s%02d:%02d", day, m/60%24, m%60)
}

func plain(d prepare.Day) string {
	var out []string
	for _, p := range d.Pieces {
		out = append(out, fmt.Sprintf("%s-%s %s", clock(p.From), clock(p.Until), d.Jobs[p.Job].Says))
	}
	for _, l := range d.Late {
		s := fmt.Sprintf("late %d %s", l.Minutes, d.Jobs[l.Job].Says)
		if l.Never {
			s = "never " + d.Jobs[l.Job].Says
		}
		for _, w := range l.Ways {
			s += fmt.Sprintf(" (%s: %d %t)", w.Says, w.Saves, w.Clean)
		}
		out = append(out, s)
	}
	return strings.Join(out, "; ")
}

func job(says string, k prepare.Kind, hands, wait int, from, due prepare.Moment) prepare.Job {
	return prepare.Job{ID: says, Kind: k, Says: says, Hands: hands, Wait: wait, From: from, Due: due}
}

// The day of a technician who works from 8 to 12, minute by minute.
func TestDaysByHand(t *testing.T) {
	const eight, nine, ten, noon = 480, 540, 600, 720
	morning := []prepare.Span{{eight, noon}}
	saved := job("weigh", prepare.Weigh, 60, 0, 0, nine)
	saved.Saves = "Weigh before"
	for name, c := range map[string]struct {
		jobs  []prepare.Job
		hours []prepare.Span
		now   prepare.Moment
		want  string
	}{
		"what has to be over first comes first": {[]prepare.Job{job("trays", prepare.Trays, 30, 0, 0, ten), job("butter", prepare.Soften, 2, 60, 0, ten)}, morning, 0,
			"08:00-08:02 butter; 08:02-08:32 trays"},
		"laying out is broken off, and gone on with": {[]prepare.Job{job("trays", prepare.Trays, 60, 0, 0, noon), job("eggs", prepare.Temper, 5, 30, 500, ten)}, morning, 0,
			"08:00-08:20 trays; 08:20-08:25 eggs; 08:25-09:05 trays"},
		"a part is made in one go": {[]prepare.Job{job("pastry", prepare.Part, 60, 0, 0, noon), job("eggs", prepare.Temper, 5, 30, 500, ten)}, morning, 0,
			"08:00-09:00 pastry; 09:00-09:05 eggs"},
		"and not begun where the hours end in the midst of it": {[]prepare.Job{job("pastry", prepare.Part, 60, 0, 0, 900)}, []prepare.Span{{eight, 520}, {ten, noon}}, 0,
			"10:00-11:00 pastry"},
		"a minute that has gone by is gone": {[]prepare.Job{job("trays", prepare.Trays, 30, 0, 0, ten)}, morning, 585,
			"09:45-10:15 trays; late 15 trays"},
		"on the minute is in time": {[]prepare.Job{job("trays", prepare.Trays, 30, 0, 0, ten)}, morning, 570, "09:30-10:00 trays"},
		"a rescue is left out": {[]prepare.Job{saved, job("trays", prepare.Trays, 30, 0, eight, nine)}, morning, eight,
			"08:00-09:00 weigh; 09:00-09:30 trays; late 30 trays (leave out “Weigh before”: weigh: 30 true) (somebody else’s free time, 30 min from 08:30: 30 true)"},
		"what can be done as well the day before": {[]prepare.Job{job("fetch", prepare.Fetch, 200, 0, 0, ten)}, append([]prepare.Span{{eight - prepare.DayMinutes, noon - prepare.DayMinutes}}, morning...), -900,
			"08:00-11:20 fetch; late 80 fetch (begin “fetch” on the day before: 80 true) (somebody else’s free time, 200 min from 06:40: 80 true)"},
		"nobody is there for it": {[]prepare.Job{job("ovens", prepare.Ovens, 2, 12, 0, 470)}, morning, 0,
			"08:00-08:02 ovens; late 24 ovens (somebody else’s free time, 2 min from 07:36: 24 true)"},
		"never": {[]prepare.Job{job("towels", prepare.Towels, 5, 0, 800, 900)}, morning, 0,
			"never towels (somebody else’s free time, 5 min from 14:55: 1440 true)"},
	} {
		assert.Equal(t, c.want, plain(prepare.Plan(c.jobs, c.hours, c.now)), name)
	}
}

func days(t *rapid.T) ([]prepare.Job, []prepare.Span) {
	var jobs []prepare.Job
	for n := range rapid.IntRange(1, 5).Draw(t, "jobs") {
		from := prepare.Moment(rapid.IntRange(0, 8).Draw(t, "from"))
		k := rapid.SampledFrom([]prepare.Kind{prepare.Trays, prepare.Fetch, prepare.Soften, prepare.Part}).Draw(t, "kind")
		hands, wait := rapid.IntRange(1, 4).Draw(t, "hands"), rapid.IntRange(0, 3).Draw(t, "wait")
		jobs = append(jobs, job(fmt.Sprint("job", n), k, hands, wait, from, from+prepare.Moment(hands+wait+rapid.IntRange(0, 8).Draw(t, "room"))))
	}
	var hours []prepare.Span
	for range rapid.IntRange(1, 3).Draw(t, "spans") {
		from := prepare.Moment(rapid.IntRange(0, 20).Draw(t, "begins"))
		hours = append(hours, prepare.Span{From: from, Until: from + prepare.Moment(rapid.IntRange(1, 10).Draw(t, "lasts"))})
	}
	return jobs, hours
}

// Whatever the jobs: nobody works outside the hours, before a window, on two
// things at once or longer than it takes; what can't be broken off is not; and
// what is said to be late is, by as much.
func TestPlansAreValid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs, hours := days(t)
		now := prepare.Moment(rapid.IntRange(0, 6).Draw(t, "now"))
		d := prepare.Plan(jobs, hours, now)
		done := make([]int, len(jobs))
		ends := make([]prepare.Moment, len(jobs))
		pieces := make([]int, len(jobs))
		last := prepare.Moment(0)
		for _, p := range d.Pieces {
			require.GreaterOrEqual(t, p.From, max(last, now, jobs[p.Job].From))
			require.Less(t, p.From, p.Until)
			for m := p.From; m < p.Until; m++ {
				in := false
				for _, h := range hours {
					in = in || h.From <= m && m < h.Until
				}
				require.True(t, in, "%d is outside the hours", m)
			}
			last = p.Until
			done[p.Job] += int(p.Until - p.From)
			ends[p.Job] = p.Until
			pieces[p.Job]++
		}
		late := map[int]prepare.Late{}
		for _, l := range d.Late {
			late[l.Job] = l
		}
		for i, j := range jobs {
			l, isLate := late[i]
			require.LessOrEqual(t, done[i], j.Hands)
			require.Equal(t, done[i] < j.Hands, l.Never)
			require.Equal(t, l.Never || ends[i]+prepare.Moment(j.Wait) > j.Due, isLate)
			if isLate && !l.Never {
				require.Equal(t, int(ends[i]-j.Due)+j.Wait, l.Minutes)
			}
			if !j.Kind.Breaks() {
				require.LessOrEqual(t, pieces[i], 1)
			}
		}
	})
}

// inTime reports whether any way of working, minute by minute, has every job over in
// time: a complete search.
func inTime(jobs []prepare.Job, hours []prepare.Span, rest []int, m, end prepare.Moment) bool {
	open := false
	for i, j := range jobs {
		if rest[i] > 0 {
			open = true
			if m+prepare.Moment(rest[i]+j.Wait) > j.Due {
				return false
			}
		}
	}
	if !open || m >= end {
		return !open
	}
	works := false
	for _, h := range hours {
		works = works || h.From <= m && m < h.Until
	}
	if works {
		for i, j := range jobs {
			if rest[i] == 0 || j.From > m {
				continue
			}
			rest[i]--
			ok := inTime(jobs, hours, rest, m+1, end)
			rest[i]++
			if ok {
				return true
			}
		}
	}
	return inTime(jobs, hours, rest, m+1, end)
}

// Where all can be broken off and any way has everything over in time, the plan has.
func TestNoPlanIsMoreInTime(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs, hours := days(t)
		jobs = jobs[:min(3, len(jobs))]
		rest := make([]int, len(jobs))
		for i := range jobs {
			jobs[i].Kind, rest[i] = prepare.Trays, jobs[i].Hands
		}
		require.Equal(t, inTime(jobs, hours, rest, 0, 32), prepare.Plan(jobs, hours, 0).Late == nil)
	})
}

// made is a lesson of a class at ten with one dish of these ingredients.
func made(lines []string, steps ...recipe.Step) prepare.Lesson {
	r := recipe.Recipe{ID: "dish", Title: "Dish", Yield: 2, Each: 1, Steps: steps, Equipment: []string{"stick blender", "bowl"}}
	for _, l := range lines {
		r.Ingredients = append(r.Ingredients, recipe.TakeLine(l, "", measure.Metric, pantry.Stock()).Ingredient)
	}
	l := lesson.Lesson{Date: "2026-11-30", Start: 600, End: 665, Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: r, Each: 1}}, Pantry: pantry.Stock(), Tolerances: pantry.Usual,
		Class: lesson.Class{Name: "8 Hazel", Learners: 24, Pace: exact.Int(1)}, Room: demo.FoodRoom(), GroupSize: 2, Safety: safety.Usual()}
	return prepare.Lesson{ID: 7, Says: "8 Hazel", Start: 600, End: 665, Core: l, Takes: l.Takes(lesson.Home{})}
}

// What recipes, the pantry and rescues ask for, each with its window and why.
func TestJobsOfALesson(t *testing.T) {
	l := made([]string{"100 g butter, softened", "2 eggs, at room temperature", "200 g dried chickpeas, soaked overnight", "100 g frozen peas, thawed", "100 ml apple juice, chilled", "200 g turkey mince", "50 g plain flour"})
	l.Ovens = []lesson.OvenUse{{Celsius: exact.Int(200), Units: []string{"Oven 1", "Oven 2"}}}
	l.Core.Changes = []rescue.Change{{Kind: rescue.HotBefore, Equipment: "oven"}}
	l.Core.OtherWays = []lesson.WayTaken{{Learner: 3, Way: "ready-cut"}}
	var out []string
	for _, j := range prepare.Jobs(l) {
		out = append(out, fmt.Sprintf("%s: %s; %d+%d, %s to %s; %s", j.ID, j.Says, j.Hands, j.Wait, clock(j.From), clock(j.Due), j.Why))
		assert.LessOrEqual(t, j.From+prepare.Moment(j.Hands+j.Wait), j.Due, j.ID)
		assert.True(t, j.Guess)
	}
	assert.Equal(t, []string{
		"7 soften butter: Leave the butter out to soften; 2+60, 07:00 to 10:00; “softened”: 60 min, typical",
		"7 temper medium egg: Let the medium egg come to room temperature; 2+30, 08:00 to 10:00; “at room temperature”: 30 min, typical",
		"7 soak dried chickpeas: Soak the dried chickpeas; 2+480, -14:00 to 10:00; “soaked overnight”: 8 h, typical of overnight",
		// 12 benches of 100 g: 1.2 kg are 0.6 of 24 h.
		"7 thaw frozen peas: Take the frozen peas out of the freezer, into the fridge; 2+864, --19:36 to 10:00; kept in the freezer; 24 h in the fridge for each 2 kg",
		"7 chill apple juice: Put the apple juice in the fridge; 2+120, -00:00 to 10:00; “chilled”: 120 min, typical",
		"7 cut: Cut ready pieces for 1 learner; 3+0, 07:00 to 10:00; another way that was chosen for them",
		"7 trays: Lay out the trays of 12 benches; 24+0, 07:00 to 10:00; 2 min for each bench, typical; they stand for 3 h at most",
		"7 fetch: Fetch 7 ingredients from the store; 7+0, 00:00 to 09:36; before the trays; half a minute for each, typical",
		"7 things: Lay out the equipment; 12+0, 00:00 to 10:00; 1 min for each bench, typical",
		"7 ovens 200: Switch on Oven 1, 2 at 200 °C; 2+12, 09:00 to 10:00; hot when the class comes in: chosen in the plan",
		"7 probes: Check and hand out the probes; 2+0, 00:00 to 10:00; raw turkey mince is cooked through by the probe",
		"7 back: Count back, and put away; 12+0, 11:05 to +++11:05; 1 min for each bench, typical",
		"7 towels: Put the tea towels in the wash; 5+0, 11:05 to +++11:05; typical",
	}, out)
	mine := prepare.Edited(prepare.Jobs(l), map[string]prepare.Edit{"7 soften butter": {Hands: 1, Wait: 90}, "7 probes": {Skip: true}, "7 trays": {Hands: 40, Wait: -1}})
	assert.Len(t, mine, len(out)-1)
	assert.Equal(t, []any{1, 90, prepare.Moment(390), false, "your own minutes"}, []any{mine[0].Hands, mine[0].Wait, mine[0].From, mine[0].Guess, mine[0].Why})
	assert.Equal(t, 40, mine[6].Hands)
}

// Rescues that were chosen are work of the technician, at what the plan counts.
func TestRescuesAreWorkBefore(t *testing.T) {
	r := demo.Dish("leek-tartlets")
	l := made(nil)
	l.Core.Menu = []lesson.Course{{Recipe: r, Each: r.Each}}
	keeps := ""
	for _, s := range r.Steps {
		if s.Hold != nil {
			keeps = s.ID
		}
	}
	require.NotEmpty(t, keeps)
	l.Core.Changes = []rescue.Change{{Kind: rescue.Preweigh}, {Kind: rescue.Prepared, Dish: r.ID, Step: keeps}}
	var weigh, part prepare.Job
	for _, j := range prepare.Jobs(l) {
		switch j.Kind {
		case prepare.Weigh:
			weigh = j
		case prepare.Part:
			part = j
		}
	}
	l.Core.Changes = nil
	plan, err := fit.Solve(l.Core.Fit(), fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	costs := ""
	for _, w := range rescue.Ways(l.Core.Fit(), plan) {
		costs += strings.Join(w.Costs, "; ") + "; "
	}
	assert.Contains(t, costs, fmt.Sprintf("no practice at weighing; about %d min of technician time", weigh.Hands))
	assert.Contains(t, costs, fmt.Sprintf("about %d min of technician time; kept in the", part.Hands))
	assert.Positive(t, weigh.Hands)
	assert.NotEmpty(t, weigh.Saves)
	assert.Contains(t, part.Says, "for 12 benches")
	assert.Contains(t, part.Why, "kept in the")
}

func TestClashesOfThings(t *testing.T) {
	shared := []prepare.Thing{{"stick blenders", 3}, {"trolley", 1}}
	a, b, c := made([]string{"50 g plain flour"}), made([]string{"50 g plain flour"}), made([]string{"50 g plain flour"})
	a.ID, b.ID, c.ID = 1, 2, 3
	b.Start, b.End = a.End, a.End+60
	c.Start, c.End = a.End-1, a.End+10
	wants := func(list ...prepare.Lesson) (out []prepare.Wants) {
		for _, l := range list {
			out = append(out, prepare.WantsOf(l, shared))
		}
		return out
	}
	assert.Empty(t, prepare.Clashes(shared, wants(a, b)), "one after the other")
	clash := prepare.Clashes(shared, wants(a, c))
	require.Len(t, clash, 1)
	assert.Equal(t, prepare.Clash{Thing: shared[0], Wanted: 6, Lessons: []int64{1, 3}, From: 664, Until: 665}, clash[0])
	assert.Len(t, prepare.Clashes(shared, wants(a, b, c)), 2)
}
