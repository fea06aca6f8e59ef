// Package recipetext reads and writes recipes as text: Markdown that keeps
// everything a recipe has and that people can read and edit, and the plain
// text that they paste. What is not understood is kept and named, never
// dropped.
package recipetext

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

// A Reading is a recipe as it was read, with what somebody should look at.
type Reading struct {
	Recipe recipe.Recipe
	Takes  []recipe.Taking // how each ingredient line was taken
	Notes  []string        // what was not understood or is only supposed
}

// maxLines bounds a text; no recipe is longer.
const maxLines = 3000

// section of a text.
type section int

const (
	preface section = iota
	ingredients
	method
	equipment
	checks
	words
	questions
	swaps
	choice
	aside
	other
)

// headings by the words that begin them.
var headings = []struct {
	is    section
	words *pattern.Pattern
}{
	{ingredients, pattern.Must(`(?i)^(?:the )?(?:ingredients?|you(?:'ll| will)? need|shopping list|what you need)\b`)},
	{method, pattern.Must(`(?i)^(?:the )?(?:method|steps|directions?|instructions?|preparation|procedure|how to make(?: it)?|what to do|to make)\b`)},
	{equipment, pattern.Must(`(?i)^(?:equipment|utensils|tools|kit)\b`)},
	{checks, pattern.Must(`(?i)^checks?(?: on the way)?\b`)},
	{words, pattern.Must(`(?i)^(?:words|science words|vocabulary|glossary)\b`)},
	{questions, pattern.Must(`(?i)^questions?\b`)},
	{swaps, pattern.Must(`(?i)^(?:swaps?|substitutions?|variations?)\b`)},
	{choice, pattern.Must(`(?i)^choose \d+`)},
	{aside, pattern.Must(`(?i)^set aside\b`)},
	{other, pattern.Must(`(?i)^(?:not understood|notes?|tips?|nutrition|storage)\b`)},
}

var (
	headingMark = pattern.Must(`^(#{1,6})\s+(.*?)\s*#*$`)
	listMark    = pattern.Must(`(?i)^\s*(?:[-*•+]|\d{1,2}[.)]|step \d{1,2}[:.)]?)\s+`)
	braces      = pattern.Must(`\s*\{([^{}]*)\}\s*$`)
	idMark      = pattern.Must(`\s*\{#([^\s{}]+)\}\s*$`)
	emphasis    = pattern.Must(`^[*_]([^*_].*)[*_]$`)
	stepNumber  = pattern.Must(`(?i)^(?:\d{1,2}[.)]|step \d{1,2}[:.)]?)\s*`)
)

type reader struct {
	Reading
	sys    measure.System
	pantry *pantry.Pantry

	in       section
	part     string
	step     *recipe.Step // being read, of the Markdown kind
	timed    bool         // its timing has been given
	ownTimes bool         // some step has a timing of its own
	loose    []string     // lines before any heading
	prose    []string     // lines of the method that are no steps of their own
}

// lineEnds makes one of the ways to end a line of all three.
var lineEnds = strings.NewReplacer("\r\n", "\n", "\r", "\n")

// Read reads a recipe from text. It never fails: what it can't place is in
// the recipe's Leftover and in the Notes.
func Read(text string, sys measure.System, p *pantry.Pantry) Reading {
	if text = lineEnds.Replace(text); !own.MatchString(text) {
		return brought(text, sys, p)
	}
	r := &reader{sys: sys, pantry: p}
	lines := strings.Split(text, "\n")
	if len(lines) > maxLines {
		r.note("The text has %d lines; only the first %d are read.", len(lines), maxLines)
		lines = lines[:maxLines]
	}
	for _, line := range lines {
		r.line(line)
	}
	r.endStep()
	r.sortLoose()
	r.finish()
	return r.Reading
}

