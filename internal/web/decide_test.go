package web_test

import (
	"bytes"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/url"
	"os"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/lessonfile"
)

// tartlets is the lesson of the demonstration that is tight.
const tartlets = "/lessons/2"

// offer returns the fields of the small form whose button says so.
func offer(t *testing.T, doc *goquery.Document, button string) (string, url.Values) {
	t.Helper()
	form := doc.Find("form").FilterFunction(func(_ int, f *goquery.Selection) bool {
		return strings.TrimSpace(f.Find("button").Text()) == button
	}).First()
	require.Equal(t, 1, form.Length(), button)
	values := url.Values{}
	form.Find("input, select").Each(func(_ int, s *goquery.Selection) {
		value := s.AttrOr("value", "")
		if goquery.NodeName(s) == "select" {
			value = s.Find("option").First().AttrOr("value", "")
			if chosen := s.Find("option[selected]"); chosen.Length() > 0 {
				value = chosen.AttrOr("value", "")
			}
		}
		values.Add(s.AttrOr("name", ""), value)
	})
	return form.AttrOr("action", ""), values
}

// press sends the small form whose button says so, and follows it.
func (s *site) press(t *testing.T, doc *goquery.Document, button string, changes ...string) *goquery.Document {
	t.Helper()
	action, values := offer(t, doc, button)
	for i := 0; i < len(changes); i += 2 {
		values.Set(changes[i], changes[i+1])
	}
	resp := s.do("POST", action, values)
	require.Equal(t, http.StatusSeeOther, resp.StatusCode, button)
	return s.page("GET", resp.Header.Get("Location"), nil, 200)
}

func TestExplainingAStep(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", tartlets+"?by=each", nil, 200)
	assert.Contains(t, text(doc, "#explain"), "In the room today")
	var href string
	doc.Find("a[data-step]").EachWithBreak(func(_ int, a *goquery.Selection) bool {
		href = a.AttrOr("href", "")
		return !strings.Contains(a.AttrOr("aria-label", ""), "Bench 4: Bake")
	})
	doc = s.page("GET", href, nil, 200)
	assert.Equal(t, "Bench 4: Bake", text(doc, "#explain h3"))
	assert.Contains(t, text(doc, "#explain"), "Not sooner, because “Fill” is done then.")
	assert.Equal(t, 1, doc.Find(".bar.chosen").FilterFunction(func(_ int, b *goquery.Selection) bool { return strings.Contains(b.AttrOr("class", ""), "wait") }).Length())
	part := s.page("GET", href, nil, 200, "HX-Request", "true")
	assert.Equal(t, 0, part.Find("#lesson").Length(), "htmx gets the explanation alone")
	assert.Equal(t, "Bench 4: Bake", text(part, "#explain h3"))
	// A step that is not there: the room is shown instead.
	doc = s.page("GET", tartlets+"/steps?at=g99/x/y", nil, 200)
	assert.Contains(t, text(doc, "#explain"), "In the room today")
}

// Phases, ovens and adults can be pressed as well.
func TestExplainingThings(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", tartlets+"?by=thing", nil, 200)
	doc = s.page("GET", doc.Find(`a[aria-label="Clear down"]`).AttrOr("href", ""), nil, 200)
	assert.Equal(t, "Clear down", text(doc, "#explain h3"))
	assert.Contains(t, text(doc, "#explain"), "Everything must be done before it begins.")
	doc = s.page("GET", tartlets+"/steps?by=thing&at=~unit/oven/Oven+4", nil, 200)
	assert.Equal(t, "Oven 4", text(doc, "#explain h3"))
	assert.Contains(t, text(doc, "#explain"), "in: Bench 7, “Bake”")
	doc = s.press(t, doc, "Take it out")
	assert.Contains(t, text(doc, ".decisions"), "Oven 4 is out of use")
	doc = s.page("GET", "/lessons/3/steps?at=~adults//", nil, 200)
	assert.Contains(t, text(doc, "#explain"), "1 adult can do or watch a step at the same moment.")
}

