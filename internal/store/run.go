package store

import (
	"context"
	"time"
)

// A Run is a lesson as it began: the lesson file and the plan, which stay
// whatever becomes of the set-up.
type Run struct {
	ID         int64
	Lesson     int64
	Version    int    // of the set-up
	File, Plan string // a lesson file and a plan file
	Who        string
	Began      time.Time
	Door       time.Time  // when it was planned to begin
	Rehearsal  *Rehearsal // nil where it is real
}

// A Rehearsal is how a lesson is played.
type Rehearsal struct {
	Seed   uint64  `json:"seed"`
	Mishap string  `json:"mishap,omitempty"`
	Speed  float64 `json:"speed"`            // minutes of the lesson in a minute
	Loops  bool    `json:"loops,omitempty"`  // it begins anew when it is over
	Events string  `json:"events,omitempty"` // that were brought in, in place of a simulated class, a line each
}

type runRow struct {
	ID        int64
	SchoolID  int64
	LessonID  int64
	Version   int
	Lesson    string
	Plan      string
	Who       string
	BeganAt   time.Time
	Door      time.Time
	Rehearsal *Rehearsal `gorm:"serializer:json"`
}

// TableName of the runs.
func (runRow) TableName() string { return "runs" }

func (row runRow) run() Run {
	return Run{row.ID, row.LessonID, row.Version, row.Lesson, row.Plan, row.Who, row.BeganAt, row.Door, row.Rehearsal}
}

// Begin keeps a lesson as it begins, and returns under which id. It is never
// changed.
func (s *School) Begin(ctx context.Context, r Run) (int64, error) {
	row := runRow{LessonID: r.Lesson, Version: r.Version, Lesson: r.File, Plan: r.Plan, Who: r.Who, BeganAt: r.Began, Door: r.Door, Rehearsal: r.Rehearsal}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// Runs returns how a lesson began, each time that it did, the last first.
func (s *School) Runs(ctx context.Context, lesson int64) ([]Run, error) {
	var rows []runRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", lesson).Order("id DESC").Find(&rows).Error
	return each(rows, runRow.run), err
}
