// Package judgefile reads the files of tastings and of marks, and writes what comes of
// them. docs/formats holds their JSON Schemas.
package judgefile

import (
	"fmt"
	"io"
	"maps"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/taste"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/tree"
)

// Names and version of the formats.
const (
	TasteFormat = "fresh-apron/taste"
	MarksFormat = "fresh-apron/marks"
	Version     = 1
)

// A Tasting is what was tasted, or what is asked of one to come.
type Tasting struct {
	Test    taste.Test
	Done    bool // it has been tasted
	Tasters int
	Right   int
	A, B    int     // who preferred which
	Ranks   [][]int // of each taster
	Notice  float64 // share of tasters who truly tell; 0 where nothing is asked
	Power   float64
}

const mostTasters, mostSamples = 10_000, 50

func open(from io.Reader, format, what string) (*tree.Reader, *tree.Object, error) {
	value, err := tree.Decode(from)
	if err != nil {
		return nil, nil, err
	}
	r := &tree.Reader{}
	root := r.Root(value).Object()
	if root.Fields != nil {
		root.Head(format, Version, what)
	}
	return r, root, nil
}

// ReadTaste reads a tasting. The error is a problem.List with the path of each thing
// that is wrong, unless the reader itself fails.
func ReadTaste(from io.Reader) (Tasting, error) {
	r, root, err := open(from, TasteFormat, "a file of a tasting")
	if err != nil {
		return Tasting{}, err
	}
	if root.Fields == nil {
		return Tasting{}, r.Problems
	}
	var names []string
	for _, t := range taste.Tests {
		names = append(names, string(t))
	}
	t := Tasting{Test: taste.Test(root.Choice("test", "", names))}
	if !root.Has("test") {
		r.Add("test", "is missing; it must be one of %v", names)
	}
	count := func(name string) int {
		n := root.Count(name, 0, true)
		if n < 0 || n > mostTasters {
			r.Add(name, "is %d; it must be from 0 to %d", n, mostTasters)
		}
		return n
	}
	asks := root.Has("notice") || root.Has("power")
	switch t.Test {
	case taste.Triangle, taste.DuoTrio:
		if t.Done = root.Has("tasters") || root.Has("right") || !asks; t.Done {
			t.Tasters, t.Right = count("tasters"), count("right")
			switch {
			case root.Has("tasters") && t.Tasters == 0:
				r.Add("tasters", "is 0; somebody has to taste")
			case t.Right > t.Tasters:
				r.Add("right", "is %d, of %d tasters", t.Right, t.Tasters)
			}
		}
	case taste.Paired:
		if t.Done = root.Has("a") || root.Has("b") || !asks; t.Done {
			if t.A, t.B = count("a"), count("b"); t.A+t.B == 0 && len(r.Problems) == 0 {
				r.Add("a", "and b are 0; somebody has to taste")
			}
		}
	case taste.Ranking:
		t.Done = true
		t.ranks(r, root.Field("ranks", true))
		if asks {
			r.Add("notice", "can be asked of triangle, duo-trio and paired only")
		}
	}
	if asks && t.Test != taste.Ranking {
		share := func(name string) float64 {
			v := root.Number(name, exact.Number{}, true).Float()
			if root.Has(name) && !(v > 0 && v < 1) {
				r.Add(name, "is %g; it must be above 0 and under 1", v)
			}
			return v
		}
		t.Notice, t.Power = share("notice"), share("power")
	} else if asks {
		root.Field("notice", false)
		root.Field("power", false)
	}
	if t.Test != "" {
		root.Done()
	}
	return t, r.Problems.Err()
}

func (t *Tasting) ranks(r *tree.Reader, list tree.Node) {
	list.Each(func(i int, n tree.Node) {
		row := tree.Object{Node: tree.Node{Reader: r, Path: "$"}, Fields: map[string]any{n.Path: n.Value}}
		ranks := row.Counts(n.Path)
		t.Ranks = append(t.Ranks, ranks)
		sorted := slices.Sorted(slices.Values(ranks))
		for j, v := range sorted {
			if v != j+1 {
				r.Add(n.Path, "is %v; it must have each of 1 to %d once", ranks, len(ranks))
				break
			}
		}
		if len(ranks) < 2 || len(ranks) > mostSamples {
			r.Add(n.Path, "ranks %d samples; it must be from 2 to %d", len(ranks), mostSamples)
		} else if i > 0 && len(ranks) != len(t.Ranks[0]) {
			r.Add(n.Path, "ranks %d samples, and the first taster %d", len(ranks), len(t.Ranks[0]))
		}
	})
	switch {
	case list.Found && len(t.Ranks) < 2 && len(r.Problems) == 0:
		r.Add("ranks", "has %s; there must be at least two", words.Plural(len(t.Ranks), "taster", "tasters"))
	case len(t.Ranks) > mostTasters:
		r.Add("ranks", "has more than %d tasters", mostTasters)
	}
}

