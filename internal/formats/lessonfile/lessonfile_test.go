package lessonfile_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/golden"
)

const docs = "../../../docs/formats/"

func schema(t testing.TB, name string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(docs + name + ".schema.json")
	require.NoError(t, err)
	return s
}

func validate(t testing.TB, s *jsonschema.Schema, data []byte) error {
	t.Helper()
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	require.NoError(t, err)
	return s.Validate(v)
}

func example(t testing.TB) []byte {
	t.Helper()
	data, err := os.ReadFile(docs + "tartlets.lesson.json")
	require.NoError(t, err)
	return data
}

// underWay is a lesson in its 38th minute, of which everything is said that
// can be.
func underWay(t testing.TB) []byte {
	t.Helper()
	data, err := os.ReadFile(docs + "under-way.lesson.json")
	require.NoError(t, err)
	return data
}

func TestTheExamplesPlan(t *testing.T) {
	for name, text := range map[string][]byte{"tartlets": example(t), "under-way": underWay(t)} {
		lesson, err := lessonfile.Read(bytes.NewReader(text))
		require.NoError(t, err)
		plan, err := fit.Solve(lesson, fit.Options{})
		require.NoError(t, err)
		assert.Empty(t, verify.Plan(lesson, plan))

		var out bytes.Buffer
		require.NoError(t, lessonfile.WritePlan(&out, plan, nil))
		assert.NoError(t, validate(t, schema(t, "plan"), out.Bytes()))
		golden.Same(t, name+".plan.json", out.String())

		out.Reset()
		require.NoError(t, lessonfile.WriteSheet(&out, lesson, plan, rescue.Outcome{}))
		golden.Same(t, name+".sheet.txt", out.String())
	}
}

func TestReadingWhatWasWritten(t *testing.T) {
	for _, text := range [][]byte{example(t), underWay(t)} {
		readsBack(t, text)
	}
}

