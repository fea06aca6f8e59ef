package web_test

import (
	"context"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
)

// version returns the version of a lesson as its page has it.
func (s *site) version(path string) string {
	v := s.page("GET", path, nil, 200).Find("input[name=version]").First().AttrOr("value", "")
	require.NotEmpty(s.t, v)
	return v
}

func ids(people []class.Learner) []string {
	var out []string
	for _, p := range people {
		out = append(out, fmt.Sprint(p.ID))
	}
	return out
}

// Who is away changes groups, amounts, the plan and what is laid out in one
// press, and can be undone.
func TestWhoIsAway(t *testing.T) {
	s := serve(t)
	people := s.roster(t, 1)
	form := url.Values{"version": {s.version("/lessons/1/who")}, "away": ids(people[:4])}
	require.Equal(t, 303, s.do("POST", "/lessons/1/who", form).StatusCode)
	who := s.page("GET", "/lessons/1/who", nil, 200)
	assert.Contains(t, text(who, "main"), "22 of 26 are there")
	assert.Equal(t, 11, who.Find(".teams > li").Length()-1, "eleven pairs, and those who are away")
	assert.Contains(t, text(who, ".absent"), people[0].Name())
	doc := s.page("GET", "/lessons/1", nil, 200)
	assert.Contains(t, text(doc, ".verdicts"), "22 learners in 11 pairs")
	assert.Contains(t, text(doc, ".effect"), "4 away")
	// 22 · 4 + 8 + 8 = 104 scones in place of 120, one bench of 8 with another flour.
	home := text(s.page("GET", "/", nil, 200), ".entry:first-child")
	assert.Contains(t, home, "2.7 kg self-raising flour")
	s.page("POST", "/lessons/1/who", form, 409)
	s.do("POST", "/lessons/1/undo", url.Values{"version": {s.version("/lessons/1/who")}})
	assert.Contains(t, text(s.page("GET", "/lessons/1/who", nil, 200), "main"), "26 of 26 are there")

	everybody := url.Values{"version": {s.version("/lessons/1/who")}, "away": ids(people)}
	bad := s.page("POST", "/lessons/1/who", everybody, 422)
	assert.Contains(t, text(bad, ".problem"), "Everybody of 7 Alder is away")
}

func TestGroupsByHand(t *testing.T) {
	s := serve(t)
	people := s.roster(t, 2)
	form := url.Values{"version": {s.version("/lessons/2/who")}}
	for i, p := range people {
		form.Set(fmt.Sprintf("group-%d", p.ID), fmt.Sprint(i/4+1))
	}
	require.Equal(t, 303, s.do("POST", "/lessons/2/teams", form).StatusCode)
	doc := s.page("GET", "/lessons/2/who", nil, 200)
	assert.Contains(t, text(doc, "main"), "put together by hand")
	assert.Equal(t, 6, doc.Find(".teams > li").Length())
	assert.Contains(t, text(s.page("GET", "/lessons/2", nil, 200), ".verdicts"), "24 learners in 6 fours")
	benches := s.page("GET", "/lessons/2/print/benches", nil, 200)
	assert.Contains(t, text(benches, ".slip:first-of-type"), people[0].Given)
	form.Set("version", s.version("/lessons/2/who"))
	form.Set(fmt.Sprintf("group-%d", people[3].ID), "first")
	assert.Contains(t, text(s.page("POST", "/lessons/2/teams", form, 422), ".problem"), people[3].Name()+": “first” is not the number of a group")
	require.Equal(t, 303, s.do("POST", "/lessons/2/teams", url.Values{"version": {s.version("/lessons/2/who")}, "deal": {"1"}}).StatusCode)
	assert.Equal(t, 12, s.page("GET", "/lessons/2/who", nil, 200).Find(".teams > li").Length())
}

