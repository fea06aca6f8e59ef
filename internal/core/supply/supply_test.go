package supply_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/order"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
)

const monday = order.Day(20787) // 30 November 2026

func to[T any](v T) *T { return &v }

// take is what a bench takes of a line of a recipe.
func take(place, line string) lesson.Take {
	in := recipe.TakeLine(line, "", measure.Metric, pantry.Stock()).Ingredient
	return lesson.Take{Place: place, Says: place, Line: in, Amount: in.Quantity}
}

func of(id int64, on order.Day, takes ...lesson.Take) supply.Lesson {
	return supply.Lesson{ID: id, On: on, Takes: takes}
}

func says(needs []supply.Need) string {
	var out []string
	for _, n := range needs {
		apart := ""
		if n.Item.Apart() {
			apart = " apart"
		}
		out = append(out, n.On.String()[8:]+" "+n.Item.Says(n.Amount)+apart)
	}
	return strings.Join(out, "; ")
}

func TestNeedsAreMerged(t *testing.T) {
	for name, c := range map[string]struct {
		takes []lesson.Take
		want  string
	}{
		"weights and spoons meet by density": {[]lesson.Take{take("a", "225 g plain flour"), take("b", "100 ml plain flour")}, "30 278 g plain flour"},
		// One leek weighs 220 g as bought and 150 g trimmed: 300 g ready to use are two leeks.
		"what is trimmed off is bought too":       {[]lesson.Take{take("a", "300 g leek"), take("b", "1 leek")}, "30 3 leeks"},
		"pieces of what is sold by weight":        {[]lesson.Take{take("a", "2 onions"), take("b", "150 g onions")}, "30 510 g onions"},
		"eggs by weight are whole eggs":           {[]lesson.Take{take("a", "100 g medium eggs"), take("b", "1 medium egg")}, "30 3 medium eggs"},
		"what is poured, by volume":               {[]lesson.Take{take("a", "1 l semi-skimmed milk"), take("b", "2 tbsp semi-skimmed milk")}, "30 1.03 l semi-skimmed milk"},
		"what the pantry does not know, in words": {[]lesson.Take{take("a", "2 zorbles"), take("b", "30 g zorbles")}, "30 2 zorbles apart; 30 30 g zorbles apart"},
		"nobody buys water":                       {[]lesson.Take{take("a", "500 ml water")}, ""},
	} {
		assert.Equal(t, c.want, says(supply.Merge(pantry.Stock(), nil, []supply.Lesson{of(1, monday, c.takes...)})), name)
	}
}

// What learners bring is not bought, and every need says for whom it is.
func TestNeedsCanBeTraced(t *testing.T) {
	half := take("g2", "200 g plain flour")
	half.Home = exact.Frac(1, 2)
	needs := supply.Merge(pantry.Stock(), nil, []supply.Lesson{
		of(7, monday+1, take("g1", "100 g plain flour")), of(4, monday, take("g1", "200 g plain flour"), half)})
	require.Equal(t, "30 300 g plain flour; 01 100 g plain flour", says(needs))
	assert.Equal(t, int64(4), needs[0].Of[1].Lesson)
	assert.Equal(t, "g2", needs[0].Of[1].Place)
	assert.Equal(t, exact.Int(100), needs[0].Of[1].Adds)
}

// dairy is a stretch of a week with butter and leeks from one supplier, figured by
// hand.
func dairy() supply.Stretch {
	return supply.Stretch{From: monday, To: monday + 6, Today: monday - 3, Pantry: pantry.Stock(),
		Lessons:   []supply.Lesson{of(1, monday+1, take("g1", "400 g butter"), take("g2", "500 g butter"), take("g1", "2 leeks"))},
		Batches:   []supply.Batch{{ID: 5, Item: "butter", Amount: measure.Q("250", measure.Gram), UseBy: to(monday + 3), Says: "fridge"}},
		Suppliers: []supply.Supplier{{ID: 3, Name: "Dairy", Days: term.SchoolDays, LeadDays: 1, Least: 500, Charge: 350}},
		Products: []supply.Product{
			{ID: 11, Supplier: 3, Item: "butter", Name: "butter block", Size: measure.Q("250", measure.Gram), Pence: 205, Keeps: to(30), Days: 127},
			{ID: 12, Supplier: 3, Item: "butter", Name: "butter box", Size: measure.Q("1", measure.Kilogram), Pence: 790, Keeps: to(30), Days: 127},
			{ID: 13, Supplier: 3, Item: "leek", Name: "leeks, bunch", Size: measure.Q("3", measure.Each), Pence: 130, Keeps: to(5), Days: 1 << 1},
			{ID: 14, Supplier: 3, Item: "leek", Name: "leeks, loose", Size: measure.Q("1", measure.Each), Pence: 60, Keeps: to(5), Days: 1}},
	}
}

