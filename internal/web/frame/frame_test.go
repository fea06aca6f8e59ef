package frame_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/PuerkitoBio/goquery"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/store"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/ui"
)

var own = frame.Parse(fstest.MapFS{"templates/x.html": {Data: []byte(
	`{{define "x-page"}}{{template "open" .}}{{template "x" .}}{{template "close" .}}{{end}}{{define "x"}}<p id="said">{{.Data}}</p>{{end}}{{define "broken-page"}}{{.Data.Nothing}}{{end}}`)}})

var f = &frame.Frame{Assets: &ui.Assets{}}

// asked returns a request of somebody with a role.
func asked(role staff.Role, path string) *http.Request {
	r := httptest.NewRequest("GET", path, nil)
	here := &school.School{School: &store.School{Name: "Thornby"}}
	return r.WithContext(school.As(r.Context(), here, store.Account{Name: "Ilsa <Quist>", Role: role}))
}

func answer(r *http.Request, do func(http.ResponseWriter, *http.Request)) (*http.Response, *goquery.Document) {
	w := httptest.NewRecorder()
	do(w, r)
	doc, err := goquery.NewDocumentFromReader(bytes.NewReader(w.Body.Bytes()))
	if err != nil {
		panic(err)
	}
	return w.Result(), doc
}

// A browser gets a page, htmx the part that it asks for; both are never kept.
func TestPagesAndParts(t *testing.T) {
	show := func(w http.ResponseWriter, r *http.Request) {
		_ = f.Render(w, r, 200, own, "x", frame.Page{Title: "A title", Place: "recipes", Data: "<b>1 & 2</b>"})
	}
	resp, doc := answer(asked(staff.Head, "/"), show)
	assert.Equal(t, "no-store", resp.Header.Get("Cache-Control"))
	assert.Equal(t, "A title – Fresh Apron", doc.Find("title").Text())
	assert.Equal(t, "<b>1 & 2</b>", doc.Find("#said").Text(), "what is shown is text")
	assert.Equal(t, "/recipes", doc.Find("nav [aria-current=page]").AttrOr("href", ""))
	assert.Contains(t, doc.Find("header").Text(), "Ilsa <Quist>")

	part := asked(staff.Head, "/")
	part.Header.Set("HX-Request", "true")
	resp, doc = answer(part, show)
	assert.Equal(t, 1, doc.Find("#said").Length())
	assert.Zero(t, doc.Find("header").Length())
	assert.Contains(t, resp.Header.Values("Vary"), "HX-Request")
	part.Header.Set("HX-History-Restore-Request", "true")
	_, doc = answer(part, show)
	assert.Equal(t, 1, doc.Find("header").Length(), "the back button gets a whole page")

	resp, _ = answer(asked(staff.Head, "/"), func(w http.ResponseWriter, r *http.Request) {
		f.Answer(w, r, func(w http.ResponseWriter, r *http.Request) error {
			return f.Render(w, r, 200, own, "broken", frame.Page{Data: "x"})
		})
	})
	assert.Equal(t, 500, resp.StatusCode, "a page that can't be drawn is not sent in half")
}

// The head of a page leads only where somebody may go.
func TestPlacesByRole(t *testing.T) {
	for role, want := range map[staff.Role][]string{
		staff.Head:       {"/", "/recipes", "/lessons/new", "/prepare", "/judge", "/pantry", "/rooms", "/classes", "/times", "/tables", "/people"},
		staff.Teacher:    {"/", "/recipes", "/lessons/new", "/prepare", "/judge", "/pantry", "/rooms", "/classes", "/times", "/tables"},
		staff.Assessor:   {"/judge"},
		staff.Technician: {"/", "/recipes", "/prepare", "/pantry", "/rooms", "/times", "/tables"},
	} {
		_, doc := answer(asked(role, "/"), func(w http.ResponseWriter, r *http.Request) { f.NotFound(w, r) })
		var got []string
		doc.Find("nav a").Each(func(_ int, a *goquery.Selection) { got = append(got, a.AttrOr("href", "")) })
		assert.Equal(t, want, got, role)
	}
	_, doc := answer(httptest.NewRequest("GET", "/", nil), func(w http.ResponseWriter, r *http.Request) { f.NotFound(w, r) })
	assert.Zero(t, doc.Find("nav").Length(), "nobody is shown no places")
}