// brought reads a recipe as people bring it.
func brought(text string, sys measure.System, p *pantry.Pantry) Reading {
	read := reading.Read(text, &sys, p)
	out := Reading{}
	out.Recipe, out.Notes = read.Recipe()
	for _, i := range read.Ingredients {
		out.Takes = append(out.Takes, i.Taking)
	}
	return out
}

func (r *reader) note(format string, args ...any) {
	r.Notes = append(r.Notes, fmt.Sprintf(format, args...))
}

// line reads one line of the text.
func (r *reader) line(line string) {
	trimmed := strings.TrimSpace(line)
	if trimmed == "" {
		return
	}
	if m := headingMark.FindStringSubmatch(trimmed); m != nil {
		r.heading(len(m[1]), strings.TrimSpace(m[2]))
		return
	}
	if s, ok := plainHeading(trimmed); ok {
		r.endStep()
		r.in, r.part = s, ""
		return
	}
	if r.Recipe.Title == "" && r.in == preface && len(r.loose) == 0 && !measure.Read(trimmed, r.sys).Given && !r.fact(trimmed) {
		r.Recipe.Title = strings.Trim(trimmed, "*_ ")
		return
	}
	item := listMark.ReplaceAllString(trimmed, "")
	isItem := item != trimmed
	switch r.in {
	case preface:
		if !r.fact(strings.TrimPrefix(item, "*")) {
			r.loose = append(r.loose, trimmed)
		}
	case ingredients:
		r.ingredient(trimmed, item)
	case method:
		r.methodLine(trimmed, item, isItem)
	case equipment:
		for _, e := range strings.Split(item, ";") {
			r.Recipe.Equipment = append(r.Recipe.Equipment, strings.TrimSpace(e))
		}
	case checks:
		r.Recipe.Checks = append(r.Recipe.Checks, item)
	case words:
		word, meaning, ok := strings.Cut(item, ":")
		if !ok {
			r.leftover(trimmed)
			return
		}
		r.Recipe.Words = append(r.Recipe.Words, recipe.Word{Word: strings.Trim(word, "* "), Meaning: strings.Trim(meaning, "* ")})
	case questions:
		r.question(item)
	case swaps:
		r.swap(item, trimmed)
	case choice:
		r.option(item, trimmed)
	case aside:
		if key, reason, ok := strings.Cut(item, ":"); ok {
			r.Recipe.SetAside = append(r.Recipe.SetAside, recipe.Aside{Key: strings.TrimSpace(key), Reason: strings.TrimSpace(reason)})
		}
	default:
		r.leftover(item)
	}
}

func (r *reader) leftover(text string) { r.Recipe.Leftover = append(r.Recipe.Leftover, text) }

// plainHeading recognises "Ingredients:" or "METHOD" alone on a line.
func plainHeading(line string) (section, bool) {
	text := strings.Trim(line, "*_: ")
	if len(text) > 40 || strings.ContainsAny(text, "0123456789½¼,") {
		return 0, false
	}
	for _, h := range headings {
		if m := h.words.FindString(text); m != "" && strings.TrimSpace(text[len(m):]) == "" && h.is != choice {
			return h.is, true
		}
	}
	return 0, false
}

func (r *reader) heading(level int, text string) {
	if level == 1 && r.Recipe.Title == "" {
		r.Recipe.Title = text
		return
	}
	if r.in == method && level >= 3 {
		r.startStep(text)
		return
	}
	if r.in == ingredients && level >= 3 {
		r.part = text
		return
	}
	for _, h := range headings {
		if h.words.MatchString(text) {
			r.endStep()
			r.in, r.part = h.is, ""
			if h.is == choice {
				r.startChoice(text)
			}
			return
		}
	}
	if r.in == preface && r.Recipe.Title == "" {
		r.Recipe.Title = text
		return
	}
	r.endStep()
	r.in = other
	r.leftover(text)
}

