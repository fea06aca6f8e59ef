package train

import (
	"context"

	"freshapron/internal/app/school"
	"freshapron/internal/core/skills"
	"freshapron/internal/store"
)

// Skills returns the graph of skills of the school: its own, or the one that ships.
func Skills(ctx context.Context) (skills.Graph, error) {
	s, err := school.In(ctx).Settings(ctx)
	if err != nil || s.Skills == "" {
		return skills.Shipped, err
	}
	return skills.Read(s.Skills)
}

// SaveSkills makes a text the school's own graph; an empty one takes the graph that ships.
func SaveSkills(ctx context.Context, text string) error {
	says := "took the list of skills that ships"
	if text != "" {
		if _, err := skills.Read(text); err != nil {
			return err
		}
		says = "changed the list of skills"
	}
	return school.In(ctx).InTransaction(ctx, func(tx *store.School) error {
		s, err := tx.Settings(ctx)
		if err != nil {
			return err
		}
		s.Skills = text
		if err := tx.SaveSettings(ctx, s); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "skills", Says: says})
	})
}