func TestWaysToLook(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", tartlets+"?by=thing", nil, 200)
	assert.Contains(t, text(doc, ".timeline"), "Oven 6")
	doc = s.page("GET", tartlets+"?by=g2", nil, 200)
	assert.Contains(t, text(doc, ".timeline"), "Cook 2")
	assert.Equal(t, "2", text(doc, ".looks [aria-current]"))
	doc = s.page("GET", tartlets+"?by=nonsense", nil, 200)
	assert.Contains(t, text(doc, ".timeline"), "Bench 12", "what is not known is all benches")
}

// What is decided in the plan is planned at once, said, kept, and undone.
func TestDecidingAndUndoing(t *testing.T) {
	s := serve(t)
	step := tartlets + "/steps?at=g3/leek-tartlets/roll"
	before := s.page("GET", step, nil, 200)
	figure := text(before, "#figure")
	doc := s.press(t, before, "5 min later")
	assert.NotEqual(t, figure, text(doc, "#figure"))
	assert.Contains(t, text(doc, ".effect"), "Bench 3: “Roll, cut and line the tin” not before")
	assert.Contains(t, text(doc, ".effect"), "later than before")
	assert.Contains(t, text(doc, ".decisions"), "Bench 3: “Roll, cut and line the tin” not before")
	assert.Contains(t, text(doc, "#explain"), "you have put it there")

	doc = s.press(t, doc, "Undo")
	assert.Equal(t, figure, text(doc, "#figure"))
	assert.Equal(t, 0, doc.Find(".effect").Length())
	assert.Equal(t, 0, doc.Find(".decisions").Length())
}

func TestDecisionsOfEveryKind(t *testing.T) {
	s := serve(t)
	step := s.page("GET", tartlets+"/steps?at=g3/leek-tartlets/bake", nil, 200)
	doc := s.press(t, step, "Put it there", "changes[0].unit", "Oven 5")
	assert.Contains(t, text(doc, ".decisions"), "Bench 3: “Bake” in Oven 5")
	assert.Contains(t, text(doc, "#explain"), "Oven 5")
	doc = s.press(t, doc, "Plan so", "changes[0].kind", "begin_by", "changes[0].clock", "13:40")
	assert.Contains(t, text(doc, ".decisions"), "too late", "no plan bakes so soon")
	doc = s.press(t, doc, "Keep it here")
	assert.NotContains(t, text(doc, ".decisions"), "begins by", "a later word on the same step counts")

	room := s.page("GET", tartlets, nil, 200)
	doc = s.press(t, room, "Take it out", "changes[0].unit", "Oven 2")
	assert.Contains(t, text(doc, ".decisions"), "Oven 2 is out of use")
	assert.NotContains(t, text(s.page("GET", tartlets+"?by=thing", nil, 200), ".timeline"), "Oven 2")
	doc = s.press(t, doc, "Plan so", "changes[0].clock", "13:55", "changes[0].minutes", "10")
	assert.Contains(t, text(doc, ".decisions"), "An adult is out from 13:55 for 10 min")
	doc = s.press(t, doc, "Set", "changes[0].minutes", "1.2")
	assert.Contains(t, text(doc, ".decisions"), "Every bench: 1.2 times the recipe’s minutes")

	// The lesson file carries it all.
	resp := s.do("GET", tartlets+"/lesson.json", nil)
	l, err := lessonfile.Read(resp.Body)
	require.NoError(t, err)
	assert.Len(t, l.Away, 1)
	assert.Len(t, l.Equipment[0].Units, 5)
	assert.Equal(t, "6/5", l.Groups[0].Pace.String())

	// Each can be taken back by itself.
	n := doc.Find(".decisions li form").Length()
	require.Equal(t, 5, n)
	action, values := offer(t, doc, "×")
	require.Equal(t, 303, s.do("POST", action, values).StatusCode)
	doc = s.page("GET", tartlets, nil, 200)
	assert.Equal(t, n-1, doc.Find(".decisions li form").Length())
	assert.Contains(t, text(doc, ".effect"), "Taken back")
}

