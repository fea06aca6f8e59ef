package pantry_test

import (
	"fmt"
	"hash/crc32"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/golden"
)

// Everything that is known of the stock stands in a file: a fact that moves is
// seen before anybody cooks, or eats, by it.
func TestTheStockThatShips(t *testing.T) {
	var b strings.Builder
	for _, i := range pantry.Stock().List() {
		fmt.Fprintf(&b, "%s: %s, %s; %s %s keeps %d %s; %v to read %v from %v;", i.ID, i.Name, i.Plural, i.Role, i.Place, i.Keeps, i.Season, i.Allergens, i.ToRead(), i.From)
		for _, q := range []measure.Quantity{measure.Q("1", measure.Teaspoon), measure.Q("1", measure.Cup), measure.Q("1", measure.Each)} {
			if g, ok := i.Grams(q); ok {
				fmt.Fprintf(&b, " %s %s g", q, g.Decimal(2))
			}
		}
		if g, ok := i.BoughtGrams(measure.Q("1", measure.Each)); ok {
			fmt.Fprintf(&b, ", bought %s g", g.Decimal(2))
		}
		for _, q := range []measure.Quantity{measure.Q("100", measure.Gram), measure.Q("100", measure.Millilitre), measure.Q("1", measure.Each)} {
			if p, ok := i.Pence(q); ok {
				fmt.Fprintf(&b, ", %s %s p", q, p.Decimal(2))
			}
		}
		for _, d := range pantry.Diets {
			fmt.Fprintf(&b, "; %s %v", d.Name, d.Judge(i))
		}
		if i.Trimmed().Sign() > 0 {
			fmt.Fprintf(&b, "; trimmed %s", i.Trimmed().Decimal(3))
		}
		if i.Freezes > 0 {
			fmt.Fprintf(&b, "; frozen %d", i.Freezes)
		}
		fmt.Fprintf(&b, "; %s, %s; %s\n", pantry.FillingsText(i.Fillings), pantry.PacksText(i.Packs), i.Of(measure.Q("2", measure.Each)))
	}
	golden.Same(t, "stock.golden", b.String())
}

// What is taken for every line of the corpora, and for names in other forms.
func TestTheNamesOfTheCorpora(t *testing.T) {
	var b strings.Builder
	p := pantry.Stock()
	seen := map[string]bool{}
	tell := func(name string, u measure.Unit) {
		key := name + u.ID
		if seen[key] || name == "" {
			return
		}
		seen[key] = true
		m := p.MatchAs(name, u)
		fmt.Fprintf(&b, "%s %s:", u.ID, name)
		if m.Certain {
			fmt.Fprintf(&b, " %s", m.Ingredient.ID)
		}
		for n, maybe := range m.Maybe() {
			if n < 4 {
				fmt.Fprintf(&b, " %s?", maybe.ID)
			}
		}
		b.WriteString("\n")
	}
	for _, line := range golden.Corpora(t) {
		r := measure.Read(line, measure.Metric)
		if r.Given {
			tell(r.Name, r.Unit)
			continue
		}
		for _, m := range p.Mentioned(line) {
			fmt.Fprintf(&b, "mentioned: %s as %s\n", m.ID, m.Words)
		}
	}
	for n, i := range p.List() {
		if n%4 != 0 {
			continue
		}
		for _, form := range []string{"%s", "fresh %s", "chopped %s", "%s powder", "tinned %s", "gluten-free %s", "vegan %s", "no %s", "%s sauce", "baby %s"} {
			tell(fmt.Sprintf(form, i.Name), measure.Gram)
		}
	}
	golden.Same(t, "names.golden", b.String())
}

