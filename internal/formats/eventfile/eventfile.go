// Package eventfile reads and writes the events of a lesson as JSON lines: an
// object for each event, times in minutes from the planned beginning of the
// period. docs/formats holds the JSON Schema of a line.
package eventfile

import (
	"bufio"
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/lessonfile"
)

// line is an event as it stands in the file.
type line struct {
	ID        string          `json:"id"`
	Seq       int64           `json:"seq,omitempty"`
	At        *float64        `json:"at_min"`
	Said      *float64        `json:"said_min,omitempty"`
	By        string          `json:"by,omitempty"`
	Kind      string          `json:"kind"`
	Bench     string          `json:"bench,omitempty"`
	Dish      string          `json:"dish,omitempty"`
	Step      string          `json:"step,omitempty"`
	Equipment string          `json:"equipment,omitempty"`
	Unit      string          `json:"unit,omitempty"`
	Minutes   float64         `json:"minutes,omitempty"`
	Celsius   float64         `json:"celsius,omitempty"`
	Number    int             `json:"number,omitempty"`
	Learner   int64           `json:"learner,omitempty"`
	Says      string          `json:"says,omitempty"`
	Done      string          `json:"done,omitempty"`
	Of        string          `json:"of,omitempty"`
	Plan      json.RawMessage `json:"plan,omitempty"`
	Changes   []change        `json:"changes,omitempty"`
}

// change is one of a lesson that runs.
type change struct {
	Kind string `json:"kind"`
	Dish string `json:"dish"`
	Step string `json:"step"`
}

// changeKinds are those that a lesson which runs allows.
var changeKinds = []rescue.Kind{rescue.LeaveOut, rescue.Share, rescue.FewerLoads, rescue.FinishAfter, rescue.Smaller}

// maxLine is the longest line that is read: a plan of a large lesson stands in one.
const maxLine = 8 << 20

// mostProblems are said of a file.
const mostProblems = 200

// Read reads events. The error is a problem.List with the line of each thing that is
// wrong, unless the reader itself fails.
func Read(from io.Reader) ([]live.Event, error) {
	scan := bufio.NewScanner(from)
	scan.Buffer(make([]byte, 0, 64<<10), maxLine)
	var out []live.Event
	var problems problem.List
	for n := 1; scan.Scan(); n++ {
		text := bytes.TrimSpace(bytes.TrimPrefix(scan.Bytes(), []byte("\ufeff"))) // which some editors put first
		if len(text) == 0 {
			continue
		}
		e, err := Event(text)
		if err != nil {
			problems.Add(fmt.Sprintf("line %d", n), "%s", err)
			if len(problems) == mostProblems {
				problems.Add("", "the lines after that were not looked at")
				break
			}
			continue
		}
		out = append(out, e)
	}
	if err := scan.Err(); err != nil {
		problems.Add("", "the events can't be read: %s", err)
	}
	return out, problems.Err()
}

// Event reads one line.
func Event(text []byte) (live.Event, error) {
	var l line
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&l); err != nil {
		return live.Event{}, fmt.Errorf("it is no event: %w", err)
	}
	if d.More() {
		return live.Event{}, fmt.Errorf("there is more than one event in it; give each a line of its own")
	}
	bad := func(f *float64) bool { return f != nil && (math.IsNaN(*f) || math.Abs(*f) > 100_000) }
	switch {
	case l.ID == "":
		return live.Event{}, fmt.Errorf("it has no \"id\"")
	case l.At == nil:
		return live.Event{}, fmt.Errorf("it has no \"at_min\", the minute at which it arrived")
	case bad(l.At), bad(l.Said):
		return live.Event{}, fmt.Errorf("its time is out of range")
	case !slices.Contains(live.Kinds, live.Kind(l.Kind)):
		return live.Event{}, fmt.Errorf("its kind %q is none of %s", l.Kind, kinds())
	}
	e := live.Event{ID: l.ID, Seq: l.Seq, At: *l.At, Said: l.Said, By: l.By, Kind: live.Kind(l.Kind), Bench: l.Bench, Dish: l.Dish, Step: l.Step, Equipment: l.Equipment, Unit: l.Unit,
		Minutes: l.Minutes, Celsius: l.Celsius, Number: l.Number, Learner: l.Learner, Says: l.Says, Done: l.Done, Of: l.Of}
	for i, c := range l.Changes {
		if !slices.Contains(changeKinds, rescue.Kind(c.Kind)) {
			return e, fmt.Errorf("its change %d of kind %q can't be made in a lesson that runs", i+1, c.Kind)
		}
		e.Changes = append(e.Changes, rescue.Change{Kind: rescue.Kind(c.Kind), Dish: c.Dish, Step: c.Step})
	}
	if len(l.Plan) > 0 {
		p, err := lessonfile.ReadPlan(bytes.NewReader(l.Plan))
		if err != nil {
			return e, fmt.Errorf("its plan: %w", err)
		}
		e.Plan = p
	}
	return e, nil
}

