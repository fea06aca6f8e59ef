package demo_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/demo"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

// The demonstration's lessons follow the day on which it is started.
func TestTheDemonstrationIsAlwaysToday(t *testing.T) {
	site, _, _ := demotest.Open(t, nil)
	open := func(day time.Time) []store.Lesson {
		school, err := demo.Open(t.Context(), site.Store, func(*time.Location) time.Time { return day })
		require.NoError(t, err)
		lessons, err := school.LessonsBetween(t.Context(), day, day)
		require.NoError(t, err)
		return lessons
	}
	today := demotest.Thursday(nil)
	assert.Len(t, open(today), 3)
	later := open(today.AddDate(0, 0, 6))
	require.Len(t, later, 3)
	assert.Equal(t, "Herb scones", later[0].Titles())
	assert.Len(t, open(today.AddDate(0, 0, 6)), 3, "opened again on the same day")
}
