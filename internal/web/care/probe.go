package care

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"freshapron/internal/app/care"
	"freshapron/internal/app/live"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/heat"
	core "freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/safety"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

type probePage struct {
	Top      head.Top
	Fields   map[string]frame.Field
	Sim      map[string]frame.Field
	Shows    string
	Profile  string // the points of the curve from the middle to the surface
	At       string // where on it the probe is
	Problem  string
	Readings []reading
	Rules    []string
	Region   string
	Decides  string
}

type reading struct {
	At, Bench, What, Celsius, Held, Says, Who string
	Good, Simulated                           bool
}

var shapes = []struct {
	value, label string
	shape        heat.Shape
}{
	{"slab", "flat: a burger, a fillet, a slice", heat.Slab}, {"cylinder", "long: a kofta, a sausage shape", heat.Cylinder}, {"sphere", "round: a ball, a scone", heat.Sphere},
	{brick, "as long as it is wide and thick: a cube of meat, of potato", heat.Slab},
}

var media = []struct {
	value, label string
	h            float64
}{
	{"fan", "fan oven", heat.FanOven}, {"still", "oven without a fan", heat.StillOven}, {"pan", "frying pan, turned half way", heat.Frying}, {"water", "simmering water", heat.Boiling},
}

// A simulated probe is a model of the food heating and of where the probe is
// put in it. It stands in for one that is plugged in.
type simulated struct {
	shape              heat.Shape
	h                  float64
	thick, from, at    float64 // mm, °C, °C
	minutes, off       float64 // off: mm from the middle
	celsius, deepest   float64
	problem            string
	asked              bool
	shapeName, mediumN string
}

// simulatedOf reads the model from the address; every figure has a default.
func simulatedOf(q url.Values) simulated {
	s := simulated{shape: heat.Cylinder, h: heat.Frying, thick: 30, from: 8, at: 170, minutes: 12, asked: q.Has("thick"), shapeName: "cylinder", mediumN: "pan"}
	for _, x := range shapes {
		if x.value == q.Get("shape") {
			s.shape, s.shapeName = x.shape, x.value
		}
	}
	for _, m := range media {
		if m.value == q.Get("medium") {
			s.h, s.mediumN = m.h, m.value
		}
	}
	for _, n := range []struct {
		name      string
		into      *float64
		low, high float64
		what      string
	}{
		{"thick", &s.thick, 2, 300, "Thickness"}, {"from", &s.from, -25, 60, "Temperature before"}, {"heat", &s.at, 40, 300, "Oven, pan or water"},
		{"minutes", &s.minutes, 0, 600, "Minutes"}, {"off", &s.off, 0, 150, "From the middle"},
	} {
		text := strings.ReplaceAll(strings.TrimSpace(q.Get(n.name)), ",", ".")
		if text == "" {
			continue
		}
		v, err := strconv.ParseFloat(text, 64)
		if err != nil || !(v >= n.low && v <= n.high) {
			s.problem = fmt.Sprintf("%s: “%.40s” is not a number between %g and %g.", n.what, text, n.low, n.high)
			continue
		}
		*n.into = v
	}
	if s.off > s.thick/2 {
		s.problem = fmt.Sprintf("%g mm from the middle is outside a piece that is %g mm thick.", s.off, s.thick)
		s.off = s.thick / 2
	}
	s.celsius, s.deepest = s.inside(s.off/(s.thick/2)), s.inside(0)
	return s
}

const brick = "cube"

// inside returns what a probe shows at a depth: 0 is the middle, 1 and −1 are
// the sides. What lies flat in a pan heats from below alone.
func (s simulated) inside(depth float64) float64 {
	half, seconds := s.thick/2000, s.minutes*60
	switch {
	case s.shapeName == brick:
		return heat.Wet(heat.InsideBrick([3]float64{half, half, half}, [3]float64{abs(depth)}, s.h, s.from, s.at, seconds))
	case s.shape == heat.Slab && s.mediumN == "pan":
		return heat.Wet(heat.OnPan(2*half, s.h, s.from, s.at, seconds, (1+depth)/2, true))
	}
	return heat.Wet(heat.Inside(s.shape, half, s.h, s.from, s.at, seconds, abs(depth)))
}

func (p *place) probe(w http.ResponseWriter, r *http.Request) error {
	return p.probePage(w, r, http.StatusOK, care.Probing{Kind: "core", Bench: r.URL.Query().Get("bench")}, nil)
}

