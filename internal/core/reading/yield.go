package reading

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
)

const (
	count = `(\d{1,4})(?:\s*(?:-|–|—|to|or|bis|à|till|tot|a|/)\s*(\d{1,4}))?`
	whom  = `(?:hungry |greedy |small |large |generous |main |good |decent |big )*(?:people|ppl|persons?|pers\.?|adults?|children|kids|learners?|pupils?|students?|guests?|portions?|portionen|portioner|porsjoner|porties|porciones|raciones|porzioni|servings?|serves|personen|personer|personnes|personas|persone|annosta|helpings?|hungry teenagers|mouths|of us|diners|bowls?|plates?|mugs?|plate(?:ful)?s?|covers|residents|clients|patients)?`
	tail  = `(?:(?: [-–—] or\b|[ ,;(]+(?:or \d+ \pL+|as|with|generously|comfortably|sharing|or so|approx|easily|depending|plus|\d+ [\pL]+ each|each|so|if|when|at|in all|in (?:my|our|the)|a family|for)\b).*)?`
	piece = `(?:x )?(?:[\d.]+ ?-?(?:cm|in|inch|lb|kg|g|oz|ml)[. ]+)?((?:(?:small|large|medium|big|mini|good|little|individual|thick|thin|x|of|nice) )*[\pL][\pL' -]*?)?(?:\s*\(([\pL -]+)\))?`
)

// yields are the ways in which recipes say what they come to; the text is in
// small letters, numbers in digits.
var yields = []struct {
	words   *pattern.Pattern
	portion bool
}{
	{pattern.Must(`^(?:this |it )?(?:recipe |should |will |amount |quantity )*(?:serves|serve|serving|servings?|covers|serving size|no\.? of (?:servings|covers|portions|people)|number of (?:servings|portions|people)|feeds|enough for|plenty for|(?:quantities|amounts|qtys?) (?:are )?for|sufficient for|between|among|ingredients for|recipe for|for|(?:per|for each|for a) group(?: of)?|to serve|portions?(?: x| -)?|servings? -|portion size|serves approx|servings per recipe|för|für|pour|para|per|voor|til|till|dla|zutaten für)\s*:?\s*(?:(?:an?|1) (?:family|group|class|table|bench) (?:of )?)?` + count + `\s*` + whom + tail + `$`), true},
	{pattern.Must(`^(?:x )?` + count + `\s*(?:x )?(?:(?:small|large|generous|main|good|big) (?:or \d+ (?:small|large|starter) )?)?(?:portions?|servings?|covers|residents|people|persons?|pers|personen|personer|portioner|portionen|porsjoner|porties|porciones|raciones|porzioni|personnes|persone|personas|annosta|helpings?|ppl)\.?(?:\s*\(.*\))?$`), true},
	{pattern.Must(`^(?:this |these |it |which )?(?:recipe |quantities |ingredients |should |will |amount |quantity |mixture )*(?:makes?(?: you| up)?|does|yields?|gives|produces|recipe yields?|cuts? into|slices into|divides into|enough for|to make|ergibt|ergeben|donne|rinde|ger|geeft|quantit[yé]|amount|(?:batch|tray|slab)(?: of|(?: |-)size)?|(?:1|a|one) (?:tray|tin|slab|cake|loaf) ?(?:=|is|makes|gives|of)|each (?:pair|pupil|student|learner|group|child|bench)(?: of \d)? (?:makes|gets|bakes)|portion size|you(?: should|'ll| will)? (?:get|have|end up with)|bakes|cut into)\s*:?\s*(?:a batch of |enough for )?` + count + `\s*` + piece + `\.?` + tail + `$`), false},
	{pattern.Must(`^(?:makes|gives)\s*:?\s*(?:an?|one|enough) (?:[\pL-]+ ){0,3}(?:for|to (?:serve|feed)) ` + count + `\s*` + whom + `$`), true},
	{pattern.Must(`^(?:makes|yields?|gives)\s*:?\s*(?:(?:an?|one) )((?:[\d.]+ ?-?(?:cm|in|inch|lb|kg|g)[. ]*)?(?:(?:small|large|medium|big|good|round|square|deep) )*(?:[\pL-]+ )?(?:` + onePiece + `))(?:\.|,.*)?$`), false},
	{pattern.Must(`^(?:makes|gives|fills)\s*:?\s*(?:one|1|an?) [^,=]{0,24}(?:tray|tin|slab)\s*[,=:–-]\s*(?:cuts? into )?` + count + ` (` + pieceNouns + `)$`), false},
	{pattern.Must(`^(?:makes|gives|one|1) .*\(` + count + ` (` + pieceNouns + `)\)$`), false},
	{pattern.Must(`^(?:serves|enough for|ingredients for|recipe for|for|to make)\s*:?\s*` + count + `\s*(` + pieceNouns + `)` + tail + `$`), false},
	{pattern.Must(`^` + count + `\s+(?:x )?(` + pieceNouns + `)\.?$`), false},
}