// The grid says who can eat what and why not; what is chosen goes into the
// amounts, the home page and the bench's sheet.
func TestWhoCanEatWhat(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/lessons/2/food", nil, 200)
	assert.Contains(t, text(doc, ".said"), "Not safe for 2")
	assert.Contains(t, text(doc, ".eat-grid"), "butter: contains milk")
	assert.Contains(t, text(doc, ".eat-grid"), "No swap of the recipe makes it safe")
	assert.Contains(t, text(doc, "main"), "a bench of their own")
	assert.Contains(t, text(doc, "main"), "Regulation (EU) No 1169/2011")
	lesson := s.page("GET", "/lessons/2", nil, 200)
	assert.Contains(t, text(lesson, ".verdicts"), "Not safe for 2")

	// Scones: with their swaps all are safe; without them two are not.
	scones := s.page("GET", "/lessons/1/food", nil, 200)
	assert.Contains(t, text(scones, ".said"), "Everybody can eat what their bench makes")
	coeliac := s.roster(t, 1)
	var who class.Learner
	for _, p := range coeliac {
		for _, n := range p.Needs {
			if n.What == "coeliac" {
				who = p
			}
		}
	}
	form := url.Values{"version": {s.version("/lessons/1/food")}, "learner": {fmt.Sprint(who.ID)}, "dish": {"herb-scones"}}
	require.Equal(t, 303, s.do("POST", "/lessons/1/food", form).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/food", nil, 200), ".said"), "Not safe for 1")
	assert.NotContains(t, text(s.page("GET", "/lessons/1/print/benches", nil, 200), "main"), "gluten-free")
	require.Equal(t, 303, s.do("POST", "/lessons/1/food/all", url.Values{"version": {s.version("/lessons/1/food")}}).StatusCode)
	var mine *goquery.Selection
	s.page("GET", "/lessons/1/print/benches", nil, 200).Find(".slip").Each(func(_ int, slip *goquery.Selection) {
		if strings.Contains(slip.Find("h2").Text(), who.Given) {
			mine = slip
		}
	})
	require.NotNil(t, mine)
	assert.Contains(t, mine.Text(), "gluten-free plain flour")
	assert.NotContains(t, mine.Find(".slip-amounts").Text(), "self-raising flour")
	amounts := text(s.page("GET", "/lessons/1", nil, 200), "#amounts")
	assert.Contains(t, amounts, "with swaps: 8 scones")
	form.Set("version", s.version("/lessons/1/food"))
	form.Set("learner", "99999")
	assert.Equal(t, 404, s.do("POST", "/lessons/1/food", form).StatusCode)
}

// Another way is printed on the bench's sheet without saying why, and counted
// in its time.
func TestOtherWays(t *testing.T) {
	s := serve(t)
	var oneHanded class.Learner
	for _, p := range s.roster(t, 2) {
		for _, n := range p.Needs {
			if n.What == "one-handed" {
				oneHanded = p
			}
		}
	}
	doc := s.page("GET", "/lessons/2/ways", nil, 200)
	assert.Contains(t, text(doc, "main"), oneHanded.Name())
	assert.Contains(t, text(doc, "main"), "a spiked board")
	plan := s.do("GET", "/lessons/2/lesson.json", nil)
	before := readAll(t, plan)
	form := url.Values{"version": {s.version("/lessons/2/ways")}, "learner": {fmt.Sprint(oneHanded.ID)}}
	doc.Find(fmt.Sprintf(`form:has(input[name=learner][value="%d"]) input[name=way]`, oneHanded.ID)).Each(func(_ int, i *goquery.Selection) {
		if strings.HasSuffix(i.AttrOr("value", ""), " spiked-board") {
			form.Add("way", i.AttrOr("value", ""))
		}
	})
	form.Add("way", "  large-print")
	form.Add("way", "nothing at-all")
	require.Equal(t, 303, s.do("POST", "/lessons/2/ways", form).StatusCode)
	sheets := s.page("GET", "/lessons/2/print/benches", nil, 200)
	assert.Equal(t, 1, sheets.Find(".slip.large").Length())
	mine := sheets.Find(".slip.large")
	assert.Contains(t, mine.Text(), "Press it onto the spiked board")
	assert.NotContains(t, strings.ToLower(mine.Text()), "one-handed")
	assert.NotEqual(t, before, readAll(t, s.do("GET", "/lessons/2/lesson.json", nil)), "the time is counted")
}

// A sheet is composed, edited, signed, and out of date when something under it
// changes.
func TestTheSafetySheet(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/lessons/1/safety", nil, 200)
	assert.Contains(t, text(doc, ".state"), "Not signed yet")
	for _, hazard := range []string{"Burns from ovens and trays", "Reaction to food: coeliac", "A blade that is missing", "Local food-safety and school rules"} {
		assert.Contains(t, text(doc, "main"), hazard)
	}
	assert.NotContains(t, text(doc, "main"), "Vera", "no name is on the sheet")
	form := url.Values{"version": {"0"}}
	doc.Find(".sheet-form input, .sheet-form textarea").Each(func(_ int, f *goquery.Selection) {
		form.Set(f.AttrOr("name", ""), strings.TrimSpace(f.AttrOr("value", f.Text())))
	})
	form.Set("version", "0")
	form.Set("done-1", "My own words <b>here</b>")
	last := doc.Find(".safety tbody tr").Length() - 1
	form.Set(fmt.Sprintf("hazard-%d", last), "The wet floor by sink 2")
	require.Equal(t, 303, s.do("POST", "/lessons/1/safety", form).StatusCode)
	s.page("POST", "/lessons/1/safety", form, 409)
	doc = s.page("GET", "/lessons/1/safety", nil, 200)
	assert.Contains(t, text(doc, "main"), "The wet floor by sink 2")
	assert.Equal(t, "My own words <b>here</b>", strings.TrimSpace(doc.Find("[name=done-1]").Text()))

	stale := doc.Find("input[name=seen]").AttrOr("value", "")
	require.Equal(t, 303, s.do("POST", "/lessons/1/safety/sign", url.Values{"seen": {stale}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/safety", nil, 200), ".state"), "Signed by Maren Holt on 26 November, 09:00")
	assert.Contains(t, text(s.page("GET", "/lessons/1", nil, 200), ".verdicts"), "Signed")
	paper := s.page("GET", "/lessons/1/print/safety", nil, 200)
	assert.Contains(t, text(paper, ".signed"), "Signed by Maren Holt")

	// A learner with another need joins; an oven goes.
	require.Equal(t, 303, s.do("POST", "/classes/1/learners/new", url.Values{"given": {"Iris"}, "allergies": {"milk"}}).StatusCode)
	require.Equal(t, 303, s.do("POST", "/rooms/1/out", url.Values{"unit": {"oven-2"}, "why": {"door"}}).StatusCode)
	state := text(s.page("GET", "/lessons/1/safety", nil, 200), ".state")
	assert.Contains(t, state, "no longer as it was signed")
	assert.Contains(t, state, "new: Reaction to food: milk")
	assert.Contains(t, state, "new: Something that does not work")
	s.page("POST", "/lessons/1/safety/sign", url.Values{"seen": {stale}}, 409)
	assert.Contains(t, text(s.page("GET", "/people/trail?about=safety", nil, 200), "main"), "signed safety")

	// The demonstration has one that is out of date.
	assert.Contains(t, text(s.page("GET", "/lessons/8/safety", nil, 200), ".state"), "new: Something that does not work")
}

// A temperature is judged by the school's table and stays as it was written.
func TestTemperatures(t *testing.T) {
	s := serve(t)
	s.as("Bea Lindqvist")
	write := func(celsius, seconds string) {
		form := url.Values{"bench": {"Bench 3"}, "kind": {"core"}, "food": {"everything"}, "celsius": {celsius}, "seconds": {seconds}}
		require.Equal(t, 303, s.do("POST", "/lessons/11/probe", form).StatusCode)
	}
	write("68,5", "30")
	write("72", "60")
	write("76", "30")
	doc := s.page("GET", "/lessons/11/probe", nil, 200)
	rows := doc.Find("[aria-label='Temperatures written down'] tbody tr")
	require.Equal(t, 3, rows.Length())
	assert.Contains(t, rows.Eq(0).Text(), "Done by the table: 75 °C for 30 s")
	assert.Contains(t, rows.Eq(1).Text(), "not for long enough")
	assert.Contains(t, rows.Eq(2).Text(), "not yet")
	assert.Contains(t, rows.Eq(0).Text(), "Bea Lindqvist")
	bad := s.page("POST", "/lessons/11/probe", url.Values{"celsius": {"hot"}, "kind": {"core"}, "food": {"x"}, "seconds": {"soon"}}, 422)
	for _, says := range []string{"“hot” is no temperature", "Say at which bench", "Choose what was probed", "“soon” is not a whole number"} {
		assert.Contains(t, text(bad, "main"), says)
	}
	assert.Equal(t, "hot", bad.Find("#celsius").AttrOr("value", ""))
	assert.Equal(t, 404, s.do("POST", "/lessons/99999/probe", url.Values{"celsius": {"75"}}).StatusCode)

	// Where the simulated probe is put matters.
	middle := text(s.page("GET", "/lessons/11/probe?thick=40&shape=sphere&medium=fan&from=5&heat=200&minutes=6&off=0", nil, 200), ".probe-shows")
	side := text(s.page("GET", "/lessons/11/probe?thick=40&shape=sphere&medium=fan&from=5&heat=200&minutes=6&off=18", nil, 200), ".probe-shows")
	assert.Less(t, middle, side)
	odd := s.page("GET", "/lessons/11/probe?thick=thin&off=900&minutes=-1", nil, 200)
	assert.Contains(t, text(odd, ".problem"), "is not a number between")
}

// Kept hot and kept cold are judged by how long food stood off its temperature.
func TestKeptHotAndCold(t *testing.T) {
	s := serve(t)
	for _, c := range []struct{ kind, celsius, seconds, says string }{
		{"hot", "64", "", "As the table asks"}, {"hot", "50", "3600", "it may stand so for 120 min"}, {"hot", "50", "9000", "do not serve it"},
		{"cold", "5", "", "As the table asks"}, {"cold", "12", "7200", "it may stand so for 240 min"}, {"cold", "12", "18000", "do not serve it"},
	} {
		form := url.Values{"bench": {"Fridge"}, "kind": {c.kind}, "food": {"everything"}, "celsius": {c.celsius}, "seconds": {c.seconds}}
		require.Equal(t, 303, s.do("POST", "/lessons/1/probe", form).StatusCode)
		log, err := s.school.Readings(context.Background(), 1)
		require.NoError(t, err)
		assert.Contains(t, log[0].Says, c.says)
	}
}

func TestTheFloorOfALesson(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/lessons/2/floor", nil, 200)
	assert.Equal(t, 12, doc.Find(".floor-walk").Length(), "a walk for each tray")
	assert.Contains(t, doc.Find("svg.floor").Text(), s.roster(t, 2)[0].Given)
	assert.Contains(t, text(doc, "table"), "m")
	assert.Contains(t, text(s.page("GET", "/lessons/9/floor", nil, 200), "main"), "No oven is used")
}

// Somebody for whom contact with the dish is enough may have a bench apart:
// its sheet says what to do, and on no paper stands why.
func TestABenchApart(t *testing.T) {
	s := serve(t)
	food := s.page("GET", "/lessons/2/food", nil, 200)
	require.NotEmpty(t, text(food, "[aria-labelledby=apart-head] li"))
	box := s.page("GET", "/lessons/2/ways", nil, 200).Find("input[name=way][value$=' apart']").First()
	require.Equal(t, 1, box.Length())
	require.Equal(t, 303, s.do("POST", "/lessons/2/ways", url.Values{
		"version": {s.version("/lessons/2/ways")}, "way": {box.AttrOr("value", "")},
		"learner": {box.Closest("form").Find("[name=learner]").AttrOr("value", "")},
	}).StatusCode)
	sheets := s.page("GET", "/lessons/2/print/benches", nil, 200).Find("main").Text()
	assert.Equal(t, 1, strings.Count(sheets, "Set up before the others"), "on one bench's sheet")
	for _, why := range []string{"allerg", "contact"} {
		assert.NotContains(t, strings.ToLower(sheets), why)
	}
	assert.Zero(t, s.page("GET", "/lessons/7/ways", nil, 200).Find("input[name=way][value$=' apart']").Length(), "nothing in the slaw asks for it")
}
