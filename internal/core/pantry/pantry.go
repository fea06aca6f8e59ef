// Package pantry knows the ingredients of a school kitchen: how dense they
// are, how they are measured, and which declared allergens they hold.
package pantry

import (
	"slices"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// Role says what an ingredient does in a mixture, and with it how far its
// amount may be off.
type Role string

// The roles of ingredients.
const (
	Agent     Role = "agent"     // raises, sets or salts
	Structure Role = "structure" // flour, fat, sugar, egg and liquid of a mixture
	Other     Role = "other"     // all else
)

// Tolerance is the share by which an amount of this role may be off.
func (r Role) Tolerance() float64 {
	if r == Structure {
		return 0.05
	}
	return 0.10
}

// An Ingredient of the pantry.
type Ingredient struct {
	ID        string
	Name      string
	Plural    string          // of what is counted
	Tap       bool            // comes out of the wall: nobody buys or lays it out
	Density   measure.Density // g/ml as a spoon is filled, level; zero where volume makes no sense
	Pours     bool            // measured in a jug
	Role      Role
	Allergens []string     // of the fourteen that must be declared in the United Kingdom
	Mass      exact.Number // grams of one, without shell or skin; zero where it isn't counted
	Source    string       // of density and mass
}

// Typical marks a figure that is usual rather than measured here.
const Typical = "typical household measure"

func dense(s string) measure.Density { return measure.Density{Number: exact.MustParse(s)} }

// Stock lists the ingredients that ship with the application, by id. Flour
// and brown sugar are spooned in and levelled. Densities and masses are
// typical of national food tables; a school weighs its own.
var Stock = []Ingredient{
	{ID: "baking-powder", Name: "baking powder", Density: dense("0.9"), Role: Agent},
	{ID: "butter", Name: "butter", Density: dense("0.96"), Role: Structure, Allergens: []string{"milk"}},
	{ID: "cheddar", Name: "Cheddar, grated", Density: dense("0.45"), Role: Other, Allergens: []string{"milk"}},
	{ID: "chives", Name: "chives, snipped", Density: dense("0.2"), Role: Other},
	{ID: "chopped-tomatoes", Name: "chopped tomatoes, tinned", Density: dense("1.02"), Pours: true, Role: Other},
	{ID: "coriander-leaf", Name: "coriander leaf", Density: dense("0.1"), Role: Other},
	{ID: "cumin-ground", Name: "ground cumin", Density: dense("0.43"), Role: Other},
	{ID: "egg-medium", Name: "medium egg", Plural: "medium eggs", Role: Structure, Allergens: []string{"eggs"}, Mass: exact.Int(50)},
	{ID: "garam-masala", Name: "garam masala", Density: dense("0.43"), Role: Other},
	{ID: "garlic", Name: "clove of garlic", Plural: "cloves of garlic", Role: Other, Mass: exact.Int(4)},
	{ID: "ginger-root", Name: "root ginger, grated", Density: dense("0.95"), Role: Other},
	{ID: "leek", Name: "leek", Plural: "leeks", Role: Other, Mass: exact.Int(150)},
	{ID: "lemon-juice", Name: "lemon juice", Density: dense("1.03"), Pours: true, Role: Other},
	{ID: "milk", Name: "semi-skimmed milk", Density: dense("1.03"), Pours: true, Role: Structure, Allergens: []string{"milk"}},
	{ID: "mustard-powder", Name: "mustard powder", Density: dense("0.42"), Role: Other, Allergens: []string{"mustard"}},
	{ID: "onion", Name: "onion", Plural: "onions", Role: Other, Mass: exact.Int(150)},
	{ID: "parsley", Name: "parsley, chopped", Density: dense("0.25"), Role: Other},
	{ID: "pepper", Name: "black pepper", Density: dense("0.47"), Role: Other},
	{ID: "plain-flour", Name: "plain flour", Density: dense("0.53"), Role: Structure, Allergens: []string{"cereals containing gluten (wheat)"}},
	{ID: "red-lentils", Name: "red split lentils", Density: dense("0.81"), Role: Structure},
	{ID: "salt", Name: "salt", Density: dense("1.2"), Role: Agent},
	{ID: "self-raising-flour", Name: "self-raising flour", Density: dense("0.53"), Role: Structure, Allergens: []string{"cereals containing gluten (wheat)"}},
	{ID: "sunflower-oil", Name: "sunflower oil", Density: dense("0.92"), Pours: true, Role: Other},
	{ID: "turmeric", Name: "ground turmeric", Density: dense("0.6"), Role: Other},
	{ID: "water", Name: "water", Tap: true, Density: dense("1"), Pours: true, Role: Structure},
	{ID: "yoghurt", Name: "plain yoghurt", Density: dense("1.04"), Pours: true, Role: Structure, Allergens: []string{"milk"}},
}

func init() {
	for i := range Stock {
		if Stock[i].Source == "" {
			Stock[i].Source = Typical
		}
	}
}

// Of returns the name as it follows an amount: 1 leek, 14 leeks, 2 kg flour.
func (i Ingredient) Of(q measure.Quantity) string {
	if i.Plural != "" && q.Unit.Dimension == measure.Count && q.Amount.Cmp(exact.Int(1)) > 0 {
		return q.String() + " " + i.Plural
	}
	return q.String() + " " + i.Name
}

// Find returns the ingredient with the given id.
func Find(id string) (Ingredient, bool) {
	i := slices.IndexFunc(Stock, func(s Ingredient) bool { return s.ID == id })
	if i < 0 {
		return Ingredient{}, false
	}
	return Stock[i], true
}
