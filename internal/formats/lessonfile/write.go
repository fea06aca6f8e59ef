package lessonfile

import (
	"io"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/formats/jsonout"
)

type number = jsonout.Number

func maybe(n *exact.Number) *number {
	if n == nil {
		return nil
	}
	m := number(*n)
	return &m
}

type lessonJSON struct {
	Format  string      `json:"format"`
	Version int         `json:"version"`
	Title   string      `json:"title,omitempty"`
	Period  periodJSON  `json:"period"`
	Phases  []phaseJSON `json:"phases"`
	Room    roomJSON    `json:"room"`
	Groups  []groupJSON `json:"groups"`
	Dishes  []dishJSON  `json:"dishes"`

	Risk     *spreadsJSON   `json:"risk,omitempty"`
	Now      *number        `json:"now_min,omitempty"`
	Progress []progressJSON `json:"progress,omitempty"`
}

type spreadsJSON struct {
	Class    *float64 `json:"class,omitempty"`
	Group    *float64 `json:"group,omitempty"`
	Patience int      `json:"patience_min"`
}

type progressJSON struct {
	Group   string      `json:"group"`
	Dish    string      `json:"dish"`
	Step    string      `json:"step"`
	Skipped bool        `json:"skipped,omitempty"`
	Cooks   *int        `json:"cooks,omitempty"`
	Start   *number     `json:"start_min,omitempty"`
	WorkEnd *number     `json:"work_end_min,omitempty"`
	End     *number     `json:"end_min,omitempty"`
	Units   *[]unitJSON `json:"units,omitempty"`
	Hands   *[]int      `json:"hands,omitempty"`
}

type outJSON struct {
	Equipment string  `json:"equipment"`
	Unit      string  `json:"unit"`
	From      number  `json:"from_min"`
	To        *number `json:"to_min,omitempty"`
	Usable    bool    `json:"usable,omitempty"`
}

type periodJSON struct {
	Date  string `json:"date,omitempty"`
	Start string `json:"start"`
	End   string `json:"end"`
}

type phaseJSON struct {
	Name     string  `json:"name"`
	Minutes  number  `json:"minutes"`
	At       string  `json:"at,omitempty"`
	AtMinute *number `json:"at_minute,omitempty"`
	Waits    bool    `json:"waits,omitempty"`
}

type roomJSON struct {
	Adults    int             `json:"adults"`
	AdultsOut []awayJSON      `json:"adults_out,omitempty"`
	Out       []outJSON       `json:"out,omitempty"`
	Equipment []equipmentJSON `json:"equipment"`
}

type awayJSON struct {
	Adults  int    `json:"adults"`
	From    number `json:"from_minute"`
	Minutes number `json:"minutes"`
}

type pinJSON struct {
	Dish      string   `json:"dish"`
	Step      string   `json:"step"`
	NotBefore *number  `json:"not_before,omitempty"`
	BeginBy   *number  `json:"begin_by,omitempty"`
	Units     []string `json:"units,omitempty"`
}

type equipmentJSON struct {
	ID          string         `json:"id"`
	Per         string         `json:"per"`
	Units       []unitSizeJSON `json:"units"`
	Temperature bool           `json:"temperature,omitempty"`
	OnAt        number         `json:"on_at_minute"`
	Preheat     number         `json:"preheat_minutes"`
	Reheat      number         `json:"reheat_minutes"`
}

type unitSizeJSON struct {
	Name   string `json:"name"`
	Places int    `json:"places"`
}

type groupJSON struct {
	ID     string    `json:"id"`
	Name   string    `json:"name,omitempty"`
	Cooks  int       `json:"cooks"`
	Pace   number    `json:"pace"`
	Dishes []string  `json:"dishes,omitempty"`
	Pins   []pinJSON `json:"pins,omitempty"`
}

type dishJSON struct {
	ID          string           `json:"id"`
	Title       string           `json:"title,omitempty"`
	Ingredients []ingredientJSON `json:"ingredients,omitempty"`
	Steps       []stepJSON       `json:"steps"`
}

type ingredientJSON struct {
	Name    string  `json:"name"`
	Amount  *number `json:"amount,omitempty"`
	Unit    string  `json:"unit,omitempty"`
	Note    string  `json:"note,omitempty"`
	Scales  string  `json:"scales,omitempty"`
	PartOf  string  `json:"part_of,omitempty"`
	Brought bool    `json:"brought,omitempty"`
}

type stepJSON struct {
	ID            string      `json:"id"`
	Title         string      `json:"title,omitempty"`
	Kind          string      `json:"kind"`
	Work          number      `json:"work_minutes"`
	Wait          number      `json:"wait_minutes"`
	Cooks         int         `json:"cooks"`
	Shareable     bool        `json:"shareable,omitempty"`
	After         []afterJSON `json:"after,omitempty"`
	Uses          []useJSON   `json:"uses,omitempty"`
	Adult         string      `json:"adult,omitempty"`
	KeepShut      bool        `json:"keep_shut,omitempty"`
	Spread        *float64    `json:"spread,omitempty"`
	Pieces        int         `json:"pieces,omitempty"`
	PiecesPerLoad int         `json:"pieces_per_load,omitempty"`
	Load          *number     `json:"load_minutes,omitempty"`
	Hold          *holdJSON   `json:"hold,omitempty"`
}

