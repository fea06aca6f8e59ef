package web_test

import (
	"context"
	"fmt"
	"html"
	"image"
	"image/jpeg"
	"io"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/train"
	"freshapron/internal/core/drawn"
	"freshapron/internal/core/skills"
	core "freshapron/internal/core/train"
)

// setPractice sets one for the class of the first lesson and returns its code.
func (s *site) setPractice(t *testing.T) string {
	t.Helper()
	require.Equal(t, 303, s.do("POST", "/classes/1/practice", url.Values{"lesson": {"1"}}).StatusCode)
	list, err := s.school.Practices(context.Background(), 1)
	require.NoError(t, err)
	return list[0].Code
}

// A class comes in by its code; each by name and picture, and nothing but practice is
// open to them.
func TestComingInToPractise(t *testing.T) {
	s := serve(t)
	code := s.setPractice(t)
	learners, err := s.school.Class(context.Background(), 1)
	require.NoError(t, err)
	first := learners.Roster[0]
	s.as("")
	assert.Equal(t, 200, s.do("GET", "/practise", nil).StatusCode)
	assert.Contains(t, text(s.page("GET", "/practise?code=bcdfghjk", nil, 404), "main"), "This code opens no practice now.")
	for _, odd := range []string{"%00", "%ff%fe", "a%2Fb", strings.Repeat("b", 5000)} {
		assert.Equal(t, 404, s.do("GET", "/practise/"+odd, nil).StatusCode, odd)
		assert.Equal(t, 404, s.do("GET", "/practise/at/"+odd, nil).StatusCode, odd)
		assert.Equal(t, 404, s.do("GET", "/bench/"+odd, nil).StatusCode, odd)
	}
	assert.Equal(t, "/practise/"+code, s.do("GET", "/practise?code="+code[:4]+"+"+strings.ToUpper(code[4:]), nil).Header.Get("Location"))
	page := text(s.page("GET", "/practise/"+code, nil, 200), "body")
	assert.Contains(t, page, first.Given)
	for _, l := range learners.Roster {
		assert.NotContains(t, page, l.Family)
	}
	come := func(form url.Values, status int) string {
		t.Helper()
		resp := s.do("POST", "/practise/"+code, form)
		require.Equal(t, status, resp.StatusCode)
		return resp.Header.Get("Location")
	}
	who := fmt.Sprint(first.ID)
	come(url.Values{"learner": {who}}, 422)
	come(url.Values{"learner": {"99999"}, "picture": {"leek"}}, 422)
	at := come(url.Values{"learner": {who}, "picture": {"leek"}}, 303)
	assert.Equal(t, 200, s.do("GET", at, nil).StatusCode)
	assert.Contains(t, text(s.page("POST", "/practise/"+code, url.Values{"learner": {who}, "picture": {"pan"}}, 422), ".problem"), "not the picture")
	assert.Contains(t, text(s.page("POST", "/practise/"+code, url.Values{"learner": {who}, "picture": {"leek"}}, 422), ".problem"), "Somebody is using this name now")
	again := come(url.Values{"learner": {who}, "picture": {"leek"}, "again": {"yes"}}, 303)
	assert.Equal(t, 404, s.do("GET", at, nil).StatusCode, "who came in again is at the other device")
	assert.Equal(t, 200, s.do("GET", again, nil).StatusCode)
	guest := come(url.Values{"learner": {"0"}}, 303)
	assert.Equal(t, 200, s.do("GET", guest, nil).StatusCode)
	assert.Equal(t, 303, s.do("GET", "/classes/1", nil).StatusCode, "nothing else is open")
	s.as("Maren Holt")
	require.Equal(t, 303, s.do("POST", "/classes/1/practice/forget", url.Values{"learner": {who}}).StatusCode)
	list, err := s.school.Practices(context.Background(), 1)
	require.NoError(t, err)
	require.Equal(t, 303, s.do("POST", "/classes/1/practice/end", url.Values{"practice": {fmt.Sprint(list[0].ID)}}).StatusCode)
	s.as("")
	assert.Equal(t, 404, s.do("GET", again, nil).StatusCode, "it is over")
	s.as("Nell Carver") // who does not teach the class
	assert.Equal(t, 403, s.do("POST", "/classes/1/practice", url.Values{"lesson": {"1"}}).StatusCode)
	assert.Equal(t, 403, s.do("POST", "/classes/1/practice/end", url.Values{"practice": {"1"}}).StatusCode)
}

