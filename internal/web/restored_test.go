package web_test

import (
	"bytes"
	"net/http"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// copyOf starts another copy of the application over a database.
func copyOf(t *testing.T, s *site, url string) *site {
	t.Helper()
	again, err := store.Open(url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = again.Close() })
	require.NoError(t, again.Migrate(t.Context()))
	app := school.NewSite(again, s.App.Now)
	app.Planning = s.App.Planning
	t.Cleanup(func() { demotest.Drain(t, app) })
	other := serveApp(t, app, s.school, url)
	other.cookie = s.cookie
	return other
}

// Every file that a page offers is the same, byte for byte, in a database into which a
// backup was restored.
func TestEveryFileAfterARestore(t *testing.T) {
	s := serve(t)
	var backup bytes.Buffer
	require.NoError(t, s.App.Store.Backup(t.Context(), &backup, ""))
	url := storetest.URL(t)
	empty, err := store.Open(url)
	require.NoError(t, err)
	require.NoError(t, empty.Migrate(t.Context()))
	require.NoError(t, empty.Restore(t.Context(), &backup))
	require.NoError(t, empty.Close())
	restored := copyOf(t, s, url)
	restored.as("Maren Holt")
	same := func(path string) string {
		is, was := s.do("GET", path, nil), restored.do("GET", path, nil)
		require.Equal(t, 200, was.StatusCode, path)
		here, there := strings.ReplaceAll(readAll(t, is), s.URL, ""), strings.ReplaceAll(readAll(t, was), restored.URL, "")
		assert.True(t, here == there, "%s differs", path)
		return is.Header.Get("Content-Type")
	}
	same("/classes/4/learners/77/data.json") // before anybody has looked: that is in it
	files := map[string]bool{}
	s.crawlUntouched(1, func(path string, resp *http.Response, _ *goquery.Document) {
		if resp.Header.Get("Content-Disposition") != "" {
			files[path] = true
		}
	})
	kinds := map[string]bool{}
	for path := range files {
		switch {
		case strings.HasSuffix(path, "data.json"), path == "/people/school/copy": // a backup is compared by the command's test
			continue
		case strings.HasSuffix(path, "/plan.json"): // it says what would help, once that is known
			if lesson := strings.TrimSuffix(path, "/plan.json"); s.open(lesson).doc.Find("#rescues").Length() > 0 {
				_, _ = s.do("GET", lesson+"/rescues", nil), restored.do("GET", lesson+"/rescues", nil)
			}
		}
		kinds[same(path)] = true
	}
	assert.Greater(t, len(files), 20)
	assert.GreaterOrEqual(t, len(kinds), 6, "%v", kinds)
}

// What one copy of the program is working out, another says it is working out, and finds.
func TestASearchIsFoundByTheOtherCopy(t *testing.T) {
	s := serve(t)
	other := copyOf(t, s, s.url)
	found := s.rescues(t, tartlets)
	assert.Equal(t, text(found, "main"), text(other.rescues(t, tartlets), "main"))
}