// pieceNouns are what a bare "12 muffins" under a title counts.
const pieceNouns = `pieces|pcs|muffins|buns|scones|rolls|biscuits|cookies|cakes|cupcakes|flapjacks|pancakes|brownies|slices|squares|bars|fingers|tarts|tartlets|pasties|pies|samosas|wraps|pizzas|burgers|meatballs|stück|stücke|st|bitar|pièces|parts|brötchen`

// onePiece are what there can be one of.
const onePiece = `loaf|cake|pie|tart|flan|quiche|jar|bowl|pudding|pizza|plait|roulade|tray|traybake|batch|gateau|torte|terrine|case|jug|pot|tin|portion|serving`

var (
	aboutYield = pattern.Must(`\s+or so\b|\bish\b|\s+environ\b|\b(?:about|around|approximately|approx\.|approx|up to|ca\.?|roughly|circa|env\.|environ|etwa|cirka|some)\s+|~|≈`)
	dozenWords = []struct {
		words *pattern.Pattern
		each  int
	}{{pattern.Must(`\b(?:half a|½) dozen\b`), 6}, {pattern.Must(`\b(?:1½|1 1/2|one and a half) dozen\b`), 18}, {pattern.Must(`\b(\d+)\s*(?:-|–|to)\s*(\d+) dozen\b`), -1}, {pattern.Must(`\b(\d+) dozen\b`), 0}, {pattern.Must(`\b(?:a |one )?dozen\b`), 12}}
	spelled = func() *strings.Replacer {
		words := []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}
		pairs := []string{" a couple ", " 2 ", " couple ", " 2 ", " fifteen ", " 15 ", " sixteen ", " 16 ", " eighteen ", " 18 ", " twenty ", " 20 ", " vier ", " 4 ", " sechs ", " 6 ", " quatre ", " 4 ", " fyra ", " 4 ", " zwei ", " 2 ", " deux ", " 2 "}
		for n, w := range words {
			if n > 0 {
				pairs = append(pairs, " "+w+" ", " "+strconv.Itoa(n+1)+" ", " "+w+"-", " "+strconv.Itoa(n+1)+"-")
			}
		}
		return strings.NewReplacer(pairs...)
	}()
)

// aBatch stands before what it makes.
var aBatch = pattern.Must(`^(?:1|a|one) batch (?:= |makes |is )?`)

// yieldOf reads how many a recipe serves or makes. It reports whether the
// whole text says that.
func yieldOf(text string) (y Yield, ok bool) {
	if y, ok = yieldIn(text); !ok {
		if m := remarkBehind.FindStringSubmatch(text); m != nil { // "makes 1 jar (350 g)"
			return yieldIn(m[1])
		}
		if m := servingsBehind.FindStringSubmatch(text); m != nil {
			return yieldIn(m[1])
		}
	}
	return y, ok
}

// oldAndYoung is a family.
var oldAndYoung = pattern.Must(`^(?:serves|feeds|for|enough for):? (\d{1,2}) adults? (?:and|&|\+) (\d{1,2}) (?:children|kids|child)$`)

// oneCut is one thing, and what it is cut into: "makes 1 - cuts into 6".
var oneCut = pattern.Must(`(?i)^makes (?:1|one|an?)(?: [\pL-]+){0,2}?\s*[-–—,(;:]\s*((?:cuts?|slices?|divides?) into \d[^()]*?)\)?$`)

var remarkBehind = pattern.Must(`^\s*([^()]{4,}?)\s*\([^()]*\)\W*$`)

// servingsBehind is how many it serves behind what it makes: "Yield: one 8-inch pan / 9 servings per
// kitchen".
var servingsBehind = pattern.Must(`(?i)^(?:yields?|makes|serves|quantity):? [^/;=(]{3,30}[/;=(]\s*((?:serves )?\d{1,3}(?: (?:servings|portions|people|pieces|slices|squares))?)\b(?: (?:per|for each|a) \pL+)?\W*(?:\([^()]*\))?$`)

