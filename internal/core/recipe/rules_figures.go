package recipe

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

// A portion is the most, in grams, of some ingredients that a portion or a
// piece holds in ordinary recipes. Figures are typical of household cooking and
// generous: what lies beyond is a misprint far more often than a taste.
type portion struct {
	most  float64
	items []string
}

// portions by what the ingredients are.
var portions = []portion{
	{3.2, []string{"salt"}},
	{3, []string{"baking-powder", "bicarbonate", "cream-of-tartar", "xanthan"}},
	{7, []string{"fast-yeast"}},
	{12, []string{"fresh-yeast"}},
	{4.5, []string{"gelatine", "powdered-gelatine", "agar"}},
	{3.5, []string{"cinnamon", "ginger-ground", "nutmeg", "mixed-spice", "cloves-ground", "turmeric", "chilli-powder", "cayenne", "chilli-flakes", "pepper", "white-pepper", "mustard-powder", "allspice", "cardamom", "saffron"}},
	{6, []string{"cumin-ground", "cumin-seeds", "coriander-ground", "paprika", "smoked-paprika", "garam-masala", "curry-powder", "fajita-seasoning", "dried-oregano", "dried-herbs", "dried-thyme", "garlic-granules", "coriander-seeds", "fennel-seeds", "mustard-seeds"}},
	{6, []string{"vanilla", "almond-extract", "food-colour", "rose-water"}},
	{25, []string{"garlic", "ginger-root"}},
	{30, []string{"parsley", "coriander-leaf", "mint", "basil", "chives", "dill", "thyme", "rosemary", "sage", "tarragon"}},
	{45, []string{"soy-sauce", "fish-sauce", "worcester-sauce", "vinegar", "wine-vinegar", "cider-vinegar", "malt-vinegar", "balsamic-vinegar", "mustard", "tomato-puree", "curry-paste", "thai-curry-paste", "harissa", "miso", "hot-sauce", "stock-cube", "chicken-stock-cube", "beef-stock-cube", "cocoa", "custard-powder", "cornflour", "lemon-juice", "lime-juice", "tahini", "sesame-oil"}},
	{70, []string{"butter", "baking-spread", "block-fat", "lard", "olive-oil", "sunflower-oil", "vegetable-suet", "ghee", "coconut-oil", "mayonnaise"}},
	{110, []string{"caster-sugar", "granulated-sugar", "icing-sugar", "demerara-sugar", "soft-brown-sugar", "dark-brown-sugar", "golden-syrup", "black-treacle", "honey", "maple-syrup", "jam"}},
	{120, []string{"cheddar", "parmesan", "feta", "mozzarella", "gruyere", "halloumi", "goats-cheese", "blue-cheese", "soft-cheese", "mascarpone"}},
	{90, []string{"raisins", "sultanas", "currants", "mixed-fruit", "dried-apricots", "dates", "almonds", "ground-almonds", "walnuts", "hazelnuts", "cashews", "mixed-nuts", "sesame-seeds", "sunflower-seeds", "pumpkin-seeds", "mixed-seeds", "desiccated-coconut", "dark-chocolate", "milk-chocolate", "chocolate-chips"}},
	{160, []string{"white-rice", "brown-rice", "jasmine-rice", "pudding-rice", "pasta", "spaghetti", "couscous", "bulgur", "quinoa", "red-lentils", "green-lentils", "oats", "egg-noodles", "rice-noodles", "pearl-barley", "semolina", "polenta"}},
	{200, []string{"plain-flour", "self-raising-flour", "wholemeal-flour", "gluten-free-flour"}},
	{600, []string{"strong-flour", "strong-wholemeal-flour", "rye-flour", "brown-bread-flour", "spelt-flour", "chapati-flour"}},
	{230, []string{"egg-small", "egg-medium", "egg-large"}},
	{450, []string{"beef-mince", "lamb-mince", "pork-mince", "turkey-mince", "chicken-mince", "chicken-breast", "chicken-thigh", "stewing-beef", "beef-steak", "white-fish", "salmon", "prawns", "back-bacon", "ham", "pork-sausage", "tofu"}},
	{700, []string{"milk", "oat-drink", "soya-drink", "water", "vegetable-stock", "chicken-stock", "beef-stock", "fish-stock"}},
	{350, []string{"double-cream", "whipping-cream", "single-cream", "coconut-milk", "yoghurt", "buttermilk", "passata", "creme-fraiche", "soured-cream"}},
	{600, []string{"potato", "carrot", "onion", "red-onion", "tomato", "chopped-tomatoes", "courgette", "aubergine", "leek", "swede", "squash", "cauliflower", "apple", "cooking-apple"}},
}

