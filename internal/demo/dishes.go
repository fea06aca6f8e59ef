package demo

import (
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// Dishes returns the dishes of the demonstration school, written out in full.
func Dishes() []recipe.Recipe {
	return []recipe.Recipe{herbScones(), leekTartlets(), lentilDal()}
}

func minutes(s string) exact.Number { return exact.MustParse(s) }

func within(s string) *exact.Number {
	n := minutes(s)
	return &n
}

// oven holds one shelf at a conventional temperature for the baking itself.
func oven(celsius int64) []fit.Use {
	t := exact.Int(celsius)
	return []fit.Use{{Equipment: "oven", Places: 1, Temperature: &t, During: fit.WaitPart}}
}

func ring(during fit.Part) []fit.Use {
	return []fit.Use{{Equipment: "ring", Places: 1, During: during}}
}

func after(steps ...string) []fit.After {
	out := make([]fit.After, len(steps))
	for i, s := range steps {
		out[i] = fit.After{Step: s}
	}
	return out
}

func line(amount string, unit measure.Unit, id, part, note string, law recipe.Law) recipe.Ingredient {
	return recipe.Ingredient{Quantity: measure.Q(amount, unit), Pantry: id, Part: part, Note: note, Law: law}
}

func herbScones() recipe.Recipe {
	const dough, top = "Dough", "For the top"
	return recipe.Recipe{
		ID: "herb-scones", Title: "Herb scones",
		Why:   "Rubbing in, and a light hand with a soft dough",
		Yield: 8, Piece: "scone", Pieces: "scones", Each: 4,
		Ingredients: []recipe.Ingredient{
			line("225", measure.Gram, "self-raising-flour", dough, "plus a little for the board", recipe.Linear),
			line("1", measure.Teaspoon, "baking-powder", dough, "", recipe.Linear),
			line("1/4", measure.Teaspoon, "salt", dough, "", recipe.Linear),
			line("50", measure.Gram, "butter", dough, "cold, in cubes", recipe.Linear),
			line("1", measure.Tablespoon, "chives", dough, "", recipe.Linear),
			line("1", measure.Tablespoon, "parsley", dough, "", recipe.Linear),
			line("125", measure.Millilitre, "milk", dough, "cold", recipe.Linear),
			{Quantity: measure.Q("1", measure.Tablespoon), Pantry: "milk", Part: top, Note: "to brush", Law: recipe.Linear, Role: pantry.Other},
		},
		Equipment: []string{
			"mixing bowl", "sieve", "scissors and a mug for the herbs", "jug", "palette knife",
			"5 cm round cutter", "pastry brush", "baking tray", "cooling rack",
		},
		Steps: []recipe.Step{
			{
				Step: fit.Step{ID: "weigh", Title: "Weigh and measure", Kind: fit.Weigh, Work: minutes("5"), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
				Text: "Weigh the flour and the butter. Level the spoons with the back of a knife. Pour the milk in the jug and read it at eye level.",
			},
			{
				Step:    fit.Step{ID: "tray", Title: "Flour the tray", Kind: fit.Prepare, Work: minutes("1"), Cooks: 1, Adult: fit.NoAdult},
				Text:    "Dust the baking tray with a little flour.",
				LookFor: "a thin dusting all over",
			},
			{
				Step:    fit.Step{ID: "herbs", Title: "Snip the herbs", Kind: fit.Cut, Work: minutes("3"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Wash and shake the herbs dry. Snip them in the mug with the scissors.",
				LookFor: "pieces the size of a grain of rice",
				Hazard:  "Scissors: points down, fingers clear.",
			},
			{
				Step:    fit.Step{ID: "rub", Title: "Rub in the butter", Kind: fit.Mix, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Sieve flour, baking powder and salt. Rub the butter in with cool finger tips, lifting it out of the bowl.",
				LookFor: "breadcrumbs, and no lump when the bowl is shaken",
				Mistake: "It clumps: the butter has melted. Chill the bowl for five minutes.",
			},
			{
				Step:    fit.Step{ID: "dough", Title: "Mix to a soft dough", Kind: fit.Mix, Work: minutes("2.5"), Cooks: 1, Adult: fit.NoAdult, After: after("rub", "herbs")},
				Text:    "Stir in the herbs. Make a well, add nearly all the milk and bring it together with the palette knife.",
				LookFor: "soft, just sticky, the bowl almost clean",
				Mistake: "Too wet: dust with flour, don't knead more in.",
			},
			{
				Step: fit.Step{ID: "shape", Title: "Pat out and cut", Kind: fit.Shape, Work: minutes("3"), Cooks: 1, Adult: fit.NoAdult,
					After: []fit.After{{Step: "dough", MaxGap: within("5")}}},
				WorkEach: minutes("0.25"),
				Text:     "Pat the dough 2.5 cm thick. Cut straight down with a floured cutter; don't twist. Press the trimmings together once.",
				LookFor:  "straight sides, all the same height",
			},
			{
				Step: fit.Step{ID: "glaze", Title: "Brush the tops", Kind: fit.Shape, Work: minutes("1"), Cooks: 1, Adult: fit.NoAdult, After: after("shape", "tray")},
				Text: "Lift the scones onto the tray. Brush the tops with milk, not the sides.",
			},
			{
				Step: fit.Step{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: minutes("0.5"), Wait: minutes("12"), Cooks: 1, Adult: fit.NoAdult,
					After: []fit.After{{Step: "glaze", MaxGap: within("8")}}, Uses: oven(220)},
				Text:    "Bake at 220 °C, on the shelf that is yours.",
				LookFor: "risen, golden, and a hollow sound underneath",
				Hazard:  "Hot tray: dry oven gloves, a clear way to the heat mat.",
			},
			{
				Step: fit.Step{ID: "wash", Title: "Wash up and wipe down", Kind: fit.Clean, Work: minutes("7"), Cooks: 1, Shareable: true, Adult: fit.NoAdult, After: after("glaze")},
				Text: "Hot soapy water, glass first, greasy things last. Wipe the bench and count the cutters in.",
			},
			{
				Step: fit.Step{ID: "cool", Title: "Cool on the rack", Kind: fit.Cool, Work: minutes("0.5"), Wait: minutes("3"), Cooks: 1, Adult: fit.NoAdult, After: after("bake")},
				Text: "Slide the scones onto the rack so that steam can leave from below.",
			},
		},
		Words: []recipe.Word{
			{Word: "Rubbing in", Meaning: "coating flour with fat, so that less water reaches it and the crumb stays short"},
			{Word: "Raising agent", Meaning: "baking powder gives off carbon dioxide when it is wet and hot; the gas lifts the dough"},
		},
		Questions: []recipe.Question{
			{Ask: "Why do we use finger tips, not palms?", Answer: "Palms are warm and melt the fat."},
			{Ask: "I twist the cutter. What will you see when they come out?", Answer: "Sealed sides: they rise lopsided."},
		},
	}
}

func leekTartlets() recipe.Recipe {
	const pastry, filling = "Pastry", "Filling"
	return recipe.Recipe{
		ID: "leek-tartlets", Title: "Leek tartlets",
		Why:   "Short pastry, and an egg custard that sets",
		Yield: 8, Piece: "tartlet", Pieces: "tartlets", Each: 4,
		Ingredients: []recipe.Ingredient{
			line("150", measure.Gram, "plain-flour", pastry, "plus a little for the board", recipe.Linear),
			line("75", measure.Gram, "butter", pastry, "cold, in cubes", recipe.Linear),
			line("1/4", measure.Teaspoon, "salt", pastry, "", recipe.Linear),
			line("30", measure.Millilitre, "water", pastry, "cold", recipe.Linear),
			line("1", measure.Each, "leek", filling, "small", recipe.Linear),
			line("10", measure.Gram, "butter", filling, "", recipe.Linear),
			line("1", measure.Each, "egg-medium", filling, "", recipe.Whole),
			line("60", measure.Millilitre, "milk", filling, "", recipe.Linear),
			line("40", measure.Gram, "cheddar", filling, "", recipe.Linear),
			line("1/4", measure.Teaspoon, "mustard-powder", filling, "", recipe.Taste),
		},
		Equipment: []string{
			"mixing bowl", "two small bowls", "table knife", "vegetable knife and board", "frying pan", "wooden spoon",
			"rolling pin", "8 cm cutter", "bun tin", "fork and jug", "cooling rack",
		},
		Steps: []recipe.Step{
			{
				Step: fit.Step{ID: "weigh", Title: "Weigh and measure", Kind: fit.Weigh, Work: minutes("5"), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
				Text: "Weigh for the pastry into one bowl and for the filling into another. Keep the butters apart.",
			},
			{
				Step:    fit.Step{ID: "rub", Title: "Rub the butter into the flour", Kind: fit.Mix, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Rub the butter into flour and salt with finger tips.",
				LookFor: "fine breadcrumbs, still pale",
				Mistake: "Yellow and greasy: the fat is too warm. Chill before the water goes in.",
			},
			{
				Step:    fit.Step{ID: "bind", Title: "Bind with cold water", Kind: fit.Mix, Work: minutes("1.5"), Cooks: 1, Adult: fit.NoAdult, After: after("rub")},
				Text:    "Sprinkle in the water, stir with a table knife, then press together once.",
				LookFor: "one ball, no crumbs, not sticky",
			},
			{
				Step: fit.Step{ID: "rest", Title: "Rest the pastry in the fridge", Kind: fit.Chill, Wait: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("bind"),
					Hold: &fit.Hold{Where: "fridge", MaxMinutes: minutes("1440")}},
				Text: "Flatten the ball, wrap it and chill it.",
			},
			{
				Step:    fit.Step{ID: "leek", Title: "Wash and slice the leek", Kind: fit.Cut, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Halve the leek along its length, rinse between the layers, lay it flat and slice it with the claw.",
				LookFor: "half rings as thick as a coin",
				Hazard:  "Knife: claw hold, a flat side down, carried point down.",
			},
			{
				Step:    fit.Step{ID: "soften", Title: "Soften the leek in butter", Kind: fit.Cook, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("leek"), Uses: ring(fit.WholeStep)},
				Text:    "Cook the leek in the butter over a low heat. Stir. Tip onto a plate to cool.",
				LookFor: "limp and glossy, not brown",
				Hazard:  "Hot pan: handle to the side.",
			},
			{
				Step:    fit.Step{ID: "custard", Title: "Beat egg, milk and cheese", Kind: fit.Mix, Work: minutes("4"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Crack the egg into a cup of its own. Beat it with milk and mustard, stir in the cheese.",
				LookFor: "no streaks of white",
			},
			{
				Step: fit.Step{ID: "roll", Title: "Roll, cut and line the tin", Kind: fit.Shape, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult,
					After: []fit.After{{Step: "rest", MaxGap: within("15")}}},
				WorkEach: minutes("0.25"),
				Text:     "Roll to 3 mm with a floured pin, a quarter turn after each roll. Cut rounds and ease them into the tin.",
				LookFor:  "no holes, and a rim all round",
				Mistake:  "It shrinks back: it was stretched. Let it rest a minute.",
			},
			{
				Step: fit.Step{ID: "fill", Title: "Fill", Kind: fit.Shape, Work: minutes("2.5"), Cooks: 1, Adult: fit.NoAdult, After: after("roll", "soften", "custard")},
				Text: "Share out the leek, then pour the custard to just under the rim.",
			},
			{
				Step: fit.Step{ID: "bake", Title: "Bake", Kind: fit.Bake, Work: minutes("0.5"), Wait: minutes("16"), Cooks: 1, Adult: fit.NoAdult,
					After: []fit.After{{Step: "fill", MaxGap: within("5")}}, Uses: oven(190)},
				Text:    "Bake at 190 °C, on the shelf that is yours.",
				LookFor: "set in the middle when the tin is tapped, golden at the rim",
				Hazard:  "Hot tin: dry oven gloves, a clear way to the heat mat.",
			},
			{
				Step: fit.Step{ID: "wash", Title: "Wash up and wipe down", Kind: fit.Clean, Work: minutes("7"), Cooks: 1, Shareable: true, Adult: fit.NoAdult, After: after("fill")},
				Text: "Hot soapy water, greasy things last. Count the knives in.",
			},
			{
				Step: fit.Step{ID: "cool", Title: "Loosen and cool", Kind: fit.Cool, Work: minutes("1"), Wait: minutes("1"), Cooks: 1, Adult: fit.NoAdult, After: after("bake")},
				Text: "Run a knife round each tartlet and lift it onto the rack.",
			},
		},
		Words: []recipe.Word{
			{Word: "Coagulation", Meaning: "egg protein unfolds with heat and sets round the liquid"},
			{Word: "Shortening", Meaning: "fat keeps water from the flour, so that the pastry crumbles instead of stretching"},
		},
		Questions: []recipe.Question{
			{Ask: "What would happen without the rest in the fridge?", Answer: "The gluten pulls back and the tartlets shrink."},
			{Ask: "I pour the egg onto the hot leek. What do you see?", Answer: "It scrambles: it sets before it is in the tin."},
		},
	}
}

func lentilDal() recipe.Recipe {
	const dal, bread = "Dal", "Flatbreads"
	return recipe.Recipe{
		ID: "lentil-dal", Title: "Red lentil dal with griddled flatbreads",
		Why:   "Two things at once: a pot that simmers while the bread is made",
		Yield: 4, Piece: "portion", Pieces: "portions", Each: 2,
		Ingredients: []recipe.Ingredient{
			line("200", measure.Gram, "red-lentils", dal, "rinsed", recipe.Linear),
			line("1", measure.Each, "onion", dal, "", recipe.Linear),
			line("2", measure.Each, "garlic", dal, "", recipe.Linear),
			line("1", measure.Tablespoon, "ginger-root", dal, "", recipe.Linear),
			line("1", measure.Tablespoon, "sunflower-oil", dal, "", recipe.Linear),
			line("1", measure.Teaspoon, "cumin-ground", dal, "", recipe.Linear),
			line("1/2", measure.Teaspoon, "turmeric", dal, "", recipe.Linear),
			line("200", measure.Gram, "chopped-tomatoes", dal, "half a 400 g tin", recipe.Linear),
			line("700", measure.Millilitre, "water", dal, "boiling", recipe.Linear),
			line("1/2", measure.Teaspoon, "salt", dal, "", recipe.Taste),
			line("1", measure.Teaspoon, "garam-masala", dal, "at the end", recipe.Taste),
			line("1", measure.Tablespoon, "lemon-juice", dal, "at the end", recipe.Taste),
			line("150", measure.Gram, "self-raising-flour", bread, "plus a little for the board", recipe.Linear),
			line("120", measure.Gram, "yoghurt", bread, "", recipe.Linear),
			line("1/4", measure.Teaspoon, "salt", bread, "", recipe.Linear),
		},
		Equipment: []string{
			"saucepan with a lid", "griddle or frying pan", "vegetable knife and board", "grater", "sieve", "mixing bowl",
			"rolling pin", "tongs", "wooden spoon", "measuring jug",
		},
		Steps: []recipe.Step{
			{
				Step: fit.Step{ID: "weigh", Title: "Weigh and measure", Kind: fit.Weigh, Work: minutes("5"), Cooks: 1, Shareable: true, Adult: fit.NoAdult},
				Text: "Measure the spices into one small bowl. Rinse the lentils in the sieve until the water runs clear.",
			},
			{
				Step:    fit.Step{ID: "chop", Title: "Chop onion, garlic and ginger", Kind: fit.Cut, Work: minutes("7"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Halve the onion through the root with the bridge, lay it flat and dice it with the claw. Crush the garlic, grate the ginger.",
				LookFor: "dice the size of a pea, all alike",
				Hazard:  "Knife: bridge to halve, claw to slice.",
			},
			{
				Step:    fit.Step{ID: "fry", Title: "Soften, then add the spices", Kind: fit.Cook, Work: minutes("5"), Cooks: 1, Adult: fit.NoAdult, After: after("chop"), Uses: ring(fit.WholeStep)},
				Text:    "Soften the onion in the oil for four minutes. Stir in the spices for one.",
				LookFor: "see-through onion, a strong smell",
				Mistake: "Black specks: the spices have burnt and taste bitter. Begin again with less heat.",
				Hazard:  "Hot oil: dry vegetables, handle to the side.",
			},
			{
				Step: fit.Step{ID: "simmer", Title: "Simmer the dal", Kind: fit.Cook, Work: minutes("2"), Wait: minutes("15"), Cooks: 1, Adult: fit.NoAdult,
					After: []fit.After{{Step: "fry", MaxGap: within("1")}}, Uses: ring(fit.WholeStep)},
				Text:    "Add lentils, tomatoes and boiling water. Bring to the boil, then simmer with the lid tilted. Stir now and then.",
				LookFor: "lentils that fall apart between finger and spoon",
				Hazard:  "Steam: lift the lid away from the face.",
			},
			{
				Step:    fit.Step{ID: "dough", Title: "Mix the bread dough", Kind: fit.Mix, Work: minutes("4"), Cooks: 1, Adult: fit.NoAdult, After: after("weigh")},
				Text:    "Stir flour, salt and yoghurt to a dough and knead it for a minute.",
				LookFor: "smooth, soft, not sticky",
			},
			{
				Step: fit.Step{ID: "rest", Title: "Rest the dough", Kind: fit.Rest, Wait: minutes("8"), Cooks: 1, Adult: fit.NoAdult, After: after("dough"),
					Hold: &fit.Hold{Where: "fridge", MaxMinutes: minutes("1440")}},
				Text: "Cover the bowl.",
			},
			{
				Step:     fit.Step{ID: "roll", Title: "Roll the flatbreads", Kind: fit.Shape, Work: minutes("1"), Cooks: 1, Shareable: true, Adult: fit.NoAdult, After: after("rest")},
				WorkEach: minutes("1"),
				Text:     "Divide the dough into one ball for each portion. Roll each as thin as a coin.",
				LookFor:  "even all over",
			},
			{
				Step: fit.Step{ID: "griddle", Title: "Griddle the flatbreads, one at a time", Kind: fit.Cook, Work: minutes("1"), Cooks: 1, Adult: fit.NoAdult,
					Pieces: 4, PerLoad: 1, Load: minutes("2"), After: []fit.After{{Step: "roll", MaxGap: within("15")}}, Uses: ring(fit.WorkPart)},
				Text:    "Heat the dry pan. A minute on each side; turn with the tongs.",
				LookFor: "bubbles, then brown spots",
				Mistake: "Pale and stiff: the pan is not hot enough.",
				Hazard:  "Very hot pan: tongs, never fingers.",
			},
			{
				Step: fit.Step{ID: "wash", Title: "Wash up and wipe down", Kind: fit.Clean, Work: minutes("7"), Cooks: 1, Shareable: true, Adult: fit.NoAdult, After: after("roll")},
				Text: "Hot soapy water. Count the knives in.",
			},
			{
				Step: fit.Step{ID: "season", Title: "Season and taste", Kind: fit.Cook, Work: minutes("2"), Cooks: 1, Adult: fit.NoAdult, After: after("simmer")},
				Text: "Stir in garam masala, lemon and half the salt. Taste with a clean spoon. Then decide on the rest.",
			},
			{
				Step: fit.Step{ID: "serve", Title: "Serve", Kind: fit.Serve, Work: minutes("1.5"), Cooks: 1, Adult: fit.NoAdult, After: after("season", "griddle")},
				Text: "Fill the containers and label them with name, class and date.",
			},
		},
		Words: []recipe.Word{
			{Word: "Simmer", Meaning: "just under the boil: small bubbles that break slowly"},
			{Word: "Gelatinisation", Meaning: "starch in the lentils takes up hot water, swells and thickens the dal"},
		},
		Questions: []recipe.Question{
			{Ask: "Why do the spices go in before the water?", Answer: "Their flavour dissolves in fat, not in water."},
			{Ask: "I add all the salt now and the pot boils down. What have I done?", Answer: "The same salt in less water: too salty."},
		},
	}
}
