package web_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fields returns a form as the page shows it.
func fields(doc *goquery.Document, selector string) url.Values { return sent(doc.Find(selector)) }

// sent is what a form would send.
func sent(in *goquery.Selection) url.Values {
	form := url.Values{}
	in.Find("input, select, textarea").Each(func(_ int, f *goquery.Selection) {
		name, value := f.AttrOr("name", ""), f.AttrOr("value", "")
		switch goquery.NodeName(f) {
		case "select":
			value = f.Find("option[selected]").AttrOr("value", "")
		case "textarea":
			value = strings.TrimPrefix(f.Text(), "\n")
		}
		if _, checked := f.Attr("checked"); f.AttrOr("type", "") != "checkbox" || checked {
			form.Add(name, value)
		}
	})
	return form
}

// Out of order today: every plan that used it is made anew, and it is said
// which; when it works again, all is as before.
func TestOutOfOrderToday(t *testing.T) {
	s := serve(t)
	s.as("Tomas Finney")
	before := text(s.page("GET", "/lessons/2", nil, 200), "#figure")
	resp := s.do("POST", "/rooms/1/out", url.Values{"unit": {"oven-3"}, "why": {"<i>door</i>"}})
	require.Equal(t, 303, resp.StatusCode)
	doc := s.page("GET", resp.Header.Get("Location"), nil, 200)
	said := text(doc, ".said")
	assert.Contains(t, said, "Leek tartlets")
	assert.Contains(t, said, before)
	assert.Contains(t, said, "missing")
	assert.NotContains(t, said, "Rainbow slaw", "its plan used no oven")
	assert.Contains(t, text(doc, "main"), "Oven 3: <i>door</i>")
	assert.NotEqual(t, before, text(s.page("GET", "/lessons/2", nil, 200), "#figure"))
	assert.NotContains(t, text(s.page("GET", "/lessons/2/print/ovens", nil, 200), "main"), "Oven 3")
	assert.Contains(t, text(s.page("GET", "/rooms", nil, 200), "main"), "Oven 3")
	for says, form := range map[string]url.Values{
		"Oven 3 is marked already": {"unit": {"oven-3"}}, "Choose what does not work": {"unit": {"Oven 33"}}, "is not a date from today on": {"unit": {"oven-1"}, "until": {"2020-01-01"}},
	} {
		assert.Contains(t, text(s.page("POST", "/rooms/1/out", form, 422), ".problem"), says)
	}
	_, outage, _ := strings.Cut(resp.Header.Get("Location"), "out=")
	require.Equal(t, 303, s.do("POST", "/rooms/1/works", url.Values{"outage": {outage}}).StatusCode)
	assert.Equal(t, before, text(s.page("GET", "/lessons/2", nil, 200), "#figure"))
	assert.Equal(t, 404, s.do("POST", "/rooms/1/works", url.Values{"outage": {"99999"}}).StatusCode)
}

// The only oven of the juniors goes: the lesson that needs it says so, and the
// page still opens.
func TestTheLastOvenIsOut(t *testing.T) {
	s := serve(t)
	resp := s.do("POST", "/rooms/2/out", url.Values{"unit": {"oven"}})
	require.Equal(t, 303, resp.StatusCode)
	doc := s.page("GET", "/lessons/12", nil, 200)
	assert.NotContains(t, text(doc, "#figure"), "left")
	assert.Contains(t, text(s.page("GET", resp.Header.Get("Location"), nil, 200), ".said"), "Pea and mint dip")
	s.page("GET", "/lessons/12/floor", nil, 200)
	s.page("GET", "/lessons/12/who", nil, 200)
}

func TestSharpThingsAreCounted(t *testing.T) {
	s := serve(t)
	require.Equal(t, 303, s.do("POST", "/rooms/1/sharps", url.Values{"way": {"out"}, "counted": {"60"}}).StatusCode)
	require.Equal(t, 303, s.do("POST", "/rooms/1/sharps", url.Values{"way": {"in"}, "counted": {"58"}}).StatusCode)
	doc := s.page("GET", "/rooms/1", nil, 200)
	assert.Contains(t, text(doc, "main"), "58 of 60 in: 2 are missing")
	assert.Contains(t, text(doc, "main"), "60 of 60 out")
	assert.Contains(t, text(s.page("POST", "/rooms/1/sharps", url.Values{"way": {"in"}, "counted": {"all"}}, 422), ".problem"), "“all” is not a whole number")
}

