package reading_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/reading"
)

// listed is the list as it was understood: "40 g butter" or "3 egg-medium".
func listed(r reading.Reading) []string {
	var out []string
	for _, i := range r.Ingredients {
		of := i.Taking.Ingredient.Pantry
		if of == "" {
			of = "? " + i.Taking.Ingredient.Name
		}
		amount := "-"
		if i.Taking.Reading.Given {
			amount = strings.TrimSpace(i.Taking.Ingredient.Quantity.Amount.Decimal(2) + " " + i.Taking.Ingredient.Quantity.Unit.Symbol)
		}
		out = append(out, amount+" "+of)
	}
	return out
}

// done is the method as it was understood: "bake 12 ring" for each step.
func done(r reading.Reading) []string {
	var out []string
	for _, s := range r.Steps {
		text := string(s.Kind)
		if s.Wait.Middle().Sign() > 0 {
			text += " waits " + s.Wait.Middle().Decimal(1)
		}
		for _, u := range s.Uses {
			text += " " + u.Equipment
		}
		out = append(out, text)
	}
	return out
}

// Things of a list in the forms in which people write them.
func TestForms(t *testing.T) {
	for line, want := range map[string]string{
		"1 tsp each cumin seeds, turmeric and ground coriander": "1 tsp cumin-seeds, 1 tsp turmeric, 1 tsp coriander-ground",
		"½ tsp each of salt and pepper":                         "0.5 tsp salt, 0.5 tsp pepper",
		"1 tsp coriander":                                       "1 tsp coriander-ground",
		"1 tsp chopped coriander":                               "1 tsp coriander-leaf",
		"2 tbsp coriander":                                      "2 tbsp coriander-leaf",
		"juice ½ lemon":                                         "0.5 lemon",
		"1 red + 1 yellow pepper":                               "1 pepper-red, 1 pepper-red",
		"1 pepper 1 onion both sliced":                          "1 pepper-red, 1 onion",
		"salt and pepper":                                       "- salt, - pepper",
		"s+p":                                                   "- salt, - pepper",
		"cooking apples  2 (about 400 g)":                       "2 cooking-apple",
		"salmon fillets 2 (150 g each)":                         "300 g salmon",
		"onion 1 medium":                                        "1 onion",
		"coriander to finish":                                   "- coriander-leaf",
		"Peas 50g frozen":                                       "50 g peas",
		"tin coconut milk":                                      "1 tin coconut-milk",
		"A mug of red lentils (about 200 g), washed till the water runs": "200 g red-lentils",
		"ginger - about an inch":     "- ginger-root",
		"Salt - 1/2 tsp":             "0.5 tsp salt",
		"Rice: 3 cups long grain":    "3 cup white-rice",
		"1 block halloumi → 8 cubes": "1 block halloumi",
		"✅ 2 carrots":                "2 carrot",
		"» 2 carrots":                "2 carrot",
		"2 carrots 🥕":                "2 carrot",
	} {
		r := read("Thing\nServes 4\n\n100 g plain flour\n" + line + "\n50 g butter\n\nMix all.")
		assert.Equal(t, "100 g plain-flour, "+want+", 50 g butter", strings.Join(listed(r), ", "), line)
	}
}

// A mug or a teacup is asked about, unless brackets say what is in it.
func TestMugs(t *testing.T) {
	for line, asks := range map[string]int{"2 mugs of rice": 1, "1 teacup rice": 1, "2 mugs of rice (about 400 g)": 0, "200 g rice": 0} {
		r := read("Thing\nServes 4\n\n100 g plain flour\n" + line + "\n50 g butter\n\nMix all.")
		assert.Len(t, r.Ingredients[1].Taking.Reading.Doubts, asks, line)
	}
}

