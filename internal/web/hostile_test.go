package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hostile is what somebody may type who means no good.
const hostile = `"'><script>alert(1)</script><img src=x onerror=alert(1)>{{.}}`

// Scripts that are stored in every text of a school are shown as text, on
// every page.
func TestStoredScriptsAreText(t *testing.T) {
	s := serve(t)
	name := hostile[:40]
	for path, form := range map[string]url.Values{
		"/classes":                {"name": {name}, "age": {"12"}},
		"/classes/1/learners/new": {"given": {name}, "family": {name}, "can": {hostile}, "allergies": {hostile}, "diet": {hostile}, "access": {hostile}, "notes": {hostile}},
		"/classes/1/rules":        {"kind": {"one_can"}, "skill": {name}},
		"/times/terms":            {"name": {name}, "first": {"2026-12-01"}, "last": {"2026-12-02"}},
		"/times/periods":          {"name": {name}, "start": {"17:00"}, "end": {"18:00"}, "day": {"0"}},
		"/rooms/1/out":            {"unit": {"oven-1"}, "why": {name}},
		"/people":                 {"name": {name}, "email": {"x@quillhaven.example"}, "role": {"teacher"}},
		"/tables/ways":            {"name": {name}, "says": {hostile}, "danger": {"knife"}},
		"/lessons/1/probe":        {"bench": {name}, "kind": {"hot"}, "celsius": {"70"}},
		"/lessons/1/safety":       {"version": {"0"}, "key-0": {"own:1"}, "hazard-0": {hostile}, "who-0": {hostile}, "done-0": {hostile}, "adult-0": {hostile}, "left-0": {hostile}},
	} {
		require.Equal(t, 303, s.do("POST", path, form).StatusCode, path)
	}
	room := fields(s.page("GET", "/rooms/1/edit", nil, 200), ".new-form")
	room.Set("name", name)
	room.Set("kept", name+"; "+name+"; 3")
	require.Equal(t, 303, s.do("POST", "/rooms/1/edit", room).StatusCode)
	shown := 0
	s.crawl(2, func(path string, resp *http.Response, doc *goquery.Document) {
		require.Less(t, resp.StatusCode, 500, path)
		if !isPage(resp) {
			return
		}
		assert.Zero(t, doc.Find("script:not([src])").Length(), "%s runs what somebody typed", path)
		assert.Zero(t, doc.Find("img[src=x]").Length(), path)
		doc.Find("*").Each(func(_ int, e *goquery.Selection) {
			for _, a := range e.Nodes[0].Attr {
				if strings.HasPrefix(a.Key, "on") {
					t.Errorf("%s: <%s %s>", path, goquery.NodeName(e), a.Key)
				}
			}
		})
		if strings.Contains(doc.Text(), "<script>") {
			shown++
		}
	})
	assert.Greater(t, shown, 8, "it is there, as text")
	for _, file := range []string{"/times/timetable.ics", "/times/timetable.csv", "/classes/1/class.csv", "/lessons/1/lesson.ics"} {
		assert.NotContains(t, s.do("GET", file, nil).Header.Get("Content-Type"), "html")
	}
}

// A form with ten thousand fields, or with very long ones, is refused or cut
// short, and never a fault.
func TestLargeForms(t *testing.T) {
	s := serve(t)
	many := url.Values{"version": {s.version("/lessons/1/who")}}
	for i := range 10_000 {
		many.Set(fmt.Sprintf("group-%d", i), "1")
		many.Add("away", fmt.Sprint(i))
	}
	long := strings.Repeat("x", 100_000)
	for path, form := range map[string]url.Values{
		"/lessons/1/teams": many, "/lessons/1/who": many, "/classes/1/learners/new": {"given": {long}, "notes": {long}}, "/rooms/1/out": {"unit": {"oven-1"}, "why": {long}},
		"/times/terms": {"name": {long}}, "/signin": {"email": {long}, "password": {long}}, "/tables/who": {"who": {strings.Repeat("knife; 9; ; does; x\n", 5000)}},
		"/lessons/1/safety": {"version": {"0"}, "key-0": {"own:1"}, "hazard-0": {long}}, "/classes": {"name": {long}}, "/people": {"name": {long}, "email": {long + "@x.example"}, "role": {"head"}},
	} {
		status := s.do("POST", path, form).StatusCode
		assert.Contains(t, []int{303, 409, 413, 422}, status, path)
	}
	huge := url.Values{"notes": {strings.Repeat("x", 2<<20)}}
	assert.Contains(t, []int{413, 422}, s.do("POST", "/classes/1/learners/new", huge).StatusCode)
}

// What is no text is refused with a word, wherever it is written or looked for; it is
// never taken for a fault of the database.
func TestWhatIsNoText(t *testing.T) {
	s := serve(t)
	for _, odd := range []string{"a\x00b", "\xff\xfe", "a\x00"} {
		for path, form := range map[string]url.Values{
			"/classes":          {"name": {odd}, "age": {"12"}},
			"/pantry":           {"name": {odd}},
			"/times/terms":      {"name": {odd}, "first": {"2027-01-04"}, "last": {"2027-03-26"}},
			"/tables/ways":      {"name": {odd}, "says": {odd}, "danger": {"blade"}},
			"/lessons/1/notes":  {"notes": {odd}},
			"/signin":           {"email": {odd}, "password": {odd}},
			"/signin/forgotten": {"email": {odd}},
		} {
			assert.Less(t, s.do("POST", path, form).StatusCode, 500, "%s with %q", path, odd)
		}
		for _, path := range []string{"/recipes?q=", "/pantry?q=", "/link/", "/practise?code=", "/people?q="} {
			assert.Less(t, s.do("GET", path+url.QueryEscape(odd), nil).StatusCode, 500, "%s%q", path, odd)
		}
	}
}

// A temperature and a count that are sent again after a lost answer are written once.
func TestSentAgain(t *testing.T) {
	s := serve(t)
	for path, form := range map[string]url.Values{
		"/lessons/1/probe": {"bench": {"Bench 1"}, "kind": {"hot"}, "celsius": {"71.5"}}, "/rooms/1/sharps": {"way": {"out"}, "counted": {"59"}},
	} {
		page := strings.TrimSuffix(path, "/sharps")
		press := s.page("GET", page, nil, 200).Find(`form[action="`+path+`"] input[name=press]`).AttrOr("value", "")
		require.NotEmpty(t, press, path)
		form.Set("press", press)
		for range 3 {
			require.Equal(t, 303, s.do("POST", path, form).StatusCode)
		}
		body := s.page("GET", page, nil, 200).Find("main").Text()
		assert.Equal(t, 1, strings.Count(body, "71.5 °C")+strings.Count(body, "59 of 60")+strings.Count(body, "59 counted"), path)
	}
}
