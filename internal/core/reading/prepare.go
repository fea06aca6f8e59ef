package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// jobs are the words for work that stands in a list of ingredients. Minutes
// are typical of one piece or of 100 g, for a learner who can do it.
var jobs = []struct {
	words *pattern.Pattern
	kind  fit.Kind
	each  float64
	most  float64
}{
	{pattern.Must(`(?i)\b(?:chopped|diced|cubed|sliced|shredded|julienned|snipped|torn|minced|cut (?:into|in|small|up|thinly|finely|lengthways|across|\d)|^\W*(?:(?:thin|thick|fine|small|large|long|bite-sized?) )*(?:rounds|strips|slices|rings|half[- ]moons|matchsticks|batons|florets|chunks|cubes|wedges)\W*$|halved|quartered|segmented|broken|crumbled|crumbed|flaked|slit|brunoise|(?:in(?:to)? )?(?:small|medium|large|fine|rough|neat|\d+ ?(?:cm|mm)) (?:dice|cubes|chunks|slices|strips|sticks))\b`), fit.Cut, 2, 8},
	{pattern.Must(`(?i)\b(?:grated|fine grate|zested|zest only|finely grated)\b`), fit.Cut, 2, 6},
	{pattern.Must(`(?i)\b(?:peeled|skinned|deseeded|seeded|de-seeded|cored|stoned|pitted|hulled|trimmed|boned|topped(?: (?:and|&) tailed)?|tailed|shelled|scrubbed|destalked|de-stalked)\b`), fit.Cut, 1, 6},
	{pattern.Must(`(?i)\b(?:crushed|juiced|squeezed|juice only|mashed|pur[eé]ed|blended|blitzed|bashed|pounded)\b`), fit.Prepare, 1, 4},
	{pattern.Must(`(?i)\b(?:beaten|whisked|separated|whipped)\b`), fit.Mix, 1, 3},
	{pattern.Must(`(?i)\b(?:melted)\b`), fit.Cook, 2, 2},
	{pattern.Must(`(?i)\b(?:toasted)\b`), fit.Cook, 3, 3},
	{pattern.Must(`(?i)\b(?:drained|rinsed|washed)\b`), fit.Prepare, 1, 2},
	{pattern.Must(`(?i)\b(?:sifted|sieved)\b`), fit.Mix, 1, 1},
}

var (
	notNow = pattern.Must(`(?i)\b(?:to serve|to garnish|to decorate|optional|or |as needed|for dusting|for greasing|ready|pre-?|shop|bought|cooked)`)
	sold   = pattern.Must(`(?i)\b(?:chopped|crushed|plum|diced|sliced|grated|minced|shredded|flaked|dried|ground|toasted|cooked|frozen|tinned|canned|peeled|melted|whipped|mashed|rolled|ready|pitted|stoned|crumbled) (?:tinned |canned |smoked |mature |strong |dried |white |red |stewing |roasted |salted |mixed )*(?:tomato(?:es)?|nuts?|almonds?|hazelnuts?|walnuts?|peanuts?|cheese|cheddar|mozzarella|parmesan|bread|ham|beef|lamb|pork|chicken|turkey|steak|meat|suet|coconut|peaches|pineapple|pears|oats|rice|prawns|olives|dates|prunes|cherries|pepperoni|salami|bacon|mixed peel|peel|biscuits|spinach|peas|sweetcorn|chillies|chilli|gherkins|beetroot|jalape[nñ]os?|onions in|tuna|salmon)\b`)
)

// prepared is the work that a line of the list asks for: what follows the
// comma, or a participle before the name where shops do not sell it so.
func prepared(t recipe.Taking) string {
	note := strings.TrimSpace(t.Ingredient.Note)
	line := strings.ToLower(t.Reading.Line)
	for _, part := range strings.FieldsFunc(note, func(c rune) bool { return c == ',' || c == ';' }) {
		if !isJob(part) || strings.HasSuffix(t.Ingredient.Pantry, "-mince") && strings.Contains(part, "minced") {
			continue
		}
		if at := strings.Index(line, strings.ToLower(part)); at >= 0 {
			name := strings.Index(line, strings.ToLower(t.Ingredient.Name))
			if name > at && sold.MatchString(line[at:]) {
				continue // it is bought so
			}
		}
		return strings.Trim(note, " ,.")
	}
	return ""
}

