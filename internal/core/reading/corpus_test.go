package reading_test

import (
	"fmt"
	"math"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/reading"
	"freshapron/internal/core/recipe"
)

// A case of the corpus is a recipe, each of its lines with what a careful
// technician takes it to mean:
//
//	t title   h heading   p heading of a part   f fact   u not understood   ? whatever
//	y 4-6 portion                        the yield
//	= 200 g plain-flour ; sifted         an ingredient, "-" for what is not given
//	> w5 ring; i20-25 oven200            steps: w work that is said, i a wait, l3/4 loads;
//	                                     what they use; adult, help; || not after the one before; x nothing said
//
// A "!" behind the kind of writer marks a recipe that uses what it does not list,
// or lists what it does not use.
type sample struct {
	name  string
	lax   bool
	lines []string // of the source
	means []string
}

func corpus(t *testing.T, file string) []sample {
	t.Helper()
	data, err := os.ReadFile("testdata/" + file)
	require.NoError(t, err)
	var out []sample
	for _, l := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		if name, ok := strings.CutPrefix(l, "=== "); ok {
			out = append(out, sample{name: name, lax: strings.HasSuffix(name, " !")})
			continue
		}
		text, means, ok := strings.Cut(l, " ¦ ")
		require.True(t, ok || l == "", l)
		s := &out[len(out)-1]
		s.lines, s.means = append(s.lines, text), append(s.means, means)
	}
	return out
}

// A score counts what was right of what there was.
type score struct{ right, all int }

func (s *score) add(ok bool) bool {
	s.all++
	if ok {
		s.right++
	}
	return ok
}

func (s score) share() float64 { return float64(s.right) / float64(max(1, s.all)) }

func (s score) String() string {
	return fmt.Sprintf("%d of %d (%.1f %%)", s.right, s.all, 100*s.share())
}

type scores struct {
	ingredients, prepared, times, uses, yields, order, adults, headings, lines score
	misses                                                                     []string
}

func (s *scores) miss(at *score, ok bool, format string, args ...any) {
	if !at.add(ok) {
		s.misses = append(s.misses, fmt.Sprintf(format, args...))
	}
}

func near(a exact.Number, b float64) bool { return math.Abs(a.Float()-b) < 0.02 }

func (s *scores) judge(c sample) {
	text := strings.Join(c.lines, "\n")
	r := read(text)
	s.lines.add(accounted(text, r) == nil)
	title := strings.SplitN(c.lines[0], "\n", 2)[0]
	var earlier []int
	for n, means := range c.means {
		at := n + 1
		where := fmt.Sprintf("%s / %s", title, c.lines[n])
		var wants []string
		for _, want := range strings.Split(means, " | ") {
			kind, rest, _ := strings.Cut(want, " ")
			switch kind {
			case "y":
				s.miss(&s.yields, yieldIs(r, rest), "yield: %s: %+v", where, r.Yield)
			case "h", "p":
				s.miss(&s.headings, slices.Contains(r.Headings, at), "heading: %s", where)
			case "t":
				s.miss(&s.headings, r.TitleLine == at, "title: %s: %q", where, r.Title)
			case "=":
				s.ingredient(r, at, rest, where)
			case ">":
				wants = append(wants, strings.Split(rest, ";")...)
			}
		}
		if len(wants) > 0 {
			earlier = s.steps(r, at, wants, earlier, where)
		}
	}
}

func yieldIs(r reading.Reading, want string) bool {
	figures, piece, _ := strings.Cut(want, " ")
	low, high, _ := strings.Cut(figures, "-")
	most := ""
	if r.Yield.Most > 0 {
		most = strconv.Itoa(r.Yield.Most)
	}
	return strconv.Itoa(r.Yield.Count) == low && most == high && (piece == "" || r.Yield.Piece == piece)
}

