package safety

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// A CoreRule is how hot the middle of a food has to be, and for how long.
type CoreRule struct {
	Food    string
	Celsius float64
	Seconds int // 0 is reached once
}

// A Region is what a local authority asks of temperatures and times, as far
// as its papers say; the school's copy may be changed.
type Region struct {
	ID, Name string
	Core     []CoreRule
	Hot      float64 // °C: hot food is kept at or above
	Cold     float64 // °C: cold food is kept at or below
	HotOut   int     // minutes for which hot food may stand below Hot, once
	ColdOut  int     // minutes for which cold food may stand above Cold, once
	CoolTo   float64 // °C, and within
	CoolIn   int     // minutes that hot food is cooled
	Source   string
	Looked   string // as known when, and how sure that is
}

// Regions ship with the program; the first is what a school begins with. Laws
// change, and the figures were not checked against the papers themselves: each
// says what to look up.
var Regions = []Region{
	{
		ID: "uk", Name: "United Kingdom",
		Core: []CoreRule{{"everything", 60, 45 * 60}, {"everything", 65, 10 * 60}, {"everything", 70, 2 * 60}, {"everything", 75, 30}, {"everything", 80, 6}},
		Hot:  63, Cold: 8, HotOut: 120, ColdOut: 240, CoolTo: 8, CoolIn: 90,
		Source: "Food Standards Agency, cooking and chilling guidance (70 °C for 2 minutes or the same effect; 63 °C hot; 8 °C cold); cooling in 90 minutes is guidance, not law",
		Looked: "2026-11, not checked against the papers themselves",
	},
	{
		ID: "us", Name: "United States",
		Core: []CoreRule{
			{"poultry, and anything stuffed", 74, 0}, {"minced or ground meat", 68, 17}, {"minced or ground meat", 70, 1},
			{"whole pieces of meat", 63, 15}, {"fish", 63, 15}, {"eggs eaten at once", 63, 15},
		},
		Hot: 57, Cold: 5, HotOut: 240, ColdOut: 240, CoolTo: 5, CoolIn: 360,
		Source: "FDA Food Code 2022, 3-401.11, 3-501.14, 3-501.16 and 3-501.19; states adopt their own editions. From 57 to 21 °C within the first two hours",
		Looked: "2026-11, not checked against the papers themselves",
	},
	{
		ID: "au", Name: "Australia and New Zealand",
		Core: []CoreRule{{"everything", 75, 0}, {"everything", 70, 2 * 60}, {"everything", 65, 10 * 60}, {"everything", 60, 45 * 60}},
		Hot:  60, Cold: 5, HotOut: 240, ColdOut: 240, CoolTo: 5, CoolIn: 360,
		Source: "Food Standards Code, Standard 3.2.2 and Safe Food Australia (2-hour/4-hour guide); core temperatures are guidance. From 60 to 21 °C within the first two hours",
		Looked: "2026-11, not checked against the papers themselves",
	},
}

// RegionOf returns the shipped region with the id, the first where there is
// none.
func RegionOf(id string) Region {
	for _, r := range Regions {
		if r.ID == id {
			return r
		}
	}
	return Regions[0]
}

// Foods lists for what the region has core rules, each once.
func (r Region) Foods() []string {
	var out []string
	for _, c := range r.Core {
		if !slices.Contains(out, c.Food) {
			out = append(out, c.Food)
		}
	}
	return out
}

// What the middle of food that is being cooked can't be: warmer than water
// boils while it is wet, with a degree for the probe; or as cold as a fridge.
const (
	hottestWet = 101.0
	fridgeWarm = 8.0
)

// Cooked judges a temperature of the middle of a food, in °C, that was held
// for so many seconds. It says by which rule, or which is nearest.
func (r Region) Cooked(food string, celsius float64, seconds int) (bool, string) {
	var rules []CoreRule
	for _, c := range r.Core {
		if c.Food == food {
			rules = append(rules, c)
		}
	}
	switch {
	case len(rules) == 0:
		return false, fmt.Sprintf("The table has no rule for “%s”: it counts as not done.", food)
	case celsius > hottestWet:
		return false, fmt.Sprintf("%g °C is more than the middle of wet food can have: is the probe in the pan, or through? Wipe it, and probe again.", celsius)
	case celsius <= fridgeWarm:
		return false, fmt.Sprintf("%g °C is a fridge’s temperature, not that of food on the heat. If it is kept cold, write it down as that.", celsius)
	}
	slices.SortFunc(rules, func(a, b CoreRule) int { return cmp.Compare(a.Celsius, b.Celsius) })
	for _, c := range rules {
		if celsius >= c.Celsius && seconds >= c.Seconds {
			return true, fmt.Sprintf("Done by the table: %s.", c.Says())
		}
	}
	for i := len(rules) - 1; i >= 0; i-- {
		if c := rules[i]; celsius >= c.Celsius {
			return false, fmt.Sprintf("Hot enough and not for long enough: %s. Leave it, and probe again.", c.Says())
		}
	}
	nearest := rules[0]
	for _, c := range rules {
		if c.Seconds <= 120 {
			nearest = c
			break
		}
	}
	return false, fmt.Sprintf("Not done: %s. Cook on, and probe again.", nearest.Says())
}

// done says when each food is done: of the rules for one food any is enough.
func (r Region) done() string {
	var foods []string
	for _, food := range r.Foods() {
		var rules []string
		for _, c := range r.Core {
			if c.Food == food {
				rules = append(rules, c.Says())
			}
		}
		foods = append(foods, food+": "+strings.Join(rules, ", or "))
	}
	return "Done by the table is " + strings.Join(foods, "; ")
}

// Says prints a rule: "70 °C for 2 min".
func (c CoreRule) Says() string {
	s := fmt.Sprintf("%g °C", c.Celsius)
	switch {
	case c.Seconds == 0:
		return s + " reached once"
	case c.Seconds < 120:
		return fmt.Sprintf("%s for %d s", s, c.Seconds)
	case c.Seconds%60 != 0:
		return fmt.Sprintf("%s for %d min %d s", s, c.Seconds/60, c.Seconds%60)
	}
	return fmt.Sprintf("%s for %d min", s, c.Seconds/60)
}

// Kept judges the temperature of food that is kept hot or cold, and for how
// many minutes it has been off that temperature.
func (r Region) Kept(hot bool, celsius float64, minutes int) (bool, string) {
	limit, most, ok, word := r.Cold, r.ColdOut, celsius <= r.Cold, "at most"
	if hot {
		limit, most, ok, word = r.Hot, r.HotOut, celsius >= r.Hot, "at least"
	}
	switch {
	case ok:
		return true, fmt.Sprintf("As the table asks: %s %g °C.", word, limit)
	case minutes <= most:
		return true, fmt.Sprintf("Not %s %g °C; it may stand so for %d min in all, once.", word, limit, most)
	}
	return false, fmt.Sprintf("Not %s %g °C, for longer than %d min: do not serve it.", word, limit, most)
}
