package skills_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/even"
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

// Practice is evidence from 0.7 on, for the skills that the exercise practises.
func TestEvidenceOfPractice(t *testing.T) {
	g := skills.Shipped
	assert.Empty(t, g.ByPractice("scale", 0.69, 9, today))
	assert.Empty(t, g.ByPractice("scale", 0.99, 2, today), "twice may be luck")
	found := g.ByPractice("scale", 0.7, 3, today)
	assert.NotEmpty(t, found)
	for _, e := range found {
		s, ok := g.Find(e.Skill)
		assert.True(t, ok)
		assert.Equal(t, "scale", s.Template)
		assert.Equal(t, skills.Evidence{Skill: e.Skill, At: today, How: skills.Practised, Level: skills.Begins, By: "the trainer"}, e)
	}
	listed := g.Listed([]string{"Claw", "even slices", "to hum"}, today)
	assert.Contains(t, listed, skills.Evidence{Skill: "claw", At: today, How: skills.Seen, Level: skills.Can, By: skills.OnList})
	assert.True(t, slices.ContainsFunc(listed, func(e skills.Evidence) bool { return e.Skill == "slices" }))
	assert.Empty(t, g.Listed([]string{"to hum"}, today))
	assert.Empty(t, g.ByPractice("", 1, 9, today), "a skill without an exercise is not practised")
}

// Evenly cut pieces show a skill, by how they differ: under 15 and under 30 per cent.
func TestEvidenceOfPieces(t *testing.T) {
	dice := even.Piece{10, 10, 10}
	for _, c := range []struct {
		n     int
		cv    float64
		level skills.Level
	}{{4, 5, 0}, {5, 5, skills.Can}, {40, 15, skills.Can}, {40, 15.1, skills.Begins}, {40, 30, skills.Begins}, {40, 30.1, 0}} {
		e, ok := skills.ByPieces(even.Evenness{N: c.n, Mean: 10.4, CV: c.cv}, dice, today)
		assert.Equal(t, c.level, e.Level, "%+v", c)
		assert.Equal(t, c.level > 0, ok)
		assert.Equal(t, fmt.Sprintf("%d pieces, 10 mm on the average, differing by %.0f %%", c.n, c.cv), e.By)
	}
	one, ok := skills.ByPieces(even.Evenness{N: 1, Mean: 8}, dice, today)
	assert.False(t, ok)
	assert.Equal(t, "1 piece, 8 mm on the average", one.By, "one does not differ")
	for target, want := range map[even.Piece]string{
		{10, 10, 10}: "dice", {4, 4, 4}: "fine-dice", {5, 5, 5}: "dice", {40, 8, 8}: "sticks", {8, 40, 8}: "sticks", {20, 8, 8}: "dice", {20.1, 8, 8}: "sticks", {30, 30, 4}: "slices", {4, 30, 30}: "slices", {10, 10, 4}: "dice", {10.1, 10.1, 4}: "slices", {40, 3, 3}: "sticks",
	} {
		e, _ := skills.ByPieces(even.Evenness{N: 10, Mean: 10, CV: 5}, target, today)
		assert.Equal(t, want, e.Skill, "%v", target)
		_, there := skills.Shipped.Find(e.Skill)
		assert.True(t, there, e.Skill)
	}
}

// Of a class of four one dices, one cuts sticks, and of two nothing is known.
func TestWhatAClassLacks(t *testing.T) {
	g := skills.Shipped
	seen := func(skill string) []skills.Evidence {
		return []skills.Evidence{{Skill: skill, At: ago(1), How: skills.Seen, Level: skills.Can}}
	}
	steps := []skills.Step{{"Sticks of carrot", "Cut it into sticks."}, {"Dice it", ""}}
	class := [][]skills.Evidence{append(seen("dice"), seen("sticks")...), seen("sticks"), nil, nil}
	lack := g.Lack(steps, class, today)
	who := map[string][]int{}
	for _, l := range lack {
		who[l.Skill.ID] = l.Who
	}
	assert.Equal(t, map[string][]int{"dice": {1, 2, 3}, "sticks": {2, 3}}, who)
	assert.Equal(t, "dice", lack[0].Skill.ID, "what most lack comes first")
	assert.Equal(t, "Dice it", lack[0].Step)
	assert.Contains(t, ids(lack[0].Before), "claw", "two of the three lack it")
	assert.Contains(t, ids(lack[0].Before), "sticks")
	assert.NotEmpty(t, lack[0].Practise)
	only := g.Lack(steps[1:], [][]skills.Evidence{seen("sticks"), seen("sticks"), nil}, today)
	assert.Empty(t, only[0].Before, "one of three is not most of them")
	assert.Empty(t, g.Lack(steps, nil, today))
}

func TestWhatComesNext(t *testing.T) {
	g, err := skills.New([]skills.Skill{{ID: "hold"}, {ID: "slice", On: []string{"hold"}}, {ID: "dice", On: []string{"slice"}}, {ID: "stir"}, {ID: "sauce", On: []string{"stir", "dice"}}})
	assert.NoError(t, err)
	next := func(known ...string) []string {
		var list []skills.Evidence
		for _, id := range known {
			list = append(list, skills.Evidence{Skill: id, At: ago(0), How: skills.Seen, Level: skills.Can})
		}
		standings, next := g.All(list, today)
		assert.Len(t, standings, len(g.Skills))
		return ids(next)
	}
	assert.Equal(t, []string{"hold", "stir"}, next(), "what stands on nothing")
	assert.Equal(t, []string{"slice", "stir"}, next("hold"))
	assert.Equal(t, []string{"dice", "stir"}, next("slice"), "who slices can hold, too")
	assert.Equal(t, []string{"sauce"}, next("dice", "stir"), "and who dices can do both")
	assert.Empty(t, next("hold", "slice", "dice", "stir", "sauce"))
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

// A graph that is written and read is the same; what can't be is said by its line.
func TestAGraphByHand(t *testing.T) {
	g, err := skills.Read(skills.Shipped.Text())
	require.NoError(t, err)
	require.Len(t, g.Skills, len(skills.Shipped.Skills))
	for i, s := range skills.Shipped.Skills {
		o := g.Skills[i]
		assert.Equal(t, []any{s.ID, s.Name, s.Young, s.On, s.Said, s.Template}, []any{o.ID, o.Name, o.Young, o.On, o.Said, o.Template})
	}
	g, err = skills.Read("hold; Hold it\n\nshake; Shake it; I shake; hold; shake | jiggle (a little); knife-hold\n")
	require.NoError(t, err)
	assert.Equal(t, "shake", g.For("Jiggle (a little) until it sets")[0].ID, "words are words, not patterns")
	for text, says := range map[string]string{
		"":                            "there are 0 skills",
		"hold":                        "line 1: a skill has at least an id and a name",
		"a; A\n; no id":               "line 2",
		"a; b; c; d; e; f; g":         "line 1 has 7 parts",
		"a; A\na; Again":              "there twice",
		"a; A;; b\nb; B;; a":          "stands on itself",
		"a; A;; nothing":              "there is no skill “nothing”",
		strings.Repeat("x; X\n", 401): "from 1 to 400",
	} {
		_, err := skills.Read(text)
		assert.ErrorContains(t, err, says, "%.20q", text)
	}
}
