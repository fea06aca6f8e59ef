package school_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/demo/demotest"
)

func TestTodayIsTheSchools(t *testing.T) {
	h := demotest.Enter(t)
	h.At(time.Date(2026, 6, 30, 23, 30, 0, 0, time.UTC)) // half past midnight in summer
	assert.Equal(t, "2026-07-01", h.Today().Format(time.DateOnly))
	h.At(time.Date(2026, 12, 31, 23, 30, 0, 0, time.UTC))
	assert.Equal(t, "2026-12-31", h.Today().Format(time.DateOnly))
}
