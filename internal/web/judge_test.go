package web_test

import (
	"context"
	"encoding/csv"
	"fmt"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/store"
)

// assessed is the demonstration's task, and its learners by the names of the page.
func assessed(t *testing.T, s *site) (task string, learners []string) {
	t.Helper()
	page := s.page("GET", "/judge", nil, 200)
	task, _ = page.Find(`.rows-list a[href^="/judge/"]`).Attr("href")
	require.NotEmpty(t, task)
	for _, a := range s.page("GET", task+"/marks", nil, 200).Find(`tbody th a`).EachIter() {
		href, _ := a.Attr("href")
		learners = append(learners, href[strings.LastIndex(href, "/")+1:])
	}
	require.Len(t, learners, 16)
	return task, learners
}

// Who marks does not see what the other gives before both are done, in no page and no
// file.
func TestTwoWhoMarkAreBlind(t *testing.T) {
	s := serve(t)
	task, learners := assessed(t, s)
	last := learners[len(learners)-1]
	at := task + "/marks/" + last
	s.as("Signe Amsel")
	own := s.page("GET", at, nil, 200)
	assert.Empty(t, own.Find("#mark-skills-and-techniques").AttrOr("value", ""), "she has still to mark them")
	form := func(v string) url.Values {
		return url.Values{"press": {uuid.NewString()}, "mark-skills-and-techniques": {v}, "mark-time-plan-and-order-of-work": {"7"}, "mark-hygiene-and-safety": {"7"}, "mark-taste-texture-and-look": {"7"}, "mark-questions-answered": {"3,5"}}
	}
	// The first marker's words stand nowhere that she can look.
	first := s.school
	list, err := first.Records(context.Background(), store.AboutTask(1))
	require.NoError(t, err)
	require.NotEmpty(t, list)
	for _, path := range []string{at, task + "/marks", task + "/results", task + "/results.csv", task + "/walk"} {
		body := readAll(t, s.do("GET", path, nil))
		assert.NotContains(t, body, "Skills and techniques 1", path)
	}
	assert.Contains(t, text(own, "main"), "Maren Holt is done")
	assert.Equal(t, 0, own.Find(`form[action$="/agree"]`).Length(), "nothing to agree on yet")
	assert.Contains(t, text(s.page("POST", at+"/agree", url.Values{"press": {uuid.NewString()}, "total": {"70"}, "reason": {"x"}}, 422), ".problem"), "Not all who mark are done yet")

	for v, says := range map[string]string{"16": "above 15", "A-": "no mark", "-1": "no mark"} {
		page := s.page("POST", at, form(v), 422)
		assert.Contains(t, text(page, ".problem"), says)
		assert.Equal(t, v, page.Find("#mark-skills-and-techniques").AttrOr("value", ""), "what was typed is still there")
		assert.Equal(t, "7", page.Find("#mark-hygiene-and-safety").AttrOr("value", ""))
	}
	half := form("12")
	half.Del("mark-questions-answered")
	half.Set("how", "ready")
	assert.Contains(t, text(s.page("POST", at, half, 422), ".problem"), "Questions answered has no mark yet")
	full := form("12")
	full.Set("how", "ready")
	require.Equal(t, 303, s.do("POST", at, full).StatusCode)
	require.Equal(t, 303, s.do("POST", at, full).StatusCode, "the same press")
	now := s.page("GET", at, nil, 200)
	assert.Contains(t, text(now, "main"), "Maren Holt", "both are done")
	assert.Equal(t, 1, now.Find(`form[action$="/agree"]`).Length())

	again := form("13")
	assert.Contains(t, text(s.page("POST", at, again, 422), ".problem"), "Say why “Skills and techniques” is changed")
	again.Set("why", "the knife work was hers")
	require.Equal(t, 303, s.do("POST", at, again).StatusCode)
	assert.Contains(t, s.page("GET", at, nil, 200).Find("details").Text(), "the knife work was hers")

	// A window that was opened before changes only what is changed in it.
	stale := url.Values{"press": {uuid.NewString()}, "why": {"tasted again"}, "was-skills-and-techniques": {"12"}, "mark-skills-and-techniques": {"12"}, "was-taste-texture-and-look": {"7"}, "mark-taste-texture-and-look": {"8"}}
	require.Equal(t, 303, s.do("POST", at, stale).StatusCode)
	page := s.page("GET", at, nil, 200)
	assert.Equal(t, "13", page.Find("#mark-skills-and-techniques").AttrOr("value", ""))
	assert.Equal(t, "8", page.Find("#mark-taste-texture-and-look").AttrOr("value", ""))
	// Nor where it is sent back for a fault in it: what it has not changed is as it is kept.
	stale.Set("press", uuid.NewString())
	stale.Set("mark-taste-texture-and-look", "80")
	back := s.page("POST", at, stale, 422)
	assert.Equal(t, "80", back.Find("#mark-taste-texture-and-look").AttrOr("value", ""))
	assert.Equal(t, "13", back.Find("#mark-skills-and-techniques").AttrOr("value", ""))
	empty := url.Values{"press": {uuid.NewString()}, "why": {"x"}, "mark-hygiene-and-safety": {""}}
	assert.Contains(t, text(s.page("POST", at, empty, 422), ".problem"), "Hygiene and safety needs one")

	agree := url.Values{"press": {uuid.NewString()}, "total": {"101"}, "reason": {""}}
	problems := text(s.page("POST", at+"/agree", agree, 422), ".problem")
	assert.Contains(t, problems, "above 100")
	agree.Set("total", "72,5")
	agree.Set("reason", "the crust was shown")
	require.Equal(t, 303, s.do("POST", at+"/agree", agree).StatusCode)
	assert.Contains(t, text(s.page("GET", at, nil, 200), "main"), "73 B, because the crust was shown")
	rows, err := csv.NewReader(strings.NewReader(readAll(t, s.do("GET", task+"/results.csv", nil)))).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"73", "B", "", "the crust was shown"}, rows[len(rows)-1][6:])
	resp := s.do("GET", task+"/results.xlsx", nil)
	assert.Equal(t, "PK", readAll(t, resp)[:2])
}

