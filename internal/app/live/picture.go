package live

import (
	"context"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/photo"
)

// Photograph keeps a picture that a bench has taken of what a step has made, small and
// with nothing in it but the picture. The same id twice is one picture.
func Photograph(ctx context.Context, r *Run, id, bench, dish, step string, data []byte) error {
	if uuid.Validate(id) != nil {
		return problem.New("id", "The picture has no number of its own")
	}
	small, err := photo.Small(ctx, data)
	if err != nil {
		return err
	}
	oldest, err := oldestPicture(ctx)
	if err != nil {
		return err
	}
	s := school.In(ctx)
	e := live.Event{ID: id, Kind: live.Picture, Bench: bench, Dish: dish, Step: step}
	if err := r.State.Check(live.Event{At: r.State.Now, Kind: e.Kind, Bench: bench, Dish: dish, Step: step}); err != nil {
		return problem.New("step", "%s", err)
	}
	if err := s.AddPicture(ctx, r.ID, id, s.Now(), small, oldest); err != nil {
		return err
	}
	return Tell(ctx, r, "bench "+bench, []Said{{ID: id, Kind: e.Kind, Event: e}})
}

// PictureOf returns a picture of a run as a JPEG: of one bench, or of any (""). It is
// not found when its days are over.
func PictureOf(ctx context.Context, r *Run, id, bench string) ([]byte, error) {
	for _, e := range r.State.Pictures(bench) {
		if e.ID == id {
			oldest, err := oldestPicture(ctx)
			if err != nil {
				return nil, err
			}
			return school.In(ctx).Picture(ctx, r.ID, id, oldest)
		}
	}
	return nil, school.ErrNotFound
}

func oldestPicture(ctx context.Context) (time.Time, error) {
	s := school.In(ctx)
	settings, err := s.Settings(ctx)
	return s.Now().AddDate(0, 0, -settings.PictureDays()), err
}
