package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// A Task that is assessed. The texts are as people wrote them; core/assess reads them.
type Task struct {
	ID         int64             `json:"-"`
	School     int64             `json:"-"`
	Lesson     int64             `json:"-"` // the practical in which it is done
	Version    int               `json:"-"`
	Code       string            `json:"-"` // by which its learners come in
	Title      string            `json:"title"`
	Brief      string            `json:"brief"`
	Criteria   string            `json:"criteria"`
	OutOf      string            `json:"out_of"`
	Round      string            `json:"round"`
	Boundaries string            `json:"boundaries"`
	Tolerance  string            `json:"tolerance"`
	Questions  []string          `json:"questions,omitempty"`
	Tags       map[string]string `json:"tags,omitempty"` // what a dish is, by its id in the store
	Markers    []int64           `json:"markers,omitempty"`
}

type taskRow struct {
	ID       int64
	SchoolID int64
	LessonID int64
	Doc      Task `gorm:"serializer:json"`
	Code     string
	Form     string
	Version  int
}

// TableName of the tasks.
func (taskRow) TableName() string { return "tasks" }

func (r taskRow) task() Task {
	t := r.Doc
	t.ID, t.School, t.Lesson, t.Version, t.Code = r.ID, r.SchoolID, r.LessonID, r.Version, r.Code
	return t
}

// CreateTask adds a task. The same form again returns the one that it made the first time.
func (s *School) CreateTask(ctx context.Context, t Task, form string) (int64, error) {
	var id int64
	err := s.InTransaction(ctx, func(in *School) error {
		row := taskRow{LessonID: t.Lesson, Doc: t, Code: t.Code, Form: form, Version: 1}
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
		result := in.db.Clauses(once).Create(&row)
		if id = row.ID; result.Error != nil || result.RowsAffected > 0 {
			return result.Error
		}
		var first taskRow
		err := in.db.Select("id").Where("form = ?", form).First(&first).Error
		id = first.ID
		return err
	})
	return id, err
}

// Task returns one.
func (s *School) Task(ctx context.Context, id int64) (Task, error) {
	var row taskRow
	err := s.db.WithContext(ctx).First(&row, id).Error
	return row.task(), translate(err)
}

// Tasks returns all, the last first.
func (s *School) Tasks(ctx context.Context) ([]Task, error) {
	var rows []taskRow
	err := s.db.WithContext(ctx).Order("id DESC").Find(&rows).Error
	return each(rows, taskRow.task), err
}

// SaveTask writes a task over the version that it was read as. It returns ErrChanged
// where somebody else was quicker.
func (s *School) SaveTask(ctx context.Context, t Task) error {
	result := s.db.WithContext(ctx).Model(&taskRow{}).Where("id = ? AND version = ?", t.ID, t.Version).Select("doc", "version").Updates(&taskRow{Doc: t, Version: t.Version + 1})
	return changed(result)
}

// changed says that a change of a version found none.
func changed(result *gorm.DB) error {
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return translate(result.Error)
}

// TaskOf returns the task of a code, of any school. It returns ErrNotFound where there is
// none.
func (s *Store) TaskOf(ctx context.Context, code string) (Task, error) {
	var row taskRow
	if !isCode(code) {
		return Task{}, ErrNotFound
	}
	err := s.door(ctx).Where("code = ?", code).First(&row).Error
	return row.task(), translate(err)
}

// An Entry is what one learner has chosen and written for a task.
type Entry struct {
	Learner int64            `json:"-"`
	Version int              `json:"-"` // 0 where nothing is kept yet
	Dishes  []EntryDish      `json:"dishes,omitempty"`
	Papers  []string         `json:"papers,omitempty"` // that were handed in
	Plan    string           `json:"plan,omitempty"`   // the time plan, as a table
	Taken   map[int][]string `json:"taken,omitempty"`  // rows of the plan that were asked: for which steps
}