func kinds() string {
	var out []string
	for _, k := range live.Kinds {
		out = append(out, string(k))
	}
	return strings.Join(out, ", ")
}

// Write writes events, a line each.
func Write(to io.Writer, events []live.Event) error {
	for _, e := range events {
		text, err := Line(e)
		if err != nil {
			return err
		}
		if _, err := to.Write(append(text, '\n')); err != nil {
			return err
		}
	}
	return nil
}

// Line writes one event.
func Line(e live.Event) ([]byte, error) {
	l := line{ID: e.ID, Seq: e.Seq, At: &e.At, Said: e.Said, By: e.By, Kind: string(e.Kind), Bench: e.Bench, Dish: e.Dish, Step: e.Step, Equipment: e.Equipment, Unit: e.Unit,
		Minutes: e.Minutes, Celsius: e.Celsius, Number: e.Number, Learner: e.Learner, Says: e.Says, Done: e.Done, Of: e.Of}
	for _, c := range e.Changes {
		l.Changes = append(l.Changes, change{string(c.Kind), c.Dish, c.Step})
	}
	if e.Plan != nil {
		var b bytes.Buffer
		if err := lessonfile.WritePlan(&b, e.Plan, nil); err != nil {
			return nil, err
		}
		var compact bytes.Buffer
		if err := json.Compact(&compact, b.Bytes()); err != nil {
			return nil, err
		}
		l.Plan = compact.Bytes()
	}
	return json.Marshal(l)
}

// A state is what fold prints.
type state struct {
	Format   string  `json:"format"`
	Version  int     `json:"version"`
	Now      float64 `json:"now_min"`
	Begun    bool    `json:"begun"`
	Closed   bool    `json:"closed"`
	Left     float64 `json:"left_min"`
	Deadline float64 `json:"deadline_min"`
	Phase    string  `json:"phase,omitempty"`
	Benches  []bench `json:"benches"`
	Out      []unit  `json:"out"`
	Sharps   *int    `json:"sharps,omitempty"`
}

type unit struct {
	Equipment string `json:"equipment"`
	Unit      string `json:"unit"`
}

type bench struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Late   float64 `json:"late_min"`
	Known  bool    `json:"known"`
	Finish float64 `json:"finish_min"`
	Help   bool    `json:"help,omitempty"`
	Check  bool    `json:"check,omitempty"`
	Gone   int     `json:"gone,omitempty"`
	Steps  []step  `json:"steps"`
}

type step struct {
	Dish    string  `json:"dish"`
	Step    string  `json:"step"`
	Stage   string  `json:"stage"`
	Start   float64 `json:"start_min"`
	WorkEnd float64 `json:"work_end_min"`
	End     float64 `json:"end_min"`
	Known   bool    `json:"known"`
	Unit    string  `json:"unit,omitempty"`
}

// Stages are the words of the stages.
var Stages = map[live.Stage]string{live.ToCome: "to_come", live.Working: "working", live.Waiting: "waiting", live.Over: "over", live.NotDone: "left_out"}

func round(f float64) float64 { return math.Round(f*100) / 100 }

// WriteState writes a state as JSON.
func WriteState(to io.Writer, s *live.State) error {
	out := state{Format: "fresh-apron/lesson-state", Version: 1, Now: round(s.Now), Begun: s.Begun, Closed: s.Closed, Left: round(s.Left()), Deadline: round(s.Deadline()), Out: []unit{}}
	out.Phase, _ = s.Phase()
	if s.Sharps >= 0 {
		out.Sharps = &s.Sharps
	}
	for _, u := range s.Out {
		out.Out = append(out.Out, unit(u))
	}
	for _, b := range s.Benches {
		x := bench{ID: b.ID, Name: b.Name, Late: round(b.Late), Known: b.Known, Finish: round(b.Finish()), Gone: b.Gone, Steps: []step{}}
		x.Help = slices.ContainsFunc(s.Helps, func(r live.Request) bool { return r.Bench == b.ID })
		x.Check = slices.ContainsFunc(s.Checks, func(r live.Request) bool { return r.Bench == b.ID })
		for _, st := range b.Steps {
			x.Steps = append(x.Steps, step{st.Dish, st.Step, Stages[st.Stage], round(st.Start), round(st.WorkEnd), round(st.End), st.KnownStart || st.KnownEnd, st.Unit})
		}
		out.Benches = append(out.Benches, x)
	}
	e := json.NewEncoder(to)
	e.SetIndent("", "  ")
	return e.Encode(out)
}

