package web_test

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"html"
	"image"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/school"
	"freshapron/internal/store"
	"freshapron/internal/web"
)

// say sends an event to a screen as its script does.
func (s *site) say(path string, events ...map[string]any) int {
	s.t.Helper()
	for _, e := range events {
		if e["id"] == nil {
			e["id"] = uuid.NewString()
		}
	}
	body, err := json.Marshal(events)
	require.NoError(s.t, err)
	return s.json(path, string(body))
}

// json posts a text as JSON and returns the status of the answer.
func (s *site) json(path, body string) int {
	s.t.Helper()
	r, err := http.NewRequest("POST", s.URL+path, strings.NewReader(body))
	require.NoError(s.t, err)
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Cookie", s.cookie)
	resp, err := http.DefaultClient.Do(r)
	require.NoError(s.t, err)
	require.NoError(s.t, resp.Body.Close())
	return resp.StatusCode
}

// runs begins the scones of today, of which the class has come.
func runs(t *testing.T) (s *site, now *time.Time) {
	t.Helper()
	s = serve(t)
	clock := nine.Add(66 * time.Minute) // a minute late
	s.App.Now = func() time.Time { return clock }
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"real"}}).StatusCode)
	return s, &clock
}

func (s *site) code(t *testing.T, bench string) string {
	t.Helper()
	list, err := s.school.Runs(context.Background(), 1)
	require.NoError(t, err)
	screens, err := s.school.Screens(context.Background(), list[0].ID)
	require.NoError(t, err)
	for _, x := range screens {
		if x.Bench == bench {
			return "/bench/" + x.Code
		}
	}
	t.Fatalf("there is no bench %s", bench)
	return ""
}

// A lesson runs by itself; what does not go to plan takes one press, and every
// screen shows it. In the end it is closed, and planned stands beside real.
func TestALessonRuns(t *testing.T) {
	s, now := runs(t)
	*now = now.Add(20 * time.Minute)
	desk := text(s.page("GET", "/lessons/1/teach", nil, 200), "#live")
	assert.Contains(t, desk, "10:26")
	assert.Contains(t, desk, "assumed")
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "behind", "bench": "g5", "minutes": 6}))
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), "#live"), "Bench 5 6 min behind")
	bench := s.code(t, "g5")
	s.as("")
	dish := s.page("GET", bench, nil, 200).Find(`.bench-step input[name=dish]`).First().AttrOr("value", "")
	require.Equal(t, 204, s.say(bench+"/tell", map[string]any{"kind": "ended", "dish": dish, "step": "weigh"}))
	require.Equal(t, 204, s.say(bench+"/tell", map[string]any{"kind": "help", "says": "\x00"}, map[string]any{"kind": "check", "says": "the dough\x00\u0007"}))
	assert.Equal(t, 204, s.say(bench+"/tell", map[string]any{"kind": "help", "says": strings.Repeat("a", 100_000)}), "it is cut short")
	assert.Contains(t, text(s.page("GET", bench, nil, 200), "main"), "Somebody comes")
	s.as("Bea Lindqvist") // who helps
	walk := text(s.page("GET", "/lessons/1/walk", nil, 200), ".queue")
	assert.Contains(t, walk, "Bench 5 help")
	assert.Contains(t, walk, "look at the dough")
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "helped", "bench": "g5"}))
	assert.Equal(t, 403, s.say("/lessons/1/tell", map[string]any{"kind": "closed"}), "she does not lead the lesson")
	s.as("Maren Holt")
	press := uuid.NewString()
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "unit_out", "equipment": "oven", "unit": "Oven 1", "id": press}))
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), "#live"), "Oven 1 can’t be used")
	require.Equal(t, 303, s.do("POST", "/lessons/1/replan", url.Values{}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"), "The rest was planned anew.")
	require.Equal(t, 303, s.do("POST", "/lessons/1/tell", url.Values{"kind": {"undone"}, "of": {press}}).StatusCode)
	assert.NotContains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), "#live"), "can’t be used It works")
	require.Equal(t, 303, s.do("POST", "/lessons/1/tell", url.Values{"kind": {"gone"}, "bench": {"g5"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"), "A learner has left Bench 5.")
	for bench, want := range map[string]string{"Bench 5": "Bench 5: 71 °C.", "the rice": "the rice: 71 °C."} {
		require.Equal(t, 303, s.do("POST", "/lessons/1/probe", url.Values{"bench": {bench}, "kind": {"hot"}, "celsius": {"71"}}).StatusCode)
		assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"), want)
	}
	for i := range 12 {
		require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "behind", "bench": fmt.Sprint("g", i+1), "minutes": 20}))
	}
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-chance"), "What would still help")
	helps := s.page("GET", "/lessons/1/from-now", nil, 200)
	title := helps.Find(".rescues-now input").First().AttrOr("value", "")
	require.NotEmpty(t, title)
	assert.Contains(t, text(s.page("POST", "/lessons/1/from-now", url.Values{"rescue": {"Begin yesterday"}}, 422), "main"), "“Begin yesterday” does not help any more")
	require.Equal(t, 303, s.do("POST", "/lessons/1/from-now", url.Values{"rescue": {title}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"), "Decided: "+title)
	*now = now.Add(40 * time.Minute)
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "sharps", "number": 60}, map[string]any{"kind": "closed"}))
	assert.Equal(t, 422, s.say("/lessons/1/tell", map[string]any{"kind": "help", "bench": "g5"}), "it is over")
	after := s.page("GET", "/lessons/1/after", nil, 200)
	assert.Equal(t, 12, after.Find(".after-bench").Length())
	assert.Contains(t, text(after, "main"), "The class worked at ")
	assert.Contains(t, text(after, "main"), "from 1 time that benches said")
	assert.Contains(t, text(after, "main"), "60 sharp things counted in.")
	data, err := io.ReadAll(s.do("GET", "/lessons/1/events.jsonl", nil).Body)
	require.NoError(t, err)
	assert.Contains(t, string(data), `"kind":"sharps"`)
	for _, line := range strings.Split(strings.TrimSpace(string(data)), "\n") {
		assert.True(t, json.Valid([]byte(line)), line)
	}
}

