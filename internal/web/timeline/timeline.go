// Package timeline lays out the picture of a lesson from the door to the
// bell. It computes a view model of plain coordinates; a template draws it.
package timeline

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
)

// Sizes of the picture in its own units; the page scales it.
const (
	width     = 960
	left      = 84  // where the door is
	right     = 20  // beyond the last minute, for half of the bell's words
	head      = 54  // phases' names and the clock
	cookH     = 12  // a cook's lane
	waitH     = 8   // the lane of what needs no hands
	rowGap    = 6   // between benches
	shelfH    = 10  // a shelf of an oven
	useH      = 26  // the curve of things in use
	spreadH   = 34  // the curve of finishing times
	charWidth = 5.1 // of the letters in a bar, on average
	tickEvery = 5   // minutes
)

// A Picture is the view model of the drawing.
type Picture struct {
	Width, Height float64
	Bands         []Band
	Ticks         []Tick
	Rows          []Row
	Bars          []Bar
	Marks         []Mark
	Curves        []Curve
	Spread        *Curve
	Bell          Line
	LastTray      *Line // the first of the last moments, on the axis
	Foot          Text  // what the lower axis counts
}

// A Band is a whole-class phase.
type Band struct {
	X, Y, W, H float64
	Name       string
	Lines      []Text
}

// A Text is a word or two at a place.
type Text struct {
	X, Y float64
	Text string
}

// A Tick is a moment on the axis: the clock above, the minutes to the bell
// below.
type Tick struct {
	X, Y1, Y2 float64
	Clock     Text
	ToBell    Text
	Strong    bool
}

// A Row is one bench, oven or other thing.
type Row struct {
	Label, Small Text
	RuleY        float64
}

// A Bar is a stretch of work or waiting. Class says which: "hands", "adult",
// "wait", "heat", and " late" after it for what runs past the deadline.
type Bar struct {
	X, Y, W, H     float64
	Class          string
	Label          string
	LabelX, LabelY float64
	Says           string // in full, for a pointer or a screen reader
}

// A Mark is a last moment.
type Mark struct {
	X, Y1, Y2 float64
	Flag      string // SVG path of its flag
	Clock     string
	Says      string
}

// A Curve is how many things are in use, or how often a lesson ends when.
type Curve struct {
	Path   string
	Says   string
	LabelX float64
	LabelY float64
}

// A Line is upright: the bell, or a last moment.
type Line struct {
	X, Y1, Y2 float64
	Label     Text
	Flag      string // SVG path of its flag
}

type layout struct {
	lesson fit.Lesson
	plan   *fit.Plan
	last   float64 // minute at the right edge
	y      float64
	pic    *Picture
}

// Draw lays out the plan of a lesson.
func Draw(l fit.Lesson, p *fit.Plan) *Picture {
	bell := l.Minutes().Float()
	d := &layout{lesson: l, plan: p, last: math.Max(bell, math.Ceil(p.Finish)), y: head, pic: &Picture{Width: width}}
	d.benches()
	d.things()
	bottom := d.y + 4
	d.spread(&bottom)
	d.pic.Foot = Text{left - 8, bottom + 12, "min to the bell"}
	d.bands(bottom)
	d.ticks(bottom)
	d.pic.Bell = Line{X: d.x(bell), Y1: 4, Y2: bottom + 4, Label: Text{d.x(bell), bottom + 12, l.End.String()}}
	d.lastTray(bottom)
	d.pic.Height = bottom + 26
	return d.pic
}

func (d *layout) x(minute float64) float64 {
	return round(left + (width-left-right)*minute/d.last)
}

// lastTray marks on the axis the moment by which the first tray must be in.
func (d *layout) lastTray(bottom float64) {
	const y = 34 // above the clock, below the phases' names
	if len(d.pic.Marks) == 0 {
		return
	}
	first := slices.MinFunc(d.pic.Marks, func(a, b Mark) int { return cmp.Compare(a.X, b.X) })
	d.pic.LastTray = &Line{X: first.X, Y1: y - 10, Y2: bottom, Label: Text{first.X - 9, y - 3.5, "first tray in by " + first.Clock}, Flag: flag(first.X, y-7)}
}

// flag is the path of a small flag whose pole stands at x.
func flag(x, y float64) string { return fmt.Sprintf("M%g %gl-6 -3v6z", x, y) }

