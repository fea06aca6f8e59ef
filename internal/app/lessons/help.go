package lessons

import (
	"cmp"
	"context"
	"errors"
	"runtime"
	"slices"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/store"
)

// A Search is the search for what would help a lesson.
type Search = work.Run[rescue.Outcome]

// keptSearches is how many are kept.
const keptSearches = 300

// WantsHelp reports whether it matters what would help a lesson: it overruns or is at
// risk, and the bell has not rung.
func WantsHelp(ctx context.Context, v *View) bool {
	s := school.In(ctx)
	return v.Plan != nil && len(v.Plan.Groups) > 0 && rescue.Needed(v.Plan) && !v.Over(s.Local(s.Now()))
}

// Help returns the search for what would help a lesson, and begins it where it
// has not begun. It goes on whether or not anybody waits for it.
func Help(ctx context.Context, v *View) *Search {
	a := school.In(ctx)
	return search(a.Site, v.Key(), func(ctx context.Context, t rescue.Trial) (rescue.Outcome, error) {
		core := v.Core
		var err error
		if core.Others, err = others(ctx, a, v); err != nil {
			return rescue.Outcome{}, err
		}
		t.Lesson, t.Plan = v.Fit, v.Plan
		return core.Try(t), nil
	})
}

// mostOthers is how many dishes of the shelf are tried in place of a lesson's.
const mostOthers = 2

// others returns the dishes of the shelf that practise most of what a lesson's own
// does; none where it has several, or is one of two lessons.
func others(ctx context.Context, a *school.School, v *View) ([]recipe.Recipe, error) {
	if len(v.Menu) != 1 || slices.ContainsFunc(v.Changes, func(c rescue.Change) bool { return c.Kind == rescue.TwoLessons }) {
		return nil, nil
	}
	heads, err := a.Heads(ctx)
	if err != nil {
		return nil, err
	}
	own := v.Menu[0].Dish
	var ids []int64
	for _, h := range heads {
		if h.ID != own.ID && h.Status == store.Ready {
			ids = append(ids, h.ID)
		}
	}
	dishes, err := a.DishesByID(ctx, ids)
	if err != nil {
		return nil, err
	}
	var out []recipe.Recipe
	for _, d := range dishes {
		if len(lesson.SharedSkills(own.Recipe, d.Recipe)) > 0 && d.Yield > 0 {
			out = append(out, d.Recipe)
		}
	}
	slices.SortStableFunc(out, func(x, y recipe.Recipe) int {
		return cmp.Or(len(lesson.SharedSkills(own.Recipe, y))-len(lesson.SharedSkills(own.Recipe, x)), cmp.Compare(x.Title, y.Title))
	})
	return out[:min(mostOthers, len(out))], nil
}

// HelpFor is Help for a lesson that was brought in.
func HelpFor(ctx context.Context, f *BroughtFile) *Search {
	return search(school.In(ctx).Site, f.ID, func(_ context.Context, t rescue.Trial) (rescue.Outcome, error) {
		t.Lesson, t.Plan, t.Ways = f.Fit, f.Plan, rescue.Ways(f.Fit, f.Plan)
		return rescue.Try(t), nil
	})
}

func search(s *school.Site, key string, try func(context.Context, rescue.Trial) (rescue.Outcome, error)) *Search {
	kept := school.Keep[string, *Search](s, keptSearches)
	if found, ok := kept.Get(key); ok && !found.Failed() {
		return found
	}
	// Plans that nobody needs to see a page are made side by side on as many
	// processors as there are, but only while no page wants them.
	opt := s.Planning
	opt.Workers, opt.Run = runtime.NumCPU(), work.Patient
	begun := work.Behind(s.Work, "help "+key, func(ctx context.Context, progress func(done, all int)) (rescue.Outcome, error) {
		out, err := try(ctx, rescue.Trial{Options: opt, Progress: progress, Ended: ctx.Done()})
		return out, errors.Join(err, ctx.Err())
	}, nil)
	kept.Add(key, begun)
	return begun
}
