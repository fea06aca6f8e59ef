package reading

import (
	"encoding/csv"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"freshapron/internal/core/pattern"
)

var (
	starredLine = pattern.Must(`^(?:\*([^*\s][^*]{0,78})\*|_([^_\s][^_]{0,78})_)$`)
	starredHead = pattern.Must(`^\*([^*\s][^*]{1,30}:)\*\s+`)
)

// A line of the source that is not empty.
type line struct {
	at       int     // counted from 1
	text     string  // trimmed
	item     string  // without the mark of a list
	width    int     // letters of the line in the source
	marked   bool    // it has a mark of a list
	numbered bool    // and the mark is a number
	gap      bool    // an empty line stands before it
	titled   bool    // it is the title
	is       section // that its layout says it belongs to; preface where that is open
	whole    bool    // a plan gives it so many minutes in all
	asks     string  // what of it is only supposed
	quiet    string  // why it is not looked into; empty where it is
}

var (
	ends     = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\u2028", "\n", "\u2029", "\n")
	tidy     = strings.NewReplacer("\t", " ", "’", "'", "‘", "'", "“", "\"", "”", "\"", " ▪ ", " • ", " ● ", " • ", " ◦ ", " • ", " ‣ ", " • ")
	dotted   = pattern.Must(`(?i)^\s*(?:step\s+)?\(?(\d{1,2}(?:st|nd|rd|th)?|[a-h]|i{1,3}|iv|vi{0,3}|ix)(?:\s?\)|[.:/]|\s+[-–—])\s+`)
	closeDot = pattern.Must(`^(\d{1,2}[.)])(\p{Lu}\pL)`) // "1.Oven on"
	stepMark = pattern.Must(`(?i)^\s*(?:(?:step|stage)\s+(?:\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten)\s*[.:)–—-]?\s*)`)
	bare     = pattern.Must(`^\s*(\d{1,2})\s+([A-Z]+[a-z]*)\b`)
	bulleted = pattern.Must(`^\s*(?:[-=]>|→|[-*•·▪◦‣●○■□▢▣◻◽❏❑❒☐☑✓✔➢►–—»›¤§~]|[+=>] |\[[ xX]?\])\s*`)
	emphasis = pattern.Must(`^(?:\*\*|__)(.+?)(?:\*\*|__)(:?)$`)
	hashes   = pattern.Must(`^#{1,6}\s+(.*?)\s*#*$`)
)

// adverbial begin a numbered line that says what to do.
var adverbial = wordSet("While Meanwhile Using With When After Once In On Carefully Gently Finally ADULT Adult Teacher")

// lookedInto is how many of the first lines are looked into, where no recipe is longer.
func lookedInto(all []string) int {
	total := 0
	for n, raw := range all[:min(len(all), maxLines)] {
		if len(raw) <= maxBytes {
			total += len(raw)
		}
		if total > maxLooked {
			return n
		}
	}
	return min(len(all), maxLines)
}

// split takes a text apart into its lines.
func split(text string) []line {
	var out []line
	gap := false
	all := strings.Split(ends.Replace(strings.ToValidUTF8(text, "\uFFFD")), "\n")
	looked := lookedInto(all)
	written := slices.Clone(all[:looked])
	for n, raw := range written {
		if len(raw) > maxBytes { // no line of a recipe
			written[n] = ""
		}
	}
	for n, raw := range strings.Split(plain(strings.Join(written, "\n")), "\n") {
		if len(all[n]) <= maxBytes {
			all[n] = raw
		}
	}
	laidOut(all[:looked])
	for n, raw := range all {
		if n < looked && len(raw) <= maxBytes {
			raw = closeDot.ReplaceAllString(columns(unpictured(raw, len(out) == 0)), "$1 $2")
		}
		s := strings.TrimSpace(tidy.Replace(raw))
		if s == "" {
			gap = true
			continue
		}
		if len(out) > 0 { // a title keeps its sign
			s = strings.ReplaceAll(s, " & ", " and ")
		}
		if starredLine.MatchString(s) {
			s = starredLine.ReplaceAllString(s, "**$1$2**")
		}
		s = starredHead.ReplaceAllString(s, "$1 ")
		l := line{at: n + 1, text: s, item: s, width: utf8.RuneCountInString(s), gap: gap}
		gap = false
		switch {
		case n >= looked:
			l.quiet = "the text is longer than any recipe"
		case l.width > maxRunes:
			l.quiet = "the line is longer than any in a recipe"
		case dashes.MatchString(s):
			l.quiet, gap = ruler, true
		case !strings.ContainsFunc(s, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }):
			l.quiet = "there are no words in it"
		default:
			l.unmark()
		}
		out = append(out, l)
	}
	return out
}

