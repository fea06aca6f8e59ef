package main

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTaste(t *testing.T) {
	const head = `{"format": "fresh-apron/taste", "version": 1, `
	for file, want := range map[string]string{
		`"test": "triangle", "tasters": 24, "right": 13}`:                `"p": 0.0284`,
		`"test": "duo-trio", "tasters": 20, "right": 15}`:                `"p": 0.0206`,
		`"test": "paired", "a": 15, "b": 5}`:                             `"p": 0.0413`,
		`"test": "ranking", "ranks": [[1,2,3],[1,2,3],[1,2,3],[1,3,2]]}`: `"method": "exact"`,
		`"test": "triangle", "notice": 0.3, "power": 0.8}`:               `"tasters_needed": `,
		`"test": "paired", "a": 3, "b": 3, "notice": 0.4, "power": 0.9}`: `"p": 1`,
	} {
		out, complaint, err := run(t, tasteCommand(), head+file, "--json", "-")
		require.NoError(t, err, complaint)
		valid(t, "taste.schema.json", head+file)
		valid(t, "tasted.schema.json", out)
		assert.Contains(t, out, want)
		out, _, err = run(t, tasteCommand(), head+file, "-")
		require.NoError(t, err)
		assert.NotEmpty(t, strings.TrimSpace(out))
	}
	for file, want := range map[string]string{
		`"test": "triangel"}`:                              "test: is \"triangel\"; it must be one of [triangle duo-trio paired ranking]; did you mean \"triangle\"?\n",
		`"test": "triangle", "tasters": 5, "right": 6}`:    "right: is 6, of 5 tasters\n",
		`"test": "triangle"}`:                              "tasters: is missing\nright: is missing\n",
		`"test": "paired", "a": 0, "b": 0}`:                "a: and b are 0; somebody has to taste\n",
		`"test": "paired", "a": 1, "b": 2, "c": 3}`:        "c: is no field that is known here; did you mean \"a\"?\n",
		`"test": "ranking", "ranks": [[1,2,2],[1,2,3]]}`:   "ranks[0]: is [1 2 2]; it must have each of 1 to 3 once\n",
		`"test": "ranking", "ranks": [[1,2,3],[1,2]]}`:     "ranks[1]: ranks 2 samples, and the first taster 3\n",
		`"test": "triangle", "notice": 1.3, "power": 0.8}`: "notice: is 1.3; it must be above 0 and under 1\n",
	} {
		_, complaint, err := run(t, tasteCommand(), head+file, "-")
		assert.ErrorIs(t, err, exit(exitUnusable), file)
		assert.Equal(t, want, complaint, file)
	}
}

const marks = `{"format": "fresh-apron/marks", "version": 1, "criteria": [{"id": "skills", "most": 15, "weight": 2}, {"id": "taste", "most": 6}],
 "scale": {"out_of": 100, "round": "half-up", "places": 0}, "boundaries": [{"grade": "A", "from": 75}, {"grade": "B", "from": 50}],
 "markers": {"m1": {"learner 1": {"skills": 12, "taste": 3}, "learner 2": {"skills": 7.5, "taste": 4}}, "m2": {"learner 1": {"skills": 10, "taste": 3}, "learner 2": {"skills": 7}}}, "tolerance": 3}`

