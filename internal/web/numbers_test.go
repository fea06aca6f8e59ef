package web_test

import (
	"net/http"
	"net/url"
	"regexp"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// whole is what a field holds that is a number, a time of day or a list of them.
var whole = regexp.MustCompile(`^[\d.,: ]+$`)

// Every number that a form can take is sent as large, as small and as odd as can be, one
// after the other: it is taken or refused with a word, at once and in bounded memory, and
// afterwards every page is still there.
func TestNumbersWithoutMeasure(t *testing.T) {
	s := serve(t)
	type form struct {
		from   string
		values url.Values
		number []string
	}
	forms := map[string]form{}
	digits := regexp.MustCompile(`\d+`)
	s.crawl("/", 2, func(path string, _ *http.Response, doc *goquery.Document) {
		doc.Find(`form[method="post"]`).Each(func(_ int, f *goquery.Selection) {
			to, ok := s.inside(path, f.AttrOr("action", path))
			kind := digits.ReplaceAllString(to, "*")
			if _, had := forms[kind]; had || !ok || strings.HasSuffix(f.AttrOr("enctype", ""), "form-data") || to == "/signout" || strings.HasPrefix(to, "/people") || strings.HasPrefix(to, "/me") {
				return
			}
			out := form{from: to, values: fields(&goquery.Document{Selection: f}, "*")}
			f.Find("input").Each(func(_ int, i *goquery.Selection) {
				name := i.AttrOr("name", "")
				if mode := i.AttrOr("inputmode", ""); name != "" && (mode == "numeric" || mode == "decimal" || i.HasClass("figures") || whole.MatchString(i.AttrOr("value", "")) && i.AttrOr("type", "") != "hidden") {
					out.number = append(out.number, name)
				}
			})
			if len(out.number) > 0 {
				forms[kind] = out
			}
		})
	})
	require.Greater(t, len(forms), 25, "kinds of forms with numbers")
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	sent := 0
	for kind, f := range forms {
		tried := map[string]bool{}
		for _, name := range f.number {
			if like := digits.ReplaceAllString(name, "*"); tried[like] {
				continue
			} else {
				tried[like] = true
			}
			for _, odd := range []string{"9999999999", "1e300", "-7", "NaN", "1/0"} {
				values := url.Values{}
				for k, v := range f.values {
					values[k] = v
				}
				values[name] = []string{odd}
				began := time.Now()
				status := s.do("POST", f.from, values).StatusCode
				sent++
				assert.Less(t, status, 500, "%s with %s=%s", kind, name, odd)
				if took := time.Since(began); took > 20*time.Second {
					t.Errorf("%s with %s=%s took %s", kind, name, odd, took)
				}
			}
		}
	}
	runtime.ReadMemStats(&after)
	t.Logf("%d kinds of forms, %d sent, %d MB allocated", len(forms), sent, (after.TotalAlloc-before.TotalAlloc)>>20)
	s.crawl("/", 1, func(path string, resp *http.Response, _ *goquery.Document) {
		assert.Less(t, resp.StatusCode, 500, path)
	})
}