func yieldIn(text string) (y Yield, ok bool) {
	if m := oneCut.FindStringSubmatch(text); m != nil {
		text = m[1]
	}
	low := strings.ToLower(strings.Trim(strings.Join(strings.Fields(text), " "), ".!*_ "))
	if strings.HasPrefix(low, "(") || strings.HasPrefix(low, "[") {
		low = strings.Trim(low, "()[] ")
	}
	if low == "" || len(low) > 90 || strings.Count(low, " ") > 13 {
		return y, false
	}
	low = strings.ReplaceAll(aBatch.ReplaceAllString(low, "makes "), ",", " ,")
	low = aboutYield.ReplaceAllString(low, "")
	low = spelled.Replace(spelled.Replace(" " + low + " "))
	low = strings.Join(strings.Fields(low), " ")
	for _, d := range dozenWords {
		m := d.words.FindStringSubmatch(low)
		if m == nil {
			continue
		}
		says := strconv.Itoa(d.each)
		switch d.each {
		case 0:
			n, _ := strconv.Atoi(m[1])
			says = strconv.Itoa(12 * n)
		case -1:
			a, _ := strconv.Atoi(m[1])
			b, _ := strconv.Atoi(m[2])
			says = strconv.Itoa(12*a) + "-" + strconv.Itoa(12*b)
		}
		low = strings.Replace(low, m[0], says, 1)
		break
	}
	if m := oldAndYoung.FindStringSubmatch(low); m != nil {
		old, _ := strconv.Atoi(m[1])
		young, _ := strconv.Atoi(m[2])
		return Yield{Count: old + young, Piece: "portion"}, true
	}
	if onePortion.MatchString(low) {
		return Yield{Count: 1, Piece: "portion"}, true
	}
	bare := strings.TrimSpace(strings.ReplaceAll(low, " of ", " "))
	for _, form := range yields {
		m := form.words.FindStringSubmatch(bare)
		if m == nil {
			m = form.words.FindStringSubmatch(low)
		}
		if m == nil {
			continue
		}
		if len(m) < 4 && !form.portion { // "makes a 20 cm cake"
			return Yield{Count: 1, Piece: pieceOf(m[1], 1)}, true
		}
		y.Count, _ = strconv.Atoi(m[1])
		y.Most, _ = strconv.Atoi(m[2])
		if y.Most <= y.Count {
			y.Most = 0
		}
		y.Piece = "portion"
		if !form.portion && !strings.Contains(low, "enough for") {
			y.Piece = "piece" // "makes 18", of what the title says
		}
		if !form.portion && len(m) > 3 && marksMade.MatchString(m[3]) {
			return Yield{}, false // "make 2 slits in the top"
		}
		if !form.portion && len(m) > 3 && m[3] != "" {
			y.Piece = pieceOf(m[3], max(y.Count, y.Most))
			if len(m) > 4 && isMade(m[4]) {
				y.Piece = m[4]
			}
		}
		return y, y.Count > 0
	}
	return y, false
}

// marksMade are what is made in a thing, and no things.
var marksMade = pattern.Must(`\b(?:slits?|holes?|cuts?|wells?|dents?|slash(?:es)?|incisions?|layers?|turns?|folds?|lines?)\b`)

var onePortion = pattern.Must(`^(?:(?:serves|for|makes|(?:makes )?enough for) )?one(?: (?:portion|serving|person|pupil|learner|student|child|lunch|meal))?$`)

var (
	pieceSizes = pattern.Must(`^(?:(?:small|large|medium|big|mini|good|little|individual|x|nice|thick|thin|[\d.]+ ?-?(?:cm|in|inch|lb|kg|g)\.?|round|square)\s+)+`)
	perGroup   = pattern.Must(` (?:per|for each|for every|a|between each) (?:pair|bench|group|person|pupil|student|learner|child)$`)
	persons    = pattern.Must(`^(?:servings?|portions?|people|persons?|children|adults|helpings?)$`)
)

