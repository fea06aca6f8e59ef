package demo

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
	"freshapron/internal/store"
)

// Many says how much is made to measure with.
type Many struct {
	Schools  int
	Learners int    // in each school
	Lessons  int    // in each school, over a school year
	Password string // hash of the password of every account
}

// classSize is how many learners a class of a made school has.
const classSize = 24

// Make lays schools in that are only there to be measured: one head of food
// each, whose address is head@school-001.example and so on, and whose classes,
// dishes, rooms and lessons are like the demonstration's. Done is called after
// each school.
func Make(ctx context.Context, s *store.Store, today time.Time, m Many, done func(n int)) error {
	for n := 1; n <= m.Schools; n++ {
		school, err := s.CreateSchool(ctx, fmt.Sprintf("School %03d", n), TimeZone)
		if err != nil {
			return err
		}
		if err := school.InTransaction(ctx, func(in *store.School) error { return one(ctx, in, today, n, m) }); err != nil {
			return fmt.Errorf("school %d: %w", n, err)
		}
		done(n)
	}
	return nil
}

func one(ctx context.Context, s *store.School, today time.Time, n int, m Many) error {
	head, err := s.CreateAccount(ctx, store.Account{Name: fmt.Sprintf("Head %d", n), Email: fmt.Sprintf("head@school-%03d.example", n), Role: staff.Head, Password: m.Password, CreatedAt: today})
	if err != nil {
		return err
	}
	room := Rooms()[0]
	if room.ID, err = s.CreateRoom(ctx, room); err != nil {
		return err
	}
	var periods []store.Period
	for _, p := range Periods()[:5] {
		period := store.Period{Name: p.Name, Start: p.Start, End: p.End}
		if period.ID, err = s.CreatePeriod(ctx, period); err != nil {
			return err
		}
		periods = append(periods, period)
	}
	classes, err := teach(ctx, s, today, m.Learners, head)
	if err != nil {
		return err
	}
	for _, t := range Terms(today) {
		if err := s.AddTerm(ctx, t); err != nil {
			return err
		}
	}
	var slots []term.Slot
	for i, c := range classes[:min(len(classes), 5*len(periods))] {
		slots = append(slots, term.Slot{Class: c.ID, Room: room.ID, Period: periods[i%len(periods)].ID, Day: term.Weekday(i / len(periods))})
	}
	if err := s.AddSlots(ctx, slots); err != nil {
		return err
	}
	var dishes []store.Dish
	for _, d := range Dishes() {
		id, err := s.CreateDish(ctx, d, store.Ready, 0, "")
		if err != nil {
			return err
		}
		dishes = append(dishes, store.Dish{ID: id, Recipe: d})
	}
	// The lessons of a year: five school days a week, from half a year ago.
	const schoolYear = 365
	for i := range m.Lessons {
		dish := dishes[i%len(dishes)]
		l := store.Lesson{
			Date: schoolDay(today.AddDate(0, 0, i*schoolYear/max(1, m.Lessons)-schoolYear/2), 1), Menu: []store.Course{{Dish: dish, Each: dish.Each, Demo: dish.Yield}}, Class: classes[i%len(classes)], Room: room, Period: periods[i%len(periods)],
			Setup: store.Setup{Phases: phases(6, 5), GroupSize: 2, Spare: 1},
		}
		if _, err := s.CreateLesson(ctx, l, uuid.NewString()); err != nil {
			return err
		}
	}
	return nil
}

// teach makes the classes of so many learners, all of them the head's own.
func teach(ctx context.Context, s *store.School, today time.Time, many int, head int64) ([]store.Class, error) {
	var out []store.Class
	for at := 0; at < many; at += classSize {
		c := lesson.Class{Name: fmt.Sprintf("Class %02d", at/classSize+1), Pace: exact.Int(1), Age: 11 + at/classSize%5}
		id, err := s.CreateClass(ctx, c)
		if err != nil {
			return nil, err
		}
		list := learners("7 Alder", classSize, c.Age, at/classSize, today)
		if err := s.SaveLearners(ctx, id, list[:min(classSize, many-at)], nil); err != nil {
			return nil, err
		}
		if err := s.SetStaff(ctx, id, []int64{head}); err != nil {
			return nil, err
		}
		out = append(out, store.Class{ID: id, Class: c})
	}
	return out, nil
}
