package class

import "strings"

// meanings are what words and phrases of class lists mean, in the singular. The
// allergens are those of Regulation (EU) No 1169/2011, Annex II; names of foods
// lead to the one that they belong to.
var meanings = func() map[string][]string {
	out := map[string][]string{}
	add := func(list string, needs ...string) {
		for phrase := range strings.SplitSeq(list, ",") {
			var words []string
			for _, w := range strings.Fields(phrase) {
				words = append(words, single(fold(w)))
			}
			out[strings.Join(words, " ")] = append([]string{}, needs...)
		}
	}
	for _, f := range strings.Split(plainFoods, ",") {
		f = strings.TrimSpace(f)
		add(f, "food:"+strings.ReplaceAll(f, " ", "-"))
	}
	for need, foods := range foodsOf {
		for _, f := range strings.Split(foods, ",") {
			f = strings.TrimSpace(f)
			add(f, need, "food:"+strings.ReplaceAll(f, " ", "-"))
		}
	}
	for _, words := range []map[string]string{wordsOf, wordsAbroad} {
		for need, list := range words {
			add(list, need)
		}
	}
	add("nut, all nut, any nut, nut all, mixed nut, nut of any kind, nuts", "nuts", "peanuts")
	add("noix, nüsse, nueces, frutos secos, fruits secs", "nuts", "peanuts")
	add("shellfish, shell fish, mariscos, fruits de mer, meeresfrüchte", "crustaceans", "molluscs")
	add("seafood, sea food", "crustaceans", "molluscs", "fish")
	add("dried fruit", "food:dried-fruit")
	add("kiwi fruit, kiwifruit", "food:kiwi")
	add("gelatin, gelatines", "food:gelatine")
	add("eggplant", "food:aubergine")
	add("zucchini", "food:courgette")
	add("capsicum", "food:bell-pepper")
	add("cilantro", "food:coriander")
	add("cornflour, corn flour, corn starch, cornstarch, maize starch", "food:maize")
	add("allium, onion family", "food:onion", "food:garlic", "food:leek")
	add("nightshade", "food:tomato", "food:potato", "food:aubergine", "food:bell-pepper", "food:chilli")
	add("chick pea, garbanzo, garbanzo bean", "food:chickpea")
	add("chili, chilies, chile", "food:chilli")
	add("citru fruit, citrus fruit", "food:citrus")
	add("insulin pump", "diabetes", "medicine")
	add("religious reason, religious ground") // why, and not what
	add("lacto ovo vegetarian, ovo lacto vegetarian, lacto vegetarian", "vegetarian")
	return out
}()

