package reading

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/duration"
	"freshapron/internal/core/measure"
	kitchen "freshapron/internal/core/words"
)

// layOut brings what people lay out in columns and by the clock into lines of one
// thing each. What a line is stays open, but where its column or the clock says it.
func (r *reader) layOut() {
	for n := range r.lines {
		if r.lines[n].quiet == "" {
			if seasoning.MatchString(r.lines[n].item) {
				r.lines[n] = made(r.lines[n], "salt and pepper", preface)
			}
			for _, s := range []*string{&r.lines[n].text, &r.lines[n].item} {
				*s = untilBare.ReplaceAllString(*s, "$1 min $2")
			}
			r.lines[n].symbols()
			r.forWhom(&r.lines[n])
		}
	}
	bracketed(r.lines)
	r.lines = r.counted(timed(r.tables(inline(r.sentences(r.lines)))))
}

// untilBare is a stretch of minutes without the word: "boil 15–20 until soft".
var untilBare = regexp.MustCompile(`(?i)(\b(?:boil|simmer|bake|cook|fry|roast|steam|grill|chill|prove|rest) \d{1,2} ?[-–] ?\d{1,2}) ((?:until|till?)\b)`)

// seasoning is salt and pepper, in short.
var seasoning = regexp.MustCompile(`(?i)^s ?(?:&|\+|n|and) ?p\.?$`)

// bracketed reads bare figures in brackets behind numbered steps as their minutes, where
// most have them: "3. Dice the cheese. (8)".
func bracketed(lines []line) {
	var at []int
	numbered := 0
	for n, l := range lines {
		if l.numbered && l.quiet == "" {
			numbered++
			if minutesBehind.MatchString(l.item) {
				at = append(at, n)
			}
		}
	}
	if len(at) < leastRun || 3*len(at) < 2*numbered {
		return
	}
	for _, n := range at {
		m := minutesBehind.FindStringSubmatch(lines[n].item)
		lines[n].item = lasting(m[1], m[2])
	}
}

var minutesBehind = regexp.MustCompile(`^(.+?)\s*\((\d{1,2})\)$`)

// forWhom takes "(each child) 4 strawberries · 4 grapes" apart.
func (r *reader) forWhom(l *line) {
	m := whomAhead.FindStringSubmatch(l.text)
	if m == nil {
		return
	}
	head := made(*l, m[1], preface)
	r.forOne(&head)
	*l = made(*l, m[2], preface)
}

var whomAhead = regexp.MustCompile(`(?i)^\(((?:each|per|for each) (?:pair|pupil|student|learner|child|person))\)\s*(.+)$`)

// symbols turns a list whose things are the names of pictures: "[potato] 2  [leek] 1".
func (l *line) symbols() {
	if len(symbol.FindAllString(l.text, 3)) < 3 {
		return
	}
	*l = made(*l, strings.TrimRight(symbol.ReplaceAllString(l.text, "$2 $1; "), "; "), preface)
}

var symbol = regexp.MustCompile(`\[([\pL ]{3,24})\]\s*((?:\d|[½¼])[^\[]*)`)

// sentences takes a message apart that holds the list in one of its sentences: "The
// recipe: 200 g flour, 40 g butter, 125 ml milk. Makes 6. Rub in …"
func (r *reader) sentences(lines []line) []line {
	if len(lines) > longMessage {
		return lines
	}
	var out []line
	for _, l := range lines {
		parts := strings.Split(fullStop.ReplaceAllString(l.text, "$1\n"), "\n")
		listed := slices.ContainsFunc(parts, func(p string) bool {
			_, behind, ok := strings.Cut(p, ": ")
			if m := youWant.FindStringSubmatch(strings.TrimRight(p, ". ")); m != nil {
				behind, ok = m[1], true
			}
			return ok && strings.Count(behind, ",") >= 2 && r.manyAmounts(behind)
		})
		if l.quiet != "" || l.marked || len(parts) < 2 || !listed {
			out = append(out, l)
			continue
		}
		for _, p := range parts {
			if p = strings.TrimSpace(p); p != "" {
				out = append(out, made(l, p, preface))
			}
		}
	}
	return out
}

// longMessage is how many lines a message has at most that is looked through so.
const longMessage = 20

var fullStop = regexp.MustCompile(`([.!?]+)\s+`)

