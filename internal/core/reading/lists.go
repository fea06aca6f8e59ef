package reading

import (
	"regexp"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	kitchen "freshapron/internal/core/words"
)

// partInLine takes a part with its list in one line: "For the sauce: 2 onions, 3 carrots".
func (r *reader) partInLine(l line, text string, part *string) bool {
	m := partList.FindStringSubmatch(text)
	if m == nil || !r.manyAmounts(m[2]) {
		return false
	}
	*part = kitchen.Capital(m[1])
	r.addPart(*part)
	for _, item := range listed(m[2]) {
		r.ingredient(l.at, item, *part)
	}
	return true
}

var partList = regexp.MustCompile(`(?i)^(?:for )?(?:the )?([\pL][\pL ]{2,28}?)\s*:\s*(.+,.+)$`)

// nameFirst takes an ingredient with its amount behind it: "Potatoes - about 2lb".
func (r *reader) nameFirst(l line, part string) bool {
	m := amountBehind.FindStringSubmatch(l.item)
	if m == nil {
		return false
	}
	turned := m[2] + " " + m[1]
	if t := r.take(turned); !t.Reading.Given || !t.Match.Certain {
		return false
	}
	r.ingredient(l.at, turned, part)
	return true
}

var amountBehind = regexp.MustCompile(`(?i)^([\pL][\pL ]{2,30}?)\s*[-–—:]\s*(?:about |approx\.? |ca\.? |~)?((?:\d|[½¼¾⅓⅔])[^,]{0,16}?)(?:\s+(?:for|per|each)\b.*)?$`)

// nutrition reports whether a line is one of a table of what a portion holds: among its
// neighbours there is one that can be nothing else.
func (r *reader) nutrition(n int) bool {
	is := func(n int) bool {
		return n >= 0 && n < len(r.lines) && r.lines[n].quiet == "" && nutrient.MatchString(r.lines[n].plain())
	}
	if !is(n) {
		return false
	}
	if strings.HasPrefix(r.about, "nutrition") {
		return true
	}
	first, last := n, n
	for is(first - 1) {
		first--
	}
	for is(last + 1) {
		last++
	}
	return slices.ContainsFunc(r.lines[first:last+1], func(l line) bool { return nothingElse.MatchString(l.plain()) })
}

var (
	nutrient    = regexp.MustCompile(`(?i)^\W*(?:of which )?(?:energy|calories|total fat|saturated fat|trans fat|fat|saturates|cholesterol|sodium|salt|carbohydrates?|carbs|sugars?|fibre|fiber|protein)\b\s*[:=\-–—|]?\s*<?\s*\d+(?:[.,]\d+)?\s*(?:g|mg|kcals?|cals?|kj)?\b[^\pL]*(?:kcals?|kj)?\W*$`)
	nothingElse = regexp.MustCompile(`(?i)\b(?:energy|calories|kcals?|kj|saturate[sd]|cholesterol|sodium|carbohydrates?|carbs|fib(?:re|er)|protein)\b`)
)

// eachAmount reports whether every part of a line is an ingredient with its
// amount: "4 tbsp syrup, 1 egg".
func (r *reader) eachAmount(s string) bool {
	return !slices.ContainsFunc(strings.Split(s, ","), func(item string) bool {
		t := r.take(strings.TrimSpace(item))
		return !t.Reading.Given || !t.Match.Certain
	})
}

var amountThere = regexp.MustCompile(`(?:^|[\s(])(?:\d|[½¼¾⅓⅔]|a pinch|pinch)`)

// manyAmounts reports whether a line holds several ingredients.
func (r *reader) manyAmounts(s string) bool {
	with := 0
	items := listed(s)
	for _, item := range items {
		if t := r.take(item); t.Reading.Given && (t.Reading.Unit.Dimension != measure.Count || t.Match.Certain) {
			with++
		}
	}
	return with >= 2 && 2*with >= len(items)
}

// listed parts a list in one line at its commas, and at "and" before an
// amount.
func listed(s string) []string {
	s = strings.TrimRight(strings.TrimSpace(s), ".")
	sep := ","
	if strings.Count(s, ";") > 0 {
		sep = ";"
	}
	var out []string
	for _, item := range strings.Split(s, sep) {
		for _, half := range andAmount.Split(item, -1) {
			half = strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(half), "and "))
			if half == "" {
				continue
			}
			if len(out) > 0 && !amountThere.MatchString(half) && isJob(half) && !strings.Contains(half, " and ") {
				out[len(out)-1] += ", " + half // "2 onions, chopped, 3 eggs"
				continue
			}
			out = append(out, half)
		}
	}
	return out
}

var andAmount = regexp.MustCompile(`\s+(?:and|&|\+|plus)\s+(?:\b|$)`)

// inMethodAmounts takes the amounts that the method names where there is no
// list; where there is one, only water.
func (r *reader) inMethodAmounts() {
	have := len(r.Ingredients) > 0
	water := slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool { return i.Taking.Ingredient.Pantry == "water" })
	for _, p := range r.prose {
		for _, m := range proseAmount.FindAllStringSubmatchIndex(p.text, -1) {
			item := strings.TrimSpace(p.text[m[2]:m[3]])
			t := r.take(item)
			lines := p.linesOf(m[2], m[3])
			if !t.Reading.Given || len(lines) == 0 || t.Reading.Unit.Dimension == measure.Length || t.Reading.Low.Cmp(exact.Int(0)) <= 0 {
				continue
			}
			if t.Ingredient.Name == "each" { // of what was named before
				continue
			}
			isWater := t.Ingredient.Pantry == "water"
			if have && (!isWater || water) || t.Reading.Unit.Dimension == measure.Count && !t.Match.Certain && !t.Reading.Unit.Loose() {
				continue
			}
			water = water || isWater
			r.Ingredients = append(r.Ingredients, Ingredient{Line: lines[0], Taking: t, Prepared: ""})
		}
	}
}

var proseAmount = regexp.MustCompile(`(?i)(?:^|[\s(,])((?:(?:\d+(?:[.,/]\d+)?(?:\s*\d/\d)?\s*[½¼¾⅓⅔]?|[½¼¾⅓⅔]|half an?|a|an|one|two|three|four|five|six|eight)(?:\s*(?:-|–|to)\s*\d+)?\s*(?:g|kg|ml|l|cl|dl|oz|lb|fl oz|pints?|cups?|tsp|tbsp|teaspoons?|tablespoons?|dsp|dessertspoons?|pinch(?:es)?|knob|handful|tins?|cans?|cloves?|litres?|grams?)?\.?\s+(?:of\s+)?(?:[\pL][\pL'-]*)(?:\s+[\pL][\pL'-]*){0,3}?))(?:$|[.,;:)]|\s*\(|\s+(?:and|into|in|with|to|on|until|over|for|then|or|plus|from|together|at|through|by|is|are|onto|well|until|gently|if)\b)`)
