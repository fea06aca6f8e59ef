// Package duration reads how long something takes, in whatever words people
// write it.
package duration

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pattern"
)

// A Span is a time that a text names.
type Span struct {
	Least, Most exact.Number // minutes; the same where no range is named
	From, To    int          // where it stands, in bytes
	Inside      bool         // "after 10 minutes, turn": a moment of what goes on
	More        bool         // "and 45 minutes more": on top of what was named before
}

const (
	amount = `(?:\d+\s+(?:and\s+)?\d/\d|(?:\d/\d|[½¼¾⅓⅔])(?:\s+(?:of\s+)?an)?|\d+\s*(?:and\s+)?[½¼¾⅓⅔]|\d+\s+and\s+a\s+(?:half|quarter)|\d+(?:[.,]\d+)?|a\s+couple\s+of|couple\s+of|a\s+few|` +
		`(?:an?|one|two|three|four|five|six|seven|eight|nine|ten)\s+and\s+a\s+(?:half|quarter)|` +
		`forty[- ]five|twenty[- ]five|thirty[- ]five|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|fifteen|twenty|thirty|forty|fifty|sixty|ninety|another|an?|half\s+an?)`
	unit = `(?:minutes?|mins?|minuten|minuter|minutter|minuti|minuut|hours?|hrs?|h|stunden?|std|timm(?:e|ar)|heures?|seconds?|secs?|sekunden?|days?)`
)

var (
	// It is looked for from each place where a time can begin: see times.
	spanAt = pattern.Must(`(?i)^((?:every|each|after|under|within)\s+(?:about\s+|another\s+)?)?(?:a\s+(?:further|good)\s+)?(` + amount + `)(?:\s*(` + unit + `))?(?:\s*(?:-|–|—|to|or)\s*(` + amount + `))?\s*[- ]?(?:(?:more|extra|further)\s+)?(` + unit +
		`)\b(?:\s+and\s+(?:a\s+)?(half|quarter)\b|\s*(?:(?:and|&)\s+)?(\d{1,2})(?:\s*(minutes?|mins?|m)\b)?)?`)
	everyHalf  = pattern.Must(`(?i)\b(?:every|each)\s+$`)
	whole      = pattern.Must(`(?i)\b(three[- ]quarters\s+of\s+an\s+hour|(?:a\s+)?quarter\s+of\s+an\s+hour|half\s+an\s+hour|(?:a\s+)?half[- ]hour|overnight)\b`)
	tight      = pattern.Must(`(?i)\b(\d{1,2})h([0-5]\d)\b`)
	sides      = pattern.Must(`(?i)^\)?\s*(?:on\s+|for\s+|auf\s+)?(?:(?:each|per|a|either)\s+side|(?:je|jeder|pro)\s+seite|par\s+face|de\s+chaque\s+côté|par\s+côté)\b`)
	more       = pattern.Must(`(?i)^\s*(?:more|longer)\b`)
	atOnce     = pattern.Must(`(?i)\b(?:another|a\s+further|further)\s+(?:about\s+)?$`)
	aSecond    = pattern.Must(`(?i)^(?:an?|another|one)\s+second$`)
	orTwo      = pattern.Must(`(?i)\b(?:a|an|one)\s+(minute|hour)\s+or\s+two\b`)
	further    = pattern.Must(`(?i)\b(?:a|one)\s+(?:further|extra|final|full|good)\s+(minute|hour)\b`)
	between    = pattern.Must(`(?i)\bbetween\s+(?:[\d½¼¾./]+|\pL+)\s+and\s`)
	afterwards = pattern.Must(`(?i)\bafter\s+(?:the\s+)?(?:first\s+|last\s+)?$`)
	bare       = pattern.Must(`(?i)(\bfor\s+|\banother\s+)?\b(\d{1,3})(?:\s+more\b|\s*(?:[.,;]|$))`) // "and 45 more", after a time that was named
)