// inline takes a method apart that numbers its steps within a line: "1.Oven to 220. 2.Put
// the sausages in a tin. 3. Whisk the batter."
func inline(lines []line) []line {
	var out []line
	for _, l := range lines {
		var cuts []int
		for _, m := range innerNumber.FindAllStringSubmatchIndex(l.text, -1) {
			if l.text[m[2]:m[3]] == strconv.Itoa(len(cuts)+1) {
				cuts = append(cuts, m[2])
			}
		}
		if l.quiet != "" || len(cuts) < leastRun {
			out = append(out, l)
			continue
		}
		if before := strings.TrimSpace(l.text[:cuts[0]]); before != "" {
			out = append(out, made(l, before, preface))
		}
		for n, at := range cuts {
			until := len(l.text)
			if n+1 < len(cuts) {
				until = cuts[n+1]
			}
			out = append(out, made(l, closeDot.ReplaceAllString(strings.TrimSpace(l.text[at:until]), "$1 $2"), preface))
		}
	}
	return out
}

var innerNumber = regexp.MustCompile(`(?:^|[.!?;:)]\s*|\s)(\d{1,2})[.)]\s?\p{Lu}\pL`)

// counted finds lines that are numbered without a mark behind: "1 Rinse rice", "2 Salmon
// on the tray", "3 Build bowls".
func (r *reader) counted(lines []line) []line {
	var run []int
	orders, things := 0, 0
	end := func() {
		if len(run) >= leastRun && orders > 0 && things == 0 {
			for _, n := range run {
				l := &lines[n]
				l.item, l.marked, l.numbered = numberedBare.FindStringSubmatch(l.text)[2], true, true
			}
		}
		run, orders, things = nil, 0, 0
	}
	for n, l := range lines {
		m := numberedBare.FindStringSubmatch(l.text)
		if m == nil || l.quiet != "" || l.is != preface {
			continue // what goes on in a line of its own breaks no numbering
		}
		if m[1] != strconv.Itoa(len(run)+1) {
			end()
		}
		if m[1] == strconv.Itoa(len(run)+1) {
			run = append(run, n)
			if isVerb(firstWord(m[2])) || preheating(m[2]) {
				orders++
			}
			if r.certain(l.text) {
				things++
			}
		}
	}
	end()
	return lines
}

var numberedBare = regexp.MustCompile(`^(\d{1,2}) (\pL+[ ,!].*|\d+ min(?:ute)?s?\b.*)$`)

var (
	cellMark   = regexp.MustCompile(`\s*\|\s*`)
	ruledLine  = regexp.MustCompile(`^[\s|:=+-]+$`)
	columnOf   = regexp.MustCompile(`(?i)^(?:(?P<amount>(?:per|for each|for one) (?:pair|learner|pupil|person|bench|group|child)|amounts?|quantit(?:y|ies)|qty|weights?|measures?|how much|grams?|g|metric|menge)|(?P<unit>units?)|(?P<cost>costs?|prices?|£|pence)|(?P<prep>prep(?:aration)?|cut|notes?)|(?P<kit>equipment|utensils|tools|kit)|(?P<name>(?:what )?you(?:'ll| will)? need|ingredients?(?: (?:per|for each) \pL+)?|items?|foods?|what|things?|commodit(?:y|ies)|product|zutat(?:en)?)|(?P<step>methods?|steps?|what to do|what (?:we|you) do|what happens|instructions?|actions?|process|tasks?|activity|procedure|do this|order of work|(?:order|sequence) of (?:tasks|steps|making)|jobs?)|(?P<when>time|when|clock|timings?|start)|(?P<time>mins?|minutes|how long|duration)|(?P<why>why\??|reasons?|functions?|purpose|what it does)|(?P<hazard>(?:hazards?|risks?)(?: assessment)?)|(?P<care>safety|hygiene|(?:health|food) (?:and|&) safety|food safety|checks?|quality(?: control)?|look for|control(?:s| points?)?)(?:\s*(?:/|&|\+|and)\s*[\pL ]+)?|(?P<number>#|no\.?|nr\.?|number|order|stage))\s*(?:\([^)]*\))?:?$`)
	numberOnly = regexp.MustCompile(`^(?:step )?\d{1,2}[.)]?$`)
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

// tables takes tables apart, with a row of headings or without one.
func (r *reader) tables(lines []line) []line {
	var out []line
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
		out = append(out, r.table(lines[n:last])...)
		n = last
	}
	return out
}

// barred is a row of which all cells but one are empty.
var barred = regexp.MustCompile(`^\|.*\|.*\|$`)

