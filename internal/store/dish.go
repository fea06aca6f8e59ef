package store

import (
	"context"
	"fmt"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// A Dish is a recipe of the school with its identity.
type Dish struct {
	ID int64
	recipe.Recipe
}

type dishRow struct {
	ID       int64
	SchoolID int64
	Slug     string
	Title    string
	Recipe   recipeDoc `gorm:"serializer:json"`
}

// TableName of the dishes.
func (dishRow) TableName() string { return "dishes" }

// A recipe is stored as one document: it is read and written as a whole, and
// keeps its shape when it is versioned.
type recipeDoc struct {
	Why         string          `json:"why,omitempty"`
	Yield       int             `json:"yield"`
	Piece       string          `json:"piece"`
	Pieces      string          `json:"pieces"`
	Each        int             `json:"each"`
	Ingredients []ingredientDoc `json:"ingredients"`
	Steps       []stepDoc       `json:"steps"`
	Equipment   []string        `json:"equipment,omitempty"`
	Words       []wordDoc       `json:"words,omitempty"`
	Questions   []questionDoc   `json:"questions,omitempty"`
}

type ingredientDoc struct {
	Amount number `json:"amount"`
	Unit   string `json:"unit,omitempty"`
	Pantry string `json:"pantry"`
	Note   string `json:"note,omitempty"`
	Law    string `json:"law"`
	Part   string `json:"part,omitempty"`
	Role   string `json:"role,omitempty"`
}

type stepDoc struct {
	ID        string     `json:"id"`
	Title     string     `json:"title"`
	Kind      string     `json:"kind"`
	Work      number     `json:"work"`
	WorkEach  number     `json:"work_each"`
	Wait      number     `json:"wait"`
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
}

// CreateDish adds a dish.
func (s *School) CreateDish(ctx context.Context, r recipe.Recipe) (int64, error) {
	row := dishRow{Slug: r.ID, Title: r.Title, Recipe: documentOf(r)}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// Dishes returns the dishes by title.
func (s *School) Dishes(ctx context.Context) ([]Dish, error) {
	var rows []dishRow
	if err := s.db.WithContext(ctx).Order("title").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Dish, len(rows))
	for i, row := range rows {
		d, err := row.dish()
		if err != nil {
			return nil, err
		}
		out[i] = d
	}
	return out, nil
}

func documentOf(r recipe.Recipe) recipeDoc {
	doc := recipeDoc{
		Why: r.Why, Yield: r.Yield, Piece: r.Piece, Pieces: r.Pieces, Each: r.Each, Equipment: r.Equipment,
		Ingredients: []ingredientDoc{}, Steps: []stepDoc{},
	}
	for _, i := range r.Ingredients {
		doc.Ingredients = append(doc.Ingredients, ingredientDoc{
			number(i.Amount), i.Unit.Symbol, i.Pantry, i.Note, string(i.Law), i.Part, string(i.Role),
		})
	}
	for _, st := range r.Steps {
		sd := stepDoc{
			ID: st.ID, Title: st.Title, Kind: string(st.Kind), Work: number(st.Work), WorkEach: number(st.WorkEach),
			Wait: number(st.Wait), Cooks: st.Cooks, Shareable: st.Shareable, Adult: string(st.Adult), KeepShut: st.KeepShut,
			Spread: st.Spread, Pieces: st.Pieces, PerLoad: st.PerLoad, Load: number(st.Load),
			Text: st.Text, LookFor: st.LookFor, Mistake: st.Mistake, Hazard: st.Hazard,
		}
		for _, a := range st.After {
			sd.After = append(sd.After, afterDoc{a.Dish, a.Step, number(a.MinGap), maybe(a.MaxGap)})
		}
		for _, u := range st.Uses {
			sd.Uses = append(sd.Uses, useDoc{u.Equipment, u.Places, maybe(u.Temperature), string(u.During)})
		}
		if st.Hold != nil {
			sd.Hold = &holdDoc{st.Hold.Where, number(st.Hold.MaxMinutes)}
		}
		doc.Steps = append(doc.Steps, sd)
	}
	for _, w := range r.Words {
		doc.Words = append(doc.Words, wordDoc(w))
	}
	for _, q := range r.Questions {
		doc.Questions = append(doc.Questions, questionDoc(q))
	}
	return doc
}

func (row dishRow) dish() (Dish, error) {
	doc := row.Recipe
	r := recipe.Recipe{
		ID: row.Slug, Title: row.Title, Why: doc.Why, Yield: doc.Yield, Piece: doc.Piece, Pieces: doc.Pieces, Each: doc.Each,
		Equipment: doc.Equipment,
	}
	for _, i := range doc.Ingredients {
		unit, ok := measure.UnitOf(i.Unit)
		if !ok {
			return Dish{}, fmt.Errorf("dish %d: unknown unit %q", row.ID, i.Unit)
		}
		r.Ingredients = append(r.Ingredients, recipe.Ingredient{
			Quantity: measure.Quantity{Amount: exact.Number(i.Amount), Unit: unit},
			Pantry:   i.Pantry, Note: i.Note, Law: recipe.Law(i.Law), Part: i.Part, Role: pantry.Role(i.Role),
		})
	}
	for _, sd := range doc.Steps {
		st := recipe.Step{
			Step: fit.Step{
				ID: sd.ID, Title: sd.Title, Kind: fit.Kind(sd.Kind), Work: exact.Number(sd.Work), Wait: exact.Number(sd.Wait),
				Cooks: sd.Cooks, Shareable: sd.Shareable, Adult: fit.Adult(sd.Adult), KeepShut: sd.KeepShut, Spread: sd.Spread,
				Pieces: sd.Pieces, PerLoad: sd.PerLoad, Load: exact.Number(sd.Load),
			},
			WorkEach: exact.Number(sd.WorkEach), Text: sd.Text, LookFor: sd.LookFor, Mistake: sd.Mistake, Hazard: sd.Hazard,
		}
		for _, a := range sd.After {
			st.After = append(st.After, fit.After{Dish: a.Dish, Step: a.Step, MinGap: exact.Number(a.MinGap), MaxGap: a.MaxGap.exact()})
		}
		for _, u := range sd.Uses {
			st.Uses = append(st.Uses, fit.Use{Equipment: u.Equipment, Places: u.Places, Temperature: u.Temperature.exact(), During: fit.Part(u.During)})
		}
		if sd.Hold != nil {
			st.Hold = &fit.Hold{Where: sd.Hold.Where, MaxMinutes: exact.Number(sd.Hold.MaxMinutes)}
		}
		r.Steps = append(r.Steps, st)
	}
	for _, w := range doc.Words {
		r.Words = append(r.Words, recipe.Word(w))
	}
	for _, q := range doc.Questions {
		r.Questions = append(r.Questions, recipe.Question(q))
	}
	return Dish{row.ID, r}, nil
}