// Every exercise can be answered right and wrong, in the words of whoever is judged;
// what was tried counts once and is seen by the teacher, and what is sure is evidence.
func TestPractising(t *testing.T) {
	s := serve(t)
	code := s.setPractice(t)
	learners, err := s.school.Class(context.Background(), 1)
	require.NoError(t, err)
	s.as("")
	at := s.do("POST", "/practise/"+code, url.Values{"learner": {fmt.Sprint(learners.Roster[0].ID)}, "picture": {"pear"}}).Header.Get("Location")
	token := strings.TrimPrefix(at, "/practise/at/")
	_, session, err := train.Enter(context.Background(), s.App, token)
	require.NoError(t, err)
	send := func(template string, number int, form url.Values) int {
		form.Set("template", template)
		form.Set("number", fmt.Sprint(number))
		form.Set("press", uuid.NewString())
		return s.do("POST", at, form).StatusCode
	}
	for _, template := range core.Templates {
		it, _ := session.Item(template, 0)
		form := url.Values{}
		switch {
		case it.Do != nil:
			form.Set("drawing", fmt.Sprintf(`{"in": %g, "bowl_on": true, "rests": true}`, it.Do.Want))
		case it.Knife != nil && it.Knife.Acts != nil:
			for _, a := range it.Knife.Food.Order(it.Knife.Cut) {
				form.Add("order", a.ID)
			}
		case it.Knife != nil && it.Knife.Choices != nil:
			form.Set("answer", "0")
		case it.Knife != nil:
			form.Set("drawing", `{"X": [15, 30], "Y": [0], "Z": []}`)
		case it.Task.Answer().Clock != nil:
			form.Set("answer", it.Task.Answer().Clock.String())
		case it.Task.Answer().Name != "":
			form.Set("answer", it.Task.Answer().Name)
		default:
			form.Set("answer", it.Task.Answer().Amount.String())
		}
		status := send(template, 0, form)
		assert.Equal(t, 200, status, template)
	}
	doc := s.page("POST", at, url.Values{"template": {"scaling"}, "number": {"0"}, "press": {uuid.NewString()}, "answer": {"lots"}}, 422)
	assert.Contains(t, text(doc, ".problem"), "“lots” is no number. Write it as 112.5, 3/4 or 1 1/2")
	assert.Equal(t, "lots", doc.Find("#answer").AttrOr("value", ""))
	for _, bad := range []string{"", "{}x", `{"in": -4}`, `{"in": 1e12}`} {
		status := send("do-scale", 0, url.Values{"drawing": {bad}})
		assert.Equal(t, 422, status, bad)
	}
	status := send("knife-cut", 0, url.Values{"drawing": {`{"X":[` + strings.Repeat("1,", 300) + `2]}`}})
	assert.Equal(t, 422, status)
	status = send("no-such", 0, url.Values{})
	assert.Equal(t, 303, status)

	scale, _ := session.Item("do-scale", 3)
	right := url.Values{"template": {"do-scale"}, "number": {"3"}, "press": {uuid.NewString()}, "drawing": {fmt.Sprintf(`{"in": %g, "bowl": 200, "bowl_on": true, "zero": 200}`, scale.Do.Want)}}
	assert.Contains(t, text(s.page("POST", at, right, 200), ".outcome"), "Right.")
	before, err := s.school.TriesOf(context.Background(), session.Practiser)
	require.NoError(t, err)
	s.page("POST", at, right, 200) // its answer was lost
	after, err := s.school.TriesOf(context.Background(), session.Practiser)
	require.NoError(t, err)
	assert.Len(t, after, len(before))

	for range 6 {
		right.Set("press", uuid.NewString())
		s.page("POST", at, right, 200)
	}
	known, err := s.school.Evidence(context.Background(), 1)
	require.NoError(t, err)
	standing := skills.Of(known[learners.Roster[0].ID], "tare", nine.Add(time.Hour))
	assert.Equal(t, skills.Begins, standing.Level, "practice is a beginning")
	assert.Equal(t, skills.Practised, standing.Best.How)
	s.as("Maren Holt")
	page := text(s.page("GET", "/classes/1/practice", nil, 200), "main")
	assert.Contains(t, page, "1 of 26 have practised enough.")
	assert.Contains(t, page, "Ready for Herb scones?")
	assert.NotContains(t, page, "Nothing is known yet")
}

