package main

import (
	"bytes"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
)

const example = "../../docs/formats/tartlets.lesson.json"

// fitFile runs the command and returns what it prints and its exit status.
func fitFile(t *testing.T, text, file string, asJSON bool) (out, complaint string, status int) {
	t.Helper()
	var o, e bytes.Buffer
	err := runFit(strings.NewReader(text), &o, &e, file, asJSON, true, fit.Options{Runs: 200, Budget: 30})
	var code exit
	if errors.As(err, &code) {
		status = int(code)
	} else {
		require.NoError(t, err)
	}
	return o.String(), e.String(), status
}

func TestFitReadsAFileAndStandardInput(t *testing.T) {
	text, err := os.ReadFile(example)
	require.NoError(t, err)
	fromFile, complaint, status := fitFile(t, "", example, true)
	assert.Zero(t, status)
	assert.Empty(t, complaint)
	fromInput, _, _ := fitFile(t, string(text), "-", true)
	assert.Equal(t, fromFile, fromInput, "the same file, the same plan")
	sheet, _, status := fitFile(t, "", example, false)
	assert.Zero(t, status)
	assert.Contains(t, sheet, "Fits: ")
	assert.Contains(t, sheet, "Rub the fat into the flour")
}

func TestFitExitStatuses(t *testing.T) {
	text, err := os.ReadFile(example)
	require.NoError(t, err)

	late := strings.Replace(string(text), `"end": "11:10"`, `"end": "10:55"`, 1)
	out, _, status := fitFile(t, late, "-", true)
	assert.Zero(t, status, "a plan that does not fit is still a plan")
	assert.Contains(t, out, `"fits": false`)

	bad := strings.Replace(string(text), `"step": "rub"`, `"step": "rubb"`, 1)
	out, complaint, status := fitFile(t, bad, "-", true)
	assert.Equal(t, exitUnusable, status)
	assert.Empty(t, out)
	assert.Equal(t, "dishes[0].steps[2].after[0].step: no step \"rubb\" in this dish; did you mean \"rub\"?\n", complaint)

	_, complaint, status = fitFile(t, "", filepath.Join(t.TempDir(), "none.json"), true)
	assert.Equal(t, exitUnusable, status)
	assert.Contains(t, complaint, "none.json")

	clash := strings.NewReplacer(
		`"spread": 0.3,
          "after": [{ "step": "weigh" }]`, `"after": [{ "step": "weigh", "max_gap": 0 }]`,
		`"cooks": 1,
          "after": [{ "step": "weigh" }]`, `"after": [{ "step": "weigh", "max_gap": 0 }]`).Replace(string(text))
	out, _, status = fitFile(t, clash, "-", true)
	assert.Equal(t, exitConflict, status)
	assert.Contains(t, out, `"conflicts"`)
}

func TestFitFlags(t *testing.T) {
	run := func(args ...string) string {
		c := fitCommand()
		var out bytes.Buffer
		c.SetOut(&out)
		c.SetArgs(append(args, "--json", example))
		require.NoError(t, c.Execute())
		return out.String()
	}
	once := run("--seed", "7", "--iterations", "20000", "--simulate", "300")
	assert.Equal(t, once, run("--seed", "7", "--iterations", "20000", "--simulate", "300"))
	assert.NotEqual(t, once, run("--seed", "8", "--iterations", "20000", "--simulate", "300"), "other simulated lessons")

	for flag, says := range map[string]string{
		"--budget=0s":      "--budget 0s: give 1ms to 1h",
		"--iterations=0":   "--iterations 0: give 1 or more",
		"--simulate=0":     "--simulate 0: give 1 to 1000000",
		"--simulate=-5":    "--simulate -5: give 1 to 1000000",
		"--iterations=-20": "--iterations -20: give 1 or more",
	} {
		c := fitCommand()
		c.SilenceErrors, c.SilenceUsage = true, true
		c.SetArgs([]string{flag, example})
		err := c.Execute()
		var code exit
		require.ErrorAs(t, err, &code, flag)
		assert.Equal(t, exitUnusable, int(code), flag)
		assert.ErrorContains(t, err, says)
	}
}

// A lesson that does not fit comes with what would help, unless that is not
// wanted; one that fits surely comes without.
func TestFitTriesRescues(t *testing.T) {
	text, err := os.ReadFile(example)
	require.NoError(t, err)
	late := strings.NewReplacer(`"end": "11:10"`, `"end": "10:52"`, `"at_minute": 35`, `"at_minute": 22`, `"from_minute": 55`, `"from_minute": 20`).Replace(string(text))
	out, complaint, status := fitFile(t, late, "-", true)
	require.Zero(t, status, complaint)
	assert.Contains(t, out, `"rescues"`)
	assert.Contains(t, out, `"change": "demo_before"`)
	assert.Contains(t, out, `"costs"`)
	sheet, _, _ := fitFile(t, late, "-", false)
	assert.Contains(t, sheet, "What would help, planned and simulated:")
	assert.Contains(t, sheet, "Show the demonstration before")
	assert.Contains(t, sheet, "Call out:")
	assert.Contains(t, sheet, "# hands-on  @ with an adult  = waits  : whole class  | the bell")

	long := strings.Replace(string(text), `"end": "11:10"`, `"end": "12:10"`, 1)
	out, _, _ = fitFile(t, long, "-", true)
	assert.NotContains(t, out, `"rescues"`)

	c := fitCommand()
	var b bytes.Buffer
	c.SetOut(&b)
	c.SetIn(strings.NewReader(late))
	c.SetArgs([]string{"--json", "--rescues=false", "-"})
	require.NoError(t, c.Execute())
	assert.NotContains(t, b.String(), `"rescues"`)
}
