package web_test

import (
	"html"
	"maps"
	"net/http"
	"net/url"
	"regexp"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// whole is what a field holds that is a number, a time of day or a list of them.
var whole = regexp.MustCompile(`^[\d.,: ]+$`)

// A numbered form is one of a page in which there are numbers to be filled in.
type numberedForm struct {
	page, to string
	values   url.Values
	numbers  []string
}

var digits = regexp.MustCompile(`\d+`)

// numberedForms returns those of a page, by their kind.
func (s *site) numberedForms(path string, doc *goquery.Document) map[string]numberedForm {
	out := map[string]numberedForm{}
	doc.Find(`form[method="post"]`).Each(func(_ int, f *goquery.Selection) {
		to, ok := inside(s.t, path, f.AttrOr("action", path))
		kind := digits.ReplaceAllString(to, "*")
		if !ok || strings.HasSuffix(f.AttrOr("enctype", ""), "form-data") || to == "/signout" || strings.HasPrefix(to, "/people") || strings.HasPrefix(to, "/me") {
			return
		}
		form := numberedForm{page: path, to: to, values: sent(f)}
		f.Find("input").Each(func(_ int, i *goquery.Selection) {
			name := i.AttrOr("name", "")
			if mode := i.AttrOr("inputmode", ""); name != "" && (mode == "numeric" || mode == "decimal" || i.HasClass("figures") || whole.MatchString(i.AttrOr("value", "")) && i.AttrOr("type", "") != "hidden") {
				form.numbers = append(form.numbers, name)
			}
		})
		if _, had := out[kind]; !had && len(form.numbers) > 0 {
			out[kind] = form
		}
	})
	return out
}

// allNumberedForms returns one of each kind that there is.
func (s *site) allNumberedForms() map[string]numberedForm {
	forms := map[string]numberedForm{}
	s.crawlUntouched(2, func(path string, _ *http.Response, doc *goquery.Document) {
		for kind, f := range s.numberedForms(path, doc) {
			if _, had := forms[kind]; !had {
				forms[kind] = f
			}
		}
	})
	return forms
}

// Every number that a form can take is sent as large, as small and as odd as can be, one
// after the other: it is taken or refused with a word, at once and in bounded memory, and
// afterwards every page is still there.
func TestNumbersWithoutMeasure(t *testing.T) {
	s := serve(t)
	forms := s.allNumberedForms()
	require.Greater(t, len(forms), 25, "kinds of forms with numbers")
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	posts := 0
	for kind, f := range forms {
		tried := map[string]bool{}
		for _, name := range f.numbers {
			if like := digits.ReplaceAllString(name, "*"); tried[like] {
				continue
			} else {
				tried[like] = true
			}
			odds := []string{"1e300", "-7", "NaN", "1/0"}
			for _, odd := range []string{odds[posts/2%4], odds[(posts/2+2)%4]} { // two for each, all in turn
				values := url.Values{}
				for k, v := range f.values {
					values[k] = v
				}
				values[name] = []string{odd}
				began := time.Now()
				status := s.do("POST", f.to, values).StatusCode
				posts++
				assert.Less(t, status, 500, "%s with %s=%s", kind, name, odd)
				if took := time.Since(began); took > 20*time.Second {
					t.Errorf("%s with %s=%s took %s", kind, name, odd, took)
				}
			}
		}
	}
	runtime.ReadMemStats(&after)
	t.Logf("%d kinds of forms, %d sent, %d MB allocated", len(forms), posts, (after.TotalAlloc-before.TotalAlloc)>>20)
	s.crawl(1, func(path string, resp *http.Response, _ *goquery.Document) {
		assert.Less(t, resp.StatusCode, 500, path)
	})
}

// said finds the most of a number in the words that refuse a larger one, and whether it
// is a whole one.
var said = regexp.MustCompile(`9999999999[^.“]*?(?:from [-−]?[\d.]+ to|between [-−]?[\d.]+ and|, 0 to|more than a day \() ?([\d  ]*\d)`)

// Every number of every form is brought to its most, which the refusal of a larger one
// names, and stays there while the next is; one beyond is refused. Then every page and
// picture is drawn, within a size that a browser can hold.
func TestEveryNumberAtItsMost(t *testing.T) {
	s := serve(t)
	at, beyond := 0, 0
	forms := s.allNumberedForms()
	for _, kind := range slices.Sorted(maps.Keys(forms)) {
		f, tried := forms[kind], map[string]bool{}
		again := func() { // as the form stands now, after what others changed
			if now, ok := s.numberedForms(f.page, s.open(f.page).doc)[kind]; ok {
				f = now
			}
		}
		again()
		for _, name := range f.numbers {
			like := digits.ReplaceAllString(name, "*")
			if tried[like] {
				continue
			}
			tried[like] = true
			// With what stands in the form: the numbers before at their most.
			send := func(value string) (int, string) {
				values := maps.Clone(f.values)
				values[name] = []string{value}
				resp := s.do("POST", f.to, values)
				if resp.StatusCode < 400 { // the form holds it now
					again()
				}
				return resp.StatusCode, readAll(t, resp)
			}
			status, body := send("9999999999")
			m := said.FindStringSubmatch(html.UnescapeString(body))
			if status != 422 || m == nil {
				continue // refused for another reason, or in other words
			}
			most, err := strconv.Atoi(regexp.MustCompile(`\D`).ReplaceAllString(m[1], ""))
			require.NoError(t, err, m[0])
			if status, _ = send(strconv.Itoa(most)); status < 400 {
				at++
			}
			assert.Less(t, status, 500, "%s with %s=%d", kind, name, most)
			status, _ = send(strconv.Itoa(most + 1))
			assert.GreaterOrEqual(t, status, 409, "%s with %s=%d, one beyond", kind, name, most+1)
			assert.Less(t, status, 500, "%s with %s=%d, one beyond", kind, name, most+1)
			beyond++
		}
	}
	t.Logf("%d numbers stand at their most, %d were refused one beyond", at, beyond)
	assert.Greater(t, at, 20)
	assert.Greater(t, beyond, 30)
	const mostBytes, mostMarks = 6 << 20, 12000
	s.crawl(1, func(path string, resp *http.Response, doc *goquery.Document) {
		assert.Less(t, resp.StatusCode, 500, path)
		page, err := doc.Html()
		require.NoError(t, err)
		assert.Less(t, len(page), mostBytes, path)
		doc.Find("svg").Each(func(_ int, svg *goquery.Selection) {
			assert.Less(t, svg.Find("*").Length(), mostMarks, path)
			picture, err := goquery.OuterHtml(svg)
			require.NoError(t, err)
			assert.NotRegexp(t, `NaN|Inf`, picture, path)
		})
	})
}
