package prepare

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/rescue"
	"freshapron/internal/core/words"
)

// A Lesson is what jobs are worked out from.
type Lesson struct {
	ID         int64
	Says       string // "8 Hazel"
	Start, End Moment
	Core       lesson.Lesson
	Takes      []lesson.Take
	Ovens      []lesson.OvenUse
}

// Typical minutes; each school edits its own. They are those of somebody who
// knows the store and the room.
const (
	softenWait  = 60 // butter out of the fridge until it gives
	eggsWait    = 30 // eggs from the fridge to room temperature
	soakWait    = 8 * 60
	chillWait   = 2 * 60
	thawPer2kg  = 24 * 60 // in the fridge
	leastThaw   = 4 * 60
	fetchOnce   = 3
	fetchLine   = 0.5
	trayBench   = 2
	thingsBench = 1
	cutBench    = 3
	layBefore   = 3 * 60 // trays stand at most so long
	packBench   = 1
	towels      = 5
	small       = 2 // to take something out, to switch something on
)

// phrases are the words of recipes that ask for something before the lesson.
var (
	softens = pattern.Must(`(?i)\bsoft(?:ened)?\b|\bout of the fridge\b|\bleave the (?:butter|margarine|spread) out\b`)
	tempers = pattern.Must(`(?i)\broom temperature\b`)
	soaks   = pattern.Must(`(?i)\bsoak(?:ed)?\b`)
	nights  = pattern.Must(`(?i)\bover ?night\b`)
	thaws   = pattern.Must(`(?i)\bthawed\b|\bdefrost(?:ed)?\b`)
	chills  = pattern.Must(`(?i)\b(?:well |ice.?)?chilled\b|\bice.?cold\b`)
)

// Jobs returns what a lesson asks for before it begins and after it has ended:
// by its ingredients and the pantry, by its plan, and by the rescues that were
// chosen.
func Jobs(l Lesson) []Job {
	g := &gatherer{Lesson: l}
	g.ingredients()
	g.chosen()
	g.laying()
	g.after()
	return g.jobs
}

type gatherer struct {
	Lesson
	jobs []Job
}

// add adds a job of which the hands and then the wait are over at a moment.
func (g *gatherer) add(k Kind, about, says, why string, hands float64, wait int, from, due Moment) *Job {
	id := fmt.Sprintf("%d %s", g.ID, k)
	if about != "" {
		id += " " + about
	}
	g.jobs = append(g.jobs, Job{ID: id, Kind: k, Lesson: g.Lesson.ID, Says: says, Why: why, Hands: max(1, int(math.Ceil(hands))), Wait: wait, From: from, Due: due, Guess: true})
	return &g.jobs[len(g.jobs)-1]
}

// midnight is the beginning of the day of the lesson.
func (g *gatherer) midnight() Moment { return g.Start - g.Start%DayMinutes }

// total adds up what the whole lesson takes of an ingredient, in grams; 0 where
// that is not known.
func (g *gatherer) total(stock pantry.Ingredient) float64 {
	sum := exact.Number{}
	for _, t := range g.Takes {
		if t.Line.Pantry == stock.ID {
			grams, ok := stock.BoughtGrams(t.Amount)
			if !ok {
				return 0
			}
			sum = sum.Add(grams)
		}
	}
	return sum.Float()
}

func (g *gatherer) ingredients() {
	seen := map[string]bool{}
	for _, t := range g.Takes {
		stock, known := g.Core.Pantry.Find(t.Line.Pantry)
		name := t.Line.Name
		if known {
			name = stock.Name
		}
		if seen[name+t.Line.Note] {
			continue
		}
		seen[name+t.Line.Note] = true
		g.ingredient(stock, name, t.Line, g.stepsAbout(t.Course, t.Line))
	}
}

