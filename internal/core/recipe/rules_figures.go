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
// piece holds in ordinary recipes; named where the dish is called after them. Figures are typical of household cooking and
// generous: what lies beyond is a misprint far more often than a taste.
type portion struct {
	most, named float64
	items       []string
}

// portions by what the ingredients are: everything of the pantry that is not in
// a row may be a portion's greatest part.
var portions = []portion{
	{3.2, 3.2, ids("salt saffron xanthan agar")},
	{3, 3, ids("baking-powder bicarbonate cream-of-tartar")},
	{7, 7, ids("fast-yeast")},
	{12, 12, ids("fresh-yeast")},
	{4.5, 4.5, ids("gelatine powdered-gelatine")},
	{3.5, 3.5, ids("cinnamon cinnamon-stick ginger-ground nutmeg mixed-spice cloves-ground cloves turmeric chilli-powder cayenne chilli-flakes pepper white-pepper peppercorns mustard-powder allspice cardamom star-anise asafoetida bay-leaf bouquet-garni kaffir-lime")},
	{2.2, 2.2, ids("dried-oregano dried-herbs dried-thyme")},
	{4.2, 4.2, ids("cumin-ground cumin-seeds coriander-ground coriander-seeds garam-masala garlic-granules fennel-seeds mustard-seeds fenugreek")},
	{6, 6, ids("paprika smoked-paprika curry-powder fajita-seasoning stock-powder stock-cube chicken-stock-cube beef-stock-cube")},
	{6, 6, ids("vanilla almond-extract food-colour rose-water spray-oil egg-replacer seaweed")},
	{20, 20, ids("caraway-seeds nigella-seeds arrowroot wheatgerm gravy-granules dried-mushrooms lemongrass lemon-zest drinking-chocolate sprinkles edible-flowers cress crispy-onions")},
	{15, 40, ids("garlic ginger-root chilli ginger-garlic-paste mustard")},
	{25, 25, ids("anchovies capers crystallised-ginger stem-ginger mixed-peel")},
	{26, 26, ids("harissa curry-paste thai-curry-paste hot-sauce horseradish tamarind chilli-oil")},
	{30, 75, ids("parsley coriander-leaf mint basil chives dill thyme rosemary sage tarragon yeast-extract")},
	{30, 75, ids("tomato-puree")},
	{38, 95, ids("soy-sauce tamari fish-sauce oyster-sauce worcester-sauce vinegar wine-vinegar cider-vinegar malt-vinegar balsamic-vinegar rice-vinegar")},
	{45, 45, ids("miso mint-sauce cocoa custard-powder cornflour potato-starch lemon-juice lime-juice bottled-lemon-juice tahini sesame-oil walnut-oil jalapenos sundried-tomatoes milk-powder bran-flakes oat-bran wheat-bran flax-seeds chia-seeds stuffing-mix")},
	{55, 55, ids("butter baking-spread block-fat vegetable-fat sunflower-spread lard dripping beef-suet vegetable-suet ghee coconut-oil")},
	{90, 225, ids("lemon lime")},
	{70, 70, ids("mayonnaise vegan-mayo salad-cream tartare-sauce brown-sauce barbecue-sauce sweet-chilli-sauce hoisin-sauce teriyaki-sauce black-bean-sauce tomato-ketchup mango-chutney pickle gherkins pickled-onions pesto red-pesto peanut-butter almond-butter hazelnut-spread peanut-sauce dried-breadcrumbs")},
	{110, 110, ids("caster-sugar granulated-sugar icing-sugar demerara-sugar soft-brown-sugar dark-brown-sugar muscovado palm-sugar pectin-sugar glucose-syrup jam apricot-jam marmalade lemon-curd mincemeat marzipan fondant-icing marshmallows condensed-milk jelly quick-jelly glace-cherries meringue-nests shortbread rich-tea ginger-biscuits digestive-biscuits sponge-fingers cream-crackers oatcakes")},
	{100, 100, ids("cornflakes puffed-rice wheat-biscuits muesli crisps tortilla-chips popping-corn tapioca desiccated-coconut coconut-flour olives pine-nuts")},
	{120, 120, ids("cheddar red-leicester parmesan hard-italian-cheese feta mozzarella gruyere brie goats-cheese blue-cheese soft-cheese mascarpone processed-cheese vegan-cheese squirty-cream")},
	{90, 90, ids("raisins sultanas currants mixed-fruit dried-apricots dried-cranberries dried-figs dried-mango prunes dates almonds whole-almonds ground-almonds walnuts hazelnuts cashews peanuts pecans pistachios brazil-nuts macadamias mixed-nuts chestnuts sunflower-seeds pumpkin-seeds mixed-seeds dark-chocolate milk-chocolate white-chocolate chocolate-chips lardons chorizo salami parma-ham")},
	{160, 160, ids("white-rice brown-rice jasmine-rice wild-rice pudding-rice pasta spaghetti wholewheat-pasta gf-pasta lasagne-sheets orzo couscous bulgur quinoa freekeh millet red-lentils green-lentils puy-lentils split-peas oats oatmeal gf-oats egg-noodles rice-noodles soba pearl-barley semolina polenta maize-meal gram-flour rice-flour instant-mash")},
	{200, 200, ids("plain-flour self-raising-flour wholemeal-flour wholemeal-self-raising-flour gluten-free-flour cake-flour buckwheat-flour")},
	{600, 600, ids("strong-flour strong-wholemeal-flour rye-flour brown-bread-flour spelt-flour chapati-flour 00-flour gf-bread-flour")},
	{230, 230, ids("egg-small egg-medium egg-large egg-yolk egg-white quail-egg")},
	{450, 450, ids("beef-mince lamb-mince pork-mince turkey-mince chicken-mince veggie-mince chicken-breast chicken-thigh chicken-cooked turkey-breast turkey-cooked duck-breast stewing-beef beef-steak ox-kidney lamb-diced lamb-chop lamb-liver pork-shoulder pork-chop pork-fillet pulled-pork venison white-fish cod-fillet smoked-fish salmon smoked-salmon tinned-salmon mackerel smoked-mackerel sardines tuna prawns raw-prawns crab crab-sticks squid scallops seafood-mix fish-pie-mix back-bacon ham gammon corned-beef black-pudding frankfurter sausagemeat pork-sausage beef-sausage chicken-sausage veggie-sausage tofu silken-tofu tempeh seitan mycoprotein falafel")},
	{700, 700, ids("water")},
	{350, 350, ids("mushroom portobello shiitake rocket salad-leaves lettuce single-cream oat-cream coconut-cream coconut-milk evaporated-milk fromage-frais cottage-cheese ricotta buttermilk tomato-sauce salsa creme-fraiche soured-cream custard hummus spinach kidney-beans chickpeas butter-beans black-beans cannellini-beans borlotti-beans mixed-beans broad-beans edamame beansprouts rhubarb sherry white-wine cider beer")},
	{60, 150, ids("spring-onion")},
	{160, 400, ids("onion red-onion shallot celery fennel")},
	{200, 500, ids("carrot cucumber parsnip peas sweetcorn pepper-red pepper-green")},
	{160, 250, ids("puff-pastry shortcrust-pastry filo-pastry halloumi paneer")},
	{90, 90, ids("breadcrumbs")},
	{250, 500, ids("yoghurt soya-yoghurt")},
	{70, 70, ids("honey golden-syrup maple-syrup agave black-treacle date-syrup")},
	{40, 40, ids("sesame-seeds poppy-seeds")},
	{150, 150, ids("double-cream whipping-cream clotted-cream")},
	{300, 600, ids("chopped-tomatoes cooked-rice passata")},
	{40, 40, ids("olive-oil sunflower-oil rapeseed-oil groundnut-oil")},
	{480, 480, ids("vegetable-stock chicken-stock beef-stock lamb-stock fish-stock low-salt-stock")},
	{400, 700, ids("milk lactose-free-milk goat-milk oat-drink soya-drink almond-drink coconut-drink rice-drink")},
	{320, 700, ids("potato new-potato sweet-potato turnip celeriac beetroot leek tomato cherry-tomato courgette aubergine swede squash cauliflower broccoli white-cabbage red-cabbage savoy-cabbage kale green-beans runner-beans mangetout asparagus frozen-veg apple cooking-apple pear plum peach apricot banana orange mango pineapple strawberry raspberry blackberry blueberry blackcurrant gooseberry cherry cranberry mixed-berries")},
}