var named = map[string]exact.Number{
	"a": exact.Int(1), "an": exact.Int(1), "one": exact.Int(1), "another": exact.Int(1), "two": exact.Int(2), "three": exact.Int(3), "four": exact.Int(4), "five": exact.Int(5), "six": exact.Int(6),
	"seven": exact.Int(7), "eight": exact.Int(8), "nine": exact.Int(9), "ten": exact.Int(10), "eleven": exact.Int(11), "twelve": exact.Int(12), "fifteen": exact.Int(15),
	"twenty": exact.Int(20), "thirty": exact.Int(30), "forty": exact.Int(40), "fifty": exact.Int(50), "sixty": exact.Int(60), "ninety": exact.Int(90),
	"twenty five": exact.Int(25), "thirty five": exact.Int(35), "forty five": exact.Int(45), "a couple of": exact.Int(2), "couple of": exact.Int(2),
	"half a": exact.Frac(1, 2), "half an": exact.Frac(1, 2), "half": exact.Frac(1, 2), "quarter": exact.Frac(1, 4),
	"½": exact.Frac(1, 2), "¼": exact.Frac(1, 4), "¾": exact.Frac(3, 4), "⅓": exact.Frac(1, 3), "⅔": exact.Frac(2, 3),
}

// few is what "a few minutes" says.
var few = [2]exact.Number{exact.Int(2), exact.Int(4)}

// value reads an amount as spanAt has found it.
func value(s string) (least, most exact.Number, ok bool) {
	s = strings.Join(strings.Fields(strings.ToLower(strings.ReplaceAll(s, "-", " "))), " ")
	if part, ok := strings.CutSuffix(s, " an"); ok { // "3/4 of an hour"
		s = strings.TrimSuffix(part, " of")
	}
	if s == "a few" {
		return few[0], few[1], true
	}
	if n, ok := named[s]; ok {
		return n, n, true
	}
	for _, part := range []string{"half", "quarter"} {
		if rest, ok := strings.CutSuffix(s, " and a "+part); ok {
			n, _, ok := value(rest)
			n = n.Add(named[part])
			return n, n, ok
		}
	}
	for mark, part := range map[string]exact.Number{"½": named["½"], "¼": named["¼"], "¾": named["¾"], "⅓": named["⅓"], "⅔": named["⅔"]} {
		if rest, ok := strings.CutSuffix(s, mark); ok {
			n, _, ok := value(strings.TrimSuffix(strings.TrimSpace(rest), " and"))
			n = n.Add(part)
			return n, n, ok
		}
	}
	if i := strings.LastIndexByte(s, ' '); i > 0 && strings.Contains(s, "/") {
		n, _, ok := value(strings.TrimSuffix(s[:i], " and"))
		part, err := exact.Parse(s[i+1:])
		n = n.Add(part)
		return n, n, ok && err == nil
	}
	n, err := exact.Parse(strings.ReplaceAll(s, ",", "."))
	return n, n, err == nil
}

// minutes are those of a unit.
func minutes(unit string) exact.Number {
	switch u := strings.ToLower(unit); {
	case strings.HasPrefix(u, "h"), strings.HasPrefix(u, "st"), strings.HasPrefix(u, "t"):
		return exact.Int(60)
	case strings.HasPrefix(u, "s"):
		return exact.Frac(1, 60)
	case strings.HasPrefix(u, "d"):
		return exact.Int(24 * 60)
	}
	return exact.Int(1)
}

// night is how long "overnight" is.
var night = exact.Int(12 * 60)

