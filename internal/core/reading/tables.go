package reading

import (
	"cmp"
	"freshapron/internal/core/fit"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/pattern"
	kitchen "freshapron/internal/core/words"
)

var (
	cellMark   = pattern.Must(`\s*\|\s*`)
	ruledLine  = pattern.Must(`^[\s|:=+-]+$`)
	numberOnly = pattern.Must(`^(?:step )?\d{1,2}[.)]?$`)
)

// cells are the parts of a line between bars.
func cells(s string) []string {
	var out []string
	for _, c := range cellMark.Split(strings.Trim(s, " |"), -1) {
		if c = strings.Trim(strings.TrimSpace(c), "*"); c != "" {
			out = append(out, c)
		}
	}
	return out
}

// allCells are the cells of a row of a table, the empty ones too.
func allCells(row string) []string {
	return strings.Split(strings.TrimSuffix(strings.TrimPrefix(row, "|"), "|"), "|")
}

// tables takes tables apart, with a row of headings or without one.
func (r *reader) tables(lines []line) []line {
	var out []line
	lines = headApart(lines)
	for n := 0; n < len(lines); {
		last := n
		for last < len(lines) && (lines[last].quiet == "" && (len(cells(lines[last].text)) > 1 || barred.MatchString(lines[last].text)) || last > n && ruledLine.MatchString(lines[last].text)) {
			last++
		}
		if last == n {
			out = append(out, lines[n])
			n++
			continue
		}
		if rows := lines[n:last]; r.sideBySide(rows) {
			for last < len(lines) && lines[last].quiet == "" && r.amounts(lines[last]) { // the list is longer than the method
				last++
			}
			out = append(out, r.columnsApart(lines[n:last])...)
		} else {
			out = append(out, r.table(rows)...)
		}
		n = last
	}
	return out
}

// headApart makes lines of their own of what the head of a card says in one: "DISH: Crumble |
// COVERS: 10".
func headApart(lines []line) []line {
	var out []line
	for n, l := range lines {
		var cs []string
		if n < headLines && l.quiet == "" {
			cs = cells(wideApart.ReplaceAllString(strings.Trim(l.text, `"`), "|$1$2"))
		}
		if len(cs) < 2 || slices.ContainsFunc(cs, func(c string) bool { return !saysOf.MatchString(c) }) {
			out = append(out, l)
			continue
		}
		for _, c := range cs {
			out = append(out, made(l, c, preface))
		}
	}
	return out
}

// headLines is in how many lines the head of a card may stand.
const headLines = 4

// wideApart is where the next of a head begins: two spaces on, with a colon behind its name.
var wideApart = pattern.Must(`(?i)\s{2,}(\pL[\pL ]{1,20}:)|\s+((?:yield|portions?|serves|makes|covers|shelf life|level|skill):? ?\d)`)

var saysOf = pattern.Must(`(?i)^(?:\pL[\pL ]{1,20}: *\S|(?:yield|portions?|serves|makes|covers|shelf life|level|skill):? ?\d)`)

// sideBySide reports whether the list stands to the left of numbered steps.
func (r *reader) sideBySide(rows []line) bool {
	both := 0
	for _, row := range rows {
		if cs := cells(row.text); len(cs) == 2 && r.stepAside(cs) {
			both++
		}
	}
	return both >= leastRun
}

// stepAside reports whether a step stands to the right of an ingredient.
func (r *reader) stepAside(cs []string) bool {
	if stepBeside.MatchString(cs[1]) {
		return r.measured(cs[0])
	}
	return isVerb(firstWord(cs[1])) && strings.HasSuffix(cs[1], ".") && r.certain(strings.Join(strings.Fields(cs[0]), " "))
}

