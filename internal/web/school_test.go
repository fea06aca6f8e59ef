package web_test

import (
	"bytes"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
	"freshapron/internal/demo"
	"freshapron/internal/formats/table"
	"freshapron/internal/store"
)

// bringList sends a list of learners and returns where it is looked over.
func (s *site) bringList(t *testing.T, class, text string, file []byte) *http.Response {
	t.Helper()
	files := map[string]string{}
	if file != nil {
		files["file"] = string(file)
	}
	return s.multipart(t, "/classes/bring", map[string]string{"class": class, "text": text}, files)
}

func (s *site) roster(t *testing.T, id int64) []class.Learner {
	t.Helper()
	ctx := context.Background()
	c, err := s.school.Class(ctx, id)
	require.NoError(t, err)
	c, err = s.school.WithNeeds(ctx, c)
	require.NoError(t, err)
	return c.Roster
}

// A list as it is kept, with a title, a column that nobody reads and needs behind a name,
// says what it left out before anything is changed, and keeps what it knew.
func TestAListAsItIsKept(t *testing.T) {
	s := serve(t)
	resp := s.bringList(t, "", "9 Larch food, Mrs Vane\n\nClass\tName\tShoe size\n9 Larch\tAda Okafor - nuts\t36\n9 Larch\tBen Reed\t38\nTotal 2\n", nil)
	require.Equal(t, 303, resp.StatusCode)
	at := resp.Header.Get("Location")
	doc := s.page("GET", at, nil, 200)
	assert.Contains(t, text(doc, ".lead"), "2 learners are added; 2 lines name no learner")
	assert.Contains(t, text(doc, ".asked"), "“9 Larch food, Mrs Vane” · “Total 2”")
	assert.Contains(t, text(doc, "main"), "Nothing is read of “Shoe size”")
	assert.Contains(t, text(doc, "table.list"), "nuts")
	s.page("POST", at+"/take", url.Values{}, 200)
	resp = s.bringList(t, "", "Class,Name\n9 Larch,Ada Okafor\n", nil)
	again := s.page("GET", resp.Header.Get("Location"), nil, 200)
	assert.Contains(t, text(again, ".lead"), "1 is there already, just so", "what somebody needs stays where a list has no column for it")
}

