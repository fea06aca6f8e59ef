package train

import (
	"strings"
	"unicode"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
)

// Read reads an answer as somebody types it: 112.5, 3/4, 1½ or 0.25 kg where grams are
// asked for. What can't be an answer to this task is a problem at "answer".
func (t Task) Read(text string) (Answer, error) {
	text = strings.TrimSpace(text)
	right := t.Answer()
	switch {
	case text == "":
		return Answer{}, problem.New("answer", "There is no answer yet")
	case right.Name != "":
		return Answer{Name: text}, nil
	case right.Clock != nil:
		c, err := clock.Typed(text)
		if err != nil {
			return Answer{}, problem.New("answer", "“%s” is no time of day. Write it as 10:25", words.Short(text))
		}
		return Answer{Clock: &c}, nil
	}
	r := measure.Read(text, measure.Metric)
	if !r.Given || r.Low.Cmp(r.High) != 0 || strings.ContainsFunc(r.Name, unicode.IsDigit) {
		return Answer{}, problem.New("answer", "“%s” is no number. Write it as 112.5, 3/4 or 1 1/2", words.Short(text))
	}
	q := measure.Quantity{Amount: r.Low, Unit: r.Unit}
	wanted, measured := measure.UnitOf(right.Unit)
	if q.Unit.Dimension == measure.Count || !measured && q.Unit.Dimension == measure.Time {
		return Answer{Amount: q.Amount, Unit: right.Unit}, nil // the unit is that which is asked for
	}
	in, ok := q.In(wanted)
	if !measured || !ok {
		return Answer{}, problem.New("answer", "“%s” is in another unit than was asked for", words.Short(text))
	}
	return Answer{Amount: in.Amount, Unit: right.Unit}, nil
}
