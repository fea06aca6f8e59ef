package web_test

import (
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/staff"
	"freshapron/internal/demo"
	"freshapron/internal/web"
)

// inside turns a link of a page into an address of this site, without its
// fragment; it reports false for what leads elsewhere.
func inside(t testing.TB, from, link string) (string, bool) {
	base, err := url.Parse(from)
	require.NoError(t, err)
	u, err := base.Parse(link)
	require.NoError(t, err, "%s links to %q", from, link)
	u.Fragment = ""
	return u.String(), u.Host == "" && strings.HasPrefix(u.Path, "/")
}

// A visit looks at what a crawl has come to. Of what is no page the document holds the text.
type visit func(path string, resp *http.Response, doc *goquery.Document)

// An answer is what an address gave.
type answer struct {
	resp *http.Response
	doc  *goquery.Document
}

// open asks for an address.
func (s *site) open(path string) answer {
	resp := s.do("GET", path, nil)
	doc, err := goquery.NewDocumentFromReader(resp.Body)
	require.NoError(s.t, err)
	return answer{resp, doc}
}

func isPage(resp *http.Response) bool {
	return strings.HasPrefix(resp.Header.Get("Content-Type"), "text/html")
}

// untouched are the answers of a demonstration in which nothing has been done yet, as the
// head of food gets them, by their addresses: what several tests look through is asked for
// once.
var untouched sync.Map

// crawlUntouched is crawl from the first page of a demonstration in which nothing has been
// done yet.
func (s *site) crawlUntouched(most int, visit visit) {
	follow(s.t, "/", most, func(path string) answer {
		if a, ok := untouched.Load(path); ok {
			return a.(answer)
		}
		a := s.open(path)
		untouched.Store(path, a)
		return a
	}, visit)
}

// crawl opens every page that can be reached by links from the first, at most so many of a
// kind.
func (s *site) crawl(most int, visit visit) { follow(s.t, "/", most, s.open, visit) }

// follow visits what can be reached by links from the first address, at most so many of a
// kind: addresses count as one kind when they differ only in numbers or in what is asked.
func follow(t testing.TB, first string, most int, open func(path string) answer, visit visit) {
	kindOf := func(path string) string {
		path, _, _ = strings.Cut(path, "?")
		parts := strings.Split(path, "/")
		for i, part := range parts {
			if part != "" && strings.Trim(part, "0123456789") == "" || i > 1 && parts[1] == "pantry" && part != "new" && part != "settings" {
				parts[i] = "*"
			}
		}
		return strings.Join(parts, "/")
	}
	seen, kinds := map[string]bool{first: true}, map[string]int{}
	queue := []string{first}
	for len(queue) > 0 {
		path := queue[0]
		queue = queue[1:]
		a := open(path)
		visit(path, a.resp, a.doc)
		if !isPage(a.resp) {
			continue
		}
		a.doc.Find("a[href], link[href], script[src]").Each(func(_ int, a *goquery.Selection) {
			to, ok := inside(t, path, a.AttrOr("href", a.AttrOr("src", "")))
			if !ok || seen[to] || strings.HasPrefix(to, "/assets/") {
				return
			}
			seen[to] = true
			if kinds[kindOf(to)]++; kinds[kindOf(to)] <= most {
				queue = append(queue, to)
			}
		})
	}
	require.Greater(t, len(kinds), 8, "kinds of pages")
}

