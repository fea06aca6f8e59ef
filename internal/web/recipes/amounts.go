package recipes

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/recipes"
	"freshapron/internal/app/rooms"
	"freshapron/internal/app/school"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type amountsModel struct {
	ID                   int64
	Title                string
	Factor               string
	Pieces, Sets         frame.Field
	First, Room          frame.Field
	Hidden               []hidden
	Parts                []amountPart
	Drifts, Outside      []string
	Bad, Count           int
	Verdict              string
	Light                string
	Tins                 []tinModel
	TinNow               string
	Cost, CostOne        string
	Loads                []string
	Benches              string
	Weight, Volume, Both bool
}

type hidden struct{ Name, Value string }

type amountPart struct {
	Name string
	Rows []amountRow
}

type amountRow struct {
	Name, Note, Exact string
	Best, Off, Other  string
	Says, Warning     string
	Ways              []wayModel
	Applied, Undo     string
	Total, Buy        string
}

type wayModel struct{ Says, Cost, Href string }

type tinModel struct {
	Name, Factor, Depth, Time, Href string
	Here                            bool
}

// maxPieces and maxSets bound what the form can ask.
const (
	maxPieces = 1000
	maxSets   = 60
)

func (p *place) amounts(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	all, err := rooms.All(r.Context())
	if err != nil {
		return err
	}
	m, status := amountsOf(d, all, r.URL.Query())
	part := "amounts"
	return p.Render(w, r, status, templates, part, frame.Page{Title: "Amounts: " + d.Title, Place: "recipes", Data: m})
}

func amountsOf(d recipes.Dish, all []rooms.Room, q url.Values) (amountsModel, int) {
	var problems problem.List
	whole := func(name, what string, otherwise, most int) int {
		text := strings.TrimSpace(q.Get(name))
		if text == "" {
			return otherwise
		}
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > most {
			problems = append(problems, problem.Problem{Path: name, Says: fmt.Sprintf("%s: “%s” is not a whole number between 1 and %d", what, text, most)})
			return otherwise
		}
		return n
	}
	pieces := whole("pieces", words.Capital(d.Pieces), 2*max(1, d.Each), maxPieces)
	sets := whole("sets", "Sets", 14, maxSets)
	m := amountsModel{ID: d.ID, Title: d.Title, Count: len(d.Ingredients)}
	room := rooms.Room{}
	if len(all) > 0 {
		room = all[0]
	}
	var roomOptions []frame.Option
	for _, ro := range all {
		id := strconv.FormatInt(ro.ID, 10)
		if id == q.Get("room") {
			room = ro
		}
		roomOptions = append(roomOptions, frame.Option{Value: id, Label: ro.Name})
	}
	instruments := room.Instruments
	if len(all) == 0 {
		instruments = measure.Usual(d.System())
	}
	kitchen := d.Kitchen(instruments)
	first := q.Get("first")
	if first == "" {
		first = d.Settings.First
	}
	if first != "volume" && first != "both" {
		first = "weight"
	}
	kitchen.Volume = first == "volume"
	m.Weight, m.Volume, m.Both = first == "weight", first == "volume", first == "both"
	text := func(name, label, otherwise string) frame.Field {
		value := q.Get(name)
		if value == "" {
			value = otherwise
		}
		return frame.Text(name, label, value, problems)
	}
	m.Pieces = text("pieces", words.Capital(d.Pieces)+" at a bench", strconv.Itoa(pieces))
	m.Sets = text("sets", "Sets laid out, with demonstration and spare", strconv.Itoa(sets))
	m.First = frame.Choice("first", "Measure", first, problems, []frame.Option{{Value: "weight", Label: "by weight first"}, {Value: "volume", Label: "by spoons and cups first"}, {Value: "both", Label: "both side by side"}})
	m.Room = frame.Choice("room", "With what is in", strconv.FormatInt(room.ID, 10), problems, roomOptions)

	factor := exact.Frac(int64(pieces), int64(max(1, d.Yield)))
	m.Benches = d.Count(pieces)
	m.tins(d, q, &factor)
	m.Factor = measure.Mixed(factor)
	if f := measure.Mixed(factor); strings.Contains(f, ".") {
		m.Factor = factor.Decimal(2)
	}
	amounts := kitchen.By(d.Recipe, factor)
	setting := scale.Setting{Sets: sets, Pieces: pieces}
	for _, name := range d.Parts() {
		part := amountPart{Name: name}
		for n, s := range amounts {
			if s.Line.Part == name {
				row := m.row(d, kitchen, n, s, setting, q)
				if row.Warning != "" && row.Applied == "" {
					m.Bad++
				}
				part.Rows = append(part.Rows, row)
			}
		}
		m.Parts = append(m.Parts, part)
	}
	for _, o := range scale.Outside(d.Recipe, d.Pantry) {
		m.Outside = append(m.Outside, fmt.Sprintf("%s is unusual for %s, where it is %s: look for a misprint before anyone cooks.", o.Says(), o.Mixture, o.Range()))
	}
	for _, dr := range scale.Drifts(d.Recipe, amounts) {
		m.Drifts = append(m.Drifts, dr.Says())
	}
	m.Light, m.Verdict = "good", fmt.Sprintf("All %d amounts can be measured well enough.", m.Count)
	if m.Bad > 0 {
		m.Light, m.Verdict = "look", fmt.Sprintf("%d of %d amounts can be measured well enough.", m.Count-m.Bad, m.Count)
	}
	pence, _ := kitchen.Cost(d.Recipe, factor)
	m.Cost, m.CostOne = measure.Price(pence.Float()*float64(sets)), measure.Price(pence.Float())
	for _, s := range d.Recipe.Dish(pieces).Steps {
		if n := s.Loads(); n > 1 {
			m.Loads = append(m.Loads, fmt.Sprintf("%s: %d loads of %d, %s min in all.", s.Title, n, s.PerLoad, s.Load.Mul(exact.Int(int64(n))).Decimal(1)))
		}
	}
	status := http.StatusOK
	if problems != nil {
		status = http.StatusUnprocessableEntity
	}
	return m, status
}