// columnsApart puts what stands to the left before what stands to the right.
func (r *reader) columnsApart(rows []line) []line {
	var left, right []line
	for _, row := range rows {
		switch cs := cells(row.text); {
		case len(cs) == 2 && stepBeside.MatchString(cs[1]):
			left = append(left, made(row, cs[0], list))
			right = append(right, made(row, stepBeside.ReplaceAllString(cs[1], ""), method))
		case len(cs) == 2 && strings.Contains(row.text, "|") && r.certain(strings.Join(strings.Fields(cs[0]), " ")) && (isVerb(firstWord(cs[1])) || !figure.MatchString(cs[1])):
			left = append(left, made(row, strings.Join(strings.Fields(cs[0]), " "), list))
			if n := len(right); n > 0 && lowWord.MatchString(firstWord(cs[1])) && !isVerb(firstWord(cs[1])) { // which goes on
				right[n-1].text, right[n-1].item = right[n-1].text+" "+cs[1], right[n-1].item+" "+cs[1]
				continue
			}
			right = append(right, made(row, cs[1], method))
		case r.amounts(row):
			left = append(left, made(row, row.item, list))
		case stepBeside.MatchString(row.text):
			right = append(right, made(row, stepBeside.ReplaceAllString(row.text, ""), method))
		default:
			left = append(left, r.loose(row, cs)...)
		}
	}
	return append(left, right...)
}

var stepBeside = pattern.Must(`^\d{1,2}[.)]\s+`)

// barred is a row of which all cells but one are empty.
var barred = pattern.Must(`^\|.*\|.*\|$`)

// table takes the rows of one table apart.
func (r *reader) table(rows []line) []line {
	var out []line
	var columns []string
	unit := ""
	counted := countRows(rows)
	for n, row := range rows {
		if plan := byClock(rows[n:]); plan != nil && (n == 0 || row.gap) {
			columns = plan
		} else if n == 0 || row.gap && !figure.MatchString(row.text) { // another table
			columns = byMinutes(rows[n:])
			if columns != nil && columnsOf(row.text) == nil && !figure.MatchString(row.text) {
				r.Headings = append(r.Headings, row.at)
				continue
			}
		}
		if heads := columnsOf(row.text); heads != nil || ruledLine.MatchString(row.text) {
			if heads != nil {
				columns, unit = heads, unitOver(row.text, heads)
				below := rows[n+1:]
				if next := slices.IndexFunc(below, func(l line) bool { return columnsOf(l.text) != nil }); next >= 0 {
					below = below[:next]
				}
				if at := slices.Index(columns, "when"); at >= 0 && lastings(below, at) {
					columns[at] = "time"
				} else if at := slices.Index(columns, "time"); at >= 0 && inStretches(below, at) {
					columns[at] = "when"
				}
				for _, cell := range cells(row.text) {
					head := made(row, columnFor.ReplaceAllString(cell, "per $1"), preface)
					r.forOne(&head)
					for _, says := range append([]string{cell}, bracket.FindAllString(cell, 1)...) { // "Ing. (per 3)"
						if y, ok := yieldOf(says); ok && r.Yield.Count == 0 {
							y.Line, r.Yield = row.at, y
						}
					}
				}
			}
			r.Headings = append(r.Headings, row.at)
			continue
		}
		cs := cells(row.text)
		if len(cs) > 0 && sums.MatchString(cs[0]) {
			out = append(out, made(row, strings.Join(cs, " "), facts))
			continue
		}
		if all := allCells(row.text); columns != nil && len(all) > 1 && len(all) <= len(columns) {
			if at := slices.Index(columns, "amount"); unit != "" && at >= 0 && at < len(all) && amountApart.MatchString(strings.TrimSpace(all[at])) {
				all[at] = strings.TrimSpace(all[at]) + " " + unit
			}
			out = append(out, inColumns(row, columns, all)...)
			r.besideKit = slices.Equal(columns, []string{"name", "kit"})
			continue
		}
		if r.besideKit && len(cs) == 2 && r.certain(cs[0]) && !figure.MatchString(cs[1]) { // the list goes on under another heading
			out = append(out, inColumns(row, []string{"name", "kit"}, cs)...)
			continue
		}
		if !counted && r.soMany(cs) {
			out = append(out, made(row, cs[0]+" "+strings.Join(cs[1:], ", "), list))
			continue
		}
		out = append(out, r.loose(row, cs)...)
	}
	return out
}

