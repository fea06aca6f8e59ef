package pantry

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
)

// A Match is what a name was taken for. Where it is not Certain, nothing was
// taken, and Maybe lists what could be meant.
type Match struct {
	Certain    bool
	Ingredient Ingredient
	likely     func() []Ingredient // nil where it is certain
}

// Maybe lists what could be meant, the likeliest first. It looks through the
// whole pantry each time.
func (m Match) Maybe() []Ingredient {
	if m.likely == nil {
		return nil
	}
	return m.likely()
}

// harmless words say how a thing is bought, cut or served, not what it is.
var harmless = wordSet(`fresh freshly finely roughly coarsely thinly chopped diced sliced grated crushed minced peeled shredded cubed halved
	large medium small big extra organic good quality best free range free-range british local ripe over overripe raw uncooked plain-tasting unsmoked
	the a an of some your favourite ground-up cold warm hot luke lukewarm tepid boiling room temperature softened melted
	washed rinsed drained reduced-salt trimmed deseeded boneless skinless rindless lean level heaped unwaxed reduced-fat low-fat fat reduced no added
	ready-to-eat unsalted salted slightly strong mild runny set fine sea table dried-out whole leaves leaf tinned canned frozen tin can
	packed loose sifted sieved beaten lightly mixed-up cut into pieces piece cubes thick thin strips wedges dairy spare soft tender firm stale baby baked short skinned hard-boiled boiled day-old leftover peeled`)

// telling words change what a thing is: with one of them that no name has,
// nothing is certain.
func wordSet(s string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(s) {
		m[w], m[fold(w)] = true, true
	}
	return m
}

// fold brings a word to lower case without accents and takes its plural off.
func fold(w string) string {
	w = strings.ToLower(w)
	w = strings.Map(func(r rune) rune {
		switch r {
		case 'é', 'è', 'ê', 'ë':
			return 'e'
		case 'à', 'á', 'â', 'ä', 'å':
			return 'a'
		case 'î', 'ï', 'í':
			return 'i'
		case 'ô', 'ö', 'ó':
			return 'o'
		case 'û', 'ü', 'ú', 'ù':
			return 'u'
		case 'ç':
			return 'c'
		case 'ñ':
			return 'n'
		}
		return r
	}, w)
	if whole, ok := short[w]; ok { // "toms" are tomatoes, Tom is none
		return whole
	}
	w = singular(w)
	if whole, ok := short[w]; ok {
		return whole
	}
	return w
}

// short are words as people shorten them.
var short = map[string]string{
	"pwdr": "powder", "pdr": "powder", "flr": "flour", "choc": "chocolate", "veg": "vegetable", "toms": "tomato", "yog": "yoghurt", "yogurt": "yoghurt",
	"marge": "margarine", "spud": "potato", "cuke": "cucumber", "strawb": "strawberry",
}

// singular takes off the plural of the words of a kitchen. It need not make
// an English word, only the same of one and of many.
func singular(w string) string {
	switch {
	case len(w) < 4, strings.HasSuffix(w, "ss"), strings.HasSuffix(w, "us"), strings.HasSuffix(w, "is"):
		return w
	case w == "chillies", w == "chilies":
		return strings.TrimSuffix(w, "es")
	case w == "leaves":
		return "leaf"
	case w == "loaves":
		return "loaf"
	case w == "halves":
		return "half"
	case strings.HasSuffix(w, "ies") && len(w) > 4:
		return w[:len(w)-3] + "y"
	case strings.HasSuffix(w, "oes"), strings.HasSuffix(w, "shes"), strings.HasSuffix(w, "ches"), strings.HasSuffix(w, "xes"), strings.HasSuffix(w, "sses"):
		return w[:len(w)-2]
	case strings.HasSuffix(w, "s"):
		return w[:len(w)-1]
	}
	return w
}

// words splits a name into folded words; hyphens part them.
func words(name string) []string {
	parts := strings.FieldsFunc(name, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '\'' && r != '%'
	})
	out := make([]string, 0, len(parts))
	for _, p := range parts {
		if _, name, elided := strings.Cut(p, "'"); elided && (p[0] == 'l' || p[0] == 'd') && p[1] == '\'' && name != "" { // "l'huile", "d'ail"
			p = name
		}
		out = append(out, fold(strings.Trim(p, "'")))
	}
	return out
}

func key(words []string) string { return strings.Join(words, " ") }

