package lesson

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/words"
)

// Light says how good a verdict is.
type Light string

// A verdict is good, worth a look, or a reason to stop.
const (
	Good Light = "good"
	Look Light = "look"
	Stop Light = "stop"
)

// A Verdict answers one of the questions about a lesson in a short sentence
// with its figures. About names the side of the lesson that shows why.
type Verdict struct {
	About string // "time", "chance", "queue", "amounts" or "benches"
	Light Light
	Head  string // the figure and its word: "4 min left"
	Says  string // the reason
}

// A Queue is a thing that benches wait for.
type Queue struct {
	For     string  // id of the equipment, or "adults"
	Benches int     // how many wait
	Longest float64 // minutes
	From    float64 // minute at which the first begins to wait
}

// Queues returns what benches wait for, the longest wait first. Waits of
// under half a minute are not worth a word.
func Queues(p *fit.Plan) []Queue {
	const worthAWord = 0.5
	byThing := map[string]*Queue{}
	for _, g := range p.Groups {
		waiting := map[string]bool{}
		for _, s := range g.Steps {
			h := s.Held
			if h.Minutes < worthAWord || !h.InQueue() {
				continue
			}
			q := byThing[h.For]
			if q == nil {
				q = &Queue{For: h.For, From: math.Inf(1)}
				byThing[h.For] = q
			}
			q.Longest = max(q.Longest, h.Minutes)
			q.From = min(q.From, h.Until-h.Minutes)
			if !waiting[h.For] {
				waiting[h.For] = true
				q.Benches++
			}
		}
	}
	var out []Queue
	for _, q := range byThing {
		out = append(out, *q)
	}
	slices.SortFunc(out, func(a, b Queue) int { return cmp.Or(cmp.Compare(b.Longest, a.Longest), cmp.Compare(a.For, b.For)) })
	return out
}

// Verdicts judges the plan and the amounts of the lesson: those of each size
// of bench.
func (l Lesson) Verdicts(f fit.Lesson, p *fit.Plan, sizes []Size) []Verdict {
	out := []Verdict{l.time(f, p)}
	if len(p.Groups) > 0 {
		out = append(out, l.chance(p), l.queue(f, p))
	}
	if MostlyGuessed(l.Guessed()) {
		for i := range out {
			if out[i].Light == Good {
				out[i].Light = Look
				out[i].Says += " As far as guessed minutes can tell."
			}
		}
	}
	return append(out, l.measurable(sizes), l.benches(f, p))
}

// Minutes prints minutes as a teacher says them: whole ones where there are
// many, halves where it is close.
func Minutes(m float64) string {
	if m < 10 {
		m = math.Round(m*2) / 2
		if m != math.Trunc(m) {
			if m < 1 {
				return "½ min"
			}
			return fmt.Sprintf("%d½ min", int(m))
		}
		return fmt.Sprintf("%d min", int(m))
	}
	return fmt.Sprintf("%d min", int(math.Round(m)))
}

// NoPlan stands in the place of the largest figure where there is no plan.
const NoPlan = "can’t be planned"

// Left is the largest figure on a lesson: the minutes that are left over after
// everything is done, or missing.
func Left(p *fit.Plan) string {
	switch {
	case p.Conflicts != nil:
		return NoPlan
	case !p.Fits:
		return Minutes(max(p.Overrun, 0.5)) + " missing"
	default:
		return Minutes(p.Slack) + " left"
	}
}

// tight is how many minutes left are worth a look.
const tight = 3

func (l Lesson) time(f fit.Lesson, p *fit.Plan) Verdict {
	v := Verdict{About: "time", Light: Good}
	if p.Conflicts != nil {
		v.Light, v.Head, v.Says = Stop, "No plan", p.Conflicts[0].Says+"."
		return v
	}
	v.Head = "Done by " + f.At(p.Finish)
	v.Says = fmt.Sprintf("%s begins at %s.", words.Capital(deadlineName(f)), f.At(p.Deadline))
	if deadlineName(f) == bell {
		v.Says = fmt.Sprintf("The bell is at %s.", l.End)
	}
	if p.WaitsUntil > p.Deadline {
		v.Says += fmt.Sprintf(" What bakes may go on until %s.", f.At(p.WaitsUntil))
	}
	switch {
	case !p.Fits:
		v.Light = Stop
		v.Says += " " + l.heldUp(f, p)
	case p.Slack < tight:
		v.Light = Look
		v.Says += " That is tight."
	}
	return v
}

const bell = "the bell"

// deadlineName is what the benches must be done for.
func deadlineName(f fit.Lesson) string {
	for _, s := range f.Spans() {
		if s.Place == fit.AtEnd {
			return s.Name
		}
	}
	return bell
}

