package store

import (
	"cmp"
	"context"
	"errors"
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
	Menu    []Course
	Class   Class
	Room    Room
	Period  Period
	Follows int64 // the lesson of which this is the second half; 0 for none
	Setup
}

// A Course is a dish on the menu of a lesson.
type Course struct {
	Dish  Dish
	Each  int // pieces for each learner who makes it
	Demo  int // pieces
	By    lesson.Makers
	Picks []lesson.Picked
}

// A Setup is what the teacher chooses of a lesson besides menu, class, room
// and time.
type Setup struct {
	Phases    []fit.Phase
	GroupSize int
	Spare     int // sets
	Changes   []rescue.Change
	Absent    []int64   // learners
	Teams     [][]int64 // who works with whom, where somebody has changed it
	Swaps     []lesson.Swap
	OtherWays []lesson.WayTaken
}

// Titles names the dishes of the menu.
func (l Lesson) Titles() string { return l.Plan(lesson.Tables{}).Titles() }

// Over reports whether the bell has rung, at a local time.
func (l Lesson) Over(now time.Time) bool {
	return l.Date.Add(time.Duration(l.Period.End) * time.Minute).Before(time.Date(now.Year(), now.Month(), now.Day(), now.Hour(), now.Minute(), 0, 0, time.UTC))
}

// Plan returns the lesson as the core takes it, with the school's tables.
func (l Lesson) Plan(t lesson.Tables) lesson.Lesson {
	out := t.With(lesson.Lesson{
		Date: l.Date.Format(time.DateOnly), Start: l.Period.Start, End: l.Period.End,
		Phases: l.Phases, Class: l.Class.Class, Room: l.Room.Room,
		GroupSize: l.GroupSize, Spare: l.Spare, Changes: l.Changes,
		Absent: l.Absent, Teams: l.Teams, Swaps: l.Swaps, OtherWays: l.OtherWays,
	})
	for _, c := range l.Menu {
		out.Menu = append(out.Menu, lesson.Course{Recipe: c.Dish.Recipe, Each: c.Each, Demo: c.Demo, By: c.By, Picks: c.Picks})
	}
	return out
}

// Take takes over what the core has changed of a lesson that came from this
// one: the menu, of its own dishes and others, the sizes and what was decided.
func (l Lesson) Take(from lesson.Lesson, others ...Dish) Lesson {
	for _, c := range l.Menu {
		others = append(others, c.Dish)
	}
	var menu []Course
	for _, c := range from.Menu {
		for _, d := range others {
			if d.Recipe.ID == c.Recipe.ID {
				menu = append(menu, Course{d, c.Each, c.Demo, c.By, c.Picks})
			}
		}
	}
	l.Menu, l.GroupSize, l.Changes = menu, from.GroupSize, from.Changes
	return l
}

type lessonRow struct {
	ID        int64
	SchoolID  int64
	Setup     setupDoc `gorm:"serializer:json"`
	Follows   *int64
	Version   int
	Form      string
	CreatedAt time.Time
	UpdatedAt time.Time
	// What lessons are looked up by; the database takes it out of the set-up.
	ClassID  int64     `gorm:"->"`
	PeriodID int64     `gorm:"->"`
	Date     time.Time `gorm:"->;type:date"`
}

// A setupDoc is what can be changed of a lesson, as one document.
type setupDoc struct {
	Date      string         `json:"date"`
	Class     int64          `json:"class"`
	Room      int64          `json:"room"`
	Period    int64          `json:"period"`
	Menu      []courseDoc    `json:"menu"`
	Phases    []phaseDoc     `json:"phases"`
	GroupSize int            `json:"group_size"`
	Spare     int            `json:"spare"`
	Changes   []changeDoc    `json:"changes"`
	Absent    []int64        `json:"absent"`
	Teams     [][]int64      `json:"teams"`
	Swaps     []benchSwapDoc `json:"swaps"`
	Ways      []wayDoc       `json:"ways"`
}