type tasteJSON struct {
	P         *float64 `json:"p,omitempty"`
	Statistic *float64 `json:"statistic,omitempty"`
	Method    string   `json:"method,omitempty"`
	Needed    *int     `json:"tasters_needed,omitempty"`
	Says      string   `json:"says"`
}

// figures is what comes of a tasting.
func (t Tasting) figures() tasteJSON {
	var out tasteJSON
	var says []string
	switch {
	case !t.Done:
	case t.Test == taste.Ranking:
		q, p, exactly := taste.Friedman(t.Ranks)
		out.Statistic, out.P, out.Method = &q, &p, "chi-square"
		if exactly {
			out.Method = "exact"
		}
		says = append(says, fmt.Sprintf("The ranks of %d tasters differ as much by chance in %s such tastings: %s.", len(t.Ranks), inHundred(p), verdict(p, "the samples are not liked alike", "nothing is shown")))
	case t.Test == taste.Paired:
		p := taste.Preferred(t.A, t.B)
		out.P = &p
		says = append(says, fmt.Sprintf("%d preferred one and %d the other; by chance it is as one-sided in %s such tastings: %s.", max(t.A, t.B), min(t.A, t.B), inHundred(p), verdict(p, "one is liked better", "nothing is shown")))
	default:
		p := taste.Right(t.Test, t.Right, t.Tasters)
		out.P = &p
		says = append(says, fmt.Sprintf("%d of %d were right; by guessing that many or more are in %s such tastings: %s.", t.Right, t.Tasters, inHundred(p), verdict(p, "they can tell the difference", "nothing is shown")))
	}
	if t.Notice > 0 {
		n := taste.Needed(t.Test, t.Notice, t.Power)
		if n > 0 {
			out.Needed = &n
			says = append(says, fmt.Sprintf("To notice a difference that %.0f in 100 truly tell, with %.0f in 100 such tastings, takes %d tasters.", 100*t.Notice, 100*t.Power, n))
		} else {
			says = append(says, fmt.Sprintf("To notice so small a difference takes more than %d tasters.", taste.MostTasters))
		}
	}
	out.Says = strings.Join(says, " ")
	return out
}

func inHundred(p float64) string {
	switch {
	case p < 0.0005:
		return "fewer than 1 in 1000"
	case p < 0.1:
		return fmt.Sprintf("%.1f in 100", 100*p)
	}
	return fmt.Sprintf("%.0f in 100", 100*p)
}

func verdict(p float64, yes, no string) string {
	if p < 0.05 {
		return yes
	}
	return no
}

// WriteTaste writes what comes of a tasting as JSON.
func WriteTaste(to io.Writer, t Tasting) error { return jsonout.Write(to, t.figures()) }

// WriteTasteText writes it for people to read.
func WriteTasteText(to io.Writer, t Tasting) error {
	_, err := fmt.Fprintln(to, t.figures().Says)
	return err
}

// A Book is a scheme with the marks of markers, by marker and learner.
type Book struct {
	assess.Scheme
	Markers map[string]map[string]assess.Marks
}

// ReadMarks reads a scheme with marks, as ReadTaste does.
func ReadMarks(from io.Reader) (Book, error) {
	r, root, err := open(from, MarksFormat, "a file of marks")
	if err != nil {
		return Book{}, err
	}
	if root.Fields == nil {
		return Book{}, r.Problems
	}
	b := Book{Markers: map[string]map[string]assess.Marks{}}
	most := map[string]exact.Number{}
	root.Field("criteria", true).Each(func(_ int, n tree.Node) {
		o := n.Object()
		c := assess.Criterion{ID: o.Text("id", true), Most: o.Number("most", exact.Int(1), true), Weight: o.Number("weight", exact.Int(1), false)}
		most[c.ID] = c.Most
		b.Criteria = append(b.Criteria, c)
		o.Done()
	})
	scale := root.Field("scale", true).Object()
	var names []string
	for _, x := range assess.Roundings {
		names = append(names, string(x))
	}
	b.OutOf, b.Round, b.Places = scale.Number("out_of", exact.Int(100), true), assess.Rounding(scale.Choice("round", string(assess.HalfUp), names)), scale.Count("places", 0, false)
	scale.Done()
	root.Field("boundaries", false).Each(func(_ int, n tree.Node) {
		o := n.Object()
		b.Boundaries = append(b.Boundaries, assess.Boundary{Grade: o.Text("grade", true), From: o.Number("from", exact.Number{}, true)})
		o.Done()
	})
	b.Tolerance = root.Number("tolerance", exact.Number{}, false)
	markers := root.Field("markers", true).Object()
	for _, m := range slices.Sorted(maps.Keys(markers.Fields)) {
		learners := markers.Field(m, true).Object()
		b.Markers[m] = map[string]assess.Marks{}
		for _, l := range slices.Sorted(maps.Keys(learners.Fields)) {
			o := learners.Field(l, true).Object()
			marks := assess.Marks{}
			for _, id := range slices.Sorted(maps.Keys(o.Fields)) {
				path := o.Path + "." + id
				top, known := most[id]
				if !known {
					r.Add(path, "is no criterion of this scheme%s", words.DidYouMean(id, slices.Sorted(maps.Keys(most))))
					continue
				}
				before := len(r.Problems)
				v := o.Number(id, exact.Number{}, true)
				switch {
				case len(r.Problems) > before:
				case v.Sign() < 0 || top.Less(v):
					r.Add(path, "is %s; it must be from 0 to %s", v.Decimal(4), top.Decimal(4))
				default:
					marks[id] = v
				}
			}
			b.Markers[m][l] = marks
		}
	}
	root.Done()
	if len(r.Problems) == 0 {
		r.Problems = append(r.Problems, problem.Of(b.Check())...)
	}
	return b, r.Problems.Err()
}

