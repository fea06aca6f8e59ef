package lessonfile_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/lessonfile"
)

// toast is a lesson of twenty minutes: two of hands, four of work with an
// adult watching, a wait of five.
func toast(period int) fit.Lesson {
	n := func(m int64) exact.Number { return exact.Int(m) }
	return fit.Lesson{
		Start: 540, End: 540 + clock.Time(period), Adults: 1,
		Phases: []fit.Phase{{Name: "Hands", Minutes: n(2), Place: fit.AtStart}, {Name: "Clear", Minutes: n(3), Place: fit.AtEnd}},
		Groups: []fit.Group{{ID: "g1", Name: "Bench 1", Cooks: 1, Pace: n(1)}, {ID: "bench-two", Cooks: 1, Pace: n(2)}},
		Dishes: []fit.Dish{{ID: "toast", Steps: []fit.Step{
			{ID: "cut", Kind: fit.Cut, Work: n(2), Cooks: 1, Adult: fit.NoAdult},
			{ID: "grill", Title: "Grill", Kind: fit.Cook, Work: n(1), Wait: n(5), Cooks: 1, Adult: fit.Watches, After: []fit.After{{Step: "cut"}}},
		}}},
	}
}

func sheet(t *testing.T, l fit.Lesson) []string {
	t.Helper()
	p, err := fit.Solve(l, fit.Options{Budget: 5, Runs: 20})
	require.NoError(t, err)
	var b bytes.Buffer
	require.NoError(t, lessonfile.WriteSheet(&b, l, p, rescue.Outcome{}))
	return strings.Split(b.String(), "\n")
}

func line(t *testing.T, lines []string, start string) string {
	t.Helper()
	for _, l := range lines {
		if strings.HasPrefix(l, start) {
			return l
		}
	}
	require.Fail(t, "no line "+start)
	return ""
}

// A column is a minute: two of the class, two of cutting, one with the adult,
// five of waiting, and the bell at twenty.
func TestTimelineInText(t *testing.T) {
	lines := sheet(t, toast(20))
	assert.Equal(t, "Bench 1   ::##@=====       :::|", line(t, lines, "Bench 1"))
	assert.Equal(t, "bench-two ::####@@=====    :::|", line(t, lines, "bench-two"), "half as quick")
}

// A long lesson is drawn in steps of several minutes, which the legend says.
func TestLongTimelinesAreScaled(t *testing.T) {
	lines := sheet(t, toast(300))
	for _, l := range lines {
		assert.LessOrEqual(t, len([]rune(l)), 130)
	}
	assert.Contains(t, strings.Join(lines, "\n"), "(a column is 4 min)")
}

func TestReadPlanNamesFaults(t *testing.T) {
	good := func() string {
		p, err := fit.Solve(toast(20), fit.Options{Budget: 5, Runs: 20})
		require.NoError(t, err)
		var b bytes.Buffer
		require.NoError(t, lessonfile.WritePlan(&b, p, nil))
		return b.String()
	}()
	back, err := lessonfile.ReadPlan(strings.NewReader(good))
	require.NoError(t, err)
	assert.Len(t, back.Groups, 2)
	assert.InDelta(t, 10, back.Groups[0].Finish, 1e-9)
	for _, c := range []struct{ from, to, want string }{
		{`"fresh-apron/plan"`, `"fresh-apron/lesson"`, `format: is "fresh-apron/lesson"; a plan says "fresh-apron/plan"`},
		{`"version": 1`, `"version": 3`, "version: is 3"},
		{`"finish_min": 10.0000`, `"finish_min": "ten"`, "finish_min: is a text"},
		{`"cooks": 1`, `"cook": 1`, `cook: is no field that is known here; did you mean "cooks"?`},
		{`"groups"`, `"benches"`, "groups: is missing"},
		{`"steps": [`, `"steps": 5, "was": [`, "must be a list"},
		{`{`, `[`, "not JSON"},
	} {
		_, err := lessonfile.ReadPlan(strings.NewReader(strings.Replace(good, c.from, c.to, 1)))
		assert.ErrorContains(t, err, c.want)
	}
}

func FuzzReadPlan(f *testing.F) {
	f.Add(`{"format":"fresh-apron/plan","version":1,"fits":true,"deadline_min":1,"finish_min":1,"slack_min":0,"overrun_min":0,"lower_bound_min":1,"groups":[]}`)
	f.Fuzz(func(t *testing.T, text string) {
		p, err := lessonfile.ReadPlan(strings.NewReader(text))
		if err == nil {
			require.NotNil(t, p)
			var b bytes.Buffer
			require.NoError(t, lessonfile.WritePlan(&b, p, nil))
		}
	})
}
