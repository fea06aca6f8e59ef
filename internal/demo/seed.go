package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/care"
	"freshapron/internal/app/live"
	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/term"
	"freshapron/internal/store"
)

// Open returns the demonstration school, laid in where it is not there yet,
// its lessons moved so that today is a school day.
func Open(ctx context.Context, s *store.Store, today func(*time.Location) time.Time) (*store.School, error) {
	school, err := s.SchoolByName(ctx, School)
	if errors.Is(err, store.ErrNotFound) {
		if school, err = s.CreateSchool(ctx, School, TimeZone); err == nil {
			if err = school.InTransaction(ctx, func(in *store.School) error { return lay(ctx, in, today(in.Location)) }); err == nil {
				if err = sign(ctx, s, school, today(school.Location)); err == nil {
					if err = rehearse(ctx, s, school, today(school.Location)); err == nil {
						if err = practised(ctx, s, school, today(school.Location)); err == nil {
							err = assessed(ctx, s, school, today(school.Location))
						}
					}
				}
			}
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
	room       int
	also       string   // a second dish,
	makers     []string // which these benches make in place of the first
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
		{day: 4, class: 0, dish: "fruit-crumble", period: 1, group: 2, phases: phases(6, 5)},
		{day: 4, class: 1, dish: "bean-chilli", period: 5, group: 2, phases: phases(10, 10)},
		{day: 0, class: 5, dish: "melon-boats", period: 7, group: 4, phases: phases(8, 8), room: 1},
		{day: 1, class: 2, dish: "turkey-koftas", period: 0, group: 2, phases: phases(8, 5)},
		{day: 1, class: 4, dish: "pea-dip", period: 7, group: 6, phases: phases(8, 8), room: 1},
		{day: 2, class: 3, dish: "fish-pie", period: 6, group: 1, phases: phases(10, 10)},
		{day: 3, class: 2, dish: "bean-chilli", period: 5, group: 2, phases: phases(10, 10), also: "herb-scones", makers: []string{"g9", "g10", "g11"}},
	}
}

// hire adds the school's people and returns their ids.
func hire(ctx context.Context, s *store.School, today time.Time) ([]int64, error) {
	var ids []int64
	for _, a := range People() {
		a.CreatedAt = today
		id, err := s.CreateAccount(ctx, a)
		if err != nil {
			return nil, err
		}
		ids = append(ids, id)
	}
	return ids, nil
}

// lay writes the school's things into an empty school.
func lay(ctx context.Context, s *store.School, today time.Time) error {
	people, err := hire(ctx, s, today)
	if err != nil {
		return err
	}
	rooms := Rooms()
	for i := range rooms {
		if rooms[i].ID, err = s.CreateRoom(ctx, rooms[i]); err != nil {
			return err
		}
	}
	var classes []store.Class
	for i, c := range Classes() {
		id, err := s.CreateClass(ctx, c)
		if err != nil {
			return err
		}
		if err := s.SaveLearners(ctx, id, learners(c.Name, c.Learners, c.Age, i*4, today), nil); err != nil {
			return err
		}
		var own []int64
		for _, at := range teaching[i] {
			own = append(own, people[at])
		}
		if err := s.SetStaff(ctx, id, own); err != nil {
			return err
		}
		loaded, err := s.Class(ctx, id)
		if err != nil {
			return err
		}
		if loaded, err = s.WithNeeds(ctx, loaded); err != nil {
			return err
		}
		classes = append(classes, loaded)
	}
	var periods []store.Period
	for _, p := range Periods() {
		period := store.Period{Name: p.Name, Start: p.Start, End: p.End}
		if period.ID, err = s.CreatePeriod(ctx, period); err != nil {
			return err
		}
		periods = append(periods, period)
	}
	for _, t := range Terms(today) {
		if err := s.AddTerm(ctx, t); err != nil {
			return err
		}
	}
	var slots []term.Slot
	for _, w := range week {
		slots = append(slots, term.Slot{Class: classes[w.class].ID, Room: rooms[w.room].ID, Period: periods[w.period].ID, Day: term.Weekday(w.day)})
	}
	if err := s.AddSlots(ctx, slots); err != nil {
		return err
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
		l := store.Lesson{
			Date: schoolDay(today, p.day), Class: classes[p.class], Room: rooms[p.room], Period: periods[p.period],
			Menu: p.menu(dishes), Setup: store.Setup{Phases: p.phases, GroupSize: p.group, Spare: 1},
		}
		l.Swaps, l.OtherWays = swapsFor(l), waysFor(l)
		for i := range l.Menu {
			l.Menu[i].Picks = picksFor(l, l.Menu[i].Dish)
		}
		if err := l.Plan(tables).Check(); err != nil {
			return fmt.Errorf("%s: %w", l.Titles(), err)
		}
		if _, err := s.CreateLesson(ctx, l, uuid.NewString()); err != nil {
			return err
		}
	}
	if err := stock(ctx, s, today, people); err != nil {
		return err
	}
	return half(ctx, s, today)
}

// menu is what is made: the first dish by everybody, or by those whom the
// second leaves.
func (p planned) menu(dishes map[string]store.Dish) []store.Course {
	course := func(id string) store.Course {
		d := dishes[id]
		return store.Course{Dish: d, Each: d.Each, Demo: d.Yield}
	}
	out := []store.Course{course(p.dish)}
	if p.also != "" {
		out = append(out, course(p.also))
		out[1].Demo, out[1].By.Groups = 0, p.makers
		const groups = 11 // of 22 learners by pairs
		for n := 1; n <= groups; n++ {
			if id := fmt.Sprintf("g%d", n); !slices.Contains(p.makers, id) {
				out[0].By.Groups = append(out[0].By.Groups, id)
			}
		}
	}
	return out
}

// picksFor are what most of a class have chosen of a dish with choices; the
// last two have still to.
func picksFor(l store.Lesson, d store.Dish) []lesson.Picked {
	var out []lesson.Picked
	for n, p := range l.Class.Roster[:max(0, len(l.Class.Roster)-2)] {
		for _, c := range d.Choices {
			for k := range c.Take {
				out = append(out, lesson.Picked{Learner: p.ID, Choice: c.Name, Option: c.Options[(n/2+k)%len(c.Options)].Name})
			}
		}
	}
	return out
}

// tables are the school's, as they ship.
var tables = lesson.Tables{Pantry: pantry.Stock(), Tolerances: pantry.Usual, Safety: safety.Usual()}

// swapsFor are those that learners of a lesson need and its dish has.
func swapsFor(l store.Lesson) []lesson.Swap {
	var out []lesson.Swap
	core := l.Plan(tables)
	for _, p := range l.Class.Roster {
		for _, c := range core.Menu {
			for _, s := range safety.CanEat(c.Recipe, tables.Pantry, p.Needs, core.Take).Swaps {
				out = append(out, lesson.Swap{Learner: p.ID, Dish: c.Recipe.ID, For: s.For, Use: s.Use})
			}
		}
	}
	return out
}

// waysFor are other ways that some learners of the slaw take: a spiked board
// for one hand, and larger print.
func waysFor(l store.Lesson) []lesson.WayTaken {
	slaw := l.Menu[0].Dish.Recipe
	if slaw.ID != "rainbow-slaw" {
		return nil
	}
	var out []lesson.WayTaken
	dangers := slaw.EveryDanger(tables.Pantry)
	for _, p := range l.Class.Roster {
		for _, n := range p.Needs {
			if n.IsCalled(safety.ReadLittle) {
				out = append(out, lesson.WayTaken{Learner: p.ID, Way: "large-print"})
			}
			for i, s := range slaw.Steps {
				if n.IsCalled(safety.OneHand) && slices.Contains(dangers[i], recipe.Knife) {
					out = append(out, lesson.WayTaken{Learner: p.ID, Dish: slaw.ID, Step: s.ID, Way: "spiked-board"})
				}
			}
		}
	}
	return out
}

// repaired is the day, in school days from the first, on which an oven is
// repaired; a lesson that day has a safety sheet that was signed before.
const repaired = 4

// sign signs the safety sheet of a lesson, and then takes an oven out for the
// day of that lesson, so that the sheet is out of date.
func sign(ctx context.Context, s *store.Store, in *store.School, today time.Time) error {
	people, err := in.Accounts(ctx)
	if err != nil {
		return err
	}
	site := school.NewSite(s, func() time.Time { return today.Add(8 * time.Hour) })
	site.Planning = fit.Options{Budget: 5, Runs: 50} // a plan, not the best, is enough for a sheet
	day := schoolDay(today, repaired)
	lessons, err := in.LessonsBetween(ctx, day, day)
	if err != nil {
		return err
	}
	for _, l := range lessons {
		if l.Menu[0].Dish.Recipe.ID != "fruit-crumble" {
			continue
		}
		for _, head := range people {
			if head.Role != staff.Head {
				continue
			}
			as := school.As(ctx, site.For(in), head)
			c, err := care.For(as, l.ID)
			if err != nil {
				return err
			}
			sheet, err := care.SheetOf(as, c)
			if err != nil {
				return err
			}
			if err := care.SignSheet(as, c, sheet.Seen()); err != nil {
				return err
			}
			_, err = in.AddOutage(ctx, store.Outage{Room: l.Room.ID, Equipment: "oven", Unit: "oven-4", Why: "thermostat is replaced", Who: head.Name, First: day, Last: day})
			return err
		}
	}
	return nil
}

// rehearse plays one of today's lessons over and over, so that one is in full swing
// whatever the time of day.
func rehearse(ctx context.Context, s *store.Store, in *store.School, today time.Time) error {
	site := school.NewSite(s, func() time.Time { return today })
	site.Planning = fit.Options{Budget: 5, Runs: 50}
	people, err := in.Accounts(ctx)
	if err != nil {
		return err
	}
	lessons, err := in.LessonsBetween(ctx, today, today)
	if err != nil {
		return err
	}
	for _, l := range lessons {
		for _, head := range people {
			if l.Menu[0].Dish.Recipe.ID == "leek-tartlets" && head.Role == staff.Head {
				_, err := live.Begin(school.As(ctx, site.For(in), head), l.ID, &live.Rehearsal{Seed: 7, Speed: 1, Loops: true})
				return err
			}
		}
	}
	return nil
}
