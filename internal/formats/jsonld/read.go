// Package jsonld reads and writes recipes as schema.org Recipe JSON-LD: a
// file, a pasted text, or the block inside a saved web page.
package jsonld

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"html"
	"io"
	"slices"
	"strings"

	"github.com/PuerkitoBio/goquery"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
	"freshapron/internal/formats/jsonkind"
	"freshapron/internal/formats/recipetext"
)

// A Found is a recipe in a file, and what somebody should look at.
type Found struct {
	recipetext.Reading
	Problems problem.List // fields of the wrong type, by their path
}

// ErrNone says that there is no recipe in the file.
var ErrNone = errors.New("there is no schema.org Recipe in it")

const (
	// maxRecipes is how many of one file are read.
	maxRecipes = 5000
	// maxParts are the ingredients, and the instructions, of a recipe that are read, and
	// maxAll those of all recipes of a file together.
	maxParts, maxAll = 400, 20_000
)

// Read reads all recipes of a JSON-LD file, or of the JSON-LD blocks of an
// HTML page.
func Read(data []byte, sys measure.System, p *pantry.Pantry) ([]Found, error) {
	r := &reader{sys: sys, pantry: p}
	trimmed := bytes.TrimSpace(data)
	if bytes.HasPrefix(trimmed, []byte("<")) {
		if err := r.page(trimmed); err != nil {
			return nil, err
		}
	} else if err := r.block(trimmed, "$"); err != nil {
		return nil, err
	}
	if len(r.found) == 0 {
		return nil, ErrNone
	}
	return r.found, nil
}

type reader struct {
	sys    measure.System
	pantry *pantry.Pantry
	found  []Found
	parts  int // that were read
}

// more reports whether another part of a recipe is read, of which there are some already.
func (r *reader) more(already int) bool {
	if already >= maxParts || r.parts >= maxAll {
		return false
	}
	r.parts++
	return true
}

// page reads the JSON-LD blocks of an HTML page.
func (r *reader) page(data []byte) error {
	doc, err := goquery.NewDocumentFromReader(bytes.NewReader(data))
	if err != nil {
		return fmt.Errorf("the page can't be read: %w", err)
	}
	var faults []error
	doc.Find("script").Each(func(n int, s *goquery.Selection) {
		if kind, _ := s.Attr("type"); strings.EqualFold(strings.TrimSpace(strings.Split(kind, ";")[0]), "application/ld+json") {
			if err := r.block([]byte(s.Text()), fmt.Sprintf("script[%d]", n)); err != nil {
				faults = append(faults, err)
			}
		}
	})
	if len(r.found) == 0 && len(faults) > 0 {
		return errors.Join(faults...)
	}
	return nil
}

func (r *reader) block(data []byte, path string) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		if errors.Is(err, io.EOF) {
			return fmt.Errorf("%s: is empty", path)
		}
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			line := 1 + bytes.Count(data[:min(int(syntax.Offset), len(data))], []byte("\n"))
			return fmt.Errorf("%s: is not JSON: %w, at line %d", path, err, line)
		}
		return fmt.Errorf("%s: is not JSON: %w", path, err)
	}
	r.walk(v, path, 0)
	return nil
}

// walk finds the recipes wherever they stand: alone, in a list, in a @graph
// or as what a page is about.
func (r *reader) walk(v any, path string, depth int) {
	const deepest = 40
	if depth > deepest || len(r.found) >= maxRecipes {
		return
	}
	switch v := v.(type) {
	case []any:
		for i, e := range v {
			r.walk(e, fmt.Sprintf("%s[%d]", path, i), depth+1)
		}
	case map[string]any:
		if isRecipe(v["@type"]) {
			r.found = append(r.found, r.recipe(v, path))
			return
		}
		for _, key := range slices.Sorted(keysOf(v)) {
			switch v[key].(type) {
			case []any, map[string]any:
				r.walk(v[key], path+"."+key, depth+1)
			}
		}
	}
}

