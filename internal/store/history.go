package store

import (
	"context"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/rescue"
)

type lessonVersionRow struct {
	ID       int64
	SchoolID int64
	LessonID int64
	Version  int
	Did      string
	Setup    setupDoc `gorm:"serializer:json"`
	SavedAt  time.Time
}

// TableName of what lessons were.
func (lessonVersionRow) TableName() string { return "lesson_versions" }

// A Former is what a lesson was before its last change.
type Former struct {
	Lesson
	Did string // what was changed then
}

// Before returns what a lesson was before its last change, or ErrNotFound.
func (s *School) Before(ctx context.Context, id int64) (Former, error) {
	var row lessonVersionRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", id).Order("version DESC").First(&row).Error
	if err != nil {
		return Former{}, translate(err)
	}
	list, err := s.lessons(ctx, lessonRow{ID: row.LessonID, Setup: row.Setup, Version: row.Version})
	if err != nil {
		return Former{}, err
	}
	return Former{list[0], row.Did}, nil
}

// UndoLesson makes a lesson what it was before its last change. It returns
// ErrChanged where the lesson is no longer at the version given, and
// ErrNotFound where there is nothing to undo. A second half that was made by
// the change goes with it; where that has been worked on since, it returns
// ErrWorkedOn.
func (s *School) UndoLesson(ctx context.Context, id int64, version int) error {
	return s.inTurn(ctx, "lessons", id, func(in *School) error {
		var now lessonRow
		if err := in.db.Clauses(clause.Locking{Strength: "UPDATE"}).First(&now, id).Error; err != nil {
			return translate(err)
		}
		if now.Version != version {
			return ErrChanged
		}
		former, err := in.Before(ctx, id)
		if err != nil {
			return err
		}
		if err := in.db.Where("lesson_id = ? AND version = ?", id, former.Version).Delete(&lessonVersionRow{}).Error; err != nil {
			return err
		}
		if splits(now.Setup) && !splits(setupOf(former.Lesson)) {
			if err := in.dropSecond(id); err != nil {
				return err
			}
		}
		former.Version = now.Version // the version goes on, so that others notice
		return in.writeLesson(former.Lesson)
	})
}

// ErrWorkedOn says that the second half of a lesson has been worked on: it is
// not taken away.
var ErrWorkedOn = errors.New("the second lesson has been worked on")

// dropSecond takes the second half of a lesson away.
func (s *School) dropSecond(first int64) error {
	var second lessonRow
	err := s.db.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "version").Where("follows = ?", first).First(&second).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if second.Version > 1 {
		return ErrWorkedOn
	}
	for _, of := range []any{&sheetRow{}, &signatureRow{}, &readingRow{}, &runRow{}} {
		var n int64
		if err := s.db.Model(of).Where("lesson_id = ?", second.ID).Count(&n).Error; err != nil {
			return err
		}
		if n > 0 {
			return ErrWorkedOn
		}
	}
	return s.db.Where("id = ?", second.ID).Delete(&lessonRow{}).Error
}

// splits reports whether the lesson is the first of two.
func splits(d setupDoc) bool {
	return slices.ContainsFunc(d.Changes, func(c changeDoc) bool { return c.Kind == string(rescue.TwoLessons) && c.Number == 1 })
}

// Second returns the lesson in which another is finished, or ErrNotFound.
func (s *School) Second(ctx context.Context, first int64) (Lesson, error) {
	return s.oneLesson(ctx, "follows = ?", first)
}

// A LessonFile is a lesson file that somebody has brought in, with the plan
// that came along, if any.
type LessonFile struct {
	ID           string // UUID
	Name         string
	Lesson, Plan string // JSON, as they came
	CreatedAt    time.Time
}

type lessonFileRow struct {
	ID        string `gorm:"primaryKey"`
	SchoolID  int64
	Name      string
	Lesson    string
	Plan      string
	CreatedAt time.Time
}

// TableName of the files.
func (lessonFileRow) TableName() string { return "lesson_files" }

// keptFiles is how many files a school keeps; the oldest go.
const keptFiles = 200

// KeepFile keeps a file. The same id again leaves the first.
func (s *School) KeepFile(ctx context.Context, f LessonFile) error {
	return s.InTransaction(ctx, func(in *School) error {
		row := lessonFileRow{ID: f.ID, Name: f.Name, Lesson: f.Lesson, Plan: f.Plan, CreatedAt: f.CreatedAt}
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "id"}}, DoNothing: true}
		if err := in.db.Clauses(once).Create(&row).Error; err != nil {
			return err
		}
		var oldest lessonFileRow
		err := in.db.Order("created_at DESC").Offset(keptFiles).First(&oldest).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		return in.db.Where("created_at <= ?", oldest.CreatedAt).Delete(&lessonFileRow{}).Error
	})
}

// File returns a file that was kept.
func (s *School) File(ctx context.Context, id string) (LessonFile, error) {
	var row lessonFileRow
	if err := s.db.WithContext(ctx).Where("id = ?", id).First(&row).Error; err != nil {
		return LessonFile{}, translate(err)
	}
	return LessonFile{row.ID, row.Name, row.Lesson, row.Plan, row.CreatedAt}, nil
}

// Files returns the names of the newest files, without what is in them.
func (s *School) Files(ctx context.Context, most int) ([]LessonFile, error) {
	var rows []lessonFileRow
	err := s.db.WithContext(ctx).Select("id", "name", "created_at").Order("created_at DESC").Limit(most).Find(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]LessonFile, len(rows))
	for i, row := range rows {
		out[i] = LessonFile{ID: row.ID, Name: row.Name, CreatedAt: row.CreatedAt}
	}
	return out, nil
}