// What is wrong is said where it was typed, and nothing is changed.
func TestWrongDecisions(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", tartlets+"/steps?at=g3/leek-tartlets/bake", nil, 200)
	figure := text(doc, "#figure")
	for want, changes := range map[string][]string{
		"“soon” is no time of day":      {"Plan so", "changes[0].clock", "soon"},
		"before the door opens":         {"Plan so", "changes[0].clock", "07:00"},
		"no Oven 77 to be in":           {"Put it there", "changes[0].unit", "Oven 77"},
		"is not a number of minutes":    {"Set", "changes[0].minutes", "many"},
		"minutes can’t be less than 0":  {"Set", "changes[0].minutes", "-4"},
		"Choose what to change":         {"Plan so", "changes[0].kind", "magic"},
		"was changed after":             {"Plan so", "version", "99"},
		"no bench “g77” in this lesson": {"Keep it here", "changes[0].group", "g77"},
		"more than a day":               {"Set", "changes[0].minutes", "99999"},
	} {
		action, values := offer(t, doc, changes[0])
		for i := 1; i < len(changes); i += 2 {
			values.Set(changes[i], changes[i+1])
		}
		resp := s.do("POST", action, values)
		assert.Contains(t, []int{409, 422}, resp.StatusCode, want)
		answer, err := goquery.NewDocumentFromReader(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, text(answer, "#explain .problem"), want)
		assert.Equal(t, figure, text(answer, "#figure"), want)
	}
	assert.Equal(t, 422, s.do("POST", tartlets+"/undo", url.Values{"version": {"1"}}).StatusCode, "nothing to undo")
	assert.Equal(t, 409, s.do("POST", tartlets+"/withdraw", url.Values{"version": {"1"}, "place": {"7"}}).StatusCode)
	assert.Equal(t, 404, s.do("POST", "/lessons/999/changes", url.Values{"version": {"1"}}).StatusCode)
}

// rescues waits for what would help.
func (s *site) rescues(t *testing.T, lesson string) *goquery.Document {
	t.Helper()
	doc := s.page("GET", lesson+"/rescues", nil, 200)
	require.Greater(t, doc.Find("#rescues tbody tr").Length(), 3)
	return doc
}

func TestRescues(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", tartlets, nil, 200)
	assert.Equal(t, tartlets+"/rescues", doc.Find("#rescues").AttrOr("hx-get", ""), "it arrives while the page is looked at")
	list := s.rescues(t, tartlets)
	row := list.Find("#rescues tbody tr").FilterFunction(func(_ int, r *goquery.Selection) bool {
		return strings.Contains(r.Text(), "Use ready-made pastry") && !strings.Contains(r.Text(), ", and ")
	}).First()
	require.Equal(t, 1, row.Length())
	assert.Contains(t, row.Text(), "to buy: check its allergens")

	// Looked at first, beside the lesson as it is; nothing is changed by that.
	try := s.page("GET", row.Find("th a").AttrOr("href", ""), nil, 200)
	assert.Contains(t, text(try, ".trial"), "Nothing is changed yet")
	assert.Equal(t, 6, try.Find(".comparison tbody tr").Length())
	assert.Equal(t, 0, s.page("GET", tartlets, nil, 200).Find(".effect").Length())

	doc = s.press(t, try, "Do it")
	assert.Contains(t, text(doc, ".effect"), "Ready-made, up to “Rest the pastry in the fridge”")
	assert.Contains(t, text(doc, ".effect"), "sooner than before")
	s.press(t, doc, "Undo")

	// A lesson that has time to spare is offered nothing.
	long := s.page("GET", "/lessons/6", nil, 200)
	require.Contains(t, text(long, ".verdict"), "All 6")
	assert.Equal(t, 0, long.Find("#rescues").Length())
	assert.Equal(t, 303, s.do("GET", tartlets+"/try?changes[0].kind=magic", nil).StatusCode)
}

