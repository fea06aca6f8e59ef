package store

import (
	"context"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/rescue"
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
	Follows int64 // the lesson of which this is the second half; 0 for none
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
	Changes   []rescue.Change
	Absent    []int64   // learners
	Teams     [][]int64 // who works with whom, where somebody has changed it
	Swaps     []lesson.Swap
	OtherWays []lesson.WayTaken
}

// Plan returns the lesson as the core takes it, with the school's tables.
func (l Lesson) Plan(t lesson.Tables) lesson.Lesson {
	return lesson.Lesson{
		Date: l.Date.Format(time.DateOnly), Start: l.Period.Start, End: l.Period.End,
		Phases: l.Phases, Recipe: l.Dish.Recipe, Pantry: t.Pantry, Tolerances: t.Tolerances, Safety: t.Safety, Class: l.Class.Class, Room: l.Room.Room,
		GroupSize: l.GroupSize, Each: l.Each, Demo: l.Demo, Spare: l.Spare, Changes: l.Changes,
		Absent: l.Absent, Teams: l.Teams, Swaps: l.Swaps, OtherWays: l.OtherWays,
	}
}

type lessonRow struct {
	ID        int64
	SchoolID  int64
	Doc       lessonDoc `gorm:"embedded"`
	Dish      dishRow   `gorm:"foreignKey:DishID"`
	Class     classRow  `gorm:"foreignKey:ClassID"`
	Room      roomRow   `gorm:"foreignKey:RoomID"`
	Period    periodRow `gorm:"foreignKey:PeriodID"`
	Follows   *int64
	Version   int
	Form      string
	CreatedAt time.Time
	UpdatedAt time.Time
}

// A lessonDoc is what can be changed of a lesson.
type lessonDoc struct {
	DishID    int64
	ClassID   int64
	RoomID    int64
	PeriodID  int64
	Date      time.Time  `gorm:"type:date"`
	Phases    []phaseDoc `gorm:"serializer:json"`
	GroupSize int
	Each      int
	Demo      int
	Spare     int
	Changes   []changeDoc    `gorm:"serializer:json"`
	Absent    []int64        `gorm:"serializer:json"`
	Teams     [][]int64      `gorm:"serializer:json"`
	Swaps     []benchSwapDoc `gorm:"serializer:json"`
	Ways      []wayDoc       `gorm:"serializer:json"`
}

type benchSwapDoc struct {
	Learner int64  `json:"learner"`
	For     string `json:"for"`
	Use     string `json:"use"`
}

