package taste

import (
	"fmt"
	"math"
	"strings"
)

// Most is the highest mark of a word; the lowest is 1.
const Most = 5

// A Word by which food is described.
type Word struct {
	Word, Sense string
	From        int  // age
	Usual       bool // it is offered where nobody has chosen
}

// Vocabulary is the words that ship, by sense; typical of school kitchens, and a teacher
// writes others.
var Vocabulary = []Word{
	{"sweet", "taste", 4, true}, {"salty", "taste", 4, true}, {"sour", "taste", 5, true}, {"bitter", "taste", 7, true}, {"savoury", "taste", 9, true}, {"hot", "taste", 7, false}, {"bland", "taste", 9, false}, {"rich", "taste", 11, false},
	{"fresh", "smell", 5, false}, {"toasted", "smell", 7, false}, {"fragrant", "smell", 9, false}, {"burnt", "smell", 4, false},
	{"crisp", "texture", 5, true}, {"soft", "texture", 4, true}, {"moist", "texture", 7, true}, {"smooth", "texture", 5, false}, {"crumbly", "texture", 7, false}, {"chewy", "texture", 7, false}, {"greasy", "texture", 9, false}, {"tender", "texture", 9, false},
	{"golden", "look", 5, true}, {"colourful", "look", 5, false}, {"even", "look", 7, false}, {"glossy", "look", 11, false},
	{"crunchy", "sound", 4, false},
}

// A Spread of marks.
type Spread struct {
	N        int
	Mean, SD float64 // 0 where there are none; the spread 0 of one, too
}

// SpreadOf returns the mean and the standard deviation of marks.
func SpreadOf(marks []int) Spread {
	s := Spread{N: len(marks)}
	if s.N == 0 {
		return s
	}
	for _, m := range marks {
		s.Mean += float64(m)
	}
	s.Mean /= float64(s.N)
	for _, m := range marks {
		s.SD += (float64(m) - s.Mean) * (float64(m) - s.Mean)
	}
	if s.N > 1 {
		s.SD = math.Sqrt(s.SD / float64(s.N-1))
	} else {
		s.SD = 0
	}
	return s
}

// Off reports whether a sample is further from what its maker meant than by chance: by
// more than half a mark, and by more than the standard error of the mean; and whether it
// is too much. A word without marks or meaning is not.
func (s Spread) Off(meant int) (off, much bool) {
	if meant == 0 || s.N == 0 {
		return false, false
	}
	away := s.Mean - float64(meant)
	return math.Abs(away) >= max(0.5, s.SD/math.Sqrt(float64(s.N))), away > 0
}

// balances are what practised cooks reach for where something is too much or too little;
// the share is of the batch, to begin with; typical. A share of 0 is no amount.
var balances = []struct {
	word  string
	much  bool
	says  string
	share float64
}{
	{"salty", true, "too salty: dilute it with what it is made of, without salt, or add something sour; begin with %s of lemon juice", 0.005},
	{"salty", false, "not salty enough: salt, a little at a time; begin with %s", 0.002},
	{"sour", true, "too sour: something sweet or fat; begin with %s of sugar", 0.005},
	{"sour", false, "not sour enough: lemon juice or vinegar; begin with %s", 0.005},
	{"sweet", true, "too sweet: something sour; begin with %s of lemon juice", 0.005},
	{"sweet", false, "not sweet enough: sugar, honey or ripe fruit; begin with %s of sugar", 0.01},
	{"bitter", true, "too bitter: fat, salt or sweetness covers it; begin with %s of sugar", 0.005},
	{"hot", true, "too hot: fat or dilution, such as yoghurt; begin with %s", 0.05},
	{"bland", true, "flat: salt first, then acid, then something savoury; begin with %s of salt", 0.002},
	{"savoury", false, "not savoury enough: tomato purée, mushrooms, hard cheese or soy sauce; begin with %s of tomato purée", 0.02},
	{"rich", true, "too rich: something sour or fresh; begin with %s of lemon juice", 0.005},
	{"greasy", true, "greasy: take off what floats or drain it on paper, and add something sour", 0},
}

// Balance says what to reach for where a batch of so many grams has too much, or too
// little, of a word; empty where nothing is known. Where the grams are not known it says
// no amount. Allergies come first: whoever adds something looks at who eats it.
func Balance(word string, much bool, grams float64) string {
	for _, b := range balances {
		if b.word != word || b.much != much {
			continue
		}
		says := b.says
		switch {
		case b.share == 0:
		case grams <= 0:
			says = strings.NewReplacer("%s of", "a little", "%s", "a little").Replace(says)
		default:
			says = fmt.Sprintf(says, fmt.Sprintf("about %.0f g", math.Max(1, b.share*grams)))
		}
		return says + ". Taste again with a clean spoon"
	}
	return ""
}
