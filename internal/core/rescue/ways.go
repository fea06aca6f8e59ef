package rescue

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/words"
)

// A Way is a change, or a pair of changes, that can be tried, with what it
// costs in learning, money and preparation.
type Way struct {
	Changes []Change
	Title   string
	Costs   []string
}

// With joins two ways.
func (w Way) With(o Way) Way {
	return Way{
		Changes: append(slices.Clone(w.Changes), o.Changes...),
		Title:   w.Title + ", and " + words.Small(o.Title),
		Costs:   append(slices.Clone(w.Costs), o.Costs...),
	}
}

// Ways lists what the lesson allows. Those that a plan shows to gain nothing
// are still among them: see [Try].
func Ways(l fit.Lesson, p *fit.Plan) []Way {
	if l.Now != nil { // they change what has happened already
		return nil
	}
	w := &ways{lesson: l, plan: p}
	w.preweigh()
	w.parts()
	w.demonstration()
	w.hands()
	w.halves()
	w.share()
	w.pieces()
	w.room()
	w.adults()
	w.stagger()
	w.finishAfter()
	w.twoLessons()
	w.leaveOut()
	return w.list
}

type ways struct {
	lesson fit.Lesson
	plan   *fit.Plan
	list   []Way
}

func (w *ways) add(title string, costs []string, changes ...Change) {
	w.list = append(w.list, Way{changes, title, costs})
}

// A part is what ends with a step after which a dish keeps.
type part struct {
	name, what string   // "pastry", "the pastry"; the name may be empty
	titles     []string // of its steps with work
	minutes    float64  // that making it for all groups takes
}

func (w *ways) part(d fit.Dish, last fit.Step) part {
	var p part
	in := PartOf(d, last.ID)
	var all []string
	minutes := 0.0
	for _, o := range d.Steps {
		if in(o.ID) {
			all = append(all, o.Label())
			minutes += o.Work.Float() + o.Load.Float()*float64(o.Loads())
			if o.Work.Sign() > 0 {
				p.titles = append(p.titles, "“"+o.Label()+"”")
			}
		}
	}
	p.minutes = math.Ceil(minutes * inBulk * float64(w.makers(d)))
	p.name = partName(d, all)
	if p.what = "everything up to “" + last.Label() + "”"; p.name != "" {
		p.what = "the " + p.name
	}
	return p
}

// makers counts the groups that make a dish, in whatever way.
func (w *ways) makers(d fit.Dish) int {
	n := 0
	for _, g := range w.lesson.Groups {
		if g.Dishes == nil || slices.ContainsFunc(w.lesson.Dishes, func(o fit.Dish) bool {
			return (o.ID == d.ID || d.Of != "" && o.Of == d.Of) && slices.Contains(g.Dishes, o.ID)
		}) {
			n++
		}
	}
	return n
}

// dishes returns one of each dish: those that groups make otherwise are not
// told from it.
func (w *ways) dishes() []fit.Dish {
	var out []fit.Dish
	for _, d := range w.lesson.Dishes {
		if d.Of == "" || !slices.ContainsFunc(out, func(o fit.Dish) bool { return o.Of == d.Of }) {
			out = append(out, d)
		}
	}
	return out
}

// inBulk is how much of a bench's weighing a technician needs for it who
// weighs for all benches; typical.
const inBulk = 0.5

// A Before is what a change asks somebody to do before the lesson.
type Before struct {
	Change  Change
	What    string  // "the pastry"; empty where it is everything that is weighed
	Minutes float64 // of hands, for all groups
	Keeps   float64 // minutes that it keeps at most; 0 where nobody says
	Where   string  // it is kept
}

// Befores returns what the changes ask somebody to do before a lesson, which is
// as it was without them.
func Befores(l fit.Lesson, changes []Change) []Before {
	w := &ways{lesson: l}
	var out []Before
	for _, c := range changes {
		switch c.Kind {
		case Preweigh:
			out = append(out, Before{Change: c, Minutes: w.weighing()})
		case Prepared, ReadyMade:
			for _, d := range w.dishes() {
				for _, s := range d.Steps {
					if d.ID == c.Dish && s.ID == c.Step && s.Hold != nil {
						p := w.part(d, s)
						out = append(out, Before{c, p.what, p.minutes, s.Hold.MaxMinutes.Float(), string(s.Hold.Where)})
					}
				}
			}
		}
	}
	return out
}

// weighing is how long it takes to weigh for all groups, in minutes.
func (w *ways) weighing() float64 {
	sum := 0.0
	for _, d := range w.dishes() {
		for _, s := range d.Steps {
			if weighs(s) {
				sum += s.Work.Float() * float64(w.makers(d))
			}
		}
	}
	return math.Ceil(sum * inBulk)
}