func round(v float64) float64 { return math.Round(v*10) / 10 }

func (d *layout) bands(bottom float64) {
	for _, s := range d.lesson.Spans() {
		if s.To <= s.From {
			continue
		}
		b := Band{X: d.x(s.From), Y: 14, H: bottom - 14, W: round(d.x(s.To) - d.x(s.From)), Name: s.Name}
		for i, line := range wrap(s.Name, int(b.W/charWidth)) {
			b.Lines = append(b.Lines, Text{round(b.X + b.W/2), 24 + 11*float64(i), line})
		}
		d.pic.Bands = append(d.pic.Bands, b)
	}
}

// wrap breaks a name into at most two lines of so many letters; a name that
// does not fit is left to the band's title.
func wrap(name string, letters int) []string {
	if len([]rune(name)) <= letters {
		return []string{name}
	}
	words := strings.Fields(name)
	for i := range words {
		a, b := strings.Join(words[:i], " "), strings.Join(words[i:], " ")
		if a != "" && len([]rune(a)) <= letters && len([]rune(b)) <= letters {
			return []string{a, b}
		}
	}
	return nil
}

func (d *layout) ticks(bottom float64) {
	first := tickEvery - int(d.lesson.Start)%tickEvery
	if first == tickEvery {
		first = 0
	}
	for m := first; float64(m) <= d.last; m += tickEvery {
		clock := d.lesson.Start + fit.Clock(m)
		t := Tick{X: d.x(float64(m)), Y1: head - 3, Y2: bottom, Strong: int(clock)%15 == 0}
		toBell := int(d.lesson.End - clock)
		if toBell != 0 && (t.Strong || d.last <= 80) {
			t.Clock = Text{t.X, head - 6, clock.String()}
			if toBell > 0 {
				t.ToBell = Text{t.X, bottom + 12, fmt.Sprint(toBell)}
			}
		}
		d.pic.Ticks = append(d.pic.Ticks, t)
	}
}

// group returns the group with its number of cooks.
func (d *layout) group(id string) fit.Group {
	i := slices.IndexFunc(d.lesson.Groups, func(g fit.Group) bool { return g.ID == id })
	return d.lesson.Groups[i]
}

func (d *layout) step(dish, id string) fit.Step {
	for _, dd := range d.lesson.Dishes {
		for _, s := range dd.Steps {
			if dd.ID == dish && s.ID == id {
				return s
			}
		}
	}
	return fit.Step{}
}

// benches draws a row for each group: a lane for each cook, and below them
// what goes on without hands.
func (d *layout) benches() {
	for _, gp := range d.plan.Groups {
		g := d.group(gp.ID)
		lanes := lanesOf(gp, g.Cooks)
		waits := waitLanes(gp)
		h := float64(len(lanes))*cookH + float64(waits.count)*waitH
		d.row(g.Name, "", h)
		for _, s := range gp.Steps {
			d.work(g, s, lanes)
			d.wait(g, s, d.y+float64(len(lanes))*cookH+float64(waits.of[s.Dish+"/"+s.Step])*waitH)
		}
		d.y += h + rowGap
	}
}

// row names the row that begins here and is h high.
func (d *layout) row(label, small string, h float64) {
	middle := round(d.y + h/2 + 3.5)
	r := Row{Label: Text{left - 8, middle, label}, RuleY: round(d.y + h + rowGap/2)}
	if small != "" {
		r.Label.Y, r.Small = middle-4.5, Text{left - 8, middle + 5.5, small}
	}
	d.pic.Rows = append(d.pic.Rows, r)
}

// lanesOf shares the steps of a group out to its cooks: lane by lane, when
// each is free.
func lanesOf(gp fit.GroupPlan, cooks int) []map[string]bool {
	lanes := make([]map[string]bool, cooks)
	free := make([]float64, cooks)
	for i := range lanes {
		lanes[i] = map[string]bool{}
	}
	for _, s := range gp.Steps {
		taken := 0
		for i := range lanes {
			if taken < s.Cooks && free[i] <= s.Start+1e-9 {
				lanes[i][s.Dish+"/"+s.Step] = true
				free[i] = s.WorkEnd
				taken++
			}
		}
	}
	return lanes
}

type waiting struct {
	of    map[string]int
	count int
}

