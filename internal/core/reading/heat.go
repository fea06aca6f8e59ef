package reading

import (
	"regexp"
	"strconv"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// A setting is an oven's temperature that a text names: conventional °C.
type setting struct {
	celsius  exact.Number
	from, to int
	fan      bool
}

var (
	degrees  = regexp.MustCompile(`(?i)(\bfan[- ]?(?:forced|oven|assisted)?\s*:?\s*(?:at\s+|to\s+)?)?\b(\d{2,3})\s*(?:(°|º|˚|degrees?|deg\.?|grad(?:er)?)\s*)?(celsius|centigrade|fahrenheit|c|f)?\b`)
	fanAfter = regexp.MustCompile(`(?i)^\s*[-/,(]?\s*\(?\s*fan\b(?:[- ]?(?:oven|forced|assisted))?(\s*:?\s*(?:at\s+|to\s+)?\d)?`)
	marks    = regexp.MustCompile(`(?i)\b(?:gas(?:\s*mark)?|gas\s*no\.?|mark|regulo|th(?:ermostat)?\.?|gm)\s*(\d{1,2}\s*/\s*\d|[½¼]|\d{1,2})(?:\b|$)`)
	// inside is what a temperature is of where it is none of the oven.
	inside = regexp.MustCompile(`(?i)\b(?:core|probe|thermometer|centre|center|middle|inside|internal(?:ly)?|reach(?:es|ed)?|registers?|thickest|syrup|sugar|oil|fat|fryer|water|milk|lukewarm|blood heat|jam|soft ball|set at|cream|chocolate|custard|fridge|room)\b`)
	ofOven = regexp.MustCompile(`(?i)\b(?:oven|(?:pre-?|par-?)?bak(?:e|ing)|roast(?:ing)?|pre-?heat|gas|regulo|mark|fan|turn (?:it |the heat |the oven )?(?:down|up)|(?:reduce|lower|increase|raise) (?:the )?(?:heat|oven|temperature)|(?:heat|temperature) (?:down|up)|(?:reduce|lower|increase|raise|drop|turn)\s+(?:it\s+)?(?:down\s+|up\s+)?to\s+\d{3}|backen|ofens?|ugn\w*|four|grädda|enfournez|enfourner)\b`)
	moods  = []struct {
		words   *regexp.Regexp
		celsius int64
	}{
		{regexp.MustCompile(`(?i)\bvery (?:hot|quick) oven\b`), 230},
		{regexp.MustCompile(`(?i)\b(?:moderately|fairly) hot oven\b`), 200},
		{regexp.MustCompile(`(?i)\b(?:mod(?:\.|erate)?|medium)\s+(?:warm )?oven\b`), 180},
		{regexp.MustCompile(`(?i)\b(?:hot|quick) oven\b`), 220},
		{regexp.MustCompile(`(?i)\b(?:very (?:slow|cool)) oven\b`), 130},
		{regexp.MustCompile(`(?i)\b(?:slow|cool|low|warm) oven\b`), 150},
	}
)

// dials are the Fahrenheit marks of ovens and the conventional °C beside them
// in cookers' tables: 250 + 25 for each gas mark.
var dials = map[int64]int64{225: 110, 250: 120, 275: 140, 300: 150, 325: 160, 350: 180, 375: 190, 400: 200, 425: 220, 450: 230, 475: 240, 500: 260}

// settings returns the oven settings that a text names, in order. Of one
// setting said in several ways the conventional °C is taken.
func settings(text string) []setting { return settingsIn(text, ofOven.MatchString(text)) }

// settingsIn is settings where it is known whether an oven is spoken of.
func settingsIn(text string, oven bool) []setting {
	var found []setting
	if !strings.ContainsAny(text, "0123456789½¼") && !strings.Contains(strings.ToLower(text), "oven") {
		return nil
	}
	for _, m := range marks.FindAllStringSubmatchIndex(text, -1) {
		mark, ok := measureMark(text[m[2]:m[3]])
		if c, known := measure.GasToCelsius(mark); ok && known {
			found = append(found, setting{celsius: c.Amount, from: m[0], to: m[1]})
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
				return []setting{{celsius: exact.Int(w.celsius), from: at[0], to: at[1]}}
			}
		}
	}
	for i := range found {
		for k := i; k > 0 && found[k].from < found[k-1].from; k-- {
			found[k], found[k-1] = found[k-1], found[k]
		}
	}
	return together(text, found)
}

