package store

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
)

// The format of a backup: compressed by gzip, a line of JSON that heads it; then for each
// school and table a line of JSON with its columns, its rows as PostgreSQL writes them as
// text, and a line with \. ; at last a line that says how many rows there were.
const (
	backupFormat  = "fresh-apron/backup"
	backupVersion = 1
	endOfRows     = `\.`
)

type backupHead struct {
	Format  string   `json:"format"`
	Version int      `json:"version"`
	Schema  int64    `json:"schema"` // the migration of the database
	Schools []string `json:"schools"`
}

type backupPart struct {
	Table   string   `json:"table,omitempty"`
	School  int64    `json:"school,omitempty"`
	Columns []string `json:"columns,omitempty"`
	End     bool     `json:"end,omitempty"`
	Rows    int64    `json:"rows,omitempty"`
}

// notKept are tables that a backup leaves out: who is signed in, what was tried to
// sign in, and what the database counts by itself.
var notKept = []string{"goose_db_version", "sessions", "attempts", "presses", "stands"}

// A kept table of the schema.
type kept struct {
	name    string
	columns []string // that are written; those that the database works out are not
	key     []string // primary
}

// tablesOf returns the tables that a backup keeps, each after those that it refers to.
func tablesOf(ctx context.Context, c *pgx.Conn) ([]kept, error) {
	rows, err := c.Query(ctx, `SELECT c.relname,
			(SELECT array_agg(a.attname::text ORDER BY a.attnum) FROM pg_attribute a WHERE a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped AND a.attgenerated = ''),
			(SELECT array_agg(a.attname::text ORDER BY array_position(i.indkey::int[], a.attnum::int)) FROM pg_index i JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = ANY (i.indkey) WHERE i.indrelid = c.oid AND i.indisprimary),
			COALESCE((SELECT array_agg(DISTINCT r.relname::text) FROM pg_constraint f JOIN pg_class r ON r.oid = f.confrelid WHERE f.conrelid = c.oid AND f.contype = 'f' AND r.oid <> c.oid), '{}')
		FROM pg_class c WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace ORDER BY c.relname`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	needs := map[string][]string{}
	all := map[string]kept{}
	var names []string
	for rows.Next() {
		var t kept
		var on []string
		if err := rows.Scan(&t.name, &t.columns, &t.key, &on); err != nil {
			return nil, err
		}
		if !slices.Contains(notKept, t.name) {
			names, all[t.name], needs[t.name] = append(names, t.name), t, on
		}
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	var out []kept
	for _, n := range byNeed(names, needs) {
		out = append(out, all[n])
	}
	return out, nil
}

func quoted(names []string) string {
	out := make([]string, len(names))
	for i, n := range names {
		out[i] = pgx.Identifier{n}.Sanitize()
	}
	return strings.Join(out, ", ")
}

// speak makes a connection speak for a school, as far as its transaction goes.
func speak(ctx context.Context, c *pgx.Conn, school int64) error {
	_, err := c.Exec(ctx, "SELECT set_config('freshapron.school', $1, true)", fmt.Sprint(school))
	return err
}

// Backup writes all schools, or the one of a name, as they are at one moment. Whoever is
// let in to the database need not be its superuser. It returns ErrNotFound where there is
// no such school.
func (s *Store) Backup(ctx context.Context, to io.Writer, school string) error {
	c, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return err
	}
	defer c.Close(context.WithoutCancel(ctx)) //nolint:errcheck // nothing is left to be said
	tx, err := c.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return err
	}
	defer tx.Rollback(context.WithoutCancel(ctx)) //nolint:errcheck // nothing is changed
	if err := speak(ctx, c, atTheDoor); err != nil {
		return err
	}
	head := backupHead{Format: backupFormat, Version: backupVersion}
	if err := c.QueryRow(ctx, "SELECT max(version_id) FROM goose_db_version WHERE is_applied").Scan(&head.Schema); err != nil {
		return err
	}
	rows, err := c.Query(ctx, "SELECT id, name FROM schools WHERE $1 = '' OR name = $1 ORDER BY id", school)
	if err != nil {
		return err
	}
	type one struct {
		ID   int64
		Name string
	}
	schools, err := pgx.CollectRows(rows, pgx.RowToStructByPos[one])
	if err != nil {
		return err
	}
	if len(schools) == 0 && school != "" {
		return ErrNotFound
	}
	for _, x := range schools {
		head.Schools = append(head.Schools, x.Name)
	}
	tables, err := tablesOf(ctx, c)
	if err != nil {
		return err
	}
	z := gzip.NewWriter(to)
	w := bufio.NewWriter(z)
	lines := json.NewEncoder(w)
	if err := lines.Encode(head); err != nil {
		return err
	}
	total := int64(0)
	for _, x := range schools {
		if err := speak(ctx, c, x.ID); err != nil {
			return err
		}
		for _, t := range tables {
			of := "school_id"
			if t.name == "schools" {
				of = "id"
			}
			if err := lines.Encode(backupPart{Table: t.name, School: x.ID, Columns: t.columns}); err != nil {
				return err
			}
			tag, err := c.PgConn().CopyTo(ctx, w, fmt.Sprintf("COPY (SELECT %s FROM %s WHERE %s = %d ORDER BY %s) TO STDOUT", quoted(t.columns), quoted([]string{t.name}), of, x.ID, quoted(t.key)))
			if err != nil {
				return fmt.Errorf("%s: %w", t.name, err)
			}
			total += tag.RowsAffected()
			fmt.Fprintln(w, endOfRows)
		}
	}
	if err := lines.Encode(backupPart{End: true, Rows: total}); err != nil {
		return err
	}
	return errors.Join(w.Flush(), z.Close())
}

