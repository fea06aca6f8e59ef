package preparing

import (
	"cmp"
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/typed"
	"freshapron/internal/formats/calendar"
	"freshapron/internal/store"
)

// A Worker is somebody who prepares.
type Worker struct {
	ID    int64
	Name  string
	Hours []store.Hours
}

// A Day is what there is to do on a day, for one person.
type Day struct {
	Date    time.Time
	Who     Worker // without an id where nobody has hours
	Others  []Worker
	Plan    prepare.Day
	Lessons map[int64]Lesson
	Done    []prepare.Job // that are ticked
	Ticks   Ticks
	Clashes []prepare.Clash
	Now     prepare.Moment
}

// Moments of the plan are counted from midnight of its day.
func (d *Day) momentOf(date time.Time, at clock.Time) prepare.Moment {
	return prepare.Moment(int(date.Sub(d.Date).Hours())/24*prepare.DayMinutes + int(at))
}

// jobDays is how many days after today have lessons for which something has to be
// done today: thawing takes longest.
const jobDays = 4

type jobsKey string

// jobsOf returns the jobs of a lesson with what was decided about them. Moments
// are counted from midnight of a day.
func jobsOf(s *school.School, l Lesson, from time.Time, edits map[string]prepare.Edit) []prepare.Job {
	if l.Problems != nil {
		return nil
	}
	kept := school.Keep[jobsKey, []prepare.Job](s.Site, keptTakes)
	key := jobsKey(homeKey(l.View, l.Home))
	jobs, ok := kept.Get(key)
	if !ok {
		jobs = prepare.Jobs(prepare.Lesson{ID: l.ID, Says: l.Class.Name, Start: prepare.Moment(l.Period.Start), End: prepare.Moment(l.Period.End),
			Core: l.Core, Takes: l.Takes, Ovens: lesson.Ovens(l.Fit, l.Plan)})
		kept.Add(key, jobs)
	}
	jobs = slices.Clone(jobs)
	day := prepare.Moment(int(l.View.Date.Sub(from).Hours()) / 24 * prepare.DayMinutes)
	for i := range jobs {
		jobs[i].From, jobs[i].Due = jobs[i].From+day, jobs[i].Due+day
	}
	return prepare.Edited(jobs, edits)
}

// Workers returns everybody with their hours, technicians before assistants and
// these before teachers.
func Workers(ctx context.Context) ([]Worker, error) {
	s := school.In(ctx)
	hours, err := s.Hours(ctx)
	if err != nil {
		return nil, err
	}
	people, err := s.Accounts(ctx)
	if err != nil {
		return nil, err
	}
	var out []Worker
	ranks := []staff.Role{staff.Technician, staff.Assistant, staff.Teacher, staff.Head}
	slices.SortStableFunc(people, func(a, b store.Account) int {
		return cmp.Compare(slices.Index(ranks, a.Role), slices.Index(ranks, b.Role))
	})
	for _, p := range people {
		if !p.Role.May(staff.Prepare) {
			continue // from outside
		}
		w := Worker{ID: p.ID, Name: p.Name}
		for _, h := range hours {
			if h.Account == p.ID {
				w.Hours = append(w.Hours, h)
			}
		}
		out = append(out, w)
	}
	return out, nil
}

// spans are somebody's hours on the days from one day before to some after.
func (d *Day) spans(w Worker) []prepare.Span {
	var out []prepare.Span
	for n := -1; n <= jobDays; n++ {
		weekday := (int(d.Date.AddDate(0, 0, n).Weekday()) + 6) % 7
		for _, h := range w.Hours {
			if h.Weekday == weekday {
				at := prepare.Moment(n * prepare.DayMinutes)
				out = append(out, prepare.Span{From: at + prepare.Moment(h.First), Until: at + prepare.Moment(h.Last)})
			}
		}
	}
	return out
}

// DayOf plans a day for somebody; who is 0 for whoever prepares most.
func DayOf(ctx context.Context, date time.Time, who int64) (*Day, error) {
	s := school.In(ctx)
	st, err := Load(ctx, date)
	if err != nil {
		return nil, err
	}
	all, err := Workers(ctx)
	if err != nil {
		return nil, err
	}
	d := &Day{Date: date, Lessons: map[int64]Lesson{}}
	for _, w := range all {
		if w.ID == who || who == 0 && d.Who.ID == 0 && w.Hours != nil {
			d.Who = w
		}
	}
	if who != 0 && d.Who.ID == 0 {
		return nil, school.ErrNotFound
	}
	for _, w := range all {
		if w.ID != d.Who.ID {
			d.Others = append(d.Others, w)
		}
	}
	var ids []int64
	var lists []string
	for _, l := range st.Lessons {
		if until := date.AddDate(0, 0, jobDays); !l.View.Date.Before(date) && !l.View.Date.After(until) {
			d.Lessons[l.ID] = l
			ids = append(ids, l.ID)
			lists = append(lists, JobsList(l.ID))
		}
	}
	edits, err := s.JobEdits(ctx, ids)
	if err != nil {
		return nil, err
	}
	if d.Ticks, err = TicksOf(ctx, lists...); err != nil {
		return nil, err
	}
	now := s.Local(s.Now())
	d.Now = d.momentOf(s.Today(), clock.Time(now.Hour()*60+now.Minute()))
	var jobs []prepare.Job
	var wants []prepare.Wants
	shared := sharedOf(st.Larder)
	for _, id := range ids {
		l := d.Lessons[id]
		for _, j := range jobsOf(s, l, date, edits) {
			switch {
			case d.Ticks.Is(JobsList(id), j.ID):
				d.Done = append(d.Done, j)
			case j.Due-prepare.Moment(j.Wait) > 0 && j.From < prepare.DayMinutes:
				jobs = append(jobs, j)
			}
		}
		if l.Problems == nil && l.View.Date.Equal(date) {
			wants = append(wants, prepare.WantsOf(prepare.Lesson{ID: id, Start: prepare.Moment(l.Period.Start), End: prepare.Moment(l.Period.End), Core: l.Core}, shared))
		}
	}
	d.Plan = prepare.Plan(jobs, d.spans(d.Who), max(d.Now, 0))
	d.Clashes = prepare.Clashes(shared, wants)
	return d, nil
}