// How many work together and how many pieces each makes are the lesson's own
// settings, not changes of its plan.
func TestGroupsAndPiecesAreSettings(t *testing.T) {
	s := serve(t)
	for _, c := range []struct{ change, field, was, is string }{
		{"hands&changes[0].number=3", "group_size", "2", "3"},
		{"fewer&changes[0].number=3", "menu[0].each", "4", "3"},
	} {
		value := func(doc *goquery.Document) string { return filled(doc).Get(c.field) }
		doc := s.press(t, s.page("GET", tartlets+"/try?changes[0].kind="+c.change, nil, 200), "Do it")
		assert.Equal(t, c.is, value(doc), c.field)
		assert.Equal(t, 0, doc.Find(".decisions").Length())
		assert.Equal(t, c.was, value(s.press(t, doc, "Undo")), c.field)
	}
}

const split = tartlets + "/try?changes[0].kind=two_lessons&changes[0].dish=leek-tartlets&changes[0].step=rest&changes[0].number=1"

// Over two lessons: both are planned, the keeping rule is checked, and undoing
// takes the second away.
func TestOverTwoLessons(t *testing.T) {
	s := serve(t)
	try := s.page("GET", split, nil, 200)
	assert.Equal(t, 2, try.Find("svg.timeline").Length(), "both halves are planned")
	action, values := offer(t, try, "Make it two lessons")
	assert.Equal(t, "2026-11-27", values.Get("date"), "the next school day is offered")

	for want, date := range map[string]string{
		"24 h is the most":          "2026-11-30",
		"is not a date":             "next week",
		"must come after the first": "2026-11-25",
	} {
		wrong := url.Values{}
		for k, v := range values {
			wrong[k] = v
		}
		wrong.Set("date", date)
		doc := s.page("POST", action, wrong, 422)
		assert.Contains(t, text(doc, ".problem"), want)
		assert.Equal(t, date, doc.Find("#second-date").AttrOr("value", ""), "what was typed is still there")
	}

	resp := s.do("POST", action, values)
	require.Equal(t, 303, resp.StatusCode)
	doc := s.page("GET", tartlets, nil, 200)
	assert.Contains(t, text(doc, ".half"), "22.9 h in the fridge; 24 h is the most.")
	assert.NotContains(t, text(doc, ".running"), "Bake")
	second := s.page("GET", doc.Find(".half a").AttrOr("href", ""), nil, 200)
	assert.Contains(t, text(second, ".half"), "The first lesson: Thursday 26 November")
	assert.Contains(t, text(second, ".running"), "Bake")
	assert.NotContains(t, text(second, ".running"), "Rub the butter")

	href := doc.Find(".half a").AttrOr("href", "")
	doc = s.press(t, doc, "Undo")
	assert.Equal(t, 0, doc.Find(".half").Length())
	assert.Equal(t, 404, s.do("GET", href, nil).StatusCode, "the second lesson is gone")
}

// Where one half is changed without the other, both pages say so.
func TestHalvesThatDoNotGoTogether(t *testing.T) {
	s := serve(t)
	first := s.press(t, s.page("GET", split, nil, 200), "Make it two lessons")
	second := first.Find(".half a").AttrOr("href", "")
	doc := s.press(t, s.page("GET", second+"/try?changes[0].kind=hands&changes[0].number=3", nil, 200), "Do it")
	const says = "The two don’t go together any more: 12 groups begin it, 8 go on."
	assert.Contains(t, text(doc, ".half.look"), says)
	assert.Contains(t, text(s.page("GET", tartlets, nil, 200), ".half.look"), says)
}