// The form of every ingredient with figures that have to be rounded, what it weighs in every word that things are counted by,
// and what it holds of every food, in sums.
func TestIngredientsInEveryWord(t *testing.T) {
	sum := func(text string) string { return fmt.Sprintf("%08x", crc32.ChecksumIEEE([]byte(text))) }
	var b strings.Builder
	foods := strings.Fields("citrus tomato onion garlic chickpea bean pork alcohol kiwi")
	for _, i := range pantry.Stock().List() {
		var words, holds strings.Builder
		for _, id := range strings.Fields("bag ball bar block bottle box bunch can clove cube each fillet g head jar l leaf loaf ml packet piece pot rasher sachet sheet slice spoon sprig stalk stick tbsp tin tub tube") {
			u, ok := measure.UnitOf(id)
			if !ok {
				continue
			}
			for _, n := range []exact.Number{exact.Frac(1, 2), exact.Int(1), exact.Int(3)} {
				q := measure.Quantity{Amount: n, Unit: u}
				grams, known := i.Grams(q)
				bought, sold := i.BoughtGrams(q)
				pence, priced := i.Pence(q)
				fmt.Fprintln(&words, i.Of(q), grams.Decimal(4), known, bought.Decimal(4), sold, pence.Decimal(4), priced)
			}
		}
		for _, f := range foods {
			fmt.Fprintln(&holds, i.Holds(f))
		}
		own := i
		own.ID = "own-" + i.ID
		fmt.Fprintln(&holds, own.Holds("citrus"), own.Holds("kiwi"))
		fillings := make([]string, 0, 3)
		for _, f := range []string{"", "spooned", "level", "packed"} {
			fillings = append(fillings, i.Filled(f).String())
		}
		odd := i
		odd.One, odd.Bought, odd.Waste, odd.Keeps, odd.Freezes = exact.Frac(12345, 1000), exact.Frac(23456, 1000), exact.Frac(12345, 100_000), 1, 1
		none := i
		none.Bought, none.Waste, none.Keeps, none.Freezes = exact.Number{}, exact.Number{}, 0, 0
		fmt.Fprintf(&b, "%s: words %s, holds %s, fillings %s, forms %s %s, trimmed %s %s\n", i.ID, sum(words.String()), sum(holds.String()), sum(fmt.Sprint(fillings)),
			sum(fmt.Sprintf("%+v", pantry.FormOf(odd))), sum(fmt.Sprintf("%+v", pantry.FormOf(none))), odd.Trimmed().Decimal(6), i.Trimmed().Decimal(6))
	}
	for _, name := range []string{
		"gf flour", "gf", "gluten-free flour", "gluten free flour", "gluten-free baking powder", "gluten free", "dairy cream", "dairy", "dairy free cream", "no added sugar squash", "sugar free jelly", "free jelly", "l'huile", "d'ail", "d'",
		"l huile d'olive", "tuna in brine", "in brine", "tuna in", "tuna in spring water", "tuna in red paint", "raw prawns", "raw carrots", "uncooked rice", "plain flour plain flour", "pies", "ties", "s", "the", "",
		strings.Repeat("butter ", 24), strings.Repeat("butter ", 25), "fresh butter fresh", "carot", "carott", "kidny beans", "choc", "veg stock", "fat free yoghurt", "no salt butter", "butter no", "free",
	} {
		m := pantry.Stock().Match(name)
		var maybe []string
		for _, i := range m.Maybe() {
			maybe = append(maybe, i.ID)
		}
		fmt.Fprintf(&b, "%.40q: %t %s %v\n", name, m.Certain, m.Ingredient.ID, maybe)
	}
	for _, text := range []string{"Add the spices. Mix", "grate cheese, slice", "butter and jam", "one two three four five six butter", "soft light brown sugar with soft dark brown sugar"} {
		var ids []string
		for _, m := range pantry.Stock().Mentioned(text) {
			ids = append(ids, m.Ingredient.ID)
		}
		fmt.Fprintf(&b, "%s: %v\n", text, ids)
	}
	for _, f := range []pantry.Form{
		{Name: "x", Freezes: "5000"}, {Name: "x", Freezes: "5001"}, {Name: "x", Freezes: "-1"}, {Name: "x", Freezes: "0"}, {Name: "x", Freezes: "a"}, {Name: "x", Waste: "90"}, {Name: "x", Waste: "90.1"}, {Name: "x", Waste: "-1"}, {Name: "x", Waste: "0"},
		{Name: "x", Waste: "b"}, {Name: "x", Label: strings.Repeat("l", 400), LabelOn: "2026-11-27"}, {Name: "x", Label: strings.Repeat("l", 401), LabelOn: "2026-11-27"}, {Name: "x", LabelOn: "soon"}, {Name: "x", Label: "l"},
	} {
		i, err := f.Read("x")
		fmt.Fprintf(&b, "%.60s: %d %s %v\n", fmt.Sprintf("%+v", f), i.Freezes, i.Waste.Decimal(4), err)
	}
	golden.Same(t, "words.golden", b.String())
}
