package roster_test

import (
	"bytes"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/formats/roster"
	"freshapron/internal/formats/table"
)

var today = time.Date(2026, 11, 26, 0, 0, 0, 0, time.UTC)

func TestOpen(t *testing.T) {
	for text, want := range map[string]roster.List{
		"Surname,First name,DOB,Shoe size,Dietary needs,Surname\n": {Columns: []roster.Column{roster.Family, roster.Given, roster.Born, roster.Skip, roster.Needs, roster.Skip}, Head: true},
		"Ada Okafor\n":                                                      {Columns: []roster.Column{roster.Name}},
		"Ada,Okafor,x\nBen,Reed,y\n":                                        {Columns: []roster.Column{roster.Given, roster.Family, roster.Skip}},
		"Reed,Ben\nOkafor,Ada\n":                                            {Columns: []roster.Column{roster.Given, roster.Family}},
		"Adeyemi,Ola\nOkafor,Ada\nReed,Ben\n":                               {Columns: []roster.Column{roster.Family, roster.Given}},
		"1\tAda\tOkafor\tF\n2\tBen\tReed\tM\n":                              {Columns: []roster.Column{roster.Skip, roster.Given, roster.Family, roster.Skip}},
		"Ada Okafor;4711;2014-11-26\nBen Reed;12;26/1/2014\n":               {Columns: []roster.Column{roster.Name, roster.Code, roster.Born}},
		"Ada Okafor   9H\nBen Reed     9L\n":                                {Columns: []roster.Column{roster.Name, roster.Skip}},
		"Name\tForm\tGroup\nAda Okafor\t7P\t8 Hazel\n":                      {Columns: []roster.Column{roster.Name, roster.Skip, roster.Class}, Head: true},
		"Forename,Surname,Full name,Parent name,Phone no,First aid\n":       {Columns: []roster.Column{roster.Given, roster.Family, roster.Skip, roster.Skip, roster.Skip, roster.Skip}, Head: true},
		"Student ID,Pupil name,Emergency contact,Medical conditions,Diet\n": {Columns: []roster.Column{roster.Code, roster.Name, roster.Skip, roster.Needs, roster.Diet}, Head: true},
		"Name\tSEN\nAda Okafor\tK\n":                                        {Columns: []roster.Column{roster.Name, roster.Skip}, Head: true},
		"Last (First)\tDiet\nOkafor, Ada\tvegan\n":                          {Columns: []roster.Column{roster.Name, roster.Diet}, Head: true},
		"Name\tSEN\nAda Okafor\tlow vision\n":                               {Columns: []roster.Column{roster.Name, roster.Access}, Head: true},
	} {
		got, err := roster.Open([]byte(text))
		require.NoError(t, err)
		assert.Equal(t, want.Columns, got.Columns, text)
		assert.Equal(t, want.Head, got.Head, text)
	}
	forms, err := roster.Open([]byte("Name,Reg Group\nAda Okafor,7PLM\n"))
	require.NoError(t, err)
	assert.Equal(t, []roster.Column{roster.Name, roster.Class}, forms.Columns)
	forms.InOneClass()
	assert.Equal(t, []roster.Column{roster.Name, roster.Skip}, forms.Columns, "who is in a class that is known is not in that of the form")
}

