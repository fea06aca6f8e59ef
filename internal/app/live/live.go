// Package live runs lessons: begins them, keeps what happens, says how they stand,
// plans the rest anew, and rehearses them.
package live

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
)

// A Run is a lesson that runs, as it stands.
type Run struct {
	store.Run
	Lesson fit.Lesson
	Plan   *fit.Plan // as it began
	State  *live.State
	Seq    int64 // of the last event
	Events []live.Event
}

// around is for how long before and after its period a lesson is under way.
const around = 4 * time.Hour

// frozen is a run as it began, with lesson and plan read from its files.
type frozen struct {
	run      store.Run
	lesson   fit.Lesson
	plan     *fit.Plan
	rehearse []live.Event
}

type frozenKey struct{ school, run int64 }

// How many are kept in memory: runs as they began and what is offered for them, and
// moments with what is drawn of them, which are soon past.
const keptRuns, keptMoments, keptDrawn = 100, 40, 300

// thaw reads what a run froze, once.
func thaw(ctx context.Context, s *school.School, id int64) (*frozen, error) {
	kept := school.Keep[frozenKey, *frozen](s.Site, keptRuns)
	key := frozenKey{s.ID, id}
	if f, ok := kept.Get(key); ok {
		return f, nil
	}
	r, err := s.Run(ctx, id)
	if err != nil {
		return nil, err
	}
	l, err := lessonfile.Read(strings.NewReader(r.File))
	if err != nil {
		return nil, fmt.Errorf("run %d: %w", r.ID, err)
	}
	p, err := lessonfile.ReadPlan(strings.NewReader(r.Plan))
	if err != nil {
		return nil, fmt.Errorf("run %d: %w", r.ID, err)
	}
	for i, d := range l.Dishes {
		l.Dishes[i].Of = cmp.Or(r.Recipes[d.ID], d.ID)
	}
	f := &frozen{run: r, lesson: l, plan: p}
	switch {
	case r.Rehearsal == nil:
	case r.Rehearsal.Events != "":
		if f.rehearse, err = eventfile.Read(strings.NewReader(r.Rehearsal.Events)); err != nil {
			return nil, fmt.Errorf("run %d: %w", r.ID, err)
		}
	default:
		f.rehearse = live.Rehearse(l, p, live.Script{Seed: r.Rehearsal.Seed, Mishap: r.Rehearsal.Mishap})
	}
	f.run.File, f.run.Plan = "", "" // which have been read
	kept.Add(key, f)
	return f, nil
}

// A rehearsal that begins anew goes from a while before the door to a while after the
// bell.
const before, after = time.Minute, 4 * time.Minute

// clock says which minute of a run it is, and when the time began from which that is
// counted: a rehearsal that is over may begin anew.
func clock(r store.Run, l fit.Lesson, now time.Time) (minute float64, from time.Time, speed float64) {
	if r.Rehearsal == nil {
		return now.Sub(r.Door).Minutes(), r.Door, 1
	}
	speed = r.Rehearsal.Speed
	if !r.Rehearsal.Loops {
		return now.Sub(r.Door).Minutes() * speed, r.Door, speed
	}
	length := time.Duration((l.Minutes().Float() + before.Minutes() + after.Minutes()) / speed * float64(time.Minute))
	from = r.Door
	if d := now.Sub(r.Door); d > 0 {
		from = r.Door.Add(d / length * length)
	}
	from = from.Add(time.Duration(float64(before) / speed))
	return now.Sub(from).Minutes() * speed, from, speed
}

// One returns a run as it stands.
func One(ctx context.Context, id int64) (*Run, error) {
	s := school.In(ctx)
	f, err := thaw(ctx, s, id)
	if err != nil {
		return nil, err
	}
	row := f.run
	minute, from, speed := clock(row, f.lesson, s.Now())
	var since time.Time
	if row.Rehearsal != nil { // what was said before it began anew is of another time
		since = from.Add(-time.Duration(float64(before) / speed))
	}
	kept, err := s.Events(ctx, row.ID, since)
	if err != nil {
		return nil, err
	}
	r := &Run{Run: row, Lesson: f.lesson, Plan: f.plan, Events: append([]live.Event(nil), f.rehearse...)}
	for _, k := range kept {
		e, err := eventfile.Event([]byte(k.Line))
		if err != nil {
			return nil, fmt.Errorf("event %d: %w", k.Seq, err)
		}
		e.Seq, e.At = k.Seq, k.At.Sub(from).Minutes()*speed
		if !k.Said.IsZero() {
			said := k.Said.Sub(from).Minutes() * speed
			e.Said = &said
		}
		r.Seq = k.Seq
		r.Events = append(r.Events, e)
	}
	r.State = live.Fold(f.lesson, f.plan, r.Events, minute)
	return r, nil
}

// Of returns the newest run of a lesson, as it stands; school.ErrNotFound where it
// has never begun.
func Of(ctx context.Context, lesson int64) (*Run, error) {
	s := school.In(ctx)
	id, err := s.LastRun(ctx, lesson)
	if err != nil {
		return nil, err
	}
	return One(ctx, id)
}

// Another reports whether the newest run of a lesson is another than that with an id,
// which is 0 where it had never begun.
func Another(ctx context.Context, lesson, run int64) bool {
	newest, err := school.In(ctx).LastRun(ctx, lesson)
	return err == nil && newest != run
}

// Log writes what happened in a run as a file of events.
func Log(r *Run) ([]byte, error) {
	var b bytes.Buffer
	err := eventfile.Write(&b, r.State.Log)
	return b.Bytes(), err
}

// Sentence says what an event was.
func Sentence(l fit.Lesson, e live.Event) string { return eventfile.Says(l, e) }

// Rehearsal is how a lesson is played.
type Rehearsal = store.Rehearsal

// News is what the notices of a run are about.
func News(run int64) string { return store.RunNews(run) }

// Begins is what the notices that a lesson begins are about.
func Begins(lesson int64) string { return store.LessonNews(lesson) }

// Speed is how many minutes of the lesson go by in a minute.
func (r *Run) Speed() float64 {
	if r.Rehearsal != nil {
		return r.Rehearsal.Speed
	}
	return 1
}
