package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/jsonld"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/recipetext"
)

// dish returns the address of a dish of the demonstration by its title.
func (s *site) dish(title, status string) string {
	s.t.Helper()
	doc := s.page("GET", "/recipes?status="+status, nil, 200)
	address := ""
	doc.Find(".shelf tbody th a").Each(func(_ int, a *goquery.Selection) {
		if a.Text() == title {
			address, _ = a.Attr("href")
		}
	})
	require.NotEmpty(s.t, address, title)
	return address
}

// writing begins to write and returns the address of the edit.
func (s *site) writing(path string) string {
	s.t.Helper()
	resp := s.do("POST", path, url.Values{})
	require.Equal(s.t, 303, resp.StatusCode)
	return resp.Header.Get("Location")
}

// form returns the fields of the recipe form.
func recipeForm(doc *goquery.Document) url.Values {
	form := url.Values{"revision": {doc.Find("#recipe-form input[name=revision]").AttrOr("value", "")}}
	doc.Find("#recipe-form .edit-fields").Find("input, textarea").Each(func(_ int, f *goquery.Selection) {
		name, _ := f.Attr("name")
		value, _ := f.Attr("value")
		if goquery.NodeName(f) == "textarea" {
			value = strings.TrimPrefix(f.Text(), "\n")
		}
		form.Set(name, value)
	})
	return form
}

func TestShelf(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", "/recipes", nil, 200)
	assert.Equal(t, "14 dishes", text(doc, ".count"))
	for query, want := range map[string]string{
		"q=zucchini":             "0 of 14 dishes",
		"q=leek+tartlet":         "1 of 14 dishes",
		"q=claw":                 "3 of 14 dishes",
		"oven=no&diet=vegan":     "1 of 14 dishes",
		"without=milk&period=65": "2 of 14 dishes",
		"skill=kneading":         "1 of 14 dishes",
		"pence=40":               "2 of 14 dishes",
		"q=%3Cscript%3E":         "0 of 14 dishes",
		"pence=lots&period=x":    "14 dishes",
	} {
		assert.Equal(t, want, text(s.page("GET", "/recipes?"+query, nil, 200), ".count"), query)
	}
	assert.Equal(t, "2 dishes", text(s.page("GET", "/recipes?status=draft", nil, 200), ".count"))
	part := s.page("GET", "/recipes?q=dal", nil, 200, "HX-Request", "true", "HX-Target", "found")
	assert.Zero(t, part.Find("nav").Length(), "htmx gets what was found alone")
	assert.Equal(t, 1, part.Find("tbody tr").Length())
}

func TestRecipePage(t *testing.T) {
	s := serve(t)
	doc := s.page("GET", s.dish("Leek tartlets", "ready"), nil, 200)
	// A pair: 5/1.8 + 5 + 1.5 + 5 + 7 + 2.5 + 0.5 + 16 + 2 = 42:17.
	assert.Contains(t, text(doc, ".verdicts"), "43 min in all")
	assert.Contains(t, text(doc, ".verdicts"), "Nothing to mend")
	assert.Contains(t, text(doc, "#ingredients"), "cereals containing gluten (wheat), eggs, milk, mustard")
	assert.Equal(t, 12, doc.Find("svg.flow g").Length())
	assert.Equal(t, 13, doc.Find("svg.flow .flow-link").Length(), "what waits for what")
	assert.Contains(t, text(doc, "#method"), "after “Rest the pastry in the fridge” within 15 min")
	assert.Empty(t, doc.Find("[style], [onclick], script:not([src])").Nodes)
}