func (w *ways) preweigh() {
	sum := w.weighing()
	if sum == 0 {
		return
	}
	w.add("Weigh the ingredients before the lesson",
		[]string{"no practice at weighing", fmt.Sprintf("about %.0f min of technician time", sum)},
		Change{Kind: Preweigh})
}

// bought names parts that shops sell ready to use.
var bought = []string{"pastry", "dough", "custard", "sauce", "jelly", "flatbread", "mash", "sponge"}

// parts offers what can be made before, up to a step after which the dish
// keeps, and what can be bought.
func (w *ways) parts() {
	for _, d := range w.dishes() {
		for _, s := range d.Steps {
			p := w.part(d, s)
			practice := "no practice at " + strings.Join(p.titles, ", ")
			switch {
			case len(p.titles) == 0, earlierIsAll(d, s.ID):
				continue
			case s.Hold == nil:
				if w.sold(d, s) { // what shops keep need not be kept here
					w.add("Use ready-made "+p.name, []string{practice, "ready-made " + p.name + " to buy: check its allergens"},
						Change{Kind: ReadyMade, Dish: d.ID, Step: s.ID})
				}
				continue
			}
			w.add("Let the technician make "+p.what,
				[]string{practice, fmt.Sprintf("about %.0f min of technician time", p.minutes),
					fmt.Sprintf("kept in the %s for %s at most", s.Hold.Where, Hours(s.Hold.MaxMinutes))},
				Change{Kind: Prepared, Dish: d.ID, Step: s.ID})
			if slices.Contains(bought, p.name) {
				w.add("Use ready-made "+p.name, []string{practice, "ready-made " + p.name + " to buy: check its allergens"},
					Change{Kind: ReadyMade, Dish: d.ID, Step: s.ID})
			}
		}
	}
}

// sold reports whether a step ends the making of something that shops sell: its title
// names it, it is no use of it, and no later step of that kind does.
func (w *ways) sold(d fit.Dish, last fit.Step) bool {
	name := partName(d, []string{last.Label()})
	makes := func(s fit.Step) bool {
		title := strings.ToLower(s.Label())
		return strings.Contains(title, name) && !usesPart.MatchString(title) &&
			(s.Kind == fit.Mix || s.Kind == fit.Rest || s.Kind == fit.Chill || s.Kind == fit.Cook || s.Kind == fit.Prepare)
	}
	if !slices.Contains(bought, name) || name == "dough" || !makes(last) { // of doughs only what rises is sold, and that keeps
		return false
	}
	before := Earlier(d, last.ID)
	return !slices.ContainsFunc(d.Steps, func(s fit.Step) bool {
		return partName(d, []string{s.Label()}) == name && (s.Hold != nil || !before(s.ID) && makes(s))
	})
}

// usesPart are words of what is done with a part that is made.
var usesPart = pattern.Must(`\b(?:roll|line|top|cover|cut|spread|fill|pour|add|stir in(?:to)?|fold in(?:to)?|with the|into the|over|serve|layer|assemble|bake)`)

// partName returns what the steps make: the part of the ingredients, or the
// ready-made thing, that their titles name.
func partName(d fit.Dish, titles []string) string {
	text := strings.ToLower(strings.Join(titles, " "))
	for _, i := range d.Ingredients {
		if part := strings.ToLower(i.PartOf); part != "" && strings.Contains(text, part) {
			return part
		}
	}
	for _, name := range bought {
		if strings.Contains(text, name) {
			return name
		}
	}
	return ""
}

func (w *ways) demonstration() {
	l := w.lesson
	i := slices.IndexFunc(l.Phases, isDemo)
	if i < 0 {
		return
	}
	w.add("Show the demonstration before", []string{fmt.Sprintf("%s min of another lesson, or a film to watch at home", l.Phases[i].Minutes.Decimal(1)),
		"what was shown is longer ago"}, Change{Kind: DemoBefore})
	if l.Phases[i].Minutes.Cmp(exact.Int(4)) < 0 {
		return
	}
	opening, deadline := 0.0, l.Minutes().Float()
	for _, s := range l.Spans() {
		switch s.Place {
		case fit.AtStart:
			opening = max(opening, s.To)
		case fit.AtEnd:
			deadline = min(deadline, s.From)
		}
	}
	for _, share := range []float64{0.2, 0.35, 0.5} {
		at := math.Round(opening + share*(deadline-opening))
		c := Change{Kind: DemoInPieces, At: exact.Int(int64(at))}
		if changed, err := Apply(l, c); err != nil || changed.Check() != nil {
			continue
		}
		w.add(fmt.Sprintf("Show the demonstration in two pieces, the second at %s", l.At(at)),
			[]string{"everybody stops once more"}, c)
	}
}

