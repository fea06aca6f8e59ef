package store

import (
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// A recipe is stored as one document: it is read and written as a whole, and
// keeps its shape when it is versioned.
type recipeDoc struct {
	Why         string          `json:"why,omitempty"`
	Level       string          `json:"level,omitempty"`
	Yield       int             `json:"yield"`
	Piece       string          `json:"piece"`
	Pieces      string          `json:"pieces"`
	Each        int             `json:"each"`
	Minutes     int             `json:"minutes,omitempty"`
	Tin         *tinDoc         `json:"tin,omitempty"`
	Ingredients []ingredientDoc `json:"ingredients"`
	Choices     []choiceDoc     `json:"choices,omitempty"`
	Steps       []stepDoc       `json:"steps"`
	Equipment   []string        `json:"equipment,omitempty"`
	Contains    []string        `json:"contains,omitempty"`
	Skills      []string        `json:"skills,omitempty"`
	Checks      []string        `json:"checks,omitempty"`
	Words       []wordDoc       `json:"words,omitempty"`
	Questions   []questionDoc   `json:"questions,omitempty"`
	Swaps       []swapDoc       `json:"swaps,omitempty"`
	Source      string          `json:"source,omitempty"`
	Units       string          `json:"units,omitempty"`
	SetAside    []asideDoc      `json:"set_aside,omitempty"`
	Leftover    []string        `json:"leftover,omitempty"`
}

type tinDoc struct {
	Name     string `json:"name"`
	Diameter number `json:"diameter_cm"`
	Length   number `json:"length_cm"`
	Width    number `json:"width_cm"`
	Depth    number `json:"depth_cm"`
	Count    int    `json:"count,omitempty"`
}

type ingredientDoc struct {
	Amount   number        `json:"amount"`
	Unit     string        `json:"unit,omitempty"`
	Name     string        `json:"name"`
	Pantry   string        `json:"pantry,omitempty"`
	Size     string        `json:"size,omitempty"`
	Filling  string        `json:"filling,omitempty"`
	Note     string        `json:"note,omitempty"`
	Law      string        `json:"law"`
	Part     string        `json:"part,omitempty"`
	Role     string        `json:"role,omitempty"`
	Optional bool          `json:"optional,omitempty"`
	Brought  bool          `json:"brought,omitempty"`
	Also     []quantityDoc `json:"also,omitempty"`
	Pack     *packSizeDoc  `json:"pack,omitempty"`
}

type packSizeDoc struct {
	Count number      `json:"count"`
	Size  quantityDoc `json:"size"`
	Word  string      `json:"word,omitempty"`
}

type quantityDoc struct {
	Amount number `json:"amount"`
	Unit   string `json:"unit,omitempty"`
}

type choiceDoc struct {
	Name    string      `json:"name"`
	Take    int         `json:"take"`
	Options []optionDoc `json:"options"`
}

type optionDoc struct {
	Name        string          `json:"name"`
	Ingredients []ingredientDoc `json:"ingredients"`
}

type stepDoc struct {
	ID        string     `json:"id"`
	Title     string     `json:"title"`
	Kind      string     `json:"kind"`
	Work      number     `json:"work"`
	WorkEach  number     `json:"work_each"`
	WorkFrom  string     `json:"work_from,omitempty"`
	Wait      number     `json:"wait"`
	WaitFrom  string     `json:"wait_from,omitempty"`
	Cooks     int        `json:"cooks"`
	Shareable bool       `json:"shareable,omitempty"`
	After     []afterDoc `json:"after,omitempty"`
	Uses      []useDoc   `json:"uses,omitempty"`
	Adult     string     `json:"adult"`
	KeepShut  bool       `json:"keep_shut,omitempty"`
	Spread    *float64   `json:"spread,omitempty"`
	Pieces    int        `json:"pieces,omitempty"`
	PerLoad   int        `json:"per_load,omitempty"`
	Load      number     `json:"load"`
	Hold      *holdDoc   `json:"hold,omitempty"`
	Text      string     `json:"text,omitempty"`
	LookFor   string     `json:"look_for,omitempty"`
	Mistake   string     `json:"mistake,omitempty"`
	Hazard    string     `json:"hazard,omitempty"`
	Takes     []string   `json:"takes,omitempty"`
}

type afterDoc struct {
	Dish   string  `json:"dish,omitempty"`
	Step   string  `json:"step"`
	MinGap number  `json:"min_gap"`
	MaxGap *number `json:"max_gap,omitempty"`
}

type useDoc struct {
	Equipment   string  `json:"equipment"`
	Places      int     `json:"places"`
	Temperature *number `json:"temperature_c,omitempty"`
	During      string  `json:"during"`
}

type holdDoc struct {
	Where      string `json:"where"`
	MaxMinutes number `json:"max_minutes"`
}

type wordDoc struct {
	Word    string `json:"word"`
	Meaning string `json:"meaning"`
}

type questionDoc struct {
	Ask    string `json:"ask"`
	Answer string `json:"answer"`
	Spot   bool   `json:"spot,omitempty"`
}

type swapDoc struct {
	For  string `json:"for"`
	Use  string `json:"use"`
	Why  string `json:"why,omitempty"`
	Note string `json:"note,omitempty"`
}

type asideDoc struct {
	Key    string `json:"key"`
	Reason string `json:"reason"`
}

// each maps a list, nil to nil.
func each[A, B any](list []A, f func(A) B) []B {
	if list == nil {
		return nil
	}
	out := make([]B, len(list))
	for i, a := range list {
		out[i] = f(a)
	}
	return out
}

func documentOf(r recipe.Recipe) recipeDoc {
	doc := recipeDoc{
		Why: r.Why, Level: r.Level, Yield: r.Yield, Piece: r.Piece, Pieces: r.Pieces, Each: r.Each, Minutes: r.Minutes,
		Ingredients: each(r.Ingredients, ingredientDocOf), Steps: each(r.Steps, stepDocOf),
		Choices: each(r.Choices, func(c recipe.Choice) choiceDoc {
			return choiceDoc{c.Name, c.Take, each(c.Options, func(o recipe.Option) optionDoc {
				return optionDoc{o.Name, each(o.Ingredients, ingredientDocOf)}
			})}
		}),
		Equipment: r.Equipment, Contains: r.Contains, Skills: r.Skills, Checks: r.Checks, Source: r.Source, Units: r.Units, Leftover: r.Leftover,
		Words:     each(r.Words, func(w recipe.Word) wordDoc { return wordDoc(w) }),
		Questions: each(r.Questions, func(q recipe.Question) questionDoc { return questionDoc(q) }),
		Swaps:     each(r.Swaps, func(s recipe.Swap) swapDoc { return swapDoc(s) }),
		SetAside:  each(r.SetAside, func(a recipe.Aside) asideDoc { return asideDoc(a) }),
	}
	if t := r.Tin; t != nil {
		doc.Tin = &tinDoc{t.Name, number(t.Diameter), number(t.Length), number(t.Width), number(t.Depth), t.Count}
	}
	return doc
}

func ingredientDocOf(i recipe.Ingredient) ingredientDoc {
	d := ingredientDoc{
		Amount: number(i.Amount), Unit: i.Unit.ID, Name: i.Name, Pantry: i.Pantry, Size: i.Size, Filling: i.Filling, Note: i.Note,
		Law: string(i.Law), Part: i.Part, Role: string(i.Role), Optional: i.Optional, Brought: i.Brought,
		Also: each(i.Also, func(q measure.Quantity) quantityDoc { return quantityDoc{number(q.Amount), q.Unit.ID} }),
	}
	if p := i.Pack; p != nil {
		d.Pack = &packSizeDoc{number(p.Count), quantityDoc{number(p.Size.Amount), p.Size.Unit.ID}, p.Word.ID}
	}
	return d
}

func stepDocOf(st recipe.Step) stepDoc {
	d := stepDoc{
		ID: st.ID, Title: st.Title, Kind: string(st.Kind), Work: number(st.Work), WorkEach: number(st.WorkEach),
		Wait: number(st.Wait), Cooks: st.Cooks, Shareable: st.Shareable, Adult: string(st.Adult), KeepShut: st.KeepShut,
		Spread: st.Spread, Pieces: st.Pieces, PerLoad: st.PerLoad, Load: number(st.Load),
		WorkFrom: string(st.WorkFrom), WaitFrom: string(st.WaitFrom),
		Text: st.Text, LookFor: st.LookFor, Mistake: st.Mistake, Hazard: st.Hazard, Takes: st.Takes,
		After: each(st.After, func(a fit.After) afterDoc { return afterDoc{a.Dish, a.Step, number(a.MinGap), maybe(a.MaxGap)} }),
		Uses: each(st.Uses, func(u fit.Use) useDoc {
			return useDoc{u.Equipment, u.Places, maybe(u.Temperature), string(u.During)}
		}),
	}
	if st.Hold != nil {
		d.Hold = &holdDoc{st.Hold.Where, number(st.Hold.MaxMinutes)}
	}
	return d
}

// recipe returns the document as the core takes it.
func (doc recipeDoc) recipe(slug, title string) (recipe.Recipe, error) {
	var fault error
	take := func(d ingredientDoc) recipe.Ingredient {
		i, err := d.ingredient()
		if err != nil {
			fault = err
		}
		return i
	}
	r := recipe.Recipe{
		ID: slug, Title: title, Why: doc.Why, Level: doc.Level, Yield: doc.Yield, Piece: doc.Piece, Pieces: doc.Pieces, Each: doc.Each, Minutes: doc.Minutes,
		Ingredients: each(doc.Ingredients, take), Steps: each(doc.Steps, stepDoc.step),
		Choices: each(doc.Choices, func(c choiceDoc) recipe.Choice {
			return recipe.Choice{Name: c.Name, Take: c.Take, Options: each(c.Options, func(o optionDoc) recipe.Option {
				return recipe.Option{Name: o.Name, Ingredients: each(o.Ingredients, take)}
			})}
		}),
		Equipment: doc.Equipment, Contains: doc.Contains, Skills: doc.Skills, Checks: doc.Checks, Source: doc.Source, Units: doc.Units, Leftover: doc.Leftover,
		Words:     each(doc.Words, func(w wordDoc) recipe.Word { return recipe.Word(w) }),
		Questions: each(doc.Questions, func(q questionDoc) recipe.Question { return recipe.Question(q) }),
		Swaps:     each(doc.Swaps, func(s swapDoc) recipe.Swap { return recipe.Swap(s) }),
		SetAside:  each(doc.SetAside, func(a asideDoc) recipe.Aside { return recipe.Aside(a) }),
	}
	if t := doc.Tin; t != nil {
		r.Tin = &recipe.Tin{
			Name: t.Name, Diameter: exact.Number(t.Diameter), Length: exact.Number(t.Length), Width: exact.Number(t.Width),
			Depth: exact.Number(t.Depth), Count: t.Count,
		}
	}
	return r, fault
}

func (d ingredientDoc) ingredient() (recipe.Ingredient, error) {
	unit, ok := measure.UnitOf(d.Unit)
	if !ok {
		return recipe.Ingredient{}, fmt.Errorf("ingredient %q: unknown unit %q", d.Name, d.Unit)
	}
	i := recipe.Ingredient{
		Quantity: measure.Quantity{Amount: exact.Number(d.Amount), Unit: unit},
		Name:     d.Name, Pantry: d.Pantry, Size: d.Size, Filling: d.Filling, Note: d.Note,
		Law: recipe.Law(d.Law), Part: d.Part, Role: pantry.Role(d.Role), Optional: d.Optional, Brought: d.Brought,
	}
	for _, q := range d.Also {
		u, ok := measure.UnitOf(q.Unit)
		if !ok {
			return i, fmt.Errorf("ingredient %q: unknown unit %q", d.Name, q.Unit)
		}
		i.Also = append(i.Also, measure.Quantity{Amount: exact.Number(q.Amount), Unit: u})
	}
	if p := d.Pack; p != nil {
		size, ok := measure.UnitOf(p.Size.Unit)
		word, ok2 := measure.UnitOf(p.Word)
		if !ok || !ok2 {
			return i, fmt.Errorf("ingredient %q: unknown pack", d.Name)
		}
		i.Pack = &measure.PackSize{Count: exact.Number(p.Count), Size: measure.Quantity{Amount: exact.Number(p.Size.Amount), Unit: size}, Word: word}
	}
	return i, nil
}

func (d stepDoc) step() recipe.Step {
	st := recipe.Step{
		Step: fit.Step{
			ID: d.ID, Title: d.Title, Kind: fit.Kind(d.Kind), Work: exact.Number(d.Work), Wait: exact.Number(d.Wait),
			Cooks: d.Cooks, Shareable: d.Shareable, Adult: fit.Adult(d.Adult), KeepShut: d.KeepShut, Spread: d.Spread,
			Pieces: d.Pieces, PerLoad: d.PerLoad, Load: exact.Number(d.Load),
			After: each(d.After, func(a afterDoc) fit.After {
				return fit.After{Dish: a.Dish, Step: a.Step, MinGap: exact.Number(a.MinGap), MaxGap: a.MaxGap.exact()}
			}),
			Uses: each(d.Uses, func(u useDoc) fit.Use {
				return fit.Use{Equipment: u.Equipment, Places: u.Places, Temperature: u.Temperature.exact(), During: fit.Part(u.During)}
			}),
		},
		WorkEach: exact.Number(d.WorkEach), WorkFrom: recipe.Origin(d.WorkFrom), WaitFrom: recipe.Origin(d.WaitFrom),
		Text: d.Text, LookFor: d.LookFor, Mistake: d.Mistake, Hazard: d.Hazard, Takes: d.Takes,
	}
	if d.Hold != nil {
		st.Hold = &fit.Hold{Where: d.Hold.Where, MaxMinutes: exact.Number(d.Hold.MaxMinutes)}
	}
	return st
}
