package reading

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
)

// Method cuts lines of prose into the steps of a recipe with these lines of
// ingredients. Of each step it returns the place of the line at which it
// begins; -1 where it is work in the list. Questions are what nothing else shows; guesses are the minutes
// that are typical, which the steps show.
func Method(lines []string, takes []recipe.Taking, yield int, p *pantry.Pantry) (steps []recipe.Step, from []int, questions, guesses []string) {
	r := &reader{pantry: p, taken: map[string]recipe.Taking{}, amounted: map[string]bool{}}
	r.Yield.Count = yield
	for n, t := range takes {
		r.Ingredients = append(r.Ingredients, Ingredient{Line: -1 - n, Taking: t, Prepared: prepared(t)})
		r.lines = append(r.lines, line{at: -1 - n, item: t.Reading.Line})
	}
	for n, text := range lines {
		if text = strings.TrimSpace(tidy.Replace(text)); text != "" {
			r.prose = append(r.prose, passage{text: text, lines: []int{n}, starts: []int{0}, adult: fit.NoAdult})
		}
	}
	r.method()
	r.prepare()
	steps, places := r.steps()
	for _, s := range places {
		from = append(from, max(-1, r.Steps[s].Lines[0]))
	}
	for _, s := range r.Steps {
		questions, guesses = append(questions, s.questions()...), append(guesses, s.guesses()...)
	}
	return steps, from, questions, guesses
}

// Guess gives a step that says no times what its words say, or what is typical.
func Guess(s *recipe.Step, p *pantry.Pantry) {
	steps, _, _, _ := Method([]string{s.Text}, nil, 0, p)
	if len(steps) == 0 || len(steps) == 1 && steps[0].Kind == fit.Prepare && steps[0].WorkFrom == recipe.Typical {
		if titled, _, _, _ := Method([]string{s.Title}, nil, 0, p); len(titled) > 0 {
			steps = titled
		}
	}
	s.Kind, s.Adult, s.Cooks = fit.Prepare, fit.NoAdult, 1
	s.WorkFrom = recipe.Typical
	longest := exact.Number{}
	for _, g := range steps {
		s.Work, s.Wait = s.Work.Add(g.Work), s.Wait.Add(g.Wait)
		if g.WorkFrom == recipe.Said {
			s.WorkFrom = recipe.Said
		}
		if g.WaitFrom != "" {
			s.WaitFrom = g.WaitFrom
		}
		if g.Adult != fit.NoAdult {
			s.Adult, s.Cooks = g.Adult, g.Cooks
		}
		if total := g.Work.Add(g.Wait); !total.Less(longest) {
			longest, s.Kind = total, g.Kind
		}
		if len(g.Uses) > 0 {
			s.Uses = g.Uses
		}
		if g.PerLoad > 0 {
			s.Pieces, s.PerLoad, s.Load = g.Pieces, g.PerLoad, g.Load
		}
	}
}

// questions are what was said in a form that is not understood, and what is only
// supposed.
func (s Step) questions() []string {
	var out []string
	for _, a := range s.Asks {
		out = append(out, asking(recipe.ShortTitle(s.Text), a))
	}
	return out
}

// asking is a sentence about some words of the source.
func asking(words, says string) string {
	if !strings.HasSuffix(says, "?") {
		says += "."
	}
	return fmt.Sprintf("“%s”: %s", words, says)
}

// guesses says that the minutes of the step are typical, where they are.
func (s Step) guesses() []string {
	if s.Work.From != recipe.Typical || s.Wait.From == recipe.Said || s.Loads != nil || s.Prepares != "" {
		return nil
	}
	return []string{fmt.Sprintf("“%s”: no minutes are given; %s min of work is a typical figure.", recipe.ShortTitle(s.Text), s.Work.Middle().Decimal(1))}
}

