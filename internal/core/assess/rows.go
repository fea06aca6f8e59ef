package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

var (
	outWords   = pattern.Must(`(?i)\b(?:take|taking|get|lift|bring|remove)s?\b.*\b(?:out|off|from (?:the )?oven)\b|\bout of (?:the )?oven\b|\bcomes? out\b`)
	onWords    = pattern.Must(`(?i)\b(?:pre-?heat|turn|switch|put|light|heat)\b.*\b(?:oven|ring|hob|grill)\b(?:.*\bon\b)?|\boven on\b|^\W*oven(?: to| at)? (?:gas (?:mark )?)?\d+\s*(?:°|degrees)?\s*c?\W*$|\bpre-?heat\b`)
	washWords  = pattern.Must(`(?i)\bwash(?:ing)?[- ]?(?:up|the dishes|dishes|equipment)\b|\bclean(?:ing)? (?:(?:my|the|our|all) )?(?:up|down|bench|surfaces?|kitchen|area|station|sinks?|worktops?|tables?|everything|as)|\bwipe|\bclear(?:ing)? (?:up|away)|\bwashing\b|\btidy`)
	handsWords = pattern.Must(`(?i)\bwash(?:ing)?(?: my| your| our)? hands\b|\bhands (?:and|washed)|\bhand[- ]?wash|\b(?:scrub|dry)(?:bing)? (?:my |your |our )?hands|\b(?:hair|aprons?)\b.*\bhands\b|\bhands\b.*\b(?:hair|aprons?)\b`)
	probeWords = pattern.Must(`(?i)\bprobe|\bcore temp|\bcheck (?:the )?temp|\bthermometer|\btemperature\b`)
	meats      = pattern.Must(`(?i)\b(?:chicken|turkey|beef|lamb|pork|mince|meat|bacon|sausage|kofta|fish|salmon|cod|haddock|prawn|burger|patt(?:y|ies))`)
	inside     = pattern.Must(`(?i)\bin(?:to)? (?:the )?oven`)
	offHeat    = pattern.Must(`(?i)\boff (?:the )?heat`)
	outPhrase  = pattern.Must(`(?i)\b(?:take|taking|get|lift|bring|remove|comes?)s?\b.*?\b(?:out|off|from (?:the )?oven)\b(?: of (?:the )?oven)?|\bout of (?:the )?oven\b|^\s*(?:out|remove)\b`)
	apart      = pattern.Must(`(?i)\s*(?:,|;|\band then\b|\bthen\b|\band\b|\+|&|/)\s*`)
)

// takesOut reports whether something is taken out of the oven, and not only off the heat.
func takesOut(text string) bool { return outWords.MatchString(text) && !offHeat.MatchString(text) }

func (r ReadRow) says(of *pattern.Pattern) bool { return of.MatchString(r.What) }

