// Package judge is the assessed tasks: the brief and what learners choose, their time
// plans, what is seen while they cook, the marks of two who don't see each other's, and
// the results. It is also the tasting and the looking back of daily lessons.
package judge

import (
	"context"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Task is an assessed task with what it is read as, for whoever acts.
type Task struct {
	store.Task
	View   *lessons.View
	Brief  assess.Brief
	Scheme assess.Scheme
	Mine   bool // the class belongs to whoever acts
	Marks  bool // whoever acts is one of those who mark
}

// Learners are those of the task's class, by name.
func (t *Task) Learners() []class.Learner { return t.View.Class.Roster }

// Learner returns one of the class, and whether there is one of an id.
func (t *Task) Learner(id int64) (class.Learner, bool) {
	at := slices.IndexFunc(t.Learners(), func(l class.Learner) bool { return l.ID == id })
	if at < 0 {
		return class.Learner{}, false
	}
	return t.Learners()[at], true
}

// Open returns a task that whoever acts may see: of their own class, or one that names
// them to mark it. It returns ErrNotYours of the school where it is neither.
func Open(ctx context.Context, id int64) (*Task, error) {
	t, err := school.In(ctx).Task(ctx, id)
	if err != nil {
		return nil, err
	}
	out, err := read(ctx, t)
	if err != nil {
		return nil, err
	}
	if !out.Mine && !out.Marks {
		return nil, school.ErrNotYours
	}
	return out, nil
}

// own is Open for what only those of the class may change.
func own(ctx context.Context, id int64) (*Task, error) {
	t, err := Open(ctx, id)
	if err == nil && !t.Mine {
		err = school.ErrNotYours
	}
	return t, err
}

func read(ctx context.Context, t store.Task) (*Task, error) {
	v, err := lessons.One(ctx, t.Lesson)
	if err != nil {
		return nil, err
	}
	out := &Task{Task: t, View: v, Marks: slices.Contains(t.Markers, school.Acting(ctx).ID)}
	if out.Mine, err = school.Mine(ctx, v.Class.ID); err != nil {
		return nil, err
	}
	out.Mine = out.Mine && school.May(ctx, staff.Teach)
	// What was kept could be read when it was: what can't be any more is left out.
	out.Brief, _ = assess.ReadBrief(t.Brief, school.In(ctx).Location, saidOf(t))
	out.Scheme, _ = schemeOf(t)
	return out, nil
}

// saidOf is what a task says that dishes are.
func saidOf(t store.Task) []string {
	var out []string
	for _, text := range t.Tags {
		if d, err := assess.ReadTags(text); err == nil {
			out = append(out, d.Tags...)
		}
	}
	return out
}

// A Row is a task in a list.
type Row struct {
	store.Task
	Lesson store.Lesson
	Shut   bool
}

// All returns the tasks that whoever acts may see, the last first.
func All(ctx context.Context) ([]Row, error) {
	in := school.In(ctx)
	list, err := in.Tasks(ctx)
	if err != nil {
		return nil, err
	}
	mine, err := in.ClassesOf(ctx, school.Acting(ctx).ID)
	if err != nil {
		return nil, err
	}
	var out []Row
	for _, t := range list {
		l, err := in.Lesson(ctx, t.Lesson)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(t.Markers, school.Acting(ctx).ID) && !slices.Contains(mine, l.Class.ID) {
			continue
		}
		records, err := in.Records(ctx, store.AboutTask(t.ID))
		if err != nil {
			return nil, err
		}
		_, shut := assess.Sheets(assess.Scheme{}, recordsOf(records))
		out = append(out, Row{t, l, shut})
	}
	return out, nil
}

// codeLength of a task: who knows it sees the given names of a class.
const codeLength = 9

// Usual is how a task begins; typical, to be changed.
var Usual = store.Task{
	Brief:    "3 dishes\n2 accompaniments\n",
	Criteria: "Skills and techniques; 15; 2; seen; 0-5 with help | 6-10 with a prompt | 11-15 alone and with care\nTime plan and order of work; 10; 1; plan; 0-3 the steps in their order | 4-7 with times that can be kept | 8-10 with cleaning up and what goes on side by side\nHygiene and safety; 10; 1; seen; 0-3 when reminded | 4-7 mostly unasked | 8-10 all the time\nTaste, texture and look; 15; 1; product; 0-5 cooked and safe to eat | 6-10 as the recipe says | 11-15 seasoned, even and laid out with care\nQuestions answered; 5; 1; asked; 0-1 what was done | 2-3 and why | 4-5 and what else would work\n",
	OutOf:    "100", Round: string(assess.HalfUp), Boundaries: "A 80\nB 65\nC 50\nD 35\n", Tolerance: "5",
}

// New makes a task of a lesson of one's own class. The same form twice makes one.
func New(ctx context.Context, lesson, title, form string) (int64, error) {
	var f typed.Form
	t := Usual
	t.Title = f.Name("title", "Give the task a title", title)
	id, err := strconv.ParseInt(lesson, 10, 64)
	if err != nil {
		f.Add("lesson", "Choose the practical in which it is done")
	}
	if err := f.Err(); err != nil {
		return 0, err
	}
	in := school.In(ctx)
	l, err := in.Lesson(ctx, id)
	if err != nil {
		return 0, problem.New("lesson", "This lesson is not there any more. Choose another")
	}
	if _, err := school.Own(ctx, l.Class.ID); err != nil {
		return 0, err
	}
	if t.Code, err = school.NewCode(codeLength); err != nil {
		return 0, err
	}
	t.Lesson, t.Markers = id, []int64{school.Acting(ctx).ID}
	return in.CreateTask(ctx, t, form)
}

// A Form is what is asked and how it is marked, as it was typed.
type Form struct {
	Title, Brief, Criteria, OutOf, Round, Boundaries, Tolerance, Questions string
	Markers                                                                []string
}

// FormOf returns a task in the words of the form.
func FormOf(t store.Task) Form {
	f := Form{Title: t.Title, Brief: t.Brief, Criteria: t.Criteria, OutOf: t.OutOf, Round: t.Round, Boundaries: t.Boundaries, Tolerance: t.Tolerance, Questions: strings.Join(t.Questions, "\n")}
	for _, m := range t.Markers {
		f.Markers = append(f.Markers, strconv.FormatInt(m, 10))
	}
	return f
}

// Mosts of a task.
const (
	mostQuestions = 60
	mostMarkers   = 2
	longestText   = 20_000
)

// Save writes what is asked and how it is marked, over a version. Marks that were given
// for a criterion that is there no more do not count.
func Save(ctx context.Context, id int64, version string, in Form) error {
	t, err := own(ctx, id)
	if err != nil {
		return err
	}
	var f typed.Form
	next := t.Task
	next.Title = f.Name("title", "Give the task a title", in.Title)
	next.Brief, next.Criteria, next.Boundaries = in.Brief, in.Criteria, in.Boundaries
	next.OutOf, next.Round, next.Tolerance, next.Questions = strings.TrimSpace(in.OutOf), in.Round, strings.TrimSpace(in.Tolerance), nil
	for _, text := range []string{in.Brief, in.Criteria, in.Boundaries, in.Questions} {
		if utf8.RuneCountInString(text) > longestText {
			f.Add("brief", "It is longer than %d letters", longestText)
		}
	}
	if _, err := assess.ReadBrief(in.Brief, school.In(ctx).Location, saidOf(next)); err != nil {
		f.Problems = append(f.Problems, problem.Of(err)...)
	}
	if _, err := schemeOf(next); err != nil {
		f.Problems = append(f.Problems, problem.Of(err)...)
	}
	for _, q := range strings.Split(in.Questions, "\n") {
		if q = strings.TrimSpace(q); q != "" {
			next.Questions = append(next.Questions, q)
		}
	}
	if len(next.Questions) > mostQuestions {
		f.Add("questions", "There are %d questions, and %d are the most", len(next.Questions), mostQuestions)
	}
	if next.Markers, err = markersOf(ctx, &f, in.Markers); err != nil {
		return err
	}
	if err := f.Err(); err != nil {
		return err
	}
	if next.Version, err = strconv.Atoi(version); err != nil {
		return school.ErrChanged
	}
	return write(ctx, t, next, "changed the task “"+next.Title+"”")
}

// write saves a task and notes it in the trail.
func write(ctx context.Context, was *Task, next store.Task, says string) error {
	return school.In(ctx).InTransaction(ctx, func(tx *store.School) error {
		if err := tx.SaveTask(ctx, next); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "task", Class: was.View.Class.ID, Says: says})
	})
}