func ids(list string) []string { return strings.Fields(list) }

// mostOfAny is more than a portion holds of anything, in grams.
const mostOfAny = 1000

// mostOf returns how much of an ingredient a portion holds at most, in grams.
func (c *checker) mostOf(i Ingredient) float64 {
	at := slices.IndexFunc(portions, func(p portion) bool { return slices.Contains(p.items, i.Pantry) })
	stock, _ := c.pantry.Find(i.Pantry)
	switch {
	case at < 0:
		return mostOfAny
	case namedIn(pantry.Words(c.Title), i, stock):
		return portions[at].named
	case slices.Contains(sweets, i.Pantry) && c.savoury():
		return min(portions[at].most, sweetInSavoury)
	}
	return portions[at].most
}

// sweets are what is a pinch or a spoon in a savoury dish, of which a portion
// then holds so much at most, in grams.
var sweets = ids("caster-sugar granulated-sugar demerara-sugar soft-brown-sugar dark-brown-sugar muscovado palm-sugar golden-syrup black-treacle honey maple-syrup agave")

const sweetInSavoury = 32

var savouries = ids("onion red-onion shallot leek garlic soy-sauce vegetable-stock chicken-stock beef-stock beef-mince lamb-mince chicken-breast chicken-thigh pork-shoulder salmon prawns raw-prawns tofu cumin-ground")

