package judgefile

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/table"
)

// What a column of a plan has; "end" is when a row is done.
var planColumns = map[string][]string{
	"clock":   {"clock", "time", "times", "clock time", "when", "start", "starts", "start time", "begin", "begins", "from", "time of day"},
	"end":     {"end", "ends", "end time", "finish", "finishes", "finish time", "to", "until"},
	"dish":    {"dish", "dishes", "which dish", "recipe", "product", "dish name"},
	"what":    {"what", "what to do", "what i do", "what i will do", "what will i do", "what i am doing", "task", "tasks", "activity", "activities", "action", "actions", "job", "jobs", "order of work", "sequence of work", "sequence", "work", "method", "process", "things to do", "instructions", "stage"},
	"minutes": {"minutes", "mins", "min", "how long", "how long it takes", "time taken", "time needed", "time allowed", "duration", "length", "length of time"},
	"step":    {"step"},
}

// columnOf is what a heading says its column has; empty where it says nothing that is read.
func columnOf(heading string) string {
	heading = strings.ToLower(strings.Trim(inBrackets.ReplaceAllString(strings.Join(strings.Fields(heading), " "), ""), " .:?*_"))
	for column, names := range planColumns {
		if slices.Contains(names, heading) {
			return column
		}
	}
	return ""
}

var (
	inBrackets = pattern.Must(`\s*\([^()]*\)`)
	ofADay     = pattern.Must(`^0\.\d+$`) // as a spreadsheet keeps a time
	minute     = pattern.Must(`^(\d{1,3})\s*(min(?:ute)?s?)?$`)
	joined     = pattern.Must(`(?i)^(\d{1,2})\s*[h;,]?\s*([0-5]\d)\s*(?:h|hrs|hours)?$`)
	clockWord  = `\d{1,2}[:.]\d{2}(?:\s*[ap]\.?m\.?)?|\d{1,2}\s*[ap]\.?m\.?|\d{1,2}h[0-5]\d|(?:[01]\d|2[0-3])[0-5]\d`
	spanOf     = pattern.Must(`(?i)^(` + clockWord + `|\d{1,3})\s*(?:[-–—]|to|until|till)\s*(` + clockWord + `|\d{1,3})\s*(?:min(?:ute)?s?)?$`)
	halfOfDay  = pattern.Must(`(?i)^(.+?)\s*([ap])\.?m\.?$`)
	inMinutes  = pattern.Must(`(?i)^(\d{1,4}(?:[.,]\d+)?)\s*(?:min(?:ute)?s?)?\.?$`)
	ofTotal    = pattern.Must(`(?i)^(?:total|sum|in all|overall)\b`)
)

// mostMinutes is the longest that a row can take.
const mostMinutes = 1000

// A layout is a table of a plan: the rows below its headings, and what the columns have.
type layout struct {
	below   []table.Line
	ruled   bool // as PlanText writes it: every line is a row
	columns map[string]int
	dishes  map[int]string // columns that have what is done for one dish
}

// linesOfHead are at most above the headings of a plan: whose it is, and for which dishes.
const linesOfHead = 8

// layoutOf finds the headings of a plan, or what its columns have where it has none; nil where it is no table of
// a plan.
func layoutOf(lines []table.Line, l fit.Lesson) *layout {
	for n, line := range lines[:min(len(lines), linesOfHead)] {
		out := layout{below: lines[n+1:], columns: map[string]int{}, dishes: map[int]string{}}
		for i, c := range line.Cells {
			if column := columnOf(c); column != "" {
				if _, there := out.columns[column]; !there {
					out.columns[column] = i
				}
			} else if d, ok := dishCalled(c, l); ok {
				out.dishes[i] = d
			}
		}
		if _, ok := out.columns["what"]; ok {
			out.dishes = nil
		}
		_, begins := out.columns["clock"]
		_, takes := out.columns["minutes"]
		_, what := out.columns["what"]
		if (begins || takes) && (what || len(out.dishes) > 0) {
			return &out
		}
	}
	return unheadedLayout(lines, l)
}

// dishCalled returns the dish of the lesson that has the words for its title.
func dishCalled(text string, l fit.Lesson) (string, bool) {
	for _, d := range l.Dishes {
		if text = strings.TrimSpace(text); text != "" && (strings.EqualFold(text, d.Title) || strings.EqualFold(text, d.ID)) {
			return text, true
		}
	}
	return "", false
}

