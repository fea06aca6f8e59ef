// Package prepare plans what has to be done before lessons: jobs with windows
// counted back from the moment they are needed, the hours of whoever does them,
// and what can't be done in time.
package prepare

import (
	"cmp"
	"fmt"
	"slices"
)

// A Moment is a minute, counted from midnight of a day that the caller chooses.
type Moment int

// DayMinutes are the minutes of a day.
const DayMinutes = 24 * 60

// Kind of a job.
type Kind string

// The kinds, in the order in which they are done when nothing else decides.
const (
	Thaw    Kind = "thaw"
	Soak    Kind = "soak"
	Part    Kind = "part"    // a part of the dish, made before
	Buy     Kind = "buy"     // what no supplier brings
	Fetch   Kind = "fetch"   // from the store
	Weigh   Kind = "weigh"   // for the benches, where that was chosen
	Cut     Kind = "cut"     // ready pieces
	Soften  Kind = "soften"  // butter
	Temper  Kind = "temper"  // eggs, to room temperature
	Chill   Kind = "chill"   // what has to be cold
	Trays   Kind = "trays"   // laid out at the benches
	Things  Kind = "things"  // equipment
	Ovens   Kind = "ovens"   // switched on
	Probes  Kind = "probes"  // handed out
	Back    Kind = "back"    // packed away and counted back
	Towels  Kind = "towels"  // washed
	Overall Kind = "overall" // anything that somebody has added
)

// breaks are the kinds that can be broken off and gone on with.
var breaks = []Kind{Fetch, Trays, Things, Back, Weigh, Cut, Overall}

// Breaks reports whether a job of the kind can be broken off and gone on with.
func (k Kind) Breaks() bool { return slices.Contains(breaks, k) }

// A Job is something to do for a lesson.
type Job struct {
	ID     string // stays while the lesson is moved or planned again
	Kind   Kind
	Lesson int64
	Says   string
	Why    string // where its minutes and its window come from
	Hands  int    // minutes of somebody's hands, over 0
	Wait   int    // minutes after them that need nobody
	From   Moment // it is not begun before
	Due    Moment // hands and wait are over
	Saves  string // the rescue that asked for it; empty where the dish itself does
	Guess  bool   // the minutes are typical: nobody has said them
}

// deadline is when its hands have to be done with it.
func (j Job) deadline() Moment { return j.Due - Moment(j.Wait) }

// A Span is when somebody works, from and until.
type Span struct{ From, Until Moment }

// A Piece is a stretch of work on a job.
type Piece struct {
	Job         int // its place in the list
	From, Until Moment
}

// A Late is a job that can't be done in time.
type Late struct {
	Job     int
	Minutes int // after its due time; Never where no hours are left for it
	Never   bool
	Ways    []Way
}

// A Way is something that would bring a late job home.
type Way struct {
	Says  string
	Saves int // minutes of lateness, over all jobs
	Clean bool
}

// A Day is the plan of somebody's hours.
type Day struct {
	Jobs   []Job
	Pieces []Piece // by time
	Late   []Late
}

// Plan puts the jobs into the hours, each as early as its window lets it: at
// every moment the job is done that has to be over first among those that can
// be begun. Some can be broken off for one that is more urgent; the others are
// begun only where they can be ended within the same hours. Hours before now are
// gone. For what is late it looks for a way out.
func Plan(jobs []Job, hours []Span, now Moment) Day {
	d := Day{Jobs: jobs}
	var ends []end
	d.Pieces, ends = schedule(jobs, hours, now)
	for i, e := range ends {
		if e.late(jobs[i]) > 0 {
			d.Late = append(d.Late, Late{Job: i, Minutes: int(e.at - jobs[i].deadline()), Never: !e.done})
		}
	}
	if d.Late != nil {
		before := lateness(jobs, ends)
		for i := range d.Late {
			d.Late[i].Ways = waysOut(d.Late[i].Job, jobs, hours, now, before)
		}
	}
	return d
}

// An end is when a job is done.
type end struct {
	at   Moment
	done bool
}

// noHours is how late a job counts as that is never done.
const noHours = DayMinutes

func (e end) late(j Job) int {
	if !e.done {
		return noHours
	}
	return max(0, int(e.at-j.deadline()))
}

func lateness(jobs []Job, ends []end) int {
	sum := 0
	for i, e := range ends {
		sum += e.late(jobs[i])
	}
	return sum
}

