package recipe

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// A lasting is how long something takes in the heat, in minutes: typical of
// household recipes, and generous.
type lasting struct {
	what        string
	dish        *pattern.Pattern // in the step; of bakes and boils in the title or the step
	does        *pattern.Pattern // in the step
	least, most float64
	hands       bool // it is work: the time of a wait says nothing of it
}

var boils = pattern.Must(`(?i)\bboil\b`)

var bakes = pattern.Must(`(?i)\b(?:bake|baked|roast|oven)\b`)

// lastings are asked in order; the first that fits judges.
var lastings = []lasting{
	{"a bake of scones", pattern.Must(`(?i)\bscones?\b`), bakes, 7, 30, false},
	{"a bake of biscuits", pattern.Must(`(?i)\b(?:biscuits?|cookies|shortbread|crackers|straws)\b`), bakes, 5, 50, false},
	{"a bake of muffins or buns", pattern.Must(`(?i)\b(?:muffins?|cupcakes?|fairy cakes|buns?|rolls|naan|teacakes?|bagels?|plait|knots|twists|focaccia|baps)\b`), bakes, 6, 50, false},
	{"a bake of a terrine", pattern.Must(`(?i)\b(?:terrine|meat ?loaf)\b`), bakes, 25, 180, false},
	{"a bake of a loaf", pattern.Must(`(?i)\b(?:loaf|loaves|bread)\b`), bakes, 15, 150, false},
	{"a bake of meringue", pattern.Must(`(?i)\b(?:meringues?|pavlova)\b`), bakes, 20, 240, false},
	{"a bake of a sponge", pattern.Must(`(?i)\b(?:sponge|swiss roll|brownies?|traybake|bars|flapjacks?)\b`), bakes, 6, 75, false},
	{"a bake of a cake", pattern.Must(`(?i)\b(?:cake|traybake|gingerbread|parkin|torte)\b`), bakes, 7, 240, false},
	{"a bake of pizza", pattern.Must(`(?i)\bpizzas?\b`), bakes, 4, 40, false},
	{"a bake of pastry", pattern.Must(`(?i)\b(?:pie|pasty|pasties|tarts?|tartlets?|quiche|flan|profiteroles|eclairs?|éclairs?|pastry|samosas?)\b`), bakes, 5, 120, false},
	{"a bake of a yeast dough", pattern.Must(`(?i)\byeast dough\b`), bakes, 5, 75, false},
	{"roasting a chicken", pattern.Must(`(?i)\b(?:whole chicken|roast chicken|spatchcock)\b`), bakes, 15, 180, false},
	{"roasting chicken pieces", pattern.Must(`(?i)\bchicken\b`), bakes, 5, 120, false},
	{"roasting vegetables", pattern.Must(`(?i)\b(?:vegetables|carrots|squash|potatoes|wedges|cauliflower|parsnips)\b`), bakes, 5, 120, false},
	{"a bake", pattern.Must(`.`), pattern.Must(`(?i)\bbake\b`), 4, 240, false},
	{"boiling filled pasta", pattern.Must(`(?i)\b(?:ravioli|tortellini|gnocchi|dumplings)\b`), boils, 1, 25, false},
	{"boiling pasta", pattern.Must(`(?i)\b(?:pasta|spaghetti|penne|macaroni|noodles|tagliatelle|linguine|fusilli|rigatoni|farfalle|orzo|vermicelli|fettuccine|pappardelle|conchiglie|soba|udon|ramen)\b`), pattern.Must(`(?i)\b(?:boil|cook|simmer)\b`), 1, 25, false},
	{"boiling rice", pattern.Must(`(?i)\brice\b`), pattern.Must(`(?i)\b(?:boil|cook|simmer)\b`), 5, 60, false},
	{"boiling potatoes", pattern.Must(`(?i)\bpotatoes\b`), pattern.Must(`(?i)\b(?:boil|parboil)\b`), 4, 45, false},
	{"boiling eggs", pattern.Must(`(?i)\beggs?\b`), pattern.Must(`(?i)\b(?:boil|poach)\b`), 1.5, 20, false},
	{"each side in the pan", pattern.Must(`(?i)\b(?:each|per|a|both|either) sides?\b`), pattern.Must(`(?i)\b(?:fry|cook|griddle|sear|grill|brown)\b`), 0.3, 40, true},
	{"each side in the pan", pattern.Must(`(?i)\b(?:each|per|a|both|either) sides?\b`), pattern.Must(`(?i)\b(?:fry|cook|griddle|sear|grill|brown)\b`), 0.3, 40, false},
	{"frying", pattern.Must(`.`), pattern.Must(`(?i)\b(?:stir-fry|fry|sauté|saute|brown|griddle|sear)\b`), 0.3, 45, true},
	{"grilling", pattern.Must(`.`), pattern.Must(`(?i)\b(?:grill|broil)\b`), 0.5, 40, false},
	{"the microwave", pattern.Must(`.`), pattern.Must(`(?i)\bmicrowave\b`), 0.1, 25, false},
	{"kneading", pattern.Must(`.`), pattern.Must(`(?i)\bknead\b`), 0.4, 25, true},
	{"whisking", pattern.Must(`.`), pattern.Must(`(?i)\b(?:whisk|beat|cream)\b`), 0.1, 20, true},
	{"rising", pattern.Must(`.`), pattern.Must(`(?i)\b(?:prove|proof|rise)\b`), 8, 24 * 60, false},
	{"boiling", pattern.Must(`.`), pattern.Must(`(?i)\b(?:blanch|steam)\b`), 0.3, 300, false},
	{"simmering", pattern.Must(`.`), pattern.Must(`(?i)\b(?:simmer|stew|braise|boil|cook)\b`), 0.5, 480, false},
}

