package preparing

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/supply"
	"freshapron/internal/core/words"
)

type weekPage struct {
	From, To     string
	Before, Next string
	First, More  []gap
	Days         []weekDay
	Over         []overLesson
	Cost, Limit  string
	Light        string
}

// A gap is what is missing, with where to mend it.
type gap struct {
	Light string // stop, look
	Head  string
	Says  string
	Href  string
	Do    string
}

type weekDay struct {
	Name    string
	Today   bool
	Gone    bool
	Lessons []weekLesson
}

type weekLesson struct {
	Href, Class, Dish, When, Room string
	Steps                         []readyStep
	Cost, CostLight               string
	Trays, Home                   string
	Note                          string
}

// A readyStep is how far one part of preparing is, in figures.
type readyStep struct {
	Word   string
	Figure string
	Light  string // good where it is done
	Width  int    // of a hundred
	Href   string
}

type overLesson struct{ ID, Says string }

func step(word string, done, all int, href string) readyStep {
	s := readyStep{Word: word, Figure: fmt.Sprintf("%d of %d", done, all), Href: href, Light: "part"}
	switch {
	case all == 0:
		s.Figure, s.Light = "nothing", "good"
	case done == all:
		s.Light = "good"
	case done == 0:
		s.Light = "none"
	}
	if all > 0 {
		s.Width = 100 * done / all
	}
	return s
}

func (p *place) week(w http.ResponseWriter, r *http.Request) error {
	return p.weekPage(w, r, nil)
}

func (p *place) weekPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	today := s.Today()
	day := on(r, "from")
	from := monday(day)
	if from.Equal(monday(today)) { // what is over can wait
		from = today
	}
	st, err := preparing.Load(ctx, from)
	if err != nil {
		return err
	}
	jobs, err := st.JobCounts(ctx)
	if err != nil {
		return err
	}
	var lists []string
	for _, l := range st.Lessons {
		lists = append(lists, preparing.JobsList(l.ID), preparing.TraysList(l.ID))
	}
	ticks, err := preparing.TicksOf(ctx, lists...)
	if err != nil {
		return err
	}
	m := weekPage{From: from.Format("2 January"), To: from.AddDate(0, 0, 6).Format("2 January"),
		Before: "/prepare?from=" + monday(from).AddDate(0, 0, -7).Format(time.DateOnly), Next: "/prepare?from=" + monday(from).AddDate(0, 0, 7).Format(time.DateOnly)}
	now := s.Local(s.Now())
	cost := 0
	for n := range 7 {
		date := from.AddDate(0, 0, n)
		d := weekDay{Name: date.Format("Monday 2"), Today: date.Equal(today), Gone: date.Before(today)}
		for _, l := range st.On(date) {
			d.Lessons = append(d.Lessons, p.weekLesson(st, l, jobs[l.ID], ticks, today))
			pence, _ := l.Costs()
			cost += pence
			if l.Over(now) && l.Booked == nil && l.Problems == nil && len(st.Batches) > 0 {
				m.Over = append(m.Over, overLesson{strconv.FormatInt(l.ID, 10), l.Says() + ", " + l.View.Date.Format("Monday")})
			}
		}
		if weekend := date.Weekday() == time.Saturday || date.Weekday() == time.Sunday; d.Lessons != nil || !weekend {
			m.Days = append(m.Days, d)
		}
	}
	m.Cost = measure.Price(cost)
	const shown = 5
	all := first(st, today)
	m.First, m.More = all[:min(shown, len(all))], all[min(shown, len(all)):]
	return p.show(w, r, http.StatusOK, "week", "The week", "Prepare", failed, m)
}

func (p *place) weekLesson(st *preparing.Stretch, l preparing.Lesson, jobs int, ticks preparing.Ticks, today time.Time) weekLesson {
	out := weekLesson{Href: lessonHref(l), Class: l.Class.Name, Dish: l.Titles(), When: l.Period.Start.String(), Room: l.Room.Name, Trays: fmt.Sprintf("/lessons/%d/trays", l.ID)}
	if l.Problems != nil {
		out.Note = "can’t be planned: " + l.Problems[0].Says
		return out
	}
	r := st.Ready(l, jobs, ticks)
	date := l.View.Date.Format(time.DateOnly)
	if !l.View.Date.Before(today) && l.View.Date.Before(today.AddDate(0, 0, preparing.Ahead)) && l.Booked == nil {
		out.Steps = append(out.Steps, step("ordered", r.Ordered, r.Needs, "/prepare/order"), step("there", r.There, r.Needs, "/prepare/needs?on="+date))
	}
	out.Steps = append(out.Steps, step("prepared", r.Done, r.Jobs, "/prepare/day?on="+date), step("laid out", r.Laid, r.Trays, out.Trays))
	each := l.Each()
	out.Cost = measure.Price(each) + " each"
	if limit := st.Larder.Settings.Lesson; limit > 0 && each > limit {
		out.CostLight = "look"
		out.Cost += ", over " + measure.Price(limit)
	}
	if l.Booked != nil {
		out.Note = "over, and booked"
	}
	if r.Undecided > 0 {
		out.Note = "another product came: decide who can eat it"
	}
	return out
}

