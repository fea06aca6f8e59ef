package store

import (
	"context"
	"time"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/term"
)

// A Period of the school day, in local time.
type Period = term.Period

type periodRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Starts   int
	Ends     int
	Days     int
}

// TableName of the periods.
func (periodRow) TableName() string { return "periods" }

// CreatePeriod adds a period; without days it is on every school day. It
// returns ErrTaken where the name is in use.
func (s *School) CreatePeriod(ctx context.Context, p Period) (int64, error) {
	if p.Days == 0 {
		p.Days = term.SchoolDays
	}
	row := periodRow{Name: p.Name, Starts: int(p.Start), Ends: int(p.End), Days: int(p.Days)}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, translate(err)
}

// ChangePeriod writes a period's name, times and days.
func (s *School) ChangePeriod(ctx context.Context, p Period) error {
	row := periodRow{Name: p.Name, Starts: int(p.Start), Ends: int(p.End), Days: int(p.Days)}
	result := s.db.WithContext(ctx).Model(&periodRow{}).Where("id = ?", p.ID).Select("name", "starts", "ends", "days").Updates(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return translate(result.Error)
}

// Periods returns the periods by time, the shorter first.
func (s *School) Periods(ctx context.Context) ([]Period, error) {
	return remembered(ctx, s, &s.memory.periods, func(n Standing) string { return n.periods }, func() ([]Period, error) { return s.loadPeriods(ctx) })
}

func (s *School) loadPeriods(ctx context.Context) ([]Period, error) {
	var rows []periodRow
	if err := s.db.WithContext(ctx).Order("starts, ends").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Period, len(rows))
	for i, r := range rows {
		out[i] = r.period()
	}
	return out, nil
}

func (row periodRow) period() Period {
	return Period{ID: row.ID, Name: row.Name, Start: clock.Time(row.Starts), End: clock.Time(row.Ends), Days: term.Days(row.Days)}
}

// A Term with its identity; days off, too.
type Term struct {
	ID int64
	term.Span
}

type termRow struct {
	ID       int64
	SchoolID int64
	Name     string
	First    time.Time `gorm:"type:date"`
	Last     time.Time `gorm:"type:date"`
	Off      bool
}

// TableName of the terms.
func (termRow) TableName() string { return "terms" }

// Terms returns terms and days off by date.
func (s *School) Terms(ctx context.Context) ([]Term, error) {
	var rows []termRow
	err := s.db.WithContext(ctx).Order("first, last DESC, id").Find(&rows).Error
	out := make([]Term, len(rows))
	for i, r := range rows {
		out[i] = Term{r.ID, term.Span{Name: r.Name, First: r.First, Last: r.Last, Off: r.Off}}
	}
	return out, err
}

// AddTerm adds a term or days off.
func (s *School) AddTerm(ctx context.Context, t term.Span) error {
	return s.db.WithContext(ctx).Create(&termRow{Name: t.Name, First: t.First, Last: t.Last, Off: t.Off}).Error
}

// RemoveTerm takes a term or days off away.
func (s *School) RemoveTerm(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Where("id = ?", id).Delete(&termRow{}).Error
}

// A Slot of the timetable with its identity.
type Slot struct {
	ID int64
	term.Slot
}

type slotRow struct {
	ID       int64
	SchoolID int64
	ClassID  int64
	RoomID   int64
	PeriodID int64
	Weekday  int
}

// TableName of the timetable.
func (slotRow) TableName() string { return "slots" }

// Slots returns the timetable: of one class, or of all where it is 0.
func (s *School) Slots(ctx context.Context, class int64) ([]Slot, error) {
	db := s.db.WithContext(ctx).Order("weekday, period_id, id")
	if class != 0 {
		db = db.Where("class_id = ?", class)
	}
	var rows []slotRow
	err := db.Find(&rows).Error
	out := make([]Slot, len(rows))
	for i, r := range rows {
		out[i] = Slot{r.ID, term.Slot{Class: r.ClassID, Room: r.RoomID, Period: r.PeriodID, Day: term.Weekday(r.Weekday)}}
	}
	return out, err
}

// AddSlots adds to the timetable.
func (s *School) AddSlots(ctx context.Context, slots []term.Slot) error {
	if len(slots) == 0 {
		return nil
	}
	var rows []slotRow
	for _, t := range slots {
		rows = append(rows, slotRow{ClassID: t.Class, RoomID: t.Room, PeriodID: t.Period, Weekday: int(t.Day)})
	}
	return s.db.WithContext(ctx).Create(&rows).Error
}

// RemoveSlot takes a lesson out of the timetable.
func (s *School) RemoveSlot(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Where("id = ?", id).Delete(&slotRow{}).Error
}