// A bench measures its pieces at its own screen: it stands in the lesson's log, and is
// evidence for who works there.
func TestHowEvenABenchIs(t *testing.T) {
	s, _ := runs(t)
	at := s.code(t, "g4")
	s.as("")
	assert.Contains(t, text(s.page("GET", at+"/even", nil, 200), "h1"), "Bench 4")
	fields := map[string]string{"target": "10 10 10", "pieces": strings.Repeat("10 11 10\n", 6), "way": "simmer", "start": "15", "around": "98", "to": "85", "press": uuid.NewString()}
	for range 2 {
		require.Equal(t, 200, s.multipart(t, at+"/even", fields, nil).StatusCode)
	}
	fields["pieces"] = "0 0 0"
	require.Equal(t, 422, s.multipart(t, at+"/even", fields, nil).StatusCode)
	assert.Equal(t, 303, s.do("GET", "/bench/aaaaaaaaaaaa/even", nil).StatusCode)
	s.as("Maren Holt")
	log := text(s.page("GET", "/lessons/1/teach", nil, 200), ".live-log")
	assert.Equal(t, 1, strings.Count(log, "6 pieces, 10 mm on the average, differing by 0 %"))
	sizes := s.page("GET", "/lessons/1/wall", nil, 200).Find(".wall-sizes").Text()
	assert.Equal(t, "6 pieces, 10 mm on the average, differing by 0 %", sizes, "without whose they are")
	known, err := s.school.Evidence(context.Background(), 1)
	require.NoError(t, err)
	measured := 0
	for _, list := range known {
		for _, e := range list {
			if e.How == skills.Measured && e.Skill == "dice" {
				measured++
			}
		}
	}
	assert.Equal(t, 2, measured, "the two who work there, once")
}

// A teacher writes down what was seen; it stands on the learner's page, to print.
func TestWhatALearnerCan(t *testing.T) {
	s := serve(t)
	class, err := s.school.Class(context.Background(), 1)
	require.NoError(t, err)
	at := fmt.Sprintf("/classes/1/learners/%d/skills", class.Roster[0].ID)
	assert.Contains(t, text(s.page("GET", at, nil, 200), "main"), "Nothing is known yet.")
	form := url.Values{"skill": {"claw"}, "how": {"seen"}, "level": {"3"}, "press": {uuid.NewString()}}
	for range 2 {
		require.Equal(t, 303, s.do("POST", at, form).StatusCode)
	}
	page := text(s.page("GET", at, nil, 200), "main")
	assert.Contains(t, page, "Claw hold can show others seen by Maren Holt on 26 November, lately")
	known, err := s.school.Evidence(context.Background(), 1)
	require.NoError(t, err)
	assert.Len(t, known[class.Roster[0].ID], 1, "a press that arrives twice counts once")
	for field, bad := range map[string]string{"skill": "flying", "level": "9", "how": "practised"} {
		wrong := url.Values{"skill": {"claw"}, "how": {"seen"}, "level": {"2"}}
		wrong.Set(field, bad)
		assert.Equal(t, 422, s.do("POST", at, wrong).StatusCode, field)
	}
	s.as("Nell Carver")
	assert.Equal(t, 403, s.do("GET", at, nil).StatusCode, "who does not teach the class")
}