// pieceOf is one of what is counted.
func pieceOf(s string, n int) string {
	s = strings.TrimSpace(perGroup.ReplaceAllString(pieceSizes.ReplaceAllString(s, ""), ""))
	if persons.MatchString(s) {
		return "portion"
	}
	if strings.HasPrefix(s, "and ") { // "it does 8 and the class works in twos"
		return "piece"
	}
	s, _, _ = strings.Cut(s, " and ") // "cut into 12 squares and cool"
	if s == "" || s == "each" || strings.HasPrefix(s, "out ") || pieceSizes.MatchString(s+" ") {
		return "piece"
	}
	if n == 1 {
		return s
	}
	return singular(s)
}

// singular takes the plural off the last word.
func singular(s string) string {
	switch {
	case strings.HasSuffix(s, "quiches"), strings.HasSuffix(s, "brioches"):
		return strings.TrimSuffix(s, "s")
	case s == "pcs", s == "pieces":
		return "piece"
	case strings.HasSuffix(s, "loaves"):
		return strings.TrimSuffix(s, "ves") + "f"
	case strings.HasSuffix(s, "halves"):
		return strings.TrimSuffix(s, "ves") + "f"
	case strings.HasSuffix(s, "cookies"), strings.HasSuffix(s, "brownies"), strings.HasSuffix(s, "pies"), strings.HasSuffix(s, "smoothies"):
		return strings.TrimSuffix(s, "s")
	case strings.HasSuffix(s, "ies"):
		return strings.TrimSuffix(s, "ies") + "y"
	case strings.HasSuffix(s, "ches"), strings.HasSuffix(s, "shes"), strings.HasSuffix(s, "sses"), strings.HasSuffix(s, "toes"):
		return strings.TrimSuffix(s, "es")
	case strings.HasSuffix(s, "ss"):
		return s
	}
	return strings.TrimSuffix(s, "s")
}

// beyondHead is what a dish is made with: "with thyme", "(gluten-free)".
var beyondHead = pattern.Must(`(?i)(?:\s+(?:with|in|on|for)\s.*|\s*[(,].*)$`)

var pan = pattern.Must(`(?i)^(?:an?|one|1) [^,]{0,24}\b(?:pan|tin|tray|dish)\b`)

// titleMarks part a title from what is said behind it.
var titleMarks = pattern.Must(`\s{3,}|\s+(?://|--+|\||~|[–—])\s+`)

// inBrackets is "(6)", which serves so many, and "x 20", which makes so many.
var inBrackets = pattern.Must(`(?i)^(?:\((\d{1,2})\)|\(?x ?(\d{1,3})\)?)$`)

// fromTin is "For a 20 cm tin - 16 bits".
var fromTin = pattern.Must(`(?i)^(?:for |in |fits )?(?:an?|one) [^,]{0,30}\b(?:pan|tin|tray|dish)\s*[-–—:]\s*(\d{1,3}) (bits|pieces|bites|slices|squares|bars|fingers|portions)$`)

// setApart are marks between what a line says of a dish.
var setApart = pattern.Must(`\s+[~•·|/]\s+`)

var roughly = pattern.Must(`(?i)^(?:about|around|approx\.?|approximately|roughly|ca\.?|~) ?(\d{1,3})(?: or so)?$`)

var countOf = pattern.Must(`(?i)^(?:about |around |approx\.? |~)?(\d{1,3}) ((?:[\pL-]+ ){0,2}([\pL-]+s))$`)

// yieldBelow takes a yield that stands under its heading: "Serves", and "4" in the next line.
func (r *reader) yieldBelow(n int, text string) bool {
	if !yieldHead.MatchString(text) || n+1 == len(r.lines) || r.Yield.Count > 0 {
		return false
	}
	y, ok := yieldOf(strings.Trim(text, " :") + " " + r.lines[n+1].plain())
	if !ok {
		return false
	}
	y.Line = r.lines[n+1].at
	r.Yield, r.lines[n+1].titled = y, true
	r.Headings = append(r.Headings, r.lines[n].at)
	return true
}

var yieldHead = pattern.Must(`(?i)^(?:serves|makes|yields?|servings|portions)\s*:?$`)