// countRows reports whether the numbers before the rows count them, rather than what is in them.
func countRows(rows []line) bool {
	for n, row := range rows {
		cs := cells(row.text)
		if len(cs) == 0 || strings.Trim(cs[0], ".)") != strconv.Itoa(n+1) {
			return false
		}
	}
	return true
}

// soMany reports whether a row says how many of a thing there are: “2 | leeks”, “3 | carrots | diced”.
func (r *reader) soMany(cs []string) bool {
	return len(cs) > 1 && wholeOnly.MatchString(cs[0]) && r.known(cs[1]) && !isVerb(firstWord(cs[1])) && !slices.ContainsFunc(cs[1:], figure.MatchString)
}

// plusExtra is behind an amount: “3 tbsp + extra”.
var plusExtra = pattern.Must(`(?i)^(.*\d.*?),? *(?:\+|plus|and) (?:some |a little )?(?:extra|more)\b.*$`)

// sums begins the row of a table that adds the others up.
var sums = pattern.Must(`(?i)^(?:grand |sub-?)?totals?(?: costs?)?:?$|^costs? per \pL+:?$`)

var wholeOnly = pattern.Must(`^\d{1,2}$`)

// onlyMinutes is so many minutes and nothing else.
var onlyMinutes = pattern.Must(`(?i)^(?:about |approx )?\d{1,3}(?: ?(?:-|–|to) ?\d{1,3})? ?min(?:ute)?s?\W*$`)

// inColumns makes the lines of a row whose columns are known: the ingredient with its
// amount, or the step; what else the row says is a remark.
func inColumns(row line, columns, all []string) []line {
	said := map[string]string{}
	var beside []string
	for n, cell := range all {
		cell = strings.Trim(strings.TrimSpace(cell), "*")
		if key := columns[n]; key != "" && said[key] == "" {
			said[key] = cell
		} else if key == "cost" && cell != "" { // of the pack, and of what is used
			said[key] += ", " + cell
		} else if cell != "" {
			beside = append(beside, cell)
		}
	}
	var out []line
	if said["name"] == "" {
		for _, key := range []string{"prep", "unit", "amount"} {
			if cell := said[key]; cell != "" && (key != "amount" || said["step"] != "") {
				beside = append(beside, cell)
			}
		}
	}
	for _, key := range []string{"unit", "amount"} {
		said[key] = strings.Trim(said[key], "-–— ")
	}
	if m := plusExtra.FindStringSubmatch(said["amount"]); m != nil {
		said["amount"] = m[1]
		beside = append(beside, "plus extra")
	}
	if strings.EqualFold(said["amount"], "TT") { // a kitchen's "to taste"
		said["amount"], said["prep"] = "", "to taste"
	}
	if said["name"] != "" {
		if prep := strings.Trim(said["prep"], "-–— "); prep != "" {
			beside = append(beside, participle(prep))
		}
		if amount, work, ok := strings.Cut(said["amount"], ", "); ok && isJob(work) { // "Carrot | 100 g, grated"
			said["amount"] = amount
			beside = append(beside, work)
		}
		if m := packBehind.FindStringSubmatch(said["name"]); m != nil && amountApart.MatchString(said["amount"]) && said["unit"] == "" {
			said["name"], said["unit"] = m[1], m[2]
		}
		out = append(out, made(row, strings.TrimSpace(said["amount"]+" "+strings.TrimLeft(said["unit"]+" ", " ")+strings.Join(append([]string{said["name"]}, beside...), ", ")), list))
		beside = nil
	}
	for _, key := range []string{"cost", "why", "others"} {
		if said[key] != "" {
			out = append(out, made(row, strings.TrimSpace(said["name"]+" "+said["step"])+": "+said[key], facts))
		}
	}
	if said["hazard"] != "" {
		out = append(out, made(row, "Hazard: "+said["hazard"], facts))
	}
	if said["kit"] != "" {
		out = append(out, made(row, "Equipment: "+said["kit"], facts))
	}
	if said["step"] != "" {
		bare := line{text: said["step"], item: said["step"]}
		bare.unmark()
		said["step"] = bare.item
		step := lasting(said["step"], cmp.Or(said["time"], minutesIn(said["when"]), minutesIn(said["prep"])))
		if care := said["care"]; care != "" {
			if word, _, _ := headVerb(care); word != "" && shouted.MatchString(care) { // "STEAM - teacher watches" is no step
				out = append(out, made(row, care, facts))
				if care = strings.Trim(shouted.ReplaceAllString(care, ""), " –—-:"); adultIn(care) != fit.NoAdult {
					step = strings.TrimRight(said["step"], ". ") + " (" + care + ")" + strings.TrimPrefix(step, strings.TrimRight(said["step"], ". "))
				}
			} else {
				step = strings.TrimRight(step, ". ") + ". " + care
			}
		}
		out = append(out, made(row, step, method))
		out[len(out)-1].whole = strings.HasPrefix(step, strings.TrimRight(said["step"], ". ")+" (")
	}
	for _, b := range beside {
		out = append(out, made(row, b, facts))
	}
	if out == nil { // nothing but an amount or a time
		return []line{row}
	}
	return out
}

