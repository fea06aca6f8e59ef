package live

import (
	"cmp"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
)

// A model is what the screens of those who teach show.
type model struct {
	ID                   int64
	Clock                string
	Minute, Bell         float64 // of the lesson
	BellClock            string
	ToBell               string
	Left, Light, Meaning string
	Phase, PhaseUntil    string
	PhaseMinutes         float64
	Working              bool
	Rehearsal            string
	Over                 bool
	Benches              []benchRow
	Queue                []request
	Timers               []timer
	Next                 *checkpoint
	Should               []string
	Sizes                []string // that pieces were measured to have, the last first
	Out                  []unitRow
	Units                []unitRow
	Adults               bool // somebody is out
	Sharps               string
	Chance               string // of the benches that are done in time, where the best is made of it
	Risky                bool
	Offer                *offer
	Log                  []logRow
	MayTell, MayRun      bool
	Line                 line
	Screens              []screenRow
	Pictures             []pictureRow // the last first
	StillOpen            []string     // when the lesson is over
	CanBell              bool         // the last minutes
}

// mostSizes that were measured stand on the wall.
const mostSizes = 4

type benchRow struct {
	ID, Name    string
	Late        string // "3 min behind"
	Light       string
	Known       bool
	Now, Next   string
	Until       float64
	UntilClock  string
	Help, Check bool
	Gone        int
}

type request struct {
	Bench, Name string
	What        string
	Since       string
	Kind        core.Kind
}

type timer struct {
	Dish, Step  string
	Name, Title string
	Where       string
	Clock       string
	Until       float64
	Over        bool
}

type checkpoint struct{ At, Says string }

type unitRow struct{ Value, Equipment, Unit string }

type offer struct {
	Left  string
	Moves []string
	More  int
}

type logRow struct {
	At, Says, ID string
	Undo         bool
}

type screenRow struct {
	Bench, Name, Code, Href string
	Shut                    bool
	Ways                    []wayRow
}

// A wayRow is a way in which a screen can show things.
type wayRow struct {
	Value, Says string
	On          bool
}

// A pictureRow is a picture that a bench has taken.
type pictureRow struct{ Href, Says string }

func picturesOf(l fit.Lesson, s *core.State, lesson int64) []pictureRow {
	var out []pictureRow
	for _, e := range s.Pictures("") {
		out = append(out, pictureRow{fmt.Sprintf("/lessons/%d/pictures/%s", lesson, e.ID), at(l, e.Time()) + " " + live.Sentence(l, e)})
	}
	return out
}

// stillOpen says what was open when a lesson was closed.
func stillOpen(s *core.State) []string {
	var out []string
	for _, b := range s.StillOpen() {
		var titles []string
		for _, st := range b.Steps {
			titles = append(titles, "“"+st.Title+"”")
		}
		says := words.Names(titles)
		if b.All {
			says = "everything"
		}
		out = append(out, b.Name+": "+says)
	}
	for _, u := range s.Out {
		out = append(out, u.Unit+" can’t be used")
	}
	if s.Sharps < 0 {
		out = append(out, "nobody has counted the sharp things in")
	}
	return out
}

// waySays is how the ways of live.Ways are said.
var waySays = map[string]string{"large": "large", "contrast": "high contrast", "pictures": "pictures first", "aloud": "read aloud"}

// A line is the way from the door to the bell.
type line struct {
	Now    float64 // of 1000
	Marks  []mark
	Phases []band
}

type mark struct {
	X, TX float64
	Clock string
}

type band struct {
	X, W float64
	Name string
}

func at(l fit.Lesson, minute float64) string { return l.At(minute) }

func minutes(f float64) string { return fmt.Sprintf("%.0f min", math.Abs(f)) }

// lateSays says how late a bench is.
func lateSays(late float64) (says, light string) {
	switch n := math.Round(late); {
	case n >= 5:
		return fmt.Sprintf("%.0f min behind", n), "stop"
	case n >= 2:
		return fmt.Sprintf("%.0f min behind", n), "look"
	case n >= 1:
		return "1 min behind", ""
	case n <= -1:
		return fmt.Sprintf("%.0f min ahead", -n), ""
	}
	return "as planned", "good"
}

