// Package skills is what learners of a school kitchen can do: a graph of skills of
// which each stands on others, evidence of how somebody was seen to have one, how good
// and how fresh that is now, and who is ready for a lesson.
package skills

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/problem"
)

// A Skill of the graph.
type Skill struct {
	ID, Name string
	Young    string         // for the young; empty where it is not for them
	On       []string       // ids of the skills that it stands on
	Words    *regexp.Regexp // by which a step of a recipe asks for it; nil for none
	Template string         // of the exercise that practises it; empty where there is none
}

// A Graph is skills by id, each after those that it stands on.
type Graph struct {
	Skills []Skill
	at     map[string]int
}

//go:embed skills.csv
var shipped string

// Shipped is the graph that ships; a school's own is made from it.
var Shipped = func() Graph {
	rows, err := csv.NewReader(strings.NewReader(shipped)).ReadAll()
	if err != nil {
		panic(err)
	}
	var list []Skill
	for _, r := range rows[1:] {
		s := Skill{ID: r[0], Name: r[1], Young: r[2], Template: r[5]}
		if r[3] != "" {
			s.On = strings.Split(r[3], "|")
		}
		if r[4] != "" {
			s.Words = regexp.MustCompile(`(?i)(?:^|[^\p{L}])(?:` + r[4] + `)`)
		}
		list = append(list, s)
	}
	g, err := New(list)
	if err != nil {
		panic(err)
	}
	return g
}()

// New returns a graph of skills. It is a problem where one stands on itself by way of
// others, on none that there is, or where two have one id.
func New(list []Skill) (Graph, error) {
	g := Graph{at: map[string]int{}}
	byID := map[string]Skill{}
	var problems problem.List
	for i, s := range list {
		if _, twice := byID[s.ID]; twice || s.ID == "" {
			problems.Add(fmt.Sprintf("skills[%d].id", i), "“%s” is there twice, or empty", s.ID)
		}
		byID[s.ID] = s
	}
	state := map[string]int{} // 1 is under way, 2 done
	var visit func(id string, path []string)
	visit = func(id string, path []string) {
		switch state[id] {
		case 1:
			problems.Add("skills."+id, "stands on itself: %s", strings.Join(append(path, id), " on "))
			return
		case 2:
			return
		}
		state[id] = 1
		for _, on := range byID[id].On {
			if _, ok := byID[on]; !ok {
				problems.Add("skills."+id+".on", "there is no skill “%s”", on)
				continue
			}
			visit(on, append(slices.Clone(path), id))
		}
		state[id] = 2
		g.at[id] = len(g.Skills)
		g.Skills = append(g.Skills, byID[id])
	}
	for _, s := range list {
		visit(s.ID, nil)
	}
	if err := problems.Err(); err != nil {
		return Graph{}, err
	}
	return g, nil
}

// Find returns a skill, and whether there is one.
func (g Graph) Find(id string) (Skill, bool) {
	i, ok := g.at[id]
	if !ok {
		return Skill{}, false
	}
	return g.Skills[i], true
}

// Below returns all that a skill stands on, by way of others too, the lowest first.
func (g Graph) Below(id string) []Skill {
	in := map[string]bool{}
	var add func(id string)
	add = func(id string) {
		s, _ := g.Find(id)
		for _, on := range s.On {
			if !in[on] {
				in[on] = true
				add(on)
			}
		}
	}
	add(id)
	var out []Skill
	for _, s := range g.Skills {
		if in[s.ID] {
			out = append(out, s)
		}
	}
	return out
}

// For returns the skills that a step of a recipe asks for, by its words.
func (g Graph) For(words string) []Skill {
	var out []Skill
	for _, s := range g.Skills {
		if s.Words != nil && s.Words.MatchString(words) {
			out = append(out, s)
		}
	}
	return out
}

// How somebody was found to have a skill.
type How string

// The ways.
const (
	Seen      How = "seen"      // by an adult, while it was done
	Asked     How = "asked"     // and answered
	Practised How = "practised" // in a trainer
	Measured  How = "measured"  // evenness, a temperature, an amount within its tolerance
	Made      How = "made"      // a step of a lesson that this cook did
)

// Ways lists them.
var Ways = []How{Seen, Asked, Practised, Measured, Made}

// A Level of a skill, from 1; 0 is that nothing is known.
type Level int