// table takes the rows of one table apart.
func (r *reader) table(rows []line) []line {
	var out []line
	var columns []string
	for n, row := range rows {
		if n == 0 || row.gap && !figure.MatchString(row.text) { // another table
			columns = byMinutes(rows[n:])
			if columns != nil && columnsOf(row.text) == nil && !figure.MatchString(row.text) {
				r.Headings = append(r.Headings, row.at)
				continue
			}
		}
		if heads := columnsOf(row.text); heads != nil || ruledLine.MatchString(row.text) {
			if heads != nil {
				columns = heads
				if at := slices.Index(columns, "when"); at >= 0 && lastings(rows, at) {
					columns[at] = "time"
				}
				for _, cell := range cells(row.text) {
					head := made(row, cell, preface)
					r.forOne(&head)
				}
			}
			r.Headings = append(r.Headings, row.at)
			continue
		}
		cs := cells(row.text)
		if all := strings.Split(strings.TrimSuffix(strings.TrimPrefix(row.text, "|"), "|"), "|"); columns != nil && len(all) > 1 && len(all) <= len(columns) {
			out = append(out, inColumns(row, columns, all)...)
			continue
		}
		out = append(out, r.loose(row, cs)...)
	}
	return out
}

// byMinutes tells the columns of a table whose headings are not known, by a column in which
// most cells are minutes and nothing else; nil where there is none.
func byMinutes(rows []line) []string {
	var all [][]string
	wide := 0
	for _, row := range rows {
		cells := strings.Split(strings.TrimSuffix(strings.TrimPrefix(row.text, "|"), "|"), "|")
		all = append(all, cells)
		wide = max(wide, len(cells))
	}
	if len(rows) < leastRun || wide < 2 || wide > 4 {
		return nil
	}
	for j := 1; j < wide; j++ {
		minutes, steps := 0, 0
		for _, cells := range all {
			if j < len(cells) && onlyMinutes.MatchString(strings.TrimSpace(cells[j])) {
				minutes++
			}
			if isVerb(firstWord(cells[0])) {
				steps++
			}
		}
		if 3*minutes < 2*len(rows) || 2*steps < len(rows) {
			continue
		}
		columns := make([]string, wide)
		columns[0], columns[j] = "step", "time"
		return columns
	}
	return nil
}

var onlyMinutes = regexp.MustCompile(`(?i)^\d{1,3} ?min(?:ute)?s?\.?$`)

