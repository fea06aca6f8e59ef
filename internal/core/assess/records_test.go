package assess_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/exact"
)

const criteria = "Skills; 15; 2; seen; 0-5 with help | 6-10 a prompt | 11-15 alone\nTime plan; 10; ; plan\nTaste and look; 5; 1.5; product\n"

func TestCriteriaThereAndBack(t *testing.T) {
	list, err := assess.ReadCriteria(criteria)
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.Equal(t, assess.Criterion{ID: "skills", Name: "Skills", Most: exact.Int(15), Weight: exact.Int(2), Method: "seen", Levels: []string{"0-5 with help", "6-10 a prompt", "11-15 alone"}}, list[0])
	assert.Equal(t, "taste-and-look", list[2].ID)
	again, err := assess.ReadCriteria(assess.CriteriaText(list))
	require.NoError(t, err)
	assert.Equal(t, list, again)
	for text, says := range map[string]string{
		"":                      "there are 0",
		"Skills":                "line 1: “” is no most for “Skills”",
		"; 5":                   "line 1: a criterion has a name",
		"Skills; 5\nskills ; 4": "line 2: “skills” is there twice",
		"A; 0":                  "no most",
		"A; 5; 0":               "no weight",
		"A; 5; -1":              "no weight",
		"A; 5; 1; smelt":        "no method",
		"A; 5; 1; seen; x; y":   "6 parts",
		"A; 2000":               "no most",
		strings.Repeat("x", 3):  "no most",
	} {
		_, err := assess.ReadCriteria(text)
		assert.ErrorContains(t, err, says, "%q", text)
	}
}

func TestMarksAsTheyAreWritten(t *testing.T) {
	c := assess.Criterion{Name: "Skills", Most: exact.Int(15)}
	for text, want := range map[string]string{"12": "12", " 12.5 ": "12.5", "12,5": "12.5", "0": "0", "15": "15"} {
		n, err := c.Mark(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, n.Decimal(2))
	}
	for _, text := range []string{"", "A-", "-1", "1e9", "15.01", "twelve", "1,2,3", "NaN"} {
		_, err := c.Mark(text)
		assert.Error(t, err, text)
	}
	b, err := assess.ReadBoundaries("Very good 75\nPass 40,5\n\n")
	require.NoError(t, err)
	assert.Equal(t, "Very good 75\nPass 40.5\n", assess.BoundariesText(b))
	for _, text := range []string{"75", "A lots", "A -3"} {
		_, err := assess.ReadBoundaries("B 50\n" + text)
		assert.ErrorContains(t, err, "line 2", text)
	}
}

// Records lay out as sheets; the last word counts, and nobody sees the other's marks
// before both are done.
func TestSheetsAndOutcomes(t *testing.T) {
	list, err := assess.ReadCriteria("Skills; 10\nTaste; 10")
	require.NoError(t, err)
	s := assess.Scheme{Criteria: list, OutOf: exact.Int(100), Round: assess.HalfUp, Tolerance: exact.Int(5), Boundaries: []assess.Boundary{{"A", exact.Int(75)}, {"B", exact.Int(50)}}}
	require.NoError(t, s.Check())
	mark := func(learner, marker int64, criterion, m string) assess.Record {
		return assess.Record{Kind: assess.Marked, Learner: learner, Marker: marker, Criterion: criterion, Done: m}
	}
	ready := func(learner, marker int64, done string) assess.Record {
		return assess.Record{Kind: assess.Ready, Learner: learner, Marker: marker, Done: done}
	}
	records := []assess.Record{
		mark(1, 7, "skills", "3"), mark(1, 7, "skills", "8"), mark(1, 7, "taste", "7"), {Kind: assess.OnPlan, Learner: 1, Marker: 7},
		mark(1, 9, "skills", "7"), mark(1, 9, "taste", "8"), mark(1, 9, "gone", "8"), ready(1, 7, ""),
		mark(2, 7, "skills", "8"), mark(2, 7, "taste", "7"), mark(2, 9, "skills", "7"), mark(2, 9, "taste", "7"), ready(2, 7, ""), ready(2, 9, ""),
		mark(3, 7, "skills", "8"), mark(3, 7, "skills", ""), ready(3, 7, ""), ready(3, 9, ""), ready(3, 9, "not"),
		{Kind: assess.Shut},
	}
	sheets, shut := assess.Sheets(s, records)
	assert.True(t, shut)
	assert.Len(t, sheets, 3)
	markers := []int64{7, 9}
	first := sheets[1]
	assert.Len(t, first.Walk, 1)
	assert.False(t, first.Open(markers), "the second is not done yet")
	assert.True(t, first.Open([]int64{7}))
	assert.Nil(t, s.Outcome(first, markers).Final)
	assert.Equal(t, "75", s.Outcome(first, []int64{7}).Final.Decimal(0), "one marker's total counts where there is one")

	sheets, _ = assess.Sheets(s, append(records, ready(1, 9, "")))
	o := s.Outcome(sheets[1], markers)
	require.NotNil(t, o.Final)
	assert.Equal(t, "75", o.Final.Decimal(0), "8 and 7 are as much as 7 and 8")
	assert.Equal(t, "A", o.Grade)
	assert.False(t, o.Talk)
	o = s.Outcome(sheets[2], markers)
	assert.Nil(t, o.Final, "75 and 70: people agree")
	assert.True(t, o.Talk, "the grades differ")
	o = s.Outcome(sheets[3], markers)
	assert.Nil(t, o.Final)
	assert.False(t, sheets[3].Open(markers), "not done after all")
	assert.Empty(t, sheets[3].Marks[7], "a mark that was taken back")

	agreed := assess.Record{Kind: assess.Agreed, Learner: 2, Done: "72.5", Says: "the crust was shown"}
	sheets, shut = assess.Sheets(s, append(records, agreed, assess.Record{Kind: assess.Reopened}))
	assert.False(t, shut)
	o = s.Outcome(sheets[2], markers)
	assert.Equal(t, "73", o.Final.Decimal(0), "rounded as the scheme says")
	assert.Equal(t, "B", o.Grade)
	assert.Equal(t, "the crust was shown", o.Reason)
	assert.False(t, o.Talk)
}
