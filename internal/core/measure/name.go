package measure

import (
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pattern"
)

var (
	cutNote = pattern.Must(`(?i),\s*|;\s*|\s+[–—-]\s+|\s+(?:plus|or|to taste|to serve|to decorate|to fill|to sandwich|to spread|to garnish|to finish|to glaze|to top|for the top|to brush|to dust|to grease|to coat|to mix|to make|to form|to cover|to cook|to fry|to bind|to sprinkle|to scatter|to drizzle|to dip|to roll|to stir in|(?:all |cut )?in(?:to)? (?:thin |thick |thinnish |small |large |big |rough |fine |even |bite-size[d]? )*(?:rings|slices|pieces|cubes|dice|strips|chunks|halves|half|quarters|half[- ]moons|moons|ribbons|matchsticks|batons|rounds|florets|wedges|sticks)|(?:fine(?:ly)?|rough(?:ly)?|thin(?:ly)?) (?:chop|dice|slices?|grate)|(?:finely |roughly |thinly )?(?:snipped|torn|chopped|cut|sliced|grated|broken) (?:up|small|fine|thin|thick|lengthways|lengthwise|diagonally|coarsely|into|in|thinly|finely|roughly)|all (?:chunky|chopped|diced|sliced)|stuck with|studded with|dissolved in|made up (?:to|with)|for|if|as needed|optional|between (?:two|pairs?|\d)|no crusts?|crusts? (?:off|removed)|without crusts?|from|at)(?:[\s,]|$)`)
	between = pattern.Must(`(?i)\bbetween (?:two|pairs?|\d)`)
	tasteIs = pattern.Must(`(?i)\bto taste\b|\bseason(?:ing)?\b|\bas needed\b`)
	surface = pattern.Must(`(?i)\b(?:for|to) (?:the )?(?:greas|dust|fry|deep|brush|oil|flour|coat|line|rolling|the tin|the board|the tray|the pan)`)
	maybe   = pattern.Must(`(?i)\boptional\b`)
)

// finish splits what follows the amount into the name and the note.
func (l *liner) finish(s string) {
	s = trimOf(s)
	s = l.brackets(s)
	s = strings.TrimSpace(spaces.ReplaceAllString(s, " "))
	name, note := s, ""
	if m := cutNote.FindStringIndex(s); m != nil && m[0] > 0 {
		name, note = s[:m[0]], strings.TrimLeft(s[m[0]:], " ,;–—-")
	} else if m != nil && l.Given && m[0] == 0 {
		name, note = "", strings.TrimLeft(s, " ,;–—-")
	}
	name = l.preparation(strings.TrimSpace(name))
	if note = strings.TrimSpace(note); note != "" {
		l.notes = append(l.notes, note)
	}
	l.notes = slices.DeleteFunc(l.notes, func(n string) bool { return n == "" })
	l.sized()
	l.Name, l.Note = strings.Trim(name, " .,:;*"), strings.Join(l.notes, ", ")
	if l.Name == "" && l.Given && l.Unit.Dimension == Count && l.Unit.Symbol != "" {
		l.Name, l.Unit = l.Unit.word(l.High), Each // "4 cloves" are the spice, or so it stands there
		l.doubt("“%s” of what?", l.Name)
	}
	if l.Given && between.MatchString(l.Note) {
		l.doubt("“%s”: the amount is taken whole", between.FindString(l.Note))
	}
	l.Taste = tasteIs.MatchString(l.Note)
	l.Surface = surface.MatchString(l.Note) && !strings.Contains(strings.ToLower(l.Note), "plus")
	l.Optional = maybe.MatchString(l.Note)
	if l.Name == "" {
		l.problem("there is no ingredient in this line")
	}
	if l.Given && l.Unit.Loose() && !l.Taste {
		l.doubt("%s is no measure: the cook's hand decides", Quantity{exact.Int(1), l.Unit})
	}
	if l.Given && anySize[l.Unit.ID] {
		l.doubt("no two are alike: how many millilitres does %s hold?", Quantity{exact.Int(1), l.Unit})
	}
}

// sized takes the size of a pack from behind the name: "1 tin chickpeas
// (400 g)".
func (l *liner) sized() {
	if !l.Given || l.Pack != nil || !packs[l.Unit.ID] {
		return
	}
	for n, note := range l.notes {
		first, rest, _ := strings.Cut(note, ",")
		first = strings.TrimSpace(first)
		q, after, ok := l.measure(first[len(about.FindString(first)):])
		if !ok || strings.TrimSpace(after) != "" || q.Unit.Dimension != Mass && q.Unit.Dimension != Volume {
			continue
		}
		l.notes[n] = strings.TrimSpace(rest)
		l.packed(l.Low, l.High, q, l.Unit)
		l.Behind = true
		break
	}
	l.notes = slices.DeleteFunc(l.notes, func(n string) bool { return n == "" })
}

// brackets moves what stands in closed brackets into the note.
func (l *liner) brackets(s string) string {
	var out strings.Builder
	depth, from := 0, 0
	for i, r := range s {
		switch r {
		case '(', '[':
			if depth == 0 {
				if !strings.ContainsAny(s[i:], ")]") {
					return out.String() + s[from:]
				}
				out.WriteString(s[from:i] + " ")
				from = i + 1
			}
			depth++
		case ')', ']':
			if depth--; depth == 0 {
				l.notes = append(l.notes, strings.TrimSpace(s[from:i]))
				from = i + 1
			}
			depth = max(depth, 0)
		}
	}
	if depth > 0 { // an inner bracket was not closed
		l.notes = append(l.notes, strings.TrimSpace(s[from:]))
		return out.String()
	}
	return out.String() + s[from:]
}

// after moves "finely chopped" from behind the name into the note: "1 onion
// finely chopped".
func (l *liner) after(words []string) string {
	from := len(words)
	for from > 1 {
		w := strings.ToLower(strings.Trim(words[from-1], ","))
		if !preparations[w] && !(adverbs[w] && from < len(words)) {
			break
		}
		from--
	}
	if from < len(words) && (preparations[strings.ToLower(words[from])] || adverbs[strings.ToLower(words[from])]) {
		l.notes = append(l.notes, strings.ToLower(strings.Join(words[from:], " ")))
		return strings.TrimRight(strings.Join(words[:from], " "), ",")
	}
	return strings.Join(words, " ")
}

// preparation moves "finely chopped" from before the name into the note.
func (l *liner) preparation(name string) string {
	words := strings.Fields(name)
	taken := 0
	for taken < len(words)-1 {
		w := strings.ToLower(strings.Trim(words[taken], ","))
		isPreparation := preparations[w] && l.Pack == nil && !packs[l.Unit.ID]
		if temperatures[w] {
			isPreparation = slices.ContainsFunc(words[taken+1:], func(next string) bool { return liquids[strings.ToLower(next)] })
		}
		if !isPreparation && !(adverbs[w] && taken+1 < len(words)-1 && (preparations[strings.ToLower(words[taken+1])] || adverbs[strings.ToLower(words[taken+1])])) {
			break
		}
		taken++
	}
	if taken == 0 {
		return l.after(words)
	}
	l.notes = slices.Insert(l.notes, 0, strings.ToLower(strings.Trim(strings.Join(words[:taken], " "), ",")))
	return strings.Join(words[taken:], " ")
}
