package reading

import (
	"regexp"
	"strings"
	"unicode"
)

// A line of the source that is not empty.
type line struct {
	at       int    // counted from 1
	text     string // trimmed
	item     string // without the mark of a list
	marked   bool   // it has a mark of a list
	numbered bool   // and the mark is a number
	gap      bool   // an empty line stands before it
	quiet    string // why it is not looked into; empty where it is
}

var (
	ends     = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\u2028", "\n", "\u2029", "\n")
	tidy     = strings.NewReplacer("\u00a0", " ", "\u2009", " ", "\u202f", " ", "\ufeff", "", "\u200b", "", "\t", " ", "’", "'", "‘", "'", "“", "\"", "”", "\"")
	dotted   = regexp.MustCompile(`(?i)^\s*(?:step\s+)?\(?(\d{1,2}|[a-h])(?:[.):]|\s+[-–—])\s+`)
	stepMark = regexp.MustCompile(`(?i)^\s*(?:step\s+(?:\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten)\s*[.:)–—-]?\s*)`)
	bare     = regexp.MustCompile(`^\s*(\d{1,2})\s+([A-Z]+[a-z]*)\b`)
	bulleted = regexp.MustCompile(`^\s*(?:[-*•·▪◦‣●○■□☐☑✓✔➢►–—]|\[[ xX]?\])\s*`)
	emphasis = regexp.MustCompile(`^(?:\*\*|__)(.+?)(?:\*\*|__)(:?)$`)
	hashes   = regexp.MustCompile(`^#{1,6}\s+(.*?)\s*#*$`)
)

// adverbial begin a numbered line that says what to do.
var adverbial = wordSet("While Meanwhile Using With When After Once In On Carefully Gently Finally ADULT Adult Teacher")

// split takes a text apart into its lines.
func split(text string) []line {
	var out []line
	gap := false
	for n, raw := range strings.Split(ends.Replace(strings.ToValidUTF8(text, "\uFFFD")), "\n") {
		s := strings.TrimSpace(tidy.Replace(raw))
		if s == "" {
			gap = true
			continue
		}
		l := line{at: n + 1, text: s, item: s, gap: gap}
		gap = false
		switch {
		case len(out) >= maxLines:
			l.quiet = "the text is longer than any recipe"
		case len([]rune(s)) > maxRunes:
			l.quiet = "the line is longer than any in a recipe"
		case !strings.ContainsFunc(s, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }):
			l.quiet = "there are no words in it"
		default:
			l.unmark()
		}
		out = append(out, l)
	}
	return out
}

// unmark takes the mark of a list off.
func (l *line) unmark() {
	s := l.text
	if m := stepMark.FindString(s); m != "" && strings.TrimSpace(s[len(m):]) != "" {
		l.item, l.marked, l.numbered = s[len(m):], true, true
	} else if m := dotted.FindStringSubmatch(s); m != nil && !amountLater(s, m[0]) {
		l.item, l.marked, l.numbered = s[len(m[0]):], true, m[1][0] <= '9'
	} else if m := bulleted.FindString(s); m != "" && !strings.HasPrefix(s, "**") && m != s {
		l.item, l.marked = s[len(m):], true
	} else if m := bare.FindStringSubmatch(s); m != nil && (isVerb(m[2]) || heads[strings.ToLower(m[2])] || adverbial[m[2]]) {
		l.item, l.marked, l.numbered = strings.TrimSpace(s[strings.Index(s, m[2]):]), true, true
	}
	l.item = strings.TrimSpace(l.item)
}

// amountLater reports whether what looks like the number of a list is an
// amount: "2 - 3 carrots".
func amountLater(s, mark string) bool {
	rest := s[len(mark):]
	return strings.ContainsAny(mark, "-–—") && rest != "" && rest[0] >= '0' && rest[0] <= '9'
}

// plain is a line without the marks of headings and of bold type.
func (l line) plain() string {
	s := l.item
	if m := hashes.FindStringSubmatch(s); m != nil {
		s = m[1]
	}
	if m := emphasis.FindStringSubmatch(strings.TrimSpace(s)); m != nil {
		s = m[1] + m[2]
	}
	return strings.TrimSpace(strings.Trim(strings.TrimSpace(strings.ReplaceAll(s, "**", "")), "*_"))
}

// hashed reports whether the line is a heading of Markdown.
func (l line) hashed() bool { return hashes.MatchString(l.text) }

// capitals reports whether the line shouts.
func capitals(s string) bool {
	letters := 0
	for _, r := range s {
		if unicode.IsLower(r) {
			return false
		}
		if unicode.IsLetter(r) {
			letters++
		}
	}
	return letters > 2
}