func TestErrorsBecomePages(t *testing.T) {
	for _, c := range []struct {
		err    error
		status int
		says   string
	}{
		{store.ErrNotFound, 404, "There is nothing at this address"},
		{fmt.Errorf("lesson 3: %w", store.ErrNotFound), 404, "/somewhere/<i>"},
		{&http.MaxBytesError{Limit: 5}, 413, "too much for one form"},
		{school.ErrNotYours, 403, "somebody else’s"},
		{fmt.Errorf("save: %w", school.ErrChanged), 409, "meanwhile"},
		{school.ErrBusy, 503, "nothing of it was saved"},
		{problem.New("name", "give it a name"), 422, "Give it a name."},
		{errors.New("the password of the database is hunter2"), 503, "This did not work"},
	} {
		resp, doc := answer(asked(staff.Teacher, "/somewhere/<i>"), func(w http.ResponseWriter, r *http.Request) { f.Error(w, r, c.err) })
		assert.Equal(t, c.status, resp.StatusCode)
		assert.Contains(t, doc.Find("main").Text(), c.says)
		assert.NotContains(t, doc.Text(), "hunter2", "what went wrong inside stays inside")
		assert.Equal(t, 1, doc.Find("main a[href='/']").Length(), "there is a way on")
		assert.Zero(t, doc.Find("main i").Length())
	}
	for method, want := range map[string]string{"GET": "try again in a moment", "POST": "Whether it was saved is not known"} {
		r := asked(staff.Teacher, "/")
		r.Method = method
		_, doc := answer(r, func(w http.ResponseWriter, r *http.Request) { f.Error(w, r, errors.New("x")) })
		assert.Contains(t, doc.Find("main").Text(), want, "nobody says what they do not know")
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	resp, doc := answer(asked(staff.Teacher, "/").WithContext(gone), func(w http.ResponseWriter, r *http.Request) { f.Error(w, r, errors.New("given up")) })
	assert.Equal(t, 200, resp.StatusCode)
	assert.Empty(t, doc.Text(), "whoever has gone gets no answer")
	for status, do := range map[int]func(http.ResponseWriter, *http.Request){403: f.Forbidden, 500: f.Panic} {
		resp, _ := answer(asked(staff.Assistant, "/"), do)
		assert.Equal(t, status, resp.StatusCode)
	}
	_, doc = answer(asked(staff.Assistant, "/"), f.Forbidden)
	assert.Contains(t, doc.Find("main").Text(), "Ilsa <Quist> is "+staff.Assistant.Name())
}

func TestIDsOfAddresses(t *testing.T) {
	for in, want := range map[string]int64{"1": 1, "9223372036854775807": 1<<63 - 1, "0": 0, "-1": 0, "": 0, "x": 0, "1.5": 0, "9223372036854775808": 0, "0x1": 0, " 1": 0} {
		r := httptest.NewRequest("GET", "/", nil)
		c := chi.NewRouteContext()
		c.URLParams.Add("id", in)
		assert.Equal(t, want, frame.ID(r.WithContext(context.WithValue(r.Context(), chi.RouteCtxKey, c)), "id"), in)
	}
}

// What is pasted is taken where no file was chosen, or an empty one.
func TestUploads(t *testing.T) {
	upload := func(text string, file *string) (string, string) {
		var b bytes.Buffer
		m := multipart.NewWriter(&b)
		require.NoError(t, m.WriteField("text", text))
		if file != nil {
			w, err := m.CreateFormFile("file", "list.csv")
			require.NoError(t, err)
			_, err = w.Write([]byte(*file))
			require.NoError(t, err)
		}
		require.NoError(t, m.Close())
		r := httptest.NewRequest("POST", "/", &b)
		r.Header.Set("Content-Type", m.FormDataContentType())
		pasted, data, err := frame.Uploaded(r)
		require.NoError(t, err)
		return pasted, string(data)
	}
	list, empty := "Ada;Lomax\x00\xff", ""
	for _, c := range []struct {
		text string
		file *string
		want string
	}{{"pasted", nil, "pasted"}, {"pasted", &list, list}, {"pasted", &empty, "pasted"}, {"", nil, ""}} {
		pasted, data := upload(c.text, c.file)
		assert.Equal(t, c.text, pasted)
		assert.Equal(t, c.want, data)
	}
	r := httptest.NewRequest("POST", "/", strings.NewReader(url.Values{"text": {"a plain form"}}.Encode()))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	pasted, data, err := frame.Uploaded(r)
	require.NoError(t, err)
	assert.Equal(t, "a plain form", pasted)
	assert.Equal(t, "a plain form", string(data))
}

func TestFields(t *testing.T) {
	problems := problem.List{{Path: "name", Says: "give it a name"}, {Path: "age", Says: "Too young."}, {Path: "name", Says: "it is taken"}}
	assert.Equal(t, "Give it a name. It is taken.", problems.At("name"))
	assert.Empty(t, problems.At("pace"))
	assert.Empty(t, problem.Sentence(""))
	assert.Equal(t, "Äpfel.", problem.Sentence("äpfel"))
	field := frame.Choice("room", "Room", "2", problems, []frame.Option{{Value: "1", Label: "Food Room"}, {Value: "2", Label: "Corner"}})
	assert.Equal(t, "room-2", field.Options[1].ID)
	assert.True(t, field.Options[1].Chosen)
	assert.False(t, field.Options[0].Chosen)
	assert.Equal(t, "Too young.", frame.Text("age", "Age", "2", problems).Problem)
}

func TestSidesOfALesson(t *testing.T) {
	labels := func(mine bool) (out []string) {
		for _, s := range frame.Sides(7, "Safety", mine) {
			out = append(out, s.Label)
			assert.Equal(t, s.Label == "Safety", s.Current)
			assert.True(t, strings.HasPrefix(s.Href, "/lessons/7"))
		}
		return out
	}
	assert.Equal(t, []string{"Plan", "Who", "Food", "Other ways", "Safety", "Floor", "Temperatures", "Trays", "Home", "Teach", "Judge"}, labels(true))
	assert.Equal(t, []string{"Plan", "Who", "Floor", "Temperatures", "Trays", "Teach"}, labels(false), "what learners need is for the staff of the class")
}

// Streams that nobody closes do not wear the program out: so many may be open, and
// one that is closed makes room.
func TestStreamsAreCounted(t *testing.T) {
	f := &frame.Frame{Assets: &ui.Assets{}}
	status := func(whose string, do frame.Handler) int {
		w := httptest.NewRecorder()
		f.Stream(w, httptest.NewRequest("GET", "/", nil), whose, do)
		return w.Code
	}
	var within func(n int) int
	within = func(n int) int {
		return status("bench a", func(w http.ResponseWriter, _ *http.Request) error {
			if n > 1 {
				w.WriteHeader(within(n - 1))
				return nil
			}
			w.WriteHeader(status("bench a", func(http.ResponseWriter, *http.Request) error { return nil }))
			assert.Equal(t, 200, status("bench b", func(http.ResponseWriter, *http.Request) error { return nil }))
			return nil
		})
	}
	assert.Equal(t, 200, within(199))
	assert.Equal(t, 429, within(200))
	assert.Equal(t, 200, within(199))
}
