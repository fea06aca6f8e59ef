package stocklist_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/stocklist"
	"freshapron/internal/golden"
)

var today = time.Date(2026, 11, 26, 0, 0, 0, 0, time.UTC)

// written is a row in short: how much ("~" where that is a guess) of what, where (@), until when
// (!) and for how much; "none" where there is none of it, and "?" what is asked about.
func written(r stocklist.Row) string {
	what := r.Item
	if what == "" {
		what = r.Name
	}
	out := r.Amount.String() + " " + what
	switch {
	case r.None:
		out = "none " + what
	case r.Wrong != "":
		return "? " + r.What
	case r.Guess != "":
		out = "~" + out
	}
	if r.Place != "" {
		out += " @" + r.Place
	}
	if !r.UseBy.IsZero() {
		out += " !" + r.UseBy.Format(time.DateOnly)
	}
	if r.Price != "" {
		out += " " + r.Price
	}
	return out
}

// Counts as technicians and teachers write them down. The second file is measured only.
func TestCountsAsPeopleWriteThem(t *testing.T) {
	for file, least := range map[string]int{"tuned.txt": 48, "measured.txt": 36} {
		right, all := 0, 0
		for _, c := range golden.Cases(t, file) {
			rows, err := stocklist.Read([]byte(c.Text), pantry.Stock(), measure.Metric, today)
			require.NoError(t, err, c.Title)
			var got []string
			for _, r := range rows {
				got = append(got, written(r))
			}
			want := strings.Split(c.Want, "; ")
			all += len(want)
			for i, w := range want {
				if i < len(got) && got[i] == w {
					right++
				} else if file == "tuned.txt" {
					t.Logf("%s: want %q, got %q", c.Title, w, strings.Join(got[min(i, len(got)):min(i+1, len(got))], ""))
				}
			}
			if extra := len(got) - len(want); extra > 0 {
				right -= extra
				if file == "tuned.txt" {
					t.Logf("%s: besides %q", c.Title, got[len(want):])
				}
			}
		}
		t.Logf("%s: %d of %d rows", file, right, all)
		assert.GreaterOrEqual(t, right, least, file)
	}
}

// Nothing is lost: every line that says anything is a row, or the whole is refused with a reason.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"2 kg flour\nno eggs\n", "Item,Qty,Size\nflour,3,1.5kg\n", "FRIDGE\nbutter x 4 250g bb 9/12\n", "x\t\n☐ 3 x", "0\n:\n(\n", "Item,Use by\na,31/02/26\n"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := stocklist.Read([]byte(text), pantry.Stock(), measure.Metric, today)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		for _, r := range rows {
			assert.True(t, r.None || r.Wrong != "" || r.Amount.Amount.Sign() > 0 && r.Name != "", "%+v", r)
		}
	})
}
