package measure

import (
	"slices"
	"strings"
	"unicode"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pattern"
)

// amount reads an amount at the start of s and returns what follows.
func (l *liner) amount(s string) (rest string, ok bool) {
	s = strings.TrimPrefix(s, "between ")
	f, ok := readNumber(s)
	if !ok || halfThere.MatchString(s) {
		return s, false
	}
	if f.fault != "" {
		l.problem("%s", f.fault)
		l.Unread = strings.TrimSpace(strings.TrimSuffix(s, f.rest))
		rest = strings.TrimSpace(f.rest)
		if _, after, ok := l.unit(rest); ok {
			rest = after
		}
		return rest, true
	}
	low, high := f, f
	rest = f.rest
	if second, ok := rangeEnd(rest); ok {
		high, rest = second, second.rest
	}
	rest = strings.TrimLeft(rest, " ")
	if m := dozen.FindString(rest); m != "" {
		twelve := exact.Int(12)
		low.n, high.n, rest = low.n.Mul(twelve), high.n.Mul(twelve), strings.TrimLeft(rest[len(m):], " ")
	}
	if m := ofOne.FindString(rest); m != "" && (digits.MatchString(rest[len(m):]) || packs[l.firstUnit(rest[len(m):])]) {
		rest = rest[len(m):] // "½ a 400 g tin", "half of a tin"
	}
	rest = l.sizeWords(rest)
	if m := times.FindString(rest); m != "" && packs[l.firstUnit(rest[len(m):])] {
		rest = rest[len(m):] // "2 x tins"
	}
	if r, ok := l.packOf(low.n, high.n, rest); ok {
		return r, true
	}
	u, after, isUnit := l.unit(rest)
	if isUnit {
		rest = l.sizeWords(after)
	} else {
		u = Each
	}
	if spoon, tail, ok := spoonOf(Quantity{low.n, u}, rest); ok { // "a 15 ml spoon of oil"
		l.take(exact.Int(1), exact.Int(1), spoon)
		return tail, true
	}
	low.settle(u)
	high.settle(u)
	if low.doubt != "" {
		l.doubt("%s", low.doubt)
	}
	l.take(low.n, high.n, u)
	if isUnit {
		rest = l.more(rest)
	} else if q, after, ok := l.bracketed(rest); ok && q.Unit.Dimension != Count {
		// 2 (400 g) tins, 4 (150 g) fillets
		if w, after, ok := l.unit(after); ok && packs[w.ID] {
			l.packed(low.n, high.n, q, w)
			return after, true
		}
		if in, _, _ := strings.Cut(rest, ")"); !eachWord.MatchString(in) && (roughly.MatchString(in) || strings.Trim(after, " )") == "") {
			l.Also = append(l.Also, q) // apples, 2 (about 400 g)
		} else {
			l.packed(low.n, high.n, q, Each) // 2 (150 g) salmon fillets
		}
		return after, true
	}
	l.check()
	return rest, true
}

var (
	eachWord = pattern.Must(`(?i)\beach\b`)
	roughly  = pattern.Must(`(?i)^\W*(?:about|approx|ca?\b|circa|roughly|around|~|≈|total)`)
	dozen    = pattern.Must(`(?i)^dozen(?:\s+of)?\b`)
	// halfThere says where a half goes, and is no half inch: "half in the dip".
	halfThere = pattern.Must(`(?i)^(?:one )?half (?:(?:in|on|into) \pL|(?:for|to) (?:the|serve|garnish|decorate|top|finish|glaze)\b)`)
	ofOne     = pattern.Must(`(?i)^(?:of\s+)?(?:an?|one)\s+`)
)

// firstUnit is the id of the unit at the start of a text; empty where there is
// none.
func (l *liner) firstUnit(s string) string {
	u, _, _ := l.unit(s)
	return u.ID
}