func TestPapersOfALesson(t *testing.T) {
	s := serve(t)
	benches := s.page("GET", tartlets+"/print/benches", nil, 200)
	assert.Equal(t, 12, benches.Find(".slip").Length())
	assert.Equal(t, 24, benches.Find(".slip-cook").Length(), "one list for each cook")
	assert.Contains(t, text(benches, ".slip"), "Oven 1: in at")
	ovens := s.page("GET", tartlets+"/print/ovens", nil, 200)
	assert.Equal(t, 6, ovens.Find(".door").Length())
	assert.Equal(t, 24, ovens.Find(".door tbody tr").Length(), "twelve trays in, twelve out")
	adults := s.page("GET", tartlets+"/print/adults", nil, 200)
	assert.Contains(t, text(adults, ".sheet"), "call: ")
	assert.Contains(t, text(adults, ".sheet"), "Local food-safety and school rules and qualified staff decide.")
	teacher := s.page("GET", tartlets+"/print", nil, 200)
	assert.GreaterOrEqual(t, teacher.Find(".sheet-calls li").Length(), 3)
}

func TestCalendarAndPlanFiles(t *testing.T) {
	s := serve(t)
	resp := s.do("GET", tartlets+"/lesson.ics", nil)
	var b bytes.Buffer
	_, err := b.ReadFrom(resp.Body)
	require.NoError(t, err)
	assert.Contains(t, b.String(), "BEGIN:VCALENDAR\r\n")
	assert.Contains(t, b.String(), "DTSTART:20261126T132000Z")
	resp = s.do("GET", tartlets+"/plan.json", nil)
	plan, err := lessonfile.ReadPlan(resp.Body)
	require.NoError(t, err)
	assert.Len(t, plan.Groups, 12)
}

// bring sends a lesson file, and perhaps a plan.
func (s *site) bring(t *testing.T, fields, files map[string]string) *http.Response {
	t.Helper()
	return s.multipart(t, "/files", fields, files)
}

