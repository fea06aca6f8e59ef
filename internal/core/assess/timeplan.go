package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// A Row is a line of a learner's own time plan, in their words.
type Row struct {
	Line    int     // of the file, the heading being 1
	At      float64 // minutes from the beginning of the lesson; NaN where it can't be read
	Clock   string  // as it was written
	Dish    string  // as it was written; empty where the plan says none
	What    string
	Minutes float64 // that it is to take; 0 where the plan says none
	Step    string  // id of a step, where the plan says one
}

// A Meaning is what a row means besides steps of a dish.
type Meaning string

// The meanings.
const (
	TakeOut   Meaning = "out"
	TurnOn    Meaning = "on"
	WashUp    Meaning = "wash"
	WashHands Meaning = "hands"
)

// A ReadRow is a row with what it is taken for.
type ReadRow struct {
	Row
	DishID string
	Steps  []string // ids
	Sure   float64  // from 0 to 1
	Means  Meaning
}

// Guessed reports whether a row is taken for what is left between the rows around it, rather than for
// what it says.
func (r ReadRow) Guessed() bool { return len(r.Steps) > 0 && r.Sure < sureEnough }

// A Finding is what is wrong with a time plan.
type Finding struct {
	Rule  string // hands, before, heat, short, missing, room, keeps, late, wash, safe, idle or row
	Lines []int
	Step  string
	Says  string
	Mend  string // the smallest change that would do
}

// An Ask is a row that is not understood, with what it could be.
type Ask struct {
	Line  int
	Steps []string
	Says  string
}

// A TimePlan is a learner's plan as it is understood and judged.
type TimePlan struct {
	Rows     []ReadRow
	Findings []Finding
	Asks     []Ask
	Finish   float64 // minutes from the beginning; NaN where nothing is planned
	Idle     float64 // the longest time with nothing to do between rows, minutes
}

// sureEnough is from when a row is taken for its steps; below that it is asked.
const sureEnough = 0.58

// CheckTimePlan reads and judges the rows of a learner's plan for a lesson of one group.
func CheckTimePlan(l fit.Lesson, rows []Row) TimePlan {
	c := &checker{Lesson: l, steps: map[string]fit.Step{}, at: map[string]span{}}
	for _, d := range l.Dishes {
		for _, s := range d.Steps {
			c.steps[d.ID+"/"+s.ID] = s
		}
	}
	rows = slices.Clone(rows)
	for _, r := range rows {
		if math.IsNaN(r.At) {
			says := fmt.Sprintf("“%s” is no time of day", words.Short(r.Clock))
			if strings.TrimSpace(r.Clock) == "" {
				says = fmt.Sprintf("“%s” has no time", words.Short(r.What))
			}
			c.find("row", []int{r.Line}, "", says, "write it as 10:05, or in minutes from the beginning")
		}
	}
	rows = slices.DeleteFunc(rows, func(r Row) bool { return math.IsNaN(r.At) })
	slices.SortStableFunc(rows, func(a, b Row) int { return cmp.Compare(a.At, b.At) })
	c.read(rows)
	c.lay()
	c.missing()
	c.before()
	c.hands()
	c.room()
	c.heat()
	c.late()
	c.wash()
	c.safe()
	c.idle()
	slices.SortStableFunc(c.out.Findings, func(a, b Finding) int { return cmp.Compare(first(a.Lines), first(b.Lines)) })
	slices.SortStableFunc(c.out.Rows, func(a, b ReadRow) int { return cmp.Compare(a.Line, b.Line) })
	return c.out
}

func first(lines []int) int {
	if len(lines) == 0 {
		return math.MaxInt
	}
	return lines[0]
}

// A span is when a step is planned by the learner: its work, its wait and its row.
type span struct {
	row                 int // place among the rows read
	start, workEnd, end float64
}

type checker struct {
	fit.Lesson
	out   TimePlan
	steps map[string]fit.Step // by dish and id
	at    map[string]span     // of the steps that are in a row
	busy  []work

	profiles  []profile       // of the steps of the chosen dishes
	known     map[string]bool // stems of what they are made of and do
	spellings []string        // those, and the acts, that a misspelt word may be
	stemmed   map[string][]string
	respelt   map[string]string // what each word that is none of them is taken for
}

// work is hands-on, of a row.
type work struct {
	row      int
	from, to float64
}

func (c *checker) find(rule string, lines []int, step, says, mend string) {
	c.out.Findings = append(c.out.Findings, Finding{rule, lines, step, says, mend})
}

