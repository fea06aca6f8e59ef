// Package recipefile reads a recipe in whichever of the formats it comes:
// schema.org JSON-LD, a saved web page, a dish of a lesson file, Markdown or
// plain text.
package recipefile

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/document"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/recipetext"
	"freshapron/internal/formats/table"
)

// MaxBytes is the size of the largest file that is read.
const MaxBytes = 16 << 20

// mostLines are those of a text that are read at once: some hundreds of recipes.
const mostLines = 20_000

// A File is what was read, and from what.
type File struct {
	Kind    string // "schema.org JSON-LD", "dish of a lesson file", "text"
	Recipes []jsonld.Found
}

// Read reads a file. The error names what keeps it from being a recipe, as
// problem.List where it has a place.
func Read(from io.Reader, sys measure.System, p *pantry.Pantry) (File, error) {
	data, err := io.ReadAll(io.LimitReader(from, MaxBytes+1))
	if err != nil {
		return File{}, err
	}
	return Parse(data, sys, p)
}

// Recognise is Parse in the units that the signs in the text make likely, or
// in the usual ones where it has none. Recipes whose units are not the usual
// ones say so.
func Recognise(data []byte, usual measure.System, p *pantry.Pantry) (File, error) {
	text, err := textOf(data)
	if err != nil {
		return File{}, err
	}
	sys := usual
	if u, ok := reading.Country(text); ok {
		sys = u.Taken
	}
	f, err := parse(text, sys, p)
	for i := range f.Recipes {
		if r := &f.Recipes[i].Recipe; r.Units == "" && sys.Name != usual.Name {
			r.Units = sys.Name
		}
	}
	return f, err
}

// Parse is Read for what is in memory already.
func Parse(data []byte, sys measure.System, p *pantry.Pantry) (File, error) {
	text, err := textOf(data)
	if err != nil {
		return File{}, err
	}
	return parse(text, sys, p)
}

// textOf returns the text of a file.
func textOf(data []byte) (string, error) {
	if len(data) > MaxBytes {
		return "", problem.New("$", "the file is over %d MB; no recipe is that long", MaxBytes>>20)
	}
	text, err := Text(data)
	if err != nil {
		return "", problem.New("$", "%s", err)
	}
	return strings.TrimSpace(text), nil
}

// Text returns the text of a file, be it a workbook. The error says in a sentence what the file is instead.
func Text(data []byte) (string, error) {
	if table.IsBook(data) {
		return rowsOf(data)
	}
	return document.Text(data)
}

// rowsOf returns a sheet of a workbook as text, a line for each row. Where an empty column parts a list from a
// method, one comes behind the other.
func rowsOf(data []byte) (string, error) {
	lines, err := table.Lines(data)
	if err != nil {
		return "", err
	}
	var b strings.Builder
	write := func(from, to int) {
		for _, l := range lines {
			if cells := slices.DeleteFunc(slices.Clone(l.Cells[from:to]), func(c string) bool { return c == "" }); len(cells) > 0 {
				b.WriteString(strings.Join(cells, " | ") + "\n")
			}
		}
	}
	at := betweenBlocks(lines)
	write(0, at)
	write(at, len(lines[0].Cells))
	return b.String(), nil
}

// betweenBlocks returns the column that is empty and behind which there are sentences; the width where there
// is none.
func betweenBlocks(lines []table.Line) int {
	width := len(lines[0].Cells)
	for at := 1; at < width; at++ {
		if slices.ContainsFunc(lines, func(l table.Line) bool { return l.Cells[at] != "" }) {
			continue
		}
		filled, sentences := 0, 0
		for _, l := range lines {
			text := strings.Join(l.Cells[at:], " ")
			if words := len(strings.Fields(text)); words > 0 {
				filled++
				if words >= sentenceWords {
					sentences++
				}
			}
		}
		if filled > 1 && 2*sentences >= filled {
			return at
		}
	}
	return width
}

const sentenceWords = 3 // at least

func parse(text string, sys measure.System, p *pantry.Pantry) (File, error) {
	if text == "" {
		return File{}, problem.New("$", "the file is empty")
	}
	if text[0] == '{' || text[0] == '[' || text[0] == '<' {
		return structured([]byte(text), sys, p)
	}
	if n := strings.Count(text, "\n") + 1; n > mostLines {
		return File{}, problem.New("$", "the text has %d lines, and at most %d are read at once; bring it in in parts", n, mostLines)
	}
	var found []jsonld.Found
	dishes, above := reading.Split(text, p)
	for n, d := range dishes {
		read := recipetext.Read(d.Text, sys, p)
		if n == 0 && above != "" {
			read.Recipe.Leftover = append(read.Recipe.Leftover, strings.Split(above, "\n")...)
		}
		if len(read.Recipe.Ingredients) > 0 || len(read.Recipe.Steps) > 0 {
			found = append(found, jsonld.Found{Reading: read})
		}
	}
	if len(found) == 0 {
		return File{}, problem.New("$", "no line in it can be read as an ingredient or a step; write the ingredients one to a line, then the steps")
	}
	return File{"text", found}, nil
}

func structured(data []byte, sys measure.System, p *pantry.Pantry) (File, error) {
	if data[0] == '{' {
		var probe struct {
			Format string          `json:"format"`
			Steps  json.RawMessage `json:"steps"`
			Type   json.RawMessage `json:"@type"`
		}
		if json.Unmarshal(data, &probe) == nil && probe.Type == nil {
			switch {
			case probe.Format == lessonfile.Format:
				l, err := lessonfile.Read(bytes.NewReader(data))
				if err != nil {
					return File{}, err
				}
				d, err := lessonfile.OnlyDish(l)
				return dish(d, sys, p), err
			case probe.Steps != nil:
				d, err := lessonfile.ReadDish(bytes.NewReader(data))
				return dish(d, sys, p), err
			}
		}
	}
	found, err := jsonld.Read(data, sys, p)
	switch {
	case errors.Is(err, jsonld.ErrNone) && data[0] == '<':
		return File{}, problem.New("$", "there is no schema.org Recipe in the page; copy its ingredients and steps as text instead")
	case errors.Is(err, jsonld.ErrNone):
		return File{}, problem.New("$", "is neither a schema.org Recipe (\"@type\": \"Recipe\") nor a dish of a lesson file (\"id\" and \"steps\")")
	case err != nil:
		return File{}, problem.New("$", "%s", strings.TrimPrefix(err.Error(), "$: "))
	}
	return File{"schema.org JSON-LD", found}, nil
}

func dish(d fit.Dish, sys measure.System, p *pantry.Pantry) File {
	f := jsonld.Found{}
	f.Recipe = recipe.FromDish(d, sys, p)
	f.Notes = []string{"A dish of a lesson file does not say how many it serves: its amounts are taken as one portion."}
	return File{"dish of a lesson file", []jsonld.Found{f}}
}
