package web_test

import (
	"bytes"
	"fmt"
	"io"
	"math"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/fit"
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

// What is printed for a bench and for the door of an oven is read back and
// found in the plan: when each step begins, when each tray goes in, for how long
// and when it comes out, and when the bench is done.
func TestPapersAgreeWithThePlan(t *testing.T) {
	s := serve(t)
	trays := 0
	for n := 1; n <= 6; n++ {
		at := fmt.Sprintf("/lessons/%d", n)
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
				says := fmt.Sprintf("%s: in at %s for %g min, out at %s", tray.Unit, l.At(tray.In), math.Round(tray.Out-tray.In), l.At(tray.Out))
				assert.Contains(t, slip.Find(".ovens").Text(), says, "%s %s", at, name)
				assert.Contains(t, doors, l.At(tray.In)+"in"+name+l.StepTitle(tray.Dish, tray.Step), at)
				assert.Contains(t, doors, l.At(tray.Out)+"out"+name+l.StepTitle(tray.Dish, tray.Step), at)
			}
		}
	}
	assert.Greater(t, trays, 30)
}
