package eventfile_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/lessonfile"
)

func tartlets(t require.TestingT) (fit.Lesson, *fit.Plan) {
	text, err := os.ReadFile("../../../docs/formats/tartlets.lesson.json")
	require.NoError(t, err)
	l, err := lessonfile.Read(bytes.NewReader(text))
	require.NoError(t, err)
	p, err := fit.Solve(l, fit.Options{Budget: 1, Runs: 1})
	require.NoError(t, err)
	return l, p
}

// What is written is read as it was, and every line is as its schema has it.
func TestEventsComeBack(t *testing.T) {
	l, p := tartlets(t)
	schema, err := jsonschema.NewCompiler().Compile("../../../docs/formats/event.schema.json")
	require.NoError(t, err)
	said := 3.25
	list := []live.Event{{ID: "1", Kind: live.Replanned, At: 4, Said: &said, By: "Kit", Plan: p}, {ID: "2", Kind: live.Temperature, At: -3, Bench: "g1", Celsius: 74.5, Says: "core"}}
	for _, mishap := range append(live.Mishaps, "") {
		list = append(list, live.Rehearse(l, p, live.Script{Seed: 4, Mishap: mishap})...)
	}
	var b bytes.Buffer
	require.NoError(t, eventfile.Write(&b, list))
	for _, line := range strings.Split(strings.TrimSpace(b.String()), "\n") {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(line))
		require.NoError(t, err)
		require.NoError(t, schema.Validate(v), line)
	}
	got, err := eventfile.Read(&b)
	require.NoError(t, err)
	require.Len(t, got, len(list))
	assert.Equal(t, list[1:], got[1:])
	var want, follows bytes.Buffer
	require.NoError(t, eventfile.WriteState(&want, live.Fold(l, p, list, 30)))
	require.NoError(t, eventfile.WriteState(&follows, live.Fold(l, p, got, 30)))
	assert.Equal(t, want.String(), follows.String(), "the plan of an event is followed as it was")
}

// Every line that is wrong is said, with what is wrong; the others are read.
func TestFaultsAreSaidLineByLine(t *testing.T) {
	text := strings.Join([]string{
		"\ufeff" + `{"id": "a", "at_min": 1, "kind": "opened"}`,
		``,
		`{"id": "b", "at_min": 2, "kind": "dance"}`,
		`{"at_min": 2, "kind": "help"}`,
		`{"id": "c", "kind": "help"}`,
		`{"id": "d", "at_min": 1e9, "kind": "help"}`,
		`{"id": "e", "at_min": 2, "said_min": -1e9, "kind": "help"}`,
		`{"id": "f", "at_min": 2, "kind": "help", "colour": "red"}`,
		`{"id": "g", "at_min": 2, "kind": "help"} {"id": "h", "at_min": 2, "kind": "help"}`,
		`begun`,
		`{"id": "i", "at_min": 2, "kind": "replanned", "plan": {"format": "of another kind"}}`,
		`{"id": "j", "at_min": 3, "kind": "closed"}`,
	}, "\r\n")
	got, err := eventfile.Read(strings.NewReader(text))
	var list problem.List
	require.ErrorAs(t, err, &list)
	var says []string
	for _, p := range list {
		says = append(says, p.Path+" "+strings.SplitN(p.Says, ";", 2)[0])
	}
	assert.Len(t, says, 9)
	for i, want := range []string{
		`line 3 its kind "dance" is none of opened, held`, `line 4 it has no "id"`, `line 5 it has no "at_min"`, `line 6 its time is out of range`, `line 7 its time is out of range`,
		`line 8 it is no event: json: unknown field "colour"`, `line 9 there is more than one event in it`, `line 10 it is no event`, `line 11 its plan: `,
	} {
		assert.True(t, strings.HasPrefix(says[i], want), says[i])
	}
	require.Len(t, got, 2)
	assert.Equal(t, "j", got[1].ID)
}

// All kinds have a sentence of their own, with the names that people know.
func TestSentences(t *testing.T) {
	l, p := tartlets(t)
	g := p.Groups[0]
	seen := map[string]live.Kind{}
	for _, kind := range live.Kinds {
		says := eventfile.Says(l, live.Event{Kind: kind, Bench: g.ID, Dish: g.Steps[0].Dish, Step: g.Steps[0].Step, Unit: "Oven 2", Minutes: 4, Number: 12, Says: "a word"})
		if kind == live.Undone || kind == live.Note { // one is never in a log, the other is its own sentence
			continue
		}
		assert.True(t, strings.HasSuffix(says, ".") || kind == live.Checkpoint || kind == live.Asked || kind == live.Temperature || kind == live.UnitOut || kind == live.Checked, "%s: %s", kind, says)
		assert.NotContains(t, seen, says, kind)
		seen[says] = kind
	}
	step, _ := l.Step(g.Steps[0].Dish, g.Steps[0].Step)
	assert.Equal(t, "Bench 1 has done “"+step.Label()+"”.", eventfile.Says(l, live.Event{Kind: live.Ended, Bench: g.ID, Dish: g.Steps[0].Dish, Step: g.Steps[0].Step}))
}

// A state is written for people and for programs.
func TestStates(t *testing.T) {
	l, p := tartlets(t)
	for _, c := range []struct {
		events []live.Event
		at     float64
		want   string
	}{
		{nil, 3, "10:08, minute 3.0: the lesson has not begun"},
		{[]live.Event{{ID: "1", Kind: live.Opened}}, 3, " min left\n  Bench 1    on time (assumed)"},
		{[]live.Event{{ID: "1", Kind: live.Opened}, {ID: "2", Kind: live.Behind, At: 20, Bench: l.Groups[0].ID, Minutes: 40}}, 20.5, "min missing\n  Bench 1    40 min behind (known)"},
		{[]live.Event{{ID: "1", Kind: live.Opened}, {ID: "2", Kind: live.Closed, At: 20}}, 30, "10:35, minute 30.0: the lesson is over, since 10:25"},
	} {
		s := live.Fold(l, p, c.events, c.at)
		var text, data bytes.Buffer
		require.NoError(t, eventfile.WriteText(&text, l, s))
		assert.Contains(t, text.String(), c.want)
		require.NoError(t, eventfile.WriteState(&data, s))
		var got struct {
			Now     float64 `json:"now_min"`
			Benches []struct {
				Late float64 `json:"late_min"`
			}
		}
		require.NoError(t, json.Unmarshal(data.Bytes(), &got))
		assert.InDelta(t, c.at, got.Now, 0.01)
		assert.Len(t, got.Benches, len(l.Groups))
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"id": "a", "at_min": 1, "said_min": 0.5, "kind": "behind", "bench": "1", "minutes": 4}`))
	f.Add([]byte("\n{\"id\": \"a\", \"at_min\": 1, \"kind\": \"undone\", \"of\": \"a\"}\n{}"))
	l, p := tartlets(f)
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := eventfile.Read(bytes.NewReader(data))
		if err != nil {
			var problems problem.List
			require.True(t, errors.As(err, &problems), "%v", err)
		}
		require.NoError(t, eventfile.Write(&bytes.Buffer{}, list))
		s := live.Fold(l, p, list, 30)
		require.NoError(t, eventfile.WriteState(&bytes.Buffer{}, s))
	})
}