type wayDoc struct {
	Learner int64  `json:"learner"`
	Step    string `json:"step,omitempty"`
	Way     string `json:"way"`
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

type changeDoc struct {
	Kind      string  `json:"kind"`
	Group     string  `json:"group,omitempty"`
	Dish      string  `json:"dish,omitempty"`
	Step      string  `json:"step,omitempty"`
	Equipment string  `json:"equipment,omitempty"`
	Unit      string  `json:"unit,omitempty"`
	At        *number `json:"at,omitempty"`
	Minutes   *number `json:"minutes,omitempty"`
	Number    int     `json:"number,omitempty"`
}

func changeDocOf(c rescue.Change) changeDoc {
	d := changeDoc{
		Kind: string(c.Kind), Group: c.Group, Dish: c.Dish, Step: c.Step,
		Equipment: c.Equipment, Unit: c.Unit, Number: c.Number,
	}
	if c.At.Sign() != 0 {
		d.At = maybe(&c.At)
	}
	if c.Minutes.Sign() != 0 {
		d.Minutes = maybe(&c.Minutes)
	}
	return d
}

func (d changeDoc) change() rescue.Change {
	c := rescue.Change{
		Kind: rescue.Kind(d.Kind), Group: d.Group, Dish: d.Dish, Step: d.Step,
		Equipment: d.Equipment, Unit: d.Unit, Number: d.Number,
	}
	if d.At != nil {
		c.At = exact.Number(*d.At)
	}
	if d.Minutes != nil {
		c.Minutes = exact.Number(*d.Minutes)
	}
	return c
}

func (row *lessonDoc) take(l Lesson) {
	row.DishID, row.ClassID, row.RoomID, row.PeriodID = l.Dish.ID, l.Class.ID, l.Room.ID, l.Period.ID
	row.Date, row.GroupSize, row.Each, row.Demo, row.Spare = l.Date, l.GroupSize, l.Each, l.Demo, l.Spare
	row.Phases = []phaseDoc{}
	for _, p := range l.Phases {
		row.Phases = append(row.Phases, phaseDoc{p.Name, number(p.Minutes), placeNames[p.Place], number(p.Minute)})
	}
	row.Changes = []changeDoc{}
	for _, c := range l.Changes {
		row.Changes = append(row.Changes, changeDocOf(c))
	}
	row.Absent, row.Teams = append([]int64{}, l.Absent...), append([][]int64{}, l.Teams...)
	row.Swaps, row.Ways = []benchSwapDoc{}, []wayDoc{}
	for _, s := range l.Swaps {
		row.Swaps = append(row.Swaps, benchSwapDoc(s))
	}
	for _, w := range l.OtherWays {
		row.Ways = append(row.Ways, wayDoc(w))
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
		ID: row.ID, Version: row.Version, Date: row.Doc.Date, Dish: dish, Class: class, Room: row.Room.room(), Period: row.Period.period(),
		Setup: Setup{GroupSize: row.Doc.GroupSize, Each: row.Doc.Each, Demo: row.Doc.Demo, Spare: row.Doc.Spare},
	}
	if row.Follows != nil {
		l.Follows = *row.Follows
	}
	for _, d := range row.Doc.Changes {
		l.Changes = append(l.Changes, d.change())
	}
	if len(row.Doc.Absent) > 0 {
		l.Absent = row.Doc.Absent
	}
	if len(row.Doc.Teams) > 0 {
		l.Teams = row.Doc.Teams
	}
	for _, d := range row.Doc.Swaps {
		l.Swaps = append(l.Swaps, lesson.Swap(d))
	}
	for _, d := range row.Doc.Ways {
		l.OtherWays = append(l.OtherWays, lesson.WayTaken(d))
	}
	for _, p := range row.Doc.Phases {
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
	return withParts(s.db.WithContext(ctx))
}

// withParts loads what a lesson is made of, all but the recipe of its dish; see
// withRecipes.
func withParts(db *gorm.DB) *gorm.DB {
	return db.Preload("Dish", func(db *gorm.DB) *gorm.DB { return db.Omit("recipe") }).Preload("Class").Preload("Room").Preload("Period")
}

// Lesson returns one lesson.
func (s *School) Lesson(ctx context.Context, id int64) (Lesson, error) {
	var row lessonRow
	if err := s.lessons(ctx).First(&row, id).Error; err != nil {
		return Lesson{}, translate(err)
	}
	l, err := row.lesson()
	if err != nil {
		return l, err
	}
	return l, s.complete(ctx, &l)
}

// complete fills in who is in the classes of lessons, and what does not work
// in their rooms on the day.
func (s *School) complete(ctx context.Context, lessons ...*Lesson) error {
	var classes []int64
	diets := map[int64]bool{}
	for _, l := range lessons {
		if !slices.Contains(classes, l.Class.ID) {
			classes = append(classes, l.Class.ID)
		}
		for _, r := range l.Class.Rules {
			diets[l.Class.ID] = diets[l.Class.ID] || r.Kind == class.SameDiet
		}
	}
	rosters, err := s.rosters(ctx, classes...)
	if err != nil {
		return err
	}
	if err := s.withRecipes(ctx, lessons); err != nil {
		return err
	}
	if err := s.withOutages(ctx, lessons); err != nil {
		return err
	}
	for _, l := range lessons {
		if l.Class.Roster = rosters[l.Class.ID]; diets[l.Class.ID] {
			// Groups are dealt by what people eat; nobody is shown it here.
			if l.Class, err = s.WithNeeds(ctx, l.Class); err != nil {
				return err
			}
		}
	}
	return nil
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
	return out, s.complete(ctx, pointers(out)...)
}

func pointers[T any](list []T) []*T {
	out := make([]*T, len(list))
	for i := range list {
		out[i] = &list[i]
	}
	return out
}

// CreateLesson adds a lesson. The form is a UUID that came with the empty
// form: the same form again returns the lesson that it made the first time.
func (s *School) CreateLesson(ctx context.Context, l Lesson, form string) (int64, error) {
	row := lessonRow{Version: 1, Form: form}
	row.Doc.take(l)
	if l.Follows != 0 {
		row.Follows = &l.Follows
	}
	once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
	result := s.db.WithContext(ctx).Clauses(once).Omit("Dish", "Class", "Room", "Period").Create(&row)
	if result.Error != nil || result.RowsAffected > 0 {
		return row.ID, result.Error
	}
	var first lessonRow
	err := s.db.WithContext(ctx).Where("form = ?", form).First(&first).Error
	return first.ID, translate(err)
}

// ChangeLesson writes a lesson over the version that it was read as, and
// keeps what it was, with a word on what was done. It returns ErrChanged where
// somebody else was quicker.
func (s *School) ChangeLesson(ctx context.Context, l Lesson, did string) error {
	return s.inTurn(ctx, "lessons", l.ID, func(in *School) error {
		var was lessonRow
		if err := in.db.Clauses(clause.Locking{Strength: "UPDATE"}).First(&was, l.ID).Error; err != nil {
			return translate(err)
		}
		if was.Version != l.Version {
			return ErrChanged
		}
		kept := lessonVersionRow{LessonID: l.ID, Version: was.Version, Did: did, Doc: was.Doc, SavedAt: time.Now()}
		if err := in.db.Create(&kept).Error; err != nil {
			return err
		}
		return in.writeLesson(l)
	})
}

// writeLesson writes what can be changed of a lesson, one version on.
func (s *School) writeLesson(l Lesson) error {
	row := lessonRow{Version: l.Version + 1}
	row.Doc.take(l)
	return s.db.Model(&lessonRow{}).Where("id = ?", l.ID).
		Select("dish_id", "class_id", "room_id", "period_id", "date", "phases", "group_size", "each", "demo", "spare", "changes", "absent", "teams", "swaps", "ways", "version", "updated_at").
		Updates(&row).Error
}

// MoveDemo moves all dates of a demonstration school by the days between the
// day on which it was last brought up to date and today, so that a lesson
// is always on.
func (s *School) MoveDemo(ctx context.Context, today time.Time) error {
	return s.InTransaction(ctx, func(in *School) error {
		var row school
		if err := in.db.First(&row, s.ID).Error; err != nil {
			return translate(err)
		}
		if row.DemoDay != nil {
			days := int(today.Sub(*row.DemoDay).Hours() / 24)
			by := gorm.Expr("?::integer", days)
			for table, columns := range map[any][]string{&lessonRow{}: {"date"}, &lessonVersionRow{}: {"date"}, &outageRow{}: {"first", "last"}, &termRow{}: {"first", "last"}} {
				moved := map[string]any{}
				for _, c := range columns {
					moved[c] = gorm.Expr(c+" + ?", by)
				}
				if err := in.db.Model(table).Where("true").UpdateColumns(moved).Error; err != nil {
					return err
				}
			}
		}
		s.Demonstration = true
		return in.db.Model(&school{}).Where("id = ?", s.ID).Update("demo_day", today).Error
	})
}

// LessonsOf returns the next lessons of a class from a date, without its
// learners and without recipes.
func (s *School) LessonsOf(ctx context.Context, class int64, from time.Time, most int) ([]Lesson, error) {
	var rows []lessonRow
	err := s.lessons(ctx).Where("class_id = ? AND date >= ?", class, from).Order("date, id").Limit(most).Find(&rows).Error
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

// A Planned is when a class has a lesson.
type Planned struct {
	Class, Period int64
	Date          time.Time
}

// Planned returns when classes have lessons, from the first to the last date.
func (s *School) Planned(ctx context.Context, first, last time.Time) ([]Planned, error) {
	var rows []lessonRow
	err := s.db.WithContext(ctx).Select("class_id", "period_id", "date").Where("date BETWEEN ? AND ?", first, last).Find(&rows).Error
	out := make([]Planned, len(rows))
	for i, r := range rows {
		out[i] = Planned{r.Doc.ClassID, r.Doc.PeriodID, r.Doc.Date}
	}
	return out, err
}
