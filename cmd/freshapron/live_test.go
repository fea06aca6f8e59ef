package main

import (
	"encoding/json"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const tartlets = "../../docs/formats/tartlets.lesson.json"

// What a rehearsal writes is what fold reads, in whatever order and however often.
func TestRehearseAndFold(t *testing.T) {
	events, _, err := run(t, rehearseCommand(), "", "--json", "--seed", "7", "--mishap", "oven", tartlets)
	require.NoError(t, err)
	again, _, err := run(t, rehearseCommand(), "", "--json", "--seed", "7", "--mishap", "oven", tartlets)
	require.NoError(t, err)
	assert.Equal(t, events, again)
	lines := strings.Split(strings.TrimSpace(events), "\n")
	for _, line := range lines {
		valid(t, "event.schema.json", line)
	}
	fold := func(text string, args ...string) string {
		out, complaint, err := run(t, foldCommand(), text, append([]string{"--json", tartlets, "-"}, args...)...)
		require.NoError(t, err, complaint)
		assert.Empty(t, complaint)
		valid(t, "lesson-state.schema.json", out)
		return out
	}
	shuffled := append(append([]string{}, lines...), lines[:len(lines)/2]...)
	rand.New(rand.NewPCG(1, 2)).Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
	for _, at := range []string{"--at=0", "--at=21.5", "--at=64", "--at=-3"} {
		assert.Equal(t, fold(events, at), fold(strings.Join(shuffled, "\n"), at), at)
	}
	var end struct {
		Closed  bool
		Sharps  int
		Out     []struct{ Unit string }
		Benches []struct{ Steps []struct{ Stage string } }
	}
	require.NoError(t, json.Unmarshal([]byte(fold(events)), &end))
	assert.True(t, end.Closed)
	assert.Positive(t, end.Sharps)
	assert.Len(t, end.Out, 1)

	left, _, err := run(t, rehearseCommand(), "", "--json", "--mishap", "gone", tartlets)
	require.NoError(t, err)
	assert.Contains(t, fold(left), `"gone": 1`)

	text, _, err := run(t, rehearseCommand(), "", "--mishap", "burn", tartlets)
	require.NoError(t, err)
	assert.Regexp(t, `(?m)^\d\d:\d\d Bench 1: burn; cooled for 20 minutes under running water\.$`, text)
	assert.Regexp(t, `(?m)^\d\d:\d\d The lesson is over\.$`, text)
}

func TestFoldSaysWhatIsWrong(t *testing.T) {
	const opened = `{"id":"a","at_min":0,"kind":"opened"}`
	out, complaint, err := run(t, foldCommand(), strings.Join([]string{opened,
		`{"id":"b","at_min":9,"kind":"ended","bench":"g1","step":"ice"}`, `{"id":"c","at_min":-1440,"kind":"opened"}`, `{"id":"d","at_min":9,"kind":"help","bench":"g77"}`}, "\n"), "--at", "10", tartlets, "-")
	require.NoError(t, err)
	assert.Contains(t, out, "10:15, minute 10.0: ")
	assert.Len(t, strings.Split(strings.TrimSpace(complaint), "\n"), 3)
	assert.Contains(t, complaint, "event d: the lesson has no bench “g77”; it does not count\n")

	empty := filepath.Join(t.TempDir(), "empty.jsonl")
	require.NoError(t, os.WriteFile(empty, nil, 0o600))
	out, _, err = run(t, foldCommand(), "", tartlets, empty)
	require.NoError(t, err)
	assert.Contains(t, out, "the lesson has not begun")
	for _, c := range []struct {
		command *cobra.Command
		text    string
		args    []string
		want    string
	}{
		{foldCommand(), opened + "\nfalse", []string{tartlets, "-"}, "line 2: it is no event"},
		{foldCommand(), opened, []string{"-", "-"}, "only one of lesson and events can be standard input"},
		{foldCommand(), opened, []string{"--at", "NaN", tartlets, "-"}, "--at takes a minute"},
		{foldCommand(), opened, []string{tartlets, "no such file"}, "no such file"},
		{foldCommand(), opened, []string{"no such file", "-"}, "no such file"},
		{foldCommand(), "{}", []string{"-", empty}, "format"},
		{rehearseCommand(), "", []string{"--mishap", "flood", tartlets}, `--mishap "flood" is none of late, oven`},
		{rehearseCommand(), "{}", []string{"-"}, "format"},
	} {
		out, complaint, err := run(t, c.command, c.text, c.args...)
		assert.ErrorIs(t, err, exit(exitUnusable), c.args)
		assert.Empty(t, out, c.args)
		assert.Contains(t, complaint, c.want)
	}
	_, _, err = run(t, foldCommand(), "", tartlets)
	assert.ErrorIs(t, err, exit(exitUnusable))
}