func keysOf(m map[string]any) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func isRecipe(t any) bool {
	switch t := t.(type) {
	case string:
		return t == "Recipe" || strings.HasSuffix(t, "schema.org/Recipe")
	case []any:
		return slices.ContainsFunc(t, isRecipe)
	}
	return false
}

// one reads one recipe.
type one struct {
	*reader
	Found
	path string
	said []instruction
	cut  bool     // there are more
	asks []string // what somebody should look at, which nothing else shows
}

// technical fields say nothing about the dish.
var technical = []string{
	"image", "video", "aggregateRating", "review", "datePublished", "dateModified", "dateCreated", "mainEntityOfPage", "publisher", "isPartOf",
	"thumbnailUrl", "inLanguage", "interactionStatistic", "comment", "commentCount", "speakable", "potentialAction", "license", "copyrightHolder",
}

func (r *reader) recipe(v map[string]any, path string) Found {
	o := &one{reader: r, path: path}
	rec := &o.Recipe
	rec.Title = o.text(v, "name")
	if rec.Title == "" {
		o.problem("name", "is missing; it is taken as “Recipe without a name”")
		rec.Title = "Recipe without a name"
	}
	rec.Why = o.text(v, "description")
	o.yield(v["recipeYield"])
	o.ingredients(v)
	o.instructions(v["recipeInstructions"], "recipeInstructions")
	o.steps()
	o.times(v)
	rec.Equipment = append(rec.Equipment, o.list(v["tool"], "tool")...)
	rec.Source = o.source(v)
	used := []string{"name", "description", "recipeYield", "yield", "recipeIngredient", "ingredients", "recipeInstructions", "totalTime", "prepTime", "cookTime", "tool", "url", "author"}
	for _, key := range slices.Sorted(keysOf(v)) {
		if strings.HasPrefix(key, "@") || slices.Contains(used, key) || slices.Contains(technical, key) {
			continue
		}
		rec.Leftover = append(rec.Leftover, key+": "+brief(v[key]))
	}
	if rec.Each == 0 && rec.Yield > 0 {
		rec.Each = max(1, rec.Yield/2)
	}
	rec.ID = recipe.Slug(rec.Title, nil)
	for _, p := range o.Problems {
		o.asks = append(o.asks, p.Error()+".")
	}
	o.Notes = append(o.Notes, o.asks...)
	for _, t := range o.Takes {
		for _, says := range append(slices.Clone(t.Reading.Problems), t.Reading.Doubts...) {
			o.Notes = append(o.Notes, fmt.Sprintf("“%s”: %s.", t.Reading.Line, says))
		}
	}
	for _, l := range rec.Leftover {
		o.Notes = append(o.Notes, "Kept as it is: "+l)
	}
	rec.Leftover = append(rec.Leftover, o.asks...)
	return o.Found
}

func (o *one) problem(field, format string, args ...any) {
	path := field
	if o.path != "$" {
		path = o.path + "." + field
	}
	o.Problems = append(o.Problems, problem.Problem{Path: path, Says: fmt.Sprintf(format, args...)})
}

var (
	breaks = pattern.Must(`(?i)<\s*(?:br|/p|/li|/div|/h\d)\s*/?\s*>`)
	tags   = pattern.Must(`(?i)</?(?:p|br|li|ul|ol|div|span|b|i|u|em|strong|a|h[1-6]|sup|sub)(?:\s[^<>]*)?/?>`)
)

// plain takes the markup out of a text. What is no ordinary mark-up stays and
// is shown as the text that it is.
func plain(s string) string {
	s = tags.ReplaceAllString(breaks.ReplaceAllString(s, "\n"), " ")
	return strings.TrimSpace(html.UnescapeString(s))
}

// text takes a field that has to be a text.
func (o *one) text(v map[string]any, key string) string {
	switch t := v[key].(type) {
	case nil:
		return ""
	case string:
		return strings.Join(strings.Fields(plain(t)), " ")
	case json.Number:
		o.problem(key, "is a number; it is taken as the text %s", t)
		return t.String()
	default:
		o.problem(key, "is %s; it must be a text", jsonkind.Of(t))
		return ""
	}
}