func waitLanes(gp fit.GroupPlan) waiting {
	w := waiting{of: map[string]int{}, count: 1}
	var free []float64
	for _, s := range gp.Steps {
		if s.End-s.WorkEnd < 1e-9 && !(s.Cooks == 0 && s.WorkEnd > s.Start) {
			continue
		}
		from := s.WorkEnd
		if s.Cooks == 0 {
			from = s.Start
		}
		lane := slices.IndexFunc(free, func(f float64) bool { return f <= from+1e-9 })
		if lane < 0 {
			lane = len(free)
			free = append(free, 0)
		}
		free[lane] = s.End
		w.of[s.Dish+"/"+s.Step] = lane
	}
	w.count = max(1, len(free))
	return w
}

func (d *layout) says(g fit.Group, step fit.Step, s fit.StepPlan) string {
	text := fmt.Sprintf("%s: %s, %s to %s", g.Name, step.Title, d.lesson.At(s.Start), d.lesson.At(s.End))
	for _, u := range s.Units {
		text += ", " + u.Unit
	}
	return text + ". Begin by " + d.lesson.At(s.LatestStart) + " at the latest."
}

func (d *layout) work(g fit.Group, s fit.StepPlan, lanes []map[string]bool) {
	if s.WorkEnd <= s.Start {
		return
	}
	step := d.step(s.Dish, s.Step)
	class := "hands"
	if step.Adult != fit.NoAdult {
		class = "adult"
	}
	// A shared step is one bar over the neighbouring lanes of its cooks.
	for i := 0; i < len(lanes); i++ {
		if !lanes[i][s.Dish+"/"+s.Step] {
			continue
		}
		n := 1
		for i+n < len(lanes) && lanes[i+n][s.Dish+"/"+s.Step] {
			n++
		}
		d.bar(s.Start, s.WorkEnd, d.y+float64(i)*cookH, float64(n)*cookH-1, class, step.Title, d.says(g, step, s))
		i += n
	}
}

func (d *layout) wait(g fit.Group, s fit.StepPlan, y float64) {
	step := d.step(s.Dish, s.Step)
	if s.Cooks == 0 && s.WorkEnd > s.Start { // an adult works
		d.bar(s.Start, s.WorkEnd, y, waitH-1, "adult", step.Title, d.says(g, step, s))
	}
	if s.End <= s.WorkEnd {
		return
	}
	d.bar(s.WorkEnd, s.End, y+1, waitH-2, "wait", "", d.says(g, step, s))
	if step.Kind == fit.Bake {
		in := s.LatestStart + s.WorkEnd - s.Start
		x := d.x(in)
		d.pic.Marks = append(d.pic.Marks, Mark{
			X: x, Y1: round(y - 3), Y2: round(y + waitH),
			Flag: flag(x, round(y)), Clock: d.lesson.At(in),
			Says: fmt.Sprintf("%s: tray in by %s", g.Name, d.lesson.At(in)),
		})
	}
}

func (d *layout) bar(from, to, y, h float64, class, label, says string) {
	b := Bar{X: d.x(from), Y: round(y), H: round(h), Class: class, Says: says}
	b.W = round(d.x(to) - b.X)
	if to > d.plan.Deadline+1e-9 {
		b.Class += " late"
	}
	if room := int((b.W - 4) / charWidth); label != "" {
		b.Label = fitting(label, room)
		b.LabelX, b.LabelY = round(b.X+3), round(y+h/2+3.2)
	}
	d.pic.Bars = append(d.pic.Bars, b)
}

// fitting returns as many whole words as there is room for, and does not end
// in a word that only leads on to the next.
func fitting(label string, letters int) string {
	leadsOn := []string{"a", "an", "and", "at", "for", "from", "in", "into", "of", "on", "the", "then", "to", "with"}
	words := strings.Fields(label)
	for n := len(words); n > 0; n-- {
		if n < len(words) && n > 1 && slices.Contains(leadsOn, words[n-1]) {
			continue
		}
		if s := strings.TrimRight(strings.Join(words[:n], " "), ","); len([]rune(s)) <= letters {
			return s
		}
	}
	return ""
}

