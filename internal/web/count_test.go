package web_test

import (
	"context"
	"strings"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
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

// A page that was seen before asks the database little.
func TestQueriesOfAWarmPage(t *testing.T) {
	c := &counter{}
	s := serveWatched(t, c)
	for page, most := range map[string]int{"/": 8, "/lessons/1": 10} {
		s.page("GET", page, nil, 200)
		s.page("GET", page, nil, 200)
		c.made = nil
		s.page("GET", page, nil, 200)
		assert.LessOrEqual(t, len(c.made), most, "%s: %s", page, strings.Join(c.made, "\n"))
	}
}
