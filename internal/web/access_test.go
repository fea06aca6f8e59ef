package web_test

import (
	"context"
	"fmt"
	"io"
	"maps"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/core/staff"
	"freshapron/internal/demo"
	"freshapron/internal/golden"
	"freshapron/internal/store"
	"freshapron/internal/web"
	"freshapron/internal/web/frame"
)

// one is the thing of Quillhaven that stands for each part of an address.
var one = map[string]string{
	"{id}": "1", "{number}": "1", "{file}": "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f60", "{edit}": "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f61", "{slug}": "plain-flour", "{list}": "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f62", "{learner}": "1", "{format}": "csv", "{view}": "desk", "{picture}": "5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f63",
}

func address(route string) (method, path string) {
	method, path, _ = strings.Cut(route, " ")
	for part, value := range one {
		path = strings.ReplaceAll(path, part, value)
	}
	return method, path
}

// actions are what somebody must be allowed to do, by route.
var actions = func() map[string]staff.Action {
	out := map[string]staff.Action{}
	for _, r := range web.Routes() {
		out[r.Method+" "+r.Path] = r.Action
	}
	return out
}()

func routes() []string { return slices.Sorted(maps.Keys(actions)) }

// The table of who may do what is made from the routes and kept, so that a
// change of it is seen.
func TestWhoMayDoWhat(t *testing.T) {
	kinds := map[frame.Kind]string{frame.Plain: "page", frame.Uploads: "upload", frame.Streams: "stream"}
	var b strings.Builder
	for _, r := range web.Routes() {
		var who []string
		for _, role := range staff.Roles {
			if role.May(r.Action) {
				who = append(who, string(role))
			}
		}
		fmt.Fprintf(&b, "%-4s %-45s %-8s %-6s %s\n", r.Method, r.Path, r.Action, kinds[r.Kind], strings.Join(who, " "))
		assert.NotEmpty(t, who, "nobody may %s %s", r.Method, r.Path)
	}
	assert.Len(t, actions, len(web.Routes()), "each route is there once")
	golden.Same(t, "routes.txt", b.String())
}

func TestNobodySeesAnything(t *testing.T) {
	s := serve(t)
	s.as("")
	for _, route := range routes() {
		method, path := address(route)
		if method == "GET" {
			resp := s.do(method, path, nil)
			assert.Equal(t, 303, resp.StatusCode, path)
			assert.Equal(t, "/signin?to="+url.QueryEscape(path), resp.Header.Get("Location"))
			assert.Equal(t, 401, s.do(method, path, nil, "HX-Request", "true").StatusCode, path)
			continue
		}
		doc := s.page(method, path, url.Values{}, 401)
		assert.Contains(t, text(doc, "main"), "Nothing was saved")
	}
	for _, cookie := range []string{"fresh-apron=", "fresh-apron=guess", "fresh-apron=" + strings.Repeat("A", 43), "session=1"} {
		assert.Equal(t, 303, s.do("GET", "/", nil, "Cookie", cookie).StatusCode)
	}
	assert.Equal(t, 303, s.do("GET", "/nothing/here", nil).StatusCode, "not even what is missing")
}

// needs are the pages that show what learners need: to those only to whom the
// class belongs, whatever their role.
var needs = []string{"GET /lessons/{id}/food", "GET /lessons/{id}/ways", "GET /lessons/{id}/safety", "GET /lessons/{id}/print/safety", "GET /lessons/{id}/home", "GET /lessons/{id}/print/letter"}

func TestEachRoleDoesItsOwn(t *testing.T) {
	s := serve(t)
	for name, role := range map[string]staff.Role{"Idris Bell": staff.Teacher, "Tomas Finney": staff.Technician, "Bea Lindqvist": staff.Assistant} {
		s.as(name)
		for _, route := range routes() {
			if route == "POST /me/end" {
				continue // signs out
			}
			method, path := address(route)
			var form url.Values
			if method == "POST" {
				form = url.Values{}
			}
			status := s.do(method, path, form).StatusCode
			if slices.Contains(needs, route) && role != staff.Teacher {
				assert.Equal(t, 403, status, "%s as %s, who does not belong to the class", route, role)
			} else if role.May(actions[route]) {
				assert.NotContains(t, []int{401, 403, 500}, status, "%s as %s", route, role)
			} else {
				assert.Equal(t, 403, status, "%s as %s", route, role)
			}
		}
		doc := s.page("GET", "/", nil, 200)
		doc.Find("header.frame a").Each(func(_ int, a *goquery.Selection) {
			assert.Equal(t, 200, s.do("GET", a.AttrOr("href", ""), nil).StatusCode, "%s sees a link to %s", role, a.AttrOr("href", ""))
		})
	}
}