// stepsAbout are the sentences of a dish's method that name an ingredient and a
// thing to do before.
func (g *gatherer) stepsAbout(course int, in recipe.Ingredient) string {
	var out []string
	for _, s := range g.Core.Menu[course].Recipe.Steps {
		for _, sentence := range words.Sentences(s.Text) {
			if strings.Contains(strings.ToLower(sentence), strings.ToLower(in.Name)) && (nights.MatchString(sentence) || softens.MatchString(sentence) && strings.Contains(sentence, " out")) {
				out = append(out, sentence)
			}
		}
	}
	return strings.Join(out, " ")
}

func (g *gatherer) ingredient(stock pantry.Ingredient, name string, in recipe.Ingredient, steps string) {
	says := in.Note + " " + steps
	quote := strings.TrimSpace(in.Note)
	if quote == "" {
		quote = strings.TrimSpace(steps)
	}
	quote = "“" + quote + "”"
	switch {
	case soaks.MatchString(says):
		wait, why := soakWait, quote+": 8 h, typical of overnight"
		if m := recipe.MinutesIn(says); len(m) > 0 && !nights.MatchString(says) {
			wait, why = int(m[0].Ceil()), quote
		}
		g.add(Soak, name, "Soak the "+name, why, small, wait, g.Start-Moment(wait)-DayMinutes/2, g.Start)
	case stock.Place == "freezer" && (thaws.MatchString(says) || stock.Has(pantry.Raw)):
		wait, why := leastThaw, "kept in the freezer; 24 h in the fridge for each 2 kg"
		if grams := g.total(stock); grams > 0 {
			wait = max(leastThaw, int(math.Ceil(grams/2000*thawPer2kg)))
		} else {
			why += "; how much it is nobody knows, so at least 4 h"
		}
		g.add(Thaw, name, "Take the "+name+" out of the freezer, into the fridge", why, small, wait, g.Start-Moment(wait)-DayMinutes, g.Start)
	case softens.MatchString(says) && stock.Place == "fridge":
		g.add(Soften, name, "Leave the "+name+" out to soften", fmt.Sprintf("%s: %d min, typical", quote, softenWait), small, softenWait, g.Start-2*softenWait-60, g.Start)
	case tempers.MatchString(says):
		wait := softenWait
		if strings.HasPrefix(stock.ID, "egg") {
			wait = eggsWait
		}
		g.add(Temper, name, "Let the "+name+" come to room temperature", fmt.Sprintf("%s: %d min, typical", quote, wait), small, wait, g.Start-Moment(2*wait)-60, g.Start)
	case chills.MatchString(says) && stock.Place != "fridge" && stock.Place != "freezer":
		g.add(Chill, name, "Put the "+name+" in the fridge", fmt.Sprintf("%s: %d min, typical", quote, chillWait), small, chillWait, g.midnight()-DayMinutes, g.Start)
	}
}

// chosen are the jobs that rescues ask for.
func (g *gatherer) chosen() {
	for _, b := range g.Core.Before() {
		switch b.Change.Kind {
		case rescue.Preweigh:
			j := g.add(Weigh, "", "Weigh out for "+g.benches(), "chosen in the plan; the time is what the plan counts for it", b.Minutes, 0, g.Start-DayMinutes, g.Start)
			j.Saves = "Weigh the ingredients before the lesson"
		case rescue.Prepared:
			from := g.Start - DayMinutes
			why := "chosen in the plan; the time is what the plan counts for it"
			if b.Keeps > 0 {
				from = g.Start - Moment(b.Keeps)
				why += fmt.Sprintf("; kept in the %s for %s at most", b.Where, rescue.Hours(exact.Int(int64(b.Keeps))))
			}
			j := g.add(Part, b.Change.Dish+" "+b.Change.Step, "Make "+b.What+" for "+g.benches(), why, b.Minutes, 0, from, g.Start)
			j.Saves = "Let the technician make " + b.What
		case rescue.ReadyMade:
			j := g.add(Buy, b.Change.Dish+" "+b.Change.Step, "Have "+strings.TrimPrefix(b.What, "the ")+" ready-made, for "+g.benches(), "chosen in the plan; check its allergens", small, 0, g.midnight()-3*DayMinutes, g.Start)
			j.Saves = "Use ready-made " + strings.TrimPrefix(b.What, "the ")
		}
	}
	cut := 0
	for _, w := range g.Core.OtherWays {
		if strings.Contains(w.Way, "cut") && !slices.Contains(g.Core.Absent, w.Learner) {
			cut++
		}
	}
	if cut > 0 {
		g.add(Cut, "", fmt.Sprintf("Cut ready pieces for %s", words.Plural(cut, "learner", "learners")), "another way that was chosen for them", float64(cut*cutBench), 0, g.Start-layBefore, g.Start)
	}
}