// A rehearsal's events can be played again from a file; one that is wrong is said line by
// line. How it is rehearsed is asked again where it can't be, and keeps what was typed.
func TestRehearsingWithAFile(t *testing.T) {
	s := serve(t)
	clock := nine
	s.App.Now = func() time.Time { return clock }
	again := s.page("POST", "/lessons/1/begin", url.Values{"how": {"rehearse"}, "speed": {"fast"}, "seed": {"-4"}, "mishap": {"gone"}}, 422)
	assert.Contains(t, text(again, ".problem"), "Times the clock: “fast” is no number from 1 to 60. And 1 thing more.")
	assert.Equal(t, "fast", again.Find("#speed").AttrOr("value", ""))
	assert.Equal(t, "gone", again.Find("#mishap option[selected]").AttrOr("value", ""))
	s.page("POST", "/lessons/1/begin", url.Values{"how": {"rehearse"}, "speed": {"60"}, "seed": {"1"}, "mishap": {"flood"}}, 422)
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"rehearse"}, "speed": {"60"}, "seed": {"1"}, "mishap": {"gone"}}).StatusCode)
	clock = clock.Add(2 * time.Minute)
	data, err := io.ReadAll(s.do("GET", "/lessons/1/events.jsonl", nil).Body)
	require.NoError(t, err)
	send := func(text string) *http.Response {
		return s.multipart(t, "/lessons/1/rehearse", nil, map[string]string{"file": text})
	}
	for text, want := range map[string]string{
		"":                       "The file has no events in it",
		"{\"id\": \"a\"}\nfalse": "Line 1: it has no",
		"{\"id\":\"x\",\"at_min\":4,\"kind\":\"help\",\"bench\":\"g77\"}": "Event x: the lesson has no bench “g77”",
	} {
		resp := send(text)
		require.Equal(t, 422, resp.StatusCode)
		body, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, html.UnescapeString(strings.ToLower(string(body))), strings.ToLower(want))
	}
	require.Equal(t, 303, send(string(data)).StatusCode)
	clock = clock.Add(90 * time.Minute)
	assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), "#live"), "a rehearsal")
	assert.Contains(t, text(s.page("GET", "/lessons/1/after", nil, 200), "main"), "A learner has left Bench 12.")
}

