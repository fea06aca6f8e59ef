package judgefile_test

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

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

// No row is lost: what can't be read stands beside its line, and every line is there.
func FuzzReadTimePlan(f *testing.F) {
	for _, s := range []string{"clock,dish,what\n10:05,d,cut the bread\n10:07,Toast,grill\n", "clock;what;minutes\n5;cut;2\n", "clock\twhat\n99:99\tx\n", "clock,what\n\"", "\ufeffclock,what\n10:00,wash up\n"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := judgefile.ReadTimePlan(strings.NewReader(text), toast)
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