// An EntryDish is a dish that was chosen.
type EntryDish struct {
	Dish     int64 `json:"dish"`
	Side     bool  `json:"side,omitempty"`
	Portions int   `json:"portions"`
}

type entryRow struct {
	SchoolID  int64 `gorm:"primaryKey"`
	TaskID    int64 `gorm:"primaryKey"`
	LearnerID int64 `gorm:"primaryKey"`
	Doc       Entry `gorm:"serializer:json"`
	Version   int
}

// TableName of the entries.
func (entryRow) TableName() string { return "entries" }

// Entries returns what learners have chosen and written, by learner.
func (s *School) Entries(ctx context.Context, task int64) (map[int64]Entry, error) {
	var rows []entryRow
	err := s.db.WithContext(ctx).Where("task_id = ?", task).Find(&rows).Error
	out := map[int64]Entry{}
	for _, r := range rows {
		e := r.Doc
		e.Learner, e.Version = r.LearnerID, r.Version
		out[r.LearnerID] = e
	}
	return out, err
}

// SaveEntry writes an entry over the version that it was read as; 0 is a new one. It
// returns ErrChanged where somebody else was quicker.
func (s *School) SaveEntry(ctx context.Context, task int64, e Entry) error {
	row := entryRow{TaskID: task, LearnerID: e.Learner, Doc: e, Version: e.Version + 1}
	db := s.db.WithContext(ctx)
	if e.Version == 0 {
		return changed(db.Clauses(clause.OnConflict{DoNothing: true}).Create(&row))
	}
	return changed(db.Model(&entryRow{}).Where("task_id = ? AND learner_id = ? AND version = ?", task, e.Learner, e.Version).Select("doc", "version").Updates(&row))
}

type entrantRow struct {
	Token     string `gorm:"primaryKey"`
	SchoolID  int64
	TaskID    int64
	LearnerID int64
	Until     time.Time
}

// TableName of the entrants.
func (entrantRow) TableName() string { return "entrants" }

// AddEntrant keeps the token of a learner who has come in to a task.
func (s *School) AddEntrant(ctx context.Context, token string, task, learner int64, until time.Time) error {
	return s.db.WithContext(ctx).Create(&entrantRow{Token: token, TaskID: task, LearnerID: learner, Until: until}).Error
}

// EntrantOf returns of which school, task and learner a token is. It returns ErrNotFound
// where it is nobody's any more.
func (s *Store) EntrantOf(ctx context.Context, token string, now time.Time) (school, task, learner int64, err error) {
	var row entrantRow
	if !isCode(token) {
		return 0, 0, 0, ErrNotFound
	}
	err = s.door(ctx).Where("token = ? AND until > ?", token, now).First(&row).Error
	return row.SchoolID, row.TaskID, row.LearnerID, translate(err)
}

// A Record of what was seen, said, tasted or marked.
type Record struct {
	Press   string
	At      time.Time
	Account int64 // 0 where nobody had one
	Who     string
	Learner int64 // 0 where it is of nobody
	Doc     json.RawMessage
}

type recordRow struct {
	ID        int64
	SchoolID  int64
	About     string
	Press     string
	At        time.Time
	Account   *int64
	Who       string
	LearnerID *int64
	Doc       json.RawMessage `gorm:"type:jsonb"`
}

// TableName of the records.
func (recordRow) TableName() string { return "records" }

// AboutTask is what the records of a task are about.
func AboutTask(id int64) string { return fmt.Sprintf("task/%d", id) }

// AboutTasting is what the records of the tasting of a lesson are about.
func AboutTasting(lesson int64) string { return fmt.Sprintf("tasting/%d", lesson) }

// AboutReview is what the words about a lesson are about.
func AboutReview(lesson int64) string { return fmt.Sprintf("review/%d", lesson) }