// Lists and methods laid out side by side, with marks of all kinds.
func TestSideBySide(t *testing.T) {
	r := read("Wheels\nServes 4\nYou will need:      Equipment:\n150g SR flour       mixing bowl\n40g margarine  grater\n\nTime  What to do  Safety/hygiene\n9.05  Rub in the margarine  Wash hands\n9.10  Bake 12 mins at 200C  Oven gloves!\n")
	assert.Equal(t, []string{"150 g self-raising-flour", "40 g baking-spread"}, listed(r))
	assert.Equal(t, []string{"mix", "bake waits 12 oven"}, done(r))
	assert.Contains(t, r.Steps[0].Text, "Wash hands")
	assert.Equal(t, "Equipment: grater", r.Facts[1].Says)

	r = read("Slices\nIngredients (9 squares)           Class of 24 (x12)\nPlain flour         150 g        1.8 kg\nButter              125 g        1.5 kg\nRub in. Bake at 180C for 20 min.")
	assert.Equal(t, []string{"150 g plain-flour", "125 g butter"}, listed(r))
	assert.Equal(t, 9, r.Yield.Count)

	r = read("Burgers\nServes 2\nIngredients per pair        Cost\n1 can red kidney beans      35p\n50g breadcrumbs             10p\n\nMash all. Fry for 8 minutes.")
	assert.Equal(t, []string{"1 tin kidney-beans", "50 g breadcrumbs"}, listed(r))

	r = read("Samosas\nMakes 12\nIngredient / weight / prep\nPotato / 250 g / peeled, diced\nOil / 1 tbsp / -\nMethod of working\nBoil the potato 6 min.")
	assert.Equal(t, []string{"250 g potato", "1 tbsp sunflower-oil"}, listed(r))
	assert.Equal(t, "peeled, diced", r.Ingredients[0].Taking.Ingredient.Note)

	r = read("Pan bread\nServes 2\nStep | Notes | Mins\nMelt the butter | gently | 2\nFry the bread | both sides | 4")
	assert.Contains(t, r.Facts, reading.Fact{Line: 4, Says: "gently"}, "no cell is lost")

	r = read("Makes 4\nButter ........ 25 g\nPlain flour ........ 100 g\nRub in.")
	assert.Equal(t, []string{"25 g butter", "100 g plain-flour"}, listed(r), "dots that lead to an amount are no blank")

	r = read("Rolls\nMakes 8\n500g strong white flour\n300ml warm water\n\nMIX      water in\nKNEAD    10 min, until stretchy\nBAKE     220, 15 min")
	assert.Equal(t, []string{"mix", "mix", "bake waits 15 oven"}, done(r))

	r = read("Bread\nServes 4\no 3 ripe bananas\no 2 eggs\no 100 g butter\n\nMash all.")
	assert.Equal(t, []string{"3 banana", "2 egg-medium", "100 g butter"}, listed(r))
	assert.Equal(t, "- ? o 2 eggs", listed(read("Bread\nServes 4\n3 bananas\no 2 eggs\n100 g butter\n\nMash all."))[1], "once is no mark")
}

// A list in one line keeps its brackets and its parts, and one of pictures its names.
func TestListsInOneLine(t *testing.T) {
	for list, want := range map[string]string{
		"Ingredients: 6 lasagne sheets, 1 onion, 1 courgette; sauce - 40g butter, 500ml milk": "6 lasagne-sheets, 1 onion, 1 courgette, 40 g butter, 500 ml milk",
		"Wet: 420ml buttermilk (or milk + 1 tbsp lemon juice, stood 5 min)":                   "420 ml buttermilk",
		"I need: [potato] 2  [leek] 1  [milk] 50 ml":                                          "2 potato, 1 leek, 50 ml milk",
		"(each child) 4 strawberries · 4 grapes, halved · 1 kiwi":                             "4 strawberry, 4 grape, 1 kiwi",
		"Ingredients: 2 eggs and 100 g flour (sifted), 50 g butter":                           "2 egg-medium, 100 g plain-flour, 50 g butter",
		"Collect: macaroni 100 g; butter 25 g; milk 300 ml":                                   "100 g pasta, 25 g butter, 300 ml milk",
		"| | per learner |\n|---|---|\n| pitta | 1 |\n| tomato purée | 1 tbsp |":              "1 flatbread, 1 tbsp tomato-puree",
		"Amount|Unit|Ingredient|Prep\n2|tins|chickpeas|drained\n1|tsp|cumin|ground":           "2 tin chickpeas, 1 tsp cumin-ground",
		"So for a 20cm tin (12 bars): oats 250g, butter 125g, syrup 50g":                      "250 g oats, 125 g butter, 50 g golden-syrup",
		"Ingredients I need\n- 2 wraps\n- half a tin of black beans\n- 1 tomato":              "2 tortilla, 0.5 tin black-beans, 1 tomato",
	} {
		r := read("Thing\n" + list + "\n\nMix all. Stir well.")
		assert.Equal(t, want, strings.Join(listed(r), ", "), list)
	}
	steps := read("Falafel\nMakes 12\n400 g chickpeas\n1 onion\n\nStep|Instruction|Min\n1|Blitz the chickpeas|3\n2|Chill|10").Steps
	assert.Equal(t, []string{"mix", "chill waits 10 fridge"}, done(reading.Reading{Steps: steps}))
	assert.Equal(t, 12, read("Flapjack\nFor a 20cm tin (12 bars): oats 250g, butter 125g, syrup 50g\nMelt all.").Yield.Count)

	r := read("Pakoras\nServes 6\nStir half a teaspoon each of turmeric, chilli powder and salt into 150 g of gram flour. Fry until crisp and brown, and drain.")
	assert.Equal(t, []string{"0.5 tsp turmeric", "0.5 tsp chilli-powder", "0.5 tsp salt", "150 g gram-flour"}, listed(r))
	assert.Contains(t, r.Steps[len(r.Steps)-1].Text, "crisp and brown")
}

