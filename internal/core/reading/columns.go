package reading

import (
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/pattern"
)

// columnWords are the headings of columns by what these hold; the first that fits counts.
var columnWords = []struct{ holds, words string }{
	{"amount", `(?:for |serves )?\d{1,2} (?:persons?|people|portions?|servings?|pupils?|learners?|students?)|serves \d{1,2}|(?:per|for each|for one) (?:pair|learner|pupil|person|bench|group|child)|amounts?|quantit(?:y|ies)|qty|weights?|measures?|how much|grams?|g|metric|menge`},
	{"unit", `units?`},
	{"cost", `(?:total |unit |pack )?(?:costs?|prices?)(?: per \pL+)?|packs?(?: sizes?)?|£|pence|%|per ?cent`},
	{"prep", `(?:to )?prep(?:are|aration)?|cut|notes?`},
	{"kit", `equipment|utensils|tools|kit`},
	{"name", `(?:what )?you(?:'ll| will)? need|ingredients?(?: (?:per|for each) \pL+)?|ing(?:r|red)?s?\.?|items?|foods?|what|things?|commodit(?:y|ies)|raw materials?|product|zutat(?:en)?`},
	{"step", `methods?|steps?|what to do|what (?:i|we|you|they)(?:'m| am|'re| are| will be| will)? do(?:ing)?|what happens|instructions?|actions?|process|tasks?|activity|procedure|do this|order of work|(?:order|sequence) of (?:tasks|steps|making)|jobs?`},
	{"when", `time|when|clock|timings?|start`},
	{"time", `mins?|minutes|how long|duration`},
	{"why", `why\??|reasons?|functions?|purpose|what it does`},
	{"hazard", `(?:hazards?|risks?)(?: assessment)?`},
	{"care", `(?:safety|hygiene|(?:health|food) (?:and|&) safety|food safety|checks?|quality(?: control)?|look for|control(?:s| points?)?)(?:\s*(?:/|&|\+|and)\s*[\pL ]+)?`},
	{"number", `#|no\.?|nr\.?|number|order|stage`},
}

var columnOf = func() *pattern.Pattern {
	var all []string
	for _, c := range columnWords {
		all = append(all, "(?P<"+c.holds+">"+c.words+")")
	}
	return pattern.Must(`(?i)^(?:` + strings.Join(all, "|") + `)\s*(?:\([^)]*\))?:?$`)
}()

// columnsOf tells what the columns of a row of headings hold; nil where the row is none.
func columnsOf(text string) []string {
	all := allCells(text)
	out := make([]string, len(all))
	known := 0
	for n, cell := range all {
		m := columnOf.FindStringSubmatch(strings.Trim(strings.TrimSpace(cell), "*"))
		for g, name := range columnOf.SubexpNames() {
			if m != nil && name != "" && m[g] != "" {
				out[n] = name
			}
			if name == "amount" && out[n] == name && figure.MatchString(cell) && slices.Contains(out[:n], name) {
				out[n] = "others" // "1 person | 4 people"
			}
		}
		if out[n] != "" {
			known++
		}
	}
	if at := slices.Index(out, "name"); at >= 0 && strings.EqualFold(strings.Trim(all[at], " *:"), "what") && (slices.Contains(out, "when") || slices.Contains(out, "time")) {
		out[at] = "step" // of a plan
	}
	if first := slices.Index(out, "step"); slices.Contains(out[first+1:], "step") { // "Step | Instruction" numbers the steps
		out[first] = "number"
	}
	if len(all) == 2 && strings.TrimSpace(all[0]) == "" && out[1] == "amount" { // nothing stands over the names
		out[0], known = "name", 2
	}
	if known < 2 || !slices.Contains(out, "name") && !slices.Contains(out, "step") {
		return nil
	}
	return out
}

