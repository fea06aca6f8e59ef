package recipe

import (
	"regexp"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
)

// kinds of step by the verbs that tell them, the stronger first. The minutes
// are what such a step typically takes in a class where the text says none.
var kindWords = []struct {
	kind    fit.Kind
	words   *regexp.Regexp
	minutes int64
	waits   bool // the minutes in the text need no hands
}{
	{fit.Bake, regexp.MustCompile(`(?i)\b(bakes?|roasts?|in the oven|into the oven)\b`), 1, true},
	{fit.Chill, regexp.MustCompile(`(?i)\b(chill|refrigerate|in the fridge|freeze|set in)\b`), 1, true},
	{fit.Rest, regexp.MustCompile(`(?i)\b(rest|prove|proving|rise|stand|soak|marinate|leave (?:it |them )?(?:for|to))\b`), 1, true},
	{fit.Cool, regexp.MustCompile(`(?i)\b(cool|cooling)\b`), 1, true},
	{fit.Clean, regexp.MustCompile(`(?i)\b(wash(?:ing)? up|wipe down|clear away|clear down|clean up|tidy)\b`), 7, false},
	{fit.Cook, regexp.MustCompile(`(?i)\b(?:(?:simmer|boil|fry|fries|saute|griddle|cook|steam|poach|brown|soften|heat the (?:oil|butter)|melt|toast|grill)\b|sauté(?:[^e]|$))`), 3, false},
	{fit.Weigh, regexp.MustCompile(`(?i)\b(weigh|measure)\b`), 5, false},
	{fit.Cut, regexp.MustCompile(`(?i)\b(chop|dice|slice|grate|peel|cut|shred|snip|halve|quarter|core|trim|mince|crush)\b`), 6, false},
	{fit.Shape, regexp.MustCompile(`(?i)\b(roll|shape|line the|press|form|divide|fill|spread|layer|pour into|arrange|spoon into|knead)\b`), 5, false},
	{fit.Mix, regexp.MustCompile(`(?i)\b(mix|stir|whisk|beat|fold|rub|cream|combine|blend|sieve|sift|add)\b`), 4, false},
	{fit.Serve, regexp.MustCompile(`(?i)\b(serve|decorate|garnish|plate|dust with|sprinkle)\b`), 2, false},
}

// hobOnly are the cooking steps whose minutes may pass without hands.
var simmers = regexp.MustCompile(`(?i)\b(simmer|steam|poach|cover and cook|boil for)\b`)

// MinutesIn returns the durations that a text names, in minutes, a range by
// its longer end: what the bell asks about is the worst. What goes on top of the
// one before it is added to that. What is longer than any step can last is none.
func MinutesIn(text string) []exact.Number {
	var out []exact.Number
	for _, d := range duration.In(text) {
		switch n := len(out); {
		case d.Inside || d.Most.Cmp(exact.Int(fit.MaxMinutes)) > 0:
		case d.More && n > 0:
			out[n-1] = out[n-1].Add(d.Most)
		default:
			out = append(out, d.Most)
		}
	}
	return out
}

// InferStep makes a step of a text that has no timing of its own. Where the
// text names no minutes, the hands-on ones are typical. It has no id yet and
// follows nothing.
func InferStep(text string) Step {
	s := Step{Text: text}
	s.Kind, s.Cooks, s.Adult = fit.Prepare, 1, fit.NoAdult
	s.Title = shortTitle(text)
	s.Work = exact.Int(3)
	longest := exact.Number{}
	for _, n := range MinutesIn(text) {
		if longest.Less(n) {
			longest = n
		}
	}
	if onlyHeats(text) {
		s.Work = exact.Frac(1, 2)
		return s
	}
	for _, k := range kindWords {
		if !k.words.MatchString(text) {
			continue
		}
		s.Kind, s.Work = k.kind, exact.Int(k.minutes)
		waits := k.waits || k.kind == fit.Cook && simmers.MatchString(text)
		switch {
		case longest.Sign() > 0 && waits:
			s.Wait = longest
		case longest.Sign() > 0:
			s.Work = longest
		}
		break
	}
	switch s.Kind {
	case fit.Bake:
		u := fit.Use{Equipment: "oven", Places: 1, During: fit.WaitPart}
		if heats := measure.ReadHeats(text); len(heats) > 0 {
			c := heats[0].Celsius.RoundTo(exact.Int(5))
			u.Temperature = &c
		}
		s.Uses = []fit.Use{u}
	case fit.Cook:
		s.Uses = []fit.Use{{Equipment: "ring", Places: 1, During: fit.WholeStep}}
	}
	return s
}

// shortTitle is the first words of a text, up to where it breaks.
func shortTitle(text string) string {
	text = strings.TrimSpace(text)
	for _, stop := range []string{". ", ", ", "; ", " until ", " for ", ": ", "\n"} {
		if i := strings.Index(text, stop); i > 3 {
			text = text[:i]
		}
	}
	const most = 48
	if r := []rune(text); len(r) > most {
		cut := string(r[:most])
		if i := strings.LastIndexByte(cut, ' '); i > 10 {
			cut = cut[:i]
		}
		text = cut
	}
	return strings.TrimRight(text, ".,;: ")
}

// heatOven is a sentence that only asks to heat the oven.
var heatOven = regexp.MustCompile(`(?i)^\s*(?:pre-?heat|heat|turn on|set|switch on)\s+(?:the\s+|your\s+)?oven\b[^.;]*[.;]?\s*`)

// onlyHeats reports whether a text does nothing but heat the oven, which
// takes a turn of the dial.
func onlyHeats(text string) bool {
	sentence := heatOven.FindString(text)
	return sentence != "" && strings.TrimSpace(text[len(sentence):]) == ""
}

// Chain gives the steps ids, lets each follow the one before, and gives bakes
// without a temperature the one that the recipe heats the oven to.
func Chain(steps []Step) []Step {
	var out []Step
	var oven *exact.Number
	taken := map[string]bool{}
	for _, s := range steps {
		if heats := measure.ReadHeats(s.Text); len(heats) > 0 {
			c := heats[0].Celsius.RoundTo(exact.Int(5))
			oven = &c
		}
		for i := range s.Uses {
			if s.Uses[i].Equipment == "oven" && s.Uses[i].Temperature == nil {
				s.Uses[i].Temperature = oven
			}
		}
		if s.ID == "" {
			s.ID = Slug(s.Title, func(id string) bool { return taken[id] })
		}
		taken[s.ID] = true
		if len(out) > 0 && s.After == nil {
			s.After = []fit.After{{Step: out[len(out)-1].ID}}
		}
		out = append(out, s)
	}
	for i := range out { // an oven whose temperature nobody names can't be planned
		out[i].Uses = withoutUnknownOven(out[i].Uses)
	}
	return out
}

func withoutUnknownOven(uses []fit.Use) []fit.Use {
	var kept []fit.Use
	for _, u := range uses {
		if u.Equipment != "oven" || u.Temperature != nil {
			kept = append(kept, u)
		}
	}
	return kept
}