// savoury reports whether a dish is one of onions, garlic, stock, meat or fish.
func (c *checker) savoury() bool {
	return slices.ContainsFunc(c.Ingredients, func(i Ingredient) bool { return slices.Contains(savouries, i.Pantry) })
}

// manyPieces is from how many pieces on each is smaller than a portion.
const manyPieces = 6

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
		shares = 6 // more than most recipes serve: only what is far off is said
	}
	if c.Yield > 0 && c.Piece != "portion" && (large.MatchString(c.Piece) && c.Yield <= mostLarge || loaves.MatchString(c.Piece)) {
		shares *= 8 // a cake or a loaf is eaten by eight
	}
	piece := c.Piece
	if piece == "" || shares != float64(c.Yield) {
		piece = "portion"
	}
	grams := Grams(c.Recipe, c.pantry)
	c.tooLittle(grams)
	for n, i := range c.Ingredients {
		most := c.mostOf(i)
		if i.Pantry == "" && i.Unit.Dimension == measure.Volume && ofTheJar.MatchString(i.Name) {
			if ml := i.Base().Float() / shares; ml > mostOfJar {
				c.add(ingredientAt(n), "much "+i.Name, fmt.Sprintf("%s of %s is %.0f ml for each %s: more than %d ml is unusual.", i.Quantity, i.Name, ml, piece, mostOfJar), "Look for a misprint.", nil)
			}
			continue
		}
		if grams[n] == 0 || i.Law == Surface || i.Law == Fixed {
			continue
		}
		if c.Piece != "portion" && c.Yield >= manyPieces && shares == float64(c.Yield) && most > 3.2 {
			most /= 2 // a piece of many is a bite
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

// A helping is the least, in grams, that a portion holds of what a dish is of.
type helping struct {
	least float64
	items []string
	dish  *regexp.Regexp // of the title; nil where any dish with it is of it
}

// helpings are typical of household cooking, and small: less is a misprint far
// more often than thrift.
var helpings = []helping{
	{18, ids("beef-mince lamb-mince pork-mince turkey-mince chicken-mince chicken-breast chicken-thigh turkey-breast stewing-beef beef-steak lamb-diced pork-shoulder pork-fillet venison cod-fillet white-fish salmon"), nil},
	{18, ids("white-rice brown-rice jasmine-rice wild-rice pudding-rice"), regexp.MustCompile(`(?i)\b(?:rice|risotto|paella|pilau|pilaf|pulao|biryani|jollof|kedgeree)\b`)},
	{18, ids("pasta spaghetti wholewheat-pasta gf-pasta orzo egg-noodles rice-noodles"), regexp.MustCompile(`(?i)\b(?:pasta|spaghetti|macaroni|penne|tagliatelle|linguine|fusilli|noodles|bolognese|carbonara|orzo)\b`)},
	{10, ids("red-lentils green-lentils puy-lentils split-peas chickpeas kidney-beans black-beans butter-beans mixed-beans"), regexp.MustCompile(`(?i)\b(?:lentils?|dal|dhal|daal|beans?|chickpeas?|chana|chilli)\b`)},
	{18, ids("potato new-potato sweet-potato cauliflower squash carrot mushroom aubergine"), regexp.MustCompile(`(?i)\b(?:potato(?:es)?|cauliflower|squash|carrots?|mushrooms?|aubergines?)\b`)},
}

// traces are amounts that nobody weighs: of what is a part of a dish, and no
// seasoning, a portion holds more.
var traces = []helping{
	{7, ids("potato new-potato sweet-potato carrot parsnip turnip celeriac beetroot onion red-onion leek tomato cherry-tomato courgette aubergine pepper-red swede squash cauliflower broccoli white-cabbage red-cabbage savoy-cabbage kale green-beans peas sweetcorn mushroom spinach red-lentils green-lentils pearl-barley couscous bulgur quinoa white-rice brown-rice jasmine-rice pasta spaghetti egg-noodles rice-noodles tofu apple cooking-apple rhubarb plum strawberry raspberry blackberry blueberry yoghurt"), nil},
	{21, ids("chopped-tomatoes kidney-beans chickpeas butter-beans black-beans cannellini-beans borlotti-beans mixed-beans puff-pastry shortcrust-pastry coconut-milk passata"), nil},
	{16, ids("vegetable-stock chicken-stock beef-stock"), nil},
	{12, ids("cooked-rice paneer halloumi tofu white-fish cod-fillet salmon beef-mince lamb-mince pork-mince turkey-mince chicken-mince"), nil},
	{4, ids("cheddar red-leicester feta mozzarella gruyere soft-cheese breadcrumbs double-cream single-cream whipping-cream creme-fraiche soured-cream"), nil},
	{2.6, ids("dried-breadcrumbs olives raisins sultanas currants mixed-fruit dried-apricots dates dried-cranberries dark-chocolate milk-chocolate white-chocolate"), nil},
	{1.6, ids("walnuts almonds hazelnuts pecans cashews peanuts sunflower-seeds pumpkin-seeds mixed-seeds butter baking-spread lard block-fat vegetable-fat"), nil},
}

// light are dishes that hold little of what they are called after.
var light = regexp.MustCompile(`(?i)\b(?:soup|broth|stuffed|minestrone|dumplings?|dip|sauce|bites|canap|cake|muffins?|bread|salad|relish|side|starter|koftas?|pizzas?|scones?|crisps)\b`)

// byMeasure are yields of so much rather than so many.
var byMeasure = regexp.MustCompile(`(?i)^(?:ml|l|litres?|g|kg|cups?|pints?)$`)

// tooLittle catches a tenth of what a dish is of, by what a portion holds.
func (c *checker) tooLittle(grams []float64) {
	if c.Yield < 2 || byMeasure.MatchString(c.Piece) {
		return
	}
	part := 1.0
	if c.Piece != "portion" && c.Yield >= manyPieces {
		part = 3 // of a bite, and not of a portion
	}
	hardly := func(n int, least float64) bool { return grams[n] > 0 && part*grams[n]/float64(c.Yield) < least }
	for n, i := range c.Ingredients {
		weighed := i.Unit.Dimension == measure.Mass || i.Unit.ID == measure.Millilitre.ID
		if i.Law != Linear || i.Optional {
			continue
		}
		for _, h := range slices.Concat(traces, helpings) {
			dish := h.dish != nil && h.dish.MatchString(c.Title) && !light.MatchString(c.Title) && c.Piece == "portion"
			if !slices.Contains(h.items, i.Pantry) || !hardly(n, h.least) || h.dish != nil && !dish || h.dish == nil && !weighed {
				continue
			}
			c.add(ingredientAt(n), "little "+i.Name, fmt.Sprintf("%s of %s is %.2g g for each %s: less than %.3g g is unusual.", i.Quantity, i.Name, grams[n]/float64(c.Yield), c.Piece, h.least/part), "Look for a misprint.", nil)
			break
		}
	}
	c.hardlySweet(grams)
}

// sweetDish are dishes that taste of their sugar.
var sweetDish = regexp.MustCompile(`(?i)\b(?:cakes?|cupcakes?|muffins?|brownies|blondies|sponge|cookies|shortbread|fool|mousse|posset|trifle|jam|flapjacks?|gingerbread|parkin|meringues?|pavlova|sorbet|ice cream|lemon (?:bars|pots|drizzle)|crumble)\b`)

// hardlySweet catches a tenth of the sugar of a sweet dish.
func (c *checker) hardlySweet(grams []float64) {
	const least = 1.6 // grams for each portion or piece
	if !sweetDish.MatchString(c.Title) || c.savoury() {
		return
	}
	first, sum := -1, 0.0
	for n, i := range c.Ingredients {
		if stock, _ := c.pantry.Find(i.Pantry); grams[n] > 0 && (slices.Contains(sweets, i.Pantry) || slices.Contains(groups["chocolate"], i.Pantry) || strings.Contains(stock.ID, "sugar") || strings.Contains(stock.ID, "syrup") || strings.HasSuffix(stock.ID, "jam") || stock.ID == "condensed-milk") {
			sum += grams[n]
			if first < 0 {
				first = n
			}
		}
	}
	if first >= 0 && sum/float64(c.Yield) < least {
		c.add(ingredientAt(first), "sweet", fmt.Sprintf("%.3g g of sugar for each %s: less than %.2g g is unusual in a sweet dish.", sum/float64(c.Yield), c.Piece, least), "Look for a misprint.", nil)
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
	divided = regexp.MustCompile(`(?i)\b(?:divide|divided|shape|form|fold|fill|roll|mark|score|crumble|layer|share|heap|pile|pour|ladle|cut|split|make|makes|portion|scoop|slice|separate|pipe|break|spoon|drop)\w*\b[^.;]{0,40}?\b(?:into|to make|in|between|among|amongst)\s+(?:the )?(\d{1,3}\b|two|three|four|five|six|eight|nine|ten|twelve|fifteen|sixteen|eighteen|twenty|a dozen)\b\s*(?:even |equal |equally |similar |same |small |large |round |neat |individual |greased |lined |paper |serving |warm |oval |flat )*([\pL]+|[,.;]|$)`)
	stamped = regexp.MustCompile(`(?i)\b(?:stamp|cut|punch|press)\w*(?: out)? (?:about |roughly |around |at least )?(\d{1,3})\b\s*(?:small |large |neat |equal )*(rounds?|circles?|discs?|shapes?|biscuits?|scones?|stars?|hearts?)\b|\b(?:pipe|shape|form|make|roll|spoon|drop|put|set) (?:out )?(?:about |roughly )?(\d{1,3})\s+(?:small |large |neat |equal |even |paper |muffin |cake )*(buns|balls|rolls|cases|patties|burgers|cakes|fishcakes|mounds|heaps|dollops|spoonfuls|eclairs|meringues|koftas)\b|\b(?:onto|soak|thread|on|use)\s+(\d{1,3})\s+(?:(?:wooden|metal|bamboo|soaked|small|long|large)\s+)*(skewers?|kebab sticks|lolly sticks)\b`)
	anew    = regexp.MustCompile(`(?i)\b(?:each|every|halve|halves|half|in two|again|sandwich\w*|pairs?|batch(?:es)?|tins|trays|lids?|tops?|bases?|join|twice|times|quarters?|re-?roll|trimmings|two|2|three|3)\b`)
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
		found := divided.FindAllStringSubmatch(s.Text, -1)
		for _, m := range stamped.FindAllStringSubmatch(s.Text, -1) {
			if m[5] != "" && !strings.HasPrefix(c.Piece, "skewer") && !strings.HasPrefix(c.Piece, "kebab") {
				continue // how many to a portion is free
			}
			found = append(found, []string{m[0], m[1] + m[3] + m[5], m[2] + m[4] + m[6]})
		}
		for _, m := range found {
			count, err := strconv.Atoi(m[1])
			if err != nil {
				count = spelled[strings.ToLower(m[1])]
			}
			word := strings.Trim(strings.ToLower(m[2]), ",.;")
			if count < 2 || c.agrees(n, count, word) {
				continue
			}
			if word == "and" {
				word = ""
			}
			c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and this step makes %s.", c.Count(c.Yield), strings.TrimSpace(fmt.Sprint(count, " ", word))), "Keep one of the two numbers.", nil)
		}
		for _, m := range holes.FindAllStringSubmatch(s.Text, -1) {
			count, _ := strconv.Atoi(m[1])
			if c.Piece != "portion" && count >= 4 && (c.Yield > count && (c.Yield%count != 0 || !c.dividedAgain(n)) || c.Yield*3 < count) {
				c.add(stepAt(n), "yield "+s.Title, fmt.Sprintf("It makes %s, and the tin has %d holes.", c.Count(c.Yield), count), "Look for a misprint.", nil)
			}
		}
	}
}

// dividedAgain reports whether a step, the one before or one after it says that what was made is
// parted or put together once more.
func (c *checker) dividedAgain(from int) bool {
	return slices.ContainsFunc(c.Steps[max(0, from-1):], func(s Step) bool { return anew.MatchString(s.Text) })
}

// agrees reports whether a step may make so many of something, called by a word
// or not, in a recipe of this yield.
func (c *checker) agrees(at, count int, word string) bool {
	if count == c.Yield {
		return true
	}
	multiple := count%c.Yield == 0
	if c.Piece != "" && c.Piece != "piece" && strings.HasPrefix(word, strings.ToLower(strings.TrimSuffix(c.Piece, "e"))) {
		return false
	}
	if c.Piece == "portion" && word != "" && word != "and" {
		return !served.MatchString(word) || multiple && c.Yield > 2
	}
	switch {
	case oneEach.MatchString(word):
		return c.Yield%count == 0 // in batches
	case served.MatchString(word), parts.MatchString(word) && !(cuts.MatchString(word) && c.Yield >= 6):
		return true // it is not what the yield counts
	}
	// Parts of each, slices of one, or parts that are divided again.
	return multiple && c.Yield < 3 || (multiple && count <= 3*c.Yield || c.Yield%count == 0) && c.dividedAgain(at)
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
	{"a bake of a terrine", regexp.MustCompile(`(?i)\b(?:terrine|meat ?loaf)\b`), bakes, 25, 180, false},
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
	{"boiling pasta", regexp.MustCompile(`(?i)\b(?:pasta|spaghetti|penne|macaroni|noodles|tagliatelle|linguine|fusilli|rigatoni|farfalle|orzo|vermicelli|fettuccine|pappardelle|conchiglie|soba|udon|ramen)\b`), regexp.MustCompile(`(?i)\b(?:boil|cook|simmer)\b`), 1, 25, false},
	{"boiling rice", regexp.MustCompile(`(?i)\brice\b`), regexp.MustCompile(`(?i)\b(?:boil|cook|simmer)\b`), 5, 60, false},
	{"boiling potatoes", regexp.MustCompile(`(?i)\bpotatoes\b`), regexp.MustCompile(`(?i)\b(?:boil|parboil)\b`), 4, 45, false},
	{"boiling eggs", regexp.MustCompile(`(?i)\beggs?\b`), regexp.MustCompile(`(?i)\b(?:boil|poach)\b`), 1.5, 20, false},
	{"each side in the pan", regexp.MustCompile(`(?i)\b(?:each|per|a|both|either) sides?\b`), regexp.MustCompile(`(?i)\b(?:fry|cook|griddle|sear|grill|brown)\b`), 0.3, 40, true},
	{"each side in the pan", regexp.MustCompile(`(?i)\b(?:each|per|a|both|either) sides?\b`), regexp.MustCompile(`(?i)\b(?:fry|cook|griddle|sear|grill|brown)\b`), 0.3, 40, false},
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
	c.cookedTooShort()
	for n, s := range c.Steps {
		said := exact.Number{}
		if s.WorkFrom != Typical {
			said = s.Work.Add(s.Load)
		} else if s.PerLoad > 0 {
			said = s.Load
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

// A tender is what is hard until it has cooked for so many minutes.
type tender struct {
	after int
	items []string
}

// tenders by what they are: typical figures, and short.
var tenders = []tender{
	{30, ids("stewing-beef ox-kidney lamb-diced pork-shoulder beef-joint")},
	{15, ids("brown-rice pearl-barley split-peas wild-rice")},
	{12, ids("green-lentils puy-lentils")},
	{8, ids("red-lentils pudding-rice")},
	{7, ids("potato new-potato sweet-potato")},
	{6, ids("white-rice jasmine-rice")},
	{4, ids("chicken-breast chicken-thigh turkey-breast pork-fillet beef-mince lamb-mince pork-mince turkey-mince chicken-mince pork-sausage beef-sausage chicken-sausage")},
}

// cookedTooShort catches a stew of minutes: what is hard at first is on the heat
// for long enough in all, or for a time that the recipe does not say.
func (c *checker) cookedTooShort() {
	quick := slices.ContainsFunc(c.Steps, func(s Step) bool { return quickly.MatchString(s.Text) })
	for _, i := range c.Ingredients {
		at := slices.IndexFunc(tenders, func(t tender) bool { return slices.Contains(t.items, i.Pantry) })
		if at < 0 || quick && tenders[at].after > 4 || thin.MatchString(i.Name+", "+i.Note) || tinned.MatchString(i.Name+", "+i.Note) {
			continue
		}
		inAll, most, longest := exact.Number{}, exact.Number{}, -1
		first := c.firstUse(i)
		alone := strings.HasSuffix(i.Pantry, "-rice") && cooksIt.MatchString(c.Steps[first].Text) && len(c.minutesIn(first)) > 0
		for n := first; n < len(c.Steps); n++ {
			s := c.Steps[n]
			if alone && n > first && !namedIn(pantry.Words(s.Text), i, pantry.Ingredient{}) {
				continue // in its own pan
			}
			if s.Kind != fit.Cook && s.Kind != fit.Bake || beside.MatchString(s.Text) && !namedIn(pantry.Words(s.Text), i, pantry.Ingredient{}) {
				continue
			}
			if s.WaitFrom == Typical && !s.Wait.Less(exact.Int(10)) {
				longest = -1 // "simmer until tender"
				break
			}
			minutes := s.Wait
			if s.WorkFrom != Typical {
				minutes = minutes.Add(s.Work).Add(s.Load)
			}
			if inAll = inAll.Add(minutes); most.Less(minutes) && len(c.minutesIn(n)) > 0 {
				longest, most = n, minutes
			}
		}
		if longest < 0 || !inAll.Less(exact.Int(int64(tenders[at].after))) {
			continue
		}
		c.add(stepAt(longest), "time "+c.Steps[longest].Title, fmt.Sprintf("%s min on the heat in all: %s is hard until it has cooked for %d min or more.", inAll.Decimal(1), i.Name, tenders[at].after), "Look for a misprint.", nil)
	}
}

// cooksIt are ways in which rice is cooked by itself.
var cooksIt = regexp.MustCompile(`(?i)\b(?:boil|cook|steam|simmer)\w*\b[^.]*\brice\b`)

// thin is soon done.
var thin = regexp.MustCompile(`(?i)\b(?:thin|thinly|wafer|grated|finely|matchsticks|shavings|mashed|leftover)\b`)

// beside are cooked in a pan of their own.
var beside = regexp.MustCompile(`(?i)\b(?:pasta|spaghetti|macaroni|penne|tagliatelle|linguine|fusilli|noodles|rice|potatoes|eggs|beans)\b`)

// quickly are ways in which such meat is done sooner, or not stewed.
var quickly = regexp.MustCompile(`(?i)\b(?:pressure|skewer|kebab|grill|stir-fry|griddle|slow cooker|microwave|crisps|mandolin)\w*\b`)

// longCooked are dishes that stay on the heat for hours.
var longCooked = regexp.MustCompile(`(?i)\b(?:stock|ragu|ragù|pudding|jam|marmalade|chutney|confit|curry|stew|tagine|casserole|hotpot|broth|dulce|toffee|caramel|oranges?|lemons?|beetroots?)\b`)

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
var tinned = regexp.MustCompile(`(?i)\b(?:tins?|tinned|cans?|canned|drained|cooked|pouch|left[- ]?over|microwave|ready)\b`)

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
var again = regexp.MustCompile(`(?i)\b(?:more|another|further|return|again|upside|finish|back in|last|until hot|heat through|blind|brown the top|warm|crisp (?:it |them )?up|to crisp)\b`)

var (
	shaping   = regexp.MustCompile(`(?i)^\W*(?:\d+[.)]?\s*)?(?:then |next,? )?(?:knead|divide in(?:to)? (?:\d|two|three|four|six|eight)|roll into|roll up|(?:place|put) in \w+ \w+ and prove|plait|fold (?:in )?the (?:flour|dry)|shape|roll (?:it |the (?:dough|pastry) )?out|rub in|rub the|cut out|knock back|prove|divide the (?:dough|mixture)|crack|mix the (?:flour|dry|dough)|line the tin|fill the (?:cases|tin|pie)|form into|cream the)\b`)
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
		for _, m := range coldOven.FindAllStringSubmatch(s.Text, -1) {
			if t, _ := strconv.Atoi(m[1]); t < coolest {
				c.add(stepAt(n), "range "+s.Title, fmt.Sprintf("%d °C: ovens go from %d to %d °C.", t, coolest, hottest), "Look for a misprint.", nil)
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
	coldOven   = regexp.MustCompile(`(?i)\b(?:bake|roast|oven)(?:[^.;\d]{0,60}\bat| (?:to|to about|at about))? (\d{1,2})\s*(?:°\s*C?|º\s*C?|degrees|C|fan)(?:[^\pL]|$)`)
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
