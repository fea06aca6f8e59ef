package plan

import (
	"fmt"
	"math"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/scale"
)

// A table is the amounts for benches that make the same number of pieces.
type table struct {
	Head  string
	Count string
	Class bool // the first table has the class beside it
	Parts []part
}

type part struct {
	Name string
	Rows []row
}

type row struct {
	Name, Note     string
	Exact          string
	Weight, Volume measured
	Says           string
	Warning        string
	Benches, Total string
}

// A measured amount with how far off it can be. Best marks the nearest of
// the ways to measure.
type measured struct {
	Says, Off string
	About     string // "about " where even this is not near enough
	Best      bool
}

func tablesOf(v *lessons.View) ([]table, string) {
	var out []table
	first := map[int]bool{}
	for _, size := range v.Sizes {
		r := v.Core.Menu[size.Course].Recipe
		t := table{Head: "One bench: " + r.Count(size.Pieces), Class: !first[size.Course]}
		if len(v.Menu) > 1 {
			t.Head = r.Title + ", one bench: " + r.Count(size.Pieces)
		}
		first[size.Course] = true
		switch {
		case len(size.Swaps) > 0:
			t.Head, t.Count = benchNames(size.Benches)+", with swaps: "+r.Count(size.Pieces), swapsOf(size.Swaps)
		case len(v.Sizes) > 1 || len(v.Menu) > 1:
			t.Count = fmt.Sprintf("%d of the %d benches", len(size.Benches), len(v.Benches))
		}
		if size.Open > 0 {
			t.Count += fmt.Sprintf(", %d at each still to choose", size.Open)
		}
		for _, name := range size.Recipe.Parts() {
			p := part{Name: name}
			for k, a := range size.Amounts {
				if a.Line.Part == name {
					p.Rows = append(p.Rows, rowOf(a, needOf(v, size, a, size.Lines[k])))
				}
			}
			t.Parts = append(t.Parts, p)
		}
		out = append(out, t)
	}
	return out, v.Core.Sets()
}

// needOf returns what the class needs of a line of a bench's recipe.
func needOf(v *lessons.View, size lesson.Size, a scale.Scaled, line int) scale.Need {
	if own := v.Needs[size.Course]; line < len(own) {
		return own[line]
	}
	for _, c := range v.Chosen {
		if c.Course == size.Course && c.Line.Name == a.Line.Name && (c.Line.Part == a.Line.Part || c.Choice == a.Line.Part) {
			return c.Need
		}
	}
	return scale.Need{}
}

// benchNames lists benches: "Bench 3", "Bench 3, Bench 7".
func benchNames(benches []lesson.Bench) string {
	var names []string
	for _, b := range benches {
		names = append(names, b.Name)
	}
	return strings.Join(names, ", ")
}

func swapsOf(list []lesson.Swap) string {
	var out []string
	for _, s := range list {
		out = append(out, s.Use+" for "+s.For)
	}
	return strings.Join(out, ", ")
}

func rowOf(a scale.Scaled, n scale.Need) row {
	best := a.First()
	r := row{
		Name: a.Called(a.Exact), Note: a.Line.Note, Exact: a.Exact.String(), Says: a.Says,
		Weight: measuredOf(a.ByWeight, best), Volume: measuredOf(a.ByVolume, best),
		Benches: n.Benches.String(), Total: n.Total.String(),
	}
	if a.ByCount != nil && (a.Exact.Unit.Dimension == measure.Count || best == a.ByCount) {
		r.Weight = measuredOf(a.ByCount, best)
	}
	if !a.Measurable() {
		r.Warning = warning(a)
		r.Weight.About, r.Volume.About = "about ", "about "
	}
	return r
}

func measuredOf(i, best *measure.Instruction) measured {
	if i == nil {
		return measured{}
	}
	m := measured{Says: i.Says, Best: i == best}
	if percent := i.Error() * 100; percent >= 0.5 {
		m.Off = fmt.Sprintf("± %d %%", int(math.Round(percent)))
	}
	return m
}

// warning says how far off an amount is that can't be measured well, and the
// way out.
func warning(a scale.Scaled) string {
	limit := fmt.Sprintf("%.0f %%", a.Tolerance*100)
	if best := a.Best(); best != nil {
		return fmt.Sprintf("At best ± %.0f %%, and %s is the limit: weigh it once for the whole class and share it out.", best.Error()*100, limit)
	}
	return "Nothing in this room measures so little: weigh it once for the whole class and share it out."
}