var (
	number = pattern.Must(`\d+`)
	colon  = pattern.Must(`^\*{0,2}([\pL -]{3,20}?)\*{0,2}:\*{0,2}\s*(.+)$`)
	// own are the signs of a text that this package has written, or somebody
	// in its notation.
	own = pattern.Must(`(?m)\{#[^\s{}]+\}|^### .*\n+[*_]|^##\s+(?:Swaps|Questions|Words|Checks on the way|Set aside|Choose \d+)\b|^- .*\{(?:is |taste|fixed|whole|surface|brought|optional)`)
)

// SetYield reads how many a recipe serves or makes.
func SetYield(r *recipe.Recipe, text string) bool { return reading.SetYield(r, text) }

// fact reads a line such as "Makes: 8 scones" before the first heading.
func (r *reader) fact(line string) bool {
	line = strings.TrimSpace(strings.Trim(line, "*_"))
	if SetYield(&r.Recipe, line) {
		return true
	}
	m := colon.FindStringSubmatch(line)
	if m == nil {
		return false
	}
	value := strings.TrimSpace(m[2])
	whole := func(into *int) bool {
		n, err := strconv.Atoi(number.FindString(value))
		*into = n
		return err == nil
	}
	switch strings.ToLower(m[1]) {
	case "makes", "yield", "yields", "serves", "servings", "portions":
		return SetYield(&r.Recipe, "Makes "+value) || SetYield(&r.Recipe, "Serves "+value) || SetYield(&r.Recipe, value)
	case "each learner":
		return whole(&r.Recipe.Each)
	case "level":
		r.Recipe.Level = value
	case "skills":
		r.Recipe.Skills = commas(value)
	case "contains", "allergens":
		r.Recipe.Contains = commas(strings.TrimSuffix(value, "."))
	case "source":
		r.Recipe.Source = value
	case "units":
		sys, ok := measure.SystemOf(strings.ToLower(value))
		if ok {
			r.sys, r.Recipe.Units = sys, sys.Name
		}
		return ok
	case "tin":
		return r.tin(value)
	case "minutes in all", "total time", "total", "time":
		total := exact.Number{}
		for _, n := range recipe.MinutesIn(value) {
			total = total.Add(n)
		}
		r.Recipe.Minutes = int(total.Round())
		return r.Recipe.Minutes > 0
	case "why":
		r.Recipe.Why = value
	default:
		return false
	}
	return true
}

var (
	roundTin = pattern.Must(`(?i)^(.+?),?\s+(\d+(?:\.\d+)?) cm across(?:, (\d+(?:\.\d+)?) cm deep)?(?:, (\d+) of them)?$`)
	longTin  = pattern.Must(`(?i)^(.+?),?\s+(\d+(?:\.\d+)?)\s*[x×]\s*(\d+(?:\.\d+)?) cm(?:, (\d+(?:\.\d+)?) cm deep)?(?:, (\d+) of them)?$`)
)

// ParseTin reads "sandwich tin, 18 cm across" or "roll tin, 30 × 20 cm, 2 cm
// deep, 2 of them".
func ParseTin(s string) (*recipe.Tin, bool) {
	n := func(text string) exact.Number {
		v, _ := exact.Parse(text)
		return v
	}
	if m := roundTin.FindStringSubmatch(s); m != nil {
		count, _ := strconv.Atoi(m[4])
		return &recipe.Tin{Name: m[1], Diameter: n(m[2]), Depth: n(m[3]), Count: count}, true
	}
	if m := longTin.FindStringSubmatch(s); m != nil {
		count, _ := strconv.Atoi(m[5])
		return &recipe.Tin{Name: m[1], Length: n(m[2]), Width: n(m[3]), Depth: n(m[4]), Count: count}, true
	}
	return nil, false
}

func (r *reader) tin(s string) bool {
	t, ok := ParseTin(s)
	r.Recipe.Tin = t
	return ok
}