// packBehind is what a thing comes in: "Chickpeas, tin".
var packBehind = pattern.Must(`(?i)^(\pL[\pL ]+?)(?:, | \()(tins?|cans?|packs?|packets?|jars?|bags?|tubs?|sachets?|cartons?)\)?$`)

// minutesIn is a cell that says how long something takes, and empty where it says when.
func minutesIn(cell string) string {
	if m := stretch.FindStringSubmatch(strings.TrimSpace(cell)); m != nil { // “15-20”
		from, _ := strconv.Atoi(m[1])
		until, _ := strconv.Atoi(m[2])
		if until > from {
			return strconv.Itoa(until - from)
		}
	}
	if m := fromUntil.FindStringSubmatch(strings.TrimSpace(cell)); m != nil { // “9.10–9.20”
		at := func(hour, minute string) int {
			h, _ := strconv.Atoi(hour)
			m, _ := strconv.Atoi(minute)
			return 60*h + m
		}
		if long := at(m[3], m[4]) - at(m[1], m[2]); long > 0 {
			return strconv.Itoa(long)
		}
	}
	if len(duration.In(cell)) == 0 {
		return ""
	}
	return cell
}

// fromUntil is from when to when by the clock.
var fromUntil = pattern.Must(`^(\d{1,2})[.:]([0-5]\d)\s*(?:-|–|—|to|until)\s*(\d{1,2})[.:]([0-5]\d)$`)

// stretch is from which minute to which of a lesson.
var stretch = pattern.Must(`^(\d{1,3})\s*[-–]\s*(\d{1,3})(?: ?mins?)?$`)

