package roster

import (
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/class"
	"freshapron/internal/core/pattern"
)

var (
	bullet   = pattern.Must(`^\s*(?:[-•*–·▪✓✔✗✘☐☑□■]\s*|\(?\d{1,3}[.):]\s*|\d{1,3}\s+|\[[ xX]?\]\s*)`)
	place    = pattern.Must(`(?i)^\s*((?:bench|table|group|team|unit|kitchen|bay|pair|station)\s*\w{1,2})\s*[-–—:.)]\s*`)
	brackets = pattern.Must(`\([^)]*\)?|\[[^\]]*\]?`)
	heads    = pattern.Must(`^(.{2,40}?)(?:\s*:|\s+[-–—])\s+(.+)$`)
	labelled = pattern.Must(`^(?i:(?:the )?(?:learners|pupils|students|names))\s*:\s*`)
	joins    = pattern.Must(`\s+(?:and|und|et|y)\s+|\s*[&+/]\s*`)
	ends     = pattern.Must(`(\p{L}{3,}|\))\.(\s+|$)`)
	behind   = pattern.Must(`\s*[(\[]|\s+[-–—]+\s*|[-–—]+\s+|\s*:\s+|\s*[*†#!=]+`)
)

// sign is what stands before a name and may say something, as a picture does.
var sign = pattern.Must(`^([^\p{L}\p{N}\s()\[\]"'’-]+)\s*(\p{L}.*)$`)

// short is what may be the first letters of the name behind it.
var short = pattern.Must(`^(\p{Lu}{2,3})\s*[-–—:]\s+(.+)$`)

// firsts are the first letters of a name.
func firsts(line string) string {
	name, _ := person(line)
	var out []rune
	for _, w := range strings.Fields(name) {
		out = append(out, []rune(w)[0])
	}
	return string(out)
}

// people parts a line of text into the people whom it names, each with what stands behind
// the name, and what names nobody. Grouped says that places stand on lines of their own,
// so that those on one line are several.
func people(line string, grouped bool) []string {
	line = strings.Trim(bullet.ReplaceAllString(strings.TrimSpace(line), ""), " ,;")
	if m := short.FindStringSubmatch(line); m != nil && strings.EqualFold(m[1], firsts(m[2])) {
		line = m[2] // “AB - Amara Bell”
	}
	if m := sign.FindStringSubmatch(line); m != nil && names(m[2]) {
		line = m[2] + " - " + m[1]
	}
	if m := place.FindStringSubmatch(line); m != nil {
		return append([]string{m[1]}, several(line[len(m[0]):])...)
	}
	if m := heads.FindStringSubmatch(line); m != nil && needed(m[1]) {
		parts := several(m[2])
		if !slices.ContainsFunc(parts, names) {
			return []string{line} // “Coeliac: none”
		}
		for i := range parts {
			parts[i] += " - " + m[1]
		}
		return parts
	}
	if before, after, ok := strings.Cut(line, ":"); ok && labels(before, after) {
		return append([]string{strings.TrimSpace(before) + ":"}, several(after)...)
	}
	parts := several(line)
	if len(parts) == 2 && !grouped && strings.Count(brackets.ReplaceAllString(line, ""), ",") > 0 && !joins.MatchString(brackets.ReplaceAllString(line, "")) {
		return []string{line} // “Okafor, Ada”, with what she needs or without
	}
	if !slices.ContainsFunc(parts, names) {
		return []string{line}
	}
	return parts
}

// allWheres reports whether words say nothing but where somebody stands.
func allWheres(words []string) bool {
	return !slices.ContainsFunc(words, func(w string) bool { return !slices.Contains(wheres, strings.ToLower(w)) })
}

// several parts words into people: what is nothing but a need belongs to who stands before it.
func several(text string) []string {
	var out []string
	for _, p := range parted(text) {
		p = labelled.ReplaceAllString(p, "")
		if len(out) > 0 && isNeed(p) && !names(p) {
			out[len(out)-1] += ", " + p
			continue
		}
		out = append(out, p)
	}
	return out
}

// names reports whether words begin with a name.
func names(p string) bool {
	name, _ := person(p)
	return isName(name)
}

// needed reports whether words before a colon are what those behind it need, or that they
// need nothing.
func needed(before string) bool {
	return !isName(before) && (isNeed(before) || class.Understand(before).None)
}

