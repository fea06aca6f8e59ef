package train

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/knife"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/skills"
)

// mostHelp is how many lines a step has room for.
const mostHelp = 2

// Help says how those of a bench get on with a step, by its words, of whom it is not
// known that they have what it asks for: who at the bench can show it, or what else comes
// to the same end. Who lacks it is not said. Of a class of which nothing is known, it
// says nothing.
func Help(ctx context.Context, v *lessons.View, bench, words string) ([]string, error) {
	g, err := Skills(ctx)
	if err != nil {
		return nil, err
	}
	wants := g.For(words)
	at := slices.IndexFunc(v.Benches, func(b lesson.Bench) bool { return b.ID == bench })
	if len(wants) == 0 || at < 0 {
		return nil, nil
	}
	in := school.In(ctx)
	c, err := in.Class(ctx, v.Class.ID)
	if err != nil {
		return nil, err
	}
	all, err := known(ctx, g, c)
	if err != nil || len(all) == 0 {
		return nil, err
	}
	says := map[int64]string{}
	for _, n := range school.NamesIn(c) {
		says[n.ID] = n.Says
	}
	var out []string
	for _, s := range wants {
		var shows []string
		lacks := false
		for _, m := range v.Benches[at].Members {
			switch level := skills.Of(all[m.ID], s.ID, in.Now()).Level; {
			case level >= skills.Can:
				shows = append(shows, says[m.ID])
			case level == 0:
				lacks = true
			}
		}
		food, cut := knife.FoodNamed(words)
		switch {
		case !lacks || len(out) == mostHelp:
		case len(shows) > 0:
			out = append(out, fmt.Sprintf("%s: %s can show it.", s.Name, shows[0]))
		case cut && food.Tool != "" && strings.HasPrefix(s.Template, "knife-"):
			out = append(out, fmt.Sprintf("%s: it can be done with %s, too.", s.Name, food.Tool))
		}
	}
	return out, nil
}
