package store

import (
	"context"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
)

// A Room with its identity.
type Room struct {
	ID int64
	lesson.Room
}

type roomRow struct {
	ID          int64
	SchoolID    int64
	Name        string
	Benches     int
	PerBench    int
	Learners    int
	Adults      int
	Equipment   []equipmentDoc `gorm:"serializer:json"`
	Instruments instrumentsDoc `gorm:"serializer:json"`
}

// TableName of the rooms.
func (roomRow) TableName() string { return "rooms" }

type equipmentDoc struct {
	ID          string    `json:"id"`
	PerStation  bool      `json:"per_station,omitempty"`
	Units       []unitDoc `json:"units"`
	Temperature bool      `json:"temperature,omitempty"`
	OnAt        number    `json:"on_at"`
	Preheat     number    `json:"preheat"`
	Reheat      number    `json:"reheat"`
}

type unitDoc struct {
	Name   string `json:"name"`
	Places int    `json:"places"`
}

type instrumentsDoc struct {
	Scales []scaleDoc `json:"scales"`
	Spoons []spoonDoc `json:"spoons"`
	Jugs   []jugDoc   `json:"jugs"`
}

type scaleDoc struct {
	Division number `json:"division_g"`
	Least    number `json:"least_g"`
}

type spoonDoc struct {
	Part number `json:"part"`
	Of   string `json:"of"`
}

type jugDoc struct {
	Marks number `json:"marks_ml"`
	Holds number `json:"holds_ml"`
}

// CreateRoom adds a room.
func (s *School) CreateRoom(ctx context.Context, r lesson.Room) (int64, error) {
	row := roomRow{
		Name: r.Name, Benches: r.Benches, PerBench: r.PerBench, Learners: r.Learners, Adults: r.Adults,
		Equipment: []equipmentDoc{}, Instruments: instrumentsDoc{},
	}
	for _, e := range r.Equipment {
		doc := equipmentDoc{
			ID: e.ID, PerStation: e.PerStation, Temperature: e.Temperature,
			OnAt: number(e.OnAt), Preheat: number(e.Preheat), Reheat: number(e.Reheat),
		}
		for _, u := range e.Units {
			doc.Units = append(doc.Units, unitDoc(u))
		}
		row.Equipment = append(row.Equipment, doc)
	}
	for _, sc := range r.Instruments.Scales {
		row.Instruments.Scales = append(row.Instruments.Scales, scaleDoc{number(sc.Division), number(sc.Least)})
	}
	for _, sp := range r.Instruments.Spoons {
		of := measure.Teaspoon
		if sp.PartOf(measure.Tablespoon) {
			of = measure.Tablespoon
		}
		row.Instruments.Spoons = append(row.Instruments.Spoons, spoonDoc{number(sp.Over(of)), of.Symbol})
	}
	for _, j := range r.Instruments.Jugs {
		row.Instruments.Jugs = append(row.Instruments.Jugs, jugDoc{number(j.Marks), number(j.Holds)})
	}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, err
}

// Rooms returns the rooms by name.
func (s *School) Rooms(ctx context.Context) ([]Room, error) {
	var rows []roomRow
	if err := s.db.WithContext(ctx).Order("name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Room, len(rows))
	for i, r := range rows {
		out[i] = r.room()
	}
	return out, nil
}

func (row roomRow) room() Room {
	r := lesson.Room{Name: row.Name, Benches: row.Benches, PerBench: row.PerBench, Learners: row.Learners, Adults: row.Adults}
	for _, doc := range row.Equipment {
		e := fit.Equipment{
			ID: doc.ID, PerStation: doc.PerStation, Temperature: doc.Temperature,
			OnAt: exact.Number(doc.OnAt), Preheat: exact.Number(doc.Preheat), Reheat: exact.Number(doc.Reheat),
		}
		for _, u := range doc.Units {
			e.Units = append(e.Units, fit.Unit(u))
		}
		r.Equipment = append(r.Equipment, e)
	}
	for _, doc := range row.Instruments.Scales {
		r.Instruments.Scales = append(r.Instruments.Scales, measure.Scale{Division: exact.Number(doc.Division), Least: exact.Number(doc.Least)})
	}
	for _, doc := range row.Instruments.Spoons {
		of, _ := measure.UnitOf(doc.Of)
		r.Instruments.Spoons = append(r.Instruments.Spoons, measure.Spoon(exact.Number(doc.Part), of))
	}
	for _, doc := range row.Instruments.Jugs {
		r.Instruments.Jugs = append(r.Instruments.Jugs, measure.Jug{Marks: exact.Number(doc.Marks), Holds: exact.Number(doc.Holds)})
	}
	return Room{row.ID, r}
}
