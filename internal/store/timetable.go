package store

import (
	"context"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
)

// A Class with its identity.
type Class struct {
	ID int64
	lesson.Class
}

type classRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Learners int
	Pace     string // numeric, exact
}

// TableName of the classes.
func (classRow) TableName() string { return "classes" }

// CreateClass adds a class.
func (s *School) CreateClass(ctx context.Context, c lesson.Class) (int64, error) {
	row := classRow{Name: c.Name, Learners: c.Learners, Pace: c.Pace.Decimal(6)}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// Classes returns the classes by name.
func (s *School) Classes(ctx context.Context) ([]Class, error) {
	var rows []classRow
	if err := s.db.WithContext(ctx).Order("name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Class, len(rows))
	for i, r := range rows {
		c, err := r.class()
		if err != nil {
			return nil, err
		}
		out[i] = c
	}
	return out, nil
}

func (row classRow) class() (Class, error) {
	pace, err := exact.Parse(row.Pace)
	return Class{row.ID, lesson.Class{Name: row.Name, Learners: row.Learners, Pace: pace}}, err
}

// A Period of the school day, in local time.
type Period struct {
	ID         int64
	Name       string
	Start, End fit.Clock
}

type periodRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Starts   int
	Ends     int
}

// TableName of the periods.
func (periodRow) TableName() string { return "periods" }

// CreatePeriod adds a period.
func (s *School) CreatePeriod(ctx context.Context, p Period) (int64, error) {
	row := periodRow{Name: p.Name, Starts: int(p.Start), Ends: int(p.End)}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// Periods returns the periods by time, the shorter first.
func (s *School) Periods(ctx context.Context) ([]Period, error) {
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
	return Period{row.ID, row.Name, fit.Clock(row.Starts), fit.Clock(row.Ends)}
}
