package web_test

import (
	"context"
	"database/sql"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/demo"
	"freshapron/internal/store"
)

// watcher keeps one example of every statement that is made.
type watcher struct {
	mutex sync.Mutex
	seen  map[string][]any
}

// TraceQueryStart is of pgx.QueryTracer.
func (w *watcher) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	w.mutex.Lock()
	defer w.mutex.Unlock()
	if _, ok := w.seen[q.SQL]; !ok {
		w.seen[q.SQL] = q.Args
	}
	return ctx
}

// TraceQueryEnd is of pgx.QueryTracer.
func (w *watcher) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

var (
	scans = regexp.MustCompile(`Seq Scan on (\w+)`)
	// sought finds the columns that a statement compares with what it is given.
	sought = regexp.MustCompile(`(\w+)"?\)? (?:=|IN|BETWEEN|>=|<=|<|>) (?:lower)?\(?\$\d`)
	used   = regexp.MustCompile(`Index Cond: .*`)
)

// readWhole are tables that are read whole on purpose: the schools, of which there are few, when
// somebody who has not signed in asks for the demonstration's accounts.
var readWhole = []string{"schools", "accounts"}

// ofASchool are columns by which rows are looked up among the few that a school
// has, or that only narrow down what another column has found.
var ofASchool = []string{"school_id", "version", "status"}

// No statement that the pages make needs an index that is not there: with
// reading whole tables made as dear as can be and every table as long as can
// be, PostgreSQL finds an index for each, and one with a column that is sought.
func TestEveryQueryHasItsIndex(t *testing.T) {
	w := &watcher{seen: map[string][]any{}}
	s := serveWatched(t, w)
	ctx := context.Background()
	require.NoError(t, demo.Make(ctx, s.App.Store, nine.Truncate(24*time.Hour), demo.Many{Schools: 3, Learners: 60, Lessons: 40}, func(int) {}))
	require.NoError(t, s.school.Book(ctx, store.Booking{Lesson: 1, At: nine}, nil, nil))
	w.seen = map[string][]any{}
	s.crawl(2, func(string, *http.Response, *goquery.Document) {})
	for path, form := range map[string]url.Values{
		"/lessons/1/who": {"version": {s.version("/lessons/1/who")}}, "/rooms/1/out": {"unit": {"oven-1"}}, "/rooms/1/sharps": {"way": {"in"}, "counted": {"60"}},
		"/lessons/1/probe": {"bench": {"x"}, "kind": {"hot"}, "celsius": {"70"}}, "/classes/1/learners/new": {"given": {"Iris"}}, "/people": {"name": {"Kit"}, "email": {"kit@quillhaven.example"}, "role": {"assistant"}},
		"/times/slots/remove": {"slot": {"1"}}, "/signin": {"email": {"x@y.example"}, "password": {"x"}}, "/signin/forgotten": {"email": {"maren.holt@quillhaven.example"}},
		"/lessons/1/undo": {"version": {"1"}}, "/lessons/1/food/all": {"version": {s.version("/lessons/1/food")}},
	} {
		require.Less(t, s.do("POST", path, form).StatusCode, 500, path)
	}
	db, err := sql.Open("pgx", s.url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	// A few rows say nothing of how many of them a value has.
	_, err = db.Exec("ANALYZE")
	require.NoError(t, err)
	_, err = db.Exec("DELETE FROM pg_statistic WHERE starelid IN (SELECT oid FROM pg_class WHERE relnamespace = 'public'::regnamespace)")
	require.NoError(t, err)
	conn, err := db.Conn(ctx)
	require.NoError(t, err)
	t.Cleanup(func() { _ = conn.Close() })
	_, err = conn.ExecContext(ctx, "SET enable_seqscan = off")
	require.NoError(t, err)
	_, err = conn.ExecContext(ctx, "UPDATE pg_class SET reltuples = 1e6, relpages = 1 WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace")
	require.NoError(t, err)
	looked := 0
	for query, args := range w.seen {
		verb, _, _ := strings.Cut(strings.TrimSpace(query), " ")
		if verb != "SELECT" && verb != "UPDATE" && verb != "DELETE" || strings.Contains(query, "set_config") {
			continue
		}
		rows, err := conn.QueryContext(ctx, "EXPLAIN "+query, args...)
		require.NoError(t, err, query)
		var plan strings.Builder
		for rows.Next() {
			var line string
			require.NoError(t, rows.Scan(&line))
			plan.WriteString(line + "\n")
		}
		require.NoError(t, rows.Err())
		looked++
		if column := soughtBy(query); column != "" {
			conditions := strings.Join(used.FindAllString(plan.String(), -1), " ")
			assert.Regexp(t, `\b`+column+`\b`, conditions, "no index finds it: %s\n%s", query, plan.String())
		}
		for _, m := range scans.FindAllStringSubmatch(plan.String(), -1) {
			assert.Contains(t, readWhole, m[1], "no index for %s\n%s", query, plan.String())
		}
	}
	assert.Greater(t, looked, 40)
}

// soughtBy returns the first column by which a statement looks rows up; empty
// where it reads all that a school has.
func soughtBy(query string) string {
	_, where, _ := strings.Cut(query, " WHERE ")
	for _, m := range sought.FindAllStringSubmatch(where, -1) {
		if !slices.Contains(ofASchool, m[1]) {
			return m[1]
		}
	}
	return ""
}
