package main

import (
	"errors"
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/recipefile"
)

// recipeFlags are shared by the commands that read a recipe.
type recipeFlags struct {
	asJSON bool
	units  string
	first  string
}

func (f *recipeFlags) add(c *cobra.Command) {
	c.Flags().BoolVar(&f.asJSON, "json", false, "print JSON")
	c.Flags().StringVar(&f.units, "units", "", "what the recipe means by a cup, a spoon or a pint: metric, us, au or imperial; without it the signs in the recipe decide")
	c.Flags().StringVar(&f.first, "first", "weight", "how to measure where both are near enough: weight or volume")
}

// system returns the units that were chosen, nil where none were, or why they
// can't be.
func (f *recipeFlags) system() (*measure.System, error) {
	var chosen *measure.System
	if sys, ok := measure.SystemOf(f.units); ok {
		chosen = &sys
	} else if f.units != "" {
		return nil, misuse("--units %s: give metric, us, au or imperial", f.units)
	}
	if f.first != "weight" && f.first != "volume" {
		return nil, misuse("--first %s: give weight or volume", f.first)
	}
	return chosen, nil
}

func misuse(format string, args ...any) error {
	return errors.Join(usage{fmt.Errorf(format, args...)}, exit(exitUnusable))
}

func oneRecipe(command string) cobra.PositionalArgs {
	return func(_ *cobra.Command, args []string) error {
		if len(args) != 1 {
			return misuse("%s takes one recipe, or - for standard input; got %d", command, len(args))
		}
		return nil
	}
}

const recipeHelp = `RECIPE is a schema.org Recipe as JSON-LD or inside a saved web page, a dish of
a lesson file, Markdown, or plain text; - is standard input.

Exit status: 0 it was read; 2 it can't be used, and every problem is on standard error.`

func scaleCommand() *cobra.Command {
	var f recipeFlags
	var portions int
	c := &cobra.Command{
		Use:   "scale [--json] --portions N RECIPE",
		Short: "Scale a recipe to amounts that can be measured",
		Long:  "Scale a recipe and say how to measure each amount with what an ordinary school\nkitchen has in its drawer.\n\n" + recipeHelp,
		Args:  oneRecipe("scale"),
		RunE: func(c *cobra.Command, args []string) error {
			sys, err := f.system()
			if err != nil {
				return err
			}
			if portions < 1 || portions > 10_000 {
				return misuse("--portions %d: give 1 to 10000", portions)
			}
			read, err := readRecipe(c.InOrStdin(), c.ErrOrStderr(), args[0], sys)
			if err != nil {
				return err
			}
			if read.Recipe.Yield < 1 {
				fmt.Fprintln(c.ErrOrStderr(), `recipeYield: the recipe does not say how many it serves; add a line such as "Serves 4"`)
				return exit(exitUnusable)
			}
			return writeScaled(c.OutOrStdout(), scaledOf(read, portions, drawer(read.Recipe, sys), f.first), f.asJSON)
		},
	}
	f.add(c)
	c.Flags().IntVar(&portions, "portions", 0, "portions or pieces to make")
	return c
}

func checkCommand() *cobra.Command {
	var f recipeFlags
	c := &cobra.Command{
		Use:   "check [--json] RECIPE",
		Short: "Say what is wrong with a recipe before thirty copies are printed",
		Long:  "Read a recipe as a colleague would who has to teach it tomorrow.\n\n" + recipeHelp,
		Args:  oneRecipe("check"),
		RunE: func(c *cobra.Command, args []string) error {
			sys, err := f.system()
			if err != nil {
				return err
			}
			read, err := readRecipe(c.InOrStdin(), c.ErrOrStderr(), args[0], sys)
			if err != nil {
				return err
			}
			return writeFindings(c.OutOrStdout(), recipe.Check(read.Recipe, pantry.Stock()), f.asJSON)
		},
	}
	f.add(c)
	return c
}

// parse reads a file in the units that were chosen, or that it shows itself.
func parse(data []byte, sys *measure.System) (recipefile.File, error) {
	if sys == nil {
		return recipefile.Recognise(data, measure.Metric, pantry.Stock())
	}
	return recipefile.Parse(data, *sys, pantry.Stock())
}