func (s *scores) ingredient(r reading.Reading, at int, want, where string) {
	figures, prepared, asks := strings.Cut(want, " ; ")
	f := strings.Fields(figures)
	var got []string
	ok := false
	for _, i := range r.Ingredients {
		if i.Line != at {
			continue
		}
		t := i.Taking
		amount, unit := "-", "-"
		if t.Reading.Given {
			amount = t.Reading.Low.Decimal(4)
			if t.Reading.Low.Less(t.Reading.High) {
				amount += "-" + t.Reading.High.Decimal(4)
			}
			if u := strings.ReplaceAll(t.Reading.Unit.Symbol, " ", ""); slices.Contains([]string{"g", "kg", "oz", "lb", "ml", "cl", "dl", "l", "tsp", "tbsp", "dsp", "cup", "pint", "floz"}, u) {
				unit = u
			}
		}
		item := t.Ingredient.Pantry
		got = append(got, fmt.Sprint(amount, " ", unit, " ", item, " ; ", i.Prepared))
		is := func(want, got string) bool { return want == "?" || slices.Contains(strings.Split(want, "|"), got) }
		if is(f[0], amount) && is(f[1], unit) && is(f[2], item) {
			ok = true
			if asks {
				s.miss(&s.prepared, strings.Contains(i.Prepared, prepared), "prepared: %s: %q", where, i.Prepared)
			}
			break
		}
	}
	s.miss(&s.ingredients, ok, "ingredient: %s: %s", where, strings.Join(got, " | "))
}

var wanted = regexp.MustCompile(`^([wil])([\d.]+)(?:-([\d.]+))?(?:/(\d+))?$`)

// steps compares the steps of a line with what is wanted, and returns them.
func (s *scores) steps(r reading.Reading, at int, wants []string, earlier []int, where string) []int {
	var here []int
	for n, step := range r.Steps {
		if slices.Contains(step.Lines, at) && step.Prepares == "" {
			here = append(here, n)
		}
	}
	// What begins on an earlier line counts there; its time may stand here.
	all := slices.Clone(here)
	here = slices.DeleteFunc(here, func(n int) bool { return slices.Contains(earlier, n) && len(here) > 1 })
	said, loose := 0, false
	for _, n := range here {
		step := r.Steps[n]
		if slices.Max(step.Lines) > at {
			loose = true // it goes on in the next line
		}
		if step.Work.From == recipe.Said {
			said++
		}
		if step.Wait.From == recipe.Said {
			said++
		}
		if l := step.Loads; l != nil && l.Each.From == recipe.Said && !(l.NoHands && step.Wait.From == recipe.Said) {
			said++
		}
	}
	uses := map[string]bool{}
	asked := 0
	for _, want := range wants {
		for _, w := range strings.Fields(want) {
			m := wanted.FindStringSubmatch(w)
			switch {
			case w == "?":
				loose = true
			case m != nil:
				asked++
				s.miss(&s.times, slices.ContainsFunc(all, func(n int) bool { return timeIs(r.Steps[n], m) }), "time %s: %s: %s", w, where, describe(r, here))
			case w == "adult" || w == "help":
				does := map[string]string{"adult": "does", "help": "watches"}[w]
				s.miss(&s.adults, slices.ContainsFunc(here, func(n int) bool { return string(r.Steps[n].Adult) == does }), "adult: %s: %s", where, describe(r, here))
			case w != "x" && w != "||":
				uses[w] = true
				s.miss(&s.uses, slices.ContainsFunc(all, func(n int) bool { return usesIs(r.Steps[n], w) }), "use %s: %s: %s", w, where, describe(r, here))
			}
		}
	}
	if !loose {
		if said > asked {
			s.miss(&s.times, false, "a time too many: %s: %s", where, describe(r, here))
		}
		for _, n := range here {
			for _, u := range r.Steps[n].Uses {
				if !slices.ContainsFunc(slices.Collect(keys(uses)), func(w string) bool { return strings.HasPrefix(w, u.Equipment) }) {
					s.miss(&s.uses, false, "a use too many: %s: %s", where, describe(r, here))
				}
			}
		}
	}
	beside := false
	for n, want := range wants {
		if !strings.Contains(want, "||") {
			continue
		}
		beside = n == 0
		ok := slices.ContainsFunc(here, func(k int) bool { return k > 0 && !follows(r, k, k-1) })
		s.miss(&s.order, ok, "not beside: %s: %s", where, describe(r, here))
	}
	if len(earlier) > 0 && len(here) > 0 && !beside {
		last, first := earlier[len(earlier)-1], here[0]
		s.miss(&s.order, last == first || follows(r, first, last), "order: %s: %s", where, describe(r, here))
	}
	if len(here) == 0 {
		if !loose {
			s.miss(&s.order, false, "no step: %s", where)
		}
		return earlier
	}
	return here
}