// There is a slip for each taster and sample, with the words in which it is marked.
func TestSlipsForTheWholeClass(t *testing.T) {
	s := serve(t)
	slips := s.page("GET", "/lessons/1/tasting/paper", nil, 200).Find(".slip-paper")
	count := map[string]int{}
	for _, x := range slips.EachIter() {
		count[x.Find("h2").Text()]++
		assert.Equal(t, 6, x.Find("tr").Length())
		assert.Equal(t, 5, x.Find("tr").First().Find("td").Length())
	}
	assert.Equal(t, map[string]int{"Herb scones": 26, "Herb scones, rested": 26}, count)
}

// Who comes from outside sees the task that names them and nothing else; who teaches
// other classes sees none of it; every look at marks is in the trail.
func TestWhoSeesATask(t *testing.T) {
	s := serve(t)
	task, learners := assessed(t, s)
	s.as("Signe Amsel")
	resp := s.do("GET", "/", nil)
	assert.Equal(t, "/judge", resp.Header.Get("Location"))
	for _, path := range []string{"/recipes", "/classes", "/lessons/1", "/prepare", "/pantry", "/people", "/lessons/1/tasting"} {
		assert.Equal(t, 403, s.do("GET", path, nil).StatusCode, path)
	}
	assert.Equal(t, 303, s.do("GET", task, nil).StatusCode, "the brief leads on to the walk")
	assert.Equal(t, 403, s.do("POST", task+"/plan-in", nil).StatusCode)
	assert.Equal(t, 403, s.do("POST", task+"/close", nil).StatusCode)
	assert.Equal(t, 403, s.do("GET", task+"/feedback", nil).StatusCode)
	for _, who := range []string{"Nell Carver", "Tomas Finney", "Bea Lindqvist"} {
		s.as(who)
		for _, path := range []string{task, task + "/marks", task + "/marks/" + learners[0], task + "/results.csv", task + "/plate/" + learners[0], task + "/choices"} {
			assert.Equal(t, 403, s.do("GET", path, nil).StatusCode, "%s at %s", who, path)
		}
	}
	s.as("Maren Holt")
	s.page("GET", task+"/marks/"+learners[0], nil, 200)
	trail, _, err := s.school.Trail(context.Background(), "", 0, 5)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(trail), "the marks of ")
	assert.Equal(t, 404, s.do("GET", task+"/marks/999999", nil).StatusCode)
	assert.Equal(t, 404, s.do("GET", "/judge/999999/marks", nil).StatusCode)
}

