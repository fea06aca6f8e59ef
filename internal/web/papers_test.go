package web_test

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/formats/lessonfile"
)

// file reads a lesson file or a plan of the school.
func (s *site) file(address string) *bytes.Reader {
	resp := s.do("GET", address, nil)
	require.Equal(s.t, 200, resp.StatusCode, address)
	data, err := io.ReadAll(resp.Body)
	require.NoError(s.t, err)
	return bytes.NewReader(data)
}

// What is printed for the teacher, for a bench and for the door of an oven is
// read back and found in the plan: when each step begins, when each tray goes
// in, for how long and when it comes out, when the bench is done, and what is
// called when. RANDOM_LESSONS is of how many lessons beside those of the
// demonstration.
func TestPapersAgreeWithThePlan(t *testing.T) {
	s := serve(t)
	trays := 0
	for n := 1; n <= 6; n++ {
		trays += papersAgree(t, s, fmt.Sprintf("/lessons/%d", n))
	}
	assert.Greater(t, trays, 30)
	count, err := strconv.Atoi(cmp.Or(os.Getenv("RANDOM_LESSONS"), "8"))
	require.NoError(t, err)
	r := rand.New(rand.NewPCG(1, 2))
	planned := 0
	for range count {
		pick := func(n int) string { return strconv.Itoa(1 + r.IntN(n)) }
		form := url.Values{
			"form": {uuid.NewString()}, "dish": {pick(14)}, "class": {pick(6)}, "room": {pick(2)}, "period": {pick(8)}, "group_size": {pick(5)},
			"date": {time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, r.IntN(300)).Format(time.DateOnly)},
		}
		resp := s.do("POST", "/lessons", form)
		if resp.StatusCode != http.StatusSeeOther { // too many for the room, or no such period
			require.Equal(t, http.StatusUnprocessableEntity, resp.StatusCode)
			continue
		}
		planned++
		papersAgree(t, s, resp.Header.Get("Location"))
	}
	assert.NotZero(t, planned)
	t.Logf("%d random lessons read back", planned)
}

// papersAgree holds the papers of a lesson against its plan and returns how many
// trays there are.
func papersAgree(t *testing.T, s *site, at string) (trays int) {
	t.Helper()
	l, err := lessonfile.Read(s.file(at + "/lesson.json"))
	require.NoError(t, err)
	p, err := lessonfile.ReadPlan(s.file(at + "/plan.json"))
	require.NoError(t, err)
	slips := map[string]*goquery.Selection{}
	s.page("GET", at+"/print/benches", nil, 200).Find(".slip").Each(func(_ int, slip *goquery.Selection) {
		who := slip.Find("h2 .slip-who").Text()
		name := strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(slip.Find("h2").Text()), who))
		slips[name] = slip
	})
	doors := text(s.page("GET", at+"/print/ovens", nil, 200), "main")
	require.Len(t, slips, len(p.Groups), at)
	for _, g := range p.Groups {
		name := l.GroupLabel(g.ID)
		slip := slips[name]
		require.NotNil(t, slip, "%s %s", at, name)
		assert.Equal(t, l.At(g.Finish), strings.TrimSpace(slip.Find(".sheet-bell .figure").Text()), "%s %s is done", at, name)
		rows := strings.Join(strings.Fields(slip.Find(".slip-cook").Text()), " ") // the clock stands right before the words
		for _, step := range g.Steps {
			if step.Cooks == 0 {
				continue
			}
			assert.Contains(t, rows, l.At(step.Start)+l.StepTitle(step.Dish, step.Step), "%s %s", at, name)
		}
		for _, tray := range fit.Trays(l, &fit.Plan{Groups: []fit.GroupPlan{g}}) {
			trays++
			says := fmt.Sprintf("%s: in at %s for %s, out at %s", tray.Unit, l.At(tray.In), lesson.Minutes(tray.Out-tray.In), l.At(tray.Out))
			assert.Contains(t, slip.Find(".ovens").Text(), says, "%s %s", at, name)
			assert.Contains(t, doors, l.At(tray.In)+"in"+name+l.StepTitle(tray.Dish, tray.Step), at)
			assert.Contains(t, doors, l.At(tray.Out)+"out"+name+l.StepTitle(tray.Dish, tray.Step), at)
		}
	}
	teacher := text(s.page("GET", at+"/print", nil, 200), "main")
	for _, line := range fit.Running(l, p) {
		assert.Contains(t, teacher, l.At(line.From)+strconv.Itoa(l.ToBell(line.From))+line.What, at)
	}
	for _, c := range fit.Checkpoints(l, p) {
		assert.Contains(t, teacher, fmt.Sprintf("%s (%d to the bell) %s", l.At(c.At), l.ToBell(c.At), c.Says()), at)
	}
	return trays
}

// The sheets of the benches can be had in short, and with given names.
func TestTheSheetsOfTheBenchesInTheirForms(t *testing.T) {
	s := serve(t)
	whole := s.page("GET", "/lessons/2/print/benches", nil, 200).Find(".slip").First()
	assert.Contains(t, whole.Find(".slip-method").Text(), "Rub the butter into flour and salt")
	assert.Equal(t, "Cook A", whole.Find(".slip-cook caption").First().Text())
	assert.Contains(t, whole.Text(), "Yours: wash, the greasy things last; wipe bench")
	assert.Contains(t, whole.Text(), "Yours: dry and put away; count the knives in")
	short := s.page("GET", "/lessons/2/print/benches?form=short&jobs=names", nil, 200).Find(".slip").First()
	assert.Zero(t, short.Find(".slip-method").Length())
	assert.Contains(t, short.Find("h2 .slip-who").Text(), short.Find(".slip-cook caption").First().Text())
}

// The benches' sheets name who works there, and how, to those of the class alone, and that
// they have seen it is noted.
func TestSheetsForOthers(t *testing.T) {
	s := serve(t)
	var lesson string
	for n := 1; n <= 14 && lesson == ""; n++ {
		at := fmt.Sprintf("/lessons/%d/print/benches", n)
		if s.page("GET", at, nil, 200).Find(".slip-ways li").Length() > 0 {
			lesson = at
		}
	}
	require.NotEmpty(t, lesson, "a lesson with other ways")
	mine := s.page("GET", lesson+"?jobs=names", nil, 200).Find("body").Text()
	trail, _, err := s.school.Trail(context.Background(), "needs", 0, 1)
	require.NoError(t, err)
	assert.Contains(t, trail[0].Says, "who works in which way")
	for _, who := range []string{"Tomas Finney", "Nell Carver", "Bea Lindqvist"} {
		s.as(who)
		page := s.page("GET", lesson+"?jobs=names", nil, 200)
		body := page.Find("body").Text()
		assert.Zero(t, page.Find(".slip-ways li").Length(), who)
		assert.Contains(t, body, "Bench 1")
		named := 0
		for _, c := range []int64{1, 2, 3, 4} {
			for _, l := range s.roster(t, c) {
				assert.NotContains(t, body, l.Name(), who)
				if strings.Contains(mine, l.Given) {
					named++
				}
			}
		}
		assert.Positive(t, named, "the class sees its own")
	}
}