// take sets the amount.
func (l *liner) take(low, high exact.Number, u Unit) {
	l.Given, l.Low, l.High, l.Unit = true, low, high, u
	if high.Less(low) {
		l.doubt("the range %s to %s runs backwards", low.Decimal(2), high.Decimal(2))
		l.Low, l.High = high, low
	}
}

func (l *liner) packed(low, high exact.Number, size Quantity, word Unit) {
	l.Pack = &PackSize{low, size, word}
	l.take(low.Mul(size.Amount), high.Mul(size.Amount), size.Unit)
	l.check()
}

var rangeMark = pattern.Must(`(?i)^\s*(?:[-–—]|to|or|and|bis|à)\s*`)

// rangeEnd reads the second number of "2-3", "2 to 3", "2 or 3".
func rangeEnd(s string) (figure, bool) {
	m := rangeMark.FindString(s)
	if m == "" {
		return figure{}, false
	}
	letters := unicode.IsLetter([]rune(strings.TrimSpace(m))[0])
	if letters && (m[0] != ' ' || !strings.HasSuffix(m, " ")) {
		return figure{}, false
	}
	f, ok := readNumber(s[len(m):])
	if !ok || f.fault != "" {
		return f, false
	}
	if _, word := wordNumber(s[len(m):]); word && letters && strings.TrimSpace(m) != "to" && f.n.Cmp(exact.Int(1)) <= 0 {
		return f, false // "2 and a half" is a number, "1 or a few" no range
	}
	return f, true
}

var times = pattern.Must(`(?i)^(?:x|\*|times)\s*`)

// packOf reads "x 400 g tin(s)" and "400 g tins" after a count.
func (l *liner) packOf(low, high exact.Number, s string) (rest string, ok bool) {
	mark := times.FindString(s)
	if mark == "x" && len(s) > 1 && unicode.IsLetter(rune(s[1])) {
		mark = ""
	}
	inner := l.sizeWords(s[len(mark):])
	f, ok := readNumber(inner)
	if _, word := wordNumber(inner); !ok || f.fault != "" || word {
		return s, false
	}
	u, after, ok := l.unit(strings.TrimLeft(f.rest, " -"))
	if !ok || u.Dimension == Count {
		return s, false
	}
	f.settle(u)
	size := Quantity{f.n, u}
	if spoon, tail, ok := spoonOf(size, after); ok {
		l.take(low, high, spoon)
		return tail, true
	}
	after = l.alternative(after)
	after = l.sizeWords(after)
	w, tail, ok := l.unit(after)
	if !ok || !packs[w.ID] {
		if mark == "" {
			return s, false
		}
		w, tail = Each, after
	}
	l.packed(low, high, size, w)
	return tail, true
}

var spoonWord = pattern.Must(`(?i)^spoon(?:s|fuls?)?\b(?:\s+of\b)?\s*`)

// spoonOf reads "15 ml spoons of", as schools write it: which spoon it is, and what
// follows.
func spoonOf(size Quantity, s string) (spoon Unit, rest string, ok bool) {
	m := spoonWord.FindString(s)
	if m == "" || size.Unit.ID != Millilitre.ID {
		return Unit{}, s, false
	}
	for _, u := range []Unit{Teaspoon, Dessertspoon, Tablespoon} {
		if size.Amount.Cmp(u.base) == 0 {
			return u, s[len(m):], true
		}
	}
	return Unit{}, s, false
}

// unit reads a unit at the start of s.
func (l *liner) unit(s string) (u Unit, rest string, ok bool) {
	s = strings.TrimLeft(s, " -")
	words := wordEnds(s, 3)
	for i := len(words) - 1; i >= 0; i-- {
		text := strings.TrimSpace(s[:words[i]])
		word := strings.TrimSuffix(strings.ReplaceAll(text, ".", ""), ",")
		if i == 0 {
			if u, ok := singleLetters[word]; ok {
				return l.sys.unit(u), trimOf(s[words[i]:]), true
			}
		}
		if u, ok := unitWords[strings.ToLower(word)]; ok {
			if u.ID == "stick" && butter.MatchString(s[words[i]:]) {
				u = ButterStick
			}
			return l.sys.unit(u), trimOf(s[words[i]:]), true
		}
	}
	return Unit{}, s, false
}

