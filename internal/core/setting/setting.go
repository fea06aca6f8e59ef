// Package setting finds the settings of ovens in what people write, and tells
// them from the warmth of food, water and fat.
package setting

import (
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
)

// A Setting is an oven's temperature that a text names.
type Setting struct {
	Celsius  exact.Number // conventional
	From, To int          // where it stands, in bytes
	Fan      bool         // only a fan oven's is given
	said     scale
}

// A scale is how a setting is said: of several ways the one that says most of the temperature
// comes last.
type scale int

const (
	byFan scale = iota
	byMark
	inFahrenheit
	inCelsius
)

var (
	degrees  = pattern.Must(`(?i)(\bfan[- ]?(?:forced|oven|assisted)?\s*:?\s*(?:at\s+|to\s+)?)?\b(\d{2,3})\s*(?:(°|º|˚|degrees?|deg\.?|grad(?:er)?)\s*)?(celsius|centigrade|fahrenheit|c|f)?\b`)
	fanAfter = pattern.Must(`(?i)^\s*[-/,(]?\s*\(?\s*fan\b(?:[- ]?(?:oven|forced|assisted))?(\s*:?\s*(?:at\s+|to\s+)?[1-3]\d\d)?`)
	// pieces are what is marked with a knife: "mark 8 wedges".
	pieces = pattern.Must(`(?i)^mark(?: out)? \d{1,2} (?:wedges|pieces|squares|slices|fingers|bars|portions|triangles|lines|rounds|circles|even|equal)\b`)
	marks  = pattern.Must(`(?i)\b(?:gas(?:\s*mark)?|gas\s*no\.?|mark|regulo|reg\.?|th(?:ermostat)?\.?|gm)\s*(\d{1,2}\s*/\s*\d|[½¼]|\d{1,2})(?:\b|$)`)
	// inside is what a temperature is of where it is none of the oven.
	inside = pattern.Must(`(?i)\b(?:core|probe|thermometer|centre|center|middle|inside|internal(?:ly)?|reach(?:es|ed)?|registers?|thickest|syrup|sugar|oil|fat|fryer|water|milk|lukewarm|blood heat|jam|soft ball|set at|cream|chocolate|custard|fridge|room)\b`)
	ofOven = pattern.Must(`(?i)\b(?:ovens?|(?:pre-?|par-?)?bak(?:e|ing)|roast(?:ing)?|pre-?heat|gas|regulo|reg\.? \d|mark|fan|turn (?:it |the heat |the oven )?(?:down|up)|(?:reduce|lower|increase|raise) (?:the )?(?:heat|oven|temperature)|(?:heat|temperature) (?:down|up)|(?:reduce|lower|increase|raise|drop|turn)\s+(?:it\s+)?(?:down\s+|up\s+)?to\s+\d{3}|backen|ofens?|ugn\w*|four|grädda|enfournez|enfourner)\b`)
	moods  = []struct {
		words   *pattern.Pattern
		celsius int64
	}{
		{pattern.Must(`(?i)\bvery (?:hot|quick) oven\b`), 230},
		{pattern.Must(`(?i)\b(?:moderately|fairly) hot oven\b`), 200},
		{pattern.Must(`(?i)\b(?:mod(?:\.|erate)?|medium)\s+(?:warm )?oven\b`), 180},
		{pattern.Must(`(?i)\b(?:hot|quick) oven\b`), 220},
		{pattern.Must(`(?i)\b(?:very (?:slow|cool)) oven\b`), 130},
		{pattern.Must(`(?i)\b(?:slow|cool|low|warm) oven\b`), 150},
	}
)

// dials are the Fahrenheit marks of ovens and the conventional °C beside them
// in cookers' tables: 250 + 25 for each gas mark.
var dials = map[int64]int64{225: 110, 250: 120, 275: 140, 300: 150, 325: 160, 350: 180, 375: 190, 400: 200, 425: 220, 450: 230, 475: 240, 500: 260}

// In returns the oven settings that a text names, in order. Of one setting said
// in several ways the conventional °C is taken.
func In(text string) []Setting { return Beside(text, Oven(text)) }

// Oven reports whether a text speaks of an oven.
func Oven(text string) bool { return ofOven.MatchString(text) }

// Beside is In where it is known whether an oven is spoken of.
func Beside(text string, oven bool) []Setting {
	return together(text, found(text, oven))
}

// A Said is a setting in the words of the text.
type Said struct {
	Says    string
	Celsius exact.Number // conventional
}

func said(text string, s Setting) Said {
	return Said{strings.Trim(text[s.From:s.To], " (/,"), s.Celsius}
}