// AddRecords keeps records, each press once, and tells whoever looks at what they are
// about.
func (s *School) AddRecords(ctx context.Context, about string, list ...Record) error {
	if len(list) == 0 {
		return nil
	}
	return s.InTransaction(ctx, func(in *School) error {
		for _, r := range list {
			row := recordRow{About: about, Press: r.Press, At: r.At, Account: some(r.Account), Who: r.Who, LearnerID: some(r.Learner), Doc: r.Doc}
			once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "about"}, {Name: "press"}}, DoNothing: true}
			if err := in.db.Clauses(once).Create(&row).Error; err != nil {
				return err
			}
		}
		return in.tell(Notice{School: s.ID, About: about})
	})
}

// Records returns what was recorded about something, in its order.
func (s *School) Records(ctx context.Context, about string) ([]Record, error) {
	var rows []recordRow
	err := s.db.WithContext(ctx).Where("about = ?", about).Order("id").Find(&rows).Error
	return each(rows, func(r recordRow) Record {
		return Record{r.Press, r.At, none(r.Account), r.Who, none(r.LearnerID), r.Doc}
	}), err
}

type plateRow struct {
	SchoolID  int64 `gorm:"primaryKey"`
	TaskID    int64 `gorm:"primaryKey"`
	LearnerID int64 `gorm:"primaryKey"`
	At        time.Time
	JPEG      []byte `gorm:"column:jpeg"`
}

// TableName of the plates.
func (plateRow) TableName() string { return "plates" }

// SavePlate keeps the photograph of what a learner has made, in place of an earlier one.
func (s *School) SavePlate(ctx context.Context, task, learner int64, at time.Time, jpeg []byte) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&plateRow{TaskID: task, LearnerID: learner, At: at, JPEG: jpeg}).Error
}

// Plate returns the photograph of what a learner has made.
func (s *School) Plate(ctx context.Context, task, learner int64) ([]byte, error) {
	var row plateRow
	err := s.db.WithContext(ctx).Where("task_id = ? AND learner_id = ?", task, learner).First(&row).Error
	return row.JPEG, translate(err)
}

// Plates returns of which learners there is a photograph.
func (s *School) Plates(ctx context.Context, task int64) ([]int64, error) {
	var out []int64
	err := s.db.WithContext(ctx).Model(&plateRow{}).Where("task_id = ?", task).Pluck("learner_id", &out).Error
	return out, err
}

// The kinds of what is looked back on.
const (
	Tasting = "tasting"
	Review  = "review"
)

type reviewRow struct {
	SchoolID int64           `gorm:"primaryKey"`
	LessonID int64           `gorm:"primaryKey"`
	Kind     string          `gorm:"primaryKey"`
	Doc      json.RawMessage `gorm:"type:jsonb"`
	Version  int
}

// TableName of the reviews.
func (reviewRow) TableName() string { return "reviews" }

// ReviewOf reads a document of a lesson into a value, and returns its version; 0 where
// there is none yet.
func (s *School) ReviewOf(ctx context.Context, lesson int64, kind string, into any) (int, error) {
	var row reviewRow
	err := s.db.WithContext(ctx).Where("lesson_id = ? AND kind = ?", lesson, kind).First(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return 0, nil
	}
	if err != nil {
		return 0, translate(err)
	}
	return row.Version, json.Unmarshal(row.Doc, into)
}

// SaveReview writes a document of a lesson over a version; 0 is a new one. It returns
// ErrChanged where somebody else was quicker.
func (s *School) SaveReview(ctx context.Context, lesson int64, kind string, version int, doc any) error {
	text, err := json.Marshal(doc)
	if err != nil {
		return err
	}
	row := reviewRow{LessonID: lesson, Kind: kind, Doc: text, Version: version + 1}
	db := s.db.WithContext(ctx)
	if version == 0 {
		return changed(db.Clauses(clause.OnConflict{DoNothing: true}).Create(&row))
	}
	return changed(db.Model(&reviewRow{}).Where("lesson_id = ? AND kind = ? AND version = ?", lesson, kind, version).Select("doc", "version").Updates(&row))
}