// list takes a field that is a text or a list of texts or of things with a
// name.
func (o *one) list(v any, key string) []string {
	switch v := v.(type) {
	case nil:
		return nil
	case string:
		var out []string
		for line := range strings.Lines(plain(v)) {
			if line = strings.TrimSpace(line); line != "" {
				out = append(out, line)
			}
		}
		return out
	case json.Number:
		if key != "recipeYield" {
			o.problem(key, "is a number; it must be a list of texts")
			return nil
		}
		return []string{v.String()}
	case []any:
		var out []string
		for i, e := range v[:min(len(v), 2*maxParts)] { // what is read says that there are more
			switch e := e.(type) {
			case json.Number:
				if key != "recipeYield" {
					o.problem(fmt.Sprintf("%s[%d]", key, i), "is a number; it must be a text")
					continue
				}
				out = append(out, e.String())
			case string:
				out = append(out, strings.TrimSpace(plain(e)))
			case map[string]any:
				name, _ := e["name"].(string)
				if name == "" {
					name, _ = e["text"].(string)
				}
				if name == "" {
					o.problem(fmt.Sprintf("%s[%d]", key, i), "is an object without a name or a text; it must be a text")
					continue
				}
				out = append(out, plain(name))
			default:
				o.problem(fmt.Sprintf("%s[%d]", key, i), "is %s; it must be a text", jsonkind.Of(e))
			}
		}
		return out
	default:
		o.problem(key, "is %s; it must be a list of texts", jsonkind.Of(v))
		return nil
	}
}

var wholeNumber = pattern.Must(`\d+`)

func (o *one) yield(v any) {
	candidates := o.list(v, "recipeYield")
	for _, text := range candidates {
		if recipetext.SetYield(&o.Recipe, text) || recipetext.SetYield(&o.Recipe, "Makes "+text) || recipetext.SetYield(&o.Recipe, "Serves "+text) {
			if o.Recipe.Pieces != "portions" {
				return // the one that says what is counted
			}
		}
	}
	if o.Recipe.Yield > 0 || len(candidates) == 0 {
		return
	}
	if n := wholeNumber.FindString(candidates[0]); n != "" && recipetext.SetYield(&o.Recipe, "Serves "+n) {
		o.asks = append(o.asks, fmt.Sprintf("recipeYield “%s” is taken as %s portions.", candidates[0], n))
		return
	}
	o.Recipe.Leftover = append(o.Recipe.Leftover, "recipeYield: "+strings.Join(candidates, ", "))
}

func (o *one) ingredients(v map[string]any) {
	field := "recipeIngredient"
	if v[field] == nil && v["ingredients"] != nil {
		field = "ingredients"
	}
	part := ""
	for n, line := range o.list(v[field], field) {
		if !o.more(n) {
			o.problem(field, "has more ingredients than are read: from number %d on they are left out", n+1)
			break
		}
		if name, ok := recipe.Heading(line); ok {
			part = name
			continue
		}
		t := recipe.TakeLine(line, part, o.sys, o.pantry)
		o.Takes = append(o.Takes, t)
		o.Recipe.Ingredients = append(o.Recipe.Ingredients, t.Ingredient)
	}
}

func (o *one) instructions(v any, key string) {
	switch v := v.(type) {
	case nil:
	case string:
		for line := range strings.Lines(plain(v)) {
			o.step("", strings.Join(strings.Fields(line), " "))
		}
	case []any:
		for i, e := range v {
			o.instructions(e, fmt.Sprintf("%s[%d]", key, i))
		}
	case map[string]any:
		if items := v["itemListElement"]; items != nil {
			o.instructions(items, key+".itemListElement")
			return
		}
		text, ok := v["text"].(string)
		name, _ := v["name"].(string)
		if !ok && name == "" {
			o.problem(key, "has neither a text nor a name")
			return
		}
		o.step(plain(name), strings.Join(strings.Fields(plain(text)), " "))
	default:
		o.problem(key, "is %s; it must be a text or a HowToStep", jsonkind.Of(v))
	}
}

