package recipes

import (
	"context"
	"io"

	"freshapron/internal/app/school"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/formats/recipetext"
)

// MaxBytes is the size of the largest file of recipes that is read.
const MaxBytes = recipefile.MaxBytes

// A Format is a way in which a dish is taken out.
type Format struct {
	Ending, Kind string
	write        func(w io.Writer, d Dish) error
}

// Formats lists them.
var Formats = []Format{
	{"jsonld", "application/ld+json", func(w io.Writer, d Dish) error { return jsonld.Write(w, d.Recipe) }},
	{"md", "text/markdown; charset=utf-8", func(w io.Writer, d Dish) error { return recipetext.Write(w, d.Recipe, d.Pantry) }},
	{"dish.json", "application/json", func(w io.Writer, d Dish) error { return lessonfile.WriteDish(w, d.Recipe.Dish(max(1, d.Yield))) }},
}

// Write writes a dish.
func (f Format) Write(w io.Writer, d Dish) error { return f.write(w, d) }

// ReadFile reads what was sent or pasted: one recipe or many. It returns a
// problem.List where there is none in it.
func ReadFile(ctx context.Context, data []byte) ([]recipe.Recipe, error) {
	larder, err := school.In(ctx).Larder(ctx)
	if err != nil {
		return nil, err
	}
	read, err := recipefile.Recognise(data, larder.System(), larder.Pantry)
	if err != nil {
		return nil, err
	}
	var out []recipe.Recipe
	for _, f := range read.Recipes {
		out = append(out, f.Recipe)
	}
	return out, nil
}

// Correct says in the lines of the ingredients how one of them is to be
// understood.
func Correct(ingredients string, line int, as string) string {
	return recipetext.Correct(ingredients, line, as)
}
