package people

import (
	"context"
	"io"
	"strings"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// Copy writes the whole school to be kept, or to be restored elsewhere; see
// store.Store.Backup. That it was taken is noted in the trail.
func Copy(ctx context.Context, to io.Writer) error {
	in := school.In(ctx)
	if err := school.Note(ctx, in.School, store.Note{Did: "saw", About: "people", Says: "the whole school, as a copy"}); err != nil {
		return err
	}
	return in.Site.Store.Backup(ctx, to, in.School.Name)
}

// RemoveSchool takes the school and everything of it away for good, where its name is
// typed as it is.
func RemoveSchool(ctx context.Context, typed string) error {
	in := school.In(ctx)
	if strings.TrimSpace(typed) != in.School.Name {
		return problem.New("name", "That is not the school’s name. Nothing was removed")
	}
	return in.Remove(ctx)
}
