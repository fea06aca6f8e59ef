package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/recipe"
)

// Status of a dish on the shelf.
type Status string

// A dish is ready to be taught, a draft, or set aside.
const (
	Ready Status = "ready"
	Draft Status = "draft"
	Aside Status = "aside"
)

// A Head is what is known of a dish without reading its recipe.
type Head struct {
	ID      int64
	Title   string
	Status  Status
	Version int
	Family  int64 // the dish of which it is a version for another level; 0 is none
	Updated time.Time
}

// A Dish is a recipe of the school.
type Dish struct {
	ID      int64
	Status  Status
	Version int
	Family  int64
	Updated time.Time
	recipe.Recipe
}

type dishRow struct {
	ID        int64
	SchoolID  int64
	Slug      string
	Title     string
	Recipe    recipeDoc `gorm:"serializer:json"`
	Status    Status
	Family    *int64
	Version   int
	Form      *string
	UpdatedAt time.Time
}

// TableName of the dishes.
func (dishRow) TableName() string { return "dishes" }

func (row dishRow) head() Head {
	h := Head{ID: row.ID, Title: row.Title, Status: row.Status, Version: row.Version, Updated: row.UpdatedAt}
	if row.Family != nil {
		h.Family = *row.Family
	}
	return h
}

func (row dishRow) dish() (Dish, error) {
	r, err := row.Recipe.recipe(row.Slug, row.Title)
	h := row.head()
	return Dish{h.ID, h.Status, h.Version, h.Family, h.Updated, r}, err
}

type versionRow struct {
	ID       int64
	SchoolID int64
	DishID   int64
	Version  int
	Title    string
	Recipe   recipeDoc `gorm:"serializer:json"`
	SavedAt  time.Time
}

// TableName of the versions.
func (versionRow) TableName() string { return "dish_versions" }

// CreateDish adds a dish. Where it comes from a form, the form's UUID keeps
// it from being made twice; otherwise that is empty. The slug is made unique.
func (s *School) CreateDish(ctx context.Context, r recipe.Recipe, status Status, family int64, form string) (int64, error) {
	row := dishRow{Title: r.Title, Recipe: documentOf(r), Status: status, Version: 1}
	if family != 0 {
		row.Family = &family
	}
	if form != "" {
		row.Form = &form
	}
	var slugs []string
	base := r.ID
	if base == "" {
		base = recipe.Slug(r.Title, nil)
	}
	if err := s.db.WithContext(ctx).Model(&dishRow{}).Where("slug LIKE ?", base+"%").Pluck("slug", &slugs).Error; err != nil {
		return 0, err
	}
	taken := map[string]bool{}
	for _, sl := range slugs {
		taken[sl] = true
	}
	row.Slug = base
	if taken[base] {
		row.Slug = recipe.Slug(base, func(id string) bool { return taken[id] })
	}
	once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
	result := s.db.WithContext(ctx).Clauses(once).Create(&row)
	if result.Error != nil || result.RowsAffected > 0 {
		return row.ID, result.Error
	}
	var first dishRow
	err := s.db.WithContext(ctx).Select("id").Where("form = ?", form).First(&first).Error
	return first.ID, translate(err)
}

// ChangeDish writes a dish over the version that it was read as, and keeps
// what it was. It returns ErrChanged where somebody else was quicker.
func (s *School) ChangeDish(ctx context.Context, d Dish, now time.Time) error {
	return s.inTurn(ctx, "dishes", d.ID, func(in *School) error {
		var was dishRow
		if err := in.db.Clauses(clause.Locking{Strength: "UPDATE"}).First(&was, d.ID).Error; err != nil {
			return translate(err)
		}
		if was.Version != d.Version {
			return ErrChanged
		}
		kept := versionRow{DishID: was.ID, Version: was.Version, Title: was.Title, Recipe: was.Recipe, SavedAt: now}
		if err := in.db.Create(&kept).Error; err != nil {
			return err
		}
		row := dishRow{Title: d.Title, Recipe: documentOf(d.Recipe), Status: d.Status, Version: was.Version + 1}
		return in.db.Model(&dishRow{}).Where("id = ?", was.ID).
			Select("title", "recipe", "status", "version", "updated_at").Updates(&row).Error
	})
}

// SetStatus sets a dish aside, or brings it back.
func (s *School) SetStatus(ctx context.Context, id int64, status Status) error {
	result := s.db.WithContext(ctx).Model(&dishRow{}).Where("id = ?", id).Update("status", status)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return result.Error
}

// Dish returns one dish.
func (s *School) Dish(ctx context.Context, id int64) (Dish, error) {
	var row dishRow
	if err := s.db.WithContext(ctx).First(&row, id).Error; err != nil {
		return Dish{}, translate(err)
	}
	return row.dish()
}