// The brief is changed line by line; what can't be is said and nothing typed is lost.
func TestTheBrief(t *testing.T) {
	s := serve(t)
	task, _ := assessed(t, s)
	page := s.page("GET", task, nil, 200)
	form := func(change url.Values) url.Values {
		out := url.Values{"version": {page.Find(`form input[name=version]`).First().AttrOr("value", "")}}
		for _, f := range page.Find(`form[action="` + task + `"]`).Find("input, textarea").EachIter() {
			if name := f.AttrOr("name", ""); name != "version" {
				out.Set(name, f.AttrOr("value", strings.TrimPrefix(f.Text(), "\n")))
			}
		}
		out.Set("round", "half-up")
		out["markers"] = []string{"1", ""}
		for k, v := range change {
			out[k] = v
		}
		return out
	}
	for field, bad := range map[string][2]string{
		"brief": {"3 dishes\ntasty", "Line 2, “tasty”"}, "criteria": {"Skills; lots", "no most"}, "boundaries": {"A 50\nB 60", "write them from the highest down"},
		"out_of": {"0", "above 0"}, "tolerance": {"few", "no number"}, "round": {"up and down", "how totals are rounded"}, "markers": {"4", "Choose who marks from the list"},
	} {
		got := s.page("POST", task, form(url.Values{field: {bad[0]}}), 422)
		assert.Contains(t, text(got, ".problem"), bad[1], field)
		if f := got.Find(`[name="` + field + `"]`); f.Is("textarea") {
			assert.Equal(t, bad[0], strings.TrimPrefix(f.Text(), "\n"), field)
		}
	}
	require.Equal(t, 303, s.do("POST", task, form(url.Values{"brief": {"2 dishes\n1 cold"}})).StatusCode)
	assert.Equal(t, 409, s.do("POST", task, form(url.Values{"brief": {"5 dishes"}})).StatusCode, "another window was quicker")
	assert.Equal(t, 2, s.page("GET", task, nil, 200).Find(".conditions-list li").Length())
	again := form(url.Values{"brief": {"Two dishes\n2 courses"}})
	again.Set("version", s.page("GET", task, nil, 200).Find(`form input[name=version]`).First().AttrOr("value", ""))
	require.Equal(t, 303, s.do("POST", task, again).StatusCode)
	asked := text(s.page("GET", task, nil, 200), ".conditions-list")
	assert.Contains(t, asked, "2 dishes")
	assert.Contains(t, asked, "No dish is said to be “courses”. Say so below")
	tags := s.page("POST", task+"/tags", url.Values{"version": {"9"}, "tags-1": {"smell: good"}}, 422)
	assert.Contains(t, text(tags, ".problem"), "“smell” is none of")
	assert.Equal(t, "smell: good", tags.Find("#tags-1").AttrOr("value", ""))
}

