package web_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/PuerkitoBio/goquery"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/store"
	"freshapron/internal/web"
	"freshapron/internal/web/ui"
)

var nine = demotest.Nine

type site struct {
	*httptest.Server
	t      testing.TB
	url    string // of the database
	down   bool   // the database does not answer
	cookie string // of whoever is signed in
	App    *school.Site
	school *store.School
}

// serve starts the application with a demonstration school of its own, so that
// tests can run side by side.
func serve(t testing.TB) *site {
	t.Helper()
	return serveWatched(t, nil)
}

// serveWatched is serve with somebody who is told of every statement.
func serveWatched(t testing.TB, watch pgx.QueryTracer) *site {
	t.Helper()
	if t, ok := t.(*testing.T); ok {
		t.Parallel()
	}
	a, in, url := demotest.Open(t, watch)
	return serveApp(t, a, in, url)
}

// serveApp starts a copy of the application over a database.
func serveApp(t testing.TB, a *school.Site, in *store.School, url string) *site {
	t.Helper()
	assets, err := ui.Load(fstest.MapFS{
		".vite/manifest.json": {Data: []byte(`{"internal/web/ui/app.js": {"file": "app-1a2b.js", "css": ["app-3c4d.css"]}}`)},
		"app-1a2b.js":         {Data: []byte("export {};")},
	})
	require.NoError(t, err)
	site := &site{t: t, url: url, App: a, school: in}
	site.Server = httptest.NewServer(web.Handler(web.Site{App: a, Assets: assets, Ping: func(ctx context.Context) error {
		if site.down {
			return errors.New("down")
		}
		return a.Store.Ping(ctx)
	}}))
	a.Address = site.URL
	t.Cleanup(func() {
		demotest.Drain(t, a) // ends streams, for which closing would wait
		site.Close()
	})
	site.as("Maren Holt")
	return site
}

// as signs in as one of the demonstration's people; as nobody where the name
// is empty.
func (s *site) as(name string) {
	s.t.Helper()
	s.cookie = ""
	if name == "" {
		return
	}
	list, err := s.App.Store.Offered(context.Background())
	require.NoError(s.t, err)
	for _, a := range list {
		if a.Name == name {
			resp := s.do("POST", "/signin/demonstration", url.Values{"account": {fmt.Sprint(a.ID)}})
			require.Equal(s.t, 303, resp.StatusCode)
			s.cookie, _, _ = strings.Cut(resp.Header.Get("Set-Cookie"), ";")
			return
		}
	}
	s.t.Fatalf("nobody is called %s", name)
}

// learners makes a class one of so many learners of whom nobody is named, behind the
// application's back.
func (s *site) learners(t *testing.T, class string, n int) {
	t.Helper()
	db, err := sql.Open("pgx", s.url)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec("DELETE FROM learners WHERE class_id = (SELECT id FROM classes WHERE name = $1)", class)
	require.NoError(t, err)
	_, err = db.Exec("UPDATE classes SET learners = $1, version = version + 1 WHERE name = $2", n, class)
	require.NoError(t, err)
}