// elsewhere makes another school, with a head of food who is signed in.
func (s *site) elsewhere(t *testing.T) *store.School {
	t.Helper()
	ctx := context.Background()
	other, err := s.App.Store.CreateSchool(ctx, "Thornby School", "Europe/London")
	require.NoError(t, err)
	id, err := other.CreateAccount(ctx, store.Account{Name: "Ilsa Quist", Email: "ilsa.quist@thornby.example", Role: staff.Head, CreatedAt: nine})
	require.NoError(t, err)
	s.cookie = ""
	require.NoError(t, people.SendLink(school.As(ctx, s.App.For(other), store.Account{ID: id, Name: "Ilsa Quist", Role: staff.Head}), id))
	s.signIn(t, s.follow(t, other, "ilsa.quist@thornby.example"), "correct horse staple")
	return other
}

var linkPattern = regexp.MustCompile(`/link/[\w-]+`)

// follow sets a password by the newest link to an address, and returns the
// address.
func (s *site) follow(t *testing.T, in *store.School, to string) string {
	t.Helper()
	box, err := in.Outbox(context.Background(), 10)
	require.NoError(t, err)
	for _, m := range box {
		if m.To == to {
			link := linkPattern.FindString(m.Body)
			s.page("GET", link, nil, 200)
			require.Equal(t, 303, s.do("POST", link, url.Values{"password": {"correct horse staple"}}).StatusCode)
			return to
		}
	}
	t.Fatalf("nothing was sent to %s", to)
	return ""
}

func (s *site) signIn(t *testing.T, email, password string) {
	t.Helper()
	resp := s.do("POST", "/signin", url.Values{"email": {email}, "password": {password}})
	require.Equal(t, 303, resp.StatusCode)
	s.cookie, _, _ = strings.Cut(resp.Header.Get("Set-Cookie"), ";")
}

// Whatever belongs to one school is not there for another, by any route.
func TestOtherSchoolsAreNotThere(t *testing.T) {
	s := serve(t)
	before := s.dump(t)
	s.elsewhere(t)
	for _, route := range routes() {
		if route == "POST /me/end" {
			continue
		}
		method, path := address(route)
		if method == "GET" {
			resp := s.do(method, path, nil)
			body := readAll(t, resp)
			assert.NotContains(t, body, "Quillhaven", route)
			assert.NotContains(t, body, "Maren", route)
			if strings.Contains(route, "{id}") || strings.Contains(route, "{file}") || strings.Contains(route, "{edit}") {
				assert.Equal(t, 404, resp.StatusCode, route)
			}
			continue
		}
		status := s.do(method, path, url.Values{"version": {"1"}, "name": {"x"}, "role": {"head"}, "dish": {"1"}, "class": {"1"}, "room": {"1"}, "period": {"1"}, "change": {"0"}}).StatusCode
		if strings.Contains(route, "{id}") {
			assert.Equal(t, 404, status, route)
		}
	}
	// A form that names the other school's things by their ids makes nothing.
	doc := s.page("POST", "/lessons", url.Values{"form": {one["{file}"]}, "dish": {"1"}, "class": {"1"}, "room": {"1"}, "period": {"1"}, "date": {"2026-11-26"}, "group_size": {"2"}}, 422)
	assert.Contains(t, text(doc, "main"), "Choose a class")
	assert.Equal(t, before, s.dump(t), "nothing of Quillhaven has changed")
}

// dump returns everything that Quillhaven has, in words.
func (s *site) dump(t *testing.T) string {
	t.Helper()
	ctx := context.Background()
	lessons, err := s.school.LessonsBetween(ctx, nine.AddDate(-1, 0, 0), nine.AddDate(1, 0, 0))
	require.NoError(t, err)
	classes, err := s.school.Classes(ctx)
	require.NoError(t, err)
	accounts, err := s.school.Accounts(ctx)
	require.NoError(t, err)
	var ids []string
	for _, l := range lessons {
		ids = append(ids, fmt.Sprint(l.ID, l.Version, l.Date, l.Class.Name, l.Titles()))
	}
	return fmt.Sprint(ids, classes, accounts)
}

