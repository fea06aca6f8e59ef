package judge

import (
	"context"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/taste"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

type tastingPage struct {
	head.Top
	Set      int // version of how it is tasted
	Form     judge.TastingForm
	Stars    []starRow
	Balances []judge.Balance
	Tests    []string
	Slip     slipForm
	Words    []string // that ship, by sense
	Spoons   string
	Failed   []string
	MayTeach bool
	Open     string // the part that is open: setup or test
	Test     testForm
}

type testForm struct{ Test, First, Second string }

type starRow struct {
	Sample  string
	Tasters int
	Star    template.HTML
	Says    []string
}

type slipForm struct {
	To, Press string
	Samples   []frame.Option
	Words     []slipWord
	Faces     bool
	Failed    string
}

type slipWord struct {
	Word, Name string
	Options    []frame.Option
}

// slipOf is an empty slip, or one that comes back.
func slipOf(v *lessons.View, t judge.Tasting, to string, r *http.Request, failed string) slipForm {
	const youngest = 8 // they mark with faces
	s := slipForm{To: to, Press: uuid.NewString(), Failed: failed, Faces: v.Class.Age > 0 && v.Class.Age < youngest}
	for i, x := range t.Samples {
		s.Samples = append(s.Samples, frame.Option{Value: x, Label: x, ID: fmt.Sprint("sample-", i), Chosen: r.PostFormValue("sample") == x || len(t.Samples) == 1})
	}
	for i, w := range t.Words {
		word := slipWord{Word: w, Name: "word-" + w}
		for n := 1; n <= taste.Most; n++ {
			word.Options = append(word.Options, frame.Option{Value: fmt.Sprint(n), Label: fmt.Sprint(n), ID: fmt.Sprintf("word-%d-%d", i, n), Chosen: r.PostFormValue("word-"+w) == fmt.Sprint(n)})
		}
		s.Words = append(s.Words, word)
	}
	return s
}

func marksOf(r *http.Request, t judge.Tasting) map[string]string {
	out := map[string]string{}
	for _, w := range t.Words {
		out[w] = r.PostFormValue("word-" + w)
	}
	return out
}

func (p *place) tasting(w http.ResponseWriter, r *http.Request) error {
	return p.tastingWith(w, r, tastingPage{}, nil)
}

func (p *place) tastingWith(w http.ResponseWriter, r *http.Request, m tastingPage, failed problem.List) error {
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	mine, err := school.Mine(ctx, v.Class.ID)
	if err != nil {
		return err
	}
	t, err := judge.TastingOf(ctx, v)
	if err != nil {
		return err
	}
	m.Top, m.Set = head.TopOf(r, v, "Tasting", "Judge", "", mine), t.Version
	if m.Open != "setup" {
		m.Form = t.FormOf()
	}
	for _, f := range failed {
		m.Failed = append(m.Failed, problem.Sentence(f.Says))
	}
	profiles, tasters, err := judge.Profiles(ctx, v.ID, t)
	if err != nil {
		return err
	}
	for _, s := range t.Samples {
		row := starRow{Sample: s, Tasters: tasters[s], Star: star(s, profiles[s])}
		for _, x := range profiles[s] {
			if x.N > 0 {
				says := fmt.Sprintf("%s %.1f", x.Word, x.Mean)
				if x.N > 1 {
					says += fmt.Sprintf(" ± %.1f", x.SD)
				}
				if x.Meant > 0 {
					says += fmt.Sprintf(", meant %d", x.Meant)
				}
				row.Says = append(row.Says, says)
			}
		}
		m.Stars = append(m.Stars, row)
	}
	m.Balances = judge.Balances(t, profiles, grams(v))
	for _, x := range t.Tests {
		m.Tests = append(m.Tests, testSays(x))
	}
	by := map[string][]string{}
	var senses []string
	for _, x := range taste.Vocabulary {
		if by[x.Sense] == nil {
			senses = append(senses, x.Sense)
		}
		by[x.Sense] = append(by[x.Sense], x.Word)
	}
	for _, s := range senses {
		m.Words = append(m.Words, words.Capital(s)+": "+strings.Join(by[s], ", "))
	}
	m.Spoons = fmt.Sprintf("%d clean spoons: one for each taster and sample", tastersOf(v)*len(t.Samples))
	m.MayTeach = mine && school.May(ctx, staff.Teach)
	m.Slip = slipOf(v, t, fmt.Sprintf("/lessons/%d/tasting/slips", v.ID), r, "")
	return p.Render(w, r, status(failed), templates, "tasting", frame.Page{Title: head.Title("Tasting", v), Place: "judge", Data: m})
}

// grams is what a batch of the first dish weighs at one bench, where its amounts have
// weights; 0 where they do not.
func grams(v *lessons.View) float64 {
	sum := 0.0
	if len(v.Sizes) == 0 {
		return 0
	}
	for _, a := range v.Sizes[0].Amounts {
		g, ok := a.Stock.Grams(a.Exact)
		if !ok {
			return 0
		}
		sum += g.Float()
	}
	return sum
}

func testSays(x judge.TastingTest) string {
	switch x.Test {
	case taste.Paired:
		p := taste.Preferred(x.A, x.B)
		return fmt.Sprintf("%d liked the first better and %d the second: by guessing alone that or more would come about %s. %s", x.A, x.B, inHundred(p), conclusion(p, "One is liked better.", "That says nothing yet."))
	case taste.Triangle:
		p := taste.Right(x.Test, x.Right, x.Tasters)
		return fmt.Sprintf("%d of %d found the odd one of three: by guessing alone that many or more would %s. %s", x.Right, x.Tasters, inHundred(p), conclusion(p, "There is a difference that is noticed.", "That shows no difference."))
	}
	p := taste.Right(x.Test, x.Right, x.Tasters)
	return fmt.Sprintf("%d of %d found the one that is like the first: by guessing alone that many or more would %s. %s", x.Right, x.Tasters, inHundred(p), conclusion(p, "There is a difference that is noticed.", "That shows no difference."))
}

func inHundred(p float64) string {
	if p < 0.01 {
		return "in less than 1 of 100 times"
	}
	return fmt.Sprintf("in %.0f of 100 times", 100*p)
}

func conclusion(p float64, yes, no string) string {
	if p < 0.05 {
		return yes
	}
	return no
}

// star draws how a sample was marked: a ray for each word, the means with their spread,
// and what was meant as a broken line.
func star(sample string, list []judge.Profile) template.HTML {
	const r, cx, cy = 90.0, 160.0, 120.0
	n := len(list)
	if n < 3 {
		return ""
	}
	at := func(i int, mark float64) (x, y float64) {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
		return cx + r*mark/taste.Most*sin, cy - r*mark/taste.Most*cos
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="star" viewBox="0 0 320 240" role="img" aria-label="How %s was marked">`, template.HTMLEscapeString(sample))
	for m := 1; m <= taste.Most; m++ {
		b.WriteString(`<polygon class="web" points="`)
		for i := range list {
			x, y := at(i, float64(m))
			fmt.Fprintf(&b, "%.1f,%.1f ", x, y)
		}
		b.WriteString(`"/>`)
	}
	var tasted, meant strings.Builder
	all, whole := true, true
	for i, p := range list {
		x, y := at(i, taste.Most)
		fmt.Fprintf(&b, `<path class="ray" d="M%.0f %.0fL%.1f %.1f"/>`, cx, cy, x, y)
		lx, ly := at(i, taste.Most*1.14)
		anchor := "middle"
		if lx > cx+8 {
			anchor = "start"
		} else if lx < cx-8 {
			anchor = "end"
		}
		fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" dy="4" text-anchor="%s">%s</text>`, lx, ly, anchor, template.HTMLEscapeString(p.Word))
		if p.N > 0 {
			x, y = at(i, p.Mean)
			fmt.Fprintf(&tasted, "%.1f,%.1f ", x, y)
			x1, y1 := at(i, max(0, p.Mean-p.SD))
			x2, y2 := at(i, min(taste.Most, p.Mean+p.SD))
			fmt.Fprintf(&b, `<path class="spread" d="M%.1f %.1fL%.1f %.1f"/><circle class="mean" cx="%.1f" cy="%.1f" r="3"/>`, x1, y1, x2, y2, x, y)
		} else {
			all = false
		}
		if p.Meant > 0 {
			x, y = at(i, float64(p.Meant))
			fmt.Fprintf(&meant, "%.1f,%.1f ", x, y)
			fmt.Fprintf(&b, `<circle class="meant" cx="%.1f" cy="%.1f" r="4.5"/>`, x, y)
		} else {
			whole = false
		}
	}
	if all {
		fmt.Fprintf(&b, `<polygon class="tasted" points="%s"/>`, tasted.String())
	}
	if whole {
		fmt.Fprintf(&b, `<polygon class="meant" points="%s"/>`, meant.String())
	}
	b.WriteString(`</svg>`)
	return template.HTML(b.String()) //nolint:gosec // escaped above
}

func (p *place) saveTasting(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	form := judge.TastingForm{Samples: r.PostFormValue("samples"), Words: r.PostFormValue("words"), Meant: r.PostFormValue("meant")}
	err := judge.SaveTasting(r.Context(), id, r.PostFormValue("set"), form)
	if failed := problem.Of(err); failed != nil {
		return p.tastingWith(w, r, tastingPage{Form: form, Open: "setup"}, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/tasting", id))
}

func (p *place) addTest(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id, v := frame.ID(r, "id"), r.PostFormValue
	err := judge.AddTest(r.Context(), id, v("set"), v("test"), v("first"), v("second"))
	if failed := problem.Of(err); failed != nil {
		return p.tastingWith(w, r, tastingPage{Open: "test", Test: testForm{v("test"), v("first"), v("second")}}, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/tasting", id))
}

func (p *place) slip(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	ctx := r.Context()
	v, err := lessons.One(ctx, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	err = keepSlip(ctx, v, r)
	if failed := problem.Of(err); failed != nil {
		return p.tastingWith(w, r, tastingPage{}, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/tasting", v.ID))
}

func keepSlip(ctx context.Context, v *lessons.View, r *http.Request) error {
	t, err := judge.TastingOf(ctx, v)
	if err != nil {
		return err
	}
	return judge.AddTaste(ctx, v, r.PostFormValue("press"), r.PostFormValue("sample"), marksOf(r, t))
}

// tastersOf counts all of the class, by name or not.
func tastersOf(v *lessons.View) int { return max(len(v.Class.Roster), v.Class.Learners) }

type slipsPage struct {
	head.Head
	Words  []string
	Marks  []int
	Copies []string // the sample of each
}

// slips are paper slips to be cut apart: one for each taster and sample.
func (p *place) slips(w http.ResponseWriter, r *http.Request) error {
	v, err := lessons.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	t, err := judge.TastingOf(r.Context(), v)
	if err != nil {
		return err
	}
	m := slipsPage{Head: head.Of(v), Words: t.Words}
	for _, s := range t.Samples {
		for range tastersOf(v) {
			m.Copies = append(m.Copies, s)
		}
	}
	for n := 1; n <= taste.Most; n++ {
		m.Marks = append(m.Marks, n)
	}
	return p.Render(w, r, http.StatusOK, templates, "slips", frame.Page{Title: head.Title("Slips", v), Place: "judge", Data: m})
}

type tastingWallPage struct {
	head.Head
	Stars []starRow
}

func (p *place) tastingWall(w http.ResponseWriter, r *http.Request) error {
	v, err := lessons.One(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	t, err := judge.TastingOf(r.Context(), v)
	if err != nil {
		return err
	}
	profiles, tasters, err := judge.Profiles(r.Context(), v.ID, t)
	if err != nil {
		return err
	}
	m := tastingWallPage{Head: head.Of(v)}
	for _, s := range t.Samples {
		m.Stars = append(m.Stars, starRow{Sample: s, Tasters: tasters[s], Star: star(s, profiles[s])})
	}
	return p.Render(w, r, http.StatusOK, templates, "tasting-wall", frame.Page{Title: head.Title("Tasting", v), Data: m})
}

type reviewPage struct {
	head.Top
	MayTeach bool
	Review   judge.Review
	Rows     []reviewRow
	Standing []string
	Given    int
	Failed   []string
}

type reviewRow struct {
	ID                    int64
	Name, Press           string
	Standing, Light, Says string
}

func (p *place) review(w http.ResponseWriter, r *http.Request) error {
	return p.reviewWith(w, r, nil, nil)
}

func (p *place) reviewWith(w http.ResponseWriter, r *http.Request, typed *judge.Review, failed problem.List) error {
	v, rev, said, err := judge.ReviewOf(r.Context(), frame.ID(r, "id"))
	if err != nil {
		return err
	}
	m := reviewPage{MayTeach: true, Top: head.TopOf(r, v, "Looking back", "Judge", "", true), Review: rev, Standing: judge.Standings}
	if typed != nil {
		version := m.Review.Version
		m.Review = *typed
		m.Review.Version = version
	}
	for _, f := range failed {
		m.Failed = append(m.Failed, problem.Sentence(f.Says))
	}
	for _, l := range v.Class.Roster {
		x := said[l.ID]
		row := reviewRow{ID: l.ID, Name: l.Name(), Press: uuid.NewString(), Standing: x.Standing, Says: x.Says}
		if x.Standing != "" {
			m.Given++
			row.Light = map[string]string{judge.Standings[0]: "good", judge.Standings[1]: "look"}[x.Standing]
			if row.Light == "" {
				row.Light = "stop"
			}
		}
		m.Rows = append(m.Rows, row)
	}
	return p.Render(w, r, status(failed), templates, "review", frame.Page{Title: head.Title("Looking back", v), Place: "judge", Data: m})
}

func (p *place) saveReview(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	form := judge.Review{Learn: r.PostFormValue("learn"), Know: r.PostFormValue("know"), Next: r.PostFormValue("next")}
	err := judge.SaveReview(r.Context(), id, r.PostFormValue("set"), form)
	if failed := problem.Of(err); failed != nil {
		return p.reviewWith(w, r, &form, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/review", id))
}

func (p *place) word(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	id, v := frame.ID(r, "id"), r.PostFormValue
	var learner int64
	_, _ = fmt.Sscan(v("learner"), &learner) // nobody has the number 0
	err := judge.GiveWord(r.Context(), id, learner, v("press"), v("standing"), v("says"))
	if failed := problem.Of(err); failed != nil {
		return p.reviewWith(w, r, nil, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/review#learner-%d", id, learner))
}