type courseDoc struct {
	Dish     int64     `json:"dish"`
	Each     int       `json:"each"`
	Demo     int       `json:"demo"`
	Groups   []string  `json:"groups,omitempty"`
	Learners []int64   `json:"learners,omitempty"`
	Picks    []pickDoc `json:"picks,omitempty"`
}

type pickDoc struct {
	Learner int64  `json:"learner"`
	Choice  string `json:"choice"`
	Option  string `json:"option"`
}

type benchSwapDoc struct {
	Learner int64  `json:"learner"`
	Dish    string `json:"dish"` // slug
	For     string `json:"for"`
	Use     string `json:"use"`
}

type wayDoc struct {
	Learner int64  `json:"learner"`
	Dish    string `json:"dish,omitempty"` // slug
	Step    string `json:"step,omitempty"`
	Way     string `json:"way"`
}

// TableName of the lessons.
func (lessonRow) TableName() string { return "lessons" }

// A lessonDishRow says that a dish is on the menu of a lesson.
type lessonDishRow struct {
	SchoolID int64
	LessonID int64 `gorm:"primaryKey;autoIncrement:false"`
	DishID   int64 `gorm:"primaryKey;autoIncrement:false"`
}

// TableName of the menus.
func (lessonDishRow) TableName() string { return "lesson_dishes" }

