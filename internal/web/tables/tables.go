// Package tables is the place of the school's tables of safety: temperatures
// and times, who may do what, and other ways to do it.
package tables

import (
	"embed"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"freshapron/internal/app/care"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/staff"
	"freshapron/internal/web/frame"
)

//go:embed templates/*.html
var files embed.FS

var templates = frame.Parse(files)

type place struct{ *frame.Frame }

// Routes are the pages of this place.
func Routes(f *frame.Frame) []frame.Route {
	p := &place{f}
	return []frame.Route{
		frame.Get("/tables", staff.Read, p.show),
		frame.Post("/tables/region", staff.Arrange, p.takeRegion),
		frame.Post("/tables/temperatures", staff.Arrange, p.saveRegion),
		frame.Post("/tables/who", staff.Arrange, p.saveWho),
		frame.Post("/tables/ways", staff.Arrange, p.addWay),
		frame.Post("/tables/pictures", staff.Arrange, p.savePictures),
	}
}

type page struct {
	Region  safety.Region
	Core    []string
	Regions []frame.Option
	F       map[string]frame.Field
	Rules   []ruleRow
	Who     frame.Field
	Days    frame.Field // for which pictures of benches are kept
	Ways    []wayRow
	Dangers []frame.Option
	Helps   []frame.Option
	W       map[string]frame.Field
	Instead bool
	Problem string
	May     bool
	Decides string
	List    string
	Source  string
}

type ruleRow struct{ Danger, Who, Source string }

type wayRow struct{ Name, For, Helps, Time, Says string }

// typed is what somebody has typed into one of the forms, where it could not
// be saved.
type typed struct {
	region   *care.RegionForm
	who      *string
	way      care.WayForm
	days     *string // for which pictures are kept
	problems problem.List
}

func (p *place) show(w http.ResponseWriter, r *http.Request) error {
	return p.page(w, r, http.StatusOK, typed{})
}

func (p *place) page(w http.ResponseWriter, r *http.Request, status int, t typed) error {
	larder, err := school.In(r.Context()).Larder(r.Context())
	if err != nil {
		return err
	}
	book := larder.Settings.Book()
	region, who := care.RegionFormOf(book.Region), care.WhoText(book.Who)
	if t.region != nil {
		region = *t.region
	}
	if t.who != nil {
		who = *t.who
	}
	days := strconv.Itoa(larder.Settings.PictureDays())
	if t.days != nil {
		days = *t.days
	}
	field := func(name, label, value string) frame.Field { return frame.Text(name, label, value, t.problems) }
	data := page{
		Region: book.Region, May: school.May(r.Context(), staff.Arrange), Decides: safety.Decides, Instead: t.way.Instead,
		List: larder.Declared().Name, Source: larder.Declared().Source,
		F: map[string]frame.Field{
			"name": field("name", "Name", region.Name), "core": field("core", "Core temperatures: food; °C; seconds", region.Core),
			"hot": field("hot", "Hot, °C at least", region.Hot), "cold": field("cold", "Cold, °C at most", region.Cold), "hot_out": field("hot_out", "Hot food off it, min at most", region.HotOut),
			"cold_out": field("cold_out", "Cold food off it, min at most", region.ColdOut), "cool_to": field("cool_to", "Cooled to, °C", region.CoolTo), "cool_in": field("cool_in", "within, min", region.CoolIn),
			"source": field("source", "Source", region.Source), "looked": field("looked", "As known in", region.Looked),
		},
		Days: field("days", "Days", days),
		Who:  field("who", "danger; under so many years; level or nothing; watches or does; source", who),
		W: map[string]frame.Field{
			"name": {Name: "name", ID: "way-name", Label: "Name", Value: t.way.Name, Problem: wayProblems(t).At("name")}, "says": {Name: "says", ID: "way-says", Label: "What stands on the bench’s sheet", Value: t.way.Says, Problem: wayProblems(t).At("says")},
			"times": {Name: "times", ID: "way-times", Label: "Times as long", Value: t.way.Times, Problem: wayProblems(t).At("times")},
		},
	}
	if t.problems != nil {
		data.Problem = "Not saved. " + problem.Sentence(t.problems[0].Says)
	}
	for _, c := range book.Region.Core {
		data.Core = append(data.Core, c.Food+": "+c.Says())
	}
	for _, s := range safety.Regions {
		data.Regions = append(data.Regions, frame.Option{Value: s.ID, Label: s.Name, Small: s.Source + ". As known in " + s.Looked, Chosen: s.ID == book.Region.ID, ID: "region-" + s.ID})
	}
	for _, rule := range book.Who {
		does := "an adult watches"
		if rule.Adult == fit.Does {
			does = "an adult does it"
		}
		text := fmt.Sprintf("under %d years", rule.Under)
		if rule.Level > 0 {
			text += ", " + rule.Level.Name()
		}
		data.Rules = append(data.Rules, ruleRow{rule.Danger.Name(), text + ": " + does, rule.Source})
	}
	for _, way := range book.Ways {
		data.Ways = append(data.Ways, wayOf(way))
	}
	for _, d := range recipe.Dangers {
		data.Dangers = append(data.Dangers, frame.Option{Value: string(d), Label: d.Name(), ID: "danger-" + string(d)})
	}
	for i, h := range safety.AccessNeeds {
		data.Helps = append(data.Helps, frame.Option{Value: h, Label: h, ID: fmt.Sprintf("helps-%d", i)})
	}
	return p.Render(w, r, status, templates, "tables", frame.Page{Title: "Tables of safety", Place: "tables", Data: data})
}