// Errors of restoring.
var (
	// ErrNotEmpty says that there is something in the database already.
	ErrNotEmpty = errors.New("there is something in the database already: a backup is restored into an empty one")
	// ErrNoBackup says that a file is no backup, or breaks off.
	ErrNoBackup = errors.New("the file is no backup of Fresh Apron, or it breaks off")
	// ErrLater says that a backup is of a later release.
	ErrLater = errors.New("the backup was made by a later release: restore it with that one")
)

// Restore puts a backup into an empty database, all of it or nothing, and brings its
// schema up to date. The roles that are needed are made.
func (s *Store) Restore(ctx context.Context, from io.Reader) error {
	z, err := gzip.NewReader(from)
	if err != nil {
		return ErrNoBackup
	}
	r := bufio.NewReaderSize(z, 1<<16)
	var head backupHead
	if line, err := r.ReadBytes('\n'); err != nil || json.Unmarshal(line, &head) != nil || head.Format != backupFormat || head.Version != backupVersion {
		return ErrNoBackup
	}
	if err := s.laid(ctx, head.Schema); err != nil {
		return err
	}
	c, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return err
	}
	defer c.Close(context.WithoutCancel(ctx)) //nolint:errcheck // nothing is left to be said
	tx, err := c.Begin(ctx)
	if err != nil {
		return err
	}
	defer tx.Rollback(context.WithoutCancel(ctx)) //nolint:errcheck // nothing where it was committed
	if err := load(ctx, c, r); err != nil {
		return err
	}
	if err := tx.Commit(ctx); err != nil {
		return err
	}
	return s.Migrate(ctx)
}

// laid brings an empty database to the schema of a backup.
func (s *Store) laid(ctx context.Context, schema int64) error {
	config, err := pgx.ParseConfig(s.url)
	if err != nil {
		return err
	}
	db := stdlib.OpenDB(*config)
	defer db.Close()
	if err := empty(ctx, db); err != nil {
		return err
	}
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, sub)
	if err != nil {
		return err
	}
	known := p.ListSources()
	if known[len(known)-1].Version < schema {
		return ErrLater
	}
	now, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	if now > schema {
		_, err = p.DownTo(ctx, schema) // it is empty
		return err
	}
	_, err = p.UpTo(ctx, schema)
	return err
}

