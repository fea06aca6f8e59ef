package recipe

import (
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
)

// TakenBy returns, for each ingredient, the place of the first step that takes it
// in: one that names it, or what stands with it in its part of the dish. It is −1
// where no step does. Weighing out takes nothing in.
func (r Recipe) TakenBy(p *pantry.Pantry) []int {
	type said struct {
		text string
		ws   []string
	}
	steps := make([]said, len(r.Steps))
	for n, s := range r.Steps {
		text := strings.ToLower(s.wording())
		steps[n] = said{text, pantry.Words(text)}
	}
	names := make([][]bool, len(r.Ingredients)) // by ingredient and step
	for i, in := range r.Ingredients {
		stock, _ := p.Find(in.Pantry)
		speaks := func(of func(n int) bool) []bool {
			list := make([]bool, len(steps))
			for n, s := range r.Steps {
				list[n] = s.Kind != fit.Weigh && !ofTheList(s.Text) && of(n)
			}
			return list
		}
		names[i] = speaks(func(n int) bool { return namedIn(steps[n].ws, in, stock) })
		if anywhere := goesIn("", stock); !anywhere && !slices.Contains(names[i], true) {
			names[i] = speaks(func(n int) bool { return goesIn(steps[n].text, stock) })
		}
	}
	// What stands in two parts is told apart by what stands with it in one of them alone.
	twice := func(in Ingredient) bool {
		return in.Pantry != "" && slices.ContainsFunc(r.Ingredients, func(o Ingredient) bool { return o.Pantry == in.Pantry && o.Part != in.Part })
	}
	out := make([]int, len(r.Ingredients))
	for i, in := range r.Ingredients {
		beside := func(n int) bool {
			for k, other := range r.Ingredients {
				if k != i && other.Part == in.Part && !twice(other) && names[k][n] {
					return true
				}
			}
			return false
		}
		out[i] = slices.Index(names[i], true)
		if out[i] >= 0 && !twice(in) {
			continue
		}
		for n := range r.Steps {
			if beside(n) && (names[i][n] || out[i] < 0) {
				out[i] = n
				break
			}
		}
	}
	return out
}
