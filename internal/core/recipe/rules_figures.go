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

// portions by what the ingredients are: everything of the pantry that is not in
// a row may be a portion's greatest part.
var portions = []portion{
	{3.2, ids("salt saffron xanthan agar")},
	{3, ids("baking-powder bicarbonate cream-of-tartar")},
	{7, ids("fast-yeast")},
	{12, ids("fresh-yeast")},
	{4.5, ids("gelatine powdered-gelatine")},
	{3.5, ids("cinnamon cinnamon-stick ginger-ground nutmeg mixed-spice cloves-ground cloves turmeric chilli-powder cayenne chilli-flakes pepper white-pepper peppercorns mustard-powder allspice cardamom star-anise asafoetida bay-leaf bouquet-garni kaffir-lime")},
	{6, ids("cumin-ground cumin-seeds coriander-ground coriander-seeds paprika smoked-paprika garam-masala curry-powder fajita-seasoning dried-oregano dried-herbs dried-thyme garlic-granules fennel-seeds mustard-seeds fenugreek stock-powder stock-cube chicken-stock-cube beef-stock-cube")},
	{6, ids("vanilla almond-extract food-colour rose-water spray-oil egg-replacer seaweed")},
	{20, ids("caraway-seeds poppy-seeds nigella-seeds arrowroot wheatgerm gravy-granules dried-mushrooms lemongrass lemon-zest drinking-chocolate sprinkles edible-flowers cress crispy-onions")},
	{25, ids("garlic ginger-root chilli ginger-garlic-paste anchovies capers crystallised-ginger stem-ginger mixed-peel")},
	{30, ids("parsley coriander-leaf mint basil chives dill thyme rosemary sage tarragon yeast-extract")},
	{45, ids("soy-sauce tamari fish-sauce oyster-sauce worcester-sauce vinegar wine-vinegar cider-vinegar malt-vinegar balsamic-vinegar rice-vinegar mustard tomato-puree curry-paste thai-curry-paste harissa miso hot-sauce horseradish mint-sauce tamarind cocoa custard-powder cornflour potato-starch lemon-juice lime-juice bottled-lemon-juice tahini sesame-oil walnut-oil chilli-oil jalapenos sundried-tomatoes milk-powder bran-flakes oat-bran wheat-bran flax-seeds chia-seeds stuffing-mix")},
	{70, ids("butter baking-spread block-fat vegetable-fat sunflower-spread lard dripping beef-suet vegetable-suet ghee coconut-oil olive-oil sunflower-oil rapeseed-oil groundnut-oil mayonnaise vegan-mayo salad-cream tartare-sauce brown-sauce barbecue-sauce sweet-chilli-sauce hoisin-sauce teriyaki-sauce black-bean-sauce tomato-ketchup mango-chutney pickle gherkins pickled-onions pesto red-pesto peanut-butter almond-butter hazelnut-spread peanut-sauce dried-breadcrumbs")},
	{110, ids("caster-sugar granulated-sugar icing-sugar demerara-sugar soft-brown-sugar dark-brown-sugar muscovado palm-sugar pectin-sugar golden-syrup black-treacle honey maple-syrup agave date-syrup glucose-syrup jam apricot-jam marmalade lemon-curd mincemeat marzipan fondant-icing marshmallows condensed-milk jelly quick-jelly glace-cherries meringue-nests shortbread rich-tea ginger-biscuits digestive-biscuits sponge-fingers cream-crackers oatcakes")},
	{100, ids("cornflakes puffed-rice wheat-biscuits muesli crisps tortilla-chips popping-corn tapioca desiccated-coconut coconut-flour olives pine-nuts")},
	{120, ids("cheddar red-leicester parmesan hard-italian-cheese feta mozzarella gruyere halloumi brie goats-cheese blue-cheese soft-cheese mascarpone processed-cheese vegan-cheese clotted-cream squirty-cream")},
	{90, ids("raisins sultanas currants mixed-fruit dried-apricots dried-cranberries dried-figs dried-mango prunes dates almonds whole-almonds ground-almonds walnuts hazelnuts cashews peanuts pecans pistachios brazil-nuts macadamias mixed-nuts chestnuts sesame-seeds sunflower-seeds pumpkin-seeds mixed-seeds dark-chocolate milk-chocolate white-chocolate chocolate-chips lardons chorizo salami parma-ham")},
	{160, ids("white-rice brown-rice jasmine-rice wild-rice pudding-rice pasta spaghetti wholewheat-pasta gf-pasta lasagne-sheets orzo couscous bulgur quinoa freekeh millet red-lentils green-lentils puy-lentils split-peas oats oatmeal gf-oats egg-noodles rice-noodles soba pearl-barley semolina polenta maize-meal gram-flour rice-flour instant-mash")},
	{200, ids("plain-flour self-raising-flour wholemeal-flour gluten-free-flour cake-flour buckwheat-flour")},
	{600, ids("strong-flour strong-wholemeal-flour rye-flour brown-bread-flour spelt-flour chapati-flour 00-flour gf-bread-flour")},
	{230, ids("egg-small egg-medium egg-large egg-yolk egg-white quail-egg")},
	{450, ids("beef-mince lamb-mince pork-mince turkey-mince chicken-mince veggie-mince chicken-breast chicken-thigh chicken-cooked turkey-breast turkey-cooked duck-breast stewing-beef beef-steak ox-kidney lamb-diced lamb-chop lamb-liver pork-shoulder pork-chop pork-fillet pulled-pork venison white-fish cod-fillet smoked-fish salmon smoked-salmon tinned-salmon mackerel smoked-mackerel sardines tuna prawns raw-prawns crab crab-sticks squid scallops seafood-mix fish-pie-mix back-bacon ham gammon corned-beef black-pudding frankfurter sausagemeat pork-sausage beef-sausage chicken-sausage veggie-sausage tofu silken-tofu tempeh seitan mycoprotein falafel")},
	{700, ids("milk lactose-free-milk goat-milk oat-drink soya-drink almond-drink coconut-drink rice-drink water vegetable-stock chicken-stock beef-stock lamb-stock fish-stock low-salt-stock")},
	{350, ids("mushroom portobello shiitake rocket salad-leaves lettuce double-cream whipping-cream single-cream oat-cream coconut-cream coconut-milk evaporated-milk yoghurt soya-yoghurt fromage-frais cottage-cheese ricotta buttermilk passata tomato-sauce salsa creme-fraiche soured-cream custard hummus breadcrumbs spinach peas sweetcorn kidney-beans chickpeas butter-beans black-beans cannellini-beans borlotti-beans mixed-beans broad-beans edamame beansprouts rhubarb sherry white-wine cider beer")},
	{700, ids("potato new-potato sweet-potato carrot parsnip turnip celeriac beetroot onion red-onion shallot spring-onion leek celery fennel tomato cherry-tomato chopped-tomatoes courgette aubergine pepper-red pepper-green cucumber swede squash cauliflower broccoli white-cabbage red-cabbage savoy-cabbage kale green-beans runner-beans mangetout asparagus frozen-veg apple cooking-apple pear plum peach apricot banana orange mango pineapple strawberry raspberry blackberry blueberry blackcurrant gooseberry cherry cranberry mixed-berries")},
}