// The levels.
const (
	Begins Level = 1 // with help, or in a trainer
	Can    Level = 2 // by themselves
	Shows  Level = 3 // and shows others
)

// LevelWords say the levels.
var LevelWords = map[Level]string{0: "not known", Begins: "begins", Can: "can", Shows: "can show others"}

// An Evidence that somebody has a skill.
type Evidence struct {
	Skill string
	At    time.Time
	How   How
	Level Level
	By    string // who saw it, or which lesson or exercise it was
}

// kinds says how much each way counts: up to which level it speaks, and after how many
// months half of it is faded; typical of what teachers trust.
var kinds = map[How]struct {
	most   Level
	months float64
}{
	Seen: {Shows, 9}, Asked: {Begins, 6}, Practised: {Begins, 4}, Measured: {Can, 9}, Made: {Can, 6},
}

// A Standing is how good somebody is at a skill now, and why.
type Standing struct {
	Level Level
	Fresh float64 // from 1, today, to 0
	Best  Evidence
	Count int
}

// least is how fresh evidence has to be to count for its level.
const least = 0.25

// daysInMonth, on the average.
const daysInMonth = 365.25 / 12

// Fresh is how much of evidence is left at a time.
func (e Evidence) Fresh(now time.Time) float64 {
	months := max(0, now.Sub(e.At).Hours()/24/daysInMonth)
	return math.Exp2(-months / kinds[e.How].months)
}

// Of returns how good somebody is at a skill by the evidence, at a time: the highest
// level that some evidence speaks for and that has not faded. What has faded goes down
// by a level for each time that it is halved under that.
func Of(list []Evidence, skill string, now time.Time) Standing {
	var out Standing
	for _, e := range list {
		k, ok := kinds[e.How]
		if e.Skill != skill || !ok || e.At.After(now) {
			continue
		}
		out.Count++
		level, fresh := min(e.Level, k.most), e.Fresh(now)
		for f := fresh; f < least && level > 0; f *= 2 {
			level--
		}
		if level > out.Level || level == out.Level && fresh > out.Fresh {
			out.Level, out.Fresh, out.Best = level, fresh, e
		}
	}
	return out
}

// A Gap is what somebody is not ready for in a lesson.
type Gap struct {
	Step     string  // its title
	Skill    Skill   // that it asks for
	Missing  []Skill // of it and of what it stands on, the lowest first
	Practise string  // the template of an exercise that would do; empty where there is none
}

// A Step of a lesson, with the words that say what is done.
type Step struct{ Title, Words string }

// Wants are the skills that each of the steps asks for.
func (g Graph) Wants(steps []Step) [][]Skill {
	out := make([][]Skill, len(steps))
	for i, s := range steps {
		out[i] = g.For(s.Title + ". " + s.Words)
	}
	return out
}

// Ready returns what somebody is not ready for: a skill that a step asks for and of
// which nothing is known, or of what it stands on. Each skill is said once, at the first
// step that asks for it.
func (g Graph) Ready(steps []Step, wants [][]Skill, list []Evidence, now time.Time) []Gap {
	levels := map[string]Level{}
	byID := map[string][]Evidence{}
	for _, e := range list {
		byID[e.Skill] = append(byID[e.Skill], e)
	}
	level := func(id string) Level {
		l, ok := levels[id]
		if !ok {
			l = Of(byID[id], id, now).Level
			levels[id] = l
		}
		return l
	}
	said := map[string]bool{}
	var out []Gap
	for i, step := range steps {
		for _, s := range wants[i] {
			if said[s.ID] || level(s.ID) > 0 {
				continue
			}
			said[s.ID] = true
			gap := Gap{Step: step.Title, Skill: s, Practise: s.Template}
			for _, below := range g.Below(s.ID) {
				if level(below.ID) == 0 && !g.shownBy(below.ID, level) {
					gap.Missing = append(gap.Missing, below)
					if gap.Practise == "" || below.Template != "" && len(gap.Missing) == 1 {
						gap.Practise = below.Template
					}
				}
			}
			gap.Missing = append(gap.Missing, s)
			out = append(out, gap)
		}
	}
	return out
}

// shownBy reports whether somebody has a skill that stands on another: who dices, has
// sliced.
func (g Graph) shownBy(id string, level func(string) Level) bool {
	for _, s := range g.Skills {
		if slices.Contains(s.On, id) && (level(s.ID) >= Can || g.shownBy(s.ID, level)) {
			return true
		}
	}
	return false
}