// steps makes the steps of a recipe, and says from which step of the reading
// each comes: a bake with two settings is two.
func (r Reading) steps() (out []recipe.Step, places []int) {
	taken := map[string]bool{}
	last := make([]string, len(r.Steps)) // id of the end of each
	id := func(title string) string {
		s := recipe.Slug(title, func(id string) bool { return taken[id] })
		taken[s] = true
		return s
	}
	for n, s := range r.Steps {
		step := recipe.Step{Text: s.Text, WorkFrom: s.Work.From, WaitFrom: s.Wait.From}
		step.Title = title(s.Text)
		if s.Prepares != "" {
			step.Title = recipe.ShortTitle("Prepare the " + s.Prepares)
			step.Shareable = true
			step.Takes = []string{s.Prepares}
		}
		step.ID = id(step.Title)
		step.Kind, step.Adult, step.Cooks = s.Kind, s.Adult, 1
		if s.Adult == fit.Does {
			step.Cooks = 0
		}
		step.Work, step.Wait = s.Work.Middle(), s.Wait.Middle()
		if s.Work.Least.Less(s.Work.Most) {
			spread := s.Work.Most.Sub(s.Work.Least).Div(s.Work.Most.Add(s.Work.Least)).Float()
			step.Spread = &spread
		}
		if l := s.Loads; l != nil && l.PerLoad > 0 && !l.NoHands {
			step.Pieces, step.PerLoad, step.Load = max(l.Pieces, l.PerLoad), l.PerLoad, l.Each.Middle()
		} else if l != nil && !l.NoHands {
			step.Work, step.WorkFrom = step.Work.Add(l.Each.Middle()), l.Each.From
		}
		for _, a := range s.After {
			if a.Step < n {
				step.After = append(step.After, fit.After{Step: last[a.Step], MinGap: a.MinGap, MaxGap: a.MaxGap})
			} else { // prepared work may stand anywhere before
				step.After = append(step.After, fit.After{Step: last[a.Step]})
			}
		}
		settings := slices.DeleteFunc(slices.Clone(s.Uses), func(u Use) bool { return u.Equipment == "oven" && u.Celsius == nil })
		if len(settings) > 1 && settings[0].Minutes.Sign() > 0 && settings[1].Minutes.Sign() > 0 {
			out, places = append(out, settled(step, settings, 0)), append(places, n)
			for k := 1; k < len(settings); k++ {
				next := recipe.Step{Text: fmt.Sprintf("Turn the oven to %s and bake on.", measure.Quantity{Amount: *settings[k].Celsius, Unit: measure.Celsius})}
				next.Title = recipe.ShortTitle(next.Text)
				next.ID, next.Kind, next.Adult, next.Cooks, next.WaitFrom = id(next.Title), step.Kind, fit.NoAdult, 1, step.WaitFrom
				none := exact.Number{}
				next.After = []fit.After{{Step: out[len(out)-1].ID, MaxGap: &none}}
				out, places = append(out, settled(next, settings, k)), append(places, n)
			}
			last[n] = out[len(out)-1].ID
			continue
		}
		for _, u := range settings[:min(1, len(settings))] {
			step.Uses = append(step.Uses, held(u, s.Kind))
		}
		out, places = append(out, step), append(places, n)
		last[n] = step.ID
	}
	return out, places
}

// title is the first words of a step, without who does it and beside what.
func title(text string) string {
	text = label.ReplaceAllString(text, "")
	if head, rest, ok := strings.Cut(text, ":"); ok && adultIn(head) != fit.NoAdult && len(head) < 24 {
		text = strings.TrimSpace(rest)
	}
	return recipe.ShortTitle(strings.TrimSpace(text[beside(text):]))
}

// settled is a bake, or its next part, at one of its settings.
func settled(s recipe.Step, settings []Use, n int) recipe.Step {
	s.Wait = settings[n].Minutes
	s.Uses = []fit.Use{held(settings[n], fit.Bake)}
	return s
}

// held is a use as the planner takes it: what bakes and chills is there while
// it waits, a ring is taken for the whole step.
func held(u Use, kind fit.Kind) fit.Use {
	use := fit.Use{Equipment: u.Equipment, Temperature: u.Celsius, Places: 1, During: fit.WholeStep}
	if u.Equipment == "oven" || u.Equipment == "fridge" || u.Equipment == "freezer" || u.Equipment == "grill" && kind == fit.Bake {
		use.During = fit.WaitPart
	}
	return use
}

// Recipe makes a recipe of what was read, and says what somebody should look
// at.
func (r Reading) Recipe() (recipe.Recipe, []string) {
	out := recipe.Recipe{Title: r.Title}
	var notes []string
	if y := r.Yield; y.Count > 0 {
		out.Yield, out.Piece, out.Pieces = y.Count, y.Piece, plural(y.Piece)
		if y.Count == 1 {
			out.Pieces = plural(y.Piece)
		}
		out.Each = max(1, out.Yield/2)
	}
	for _, i := range r.Ingredients {
		out.Ingredients = append(out.Ingredients, i.Taking.Ingredient)
		for _, says := range append(slices.Clone(i.Taking.Reading.Problems), i.Taking.Reading.Doubts...) {
			notes = append(notes, fmt.Sprintf("“%s”: %s.", i.Taking.Reading.Line, says))
		}
	}
	out.Steps, _ = r.steps()
	var questions []string // that nothing else on the recipe's page shows
	for _, s := range r.Steps {
		asks := s.questions()
		notes = append(append(notes, asks...), s.guesses()...)
		questions = append(questions, asks...)
	}
	first := firstLine(r)
	for _, f := range r.Facts {
		if f.Line < first && out.Why == "" && f.About == "" && len(strings.Fields(f.Says)) > 2 && !times.MatchString(f.Says) && !greeting.MatchString(f.Says) && !politely.MatchString(f.Says) && !dated.MatchString(f.Says) && !blanks.MatchString(f.Says) {
			out.Why = strings.TrimSuffix(f.Says, ".")
			continue
		}
		if !fact(&out, f) {
			out.Leftover = append(out.Leftover, f.Says)
		}
	}
	for _, u := range r.Unread {
		inStep := slices.ContainsFunc(r.Steps, func(s Step) bool { return slices.Contains(s.Lines, u.Line) })
		listed := slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool { return i.Line == u.Line })
		if inStep && (!listed || strings.HasPrefix(u.Why, askMark)) {
			continue // said with the step
		}
		if u.Line != r.TitleLine && !listed {
			out.Leftover = append(out.Leftover, u.Text)
			continue
		}
		says := asking(u.Text, u.Why)
		notes = append(notes, says)
		if !slices.ContainsFunc(r.Ingredients, func(i Ingredient) bool { return slices.Contains(i.Taking.Reading.Problems, u.Why) }) { // which the amount shows
			questions = append(questions, says)
		}
	}
	for _, text := range out.Leftover {
		notes = append(notes, fmt.Sprintf("Not understood, kept as it is: “%s”.", text))
	}
	out.Leftover = append(out.Leftover, questions...)
	out.ID = recipe.Slug(out.Title, nil)
	return out, notes
}

