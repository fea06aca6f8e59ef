package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/setting"
)

func (c *checker) stepsContradict() {
	if len(c.Steps) == 0 {
		return
	}
	for _, p := range c.planProblems() {
		c.add(p.Path, p.Path, "The planner can’t use this: "+p.Says+".", "Change what the step waits for or uses.", nil)
	}
}

func (c *checker) ovenSettingsDiffer() {
	var heatedTo *exact.Number
	for n, s := range c.Steps {
		if a, b, differ := setting.Contradiction(s.Text); differ {
			c.add(stepAt(n), s.Title, fmt.Sprintf("%s and %s are not the same: %s is about %s °C.", a.Says, b.Says, b.Says, b.Celsius.Decimal(0)),
				"Keep one of them; "+a.Says+" would be "+measure.Settings(a.Celsius)+".", nil)
			continue
		}
		said := setting.In(s.Text)
		turns := len(said) > 1 || turning.MatchString(s.Text)
		for _, u := range s.Uses {
			if u.Equipment != "oven" || u.Temperature == nil || len(said) == 0 || turns || s.WaitFrom == Said {
				continue
			}
			if to := said[0].Celsius.RoundTo(exact.Int(5)); to.Sub(*u.Temperature).Abs().Cmp(exact.Int(15)) > 0 {
				c.add(stepAt(n), s.Title, fmt.Sprintf("The text says %s °C, the step holds the oven at %s °C.", to.Decimal(0), u.Temperature.Decimal(0)),
					fmt.Sprintf("Hold it at %s °C.", to.Decimal(0)), func(r *Recipe) {
						r.Steps[n].Uses = slices.Clone(r.Steps[n].Uses)
						for k := range r.Steps[n].Uses {
							if r.Steps[n].Uses[k].Equipment == "oven" {
								r.Steps[n].Uses[k].Temperature = &to
							}
						}
					})
			}
		}
		// Heating to one temperature and baking at another.
		switch {
		case len(said) == 0:
		case heatOven.MatchString(s.Text):
			if heatedTo == nil {
				heatedTo = &said[0].Celsius
			}
		case heatedTo != nil && s.Kind == fit.Bake && !turns && !strings.Contains(s.Text, " lid ") && said[0].Celsius.Sub(*heatedTo).Abs().Cmp(exact.Int(25)) > 0:
			c.add(stepAt(n), s.Title+" heated", fmt.Sprintf("The oven is heated to %s °C, and this bakes at %s °C.", heatedTo.Decimal(0), said[0].Celsius.Decimal(0)), "Keep one of the two.", nil)
			heatedTo = &said[0].Celsius
		}
	}
}

// turning changes the heat of what is in the oven already.
var turning = pattern.Must(`(?i)\b(?:turn|lower|reduce|increase|raise|drop|then)\b`)

func (c *checker) ovenNoTemperature() {
	for n, s := range c.Steps {
		oven := s.Kind == fit.Bake || slices.ContainsFunc(s.Uses, func(u fit.Use) bool { return u.Equipment == "oven" })
		set := slices.ContainsFunc(s.Uses, func(u fit.Use) bool { return u.Temperature != nil })
		if oven && !set {
			c.add(stepAt(n), s.Title, "It bakes, and nobody is told how hot the oven is.", "Write the temperature, for instance “oven 190 °C while waiting”.", nil)
		}
	}
}

var heatsOven = pattern.Must(`(?i)(pre-?heat|heat|turn on|switch on|set)\b[^.]*\boven|oven[^.]*\b(on|hot|heated|heat)\b|\bhot oven\b|(?:^|[.;:–-]\s+)oven(?: up| to| at| on| fan)*\s+(?:gas|mark|fan|\d{3})`)

func (c *checker) ovenNotHeated() {
	baking := slices.IndexFunc(c.Steps, func(s Step) bool { return s.Kind == fit.Bake })
	if baking < 0 || slices.ContainsFunc(c.Steps, func(s Step) bool { return heatsOven.MatchString(s.wording()) }) {
		return
	}
	sentence := "Heat the oven."
	for _, u := range c.Steps[baking].Uses {
		if u.Temperature != nil {
			sentence = fmt.Sprintf("Heat the oven to %s.", measure.Settings(*u.Temperature))
		}
	}
	c.add(stepAt(0), "oven", "No step has the oven heated before it is needed.", fmt.Sprintf("Begin the first step with “%s”", sentence), func(r *Recipe) {
		r.Steps[0].Text = strings.TrimSpace(sentence + " " + r.Steps[0].Text)
	})
}

