package store

import (
	"context"
	"fmt"
	"slices"
	"time"

	"freshapron/internal/core/fit"
)

// An Outage is something of a room that does not work, from a day to a day.
type Outage struct {
	ID              int64
	Room            int64
	Equipment, Unit string // ids
	Why, Who        string
	First           time.Time
	Last            time.Time // the zero time while nobody knows
}

// On reports whether it holds on a day.
func (o Outage) On(day time.Time) bool {
	return !day.Before(o.First) && (o.Last.IsZero() || !day.After(o.Last))
}

// Says prints it with the name that the unit has: "Oven 4: door does not close".
func (o Outage) Says(name string) string {
	if o.Why == "" {
		return name
	}
	return name + ": " + o.Why
}

type outageRow struct {
	ID        int64
	SchoolID  int64
	RoomID    int64
	Equipment string
	Unit      string
	Why       string
	Who       string
	First     time.Time  `gorm:"type:date"`
	Last      *time.Time `gorm:"type:date"`
}

// TableName of the outages.
func (outageRow) TableName() string { return "outages" }

func (row outageRow) outage() Outage {
	o := Outage{row.ID, row.RoomID, row.Equipment, row.Unit, row.Why, row.Who, row.First, time.Time{}}
	if row.Last != nil {
		o.Last = *row.Last
	}
	return o
}

// Outages returns what does not work in rooms from a day on, by its first day.
func (s *School) Outages(ctx context.Context, from time.Time, rooms ...int64) ([]Outage, error) {
	all, err := remembered(ctx, s, &s.memory.outages, func(n Standing) string { return n.outages }, func() ([]Outage, error) {
		var rows []outageRow
		err := s.db.WithContext(ctx).Order("first, id").Find(&rows).Error
		return each(rows, outageRow.outage), err
	})
	return slices.DeleteFunc(all, func(o Outage) bool {
		return !slices.Contains(rooms, o.Room) || !o.Last.IsZero() && o.Last.Before(from)
	}), err
}

// AddOutage says that something does not work.
func (s *School) AddOutage(ctx context.Context, o Outage) (int64, error) {
	row := outageRow{RoomID: o.Room, Equipment: o.Equipment, Unit: o.Unit, Why: o.Why, Who: o.Who, First: o.First}
	if !o.Last.IsZero() {
		row.Last = &o.Last
	}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// EndOutage says that it works again from a day on.
func (s *School) EndOutage(ctx context.Context, id int64, works time.Time) error {
	before := works.AddDate(0, 0, -1)
	return s.InTransaction(ctx, func(in *School) error {
		var row outageRow
		if err := in.db.First(&row, id).Error; err != nil {
			return translate(err)
		}
		if row.First.After(before) { // it never was so for a whole day
			return in.db.Where("id = ?", id).Delete(&outageRow{}).Error
		}
		return in.db.Model(&outageRow{}).Where("id = ?", id).Update("last", before).Error
	})
}

// withOutages takes out of the rooms of lessons what does not work on their
// day.
func (s *School) withOutages(ctx context.Context, lessons []*Lesson) error {
	if len(lessons) == 0 {
		return nil
	}
	var rooms []int64
	from := lessons[0].Date
	for _, l := range lessons {
		if !slices.Contains(rooms, l.Room.ID) {
			rooms = append(rooms, l.Room.ID)
		}
		if l.Date.Before(from) {
			from = l.Date
		}
	}
	outages, err := s.Outages(ctx, from, rooms...)
	if err != nil {
		return err
	}
	for _, l := range lessons {
		for _, o := range outages {
			if o.Room == l.Room.ID && o.On(l.Date) {
				l.Room = l.Room.Without(o)
			}
		}
	}
	return nil
}

// Without returns the room without what does not work. The last unit of a kind
// stays away, too: steps that need it then can't be planned, and the lesson
// says so. What is not in the room any more is not missed.
func (r Room) Without(o Outage) Room {
	r.Equipment = slices.Clone(r.Equipment)
	for i, e := range r.Equipment {
		at := slices.IndexFunc(e.Units, func(u fit.Unit) bool { return u.ID == o.Unit })
		if e.ID != o.Equipment || e.PerStation || at < 0 {
			continue
		}
		r.Out, r.Outages = append(slices.Clone(r.Out), e.Units[at]), append(slices.Clone(r.Outages), o.Says(e.Units[at].Name))
		e.Units = slices.Delete(slices.Clone(e.Units), at, at+1)
		r.Equipment[i] = e
	}
	return r
}

type sharpCountRow struct {
	ID       int64
	SchoolID int64
	RoomID   int64
	Out      bool
	Counted  int
	Expected int
	Who      string
	At       time.Time
}

// TableName of the counts.
func (sharpCountRow) TableName() string { return "sharp_counts" }

// A SharpCount is how many sharp things somebody has counted, out or in.
type SharpCount struct {
	Out               bool
	Counted, Expected int
	Who               string
	At                time.Time
}

// Says prints it: "46 of 48 in: 2 are missing".
func (c SharpCount) Says() string {
	way := "in"
	if c.Out {
		way = "out"
	}
	s := fmt.Sprintf("%d of %d %s", c.Counted, c.Expected, way)
	if c.Counted != c.Expected {
		s += fmt.Sprintf(": %d are missing", c.Expected-c.Counted)
		if c.Counted > c.Expected {
			s = fmt.Sprintf("%d %s, and there should be %d", c.Counted, way, c.Expected)
		}
	}
	return s
}

// CountSharps writes a count down.
func (s *School) CountSharps(ctx context.Context, room int64, c SharpCount) error {
	return s.db.WithContext(ctx).Create(&sharpCountRow{RoomID: room, Out: c.Out, Counted: c.Counted, Expected: c.Expected, Who: c.Who, At: c.At}).Error
}

// SharpCounts returns the newest counts of a room.
func (s *School) SharpCounts(ctx context.Context, room int64, most int) ([]SharpCount, error) {
	var rows []sharpCountRow
	err := s.db.WithContext(ctx).Where("room_id = ?", room).Order("id DESC").Limit(most).Find(&rows).Error
	out := make([]SharpCount, len(rows))
	for i, r := range rows {
		out[i] = SharpCount{r.Out, r.Counted, r.Expected, r.Who, r.At}
	}
	return out, err
}