func TestSigningIn(t *testing.T) {
	s := serve(t)
	form := url.Values{"name": {"Sam Ardent"}, "email": {"sam@quillhaven.example"}, "role": {"assistant"}}
	require.Equal(t, 303, s.do("POST", "/people", form).StatusCode)
	assert.Contains(t, text(s.page("GET", "/people/outbox", nil, 200), "main"), "sam@quillhaven.example")
	again := s.page("POST", "/people", form, 422)
	assert.Contains(t, text(again, "main"), "has an account already")
	assert.Equal(t, "Sam Ardent", again.Find("#name").AttrOr("value", ""), "what was typed stays")
	bad := s.page("POST", "/people", url.Values{"name": {" "}, "email": {"no address"}, "role": {"king"}}, 422)
	for _, says := range []string{"Give the person’s name", "“no address” is not an address", "Choose what the person does"} {
		assert.Contains(t, text(bad, "main"), says)
	}

	head := s.cookie
	s.cookie = ""
	wrong := func(password string) int {
		return s.do("POST", "/signin", url.Values{"email": {"sam@quillhaven.example"}, "password": {password}}).StatusCode
	}
	assert.Equal(t, 422, wrong(""), "no password is set yet")
	box, err := s.school.Outbox(context.Background(), 1)
	require.NoError(t, err)
	link := linkPattern.FindString(box[0].Body)
	for password, says := range map[string]string{
		"short": "needs at least 12", strings.Repeat("a", 20): "over and over", "passwordpassword": "first to be guessed", strings.Repeat("ab", 150): "longer than 200",
	} {
		assert.Contains(t, text(s.page("POST", link, url.Values{"password": {password}}, 422), "main"), says)
	}
	s.follow(t, s.school, "sam@quillhaven.example")
	assert.Contains(t, text(s.page("GET", link, nil, 404), "main"), "has been used")
	assert.Equal(t, 404, s.do("POST", link, url.Values{"password": {"another good password"}}).StatusCode, "once only")

	s.signIn(t, "Sam@Quillhaven.example", "correct horse staple")
	sam := s.cookie
	assert.Contains(t, text(s.page("GET", "/me", nil, 200), "main"), "Sam Ardent")
	assert.Equal(t, 403, s.do("GET", "/lessons/new", nil).StatusCode)

	// Signing in again makes a new session under a new name; signing out ends one.
	s.signIn(t, "sam@quillhaven.example", "correct horse staple")
	assert.NotEqual(t, sam, s.cookie)
	assert.Equal(t, 303, s.do("GET", "/", nil, "Cookie", sam).StatusCode, "the former session is gone")
	out := s.cookie
	require.Equal(t, 303, s.do("POST", "/signout", url.Values{}).StatusCode)
	assert.Equal(t, 303, s.do("GET", "/", nil, "Cookie", out).StatusCode)

	// Two browsers; one ends the other's session.
	s.cookie = ""
	s.signIn(t, "sam@quillhaven.example", "correct horse staple")
	first := s.cookie
	s.cookie = ""
	s.signIn(t, "sam@quillhaven.example", "correct horse staple")
	sessions := s.page("GET", "/me", nil, 200).Find("input[name=session]")
	require.Equal(t, 2, sessions.Length())
	require.Equal(t, 303, s.do("POST", "/me/end", url.Values{"session": {sessions.Eq(1).AttrOr("value", "")}}).StatusCode)
	left := 0
	for _, c := range []string{first, s.cookie} {
		if s.do("GET", "/", nil, "Cookie", c).StatusCode == 200 {
			left++
		}
	}
	assert.Equal(t, 1, left)

	// Whoever may no longer come in is out at once.
	second := s.cookie
	s.cookie = head
	list := s.page("GET", "/people", nil, 200)
	path := list.Find(`.list a:contains("Sam Ardent")`).AttrOr("href", "")
	require.Equal(t, 303, s.do("POST", path, url.Values{"name": {"Sam Ardent"}, "role": {"assistant"}, "closed": {"1"}}).StatusCode)
	for _, c := range []string{first, second} {
		assert.Equal(t, 303, s.do("GET", "/", nil, "Cookie", c).StatusCode)
	}
	s.cookie = ""
	assert.Equal(t, 422, wrong("correct horse staple"))
	s.cookie = head
	mine := list.Find(`.list a:contains("Maren Holt")`).AttrOr("href", "")
	assert.Contains(t, text(s.page("POST", mine, url.Values{"name": {"Maren Holt"}, "role": {"teacher"}}, 422), "main"), "can’t take your own place away")
	assert.Contains(t, text(s.page("GET", "/people/trail?about=people", nil, 200), "main"), "Sam Ardent may no longer come in")
}

