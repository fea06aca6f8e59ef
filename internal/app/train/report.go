package train

import (
	"cmp"
	"context"
	"slices"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	learners "freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/skills"
	core "freshapron/internal/core/train"
	"freshapron/internal/store"
)

// A Row says how somebody stands in a practice.
type Row struct {
	Name         string
	ID           int64 // of the learner
	Tries, Right int
	Stuck        string // the template that goes wrong; see core/train
}

// A Report is how a class stands in a practice.
type Report struct {
	store.Practice
	Rows     []Row
	Others   int // tries of those who are not on the list
	Hardest  []core.Hard
	Finished int // have tried enough
}

// Enough tries are about five minutes.
const Enough = 10

// ReportOf returns how a class stands in a practice.
func ReportOf(ctx context.Context, p store.Practice) (Report, error) {
	in := school.In(ctx)
	r := Report{Practice: p}
	names, err := school.NamesOf(ctx, p.Class)
	if err != nil {
		return r, err
	}
	who, err := in.Practisers(ctx, p.ID)
	if err != nil {
		return r, err
	}
	tries, err := in.TriesIn(ctx, p.ID)
	if err != nil {
		return r, err
	}
	own := map[int64][]core.Try{} // by learner
	var all []core.Try
	for _, w := range who {
		own[w.Learner] = append(own[w.Learner], tries[w.Token]...)
		all = append(all, tries[w.Token]...)
	}
	r.Hardest, r.Others = core.Hardest(all), len(own[0])
	for _, n := range names {
		row := Row{Name: n.Says, ID: n.ID, Tries: len(own[n.ID]), Stuck: core.Stuck(own[n.ID])}
		for _, t := range own[n.ID] {
			if t.Right {
				row.Right++
			}
		}
		if row.Tries >= Enough {
			r.Finished++
		}
		r.Rows = append(r.Rows, row)
	}
	return r, nil
}

// A Readiness is how ready a class is for a lesson.
type Readiness struct {
	Known   bool // something is known of somebody
	Names   []string
	Lacking []skills.Lacking // of the names by their place
}

// known is what is known of the learners of a class: what was kept, and what the list of
// the class says that they can do.
func known(ctx context.Context, g skills.Graph, c store.Class) (map[int64][]skills.Evidence, error) {
	in := school.In(ctx)
	out, err := in.Evidence(ctx, c.ID)
	for _, l := range c.Roster {
		if len(l.Can) > 0 && err == nil {
			out[l.ID] = append(out[l.ID], g.Listed(l.Can, in.Now())...)
		}
	}
	return out, err
}

// Ready returns which skills that a lesson asks for, by the words of its steps, are not
// known of whom.
func Ready(ctx context.Context, v *lessons.View) (Readiness, error) {
	in := school.In(ctx)
	var out Readiness
	c, err := in.Class(ctx, v.Class.ID)
	if err != nil {
		return out, err
	}
	names := school.NamesIn(c)
	g, err := Skills(ctx)
	if err != nil {
		return out, err
	}
	evidence, err := known(ctx, g, c)
	if err != nil {
		return out, err
	}
	out.Known = len(evidence) > 0
	var class [][]skills.Evidence
	for _, n := range names {
		out.Names = append(out.Names, n.Says)
		class = append(class, evidence[n.ID])
	}
	var steps []skills.Step
	for _, c := range v.Core.Menu {
		for _, s := range c.Recipe.Steps {
			if s.Kind != fit.Clean {
				steps = append(steps, skills.Step{Title: s.Title, Words: s.Text})
			}
		}
	}
	out.Lacking = g.Lack(steps, class, in.Now())
	return out, nil
}

// A Person is a learner with what they can.
type Person struct {
	ID          int64
	Name, Given string
	Class       store.Class
	Skills      skills.Graph
	Standings   []skills.Standing // of the graph's skills, in its order
	Next        []skills.Skill
}

// Learner returns what a learner of one's own class can.
func Learner(ctx context.Context, class, id int64) (Person, error) {
	in := school.In(ctx)
	c, err := school.Own(ctx, class)
	if err != nil {
		return Person{}, err
	}
	at := slices.IndexFunc(c.Class.Roster, func(l learners.Learner) bool { return l.ID == id })
	if at < 0 {
		return Person{}, school.ErrNotFound
	}
	l := c.Class.Roster[at]
	g, err := Skills(ctx)
	if err != nil {
		return Person{}, err
	}
	all, err := known(ctx, g, c.Class)
	if err != nil {
		return Person{}, err
	}
	out := Person{ID: id, Name: l.Name(), Given: cmp.Or(l.Given, l.Name()), Class: c.Class}
	out.Skills = g
	out.Standings, out.Next = g.All(all[id], in.Now())
	return out, nil
}

// See keeps that whoever acts has seen how a learner does something, or asked about it.
func See(ctx context.Context, class, id int64, skill string, how skills.How, level string, press string) error {
	in := school.In(ctx)
	p, err := Learner(ctx, class, id)
	if err != nil {
		return err
	}
	s, ok := p.Skills.Find(skill)
	if !ok {
		return problem.New("skill", "Choose what was done")
	}
	at := slices.Index([]string{"1", "2", "3"}, level) + 1
	if at == 0 || (how != skills.Seen && how != skills.Asked) {
		return problem.New("level", "Choose how well")
	}
	e := skills.Evidence{Skill: s.ID, At: in.Now(), How: how, Level: skills.Level(at), By: school.Acting(ctx).Name}
	return in.AddEvidence(ctx, press, []skills.Evidence{e}, p.ID)
}
