package preparing

import (
	"fmt"
	"net/http"
	"slices"
	"time"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/prepare"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type dayPage struct {
	Date         string
	On           string
	Before, Next string
	Who          string
	WhoID        int64
	Others       []frame.Side
	NoHours      bool
	Rows         []dayRow
	Late         []lateRow
	Done         []tickRow
	Clashes      []string
	Lists        []string
	Hours        string
	Keeps        bool
}

// A dayRow is a piece of the day: a job with its time, or the mark of now.
type dayRow struct {
	Now     bool
	At      string
	Tick    tickRow
	Lesson  string
	Href    string
	Due     string
	Wait    string
	Why     string
	Guess   bool
	Late    bool
	Again   bool // it was broken off before
	Hands   int
	Minutes int
	ID      int64
	Job     string
}

type lateRow struct {
	Says, By string
	Ways     []string
	Lesson   string
}

func clockOf(m prepare.Moment) string {
	day := ""
	switch {
	case m < 0:
		day = "the day before, "
	case m >= prepare.DayMinutes:
		day = "tomorrow, "
		if m >= 2*prepare.DayMinutes {
			day = fmt.Sprintf("in %d days, ", m/prepare.DayMinutes)
		}
	}
	return day + clock.Time((m%prepare.DayMinutes+prepare.DayMinutes)%prepare.DayMinutes).String()
}

func (p *place) day(w http.ResponseWriter, r *http.Request) error {
	return p.dayPage(w, r, nil)
}

func (p *place) dayPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	date := on(r, "on")
	d, err := preparing.DayOf(ctx, date, number(r.FormValue("who")))
	if err != nil {
		return err
	}
	q := func(day time.Time) string {
		s := "/prepare/day?on=" + day.Format(time.DateOnly)
		if d.Who.ID != 0 && r.FormValue("who") != "" {
			s += fmt.Sprintf("&who=%d", d.Who.ID)
		}
		return s
	}
	m := dayPage{Date: date.Format(longDay), On: date.Format(time.DateOnly), Before: q(date.AddDate(0, 0, -1)), Next: q(date.AddDate(0, 0, 1)), Who: d.Who.Name, WhoID: d.Who.ID, NoHours: d.Who.ID == 0, Keeps: school.May(ctx, staff.Stock)}
	weekday := (int(date.Weekday()) + 6) % 7
	for _, h := range d.Who.Hours {
		if h.Weekday == weekday {
			if m.Hours != "" {
				m.Hours += ", "
			}
			m.Hours += preparing.SpanSays(h)
		}
	}
	for _, o := range d.Others {
		if o.Hours != nil {
			m.Others = append(m.Others, frame.Side{Label: o.Name, Href: fmt.Sprintf("/prepare/day?on=%s&who=%d", m.On, o.ID)})
		}
	}
	late := map[int]prepare.Late{}
	for _, l := range d.Plan.Late {
		j := d.Plan.Jobs[l.Job]
		late[l.Job] = l
		row := lateRow{Says: j.Says, Lesson: d.Lessons[j.Lesson].Says(), By: fmt.Sprintf("%d min too late for %s", l.Minutes, clockOf(j.Due))}
		if l.Never {
			row.By = "not at all: no hours are left before " + clockOf(j.Due)
		}
		for _, way := range l.Ways {
			s := fmt.Sprintf("%s: saves %d min", words.Capital(way.Says), way.Saves)
			if way.Clean {
				s += ", and everything is in time"
			}
			row.Ways = append(row.Ways, s)
		}
		m.Late = append(m.Late, row)
	}
	seen := map[int]bool{}
	marked := !date.Equal(school.In(ctx).Today())
	for _, piece := range d.Plan.Pieces {
		if piece.From >= prepare.DayMinutes || piece.Until <= 0 {
			continue
		}
		if !marked && piece.From >= d.Now {
			m.Rows, marked = append(m.Rows, dayRow{Now: true, At: clockOf(d.Now)}), true
		}
		j := d.Plan.Jobs[piece.Job]
		l := d.Lessons[j.Lesson]
		row := dayRow{At: clockOf(piece.From), Lesson: l.Says(), Href: lessonHref(l), Due: clockOf(j.Due), Why: j.Why, Guess: j.Guess, Again: seen[piece.Job], Minutes: int(piece.Until - piece.From), Hands: j.Hands, ID: l.ID, Job: j.ID}
		_, row.Late = late[piece.Job]
		seen[piece.Job] = true
		if j.Wait > 0 {
			row.Wait = fmt.Sprintf("then %s without you", minutes(j.Wait))
		}
		row.Tick = rowsOf(r, d.Ticks, preparing.JobsList(l.ID), []tickRow{{Line: j.ID, Name: j.Says, Amount: fmt.Sprintf("%d min", row.Minutes)}})[0]
		m.Rows = append(m.Rows, row)
	}
	for _, j := range d.Done {
		if j.From >= prepare.DayMinutes {
			continue
		}
		l := d.Lessons[j.Lesson]
		m.Done = append(m.Done, rowsOf(r, d.Ticks, preparing.JobsList(l.ID), []tickRow{{Line: j.ID, Name: j.Says, Small: l.Says()}})...)
	}
	for _, c := range d.Clashes {
		var names []string
		for _, id := range c.Lessons {
			names = append(names, d.Lessons[id].Says())
		}
		m.Clashes = append(m.Clashes, fmt.Sprintf("%d %s are wanted and there are %d, from %s to %s: %s", c.Wanted, c.Thing.Name, c.Thing.Count, clockOf(c.From), clockOf(c.Until), words.Names(names)))
	}
	for id := range d.Lessons {
		m.Lists = append(m.Lists, preparing.JobsList(id))
	}
	slices.Sort(m.Lists)
	return p.show(w, r, http.StatusOK, "day", "The day", m.Date, failed, m)
}