// tins tells what the tins at hand do to the amounts; one that is chosen sets
// the factor.
func (m *amountsModel) tins(d recipes.Dish, q url.Values, factor *exact.Number) {
	if d.Tin == nil {
		return
	}
	chosen, err := strconv.Atoi(q.Get("tin"))
	if err != nil || chosen < 0 || chosen >= len(scale.UsualTins) {
		chosen = -1
	} else if f, ok := scale.TinFactor(*d.Tin, scale.UsualTins[chosen]); ok {
		*factor = f
		m.TinNow = scale.TinName(scale.UsualTins[chosen])
		m.Hidden = append(m.Hidden, hidden{"tin", strconv.Itoa(chosen)})
	}
	for n, fill := range scale.Fills(*d.Tin, *factor, scale.UsualTins) {
		t := tinModel{
			Name: scale.TinName(fill.Tin), Factor: fill.Factor.Decimal(2), Here: n == chosen,
			Depth: fmt.Sprintf("%.1f", fill.Depth), Time: fmt.Sprintf("%.1f", fill.Time), Href: with(q, "tin", strconv.Itoa(n)),
		}
		m.Tins = append(m.Tins, t)
	}
}

// with returns the address of the page with one parameter changed.
func with(q url.Values, name, value string) string {
	next := url.Values{}
	for k := range q {
		next.Set(k, q.Get(k))
	}
	if value == "" {
		next.Del(name)
	} else {
		next.Set(name, value)
	}
	return "?" + next.Encode()
}

func (m *amountsModel) row(d recipes.Dish, k scale.Kitchen, n int, s scale.Scaled, in scale.Setting, q url.Values) amountRow {
	row := amountRow{Name: s.Called(s.Exact), Note: s.Line.Note, Says: s.Says}
	if !s.Line.Given() {
		row.Best = "to taste"
		if !s.Measurable() {
			row.Warning = "The recipe gives no amount."
		}
		return row
	}
	row.Exact = s.Exact.String()
	best := s.First()
	if best == nil {
		row.Best, row.Warning = "–", "Nothing in this room measures so little."
	} else {
		row.Best, row.Off = best.Says, best.Off()
		var others []string
		for _, o := range []*measure.Instruction{s.ByWeight, s.ByVolume, s.ByCount} {
			if o != nil && o.Says != best.Says {
				others = append(others, fmt.Sprintf("%s, %s", o.Says, o.Off()))
			}
		}
		row.Other = strings.Join(others, "; ")
		if !s.Measurable() {
			row.Warning = fmt.Sprintf("At best %s, and %.0f %% is the limit.", best.Off(), s.Tolerance*100)
		}
	}
	param := fmt.Sprintf("way.%d", n)
	for _, way := range k.Ways(d.Recipe, s, in) {
		if q.Get(param) == way.ID {
			row.Applied, row.Undo = way.Says, with(q, param, "")
			m.Hidden = append(m.Hidden, hidden{param, way.ID})
			continue
		}
		wm := wayModel{Says: way.Says, Href: with(q, param, way.ID)}
		if way.ID == "batch" {
			wm.Href = batchHref(q, way.Says)
		}
		if way.Pence.Sign() > 0 {
			wm.Cost = measure.Price(way.Pence.Float()) + " more"
		}
		row.Ways = append(row.Ways, wm)
	}
	total := s.Stock.Amount(s.Exact.Times(exact.Int(int64(in.Sets))), s.Line.Filling)
	if s.Line.Law == recipe.Whole && s.ByCount != nil {
		total.Quantity = s.ByCount.Measured.Times(exact.Int(int64(in.Sets)))
	}
	row.Total = total.Bulk().String()
	if buy, ok := scale.Buy(s.Stock, total.Quantity); ok && !s.Stock.Tap() {
		row.Buy = buy.Says()
	}
	return row
}

