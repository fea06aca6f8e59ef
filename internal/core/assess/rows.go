package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

var (
	outWords   = pattern.Must(`(?i)\b(?:take|taking|get|lift|bring|remove)s?\b.*\b(?:out|off|from the oven)\b|\bout of (?:the )?oven\b|\bcomes? out\b`)
	onWords    = pattern.Must(`(?i)\b(?:pre-?heat|turn|switch|put|light|heat)\b.*\b(?:oven|ring|hob|grill)\b(?:.*\bon\b)?|\boven on\b|\bpre-?heat\b`)
	washWords  = pattern.Must(`(?i)\bwash(?:ing)?[- ]?(?:up|the dishes|dishes|equipment)\b|\bclean(?:ing)? (?:up|down|bench|surfaces?|the|as)|\bwipe|\bclear(?:ing)? (?:up|away)|\bwashing\b|\btidy`)
	handsWords = pattern.Must(`(?i)\bwash(?:ing)?(?: my| your| our)? hands\b|\bhands (?:and|washed)|\bhand[- ]?wash`)
	probeWords = pattern.Must(`(?i)\bprobe|\bcore temp|\bcheck (?:the )?temp|\bthermometer|\btemperature\b`)
	meats      = pattern.Must(`(?i)\b(?:chicken|turkey|beef|lamb|pork|mince|meat|bacon|sausage|kofta|fish|salmon|cod|haddock|prawn|burger|patt(?:y|ies))`)
	apart      = pattern.Must(`(?i)\s*(?:,|;|\band then\b|\bthen\b|\band\b|\+|&|/)\s*`)
)

func hasWord(text string, of *pattern.Pattern) bool { return of.MatchString(text) }

func (r ReadRow) says(of *pattern.Pattern) bool { return of.MatchString(r.What) }

// alike are stems that people use for each other in a kitchen.
var alike = [][]string{
	{"weigh", "measur", "scale", "prepar", "collect", "ingredient"}, {"chop", "cut", "slic", "dic", "cub", "shred", "snip"}, {"mix", "combin", "stir", "blend", "fold", "add", "bring"},
	{"bak", "oven", "roast"}, {"fry", "brown", "saut", "soften", "soft", "sweat"}, {"boil", "simmer", "bubbl"}, {"rub", "crumb", "fingertip"}, {"whisk", "beat", "cream", "whip"},
	{"roll", "pat"}, {"line", "case"}, {"shap", "form", "mould", "ball"}, {"serv", "plate", "present", "garnish", "dish", "decorat"}, {"cool", "rack", "chill", "fridg"}, {"knead", "stretch"},
	{"prov", "rise", "rest"}, {"grat", "zest"}, {"peel", "skin"}, {"brush", "glaz"}, {"wash", "rins"}, {"mash", "crush"}, {"drain", "strain"}, {"spread", "spoon", "fill", "pour"},
}

var same = func() map[string]string {
	out := map[string]string{}
	for _, g := range alike {
		for _, w := range g {
			out[w] = g[0]
		}
	}
	return out
}()

var empty = strings.Fields("the a an to of in on into onto for with until and or out up off down it them my your our from at up put get make do some all is are then start begin finish")

// stems are the words of a text that say something, without their endings.
func stems(text string) []string {
	var out []string
	for _, w := range pantry.Words(text) {
		if slices.Contains(empty, w) || len(w) < 3 {
			continue
		}
		for _, ending := range []string{"ing", "ed", "es", "e", "s"} {
			if rest, ok := strings.CutSuffix(w, ending); ok && len(rest) >= 3 && strings.ContainsAny(rest, "aeiouy") {
				w = rest
				break
			}
		}
		if n := len(w); n > 3 && w[n-1] == w[n-2] { // chopped, rubbing
			w = w[:n-1]
		}
		if s, ok := same[w]; ok {
			w = s
		}
		out = append(out, w)
	}
	return out
}

// read takes rows for what they say.
func (c *checker) read(rows []Row) {
	for _, r := range rows {
		x := ReadRow{Row: r, DishID: c.dishOf(r), Sure: 1}
		switch {
		case handsWords.MatchString(r.What) && !washWords.MatchString(r.What):
			x.Means = WashHands
		case outWords.MatchString(r.What):
			x.Means = TakeOut
		case onWords.MatchString(r.What) && !strings.Contains(strings.ToLower(r.What), "in the oven") && !strings.Contains(strings.ToLower(r.What), "in oven") && !strings.Contains(strings.ToLower(r.What), "into the oven"):
			x.Means = TurnOn
		case washWords.MatchString(r.What):
			x.Means = WashUp
		}
		c.match(&x)
		c.out.Rows = append(c.out.Rows, x)
	}
}

