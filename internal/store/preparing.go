package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/prepare"
)

// A Home says what learners bring to a lesson, and what is asked of them.
type Home struct {
	lesson.Home
	Container string // what the dish goes home in
	Asks      int    // pence, of each learner
	Note      string // for the letter
	Version   int    // 0 where nobody has said anything
}

type homeRow struct {
	SchoolID int64   `gorm:"primaryKey"`
	LessonID int64   `gorm:"primaryKey"`
	Doc      homeDoc `gorm:"serializer:json"`
	Version  int
}

// TableName of what is brought.
func (homeRow) TableName() string { return "homes" }

type homeDoc struct {
	Lines     []homeLineDoc `json:"lines"`
	Not       []int64       `json:"not,omitempty"`
	Container string        `json:"container,omitempty"`
	Asks      int           `json:"asks,omitempty"`
	Note      string        `json:"note,omitempty"`
}

type homeLineDoc struct {
	Dish string `json:"dish"`
	Name string `json:"name"`
}

// Homes returns what learners bring to lessons, by the lesson's id, where somebody
// has said it.
func (s *School) Homes(ctx context.Context, lessons []int64) (map[int64]Home, error) {
	var rows []homeRow
	err := s.db.WithContext(ctx).Where("lesson_id IN ?", lessons).Find(&rows).Error
	out := map[int64]Home{}
	for _, r := range rows {
		h := Home{Container: r.Doc.Container, Asks: r.Doc.Asks, Note: r.Doc.Note, Version: r.Version}
		h.Not = r.Doc.Not
		for _, l := range r.Doc.Lines {
			h.Lines = append(h.Lines, lesson.HomeLine(l))
		}
		out[r.LessonID] = h
	}
	return out, err
}

// SaveHome writes it over the version that it was read as. It returns ErrChanged
// where somebody else was quicker.
func (s *School) SaveHome(ctx context.Context, lesson int64, h Home) error {
	row := homeRow{LessonID: lesson, Version: h.Version + 1, Doc: homeDoc{Lines: []homeLineDoc{}, Not: h.Not, Container: h.Container, Asks: h.Asks, Note: h.Note}}
	for _, l := range h.Lines {
		row.Doc.Lines = append(row.Doc.Lines, homeLineDoc(l))
	}
	if h.Version == 0 {
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "lesson_id"}}, DoNothing: true}
		result := s.db.WithContext(ctx).Clauses(once).Create(&row)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		return result.Error
	}
	result := s.db.WithContext(ctx).Model(&homeRow{}).Where("lesson_id = ? AND version = ?", lesson, h.Version).Select("doc", "version").Updates(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return result.Error
}

// A Contribution is money that came in for a learner.
type Contribution struct {
	Class, Learner int64
	Pence          int
	Who            string
	At             time.Time
}

type contributionRow struct {
	ID        int64
	SchoolID  int64
	ClassID   int64
	LearnerID int64
	Pence     int
	Who       string
	At        time.Time
}

// TableName of the contributions.
func (contributionRow) TableName() string { return "contributions" }

// AddContribution writes one down.
func (s *School) AddContribution(ctx context.Context, c Contribution) error {
	return s.db.WithContext(ctx).Create(&contributionRow{ClassID: c.Class, LearnerID: c.Learner, Pence: c.Pence, Who: c.Who, At: c.At}).Error
}

// Contributions returns those of classes.
func (s *School) Contributions(ctx context.Context, classes ...int64) ([]Contribution, error) {
	var rows []contributionRow
	err := s.db.WithContext(ctx).Where("class_id IN ?", classes).Find(&rows).Error
	return each(rows, func(r contributionRow) Contribution {
		return Contribution{r.ClassID, r.LearnerID, r.Pence, r.Who, r.At}
	}), err
}

// A Bed of the garden, with what can be picked there.
type Bed struct {
	ID          int64
	Name, Item  string
	First, Last time.Time // the days between which it can be picked
	Amount      measure.Quantity
	Version     int
}

type bedRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Item     string
	First    time.Time `gorm:"type:date"`
	Last     time.Time `gorm:"type:date"`
	Amount   string
	Unit     string
	Version  int
}

// TableName of the beds.
func (bedRow) TableName() string { return "beds" }

