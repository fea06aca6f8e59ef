// Package train is where learners practise and where those who teach see how far
// they are: a practice for a class, the strip to photograph pieces with, and how even
// pieces are.
package train

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/even"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of those who teach.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/classes/{id}/practice", staff.Teach, p.show),
		frame.Post("/classes/{id}/practice", staff.Teach, p.set),
		frame.Get("/classes/{id}/practice/wall", staff.Teach, p.wall),
		frame.Post("/classes/{id}/practice/end", staff.Teach, p.end),
		frame.Post("/classes/{id}/practice/forget", staff.Teach, p.forget),
		frame.Get("/classes/{id}/learners/{learner}/skills", staff.Teach, p.learner),
		frame.Post("/classes/{id}/learners/{learner}/skills", staff.Teach, p.see),
		frame.Get("/even", staff.Read, p.even),
		frame.Upload("/even", staff.Read, p.measure),
		frame.Get("/even/strip", staff.Read, p.strip),
	}
}

// names of the exercises, as teachers read them.
var names = map[string]string{
	"do-scale": "weighing on the drawn scale", "do-dial": "weighing by the needle", "do-jug": "pouring to the mark", "do-spoons": "level spoons", "do-cups": "level cups",
	"knife-hold": "the hold", "knife-order": "the order of cuts", "knife-cut": "cutting alike", "knife-care": "care of knives", "knife-tools": "other tools",
	"scale": "what the scale shows", "dial": "reading the needle", "jug": "reading a jug from above", "spoons": "fewest spoons", "cups": "fewest cups", "parts": "parts of a pack", "oven": "oven settings",
	"convert": "converting", "fraction": "fractions", "scaling": "other portions", "ratio": "ratios", "time": "times", "instrument": "which instrument",
}

type page struct {
	Class   string
	ID      int64
	Mine    bool
	Lessons []lessonRow
	Current *report
	Earlier []earlier
	Failed  string
	Lacking []lackingRow
	More    []lackingRow
	All     int    // learners
	For     string // the lesson that readiness is for
	Known   bool
}

type lessonRow struct {
	ID   int64
	Says string
}

type report struct {
	ID                   int64
	Title, Code, Address string
	Until                string
	Rows                 []row
	Finished, All        int
	Others               int
	Hardest              []string
}

type row struct {
	Name, Does, Stuck string
	ID                int64
	Light             string
}

type earlier struct{ Title, Until string }

