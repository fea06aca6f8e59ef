package skills

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/even"
	"freshapron/internal/core/words"
)

// How somebody was found to have a skill.
type How string

// The ways.
const (
	Seen      How = "seen"      // by an adult, while it was done
	Asked     How = "asked"     // and answered
	Practised How = "practised" // in a trainer
	Measured  How = "measured"  // evenness, a temperature, an amount within its tolerance
	Made      How = "made"      // a step of a lesson that this cook did
)

// Ways lists them.
var Ways = []How{Seen, Asked, Practised, Measured, Made}

// A Level of a skill, from 1; 0 is that nothing is known.
type Level int

// The levels.
const (
	Begins Level = 1 // with help, or in a trainer
	Can    Level = 2 // by themselves
	Shows  Level = 3 // and shows others
)

// LevelWords say the levels.
var LevelWords = map[Level]string{0: "not known", Begins: "begins", Can: "can", Shows: "can show others"}

// An Evidence that somebody has a skill.
type Evidence struct {
	Skill string
	At    time.Time
	How   How
	Level Level
	By    string // who saw it, or which lesson or exercise it was
}

// kinds says how much each way counts: up to which level it speaks, and after how many
// months half of it is faded; typical of what teachers trust.
var kinds = map[How]struct {
	most   Level
	months float64
}{
	Seen: {Shows, 9}, Asked: {Begins, 6}, Practised: {Begins, 4}, Measured: {Can, 9}, Made: {Can, 6},
}

// A Standing is how good somebody is at a skill now, and why.
type Standing struct {
	Level Level
	Fresh float64 // from 1, today, to 0
	Best  Evidence
	Count int
}

// least is how fresh evidence has to be to count for its level.
const least = 0.25

// daysInMonth, on the average.
const daysInMonth = 365.25 / 12

// Fresh is how much of evidence is left at a time.
func (e Evidence) Fresh(now time.Time) float64 {
	months := max(0, now.Sub(e.At).Hours()/24/daysInMonth)
	return math.Exp2(-months / kinds[e.How].months)
}

// OnList is who says what a class list says.
const OnList = "the class list"

// Listed returns the evidence that a class list is, by what it says that somebody can
// do: it holds for as long as it stands there.
func (g Graph) Listed(can []string, now time.Time) []Evidence {
	var out []Evidence
	for _, text := range can {
		for _, s := range g.Skills {
			if strings.EqualFold(text, s.Name) || strings.EqualFold(text, s.ID) || s.Words != nil && s.Words.MatchString(text) {
				out = append(out, Evidence{Skill: s.ID, At: now, How: Seen, Level: Can, By: OnList})
			}
		}
	}
	return out
}

// Of returns how good somebody is at a skill by the evidence, at a time: the highest
// level that some evidence speaks for and that has not faded. What has faded goes down
// by a level for each time that it is halved under that.
func Of(list []Evidence, skill string, now time.Time) Standing {
	var out Standing
	for _, e := range list {
		k, ok := kinds[e.How]
		if e.Skill != skill || !ok || e.At.After(now) {
			continue
		}
		out.Count++
		level, fresh := min(e.Level, k.most), e.Fresh(now)
		for f := fresh; f < least && level > 0; f *= 2 {
			level--
		}
		if level > out.Level || level == out.Level && fresh > out.Fresh {
			out.Level, out.Fresh, out.Best = level, fresh, e
		}
	}
	return out
}

// How sure somebody has to be of an exercise, from 0 to 1, and how often they have to have
// tried it, for practice to count as evidence: what comes right once may be luck.
const practisedAt, practisedTimes = 0.7, 3

// ByPractice returns the evidence that comes of an exercise of a template of which
// somebody is so sure after so many tries.
func (g Graph) ByPractice(template string, sure float64, tries int, at time.Time) []Evidence {
	if sure < practisedAt || tries < practisedTimes {
		return nil
	}
	var out []Evidence
	for _, s := range g.Skills {
		if s.Template != "" && s.Template == template {
			out = append(out, Evidence{Skill: s.ID, At: at, How: Practised, Level: Begins, By: "the trainer"})
		}
	}
	return out
}

// How evenly somebody cuts who can, and who begins, by the spread of their pieces in per
// cent; fewer pieces than leastPieces say nothing.
const cutsEvenly, beginsToCut, leastPieces = 15.0, 30.0, 5

// ByPieces returns the evidence that comes of pieces that were measured, beside what they
// were to be; ok is false where they say nothing.
func ByPieces(e even.Evenness, target even.Piece, at time.Time) (out Evidence, ok bool) {
	says := fmt.Sprintf("%s, %.0f mm on the average", words.Plural(e.N, "piece", "pieces"), e.Mean)
	if e.N > 1 {
		says += fmt.Sprintf(", differing by %.0f %%", e.CV)
	}
	out = Evidence{Skill: cutOf(target), At: at, How: Measured, By: says}
	switch {
	case e.N < leastPieces:
	case e.CV <= cutsEvenly:
		out.Level = Can
	case e.CV <= beginsToCut:
		out.Level = Begins
	}
	return out, out.Level > 0
}

// longer is by how many times a side is longer where pieces are slices or sticks, and fine
// under how many millimetres dice are very small.
const longer, fine = 2.5, 5

// cutOf is the skill by which pieces of a size are cut.
func cutOf(target even.Piece) string {
	sides := slices.Sorted(slices.Values(target[:]))
	switch {
	case sides[1] > longer*sides[0]:
		return "slices"
	case sides[2] > longer*sides[1]:
		return "sticks"
	case sides[2] < fine:
		return "fine-dice"
	}
	return "dice"
}
