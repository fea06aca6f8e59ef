package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm/clause"
)

// RunNews is what a notice of a run is about.
func RunNews(run int64) string { return fmt.Sprintf("run/%d", run) }

// LessonNews is what a notice that a lesson begins is about.
func LessonNews(lesson int64) string { return fmt.Sprintf("lesson/%d", lesson) }

// Run returns one.
func (s *School) Run(ctx context.Context, id int64) (Run, error) {
	var row runRow
	err := s.db.WithContext(ctx).First(&row, id).Error
	return row.run(), translate(err)
}

// An Event of a run: its line is as a file of events has it, without times.
type Event struct {
	Seq   int64
	Run   int64
	Press string
	At    time.Time
	Said  time.Time // zero where it was made when it arrived
	Who   string
	Line  string
}

type eventRow struct {
	ID       int64
	SchoolID int64
	RunID    int64
	Press    string
	At       time.Time
	Said     *time.Time
	Who      string
	Line     string
}

// TableName of the events.
func (eventRow) TableName() string { return "events" }

// AddEvents keeps events, each press once, and tells whoever looks at their run.
func (s *School) AddEvents(ctx context.Context, run int64, list []Event) error {
	return s.InTransaction(ctx, func(in *School) error {
		added := false
		for _, e := range list {
			row := eventRow{RunID: run, Press: e.Press, At: e.At, Said: dayOf(e.Said), Who: e.Who, Line: e.Line}
			once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "run_id"}, {Name: "press"}}, DoNothing: true}
			result := in.db.Clauses(once).Create(&row)
			if result.Error != nil {
				return result.Error
			}
			added = added || result.RowsAffected > 0
		}
		if !added {
			return nil
		}
		return in.tell(Notice{School: s.ID, About: RunNews(run)})
	})
}

// Events returns what happened in a run from a time on, in the order of the log.
func (s *School) Events(ctx context.Context, run int64, from time.Time) ([]Event, error) {
	var rows []eventRow
	err := s.db.WithContext(ctx).Where("run_id = ? AND at >= ?", run, from).Order("id").Find(&rows).Error
	return each(rows, func(r eventRow) Event { return Event{r.ID, r.RunID, r.Press, r.At, timeOf(r.Said), r.Who, r.Line} }), err
}

// LastEvent returns the number of the last event of a run; 0 where there is none.
func (s *School) LastEvent(ctx context.Context, run int64) (int64, error) {
	var last int64
	err := s.db.WithContext(ctx).Model(&eventRow{}).Where("run_id = ?", run).Select("COALESCE(MAX(id), 0)").Scan(&last).Error
	return last, err
}

// LastRun returns the newest run of a lesson by its id. It returns ErrNotFound where it
// has never begun.
func (s *School) LastRun(ctx context.Context, lesson int64) (int64, error) {
	var row runRow
	err := s.db.WithContext(ctx).Select("id").Where("lesson_id = ?", lesson).Order("id DESC").First(&row).Error
	return row.ID, translate(err)
}

// Asked returns the events of real runs of a class's lessons in which somebody was
// asked, and those that take one back, as lines.
func (s *School) Asked(ctx context.Context, class int64) ([]string, error) {
	var lines []string
	err := s.db.WithContext(ctx).Model(&eventRow{}).
		Joins("JOIN runs ON runs.school_id = events.school_id AND runs.id = events.run_id AND runs.rehearsal IS NULL").
		Joins("JOIN lessons ON lessons.school_id = runs.school_id AND lessons.id = runs.lesson_id AND lessons.class_id = ?", class).
		Where("events.line::jsonb ->> 'kind' IN ?", []string{"asked", "undone"}).Order("events.id").Pluck("events.line", &lines).Error
	return lines, err
}

// A Screen is what a code opens: a bench of a run.
type Screen struct {
	School int64
	Run    int64
	Bench  string
	Code   string
	Until  time.Time
	Shut   bool
	Ways   []string // how things are shown: large, contrast, pictures, aloud
}