// bareYield reads "4 farls" under a title before anything is listed: so many of
// what the title names, or of what is made, and no ingredient of the pantry.
func (r *reader) bareYield(text string) (y Yield, ok bool) {
	if _, last, ok := strings.Cut(text, ", "); ok && pan.MatchString(text) { // "1 8-inch pan, 9 squares"
		return yieldOf(last)
	}
	if m := inBrackets.FindStringSubmatch(text); m != nil && len(r.Ingredients) == 0 && r.Yield.Count == 0 {
		y.Count, _ = strconv.Atoi(m[1] + m[2])
		y.Piece = "portion"
		if m[2] != "" {
			y.Piece = "piece"
		}
		return y, y.Count > 0
	}
	if m := fromTin.FindStringSubmatch(text); m != nil && r.Yield.Count == 0 {
		y.Count, _ = strconv.Atoi(m[1])
		y.Piece = pieceOf(strings.ToLower(m[2]), y.Count)
		return y, y.Count > 0
	}
	if m := madeInBrackets.FindStringSubmatch(text); m != nil && r.Yield.Count == 0 && isMade(strings.ToLower(m[2])) {
		y.Count, _ = strconv.Atoi(m[1])
		y.Piece = pieceOf(strings.ToLower(m[2]), y.Count)
		return y, true
	}
	if m := roughly.FindStringSubmatch(text); m != nil && len(r.Ingredients) == 0 && r.Yield.Count == 0 {
		y.Count, _ = strconv.Atoi(m[1])
		y.Piece = "piece"
		return y, y.Count > 0
	}
	if parts := setApart.Split(text, -1); r.Yield.Count == 0 { // "no bake ~ 16 squares ~ 20 mins"
		for _, p := range parts {
			if y, ok := yieldOf(p); ok {
				return y, true
			}
		}
	}
	if m := overList.FindStringSubmatch(text); m != nil && len(r.Ingredients) == 0 && r.Yield.Count == 0 {
		y, ok := yieldOf("for " + m[1] + " people")
		if words := strings.Fields(strings.ToLower(r.Title)); y.Count > mostServed && len(words) > 0 && isMade(words[len(words)-1]) { // "For 12:", of buns
			y.Piece = pieceOf(words[len(words)-1], y.Count)
		}
		return y, ok
	}
	m := countOf.FindStringSubmatch(text)
	if m == nil || len(r.Ingredients) > 0 || r.Yield.Count > 0 || r.known(text) {
		return y, false
	}
	noun := strings.ToLower(m[3])
	title := strings.Fields(strings.ToLower(beyondHead.ReplaceAllString(r.Title, "")))
	titled := len(title) > 0 && (title[len(title)-1] == noun || title[len(title)-1]+"s" == noun)
	if !madeNouns[noun] && !titled || r.take(text).Reading.Unit.Dimension != measure.Count {
		return y, false
	}
	y.Count, _ = strconv.Atoi(m[1])
	y.Piece = pieceOf(strings.ToLower(m[2]), y.Count)
	return y, y.Count > 0
}

// mostServed is how many a recipe of pieces serves at most: more are so many pieces.
const mostServed = 8

// overList says for how many a list is, above it: "for 4:".
var overList = pattern.Must(`(?i)^for (?:about |around |approx\.? |roughly )?(\d{1,2}|two|three|four|five|six|eight|ten|twelve)\s*:?$`)

// madeNouns are what recipes make, and shops sell seldom.
var madeNouns = wordSet("skewers kebabs straws fingers patties koftas balls dumplings turnovers parcels puffs eclairs truffles toasties jars pots glasses ramekins loaves pieces rounds wedges triangles twists knots pinwheels whirls swirls plaits nests bakes bites boats towers stacks")

// isMade reports whether a word is of what recipes make: "muffins", "puffs".
func isMade(noun string) bool {
	_, ok := yieldOf("2 " + noun)
	return ok || madeNouns[strings.ToLower(noun)]
}

var titledYield = pattern.Must(`(?i)^(.{3,60}?)\s*[-–—,(|/]\s*((?:serves|makes|does|for|between|feeds|yields?|batch:)[^()\pL][^()]{1,50}|\d{1,3} (?:portions?|servings?|people|ppl|covers|residents|bowls|plates|` + pieceNouns + `))\)?\s*$|^(.{3,60}?)\s+((?:serves|makes|for|feeds|für|pour|para|voor|för|per)\s+(?:about |approx\.? |around )?(?:\d+|two|three|four|five|six|eight|ten|twelve)(?: people| persons| pupils| learners| portions| personen| personnes| personas| personer| persone)?)(?:\s*\([^()\d]*\))?$`)

