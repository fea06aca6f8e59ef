package recipes

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"freshapron/internal/app/recipes"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// A prospect is the view model of whether a dish will fit: a row for each way
// of working, a column for each length of period.
type prospect struct {
	ID      int64
	Title   string
	For     string
	Periods []int
	Rows    []prospectRow
	Cells   []prospectCell // for the shelf: the ways that fit each length
}

type prospectRow struct {
	Way, Groups string
	Cells       []outlook
	None        bool
}

type outlook struct {
	Left, Chance string
	Light, Word  string
}

// A prospectCell is a length of period with the ways of working that fit it.
type prospectCell struct {
	Period int
	Fits   bool
	Ways   string
	ways   []string
}

var wayWords = map[int]string{1: "alone", 2: "in pairs", 3: "in threes", 4: "in fours"}

// outlooks shows whether a dish will fit: the table for the page of the dish,
// or one cell for the shelf.
func (p *place) outlooks(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	found, err := recipes.Outlook(r.Context(), d.ID)
	if err != nil {
		return err
	}
	part := "outlooks"
	if r.URL.Query().Get("short") != "" {
		part = "outlooks-cell"
	}
	return p.Render(w, r, http.StatusOK, templates, part, frame.Page{Title: "Will it fit: " + d.Title, Place: "recipes", Data: prospectOf(d, found)})
}

func prospectOf(d recipes.Dish, found *recipes.Prospect) prospect {
	out := prospect{ID: d.ID, Title: d.Title, For: fmt.Sprintf("%s in the %s, with the usual phases at the start and the end", words.Plural(found.Learners, "learner", "learners"), found.Room)}
	for _, way := range found.Ways {
		row := prospectRow{Way: wayWords[way.Size], Groups: words.Plural(way.Groups, "group", "groups"), None: len(way.Outlooks) == 0}
		for i, o := range way.Outlooks {
			if len(out.Cells) <= i {
				out.Cells = append(out.Cells, prospectCell{Period: o.Period})
				out.Periods = append(out.Periods, o.Period)
			}
			row.Cells = append(row.Cells, outlookOf(o, lesson.MostlyGuessed(d.GuessedMinutes())))
			if c := &out.Cells[i]; o.Left >= 0 {
				c.ways = append(c.ways, strings.TrimPrefix(wayWords[way.Size], "in "))
				c.Fits = true
			}
		}
		out.Rows = append(out.Rows, row)
	}
	possible := 0
	for _, row := range out.Rows {
		if !row.None {
			possible++
		}
	}
	for i := range out.Cells {
		c := &out.Cells[i]
		c.Ways = strings.Join(c.ways, ", ")
		if possible > 1 && len(c.ways) == possible {
			c.Ways = "however they work"
		}
	}
	return out
}

func outlookOf(o lesson.Outlook, guessed bool) outlook {
	out := outlook{Left: lesson.Minutes(o.Left) + " left", Chance: strconv.Itoa(int(100*o.Chance+0.5)) + " in 100", Light: "good", Word: "fits"}
	switch {
	case o.Left < 0:
		out.Left, out.Light, out.Word = lesson.Minutes(max(-o.Left, 0.5))+" missing", "stop", "does not fit"
	case o.Chance < 0.5:
		out.Light, out.Word = "look", "fits, at risk"
	case guessed:
		out.Light, out.Word = "look", "fits, a guess"
	}
	return out
}