// loose makes the lines of a row of a table without headings, and of things that stand
// between bars in one line.
func (r *reader) loose(row line, cs []string) []line {
	if item, ok := r.unitApart(cs); ok {
		return []line{made(row, item, list)}
	}
	if len(cs) > 1 && numberOnly.MatchString(cs[0]) {
		cs = cs[1:]
		if len(cs) == 1 && r.known(cs[0]) && (!strings.Contains(cs[0], " ") || !isVerb(firstWord(cs[0]))) { // "1 | leeks"
			return []line{made(row, cs[0], list)}
		}
		if len(cs) == 1 {
			return []line{made(row, cs[0], method)}
		}
	}
	if len(cs) == 3 && !figure.MatchString(cs[0]) && r.bare(cs[1]) && r.bare(cs[2]) && r.measured(cs[1]+" "+cs[0]) { // of one, and of the class
		return []line{made(row, cs[1]+" "+cs[0], list), made(row, cs[0]+" for the class: "+cs[2], facts)}
	}
	if len(cs) == 3 && !figure.MatchString(cs[0]) && beginsWith(figure, cs[1]) && r.certain(cs[1]+" "+cs[0]) { // "onion | 1 small | fine dice"
		return []line{made(row, cs[1]+" "+cs[0]+", "+participle(cs[2]), list)}
	}
	if len(cs) == 2 && beginsWith(figure, cs[1]) {
		cs[0] = stepBeside.ReplaceAllString(cs[0], "") // "1. Oats | 1.5 kg"
	}
	if len(cs) == 2 && amountInWords.MatchString(cs[1]) && !figure.MatchString(cs[0]) && !strings.Contains(cs[0], ",") && r.known(cs[0]) { // "cucumber | quarter"
		return []line{made(row, amountInWords.ReplaceAllString(cs[1], "$1")+" "+cs[0], list)}
	}
	if len(cs) == 2 && amountInWords.MatchString(cs[0]) && !figure.MatchString(cs[1]) && r.known(cs[1]) { // "half teaspoon | mustard"
		return []line{made(row, cs[0]+" "+cs[1], list)}
	}
	if len(cs) == 2 {
		cs[1] = eachBehind.ReplaceAllString(cs[1], "$1")
		if m := plusExtra.FindStringSubmatch(cs[1]); m != nil && !figure.MatchString(cs[0]) { // "oil | 3 tbsp + extra"
			return []line{made(row, m[1]+" "+cs[0]+", plus extra", list)}
		}
	}
	if ofTheClass(cs) && r.measured(cs[0]) { // "50 g peas | 600 g"
		return []line{made(row, cs[0], list), made(row, cs[0]+" for the class: "+cs[1], facts)}
	}
	if len(cs) == 2 && toServe.MatchString(cs[1]) && !figure.MatchString(cs[0]) { // "lettuce, tomato | to serve"
		var out []line
		for _, name := range strings.Split(cs[0], ",") {
			out = append(out, made(row, strings.TrimSpace(name)+", "+cs[1], list))
		}
		return out
	}
	if len(cs) == 2 && isVerb(cs[0]) && capitals(cs[0]) && !r.bare(cs[1]) { // "KNEAD | 10 min, until stretchy"
		return []line{made(row, kitchen.Capital(strings.ToLower(cs[0]))+": "+cs[1], method)}
	}
	if len(cs) == 2 && !figure.MatchString(cs[1]) && !isVerb(firstWord(cs[1])) && r.certain(cs[0]) && !slices.ContainsFunc(strings.Split(cs[1], ","), func(p string) bool { return !isJob(strings.TrimSpace(p)) }) {
		return []line{made(row, cs[0]+", "+cs[1], list)} // "100 g green beans | topped, tailed, halved"
	}
	if len(cs) == 2 {
		both := strings.TrimRight(cs[0], " :") + ": " + cs[1]
		if _, ok := yieldOf(both); ok || titleMark.MatchString(both) || costs.MatchString(both) || times.MatchString(both) && !times.MatchString(cs[1]) {
			return []line{made(row, both, preface)}
		}
		if behind := cs[0] + " – " + cs[1]; strings.Contains(cs[1], ",") && figure.MatchString(cs[1]) && !figure.MatchString(cs[0]) && r.certain(behind) {
			return []line{made(row, behind, list)}
		}
		if turned := cs[1] + " " + cs[0]; beginsWith(figure, cs[1]) && !figure.MatchString(cs[0]) && r.measured(turned) && !r.certain(cs[0]) {
			return []line{made(row, turned, list)}
		}
		if both := cs[0] + " " + cs[1]; figure.MatchString(cs[0]) && !figure.MatchString(cs[1]) && !r.certain(cs[0]) && r.certain(both) {
			return []line{made(row, both, list)}
		}
	}
	var out []line
	for _, c := range cs {
		out = append(out, made(row, c, preface))
	}
	return out
}