// wayProblems are the problems of the form for another way, which shares names
// of fields with that for temperatures.
func wayProblems(t typed) problem.List {
	if t.region != nil || t.who != nil || t.days != nil {
		return nil
	}
	return t.problems
}

func wayOf(w safety.Way) wayRow {
	row := wayRow{Name: w.Name, Helps: strings.Join(w.Helps, ", "), Says: w.Says, Time: "the same"}
	var of []string
	for _, d := range w.Dangers {
		of = append(of, d.Name())
	}
	for _, k := range w.Kinds {
		of = append(of, string(k))
	}
	if row.For = strings.Join(of, ", "); w.Whole {
		row.For = "the whole lesson"
	}
	if w.Apart {
		row.Helps = "allergies by contact"
	}
	if w.Level > 0 {
		row.Helps = strings.TrimPrefix(row.Helps+", "+w.Level.Name(), ", ")
	}
	if w.Times > 0 && w.Times != 1 {
		row.Time = fmt.Sprintf("× %g", w.Times)
	}
	return row
}

func (p *place) answer(w http.ResponseWriter, r *http.Request, err error, t typed, to string) error {
	switch {
	case err == nil:
		return frame.See(w, r, "/tables"+to)
	case errors.As(err, &t.problems):
		return p.page(w, r, http.StatusUnprocessableEntity, t)
	default:
		return err
	}
}

func (p *place) takeRegion(w http.ResponseWriter, r *http.Request) error {
	return p.answer(w, r, care.TakeRegion(r.Context(), r.PostFormValue("region")), typed{}, "")
}

func (p *place) saveRegion(w http.ResponseWriter, r *http.Request) error {
	var in care.RegionForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, care.SaveRegion(r.Context(), in), typed{region: &in}, "")
}

func (p *place) saveWho(w http.ResponseWriter, r *http.Request) error {
	text := r.PostFormValue("who")
	return p.answer(w, r, care.SaveWho(r.Context(), text), typed{who: &text}, "#who-head")
}

func (p *place) savePictures(w http.ResponseWriter, r *http.Request) error {
	days := r.PostFormValue("days")
	return p.answer(w, r, care.SavePictures(r.Context(), days), typed{days: &days}, "#pictures")
}

func (p *place) addWay(w http.ResponseWriter, r *http.Request) error {
	var in care.WayForm
	if err := frame.Decode(r, &in); err != nil {
		return err
	}
	return p.answer(w, r, care.AddWay(r.Context(), in), typed{way: in}, "#ways")
}
