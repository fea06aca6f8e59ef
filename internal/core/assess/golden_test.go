package assess_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/golden"
)

// What is said of learners' plans with every fault, and with rows that are put elsewhere by
// chance: the tests beside this say what is right, and this one sees any move.
func TestWhatIsSaidOfTimePlans(t *testing.T) {
	l := table(t)
	r := rand.New(rand.NewPCG(3, 4))
	var b strings.Builder
	judge := func(name string, list []entry, who int) {
		rows, err := judgefile.ReadTimePlan(strings.NewReader(written(list, learners[who], who)), l)
		require.NoError(t, err)
		p := assess.CheckTimePlan(l, rows)
		fmt.Fprintf(&b, "= %s: finish %.1f, idle %.1f\n", name, p.Finish, p.Idle)
		for _, f := range p.Findings {
			fmt.Fprintf(&b, "  %s %v %s: %s %s\n", f.Rule, f.Lines, f.Step, f.Says, f.Mend)
		}
		for _, a := range p.Asks {
			fmt.Fprintf(&b, "  asks %d %v %s\n", a.Line, a.Steps, a.Says)
		}
		for _, row := range p.Rows {
			fmt.Fprintf(&b, "  %.0f %s %v %.2f %s,", row.At, row.DishID, row.Steps, row.Sure, row.Means)
		}
		b.WriteString("\n" + golden.All(p))
	}
	for n, f := range faults {
		list, _ := f.put(sound(n))
		judge(f.rule, list, n%len(learners))
	}
	for n := range 12 {
		list := sound(n)
		for range 2 {
			i := r.IntN(len(list))
			list[i].at += r.IntN(13) - 6
			list[i].minutes = max(1, list[i].minutes+r.IntN(7)-3)
		}
		slices.SortStableFunc(list, func(a, b entry) int { return a.at - b.at })
		judge(fmt.Sprint("by chance ", n), list, n%len(learners))
	}
	golden.Same(t, "plans.golden", b.String())
}

// Totals, grades, agreement, feedback and samples of made-up marks, and sets for a brief.
func TestMarksAndSets(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	list, err := assess.ReadCriteria(criteria)
	require.NoError(t, err)
	var b strings.Builder
	for _, round := range assess.Roundings {
		s := assess.Scheme{Criteria: list, OutOf: exact.Int(60), Round: round, Places: len(round) % 2, Boundaries: []assess.Boundary{{Grade: "A", From: n("45")}, {Grade: "B", From: n("30")}, {Grade: "C", From: n("12.5")}}, Tolerance: n("4")}
		require.NoError(t, s.Check())
		by := map[string]map[string]assess.Marks{"m1": {}, "m2": {}}
		var records []assess.Record
		for who := int64(1); who < 10; who++ {
			name := fmt.Sprint("l", who)
			for marker, m := range []string{"m1", "m2"} {
				by[m][name] = assess.Marks{}
				for _, c := range list {
					if r.IntN(15) == 0 {
						continue
					}
					mark := exact.Frac(int64(r.IntN(2*int(c.Most.Round())+1)), 2)
					by[m][name][c.ID] = mark
					records = append(records, assess.Record{ID: fmt.Sprint(len(records)), At: time.Unix(int64(len(records)*60), 0), Marker: int64(marker + 1), Learner: who, Kind: assess.Marked, Criterion: c.ID, Done: mark.Decimal(1)})
				}
				records = append(records, assess.Record{ID: fmt.Sprint(len(records)), At: time.Unix(int64(len(records)*60), 0), Marker: int64(marker + 1), Learner: who, Kind: assess.Ready})
			}
			if who%4 == 0 {
				records = append(records, assess.Record{ID: fmt.Sprint(len(records)), At: time.Unix(int64(len(records)*60), 0), Marker: 1, Learner: who, Kind: assess.Agreed, Says: "we talked", Done: fmt.Sprint(20 + who)})
			}
		}
		c := s.Compare(by)
		fmt.Fprintf(&b, "= %s: mean %.3f, kappa %.4f from %.4f to %.4f of %d, talk about %v, sample %v\n", round, c.Overall.Mean, c.Overall.Kappa, c.Overall.Low, c.Overall.High, c.Overall.N, c.TalkAbout, c.Sample(4))
		for _, a := range c.Criteria {
			fmt.Fprintf(&b, "  %s %.3f %.4f %d\n", a.ID, a.Mean, a.Kappa, a.N)
		}
		sheets, shut := assess.Sheets(s, records)
		for who := int64(1); who < 10; who++ {
			x := sheets[who]
			o := s.Outcome(x, []int64{1, 2})
			well, next := s.Feedback(x, []int64{1, 2})
			fmt.Fprintf(&b, "  %d: open %t, shut %t, final %v %s, talk %t %s; %v; %q %q\n", who, x.Open([]int64{1, 2}), shut, o.Final, o.Grade, o.Talk, o.Reason, o.By, well, next)
		}
	}
	brief, err := assess.ReadBrief("2 dishes\n1 accompaniment\nat least 1 hot\nat most 1 cold\ncost at most 3.00\nat least 2 colours\n", time.UTC, nil)
	if err != nil {
		fmt.Fprintf(&b, "%v\n", err)
	}
	for _, size := range []int{4, 7, 12} {
		for _, set := range (assess.Search{Brief: brief, Shelf: many(size), Portions: 4, Seed: 2}).Find(context.Background()) {
			fmt.Fprintf(&b, "%d: not met %d, not known %d, %.3f:", size, set.NotMet, set.NotKnown, set.Balance)
			for _, d := range set.Dishes {
				fmt.Fprintf(&b, " %s %t", d.ID, d.Side)
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "marks.golden", b.String())
}
