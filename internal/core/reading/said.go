package reading

import (
	"cmp"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
)

// A wrapping is how wide lines are that were broken where the next word found no room.
type wrapping struct {
	widest  int
	wrapped bool
	last    int // width of the line that was said last
}

// wrappingOf looks at lines by how many are about as wide as the widest.
func wrappingOf(lines []line) (w wrapping) {
	for _, l := range lines {
		w.widest = max(w.widest, l.width)
	}
	wide, long := 0, 0
	for _, l := range lines {
		if l.width+raggedness >= w.widest {
			wide++
		}
		if l.width+raggedness >= w.widest || 2*l.width > w.widest {
			long++
		}
	}
	w.wrapped = w.widest >= narrowest && 2*wide >= long
	return w
}

// goesOn reports whether the line that was said last could not have held the next word: then
// it may have been broken there.
func (w wrapping) goesOn(next string) bool {
	word, _, _ := strings.Cut(next, " ")
	return w.wrapped && w.last+1+utf8.RuneCountInString(word)+raggedness >= w.widest
}

// ownTime begins a line with what takes its own minutes: "spices 1 min", not "for 5 more".
var ownTime = pattern.Must(`^\pL{4,}(?: \pL+)? (?:about )?\d`)

// By so many letters lines that are broken by hand differ, and none is broken before so many.
const raggedness, narrowest = 12, 50

// say adds a line to the method; a line that goes on in the middle of a
// sentence is joined to the one before.
func (r *reader) say(l line, text string) {
	adult := fit.NoAdult
	if m := keepsBehind.FindStringSubmatch(text); m != nil {
		text = m[1]
		r.Facts = append(r.Facts, Fact{Line: l.at, Says: m[2]})
	}
	for _, form := range []*pattern.Pattern{atHome, laterAtHome, orElse, signedOff, sharedOut} {
		if m := form.FindStringSubmatch(text); m != nil && !hereToo.MatchString(text) {
			text = m[1]
			r.Facts = append(r.Facts, Fact{Line: l.at, Says: m[2]})
			if form == orElse {
				l.asks = cmp.Or(l.asks, fmt.Sprintf("of two ways the first is taken, and not “%s”: is that right?", m[2]))
			}
		}
	}
	if dayBefore.MatchString(text) && !ofDayBefore.MatchString(text) {
		r.Facts = append(r.Facts, Fact{Line: l.at, Says: text})
		r.asked = append(r.asked, Unread{l.at, text, "it is done before the lesson, and left out of it: is that right?"})
		return
	}
	text = strings.Join(strings.Fields(text), " ")
	defer func() { r.wrap.last = l.width }()
	if n := len(r.prose); n > 0 && !l.marked && !l.gap && l.is == preface && len(r.prose[n-1].text) < maxRunes {
		p := &r.prose[n-1]
		first := []rune(text)[0]
		open := !strings.ContainsAny(p.text[len(p.text)-1:], ".!?:;)")
		word, _, _ := headVerb(text)
		own := (word != "" || len(duration.In(text)) > 0 && ownTime.MatchString(text)) && !r.wrap.goesOn(text)
		goesOn := (unicode.IsLower(first) && !own && (word == "" || len(p.text) >= 40 && !strings.HasPrefix(p.text, "I ")) && !unicode.IsLower([]rune(p.text)[0]) || digit(first) && len(p.text) > 50) && !saying.MatchString(text) || unfinished.MatchString(p.text) && !((word != "" || isVerb(firstWord(text))) && unicode.IsLower([]rune(p.text)[0]))
		if p.lines[len(p.lines)-1] >= l.at-1 && (takesSoLong.MatchString(text) && len(duration.In(p.text)) == 0 || open && goesOn && (unicode.IsLower(first) || digit(first))) {
			p.starts = append(p.starts, len(p.text)+1)
			p.text += " " + text
			p.lines = append(p.lines, l.at)
			p.asks = cmp.Or(p.asks, l.asks)
			return
		}
	}
	r.counts = r.counts || l.numbered
	r.prose = append(r.prose, passage{text: text, lines: []int{l.at}, starts: []int{0}, adult: adult, whole: l.whole, asks: l.asks})
}

// atHome is the end of a step that tells what is done after it or instead, at home: "or take home and
// bake 20 minutes"; orElse is what is done instead, elsewhere; signedOff is a letter's: "Ta, Jo".
var (
	atHome    = pattern.Must(`(?i)^(.{8,}?)[,;.]?\s+(or (?:you can )?(?:(?:take|bake|cook|finish|heat|grill)(?: (?:it|them|this))?(?: off)? (?:at )?home)\b.*|` + doneAtHome + `.*)$`)
	orElse    = pattern.Must(`(?i)^(.{4,}?\d ?min.*?)[,;.]?\s+(or (?:(?:in|under) the |bake (?:in the )?)?(?:oven|grill|microwave|air ?fryer)\b.*\d.*)$`)
	signedOff = pattern.Must(`^(.{20,}[.!)])\s+((?i:ta|thanks|thank you|many thanks|cheers|best|kind regards|regards|love)[,.!]? *(?:\p{Lu}[\pL.]{0,14})?(?: x+)?[.!]?)$`)
)

// sharedOut is that at the end of a step.
var sharedOut = pattern.Must(`(?i)^(.{8,}?[.!])\s+(` + shares + `[.!]?)$`)

// dayBefore is what is done before the lesson. ofDayBefore is what was done then and goes on now: "roll
// out the dough made the day before"; and soaking, by which the check tells dried beans, which need their
// boil, from those of a tin.
var (
	dayBefore   = pattern.Must(`(?i)^\W*\pL[^.,;]*\bthe (?:day|evening|night|lesson) before\b|^\W*(?:to do )?at home before\b`)
	ofDayBefore = pattern.Must(`(?i)\bsoak|\b(?:made|from|left|prepared|cooked|baked|frozen|chilled|soaked|bought|did|used|you \pL+) (?:in |on )?the (?:day|evening|night|lesson) before\b`)
)

// laterAtHome is a last sentence of what may be done at home.
var laterAtHome = pattern.Must(`(?i)^(.{8,}?[.!])\s+([^.!]*\b(?:can|could|may) be (?:re)?(?:heated|baked|cooked|finished|eaten|frozen)\b[^.]*\bat home\b.*)$`)

// takesSoLong says how long what stands before it takes, and nothing else: "Should take 12-15
// minutes."
var takesSoLong = pattern.Must(`(?i)^(?:(?:this|it|they|which) )?(?:should |will |['’]ll )?(?:only )?(?:takes?|needs?) (?:about |around |approx\.? |roughly )?\d[^.;]{0,12}(?:min|hour|hr)\w*(?: or so)?[.!]?$`)
