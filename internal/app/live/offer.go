package live

import (
	"context"
	"fmt"
	"runtime"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/rescue"
)

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
		_, p, err := r.State.Replan(rescue.Bounded(s.Site.Planning, planBudget))
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