func inMark(list []setting, at int) bool {
	for _, s := range list {
		if s.from <= at && at < s.to {
			return true
		}
	}
	return false
}

// degree reads one match of degrees; ok is false where it is no oven's.
func degree(text string, m []int, oven bool) (setting, bool) {
	group := func(n int) string {
		if m[2*n] < 0 {
			return ""
		}
		return text[m[2*n]:m[2*n+1]]
	}
	s := setting{from: m[0], to: m[1]}
	n, err := strconv.ParseInt(group(2), 10, 64)
	unit := strings.ToLower(group(4))
	sign := group(3) != "" || unit != ""
	before := strings.TrimSpace(strings.ToLower(text[max(0, m[0]-24):m[0]]))
	after := fanAfter.FindStringSubmatch(text[m[1]:])
	s.fan = group(1) != "" || after != nil && after[1] == ""
	if after != nil && after[1] == "" {
		s.to += len(after[0])
	}
	atOven := oven && (strings.HasSuffix(before, " to") || strings.HasSuffix(before, " on") || strings.HasSuffix(before, "@") || strings.HasSuffix(before, " at") || strings.HasSuffix(before, "/") || strings.HasSuffix(before, "oven") || strings.HasSuffix(before, "oven:") || strings.HasSuffix(before, ",") || strings.HasSuffix(before, "(") || s.fan)
	if err != nil || !sign && !atOven && !s.fan {
		return s, false
	}
	if !sign && (n < 100 || !boundary(text, m[1])) {
		return s, false
	}
	if !oven && !s.fan || innerHeat(text, m[0]) {
		return s, false
	}
	fahrenheit := strings.HasPrefix(unit, "f") || unit == "" && n >= 275
	switch {
	case fahrenheit && dials[n] > 0:
		s.celsius = exact.Int(dials[n])
	case fahrenheit:
		s.celsius = measure.Quantity{Amount: exact.Int(n), Unit: measure.Fahrenheit}.Base().RoundTo(exact.Int(5))
	default:
		s.celsius = exact.Int(n)
	}
	if s.fan {
		s.celsius = s.celsius.Add(exact.Int(20))
	}
	return s, s.celsius.Cmp(exact.Int(80)) >= 0 && s.celsius.Cmp(exact.Int(320)) <= 0
}

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

// innerHeat reports whether the words just before a temperature say that it
// is of the food, of water, milk or fat.
func innerHeat(text string, at int) bool {
	before := text[:at]
	for _, stop := range []string{". ", "; ", " and ", ", "} {
		if i := strings.LastIndex(before, stop); i >= 0 {
			before = before[i:]
		}
	}
	in := inside.FindAllStringIndex(before, -1)
	if in == nil {
		return false
	}
	ov := ofOven.FindAllStringIndex(before, -1)
	return ov == nil || ov[len(ov)-1][0] < in[len(in)-1][0]
}

var alike = regexp.MustCompile(`(?i)^\s*(?:[/,(\[\])|=–-]|or|and|fan|gas|mark|oven|°|c\b|\s|for|if using|using|a|in|degrees?|conventional|electric|about|i\.?e\.?)*$`)

// together keeps one of the settings that say the same in several ways: "200
// °C/180 °C fan/gas 6".
func together(text string, list []setting) []setting {
	var out []setting
	for _, s := range list {
		if n := len(out); n > 0 && alike.MatchString(text[out[n-1].to:s.from]) {
			last := &out[n-1]
			near := last.celsius.Sub(s.celsius).Abs().Cmp(exact.Int(25)) <= 0
			if near {
				if last.fan && !s.fan {
					last.celsius, last.fan = s.celsius, false
				}
				last.to = s.to
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