// Every link of every page leads somewhere, and every page is one that a
// reader of screens can use: one heading of the first rank, a title, no name
// used twice, a label for every field, words in every button and link.
func TestEveryLinkLeadsSomewhere(t *testing.T) {
	s := serve(t)
	pages := 0
	s.crawlUntouched(4, func(path string, resp *http.Response, doc *goquery.Document) {
		pages++
		require.Equal(t, 200, resp.StatusCode, path)
		if !isPage(resp) {
			return
		}
		assert.Equal(t, 1, doc.Find("h1").Length(), "%s: headings of the first rank", path)
		assert.NotEmpty(t, strings.TrimSpace(doc.Find("title").Text()), path)
		ids := map[string]bool{}
		doc.Find("[id]").Each(func(_ int, e *goquery.Selection) {
			id := e.AttrOr("id", "")
			assert.False(t, ids[id], "%s: two things are called %q", path, id)
			ids[id] = true
		})
		for _, attribute := range []string{"for", "aria-describedby", "aria-labelledby", "aria-controls"} {
			doc.Find("[" + attribute + "]").Each(func(_ int, e *goquery.Selection) {
				for _, id := range strings.Fields(e.AttrOr(attribute, "")) {
					assert.True(t, ids[id], "%s: %s names %q, which is not there", path, attribute, id)
				}
			})
		}
		doc.Find("input, select, textarea").Each(func(_ int, e *goquery.Selection) {
			id := e.AttrOr("id", "")
			named := e.AttrOr("type", "") == "hidden" || e.AttrOr("aria-label", "") != "" || e.AttrOr("aria-labelledby", "") != "" ||
				e.Closest("label").Length() > 0 || id != "" && doc.Find(`label[for="`+id+`"]`).Length() > 0
			assert.True(t, named, "%s: no label for %q", path, e.AttrOr("name", id))
		})
		doc.Find("a[href], button").Each(func(_ int, e *goquery.Selection) {
			words := strings.TrimSpace(e.Text()) + e.AttrOr("aria-label", "") + e.AttrOr("title", "")
			assert.NotEmpty(t, words, "%s: a link or button without words", path)
		})
		doc.Find("img").Each(func(_ int, e *goquery.Selection) {
			_, ok := e.Attr("alt")
			assert.True(t, ok, "%s: a picture without words", path)
		})
		doc.Find("th").Each(func(_ int, e *goquery.Selection) {
			assert.NotEmpty(t, e.AttrOr("scope", ""), "%s: heading %q has no scope", path, e.Text())
		})
		for _, slip := range []string{"%!", "<nil>", "NaN", "+Inf", "{{", "0001-01-01", "[object"} {
			assert.NotContains(t, doc.Find("body").Text(), slip, path)
		}
	})
	assert.Greater(t, pages, 80)
}

// Every form of every page, sent as it stands by its first button, goes to an
// address that takes it.
func TestEveryFormHasAnAddress(t *testing.T) {
	s := serve(t)
	forms := map[string]url.Values{}
	s.crawlUntouched(2, func(path string, _ *http.Response, doc *goquery.Document) {
		doc.Find("form").Each(func(_ int, f *goquery.Selection) {
			to, ok := inside(t, path, f.AttrOr("action", path))
			if !ok || to == "/signout" || to == "/me/end" || strings.HasSuffix(to, "/remove") {
				return
			}
			values := url.Values{}
			f.Find("input[type=hidden], button[name]").Each(func(_ int, e *goquery.Selection) {
				if name := e.AttrOr("name", ""); !values.Has(name) {
					values.Set(name, e.AttrOr("value", ""))
				}
			})
			forms[strings.ToUpper(f.AttrOr("method", "get"))+" "+to] = values
		})
	})
	require.Greater(t, len(forms), 10)
	// What only asks comes first: it asks for what the others may end.
	for _, action := range slices.Sorted(maps.Keys(forms)) {
		values := forms[action]
		method, path, _ := strings.Cut(action, " ")
		if method == "GET" {
			values = nil
		}
		status := s.do(method, path, values).StatusCode
		assert.NotContains(t, []int{404, 405, 500, 501}, status, "%s with %v", action, values)
	}
}

// Whatever stands behind the question mark, a page answers.
func TestOddQuestions(t *testing.T) {
	s := serve(t)
	dish := s.dish("Leek tartlets", "ready")
	odd := []string{"", "-1", "999999999999999999999", "½", "%00", "<b>", "' OR 1=1", strings.Repeat("long ", 300)}
	for _, page := range []struct {
		path  string
		names []string
	}{
		{"/recipes", []string{"q", "status", "period", "oven", "diet", "without", "skill", "pence", "sort"}},
		{dish, []string{"version", "size", "group_size"}},
		{dish + "/amounts", []string{"pieces", "first", "bench", "benches", "tin", "room", "learners", "size"}},
		{dish + "/choose", []string{"choice", "pieces"}},
		{dish + "/card", []string{"size", "form", "pieces"}},
		{dish + "/preparation", []string{"pieces", "learners", "class"}},
		{dish + "/versions", []string{"a", "b", "version"}},
		{"/pantry", []string{"q"}},
		{"/pantry/new", []string{"name"}},
		{"/lessons/new", []string{"dish", "class", "room", "date", "period"}},
		{"/", []string{"date", "day"}},
	} {
		// Each name with a value of its own, so that each meets every one in turn.
		for shift := range odd {
			asked := url.Values{}
			for i, name := range page.names {
				asked.Set(name, odd[(i+shift)%len(odd)])
			}
			resp := s.do("GET", page.path+"?"+asked.Encode(), nil)
			require.Less(t, resp.StatusCode, 500, "%s?%.300s", page.path, asked.Encode())
		}
	}
}