// Dishes are chosen with the conditions beside them, put into the practical and planned;
// sets that meet the brief are found.
func TestChoosing(t *testing.T) {
	s := serve(t)
	task, learners := assessed(t, s)
	at := task + "/choices/" + learners[0]
	page := s.page("GET", at, nil, 200)
	entry := page.Find(`input[name=entry]`).AttrOr("value", "")
	assert.Equal(t, 10, page.Find("#conditions li").Length())
	ids := page.Find(`.choose-list input[value=dish]`)
	first, _ := ids.First().Attr("name")
	asked := s.page("GET", at+"?"+first+"=dish", nil, 200)
	assert.Contains(t, text(asked, "#conditions"), "not met 3 dishes", "one alone is chosen")
	form := url.Values{"entry": {entry}, first: {"dish"}, strings.Replace(first, "as-", "portions-", 1): {"lots"}}
	bad := s.page("POST", at, form, 422)
	assert.Contains(t, text(bad, ".problem"), "“lots” is not a whole number")
	form.Set(strings.Replace(first, "as-", "portions-", 1), "3")
	require.Equal(t, 303, s.do("POST", at, form).StatusCode)
	assert.Equal(t, 409, s.do("POST", at, form).StatusCode, "a window that was opened before")
	assert.Contains(t, text(s.page("GET", task+"/choices", nil, 200), "main"), "1 choice is not in the practical’s plan")
	require.Equal(t, 303, s.do("POST", task+"/plan-in", nil).StatusCode)
	after := text(s.page("GET", task+"/choices", nil, 200), "main")
	assert.NotContains(t, after, "not in the practical’s plan")
	sets := s.page("GET", task+"/sets?learner="+learners[0], nil, 200)
	require.Eventually(t, func() bool {
		sets = s.page("GET", task+"/sets?learner="+learners[0], nil, 200)
		return strings.Contains(text(sets, "main"), "The best that were found")
	}, 20*time.Second, 300*time.Millisecond)
	take, _ := sets.Find("ol a").First().Attr("href")
	assert.NotContains(t, text(s.page("GET", take, nil, 200), "#conditions"), "not met 3 dishes")
}