func (c *checker) cooks() int {
	if len(c.Groups) == 0 {
		return 1
	}
	return max(1, c.Groups[0].Cooks)
}

func (c *checker) clock(minute float64) string { return c.At(minute) }

// slack, in minutes, is by how much a plan may be off: people write whole minutes.
const slack = 1.0

// lay says when each step begins and ends by the learner's own rows.
func (c *checker) lay() {
	c.out.Finish = math.NaN()
	for i, r := range c.out.Rows {
		at := r.Row.At
		needed, waits := 0.0, 0.0
		own := len(r.Steps) == 0 // what an adult does leaves the learner's hands free
		for n, id := range r.Steps {
			s := c.steps[r.DishID+"/"+id]
			work := c.workOf(s)
			wait := s.Wait.Float()
			own = own || s.Adult != fit.Does
			needed += work
			if n == len(r.Steps)-1 {
				waits = wait
			} else {
				needed += wait
			}
			if _, ok := c.at[r.DishID+"/"+id]; ok {
				continue // said again: the first time counts
			}
			c.at[r.DishID+"/"+id] = span{i, at, at + work, at + work + wait}
			at += work + wait
		}
		took := needed
		if r.Minutes > 0 && len(r.Steps) > 0 {
			if r.Minutes < (1-quarter)*needed {
				c.find("short", []int{r.Line}, r.Steps[len(r.Steps)-1], fmt.Sprintf("%.0f min for what takes about %.0f", r.Minutes, needed+waits), fmt.Sprintf("give it %.0f min", math.Ceil(needed)))
			} else if waits > 0 && r.Minutes > needed+slack && r.Minutes < (1-quarter)*(needed+waits) {
				c.find("short", []int{r.Line}, r.Steps[len(r.Steps)-1], fmt.Sprintf("%.0f min for what takes about %.0f, waiting included", r.Minutes, needed+waits), fmt.Sprintf("give it %.0f min", math.Ceil(needed+waits)))
			}
			took = needed
			if waits == 0 {
				took = max(r.Minutes, needed)
			}
		} else if r.Minutes > 0 {
			took = r.Minutes
		}
		if took > 0 && own {
			c.busy = append(c.busy, work{i, r.Row.At, r.Row.At + took})
		}
		for _, id := range r.Steps {
			if sp := c.at[r.DishID+"/"+id]; sp.row == i {
				c.out.Finish = nanMax(c.out.Finish, sp.end)
			}
		}
		c.out.Finish = nanMax(c.out.Finish, r.Row.At+took)
	}
	c.outs()
}

// quarter is the share by which a learner may plan less than the recipe says.
const quarter = 0.25

func nanMax(a, b float64) float64 {
	if math.IsNaN(a) {
		return b
	}
	return max(a, b)
}

// workOf is how long a step's work takes with the cooks that there are.
func (c *checker) workOf(s fit.Step) float64 {
	work := s.Work.Float() + s.Load.Float()*float64(s.Loads())
	if s.Shareable {
		work /= float64(c.cooks())
	}
	return work
}

// outs lets what is taken out end there: too early is short.
func (c *checker) outs() {
	for _, r := range c.out.Rows {
		if r.Means != TakeOut {
			continue
		}
		best, key := span{start: math.Inf(-1)}, ""
		for k, sp := range c.at {
			s := c.steps[k]
			if s.Wait.Sign() > 0 && usesHeat(c.Lesson, s) && sp.start < r.Row.At && (r.DishID == "" || strings.HasPrefix(k, r.DishID+"/")) && (sp.start > best.start || sp.start == best.start && k < key) {
				best, key = sp, k
			}
		}
		if key == "" {
			continue
		}
		s := c.steps[key]
		if wait := s.Wait.Float(); r.Row.At-best.workEnd < (1-quarter)*wait {
			c.find("short", []int{c.out.Rows[best.row].Line, r.Line}, s.ID, fmt.Sprintf("it is taken out after %.0f min and needs %.0f", r.Row.At-best.workEnd, wait), "take it out at "+c.clock(best.end))
		}
	}
}

func usesHeat(l fit.Lesson, s fit.Step) bool {
	return slices.ContainsFunc(s.Uses, func(u fit.Use) bool {
		return u.Temperature != nil || slices.Contains(heats, strings.ToLower(u.Equipment))
	})
}

var heats = []string{"oven", "ovens", "ring", "rings", "hob", "grill"}

func (c *checker) line(sp span) int { return c.out.Rows[sp.row].Line }
