package store

import (
	"encoding/json"
	"fmt"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/recipe"
)

// Every field of a recipe is kept, those that somebody adds tomorrow too.
func TestEveryFieldOfARecipeIsKept(t *testing.T) {
	var r recipe.Recipe
	n := 0
	setAll(reflect.ValueOf(&r).Elem(), &n)
	data, err := json.Marshal(documentOf(r))
	require.NoError(t, err)
	var doc recipeDoc
	require.NoError(t, json.Unmarshal(data, &doc))
	back, err := doc.recipe(r.ID, r.Title)
	require.NoError(t, err)
	assert.Equal(t, r, back)
}

// setAll sets all fields of a value, each to something else.
func setAll(v reflect.Value, n *int) {
	*n++
	switch v.Interface().(type) {
	case exact.Number:
		v.Set(reflect.ValueOf(exact.Int(int64(*n))))
		return
	case measure.Unit:
		v.Set(reflect.ValueOf(measure.Gram))
		return
	}
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			setAll(v.Field(i), n)
		}
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		setAll(v.Elem(), n)
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 1, 1))
		setAll(v.Index(0), n)
	case reflect.String:
		v.SetString(fmt.Sprint("text ", *n))
	case reflect.Bool:
		v.SetBool(true)
	case reflect.Float64:
		v.SetFloat(float64(*n))
	default:
		v.SetInt(int64(*n))
	}
}