func sharedOf(l school.Larder) []prepare.Thing {
	var out []prepare.Thing
	for _, t := range l.Settings.Shared {
		out = append(out, prepare.Thing{Name: t.Name, Count: t.Count})
	}
	return out
}

// JobCounts returns how many jobs each lesson of a stretch asks for.
func (st *Stretch) JobCounts(ctx context.Context) (map[int64]int, error) {
	var ids []int64
	for _, l := range st.Lessons {
		ids = append(ids, l.ID)
	}
	s := school.In(ctx)
	edits, err := s.JobEdits(ctx, ids)
	out := map[int64]int{}
	for _, l := range st.Lessons {
		out[l.ID] = len(jobsOf(s, l, l.View.Date, edits))
	}
	return out, err
}

// SetJob writes what somebody has decided about a job: its minutes, or that it is
// not needed. Empty minutes are as they were.
func SetJob(ctx context.Context, lesson int64, job, hands, wait string, skip, forget bool) error {
	s := school.In(ctx)
	if _, err := s.Lesson(ctx, lesson); err != nil {
		return err
	}
	if !strings.HasPrefix(job, fmt.Sprintf("%d ", lesson)) || len(job) > longestID {
		return school.ErrNotFound
	}
	if forget {
		return s.SetJob(ctx, lesson, job, nil)
	}
	var f typed.Form
	e := prepare.Edit{Hands: -1, Wait: -1, Skip: skip}
	if strings.TrimSpace(hands) != "" {
		e.Hands = f.Between("hands", "Minutes of work", hands, 1, prepare.DayMinutes)
	}
	if strings.TrimSpace(wait) != "" {
		e.Wait = f.Between("wait", "Minutes of waiting", wait, 0, 3*prepare.DayMinutes)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return s.SetJob(ctx, lesson, job, &e)
}

// SetHours writes when somebody prepares, in words for each weekday: "8:00-12:30",
// "8-10, 13:00-14:00", or nothing.
func SetHours(ctx context.Context, account int64, days [7]string) error {
	s := school.In(ctx)
	people, err := s.Accounts(ctx)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(people, func(a store.Account) bool { return a.ID == account }) {
		return school.ErrNotFound
	}
	var problems problem.List
	var out []store.Hours
	for d, text := range days {
		last := -1
		for part := range strings.SplitSeq(text, ",") {
			if strings.TrimSpace(part) == "" {
				continue
			}
			from, until, ok := readSpan(part)
			if !ok || from >= until || from < last {
				problems.Add(fmt.Sprintf("day-%d", d), "“%s” is no time such as 8:00-12:30", strings.TrimSpace(text))
				break
			}
			last = until
			out = append(out, store.Hours{Account: account, Weekday: d, First: from, Last: until})
		}
	}
	if problems != nil {
		return problems
	}
	return s.SetHours(ctx, account, out)
}

func readSpan(text string) (from, until int, ok bool) {
	a, b, ok := strings.Cut(strings.ReplaceAll(text, "–", "-"), "-")
	if !ok {
		return 0, 0, false
	}
	read := func(s string) (int, error) {
		if s = strings.TrimSpace(s); !strings.ContainsAny(s, ":.") {
			s += ":00"
		}
		t, err := clock.Typed(s)
		return int(t), err
	}
	from, err := read(a)
	until, err2 := read(b)
	return from, until, err == nil && err2 == nil
}

// SpanSays prints hours as SetHours reads them.
func SpanSays(h store.Hours) string {
	return clock.Time(h.First).String() + "-" + clock.Time(h.Last).String()
}

// WriteDay writes the jobs of a day as iCalendar.
func WriteDay(ctx context.Context, w io.Writer, d *Day) error {
	s := school.In(ctx)
	var list []calendar.Job
	for n, p := range d.Plan.Pieces {
		if p.From >= prepare.DayMinutes || p.Until <= 0 {
			continue
		}
		j := d.Plan.Jobs[p.Job]
		at := func(m prepare.Moment) time.Time {
			return time.Date(d.Date.Year(), d.Date.Month(), d.Date.Day(), 0, int(m), 0, 0, s.Location)
		}
		list = append(list, calendar.Job{UID: fmt.Sprintf("job-%d-%s-%d@freshapron", j.Lesson, d.Date.Format(time.DateOnly), n), From: at(p.From), Until: at(p.Until), Says: j.Says, More: d.Lessons[j.Lesson].Says() + ". " + j.Why})
	}
	return calendar.WriteJobs(w, list, s.Now())
}
