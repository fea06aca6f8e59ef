package judgefile

import (
	"encoding/csv"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/table"
)

// MostRows is how many rows a time plan may have.
const MostRows = 500

var (
	ofADay = pattern.Must(`^0\.\d+$`) // as a spreadsheet keeps a time
	minute = pattern.Must(`^\d{1,3}$`)
)

// ReadTimePlan reads a learner's time plan for a lesson: a table, as CSV or XLSX, with the
// columns clock, dish, what and, where they are there, minutes and step. What is wrong
// with the table is a problem with its row; what is wrong with what a row says is for
// the judging to say.
func ReadTimePlan(from io.Reader, l fit.Lesson) ([]assess.Row, error) {
	data, err := io.ReadAll(io.LimitReader(from, table.MaxBytes+1))
	if err != nil {
		return nil, err
	}
	lines, err := table.Lines(data)
	if err != nil {
		return nil, problem.New("the table", "%s", err)
	}
	columns := map[string]int{}
	for i, c := range lines[0].Cells {
		columns[strings.ToLower(c)] = i
	}
	for _, need := range []string{"clock", "what"} {
		if _, ok := columns[need]; !ok {
			return nil, problem.New(fmt.Sprintf("row %d", lines[0].At), "has no column %q; the first line names the columns: clock, dish, what, and minutes and step where they are there", need)
		}
	}
	if len(lines) == 1 {
		return nil, problem.New("the table", "has no row in it")
	}
	if len(lines) > MostRows+1 {
		return nil, problem.New(fmt.Sprintf("row %d", lines[MostRows+1].At), "is more than the %d rows that a plan can have", MostRows)
	}
	var out []assess.Row
	for _, line := range lines[1:] {
		field := func(name string) string {
			if i, ok := columns[name]; ok {
				return line.Cells[i]
			}
			return ""
		}
		row := assess.Row{Line: line.At, Clock: field("clock"), Dish: field("dish"), What: field("what"), Step: field("step")}
		row.At = minuteOf(row.Clock, l)
		if text := field("minutes"); text != "" {
			m, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(strings.TrimSuffix(strings.ToLower(text), "min")), ",", "."), 64)
			if err != nil || !(m >= 0 && m <= mostMinutes) {
				return nil, problem.New(fmt.Sprintf("row %d", line.At), "its minutes are “%s”; they must be a number from 0 to %d", words.Short(text), mostMinutes)
			}
			row.Minutes = m
		}
		out = append(out, row)
	}
	return out, nil
}

// PlanText writes rows as a table that ReadTimePlan reads.
func PlanText(rows []assess.Row) string {
	cells := make([][]string, len(rows))
	for i, r := range rows {
		minutes := ""
		if r.Minutes > 0 {
			minutes = strconv.FormatFloat(r.Minutes, 'f', -1, 64)
		}
		cells[i] = []string{r.Clock, r.Dish, r.What, minutes, r.Step}
	}
	return PlanTable(cells)
}

// PlanTable writes cells as they were typed, in the order clock, dish, what, minutes and
// step, as a table that ReadTimePlan reads or finds fault with.
func PlanTable(cells [][]string) string {
	var b strings.Builder
	w := csv.NewWriter(&b)
	_ = w.Write([]string{"clock", "dish", "what", "minutes", "step"}) // a builder takes all
	_ = w.WriteAll(cells)
	return b.String()
}

// mostMinutes is the longest that a row can take.
const mostMinutes = 1000

// minuteOf is a time as minutes from the beginning; NaN where it can't be read. A time of
// twelve hours counts where only that lies near the lesson.
func minuteOf(text string, l fit.Lesson) float64 {
	const half, around = 12 * 60, 120
	if minute.MatchString(text) {
		m, _ := strconv.Atoi(text)
		return float64(m)
	}
	if ofADay.MatchString(text) {
		share, _ := strconv.ParseFloat(text, 64)
		return math.Round(share*24*60) - float64(l.Start)
	}
	typed, err := clock.Typed(text)
	if err != nil {
		return math.NaN()
	}
	at := int(typed - l.Start)
	if at < -around && at+half <= int(l.End-l.Start)+around {
		at += half
	}
	return float64(at)
}

type planRowJSON struct {
	Row   int            `json:"row"`
	Dish  string         `json:"dish"`
	Steps []string       `json:"steps"`
	Sure  float64        `json:"sure"`
	Means assess.Meaning `json:"means,omitempty"`
}

type findingJSON struct {
	Rule string `json:"rule"`
	Rows []int  `json:"rows"`
	Step string `json:"step,omitempty"`
	Says string `json:"says"`
	Mend string `json:"mend,omitempty"`
}

type askJSON struct {
	Row   int      `json:"row"`
	Steps []string `json:"steps"`
	Says  string   `json:"says"`
}

type timePlanJSON struct {
	Rows     []planRowJSON   `json:"rows"`
	Findings []findingJSON   `json:"findings"`
	Asks     []askJSON       `json:"asks"`
	Finish   *string         `json:"finish"`
	Idle     jsonout.Rounded `json:"longest_idle_min"`
}

// WriteTimePlan writes a time plan as it is understood and judged as JSON.
func WriteTimePlan(to io.Writer, l fit.Lesson, p assess.TimePlan) error {
	out := timePlanJSON{Rows: []planRowJSON{}, Findings: []findingJSON{}, Asks: []askJSON{}, Idle: jsonout.Rounded(p.Idle)}
	for _, r := range p.Rows {
		out.Rows = append(out.Rows, planRowJSON{r.Line, r.DishID, append([]string{}, r.Steps...), r.Sure, r.Means})
	}
	for _, f := range p.Findings {
		out.Findings = append(out.Findings, findingJSON{f.Rule, append([]int{}, f.Lines...), f.Step, f.Says, f.Mend})
	}
	for _, a := range p.Asks {
		out.Asks = append(out.Asks, askJSON{a.Line, append([]string{}, a.Steps...), a.Says})
	}
	if !math.IsNaN(p.Finish) {
		at := l.At(p.Finish)
		out.Finish = &at
	}
	return jsonout.Write(to, out)
}

// WriteTimePlanText writes it for people to read.
func WriteTimePlanText(to io.Writer, l fit.Lesson, p assess.TimePlan) error {
	var b strings.Builder
	if !math.IsNaN(p.Finish) {
		fmt.Fprintf(&b, "Done at %s.\n", l.At(p.Finish))
	}
	for _, f := range p.Findings {
		where := ""
		for i, line := range f.Lines {
			where += map[bool]string{true: "Row ", false: ", "}[i == 0] + strconv.Itoa(line)
		}
		if where != "" {
			where += ": "
		}
		fmt.Fprintf(&b, "%s%s.", where, f.Says)
		if f.Mend != "" {
			fmt.Fprintf(&b, " %s.", words.Capital(f.Mend))
		}
		b.WriteString("\n")
	}
	for _, a := range p.Asks {
		fmt.Fprintf(&b, "Row %d: %s", a.Line, a.Says)
		if len(a.Steps) > 0 {
			fmt.Fprintf(&b, " %s", words.Capital(words.Or(a.Steps)))
		}
		b.WriteString("\n")
	}
	if len(p.Findings)+len(p.Asks) == 0 {
		b.WriteString("Nothing is wrong with it that can be seen.\n")
	}
	_, err := io.WriteString(to, b.String())
	return err
}
