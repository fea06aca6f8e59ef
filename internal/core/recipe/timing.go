package recipe

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
)

// clauses of a step's timing, by the words that say them.
var (
	numberRe   = `(\d+(?:[.,]\d+)?|\d+/\d+)`
	workRe     = pattern.Must(`^(~ ?)?` + numberRe + `\s*(?:min|mins|minutes)$`)
	eachRe     = pattern.Must(`^` + numberRe + `\s*(?:min|mins|minutes) each$`)
	waitRe     = pattern.Must(`^wait (~ ?)?` + numberRe + `\s*(min|mins|minutes|h|hours?)?$`)
	cooksRe    = pattern.Must(`^(\d+) cooks?$`)
	afterRe    = pattern.Must(`^after ([^\s()]+)(?: of ([^\s()]+))?((?: (?:at least|within) ` + numberRe + `(?: min)?)*)$`)
	gapRe      = pattern.Must(`(at least|within) ` + numberRe)
	useRe      = pattern.Must(`^(?:uses |in the |on the )?(?:(\d+) (?:places? (?:in|on) )?)?([\pL][\pL\d_-]*)(?: at)?(?: ` + numberRe + `\s*°?\s*c)?(?: while (working|waiting))?$`)
	loadsRe    = pattern.Must(`^(\d+) in loads of (\d+) at ` + numberRe + `(?: min)?$`)
	keepsRe    = pattern.Must(`^keeps ` + numberRe + `\s*(min|minutes|h|hours?|days?)? in (?:the )?(.+)$`)
	spreadRe   = pattern.Must(`^spread ` + numberRe + `$`)
	kindClause = func() map[string]fit.Kind {
		m := map[string]fit.Kind{}
		for _, k := range fit.Kinds {
			m[string(k)] = k
		}
		return m
	}()
)

func minutesOf(s string) exact.Number {
	n, err := exact.Parse(strings.ReplaceAll(s, ",", "."))
	if err != nil {
		return exact.Number{}
	}
	return n
}

func perUnit(n exact.Number, unit string) exact.Number {
	switch {
	case strings.HasPrefix(unit, "h"):
		return n.Mul(exact.Int(60))
	case strings.HasPrefix(unit, "d"):
		return n.Mul(exact.Int(24 * 60))
	}
	return n
}

// ParseTiming reads the timing of a step as short text, clauses parted by
// commas, into the step:
//
//	mix, 5 min, 0.25 min each, shared, after weigh, after rub within 15
//	bake, 1 min, wait 18 min, after fill within 5, oven 190 °C while waiting, keep shut
//	cook, 1 min, 4 in loads of 1 at 2 min, ring while working, adult watches
//	mix, ~8 min, wait ~40 min: typical minutes that nobody has said
//	rest, wait 10 min, keeps 1 day in the fridge, spread 0.1, 2 cooks
//
// It returns what it could not read, clause by clause.
func ParseTiming(text string, s *Step) problem.List {
	var problems problem.List
	s.Kind, s.Adult = fit.Prepare, fit.NoAdult
	s.Cooks = -1
	for _, raw := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '·' || r == '\n' }) {
		clause := strings.Join(strings.Fields(strings.ToLower(raw)), " ")
		if clause == "" {
			continue
		}
		before := *s
		says := fmt.Sprintf("“%s” is not understood; write for instance “5 min”, “wait 20 min”, “after weigh”, “oven 190 °C while waiting”, “shared”, “adult watches”", clause)
		if s.clause(clause) {
			if says = s.beyond(); says == "" {
				continue
			}
			says = fmt.Sprintf("“%s”: %s", clause, says)
			*s = before
		}
		problems = append(problems, problem.Problem{Path: "timing", Says: says})
	}
	if s.Cooks < 0 {
		s.Cooks = 1
		if s.Adult == fit.Does {
			s.Cooks = 0
		}
	}
	return problems
}

// Limits of what the planner does not limit itself.
const (
	maxKeeps   = 60 * 24 * 60 // minutes: two months in a freezer
	maxCelsius = 1000         // of anything in a kitchen
	maxSpread  = 5
)

