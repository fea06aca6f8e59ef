package preparing

import (
	"errors"
	"fmt"
	"net/http"

	"freshapron/internal/app/preparing"
	"freshapron/internal/app/school"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// failure turns an error into the words of a form's page; empty for one that has a
// page of its own.
func failure(err error) (status int, says string) {
	switch problems := problem.Of(err); {
	case err == nil:
		return http.StatusOK, ""
	case problems != nil:
		for _, x := range problems {
			says += problem.Sentence(x.Says) + " "
		}
		return http.StatusUnprocessableEntity, says
	case errors.Is(err, school.ErrChanged):
		return http.StatusConflict, "It was changed after this page was opened, in another window or by somebody else. What stands here is new: look, and do it again."
	}
	return http.StatusInternalServerError, ""
}

type moneyPage struct {
	From, To              string
	Classes               []classMoney
	Limit, TermLimit      string
	LimitField, TermField frame.Field
	Thrown                []moveRow
	ThrownSays            string
	Arranges              bool
}

type classMoney struct {
	ID                              int64
	Name                            string
	Spent, Planned, Each, EachLight string
	Asked, Received                 string
	Lessons                         []lessonMoney
	Mine                            bool
}

type lessonMoney struct {
	Href, Says, When    string
	Cost, Each, Portion string
	Light, Note         string
}

func (p *place) money(w http.ResponseWriter, r *http.Request) error {
	return p.moneyPage(w, r, nil)
}

func (p *place) moneyPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	v, err := preparing.MoneyOf(ctx)
	if err != nil {
		return err
	}
	m := moneyPage{From: v.From.Format("2 January"), To: v.To.Format("2 January"), Arranges: school.May(ctx, staff.Arrange)}
	limit := func(n int) string {
		if n == 0 {
			return ""
		}
		return preparing.Pounds(n)
	}
	m.LimitField, m.TermField = frame.Text("lesson", "A lesson may cost for each learner, in pounds", limit(v.Limit), nil), frame.Text("term", "and a term", limit(v.TermLimit), nil)
	for _, c := range v.Classes {
		row := classMoney{ID: c.Class.ID, Name: c.Class.Name, Spent: measure.Price(c.Spent), Planned: measure.Price(c.Planned), Each: measure.Price(c.Each), Asked: measure.Price(c.Asked), Received: measure.Price(c.Received), Mine: c.Mine && school.May(ctx, staff.Teach)}
		if v.TermLimit > 0 && c.Each > v.TermLimit {
			row.EachLight = "look"
			row.Each += ", over " + measure.Price(v.TermLimit)
		}
		for _, l := range c.Lessons {
			x := lessonMoney{Href: lessonHref(l.Lesson), Says: l.Lesson.Titles(), When: l.Lesson.View.Date.Format("Mon 2 Jan"), Cost: measure.Price(l.Pence), Each: measure.Price(l.Each), Portion: measure.Price(l.Portion)}
			if v.Limit > 0 && l.Each > v.Limit {
				x.Light = "look"
			}
			switch {
			case l.Over:
				x.Note = "booked"
			case l.Unpriced != nil:
				x.Note = "without a price: " + words.Names(l.Unpriced)
			}
			row.Lessons = append(row.Lessons, x)
		}
		m.Classes = append(m.Classes, row)
	}
	s := school.In(ctx)
	for _, t := range v.Thrown.Movements {
		m.Thrown = append(m.Thrown, moveRow{s.Local(t.At).Format("Mon 2 Jan"), t.Name, preparing.Happened(t), t.Who})
	}
	m.ThrownSays = fmt.Sprintf("%s and %.1f kg thrown away", measure.Price(v.Thrown.Pence), float64(v.Thrown.Grams)/1000)
	if v.Thrown.Unweighed > 0 {
		m.ThrownSays += fmt.Sprintf("; of %d nobody knows what they weighed", v.Thrown.Unweighed)
	}
	return p.show(w, r, http.StatusOK, "money", "Money", "Money", failed, m)
}

func (p *place) limits(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	if err := preparing.SetLimits(r.Context(), r.PostFormValue("lesson"), r.PostFormValue("term")); err != nil {
		return p.moneyPage(w, r, err)
	}
	return see(w, r, "/prepare/money", "said", "Saved.")
}

type payingPage struct {
	ID       int64
	Class    string
	Asked    string
	Rows     []payRow
	All      string
	Learners []frame.Option
	Pounds   string
	Learner  string
}

type payRow struct{ Name, Received string }

// paying shows what came in for each learner of one's own class.
func (p *place) paying(w http.ResponseWriter, r *http.Request) error {
	return p.payingPage(w, r, nil)
}

func (p *place) payingPage(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	v, err := preparing.MoneyOf(ctx)
	if err != nil {
		return err
	}
	c, list, err := preparing.Payings(ctx, frame.ID(r, "id"), v.From)
	if err != nil {
		return err
	}
	m := payingPage{ID: c.ID, Class: c.Class.Name, Asked: measure.Price(0)}
	for _, x := range v.Classes {
		if x.Class.ID == c.ID {
			m.Asked = measure.Price(x.Asked)
		}
	}
	sum := 0
	for _, l := range list {
		sum += l.Received
		row := payRow{l.Name(), ""}
		if l.Received != 0 {
			row.Received = measure.Price(l.Received)
		}
		m.Rows = append(m.Rows, row)
		id := fmt.Sprint(l.ID)
		m.Learners = append(m.Learners, frame.Option{Value: id, Label: l.Name(), Chosen: failed != nil && r.PostFormValue("learner") == id})
	}
	if failed != nil {
		m.Pounds = r.PostFormValue("pounds")
	}
	m.All = measure.Price(sum)
	return p.show(w, r, http.StatusOK, "paying", "Money", "Contributions, "+m.Class, failed, m)
}

func (p *place) receive(w http.ResponseWriter, r *http.Request) error {
	if err := parse(r); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	if err := preparing.Receive(r.Context(), id, r.PostFormValue("learner"), r.PostFormValue("pounds")); err != nil {
		return p.payingPage(w, r, err)
	}
	return see(w, r, fmt.Sprintf("/prepare/money/%d", id), "said", "Written down.")
}
