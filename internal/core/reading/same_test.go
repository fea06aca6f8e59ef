package reading_test

import (
	"fmt"
	"hash/crc32"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/reading"
	"freshapron/internal/golden"
)

// A manner is how somebody else would have written the same recipe: what becomes of a
// line that means so much by its first sign ("=" an ingredient, ">" steps, "t" the title).
type manner struct {
	name  string
	write func(role, line string) string
	whole bool // it has no sense where sentences go on over several lines
}

// line applies a manner to lines of some roles.
func lines(roles string, write func(line string) string) func(role, line string) string {
	return func(role, line string) string {
		if role != "" && strings.Contains(roles, role) {
			return write(line)
		}
		return line
	}
}

// swap replaces what pattern finds.
func swap(pattern, by string) func(role, line string) string {
	p := regexp.MustCompile(pattern)
	return lines("=>thpfuy", func(line string) string { return p.ReplaceAllString(line, by) })
}

var (
	numbered = regexp.MustCompile(`^\s*(?:[-•*–]|\(?\d+[.)]|[Ss]tep \d+[:.]?)\s`)
	measured = regexp.MustCompile(`^([\d½¼¾⅓⅔]+(?:[.,/]\d+)?(?: [½¼¾]| \d/\d)?(?: ?(?:g|kg|ml|l|tbsp|tsp|oz|lb|cups?|tablespoons?|teaspoons?))) ([^\d(,]+)$`)
)

// behind writes an amount behind what it is of.
func behind(between, after string) func(role, line string) string {
	return lines("=", func(line string) string { return measured.ReplaceAllString(line, "${2}"+between+"${1}"+after) })
}

// bold leaves alone what has marks already.
func bold(line string) string {
	if strings.ContainsAny(line[:1], "#*_") {
		return line
	}
	return "**" + line + "**"
}

func bulleted(roles, sign string) func(role, line string) string {
	return lines(roles, func(line string) string {
		if numbered.MatchString(line) {
			return line
		}
		return sign + line
	})
}