// The whole class answers by raised hands, which are counted and not kept.
func TestPractisingTogether(t *testing.T) {
	s := serve(t)
	s.setPractice(t)
	for n := range 12 {
		doc := s.page("GET", fmt.Sprintf("/classes/1/practice/wall?n=%d", n), nil, 200)
		assert.NotEmpty(t, text(doc, "h1"))
		assert.NotEmpty(t, text(doc, "details p"))
	}
	assert.Contains(t, text(s.page("GET", "/classes/1/practice/wall?n=3&hands=5", nil, 200), "main"), "5 of 26 were right. Do it once together")
	assert.Contains(t, text(s.page("GET", "/classes/1/practice/wall?n=3&hands=99", nil, 422), ".problem"), "“99” is no number of hands from 0 to 26")
	assert.Equal(t, 200, s.do("GET", "/classes/1/practice/wall?n=-5", nil).StatusCode)
}

// What is tried is chosen by how sure somebody is: the first tasks come from the next
// lesson, and the same history gives the same task.
func TestTheNextTask(t *testing.T) {
	s := serve(t)
	code := s.setPractice(t)
	at := s.do("POST", "/practise/"+code, url.Values{"learner": {"0"}}).Header.Get("Location")
	ask := text(s.page("GET", at, nil, 200), "h1")
	assert.Equal(t, ask, text(s.page("GET", at, nil, 200), "h1"))
	_, session, err := train.Enter(context.Background(), s.App, strings.TrimPrefix(at, "/practise/at/"))
	require.NoError(t, err)
	var names []string
	for _, a := range session.Source.Amounts {
		names = append(names, a.Name)
	}
	it, _ := session.Item(string(core.OnScale), 1)
	assert.Contains(t, names, it.Task.Ingredient)
}

func TestHowEven(t *testing.T) {
	s := serve(t)
	form := map[string]string{"target": "10 10 10", "pieces": "10 11 9\n14×10×10\n\n12", "way": "simmer", "start": "15", "around": "98", "to": "85", "reference": "100"}
	send := func(changes map[string]string, file string) (string, int) {
		fields := map[string]string{}
		for k, v := range form {
			fields[k] = v
		}
		for k, v := range changes {
			fields[k] = v
		}
		files := map[string]string{}
		if file != "" {
			files["file"] = file
		}
		resp := s.multipart(t, "/even", fields, files)
		doc, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return html.UnescapeString(string(doc)), resp.StatusCode
	}
	page, status := send(nil, "")
	require.Equal(t, 200, status)
	assert.Contains(t, page, "3 pieces, on the average")
	assert.Contains(t, page, "times as long")
	for says, changes := range map[string]map[string]string{
		"Line 2: “0 1 2” is no piece":      {"pieces": "10 10 10\n0 1 2"},
		"Write down the pieces":            {"pieces": ""},
		"comes from 15 to 99 °C only":      {"to": "99"},
		"“1 2 3 4” is no piece":            {"target": "1 2 3 4"},
		"One piece of 10.0 mm":             {"pieces": "10 10 10"},
		"How even they are cannot be said": {"pieces": "10"},
	} {
		page, _ := send(changes, "")
		assert.Contains(t, page, says)
		assert.Contains(t, page, "Measure", "the form is still there")
	}
	var b strings.Builder
	scene := drawn.Board("carrot", "green", 1154, 866, 8, 12, 12, 0.1, 10, 6)
	require.NoError(t, jpeg.Encode(&b, scene.Draw(), nil))
	page, status = send(map[string]string{"pieces": ""}, b.String())
	require.Equal(t, 200, status)
	assert.Contains(t, page, "8 pieces, on the average")
	outlines := func(file string) string {
		data, err := io.ReadAll(s.multipart(t, "/even", form, map[string]string{"file": file}, "Accept", "application/json").Body)
		require.NoError(t, err)
		return string(data)
	}
	assert.Equal(t, 8, strings.Count(outlines(b.String()), `"doubtful":false`))
	assert.Contains(t, outlines("no picture"), "no picture that can be read")
	page, status = send(map[string]string{"pieces": ""}, "no picture")
	assert.Equal(t, 422, status)
	assert.Contains(t, page, "no picture that can be read")
	assert.Equal(t, 200, s.do("GET", "/even/strip", nil).StatusCode)
}

