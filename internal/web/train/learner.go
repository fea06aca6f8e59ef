package train

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

// Learners are the pages of those who practise: no account opens them but the code of a
// class, and nothing else can be reached from them.
func Learners(site *school.Site, f *frame.Frame) func(chi.Router) {
	p := &learners{f, site}
	at := func(r chi.Router, method, path string, do frame.Handler) {
		r.MethodFunc(method, path, func(w http.ResponseWriter, r *http.Request) {
			r.Body = http.MaxBytesReader(w, r.Body, mostSent)
			p.Answer(w, r, do)
		})
	}
	return func(r chi.Router) {
		at(r, "GET", "/bench/{code}/even", p.benchEven)
		r.Post("/bench/{code}/even", func(w http.ResponseWriter, r *http.Request) {
			r.Body = http.MaxBytesReader(w, r.Body, frame.MostUpload)
			p.Answer(w, r, p.benchMeasure)
		})
		at(r, "GET", "/practise", p.door)
		at(r, "GET", "/practise/{code}", p.names)
		at(r, "POST", "/practise/{code}", p.choose)
		at(r, "GET", "/practise/at/{token}", p.next)
		at(r, "POST", "/practise/at/{token}", p.try)
	}
}

const mostSent = 64 << 10

type learners struct {
	*frame.Frame
	site *school.Site
}

type doorPage struct{ Code, Problem string }

func (p *learners) door(w http.ResponseWriter, r *http.Request) error {
	code := strings.TrimSpace(r.URL.Query().Get("code"))
	if code == "" {
		return p.doorWith(w, r, http.StatusOK, doorPage{})
	}
	_, of, _, err := train.Come(r.Context(), p.site, code)
	if errors.Is(err, train.ErrShut) {
		return p.shut(w, r, code)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/practise/"+of.Code)
}

func (p *learners) doorWith(w http.ResponseWriter, r *http.Request, status int, d doorPage) error {
	return p.Render(w, r, status, templates, "practise-door", frame.Page{Title: "Practise", Data: d})
}

func (p *learners) shut(w http.ResponseWriter, r *http.Request, code string) error {
	return p.doorWith(w, r, http.StatusNotFound, doorPage{words.Short(code), "This code opens no practice now. Look at the letters once more, or ask your teacher for the code of today."})
}

type namesPage struct {
	Code, Title string
	Names       []school.Learner
	Pictures    []string
	Learner     int64
	Picture     string
	Left        bool
	Problem     string
	InUse       bool
}

func (p *learners) names(w http.ResponseWriter, r *http.Request) error {
	return p.namesWith(w, r, http.StatusOK, namesPage{})
}

func (p *learners) namesWith(w http.ResponseWriter, r *http.Request, status int, m namesPage) error {
	code := chi.URLParam(r, "code")
	_, of, names, err := train.Come(r.Context(), p.site, code)
	if errors.Is(err, train.ErrShut) {
		return p.shut(w, r, code)
	}
	if err != nil {
		return err
	}
	m.Code, m.Title, m.Names, m.Pictures = of.Code, of.Title, names, school.Pictures
	return p.Render(w, r, status, templates, "practise-names", frame.Page{Title: "Who are you?", Data: m})
}

func (p *learners) choose(w http.ResponseWriter, r *http.Request) error {
	if err := frame.ParseForm(r); err != nil {
		return err
	}
	ctx, of, _, err := train.Come(r.Context(), p.site, chi.URLParam(r, "code"))
	if errors.Is(err, train.ErrShut) {
		return p.shut(w, r, chi.URLParam(r, "code"))
	}
	if err != nil {
		return err
	}
	m := namesPage{Picture: r.PostFormValue("picture"), Left: r.PostFormValue("left") == "yes"}
	m.Learner, _ = strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	token, err := train.Choose(ctx, of, train.Choice{Learner: m.Learner, Picture: m.Picture, Again: r.PostFormValue("again") == "yes", Left: m.Left})
	if problems := problem.Of(err); problems != nil {
		m.Problem, m.InUse = problem.Sentence(problems[0].Says), problems.At("again") != ""
		return p.namesWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/practise/at/"+token)
}
