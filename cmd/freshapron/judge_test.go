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