// titleYield takes a yield out of "Leek pie (serves 4)".
func (r *reader) titleYield() {
	r.withoutClass()
	if m := forEachInTitle.FindStringSubmatch(r.Title); m != nil {
		r.Title = m[1]
		r.Facts = append(r.Facts, Fact{Line: r.TitleLine, Says: m[2]})
		r.each, _ = strconv.Atoi(m[3])
		return
	}
	if m := trayOf.FindStringSubmatch(r.Title); m != nil {
		r.Title, r.Yield = m[1], Yield{Piece: "piece", Line: r.TitleLine}
		r.Yield.Count, _ = strconv.Atoi(m[2])
		return
	}
	if m := sourceBehind.FindStringSubmatch(r.Title); m != nil {
		r.Title = m[1]
		r.Facts = append(r.Facts, Fact{Line: r.TitleLine, Says: m[2] + m[3]})
		return
	}
	if parts := titleMarks.Split(r.Title, -1); len(parts) > 1 { // "Skewers // 4 people // 45 min"
		if !slices.ContainsFunc(parts[1:], func(p string) bool { return !ofSchool.MatchString(p) }) { // "Savoury rice | Year 7"
			r.Title = parts[0]
			return
		}
		if setToWork.MatchString(parts[1]) {
			r.Facts = append(r.Facts, Fact{Line: r.TitleLine, Says: parts[1]})
			r.Title = strings.TrimSpace(parts[0])
			return
		}
		for _, p := range parts[1:] {
			y, ok := yieldOf(p)
			if m := countOf.FindStringSubmatch(p); !ok && m != nil && madeNouns[strings.ToLower(m[3])] {
				y.Count, _ = strconv.Atoi(m[1])
				y.Piece, ok = pieceOf(strings.ToLower(m[2]), y.Count), y.Count > 0
			}
			if ok {
				y.Line = r.TitleLine
				r.Yield, r.Title = y, strings.TrimSpace(parts[0])
				return
			}
		}
	}
	if m := tinInTitle.FindStringSubmatch(r.Title); m != nil {
		for _, p := range strings.Split(m[2], ",") {
			if y, ok := yieldOf(p); ok {
				y.Line = r.TitleLine
				r.Yield, r.Title = y, m[1]
				return
			}
		}
	}
	m := titledYield.FindStringSubmatch(r.Title)
	if served := soManyServed.FindStringSubmatch(r.Title); m == nil && served != nil {
		m = []string{"", served[1], served[2], "", ""}
	}
	if m == nil || forPairs.MatchString(r.Title) {
		r.titleCount()
		return
	}
	name, says := m[1]+m[3], m[2]+m[4]
	y, ok := yieldOf(says)
	if first, _, more := strings.Cut(says, ","); !ok && more { // "(makes 9, 1 = 1 serving)"
		y, ok = yieldOf(first)
	}
	if ok {
		y.Line = r.TitleLine
		r.Yield, r.Title = y, closed(name)
	}
}

// trayOf is what a title says of the tray: "Brownie (traybake - 16)".
var trayOf = pattern.Must(`(?i)^(.{3,60}?)\s*\((?:tray ?bake|tray|batch|slab|makes)\s*[-–—,:=]?\s*(\d{1,2})\)$`)

// setToWork is who works together, behind the name: "4 people working as 2 pairs".
var setToWork = pattern.Must(`(?i)^\d{1,2} (?:people|pupils|students|learners|kids|children) (?:working|work|in|as)\b`)

// forEachInTitle says behind the name what each gets: "Turnovers (4 each)", "Rice salad (each
// student takes home 1 tub)".
var forEachInTitle = pattern.Must(`(?i)^(.{3,60}?)\s*\((?:x ?)?((\d{1,2}) (?:each|per (?:pupil|student|learner|child|person))|(?:each|every|one) (?:pupil|student|learner|child|person|pair|group|bench)\b[^()]*)\)$`)

// soManyServed is "BEEF STEW 10 PORTIONS".
var soManyServed = pattern.Must(`(?i)^(\pL.{3,60}?)\s+(\d{1,3} (?:portions?|servings?|covers|people|persons))$`)

// closed is a title without the beginning of brackets whose end was taken off: "Leek gratin (Y7".
func closed(title string) string {
	if at := strings.LastIndex(title, "("); at > 0 && !strings.Contains(title[at:], ")") {
		title = title[:at]
	}
	return strings.TrimSpace(title)
}

// titleTimes is "Overnight oats x1".
var titleTimes = pattern.Must(`(?i)^(.{3,60}?)\s+x ?(\d{1,2})(?: (?:per|for each|each) (?:bench|pair|group|person|pupil|learner|student))?$`)