func TestRead(t *testing.T) {
	columns := []roster.Column{roster.Name, roster.Born, roster.Level, roster.Allergy, roster.Diet, roster.Access, roster.Can, roster.Class}
	rows := roster.Read([][]string{
		{"Name"},
		{"Ada Okafor", "26/11/2014", "sure", "Nuts (contact; pen in the office); milk (eaten)", "Vegan, halal", "low vision (large print)", "claw, bridge", "8 Hazel"},
		{"Reed, Ben", "41969", "", "none", "", "", "", ""},
		{"", "", "", "", "", "", "", ""},
		{"Cleo", "2030-01-01", "expert", "", "", "", "", ""},
		{"", "someday", "", "", "", "", "", "7 Alder"},
		{"ben reed", "2014-11-26", "", "", "", "", "", ""},
	}, columns, true, "7 Alder", today)
	require.Len(t, rows, 5)
	ada := rows[0].Learner
	assert.Equal(t, "8 Hazel", rows[0].Class)
	assert.Equal(t, "Ada", ada.Given)
	assert.Equal(t, "Okafor", ada.Family)
	assert.Equal(t, class.Sure, ada.Level)
	assert.Equal(t, []string{"claw", "bridge"}, ada.Can)
	assert.Equal(t, []class.Need{
		{Kind: class.Allergy, What: "nuts", Severity: class.Contact, Helps: "pen in the office"}, {Kind: class.Allergy, What: "milk", Severity: class.Eaten},
		{Kind: class.Diet, What: "vegan"}, {Kind: class.Diet, What: "halal"}, {Kind: class.Access, What: "low vision", Helps: "large print"},
	}, ada.Needs)
	assert.Empty(t, rows[0].Problems)
	ben := rows[1]
	assert.Equal(t, "Ben Reed", ben.Learner.Name())
	assert.Equal(t, "2014-11-26", ben.Learner.Born.Format(time.DateOnly), "a spreadsheet's number of days")
	assert.Empty(t, ben.Learner.Needs)
	assert.Equal(t, []string{"the birthday 1 January 2030 is in the future", "“expert” is no level: starting, practised or sure"}, rows[2].Problems)
	assert.Equal(t, []string{"“someday” is not a date such as 2014-11-26 or 26/11/2014", "there is no name"}, rows[3].Problems)
	assert.Contains(t, rows[4].Problems[0], "ben reed is in row 3 already")
	none := roster.Read([][]string{{"Ada"}}, []roster.Column{roster.Name}, false, "", today)
	assert.Contains(t, none[0].Problems[0], "no class")
}

func TestThereAndBack(t *testing.T) {
	learners := []class.Learner{
		{Code: "0042", Given: "Ada", Family: "Okafor", Born: time.Date(2014, 11, 26, 0, 0, 0, 0, time.UTC), Level: class.Sure, Can: []string{"claw", "rub in"}, Notes: "=sits, near; the door",
			Needs: []class.Need{{Kind: class.Allergy, What: "nuts", Severity: class.Contact, Helps: "pen, in the office"}, {Kind: class.Access, What: "One hand", Helps: "spiked board; adult"}}},
		{Given: "Bo", Needs: []class.Need{{Kind: class.Access, What: "tires easily, sits"}, {Kind: class.Diet, What: "vegan"}}},
	}
	out := roster.Write("7 Alder", learners, true)
	var csv bytes.Buffer
	require.NoError(t, table.WriteCSV(&csv, out))
	list, err := roster.Open(csv.Bytes())
	require.NoError(t, err)
	require.True(t, list.Head)
	assert.NotContains(t, list.Columns, roster.Skip)
	rows := roster.Read(list.Rows, list.Columns, list.Head, "", today)
	require.Len(t, rows, 2)
	for i, r := range rows {
		assert.Empty(t, r.Problems)
		assert.Equal(t, "7 Alder", r.Class)
		assert.ElementsMatch(t, learners[i].Needs, r.Learner.Needs)
		r.Learner.Needs, learners[i].Needs = nil, nil
		assert.Equal(t, learners[i], r.Learner)
	}
	assert.Len(t, roster.Write("7 Alder", learners, false)[0], 7, "without needs where they are not asked for")
}

// A need that has slipped under the heading of something else is not lost: it is noted, and
// asked about.
func TestARowThatHasSlippedAside(t *testing.T) {
	l, err := roster.Open([]byte("Name,Tutor,Allergy\nAda Reed,9H,nuts\nBen Okafor,eggs,\nCy Marsh,Mr Nutting,"))
	require.NoError(t, err)
	rows := roster.Read(l.Rows, l.Columns, l.Head, "8 Hazel", today)
	assert.Empty(t, rows[0].Learner.Notes)
	assert.Equal(t, []string{"eggs"}, rows[1].Learner.Noted())
	assert.Empty(t, rows[2].Learner.Notes)
}
