package school_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/app/school"
	"freshapron/internal/core/pantry"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

func TestTodayIsTheSchools(t *testing.T) {
	h := demotest.Enter(t)
	h.At(time.Date(2026, 6, 30, 23, 30, 0, 0, time.UTC)) // half past midnight in summer
	assert.Equal(t, "2026-07-01", h.Today().Format(time.DateOnly))
	h.At(time.Date(2026, 12, 31, 23, 30, 0, 0, time.UTC))
	assert.Equal(t, "2026-12-31", h.Today().Format(time.DateOnly))
}

func TestTolerancesAreTheSchoolsOneByOne(t *testing.T) {
	own := func(agent, structure, other float64) pantry.Tolerances {
		return school.Larder{Settings: store.Settings{Agent: agent, Structure: structure, Other: other}}.Tolerances()
	}
	assert.Equal(t, pantry.Usual, own(0, 0, 0))
	assert.Equal(t, pantry.Tolerances{Agent: 0.02, Structure: 0.02, Other: 0.02}, own(0.02, 0.02, 0.02), "one figure for all")
	assert.Equal(t, pantry.Tolerances{Agent: 0.03, Structure: pantry.Usual.Structure, Other: 0.2}, own(0.03, 0, 0.2))
}
