package reading

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// ingredient takes a line of the list.
func (r *reader) ingredient(at int, item, part string) {
	if several.MatchString(item) && !bothOf.MatchString(item) { // one lemon has both
		if parts := recipe.Several(item, r.Units.Taken, r.pantry); len(parts) > 1 {
			for _, p := range parts {
				r.ingredient(at, p, part)
			}
			return
		}
	}
	if saltSlash.MatchString(item) {
		r.ingredient(at, "salt", part)
		r.ingredient(at, "pepper", part)
		return
	}
	item = andAhead.ReplaceAllString(broughtIn.ReplaceAllString(item, ", $1"), "$1")
	item = eggWash.ReplaceAllString(item, "${1}beaten egg to glaze")
	item = sprinkles.ReplaceAllString(item, "${1}cake sprinkles")
	if m := eitherOf.FindStringSubmatchIndex(item); m != nil && !strings.EqualFold(item[m[2]:m[3]], item[m[6]:m[7]]) { // "chicken or veg stock, 300 ml": of chicken, or of vegetables
		first, second, kind := item[m[2]:m[3]], item[m[4]:m[5]], item[m[6]:m[7]]
		item = item[:m[2]] + first + " " + kind + item[m[7]:] + ", or " + second + " " + kind
	}
	if m := slashedFirst.FindStringSubmatch(item); m != nil && !r.known(item) { // "butter/margarine 25 g"
		item = m[4] + " " + m[1] + "/" + m[2] + m[3]
	}
	if m := slashed.FindStringSubmatch(item); m != nil && !r.known(item) { // "50 g butter/marg"
		for _, first := range []string{m[1] + m[2], m[1] + m[2] + m[4]} {
			if r.known(first) {
				item = first + ", or " + m[3] + m[4]
				break
			}
		}
	}
	item = eachLast.ReplaceAllString(item, "$2 each $1")
	item = sumBehind.ReplaceAllString(item, "$2 + $3 $1, $3 $4")
	item = sumApart.ReplaceAllString(item, "$1 + $3 $2, $3 $4")
	item = orBehind.ReplaceAllString(item, "$2 $1 $3")
	if m := eachOf.FindStringSubmatch(item); m != nil {
		var names []string
		for _, name := range andKnown.Split(strings.ReplaceAll(m[2], "/", ","), -1) {
			if words := strings.Fields(name); len(words) > 1 && !r.known(name) && !slices.ContainsFunc(words, func(w string) bool { return !r.known(w) }) { // "1 tsp each cumin paprika oregano"
				names = append(names, words...)
			} else {
				names = append(names, name)
			}
		}
		if len(names) > 1 {
			head := names[len(names)-1]
			head = head[strings.LastIndex(head, " ")+1:]
			for _, name := range names {
				if !r.known(name) && r.known(name+" "+head) { // "½ each red and green pepper"
					name += " " + head
				}
				if ofItsOwn.MatchString(name) {
					r.ingredient(at, name, part)
				} else if name != "" {
					r.ingredient(at, m[1]+" "+name, part)
				}
			}
			return
		}
	}
	if m := servedWith.FindStringSubmatch(item); m != nil && r.severalKnown(m[2]) {
		r.ingredient(at, m[1], part)
		for _, name := range andKnown.Split(m[2], -1) {
			r.ingredient(at, name+", "+m[3], part)
		}
		return
	}
	if m := soManyOf.FindStringSubmatch(item); m != nil {
		item = m[3] + " " + m[1] + " " + m[2]
	}
	if m := sizeBehind.FindStringSubmatch(item); m != nil {
		item = m[2] + " " + m[3] + " " + m[1]
	}
	if m := slashedBoth.FindStringSubmatch(item); m != nil && r.known(m[1]) {
		item = m[1] + ", or " + m[2]
	}
	item = stockFrom.ReplaceAllString(item, "$1, $2")
	if m := cubeIn.FindStringSubmatch(item); m != nil {
		item = m[1] + " mixed with " + m[2]
	}
	if m := stirredWith.FindStringSubmatch(item); m != nil && r.known(m[1]) && r.certain(m[2]) {
		first := len(r.Ingredients)
		r.ingredient(at, m[1], part)
		if first < len(r.Ingredients) {
			note := &r.Ingredients[first].Taking.Ingredient.Note
			*note = strings.TrimLeft(*note+", "+strings.TrimLeft(item[len(m[1]):], ", "), ", ")
		}
		r.ingredient(at, m[2], part)
		return
	}
	if m := moreWeighed.FindStringSubmatch(item); m != nil && r.certain(m[1]) {
		r.ingredient(at, m[1], part)
		r.ingredient(at, m[3]+" "+m[2]+", "+m[4], part)
		return
	}
	if m := moreOf.FindStringSubmatch(item); m != nil && r.certain(m[1]) {
		r.ingredient(at, m[1], part)
		r.ingredient(at, m[3]+" "+m[2]+", "+m[4], part)
		return
	}
	if m := twoKinds.FindStringSubmatch(item); m != nil && r.known(m[2]+" "+m[5]) && r.known(m[4]+" "+m[5]) {
		r.ingredient(at, m[1]+" "+m[2]+" "+m[5]+m[6], part)
		r.ingredient(at, m[3]+" "+m[4]+" "+m[5]+m[6], part)
		return
	}
	if m := slicesBehind.FindStringSubmatch(item); m != nil && r.known(m[2]) {
		item = m[1] + " " + m[3] + " of " + m[2]
	}
	item = r.oneSpoon(at, item)
	if barePuree.MatchString(item) {
		r.asked = append(r.asked, Unread{at, item, "it is read as tomato purée: is that right?"})
	}
	if m := partOfFruit.FindStringSubmatch(item); m != nil {
		item = m[1] + " of " + m[2] + " " + m[3]
	}
	if m := perHeadOf.FindStringSubmatch(item); m != nil && r.certain(m[1]) {
		r.asked = append(r.asked, Unread{at, item, fmt.Sprintf("“%s”: is that all that the recipe takes?", m[2])})
		item = m[1] + ", " + m[2]
	}
	if things := strings.Split(item, ", "); len(things) > 2 && figure.MatchString(things[0]) && r.allOther(things) { // "1 bun, lettuce, tomato, mayo"
		for _, thing := range things {
			r.ingredient(at, thing, part)
		}
		return
	}
	t := r.take(item)
	if kit.MatchString(item) && !t.Match.Certain {
		r.fact(line{at: at, item: item})
		return
	}
	if utensil.MatchString(item) && !t.Match.Certain {
		r.Facts = append(r.Facts, Fact{Line: at, Says: item, About: "equipment"})
		return
	}
	t.Ingredient.Part = part
	r.Ingredients = append(r.Ingredients, Ingredient{Line: at, Taking: t, Prepared: prepared(t)})
	if part != "" {
		r.addPart(part)
	}
	for _, p := range t.Reading.Problems {
		r.asked = append(r.asked, Unread{at, item, p})
	}
	if withoutUnit(t) {
		r.asked = append(r.asked, Unread{at, item, whichUnit})
	}
	r.askOfNote(at, item, t)
}

