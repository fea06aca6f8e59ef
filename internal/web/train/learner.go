package train

import (
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/app/train"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/even"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/heat"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/problem"
	core "freshapron/internal/core/train"
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
	Names       []train.Name
	Pictures    []string
	Learner     int64
	Picture     string
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
	m.Code, m.Title, m.Names, m.Pictures = of.Code, of.Title, names, train.Pictures
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
	m := namesPage{Picture: r.PostFormValue("picture")}
	m.Learner, _ = strconv.ParseInt(r.PostFormValue("learner"), 10, 64)
	token, err := train.Choose(ctx, of, m.Learner, m.Picture, r.PostFormValue("again") == "yes")
	if problems := problem.Of(err); problems != nil {
		m.Problem, m.InUse = problem.Sentence(problems[0].Says), problems.At("again") != ""
		return p.namesWith(w, r, http.StatusUnprocessableEntity, m)
	}
	if err != nil {
		return err
	}
	return frame.See(w, r, "/practise/at/"+token)
}

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
	Typed        string
	Problem      string
	Verdict      *verdict
}

type choice struct{ ID, Says string }

type verdict struct {
	Right                  bool
	Says, Matters, Instead string
	Pieces                 template.HTML
	Even                   string
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

func (p *learners) show(w http.ResponseWriter, r *http.Request, s *train.Session, status int, it train.Item, typed string, failed problem.List) error {
	m := itemPage{Token: s.Token, Title: s.Of.Title, Template: it.Template, Number: it.Number, Press: uuid.NewString(), Typed: typed, Done: done(len(s.Tries))}
	if failed != nil {
		m.Problem = problem.Sentence(failed[0].Says)
	}
	var drawn any
	switch {
	case it.Do != nil:
		m.Ask, m.Kind = it.Do.Ask, "instrument"
		drawn = instrumentOf(it.Do, s)
	case it.Knife != nil && it.Knife.Kind == knife.CutExercise:
		m.Ask, m.Kind = it.Knife.Ask, "cut"
		f := it.Knife.Food.Solid
		drawn = map[string]any{"shape": f.Shape, "size": f.Size, "end": f.End, "wall": f.Wall, "target": it.Knife.Target, "food": it.Knife.Food.Name}
		m.Hint = hintOf(it.Knife.Food)
	case it.Knife != nil && it.Knife.Kind == knife.OrderExercise:
		m.Ask, m.Kind, m.Acts = it.Knife.Ask, "order", it.Knife.Acts
	case it.Knife != nil:
		m.Ask, m.Kind = it.Knife.Ask, "choose"
		for _, c := range it.Knife.Choices {
			m.Choices = append(m.Choices, choice{c.ID, c.Says})
		}
	default:
		m.Ask, m.Kind, m.Unit = it.Task.Ask, "answer", unitOf(it.Task)
		if a := it.Task.Answer(); a.Name != "" {
			m.Kind = "choose"
			for _, f := range it.Task.Given() {
				if tools, ok := f.Value.([]core.Tool); ok {
					for _, t := range tools {
						m.Choices = append(m.Choices, choice{t.Name, t.Name})
					}
				}
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
func instrumentOf(e *core.Exercise, s *train.Session) map[string]any {
	first := func(list []exact.Number, usual float64) float64 {
		if len(list) == 0 {
			return usual
		}
		return list[0].Float()
	}
	const dialDivision, usualMarks, usualRadius = 10.0, 25.0, 42.0
	// A bowl weighs otherwise each time, and the eye comes from another height.
	n := len(s.Tries)
	out := map[string]any{"kind": e.Kind, "unit": e.Unit, "name": e.Amount.Name, "bowl": 180 + 37*(n%9)}
	switch e.Kind {
	case core.OnScale:
		out["resolution"] = first(s.Source.Scales, 1)
	case core.OnDial:
		out["resolution"] = dialDivision
	case core.InJug:
		marks := first(s.Source.Jugs, usualMarks)
		out["marks"], out["radius"], out["eye"] = marks, usualRadius, 8+4*(n%4)
		out["holds"] = max(500, marks*float64(int(e.Want*1.4/marks)+1))
	default:
		set := core.Usual().Cups
		switch e.Unit {
		case "tbsp":
			set = core.Usual().Tablespoons
		case "tsp":
			set = core.Usual().Teaspoons
		}
		var sizes []float64
		for _, x := range set {
			sizes = append(sizes, x.Float())
		}
		out["set"] = sizes
	}
	return out
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
	if name := r.PostFormValue("template"); err != nil || !train.Known(name) || uuid.Validate(press) != nil || number < 0 {
		return frame.See(w, r, "/practise/at/"+s.Token)
	}
	it := s.Item(r.PostFormValue("template"), number)
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
	m := itemPage{Token: s.Token, Title: s.Of.Title, Done: done(len(s.Tries) + 1), Verdict: &extra, Ask: askOf(it)}
	return p.Render(w, r, http.StatusOK, templates, "practise-item", frame.Page{Title: "Practise", Data: m})
}

func askOf(it train.Item) string {
	switch {
	case it.Do != nil:
		return it.Do.Ask
	case it.Knife != nil:
		return it.Knife.Ask
	}
	return it.Task.Ask
}

// judged judges what was done, by the core.
func judged(it train.Item, s *train.Session, r *http.Request) (core.Verdict, verdict, error) {
	switch {
	case it.Do != nil:
		var in drawingJSON
		if err := json.Unmarshal([]byte(r.PostFormValue("drawing")), &in); err != nil {
			return core.Verdict{}, verdict{}, problem.New("drawing", "Nothing has been measured out yet")
		}
		d := in.drawing(it.Do.Kind)
		if err := d.Check(); err != nil {
			return core.Verdict{}, verdict{}, err
		}
		return it.Do.Judge(d), verdict{}, nil
	case it.Knife != nil:
		return judgedKnife(it.Knife, r)
	}
	given, err := answerOf(it.Task, r.PostFormValue("answer"))
	if err != nil {
		return core.Verdict{}, verdict{}, err
	}
	v := it.Task.Judge(given, amountOf(it.Task, s.Source))
	if v.Right {
		v.Says = "Right: " + train.Says(it.Task.Answer()) + "."
	}
	return v, verdict{}, nil
}

func amountOf(t *core.Task, from core.Source) *core.Amount {
	for _, a := range from.Amounts {
		if a.Name == t.Ingredient {
			return &a
		}
	}
	return nil
}

type drawingJSON struct {
	Bowl     float64 `json:"bowl"`
	Zero     float64 `json:"zero"`
	In       float64 `json:"in"`
	BowlOn   bool    `json:"bowl_on"`
	Radius   float64 `json:"radius"`
	Eye      float64 `json:"eye"`
	Rests    bool    `json:"rests"`
	Fillings []struct {
		Size float64   `json:"size"`
		How  core.Heap `json:"how"`
	} `json:"fillings"`
}

func (d drawingJSON) drawing(kind core.Kind) core.Drawing {
	out := core.Drawing{Kind: kind, Bowl: d.Bowl, Zero: d.Zero, In: d.In, BowlOn: d.BowlOn, Radius: d.Radius, Eye: d.Eye, Rests: d.Rests}
	for _, f := range d.Fillings {
		out.Fillings = append(out.Fillings, core.Fill{Size: f.Size, How: f.How})
	}
	return out
}

// answerOf reads an answer as it was typed.
func answerOf(t *core.Task, text string) (core.Answer, error) {
	text = strings.TrimSpace(text)
	right := t.Answer()
	switch {
	case text == "":
		return core.Answer{}, problem.New("answer", "There is no answer yet")
	case right.Name != "":
		return core.Answer{Name: text}, nil
	case right.Clock != nil:
		c, err := clock.Typed(text)
		if err != nil {
			return core.Answer{}, problem.New("answer", "“%s” is no time of day. Write it as 10:25", words.Short(text))
		}
		return core.Answer{Clock: &c}, nil
	}
	n, err := typedNumber(text)
	if err != nil {
		return core.Answer{}, problem.New("answer", "“%s” is no number. Write it as 112.5, 3/4 or 1 1/2", words.Short(text))
	}
	return core.Answer{Amount: n, Unit: right.Unit}, nil
}

var vulgar = strings.NewReplacer("½", " 1/2", "⅓", " 1/3", "⅔", " 2/3", "¼", " 1/4", "¾", " 3/4", "⅛", " 1/8", "⅕", " 1/5", "⅙", " 1/6", ",", ".")

// typedNumber reads 112.5, 3/4, 1 1/2 and 1½.
func typedNumber(text string) (exact.Number, error) {
	sum := exact.Number{}
	parts := strings.Fields(vulgar.Replace(text))
	for len(parts) > 1 && strings.Trim(parts[len(parts)-1], "gmlkcdozbtspfui°CF") == "" {
		parts = parts[:len(parts)-1] // the unit, which stands beside it
	}
	if len(parts) == 0 || len(parts) > 2 {
		return sum, errors.New("no number")
	}
	for _, part := range parts {
		n, err := exact.Parse(part)
		if err != nil {
			return sum, err
		}
		sum = sum.Add(n)
	}
	return sum, nil
}

func judgedKnife(e *knife.Exercise, r *http.Request) (core.Verdict, verdict, error) {
	switch e.Kind {
	case knife.OrderExercise:
		right := e.Food.Order(e.Cut)
		at, says := knife.Played(right, r.PostForm["order"])
		if at < 0 {
			return core.Verdict{Right: true, Says: "That works."}, verdict{}, nil
		}
		var list []string
		for _, a := range right {
			list = append(list, strings.ToLower(a.Says[:1])+a.Says[1:])
		}
		return core.Verdict{Says: fmt.Sprintf("At the %s step: %s.", ordinal(at+1), says), Instead: "This works: " + strings.Join(list, "; ") + "."}, verdict{}, nil
	case knife.CutExercise:
		return judgedCut(e, r)
	}
	c, ok := e.Chosen(r.PostFormValue("answer"))
	if !ok {
		return core.Verdict{}, verdict{}, problem.New("answer", "Choose one")
	}
	v := core.Verdict{Right: c.Right, Says: c.Why}
	if c.Right {
		v.Says = "Right. " + c.Why
	}
	return v, verdict{}, nil
}

func ordinal(n int) string {
	names := []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh"}
	if n <= len(names) {
		return names[n-1]
	}
	return fmt.Sprint(n, "th")
}

// mostWaste and mostSpread are what a cut that is done well may have: shares.
const mostWaste, mostSpread = 0.45, 0.30

func judgedCut(e *knife.Exercise, r *http.Request) (core.Verdict, verdict, error) {
	var in struct{ X, Y, Z []float64 }
	if err := json.Unmarshal([]byte(r.PostFormValue("drawing")), &in); err != nil {
		return core.Verdict{}, verdict{}, problem.New("drawing", "There is no cut yet")
	}
	if len(in.X)+len(in.Y)+len(in.Z) == 0 {
		return core.Verdict{}, verdict{}, problem.New("drawing", "There is no cut yet")
	}
	const mostCuts = 200
	if len(in.X)+len(in.Y)+len(in.Z) > mostCuts {
		return core.Verdict{}, verdict{}, problem.New("drawing", "These are more than %d cuts", mostCuts)
	}
	list, err := e.Food.Solid.Cut(knife.Cuts{in.X, in.Y, in.Z})
	if err != nil {
		return core.Verdict{}, verdict{}, err
	}
	target := e.Target[0] * e.Target[1] * e.Target[2]
	var volumes []float64
	var pieces []even.Piece // that count, as cubes
	for _, p := range list {
		volumes = append(volumes, p.Volume)
		if edge := even.Size(p.Volume); p.Volume >= target/2 {
			pieces = append(pieces, even.Piece{edge, edge, edge})
		}
	}
	ev := even.Of(volumes, target)
	waste := knife.Waste(list, target)
	good := slices.DeleteFunc(slices.Clone(volumes), func(v float64) bool { return v < target/2 })
	v := core.Verdict{Percent: 100 * ev.Off, Off: ev.Mean - e.Target[0]}
	onTarget := false
	if len(good) > 0 {
		kept := even.Of(good, target)
		onTarget = kept.Off <= mostSpread
	}
	v.Right = onTarget && waste <= mostWaste
	strokes := knife.Cuts{in.X, in.Y, in.Z}.Strokes(e.Food.Solid)
	v.Says = fmt.Sprintf("%s from %s; %.0f %% lie in pieces too small to count.", words.Plural(len(list), "piece", "pieces"), words.Plural(strokes, "cut", "cuts"), 100*waste)
	if !v.Right {
		v.Instead = fmt.Sprintf("Lay the cuts %.0f mm apart in all three directions.", e.Target[0])
	}
	extra := verdict{Pieces: piecesDrawn(volumes, target)}
	if len(pieces) > 0 {
		t := even.Cook{H: heat.Boiling, Start: 15, Around: 98, To: 85}.Times(pieces)
		extra.Even = fmt.Sprintf("Simmered, the biggest needs %.1f min where the smallest that counts is done in %.1f.", t.Last, t.First)
	}
	return v, extra, nil
}

// mostDrawn is how many pieces are drawn side by side.
const mostDrawn = 60

// piecesDrawn draws the pieces side by side, the largest first, as squares of their
// size; what is off the target is drawn otherwise.
func piecesDrawn(volumes []float64, target float64) template.HTML {
	sorted := slices.Clone(volumes)
	slices.Sort(sorted)
	slices.Reverse(sorted)
	step := max(1, (len(sorted)+mostDrawn-1)/mostDrawn)
	edge := even.Size(target)
	scale := 24 / max(edge, even.Size(sorted[0])/2.5)
	var b strings.Builder
	x, high := 0.0, 0.0
	for i := 0; i < len(sorted); i += step {
		s := even.Size(sorted[i])
		class := "on"
		if s > 1.2*edge || s < 0.8*edge {
			class = "off"
		}
		side := max(2, s*scale)
		fmt.Fprintf(&b, `<rect class="%s" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, class, x, -side, side, side)
		x, high = x+side+3, max(high, side)
	}
	return template.HTML(fmt.Sprintf(`<svg class="pieces" viewBox="0 %.1f %.1f %.1f" role="img" aria-label="The pieces, the largest first">%s</svg>`, -high-2, x, high+4, b.String())) //nolint:gosec // numbers only
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
	return p.benchEvenWith(w, r, http.StatusOK, b, evenPage{Form: usualEven})
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
	m, e, err := measured(r)
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
	target, err := pieceOf(m.Form.Target)
	if err != nil {
		return err
	}
	if m.Doubtful == 0 { // what is doubtful is looked at first
		if err := train.Measured(r.Context(), b, e, target, press); err != nil {
			return err
		}
	}
	return p.benchEvenWith(w, r, http.StatusOK, b, m)
}
