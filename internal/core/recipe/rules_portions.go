package recipe

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
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
	{90, 90, ids("raisins sultanas currants mixed-fruit dried-apricots dried-cranberries dried-figs dried-mango dried-pineapple dried-apple banana-chips prunes dates almonds whole-almonds ground-almonds walnuts hazelnuts cashews peanuts pecans pistachios brazil-nuts macadamias mixed-nuts chestnuts sunflower-seeds pumpkin-seeds mixed-seeds dark-chocolate milk-chocolate white-chocolate chocolate-chips lardons chorizo salami parma-ham")},
	{160, 160, ids("white-rice brown-rice jasmine-rice wild-rice pudding-rice pasta spaghetti wholewheat-pasta gf-pasta lasagne-sheets orzo couscous bulgur quinoa freekeh millet red-lentils green-lentils puy-lentils split-peas " + driedPulses + " oats oatmeal gf-oats egg-noodles rice-noodles soba pearl-barley semolina polenta maize-meal gram-flour rice-flour instant-mash")},
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

// sweetInSavoury is how much of one a portion of a savoury dish holds at most, in grams.
const sweetInSavoury = 32

// savouries are what makes a dish savoury.
var savouries = ids("onion red-onion shallot leek garlic soy-sauce vegetable-stock chicken-stock beef-stock beef-mince lamb-mince chicken-breast chicken-thigh pork-shoulder salmon prawns raw-prawns tofu cumin-ground")

// savoury reports whether a dish is one of onions, garlic, stock, meat or fish.
func (c *checker) savoury() bool {
	return slices.ContainsFunc(c.Ingredients, func(i Ingredient) bool { return slices.Contains(savouries, i.Pantry) })
}

// manyPieces is from how many pieces on each is smaller than a portion.
const manyPieces = 6

// mostLarge is how many large ones a recipe makes at most; more of them are small.
const mostLarge = 3

var loaves = pattern.Must(`(?i)\b(?:loaf|cake|bread|plait|batch|traybake)\b`)

// large are dishes of which a piece is a bite rather than a portion.
var large = pattern.Must(`(?i)\b(?:loaf|cake|pie|tart|flan|quiche|pudding|plait|roulade|batch|pizza|jar|jug|bowl|tin|traybake|gateau|torte|tray|litre|bottle|terrine|ring|bread|joint|pot|chicken)\b`)

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
	if byLitre.MatchString(c.Piece) {
		shares *= 4 // stock, or a sauce, is served by the quarter
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
	dish  *pattern.Pattern // of the title; nil where any dish with it is of it
}

// helpings are typical of household cooking, and small: less is a misprint far
// more often than thrift.
var helpings = []helping{
	{18, ids("beef-mince lamb-mince pork-mince turkey-mince chicken-mince chicken-breast chicken-thigh turkey-breast stewing-beef beef-steak lamb-diced pork-shoulder pork-fillet venison cod-fillet white-fish salmon"), nil},
	{18, ids("white-rice brown-rice jasmine-rice wild-rice pudding-rice"), pattern.Must(`(?i)\b(?:rice|risotto|paella|pilau|pilaf|pulao|biryani|jollof|kedgeree)\b`)},
	{18, ids("pasta spaghetti wholewheat-pasta gf-pasta orzo egg-noodles rice-noodles"), pattern.Must(`(?i)\b(?:pasta|spaghetti|macaroni|penne|tagliatelle|linguine|fusilli|noodles|bolognese|carbonara|orzo)\b`)},
	{10, ids("red-lentils green-lentils puy-lentils split-peas " + driedPulses + " chickpeas kidney-beans black-beans butter-beans mixed-beans"), pattern.Must(`(?i)\b(?:lentils?|dal|dhal|daal|beans?|chickpeas?|chana|chilli)\b`)},
	{18, ids("potato new-potato sweet-potato cauliflower squash carrot mushroom aubergine"), pattern.Must(`(?i)\b(?:potato(?:es)?|cauliflower|squash|carrots?|mushrooms?|aubergines?)\b`)},
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
var light = pattern.Must(`(?i)\b(?:soup|broth|stuffed|minestrone|dumplings?|dip|sauce|bites|canap|cake|muffins?|bread|salad|relish|side|starter|koftas?|pizzas?|scones?|crisps)\b`)

// byMeasure are yields of so much rather than so many.
var byMeasure = pattern.Must(`(?i)^(?:ml|l|litres?|g|kg|cups?|pints?)$`)

var byLitre = pattern.Must(`(?i)^(?:l|litres?)$`)

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
			c.add(ingredientAt(n), "little "+i.Name, fmt.Sprintf("%s of %s is %.2g g for each %s: less than %.3g g is unusual.", i.Quantity, i.Name, grams[n]/float64(c.Yield), cmp.Or(c.Piece, "portion"), h.least/part), "Look for a misprint.", nil)
			break
		}
	}
	c.hardlySweet(grams)
}

// sweetDish are dishes that taste of their sugar.
var sweetDish = pattern.Must(`(?i)\b(?:cakes?|cupcakes?|muffins?|brownies|blondies|sponge|cookies|shortbread|fool|mousse|posset|trifle|jam|flapjacks?|gingerbread|parkin|meringues?|pavlova|sorbet|ice cream|lemon (?:bars|pots|drizzle)|crumble)\b`)

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
		c.add(ingredientAt(first), "sweet", fmt.Sprintf("%.3g g of sugar for each %s: less than %.2g g is unusual in a sweet dish.", sum/float64(c.Yield), cmp.Or(c.Piece, "portion"), least), "Look for a misprint.", nil)
	}
}

// ofTheJar are names of herbs and spices, of which a portion holds a spoon at
// most, in ml, whether or not the pantry knows them.
var ofTheJar = pattern.Must(`(?i)^(?:dried|ground)\b|\b(?:powder|seasoning|spice|spices)$`)

const mostOfJar = 12

// head is what a title is of: "Fresh pasta" of "Fresh pasta with tomato sauce".
func head(title string) string {
	for _, joint := range []string{" with ", " in ", " on ", " and "} {
		title, _, _ = strings.Cut(title, joint)
	}
	return title
}

// preserving makes much of sugar, salt and vinegar.
var preserving = pattern.Must(`(?i)\b(?:jam|marmalade|jelly|chutney|pickles?|pickled|piccalilli|curd|cordial|syrup|ketchup|sauce|stock|brine|brined|cured|gravlax|preserved?|butter|cheese|dressing|oil|paste|mix)\b`)

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