// wordsOf are the words for each need.
var wordsOf = map[string]string{
	"gluten":      "gluten, coeliac, celiac, coeliac disease, celiac disease, coeliacs, coealic, coelic, wheat, wheat flour, barley, rye, oat, spelt, semolina, couscous, bulgur, bulgar wheat, gluten free, wheat free, glutenfree, wheatfree, gf, durum, kamut, malt, barley malt, malt vinegar, seitan, glutin",
	"crustaceans": "crustacean, crustacea",
	"eggs":        "egg, egg white, egg yolk, hens egg, hen egg, egg free, eggfree, whole egg, ova, albumen, egg protein, mayonnaise",
	"fish":        "fish, white fish, oily fish, finned fish, fin fish, fish free, bony fish",
	"peanuts":     "peanut, pea nut, groundnut, ground nut, monkey nut, arachis, peanut butter, peanut free",
	"soybeans":    "soy, soya, soybean, soya bean, soy bean, tofu, edamame, soya milk, soy milk, soy sauce, soya free, soy free, soja, miso, tempeh",
	"milk": "milk, cow milk, cows milk, cow milk protein, cows milk protein, milk protein, cmpa, cmpi, cma, cmp, lactose, lactose intolerant, lactose intolerance, dairy, dairy free, dairyfree, milk free, milkfree, lactose free, lactosefree, non dairy, casein, whey, " +
		"milk product, dairy product, butter, cream, cheese, yoghurt, yogurt, ice cream, df, lf, cow dairy, goat milk, sheep milk, buttermilk, ghee, cow milk allergy, cow milk protein allergy",
	"nuts":         "tree nut, treenut, nut tree, marzipan, praline, nutella",
	"celery":       "celery, celeriac, celery salt, celery seed",
	"mustard":      "mustard, mustard seed, mustard powder, dijon",
	"sesame":       "sesame, sesame seed, tahini, sesame oil, halva, sesame free, gomasio, benne seed",
	"sulphites":    "sulphite, sulfite, sulphur dioxide, sulfur dioxide, so2, metabisulphite, sodium metabisulphite, e220, sulphate dioxide, sulphur",
	"lupin":        "lupin, lupine, lupin flour, lupin seed",
	"molluscs":     "mollusc, mollusk",
	"vegetarian":   "vegetarian, veggie, veggi, vegi, veg, veget, vege, vegetarian diet, veggy, meat free, no meat, doesnt eat meat, does not eat meat, dont eat meat",
	"vegan":        "vegan, plant based, plant based diet, strict vegan",
	"pescatarian":  "pescatarian, pescetarian, pesco vegetarian, pescitarian",
	"halal":        "halal, halal meat, hallal, halaal, halel",
	"kosher":       "kosher, cosher",
	"no-pork":      "no pork, pork free, doesnt eat pork, does not eat pork, no pork product, no ham, no bacon, non pork, no pig, no pork or ham",
	"no-beef":      "no beef, beef free, doesnt eat beef, does not eat beef, non beef",
	"diabetes":     "diabetes, diabetic, type 1 diabete, type 1 diabetic, type 2 diabetic, type one diabetic, t1d, t1, type 1, type one, type 2 diabete, insulin dependent, type i diabetic",
	"asthma":       "asthma, asthmatic, inhaler, blue inhaler, ventolin, wheeze",
	"epilepsy":     "epilepsy, epileptic, seizure, fit, absence seizure",
	"low-vision":   "low vision, visually impaired, partially sighted, visual impairment, vi, poor eyesight, poor sight, registered blind, blind, sight impaired, large print, poor vision, limited vision, sight loss",
	"hearing":      "hearing impaired, hearing impairment, deaf, hearing aid, hard of hearing, hearing loss, cochlear implant, partially deaf, lip read, hearing",
	"mobility":     "wheelchair, wheelchair user, us a wheelchair, uses a wheelchair, mobility, crutch, walking frame, walker, walking stick, wheel chair, reduced mobility, cerebral palsy",
	"one-hand":     "one hand, one handed, one arm, single handed, hemiplegia, arm in a sling, arm in sling, left hand only, right hand only, broken arm, broken wrist, fractured arm, fractured wrist, arm in plaster, wrist in plaster, hand in plaster, arm in a cast, arm in cast, wrist in a cast, plaster cast, sling, limb difference",
	"reads-little": "read little, reads little, dyslexia, dyslexic, reading difficulty, poor reader, struggle with reading, weak reader, low reading age, cant read, cannot read, reading age, literacy",
	"tires":        "tire easily, tires easily, fatigue, chronic fatigue, tire quickly, cfs, gets tired, easily tired, tired easily, low stamina",
	"medicine":     "medication, medicine, insulin, takes medication, on medication, needs medicine, warfarin, tablet",
	"skin":         "eczema, dermatitis, skin condition, sensitive skin, psoriasis, contact dermatitis, skin allergy, exzema",
}

// wordsAbroad are the names of the same in the French, German and Spanish texts of that
// regulation, and those of diets and intolerances in the same languages.
var wordsAbroad = map[string]string{
	"gluten":      "froment, blé, seigle, orge, avoine, weizen, roggen, gerste, hafer, dinkel, trigo, centeno, cebada, avena, espelta, sans gluten, glutenfrei, sin gluten, zöliakie, coeliaque, maladie coeliaque, celíaco, celíaca, celiaquía",
	"crustaceans": "crustacés, krebstiere, crustáceos, crevettes, garnelen, gambas",
	"eggs":        "oeuf, ei, eier, huevo, sans oeuf, sin huevo",
	"fish":        "poisson, fisch, pescado",
	"peanuts":     "arachide, cacahuète, erdnuss, erdnüsse, erdnuß, cacahuete",
	"soybeans":    "sojabohne",
	"milk":        "lait, milch, leche, produits laitiers, lácteos, laktose, lactosa, laktoseintoleranz, laktoseintolerant, laktosefrei, sans lactose, sin lactosa, intolérance au lactose, intolerante a la lactosa",
	"nuts":        "fruits à coque, schalenfrüchte, frutos de cáscara",
	"celery":      "céleri, sellerie, apio",
	"mustard":     "moutarde, senf, mostaza",
	"sesame":      "sésame, sesam, sésamo",
	"sulphites":   "sulfit, sulfito",
	"lupin":       "lupine, altramuces",
	"molluscs":    "mollusques, weichtiere, moluscos",
	"vegetarian":  "végétarien, végétarienne, vegetarisch, vegetarier, vegetarierin, vegetariano, vegetariana",
	"vegan":       "végane, végétalien, végétalienne, veganer, veganerin, vegano, vegana",
	"no-pork":     "sans porc, ohne schwein, kein schwein, kein schweinefleisch, sin cerdo",
}

