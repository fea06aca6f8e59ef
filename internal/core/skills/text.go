package skills

import (
	"fmt"
	"strings"

	"freshapron/internal/core/problem"
)

// MostSkills is how many a graph may have.
const MostSkills = 400

// cells of a line; see newSkill.
const cells = 6

// Text is a graph as people change it: a line for each skill, its cells parted by
// semicolons as Read takes them.
func (g Graph) Text() string {
	var b strings.Builder
	for _, s := range g.Skills {
		fmt.Fprintln(&b, strings.TrimRight(strings.Join([]string{s.ID, s.Name, s.Young, strings.Join(s.On, " | "), strings.Join(s.Said, " | "), s.Template}, "; "), "; "))
	}
	return b.String()
}

// Read reads a graph: a line for each skill with its id, its name, its words for the
// young, the ids of what it stands on, the words by which a recipe asks for it, and its
// exercise; from the third on they may be left out. What can't be is a problem at its
// line.
func Read(text string) (Graph, error) {
	var list []Skill
	var problems problem.List
	for n, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		row := strings.Split(line, ";")
		for i := range row {
			row[i] = strings.TrimSpace(row[i])
		}
		at := fmt.Sprintf("line %d", n+1)
		switch {
		case len(row) > cells:
			problems.Add(at, "line %d has %d parts, and a skill has %d at most: id; name; for the young; stands on; words; exercise", n+1, len(row), cells)
			continue
		case len(row) < 2 || row[0] == "" || row[1] == "":
			problems.Add(at, "line %d: a skill has at least an id and a name, with a semicolon between them", n+1)
			continue
		}
		list = append(list, newSkill(append(row, make([]string, cells-len(row))...)))
	}
	if len(list) == 0 || len(list) > MostSkills {
		problems.Add("skills", "there are %d skills, and there can be from 1 to %d", len(list), MostSkills)
	}
	if err := problems.Err(); err != nil {
		return Graph{}, err
	}
	return New(list)
}
