package reading

import (
	"slices"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// unbaked finds the bake that nobody named, and asks: the oven is hot, nothing goes into
// it, and the last minutes that are said are of nothing else.
func (r *reader) unbaked() {
	if r.oven == nil {
		return
	}
	inOven := func(u Use) bool { return u.Equipment == "oven" }
	first := slices.IndexFunc(r.Steps, func(s Step) bool { return slices.ContainsFunc(s.Uses, inOven) })
	if first < 0 {
		first = len(r.Steps)
	}
	for n := first - 1; n >= 0; n-- {
		s := &r.Steps[n]
		if first < len(r.Steps) && (n == 0 || r.Steps[n-1].Kind != fit.Shape || !timeFirst.MatchString(s.Text)) { // “25 minutes. Pierce them, back in for 3”
			continue
		}
		lasts := s.Work
		switch {
		case cooksOn.MatchString(s.Text):
			lasts = s.Wait
		case len(s.Uses) > 0 || s.Loads != nil || !ofNothing(s.Text):
			continue
		}
		if lasts.From != recipe.Said || lasts.Least.Less(exact.Int(leastBake)) {
			continue
		}
		s.Kind, s.Uses, s.Wait = fit.Bake, []Use{{Equipment: "oven", Celsius: r.oven}}, lasts
		s.Work = Minutes{Least: exact.Int(1), Most: exact.Int(1), From: recipe.Typical}
		s.Asks = append(s.Asks, "it is taken to be in the oven, since nothing else is")
		return
	}
}

// leastBake is how many minutes a bake lasts at least.
const leastBake = 5

var cooksOn = pattern.Must(`(?i)^cook(?: them| it)?(?: for)?(?: about)? \d[^.]*\.?$`)

// ofNothing reports whether no verb says what the minutes of a step are spent on: "12
// mins. Watch them!"
func ofNothing(text string) bool {
	for _, part := range partings.Split(text, -1) {
		if len(duration.In(part)) > 0 && slices.ContainsFunc(verbsIn(part), func(v spoken) bool { return !idlers[v.word] }) {
			return false
		}
	}
	return true
}

// idlers say nothing of what happens meanwhile.
var idlers = wordSet("turn watch check put pop place slide")

var partings = pattern.Must(`[.,;!]\s|\s[-–—]\s`)

// aheadOf gives a bake the minutes that stand beside the oven's heat before the first step:
// "Oven 200C, 30 mins".
func (r *reader) aheadOf() {
	for n := range r.Steps {
		s := &r.Steps[n]
		if s.Work.From != recipe.Said || len(s.Uses) > 0 || !ovenAndTime.MatchString(s.Text) {
			continue
		}
		for k := n + 1; k < len(r.Steps); k++ {
			if b := &r.Steps[k]; b.Kind == fit.Bake && b.Wait.From == recipe.Typical && len(b.Asks) == 0 {
				b.Wait = s.Work
				s.Work = Minutes{Least: exact.Frac(1, 2), Most: exact.Frac(1, 2), From: recipe.Typical}
				return
			}
		}
	}
}

var ovenAndTime = pattern.Must(`(?i)^\W*(?:the )?oven\b[^.]{0,40}\d+ ?min[^.]{0,8}\.?$`)
