package fit

import "math"

// A Record is how long a piece of work was planned to take, and took.
type Record struct {
	Planned, Real float64 // minutes, over 0
}

// A Pace is what records say about how fast a class works, or about one kind
// of step: 1.2 is a fifth slower than planned.
type Pace struct {
	Factor    float64 // the posterior median
	Low, High float64 // of four in five
	Records   int
}

// The normal laws of ln(real/planned): before anything is known, and of one
// record round the true pace.
const (
	priorSpread  = 0.25
	recordSpread = 0.3
)

// Calibrate returns the pace that records suggest: the conjugate normal
// posterior of ln(real/planned), with mean (Σr/0.3²)/(1/0.25² + n/0.3²).
// Records without a planned or a real time are left out.
func Calibrate(records []Record) Pace {
	const fourInFive = 1.2815515655446004 // standard deviations
	sum, n := 0.0, 0
	for _, r := range records {
		if r.Planned > 0 && r.Real > 0 && !math.IsInf(r.Planned, 0) && !math.IsInf(r.Real, 0) {
			sum += math.Log(r.Real / r.Planned)
			n++
		}
	}
	precision := 1/(priorSpread*priorSpread) + float64(n)/(recordSpread*recordSpread)
	mean := sum / (recordSpread * recordSpread) / precision
	sd := 1 / math.Sqrt(precision)
	return Pace{math.Exp(mean), math.Exp(mean - fourInFive*sd), math.Exp(mean + fourInFive*sd), n}
}
