package reading

import (
	"slices"
	"strings"

	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

// plain writes the signs of other keyboards, programs and prints as ours. Lines stay where
// they are.
func plain(text string) string {
	if strings.Contains(text, "<") {
		text = listTag.ReplaceAllString(text, "- ")
		text = cellTag.ReplaceAllString(text, " ")
		text = tag.ReplaceAllString(text, "")
	}
	text = words.Plain(text)
	if slices.ContainsFunc(letters, func(l string) bool { return strings.Contains(text, l) }) { // quicker than the pattern
		text = joined.ReplaceAllStringFunc(text, func(parted string) string {
			if strings.HasSuffix(parted, " oz") { // fluid ounces
				return parted
			}
			return strings.Replace(parted, " ", "", 1)
		})
	}
	for _, w := range rewritten {
		text = w.as.ReplaceAllString(text, w.is)
	}
	if len(partInCapitals.FindAllString(text, leastParts)) == leastParts {
		text = partInCapitals.ReplaceAllStringFunc(text, func(line string) string {
			m := partInCapitals.FindStringSubmatch(line)
			if isVerb(strings.ToLower(m[2])) || yieldHead.MatchString(m[2]) {
				return line
			}
			return m[1] + m[2] + ": " + m[3]
		})
	}
	if allGrams.MatchString(text) {
		text = bareAtEnd.ReplaceAllString(text, "$1$2 g$3")
	}
	text = eitherMinutes.ReplaceAllStringFunc(text, func(s string) string {
		m := eitherMinutes.FindStringSubmatch(s)
		if m[2][0] != m[1][0]+1 {
			return s
		}
		return m[1] + "-" + m[2] + m[3]
	})
	text = inDigits(abbreviated.Replace(text))
	if wide := len(wideGap.FindAllString(text, -1)); wide >= leastWide && wide > len(gap.FindAllString(text, -1))*3/4 {
		for range 2 { // each takes a sign on both sides, and some words are one sign
			text = wideGap.ReplaceAllString(text, "$1 $2")
		}
	}
	if two := twoMarks.FindAllStringSubmatch(text, 3); len(two) == 3 && two[0][1] == "1" && two[2][1] == "3" {
		text = twoMarks.ReplaceAllString(text, "$1 ")
	}
	return parted.ReplaceAllStringFunc(text, func(run string) string { return atLineEnd.ReplaceAllString(run, "") })
}

var (
	listTag = pattern.Must(`(?i)<li(?: [^<>]*)?>`)
	cellTag = pattern.Must(`(?i)</?(?:br|div|p|td|th|tr)(?: [^<>]*)?/?>`)
	tag     = pattern.Must(`(?i)</?(?:a|b|body|em|h[1-6]|html|i|li|ol|section|span|strong|sub|sup|table|tbody|u|ul)(?: [^<>]*)?/?>`)

	// joined are the joined letters of a print that a scanner has parted: "fl our", "fi nely"
	joined  = pattern.Must(`\b(?:[Ff]i|[Ff]l) \p{Ll}{2,}`)
	letters = []string{"fi ", "fl ", "Fi ", "Fl "}

	twoMarks  = pattern.Must(`(?m)^[ \t]*(?:[-•*▪◦☐□]|\[ ?\])[ \t]*(\d{1,2}) `)             // "- 1 Mix", which says twice that it is one of a list
	parted    = pattern.Must(`(?m)(?:^.{2,60};[ \t]*$\n?){3,}|(?:^.{2,60},[ \t]*$\n?){3,}`) // a list as a sentence
	atLineEnd = pattern.Must(`(?m)[;,][ \t]*$`)

	eitherMinutes = pattern.Must(`\b([2-8])/([3-9])( ?min)`) // "3/4 mins" is no three quarters
	abbreviated   = strings.NewReplacer("S.R. ", "SR ", "s.r. ", "SR ", "abt. ", "about ", "Abt. ", "About ", " abt ", " about ")

	gap     = pattern.Must(`[^\s] +[^\s]`)
	wideGap = pattern.Must(`([^\s]) {2,3}([^\s])`)
)

var (
	// partInCapitals names a part of the dish before its list: “CURRY 1 onion, 1 potato, spinach”.
	partInCapitals = pattern.Must(`(?m)^([ \t]*)(\p{Lu}{4,}) ((?:\d[\d./]*|[½¼¾]) ?\p{Ll}[^\n]*,[^\n]*,[^\n]*)$`)
	// allGrams says in which unit amounts are that have none.
	allGrams  = pattern.Must(`(?im)^[ \t(]*all (?:(?:weights?|amounts?|quantities|measures?) )?(?:are )?(?:in )?g(?:rams?)?\b`)
	bareAtEnd = pattern.Must(`(?m)^([ \t]*(?:[-*•][ \t]*)?\pL[\pL '/-]{2,40}? )(\d{2,4})((?: (?:chopped|sliced|grated|melted|diced|softened)| ?\([^()\n]*\))?[ \t]*)$`)
)

// leastParts is how many parts are told apart so.
const leastParts = 2

// leastWide is how many wide gaps make a text that a print has spread.
const leastWide = 12

// rewritten are other ways to write what stands behind them, in the order in which they are looked
// for. None takes the end of a line.
var rewritten = []struct {
	as *pattern.Pattern
	is string
}{
	// bold type inside a line, round the mark of a list, and of an amount
	{pattern.Must(`(?m)(\S[ \t]+|^[ \t]*)(?:\*\*([^*\n]+)\*\*|__([^_\n]+)__)([ \t]+\S)`), "$1$2$3$4"},
	{pattern.Must(`(?m)^[ \t]*\*\*([-•] +)([^*\n]+)\*\*`), "$1$2"},
	{pattern.Must(`(?m)^([ \t]*(?:[-*•][ \t]+)?)\*\*((?:\d|[½¼¾⅓⅔]|(?i:pinch|handful|squeeze|splash|knob|half|few|some) )[^*\n]*)\*\*`), "$1$2"},
	// what is to be ticked or filled in at the end of a line
	{pattern.Must(`(?m)^([ \t]*(?:(?:\S+[ \t])*?[\d½¼¾⅓⅔]|(?:\S+[ \t]){3}\S).*?)[ \t]{2,}(?:(?:(?i:name|class|form|group|date)\b:?[ \t]*)?_{2,}|\[ ?\]|☐|□|✓|✔)[ \t]*$`), "$1"},
	// "6 and a half mins"
	{pattern.Must(`(?i)\b(\d{1,2}) and a half (min|hour|hr)`), "$1.5 $2"},
	// "5m", "5 min's", "5 mintues", "5′", "4 min. each side"
	{pattern.Must(`(?m)(\d)m([ .,;)]|$)`), "$1 minutes$2"},
	{pattern.Must(`(?i)(\d ?min)(?:['’]s\b|s['’])`), "${1}s"},
	{pattern.Must(`(?i)\b(?:minuete?|mintue|minuite|miniute|mintute|munite)(s?)\b`), "minute$1"},
	{pattern.Must(`(\d) ?′`), "$1 minutes"},
	{pattern.Must(`(\d *(?i:mins?|hrs?|secs?))\.( +(?:\(|(?:a|and|at|by|depending|each|either|if|in|longer|more|on|or|over|per|stirring|then|till|to|turning|until|with|without) ))`), "$1$2"},
	// "onion 250 g } mirepoix", "salt half tsp", "Slide 3: Method", "water 560 g 56%"
	{pattern.Must(`(?m)[ \t]*\}[ \t]*(\pL+)[,;.]?[ \t]*$`), " ($1)"},
	{pattern.Must(`(?m)[ \t]*\}[,;.]?[ \t]*$`), ""},
	{pattern.Must(`(?im)^([ \t]*\pL[\pL ]{2,20}) half (?:an? )?((?:tsp|tbsp|teaspoon|tablespoon|tin|can|cup|pint|pack)s?)[ \t]*$`), "$1 ½ $2"},
	{pattern.Must(`(?im)^[ \t]*slide \d{1,2}[ \t]*[:.–-][ \t]*(\S)`), "$1"},
	{pattern.Must(`(?im)(\d ?(?:g|kg|ml|l|gms?|gr\.?|grams?))[ ,–-]*\(?\d{1,3}(?:[.,]\d+)? ?%\)?[ \t]*$`), "$1"},
	// "No. of portions: 12", "2 x 5 ml sp", "P1+P2 melt", "pre-heat 190", "oven 200 for 15"
	{pattern.Must(`(?i)\b(?:(?:no\.?|number) of )?(?:portions|servings)[ \t]*:[ \t]*(\d{1,3} (?:` + pieceNouns + `))\b`), "Makes $1"},
	{pattern.Must(`(?i)(\d ?ml) sp\b\.?`), "$1 spoon"},
	{pattern.Must(`(?m)^([ \t]*(?:(?:\d{1,2}[.)]|[-*•])[ \t]*)?)P\d(?:[ \t]*[+&/,][ \t]*P?\d)*[ \t]*[:–-]?[ \t]+(\p{Ll})`), "$1$2"},
	{pattern.Must(`(?im)\b(pre-?heat)(?: to)? ((?:gas ?(?:mark )?|mark ?)\d|\d{3})([ \t]*(?:[°º,.;)→]|->|[-–] |$)| ?[CF]\b| (?:fan|deg|with|and|then)\b)`), "$1 the oven to $2$3"},
	{pattern.Must(`(?im)^((?:.*[.;!])?[ \t]*(?:(?:\d{1,2}[.)]|[-*•])[ \t]*)?)oven (\d{3}(?: ?°? ?[CF]\b)?(?: fan)?),? for (\d)`), "${1}Bake at $2 for $3"},
	{pattern.Must(`(?i)\b(ovens? on)[ \t]*[-–:=][ \t]*((?:gas ?(?:mark )?)?\d)`), "$1 at $2"},
	{pattern.Must(`(?im)^(.*\b(?:bake|roast)\b.*?\d ?min[a-z]*)[ \t]{2,}((?:1[4-9]|2[0-4])\d ?° ?C)\b`), "$1 at $2"},
	// "first prove, cover, 45 min", "1 clv garlic", "gas 6 / 200C" beside or over the list
	{pattern.Must(`(?im)\b((?:first|second|1st|2nd|final) (?:prove|proof|rise)),[ \t]+([^.;:\d\n]{3,50}?)[ \t]*[-–,]?[ \t]*(\d{1,3} ?min(?:ute)?s?)\b`), "$1 $3, $2"},
	{pattern.Must(`(?i)\b(\d) ?clvs?\b`), "$1 cloves"},
	{pattern.Must(`(?im)(\d ?(?:g|oz)) spread([ \t]*(?:[,;.)]|$))`), "$1 soft spread$2"},
	{pattern.Must(`(?im)^([ \t]*)(makes (?:one|an?|1) [^,\n]{3,30}), (serves \d{1,2})\b`), "$1$3 ($2)"},
	{pattern.Must(`(?i)\b(pasta|spaghetti|rice|noodles|potatoes|eggs?) in(?:to)? (?:the )?(boiling (?:salted )?water)([^.;\n]*?)(?: ?[-–,])? ?timer:? (?:for )?(\d)`), "boil $1 in $2$3 for $4"},
	{pattern.Must(`(?im)^((?:[ \t]*(?:serves|makes|portions|yield)\b[^\n]*[ \t]{3,})?)[ \t]*((?:gas ?(?:mark ?)?\d ?[/,] ?)?(?:1[4-9]|2[0-4])\d ?°? ?C(?: ?fan)?(?: ?[/,] ?(?:gas ?(?:mark ?)?\d|\d{3} ?°?C? ?fan))?)\.?[ \t]*$`), "${1}Oven: $2"},
	{pattern.Must(`(?im)^([ \t]*(?:plus|also|extras?|topping|filling|dry|wet)[ \t]*:[ \t].*?\pL)\.[ \t]+(\d[^.\n]*)\.?[ \t]*$`), "$1; $2"},
	{pattern.Must(`\b(\p{L}\p{Ll}{2,})\+(\p{Ll}{3,})\b`), "$1 and $2"},
	// "PREP      30 min", "chicken, diced ........ 200 g", "- [ ] 2 apples"
	{pattern.Must(`(?im)^[ \t]*(prep(?:aration)?|cook(?:ing)?|bak(?:e|ing)|total)(?: time)?[ \t]{2,}(\d{1,3} ?(?:min|hour|hr)[a-z]*)[ \t]*$`), "$1 time: $2"},
	{pattern.Must(`(?im)^([ \t]*(?:[-*•][ \t]*)?)(\pL[^.\n]{2,40}?) ?(?:\.{4,}|…{2,}|(?:\. ){3,}) ?((?:\d[\d.,/½¼¾]*|[½¼¾]) ?(?:g|kg|ml|l|tsp|tbsp|oz|lb))[ \t]*$`), "$1$3 $2"},
	{pattern.Must(`(?m)^([ \t]*)[-*•][ \t]*\[[ xX]?\][ \t]*`), "$1- "},
	// "Lesson 1 (Tues, 50 min): make the sauce", which does not take 50 minutes; "Process: mix"
	{pattern.Must(`(?im)^([ \t]*(?:lesson|session|day|part|stage|week|practical)[ \t]*\d*[ \t]*\((?:mon|tue|wed|thu|fri)[a-z]*),?[ \t]*\d{2,3} ?min[a-z]*(\)[ \t]*[:–-])`), "$1$2"},
	{pattern.Must(`(?im)^([ \t]*(?:lesson|session|day|part|stage|week|practical)[ \t]*\d*)[ \t]*\(\d{2,3} ?min[a-z]*\)([ \t]*[:–-])`), "$1$2"},
	{pattern.Must(`(?im)^[ \t]*(?:process|procedure)[ \t]*[:–-][ \t]*(\pL)`), "Method: $1"},
	// "garlic 2cl", which are cloves
	{pattern.Must(`(?i)\b(garlic\W{1,3}\d{1,2}) ?cl\b`), "$1 cloves"},
	{pattern.Must(`(?i)\b(\d{1,2}) ?cl (garlic)\b`), "$1 cloves $2"},
	// "175 lt brown sugar", which is light
	{pattern.Must(`(?i)(\d ?(?:g|oz|tsp|tbsp|cups?)?) ?\blt\.? (brown|soft|muscovado)\b`), "$1 light $2"},
	// "5 oz. flour", "a pint and a half", "400 ml buttermilk approx."
	{pattern.Must(`(?i)((?:\d|[½¼¾]) ?(?:oz|lbs?|tsp|tbsp|dsp|pt))\. +`), "$1 "},
	{pattern.Must(`(?i)\ban? (pint|pound|litre|kilo|cup|teaspoon|tablespoon|ounce) (?:and|&) a half\b`), "1½ ${1}s"},
	{pattern.Must(`(?im)^([ \t]*(?:[-*•][ \t]*)?)((?:\d|[½¼¾⅓⅔])[^.\n]*?),? \(?approx(?:imately|\.)?\)?[ \t]*$`), "${1}about $2"},
	// "1st prove: 1 hour", "5ish", "Oven: 190 °C, 25 mins", "15 min @220", "then down to 180"
	{pattern.Must(`(?i)\b(?:1st|first|2nd|second|final) (prove|proof|rise|bake)[ \t]*[:–-][ \t]*`), "$1 "},
	{pattern.Must(`(?i)\b(\d{1,3}) ?-?ish\b`), "about $1"},
	{pattern.Must(`(?im)^([ \t]*\d{1,3} ?min(?:ute)?s?) [-–] (\pL)`), "$1: $2"},
	{pattern.Must(`(?im)^([ \t]*(?:(?:\d{1,2}[.)]|[-*•▪☐])[ \t]*)?oven)[ \t]*[:–-][ \t]*(\d.*\d ?min.*)$`), "$1 $2"},
	{pattern.Must(`@ ?(\d{2,3}\b)`), "at $1"},
	{pattern.Must(`(?i)\b(then|and) (down|up) to (\d{3})\b`), "$1 turn $2 to $3"},
	// "at 180 bake for 10 minutes", "in a 180 oven bake", "15 mins at 220 then 45 at 160"
	{pattern.Must(`(?im)^([ \t]*(?:(?:\d{1,2}[.)]|[-*•▪☐])[ \t]*)?)at ((?:gas (?:mark )?)?\d{1,3} ?(?:°|degrees)? ?[CF]?(?: fan)?),? (bake|roast|cook)\b`), "$1$3 at $2"},
	{pattern.Must(`(?im)^([ \t]*(?:(?:\d{1,2}[.)]|[-*•▪☐])[ \t]*)?)in an? (\d{3} ?(?:°|degrees)? ?[CF]?(?: fan)?) oven,? (bake|roast|cook)\b`), "$1$3 in the oven at $2"},
	{pattern.Must(`(?i)(\d ?min(?:ute)?s? at \d{3}[^\n,.;]{0,4}),? (?:and )?then (\d{1,2}) at (\d{3})\b`), "$1, then $2 minutes at $3"},
}