// A method that numbers its steps within a line, by roles, in letters and pictures.
func TestNumbering(t *testing.T) {
	list := "Sausage bake\nServes 4\n8 sausages\n100 g cheddar\n2 eggs\n150 ml milk\n\n"
	for _, method := range []string{
		"1.Heat the oven to 220C. 2.Bake the sausages for 15 mins. 3.Whisk the rest. 4.Pour it on.",
		"1/ Heat the oven to 220C.\n2/ Bake the sausages for 15 mins.\n3/ Whisk the rest.\n4/ Pour it on.",
		"(i) Heat the oven to 220C.\n(ii) Bake the sausages for 15 mins.\n(iii) Whisk the rest.\n(iv) Pour it on.",
		"1️⃣ Heat the oven to 220C.\n2️⃣ Bake the sausages for 15 mins.\n3️⃣ Whisk the rest.\n4️⃣ Pour it on.",
		"① Heat the oven to 220C.\n② Bake the sausages for 15 mins.\n③ Whisk the rest.\n④ Pour it on.",
		"Jobs:\nSam + Ola - heat the oven to 220C\nJay - bake the sausages for 15 mins\nEveryone - whisk the rest.\nJay - pour it on",
	} {
		r := read(list + method)
		assert.Len(t, r.Steps, 4, method)
		assert.Equal(t, "bake waits 15 oven", done(r)[1], method)
		assert.Empty(t, r.Unread, method)
	}
	assert.Equal(t, "Sam + Ola - whisk the rest", read(list + "Jobs:\nSam + Ola - whisk the rest\nJay - pour it on").Steps[0].Text, "in the source's own words")
}

// Minutes that no verb spends are a bake where the oven is hot and nothing else goes in;
// gloves for it are none.
func TestBakesThatNobodyNames(t *testing.T) {
	list := "Straws\nMakes 20\n100 g plain flour\n50 g butter\n\nHeat the oven to 190C.\nRub in the butter.\nLay on a tray.\n"
	for last, want := range map[string]string{
		"12 mins. Watch them!":                        "bake waits 12 oven",
		"4 mins.":                                     "prepare",
		"Knead for 12 mins.":                          "mix",
		"Oven gloves on!":                             "prepare",
		"Into the tin, 50 mins to 1 hr.":              "bake waits 55 oven",
		"Put it in for 15 mins.":                      "bake waits 15 oven",
		"Cook for 20 mins":                            "bake waits 20 oven",
		"Cook the onions for 20 mins":                 "cook waits 20 ring",
		"Hot grill 8-10 mins.":                        "cook waits 9 grill",
		"Paste in hot oil 2 min.":                     "cook ring",
		"Low 30 min.":                                 "cook waits 30 ring",
		"In the oven, 12 mins, then 10 mins to cool.": "cool waits 10",
	} {
		steps := read(list + last).Steps
		assert.Equal(t, want, done(reading.Reading{Steps: steps})[len(steps)-1], last)
		if guessed := slices.ContainsFunc(steps[len(steps)-1].Asks, func(a string) bool { return strings.Contains(a, "since nothing else is") }); last != "In the oven, 12 mins, then 10 mins to cool." {
			assert.Equal(t, strings.HasPrefix(want, "bake"), guessed, "%s: a guess is asked", last)
		}
	}
}

// What is only supposed goes with the recipe, to be looked at where it is written.
func TestWhatIsSupposedIsShown(t *testing.T) {
	made, notes := read("Fajitas (4)\n100 g plain flour\n\nHeat the oven to 190C.\nLay on a tray.\n12 mins. Watch them!").Recipe()
	want := []string{"“12 mins”: it is taken to be in the oven, since nothing else is.", "“Fajitas (4)”: the number in brackets is read as how many it serves: is that right?"}
	assert.Equal(t, want, made.Leftover)
	assert.Subset(t, notes, want)
	for text, want := range map[string]string{
		"Rolls\nServes 4\n300 g strong flour\n\nMix 3, knead 10, prove 20.":                                "“Mix 3 min”: the bare figures of “Mix 3, knead 10, prove 20.” are read as minutes: is that right?",
		"Squares\nServes 4\n100 g oats\n\nPress in a tin. 180 for 15.":                                     "“Press in a tin”: the bare figures of “Press in a tin. 180 for 15.” are read as minutes: is that right?",
		"Hash\nServes 4\n1 pepper\n2 eggs\n\nFry the eggs for 2 min.\nPepper 2 mins.":                      "“Pepper 2 mins”: it is taken to be in the pan that is hot, since nothing else is said.",
		"Hi Jo,\nhere's mine, it takes them just over the hour.\n\nBean pots\n\n100 g oats\nMix the oats.": "“Bean pots”: it is read as the title, since it stands over the list: is that right?",
	} {
		made, notes := read(text).Recipe()
		assert.Contains(t, made.Leftover, want)
		assert.Contains(t, notes, want)
	}
	need := read("Noodles\nServes 2\n100 g noodles\n\nBoil the noodles for 4 min.\nRemember Kai can't have sesame.")
	assert.Len(t, need.Steps, 1, "no step")
	assert.Equal(t, []reading.Unread{{Line: 6, Text: "Remember Kai can't have sesame.", Why: "it says what somebody can’t eat: that belongs in the class list, not in a recipe"}}, need.Unread)
	plain, _ := read("Fajitas\nServes 4\n100 g plain flour\n\nHeat the oven to 190C.\nBake for 12 mins.").Recipe()
	assert.Empty(t, plain.Leftover)
}