// index fills the table of names. A name that two ingredients share belongs
// to the one whose own name it is, then to the first that lists it, and only
// then to one that has it without its harmless words.
func (p *Pantry) index() {
	add := func(n int, ws []string) {
		k := key(ws)
		if k == "" {
			return
		}
		if first, taken := p.names[k]; !taken {
			p.names[k] = n
		} else if first != n {
			p.others[k] = append(p.others[k], n)
		}
	}
	for n, i := range p.list {
		add(n, words(i.Name))
		add(n, words(i.Plural))
	}
	for n, i := range p.list {
		for _, name := range i.Also {
			add(n, words(name))
		}
	}
	for n, i := range p.list {
		for _, name := range append([]string{i.Name, i.Plural}, i.Also...) {
			ws := words(name)
			if k := key(meaning(ws)); k != "" && !denies(ws) && !generic[k] {
				if _, taken := p.names[k]; !taken {
					p.names[k] = n
				}
			}
		}
	}
}

// generic words say too little to be a name, whatever harmless word stood
// beside them.
var generic = wordSet(`mixed spice sauce meat vegetable fruit fish paste mix spread juice powder seasoning drink block cube seed leaf bean`)

// meaning drops the harmless words.
func meaning(ws []string) []string {
	var out []string
	for _, w := range ws {
		if !harmless[w] {
			out = append(out, w)
		}
	}
	return out
}

// Match finds the ingredient that a name means. It is certain where the name,
// or what of it carries meaning, is a name in the pantry; never because it
// merely looks like one.
func (p *Pantry) Match(name string) Match { return p.match(name, nil) }

// MatchAs is Match for an amount in a unit: of the two kinds of pepper, a
// teaspoon is of the ground one and two are of the red.
func (p *Pantry) MatchAs(name string, u measure.Unit) Match {
	switch {
	case u.Loose(), u.Dimension == measure.Volume:
		counted := false
		return p.match(name, &counted)
	case u.Dimension == measure.Count:
		counted := true
		return p.match(name, &counted)
	}
	return p.match(name, nil)
}

// choose picks among the ingredients that share a name.
func (p *Pantry) choose(k string, counted *bool) (int, bool) {
	n, ok := p.names[k]
	if !ok || counted == nil || p.list[n].Counted() == *counted {
		return n, ok
	}
	for _, other := range p.others[k] {
		if p.list[other].Counted() == *counted {
			return other, true
		}
	}
	return n, true
}

func (p *Pantry) match(name string, counted *bool) Match {
	ws := words(name)
	if len(ws) == 0 || len(ws) > 24 {
		return Match{}
	}
	m := p.named(ws, counted)
	if m.Certain && !m.Ingredient.Has(Raw) && (slices.Contains(ws, "raw") || slices.Contains(ws, "uncooked")) {
		if raw, ok := p.Find("raw-" + m.Ingredient.ID); ok { // what is raw is cooked and probed
			m.Ingredient = raw
		}
	}
	return m
}

func (p *Pantry) named(ws []string, counted *bool) Match {
	if len(ws) == 0 {
		return Match{}
	}
	if n, ok := p.choose(key(ws), counted); ok {
		return Match{Certain: true, Ingredient: p.list[n]}
	}
	if m := p.named(withoutGluten(ws), counted); m.Certain && !slices.ContainsFunc(m.Ingredient.Allergens, ofGluten) {
		return m // "gluten-free baking powder" is baking powder, which has none
	}
	if denies(ws) { // "dairy-free spread" is no spread, "vegan cheese" no cheese
		return Match{likely: func() []Ingredient { return p.likely(meaning(ws)) }}
	}
	if k := key(meaning(ws)); k != "" {
		if n, ok := p.choose(k, counted); ok {
			return Match{Certain: true, Ingredient: p.list[n]}
		}
	}
	if m := p.named(drainedOf(ws), counted); m.Certain {
		return m
	}
	// The longest name inside, where all the other words are harmless.
	if n, ok := p.inside(ws, counted); ok {
		return Match{Certain: true, Ingredient: p.list[n]}
	}
	return Match{likely: func() []Ingredient { return p.likely(meaning(ws)) }}
}

// keeping words are what things lie in that are drained before they are used.
var keeping = wordSet(`brine salted spring water sunflower olive vegetable oil own natural grape apple fruit juice light heavy sugar syrup`)

// drainedOf are the words before "in brine", "in natural juice"; none where they
// don't end so.
func drainedOf(ws []string) []string {
	in := slices.Index(ws, "in")
	if in < 1 || in == len(ws)-1 || slices.ContainsFunc(ws[in+1:], func(w string) bool { return !keeping[w] }) {
		return nil
	}
	return ws[:in]
}

// withoutGluten are the words after "gluten-free"; none where they don't begin so.
func withoutGluten(ws []string) []string {
	switch {
	case len(ws) > 1 && (ws[0] == "gf" || ws[0] == "gluten-free"):
		return ws[1:]
	case len(ws) > 2 && ws[0] == "gluten" && ws[1] == "free":
		return ws[2:]
	}
	return nil
}

