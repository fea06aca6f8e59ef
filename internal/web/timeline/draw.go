package timeline

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/clock"
	"freshapron/internal/core/fit"
)

// Sizes of the picture in its own units; the page scales it.
const (
	usualWidth = 960
	left       = 84  // where the door is
	right      = 20  // beyond the last minute, for half of the bell's words
	head       = 62  // checkpoints, phases' names and the clock
	shelfH     = 12  // a shelf of an oven, a blender, an adult
	useH       = 26  // the curve of things in use
	spreadH    = 34  // the curve of finishing times
	charWidth  = 5.1 // of the letters in a bar, on average
	tickEvery  = 5   // minutes, at least
	mostTicks  = 288 // a day of them; what lasts longer has them further apart
)

// A scale is how tall things are drawn.
type scale struct {
	cook, wait float64 // lanes
	gap        float64 // between rows
	char       float64 // width of a letter in a bar
}

var (
	usual = scale{cook: 12, wait: 8, gap: 6, char: charWidth}
	close = scale{cook: 34, wait: 20, gap: 10, char: 6.6}
)

// many is from how many rows on they are drawn flatter, so that all are seen
// at once, and few up to how many they are drawn wide where they stand for
// several benches.
const (
	many = 9
	few  = 5
)

var wide = scale{cook: 20, wait: 9, gap: 8, char: charWidth}

var flat = scale{cook: 10, wait: 6, gap: 3.5, char: charWidth}

type layout struct {
	lesson fit.Lesson
	plan   *fit.Plan
	look   Look
	scale  scale
	last   float64 // minute at the right edge
	y      float64
	pic    *Picture
	chain  map[Ref]bool
}

// Draw lays out the plan of a lesson.
func Draw(l fit.Lesson, p *fit.Plan, look Look) *Picture {
	bell := l.Minutes().Float()
	d := &layout{
		lesson: l, plan: p, look: look, scale: usual, y: head, chain: map[Ref]bool{},
		last: math.Max(bell, math.Ceil(p.Finish)), pic: &Picture{Width: cmp.Or(look.Width, usualWidth)},
	}
	for _, link := range p.Chain {
		d.chain[Ref{link.Group, link.Dish, link.Step}] = true
	}
	switch i := slices.IndexFunc(p.Groups, func(g fit.GroupPlan) bool { return g.ID == look.By }); {
	case i >= 0:
		d.scale, d.pic.Close = close, true
		d.closeUp(p.Groups[i])
	case look.By == ByThing:
		d.things()
	default:
		folds := d.folds()
		switch {
		case len(folds) >= many:
			d.scale = flat
		case len(folds) < len(p.Groups) && len(folds) <= few:
			d.scale = wide
		}
		for _, f := range folds {
			d.bench(f)
		}
	}
	bottom := d.y + 4
	d.spread(&bottom)
	d.pic.Foot = Text{left - 8, bottom + 12, "min to the bell"}
	d.bands(bottom)
	d.ticks(bottom)
	d.calls(bottom)
	d.pic.Bell = Line{X: d.x(bell), Y1: 4, Y2: bottom + 4, Label: Text{d.x(bell), bottom + 12, l.End.String()}}
	d.lastTray(bottom)
	d.pic.Height = bottom + 26
	d.pic.Left, d.pic.PerMinute, d.pic.Last = d.x(0), (d.pic.Width-left-right)/d.last, d.last
	return d.pic
}

func (d *layout) x(minute float64) float64 {
	return round(left + (d.pic.Width-left-right)*minute/d.last)
}

// lastTray marks on the axis the moment by which the first tray must be in.
func (d *layout) lastTray(bottom float64) {
	const y = 42 // above the clock, below the phases' names
	if len(d.pic.Marks) == 0 {
		return
	}
	first := slices.MinFunc(d.pic.Marks, func(a, b Mark) int { return cmp.Compare(a.X, b.X) })
	d.pic.LastTray = &Line{X: first.X, Y1: y - 10, Y2: bottom, Label: Text{first.X - 9, y - 3.5, "first tray in by " + first.Clock}, Flag: flag(first.X, y-7)}
}

func (d *layout) bands(bottom float64) {
	for _, s := range d.lesson.Spans() {
		if s.To <= s.From {
			continue
		}
		b := Band{X: d.x(s.From), Y: 14, H: bottom - 14, W: round(d.x(s.To) - d.x(s.From)), Name: s.Name, Href: d.href(Ref{Phase, s.Name, ""})}
		for i, line := range wrap(s.Name, int(b.W/charWidth)) {
			b.Lines = append(b.Lines, Text{round(b.X + b.W/2), 24 + 11*float64(i), line})
		}
		d.pic.Bands = append(d.pic.Bands, b)
	}
}