// beyond says which figure of the step is more than any kitchen has; empty
// where none is.
func (s Step) beyond() string {
	tooLong := func(n exact.Number, most int64) bool { return n.Cmp(exact.Int(most)) > 0 }
	lasting := []exact.Number{s.Work, s.WorkEach, s.Wait, s.Load}
	for _, a := range s.After {
		if lasting = append(lasting, a.MinGap); a.MaxGap != nil {
			lasting = append(lasting, *a.MaxGap)
		}
	}
	if slices.ContainsFunc(lasting, func(n exact.Number) bool { return tooLong(n, fit.MaxMinutes) }) {
		return fmt.Sprintf("more than a day (%d minutes) is too long", fit.MaxMinutes)
	}
	counts := []int{s.Cooks, s.Pieces, s.PerLoad}
	for _, u := range s.Uses {
		counts = append(counts, u.Places)
		if u.Temperature != nil && tooLong(*u.Temperature, maxCelsius) {
			return fmt.Sprintf("%d °C is the most", maxCelsius)
		}
	}
	if slices.ContainsFunc(counts, func(n int) bool { return n > fit.MaxCount }) {
		return fmt.Sprintf("%d is the most", fit.MaxCount)
	}
	if s.PerLoad > 0 && tooLong(s.Load.Mul(exact.Int(int64(s.Loads()))), fit.MaxMinutes) {
		return fmt.Sprintf("%d loads of %s minutes take more than a day", s.Loads(), s.Load.Decimal(2))
	}
	if s.Hold != nil && tooLong(s.Hold.MaxMinutes, maxKeeps) {
		return fmt.Sprintf("%d days is the longest that anything is kept", maxKeeps/24/60)
	}
	if s.Spread != nil && *s.Spread > maxSpread {
		return fmt.Sprintf("a spread is 0 to %d", maxSpread)
	}
	return ""
}

// guess is where a figure comes from by the mark before it.
func guess(mark string) Origin {
	if mark != "" {
		return Typical
	}
	return ""
}

// mark stands before a figure that is only typical.
func (o Origin) mark() string {
	if o == Typical {
		return "~"
	}
	return ""
}

// clause reads one clause and reports whether it was understood.
func (s *Step) clause(c string) bool {
	if k, ok := kindClause[c]; ok {
		s.Kind = k
		return true
	}
	switch c {
	case "shared", "shareable":
		s.Shareable = true
		return true
	case "keep shut", "door stays shut":
		s.KeepShut = true
		return true
	case "adult does", "an adult does it":
		s.Adult = fit.Does
		return true
	case "adult watches", "an adult watches":
		s.Adult = fit.Watches
		return true
	}
	if m := workRe.FindStringSubmatch(c); m != nil {
		s.Work, s.WorkFrom = minutesOf(m[2]), guess(m[1])
		return true
	}
	if m := eachRe.FindStringSubmatch(c); m != nil {
		s.WorkEach = minutesOf(m[1])
		return true
	}
	if m := waitRe.FindStringSubmatch(c); m != nil {
		s.Wait, s.WaitFrom = perUnit(minutesOf(m[2]), m[3]), guess(m[1])
		return true
	}
	if m := cooksRe.FindStringSubmatch(c); m != nil {
		s.Cooks, _ = strconv.Atoi(m[1])
		return true
	}
	if m := afterRe.FindStringSubmatch(c); m != nil {
		a := fit.After{Step: m[1], Dish: m[2]}
		for _, gap := range gapRe.FindAllStringSubmatch(m[3], -1) {
			n := minutesOf(gap[2])
			if gap[1] == "within" {
				a.MaxGap = &n
			} else {
				a.MinGap = n
			}
		}
		s.After = append(s.After, a)
		return true
	}
	if m := loadsRe.FindStringSubmatch(c); m != nil {
		s.Pieces, _ = strconv.Atoi(m[1])
		s.PerLoad, _ = strconv.Atoi(m[2])
		s.Load = minutesOf(m[3])
		return true
	}
	if m := keepsRe.FindStringSubmatch(c); m != nil {
		s.Hold = &fit.Hold{Where: m[3], MaxMinutes: perUnit(minutesOf(m[1]), m[2])}
		return true
	}
	if m := spreadRe.FindStringSubmatch(c); m != nil {
		f := minutesOf(m[1]).Float()
		s.Spread = &f
		return true
	}
	return s.use(c)
}

