package assess

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// A Method is by what a criterion is marked.
type Method string

// Methods lists them: the work is seen, questions are asked, the product is looked at and
// tasted, the time plan or something else that was written is read.
var Methods = []Method{"seen", "asked", "product", "plan", "written"}

// Mosts of what people write of a task.
const (
	mostCriteria = 30
	mostMark     = 1000
	cells        = 5
)

// ReadCriteria reads criteria, a line each: name; most; weight; method; levels in words,
// parted by "|". From the weight on they may be left out. What can't be is a problem at
// its line.
func ReadCriteria(text string) ([]Criterion, error) {
	var out []Criterion
	var problems problem.List
	for n, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		c, err := criterion(line)
		switch {
		case err != nil:
			problems.Add("criteria", "line %d: %s", n+1, err)
		case slices.ContainsFunc(out, func(o Criterion) bool { return o.ID == c.ID }):
			problems.Add("criteria", "line %d: “%s” is there twice", n+1, c.Name)
		default:
			out = append(out, c)
		}
	}
	if problems == nil && (len(out) == 0 || len(out) > mostCriteria) {
		problems.Add("criteria", "there are %d, and there can be from 1 to %d", len(out), mostCriteria)
	}
	return out, problems.Err()
}

func criterion(line string) (Criterion, error) {
	row := strings.Split(line, ";")
	if len(row) > cells {
		return Criterion{}, fmt.Errorf("it has %d parts, and %d are the most: name; most; weight; method; levels", len(row), cells)
	}
	row = append(row, make([]string, cells-len(row))...)
	for i := range row {
		row[i] = strings.TrimSpace(row[i])
	}
	c := Criterion{ID: idOf(row[0]), Name: row[0], Weight: exact.Int(1), Method: Method(row[3])}
	if c.ID == "" {
		return c, fmt.Errorf("a criterion has a name and a most, with a semicolon between them")
	}
	var err error
	if c.Most, err = ReadMark(row[1]); err != nil || c.Most.Sign() <= 0 || exact.Int(mostMark).Less(c.Most) {
		return c, fmt.Errorf("“%s” is no most for “%s”: a number above 0, %d at most", words.Short(row[1]), c.Name, mostMark)
	}
	if row[2] != "" {
		if c.Weight, err = ReadMark(row[2]); err != nil || c.Weight.Sign() <= 0 || exact.Int(mostMark).Less(c.Weight) {
			return c, fmt.Errorf("“%s” is no weight for “%s”: a number above 0, %d at most", words.Short(row[2]), c.Name, mostMark)
		}
	}
	if c.Method != "" && !slices.Contains(Methods, c.Method) {
		return c, fmt.Errorf("“%s” is no method: seen, asked, product, plan or written", words.Short(row[3]))
	}
	for _, l := range strings.Split(row[4], "|") {
		if l = strings.TrimSpace(l); l != "" {
			c.Levels = append(c.Levels, l)
		}
	}
	return c, nil
}

// idOf is the id of a name: its letters and figures, with hyphens between words.
func idOf(name string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(name), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r > 127)
	}), "-")
}

// ReadMark reads a mark as people write it: 12, 12.5 or 12,5.
func ReadMark(text string) (exact.Number, error) {
	text = strings.TrimSpace(text)
	if !strings.Contains(text, ".") {
		text = strings.Replace(text, ",", ".", 1)
	}
	n, err := exact.Parse(text)
	if err != nil || n.Sign() < 0 {
		return exact.Number{}, fmt.Errorf("“%s” is no mark", words.Short(text))
	}
	return n, nil
}

// Mark reads a mark for a criterion; above its most it is none.
func (c Criterion) Mark(text string) (exact.Number, error) {
	n, err := ReadMark(text)
	if err == nil && c.Most.Less(n) {
		err = fmt.Errorf("%s is above %s, the most for “%s”", n.Decimal(2), c.Most.Decimal(2), c.Name)
	}
	return n, err
}

// CriteriaText writes criteria as ReadCriteria reads them.
func CriteriaText(list []Criterion) string {
	var b strings.Builder
	for _, c := range list {
		fmt.Fprintln(&b, strings.TrimRight(strings.Join([]string{c.Name, c.Most.Decimal(2), c.Weight.Decimal(2), string(c.Method), strings.Join(c.Levels, " | ")}, "; "), "; "))
	}
	return b.String()
}

// ReadBoundaries reads grades, a line each, the highest first: "A 75".
func ReadBoundaries(text string) ([]Boundary, error) {
	var out []Boundary
	var problems problem.List
	for n, line := range strings.Split(text, "\n") {
		f := strings.Fields(line)
		if len(f) == 0 {
			continue
		}
		from, err := ReadMark(f[len(f)-1])
		if len(f) < 2 || err != nil {
			problems.Add("boundaries", "line %d, “%s”: write a grade and from how much it is, such as “A 75”", n+1, words.Short(line))
			continue
		}
		out = append(out, Boundary{strings.Join(f[:len(f)-1], " "), from})
	}
	return out, problems.Err()
}

// BoundariesText writes grades as ReadBoundaries reads them.
func BoundariesText(list []Boundary) string {
	var b strings.Builder
	for _, x := range list {
		fmt.Fprintf(&b, "%s %s\n", x.Grade, x.From.Decimal(2))
	}
	return b.String()
}

// ReadTags reads what a dish is: "hot, bite-sized; colours: green, gold; main: leek". The
// varieties and the main ingredient have their word before a colon; what has none is a
// tag.
func ReadTags(text string) (Dish, error) {
	d := Dish{Of: map[string][]string{}}
	for _, part := range strings.Split(strings.ToLower(text), ";") {
		name, rest, named := strings.Cut(part, ":")
		name = strings.TrimSpace(name)
		switch {
		case !named:
			d.Tags = append(d.Tags, parts(part)...)
		case name == "main":
			d.Main = strings.TrimSpace(rest)
		case slices.Contains(Varieties, name):
			d.Of[name] = parts(rest)
		default:
			return d, fmt.Errorf("“%s” is none of %s and main", words.Short(name), strings.Join(Varieties, ", "))
		}
	}
	return d, nil
}
