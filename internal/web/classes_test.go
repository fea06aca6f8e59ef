package web_test

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/fit/verify"
	"freshapron/internal/formats/lessonfile"
)

// readyDishes returns the titles and addresses of what is on the shelf.
func (s *site) readyDishes() map[string]string {
	out := map[string]string{}
	s.page("GET", "/recipes", nil, 200).Find(".shelf tbody th a").Each(func(_ int, a *goquery.Selection) {
		out[a.Text()] = a.AttrOr("href", "")
	})
	require.Len(s.t, out, 14)
	return out
}

// Every dish with a class of one, an odd class and a full one: there is a
// lesson that opens, prints and goes out as a file; the plan of that file
// keeps every rule; and the groups hold every learner once.
func TestEveryDishWithEveryClass(t *testing.T) {
	s := serve(t)
	dishes := s.readyDishes()
	for learners, sizes := range map[int][]string{1: {"1"}, 7: {"2"}, 32: {"4"}} {
		s.learners(t, "8 Hazel", learners)
		for title := range dishes {
			for _, size := range sizes {
				name := fmt.Sprintf("%s, %d learners in %s", title, learners, size)
				blank := s.page("GET", "/lessons/new", nil, 200)
				form := newLesson(blank, map[string]string{"group_size": size})
				form.Set("dish", "")
				blank.Find("[name=dish]").Each(func(_ int, f *goquery.Selection) {
					if strings.HasPrefix(strings.TrimSpace(f.Parent().Text()), title) {
						form.Set("dish", f.AttrOr("value", ""))
					}
					f.Find("option").Each(func(_ int, o *goquery.Selection) {
						if strings.HasPrefix(o.Text(), title) {
							form.Set("dish", o.AttrOr("value", ""))
						}
					})
				})
				require.NotEmpty(t, form.Get("dish"), name)
				resp := s.do("POST", "/lessons", form)
				if resp.StatusCode == 422 {
					doc, err := goquery.NewDocumentFromReader(resp.Body)
					require.NoError(t, err)
					assert.Contains(t, text(doc, ".problem"), "places", "%s: why not", name)
					assert.Greater(t, learners/int(size[0]-'0'), 20, name)
					continue
				}
				require.Equal(t, 303, resp.StatusCode, name)
				path := resp.Header.Get("Location")
				doc := s.page("GET", path, nil, 200)
				figure := text(doc, "#figure")
				assert.Regexp(t, `min (left|missing)`, figure, name)
				s.page("GET", path+"/print", nil, 200)

				file := s.do("GET", path+"/lesson.json", nil)
				l, err := lessonfile.Read(file.Body)
				require.NoError(t, err, name)
				cooks := 0
				for _, g := range l.Groups {
					cooks += g.Cooks
				}
				assert.Equal(t, learners, cooks, name)
				p, err := fit.Solve(l, fit.Options{Runs: 1, Budget: 1})
				require.NoError(t, err, name)
				assert.Empty(t, verify.Plan(l, p), name)
			}
		}
	}
}

// What the page says is missing or left is what the plan of its own file says.
func TestTheFigureIsThePlans(t *testing.T) {
	s := serve(t)
	for id := 1; id <= 6; id++ {
		doc := s.page("GET", fmt.Sprintf("/lessons/%d", id), nil, 200)
		l, err := lessonfile.Read(s.do("GET", fmt.Sprintf("/lessons/%d/lesson.json", id), nil).Body)
		require.NoError(t, err)
		p, err := fit.Solve(l, fit.Options{})
		require.NoError(t, err)
		word, minutes := "left", p.Slack
		if p.Overrun > 0 {
			word, minutes = "missing", p.Overrun
		}
		figure := text(doc, "#figure")
		assert.True(t, strings.HasSuffix(figure, "min "+word), "lesson %d: %s", id, figure)
		shown := strings.NewReplacer("½", ".5").Replace(strings.Fields(figure)[0])
		n, err := exact.Parse("0" + shown)
		require.NoError(t, err, figure)
		assert.InDelta(t, minutes, n.Float(), 0.51, "lesson %d: %s", id, figure)
	}
}

// Two teachers type in the same ingredient at once: the second is told and
// keeps what was typed, and nothing of the first is lost.
func TestTwoWhoChangeOneIngredient(t *testing.T) {
	s := serve(t)
	form := func(packs string) url.Values {
		return url.Values{"version": {"0"}, "name": {"caster sugar"}, "role": {"structure"}, "packs": {packs}}
	}
	require.Equal(t, 303, s.do("POST", "/pantry/caster-sugar", form("1 kg bag 150")).StatusCode)
	doc := s.page("POST", "/pantry/caster-sugar", form("500 g bag 99"), 409)
	assert.Equal(t, "500 g bag 99", doc.Find("#packs").AttrOr("value", ""))
	assert.Contains(t, text(s.page("GET", "/pantry?q=caster", nil, 200), ".pantry"), "1 kg bag 150p")
	over := form("500 g bag 99")
	over.Set("version", doc.Find("[name=version]").AttrOr("value", ""))
	require.Equal(t, 303, s.do("POST", "/pantry/caster-sugar", over).StatusCode)
	assert.Contains(t, text(s.page("GET", "/pantry?q=caster", nil, 200), ".pantry"), "500 g bag 99p")
}

// Names of people, plants and markup are words and nothing else, wherever
// they are shown.
func TestNamesAreShownAsTheyAre(t *testing.T) {
	s := serve(t)
	for n, name := range []string{`<b>Mole</b> & "Sons"`, "O’Neill's relish", "جزر", "🥕 carrots from the school garden, washed and with their tops on", strings.Repeat("long", 20), "a\tb"} {
		form := url.Values{"name": {name}, "role": {"other"}, "unknown": {"1"}}
		resp := s.do("POST", "/pantry/new", form)
		require.Equal(t, 303, resp.StatusCode, name)
		doc := s.page("GET", resp.Header.Get("Location"), nil, 200)
		want := strings.Join(strings.Fields(name), " ")
		found := doc.Find(".pantry tbody th a").FilterFunction(func(_ int, a *goquery.Selection) bool { return a.Text() == want })
		require.Equal(t, 1, found.Length(), "%d %s: %s", n, name, text(doc, ".pantry"))
		item := s.page("GET", found.AttrOr("href", ""), nil, 200)
		assert.Equal(t, want, text(item, "h1"))
		assert.Zero(t, item.Find("h1 b").Length())
		assert.Equal(t, want, item.Find("#name").AttrOr("value", ""))
	}
}
