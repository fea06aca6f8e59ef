package class

import (
	"slices"
	"strings"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// An Understood is what an entry of a class list means. An entry never has
// neither needs, nor none, nor asks.
type Understood struct {
	// Needs are ids, in the order in which they are named: an allergen of the
	// fourteen ("milk"), a diet ("no-pork"), a food ("food:kiwi"), something
	// medical or about access ("asthma", "low-vision").
	Needs []string
	None  bool     // it says that there are none
	Asks  []string // the words that are doubtful or not known
}

// Understand reads an entry as offices write it: several needs in one, words in
// any order, misspelt by a letter. What it does not know it asks; it never
// takes it for nothing.
func Understand(entry string) Understood { return understand(entry, true) }

// understand is Understand, with words that are a letter off or not.
func understand(entry string, near bool) Understood {
	if len(entry) > longestEntry {
		return Understood{Asks: []string{strings.TrimSpace(entry)}}
	}
	var u Understood
	none := false
	for _, chunk := range chunks(entry) {
		r := reader{tokens: tokens(chunk), text: chunk, near: near}
		r.read()
		if strings.Contains(chunk, "?") { // whoever wrote it was not sure
			r.asks = []string{chunk}
		}
		none = none || r.none
		for _, n := range r.needs {
			if !slices.Contains(u.Needs, n) {
				u.Needs = append(u.Needs, n)
			}
		}
		for _, a := range r.asks {
			if !slices.Contains(u.Asks, a) {
				u.Asks = append(u.Asks, a)
			}
		}
	}
	switch {
	case len(u.Needs)+len(u.Asks) > 0:
	case none:
		u.None = true
	default: // a pen, an allergy: to what?
		u.Asks = []string{strings.TrimSpace(entry)}
	}
	return u
}

// Noted returns what notes say about food, by ids, that no need of the learner
// says: it is offered, not taken, since notes say many things.
func (l Learner) Noted() []string {
	known := map[string]bool{}
	for _, n := range l.Needs {
		for _, id := range Understand(n.What).Needs {
			known[id] = true
		}
	}
	var out []string
	for _, id := range understand(l.Notes, false).Needs {
		if _, diet := pantry.DietOf(id); !known[id] && (diet || FoodOf(id) != "" || AllergensOf(id) != nil) {
			out = append(out, id)
		}
	}
	return out
}

// longestEntry is of how many bytes an entry is at most that is gone through; what
// is longer is no entry, and somebody has to read it.
const longestEntry = 2_000

var (
	parting  = pattern.Must(`[,;.()\[\]\n\r|:•]|\s[-–—]\s|\bbut\b|\bhowever\b|\balthough\b`)
	notWords = pattern.Must(`[^\p{L}\p{N}&+/]+`)
)

// chunks parts an entry where one thing ends and another begins. Words that
// join stay inside: what is said of one of "eggs and milk" is said of both.
func chunks(entry string) []string {
	entry = strings.NewReplacer("’", "'", "‘", "'", "`", "'", "n/a", "na", "N/A", "na", "N.A.", "na", "w/o", "without").Replace(entry)
	var out []string
	for _, part := range parting.Split(entry, -1) {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// A token is a word as it was written and as it is looked up.
type token struct{ written, word string }

func tokens(chunk string) []token {
	plain := strings.ReplaceAll(chunk, "'", "")
	var out []token
	for _, w := range strings.Fields(notWords.ReplaceAllString(joined.Replace(" "+plain+" "), " ")) {
		out = append(out, token{w, single(fold(w))})
	}
	return out
}

// joined sets marks that join apart from the words.
var joined = strings.NewReplacer("&", " and ", "+", " and ", "/", " and ")

// fold is a word without capitals and the accents that are met in names of
// food.
func fold(w string) string { return unaccented.Replace(strings.ToLower(w)) }

var unaccented = strings.NewReplacer("á", "a", "à", "a", "â", "a", "ä", "a", "ã", "a", "å", "a", "ç", "c", "é", "e", "è", "e", "ê", "e", "ë", "e", "í", "i", "ï", "i",
	"î", "i", "ñ", "n", "ó", "o", "ô", "o", "ö", "o", "ø", "o", "ú", "u", "û", "u", "ü", "u", "œ", "oe", "æ", "ae")

// single is a word in the singular, by its ending; the same is done to the
// words of the table.
func single(w string) string {
	switch {
	case len(w) < 4 || strings.HasSuffix(w, "ss") || strings.HasSuffix(w, "us") || strings.HasSuffix(w, "is"):
		return w
	case strings.HasSuffix(w, "ies") && len(w) > 4:
		return w[:len(w)-3] + "y"
	case strings.HasSuffix(w, "oes"), strings.HasSuffix(w, "ches"), strings.HasSuffix(w, "shes"), strings.HasSuffix(w, "xes"), strings.HasSuffix(w, "sses"):
		return w[:len(w)-2]
	case strings.HasSuffix(w, "s"):
		return w[:len(w)-1]
	}
	return w
}

// A reader goes through the words of one chunk.
type reader struct {
	tokens []token
	text   string
	near   bool // words that are a letter off count
	needs  []string
	asks   []string
	none   bool
}

// phrase reports whether the words stand one after another from a place.
func (r *reader) phrase(at int, words ...string) bool {
	if at+len(words) > len(r.tokens) {
		return false
	}
	for i, w := range words {
		if r.tokens[at+i].word != single(w) {
			return false
		}
	}
	return true
}

func (r *reader) has(phrases ...string) bool {
	for _, p := range phrases {
		words := strings.Fields(p)
		for at := range r.tokens {
			if r.phrase(at, words...) {
				return true
			}
		}
	}
	return false
}

// Phrases that take back what a chunk names, or say that it can be eaten.
var takenBack = []string{
	"no longer", "outgrown", "outgrew", "grown out", "grew out", "used to", "not allergic", "isnt allergic", "is not", "not any more", "not anymore", "previously", "formerly",
	"in the past", "as a baby", "was allergic", "resolved", "cleared", "not intolerant", "not coeliac", "not a", "not vegetarian", "not vegan", "ruled out", "negative", "history of",
	"is fine", "are fine", "is ok", "are ok", "is okay", "are okay", "ok", "okay", "fine", "allowed", "can have", "can eat", "may have", "may eat", "tolerates", "tolerated", "is safe", "are safe",
}

// notSure are words for what nobody knows yet: it is kept from the learner, and asked.
var notSure = []string{"possible", "possibly", "suspected", "suspect", "maybe", "query", "unsure", "awaiting", "tbc", "being tested", "under investigation"}

// Words that say that there is nothing where they stand alone, and phrases that
// say it whatever stands round them.
var nothing = set("none na nka nkda nkfa nil nothing nope no 0 keine nein aucun aucune ninguna ninguno")

var nothings = []string{
	"no known", "no allergy", "no food allergy", "no diet", "no dietary", "no special", "no need", "no requirement", "no intolerance",
	"no medical", "no issue", "no problem", "no concern", "eats everything", "eats anything", "eat anything", "eat everything", "not applicable", "nothing known", "no other",
	"no particular", "no specific", "no restriction", "no additional",
}

func (r *reader) read() {
	switch {
	case len(r.tokens) == 0:
		r.none = strings.ContainsAny(r.text, "-–—0") // a dash in the column
		return
	case r.alone(), len(r.tokens) < 12 && r.has(nothings...) && !r.names():
		r.none = true
		return
	case r.notTheOther():
		return
	case r.has(takenBack...), r.notAllergic():
		r.asks = append(r.asks, r.text)
		return
	case r.has(notSure...):
		r.match()
		r.asks = []string{r.text}
		return
	}
	r.match()
	if r.has("only") {
		r.onlySome()
	}
}

// onlySome asks what "only" stands by: all that is eaten, or all that is not?
func (r *reader) onlySome() {
	foods := slices.ContainsFunc(r.needs, func(n string) bool { return FoodOf(n) != "" })
	if !foods {
		return
	}
	r.needs = slices.DeleteFunc(r.needs, func(n string) bool { return FoodOf(n) != "" })
	r.asks = append(r.asks, r.text)
}

// alone reports whether the chunk is a word for nothing, and at most words that
// name no need.
func (r *reader) alone() bool {
	return nothing[r.tokens[0].word] && !slices.ContainsFunc(r.tokens[1:], func(t token) bool { return !fillers[t.word] && !nothing[t.word] })
}

// names reports whether the chunk names something that is in the table.
func (r *reader) names() bool {
	for at := range r.tokens {
		if needs, _, _ := r.find(at); needs != nil {
			return true
		}
	}
	return false
}

// notTheOther reads "wheat allergy, not coeliac" in one breath: what is before the "not" stands,
// and the rest is asked. It reports false where nothing of the kind is said.
func (r *reader) notTheOther() bool {
	at := slices.IndexFunc(r.tokens, func(t token) bool { return t.word == "not" })
	if at < 1 || !slices.ContainsFunc([]string{"coeliac", "intolerant", "vegetarian", "vegan"}, func(w string) bool { return r.phrase(at, "not", w) }) {
		return false
	}
	before := reader{tokens: r.tokens[:at], near: r.near}
	if !before.has("allergy", "allergic", "intolerance") || before.has(takenBack...) || before.notAllergic() {
		return false
	}
	before.match()
	r.needs, r.asks = before.needs, append(before.asks, r.text)
	return len(r.needs) > 0
}

// notAllergic reports whether the chunk says "no nut allergy".
func (r *reader) notAllergic() bool {
	return r.tokens[0].word == "no" && r.has("allergy", "intolerance", "allergic") && r.names()
}

// match goes through the words: the longest phrase that is in the table, words
// that say nothing by themselves, and what is left, which is asked.
func (r *reader) match() {
	var left []string
	ask := func() {
		if left != nil {
			r.asks = append(r.asks, strings.Join(left, " "))
			left = nil
		}
	}
	for at := 0; at < len(r.tokens); {
		if slices.Contains([]string{"except", "excluding", "unless"}, r.tokens[at].word) || r.phrase(at, "apart", "from") || r.phrase(at, "other", "than") {
			for _, t := range r.tokens[at:] {
				left = append(left, t.written)
			}
			break
		}
		needs, n, doubt := r.find(at)
		switch {
		case needs != nil && r.turned(at, needs):
			ask()
			r.asks = append(r.asks, r.text)
			at += n
		case doubt:
			ask()
			var words []string
			for _, t := range r.tokens[at : at+n] {
				words = append(words, t.written)
			}
			r.asks = append(r.asks, strings.Join(words, " "))
			at += n
		case needs != nil:
			ask()
			r.needs = append(r.needs, r.meant(at, needs)...)
			at += n
		case fillers[r.tokens[at].word]:
			ask()
			at++
		default:
			left = append(left, r.tokens[at].written)
			at++
		}
	}
	ask()
}

// avoids reports whether something is said to be left out before a place.
func (r *reader) avoids(at int) bool {
	return slices.ContainsFunc(r.tokens[:at], func(t token) bool {
		return slices.Contains([]string{"no", "not", "dont", "doesnt", "never", "without", "cant", "cannot", "avoid"}, t.word)
	})
}

// turned reports whether the word before turns a need into something else: "no
// veg" is no diet, and who "eats fish" does not avoid it.
func (r *reader) turned(at int, needs []string) bool {
	if at == 0 {
		return false
	}
	before := r.tokens[at-1].word
	if at > 1 && (before == "other" || before == "any") { // "peanuts but not other nuts"
		before = r.tokens[at-2].word
	}
	if _, diet := pantry.DietOf(needs[0]); diet {
		return before == "no" || before == "not"
	}
	return before == "eat" && !r.avoids(at-1) || before == "not" // "nuts (not almonds)"
}

// meant turns the name of a meat after "no" into the diet without it.
func (r *reader) meant(at int, needs []string) []string {
	if !r.avoids(at) {
		return needs
	}
	out := slices.Clone(needs)
	for i, n := range out {
		switch n {
		case "food:pork":
			out[i] = "no-pork"
		case "food:beef":
			out[i] = "no-beef"
		}
	}
	return out
}

// longest is of how many words the longest phrase of the table is.
const longest = 4

// find returns what the longest phrase from a place means, and of how many
// words it is. Doubt says that it is to be asked.
func (r *reader) find(at int) (needs []string, n int, doubt bool) {
	for n := min(longest, len(r.tokens)-at); n > 0; n-- {
		var words []string
		for _, t := range r.tokens[at : at+n] {
			words = append(words, t.word)
		}
		key := strings.Join(words, " ")
		if doubtful[key] {
			return nil, n, true
		}
		if needs, ok := meanings[key]; ok {
			return needs, n, false
		}
	}
	w := r.tokens[at].word
	if fillers[w] || doubtful[w] {
		return nil, 1, false
	}
	if needs, ok := nearly(w); ok && r.near {
		return needs, 1, false
	}
	return nil, 1, false
}

// nearly finds the one word of the table that is a letter away: one more, one
// less, another, or two neighbours swapped. Short words are too alike.
func nearly(w string) ([]string, bool) {
	const short = 5
	if len([]rune(w)) < short {
		return nil, false
	}
	var found []string
	for known, needs := range meanings {
		if len(known) < short || strings.Contains(known, " ") || !oneOff(w, known) {
			continue
		}
		if found != nil && !slices.Equal(found, needs) {
			return nil, false
		}
		found = needs
	}
	return found, found != nil
}

// oneOff reports whether two words differ by one letter, or by neighbours that
// are swapped.
func oneOff(a, b string) bool {
	x, y := []rune(a), []rune(b)
	if len(x) > len(y) {
		x, y = y, x
	}
	if len(y)-len(x) > 1 {
		return false
	}
	i := 0
	for i < len(x) && x[i] == y[i] {
		i++
	}
	if len(x) < len(y) {
		return slices.Equal(x[i:], y[i+1:])
	}
	if i >= len(x)-1 || slices.Equal(x[i+1:], y[i+1:]) {
		return true
	}
	return x[i] == y[i+1] && x[i+1] == y[i] && slices.Equal(x[i+2:], y[i+2:])
}
