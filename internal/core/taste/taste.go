// Package taste says what tastings tell: whether there is a difference, which is liked
// better, and how many tasters it would take to notice. Probabilities are exact where
// that can be counted.
package taste

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mathext"
	"gonum.org/v1/gonum/stat/distuv"
)

// A Test is how a tasting is done.
type Test string

// The tests.
const (
	Triangle Test = "triangle" // which of three is the odd one: guessing is right once in three
	DuoTrio  Test = "duo-trio" // which of two is like the first: once in two
	Paired   Test = "paired"   // which of two is liked better
	Ranking  Test = "ranking"  // samples put in order of liking
)

// Tests lists them.
var Tests = []Test{Triangle, DuoTrio, Paired, Ranking}

// chance is how often guessing is right.
func (t Test) chance() float64 {
	if t == Triangle {
		return 1.0 / 3
	}
	return 0.5
}

// atLeast is how likely so many or more of n come out of chance.
func atLeast(right, n int, chance float64) float64 {
	switch {
	case right <= 0:
		return 1
	case right > n:
		return 0
	}
	return mathext.RegIncBeta(float64(right), float64(n-right+1), chance)
}

// Right returns how likely so many or more of the tasters would be right by guessing, in
// a triangle or a duo-trio test.
func Right(t Test, right, tasters int) float64 { return atLeast(right, tasters, t.chance()) }

// Preferred returns how likely guessing would be as one-sided as this or more, to either
// side.
func Preferred(a, b int) float64 { return math.Min(1, 2*atLeast(max(a, b), a+b, 0.5)) }

// alpha is under which chance a difference is taken to be there.
const alpha = 0.05

// MostTasters is how many are looked at when it is asked how many are needed.
const MostTasters = 5000

// Needed returns how many tasters notice a difference with a power, both over 0 and
// under 1, where a share of them truly tell and the others guess; 0 where more than
// MostTasters would be needed.
func Needed(t Test, share, power float64) int {
	really := share + (1-share)*t.chance()
	for n := 1; n <= MostTasters; n++ {
		low, high := 0, n+1
		for low < high {
			m := (low + high) / 2
			p := atLeast(m, n, t.chance())
			if t == Paired {
				p *= 2
			}
			if p < alpha {
				high = m
			} else {
				low = m + 1
			}
		}
		right := low // the fewest that are no chance
		reached := atLeast(right, n, really)
		if t == Paired { // to the wrong side, too
			reached += 1 - atLeast(n-right+1, n, really)
		}
		if right <= n && reached >= power {
			return n
		}
	}
	return 0
}

// Friedman returns the statistic of ranks, of each taster 1 to k of k samples without
// ties, and how likely one as large comes of chance; exact says that all ways to rank
// were counted, else it is by chi-square (Friedman 1937).
func Friedman(ranks [][]int) (statistic, p float64, exact bool) {
	n, k := len(ranks), len(ranks[0])
	sums := make([]int, k)
	for _, r := range ranks {
		for j, v := range r {
			sums[j] += v
		}
	}
	square := func(sums []int) int { // of which the statistic is a growing function
		total := 0
		for _, s := range sums {
			total += s * s
		}
		return total
	}
	observed := square(sums)
	statistic = 12*float64(observed)/float64(n*k*(k+1)) - 3*float64(n*(k+1))
	if most, ok := countable[k]; ok && n <= most {
		return statistic, counted(n, k, observed, square), true
	}
	return statistic, 1 - distuv.ChiSquared{K: float64(k - 1)}.CDF(statistic), false
}

// countable is up to how many tasters of k samples all ways are counted.
var countable = map[int]int{2: 400, 3: 60, 4: 16, 5: 8}

// counted is the share of all ways to rank whose sums of squares are as large. Ways that
// differ by the names of the samples count together.
func counted(n, k, observed int, square func([]int) int) float64 {
	type key [5]int
	ways := permutations(k)
	now := map[key]float64{{}: 1}
	for range n {
		next := map[key]float64{}
		for at, share := range now {
			for _, w := range ways {
				sums := at
				for j, v := range w {
					sums[j] += v
				}
				slices.Sort(sums[:k])
				next[sums] += share / float64(len(ways))
			}
		}
		now = next
	}
	p := 0.0
	for at, share := range now {
		if square(at[:k]) >= observed {
			p += share
		}
	}
	return math.Min(1, p)
}

func permutations(k int) [][]int {
	var out [][]int
	var grow func(made []int)
	grow = func(made []int) {
		if len(made) == k {
			out = append(out, slices.Clone(made))
			return
		}
		for v := 1; v <= k; v++ {
			if !slices.Contains(made, v) {
				grow(append(made, v))
			}
		}
	}
	grow(nil)
	return out
}