// oneSpoon puts a one before a spoon of something that has no number, and asks: "tsp of mixed herbs".
func (r *reader) oneSpoon(at int, item string) string {
	m := spoonOf.FindStringSubmatch(item)
	if m == nil || !r.known(item[len(m[0]):]) {
		return item
	}
	if m[1] == "" {
		r.asked = append(r.asked, Unread{at, item, "no number stands before the spoon, and one is taken: is that right?"})
	}
	return "1 " + m[2] + " " + item[len(m[0]):]
}

// allOther reports whether what stands behind an ingredient are others, each known and without an amount.
func (r *reader) allOther(things []string) bool {
	seen := map[string]bool{r.take(things[0]).Ingredient.Pantry: true}
	for _, thing := range things[1:] {
		t := r.take(thing)
		if !t.Match.Certain || t.Reading.Given || seen[t.Ingredient.Pantry] || isJob(thing) || ofTheSame.MatchString(thing) || len(strings.Fields(thing)) > 2 {
			return false
		}
		seen[t.Ingredient.Pantry] = true
	}
	return true
}

const whichUnit = "in which unit is the amount?"

// withoutUnit reports whether a thing that is weighed or poured is counted, and to a number of which
// nobody has so many: "350 flour".
func withoutUnit(t recipe.Taking) bool {
	const many = 10
	return t.Reading.Given && t.Reading.Unit.ID == measure.Each.ID && t.Match.Certain && !t.Match.Ingredient.Counted() && !strings.HasSuffix(t.Reading.Name, "s") && t.Reading.Low.Cmp(exact.Int(many)) >= 0
}