// use reads "oven 190 °C while waiting", "uses 2 ring".
func (s *Step) use(c string) bool {
	m := useRe.FindStringSubmatch(c)
	if m == nil {
		return false
	}
	named := strings.HasPrefix(c, "uses ") || strings.HasPrefix(c, "in the ") || strings.HasPrefix(c, "on the ")
	if !named && !slices.Contains(known, m[2]) {
		return false
	}
	u := fit.Use{Equipment: m[2], Places: 1, During: fit.WholeStep}
	if m[1] != "" {
		u.Places, _ = strconv.Atoi(m[1])
	}
	if m[3] != "" {
		n := minutesOf(m[3])
		u.Temperature = &n
	}
	switch m[4] {
	case "working":
		u.During = fit.WorkPart
	case "waiting":
		u.During = fit.WaitPart
	}
	s.Uses = append(s.Uses, u)
	return true
}

// known are the equipment that needs no “uses” before it.
var known = []string{"oven", "ring", "blender", "mixer", "fridge", "freezer", "grill", "microwave", "processor", "steamer"}

// Timing writes the timing of a step as ParseTiming reads it.
func (s Step) Timing() string {
	parts := []string{string(s.Kind)}
	add := func(format string, args ...any) { parts = append(parts, fmt.Sprintf(format, args...)) }
	number := func(n exact.Number) string {
		if text := n.Decimal(6); exact.MustParse(text).Cmp(n) == 0 {
			return text
		}
		return n.String()
	}
	if s.Work.Sign() > 0 {
		add("%s%s min", s.WorkFrom.mark(), number(s.Work))
	}
	if s.WorkEach.Sign() > 0 {
		add("%s min each", number(s.WorkEach))
	}
	if s.PerLoad > 0 {
		add("%d in loads of %d at %s min", s.Pieces, s.PerLoad, number(s.Load))
	}
	if s.Wait.Sign() > 0 {
		add("wait %s%s min", s.WaitFrom.mark(), number(s.Wait))
	}
	if s.Cooks != 1 && s.Adult != fit.Does {
		add("%d cooks", s.Cooks)
	}
	if s.Shareable {
		add("shared")
	}
	for _, a := range s.After {
		text := "after " + a.Step
		if a.Dish != "" {
			text += " of " + a.Dish
		}
		if a.MinGap.Sign() > 0 {
			text += " at least " + number(a.MinGap)
		}
		if a.MaxGap != nil {
			text += " within " + number(*a.MaxGap)
		}
		add("%s", text)
	}
	for _, u := range s.Uses {
		text := u.Equipment
		if u.Places > 1 {
			text = fmt.Sprintf("%d %s", u.Places, u.Equipment)
		}
		if !slices.Contains(known, u.Equipment) {
			text = "uses " + text
		}
		if u.Temperature != nil {
			text += " " + number(*u.Temperature) + " °C"
		}
		switch u.During {
		case fit.WorkPart:
			text += " while working"
		case fit.WaitPart:
			text += " while waiting"
		}
		add("%s", text)
	}
	switch s.Adult {
	case fit.Does:
		add("adult does")
	case fit.Watches:
		add("adult watches")
	}
	if s.KeepShut {
		add("keep shut")
	}
	if s.Hold != nil {
		add("keeps %s min in the %s", number(s.Hold.MaxMinutes), s.Hold.Where)
	}
	if s.Spread != nil {
		add("spread %s", strconv.FormatFloat(*s.Spread, 'f', -1, 64))
	}
	return strings.Join(parts, ", ")
}

// Slug makes an id of a title: "Rub in the butter" is rub-in-the-butter. It
// is short, and not one of those taken.
func Slug(title string, taken func(string) bool) string {
	var b strings.Builder
	dash := false
	for _, w := range pantryFold(title) {
		if dash {
			b.WriteByte('-')
		}
		b.WriteString(w)
		dash = true
		if b.Len() > 24 {
			break
		}
	}
	base := b.String()
	if base == "" {
		base = "step"
	}
	id := base
	for n := 2; taken != nil && taken(id); n++ {
		id = fmt.Sprintf("%s-%d", base, n)
	}
	return id
}

// pantryFold splits a title into plain lower-case words.
func pantryFold(title string) []string {
	plain := strings.NewReplacer("é", "e", "è", "e", "ê", "e", "à", "a", "â", "a", "ä", "a", "ö", "o", "ü", "u", "ï", "i", "î", "i", "ç", "c", "ô", "o", "ñ", "n", "'", "", "’", "").Replace(strings.ToLower(title))
	return strings.FieldsFunc(plain, func(r rune) bool { return (r < 'a' || r > 'z') && (r < '0' || r > '9') })
}
