package web_test

import (
	"context"
	"strings"
	"sync"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// counter keeps the statements that are made, in order.
type counter struct {
	mutex sync.Mutex
	made  []string
}

// TraceQueryStart is of pgx.QueryTracer.
func (c *counter) TraceQueryStart(ctx context.Context, _ *pgx.Conn, q pgx.TraceQueryStartData) context.Context {
	c.mutex.Lock()
	defer c.mutex.Unlock()
	c.made = append(c.made, q.SQL)
	return ctx
}

// TraceQueryEnd is of pgx.QueryTracer.
func (c *counter) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

// A page that was drawn asks the database only who looks and whether it is still true;
// when something has changed it is drawn anew, and asks little then.
func TestQueriesOfAWarmPage(t *testing.T) {
	c := &counter{}
	s := serveWatched(t, c)
	made := func(page string) int {
		c.made = nil
		s.page("GET", page, nil, 200)
		return len(c.made)
	}
	for page, most := range map[string]int{"/": 8, "/lessons/1": 10} {
		made(page)
		assert.LessOrEqual(t, made(page), 4, "%s: %s", page, strings.Join(c.made, "\n"))
		settings, err := s.school.Settings(t.Context())
		require.NoError(t, err)
		require.NoError(t, s.school.SaveSettings(t.Context(), settings))
		assert.LessOrEqual(t, made(page), most, "%s: %s", page, strings.Join(c.made, "\n"))
		assert.NotRegexp(t, `"(?:presses|audit|outbox|links|ticks|events|pictures|tries)"`, strings.Join(c.made, "\n"), "%s shows what may change without its being drawn anew", page)
	}
}

// A page that is kept is the same to whoever can't unpack it, and differs by who looks.
func TestAKeptPage(t *testing.T) {
	s := serve(t)
	packed := s.page("GET", "/lessons/1", nil, 200)
	resp := s.do("GET", "/lessons/1", nil, "Accept-Encoding", "identity")
	assert.Empty(t, resp.Header.Get("Content-Encoding"))
	plain, err := goquery.NewDocumentFromReader(resp.Body)
	require.NoError(t, err)
	assert.Equal(t, text(packed, "body"), text(plain, "body"))
	assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"))
	s.as("Tomas Finney")
	assert.NotEqual(t, text(packed, "header"), text(s.page("GET", "/lessons/1", nil, 200), "header"))
}