func readsBack(t *testing.T, text []byte) {
	lesson, err := lessonfile.Read(bytes.NewReader(text))
	require.NoError(t, err)
	var once, twice bytes.Buffer
	require.NoError(t, lessonfile.WriteLesson(&once, lesson))
	assert.NoError(t, validate(t, schema(t, "lesson"), once.Bytes()))
	again, err := lessonfile.Read(bytes.NewReader(once.Bytes()))
	require.NoError(t, err)
	require.NoError(t, lessonfile.WriteLesson(&twice, again))
	assert.Equal(t, once.String(), twice.String())
	first, err := fit.Solve(lesson, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	second, err := fit.Solve(again, fit.Options{Budget: 5, Runs: 10})
	require.NoError(t, err)
	assert.Equal(t, first, second)
}

func TestConflictsAreWritten(t *testing.T) {
	text := strings.Replace(string(example(t)), `"work_minutes": 5`, `"work_minutes": 5, "cooks": 1`, 1)
	text = strings.Replace(text, `"after": [{ "step": "weigh" }],
          "uses"`, `"after": [{ "step": "weigh", "max_gap": 0 }],
          "uses"`, 1)
	text = strings.Replace(text, `"after": [{ "step": "weigh" }],
          "hold"`, `"after": [{ "step": "weigh", "max_gap": 0 }],
          "hold"`, 1)
	lesson, err := lessonfile.Read(strings.NewReader(text))
	require.NoError(t, err)
	plan, err := fit.Solve(lesson, fit.Options{})
	require.NoError(t, err)
	require.Len(t, plan.Conflicts, 1, "a cook alone can't rub in and fry at once")
	assert.Equal(t, []string{"g3"}, plan.Conflicts[0].Groups)
	var out bytes.Buffer
	require.NoError(t, lessonfile.WritePlan(&out, plan, nil))
	assert.NoError(t, validate(t, schema(t, "plan"), out.Bytes()))
	assert.Contains(t, out.String(), `"path": "dishes[0].steps[1].after[0].max_gap"`)
}

// spoil replaces one piece of the example.
func spoil(t testing.TB, from, to string) string {
	t.Helper()
	text := string(example(t))
	require.Contains(t, text, from)
	return strings.Replace(text, from, to, 1)
}

func TestFaultsAreNamedWhereTheyStand(t *testing.T) {
	lesson := schema(t, "lesson")
	for _, c := range []struct {
		from, to   string
		want       string
		structural bool // the schema sees it too
	}{
		{`"format": "fresh-apron/lesson"`, `"format": "something/else"`, `format: is "something/else"; a lesson file says "fresh-apron/lesson"`, true},
		{`"version": 1`, `"version": 2`, `version: is 2; this program reads version 1`, true},
		{`"version": 1,`, ``, `version: is missing`, true},
		{`"start": "10:05"`, `"start": "25:00"`, `period.start: "25:00" is no time of day such as 10:05`, true},
		{`"date": "2026-11-26"`, `"date": "2026-02-30"`, `period.date: "2026-02-30" is no date such as 2026-11-26`, false},
		{`"minutes": 5, "at": "start"`, `"minutes": "five", "at": "start"`, `phases[0].minutes: is a text; it must be a number`, true},
		{`"at": "start" }`, `"at": "begin" }`, `phases[0].at: is "begin"; it must be one of [start end]`, true},
		{`"minutes": 5, "at": "start"`, `"minutes": 5`, `phases[0]: says neither "at": "start" or "end" nor "at_minute"`, true},
		{`"at_minute": 35`, `"at_minute": 35, "at": "end"`, `phases[2]: has both "at" and "at_minute"; a phase has one of them`, true},
		{`"count": 2`, `"count": 2.5`, `room.equipment[1].count: is 2.5; it must be a whole number`, true},
		{`"count": 2`, `"count": 0`, `room.equipment[1].count: is 0; it must be at least 1`, true},
		{`"cooks": 2, "pace": 1.25`, `"coks": 2, "pace": 1.25`, `groups[1].coks: is no field that is known here; did you mean "cooks"?`, true},
		{`"pace": 1.25`, `"pace": 0`, `groups[1].pace: is 0; a pace is over 0 and at most 100`, true},
		{`"pace": 1.25`, `"pace": 1e99999`, `groups[1].pace: 1e99999 is too long or too large a number`, false},
		{`"kind": "mix"`, `"kind": "mixx"`, `dishes[0].steps[1].kind: is "mixx"; it must be one of [weigh prepare cut mix shape cook bake chill rest cool serve clean]; did you mean "mix"?`, true},
		{`[{ "step": "rub" }]`, `{ "step": "rub" }`, `dishes[0].steps[2].after: is an object; it must be a list [ … ]`, true},
		{`[{ "step": "rub" }]`, `[{ "step": "rubb" }]`, `dishes[0].steps[2].after[0].step: no step "rubb" in this dish; did you mean "rub"?`, false},
		{`"pieces": 4,`, ``, `dishes[0].steps[3].pieces: is missing: cooking in loads needs pieces, pieces_per_load and load_minutes`, true},
		{`"temperature_c": 190,`, ``, `dishes[0].steps[5].uses[0].temperature_c: is missing: "oven" has a temperature`, false},
		{`"shareable": true`, `"shareable": "yes"`, `dishes[0].steps[0].shareable: is a text; it must be true or false`, true},
		{`"amount": 150`, `"amount": -150`, `dishes[0].ingredients[0].amount: is -150; an amount can't be less than 0`, true},
		{`"dishes": ["tartlets"]`, `"dishes": []`, `groups[0].dishes: is empty; name a dish, or leave it out for every dish`, true},
	} {
		t.Run(c.want, func(t *testing.T) {
			text := spoil(t, c.from, c.to)
			_, err := lessonfile.Read(strings.NewReader(text))
			require.Error(t, err)
			assert.Contains(t, strings.Split(err.Error(), "\n"), c.want)
			if !strings.Contains(text, "1e99999") {
				assert.Equal(t, c.structural, validate(t, lesson, []byte(text)) != nil, "schema and reader agree")
			}
		})
	}
}

func TestEveryFaultIsNamedAtOnce(t *testing.T) {
	text := spoil(t, `"version": 1`, `"version": 3`)
	text = strings.Replace(text, `[{ "step": "rub" }]`, `[{ "step": "rubb" }]`, 1)
	text = strings.Replace(text, `"adults": 2`, `"adults": 0`, 1)
	_, err := lessonfile.Read(strings.NewReader(text))
	require.Error(t, err)
	assert.Len(t, strings.Split(err.Error(), "\n"), 3)
}

func TestNoLessonFile(t *testing.T) {
	for text, want := range map[string]string{
		"":               "$: the file is not JSON: it is empty",
		"{":              "$: the file is not JSON: it ends in the middle",
		"[]":             "$: is a list; it must be an object { … }",
		"{} {}":          "$: the file goes on after its end, at line 1, column 4",
		"\n  cake":       "$: the file is not JSON: invalid character 'c' looking for beginning of value, at line 2, column 3",
		"null":           "$: is null; it must be an object { … }",
		`{"format": 7}`:  "format: is a number; it must be a text in \"quotes\"",
		`{"groups": {}}`: "groups: is an object; it must be a list [ … ]",
	} {
		_, err := lessonfile.Read(strings.NewReader(text))
		require.Error(t, err, text)
		assert.Contains(t, strings.Split(err.Error(), "\n"), want)
	}
	_, err := lessonfile.Read(bytes.NewReader(append([]byte(`"`), bytes.Repeat([]byte("x"), 17<<20)...)))
	assert.EqualError(t, err, "$: the file is over 16 MB; nothing that is read here is that long")
}

// names collects the property names of a schema.
func names(v any, into map[string]bool) {
	switch v := v.(type) {
	case map[string]any:
		if props, ok := v["properties"].(map[string]any); ok {
			for name := range props {
				into[name] = true
			}
		}
		for _, inner := range v {
			names(inner, into)
		}
	case []any:
		for _, inner := range v {
			names(inner, into)
		}
	}
}

func keys(v any, into map[string]bool) {
	switch v := v.(type) {
	case map[string]any:
		for name, inner := range v {
			into[name] = true
			keys(inner, into)
		}
	case []any:
		for _, inner := range v {
			keys(inner, into)
		}
	}
}

// The examples show every field that the schema knows, and the reader takes
// it: so schema and reader know the same fields.
func TestTheExamplesShowEveryField(t *testing.T) {
	data, err := os.ReadFile(docs + "lesson.schema.json")
	require.NoError(t, err)
	var s, e any
	require.NoError(t, json.Unmarshal(data, &s))
	require.NoError(t, json.Unmarshal(example(t), &e))
	known, shown := map[string]bool{}, map[string]bool{}
	names(s, known)
	keys(e, shown)
	var more any
	require.NoError(t, json.Unmarshal(underWay(t), &more))
	keys(more, shown)
	assert.Equal(t, known, shown)
	assert.NoError(t, validate(t, schema(t, "lesson"), example(t)))
	assert.NoError(t, validate(t, schema(t, "lesson"), underWay(t)))
}

func FuzzRead(f *testing.F) {
	f.Add(string(example(f)))
	f.Add(string(underWay(f)))
	f.Add(`{"format":"fresh-apron/lesson","version":1}`)
	f.Fuzz(func(t *testing.T, text string) {
		lesson, err := lessonfile.Read(strings.NewReader(text))
		if err != nil || len(lesson.Groups) > 6 {
			return
		}
		plan, err := fit.Solve(lesson, fit.Options{Budget: 1, Runs: 5})
		require.NoError(t, err)
		require.Empty(t, verify.Plan(lesson, plan))
	})
}