func commas(s string) []string {
	var out []string
	for _, part := range strings.Split(s, ",") {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// ingredient reads a line of the list. Braces at its end override how it is
// taken: {taste, other, packed, brought, is plain-flour}.
func (r *reader) ingredient(line, item string) {
	if name, ok := recipe.Heading(strings.Trim(line, "*_ ")); ok {
		r.part = strings.Trim(name, "*_ ")
		return
	}
	extra := ""
	if m := braces.FindStringSubmatchIndex(item); m != nil {
		extra, item = item[m[2]:m[3]], item[:m[0]]
	}
	if strings.HasPrefix(strings.TrimSpace(line), "-") && !strings.HasPrefix(strings.TrimSpace(line), "- ") {
		item = strings.TrimSpace(line)
	}
	t := recipe.TakeLine(item, r.part, r.sys, r.pantry)
	for _, word := range commas(extra) {
		r.override(&t.Ingredient, word)
	}
	if stock, ok := r.pantry.Find(t.Ingredient.Pantry); ok {
		t.Match.Certain, t.Match.Ingredient = true, stock
	}
	r.Takes = append(r.Takes, t)
	r.Recipe.Ingredients = append(r.Recipe.Ingredients, t.Ingredient)
}

func (r *reader) override(i *recipe.Ingredient, word string) {
	if id, ok := strings.CutPrefix(word, "is "); ok {
		i.Pantry = id
		return
	}
	switch {
	case slices.Contains(recipe.Laws, recipe.Law(word)):
		i.Law = recipe.Law(word)
	case slices.Contains(pantry.Roles, pantry.Role(word)):
		i.Role = pantry.Role(word)
	case word == "brought":
		i.Brought = true
	case word == "optional":
		i.Optional = true
	default:
		i.Filling = word
	}
}

func (r *reader) question(item string) {
	ask, answer, ok := strings.Cut(item, " → ")
	if !ok {
		ask, answer, ok = strings.Cut(item, " -> ")
	}
	if !ok {
		if i := strings.Index(item, "? "); i >= 0 {
			ask, answer = item[:i+1], item[i+2:]
		}
	}
	q := recipe.Question{Ask: strings.TrimSpace(ask), Answer: strings.TrimSpace(answer)}
	if spot, ok := strings.CutPrefix(q.Ask, "Spot the mistake: "); ok {
		q.Ask, q.Spot = spot, true
	}
	r.Recipe.Questions = append(r.Recipe.Questions, q)
}

var swapLine = pattern.Must(`^(.+?) → (.+?)(?: \(([^()]+)\))?(?:: (.+))?$`)

func (r *reader) swap(item, line string) {
	m := swapLine.FindStringSubmatch(strings.ReplaceAll(item, " -> ", " → "))
	if m == nil {
		r.leftover(line)
		return
	}
	r.Recipe.Swaps = append(r.Recipe.Swaps, recipe.Swap{For: m[1], Use: m[2], Why: m[3], Note: m[4]})
}

var choiceHead = pattern.Must(`(?i)^choose (\d+)(?: of)?:?\s*(.*)$`)

func (r *reader) startChoice(text string) {
	m := choiceHead.FindStringSubmatch(text)
	n, _ := strconv.Atoi(m[1])
	r.Recipe.Choices = append(r.Recipe.Choices, recipe.Choice{Name: m[2], Take: n})
}

var optionLine = pattern.Must(`^\*{0,2}([^:*]+)\*{0,2}:\*{0,2}\s*(.+)$`)

func (r *reader) option(item, line string) {
	m := optionLine.FindStringSubmatch(item)
	if m == nil {
		r.leftover(line)
		return
	}
	o := recipe.Option{Name: strings.TrimSpace(m[1])}
	c := &r.Recipe.Choices[len(r.Recipe.Choices)-1]
	for _, part := range strings.Split(m[2], ";") {
		o.Ingredients = append(o.Ingredients, recipe.TakeLine(part, c.Name, r.sys, r.pantry).Ingredient)
	}
	c.Options = append(c.Options, o)
}

// startStep begins a step under a heading of its own.
func (r *reader) startStep(title string) {
	r.endStep()
	s := recipe.Step{}
	if m := idMark.FindStringSubmatchIndex(title); m != nil {
		s.ID, title = title[m[2]:m[3]], title[:m[0]]
	}
	s.Title = stepNumber.ReplaceAllString(title, "")
	r.step, r.timed = &s, false
}

func (r *reader) endStep() {
	if r.step == nil {
		return
	}
	s := *r.step
	r.step = nil
	if !r.timed {
		reading.Guess(&s, r.pantry)
		r.supposed(s)
	}
	r.Recipe.Steps = append(r.Recipe.Steps, s)
}

// supposed notes a step whose minutes nobody wrote.
func (r *reader) supposed(s recipe.Step) {
	if len(recipe.MinutesIn(s.Text)) == 0 {
		r.note("“%s”: no minutes are given; %s min of work is a typical figure.", s.Title, s.Work.Decimal(0))
	}
}

func (r *reader) methodLine(line, item string, isItem bool) {
	if r.step == nil {
		r.prose = append(r.prose, item)
		return
	}
	s := r.step
	if m := emphasis.FindStringSubmatch(line); m != nil && !r.timed {
		for _, p := range recipe.ParseTiming(m[1], s) {
			r.note("Step “%s”: %s.", s.Title, p.Says)
		}
		r.timed, r.ownTimes = true, true
		return
	}
	if isItem {
		for prefix, into := range map[string]*string{"Look for: ": &s.LookFor, "If it goes wrong: ": &s.Mistake, "Careful: ": &s.Hazard} {
			if text, ok := strings.CutPrefix(item, prefix); ok {
				*into = text
				return
			}
		}
		if text, ok := strings.CutPrefix(item, "Takes: "); ok {
			s.Takes = commas(text)
			return
		}
	}
	s.Text = strings.TrimSpace(s.Text + " " + line)
}

// sortLoose makes the reason of what stands before any heading.
func (r *reader) sortLoose() {
	var why []string
	for _, line := range r.loose {
		why = append(why, listMark.ReplaceAllString(line, ""))
	}
	if len(why) > 0 && r.Recipe.Why == "" {
		r.Recipe.Why = strings.TrimSuffix(strings.Join(why, " "), ".")
	}
}

// finish completes the recipe and notes what nobody could place.
func (r *reader) finish() {
	if len(r.prose) > 0 {
		steps, _, questions, guesses := reading.Method(r.prose, r.Takes, r.Recipe.Yield, r.pantry)
		r.Recipe.Steps, r.Notes = append(r.Recipe.Steps, steps...), append(append(r.Notes, questions...), guesses...)
		r.Recipe.Leftover = append(r.Recipe.Leftover, questions...)
	}
	taken := map[string]bool{}
	for i := range r.Recipe.Steps {
		s := &r.Recipe.Steps[i]
		if s.ID == "" {
			s.ID = recipe.Slug(s.Title, func(id string) bool { return taken[id] })
		}
		taken[s.ID] = true
		if !r.ownTimes && i > 0 && s.After == nil { // one after the other until somebody says otherwise
			s.After = []fit.After{{Step: r.Recipe.Steps[i-1].ID}}
		}
	}
	if r.Recipe.Each == 0 && r.Recipe.Yield > 0 {
		r.Recipe.Each = max(1, r.Recipe.Yield/2)
	}
	for _, t := range r.Takes {
		for _, p := range t.Reading.Problems {
			r.note("“%s”: %s.", t.Reading.Line, p)
		}
		for _, d := range t.Reading.Doubts {
			r.note("“%s”: %s.", t.Reading.Line, d)
		}
	}
	for _, text := range r.Recipe.Leftover {
		r.note("Not understood, kept as it is: “%s”.", text)
	}
	if r.Recipe.ID == "" {
		r.Recipe.ID = recipe.Slug(r.Recipe.Title, nil)
	}
	for _, s := range r.Recipe.Steps {
		if s.Kind == fit.Bake && len(s.Uses) == 0 {
			r.note("“%s” does not say how hot the oven is.", s.Title)
		}
	}
}
