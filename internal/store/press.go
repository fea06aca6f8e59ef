package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm/clause"
)

type pressRow struct {
	SchoolID int64     `gorm:"primaryKey"`
	Press    uuid.UUID `gorm:"primaryKey"`
	At       time.Time
}

// TableName of the presses.
func (pressRow) TableName() string { return "presses" }

// pressLasts is for how long a press is known: longer than anybody waits before they send
// a form again.
const pressLasts = 7 * 24 * time.Hour

// Once makes the changes of f together with a word that they were made for a press: made
// again for the same press it changes nothing. A press that is none makes them always.
func (s *School) Once(ctx context.Context, press string, now time.Time, f func(*School) error) error {
	id, err := uuid.Parse(press)
	if err != nil {
		return s.InTransaction(ctx, f)
	}
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Where("at < ?", now.Add(-pressLasts)).Delete(&pressRow{}).Error; err != nil {
			return err
		}
		made := in.db.Clauses(clause.OnConflict{DoNothing: true}).Create(&pressRow{Press: id, At: now})
		if made.Error != nil || made.RowsAffected == 0 {
			return made.Error
		}
		return f(in)
	})
}
