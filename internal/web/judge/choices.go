package judge

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/judge"
	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/class"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type choicesPage struct {
	Top
	Rows      []choiceRow
	Made      []string // "Herb scones: 7 make 28"
	Cost      string
	Unplanned int
	Deadline  string
	Late      int
	Help      bool // what would help those who are late is searched for
}

type choiceRow struct {
	ID              int64
	Name            string
	Dishes, Sides   string
	Met, Light      string
	Not             []string
	Done, DoneLight string
	Plan, PlanLight string
	Cost            string
	Minutes         string
}

func (p *place) choices(w http.ResponseWriter, r *http.Request) error {
	return p.choicesWith(w, r, nil)
}

func (p *place) choicesWith(w http.ResponseWriter, r *http.Request, failed problem.List) error {
	t, b, err := p.open(r)
	if err != nil {
		return err
	}
	entries, err := judge.Entries(r.Context(), t)
	if err != nil {
		return err
	}
	dishes, err := judge.Shelf(r.Context(), t)
	if err != nil {
		return err
	}
	m := choicesPage{Top: topOf(t, b, "Choices", failed)}
	finish := judge.Finishes(t, entries)
	deadline := 0.0
	if t.View.Plan != nil {
		deadline = t.View.Plan.Deadline
		m.Deadline = t.View.Fit.At(deadline)
	}
	makers, pieces, pence := map[string]int{}, map[string]int{}, 0.0
	for _, l := range t.Learners() {
		e := entries[l.ID]
		row := choiceRow{ID: l.ID, Name: l.Name()}
		c := judge.ChoiceOf(dishes, e)
		for _, d := range c.Dishes {
			makers[d.Title]++
			pieces[d.Title] += d.Portions
		}
		pence += c.Pence()
		mains, sides := c.Titles()
		row.Dishes, row.Sides = words.Names(mains), words.Names(sides)
		if len(c.Dishes) == 0 {
			row.Met = "nothing chosen yet"
			m.Rows = append(m.Rows, row)
			continue
		}
		row.Cost, row.Minutes = measure.Price(c.Pence()), fmt.Sprintf("%.0f min", c.Minutes())
		row.Met, row.Light, row.Not = standing(t.Brief.Check(c))
		if at, ok := finish[l.ID]; ok {
			row.Done, row.DoneLight = t.View.Fit.At(at), "good"
			if at > deadline+1e-9 {
				row.Done, row.DoneLight = fmt.Sprintf("%s, %.0f min late", row.Done, at-deadline), "stop"
				m.Late++
			}
		} else {
			m.Unplanned++
		}
		row.Plan, row.PlanLight = planSays(r.Context(), t, l.ID, e)
		m.Rows = append(m.Rows, row)
	}
	for title, n := range makers {
		m.Made = append(m.Made, fmt.Sprintf("%s: %s, %d in all", title, words.Plural(n, "maker", "makers"), pieces[title]))
	}
	slices.Sort(m.Made)
	m.Cost, m.Help = measure.Price(pence), lessons.WantsHelp(r.Context(), t.View)
	return p.Render(w, r, status(failed), templates, "choices", frame.Page{Title: "Choices: " + t.Title, Place: "judge", Data: m})
}

// standing says in short how a choice stands to the brief.
func standing(list []assess.Verdict) (says, light string, not []string) {
	n, unknown := 0, 0
	for _, v := range list {
		switch v.State {
		case assess.Met:
			n++
		case assess.NotKnown:
			unknown++
			not = append(not, "not known: "+v.Says+because(v.Why))
		default:
			not = append(not, v.Says+because(v.Why))
		}
	}
	says, light = fmt.Sprintf("%d of %d met", n, len(list)), "good"
	switch {
	case n+unknown < len(list):
		light = "stop"
	case unknown > 0:
		light = "look"
	}
	return says, light, not
}

func because(why string) string {
	if why == "" {
		return ""
	}
	return " (" + why + ")"
}

func planSays(ctx context.Context, t *judge.Task, learner int64, e judge.Entry) (says, light string) {
	if strings.TrimSpace(e.Plan) == "" {
		return "none yet", ""
	}
	plan, err := judge.PlanOf(ctx, t, learner, e)
	if err != nil {
		return "can’t be judged yet", "look"
	}
	switch n, asks := len(plan.Findings), len(plan.Asks); {
	case n > 0:
		return words.Plural(n, "finding", "findings"), "stop"
	case asks > 0:
		return words.Plural(asks, "row is asked", "rows are asked"), "look"
	}
	return "sound", "good"
}

