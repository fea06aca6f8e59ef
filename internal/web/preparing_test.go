package web_test

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"net/url"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/PuerkitoBio/goquery"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/store"
)

// The week begins with what is missing; each lesson says how ready it is, with a
// way to mend it.
func TestTheWeek(t *testing.T) {
	s := serve(t)
	s.as("Tomas Finney")
	doc := s.page("GET", "/prepare", nil, 200)
	first := text(doc, ".first")
	for _, says := range []string{"Quick Rise raising powder came in place of Baking powder", "chives, snipped", "ordered from Fernhill Growers by Wednesday 25 November", "Order from Fernhill Growers today", "Saltmarsh Provisions comes today"} {
		assert.Contains(t, first, says)
	}
	assert.NotRegexp(t, `\d{4}-\d{2}-\d{2}`, text(doc, "main"), "days in words")
	assert.Contains(t, text(doc, ".week article"), "laid out7 of 14")
	assert.Contains(t, text(s.page("GET", "/prepare?from=2026-12-07", nil, 200), ".week"), "no practical lesson")
	s.page("GET", "/prepare?from=yesterday", nil, 200)
	needs := text(s.page("GET", "/prepare/needs?on=2026-11-26", nil, 200), ".needs-list")
	assert.Contains(t, needs, "from the garden, herb spiral")
	assert.Contains(t, needs, "Bench 1–8, 10–12, Demonstration, Spare")
}

// Another product that came is told at the lessons that use it until somebody has
// decided, and a technician does not decide who can eat it.
func TestAnotherProductThatCame(t *testing.T) {
	s := serve(t)
	const says = "Quick Rise raising powder came in place of Baking powder, tub and contains wheat"
	assert.Contains(t, text(s.page("GET", "/lessons/1", nil, 200), "main"), says)
	assert.Contains(t, text(s.page("GET", "/lessons/1/food", nil, 200), "main"), says)
	assert.NotContains(t, text(s.page("GET", "/lessons/3", nil, 200), "main"), says, "there is none in it")
	line := s.page("GET", "/prepare/orders/1", nil, 200).Find(`.check-in form[action$="/decided"] input[name=line]`).AttrOr("value", "")
	require.NotEmpty(t, line)
	s.as("Tomas Finney")
	assert.Equal(t, 403, s.do("POST", "/prepare/orders/1/decided", url.Values{"line": {line}, "says": {"fine"}}).StatusCode)
	s.as("Maren Holt")
	assert.Equal(t, 404, s.do("POST", "/prepare/orders/2/decided", url.Values{"line": {line}, "says": {"fine"}}).StatusCode, "a line of another order")
	require.Equal(t, 303, s.do("POST", "/prepare/orders/1/decided", url.Values{"line": {line}, "says": {"bench 8 uses bicarbonate"}}).StatusCode)
	assert.NotContains(t, text(s.page("GET", "/lessons/1", nil, 200), "main"), says)
}

// A price list is shown with what it changes, what is new and what can't be, and changes
// nothing before it is taken; rows that can't be are not taken.
func TestReadingAPriceList(t *testing.T) {
	s := serve(t)
	const leek = "tr:contains('Leeks')"
	supplier := s.page("GET", "/prepare/prices", nil, 200).Find(`select[name=supplier] option:contains("Fernhill Growers")`).AttrOr("value", "")
	require.NotEmpty(t, supplier)
	before := s.page("GET", "/prepare/prices?q=F-leek", nil, 200).Find(leek).Text()
	send := func(to, list string, status int) string {
		t.Helper()
		resp := s.multipart(t, to, map[string]string{"supplier": supplier, "text": list}, nil)
		require.Equal(t, status, resp.StatusCode)
		return readAll(t, resp)
	}
	const list = "Code,Product,Pack,Price\nF-leek,Leeks,3,1.55\nF-new,Purple carrots 1kg,,0.90\nF-bad,Kale,1 kg,0\nF-odd,,1 kg,1.00"
	shown := send("/prepare/prices", list, 200)
	for _, says := range []string{"£1.55", "Purple carrots", "90p", "the price is 0", "Row 4", "Row 5"} {
		assert.Contains(t, shown, says)
	}
	assert.Equal(t, before, s.page("GET", "/prepare/prices?q=F-leek", nil, 200).Find(leek).Text(), "looking changes nothing")
	back := send("/prepare/prices", "Fruit and vegetables of the week", 422)
	assert.Contains(t, back, "Fruit and vegetables of the week</textarea>", "what was pasted is still there")
	assert.Contains(t, back, `<option value="`+supplier+`" selected>Fernhill Growers`)
	s.as("Tomas Finney")
	send("/prepare/prices/take", list, 303)
	s.as("Maren Holt")
	assert.Contains(t, s.page("GET", "/prepare/prices?q=F-leek", nil, 200).Find("main").Text(), "£1.55")
	assert.NotContains(t, s.page("GET", "/prepare/prices?q=F-bad", nil, 200).Find("table").Text(), "Kale")
}

