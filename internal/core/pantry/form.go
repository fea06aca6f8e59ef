package pantry

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/problem"
)

// The most that a form takes.
const (
	longestName  = 80
	mostGrams    = 20_000 // of one
	mostDays     = 5_000
	longestLabel = 400
	mostWaste    = 90 // percent
)

// A Form is an ingredient in the words that somebody types.
type Form struct {
	Name, Plural, Also, Fillings, One, Bought, Packs, Place, Keeps, Season, Source string
	Waste                                                                          string // in percent
	Freezes                                                                        string // days
	Role                                                                           string
	Pours, Unknown                                                                 bool
	Allergens, May, From                                                           []string
	Label, LabelOn                                                                 string // what the packet says, and the day it was read
}

// FormOf returns an ingredient in the words of a form.
func FormOf(i Ingredient) Form {
	f := Form{
		Name: i.Name, Plural: i.Plural, Also: strings.Join(i.Also, ", "), Fillings: strings.ReplaceAll(FillingsText(i.Fillings), "|", ", "),
		Packs: strings.ReplaceAll(PacksText(i.Packs), "|", ", "), Place: i.Place, Season: i.Season.String(), Source: i.Source,
		Role: string(i.Role), Pours: i.Pours, Unknown: i.Unknown,
	}
	if i.Counted() {
		f.One = i.One.Decimal(2)
		if i.Bought.Sign() > 0 {
			f.Bought = i.Bought.Decimal(2)
		}
	}
	if i.Waste.Sign() > 0 {
		f.Waste = i.Waste.Mul(exact.Int(100)).Decimal(1)
	}
	if i.Freezes > 0 {
		f.Freezes = strconv.Itoa(i.Freezes)
	}
	if i.Keeps > 0 {
		f.Keeps = strconv.Itoa(i.Keeps)
	}
	for _, a := range i.Allergens {
		f.Allergens = append(f.Allergens, string(a))
	}
	for _, a := range i.May {
		f.May = append(f.May, string(a))
	}
	f.Label, f.LabelOn = i.Label.Says, i.Label.On
	for _, t := range i.From {
		f.From = append(f.From, string(t))
	}
	return f
}

// Read turns the form into the ingredient with an id. It returns problem.List
// with the fields that can't be read.
func (f Form) Read(id string) (Ingredient, error) {
	var problems problem.List
	add := func(field, format string, args ...any) {
		problems = append(problems, problem.Problem{Path: field, Says: fmt.Sprintf(format, args...)})
	}
	bars := func(s string) string { return strings.ReplaceAll(s, ",", "|") }
	i := Ingredient{
		ID: id, Name: strings.Join(strings.Fields(f.Name), " "), Plural: strings.TrimSpace(f.Plural), Pours: f.Pours, Unknown: f.Unknown,
		Role: Role(f.Role), Place: strings.TrimSpace(f.Place), Source: strings.TrimSpace(f.Source),
	}
	switch n := len([]rune(i.Name)); {
	case n == 0:
		add("name", "give it a name")
	case n > longestName:
		add("name", "the name has %d letters; %d are the most", n, longestName)
	}
	if !slices.Contains(Roles, i.Role) {
		i.Role = Other
	}
	for _, a := range strings.Split(f.Also, ",") {
		if a = strings.TrimSpace(a); a != "" {
			i.Also = append(i.Also, a)
		}
	}
	var err error
	if i.Fillings, err = ParseFillings(bars(strings.TrimSpace(f.Fillings))); err != nil {
		add("fillings", "%s", err)
	}
	if i.Packs, err = ParsePacks(bars(strings.TrimSpace(f.Packs))); err != nil {
		add("packs", "%s", err)
	}
	if i.Season, err = ParseSeason(f.Season); err != nil {
		add("season", "%s", err)
	}
	grams := func(field, text, what string) (n exact.Number) {
		if text = strings.TrimSpace(text); text == "" {
			return n
		}
		n, err := exact.Parse(strings.ReplaceAll(text, ",", "."))
		if err != nil || n.Sign() < 0 || n.Cmp(exact.Int(mostGrams)) > 0 {
			add(field, "“%s” is no mass of one%s, in grams", text, what)
		}
		return n
	}
	i.One, i.Bought = grams("one", f.One, ""), grams("bought", f.Bought, " as bought")
	if i.Counted() && i.Plural == "" {
		i.Plural = i.Name + "s"
	}
	if keeps := strings.TrimSpace(f.Keeps); keeps != "" {
		if i.Keeps, err = strconv.Atoi(keeps); err != nil || i.Keeps < 0 || i.Keeps > mostDays {
			add("keeps", "“%s” is no number of days", keeps)
		}
	}
	if freezes := strings.TrimSpace(f.Freezes); freezes != "" {
		if i.Freezes, err = strconv.Atoi(freezes); err != nil || i.Freezes < 0 || i.Freezes > mostDays {
			add("freezes", "“%s” is no number of days", freezes)
		}
	}
	if waste := strings.TrimSpace(f.Waste); waste != "" {
		percent, err := exact.Parse(strings.ReplaceAll(waste, ",", "."))
		if err != nil || percent.Sign() < 0 || percent.Cmp(exact.Int(mostWaste)) > 0 {
			add("waste", "“%s” is no share in percent, 0 to %d", waste, mostWaste)
		}
		i.Waste = percent.Div(exact.Int(100))
	}
	for _, a := range Fourteen.Order {
		if slices.Contains(f.Allergens, string(a)) {
			i.Allergens = append(i.Allergens, a)
		}
		if slices.Contains(f.May, string(a)) {
			i.May = append(i.May, a)
		}
	}
	for _, t := range Traits {
		if slices.Contains(f.From, string(t)) {
			i.From = append(i.From, t)
		}
	}
	i.Label = Label{Says: strings.Join(strings.Fields(f.Label), " "), On: strings.TrimSpace(f.LabelOn)}
	switch _, err := time.Parse(time.DateOnly, i.Label.On); {
	case i.Label.On != "" && err != nil:
		add("label_on", "“%s” is no date such as 2026-11-27", i.Label.On)
	case i.Label.Says != "" && i.Label.On == "":
		add("label_on", "give the day on which the packet was read")
	case len([]rune(i.Label.Says)) > longestLabel:
		add("label", "the label has over %d letters", longestLabel)
	}
	if problems != nil {
		return i, problems
	}
	return i, nil
}
