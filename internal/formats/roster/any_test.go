package roster_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/class"
	"freshapron/internal/formats/roster"
	"freshapron/internal/formats/table"
)

// learner draws somebody with a name in any of a few scripts and with needs.
func learner(t *rapid.T) class.Learner {
	// What somebody needs, behind a name, is no name: "Ada - nuts".
	name := rapid.StringMatching(`[A-ZÀ-Þ=+@'][a-zà-þ' -]{0,12}[a-zà-þ]`).Filter(func(s string) bool { return len(class.Understand(s).Needs) == 0 })
	words := rapid.StringMatching(`[a-z][a-z ]{0,10}[a-z]`)
	l := class.Learner{
		Code: rapid.StringMatching(`|[0-9]{1,6}`).Draw(t, "code"), Given: name.Draw(t, "given"), Family: name.Draw(t, "family"),
		Level: rapid.SampledFrom([]class.Level{0, class.Starting, class.Practised, class.Sure}).Draw(t, "level"),
		Notes: rapid.StringMatching(`|[A-Z=-][a-z ,;"()]{0,20}[a-z.]`).Draw(t, "notes"),
	}
	if rapid.Bool().Draw(t, "born?") {
		l.Born = today.AddDate(0, 0, -rapid.IntRange(0, 7000).Draw(t, "days"))
	}
	for range rapid.IntRange(0, 3).Draw(t, "skills") {
		l.Can = append(l.Can, words.Draw(t, "skill"))
	}
	for range rapid.IntRange(0, 3).Draw(t, "needs") {
		n := class.Need{Kind: rapid.SampledFrom(class.Kinds).Draw(t, "kind"), What: words.Draw(t, "what"), Helps: rapid.StringMatching(`|[a-z][a-z ,]{0,12}[a-z]`).Draw(t, "helps")}
		if n.Kind == class.Allergy {
			n.Severity = rapid.SampledFrom([]class.Severity{class.Unsaid, class.Eaten, class.Contact}).Draw(t, "severity")
		}
		// Words that say nothing, or how severe it is, are not what it is.
		if class.Understand(n.What).None || slices.Contains([]string{"contact", "severe", "traces", "eaten", "mild", "by contact", "when eaten", "anaphylaxis"}, n.Helps) {
			continue
		}
		l.Needs = append(l.Needs, n)
	}
	return l
}

// Any class goes out as CSV and as a spreadsheet and comes in again with every
// name, birthday and need as it was.
func TestAnyClassThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var learners []class.Learner
		for range rapid.IntRange(1, 4).Draw(t, "learners") {
			l := learner(t)
			if !slices.ContainsFunc(learners, func(o class.Learner) bool { return roster.Key("", o) == roster.Key("", l) }) {
				learners = append(learners, l)
			}
		}
		rows := roster.Write("8 Hazel", learners, true)
		var csv, xlsx bytes.Buffer
		require.NoError(t, table.WriteCSV(&csv, rows))
		require.NoError(t, table.WriteXLSX(&xlsx, "8 Hazel", rows))
		for _, file := range [][]byte{csv.Bytes(), xlsx.Bytes()} {
			list, err := roster.Open(file)
			require.NoError(t, err)
			require.True(t, list.Head)
			back := roster.Read(list.Rows, list.Columns, list.Head, "", today)
			require.Len(t, back, len(learners))
			for i, r := range back {
				require.Empty(t, r.Problems)
				require.Equal(t, "8 Hazel", r.Class)
				want, got := learners[i], r.Learner
				require.ElementsMatch(t, want.Needs, got.Needs)
				want.Needs, got.Needs = nil, nil
				require.Equal(t, want, got)
			}
		}
	})
}

func TestDates(t *testing.T) {
	for in, want := range map[string]string{
		"2014-11-26": "2014-11-26", "26/11/2014": "2014-11-26", "6/1/2014": "2014-01-06", "26/11/14": "2014-11-26", "1.2.14": "2014-02-01", "26.11.2014": "2014-11-26", "26-11-2014": "2014-11-26",
		"26 November 2014": "2014-11-26", "26 Nov 2014": "2014-11-26", "2014-11-26 00:00:00": "2014-11-26", " 2014-11-26 ": "2014-11-26",
		"41969": "2014-11-26", "41969.0": "2014-11-26", "36526": "2000-01-01", "60000": "2064-04-08", "40000": "2009-07-06",
	} {
		d, err := roster.Date(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, d.Format(time.DateOnly), in)
	}
	for _, in := range []string{"", "11/26/2014", "2014", "26/11", "26-11-14", "2014-02-30", "tomorrow", "419690", "-41969"} {
		_, err := roster.Date(in)
		assert.Error(t, err, in)
	}
}

func TestNeedsOfACell(t *testing.T) {
	type need = class.Need
	for cell, want := range map[string][]need{
		"":                               nil,
		"none":                           nil,
		"N/A; -":                         nil,
		"Milk":                           {{Kind: class.Allergy, What: "milk"}},
		"milk, eggs":                     {{Kind: class.Allergy, What: "milk"}, {Kind: class.Allergy, What: "eggs"}},
		"milk (mild)":                    {{Kind: class.Allergy, What: "milk", Severity: class.Eaten}},
		"nuts (severe; pen, in the bag)": {{Kind: class.Allergy, What: "nuts", Severity: class.Contact, Helps: "pen, in the bag"}},
		"nuts (pen; severe; office)":     {{Kind: class.Allergy, What: "nuts", Severity: class.Contact, Helps: "pen; office"}},
		"kiwi (eaten); sesame":           {{Kind: class.Allergy, What: "kiwi", Severity: class.Eaten}, {Kind: class.Allergy, What: "sesame"}},
		"fish (":                         {{Kind: class.Allergy, What: "fish ("}},
		"(contact)":                      {{Kind: class.Allergy, What: "(contact)"}},
	} {
		assert.Equal(t, want, roster.NeedsOf(class.Allergy, cell), cell)
	}
	access := roster.NeedsOf(class.Access, "Low vision (large print; contact)")
	require.Len(t, access, 1)
	assert.Equal(t, "Low vision", access[0].What, "access needs keep their letters")
	assert.Equal(t, "large print; contact", access[0].Helps, "how severe is said of allergies only")
	assert.True(t, strings.HasPrefix(access[0].Says(), "access: "))
}