// Words that are verbs elsewhere.
func TestNoVerbs(t *testing.T) {
	list := "Bake\nServes 2\n100 g macaroni\n50 g cheddar\n\n"
	for step, want := range map[string]fit.Kind{
		"Mix, with the rest of the cheese on top.": fit.Mix,
		"Rest the dough for 10 minutes.":           fit.Rest,
		"Mash the lot, leaving some lumps.":        fit.Mix,
		"Leave the dough for 10 minutes.":          fit.Rest,
		"Tip into the pan, salt it.":               fit.Mix,
		"Salt the aubergines.":                     fit.Rest,
		"Sit the tin on a tray.":                   fit.Prepare,
		"Let it sit for 10 minutes.":               fit.Rest,
		"Check the core 75 °C.":                    fit.Prepare,
		"Core the apples.":                         fit.Cut,
	} {
		steps := read(list + "Boil the macaroni.\n" + step).Steps
		assert.Equal(t, want, steps[len(steps)-1].Kind, step)
	}
}

// What it is called, and how many it is for, in the forms of messages and sheets.
func TestTitlesAndYields(t *testing.T) {
	assert.Equal(t, "Herby rolls", read("Hi Tom, this is the one I mentioned for 8 Hazel\n\nHerby rolls\nMakes 8\n200 g flour\n2 eggs\nMix and bake for 20 minutes.").Title)
	list := "\n100 g plain flour\n50 g butter\n\nRub in the butter.\nBake at 190C for 12 mins."
	for head, want := range map[string]string{
		"Seeded bread - for our nurture group. One loaf, cuts into 10.": "Seeded bread, 10 piece",
		"Oven chips and dips. Y7, 50 min lesson, in 2s":                 "Oven chips and dips, 2 portion",
		"Task: make a batch of cheese straws.\nAbout 20 straws":         "Cheese straws, 20 straw",
		"FOOD TECH  Y9  Lesson 4\nBean burgers\nServes 2":               "Bean burgers, 2 portion",
		"Learner: ______  Date: ______\nTASK 7: MACARONI CHEESE":        "MACARONI CHEESE, 0 ",
		"Chicken fajitas (4)":                                         "Chicken fajitas, 4 portion",
		"LESSON 3 – KNIFE SKILLS\nFruit salad\nPer pupil":             "Fruit salad, 1 portion",
		"Naan\nPer group of 4 | 30 minutes":                           "Naan, 4 portion",
		"Jollof (6-8)":                                                "Jollof, 6 portion",
		"Recipe title|Falafel\nYield|12 falafel":                      "Falafel, 12 falafel",
		"Y8 • Rotation 2 • Practical 5\nCHEESE SCONES\nMakes 8":       "CHEESE SCONES, 8 piece",
		"Dal\nIt feeds 4 people in my family":                         "Dal, 4 portion",
		"Ratatouille (Batch: 30 portions)":                            "Ratatouille, 30 portion",
		"Potato dal\nFor 2 bowls":                                     "Potato dal, 2 portion",
		"Tiffin\nno bake ~ 16 squares ~ takes 20 mins":                "Tiffin, 16 square",
		"🥕 CARROT DAL 🥕\n👥 4   ⏱️ 40 min":                             "CARROT DAL, 4 portion",
		"Leek gratin (Y7, in pairs)":                                  "Leek gratin, 2 portion",
		"Pilzragout\nFür 2 Personen / serves two":                     "Pilzragout, 2 portion",
		"Leek gratin\nYou need (per pair):":                           "Leek gratin, 2 portion",
		"Tuna bake for 4 people":                                      "Tuna bake, 4 portion",
		"WEEK 6: Focaccia\nServes 2":                                  "Focaccia, 2 portion",
		"Dear all\nHere's the plan for the Bread Pudding (serves 3):": "Bread Pudding, 3 portion",
		"Green curry\nIngredients for one pair":                       "Green curry, 2 portion",
		"Rice salad\nWhat we need (each group of 3)":                  "Rice salad, 3 portion",
		"Food prep record – Task B\nDish: Ratatouille\nFor: 2":        "Ratatouille, 2 portion",
		"*Lemon drizzle traybake*\ncuts into 12":                      "Lemon drizzle traybake, 12 piece",
		"Dal\nFeeds a family of four":                                 "Dal, 4 portion",
		"Dal\n4 large or 8 small servings":                            "Dal, 4 portion",
		"Buns\n1 batch makes 20":                                      "Buns, 20 piece",
		"Dal\nPortions x 4":                                           "Dal, 4 portion",
		"Dal\nServings - 6":                                           "Dal, 6 portion",
		"Dal\nNumber of portions: 4":                                  "Dal, 4 portion",
		"Beans\nIngredients for 6 burgers":                            "Beans, 6 burger",
		"Buns\nThis will make you about 10":                           "Buns, 10 piece",
		"Oats\nMakes one large tray (20 pieces)":                      "Oats, 20 piece",
		"Dal\nOne portion":                                            "Dal, 1 portion",
		"Dal\nServes: 1 pupil":                                        "Dal, 1 portion",
		"Sausages, 6 residents":                                       "Sausages, 6 portion",
		"BREAD ROLLS x 6 per bench":                                   "BREAD ROLLS, 6 piece",
		"Oat squares\nServes\n4":                                      "Oat squares, 4 portion",
		"Beef ragu w/ rigatoni, feeds 4. About 1hr.":                  "Beef ragu w/ rigatoni, 4 portion",
		"SALMON PARCELS      [30 MINS]      [PER PERSON]":             "SALMON PARCELS, 1 portion",
		"Assessed dish 2 – Lemon cheesecake – 4 ramekins":             "Lemon cheesecake, 4 ramekin",
		"HOW TO MAKE: Banana muffins\nMakes 6 muffins":                "Banana muffins, 6 muffin",
		"Lesson: Fresh pasta\nPer person:":                            "Fresh pasta, 1 portion",
		"Cottage pie (group of 3)":                                    "Cottage pie, 3 portion",
		"Corn bake\nYield: one 8-inch pan / 9 servings per kitchen":   "Corn bake, 9 portion",
		"Vegetable lasagne - for a pair":                              "Vegetable lasagne, 2 portion",
		"Home » Mains » Bean stew\nServes 2":                          "Bean stew, 2 portion",
		"Ingredients for the topping":                                 ", 0 ",
		"Ingredients for leek gratin (2 people)":                      "Leek gratin, 2 portion",
		"Week 1: Naan\nWeek 2: Dal\nWEEK 2: DAL":                      "DAL, 0 ",
		"Leek gratin - y9 wk4\nServes 2":                              "Leek gratin, 2 portion",
	} {
		r := read(head + list)
		assert.Equal(t, want, fmt.Sprintf("%s, %d %s", r.Title, r.Yield.Count, r.Yield.Piece), head)
	}
	assert.Contains(t, fmt.Sprint(read("Chicken fajitas (4)"+list).Unread), "is that right?", "it may be the fourth of its kind")
	assert.Contains(t, fmt.Sprint(read("Leek gratin (in pairs)"+list).Unread), "is that right?", "two may cook for four")
	assert.Equal(t, 4, read("Leek gratin (in pairs)\nServes 4"+list).Yield.Count)
	assert.Equal(t, 4, read("Leek gratin\n(Learners work in 2s.)\nServes 4"+list).Yield.Count, "what is said goes before what is supposed")
	assert.Equal(t, "Guacamole", read(strings.TrimSpace(list)+"\n\nTitle: Guacamole").Title)
	kept := read("Sauce\nServes 6" + list + " Keeps 1 week in the fridge.")
	assert.Equal(t, "bake waits 12 oven", done(kept)[len(kept.Steps)-1])
	assert.Equal(t, "Keeps 1 week in the fridge.", kept.Facts[0].Says)
	assert.Equal(t, "chill waits 60 freezer", done(read("Bark\nServes 6" + list + " Freeze for 1 hour."))[2])

	r := read("From: S. Whit\nSubject: Monday\n\nHi, the recipe I promised. It does 8 and they work in twos.\nYou want 225g self raising flour, 55g butter, 150ml milk. Oven up to 220 first. Rub in the butter. 12 minutes on the top shelf.\nCheers\nSue")
	assert.Equal(t, 8, r.Yield.Count)
	assert.Equal(t, "bake waits 12 oven", done(r)[len(r.Steps)-1])
	assert.Len(t, r.Ingredients, 3)

	r = read("Dear parents,\nOn Friday we are making wraps. Your child will need to bring: 2 tortilla wraps, half a pepper and 30g of grated cheese.\nIn class we will fill and roll the wraps.")
	assert.Equal(t, []string{"2 tortilla", "0.5 pepper-red", "30 g cheddar"}, listed(r))
}

