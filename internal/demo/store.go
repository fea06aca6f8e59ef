package demo

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"freshapron/internal/app/preparing"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/term"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// linesOfAList is how long a price list is.
const linesOfAList = 300

// places of the store, in the order in which they are walked past.
var places = []string{"fridge", "freezer", "dry store", "cupboard"}

// suppliers sell what is fresh, and what stands in cupboards. Their names, lists
// and prices are made up.
func suppliers() []store.Supplier {
	return []store.Supplier{
		{Supplier: supply.Supplier{Name: "Fernhill Growers", Days: 1<<0 | 1<<1 | 1<<3 | 1<<4, LeadDays: 1, Least: 1500, Charge: 350},
			Answers: store.Answers{Out: []string{"F-chives"}, Prices: map[string]int{"F-leek": 145}}},
		{Supplier: supply.Supplier{Name: "Saltmarsh Provisions", Days: 1<<0 | 1<<2, LeadDays: 2, Least: 2500, Charge: 495},
			Answers: store.Answers{Replaced: map[string]store.Replacing{"S-baking-powder": {Name: "Quick Rise raising powder", Allergens: []string{"wheat"}}}}},
	}
}

// listOf is a supplier's price list, of the packs that the pantry knows: those that
// the school's dishes use first, then the rest of the kinds that the supplier has.
func listOf(letter string, fresh bool, dishes []string) []supply.Product {
	var out []supply.Product
	add := func(i pantry.Ingredient) {
		for n, p := range i.Packs {
			if p.Pence <= 0 || len(out) >= linesOfAList || n > 1 {
				continue
			}
			k := supply.Product{Code: fmt.Sprintf("%s-%s", letter, i.ID), Item: i.ID, Name: named(i, p.Word), Size: p.Size, Pence: p.Pence, Days: term.Days(127)}
			if n > 0 {
				k.Code += fmt.Sprintf("-%d", n+1)
			}
			if !fresh {
				k.Pence = p.Pence * 96 / 100
			}
			if i.Keeps > 0 {
				k.Keeps = &i.Keeps
			}
			if days := opened(i); days > 0 {
				k.Opened = &days
			}
			out = append(out, k)
		}
	}
	for _, p := range []struct {
		item, name, size string
		pence            int
	}{{"breadcrumbs", "Fresh breadcrumbs, bag", "500", 120}, {"sweetcorn", "Sweetcorn, tin", "340", 75}} {
		if i, ok := pantry.Stock().Find(p.item); ok && len(i.Packs) == 0 && !fresh {
			out = append(out, supply.Product{Code: letter + "-" + p.item, Item: p.item, Name: p.name, Size: measure.Quantity{Amount: exact.MustParse(p.size), Unit: measure.Gram}, Pence: p.pence, Days: term.Days(127)})
		}
	}
	list := pantry.Stock().List()
	slices.SortStableFunc(list, func(a, b pantry.Ingredient) int {
		rank := func(i pantry.Ingredient) int {
			switch {
			case slices.Contains(dishes, i.ID):
				return 0
			case fresh == (i.Place == "fridge" || i.Place == "freezer"):
				return 1
			}
			return 2
		}
		return rank(a) - rank(b)
	})
	for _, i := range list {
		if !i.Tap() && (fresh || i.Place != "fridge" || i.ID == "butter") {
			add(i)
		}
	}
	return out
}

// named is what a pack is called on a list: "Plain flour, bag".
func named(i pantry.Ingredient, word string) string {
	if i.Name == word {
		return words.Capital(word)
	}
	return words.Capital(i.Name) + ", " + word
}

// opened is how long it keeps once its pack is open, in days; typical.
func opened(i pantry.Ingredient) int {
	if i.Place == "fridge" && i.Pours {
		return 3
	}
	return 0
}

// stock fills the store, the garden, the hours of whoever prepares and a first
// order, a part of which has come.
func stock(ctx context.Context, s *store.School, today time.Time, people []int64) error {
	settings, err := s.Settings(ctx)
	if err != nil {
		return err
	}
	settings.Places, settings.Shared = places, []store.Shared{{Name: "stick blender", Count: 3}, {Name: "lined trolley", Count: 1}}
	settings.Lesson, settings.Term = 150, 900
	if err := s.SaveSettings(ctx, settings); err != nil {
		return err
	}
	products := map[string]supply.Product{}
	ids := map[string]int64{}
	used := usedByDishes()
	for n, sup := range suppliers() {
		id, err := s.SaveSupplier(ctx, sup)
		if err != nil {
			return err
		}
		ids[sup.Name] = id
		if err := s.SaveProducts(ctx, id, listOf([]string{"F", "S"}[n], n == 0, used)); err != nil {
			return err
		}
	}
	all, err := s.Products(ctx)
	if err != nil {
		return err
	}
	for _, p := range all {
		products[p.Code] = p
	}
	if err := shelve(ctx, s, today); err != nil {
		return err
	}
	amount := func(n string, u measure.Unit) measure.Quantity {
		return measure.Quantity{Amount: exact.MustParse(n), Unit: u}
	}
	for _, b := range []store.Bed{
		{Name: "by the south wall", Item: "leek", First: today.AddDate(0, 0, -10), Last: today.AddDate(0, 0, 40), Amount: amount("12", measure.Each)},
		{Name: "herb spiral", Item: "parsley", First: today.AddDate(0, 0, -20), Last: today.AddDate(0, 0, 12), Amount: amount("80", measure.Gram)},
		{Name: "cold frame", Item: "spinach", First: today.AddDate(0, 0, 5), Last: today.AddDate(0, 0, 30), Amount: amount("600", measure.Gram)},
	} {
		if err := s.SaveBed(ctx, b); err != nil {
			return err
		}
	}
	var mornings []store.Hours
	for d := range 5 {
		mornings = append(mornings, store.Hours{Weekday: d, First: 8 * 60, Last: 12*60 + 30})
	}
	for at, p := range People() {
		if p.Role == staff.Technician {
			if err := s.SetHours(ctx, people[at], mornings); err != nil {
				return err
			}
		}
	}
	return came(ctx, s, today, ids, products)
}