// WriteText writes a state as a teacher reads it.
func WriteText(to io.Writer, l fit.Lesson, s *live.State) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s, minute %.1f: ", l.At(s.Now), s.Now)
	switch left := s.Left(); {
	case !s.Begun:
		b.WriteString("the lesson has not begun\n")
	case s.Closed:
		fmt.Fprintf(&b, "the lesson is over, since %s\n", l.At(s.ClosedAt))
	case left < 0:
		fmt.Fprintf(&b, "%.0f min missing\n", math.Ceil(-left))
	default:
		fmt.Fprintf(&b, "%.0f min left\n", math.Floor(left))
	}
	for _, x := range s.Benches {
		now, next := x.Next()
		fmt.Fprintf(&b, "  %-10s", x.Name)
		word := "assumed"
		if x.Known {
			word = "known"
		}
		switch late := math.Round(x.Late); {
		case late > 0:
			fmt.Fprintf(&b, " %.0f min behind (%s)", late, word)
		case late < 0:
			fmt.Fprintf(&b, " %.0f min ahead (%s)", -late, word)
		default:
			fmt.Fprintf(&b, " on time (%s)", word)
		}
		for _, st := range now {
			fmt.Fprintf(&b, "; %s, until %s", st.Title, l.At(st.End))
		}
		if len(now) == 0 && len(next) > 0 {
			fmt.Fprintf(&b, "; next %s at %s", next[0].Title, l.At(next[0].Start))
		}
		if x.Gone > 0 {
			fmt.Fprintf(&b, "; %d gone", x.Gone)
		}
		b.WriteString("\n")
	}
	_, err := io.WriteString(to, b.String())
	return err
}

// Says says what happened, in a sentence without its time.
func Says(l fit.Lesson, e live.Event) string {
	name := e.Bench
	for _, g := range l.Groups {
		if g.ID == e.Bench {
			name = g.Name
		}
	}
	step := e.Step
	if s, ok := l.Step(e.Dish, e.Step); ok {
		step = s.Label()
	}
	switch e.Kind {
	case live.Opened:
		return "The class is in."
	case live.Held:
		return fmt.Sprintf("Held for %.0f min.", e.Minutes)
	case live.Skipped:
		return fmt.Sprintf("%.0f min skipped.", e.Minutes)
	case live.Begun:
		return fmt.Sprintf("%s begins “%s”.", name, step)
	case live.Worked:
		if e.Unit != "" {
			return fmt.Sprintf("%s: “%s” is in %s.", name, step, e.Unit)
		}
		return fmt.Sprintf("%s: “%s” waits.", name, step)
	case live.Ended:
		return fmt.Sprintf("%s has done “%s”.", name, step)
	case live.LeftOut:
		return fmt.Sprintf("%s leaves out “%s”.", name, step)
	case live.Checkpoint:
		return strings.TrimSpace("Checkpoint: " + e.Says)
	case live.Behind:
		return fmt.Sprintf("%s is %.0f min behind.", name, e.Minutes)
	case live.CaughtUp:
		return name + " is where the plan has it."
	case live.Help:
		return name + " asks for help."
	case live.Helped:
		return name + " was helped."
	case live.Check:
		return name + " asks to be checked."
	case live.Checked:
		return strings.TrimSpace(name + " was checked. " + e.Says)
	case live.UnitOut:
		return strings.TrimSpace(e.Unit + " can’t be used. " + e.Says)
	case live.UnitBack:
		return e.Unit + " can be used again."
	case live.AdultOut:
		return fmt.Sprintf("An adult is out for %.0f min.", e.Minutes)
	case live.AdultBack:
		return "An adult is back."
	case live.Temperature:
		return strings.TrimSpace(fmt.Sprintf("%s: %.0f °C. %s", cmp.Or(name, e.Unit), e.Celsius, e.Says))
	case live.Mishap:
		if e.Done == "" {
			return fmt.Sprintf("%s: %s.", name, e.Says)
		}
		return fmt.Sprintf("%s: %s; %s.", name, e.Says, strings.TrimRight(e.Done, ". "))
	case live.Gone:
		return "A learner has left " + name + "."
	case live.Sharps:
		return fmt.Sprintf("%d sharp things counted in.", e.Number)
	case live.Replanned:
		if e.Says != "" {
			return "Decided: " + e.Says + "."
		}
		return "The rest was planned anew."
	case live.Asked:
		return "Asked: " + e.Says
	case live.Measured:
		return fmt.Sprintf("%s has cut %s.", name, e.Says)
	case live.Note:
		if name != "" {
			return fmt.Sprintf("%s: %s.", name, strings.TrimRight(e.Says, ". "))
		}
	case live.Picture:
		return fmt.Sprintf("%s has taken a picture of “%s”.", name, step)
	case live.Closed:
		return "The lesson is over."
	}
	return e.Says
}
