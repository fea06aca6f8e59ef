package setting_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/setting"
	"freshapron/internal/golden"
)

func ExampleIn() {
	for _, s := range setting.In("Bake at 200 °C/180 °C fan/gas 6 until the middle reaches 75 °C.") {
		fmt.Println(s.Celsius)
	}
	// Output: 200
}

func says(list []setting.Setting) string {
	var out []string
	for _, s := range list {
		text := s.Celsius.String()
		if s.Fan {
			text += " fan"
		}
		out = append(out, text)
	}
	return strings.Join(out, ", ")
}

func TestSettings(t *testing.T) {
	for text, want := range map[string]string{
		"Bake at 190 °C.":                        "190",
		"Bake at 190°C (fan 170°C).":             "190",
		"Bake in a fan oven at 170 °C":           "190 fan",
		"Oven to fan 160":                        "180 fan",
		"Bake at 350°F":                          "180",
		"Bake at 360°F":                          "180", // no mark of a dial: to the nearest five
		"Heat the oven to 400":                   "200",
		"Heat the oven to 200":                   "200",
		"Heat the oven to 274":                   "274",
		"Heat the oven to 275":                   "140",
		"Gas mark 4":                             "180",
		"gas 1/2":                                "130",
		"gas ¼":                                  "110",
		"Regulo 6":                               "200",
		"th. 7":                                  "220",
		"a moderate oven":                        "180",
		"a very hot oven":                        "230",
		"a fairly hot oven":                      "200",
		"a slow oven":                            "150",
		"a very slow oven":                       "130",
		"Bake at 79 °C":                          "", // no oven's
		"Bake at 80 °C":                          "80",
		"Bake at 320 °C":                         "320",
		"Bake at 321 °C":                         "",
		"Bake until the core reaches 75 °C":      "",
		"Heat the milk to 80 °C":                 "",
		"Heat the oil to 180 °C and fry":         "",
		"Bake 250 g of dough":                    "",
		"Bake at 99":                             "", // no figure of an oven without its sign
		"Roast at 200C, then turn down to 160C":  "200, 160",
		"Bake at 200 °C for 10 min, then 170 °C": "200, 170",
		"Set the oven to 220 and bake for 200 minutes": "220",
		"water at 40 °C; oven at 220 °C":               "220",
	} {
		assert.Equal(t, want, says(setting.In(text)), text)
	}
}

func TestContradictions(t *testing.T) {
	for text, want := range map[string]string{
		"Bake at 220 °C/gas 7":                       "",
		"Bake at 220 °C/gas 3":                       "220 °C and gas 3",
		"Bake at 200 °C (180 °C fan)":                "",
		"Bake at 200 °C (150 °C fan)":                "200 °C and 150 °C fan", // 170 in a still one
		"Bake at 200 °C or 175 °C":                   "",                      // a fan oven's that does not say so
		"Bake at 200 °C or 174 °C":                   "200 °C and 174 °C",
		"Bake at 200 °C for 10 min, then gas 1":      "", // one after the other
		"Bake in a moderate oven (180 °C)":           "",
		"Bake in a moderate oven (225 °C)":           "",
		"Bake in a moderate oven (226 °C)":           "moderate oven and 226 °C",
		"Bake in a hot oven until done, cool to 100": "",
	} {
		a, b, ok := setting.Contradiction(text)
		got := ""
		if ok {
			got = a.Says + " and " + b.Says
		}
		assert.Equal(t, want, got, text)
	}
}

// Every figure of a dial, and those beside it.
func TestTheDials(t *testing.T) {
	var b strings.Builder
	say := func(format string, args ...any) {
		text := fmt.Sprintf(format, args...)
		fmt.Fprintf(&b, "%s: %s\n", text, says(setting.In(text)))
	}
	for f := 200; f <= 525; f += 25 {
		for _, n := range []int{f - 1, f, f + 1} {
			say("Bake at %d°F", n)
			say("Bake at %d", n)
			say("Bake at %d °C", n)
			say("Bake in a fan oven at %d °C", n)
			say("Bake at %d °C, fan %d °C", n, n-20)
			say("Bake at %d °C fan", n)
		}
	}
	for _, mark := range strings.Fields("0 ¼ ½ 1/4 1/2 1 2 3 4 5 6 7 8 9 10") {
		for _, word := range []string{"gas", "gas mark", "Mark", "Regulo", "Gas no.", "th."} {
			say("Bake at %s %s", word, mark)
		}
	}
	for _, word := range strings.Fields("very slow cool low warm moderate mod. medium hot quick fairly") {
		say("Bake in a %s oven", word)
		say("Bake in a very %s oven", word)
		say("Bake in a moderately %s oven", word)
	}
	for _, before := range []string{"to", "on", "at", "@", "bake", "roast", "oven", "oven:", "(", "/", "a tin of", "until the core reaches", "milk at"} {
		for _, after := range []string{"", " g flour", " ml", " min", " kg", " hours", " cm", ".", ", then", " fan", "/fan 160", " (fan)"} {
			say("Heat the oven %s 180%s", before, after)
		}
	}
	golden.Same(t, "dials.golden", b.String())
}

// What is taken from every line of the corpora in which a setting may stand.
func TestTheSettingsOfTheCorpora(t *testing.T) {
	var b strings.Builder
	for _, line := range golden.Corpora(t) {
		for _, oven := range []bool{setting.Oven(line), true} {
			for _, s := range setting.Beside(line, oven) {
				fmt.Fprintf(&b, "%s %t %t: %s\n", s.Celsius, s.Fan, oven, line[s.From:s.To])
			}
		}
		if x, y, ok := setting.Contradiction(line); ok {
			fmt.Fprintf(&b, "%s is not %s\n", x.Says, y.Says)
		}
	}
	golden.Same(t, "settings.golden", b.String())
}