// Lists go out as CSV and XLSX; formulas in cells stay text.
func TestListsAsFiles(t *testing.T) {
	s := serve(t)
	for path, says := range map[string]string{
		"/prepare/orders/1/order.csv": "S-baking-powder", "/prepare/store.csv": "plain flour", "/prepare/fetch.csv?on=2026-11-26": "butter", "/prepare/prices.csv": "F-leek", "/lessons/1/trays.csv": "gluten-free plain flour",
	} {
		resp := s.do("GET", path, nil)
		require.Equal(t, 200, resp.StatusCode, path)
		data, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		assert.Contains(t, string(data), says, path)
		assert.Contains(t, resp.Header.Get("Content-Disposition"), ".csv")
		x := s.do("GET", strings.Replace(path, ".csv", ".xlsx", 1), nil)
		data, err = io.ReadAll(x.Body)
		require.NoError(t, err)
		assert.True(t, bytes.HasPrefix(data, []byte("PK")), path)
		assert.Equal(t, 404, s.do("GET", strings.Replace(path, ".csv", ".pdf", 1), nil).StatusCode)
	}
	data, err := io.ReadAll(s.do("GET", "/prepare/day.ics", nil).Body)
	require.NoError(t, err)
	assert.Contains(t, string(data), "SUMMARY:Lay out the trays of 12 benches")
	require.Equal(t, 303, s.do("POST", "/prepare/store", url.Values{"what": {"2 =HYPERLINK(1)"}}).StatusCode)
	data, err = io.ReadAll(s.do("GET", "/prepare/store.csv", nil).Body)
	require.NoError(t, err)
	assert.NotContains(t, string(data), "\n=")
}

// Labels of every grid lie on their sheets, small and many ones too; nobody's name
// stands on one.
func TestLabels(t *testing.T) {
	s := serve(t)
	class, err := s.school.Class(context.Background(), 1)
	require.NoError(t, err)
	for kind, count := range map[string]int{"trays": 14, "kept": 12, "home": 26} {
		for grid, each := range map[string]int{"3x7": 21, "2x7": 14, "4x10": 40, "1x3": 3, "8×20": 160} {
			doc := s.page("GET", "/lessons/1/print/labels?kind="+kind+"&grid="+url.QueryEscape(grid)+"&used=2", nil, 200)
			assert.Equal(t, count, doc.Find(".label-sheet g").Length())
			assert.Equal(t, (count+2+each-1)/each, doc.Find(".label-sheet").Length(), "%s, %s", kind, grid)
			number := func(text string) float64 {
				n, err := strconv.ParseFloat(text, 64)
				require.NoError(t, err)
				return n
			}
			doc.Find(".label-edge").Each(func(_ int, e *goquery.Selection) {
				x, y, w, h := number(e.AttrOr("x", "")), number(e.AttrOr("y", "")), number(e.AttrOr("width", "")), number(e.AttrOr("height", ""))
				assert.True(t, x >= 0 && y >= 0 && x+w <= 210.01 && y+h <= 297.01, "%s: %f %f %f %f", grid, x, y, w, h)
			})
			for _, p := range class.Roster {
				assert.NotContains(t, text(doc, "main"), p.Name())
			}
		}
	}
	assert.Contains(t, text(s.page("GET", "/lessons/1/print/labels?kind=home&grid=2x7", nil, 200), "main"), "Contains: cereals containing gluten (wheat), milk")
	for query, says := range map[string]string{"grid=9x1": "is no grid such as 3x7", "grid=a": "is no grid", "grid=3x7&used=21": "is not between 0 and 20", "grid=3x7&used=x": "is not between"} {
		assert.Contains(t, text(s.page("GET", "/lessons/1/print/labels?kind=trays&"+query, nil, 422), "main"), says)
	}
}