func TestMarks(t *testing.T) {
	out, complaint, err := run(t, marksCommand(), marks, "--json", "-")
	require.NoError(t, err, complaint)
	valid(t, "marks.schema.json", marks)
	valid(t, "marked.schema.json", out)
	var got struct {
		Learners map[string]map[string]struct {
			Total   *string
			Rounded *float64
			Grade   *string
			Missing []string
		}
		Overall   struct{ N int }
		TalkAbout []string `json:"talk_about"`
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "75", *got.Learners["learner 1"]["m1"].Total)
	assert.Equal(t, "63 8/9", *got.Learners["learner 1"]["m2"].Total)
	assert.InDelta(t, 64, *got.Learners["learner 1"]["m2"].Rounded, 0)
	assert.Equal(t, []string{"taste"}, got.Learners["learner 2"]["m2"].Missing)
	assert.Nil(t, got.Learners["learner 2"]["m2"].Total)
	assert.Equal(t, 1, got.Overall.N)
	assert.Equal(t, []string{"learner 1"}, got.TalkAbout)
	out, _, err = run(t, marksCommand(), marks, "-")
	require.NoError(t, err)
	assert.Contains(t, out, "learner 1:  m1 75 (A)  m2 64 (B)")
	assert.Contains(t, out, "To talk about: learner 1.")
	for file, want := range map[string]string{
		strings.Replace(marks, `"skills": 12`, `"skills": 16`, 1):   "markers.m1.learner 1.skills: is 16; it must be from 0 to 15\n",
		strings.Replace(marks, `"skills": 12`, `"skills": "A-"`, 1): "markers.m1.learner 1.skills: is a text; it must be a number\n",
		strings.Replace(marks, `"skills": 12`, `"skils": 12`, 1):    "markers.m1.learner 1.skils: is no criterion of this scheme; did you mean \"skills\"?\n",
		strings.Replace(marks, `"weight": 2`, `"weight": 0`, 1):     "criteria[0].weight: is 0; it must be above 0\n",
		strings.Replace(marks, `"from": 50`, `"from": 80`, 1):       "boundaries[1].from: is 80, and the boundary before it 75; write them from the highest down\n",
		strings.Replace(marks, `"half-up"`, `"nearest"`, 1):         "scale.round: is \"nearest\"; it must be one of [half-up half-even down up]\n",
	} {
		_, complaint, err := run(t, marksCommand(), file, "-")
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.Equal(t, want, complaint)
	}
}

const timePlan = `clock,dish,what,minutes
09:05,,turn the oven on,1
09:06,Leek tartlets,"weigh, then rub the fat into the flour",13
half ten,tartlets,rest the pastry,1
10.5,slaw,shred the cabbage,15
09:40,tartlets,frittiere die Zwiebeln,8
20:00,koftas,shape the koftas,8
09:50,koftas,mix the mince,6
10:00,"Leek tartlets, Rainbow slaw",fill and dress,9
`

// What can be read is judged, what is not known is asked, and what can't be read stands
// beside its row.
func TestTimeplan(t *testing.T) {
	const lesson = "../../internal/core/assess/testdata/table.lesson.json"
	out, complaint, err := run(t, timeplanCommand(), timePlan, "--json", lesson, "-")
	require.NoError(t, err, complaint)
	valid(t, "timeplan.schema.json", out)
	var got struct {
		Rows []struct {
			Row   int
			Dish  string
			Steps []string
			Means string
		}
		Findings []struct {
			Rule string
			Rows []int
		}
		Asks []struct{ Row int }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "on", got.Rows[0].Means)
	assert.Equal(t, []string{"weigh", "rub"}, got.Rows[1].Steps)
	unread := []int{}
	rules := map[string]bool{}
	for _, f := range got.Findings {
		rules[f.Rule] = true
		if f.Rule == "row" {
			unread = append(unread, f.Rows...)
		}
	}
	assert.Equal(t, []int{4, 5}, unread, "“half ten” and “10.5”")
	for _, rule := range []string{"missing", "wash", "late"} {
		assert.True(t, rules[rule], rule)
	}
	require.Len(t, got.Asks, 2)
	assert.Equal(t, 6, got.Asks[0].Row, "another language is asked, not guessed")
	assert.Equal(t, 9, got.Asks[1].Row, "two dishes in one row")
	out, _, err = run(t, timeplanCommand(), timePlan, lesson, "-")
	require.NoError(t, err)
	assert.Contains(t, out, "Row 4: “half ten” is no time of day.")

	for plan, want := range map[string]string{
		"":                               "the table: there is nothing in it: paste the list, or choose another file\n",
		"when,what\n1,x\n":               "row 1: has no column \"clock\"; the first line names the columns: clock, dish, what, and minutes and step where they are there\n",
		"clock,what,minutes\n5,x,lots\n": "row 2: its minutes are “lots”; they must be a number from 0 to 1000\n",
		"clock,what\n" + strings.Repeat("5,weigh\n", 501): "row 502: is more than the 500 rows that a plan can have\n",
		"clock,what\n": "the table: has no row in it\n",
		"\x89PNG":      "the table: this is a picture, not a table: save the list as CSV or XLSX, or paste it\n",
	} {
		_, complaint, err := run(t, timeplanCommand(), plan, lesson, "-")
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.Equal(t, want, complaint)
	}
	_, complaint, err = run(t, timeplanCommand(), timePlan, "../../docs/formats/tartlets.lesson.json", "-")
	assert.ErrorIs(t, err, exit(exitUnusable))
	assert.Contains(t, complaint, "a time plan is of one")
}
