package recipes

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/rescue"
	"freshapron/internal/store"
)

// A Prospect says how a dish would go with a class: for each way of working,
// in each length of period.
type Prospect struct {
	Learners int
	Room     string
	Ways     []Working
}

// A Working is one way of working: alone, in pairs, and so on.
type Working struct {
	Size     int // learners in a group
	Groups   int
	Outlooks []lesson.Outlook // empty where there are too many groups for the room
}

// mostTogether is the largest group that is looked at.
const mostTogether = 4

// outlookBudget bounds the search of each; see fit.Options.
const outlookBudget = 60

// longestProspect is how long one is waited for.
const longestProspect = 40 * time.Second

// keptProspects is how many are kept: all dishes of a well-stocked shelf.
const keptProspects = 3000

// Outlook works out whether a dish would fit, for the largest class that the
// school's first room takes, with the usual phases. What has been worked out
// is kept until the dish or the room changes.
func Outlook(ctx context.Context, id int64) (*Prospect, error) {
	a := school.In(ctx)
	dish, err := a.Dish(ctx, id)
	if err != nil {
		return nil, err
	}
	rooms, err := a.Rooms(ctx)
	if err != nil || len(rooms) == 0 {
		return &Prospect{}, err
	}
	classes, err := a.Classes(ctx)
	if err != nil {
		return nil, err
	}
	periods, err := a.Periods(ctx)
	if err != nil {
		return nil, err
	}
	room, learners := rooms[0], 0
	for _, c := range classes {
		if c.Learners <= room.Learners {
			learners = max(learners, c.Learners)
		}
	}
	lengths := lengthsOf(periods)
	key := fmt.Sprint(a.ID, " ", dish.ID, dish.Version, room, learners, lengths)
	kept := school.Keep[string, *Prospect](a.Site, keptProspects)
	if p, ok := kept.Get(key); ok {
		return p, nil
	}
	run := work.Behind(a.Site.Work, "prospect "+key, func(context.Context, func(int, int)) (*Prospect, error) {
		return &Prospect{learners, room.Name, workings(dish, room, learners, lengths, a.Site.Planning)}, nil
	}, func(p *Prospect) { kept.Add(key, p) })
	p, _, err := run.Wait(ctx, longestProspect)
	if p == nil && err == nil {
		err = cmp.Or(ctx.Err(), school.ErrBusy)
	}
	return p, err
}

// workings works out how a dish would go in each way of working.
func workings(dish store.Dish, room store.Room, learners int, lengths []int, planning fit.Options) []Working {
	opt := rescue.Bounded(planning, outlookBudget)
	opt.Workers = 1
	var out []Working
	for size := 1; size <= mostTogether && size <= learners; size++ {
		l := lesson.Lesson{
			Date: time.Time{}.Format(time.DateOnly), Phases: lesson.UsualPhases(), Menu: []lesson.Course{{Recipe: dish.Recipe, Each: max(1, dish.Each)}},
			Class: lesson.Class{Name: "a class", Learners: learners, Pace: exact.Int(1)}, Room: room.Room,
			GroupSize: size,
		}
		w := Working{Size: size}
		// What can't be planned has no outlook: too many groups, or a draft.
		if found, err := l.Outlooks(lengths, opt); err == nil && found != nil {
			w.Groups, w.Outlooks = len(l.Benches()), found
		}
		out = append(out, w)
	}
	return out
}

// lengthsOf lists the lengths of the periods, each once, the shortest first.
func lengthsOf(periods []store.Period) []int {
	var out []int
	for _, p := range periods {
		out = append(out, int(p.End-p.Start))
	}
	slices.Sort(out)
	return slices.Compact(out)
}