// foodsOf are foods that belong to an allergen; they are named beside it.
var foodsOf = map[string]string{
	"nuts":        "almond, hazelnut, walnut, cashew, pecan, brazil nut, pistachio, macadamia, cashew nut, pecan nut, pistachio nut, macadamia nut, hazel nut, queensland nut",
	"crustaceans": "prawn, shrimp, crab, lobster, crayfish, langoustine, scampi, krill",
	"molluscs":    "mussel, oyster, clam, squid, octopus, scallop, cockle, whelk, snail, cuttlefish, calamari, winkle, abalone",
	"fish":        "salmon, tuna, cod, haddock, mackerel, anchovy, sardine, trout, plaice, herring, kipper, hake, pollock, sea bass, bass, halibut",
}

// plainFoods are foods that belong to none of the fourteen allergens, some of
// which sound as if they did.
const plainFoods = "strawberry, kiwi, banana, tomato, apple, orange, citrus, lemon, lime, peach, nectarine, apricot, pineapple, mango, avocado, melon, watermelon, grape, cherry, raspberry, blackberry, " +
	"blueberry, cranberry, pear, plum, fig, date, papaya, passion fruit, pomegranate, grapefruit, lychee, rhubarb, onion, garlic, leek, mushroom, pepper, bell pepper, red pepper, chilli, potato, sweet potato, carrot, " +
	"parsnip, beetroot, turnip, pea, lentil, chickpea, bean, kidney bean, green bean, broad bean, baked bean, sweetcorn, corn, maize, rice, quinoa, buckwheat, chicken, beef, pork, lamb, turkey, duck, ham, bacon, sausage, gelatine, " +
	"cinnamon, honey, chocolate, cocoa, coconut, nutmeg, butternut, butternut squash, squash, pumpkin, courgette, aubergine, spinach, lettuce, cucumber, broccoli, cabbage, cauliflower, kale, radish, asparagus, olive, " +
	"ginger, turmeric, paprika, cumin, coriander, basil, parsley, mint, oregano, vanilla, yeast, poppy seed, sunflower seed, sunflower, pumpkin seed, linseed, flaxseed, chia seed, oyster mushroom, oyster sauce, chestnut, water chestnut, " +
	"tiger nut, shea nut, legume, pulse, seed, caffeine, coffee, vinegar, sugar, salt, marmite, fruit, berry, stone fruit, red meat, offal, liver, veal, venison, rabbit, goat, alcohol, jelly, marshmallow, artificial sweetener, sweetener, aspartame, food colouring, " +
	"additive, msg, tartrazine, spice, spicy food, fizzy drink, raw fruit, jackfruit, guava, okra, coconut milk, rapeseed, cottonseed, celery leaf"

// doubtful are words that could mean several things: they are asked.
var doubtful = func() map[string]bool {
	out := map[string]bool{}
	for w := range strings.SplitSeq("pine nut, pine kernel, pinenut, muslim, islam, islamic, jewish, jew, hindu, sikh, jain, buddhist, catholic, christian, rastafarian, adventist, religious, religion, faith, latex, pollen, hay fever, hayfever, bee sting, "+
		"bee, wasp, dust, cat, penicillin, plaster, elastoplast, nickel, fodmap, keto, ketogenic, low salt, low sugar, low fat, sugar free, ibs, blood sugar, low blood sugar, crohn, crohn disease, pku, fussy eater, fussy, picky eater, food phobia, dysphagia, soft diet, autism, adhd, allergy test", ",") {
		var words []string
		for _, p := range strings.Fields(w) {
			words = append(words, single(p))
		}
		out[strings.Join(words, " ")] = true
	}
	return out
}()

func set(list string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(list) {
		out[single(w)] = true
	}
	return out
}

// fillers are words that name no need by themselves: how severe it is, what
// is carried for it, and what stands round it.
var fillers = set(`a an the to of is are has have having he she they him her his their child pupil student learner boy girl and or with in on at for from any all very
	severe severely mild mildly slightly slight moderate serious high extreme life threatening allergy allergic allergen alergy alergic allergi intolerant intolerance sensitivity sensitive reaction reacts react intol
	anaphylaxis anaphylactic anaphalaxis shock carries carry epipen auto injector adrenaline pen jext emerade autoinjector school office bag piriton antihistamine antihistamines
	diet dietary requirement requirements need needs food foods product products item items only strict strictly must avoid avoids avoiding cannot cant can't can eat eats does doesnt doesn't do dont don't not no
	free contain contains containing trace traces contact airborne ingestion eaten ingested also plus known confirmed diagnosed meat medical condition please note both disease user uses use including include incl
	if when by i ie eg be this that it its some other per without religious reason reasons due because family type wear wears wearing we know aware am i bring brings bringing out rash hives anything declared disclosed reported intollerant intolerent intolerence allergys`)