// A learner comes in by the code and their picture, chooses, and writes a time plan that
// is judged; what can't be read comes back as it was typed.
func TestALearnersTask(t *testing.T) {
	s := serve(t)
	task, learners := assessed(t, s)
	code := strings.ReplaceAll(s.page("GET", task, nil, 200).Find(".practice-code b").Text(), " ", "")
	s.as("")
	assert.Equal(t, 404, s.do("GET", "/task/aaaaaaaaa", nil).StatusCode)
	assert.Equal(t, 404, s.do("GET", "/task/at/aaaaaaaaaaaaaaaa", nil).StatusCode)
	assert.Equal(t, "/task/"+code, s.do("GET", "/task?code="+strings.ToUpper(code[:3])+"+"+code[3:], nil).Header.Get("Location"))
	s.page("POST", "/task/"+code, url.Values{"learner": {learners[0]}}, 422)
	resp := s.do("POST", "/task/"+code, url.Values{"learner": {learners[0]}, "picture": {"whisk"}})
	require.Equal(t, 303, resp.StatusCode)
	own := resp.Header.Get("Location")
	assert.Contains(t, text(s.page("POST", "/task/"+code, url.Values{"learner": {learners[0]}, "picture": {"pan"}}, 422), ".problem"), "not the picture")
	page := s.page("GET", own, nil, 200)
	assert.Equal(t, 0, page.Find(`input[name=paper]`).Length(), "what was handed in is the teacher's to say")
	body := page.Find("body").Text()
	for _, l := range s.roster(t, 4) {
		assert.NotContains(t, body, l.Family)
	}
	// They choose dishes themselves, with the conditions beside them, over no other choice.
	chosen := func() string { return page.Find(`form input[name=entry]`).AttrOr("value", "") }
	stale := chosen()
	dishes := url.Values{"entry": {stale}, "as-1": {"dish"}, "portions-1": {"6"}, "paper": {"menu card"}}
	live := text(s.page("GET", own+"?as-1=dish&portions-1=some", nil, 200, "HX-Request", "true", "HX-Target", "conditions"), "body")
	assert.Contains(t, live, "1 is chosen", "though how many is not said")
	wrong := url.Values{"entry": {stale}, "as-1": {"dish"}, "portions-1": {"some"}}
	back := s.page("POST", own, wrong, 422)
	assert.Contains(t, text(back, ".problem"), "“some”")
	assert.Equal(t, "some", back.Find(`[name=portions-1]`).AttrOr("value", ""))
	require.Equal(t, 303, s.do("POST", own, dishes).StatusCode)
	assert.Equal(t, 409, s.do("POST", own, dishes).StatusCode, "another window was quicker")
	page = s.page("GET", own, nil, 200)
	assert.NotEqual(t, stale, chosen())
	assert.Equal(t, "6", page.Find(`[name=portions-1]`).AttrOr("value", ""))
	plan := s.page("GET", own+"/plan", nil, 200)
	assert.NotContains(t, text(plan, "main"), "As the practical is planned")
	entry := plan.Find(`input[name=entry]`).AttrOr("value", "")
	send := func(fields map[string]string, status int) string {
		t.Helper()
		fields["entry"] = entry
		resp := s.multipart(t, own+"/plan", fields, nil)
		require.Equal(t, status, resp.StatusCode)
		return readAll(t, resp)
	}
	says := send(map[string]string{"text": "clock,dish\n10:00,Rainbow slaw\n"}, 422)
	assert.Contains(t, says, "has no column")
	assert.Contains(t, says, "10:00,Rainbow slaw")
	assert.Contains(t, send(map[string]string{"clock": "10:00", "what": "Weigh", "minutes": "soon"}, 422), `value="soon"`)
	send(map[string]string{"text": "half past nine;Rainbow slaw;shred the cabbage;10\n10:05;Rainbow slaw;do the thing\n"}, 303)
	judged := s.page("GET", own+"/plan", nil, 200)
	assert.Contains(t, text(judged, ".plan-findings"), "no time of day")
	assert.Contains(t, judged.Find("main").Text(), "no row says “Slice the cabbage”")
	assert.Equal(t, 409, s.multipart(t, own+"/plan", map[string]string{"entry": entry, "text": "9:00,,wash up\n"}, nil).StatusCode)
	for _, path := range []string{task, task + "/marks", "/classes/1", "/lessons/1"} {
		assert.Equal(t, 303, s.do("GET", path, nil).StatusCode, "%s asks to sign in", path)
	}
}