var manners = []manner{
	{"lines of another system", func(_, l string) string { return l + "\r" }, false},
	{"spaces behind", func(_, l string) string { return l + "  \t" }, false},
	{"spaces before", func(_, l string) string { return "   " + l }, false},
	{"an empty line after each", func(_, l string) string { return l + "\n" }, true},
	{"quoted mail", func(_, l string) string { return "> " + l }, false},
	{"spaces that don't break", func(_, l string) string { return strings.ReplaceAll(l, " ", "\u00a0") }, false},
	{"two spaces", func(_, l string) string { return strings.ReplaceAll(l, " ", "  ") }, false},
	{"capitals", func(_, l string) string { return strings.ToUpper(l) }, false},
	{"title in capitals", lines("t", strings.ToUpper), false},
	{"small letters", func(_, l string) string { return strings.ToLower(l) }, false},
	{"list with bullets", bulleted("=", "• "), false},
	{"list with dashes", bulleted("=", "- "), false},
	{"list with stars", bulleted("=", "* "), false},
	{"list with boxes", bulleted("=", "☐ "), false},
	{"list with brackets", bulleted("=", "[ ] "), false},
	{"list with commas", lines("=", func(l string) string { return l + "," }), false},
	{"list with stops", lines("=", func(l string) string { return l + "." }), false},
	{"list with semicolons", lines("=", func(l string) string { return l + ";" }), false},
	{"method with bullets", bulleted(">", "• "), true},
	{"method with dashes", bulleted(">", "- "), true},
	{"method with boxes", bulleted(">", "☐ "), true},
	{"heading of marks", lines("hp", func(l string) string { return "## " + l }), false},
	{"bold headings", lines("thp", bold), false},
	{"underlined headings", lines("th", func(l string) string { return l + "\n=======" }), false},
	{"headings with a colon", lines("h", func(l string) string { return strings.TrimRight(l, ":") + ":" }), false},
	{"headings with a rule", lines("h", func(l string) string { return "--- " + l + " ---" }), false},
	{"title as a mark", lines("t", func(l string) string { return "# " + strings.TrimLeft(l, "# ") }), false},
	{"title with its name", lines("t", func(l string) string { return "Recipe: " + strings.TrimLeft(l, "# ") }), false},
	{"title in quotes", lines("t", func(l string) string { return "“" + strings.TrimLeft(l, "# ") + "”" }), false},
	{"amount behind", behind(" ", ""), false},
	{"amount behind a dash", behind(" – ", ""), false},
	{"amount behind a colon", behind(": ", ""), false},
	{"amount behind a comma", behind(", ", ""), false},
	{"amount in brackets", behind(" (", ")"), false},
	{"amount behind dots", behind(" ..... ", ""), false},
	{"amount in a column", lines("=", func(l string) string { return measured.ReplaceAllString(l, "${1}\t${2}") }), false},
	{"amount in a column behind", behind("\t", ""), false},
	{"amount with of", lines("=", func(l string) string {
		return regexp.MustCompile(`^([\d½¼¾⅓⅔/. ]+(?:g|kg|ml|l|tbsp|tsp|oz|lb|cups?)) `).ReplaceAllString(l, "${1} of ")
	}), false},
	{"units close", swap(`(\d) (g|kg|ml|l|tbsp|tsp|oz|lb)\b`, "$1$2"), false},
	{"units apart", swap(`(\d)(g|kg|ml|oz|lb)\b`, "$1 $2"), false},
	{"grams", swap(`(\d) ?g\b`, "$1 grams"), false},
	{"gm", swap(`(\d) ?g\b`, "${1}gm"), false},
	{"Gr.", swap(`(\d) ?g\b`, "$1 gr."), false},
	{"millilitres", swap(`(\d) ?ml\b`, "$1 millilitres"), false},
	{"mls", swap(`(\d) ?ml\b`, "${1}mls"), false},
	{"tablespoons", swap(`\btbsp\b`, "tablespoons"), false},
	{"Tbsp.", swap(`\btbsp\b`, "Tbsp."), false},
	{"tbs", swap(`\btbsp\b`, "tbs"), false},
	{"table spoon", swap(`\btbsp\b`, "table spoon"), false},
	{"teaspoonful", swap(`\btsp\b`, "teaspoonful"), false},
	{"t'spn", swap(`\btsp\b`, "tspn"), false},
	{"minutes short", swap(`\bminutes?\b`, "mins"), false},
	{"minutes shorter", swap(` minutes?\b`, "min"), false},
	{"minutes with a stop", swap(`\bminutes?\b`, "min."), false},
	{"minutes as a sign", swap(`(\d) minutes?\b`, "${1}′"), false},
	{"minutes misspelt", swap(`\bminutes\b`, "minuets"), false},
	{"hours short", swap(`\bhours?\b`, "hrs"), false},
	{"degrees close", swap(` ?°C`, "C"), false},
	{"degrees apart", swap(` ?°C`, " C"), false},
	{"degrees in words", swap(` ?°C`, " degrees"), false},
	{"degrees with a ring", swap(` ?°C`, "ºC"), false},
	{"degrees in one sign", swap(` ?°C`, "℃"), false},
	{"degrees small", swap(` ?°C`, "°c"), false},
	{"degrees Celsius", swap(` ?°C`, " degrees Celsius"), false},
	{"ranges with to", swap(`(\d) ?[-–] ?(\d)`, "$1 to $2"), false},
	{"ranges long", swap(`(\d) ?[-–] ?(\d)`, "$1 – $2"), false},
	{"halves in figures", swap(`(^|[^\d])½`, "${1}1/2"), false},
	{"halves behind", swap(`(\d)½`, "$1 1/2"), false},
	{"halves with a point", swap(`(\d)½`, "$1.5"), false},
	{"quarters in figures", swap(`(^|[^\d])¼`, "${1}1/4"), false},
	{"comma for a point", swap(`(\d)\.(\d)`, "$1,$2"), false},
	{"and sign", swap(` and `, " & "), false},
	{"typographic quotes", swap(`'`, "’"), false},
	{"no stop at the end", lines(">", func(l string) string { return strings.TrimRight(l, ".") }), false},
	{"semicolons between sentences", lines(">", func(l string) string { return strings.ReplaceAll(l, ". ", "; ") }), false},
	{"marked as code", func(_, l string) string { return strings.ReplaceAll(l, "½", "&frac12;") }, false},
	{"marked up", func(role, l string) string {
		switch role {
		case "t", "h", "p":
			return "<h2>" + l + "</h2>"
		case "=":
			return "<li>" + l + "</li>"
		}
		return "<p class=\"step\">" + l + "</p>"
	}, false},
	{"joined letters", func(_, l string) string { return strings.NewReplacer("fl", "ﬂ", "fi", "ﬁ").Replace(l) }, false},
	{"a stroke of its own", swap(`(\d)/(\d)`, "$1⁄$2"), false},
	{"a tab for an indent", lines("=>", func(l string) string { return "\t" + l }), false},
	{"serves with a colon", lines("y", func(l string) string { return strings.Replace(l, "Serves ", "Serves: ", 1) }), false},
	{"portions behind", lines("y", func(l string) string {
		return regexp.MustCompile(`^Serves (\d+)$`).ReplaceAllString(l, "$1 portions")
	}), false},
	{"for people", lines("y", func(l string) string {
		return regexp.MustCompile(`^Serves (\d+)$`).ReplaceAllString(l, "For $1 people")
	}), false},
	{"yield", lines("y", func(l string) string {
		return regexp.MustCompile(`^Serves (\d+)$`).ReplaceAllString(l, "Yield: $1 servings")
	}), false},
	{"list numbered", bulleted("=", "1. "), false},
	{"list with arrows", bulleted("=", "➜ "), false},
	{"method of numbered steps", bulleted(">", "Step 1: "), true},
	{"headings in capitals", lines("hp", strings.ToUpper), false},
	{"other headings", swap(`^(?:Ingredients|You need|You will need):?$`, "What you'll need"), false},
	{"directions", swap(`^(?:Method|Instructions):?$`, "Directions:"), false},
	{"degrees short", swap(` ?°C`, " deg C"), false},
	{"minutes as m", swap(` minutes\b`, "m"), false},
	{"about so many minutes", swap(`(\bfor )(\d+ min)`, "${1}approx. $2"), false},
	{"circa", swap(`(\bfor )(\d+ min)`, "$1~$2"), false},
	{"ounces", swap(`\boz\b`, "ounces"), false},
	{"lbs", swap(`\blb\b`, "lbs"), false},
	{"spoons in capitals", swap(`\btbsp\b`, "TBSP"), false},
	{"T for tablespoon", swap(`\btbsp\b`, "T."), false},
	{"by somebody", lines("t", func(l string) string { return l + "\nBy Mrs Okafor" }), false},
	{"of a day", lines("t", func(l string) string { return "Tuesday 3rd March\n" + l }), false},
	{"name and class", lines("t", func(l string) string { return "Name: ____________ Class: ____\n" + l }), false},
	{"page of pages", lines("t", func(l string) string { return "Page 1 of 1\n" + l }), false},
	{"serves in brackets", lines("y", func(l string) string { return "(" + strings.ToLower(l[:1]) + l[1:] + ")" }), false},
	{"list in bold", lines("=", bold), false},
	{"amounts in bold", lines("=", func(l string) string { return measured.ReplaceAllString(l, "**${1}** ${2}") }), false},
	{"sentences that shout", lines(">", func(l string) string { return strings.TrimRight(l, ".") + "!" }), false},
	{"figures of another width", lines("=", func(l string) string {
		return strings.NewReplacer("1", "１", "2", "２", "5", "５", "0", "０").Replace(l)
	}), false},
	{"minutes in brackets", swap(`\bfor (\d+ minutes)\b`, "($1)"), false},
	{"mins with an apostrophe", swap(`(\d) minutes\b`, "$1 min's"), false},
	{"a subject above", lines("t", func(l string) string { return "FOOD AND NUTRITION\n" + l }), false},
	{"a line of the school above", lines("t", func(l string) string { return "Quillhaven School Food Department\n" + l }), false},
}

