package demo

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/store"
)

// Open returns the demonstration school, laid in where it is not there yet,
// its lessons moved so that today is a school day.
func Open(ctx context.Context, s *store.Store, today func(*time.Location) time.Time) (*store.School, error) {
	school, err := s.SchoolByName(ctx, School)
	if errors.Is(err, store.ErrNotFound) {
		if school, err = s.CreateSchool(ctx, School, TimeZone); err == nil {
			err = school.InTransaction(ctx, func(in *store.School) error { return lay(ctx, in, today(in.Location)) })
		}
	}
	if err != nil {
		return nil, fmt.Errorf("demonstration school: %w", err)
	}
	return school, school.MoveDemo(ctx, today(school.Location))
}

// schoolDay returns the date so many school days after today. Today itself
// always counts, so that a lesson is on.
func schoolDay(today time.Time, days int) time.Time {
	for days > 0 {
		today = today.AddDate(0, 0, 1)
		if wd := today.Weekday(); wd != time.Saturday && wd != time.Sunday {
			days--
		}
	}
	return today
}

// A planned lesson of the demonstration: school days from today, and the places in
// the lists of classes and periods.
type planned struct {
	day, class int
	dish       string
	period     int
	group      int
	phases     []fit.Phase
}

func lessons() []planned {
	return []planned{
		{day: 0, class: 0, dish: "herb-scones", period: 1, group: 2, phases: phases(8, 5)},
		{day: 0, class: 1, dish: "leek-tartlets", period: 3, group: 2, phases: phases(6, 3)},
		{day: 1, class: 1, dish: "lentil-dal", period: 2, group: 2, phases: phases(8, 5)},
		{day: 2, class: 0, dish: "leek-tartlets", period: 1, group: 2, phases: phases(8, 5)},
		{day: 3, class: 1, dish: "herb-scones", period: 4, group: 1, phases: phases(8, 5)},
		{day: 4, class: 0, dish: "lentil-dal", period: 6, group: 4, phases: phases(10, 10)},
		{day: 2, class: 1, dish: "rainbow-slaw", period: 2, group: 2, phases: phases(8, 5)},
		{day: 3, class: 0, dish: "fruit-crumble", period: 1, group: 2, phases: phases(6, 5)},
		{day: 4, class: 1, dish: "bean-chilli", period: 5, group: 2, phases: phases(10, 10)},
	}
}

// lay writes the school's things into an empty school.
func lay(ctx context.Context, s *store.School, today time.Time) error {
	room := store.Room{Room: FoodRoom()}
	var err error
	if room.ID, err = s.CreateRoom(ctx, room.Room); err != nil {
		return err
	}
	var classes []store.Class
	for _, c := range Classes() {
		id, err := s.CreateClass(ctx, c)
		if err != nil {
			return err
		}
		classes = append(classes, store.Class{ID: id, Class: c})
	}
	var periods []store.Period
	for _, p := range Periods() {
		period := store.Period{Name: p.Name, Start: p.Start, End: p.End}
		if period.ID, err = s.CreatePeriod(ctx, period); err != nil {
			return err
		}
		periods = append(periods, period)
	}
	dishes := map[string]store.Dish{}
	for _, d := range Dishes() {
		if err := d.Problems(); err != nil {
			return fmt.Errorf("%s: %w", d.Title, err)
		}
		id, err := s.CreateDish(ctx, d, store.Ready, 0, "")
		if err != nil {
			return err
		}
		dishes[d.ID] = store.Dish{ID: id, Recipe: d}
	}
	for _, d := range Drafts() {
		if _, err := s.CreateDish(ctx, d, store.Draft, 0, ""); err != nil {
			return err
		}
	}
	for _, p := range lessons() {
		dish := dishes[p.dish]
		l := store.Lesson{
			Date: schoolDay(today, p.day), Dish: dish, Class: classes[p.class], Room: room, Period: periods[p.period],
			Setup: store.Setup{Phases: p.phases, GroupSize: p.group, Each: dish.Each, Demo: dish.Yield, Spare: 1},
		}
		if err := l.Plan(pantry.Stock(), pantry.Usual).Check(); err != nil {
			return fmt.Errorf("%s: %w", dish.Title, err)
		}
		if _, err := s.CreateLesson(ctx, l, uuid.NewString()); err != nil {
			return err
		}
	}
	return nil
}