// A page that looks at a list hears of ticks, and its stream ends with the program.
func TestTheStreamOfTicks(t *testing.T) {
	s := serve(t)
	resp := s.do("GET", "/prepare/stream?list=fetch/2026-11-26", nil)
	require.Equal(t, 200, resp.StatusCode)
	require.Equal(t, "text/event-stream", resp.Header.Get("Content-Type"))
	lines := bufio.NewScanner(resp.Body)
	data := func() string {
		for lines.Scan() {
			if d, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				return d
			}
		}
		return ""
	}
	assert.Contains(t, data(), `"line":"butter"`)
	tick := func(body string) int {
		return s.json("/prepare/ticks", body)
	}
	body := `[{"list":"fetch/2026-11-26","line":"salt","done":true,"made":"2026-11-26T08:59:00Z","press":"5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f60"}]`
	require.Equal(t, 204, tick(body))
	require.Equal(t, 204, tick(body), "sent twice")
	for heard := ""; !strings.Contains(heard, `"line":"salt"`); heard = data() { // the beginning may come twice
		require.NoError(t, lines.Err())
	}
	assert.Equal(t, 400, tick("{"))
	assert.Equal(t, 422, tick(`[{"list":"trays/4711","line":"g1","press":"5a4f3c1e-0b2d-4c6e-8f9a-1b2c3d4e5f61"}]`), "a list that is gone")
	assert.Equal(t, 404, s.do("GET", "/prepare/stream", nil).StatusCode)
	ending, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	require.NoError(t, s.App.Work.Drain(ending))
	for lines.Scan() { // it ends
		continue
	}
	require.NoError(t, lines.Err())
}

// What a form names of another school is not found, and nothing of it is changed.
func TestPreparingKeepsSchoolsApart(t *testing.T) {
	s := serve(t)
	ctx := context.Background()
	other, err := s.App.Store.CreateSchool(ctx, "Thornby", "Europe/London")
	require.NoError(t, err)
	theirs := store.Supplier{}
	theirs.Name, theirs.Days = "Thornby Farm", 1
	id, err := other.SaveSupplier(ctx, theirs)
	require.NoError(t, err)
	order, _, err := other.SendOrder(ctx, store.Order{Supplier: id, On: nine, Form: "x", Who: "Kit", At: nine})
	require.NoError(t, err)
	for path, form := range map[string]url.Values{
		fmt.Sprintf("/prepare/suppliers/%d", id): {"name": {"Mine"}, "day": {"1"}, "version": {"1"}}, fmt.Sprintf("/prepare/orders/%d/cancel", order): {},
		fmt.Sprintf("/prepare/orders/%d/check", order): {"line": {"1"}, "count": {"1"}}, "/prepare/store/99999": {"version": {"1"}, "do": {"open"}}, "/prepare/day/job": {"lesson": {"99999"}, "job": {"99999 trays"}},
		"/prepare/garden": {"do": {"remove"}, "id": {"99999"}}, "/prepare/money/99999": {"learner": {"1"}, "pounds": {"1"}}, "/lessons/99999/home": {}, "/prepare/order/decide": {"product": {"99999"}, "on": {"2026-11-30"}, "count": {"1"}},
		"/prepare/book": {"lesson": {"99999"}}, "/prepare/hours": {"account": {"99999"}}, "/prepare/prices/item": {"product": {"99999"}, "item": {"salt"}},
	} {
		assert.Equal(t, 404, s.do("POST", path, form).StatusCode, path)
	}
	for _, path := range []string{fmt.Sprintf("/prepare/orders/%d", order), fmt.Sprintf("/prepare/orders/%d/order.csv", order), fmt.Sprintf("/prepare/suppliers/%d", id), "/lessons/99999/trays", "/lessons/99999/labels"} {
		assert.Equal(t, 404, s.do("GET", path, nil).StatusCode, path)
	}
	kept, err := other.Order(ctx, order)
	require.NoError(t, err)
	assert.False(t, kept.Cancelled)
}