// unpictured puts words and marks in the place of pictures.
func unpictured(s string, first bool) string {
	if !pictured.MatchString(s) {
		return s
	}
	s = keycap.ReplaceAllString(s, "$1. ")
	s = besideNumber.ReplaceAllString(s, "$1. ")
	s = enclosed.ReplaceAllStringFunc(s, func(c string) string { return strconv.Itoa(int([]rune(c)[0])-'①'+1) + ". " })
	s = forPeople.ReplaceAllString(s, " | Serves $1 | ")
	s = aroundClock.ReplaceAllString(s, " | Time: ")
	s = strings.TrimLeft(strings.TrimSpace(s), "| ")
	bare := strings.TrimSpace(atEnd.ReplaceAllString(atHead.ReplaceAllString(s, ""), ""))
	if !first && atHead.MatchString(s) && !atEnd.MatchString(s) {
		return "• " + bare
	}
	return bare
}

var (
	pictured     = pattern.Must(`[\x{2460}-\x{2473}\x{231A}-\x{23FF}\x{2600}-\x{2612}\x{2614}-\x{2712}\x{2715}-\x{27BF}\x{2B00}-\x{2BFF}\x{1F000}-\x{1FAFF}\x{FE0F}\x{200D}\x{20E3}]+`)
	atHead       = pattern.Must(`^(?:` + pictured.String() + `\s*)+`)
	atEnd        = pattern.Must(`(?:\s*` + pictured.String() + `)+$`)
	keycap       = pattern.Must(`(\d{1,2})\x{FE0F}?\x{20E3}\s*`)
	besideNumber = pattern.Must(`^\s*(\d{1,2})\s*` + pictured.String() + `\s*`) // "1 🥣 flour"
	enclosed     = pattern.Must(`[①-⑳]\s*`)
	forPeople    = pattern.Must(`[\x{1F465}\x{1F464}\x{1F46A}\x{1F37D}\x{1F9D1}\x{1F468}\x{1F469}]+[\x{FE0F}\x{200D}\s]*[x×:=]?\s*(\d{1,3})\b`)
	aroundClock  = pattern.Must(`[\x{23F0}-\x{23F3}\x{231A}\x{231B}\x{1F550}-\x{1F567}\x{1F570}]\x{FE0F}?\s*`)
)

// laidOut puts bars between the columns under a row of headings that lie two spaces
// apart, and dashes for the letter that some type for the mark of a list.
func laidOut(lines []string) {
	under, letters, slashed := 0, 0, false
	second := 0 // where the second of two columns begins
	twice := 0  // lines with an amount of one, and of the class
	for _, raw := range lines {
		if len(raw) <= maxBytes && ofTheClass(gaps.Split(strings.TrimSpace(raw), -1)) {
			twice++
		}
	}
	lettered(lines)
	betweenCommas(lines)
	for n, raw := range lines {
		if len(raw) > maxBytes {
			continue
		}
		if letterMark.MatchString(raw) {
			letters++
		}
		parts := gaps.Split(strings.TrimSpace(raw), -1)
		switch {
		case twice >= leastRun && ofTheClass(parts):
			lines[n] = strings.Join(parts, " | ")
		case len(parts) > 1 && columnsOf(strings.Join(parts, "|")) != nil:
			under, slashed, second = len(parts), false, 0
			if under == 2 {
				second = strings.LastIndex(raw, parts[1])
			}
			lines[n] = strings.Join(parts, " | ")
		case columnsOf(strings.ReplaceAll(raw, " / ", "|")) != nil:
			under, slashed = strings.Count(raw, " / ")+1, true
			lines[n] = strings.ReplaceAll(raw, " / ", " | ")
		case slashed && under > 0 && strings.Count(raw, " / ") == under-1:
			lines[n] = strings.ReplaceAll(raw, " / ", " | ")
		case strings.TrimSpace(raw) == "":
			under = 0
		case under > 0 && len(parts) > 1 && len(parts) <= under && !strings.Contains(raw, "|"):
			lines[n] = strings.Join(parts, " | ")
		case len(parts) > 1 && len(spaced.FindAllString(raw, 2)) > 0 && severalAmounts(parts):
			lines[n] = strings.Join(parts, "; ")
		case second > 0 && len(parts) == 1 && near(strings.LastIndex(raw, parts[0]), second):
			lines[n] = "| | " + parts[0] + " |"
		}
	}
	if letters >= leastRun {
		for n, raw := range lines {
			lines[n] = letterMark.ReplaceAllString(raw, "- $1")
		}
	}
}