// dishOf is the dish that a row says, by id, title or words; empty where it says none
// and there are several.
func (c *checker) dishOf(r Row) string {
	dishes := c.chosen()
	best, most := "", 0
	for _, d := range dishes {
		if r.Dish != "" && (strings.EqualFold(strings.TrimSpace(r.Dish), d.ID) || strings.EqualFold(strings.TrimSpace(r.Dish), d.Title)) {
			return d.ID
		}
		own := stems(d.Title + " " + strings.ReplaceAll(d.ID, "-", " "))
		n := 0
		for _, w := range stems(r.Dish + " " + r.What) {
			if slices.Contains(own, w) {
				n++
			}
		}
		if n > most {
			best, most = d.ID, n
		}
	}
	if best == "" && len(dishes) == 1 {
		return dishes[0].ID
	}
	return best
}

// named are the dishes that a cell names, where it names several.
func (c *checker) named(cell string) []string {
	var out []string
	for _, part := range apart.Split(cell, -1) {
		for _, d := range c.chosen() {
			if part != "" && (strings.EqualFold(part, d.ID) || strings.EqualFold(part, d.Title)) && !slices.Contains(out, title(d)) {
				out = append(out, title(d))
			}
		}
	}
	return out
}

// otherDish reports whether a cell names a dish, and none of these: letters and short forms
// may be theirs, and "both" or "me" is no dish.
func (c *checker) otherDish(cell string) bool {
	said := stems(cell)
	if len(said) == 0 || len(strings.TrimSpace(cell)) < 4 || noDish.MatchString(cell) {
		return false
	}
	return !slices.ContainsFunc(c.chosen(), func(d fit.Dish) bool {
		own := stems(d.Title + " " + strings.ReplaceAll(d.ID, "-", " "))
		for _, s := range d.Steps {
			own = append(own, stems(s.Label())...)
		}
		return slices.ContainsFunc(said, func(w string) bool { return slices.Contains(own, w) })
	})
}

var noDish = pattern.Must(`(?i)\b(?:all|both|every|everything|general|dish(?:es)?|menu|none|other|prep|preparation|cleaning|hygiene|safety|kitchen|myself|start|end|main|side|starter|dessert|accompaniments?|garnish|sauce|wash\w*)\b|\d`)

// A candidate is a step that a row could mean.
type candidate struct {
	dish  string
	step  fit.Step
	score float64
}

// leastScore is from when words are taken for a step, and nextScore for another in the
// same row.
const leastScore, nextScore = 0.34, 0.5

var (
	beside   = pattern.Must(`(?i)\b(?:while|whilst|during)\b[^,;]*`) // what goes on already
	comesOut = pattern.Must(`(?i)\bout$`)
	rolled   = pattern.Must(`(?i)\b(?:roll|weigh|lay|measure|cut|spread|set|press)`)
)

// match finds the steps of a row.
func (c *checker) match(x *ReadRow) {
	if x.Step != "" {
		for _, d := range c.chosen() {
			if (x.DishID == "" || x.DishID == d.ID) && slices.ContainsFunc(d.Steps, func(s fit.Step) bool { return s.ID == x.Step }) {
				x.DishID, x.Steps = d.ID, []string{x.Step}
				return
			}
		}
		c.find("row", []int{x.Line}, "", fmt.Sprintf("there is no step “%s”", words.Short(x.Step)), "leave it empty, or write the id of a step")
		return
	}
	if dish, step, ok := c.titled(x); ok {
		x.DishID, x.Steps = dish, []string{step}
		return
	}
	parts := apart.Split(beside.ReplaceAllString(x.What, ""), -1)
	if x.Means == TurnOn || x.Means == WashHands && len(parts) == 1 {
		return
	}
	if named := c.named(x.Dish); len(named) > 1 {
		x.DishID, x.Sure = "", 0
		c.out.Asks = append(c.out.Asks, Ask{x.Line, []string{}, fmt.Sprintf("this row is of %s: write one for each dish", words.Names(named))})
		return
	}
	if c.otherDish(x.Dish) {
		x.DishID, x.Sure = "", 0
		c.out.Asks = append(c.out.Asks, Ask{x.Line, []string{}, fmt.Sprintf("“%s” is none of these dishes: which of them is it?", words.Short(x.Dish))})
		return
	}
	sure := 1.0
	var unsure []candidate
	for i, p := range parts {
		if outWords.MatchString(p) || comesOut.MatchString(p) && !rolled.MatchString(p) {
			x.Means = TakeOut
			continue
		}
		if handsWords.MatchString(p) || i > 0 && washWords.MatchString(p) {
			continue
		}
		list := c.candidates(x.DishID, p)
		if len(list) == 0 {
			continue
		}
		best := list[0]
		rest := 0.0
		if len(list) > 1 {
			rest = list[1].score
		}
		this := best.score / (best.score + 0.6*rest + 0.15)
		if best.score < leastScore || i > 0 && best.score < nextScore || this < sureEnough {
			unsure = append(unsure, list[:min(3, len(list))]...)
			continue
		}
		if x.DishID == "" {
			x.DishID = best.dish
		}
		if best.dish == x.DishID && !slices.Contains(x.Steps, best.step.ID) {
			x.Steps = append(x.Steps, best.step.ID)
			sure = min(sure, this)
		}
	}
	if len(x.Steps) == 0 && x.Means == "" && len(parts) > 1 {
		if list := c.candidates(x.DishID, x.What); len(list) > 0 && list[0].score >= leastScore {
			x.DishID, x.Steps, sure = list[0].dish, []string{list[0].step.ID}, 0.6
		}
	}
	c.inOrder(x)
	x.Sure = math.Round(100*sure) / 100
	if len(x.Steps) > 0 || x.Means != "" {
		return
	}
	x.Sure = 0
	var steps []string
	for _, u := range unsure {
		if !slices.Contains(steps, u.step.ID) {
			steps = append(steps, u.step.ID)
		}
	}
	if strings.TrimSpace(x.What) == "" {
		c.find("row", []int{x.Line}, "", "it does not say what is done", "write what you do then")
		return
	}
	says := fmt.Sprintf("which step is “%s”?", words.Short(x.What))
	if len(steps) == 0 {
		says = fmt.Sprintf("“%s” is no step of these dishes that is known here: what is it?", words.Short(x.What))
	}
	if len(steps) == 0 && c.aside(x.What) {
		return // setting the table and the like is nobody's step
	}
	c.out.Asks = append(c.out.Asks, Ask{x.Line, steps, says})
}

