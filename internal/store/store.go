// Package store keeps schools and what belongs to them in PostgreSQL. Nothing
// else in the application knows SQL.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"time"

	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
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
	db  *gorm.DB
	sql *sql.DB
}

// Open connects to the PostgreSQL at url. The connections are made as they
// are needed, and made anew when the server comes back after it was gone.
func Open(url string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(url), &gorm.Config{
		Logger: logger.NewSlogLogger(slog.Default(), logger.Config{
			SlowThreshold: 200 * time.Millisecond, LogLevel: logger.Warn, IgnoreRecordNotFoundError: true,
			ParameterizedQueries: true, // what people typed stays out of the log
		}),
		TranslateError: true,
	})
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	if err := db.Use(tenancy{}); err != nil {
		return nil, err
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(8)
	return &Store{db, pool}, nil
}

// Close ends the connections.
func (s *Store) Close() error { return s.sql.Close() }

// Ping asks the database for an answer.
func (s *Store) Ping(ctx context.Context) error { return s.sql.PingContext(ctx) }

// Migrate brings the schema up to date. Copies that start at once wait for
// each other.
func (s *Store) Migrate(ctx context.Context) error {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	conn, err := s.sql.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	const lock = 7_310_021 // any number that nothing else in the database uses
	if _, err := conn.ExecContext(ctx, "SELECT pg_advisory_lock($1)", lock); err != nil {
		return err
	}
	defer conn.ExecContext(context.WithoutCancel(ctx), "SELECT pg_advisory_unlock($1)", lock) //nolint:errcheck // the connection's end unlocks too
	p, err := goose.NewProvider(goose.DialectPostgres, s.sql, sub)
	if err != nil {
		return err
	}
	_, err = p.Up(ctx)
	return err
}

// A School is a school's part of the store; every query made through it is
// held to that school by the tenancy plugin.
type School struct {
	Name     string
	Location *time.Location

	id int64
	db *gorm.DB
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
	if err := s.db.WithContext(ctx).Where("name = ?", name).First(&row).Error; err != nil {
		return nil, translate(err)
	}
	return s.scope(row)
}

// CreateSchool adds a school.
func (s *Store) CreateSchool(ctx context.Context, name, timeZone string) (*School, error) {
	row := school{Name: name, TimeZone: timeZone}
	if err := s.db.WithContext(ctx).Create(&row).Error; err != nil {
		return nil, err
	}
	return s.scope(row)
}

func (s *Store) scope(row school) (*School, error) {
	loc, err := time.LoadLocation(row.TimeZone)
	if err != nil {
		return nil, fmt.Errorf("time zone of %s: %w", row.Name, err)
	}
	return &School{Name: row.Name, Location: loc, id: row.ID, db: s.db.Set(tenantKey, row.ID).Session(&gorm.Session{})}, nil
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
}

// Settings returns the school's settings.
func (s *School) Settings(ctx context.Context) (Settings, error) {
	var row school
	err := s.db.WithContext(ctx).Select("settings").First(&row, s.id).Error
	return row.Settings, translate(err)
}

// SaveSettings writes them.
func (s *School) SaveSettings(ctx context.Context, settings Settings) error {
	return s.db.WithContext(ctx).Model(&school{}).Where("id = ?", s.id).Select("settings").Updates(&school{Settings: settings}).Error
}

// InTransaction runs f with a School whose changes are made all or not at all.
func (s *School) InTransaction(ctx context.Context, f func(*School) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		inside := *s
		inside.db = tx.Session(&gorm.Session{})
		return f(&inside)
	})
}

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
