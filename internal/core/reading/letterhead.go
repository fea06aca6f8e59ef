package reading

import (
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
)

// ofAnybody are words of a line that says whose sheet it is, when and where, rather than for which dish.
var ofAnybody = pattern.Must(`(?i)\b(?:school|academy|college|dep(?:artmen)?t|faculty|tech(?:nology)?|d&?t|nutrition|ks ?\d|gcse|curriculum|booklet|pages?|handouts?|worksheets?|resources?|(?:recipe|task|work|resource|information) (?:sheets?|cards?)|term|w(?:ee)?k \d+|lessons?|unit|module|rotation|y(?:ea)?r? ?\d{1,2}s?|class(?:es)?|group|set|teacher|tutor|pupils?|students?|learners?|name|date|form|room|mrs?|miss|ms|sir|homework|cover|assessment|practicals?|cookery|catering|hospitality|skills|club)\b`)

const (
	mostHeads     = 4  // lines that may stand over a title
	headWords     = 10 // in one of them
	linesOfRecipe = 3  // at least, below them
)

// ofSheet is what such a line is about.
const ofSheet = "the sheet"

// headed returns the places of the lines at the top of a text that say whose sheet it is.
func headed(lines []string, p *pantry.Pantry) (heads []int) {
	left := 0
	for _, l := range lines {
		if strings.TrimSpace(l) != "" {
			left++
		}
	}
	for n, l := range lines {
		if l = strings.TrimSpace(l); l == "" {
			continue
		}
		if left -= 1; left < linesOfRecipe || len(heads) == mostHeads || slices.Contains(lines[n+1:], lines[n]) { // the head of every page
			break
		}
		if !letterheads(asideOf.Split(l, -1), p) {
			break
		}
		heads = append(heads, n)
	}
	return heads
}

// letterheads reports whether what stands side by side says whose sheet it is: each part does, or most do and
// the others name neither a dish nor a food.
func letterheads(parts []string, p *pantry.Pantry) bool {
	own, named := 0, false
	for _, part := range parts {
		if letterhead(part, p) {
			own++
		} else {
			named = named || names(part, p)
		}
	}
	return own == len(parts) || 2*own > len(parts) && !named
}

// names reports whether a text names a dish or a food.
func names(text string, p *pantry.Pantry) bool {
	return len(p.Mentioned(text)) > 0 || slices.ContainsFunc(wordsIn(text), isMade)
}

// letterhead reports whether a line says whose sheet it is, and names neither a dish nor a food, nor how
// many, how long or for how many.
func letterhead(text string, p *pantry.Pantry) bool {
	text = strings.TrimSpace(bracket.ReplaceAllString(text, ""))
	if rest := ofGroup.ReplaceAllString(text, ""); ofAnybody.MatchString(rest) {
		text = rest
	}
	if rest := forYear.ReplaceAllString(text, ""); rest != text && !ofAnybody.MatchString(rest) { // "Winter crumble – Y10"
		return false
	}
	if ofSchool.MatchString(text) || aSchool.MatchString(text) {
		return true
	}
	if rest := ofUnit.ReplaceAllString(text, ""); rest != text {
		return !slices.ContainsFunc(wordsIn(rest), isMade)
	}
	if !ofAnybody.MatchString(text) || len(strings.Fields(text)) > headWords || saysDish.MatchString(text) || greeting.MatchString(text) || howMany.MatchString(text) || speech.MatchString(text) || times.MatchString(text) && !aboutLearner.MatchString(text) {
		return false
	}
	if _, yields := yieldOf(text); yields {
		return false
	}
	if _, _, heading := headingOf(text); heading && !aboutLearner.MatchString(text) {
		return false
	}
	for _, mark := range []*pattern.Pattern{titleMark, lessonOnly} { // "Year 8: ratatouille"
		if at := mark.FindStringIndex(text); at != nil {
			if rest := text[at[1]:]; strings.ContainsFunc(rest, unicode.IsLetter) && !ofAnybody.MatchString(rest) {
				return false
			}
		}
	}
	return !names(ofAnybody.ReplaceAllString(text, " "), p)
}

func wordsIn(text string) []string {
	return strings.FieldsFunc(strings.ToLower(text), func(c rune) bool { return !unicode.IsLetter(c) })
}

// ofGroup ends a line that says which group it is for: “Practical trial – group 3”.
var ofGroup = pattern.Must(`(?i)[-–—,: ]+(?:group|set|team|kitchen|room) \d{1,2}[a-z]?$`)

// forYear ends a title with whom it is for.
var forYear = pattern.Must(`(?i) [-–—] y(?:ea)?r? ?\d{1,2}$`)

// ofUnit begins a line that says what is taught, of which the dish is an example: “Unit 3: Staple foods”.
var ofUnit = pattern.Must(`(?i)^(?:unit|module|topic|theme|chapter)\s*\d{0,2}[a-z]?\s*[:–—-]\s*`)

// asideOf is between what stands side by side.
var asideOf = pattern.Must(`\s{3,}|\t+`)

// speech are words of somebody who says something.
var speech = pattern.Must(`(?i)\b(?:is|are|was|they|we|you|i|it|this|have|has|will|can)\b`)

// aboutLearner begins what a learner fills in over a sheet, or is to do with it.
var aboutLearner = pattern.Must(`(?i)^(?:(?:pupil|student|learner)s?'?s? )?(?:name|class|date|form|tutor|teacher|homework)\b`)

// lessonOnly is which lesson a line is about, before its name.
var lessonOnly = pattern.Must(`(?i)^(?:lesson|practical|week|unit|task|session)\s*\d*\s*[:–—-]\s*`)
