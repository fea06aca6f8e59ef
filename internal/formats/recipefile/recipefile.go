// Package recipefile reads a recipe in whichever of the formats it comes:
// schema.org JSON-LD, a saved web page, a dish of a lesson file, Markdown or
// plain text.
package recipefile

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/recipetext"
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
	sys := usual
	if u, ok := reading.Country(string(data[:min(len(data), MaxBytes)])); ok {
		sys = u.Taken
	}
	f, err := Parse(data, sys, p)
	for i := range f.Recipes {
		if r := &f.Recipes[i].Recipe; r.Units == "" && sys.Name != usual.Name {
			r.Units = sys.Name
		}
	}
	return f, err
}

// Parse is Read for what is in memory already.
func Parse(data []byte, sys measure.System, p *pantry.Pantry) (File, error) {
	trimmed := bytes.TrimSpace(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")))
	switch {
	case len(data) > MaxBytes:
		return File{}, problem.New("$", "the file is over %d MB; no recipe is that long", MaxBytes>>20)
	case len(trimmed) == 0:
		return File{}, problem.New("$", "the file is empty")
	case !utf8.Valid(trimmed):
		return File{}, problem.New("$", "the file is no text in UTF-8")
	case bytes.IndexByte(trimmed, 0) >= 0:
		return File{}, problem.New("$", "the file is no text")
	case trimmed[0] == '{' || trimmed[0] == '[' || trimmed[0] == '<':
		return structured(trimmed, sys, p)
	}
	if n := bytes.Count(trimmed, []byte("\n")) + 1; n > mostLines {
		return File{}, problem.New("$", "the text has %d lines, and at most %d are read at once; bring it in in parts", n, mostLines)
	}
	var found []jsonld.Found
	dishes, above := reading.Split(string(trimmed), p)
	for n, d := range dishes {
		read := recipetext.Read(d.Text, sys, p)
		if n == 0 && above != "" {
			read.Notes = append(read.Notes, fmt.Sprintf("Above the first dish stands: %s", above))
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
