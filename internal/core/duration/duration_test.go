package duration_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/duration"
)

func ExampleIn() {
	for _, d := range duration.In("Simmer for an hour and a quarter, stirring every 5 minutes.") {
		fmt.Println(d.Least, d.Most)
	}
	// Output: 75 75
}

func says(text string) string {
	out := ""
	for i, d := range duration.In(text) {
		if i > 0 {
			out += ", "
		}
		out += d.Least.Decimal(2)
		if d.Least.Cmp(d.Most) != 0 {
			out += "-" + d.Most.Decimal(2)
		}
		if d.Inside {
			out += " inside"
		}
		if d.More {
			out += " more"
		}
	}
	return out
}

func TestIn(t *testing.T) {
	for text, want := range map[string]string{
		"Bake for 20 minutes.":         "20",
		"Bake 20 mins":                 "20",
		"Bake the pizza - 20 minutes":  "20",
		"Fry the flan to 8 min":        "8",
		"simmer in the pan – an hour":  "60",
		"crème, 2 to 3 min":            "2-3",
		"1½ hours":                     "90",
		"1 1/2 hours":                  "90",
		"1 and a half hours":           "90",
		"one and a half hours":         "90",
		"1.5 hours":                    "90",
		"1 hr 15":                      "75",
		"1 min 30":                     "1.5",
		"1 min 30 g":                   "1",
		"2 mins 45, stir":              "2.75",
		"5 mins 12":                    "5",
		"half a minute":                "0.5",
		"half hour":                    "30",
		"1/2 hour":                     "30",
		"3/4 of an hour":               "45",
		"½ an hour":                    "30",
		"1 hour & 15 minutes":          "75",
		"¼ hour":                       "15",
		"1 hr 15 min":                  "75",
		"1 hour and 15 minutes":        "75",
		"2 hours 30 minutes":           "150",
		"an hour and a quarter":        "75",
		"an hour and a half":           "90",
		"three quarters of an hour":    "45",
		"three-quarters of an hour":    "45",
		"quarter of an hour":           "15",
		"half an hour":                 "30",
		"a half hour":                  "30",
		"90 mins":                      "90",
		"10-12 minutes":                "10-12",
		"10 – 12 minutes":              "10-12",
		"10 to 12 minutes":             "10-12",
		"45 minutes to 1 hour":         "45-60",
		"1 to 1½ hours":                "60-90",
		"2 minutes each side":          "4",
		"2-3 minutes per side":         "4-6",
		"a couple of minutes":          "2",
		"a few minutes":                "2-4",
		"overnight":                    "720",
		"for 3-4 hours or overnight":   "180-240, 720",
		"stirring every 5 minutes":     "",
		"After 10 minutes, turn them.": "10 inside",
		"15 minutes, then turn down to 160 and 45 more":         "15, 45 more",
		"Keep the oil for another day":                          "",
		"Bake for 10 minutes, then another 20 minutes":          "10, 20 more",
		"5 minutes, then 10 minutes longer":                     "5, 10 more",
		"Knead for 10 minutes, then leave to rise for an hour.": "10, 60",
		"for about twenty minutes":                              "20",
		"forty-five minutes":                                    "45",
		"30 seconds":                                            "0.5",
		"Bake 1 hour at 180 °C":                                 "60",
		"bake for 1 hour 180°C":                                 "60",
		"1h30":                                                  "90",
		"a 20-minute bake":                                      "20",
		"Cook the 4 eggs":                                       "",
		"two hours":                                             "120",
		"a minute":                                              "1",
		"in an hour":                                            "60",
		"Add 3 handfuls":                                        "",
		"24 hours":                                              "1440",
		"2 days":                                                "2880",
	} {
		assert.Equal(t, want, says(text), text)
	}
}

// Whatever the text, durations stand in it, in order, and do not overlap.
func FuzzDurations(f *testing.F) {
	f.Add("Bake for 10-12 minutes, then an hour and a half")
	f.Add("½ ½ hours and a half of 1 1/2 hrs 15 more each side")
	f.Fuzz(func(t *testing.T, text string) {
		at := 0
		for _, d := range duration.In(text) {
			if d.From < at || d.To < d.From || d.To > len(text) || d.Least.Sign() < 0 || d.Most.Less(d.Least) {
				t.Fatalf("%+v in %q", d, text)
			}
			at = d.To
		}
	})
}
