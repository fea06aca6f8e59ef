package measure

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pattern"
)

// A Reading is what was understood of an ingredient line. Nothing is guessed
// silently: what is doubtful is in Doubts, what can't be an amount in
// Problems, and a word that stands where an amount should in Unread.
type Reading struct {
	Line      string       // as given, tidied
	Given     bool         // there is an amount
	Low, High exact.Number // the amount; different where it is a range
	Unit      Unit
	Also      []Quantity // the same said otherwise: the 225 g of "8 oz / 225 g"
	Pack      *PackSize  // the tin of "½ x 400 g tin"
	Behind    bool       // the size of the pack stands behind the name, and may be what all of it is
	Size      string     // "large", "heaped", "packed"
	Name      string     // "plain flour"
	Note      string     // "sifted"
	Taste     bool       // "to taste"
	Surface   bool       // "for greasing", "for dusting"
	Optional  bool
	Doubts    []string
	Problems  []string
	Unread    string
}

// A PackSize is so many packs of a size.
type PackSize struct {
	Count exact.Number
	Size  Quantity
	Word  Unit // tin, packet
}

// Quantity returns the amount; of a range, its middle.
func (r Reading) Quantity() Quantity {
	return Quantity{r.Low.Add(r.High).Div(exact.Int(2)), r.Unit}
}

// Limits of what an amount in a kitchen can be, in the base unit.
var most = map[Dimension]int64{Mass: 100_000, Volume: 100_000, Count: 10_000, Length: 10_000}

// maxLine is the longest line that is read, in runes.
const maxLine = 400

// Read reads an ingredient line as people write it, in the given system.
func Read(line string, sys System) Reading {
	l := &liner{sys: sys, Reading: Reading{Line: Tidy(line)}}
	if n := len([]rune(l.Line)); n > maxLine {
		l.Line = string([]rune(l.Line)[:maxLine])
		l.problem("the line has %d letters; an ingredient has at most %d", n, maxLine)
		l.Name = l.Line
		return l.Reading
	}
	l.read(l.Line)
	return l.Reading
}

const (
	onePack   = `tin|can|jar|sachet|packet|pack|carton|pot|tub|bag|block|bottle`
	oneUnit   = `(?:g|kg|ml|l|oz|lb|tsp|tbsp|cloves?|tins?|cans?|slices?|sticks?|rashers?|cups?)`
	packHolds = `\s*[:,–-]?\s*(\d+(?:[.,]\d+)?\s?(?:g|kg|ml|l|cl))$`
)