func minutes(n int) string {
	if n < 120 {
		return fmt.Sprintf("%d min", n)
	}
	if n%60 == 0 {
		return fmt.Sprintf("%d h", n/60)
	}
	return fmt.Sprintf("%d h %d min", n/60, n%60)
}

func (p *place) job(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	v := r.PostForm
	err := preparing.SetJob(r.Context(), number(v.Get("lesson")), v.Get("job"), v.Get("hands"), v.Get("wait"), v.Get("do") == "skip", v.Get("do") == "forget")
	if err != nil {
		return p.dayPage(w, r, err)
	}
	return see(w, r, "/prepare/day", "on", v.Get("on"))
}

func (p *place) dayCalendar(w http.ResponseWriter, r *http.Request) error {
	d, err := preparing.DayOf(r.Context(), on(r, "on"), number(r.FormValue("who")))
	if err != nil {
		return err
	}
	frame.Attach(w, "text/calendar; charset=utf-8", "jobs-"+d.Date.Format(time.DateOnly)+".ics")
	return preparing.WriteDay(r.Context(), w, d)
}

type hoursPage struct {
	People []hoursRow
}

type hoursRow struct {
	ID   int64
	Name string
	Days []frame.Field
}

var weekdays = []string{"Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"}

func (p *place) hours(w http.ResponseWriter, r *http.Request) error {
	return p.hoursPage(w, r, nil)
}

func (p *place) hoursPage(w http.ResponseWriter, r *http.Request, failed error) error {
	all, err := preparing.Workers(r.Context())
	if err != nil {
		return err
	}
	var m hoursPage
	for _, x := range all {
		row := hoursRow{ID: x.ID, Name: x.Name}
		for d, name := range weekdays {
			f := frame.Text(fmt.Sprintf("day-%d", d), name, "", nil)
			f.ID = fmt.Sprintf("day-%d-%d", x.ID, d)
			for _, h := range x.Hours {
				if h.Weekday == d {
					if f.Value != "" {
						f.Value += ", "
					}
					f.Value += preparing.SpanSays(h)
				}
			}
			if failed != nil && number(r.PostFormValue("account")) == x.ID {
				f.Value = r.PostFormValue(f.Name)
			}
			row.Days = append(row.Days, f)
		}
		m.People = append(m.People, row)
	}
	return p.show(w, r, http.StatusOK, "hours", "The day", "Who prepares, and when", failed, m)
}

func (p *place) setHours(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	var days [7]string
	for d := range days {
		days[d] = r.PostFormValue(fmt.Sprintf("day-%d", d))
	}
	if err := preparing.SetHours(r.Context(), number(r.PostFormValue("account")), days); err != nil {
		return p.hoursPage(w, r, err)
	}
	return see(w, r, "/prepare/hours", "said", "Saved.")
}