// labels reports whether what stands before a colon says where or when those behind it are,
// and is nobody of whom something is said.
func labels(before, after string) bool {
	parts := several(after)
	if allWheres(strings.Fields(before)) {
		return true
	}
	if !isName(before) || isSmall(before) && !isSmall(after) {
		return len(parts) > 1
	}
	oneWord := !strings.Contains(strings.TrimSpace(before), " ")
	return oneWord && strings.Contains(strings.TrimSpace(after), " ") && !slices.ContainsFunc(parts, func(p string) bool { return !names(p) })
}

// parted splits a line at semicolons, or where there are none at commas, words that join
// and ends of sentences, all outside brackets.
func parted(line string) []string {
	if outside(line, ';') {
		return list(line)
	}
	var plain strings.Builder
	from := 0
	add := func(s string) {
		plain.WriteString(ends.ReplaceAllString(joins.ReplaceAllString(s, ", "), "$1, "))
	}
	for _, at := range brackets.FindAllStringIndex(line, -1) {
		add(line[from:at[0]])
		plain.WriteString(line[at[0]:at[1]])
		from = at[1]
	}
	add(line[from:])
	return list(plain.String())
}

// person parts a cell into the name and what is noted behind it: in brackets, behind a
// dash or a colon, or in words that are no name's. A name in brackets is one by which
// somebody is called, and stays.
func person(cell string) (name, note string) {
	cell = strings.TrimSpace(unsaid.ReplaceAllString(cell, " "))
	if strings.HasSuffix(cell, ":") { // where those behind it are
		return cell, ""
	}
	for _, at := range behind.FindAllStringIndex(cell, -1) {
		mark := strings.TrimSpace(cell[at[0]:at[1]])
		if at[0] == 0 || mark == "(" && isCalled(cell[:at[0]], brackets.FindString(cell[at[0]:])) {
			continue
		}
		note = strings.TrimSpace(cell[at[1]:])
		switch {
		case mark == "(" || mark == "[":
			note = strings.TrimSpace(closing.ReplaceAllString(note, " "))
		case note == "" && mark != "!": // a star stands for something that is said elsewhere
			note = mark
		}
		name = strings.TrimRight(cell[:at[0]], " ,")
		if figures.MatchString(note) { // an age, a mark
			return name, ""
		}
		return name, unnamed(name, note)
	}
	words := strings.Fields(cell)
	for i := 1; i < len(words); i++ {
		if rest := strings.Join(words[i:], " "); isNote(words[:i], words[i], rest) {
			return strings.TrimRight(strings.Join(words[:i], " "), ",:"), rest
		}
	}
	return cell, ""
}

var figures = pattern.Must(`^[\s\d.,/%()–—-]*\d[\s\d.,/%()–—-]*$`)

// unnamed is a note without the name that it begins with once more: “Ada (Ada no nuts)”.
func unnamed(name, note string) string {
	first, rest, _ := strings.Cut(note, " ")
	if given, _, _ := strings.Cut(name, " "); rest != "" && strings.EqualFold(given, strings.TrimRight(first, ":=")) {
		return strings.TrimLeft(rest, "=:-–— ")
	}
	return note
}

// unsaid is what stands beside a name and tells nothing to a kitchen: an address, a sex, the
// marks of a register.
var unsaid = pattern.Must(`(?:\s+[/\\NLAO.]){3,}\s*$|<?[^\s<>()]+@[^\s<>()]+>?|(?i)[(\[](?:m|f|x|d|w|nb|male|female|boy|girl)[)\]]`)

// closing is the bracket that ends a note, with marks behind it.
var closing = pattern.Must(`[)\]][ *!]*$`)

// isCalled reports whether brackets behind a name hold another.
func isCalled(name, in string) bool {
	in = strings.Trim(in, "()[] ")
	return len([]rune(in)) > 1 && isName(in) && isSmall(in) == isSmall(name) && len(class.Understand(in).Needs) == 0
}

// isNote reports whether a name has ended before a word: that has no capital where the
// name has them, or it and the rest are nothing but what somebody needs, in louder
// letters, behind two words, or in several.
func isNote(before []string, word, rest string) bool {
	word = strings.Trim(word, ",.")
	small := isSmall(before[0])
	if isSmall(word) && !small && !isParticle(word) {
		return !gathers.MatchString(rest)
	}
	if len(before) > 1 && slices.Contains(letterCodes, rest) {
		return true
	}
	is := class.Understand(rest)
	needs := slices.DeleteFunc(is.Needs, func(id string) bool { return !small && class.FoodOf(id) != "" })
	if len(needs) == 0 || len(is.Asks) > 0 || isParticle(word) {
		return false
	}
	loud := isCapitals(word) && !isCapitals(before[0]) && len([]rune(word)) > 2
	return loud || len(before) > 1 || small && strings.Contains(rest, " ")
}

