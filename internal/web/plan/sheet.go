package plan

import (
	"fmt"
	"slices"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/words"
)

// A sheet is the view model of the print-out: one A4 page.
type sheet struct {
	School, Dish, Class, When, Room string
	ID                              int64
	Grouping, Sets                  string
	Figure, Meaning                 string
	Bell                            string
	Chance                          string
	Tables                          []table
	Lines                           []line
	Ovens                           []string
	Swaps                           []string
	Calls                           []call
	Papers                          []link
	Allergens, Unknown              []string
}

func sheetOf(v *lessons.View) sheet {
	s := sheet{
		ID: v.ID, Dish: v.Dish.Title, Class: v.Class.Name, Room: v.Room.Name,
		When:     fmt.Sprintf("%s, %s, %s–%s", v.Date.Format("Monday 2 January 2006"), v.Period.Name, v.Period.Start, v.Period.End),
		Grouping: v.Core.Grouping(), Sets: v.Core.Sets(),
		Figure: lesson.Left(v.Plan), Meaning: meaning(v.Plan), Bell: v.Period.End.String(),
		Lines: linesOf(v), Calls: callsFrom(v.Fit, v.Plan), Papers: papersOf(v.ID, "Teacher"),
	}
	known, unknown := v.Dish.Allergens(v.Larder.Pantry)
	for _, size := range v.Sizes { // what benches swap brings its own
		more, doubts := size.Recipe.Allergens(v.Larder.Pantry)
		for _, a := range more {
			if !slices.Contains(known, a) {
				known = append(known, a)
			}
		}
		for _, u := range doubts {
			if !slices.Contains(unknown, u) {
				unknown = append(unknown, u)
			}
		}
	}
	s.Allergens, s.Unknown = v.Larder.Declared().Declare(known), unknown
	for _, judged := range v.Verdicts {
		if judged.About == "chance" {
			s.Chance = judged.Head + " such lessons end on time."
		}
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
