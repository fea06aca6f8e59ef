package fit

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
)

// shop is five cooks at four machines, each with an order of its own.
func shop() Lesson {
	rng := rand.New(rand.NewPCG(5, 5))
	l := Lesson{End: 600, Adults: 1}
	for m := range 4 {
		l.Equipment = append(l.Equipment, Equipment{ID: fmt.Sprint(m), Units: []Unit{{Name: "one", Places: 1}}})
	}
	for j := range 5 {
		d := Dish{ID: fmt.Sprint(j)}
		for k, m := range rng.Perm(4) {
			s := Step{ID: fmt.Sprint(k), Kind: Mix, Work: exact.Int(int64(1 + rng.IntN(9))), Cooks: 1, Adult: NoAdult,
				Uses: []Use{{Equipment: fmt.Sprint(m), Places: 1, During: WholeStep}}}
			if k > 0 {
				s.After = []After{{Step: fmt.Sprint(k - 1)}}
			}
			d.Steps = append(d.Steps, s)
		}
		l.Dishes = append(l.Dishes, d)
		l.Groups = append(l.Groups, Group{ID: fmt.Sprint(j), Cooks: 1, Pace: exact.Int(1), Dishes: []string{d.ID}})
	}
	return l
}

func shopSearch(t *testing.T) (*local, list) {
	t.Helper()
	l := shop()
	require.NoError(t, l.Check())
	p := compile(l)
	require.True(t, p.sharp())
	spent := 0
	s := newLocal(p, rand.New(rand.NewPCG(1, 2)), &spent)
	sch := newSchedule(p)
	sch.build(thumbRules(p)[0], p.templates(), forever)
	return s, sch.list()
}

// Where two neighbours on the longest chain change places, the lesson ends no
// sooner than estimated; and a task that lies on a longest chain has a head
// and a tail that make up the whole of it.
func TestEstimatesAreTrue(t *testing.T) {
	s, here := shopSearch(t)
	exactly, compared := 0, 0
	for range 200 {
		require.True(t, s.decode(here, forever))
		s.findChanges(here)
		finish := s.cost.finish
		for _, n := range s.chain {
			require.Equal(t, finish, s.start[n]+s.tail[n])
		}
		for n := range s.tasks {
			require.LessOrEqual(t, s.start[n]+s.tail[n], finish)
		}
		for _, c := range s.changes {
			trial := here.clone()
			require.True(t, s.apply(trial, c))
			require.True(t, s.decode(trial, forever))
			require.GreaterOrEqual(t, s.cost.finish, c.estimate)
			compared++
			if s.cost.finish == c.estimate {
				exactly++
			}
			require.True(t, s.decode(here, forever))
		}
		s.kick(here)
	}
	require.Greater(t, compared, 200)
	assert.Greater(t, exactly, compared/4, "often the estimate is the finish")
}

// Sorting an order by its starts changes nothing where each resource takes
// one task at a time.
func TestByStartKeepsThePlan(t *testing.T) {
	s, here := shopSearch(t)
	for range 100 {
		s.kick(here)
		require.True(t, s.decode(here, forever))
		was := s.cost
		s.byStart(here.order)
		assert.True(t, keeps(s.instance, here.order))
		require.True(t, s.decode(here, forever))
		assert.Equal(t, was, s.cost)
	}
}

func TestWhatIsSharp(t *testing.T) {
	for name, change := range map[string]func(*Lesson){
		"two places":    func(l *Lesson) { l.Equipment[0].Units[0].Places = 2 },
		"a second unit": func(l *Lesson) { l.Equipment[0].Units = append(l.Equipment[0].Units, Unit{Name: "two", Places: 1}) },
		"a break":       func(l *Lesson) { l.Phases = []Phase{{Name: "Stop", Minutes: exact.Int(5), Place: AtStart}} },
		"a wait":        func(l *Lesson) { l.Dishes[0].Steps[0].Uses[0].During = WaitPart },
		"one cook for all": func(l *Lesson) {
			for i := range l.Groups {
				l.Groups[i].Dishes = []string{"0", "1"}
				l.Groups[i].Cooks = 1
			}
			l.Groups[0].Cooks = 2
			l.Dishes[0].Steps[1].After = nil
		},
	} {
		l := shop()
		change(&l)
		require.NoError(t, l.Check())
		if name == "one cook for all" {
			assert.False(t, compile(l).ample[0], name)
			continue
		}
		assert.False(t, compile(l).sharp(), name)
	}
	// Ten jobs of one group with a cook for each are a job shop as well.
	l := shop()
	l.Groups = []Group{{ID: "all", Cooks: 5, Pace: exact.Int(1)}}
	assert.True(t, compile(l).sharp())
	l.Groups[0].Cooks = 4
	assert.False(t, compile(l).sharp())
}
