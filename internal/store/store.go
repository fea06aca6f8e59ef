// Package store keeps schools and what belongs to them in PostgreSQL. Nothing
// else in the application knows SQL.
package store

import (
	"cmp"
	"context"
	"embed"
	"errors"
	"fmt"
	"log/slog"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"freshapron/internal/core/class"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found in this school")
	// ErrChanged says that somebody else has changed the record meanwhile.
	ErrChanged = errors.New("changed by somebody else meanwhile")
)

// A Store is a connection to the database.
type Store struct {
	url            string
	reads, changes *opened
	db             *gorm.DB // speaks for nobody; see as

	dishes  *dishCache
	rosters *rosterCache
	rows    *queues
}

// Open connects to the PostgreSQL at url. The connections are made as they
// are needed, and made anew when the server comes back after it was gone.
func Open(url string) (*Store, error) { return OpenWatched(url, nil) }

// A Watcher is told of every statement.
type Watcher = pgx.QueryTracer

// OpenWatched is Open with somebody who is told of every statement.
func OpenWatched(url string, watch Watcher) (*Store, error) {
	s := &Store{url: url, rows: newQueues()}
	var err, err2 error
	s.reads, err = connect(url, reading, watch)
	s.changes, err2 = connect(url, changing, watch)
	if err := errors.Join(err, err2); err != nil {
		return nil, errors.Join(fmt.Errorf("connect to the database: %w", err), s.Close())
	}
	s.dishes, err = lru.New[dishKey, Dish](keptDishes)
	s.rosters, err2 = lru.New[rosterKey, []class.Learner](keptRosters)
	if err := errors.Join(err, err2); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	s.db, err = gorm.Open(postgres.New(postgres.Config{Conn: s.reads.sql}), &gorm.Config{
		Logger: logger.NewSlogLogger(slog.Default(), logger.Config{
			SlowThreshold: 200 * time.Millisecond, LogLevel: logger.Warn, IgnoreRecordNotFoundError: true,
			ParameterizedQueries: true, // what people typed stays out of the log
		}),
		TranslateError:       true,
		DisableAutomaticPing: true,
	})
	if err == nil {
		err = s.db.Use(tenancy{})
	}
	if err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

// as returns the database as a school speaks to it.
func (s *Store) as(school int64) *gorm.DB {
	db := s.db.Session(&gorm.Session{NewDB: true})
	db.Statement.ConnPool = pinned{s.reads.sql, s.changes.sql, school}
	return db.Set(tenantKey, school).Session(&gorm.Session{})
}

// door returns the database as somebody speaks to it who has not signed in.
func (s *Store) door(ctx context.Context) *gorm.DB {
	db := s.db.Session(&gorm.Session{NewDB: true, Context: ctx})
	db.Statement.ConnPool = pinned{s.reads.sql, s.changes.sql, atTheDoor}
	return db.Set(doorKey, true).Session(&gorm.Session{})
}

// A School is a school's part of the store; every query made through it is
// held to that school by the tenancy plugin.
type School struct {
	ID            int64
	Name          string
	Location      *time.Location
	Demonstration bool

	db      *gorm.DB
	dishes  *dishCache
	learned *rosterCache
	rows    *queues
	memory  *memory
	inside  bool // a transaction
}

type school struct {
	ID       int64
	Name     string
	TimeZone string
	DemoDay  *time.Time `gorm:"type:date"`
	Settings Settings   `gorm:"serializer:json"`
}

// TableName of the schools.
func (school) TableName() string { return "schools" }

// SchoolByName returns the school with the given name.
func (s *Store) SchoolByName(ctx context.Context, name string) (*School, error) {
	var row school
	if err := s.door(ctx).Where("name = ?", name).First(&row).Error; err != nil {
		return nil, translate(err)
	}
	return s.scope(row)
}

// SchoolByID returns the school with the given id.
func (s *Store) SchoolByID(ctx context.Context, id int64) (*School, error) {
	var row school
	if err := s.door(ctx).First(&row, id).Error; err != nil {
		return nil, translate(err)
	}
	return s.scope(row)
}

// Schools returns all.
func (s *Store) Schools(ctx context.Context) ([]*School, error) {
	var rows []school
	if err := s.door(ctx).Order("id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]*School, len(rows))
	for i, row := range rows {
		var err error
		if out[i], err = s.scope(row); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// CreateSchool adds a school.
func (s *Store) CreateSchool(ctx context.Context, name, timeZone string) (*School, error) {
	row := school{Name: name, TimeZone: timeZone}
	if err := s.door(ctx).Create(&row).Error; err != nil {
		return nil, err
	}
	return s.scope(row)
}

func (s *Store) scope(row school) (*School, error) {
	loc, err := time.LoadLocation(row.TimeZone)
	if err != nil {
		return nil, fmt.Errorf("time zone of %s: %w", row.Name, err)
	}
	return &School{ID: row.ID, Name: row.Name, Location: loc, Demonstration: row.DemoDay != nil, db: s.as(row.ID), dishes: s.dishes, learned: s.rosters, rows: s.rows, memory: &memory{}}, nil
}

// Settings are what a school chooses about recipes and amounts. The zero
// value is what is usual.
type Settings struct {
	Units     string  `json:"units,omitempty"`     // metric, us, au or imperial
	First     string  `json:"first,omitempty"`     // weight, volume or both
	Agent     float64 `json:"agent,omitempty"`     // tolerances, as shares
	Structure float64 `json:"structure,omitempty"` //
	Other     float64 `json:"other,omitempty"`     //
	Declare   string  `json:"declare,omitempty"`   // fourteen or nine
	Safety    *book   `json:"safety,omitempty"`    // the school's own tables; see Book
	// Of preparing: the places of the store in the order in which they are walked
	// past, what rooms share, and what a lesson and a term may cost for each
	// learner, in pence; 0 is no limit.
	Places []string `json:"places,omitempty"`
	Shared []Shared `json:"shared,omitempty"`
	Lesson int      `json:"lesson_pence,omitempty"`
	Term   int      `json:"term_pence,omitempty"`
	// Pictures is after how many days those that benches have taken are thrown away;
	// 0 stands for UsualPictures.
	Pictures int `json:"picture_days,omitempty"`
	// Skills is the school's own graph of skills, as core/skills reads it; empty stands
	// for the one that ships.
	Skills string `json:"skills,omitempty"`
}

// UsualPictures is after how many days pictures are thrown away where a school says
// nothing else.
const UsualPictures = 28

// PictureDays is after how many days pictures are thrown away.
func (s Settings) PictureDays() int { return cmp.Or(s.Pictures, UsualPictures) }

// A Shared is something of which all rooms together have so many.
type Shared struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
}

// Settings returns the school's settings.
func (s *School) Settings(ctx context.Context) (Settings, error) {
	var row school
	err := s.db.WithContext(ctx).Select("settings").First(&row, s.ID).Error
	return row.Settings, translate(err)
}

// SaveSettings writes them.
func (s *School) SaveSettings(ctx context.Context, settings Settings) error {
	return s.db.WithContext(ctx).Model(&school{}).Where("id = ?", s.ID).Select("settings").Updates(&school{Settings: settings}).Error
}

// InTransaction runs f with a School whose changes are made all or not at all.
func (s *School) InTransaction(ctx context.Context, f func(*School) error) error {
	return translate(s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		in := *s
		in.db, in.inside = tx.Session(&gorm.Session{}), true
		return f(&in)
	}))
}

// inTurn is InTransaction for a change of one row: those who change the same
// row wait for each other before they take a connection, so that a row that is
// held keeps nobody else from theirs.
func (s *School) inTurn(ctx context.Context, table string, id int64, f func(*School) error) error {
	if s.inside {
		return s.InTransaction(ctx, f)
	}
	turn, cancel := context.WithTimeout(ctx, longestTurn)
	defer cancel()
	leave, ok := s.rows.enter(turn, fmt.Sprint(table, " ", id))
	if !ok {
		return cmp.Or(ctx.Err(), ErrBusy)
	}
	defer leave()
	return s.InTransaction(ctx, f)
}

func translate(err error) error {
	var fault *pgconn.PgError
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.Is(err, gorm.ErrDuplicatedKey):
		return ErrTaken
	case errors.As(err, &fault) && (fault.Code == lockNotAvailable || fault.Code == queryCanceled):
		return fmt.Errorf("%w: %w", ErrBusy, err)
	}
	return err
}

// Codes of PostgreSQL, appendix A of its manual.
const (
	lockNotAvailable = "55P03"
	queryCanceled    = "57014"
	notInRepertoire  = "22021"
	untranslatable   = "22P05"
)
