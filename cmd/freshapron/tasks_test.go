package main

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/train"
)

func TestTasks(t *testing.T) {
	out, complaint, err := run(t, tasksCommand(), "", "--json", "--count", "200", "--seed", "9")
	require.NoError(t, err, complaint)
	valid(t, "tasks.schema.json", out)
	again, _, err := run(t, tasksCommand(), "", "--json", "--count", "200", "--seed", "9")
	require.NoError(t, err)
	assert.Equal(t, out, again)
	for _, k := range train.Kinds {
		out, _, err = run(t, tasksCommand(), "", "--json", "--kind", string(k), "--count", "3")
		require.NoError(t, err)
		assert.Equal(t, 3, strings.Count(out, `"kind": "`+string(k)+`"`))
	}
	out, complaint, err = run(t, tasksCommand(), "", "--lesson", "../../docs/formats/tartlets.lesson.json", "--kind", "scale", "--count", "4")
	require.NoError(t, err, complaint)
	assert.Contains(t, out, "plain flour")
	for args, want := range map[string]string{
		"--kind jugs":     `--kind is "jugs"; it must be one of scale, dial`,
		"--count 0":       "--count is 0; it must be from 1 to 10000",
		"--lesson /no/no": "",
	} {
		_, _, err := run(t, tasksCommand(), "", strings.Fields(args)...)
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.ErrorContains(t, err, want)
	}
}
