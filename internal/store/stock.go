package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

// A Batch is what the store holds of one thing with one date.
type Batch struct {
	ID      int64
	Item    string // id in the pantry, or a name
	Name    string // on the packet
	Amount  measure.Quantity
	Whole   exact.Number // in the unit of the amount, what it was when it came
	Pence   int          // that the whole cost
	Opened  time.Time    // zero where it is not
	Place   string
	UseBy   time.Time // zero where it does not go off
	Version int
}

// Worth returns what a part of the batch cost, in pence.
func (b Batch) Worth(amount exact.Number) int {
	if b.Whole.Sign() <= 0 {
		return 0
	}
	return int(exact.Int(int64(b.Pence)).Mul(amount).Div(b.Whole).Round())
}

// Kinds of movements.
const (
	Came    = "came"
	Counted = "counted"
	Used    = "used"
	Thrown  = "thrown"
	Moved   = "moved"
	Opened  = "opened"
)

// A Movement is something that happened to a batch.
type Movement struct {
	Batch   int64
	Kind    string
	Was, Is exact.Number // in the unit of the batch
	Pence   int          // of the difference
	Grams   int          // of the difference; 0 where nobody knows
	Why     string
	Lesson  int64 // 0 for none
	Who     string
	At      time.Time
	Name    string // of the batch, where movements are listed
}

type batchRow struct {
	ID       int64
	SchoolID int64
	Item     string
	Name     string
	Amount   string
	Unit     string
	Whole    string
	Pence    int
	Opened   *time.Time `gorm:"type:date"`
	Place    string
	UseBy    *time.Time `gorm:"type:date"`
	Gone     bool
	Version  int
}

// TableName of the batches.
func (batchRow) TableName() string { return "batches" }

type movementRow struct {
	ID       int64
	SchoolID int64
	BatchID  int64
	Kind     string
	Was      string
	IsNow    string
	Pence    int
	Grams    int
	Why      string
	LessonID *int64
	Who      string
	At       time.Time
}

// TableName of the movements.
func (movementRow) TableName() string { return "movements" }