func plan(t *testing.T, change func(*supply.Stretch)) (supply.Plan, string) {
	t.Helper()
	s := dairy()
	change(&s)
	p, err := supply.Solve(s)
	require.NoError(t, err)
	var out []string
	for _, d := range p.Deliveries {
		for _, l := range d.Lines {
			out = append(out, fmt.Sprint(d.On.String()[8:], " ", l.Count, " ", l.Product.Name))
		}
	}
	for _, m := range p.Short {
		out = append(out, "short "+m.Item.Says(m.Amount)+": "+m.Why)
	}
	return p, strings.Join(out, "; ")
}

func TestOrdersOfAWeek(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*supply.Stretch)
		want   string
		pence  string
	}{
		// 650 g over the stock: three blocks at 6.15 are cheaper than a box. Leeks come bunched on Tuesdays
		// only, and loose on Mondays only: one charge on either day.
		"the cheapest, on a day on which all can come": {func(*supply.Stretch) {}, "30 3 butter block; 30 2 leeks, loose", "1085"},
		"a day on which nobody is there":               {func(s *supply.Stretch) { s.Closed = []order.Day{monday} }, "01 3 butter block; 01 1 leeks, bunch", "1095"},
		"somebody wants the box":                       {func(s *supply.Stretch) { s.Decided = []supply.Decided{{12, monday, 1}} }, "30 1 butter box; 30 2 leeks, loose", "1260"},
		"not the blocks":                               {func(s *supply.Stretch) { s.Decided = []supply.Decided{{11, monday, 0}, {11, monday + 1, 0}} }, "30 1 butter box; 30 2 leeks, loose", "1260"},
		"what is on its way is counted on": {func(s *supply.Stretch) {
			s.Batches = append(s.Batches, supply.Batch{ID: 6, Item: "butter", Amount: measure.Q("750", measure.Gram), From: to(monday)})
			// Two leeks are under the least order, 5.00: a block and three leeks more reach it for less than seven leeks.
		}, "30 1 butter block; 30 5 leeks, loose", "855"},
		"too late for a lesson tomorrow": {func(s *supply.Stretch) { s.Today = monday + 1 },
			"short 650 g butter: to come on 2026-12-01 it had to be ordered from 3 by 2026-11-30; short 2 leeks: to come on 2026-12-01 it had to be ordered from 3 by 2026-11-30", "0"},
	} {
		p, got := plan(t, c.change)
		assert.Equal(t, c.want, got, name)
		assert.Equal(t, c.pence, p.Order.Total.Mul(exact.Int(100)).Decimal(0), name)
		assert.Empty(t, p.Dropped, name)
	}
}

// A line of the order says for which benches it is, a bench where its things come
// from; what can't be as somebody wanted is said.
func TestTheOrderIsTraceable(t *testing.T) {
	p, _ := plan(t, func(*supply.Stretch) {})
	butter := p.Deliveries[0].Lines[0]
	assert.Len(t, butter.For, 2)
	assert.Equal(t, "g2", butter.For[1].Place)
	sources := p.SourcesOf(p.Needs[0])
	require.Len(t, sources, 2)
	assert.Equal(t, "fridge", sources[0].Batch.Says)
	assert.Equal(t, "butter block", sources[1].Product.Name)
	assert.Equal(t, exact.Int(650), sources[1].Amount)
	assert.Equal(t, "100 g butter", p.Left[0].Item.Says(p.Left[0].Amount))
	assert.Equal(t, "82", p.Left[0].Pence.Decimal(0))

	p, _ = plan(t, func(s *supply.Stretch) { s.Decided = []supply.Decided{{11, monday - 2, 4}, {99, monday, 1}} })
	assert.Len(t, p.Dropped, 2, "gone by, and not sold")
	p, _ = plan(t, func(s *supply.Stretch) { s.Today = monday + 1 })
	assert.Len(t, p.MissingOf(1), 2)
	assert.Empty(t, p.MissingOf(2))
}

// What was ordered for a lesson that is not there any more is said.
func TestWhatIsOrderedAndNotNeeded(t *testing.T) {
	p, _ := plan(t, func(s *supply.Stretch) {
		s.Lessons[0].Takes = s.Lessons[0].Takes[:1]
		s.Batches = append(s.Batches, supply.Batch{ID: 6, Item: "butter", Amount: measure.Q("750", measure.Gram), From: to(monday)},
			supply.Batch{ID: 8, Item: "moon dust", Amount: measure.Q("1", measure.Each)})
	})
	left := p.Unneeded()
	require.Len(t, left, 1)
	assert.Equal(t, int64(6), left[0].Batch.ID)
	assert.Equal(t, "600 g butter", left[0].Item.Says(left[0].Amount))
	assert.Equal(t, int64(8), p.Unknown[0].ID)
}

