package lesson

import (
	"sort"

	"freshapron/internal/core/fit"
)

// An Outlook says whether a lesson would fit a period of so many minutes.
type Outlook struct {
	Period int     // minutes
	Left   float64 // minutes left over; less than 0 is missing
	Chance float64 // share of simulated lessons in which every group is on time
}

// Outlooks plans the lesson once and judges it against each length of period.
// The whole-class phases are as long in a short period as in a long one, so
// the groups finish at the same minute, whenever the bell rings.
func (l Lesson) Outlooks(periods []int, opt fit.Options) ([]Outlook, error) {
	const longest = 23*60 + 59
	l.Start, l.End = 0, longest
	if err := l.Check(); err != nil {
		return nil, err
	}
	p, err := fit.Solve(l.Fit(), opt)
	if err != nil || p.Conflicts != nil {
		return nil, err
	}
	atEnd := 0.0
	for _, phase := range l.Phases {
		if phase.Place == fit.AtEnd {
			atEnd += phase.Minutes.Float()
		}
	}
	out := make([]Outlook, len(periods))
	for i, minutes := range periods {
		deadline := float64(minutes) - atEnd
		onTime := sort.SearchFloat64s(p.Risk.Finishes, deadline+1e-6)
		out[i] = Outlook{minutes, deadline - p.Finish, float64(onTime) / float64(len(p.Risk.Finishes))}
	}
	return out, nil
}