// DishCalled returns the dish whose recipe has an id; ErrNotFound where none has.
func (s *School) DishCalled(ctx context.Context, id string) (Dish, error) {
	var row dishRow
	if err := s.db.WithContext(ctx).Where("slug = ?", id).First(&row).Error; err != nil {
		return Dish{}, translate(err)
	}
	return row.dish()
}

// Heads returns all dishes without their recipes, by title.
func (s *School) Heads(ctx context.Context) ([]Head, error) {
	return remembered(ctx, s, &s.memory.heads, func(n Standing) string { return n.Dishes }, func() ([]Head, error) {
		var rows []dishRow
		err := s.db.WithContext(ctx).Select("id", "title", "status", "version", "family", "updated_at").Order("title, id").Find(&rows).Error
		return each(rows, dishRow.head), err
	})
}

// DishesByID returns the dishes with the given ids.
func (s *School) DishesByID(ctx context.Context, ids []int64) ([]Dish, error) {
	var rows []dishRow
	const batch = 500
	var out []Dish
	for len(ids) > 0 {
		n := min(batch, len(ids))
		rows = rows[:0]
		if err := s.db.WithContext(ctx).Where("id IN ?", ids[:n]).Find(&rows).Error; err != nil {
			return nil, err
		}
		for _, row := range rows {
			d, err := row.dish()
			if err != nil {
				return nil, err
			}
			out = append(out, d)
		}
		ids = ids[n:]
	}
	return out, nil
}

// A Version is what a dish once was.
type Version struct {
	Version int
	Saved   time.Time // when it was replaced
	recipe.Recipe
}

// Versions returns what a dish has been, the latest first.
func (s *School) Versions(ctx context.Context, dish int64) ([]Version, error) {
	var rows []versionRow
	err := s.db.WithContext(ctx).Where("dish_id = ?", dish).Order("version DESC").Limit(100).Find(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]Version, len(rows))
	for i, row := range rows {
		r, err := row.Recipe.recipe("", row.Title)
		if err != nil {
			return nil, err
		}
		out[i] = Version{row.Version, row.SavedAt, r}
	}
	return out, nil
}

// An Edit is the form of somebody who is writing a recipe, as last seen.
type Edit struct {
	ID      string // UUID
	Dish    int64  // 0 is a new one
	Base    int    // version of the dish that it began with
	Title   string
	Form    map[string][]string
	Updated time.Time
}

type editRow struct {
	ID        string
	SchoolID  int64
	DishID    *int64
	Base      int
	Title     string
	Form      map[string][]string `gorm:"serializer:json"`
	UpdatedAt time.Time
}

// TableName of the edits.
func (editRow) TableName() string { return "edits" }

func (row editRow) edit() Edit {
	e := Edit{ID: row.ID, Base: row.Base, Title: row.Title, Form: row.Form, Updated: row.UpdatedAt}
	if row.DishID != nil {
		e.Dish = *row.DishID
	}
	return e
}

// SaveEdit keeps the state of a form, over what was kept of it before.
func (s *School) SaveEdit(ctx context.Context, e Edit) error {
	row := editRow{ID: e.ID, Base: e.Base, Title: e.Title, Form: e.Form}
	if e.Dish != 0 {
		row.DishID = &e.Dish
	}
	over := clause.OnConflict{
		Columns:   []clause.Column{{Name: "school_id"}, {Name: "id"}},
		DoUpdates: clause.AssignmentColumns([]string{"title", "form", "base", "updated_at"}),
	}
	return s.db.WithContext(ctx).Clauses(over).Create(&row).Error
}

// Edit returns the form that is kept under an id.
func (s *School) Edit(ctx context.Context, id string) (Edit, error) {
	return editIn(s.db.WithContext(ctx), id)
}

func editIn(db *gorm.DB, id string) (Edit, error) {
	var row editRow
	if err := db.Where("id = ?", id).First(&row).Error; err != nil {
		return Edit{}, translate(err)
	}
	return row.edit(), nil
}

// EditToChange returns the form that is kept under an id, which nobody else can
// change until the transaction it is called in has ended.
func (s *School) EditToChange(ctx context.Context, id string) (Edit, error) {
	return editIn(s.db.WithContext(ctx).Clauses(clause.Locking{Strength: "UPDATE"}), id)
}

// Edits returns the forms that are being written, the latest first; those of
// one dish where it is not 0.
func (s *School) Edits(ctx context.Context, dish int64) ([]Edit, error) {
	q := s.db.WithContext(ctx).Order("updated_at DESC").Limit(50)
	if dish != 0 {
		q = q.Where("dish_id = ?", dish)
	}
	var rows []editRow
	err := q.Find(&rows).Error
	return each(rows, editRow.edit), err
}

// DropEdit forgets a form.
func (s *School) DropEdit(ctx context.Context, id string) error {
	return s.db.WithContext(ctx).Where("id = ?", id).Delete(&editRow{}).Error
}