// askOfNote asks whether what stands behind a comma is a thing of its own: "100 g feta, leeks".
func (r *reader) askOfNote(at int, item string, t recipe.Taking) {
	if !t.Match.Certain {
		return
	}
	for _, p := range strings.Split(t.Ingredient.Note, ",") {
		p = strings.TrimSpace(p)
		if m := instead.FindStringSubmatch(p); m != nil && r.certain(m[1]) {
			r.asked = append(r.asked, Unread{at, item, fmt.Sprintf("only the first is taken: is it made with “%s”?", m[1])})
			continue
		}
		other := r.take(p)
		same := other.Ingredient.Pantry == strings.TrimPrefix(t.Ingredient.Pantry, "dried-") // "rajma (kidney beans), soaked"
		if other.Match.Certain && other.Ingredient.Pantry != t.Ingredient.Pantry && !same && (other.Reading.Given || !isJob(p)) && !ofTheSame.MatchString(p) {
			r.asked = append(r.asked, Unread{at, item, fmt.Sprintf("is “%s” another ingredient? Then it needs a line of its own", p)})
		}
	}
}

var instead = pattern.Must(`(?i)^or (.+)$`)

// ofTheSame says more of a thing by another's name: "milk or dark", "reduced salt".
var ofTheSame = pattern.Must(`(?i)\bor\b|^(?:reduced|low|less|no|without|not|unsalted|lower)\b|[- ]free$`)