// A list with mistakes brings nobody in until they are mended; then all of it
// comes in at once, and the same list again changes nothing.
func TestBringingLearnersIn(t *testing.T) {
	s := serve(t)
	list := "Class;Given name;Family name;Born;Allergies;Level;Shoe size\n9 Larch;Ada;Okafor;26/11/2013;nuts (contact);sure;36\n9 Larch;Ben;<script>alert(1)</script>;1/1/2040;;;\n9 Larch;;;;;expert;\n9 Larch;Ada;Okafor;26/11/2013;;;\n9 Larch;=1+1;Vane;;;;\n"
	resp := s.bringList(t, "", list, nil)
	require.Equal(t, 303, resp.StatusCode)
	at := resp.Header.Get("Location")
	doc := s.page("GET", at, nil, 200)
	assert.Contains(t, text(doc, ".lead"), "2 learners are added")
	assert.Contains(t, text(doc, ".lead"), "3 rows have to be mended")
	for _, says := range []string{"the birthday 1 January 2040 is in the future", "“expert” is no level", "there is no name", "Ada Okafor is in row 2 already"} {
		assert.Contains(t, text(doc, ".faults"), says)
	}
	assert.Zero(t, doc.Find("main script").Length(), "what is typed is shown, not run")
	assert.Zero(t, doc.Find(`form[action$="/take"]`).Length())
	s.page("POST", at+"/take", url.Values{}, 422)
	all, err := s.school.Classes(context.Background())
	require.NoError(t, err)
	assert.Len(t, all, 6, "nothing half brought in")

	mend := url.Values{}
	doc.Find(`form[action="` + at + `"]`).Find("select, input").Each(func(_ int, f *goquery.Selection) {
		v := f.AttrOr("value", "")
		if goquery.NodeName(f) == "select" {
			v = f.Find("option[selected]").AttrOr("value", "")
		}
		mend.Set(f.AttrOr("name", ""), v)
	})
	mend.Set("cell-3-3", "1/1/2014")
	for column := range 7 {
		mend.Set(fmt.Sprintf("cell-4-%d", column), "")
	}
	mend.Set("cell-5-1", "Adah")
	require.Equal(t, 303, s.do("POST", at, mend).StatusCode)
	doc = s.page("GET", at, nil, 200)
	assert.Contains(t, text(doc, ".lead"), "4 learners are added. Made for it: 9 Larch.")
	took := s.page("POST", at+"/take", url.Values{}, 200)
	assert.Contains(t, text(took, "main"), "4 added, 0 changed")
	assert.Equal(t, 404, s.do("GET", at, nil).StatusCode, "the list is forgotten")

	all, err = s.school.Classes(context.Background())
	require.NoError(t, err)
	larch := all[slices.IndexFunc(all, func(c store.Class) bool { return c.Name == "9 Larch" })]
	assert.Equal(t, 4, larch.Learners)
	people := s.roster(t, larch.ID)
	assert.Equal(t, []class.Need{{Kind: class.Allergy, What: "nuts", Severity: class.Contact}}, people[1].Needs)

	// The class goes out and comes in again, in either format, and is the same.
	head := s.cookie
	staffed := url.Values{"staff": {"1"}}
	require.Equal(t, 303, s.do("POST", fmt.Sprintf("/classes/%d/staff", larch.ID), staffed).StatusCode)
	for _, format := range []string{"csv", "xlsx"} {
		out := readAll(t, s.do("GET", fmt.Sprintf("/classes/%d/class.%s", larch.ID, format), nil))
		if format == "csv" {
			assert.Contains(t, out, "'=1+1", "a formula is text on the way out")
		}
		resp = s.bringList(t, "", "", []byte(out))
		require.Equal(t, 303, resp.StatusCode)
		assert.Contains(t, text(s.page("GET", resp.Header.Get("Location"), nil, 200), ".lead"), "4 are there already, just so")
	}
	// Only what has a column changes.
	resp = s.bringList(t, fmt.Sprint(larch.ID), "Name\tNotes\nAda Okafor\tsits near the door", nil)
	changed := resp.Header.Get("Location")
	assert.Contains(t, text(s.page("GET", changed, nil, 200), ".lead"), "1 learner is changed")
	s.page("POST", changed+"/take", url.Values{}, 200)
	after := s.roster(t, larch.ID)
	assert.Equal(t, "sits near the door", after[1].Notes)
	assert.Equal(t, people[1].Needs, after[1].Needs)

	// A list is its own: neither another teacher nor another school sees it.
	resp = s.bringList(t, "", list, nil)
	s.as("Idris Bell")
	assert.Equal(t, 404, s.do("GET", resp.Header.Get("Location"), nil).StatusCode)
	assert.Equal(t, 403, s.bringList(t, "5", "Zed", nil).StatusCode, "4 Finch is not his")
	s.cookie = head
}

func TestBringingWhatIsNoList(t *testing.T) {
	s := serve(t)
	for says, data := range map[string][]byte{
		"This is a picture": []byte("\x89PNG\r\n\x1a\n"), "This is a PDF": []byte("%PDF-1.4"), "There is nothing in it": []byte(" "),
		"There are 100001 rows": []byte(strings.Repeat("Ada\n", 100_000) + "Ada"),
	} {
		resp := s.bringList(t, "1", "what was pasted", data)
		require.Equal(t, 422, resp.StatusCode, says)
		doc, err := goquery.NewDocumentFromReader(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, text(doc, ".problem"), says)
		assert.Contains(t, doc.Find("#text").Text(), "what was pasted", "nothing typed is lost")
	}
}