type afterJSON struct {
	Dish   string  `json:"dish,omitempty"`
	Step   string  `json:"step"`
	MinGap number  `json:"min_gap"`
	MaxGap *number `json:"max_gap,omitempty"`
}

type useJSON struct {
	Equipment   string  `json:"equipment"`
	Places      int     `json:"places"`
	Temperature *number `json:"temperature_c,omitempty"`
	During      string  `json:"during"`
}

type holdJSON struct {
	Where      string `json:"where"`
	MaxMinutes number `json:"max_minutes"`
}

// WriteLesson writes a lesson file. Minutes are written with up to ten
// decimals; a lesson that was read from a file reads back the same.
func WriteLesson(to io.Writer, l fit.Lesson) error {
	out := lessonJSON{
		Format: Format, Version: Version, Title: l.Title,
		Period: periodJSON{l.Date, l.Start.String(), l.End.String()},
		Phases: []phaseJSON{}, Room: roomJSON{Adults: l.Adults, Equipment: []equipmentJSON{}},
	}
	for _, p := range l.Phases {
		pj := phaseJSON{Name: p.Name, Minutes: number(p.Minutes), Waits: p.Waits}
		switch p.Place {
		case fit.AtMinute:
			pj.AtMinute = maybe(&p.Minute)
		case fit.AtEnd:
			pj.At = "end"
		case fit.AtStart:
			pj.At = "start"
		}
		out.Phases = append(out.Phases, pj)
	}
	for _, e := range l.Equipment {
		ej := equipmentJSON{
			ID: e.ID, Per: "room", Temperature: e.Temperature,
			OnAt: number(e.OnAt), Preheat: number(e.Preheat), Reheat: number(e.Reheat),
		}
		if e.PerStation {
			ej.Per = "station"
		}
		for _, u := range e.Units {
			ej.Units = append(ej.Units, unitSizeJSON{u.Name, u.Places})
		}
		out.Room.Equipment = append(out.Room.Equipment, ej)
	}
	for _, a := range l.Away {
		out.Room.AdultsOut = append(out.Room.AdultsOut, awayJSON{a.Adults, number(a.From), number(a.Minutes)})
	}
	for _, o := range l.Out {
		out.Room.Out = append(out.Room.Out, outJSON{o.Equipment, o.Unit, number(o.From), maybe(o.To), o.Usable})
	}
	out.Now = maybe(l.Now)
	if s := l.Spreads; s != nil {
		out.Risk = &spreadsJSON{Class: s.Class, Group: s.Group}
	}
	for _, p := range l.Progress {
		out.Progress = append(out.Progress, progressOf(p))
	}
	for _, g := range l.Groups {
		gj := groupJSON{ID: g.ID, Name: g.Name, Cooks: g.Cooks, Pace: number(g.Pace), Dishes: g.Dishes}
		for _, p := range g.Pins {
			gj.Pins = append(gj.Pins, pinJSON{p.Dish, p.Step, maybe(p.NotBefore), maybe(p.BeginBy), p.Units})
		}
		out.Groups = append(out.Groups, gj)
	}
	for _, d := range l.Dishes {
		out.Dishes = append(out.Dishes, dishOf(d))
	}
	return jsonout.Write(to, out)
}

func progressOf(p fit.Progress) progressJSON {
	pj := progressJSON{Group: p.Group, Dish: p.Dish, Step: p.Step, Skipped: p.Skipped, Cooks: p.Cooks, WorkEnd: maybe(p.WorkEnd), End: maybe(p.End)}
	if !p.Skipped {
		pj.Start = maybe(&p.Start)
	}
	if p.Units != nil {
		pj.Units = &[]unitJSON{}
		for _, u := range p.Units {
			*pj.Units = append(*pj.Units, unitJSON(u))
		}
	}
	if p.Hands != nil {
		pj.Hands = &p.Hands
	}
	return pj
}

func dishOf(d fit.Dish) dishJSON {
	dj := dishJSON{ID: d.ID, Title: d.Title, Steps: []stepJSON{}}
	for _, i := range d.Ingredients {
		dj.Ingredients = append(dj.Ingredients, ingredientJSON{i.Name, maybe(i.Amount), i.Unit, i.Note, i.Scales, i.PartOf, i.Brought})
	}
	for _, s := range d.Steps {
		dj.Steps = append(dj.Steps, writeStep(s))
	}
	return dj
}

func writeStep(s fit.Step) stepJSON {
	sj := stepJSON{
		ID: s.ID, Title: s.Title, Kind: string(s.Kind), Work: number(s.Work), Wait: number(s.Wait),
		Cooks: s.Cooks, Shareable: s.Shareable, KeepShut: s.KeepShut, Spread: s.Spread,
		Pieces: s.Pieces, PiecesPerLoad: s.PerLoad,
	}
	if s.Adult != fit.NoAdult {
		sj.Adult = string(s.Adult)
	}
	if s.PerLoad > 0 {
		sj.Load = maybe(&s.Load)
	}
	for _, a := range s.After {
		sj.After = append(sj.After, afterJSON{a.Dish, a.Step, number(a.MinGap), maybe(a.MaxGap)})
	}
	for _, u := range s.Uses {
		sj.Uses = append(sj.Uses, useJSON{u.Equipment, u.Places, maybe(u.Temperature), string(u.During)})
	}
	if s.Hold != nil {
		sj.Hold = &holdJSON{s.Hold.Where, number(s.Hold.MaxMinutes)}
	}
	return sj
}