var (
	several      = pattern.Must(`(?i) (?:plus|and|\+|&) `)
	eachOf       = pattern.Must(`(?i)^((?:\d|[½¼¾⅓⅔]|an? |one |half |pinch|dash|handful|splash|drizzle)[^,]{0,18}?)\s+(?:of )?each(?: of)?:?\s+(\pL.*)$`)
	twoKinds     = pattern.Must(`(?i)^(\d+|[½¼]) (\pL+)(?: (?:\+|and|&)|,) (\d+|[½¼]) (\pL+) (\pL+)(.*)$`)                                                                           // "1 red + 1 yellow pepper"
	stirredWith  = pattern.Must(`(?i)^(.+?),? (?:mixed|blended|slaked|stirred|whisked|dissolved|made up) (?:up )?(?:with|w/|in|into) ((?:\d|[½¼¾⅓⅔]|an? ).+)$`)                      // "1 tsp cornflour mixed with 2 tbsp water"
	cubeIn       = pattern.Must(`(?i)^(.+? (?:cubes?|pots?|powder|granules)),? (?:with|in|\+) ((?:\d|[½¼¾⅓⅔]).+\bwater)$`)                                                           // "1 stock cube in 300 ml boiling water"
	eachLast     = pattern.Must(`(?i)^(\pL[\pL ]*(?:(?:\s?[/,+&]\s?|\sand\s)\pL[\pL ]*)+?)(?: ?[-–:,]|) ((?:\d|[½¼]|an? )[^,]{0,14}?) (?:of )?each$`)                                // "cumin/coriander - 1 tsp each", "peas & sweetcorn, 2 tbsp each"
	sumBehind    = pattern.Must(`(?i)^(\pL[\pL -]*?),? (\d[\d.½¼]* ?(?:ml|l|tsp|tbsp)) ?(?:\+|plus|and) ?(\d[\d.½¼]* ?(?:ml|tsp|tbsp)) ((?:for|to) .+)$`)                            // "milk 125ml + 1tbsp for brushing"
	sumApart     = pattern.Must(`(?i)^(\d[\d.½¼]* ?(?:ml|l|tsp|tbsp)) (\pL[\pL -]*?) ?(?:\+|plus) ?(\d[\d.½¼]* ?(?:ml|tsp|tbsp)) ((?:for|to) .+)$`)                                  // "125ml milk + 1 tbsp for brushing"
	orBehind     = pattern.Must(`(?i)^(\pL[\pL -]*?),? (\d[\d.½¼]* ?(?:g|kg|ml|l|tsp|tbsp)) (or \pL[^\d]*)$`)                                                                        // "pesto 2 tbsp or tomato puree"
	moreOf       = pattern.Must(`(?i)^(\d+ (\pL[\pL ]*?)) (?:\+|and|plus) (\d+) ((?:for|to) \pL.*)$`)                                                                                // "1 egg + 1 to glaze"
	moreWeighed  = pattern.Must(`(?i)^(\d[\d./]* ?(?:g|kg|ml|l|oz|lb|tsp|tbsp|cups?) (\pL[\pL' -]*?)),? (?:\+|and|plus) (\d[\d./]* ?(?:g|kg|ml|l|oz|tsp|tbsp)) ((?:for|to) \pL.*)$`) // "75 g cheese plus 25 g for the top"
	slashedBoth  = pattern.Must(`^([^/]*\pL) / (\pL[^\d/]*)$`)                                                                                                                       // "1 chicken breast / quorn pieces"
	stockFrom    = pattern.Must(`(?i)^(.+ stock),? ((?:made|mixed) (?:up )?(?:with|from|using) .*(?:cubes?|pots?|powder|granules))$`)
	perHeadOf    = pattern.Must(`(?i)^(.+?),? \(?(each|p\.? ?p\.?|per (?:pair|group|bench|person|pupil|student|learner|child|head))\)?$`)                                        // "1 egg per pair"
	servedWith   = pattern.Must(`(?i)^([^,]+), ([^,]+(?:, [^,]+)?) (to (?:serve|garnish|finish|decorate|top))$`)                                                                 // "4 buns, lettuce and tomato to serve"
	soManyOf     = pattern.Must(`(?i)^(tins?|cans?|jars?|packs?|packets?|bags?|tubs?|cartons?|bunch|sachets?|cloves?|slices?|sticks?) (?:of )?(\pL[\pL' -]+?) [x×] ?(\d{1,2})$`) // "tin chopped tomatoes x1"
	sizeBehind   = pattern.Must(`(?i)^(\pL[\pL ]{2,20}?) (\d{1,2}) (lge|lg|large|med|medium|small|sml)$`)                                                                        // "onion 1 lge"
	looseBehind  = pattern.Must(`(?i)^(\pL[\pL ]{2,20}?)(?:,| [–-])? (?:an? )?(?:small |large |big |good )?(thumb|knob|pinch|handful|splash|drizzle|bunch|sprig|dash|glug)$`)    // "ginger thumb"
	aboutBehind  = pattern.Must(`(?i)^(\pL[\pL ]{2,24}?) (?:about|approx\.?|around|roughly) ((?:\d|[½¼]).*)$`)                                                                   // "ghee about 3 tbsp"
	spoonsBehind = pattern.Must(`(?i)^(\pL[\pL ]{2,20}?) (half|one|two|three|an?) (spoons?|mugs?|cups?)$`)                                                                       // "salt half spoon"
	ifHad        = pattern.Must(`(?i),? if (?:you|u|we)(?:['’]ve| have)(?: (?:it|any|some|got (?:it|any)))?$`)
	barePuree    = pattern.Must(`(?i)^((?:\d|[½¼]|an? )[\d/½¼ x]*(?:tbsp|tsp|tablespoons?|teaspoons?|squirts?)(?: of)?) pur[ée]e$`) // which is of tomatoes where nothing is said
	spoonOf      = pattern.Must(`(?i)^(an? )?((?:level |heaped )?(?:tsp|tbsp|teaspoon|tablespoon|dsp)) (?:of )?`)
	eggWash      = pattern.Must(`(?i)^(\d )?egg[ -]?(?:wash|glaze)(?: \([^()]*\))?$`)
	andAhead     = pattern.Must(`(?i)^(?:and|plus|also|then) ((?:\d|[½¼¾⅓⅔]|half |one |two |three |four ).*)$`) // a line that goes on in a list as it is spoken
	saltSlash    = pattern.Must(`(?i)^salt ?/ ?pepper$`)
	broughtIn    = pattern.Must(`(?i) (in an? (?:named |small |lidded |sealed |clean |screw-top )*(?:pot|tub|jar|bag|box|container|bottle)\b.*)$`) // "a little milk in a pot with a lid"
	slicesBehind = pattern.Must(`(?i)^((?:\d|[½¼])[^ ]*|a few|some) (\pL[\pL ]{2,20}?) (slices?)$`)                                                // "3 cucumber slices"
	sprinkles    = pattern.Must(`(?i)^(.*\b)sprinkles\b`)                                                                                          // which is what to do anywhere else
	slashedFirst = pattern.Must(`^(\pL+)/(\pL+)((?: \pL+)*?)[ ,:.…–-]+(\d[^,]*)$`)
	slashed      = pattern.Must(`^(.*?)(\pL+)/(\pL+)((?: \pL+)*)$`)
	eitherOf     = pattern.Must(`(?i)\b(\pL+) or (\pL+) (mince|stock|cheese|milk|flour|noodles|beans|sugar|cream|oil|vinegar|rice|pasta|yoghurt|lentils|juice|onions?|peppers?)\s*(?:$|[-–,:(…]|\.{2,}|\d)`)
	bothOf       = pattern.Must(`(?i)^(?:the |finely |grated )*(?:zest|rind|juice) (?:and|&|\+|plus) (?:the )?(?:zest|rind|juice) of\b`)
	partOfFruit  = pattern.Must(`(?i)^(?:finely |grated |the )*(zest|juice|rind)\s+((?:\d|[½¼¾⅓⅔])[\d/½¼¾]*)\s+(\pL+)$`)
)