func modelOf(r *http.Request, run *live.Run) (model, error) {
	ctx := r.Context()
	s, l := run.State, run.Lesson
	bell := l.Minutes().Float()
	m := model{ID: run.Run.Lesson, Clock: at(l, s.Now), Minute: s.Now, Bell: bell, BellClock: l.End.String(), MayTell: school.May(ctx, staff.Prepare), MayRun: school.May(ctx, staff.Teach), Over: s.Closed}
	if run.Rehearsal != nil {
		m.Rehearsal = "a rehearsal"
		if run.Rehearsal.Speed > 1 {
			m.Rehearsal += fmt.Sprintf(" at %.0f times the clock", run.Rehearsal.Speed)
		}
	}
	switch to := bell - s.Now; {
	case to > 0:
		m.ToBell = minutes(math.Ceil(to)) + " to the bell"
	default:
		m.ToBell = "the bell has rung"
	}
	m.CanBell = bell-s.Now <= 15
	switch left := s.Left(); {
	case s.Closed:
		m.Left, m.Meaning = "over", "the lesson is closed"
	case !s.Begun:
		m.Left, m.Meaning = "not begun", "press when the class is in"
	default:
		m.Left, m.Light = leftSays(left)
		if m.Meaning = "after everything is done, as it stands"; left < 0 {
			m.Meaning = "before everything is done, as it stands"
		}
	}
	name, until := s.Phase()
	m.Phase, m.PhaseUntil, m.Working = name, at(l, until), name == ""
	m.PhaseMinutes = math.Max(0, math.Floor(until-s.Now))
	for _, b := range s.Benches {
		m.Benches = append(m.Benches, rowOf(l, s, b))
	}
	m.Queue, m.Timers = queueOf(s), timersOf(l, s)
	next, should := s.Point()
	if next != nil {
		m.Next = &checkpoint{at(l, next.At), next.Says()}
	}
	for _, d := range should {
		m.Should = append(m.Should, d.Title)
	}
	m.Sizes = s.Sizes()
	m.Sizes = m.Sizes[:min(mostSizes, len(m.Sizes))]
	m.Out, m.Units, m.Adults = unitsOf(s), allUnits(l, s), s.Adults > 0
	if s.Sharps >= 0 {
		m.Sharps = fmt.Sprintf("%d sharp things are counted in.", s.Sharps)
	}
	if s.Closed {
		m.StillOpen = stillOpen(s)
	}
	m.Log, m.Pictures = logOf(l, s), picturesOf(l, s, m.ID)
	m.Line = lineOf(l, s)
	if s.Begun && !s.Closed && m.MayRun {
		m.Risky = s.Left() < 0
		if o := live.Offered(ctx, run); o != nil {
			m.Offer, m.Chance = offerOf(l, s, o), "likely "+o.Done.Says("bench", "benches")
			m.Risky = m.Risky || !o.Done.Sure()
		}
	}
	if !m.MayRun {
		return m, nil
	}
	screens, err := live.Screens(ctx, run.ID)
	for _, b := range s.Benches {
		if k, ok := screens[b.ID]; ok {
			row := screenRow{b.ID, b.Name, k.Code, "/bench/" + k.Code, k.Shut, nil}
			for _, w := range live.Ways {
				row.Ways = append(row.Ways, wayRow{w, waySays[w], slices.Contains(k.Ways, w)})
			}
			m.Screens = append(m.Screens, row)
		}
	}
	return m, err
}

func rowOf(l fit.Lesson, s *core.State, b core.Bench) benchRow {
	row := benchRow{ID: b.ID, Name: b.Name, Known: b.Known, Gone: b.Gone}
	row.Late, row.Light = lateSays(b.Late)
	now, next := b.Next()
	var titles []string
	for _, st := range now {
		titles = append(titles, st.Title)
		end := st.WorkEnd
		if st.Stage == core.Waiting {
			end = st.End
		}
		if row.Until == 0 || end < row.Until {
			row.Until, row.UntilClock = end, at(l, end)
		}
	}
	row.Now = strings.Join(titles, ", ")
	if len(next) > 0 {
		row.Next = next[0].Title + ", " + at(l, next[0].Start)
	}
	row.Help = slices.ContainsFunc(s.Helps, func(q core.Request) bool { return q.Bench == b.ID })
	row.Check = slices.ContainsFunc(s.Checks, func(q core.Request) bool { return q.Bench == b.ID })
	return row
}

