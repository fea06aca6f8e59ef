package pantry_test

import (
	"fmt"
	"strings"
	"testing"

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