// Whatever stands in an address, it is found or it is not.
func TestOddAddresses(t *testing.T) {
	s := serve(t)
	for _, path := range []string{
		"/recipes/%s", "/recipes/%s/amounts", "/recipes/%s/card", "/recipes/%s/preparation", "/recipes/%s/versions", "/recipes/%s/choose",
		"/recipes/%s/recipe.md", "/recipes/%s/recipe.jsonld", "/recipes/%s/dish.json", "/recipes/edits/%s", "/pantry/%s", "/lessons/%s", "/lessons/%s/print",
		"/lessons/%s/lesson.json", "/%s",
	} {
		for _, id := range []string{"0", "-1", "abc", "1.5", "999999999", "99999999999999999999999", "%00", "%2e%2e", "%20", "0x1"} {
			address := fmt.Sprintf(path, id)
			assert.Equal(t, 404, s.do("GET", address, nil).StatusCode, address)
		}
	}
	for _, path := range []string{"/recipes/0/edit", "/recipes/abc/duplicate", "/recipes/999999/status", "/recipes/999999/findings", "/recipes/edits/999999", "/pantry/nothing", "/lessons/999999"} {
		assert.Equal(t, 404, s.do("POST", path, url.Values{}).StatusCode, path)
	}
	for _, path := range []string{"/", "/recipes/import", "/lessons/new"} {
		status := s.do("DELETE", path, nil).StatusCode
		assert.Contains(t, []int{404, 405}, status, path)
	}
}

// Opening an ingredient and saving it changes nothing: what the form shows is
// all that is known, in words that it reads.
func TestEveryIngredientSavesAsItIs(t *testing.T) {
	s := serve(t)
	stock := pantry.Stock()
	for n, i := range stock.List() {
		if n%3 != 0 { // a third of them, for time
			continue
		}
		path := "/pantry/" + url.PathEscape(i.ID)
		doc := s.page("GET", path, nil, 200)
		form := url.Values{}
		doc.Find(".new-form").Find("input, select").Each(func(_ int, f *goquery.Selection) {
			name, value := f.AttrOr("name", ""), f.AttrOr("value", "")
			if goquery.NodeName(f) == "select" {
				value = f.Find("option[selected]").AttrOr("value", "")
			}
			if _, checked := f.Attr("checked"); f.AttrOr("type", "") != "checkbox" || checked {
				form.Add(name, value)
			}
		})
		require.Equal(t, 303, s.do("POST", path, form).StatusCode, "%s: %v", i.ID, form)
		again := s.page("GET", path, nil, 200)
		before, after := doc.Find(".new-form"), again.Find(".new-form")
		before.Find("[name=version]").SetAttr("value", "")
		after.Find("[name=version]").SetAttr("value", "")
		was, err := before.Html()
		require.NoError(t, err)
		is, err := after.Html()
		require.NoError(t, err)
		require.Equal(t, was, is, i.ID)
	}
}

// Nobody is offered what would be refused: every link that a technician, or a
// teacher, sees may be followed, and every form may be sent.
func TestNothingIsOfferedThatWouldBeRefused(t *testing.T) {
	s := serve(t)
	seen := map[staff.Role]bool{staff.Head: true} // who may do everything
	for _, person := range demo.People() {
		role := person.Role
		if seen[role] {
			continue
		}
		seen[role] = true
		s.as(person.Name)
		refused := map[string]string{}
		s.crawl(2, func(path string, resp *http.Response, doc *goquery.Document) {
			if resp.StatusCode == http.StatusForbidden {
				refused["GET "+path] = "a link"
			}
			doc.Find("form, [formaction], [hx-post]").Each(func(_ int, f *goquery.Selection) {
				method := strings.ToUpper(f.AttrOr("method", "post"))
				to, ok := inside(t, path, f.AttrOr("formaction", f.AttrOr("hx-post", f.AttrOr("action", path))))
				if ok && method == "POST" && f.Find("button:not([disabled])").Length() > 0 && !mayPost(role, to) {
					refused["POST "+to] = path
				}
			})
		})
		assert.Empty(t, refused, "what a %s is offered and refused", role)
	}
}

// mayPost reports whether a role may post to an address.
func mayPost(role staff.Role, address string) bool {
	path, _, _ := strings.Cut(address, "?")
	parts := strings.Split(path, "/")
	for _, r := range web.Routes() {
		pattern := strings.Split(r.Path, "/")
		same := r.Method == "POST" && len(pattern) == len(parts)
		for i := range pattern {
			same = same && (strings.HasPrefix(pattern[i], "{") || pattern[i] == parts[i])
		}
		if same {
			return role.May(r.Action)
		}
	}
	return true // signing out, and what is not a route of the school
}
