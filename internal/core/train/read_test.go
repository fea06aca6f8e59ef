package train_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/train"
)

// of finds a task whose answer is in a unit.
func inUnit(t *testing.T, kind train.Kind, unit string) train.Task {
	t.Helper()
	for i := range 400 {
		if task := train.Make(kind, 2, i, train.Source{}); task.Answer().Unit == unit {
			return task
		}
	}
	t.Fatalf("no %s is answered in %s", kind, unit)
	return train.Task{}
}

// Answers are read as people type them; another unit is converted where it can be, and
// refused where it can't.
func TestAnswersAsTheyAreTyped(t *testing.T) {
	for _, c := range []struct {
		kind       train.Kind
		unit, text string
		want       string // an amount; empty is refused
	}{
		{train.OnScale, "g", "112.5", "225/2"}, {train.OnScale, "g", "112,5 g", "225/2"}, {train.OnScale, "g", "0.25 kg", "250"}, {train.OnScale, "g", "250 ml", ""},
		{train.OnScale, "g", "lots", ""}, {train.OnScale, "g", "10:25", ""}, {train.OnScale, "g", "2-3", ""}, {train.OnScale, "g", "", ""}, {train.OnScale, "g", "-3", ""},
		{train.Convert, "ml", "2.5 dl", "250"}, {train.Convert, "tbsp", "1½", "3/2"}, {train.Fraction, "cup", "3/4", "3/4"}, {train.Fraction, "cup", "1 1/2 cups", "3/2"},
		{train.Parts, "part", "1/3", "1/3"}, {train.Parts, "part", "1/3 of the pack", "1/3"}, {train.OvenDial, "C", "180 °C", "180"}, {train.OvenDial, "gas", "4", "4"},
		{train.BySpoons, "fillings", "5 fillings", "5"}, {train.Time, "min", "25 min", "25"}, {train.Time, "min", "25", "25"},
	} {
		a, err := inUnit(t, c.kind, c.unit).Read(c.text)
		if c.want == "" {
			assert.Error(t, err, "%s as %s", c.text, c.unit)
			continue
		}
		require.NoError(t, err, c.text)
		assert.Zero(t, exact.MustParse(c.want).Cmp(a.Amount), "%s as %s is %s", c.text, c.unit, a.Amount)
		assert.Equal(t, c.unit, a.Unit)
	}
	at := inUnit(t, train.Time, "")
	a, err := at.Read("10.25")
	require.NoError(t, err)
	assert.Equal(t, clock.Time(625), *a.Clock)
	_, err = at.Read("soon")
	assert.ErrorContains(t, err, "“soon” is no time of day")
	which := train.Make(train.Instrument, 2, 0, train.Source{})
	a, err = which.Read(" cup ")
	require.NoError(t, err)
	assert.Equal(t, "cup", a.Name)
}

// Whatever is typed is an answer or refused, and a right answer is judged right.
func FuzzAnswers(f *testing.F) {
	for _, s := range []string{"1½", "3/0", "1e9 kg", "٣", "½½", "9999999999999999999999999 g"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, k := range train.Kinds {
			task := train.Make(k, 1, 3, train.Source{})
			if a, err := task.Read(text); err == nil {
				task.Judge(a, nil)
			}
		}
	})
}
