package timeline

import (
	"fmt"
	"slices"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/words"
)

// worthDrawing is how many minutes in a queue are drawn.
const worthDrawing = 0.5

// A fold is a row that stands for all groups which do the same at the same
// times.
type fold struct {
	fit.GroupPlan // the one that is drawn
	names         []string
}

// folds puts the groups together, by the first of each.
func (d *layout) folds() []fold {
	var out []fold
	at := map[string]int{}
	for _, gp := range d.plan.Groups {
		g, _ := d.lesson.Group(gp.ID)
		key := gp.ID
		if d.look.By == ByBench {
			key = fmt.Sprint(g.Cooks)
			for _, s := range gp.Steps {
				key += fmt.Sprintf("|%s %.4f %.4f %.4f %v", d.lesson.StepTitle(s.Dish, s.Step), s.Start, s.WorkEnd, s.End, s.Hands)
			}
		}
		i, known := at[key]
		if !known {
			i = len(out)
			at[key] = i
			out = append(out, fold{GroupPlan: gp})
		}
		out[i].names = append(out[i].names, g.Label())
		if d.look.Chosen.Group == gp.ID || d.decides(gp.ID) && d.look.Chosen.Group != out[i].ID {
			out[i].GroupPlan = gp
		}
	}
	return out
}

// decides reports whether a group is on the longest chain.
func (d *layout) decides(group string) bool {
	return slices.ContainsFunc(d.plan.Chain, func(l fit.Link) bool { return l.Group == group })
}

// bench draws the row of a fold: a lane for each cook, and below them what
// goes on without hands, and where the bench waits for a thing.
func (d *layout) bench(f fold) {
	gp := f.GroupPlan
	g, _ := d.lesson.Group(gp.ID)
	lanes := fit.CookLanes(gp, g.Cooks)
	waits := waitLanes(gp)
	h := float64(g.Cooks)*d.scale.cook + float64(waits.count)*d.scale.wait
	small := ""
	if len(f.names) > 1 {
		small = words.Plural(len(f.names), "bench", "benches")
	}
	r := d.row(words.Numbered(f.names), small, h)
	if d.look.Bench != nil {
		r.Href = d.look.Bench(g.ID)
		if len(f.names) > 1 {
			r.Href = d.look.Bench(ByEach)
		}
	}
	d.steps(gp, lanes, waits)
	d.y += h + d.scale.gap
}

func (d *layout) steps(gp fit.GroupPlan, lanes [][]int, waits waiting) {
	g, _ := d.lesson.Group(gp.ID)
	for i, s := range gp.Steps {
		d.work(g, i, s, lanes)
		at := Ref{g.ID, s.Dish, s.Step}
		below := d.y + float64(g.Cooks)*d.scale.cook
		d.wait(g, s, below+float64(waits.of[at])*d.scale.wait)
		d.queue(g, s, below, at)
	}
}

type waiting struct {
	of    map[Ref]int
	count int
}

func waitLanes(gp fit.GroupPlan) waiting {
	w := waiting{of: map[Ref]int{}, count: 1}
	var free []float64
	for _, s := range gp.Steps {
		byAdult := s.Cooks == 0 && s.WorkEnd > s.Start
		if s.End-s.WorkEnd < rounding && !byAdult {
			continue
		}
		from := s.WorkEnd
		if s.Cooks == 0 {
			from = s.Start
		}
		lane := slices.IndexFunc(free, func(f float64) bool { return f <= from+rounding })
		if lane < 0 {
			lane = len(free)
			free = append(free, 0)
		}
		free[lane] = s.End
		w.of[Ref{gp.ID, s.Dish, s.Step}] = lane
	}
	w.count = max(1, len(free))
	return w
}

func (d *layout) work(g fit.Group, at int, s fit.StepPlan, lanes [][]int) {
	if s.WorkEnd <= s.Start {
		return
	}
	step, _ := d.lesson.Step(s.Dish, s.Step)
	class, label := "hands", step.Title
	if step.Adult != fit.NoAdult {
		class = "adult"
	}
	if guess, _ := d.guess(s); guess {
		class, label = class+" guess", label+", typical"
	}
	// A shared step is one bar over the neighbouring lanes of its cooks.
	for i := 0; i < len(lanes); i++ {
		if !slices.Contains(lanes[i], at) {
			continue
		}
		n := 1
		for i+n < len(lanes) && slices.Contains(lanes[i+n], at) {
			n++
		}
		d.bar(s.Start, s.WorkEnd, d.y+float64(i)*d.scale.cook, float64(n)*d.scale.cook-1, class, label, d.says(g, step, s), Ref{g.ID, s.Dish, s.Step})
		i += n
	}
}