// A lackingRow is a skill that is not known of some.
type lackingRow struct {
	Skill, Step, Who, Before, Practise string
	Count                              int
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error { return p.page(w, r, nil) }

func (p *place) page(w http.ResponseWriter, r *http.Request, failed error) error {
	ctx := r.Context()
	s := school.In(ctx)
	c, err := school.ClassOf(ctx, s.School, frame.ID(r, "id"))
	if err != nil {
		return err
	}
	m := page{Class: c.Class.Name, ID: c.Class.ID, Mine: c.Mine}
	status := http.StatusOK
	if problems := problem.Of(failed); problems != nil {
		status, m.Failed = http.StatusUnprocessableEntity, problem.Sentence(problems[0].Says)
	} else if failed != nil {
		return failed
	}
	if !c.Mine {
		return p.Render(w, r, status, templates, "practice", frame.Page{Title: "Practice of " + m.Class, Place: "classes", Data: m})
	}
	list, err := train.Of(ctx, m.ID)
	if err != nil {
		return err
	}
	for i, x := range list {
		if i == 0 && x.Until.After(s.Now()) {
			rep, err := train.ReportOf(ctx, x)
			if err != nil {
				return err
			}
			m.Current = reportOf(rep, r)
			continue
		}
		m.Earlier = append(m.Earlier, earlier{x.Title, x.Until.In(s.Location).Format("2 January")})
	}
	if err := p.coming(ctx, &m); err != nil {
		return err
	}
	return p.Render(w, r, status, templates, "practice", frame.Page{Title: "Practice of " + m.Class, Place: "classes", Data: m})
}

// mostComing is how many of the next lessons a practice is offered for.
const mostComing = 4

// coming are the next lessons of the class, and who is not ready for the first.
func (p *place) coming(ctx context.Context, m *page) error {
	all, err := lessons.Next(ctx, m.ID)
	if err != nil {
		return err
	}
	for _, l := range all[:min(mostComing, len(all))] {
		v, err := lessons.One(ctx, l.ID)
		if err != nil {
			return err
		}
		m.Lessons = append(m.Lessons, lessonRow{l.ID, v.Core.Titles() + ", " + v.Date.Format("Monday 2 January")})
		if len(m.Lessons) > 1 {
			continue
		}
		m.For = v.Core.Titles()
		ready, err := train.Ready(ctx, v)
		if err != nil {
			return err
		}
		m.Known, m.All = ready.Known, ready.All
		for i, l := range ready.Lacking {
			row := lackingRow{l.Skill.Name, l.Step, some(l.Who), "", names[l.Practise], len(l.Who)}
			var before []string
			for _, s := range l.Before {
				before = append(before, small(s.Name))
			}
			row.Before = words.Names(before)
			if i < mostLacking {
				m.Lacking = append(m.Lacking, row)
			} else {
				m.More = append(m.More, row)
			}
		}
	}
	return nil
}

// mostLacking skills are shown at once, and mostNames of whom.
const mostLacking, mostNames = 6, 6

func some(list []string) string {
	if len(list) > mostNames {
		return strings.Join(list[:mostNames], ", ") + fmt.Sprintf(" and %d more", len(list)-mostNames)
	}
	return words.Names(list)
}

func small(s string) string { return strings.ToLower(s[:1]) + s[1:] }

// mostHard exercises are named.
const mostHard = 3

func reportOf(rep train.Report, r *http.Request) *report {
	s := school.In(r.Context())
	out := &report{ID: rep.ID, Title: rep.Title, Code: rep.Code[:4] + " " + rep.Code[4:], Address: r.Host + "/practise", Until: rep.Until.In(s.Location).Format("Monday 2 January"), Finished: rep.Finished, All: len(rep.Rows), Others: rep.Others}
	for _, x := range rep.Rows {
		line := row{Name: x.Name, ID: x.ID, Does: "not yet"}
		if x.Tries > 0 {
			line.Does, line.Light = fmt.Sprintf("%d of %d right", x.Right, x.Tries), "look"
			if x.Tries >= train.Enough {
				line.Light = "good"
			}
		}
		line.Stuck = names[x.Stuck]
		out.Rows = append(out.Rows, line)
	}
	for i, h := range rep.Hardest {
		if i == mostHard {
			break
		}
		out.Hardest = append(out.Hardest, fmt.Sprintf("%s (%d of %d wrong)", names[h.Template], h.Wrong, h.Tries))
	}
	return out
}

// own is the class of the address, of those who teach it.
func own(r *http.Request) (int64, error) {
	c, err := school.Own(r.Context(), frame.ID(r, "id"))
	return c.Class.ID, err
}

func (p *place) set(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	lesson, _ := strconv.ParseInt(r.PostFormValue("lesson"), 10, 64)
	_, err = train.Set(r.Context(), id, lesson)
	if errors.Is(err, school.ErrNotFound) {
		err = problem.New("lesson", "This lesson is not there any more. Choose another")
	}
	if err != nil {
		return p.page(w, r, err)
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}

func (p *place) end(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	which, _ := strconv.ParseInt(r.PostFormValue("practice"), 10, 64)
	if err := train.End(r.Context(), id, which); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}

func (p *place) forget(w http.ResponseWriter, r *http.Request) error {
	id, err := own(r)
	if err != nil {
		return err
	}
	who, _ := strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	if err := train.Forget(r.Context(), id, who); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/classes/%d/practice", id))
}

// An evenForm is what was measured, as it was typed.
type evenForm struct {
	Target, Pieces, Way, Start, Around, To, Reference string
}

type evenPage struct {
	Form     evenForm
	Ways     []wayOption
	Problem  string
	Says     []string
	Pieces   template.HTML
	Doubtful int
	Found    []string
	To       string // where it is sent
	Bench    string // whose it is; empty for the page of those who teach
	Code     string // of the bench's screen
	Press    string
}

type wayOption struct {
	ID, Says string
	On       bool
}

var ways = []wayOption{{ID: "simmer", Says: "simmered"}, {ID: "fry", Says: "fried"}, {ID: "fan-oven", Says: "in a fan oven"}, {ID: "oven", Says: "in an oven without a fan"}}

// usualEven is what is measured where nobody says otherwise.
var usualEven = evenForm{Target: "10 10 10", Way: "simmer", Start: "15", Around: "98", To: "85", Reference: "100"}

func (p *place) even(w http.ResponseWriter, r *http.Request) error {
	return p.evenWith(w, r, http.StatusOK, evenPage{Form: usualEven})
}

func (p *place) evenWith(w http.ResponseWriter, r *http.Request, status int, m evenPage) error {
	m.Ways, m.To = waysOf(m.Form.Way), "/even"
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
	found, err := photographed(r.Context(), data, r.PostFormValue("reference"))
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

// photographed measures a photograph by the strip, whose discs lie so far apart.
func photographed(ctx context.Context, data []byte, apart string) (even.Photo, error) {
	reference, err := strconv.ParseFloat(strings.TrimSpace(apart), 64)
	if err != nil || !(reference >= 20 && reference <= 1000) {
		return even.Photo{}, problem.New("reference", "How far the strip’s discs are apart: “%s” is no number from 20 to 1000 mm", words.Short(apart))
	}
	return train.Measure(ctx, data, reference)
}

// measured reads the form and says what comes of it.
func measured(r *http.Request) (evenPage, even.Evenness, error) {
	_, data, err := frame.Uploaded(r)
	if tooLarge := new(http.MaxBytesError); errors.As(err, &tooLarge) {
		err = problem.New("file", "The photograph is larger than %d MB. Take a smaller one", tooLarge.Limit>>20)
	}
	f := evenForm{r.PostFormValue("target"), r.PostFormValue("pieces"), r.PostFormValue("way"), r.PostFormValue("start"), r.PostFormValue("around"), r.PostFormValue("to"), r.PostFormValue("reference")}
	m := evenPage{Form: f}
	if err != nil {
		return m, even.Evenness{}, err
	}
	e, err := m.fill(r.Context(), data)
	return m, e, err
}

// fill measures what was photographed, or else what was written down.
func (m *evenPage) fill(ctx context.Context, data []byte) (even.Evenness, error) {
	none := even.Evenness{}
	target, err := pieceOf(m.Form.Target)
	if err != nil {
		return none, problem.New("target", "What they are to be: %s", err)
	}
	var pieces []even.Piece
	if len(data) > 0 {
		found, err := photographed(ctx, data, m.Form.Reference)
		if err != nil {
			return none, err
		}
		for _, f := range found.Pieces {
			if f.Doubtful {
				m.Doubtful++
			}
			pieces = append(pieces, even.Piece{f.Size[0], f.Size[1], f.Size[1]})
			m.Found = append(m.Found, fmt.Sprintf("%.1f %.1f %.1f", f.Size[0], f.Size[1], f.Size[1]))
		}
		m.Form.Pieces = strings.Join(m.Found, "\n")
		if len(pieces) == 0 {
			return none, problem.New("file", "The strip is there, and no piece beside it that differs from the ground")
		}
	}
	const mostPieces = 500
	for i, line := range strings.Split(strings.TrimSpace(m.Form.Pieces), "\n") {
		if len(data) > 0 {
			break
		}
		if i >= mostPieces {
			return none, problem.New("pieces", "These are more than %d pieces", mostPieces)
		}
		if strings.TrimSpace(line) == "" {
			continue
		}
		x, err := pieceOf(line)
		if err != nil {
			return none, problem.New("pieces", "Line %d: %s", i+1, err)
		}
		pieces = append(pieces, x)
	}
	if len(pieces) == 0 {
		return none, problem.New("pieces", "Write down the pieces, a line each, or choose a photograph")
	}
	return m.say(pieces, target)
}

// pieceOf reads the sides of a piece; the third is the second where it is missing.
func pieceOf(text string) (even.Piece, error) {
	var p even.Piece
	fields := strings.FieldsFunc(strings.NewReplacer("×", " ", "x", " ", ",", ".", "mm", " ").Replace(strings.ToLower(text)), func(r rune) bool { return r == ' ' || r == '\t' || r == ';' || r == '\r' })
	if len(fields) == 0 || len(fields) > 3 {
		return p, fmt.Errorf("“%s” is no piece; write its sides, such as 10 11 9", words.Short(text))
	}
	for i := range p {
		v, err := strconv.ParseFloat(fields[min(i, len(fields)-1)], 64)
		if err != nil || !(v > 0 && v <= 1000) {
			return p, fmt.Errorf("“%s” is no piece; its sides are over 0 and at most 1000 mm", words.Short(text))
		}
		p[i] = v
	}
	return p, nil
}

func (m *evenPage) say(pieces []even.Piece, target even.Piece) (even.Evenness, error) {
	var volumes []float64
	for _, x := range pieces {
		volumes = append(volumes, x.Volume())
	}
	e := even.Of(volumes, target.Volume())
	if math.IsNaN(e.SD) {
		m.Says = append(m.Says, fmt.Sprintf("One piece of %.1f mm. How even they are cannot be said of one.", e.Mean))
	} else {
		m.Says = append(m.Says, fmt.Sprintf("%s, on the average %.1f mm (likely %.1f to %.1f).", words.Plural(e.N, "piece", "pieces"), e.Mean, e.MeanInterval.Low, e.MeanInterval.High),
			fmt.Sprintf("They differ by %.0f %% (likely %.0f to %.0f %%).", e.CV, e.CVInterval.Low, e.CVInterval.High),
			fmt.Sprintf("%.0f in 100 are off what they were to be (likely %.0f to %.0f).", 100*e.Off, 100*e.OffInterval.Low, 100*e.OffInterval.High))
	}
	degrees := func(text string) float64 {
		v, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(text), ",", "."), 64)
		if err != nil {
			return math.NaN()
		}
		return v
	}
	c := even.Cook{H: even.Ways[m.Form.Way], Start: degrees(m.Form.Start), Around: degrees(m.Form.Around), To: degrees(m.Form.To)}
	if c.H == 0 || !(c.Start >= -60 && c.Around <= 400 && c.To > min(c.Start, c.Around) && c.To < max(c.Start, c.Around)) {
		return e, problem.New("to", "The middle comes from %s to %s °C only where it is between that and what is around it, %s °C", words.Short(m.Form.Start), words.Short(m.Form.To), words.Short(m.Form.Around))
	}
	t := c.Times(pieces)
	m.Says = append(m.Says, fmt.Sprintf("The biggest needs %.1f min where the smallest is done in %.1f: %.1f times as long. By then the smallest has come to %.0f °C.", t.Last, t.First, t.Ratio, t.FirstAtLast))
	m.Pieces = piecesDrawn(slices.Clone(volumes), target.Volume())
	return e, nil
}

type stripPage struct{ Reference int }

func (p *place) strip(w http.ResponseWriter, r *http.Request) error {
	return p.Render(w, r, http.StatusOK, templates, "strip", frame.Page{Title: "The strip", Place: "classes", Data: stripPage{100}})
}
