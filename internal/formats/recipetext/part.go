package recipetext

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// Ingredients reads a list of lines, with part headings and braces as in a
// whole recipe.
func Ingredients(text string, sys measure.System, p *pantry.Pantry) []recipe.Taking {
	r := &reader{sys: sys, pantry: p, in: ingredients}
	for line := range strings.Lines(text) {
		line = strings.TrimSpace(line)
		if m := headingMark.FindStringSubmatch(line); m != nil {
			r.part = m[2]
		} else if line != "" {
			r.ingredient(line, listMark.ReplaceAllString(line, ""))
		}
	}
	return r.Takes
}

// IngredientsText writes the list as Ingredients reads it.
func IngredientsText(list []recipe.Ingredient, p *pantry.Pantry) string {
	var b strings.Builder
	part := ""
	for _, i := range inParts(list) {
		if i.Part != part {
			part = i.Part
			if b.Len() > 0 {
				b.WriteByte('\n')
			}
			b.WriteString(oneLine(part) + ":\n")
		}
		b.WriteString(ingredientLine(i, p) + "\n")
	}
	return b.String()
}

// inParts returns the ingredients with those of no part first: under the
// heading of a part there is no way to say that a line belongs to none.
func inParts(list []recipe.Ingredient) []recipe.Ingredient {
	out := slices.Clone(list)
	slices.SortStableFunc(out, func(a, b recipe.Ingredient) int {
		return cmp.Compare(min(1, len(a.Part)), min(1, len(b.Part)))
	})
	return out
}

// Correct rewrites line n of a list, counted over its ingredients, with
// another word in its braces: "is plain-flour" or a law of scaling.
func Correct(text string, n int, word string) string {
	lines := strings.Split(text, "\n")
	at := -1
	for i, line := range lines {
		trimmed := strings.TrimSpace(line)
		if _, heading := recipe.Heading(strings.Trim(trimmed, "*_ ")); trimmed == "" || heading || headingMark.MatchString(trimmed) {
			continue
		}
		if at++; at == n {
			lines[i] = corrected(strings.TrimRight(line, "\r "), word)
			break
		}
	}
	return strings.Join(lines, "\n")
}

func corrected(line, word string) string {
	var kept []string
	if m := braces.FindStringSubmatchIndex(line); m != nil {
		for _, w := range commas(line[m[2]:m[3]]) {
			is := strings.HasPrefix(w, "is ")
			if is == strings.HasPrefix(word, "is ") {
				continue // the new word replaces it
			}
			kept = append(kept, w)
		}
		line = line[:m[0]]
	}
	return fmt.Sprintf("%s {%s}", line, strings.Join(append(kept, word), ", "))
}

// Lists reads the parts of a recipe that are lists of lines: "words",
// "questions", "swaps" and "choices", each as in a whole recipe. It returns
// the lines that it did not understand.
func Lists(into *recipe.Recipe, texts map[string]string, sys measure.System, p *pantry.Pantry) (notUnderstood []string) {
	r := &reader{sys: sys, pantry: p}
	for name, is := range map[string]section{"words": words, "questions": questions, "swaps": swaps, "choices": other} {
		r.in = is
		for line := range strings.Lines(texts[name]) {
			line = strings.TrimSpace(line)
			if name == "choices" && choiceHead.MatchString(strings.TrimLeft(line, "# ")) {
				r.startChoice(strings.TrimLeft(line, "# "))
				r.in = choice
				continue
			}
			if line != "" && !headingMark.MatchString(line) {
				r.line(line)
			}
		}
	}
	into.Words, into.Questions, into.Swaps, into.Choices = r.Recipe.Words, r.Recipe.Questions, r.Recipe.Swaps, r.Recipe.Choices
	return r.Recipe.Leftover
}

// ListText writes one of the lists as Lists reads it.
func ListText(r recipe.Recipe, name string, p *pantry.Pantry) string {
	only := recipe.Recipe{Title: "x"}
	switch name {
	case "words":
		only.Words = r.Words
	case "questions":
		only.Questions = r.Questions
	case "swaps":
		only.Swaps = r.Swaps
	case "choices":
		only.Choices = r.Choices
	}
	var b strings.Builder
	_ = Write(&b, only, p) // to memory: it can't fail
	var lines []string
	for line := range strings.Lines(b.String()) {
		line = strings.TrimSpace(line)
		switch {
		case line == "" || line == "# x" || strings.HasPrefix(line, "## ") && name != "choices":
		case strings.HasPrefix(line, "## "):
			lines = append(lines, strings.TrimPrefix(line, "## "))
		default:
			lines = append(lines, strings.TrimPrefix(line, "- "))
		}
	}
	return strings.Join(lines, "\n")
}