// Those that nothing was mended for.
var others = []manner{
	{"x between", lines("=", func(l string) string {
		return regexp.MustCompile(`^(\d) (eggs?|onions?|carrots?|leeks?|peppers?)\b`).ReplaceAllString(l, "$1 x $2")
	}), false},
	{"numbers in words", lines("=", func(l string) string { return regexp.MustCompile(`^2 (\pL{4})`).ReplaceAllString(l, "two $1") }), false},
	{"half in words", swap(`^½ (tsp|tbsp|pint|lb)`, "half a $1"), false},
	{"units in capitals", lines("=", func(l string) string {
		return regexp.MustCompile(`\d ?(?:g|ml)\b`).ReplaceAllStringFunc(l, strings.ToUpper)
	}), false},
	{"large units", swap(`(\d) ?kg\b`, "$1 kilograms"), false},
	{"litres", swap(`(\d) ?litres?\b`, "${1}L"), false},
	{"steps in words", bulleted(">", "Next, "), false},
	{"method with Roman numbers", bulleted(">", "i. "), true},
	{"method with small signs", bulleted(">", "› "), true},
	{"method with double dashes", bulleted(">", "-- "), true},
	{"headings in dashes", lines("h", func(l string) string { return "-- " + l + " --" }), false},
	{"headings with dots", lines("h", func(l string) string { return strings.TrimRight(l, ":") + "..." }), false},
	{"headings in brackets", lines("h", func(l string) string { return "[" + strings.TrimRight(l, ":") + "]" }), false},
	{"bold within stars and spaces", lines("h", func(l string) string { return "** " + l + " **" }), false},
	{"degrees with a letter before", swap(`(\d{3}) ?°C`, "C$1"), false},
	{"hours in one letter", swap(`(\d) hours?\b`, "${1}h"), false},
	{"up to", swap(`\bfor (\d+ minutes)\b`, "for up to $1"), false},
	{"an aim below", lines("t", func(l string) string { return l + "\nAim: to work safely and tidily" }), false},
	{"a picture's place", lines("t", func(l string) string { return l + "\n[image]" }), false},
	{"serves without a word", lines("y", func(l string) string { return regexp.MustCompile(`^Serves (\d+)$`).ReplaceAllString(l, "($1)") }), false},
	{"spaces before the unit and a stop", swap(`(\d) ?(g|ml|kg)\b`, "$1 $2."), false},
	{"a stop behind the degree", swap(`°C`, "°C."), false},
}

