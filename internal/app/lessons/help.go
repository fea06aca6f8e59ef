package lessons

import (
	"context"
	"runtime"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
)

// A Search is the search for what would help a lesson.
type Search = work.Run[rescue.Outcome]

// keptSearches is how many are kept.
const keptSearches = 300

// Help returns the search for what would help a lesson, and begins it where it
// has not begun. It goes on whether or not anybody waits for it.
func Help(ctx context.Context, v *View) *Search {
	return search(school.In(ctx).Site, v.Key(), func(opt fit.Options, progress func(done, all int)) rescue.Outcome {
		return v.Core.Try(v.Fit, v.Plan, opt, progress)
	})
}

// HelpFor is Help for a lesson that was brought in.
func HelpFor(ctx context.Context, f *BroughtFile) *Search {
	return search(school.In(ctx).Site, f.ID, func(opt fit.Options, progress func(done, all int)) rescue.Outcome {
		return rescue.Try(rescue.Trial{Lesson: f.Fit, Plan: f.Plan, Ways: rescue.Ways(f.Fit, f.Plan), Options: opt, Progress: progress})
	})
}

func search(s *school.Site, key string, try func(opt fit.Options, progress func(done, all int)) rescue.Outcome) *Search {
	kept := school.Keep[string, *Search](s, keptSearches)
	if found, ok := kept.Get(key); ok && !found.Failed() {
		return found
	}
	// Plans that nobody needs to see a page are made side by side on as many
	// processors as there are, but only while no page wants them.
	opt := s.Planning
	opt.Workers, opt.Run = runtime.NumCPU(), work.Patient
	begun := work.Behind(s.Work, "help "+key, func(_ context.Context, progress func(done, all int)) (rescue.Outcome, error) {
		return try(opt, progress), nil
	}, nil)
	kept.Add(key, begun)
	return begun
}
