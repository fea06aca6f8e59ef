package store

import (
	"context"
	"time"
)

// A Note of the audit trail says who saw or changed what is sensitive.
type Note struct {
	Account       int64 // 0 for nobody who has an account
	Who           string
	Did           string // saw, changed, signed
	About         string // needs, safety, people
	Class, Lesson int64  // 0 for none
	Says          string
	At            time.Time
}

type noteRow struct {
	ID        int64
	SchoolID  int64
	AccountID *int64
	Who       string
	Did       string
	About     string
	ClassID   *int64
	LessonID  *int64
	Says      string
	At        time.Time
}

// TableName of the trail.
func (noteRow) TableName() string { return "audit" }

func some(id int64) *int64 {
	if id == 0 {
		return nil
	}
	return &id
}

func none(id *int64) int64 {
	if id == nil {
		return 0
	}
	return *id
}

// Note adds to the trail.
func (s *School) Note(ctx context.Context, n Note) error {
	return s.db.WithContext(ctx).Create(&noteRow{
		AccountID: some(n.Account), Who: n.Who, Did: n.Did, About: n.About,
		ClassID: some(n.Class), LessonID: some(n.Lesson), Says: n.Says, At: n.At,
	}).Error
}

// Trail returns the newest notes about something, about all where it is
// empty, from before the note with the id; 0 begins with the newest.
func (s *School) Trail(ctx context.Context, about string, before int64, most int) ([]Note, int64, error) {
	db := s.db.WithContext(ctx).Order("id DESC").Limit(most)
	if about != "" {
		db = db.Where("about = ?", about)
	}
	if before > 0 {
		db = db.Where("id < ?", before)
	}
	var rows []noteRow
	if err := db.Find(&rows).Error; err != nil {
		return nil, 0, err
	}
	out := make([]Note, len(rows))
	var next int64
	for i, r := range rows {
		out[i] = Note{none(r.AccountID), r.Who, r.Did, r.About, none(r.ClassID), none(r.LessonID), r.Says, r.At}
	}
	if len(rows) == most {
		next = rows[most-1].ID
	}
	return out, next, nil
}
