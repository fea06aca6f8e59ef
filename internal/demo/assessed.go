package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/judge"
	planning "freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/drawn"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	roles "freshapron/internal/core/staff"
	"freshapron/internal/core/taste"
	"freshapron/internal/formats/photo"
	"freshapron/internal/store"
)

// whatDishesAre is for the conditions of the brief, by the id of the recipe.
var whatDishesAre = map[string]string{
	"herb-scones": "hot, bite-sized; colours: gold, green; textures: crumbly; main: flour; ways of cooking: baked", "lentil-dal": "hot; colours: gold; textures: soft; main: lentils; ways of cooking: simmered, griddled",
	"fruit-crumble": "hot, sweet; colours: purple, gold; textures: crumbly, soft; main: pears; ways of cooking: baked", "turkey-koftas": "hot; colours: brown, white; textures: tender; main: turkey; ways of cooking: grilled",
	"seeded-rolls": "hot, bite-sized; colours: brown; textures: chewy; main: bread flour; ways of cooking: baked", "rainbow-slaw": "cold; colours: red, green, orange; textures: crunchy; main: cabbage; ways of cooking: raw",
	"fish-pie": "hot; colours: gold, white; textures: smooth; main: fish; ways of cooking: baked, simmered", "jam-roll": "cold, sweet; colours: red, gold; textures: soft; main: eggs; ways of cooking: baked",
	"bean-chilli": "hot; colours: red; textures: tender; main: beans; ways of cooking: simmered", "griddle-cakes": "hot, sweet, bite-sized; colours: gold; textures: crumbly; main: currants; ways of cooking: griddled",
	"leek-tartlets": "hot, bite-sized; colours: green, gold; textures: crisp; main: leek; ways of cooking: baked", "melon-boats": "cold, bite-sized, garnish; colours: green, purple; textures: tender; main: melon; ways of cooking: raw",
	"pea-dip": "cold; colours: green; textures: smooth, crisp; main: peas; ways of cooking: raw, baked", "ginger-pudding": "hot, sweet; colours: brown; textures: moist; main: ginger; ways of cooking: steamed",
}

// harvest is what the class chooses from: the dishes, then the accompaniments.
var harvest = []struct{ dishes, sides []string }{
	{[]string{"leek-tartlets", "rainbow-slaw", "fruit-crumble"}, []string{"pea-dip", "melon-boats"}},
	{[]string{"turkey-koftas", "herb-scones", "rainbow-slaw"}, []string{"pea-dip", "melon-boats"}},
	{[]string{"lentil-dal", "melon-boats", "griddle-cakes"}, []string{"rainbow-slaw", "pea-dip"}},
	{[]string{"leek-tartlets", "melon-boats", "griddle-cakes"}, []string{"rainbow-slaw", "pea-dip"}},
}

// assessed lays an assessed task of last week, from the choices to the marks: two who
// mark and differ about three learners, two time plans with a mistake in each.
func assessed(ctx context.Context, s *store.Store, in *store.School, today time.Time) error {
	day := today.AddDate(0, 0, -7)
	now := day.AddDate(0, 0, -14)
	site := school.NewSite(s, func() time.Time { return now })
	site.Planning = fit.Options{Runs: 50} // as pages plan it: the learners’ own plans are made of it
	people, err := in.Accounts(ctx)
	if err != nil {
		return err
	}
	classes, err := in.Classes(ctx)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(classes, func(c store.Class) bool { return c.Name == assessedClass })
	staff, err := in.StaffOf(ctx, classes[at].ID)
	if err != nil {
		return err
	}
	as := func(id int64) context.Context {
		n := slices.IndexFunc(people, func(a store.Account) bool { return a.ID == id })
		return school.As(ctx, site.For(in), people[n])
	}
	teacher := staff[0]
	outside := people[slices.IndexFunc(people, func(a store.Account) bool { return !a.Role.May(roles.Read) })].ID
	id, dishes, err := practical(ctx, in, classes[at].ID, day)
	if err != nil {
		return err
	}
	ctx = as(teacher)
	task, err := judge.New(ctx, strconv.FormatInt(id, 10), "Harvest table for grandparents", uuid.NewString())
	if err != nil {
		return err
	}
	form := judge.FormOf(judge.Usual)
	form.Title = "Harvest table for grandparents"
	form.Brief = "3 dishes\n2 accompaniments\nat least 1 hot\nat least 2 cold\nat least 4 colours\nno main ingredient twice\nno nuts\ncost at most 7.50\nhand in: menu card by " + day.AddDate(0, 0, -9).Format(time.DateOnly) + "\nhand in: time plan by " + day.AddDate(0, 0, -2).Format(time.DateOnly) + "\n"
	form.Questions = "Why is the butter cold?\nHow do you know that it is cooked through?\nWhat would you do if it browned too early?"
	form.Markers = []string{strconv.FormatInt(teacher, 10), strconv.FormatInt(outside, 10)}
	if err := judge.Save(ctx, task, "1", form); err != nil {
		return err
	}
	tags := map[string]string{}
	for name, d := range dishes {
		tags[strconv.FormatInt(d, 10)] = whatDishesAre[name]
	}
	if err := judge.SaveTags(ctx, task, "2", tags); err != nil {
		return err
	}
	t, err := judge.Open(ctx, task)
	if err != nil {
		return err
	}
	for i, l := range t.Learners() {
		h, chosen := harvest[i%len(harvest)], map[int64]judge.ChoiceForm{}
		for _, d := range h.dishes {
			chosen[dishes[d]] = judge.ChoiceForm{As: "dish", Portions: "4"}
		}
		for _, d := range h.sides {
			chosen[dishes[d]] = judge.ChoiceForm{As: "side", Portions: "4"}
		}
		if err := judge.Choose(ctx, t, l.ID, "0", chosen, []string{"menu card", "time plan"}); err != nil {
			return fmt.Errorf("%s: %w", l.Name(), err)
		}
	}
	if err := judge.PlanIn(ctx, task); err != nil {
		return err
	}
	if t, err = judge.Open(ctx, task); err != nil {
		return err
	}
	for i, l := range t.Learners() {
		if err := judge.SavePlan(ctx, t, l.ID, "1", []byte(ownPlan(ctx, t, l.ID, i)), nil); err != nil {
			return fmt.Errorf("time plan of %s: %w", l.Name(), err)
		}
	}
	now = day.Add(time.Duration(t.View.Period.Start) * time.Minute)
	for i, l := range t.Learners() {
		if err := cooked(as, t, l.ID, i, &now, []int64{teacher, outside}); err != nil {
			return err
		}
	}
	return tasted(ctx, in, today)
}

