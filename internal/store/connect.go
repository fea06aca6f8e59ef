package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"gorm.io/gorm"
)

// speaking is the key under which a context says for which school its
// statements speak.
type speaking struct{}

// atTheDoor is the school of those who have not signed in yet: they see
// schools and accounts, and nothing else.
const atTheDoor int64 = 0

// How many connections are open at once. Changes have their own, so that those
// who wait for a row that somebody else holds leave the readers theirs.
const (
	reading  = 12
	changing = 8
)

// Nothing waits for ever: after so long the database gives up a statement, a
// wait for a lock, and a transaction in which nothing happens; the program
// gives up connecting, where the address of the database gives it no other
// connect_timeout, and waiting for a connection to make changes on.
const (
	longestStatement = 10 * time.Second
	longestLock      = 2 * time.Second
	longestIdle      = 30 * time.Second
	longestConnect   = 5 * time.Second
	longestTurn      = 2500 * time.Millisecond
)

// ErrBusy says that the database, or somebody else who changes the same, took
// too long. Nothing was changed.
var ErrBusy = errors.New("busy for too long")

// pool opens connections of which each, whenever it is taken, speaks for the
// school of whoever takes it. PostgreSQL then shows it that school's rows
// only, whatever it is asked; a connection that speaks for nobody sees none.
func pool(url string, connections int32, watch pgx.QueryTracer) (*pgxpool.Pool, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, err
	}
	config.MaxConns = connections
	config.ConnConfig.ConnectTimeout = cmp.Or(config.ConnConfig.ConnectTimeout, longestConnect)
	for name, most := range map[string]time.Duration{
		"statement_timeout": longestStatement, "lock_timeout": longestLock, "idle_in_transaction_session_timeout": longestIdle,
	} {
		config.ConnConfig.RuntimeParams[name] = strconv.FormatInt(most.Milliseconds(), 10)
	}
	config.ConnConfig.Tracer = watch
	config.AfterConnect = lower
	config.PrepareConn = func(ctx context.Context, c *pgx.Conn) (bool, error) {
		school := ""
		if id, ok := ctx.Value(speaking{}).(int64); ok {
			school = strconv.FormatInt(id, 10)
		}
		const key = "school"
		if c.PgConn().CustomData()[key] == school {
			return true, nil
		}
		if _, err := c.Exec(ctx, "SELECT set_config('freshapron.school', $1, false)", school); err != nil {
			return false, err
		}
		c.PgConn().CustomData()[key] = school
		return true, nil
	}
	return pgxpool.NewWithConfig(context.Background(), config)
}

// role is what the application is in the database where it was let in as
// somebody whom row-level security does not hold.
const role = "freshapron_app"

// lower gives up the rights of a superuser, whom row-level security would not
// hold. It refuses the connection where that can't be done.
func lower(ctx context.Context, c *pgx.Conn) error {
	above, err := isAbove(func(q string) row { return c.QueryRow(ctx, q) })
	if err != nil || !above {
		return err
	}
	_, err = c.Exec(ctx, "SET ROLE "+role)
	return err
}

type row interface{ Scan(...any) error }

// isAbove reports whether row-level security does not hold the user.
func isAbove(query func(string) row) (above bool, err error) {
	err = query("SELECT rolsuper OR rolbypassrls FROM pg_roles WHERE rolname = current_user").Scan(&above)
	return above, err
}

// pinned is the database as one school speaks to it. Statements are short and
// run to their end even when whoever asked has gone: giving one up in the
// middle leaves a failed read on the connection, which whoever takes it next
// would get.
type pinned struct {
	*sql.DB         // to read
	changes *sql.DB // to begin transactions on
	school  int64
}

func (p pinned) in(ctx context.Context) context.Context {
	return context.WithValue(context.WithoutCancel(ctx), speaking{}, p.school)
}

// PrepareContext and the others say for whom they speak.
func (p pinned) PrepareContext(ctx context.Context, query string) (*sql.Stmt, error) {
	return p.DB.PrepareContext(p.in(ctx), query)
}

// ExecContext is of gorm.ConnPool.
func (p pinned) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	return p.DB.ExecContext(p.in(ctx), query, args...)
}

// QueryContext is of gorm.ConnPool.
func (p pinned) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	return p.DB.QueryContext(p.in(ctx), query, args...)
}

// QueryRowContext is of gorm.ConnPool.
func (p pinned) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	return p.DB.QueryRowContext(p.in(ctx), query, args...)
}