// 1,500 learners come in within one transaction, with progress.
func TestBringingAWholeSchoolIn(t *testing.T) {
	s := serve(t)
	rows := [][]string{{"Class", "Given name", "Family name", "Number", "Diet"}}
	for i := range 1500 {
		diet := ""
		if i%9 == 0 {
			diet = "vegan"
		}
		rows = append(rows, []string{fmt.Sprintf("Form %02d", i%60), fmt.Sprintf("Given%d", i), "Family", fmt.Sprint(10_000 + i), diet})
	}
	var b bytes.Buffer
	require.NoError(t, table.WriteCSV(&b, rows))
	resp := s.bringList(t, "", "", b.Bytes())
	require.Equal(t, 303, resp.StatusCode)
	doc := s.page("POST", resp.Header.Get("Location")+"/take", url.Values{}, 200)
	assert.Contains(t, text(doc, "main"), "1500 added")
	assert.Greater(t, doc.Find(".progress").Length(), 10)
	again := s.bringList(t, "", "", b.Bytes())
	assert.Contains(t, text(s.page("GET", again.Header.Get("Location"), nil, 200), ".lead"), "1500 are there already")
}

// Needs are seen by the staff of the class only, and every look is noted.
func TestNeedsAreForTheStaffOfTheClass(t *testing.T) {
	s := serve(t)
	assert.Contains(t, text(s.page("GET", "/classes/1", nil, 200), ".roster"), "coeliac, by contact too")
	trail := text(s.page("GET", "/people/trail?about=needs", nil, 200), "main")
	assert.Contains(t, trail, "Maren Holtsaw needsthe needs of 7 Alder")
	stranger := s.page("GET", "/classes/5", nil, 200) // 4 Finch
	assert.NotContains(t, text(stranger, "main"), "kiwi")
	assert.NotContains(t, text(stranger, "main"), "low vision")
	assert.Equal(t, 403, s.do("GET", "/classes/5/learners/120", nil).StatusCode)
	assert.NotContains(t, readAll(t, s.do("GET", "/classes/5/class.csv", nil)), "kiwi")
	assert.NotContains(t, readAll(t, s.do("GET", "/classes/5/class.csv", nil)), "Allergies")
	// What learners see has no need in it, for any lesson.
	for id := 1; id <= 13; id++ {
		for _, paper := range []string{"", "/benches", "/adults", "/ovens"} {
			page := text(s.page("GET", fmt.Sprintf("/lessons/%d/print%s", id, paper), nil, 200), "main")
			for _, word := range []string{"coeliac", "vegan", "halal", "allerg", "low vision", "one-handed", "no pork", "vegetarian"} {
				if word == "allerg" && paper == "" {
					continue // the teacher's sheet declares what the dish has
				}
				assert.NotContains(t, strings.ToLower(page), word, "lesson %d%s", id, paper)
			}
		}
	}
	s.as("Tomas Finney")
	assert.Equal(t, 403, s.do("GET", "/classes/1", nil).StatusCode)
	assert.NotContains(t, text(s.page("GET", "/lessons/1", nil, 200), "main"), "Not safe")
}