// timesDiffer compares what a step's text says with what it holds.
func (c *checker) timesDiffer() {
	const slack = 0.2
	for n, s := range c.Steps {
		said := c.minutesIn(n)
		if s.Wait.Sign() == 0 || len(said) == 0 || s.WaitFrom == Said || s.WaitFrom == Typical {
			continue // taken from the text itself
		}
		total := exact.Number{}
		agrees := false
		for _, m := range said {
			total = total.Add(m)
			agrees = agrees || math.Abs(m.Float()-s.Wait.Float()) <= max(1, slack*s.Wait.Float())
		}
		if agrees || math.Abs(total.Float()-s.Wait.Float()) <= max(1, slack*s.Wait.Float()) || len(said) > 2 || said[0].Less(exact.Int(2)) {
			continue
		}
		longest := slices.MaxFunc(said, exact.Number.Cmp)
		c.add(stepAt(n), s.Title, fmt.Sprintf("The text says %s min, the step waits %s min.", longest.Decimal(1), s.Wait.Decimal(1)),
			fmt.Sprintf("Let it wait %s min.", longest.Decimal(1)), func(r *Recipe) { r.Steps[n].Wait = longest })
	}
}

// totalTimeDiffers compares the minutes that the recipe claims with what its
// own steps take one pair of learners.
func (c *checker) totalTimeDiffers() {
	if c.Minutes == 0 || len(c.Steps) == 0 {
		return
	}
	takes, ok := c.Recipe.InAll(2)
	if !ok || math.Abs(takes-float64(c.Minutes)) <= max(10, 0.25*takes) {
		return
	}
	whole := int(math.Round(takes))
	c.add("minutes", "", fmt.Sprintf("It says %d min in all, and its steps take a pair %d min.", c.Minutes, whole),
		fmt.Sprintf("Write %d min.", whole), func(r *Recipe) { r.Minutes = whole })
}

var probes = pattern.Must(`(?i)\b(?:probe|thermometer|core temperature)\b|\b[6-9]\d(?: ?\+| ?(?:°|deg(?:rees)?|c\b) ?c?(?: ?\+| or (?:over|more|above))?),? (?:\()?(?:inside|in (?:the|its) (?:middle|centre|center|core|thickest)|(?:at|all the way) (?:the|through)|right through)\b|\b(?:above|over|at least|reach(?:es)?) (?:6[3-9]|[78]\d) ?(?:°|deg(?:rees)?\b|c\b)|\bpiping hot,? [6-9]\d ?(?:°|deg(?:rees)?\b|c\b)`)

// noProbing asks for the core temperature of raw meat and fish. The figure is
// the school's; the sentence of the mend names the one that is usual.
func (c *checker) noProbing() {
	raw := c.Raw(c.pantry)
	if len(raw) == 0 || slices.ContainsFunc(c.Steps, func(s Step) bool { return probes.MatchString(s.wording()) }) {
		return
	}
	at := -1
	for n, s := range c.Steps {
		if s.Kind == fit.Cook || s.Kind == fit.Bake {
			at = n
		}
	}
	var fix func(*Recipe)
	where := "steps"
	if at >= 0 {
		where = stepAt(at)
		fix = func(r *Recipe) {
			s := &r.Steps[at]
			s.LookFor = strings.TrimPrefix(s.LookFor+"; the probe shows 75 °C for 30 seconds in the thickest part, or what your school’s rules ask", "; ")
		}
	}
	c.add(where, "probe", fmt.Sprintf("Cooked from raw: %s. No step checks the middle with a probe.", listed(raw)),
		"Add the check with the probe to the last cooking step; your local code says which temperature.", fix)
}

var washes = pattern.Must(`(?i)\b(wash|scrub|clean|soap)\w*\b`)

func (c *checker) rawHygiene() {
	raw := c.Raw(c.pantry)
	if len(raw) == 0 {
		return
	}
	for _, s := range c.Steps {
		text := s.wording()
		if washes.MatchString(text) && (strings.Contains(strings.ToLower(text), "raw") || speaksOf(text, raw)) {
			return
		}
	}
	at := max(0, slices.IndexFunc(c.Steps, func(s Step) bool { return speaksOf(s.wording(), raw) }))
	var fix func(*Recipe)
	if len(c.Steps) > 0 {
		fix = func(r *Recipe) {
			s := &r.Steps[at]
			s.Hazard = strings.TrimSpace(s.Hazard + " Raw meat and fish: a board of their own; then wash hands, board and knife in hot soapy water.")
		}
	}
	c.add(stepAt(at), "raw", fmt.Sprintf("Raw: %s. Nothing says how hands, board and knife get clean afterwards.", listed(raw)),
		"Add the caution to the first step that touches it.", fix)
}

