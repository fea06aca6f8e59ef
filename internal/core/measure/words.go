package measure

import (
	"strings"

	"freshapron/internal/core/exact"
)

// fractions are the characters that are fractions by themselves.
var fractions = map[rune]exact.Number{
	'½': exact.Frac(1, 2), '⅓': exact.Frac(1, 3), '⅔': exact.Frac(2, 3), '¼': exact.Frac(1, 4), '¾': exact.Frac(3, 4),
	'⅕': exact.Frac(1, 5), '⅖': exact.Frac(2, 5), '⅗': exact.Frac(3, 5), '⅘': exact.Frac(4, 5), '⅙': exact.Frac(1, 6),
	'⅚': exact.Frac(5, 6), '⅐': exact.Frac(1, 7), '⅛': exact.Frac(1, 8), '⅜': exact.Frac(3, 8), '⅝': exact.Frac(5, 8),
	'⅞': exact.Frac(7, 8), '⅑': exact.Frac(1, 9), '⅒': exact.Frac(1, 10),
}

// numberWords are amounts in letters, the longer before the shorter that
// they begin with.
var numberWords = []struct {
	text string
	n    exact.Number
}{
	{"half a dozen", exact.Int(6)}, {"a dozen", exact.Int(12)}, {"one dozen", exact.Int(12)}, {"dozen", exact.Int(12)},
	{"a couple of", exact.Int(2)}, {"couple of", exact.Int(2)},
	{"one and a half", exact.Frac(3, 2)}, {"two and a half", exact.Frac(5, 2)},
	{"three quarters of a", exact.Frac(3, 4)}, {"three quarters", exact.Frac(3, 4)}, {"three-quarters", exact.Frac(3, 4)},
	{"two thirds of a", exact.Frac(2, 3)}, {"two thirds", exact.Frac(2, 3)}, {"two-thirds", exact.Frac(2, 3)},
	{"one third of a", exact.Frac(1, 3)}, {"a third of a", exact.Frac(1, 3)}, {"one third", exact.Frac(1, 3)}, {"a third", exact.Frac(1, 3)},
	{"one quarter of a", exact.Frac(1, 4)}, {"a quarter of a", exact.Frac(1, 4)}, {"quarter of a", exact.Frac(1, 4)},
	{"a quarter", exact.Frac(1, 4)}, {"one quarter", exact.Frac(1, 4)}, {"quarter", exact.Frac(1, 4)},
	{"one half of a", exact.Frac(1, 2)}, {"half of a", exact.Frac(1, 2)}, {"half an", exact.Frac(1, 2)}, {"half a", exact.Frac(1, 2)},
	{"a half", exact.Frac(1, 2)}, {"one half", exact.Frac(1, 2)}, {"half", exact.Frac(1, 2)},
	{"one", exact.Int(1)}, {"two", exact.Int(2)}, {"three", exact.Int(3)}, {"four", exact.Int(4)}, {"five", exact.Int(5)},
	{"six", exact.Int(6)}, {"seven", exact.Int(7)}, {"eight", exact.Int(8)}, {"nine", exact.Int(9)}, {"ten", exact.Int(10)},
	{"eleven", exact.Int(11)}, {"twelve", exact.Int(12)}, {"an", exact.Int(1)}, {"a", exact.Int(1)},
	{"eine", exact.Int(1)}, {"ein", exact.Int(1)}, {"une", exact.Int(1)}, {"un", exact.Int(1)},
}

// unitWords are the ways in which units are written; lower case, no dots.
var unitWords = func() map[string]Unit {
	m := map[string]Unit{}
	add := func(u Unit, words string) {
		for _, w := range strings.Split(words, ",") {
			m[w] = u
		}
	}
	add(Milligram, "mg,milligram,milligrams")
	add(Gram, "g,gr,gm,gms,grm,grms,gram,grams,gramme,grammes,gramm")
	add(Kilogram, "kg,kgs,kilo,kilos,kilogram,kilograms,kilogramme,kilogrammes")
	add(Ounce, "oz,ozs,ounce,ounces")
	add(Pound, "lb,lbs,pound,pounds,pfund")
	add(Millilitre, "ml,mls,mil,mils,millilitre,millilitres,milliliter,milliliters,cc")
	add(Centilitre, "cl,centilitre,centilitres")
	add(Decilitre, "dl,decilitre,decilitres,deciliter,deciliters")
	add(Litre, "l,ltr,ltrs,lt,litre,litres,liter,liters")
	add(Pinch, "pinch,pinches,prise,prisen,pincée,pincées,pizzico,snufje,nypa")
	add(Teaspoon, "tsp,tsps,teasp,tspn,teaspoon,teaspoons,tea spoon,tea spoons,teaspoonful,teaspoonfuls,tl,teelöffel,theelepel,theelepels,tsk,tesked,teskedar,c à café,c à c,cac,càc,cuillère à café,cuillères à café,cucchiaino,cucchiaini")
	add(Dessertspoon, "dsp,dsps,dstsp,dstsps,dessertspoon,dessertspoons,dessert spoon,dessert spoons,dessertspoonful,dessertspoonfuls")
	add(Tablespoon, "tbsp,tbsps,tbs,tb,tbl,tblsp,tblsps,tblspns,c à s,cas,càs,tblspn,tbspn,tablespoon,tablespoons,table spoon,table spoons,tablespoonful,tablespoonfuls,soup spoon,soup spoons,soupspoon,soupspoons,big spoon,big spoons,el,esslöffel,eetlepel,eetlepels,msk,matsked,matskedar,c à soupe,cuillère à soupe,cuillères à soupe,cucchiaio,cucchiai")
	add(Cup, "cup,cups,cupful,cupfuls")
	add(FluidOunce, "fl oz,floz,fl ozs,fluid ounce,fluid ounces,fl ounce,fl ounces")
	add(Pint, "pint,pints,pt,pts")
	add(Quart, "quart,quarts,qt,qts")
	add(Millimetre, "mm,millimetre,millimetres")
	add(Centimetre, "cm,cms,centimetre,centimetres,centimeter,centimeters")
	add(Inch, "inch,inches,in,\"")
	for _, u := range counted {
		m[u.Symbol], m[u.Plural] = u, u
	}
	for word, as := range map[string]string{
		"can": "tin", "cans": "tin", "envelope": "sachet", "envelopes": "sachet", "walnut of": "knob", "nut of": "knob", "walnut-sized piece": "knob", "capful": "splash", "capfuls": "splash", "scoop": "spoon", "scoops": "spoon", "pkt": "packet", "pkts": "packet", "pack": "packet", "packs": "packet", "package": "packet",
		"packages": "packet", "pkg": "packet", "pkgs": "packet", "square": "piece", "squares": "piece", "pk": "packet", "pouch": "packet", "pouches": "packet", "tins of": "tin", "bunchs": "bunch", "leafs": "leaf", "rib": "stalk", "ribs": "stalk",
		"nest": "piece", "nests": "piece", "knobs": "knob", "thumb-sized piece": "thumb", "thumbnail": "thumb", "thumb-size piece": "thumb", "thumb sized piece": "thumb", "thumb size piece": "thumb", "nos": "piece", "bn": "bunch", "handfull": "handful", "zehe": "clove", "zehen": "clove", "bund": "bunch", "dose": "tin", "dosen": "tin",
		"becher": "tub", "päckchen": "sachet", "stück": "piece", "scheibe": "slice", "scheiben": "slice", "gousse": "clove",
		"gousses": "clove", "brin": "sprig", "brins": "sprig", "tranche": "slice", "tranches": "slice", "spritz": "dash", "glug": "splash", "squirt": "splash", "squirts": "splash",
		"glugs": "splash", "mugful": "mug", "spoonful": "spoon", "spoonfuls": "spoon", "glassful": "glass", "mugfuls": "mug", "teacupful": "teacup", "teacupfuls": "teacup", "twist": "grind", "twists": "grind", "carton of": "carton", "container": "tub", "containers": "tub",
	} {
		m[word], _ = UnitOf(as)
	}
	return m
}()

