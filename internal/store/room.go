package store

import (
	"context"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/room"
)

// A Room with its identity, and with what stands in it besides what plans
// use.
type Room struct {
	ID      int64
	Version int
	lesson.Room
	Things Things
}

// Things are what stands in a room and where.
type Things struct {
	Boards []room.Board
	Sharps []room.Thing
	Kept   []room.Thing // equipment with its place
	Floor  room.Floor
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
	Things      thingsDoc      `gorm:"serializer:json"`
	Version     int
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
	ID     string `json:"id"`
	Name   string `json:"name"`
	Places int    `json:"places"`
}

type thingsDoc struct {
	Boards []boardDoc         `json:"boards,omitempty"`
	Sharps []thingDoc         `json:"sharps,omitempty"`
	Kept   []thingDoc         `json:"kept,omitempty"`
	Ovens  map[string]ovenDoc `json:"ovens,omitempty"`
	Floor  *floorDoc          `json:"floor,omitempty"`
}

type boardDoc struct {
	Name  string `json:"name"`
	For   string `json:"for"`
	Count int    `json:"count"`
}

type thingDoc struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
	Place string `json:"place"`
}

type ovenDoc struct {
	Fan     bool   `json:"fan"`
	RunsHot number `json:"runs_hot"`
}

type floorDoc struct {
	W     int            `json:"w"`
	H     int            `json:"h"`
	Items []floorItemDoc `json:"items"`
}

type floorItemDoc struct {
	ID   string `json:"id"`
	Kind string `json:"kind"`
	Name string `json:"name"`
	X    int    `json:"x"`
	Y    int    `json:"y"`
	W    int    `json:"w"`
	H    int    `json:"h"`
}

func thingsDocOf(r lesson.Room, t Things) thingsDoc {
	d := thingsDoc{Ovens: map[string]ovenDoc{}}
	for _, b := range t.Boards {
		d.Boards = append(d.Boards, boardDoc(b))
	}
	for _, k := range t.Sharps {
		d.Sharps = append(d.Sharps, thingDoc(k))
	}
	for _, k := range t.Kept {
		d.Kept = append(d.Kept, thingDoc(k))
	}
	for id, o := range r.Ovens {
		d.Ovens[id] = ovenDoc{o.Fan, number(o.RunsHot)}
	}
	if t.Floor.W > 0 {
		d.Floor = &floorDoc{W: t.Floor.W, H: t.Floor.H, Items: []floorItemDoc{}}
		for _, i := range t.Floor.Items {
			d.Floor.Items = append(d.Floor.Items, floorItemDoc{i.ID, string(i.Kind), i.Name, i.X, i.Y, i.W, i.H})
		}
	}
	return d
}

// into fills a room in.
func (d thingsDoc) into(r *Room) {
	for _, b := range d.Boards {
		r.Things.Boards = append(r.Things.Boards, room.Board(b))
	}
	for _, k := range d.Sharps {
		r.Things.Sharps = append(r.Things.Sharps, room.Thing(k))
	}
	for _, k := range d.Kept {
		r.Things.Kept = append(r.Things.Kept, room.Thing(k))
	}
	for id, o := range d.Ovens {
		if r.Ovens == nil {
			r.Ovens = map[string]measure.Oven{}
		}
		r.Ovens[id] = measure.Oven{Fan: o.Fan, RunsHot: exact.Number(o.RunsHot)}
	}
	if d.Floor != nil {
		r.Things.Floor = room.Floor{W: d.Floor.W, H: d.Floor.H}
		for _, i := range d.Floor.Items {
			r.Things.Floor.Items = append(r.Things.Floor.Items, room.Item{ID: i.ID, Kind: room.Kind(i.Kind), Name: i.Name, X: i.X, Y: i.Y, W: i.W, H: i.H})
		}
	}
	r.RawBoards, r.Sharps = room.Boards(r.Things.Boards), room.Count(r.Things.Sharps)
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

// CreateRoom adds a room. It returns ErrTaken where the name is in use.
func (s *School) CreateRoom(ctx context.Context, r Room) (int64, error) {
	row := roomRowOf(r)
	row.Version = 1
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, translate(err)
}

// ChangeRoom writes a room over the version that it was read as.
func (s *School) ChangeRoom(ctx context.Context, r Room) error {
	row := roomRowOf(r)
	row.Version = r.Version + 1
	return s.inTurn(ctx, "rooms", r.ID, func(in *School) error {
		result := in.db.Model(&roomRow{}).Where("id = ? AND version = ?", r.ID, r.Version).
			Select("name", "benches", "per_bench", "learners", "adults", "equipment", "instruments", "things", "version").Updates(&row)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		return translate(result.Error)
	})
}

// Room returns one room, as it is when all works.
func (s *School) Room(ctx context.Context, id int64) (Room, error) {
	var row roomRow
	err := s.db.WithContext(ctx).First(&row, id).Error
	return row.room(), translate(err)
}

func roomRowOf(r Room) roomRow {
	row := roomRow{
		Name: r.Name, Benches: r.Benches, PerBench: r.PerBench, Learners: r.Learners, Adults: r.Adults,
		Equipment: []equipmentDoc{}, Instruments: instrumentsDoc{}, Things: thingsDocOf(r.Room, r.Things),
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
	return row
}

// Rooms returns the rooms by name, as they are when all works.
func (s *School) Rooms(ctx context.Context) ([]Room, error) {
	return remembered(ctx, s, &s.memory.rooms, func(n Standing) string { return n.rooms }, func() ([]Room, error) { return s.loadRooms(ctx) })
}

func (s *School) loadRooms(ctx context.Context) ([]Room, error) {
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
	out := Room{ID: row.ID, Version: row.Version, Room: r}
	row.Things.into(&out)
	return out
}