// speaksOf reports whether a text has a word of one of the names.
func speaksOf(text string, names []string) bool {
	ws := pantry.Words(text)
	return slices.ContainsFunc(names, func(n string) bool {
		return slices.ContainsFunc(pantry.Folded(n), func(w string) bool { return slices.Contains(ws, w) })
	})
}

var endSigns = pattern.Must(`(?i)\b(until|golden|brown|tender|soft|set|thick|cooked through|bubbl|see-through|translucent|melted|smooth|risen|springs?|hollow|clean)\b`)

func (c *checker) noEndSign() {
	for n, s := range c.Steps {
		if (s.Kind == fit.Bake || s.Kind == fit.Cook) && s.LookFor == "" && !endSigns.MatchString(s.Text) {
			c.add(stepAt(n), s.Title, fmt.Sprintf("“%s” does not say what to look for, only how long.", s.Title), "Write what it looks, feels or sounds like when it is done.", nil)
		}
	}
}

func (c *checker) noCaution() {
	for n, s := range c.Steps {
		if s.Kind == fit.Clean || s.Kind == fit.Weigh || s.Kind == fit.Serve {
			continue
		}
		text := strings.ToLower(s.Title + ". " + s.Text)
		for _, k := range cautions {
			if !k.in(text) || s.Hazard != "" || k.danger == HotOven && s.Kind != fit.Bake {
				continue
			}
			c.add(stepAt(n), s.Title, fmt.Sprintf("“%s” has %s in it and no word of care.", s.Title, k.danger.Name()), "Add: "+k.caution,
				func(r *Recipe) { r.Steps[n].Hazard = k.caution })
			break
		}
	}
}

// tools by the words of a step that ask for them; a list that names one of
// the words has it.
var tools = []struct{ name, asks, has string }{
	{"rolling pin", `roll(?:ing)? (?:it |them |the \w+ |each )*(?:out|as thin|to \d)|rolling pin|with a floured pin`, `rolling pin`},
	{"whisk", `\bwhisk`, `whisk`},
	{"sieve", `\bsie?ve|\bsift`, `sieve|sifter`},
	{"grater", `\bgrate\b|\bgrater`, `grater`},
	{"peeler", `\bpeel(?:er)?\b`, `peeler|vegetable knife|knife`},
	{"chopping board and knife", `\b(?:chop|dice|slice)\b`, `knife|scissors|cutter`},
	{"pastry brush", `\bbrush the|\bbrush with|pastry brush`, `brush`},
	{"baking tray", `baking (?:tray|sheet)|on(?:to)? (?:a|the|your) (?:lined |greased |floured )*tray`, `tray|sheet`},
	{"muffin tin", `muffin|bun tin|tartlet tin`, `tin`},
	{"cake tin", `cake tin|sandwich tin`, `tin`},
	{"loaf tin", `loaf tin`, `tin`},
	{"saucepan", `\b(?:simmer|saucepan|boil the|bring to the boil)`, `pans?\b|pots?\b|casserole|wok`},
	{"frying pan", `\b(?:fry|frying pan|saut[eé])`, `pans?\b|wok|griddle`},
	{"griddle or frying pan", `\bgriddle`, `griddle|pans?\b`},
	{"colander", `\bcolander|\bdrain the`, `colander|sieve|lid`},
	{"cooling rack", `cooling rack|on(?:to)? (?:a|the) rack`, `rack`},
	{"cutter", `\bcutter`, `cutter`},
	{"measuring jug", `measuring jug|in the jug`, `jug`},
	{"masher", `\bmash\b|masher`, `masher|fork|ricer`},
	{"stick blender", `stick blender|\bblend until`, `blender|processor`},
	{"probe", `\bprobe\b`, `probe|thermometer`},
	{"mixing bowl", `mixing bowl|large bowl|\bcream the|\brub (?:in |the (?:fat|butter|marg|lard))`, `bowl|basin`},
}

type tool struct {
	name      string
	asks, has *pattern.Pattern
}

var toolRules = func() []tool {
	var out []tool
	for _, t := range tools {
		if t.asks != "" {
			out = append(out, tool{t.name, pattern.Must(t.asks), pattern.Must(`(?i)` + t.has)})
		}
	}
	return out
}()

// needs returns the tools that the steps ask for, and the first step that
// asks for each.
func (r Recipe) needs() (list []tool, at []int) {
	var all strings.Builder
	ends := make([]int, len(r.Steps)) // of each step's words in all of them
	for n, s := range r.Steps {
		all.WriteString(strings.ToLower(s.Title + ". " + s.Text + ". " + s.LookFor + "\n"))
		ends[n] = all.Len()
	}
	for _, t := range toolRules {
		if m := t.asks.FindStringIndex(all.String()); m != nil {
			n, _ := slices.BinarySearch(ends, m[0]+1)
			list, at = append(list, t), append(at, n)
		}
	}
	return list, at
}