// isJob reports whether words say that something is done to the food.
func isJob(s string) bool {
	return slices.ContainsFunc(jobs, func(j struct {
		words *pattern.Pattern
		kind  fit.Kind
		each  float64
		most  float64
	}) bool {
		return j.words.MatchString(s)
	})
}

// prepare makes steps of the work in the list, before what needs it.
func (r *reader) prepare() {
	var first []Step
	if len(r.Steps) == 0 {
		return
	}
	for _, in := range r.Ingredients {
		if in.Prepared == "" || notNow.MatchString(in.Prepared) || r.saysSo(in) {
			continue
		}
		if s, ok := r.job(in); ok {
			first = append(first, s)
		}
	}
	if len(first) == 0 {
		return
	}
	r.before(first)
	for n := range first {
		r.needs(n, len(first))
	}
}

// saysSo reports whether the method itself tells to cut what the list has cut:
// then the words in the list are no other work.
func (r *reader) saysSo(in Ingredient) bool {
	name := pantry.Folded(in.Taking.Ingredient.Name)
	if len(name) > 1 && ofMeat.MatchString(name[len(name)-1]) { // a chicken breast is chicken
		name = name[:len(name)-1]
	}
	if len(name) == 0 {
		return false
	}
	return slices.ContainsFunc(r.Steps, func(s Step) bool {
		return (s.Kind == fit.Cut || s.Kind == fit.Weigh) && !toCheck.MatchString(s.Text) && slices.Contains(pantry.Words(s.Text), name[len(name)-1])
	})
}

// toCheck is a cut by which it is seen whether something is done.
var toCheck = pattern.Must(`(?i)\bto (?:check|see|test)\b`)

var ofMeat = pattern.Must(`^(?:breast|thigh|fillet|leg|steak|loin|drumstick|shoulder)s?$`)

// job is the step of preparing an ingredient.
func (r *reader) job(in Ingredient) (Step, bool) {
	s := Step{Lines: []int{in.Line}, Text: r.wordsOf(in), Adult: fit.NoAdult, Prepares: in.Taking.Ingredient.Name}
	works := 0.0
	pieces := pieces(in.Taking)
	for _, j := range jobs {
		if !j.words.MatchString(in.Prepared) {
			continue
		}
		if s.Kind == "" {
			s.Kind = j.kind
		}
		works += min(j.most, max(1, j.each*pieces))
		if j.kind == fit.Cook && len(s.Uses) == 0 {
			s.Uses = []Use{{Equipment: "ring"}}
		}
	}
	if s.Kind == "" {
		return s, false
	}
	n := typical(min(works, 10))
	s.Work = Minutes{n, n, recipe.Typical}
	return s, true
}

// pieces is how many there are to prepare, or hundreds of grams.
func pieces(t recipe.Taking) float64 {
	q := t.Ingredient.Quantity
	if !t.Ingredient.Given() {
		return 1
	}
	switch q.Unit.Dimension {
	case measure.Mass:
		return q.Base().Div(exact.Int(100)).Float()
	case measure.Volume:
		return q.Base().Div(exact.Int(200)).Float()
	}
	if q.Unit.ID == "clove" || q.Unit.Loose() {
		return q.Amount.Float() / 2
	}
	return q.Amount.Float()
}

// needs lets the first step that names what was prepared wait for it.
func (r *reader) needs(n, from int) {
	name := pantry.Folded(r.Steps[n].Prepares)
	if len(name) == 0 {
		return
	}
	last := name[len(name)-1]
	fallback := -1
	for i := from; i < len(r.Steps); i++ {
		s := &r.Steps[i]
		if fallback < 0 && handsOn(s.Kind) && !preheating(s.Text) {
			fallback = i
		}
		if slices.Contains(pantry.Words(s.Text), last) || strings.Contains(strings.ToLower(s.Text), "all the ingredients") {
			s.After = append(s.After, After{Step: n})
			return
		}
	}
	if fallback >= 0 {
		r.Steps[fallback].After = append(r.Steps[fallback].After, After{Step: n})
	}
}

// wordsOf returns the words of the source for an ingredient: its line, or its part of one that has
// several.
func (r *reader) wordsOf(in Ingredient) string {
	for _, other := range r.Ingredients {
		if other.Line == in.Line && other.Taking.Reading.Line != in.Taking.Reading.Line {
			return in.Taking.Reading.Line
		}
	}
	return r.textOf(in.Line)
}

func (r *reader) textOf(at int) string {
	for _, l := range r.lines {
		if l.at == at {
			return l.item
		}
	}
	return ""
}
