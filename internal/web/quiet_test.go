package web_test

import (
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/class"
)

// No page that a technician comes to says what somebody needs or what is noted
// of them: beside no name stands what the learner can't eat, and what helps
// stands nowhere.
func TestATechnicianSeesNobodysNeeds(t *testing.T) {
	s := serve(t)
	var all []class.Learner
	for id := int64(1); id <= 6; id++ {
		all = append(all, s.roster(t, id)...)
	}
	s.as("Tomas Finney")
	pages := 0
	s.crawl(2, func(path string, resp *http.Response, doc *goquery.Document) {
		if doc == nil || resp.StatusCode != 200 {
			return
		}
		pages++
		text := doc.Find("body").Text()
		var lines []string
		doc.Find("li, tr, p").Each(func(_ int, e *goquery.Selection) {
			if line := e.Text(); len(line) < 400 {
				lines = append(lines, line)
			}
		})
		for _, l := range all {
			if l.Notes != "" {
				assert.NotContains(t, text, l.Notes, path)
			}
			for _, n := range l.Needs {
				if n.Kind == class.Allergy && n.Helps != "" {
					assert.NotContains(t, text, n.Helps, path)
				}
				beside := func(line string) bool { return strings.Contains(line, l.Name()) && strings.Contains(line, n.What) }
				assert.False(t, slices.ContainsFunc(lines, beside), "%s: %s beside %s", path, n.What, l.Name())
			}
		}
	})
	require.Greater(t, pages, 25)
}
