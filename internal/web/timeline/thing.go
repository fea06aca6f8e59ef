package timeline

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
)

// mostUnits is up to how many units of one equipment get a row of their own;
// more are drawn as a curve of how many are in use.
const mostUnits = 8

// things draws what the room shares: ovens shelf by shelf, blenders one by
// one, the adults, and everything else as a curve of how many are in use.
func (d *layout) things() {
	for _, e := range d.lesson.Equipment {
		switch {
		case e.PerStation || len(e.Units) > mostUnits && !e.Temperature:
			d.inUse(e)
		default:
			for _, u := range e.Units {
				d.unit(e, u, "")
			}
		}
	}
	d.adults()
}

// A stay is a step in a unit.
type stay struct {
	from, to float64
	places   int
	group    fit.Group
	of       Ref
	celsius  string
}

// stays lists by unit who is in it. With a group given, units of which each
// bench has its own are those of that group.
func (d *layout) stays(e fit.Equipment, group string) map[string][]stay {
	out := map[string][]stay{}
	for _, gp := range d.plan.Groups {
		if e.PerStation && group != "" && group != gp.ID {
			continue
		}
		for _, s := range gp.Steps {
			step, _ := d.lesson.Step(s.Dish, s.Step)
			bench, _ := d.lesson.Group(gp.ID)
			for i, u := range step.Uses {
				if u.Equipment != e.ID || i >= len(s.Units) {
					continue
				}
				t := stay{from: s.Start, to: s.End, places: u.Places, group: bench, of: Ref{gp.ID, s.Dish, s.Step}}
				switch u.During {
				case fit.WorkPart:
					t.to = s.WorkEnd
				case fit.WaitPart:
					t.from = s.WorkEnd
				}
				if u.Temperature != nil {
					t.celsius = u.Temperature.Decimal(0) + " °C"
				}
				out[s.Units[i].Unit] = append(out[s.Units[i].Unit], t)
			}
		}
	}
	for _, list := range out {
		slices.SortStableFunc(list, func(a, b stay) int { return cmp.Compare(a.from, b.from) })
	}
	return out
}

// unit draws one unit with a lane for each of its places. With a group given,
// that of the others is drawn as theirs.
func (d *layout) unit(e fit.Equipment, u fit.Unit, group string) {
	list := d.stays(e, group)[u.Name]
	if len(list) == 0 {
		return
	}
	h := float64(u.Places) * shelfH
	small := list[0].celsius
	if slices.ContainsFunc(list, func(s stay) bool { return s.celsius != small }) {
		small = "" // each tray says its own
	}
	d.row(u.Name, small, h).Href = d.href(Ref{Unit, e.ID, u.Name})
	if e.Temperature {
		ready := e.OnAt.Add(e.Preheat).Float()
		on := e.OnAt.Float()
		if ready > on {
			d.pic.Bars = append(d.pic.Bars, Bar{
				X: d.x(on), Y: d.y + h/2 - 1.5, W: round(d.x(ready) - d.x(on)), H: 3, Class: "heat",
				Says: fmt.Sprintf("%s heats up until %s", u.Name, d.lesson.At(ready)),
			})
		}
	}
	free := make([]float64, u.Places)
	for _, t := range list {
		shelf := slices.IndexFunc(free, func(f float64) bool { return f <= t.from+rounding })
		if shelf < 0 {
			shelf = 0
		}
		for i := shelf; i < min(shelf+t.places, u.Places); i++ {
			free[i] = t.to
		}
		class, label := "tray", t.group.Label()
		if group != "" && group != t.group.ID {
			class = "tray other"
		}
		if small == "" && t.celsius != "" {
			label += ", " + t.celsius
		}
		says := fmt.Sprintf("%s: %s, “%s”, %s to %s", u.Name, t.group.Label(), d.lesson.StepTitle(t.of.Dish, t.of.Step), d.lesson.At(t.from), d.lesson.At(t.to))
		if t.celsius != "" {
			says += ", " + t.celsius
		}
		d.bar(t.from, t.to, d.y+float64(shelf)*shelfH, float64(min(t.places, u.Places-shelf))*shelfH-1, class, label, says, t.of)
	}
	d.y += h + d.scale.gap
}

// adults draws a lane for each adult, where one has something to do.
func (d *layout) adults() {
	duties := fit.Duties(d.lesson, d.plan)
	if len(duties) == 0 {
		return
	}
	h := float64(d.lesson.Adults) * shelfH
	label := "Adults"
	if d.lesson.Adults == 1 {
		label = "The adult"
	}
	d.row(label, "", h).Href = d.href(Ref{Adults, "", ""})
	for _, t := range duties {
		y := d.y + float64(t.Adult)*shelfH
		if t.Group == "" {
			says := fmt.Sprintf("An adult is out, %s to %s", d.lesson.At(t.From), d.lesson.At(t.To))
			d.bar(t.From, t.To, y, shelfH-1, "out", "out", says, Ref{})
			continue
		}
		does := "watches"
		if t.Does {
			does = "does"
		}
		who := d.lesson.GroupLabel(t.Group)
		says := fmt.Sprintf("An adult %s “%s” at %s, %s to %s", does, d.lesson.StepTitle(t.Dish, t.Step), who, d.lesson.At(t.From), d.lesson.At(t.To))
		d.bar(t.From, t.To, y, shelfH-1, "adult", who, says, Ref{t.Group, t.Dish, t.Step})
	}
	d.y += h + d.scale.gap
}

func (d *layout) inUse(e fit.Equipment) {
	total := 0
	for _, u := range e.Units {
		total += u.Places
	}
	if e.PerStation {
		total *= len(d.plan.Groups)
	}
	type change struct {
		at float64
		by int
	}
	var changes []change
	for _, list := range d.stays(e, "") {
		for _, t := range list {
			changes = append(changes, change{t.from, t.places}, change{t.to, -t.places})
		}
	}
	if len(changes) == 0 {
		return
	}
	slices.SortFunc(changes, func(a, b change) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.by, b.by)) })
	base := d.y + useH - 2
	height := func(n int) float64 { return round(base - (useH-6)*float64(n)/float64(total)) }
	var path strings.Builder
	n, most, when := 0, 0, 0.0
	fmt.Fprintf(&path, "M%g %g", d.x(changes[0].at), base)
	for _, c := range changes {
		n += c.by
		fmt.Fprintf(&path, "H%gV%g", d.x(c.at), height(n))
		if n > most {
			most, when = n, c.at
		}
	}
	path.WriteString("Z")
	label := strings.ToUpper(e.ID[:1]) + e.ID[1:] + "s"
	d.row(label, fmt.Sprintf("%d in all", total), useH)
	d.pic.Curves = append(d.pic.Curves, Curve{
		Path: path.String(), LabelX: round(d.x(changes[len(changes)-1].at) + 6), LabelY: round(base - 4),
		Says: fmt.Sprintf("%d in use at %s", most, d.lesson.At(when)),
	})
	d.y += useH + d.scale.gap
}