// In returns the times that a text names, in order. "Every 5 minutes" is
// none.
func In(text string) []Span {
	if !hints(text) {
		return nil
	}
	if strings.Contains(text, "etween") {
		text = between.ReplaceAllStringFunc(text, func(s string) string { return strings.Replace(s, " and ", "  -  ", 1) })
	}
	var out []Span
	taken := func(from, to int) bool {
		for _, d := range out {
			if from < d.To && d.From < to {
				return true
			}
		}
		return false
	}
	for _, m := range whole.FindAllStringIndex(text, -1) {
		if and := andAHalf(text, m[0]); and {
			continue // "an hour and a half hour" is no one's, "2 and a half hours" is a span's
		}
		if everyHalf.MatchString(text[:m[0]]) {
			continue // how often, not how long
		}
		n := night
		switch low := strings.ToLower(text[m[0]:m[1]]); {
		case strings.HasPrefix(low, "three"):
			n = exact.Int(45)
		case strings.Contains(low, "quarter"):
			n = exact.Int(15)
		case strings.Contains(low, "half"):
			n = exact.Int(30)
		}
		out = append(out, Span{Least: n, Most: n, From: m[0], To: m[1], Inside: afterwards.MatchString(text[:m[0]])})
	}
	for _, m := range orTwo.FindAllStringSubmatchIndex(text, -1) {
		each := minutes(text[m[2]:m[3]])
		out = append(out, Span{Least: each, Most: each.Mul(exact.Int(2)), From: m[0], To: m[1]})
	}
	for _, m := range further.FindAllStringSubmatchIndex(text, -1) {
		n := minutes(text[m[2]:m[3]])
		out = append(out, Span{Least: n, Most: n, From: m[0], To: m[1], More: true})
	}
	for _, m := range tight.FindAllStringSubmatchIndex(text, -1) {
		h, err := exact.Parse(text[m[2]:m[3]])
		n, err2 := exact.Parse(text[m[4]:m[5]])
		if err == nil && err2 == nil {
			n = h.Mul(exact.Int(60)).Add(n)
			out = append(out, Span{Least: n, Most: n, From: m[0], To: m[1]})
		}
	}
	for _, m := range times(text) {
		if aSecond.MatchString(text[m[0]:m[1]]) { // "on a second tray"
			continue
		}
		if d, ok := span(text, m); ok && !taken(d.From, d.To) {
			out = append(out, d)
		}
	}
	for _, m := range bare.FindAllStringSubmatchIndex(text, -1) {
		if n, err := exact.Parse(text[m[4]:m[5]]); err == nil && !taken(m[0], m[1]) && (m[2] >= 0 && strings.HasSuffix(text[m[0]:m[1]], "more") || before(out, m[0]) && (strings.HasSuffix(text[m[0]:m[1]], "more") || strings.HasPrefix(strings.ToLower(text[m[0]:m[1]]), "another"))) {
			out = append(out, Span{Least: n, Most: n, From: m[0], To: m[1], More: true})
		}
	}
	ordered(out)
	return out
}

// times returns where spanAt finds something, from the left, and its groups.
func times(text string) (found [][]int) {
	for at := 0; at < len(text); {
		m := []int(nil)
		if begins(text, at) {
			m = spanAt.FindStringSubmatchIndex(text[at:])
		}
		if m == nil {
			at++
			continue
		}
		for i := range m {
			if m[i] >= 0 {
				m[i] += at
			}
		}
		found, at = append(found, m), m[1]
	}
	return found
}

// begins reports whether a time can begin at a byte of the text: a figure does anywhere, a word where
// it begins itself and by the first letter of one that spanAt knows. So "pizza - 20 minutes" is not
// "a - 20 minutes".
func begins(text string, at int) bool {
	c := text[at]
	if !isLetter(c) {
		return c >= '0' && c <= '9' || c >= utf8.RuneSelf
	}
	before, _ := utf8.DecodeLastRuneInString(text[:at])
	return !unicode.IsLetter(before) && strings.IndexByte("acefhnostuw", c|0x20) >= 0
}

// andAHalf reports whether what stands at a place goes on from "and a".
func andAHalf(text string, at int) bool {
	return strings.HasSuffix(strings.TrimSpace(strings.ToLower(text[:at])), " and")
}

func before(list []Span, at int) bool {
	for _, d := range list {
		if d.To <= at {
			return true
		}
	}
	return false
}

func ordered(list []Span) {
	for i := range list {
		for k := i; k > 0 && list[k].From < list[k-1].From; k-- {
			list[k], list[k-1] = list[k-1], list[k]
		}
	}
}