// wordEnds returns where the first few words of s end.
func wordEnds(s string, count int) []int {
	var ends []int
	inWord := false
	for i, r := range s {
		letter := unicode.IsLetter(r) || r == '.' || r == '\'' && inWord || r == '"'
		switch {
		case letter:
			inWord = true
		case inWord:
			ends = append(ends, i)
			inWord = false
			if r != ' ' {
				return ends
			}
		default:
			return ends
		}
		if len(ends) == count {
			return ends
		}
	}
	if inWord {
		ends = append(ends, len(s))
	}
	return ends
}

func trimOf(s string) string {
	s = strings.TrimLeft(s, " ")
	return strings.TrimLeft(s[len(ofWord.FindString(s)):], " ")
}

// sizeWords takes words such as large, heaped and packed.
func (l *liner) sizeWords(s string) string {
	for {
		s = strings.TrimLeft(s, " ")
		end := strings.IndexAny(s, " ,")
		if end < 0 {
			return s
		}
		word := strings.ToLower(s[:end])
		size, ok := sizes[word]
		if !ok {
			if adverbs[word] && word != "and" {
				next := strings.ToLower(strings.TrimLeft(s[end:], " "))
				if strings.HasPrefix(next, "packed") || strings.HasPrefix(next, "heaped") {
					s = s[end:]
					continue
				}
			}
			return s
		}
		if size != "" {
			l.Size = size
		}
		if says := fillings[size]; says != "" {
			l.doubt("%s", says)
		}
		s = s[end:]
	}
}

// more reads what may follow an amount with its unit: the end of a range, a
// sum, the same amount in other units, the size of a pack.
func (l *liner) more(s string) string {
	s = strings.TrimLeft(s, " ")
	if m := dash.FindString(s); m != "" {
		if q, rest, ok := l.measure(s[len(m):]); ok && q.Unit.ID == l.Unit.ID {
			l.take(l.Low, q.Amount, l.Unit)
			s = strings.TrimLeft(rest, " ")
		}
	}
	for {
		joint := plusMark.FindString(s)
		q, rest, ok := l.measure(s[len(joint):])
		compound := joint == "" && l.Unit.ID == Pound.ID && q.Unit.ID == l.sys.Ounces.ID
		if !ok || q.Unit.Dimension != l.Unit.Dimension || q.Unit.Dimension == Count || !(joint != "" || compound) {
			break
		}
		extra := q.Base().Div(l.Unit.base)
		l.Low, l.High, s = l.Low.Add(extra), l.High.Add(extra), strings.TrimLeft(rest, " ")
	}
	if packs[l.Unit.ID] {
		if q, rest, ok := l.bracketed(s); ok && q.Unit.Dimension != Count {
			l.packed(l.Low, l.High, q, l.Unit)
			return rest
		}
	}
	rest := l.alternative(s)
	if packs[l.Unit.ID] || l.Unit.Dimension == Count {
		return rest
	}
	// "400 g tin of tomatoes", and nothing before it.
	if w, after, ok := l.unit(rest); ok && packs[w.ID] && w.ID != "piece" && w.ID != "slice" && (l.Unit.Dimension == Mass || l.Unit.Dimension == Volume) {
		l.Pack = &PackSize{exact.Int(1), Quantity{l.Low, l.Unit}, w}
		return after
	}
	if l.Unit.Dimension == Length {
		if w, after, ok := l.unit(rest); ok && (w.ID == "piece" || w.ID == "knob" || w.ID == "slice") {
			l.notes = append(l.notes, w.Symbol)
			return after
		}
	}
	return rest
}

