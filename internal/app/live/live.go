// Package live runs lessons: begins them, keeps what happens, says how they stand,
// plans the rest anew, and rehearses them.
package live

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base32"
	"errors"
	"fmt"
	"html/template"
	"runtime"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
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

// ErrOver says that the code of a screen opens nothing any more.
var ErrOver = errors.New("the screen is shut")

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
	// From a while before the door to a while after the bell, over and over.
	const before, after = 1, 4
	length := time.Duration((l.Minutes().Float() + before + after) / speed * float64(time.Minute))
	from = r.Door
	if d := now.Sub(r.Door); d > 0 {
		from = r.Door.Add(d / length * length)
	}
	return now.Sub(from).Minutes()*speed - before, from.Add(time.Duration(before / speed * float64(time.Minute))), speed
}

// One returns a run as it stands.
func One(ctx context.Context, id int64) (*Run, error) {
	s := school.In(ctx)
	f, err := thaw(ctx, s, id)
	if err != nil {
		return nil, err
	}
	row := f.run
	kept, err := s.Events(ctx, row.ID, 0)
	if err != nil {
		return nil, err
	}
	minute, from, speed := clock(row, f.lesson, s.Now())
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
		if row.Rehearsal != nil && e.At < -1 { // of the time before it began anew
			continue
		}
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

// Moment names what a run shows: it is the same for all screens until something
// happens or the second is over.
type Moment struct{ School, Run, Seq, Second int64 }

// Shared is One for many screens, of which each asks when it hears of news: it is
// worked out once for all of them, and nobody may change it.
func Shared(ctx context.Context, id int64) (*Run, Moment, error) {
	s := school.In(ctx)
	seq, err := s.LastEvent(ctx, id)
	if err != nil {
		return nil, Moment{}, err
	}
	m := Moment{s.ID, id, seq, s.Now().Unix()}
	kept := school.Keep[Moment, *Run](s.Site, keptMoments)
	if r, ok := kept.Get(m); ok {
		return r, m, nil
	}
	later := context.WithoutCancel(ctx)
	r, err := work.Once(s.Site.Work, fmt.Sprint("run ", m), func() (*Run, error) {
		r, err := One(later, id)
		if err == nil {
			kept.Add(m, r)
		}
		return r, err
	})
	return r, m, err
}

// Drawn draws something of a moment once for all screens that show the same.
func Drawn(ctx context.Context, m Moment, what string, draw func() (template.HTML, error)) (template.HTML, error) {
	type key struct {
		Moment
		what string
	}
	site := school.In(ctx).Site
	kept := school.Keep[key, template.HTML](site, keptDrawn)
	k := key{m, what}
	if html, ok := kept.Get(k); ok {
		return html, nil
	}
	return work.Once(site.Work, fmt.Sprint("drawn ", k), func() (template.HTML, error) {
		html, err := draw()
		if err == nil {
			kept.Add(k, html)
		}
		return html, err
	})
}

// Begin freezes a lesson and its plan and begins it: for real, or as a rehearsal.
func Begin(ctx context.Context, id int64, rehearsal *store.Rehearsal) (int64, error) {
	s := school.In(ctx)
	v, err := lessons.One(ctx, id)
	if err != nil {
		return 0, err
	}
	if v.Problems != nil {
		return 0, v.Problems
	}
	now := s.Now()
	door := time.Date(v.Date.Year(), v.Date.Month(), v.Date.Day(), 0, int(v.Period.Start), 0, 0, s.Location)
	if rehearsal == nil {
		if d := now.Sub(door); d < -around || d > around {
			return 0, problem.New("begin", "It is not near the time of this lesson, %s, %s. Rehearse it instead, or give it another time", v.Date.Format("Monday 2 January"), v.Period.Start)
		}
	} else {
		door = now
	}
	var file, plan bytes.Buffer
	if err := lessonfile.WriteLesson(&file, v.Fit); err != nil {
		return 0, err
	}
	if err := lessonfile.WritePlan(&plan, v.Plan, nil); err != nil {
		return 0, err
	}
	var run int64
	return run, s.InTransaction(ctx, func(in *store.School) error {
		run, err = in.Begin(ctx, store.Run{Lesson: id, Version: v.Version, File: file.String(), Plan: plan.String(), Who: school.Acting(ctx).Name, Began: now, Door: door, Rehearsal: rehearsal})
		if err != nil {
			return err
		}
		until := door.Add(time.Duration(v.Fit.Minutes().Float())*time.Minute + around)
		if rehearsal != nil {
			until = now.Add(24 * time.Hour)
		}
		var screens []store.Screen
		for _, g := range v.Fit.Groups {
			code, err := newCode()
			if err != nil {
				return err
			}
			screens = append(screens, store.Screen{Run: run, Bench: g.ID, Code: code, Until: until})
		}
		if err := in.AddScreens(ctx, screens); err != nil {
			return err
		}
		if rehearsal != nil {
			return nil
		}
		line, err := eventfile.Line(live.Event{ID: "opened", Kind: live.Opened})
		if err != nil {
			return err
		}
		return in.AddEvents(ctx, run, []store.Event{{Press: "opened", At: now, Who: school.Acting(ctx).Name, Line: string(line)}})
	})
}

// Brought reads a file of events that a lesson is to be rehearsed with. What can't be
// of the lesson is a problem, each with its line.
func Brought(ctx context.Context, id int64, text string) (string, error) {
	v, err := lessons.One(ctx, id)
	if err != nil {
		return "", err
	}
	if v.Problems != nil {
		return "", v.Problems
	}
	list, err := eventfile.Read(strings.NewReader(text))
	if err != nil {
		return "", err
	}
	if len(list) == 0 {
		return "", problem.New("file", "The file has no events in it")
	}
	var problems problem.List
	base := live.Fold(v.Fit, v.Plan, nil, 0)
	for _, e := range list {
		if err := base.Check(e); err != nil {
			problems.Add("event "+e.ID, "%s", err)
		}
	}
	if problems != nil {
		return "", problems
	}
	var b bytes.Buffer
	err = eventfile.Write(&b, list)
	return b.String(), err
}

// newCode makes a code that nobody guesses: of 60 bits.
func newCode() (string, error) {
	b := make([]byte, 8)
	if _, err := rand.Read(b); err != nil {
		return "", err
	}
	return strings.ToLower(base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(b))[:12], nil
}

// Said is an event as a screen sends it.
type Said struct {
	ID   string
	Kind live.Kind
	live.Event
	SaidAt time.Time // zero for now
}

// Tell keeps what a screen says. What can't be of this lesson is refused with a
// problem; of several the rest is kept.
func Tell(ctx context.Context, r *Run, who string, list []Said) error {
	s := school.In(ctx)
	now := s.Now()
	_, from, speed := clock(r.Run, r.Lesson, now)
	var out []store.Event
	var problems problem.List
	for i, x := range list {
		e := x.Event
		e.ID, e.Kind, e.By = x.ID, x.Kind, who
		if _, err := uuid.Parse(e.ID); err != nil {
			problems.Add(fmt.Sprintf("events[%d].id", i), "it has no number of its own")
			continue
		}
		e.At = now.Sub(from).Minutes() * speed
		if err := r.State.Check(e); err != nil {
			problems.Add(fmt.Sprintf("events[%d]", i), "%s", err)
			continue
		}
		e.At, e.Said = 0, nil
		line, err := eventfile.Line(e)
		if err != nil {
			return err
		}
		said := x.SaidAt
		if said.After(now) || said.Before(now.Add(-around)) {
			said = time.Time{}
		}
		out = append(out, store.Event{Press: e.ID, At: now, Said: said, Who: who, Line: string(line)})
	}
	if err := s.AddEvents(ctx, r.ID, out); err != nil {
		return err
	}
	return problems.Err()
}

// Record adds what was written down elsewhere, at a bench of a name, to the log of a
// lesson that runs for real; to no other.
func Record(ctx context.Context, lesson int64, bench string, e live.Event) error {
	r, err := Of(ctx, lesson)
	if errors.Is(err, school.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if r.Rehearsal != nil || !r.State.Begun || r.State.Closed {
		return nil
	}
	e.Unit = bench // in its own words, where it is none of the lesson's
	for _, b := range r.State.Benches {
		if strings.EqualFold(b.Name, bench) {
			e.Bench, e.Unit = b.ID, ""
		}
	}
	return Tell(ctx, r, school.Acting(ctx).Name, []Said{{ID: uuid.NewString(), Kind: e.Kind, Event: e}})
}

// Whom returns how often each learner of a class has been asked in its lessons.
func Whom(ctx context.Context, class int64) (map[int64]int, error) {
	lines, err := school.In(ctx).Asked(ctx, class)
	if err != nil {
		return nil, err
	}
	var list []live.Event
	undone := map[string]bool{}
	for _, l := range lines {
		e, err := eventfile.Event([]byte(l))
		if err != nil {
			return nil, err
		}
		list = append(list, e)
		undone[e.Of] = true
	}
	out := map[int64]int{}
	for _, e := range list {
		if e.Kind == live.Asked && !undone[e.ID] {
			out[e.Learner]++
		}
	}
	return out, nil
}

// How long is searched for a plan while a class waits, in milliseconds: for the rest of
// the lesson, and for each rescue.
const planBudget, rescueBudget = 60, 20

// An Offer is another plan for the rest of a lesson, and what it changes.
type Offer struct {
	Plan  *fit.Plan
	Moves []live.Moved
	Left  float64 // after it; negative where minutes are missing
	Done  fit.Benches
}

type offerKey struct {
	school, run, seq int64
	half             int64 // half minutes of the lesson
}

func keyOf(s *school.School, r *Run) offerKey {
	return offerKey{s.ID, r.ID, r.Seq, int64(r.State.Now * 2)}
}

// Replan plans the rest of a lesson anew: for all who ask within half a minute once.
func Replan(ctx context.Context, r *Run) (*Offer, error) {
	s := school.In(ctx)
	kept := school.Keep[offerKey, *Offer](s.Site, keptRuns)
	key := keyOf(s, r)
	if o, ok := kept.Get(key); ok {
		return o, nil
	}
	return work.Once(s.Site.Work, fmt.Sprint("replan ", key), func() (*Offer, error) {
		p, err := r.State.Replan(rescue.Bounded(s.Site.Planning, planBudget))
		if err != nil {
			return nil, err
		}
		o := &Offer{Plan: p, Moves: r.State.Compare(p), Left: p.Deadline - p.Finish, Done: p.Risk.Benches}
		kept.Add(key, o)
		return o, nil
	})
}

// offeredWithin is how long a page waits for an offer; its screen gets it later where
// that is not enough.
const offeredWithin = 15 * time.Millisecond

// Offered is Replan for a page: nil where it takes longer than a page waits.
func Offered(ctx context.Context, r *Run) *Offer {
	s := school.In(ctx)
	key := keyOf(s, r)
	if o, ok := school.Keep[offerKey, *Offer](s.Site, keptRuns).Get(key); ok {
		return o
	}
	later := context.WithoutCancel(ctx)
	behind := work.Behind(s.Site.Work, fmt.Sprint("offer ", key), func(context.Context, func(done, all int)) (*Offer, error) { return Replan(later, r) }, nil)
	o, _, err := behind.Wait(ctx, offeredWithin)
	if err != nil {
		return nil // what has been said can't be planned from, and the next may be
	}
	return o
}

// Take follows the plan that is offered now.
func Take(ctx context.Context, r *Run) error {
	o, err := Replan(ctx, r)
	if err != nil {
		return err
	}
	return follow(ctx, r, live.Event{Plan: o.Plan})
}

func follow(ctx context.Context, r *Run, e live.Event) error {
	return Tell(ctx, r, school.Acting(ctx).Name, []Said{{ID: uuid.NewString(), Kind: live.Replanned, Event: e}})
}

// Rescues returns what would still help a lesson that runs, the best first.
func Rescues(ctx context.Context, r *Run) ([]rescue.Rescue, error) {
	s := school.In(ctx)
	kept := school.Keep[offerKey, []rescue.Rescue](s.Site, keptRuns)
	key := keyOf(s, r)
	if list, ok := kept.Get(key); ok {
		return list, nil
	}
	return work.Once(s.Site.Work, fmt.Sprint("rescue ", key), func() ([]rescue.Rescue, error) {
		opt := rescue.Bounded(s.Site.Planning, rescueBudget)
		opt.Workers = runtime.NumCPU()
		list, err := r.State.Rescues(opt)
		if err == nil {
			kept.Add(key, list)
		}
		return list, err
	})
}

// Decide takes the rescue of a title, as it is now.
func Decide(ctx context.Context, r *Run, title string) error {
	list, err := Rescues(ctx, r)
	if err != nil {
		return err
	}
	for _, x := range list {
		if x.Title == title {
			return follow(ctx, r, live.Event{Plan: x.Plan, Changes: x.Changes, Says: x.Title})
		}
	}
	return problem.New("rescue", "“%s” does not help any more: the lesson has gone on. What helps now is listed here", title)
}

// A Screen is a bench of a run that a code has opened.
type Screen struct {
	store.Screen
	Run *Run
}

// Enter returns a context in which the screen of a bench acts, which may do nothing
// else; ErrOver where the code opens nothing any more.
func Enter(ctx context.Context, site *school.Site, code string) (context.Context, *Screen, error) {
	x, err := site.Store.ScreenOf(ctx, strings.ToLower(strings.TrimSpace(code)), site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrOver
	}
	if err != nil {
		return ctx, nil, err
	}
	s, err := site.Of(ctx, x.School)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, s, store.Account{Name: "bench " + x.Bench})
	r, err := One(ctx, x.Run)
	return ctx, &Screen{x, r}, err
}

// Opens reports whether a code still opens a screen.
func Opens(ctx context.Context, site *school.Site, code string) bool {
	_, err := site.Store.ScreenOf(ctx, code, site.Now())
	return err == nil
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

// Speed is how many minutes of the lesson go by in a minute.
func (r *Run) Speed() float64 {
	if r.Rehearsal != nil {
		return r.Rehearsal.Speed
	}
	return 1
}