// schedule does what Plan says, for one pair of hands.
func schedule(jobs []Job, hours []Span, now Moment) ([]Piece, []end) {
	rest := make([]int, len(jobs))
	for i, j := range jobs {
		rest[i] = j.Hands
	}
	ends := make([]end, len(jobs))
	var pieces []Piece
	for _, h := range tidy(hours, now) {
		for at := h.From; at < h.Until; {
			pick := next(jobs, rest, at, h.Until)
			upcoming := h.Until
			for i, j := range jobs {
				if rest[i] > 0 && j.From > at {
					upcoming = min(upcoming, j.From)
				}
			}
			if pick < 0 {
				at = upcoming
				continue
			}
			until := at + Moment(rest[pick])
			if jobs[pick].Kind.Breaks() {
				until = min(until, upcoming)
			}
			pieces = add(pieces, Piece{pick, at, until})
			if rest[pick] -= int(until - at); rest[pick] == 0 {
				ends[pick] = end{until, true}
			}
			at = until
		}
	}
	return pieces, ends
}

// tidy returns the hours from now on, in order and without overlaps.
func tidy(hours []Span, now Moment) []Span {
	hours = slices.Clone(hours)
	slices.SortFunc(hours, func(a, b Span) int { return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(a.Until, b.Until)) })
	var out []Span
	for _, h := range hours {
		h.From = max(h.From, now)
		if n := len(out); n > 0 {
			h.From = max(h.From, out[n-1].Until)
		}
		if h.From < h.Until {
			out = append(out, h)
		}
	}
	return out
}

// next is the job that has to be over first among those that can be begun, and
// ended before the hours are over where they can't be broken off; -1 where there
// is none.
func next(jobs []Job, rest []int, at, until Moment) int {
	pick := -1
	for i, j := range jobs {
		if rest[i] == 0 || j.From > at || !j.Kind.Breaks() && at+Moment(rest[i]) > until {
			continue
		}
		if pick < 0 || j.deadline() < jobs[pick].deadline() {
			pick = i
		}
	}
	return pick
}

// add adds a piece, as one with the last where that is the same job.
func add(pieces []Piece, p Piece) []Piece {
	if n := len(pieces); n > 0 && pieces[n-1].Job == p.Job && pieces[n-1].Until == p.From {
		pieces[n-1].Until = p.Until
		return pieces
	}
	return append(pieces, p)
}

// waysOut tries what could bring a late job home: to do what can be done earlier
// on the day before, to leave out what only a rescue asks for, and a free period
// of somebody else. Those that save nothing are no ways out.
func waysOut(late int, jobs []Job, hours []Span, now Moment, before int) []Way {
	var out []Way
	try := func(says string, jobs []Job, hours []Span) {
		_, ends := schedule(jobs, hours, now)
		if saved := before - lateness(jobs, ends); saved > 0 {
			out = append(out, Way{says, saved, lateness(jobs, ends) == 0})
		}
	}
	job := jobs[late]
	for i, j := range jobs {
		if earlier(j) && (i == late || j.deadline() <= job.deadline()) {
			changed := slices.Clone(jobs)
			changed[i].From -= DayMinutes
			try(fmt.Sprintf("begin “%s” on the day before", j.Says), changed, hours)
		}
		if j.Saves != "" {
			try(fmt.Sprintf("leave out “%s”: %s", j.Saves, j.Says), slices.Delete(slices.Clone(jobs), i, i+1), hours)
		}
	}
	if begin := job.deadline() - Moment(job.Hands); begin >= max(now, job.From) {
		try(fmt.Sprintf("somebody else’s free time, %d min from %s", job.Hands, clockOf(begin)), slices.Delete(slices.Clone(jobs), late, late+1), hours)
	}
	slices.SortStableFunc(out, func(a, b Way) int {
		if a.Clean != b.Clean {
			if a.Clean {
				return -1
			}
			return 1
		}
		return b.Saves - a.Saves
	})
	const best = 3
	return out[:min(len(out), best)]
}

// earlier reports whether a job of this kind does as well a day before.
func earlier(j Job) bool {
	return slices.Contains([]Kind{Fetch, Weigh, Trays, Things, Thaw, Soak, Part}, j.Kind)
}

func clockOf(m Moment) string {
	m = (m%DayMinutes + DayMinutes) % DayMinutes
	return fmt.Sprintf("%02d:%02d", m/60, m%60)
}