// Texts as other people lay them out, each with what was once misread in it.
func TestLayoutsOfOthers(t *testing.T) {
	r := read("They each need 100 g marg, 75 g sugar and 200 g oats.\n\nOvens on at 180. Grease the tins. Melt the marg and sugar - don't let it boil. Stir in the oats, press into the tin. 20 mins, should be golden. Mark into 8 while warm.")
	assert.Equal(t, []string{"100 g baking-spread", "75 g granulated-sugar", "200 g oats"}, listed(r))
	assert.Equal(t, []string{"prepare", "cook ring", "shape", "bake waits 20 oven"}, done(r))

	r = read("Rolls, 2 lessons\n\nLesson 1 (Tuesday)\n500g strong flour, 7g yeast, 320 ml water\nKnead 10 min, oiled bag, fridge overnight.\n\nLesson 2 (Thursday)\nShape into 8 rolls, prove 25 min. Bake 220C 15 min.")
	assert.Equal(t, []string{"mix", "chill waits 720 fridge", "rest waits 25", "bake waits 15 oven"}, done(r))

	r = read("Risotto\nServes 2\n\n150 g risotto rice\n700 ml stock\n1 tbsp oil\n\nMushrooms in hot oil till brown — 5 mins.\nRice in. 1 min until the edges look glassy.\nStock, a ladle at a time. Takes around 18 mins.")
	assert.Equal(t, []string{"cook ring", "cook ring", "cook waits 18 ring"}, done(r))

	r = read("100 g flour\n40 g butter\n\n**Shortbread — serves 2**\n\nStep | Instruction | Time\n1 | Rub the butter into the flour | 8\n2 | Press it into a tin | 4\n3 | Oven at 180 °C: bake | 15")
	assert.Equal(t, "Shortbread", r.Title)
	assert.Equal(t, "bake waits 15 oven", done(r)[2], "minutes stand in a column of bare figures")

	r = read("Focaccia\nServes 2\n\nFlour – 250g\nYeast – 1 sachet\nOlive oil – 2tbsp\n\n• Flour, yeast & salt in bowl. Make a well, pour in oil. Bring together.\n• Knead for 8 mins.")
	assert.Len(t, r.Ingredients, 3)
	assert.Equal(t, []string{"mix", "mix"}, done(r), "sentences that order are no food")

	r = read("Lasagne (2 portions)\nComponent 1 - Ragu: 1 onion, 1 carrot, 400 g chopped tomatoes\nComponent 2 - Assembly: 6 lasagne sheets, 50 g cheddar\n\n0–10 prepare the vegetables\n10–25 sweat onion and carrot, simmer\n15–25 make the sauce, whisking\n25–50 bake, 190 °C")
	assert.Len(t, r.Ingredients, 5)
	assert.Len(t, r.Steps, 4, "two stretches go on at once")

	r = read("Koftas\n200g lamb mince | 1/4 onion grated | 1 tsp cumin\n2 flatbreads\n\nA) Koftas: squish everything together.\nB) Grill them 10 mins.\nC) Warm flatbreads 30 secs in microwave.")
	assert.Len(t, r.Steps, 4, "letters number them")
	assert.Empty(t, r.Unread)

	r = read("Scones\n\n225g SR flour / 50g butter / 125ml milk\n\n5 min  oven on 220, tray greased\n10 min rub in\n7 min  pat out, cut, onto tray, glaze\n12 min bake\n10 min wash up while baking")
	assert.Contains(t, done(r), "bake waits 12 oven", "minutes stand before what they are spent on")

	r = read("Sponge\n\nIngredient\tAmount\tUnit\nCaster sugar\t100\tg\nEggs\t2\tmedium\nBaking powder\t0.5\ttsp\n\nOrder of work\tMinutes\tHazard\nLine two tins, oven 180 °C\t5\thot oven\nFold in the baking powder\t2\t\nBake\t18\thot oven")
	assert.Equal(t, []string{"shape", "mix", "bake waits 18 oven"}, done(r), "a table below another, of which hazards are no steps")
	assert.Len(t, r.Facts, 2)

	r = read("Frittata\nServes 3\n\n6 eggs\n1 onion\n\nFry the onion 4 mins. Eggs over the top, low heat, 6 mins, edges should set.\nChill the salad: it must be cooled inside 1 hr.\nNutrition: 180 kcal each")
	assert.Equal(t, "cook ring", done(r)[1], "what should set is not chilled")
	assert.Equal(t, "60", r.Steps[2].After[0].MaxGap.Decimal(0))
	assert.Len(t, r.Steps, 3)

	r = read("Pasta salad\nServes 2\nIngredients (bring from home)\n150g pasta\n6 cherry tomatoes\n\nMethod\n1. Bring a pan of water to the boil. (5)\n2. Pasta in, 10-11 mins. (11)\n3. Quarter the tomatoes. (8)\n4. Drain, mix. (2)")
	assert.Equal(t, []string{"cook waits 5 ring", "cook waits 10.5 ring", "cut", "mix"}, done(r), "figures behind steps are minutes")
	assert.Equal(t, "8", r.Steps[2].Work.Middle().Decimal(1))

	r = read("Welsh cakes\nServes 8\n\nself-raising flour, 225g. butter, 110g. caster sugar, 85g. currants, 50g. 1 egg.\n\nRub the butter into the flour. Baking parchment is not needed. Dust with sugar.")
	assert.Equal(t, []string{"225 g self-raising-flour", "110 g butter", "85 g caster-sugar", "50 g currants", "1 egg-medium"}, listed(r), "no amount goes to its neighbour")

	r = read("Ragu\nServes 4\n\n500g mince\n1 sweet potato (~200 g), peeled, 1 cm dice\n320g rigatoni\n\n1.1 Brown the mince for 8 mins. Out onto a plate.\n1.2 Splash of oil, then the veg, 8 mins till soft.\n1.3 Bubble 30 mins, lid on, stir now and again. Careful – steam!")
	assert.Len(t, r.Ingredients, 3)
	assert.Equal(t, []string{"cut", "cook ring", "cook ring", "cook waits 30 ring"}, done(r))

	r = read("Fish cakes\nServes 4\n\n400 g potatoes\n200 g cod\n\n1. Wash your hands for 1 minute.\n2. Boil the potatoes for 15 minutes. Drain them.\n3. While that's going on: poach the cod in water for 6 minutes.\n4. Mash it together.")
	after := func(n int) (out []int) {
		for _, a := range r.Steps[n].After {
			out = append(out, a.Step)
		}
		return out
	}
	assert.Equal(t, []string{"prepare", "cook waits 15 ring", "prepare", "cook waits 6 ring", "mix"}, done(r))
	assert.Equal(t, []int{0}, after(3), "beside what boils, and not behind the draining")
	assert.ElementsMatch(t, []int{1, 2, 3}, after(4))

	r = read("Buns\nServes 2\n\n100g pork mince\n1 spring onion\n\n5 min: oven on 190, tray greased\n10 min: chop the spring onion, wash up the knife\n6 min: fry mince till no pink\n12 min: bake\n7 min: clear")
	var minutes []string
	for _, s := range r.Steps {
		minutes = append(minutes, s.Work.Middle().Decimal(1))
	}
	assert.Equal(t, []string{"5", "10", "6", "1", "7"}, minutes, "the minutes of a plan are of all that its line says")

	r = read("Soy noodles\n(Learners work in 2s. 60 min lesson, 45 min cooking.)\n\nWeigh out:\n1 nest noodles, 1 carrot, 50 g mangetout\nwraps        2 ea\nlettuce, tomato        to serve\n\nDo:\n- Slice all veg.\n- HOT wok! oil, garlic 30 secs.\n- Hard veg 2 mins. Keep it moving.\n- Noodles, 2 mins.")
	assert.Equal(t, 2, r.Yield.Count)
	assert.Equal(t, []string{"cut", "cook ring", "cook ring", "cook waits 2 ring"}, done(r), "how long the lesson is is nothing to do")
	assert.Equal(t, []string{"1 piece egg-noodles", "1 carrot", "50 g mangetout", "2 tortilla", "- lettuce", "- tomato"}, listed(r))

	r = read("Shortbread tails: 150g plain flour. 100g butter. 50g caster sugar + a bit more for the top. Oven at 160 (fan 140). Rub in, press into a tin, mark 8 wedges. Bake for 35 mins till pale gold.")
	assert.Equal(t, "Shortbread tails", r.Title)
	assert.Len(t, r.Ingredients, 3)
	assert.Equal(t, "160", r.Steps[len(r.Steps)-1].Uses[0].Celsius.Decimal(0), "eight wedges are no gas mark")

	r = read("Drop scones (thin) makes about 8\n\n100g plain flour\n2 eggs\n300ml milk\nTo serve: soured cream, lemon\n\n1. Set a frying pan over a medium heat and wipe with oiled kitchen paper.\n2. Cook the drop scones for 1 min on each side, keeping them warm in a low oven as you go.\n3. Scoop out onto a plate.")
	assert.Equal(t, 8, r.Yield.Count)
	assert.Equal(t, []string{"cook ring", "cook ring", "prepare"}, done(r), "no pan is set in a fridge, and no drop scone is baked")
	assert.Len(t, r.Ingredients, 5)

	r = read("Pasties – makes 4\nPastry: 200g plain flour, 50g lard, 50g marg\nFilling: 2 potatoes, 120g cheddar, black pepper, beaten egg to glaze\nOven 200C/180 fan/gas 6, 30 mins\n- Rub the fat into the flour\n- Fill, fold over and crimp\n- Glaze, bake till golden")
	assert.Contains(t, listed(r), "- egg-medium")
	assert.Equal(t, "bake waits 30 oven", done(r)[len(r.Steps)-1], "the minutes beside the heat are the bake’s")

	r = read("Muesli\nPer student: 50g oats, 100ml milk, sprinkling of cinnamon\nLesson: mix everything in a tub. Grate the apple.\nToast the seeds in a saucepan for 1 minute. Whizz (or leave chunky).")
	assert.Equal(t, []string{"mix", "cut", "cook ring", "mix"}, done(r))

	r = read("Choux buns\nIngredients for 2:\n60 g butter\n75 g plain flour\n2 eggs\nGlaze: 1 tbsp golden syrup\nMethod\n1 Preheat oven 200 °C.\n2 Butter in a pan, bring to boil.\n3 Pipe 10 heaps.\n4 25 minutes — do not open the door!\n5 Pierce each one, back in for 3 minutes to dry.\n6 Boil 15–20 until soft.\n(or take home uncooked: 25 mins at home)")
	assert.Equal(t, 2, r.Yield.Count)
	assert.Contains(t, listed(r), "1 tbsp golden-syrup")
	assert.Equal(t, []string{"prepare", "cook waits 4 ring", "shape", "bake waits 25 oven", "bake waits 3 oven", "cook waits 17.5 ring"}, done(r))

	r = read("Pasta bake | serves 2\n\nWhat you need | How much\nPasta | 150 g\nPassata | 250 g\n\nJob list | Estimate | Sign\nBoil the pasta | 9 min | nearly soft\nAdd passata, simmer | 8 min | thick\nGrill | 5 min | golden and bubbling")
	assert.Equal(t, []string{"cook waits 9 ring", "cook waits 8 ring", "cook waits 5 grill"}, done(r)[len(r.Steps)-3:], "minutes of a table whose headings nobody knows")

	r = read("Sponge\nServes 8\n\n2 eggs\n200g lamb or beef mince\n\nOven 180. Everything in a bowl.\nHalf in each tin, level.\n20–25 mins. Springs back when it's done.\n5 mins in tins, turn out.")
	assert.Equal(t, "200 g lamb-mince", listed(r)[1])
	assert.Contains(t, done(r), "bake waits 22.5 oven")
	assert.Contains(t, done(r), "rest waits 5")

	r = read("Fish cakes\nServes 2\nAllergens: fish, egg\n\n• 250g cod fillet\n• 1 small egg\n• oil for frying\n\n1. Cut the fish.\n2. Fry for 3 minutes.")
	assert.Len(t, r.Ingredients, 3, "a list below a line of facts is a list")

	r = read("8B Food – Pizza wheels\n[ ] 320g puff pastry\n[ ] 75 g grated cheese\n\nMethod (tick each one as you go)\n[ ] Oven 200.\n[ ] Roll up. Leave 2cm clear on one long side.\n[ ] Cool quickly, 90 mins max.")
	assert.Equal(t, "Pizza wheels", r.Title)
	assert.Len(t, r.Ingredients, 2)
	assert.Equal(t, []string{"prepare", "shape", "cool waits 10"}, done(r), "90 minutes are the most, and two centimetres no rest")

	r = read("LESSON PLAN 4 – PASTA FROM SCRATCH\nTimings: 0-10 demo; 10-20 dough; 20-35 rest dough; 35-50 roll and cut\nPasta: 100g 00 flour, 1 egg\nDough - knead 8 min.")
	assert.Equal(t, "PASTA FROM SCRATCH", r.Title)
	assert.Len(t, r.Ingredients, 2, "stretches of a lesson are no rolls")

	r = read("Marmorkuchen\n125 g Zucker\n2 Eier\n200 g Mehl\n75 ml Milch\n\nEier unterrühren. Bei 175 °C 45 Minuten backen.")
	assert.Equal(t, []string{"125 g granulated-sugar", "2 egg-medium", "200 g plain-flour", "75 ml milk"}, listed(r))

	r = read("Pupil sheet: Crumble pots\nYou will need: 1 eating apple, 1 tbsp sugar\nCrumble: 40g flour, 20g butter, 1 tbsp oats\nsalt, nutmeg\n\n☐ 1. Oven on 190\n☐ 2. Rub in flour and butter\n☐ 3. Bake 15 min on a second tray")
	assert.Equal(t, "Crumble pots", r.Title)
	assert.Equal(t, []string{"1 apple", "1 tbsp granulated-sugar", "40 g plain-flour", "20 g butter", "1 tbsp oats", "- salt", "- nutmeg"}, listed(r))
	assert.Equal(t, []string{"prepare", "mix", "bake waits 15 oven"}, done(r), "boxes stand before numbers, and a second tray is no second")

	r = read("Skewers\nServes 2\n\n1 chicken breast\ncoriander small handful\n\ntime     what                check\n0-5      weigh everything    all there?\n5-15     coat the chicken    even\n\nOven 200. Skewers in for last 18 mins.")
	assert.Equal(t, []string{"5", "10"}, []string{r.Steps[0].Work.Middle().Decimal(0), r.Steps[1].Work.Middle().Decimal(0)}, "stretches are minutes")
	assert.Equal(t, "bake waits 18 oven", done(r)[len(r.Steps)-1])

	r = read("Griddle cakes | 8 cakes | 25 min | easy\nFlour | 60 g\nMilk | 50 ml\n\nMix.")
	assert.Empty(t, r.Parts, "how hard it is is no part of it")

	r = read("Hi all, cover for Thursday is scones. Recipe: 200g SR flour, 40g marg, 125ml milk. Makes 6. Get them to rub in the marg. Bake at 200 for 12 min. Any probs ring me. D")
	assert.Equal(t, []string{"200 g self-raising-flour", "40 g baking-spread", "125 ml milk"}, listed(r))
	assert.Equal(t, 6, r.Yield.Count)
}

// Whatever is written otherwise before it is read, lines keep their places.
func TestLinesKeepTheirPlaces(t *testing.T) {
	for _, above := range []string{"Slide 2:", "1st prove:", "Oven:", "**", "}", "approx.", "5 oz.", "- • -", "First rise -"} {
		r := read("Buns\n" + above + "\n\n200 g flour\nMix and bake for 20 minutes at 180 °C.")
		require.NotEmpty(t, r.Ingredients, above)
		assert.Equal(t, 4, r.Ingredients[0].Line, above)
	}
}