// ofGluten reports whether an allergen is a cereal with gluten.
func ofGluten(a Allergen) bool { return a == Wheat || a == Rye || a == Barley || a == Oats }

// denying words take from a name what it is: only a name that has them too is
// meant.
var denying = wordSet(`free non no without alternative substitute style type imitation mock vegan plant-based plant meatless dairy eggless egg-free replacement replacer lactose instead faux analogue`)

// harmlessly are what is left out without making another thing of it.
var harmlessly = wordSet(`fat sugar salt seed added cage range`)

// denies reports whether words say that a thing is not what its name says.
func denies(ws []string) bool {
	for n, w := range ws {
		switch {
		case !denying[w]:
		case w == "free" && n > 0 && harmlessly[ws[n-1]], (w == "free" || w == "no") && n+1 < len(ws) && harmlessly[ws[n+1]]:
		case w == "dairy" && (n+1 >= len(ws) || ws[n+1] != "free"): // "dairy cream"
		default:
			return true
		}
	}
	return false
}

// inside finds the longest name that stands in the words with nothing but
// harmless words around it.
func (p *Pantry) inside(ws []string, counted *bool) (int, bool) {
	for length := len(ws) - 1; length > 0; length-- {
		for from := 0; from+length <= len(ws); from++ {
			n, ok := p.choose(key(ws[from:from+length]), counted)
			if ok && len(meaning(ws[:from])) == 0 && len(meaning(ws[from+length:])) == 0 {
				return n, true
			}
		}
	}
	return 0, false
}

// likely lists what the words could mean: names that share words with them,
// or that are one or two letters away.
func (p *Pantry) likely(ws []string) []Ingredient {
	if len(ws) == 0 {
		return nil
	}
	type scored struct {
		n     int
		score float64
	}
	best := map[int]float64{}
	text := key(ws)
	for name, n := range p.names {
		parts := strings.Fields(name)
		shared := 0
		for _, w := range ws {
			for _, part := range parts {
				if w == part || len(w) > 4 && near(w, part) {
					shared++
					break
				}
			}
		}
		score := float64(2*shared) / float64(len(ws)+len(parts))
		if parts[len(parts)-1] == ws[len(ws)-1] {
			score += 0.2 // the last word is what it is
		}
		if len(text) > 3 && near(text, name) {
			score = max(score, 0.9)
		}
		if score >= 0.4 && score > best[n] {
			best[n] = score
		}
	}
	var list []scored
	for n, s := range best {
		list = append(list, scored{n, s})
	}
	slices.SortFunc(list, func(a, b scored) int { return cmp.Or(cmp.Compare(b.score, a.score), cmp.Compare(a.n, b.n)) })
	const most = 5
	var out []Ingredient
	for _, s := range list[:min(most, len(list))] {
		out = append(out, p.list[s.n])
	}
	return out
}

// near reports whether two words are up to two letters apart, one for short
// ones.
func near(a, b string) bool {
	limit := 2
	if min(len(a), len(b)) < 6 {
		limit = 1
	}
	if d := len(a) - len(b); d > limit || -d > limit {
		return false
	}
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := 1; i <= len(a); i++ {
		diagonal := row[0]
		row[0] = i
		for j := 1; j <= len(b); j++ {
			cost := diagonal
			if a[i-1] != b[j-1] {
				cost = 1 + min(diagonal, row[j], row[j-1])
			}
			diagonal, row[j] = row[j], cost
		}
	}
	return row[len(b)] <= limit
}

// A Mention is an ingredient whose name stands in a text, and the words that
// say it, folded.
type Mention struct {
	Words string
	Ingredient
}

// Mentioned returns the ingredients whose names stand in a text, the longest
// names first: a step that says "fold in the grated cheddar" mentions it.
func (p *Pantry) Mentioned(text string) []Mention {
	var out []Mention
	for _, sentence := range sentenceEnd.Split(text, -1) { // "the spices. Mix" is no spice mix, "grate cheese, slice" no cheese slice
		out = append(out, p.mentionedIn(words(sentence))...)
	}
	return out
}

var sentenceEnd = pattern.Must(`[.,;:!?]\s|\s[+&/]\s`)

func (p *Pantry) mentionedIn(ws []string) []Mention {
	var out []Mention
	for from := 0; from < len(ws); {
		step := 1
		for length := min(5, len(ws)-from); length > 0; length-- {
			k := key(ws[from : from+length])
			if n, ok := p.names[k]; ok {
				out = append(out, Mention{k, p.list[n]})
				step = length
				break
			}
		}
		from += step
	}
	return out
}

// Folded returns the words of a name as the pantry compares them: lower case,
// singular, without accents and without words such as "finely chopped".
func Folded(name string) []string { return meaning(words(name)) }

// Words returns the words of a text as the pantry compares them, none dropped.
func Words(text string) []string { return words(text) }