// do sends a request and follows no redirect.
func (s *site) do(method, path string, form url.Values, header ...string) *http.Response {
	s.t.Helper()
	var body io.Reader
	if form != nil {
		body = strings.NewReader(form.Encode())
	}
	r, err := http.NewRequest(method, s.URL+path, body)
	require.NoError(s.t, err)
	if form != nil {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	if s.cookie != "" {
		r.Header.Set("Cookie", s.cookie)
	}
	for i := 0; i < len(header); i += 2 {
		r.Header.Set(header[i], header[i+1])
	}
	resp, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Do(r)
	require.NoError(s.t, err)
	s.t.Cleanup(func() { _ = resp.Body.Close() })
	return resp
}

func (s *site) page(method, path string, form url.Values, status int, header ...string) *goquery.Document {
	s.t.Helper()
	resp := s.do(method, path, form, header...)
	require.Equal(s.t, status, resp.StatusCode, "%s %s", method, path)
	doc, err := goquery.NewDocumentFromReader(resp.Body)
	require.NoError(s.t, err)
	return doc
}

// text returns the words of what is found, spaces folded.
func text(doc *goquery.Document, selector string) string {
	return strings.Join(strings.Fields(doc.Find(selector).Text()), " ")
}

// filled returns the lesson form as the page shows it.
func filled(doc *goquery.Document) url.Values {
	form := url.Values{}
	doc.Find("#settings-form input, #settings-form select").Each(func(_ int, s *goquery.Selection) {
		name, _ := s.Attr("name")
		value, _ := s.Attr("value")
		if goquery.NodeName(s) == "select" {
			value, _ = s.Find("option[selected]").Attr("value")
		}
		form.Add(name, value)
	})
	return form
}

func newLesson(doc *goquery.Document, changes map[string]string) url.Values {
	option := func(name, label string) string {
		v := ""
		doc.Find("[name=" + name + "]").Each(func(_ int, s *goquery.Selection) {
			s.Find("option").Each(func(_ int, o *goquery.Selection) {
				if strings.HasPrefix(o.Text(), label) {
					v, _ = o.Attr("value")
				}
			})
			if strings.HasPrefix(strings.TrimSpace(s.Parent().Text()), label) && goquery.NodeName(s) == "input" {
				v, _ = s.Attr("value")
			}
		})
		return v
	}
	form := url.Values{}
	form.Set("form", doc.Find("input[name=form]").AttrOr("value", ""))
	form.Set("dish", option("dish", "Leek tartlets"))
	form.Set("class", option("class", "8 Hazel"))
	form.Set("room", option("room", "Food Room"))
	form.Set("period", option("period", "Period 3"))
	form.Set("date", "2026-11-26")
	form.Set("group_size", "2")
	for k, v := range changes {
		form.Set(k, v)
	}
	return form
}

func TestHomeShowsTodayAndWhatItNeeds(t *testing.T) {
	doc := serve(t).page("GET", "/", nil, 200)
	assert.Equal(t, "Thursday 26 November", text(doc, "h1"))
	assert.Equal(t, 3, doc.Find(".day").First().Find(".entry").Length())
	first := doc.Find(".entry").First()
	assert.Equal(t, "Herb scones", first.Find(".entry-title").Text())
	// 26 learners with four scones each are 104, a demonstration of 8 and a
	// spare set of 8: 120/8 · 225 g of flour, 120/8 · 50 g of butter; one bench of
	// two swaps the flour, another butter and milk, 8/8 of each.
	needs := strings.Join(strings.Fields(first.Find(".needs").Text()), " ")
	assert.Contains(t, needs, "3.15 kg self-raising flour")
	assert.Contains(t, needs, "225 g gluten-free plain flour for self-raising flour at Bench 8")
	assert.Contains(t, needs, "700 g butter")
	assert.Contains(t, needs, "6 ovens at 220 °C")
	assert.Contains(t, first.Find(".now").Text(), "in 65 min")
}

func TestFromTheFormToThePlan(t *testing.T) {
	s := serve(t)
	form := newLesson(s.page("GET", "/lessons/new", nil, 200), nil)
	resp := s.do("POST", "/lessons", form)
	require.Equal(t, 303, resp.StatusCode)
	path := resp.Header.Get("Location")
	again := s.do("POST", "/lessons", form)
	assert.Equal(t, path, again.Header.Get("Location"), "posted twice, made once")

	doc := s.page("GET", path, nil, 200)
	assert.Equal(t, "Leek tartlets", text(doc, "h1"))
	// Pairs: 5/1.8 + 5 + 1.5 + 5 + 7 + 2.5 + 0.5 + 16 + 2 min = 42:17 of work
	// and waits in a row, and the phases leave 40.
	assert.Equal(t, "2½ min missing", text(doc, "#figure"))
	assert.Contains(t, text(doc, ".verdict"), "one bench alone takes 42 min, and the phases leave 40 min")
	assert.Equal(t, 6, doc.Find(".verdict").Length())
	row := doc.Find(".amounts tbody tr").Eq(1)
	assert.Equal(t, "plain flour plus a little for the board 150 g 150 g – 1.8 kg2.1 kg", strings.Join(strings.Fields(row.Text()), " "))

	change := filled(doc)
	change.Set("phases[1].minutes", "5")
	resp = s.do("POST", path, change)
	require.Equal(t, 303, resp.StatusCode)
	doc = s.page("GET", path, nil, 200)
	assert.Equal(t, "½ min left", text(doc, "#figure"), "three minutes less of demonstration")

	part := s.page("POST", path, filled(doc), 200, "HX-Request", "true")
	assert.Equal(t, 0, part.Find("header.frame").Length(), "htmx gets the lesson alone")
	assert.Equal(t, 1, part.Find("#lesson").Length())
}

func TestWhatWasTypedStays(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/lessons/1", nil, 200)
	for _, c := range []struct {
		field, value, where, says string
	}{
		{"phases[1].minutes", "80", ".phases .problem", "The phases at the start and the end take 97 minutes, and the period has only 65."},
		{"phases[1].minutes", "soon", "#phase-1-minutes-problem", "Minutes of “Demonstration”: “soon” is not a number of minutes."},
		{"phases[1].minutes", "-5", "#phase-1-minutes-problem", "Minutes of “Demonstration”: minutes can’t be less than 0."},
		{"menu[0].each", "lots", "#menu-0-each-problem", "For each learner: “lots” is not a whole number."},
		{"menu[0].each", "0", "#menu-0-each-problem", "Scones for each learner: 0 is not between 1 and 100."},
		{"group_size", "1", "#group_size-problem", "26 groups need 26 places to work, and the Food Room has 24 (12 benches of 2). Make the groups larger."},
		{"date", "tomorrow", "#date-problem", "“tomorrow” is not a date such as 2026-11-26."},
		{"period", "999", "#period-problem", "Choose a period."},
		{"class", "", "#class-problem", "Choose a class."},
	} {
		form := filled(doc)
		form.Set(c.field, c.value)
		bad := s.page("POST", "/lessons/1", form, 422)
		assert.Equal(t, c.says, text(bad, c.where))
		if c.field != "period" && c.field != "class" {
			assert.Equal(t, c.value, filled(bad).Get(c.field), "kept in the form")
		}
		assert.Equal(t, "Hands, hair, aprons", filled(bad).Get("phases[0].name"))
		assert.Contains(t, text(bad, ".settings .problem"), "Not saved.")
	}
	after := s.page("GET", "/lessons/1", nil, 200)
	assert.Equal(t, filled(doc), filled(after), "nothing was saved")
}

func TestNewLessonFaults(t *testing.T) {
	s := serve(t)
	blank := s.page("GET", "/lessons/new", nil, 200)
	doc := s.page("POST", "/lessons", url.Values{"date": {"2026-13-01"}}, 422)
	assert.Equal(t, "Choose a dish.", text(doc, "#dish-problem"))
	assert.Equal(t, "Choose a class.", text(doc, "#class-problem"))
	assert.Equal(t, "“2026-13-01” is not a date such as 2026-11-26.", text(doc, "#date-problem"))
	assert.Equal(t, "2026-13-01", doc.Find("#date").AttrOr("value", ""))

	doc = s.page("POST", "/lessons", newLesson(blank, map[string]string{"group_size": "1", "class": "1"}), 422)
	assert.Contains(t, text(doc, "#group_size-problem"), "26 groups need 26 places")
	assert.Equal(t, 1, doc.Find("#group_size-1[checked]").Length())

	doc = s.page("POST", "/lessons", newLesson(blank, map[string]string{"class": `"><script>alert(1)</script>`, "date": "<b>"}), 422)
	assert.Equal(t, 0, doc.Find("main script, main date b").Length(), "shown, not run")
}

func TestTwoWindows(t *testing.T) {
	s := serve(t)
	first := filled(s.page("GET", "/lessons/1", nil, 200))
	second := filled(s.page("GET", "/lessons/1", nil, 200))
	first.Set("group_size", "4")
	require.Equal(t, 303, s.do("POST", "/lessons/1", first).StatusCode)
	second.Set("spare", "2")
	doc := s.page("POST", "/lessons/1", second, 409)
	says := text(doc, ".settings .problem")
	assert.Contains(t, says, "This lesson was changed after this page was opened")
	assert.Contains(t, says, "Learners work is now “In fours”, you have “In pairs”.")
	assert.Contains(t, says, "Spare sets is now “1”, you have “2”.")
	assert.Equal(t, "2", filled(doc).Get("spare"), "mine is kept")
	require.Equal(t, 303, s.do("POST", "/lessons/1", filled(doc)).StatusCode, "and can be saved over theirs")
	now := filled(s.page("GET", "/lessons/1", nil, 200))
	assert.Equal(t, "2", now.Get("group_size"))
	assert.Equal(t, "2", now.Get("spare"))
}

func TestPhasesComeAndGo(t *testing.T) {
	s := serve(t)
	form := filled(s.page("GET", "/lessons/1", nil, 200))
	form.Set("phases[2].place", "end_waits")
	form.Set("phases[4].name", "Stop and look")
	form.Set("phases[4].minutes", "2,5")
	form.Set("phases[4].place", "minute")
	form.Set("phases[4].minute", "30")
	require.Equal(t, 303, s.do("POST", "/lessons/1", form).StatusCode)
	form = filled(s.page("GET", "/lessons/1", nil, 200))
	assert.Equal(t, "2.5", form.Get("phases[4].minutes"))
	assert.Equal(t, "end_waits", form.Get("phases[2].place"))
	form.Set("remove", "4")
	require.Equal(t, 303, s.do("POST", "/lessons/1", form).StatusCode)
	form = filled(s.page("GET", "/lessons/1", nil, 200))
	assert.Equal(t, "", form.Get("phases[4].name"))
	form.Set("phases[3].minute", "99999")
	form.Set("phases[3].place", "minute")
	doc := s.page("POST", "/lessons/1", form, 422)
	assert.Contains(t, text(doc, "#phase-3-minute-problem"), "99999 is more than a day")
}

// A lesson that was in order and no longer is, because its class has changed,
// says so and leaves the others alone.
func TestALessonThatCanNoLongerBePlanned(t *testing.T) {
	s := serve(t)
	s.learners(t, "8 Hazel", 40)
	doc := s.page("GET", "/", nil, 200)
	assert.Equal(t, 3, doc.Find(".day").First().Find(".entry").Length())
	assert.Contains(t, text(doc, ".entry"), "40 learners don't fit: the Food Room has 12 benches and is safe for 36.")
	doc = s.page("GET", "/lessons/2", nil, 200)
	assert.Equal(t, "can’t be planned", text(doc, "#figure"))
	assert.Contains(t, text(doc, "#class-problem"), "Split the class or take another room.")
	assert.Equal(t, 303, s.do("GET", "/lessons/2/print", nil).StatusCode)
	form := filled(doc)
	form.Set("class", "1")
	assert.Equal(t, 303, s.do("POST", "/lessons/2", form).StatusCode)
	s.learners(t, "8 Hazel", 0)
	assert.Contains(t, text(s.page("GET", "/", nil, 200), ".entry"), "8 Hazel has no learners.")
}

func TestUnknownAddresses(t *testing.T) {
	s := serve(t)
	for _, path := range []string{"/lessons/99999", "/lessons/abc", "/lessons/99999999999999999999", "/lessons/1/prnt", "/wp-admin", "/lessons/99999/print", "/lessons/99999/lesson.json"} {
		doc := s.page("GET", path, nil, 404)
		assert.Equal(t, "There is nothing at this address", text(doc, "h1"), path)
		assert.NotZero(t, doc.Find("main a[href='/']").Length(), "a way on")
	}
	s.page("POST", "/lessons/99999", url.Values{}, 404)
	s.page("DELETE", "/lessons/1", nil, 404)
}

func TestHeadersKeepOthersOut(t *testing.T) {
	s := serve(t)
	resp := s.do("GET", "/", nil, "Accept-Encoding", "gzip")
	csp := resp.Header.Get("Content-Security-Policy")
	assert.Contains(t, csp, "default-src 'self'")
	assert.NotContains(t, csp, "unsafe")
	assert.Equal(t, "nosniff", resp.Header.Get("X-Content-Type-Options"))
	assert.Equal(t, "gzip", resp.Header.Get("Content-Encoding"))

	form := filled(s.page("GET", "/lessons/1", nil, 200))
	assert.Equal(t, 403, s.do("POST", "/lessons/1", form, "Sec-Fetch-Site", "cross-site").StatusCode)
	assert.Equal(t, 403, s.do("POST", "/lessons/1", form, "Origin", "https://elsewhere.example").StatusCode)
	assert.Equal(t, 303, s.do("POST", "/lessons/1", form, "Sec-Fetch-Site", "same-origin").StatusCode)

	asset := s.do("GET", "/assets/app-1a2b.js", nil)
	assert.Equal(t, 200, asset.StatusCode)
	assert.Contains(t, asset.Header.Get("Cache-Control"), "immutable")
	assert.Equal(t, 404, s.do("GET", "/assets/", nil).StatusCode, "nothing is listed")
	gone := s.do("GET", "/assets/app-0000.js", nil)
	assert.Equal(t, 404, gone.StatusCode)
	assert.NotContains(t, gone.Header.Get("Cache-Control"), "immutable", "what is missing may come")
	assert.Equal(t, 413, s.do("POST", "/lessons/1", url.Values{"x": {strings.Repeat("y", 2<<20)}}).StatusCode)
}

func TestHealth(t *testing.T) {
	s := serve(t)
	resp := s.do("GET", "/healthz", nil)
	assert.Equal(t, 200, resp.StatusCode)
	s.down = true
	resp = s.do("GET", "/healthz", nil)
	body, _ := io.ReadAll(resp.Body)
	assert.Equal(t, 503, resp.StatusCode)
	assert.JSONEq(t, `{"status": "unavailable", "database": "does not answer"}`, string(body))
}

func TestPrintAndLessonFile(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/lessons/1/print", nil, 200)
	assert.Equal(t, 0, doc.Find("header.frame").Length())
	assert.Contains(t, text(doc, ".sheet-foot"), "Contains: cereals containing gluten (wheat), cereals containing gluten (oats), milk.")
	assert.Contains(t, text(doc, ".ovens"), "Oven 1–6 at 220 °C, on at 10:05")
	resp := s.do("GET", "/lessons/1/lesson.json", nil)
	lesson, err := lessonfile.Read(resp.Body)
	require.NoError(t, err)
	assert.Len(t, lesson.Groups, 12)
}

func TestEveryLessonOfTheDemonstrationOpens(t *testing.T) {
	s := serve(t)
	for id := 1; id <= 6; id++ {
		doc := s.page("GET", fmt.Sprintf("/lessons/%d", id), nil, 200)
		assert.NotZero(t, doc.Find("svg.timeline .bar").Length())
		assert.Empty(t, doc.Find("[style], [onclick], script:not([src])").Nodes, "the policy forbids them")
	}
}

func BenchmarkLessonPage(b *testing.B) {
	s := serve(b)
	for b.Loop() {
		resp := s.do("GET", "/lessons/1", nil)
		_, err := io.Copy(io.Discard, resp.Body)
		require.NoError(b, err)
		_ = resp.Body.Close()
	}
}

func BenchmarkRecipePage(b *testing.B) {
	s := serve(b)
	for b.Loop() {
		resp := s.do("GET", "/recipes/8", nil)
		_, err := io.Copy(io.Discard, resp.Body)
		require.NoError(b, err)
		_ = resp.Body.Close()
	}
}
