package measure_test

import (
	"fmt"
	"maps"
	"slices"
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
		"a few", "a couple of", "about 3", "approx 3", "2 x 400 g tins", "½ x 400 g tin", "1 (400 g) tin", "l50", "1O", "-1", "-½", "1,234.5", "1.234,5", "1.234.567", "1,23", "0,125", ".5", ",5", "1-1/2", "1-½", "1 & ½", "1 & 1/2", "1 and ½", "1 and a half", "one and a half", "two and a half", "one dozen", "dozen", "a couple of", "couple of",
		"two-thirds", "two thirds of a", "one third of a", "a third", "one quarter of a", "one quarter", "quarter of a", "quarter", "one half of a", "half of a", "half an", "one half", "an", "eine", "ein", "une", "un", "2 bis 3", "2 to 2½", "½–1", "1½ to 2", "12345678901234567890", "1e9", "1/0", "0", "100001", "1 large", "1 heaped", "3 level", "2 packed", "1 scant", "1 generous",
	}
	for _, r := range "⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅐⅛⅜⅝⅞⅑⅒" {
		numbers = append(numbers, string(r), "2"+string(r))
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

// How every unit is printed, and what a price is.
func TestHowQuantitiesArePrinted(t *testing.T) {
	var b strings.Builder
	for _, u := range measure.Units {
		fmt.Fprintf(&b, "%s:", u.ID)
		for _, den := range []int64{1, 2, 3, 4, 5, 6, 8, 100} {
			for _, num := range []int64{1, 2, 3, 5, 7, 9, 99, 100, 101, 999, 1000, 8001} {
				fmt.Fprintf(&b, " %s,", measure.Quantity{Amount: exact.Frac(num, den), Unit: u})
			}
		}
		b.WriteString("\n")
	}
	for _, pence := range []float64{0, 0.4, 0.5, 1, 99, 99.4, 99.5, 100, 101, 1205, -5, -250, -0.5} {
		fmt.Fprintf(&b, "%g: %s\n", pence, measure.Price(pence))
	}
	golden.Same(t, "printed.golden", b.String())
}

// How amounts are measured where the drawer is odd, and what comes in packs.
func TestHowAmountsAreMeasuredFromOddDrawers(t *testing.T) {
	drawers := map[string]measure.Instruments{
		"1 nothing":      {},
		"2 one cup":      {Cups: measure.CupSet[:1]},
		"3 cups":         {Cups: measure.CupSet},
		"4 one spoon":    {Spoons: measure.SpoonSet[2:3]},
		"5 spoons, cups": {Spoons: measure.SpoonSet, Cups: measure.CupSet},
		"6 small jug":    {Jugs: []measure.Jug{{Marks: exact.Int(10), Holds: exact.Int(250)}}},
		"7 two scales":   {Scales: []measure.Scale{{Division: exact.Frac(1, 10), Least: exact.Int(1)}, {Division: exact.Int(5), Least: exact.Int(20)}}},
	}
	packs := []measure.PackSize{
		{Count: exact.Int(1), Size: measure.Q("400", measure.Gram), Word: measure.Named("tin", measure.Metric)},
		{Count: exact.Int(1), Size: measure.Q("150", measure.Millilitre), Word: measure.Named("tub", measure.Metric)},
		{Count: exact.Int(1), Size: measure.Q("750", measure.Gram)},
	}
	var b strings.Builder
	for _, name := range slices.Sorted(maps.Keys(drawers)) {
		for _, u := range []measure.Unit{measure.Gram, measure.Millilitre, measure.CupUS, measure.Each, measure.Named("knob", measure.Metric), measure.Inch} {
			for _, n := range []string{"0.02", "0.1", "0.3", "1/3", "0.5", "2/3", "3/4", "1", "1.01", "4/3", "3/2", "9/4", "3", "4", "5", "10", "19", "20", "21", "33", "62.5", "75", "100", "133", "134", "140", "150", "200", "230", "250", "251", "266", "300", "392", "400", "408", "409", "600", "750", "800", "1600", "2000"} {
				for k := range 4 {
					if k > 0 && u.Dimension != measure.Mass && u.Dimension != measure.Volume {
						continue
					}
					a := measure.Amount{Quantity: measure.Q(n, u), Pours: k%2 == 1, Packs: packs}
					if k > 1 {
						a.Density = measure.Density{Number: exact.MustParse("0.8")}
					}
					for _, d := range []measure.Dimension{measure.Mass, measure.Volume, measure.Count} {
						i, ok := drawers[name].By(d, a)
						if !ok {
							continue
						}
						fmt.Fprintf(&b, "%s: %s %d = %s is %s, %.4f + %.4f, %d times, %s %d, cost %.4f", name, a.Quantity, k, i.Says, i.Measured, i.Rounding, i.Reading, i.Actions, i.Way, i.By, i.Cost())
						for _, f := range i.Fillings {
							fmt.Fprintf(&b, ", %d of %s", f.Times, f.Size())
						}
						fmt.Fprintf(&b, "; %s\n", i.Jug.Holds)
					}
				}
			}
		}
	}
	golden.Same(t, "drawers.golden", b.String())
}
