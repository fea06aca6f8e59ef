package skills_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/skills"
)

var today = time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)

func ago(months float64) time.Time {
	return today.Add(-time.Duration(months * 365.25 / 12 * 24 * float64(time.Hour)))
}

func ids(list []skills.Skill) []string {
	var out []string
	for _, s := range list {
		out = append(out, s.ID)
	}
	return out
}

func TestTheGraph(t *testing.T) {
	g := skills.Shipped
	assert.GreaterOrEqual(t, len(g.Skills), 60)
	for i, s := range g.Skills {
		for _, on := range s.On {
			assert.Less(t, slices.Index(ids(g.Skills), on), i, "%s comes after what it stands on", s.ID)
		}
	}
	assert.Equal(t, []string{"board-still", "carry-knife", "bridge", "claw", "flat-first", "slices", "sticks"}, sorted(ids(g.Below("dice")), g))
	assert.Empty(t, g.Below("clean-hands"))
	for words, want := range map[string]string{
		"Dice the carrot": "dice", "Weigh the flour": "scale-read", "Rub the butter into the flour": "rub-in", "Snip the chives": "snip", "Beat the egg": "beat-egg",
		"Make a white sauce with the flour and butter": "roux", "Whisk until thick": "whisk", "Probe the koftas": "probe",
	} {
		assert.Contains(t, ids(g.For(words)), want, words)
	}
	assert.NotContains(t, ids(g.For("Bring the price down")), "dice")

	_, err := skills.New([]skills.Skill{{ID: "a", On: []string{"b"}}, {ID: "b", On: []string{"c"}}, {ID: "c", On: []string{"a"}}})
	assert.ErrorContains(t, err, "stands on itself: a on b on c on a")
	_, err = skills.New([]skills.Skill{{ID: "a", On: []string{"z"}}, {ID: "b"}, {ID: "b"}})
	assert.ErrorContains(t, err, "there is no skill “z”")
	assert.ErrorContains(t, err, "twice")
}

func sorted(list []string, g skills.Graph) []string {
	at := ids(g.Skills)
	slices.SortFunc(list, func(a, b string) int { return slices.Index(at, a) - slices.Index(at, b) })
	return list
}

func TestStandings(t *testing.T) {
	at := func(months float64, how skills.How, level skills.Level) skills.Evidence {
		return skills.Evidence{Skill: "claw", At: ago(months), How: how, Level: level}
	}
	for _, c := range []struct {
		list []skills.Evidence
		want skills.Level
		says string
	}{
		{nil, 0, "nothing is known"},
		{[]skills.Evidence{at(0, skills.Seen, 3)}, 3, "seen today"},
		{[]skills.Evidence{at(0, skills.Practised, 3)}, 1, "practice is never more than a beginning"},
		{[]skills.Evidence{at(0, skills.Measured, 3)}, 2, "a measurement does not see somebody show others"},
		{[]skills.Evidence{at(18, skills.Seen, 2)}, 2, "two half-lives"},
		{[]skills.Evidence{at(19, skills.Seen, 2)}, 1, "and a little more"},
		{[]skills.Evidence{at(28, skills.Seen, 2)}, 0, "after three it is gone"},
		{[]skills.Evidence{at(28, skills.Seen, 3), at(1, skills.Practised, 1)}, 1, "the fresher of two of one level"},
		{[]skills.Evidence{at(-1, skills.Seen, 3)}, 0, "what is to come does not count"},
		{[]skills.Evidence{at(0, "heard", 3)}, 0, "nor what is no evidence"},
	} {
		assert.Equal(t, c.want, skills.Of(c.list, "claw", today).Level, c.says)
	}
	s := skills.Of([]skills.Evidence{at(9, skills.Seen, 2), at(9, skills.Made, 2)}, "claw", today)
	assert.InDelta(t, 0.5, s.Fresh, 1e-9)
	assert.Equal(t, skills.Seen, s.Best.How)
	assert.Equal(t, 2, s.Count)
	assert.Zero(t, skills.Of([]skills.Evidence{at(0, skills.Seen, 3)}, "dice", today).Count)
}

func TestReadiness(t *testing.T) {
	g := skills.Shipped
	steps := []skills.Step{{"Weigh", "Weigh the flour."}, {"Dice the carrots", "Hold them with the claw."}, {"Dice the leek", ""}}
	wants := g.Wants(steps)
	gaps := g.Ready(steps, wants, nil, today)
	var dice skills.Gap
	for _, x := range gaps {
		if x.Skill.ID == "dice" {
			dice = x
		}
	}
	assert.Equal(t, "Dice the carrots", dice.Step)
	assert.Equal(t, []string{"board-still", "carry-knife", "bridge", "claw", "flat-first", "slices", "sticks", "dice"}, sorted(ids(dice.Missing), g))
	assert.NotEmpty(t, dice.Practise)

	seen := []skills.Evidence{{Skill: "sticks", At: ago(1), How: skills.Seen, Level: skills.Can}}
	for _, x := range g.Ready(steps, wants, seen, today) {
		if x.Skill.ID == "dice" {
			assert.Equal(t, []string{"dice"}, ids(x.Missing), "who cuts sticks has the claw and slices too")
		}
	}
	all := []skills.Evidence{}
	for _, s := range g.Skills {
		all = append(all, skills.Evidence{Skill: s.ID, At: ago(1), How: skills.Made, Level: skills.Can})
	}
	assert.Empty(t, g.Ready(steps, wants, all, today))
}

func BenchmarkReadinessOf32(b *testing.B) {
	g := skills.Shipped
	var steps []skills.Step
	for i, s := range g.Skills[:15] {
		steps = append(steps, skills.Step{Title: s.Name, Words: fmt.Sprint("step ", i, " slice, dice, weigh, rub in, bake")})
	}
	var evidence [32][]skills.Evidence
	for i := range evidence {
		for k, s := range g.Skills {
			if (i+k)%3 == 0 {
				evidence[i] = append(evidence[i], skills.Evidence{Skill: s.ID, At: ago(float64(k % 12)), How: skills.Ways[k%5], Level: skills.Can})
			}
		}
	}
	for b.Loop() {
		wants := g.Wants(steps)
		for _, list := range evidence {
			g.Ready(steps, wants, list, today)
		}
	}
}
