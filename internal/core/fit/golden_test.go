package fit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/golden"
)

// The same file and flags give the same plan on any machine: the plans, and
// what is said of them, of lessons of all kinds stand in a file. What changes
// the search changes the file; then it is to be seen whether it is better.
func TestTheSamePlanOnAnyMachine(t *testing.T) {
	var b strings.Builder
	plan := func(l fit.Lesson, opt fit.Options) *fit.Plan {
		p, err := fit.Solve(l, opt)
		require.NoError(t, err)
		tell(&b, l, p)
		return p
	}
	const unmeasured = 21 // a seed of which the benchmark knows nothing
	for kind, k := range hardKinds {
		l := hard(kind, unmeasured)
		fmt.Fprintf(&b, "= %s\n", k.name)
		plan(l, fit.Options{Budget: 30, Runs: 100})
	}
	for n := range 24 {
		l := anyLesson.Example(n)
		fmt.Fprintf(&b, "= any %d\n", n)
		p := plan(l, fit.Options{Budget: 4, Runs: 40})
		if p.Conflicts == nil {
			fmt.Fprintf(&b, "= any %d, under way\n", n)
			plan(underWay(l, p).Example(n), fit.Options{Budget: 4, Runs: 40})
		}
	}
	golden.Same(t, "plans.golden", b.String())
}

// Many more lessons, whole, in as much time as gives only a moment to each.
func TestTheSamePlans(t *testing.T) {
	var b strings.Builder
	for n := range 160 {
		l := anyLesson.Example(100 + n)
		p, err := fit.Solve(l, fit.Options{Budget: 1 + n%8, Runs: 20, Seed: uint64(n)})
		fmt.Fprintf(&b, "= %d %v\n%s", n, err, golden.All(p))
		if err != nil || p.Conflicts != nil {
			continue
		}
		l = underWay(l, p).Example(n)
		p, err = fit.Solve(l, fit.Options{Budget: 1 + n%8, Runs: 20})
		fmt.Fprintf(&b, "= %d under way %v\n%s", n, err, golden.All(p))
		if err == nil {
			b.WriteString(golden.All(fit.Running(l, p), fit.Checkpoints(l, p), fit.Trays(l, p), fit.Duties(l, p), fit.Doors(l, p)))
		}
	}
	for kind, k := range hardKinds {
		for seed, budget := range []int{3, 12, 60} {
			l := hard(kind, 30+uint64(seed))
			p, err := fit.Solve(l, fit.Options{Budget: budget, Runs: 20, Seed: uint64(seed)})
			fmt.Fprintf(&b, "= %s in %d %v\n%s", k.name, budget, err, golden.All(p))
		}
	}
	for n := 260; n < 500; n += 20 { // more still, twenty in a sum
		var more []any
		for k := n; k < n+20; k++ {
			l := anyLesson.Example(k)
			p, err := fit.Solve(l, fit.Options{Budget: 1 + k%3, Runs: 5, Seed: uint64(k)})
			more = append(more, p, err)
			if err == nil && p.Conflicts == nil {
				running := underWay(l, p).Example(k)
				p, err = fit.Solve(running, fit.Options{Budget: 1, Runs: 5})
				more = append(more, p, err, fit.Running(running, p), fit.Checkpoints(running, p), fit.Trays(running, p), fit.Duties(running, p), fit.Doors(running, p))
			}
		}
		b.WriteString(golden.All(more))
	}
	golden.Same(t, "many.golden", b.String())
}

// How lessons are searched, part by part: hard ones, any, those under way, and a job shop.
func TestTheSameWork(t *testing.T) {
	var b strings.Builder
	say := func(name string, l fit.Lesson) {
		fmt.Fprintf(&b, "= %s\n%s\n", name, strings.Join(fit.Work(l, 6000), "\n"))
	}
	for kind := range hardKinds {
		l := hard(kind, 40)
		say(l.Title, l)
	}
	for n := range 80 {
		l := anyLesson.Example(500 + n)
		say(fmt.Sprintf("any %d", n), l)
		if p, err := fit.Solve(l, fit.Options{Budget: 1, Runs: 1}); err == nil && p.Conflicts == nil {
			say(fmt.Sprintf("any %d under way", n), underWay(l, p).Example(n))
		}
	}
	for _, c := range classics {
		say(c.name, jobShop(t, c.rows, false))
	}
	for n := 600; n < 800; n += 20 { // more still, twenty in a sum
		var more []any
		for k := n; k < n+20; k++ {
			more = append(more, fit.Work(anyLesson.Example(k), 2000))
		}
		b.WriteString(golden.All(more))
	}
	golden.Same(t, "work.golden", b.String())
}

// tell writes all that a plan holds, and what is made of it.
func tell(b *strings.Builder, l fit.Lesson, p *fit.Plan) {
	say := func(format string, args ...any) { fmt.Fprintf(b, "  "+format+"\n", args...) }
	say("fits %t by %.2f, %.2f; done %.4f, %.4f at least, optimal %t; %d conflicts, pins %v, late %v, idle %v", p.Fits, p.Slack, p.Overrun, p.Finish, p.LowerBound, p.Optimal, len(p.Conflicts), p.LatePins, p.Late, p.Idle)
	r := p.Risk
	say("chance %.4f, benches %.4f %d, 9 in 10 %.3f %.3f", r.AllOnTime, r.Benches.Mean, r.Benches.AtLeast8In10, r.P90All, r.More)
	for _, c := range r.Causes {
		fmt.Fprintf(b, " %s %s %.3f", c.Kind, c.ID, c.Share)
	}
	for _, c := range p.Conflicts {
		say("%s: %s", strings.Join(c.Groups, " "), c.Says)
	}
	for i, g := range p.Groups {
		const most = 2 // groups of which all is said, and why of the first
		if i == most {
			break
		}
		group, _ := l.Group(g.ID)
		say("lanes %v", fit.CookLanes(g, group.Cooks))
		for _, s := range g.Steps {
			fmt.Fprintf(b, "  %s %s %s %.3f %.3f %.3f %d %v", g.ID, s.Dish, s.Step, s.Start, s.WorkEnd, s.End, s.Cooks, s.Hands)
			for _, u := range s.Units {
				fmt.Fprintf(b, " %s", u.Unit)
			}
			fmt.Fprintf(b, ", latest %.3f, held %.3f %s %t\n", s.LatestStart, s.Held.Minutes, s.Held.For, s.Held.InQueue())
			if e, ok := fit.Explain(l, p, g.ID, s.Dish, s.Step); ok && i == 0 {
				for _, why := range append(e.Reasons, e.Waiting...) {
					fmt.Fprintf(b, "    %+v\n", why)
				}
			}
		}
	}
	for _, link := range p.Chain {
		fmt.Fprintf(b, "  chain %s %s by %s", link.Group, link.Step, link.After)
	}
	b.WriteString("\n")
	for _, line := range fit.Running(l, p) {
		say("%.2f %.2f %.2f %s: %s, %s", line.From, line.To, line.Latest, line.Who, line.What, line.Where)
	}
	for _, c := range fit.Checkpoints(l, p) {
		say("call %.2f %s", c.At, c.Says())
	}
	for _, tray := range fit.Trays(l, p) {
		say("tray %s %s %.2f %.2f %.2f", tray.Group, tray.Unit, tray.In, tray.Out, tray.LatestIn)
	}
	for _, d := range fit.Duties(l, p) {
		say("duty %+v", d)
	}
	for _, d := range fit.Doors(l, p) {
		say("door %+v", d)
	}
}
