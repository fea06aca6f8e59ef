package class_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
)

func ExampleUnderstand() {
	fmt.Printf("%+v\n", class.Understand("CMPA, veggie"))
	fmt.Printf("%+v\n", class.Understand("dragonfruit"))
	// Output:
	// {Needs:[milk vegetarian] None:false Asks:[]}
	// {Needs:[] None:false Asks:[dragonfruit]}
}

func TestUnderstand(t *testing.T) {
	for entry, want := range map[string]class.Understood{
		"lactose intolerant":                {Needs: []string{"milk"}},
		"cows milk":                         {Needs: []string{"milk"}},
		"cow's milk":                        {Needs: []string{"milk"}},
		"CMPA":                              {Needs: []string{"milk"}},
		"dairy free":                        {Needs: []string{"milk"}},
		"dairy/soya":                        {Needs: []string{"milk", "soybeans"}},
		"egg allergy":                       {Needs: []string{"eggs"}},
		"milk and eggs":                     {Needs: []string{"milk", "eggs"}},
		"coeliac":                           {Needs: []string{"gluten"}},
		"ceoliac":                           {Needs: []string{"gluten"}},
		"wheat intolerance":                 {Needs: []string{"gluten"}},
		"gluten-free":                       {Needs: []string{"gluten"}},
		"nut allergy (carries pen)":         {Needs: []string{"nuts", "peanuts"}},
		"nuts":                              {Needs: []string{"nuts", "peanuts"}},
		"tree nuts":                         {Needs: []string{"nuts"}},
		"seafood":                           {Needs: []string{"crustaceans", "molluscs", "fish"}},
		"shellfish":                         {Needs: []string{"crustaceans", "molluscs"}},
		"sesame seeds":                      {Needs: []string{"sesame"}},
		"no known allergies":                {None: true},
		"NKA":                               {None: true},
		"none":                              {None: true},
		"n/a":                               {None: true},
		"-":                                 {None: true},
		"veggie":                            {Needs: []string{"vegetarian"}},
		"halal meat only":                   {Needs: []string{"halal"}},
		"no veg":                            {Asks: []string{"no veg"}},
		"vegetarian (eats fish)":            {Needs: []string{"vegetarian"}, Asks: []string{"eats fish"}},
		"doesn't eat fish":                  {Needs: []string{"fish"}},
		"coeliac?":                          {Needs: []string{"gluten"}, Asks: []string{"coeliac?"}},
		"none?":                             {Asks: []string{"none?"}},
		"no beef":                           {Needs: []string{"no-beef"}},
		"no pork":                           {Needs: []string{"no-pork"}},
		"Type 1 diabetic":                   {Needs: []string{"diabetes"}},
		"asthma":                            {Needs: []string{"asthma"}},
		"almonds":                           {Needs: []string{"nuts", "food:almond"}},
		"strawberries":                      {Needs: []string{"food:strawberry"}},
		"coconut":                           {Needs: []string{"food:coconut"}},
		"nutmeg":                            {Needs: []string{"food:nutmeg"}},
		"buckwheat":                         {Needs: []string{"food:buckwheat"}},
		"oyster mushrooms":                  {Needs: []string{"food:oyster-mushroom"}},
		"pine nuts":                         {Asks: []string{"pine nuts"}},
		"Muslim":                            {Asks: []string{"Muslim"}},
		"EpiPen":                            {Asks: []string{"EpiPen"}},
		"not allergic to nuts":              {Asks: []string{"not allergic to nuts"}},
		"no nut allergy":                    {Asks: []string{"no nut allergy"}},
		"outgrown egg allergy":              {Asks: []string{"outgrown egg allergy"}},
		"egg allergy but baked egg is fine": {Needs: []string{"eggs"}, Asks: []string{"baked egg is fine"}},
		"all nuts except almonds":           {Needs: []string{"nuts", "peanuts"}, Asks: []string{"except almonds"}},
		"severe nut allergy, vegetarian":    {Needs: []string{"nuts", "peanuts", "vegetarian"}},
		"no allergies, vegetarian":          {Needs: []string{"vegetarian"}},
		"vegeterian":                        {Needs: []string{"vegetarian"}},
		"allergic to all foods":             {Asks: []string{"allergic to all foods"}},
		"nil by mouth":                      {Asks: []string{"nil", "mouth"}},
		"x":                                 {Asks: []string{"x"}},
		"?":                                 {Asks: []string{"?"}},
		"no":                                {None: true},
		"none known":                        {None: true},
		"No known allergies except nuts":    {Asks: []string{"No known allergies except nuts"}},
		"possible nut allergy":              {Needs: []string{"nuts", "peanuts"}, Asks: []string{"possible nut allergy"}},
		"wheat allergy not coeliac":         {Needs: []string{"gluten"}, Asks: []string{"wheat allergy not coeliac"}},
		"no nut allergy not vegan":          {Asks: []string{"no nut allergy not vegan"}},
		"can't have milk":                   {Needs: []string{"milk"}},
		"":                                  {Asks: []string{""}},
	} {
		assert.Equal(t, want, class.Understand(entry), entry)
	}
}

