package store

import (
	"errors"
	"fmt"
	"slices"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/problem"
)

// tenantKey is the setting of a session that names its school.
const tenantKey = "freshapron:school"

// doorKey marks a session that speaks for nobody yet: it may look for
// accounts, links and sessions, and for what codes without an account open, in every school.
const doorKey = "freshapron:door"

// errNoSchool is a fault of the program: rows that belong to a school were
// asked for without saying which.
var errNoSchool = errors.New("no school given")

// tenancy is the one place that keeps schools apart. It holds every read,
// change and removal of rows with a school_id to the school of the session,
// and writes that school into every new row.
type tenancy struct{}

// Name of the plugin.
func (tenancy) Name() string { return "freshapron:tenancy" }

// Initialize hooks the plugin in before each kind of statement.
func (tenancy) Initialize(db *gorm.DB) error {
	return errors.Join(
		db.Callback().Query().Before("gorm:query").Register("tenancy:query", restrict),
		db.Callback().Update().Before("gorm:update").Register("tenancy:update", restrict),
		db.Callback().Delete().Before("gorm:delete").Register("tenancy:delete", restrict),
		db.Callback().Row().Before("gorm:row").Register("tenancy:row", restrict),
		db.Callback().Create().Before("gorm:create").Register("tenancy:create", stamp),
		db.Callback().Query().After("gorm:query").Register("text:query", noText),
		db.Callback().Update().After("gorm:update").Register("text:update", noText),
		db.Callback().Delete().After("gorm:delete").Register("text:delete", noText),
		db.Callback().Row().After("gorm:row").Register("text:row", noText),
		db.Callback().Create().After("gorm:create").Register("text:create", noText),
	)
}

// noText says in words that somebody has sent what is no text: that is their mistake,
// and not the database's.
func noText(db *gorm.DB) {
	var fault *pgconn.PgError
	if errors.As(db.Error, &fault) && (fault.Code == notInRepertoire || fault.Code == untranslatable) {
		db.Error = fmt.Errorf("%w (%w)", problem.New("text", "There is a character in it that is no text, so nothing of it was saved. Go back and write it without that"), db.Error)
	}
}

func restrict(db *gorm.DB) {
	if db.Statement.Schema == nil || db.Statement.Schema.LookUpField("school_id") == nil {
		return
	}
	id, ok := db.Get(tenantKey)
	if !ok {
		if !open(db) {
			_ = db.AddError(fmt.Errorf("%s: %w", db.Statement.Table, errNoSchool))
		}
		return
	}
	db.Statement.AddClause(clause.Where{Exprs: []clause.Expression{
		clause.Eq{Column: clause.Column{Table: clause.CurrentTable, Name: "school_id"}, Value: id},
	}})
}

func stamp(db *gorm.DB) {
	if db.Statement.Schema == nil || db.Statement.Schema.LookUpField("school_id") == nil {
		return
	}
	id, ok := db.Get(tenantKey)
	if !ok {
		if !open(db) {
			_ = db.AddError(fmt.Errorf("%s: %w", db.Statement.Table, errNoSchool))
		}
		return
	}
	db.Statement.SetColumn("school_id", id, true)
}

// open reports whether a statement may be made at the door, across schools.
func open(db *gorm.DB) bool {
	_, door := db.Get(doorKey)
	return door && slices.Contains([]string{"accounts", "links", "sessions", "screens", "practices", "practisers", "tasks", "entrants"}, db.Statement.Table)
}