func (d *layout) ticks(bottom float64) {
	every := tickEvery * max(1, int(math.Ceil(d.last/tickEvery/mostTicks)))
	first := (every - int(d.lesson.Start)%every) % every
	for m := first; float64(m) <= d.last; m += every {
		at := d.lesson.Start + clock.Time(m)
		t := Tick{X: d.x(float64(m)), Y1: head - 3, Y2: bottom, Strong: int(at)%15 == 0}
		toBell := int(d.lesson.End - at)
		if toBell != 0 && (t.Strong || d.last <= 80) {
			t.Clock = Text{t.X, head - 6, at.String()}
			if toBell > 0 {
				t.ToBell = Text{t.X, bottom + 12, fmt.Sprint(toBell)}
			}
		}
		d.pic.Ticks = append(d.pic.Ticks, t)
	}
}

// calls marks the checkpoints by their numbers.
func (d *layout) calls(bottom float64) {
	for i, c := range fit.Checkpoints(d.lesson, d.plan) {
		x := d.x(c.At)
		d.pic.Calls = append(d.pic.Calls, Line{
			X: x, Y1: 13, Y2: bottom, Label: Text{x, 10, fmt.Sprint(i + 1)},
			Says: d.lesson.At(c.At) + ": " + c.Says(),
		})
	}
}

// row names the row that begins here and is h high.
func (d *layout) row(label, small string, h float64) *Row {
	middle := round(d.y + h/2 + 3.5)
	r := Row{Label: Text{left - 8, middle, label}, RuleY: round(d.y + h + d.scale.gap/2)}
	if small != "" {
		r.Label.Y, r.Small = middle-4.5, Text{left - 8, middle + 5.5, small}
	}
	d.pic.Rows = append(d.pic.Rows, r)
	return &d.pic.Rows[len(d.pic.Rows)-1]
}

func (d *layout) says(g fit.Group, step fit.Step, s fit.StepPlan) string {
	text := fmt.Sprintf("%s: %s, %s to %s", g.Label(), step.Title, d.lesson.At(s.Start), d.lesson.At(s.End))
	for _, u := range s.Units {
		text += ", " + u.Unit
	}
	if work, wait := d.guess(s); work || wait {
		text += ", a guess from typical minutes"
	}
	return text + ". Begin by " + d.lesson.At(s.LatestStart) + " at the latest."
}

// guess reports whether the minutes of work, and of waiting, of a step are only
// typical.
func (d *layout) guess(s fit.StepPlan) (work, wait bool) {
	if d.look.Typical == nil {
		return false, false
	}
	return d.look.Typical(s.Dish, s.Step)
}

// bar draws a stretch, with a label where there is room for one. The ref
// names the step that it belongs to; the zero Ref is none.
func (d *layout) bar(from, to, y, h float64, class, label, says string, of Ref) {
	b := Bar{X: d.x(from), Y: round(y), H: round(h), Class: class, Says: says, Row: len(d.pic.Rows) - 1}
	b.W = round(d.x(to) - b.X)
	if to > d.plan.Deadline+rounding {
		b.Class += " late"
	}
	if d.chain[of] {
		b.Class += " chain"
	}
	if of != (Ref{}) {
		if of == d.look.Chosen {
			b.Class += " chosen"
		}
		if d.look.Step != nil {
			b.Href = d.look.Step(of)
		}
	}
	const least = 9 // of a bar that has room for a label
	if h >= least {
		b.Label = d.label(label, b.X+3, y+h/2+3.2, b.W-4, int(h/lineH))
	}
	d.pic.Bars = append(d.pic.Bars, b)
}

// lineH is the height of a line of a label where there is more than one.
const lineH = 13

// label sets as much of a label as goes into so many lines of a width, round
// the middle line at y.
func (d *layout) label(text string, x, y, w float64, lines int) []Text {
	room := int(w / d.scale.char)
	var out []Text
	for rest := text; rest != "" && len(out) < max(1, lines); {
		part := fitting(rest, room)
		if len(out)+1 < lines {
			part = filling(rest, room)
		}
		if part == "" {
			break
		}
		out = append(out, Text{X: round(x), Text: part})
		rest = strings.TrimLeft(strings.TrimPrefix(rest, part), ", ")
	}
	for i := range out {
		out[i].Y = round(y + lineH*(float64(i)-float64(len(out)-1)/2))
	}
	return out
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
		Says: fmt.Sprintf("When the last bench is done in %d simulated lessons; in %.0f of 100 every bench is in time.", d.plan.Risk.Runs, 100*d.plan.Risk.AllOnTime),
	}
	d.y = base
	*bottom = base + 4
}