type phaseDoc struct {
	Name    string `json:"name"`
	Minutes number `json:"minutes"`
	Place   string `json:"place"` // start, end or minute
	Minute  number `json:"minute"`
	Waits   bool   `json:"waits,omitempty"`
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

func setupOf(l Lesson) setupDoc {
	d := setupDoc{
		Date: l.Date.Format(time.DateOnly), Class: l.Class.ID, Room: l.Room.ID, Period: l.Period.ID, GroupSize: l.GroupSize, Spare: l.Spare,
		Menu: []courseDoc{}, Phases: []phaseDoc{}, Changes: []changeDoc{}, Swaps: []benchSwapDoc{}, Ways: []wayDoc{},
		Absent: append([]int64{}, l.Absent...), Teams: append([][]int64{}, l.Teams...),
	}
	for _, c := range l.Menu {
		d.Menu = append(d.Menu, courseDoc{
			Dish: c.Dish.ID, Each: c.Each, Demo: c.Demo, Groups: c.By.Groups, Learners: c.By.Learners,
			Picks: each(c.Picks, func(p lesson.Picked) pickDoc { return pickDoc(p) }),
		})
	}
	for _, p := range l.Phases {
		d.Phases = append(d.Phases, phaseDoc{p.Name, number(p.Minutes), placeNames[p.Place], number(p.Minute), p.Waits})
	}
	for _, c := range l.Changes {
		d.Changes = append(d.Changes, changeDocOf(c))
	}
	for _, s := range l.Swaps {
		d.Swaps = append(d.Swaps, benchSwapDoc(s))
	}
	for _, w := range l.OtherWays {
		d.Ways = append(d.Ways, wayDoc(w))
	}
	return d
}

// lesson returns the lesson of a row, with the ids only of what it is made of;
// see complete.
func (row lessonRow) lesson() (Lesson, error) {
	d := row.Setup
	date, err := time.Parse(time.DateOnly, d.Date)
	if err != nil {
		return Lesson{}, err
	}
	l := Lesson{
		ID: row.ID, Version: row.Version, Date: date, Class: Class{ID: d.Class}, Room: Room{ID: d.Room}, Period: Period{ID: d.Period}, Follows: none(row.Follows),
		Setup: Setup{GroupSize: d.GroupSize, Spare: d.Spare},
	}
	for _, c := range d.Menu {
		l.Menu = append(l.Menu, Course{
			Dish: Dish{ID: c.Dish}, Each: c.Each, Demo: c.Demo, By: lesson.Makers{Groups: c.Groups, Learners: c.Learners},
			Picks: each(c.Picks, func(p pickDoc) lesson.Picked { return lesson.Picked(p) }),
		})
	}
	for _, d := range d.Changes {
		l.Changes = append(l.Changes, d.change())
	}
	if len(d.Absent) > 0 {
		l.Absent = d.Absent
	}
	if len(d.Teams) > 0 {
		l.Teams = d.Teams
	}
	for _, d := range d.Swaps {
		l.Swaps = append(l.Swaps, lesson.Swap(d))
	}
	for _, d := range d.Ways {
		l.OtherWays = append(l.OtherWays, lesson.WayTaken(d))
	}
	for _, p := range d.Phases {
		ph := fit.Phase{Name: p.Name, Minutes: exact.Number(p.Minutes), Minute: exact.Number(p.Minute), Waits: p.Waits}
		for place, name := range placeNames {
			if name == p.Place {
				ph.Place = place
			}
		}
		l.Phases = append(l.Phases, ph)
	}
	return l, nil
}

// lessons returns the lessons of rows with all that they are made of.
func (s *School) lessons(ctx context.Context, rows ...lessonRow) ([]Lesson, error) {
	out := make([]Lesson, len(rows))
	for i, row := range rows {
		var err error
		if out[i], err = row.lesson(); err != nil {
			return nil, err
		}
	}
	return out, s.complete(ctx, pointers(out)...)
}

// Lesson returns one lesson.
func (s *School) Lesson(ctx context.Context, id int64) (Lesson, error) {
	return s.oneLesson(ctx, "id = ?", id)
}

// oneLesson returns the lesson with the lowest id that meets a condition.
func (s *School) oneLesson(ctx context.Context, where string, args ...any) (Lesson, error) {
	var row lessonRow
	if err := s.db.WithContext(ctx).Where(where, args...).First(&row).Error; err != nil {
		return Lesson{}, translate(err)
	}
	list, err := s.lessons(ctx, row)
	if err != nil {
		return Lesson{}, err
	}
	return list[0], nil
}

// complete fills in what lessons are made of: class, room, period, who is in
// the class, what is on the menu, and what does not work in the room on the day.
func (s *School) complete(ctx context.Context, lessons ...*Lesson) error {
	classes, err := s.Classes(ctx)
	rooms, err2 := s.Rooms(ctx)
	periods, err3 := s.Periods(ctx)
	if err := errors.Join(err, err2, err3); err != nil {
		return err
	}
	class := byID(classes, func(c Class) int64 { return c.ID })
	room := byID(rooms, func(r Room) int64 { return r.ID })
	period := byID(periods, func(p Period) int64 { return p.ID })
	for _, l := range lessons {
		l.Class, l.Room, l.Period = class[l.Class.ID], room[l.Room.ID], period[l.Period.ID]
	}
	if err := s.withRosters(ctx, lessons); err != nil {
		return err
	}
	if err := s.withDishes(ctx, lessons); err != nil {
		return err
	}
	return s.withOutages(ctx, lessons)
}

// withRosters fills in who is in the classes of lessons. Of what learners need
// only likeness comes along, where groups are dealt by it.
func (s *School) withRosters(ctx context.Context, lessons []*Lesson) error {
	found := map[int64][]class.Learner{}
	for _, l := range lessons {
		if _, ok := found[l.Class.ID]; ok {
			continue
		}
		key := rosterKey{l.Class.ID, l.Class.Version}
		roster, ok := s.learned.Get(key)
		if !ok || s.inside {
			rosters, err := s.rosters(ctx, l.Class.ID)
			if err != nil {
				return err
			}
			roster = rosters[l.Class.ID]
			if slices.ContainsFunc(l.Class.Rules, func(r class.Rule) bool { return r.Kind == class.SameDiet }) {
				whole := l.Class
				whole.Roster = roster
				if whole, err = s.WithNeeds(ctx, whole); err != nil {
					return err
				}
				roster = class.Alike(whole.Roster)
			}
			if !s.inside {
				s.learned.Add(key, roster)
			}
		}
		found[l.Class.ID] = roster
	}
	for _, l := range lessons {
		l.Class.Roster = found[l.Class.ID]
	}
	return nil
}

// LessonsBetween returns the lessons from the first to the last date, by time.
func (s *School) LessonsBetween(ctx context.Context, first, last time.Time) ([]Lesson, error) {
	var rows []lessonRow
	if err := s.db.WithContext(ctx).Where("date BETWEEN ? AND ?", first, last).Order("date, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out, err := s.lessons(ctx, rows...)
	slices.SortStableFunc(out, func(a, b Lesson) int {
		return cmp.Or(a.Date.Compare(b.Date), cmp.Compare(a.Period.Start, b.Period.Start))
	})
	return out, err
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
	var id int64
	err := s.InTransaction(ctx, func(in *School) error {
		row := lessonRow{Version: 1, Form: form, Setup: setupOf(l), Follows: some(l.Follows)}
		once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "form"}}, DoNothing: true}
		result := in.db.Clauses(once).Omit(clause.Associations).Create(&row)
		if result.Error != nil {
			return result.Error
		}
		if result.RowsAffected == 0 {
			var first lessonRow
			err := in.db.Select("id").Where("form = ?", form).First(&first).Error
			id = first.ID
			return translate(err)
		}
		id = row.ID
		return in.writeMenu(id, row.Setup)
	})
	return id, err
}