var (
	bullet = pattern.Must(`^(?:[-–—*+]\s+|[•·▪◦‣●○■□☐☑✓✔➢►]\s*|\[[ xX]?\]\s*|\d{1,2}[.)]\s+(?:\d|[½⅓⅔¼¾⅛]))`)
	spaces = pattern.Must(`\s+`)
	dots   = pattern.Must(`\s*\.{3,}\s*|\s*…+\s*`)

	// How people write what is written otherwise as a rule; each is looked at in turn, where
	// the line has one of the marks at all: most have none.
	otherways = []struct {
		words *pattern.Pattern
		to    string
		marks []string
	}{
		{pattern.Must(`(?i)^((?:[-•*]\s*)?[\d½¼¾⅓⅔]+(?:[./]\d+)?)\s?x\s+(\pL)`), "$1 $2", []string{"x", "X"}},                                                // "2 x onions"
		{pattern.Must(`(?i)^(?:an? )?(?:small |large |big )?(` + onePack + `)(?: of)? (\pL[\pL' -]*?)` + packHolds), "$2 ($3 $1)", nil},                      // "tin chopped tomatoes: 400 g"
		{pattern.Must(`(?i)^(an?|1|one|½|1/2|half an?) (` + onePack + `|ball|bar)(?: of)? (\pL[\pL' -]*?)` + packHolds), "$1 x $4 $2 $3", nil},               // "1 pack mince 500 g"
		{pattern.Must(`(?i)^(?:the )?(whites?|yolks?) of (\d+) (?:\pL+ )?eggs?$`), "$2 egg $1", []string{"hite", "olk"}},                                     // "whites of 3 eggs"
		{pattern.Must(`(?i)^(\d+) (?:\pL+ )?eggs?[ ,(–-]+(whites?|yolks?) only\)?$`), "$1 egg $2", []string{"hite", "olk"}},                                  // "3 eggs (whites only)"
		{pattern.Must(`(?i)^(\pL[\pL ]*?) (small|medium|large|lge|med) x ?(\d+)$`), "$3 $2 $1", []string{" x"}},                                              // "onion small x1"
		{pattern.Must(`(?i)^(\pL[\pL' -]*?) (small|large) (` + onePack + `)$`), "1 $2 $3 $1", []string{"small ", "large ", "Small ", "Large "}},              // "sweetcorn small tin"
		{pattern.Must(`(?i)^(\pL[\pL' -]*?) \((?:an? )?(pinch|handful|dash|splash|drizzle|knob)\)$`), "1 $2 $1", []string{"("}},                              // "chilli flakes (pinch)"
		{pattern.Must(`(?i)^[([](optional)[)\]]:? +(.+)$`), "$2, $1", []string{"(", "["}},                                                                    // "(optional) 50 g nuts"
		{pattern.Must(`(?i)\b(med|lge|lg|lrg|sm|sml)\. `), "$1 ", []string{". "}},                                                                            // "2 med. onions"
		{pattern.Must(`(?i) \+ (a bit|a little|extra|more|some)\b`), " plus $1", []string{" + "}},                                                            // "25 g butter + a bit for the tin"
		{pattern.Must(`(?i) \+ ?(?:extra for )?(dusting|rolling|greasing|flouring|sprinkling)$`), ", plus extra for $1", []string{" +"}},                     // "150 g plain flour + dusting"
		{pattern.Must(`(?i)(\pL) gr\. (\pL)`), "$1 ground $2", []string{"gr. ", "Gr. "}},                                                                     // "1 tsp gr. coriander"
		{pattern.Must(`(?i)^([^,]*\bpeppers?) ((?:any|of any) colou?rs?)$`), "$1, $2", []string{"any col"}},                                                  // "1 pepper any colour"
		{pattern.Must(`(?i)^([^,]*\b(?:lemon|lime|orange)s?) (zest|rind|juice) ?(?:[+&]|and) ?(zest|rind|juice)$`), "$1, $2 and $3", []string{"est", "ind"}}, // "1 lemon zest + juice"
		{pattern.Must(`(?i)^((?:an? |½ |1/2 |half an? )?|\d+ )rolls? (?:of )?((?:ready[- ]|puff|short|filo).*)$`), "$1 packet $2", []string{"roll"}},         // "½ roll of puff pastry"
		{pattern.Must(`(?i)^(\d+|an?) (ready[- ]rolled) (sheets?|packs?) (?:of )?(.+)$`), "$1 $3 $2 $4", []string{"olled"}},                                  // "1 ready-rolled sheet puff pastry"
		{pattern.Must(`(?i)^(\pL[\pL' -]*?) (` + onePack + `)` + packHolds), "$1 ($3 $2)", nil},                                                              // "passata jar – 690g"
		{pattern.Must(`(?i)^(\d+ ?(?:g|kg|ml|l) (?:` + onePack + `)s? (?:of )?\pL[\pL' -]*?) x ?(\d{1,2})$`), "$2 x $1", []string{"x", "X"}},                 // "400g can of beans x 2"
		{pattern.Must(`(?i)\bthumb(?:nail)?[- ]sized? (?:piece|knob|lump|bit)\b(?: of)?`), "thumb of", []string{"humb", "HUMB"}},
		{pattern.Must(`(?i)^(\d+)(?: ?nos\.?| ?no\.|no) (\pL)`), "$1 $2", []string{"no", "NO", "No"}},                                                                                                 // "2 no. eggs"
		{pattern.Must(`^(\pL[\pL()' -]*?)\s*=\s*(\d)`), "$1 $2", []string{"="}},                                                                                                                       // "milk = 200 ml"
		{pattern.Must(`(?i)^ca?\.? ?(\d)`), "about $1", []string{"c", "C"}},                                                                                                                           // "c.100 g flour"
		{pattern.Must(`(?i)^(\pL[\pL' -]*?) \((about|approx\.?|approximately|roughly|around) (\d[^()]*)\)$`), "$2 $3 $1", []string{"("}},                                                              // "oil (about 1 tbsp)"
		{pattern.Must(`(?i)(\d ?g) (?:knob|lump|pat|chunk) of `), "$1 ", []string{"knob of", "lump of", "pat of", "chunk of"}},                                                                        // "about 15 g knob of butter"
		{pattern.Must(`(?i)(\d ?(?:g|kg|ml|l|oz|lb)) to (\d+(?:[.,]\d+)? ?(?:g|kg|ml|l|oz|lb)\b)`), "$1 - $2", []string{" to "}},                                                                      // "100 g to 150 g flour"
		{pattern.Must(`(?i)^(\d+(?:[.,]\d+)? ?(?:g|kg|ml|l|oz|lb))\+ `), "$1 ", []string{"+ "}},                                                                                                       // "100g+ flour"
		{pattern.Must(`(?i)^(\pL[\pL ]*?) [-–] (\d+(?:[.,/]\d+)? ?` + oneUnit + `) ?[-–,] (\pL.*)$`), "$2 $1, $3", []string{" - ", " – "}},                                                            // "garlic - 2 cloves - crushed"
		{pattern.Must(`\s*(?:[-–@(]\s*)?(?:[£€$]\s?\d+(?:[.,]\d{1,2})?(?: ?each)?|\b\d{1,3} ?p)\)?$`), "", []string{"£", "€", "$", "0p", "1p", "2p", "3p", "4p", "5p", "6p", "7p", "8p", "9p", " p"}}, // "flour 100 g 12p"
	}
)

