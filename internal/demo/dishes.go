package demo

import (
	"embed"
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/recipetext"
)

//go:embed dishes/*.md drafts/*.md
var files embed.FS

// Dishes returns the dishes of the demonstration school, written out in full,
// in the order of their file names.
func Dishes() []recipe.Recipe { return read("dishes") }

// Dish returns one of them by its id; it panics where there is none.
func Dish(id string) recipe.Recipe {
	for _, r := range Dishes() {
		if r.ID == id {
			return r
		}
	}
	panic("no dish " + id)
}

// Drafts returns two recipes full of the usual mistakes.
func Drafts() []recipe.Recipe { return read("drafts") }

func read(folder string) []recipe.Recipe {
	entries, err := files.ReadDir(folder)
	if err != nil {
		panic(err)
	}
	var out []recipe.Recipe
	for _, e := range entries {
		data, err := files.ReadFile(folder + "/" + e.Name())
		if err != nil {
			panic(err)
		}
		r := recipetext.Read(string(data), measure.Metric, pantry.Stock()).Recipe
		r.ID = strings.TrimSuffix(e.Name(), ".md")
		out = append(out, r)
	}
	return out
}