// kit is what people are told to bring among the ingredients.
var kit = pattern.Must(`(?i)^(?:(?:an?|one|\d+|your|named|clean|large|small|medium|airtight|ovenproof|plastic|sealed|lidded|foil) )*(?:containers?|tubs?|lunch ?box(?:es)?|box(?:es)?|foil dish(?:es)?|aprons?|tea ?towels?|(?:freezer|carrier|sandwich) bags?|(?:oven|pie|baking|casserole|serving)? ?dish(?:es)?|tupperware(?: box(?:es)?)?|foil trays?|kitchen foil|cling ?film|baking (?:paper|parchment)|greaseproof paper|paper cases?|(?:muffin|bun|cake) cases?|(?:kebab |wooden |bamboo )?skewers?|(?:cocktail|kebab|lolly|wooden) sticks?|(?:something|a box|a tub) to take)(?:\s*\(\d+\))?(?:\s+(?:for|with|to|big|large|that)\b.*)?$`)

// ofItsOwn begins a name with an amount in words: “1 tsp each cumin and a bit of chilli powder”.
var ofItsOwn = pattern.Must(`(?i)^(?:an? |some )?(?:bit|pinch|little|splash|drizzle|dash|handful)\b`)

// utensil is what the food is made with: "large bowl", "measuring spoons", "a sieve".
var utensil = pattern.Must(`(?i)^(?:(?:an?|one|two|\d+|your|the|clean|sharp|small|medium|large|big|mixing|wooden|metal|plastic|glass|silicone|electric|digital|hand|table|dessert|tea|vegetable|chef['’]?s|cook['’]?s|kitchen|paring|palette|round[- ]bladed|serrated|bread|chopping|cutting|cooling|wire|measuring|weighing|baking|roasting|cake|loaf|bun|muffin|yorkshire pudding|non-stick|frying|sauce|heavy|rolling|pastry|biscuit|scone|balloon|slotted|fish|potato|oven) )*(?:bowls?|basins?|(?:weighing )?scales|sieves?|colanders?|(?:sauce|frying )?pans?|woks?|whisks?|(?:tea|table|dessert)?spoons?|spatulas?|scrapers?|kni(?:fe|ves)|boards?|jugs?|(?:baking |cake |loaf |bun |muffin |roasting )tins?|trays?|baking sheets?|racks?|graters?|peelers?|(?:rolling )pins?|(?:pastry |biscuit |scone )?cutters?|(?:pastry )?brush(?:es)?|mashers?|ladles?|tongs|forks?|(?:oven )(?:gloves?|mitts?|cloths?)|(?:pot )stands?|timers?|(?:(?:ice cream|food|plastic|air-?tight|lidded|takeaway|named|labelled) )*(?:tubs?|containers?|box(?:es)?)(?: with (?:an? )?(?:tight )?lids?)?|tupperware|(?:food )?probes?|thermometers?|blenders?|food processors?|(?:hand |stand )?mixers?|ramekins?|piping bags?|garlic press|can opener|tin opener|juicers?|zesters?)$`)

// misprinted takes the likely figure of l50 g, and asks. It reports false of a line
// whose figure is as it should be.
func (r *reader) misprinted(l line, part string) bool {
	figure, likely, ok := misprintIn(l.item)
	if !ok {
		return false
	}
	r.ingredient(l.at, likely+l.item[len(figure):], part)
	r.asked = append(r.asked, Unread{l.at, l.item, fmt.Sprintf("%s is read as %s: is that right?", figure, likely)})
	return true
}

// misprintIn returns the figure of a line in which letters stand for figures, and
// what it is likely to be; ok is false where it is as it should.
func misprintIn(item string) (figure, likely string, ok bool) {
	m := misprint.FindStringSubmatch(item)
	if m == nil {
		return "", "", false
	}
	likely = looksLike.Replace(m[1])
	return m[1], likely, likely != m[1]
}

