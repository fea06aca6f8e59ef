package pantry

import (
	"slices"
	"strings"
)

// An Allergen is something that must be declared, as finely as the laws tell
// them apart.
type Allergen string

// The allergens of the lists below.
const (
	Wheat       Allergen = "wheat"
	Rye         Allergen = "rye"
	Barley      Allergen = "barley"
	Oats        Allergen = "oats"
	Crustaceans Allergen = "crustaceans"
	Eggs        Allergen = "eggs"
	Fish        Allergen = "fish"
	Peanuts     Allergen = "peanuts"
	Soya        Allergen = "soya"
	Milk        Allergen = "milk"
	Almonds     Allergen = "almonds"
	Hazelnuts   Allergen = "hazelnuts"
	Walnuts     Allergen = "walnuts"
	Cashews     Allergen = "cashews"
	Pecans      Allergen = "pecans"
	Brazils     Allergen = "brazil nuts"
	Pistachios  Allergen = "pistachios"
	Macadamias  Allergen = "macadamias"
	Celery      Allergen = "celery"
	Mustard     Allergen = "mustard"
	Sesame      Allergen = "sesame"
	Sulphites   Allergen = "sulphites"
	Lupin       Allergen = "lupin"
	Molluscs    Allergen = "molluscs"
)

// A DeclaredList is a list of allergens that a law asks to declare, with the
// name under which each is declared.
type DeclaredList struct {
	Name, Source string
	Order        []Allergen
	names        map[Allergen]string
}

// Fourteen is the list of the European Union and the United Kingdom.
var Fourteen = declared("Fourteen allergens", "Regulation (EU) No 1169/2011, Annex II, and the UK law that keeps it (as known in 2026-11); look up the law in force where you are",
	Wheat, "cereals containing gluten (wheat)", Rye, "cereals containing gluten (rye)", Barley, "cereals containing gluten (barley)", Oats, "cereals containing gluten (oats)",
	Crustaceans, "crustaceans", Eggs, "eggs", Fish, "fish", Peanuts, "peanuts", Soya, "soya", Milk, "milk",
	Almonds, "nuts (almonds)", Hazelnuts, "nuts (hazelnuts)", Walnuts, "nuts (walnuts)", Cashews, "nuts (cashews)", Pecans, "nuts (pecans)",
	Brazils, "nuts (brazil nuts)", Pistachios, "nuts (pistachios)", Macadamias, "nuts (macadamias)",
	Celery, "celery", Mustard, "mustard", Sesame, "sesame", Sulphites, "sulphur dioxide and sulphites", Lupin, "lupin", Molluscs, "molluscs")

// Nine is the list of the United States.
var Nine = declared("Nine allergens", "United States: FALCPA of 2004 and the FASTER Act of 2021 (as known in 2026-11); look up the law in force where you are",
	Milk, "milk", Eggs, "eggs", Fish, "fish", Crustaceans, "crustacean shellfish",
	Almonds, "tree nuts (almonds)", Hazelnuts, "tree nuts (hazelnuts)", Walnuts, "tree nuts (walnuts)", Cashews, "tree nuts (cashews)", Pecans, "tree nuts (pecans)",
	Brazils, "tree nuts (brazil nuts)", Pistachios, "tree nuts (pistachios)", Macadamias, "tree nuts (macadamias)",
	Peanuts, "peanuts", Wheat, "wheat", Soya, "soybeans", Sesame, "sesame")

func declared(name, source string, pairs ...any) DeclaredList {
	l := DeclaredList{Name: name, Source: source, names: map[Allergen]string{}}
	for i := 0; i < len(pairs); i += 2 {
		a := pairs[i].(Allergen)
		l.Order = append(l.Order, a)
		l.names[a] = pairs[i+1].(string)
	}
	return l
}

// Declare returns what the list asks to declare of some allergens, in its
// own order.
func (l DeclaredList) Declare(allergens []Allergen) []string {
	var out []string
	for _, a := range l.Order {
		if slices.Contains(allergens, a) {
			out = append(out, l.names[a])
		}
	}
	return out
}

// A Trait is what an ingredient comes from, as far as people ask.
type Trait string