// Tidy takes a line out of its list: marks of bullets, control characters and
// double spaces go; the many kinds of slash, space and multiplication sign
// become one.
func Tidy(line string) string {
	line = strings.Map(func(r rune) rune {
		switch {
		case r == '\u2044' || r == '\u2215' || r == '／':
			return '/'
		case r == '×' || r == '✕' || r == '✖':
			return 'x'
		case r == '\u2212':
			return '-'
		case r == '‘' || r == '’' || r == '`':
			return '\''
		case r == '“' || r == '”':
			return '"'
		case unicode.IsSpace(r):
			return ' '
		case '０' <= r && r <= '９':
			return '0' + r - '０'
		case unicode.Is(unicode.Cf, r) && r != '\u200d', unicode.IsControl(r):
			return -1
		}
		return r
	}, line)
	line = strings.TrimSpace(spaces.ReplaceAllString(dots.ReplaceAllString(line, " "), " "))
	for _, o := range otherways {
		if o.marks == nil || slices.ContainsFunc(o.marks, func(mark string) bool { return strings.Contains(line, mark) }) {
			line = o.words.ReplaceAllString(line, o.to)
		}
	}
	if m := bullet.FindString(line); m != "" {
		if last := []rune(m)[len([]rune(m))-1]; unicode.IsDigit(last) || fractions[last].Sign() > 0 {
			m = strings.TrimSuffix(m, string(last)) // "1. 200 g": the number of the list goes, the amount stays
		}
		line = strings.TrimSpace(line[len(m):])
	}
	return line
}

// A liner reads one line.
type liner struct {
	Reading
	sys   System
	notes []string
}

func (l *liner) doubt(format string, args ...any) {
	l.Doubts = append(l.Doubts, fmt.Sprintf(format, args...))
}

func (l *liner) problem(format string, args ...any) {
	l.Problems = append(l.Problems, fmt.Sprintf(format, args...))
}