// Who has no photograph tries with drawn ones, which are measured like any other.
func TestDrawnPhotographs(t *testing.T) {
	s := serve(t)
	list := s.page("GET", "/even", nil, 200).Find(`form[action="/even"] input[name=example]`)
	assert.Equal(t, 12, list.Length())
	resp := s.do("GET", "/even/example/1", nil)
	assert.Equal(t, "image/jpeg", resp.Header.Get("Content-Type"))
	_, _, err := image.Decode(resp.Body)
	assert.NoError(t, err)
	form := map[string]string{"example": "12", "target": "20 18 18", "reference": "100", "way": "simmer", "start": "15", "around": "98", "to": "85"}
	page := readAll(t, s.multipart(t, "/even", form, nil))
	assert.Contains(t, page, "9 pieces, on the average")
	assert.Contains(t, page, "of the pieces on the photograph are doubtful")
	for _, none := range []string{"0", "13", "x", "-1"} {
		assert.Equal(t, 404, s.do("GET", "/even/example/"+none, nil).StatusCode)
		form["example"] = none
		assert.Equal(t, 404, s.multipart(t, "/even", form, nil).StatusCode)
	}
}

// A certificate holds what was shown without help, and nothing that was only practised.
func TestCertificates(t *testing.T) {
	s := serve(t)
	class, err := s.school.Class(context.Background(), 1)
	require.NoError(t, err)
	who := class.Roster[1]
	at := fmt.Sprintf("/classes/1/learners/%d", who.ID)
	see := func(skill, level string) {
		t.Helper()
		require.Equal(t, 303, s.do("POST", at+"/skills", url.Values{"skill": {skill}, "how": {"seen"}, "level": {level}, "press": {uuid.NewString()}}).StatusCode)
	}
	see("onion-root", "2")
	see("fine-dice", "1")
	page := s.page("GET", at+"/certificate", nil, 200)
	assert.Equal(t, who.Name(), text(page, ".certificate h1"))
	assert.Contains(t, text(page, ".certificate ul"), "An onion with its root left on")
	assert.NotContains(t, text(page, ".certificate ul"), "Very small dice")
	s.as("Nell Carver")
	assert.Equal(t, 403, s.do("GET", at+"/certificate", nil).StatusCode, "of one's own classes only")
}

// A school changes the list of skills; what is not a list loses nothing.
func TestTheListOfSkills(t *testing.T) {
	s := serve(t)
	own := "hold; Hold it\nwhirl; Whirl it;; hold; rub the butter\n"
	page := s.page("POST", "/skills", url.Values{"skills": {own + "again; Again;; nowhere"}}, 422)
	assert.Contains(t, text(page, ".problem"), "There is no skill “nowhere”")
	assert.Contains(t, page.Find("textarea").Text(), "again; Again;; nowhere")
	require.Equal(t, 422, s.do("POST", "/skills", url.Values{"skills": {""}}).StatusCode)
	require.Equal(t, 303, s.do("POST", "/skills", url.Values{"skills": {own}}).StatusCode)
	assert.Equal(t, 2, s.page("GET", "/skills", nil, 200).Find("tbody tr").Length())
	assert.Contains(t, text(s.page("GET", "/classes/1/practice", nil, 200), "main"), "Whirl it")
	require.Equal(t, 303, s.do("POST", "/skills", url.Values{"skills": {own}, "how": {"shipped"}}).StatusCode)
	assert.Equal(t, len(skills.Shipped.Skills), s.page("GET", "/skills", nil, 200).Find("tbody tr").Length())
	s.as("Tomas Finney")
	assert.Equal(t, 403, s.do("POST", "/skills", url.Values{"skills": {own}}).StatusCode)
}