func TestARoomIsChanged(t *testing.T) {
	s := serve(t)
	form := fields(s.page("GET", "/rooms/1/edit", nil, 200), ".new-form")
	assert.Contains(t, form.Get("ovens"), "Oven 2; 2; fan; 10")
	require.Equal(t, 303, s.do("POST", "/rooms/1/edit", form).StatusCode)
	again := fields(s.page("GET", "/rooms/1/edit", nil, 200), ".new-form")
	old := form.Get("version")
	form.Set("version", again.Get("version"))
	assert.Equal(t, form, again, "saved as it stands, it is the same")
	form.Set("version", old)
	conflict := s.page("POST", "/rooms/1/edit", form, 409)
	assert.Contains(t, text(conflict, ".problem"), "This room was changed after this page was opened")

	again.Set("ovens", "Oven 1; 2; fan; 0\nOven 1; two; windy; hot\nBig; 3\n")
	again.Set("benches", "0")
	again.Set("shared", "oven; Second oven; 1")
	bad := s.page("POST", "/rooms/1/edit", again, 422)
	for _, says := range []string{"“Oven 1” is there twice", "“windy” is neither fan nor still", "“hot” is not how many °C", "line 3: “Big; 3” has not the 4 parts", "Benches: “0” is not a whole number from 1 to 64", "“oven” has its own place"} {
		assert.Contains(t, text(bad, "main"), says)
	}
	assert.Contains(t, bad.Find("#ovens").Text(), "windy", "what was typed stays")

	// A bench and an oven more stand on the floor; one less is gone from it.
	again.Set("ovens", "Oven 1; 2; fan; 0\nNew oven; 3; still; -5\n")
	again.Set("benches", "13")
	again.Set("shared", "")
	require.Equal(t, 303, s.do("POST", "/rooms/1/edit", again).StatusCode)
	page := s.page("GET", "/rooms/1", nil, 200)
	floor := page.Find("svg.floor").Text()
	assert.Contains(t, floor, "Bench 13")
	assert.Contains(t, floor, "New oven")
	assert.NotContains(t, floor, "Oven 4")
	assert.Contains(t, text(page, "main"), "205 °C", "a still oven that runs 5 °C cold, for 200 °C")
	blank := fields(s.page("GET", "/rooms/new", nil, 200), ".new-form")
	blank.Set("name", "Food Room")
	assert.Contains(t, text(s.page("POST", "/rooms/new", blank, 422), "main"), "a room with this name already")
	blank.Set("name", "Caravan")
	blank.Set("ovens", "")
	resp := s.do("POST", "/rooms/new", blank)
	require.Equal(t, 303, resp.StatusCode)
	assert.Contains(t, text(s.page("GET", resp.Header.Get("Location"), nil, 200), "main"), "There is no oven")
}

func TestThingsAreMoved(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/rooms/1/floor", nil, 200)
	form := fields(doc, "form[data-floor]")
	require.Equal(t, "Oven 1", form.Get("name-0"))
	form.Set("x-0", "20")
	form.Del("usual")
	require.Equal(t, 303, s.do("POST", "/rooms/1/floor", form).StatusCode)
	assert.Equal(t, "20", s.page("GET", "/rooms/1/floor", nil, 200).Find("#x-0").AttrOr("value", ""))
	s.page("POST", "/rooms/1/floor", form, 409)
	form = fields(s.page("GET", "/rooms/1/floor", nil, 200), "form[data-floor]")
	form.Set("x-0", "240")
	form.Set("y-7", "-5")
	bad := s.page("POST", "/rooms/1/floor", form, 422)
	assert.Contains(t, text(bad, ".problem"), "Oven 1 and Oven 2 stand on the same place")
	assert.Contains(t, text(bad, ".problem"), "does not stand inside the room")
	assert.Equal(t, "240", bad.Find("#x-0").AttrOr("value", ""))
	form.Set("usual", "1")
	require.Equal(t, 303, s.do("POST", "/rooms/1/floor", form).StatusCode)
	assert.Equal(t, "150", s.page("GET", "/rooms/1/floor", nil, 200).Find("#x-0").AttrOr("value", ""))
}