func (p *place) probePage(w http.ResponseWriter, r *http.Request, status int, in care.Probing, problems problem.List) error {
	v, mine, err := open(r)
	if err != nil {
		return err
	}
	log, err := care.Readings(r.Context(), v.ID)
	if err != nil {
		return err
	}
	region := v.Core.Safety.Region
	data := probePage{Top: head.TopOf(r, v, "Temperatures", "Temperatures", "", mine), Region: fmt.Sprintf("%s. %s. As known in %s.", region.Name, region.Source, region.Looked), Decides: safety.Decides}
	for _, c := range region.Core {
		data.Rules = append(data.Rules, c.Food+": "+c.Says())
	}
	s := simulatedOf(r.URL.Query())
	if s.asked {
		data.Problem = s.problem
		data.Shows = fmt.Sprintf("%.1f °C", s.celsius)
		if in.Celsius == "" {
			in.Celsius, in.Simulated = fmt.Sprintf("%.1f", s.celsius), true
		}
		data.Profile, data.At = s.curve()
	}
	if in.Food == "" {
		in.Food = region.Foods()[0]
	}
	data.Fields = probeFields(v, in, region, problems)
	data.Sim = s.fields()
	for _, l := range log {
		row := reading{At: school.In(r.Context()).Local(l.At).Format("15:04"), Bench: l.Bench, What: kindsOfReading[l.Kind], Celsius: fmt.Sprintf("%.1f °C", l.Celsius), Says: l.Says, Who: l.Who, Good: l.Good, Simulated: l.Simulated}
		if l.Kind == "core" {
			row.What += ", " + l.Food
		}
		if l.Seconds > 0 {
			row.Held = fmt.Sprintf("%d s", l.Seconds)
		}
		data.Readings = append(data.Readings, row)
	}
	return p.Render(w, r, status, templates, "probe", frame.Page{Title: head.Title("Temperatures", v), Place: "lesson", Data: data})
}

var kindsOfReading = map[string]string{"core": "in the middle", "hot": "kept hot", "cold": "kept cold"}

func probeFields(v *lessons.View, in care.Probing, region safety.Region, problems problem.List) map[string]frame.Field {
	var benches, foods []frame.Option
	if v.Problems == nil {
		for _, b := range v.Benches {
			benches = append(benches, frame.Option{Value: b.Name, Label: b.Name})
		}
	}
	benches = append(benches, frame.Option{Value: "Demonstration", Label: "Demonstration"}, frame.Option{Value: "Fridge", Label: "Fridge"})
	for _, f := range region.Foods() {
		foods = append(foods, frame.Option{Value: f, Label: f})
	}
	var kinds []frame.Option
	for _, k := range []string{"core", "hot", "cold"} {
		kinds = append(kinds, frame.Option{Value: k, Label: kindsOfReading[k]})
	}
	fields := map[string]frame.Field{
		"bench": frame.Choice("bench", "Where", in.Bench, problems, benches), "kind": frame.Choice("kind", "What", in.Kind, problems, kinds),
		"food": frame.Choice("food", "Food", in.Food, problems, foods), "celsius": frame.Text("celsius", "°C", in.Celsius, problems),
		"seconds": frame.Text("seconds", "Held for so many seconds", in.Seconds, problems),
	}
	return fields
}

func (s simulated) fields() map[string]frame.Field {
	number := func(name, label string, v float64) frame.Field {
		return frame.Field{Name: name, ID: "sim-" + name, Label: label, Value: strconv.FormatFloat(v, 'f', -1, 64)}
	}
	choice := func(name, label, chosen string, options []frame.Option) frame.Field {
		f := frame.Choice(name, label, chosen, nil, options)
		f.ID = "sim-" + name
		return f
	}
	var s1, s2 []frame.Option
	for _, x := range shapes {
		s1 = append(s1, frame.Option{Value: x.value, Label: x.label})
	}
	for _, m := range media {
		s2 = append(s2, frame.Option{Value: m.value, Label: m.label})
	}
	return map[string]frame.Field{
		"shape": choice("shape", "The biggest piece is", s.shapeName, s1), "medium": choice("medium", "Heated in", s.mediumN, s2),
		"thick": number("thick", "Thick, mm", s.thick), "from": number("from", "Before, °C", s.from), "heat": number("heat", "Heated at, °C", s.at),
		"minutes": number("minutes", "For so many minutes", s.minutes), "off": number("off", "Probe from the middle, mm", s.off),
	}
}

// curve draws the temperature from one side of the piece to the other, and
// where the probe is on it, in a box of 300 by 120.
func (s simulated) curve() (points, at string) {
	const width, height, n = 300.0, 120.0, 60
	x := func(depth float64) float64 { return width/2 + depth*width/2 }
	y := func(celsius float64) float64 { return height - (celsius+5)/(max(100, s.at)+10)*height }
	var b strings.Builder
	for i := 0; i <= n; i++ {
		depth := float64(i)/n*2 - 1
		fmt.Fprintf(&b, "%.1f,%.1f ", x(depth), y(s.inside(depth)))
	}
	d := s.off / (s.thick / 2)
	return strings.TrimSpace(b.String()), fmt.Sprintf("M%.1f 0 L%.1f %.1f", x(d), x(d), y(s.celsius))
}

func abs(v float64) float64 {
	if v < 0 {
		return -v
	}
	return v
}

func (p *place) writeDown(w http.ResponseWriter, r *http.Request) error {
	var in care.Probing
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	id := frame.ID(r, "id")
	read, err := care.WriteDown(r.Context(), id, in)
	if problems := problem.Of(err); problems != nil {
		return p.probePage(w, r, http.StatusUnprocessableEntity, in, problems)
	}
	if err != nil {
		return err
	}
	// What is read in a lesson that runs is of its log as well.
	if err := live.Record(r.Context(), id, in.Press, read.Bench, core.Event{Kind: core.Temperature, Celsius: read.Celsius, Says: read.Says}); err != nil {
		return err
	}
	return frame.See(w, r, fmt.Sprintf("/lessons/%d/probe", id))
}
