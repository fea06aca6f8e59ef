package live

import (
	"context"
	"errors"
	"slices"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/store"
)

// ErrOver says that the code of a screen opens nothing any more.
var ErrOver = errors.New("the screen is shut")

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

// Opens returns the screen that a code still opens, and whether it does.
func Opens(ctx context.Context, site *school.Site, code string) (store.Screen, bool) {
	x, err := site.Store.ScreenOf(ctx, code, site.Now())
	return x, err == nil
}

// Ways are the ways in which a bench's screen can show things.
var Ways = []string{"large", "contrast", "pictures", "aloud"}

// Show sets in which ways the screen of a bench shows things.
func Show(ctx context.Context, run int64, bench string, ways []string) error {
	ways = slices.DeleteFunc(slices.Clone(Ways), func(w string) bool { return !slices.Contains(ways, w) })
	return school.In(ctx).ShowScreen(ctx, run, bench, ways)
}

// Screens returns the screens of the benches of a run, by bench.
func Screens(ctx context.Context, run int64) (map[string]store.Screen, error) {
	list, err := school.In(ctx).Screens(ctx, run)
	out := map[string]store.Screen{}
	for _, x := range list {
		out[x.Bench] = x
	}
	return out, err
}

// PutOut puts the screen of a bench out, or lets it in again.
func PutOut(ctx context.Context, run int64, bench string, out bool) error {
	return school.In(ctx).ShutScreen(ctx, run, bench, out)
}