func (g *gatherer) benches() string {
	return words.Plural(len(g.Core.Benches()), "bench", "benches")
}

// laying are the jobs that every lesson asks for.
func (g *gatherer) laying() {
	benches := float64(len(g.Core.Benches()))
	lines := map[string]bool{}
	for _, t := range g.Takes {
		lines[t.Line.Name] = true
	}
	trays := g.add(Trays, "", "Lay out the trays of "+g.benches(), fmt.Sprintf("%d min for each bench, typical; they stand for 3 h at most", trayBench), benches*trayBench, 0, g.Start-layBefore, g.Start)
	g.add(Fetch, "", fmt.Sprintf("Fetch %s from the store", words.Plural(len(lines), "ingredient", "ingredients")), "before the trays; half a minute for each, typical",
		fetchOnce+fetchLine*float64(len(lines)), 0, g.midnight(), g.Start-Moment(trays.Hands))
	g.add(Things, "", "Lay out the equipment", fmt.Sprintf("%d min for each bench, typical", thingsBench), benches*thingsBench, 0, g.midnight(), g.Start)
	hot := slices.ContainsFunc(g.Core.Changes, func(c rescue.Change) bool { return c.Kind == rescue.HotBefore })
	for _, o := range g.Ovens {
		if hot {
			at := lesson.NewOven().Preheat
			j := g.add(Ovens, o.Celsius.String(), fmt.Sprintf("Switch on %s at %s °C", words.Numbered(o.Units), o.Celsius.Decimal(0)), "hot when the class comes in: chosen in the plan",
				small, int(at.Ceil()), g.Start-60, g.Start)
			j.Saves = "Have the ovens hot before"
		}
	}
	for _, c := range g.Core.Menu {
		if raw := c.Recipe.Raw(g.Core.Pantry); len(raw) > 0 {
			g.add(Probes, "", "Check and hand out the probes", "raw "+words.Names(raw)+" is cooked through by the probe", small, 0, g.midnight(), g.Start)
			break
		}
	}
}

// after are the jobs that can wait, over a weekend too, until somebody is there.
func (g *gatherer) after() {
	benches := float64(len(g.Core.Benches()))
	g.add(Back, "", "Count back, and put away", fmt.Sprintf("%d min for each bench, typical", packBench), benches*packBench, 0, g.End, g.End+3*DayMinutes)
	g.add(Towels, "", "Put the tea towels in the wash", "typical", towels, 0, g.End, g.End+3*DayMinutes)
}

// An Edit is what somebody has decided about a job, by its id.
type Edit struct {
	Hands, Wait int // minutes; -1 as it is
	Skip        bool
}

// Edited returns the jobs with what was decided about them. A window follows the
// wait.
func Edited(jobs []Job, edits map[string]Edit) []Job {
	var out []Job
	for _, j := range jobs {
		e, ok := edits[j.ID]
		switch {
		case !ok:
		case e.Skip:
			continue
		default:
			if e.Hands > 0 {
				j.Hands = e.Hands
			}
			if e.Wait >= 0 {
				j.From -= Moment(max(0, e.Wait-j.Wait))
				j.Wait = e.Wait
			}
			j.Guess, j.Why = false, "your own minutes"
		}
		out = append(out, j)
	}
	return out
}
