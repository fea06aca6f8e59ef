package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
)

// A Lesson is a planned lesson with all that it is made of.
type Lesson struct {
	ID      int64
	Version int
	Date    time.Time // midnight UTC of the school's local date
	Dish    Dish
	Class   Class
	Room    Room
	Period  Period
	Setup
}

// A Setup is what the teacher chooses of a lesson besides dish, class, room
// and time.
type Setup struct {
	Phases    []fit.Phase
	GroupSize int
	Each      int // pieces for each learner
	Demo      int // pieces
	Spare     int // sets
}

// Plan returns the lesson as the core takes it, with the school's pantry.
func (l Lesson) Plan(p *pantry.Pantry, t pantry.Tolerances) lesson.Lesson {
	return lesson.Lesson{
		Date: l.Date.Format(time.DateOnly), Start: l.Period.Start, End: l.Period.End,
		Phases: l.Phases, Recipe: l.Dish.Recipe, Pantry: p, Tolerances: t, Class: l.Class.Class, Room: l.Room.Room,
		GroupSize: l.GroupSize, Each: l.Each, Demo: l.Demo, Spare: l.Spare,
	}
}

type lessonRow struct {
	ID        int64
	SchoolID  int64
	DishID    int64
	Dish      dishRow `gorm:"foreignKey:DishID"`
	ClassID   int64
	Class     classRow `gorm:"foreignKey:ClassID"`
	RoomID    int64
	Room      roomRow `gorm:"foreignKey:RoomID"`
	PeriodID  int64
	Period    periodRow  `gorm:"foreignKey:PeriodID"`
	Date      time.Time  `gorm:"type:date"`
	Phases    []phaseDoc `gorm:"serializer:json"`
	GroupSize int
	Each      int
	Demo      int
	Spare     int
	Version   int
	Form      string
	CreatedAt time.Time
	UpdatedAt time.Time
}

// TableName of the lessons.
func (lessonRow) TableName() string { return "lessons" }

type phaseDoc struct {
	Name    string `json:"name"`
	Minutes number `json:"minutes"`
	Place   string `json:"place"` // start, end or minute
	Minute  number `json:"minute"`
}

var placeNames = map[fit.Place]string{fit.AtStart: "start", fit.AtEnd: "end", fit.AtMinute: "minute"}

func (row *lessonRow) take(l Lesson) {
	row.DishID, row.ClassID, row.RoomID, row.PeriodID = l.Dish.ID, l.Class.ID, l.Room.ID, l.Period.ID
	row.Date, row.GroupSize, row.Each, row.Demo, row.Spare = l.Date, l.GroupSize, l.Each, l.Demo, l.Spare
	row.Phases = []phaseDoc{}
	for _, p := range l.Phases {
		row.Phases = append(row.Phases, phaseDoc{p.Name, number(p.Minutes), placeNames[p.Place], number(p.Minute)})
	}
}

func (row lessonRow) lesson() (Lesson, error) {
	dish, err := row.Dish.dish()
	if err != nil {
		return Lesson{}, err
	}
	class, err := row.Class.class()
	if err != nil {
		return Lesson{}, err
	}
	l := Lesson{
		ID: row.ID, Version: row.Version, Date: row.Date, Dish: dish, Class: class, Room: row.Room.room(), Period: row.Period.period(),
		Setup: Setup{GroupSize: row.GroupSize, Each: row.Each, Demo: row.Demo, Spare: row.Spare},
	}
	for _, p := range row.Phases {
		ph := fit.Phase{Name: p.Name, Minutes: exact.Number(p.Minutes), Minute: exact.Number(p.Minute)}
		for place, name := range placeNames {
			if name == p.Place {
				ph.Place = place
			}
		}
		l.Phases = append(l.Phases, ph)
	}
	return l, nil
}

func (s *School) lessons(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Preload("Dish").Preload("Class").Preload("Room").Preload("Period")
}

// Lesson returns one lesson.
func (s *School) Lesson(ctx context.Context, id int64) (Lesson, error) {
	var row lessonRow
	if err := s.lessons(ctx).First(&row, id).Error; err != nil {
		return Lesson{}, translate(err)
	}
	return row.lesson()
}

// LessonsBetween returns the lessons from the first to the last date, by time.
func (s *School) LessonsBetween(ctx context.Context, first, last time.Time) ([]Lesson, error) {
	var rows []lessonRow
	err := s.lessons(ctx).Joins("JOIN periods ON periods.id = lessons.period_id").
		Where("date BETWEEN ? AND ?", first, last).Order("date, periods.starts, lessons.id").Find(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]Lesson, len(rows))
	for i, row := range rows {
		if out[i], err = row.lesson(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// CreateLesson adds a lesson. The form is a UUID that came with the empty
// form: the same form again returns the lesson that it made the first time.
func (s *School) CreateLesson(ctx context.Context, l Lesson, form string) (int64, error) {
	row := lessonRow{Version: 1, Form: form}
	row.take(l)
	once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
	result := s.db.WithContext(ctx).Clauses(once).Omit("Dish", "Class", "Room", "Period").Create(&row)
	if result.Error != nil || result.RowsAffected > 0 {
		return row.ID, result.Error
	}
	var first lessonRow
	err := s.db.WithContext(ctx).Where("form = ?", form).First(&first).Error
	return first.ID, translate(err)
}

// ChangeLesson writes a lesson over the version that it was read as. It
// returns ErrChanged where somebody else was quicker.
func (s *School) ChangeLesson(ctx context.Context, l Lesson) error {
	row := lessonRow{Version: l.Version + 1}
	row.take(l)
	result := s.db.WithContext(ctx).Model(&lessonRow{}).
		Where("id = ? AND version = ?", l.ID, l.Version).
		Select("dish_id", "class_id", "room_id", "period_id", "date", "phases", "group_size", "each", "demo", "spare", "version", "updated_at").
		Updates(&row)
	if result.Error != nil {
		return result.Error
	}
	if result.RowsAffected == 0 {
		if _, err := s.Lesson(ctx, l.ID); err != nil {
			return err
		}
		return ErrChanged
	}
	return nil
}

// MoveDemo moves all lessons of a demonstration school by the days between
// the day on which it was last brought up to date and today, so that a lesson
// is always on.
func (s *School) MoveDemo(ctx context.Context, today time.Time) error {
	return s.InTransaction(ctx, func(in *School) error {
		var row school
		if err := in.db.First(&row, s.id).Error; err != nil {
			return translate(err)
		}
		if row.DemoDay != nil {
			days := int(today.Sub(*row.DemoDay).Hours() / 24)
			err := in.db.Model(&lessonRow{}).Where("true").Update("date", gorm.Expr("date + ?::integer", days)).Error
			if err != nil {
				return err
			}
		}
		return in.db.Model(&school{}).Where("id = ?", s.id).Update("demo_day", today).Error
	})
}