func ids(list string) []string { return strings.Fields(list) }

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

// mostLarge is how many large ones a recipe makes at most; more of them are small.
const mostLarge = 3

var loaves = regexp.MustCompile(`(?i)\b(?:loaf|cake|bread|plait|batch|traybake)\b`)

// large are dishes of which a piece is a bite rather than a portion.
var large = regexp.MustCompile(`(?i)\b(?:loaf|cake|pie|tart|flan|quiche|pudding|plait|roulade|batch|pizza|jar|jug|bowl|tin|traybake|gateau|torte|tray|litre|bottle|terrine|ring|bread|joint|pot|chicken)\b`)

// unusualAmount catches ten times too much, and a tablespoon for a teaspoon, by
// what a portion holds.
func (c *checker) unusualAmount() {
	shares := float64(c.Yield)
	if c.Yield < 1 {
		shares = 8 // more than most recipes serve: only what is far off is said
	}
	if c.Yield > 0 && c.Piece != "portion" && (large.MatchString(c.Piece) && c.Yield <= mostLarge || loaves.MatchString(c.Piece)) {
		shares *= 8 // a cake or a loaf is eaten by eight
	}
	piece := c.Piece
	if piece == "" || shares != float64(c.Yield) {
		piece = "portion"
	}
	grams := Grams(c.Recipe, c.pantry)
	for n, i := range c.Ingredients {
		most := mostOf(i.Pantry)
		if i.Pantry == "" && i.Unit.Dimension == measure.Volume && ofTheJar.MatchString(i.Name) {
			if ml := i.Base().Float() / shares; ml > mostOfJar {
				c.add(ingredientAt(n), "much "+i.Name, fmt.Sprintf("%s of %s is %.0f ml for each %s: more than %d ml is unusual.", i.Quantity, i.Name, ml, piece, mostOfJar), "Look for a misprint.", nil)
			}
			continue
		}
		if grams[n] == 0 || i.Law == Surface || i.Law == Fixed {
			continue
		}
		if preserving.MatchString(head(c.Title)) && !large.MatchString(c.Title) {
			most *= 10
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

// ofTheJar are names of herbs and spices, of which a portion holds a spoon at
// most, in ml, whether or not the pantry knows them.
var ofTheJar = regexp.MustCompile(`(?i)^(?:dried|ground)\b|\b(?:powder|seasoning|spice|spices)$`)

const mostOfJar = 12

// head is what a title is of: "Fresh pasta" of "Fresh pasta with tomato sauce".
func head(title string) string {
	for _, joint := range []string{" with ", " in ", " on ", " and "} {
		title, _, _ = strings.Cut(title, joint)
	}
	return title
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
	divided = regexp.MustCompile(`(?i)\b(?:divide|divided|shape|form|fold|fill|roll|mark|score|pour|ladle|cut|split|make|makes|portion|scoop|separate|pipe|break|spoon|drop)\w*\b[^.;]{0,40}?\b(?:into|to make|in|between|among|amongst)\s+(\d{1,3}\b|two|three|four|five|six|eight|nine|ten|twelve|fifteen|sixteen|eighteen|twenty|a dozen)\b\s*(?:even |equal |equally |similar |same |small |large |round |neat |individual |greased |lined |paper |serving |warm |oval |flat )*([\pL]+|[,.;]|$)`)
	holes   = regexp.MustCompile(`(?i)\b(\d{1,2})(?:[- ](?:hole|cavity)|-cup)\b`)
	spelled = map[string]int{"two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "nine": 9, "ten": 10, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20, "a dozen": 12}
	served  = regexp.MustCompile(`(?i)^(?:glass|bowl|plate|ramekin|mould|pot|dish|cup|people|portion|serving|pudding)`)
	oneEach = regexp.MustCompile(`(?i)^(?:case|hole|mould|cup)`)
	cuts    = regexp.MustCompile(`(?i)^(?:slice|round|square|circle|wedge|piece)`)
	parts   = regexp.MustCompile(`(?i)^(?:with|of|to|or|by|for|in|on|per|each|at|then|more|piece|part|half|halve|batch|strip|cm|mm|stick|slice|cube|chunk|wedge|layer|time|minute|tin|third|quarter|length|round|circle|sheet|log|rope|tray|sandwich|cake tin|portion|long|thin|thick|inch|floret|dice|baton)`)
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
			word := strings.Trim(strings.ToLower(m[2]), ",.;")
			if count < 2 || c.agrees(count, word) {
				continue
			}
			if word == "and" {
				word = ""
			}
			c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and this step makes %s.", c.Count(c.Yield), strings.TrimSpace(fmt.Sprint(count, " ", word))), "Keep one of the two numbers.", nil)
		}
		for _, m := range holes.FindAllStringSubmatch(s.Text, -1) {
			count, _ := strconv.Atoi(m[1])
			if c.Piece != "portion" && count >= 4 && (c.Yield > count*2 || c.Yield*3 < count) {
				c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and the tin has %d holes.", c.Count(c.Yield), count), "Look for a misprint.", nil)
			}
		}
	}
}

// agrees reports whether a step may make so many of something, called by a word
// or not, in a recipe of this yield.
func (c *checker) agrees(count int, word string) bool {
	if count == c.Yield {
		return true
	}
	multiple := count%c.Yield == 0
	if c.Piece != "" && strings.HasPrefix(word, strings.ToLower(strings.TrimSuffix(c.Piece, "e"))) {
		return false
	}
	if c.Piece == "portion" && word != "" && word != "and" {
		return !served.MatchString(word) || multiple && c.Yield > 2
	}
	switch {
	case served.MatchString(word), parts.MatchString(word) && !(cuts.MatchString(word) && c.Yield >= 6):
		return true // it is not what the yield counts
	case oneEach.MatchString(word):
		return c.Yield%count == 0 // in batches
	}
	// Parts of each, slices of one, or parts that are divided again.
	return multiple && (c.Yield < 3 || count <= 3*c.Yield) || c.Yield%count == 0
}

// A lasting is how long something takes in the heat, in minutes: typical of
// household recipes, and generous.
type lasting struct {
	what        string
	dish        *regexp.Regexp // in the step; of bakes and boils in the title or the step
	does        *regexp.Regexp // in the step
	least, most float64
	hands       bool // it is work: the time of a wait says nothing of it
}

var boils = regexp.MustCompile(`(?i)\bboil\b`)

var bakes = regexp.MustCompile(`(?i)\b(?:bake|baked|roast|oven)\b`)

// lastings are asked in order; the first that fits judges.
var lastings = []lasting{
	{"a bake of scones", regexp.MustCompile(`(?i)\bscones?\b`), bakes, 7, 30, false},
	{"a bake of biscuits", regexp.MustCompile(`(?i)\b(?:biscuits?|cookies|shortbread|crackers|straws)\b`), bakes, 5, 50, false},
	{"a bake of muffins or buns", regexp.MustCompile(`(?i)\b(?:muffins?|cupcakes?|fairy cakes|buns?|rolls|naan|teacakes?|bagels?|plait|knots|twists|focaccia|baps)\b`), bakes, 6, 50, false},
	{"a bake of a loaf", regexp.MustCompile(`(?i)\b(?:loaf|loaves|bread)\b`), bakes, 15, 150, false},
	{"a bake of meringue", regexp.MustCompile(`(?i)\b(?:meringues?|pavlova)\b`), bakes, 20, 240, false},
	{"a bake of a sponge", regexp.MustCompile(`(?i)\b(?:sponge|swiss roll|brownies?|traybake|bars|flapjacks?)\b`), bakes, 6, 75, false},
	{"a bake of a cake", regexp.MustCompile(`(?i)\b(?:cake|traybake|gingerbread|parkin|torte)\b`), bakes, 7, 240, false},
	{"a bake of pizza", regexp.MustCompile(`(?i)\bpizzas?\b`), bakes, 4, 40, false},
	{"a bake of pastry", regexp.MustCompile(`(?i)\b(?:pie|pasty|pasties|tarts?|tartlets?|quiche|flan|profiteroles|eclairs?|éclairs?|pastry|samosas?)\b`), bakes, 5, 120, false},
	{"a bake of a yeast dough", regexp.MustCompile(`(?i)\byeast dough\b`), bakes, 5, 75, false},
	{"roasting a chicken", regexp.MustCompile(`(?i)\b(?:whole chicken|roast chicken|spatchcock)\b`), bakes, 15, 180, false},
	{"roasting chicken pieces", regexp.MustCompile(`(?i)\bchicken\b`), bakes, 5, 120, false},
	{"roasting vegetables", regexp.MustCompile(`(?i)\b(?:vegetables|carrots|squash|potatoes|wedges|cauliflower|parsnips)\b`), bakes, 5, 120, false},
	{"a bake", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\bbake\b`), 4, 240, false},
	{"boiling filled pasta", regexp.MustCompile(`(?i)\b(?:ravioli|tortellini|gnocchi|dumplings)\b`), boils, 1, 25, false},
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
	{"simmering", regexp.MustCompile(`.`), regexp.MustCompile(`(?i)\b(?:simmer|stew|braise|boil|cook)\b`), 0.5, 480, false},
}

// manyHours is more than a day.
var manyHours = regexp.MustCompile(`(?i)\b(?:2[5-9]|[3-9]\d|\d{3,})\s*(?:hours|hrs|hr|h)\b`)

var slowly = regexp.MustCompile(`(?i)\b(?:slow|overnight|low oven|cool oven|dry out|caramelis|confit|sourdough|christmas|fruit cake|turn (?:it )?down|half[- ]time|first)\b`)

// impossibleTime catches a loaf in five minutes and scones in three hours.
func (c *checker) impossibleTime() {
	c.stewsTooShort()
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
		if m := manyHours.FindStringSubmatch(s.Text); m != nil && !slowly.MatchString(s.Text) && heated.MatchString(s.Text) {
			c.add(stepAt(n), "time "+s.Title, m[0]+" on the heat: more than a day is unusual.", "Look for a misprint.", nil)
			continue
		}
		if minutes == 0 || len(c.minutesIn(n)) == 0 || slowly.MatchString(c.Title+". "+s.Text) {
			continue
		}
		for _, l := range lastings {
			named := s.Text
			if l.does == bakes || l.does == boils {
				named = text
			}
			if !l.does.MatchString(s.Text) || !l.dish.MatchString(named) || l.does == bakes && s.Kind != fit.Bake || l.hands == idle {
				continue
			}
			switch {
			case l.what == "a bake" && hottestOf(s) >= 200:
				l.most = 70
			case l.what == "simmering" && !c.tough(s):
				l.most = 100
			}
			short := minutes < l.least && !again.MatchString(s.Text)
			if short || minutes > l.most {
				c.add(stepAt(n), "time "+s.Title, fmt.Sprintf("%s min for %s: usual is %.3g to %.0f min.", said.Decimal(1), l.what, l.least, l.most), "Look for a misprint.", nil)
			}
			break
		}
	}
}

// tenderAfter is how long meat for stewing takes at least, in minutes.
const tenderAfter = 30

// stewsTooShort catches a stew of minutes: where there is meat for stewing, some
// step takes long, or says so without a figure.
func (c *checker) stewsTooShort() {
	at := slices.IndexFunc(c.Ingredients, func(i Ingredient) bool {
		return slices.Contains([]string{"stewing-beef", "ox-kidney", "lamb-diced", "pork-shoulder", "beef-joint"}, i.Pantry)
	})
	if at < 0 || slices.ContainsFunc(c.Steps, func(s Step) bool { return quickly.MatchString(s.Text) }) {
		return
	}
	longest := -1
	for n, s := range c.Steps {
		if (s.Kind == fit.Cook || s.Kind == fit.Bake) && (longest < 0 || c.Steps[longest].Work.Add(c.Steps[longest].Wait).Less(s.Work.Add(s.Wait))) {
			longest = n
		}
	}
	if longest < 0 || c.Steps[longest].WaitFrom == Typical || len(c.minutesIn(longest)) == 0 {
		return
	}
	s := c.Steps[longest]
	said := s.Wait
	if s.WorkFrom != Typical {
		said = said.Add(s.Work)
	}
	if s.Work.Add(s.Wait).Less(exact.Int(tenderAfter)) {
		c.add(stepAt(longest), "time "+s.Title, fmt.Sprintf("%s min: %s is tough until it has cooked for %d min or more.", said.Decimal(1), c.Ingredients[at].Name, tenderAfter), "Look for a misprint.", nil)
	}
}

// quickly are ways in which such meat is done sooner, or not stewed.
var quickly = regexp.MustCompile(`(?i)\b(?:pressure|skewer|kebab|grill|stir-fry|griddle|slow cooker)\w*\b`)

// longCooked are dishes that stay on the heat for hours.
var longCooked = regexp.MustCompile(`(?i)\b(?:stock|ragu|ragù|pudding|jam|marmalade|chutney|confit|beans?|curry|stew|tagine|casserole|hotpot|broth|dulce|toffee|caramel|oranges?|lemons?|beetroots?)\b`)

// tough reports whether what a step cooks may simmer for hours: meat, pulses, or
// a dish that is known for it.
func (c *checker) tough(s Step) bool {
	return longCooked.MatchString(c.Title+". "+s.Text) || slices.ContainsFunc(c.everything(), func(i Ingredient) bool {
		stock, ok := c.pantry.Find(i.Pantry)
		meat := slices.ContainsFunc(stock.From, func(t pantry.Trait) bool {
			return t == pantry.Beef || t == pantry.Lamb || t == pantry.Pork || t == pantry.Poultry
		})
		if tinned.MatchString(i.Name + ", " + i.Note) {
			return false
		}
		return !ok || meat || strings.Contains(stock.ID, "bean") || strings.Contains(stock.ID, "peas") || strings.Contains(stock.ID, "lentil") || stock.ID == "chickpeas"
	})
}

// tinned are pulses that are cooked already.
var tinned = regexp.MustCompile(`(?i)\b(?:tins?|tinned|cans?|canned|drained|cooked)\b`)

// made says what a dish is made of where its name does not.
func (c *checker) made() string {
	for _, i := range c.everything() {
		if stock, _ := c.pantry.Find(i.Pantry); strings.HasSuffix(stock.Name, "pastry") {
			return "pastry"
		} else if strings.Contains(stock.Name, "yeast") && !strings.Contains(stock.Name, "extract") {
			return "yeast dough"
		}
	}
	holds := func(group string) bool {
		return slices.ContainsFunc(c.Ingredients, func(i Ingredient) bool { return slices.Contains(groups[group], i.Pantry) })
	}
	if holds("flour") && holds("sugar") && holds("fat") && holds("egg") {
		return "cake"
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
	shaping   = regexp.MustCompile(`(?i)^\W*(?:\d+[.)]?\s*)?(?:then |next,? )?(?:knead|divide in(?:to)? (?:\d|two|three|four|six|eight)|roll into|plait|fold (?:in )?the (?:flour|dry)|shape|roll (?:it |the (?:dough|pastry) )?out|rub in|rub the|cut out|knock back|prove|divide the (?:dough|mixture)|crack|mix the (?:flour|dry|dough)|line the tin|fill the (?:cases|tin|pie)|form into|cream the)\b`)
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
		return usedIn(text, pantry.Words(text), i, stock) || goesIn(text, stock)
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