// The traits. Raw is for meat and fish that must be cooked through; Rennet
// for cheese that is made with the rennet of calves.
const (
	Beef      Trait = "beef"
	Lamb      Trait = "lamb"
	Pork      Trait = "pork"
	Poultry   Trait = "poultry"
	FromFish  Trait = "fish"
	Shellfish Trait = "shellfish"
	FromMilk  Trait = "milk"
	FromEgg   Trait = "egg"
	Honey     Trait = "honey"
	Gelatine  Trait = "gelatine"
	Rennet    Trait = "rennet"
	Alcohol   Trait = "alcohol"
	Raw       Trait = "raw"
)

// Traits lists them.
var Traits = []Trait{Beef, Lamb, Pork, Poultry, FromFish, Shellfish, FromMilk, FromEgg, Honey, Gelatine, Rennet, Alcohol, Raw}

// Verdict on whether somebody with a diet eats something.
type Verdict int

// A dish suits a diet, may suit it if the supplier says so, or does not.
const (
	Suits Verdict = iota
	Ask
	Never
)

// A Diet is what somebody does not eat, and what they eat only where the
// supplier can say how it was made.
type Diet struct {
	Name       string
	Never, Ask []Trait
}

// Diets that are usual in schools. Halal and kosher meat depends on how it was
// slaughtered: the supplier says. Ask the family.
var Diets = []Diet{
	{"vegetarian", []Trait{Beef, Lamb, Pork, Poultry, FromFish, Shellfish, Gelatine, Rennet}, nil},
	{"vegan", []Trait{Beef, Lamb, Pork, Poultry, FromFish, Shellfish, FromMilk, FromEgg, Honey, Gelatine, Rennet}, nil},
	{"no pork", []Trait{Pork}, []Trait{Gelatine}},
	{"halal", []Trait{Pork, Alcohol}, []Trait{Beef, Lamb, Poultry, Gelatine, Rennet}},
	{"kosher", []Trait{Pork, Shellfish}, []Trait{Beef, Lamb, Poultry, Gelatine, Rennet}},
}

// lessUsual are diets that are judged where a learner has them, and not shown
// with every dish.
var lessUsual = []Diet{
	{"pescatarian", []Trait{Beef, Lamb, Pork, Poultry}, []Trait{Gelatine, Rennet}},
	{"no beef", []Trait{Beef}, []Trait{Gelatine}},
}

// DietOf returns the diet with a name, in which hyphens are spaces.
func DietOf(name string) (Diet, bool) {
	name = strings.ReplaceAll(name, "-", " ")
	for _, d := range slices.Concat(Diets, lessUsual) {
		if d.Name == name {
			return d, true
		}
	}
	return Diet{}, false
}

// Judge tells whether the ingredient suits a diet. What has not been looked
// up has to be asked.
func (d Diet) Judge(i Ingredient) Verdict {
	v := Suits
	if i.Unknown {
		v = Ask
	}
	for _, a := range i.ToRead() {
		if t, ok := traitOf[a]; ok && slices.Contains(d.Never, t) {
			v = Ask
		}
	}
	for _, t := range perhaps[i.ID] {
		if i.Label.On == "" && (slices.Contains(d.Never, t) || slices.Contains(d.Ask, t)) {
			v = Ask
		}
	}
	for _, t := range i.From {
		switch {
		case slices.Contains(d.Never, t):
			return Never
		case slices.Contains(d.Ask, t):
			v = Ask
		}
	}
	return v
}

// perhaps are traits that some products of a name have and others don't, by their id in the stock: extracts are
// made with alcohol, wine is cleared with fish, sausages lie in a skin. Typical; the packet or the supplier says.
var perhaps = map[string][]Trait{
	"vanilla": {Alcohol}, "almond-extract": {Alcohol}, "mincemeat": {Beef, Alcohol}, "filled-pasta": {Beef, Pork, Poultry, FromFish, Rennet}, "gravy-granules": {Beef, Poultry},
	"beef-sausage": {Pork}, "chicken-sausage": {Pork}, "lamb-liver": {Pork, Poultry}, "ox-kidney": {Pork, Lamb}, "fromage-frais": {Gelatine}, "fondant-icing": {Gelatine}, "sprinkles": {Gelatine},
	"oven-chips": {Beef}, "white-wine": {FromFish}, "beer": {FromFish}, "cider": {FromFish},
}

// traitOf are the traits that an allergen comes with.
var traitOf = map[Allergen]Trait{Milk: FromMilk, Eggs: FromEgg, Fish: FromFish, Crustaceans: Shellfish, Molluscs: Shellfish}

// Has reports whether the ingredient comes from the trait.
func (i Ingredient) Has(t Trait) bool { return slices.Contains(i.From, t) }