// unheadedLayout is that of a table whose first column has times, as one types it.
func unheadedLayout(lines []table.Line, l fit.Lesson) *layout {
	timed := 0
	for _, line := range lines {
		if at, _ := timesOf(line.Cells[0], l); !math.IsNaN(at) {
			timed++
		}
	}
	wide, headed := len(lines[0].Cells), 0
	for _, c := range lines[0].Cells {
		if columnOf(c) != "" {
			headed++
		}
	}
	if wide < 2 || headed > 1 || 2*timed < len(lines) {
		return nil
	}
	order := []string{"clock", "dish", "what", "minutes", "step"}
	if last := lines[0].Cells[min(wide, 3)-1]; wide == 2 || wide == 3 && inMinutes.MatchString(last) {
		order = []string{"clock", "what", "minutes"}
	}
	out := layout{below: lines, columns: map[string]int{}}
	for i, column := range order[:min(wide, len(order))] {
		out.columns[column] = i
	}
	return &out
}

// rows reads the rows of a table.
func (t *layout) rows(l fit.Lesson) ([]assess.Row, error) {
	var out []assess.Row
	_, clocked := t.columns["clock"]
	running := 0.0 // where only lengths are said
	for _, line := range t.below {
		field := func(name string) string {
			if i, ok := t.columns[name]; ok {
				return line.Cells[i]
			}
			return ""
		}
		if !t.ruled && ofTotal.MatchString(strings.TrimSpace(strings.Join(line.Cells, " "))) {
			continue
		}
		row := assess.Row{Line: line.At, Clock: field("clock"), Dish: field("dish"), What: field("what"), Step: field("step")}
		row.At, row.Minutes = timesOf(row.Clock, l)
		if !t.ruled && row.Minutes > 0 {
			row.Clock = beginning(row.Clock)
		}
		if end, _ := timesOf(field("end"), l); end > row.At {
			row.Minutes = end - row.At
		}
		if text := field("minutes"); text != "" {
			m, ok := lengthOf(text)
			if !ok {
				return nil, problem.New(fmt.Sprintf("row %d", line.At), "its minutes are “%s”; they must be a number from 0 to %d", words.Short(text), mostMinutes)
			}
			row.Minutes = m
		}
		if !clocked {
			row.At, row.Clock = running, ""
			if !math.IsNaN(running) {
				row.Clock = strconv.FormatFloat(running, 'f', -1, 64)
			}
			if running += row.Minutes; row.Minutes == 0 { // nobody knows when the next begins
				running = math.NaN()
			}
		}
		if t.dishes == nil {
			out = append(out, row)
			continue
		}
		for i := range line.Cells {
			if dish, ok := t.dishes[i]; ok && line.Cells[i] != "" {
				of := row
				of.Dish, of.What = dish, line.Cells[i]
				out = append(out, of)
			}
		}
	}
	if len(out) == 0 {
		return nil, problem.New("the table", "has no row in it")
	}
	return out, tooLong(out)
}

// lengthOf reads minutes: "5", "7,5", "10 mins".
func lengthOf(text string) (float64, bool) {
	m := inMinutes.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return 0, false
	}
	v, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", "."), 64)
	return v, err == nil && v <= mostMinutes
}

// timesOf reads a time, or a time and when it ends, as minutes from the beginning and how long; NaN where it is
// none, and 0 where it has no end.
func timesOf(text string, l fit.Lesson) (at, long float64) {
	text = strings.TrimSpace(text)
	if m := spanOf.FindStringSubmatch(text); m != nil {
		at, end := minuteOf(m[1], l), minuteOf(m[2], l)
		if end > at {
			return at, end - at
		}
		return math.NaN(), 0
	}
	return minuteOf(text, l), 0
}

// beginning is the first of the two times of a span, as it was typed.
func beginning(span string) string { return spanOf.FindStringSubmatch(strings.TrimSpace(span))[1] }