// titleBracket is "Chicken fajitas (4)".
var titleBracket = pattern.Must(`^(.{3,60}?)\s*\((?:x ?)?([1-9]\d?)(?:\s*[-–]\s*([1-9]\d?))?\)$`)

var forPairs = pattern.Must(`(?i)^(.{3,60}?)\s*(?:[-–—,(:]\s*|\s)(?:(?:for|per|each) (?:a )?pairs?|((?:in )?pairs?|in (?:2s|twos)))\)?$`)

// forGroupOf is a title with how many make it together: "Cottage pie (group of 3)".
var forGroupOf = pattern.Must(`(?i)^(.{3,60}?)\s*(?:[-–—,(:]\s*|\s)(?:in |for (?:a )?|per )?groups? of ([2-6])\)?$`)

var titledCount = pattern.Must(`(?i)^(.{0,50}?([\pL-]+s))\s*(?:(?:--|[-–—:x])\s*(\d{1,2})|\((\d{1,2})\))$`)

// A group is how many work together, and where that is said.
type group struct {
	cooks int
	line  line
	sure  bool // the amounts are said to be theirs
}

// forGroup takes for the yield how many work together, where nothing says how many it is
// for, and asks where nobody says that the amounts are theirs.
func (r *reader) forGroup() {
	g := r.group
	if g.cooks == 0 || r.Yield.Count > 0 {
		return
	}
	r.Yield = Yield{Count: g.cooks, Piece: "portion", Line: g.line.at}
	if !g.sure {
		r.asked = append(r.asked, Unread{g.line.at, g.line.text, "how many work together is read as how many it is for: is that right?"})
	}
}

// titleCount takes so many of what the title names out of "Beetroot muffins – 12".
func (r *reader) titleCount() {
	if m := forPairs.FindStringSubmatch(r.Title); m != nil {
		r.group = group{2, line{at: r.TitleLine, text: r.Title}, m[2] == ""}
		r.Title = closed(m[1])
		return
	}
	if m := forGroupOf.FindStringSubmatch(r.Title); m != nil {
		cooks, _ := strconv.Atoi(m[2])
		r.group = group{cooks, line{at: r.TitleLine, text: r.Title}, false}
		r.Title = closed(m[1])
		return
	}
	if head, last, ok := strings.Cut(r.Title, ". "); ok {
		if made := countOf.FindStringSubmatch(strings.TrimRight(last, ". ")); made != nil && madeNouns[strings.ToLower(made[3])] {
			r.Yield, r.Title = Yield{Line: r.TitleLine}, head
			r.Yield.Count, _ = strconv.Atoi(made[1])
			r.Yield.Piece = pieceOf(strings.ToLower(made[2]), r.Yield.Count)
			return
		}
	}
	if m := titledCount.FindStringSubmatch(r.Title); m != nil {
		if noun := strings.ToLower(m[2]); isMade(noun) {
			y := Yield{}
			y.Count, _ = strconv.Atoi(m[3] + m[4])
			y.Line, y.Piece = r.TitleLine, pieceOf(noun, y.Count)
			r.Yield, r.Title = y, m[1]
			return
		}
	}
	if m := titleBracket.FindStringSubmatch(r.Title); m != nil {
		r.asked = append(r.asked, Unread{r.TitleLine, r.Title, "the number in brackets is read as how many it serves: is that right?"})
		r.Yield, r.Title = Yield{Piece: "portion", Line: r.TitleLine}, m[1]
		r.Yield.Count, _ = strconv.Atoi(m[2])
		r.Yield.Most, _ = strconv.Atoi(m[3])
		return
	}
	if m := titleTimes.FindStringSubmatch(r.Title); m != nil {
		r.Yield, r.Title = Yield{Piece: "portion", Line: r.TitleLine}, m[1]
		r.Yield.Count, _ = strconv.Atoi(m[2])
		if words := strings.Fields(m[1]); isMade(words[len(words)-1]) {
			r.Yield.Piece = "piece"
		}
	}
}

var (
	unfinished = pattern.Must(`(?i)(?:,|\b(?:and|or|the|a|an|with|of|to|then|in|on|for|until|at|into|from|your|some|over))$`)
	saying     = pattern.Must(`(?i)^(?:so|then|i|we|now|next|into|in the|meanwhile)\b`)
)