// alternative reads "/ 225 g", "(225 g)", "or 225 g", "= 225 g" into Also.
func (l *liner) alternative(s string) string {
	for {
		s = strings.TrimLeft(s, " ")
		q, rest, ok := l.bracketed(s)
		if !ok {
			m := otherwise.FindString(s)
			if m == "" {
				return s
			}
			if q, rest, ok = l.measure(s[len(m):]); !ok || q.Unit.Dimension == Count {
				return s
			}
		}
		l.Also = append(l.Also, q)
		s = trimOf(rest)
	}
}

// bracketed reads "(225 g)" or "[about 8 oz]".
func (l *liner) bracketed(s string) (Quantity, string, bool) {
	s = strings.TrimLeft(s, " ")
	if s == "" || s[0] != '(' && s[0] != '[' {
		return Quantity{}, s, false
	}
	end := strings.IndexAny(s, ")]")
	if end < 0 {
		return Quantity{}, s, false
	}
	inner := strings.TrimSpace(s[1:end])
	inner = inner[len(about.FindString(inner)):]
	q, rest, ok := l.measure(inner)
	for ok && rest != "" { // "(8 oz/225 g)": the second is one more way to say it
		m := within.FindString(rest)
		if m == "" {
			break
		}
		second, after, ok2 := l.measure(rest[len(m):])
		if !ok2 {
			break
		}
		l.Also = append(l.Also, second)
		rest = after
	}
	if !ok || strings.TrimSpace(rest) != "" && !strings.EqualFold(strings.TrimSpace(rest), "each") {
		return Quantity{}, s, false
	}
	return q, trimOf(s[end+1:]), true
}

// measure reads a number with a unit.
func (l *liner) measure(s string) (Quantity, string, bool) {
	f, ok := readNumber(s)
	if !ok || f.fault != "" {
		return Quantity{}, s, false
	}
	if second, ok := rangeEnd(f.rest); ok {
		f.n, f.rest = f.n.Add(second.n).Div(exact.Int(2)), second.rest
	}
	u, rest, ok := l.unit(f.rest)
	if !ok {
		return Quantity{}, s, false
	}
	f.settle(u)
	return Quantity{f.n, u}, rest, true
}

// check looks at the amount itself, and at what is said of it twice.
func (l *liner) check() {
	q := l.Quantity()
	switch {
	case l.High.Sign() == 0:
		l.problem("an amount of 0: leave the line out, or write how much")
	case q.Base().Cmp(exact.Int(most[q.Unit.Dimension])) > 0:
		l.problem("%s is more than any kitchen takes", q)
	}
	if len(l.Problems) > 0 {
		l.Unread, l.Given = q.String(), false
		return
	}
	metric := func(u Unit) bool {
		return u.ID == Gram.ID || u.ID == Kilogram.ID || u.ID == Millilitre.ID || u.ID == Litre.ID || u.ID == Decilitre.ID
	}
	l.Also = slices.DeleteFunc(l.Also, func(other Quantity) bool {
		none := other.Amount.Sign() <= 0
		if none {
			l.doubt("%s is no amount", other)
		}
		return none
	})
	for i, other := range l.Also {
		if o, ok := other.In(l.Unit); ok && l.Pack == nil {
			// School books round 1 oz to 25 or 30 g: up to an eighth is the same.
			if off := o.Amount.Sub(q.Amount).Abs().Div(q.Amount); off.Cmp(exact.Frac(1, 8)) > 0 {
				l.doubt("%s and %s are not the same: %s would be %s", q, other, q, back(q, other.Unit))
			}
		}
		if l.Pack == nil && l.sys.Name != US.Name && !metric(l.Unit) && l.Unit.Dimension != Count && metric(other.Unit) {
			l.Also[i] = q
			l.Low, l.High, l.Unit = other.Amount, other.Amount, other.Unit
			return
		}
	}
}

func back(q Quantity, u Unit) Quantity {
	there, _ := q.In(u)
	return there
}