// meant writes what a reading comes to, wherever it stands.
func meant(r reading.Reading) (says []string, asks int) {
	says = append(says, fmt.Sprintf("%s; %d-%d %s", strings.ReplaceAll(strings.ToLower(r.Title), "&", "and"), r.Yield.Count, r.Yield.Most, strings.ToLower(r.Yield.Piece)))
	for _, i := range r.Ingredients {
		taken := i.Taking.Ingredient
		says = append(says, strings.ToLower(fmt.Sprintf("= %s %s %s %s", taken.Quantity, taken.Pantry, taken.Law, strings.ReplaceAll(i.Prepared, "&", "and"))))
	}
	for _, s := range r.Steps {
		var b strings.Builder
		asks += len(s.Asks)
		s.Text, s.Asks = "", nil
		tell(&b, s)
		says = append(says, strings.ToLower("> "+b.String()))
	}
	return says, asks + len(r.Unread)
}

// A text is read alike however it is written; what comes of it stands in a file. Each
// manner is tried on every twenty-fourth recipe, each on others.
func TestHoweverItIsWritten(t *testing.T) {
	var cases []sample
	for _, file := range []string{"tuned.txt", "measured.txt"} {
		cases = append(cases, corpus(t, file)...)
	}
	type plainly struct {
		text string
		says []string
		asks int
	}
	var was []plainly
	for _, c := range cases {
		text := strings.Join(c.lines, "\n")
		says, asks := meant(read(text))
		was = append(was, plainly{text, says, asks})
	}
	var b strings.Builder
	for _, half := range []struct {
		says    string
		least   int // in a hundred
		manners []manner
	}{{"mended for", 98, manners}, {"measured only", 93, others}} {
		right, ever := 0, 0
		for n, m := range half.manners {
			alike, asked, all := 0, 0, 0
			sum := crc32.NewIEEE()
			for i := n % every; i < len(cases); i += every {
				text := cases[i].written(m)
				if text == was[i].text || m.whole && strings.HasPrefix(cases[i].name, "wrapped") {
					continue
				}
				says, asks := meant(read(text))
				fmt.Fprint(sum, says, asks)
				all++
				switch {
				case slices.Equal(says, was[i].says):
					alike++
				case asks > was[i].asks:
					asked++
				}
			}
			right, ever = right+alike, ever+all
			fmt.Fprintf(&b, "%-32s %3d of %3d alike, %d asked; %08x\n", m.name, alike, all, asked, sum.Sum32())
		}
		t.Logf("%s: %d of %d alike", half.says, right, ever)
		assert.GreaterOrEqual(t, right*100, half.least*ever, half.says)
	}
	golden.Same(t, "however.golden", b.String())
}

const every = 24

func (s sample) written(m manner) string {
	var out []string
	for n, l := range s.lines {
		role := ""
		if s.means[n] != "" {
			role = s.means[n][:1]
		}
		out = append(out, m.write(role, l))
	}
	return strings.Join(out, "\n")
}