// firstLine is where the list or the method begins.
func firstLine(r Reading) int {
	first := 1 << 30
	for _, i := range r.Ingredients {
		first = min(first, i.Line)
	}
	for _, s := range r.Steps {
		for _, at := range s.Lines {
			first = min(first, at)
		}
	}
	return first
}

var (
	named  = pattern.Must(`^\*{0,2}([\pL -]{2,20}?)\*{0,2}\s*:\*{0,2}\s*(.+)$`)
	digits = pattern.Must(`\d+`)
)

const longestWhy = 200 // letters of what a dish is cooked for

// fact puts a fact into the field of the recipe that is for it.
func fact(r *recipe.Recipe, f Fact) bool {
	switch strings.Fields(f.About + " .")[0] {
	case "learning", "aim", "aims": // which the dish is cooked for
		if why := strings.TrimRight(f.Says, "."); len(r.Why)+len(why) < longestWhy {
			r.Why = strings.TrimPrefix(r.Why+"; "+why, "; ")
			return true
		}
		return false
	case "equipment", "utensils", "tools", "kit":
		for _, e := range strings.Split(f.Says, ";") {
			r.Equipment = append(r.Equipment, strings.TrimSpace(e))
		}
		return true
	case "check", "checks":
		r.Checks = append(r.Checks, f.Says)
		return true
	}
	m := named.FindStringSubmatch(f.Says)
	if m == nil {
		return false
	}
	value := strings.TrimSpace(m[2])
	list := func(s string) []string {
		var out []string
		for _, part := range strings.Split(strings.TrimSuffix(s, "."), ",") {
			if part = strings.TrimSpace(part); part != "" {
				out = append(out, part)
			}
		}
		return out
	}
	switch strings.ToLower(m[1]) {
	case "each learner":
		r.Each, _ = strconv.Atoi(digits.FindString(value))
		return r.Each > 0
	case "level":
		r.Level = value
	case "skills":
		r.Skills = list(value)
	case "contains", "allergens":
		r.Contains = list(value)
	case "source", "from", "by", "author":
		r.Source = value
	case "equipment":
		r.Equipment = append(r.Equipment, list(value)...)
	case "why", "lo", "aim", "learning objective", "learning outcome", "walt":
		r.Why = value
	case "minutes in all", "total time", "total", "time", "ready in":
		total := exact.Number{}
		for _, d := range duration.In(value) {
			total = total.Add(d.Most)
		}
		r.Minutes = int(total.Round())
		return r.Minutes > 0 && r.Minutes <= recipe.MaxMinutes
	default:
		return false
	}
	return true
}

// plural is more than one of what is counted.
func plural(s string) string {
	switch {
	case s == "":
		return ""
	case slices.Contains([]string{"stück", "bitar", "pièces"}, s):
		return s
	case strings.HasSuffix(s, "loaf"), strings.HasSuffix(s, "half"):
		return strings.TrimSuffix(s, "f") + "ves"
	case strings.HasSuffix(s, "ch"), strings.HasSuffix(s, "sh"), strings.HasSuffix(s, "ss"):
		return s + "es"
	case strings.HasSuffix(s, "y") && !strings.HasSuffix(s, "ay") && !strings.HasSuffix(s, "ey"):
		return strings.TrimSuffix(s, "y") + "ies"
	}
	return s + "s"
}

// SetYield reads how many a recipe serves or makes: "Serves 4", "Makes 8
// scones (scone)", "2 dozen". Of a range the first is taken. It reports whether
// it could.
func SetYield(r *recipe.Recipe, text string) bool {
	y, ok := yieldOf(text)
	if !ok {
		return false
	}
	r.Yield, r.Piece, r.Pieces = y.Count, y.Piece, plural(y.Piece)
	return true
}