// severalAmounts reports whether several things stand side by side, of which most have an amount.
func severalAmounts(parts []string) bool {
	amounts := 0
	for _, p := range parts {
		switch {
		case timeFirst.MatchString(p):
			return false
		case amountFirst.MatchString(p):
			amounts++
		}
	}
	return len(parts) > 2 && amounts > 1 && amountFirst.MatchString(parts[0])
}

var (
	spaced      = pattern.Must(`\S\s{2,}\S`)
	amountFirst = pattern.Must(`^(?:\d|[½¼¾⅓⅔])\S*\s*.*\pL{3}`)
)

// near reports whether two places of a line are in one column.
func near(a, b int) bool { return max(a, b)-min(a, b) <= 2 }

// betweenCommas puts bars into a table whose cells stand between commas: the rows under one of
// headings, up to an empty line or other headings.
func betweenCommas(lines []string) {
	head := slices.IndexFunc(lines, func(raw string) bool {
		return len(raw) <= maxBytes && strings.Contains(raw, ",") && columnsOf(strings.ReplaceAll(raw, ",", "|")) != nil
	})
	if head < 0 {
		return
	}
	wide := 0
	for n, raw := range lines {
		if len(raw) > maxBytes || strings.TrimSpace(raw) == "" {
			continue
		}
		cells, err := csv.NewReader(strings.NewReader(raw)).Read()
		switch {
		case err != nil || len(cells) < 2:
		case columnsOf(strings.Join(cells, "|")) != nil:
			wide = len(cells)
			lines[n] = strings.Join(cells, " | ")
		case n < head && len(cells) == 2: // "Makes,12" over the table
			lines[n] = cells[0] + ": " + cells[1]
		case wide > 0 && len(cells) <= wide:
			lines[n] = strings.Join(cells, " | ")
		}
	}
}

// ofTheClass reports whether an ingredient stands with its amount, and with another for all.
func ofTheClass(parts []string) bool {
	return len(parts) == 2 && beginsWith(figure, parts[0]) && amountOnly.MatchString(parts[1])
}

var amountOnly = pattern.Must(`(?i)^\d+(?:[.,]\d+)?\s*(?:g|kg|mls?|l|oz|lb|tsp|tbsp|tins?|packs?)?$`)

var (
	gaps       = pattern.Must(`\s{2,}|\s*\t\s*`)
	letterMark = pattern.Must(`^\s*[oO]\s+([\pL\d½¼¾⅓⅔])`)
)

// lettered numbers steps that have two numbers, "1.1", "1.2", or letters: "A) Koftas",
// "B) Grill".
func lettered(lines []string) {
	decimals(lines)
	numbersWithin(lines)
	if !renumbered(lines, subNumber, func(n int) string { return strconv.Itoa(n + 1) }) {
		renumbered(lines, stepLetter, func(n int) string { return string(rune('A' + n)) })
	}
}

// decimals numbers steps that are counted in decimals: "2.0 Fold", "3.1 Bake".
func decimals(lines []string) {
	var at []int
	last := ""
	for n, raw := range lines {
		if m := decimalNumber.FindStringSubmatch(raw); m != nil && len(raw) <= maxBytes && m[1] > last && (isVerb(m[2]) || heads[strings.ToLower(m[2])] || strings.Contains(m[2], "-")) {
			at, last = append(at, n), m[1]
		}
	}
	if len(at) < leastRun {
		return
	}
	for k, n := range at {
		lines[n] = strconv.Itoa(k+1) + ". " + strings.TrimSpace(lines[n])[len(decimalNumber.FindStringSubmatch(lines[n])[1]):]
	}
}

