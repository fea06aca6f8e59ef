// Package skills is what learners of a school kitchen can do: a graph of skills of
// which each stands on others, evidence of how somebody was seen to have one, how good
// and how fresh that is now, and who is ready for a lesson.
package skills

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"freshapron/internal/core/problem"
)

// A Skill of the graph.
type Skill struct {
	ID, Name string
	Young    string         // for the young; empty where it is not for them
	On       []string       // ids of the skills that it stands on
	Said     []string       // words by which a step of a recipe asks for it
	Words    *regexp.Regexp // which finds them; nil for none
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
		list = append(list, newSkill(r))
	}
	g, err := New(list)
	if err != nil {
		panic(err)
	}
	return g
}()

// newSkill makes one of its cells: id, name, for the young, what it stands on, the words
// that ask for it, and its exercise; several in a cell are parted by "|".
func newSkill(cells []string) Skill {
	s := Skill{ID: cells[0], Name: cells[1], Young: cells[2], On: parts(cells[3]), Said: parts(cells[4]), Template: cells[5]}
	if len(s.Said) > 0 {
		var any []string
		for _, w := range s.Said {
			any = append(any, regexp.QuoteMeta(w))
		}
		s.Words = regexp.MustCompile(`(?i)(?:^|[^\p{L}])(?:` + strings.Join(any, "|") + `)`)
	}
	return s
}

func parts(cell string) []string {
	var out []string
	for _, p := range strings.Split(cell, "|") {
		if p = strings.TrimSpace(p); p != "" {
			out = append(out, p)
		}
	}
	return out
}

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