var (
	negative  = pattern.Must(`^-\s*[\d½⅓⅔¼¾.]`)
	about     = pattern.Must(`(?i)^(?:about|approximately|approx\.?\s|ca\.?\s|circa|roughly|around|at least|up to|~|≈)\s*`)
	partOf    = pattern.Must(`(?i)^((?:(?:finely|freshly)? ?(?:grated|squeezed|pared)? ?(?:the )?(?:juice|zest|rind|peel|yolks?|whites?|seeds)(?: and | & |, )?)+) (?:of|from) (?:the )?(.+)$`)
	butter    = pattern.Must(`(?i)^[^,(]*\b(?:butter|margarine)\b`)
	dash      = pattern.Must(`^[-–—]\s*`)
	plusMark  = pattern.Must(`(?i)^(?:plus|\+|and|&)\s+`)
	otherwise = pattern.Must(`(?i)^(?:/|\||=|or\s)\s*`)
	within    = pattern.Must(`^(?:/|,|or |;|\|)\s*`)
	ofWord    = pattern.Must(`(?i)^(?:(?:of the|of|de la|de)\s+|d['’]\s*)`)
)

// read takes the line apart: amount, then name and note.
func (l *liner) read(s string) {
	if s == "" {
		l.problem("the line is empty")
		return
	}
	if negative.MatchString(s) {
		l.problem("an amount can’t be below zero")
		l.Unread = strings.Fields(s)[0]
		s = strings.TrimLeft(s, "- ")
		if f, ok := readNumber(s); ok {
			s = strings.TrimSpace(f.rest)
			if _, rest, ok := l.unit(s); ok {
				s = rest
			}
		}
		l.finish(s)
		return
	}
	if m := partOf.FindStringSubmatch(s); m != nil {
		l.notes = append(l.notes, "the "+strings.TrimPrefix(strings.ToLower(m[1]), "the "))
		s = m[2]
	}
	if m := about.FindString(s); m != "" {
		l.notes = append(l.notes, "about")
		s = s[len(m):]
	}
	low := strings.ToLower(s)
	for _, v := range vague {
		if strings.HasPrefix(low, v+" ") && len(low) == len(s) {
			l.Unread = s[:len(v)]
			l.doubt("“%s” is no amount: nothing is measured", l.Unread)
			name := s[len(v)+1:]
			if u, rest, ok := l.unit(name); ok && rest != "" && u.Dimension == Count { // "a few drops vanilla"
				name = rest
			}
			l.finish(name)
			return
		}
	}
	if rest, ok := l.amount(s); ok {
		l.finish(rest)
		return
	}
	if inner := l.sizeWords(s); inner != "" { // "pinch of salt" is one
		if u, rest, ok := l.unit(inner); ok && rest != "" && (u.Loose() || u.ID == "bunch" || bought.MatchString(inner) && !kindOf.MatchString(inner)) {
			l.take(exact.Int(1), exact.Int(1), u)
			l.finish(rest)
			return
		}
	}
	if l.nameFirst(s) {
		return
	}
	l.finish(s)
}

// bought are words which say by themselves that there is one, "tin coconut milk", and kindOf where
// they say what kind of a thing it is, "block margarine", or what to do, "pack the jars".
var (
	bought = pattern.Must(`(?i)^(?:tin|packet|pkt|pack|jar|sachet|carton|bag|tub|pot|punnet|ball|block|bottle|loaf|tube|bulb|head|clove|stalk|sprig|rasher|pint) |^(?:bar|box|stick) of |^can (?:of |\pL+ )?(?:tomato(?:es)?|toms|beans|chickpeas|lentils|sweetcorn|tuna|coconut|pineapple|peaches)\b|^stick (?:celery|cinnamon|rhubarb|lemon ?grass)`)
	kindOf = pattern.Must(`(?i)^\pL+ (?:(?:the|it|them|in|into|and|up|all|each|your|with|down|on|for|to)\b|&)|^(?:(?:block|tub) (?:marg|butter|fats?\b|spread|lard|baking)|pot (?:barley|noodle)|loaf (?:tin|cake|sugar)|bottle gourd|clove powder|head chef)`)
)

