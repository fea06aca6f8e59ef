package plan

import (
	"fmt"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
	"freshapron/internal/web/head"
)

// A sheet is the view model of the print-out: one A4 page.
type sheet struct {
	head.Head
	Grouping, Sets     string
	Chance             string
	Tables             []table
	Lines              []line
	Ovens              []string
	Swaps              []string
	Calls              []call
	Papers             []link
	Allergens, Unknown []string
	ToRead             string
}

func sheetOf(v *lessons.View) sheet {
	s := sheet{
		Head: head.Of(v), Grouping: v.Core.Grouping(), Sets: v.Core.Sets(),
		Lines: linesOf(v), Calls: callsFrom(v.Fit, v.Plan), Papers: papersOf(v.ID, "Teacher"),
	}
	known, unknown := v.Core.Allergens()
	s.Allergens, s.Unknown = v.Larder.Declared().Declare(known), unknown
	s.ToRead = recipe.LabelsSay(v.Core.ToRead())
	s.Chance = fmt.Sprintf("About %s.", v.Plan.Risk.Benches.Says("bench", "benches"))
	if guessed, all := v.Core.Guessed(); guessed >= 1 {
		s.Chance += " " + lesson.GuessesSay(guessed, all)
	}
	tables, _ := tablesOf(v)
	for i, t := range tables {
		if len(v.Sizes[i].Swaps) == 0 {
			s.Tables = append(s.Tables, t)
		}
	}
	for _, w := range v.Swapped {
		s.Swaps = append(s.Swaps, fmt.Sprintf("%s %s for %s: %s", w.Need.Total, w.Line.Name, w.For, words.Numbered(w.Benches)))
	}
	for _, o := range lesson.Ovens(v.Fit, v.Plan) {
		s.Ovens = append(s.Ovens, fmt.Sprintf("%s at %s °C, on at %s, first tray in by %s",
			words.Numbered(o.Units), o.Celsius.Decimal(0), v.Fit.At(o.On), v.Fit.At(o.LastTray)))
	}
	return s
}