// readRecipe reads the one recipe of a file; what makes it unusable is on
// standard error.
func readRecipe(in io.Reader, complain io.Writer, file string, sys *measure.System) (jsonld.Found, error) {
	from, err := openFile(in, file)
	if err != nil {
		fmt.Fprintln(complain, err)
		return jsonld.Found{}, exit(exitUnusable)
	}
	defer from.Close() //nolint:errcheck // it is only read
	data, err := io.ReadAll(io.LimitReader(from, recipefile.MaxBytes+1))
	if err != nil {
		fmt.Fprintln(complain, err)
		return jsonld.Found{}, exit(exitUnusable)
	}
	read, err := parse(data, sys)
	switch {
	case err != nil:
		fmt.Fprintln(complain, err)
		return jsonld.Found{}, exit(exitUnusable)
	case len(read.Recipes) > 1:
		fmt.Fprintf(complain, "$: the file has %d recipes; give one at a time\n", len(read.Recipes))
		return jsonld.Found{}, exit(exitUnusable)
	}
	found := read.Recipes[0]
	if len(found.Problems) > 0 {
		fmt.Fprintln(complain, found.Problems)
		return found, exit(exitUnusable)
	}
	return found, nil
}

type scaledJSON struct {
	Portions    int              `json:"portions"`
	Factor      string           `json:"factor"`
	Ingredients []ingredientJSON `json:"ingredients"`
	Warnings    []string         `json:"warnings"`
}

type ingredientJSON struct {
	Line         string      `json:"line"`
	Name         string      `json:"name"`
	Exact        *amountJSON `json:"exact"`
	Measure      string      `json:"measure"`
	Measured     *amountJSON `json:"measured"`
	ErrorPercent float64     `json:"error_percent"`
	Alternatives []string    `json:"alternatives"`
	Warnings     []string    `json:"warnings"`
}

type amountJSON struct {
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit"`
}

func amountOf(q measure.Quantity) *amountJSON {
	return &amountJSON{math.Round(q.Amount.Float()*1e6) / 1e6, q.Unit.Symbol}
}

// drawer is the system of the instruments that measure a recipe: that which
// was chosen, or the recipe's own.
func drawer(r recipe.Recipe, chosen *measure.System) measure.System {
	if chosen != nil {
		return *chosen
	}
	if own, ok := measure.SystemOf(r.Units); ok {
		return own
	}
	return measure.Metric
}

// scaledOf scales what was read to so many portions.
func scaledOf(read jsonld.Found, portions int, sys measure.System, first string) scaledJSON {
	r := read.Recipe
	kitchen := scale.Kitchen{Pantry: pantry.Stock(), Instruments: measure.Usual(sys), Volume: first == "volume"}
	factor := exact.Frac(int64(portions), int64(r.Yield))
	out := scaledJSON{Portions: portions, Factor: factor.String(), Ingredients: []ingredientJSON{}, Warnings: []string{}}
	amounts := kitchen.By(r, factor)
	for n, s := range amounts {
		line := s.Line.Line()
		var said []string
		if n < len(read.Takes) {
			reading := read.Takes[n].Reading
			line = reading.Line
			said = append(append(said, reading.Problems...), reading.Doubts...)
			if reading.Given && reading.Low.Less(reading.High) {
				said = append(said, fmt.Sprintf("a range from %s to %s: the middle is taken", measure.Quantity{Amount: reading.Low, Unit: reading.Unit}, measure.Quantity{Amount: reading.High, Unit: reading.Unit}))
			}
		}
		out.Ingredients = append(out.Ingredients, measured(kitchen, r, s, line, said, portions))
	}
	for _, ratio := range scale.Outside(r, kitchen.Pantry) {
		out.Warnings = append(out.Warnings, fmt.Sprintf("%s is unusual for %s (%s): look for a misprint", ratio.Says(), ratio.Mixture, ratio.Range()))
	}
	for _, d := range scale.Drifts(r, amounts) {
		out.Warnings = append(out.Warnings, d.Says())
	}
	for _, note := range read.Notes { // of the lines is said beside them, of the minutes nobody asked
		for _, about := range []string{"A dish of", "Not understood", "Kept as it is", "recipeYield"} {
			if strings.HasPrefix(note, about) {
				out.Warnings = append(out.Warnings, note)
			}
		}
	}
	return out
}