// singleLetters are units of one letter, in which capitals matter.
var singleLetters = map[string]Unit{"g": Gram, "G": Gram, "l": Litre, "L": Litre, "t": Teaspoon, "T": Tablespoon, "c": Cup, "C": Cup}

// packs are the counted units that hold something of a known size.
var packs = map[string]bool{
	"bag": true, "ball": true, "bar": true, "block": true, "bottle": true, "box": true, "carton": true, "jar": true, "loaf": true, "packet": true,
	"piece": true, "pot": true, "sheet": true, "punnet": true, "sachet": true, "tin": true, "tub": true, "tube": true, "mug": true, "teacup": true, "glass": true, "spoon": true, "fillet": true, "slice": true,
}

// anySize are the units of which no two hold the same.
var anySize = map[string]bool{"mug": true, "teacup": true, "glass": true, "spoon": true}

// sizes of one thing.
var sizes = map[string]string{
	"large": "large", "lge": "large", "lg": "large", "big": "large", "medium": "medium", "med": "medium", "medium-sized": "medium",
	"medium-size": "medium", "small": "small", "sm": "small", "sml": "small", "lrg": "large", "extra-large": "extra-large", "jumbo": "extra-large", "baby": "baby",
	"good-sized": "medium", "medium-large": "medium", "thick": "thick", "thin": "thin", "whole": "", "generous": "generous",
	"scant": "scant", "good": "good", "heaped": "heaped", "heaping": "heaped", "rounded": "heaped", "level": "level", "levelled": "level",
	"leveled": "level", "packed": "packed", "sized": "",
}

// fillings are the size words that say how a measure was filled.
var fillings = map[string]string{
	"heaped": "a heaped measure holds half as much again as a level one, or more; it is taken level",
	"scant":  "a scant measure is a little under; it is taken level", "generous": "a generous measure is a little over; it is taken level",
	"good": "a good measure is a little over; it is taken level", "level": "", "packed": "",
}

// vague are words that stand where an amount should.
var vague = []string{
	"a little", "a bit of", "a few", "few sprigs of", "a good glug of", "a good handful of", "a lot of", "a touch of", "plenty of", "lots of", "several", "some", "enough",
	"any", "as much as you like", "extra", "a generous amount of", "little", "bit of", "few", "etwas", "un peu de",
}

// preparations are words for what is done to a thing before it is used; with
// their adverbs they stand before or after its name.
var preparations = map[string]bool{
	"chopped": true, "diced": true, "sliced": true, "grated": true, "minced": true, "crushed": true, "melted": true, "softened": true,
	"sifted": true, "sieved": true, "beaten": true, "peeled": true, "shredded": true, "cubed": true, "halved": true, "quartered": true,
	"snipped": true, "torn": true, "washed": true, "rinsed": true, "drained": true, "cored": true, "deseeded": true, "trimmed": true,
	"squeezed": true, "zested": true, "cooked": true, "toasted": true, "chilled": true, "crumbled": true, "mashed": true, "juiced": true,
	"cooled": true, "hard-boiled": true, "boiled": true, "slit": true, "skinned": true, "separated": true, "sectioned": true,
	"ripe": true, "unpeeled": true, "scrubbed": true, "stoned": true, "pitted": true, "hulled": true, "roasted": true, "thawed": true,
	"broken": true, "brunoise": true, "julienne": true, "paysanne": true, "macedoine": true, "macédoine": true, "jardiniere": true, "jardinière": true, "mirepoix": true,
	"chiffonade": true, "concasse": true, "concassé": true, "concassee": true, "concassée": true, "batons": true, "batonnets": true, "bâtonnets": true,
}

// temperatures are preparations only of what pours.
var temperatures = map[string]bool{"boiling": true, "lukewarm": true, "tepid": true, "warm": true, "hot": true, "cold": true, "ice-cold": true}

var liquids = map[string]bool{"water": true, "milk": true, "stock": true, "broth": true}

var adverbs = map[string]bool{
	"finely": true, "roughly": true, "coarsely": true, "thinly": true, "thickly": true, "freshly": true, "lightly": true, "well": true,
	"very": true, "firmly": true, "loosely": true, "just": true, "ice": true, "and": true, "slightly": true,
}
