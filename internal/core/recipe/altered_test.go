package recipe_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/golden"
)

// What the check says more, and what less, of recipes of the corpora in which something is
// left out, is longer, hotter, for more or out of its turn.
func TestWhatTheCheckFindsOfAltered(t *testing.T) {
	const every = 10
	var b strings.Builder
	for _, file := range []string{readTuned, readMeasured, written, blind} {
		texts, titles := recipesOf(t, file)
		for n := 0; n < len(titles); n += every {
			whole := read(texts[titles[n]])
			sound := said(whole)
			fmt.Fprintf(&b, "= %s\n", titles[n])
			for what, r := range altered(whole) {
				now := said(r)
				more, less := minus(now, sound), minus(sound, now)
				if more != nil || less != nil {
					fmt.Fprintf(&b, "%s: %s; no %s\n", what, strings.Join(more, " "), strings.Join(less, " "))
				}
			}
		}
	}
	golden.Same(t, "altered.golden", b.String())
}

// said is what the check says, without the places, which move when something is left out.
func said(r recipe.Recipe) (out []string) {
	for _, f := range recipe.Check(r, pantry.Stock()) {
		out = append(out, f.Key)
	}
	return out
}

// minus returns what is in one list and not in another.
func minus(list, other []string) (out []string) {
	for _, s := range list {
		if !slices.Contains(other, s) {
			out = append(out, s)
		}
	}
	return out
}

// altered yields a recipe with one thing changed at a time, and what that is.
func altered(whole recipe.Recipe) func(yield func(string, recipe.Recipe) bool) {
	return func(yield func(string, recipe.Recipe) bool) {
		change := func(what string, do func(r *recipe.Recipe)) bool {
			r := whole.Clone()
			do(&r)
			return yield(what, r)
		}
		for i := range whole.Ingredients {
			if !change(fmt.Sprintf("without ingredient %d", i), func(r *recipe.Recipe) { r.Ingredients = slices.Delete(r.Ingredients, i, i+1) }) ||
				!change(fmt.Sprintf("ingredient %d ×8", i), func(r *recipe.Recipe) {
					r.Ingredients[i].Amount = r.Ingredients[i].Amount.Mul(exact.Int(8))
				}) {
				return
			}
		}
		for i := range whole.Steps {
			without := func(r *recipe.Recipe) { r.Steps = slices.Delete(r.Steps, i, i+1) }
			if !change(fmt.Sprintf("without step %d", i), without) ||
				!change(fmt.Sprintf("step %d first", i), func(r *recipe.Recipe) { s := r.Steps[i]; without(r); r.Steps = slices.Insert(r.Steps, 0, s) }) ||
				!change(fmt.Sprintf("step %d three times as long", i), func(r *recipe.Recipe) {
					r.Steps[i].Work, r.Steps[i].Wait = r.Steps[i].Work.Mul(exact.Int(3)), r.Steps[i].Wait.Mul(exact.Int(3))
				}) {
				return
			}
			for k, u := range whole.Steps[i].Uses {
				if u.Temperature == nil {
					continue
				}
				for _, by := range []int64{-60, -16, 16, 60} {
					if !change(fmt.Sprintf("step %d by %d °C", i, by), func(r *recipe.Recipe) {
						to := u.Temperature.Add(exact.Int(by))
						r.Steps[i].Uses = slices.Clone(r.Steps[i].Uses)
						r.Steps[i].Uses[k].Temperature = &to
					}) {
						return
					}
				}
			}
		}
		_ = change("for six times as many", func(r *recipe.Recipe) { r.Yield *= 6 }) &&
			change("without equipment", func(r *recipe.Recipe) { r.Equipment = nil }) &&
			change("without a title", func(r *recipe.Recipe) { r.Title = "" })
	}
}
