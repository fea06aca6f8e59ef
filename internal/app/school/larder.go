package school

import (
	"cmp"
	"context"
	"encoding/json"

	"freshapron/internal/core/lesson"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/scale"
	"freshapron/internal/store"
)

// A Larder is the school's pantry with how the school measures.
type Larder struct {
	Pantry   *pantry.Pantry
	Settings store.Settings
	Key      string // changes with anything above
}

// System returns what the school's recipes mean by a cup or a spoon.
func (l Larder) System() measure.System {
	if s, ok := measure.SystemOf(l.Settings.Units); ok {
		return s
	}
	return measure.Metric
}

// Tolerances returns the school's, the usual ones where it has set none.
func (l Larder) Tolerances() pantry.Tolerances {
	own := func(set, usual float64) float64 { return cmp.Or(max(0, set), usual) }
	return pantry.Tolerances{
		Agent:     own(l.Settings.Agent, pantry.Usual.Agent),
		Structure: own(l.Settings.Structure, pantry.Usual.Structure),
		Other:     own(l.Settings.Other, pantry.Usual.Other),
	}
}

// Tables are what lessons of the school are planned with.
func (l Larder) Tables() lesson.Tables {
	return lesson.Tables{Pantry: l.Pantry, Tolerances: l.Tolerances(), Units: l.System(), Volume: l.Settings.First == "volume", Safety: l.Settings.Book()}
}

// Declared returns the list of allergens that the school declares by.
func (l Larder) Declared() pantry.DeclaredList {
	if l.Settings.Declare == "nine" {
		return pantry.Nine
	}
	return pantry.Fourteen
}

// Kitchen returns the larder with a room's instruments.
func (l Larder) Kitchen(in measure.Instruments) scale.Kitchen {
	return scale.Kitchen{Pantry: l.Pantry, Instruments: in, Tolerances: l.Tolerances(), Volume: l.Settings.First == "volume"}
}

// Larder loads the school's pantry and settings. The pantry is built anew
// only where something in it has changed.
func (s *School) Larder(ctx context.Context) (Larder, error) {
	now, err := s.Standing(ctx)
	if err != nil {
		return Larder{}, err
	}
	chosen, err := json.Marshal(now.Settings)
	if err != nil {
		return Larder{}, err
	}
	l := Larder{Settings: now.Settings, Key: string(chosen) + now.Pantry}
	if last := s.larder.Load(); last != nil && last.Key == l.Key {
		return *last, nil
	}
	items, err := s.School.PantryItems(ctx)
	if err != nil {
		return Larder{}, err
	}
	own := make([]pantry.Ingredient, len(items))
	for n, i := range items {
		own[n] = i.Ingredient
	}
	l.Pantry = pantry.Stock().With(own)
	s.larder.Store(&l)
	return l, nil
}