// markersOf reads who marks: one or two who may.
func markersOf(ctx context.Context, f *typed.Form, ids []string) ([]int64, error) {
	who, err := Staff(ctx)
	if err != nil {
		return nil, err
	}
	var out []int64
	for _, text := range ids {
		if strings.TrimSpace(text) == "" {
			continue
		}
		id, _ := strconv.ParseInt(text, 10, 64)
		switch {
		case !slices.ContainsFunc(who, func(a store.Account) bool { return a.ID == id }):
			f.Add("markers", "Choose who marks from the list")
		case slices.Contains(out, id):
			f.Add("markers", "Two who mark are two people")
		default:
			out = append(out, id)
		}
	}
	if len(out) == 0 || len(out) > mostMarkers {
		f.Add("markers", "Choose one or two who mark")
	}
	return out, nil
}

// Staff returns those who can mark.
func Staff(ctx context.Context) ([]store.Account, error) {
	all, err := school.In(ctx).Accounts(ctx)
	return slices.DeleteFunc(all, func(a store.Account) bool { return a.Closed || !a.Role.May(staff.Assess) }), err
}

// schemeOf reads how a task is marked.
func schemeOf(t store.Task) (assess.Scheme, error) {
	var problems problem.List
	keep := func(err error) {
		problems = append(problems, problem.Of(err)...)
	}
	s := assess.Scheme{Round: assess.Rounding(t.Round)}
	var err error
	if s.Criteria, err = assess.ReadCriteria(t.Criteria); err != nil {
		keep(err)
	}
	if s.Boundaries, err = assess.ReadBoundaries(t.Boundaries); err != nil {
		keep(err)
	}
	figure := func(path, what, text string) exact.Number {
		n, err := assess.ReadMark(text)
		if err != nil {
			problems.Add(path, "%s: “%s” is no number", what, words.Short(text))
		}
		return n
	}
	s.OutOf, s.Tolerance = figure("out_of", "Out of", t.OutOf), figure("tolerance", "Markers may differ by", t.Tolerance)
	if !slices.Contains(assess.Roundings, s.Round) {
		problems.Add("round", "Choose how totals are rounded")
	}
	if problems == nil {
		for _, p := range problem.Of(s.Check()) {
			path, _, _ := strings.Cut(strings.TrimPrefix(p.Path, "scale."), "[")
			problems.Add(path, "%s %s", words.Capital(strings.ReplaceAll(path, "_", " ")), p.Says)
		}
	}
	return s, problems.Err()
}