func keys(m map[string]bool) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func timeIs(step reading.Step, m []string) bool {
	low, _ := strconv.ParseFloat(m[2], 64)
	high := low
	if m[3] != "" {
		high, _ = strconv.ParseFloat(m[3], 64)
	}
	is := func(x reading.Minutes) bool { return x.From == recipe.Said && near(x.Least, low) && near(x.Most, high) }
	switch m[1] {
	case "w":
		return is(step.Work)
	case "i":
		return is(step.Wait)
	}
	return step.Loads != nil && is(step.Loads.Each) && (m[4] == "" || strconv.Itoa(step.Loads.PerLoad) == m[4])
}

func usesIs(step reading.Step, want string) bool {
	name := strings.TrimRight(want, "0123456789")
	at := want[len(name):]
	return slices.ContainsFunc(step.Uses, func(u reading.Use) bool {
		if u.Equipment != name {
			return false
		}
		c, _ := strconv.ParseFloat(at, 64)
		return at == "" || u.Celsius != nil && math.Abs(u.Celsius.Float()-c) <= 5
	})
}

// follows reports whether a step comes after another, by way of others.
func follows(r reading.Reading, step, other int) bool {
	for _, a := range r.Steps[step].After {
		if a.Step == other || a.Step < step && follows(r, a.Step, other) {
			return true
		}
	}
	return false
}

func describe(r reading.Reading, list []int) string {
	var out []string
	for _, n := range list {
		s := r.Steps[n]
		text := fmt.Sprintf("%d %s w%s(%s) i%s(%s)", n, s.Kind, s.Work.Least.Decimal(1), s.Work.From, s.Wait.Least.Decimal(1), s.Wait.From)
		for _, u := range s.Uses {
			text += " " + u.Equipment
			if u.Celsius != nil {
				text += u.Celsius.Decimal(0)
			}
		}
		if s.Loads != nil {
			text += fmt.Sprintf(" loads %s/%d", s.Loads.Each.Least.Decimal(1), s.Loads.PerLoad)
		}
		out = append(out, text+fmt.Sprintf(" %v “%s”", s.After, s.Text))
	}
	return strings.Join(out, " || ")
}

// accounted returns the lines that stand nowhere.
func accounted(text string, r reading.Reading) []int {
	seen := map[int]bool{r.TitleLine: true, r.Yield.Line: true}
	for _, at := range r.Headings {
		seen[at] = true
	}
	for _, i := range r.Ingredients {
		seen[i.Line] = true
	}
	for _, s := range r.Steps {
		for _, at := range s.Lines {
			seen[at] = true
		}
	}
	for _, f := range r.Facts {
		seen[f.Line] = true
	}
	for _, u := range r.Unread {
		seen[u.Line] = true
	}
	var lost []int
	for n, l := range strings.Split(strings.NewReplacer("\r\n", "\n", "\r", "\n", "\u2028", "\n", "\u2029", "\n").Replace(text), "\n") {
		if strings.TrimSpace(l) != "" && !seen[n+1] {
			lost = append(lost, n+1)
		}
	}
	return lost
}

// The corpus is in two halves: what is tuned on, and what is only measured.
// The misses of the first are printed with -v; those of the second with
// MEASURED=show, to be looked at when it is renewed.
func TestCorpus(t *testing.T) {
	for _, half := range []struct {
		file                                                                string
		ingredients, prepared, times, uses, yields, order, adults, headings float64
	}{
		{"tuned.txt", 0.99, 1, 0.99, 0.99, 1, 0.99, 1, 1},
		{"measured.txt", 0.97, 1, 0.95, 0.95, 0.98, 0.98, 1, 1},
	} {
		var s scores
		for _, c := range corpus(t, half.file) {
			s.judge(c)
		}
		t.Logf("%s: ingredients %s, prepared %s, times %s, uses %s, yields %s, order %s, adults %s, headings %s", half.file, s.ingredients, s.prepared, s.times, s.uses, s.yields, s.order, s.adults, s.headings)
		if half.file == "tuned.txt" || os.Getenv("MEASURED") == "show" {
			for _, m := range s.misses {
				t.Log("  " + m)
			}
		}
		for _, x := range []struct {
			what string
			is   score
			want float64
		}{{"ingredients", s.ingredients, half.ingredients}, {"prepared", s.prepared, half.prepared}, {"times", s.times, half.times}, {"uses", s.uses, half.uses}, {"yields", s.yields, half.yields}, {"order", s.order, half.order}, {"adults", s.adults, half.adults}, {"headings", s.headings, half.headings}} {
			assert.GreaterOrEqual(t, x.is.share(), x.want, "%s: %s: %s", half.file, x.what, x.is)
		}
		assert.Equal(t, s.lines.all, s.lines.right, "%s: every line is accounted for", half.file)
	}
}