// A lesson begins for real once: who presses again finds it running, no rehearsal stands
// before it, and the screens of what was rehearsed are put out.
func TestALessonBeginsOnce(t *testing.T) {
	s := serve(t)
	clock := nine.Add(66 * time.Minute)
	s.App.Now = func() time.Time { return clock }
	rehearse := url.Values{"how": {"rehearse"}, "speed": {"1"}, "seed": {"1"}}
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", rehearse).StatusCode)
	rehearsed := s.code(t, "g2")
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"real"}}).StatusCode)
	s.page("GET", rehearsed, nil, 404)
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"real"}}).StatusCode)
	runs, err := s.school.Runs(context.Background(), 1)
	require.NoError(t, err)
	assert.Len(t, runs, 2)
	assert.Contains(t, text(s.page("POST", "/lessons/1/begin", rehearse, 422), ".problem"), "This lesson has begun for real, at 10:06: a rehearsal would stand before it.")
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "closed"}))
	assert.Contains(t, text(s.page("POST", "/lessons/1/begin", url.Values{"how": {"real"}}, 422), ".problem"), "This lesson has been closed.")
}

// A screen that is open is told when its lesson begins; it is told nothing more once
// whoever looks has signed out.
func TestStreamsFollowTheLesson(t *testing.T) {
	s := serve(t)
	clock := nine.Add(66 * time.Minute)
	s.App.Now = func() time.Time { return clock }
	resp := s.do("GET", "/lessons/1/live/wall", nil)
	require.Equal(t, 200, resp.StatusCode)
	lines := bufio.NewScanner(resp.Body)
	lines.Buffer(nil, 1<<20)
	require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"real"}}).StatusCode)
	require.True(t, lines.Scan())
	assert.Equal(t, "event: begun", lines.Text())
	require.NoError(t, resp.Body.Close())

	resp = s.do("GET", "/lessons/1/live/desk", nil)
	require.Equal(t, 200, resp.StatusCode)
	require.Equal(t, 303, s.do("POST", "/signout", url.Values{}).StatusCode)
	s.as("Bea Lindqvist")
	require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "note", "says": "nobody looks"}))
	rest, err := io.ReadAll(resp.Body)
	require.NoError(t, err, "the stream has ended")
	assert.NotContains(t, string(rest), "nobody looks")
}

// A screen whose news broke off just as a lesson began hears of it when there is news again.
func TestNewsThatWasMissed(t *testing.T) {
	s := serve(t)
	resp := s.do("GET", "/lessons/1/live/wall", nil)
	require.Equal(t, 200, resp.StatusCode)
	db, err := sql.Open("pgx", s.url)
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec("INSERT INTO runs (school_id, lesson_id, version, lesson, plan, who, began_at, door) SELECT school_id, id, version, '', '', '', now(), now() FROM lessons WHERE id = 1")
	require.NoError(t, err)
	_, err = db.Exec("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN%'")
	require.NoError(t, err)
	lines := bufio.NewScanner(resp.Body)
	require.True(t, lines.Scan())
	assert.Equal(t, "event: begun", lines.Text())
	require.NoError(t, resp.Body.Close())
}

