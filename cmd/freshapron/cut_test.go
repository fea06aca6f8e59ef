package main

import (
	"bytes"
	"encoding/json"
	"image/jpeg"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/drawn"
)

// run calls a command with a text on standard input.
func run(t *testing.T, c *cobra.Command, text string, args ...string) (out, complaint string, err error) {
	t.Helper()
	var o, e bytes.Buffer
	c.SetIn(strings.NewReader(text))
	c.SetOut(&o)
	c.SetErr(&e)
	c.SetArgs(args)
	c.SilenceErrors, c.SilenceUsage = true, true
	err = c.Execute()
	return o.String(), e.String(), err
}

const carrot = `{"format": "fresh-apron/cut", "version": 1, "food": {"shape": "cylinder", "length_mm": 100, "diameter_mm": 20},
 "cuts": [{"axis": "x", "at_mm": [50]}, {"axis": "y", "at_mm": [0]}], "target_mm": [10, 10, 10]}`

func TestCut(t *testing.T) {
	out, complaint, err := run(t, cutCommand(), carrot, "--json", "-")
	require.NoError(t, err, complaint)
	valid(t, "cut-pieces.schema.json", out)
	valid(t, "cut.schema.json", carrot)
	var got struct {
		Count  int
		Pieces []struct {
			Volume float64    `json:"volume_mm3"`
			Size   [3]float64 `json:"size_mm"`
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, 4, got.Count)
	assert.InDelta(t, 7853.98, got.Pieces[0].Volume, 0.1)
	assert.Equal(t, [3]float64{50, 10, 20}, got.Pieces[0].Size)
	out, _, err = run(t, cutCommand(), carrot, "-")
	require.NoError(t, err)
	assert.Contains(t, out, "4 pieces; 0 % of the food is waste.")

	for file, want := range map[string]string{
		strings.Replace(carrot, `"length_mm": 100`, `"length_mm": 0`, 1):        "food.length_mm: is 0; it must be above 0 and at most 2000 mm\n",
		strings.Replace(carrot, `"axis": "x"`, `"axis": "w"`, 1):                "cuts[0].axis: is \"w\"; it must be one of [x y z]; did you mean \"x\"?\n",
		strings.Replace(carrot, `[50]`, `["50"]`, 1):                            "cuts[0].at_mm[0]: is a text; it must be a number\n",
		strings.Replace(carrot, `cylinder`, `frustum`, 1):                       "food.diameter_mm: is a number; it must be a list [ … ]\n",
		strings.Replace(carrot, `[10, 10, 10]`, `[10, -1, 10]`, 1):              "target_mm[1]: is -1; a side of a piece is above 0 and at most 1000 mm\n",
		strings.Replace(carrot, `[50]`, "["+strings.Repeat("1,", 1001)+"1]", 1): "cuts: are 1003 planes; at most 1000 can be cut\n",
	} {
		_, complaint, err := run(t, cutCommand(), file, "-")
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.Equal(t, want, complaint)
	}
}

const ruled = `{"format": "fresh-apron/pieces", "version": 1, "food": "carrot", "target_mm": [10, 10, 10],
 "pieces_mm": [[10, 11, 9], [14, 10, 10]], "cook": {"way": "simmer", "start_c": 15, "around_c": 98, "to_c": 85}}`

func TestEven(t *testing.T) {
	out, complaint, err := run(t, evenCommand(), ruled, "--json", "-")
	require.NoError(t, err, complaint)
	valid(t, "evenness.schema.json", out)
	valid(t, "pieces.schema.json", ruled)
	assert.Contains(t, out, `"time_ratio": 1.2`)
	out, complaint, err = run(t, evenCommand(), strings.Replace(ruled, ", [14, 10, 10]]", "]", 1), "--json", "-")
	require.NoError(t, err, complaint)
	valid(t, "evenness.schema.json", out)
	assert.Contains(t, out, `"sd_mm": null`)
	out, _, err = run(t, evenCommand(), ruled, "-")
	require.NoError(t, err)
	assert.Contains(t, out, "1.2 times as long")
	for file, want := range map[string]string{
		strings.Replace(ruled, `"to_c": 85`, `"to_c": 98`, 1):           "cook.to_c: is 98; it must lie between start_c, 15, and around_c, 98: the centre never comes to another\n",
		strings.Replace(ruled, `"simmer"`, `{"h": 0}`, 1):               "cook.way.h: is 0; it must be above 0 and at most 100000 W/(m²·K)\n",
		strings.Replace(ruled, `[[10, 11, 9], [14, 10, 10]]`, `[]`, 1):  "pieces_mm: has no piece in it; measure at least one\n",
		strings.Replace(ruled, `[14, 10, 10]`, `[2000, 10, 10, 10]`, 1): "pieces_mm[1]: has 4 numbers; it must have 3\n",
	} {
		_, complaint, err := run(t, evenCommand(), file, "-")
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.Equal(t, want, complaint)
	}
}

func TestEvenOnAPhotograph(t *testing.T) {
	scene := drawn.Board("carrot", "blue", 800, 600, 6, 14, 12, 0.1, 30, 4)
	file := filepath.Join(t.TempDir(), "pieces.jpg")
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, scene.Draw(), nil))
	require.NoError(t, os.WriteFile(file, b.Bytes(), 0o600))
	out, complaint, err := run(t, evenCommand(), "", "--json", "--photo", file, "--reference-mm", "100")
	require.NoError(t, err, complaint)
	valid(t, "photo-pieces.schema.json", out)
	assert.Equal(t, 6, strings.Count(out, `"doubtful": false`))
	out, _, err = run(t, evenCommand(), "", "--photo", file, "--reference-mm", "100")
	require.NoError(t, err)
	assert.Contains(t, out, "6 pieces, 0 of them doubtful.")

	scene.Reference = 0
	b.Reset()
	require.NoError(t, jpeg.Encode(&b, scene.Draw(), nil))
	for text, want := range map[string]string{b.String(): "the reference strip is not to be seen", "no picture": "no picture that can be read", b.String()[:9000]: "breaks off"} {
		_, complaint, err = run(t, evenCommand(), text, "--photo", "-", "--reference-mm", "100")
		assert.ErrorIs(t, err, exit(exitUnusable))
		assert.Contains(t, complaint, want)
	}
	_, _, err = run(t, evenCommand(), "", "--photo", file)
	assert.ErrorIs(t, err, exit(exitUnusable), "the reference is not said")
}