// empty reports whether a database has no tables, or those of this program without a
// school in them.
func empty(ctx context.Context, db *sql.DB) error {
	var tables, own int
	if err := db.QueryRowContext(ctx, "SELECT count(*), count(*) FILTER (WHERE tablename IN ('schools', 'goose_db_version')) FROM pg_tables WHERE schemaname = 'public'").Scan(&tables, &own); err != nil {
		return err
	}
	if tables == 0 {
		return nil
	}
	if own < 2 {
		return ErrNotEmpty
	}
	conn, err := db.Conn(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "SELECT set_config('freshapron.school', '0', false)"); err != nil {
		return err
	}
	var some bool
	if err := conn.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM schools)").Scan(&some); err != nil {
		return err
	}
	if some {
		return ErrNotEmpty
	}
	return nil
}

// load puts the parts of a backup into their tables, and lets what comes after be
// numbered on.
func load(ctx context.Context, c *pgx.Conn, r *bufio.Reader) error {
	tables, err := tablesOf(ctx, c)
	if err != nil {
		return err
	}
	// Rows are put in faster, and by an owner whom row-level security holds at all, while
	// it does not hold the owner; nobody else sees the tables before all is there.
	force := func(how string) error {
		for _, t := range append(tables, kept{name: "stands"}) {
			if _, err := c.Exec(ctx, fmt.Sprintf("ALTER TABLE %s %s ROW LEVEL SECURITY", quoted([]string{t.name}), how)); err != nil {
				return err
			}
		}
		return nil
	}
	if err := force("NO FORCE"); err != nil {
		return err
	}
	total := int64(0)
	for {
		line, err := r.ReadBytes('\n')
		if err != nil {
			return ErrNoBackup
		}
		var part backupPart
		if json.Unmarshal(line, &part) != nil {
			return ErrNoBackup
		}
		if part.End {
			if part.Rows != total {
				return ErrNoBackup
			}
			break
		}
		at := slices.IndexFunc(tables, func(t kept) bool { return t.name == part.Table })
		if at < 0 || slices.ContainsFunc(part.Columns, func(col string) bool { return !slices.Contains(tables[at].columns, col) }) {
			return ErrNoBackup
		}
		tag, err := c.PgConn().CopyFrom(ctx, &rowsOf{from: r}, fmt.Sprintf("COPY %s (%s) FROM STDIN", quoted([]string{part.Table}), quoted(part.Columns)))
		if err != nil {
			return fmt.Errorf("%s: %w", part.Table, err)
		}
		total += tag.RowsAffected()
	}
	for _, t := range tables {
		if !slices.Contains(t.columns, "id") {
			continue
		}
		var numbers *string
		if err := c.QueryRow(ctx, "SELECT pg_get_serial_sequence($1, 'id')", t.name).Scan(&numbers); err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
		if numbers == nil {
			continue // its ids are no numbers
		}
		if _, err := c.Exec(ctx, fmt.Sprintf("SELECT setval('%s', max(id)) FROM %s HAVING max(id) IS NOT NULL", *numbers, quoted([]string{t.name}))); err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
	}
	// What is due at the end of the transaction is done now: a table can't be closed before.
	if _, err := c.Exec(ctx, "SET CONSTRAINTS ALL IMMEDIATE"); err != nil {
		return err
	}
	return force("FORCE")
}

// rowsOf reads the rows of a part, up to the line that ends them.
type rowsOf struct {
	from *bufio.Reader
	rest []byte
	over bool
}

// Read is of io.Reader.
func (x *rowsOf) Read(p []byte) (int, error) {
	if len(x.rest) == 0 && !x.over {
		line, err := x.from.ReadBytes('\n')
		if err != nil {
			return 0, ErrNoBackup
		}
		if x.over = bytes.Equal(bytes.TrimRight(line, "\n"), []byte(endOfRows)); !x.over {
			x.rest = line
		}
	}
	if x.over {
		return 0, io.EOF
	}
	n := copy(p, x.rest)
	x.rest = x.rest[n:]
	return n, nil
}