// An Entry is what one learner has chosen and written; see the store's.
type Entry = store.Entry

// An EntryDish is a dish of an entry.
type EntryDish = store.EntryDish

// Entries returns what the learners of a task have chosen and written.
func Entries(ctx context.Context, t *Task) (map[int64]Entry, error) {
	return school.In(ctx).Entries(ctx, t.ID)
}

// daysOfPracticals is how far lessons are offered for a task, before and after today.
const daysOfPracticals = 150

// Practicals returns the lessons of one's own classes of which a task can be made, the
// next first.
func Practicals(ctx context.Context) ([]lessons.Lesson, error) {
	in := school.In(ctx)
	mine, err := in.ClassesOf(ctx, school.Acting(ctx).ID)
	if err != nil {
		return nil, err
	}
	all, err := in.LessonsBetween(ctx, in.Today(), in.Today().AddDate(0, 0, daysOfPracticals))
	return slices.DeleteFunc(all, func(l store.Lesson) bool { return !slices.Contains(mine, l.Class.ID) }), err
}

// Plate returns the photograph of what a learner has made.
func Plate(ctx context.Context, t *Task, learner int64) ([]byte, error) {
	return school.In(ctx).Plate(ctx, t.ID, learner)
}

// Plates returns of which learners there is a photograph.
func Plates(ctx context.Context, t *Task) ([]int64, error) {
	return school.In(ctx).Plates(ctx, t.ID)
}

// Names returns the names of those who mark, by their account.
func Names(ctx context.Context, t *Task) (map[int64]string, error) {
	all, err := school.In(ctx).Accounts(ctx)
	out := map[int64]string{}
	for _, a := range all {
		if slices.Contains(t.Markers, a.ID) {
			out[a.ID] = a.Name
		}
	}
	return out, err
}
