package train

import (
	"cmp"
	"hash/fnv"
	"math"
	"slices"
	"time"
)

// A Try is one of a learner's, in the order in which they were made.
type Try struct {
	Template string // a kind of task, or an exercise with the knife
	At       time.Time
	Right    bool
}

// A Rating is how sure a learner is, and what each template asks, on one logistic
// scale: at equal ratings half of the tries come out right.
type Rating struct {
	Learner float64
	of      map[string]memory
}

// A memory is what is known of a learner and a template.
type memory struct {
	ease     float64 // over the learner's rating; what is easy for them is over 0
	tries    int
	last     time.Time
	halfLife float64 // days in which what is sure is half forgotten
}

const (
	// step is how far a try moves a rating, as usual with such scales between a third
	// and a half; the first tries move it further.
	step, firstStep = 0.4, 0.9
	firstTries      = 5
	firstHalfLife   = 3.0 // days
	longestHalfLife = 240.0
	// wantedSuccess is how many of the tries are to come out right: enough to go on, few
	// enough to learn.
	wantedSuccess = 0.75
)

// hardness of the templates for somebody who has never tried, on the same scale; typical.
var hardness = map[string]float64{
	string(OnScale): -0.6, string(OnDial): 0, string(InJug): 0.8, string(BySpoons): 0.2, string(ByCups): 0, string(Parts): 0.4, string(OvenDial): 0.1,
	string(Convert): 0.5, string(Fraction): 0.6, string(Scaling): 0.7, string(Ratio): 0.6, string(Time): 0.2, string(Instrument): 0.5,
}

// Rate goes through a learner's tries.
func Rate(tries []Try) Rating {
	r := Rating{of: map[string]memory{}}
	for i, t := range tries {
		m := r.of[t.Template]
		y := 0.0
		if t.Right {
			y = 1
		}
		p := r.Success(t.Template, t.At)
		k := step
		if i < firstTries {
			k = firstStep
		}
		r.Learner += k / 2 * (y - p)
		m.ease += k * (y - p)
		switch {
		case m.tries == 0:
			m.halfLife = firstHalfLife
		case t.Right: // what was nearly forgotten and came back lasts longest
			m.halfLife = min(longestHalfLife, m.halfLife*(2-m.kept(t.At)/2))
		default:
			m.halfLife = max(firstHalfLife/2, m.halfLife/2)
		}
		m.tries++
		m.last = t.At
		r.of[t.Template] = m
	}
	return r
}

// kept is the share of what was sure that is not forgotten at a time.
func (m memory) kept(at time.Time) float64 {
	if m.tries == 0 {
		return 1
	}
	days := max(0, at.Sub(m.last).Hours()/24)
	return math.Exp2(-days / m.halfLife)
}

// Success is how likely the learner gets a task of a template right at a time.
func (r Rating) Success(template string, at time.Time) float64 {
	m := r.of[template]
	sure := r.Learner + m.ease*m.kept(at) - hardness[template]
	return 1 / (1 + math.Exp(-sure))
}

// Sure is how likely the learner gets one right that was just practised.
func (r Rating) Sure(template string) float64 { return r.Success(template, r.of[template].last) }

// Tries of a template.
func (r Rating) Tries(template string) int { return r.of[template].tries }

// Next chooses the template of the next task: one that comes out right about three
// times in four, not the same again, those that are half forgotten first. What is as
// good is chosen by the seed and how many tries there were.
func (r Rating) Next(templates []string, at time.Time, seed uint64) string {
	all, last := 0, time.Time{}
	for _, m := range r.of {
		all += m.tries
		if m.last.After(last) {
			last = m.last
		}
	}
	best := slices.MinFunc(templates, func(a, b string) int {
		return cmp.Or(cmp.Compare(r.cost(a, at, last), r.cost(b, at, last)), cmp.Compare(order(a, seed, all), order(b, seed, all)))
	})
	return best
}

// cost is less for what is better practised now.
func (r Rating) cost(template string, at, last time.Time) float64 {
	m := r.of[template]
	c := math.Abs(r.Success(template, at) - wantedSuccess)
	if m.tries == 0 {
		c -= 0.1 // what was never tried is of interest
	}
	c -= 0.3 * (1 - m.kept(at))
	if m.tries > 0 && m.last.Equal(last) {
		c += 1
	}
	return math.Round(c*100) / 100
}

// order is an order of templates that looks like chance and is not.
func order(template string, seed uint64, n int) uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(template))
	return (h.Sum64() ^ seed*0x9e3779b97f4a7c15 ^ uint64(n)*0xbf58476d1ce4e5b9) * 0x94d049bb133111eb
}
