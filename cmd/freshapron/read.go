package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/reading"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/recipefile"
)

type readJSON struct {
	Format      string         `json:"format"`
	Version     int            `json:"version"`
	Title       string         `json:"title"`
	TitleLine   int            `json:"title_line,omitempty"`
	Units       unitsJSON      `json:"units"`
	Yield       *yieldJSON     `json:"yield"`
	Parts       []string       `json:"parts"`
	Headings    []int          `json:"headings"`
	Ingredients []lineJSON     `json:"ingredients"`
	Steps       []readStepJSON `json:"steps"`
	Facts       []factJSON     `json:"facts"`
	Unread      []unreadJSON   `json:"unread"`
}

type unitsJSON struct {
	Taken string `json:"taken"`
	Why   string `json:"why"`
}

type yieldJSON struct {
	Count int    `json:"count"`
	Most  *int   `json:"most"`
	Piece string `json:"piece"`
	Line  int    `json:"line"`
}

type lineJSON struct {
	Line     int      `json:"line"`
	Amount   *float64 `json:"amount"`
	Most     *float64 `json:"most"`
	Unit     string   `json:"unit"`
	Item     string   `json:"item"`
	Name     string   `json:"name"`
	Part     string   `json:"part"`
	Note     string   `json:"note"`
	Prepared string   `json:"prepared"`
	says     string   // the amount as people write it
}

type readStepJSON struct {
	Lines    []int          `json:"lines"`
	Text     string         `json:"text"`
	Kind     string         `json:"kind"`
	Uses     []readUseJSON  `json:"uses"`
	Adult    string         `json:"adult"`
	Work     float64        `json:"work_minutes"`
	WorkMost *float64       `json:"work_most"`
	WorkFrom string         `json:"work_from"`
	Wait     float64        `json:"wait_minutes"`
	WaitMost *float64       `json:"wait_most"`
	WaitFrom *string        `json:"wait_from"`
	Loads    *readLoadsJSON `json:"loads"`
	After    []any          `json:"after"`
}

type readUseJSON struct {
	Equipment string   `json:"equipment"`
	Celsius   *float64 `json:"temperature_c"`
	Minutes   *float64 `json:"minutes,omitempty"`
}

type readLoadsJSON struct {
	Pieces  *int     `json:"pieces"`
	PerLoad *int     `json:"per_load"`
	Minutes float64  `json:"minutes"`
	Most    *float64 `json:"most"`
	From    string   `json:"from"`
}

type readAfterJSON struct {
	Step   int      `json:"step"`
	MinGap *float64 `json:"min_gap,omitempty"`
	MaxGap *float64 `json:"max_gap,omitempty"`
}

type factJSON struct {
	Line int    `json:"line"`
	Says string `json:"says"`
}

type unreadJSON struct {
	Line int    `json:"line"`
	Text string `json:"text"`
	Why  string `json:"why"`
}

