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

// Lines with what only some people write in them.
func TestTheAmountsOfOddLines(t *testing.T) {
	var b strings.Builder
	for _, line := range []string{
		"1 of 400 g tin tomatoes", "1 of the onions", "1 of tin beans", "2 x tins beans", "2 x onions", "3 x eggs", "3x eggs", "3xl eggs", "2 xtra large eggs", "x", "x 2 eggs",
		"spoon of honey", "spoonful honey", "a spoon", "honey: drizzle", "oil: glug", "honey: a spoon of", "4 (200 g) chicken breasts", "4 (about 200 g each) chicken breasts", "4 chicken breasts (200 g each)", "2 (400 g tins) beans", "2 (400 g) beans", "1 (8 oz/225 g) steak",
		"1 (8 oz/225 g/0.5 lb) steak", "1 (8 oz/) steak", "1 (roughly) onion", "1 (small tin) beans", "5-2.5 g yeast", "5.25-2.75 g yeast", "10 to 5 eggs", "2 tom onions", "1 to two onions", "half to one tsp salt", "1 to 1 tsp salt", "one to 2½ tsp salt", "½ to one tsp salt", "2 tor onions",
		"1 lb 4 oz flour", "1 lb 4 oz (550 g) flour", "1 lb 4 cups flour", "1 oz 4 lb flour", "1 cup plus 2 tbsp flour", "1 cup and 2 cups flour", "2 tsp + 1 tsp salt", "2 tsp + 1 g salt", "1 onion + 2 g salt", "1 tin + 200 g beans", "1 cup - 1 tbsp flour", "1 cup minus 1 tbsp flour",
		"200 g / 7 oz flour", "200 g/12 oz flour", "200 g/200 ml flour", "200 g (7 oz) flour", "200 g (3 oz) flour", "200 g, packed, brown sugar", "1 cup firmly packed brown sugar", "1 cup tightly sugar", "1 lightly heaped tsp salt", "1 and heaped tsp salt", "1 very heaped tsp salt",
		"1 (400 g tin beans", "1 (400 g (drained) tin) beans", "1 onion (red (or white)", "1 onion (red (or white))", "1 onion (finely chopped) (optional)", "1 onion, finely chopped, optional", "1 onion finely chopped", "1 finely chopped", "finely chopped onion", "1 very finely chopped onion", "1 onion very", "chopped", "1 chopped", "1 cut onion", "1 onion cut into wedges", "cut 1 onion", "cut into 4",
		"1.234,56 g flour", "1,234.56 g flour", "1,234,567 g flour", "1.234.567 g flour", "0,234 g flour", "0.234 g flour", "0,23 g flour", "1,234 g flour", "1.234 g flour", "12,34 g flour", "12,345 g flour", "1234,567 g flour", ",234 g flour", "1,2,3 g flour", "1.2.3 g flour", "1. flour", "1, flour", "1,5.5 g flour",
		"2½ ½ tsp salt", "2 ½½ tsp salt", "1½1 tsp salt", "1 3/2 tsp salt", "1 2/3 tsp salt", "3/0 tsp salt", "1/2/3 tsp salt", "10 1/2 oz flour", "1 1 1/2 tsp salt", "2 and 1 tsp salt", "2 and 1½ tsp salt",
		"‘2’ eggs", "“2” eggs", "`2` eggs", "２ eggs", "２５０ g flour", "2\u00a0eggs", "2 eggs’", "2'' ginger", "2\" ginger", "2″ ginger", "2′ ginger",
		"1000000 g flour", "100000 g flour", "100001 g flour", "10000 eggs", "10001 eggs", "100 l milk", "101 l milk", "10000 cm string", "10001 cm string", "1e20 g flour", "0 g flour", "0.0001 g flour",
		strings.Repeat("salt ", 60), strings.Repeat("2 ", 110) + "eggs", "2 " + strings.Repeat("é", 300),
		"between 2 and 3 onions", "between two and three tbsp oil", "up to 3 tbsp oil", "at least 3 tbsp oil", "max 3 tbsp oil", "about half a lemon", "approx. 2-3 g salt", "c. 20 g salt", "~20 g salt", "± 20 g salt", "<20 g salt", ">20 g salt",
		"gas mark", "1 gas", "2 g", "g 2", "2g", "2 gee", "250 flour g", "250g. flour", "250 g. flour", "250 gr. flour", "250 gms flour", "2 T sugar", "2 t sugar", "2 Tb sugar", "2 tbs sugar", "2 c flour", "2 C flour", "2 # flour", "2 lbs. flour", "2 fl. oz. milk", "2 fl oz. milk", "2 floz milk", "2 pts milk", "2 ltr milk", "2 litres milk", "2 ltrs milk",
	} {
		for _, sys := range []measure.System{measure.Metric, measure.US} {
			r := measure.Read(line, sys)
			fmt.Fprintf(&b, "%.60s: %t %s–%s %s “%.40s” %s | %.60s | %.200q %.200q %.60s %t %t %t", line, r.Given, r.Low, r.High, r.Unit.ID, r.Name, r.Size, r.Note, r.Doubts, r.Problems, r.Unread, r.Taste, r.Surface, r.Optional)
			for _, q := range r.Also {
				fmt.Fprintf(&b, ", or %s", q)
			}
			if r.Pack != nil {
				fmt.Fprintf(&b, ", %s of %s %s", r.Pack.Count, r.Pack.Size, r.Pack.Word.ID)
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "odd.golden", b.String())
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
