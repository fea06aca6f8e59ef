package measure_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/golden"
)

// How every line of the corpora is read that has an amount, in each system
// where it makes a difference.
func TestTheAmountsOfTheCorpora(t *testing.T) {
	var b strings.Builder
	for _, line := range golden.Corpora(t) {
		last := ""
		for _, sys := range []measure.System{measure.Metric, measure.US} {
			r := measure.Read(line, sys)
			r.Line = ""
			says := fmt.Sprintf("%s–%s %s “%s”", r.Low, r.High, r.Unit.ID, r.Name)
			for _, more := range []string{r.Size, r.Note, strings.Join(r.Doubts, "; "), strings.Join(r.Problems, "; "), r.Unread} {
				says += " | " + more
			}
			for _, q := range r.Also {
				says += ", or " + q.String()
			}
			if r.Pack != nil {
				says += fmt.Sprintf(", %s of %s %s", r.Pack.Count, r.Pack.Size, r.Pack.Word.ID)
			}
			if r.Taste || r.Surface || r.Optional {
				says += fmt.Sprintf(", taste %t, film %t, optional %t", r.Taste, r.Surface, r.Optional)
			}
			if says != last && r.Given {
				fmt.Fprintf(&b, "%s: %s\n", sys.Name, says)
			}
			last = says
		}
	}
	golden.Same(t, "lines.golden", b.String())
}

// Every way to write a number, before every kind of unit.
func TestTheNumbersAndUnits(t *testing.T) {
	var b strings.Builder
	numbers := []string{
		"1", "12", "1/2", "½", "1½", "1 1/2", "1 ½", "2-3", "2–3", "2 to 3", "0,5", "0.5", "1.000", "1,5", "1,500", "1.500,5", "2 or 3", "a", "an", "one", "two", "three", "four", "five", "six", "seven", "eight",
		"nine", "ten", "eleven", "twelve", "a dozen", "half a dozen", "two dozen", "half", "half a", "a half", "a quarter", "a quarter of a", "a third of a", "one third", "two thirds", "three quarters", "three quarters of a", "three-quarters",
		"a few", "a couple of", "about 3", "approx 3", "2 x 400 g tins", "½ x 400 g tin", "1 (400 g) tin", "l50", "1O", "-1", "1e9", "1/0", "0", "100001", "1 large", "1 heaped", "3 level", "2 packed", "1 scant", "1 generous",
	}
	units := []string{"g", "kg", "oz", "lb", "ml", "l", "cl", "dl", "tsp", "tbsp", "Tbsp", "teaspoons", "tablespoonfuls", "dsp", "cups", "pt", "pints", "fl oz", "sticks", "pinch of", "handful of", "cloves of", "sprigs of", "bunch", "cm", "inch", ""}
	for _, n := range numbers {
		for _, u := range units {
			line := strings.Join(strings.Fields(n+" "+u+" butter, melted (see note)"), " ")
			r := measure.Read(line, measure.Metric)
			fmt.Fprintf(&b, "%s: %t %s–%s %s “%s” %s | %s | %s %s %s", line, r.Given, r.Low, r.High, r.Unit.ID, r.Name, r.Size, r.Note, r.Doubts, r.Problems, r.Unread)
			if r.Pack != nil {
				fmt.Fprintf(&b, ", %s of %s %s", r.Pack.Count, r.Pack.Size, r.Pack.Word.ID)
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "numbers.golden", b.String())
}

// How amounts are measured with what lies in an ordinary drawer.
func TestHowAmountsAreMeasured(t *testing.T) {
	var b strings.Builder
	dense := measure.Density{Number: exact.MustParse("0.53")}
	coarse := measure.Instruments{Scales: []measure.Scale{{Division: exact.Int(5), Least: exact.Int(10)}}, Spoons: measure.SpoonSet}
	for n, sys := range []measure.System{measure.Metric, measure.US, measure.Imperial, measure.Metric, measure.Metric} {
		in := measure.Usual(sys)
		switch n {
		case 3:
			in = coarse
		case 4:
			in.Scales = nil
		}
		for _, u := range []measure.Unit{measure.Gram, measure.Millilitre, measure.Teaspoon, measure.Tablespoon, measure.Cup, measure.Ounce, measure.Each, measure.Centimetre} {
			for _, n := range []string{"1/10", "1/4", "1/3", "1/2", "4/5", "1", "5/4", "3/2", "2", "7/3", "3", "4", "5", "6", "7", "15/2", "12", "37.5", "99", "100", "150", "333", "1000", "1001", "2500"} {
				for _, pours := range []bool{false, true} {
					a := measure.Amount{Quantity: measure.Q(n, u), Density: dense, Pours: pours}
					i, ok := in.Best(a)
					if !ok {
						continue
					}
					fmt.Fprintf(&b, "%s %s pours %t: %s = %s, %s, off %.4f + %.4f, %d times %s; bulk %s", sys.Name, a.Quantity, pours, i.Says, i.Measured, i.Off(), i.Rounding, i.Reading, i.Actions, i.Way, a.Bulk())
					for _, d := range []measure.Dimension{measure.Mass, measure.Volume, measure.Count} {
						if way, ok := in.By(d, a); ok && way.Says != i.Says {
							fmt.Fprintf(&b, " | %s", way.Says)
						}
					}
					b.WriteString("\n")
				}
			}
		}
	}
	golden.Same(t, "measured.golden", b.String())
}
