package main

import (
	"bufio"
	"context"
	"database/sql"
	"fmt"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/care"
	"freshapron/internal/app/school"
	"freshapron/internal/demo"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// asServer makes the test binary a server: it is killed, and nothing of the test with it.
const asServer = "FRESH_APRON_TEST_SERVES"

func TestMain(m *testing.M) {
	if os.Getenv(asServer) != "" {
		if err := serve(context.Background()); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	os.Exit(m.Run())
}

// started is a server in a process of its own, on a free port.
func started(t *testing.T, database string) (*exec.Cmd, string) {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := l.Addr().String()
	require.NoError(t, l.Close())
	c := exec.Command(os.Args[0])
	if built := os.Getenv("FRESH_APRON_TEST_BINARY"); built != "" { // without the race detector it begins sooner
		c = exec.Command(built, "serve")
	}
	c.Env = append(os.Environ(), asServer+"=1", "DATABASE_URL="+database, "FRESH_APRON_ADDR="+at, "FRESH_APRON_LOG=error", "FRESH_APRON_NOW="+demotest.Nine.Format(time.RFC3339))
	out, err := c.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, c.Start())
	said := make(chan bool, 1)
	go func() { said <- bufio.NewScanner(out).Scan() }()
	select {
	case ok := <-said:
		require.True(t, ok, "the server did not begin")
	case <-time.After(20 * time.Second):
		_ = c.Process.Kill()
		require.FailNow(t, "the server did not begin in time")
	}
	return c, "http://" + at
}

// In twenty lives of a server, each of which ends with a kill or with all its connections
// to the database cut while temperatures are written down, none that was acknowledged is
// lost, and none that is sent again after a lost answer is written twice.
func TestKilledAgainAndAgain(t *testing.T) {
	_, _, database := demotest.Open(t, nil)
	db, err := sql.Open("pgx", database)
	require.NoError(t, err)
	defer db.Close()
	const lives, writers = 20, 4
	var mutex sync.Mutex
	acknowledged, sent := map[string]bool{}, 0
	for life := range lives {
		server, at := started(t, database)
		stop, first := make(chan struct{}), make(chan struct{}, writers)
		var wait sync.WaitGroup
		for w := range writers {
			jar, err := cookiejar.New(nil)
			require.NoError(t, err)
			client := &http.Client{Jar: jar, Timeout: 5 * time.Second, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
			post := func(path string, form url.Values) bool {
				resp, err := client.PostForm(at+path, form)
				if err != nil {
					return false
				}
				_ = resp.Body.Close()
				return resp.StatusCode == http.StatusSeeOther
			}
			wait.Go(func() {
				if !post("/signin/demonstration", url.Values{"account": {"1"}}) {
					return
				}
				for n := 0; ; n++ {
					select {
					case <-stop:
						return
					default:
					}
					bench := fmt.Sprintf("life %d writer %d reading %d", life, w, n)
					form := url.Values{"press": {uuid.NewString()}, "bench": {bench}, "kind": {"hot"}, "celsius": {"70"}}
					ok := post("/lessons/1/probe", form)
					if !ok {
						ok = post("/lessons/1/probe", form) // as a browser that sends it again
					}
					if ok {
						select {
						case first <- struct{}{}:
						default:
						}
					}
					mutex.Lock()
					sent++
					acknowledged[bench] = acknowledged[bench] || ok
					mutex.Unlock()
				}
			})
		}
		select { // on a slow machine a life is longer; it always ends while presses are under way
		case <-first:
		case <-time.After(20 * time.Second):
			assert.Fail(t, "nothing was acknowledged", "life %d", life)
		}
		time.Sleep(time.Duration(life) * 7 * time.Millisecond)
		if life%3 == 2 {
			_, err := db.Exec("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()")
			require.NoError(t, err)
			time.Sleep(100 * time.Millisecond)
		}
		require.NoError(t, server.Process.Kill())
		_ = server.Wait()
		close(stop)
		wait.Wait()
	}
	s, err := store.Open(database)
	require.NoError(t, err)
	defer s.Close()
	in, err := s.SchoolByName(context.Background(), demo.School)
	require.NoError(t, err)
	site := school.NewSite(s, time.Now)
	list, err := care.Readings(school.As(context.Background(), site.For(in), store.Account{}), 1)
	require.NoError(t, err)
	written := map[string]int{}
	for _, r := range list {
		if strings.HasPrefix(r.Bench, "life ") {
			written[r.Bench]++
		}
	}
	yes := 0
	for bench, ok := range acknowledged {
		if ok {
			yes++
			assert.Equal(t, 1, written[bench], bench)
		}
		assert.LessOrEqual(t, written[bench], 1, "%s was written twice", bench)
	}
	t.Logf("%d sent, %d acknowledged, %d written", sent, yes, len(written))
	assert.GreaterOrEqual(t, yes, lives)
}