func (w *ways) hands() {
	l := w.lesson
	cooks := 0
	for _, g := range l.Groups {
		cooks = max(cooks, g.Cooks)
	}
	c := Change{Kind: Hands, Number: cooks + 1}
	changed, err := Apply(l, c)
	if err != nil || len(changed.Groups) == len(l.Groups) || cooks >= 5 {
		return
	}
	for _, g := range l.Groups {
		if !slices.Equal(g.Dishes, l.Groups[0].Dishes) {
			return // what each group makes is not for the tool to mix
		}
	}
	w.add(fmt.Sprintf("Work in groups of %d, with a part for each", cooks+1),
		[]string{fmt.Sprintf("%d sets in place of %d: less for each to take home", len(changed.Groups), len(l.Groups)),
			"nobody does every step"}, c)
}

// halves offers that each bench makes one of two dishes, and all taste both.
func (w *ways) halves() {
	first, second, ok := both(w.lesson)
	if !ok {
		return
	}
	title := func(id string) string {
		i := slices.IndexFunc(w.lesson.Dishes, func(d fit.Dish) bool { return w.lesson.Of(d.ID) == id })
		return words.Small(w.lesson.Dishes[i].Label())
	}
	w.add(fmt.Sprintf("Half of the benches make %s, the other half %s", title(first), title(second)),
		[]string{"each learner makes one of the two", "both are shared at the tasting: look at the needs of all for both"},
		Change{Kind: Halves})
}

// worthSharing is the cutting, in minutes, from which sharing it is worth a
// word.
const worthSharing = 4

func (w *ways) share() {
	for _, d := range w.dishes() {
		if !slices.ContainsFunc(w.lesson.Groups, func(g fit.Group) bool { return g.Cooks > 1 && (g.Dishes == nil || slices.Contains(g.Dishes, d.ID)) }) {
			continue
		}
		for _, s := range d.Steps {
			if Shares(s) && s.Work.Cmp(exact.Int(worthSharing)) >= 0 {
				w.add("Share “"+s.Label()+"” between the cooks of a bench", []string{"each cuts less: less practice with the knife", "a board and a knife for each"},
					Change{Kind: Share, Dish: d.ID, Step: s.ID})
			}
		}
	}
}

// longEnough is the wait from which thinner pieces are worth a word.
const longEnough = 8

func (w *ways) pieces() {
	for _, d := range w.dishes() {
		for _, s := range d.Steps {
			if s.Kind == fit.Bake && s.Wait.Cmp(exact.Int(longEnough)) >= 0 {
				w.add(fmt.Sprintf("Make %s thinner by a fifth: about %s min in the oven in place of %s",
					words.Small(d.Label()), longer(s.Wait, whenThinner()).Decimal(1), s.Wait.Decimal(1)),
					[]string{"smaller pieces, or a wider tin", "an estimate: look sooner, and probe where it matters"},
					Change{Kind: Smaller, Dish: d.ID, Step: s.ID})
			}
			if s.Loads() > 1 {
				w.add(fmt.Sprintf("Make %d in place of %d: one load less of “%s”", (s.Loads()-1)*s.PerLoad, s.Pieces, s.Label()),
					[]string{"fewer for each to take home"}, Change{Kind: FewerLoads, Dish: d.ID, Step: s.ID})
			}
		}
	}
}

// room offers hot ovens, one more of what is waited for, and one temperature.
func (w *ways) room() {
	for _, e := range w.lesson.Equipment {
		if e.Temperature && e.OnAt.Add(e.Preheat).Sign() > 0 {
			early := e.Preheat.Sub(e.OnAt).Float()
			w.add("Heat the "+e.ID+"s before the lesson",
				[]string{fmt.Sprintf("somebody switches them on by %s", w.lesson.At(-max(0, early)))},
				Change{Kind: HotBefore, Equipment: e.ID})
		}
		if temps := temperatures(w.lesson, e.ID); len(temps) > 1 {
			w.add(fmt.Sprintf("Bake everything at %s °C", middle(temps).Decimal(0)),
				[]string{"an estimate of the minutes: look sooner", "crust and colour differ from the recipe"},
				Change{Kind: OneTemperature, Equipment: e.ID})
		}
		if !e.PerStation && w.waitedFor(e.ID) {
			w.add("Use one more "+e.ID, []string{"one must be found, and somebody stands by it"}, Change{Kind: OneMore, Equipment: e.ID})
		}
	}
}

