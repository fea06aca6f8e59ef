package train

import (
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/problem"
	core "freshapron/internal/core/train"
	"freshapron/internal/web/frame"
)

// An itemPage is one exercise, or what came of one.
type itemPage struct {
	Token, Title string
	Done         string // "4 of about 10"
	Ask          string
	Template     string
	Number       int
	Press        string
	Kind         string // answer, choose, instrument, order, cut
	Unit         string
	Choices      []choice
	Acts         []knife.Act
	Instrument   string // JSON of what is drawn
	Hint         string
	Left         bool // they cut with the left hand
	Typed        string
	Problem      string
	Verdict      *verdict
}

type choice struct {
	ID, Says string
	Drawn    knife.Drawn
}

type verdict struct {
	Right                  bool
	Says, Matters, Instead string
	Pieces                 template.HTML
	Even                   string
	Played                 knife.Drawn // what went wrong
}

func (p *learners) session(w http.ResponseWriter, r *http.Request) (*http.Request, *train.Session, error) {
	ctx, s, err := train.Enter(r.Context(), p.site, chi.URLParam(r, "token"))
	if errors.Is(err, train.ErrShut) {
		return r, nil, p.doorWith(w, r, http.StatusNotFound, doorPage{Problem: "This practice is over, or you came in at another device. Come in again with the code of your class."})
	}
	if err != nil {
		return r, nil, err
	}
	return r.WithContext(ctx), s, nil
}

func (p *learners) next(w http.ResponseWriter, r *http.Request) error {
	r, s, err := p.session(w, r)
	if s == nil {
		return err
	}
	return p.show(w, r, s, http.StatusOK, s.Next(school.In(r.Context()).Now()), "", nil)
}

func (p *learners) show(w http.ResponseWriter, r *http.Request, s *train.Session, status int, it core.Item, typed string, failed problem.List) error {
	m := itemPage{Token: s.Token, Title: s.Of.Title, Left: s.Left, Ask: it.Ask(), Template: it.Template, Number: it.Number, Press: uuid.NewString(), Typed: typed, Done: done(len(s.Tries))}
	if failed != nil {
		m.Problem = problem.Sentence(failed[0].Says)
	}
	var drawn any
	switch {
	case it.Do != nil:
		m.Kind = "instrument"
		drawn = instrumentOf(it, s)
	case it.Knife != nil && it.Knife.Kind == knife.CutExercise:
		m.Kind = "cut"
		f := it.Knife.Food.Solid
		drawn = map[string]any{"shape": f.Shape, "size": f.Size, "end": f.End, "wall": f.Wall, "target": it.Knife.Target, "food": it.Knife.Food.Name}
		m.Hint = hintOf(it.Knife.Food)
	case it.Knife != nil && it.Knife.Kind == knife.OrderExercise:
		m.Kind, m.Acts = "order", it.Knife.Acts
	case it.Knife != nil:
		m.Kind = "choose"
		for _, c := range it.Knife.Choices {
			m.Choices = append(m.Choices, choice{c.ID, c.Says, c.Drawn})
		}
	default:
		m.Kind, m.Unit = "answer", unitOf(it.Task)
		if a := it.Task.Answer(); a.Name != "" {
			m.Kind = "choose"
			for _, t := range it.Task.Tools() {
				m.Choices = append(m.Choices, choice{ID: t.Name, Says: t.Name})
			}
		}
	}
	if drawn != nil {
		text, err := json.Marshal(drawn)
		if err != nil {
			return err
		}
		m.Instrument = string(text)
	}
	return p.Render(w, r, status, templates, "practise-item", frame.Page{Title: "Practise", Data: m})
}

func done(tries int) string {
	if tries < train.Enough {
		return fmt.Sprintf("%d of about %d", tries, train.Enough)
	}
	return fmt.Sprintf("%d done: that is enough for today, or go on", tries)
}

func hintOf(f knife.Food) string {
	if f.Flat == "" {
		return ""
	}
	return "First, as always: " + f.Flat + "."
}

func unitOf(t *core.Task) string {
	a := t.Answer()
	switch {
	case a.Clock != nil:
		return "time of day, such as 10:25"
	case a.Unit == "part":
		return "part of the pack, such as 1/3"
	case a.Unit == "gas":
		return "gas mark"
	case a.Unit == "C" || a.Unit == "F":
		return "°" + a.Unit
	case a.Unit == "fan":
		return "°C, fan"
	}
	return a.Unit
}

// instrumentOf is what an instrument is drawn from.
func instrumentOf(it core.Item, s *train.Session) any {
	k := it.Do.Kit(it.Number, s.Source)
	return struct {
		Kind       core.Kind `json:"kind"`
		Unit       string    `json:"unit"`
		Bowl       float64   `json:"bowl"`
		Resolution float64   `json:"resolution"`
		Marks      float64   `json:"marks"`
		Holds      float64   `json:"holds"`
		Radius     float64   `json:"radius"`
		Eye        float64   `json:"eye"`
		Set        []float64 `json:"set"`
	}{it.Do.Kind, it.Do.Unit, k.Bowl, k.Resolution, k.Marks, k.Holds, k.Radius, k.Eye, k.Set}
}

func (p *learners) try(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	r, s, err := p.session(w, r)
	if s == nil {
		return err
	}
	number, err := strconv.Atoi(r.PostFormValue("number"))
	press := r.PostFormValue("press")
	it, known := s.Item(r.PostFormValue("template"), number)
	if err != nil || !known || uuid.Validate(press) != nil || number < 0 {
		return frame.See(w, r, "/practise/at/"+s.Token)
	}
	v, extra, err := judged(it, s, r)
	if problems := problem.Of(err); problems != nil {
		return p.show(w, r, s, http.StatusUnprocessableEntity, it, r.PostFormValue("answer"), problems)
	}
	if err != nil {
		return err
	}
	if err := train.Try(r.Context(), s, it, press, v); err != nil {
		return err
	}
	extra.Right, extra.Says, extra.Matters, extra.Instead = v.Right, v.Says, v.Matters, v.Instead
	m := itemPage{Token: s.Token, Title: s.Of.Title, Left: s.Left, Done: done(len(s.Tries) + 1), Verdict: &extra, Ask: it.Ask()}
	return p.Render(w, r, http.StatusOK, templates, "practise-item", frame.Page{Title: "Practise", Data: m})
}