// first says what is missing, the worst first.
func first(st *preparing.Stretch, today time.Time) []gap {
	var out []gap
	for _, rep := range st.Replaced() {
		if rep.Line.Open() {
			var who []string
			for _, id := range rep.Lessons {
				if l, ok := st.Lesson(id); ok {
					who = append(who, l.Says())
				}
			}
			says := "no lesson of these weeks uses it"
			if who != nil {
				says = "used by " + words.Names(who)
			}
			out = append(out, gap{"stop", fmt.Sprintf("%s came in place of %s and contains %s", rep.Line.Checked.Name, rep.Line.Product.Name, words.Names(rep.Line.Checked.Unlike)), says,
				fmt.Sprintf("/prepare/orders/%d", rep.Order.ID), "Decide"})
		}
	}
	for _, g := range missing(st) {
		head := fmt.Sprintf("%s missing on %s", g.what[0], g.date.Format("Monday"))
		says := "for " + words.Names(g.who) + ": " + g.why
		if n := len(g.what); n > 1 {
			const most = 6
			head = fmt.Sprintf("%d things missing on %s", n, g.date.Format("Monday"))
			list := g.what
			if n > most {
				list = append(slices.Clone(list[:most]), fmt.Sprintf("%d more", n-most))
			}
			says = words.Names(list) + ", " + says
		}
		out = append(out, gap{"stop", head, says, "/prepare/needs?on=" + g.date.Format(time.DateOnly), "Who needs it"})
	}
	for _, d := range st.Plan.Deliveries {
		by := preparing.Date(d.By)
		light, when := "look", "by "+by.Format("Monday 2 January")
		if by.Equal(today) {
			light, when = "stop", "today"
		} else if by.After(today.AddDate(0, 0, 2)) {
			continue
		}
		out = append(out, gap{light, fmt.Sprintf("Order from %s %s", d.Supplier.Name, when), fmt.Sprintf("%s for %s, to come on %s", words.Plural(len(d.Lines), "line", "lines"), measure.Price(int(d.Goods.Round())+d.Supplier.Charge), preparing.Date(d.On).Format("Monday")), "/prepare/order", "The order"})
	}
	for _, o := range st.Orders {
		open := 0
		for _, l := range o.Lines {
			if l.Checked == nil && !o.Cancelled {
				open++
			}
		}
		if open == 0 || o.On.After(today) {
			continue
		}
		head := fmt.Sprintf("%s comes today: check it in", st.Supplier(o.Supplier).Name)
		if o.On.Before(today) {
			head = fmt.Sprintf("%s was to come on %s and is not checked in", st.Supplier(o.Supplier).Name, o.On.Format("Monday"))
		}
		out = append(out, gap{"look", head, words.Plural(open, "line", "lines"), fmt.Sprintf("/prepare/orders/%d", o.ID), "Check it in"})
	}
	for _, u := range st.Plan.Unneeded() {
		order, ok := strings.CutPrefix(u.Batch.Says, "order ")
		spare := u.Item.Says(u.Amount)
		if whole, known := u.Item.Whole(u.Batch.Amount); !ok || !known || u.Amount.Less(whole) {
			continue // what is left of a pack is a left-over
		}
		out = append(out, gap{"look", fmt.Sprintf("%s ordered, and no lesson needs it any more", spare), "comes on " + preparing.Date(*u.Batch.From).Format("Monday 2 January"), "/prepare/orders/" + order, "The order"})
	}
	if list := st.Wasted(today.AddDate(0, 0, 7)); len(list) > 0 {
		var names []string
		for _, l := range list {
			names = append(names, l.Item.Says(l.Amount))
		}
		const most = 4
		rest := ""
		if len(names) > most {
			rest, names = fmt.Sprintf(" and %d more", len(names)-most), names[:most]
		}
		out = append(out, gap{"look", words.Plural(len(list), "thing runs", "things run") + " out this week before a lesson uses it", strings.Join(names, ", ") + rest, "/prepare/left", "What they could become"})
	}
	return out
}

// A group of things is missing on a day for the same reason.
type group struct {
	date      time.Time
	why       string
	what, who []string
}