// heldUp says what makes the lesson too long: a queue, or the steps of one
// bench even if nobody else were there.
func (l Lesson) heldUp(f fit.Lesson, p *fit.Plan) string {
	for _, link := range p.Chain {
		if link.After == "pin" {
			return fmt.Sprintf("You have put “%s” at %s, and all that follows waits for it.", f.StepTitle(link.Dish, link.Step), f.At(link.Start))
		}
	}
	const least = 1 // minutes of queue that count as a reason
	if q := Queues(p); len(q) > 0 && q[0].Longest >= least {
		return fmt.Sprintf("%s up to %s for %s.", waits(q[0].Benches), Minutes(q[0].Longest), Thing(q[0].For))
	}
	g := slices.MaxFunc(p.Groups, func(a, b fit.GroupPlan) int { return cmp.Compare(a.Finish, b.Finish) })
	opening := 0.0
	for _, s := range f.Spans() {
		if s.Place == fit.AtStart {
			opening = max(opening, s.To)
		}
	}
	return fmt.Sprintf("Nobody queues: one bench alone takes %s, and the phases leave %s.",
		Minutes(g.Finish-opening), Minutes(p.Deadline-opening))
}

func waits(benches int) string {
	if benches == 1 {
		return "1 bench waits"
	}
	return fmt.Sprintf("%d benches wait", benches)
}

// Thing names what is waited for.
func Thing(id string) string {
	switch id {
	case "adults":
		return "an adult"
	case "oven":
		return "an oven"
	default:
		return "a " + id
	}
}

// Guessed returns how many minutes of the dishes on the menu nobody has said or
// recorded, and how many there are in all.
func (l Lesson) Guessed() (guessed, all float64) {
	for _, c := range l.Menu {
		g, a := c.Recipe.GuessedMinutes()
		guessed, all = guessed+g, all+a
	}
	return guessed, all
}

// Typical reports whether the minutes of work, and of waiting, of a step of the
// plan's file are only typical.
func (l Lesson) Typical(f fit.Lesson, dish, step string) (work, wait bool) {
	i := slices.IndexFunc(f.Dishes, func(d fit.Dish) bool { return d.ID == dish })
	if i < 0 {
		return false, false
	}
	course := l.CourseOf(f.Dishes[i].Of)
	if course < 0 {
		return false, false
	}
	steps := l.Menu[course].Recipe.Steps
	at := slices.IndexFunc(steps, func(s recipe.Step) bool { return s.ID == step })
	if at < 0 {
		return false, false
	}
	return steps[at].WorkFrom == recipe.Typical, steps[at].WaitFrom == recipe.Typical
}

// GuessesSay says how much of a lesson stands on guesses.
func GuessesSay(guessed, all float64) string {
	return fmt.Sprintf("%.0f of %.0f minutes are guesses: the first time you teach it, write down what they take.", guessed, all)
}

// MostlyGuessed reports whether so many of the minutes are guesses that nothing
// that stands on them is called good.
func MostlyGuessed(guessed, all float64) bool { return guessed > mostGuessed*all }

// mostGuessed is the share of minutes that may be guesses in a verdict that is
// called good.
const mostGuessed = 1.0 / 3

func atLeast(b fit.Benches) string {
	switch b.AtLeast8In10 {
	case b.All:
		return "all of them"
	case 0:
		return "perhaps none of them"
	}
	return fmt.Sprintf("at least %d", b.AtLeast8In10)
}

func (l Lesson) chance(p *fit.Plan) Verdict {
	b := p.Risk.Benches
	v := Verdict{About: "chance", Light: Stop, Head: b.Figure()}
	needs := "All"
	switch {
	case b.All == 1:
		v.Says, needs = "times the bench is done in time.", "It"
	case math.Round(b.Mean) == float64(b.All):
		v.Head, v.Says = fmt.Sprintf("All %d", b.All), fmt.Sprintf("benches are done in time; in 8 of 10 lessons %s.", atLeast(b))
	default:
		v.Says = fmt.Sprintf("about so many benches are done in time; in 8 of 10 lessons %s.", atLeast(b))
	}
	if p.Risk.More > 0.5 {
		v.Says += fmt.Sprintf(" %s would take %s more.", needs, Minutes(math.Ceil(p.Risk.More)))
	}
	switch {
	case b.Sure():
		v.Light = Good
	case b.Half():
		v.Light = Look
	}
	if guessed, all := l.Guessed(); guessed >= 1 {
		v.Says += " " + GuessesSay(guessed, all)
	}
	return v
}