func TestGuessingIsSlowedDown(t *testing.T) {
	s := serve(t)
	s.as("")
	guess := func(email string) int {
		return s.do("POST", "/signin", url.Values{"email": {email}, "password": {"guess"}}).StatusCode
	}
	for range 8 {
		require.Equal(t, 422, guess("maren.holt@quillhaven.example"))
	}
	assert.Equal(t, 429, guess("maren.holt@quillhaven.example"))
	assert.Equal(t, 429, guess(" Maren.Holt@QUILLHAVEN.example "))
	assert.Equal(t, 422, guess("nobody@quillhaven.example"), "others may still try")
	doc := s.page("POST", "/signin", url.Values{"email": {"<script>x</script>@a"}, "password": {"x"}}, 422)
	assert.Equal(t, "<script>x</script>@a", doc.Find("#email").AttrOr("value", ""))
	// Somebody who asks for a link learns nothing of who is here.
	assert.Equal(t, 1, s.page("GET", "/signin/forgotten", nil, 200).Find(`form[action="/signin/forgotten"] input[name=email]`).Length())
	known := text(s.page("POST", "/signin/forgotten", url.Values{"email": {"maren.holt@quillhaven.example"}}, 200), "main")
	unknown := text(s.page("POST", "/signin/forgotten", url.Values{"email": {"nobody@quillhaven.example"}}, 200), "main")
	assert.Equal(t, known, unknown)
	box, err := s.school.Outbox(context.Background(), 10)
	require.NoError(t, err)
	assert.Len(t, box, 1)
}

// The way back after signing in never leads out of the application.
func TestTheWayBack(t *testing.T) {
	s := serve(t)
	s.as("")
	for to, want := range map[string]string{
		"/lessons/1?by=thing": "/lessons/1?by=thing", "https://elsewhere.example/": "/", "//elsewhere.example": "/", "/\\elsewhere.example": "/", "javascript:x": "/", "": "/",
	} {
		doc := s.page("GET", "/signin?to="+url.QueryEscape(to), nil, 200)
		assert.Equal(t, want, doc.Find("input[name=to]").AttrOr("value", ""))
	}
}

// The demonstration's accounts are offered by a demonstration only, and other
// schools' never.
func TestOnlyTheDemonstrationOffers(t *testing.T) {
	s := serve(t)
	other := s.elsewhere(t)
	there, err := other.Accounts(context.Background())
	require.NoError(t, err)
	s.cookie = ""
	doc := s.page("GET", "/signin", nil, 200)
	assert.Equal(t, len(demo.People()), doc.Find(".roles button").Length())
	assert.NotContains(t, text(doc, "main"), "Ilsa")
	assert.Equal(t, 422, s.do("POST", "/signin/demonstration", url.Values{"account": {fmt.Sprint(there[0].ID)}}).StatusCode)
}

func TestSecureCookies(t *testing.T) {
	s := serve(t)
	resp := s.do("POST", "/signin/demonstration", url.Values{"account": {"1"}})
	cookie := resp.Cookies()[0]
	assert.True(t, cookie.HttpOnly)
	assert.Equal(t, http.SameSiteLaxMode, cookie.SameSite)
	assert.WithinDuration(t, time.Now().Add(14*time.Hour), cookie.Expires, time.Minute)
	assert.Equal(t, 403, s.do("POST", "/signin", url.Values{}, "Origin", "https://elsewhere.example", "Sec-Fetch-Site", "cross-site").StatusCode)
	assert.Equal(t, 403, s.do("POST", "/signout", url.Values{}, "Origin", "https://elsewhere.example", "Sec-Fetch-Site", "cross-site").StatusCode)
}

func readAll(t *testing.T, resp *http.Response) string {
	t.Helper()
	data, err := io.ReadAll(resp.Body)
	require.NoError(t, err)
	return string(data)
}
