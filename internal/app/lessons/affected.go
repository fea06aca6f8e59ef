package lessons

import (
	"context"
	"slices"

	"freshapron/internal/app/school"
	"freshapron/internal/core/fit"
	"freshapron/internal/store"
)

// Affected is a lesson whose plan used something that does not work now.
type Affected struct {
	*View
	Before *fit.Plan // with it
}

// affectedDays is how far is looked for lessons that an outage changes.
const affectedDays = 14

// AffectedBy returns the lessons whose plans would use something, were it not
// out of order.
func AffectedBy(ctx context.Context, o store.Outage) ([]Affected, error) {
	a := school.In(ctx)
	first, last := a.Today(), a.Today().AddDate(0, 0, affectedDays)
	if o.First.After(first) {
		first = o.First
	}
	if !o.Last.IsZero() && o.Last.Before(last) {
		last = o.Last
	}
	lessons, err := a.LessonsBetween(ctx, first, last)
	if err != nil {
		return nil, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return nil, err
	}
	others, err := a.Outages(ctx, first, o.Room)
	if err != nil {
		return nil, err
	}
	room, err := a.Room(ctx, o.Room)
	if err != nil {
		return nil, err
	}
	var out []Affected
	for _, l := range lessons {
		if l.Room.ID != o.Room {
			continue
		}
		whole := l
		whole.Room = room
		for _, other := range others {
			if other.ID != o.ID && other.On(l.Date) {
				whole.Room = whole.Room.Without(other)
			}
		}
		before, err := view(a.Site, whole, larder)
		if err != nil {
			return nil, err
		}
		if before.Plan == nil || !usesUnit(before.Plan, room.UnitName(o.Unit)) {
			continue
		}
		now, err := view(a.Site, l, larder)
		if err != nil {
			return nil, err
		}
		out = append(out, Affected{now, before.Plan})
	}
	return out, nil
}

func usesUnit(p *fit.Plan, unit string) bool {
	for _, g := range p.Groups {
		for _, s := range g.Steps {
			if slices.ContainsFunc(s.Units, func(u fit.UnitPlan) bool { return u.Unit == unit }) {
				return true
			}
		}
	}
	return false
}