// span reads what spanAt has found; ok is false where it is no duration.
func span(text string, m []int) (d Span, ok bool) {
	group := func(n int) string {
		if m[2*n] < 0 {
			return ""
		}
		return text[m[2*n]:m[2*n+1]]
	}
	d.From, d.To = m[0], m[1]
	how := strings.ToLower(group(1))
	if strings.HasPrefix(how, "every") || strings.HasPrefix(how, "each") {
		return d, false
	}
	d.Inside = strings.HasPrefix(how, "after")
	if at := m[4]; at > 0 && isLetter(text[at-1]) {
		return d, false // the end of a word
	}
	last := minutes(group(5))
	first := last
	if group(3) != "" {
		first = minutes(group(3))
	}
	least, most, ok := value(group(2))
	if !ok || strings.EqualFold(group(2), "another") && strings.EqualFold(group(5), "day") {
		return d, false // "keep it for another day" is no length of time
	}
	d.Least, d.Most = least.Mul(first), most.Mul(first)
	switch {
	case group(4) != "":
		_, to, ok := value(group(4))
		if !ok {
			return d, false
		}
		d.Most = to.Mul(last)
	case group(3) != "": // "5 minutes 2 hours": the second is not a range
		d.Least, d.Most = least.Mul(first), most.Mul(first)
	}
	both := group(3) == "" || group(4) == "" // "1 hr - 1 hr 10": the minutes are of the second
	add := func(n exact.Number) {
		if both {
			d.Least = d.Least.Add(n)
		}
		d.Most = d.Most.Add(n)
	}
	if part, ok := named[strings.ToLower(group(6))]; ok {
		add(part.Mul(last))
	}
	if extra := group(7); extra != "" {
		n, err := exact.Parse(extra)
		alone := group(8) == ""
		hours := last.Cmp(exact.Int(60)) == 0
		seconds := last.Cmp(exact.Int(1)) == 0 && alone && !strings.Contains(text[m[11]:m[1]], "and") && slices.Contains([]string{"15", "20", "30", "45"}, extra) // "1 min 30"
		after := m[1] < len(text) && (isLetter(text[m[1]]) || text[m[1]] >= '0' && text[m[1]] <= '9' || strings.HasPrefix(text[m[1]:], "°") || strings.HasPrefix(text[m[1]:], " g") || strings.HasPrefix(text[m[1]:], " ml"))
		if err == nil && hours && n.Less(exact.Int(60)) && !(alone && after) {
			add(n)
		} else if seconds && (m[1] == len(text) || strings.ContainsRune(".,;)", rune(text[m[1]]))) {
			add(n.Div(exact.Int(60)))
		} else {
			d.To = m[11] // the number is about something else
		}
	}
	if d.Most.Less(d.Least) {
		d.Least, d.Most = d.Most, d.Least
	}
	rest := text[d.To:]
	if at := sides.FindStringIndex(rest); at != nil {
		two := exact.Int(2)
		d.Least, d.Most, d.To = d.Least.Mul(two), d.Most.Mul(two), d.To+at[1]
	}
	if at := more.FindStringIndex(rest); at != nil {
		d.More, d.To = true, d.To+at[1]
	}
	d.More = d.More || atOnce.MatchString(text[:m[4]]) || strings.HasPrefix(strings.ToLower(group(2)), "another") || strings.Contains(strings.ToLower(text[m[0]:m[4]]), "further") || strings.Contains(strings.ToLower(text[m[0]:m[1]]), " more ")
	return d, true
}

func isLetter(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' }

// hints reports whether a text can name a time at all: most sentences don't,
// and this is quicker to see.
func hints(text string) bool {
	low := strings.ToLower(text)
	for _, word := range []string{"min", "hour", "hr", "night", "sec", "day", "stunde", "std", "timm", "heure", " more"} {
		if strings.Contains(low, word) {
			return true
		}
	}
	return hourMark.MatchString(low)
}

var hourMark = pattern.Must(`[\d½¼¾]\s*h(?:\d|\b)`)
