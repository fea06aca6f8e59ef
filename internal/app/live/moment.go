package live

import (
	"context"
	"fmt"
	"html/template"

	"freshapron/internal/app/school"
	"freshapron/internal/app/work"
)

// Moment names what a run shows: it is the same for all screens until something
// happens or the second is over.
type Moment struct{ School, Run, Seq, Second int64 }

// Shared is One for many screens, of which each asks when it hears of news: it is
// worked out once for all of them, and nobody may change it.
func Shared(ctx context.Context, id int64) (*Run, Moment, error) {
	s := school.In(ctx)
	seq, err := s.LastEvent(ctx, id)
	if err != nil {
		return nil, Moment{}, err
	}
	m := Moment{s.ID, id, seq, s.Now().Unix()}
	kept := school.Keep[Moment, *Run](s.Site, keptMoments)
	if r, ok := kept.Get(m); ok {
		return r, m, nil
	}
	later := context.WithoutCancel(ctx)
	r, err := work.Once(s.Site.Work, fmt.Sprint("run ", m), func() (*Run, error) {
		r, err := One(later, id)
		if err == nil {
			kept.Add(m, r)
		}
		return r, err
	})
	return r, m, err
}

// Drawn draws something of a moment once for all screens that show the same.
func Drawn(ctx context.Context, m Moment, what string, draw func() (template.HTML, error)) (template.HTML, error) {
	type key struct {
		Moment
		what string
	}
	site := school.In(ctx).Site
	kept := school.Keep[key, template.HTML](site, keptDrawn)
	k := key{m, what}
	if html, ok := kept.Get(k); ok {
		return html, nil
	}
	return work.Once(site.Work, fmt.Sprint("drawn ", k), func() (template.HTML, error) {
		html, err := draw()
		if err == nil {
			kept.Add(k, html)
		}
		return html, err
	})
}