// writeMenu writes which dishes are on the menu of a lesson, to be looked up.
func (s *School) writeMenu(id int64, d setupDoc) error {
	if err := s.db.Where("lesson_id = ?", id).Delete(&lessonDishRow{}).Error; err != nil {
		return err
	}
	var rows []lessonDishRow
	for _, c := range d.Menu {
		rows = append(rows, lessonDishRow{LessonID: id, DishID: c.Dish})
	}
	return s.db.Create(&rows).Error
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
		kept := lessonVersionRow{LessonID: l.ID, Version: was.Version, Did: did, Setup: was.Setup, SavedAt: time.Now()}
		if err := in.db.Omit(clause.Associations).Create(&kept).Error; err != nil {
			return err
		}
		return in.writeLesson(l)
	})
}

// writeLesson writes what can be changed of a lesson, one version on.
func (s *School) writeLesson(l Lesson) error {
	row := lessonRow{Version: l.Version + 1, Setup: setupOf(l)}
	if err := s.db.Model(&lessonRow{}).Where("id = ?", l.ID).Select("setup", "version", "updated_at").Updates(&row).Error; err != nil {
		return err
	}
	return s.writeMenu(l.ID, row.Setup)
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
			inSetup := map[string]any{"setup": gorm.Expr("jsonb_set(setup, '{date}', to_jsonb(to_char(date + ?, 'YYYY-MM-DD')))", by)}
			for _, table := range []any{&lessonRow{}, &lessonVersionRow{}} {
				if err := in.db.Model(table).Where("true").UpdateColumns(inSetup).Error; err != nil {
					return err
				}
			}
			for table, columns := range map[any][]string{
				&outageRow{}: {"first", "last"}, &termRow{}: {"first", "last"}, &bedRow{}: {"first", "last"},
				&batchRow{}: {"use_by", "opened"}, &orderRow{}: {"comes"}, &decisionRow{}: {"comes"},
			} {
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

// LessonsOf returns the next lessons of a class from a date.
func (s *School) LessonsOf(ctx context.Context, class int64, from time.Time, most int) ([]Lesson, error) {
	var rows []lessonRow
	err := s.db.WithContext(ctx).Where("class_id = ? AND date >= ?", class, from).Order("date, id").Limit(most).Find(&rows).Error
	if err != nil {
		return nil, err
	}
	return s.lessons(ctx, rows...)
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
		out[i] = Planned{r.ClassID, r.PeriodID, r.Date}
	}
	return out, err
}