// multipart sends a form with files as a browser does.
func (s *site) multipart(t *testing.T, path string, fields, files map[string]string, header ...string) *http.Response {
	t.Helper()
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	for k, v := range fields {
		require.NoError(t, w.WriteField(k, v))
	}
	for k, v := range files {
		part, err := w.CreateFormFile(k, k+".json")
		require.NoError(t, err)
		_, err = part.Write([]byte(v))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	r, err := http.NewRequest("POST", s.URL+path, &b)
	require.NoError(t, err)
	r.Header.Set("Content-Type", w.FormDataContentType())
	r.Header.Set("Cookie", s.cookie)
	for i := 0; i+1 < len(header); i += 2 {
		r.Header.Set(header[i], header[i+1])
	}
	resp, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Do(r)
	require.NoError(t, err)
	t.Cleanup(func() { _ = resp.Body.Close() })
	return resp
}

func TestBringingFilesIn(t *testing.T) {
	s := serve(t)
	data, err := os.ReadFile("../../docs/formats/tartlets.lesson.json")
	require.NoError(t, err)
	resp := s.bring(t, nil, map[string]string{"lesson_file": string(data)})
	require.Equal(t, 303, resp.StatusCode)
	at := resp.Header.Get("Location")
	doc := s.page("GET", at, nil, 200)
	assert.Equal(t, "Leek tartlets with 8 Hazel", text(doc, "h1"))
	assert.Equal(t, 3, doc.Find(".row-link").Length())
	assert.Contains(t, text(s.page("GET", "/files", nil, 200), ".plain"), "lesson_file.json")

	// Its own plan keeps every rule; one that is tampered with does not.
	resp = s.do("GET", at+"/plan.json", nil)
	var plan bytes.Buffer
	_, err = plan.ReadFrom(resp.Body)
	require.NoError(t, err)
	resp = s.bring(t, map[string]string{"lesson": string(data), "plan": plan.String(), "name": "with its plan"}, nil)
	require.Equal(t, 303, resp.StatusCode)
	doc = s.page("GET", resp.Header.Get("Location"), nil, 200)
	assert.Contains(t, text(doc, "article"), "The plan that came along keeps every rule.")
	wrong := strings.Replace(plan.String(), `"cooks": 2`, `"cooks": 7`, 1)
	resp = s.bring(t, map[string]string{"lesson": string(data), "plan": wrong}, nil)
	doc = s.page("GET", resp.Header.Get("Location"), nil, 200)
	assert.Contains(t, text(doc, ".problem"), "breaks")

	for want, fields := range map[string]map[string]string{
		"the file is not JSON":        {"lesson": "Tartlets"},
		"groups: is missing":          {"lesson": `{"format":"fresh-apron/lesson","version":1}`},
		`format: is "x"; a plan says`: {"lesson": string(data), "plan": `{"format":"x","version":1}`},
	} {
		resp := s.bring(t, fields, nil)
		require.Equal(t, 422, resp.StatusCode, want)
		doc, err := goquery.NewDocumentFromReader(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, text(doc, ".problem"), want)
		assert.Equal(t, fields["lesson"], strings.TrimSuffix(strings.TrimPrefix(doc.Find("#lesson").Text(), "\n"), ""), "what was typed is still there")
	}
	for _, path := range []string{"/files/nonsense", "/files/00000000-0000-4000-8000-000000000000", "/files/nonsense/plan.json"} {
		assert.Equal(t, 404, s.do("GET", path, nil).StatusCode, path)
	}
}

// A lesson that does not fit shows what would help with the file, too.
func TestAFileThatDoesNotFit(t *testing.T) {
	s := serve(t)
	data, err := os.ReadFile("../../docs/formats/tartlets.lesson.json")
	require.NoError(t, err)
	short := strings.Replace(strings.Replace(string(data), `"end": "11:10"`, `"end": "10:52"`, 1), `"at_minute": 35`, `"at_minute": 22`, 1)
	short = strings.Replace(short, `"from_minute": 55`, `"from_minute": 20`, 1)
	resp := s.bring(t, map[string]string{"lesson": short}, nil)
	require.Equal(t, 303, resp.StatusCode, fmt.Sprint(resp.Header))
	doc := s.page("GET", resp.Header.Get("Location"), nil, 200)
	assert.Contains(t, text(doc, ".figure"), "missing")
	assert.Greater(t, doc.Find(".rescues tbody tr").Length(), 2)
}

// Will it fit: planned for each way of working and each length of period.
func TestOutlooks(t *testing.T) {
	s := serve(t)
	var href string
	s.page("GET", "/recipes", nil, 200).Find(".shelf th a").Each(func(_ int, a *goquery.Selection) {
		if a.Text() == "Leek tartlets" {
			href = a.AttrOr("href", "")
		}
	})
	doc := s.page("GET", href, nil, 200)
	assert.Equal(t, href+"/outlooks", doc.Find("#outlooks").AttrOr("hx-get", ""))
	doc = s.page("GET", href+"/outlooks", nil, 200)
	assert.Contains(t, text(doc, ".outlooks thead"), "65 min75 min130 min")
	rows := doc.Find(".outlooks tbody tr")
	require.Equal(t, 4, rows.Length())
	assert.Contains(t, text(doc, ".outlooks tbody tr:nth-child(2)"), "in pairs")
	assert.Contains(t, text(doc, ".outlooks tbody tr:nth-child(2)"), "missing")
	assert.Contains(t, text(doc, ".outlooks tbody tr:nth-child(2)"), "left fits")
	cell := s.page("GET", href+"/outlooks?short=1", nil, 200, "HX-Request", "true")
	assert.Contains(t, text(cell, ".fits"), "does not fit 65")
	assert.Contains(t, text(cell, ".fits"), "130 however they work")
}