// step notes an instruction; it is cut into steps when all are there.
func (o *one) step(name, text string) {
	if text == "" {
		text, name = name, ""
	}
	switch {
	case text == "" || o.cut:
	case !o.more(len(o.said)):
		o.cut = true
		o.problem("recipeInstructions", "has more instructions than are read: from number %d on they are left out", len(o.said)+1)
	default:
		o.said = append(o.said, instruction{name, text})
	}
}

// An instruction as the file has it.
type instruction struct{ name, text string }

// steps cuts the instructions into steps. One that is a single step keeps the
// name that the file gives it.
func (o *one) steps() {
	var lines []string
	for _, s := range o.said {
		lines = append(lines, s.text)
	}
	steps, from, questions, guesses := reading.Method(lines, o.Takes, o.Recipe.Yield, o.pantry)
	count := map[int]int{}
	for _, n := range from {
		count[n]++
	}
	for i, n := range from {
		if n < 0 || count[n] > 1 {
			continue
		}
		// Many sites repeat the text, or its beginning, as the name.
		name, text := o.said[n].name, o.said[n].text
		cut := strings.TrimRight(name, ".… ")
		if repeats := strings.HasPrefix(text, cut) && (strings.HasSuffix(name, "…") || len(cut) > len(text)/2); name != "" && !repeats {
			steps[i].Title = name
		}
	}
	o.Recipe.Steps, o.Notes = steps, append(o.Notes, guesses...)
	o.asks = append(o.asks, questions...)
}

var iso = pattern.Must(`^P(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+(?:\.\d+)?)M)?(?:(\d+(?:\.\d+)?)S)?)?$`)

// Minutes reads an ISO 8601 duration such as PT1H30M.
func Minutes(s string) (exact.Number, bool) {
	m := iso.FindStringSubmatch(strings.ToUpper(strings.TrimSpace(s)))
	if m == nil || s == "P" || s == "PT" {
		return exact.Number{}, false
	}
	total := exact.Number{}
	for i, factor := range []exact.Number{exact.Int(1440), exact.Int(60), exact.Int(1), exact.Frac(1, 60)} {
		if m[i+1] == "" {
			continue
		}
		n, err := exact.Parse(m[i+1])
		if err != nil {
			return total, false
		}
		total = total.Add(n.Mul(factor))
	}
	return total, true
}

func (o *one) times(v map[string]any) {
	minutes := map[string]exact.Number{}
	for _, key := range []string{"totalTime", "prepTime", "cookTime"} {
		if v[key] == nil {
			continue
		}
		text := o.text(v, key)
		n, ok := Minutes(text)
		switch {
		case !ok && text != "":
			o.problem(key, "%q is no duration such as PT45M", text)
		case n.Cmp(exact.Int(recipe.MaxMinutes)) > 0:
			o.problem(key, "%q is longer than %d minutes", text, recipe.MaxMinutes)
		default:
			minutes[key] = n
		}
	}
	total := minutes["totalTime"]
	if total.Sign() == 0 {
		total = minutes["prepTime"].Add(minutes["cookTime"])
	}
	o.Recipe.Minutes = int(total.Round())
}

func (o *one) source(v map[string]any) string {
	var parts []string
	parts = append(parts, o.names(v["author"])...)
	if url, ok := v["url"].(string); ok && url != "" {
		parts = append(parts, url)
	}
	return strings.Join(parts, ", ")
}

func (o *one) names(v any) []string {
	switch v := v.(type) {
	case string:
		return []string{plain(v)}
	case map[string]any:
		if name, ok := v["name"].(string); ok {
			return []string{plain(name)}
		}
	case []any:
		var out []string
		for _, e := range v {
			out = append(out, o.names(e)...)
		}
		return out
	}
	return nil
}

// brief prints a value that was not understood.
func brief(v any) string {
	if s, ok := v.(string); ok {
		return strings.Join(strings.Fields(plain(s)), " ")
	}
	data, err := json.Marshal(v)
	if err != nil {
		return "?"
	}
	const most = 400
	if len(data) > most {
		return string(bytes.ToValidUTF8(data[:most], nil)) + "…"
	}
	return string(data)
}