// letterCodes are letters by which kitchens tell needs. Who reads on is asked what they say.
var letterCodes = strings.Fields("V VG VE H K N P D E G GF NF DF EF LF SF")

// gathers are words of a title behind the name of a class.
var gathers = pattern.Must(`(?i)\b(?:group|class|list|register)$`)

// longestNameWords is of how many words a name is at most.
const longestNameWords = 5

// isName reports whether words can be somebody's name: a few, without a number, each with
// a capital where the writing has them, and none that stands in titles, greetings and totals.
func isName(s string) bool {
	words := strings.FieldsFunc(s, func(r rune) bool { return strings.ContainsRune(" ,()", r) })
	if len(words) == 0 || len(words) > longestNameWords {
		return false
	}
	if first := strings.ToLower(strings.Trim(words[0], ".,:!?")); slices.Contains(greetings, first) || len(words) == 1 && slices.Contains(headed, first) {
		return false
	}
	if len([]rune(letters(s))) < 2 {
		return false
	}
	if allWheres(words) {
		return false
	}
	small := isSmall(s)
	for i, w := range words {
		ended := strings.HasSuffix(w, ".") && i+1 < len(words) && len([]rune(w)) > 2 && !isParticle(w)
		if ended || slices.Contains(noName, strings.ToLower(strings.Trim(w, ".,:!?"))) {
			return false
		}
		for _, r := range w {
			if !unicode.IsLetter(r) && !unicode.IsMark(r) && !strings.ContainsRune(`'’.-‘´`, r) {
				return false
			}
		}
		if !small && isSmall(w) && !isParticle(w) {
			return false
		}
	}
	return len(words) > 1 || !slices.ContainsFunc(class.Understand(s).Needs, func(id string) bool { return small || class.FoodOf(id) == "" })
}

var (
	// noName are words of titles and totals, which no name has.
	noName = strings.Fields("class list lists teacher teachers year room food total totals pupil pupils learner learners student students boys girls group bench team term name names " +
		"the this that these key code codes legend morning afternoon register allergies allergy medical dietary needs notes absent lesson period tutor confidential printed report")
	// wheres are words for where somebody stands.
	wheres = strings.Fields("front back left right middle centre center near far window door wall side row sink sinks by the at corner a b c d 1 2 3 4 5 6")
	// greetings are words with which names don't begin.
	greetings = strings.Fields("hi hello good dear thanks thank thx cheers regards please mr mrs miss ms dr sir")
	// headed are names of some people, and headings where they stand alone.
	headed = strings.Fields("ta date set table page form diet none monday tuesday wednesday thursday friday")
)

func isParticle(w string) bool { return slices.Contains(particles, strings.ToLower(w)) }

// particles belong to the family name behind them.
var particles = strings.Fields("van von der den de del della di da do dos das du la le el al bin ibn bint ten ter zu zum zur st st. mac mc ap ab y e")

// isSmall reports whether words have letters with capitals, and none is one.
func isSmall(s string) bool { return strings.ToLower(s) == s && strings.ToUpper(s) != s }

// isCapitals reports whether words have capitals, and no small letters.
func isCapitals(s string) bool { return strings.ToUpper(s) == s && strings.ToLower(s) != s }

// calls is a name in brackets at the end.
var calls = pattern.Must(`\s+\([^()]+\)$`)

// split parts a whole name: "Okafor, Ada", "OKAFOR Ada" or "Ada Okafor", with what
// belongs to the family name before it.
func split(name string) (given, family string) {
	if f, g, ok := strings.Cut(name, ","); ok {
		return strings.TrimSpace(g), strings.TrimSpace(f)
	}
	if called := calls.FindString(name); called != "" { // “Ada Okafor (Addie)”
		given, family = split(strings.TrimSpace(strings.TrimSuffix(name, called)))
		return given + called, family
	}
	words := strings.Fields(name)
	if len(words) < 2 {
		return name, ""
	}
	loud := func(w string) bool { return isCapitals(w) && len([]rune(strings.Trim(w, "."))) > 1 }
	first := 0
	for first < len(words) && loud(words[first]) {
		first++
	}
	if first > 0 && first < len(words) && !slices.ContainsFunc(words[first:], loud) {
		return strings.Join(words[first:], " "), strings.Join(words[:first], " ")
	}
	at := len(words) - 1
	for at > 1 && (isParticle(words[at-1]) || loud(words[at]) && loud(words[at-1]) && first == 0) {
		at--
	}
	return strings.Join(words[:at], " "), strings.Join(words[at:], " ")
}
