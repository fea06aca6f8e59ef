package verify_test

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/golden"
)

// copied is a plan that can be damaged.
func copied(p *fit.Plan) *fit.Plan {
	q := *p
	q.Groups = slices.Clone(p.Groups)
	for g := range q.Groups {
		q.Groups[g].Steps = slices.Clone(p.Groups[g].Steps)
		for s := range q.Groups[g].Steps {
			step := &q.Groups[g].Steps[s]
			step.Hands, step.Units = slices.Clone(step.Hands), slices.Clone(step.Units)
		}
	}
	q.Late, q.Idle = slices.Clone(p.Late), slices.Clone(p.Idle)
	return &q
}

// Every step of a plan is damaged in every way, by a second and by many: what
// is said of each stands in a file.
func TestWhatIsSaidOfDamagedPlans(t *testing.T) {
	second := 1.0 / 60
	ways := []struct {
		name string
		do   func(s *fit.StepPlan)
	}{
		{"a second sooner", func(s *fit.StepPlan) { shift(s, -second) }},
		{"a second later", func(s *fit.StepPlan) { shift(s, second) }},
		{"five minutes sooner", func(s *fit.StepPlan) { shift(s, -5) }},
		{"ten minutes later", func(s *fit.StepPlan) { shift(s, 10) }},
		{"an hour later", func(s *fit.StepPlan) { shift(s, 60) }},
		{"work a second longer", func(s *fit.StepPlan) { s.WorkEnd += second }},
		{"end a second sooner", func(s *fit.StepPlan) { s.End -= second }},
		{"end a second later", func(s *fit.StepPlan) { s.End += second }},
		{"begun a second before its work", func(s *fit.StepPlan) { s.Start -= second }},
		{"a cook more", func(s *fit.StepPlan) { s.Cooks++ }},
		{"a cook less", func(s *fit.StepPlan) { s.Cooks-- }},
		{"other hands", func(s *fit.StepPlan) {
			for i := range s.Hands {
				s.Hands[i] = 3 - s.Hands[i]
			}
		}},
		{"hands twice", func(s *fit.StepPlan) { s.Hands = append(s.Hands, s.Hands...) }},
		{"no hands", func(s *fit.StepPlan) { s.Hands = nil }},
		{"another unit", func(s *fit.StepPlan) {
			for i := range s.Units {
				s.Units[i].Unit = strings.NewReplacer("1", "2", "2", "1").Replace(s.Units[i].Unit)
			}
		}},
		{"no unit", func(s *fit.StepPlan) { s.Units = nil }},
		{"latest start a second later", func(s *fit.StepPlan) { s.LatestStart += second }},
		{"another step", func(s *fit.StepPlan) { s.Step = "other" }},
	}
	whole := []struct {
		name string
		do   func(p *fit.Plan)
	}{
		{"fits otherwise", func(p *fit.Plan) { p.Fits = !p.Fits }},
		{"another deadline", func(p *fit.Plan) { p.Deadline += second }},
		{"waits go on for longer", func(p *fit.Plan) { p.WaitsUntil += second }},
		{"another finish", func(p *fit.Plan) { p.Finish += second }},
		{"more slack", func(p *fit.Plan) { p.Slack += second }},
		{"more overrun", func(p *fit.Plan) { p.Overrun += second }},
		{"a bound above the finish", func(p *fit.Plan) { p.LowerBound = p.Finish + second }},
		{"optimal", func(p *fit.Plan) { p.Optimal = !p.Optimal }},
		{"a group is not there", func(p *fit.Plan) { p.Groups = p.Groups[1:] }},
		{"a group is there twice", func(p *fit.Plan) { p.Groups = append(p.Groups, p.Groups[0]) }},
		{"a group finishes later", func(p *fit.Plan) { p.Groups[0].Finish += second }},
		{"a step is not there", func(p *fit.Plan) { p.Groups[0].Steps = p.Groups[0].Steps[1:] }},
		{"a step is there twice", func(p *fit.Plan) { p.Groups[0].Steps = append(p.Groups[0].Steps, p.Groups[0].Steps[0]) }},
		{"nothing is late", func(p *fit.Plan) { p.Late = nil }},
		{"something is late", func(p *fit.Plan) {
			s := p.Groups[0].Steps[0]
			p.Late = append(p.Late, fit.Late{Group: p.Groups[0].ID, Dish: s.Dish, Step: s.Step, Minutes: 1})
		}},
		{"nobody is idle", func(p *fit.Plan) { p.Idle = nil }},
		{"somebody is idle", func(p *fit.Plan) {
			p.Idle = append(p.Idle, fit.Idle{Group: p.Groups[0].ID, Cook: 1, Minutes: 10})
		}},
	}
	var b strings.Builder
	tell := func(name string, l fit.Lesson, p *fit.Plan) {
		fmt.Fprintf(&b, "- %s\n", name)
		for _, fault := range slices.Sorted(slices.Values(verify.Plan(l, p))) {
			fmt.Fprintf(&b, "  %s\n", fault)
		}
	}
	for _, l := range damaged(t) {
		p := planOf(t, l)
		fmt.Fprintf(&b, "= %s\n", l.Title)
		for g, group := range p.Groups {
			for s, step := range group.Steps {
				for _, way := range ways {
					q := copied(p)
					way.do(&q.Groups[g].Steps[s])
					tell(fmt.Sprintf("%s/%s: %s", group.ID, step.Step, way.name), l, q)
				}
			}
		}
		for _, way := range whole {
			q := copied(p)
			way.do(q)
			tell(way.name, l, q)
		}
		r := rand.New(rand.NewPCG(1, 1))
		var more []any
		for range 300 { // several at once, by their sum
			q := copied(p)
			for range 3 {
				g := &q.Groups[r.IntN(len(q.Groups))]
				s := &g.Steps[r.IntN(len(g.Steps))]
				shift(s, float64(r.IntN(81)-40)/2)
				ways[r.IntN(len(ways))].do(s)
			}
			more = append(more, slices.Sorted(slices.Values(verify.Plan(l, q))))
		}
		b.WriteString(golden.All(more))
	}
	golden.Same(t, "damaged.golden", b.String())
}