// unitOver is the unit that stands over a column of amounts: "Qty (g)", "Grams".
func unitOver(heads string, columns []string) string {
	if at := slices.Index(columns, "amount"); at >= 0 {
		if m := unitInHead.FindStringSubmatch(strings.TrimSpace(allCells(heads)[at])); m != nil {
			return m[1] + m[2]
		}
	}
	return ""
}

var unitInHead = pattern.Must(`(?i)\((?:in )?(g|grams?|kg|mls?|l|oz)\)|^(g|grams?)$`)

// columnFor is for whom the amounts of a column are: "Qty (pair)".
var columnFor = pattern.Must(`(?i)^[^()]*\((?:for |per |one |a |each )*(pair|pupil|student|learner|child|person|group of [2-6])\)$`)

// byMinutes tells the columns of a table whose headings are not known, by a column in which
// most cells are minutes and nothing else; nil where there is none.
func byMinutes(rows []line) []string {
	var all [][]string
	wide := 0
	for _, row := range rows {
		all = append(all, allCells(row.text))
		wide = max(wide, len(all[len(all)-1]))
	}
	if len(rows) < leastRun || wide < 2 || wide > 4 {
		return nil
	}
	first := 0 // column that is no mark
	if !slices.ContainsFunc(all, func(cells []string) bool { return !markOnly.MatchString(strings.TrimSpace(cells[0])) }) {
		first = 1
	}
	for j := first + 1; j < wide; j++ {
		minutes, steps := 0, 0
		for _, cells := range all {
			if j < len(cells) && onlyMinutes.MatchString(strings.TrimSpace(cells[j])) {
				minutes++
			}
			if first < len(cells) && isVerb(firstWord(strings.TrimSpace(cells[first]))) {
				steps++
			}
		}
		if 3*minutes < 2*len(rows) || 2*steps < len(rows) {
			continue
		}
		columns := make([]string, wide)
		columns[first], columns[j] = "step", "time"
		if first > 0 {
			columns[0] = "number"
		}
		return columns
	}
	return nil
}

// byClock tells the columns of a plan whose rows begin with a time of the clock; nil where they don't.
func byClock(rows []line) []string {
	wide, count := 0, 0
	for n, row := range rows {
		all := allCells(row.text)
		if n > 0 && row.gap || !clockOnly.MatchString(strings.TrimSpace(all[0])) {
			break
		}
		count, wide = count+1, max(wide, len(all))
	}
	if count < leastRun || wide < 2 {
		return nil
	}
	columns := make([]string, wide)
	columns[0], columns[1] = "when", "step"
	return columns
}

var clockOnly = pattern.Must(`^\d{1,2}[.:][0-5]\d(?:\s*(?:-|–|—|to|until)\s*\d{1,2}[.:][0-5]\d)?$`)

// markOnly is a cell that counts the rows, by a number or a letter.
var markOnly = pattern.Must(`(?i)^(?:step )?\(?(?:\d{1,2}|[a-l])[.):]?$`)

// lastings reports whether a column of bare figures says how long each step takes, and not
// when it begins: they don't go up.
func lastings(rows []line, at int) bool {
	var said []int
	for _, row := range rows {
		all := allCells(row.text)
		if at >= len(all) {
			continue
		}
		cell := strings.Trim(all[at], " -–—*")
		if n, err := strconv.Atoi(cell); err == nil {
			said = append(said, n)
		} else if cell != "" {
			return false
		}
	}
	return len(said) > 1 && !slices.IsSorted(said)
}

// inStretches reports whether a column says from when to when: each stretch begins where the one
// before it ends.
func inStretches(rows []line, at int) bool {
	count, until := 0, ""
	for _, row := range rows {
		all := allCells(row.text)
		if at >= len(all) {
			continue
		}
		if m := stretch.FindStringSubmatch(strings.TrimSpace(all[at])); m != nil {
			if count++; count > 1 && m[1] != until {
				return false
			}
			until = m[2]
		}
	}
	return count >= leastRun
}