var amountStart = pattern.Must(`(?i)(?:^|[\s:,(–—-]|\sx)(\d|[½⅓⅔¼¾⅛]|half$|(?:a |one )?(?:small |big |good )?(?:pinch|handful|drizzle|squeeze|knob|splash|dash)$)`)

// cuts are those that a kitchen names.
const cuts = `brunoise|julienne|paysanne|mac[eé]doine|jardini[eè]re|mirepoix|chiffonade|b[aâ]tonn?ets?|batons?|concass\pL*`

var (
	timesMark = pattern.Must(`\bx ?$`)
	setOff    = pattern.Must(`[–—:-] ?$`)
	stateWord = pattern.Must(`(?i)^(?:small|medium|large|frozen|fresh|dried|tinned|canned|melted|grated|sliced|chopped|diced|cooked|raw|softened|sifted|cubed|crushed|beaten|cold|warm|peeled|drained|washed|broken|` + cuts + `)$`)
	// "onion 1, chopped"
	workedTail = pattern.Must(`(?i)^[,(–-]+\s*(?:(?:finely|roughly|thinly|very|well|lightly|freshly) )*(?:small|medium|large|melted|grated|sliced|chopped|diced|crushed|peeled|washed|drained|rinsed|zested|juiced|halved|quartered|cored|deseeded|trimmed|beaten|cubed|skinned|boned|cut|fine|thin|rough|broken|` + cuts + `|to (?:glaze|garnish|serve|decorate))\b`)
	yieldWord  = pattern.Must(`(?i)(?:^|\s)(?:makes|serves|yields?|gives|feeds|for)$`)
	wordsOnly  = pattern.Must(`^[\pL-]+(?: [\pL-]+){0,2}$`)
)

// nameFirst reads "flour 200 g", "Milk: 0,5 l" and "salt – a pinch".
func (l *liner) nameFirst(s string) bool {
	m := amountStart.FindStringSubmatchIndex(s)
	if m == nil || m[2] == 0 {
		return false
	}
	name := strings.TrimSuffix(strings.TrimRight(s[:m[2]], " :,–—-=("), " x")
	if name == "" || name == "x" || yieldWord.MatchString(name) || !strings.ContainsFunc(name, unicode.IsLetter) {
		return false
	}
	try := &liner{sys: l.sys}
	rest, ok := try.amount(s[m[2]:])
	if u, after, loose := try.unit(try.sizeWords(s[m[2]:])); !ok && loose && u.Loose() { // "honey: drizzle"
		try.take(exact.Int(1), exact.Int(1), u)
		rest, ok = after, true
	}
	tail := strings.TrimSpace(strings.TrimRight(rest, ")"))
	noted := tail == "" || stateWord.MatchString(tail) || strings.HasPrefix(tail, ",") || strings.HasPrefix(tail, "(") || strings.HasPrefix(tail, "+ ") || strings.HasPrefix(tail, "plus ")
	pieces := try.Unit.ID == Each.ID && try.Pack == nil
	switch {
	case !ok:
		return false
	case pieces && timesMark.MatchString(s[:m[2]]): // "fillets x4 skinless"
		noted = noted || wordsOnly.MatchString(tail)
	case pieces && !setOff.MatchString(s[:m[2]]): // "red onion – 1, sliced"
		noted = rest == "" || stateWord.MatchString(tail) || workedTail.MatchString(tail) || rest == ")" && s[m[2]-1] == '(' // "eggs (2)", and not "pie (serves 2)"
	}
	if !noted {
		return false
	}
	line, notes := l.Line, l.notes
	l.Reading = try.Reading
	l.Line = line
	l.notes = append(notes, strings.Trim(strings.TrimRight(rest, ")"), " ,("))
	l.finish(name)
	return true
}
