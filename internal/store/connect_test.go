package store_test

import (
	"context"
	"math/rand/v2"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// Whoever goes away in the middle of a statement does not spoil the connection
// for whoever takes it next.
func TestGivenUpStatementsSpoilNothing(t *testing.T) {
	db := storetest.Open(t)
	s := newSchool(t, db, "Quillhaven")
	fill(t, s)
	var leaving, staying sync.WaitGroup
	stop := make(chan struct{})
	for range 6 {
		leaving.Go(func() {
			for {
				select {
				case <-stop:
					return
				default:
				}
				short, cancel := context.WithTimeout(ctx, time.Duration(rand.IntN(1500))*time.Microsecond)
				_, _ = s.Classes(short)
				_ = s.InTransaction(short, func(in *store.School) error { _, err := in.Rooms(short); return err })
				cancel()
			}
		})
	}
	for range 4 {
		staying.Go(func() {
			for range 30 {
				_, err := s.Classes(ctx)
				assert.NoError(t, err)
				_, err = s.Rooms(ctx)
				assert.NoError(t, err)
			}
		})
	}
	staying.Wait()
	close(stop)
	leaving.Wait()
}