// Beds returns what can still be picked on a day or later.
func (s *School) Beds(ctx context.Context, from time.Time) ([]Bed, error) {
	var rows []bedRow
	if err := s.db.WithContext(ctx).Where("last >= ?", from).Order("first, name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Bed, len(rows))
	for i, r := range rows {
		q, err := quantity(r.Amount, r.Unit)
		if err != nil {
			return nil, err
		}
		out[i] = Bed{r.ID, r.Name, r.Item, r.First, r.Last, q, r.Version}
	}
	return out, nil
}

// SaveBed adds one without an id, or writes it over the version that it was read
// as. It returns ErrChanged where somebody else was quicker.
func (s *School) SaveBed(ctx context.Context, b Bed) error {
	row := bedRow{Name: b.Name, Item: b.Item, First: b.First, Last: b.Last, Amount: b.Amount.Amount.String(), Unit: b.Amount.Unit.ID, Version: b.Version + 1}
	if b.ID == 0 {
		return s.db.WithContext(ctx).Create(&row).Error
	}
	result := s.db.WithContext(ctx).Model(&bedRow{}).Where("id = ? AND version = ?", b.ID, b.Version).
		Select("name", "item", "first", "last", "amount", "unit", "version").Updates(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return result.Error
}

// RemoveBed takes a bed off the list.
func (s *School) RemoveBed(ctx context.Context, id int64) error {
	result := s.db.WithContext(ctx).Where("id = ?", id).Delete(&bedRow{})
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return result.Error
}

// Hours are when somebody prepares on a weekday, in minutes after midnight.
type Hours struct {
	Account     int64
	Weekday     int // from Monday
	First, Last int
}

type hoursRow struct {
	ID        int64
	SchoolID  int64
	AccountID int64
	Weekday   int
	First     int
	Last      int
}

// TableName of the hours.
func (hoursRow) TableName() string { return "hours" }

// Hours returns everybody's, by account, weekday and beginning.
func (s *School) Hours(ctx context.Context) ([]Hours, error) {
	var rows []hoursRow
	err := s.db.WithContext(ctx).Order("account_id, weekday, first").Find(&rows).Error
	return each(rows, func(r hoursRow) Hours { return Hours{r.AccountID, r.Weekday, r.First, r.Last} }), err
}

// SetHours writes somebody's hours over what they were.
func (s *School) SetHours(ctx context.Context, account int64, list []Hours) error {
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Where("account_id = ?", account).Delete(&hoursRow{}).Error; err != nil {
			return err
		}
		if len(list) == 0 {
			return nil
		}
		rows := each(list, func(h Hours) hoursRow {
			return hoursRow{AccountID: account, Weekday: h.Weekday, First: h.First, Last: h.Last}
		})
		return in.db.Create(&rows).Error
	})
}

type jobEditRow struct {
	SchoolID int64  `gorm:"primaryKey"`
	LessonID int64  `gorm:"primaryKey"`
	Job      string `gorm:"primaryKey"`
	Hands    int
	Wait     int
	Skip     bool
}

// TableName of what was decided about jobs.
func (jobEditRow) TableName() string { return "job_edits" }

// JobEdits returns what somebody has decided about the jobs of lessons, by the
// job's id.
func (s *School) JobEdits(ctx context.Context, lessons []int64) (map[string]prepare.Edit, error) {
	var rows []jobEditRow
	err := s.db.WithContext(ctx).Where("lesson_id IN ?", lessons).Find(&rows).Error
	out := map[string]prepare.Edit{}
	for _, r := range rows {
		out[r.Job] = prepare.Edit{Hands: r.Hands, Wait: r.Wait, Skip: r.Skip}
	}
	return out, err
}

// SetJob writes what somebody has decided about a job; nil forgets it.
func (s *School) SetJob(ctx context.Context, lesson int64, job string, e *prepare.Edit) error {
	if e == nil {
		return s.db.WithContext(ctx).Where("lesson_id = ? AND job = ?", lesson, job).Delete(&jobEditRow{}).Error
	}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "school_id"}, {Name: "lesson_id"}, {Name: "job"}}, DoUpdates: clause.AssignmentColumns([]string{"hands", "wait", "skip"}),
	}).Create(&jobEditRow{LessonID: lesson, Job: job, Hands: e.Hands, Wait: e.Wait, Skip: e.Skip}).Error
}