// measured says how to measure one ingredient.
func measured(k scale.Kitchen, r recipe.Recipe, s scale.Scaled, line string, warnings []string, portions int) ingredientJSON {
	i := ingredientJSON{Line: line, Name: s.Line.Name, Alternatives: []string{}, Warnings: append([]string{}, warnings...)}
	if !s.Known {
		maybe := k.Pantry.Match(s.Line.Name).Maybe()
		says := fmt.Sprintf("“%s” is not in the pantry: its allergens are unknown, and it is not turned from weight to volume", s.Line.Name)
		if len(maybe) > 0 {
			says += "; is it " + maybe[0].Name + "?"
		}
		i.Warnings = append(i.Warnings, says)
	}
	if !s.Line.Given() {
		i.Measure = s.Says
		if i.Measure == "" {
			i.Measure = "no amount given"
		}
		return i
	}
	i.Exact = amountOf(s.Exact)
	best := s.First()
	if s.Says != "" {
		i.Warnings = append(i.Warnings, s.Says)
	}
	if best == nil {
		i.Measure = s.Exact.String()
		i.Warnings = append(i.Warnings, "nothing in an ordinary drawer measures this")
	} else {
		i.Measure, i.Measured = best.Says, amountOf(best.Measured)
		i.ErrorPercent = math.Round(math.Abs(best.Rounding)*1000) / 10
		for _, other := range []*measure.Instruction{s.ByWeight, s.ByVolume, s.ByCount} {
			if other != nil && other.Says != best.Says {
				i.Alternatives = append(i.Alternatives, fmt.Sprintf("%s (%s)", other.Says, other.Off()))
			}
		}
		nearer := s.Best()
		switch {
		case best.Error() <= s.Tolerance+1e-9 || s.Line.Law == recipe.Taste || s.Line.Law == recipe.Surface:
		case s.Measurable():
			i.Warnings = append(i.Warnings, fmt.Sprintf("%s is off by up to %.0f %%: %s (%s) is nearer", best.Says, best.Error()*100, nearer.Says, nearer.Off()))
		default:
			i.Warnings = append(i.Warnings, fmt.Sprintf("%s is off by up to %.0f %%, and %.0f %% is the limit", best.Says, best.Error()*100, s.Tolerance*100))
		}
	}
	for _, w := range k.Ways(r, s, scale.Setting{Sets: 1, Pieces: portions}) {
		i.Alternatives = append(i.Alternatives, w.Says)
	}
	return i
}

func writeScaled(to io.Writer, s scaledJSON, asJSON bool) error {
	if asJSON {
		return jsonout.Write(to, s)
	}
	var b strings.Builder
	fmt.Fprintf(&b, "Portions: %d, %s times the recipe\n\n", s.Portions, s.Factor)
	width := 0
	for _, i := range s.Ingredients {
		width = max(width, len([]rune(i.Measure)))
	}
	for _, i := range s.Ingredients {
		fmt.Fprintf(&b, "%-*s  %s", width, i.Measure, i.Name)
		if i.Exact != nil && i.ErrorPercent > 0 {
			fmt.Fprintf(&b, "  (exactly %s)", strings.TrimSpace(fmt.Sprintf("%g %s", i.Exact.Amount, i.Exact.Unit)))
		}
		b.WriteByte('\n')
		for _, a := range i.Alternatives {
			fmt.Fprintf(&b, "%*s  or %s\n", width, "", a)
		}
		for _, w := range i.Warnings {
			fmt.Fprintf(&b, "%*s  ! %s\n", width, "", w)
		}
	}
	if len(s.Warnings) > 0 {
		b.WriteByte('\n')
	}
	for _, w := range s.Warnings {
		fmt.Fprintf(&b, "! %s\n", w)
	}
	_, err := io.WriteString(to, b.String())
	return err
}

type findingsJSON struct {
	Findings []findingJSON `json:"findings"`
}

type findingJSON struct {
	Rule  string `json:"rule"`
	Where string `json:"where"`
	Says  string `json:"says"`
	Mend  string `json:"mend"`
}

func writeFindings(to io.Writer, findings []recipe.Finding, asJSON bool) error {
	out := findingsJSON{Findings: []findingJSON{}}
	for _, f := range findings {
		out.Findings = append(out.Findings, findingJSON{f.Rule, f.Where, f.Says, f.Mend})
	}
	if asJSON {
		return jsonout.Write(to, out)
	}
	if len(findings) == 0 {
		_, err := fmt.Fprintln(to, "Nothing to mend.")
		return err
	}
	for _, f := range out.Findings {
		if _, err := fmt.Fprintf(to, "%s (%s): %s %s\n", f.Where, f.Rule, f.Says, f.Mend); err != nil {
			return err
		}
	}
	return nil
}
