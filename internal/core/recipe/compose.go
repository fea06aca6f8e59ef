package recipe

import (
	"fmt"
	"slices"

	"freshapron/internal/core/problem"
)

// A Pick is an option that a learner chose: the places of the choice and of
// the option in the recipe.
type Pick struct{ Choice, Option int }

// Compose returns the recipe with what was picked added to what everyone has,
// in parts of their own. It returns problem.List where too many or too few are
// picked; the recipe then holds what is picked all the same.
func (r Recipe) Compose(picks []Pick) (Recipe, error) {
	out := r
	out.Ingredients = slices.Clone(r.Ingredients)
	out.Choices = nil
	var problems problem.List
	for n, c := range r.Choices {
		count := 0
		for k, o := range c.Options {
			if slices.Contains(picks, Pick{n, k}) {
				count++
				out.Ingredients = append(out.Ingredients, o.Ingredients...)
			}
		}
		if count != c.Take {
			problems = append(problems, problem.Problem{Path: fmt.Sprintf("choices[%d]", n), Says: fmt.Sprintf("%s: %d chosen, and it is %d of %d", c.Name, count, c.Take, len(c.Options))})
		}
	}
	if len(problems) > 0 {
		return out, problems
	}
	return out, nil
}