// assessedClass is the class that is assessed.
const assessedClass = "10 Option B"

// practical makes the lesson in which the task is done, and returns the dishes by their
// recipes.
func practical(ctx context.Context, in *store.School, class int64, day time.Time) (int64, map[string]int64, error) {
	c, err := in.Class(ctx, class)
	if err != nil {
		return 0, nil, err
	}
	rooms, err := in.Rooms(ctx)
	if err != nil {
		return 0, nil, err
	}
	periods, err := in.Periods(ctx)
	if err != nil {
		return 0, nil, err
	}
	long := slices.MaxFunc(periods, func(a, b store.Period) int { return int(a.End-a.Start) - int(b.End-b.Start) })
	heads, err := in.Heads(ctx)
	if err != nil {
		return 0, nil, err
	}
	dishes := map[string]int64{}
	var first store.Dish
	for _, h := range heads {
		d, err := in.Dish(ctx, h.ID)
		if err != nil {
			return 0, nil, err
		}
		if d.Status == store.Ready {
			dishes[d.Recipe.ID] = d.ID
		}
		if d.Recipe.ID == harvest[0].dishes[0] {
			first = d
		}
	}
	room, err := in.Room(ctx, rooms[0].ID)
	if err != nil {
		return 0, nil, err
	}
	l := store.Lesson{Date: day, Class: c, Room: room, Period: long, Menu: []store.Course{{Dish: first, Each: first.Each}}, Setup: store.Setup{Phases: lesson.UsualPhases()[2:3], GroupSize: 1}}
	if err := l.Plan(tables).Check(); err != nil {
		return 0, nil, fmt.Errorf("practical: %w", err)
	}
	id, err := in.CreateLesson(ctx, l, uuid.NewString())
	return id, dishes, err
}

// ownPlan is a learner's own time plan: the school's, in their words and by five minutes;
// the fourth forgets to wash up, the tenth puts a tray in before it is filled.
func ownPlan(ctx context.Context, t *judge.Task, learner int64, n int) string {
	plan, err := judge.PlanOf(ctx, t, learner, store.Entry{})
	if err != nil || plan.Plan == nil {
		return "clock,dish,what\n10:00,,Begin\n"
	}
	titles, steps := map[string]string{}, map[string]fit.Step{}
	for _, d := range plan.Lesson.Dishes {
		titles[d.ID] = d.Title
		for _, s := range d.Steps {
			steps[d.ID+"/"+s.ID] = s
		}
	}
	list := slices.Clone(plan.Plan.Steps)
	slices.SortStableFunc(list, func(a, b fit.StepPlan) int { return int(a.Start*100) - int(b.Start*100) })
	var b strings.Builder
	b.WriteString("clock,dish,what\n")
	for i, s := range list {
		step, start := steps[s.Dish+"/"+s.Step], s.Start
		if n == 3 && strings.Contains(strings.ToLower(step.Title), "wash") || n == 3 && step.Kind == fit.Clean {
			continue
		}
		if n == 9 && i == len(list)/2 {
			start = max(0, start-25)
		}
		fmt.Fprintf(&b, "%s,%s,%s\n", plan.Lesson.At(start), titles[s.Dish], strings.ReplaceAll(step.Title, ",", ""))
		if strings.Contains(titles[s.Dish], "koftas") { // raw meat goes before
			fmt.Fprintf(&b, "%s,,Wash hands and board\n", plan.Lesson.At(start+step.Work.Float()))
		}
	}
	if n != 3 {
		fmt.Fprintf(&b, "%s,,Wash up and clear down\n", plan.Lesson.At(plan.Plan.Finish))
	}
	return b.String()
}