func TestALearnerByHand(t *testing.T) {
	s := serve(t)
	form := url.Values{"given": {"Iris"}, "family": {"O’Dell"}, "born": {"26/11/2014"}, "level": {"sure"}, "allergies": {"milk (eaten); kiwi"}, "diet": {"halal"}, "access": {"one-handed (spiked board)"}, "notes": {"<b>x</b>"}}
	require.Equal(t, 303, s.do("POST", "/classes/1/learners/new", form).StatusCode)
	assert.Contains(t, text(s.page("POST", "/classes/1/learners/new", form, 422), ".problem"), "Iris O’Dell is in this class already")
	doc := s.page("GET", "/classes/1", nil, 200)
	assert.Contains(t, text(doc, ".lead"), "27 learners")
	path := doc.Find(`.roster a:contains("Iris")`).AttrOr("href", "")
	page := s.page("GET", path, nil, 200)
	assert.Equal(t, "milk (eaten); kiwi", page.Find("#allergies").AttrOr("value", ""))
	assert.Equal(t, "one-handed (spiked board)", page.Find("#access").AttrOr("value", ""))
	form.Set("born", "2030-01-01")
	bad := s.page("POST", path, form, 422)
	assert.Contains(t, text(bad, ".problem"), "in the future")
	assert.Equal(t, "Iris", bad.Find("#given").AttrOr("value", ""))
	require.Equal(t, 303, s.do("POST", path+"/remove", url.Values{}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/classes/1", nil, 200), ".lead"), "26 learners")
	assert.Equal(t, 404, s.do("POST", path, form).StatusCode)
	// A learner of one class is not in another's address.
	other := s.roster(t, 2)[0].ID
	assert.Equal(t, 404, s.do("GET", fmt.Sprintf("/classes/1/learners/%d", other), nil).StatusCode)
	assert.Equal(t, 404, s.do("POST", fmt.Sprintf("/classes/1/learners/%d/remove", other), url.Values{}).StatusCode)
}

func TestRulesOfDealing(t *testing.T) {
	s := serve(t)
	people := s.roster(t, 2)
	a, b := people[0], people[1]
	pair := url.Values{"kind": {"apart"}, "learner": {fmt.Sprint(a.ID), fmt.Sprint(b.ID)}}
	require.Equal(t, 303, s.do("POST", "/classes/2/rules", pair).StatusCode)
	doc := s.page("GET", "/classes/2", nil, 200)
	assert.Contains(t, text(doc, "main"), a.Name()+", "+b.Name()+" work apart")
	first := text(doc, ".dealt div:first-child dd")
	assert.False(t, strings.Contains(first, a.Name()) && strings.Contains(first, b.Name()))
	for says, form := range map[string]url.Values{
		"Choose two learners or more": {"kind": {"together"}, "learner": {fmt.Sprint(a.ID)}}, "Choose what the rule asks for": {"kind": {"x"}}, "Name a skill": {"kind": {"one_can"}},
	} {
		assert.Contains(t, text(s.page("POST", "/classes/2/rules", form, 422), ".problem"), says)
	}
	pair.Set("kind", "together")
	require.Equal(t, 303, s.do("POST", "/classes/2/rules", pair).StatusCode)
	assert.Contains(t, text(s.page("GET", "/classes/2", nil, 200), ".warning"), "This is the best that was found")
	doc = s.page("GET", "/classes/2", nil, 200)
	version := doc.Find("input[name=version]").First().AttrOr("value", "")
	require.Equal(t, 303, s.do("POST", "/classes/2/rules/remove", url.Values{"version": {version}, "at": {"1"}}).StatusCode)
	s.page("POST", "/classes/2/rules/remove", url.Values{"version": {version}, "at": {"0"}}, 409)
}

// A head takes a copy of the school, and removes it by its name; nobody else does.
func TestTheWholeSchool(t *testing.T) {
	s := serve(t)
	learner := s.roster(t, 1)[1]
	resp := s.do("GET", fmt.Sprintf("/classes/1/learners/%d/data.json", learner.ID), nil)
	assert.Contains(t, resp.Header.Get("Content-Disposition"), "attachment")
	assert.Contains(t, readAll(t, resp), learner.Family)
	resp = s.do("GET", "/people/school/copy", nil)
	assert.Equal(t, "application/gzip", resp.Header.Get("Content-Type"))
	assert.Equal(t, "\x1f\x8b", readAll(t, resp)[:2])
	page := s.page("POST", "/people/school/remove", url.Values{"name": {"quillhaven"}}, 422)
	assert.Contains(t, text(page, ".problem"), "Nothing was removed")
	s.as("Idris Bell")
	for method, path := range map[string]string{"GET": "/people/school/copy", "POST": "/people/school/remove"} {
		assert.Equal(t, 403, s.do(method, path, url.Values{"name": {demo.School}}).StatusCode)
	}
	s.as("Maren Holt")
	require.Equal(t, 303, s.do("POST", "/people/school/remove", url.Values{"name": {demo.School}}).StatusCode)
	assert.Equal(t, "/signin", strings.Split(s.do("GET", "/classes", nil).Header.Get("Location"), "?")[0])
}
