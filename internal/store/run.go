package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm/clause"
)

// A Run is a lesson as it began: the lesson file and the plan, which stay
// whatever becomes of the set-up.
type Run struct {
	ID         int64
	Lesson     int64
	Version    int    // of the set-up
	File, Plan string // a lesson file and a plan file
	// Recipes are the ids of the recipes by which the dishes of the file are made, where
	// they are not the dishes' own.
	Recipes   map[string]string
	Who       string
	Began     time.Time
	Door      time.Time  // when it was planned to begin
	Rehearsal *Rehearsal // nil where it is real
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
	Recipes   map[string]string `gorm:"serializer:json"`
	Who       string
	BeganAt   time.Time
	Door      time.Time
	Rehearsal *Rehearsal `gorm:"serializer:json"`
}

// TableName of the runs.
func (runRow) TableName() string { return "runs" }

func (row runRow) run() Run {
	return Run{row.ID, row.LessonID, row.Version, row.Lesson, row.Plan, row.Recipes, row.Who, row.BeganAt, row.Door, row.Rehearsal}
}

// Begin keeps a lesson as it begins, and returns under which id. It is never changed;
// the screens of earlier times are put out, and whoever looks at the lesson is told. A
// lesson begins for real once: it returns ErrBegun with the id of that run where it has,
// also for a rehearsal, which would stand before it.
func (s *School) Begin(ctx context.Context, r Run) (int64, error) {
	row := runRow{LessonID: r.Lesson, Version: r.Version, Lesson: r.File, Plan: r.Plan, Recipes: r.Recipes, Who: r.Who, BeganAt: r.Began, Door: r.Door, Rehearsal: r.Rehearsal}
	err := s.inTurn(ctx, "lessons", r.Lesson, func(in *School) error {
		var held lessonRow // so that another copy of the program waits
		if err := in.db.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").First(&held, r.Lesson).Error; err != nil {
			return translate(err)
		}
		var begun runRow
		err := in.db.Select("id").Where("lesson_id = ? AND rehearsal IS NULL", r.Lesson).Order("id DESC").Limit(1).Find(&begun).Error
		if err != nil {
			return err
		}
		if begun.ID != 0 {
			row.ID = begun.ID
			return ErrBegun
		}
		if err := in.db.Create(&row).Error; err != nil {
			return err
		}
		earlier := in.db.Model(&runRow{}).Select("id").Where("lesson_id = ? AND id < ?", r.Lesson, row.ID)
		if err := in.db.Model(&screenRow{}).Where("run_id IN (?)", earlier).Update("shut", true).Error; err != nil {
			return err
		}
		return in.tell(Notice{School: s.ID, About: LessonNews(r.Lesson)})
	})
	return row.ID, err
}

// ErrBegun says that a lesson has begun for real.
var ErrBegun = errors.New("the lesson has begun")

// Runs returns how a lesson began, each time that it did, the last first.
func (s *School) Runs(ctx context.Context, lesson int64) ([]Run, error) {
	var rows []runRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", lesson).Order("id DESC").Find(&rows).Error
	return each(rows, runRow.run), err
}
