package store

import (
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
)

// book is how a school's tables of safety are written down. What is nil is as
// it ships.
type book struct {
	Region *regionDoc `json:"region,omitempty"`
	Who    []whoDoc   `json:"who,omitzero"` // empty: the school has no rules; nil: it has those that ship
	Ways   []ownWay   `json:"ways,omitempty"`
}

type regionDoc struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Core    []coreDoc `json:"core"`
	Hot     float64   `json:"hot"`
	Cold    float64   `json:"cold"`
	HotOut  int       `json:"hot_out"`
	ColdOut int       `json:"cold_out"`
	CoolTo  float64   `json:"cool_to"`
	CoolIn  int       `json:"cool_in"`
	Source  string    `json:"source"`
	Looked  string    `json:"looked"`
}

type coreDoc struct {
	Food    string  `json:"food"`
	Celsius float64 `json:"celsius"`
	Seconds int     `json:"seconds"`
}

type whoDoc struct {
	Danger string `json:"danger"`
	Under  int    `json:"under"`
	Level  int    `json:"level,omitempty"`
	Adult  string `json:"adult"`
	Source string `json:"source"`
}

type ownWay struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Says    string   `json:"says"`
	Dangers []string `json:"dangers,omitempty"`
	Kinds   []string `json:"kinds,omitempty"`
	Helps   []string `json:"helps,omitempty"`
	Level   int      `json:"level,omitempty"`
	Times   float64  `json:"times,omitempty"`
	Adult   string   `json:"adult,omitempty"`
	Instead bool     `json:"instead,omitempty"`
	Whole   bool     `json:"whole,omitempty"`
}

// Book returns the school's tables of safety: as they ship where the school
// has none of its own.
func (s Settings) Book() safety.Book {
	b := safety.Usual()
	if s.Safety == nil {
		return b
	}
	if d := s.Safety.Region; d != nil {
		b.Region = safety.Region{
			ID: d.ID, Name: d.Name, Hot: d.Hot, Cold: d.Cold, HotOut: d.HotOut, ColdOut: d.ColdOut, CoolTo: d.CoolTo, CoolIn: d.CoolIn,
			Source: d.Source, Looked: d.Looked,
		}
		for _, c := range d.Core {
			b.Region.Core = append(b.Region.Core, safety.CoreRule(c))
		}
	}
	if s.Safety.Who != nil {
		b.Who = nil
		for _, d := range s.Safety.Who {
			b.Who = append(b.Who, safety.WhoRule{Danger: recipe.Danger(d.Danger), Under: d.Under, Level: class.Level(d.Level), Adult: fit.Adult(d.Adult), Source: d.Source})
		}
	}
	for _, d := range s.Safety.Ways {
		b.Ways = append(b.Ways, d.way())
	}
	return b
}

func (d ownWay) way() safety.Way {
	w := safety.Way{
		ID: d.ID, Name: d.Name, Says: d.Says, Helps: d.Helps, Level: class.Level(d.Level), Times: d.Times,
		Adult: fit.Adult(d.Adult), Instead: d.Instead, Whole: d.Whole,
	}
	for _, k := range d.Dangers {
		w.Dangers = append(w.Dangers, recipe.Danger(k))
	}
	for _, k := range d.Kinds {
		w.Kinds = append(w.Kinds, fit.Kind(k))
	}
	return w
}

// WithRegion returns the settings with a table of temperatures and times.
func (s Settings) WithRegion(r safety.Region) Settings {
	d := &regionDoc{
		ID: r.ID, Name: r.Name, Hot: r.Hot, Cold: r.Cold, HotOut: r.HotOut, ColdOut: r.ColdOut, CoolTo: r.CoolTo, CoolIn: r.CoolIn,
		Source: r.Source, Looked: r.Looked,
	}
	for _, c := range r.Core {
		d.Core = append(d.Core, coreDoc(c))
	}
	own := s.own()
	own.Region = d
	s.Safety = &own
	return s
}

// WithWho returns the settings with a table of who may do what.
func (s Settings) WithWho(rules []safety.WhoRule) Settings {
	own := s.own()
	own.Who = []whoDoc{}
	for _, r := range rules {
		own.Who = append(own.Who, whoDoc{string(r.Danger), r.Under, int(r.Level), string(r.Adult), r.Source})
	}
	s.Safety = &own
	return s
}

// WithWay returns the settings with another way of the school's own.
func (s Settings) WithWay(w safety.Way) Settings {
	d := ownWay{ID: w.ID, Name: w.Name, Says: w.Says, Helps: w.Helps, Level: int(w.Level), Times: w.Times, Adult: string(w.Adult), Instead: w.Instead, Whole: w.Whole}
	for _, k := range w.Dangers {
		d.Dangers = append(d.Dangers, string(k))
	}
	for _, k := range w.Kinds {
		d.Kinds = append(d.Kinds, string(k))
	}
	own := s.own()
	own.Ways = append(append([]ownWay{}, own.Ways...), d)
	s.Safety = &own
	return s
}

func (s Settings) own() book {
	if s.Safety == nil {
		return book{}
	}
	return *s.Safety
}