// apart are the learners about whom the two who mark differ, by their place in the class.
var apart = map[int]string{2: "15", 7: "4", 12: "14"}

// cooked lays what was seen of a learner, a photograph and the marks of both.
func cooked(as func(int64) context.Context, t *judge.Task, learner int64, n int, now *time.Time, markers []int64) error {
	rng := rand.New(rand.NewPCG(uint64(learner), 12))
	began := *now
	defer func() { *now = began }()
	for k := range 3 + rng.IntN(3) {
		*now = began.Add(time.Duration(12+20*k+rng.IntN(15)) * time.Minute)
		said := judge.Said{Press: uuid.NewString(), Learner: learner, Kind: []assess.RecordKind{assess.OnPlan, assess.OnPlan, assess.OnPlan, assess.IsBehind, assess.Question, assess.Noted, assess.Hygiene}[rng.IntN(7)]}
		switch said.Kind {
		case assess.Question:
			said.Says, said.Done = t.Questions[rng.IntN(len(t.Questions))], []string{"knows it", "with a hint", "does not know it"}[rng.IntN(3)]
		case assess.Noted:
			said.Says = []string{"pastry rested without being told", "tasted and seasoned twice", "helped with the oven at the next bench", "kept the bench clear all the time"}[rng.IntN(4)]
		case assess.Hygiene:
			said.Says = "cloth on the shoulder, put right at once"
		}
		if err := judge.Walk(as(markers[k%2]), t, []judge.Said{said}); err != nil {
			return err
		}
	}
	*now = began.Add(140 * time.Minute)
	picture, err := photo.JPEG(drawn.Plate(uint64(learner)).Draw())
	if err != nil {
		return err
	}
	if err := judge.Photograph(as(markers[0]), t, learner, picture); err != nil {
		return err
	}
	good := 0.5 + 0.45*rng.Float64()
	for i, m := range markers {
		if n == len(t.Learners())-1 && i == 1 {
			continue // who has still to mark the last
		}
		ctx := as(m)
		own, err := judge.Open(ctx, t.ID)
		if err != nil {
			return err
		}
		marks := map[string]string{}
		for _, c := range own.Scheme.Criteria {
			marks[c.ID] = strconv.Itoa(int(c.Most.Float()*good + 0.5))
		}
		if differs, ok := apart[n]; ok && i == 1 {
			marks["skills-and-techniques"] = differs
		}
		if err := judge.Mark(ctx, own, learner, uuid.NewString(), marks, "", true); err != nil {
			return err
		}
	}
	return nil
}

// tasted lays a tasting of the last lesson of the class that is assessed, with slips.
func tasted(ctx context.Context, in *store.School, today time.Time) error {
	list, err := in.LessonsBetween(ctx, today, today)
	if err != nil {
		return err
	}
	for _, l := range list {
		if l.Menu[0].Dish.Recipe.ID != "herb-scones" {
			continue
		}
		v, err := planning.One(ctx, l.ID)
		if err != nil {
			return err
		}
		t := judge.Tasting{Samples: []string{"Herb scones", "Herb scones, rested"}, Words: []string{"salty", "savoury", "crumbly", "moist", "golden", "bland"}, Meant: map[string]int{"salty": 3, "savoury": 4, "crumbly": 4, "moist": 3, "golden": 4, "bland": 1},
			Tests: []judge.TastingTest{{Test: taste.Triangle, Right: 14, Tasters: 24}}}
		if err := in.SaveReview(ctx, l.ID, store.Tasting, 0, t); err != nil {
			return err
		}
		rng := rand.New(rand.NewPCG(uint64(l.ID), 31))
		for range 18 {
			for n, s := range t.Samples {
				marks := map[string]string{}
				for w, meant := range t.Meant {
					marks[w] = strconv.Itoa(min(taste.Most, max(1, meant-1+n+rng.IntN(3)-1)))
				}
				if err := judge.AddTaste(ctx, v, uuid.NewString(), s, marks); err != nil {
					return err
				}
			}
		}
	}
	return nil
}
