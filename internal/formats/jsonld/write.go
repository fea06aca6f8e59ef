package jsonld

import (
	"fmt"
	"io"
	"math"
	"strings"

	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/jsonout"
)

type recipeJSON struct {
	Context      string    `json:"@context"`
	Type         string    `json:"@type"`
	Name         string    `json:"name"`
	Description  string    `json:"description,omitempty"`
	Yield        string    `json:"recipeYield,omitempty"`
	TotalTime    string    `json:"totalTime,omitempty"`
	Ingredients  []string  `json:"recipeIngredient"`
	Instructions []howTo   `json:"recipeInstructions"`
	Tools        []toolRef `json:"tool,omitempty"`
	Keywords     string    `json:"keywords,omitempty"`
}

type howTo struct {
	Type string `json:"@type"`
	Name string `json:"name"`
	Text string `json:"text"`
}

type toolRef struct {
	Type string `json:"@type"`
	Name string `json:"name"`
}

// Write writes a recipe for other programs: what schema.org has a word for.
func Write(to io.Writer, r recipe.Recipe) error {
	out := recipeJSON{
		Context: "https://schema.org", Type: "Recipe", Name: r.Title, Description: r.Why,
		Keywords: strings.Join(r.Skills, ", "), Ingredients: []string{}, Instructions: []howTo{},
	}
	if r.Yield > 0 {
		out.Yield = r.Count(r.Yield)
	}
	if minutes, ok := r.InAll(2); ok {
		out.TotalTime = fmt.Sprintf("PT%dM", int(math.Ceil(minutes)))
	}
	part := ""
	for _, i := range r.Ingredients {
		if i.Part != part {
			part = i.Part
			out.Ingredients = append(out.Ingredients, part+":")
		}
		out.Ingredients = append(out.Ingredients, i.Line())
	}
	for _, s := range r.Steps {
		text := s.Text
		for _, more := range []struct{ label, text string }{{"Look for: ", s.LookFor}, {"If it goes wrong: ", s.Mistake}, {"Careful: ", s.Hazard}} {
			if more.text != "" {
				text = strings.TrimSpace(text) + " " + more.label + strings.TrimRight(more.text, ".") + "."
			}
		}
		if text == "" {
			text = s.Title
		}
		out.Instructions = append(out.Instructions, howTo{"HowToStep", s.Title, strings.TrimSpace(text)})
	}
	for _, e := range r.Equipment {
		out.Tools = append(out.Tools, toolRef{"HowToTool", e})
	}
	return jsonout.Write(to, out)
}