// What is pressed while walking round is kept once, by two at the same time, with a
// clock of its own where it waited for a network; nothing that can't be is.
func TestWalkingRound(t *testing.T) {
	s := serve(t)
	task, learners := assessed(t, s)
	press := uuid.NewString()
	send := func(body string) int {
		t.Helper()
		return s.json(task+"/walk", body)
	}
	before := s.page("GET", task+"/walk", nil, 200).Find("#walk-" + learners[2] + " .rows-list li").Length()
	line := fmt.Sprintf(`[{"id": %q, "said_at": "2026-11-26T08:00:00Z", "learner": %q, "kind": "note", "says": "hands were cold\u0000"}]`, press, learners[2])
	assert.Equal(t, 204, send(line))
	s.as("Signe Amsel")
	assert.Equal(t, 204, send(line), "the same press again")
	assert.Equal(t, 204, send(fmt.Sprintf(`[{"id": %q, "learner": %q, "kind": "behind"}]`, uuid.NewString(), learners[2])))
	page := s.page("GET", task+"/walk", nil, 200)
	notes := page.Find("#walk-" + learners[2] + " .rows-list li")
	assert.Equal(t, before+2, notes.Length())
	assert.Contains(t, notes.Text(), "08:00 hands were cold · Maren Holt")
	for _, bad := range []string{
		`[{"id": "x", "learner": "` + learners[2] + `", "kind": "behind"}]`, `[{"id": "` + uuid.NewString() + `", "learner": "999999", "kind": "behind"}]`,
		`[{"id": "` + uuid.NewString() + `", "learner": "` + learners[2] + `", "kind": "mark"}]`, `[{"id": "` + uuid.NewString() + `", "learner": "` + learners[2] + `", "kind": "note"}]`, `{`, `[1]`,
		`[{"id": "` + uuid.NewString() + `", "learner": "` + learners[2] + `", "kind": "note", "says": "` + strings.Repeat("x", 501) + `"}]`,
	} {
		assert.Equal(t, 422, send(bad), "%.60s", bad)
	}
	s.as("Maren Holt")
	assert.Equal(t, 303, s.do("POST", task+"/walk", url.Values{"learner": {learners[2]}, "kind": {"on plan"}}).StatusCode, "without a script, too")
	assert.Contains(t, text(s.page("POST", task+"/walk", url.Values{"learner": {learners[2]}, "kind": {"safety"}}, 422), ".problem"), "Write what was seen")

	closing := url.Values{"press": {uuid.NewString()}}
	require.Equal(t, 303, s.do("POST", task+"/close", closing).StatusCode)
	assert.Equal(t, 422, send(strings.Replace(line, press, uuid.NewString(), 1)))
	assert.Contains(t, text(s.page("POST", task+"/marks/"+learners[0], url.Values{"press": {uuid.NewString()}}, 422), ".problem"), "closed")
	assert.Contains(t, text(s.page("POST", task+"/reopen", url.Values{"press": {uuid.NewString()}}, 422), ".problem"), "Say why")
	require.Equal(t, 303, s.do("POST", task+"/reopen", url.Values{"press": {uuid.NewString()}, "why": {"one was forgotten"}}).StatusCode)
	assert.Equal(t, 204, send(strings.Replace(line, press, uuid.NewString(), 1)))
}