// things draws what the room shares: ovens shelf by shelf, and everything
// else as a curve of how many are in use.
func (d *layout) things() {
	for _, e := range d.lesson.Equipment {
		if e.Temperature {
			d.ovens(e)
		}
	}
	for _, e := range d.lesson.Equipment {
		if !e.Temperature {
			d.inUse(e)
		}
	}
}

type tray struct {
	from, to float64
	places   int
	who      string
	celsius  string
}

func (d *layout) trays(e fit.Equipment) map[string][]tray {
	out := map[string][]tray{}
	for _, gp := range d.plan.Groups {
		for _, s := range gp.Steps {
			step := d.step(s.Dish, s.Step)
			for i, u := range step.Uses {
				if u.Equipment != e.ID {
					continue
				}
				t := tray{from: s.Start, to: s.End, places: u.Places, who: d.group(gp.ID).Name}
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
		slices.SortStableFunc(list, func(a, b tray) int { return cmp.Compare(a.from, b.from) })
	}
	return out
}

func (d *layout) ovens(e fit.Equipment) {
	trays := d.trays(e)
	if len(trays) == 0 {
		return
	}
	ready := e.OnAt.Add(e.Preheat).Float()
	for _, u := range e.Units {
		list := trays[u.Name]
		if len(list) == 0 {
			continue
		}
		h := float64(u.Places) * shelfH
		d.row(u.Name, list[0].celsius, h)
		d.pic.Bars = append(d.pic.Bars, Bar{
			X: d.x(e.OnAt.Float()), Y: d.y + h/2 - 1.5, W: round(d.x(ready) - d.x(e.OnAt.Float())), H: 3, Class: "heat",
			Says: fmt.Sprintf("%s heats up until %s", u.Name, d.lesson.At(ready)),
		})
		free := make([]float64, u.Places)
		for _, t := range list {
			shelf := slices.IndexFunc(free, func(f float64) bool { return f <= t.from+1e-9 })
			if shelf < 0 {
				shelf = 0
			}
			for i := shelf; i < min(shelf+t.places, u.Places); i++ {
				free[i] = t.to
			}
			d.bar(t.from, t.to, d.y+float64(shelf)*shelfH, float64(t.places)*shelfH-1, "tray", t.who,
				fmt.Sprintf("%s, %s: %s, %s to %s", u.Name, t.celsius, t.who, d.lesson.At(t.from), d.lesson.At(t.to)))
		}
		d.y += h + rowGap
	}
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
	for _, list := range d.trays(e) {
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
	name := strings.ToUpper(e.ID[:1]) + e.ID[1:] + "s"
	d.row(name, fmt.Sprintf("%d in all", total), useH)
	d.pic.Curves = append(d.pic.Curves, Curve{
		Path: path.String(), LabelX: round(d.x(changes[len(changes)-1].at) + 6), LabelY: round(base - 4),
		Says: fmt.Sprintf("%d in use at %s", most, d.lesson.At(when)),
	})
	d.y += useH + rowGap
}

// spread draws how often the simulated lessons end when, minute by minute.
func (d *layout) spread(bottom *float64) {
	f := d.plan.Risk.Finishes
	if len(f) == 0 {
		return
	}
	count := make([]int, int(d.last)+1)
	most := 0
	for _, m := range f {
		if i := int(m); i < len(count) { // later than the picture goes
			count[i]++
			most = max(most, count[i])
		}
	}
	if most == 0 {
		return
	}
	base := d.y + spreadH
	var path strings.Builder
	begun := false
	lastX := 0.0
	for m, n := range count {
		if n == 0 && !begun {
			continue
		}
		if !begun {
			begun = true
			fmt.Fprintf(&path, "M%g %g", d.x(float64(m)), base)
		}
		y := round(base - (spreadH-8)*float64(n)/float64(most))
		lastX = d.x(math.Min(float64(m+1), d.last))
		fmt.Fprintf(&path, "H%gV%gH%g", d.x(float64(m)), y, lastX)
	}
	fmt.Fprintf(&path, "V%gZ", base)
	d.row("All done by", fmt.Sprintf("%d tries", d.plan.Risk.Runs), spreadH)
	d.pic.Spread = &Curve{
		Path: path.String(),
		Says: fmt.Sprintf("When the last bench is done in %d simulated lessons; %.0f in 100 are on time.", d.plan.Risk.Runs, 100*d.plan.Risk.AllOnTime),
	}
	d.y = base
	*bottom = base + 4
}
