package reading_test

import (
	"fmt"
	"strings"
	"testing"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/reading"
	"freshapron/internal/golden"
)

// How every recipe of the corpora is read, to the last figure: a change of a
// word or of a table shows in what it changes.
func TestTheReadings(t *testing.T) {
	var b strings.Builder
	for _, file := range []string{"tuned.txt", "measured.txt"} {
		for _, c := range corpus(t, file) {
			r := read(strings.Join(c.lines, "\n"))
			fmt.Fprintf(&b, "= %s (line %d), %v, %s\n", r.Title, r.TitleLine, r.Yield, r.Units.Taken.Name+": "+r.Units.Why)
			fmt.Fprintf(&b, "  headings %v, parts %q\n", r.Headings, r.Parts)
			for _, i := range r.Ingredients {
				taken := i.Taking.Ingredient
				fmt.Fprintf(&b, "  %d: %s %s, %s %s %s\n", i.Line, taken.Quantity, taken.Pantry, taken.Law, taken.Part, i.Prepared)
			}
			for n, s := range r.Steps {
				fmt.Fprintf(&b, "  step %d %v: ", n, s.Lines)
				tell(&b, s)
			}
			for _, f := range r.Facts {
				fmt.Fprintf(&b, "  fact %d %s: %.40s\n", f.Line, f.About, f.Says)
			}
			for _, u := range r.Unread {
				fmt.Fprintf(&b, "  unread %d: %s\n", u.Line, u.Why)
			}
			made, notes := r.Recipe()
			b.WriteString(golden.All(r, made, notes))
		}
	}
	golden.Same(t, "readings.golden", b.String())
}

func tell(b *strings.Builder, s reading.Step) {
	fmt.Fprintf(b, "%s %s, %s–%s %s, waits %s–%s %s", s.Kind, s.Adult, s.Work.Least, s.Work.Most, s.Work.From, s.Wait.Least, s.Wait.Most, s.Wait.From)
	for _, u := range s.Uses {
		fmt.Fprintf(b, ", %s %s %s", u.Equipment, number(u.Celsius), u.Minutes)
	}
	if l := s.Loads; l != nil {
		fmt.Fprintf(b, ", loads %d/%d of %s–%s %t", l.Pieces, l.PerLoad, l.Each.Least, l.Each.Most, l.NoHands)
	}
	for _, a := range s.After {
		fmt.Fprintf(b, ", after %d", a.Step)
		if a.MinGap.Sign() > 0 || a.MaxGap != nil {
			fmt.Fprintf(b, " from %s to %s", a.MinGap, number(a.MaxGap))
		}
	}
	fmt.Fprintf(b, " %s %q %.60s\n", s.Prepares, s.Asks, s.Text)
}

// How a sentence of each form is read with each word that says what to do.
func TestTheVerbs(t *testing.T) {
	var b strings.Builder
	for _, verb := range reading.Verbs() {
		for _, form := range []string{
			"%s the onions.", "%s the dough for 10 minutes.", "%s two at a time for 3 minutes each.", "ADULT: %s at 180 °C for at least 15 minutes.",
		} {
			line := fmt.Sprintf(form, verb)
			line = strings.ToUpper(line[:1]) + line[1:]
			r := read("Dish\nServes 4\n200 g pasta\n2 onions, finely chopped\n100 g cheese, grated\n" + line)
			fmt.Fprintf(&b, "= %s\n", line)
			for _, s := range r.Steps {
				if s.Prepares == "" {
					tell(&b, s)
				}
			}
			for _, f := range r.Facts {
				fmt.Fprintf(&b, "fact %s\n", f.Says)
			}
			for _, u := range r.Unread {
				fmt.Fprintf(&b, "unread %s\n", u.Why)
			}
		}
	}
	golden.Same(t, "verbs.golden", b.String())
}

func number(n *exact.Number) string {
	if n == nil {
		return ""
	}
	return n.String()
}