// A tasting is set up, marked at the desk and at a bench, shown as a star and a table, and
// tests say what they tell.
func TestATasting(t *testing.T) {
	s, _ := runs(t)
	const at = "/lessons/1/tasting"
	page := s.page("GET", at, nil, 200)
	assert.Equal(t, 2, page.Find("svg.star").Length())
	set := page.Find(`input[name=set]`).First().AttrOr("value", "")
	for _, bad := range [][3]string{{"meant", "crisp 9", "from 1 to 5"}, {"words", "", "from 1 to 12"}, {"samples", "a\na", "there twice"}, {"meant", "loud 3", "none of the words"}} {
		form := url.Values{"set": {set}, "samples": {"scones"}, "words": {"crisp, salty, soft"}, "meant": {"crisp 4"}}
		form.Set(bad[0], bad[1])
		got := s.page("POST", at, form, 422)
		assert.Contains(t, text(got, ".problem"), bad[2])
		assert.Contains(t, got.Find(`[name="`+bad[0]+`"]`).Text()+got.Find(`[name="`+bad[0]+`"]`).AttrOr("value", ""), bad[1])
	}
	require.Equal(t, 303, s.do("POST", at, url.Values{"set": {set}, "samples": {"scones"}, "words": {"Crisp, salty, soft"}, "meant": {"salty 4"}}).StatusCode)
	slip := func(salty string) url.Values {
		return url.Values{"press": {uuid.NewString()}, "sample": {"scones"}, "word-salty": {salty}, "word-crisp": {"3"}}
	}
	one := slip("1")
	for range 2 {
		require.Equal(t, 303, s.do("POST", at+"/slips", one).StatusCode)
	}
	assert.Contains(t, text(s.page("POST", at+"/slips", slip("6"), 422), ".problem"), "no number from 1 to 5")
	assert.Contains(t, text(s.page("POST", at+"/slips", url.Values{"press": {uuid.NewString()}, "sample": {"scones"}}, 422), ".problem"), "at least one word")
	bench := s.code(t, "g2")
	s.as("")
	require.Equal(t, 200, s.do("GET", bench+"/taste", nil).StatusCode)
	require.Equal(t, 303, s.do("POST", bench+"/taste", slip("2")).StatusCode)
	s.page("POST", bench+"/taste", url.Values{"sample": {"soap"}}, 422)
	assert.Equal(t, 303, s.do("GET", "/bench/aaaaaaaaaaaa/taste", nil).StatusCode)
	s.as("Maren Holt")
	says := text(s.page("GET", at, nil, 200), "main")
	assert.Contains(t, says, "2 slips")
	assert.Contains(t, says, "salty 1.5 ± 0.7, meant 4")
	assert.Contains(t, says, "not salty enough")
	set = s.page("GET", at, nil, 200).Find(`input[name=set]`).First().AttrOr("value", "")
	assert.Contains(t, text(s.page("POST", at+"/tests", url.Values{"set": {set}, "test": {"triangle"}, "first": {"9"}, "second": {"8"}}, 422), ".problem"), "only 8")
	require.Equal(t, 303, s.do("POST", at+"/tests", url.Values{"set": {set}, "test": {"triangle"}, "first": {"13"}, "second": {"24"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", at, nil, 200), "main"), "in 3 of 100 times")
	assert.Equal(t, 26, s.page("GET", at+"/paper", nil, 200).Find(".slip-paper").Length())
	wall := s.page("GET", at+"/wall", nil, 200)
	assert.Equal(t, 1, wall.Find("svg.star").Length())
	s.as("Nell Carver")
	assert.Equal(t, 0, s.page("GET", at, nil, 200).Find(`form[action="`+at+`"]`).Length(), "how it is tasted is for those of the class")
	assert.Equal(t, 403, s.do("POST", at, url.Values{"set": {set}, "samples": {"x"}, "words": {"crisp"}}).StatusCode)
}

// Each learner gets a word with one press, and the lesson what is to be changed.
func TestLookingBack(t *testing.T) {
	s := serve(t)
	const at = "/lessons/1/review"
	who := fmt.Sprint(s.roster(t, 1)[0].ID)
	give := url.Values{"learner": {who}, "press": {uuid.NewString()}, "standing": {"nearly there"}}
	for range 2 {
		require.Equal(t, 303, s.do("POST", at+"/words", give).StatusCode)
	}
	require.Equal(t, 303, s.do("POST", at+"/words", url.Values{"learner": {who}, "press": {uuid.NewString()}, "says": {"shaped them all alike"}}).StatusCode)
	row := text(s.page("GET", at, nil, 200), "#learner-"+who)
	assert.Contains(t, row, "nearly there")
	assert.Contains(t, row, "shaped them all alike")
	assert.Contains(t, text(s.page("GET", at, nil, 200), "main"), "1 of 26 have one")
	assert.Contains(t, text(s.page("POST", at+"/words", url.Values{"learner": {who}, "press": {uuid.NewString()}}, 422), ".problem"), "Press a word")
	assert.Equal(t, 404, s.do("POST", at+"/words", url.Values{"learner": {"999999"}, "press": {uuid.NewString()}, "standing": {"got there"}}).StatusCode)
	form := url.Values{"set": {"0"}, "learn": {"rub in"}, "know": {"crumbs like sand"}, "next": {strings.Repeat("x", 2001)}}
	page := s.page("POST", at, form, 422)
	assert.Contains(t, page.Find("#know").Text(), "crumbs like sand")
	form.Set("next", "colder butter")
	require.Equal(t, 303, s.do("POST", at, form).StatusCode)
	assert.Equal(t, 409, s.do("POST", at, form).StatusCode)
	assert.Contains(t, s.page("GET", at, nil, 200).Find("#next").Text(), "colder butter")
}