// Contradiction returns two settings that a text says are the same and are
// not, as "220 °C/gas 3"; ok is false where there are none. Settings one after the
// other contradict nobody.
func Contradiction(text string) (a, b Said, ok bool) {
	list := found(text, Oven(text))
	for i := 1; i < len(list); i++ {
		x, y := list[i-1], list[i]
		if alike.MatchString(text[x.To:y.From]) && x.Celsius.Sub(y.Celsius).Abs().Cmp(apart) > 0 {
			return said(text, x), said(text, y), true
		}
	}
	for _, w := range moods {
		at := w.words.FindStringIndex(text)
		if at == nil {
			continue
		}
		for _, y := range list {
			mood := Setting{Celsius: exact.Int(w.celsius), From: at[0], To: at[1]}
			if y.From >= at[1] && alike.MatchString(text[at[1]:y.From]) && y.Celsius.Sub(mood.Celsius).Abs().Cmp(moodApart) > 0 {
				return said(text, mood), said(text, y), true
			}
		}
		break
	}
	return a, b, false
}

// moodApart is how far a setting may lie from the middle of what a word means.
var moodApart = exact.Int(45)

// apart is how far settings that are said to be the same may differ: a fan
// oven's that does not say so, and the rounding of dials.
var apart = exact.Int(25)

// found returns every setting by itself.
func found(text string, oven bool) []Setting {
	var found []Setting
	if !strings.ContainsAny(text, "0123456789½¼") && !strings.Contains(strings.ToLower(text), "oven") {
		return nil
	}
	for _, m := range marks.FindAllStringSubmatchIndex(text, -1) {
		if pieces.MatchString(text[m[0]:]) {
			continue
		}
		mark, ok := measureMark(text[m[2]:m[3]])
		if c, known := measure.GasToCelsius(mark); ok && known {
			found = append(found, Setting{Celsius: c.Amount, From: m[0], To: m[1], said: byMark})
		}
	}
	for _, m := range degrees.FindAllStringSubmatchIndex(text, -1) {
		if s, ok := degree(text, m, oven); ok && !inMark(found, m[4]) {
			found = append(found, s)
		}
	}
	if len(found) == 0 {
		for _, w := range moods {
			if at := w.words.FindStringIndex(text); at != nil {
				return []Setting{{Celsius: exact.Int(w.celsius), From: at[0], To: at[1]}}
			}
		}
	}
	for i := range found {
		for k := i; k > 0 && found[k].From < found[k-1].From; k-- {
			found[k], found[k-1] = found[k-1], found[k]
		}
	}
	return found
}

func inMark(list []Setting, at int) bool {
	for _, s := range list {
		if s.From <= at && at < s.To {
			return true
		}
	}
	return false
}

// degree reads one match of degrees; ok is false where it is no oven's.
func degree(text string, m []int, oven bool) (Setting, bool) {
	group := func(n int) string {
		if m[2*n] < 0 {
			return ""
		}
		return text[m[2*n]:m[2*n+1]]
	}
	s := Setting{From: m[0], To: m[1]}
	n, err := strconv.ParseInt(group(2), 10, 64)
	unit := strings.ToLower(group(4))
	sign := group(3) != "" || unit != ""
	before := strings.TrimSpace(strings.ToLower(text[max(0, m[0]-24):m[0]]))
	after := fanAfter.FindStringSubmatch(text[m[1]:])
	s.Fan = group(1) != "" || after != nil && after[1] == ""
	if after != nil && after[1] == "" {
		s.To += len(after[0])
	}
	atOven := oven && (strings.HasSuffix(before, " to") || strings.HasSuffix(before, " on") || strings.HasSuffix(before, "@") || strings.HasSuffix(before, "bake") || strings.HasSuffix(before, "roast") || strings.HasSuffix(before, "cook") || strings.HasSuffix(before, " at") || strings.HasSuffix(before, "/") || strings.HasSuffix(before, "oven") || strings.HasSuffix(before, "oven:") || strings.HasSuffix(before, ",") || strings.HasSuffix(before, "(") || s.Fan || n%10 == 0 && afterMinutes.MatchString(before))
	if err != nil || !sign && !atOven && !s.Fan {
		return s, false
	}
	if !sign && (n < 100 || !boundary(text, m[1])) {
		return s, false
	}
	if !oven && !s.Fan || innerHeat(text, m[0]) {
		return s, false
	}
	if fahrenheit := strings.HasPrefix(unit, "f"); (n <= boils && !fahrenheit || n <= boilsFahrenheit && fahrenheit) && ofTheInside(text, m[0], m[1]) {
		return s, false
	}
	if unit == "f" && group(3) == "" && n < 250 && strings.HasSuffix(before, "/") { // "200/180f" is of a fan
		s.Fan, unit = true, ""
	}
	fahrenheit := strings.HasPrefix(unit, "f") || unit == "" && n >= 275
	switch {
	case s.Fan:
		s.said = byFan
	case fahrenheit:
		s.said = inFahrenheit
	default:
		s.said = inCelsius
	}
	switch {
	case fahrenheit && dials[n] > 0:
		s.Celsius = exact.Int(dials[n])
	case fahrenheit:
		s.Celsius = measure.Quantity{Amount: exact.Int(n), Unit: measure.Fahrenheit}.Base().RoundTo(exact.Int(5))
	default:
		s.Celsius = exact.Int(n)
	}
	if s.Fan {
		s.Celsius = s.Celsius.Add(exact.Int(20))
	}
	return s, s.Celsius.Cmp(exact.Int(80)) >= 0 && s.Celsius.Cmp(exact.Int(320)) <= 0
}