func (d *layout) wait(g fit.Group, s fit.StepPlan, y float64) {
	step, _ := d.lesson.Step(s.Dish, s.Step)
	of := Ref{g.ID, s.Dish, s.Step}
	if s.Cooks == 0 && s.WorkEnd > s.Start { // an adult works
		d.bar(s.Start, s.WorkEnd, y, d.scale.wait-1, "adult", step.Title, d.says(g, step, s), of)
	}
	if s.End <= s.WorkEnd {
		return
	}
	label := ""
	if d.pic.Close {
		label = step.Title
	}
	class := "wait"
	if _, guess := d.guess(s); guess {
		class += " guess"
	}
	d.bar(s.WorkEnd, s.End, y+1, d.scale.wait-2, class, label, d.says(g, step, s), of)
	if tray, ok := d.lesson.Tray(g.ID, s); ok {
		in := tray.LatestIn
		x := d.x(in)
		d.pic.Marks = append(d.pic.Marks, Mark{
			X: x, Y1: round(y - 3), Y2: round(y + d.scale.wait),
			Flag: flag(x, round(y)), Clock: d.lesson.At(in),
			Says: fmt.Sprintf("%s: tray in by %s", g.Label(), d.lesson.At(in)),
		})
	}
}

// queue draws where the bench stands ready and waits for a thing or an adult.
func (d *layout) queue(g fit.Group, s fit.StepPlan, y float64, of Ref) {
	if !s.Held.InQueue() || s.Held.Minutes < worthDrawing {
		return
	}
	from := s.Start - s.Held.Minutes
	says := fmt.Sprintf("%s waits %.0f min for %s before “%s”", g.Label(), s.Held.Minutes, thing(s.Held.For), d.lesson.StepTitle(s.Dish, s.Step))
	label := ""
	if d.pic.Close {
		label = "waits for " + thing(s.Held.For)
	}
	d.bar(from, s.Start, y+d.scale.wait*0.3, d.scale.wait*0.4, "queue", "", says, Ref{})
	if label != "" {
		b := &d.pic.Bars[len(d.pic.Bars)-1]
		b.Label = d.label(label, b.X, b.Y-2, b.W, 1)
	}
	d.pic.Bars[len(d.pic.Bars)-1].Href = d.href(of)
}

func (d *layout) href(of Ref) string {
	if d.look.Step == nil {
		return ""
	}
	return d.look.Step(of)
}

func thing(id string) string {
	if id == "adults" {
		return "an adult"
	}
	return "the " + id
}

// closeUp draws one bench large, a lane for each cook, and below it every
// thing that it holds.
func (d *layout) closeUp(gp fit.GroupPlan) {
	g, _ := d.lesson.Group(gp.ID)
	lanes, waits := fit.CookLanes(gp, g.Cooks), waitLanes(gp)
	for i := range g.Cooks {
		label := "Cook"
		if g.Cooks > 1 {
			label = fmt.Sprintf("Cook %d", i+1)
		}
		y := d.y
		d.y += float64(i) * d.scale.cook
		d.row(label, "", d.scale.cook)
		d.y = y
	}
	y := d.y
	d.y += float64(g.Cooks) * d.scale.cook
	d.row("No hands", "", float64(waits.count)*d.scale.wait)
	d.y = y
	d.steps(gp, lanes, waits)
	d.y += float64(g.Cooks)*d.scale.cook + float64(waits.count)*d.scale.wait + d.scale.gap
	d.held(gp)
}

// held draws a row for each unit that the bench uses, with the others that
// use it too.
func (d *layout) held(gp fit.GroupPlan) {
	seen := map[fit.UnitPlan]bool{}
	for _, s := range gp.Steps {
		for _, u := range s.Units {
			if seen[u] {
				continue
			}
			seen[u] = true
			e := d.equipment(u.Equipment)
			d.unit(e, unitOf(e, u.Unit), gp.ID)
		}
	}
}

func (d *layout) equipment(id string) fit.Equipment {
	i := slices.IndexFunc(d.lesson.Equipment, func(e fit.Equipment) bool { return e.ID == id })
	return d.lesson.Equipment[i]
}

func unitOf(e fit.Equipment, name string) fit.Unit {
	i := slices.IndexFunc(e.Units, func(u fit.Unit) bool { return u.Name == name })
	return e.Units[i]
}