func (l Lesson) queue(f fit.Lesson, p *fit.Plan) Verdict {
	q := Queues(p)
	if len(q) == 0 {
		return Verdict{About: "queue", Light: Good, Head: "No queue", Says: "No bench waits for an oven, a ring or an adult."}
	}
	v := Verdict{About: "queue", Light: Look, Head: fmt.Sprintf("%d in a queue", q[0].Benches),
		Says: fmt.Sprintf("%s up to %s for %s, from %s.", waits(q[0].Benches), Minutes(q[0].Longest), Thing(q[0].For), f.At(q[0].From))}
	return v
}

// uneven is the share of the busiest cook's work below which another of the
// group has too little; typical.
const uneven = 2.0 / 3

// idle says who has too little to do, and what to do about it: a cook of a
// group in which another does most, or else everybody while they wait. It
// counts the first kind.
func idle(f fit.Lesson, p *fit.Plan) (few int, says string) {
	apart := func(i fit.Idle) bool { return i.Work < uneven*i.Busiest }
	for _, i := range p.Idle {
		if apart(i) {
			few++
		}
	}
	longest, most := 0.0, 0
	for _, i := range p.Idle {
		if few == 0 || apart(i) {
			g, _ := f.Group(i.Group)
			longest, most = max(longest, i.Minutes), max(most, g.Cooks)
		}
	}
	switch {
	case len(p.Idle) == 0:
		return 0, ""
	case few == 0:
		return 0, fmt.Sprintf(" Up to %s without work: wash up, or make a second part.", Minutes(longest))
	}
	return few, fmt.Sprintf(" Up to %s without work. %s", Minutes(longest), occupation(f, p, most))
}

// occupation is what gives idle cooks something to do, by the size of the
// largest group in which one is idle.
func occupation(f fit.Lesson, p *fit.Plan, cooks int) string {
	const pair = 2
	if cooks > pair {
		return "Pairs would each have more to do, or give the others a part of their own."
	}
	var long fit.Step // the longest cutting that only one of them does
	for _, g := range p.Groups {
		for _, sp := range g.Steps {
			if s, _ := f.Step(sp.Dish, sp.Step); rescue.Shares(s) && long.Work.Less(s.Work) {
				long = s
			}
		}
	}
	if long.ID != "" {
		return "Share “" + long.Label() + "”, or wash up meanwhile."
	}
	return "Give them a second part to make, or let them wash up meanwhile."
}

// measurable counts the amounts, each once whatever the sizes of benches, and
// those that no size of bench can measure well enough.
func (l Lesson) measurable(sizes []Size) Verdict {
	type line struct {
		course int
		says   string
	}
	var lines []line
	var bad []string
	worse := map[line]bool{}
	for _, size := range sizes {
		own := l.Menu[size.Course].Recipe.Ingredients
		for i, a := range size.Amounts {
			at := line{size.Course, a.Line.Part + "\n" + a.Line.Name}
			if n := size.Lines[i]; n < len(own) {
				at.says = strconv.Itoa(n)
			}
			if !slices.Contains(lines, at) {
				lines = append(lines, at)
			}
			if !a.Measurable() && !worse[at] {
				worse[at] = true
				bad = append(bad, a.Name())
			}
		}
	}
	count := len(lines)
	v := Verdict{About: "amounts", Light: Good, Head: fmt.Sprintf("%d of %d", count-len(bad), count),
		Says: "amounts can be measured well enough with what is in this room."}
	if len(bad) > 0 {
		v.Light = Look
		v.Says = fmt.Sprintf("amounts can be measured well enough. Not so: %s.", strings.Join(bad, ", "))
	}
	return v
}

func (l Lesson) benches(f fit.Lesson, p *fit.Plan) Verdict {
	benches := l.Benches()
	used := map[int]bool{}
	for _, b := range benches {
		used[b.Number] = true
	}
	few, says := idle(f, p)
	v := Verdict{About: "benches", Light: Good, Head: words.Plural(len(benches), "group", "groups"),
		Says: fmt.Sprintf("%s, at %d of the %d benches.%s", l.Grouping(), len(used), l.Room.Benches, says)}
	if few > 0 {
		v.Light, v.Head = Look, words.Plural(few, "cook idle", "cooks idle")
	}
	return v
}

// SafetyVerdict judges the safety sheet in its state, "open", "stale" or
// "signed", where the lesson is not safe for so many learners.
func SafetyVerdict(state string, unsafe int) Verdict {
	out := Verdict{About: "safety", Light: Good, Head: "Signed", Says: "the safety sheet is signed and as it was."}
	switch state {
	case "open":
		out.Light, out.Head, out.Says = Look, "Not signed", "the safety sheet waits for a name."
	case "stale":
		out.Light, out.Head, out.Says = Stop, "Out of date", "something has changed since the safety sheet was signed."
	}
	if unsafe > 0 {
		out.Light, out.Head, out.Says = Stop, fmt.Sprintf("Not safe for %d", unsafe), "what their bench makes is not for them. "+words.Capital(out.Says)
	}
	return out
}
