package reading

import (
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
)

// A sign is a way of writing by which a country can be told.
type sign struct {
	says   string
	words  *pattern.Pattern
	weight int
}

// in reports whether a text in small letters has the sign.
func (s sign) in(text string) bool { return s.words.MatchString(text) }

func signs(list ...string) []sign {
	var out []sign
	for _, s := range list {
		weight := 1
		if strings.HasPrefix(s, "!") {
			weight, s = 3, s[1:]
		}
		says, words, ok := strings.Cut(s, "=")
		if !ok {
			words = says
		}
		out = append(out, sign{says, pattern.Must(`(?:^|[^\pL])(?:` + strings.ToLower(words) + `)(?:$|[^\pL])`), weight})
	}
	return out
}

// of each country what only it writes; weighty signs begin with "!".
var countries = []struct {
	sys   measure.System
	signs []sign
}{
	{measure.US, signs("!sticks=sticks? (?:of )?(?:cold |soft(?:ened)? |unsalted |salted |melted )*butter|sticks? butter", "!°F=\\d{3}\\s*(?:°\\s*F?|degrees? F(?:ahrenheit)?|F)", "cups=\\d\\s*/?\\d?\\s*cups?|[½¼¾⅓⅔] cups?|one cup|a cup",
		"!all-purpose=all[- ]purpose|AP flour", "!broil=broil(?:er)?", "!confectioners' sugar=confectioners'? sugar|powdered sugar", "!heavy cream=heavy (?:whipping )?cream|half[- ]and[- ]half", "cilantro", "scallions?", "zucchini", "eggplant", "skillet", "ground beef=ground (?:beef|turkey|pork|chicken)",
		"!quarts?", "cookie sheet=cookie sheet|sheet pan", "kosher salt", "baking soda", "cornstarch", "molasses", "8-ounce=\\d+[- ]ounce|ounces?", "pounds?", "garbanzo beans?")},
	{measure.Australian, signs("!20 ml tablespoon=20 ?ml (?:table)?spoons?|tablespoon \\(?20", "!250 ml cup=(?:250 ?ml\\)? cups?|cups? \\(250)", "!capsicum", "!fan-forced=fan[- ]forced", "kumara", "lamington", "!Australian=australian?|aussie|NSW|queensland", "rockmelon", "thickened cream", "silverbeet", "desiccated coconut and cups=copha")},
	{measure.Imperial, signs("!Regulo=regulo", "!mark 4=\\bmark \\d", "!gill=gills?", "!ozs=ozs|lbs", "oz=\\d\\s*oz|[½¼¾] ?oz|ounces?", "pints?=\\d? ?pints?|[½¼¾] ?pt", "lb=\\d\\s*lb|[½¼¾] ?lb", "moderate oven=(?:moderate|hot|slow|quick|cool|mod\\.?) oven", "dessertspoons?=dessertspoons?(?:ful)?|dsp", "tablespoonfuls?", "teacups?(?:ful)?")},
	{measure.Metric, signs("!grams=\\d\\s*(?:g|gr|gm|gms|grams?|grammes?|kg|kilos?)", "!millilitres=\\d\\s*(?:ml|mls|dl|cl|l|litres?)", "°C=\\d{3}\\s*(?:°\\s*)?C", "caster sugar", "plain flour", "self-raising=self[- ]raising", "gas mark=gas (?:mark )?\\d", "aubergine", "courgettes?", "coriander leaves", "!Gramm=gramm|esslöffel|EL|TL|Prise|cuill[eè]re|msk|tsk")},
}

// Country tells from the signs in a text whose cups, spoons and pints it means;
// ok is false where there is no sign.
func Country(text string) (u Units, ok bool) {
	u = country(text)
	return u, !strings.HasPrefix(u.Why, noSign)
}

const noSign = "no sign of a country"

// country tells from the signs in a text whose measures it uses.
func country(text string) Units {
	const most = 20_000
	if len(text) > most {
		text = text[:most]
	}
	text = strings.ToLower(strings.ReplaceAll(text, "’", "'"))
	best, score, why := measure.Metric, 0, []string(nil)
	metric := 0
	for _, c := range countries {
		sum := 0
		var said []string
		for _, s := range c.signs {
			if s.in(text) {
				sum += s.weight
				said = append(said, s.says)
			}
		}
		if c.sys.Name == measure.Metric.Name {
			metric = sum
		}
		if c.sys.Name == measure.Imperial.Name && metricFirst.MatchString(text) {
			continue // ounces beside grams are for those who like them
		}
		if sum > score {
			best, score, why = c.sys, sum, said
		}
	}
	if best.Name == measure.Imperial.Name && metric >= 3 {
		best = measure.Metric
	}
	if score == 0 {
		return Units{measure.Metric, noSign + ": metric cups and spoons are taken"}
	}
	const named = 4
	return Units{best, strings.Join(why[:min(named, len(why))], ", ")}
}

var metricFirst = pattern.Must(`(?i)\d\s*(?:g|kg|ml)\s*(?:/|\(|or)\s*[\d½¼¾]+\s*(?:oz|lb|fl|pint|pt)`)
