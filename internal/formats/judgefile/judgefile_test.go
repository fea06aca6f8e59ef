package judgefile_test

import (
	"bytes"
	"encoding/json"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/formats/judgefile"
)

// Whatever is read is either refused with a word, or gives figures that can be written.
func FuzzReadTaste(f *testing.F) {
	for _, s := range []string{`{"format":"fresh-apron/taste","version":1,"test":"triangle","tasters":24,"right":13}`, `{"format":"fresh-apron/taste","version":1,"test":"ranking","ranks":[[1,2],[2,1]]}`, `{"test":"paired","notice":0.5}`, `[]`, ``} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		got, err := judgefile.ReadTaste(strings.NewReader(text))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		var b bytes.Buffer
		assert.NoError(t, judgefile.WriteTaste(&b, got))
		assert.True(t, json.Valid(b.Bytes()))
	})
}

func FuzzReadMarks(f *testing.F) {
	for _, s := range []string{`{"format":"fresh-apron/marks","version":1,"criteria":[{"id":"a","most":5}],"scale":{"out_of":10},"markers":{"m":{"l":{"a":3}},"n":{"l":{"a":4.5}}}}`, `{"criteria":[{}],"markers":{"m":{"l":{"b":1}}}}`, `{`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		got, err := judgefile.ReadMarks(strings.NewReader(text))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		var b bytes.Buffer
		assert.NoError(t, judgefile.WriteMarks(&b, got))
		assert.True(t, json.Valid(b.Bytes()))
	})
}

var toast = fit.Lesson{Start: clock.Time(600), End: clock.Time(660), Groups: []fit.Group{{ID: "g", Cooks: 1, Dishes: []string{"d"}}}, Dishes: []fit.Dish{{ID: "d", Title: "Toast", Steps: []fit.Step{
	{ID: "cut", Title: "Cut the bread", Kind: fit.Cut, Work: exact.Int(2), Cooks: 1}, {ID: "grill", Title: "Grill the bread", Kind: fit.Cook, Work: exact.Int(4), Cooks: 1, After: []fit.After{{Step: "cut"}}}}}}}

// Plans come as people's programs save them: another code page, a spreadsheet with its
// times as shares of a day, blank rows between. Lines are those of the file.
func TestTimePlansAsTheyAreSaved(t *testing.T) {
	sheet := excelize.NewFile()
	for cell, v := range map[string]any{"A1": "clock", "B1": "what", "C1": "minutes", "A3": 10.0/24 + 5.0/1440, "B3": "cut the bread", "C3": 2, "A4": "10:07", "B4": "grill"} {
		require.NoError(t, sheet.SetCellValue("Sheet1", cell, v))
	}
	var xlsx bytes.Buffer
	require.NoError(t, sheet.Write(&xlsx))
	for name, c := range map[string]struct {
		text  string
		lines []int
		at    []float64
	}{
		"a spreadsheet":     {xlsx.String(), []int{3, 4}, []float64{5, 7}},
		"another code page": {"clock;what\n10:05;cut the p\xe2t\xe9 bread\n\n10:07;grill\n", []int{2, 4}, []float64{5, 7}},
		"minutes":           {"\xef\xbb\xbfClock,What\r\n5,cut\r\n7,grill\r\n", []int{2, 3}, []float64{5, 7}},
		"two lines in one":  {"clock,what\n10:05,\"cut\nthe bread\"\n10:07,grill\n", []int{2, 4}, []float64{5, 7}},
		"a pasted table":    {"clock\tdish\twhat\n10:05\t\tcut\n22:07\td\tgrill\n", []int{2, 3}, []float64{5, 727}},
	} {
		rows, err := judgefile.ReadTimePlan(strings.NewReader(c.text), toast)
		require.NoError(t, err, name)
		var lines []int
		var at []float64
		for _, r := range rows {
			lines, at = append(lines, r.Line), append(at, r.At)
		}
		assert.Equal(t, c.lines, lines, name)
		assert.Equal(t, c.at, at, name)
		p := assess.CheckTimePlan(toast, rows)
		assert.Equal(t, []string{"cut"}, p.Rows[0].Steps, name)
		assert.Equal(t, []string{"grill"}, p.Rows[1].Steps, name)
	}
	afternoon := toast
	afternoon.Start, afternoon.End = clock.Time(13*60), clock.Time(14*60)
	rows, err := judgefile.ReadTimePlan(strings.NewReader("clock,what\n1:05,cut\n13.10,grill\n2410,x\n24:10,y\nhalf ten,z\n0.75,w\n0105,v\n13h20,u\n130,t\n205,s\n"), afternoon)
	require.NoError(t, err)
	assert.Equal(t, 5.0, rows[0].At, "five past one is after noon where the lesson is")
	assert.Equal(t, 10.0, rows[1].At)
	assert.True(t, math.IsNaN(rows[2].At) && math.IsNaN(rows[3].At) && math.IsNaN(rows[4].At))
	assert.Equal(t, 5.0, rows[6].At)
	assert.Equal(t, 20.0, rows[7].At)
	assert.Equal(t, 130.0, rows[8].At, "minutes from the beginning")
	assert.Equal(t, 65.0, rows[9].At, "such a minute is none of the lesson")
	assert.Equal(t, 5*60.0, rows[5].At, "three quarters of a day, as a spreadsheet keeps six in the evening")
}

// No row is lost: what can't be read stands beside its line, and every line is there.
func FuzzReadTimePlan(f *testing.F) {
	for _, s := range []string{"clock,dish,what\n10:05,d,cut the bread\n10:07,Toast,grill\n", "clock;what;minutes\n5;cut;2\n", "clock\twhat\n99:99\tx\n", "clock,what\n\"", "\ufeffclock,what\n10:00,wash up\n", "Time | Toast\n10:05 | grill\n", "10:05 cut\n10.07-10.10: grill (3 min)\n"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := judgefile.TakeTimePlan(strings.NewReader(text), toast)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		p := assess.CheckTimePlan(toast, rows)
		said := map[int]bool{}
		for _, r := range p.Rows {
			said[r.Line] = true
		}
		for _, x := range p.Findings {
			for _, l := range x.Lines {
				said[l] = true
			}
		}
		for _, r := range rows {
			assert.True(t, said[r.Line], "line %d", r.Line)
		}
		var b bytes.Buffer
		assert.NoError(t, judgefile.WriteTimePlan(&b, toast, p))
		assert.True(t, json.Valid(b.Bytes()))
	})
}