// yieldInside looks for a yield inside an introduction or the last sentences:
// "This makes about 12 buns."
func (r *reader) yieldInside() {
	if r.Yield.Count > 0 {
		return
	}
	try := func(at int, text string) bool {
		if len(text) > maxBytes {
			return false
		}
		says := sayings.Split(text, -1)
		if m := yieldLast.FindString(text); m != "" {
			says = append(says, m)
		}
		if m := cutLast.FindStringSubmatch(text); m != nil {
			says = append(says, "cut into "+m[1]+m[2])
		}
		if m := shaped.FindStringSubmatch(text); m != nil && r.group.cooks == 0 {
			says = append(says, "makes "+m[1])
		}
		if m := filled.FindStringSubmatch(text); m != nil {
			says = append(says, "makes "+m[1])
		}
		for _, s := range says {
			if y, ok := yieldOf(s); ok && (yieldWords.MatchString(s) || forSome.MatchString(s) && !goesOnFor.MatchString(text) || roughly.MatchString(strings.TrimSpace(s)) || soManyPieces.MatchString(s)) {
				y.Line = at
				r.Yield = y
				return true
			}
		}
		return false
	}
	for _, f := range r.Facts {
		if try(f.Line, f.Says) {
			return
		}
	}
	for _, p := range r.prose {
		if try(p.lines[0], p.text) {
			return
		}
	}
	for _, u := range r.Unread {
		if try(u.Line, u.Text) {
			return
		}
	}
	for _, l := range r.lines {
		if l.quiet == "" && slices.Contains(r.Headings, l.at) && try(l.at, l.plain()) {
			return
		}
	}
}

// cutLast says in the method into how many it is cut: "cool before cutting into 16".
var cutLast = pattern.Must(`(?i)\bbefore cutting (?:it )?into (\d{1,2}(?: (?:squares|bars|slices|pieces|fingers|wedges))?)\W*$|\bcut in(?:to)? (\d{1,2}) (?:when|while|once) (?:it['’]?s |it is )?(?:cold|cool|warm)\b`)

// filled says it by the cases: "fill 12 cases".
var filled = pattern.Must(`(?i)\b(?:fill|between|into|among) (?:the )?(\d{1,2}) (?:(?:paper|muffin|cake|bun) )?(?:cases|ramekins|moulds)\b`)

// shaped says it by what comes of the dough: "shape into 6 rolls".
var shaped = pattern.Must(`(?i)\b(?:shape|form|divide|split|roll|mould|portion)(?: (?:it|the (?:dough|mixture|mix|mince)|dough|mixture))?(?: up)? (?:in)?to (\d{1,2} (?:(?:equal|even|round|small|large|flat) )?(?:rolls|buns|balls|patties|burgers|koftas|scones|baps|cakes|fishcakes|loaves|breadsticks|flatbreads|naans|rounds))\b`)

// madeInBrackets is a number of what is made, under the title: "(4 turnovers)".
var madeInBrackets = pattern.Must(`^\((\d{1,2}) (\pL+)\)$`)

// tinInTitle is a tin and what it gives, behind the name: "Lemon bars (tray 20 x 30, cuts into 18)".
var tinInTitle = pattern.Must(`^(.{3,60}?)\s*\(([^()]+,[^()]+)\)$`)

// yieldLast ends a line of times: "Prep: 10 mins Cook: 20 mins Serves: 4".
var yieldLast = pattern.Must(`(?i)\b(?:serves|makes|yields?|portions)\b:? ?\d[^:]*$`)

var soManyPieces = pattern.Must(`(?i)^\s*\d{1,2} (?:` + pieceNouns + `)\s*$`)

// goesOnFor is done for minutes, and for nobody.
var goesOnFor = pattern.Must(`(?i)\b(?:simmer|bake|cook|boil|fry|roast|leave|rest|chill|grill|steam|prove|knead|beat|whisk|cool)\b`)

var forSome = pattern.Must(`(?i)^\s*for \d{1,2}\s*$`)

var sayings = pattern.Must(`[.!?;(),|•·]\s*|\s+[-–—]\s+|(?i:prep|cook|total|ready|time)\b`)

var yieldWords = pattern.Must(`(?i)\b(?:it does|(?:qtys?|quantities|amounts) (?:are )?for|cuts into|makes?|serves?|yields?|feeds|enough for|ergibt|portion|people)`)
