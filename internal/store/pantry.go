package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm/clause"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
)

// An Item is what a school has changed of the pantry, or added to it.
type Item struct {
	pantry.Ingredient
	Version int
}

type itemRow struct {
	ID        int64
	SchoolID  int64
	Slug      string
	Item      itemDoc `gorm:"serializer:json"`
	Version   int
	UpdatedAt time.Time
}

// TableName of the items.
func (itemRow) TableName() string { return "pantry_items" }

type itemDoc struct {
	Name       string   `json:"name"`
	Plural     string   `json:"plural,omitempty"`
	Also       []string `json:"also,omitempty"`
	Fillings   []fill   `json:"fillings,omitempty"`
	Pours      bool     `json:"pours,omitempty"`
	Role       string   `json:"role"`
	Allergens  []string `json:"allergens,omitempty"`
	May        []string `json:"may,omitempty"`
	Label      string   `json:"label,omitempty"`
	LabelOn    string   `json:"label_on,omitempty"`
	From       []string `json:"from,omitempty"`
	One        number   `json:"one_g"`
	Bought     number   `json:"bought_g"`
	Waste      number   `json:"waste"`
	Freezes    int      `json:"freezes_days,omitempty"`
	Packs      []pack   `json:"packs,omitempty"`
	Place      string   `json:"place,omitempty"`
	Keeps      int      `json:"keeps_days,omitempty"`
	SeasonFrom int      `json:"season_from,omitempty"`
	SeasonTo   int      `json:"season_to,omitempty"`
	Source     string   `json:"source,omitempty"`
	Unknown    bool     `json:"unknown,omitempty"`
}

type fill struct {
	Name    string `json:"name"`
	Density number `json:"g_per_ml"`
}

type pack struct {
	Amount number `json:"amount"`
	Unit   string `json:"unit,omitempty"`
	Word   string `json:"word"`
	Pence  int    `json:"pence"`
}

func itemDocOf(i pantry.Ingredient) itemDoc {
	return itemDoc{
		Name: i.Name, Plural: i.Plural, Also: i.Also, Pours: i.Pours, Role: string(i.Role), One: number(i.One), Bought: number(i.Bought), Waste: number(i.Waste), Freezes: i.Freezes,
		Place: i.Place, Keeps: i.Keeps, SeasonFrom: i.Season.From, SeasonTo: i.Season.To, Source: i.Source, Unknown: i.Unknown,
		Fillings:  each(i.Fillings, func(f pantry.Filling) fill { return fill{f.Name, number(f.Density.Number)} }),
		Allergens: each(i.Allergens, func(a pantry.Allergen) string { return string(a) }),
		May:       each(i.May, func(a pantry.Allergen) string { return string(a) }),
		Label:     i.Label.Says, LabelOn: i.Label.On,
		From:  each(i.From, func(t pantry.Trait) string { return string(t) }),
		Packs: each(i.Packs, func(p pantry.Pack) pack { return pack{number(p.Size.Amount), p.Size.Unit.ID, p.Word, p.Pence} }),
	}
}

func (row itemRow) item() (Item, error) {
	d := row.Item
	i := pantry.Ingredient{
		ID: row.Slug, Name: d.Name, Plural: d.Plural, Also: d.Also, Pours: d.Pours, Role: pantry.Role(d.Role), One: exact.Number(d.One), Bought: exact.Number(d.Bought), Waste: exact.Number(d.Waste), Freezes: d.Freezes,
		Place: d.Place, Keeps: d.Keeps, Season: pantry.Season{From: d.SeasonFrom, To: d.SeasonTo}, Source: d.Source, Unknown: d.Unknown,
		Fillings: each(d.Fillings, func(f fill) pantry.Filling {
			return pantry.Filling{Name: f.Name, Density: measure.Density{Number: exact.Number(f.Density)}}
		}),
		Allergens: each(d.Allergens, func(a string) pantry.Allergen { return pantry.Allergen(a) }),
		May:       each(d.May, func(a string) pantry.Allergen { return pantry.Allergen(a) }),
		Label:     pantry.Label{Says: d.Label, On: d.LabelOn},
		From:      each(d.From, func(t string) pantry.Trait { return pantry.Trait(t) }),
	}
	for _, p := range d.Packs {
		u, ok := measure.UnitOf(p.Unit)
		if !ok {
			return Item{}, fmt.Errorf("pantry item %q: unknown unit %q", row.Slug, p.Unit)
		}
		i.Packs = append(i.Packs, pantry.Pack{Size: measure.Quantity{Amount: exact.Number(p.Amount), Unit: u}, Word: p.Word, Pence: p.Pence})
	}
	return Item{i, row.Version}, nil
}

// PantryItems returns what the school has changed or added.
func (s *School) PantryItems(ctx context.Context) ([]Item, error) {
	var rows []itemRow
	if err := s.db.WithContext(ctx).Order("slug").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Item, len(rows))
	for n, row := range rows {
		var err error
		if out[n], err = row.item(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// SavePantryItem writes an item over the version that it was read as, 0 for
// one that the school has not touched yet. It returns ErrChanged where
// somebody else was quicker.
func (s *School) SavePantryItem(ctx context.Context, i Item) error {
	row := itemRow{Slug: i.ID, Item: itemDocOf(i.Ingredient), Version: i.Version + 1}
	if i.Version == 0 {
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "slug"}}, DoNothing: true}
		result := s.db.WithContext(ctx).Clauses(once).Create(&row)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		return result.Error
	}
	result := s.db.WithContext(ctx).Model(&itemRow{}).Where("slug = ? AND version = ?", i.ID, i.Version).
		Select("item", "version", "updated_at").Updates(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return result.Error
}
