package lessons_test

import (
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/lessons"
	"freshapron/internal/core/class"
	"freshapron/internal/demo/demotest"
)

// visit calls f with every value of a type that can be reached from a value. Places on the clock
// are not looked into: the library fills in its own when they are first used.
func visit[T any](v reflect.Value, seen map[uintptr]bool, f func(T)) {
	if v.Type() == reflect.TypeFor[*time.Location]() {
		return
	}
	if v.CanInterface() && v.Type() == reflect.TypeFor[T]() {
		f(v.Interface().(T))
	}
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() && !seen[v.Pointer()] {
			seen[v.Pointer()] = true
			visit(v.Elem(), seen, f)
		}
	case reflect.Interface:
		if !v.IsNil() {
			visit(v.Elem(), seen, f)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			visit(v.Field(i), seen, f)
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			visit(v.Index(i), seen, f)
		}
	case reflect.Map:
		for it := v.MapRange(); it.Next(); {
			visit(it.Value(), seen, f)
		}
	}
}

// Nobody's needs and nothing that is noted of anybody is in the view of a
// lesson, though groups of one class are dealt by what they eat.
func TestNoNeedsInAnyView(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Tomas Finney")
	views, err := lessons.From(ctx, h.Today(), 14)
	require.NoError(t, err)
	require.Greater(t, len(views), 10)
	learners, alike := 0, 0
	for _, v := range views {
		former, err := lessons.EffectOf(ctx, v)
		require.NoError(t, err)
		for _, any := range []any{v, former, v.Core.Benches()} {
			visit(reflect.ValueOf(any), map[uintptr]bool{}, func(l class.Learner) {
				learners++
				if l.Likeness > 0 {
					alike++
				}
				assert.Empty(t, l.Needs, l.Name())
				assert.Empty(t, l.Notes, l.Name())
			})
		}
	}
	assert.Greater(t, learners, 500, "the walk reaches them")
	assert.Positive(t, alike, "who eats alike is known by a key")
}
