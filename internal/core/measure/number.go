package measure

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/pattern"
)

var (
	digits   = pattern.Must(`^\d+(?:[.,]\d+)*|^[.,]\d+`)
	fraction = pattern.Must(`^(\d+)\s*/\s*(\d+)`)
)

// A figure is a number at the start of a text.
type figure struct {
	n     exact.Number
	rest  string // what follows, spaces kept
	doubt string // how it could be read otherwise
	// grouped: a comma or a dot before just three digits, which is a thousands
	// mark to some and a decimal mark to others.
	grouped string
	fault   string // why it is no amount, such as a division by zero
}

// readNumber reads a number at the start of s: 2, 0,5, 1 ½, 1 1/2, 1-1/2, ¾,
// "half a". It reports whether there is one.
func readNumber(s string) (figure, bool) {
	if r, size := utf8.DecodeRuneInString(s); size > 0 {
		if f, ok := fractions[r]; ok {
			return figure{n: f, rest: s[size:]}, true
		}
	}
	if m := fraction.FindStringSubmatch(s); m != nil {
		return quotient(m[1], m[2], s[len(m[0]):]), true
	}
	m := digits.FindString(s)
	if m == "" {
		return wordNumber(s)
	}
	f := decimal(m)
	f.rest = s[len(m):]
	if !f.n.IsInt() || f.grouped != "" || f.fault != "" {
		return f, true
	}
	// A whole number may go on with a fraction: 1½, 1 ½, 1 1/2, 1-1/2, 1 & 1/2.
	after := strings.TrimLeft(f.rest, " ")
	for _, joint := range []string{"& ", "and ", "-", "+ "} {
		if strings.HasPrefix(after, joint) {
			after = strings.TrimLeft(after[len(joint):], " ")
			break
		}
	}
	if r, size := utf8.DecodeRuneInString(after); size > 0 {
		if part, ok := fractions[r]; ok {
			// 2-½ would be a range downwards; nobody means that.
			return figure{n: f.n.Add(part), rest: after[size:]}, true
		}
	}
	if strings.HasPrefix(after, "a half") {
		return figure{n: f.n.Add(exact.Frac(1, 2)), rest: after[len("a half"):]}, true
	}
	if p := fraction.FindStringSubmatch(after); p != nil {
		part := quotient(p[1], p[2], after[len(p[0]):])
		if part.fault != "" {
			return part, true
		}
		if part.n.Less(exact.Int(1)) {
			part.n = part.n.Add(f.n)
			return part, true
		}
	}
	return f, true
}

func quotient(a, b, rest string) figure {
	num, err := exact.Parse(a)
	den, err2 := exact.Parse(b)
	if err != nil || err2 != nil {
		return figure{rest: rest, fault: "the number is too long"}
	}
	if den.Sign() == 0 {
		return figure{rest: rest, fault: fmt.Sprintf("%s/%s divides by zero", a, b)}
	}
	return figure{n: num.Div(den), rest: rest}
}

// thousands are digits in groups of three.
var thousands = pattern.Must(`^\d{1,3}(?:[.,]\d{3})+$`)

// decimal reads digits with commas and dots, whose meaning differs between
// countries: 1,234.5 and 1.234,5, 0,5 and 1,500.
func decimal(s string) figure {
	f := figure{}
	text := s
	comma, dot := strings.LastIndexByte(s, ','), strings.LastIndexByte(s, '.')
	switch {
	case comma >= 0 && dot >= 0 && comma < dot:
		text = strings.ReplaceAll(s, ",", "")
	case comma >= 0 && dot >= 0:
		text = strings.ReplaceAll(strings.ReplaceAll(s, ".", ""), ",", ".")
	case strings.Count(s, ",")+strings.Count(s, ".") > 1:
		if !thousands.MatchString(s) {
			f.fault = s + " is no number"
		}
		text = strings.NewReplacer(",", "", ".", "").Replace(s)
	default:
		at := max(comma, dot)
		if at > 0 && len(s)-at-1 == 3 && !strings.HasPrefix(s, "0") {
			f.grouped = s
		}
		text = strings.Replace(s, ",", ".", 1)
	}
	if strings.HasPrefix(text, ".") {
		text = "0" + text
	}
	n, err := exact.Parse(text)
	if err != nil {
		f.fault = "the number is too long"
	}
	f.n = n
	return f
}

// settle decides what a grouped number is by its unit: 1,500 g are fifteen
// hundred, 1,500 kg one and a half.
func (f *figure) settle(u Unit) {
	if f.grouped == "" {
		return
	}
	small := u.ID == Gram.ID || u.ID == Millilitre.ID || u.ID == Each.ID
	whole := f.n.Mul(exact.Int(1000))
	if small && strings.Contains(f.grouped, ",") {
		f.doubt = fmt.Sprintf("%s is read as %s, not as %s", f.grouped, whole.Decimal(0), f.n.Decimal(3))
		f.n = whole
		return
	}
	f.doubt = fmt.Sprintf("%s is read as %s, not as %s", f.grouped, f.n.Decimal(3), whole.Decimal(0))
}

// wordNumber reads a number in letters.
func wordNumber(s string) (figure, bool) {
	low := strings.ToLower(s)
	for _, w := range numberWords {
		if !strings.HasPrefix(low, w.text) || len(low) != len(s) {
			continue
		}
		rest := s[len(w.text):]
		if r, _ := utf8.DecodeRuneInString(rest); unicode.IsLetter(r) || r == '-' {
			continue
		}
		return figure{n: w.n, rest: rest}, true
	}
	return figure{}, false
}
