package train

import (
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/train"
	"freshapron/internal/core/drawn"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

type evenPage struct {
	Form     train.EvenForm
	Ways     []wayOption
	Problem  string
	Says     []string
	Pieces   template.HTML
	Doubtful int
	To       string // where it is sent
	Bench    string // whose it is; empty for the page of those who teach
	Code     string // of the bench's screen
	Press    string
	Examples []example // drawn photographs to try with
}

type example struct {
	Number       int
	Says, Target string
}

type wayOption struct {
	ID, Says string
	On       bool
}

var ways = []wayOption{{ID: "simmer", Says: "simmered"}, {ID: "fry", Says: "fried"}, {ID: "fan-oven", Says: "in a fan oven"}, {ID: "oven", Says: "in an oven without a fan"}}

func (p *place) even(w http.ResponseWriter, r *http.Request) error {
	return p.evenWith(w, r, http.StatusOK, evenPage{Form: train.UsualEven})
}

func (p *place) evenWith(w http.ResponseWriter, r *http.Request, status int, m evenPage) error {
	m.Ways, m.To = waysOf(m.Form.Way), "/even"
	for i, e := range drawn.Examples {
		m.Examples = append(m.Examples, example{i + 1, e.Says, fmt.Sprintf("%g %g %g", e.Target[0], e.Target[1], e.Target[2])})
	}
	return p.Render(w, r, status, templates, "even", frame.Page{Title: "How even are they?", Place: "classes", Data: m})
}

func waysOf(chosen string) []wayOption {
	var out []wayOption
	for _, x := range ways {
		x.On = x.ID == chosen
		out = append(out, x)
	}
	return out
}

func (p *place) measure(w http.ResponseWriter, r *http.Request) error {
	if r.Header.Get("Accept") == "application/json" {
		return outlined(w, r)
	}
	m, _, err := measured(r)
	if problems := problem.Of(err); problems != nil {
		m.Problem = problem.Sentence(problems[0].Says)
		return p.evenWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return p.evenWith(w, r, http.StatusOK, m)
}

type foundJSON struct {
	Size     [2]float64 `json:"size"`   // mm
	Centre   [2]float64 `json:"centre"` // pixels
	Angle    float64    `json:"angle"`
	Doubtful bool       `json:"doubtful"`
}

// outlined answers where the pieces lie on a photograph, for them to be mended.
func outlined(w http.ResponseWriter, r *http.Request) error {
	_, data, err := frame.Uploaded(r)
	if err != nil {
		return err
	}
	found, err := train.Photographed(r.Context(), data, r.PostFormValue("reference"))
	w.Header().Set("Content-Type", "application/json")
	if problems := problem.Of(err); problems != nil {
		w.WriteHeader(http.StatusUnprocessableEntity)
		return json.NewEncoder(w).Encode(problems)
	}
	if err != nil {
		return err
	}
	out := struct {
		MM     float64     `json:"mm_per_px"`
		Pieces []foundJSON `json:"pieces"`
	}{found.MMPerPx, []foundJSON{}}
	for _, f := range found.Pieces {
		out.Pieces = append(out.Pieces, foundJSON{f.Size, f.Centre, f.Angle, f.Doubtful})
	}
	return json.NewEncoder(w).Encode(out)
}

// measured reads the form and says what comes of it.
func measured(r *http.Request) (evenPage, train.Measurement, error) {
	_, data, err := frame.Uploaded(r)
	if tooLarge := new(http.MaxBytesError); errors.As(err, &tooLarge) {
		err = problem.New("file", "The photograph is larger than %d MB. Take a smaller one", tooLarge.Limit>>20)
	}
	m := evenPage{Form: train.EvenForm{Target: r.PostFormValue("target"), Pieces: r.PostFormValue("pieces"), Way: r.PostFormValue("way"), Start: r.PostFormValue("start"), Around: r.PostFormValue("around"), To: r.PostFormValue("to"), Reference: r.PostFormValue("reference")}}
	if err == nil && len(data) == 0 && r.PostFormValue("example") != "" {
		data, err = train.Example(r.PostFormValue("example"))
	}
	if err != nil {
		return m, train.Measurement{}, err
	}
	found, err := train.Measure(r.Context(), m.Form, data)
	if err != nil {
		return m, found, err
	}
	m.say(found)
	return m, found, nil
}

// say says what comes of pieces; those of a photograph stand in the form, to be mended.
func (m *evenPage) say(f train.Measurement) {
	e, t := f.Evenness, f.Times
	var lines []string
	volumes := make([]float64, len(f.Pieces))
	for i, p := range f.Pieces {
		volumes[i] = p.Volume()
		lines = append(lines, fmt.Sprintf("%.1f %.1f %.1f", p[0], p[1], p[2]))
	}
	if f.Photographed {
		m.Form.Pieces = strings.Join(lines, "\n")
	}
	m.Doubtful = f.Doubtful
	if math.IsNaN(e.SD) {
		m.Says = append(m.Says, fmt.Sprintf("One piece of %.1f mm. How even they are cannot be said of one.", e.Mean))
	} else {
		m.Says = append(m.Says, fmt.Sprintf("%s, on the average %.1f mm (likely %.1f to %.1f).", words.Plural(e.N, "piece", "pieces"), e.Mean, e.MeanInterval.Low, e.MeanInterval.High),
			fmt.Sprintf("They differ by %.0f %% (likely %.0f to %.0f %%).", e.CV, e.CVInterval.Low, e.CVInterval.High),
			fmt.Sprintf("%.0f in 100 are off what they were to be (likely %.0f to %.0f).", 100*e.Off, 100*e.OffInterval.Low, 100*e.OffInterval.High))
	}
	m.Says = append(m.Says, fmt.Sprintf("The biggest needs about %.1f min where the smallest is done in %.1f: %.1f times as long. By then the smallest has come to about %.0f °C.", t.Last, t.First, t.Ratio, t.FirstAtLast))
	m.Pieces = piecesDrawn(volumes, f.Target.Volume())
}

// example shows a drawn photograph.
func (p *place) example(w http.ResponseWriter, r *http.Request) error {
	data, err := train.Example(chi.URLParam(r, "number"))
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	_, err = w.Write(data)
	return err
}

type stripPage struct{ Reference int }

func (p *place) strip(w http.ResponseWriter, r *http.Request) error {
	return p.Render(w, r, http.StatusOK, templates, "strip", frame.Page{Title: "The strip", Place: "classes", Data: stripPage{100}})
}

// bench is the bench of the code in the address; nil where it has been answered that
// the code opens nothing any more.
func (p *learners) bench(w http.ResponseWriter, r *http.Request) (*http.Request, *train.Bench, error) {
	ctx, b, err := train.AtBench(r.Context(), p.site, chi.URLParam(r, "code"))
	if errors.Is(err, train.ErrShut) {
		return r, nil, frame.See(w, r, "/bench/"+chi.URLParam(r, "code"))
	}
	return r.WithContext(ctx), b, err
}

func (p *learners) benchEven(w http.ResponseWriter, r *http.Request) error {
	r, b, err := p.bench(w, r)
	if b == nil {
		return err
	}
	return p.benchEvenWith(w, r, http.StatusOK, b, evenPage{Form: train.UsualEven})
}

func (p *learners) benchEvenWith(w http.ResponseWriter, r *http.Request, status int, b *train.Bench, m evenPage) error {
	m.Ways, m.To, m.Bench, m.Code, m.Press = waysOf(m.Form.Way), "/bench/"+b.Code+"/even", b.Name, b.Code, uuid.NewString()
	return p.Render(w, r, status, templates, "bench-even", frame.Page{Title: "How even are they?", Data: m})
}

// benchMeasure says how even the pieces of a bench are, and keeps it.
func (p *learners) benchMeasure(w http.ResponseWriter, r *http.Request) error {
	r, b, err := p.bench(w, r)
	if b == nil {
		return err
	}
	if r.Header.Get("Accept") == "application/json" {
		return outlined(w, r)
	}
	m, found, err := measured(r)
	if problems := problem.Of(err); problems != nil {
		m.Problem = problem.Sentence(problems[0].Says)
		return p.benchEvenWith(w, r, http.StatusUnprocessableEntity, b, m)
	}
	if err != nil {
		return err
	}
	press := r.PostFormValue("press")
	if uuid.Validate(press) != nil {
		press = uuid.NewString()
	}
	if found.Doubtful == 0 { // what is doubtful is looked at first
		if err := train.Measured(r.Context(), b, found, press); err != nil {
			return err
		}
	}
	return p.benchEvenWith(w, r, http.StatusOK, b, m)
}
