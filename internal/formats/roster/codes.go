package roster

import (
	"slices"
	"strings"

	"freshapron/internal/core/pattern"
)

// meant is a code and what a list says that it stands for: "V = vegetarian".
var meant = pattern.Must(`([\p{L}*#†!^+]{1,4})\s*=\s*([^=,;|]+)`)

// spelledOut replaces the codes that a list explains, as in "Key: V = vegetarian,
// N = nut allergy" or "* vegan", by what they stand for: in brackets, behind a name,
// and where they are all that a cell has.
func spelledOut(text string) string {
	codes := map[string]string{}
	var keys []string
	for line := range strings.Lines(text) {
		of := legend(line)
		for code, what := range of {
			codes[code] = what
		}
		if of != nil {
			keys = append(keys, line)
		}
	}
	if len(codes) == 0 {
		return text
	}
	var out strings.Builder
	for line := range strings.Lines(text) {
		if !slices.Contains(keys, line) {
			line = coded.ReplaceAllStringFunc(line, func(s string) string {
				at := coded.FindStringSubmatchIndex(s)
				if needs := decoded(s[at[4]:at[5]], codes); needs != "" {
					return s[:at[4]] + needs + s[at[5]:]
				}
				return s
			})
			line = starred.ReplaceAllStringFunc(line, func(s string) string {
				if what, ok := codes[s]; ok {
					return " - " + what
				}
				return s
			})
		}
		out.WriteString(line)
	}
	return out.String()
}

var (
	// coded is where codes stand: in brackets, or alone between the ends of a cell.
	coded = pattern.Must(`([(\[\t;|,]|\s[-–—]\s)([^()\[\]\t;|\n]{1,20}?)([)\]\t;|\r\n]|$)`)
	// starred is a mark that stands for something that is said elsewhere.
	starred = pattern.Must(`[*#†!^+]{1,4}`)
)

// legend returns the codes that a line explains; nil where it explains none.
func legend(line string) map[string]string {
	out := map[string]string{}
	found := meant.FindAllStringSubmatchIndex(line, -1)
	for _, m := range found {
		code, what := line[m[2]:m[3]], strings.TrimSpace(line[m[4]:m[5]])
		if isCode(code) && isNeed(what) {
			out[code] = what
		}
	}
	if mark := starred.FindString(strings.TrimSpace(line)); mark != "" && strings.HasPrefix(strings.TrimSpace(line), mark) {
		if what := strings.Trim(strings.TrimSpace(line)[len(mark):], " =:-–—"); isNeed(what) {
			out[mark] = what
		}
	}
	if len(out) == 0 {
		return nil
	}
	return out
}

// isCode reports whether letters are no name before a colon: capitals, or marks.
func isCode(s string) bool { return isCapitals(s) || starred.FindString(s) == s }

// decoded is what codes stand for, separated by commas; empty where one is none.
func decoded(cell string, codes map[string]string) string {
	var out []string
	for _, code := range strings.FieldsFunc(cell, func(r rune) bool { return strings.ContainsRune(" ,/&+", r) }) {
		what, ok := codes[code]
		if !ok {
			return ""
		}
		out = append(out, what)
	}
	return strings.Join(out, ", ")
}

// field is a line that names what it tells.
var field = pattern.Must(`^\s*[-•*]?\s*([\p{L} /’']{2,40}?)\s*[:=]\s*(.*)$`)

// records is a table of what is written one below the other for each learner, as "Student:
// Ada Okafor" and "Diet: none"; nil where the text is none.
func records(text string) [][]string {
	var head []string
	var rows [][]string
	lines, told := 0, 0
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		lines++
		m := field.FindStringSubmatch(line)
		if m == nil {
			continue
		}
		if head == nil {
			if c, _ := titleOf(m[1]); !c.Names() {
				continue
			}
		}
		told++
		at := slices.Index(head, m[1])
		if at < 0 {
			at = len(head)
			head = append(head, m[1])
		}
		if at == 0 {
			rows = append(rows, nil)
		}
		last := &rows[len(rows)-1]
		for len(*last) <= at {
			*last = append(*last, "")
		}
		(*last)[at] = m[2]
	}
	if len(rows) < 2 || 5*told < 4*lines {
		return nil
	}
	for i := range rows {
		for len(rows[i]) < len(head) {
			rows[i] = append(rows[i], "")
		}
	}
	return append([][]string{head}, rows...)
}

var (
	ticks   = strings.Fields("✓ ✔ ☑ √")
	crosses = strings.Fields("x ✗ ✘ ×")
	yeses   = strings.Fields("y yes ja oui si sí true 1 * • ● /")
	noes    = strings.Fields("n no nein non false 0 - – — none ☐ □")
)

// howBad are words that stand for a yes.
var howBad = strings.Fields("mild slight moderate severe high serious traces contact airborne anaphylaxis anaphylactic intolerant allergic allergy intolerance")

// pen is in headings of who carries something for an allergy, of which must be asked.
var pen = pattern.Must(`(?i)epi.?pen|injector|adrenalin`)

// marked writes out a column that is headed with what somebody needs, as "Nuts", and has
// marks below: each then says it in words, and who has none has nothing. A cross is a yes
// but where the column has ticks too.
func marked(rows [][]string, j int, head string) {
	cells := column(rows, j)
	is := func(list []string) func(string) bool {
		return func(c string) bool {
			first, _, _ := strings.Cut(strings.ToLower(c), " ")
			return slices.Contains(list, first)
		}
	}
	mark := is(slices.Concat(ticks, crosses, yeses, noes))
	if !isNeed(head) && !pen.MatchString(head) || !most(cells, func(c string) bool { return mark(c) || is(howBad)(c) }) {
		return
	}
	ticked := slices.ContainsFunc(cells, is(ticks))
	for _, r := range rows {
		if j >= len(r) || r[j] == "" {
			continue
		}
		said, rest := "", r[j]
		if mark(rest) {
			said, rest, _ = strings.Cut(strings.ToLower(rest), " ")
		}
		switch {
		case slices.Contains(noes, said) || ticked && slices.Contains(crosses, said):
			r[j] = rest
		case strings.TrimSpace(rest) == "":
			r[j] = head
		default:
			r[j] = head + " (" + strings.Trim(rest, "() ") + ")"
		}
	}
}