// damaged are lessons in which every rule has something to say, before they
// begin and while they run.
func damaged(t *testing.T) []fit.Lesson {
	t.Helper()
	before := pies()
	waits := pies()
	waits.Title, waits.End = "Pies that bake while the class clears", 9*60+55
	waits.Phases = slices.Clone(waits.Phases)
	waits.Phases[2].Waits = true
	waits.Phases = append(waits.Phases, fit.Phase{Name: "Taste", Minutes: exact.Int(5), Place: fit.AtEnd})
	file, err := os.Open("../../../../docs/formats/under-way.lesson.json")
	require.NoError(t, err)
	defer file.Close()
	running, err := lessonfile.Read(file)
	require.NoError(t, err)
	pinned := pies()
	pinned.Title = "Pies, with what the teacher has decided"
	pinned.Away = []fit.Away{{Adults: 1, From: exact.Int(40), Minutes: exact.Int(5)}}
	pinned.Dishes[0].Steps[0].Pieces, pinned.Dishes[0].Steps[0].PerLoad, pinned.Dishes[0].Steps[0].Load = 3, 2, exact.Int(1)
	pinned.Groups[0].Pins = []fit.Pin{{Dish: "pie", Step: "line", NotBefore: minutes(12), BeginBy: minutes(25)}, {Dish: "pie", Step: "bake", Units: []string{"Oven 2"}}}
	pinned.Groups[1].Pins = []fit.Pin{{Dish: "pie", Step: "blend", BeginBy: minutes(6)}}
	return []fit.Lesson{before, waits, running, pinned, runningAt(t, pies(), 26, nil), runningAt(t, pies(), 14, minutes(30)), runningAt(t, pies(), 9, minutes(9))}
}

// runningAt is a lesson under way that went to plan up to a minute; then an
// oven fails, for so long or for good.
func runningAt(t *testing.T, l fit.Lesson, now int64, back *exact.Number) fit.Lesson {
	t.Helper()
	p := planOf(t, l)
	l.Title = fmt.Sprintf("%s in minute %d", l.Title, now)
	l.Now = minutes(now)
	l.Out = []fit.Outage{{Equipment: "oven", Unit: "Oven 2", From: exact.Int(now), To: back, Usable: back == nil}}
	at := func(m float64) *exact.Number { n := exact.Frac(int64(math.Round(m*60)), 60); return &n }
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if s.Start > float64(now) {
				continue
			}
			cooks := s.Cooks
			r := fit.Progress{Group: g.ID, Dish: s.Dish, Step: s.Step, Cooks: &cooks, Start: *at(s.Start), Units: s.Units, Hands: s.Hands}
			if s.WorkEnd <= float64(now) {
				r.WorkEnd = at(s.WorkEnd)
			}
			if s.End <= float64(now) {
				r.End = at(s.End)
			}
			l.Progress = append(l.Progress, r)
		}
	}
	require.NoError(t, l.Check())
	return l
}

// Where each figure of a plan may lie, and what is found beyond.
func TestWhatAPlanCanBe(t *testing.T) {
	var b strings.Builder
	for _, l := range damaged(t)[:3] {
		p := planOf(t, l)
		p.Chain, p.Risk = nil, fit.Risk{}
		fmt.Fprintf(&b, "= %s\n%s", l.Title, golden.Limits(p, func() error { return errors.New(strings.Join(verify.Plan(l, p), "\n")) }))
	}
	golden.Same(t, "limits.golden", b.String())
}