// minuteOf is a time as minutes from the beginning; NaN where it can't be read. A time of
// twelve hours counts where only that lies near the lesson.
func minuteOf(text string, l fit.Lesson) float64 {
	const half, around = 12 * 60, 120
	if m := minute.FindStringSubmatch(text); m != nil {
		if n, _ := strconv.Atoi(m[1]); n <= int(l.End-l.Start)+around || m[2] != "" {
			return float64(n)
		}
	}
	if ofADay.MatchString(text) {
		share, _ := strconv.ParseFloat(text, 64)
		return math.Round(share*24*60) - float64(l.Start)
	}
	if m := joined.FindStringSubmatch(text); m != nil { // 0905 and 9h05; 905 where the lesson has no such minute
		text = m[1] + ":" + m[2]
	}
	afternoon := false
	if m := halfOfDay.FindStringSubmatch(text); m != nil {
		text, afternoon = m[1], strings.EqualFold(m[2], "p")
		if !strings.ContainsAny(text, ":.") {
			text += ":00"
		}
	}
	typed, err := clock.Typed(text)
	if err != nil {
		return math.NaN()
	}
	if afternoon && typed < half {
		typed += half
	}
	at := int(typed - l.Start)
	if at < -around && at+half <= int(l.End-l.Start)+around {
		at += half
	}
	return float64(at)
}

var (
	timeAhead  = pattern.Must(`(?i)^(?:at |from |by )?(` + clockWord + `)(?:\s*(?:[-–—]|to|until)\s*(` + clockWord + `))?\s*(?:[,:;–—-]+\s*|\s|$)(.*)$`)
	spanAhead  = pattern.Must(`(?i)^(\d{1,3})\s*[-–—]\s*(\d{1,3})\s*(?:min(?:ute)?s?)?\s*[:.,–—-]?\s+(\pL.*)$`)
	timeBehind = pattern.Must(`(?i)^(?:\d{1,2}[.)]\s*)?(.*\pL.*?)\s*[-–—:(,]\s*(` + clockWord + `)\)?\.?$`)
	lengthEnds = pattern.Must(`(?i)(?:\s{2,}|\s*\(|,\s*)(\d{1,3}) ?(?:min(?:ute)?s?)\)?\.?$`)
	wideGap    = pattern.Must(`\s{2,}\d{1,3} ?(?:min(?:ute)?s?)\.?$`)
	ofList     = pattern.Must(`^[\s•*–-]+`)
)

// leastTimed is how many lines with a time make a plan.
const leastTimed = 2

// rowsOfLines reads a plan that has a line for each thing to do, with its time before it or behind it, or below a
// line with the time alone; nil where it is none. What stands above the first time is no row; a line
// without a time below it is one that is asked about.
func rowsOfLines(text string, l fit.Lesson) []assess.Row {
	var out []assess.Row
	timed, above, alone := 0, "", false
	for n, line := range strings.Split(text, "\n") {
		listed := ofList.MatchString(line)
		if line = strings.TrimSpace(ofList.ReplaceAllString(line, "")); line == "" {
			continue
		}
		row := assess.Row{Line: n + 1}
		if m := timeAhead.FindStringSubmatch(line); m != nil {
			row.Clock, row.What = m[1], m[3]
			if m[2] != "" {
				row.Clock += "–" + m[2]
			}
		} else if m := spanAhead.FindStringSubmatch(line); m != nil {
			row.Clock, row.What = m[1]+"–"+m[2], m[3]
		} else if m := timeBehind.FindStringSubmatch(line); m != nil {
			row.Clock, row.What = m[2], m[1]
		} else if above == "" {
			continue
		} else if row.What = line; alone || listed {
			row.Clock = above
		}
		if row.Clock != "" {
			timed++
			above, alone = row.Clock, row.What == "" || alone && row.Clock == above
		}
		if row.What == "" {
			continue
		}
		if m := lengthEnds.FindStringSubmatch(row.What); m != nil {
			row.Minutes, _ = strconv.ParseFloat(m[1], 64)
			row.What = wideGap.ReplaceAllString(row.What, "")
		}
		at, long := timesOf(row.Clock, l)
		if row.At = at; long > 0 {
			row.Clock, row.Minutes = beginning(row.Clock), long
		}
		out = append(out, row)
	}
	if timed < leastTimed || len(out) == 0 {
		return nil
	}
	return out
}
