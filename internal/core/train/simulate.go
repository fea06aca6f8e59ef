package train

import (
	"math"
	"math/rand/v2"
	"time"
)

// A Simulated learner practises as people do: what they are able to, they get right more
// often, and every try teaches a little.
type Simulated struct {
	Ability float64 // on the scale of a Rating
	Learns  float64 // what a try adds
}

// Practise lets a simulated learner practise so many tasks from a time on, a minute each.
// The same seed gives the same tries.
func (s Simulated) Practise(templates []string, n int, from time.Time, seed uint64) []Try {
	rng := rand.New(rand.NewPCG(seed, 0x1ea))
	var tries []Try
	able := s.Ability
	for range n {
		next := Rate(tries).Next(templates, from, seed)
		right := rng.Float64() < 1/(1+math.Exp(hardness[next]-able))
		tries = append(tries, Try{Template: next, At: from, Right: right})
		able += s.Learns
		from = from.Add(time.Minute)
	}
	return tries
}