// BeginTx is of gorm.ConnPoolBeginner. It waits for its turn as long as whoever
// asked does, and no longer than is sensible.
func (p pinned) BeginTx(ctx context.Context, o *sql.TxOptions) (gorm.ConnPool, error) {
	turn, cancel := context.WithTimeout(context.WithValue(ctx, speaking{}, p.school), longestTurn)
	defer cancel()
	conn, err := p.changes.Conn(turn)
	if err != nil {
		if ctx.Err() == nil && turn.Err() != nil {
			err = ErrBusy
		}
		return nil, err
	}
	tx, err := conn.BeginTx(p.in(ctx), o)
	if err != nil {
		return nil, errors.Join(err, conn.Close())
	}
	return &pinnedTx{tx, conn}, nil
}

// pinnedTx is a transaction of a school, on a connection of its own.
type pinnedTx struct {
	*sql.Tx
	conn *sql.Conn
}

// Commit is of gorm.TxCommitter.
func (t *pinnedTx) Commit() error { return errors.Join(t.Tx.Commit(), t.conn.Close()) }

// Rollback is of gorm.TxCommitter.
func (t *pinnedTx) Rollback() error { return errors.Join(t.Tx.Rollback(), t.conn.Close()) }

// PrepareContext and the others run to their end.
func (t *pinnedTx) PrepareContext(ctx context.Context, query string) (*sql.Stmt, error) {
	return t.Tx.PrepareContext(context.WithoutCancel(ctx), query)
}

// ExecContext is of gorm.ConnPool.
func (t *pinnedTx) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	return t.Tx.ExecContext(context.WithoutCancel(ctx), query, args...)
}

// QueryContext is of gorm.ConnPool.
func (t *pinnedTx) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	return t.Tx.QueryContext(context.WithoutCancel(ctx), query, args...)
}

// QueryRowContext is of gorm.ConnPool.
func (t *pinnedTx) QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row {
	return t.Tx.QueryRowContext(context.WithoutCancel(ctx), query, args...)
}

// Migrate brings the schema up to date. Copies that start at once wait for
// each other.
func (s *Store) Migrate(ctx context.Context) error {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	config, err := pgx.ParseConfig(s.url)
	if err != nil {
		return err
	}
	db := stdlib.OpenDB(*config)
	defer db.Close()
	conn, err := db.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	const lock = 7_310_021 // any number that nothing else in the database uses
	if _, err := conn.ExecContext(ctx, "SELECT pg_advisory_lock($1)", lock); err != nil {
		return err
	}
	defer conn.ExecContext(context.WithoutCancel(ctx), "SELECT pg_advisory_unlock($1)", lock) //nolint:errcheck // the connection's end unlocks too
	p, err := goose.NewProvider(goose.DialectPostgres, db, sub)
	if err != nil {
		return err
	}
	if _, err = p.Up(ctx); err != nil {
		return err
	}
	above, err := isAbove(func(q string) row { return conn.QueryRowContext(ctx, q) })
	if err != nil || !above {
		return err
	}
	if err := grant(ctx, conn); err != nil {
		return fmt.Errorf("role %s: %w", role, err)
	}
	return nil
}

// grant makes the role that row-level security holds, and lets it in. Roles
// belong to the whole server, so another database may make it meanwhile.
func grant(ctx context.Context, conn *sql.Conn) error {
	const server = 7_310_022
	for _, statement := range []string{
		fmt.Sprintf("SELECT pg_advisory_xact_lock(%d)", server),
		`DO $$ BEGIN
			IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = '` + role + `') THEN
				CREATE ROLE ` + role + ` NOLOGIN NOBYPASSRLS;
			END IF;
		EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL;
		END $$`,
		"GRANT USAGE ON SCHEMA public TO " + role,
		"GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO " + role,
		"GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA public TO " + role,
	} {
		if _, err := conn.ExecContext(ctx, statement); err != nil {
			return err
		}
	}
	return nil
}

// Close ends the connections. It waits for those that are in use.
func (s *Store) Close() error {
	var err error
	for _, p := range []*opened{s.reads, s.changes} {
		if p != nil {
			err = errors.Join(err, p.sql.Close())
			p.pool.Close()
		}
	}
	return err
}

// opened is a pool and the database on it.
type opened struct {
	pool *pgxpool.Pool
	sql  *sql.DB
}

func connect(url string, connections int32, watch pgx.QueryTracer) (*opened, error) {
	pool, err := pool(url, connections, watch)
	if err != nil {
		return nil, err
	}
	return &opened{pool, stdlib.OpenDBFromPool(pool)}, nil
}

// Ping asks the database for an answer.
func (s *Store) Ping(ctx context.Context) error { return s.reads.sql.PingContext(ctx) }