// adults offers one more where somebody waits for one.
func (w *ways) adults() {
	if w.waitedFor("adults") {
		w.add("Ask one more adult in", []string{"another qualified adult is free for the lesson"}, Change{Kind: OneAdult})
	}
}

// waitedFor reports whether a group waits for the equipment or for "adults",
// or late lessons are late because of them.
func (w *ways) waitedFor(id string) bool {
	for _, g := range w.plan.Groups {
		for _, s := range g.Steps {
			if s.Held.For == id {
				return true
			}
		}
	}
	return slices.ContainsFunc(w.plan.Risk.Causes, func(c fit.Cause) bool { return (c.Kind == "equipment" || c.Kind == "adults") && c.ID == id })
}

func (w *ways) stagger() {
	longest := 0.0
	for _, g := range w.plan.Groups {
		for _, s := range g.Steps {
			if s.Held.InQueue() {
				longest = max(longest, s.Held.Minutes)
			}
		}
	}
	if by := int64(math.Ceil(longest / 2)); by >= 1 && len(w.lesson.Groups) > 1 {
		w.add(fmt.Sprintf("Let every second bench begin %d min later", by),
			[]string{"half of the class needs something else to do at first"}, Change{Kind: Stagger, Minutes: exact.Int(by)})
	}
}

// mostTurns is how many times after another an adult fills the ovens after the bell.
const mostTurns = 3

// finishAfter offers to leave the trays in the oven at the bell: in turns where there
// are more than it has places, unless what is filled must not wait.
func (w *ways) finishAfter() {
	for _, d := range w.dishes() {
		at := -1
		for i, s := range d.Steps {
			if s.Kind == fit.Bake && s.Wait.Sign() > 0 {
				at = i
			}
		}
		if at < 0 {
			continue
		}
		s, places := d.Steps[at], 0
		for _, u := range s.Uses {
			for _, e := range w.lesson.Equipment {
				if e.ID == u.Equipment && !e.PerStation {
					for _, unit := range e.Units {
						places += unit.Places / u.Places
					}
				}
			}
		}
		trays := w.makers(d)
		if places == 0 || trays == 0 {
			continue
		}
		turns := (trays + places - 1) / places
		title, costs := "Let an adult take the trays out after the bell", []string{
			fmt.Sprintf("an adult stays up to %s min for %d trays", s.Wait.Mul(exact.Int(int64(turns))).Decimal(0), trays),
			"the class does not see, taste or probe what it made"}
		if turns > 1 {
			waits := slices.ContainsFunc(s.After, func(a fit.After) bool { return a.MaxGap != nil })
			if waits || turns > mostTurns {
				continue
			}
			title = fmt.Sprintf("Let an adult bake the trays after the bell, in %d turns of %d", turns, places)
			costs = append(costs, "what waits for its turn stands in the fridge, named, and goes in cold: look longer")
		}
		w.add(title, costs, Change{Kind: FinishAfter, Dish: d.ID, Step: s.ID})
	}
}

func (w *ways) twoLessons() {
	for _, d := range w.dishes() {
		for _, s := range d.Steps {
			if s.Hold == nil || earlierIsAll(d, s.ID) {
				continue
			}
			w.add("Over two lessons: stop after “"+s.Label()+"”",
				[]string{fmt.Sprintf("it keeps in the %s for %s: the second lesson comes within that", s.Hold.Where, Hours(s.Hold.MaxMinutes)),
					fmt.Sprintf("%d labelled boxes, and room for them", w.makers(d)), "a second lesson"},
				Change{Kind: TwoLessons, Dish: d.ID, Step: s.ID, Number: 1})
		}
	}
}

func earlierIsAll(d fit.Dish, step string) bool {
	in := Earlier(d, step)
	return !slices.ContainsFunc(d.Steps, func(s fit.Step) bool { return !in(s.ID) })
}

// extras are words by which a recipe says that a step is not needed.
var extras = []string{"optional", "if there is time", "garnish", "decorate"}

func (w *ways) leaveOut() {
	for _, d := range w.dishes() {
		for _, s := range d.Steps {
			if text := strings.ToLower(s.Title); len(d.Steps) > 1 && slices.ContainsFunc(extras, func(e string) bool { return strings.Contains(text, e) }) {
				w.add("Leave out “"+s.Label()+"”", []string{"no practice at it"}, Change{Kind: LeaveOut, Dish: d.ID, Step: s.ID})
			}
		}
	}
}

// Hours prints how long something keeps: in minutes where they are few.
func Hours(m exact.Number) string {
	if m.Less(exact.Int(120)) {
		return m.Decimal(0) + " min"
	}
	return m.Div(exact.Int(60)).Decimal(1) + " h"
}