func readCommand() *cobra.Command {
	var asJSON bool
	var units string
	c := &cobra.Command{
		Use:   "read [--json] [--units metric|us|au|imperial] RECIPE",
		Short: "Say what was understood of a recipe as somebody brings it",
		Long: `Read a recipe in plain text or Markdown, with headings or without, and say what
each line was taken for: every line is accounted for, and every figure is said
in the text or typical. Of a text of several dishes the first is read. RECIPE - is standard input. Without --units the signs in
the text decide whose cups and spoons are meant.

Exit status: 0 it was read; 2 it can't be used.`,
		Args: oneRecipe("read"),
		RunE: func(c *cobra.Command, args []string) error {
			var sys *measure.System
			if c.Flags().Changed("units") {
				chosen, ok := measure.SystemOf(units)
				if !ok {
					return misuse("--units %s: give metric, us, au or imperial", units)
				}
				sys = &chosen
			}
			text, err := readText(c.InOrStdin(), args[0])
			if err != nil {
				fmt.Fprintln(c.ErrOrStderr(), err)
				return exit(exitUnusable)
			}
			out := readOf(reading.ReadFirst(text, sys, pantry.Stock()))
			if asJSON {
				return jsonout.Write(c.OutOrStdout(), out)
			}
			return writeRead(c.OutOrStdout(), out)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON")
	c.Flags().StringVar(&units, "units", "", "what the recipe means by a cup, a spoon or a pint: metric, us, au or imperial")
	return c
}

// readText reads a whole file, or says why it can't.
func readText(in io.Reader, file string) (string, error) {
	from, err := openFile(in, file)
	if err != nil {
		return "", err
	}
	defer from.Close() //nolint:errcheck // it is only read
	data, err := io.ReadAll(io.LimitReader(from, recipefile.MaxBytes+1))
	switch {
	case err != nil:
		return "", err
	case len(data) > recipefile.MaxBytes:
		return "", fmt.Errorf("the text is longer than %d MB: give one recipe at a time", recipefile.MaxBytes>>20)
	}
	text, err := recipefile.Text(data)
	data = []byte(text)
	switch {
	case err != nil:
		return "", err
	case len(bytes.TrimSpace(data)) == 0:
		return "", fmt.Errorf("there is nothing in it: paste the recipe with its list and its method")
	case pageHead.MatchString(text):
		return "", fmt.Errorf("this is the source of a web page, and its lines are no lines of a recipe: copy the text that the page shows (check and scale take the page as it is)")
	case bytes.ContainsAny(bytes.TrimSpace(data)[:1], "{[") && json.Valid(data):
		return "", fmt.Errorf("this is JSON, and its lines are no lines of a recipe: give the recipe's text (check and scale take the file as it is)")
	}
	return text, nil
}

// pageHead is how the source of a web page begins.
var pageHead = pattern.Must(`(?i)^\s*<(?:!doctype|html|head|body|script|div|\?xml)\b`)

// float rounds a number for a file.
func float(n exact.Number) float64 { return math.Round(n.Float()*1e4) / 1e4 }

func most(m reading.Minutes) *float64 {
	if m.Least.Cmp(m.Most) == 0 {
		return nil
	}
	f := float(m.Most)
	return &f
}

func whole(n int) *int {
	if n == 0 {
		return nil
	}
	return &n
}

// unitOf is the unit as the format names it; empty where it has no name.
func unitOf(u measure.Unit) string {
	symbol := strings.ReplaceAll(u.Symbol, " ", "")
	switch symbol {
	case "g", "kg", "oz", "lb", "ml", "cl", "dl", "l", "tsp", "tbsp", "dsp", "cup", "pint", "floz":
		return symbol
	}
	return ""
}

func readOf(r reading.Reading) readJSON {
	out := readJSON{
		Format: "fresh-apron/read", Version: 1, Title: r.Title, TitleLine: r.TitleLine,
		Units: unitsJSON{r.Units.Taken.Name, r.Units.Why}, Parts: append([]string{}, r.Parts...), Headings: append([]int{}, r.Headings...),
		Ingredients: []lineJSON{}, Steps: []readStepJSON{}, Facts: []factJSON{}, Unread: []unreadJSON{},
	}
	if r.Yield.Count > 0 {
		out.Yield = &yieldJSON{r.Yield.Count, whole(r.Yield.Most), r.Yield.Piece, r.Yield.Line}
	}
	for _, i := range r.Ingredients {
		in := i.Taking.Ingredient
		l := lineJSON{Line: i.Line, Unit: "", Item: in.Pantry, Name: in.Name, Part: in.Part, Note: in.Note, Prepared: i.Prepared}
		if read := i.Taking.Reading; read.Given {
			low := float(read.Low)
			l.Amount, l.Unit = &low, unitOf(read.Unit)
			l.says = measure.Quantity{Amount: read.Low, Unit: read.Unit}.String()
			if read.Low.Less(read.High) {
				high := float(read.High)
				l.Most = &high
				l.says = measure.Mixed(read.Low) + "–" + measure.Quantity{Amount: read.High, Unit: read.Unit}.String()
			}
		}
		out.Ingredients = append(out.Ingredients, l)
	}
	for _, s := range r.Steps {
		out.Steps = append(out.Steps, readStepOf(s))
	}
	for _, f := range r.Facts {
		out.Facts = append(out.Facts, factJSON{f.Line, f.Says})
	}
	for _, u := range r.Unread {
		out.Unread = append(out.Unread, unreadJSON(u))
	}
	return out
}

func readStepOf(s reading.Step) readStepJSON {
	out := readStepJSON{
		Lines: s.Lines, Text: s.Text, Kind: string(s.Kind), Uses: []readUseJSON{}, Adult: string(s.Adult),
		Work: float(s.Work.Least), WorkMost: most(s.Work), WorkFrom: string(s.Work.From),
		Wait: float(s.Wait.Least), WaitMost: most(s.Wait), After: []any{},
	}
	if s.Wait.From != "" {
		from := string(s.Wait.From)
		out.WaitFrom = &from
	}
	for _, u := range s.Uses {
		use := readUseJSON{Equipment: u.Equipment}
		if u.Celsius != nil {
			c := float(*u.Celsius)
			use.Celsius = &c
		}
		if u.Minutes.Sign() > 0 {
			m := float(u.Minutes)
			use.Minutes = &m
		}
		out.Uses = append(out.Uses, use)
	}
	if l := s.Loads; l != nil {
		out.Loads = &readLoadsJSON{whole(l.Pieces), whole(l.PerLoad), float(l.Each.Least), most(l.Each), string(l.Each.From)}
	}
	for _, a := range s.After {
		if a.MinGap.Sign() == 0 && a.MaxGap == nil {
			out.After = append(out.After, a.Step)
			continue
		}
		after := readAfterJSON{Step: a.Step}
		if a.MinGap.Sign() > 0 {
			m := float(a.MinGap)
			after.MinGap = &m
		}
		if a.MaxGap != nil {
			m := float(*a.MaxGap)
			after.MaxGap = &m
		}
		out.After = append(out.After, after)
	}
	return out
}

func writeRead(w io.Writer, r readJSON) error {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\nUnits: %s (%s)\n", r.Title, r.Units.Taken, r.Units.Why)
	switch y := r.Yield; {
	case y == nil:
		b.WriteString("Yield: not said\n")
	case y.Most != nil:
		fmt.Fprintf(&b, "Yield: %d to %d, of %s\n", y.Count, *y.Most, y.Piece)
	default:
		fmt.Fprintf(&b, "Yield: %d, of %s\n", y.Count, y.Piece)
	}
	b.WriteByte('\n')
	for _, i := range r.Ingredients {
		amount := i.says
		if amount != "" {
			amount += " "
		}
		item := i.Item
		if item == "" {
			item = "not in the pantry"
		}
		fmt.Fprintf(&b, "%3d  %s%s [%s] %s\n", i.Line, amount, i.Name, item, i.Prepared)
	}
	b.WriteByte('\n')
	for n, s := range r.Steps {
		fmt.Fprintf(&b, "%d. %s: %s\n   work %g min (%s)", n, s.Kind, s.Text, s.Work, s.WorkFrom)
		if s.WaitFrom != nil {
			fmt.Fprintf(&b, ", wait %g min (%s)", s.Wait, *s.WaitFrom)
		}
		if s.Loads != nil {
			fmt.Fprintf(&b, ", loads of %g min each", s.Loads.Minutes)
		}
		for _, u := range s.Uses {
			fmt.Fprintf(&b, ", %s", u.Equipment)
			if u.Celsius != nil {
				fmt.Fprintf(&b, " %g °C", *u.Celsius)
			}
		}
		fmt.Fprintf(&b, ", after %v\n", s.After)
	}
	for _, f := range r.Facts {
		fmt.Fprintf(&b, "%3d  fact: %s\n", f.Line, f.Says)
	}
	for _, u := range r.Unread {
		fmt.Fprintf(&b, "%3d  not understood: %s (%s)\n", u.Line, u.Text, u.Why)
	}
	_, err := io.WriteString(w, b.String())
	return err
}