// usedByDishes are the pantry's ids of what the school's dishes take.
func usedByDishes() []string {
	var out []string
	for _, d := range Dishes() {
		for _, i := range d.Ingredients {
			out = append(out, i.Pantry)
		}
		for _, sw := range d.Swaps {
			if m := pantry.Stock().Match(sw.Use); m.Certain {
				out = append(out, m.Ingredient.ID)
			}
		}
	}
	return append(out, "gluten-free-flour", "vegan-spread", "oat-drink", "soya-drink")
}

// shelve puts batches into the store, some of them near their date.
func shelve(ctx context.Context, s *store.School, today time.Time) error {
	for _, b := range []struct {
		item, amount string
		unit         measure.Unit
		place        string
		days         int // until its date; 0 for none
		pence        int
	}{
		{"plain-flour", "4500", measure.Gram, "dry store", 140, 285}, {"self-raising-flour", "3000", measure.Gram, "dry store", 160, 220}, {"strong-flour", "1500", measure.Gram, "dry store", 90, 135},
		{"gluten-free-flour", "400", measure.Gram, "dry store", 60, 84}, {"baking-powder", "120", measure.Gram, "cupboard", 200, 92}, {"salt", "700", measure.Gram, "cupboard", 0, 60},
		{"butter", "2250", measure.Gram, "fridge", 20, 1935}, {"milk", "4544", measure.Millilitre, "fridge", 4, 330}, {"egg-medium", "18", measure.Each, "fridge", 9, 420},
		{"cheddar", "800", measure.Gram, "fridge", 6, 640}, {"leek", "14", measure.Each, "fridge", 3, 610}, {"melon", "4", measure.Each, "fridge", 5, 880}, {"lime-juice", "150", measure.Millilitre, "fridge", 40, 90}, {"grape", "1500", measure.Gram, "fridge", 4, 600},
		{"oat-drink", "1000", measure.Millilitre, "cupboard", 90, 130}, {"sunflower-spread", "500", measure.Gram, "fridge", 30, 170}, {"mustard-powder", "60", measure.Gram, "cupboard", 200, 95}, {"yoghurt", "450", measure.Gram, "fridge", 1, 95}, {"double-cream", "300", measure.Millilitre, "fridge", 3, 160},
		{"red-lentils", "1500", measure.Gram, "dry store", 300, 345}, {"white-rice", "1000", measure.Gram, "dry store", 400, 160}, {"chopped-tomatoes", "1600", measure.Gram, "dry store", 500, 240},
		{"kidney-beans", "800", measure.Gram, "dry store", 500, 110}, {"peas", "900", measure.Gram, "freezer", 150, 140}, {"onion", "2000", measure.Gram, "cupboard", 14, 190},
		{"carrot", "1000", measure.Gram, "fridge", 8, 70}, {"red-cabbage", "700", measure.Gram, "fridge", 5, 90}, {"caster-sugar", "1000", measure.Gram, "dry store", 0, 160}, {"olive-oil", "700", measure.Millilitre, "cupboard", 300, 480},
	} {
		i, ok := pantry.Stock().Find(b.item)
		if !ok {
			return fmt.Errorf("the store has %s, which the pantry does not know", b.item)
		}
		q := measure.Quantity{Amount: exact.MustParse(b.amount), Unit: b.unit}
		batch := store.Batch{Item: b.item, Name: i.Name, Amount: q, Whole: q.Amount, Pence: b.pence, Place: b.place}
		if b.days > 0 {
			batch.UseBy = today.AddDate(0, 0, b.days)
		}
		id, err := s.AddBatch(ctx, batch, store.Movement{Kind: store.Came, Why: "counted", Who: "Tomas Finney", At: today.Add(-48 * time.Hour)})
		if err != nil {
			return err
		}
		if b.item == "yoghurt" { // half of it was spoiled
			batch.ID, batch.Version = id, 1
			was := batch.Amount.Amount
			batch.Amount.Amount = was.Div(exact.Int(2))
			if err := s.ChangeBatch(ctx, batch, store.Movement{Kind: store.Thrown, Was: was, Pence: batch.Worth(batch.Amount.Amount), Grams: 225, Why: "left open", Who: "Tomas Finney", At: today.Add(-24 * time.Hour)}); err != nil {
				return err
			}
		}
	}
	return nil
}

