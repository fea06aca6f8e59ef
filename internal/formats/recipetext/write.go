package recipetext

import (
	"fmt"
	"io"
	"strings"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// Write writes a recipe as Markdown that Read reads back as the same recipe,
// in the metric system.
func Write(to io.Writer, r recipe.Recipe, p *pantry.Pantry) error {
	var b strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	say("# %s\n", oneLine(r.Title))
	if r.Why != "" {
		say("%s\n", oneLine(r.Why))
	}
	facts(say, r)
	part := ""
	if len(r.Ingredients) > 0 {
		say("\n## Ingredients\n")
	}
	for _, i := range inParts(r.Ingredients) {
		if i.Part != part {
			part = i.Part
			say("\n### %s\n", oneLine(part))
		}
		say("- %s", ingredientLine(i, p))
	}
	for _, c := range r.Choices {
		say("\n## Choose %d: %s\n", c.Take, oneLine(c.Name))
		for _, o := range c.Options {
			var lines []string
			for _, i := range o.Ingredients {
				lines = append(lines, i.Line())
			}
			say("- **%s**: %s", oneLine(o.Name), strings.Join(lines, "; "))
		}
	}
	list(say, "Equipment", r.Equipment)
	if len(r.Steps) > 0 {
		say("\n## Method")
	}
	for n, s := range r.Steps {
		writeStep(say, n, s)
	}
	list(say, "Checks on the way", r.Checks)
	if len(r.Words) > 0 {
		say("\n## Words\n")
		for _, w := range r.Words {
			say("- **%s**: %s", oneLine(w.Word), oneLine(w.Meaning))
		}
	}
	if len(r.Questions) > 0 {
		say("\n## Questions\n")
		for _, q := range r.Questions {
			spot := ""
			if q.Spot {
				spot = "Spot the mistake: "
			}
			say("- %s%s → %s", spot, oneLine(q.Ask), oneLine(q.Answer))
		}
	}
	if len(r.Swaps) > 0 {
		say("\n## Swaps\n")
		for _, s := range r.Swaps {
			line := s.For + " → " + s.Use
			if s.Why != "" {
				line += " (" + s.Why + ")"
			}
			if s.Note != "" {
				line += ": " + s.Note
			}
			say("- %s", oneLine(line))
		}
	}
	if len(r.SetAside) > 0 {
		say("\n## Set aside\n")
		for _, a := range r.SetAside {
			say("- %s: %s", oneLine(a.Key), oneLine(a.Reason))
		}
	}
	list(say, "Not understood", r.Leftover)
	_, err := io.WriteString(to, b.String())
	return err
}

func facts(say func(string, ...any), r recipe.Recipe) {
	if r.Yield > 0 {
		say("- Makes: %d %s (%s)", r.Yield, r.Pieces, r.Piece)
	}
	if r.Each > 0 {
		say("- Each learner: %d", r.Each)
	}
	if r.Level != "" {
		say("- Level: %s", oneLine(r.Level))
	}
	if r.Minutes > 0 {
		say("- Minutes in all: %d minutes", r.Minutes)
	}
	if r.Tin != nil {
		say("- Tin: %s", TinLine(*r.Tin))
	}
	if len(r.Skills) > 0 {
		say("- Skills: %s", oneLine(strings.Join(r.Skills, ", ")))
	}
	if len(r.Contains) > 0 {
		say("- Contains: %s", oneLine(strings.Join(r.Contains, ", ")))
	}
	if r.Units != "" {
		say("- Units: %s", r.Units)
	}
	if r.Source != "" {
		say("- Source: %s", oneLine(r.Source))
	}
}

// TinLine writes a tin as ParseTin reads it.
func TinLine(t recipe.Tin) string {
	s := t.Name
	if t.Diameter.Sign() > 0 {
		s += fmt.Sprintf(", %s cm across", t.Diameter.Decimal(2))
	} else if t.Length.Sign() > 0 {
		s += fmt.Sprintf(", %s × %s cm", t.Length.Decimal(2), t.Width.Decimal(2))
	}
	if t.Depth.Sign() > 0 {
		s += fmt.Sprintf(", %s cm deep", t.Depth.Decimal(2))
	}
	if t.Count > 1 {
		s += fmt.Sprintf(", %d of them", t.Count)
	}
	return s
}

// ingredientLine writes the line, with braces for what reading it would not
// find by itself.
func ingredientLine(i recipe.Ingredient, p *pantry.Pantry) string {
	line := oneLine(i.Line())
	back := recipe.TakeLine(line, i.Part, measure.Metric, p).Ingredient
	var extra []string
	if i.Pantry != "" && back.Pantry != i.Pantry {
		extra = append(extra, "is "+i.Pantry)
	}
	if i.Law != "" && back.Law != i.Law {
		extra = append(extra, string(i.Law))
	}
	if i.Role != "" {
		extra = append(extra, string(i.Role))
	}
	if i.Filling != "" && back.Filling != i.Filling {
		extra = append(extra, i.Filling)
	}
	if i.Brought {
		extra = append(extra, "brought")
	}
	if i.Optional && !back.Optional {
		extra = append(extra, "optional")
	}
	if len(extra) > 0 {
		line += " {" + strings.Join(extra, ", ") + "}"
	}
	return line
}

func writeStep(say func(string, ...any), n int, s recipe.Step) {
	say("\n### %d. %s {#%s}\n", n+1, oneLine(s.Title), s.ID)
	say("_%s_\n", s.Timing())
	if s.Text != "" {
		say("%s\n", oneLine(s.Text))
	}
	for _, line := range []struct{ label, text string }{
		{"Look for", s.LookFor}, {"If it goes wrong", s.Mistake}, {"Careful", s.Hazard}, {"Takes", strings.Join(s.Takes, ", ")},
	} {
		if line.text != "" {
			say("- %s: %s", line.label, oneLine(line.text))
		}
	}
}

func list(say func(string, ...any), head string, items []string) {
	if len(items) == 0 {
		return
	}
	say("\n## %s\n", head)
	for _, i := range items {
		say("- %s", oneLine(i))
	}
}

// oneLine keeps a text on its line, so that none of it is taken for a
// heading or the next item.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }
