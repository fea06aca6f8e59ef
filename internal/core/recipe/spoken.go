package recipe

import (
	"regexp"
	"strings"

	"freshapron/internal/core/pattern"
)

// asVerbs are names that also say what is done, or are colours and shapes; by
// themselves they prove nothing.
var asVerbs = map[string]bool{
	"beurre": true, "beurré": true,
	"cream": true, "green": true, "oil": true, "flour": true, "butter": true, "orange": true, "roll": true, "wrap": true, "squash": true, "date": true, "stock": true,
	"broth": true, "seed": true, "bap": true, "water": true, "lime": true, "plum": true, "bread": true, "mint": true, "shortening": true,
	"pepper": true, "corn": true, "mustard": true, "chocolate": true, "crust": true, "noodle": true, "cloves": true, "clove": true, "spread": true,
	"custard": true, "berry": true, "nut": true, "salad": true, "chip": true, "crisp": true, "biscuit": true, "sausage": true, "wine": true,
	"tea": true, "coffee": true, "stuffing": true, "curd": true, "pickle": true, "cress": true, "syrup": true, "curry": true, "jelly": true,
	"sage": true, "beer": true, "fig": true, "chard": true, "meringue": true, "hot sauce": true, "cracker": true,
}

// thing reports whether a word that also says what is done, or what something is like, stands
// as a thing: in a list, "with lemon, butter and dill", or as what is added, "melt the butter".
func thing(text, word string) bool {
	re, ok := things[word]
	return ok && re.MatchString(text)
}

var things = func() map[string]*pattern.Pattern {
	m := map[string]*pattern.Pattern{}
	for _, w := range []string{"butter", "cream", "mustard", "chocolate", "mint", "flour"} {
		m[w] = pattern.Must(`(?i)(?:\bwith(?: the| some)?|,)\s+` + w + `\b(?:\s*,|\s+and\b|\s*[.;]|$)` +
			`|\b(?:add|melt|(?:stir|beat|rub|fold|mix|whisk|pour|tip|put|sift) in)\s+(?:all\s+)?(?:the\s+)?` + w + `\b(?:\s*[,.;]|\s+(?:and|to|into|in|with|until|over|then)\b|$)`)
	}
	return m
}()

// unsaid stand in every kitchen, and no list of a recipe is wrong without them.
var unsaid = map[string]bool{"salt": true, "pepper": true, "sunflower-oil": true, "olive-oil": true}

// aside reports whether words stand in a text only as a little of something, to
// serve it with, or as what it looks like.
func aside(text, words string) bool {
	serves, little := asideServe.MatchString(text), littleOf.MatchString(text)
	if strings.Contains(words, "crumb") && likeCrumbs.MatchString(text) {
		return true
	}
	if sized.MatchString(text) && strings.Contains(strings.ToLower(text), words+"-size") { // "walnut-sized pieces"
		return true
	}
	if !serves && !little {
		return false
	}
	last := regexp.QuoteMeta(words[strings.LastIndexByte(words, ' ')+1:])
	re, err := regexp.Compile(`(?i)\b(?:with|over|on|alongside|like|as|of|little|` + measuresOfLittle + ` of|size of|some|your|from the|fresh)\b(?: (?:a|an|the|hot|warm|plain|boiled|cooked|green|crusty|little|some|cold|coarse|fine|bread|extra))* ` + last)
	return err == nil && re.MatchString(text)
}

var sized = pattern.Must(`(?i)-sized?\b`)

// measuresOfLittle are how people measure what no list of a recipe needs to name.
const measuresOfLittle = `(?:drop|splash|squirt|glug|dollop|squeeze|knob|blob|spoonful|handful|pinch|shake|dash|drizzle)`

var (
	asideServe = pattern.Must(`(?i)\bserve|\beat\b|\bgood with`)
	likeCrumbs = pattern.Must(`(?i)\b(?:like|resembles?|into|to|until|till|look(?:s|ing)? like)\b[^.]{0,24}crumbs`)
	littleOf   = pattern.Must(`(?i)\b(?:a little|some|extra|an? ` + measuresOfLittle + ` of)\b`)
)