// mostOfAny is more than a portion holds of anything, in grams.
const mostOfAny = 1000

// mostOf returns how much of an ingredient a portion holds at most, in grams.
func mostOf(id string) float64 {
	for _, p := range portions {
		if slices.Contains(p.items, id) {
			return p.most
		}
	}
	return mostOfAny
}

// large are dishes of which a piece is a bite rather than a portion.
var large = regexp.MustCompile(`(?i)\b(?:loaf|cake|pie|tart|flan|quiche|pudding|plait|roulade|batch|pizza|jar|jug|bowl|tin|traybake|gateau|torte|tray|litre|bottle|terrine|ring|bread|joint|pot|chicken)\b`)

// unusualAmount catches ten times too much, and a tablespoon for a teaspoon, by
// what a portion holds.
func (c *checker) unusualAmount() {
	shares := float64(c.Yield)
	if c.Yield < 1 {
		shares = 8 // more than most recipes serve: only what is far off is said
	}
	if c.Yield > 0 && c.Piece != "portion" && large.MatchString(c.Piece) {
		shares *= 8 // a cake or a loaf is eaten by eight
	}
	piece := c.Piece
	if piece == "" || shares != float64(c.Yield) {
		piece = "portion"
	}
	grams := Grams(c.Recipe, c.pantry)
	for n, i := range c.Ingredients {
		most := mostOf(i.Pantry)
		if grams[n] == 0 || i.Law == Surface || i.Law == Fixed || preserving.MatchString(c.Title) {
			continue
		}
		if i.Pantry == "salt" && slices.ContainsFunc(c.Ingredients, func(o Ingredient) bool { return slices.Contains(groups["yeast"], o.Pantry) }) {
			most *= 2 // in a dough it is shared by more than one meal
		}
		each := grams[n] / shares
		if each <= most {
			continue
		}
		mend := "Look for a misprint."
		var fix func(*Recipe)
		for _, way := range c.misprints(n) {
			stock, _ := c.pantry.Find(i.Pantry)
			if g, ok := stock.Grams(way); ok && g.Float()/shares <= most {
				mend = fmt.Sprintf("If it is a misprint: %s %s.", way, i.Name)
				fix = func(r *Recipe) { r.Ingredients[n].Quantity = way }
				break
			}
		}
		c.add(ingredientAt(n), "much "+i.Name, fmt.Sprintf("%s of %s is %.0f g for each %s: more than %.0f g is unusual.", i.Quantity, i.Name, each, piece, most), mend, fix)
	}
}

// preserving makes much of sugar, salt and vinegar.
var preserving = regexp.MustCompile(`(?i)\b(?:jam|marmalade|jelly|chutney|pickles?|pickled|piccalilli|curd|cordial|syrup|ketchup|sauce|stock|brine|brined|cured|gravlax|preserved?|butter|cheese|dressing|oil|paste|mix)\b`)

// misprints are the quantities that a line may have meant: the spoon of the
// next size, or a tenth.
func (c *checker) misprints(n int) []measure.Quantity {
	q := c.Ingredients[n].Quantity
	out := []measure.Quantity{}
	if strings.HasPrefix(q.Unit.ID, "tbsp") {
		out = append(out, measure.Quantity{Amount: q.Amount, Unit: measure.Teaspoon})
	}
	return append(out, q.Times(exact.Frac(1, 10)))
}