func (c *checker) equipmentMissing() {
	needs, at := c.needs()
	if len(c.Equipment) == 0 {
		var all []string
		for _, t := range needs {
			all = append(all, t.name)
		}
		if len(all) > 0 {
			c.add("equipment", "", fmt.Sprintf("There is no list of equipment; the steps ask for %s.", listed(all)), "Make the list from the steps.", func(r *Recipe) { r.Equipment = all })
		}
		return
	}
	for i, t := range needs {
		if slices.ContainsFunc(c.Equipment, t.has.MatchString) {
			continue
		}
		c.add(stepAt(at[i]), t.name, fmt.Sprintf("“%s” asks for a %s, which is not in the list of equipment.", c.Steps[at[i]].Title, t.name),
			"Add it to the list.", func(r *Recipe) { r.Equipment = append(r.Equipment, t.name) })
	}
}

var handsWashed = pattern.Must(`(?i)\bwash\w*\b[^.]{0,30}\bhands\b|\bhands\b[^.]{0,30}\b(?:wash|clean)`)

func (c *checker) noHandWashing() {
	if len(c.Steps) == 0 || slices.ContainsFunc(c.Steps, func(s Step) bool { return handsWashed.MatchString(s.Title + ". " + s.Text) }) {
		return
	}
	c.add(stepAt(0), "hands", "No step has hands washed.", "Begin with washing hands.", func(r *Recipe) {
		r.Steps[0].Text = strings.TrimSpace("Wash your hands for 20 seconds, tie hair back, put the apron on. " + r.Steps[0].Text)
	})
}

var clears = pattern.Must(`(?i)\b(wash(?:ing)?[ -]up|wipe|clear (?:away|down|up)|clean (?:up|down|the bench)|tidy|put away)\b`)

func (c *checker) noClearing() {
	if len(c.Steps) == 0 || slices.ContainsFunc(c.Steps, func(s Step) bool { return s.Kind == fit.Clean || clears.MatchString(s.wording()) }) {
		return
	}
	c.add("steps", "clearing", "No step clears up, and clearing takes as long as weighing.", "Add a last step of 7 minutes for washing up.", func(r *Recipe) {
		s := Step{Text: "Wash up in hot soapy water, greasy things last. Wipe the bench, count the knives in."}
		s.ID = Slug("wash up", func(id string) bool { return slices.ContainsFunc(r.Steps, func(s Step) bool { return s.ID == id }) })
		s.Title, s.Kind, s.Work, s.Cooks, s.Shareable, s.Adult = "Wash up and wipe down", fit.Clean, exact.Int(7), 1, true, fit.NoAdult
		if n := len(r.Steps); n > 0 {
			s.After = []fit.After{{Step: r.Steps[max(0, n-2)].ID}}
		}
		r.Steps = append(r.Steps, s)
	})
}

// allergenNotDeclared compares the declared allergens with the ingredients.
func (c *checker) allergenNotDeclared() {
	known, _ := c.Allergens(c.pantry)
	var missing []string
	for _, a := range known {
		says := pantry.Fourteen.Declare([]pantry.Allergen{a})
		declared := slices.ContainsFunc(c.Contains, func(text string) bool {
			text = strings.ToLower(text)
			return text != "" && (strings.Contains(text, string(a)) || strings.Contains(says[0], text) || strings.Contains(text, "gluten") && strings.Contains(says[0], "gluten") && strings.Contains(text, "cereal"))
		})
		if !declared {
			missing = append(missing, string(a))
		}
	}
	if len(missing) == 0 {
		return
	}
	c.add("contains", strings.Join(missing, " "), fmt.Sprintf("It does not declare %s.", listed(missing)), "Add "+listed(missing)+" to what it contains.", func(r *Recipe) {
		r.Contains = append(r.Contains, missing...)
	})
}

// InAll returns the minutes that a group of so many learners takes for the
// yield when nothing else keeps it waiting, and whether that can be planned.
func (r Recipe) InAll(cooks int) (float64, bool) { return r.InAllFor(cooks, max(1, r.Yield)) }

// InAllFor is InAll for another number of pieces.
func (r Recipe) InAllFor(cooks, pieces int) (float64, bool) {
	l := r.lone(cooks)
	l.Dishes[0] = r.Dish(pieces)
	plan, err := fit.Solve(l, fit.Options{Budget: 1, Runs: 1})
	if err != nil || plan.Conflicts != nil {
		return 0, false
	}
	return plan.Finish, true
}