func (p *place) planIn(w http.ResponseWriter, r *http.Request) error {
	id := frame.ID(r, "id")
	err := judge.PlanIn(r.Context(), id)
	if failed := problem.Of(err); failed != nil {
		return p.choicesWith(w, r, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/choices", id))
}

// A choosing is the page on which dishes are chosen, of those who teach and of a learner.
type choosing struct {
	Top
	Name     string
	To, Back string
	Entry    int // version
	Dishes   []dishRow
	Papers   []paperRow
	Verdicts []verdictRow
	Cost     string
	Sets     string // where sets are looked for; empty where they are not offered
	Learner  bool   // it is theirs: no frame of the school around it
}

type dishRow struct {
	ID        int64
	Title, As string
	Portions  string
	Facts     string
}

type paperRow struct {
	Name, By string
	In       bool
}

type verdictRow struct{ Says, State, Light, Why string }

func verdictsOf(list []assess.Verdict) []verdictRow {
	var out []verdictRow
	for _, v := range list {
		out = append(out, verdictRow{words.Capital(v.Says), string(v.State), map[assess.State]string{assess.Met: "good", assess.NotMet: "stop", assess.NotKnown: "look"}[v.State], v.Why})
	}
	return out
}

// formOf reads what is pressed on the page: of a form, or of an address.
func formOf(values url.Values) (map[int64]judge.ChoiceForm, []string, bool) {
	form, any := map[int64]judge.ChoiceForm{}, false
	for name := range values {
		id, ok := strings.CutPrefix(name, "as-")
		if !ok {
			continue
		}
		n, err := strconv.ParseInt(id, 10, 64)
		if err != nil {
			continue
		}
		any = true
		form[n] = judge.ChoiceForm{As: values.Get(name), Portions: values.Get("portions-" + id)}
	}
	return form, values["paper"], any
}

// choosingOf fills the page from what is kept, or from what is pressed.
func choosingOf(ctx context.Context, t *judge.Task, b judge.Book, l class.Learner, own bool, values url.Values, failed problem.List) (choosing, error) {
	m := choosing{Learner: own, Top: topOf(t, b, "Choices", failed), Name: l.Name()}
	entries, err := judge.Entries(ctx, t)
	if err != nil {
		return m, err
	}
	dishes, err := judge.Shelf(ctx, t)
	if err != nil {
		return m, err
	}
	e := entries[l.ID]
	m.Entry = e.Version
	form, papers, pressed := formOf(values)
	if pressed {
		e.Dishes = nil
		if !own { // which papers were handed in is not for learners to say
			e.Papers = papers
		}
	}
	for _, d := range dishes {
		row := dishRow{ID: d.ID, Title: d.Title, Portions: strconv.Itoa(d.Each), Facts: factsSay(d)}
		if pressed {
			x := form[d.ID]
			row.As, row.Portions = x.As, cmp.Or(x.Portions, row.Portions)
			if row.As != "" { // a number that can't be read is not said
				n, _ := strconv.Atoi(row.Portions)
				e.Dishes = append(e.Dishes, judge.EntryDish{Dish: d.ID, Side: row.As == "side", Portions: max(0, n)})
			}
		} else if at := slices.IndexFunc(e.Dishes, func(x judge.EntryDish) bool { return x.Dish == d.ID }); at >= 0 {
			row.As, row.Portions = "dish", strconv.Itoa(e.Dishes[at].Portions)
			if e.Dishes[at].Side {
				row.As = "side"
			}
		}
		m.Dishes = append(m.Dishes, row)
	}
	slices.SortStableFunc(m.Dishes, func(a, b dishRow) int { return cmp.Compare(rank(a.As), rank(b.As)) })
	c := judge.ChoiceOf(dishes, e)
	m.Verdicts = verdictsOf(t.Brief.Check(c))
	m.Cost = measure.Price(c.Pence())
	for _, x := range t.Brief {
		if x.Paper != "" {
			m.Papers = append(m.Papers, paperRow{x.Paper, x.By.Format("Monday 2 January"), slices.Contains(e.Papers, x.Paper)})
		}
	}
	return m, nil
}

func rank(as string) int {
	return map[string]int{"dish": 0, "side": 1}[cmp.Or(as, "no")] + map[bool]int{true: 2}[as == ""]
}

// factsSay is what one chooses by.
func factsSay(d judge.Dish) string {
	facts := []string{fmt.Sprintf("%.0f min of work", d.Minutes), fmt.Sprintf("%s for %d", measure.Price(d.Pence), d.Each)}
	if len(d.Dish.Tags) > 0 {
		facts = append(facts, strings.Join(d.Dish.Tags, ", "))
	}
	return strings.Join(facts, " · ")
}

func (p *place) choice(w http.ResponseWriter, r *http.Request) error {
	return p.choiceWith(w, r, r.URL.Query(), nil)
}

func (p *place) choiceWith(w http.ResponseWriter, r *http.Request, values url.Values, failed problem.List) error {
	t, b, l, err := p.openOf(r)
	if err != nil {
		return err
	}
	m, err := choosingOf(r.Context(), t, b, l, false, values, failed)
	if err != nil {
		return err
	}
	m.To, m.Back, m.Sets = fmt.Sprintf("/judge/%d/choices/%d", t.ID, l.ID), fmt.Sprintf("/judge/%d/choices", t.ID), fmt.Sprintf("/judge/%d/sets?learner=%d", t.ID, l.ID)
	return p.Render(w, r, status(failed), templates, part(r, "choice"), frame.Page{Title: l.Name() + ": " + t.Title, Place: "judge", Data: m})
}

// part is the part of a page that was asked for: the conditions alone, while dishes are
// pressed.
func part(r *http.Request, page string) string {
	if r.Header.Get("HX-Target") == "conditions" {
		return "conditions"
	}
	return page
}

func (p *place) choose(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	if !t.Mine {
		return school.ErrNotYours
	}
	form, papers, _ := formOf(r.PostForm)
	learner := frame.ID(r, "learner")
	err = judge.Choose(r.Context(), t, learner, r.PostFormValue("entry"), form, papers)
	if failed := problem.Of(err); failed != nil {
		return p.choiceWith(w, r, r.PostForm, failed)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/judge/%d/choices", t.ID))
}

type setsPage struct {
	Sets  []setRow
	Done  bool
	Again string
	None  bool
}

type setRow struct {
	Says, Met, Light string
	Not              []string
	Take             string
}

// sets shows the sets of dishes that were found so far, and asks again until all are.
func (p *place) sets(w http.ResponseWriter, r *http.Request) error {
	t, _, err := p.open(r)
	if err != nil {
		return err
	}
	search, err := judge.Propose(r.Context(), t)
	if err != nil {
		return err
	}
	learner, _ := strconv.ParseInt(r.URL.Query().Get("learner"), 10, 64)
	found, done, err := search.So(r.Context())
	if err != nil {
		return err
	}
	m := setsPage{Done: done, Again: fmt.Sprintf("/judge/%d/sets?learner=%d", t.ID, learner), None: done && len(found) == 0}
	dishes, err := judge.Shelf(r.Context(), t)
	if err != nil {
		return err
	}
	each := map[string]int{}
	for _, d := range dishes {
		each[d.Dish.ID] = d.Each
	}
	for _, s := range found {
		row := setRow{}
		mains, sides := assess.Choice{Dishes: s.Dishes}.Titles()
		take := url.Values{}
		for _, d := range s.Dishes {
			as := "dish"
			if d.Side {
				as = "side"
			}
			take.Set("as-"+d.ID, as)
			take.Set("portions-"+d.ID, strconv.Itoa(each[d.ID]))
		}
		row.Says = words.Names(mains)
		if sides != nil {
			row.Says += ", with " + words.Names(sides)
		}
		row.Met, row.Light, row.Not = standing(s.Verdicts)
		row.Take = fmt.Sprintf("/judge/%d/choices/%d?%s", t.ID, learner, take.Encode())
		m.Sets = append(m.Sets, row)
	}
	return p.Render(w, r, http.StatusOK, templates, "sets", frame.Page{Title: "Sets that meet the brief", Place: "judge", Data: m})
}
