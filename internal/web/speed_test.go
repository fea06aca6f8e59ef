package web_test

import (
	"html/template"
	"net/http"
	"net/http/httptest"
	"slices"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"freshapron/internal/store"
)

// users are how many ask at the same time.
const users = 20

// bare is a page of one question to the database and a small template.
func (s *site) bare() http.Handler {
	small := template.Must(template.New("").Parse("<!doctype html><title>{{.Name}}</title><h1>{{.Name}}</h1>"))
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		a, err := s.App.Store.Account(r.Context(), 1)
		if err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		_ = small.Execute(w, a)
	})
}

// BenchmarkPages compares the pages that are looked at most with a bare handler: the
// slowest of twenty answers in a hundred when twenty users ask without a pause, and the
// processor time of one answer, the database's apart. In "changing" something of the
// school changes a hundred times a second.
func BenchmarkPages(b *testing.B) {
	s := serve(b)
	for _, c := range []struct {
		name, path string
		of         http.Handler
		changing   bool
	}{{"bare", "/", s.bare(), false}, {"lesson", "/lessons/1", s.Config.Handler, false}, {"today", "/", s.Config.Handler, false}, {"lesson changing", "/lessons/1", s.Config.Handler, true}} {
		b.Run(c.name, func(b *testing.B) {
			ask := func() int {
				r := httptest.NewRequest("GET", c.path, nil)
				r.Header.Set("Cookie", s.cookie)
				r.Header.Set("Accept-Encoding", "gzip")
				w := httptest.NewRecorder()
				c.of.ServeHTTP(w, r)
				return w.Code
			}
			require.Equal(b, 200, ask())
			stop := make(chan struct{})
			var changes sync.WaitGroup
			if c.changing {
				changes.Go(func() {
					for tick := time.NewTicker(10 * time.Millisecond); ; {
						select {
						case <-stop:
							return
						case <-tick.C:
							_ = s.school.InTransaction(b.Context(), func(in *store.School) error {
								settings, err := in.Settings(b.Context())
								if err != nil {
									return err
								}
								return in.SaveSettings(b.Context(), settings)
							})
						}
					}
				})
			}
			before := processor()
			var mutex sync.Mutex
			var took []time.Duration
			b.SetParallelism((users + 1) / 2)
			b.ResetTimer()
			b.RunParallel(func(pb *testing.PB) {
				var mine []time.Duration
				for pb.Next() {
					began := time.Now()
					if ask() != 200 {
						b.Error("no page")
					}
					mine = append(mine, time.Since(began))
				}
				mutex.Lock()
				took = append(took, mine...)
				mutex.Unlock()
			})
			b.StopTimer()
			close(stop)
			changes.Wait()
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
			b.ReportMetric(float64((processor()-before).Microseconds())/1000/float64(len(took)), "cpu-ms/page")
		})
	}
}

// processor is the time that this process has used.
func processor() time.Duration {
	var u syscall.Rusage
	_ = syscall.Getrusage(syscall.RUSAGE_SELF, &u)
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}
