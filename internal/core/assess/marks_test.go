package assess_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
)

func n(text string) exact.Number { return exact.MustParse(text) }

func scheme() assess.Scheme {
	return assess.Scheme{
		Criteria: []assess.Criterion{{ID: "skills", Most: n("15"), Weight: n("2")}, {ID: "taste", Most: n("6"), Weight: n("1")}},
		OutOf:    n("100"), Round: assess.HalfUp, Boundaries: []assess.Boundary{{Grade: "A", From: n("75")}, {Grade: "B", From: n("60")}}, Tolerance: n("3"),
	}
}

// Totals by hand: out of 36 weighted marks.
func TestTotals(t *testing.T) {
	s := scheme()
	require.NoError(t, s.Check())
	r := s.Of(assess.Marks{"skills": n("12"), "taste": n("3")})
	assert.Equal(t, "75", r.Total.String(), "100 × 27 ÷ 36")
	assert.Equal(t, "A", r.Grade)
	r = s.Of(assess.Marks{"skills": n("11.5"), "taste": n("3")})
	assert.Equal(t, "650/9", r.Total.String())
	assert.Equal(t, "72", r.Rounded.String())
	assert.Equal(t, "B", r.Grade)
	r = s.Of(assess.Marks{"skills": n("12")})
	assert.Nil(t, r.Total)
	assert.Equal(t, []string{"taste"}, r.Missing)
	assert.Empty(t, s.Of(assess.Marks{"skills": n("1"), "taste": n("0")}).Grade, "below the lowest")

	half := assess.Scheme{Criteria: []assess.Criterion{{ID: "x", Most: n("8"), Weight: n("1")}}, OutOf: n("100")}
	for round, want := range map[assess.Rounding][2]string{assess.HalfUp: {"63", "88"}, assess.HalfEven: {"62", "88"}, assess.Down: {"62", "87"}, assess.Up: {"63", "88"}} {
		half.Round = round
		for i, mark := range []string{"5", "7"} { // 62.5 and 87.5
			assert.Equal(t, want[i], half.Of(assess.Marks{"x": n(mark)}).Rounded.String(), round)
		}
	}
	half.Round, half.Places = assess.HalfUp, 1
	assert.Equal(t, "125/2", half.Of(assess.Marks{"x": n("5")}).Rounded.String())
}

func TestWhatASchemeCanNotBe(t *testing.T) {
	s := scheme()
	s.Criteria[0].Weight, s.Criteria[1].Most = n("0"), n("-1")
	s.Boundaries = []assess.Boundary{{Grade: "B", From: n("60")}, {Grade: "A", From: n("75")}, {Grade: "A", From: n("120")}}
	s.Places, s.Tolerance = 9, n("-1")
	err := s.Check()
	for _, want := range []string{"criteria[0].weight: is 0", "criteria[1].most: is -1", "boundaries[1].from: is 75, and the boundary before it 60", "boundaries[2].from: is 120", "boundaries[2].grade: “A” is there twice", "scale.places: is 9", "tolerance: is -1"} {
		assert.ErrorContains(t, err, want)
	}
	assert.ErrorContains(t, assess.Scheme{OutOf: n("100")}.Check(), "criteria: are none")
}

// Kappa by hand from its definition, and the two ends of it.
func TestAgreement(t *testing.T) {
	s := assess.Scheme{Criteria: []assess.Criterion{{ID: "x", Most: n("10"), Weight: n("1")}}, OutOf: n("10"), Round: assess.HalfUp}
	of := func(a, b []int) assess.Compared {
		by := map[string]map[string]assess.Marks{"m1": {}, "m2": {}}
		for i := range a {
			by["m1"][fmt.Sprint("l", i)] = assess.Marks{"x": exact.Int(int64(a[i]))}
			by["m2"][fmt.Sprint("l", i)] = assess.Marks{"x": exact.Int(int64(b[i]))}
		}
		return s.Compare(by)
	}
	same := of([]int{3, 5, 8, 9}, []int{3, 5, 8, 9})
	assert.Equal(t, 1.0, same.Overall.Kappa)
	assert.Zero(t, same.Overall.Mean)
	assert.Empty(t, same.TalkAbout)
	// Differences 1, 0, −1, 2: their squares come to 6; the squares of all pairs of marks
	// to 120, so that κ = 1 − 4·6/120.
	c := of([]int{2, 4, 6, 8}, []int{1, 4, 7, 6})
	all := 0.0
	for _, a := range []float64{2, 4, 6, 8} {
		for _, b := range []float64{1, 4, 7, 6} {
			all += (a - b) * (a - b)
		}
	}
	assert.InDelta(t, 1-4*6/all, c.Overall.Kappa, 1e-12)
	assert.InDelta(t, 0.5, c.Overall.Mean, 1e-12)
	assert.Equal(t, 4, c.Overall.N)
	assert.LessOrEqual(t, c.Overall.Low, c.Overall.Kappa)
	assert.GreaterOrEqual(t, c.Overall.High, c.Overall.Kappa)
	assert.Equal(t, []string{"l0", "l2", "l3"}, c.TalkAbout, "any difference is over a tolerance of 0")
	assert.True(t, math.IsNaN(of([]int{5, 5}, []int{5, 5}).Overall.Kappa), "0 over 0")
	assert.True(t, math.IsNaN(s.Compare(map[string]map[string]assess.Marks{"m1": {"a": {"x": n("4")}}}).Overall.Mean), "one alone agrees with nobody")
}

func TestWhomToTalkAbout(t *testing.T) {
	s := scheme()
	by := map[string]map[string]assess.Marks{
		"m1": {"near": {"skills": n("11"), "taste": n("4")}, "grade": {"skills": n("12"), "taste": n("3")}, "far": {"skills": n("14"), "taste": n("5")}, "half": {"skills": n("9")}},
		"m2": {"near": {"skills": n("11"), "taste": n("3")}, "grade": {"skills": n("12"), "taste": n("2")}, "far": {"skills": n("8"), "taste": n("5")}, "half": {"skills": n("9"), "taste": n("2")}},
	}
	c := s.Compare(by)
	assert.Equal(t, []string{"far", "grade"}, c.TalkAbout)
	assert.Equal(t, 3, c.Overall.N, "half has no total of one")
	assert.Equal(t, 4, c.Criteria[0].N)
	assert.Equal(t, 3, c.Criteria[1].N)
	assert.Equal(t, []string{"far", "half"}, c.Sample(2), "the ends")
	assert.Len(t, c.Sample(9), 4)
	assert.Len(t, c.Sample(1), 1)
}

// A total never leaves the scale, and more marks never make less.
func TestTotalsKeepTheirOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := scheme()
		s.Round = rapid.SampledFrom(assess.Roundings).Draw(t, "round")
		s.Places = rapid.IntRange(0, 3).Draw(t, "places")
		a, b := rapid.Int64Range(0, 14).Draw(t, "skills"), rapid.Int64Range(0, 6).Draw(t, "taste")
		less, more := s.Of(assess.Marks{"skills": exact.Int(a), "taste": exact.Int(b)}), s.Of(assess.Marks{"skills": exact.Int(a + 1), "taste": exact.Int(b)})
		assert.True(t, less.Rounded.Cmp(more.Rounded) <= 0 && less.Total.Less(*more.Total))
		assert.True(t, more.Rounded.Cmp(s.OutOf) <= 0 && less.Rounded.Sign() >= 0)
	})
}