var decimalNumber = pattern.Must(`^\s*(\d\.\d)[.)]?\s+(\p{Lu}[\pL-]+)`)

// numbersWithin puts letters in the place of numbers that count what belongs to a numbered line: “2.1” below “2.”.
func numbersWithin(lines []string) {
	of, last := "", 0
	for n, raw := range lines {
		if m := wholeNumber.FindStringSubmatch(raw); m != nil {
			of, last = m[1], 0
			continue
		}
		if m := numberWithin.FindStringSubmatch(raw); m != nil && m[1] == of && m[2] == strconv.Itoa(last+1) && last < maxWithin {
			lines[n] = string(rune('a'+last)) + ". " + raw[len(m[0]):]
			last++
		}
	}
}

const maxWithin = 8 // letters that are taken for a mark

var (
	wholeNumber  = pattern.Must(`^\s*(\d{1,2})[.)]\s+\D`)
	numberWithin = pattern.Must(`^\s*(\d{1,2})\.(\d)[.)]?\s+`)
)

// renumbered puts numbers in the place of marks that count lines up, nth of which is the
// one at a place from 0, and reports whether there are such.
func renumbered(lines []string, mark *pattern.Pattern, nth func(n int) string) bool {
	var at []int
	for n, raw := range lines {
		if m := mark.FindStringSubmatch(raw); m != nil && m[1] == nth(len(at)) {
			at = append(at, n)
		}
	}
	if len(at) < leastRun {
		return false
	}
	for k, n := range at {
		lines[n] = strconv.Itoa(k+1) + ". " + mark.ReplaceAllString(lines[n], "")
	}
	return true
}

// subNumber is "1.2".
var subNumber = pattern.Must(`^\s*\d\.(\d{1,2})[.)]?\s+`)

var stepLetter = pattern.Must(`^\s*\(?([A-L])[).:]\s+`)

// ruler is why a line of dashes is not looked into: it parts the sections of a sheet.
const ruler = "it is a line"

var dashes = pattern.Must(`^(?:[-_=~*.•·#–—+] ?){3,}$`)

// columns puts bars where tabs or wide gaps part a line into cells.
func columns(raw string) string {
	raw = strings.TrimSpace(raw)
	if strings.Contains(raw, "|") {
		return raw
	}
	at := tabs.FindStringIndex(raw)
	if at == nil {
		return raw
	}
	first := raw[:at[0]]
	if len(tabs.FindAllStringIndex(raw, 2)) > 1 {
		return tabs.ReplaceAllString(raw, " | ")
	}
	if numberOnly.MatchString(first) && digit(raw[at[1]]) { // "3	2 spoons in each case"
		return strings.TrimRight(first, ".)") + ". " + raw[at[1]:]
	}
	if dotted.MatchString(first+" ") || bulleted.FindString(first+" ") == first+" " || numberOnly.MatchString(first) {
		return raw
	}
	return tabs.ReplaceAllString(raw, " | ")
}

var tabs = pattern.Must(`\s*\t\s*|\s{4,}`)

// unmark takes the mark of a list off.
func (l *line) unmark() {
	s := l.text
	if m := stepMark.FindString(s); m != "" && strings.TrimSpace(s[len(m):]) != "" {
		l.item, l.marked, l.numbered = s[len(m):], true, true
	} else if m := dotted.FindStringSubmatch(s); m != nil && !amountLater(s, m[0]) {
		l.item, l.marked, l.numbered = s[len(m[0]):], true, m[1][0] <= '9'
	} else if m := bulleted.FindString(s); m != "" && !strings.HasPrefix(s, "**") && m != s {
		l.item, l.marked = s[len(m):], true
		if m := dotted.FindStringSubmatch(l.item); m != nil && m[1][0] <= '9' && !amountLater(l.item, m[0]) { // “☐ 1. Oven on”
			l.item, l.numbered = l.item[len(m[0]):], true
		}
	} else if m := bare.FindStringSubmatch(s); m != nil && !strings.HasPrefix(strings.ToLower(m[2]), "min") && (isVerb(m[2]) || heads[strings.ToLower(m[2])] || adverbial[m[2]]) {
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