// An entry of a corpus: what is written, what it means, and whether something
// has to be asked.
type written struct {
	text  string
	needs []string
	none  bool
	asks  bool
}

func corpus(t *testing.T, name string) []written {
	t.Helper()
	data, err := os.ReadFile("testdata/" + name)
	require.NoError(t, err)
	var out []written
	for line := range strings.Lines(string(data)) {
		text, means, ok := strings.Cut(strings.TrimSpace(line), " => ")
		if !ok || strings.HasPrefix(text, "#") {
			continue
		}
		w := written{text: text, asks: strings.HasSuffix(means, "?"), none: means == "none"}
		for _, n := range strings.Split(strings.TrimSuffix(means, "?"), ",") {
			if n = strings.TrimSpace(n); n != "" && n != "none" {
				w.needs = append(w.needs, n)
			}
		}
		out = append(out, w)
	}
	return out
}

// as reports whether an entry is understood as it is meant. A food may stand
// beside the allergen to which it leads.
func (w written) as(u class.Understood) bool {
	beside := slices.ContainsFunc(u.Needs, func(n string) bool { return class.AllergensOf(n) != nil })
	var got []string
	for _, n := range u.Needs {
		if class.FoodOf(n) == "" || !beside || slices.Contains(w.needs, n) {
			got = append(got, n)
		}
	}
	slices.Sort(got)
	want := slices.Sorted(slices.Values(w.needs))
	return slices.Equal(got, want) && u.None == w.none && (len(u.Asks) > 0) == w.asks
}

// Of the entries that the table was made with each is understood; of those that
// are for measuring nearly all are. None of either ends as nothing, unless it
// means none.
func TestEntriesAsOfficesWriteThem(t *testing.T) {
	for name, least := range map[string]float64{"entries-tuned.txt": 1, "entries-measured.txt": 0.9} {
		all := corpus(t, name)
		right := 0
		for _, w := range all {
			u := class.Understand(w.text)
			if w.as(u) {
				right++
			} else if least == 1 {
				t.Errorf("%q: %+v", w.text, u)
			}
			if !w.none {
				assert.False(t, u.None, "%q ends as nothing", w.text)
				assert.NotEmpty(t, append(u.Needs, u.Asks...), w.text)
			}
			if len(u.Asks) == 0 { // nothing is lost without a question
				assert.Subset(t, u.Needs, w.needs, w.text)
			}
		}
		share := float64(right) / float64(len(all))
		t.Logf("%s: %d of %d", name, right, len(all))
		assert.GreaterOrEqual(t, share, least, name)
	}
}

// Notes are looked through: what they say about food, and no need does, is
// offered.
func TestNoted(t *testing.T) {
	l := class.Learner{Notes: "Coeliac since 2020. Better in the first half of the lesson.", Needs: []class.Need{{Kind: class.Allergy, What: "milk"}}}
	assert.Equal(t, []string{"gluten"}, l.Noted())
	l.Needs[0].What = "coeliac disease"
	assert.Empty(t, l.Noted())
	l.Notes = "asthma, large print"
	assert.Empty(t, l.Noted(), "that is not about food")
}