var (
	divided = regexp.MustCompile(`(?i)\b(?:divide|divided|shape|form|roll|cut|split|make|makes|portion|scoop|separate|pipe|break|spoon|drop)\w*\b[^.;]{0,40}?\b(?:into|to make|in|between|among|amongst)\s+(\d{1,3}|two|three|four|five|six|eight|nine|ten|twelve|fifteen|sixteen|eighteen|twenty|a dozen)\s+(?:even |equal |equally |similar |same |small |large |round |neat |individual |greased |lined |serving |warm |oval |flat )*([\pL]+)`)
	holes   = regexp.MustCompile(`(?i)\b(\d{1,2})[- ](?:hole|cup|cavity)\b`)
	spelled = map[string]int{"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20, "a dozen": 12}
	served  = regexp.MustCompile(`(?i)^(?:glass|bowl|plate|ramekin|pot|dish|cup|people|portion|serving|pudding)`)
	parts   = regexp.MustCompile(`(?i)^(?:with|of|to|and|or|by|for|in|on|per|each|at|then|more|piece|part|half|halve|batch|strip|cm|mm|stick|slice|cube|chunk|wedge|layer|time|minute|tin|third|quarter|length|round|circle|sheet|log|rope|tray|sandwich|cake tin|portion|long|thin|thick|inch|floret|dice|baton)`)
)

// yieldContradicts compares what the recipe says it makes with what its steps
// divide it into.
func (c *checker) yieldContradicts() {
	if c.Yield < 1 {
		return
	}
	for n, s := range c.Steps {
		for _, m := range divided.FindAllStringSubmatch(s.Text, -1) {
			count, err := strconv.Atoi(m[1])
			if err != nil {
				count = spelled[strings.ToLower(m[1])]
			}
			word := strings.ToLower(m[2])
			same := strings.HasPrefix(word, strings.ToLower(strings.TrimSuffix(c.Piece, "e"))) && c.Piece != ""
			counts := c.Piece == "portion" && served.MatchString(word) || c.Piece != "portion" && !parts.MatchString(word) && !served.MatchString(word) || same
			if !counts || count < 2 || count == c.Yield || count%c.Yield == 0 && c.Yield > 2 && c.Piece == "portion" || c.Piece != "portion" && !same && (count%c.Yield == 0 || c.Yield%count == 0) {
				continue
			}
			c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and this step makes %d %s.", c.Count(c.Yield), count, word), "Keep one of the two numbers.", nil)
		}
		for _, m := range holes.FindAllStringSubmatch(s.Text, -1) {
			count, _ := strconv.Atoi(m[1])
			if c.Piece != "portion" && count >= 4 && (c.Yield > count*2 || c.Yield*3 < count) {
				c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and the tin has %d holes.", c.Count(c.Yield), count), "Look for a misprint.", nil)
			}
		}
	}
}

// A lasting is how long something takes in the heat, in minutes: typical of
// household recipes, and generous.
type lasting struct {
	what        string
	dish        *regexp.Regexp // in the title or the step
	does        *regexp.Regexp // in the step
	least, most float64
	hands       bool // it is work: the time of a wait says nothing of it
}

var bakes = regexp.MustCompile(`(?i)\b(?:bake|baked|roast|oven)\b`)

// lastings are asked in order; the first that fits judges.
var lastings = []lasting{
	{"a bake of scones", regexp.MustCompile(`(?i)\bscones?\b`), bakes, 7, 30, false},
	{"a bake of biscuits", regexp.MustCompile(`(?i)\b(?:biscuits?|cookies|shortbread|crackers|straws)\b`), bakes, 5, 50, false},
	{"a bake of muffins or buns", regexp.MustCompile(`(?i)\b(?:muffins?|cupcakes?|fairy cakes|buns?|rolls|naan|teacakes?|bagels?)\b`), bakes, 6, 50, false},
	{"a bake of a loaf", regexp.MustCompile(`(?i)\b(?:loaf|loaves|bread)\b`), bakes, 15, 150, false},
	{"a bake of meringue", regexp.MustCompile(`(?i)\b(?:meringues?|pavlova)\b`), bakes, 20, 240, false},
	{"a bake of a sponge", regexp.MustCompile(`(?i)\b(?:sponge|swiss roll|brownies?|traybake|flapjacks?)\b`), bakes, 6, 75, false},
	{"a bake of a cake", regexp.MustCompile(`(?i)\b(?:cake|gingerbread|parkin|torte)\b`), bakes, 8, 240, false},
	{"a bake of pizza", regexp.MustCompile(`(?i)\bpizzas?\b`), bakes, 4, 40, false},
	{"a bake of pastry", regexp.MustCompile(`(?i)\b(?:pie|pasty|pasties|tarts?|tartlets?|quiche|flan|profiteroles|eclairs?|éclairs?|pastry|samosas?)\b`), bakes, 5, 120, false},
	{"a bake of a yeast dough", regexp.MustCompile(`(?i)\byeast dough\b`), bakes, 5, 75, false},
	{"roasting a chicken", regexp.MustCompile(`(?i)\b(?:whole chicken|roast chicken|spatchcock)\b`), bakes, 15, 180, false},
	{"roasting chicken pieces", regexp.MustCompile(`(?i)\bchicken\b`), bakes, 5, 120, false},
	{"roasting vegetables", regexp.MustCompile(`(?i)\b(?:vegetables|carrots|squash|potatoes|wedges|cauliflower|parsnips)\b`), bakes, 5, 120, false},
	{"a bake", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\bbake\b`), 2, 240, false},
	{"boiling pasta", regexp.MustCompile(`(?i)\b(?:pasta|spaghetti|penne|macaroni|noodles)\b`), regexp.MustCompile(`(?i)\b(?:boil|cook|simmer)\b`), 1, 25, false},
	{"boiling rice", regexp.MustCompile(`(?i)\brice\b`), regexp.MustCompile(`(?i)\b(?:boil|cook|simmer)\b`), 5, 60, false},
	{"boiling potatoes", regexp.MustCompile(`(?i)\bpotatoes\b`), regexp.MustCompile(`(?i)\b(?:boil|parboil)\b`), 4, 45, false},
	{"boiling eggs", regexp.MustCompile(`(?i)\beggs?\b`), regexp.MustCompile(`(?i)\b(?:boil|poach)\b`), 1.5, 20, false},
	{"frying", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:stir-fry|fry|sauté|saute|brown|griddle|sear)\b`), 0.3, 45, true},
	{"grilling", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:grill|broil)\b`), 0.5, 40, false},
	{"the microwave", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\bmicrowave\b`), 0.1, 25, false},
	{"kneading", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\bknead\b`), 0.4, 25, true},
	{"whisking", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:whisk|beat|cream)\b`), 0.1, 20, true},
	{"rising", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:prove|proof|rise)\b`), 8, 24 * 60, false},
	{"boiling", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:blanch|steam)\b`), 0.3, 300, false},
	{"simmering", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:simmer|stew|braise)\b`), 0.5, 480, false},
}

var slowly = regexp.MustCompile(`(?i)\b(?:slow|overnight|low oven|cool oven|dry out|caramelis|confit|sourdough|christmas|fruit cake|turn (?:it )?down|half[- ]time|first)\b`)

// impossibleTime catches a loaf in five minutes and scones in three hours.
func (c *checker) impossibleTime() {
	for n, s := range c.Steps {
		said := exact.Number{}
		if s.WorkFrom != Typical {
			said = s.Work.Add(s.Load)
		}
		if s.WaitFrom != Typical && s.Wait.Sign() > 0 {
			said = s.Wait
		}
		minutes := said.Float()
		idle := s.WaitFrom != Typical && s.Wait.Sign() > 0
		text := c.Title + ". " + s.Text + ". " + c.made()
		if minutes == 0 || len(c.minutesIn(n)) == 0 || slowly.MatchString(c.Title+". "+s.Text) {
			continue
		}
		for _, l := range lastings {
			named := s.Text
			if l.does == bakes {
				named = text
			}
			if !l.does.MatchString(s.Text) || !l.dish.MatchString(named) || l.does == bakes && s.Kind != fit.Bake || l.hands == idle {
				continue
			}
			if hot := hottestOf(s); l.what == "a bake" && hot >= 210 {
				l.most = 75
			}
			short := minutes < l.least && !again.MatchString(s.Text)
			if short || minutes > l.most {
				c.add(stepAt(n), "time "+s.Title, fmt.Sprintf("%s min for %s: usual is %.3g to %.0f min.", said.Decimal(1), l.what, l.least, l.most), "Look for a misprint.", nil)
			}
			break
		}
	}
}

// made says what a dish is made of where its name does not.
func (c *checker) made() string {
	for _, i := range c.everything() {
		if stock, _ := c.pantry.Find(i.Pantry); strings.HasSuffix(stock.Name, "pastry") {
			return "pastry"
		} else if strings.Contains(stock.Name, "yeast") && !strings.Contains(stock.Name, "extract") {
			return "yeast dough"
		}
	}
	return ""
}

// hottestOf is the hottest that a step holds its oven, in °C.
func hottestOf(s Step) float64 {
	most := 0.0
	for _, u := range s.Uses {
		if u.Equipment == "oven" && u.Temperature != nil {
			most = max(most, u.Temperature.Float())
		}
	}
	return most
}

// again is a second time in the heat, which may be short.
var again = regexp.MustCompile(`(?i)\b(?:more|another|further|return|again|upside|finish|back in|last|until hot|heat through|blind|brown the top|warm|crisp)\b`)

var (
	shaping   = regexp.MustCompile(`(?i)^\W*(?:\d+[.)]?\s*)?(?:then |next,? )?(?:knead|fold (?:in )?the (?:flour|dry)|shape|roll (?:it |the (?:dough|pastry) )?out|rub in|rub the|cut out|knock back|prove|divide the (?:dough|mixture)|crack|mix the (?:flour|dry|dough)|line the tin|fill the (?:cases|tin|pie)|form into|cream the)\b`)
	blindBake = regexp.MustCompile(`(?i)\b(?:blind|toast|roast|nuts|meanwhile|potato|vegetables|onions|peppers|garlic|squash|aubergine|beetroot|chicken|sausages)\b`)
)

// bakedTooSoon catches what is baked before it is shaped.
func (c *checker) bakedTooSoon() {
	last := -1
	for n, s := range c.Steps {
		if s.Kind == fit.Bake && s.Wait.Sign() > 0 && !blindBake.MatchString(s.Text) {
			last = n
		}
	}
	if last < 0 {
		return
	}
	for n := last + 1; n < len(c.Steps); n++ {
		if s := c.Steps[n]; (s.Kind == fit.Shape || s.Kind == fit.Mix || s.Kind == fit.Rest) && shaping.MatchString(s.Text) {
			c.add(stepAt(n), "order "+s.Title, fmt.Sprintf("“%s” comes after “%s”, and nothing is baked after it.", s.Title, c.Steps[last].Title), "Put the steps in the order of the work.", nil)
			return
		}
	}
}

// Oven settings of household ovens, in conventional °C.
const (
	coolest = 70
	hottest = 280
)

func (c *checker) ovenOutOfRange() {
	for n, s := range c.Steps {
		for _, u := range s.Uses {
			if u.Equipment != "oven" || u.Temperature == nil {
				continue
			}
			if t := u.Temperature.Float(); t < coolest || t > hottest {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%s °C: ovens go from %d to %d °C.", u.Temperature.Decimal(0), coolest, hottest), "Look for a misprint, or for Fahrenheit read as Celsius.", nil)
			}
		}
		for _, m := range wildHeat.FindAllStringSubmatch(s.Text, -1) {
			t, _ := strconv.ParseFloat(m[1], 64)
			fahrenheit := strings.HasPrefix(strings.ToLower(m[2]), "f")
			if ovenWords.MatchString(s.Text) && (!fahrenheit && (t > 300 || t < 50) || fahrenheit && (t > 575 || t < 150)) && !innerWords.MatchString(s.Text) {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%s is no setting of an oven.", strings.TrimSpace(m[0])), "Look for a misprint.", nil)
			}
		}
		for _, m := range wildMark.FindAllStringSubmatch(s.Text, -1) {
			if mark, _ := strconv.Atoi(m[1]); mark > 9 || mark == 0 {
				c.add(stepAt(n), "mark "+s.Title, fmt.Sprintf("%s: marks go from ¼ to 9.", strings.TrimSpace(m[0])), "Look for a misprint.", nil)
			}
		}
	}
}

var (
	wildHeat   = regexp.MustCompile(`(?i)\b(\d{1,4})\s*(?:°|º|degrees?)?\s*(celsius|centigrade|fahrenheit|c|f)\b`)
	wildMark   = regexp.MustCompile(`(?i)\bgas(?:\s*mark)?\s*(\d{1,2})\b`)
	ovenWords  = regexp.MustCompile(`(?i)\b(?:oven|bake|roast|preheat)\b`)
	innerWords = regexp.MustCompile(`(?i)\b(?:probe|core|centre|middle|inside|thermometer|reach|milk|water|oil)\b`)
)

var heated = regexp.MustCompile(`(?i)\b(?:cook|fry|fries|roast|bake|grill|simmer|boil|stew|braise|poach|steam|brown|sear|griddle|barbecue|sauté|saute|in the oven|microwave|heat through|bubble|casserole)\w*\b`)

// rawNotCooked finds raw meat and fish in a recipe that heats nothing.
func (c *checker) rawNotCooked() {
	raw := c.Raw(c.pantry)
	if len(raw) == 0 || len(c.Steps) == 0 {
		return
	}
	var left []string
	for _, i := range c.everything() {
		if slices.Contains(raw, i.Name) && !c.heatedFrom(c.firstUse(i)) {
			left = append(left, i.Name)
		}
	}
	if len(left) > 0 {
		c.add("steps", "raw not cooked", fmt.Sprintf("Raw: %s. No step cooks it.", listed(left)), "Write how it is cooked, and to what temperature in the middle.", nil)
	}
}

// firstUse is the first step that names an ingredient; the first of all where
// none does.
func (c *checker) firstUse(i Ingredient) int {
	stock, _ := c.pantry.Find(i.Pantry)
	return max(0, slices.IndexFunc(c.Steps, func(s Step) bool {
		text := strings.ToLower(s.wording())
		return usedIn(text, pantry.Words(text), i, stock)
	}))
}

// heatedFrom reports whether a step from one on cooks.
func (c *checker) heatedFrom(n int) bool {
	return slices.ContainsFunc(c.Steps[n:], func(s Step) bool {
		return s.Kind == fit.Bake || heated.MatchString(s.Text)
	})
}

var deepFat = regexp.MustCompile(`(?i)\bdeep[- ]?(?:fat|fry|fri\w+)\b|\bfryer\b`)

func (c *checker) deepFat() {
	for n, s := range c.Steps {
		if deepFat.MatchString(s.Text) && s.Adult != fit.Does {
			c.add(stepAt(n), "deep fat "+s.Title, fmt.Sprintf("“%s” deep-fries: fat at 180 °C burns badly and can catch fire.", s.Title),
				"Let an adult do it in a fryer with a thermostat, a third full; or shallow-fry or bake it.", func(r *Recipe) { r.Steps[n].Adult, r.Steps[n].Cooks = fit.Does, 0 })
			return
		}
	}
}

// freeFrom are what a title can promise, and what then may not be in it.
var freeFrom = []struct {
	title     *regexp.Regexp
	says      string
	allergens []pantry.Allergen
	diet      string
}{
	{regexp.MustCompile(`(?i)\b(?:gluten[- ]free|coeliac|wheat[- ]free)\b`), "gluten-free", []pantry.Allergen{pantry.Wheat, pantry.Rye, pantry.Barley}, ""},
	{regexp.MustCompile(`(?i)\b(?:dairy|milk|lactose)[- ]free\b`), "dairy-free", []pantry.Allergen{pantry.Milk}, ""},
	{regexp.MustCompile(`(?i)\b(?:egg[- ]free|eggless)\b`), "egg-free", []pantry.Allergen{pantry.Eggs}, ""},
	{regexp.MustCompile(`(?i)\bnut[- ]free\b`), "nut-free", []pantry.Allergen{pantry.Almonds, pantry.Hazelnuts, pantry.Walnuts, pantry.Cashews, pantry.Pecans, pantry.Brazils, pantry.Pistachios, pantry.Macadamias, pantry.Peanuts}, ""},
	{regexp.MustCompile(`(?i)\b(?:soya?|soy)[- ]free\b`), "soya-free", []pantry.Allergen{pantry.Soya}, ""},
	{regexp.MustCompile(`(?i)\bvegan\b`), "vegan", nil, "vegan"},
	{regexp.MustCompile(`(?i)\b(?:vegetarian|veggie|meat[- ]free|meatless)\b`), "vegetarian", nil, "vegetarian"},
}

// freeFromTitle holds a title to its promise.
func (c *checker) freeFromTitle() {
	for _, f := range freeFrom {
		if !f.title.MatchString(c.Title + ". " + c.Why) {
			continue
		}
		diet, _ := pantry.DietOf(f.diet)
		for n, i := range c.Ingredients {
			stock, ok := c.pantry.Find(i.Pantry)
			holds := slices.ContainsFunc(stock.Allergens, func(a pantry.Allergen) bool { return slices.Contains(f.allergens, a) })
			if !ok || !holds && (f.diet == "" || diet.Judge(stock) != pantry.Never) {
				continue
			}
			c.add(ingredientAt(n), "promise "+i.Name, fmt.Sprintf("It is called %s, and %s is not.", f.says, i.Name), "Use another ingredient, or another name for the dish.", nil)
		}
	}
}