func dayOf(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

func timeOf(t *time.Time) time.Time {
	if t == nil {
		return time.Time{}
	}
	return *t
}

func (b Batch) row() batchRow {
	return batchRow{ID: b.ID, Item: b.Item, Name: b.Name, Amount: b.Amount.Amount.String(), Unit: b.Amount.Unit.ID, Whole: b.Whole.String(), Pence: b.Pence,
		Opened: dayOf(b.Opened), Place: b.Place, UseBy: dayOf(b.UseBy), Gone: b.Amount.Amount.Sign() == 0, Version: b.Version + 1}
}

func (r batchRow) batch() (Batch, error) {
	q, err := quantity(r.Amount, r.Unit)
	if err != nil {
		return Batch{}, err
	}
	whole, err := exact.Parse(r.Whole)
	return Batch{ID: r.ID, Item: r.Item, Name: r.Name, Amount: q, Whole: whole, Pence: r.Pence, Opened: timeOf(r.Opened), Place: r.Place, UseBy: timeOf(r.UseBy), Version: r.Version}, err
}

// Batches returns what is there, what goes off first before the rest.
func (s *School) Batches(ctx context.Context) ([]Batch, error) {
	var rows []batchRow
	if err := s.db.WithContext(ctx).Where("NOT gone").Order("use_by NULLS LAST, item, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Batch, len(rows))
	for i, r := range rows {
		var err error
		if out[i], err = r.batch(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Batch returns one.
func (s *School) Batch(ctx context.Context, id int64) (Batch, error) {
	var row batchRow
	if err := s.db.WithContext(ctx).First(&row, id).Error; err != nil {
		return Batch{}, translate(err)
	}
	return row.batch()
}

// AddBatch puts something into the store.
func (s *School) AddBatch(ctx context.Context, b Batch, m Movement) (int64, error) {
	row := b.row()
	err := s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Create(&row).Error; err != nil {
			return err
		}
		m.Batch, m.Is, m.Pence = row.ID, b.Amount.Amount, b.Pence
		return in.move(ctx, m)
	})
	return row.ID, err
}

// ChangeBatch writes a batch over the version that it was read as, and what has
// happened to it. It returns ErrChanged where somebody else was quicker.
func (s *School) ChangeBatch(ctx context.Context, b Batch, m Movement) error {
	return s.InTransaction(ctx, func(in *School) error {
		row := b.row()
		result := in.db.Model(&batchRow{}).Where("id = ? AND version = ?", b.ID, b.Version).
			Select("amount", "unit", "whole", "pence", "opened", "place", "use_by", "gone", "version").Updates(&row)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		if result.Error != nil {
			return result.Error
		}
		m.Batch, m.Is = b.ID, b.Amount.Amount
		return in.move(ctx, m)
	})
}

func (s *School) move(ctx context.Context, m Movement) error {
	return s.db.WithContext(ctx).Create(&movementRow{BatchID: m.Batch, Kind: m.Kind, Was: m.Was.String(), IsNow: m.Is.String(), Pence: m.Pence, Grams: m.Grams, Why: m.Why,
		LessonID: some(m.Lesson), Who: m.Who, At: m.At}).Error
}

// Movements returns what happened from a time on, the newest first.
func (s *School) Movements(ctx context.Context, from time.Time, most int) ([]Movement, error) {
	var rows []struct {
		Row  movementRow `gorm:"embedded"`
		Name string
	}
	err := s.db.WithContext(ctx).Model(&movementRow{}).Select("movements.*, batches.name").
		Joins("JOIN batches ON batches.school_id = movements.school_id AND batches.id = movements.batch_id").
		Where("movements.at >= ?", from).Order("movements.at DESC, movements.id DESC").Limit(most).Find(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]Movement, len(rows))
	for i, named := range rows {
		r := named.Row
		was, err := exact.Parse(r.Was)
		if err != nil {
			return nil, err
		}
		is, err := exact.Parse(r.IsNow)
		if err != nil {
			return nil, err
		}
		out[i] = Movement{r.BatchID, r.Kind, was, is, r.Pence, r.Grams, r.Why, none(r.LessonID), r.Who, r.At, named.Name}
	}
	return out, nil
}

// A Booking is the use of a lesson that is over.
type Booking struct {
	Lesson int64
	Pence  int
	Who    string
	At     time.Time
}

type bookedRow struct {
	SchoolID int64 `gorm:"primaryKey"`
	LessonID int64 `gorm:"primaryKey"`
	Pence    int
	Who      string
	At       time.Time
}

// TableName of the bookings.
func (bookedRow) TableName() string { return "booked" }

// Book takes from the store what a lesson has used: each batch as it is then. It
// is done once for each lesson and returns ErrChanged where it has been.
func (s *School) Book(ctx context.Context, b Booking, used []Batch, moves []Movement) error {
	return s.InTransaction(ctx, func(in *School) error {
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "lesson_id"}}, DoNothing: true}
		result := in.db.Clauses(once).Create(&bookedRow{LessonID: b.Lesson, Pence: b.Pence, Who: b.Who, At: b.At})
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		if result.Error != nil {
			return result.Error
		}
		for i := range used {
			if err := in.ChangeBatch(ctx, used[i], moves[i]); err != nil {
				return err
			}
		}
		return nil
	})
}

// Bookings returns those of lessons, by the lesson's id.
func (s *School) Bookings(ctx context.Context, lessons []int64) (map[int64]Booking, error) {
	var rows []bookedRow
	err := s.db.WithContext(ctx).Where("lesson_id IN ?", lessons).Find(&rows).Error
	out := map[int64]Booking{}
	for _, r := range rows {
		out[r.LessonID] = Booking{r.LessonID, r.Pence, r.Who, r.At}
	}
	return out, err
}