// A demonstration goes step by step; who is asked has had the fewest turns, in all
// lessons of the class, and what is taken back does not count.
func TestDemonstrating(t *testing.T) {
	s, now := runs(t)
	*now = now.Add(8 * time.Minute)
	assert.Contains(t, text(s.page("GET", "/lessons/1/show?step=2", nil, 200), "main"), "3 of 10")
	seen := map[string]bool{}
	for range 5 {
		page := s.page("GET", "/lessons/1/show?ask=1", nil, 200)
		whom := text(page, ".show-whom")
		require.NotEmpty(t, whom)
		assert.False(t, seen[whom], "%s has had a turn", whom)
		seen[whom] = true
		learner := page.Find("input[name=learner]").AttrOr("value", "")
		require.Equal(t, 303, s.do("POST", "/lessons/1/ask", url.Values{"learner": {learner}, "question": {"Why?"}, "done": {"well"}, "step": {"2"}}).StatusCode)
	}
	last := text(s.page("GET", "/lessons/1/show?ask=1", nil, 200), ".show-whom")
	assert.NotEqual(t, last, text(s.page("GET", "/lessons/1/show?ask=1&skip=1", nil, 200), ".show-whom"))
	assert.Equal(t, 5, strings.Count(text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"), "Asked: Why?"))
	list, err := s.school.Runs(context.Background(), 1)
	require.NoError(t, err)
	events, err := s.school.Events(context.Background(), list[0].ID, time.Time{})
	require.NoError(t, err)
	for _, e := range events[1:] {
		require.Equal(t, 204, s.say("/lessons/1/tell", map[string]any{"kind": "undone", "of": e.Press}))
	}
	lines, err := s.school.Asked(context.Background(), 1)
	require.NoError(t, err)
	assert.Len(t, lines, 10, "five that were asked, and taken back")
	var again []string
	for i := range 30 {
		again = append(again, text(s.page("GET", fmt.Sprintf("/lessons/1/show?ask=1&skip=%d", i), nil, 200), ".show-whom"))
	}
	for whom := range seen {
		assert.Contains(t, again, whom)
	}
}

// What was planned stays as it was when the lesson began, whatever becomes of it.
func TestARunIsFrozen(t *testing.T) {
	s, _ := runs(t)
	before := text(s.page("GET", "/lessons/1/after", nil, 200), ".scroll")
	require.Equal(t, 303, s.do("POST", "/rooms/1/out", url.Values{"unit": {"oven-3"}, "why": {"door"}}).StatusCode)
	assert.Equal(t, before, text(s.page("GET", "/lessons/1/after", nil, 200), ".scroll"))
	assert.Equal(t, 422, s.do("POST", "/lessons/4/begin", url.Values{"how": {"real"}}).StatusCode, "it is not its time")
	assert.Equal(t, 422, s.do("POST", "/lessons/4/begin", url.Values{"how": {"rehearse"}, "speed": {"61"}}).StatusCode)
	require.Equal(t, 303, s.do("POST", "/lessons/4/begin", url.Values{"how": {"rehearse"}, "speed": {"60"}, "seed": {"3"}, "mishap": {"oven"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/4/teach", nil, 200), "#live"), "a rehearsal at 60 times the clock")
}

// Whatever goes wrong, every screen can be drawn at every minute of an hour, which a
// rehearsal plays in one.
func TestAnHourInAMinute(t *testing.T) {
	s := serve(t)
	for _, mishap := range []string{"late", "oven", "adult"} {
		clock := nine
		s.App.Now = func() time.Time { return clock }
		s.as("Maren Holt")
		require.Equal(t, 303, s.do("POST", "/lessons/1/begin", url.Values{"how": {"rehearse"}, "speed": {"60"}, "seed": {"5"}, "mishap": {mishap}}).StatusCode)
		bench := s.code(t, "g3")
		figures := map[string]bool{}
		for range 9 {
			clock = clock.Add(8 * time.Second)
			desk := s.page("GET", "/lessons/1/teach", nil, 200)
			figures[text(desk, ".live-left")] = true
			for _, path := range []string{"/lessons/1/wall", "/lessons/1/walk", "/lessons/1/after", bench} {
				s.page("GET", path, nil, 200)
			}
		}
		assert.Greater(t, len(figures), 1, mishap)
		assert.Contains(t, text(s.page("GET", "/lessons/1/teach", nil, 200), "#live"), "The lesson is over", mishap)
	}
}

// Screens at benches and the wall carry nobody's need, family name or mark, over the
// wire and in their streams; a code opens one bench, until it is put out or over.
func TestBenchScreens(t *testing.T) {
	s, now := runs(t)
	*now = now.Add(15 * time.Minute)
	ctx := context.Background()
	class, err := s.school.Class(ctx, 1)
	require.NoError(t, err)
	whole, err := s.school.WithNeeds(ctx, class)
	require.NoError(t, err)
	bench := s.code(t, "g8")
	body := func(path string) string {
		resp := s.do("GET", path, nil)
		require.Equal(t, 200, resp.StatusCode, path)
		if resp.Header.Get("Content-Type") == "text/event-stream" {
			line, err := bufio.NewReader(resp.Body).ReadString('}')
			require.NoError(t, err)
			require.NoError(t, resp.Body.Close())
			return line
		}
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return string(data)
	}
	for _, path := range []string{bench, bench + "/stream", "/lessons/1/wall", "/lessons/1/live/wall", "/lessons/1/show", "/lessons/1/show?ask=1"} {
		if strings.HasPrefix(path, "/bench") {
			s.as("")
		} else {
			s.as("Maren Holt")
		}
		got := body(path)
		for _, p := range whole.Roster {
			assert.NotContains(t, got, p.Family, path)
			for _, need := range p.Needs {
				assert.NotContains(t, got, need.Says(), path)
			}
		}
	}
	s.as("")
	script := s.do("GET", "/bench/worker.js", nil)
	assert.Equal(t, "text/javascript; charset=utf-8", script.Header.Get("Content-Type"))
	assert.Equal(t, "no-cache", script.Header.Get("Cache-Control"), "a new release is not kept out by an old one")
	for says, e := range map[string]map[string]any{
		"not for a bench":    {"kind": "closed"},
		"another's":          {"kind": "undone", "of": "opened"},
		"no such step":       {"kind": "ended", "dish": "herb-scones", "step": "ice"},
		"nothing that is":    {"kind": "dance"},
		"another lesson’s":   {"kind": "ended", "dish": "leek-tartlets", "step": "bake"},
		"without its number": {"kind": "help", "id": "1"},
	} {
		assert.Equal(t, 422, s.say(bench+"/tell", e), says)
	}
	dish := s.page("GET", bench, nil, 200).Find(`.bench-step input[name=dish]`).First().AttrOr("value", "")
	assert.Equal(t, 204, s.say(bench+"/tell", map[string]any{"kind": "ended", "bench": "g1", "dish": dish, "step": "weigh"}), "whatever bench it names, it is its own")
	s.as("Maren Holt")
	assert.Regexp(t, `Bench 8 has done “Weigh and measure”`, text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log"))
	out := func() bool { return strings.Contains(body("/lessons/1/live/desk"), "Let it in") }
	assert.False(t, out())
	require.Equal(t, 303, s.do("POST", "/lessons/1/screens", url.Values{"bench": {"g8"}, "do": {"shut"}}).StatusCode)
	assert.True(t, out(), "in the same second too")
	s.as("")
	for _, path := range []string{bench, "/bench/aaaaaaaaaaaa", "/bench/' OR 1=1"} {
		assert.Contains(t, text(s.page("GET", strings.ReplaceAll(path, " ", "%20"), nil, 404), "main"), "This screen is shut")
	}
	s.as("Maren Holt")
	require.Equal(t, 303, s.do("POST", "/lessons/1/screens", url.Values{"bench": {"g8"}, "do": {"open"}}).StatusCode)
	s.as("")
	s.page("GET", bench, nil, 200)
	*now = now.Add(6 * time.Hour)
	s.page("GET", bench, nil, 404)
}

// Two copies of the program serve one lesson; one is killed in its midst, and
// nothing is lost.
// A bench's picture is seen by staff and by that bench, for as long as the school says.
func TestPicturesOfABench(t *testing.T) {
	s, now := runs(t)
	bench, other := s.code(t, "g4"), s.code(t, "g5")
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewRGBA(image.Rect(0, 0, 2000, 1000))))
	id := uuid.NewString()
	s.as("")
	dish := s.page("GET", bench, nil, 200).Find(`.bench-picture input[name=dish]`).AttrOr("value", "")
	send := func(fields map[string]string, data string) *http.Response {
		return s.multipart(t, bench+"/picture", fields, map[string]string{"file": data})
	}
	fields := map[string]string{"id": id, "dish": dish, "step": "weigh"}
	require.Equal(t, 422, send(fields, "no picture").StatusCode)
	require.Equal(t, 422, send(map[string]string{"id": id, "dish": dish, "step": "fly"}, b.String()).StatusCode)
	for range 2 { // the second time the answer to the first was lost
		require.Equal(t, 303, send(fields, b.String()).StatusCode)
	}
	assert.Equal(t, 1, s.page("GET", bench, nil, 200).Find(".bench-pictures img").Length())
	resp := s.do("GET", bench+"/picture/"+id, nil)
	require.Equal(t, 200, resp.StatusCode)
	c, err := jpeg.DecodeConfig(resp.Body)
	require.NoError(t, err)
	assert.Equal(t, 1280, c.Width)
	assert.Equal(t, 404, s.do("GET", other+"/picture/"+id, nil).StatusCode)
	s.as("Maren Holt")
	assert.Contains(t, s.page("GET", "/lessons/1/walk", nil, 200).Find(".bench-pictures img").AttrOr("alt", ""), "Bench 4 has taken a picture")
	assert.Equal(t, 200, s.do("GET", "/lessons/1/pictures/"+id, nil).StatusCode)
	assert.Equal(t, 422, s.do("POST", "/tables/pictures", url.Values{"days": {"0"}}).StatusCode)
	require.Equal(t, 303, s.do("POST", "/tables/pictures", url.Values{"days": {"2"}}).StatusCode)
	*now = now.AddDate(0, 0, 3)
	s.as("Maren Holt") // who has been away
	assert.Equal(t, 404, s.do("GET", "/lessons/1/pictures/"+id, nil).StatusCode)
}

func TestTwoCopiesOfTheProgram(t *testing.T) {
	s, now := runs(t)
	*now = now.Add(15 * time.Minute)
	again, err := store.Open(s.url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = again.Close() })
	other := school.NewSite(again, s.App.Now)
	other.Planning = s.App.Planning
	second := httptest.NewServer(web.Handler(web.Site{App: other, Assets: nil, Ping: again.Ping}))
	bench := s.code(t, "g2")
	resp, err := http.Get(second.URL + bench + "/stream")
	require.NoError(t, err)
	lines := bufio.NewScanner(resp.Body)
	lines.Buffer(nil, 1<<20)
	until := func(says string) {
		t.Helper()
		for lines.Scan() {
			if strings.HasPrefix(lines.Text(), "data: ") && strings.Contains(lines.Text(), says) {
				return
			}
		}
		t.Fatalf("%q never came: %v", says, lines.Err())
	}
	until("Bench 2")
	s.as("")
	require.Equal(t, 204, s.say(bench+"/tell", map[string]any{"kind": "help"}))
	until("Somebody comes") // from the other copy
	s.CloseClientConnections()
	s.Close() // in mid-lesson
	body := fmt.Sprintf(`[{"id":%q,"kind":"check"}]`, uuid.NewString())
	answer, err := http.Post(second.URL+bench+"/tell", "application/json", strings.NewReader(body))
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, 204, answer.StatusCode)
	until("Somebody comes")
	list, err := s.school.Runs(context.Background(), 1)
	require.NoError(t, err)
	events, err := s.school.Events(context.Background(), list[0].ID, time.Time{})
	require.NoError(t, err)
	assert.Len(t, events, 3, "opened, help and check")
	require.NoError(t, resp.Body.Close())
	ending, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	require.NoError(t, other.Work.Drain(ending))
	second.CloseClientConnections()
	second.Close()
}