func missing(st *preparing.Stretch) []group {
	var out []group
	for _, s := range st.Plan.Short {
		date, reason := preparing.Date(s.On), why(st, s.Why)
		at := slices.IndexFunc(out, func(g group) bool { return g.date.Equal(date) && g.why == reason })
		if at < 0 {
			at = len(out)
			out = append(out, group{date: date, why: reason})
		}
		g := &out[at]
		g.what = append(g.what, s.Item.Says(s.Amount))
		for _, o := range s.Of {
			if l, ok := st.Lesson(o.Lesson); ok && !slices.Contains(g.who, l.Says()) {
				g.who = append(g.who, l.Says())
			}
		}
	}
	return out
}

var isoDate = pattern.Must(`\b\d{4}-\d{2}-\d{2}\b`)

// why names suppliers and days as people know them, in a reason of the order.
func why(st *preparing.Stretch, reason string) string {
	reason = isoDate.ReplaceAllStringFunc(reason, func(s string) string {
		date, err := time.Parse(time.DateOnly, s)
		if err != nil {
			return s
		}
		return date.Format("Monday 2 January")
	})
	for _, s := range st.Suppliers {
		id := strconv.FormatInt(s.ID, 10)
		reason = strings.ReplaceAll(reason, "ordered from "+id+" by", "ordered from "+s.Name+" by")
		reason = strings.ReplaceAll(reason, "the packs that "+id+" has", "the packs that "+s.Name+" has")
	}
	return reason
}

func (p *place) book(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	var failed error
	for _, id := range r.PostForm["lesson"] {
		n, err := strconv.ParseInt(id, 10, 64)
		if err != nil {
			return school.ErrNotFound
		}
		if err := preparing.Book(r.Context(), n); err != nil && !errors.Is(err, school.ErrChanged) { // twice is once
			failed = err
		}
	}
	if failed != nil {
		return p.weekPage(w, r, failed)
	}
	return see(w, r, "/prepare", "said", "Booked: the store is what is left.")
}

type needRow struct {
	Item, Amount string
	Apart        bool
	Sources      []string
	Missing      string
	For          []forWhom
}

type forWhom struct {
	Href, Lesson string
	Places       string
}

type needsPage struct {
	Date         string
	Before, Next string
	Rows         []needRow
}

// needs shows what a day's lessons take, for whom and where it comes from.
func (p *place) needs(w http.ResponseWriter, r *http.Request) error {
	st, err := preparing.Load(r.Context(), school.In(r.Context()).Today())
	if err != nil {
		return err
	}
	day := on(r, "on")
	m := needsPage{Date: day.Format(longDay), Before: "/prepare/needs?on=" + day.AddDate(0, 0, -1).Format(time.DateOnly), Next: "/prepare/needs?on=" + day.AddDate(0, 0, 1).Format(time.DateOnly)}
	for _, n := range st.Plan.Needs {
		if n.On != preparing.OrderDay(day) {
			continue
		}
		row := needRow{Item: n.Item.Name, Amount: n.Item.Says(n.Amount), Apart: n.Item.Apart(), For: whom(st, n.Of)}
		for _, s := range st.Plan.SourcesOf(n) {
			row.Sources = append(row.Sources, n.Item.Says(s.Amount)+" "+source(st, s))
		}
		for _, m := range st.Plan.Short {
			if m.Item.Key == n.Item.Key && m.On == n.On {
				row.Missing = n.Item.Says(m.Amount) + " missing: " + why(st, m.Why)
			}
		}
		m.Rows = append(m.Rows, row)
	}
	return p.show(w, r, http.StatusOK, "needs", "The week", "What "+day.Format("Monday")+" needs", nil, m)
}

func source(st *preparing.Stretch, s supply.Source) string {
	switch {
	case s.Product != nil:
		return fmt.Sprintf("to be ordered from %s for %s", st.Supplier(s.Product.Supplier).Name, preparing.Date(s.On).Format("Mon 2 Jan"))
	case strings.HasPrefix(s.Batch.Says, "order "):
		return fmt.Sprintf("on its way, for %s", preparing.Date(*s.Batch.From).Format("Mon 2 Jan"))
	case strings.HasPrefix(s.Batch.Says, "bed: "):
		return "from the garden, " + strings.TrimPrefix(s.Batch.Says, "bed: ")
	}
	return "from the " + s.Batch.Says
}

// whom says for which lessons and benches something is.
func whom(st *preparing.Stretch, parts []supply.Part) []forWhom {
	var out []forWhom
	var places []string
	var last int64
	end := func() {
		if last == 0 {
			return
		}
		l, _ := st.Lesson(last)
		out = append(out, forWhom{lessonHref(l), l.Says() + ", " + l.View.Date.Format("Mon 2"), words.Numbered(places)})
	}
	parts = slices.Clone(parts)
	slices.SortStableFunc(parts, func(a, b supply.Part) int { return int(a.Lesson - b.Lesson) })
	for _, o := range parts {
		if o.Lesson != last {
			end()
			last, places = o.Lesson, nil
		}
		if !slices.Contains(places, o.Says) {
			places = append(places, o.Says)
		}
	}
	end()
	return out
}