// manyHours is more than a day.
var manyHours = pattern.Must(`(?i)\b(?:2[5-9]|[3-9]\d|\d{3,})\s*(?:hours|hrs|hr|h)\b`)

var slowly = pattern.Must(`(?i)\b(?:slow|overnight|low oven|cool oven|dry out|caramelis|confit|sourdough|christmas|fruit cake|turn (?:it )?down|half[- ]time|first)\b`)

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

// driedPulses are hard as stones.
const driedPulses = "dried-kidney-beans dried-black-beans dried-cannellini-beans dried-borlotti-beans dried-butter-beans dried-chickpeas"

// tenders by what they are: typical figures, and short.
var tenders = []tender{
	{30, ids("stewing-beef ox-kidney lamb-diced pork-shoulder beef-joint")},
	{30, ids(driedPulses)},
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
	grated := func(i Ingredient) bool {
		return slices.ContainsFunc(c.Steps, func(s Step) bool {
			return grates.MatchString(s.Text) && namedIn(pantry.Words(s.Text), i, pantry.Ingredient{})
		})
	}
	quick := slices.ContainsFunc(c.Steps, func(s Step) bool { return quickly.MatchString(s.Text) })
	for _, i := range c.Ingredients {
		at := slices.IndexFunc(tenders, func(t tender) bool { return slices.Contains(t.items, i.Pantry) })
		if at < 0 || quick && tenders[at].after > 4 || thin.MatchString(i.Name+", "+i.Note) || grated(i) || tinned.MatchString(i.Name+", "+i.Note) {
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
var cooksIt = pattern.Must(`(?i)\b(?:boil|cook|steam|simmer)\w*\b[^.]*\brice\b`)

// thin is soon done.
var thin = pattern.Must(`(?i)\b(?:thin|thinly|wafer|grated|finely|matchsticks|shavings|mashed|leftover)\b`)

// grates makes thin what is done soon.
var grates = pattern.Must(`(?i)\b(?:grate|shred|spiralis|reiben|râp|julienne|wafer)`)

// beside are cooked in a pan of their own.
var beside = pattern.Must(`(?i)\b(?:pasta|spaghetti|macaroni|penne|tagliatelle|linguine|fusilli|noodles|rice|potatoes|eggs|beans)\b`)

// quickly are ways in which such meat is done sooner, or not stewed.
var quickly = pattern.Must(`(?i)\b(?:pressure|skewer|kebab|grill|stir-fry|griddle|slow cooker|microwave|crisps|mandolin|whistle)\w*\b`)

// longCooked are dishes that stay on the heat for hours.
var longCooked = pattern.Must(`(?i)\b(?:stock|ragu|ragù|pudding|jam|marmalade|chutney|confit|curry|stew|tagine|casserole|hotpot|broth|dulce|toffee|caramel|oranges?|lemons?|beetroots?)\b`)

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
var tinned = pattern.Must(`(?i)\b(?:tins?|tinned|cans?|canned|drained|cooked|pouch|left[- ]?over|microwave|ready)\b`)

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
var again = pattern.Must(`(?i)\b(?:more|another|further|return|again|upside|finish|back in|last|until hot|heat through|blind|brown the top|warm|crisp (?:it |them )?up|to crisp)\b`)