// came sends two orders: one that comes today and has been checked in for a part,
// with a product in place of another, and one of which the supplier has not
// everything.
func came(ctx context.Context, s *store.School, today time.Time, suppliers map[string]int64, products map[string]supply.Product) error {
	order := func(supplier string, on, at time.Time, lines map[string]int, answers map[string]store.Answered) (store.Order, error) {
		o := store.Order{Supplier: suppliers[supplier], On: on, Charge: 350, Answered: true, Form: uuid.NewString(), Who: "Tomas Finney", At: at}
		for code, n := range lines {
			p, ok := products[code]
			if !ok {
				return o, fmt.Errorf("nobody sells %s", code)
			}
			a := answers[code]
			o.Lines = append(o.Lines, store.OrderLine{Product: p, Count: n, Answer: &a})
		}
		slices.SortFunc(o.Lines, func(a, b store.OrderLine) int { return strings.Compare(a.Product.Name, b.Product.Name) })
		id, _, err := s.SendOrder(ctx, o)
		if err != nil {
			return o, err
		}
		return s.Order(ctx, id)
	}
	now := today.Add(8*time.Hour + 20*time.Minute)
	quick := store.Replacing{Name: "Quick Rise raising powder", Allergens: []string{"wheat"}}
	first, err := order("Saltmarsh Provisions", today, today.Add(-38*time.Hour), map[string]int{"S-baking-powder": 2, "S-self-raising-flour": 2, "S-cornflour": 1, "S-kidney-beans": 4},
		map[string]store.Answered{"S-baking-powder": {Replaced: &quick}})
	if err != nil {
		return err
	}
	for _, l := range first.Lines {
		c := store.Checked{Count: l.Count, Who: "Tomas Finney", At: now}
		name := l.Product.Name
		switch l.Product.Code {
		case "S-baking-powder":
			c.Name, c.Allergens, c.Unlike = quick.Name, quick.Allergens, quick.Allergens
			name = quick.Name
		case "S-self-raising-flour":
			c.Count = 1 // one short
		default:
			continue // not checked in yet
		}
		q := l.Product.Size.Times(exact.Int(int64(c.Count)))
		b := store.Batch{Item: l.Product.Item, Name: name, Amount: q, Whole: q.Amount, Pence: l.Product.Pence * c.Count, Place: "dry store", UseBy: today.AddDate(0, 0, *l.Product.Keeps)}
		if err := s.CheckIn(ctx, l.ID, c, b); err != nil {
			return err
		}
	}
	_, err = order("Fernhill Growers", schoolDay(today, 1), today.Add(-9*time.Hour), map[string]int{"F-butter": 6, "F-milk": 2, "F-leek": 3, "F-chives": 2, "F-parsley": 1},
		map[string]store.Answered{"F-leek": {Pence: 145}, "F-chives": {Out: true}})
	return err
}

// half ticks what has been done by half past eight: some trays of the first lesson
// of the day, and what is fetched from the fridge.
func half(ctx context.Context, s *store.School, today time.Time) error {
	list, err := s.LessonsBetween(ctx, today, today)
	if err != nil {
		return err
	}
	at := today.Add(8*time.Hour + 30*time.Minute)
	tick := func(list, line string) store.Tick {
		return store.Tick{List: list, Line: line, Done: true, Who: "Tomas Finney", Made: at, At: at, Press: uuid.NewString()}
	}
	var ticks []store.Tick
	for _, l := range list {
		if l.Menu[0].Dish.Recipe.ID != "herb-scones" {
			continue
		}
		for n := range 7 {
			ticks = append(ticks, tick(preparing.TraysList(l.ID), fmt.Sprintf("g%d", n+1)))
		}
		ticks = append(ticks, tick(preparing.JobsList(l.ID), fmt.Sprintf("%d fetch", l.ID)), tick(preparing.JobsList(l.ID), fmt.Sprintf("%d things", l.ID)))
		if err := s.SetJob(ctx, l.ID, fmt.Sprintf("%d towels", l.ID), &prepare.Edit{Hands: 8, Wait: -1}); err != nil {
			return err
		}
		for n, p := range l.Class.Roster {
			if n%3 != 0 { // most have brought it
				if err := s.AddContribution(ctx, store.Contribution{Class: l.Class.ID, Learner: p.ID, Pence: 60, Who: "Maren Holt", At: at}); err != nil {
					return err
				}
			}
		}
		var h store.Home
		h.Container, h.Asks = "a lidded box of about 20 cm", 60
		if err := s.SaveHome(ctx, l.ID, h); err != nil {
			return err
		}
	}
	ticks = append(ticks, tick(preparing.FetchList(today), "butter"), tick(preparing.FetchList(today), "self-raising-flour"))
	return s.AddTicks(ctx, ticks)
}