func TestMendingAndSettingAside(t *testing.T) {
	s := serve(t)
	path := s.dish("Oat and apricot tray bake", "draft")
	doc := s.page("GET", path, nil, 200)
	before := doc.Find(".findings > li").Length()
	require.Greater(t, before, 10)
	item := doc.Find(".findings > li").FilterFunction(func(_ int, li *goquery.Selection) bool {
		return strings.Contains(li.Text(), "nobody can break a part")
	})
	key := item.Find("input[name=key]").AttrOr("value", "")
	require.Equal(t, 303, s.do("POST", path+"/findings", url.Values{"key": {key}, "do": {"mend"}}).StatusCode)
	doc = s.page("GET", path, nil, 200)
	assert.Contains(t, text(doc, "#ingredients"), "2eggs")
	assert.Less(t, doc.Find(".findings > li").Length(), before)

	key = doc.Find(".findings input[name=key]").First().AttrOr("value", "")
	require.Equal(t, 303, s.do("POST", path+"/findings", url.Values{"key": {key}, "do": {"aside"}, "reason": {"we know <b>"}}).StatusCode)
	doc = s.page("GET", path, nil, 200)
	assert.Contains(t, text(doc, ".is-aside"), "Set aside: we know <b>")
	require.Equal(t, 303, s.do("POST", path+"/findings", url.Values{"key": {key}, "do": {"open"}}).StatusCode)
	assert.Zero(t, s.page("GET", path, nil, 200).Find(".is-aside").Length())
	assert.Equal(t, 200, s.do("POST", path+"/findings", url.Values{"key": {"nonsense"}, "do": {"mend"}}).StatusCode, "what is gone is shown as it is")

	versions := s.page("GET", path+"/versions", nil, 200)
	assert.Equal(t, 3, versions.Find(".findings > li").Length())
	require.Equal(t, 303, s.do("POST", path+"/versions", url.Values{"version": {"1"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", path, nil, 200), "#ingredients"), "1½eggs", "as it was")
	s.page("POST", path+"/versions", url.Values{"version": {"99"}}, 404)
}

func TestWritingANewDish(t *testing.T) {
	s := serve(t)
	edit := s.writing("/recipes")
	doc := s.page("GET", edit, nil, 200)
	form := recipeForm(doc)
	form.Set("ingredients", "Base:\n200 g plian flour\n½ x 400 g tin chopped tomatoes\nsome jam")
	form.Set("steps[0].title", "Mix")
	form.Set("steps[0].timing", "mix, 5 mins")
	form.Set("steps[0].text", "Wash your hands. Mix everything.")

	reading := s.page("POST", edit+"/read", form, 200, "HX-Request", "true")
	assert.Zero(t, reading.Find("nav").Length())
	lines := reading.Find(".taking")
	require.Equal(t, 3, lines.Length())
	assert.True(t, lines.Eq(0).HasClass("unsure"))
	assert.Contains(t, lines.Eq(0).Find("select").First().Text(), "plain flour")
	assert.Contains(t, lines.Eq(1).Text(), "200 g")
	assert.Contains(t, lines.Eq(2).Text(), "“some” is no amount")
	form.Set("seen", reading.Find("[name=seen]").AttrOr("value", ""))
	s.page("POST", edit+"/read", form, 204, "HX-Request", "true") // shown already: nothing on the page is replaced

	// A closed laptop: everything is still there.
	again := recipeForm(s.page("GET", edit, nil, 200))
	assert.Equal(t, form.Get("ingredients"), again.Get("ingredients"))
	assert.Contains(t, text(s.page("GET", "/recipes", nil, 200), ".being-written"), "A dish without a name")

	form.Set("save", "ready")
	bad := s.page("POST", edit, form, 422)
	assert.Equal(t, "Give the dish a name.", text(bad, "#title-problem"))
	assert.Equal(t, "mix, 5 mins", recipeForm(bad).Get("steps[0].timing"), "kept")
	form.Set("revision", recipeForm(bad).Get("revision"))

	form.Set("title", "Tomato <script>alert(1)</script> base 🍅")
	form.Del("save")
	form.Set("correct", "0")
	form.Set("is[0]", "plain-flour")
	require.Equal(t, 303, s.do("POST", edit, form).StatusCode)
	form = recipeForm(s.page("GET", edit, nil, 200))
	assert.Contains(t, form.Get("ingredients"), "200 g plian flour {is plain-flour}")

	form.Set("save", "ready")
	resp := s.do("POST", edit, form)
	require.Equal(t, 303, resp.StatusCode)
	path := resp.Header.Get("Location")
	doc = s.page("GET", path, nil, 200)
	assert.Equal(t, "Tomato <script>alert(1)</script> base 🍅", text(doc, "h1"))
	assert.Zero(t, doc.Find("main script").Length(), "shown, not run")
	s.page("GET", edit, nil, 404)
	assert.Contains(t, text(s.page("GET", "/lessons/new", nil, 200), "#dish-"+strings.TrimPrefix(path, "/recipes/")+", .choices"), "base 🍅", "ready to be planned with")
}

func TestStepsMoveComeAndGo(t *testing.T) {
	s := serve(t)
	edit := s.writing(s.dish("Herb scones", "ready") + "/edit")
	press := func(name, value string) url.Values {
		form := recipeForm(s.page("GET", edit, nil, 200))
		form.Set(name, value)
		require.Equal(t, 303, s.do("POST", edit, form).StatusCode)
		return recipeForm(s.page("GET", edit, nil, 200))
	}
	form := press("down", "0")
	assert.Equal(t, "Flour the tray", form.Get("steps[0].title"))
	assert.Equal(t, "weigh", form.Get("steps[1].id"), "a step keeps what others call it")
	form = press("up", "1")
	assert.Equal(t, "Weigh and measure", form.Get("steps[0].title"))
	form = press("add", "1")
	assert.Equal(t, "prepare, 3 min, after cool", form.Get("steps[10].timing"))
	form = press("remove", "10")
	assert.Empty(t, form.Get("steps[10].timing"))
	form.Set("steps[3].timing", "mix, five minutes")
	form.Set("save", "ready")
	bad := s.page("POST", edit, form, 422)
	form.Set("revision", recipeForm(bad).Get("revision"))
	assert.Contains(t, text(bad, "#step-3-timing-problem"), "“five minutes” is not understood")
	form.Set("steps[3].timing", "mix, 5 min, after dough")
	bad = s.page("POST", edit, form, 422)
	assert.Contains(t, text(bad, "p.problem[role=alert]"), "wait for each other in a circle: dough → rub → dough", "rub waits for dough, dough for rub")
}

// What is kept while somebody types can arrive late, or from a window that has
// been left behind: it replaces nothing newer.
func TestLateArrivals(t *testing.T) {
	s := serve(t)
	edit := s.writing("/recipes")
	early := recipeForm(s.page("GET", edit, nil, 200))
	early.Set("why", "early")
	early.Set("typed", "1000")
	later := url.Values{}
	for k := range early {
		later.Set(k, early.Get(k))
	}
	later.Set("why", "later")
	later.Set("typed", "2000")
	why := func() string { return recipeForm(s.page("GET", edit, nil, 200)).Get("why") }
	s.page("POST", edit+"/read", later, 200)
	s.page("POST", edit+"/read", early, 200)
	assert.Equal(t, "later", why(), "the order of typing counts, not of arrival")

	later.Set("add", "1")
	require.Equal(t, 303, s.do("POST", edit, later).StatusCode)
	later.Del("add")
	later.Set("typed", "3000")
	behind := s.page("POST", edit+"/read", later, 200)
	assert.Contains(t, text(behind, ".reading .problem"), "Another window has gone on")
	form := recipeForm(s.page("GET", edit, nil, 200))
	_, added := form["steps[1].title"]
	assert.True(t, added, "the step is still there")

	later.Set("why", "left behind")
	later.Set("save", "nothing")
	fork := s.do("POST", edit, later).Header.Get("Location")
	assert.NotEqual(t, edit, fork, "a writing of its own")
	assert.Equal(t, "left behind", recipeForm(s.page("GET", fork, nil, 200)).Get("why"))
	assert.Equal(t, "later", why())
}

func TestTwoWriters(t *testing.T) {
	s := serve(t)
	path := s.dish("Herb scones", "ready")
	mine, theirs := s.writing(path+"/edit"), s.writing(path+"/edit")
	assert.Contains(t, text(s.page("GET", mine, nil, 200), ".dish-state"), "being written in another window")

	form := recipeForm(s.page("GET", theirs, nil, 200))
	form.Set("why", "Theirs")
	form.Set("save", "ready")
	require.Equal(t, 303, s.do("POST", theirs, form).StatusCode)

	form = recipeForm(s.page("GET", mine, nil, 200))
	form.Set("why", "Mine")
	form.Set("save", "ready")
	doc := s.page("POST", mine, form, 409)
	assert.Equal(t, 1, doc.Find(".compare tbody tr").Length(), "the one field that differs")
	assert.Equal(t, "whyTheirsMine", text(doc, ".compare tbody tr"))
	assert.Equal(t, "Mine", recipeForm(doc).Get("why"), "kept")
	form.Set("revision", recipeForm(doc).Get("revision"))
	form.Del("save")
	form.Set("over", "1")
	require.Equal(t, 303, s.do("POST", mine, form).StatusCode)
	assert.Equal(t, "Mine", text(s.page("GET", path, nil, 200), ".recipe .lead"))
	assert.Equal(t, 2, s.page("GET", path+"/versions", nil, 200).Find(".findings > li").Length(), "theirs can be brought back")
}

func TestDuplicateSetAsideAndLevels(t *testing.T) {
	s := serve(t)
	path := s.dish("Rainbow slaw", "ready")
	form := url.Values{"form": {"6f1f7e0e-6f35-4a5e-8f0c-0f3f3c1f0a01"}}
	first := s.do("POST", path+"/duplicate", form).Header.Get("Location")
	assert.Equal(t, first, s.do("POST", path+"/duplicate", form).Header.Get("Location"), "sent twice, made once")
	assert.Equal(t, "Copy of Rainbow slaw", text(s.page("GET", first, nil, 200), "h1"))
	level := s.do("POST", path+"/duplicate", url.Values{"level": {"Juniors"}}).Header.Get("Location")
	assert.Contains(t, text(s.page("GET", level, nil, 200), ".recipe .small"), "for Juniors")
	assert.Contains(t, text(s.page("GET", path, nil, 200), ".keep"), "Other versions: Rainbow slaw draft")
	require.Equal(t, 303, s.do("POST", path+"/status", url.Values{"to": {"aside"}}).StatusCode)
	assert.Equal(t, "13 dishes", text(s.page("GET", "/recipes", nil, 200), ".count"))
	require.Equal(t, 303, s.do("POST", path+"/status", url.Values{"to": {"ready"}}).StatusCode)
	assert.Equal(t, "14 dishes", text(s.page("GET", "/recipes", nil, 200), ".count"))
	s.page("POST", path+"/status", url.Values{"to": {"eaten"}}, 404)
}

func TestAmountsPage(t *testing.T) {
	s := serve(t)
	path := s.dish("Herb scones", "ready") + "/amounts"
	doc := s.page("GET", path+"?pieces=5&sets=14", nil, 200)
	row := doc.Find(".amounts tbody tr").FilterFunction(func(_ int, r *goquery.Selection) bool {
		return strings.HasPrefix(strings.TrimSpace(r.Text()), "baking powder")
	})
	// 5/8 tsp are 3.125 ml or 2.81 g: 3 g on the scale is 7 % and 17 % off.
	assert.Contains(t, row.Text(), "At best ± 23 %, and 10 % is the limit.")
	way := row.Find(".way a").First()
	assert.Contains(t, row.Text(), "Measure 39 g once for the whole class (14 sets)") // 14 · 2.8125 g
	doc = s.page("GET", path+way.AttrOr("href", ""), nil, 200)
	assert.Contains(t, text(doc, ".applied"), "Measure 39 g once")
	doc = s.page("GET", path+"?pieces=0&sets=many", nil, 422)
	assert.Contains(t, text(doc, "#pieces-problem"), "“0” is not a whole number between 1 and 1000.")
	assert.Equal(t, "many", doc.Find("#sets").AttrOr("value", ""), "kept")

	slow := s.page("GET", s.dish("Jam sponge roll", "ready")+"/amounts?tin=5&pieces=6", nil, 200)
	assert.Contains(t, text(slow, ".lead"), "1 times the recipe, in a roll tin, 30 × 20 cm")
	assert.Equal(t, 9, slow.Find(".tins tbody tr").Length())
}

func TestComposing(t *testing.T) {
	s := serve(t)
	path := s.dish("Rainbow slaw", "ready") + "/choose"
	doc := s.page("GET", path+"?pick=0.0&pick=0.1&limit=60", nil, 200)
	assert.Contains(t, text(doc, ".verdict"), "over the limit")
	assert.Contains(t, text(doc, ".ingredients"), "raisins")
	doc = s.page("GET", path+"?pick=0.0&limit=soon", nil, 200)
	assert.Contains(t, text(doc, ".problem"), "1 chosen, and it is 2 of 5")
	assert.Contains(t, text(doc, "#limit-problem"), "“soon” is no number of pence.")
	s.page("GET", s.dish("Herb scones", "ready")+"/choose", nil, 404)
}

func TestPapers(t *testing.T) {
	s := serve(t)
	path := s.dish("Leek tartlets", "ready")
	full := s.page("GET", path+"/card?pieces=8", nil, 200)
	assert.Contains(t, text(full, ".card-columns"), "150 gplain flour")
	assert.Contains(t, text(full, ".sheet-foot"), "Contains: cereals containing gluten (wheat), eggs, milk, mustard.")
	short := s.page("GET", path+"/card?form=short", nil, 200)
	assert.Equal(t, 12, short.Find(".big-steps > li > svg").Length(), "an icon for each step")
	blank := s.page("GET", path+"/preparation", nil, 200)
	assert.NotContains(t, text(blank, "main"), "150 g", "the learner fills it in")
	key := s.page("GET", path+"/preparation?key=1", nil, 200)
	assert.Contains(t, text(key, "main"), "150 g")
	assert.Contains(t, text(key, "main"), "It scrambles")
}

func TestTakingOut(t *testing.T) {
	s := serve(t)
	path := s.dish("Leek tartlets", "ready")
	body := func(file string) string {
		resp := s.do("GET", path+file, nil)
		require.Equal(t, 200, resp.StatusCode)
		assert.Contains(t, resp.Header.Get("Content-Disposition"), `filename=leek-tartlets.`)
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return string(data)
	}
	r := recipetext.Read(body("/recipe.md"), measure.Metric, pantry.Stock())
	assert.Empty(t, r.Notes)
	assert.Len(t, r.Recipe.Steps, 12)
	found, err := jsonld.Read([]byte(body("/recipe.jsonld")), measure.Metric, pantry.Stock())
	require.NoError(t, err)
	assert.Len(t, found[0].Recipe.Ingredients, 10)
	d, err := lessonfile.ReadDish(strings.NewReader(body("/dish.json")))
	require.NoError(t, err)
	assert.Equal(t, "tartlets"[0], d.ID[len(d.ID)-8])
	assert.Len(t, d.Steps, 12)
}

// upload sends a file to the import.
func (s *site) upload(t *testing.T, data []byte, paste string) *http.Response {
	t.Helper()
	files := map[string]string{}
	if data != nil {
		files["file"] = string(data)
	}
	return s.multipart(t, "/recipes/import", map[string]string{"text": paste}, files)
}

func TestBringingIn(t *testing.T) {
	s := serve(t)
	resp := s.upload(t, nil, "Carrot squares\nServes 4\n\nIngredients\n200 g carrots\n100 g plain flour\n\nMethod\nGrate the carrots.\nBake at 180C for 20 minutes.\n\nNutrition\nmuch")
	require.Equal(t, 303, resp.StatusCode)
	doc := s.page("GET", resp.Header.Get("Location"), nil, 200)
	assert.Equal(t, "Carrot squares", text(doc, "h1"))
	form := recipeForm(doc)
	assert.Equal(t, "much", strings.TrimSpace(form.Get("leftover")), "shown for completing")
	assert.Contains(t, form.Get("steps[1].timing"), "wait 20 min, after grate-the-carrots, oven 180 °C while waiting")

	var list []map[string]any
	for n := range 25 {
		list = append(list, map[string]any{"@context": "https://schema.org", "@type": "Recipe", "name": fmt.Sprintf("Dish %d <b>", n), "recipeYield": 4, "recipeIngredient": []string{"2 eggs"}})
	}
	data, err := json.Marshal(list)
	require.NoError(t, err)
	resp = s.upload(t, data, "")
	require.Equal(t, 200, resp.StatusCode)
	page, err := goquery.NewDocumentFromReader(resp.Body)
	require.NoError(t, err)
	assert.Equal(t, 25, page.Find(".brought li").Length())
	assert.Equal(t, "25 of 25", page.Find(".progress").Last().Text())
	assert.Zero(t, page.Find(".brought b").Length())
	assert.Equal(t, "27 dishes", text(s.page("GET", "/recipes?status=draft", nil, 200), ".count"))

	for _, c := range []struct {
		data        []byte
		paste, says string
	}{
		{nil, "", "The file is empty."},
		{nil, "Hello", "No line in it can be read as an ingredient or a step"},
		{[]byte("{"), "kept text", "Is not JSON"},
		{[]byte("%PDF-1.7"), "", "This is a PDF, whose text can't be read: open it, copy the text and paste it."},
		{[]byte(`{"a": 1}`), "", "Is neither a schema.org Recipe"},
		{bytes.Repeat([]byte("x"), 18<<20), "", "The file is over 16 MB"},
	} {
		resp := s.upload(t, c.data, c.paste)
		assert.Equal(t, 422, resp.StatusCode, c.says)
		page, err := goquery.NewDocumentFromReader(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, page.Find(".problem").Text(), c.says)
		if len(c.data) < 1<<20 {
			assert.Equal(t, c.paste, strings.TrimPrefix(page.Find("#text").Text(), "\n"), "kept")
		}
	}
}

func TestPantryPages(t *testing.T) {
	s := serve(t)
	all := len(pantry.Stock().List())
	assert.Equal(t, fmt.Sprintf("%d of %[1]d ingredients", all), text(s.page("GET", "/pantry", nil, 200), ".count"))
	assert.Contains(t, text(s.page("GET", "/pantry?from=500", nil, 200), ".pantry"), "yellow split peas")
	assert.NotContains(t, text(s.page("GET", "/pantry?from=500", nil, 200), "#found"), "Those after")
	assert.Contains(t, text(s.page("GET", "/pantry?q=zucchini", nil, 200), ".pantry"), "courgette")

	form := url.Values{"version": {"0"}, "name": {"butter"}, "fillings": {"level 0.91"}, "role": {"structure"}, "packs": {"250 g block 300"}, "allergen": {"milk"}, "from": {"milk"}, "also": {"unsalted butter"}}
	require.Equal(t, 303, s.do("POST", "/pantry/butter", form).StatusCode)
	assert.Contains(t, text(s.page("GET", "/pantry?q=butter", nil, 200), ".pantry"), "level 0.91")
	// Half of 50 g of butter for four scones: 25 g of 300p for 250 g.
	assert.Contains(t, text(s.page("GET", s.dish("Herb scones", "ready"), nil, 200), ".verdicts"), "52p each")
	second := s.page("POST", "/pantry/butter", form, 409)
	assert.Contains(t, text(second, ".problem"), "This ingredient was changed after this page was opened")
	assert.Equal(t, "1", second.Find("input[name=version]").AttrOr("value", ""), "and can be saved over theirs")

	for field, c := range map[string][2]string{
		"name": {"", "Give it a name."}, "fillings": {"spooned heavy", "is no filling such as"}, "packs": {"a bag", "is no pack such as"},
		"one": {"-3", "is no mass of one"}, "keeps": {"long", "is no number of days"}, "season": {"winter", "is no season such as"},
	} {
		bad := url.Values{"name": {"lucuma"}, "role": {"other"}}
		bad.Set(field, c[0])
		doc := s.page("POST", "/pantry/new", bad, 422)
		assert.Contains(t, text(doc, "#"+field+"-problem"), c[1])
		assert.Equal(t, c[0], doc.Find("#"+field).AttrOr("value", ""), "kept")
	}
	assert.Contains(t, text(s.page("POST", "/pantry/new", url.Values{"name": {"Zucchini"}}, 422), "#name-problem"), "The pantry has courgette already")
	require.Equal(t, 303, s.do("POST", "/pantry/new", url.Values{"name": {"lucuma"}, "role": {"other"}, "unknown": {"1"}}).StatusCode)
	assert.Contains(t, text(s.page("GET", "/pantry?q=lucuma", nil, 200), ".pantry"), "not looked up")
	s.page("GET", "/pantry/plutonium", nil, 404)
}

func TestHowTheSchoolMeasures(t *testing.T) {
	s := serve(t)
	doc := s.page("POST", "/pantry/settings", url.Values{"units": {"troy"}, "first": {"weight"}, "declare": {"nine"}, "agent": {"0"}, "structure": {"5"}, "other": {"ten"}}, 422)
	assert.Equal(t, "Choose one.", text(doc, "#units-problem"))
	assert.Contains(t, text(doc, "#agent-problem"), "“0” is not a number between 1 and 50")
	require.Equal(t, 303, s.do("POST", "/pantry/settings", url.Values{"units": {"au"}, "first": {"volume"}, "declare": {"nine"}, "agent": {"25"}, "structure": {"5"}, "other": {"10"}}).StatusCode)
	doc = s.page("GET", s.dish("Herb scones", "ready")+"/amounts?pieces=5", nil, 200)
	assert.Equal(t, "volume", doc.Find("#first option[selected]").AttrOr("value", ""))
	assert.NotContains(t, text(doc, ".amounts"), "baking powder At best", "25 % is allowed now")
	assert.Contains(t, text(s.page("GET", s.dish("Leek tartlets", "ready"), nil, 200), "#ingredients"), "Contains milk, eggs, wheat.", "mustard is not on the list of nine")
}
