package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/skills"
	"freshapron/internal/core/staff"
	core "freshapron/internal/core/train"
	"freshapron/internal/store"
)

// practised lays a term of evidence for every class, by simulated learners, and for each
// that has a lesson to come a practice that half of the class has begun. Who is first in
// a class is new, and nothing is known of them.
func practised(ctx context.Context, s *store.Store, in *store.School, today time.Time) error {
	site := school.NewSite(s, func() time.Time { return today.Add(8 * time.Hour) })
	site.Planning = fit.Options{Budget: 5, Runs: 50}
	people, err := in.Accounts(ctx)
	if err != nil {
		return err
	}
	for _, head := range people {
		if head.Role == staff.Head {
			ctx = school.As(ctx, site.For(in), head)
		}
	}
	classes, err := in.Classes(ctx)
	if err != nil {
		return err
	}
	var all []store.Practised
	for _, c := range classes {
		coming, err := in.LessonsOf(ctx, c.ID, today, 1)
		if err != nil {
			return err
		}
		var set store.Practice
		if len(coming) > 0 {
			if set, err = train.Set(ctx, c.ID, coming[0].ID); err != nil {
				return err
			}
		}
		one, err := in.Class(ctx, c.ID)
		if err != nil {
			return err
		}
		for i, l := range one.Roster {
			if i == 0 {
				continue
			}
			rng := rand.New(rand.NewPCG(uint64(l.ID), 77))
			who := store.Practised{Learner: l.ID, Picture: school.Pictures[rng.IntN(len(school.Pictures))], Evidence: shown(rng, today)}
			if i%2 == 1 && set.ID != 0 {
				who.Token, who.Practice = fmt.Sprintf("laid-%d-%d", in.ID, l.ID), set.ID
				able := core.Simulated{Ability: rng.NormFloat64(), Learns: 0.02}
				who.Tries = able.Practise(core.Templates, 2+rng.IntN(16), today.Add(-30*time.Hour), uint64(l.ID))
			}
			all = append(all, who)
		}
	}
	return in.AddPractised(ctx, all)
}

// weeks of a term, in each of which a lesson shows something of a learner.
const weeks = 11

// shown is what a term of lessons has shown of a learner: what is lower in the graph
// earlier and more often.
func shown(rng *rand.Rand, today time.Time) []skills.Evidence {
	g := skills.Shipped.Skills
	var out []skills.Evidence
	for week := range weeks {
		at := today.AddDate(0, 0, -7*(weeks-week)+rng.IntN(5))
		for range 1 + rng.IntN(2) {
			s := g[min(rng.IntN(len(g)), rng.IntN(len(g)))]
			e := skills.Evidence{Skill: s.ID, At: at, How: skills.Made, Level: skills.Can, By: "a lesson"}
			switch rng.IntN(4) {
			case 0:
				e.How, e.Level, e.By = skills.Seen, skills.Level(1+rng.IntN(3)), "Maren Holt"
			case 1:
				e.How, e.Level, e.By = skills.Asked, skills.Begins, "Maren Holt"
			}
			out = append(out, e)
		}
	}
	return out
}