// unitApart is an ingredient whose amount and unit stand in cells of their own, before its
// name or behind it: "Shallots, brunoise | 0.150 | kg".
func (r *reader) unitApart(cs []string) (string, bool) {
	if len(cs) < 3 || len(cs) > 4 {
		return "", false
	}
	amount, unit, name := cs[0], cs[1], cs[2]
	if !amountApart.MatchString(amount) {
		amount, unit, name = cs[1], cs[2], cs[0]
	}
	if !amountApart.MatchString(amount) || figure.MatchString(unit) || figure.MatchString(name) || !r.bare(amount+" "+unit) {
		return "", false
	}
	if len(cs) == 4 && strings.Trim(cs[3], "-–— ") != "" {
		name += ", " + participle(cs[3])
	}
	return amount + " " + unit + " " + name, true
}

var amountApart = pattern.Must(`^(?:\d+(?:[.,]\d+)?(?: ?[½¼¾⅓⅔]|/\d)?|[½¼¾⅓⅔])$`)

// participle says of work that is ordered that it is done: "finely slice", "drain & rinse".
func participle(prep string) string {
	return ordered.ReplaceAllStringFunc(prep, func(word string) string {
		low := strings.ToLower(word)
		if done, ok := irregular[low]; ok {
			return done
		}
		return strings.TrimSuffix(low, "e") + "ed"
	})
}

var (
	ordered   = pattern.Must(`(?i)\b(?:slice|dice|chop|grate|peel|crush|drain|rinse|mash|beat|melt|zest|juice|halve|quarter|cube|shred|trim|deseed|core|sift|sieve|toast|wash|soften|crumb|cut|separate|whisk)\b`)
	irregular = map[string]string{"chop": "chopped", "beat": "beaten", "trim": "trimmed", "shred": "shredded", "cut": "cut"}
)

// eachBehind is how kitchens write pieces: "2 ea".
var eachBehind = pattern.Must(`(?i)^(\d+)\s*(?:ea|each|off)\.?$`)

// amountInWords is an amount of a cell that no figure begins.
var amountInWords = pattern.Must(`(?i)^(?:about |approx\.? |around |roughly |~ ?)?((?:\d+(?:[.,]\d+)?|[½¼¾]) ?(?:g|grams?|kg|mls?|millilitres?|l|litres?|tsp|tbsp|teaspoons?|tablespoons?)|(?:half|quarter|one|two|three)(?: an?)? (?:tsp|tbsp|teaspoons?|tablespoons?)|(?:an? )?(?:quarter|half|few (?:leaves|sprigs|drops)|(?:(?:small|large|big|good|generous) )?(?:pinch|handful)|knob|drizzle|splash|sprig|bunch))$`)

var toServe = pattern.Must(`(?i)^(?:to (?:serve|taste|garnish|finish|decorate)|as needed|as required|optional)$`)

// bare reports whether words are an amount and nothing else.
func (r *reader) bare(cell string) bool {
	t := r.take(cell + " flour")
	return beginsWith(figure, cell) && t.Reading.Given && t.Match.Certain && strings.EqualFold(t.Reading.Name, "flour")
}

// beginsWith reports whether a text begins with what is looked for.
func beginsWith(re *pattern.Pattern, s string) bool {
	at := re.FindStringIndex(s)
	return at != nil && at[0] == 0
}

// shouted begins what is warned of.
var shouted = pattern.Must(`^\p{Lu}{3,}\b`)
