package assess

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/core/exact"
)

// What a record of a task is of.
type RecordKind string

// The kinds of records. They are only added to.
const (
	OnPlan   RecordKind = "on plan" // a learner was seen to be where their plan has them
	IsBehind RecordKind = "behind"
	Other    RecordKind = "not as planned"
	Noted    RecordKind = "note"
	Question RecordKind = "question" // Says was asked; Done is how it was answered
	Hygiene  RecordKind = "hygiene"
	Safety   RecordKind = "safety"
	Marked   RecordKind = "mark"   // Criterion has Done; empty takes it back
	Ready    RecordKind = "ready"  // the marker is done with the learner
	Agreed   RecordKind = "agreed" // the total is Done, because of Says
	Shut     RecordKind = "closed"
	Reopened RecordKind = "reopened" // because of Says
)

// Walked are the kinds that are pressed while walking round.
var Walked = []RecordKind{OnPlan, IsBehind, Other, Noted, Question, Hygiene, Safety}

// A Record of a task, as it was made. It is never changed.
type Record struct {
	ID        string // of the press
	At        time.Time
	Marker    int64 // account
	Who       string
	Learner   int64 // 0 is everybody
	Kind      RecordKind
	Criterion string
	Says      string
	Done      string
}

// A Sheet is what is known of one learner in a task.
type Sheet struct {
	Walk   []Record        // what was seen and asked, in the order of time
	Marks  map[int64]Marks // by marker
	Ready  map[int64]bool  // markers who are done
	Agreed *Record         // the last agreement
	Pupil  int64
}

// Sheets lays records out by learner; shut says whether the task is closed. Marks that
// the scheme does not know any more are left out.
func Sheets(s Scheme, list []Record) (sheets map[int64]*Sheet, shut bool) {
	sheets = map[int64]*Sheet{}
	of := func(learner int64) *Sheet {
		x := sheets[learner]
		if x == nil {
			x = &Sheet{Marks: map[int64]Marks{}, Ready: map[int64]bool{}, Pupil: learner}
			sheets[learner] = x
		}
		return x
	}
	for _, r := range list {
		switch x := of(r.Learner); r.Kind {
		case Marked:
			if x.Marks[r.Marker] == nil {
				x.Marks[r.Marker] = Marks{}
			}
			n, err := s.Mark(r.Criterion, r.Done)
			if delete(x.Marks[r.Marker], r.Criterion); err == nil {
				x.Marks[r.Marker][r.Criterion] = n
			}
		case Ready:
			x.Ready[r.Marker] = r.Done != "not"
		case Agreed:
			x.Agreed = &r
		case Shut, Reopened:
			shut = r.Kind == Shut
		default:
			x.Walk = append(x.Walk, r)
		}
	}
	delete(sheets, 0)
	return sheets, shut
}

// Mark reads a mark for a criterion of the scheme.
func (s Scheme) Mark(criterion, text string) (exact.Number, error) {
	at := slices.IndexFunc(s.Criteria, func(c Criterion) bool { return c.ID == criterion })
	if at < 0 {
		return exact.Number{}, strconv.ErrSyntax
	}
	return s.Criteria[at].Mark(text)
}

// Open reports whether a marker may see the marks of the others: when all who mark are
// done; never where nobody marks. Nobody else's marks are shown before.
func (x *Sheet) Open(markers []int64) bool {
	return len(markers) > 0 && !slices.ContainsFunc(markers, func(m int64) bool { return !x.Ready[m] })
}

// An Outcome is the result of a learner.
type Outcome struct {
	By     map[int64]Result // of each marker
	Final  *exact.Number    // the rounded total that counts; nil while there is none
	Grade  string
	Talk   bool   // the markers have to talk about it
	Reason string // of what was agreed
}

// Outcome says what comes of a sheet: what was agreed, else the one marker's total, else
// that of both where they are the same. Where they differ people have to agree; where it
// is beyond the tolerance or over a boundary, they are told to talk.
func (s Scheme) Outcome(x *Sheet, markers []int64) Outcome {
	out := Outcome{By: map[int64]Result{}}
	all := x.Open(markers)
	for _, m := range markers {
		out.By[m] = s.Of(x.Marks[m])
		all = all && out.By[m].Total != nil
	}
	switch {
	case x.Agreed != nil:
		if n, err := ReadMark(x.Agreed.Done); err == nil {
			n = s.rounded(n)
			out.Final, out.Grade, out.Reason = &n, s.grade(n), x.Agreed.Says
		}
	case !all:
	default:
		first := out.By[markers[0]]
		same := true
		for _, m := range markers[1:] {
			r := out.By[m]
			same = same && r.Rounded.Cmp(first.Rounded) == 0
			out.Talk = out.Talk || s.Tolerance.Less(r.Rounded.Sub(first.Rounded).Abs()) || r.Grade != first.Grade
		}
		if same {
			n := first.Rounded
			out.Final, out.Grade = &n, first.Grade
		}
	}
	return out
}

// grade is that of a rounded total; empty below the lowest boundary.
func (s Scheme) grade(n exact.Number) string {
	for _, b := range s.Boundaries {
		if b.From.Cmp(n) <= 0 {
			return b.Grade
		}
	}
	return ""
}

// Feedback says in plain words what went well and what comes next: the criteria of which
// a learner has the most and the least of what there was, with the level in words that is
// the next above theirs, of the mean of the markers.
func (s Scheme) Feedback(x *Sheet, markers []int64) (well, next []string) {
	type share struct {
		c    Criterion
		mark exact.Number
		of   float64
	}
	var list []share
	for _, c := range s.Criteria {
		sum, n := exact.Number{}, int64(0)
		for _, m := range markers {
			if mark, ok := x.Marks[m][c.ID]; ok {
				sum, n = sum.Add(mark), n+1
			}
		}
		if n > 0 {
			mean := sum.Div(exact.Int(n))
			list = append(list, share{c, mean, mean.Div(c.Most).Float()})
		}
	}
	slices.SortStableFunc(list, func(a, b share) int { return cmp.Compare(b.of, a.of) })
	const few, good = 2, 0.6
	for i, l := range list {
		name := cmp.Or(l.c.Name, l.c.ID)
		if i < few && l.of >= good {
			well = append(well, name)
		}
		if i >= len(list)-few && l.of < 1 && !slices.Contains(well, name) {
			if above := l.c.levelAbove(l.mark); above != "" {
				name += ": next, " + above
			}
			next = append(next, name)
		}
	}
	return well, next
}

// levelAbove is the level in words that begins above a mark; empty where none does.
func (c Criterion) levelAbove(mark exact.Number) string {
	for _, l := range c.Levels {
		figures, says, ok := strings.Cut(l, " ")
		from, _, _ := strings.Cut(figures, "-")
		if n, err := ReadMark(from); ok && err == nil && mark.Less(n) {
			return says
		}
	}
	return ""
}