type screenRow struct {
	SchoolID int64  `gorm:"primaryKey"`
	RunID    int64  `gorm:"primaryKey"`
	Bench    string `gorm:"primaryKey"`
	Code     string
	Until    time.Time
	Shut     bool
	Ways     string
}

// TableName of the screens.
func (screenRow) TableName() string { return "screens" }

func (r screenRow) screen() Screen {
	return Screen{r.SchoolID, r.RunID, r.Bench, r.Code, r.Until, r.Shut, strings.Fields(r.Ways)}
}

// AddScreens keeps the codes of a run's benches.
func (s *School) AddScreens(ctx context.Context, list []Screen) error {
	rows := each(list, func(x Screen) screenRow {
		return screenRow{RunID: x.Run, Bench: x.Bench, Code: x.Code, Until: x.Until, Ways: strings.Join(x.Ways, " ")}
	})
	if len(rows) == 0 {
		return nil
	}
	return s.db.WithContext(ctx).Create(&rows).Error
}

// Screens returns the codes of a run's benches.
func (s *School) Screens(ctx context.Context, run int64) ([]Screen, error) {
	var rows []screenRow
	err := s.db.WithContext(ctx).Where("run_id = ?", run).Find(&rows).Error
	return each(rows, screenRow.screen), err
}

// ShutScreen puts a bench's screen out, or lets it in again.
func (s *School) ShutScreen(ctx context.Context, run int64, bench string, shut bool) error {
	return s.changeScreen(ctx, run, bench, "shut", shut)
}

// ShowScreen sets how a bench's screen shows things.
func (s *School) ShowScreen(ctx context.Context, run int64, bench string, ways []string) error {
	return s.changeScreen(ctx, run, bench, "ways", strings.Join(ways, " "))
}

func (s *School) changeScreen(ctx context.Context, run int64, bench, column string, value any) error {
	return s.InTransaction(ctx, func(in *School) error {
		result := in.db.Model(&screenRow{}).Where("run_id = ? AND bench = ?", run, bench).Update(column, value)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrNotFound
		}
		if result.Error != nil {
			return result.Error
		}
		return in.tell(Notice{School: s.ID, About: RunNews(run)})
	})
}

// ScreenOf returns what a code opens, of any school. It returns ErrNotFound where it
// opens nothing any more.
func (s *Store) ScreenOf(ctx context.Context, code string, now time.Time) (Screen, error) {
	var row screenRow
	if !isCode(code) {
		return Screen{}, ErrNotFound
	}
	err := s.door(ctx).Where("code = ? AND NOT shut AND until > ?", code, now).First(&row).Error
	return row.screen(), translate(err)
}

type pictureRow struct {
	SchoolID int64  `gorm:"primaryKey"`
	RunID    int64  `gorm:"primaryKey"`
	Press    string `gorm:"primaryKey"`
	At       time.Time
	JPEG     []byte `gorm:"column:jpeg"`
}

// TableName of the pictures.
func (pictureRow) TableName() string { return "pictures" }

// AddPicture keeps the picture of an event, which may arrive twice, and throws away
// those of the school from before a time.
func (s *School) AddPicture(ctx context.Context, run int64, press string, at time.Time, jpeg []byte, before time.Time) error {
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Where("at < ?", before).Delete(&pictureRow{}).Error; err != nil {
			return err
		}
		return in.db.Clauses(clause.OnConflict{DoNothing: true}).Create(&pictureRow{RunID: run, Press: press, At: at, JPEG: jpeg}).Error
	})
}

// Picture returns the picture of an event, where it is no older than a time.
func (s *School) Picture(ctx context.Context, run int64, press string, from time.Time) ([]byte, error) {
	var row pictureRow
	err := s.db.WithContext(ctx).Where("run_id = ? AND press = ? AND at >= ?", run, press, from).First(&row).Error
	return row.JPEG, translate(err)
}
