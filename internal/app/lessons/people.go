package lessons

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// ChangeOwn loads a lesson of the actor's own class at a version, lets f change
// it, and saves it where it can be planned.
func ChangeOwn(ctx context.Context, id int64, version string, f func(*store.Lesson) (did string, err error)) error {
	a := school.In(ctx)
	l, err := current(ctx, id, version)
	if err != nil {
		return err
	}
	if mine, err := school.Mine(ctx, l.Class.ID); err != nil {
		return err
	} else if !mine {
		return school.ErrNotYours
	}
	did, err := f(&l)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	if err := l.Plan(larder.Tables()).Check(); err != nil {
		return err
	}
	return a.ChangeLesson(ctx, l, did)
}

// SetAbsent says who is away. They leave a gap at their bench; amounts and the
// plan follow.
func SetAbsent(ctx context.Context, id int64, version string, away []string) error {
	return ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Absent = nil
		for _, p := range l.Class.Roster {
			if slices.Contains(away, strconv.FormatInt(p.ID, 10)) {
				l.Absent = append(l.Absent, p.ID)
			}
		}
		if len(l.Absent) == 0 {
			return "Everybody is there", nil
		}
		return fmt.Sprintf("%d away", len(l.Absent)), nil
	})
}

// DealAnew deals those who are there into groups by the class's rules. From then
// on they stay together.
func DealAnew(ctx context.Context, id int64, version string) error {
	larder, err := school.In(ctx).Larder(ctx)
	if err != nil {
		return err
	}
	return ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Teams = l.Plan(larder.Tables()).DealtAnew()
		return "Those who are there dealt anew", nil
	})
}

// SetPicks says what learners have chosen of a dish with choices: each option as
// the place of its choice and its own in the recipe. Of learners who are not
// named nothing is changed; too few or too many are still to choose.
func SetPicks(ctx context.Context, id int64, version string, dish int64, picks map[int64][]recipe.Pick) error {
	return ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		at := slices.IndexFunc(l.Menu, func(c store.Course) bool { return c.Dish.ID == dish })
		if at < 0 {
			return "", school.ErrNotFound
		}
		l.Menu = slices.Clone(l.Menu)
		c := &l.Menu[at]
		c.Picks = slices.DeleteFunc(slices.Clone(c.Picks), func(p lesson.Picked) bool { _, named := picks[p.Learner]; return named })
		for _, p := range l.Class.Roster {
			for n, choice := range c.Dish.Choices {
				for k, o := range choice.Options {
					if slices.Contains(picks[p.ID], recipe.Pick{Choice: n, Option: k}) {
						c.Picks = append(c.Picks, lesson.Picked{Learner: p.ID, Choice: choice.Name, Option: o.Name})
					}
				}
			}
		}
		return "Changed: what learners have chosen", nil
	})
}

// SetTeams puts learners into groups by hand: group says for each in which,
// from 1. Nil deals them by the rules again.
func SetTeams(ctx context.Context, id int64, version string, group map[int64]string) error {
	return ChangeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Teams = nil
		if group == nil {
			return "Groups dealt by the rules", nil
		}
		const most = 60
		teams := map[int][]int64{}
		for _, p := range l.Class.Roster {
			if slices.Contains(l.Absent, p.ID) {
				continue
			}
			n, err := strconv.Atoi(strings.TrimSpace(group[p.ID]))
			if err != nil || n < 1 || n > most {
				return "", problem.List{{Path: "teams", Says: fmt.Sprintf("%s: “%s” is not the number of a group.", p.Name(), words.Short(group[p.ID]))}}
			}
			teams[n] = append(teams[n], p.ID)
		}
		for n := 1; n <= most; n++ {
			if teams[n] != nil {
				l.Teams = append(l.Teams, teams[n])
			}
		}
		return "Groups put together by hand", nil
	})
}

// SawWays notes in the trail that whoever acts has seen who works in which way.
func SawWays(ctx context.Context, v *View) error {
	return school.Note(ctx, school.In(ctx).School, store.Note{Did: "saw", About: "needs", Class: v.Class.ID, Lesson: v.ID, Says: "the benches’ sheets, with who works in which way"})
}