// batchHref leads to the same page for the pieces of the larger batch.
func batchHref(q url.Values, says string) string {
	for _, word := range strings.Fields(says) {
		if _, err := strconv.Atoi(word); err == nil {
			return with(q, "pieces", word)
		}
	}
	return with(q, "", "")
}

type composeModel struct {
	ID      int64
	Title   string
	Base    []lineModel
	Choices []composeChoice
	Limit   frame.Field
	Cost    string
	Light   string
	Verdict string
	Wrong   string // with the limit
	All     []lineModel
	Holds   string
	ToRead  string
}

type composeChoice struct {
	ID      string // of what is wrong with it
	Name    string
	Problem string
	Options []composeOption
}

type composeOption struct {
	Name, Value, Label, Cost string
	Chosen                   bool
}

// compose lets a learner put a dish together within a cost.
func (p *place) compose(w http.ResponseWriter, r *http.Request) error {
	d, err := dish(r)
	if err != nil {
		return err
	}
	if len(d.Choices) == 0 {
		return school.ErrNotFound
	}
	q := r.URL.Query()
	m := composeModel{ID: d.ID, Title: d.Title}
	var picks []recipe.Pick
	for _, v := range q["pick"] {
		var pick recipe.Pick
		if _, err := fmt.Sscanf(v, "%d.%d", &pick.Choice, &pick.Option); err == nil {
			picks = append(picks, pick)
		}
	}
	kitchen := d.Kitchen(measure.Usual(d.System()))
	share := exact.Frac(int64(max(1, d.Each)), int64(max(1, d.Yield)))
	made, err := d.Compose(picks)
	var problems problem.List
	errors.As(err, &problems)
	for n, c := range d.Choices {
		cc := composeChoice{ID: fmt.Sprintf("composed-%d", n), Name: fmt.Sprintf("%s: choose %d", words.Capital(c.Name), c.Take), Problem: problems.At(fmt.Sprintf("choices[%d]", n))}
		if len(picks) == 0 {
			cc.Problem = ""
		}
		for k, o := range c.Options {
			pence, _ := kitchen.Cost(recipe.Recipe{Ingredients: o.Ingredients}, share)
			cc.Options = append(cc.Options, composeOption{
				Name: fmt.Sprintf("pick-%d-%d", n, k), Value: fmt.Sprintf("%d.%d", n, k), Label: o.Name, Cost: measure.Price(pence.Float()),
				Chosen: slices.Contains(picks, recipe.Pick{Choice: n, Option: k}),
			})
		}
		m.Choices = append(m.Choices, cc)
	}
	pence, unpriced := kitchen.Cost(made, share)
	m.Cost = cost(pence.Float(), len(unpriced))
	limit := strings.TrimSpace(q.Get("limit"))
	m.Limit = frame.Text("limit", "Limit for one learner, in pence", limit, nil)
	m.Light, m.Verdict = "good", "Within the limit."
	if n, err := strconv.Atoi(limit); limit == "" {
		m.Verdict = "No limit is set."
	} else if err != nil || n < 0 {
		m.Light, m.Verdict, m.Wrong = "look", "", fmt.Sprintf("“%s” is no number of pence.", limit)
	} else if pence.Float() > float64(n) {
		m.Light, m.Verdict = "stop", fmt.Sprintf("%s over the limit.", measure.Price(pence.Float()-float64(n)))
	}
	for _, s := range kitchen.By(made, share) {
		l := lineModel{Note: s.Line.Note}
		l.Amount, l.Name = s.Told()
		m.All = append(m.All, l)
	}
	known, _ := made.Allergens(d.Pantry)
	m.Holds = strings.Join(d.Declared().Declare(known), ", ")
	m.ToRead = recipe.LabelsSay(made.ToRead(d.Pantry))
	return p.Render(w, r, http.StatusOK, templates, "compose", frame.Page{Title: "Choose: " + d.Title, Place: "recipes", Data: m})
}