func TestIdeasForLeftOvers(t *testing.T) {
	dish := func(title string, lines ...string) recipe.Recipe {
		r := recipe.Recipe{ID: title, Title: title, Yield: 4, Each: 2}
		for _, l := range lines {
			r.Ingredients = append(r.Ingredients, recipe.TakeLine(l, "", measure.Metric, pantry.Stock()).Ingredient)
		}
		return r
	}
	dishes := []recipe.Recipe{dish("a little", "10 g butter"), dish("much", "100 g butter"), dish("none", "1 leek")}
	l := supply.Left{Item: supply.ItemOf(pantry.Stock(), "butter", nil), Amount: exact.Int(220), UseBy: to(monday + 4)}
	later := supply.Merge(pantry.Stock(), nil, []supply.Lesson{of(8, monday+3, take("g1", "55 g butter")), of(9, monday+5, take("g1", "55 g butter"))})
	ideas := l.Ideas(later, dishes, 20)
	require.Len(t, ideas, 3)
	assert.Equal(t, []any{int64(8), 0.25}, []any{ideas[0].Lesson, ideas[0].Share}, "a lesson before its date")
	// 50 g for each learner: enough for four. 5 g for each: 100 g for twenty.
	assert.Equal(t, []any{1, 4}, []any{ideas[1].Dish, ideas[1].Learners})
	assert.Equal(t, []any{0, 20}, []any{ideas[2].Dish, ideas[2].Learners})
	assert.InDelta(t, 100.0/220, ideas[2].Share, 1e-9)
}

// taking makes up to so many lessons within a week, each with up to so many takes of the
// lines, of some of which a part is brought from home.
func taking(t *rapid.T, lines []string, lessons, takes int) (out []supply.Lesson) {
	for id := range rapid.IntRange(1, lessons).Draw(t, "lessons") {
		l := of(int64(id+1), monday+order.Day(rapid.IntRange(0, 6).Draw(t, "day")))
		for n := range rapid.IntRange(1, takes).Draw(t, "takes") {
			tk := take(fmt.Sprint("g", n), rapid.SampledFrom(lines).Draw(t, "line"))
			tk.Home = exact.Frac(int64(rapid.IntRange(0, 3).Draw(t, "home")), 3)
			l.Takes = append(l.Takes, tk)
		}
		out = append(out, l)
	}
	return out
}

// Whatever is taken: what the places add is the need, nothing is lost between the
// order's uses and its shortfalls, and no list shows less than there has to be.
func TestNothingIsLostOnTheWay(t *testing.T) {
	lines := []string{"120 g butter", "2 tbsp butter", "1 leek", "70 g leek", "3 onions", "200 ml semi-skimmed milk", "4 zorbles"}
	rapid.Check(t, func(t *rapid.T) {
		s := dairy()
		s.Lessons = taking(t, lines, 4, 5)
		p, err := supply.Solve(s)
		require.NoError(t, err)
		for _, n := range p.Needs {
			sum, met := exact.Number{}, exact.Number{}
			for _, o := range n.Of {
				sum = sum.Add(o.Adds)
			}
			require.Equal(t, n.Amount, sum)
			for _, src := range p.SourcesOf(n) {
				met = met.Add(src.Amount)
			}
			for _, m := range p.Short {
				if m.Item.Key == n.Item.Key && m.On == n.On {
					met = met.Add(m.Amount)
				}
			}
			require.False(t, met.Less(n.Amount), "%s of %s", met, n.Amount)
			require.Less(t, met.Sub(n.Amount).Float(), 0.0011)
			shown := supply.Round(measure.Quantity{Amount: n.Amount, Unit: n.Item.Unit})
			if n.Item.Unit.Dimension != measure.Count {
				require.False(t, shown.Base().Less(n.Amount))
			}
		}
	})
}

func TestTrays(t *testing.T) {
	gf := take("g2", "100 g gluten-free flour")
	gf.For = "plain flour"
	home := take("g1", "2 leeks")
	home.Home = exact.Int(1)
	trays := supply.Trays([]lesson.Take{take("g1", "100 g plain flour"), home, gf, take(lesson.AtSpare, "100 g plain flour"), take("g0", "1 leek")}, []lesson.Bench{{ID: "g0"}, {ID: "g1"}, {ID: "g2"}})
	var out []string
	for _, tr := range trays {
		for _, l := range tr.Lines {
			out = append(out, fmt.Sprint(tr.Place, " ", tr.Swapped, " ", l.Amount, " ", l.Name, " ", l.For, l.Home))
		}
	}
	assert.Equal(t, []string{"g2 true 100 g gluten-free flour plain flour", "g0 false 1 leek ", "g1 false 100 g plain flour ", "g1 false 2 leeks from home", "spare false 100 g plain flour "}, out)
}