// titled finds the one step that a row names by its title, whatever that sounds like.
func (c *checker) titled(x *ReadRow) (dish, step string, ok bool) {
	said, n := stems(x.What), 0
	for _, d := range c.chosen() {
		for _, s := range d.Steps {
			if (x.DishID == "" || x.DishID == d.ID) && len(said) > 0 && slices.Equal(stems(s.Title), said) {
				dish, step, n = d.ID, s.ID, n+1
			}
		}
	}
	return dish, step, n == 1
}

// aside is what every plan has and no recipe.
func (c *checker) aside(what string) bool {
	return asides.MatchString(what)
}

var asides = pattern.Must(`(?i)\b(?:apron|hair|hands|set (?:the )?table|lay (?:the )?table|collect|get ready|hand in|finish|end|photograph|evaluate|taste|serve|serving|present|plate|garnish)\b`)

// inOrder keeps the steps of a row in the order of the recipe.
func (c *checker) inOrder(x *ReadRow) {
	for _, d := range c.Dishes {
		if d.ID == x.DishID {
			place := map[string]int{}
			for i, s := range d.Steps {
				place[s.ID] = i
			}
			slices.SortStableFunc(x.Steps, func(a, b string) int { return cmp.Compare(place[a], place[b]) })
		}
	}
}

// candidates are the steps that words could mean, the likeliest first: by the share of
// the words that a step has, rarer ones more. What a row before it has said already is
// less likely.
func (c *checker) candidates(dish, text string) []candidate {
	said := stems(text)
	if len(said) == 0 {
		return nil
	}
	count := map[string]int{}
	type one struct {
		dish string
		step fit.Step
		ws   []string
	}
	var all []one
	for _, d := range c.chosen() {
		if dish != "" && d.ID != dish {
			continue
		}
		for _, s := range d.Steps {
			ws := stems(s.Label() + " " + strings.ReplaceAll(s.ID, "-", " "))
			if usesHeat(c.Lesson, s) && s.Wait.Sign() > 0 {
				ws = append(ws, "bak")
			}
			if s.Kind == fit.Rest || s.Kind == fit.Chill {
				ws = append(ws, stems("rest chill fridge")...)
			}
			if s.Kind == fit.Clean {
				ws = append(ws, "wash")
			}
			slices.Sort(ws)
			ws = slices.Compact(ws)
			for _, w := range ws {
				count[w]++
			}
			all = append(all, one{d.ID, s, ws})
		}
	}
	var out []candidate
	for _, o := range all {
		hit, whole := 0.0, 0.0
		for _, w := range said {
			weight := 0.4 // a word that no step has says little: an ingredient, a bowl
			if n := count[w]; n > 0 {
				weight = 1 / math.Sqrt(float64(n))
			}
			whole += weight
			if slices.Contains(o.ws, w) {
				hit += weight
			}
		}
		if hit == 0 {
			continue
		}
		score := hit / whole
		for _, r := range c.out.Rows {
			if r.DishID == o.dish && slices.Contains(r.Steps, o.step.ID) {
				score *= 0.6
				break
			}
		}
		out = append(out, candidate{o.dish, o.step, score})
	}
	slices.SortStableFunc(out, func(a, b candidate) int { return cmp.Compare(b.score, a.score) })
	return out
}