func TestTimes(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/times", nil, 200)
	assert.Contains(t, text(doc, ".week"), "9 Rowan")
	// The week goes out and comes in again in both formats, and is the same.
	for _, file := range []string{"/times/timetable.ics", "/times/timetable.csv"} {
		out := readAll(t, s.do("GET", file, nil))
		resp := s.multipart(t, "/times/bring", map[string]string{"text": ""}, map[string]string{"file": out})
		require.Equal(t, 303, resp.StatusCode, file)
		assert.Contains(t, resp.Header.Get("Location"), url.QueryEscape("9 lessons of the week, 0 terms and days off, 0 new periods."))
	}
	assert.Equal(t, text(doc, ".week"), text(s.page("GET", "/times", nil, 200), ".week"))

	bring := func(text string) string {
		resp := s.multipart(t, "/times/bring", map[string]string{"text": text}, nil)
		require.Equal(t, 422, resp.StatusCode)
		doc, err := goquery.NewDocumentFromReader(resp.Body)
		require.NoError(t, err)
		assert.Equal(t, strings.TrimSpace(text), strings.TrimSpace(doc.Find("#text").Text()))
		return strings.TrimSpace(doc.Find(".problem").Text())
	}
	says := bring("Day,Period,Class,Room\nMonday,Period 1,8 Hazel,Food Room\nLundi,Period 1,8 Hazel,Food Room\nMonday,Period 9,8 Hazel,Food Room\nTuesday,Period 2,12 Nobody,Food Room")
	for _, part := range []string{"row 3: “Lundi” is no weekday", "row 4: there is no period “Period 9”", "row 5: there is no class “12 Nobody”", "Nothing was brought in"} {
		assert.Contains(t, strings.ToLower(says), strings.ToLower(part))
	}
	assert.Contains(t, bring("Monday,10:00–10:30,8 Hazel,Food Room"), "Food Room has 7 Alder and 8 Hazel on Monday")
	assert.Contains(t, bring("Monday,Period 2,8 Hazel,Junior corner\nMonday,Period 2,8 Hazel,Food Room"), "Food Room has 7 Alder in Period 2 on Monday already")
	assert.Contains(t, bring("Monday,Period 4,8 Hazel,Junior corner\nMonday,Period 4,8 Hazel,Food Room"), "8 Hazel is in two places on Monday")
	assert.Contains(t, bring("BEGIN:VCALENDAR\nVERSION:2.0\nBEGIN:VEVENT\nUID:1\nSUMMARY:8 Hazel\nLOCATION:Food Room\nDTSTART;TZID=Europe/London:20270328T003000\nDTEND;TZID=Europe/London:20270328T023000\nRRULE:FREQ=WEEKLY\nEND:VEVENT\nEND:VCALENDAR"), "the clocks change while it is on")
	assert.Contains(t, bring("BEGIN:VCALENDAR\nnonsense"), "Nothing was brought in")

	for says, form := range map[string]url.Values{
		"ends before it begins": {"name": {"X"}, "start": {"10:00"}, "end": {"09:00"}, "day": {"0"}},
		"is no time of day":     {"name": {"X"}, "start": {"soon"}, "end": {"09:00"}, "day": {"0"}}, "Choose the days": {"name": {"X"}, "start": {"16:00"}, "end": {"17:00"}},
		"a period with this name": {"name": {"Period 1"}, "start": {"16:00"}, "end": {"17:00"}, "day": {"0"}},
	} {
		assert.Contains(t, text(s.page("POST", "/times/periods", form, 422), ".problem"), says)
	}
	require.Equal(t, 303, s.do("POST", "/times/periods", url.Values{"name": {"Club"}, "start": {"16:00"}, "end": {"17:30"}, "day": {"1", "3"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/times", nil, 200), "main"), "Tue, Thu")
	assert.Contains(t, text(s.page("POST", "/times/terms", url.Values{"name": {"Odd"}, "first": {"2027-02-01"}, "last": {"2027-01-01"}}, 422), ".problem"), "ends before it begins")
	require.Equal(t, 303, s.do("POST", "/times/terms", url.Values{"name": {"Snow"}, "first": {"2026-12-01"}, "last": {"2026-12-02"}, "off": {"1"}}).StatusCode)
}

// When a lesson is planned, the next free one of each class is offered: on a
// school day, where nothing is planned yet.
func TestTheNextFreeLessonIsOffered(t *testing.T) {
	s := serve(t)
	offer := func() string { return text(s.page("GET", "/lessons/new", nil, 200), ".next-free") }
	assert.Contains(t, offer(), "8 Hazel Thu 26 November")
	assert.NotContains(t, offer(), "4 Finch", "that is Nell Carver’s")
	link := ""
	s.page("GET", "/lessons/new", nil, 200).Find(".next-free a").Each(func(_ int, a *goquery.Selection) {
		if strings.Contains(a.Text(), "7 Alder") {
			link = a.AttrOr("href", "")
		}
	})
	blank := s.page("GET", link, nil, 200)
	form := newLesson(blank, nil)
	at, err := url.Parse(link)
	require.NoError(t, err)
	for _, name := range []string{"class", "room", "period", "date"} {
		form.Set(name, at.Query().Get(name))
	}
	was := offer()
	require.Equal(t, 303, s.do("POST", "/lessons", form).StatusCode)
	assert.NotEqual(t, was, offer(), "what is planned is no longer free")
}

// A lesson over a change of the clocks is refused, with the reason.
func TestALessonOverAChangeOfTheClocks(t *testing.T) {
	s := serve(t)
	require.Equal(t, 303, s.do("POST", "/times/periods", url.Values{"name": {"Night"}, "start": {"00:30"}, "end": {"02:30"}, "day": {"6"}}).StatusCode)
	blank := s.page("GET", "/lessons/new", nil, 200)
	form := newLesson(blank, nil)
	form.Set("period", blank.Find(`#period option:contains("Night")`).AttrOr("value", ""))
	form.Set("date", "2027-03-28")
	assert.Contains(t, text(s.page("POST", "/lessons", form, 422), "#date-problem"), "The clocks change in this period: it says 120 minutes and has 60")
}

func TestTablesOfSafety(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/tables", nil, 200)
	for _, says := range []string{"70 °C for 2 min", "Food Standards Agency", "a spiked board", "under 9 years: an adult does it", "no legal advice"} {
		assert.Contains(t, text(doc, "main"), says)
	}
	require.Equal(t, 303, s.do("POST", "/tables/region", url.Values{"region": {"us"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/tables", nil, 200), "main"), "minced or ground meat: 68 °C for 17 s")
	assert.Contains(t, text(s.page("GET", "/lessons/11/probe", nil, 200), "#food"), "poultry")
	s.page("POST", "/tables/region", url.Values{"region": {"moon"}}, 422)

	form := fields(s.page("GET", "/tables", nil, 200), `form[action="/tables/temperatures"]`)
	form.Set("core", "stew; hot; 1\neverything; 75; 30")
	form.Set("cold", "80")
	form.Set("source", "")
	bad := s.page("POST", "/tables/temperatures", form, 422)
	for _, says := range []string{"“hot” is no temperature", "a table without a source is worth nothing", "Cold food can’t be kept at 80 °C and hot food at 57 °C"} {
		assert.Contains(t, text(bad, "main"), says)
	}
	form.Set("core", "everything; 77; 15")
	form.Set("cold", "4")
	form.Set("source", "our own adviser, 2026")
	require.Equal(t, 303, s.do("POST", "/tables/temperatures", form).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/11/safety", nil, 200), "main"), "77 °C for 15 s")

	// Who may do what enters the plan: nobody under 12 near an oven.
	adults := text(s.page("GET", "/lessons/1/print/adults", nil, 200), "main")
	assert.NotContains(t, adults, "do “Bake”")
	require.Equal(t, 303, s.do("POST", "/tables/who", url.Values{"who": {"hot_oven; 12; ; does; our head of food"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/1/print/adults", nil, 200), "main"), "do “Bake”")
	assert.NotContains(t, text(s.page("GET", "/lessons/2/print/adults", nil, 200), "main"), "do “Bake", "8 Hazel are 12")
	wrong := s.page("POST", "/tables/who", url.Values{"who": {"fire; 0; expert; helps; x\nknife; 9"}}, 422)
	assert.Contains(t, text(wrong, "main"), "“fire” is none of: knife")
	assert.Contains(t, wrong.Find("#who").Text(), "fire; 0")

	way := url.Values{"name": {"a nut milk bag"}, "says": {"Press it through the bag."}, "times": {"1.5"}, "danger": {"knife"}, "helps": {"one-handed"}}
	require.Equal(t, 303, s.do("POST", "/tables/ways", way).StatusCode)
	assert.Contains(t, text(s.page("GET", "/lessons/2/ways", nil, 200), "main"), "a nut milk bag 1.5 times as long")
	assert.Contains(t, text(s.page("POST", "/tables/ways", url.Values{"times": {"long"}}, 422), "main"), "Give it a name")
	assert.Contains(t, text(s.page("GET", "/people/trail?about=safety", nil, 200), "main"), "changed who may do what")
}