// afterMinutes ends in a time: "in the oven 20 mins 180".
var afterMinutes = pattern.Must(`\d ?min(?:ute)?s?$`)

// boundary reports whether nothing after a bare number makes it an amount.
func boundary(text string, at int) bool {
	rest := strings.ToLower(strings.TrimLeft(text[at:], " "))
	for _, unit := range []string{"g ", "g.", "g,", "ml", "min", "kg", "hour", "hr", "cm", "mm", "x "} {
		if strings.HasPrefix(rest, unit) {
			return false
		}
	}
	return rest != "g"
}

// boils is as hot as food that holds water gets inside.
const boils, boilsFahrenheit = 100, 212

// ofTheInside reports whether a temperature that food can have inside is what something is baked to: “until
// 94 °C”, “96 °C in the middle”.
func ofTheInside(text string, from, to int) bool {
	before := clauseBefore(text, from) // not “until golden, then 100 °C for an hour”
	until := bakedTo.FindStringIndex(before)
	return until != nil && !ofOven.MatchString(before[until[0]:]) || insideBehind.MatchString(text[to:])
}

var (
	bakedTo      = pattern.Must(`(?i)\b(?:until|till)\b`)
	insideBehind = pattern.Must(`(?i)^\s*(?:inside|internal(?:ly)?|core|on (?:the|a|your) (?:probe|thermometer)|(?:in|at) (?:the|its) (?:very )?(?:core|(?:middle|centre|center)(?:[^\pL\s]|$| of the (?:loaf|bread|cake|meat|chicken|pie|joint|burger|dish)))|by the probe)\b?`)
)

// clauseBefore is what stands before a place of the text in the same breath.
func clauseBefore(text string, at int) string {
	before := text[:at]
	for _, stop := range []string{". ", "; ", " and ", ", "} {
		if i := strings.LastIndex(before, stop); i >= 0 {
			before = before[i:]
		}
	}
	return before
}

// innerHeat reports whether the words just before a temperature say that it
// is of the food, of water, milk or fat.
func innerHeat(text string, at int) bool {
	before := clauseBefore(text, at)
	in := inside.FindAllStringIndex(before, -1)
	if in == nil {
		return false
	}
	ov := ofOven.FindAllStringIndex(before, -1)
	return ov == nil || ov[len(ov)-1][0] < in[len(in)-1][0]
}

var alike = pattern.Must(`(?i)^\s*(?:[/,(\[\])|=–-]|or|and|fan|gas|mark|oven|°|c\b|\s|for|if using|using|a|in|degrees?|conventional|electric|about|i\.?e\.?)*$`)

// together keeps one of the settings that say the same in several ways: "200
// °C/180 °C fan/gas 6".
func together(text string, list []Setting) []Setting {
	var out []Setting
	for _, s := range list {
		if n := len(out); n > 0 && alike.MatchString(text[out[n-1].To:s.From]) {
			last := &out[n-1]
			near := last.Celsius.Sub(s.Celsius).Abs().Cmp(apart) <= 0
			if near {
				if last.said < s.said {
					last.Celsius, last.Fan, last.said = s.Celsius, s.Fan, s.said
				}
				last.To = s.To
				continue
			}
		}
		out = append(out, s)
	}
	return out
}

// measureMark reads a gas mark: 4, ½, 1/2.
func measureMark(s string) (exact.Number, bool) {
	switch s = strings.ReplaceAll(s, " ", ""); s {
	case "½":
		return exact.Frac(1, 2), true
	case "¼":
		return exact.Frac(1, 4), true
	}
	n, err := exact.Parse(s)
	return n, err == nil
}
