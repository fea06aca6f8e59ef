package fit

import "math"

// Spreads of the work and the wait part by kind: standard deviation over mean.
// Typical figures; a step may carry its own for the work part.
func workSpread(s Step) float64 {
	if s.Spread != nil {
		return *s.Spread
	}
	switch s.Kind {
	case Prepare, Cut, Shape:
		return 0.35
	case Clean, Serve:
		return 0.3
	case Cook, Bake:
		return 0.2
	default:
		return 0.25
	}
}

func waitSpread(k Kind) float64 {
	if k == Bake {
		return 0.08
	}
	return 0.05
}

const (
	classSpread = 0.15
	groupSpread = 0.10
)

// lawOf returns the lognormal law with mean 1 and the given standard
// deviation: σ² = ln(1 + s²), μ = −σ²/2.
func lawOf(spread float64) law {
	v := math.Log1p(spread * spread)
	return law{-v / 2, math.Sqrt(v)}
}