// read takes rows for what they say.
func (c *checker) read(rows []Row) {
	c.describe()
	var open []int
	for _, r := range rows {
		x := ReadRow{Row: r, DishID: c.dishOf(r), Sure: 1}
		switch what := longhand(r.What); {
		case handsWords.MatchString(what) && !washWords.MatchString(what):
			x.Means = WashHands
		case takesOut(what):
			x.Means = TakeOut
		case onWords.MatchString(what) && !inside.MatchString(what):
			x.Means = TurnOn
		case washWords.MatchString(what):
			x.Means = WashUp
		}
		if !c.match(&x) {
			open = append(open, len(c.out.Rows))
		}
		c.out.Rows = append(c.out.Rows, x)
	}
	for _, i := range open {
		c.settle(&c.out.Rows[i], i)
	}
	slices.SortStableFunc(c.out.Asks, func(a, b Ask) int { return cmp.Compare(a.Line, b.Line) })
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
		own := c.stems(d.Title + " " + strings.ReplaceAll(d.ID, "-", " "))
		n := 0
		if initials(r.Dish, d) && !slices.ContainsFunc(dishes, func(o fit.Dish) bool { return o.ID != d.ID && initials(r.Dish, o) }) {
			n = 1
		}
		for _, w := range c.stems(r.Dish + " " + r.What) {
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

// initials reports whether a cell is the first letters of some words of a dish, in their order.
func initials(cell string, d fit.Dish) bool {
	rest := strings.ToLower(strings.Trim(cell, " ."))
	if rest == "" || len(rest) > 3 {
		return false
	}
	for _, w := range strings.Fields(strings.ToLower(d.Title)) {
		if rest != "" && w[0] == rest[0] {
			rest = rest[1:]
		}
	}
	return rest == ""
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
	said := c.stems(cell)
	if len(said) == 0 || len(strings.TrimSpace(cell)) < 4 || noDish.MatchString(cell) {
		return false
	}
	return !slices.ContainsFunc(c.chosen(), func(d fit.Dish) bool {
		own := slices.Clone(c.stems(d.Title + " " + strings.ReplaceAll(d.ID, "-", " ")))
		for _, s := range d.Steps {
			own = append(own, c.stems(s.Label())...)
		}
		return slices.ContainsFunc(said, func(w string) bool { return slices.Contains(own, w) })
	})
}

var noDish = pattern.Must(`(?i)\b(?:all|both|every|everything|general|dish(?:es)?|menu|none|other|prep|preparation|cleaning|hygiene|safety|kitchen|myself|start|end|main|side|starter|dessert|accompaniments?|garnish|sauce|wash\w*)\b|\d`)

// A candidate is a step that words could mean.
type candidate struct {
	*profile
	score float64
}

const (
	leastScore = 0.42 // from when words are taken for a step
	nextScore  = 0.5  // and for another in the same row
	plainScore = 0.7  // and when what stands behind a heading is a step of its own
	weakScore  = 0.2  // and for one that nothing else is, between what is before it and after
	weakSure   = 0.5  // below what words alone are taken for
)

var (
	beside    = pattern.Must(`(?i)\b(?:while|whilst|during)\b[^,;]*`) // what goes on already
	watched   = pattern.Must(`(?i)\b(?:check|watch)(?:ing)?\b[^,;.]*|\b(?:keep )?stirring\b(?: (?:it|all the time|often|until|till)\b)?|\bstir (?:it|often|again|occasionally|(?:every )?now and)\b[^,;.]*`)
	tried     = pattern.Must(`(?i)season|tast|temp|probe`)
	comesOut  = pattern.Must(`(?i)(?:\bout|^\s*remove)\s*$`)
	rolled    = pattern.Must(`(?i)\b(?:roll|weigh|lay|measure|cut|spread|set|press)`)
	sentences = pattern.Must(`(?i)\s*(?:;|\.\s|[,.]?\s*\bthen\b)\s*`)
	stop      = pattern.Must(`(?i)\s*(?:[,:()]|\s[-–]\s|\band\b|\+|&|/)\s*`)
	headed    = pattern.Must(`^[^,;.:()]{2,40}?\s*(?::|\s[-–]\s|\()`)
)

// clauses are the parts of a row that each say something is done: what only names more things
// belongs to what comes before it.
func (c *checker) clauses(what string) []string {
	var out []string
	for _, sentence := range sentences.Split(unwatched(beside.ReplaceAllString(what, "")), -1) {
		out = append(out, c.parts(sentence)...)
	}
	return out
}

// unwatched leaves out what is only looked at, but for taste and temperature.
func unwatched(what string) string {
	return watched.ReplaceAllStringFunc(what, func(part string) string {
		if tried.MatchString(part) {
			return part
		}
		return ""
	})
}

func (c *checker) parts(sentence string) []string {
	var out []string
	for _, part := range stop.Split(sentence, -1) {
		switch part = strings.TrimSpace(part); {
		case part == "":
		case len(out) > 0 && len(c.meaning(part).acts) == 0 && !c.standsAlone(part) && !c.standsAlone(out[len(out)-1]):
			out[len(out)-1] += " " + part
		case len(out) > 0 && len(c.meaning(out[len(out)-1]).acts) == 0 && !c.standsAlone(out[len(out)-1]):
			out[len(out)-1] += " " + part
		default:
			out = append(out, part)
		}
	}
	return out
}

// standsAlone reports whether a part says that something comes out, or hands are washed.
func (c *checker) standsAlone(part string) bool {
	return takesOut(part) || comesOut.MatchString(part) || handsWords.MatchString(part)
}

// match finds the steps of a row. It reports false where it may be none, or one that only the
// rows around it can tell.
func (c *checker) match(x *ReadRow) bool {
	if x.Step != "" {
		for _, d := range c.chosen() {
			if (x.DishID == "" || x.DishID == d.ID) && slices.ContainsFunc(d.Steps, func(s fit.Step) bool { return s.ID == x.Step }) {
				x.DishID, x.Steps = d.ID, []string{x.Step}
				return true
			}
		}
		c.find("row", []int{x.Line}, "", fmt.Sprintf("there is no step “%s”", words.Short(x.Step)), "leave it empty, or write the id of a step")
		return true
	}
	if dish, step, ok := c.titled(x); ok && x.Means != TurnOn {
		x.DishID, x.Steps = dish, []string{step}
		return true
	}
	if strings.TrimSpace(x.What) == "" {
		x.Sure = 0
		c.find("row", []int{x.Line}, "", "it does not say what is done", "write what you do then")
		return true
	}
	clauses := c.clauses(x.What)
	if x.Means == TurnOn || x.Means == WashHands && len(clauses) == 1 {
		return true
	}
	if named := c.named(x.Dish); len(named) > 1 {
		c.ask(x, nil, fmt.Sprintf("this row is of %s: write one for each dish", words.Names(named)))
		x.DishID = ""
		return true
	}
	if c.otherDish(x.Dish) {
		c.ask(x, nil, fmt.Sprintf("“%s” is none of these dishes: which of them is it?", words.Short(x.Dish)))
		x.DishID = ""
		return true
	}
	if head := headed.FindString(x.What); head != "" && c.best(x.DishID, x.What[len(head):]) < plainScore && c.take(x, c.meaning(head), leastScore) {
		return true // what stands behind it says how
	}
	for i, p := range clauses {
		if takesOut(p) || comesOut.MatchString(p) && !rolled.MatchString(p) {
			x.Means = TakeOut
			p = outPhrase.ReplaceAllString(p, "")
			if len(c.meaning(p).acts) == 0 {
				continue
			}
		}
		if handsWords.MatchString(p) {
			continue
		}
		if x.Means == WashUp && washWords.MatchString(longhand(p)) {
			c.cleaning(x)
			continue
		}
		if i == 0 || len(x.Steps) == 0 {
			c.take(x, c.meaning(p), leastScore)
		} else {
			c.takeMore(x, c.meaning(p))
		}
	}
	c.inOrder(x)
	return len(x.Steps) > 0 || x.Means != ""
}

// cleaning adds the step of washing up, where there is one.
func (c *checker) cleaning(x *ReadRow) {
	var list []profile
	for _, p := range c.profiles {
		if p.step.Kind == fit.Clean && (x.DishID == "" || p.dish.ID == x.DishID) {
			list = append(list, p)
		}
	}
	if len(list) == 1 {
		x.DishID, x.Steps = list[0].dish.ID, append(x.Steps, list[0].step.ID)
	}
}

// best is the score of the step that a text most likely means.
func (c *checker) best(dish, text string) float64 {
	if list := c.candidates(dish, c.meaning(text)); len(list) > 0 {
		return list[0].score
	}
	return 0
}

// take adds the step that words mean to a row, where that is plain.
func (c *checker) take(x *ReadRow, m meaning, least float64) bool {
	list := c.candidates(x.DishID, m)
	if len(list) == 0 || list[0].score < least {
		return false
	}
	best := list[0]
	this := best.score / (best.score + 0.15)
	if len(list) > 1 {
		this = best.score / (best.score + 0.6*list[1].score + 0.15)
	}
	if this < sureEnough {
		return false
	}
	if x.DishID == "" {
		x.DishID = best.dish.ID
	}
	if best.dish.ID == x.DishID && !slices.Contains(x.Steps, best.step.ID) {
		x.Steps = append(x.Steps, best.step.ID)
		x.Sure = min(x.Sure, math.Round(100*this)/100)
	}
	return true
}

// takeMore adds a step that a row says behind others: where no thing tells which, it is one that
// can follow them.
func (c *checker) takeMore(x *ReadRow, m meaning) {
	before := len(x.Steps)
	if !c.take(x, m, nextScore) || len(m.things) > 0 || len(x.Steps) == before {
		return
	}
	last := x.Steps[before]
	for _, p := range c.profiles {
		if p.dish.ID != x.DishID || p.step.ID != last {
			continue
		}
		for _, a := range p.step.After {
			if a.Dish == "" && !slices.Contains(x.Steps, a.Step) && !slices.ContainsFunc(c.out.Rows, func(r ReadRow) bool { return r.DishID == x.DishID && slices.Contains(r.Steps, a.Step) }) {
				x.Steps = x.Steps[:before]
				return
			}
		}
	}
}

func (c *checker) ask(x *ReadRow, steps []string, says string) {
	x.Sure = 0
	c.out.Asks = append(c.out.Asks, Ask{x.Line, append([]string{}, steps...), says})
}

// settle takes a row that was not understood for the one step that its dish has between the rows
// around it and that it speaks of, or asks.
func (c *checker) settle(x *ReadRow, i int) {
	list := c.candidates(x.DishID, c.meaning(x.What))
	if x.DishID != "" && !c.aside(x.What) {
		var open []candidate
		for _, o := range list {
			if o.score >= weakScore && !c.done(o.profile) && c.between(o.profile, i) {
				open = append(open, o)
			}
		}
		if len(open) == 1 || len(open) > 1 && open[0].score > 1.5*open[1].score {
			x.Steps, x.Sure = []string{open[0].step.ID}, weakSure
			return
		}
	}
	var steps []string
	for _, o := range list[:min(3, len(list))] {
		if !slices.Contains(steps, o.step.ID) {
			steps = append(steps, o.step.ID)
		}
	}
	switch {
	case c.aside(x.What) && (len(list) == 0 || list[0].score < leastScore):
		x.Sure = 0 // setting the table and the like is nobody's step
	case len(steps) > 0:
		c.ask(x, steps, fmt.Sprintf("which step is “%s”?", words.Short(x.What)))
	default:
		c.ask(x, nil, fmt.Sprintf("“%s” is no step of these dishes that is known here: what is it?", words.Short(x.What)))
	}
}

// done reports whether a row says the step.
func (c *checker) done(p *profile) bool {
	return slices.ContainsFunc(c.out.Rows, func(r ReadRow) bool {
		return r.DishID == p.dish.ID && slices.Contains(r.Steps, p.step.ID)
	})
}

// between reports whether a step comes after what the row before of its dish says, and before
// what the next does.
func (c *checker) between(p *profile, row int) bool {
	place := func(id string) int {
		return slices.IndexFunc(p.dish.Steps, func(s fit.Step) bool { return s.ID == id })
	}
	own := place(p.step.ID)
	for i, r := range c.out.Rows {
		if r.DishID != p.dish.ID {
			continue
		}
		for _, id := range r.Steps {
			if at := place(id); i < row && c.needs(p.dish, id, p.step.ID) || i > row && c.needs(p.dish, p.step.ID, id) || i == row && at == own {
				return false
			}
		}
	}
	return true
}

// needs reports whether a step of a dish waits for another, itself or by what is between.
func (c *checker) needs(d fit.Dish, step, other string) bool {
	for _, s := range d.Steps {
		if s.ID != step {
			continue
		}
		for _, a := range s.After {
			if a.Dish == "" && (a.Step == other || c.needs(d, a.Step, other)) {
				return true
			}
		}
	}
	return false
}

// titled finds the one step that a row names by its title, whatever that sounds like.
func (c *checker) titled(x *ReadRow) (dish, step string, ok bool) {
	what, n := c.stems(x.What), 0
	for _, p := range c.profiles {
		if (x.DishID == "" || x.DishID == p.dish.ID) && len(what) > 0 && slices.Equal(c.stems(p.step.Title), what) {
			dish, step, n = p.dish.ID, p.step.ID, n+1
		}
	}
	return dish, step, n == 1
}

// aside is what every plan has and no recipe.
func (c *checker) aside(what string) bool {
	return asides.MatchString(longhand(what))
}

var asides = pattern.Must(`(?i)\b(?:apron|hair|hands|set (?:the )?table|lay (?:the )?table|collect|get (?:out|ready)|hand in|finish|end|photograph|evaluate|taste|serve|serving|present|plate|garnish)\b`)

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

const (
	actsAlone   = 0.9 // of a full score is what is done without to what
	thingsAlone = 0.85
	otherThings = 0.55 // how much is taken off what does the same to something else
	otherActs   = 0.4  // of it is left to what does something else to the same
	saidBefore  = 0.6
)

// candidates are the steps that words could mean, the likeliest first: by what is done and by
// the share of the things that a step has, those that few have counting more. What a row before
// has said already is less likely.
func (c *checker) candidates(dish string, m meaning) []candidate {
	if len(m.acts) == 0 && slices.Contains(m.things, "topping") { // it goes on
		m.acts = []act{"cover"}
	}
	var pool []*profile
	for i := range c.profiles {
		if p := &c.profiles[i]; dish == "" || p.dish.ID == dish {
			pool = append(pool, p)
		}
	}
	whole, weight := 0.0, make([]float64, len(m.things))
	for i, w := range m.things {
		have := 0.0
		for _, p := range pool {
			have += p.things[w]
		}
		if have > 0 {
			weight[i] = 1 / math.Sqrt(max(1, have))
			whole += weight[i]
		}
	}
	var out []candidate
	for _, p := range pool {
		of := 0.0
		for i, w := range m.things {
			of += weight[i] * p.things[w]
		}
		if whole > 0 {
			of /= whole
		}
		does, score := p.does(m.acts), 0.0
		if p.step.Kind == fit.Weigh && does == 1 {
			of = whole // everything is weighed
		}
		switch {
		case whole == 0 && !slices.ContainsFunc(m.acts, func(a act) bool { return !slices.Contains(sayLittle, a) }):
		case len(m.acts) == 0:
			score = thingsAlone * of
		case does == 0:
			score = otherActs * of
		case whole == 0:
			score = actsAlone * does
		case of == 0:
			score = actsAlone * does * (1 - otherThings*min(1, whole))
		default:
			score = does * (0.6 + 0.4*of)
		}
		if score == 0 {
			continue
		}
		if c.done(p) {
			score *= saidBefore
		}
		out = append(out, candidate{p, score})
	}
	slices.SortStableFunc(out, func(a, b candidate) int { return cmp.Compare(b.score, a.score) })
	return out
}