// misprint is a figure in which a letter stands for one that looks like it:
// l50 g, 1OO g, I tsp.
var misprint = pattern.Must(`^([\dlI|OoS]*\d[\dlI|OoS.,]*|[lI|][OoI\d]*)\s*(g|kg|ml|oz|l|cl|tsp|t['’]?sp?n|tbsp|teaspoons?|tablespoons?|cups?)\b`)

// looksLike are the figures that such letters look like.
var looksLike = strings.NewReplacer("l", "1", "I", "1", "|", "1", "O", "0", "o", "0", "S", "5")

// take reads words as an ingredient, each once.
func (r *reader) take(item string) recipe.Taking {
	item = aboutBehind.ReplaceAllString(ifHad.ReplaceAllString(item, ", optional"), "$1 $2")
	item = spoonsBehind.ReplaceAllString(item, "$2 $3 $1")
	item = barePuree.ReplaceAllString(item, "$1 tomato purée")
	item = looseBehind.ReplaceAllString(broughtIn.ReplaceAllString(item, ", $1"), "1 $2 $1")
	t, ok := r.taken[item]
	if !ok {
		line := ohAhead.ReplaceAllString(arrow.ReplaceAllString(item, ", "), "${1}o$2")
		t = recipe.TakeLine(strings.TrimRight(line, " ;"), "", r.Units.Taken, r.pantry)
		r.taken[item] = t
	}
	return t
}

// ohAhead is a nought where a word begins: "8oz 0ats".
var ohAhead = pattern.Must(`(^|\s)0(\pL{2,})`)

var arrow = pattern.Must(`\s*(?:→|->|=>)\s*`)

// amounts reports whether a line is an ingredient with an amount, looked at
// once.
func (r *reader) amounts(l line) bool {
	is, ok := r.amounted[l.item]
	if !ok {
		is = r.amount(l)
		r.amounted[l.item] = is
	}
	return is
}

func (r *reader) amount(l line) bool {
	t := r.take(l.item)
	if len([]rune(l.item)) > 120 || !t.Reading.Given && len(t.Reading.Problems) == 0 && t.Reading.Unread == "" {
		_, _, wrong := misprintIn(l.item)
		return wrong
	}
	if word, at, _ := headVerb(l.item); word != "" && at == 0 && !t.Match.Certain {
		return false
	}
	if ofClass.MatchString(l.item) {
		return false
	}
	if (preheating(l.item) || onlyHot.MatchString(l.item)) && !t.Match.Certain { // "Oven to 160C" is no cup
		return false
	}
	counted := t.Reading.Unit.Dimension == measure.Count
	switch first := strings.ToLower(firstWord(l.item)); {
	case (first == "a" || first == "an") && counted && !t.Match.Certain && !t.Reading.Unit.Loose():
		return false // "A bake for beginners"
	case t.Reading.Unit.Dimension == measure.Length || strings.TrimSpace(t.Ingredient.Name) == "":
		return false
	case len(duration.In(l.item)) > 0 && counted && !t.Match.Certain:
		return false
	case sentence(l.item) && counted && !t.Match.Certain:
		return false
	case strings.Contains(strings.TrimRight(l.item, "."), ". ") && len(strings.Fields(l.item)) > 10:
		return false
	}
	return true
}

// ofClass is a line about the lesson: "Class: 7C" is no seven cups.
var ofClass = pattern.Must(`(?i)^(?:class|group|year|set|form|room|lesson|week|period|date|time|name|teacher|topic|unit|(?:half[- ])?term|module|rotation|practical|page)\s*[:=]`)

// known reports whether a line is the name of something in the pantry.
func (r *reader) known(item string) bool {
	return r.take(item).Match.Certain
}

// severalKnown reports whether a line names things of the pantry and nothing else:
// "salt and pepper".
func (r *reader) severalKnown(item string) bool {
	parts := andKnown.Split(item, -1)
	return len(parts) > 1 && !slices.ContainsFunc(parts, func(p string) bool { return !r.known(p) })
}

var andKnown = pattern.Must(`\s*(?:,|&|\+|\band\b)\s*`)

// speaksOf reports whether a line names something to eat anywhere.
func (r *reader) speaksOf(item string) bool {
	return len(r.pantry.Mentioned(item)) > 0 || toTaste.MatchString(item)
}

var toTaste = pattern.Must(`(?i)\b(?:to taste|to serve|to garnish|to decorate|for frying|for greasing|for dusting|seasoning|topping|filling|oil|water)\b`)
