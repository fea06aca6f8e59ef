package judgefile

import (
	"encoding/csv"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/table"
)

// MostRows is how many rows a time plan may have.
const MostRows = 500

// ReadTimePlan reads a time plan for a lesson as PlanText writes it: a table, as CSV or XLSX, with the
// columns clock, dish, what and, where they are there, minutes and step. What is wrong
// with the table is a problem with its row; what is wrong with what a row says is for
// the judging to say.
func ReadTimePlan(from io.Reader, l fit.Lesson) ([]assess.Row, error) {
	_, lines, err := planTable(from)
	if err != nil {
		return nil, err
	}
	return ruled(lines, l)
}

// TakeTimePlan reads a time plan as learners lay theirs out: as ReadTimePlan does, or under headings of their
// own, with a column for each dish, or with a line for each thing to do.
func TakeTimePlan(from io.Reader, l fit.Lesson) ([]assess.Row, error) {
	data, lines, err := planTable(from)
	if err != nil {
		return nil, err
	}
	if laid := layoutOf(lines, l); laid != nil {
		return laid.rows(l)
	}
	if text, ok := table.Text(data); ok {
		if rows := rowsOfLines(text, l); rows != nil {
			return rows, tooLong(rows)
		}
	}
	return ruled(lines, l)
}

func planTable(from io.Reader) (data []byte, lines []table.Line, err error) {
	if data, err = io.ReadAll(io.LimitReader(from, table.MaxBytes+1)); err != nil {
		return nil, nil, err
	}
	if lines, err = table.Lines(data); err != nil {
		return nil, nil, problem.New("the table", "%s", err)
	}
	return data, lines, nil
}

// ruled reads the rows of a table whose first line names the columns.
func ruled(lines []table.Line, l fit.Lesson) ([]assess.Row, error) {
	laid := layout{below: lines[1:], ruled: true, columns: map[string]int{}}
	for i, c := range lines[0].Cells {
		laid.columns[strings.ToLower(c)] = i
	}
	for _, need := range []string{"clock", "what"} {
		if _, ok := laid.columns[need]; !ok {
			return nil, problem.New(fmt.Sprintf("row %d", lines[0].At), "has no column %q; the first line names the columns: clock, dish, what, and minutes and step where they are there", need)
		}
	}
	return laid.rows(l)
}

func tooLong(rows []assess.Row) error {
	if len(rows) > MostRows {
		return problem.New(fmt.Sprintf("row %d", rows[MostRows].Line), "is more than the %d rows that a plan can have", MostRows)
	}
	return nil
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