// lastings reports whether a column of bare figures says how long each step takes, and not
// when it begins: they don't go up.
func lastings(rows []line, at int) bool {
	var said []int
	for _, row := range rows {
		all := strings.Split(strings.TrimSuffix(strings.TrimPrefix(row.text, "|"), "|"), "|")
		if columnsOf(row.text) != nil || at >= len(all) {
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

// columnsOf tells what the columns of a row of headings hold; nil where the row is none.
func columnsOf(text string) []string {
	all := strings.Split(strings.TrimSuffix(strings.TrimPrefix(text, "|"), "|"), "|")
	out := make([]string, len(all))
	known := 0
	for n, cell := range all {
		m := columnOf.FindStringSubmatch(strings.Trim(strings.TrimSpace(cell), "*"))
		for g, name := range columnOf.SubexpNames() {
			if m != nil && name != "" && m[g] != "" {
				out[n] = name
			}
		}
		if out[n] != "" {
			known++
		}
	}
	if first := slices.Index(out, "step"); first >= 0 && slices.Contains(out[first+1:], "step") { // "Step | Instruction" numbers the steps
		out[first] = "number"
	}
	if len(all) == 2 && strings.TrimSpace(all[0]) == "" && out[1] == "amount" { // nothing stands over the names
		out[0], known = "name", 2
	}
	if len(all) < 2 || known < 2 || !slices.Contains(out, "name") && !slices.Contains(out, "step") {
		return nil
	}
	return out
}

// inColumns makes the lines of a row whose columns are known: the ingredient with its
// amount, or the step; what else the row says is a remark.
func inColumns(row line, columns, all []string) []line {
	said := map[string]string{}
	var beside []string
	for n, cell := range all {
		cell = strings.Trim(strings.TrimSpace(cell), "*")
		if key := columns[n]; key != "" && said[key] == "" {
			said[key] = cell
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
	if said["name"] != "" {
		if prep := strings.Trim(said["prep"], "-–— "); prep != "" {
			beside = append(beside, prep)
		}
		out = append(out, made(row, strings.TrimSpace(said["amount"]+" "+strings.TrimLeft(said["unit"]+" ", " ")+strings.Join(append([]string{said["name"]}, beside...), ", ")), list))
		beside = nil
	}
	if said["cost"] != "" {
		out = append(out, made(row, strings.TrimSpace(said["name"]+" "+said["step"])+": "+said["cost"], facts))
	}
	if said["why"] != "" {
		out = append(out, made(row, strings.TrimSpace(said["name"]+said["step"])+": "+said["why"], facts))
	}
	if said["hazard"] != "" {
		out = append(out, made(row, "Hazard: "+said["hazard"], facts))
	}
	if said["kit"] != "" {
		out = append(out, made(row, "Equipment: "+said["kit"], facts))
	}
	if said["step"] != "" {
		step := lasting(said["step"], cmp.Or(said["time"], minutesIn(said["when"]), minutesIn(said["prep"])))
		if said["care"] != "" {
			step = strings.TrimRight(step, ". ") + ". " + said["care"]
		}
		out = append(out, made(row, step, method))
	}
	for _, b := range beside {
		out = append(out, made(row, b, facts))
	}
	if out == nil { // nothing but an amount or a time
		return []line{row}
	}
	return out
}

// minutesIn is a cell that says how long something takes, and empty where it says when.
func minutesIn(cell string) string {
	if len(duration.In(cell)) == 0 {
		return ""
	}
	return cell
}

// loose makes the lines of a row of a table without headings, and of things that stand
// between bars in one line.
func (r *reader) loose(row line, cs []string) []line {
	if len(cs) > 1 && numberOnly.MatchString(cs[0]) {
		cs = cs[1:]
		if len(cs) == 1 {
			return []line{made(row, cs[0], method)}
		}
	}
	if len(cs) == 3 && !figure.MatchString(cs[0]) && r.bare(cs[1]) && r.bare(cs[2]) && r.measured(cs[1]+" "+cs[0]) { // of one, and of the class
		return []line{made(row, cs[1]+" "+cs[0], list), made(row, cs[0]+" for the class: "+cs[2], facts)}
	}
	if len(cs) == 2 {
		cs[1] = eachBehind.ReplaceAllString(cs[1], "$1")
	}
	if len(cs) == 2 && toServe.MatchString(cs[1]) && !figure.MatchString(cs[0]) { // "lettuce, tomato | to serve"
		var out []line
		for _, name := range strings.Split(cs[0], ",") {
			out = append(out, made(row, strings.TrimSpace(name)+", "+cs[1], list))
		}
		return out
	}
	if len(cs) == 2 && isVerb(cs[0]) && capitals(cs[0]) { // "KNEAD | 10 min, until stretchy"
		return []line{made(row, kitchen.Capital(strings.ToLower(cs[0]))+": "+cs[1], method)}
	}
	if len(cs) == 2 {
		both := cs[0] + ": " + cs[1]
		if _, ok := yieldOf(both); ok || titleMark.MatchString(both) || times.MatchString(both) && !times.MatchString(cs[1]) {
			return []line{made(row, both, preface)}
		}
		if behind := cs[0] + " – " + cs[1]; strings.Contains(cs[1], ",") && figure.MatchString(cs[1]) && !figure.MatchString(cs[0]) && r.certain(behind) {
			return []line{made(row, behind, list)}
		}
		if turned := cs[1] + " " + cs[0]; beginsWith(figure, cs[1]) && !figure.MatchString(cs[0]) && r.measured(turned) {
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

// eachBehind is how kitchens write pieces: "2 ea".
var eachBehind = regexp.MustCompile(`(?i)^(\d+)\s*(?:ea|each|off)\.?$`)

var toServe = regexp.MustCompile(`(?i)^(?:to (?:serve|taste|garnish|finish|decorate)|as needed|as required|optional)$`)

// bare reports whether words are an amount and nothing else.
func (r *reader) bare(cell string) bool {
	t := r.take(cell + " flour")
	return beginsWith(figure, cell) && t.Reading.Given && t.Match.Certain && strings.EqualFold(t.Reading.Name, "flour")
}

// beginsWith reports whether a text begins with what is looked for.
func beginsWith(re *regexp.Regexp, s string) bool {
	at := re.FindStringIndex(s)
	return at != nil && at[0] == 0
}

var figure = regexp.MustCompile(`[\d½¼¾⅓⅔]`)

// certain reports whether words are an ingredient of the pantry with its amount.
func (r *reader) certain(item string) bool {
	t := r.take(item)
	return t.Reading.Given && t.Match.Certain
}

// measured reports whether words are an ingredient with a weight or a volume, or one of
// the pantry that is counted.
func (r *reader) measured(item string) bool {
	t := r.take(item)
	return t.Reading.Given && (t.Match.Certain || t.Reading.Unit.Dimension == measure.Mass || t.Reading.Unit.Dimension == measure.Volume)
}

// made is a line of the source in other words; in is the section that it belongs to,
// preface where that is open.
func made(l line, text string, in section) line {
	l.text, l.item, l.marked, l.numbered, l.is = text, text, false, false, in
	if in == preface {
		l.unmark()
	}
	return l
}

// lasting is a step with the minutes that a column gives it, where it says none itself.
func lasting(step, time string) string {
	if time == "" || len(duration.In(step)) > 0 {
		return step
	}
	if _, err := strconv.Atoi(time); err == nil {
		time += " min"
	}
	if len(duration.In(time)) == 0 || clocked.MatchString(time+" A") {
		return step
	}
	return strings.TrimRight(step, ". ") + " (" + time + ")."
}

// A plan is a form in which people put the lines of a plan in order. Of a line it reads
// when it begins and how long it lasts, in minutes, 0 where that is not said.
type plan struct {
	words *regexp.Regexp
	read  func(first, second int) (from, lasts int)
	door  bool // only a lesson's stretches count: "2-3 carrots" may follow "1-2 onions"
}

var (
	clocked = regexp.MustCompile(`^\[?(\d{1,2})[:.]([0-5]\d)\]?(?:\s*(?:-|–|—|to)\s*\d{1,2}[:.][0-5]\d)?(?:\s*[-–—:|]\s*|\s+)(\pL.*)$`)
	plans   = []plan{
		{clocked, func(hour, minute int) (int, int) { return 60*hour + minute, 0 }, false},
		{regexp.MustCompile(`(?i)^\[?t ?\+ ?(\d{1,3})()\]?\s*(?:mins?)?\s*[-–—:|]?\s+(\pL.*)$`), func(from, _ int) (int, int) { return from, 0 }, false},
		{regexp.MustCompile(`(?i)^\(?(\d{1,3})\s*mins?()\)?\s*[-–—:|]?\s+(\pL.*)$`), func(lasts, _ int) (int, int) { return 0, lasts }, false},
		{regexp.MustCompile(`^\[?(\d{1,3})\s*(?:-|–|—|to)\s*(\d{1,3})\]?\s*(?:mins?|minutes)?\s*[-–—:|]?\s+(\pL.*)$`), func(from, until int) (int, int) { return from, until - from }, true},
	}
)

// leastRun is how many lines in order are no chance.
const leastRun = 3

// A planned line is one of a plan.
type planned struct {
	line, from, lasts int
	text              string
}

// timed finds lines that a plan by the clock or by the minute puts in order: "10:05 melt
// butter", "5-15 rub in". Each is a step, which lasts as long as its stretch where it says
// nothing else.
func timed(lines []line) []line {
	for _, form := range plans {
		run := form.longest(lines)
		if len(run) < leastRun || form.door && !fromTheDoor(run) {
			continue
		}
		for _, p := range run {
			text := p.text
			if p.lasts > 0 {
				text = lasting(text, strconv.Itoa(p.lasts))
			}
			lines[p.line] = made(lines[p.line], text, method)
			lines[p.line].whole = text != p.text
		}
	}
	return lines
}

// longest returns the longest run of lines of a plan of which none begins before the one
// before it.
func (f plan) longest(lines []line) (best []planned) {
	var run []planned
	begun := 0
	for n, l := range lines {
		m := f.words.FindStringSubmatch(l.text)
		if m == nil || l.quiet != "" || l.is != preface {
			continue
		}
		first, _ := strconv.Atoi(m[1])
		second, _ := strconv.Atoi(m[2])
		p := planned{line: n, text: m[3]}
		if p.from, p.lasts = f.read(first, second); p.lasts < 0 {
			continue
		}
		if p.from < begun { // two may go on at once
			run = nil
		}
		run = append(run, p)
		begun = p.from
		if len(run) > len(best) {
			best = run
		}
	}
	return best
}

// fromTheDoor reports whether stretches of minutes are those of a lesson: they begin at
// the door or go on for twenty minutes.
func fromTheDoor(run []planned) bool {
	last := run[len(run)-1]
	return run[0].from == 0 || last.from+last.lasts >= 20
}