type marksJSON struct {
	Learners  map[string]map[string]resultJSON `json:"learners"`
	Criteria  []agreementJSON                  `json:"criteria"`
	Overall   overallJSON                      `json:"overall"`
	TalkAbout []string                         `json:"talk_about"`
}

type resultJSON struct {
	Total   *string         `json:"total"`
	Rounded *jsonout.Number `json:"rounded"`
	Grade   *string         `json:"grade"`
	Missing []string        `json:"missing,omitempty"`
}

type agreementJSON struct {
	ID    string           `json:"id"`
	Mean  *jsonout.Rounded `json:"mean_difference"`
	Kappa *jsonout.Rounded `json:"kappa_quadratic"`
	N     int              `json:"n"`
}

type overallJSON struct {
	Mean     *jsonout.Rounded    `json:"mean_difference"`
	Kappa    *jsonout.Rounded    `json:"kappa_quadratic"`
	Interval *[2]jsonout.Rounded `json:"kappa_interval"`
	N        int                 `json:"n"`
}

func maybe(v float64) *jsonout.Rounded {
	if math.IsNaN(v) {
		return nil
	}
	r := jsonout.Rounded(v)
	return &r
}

// WriteMarks writes what comes of marks as JSON.
func WriteMarks(to io.Writer, b Book) error {
	c := b.Compare(b.Markers)
	out := marksJSON{Learners: map[string]map[string]resultJSON{}, Criteria: []agreementJSON{}, TalkAbout: append([]string{}, c.TalkAbout...)}
	for l, by := range c.Learners {
		out.Learners[l] = map[string]resultJSON{}
		for m, r := range by {
			x := resultJSON{Missing: r.Missing}
			if r.Total != nil {
				total, rounded := r.Total.Mixed(), jsonout.Number(r.Rounded)
				x.Total, x.Rounded = &total, &rounded
			}
			if r.Grade != "" {
				x.Grade = &r.Grade
			}
			out.Learners[l][m] = x
		}
	}
	for _, a := range c.Criteria {
		out.Criteria = append(out.Criteria, agreementJSON{a.ID, maybe(a.Mean), maybe(a.Kappa), a.N})
	}
	out.Overall = overallJSON{Mean: maybe(c.Overall.Mean), Kappa: maybe(c.Overall.Kappa), N: c.Overall.N}
	if !math.IsNaN(c.Overall.Low) {
		out.Overall.Interval = &[2]jsonout.Rounded{jsonout.Rounded(c.Overall.Low), jsonout.Rounded(c.Overall.High)}
	}
	return jsonout.Write(to, out)
}

// WriteMarksText writes it for people to read.
func WriteMarksText(to io.Writer, b Book) error {
	c := b.Compare(b.Markers)
	var s strings.Builder
	for _, l := range slices.Sorted(maps.Keys(c.Learners)) {
		fmt.Fprintf(&s, "%s:", l)
		for _, m := range slices.Sorted(maps.Keys(c.Learners[l])) {
			r := c.Learners[l][m]
			if r.Total == nil {
				fmt.Fprintf(&s, "  %s no total, without %s", m, words.Names(r.Missing))
				continue
			}
			fmt.Fprintf(&s, "  %s %s", m, r.Rounded.Decimal(b.Places))
			if r.Grade != "" {
				fmt.Fprintf(&s, " (%s)", r.Grade)
			}
		}
		s.WriteString("\n")
	}
	if !math.IsNaN(c.Overall.Mean) {
		fmt.Fprintf(&s, "The first marker gives %+.1f on the average", c.Overall.Mean)
		if !math.IsNaN(c.Overall.Kappa) {
			fmt.Fprintf(&s, "; agreement %.2f (%.2f to %.2f)", c.Overall.Kappa, c.Overall.Low, c.Overall.High)
		}
		fmt.Fprintf(&s, ", of %s.\n", words.Plural(c.Overall.N, "learner", "learners"))
	}
	if len(c.TalkAbout) > 0 {
		fmt.Fprintf(&s, "To talk about: %s.\n", words.Names(c.TalkAbout))
	}
	_, err := io.WriteString(to, s.String())
	return err
}