// queueOf are the benches that wait for somebody.
func queueOf(s *core.State) []request {
	var out []request
	for _, q := range s.Queue() {
		what := "help"
		if q.Kind == core.Checked {
			what = "look at " + cmp.Or(q.Says, "it")
		}
		out = append(out, request{q.Bench, nameOf(s, q.Bench), what, minutes(math.Floor(s.Now - q.Since)), q.Kind})
	}
	return out
}

func nameOf(s *core.State, bench string) string {
	for _, b := range s.Benches {
		if b.ID == bench {
			return b.Name
		}
	}
	return bench
}

const mostTimers = 6

func timerOf(l fit.Lesson, t core.Timer) timer {
	return timer{Name: t.Name, Title: t.Step.Title, Where: t.Step.Unit, Clock: at(l, t.Until), Until: t.Until, Over: t.Over, Dish: t.Step.Dish, Step: t.Step.Step}
}

func timersOf(l fit.Lesson, s *core.State) []timer {
	var out []timer
	for _, t := range s.Timers() {
		if out = append(out, timerOf(l, t)); len(out) == mostTimers {
			break
		}
	}
	return out
}

func unitsOf(s *core.State) []unitRow {
	var out []unitRow
	for _, u := range s.Out {
		out = append(out, unitRow{u.Equipment + "/" + u.Unit, u.Equipment, u.Unit})
	}
	return out
}

func allUnits(l fit.Lesson, s *core.State) []unitRow {
	var out []unitRow
	for _, e := range l.Equipment {
		if e.PerStation {
			continue
		}
		for _, u := range e.Units {
			if !slices.Contains(s.Out, fit.UnitPlan{Equipment: e.ID, Unit: u.Name}) {
				out = append(out, unitRow{e.ID + "/" + u.Name, e.ID, u.Name})
			}
		}
	}
	return out
}

const (
	mostMoves = 3
	mostLog   = 8
)

func offerOf(l fit.Lesson, s *core.State, o *live.Offer) *offer {
	if !s.Better(o.Plan) {
		return nil
	}
	out := &offer{}
	out.Left, _ = leftSays(o.Left)
	for i, mv := range o.Moves {
		if i == mostMoves {
			out.More = len(o.Moves) - mostMoves
			break
		}
		says := fmt.Sprintf("%s: “%s” at %s", mv.Name, mv.Step.Title, at(l, mv.Start))
		if mv.Unit != "" {
			says += ", in " + mv.Unit
		}
		out.Moves = append(out.Moves, says)
	}
	return out
}

func logOf(l fit.Lesson, s *core.State) []logRow {
	var out []logRow
	for _, e := range slices.Backward(s.Log) {
		_, err := uuid.Parse(e.ID)
		out = append(out, logRow{at(l, e.Time()), live.Sentence(l, e), e.ID, err == nil})
		if len(out) == mostLog {
			break
		}
	}
	return out
}

const lineWidth = 1000

func lineOf(l fit.Lesson, s *core.State) line {
	bell := l.Minutes().Float()
	x := func(minute float64) float64 { return math.Round(lineWidth * min(1, max(0, minute/bell))) }
	out := line{Now: x(s.Now)}
	for _, sp := range l.Spans() {
		from, to := sp.From, sp.To
		if sp.Place == fit.AtStart {
			from, to = from+s.Shift, to+s.Shift
		}
		out.Phases = append(out.Phases, band{x(from), max(0, x(to)-x(from)), sp.Name})
	}
	for _, c := range s.Points() {
		out.Marks = append(out.Marks, mark{x(c.At), min(lineWidth-30, max(30, x(c.At))), l.At(c.At)})
	}
	return out
}
