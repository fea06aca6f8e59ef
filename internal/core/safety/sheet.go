package safety

import (
	"fmt"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
)

// A Line of the sheet: what can hurt, whom, what is done about it, who the
// adult is, and what is left.
type Line struct {
	Key     string // stays the same while the line is about the same
	Hazard  string
	Who     string
	Done    string
	Adult   string
	Left    string
	Because string // the steps, ingredients or needs that it comes from
}

// On is what a sheet is composed of.
type On struct {
	Recipes  []recipe.Recipe // of the menu, as most benches make them
	Pantry   *pantry.Pantry
	Book     Book
	Class    string
	Learners int
	Age      int
	Room     string
	Benches  int
	Sharps   int  // that are counted out
	OneBoard bool // vegetables and raw meat share boards or knives
	// Needs counts what learners have and the dish touches, without names:
	// "nuts, by contact too" for 1.
	Needs   []Touched
	Helps   []string // access needs of learners, in words
	Waits   []string // of the plan: raw things that wait, hot things that stand
	TooLong bool     // one of them is longer than the table allows
	Hold    string   // how the dish is kept for another lesson; empty where it is not
	Outages []string // what does not work today
}

// A Touched is a need of some learners that the dish touches.
type Touched struct {
	What     string
	In       string // the dishes that it touches
	Learners int
	Apart    bool
	Unsafe   bool // for somebody nothing has been chosen that makes it safe
}

var dangers = map[recipe.Danger]struct{ hazard, done, left string }{
	recipe.Knife:   {"Cuts from knives", "Bridge and claw shown before; boards on a damp cloth; blades carried point down, counted out and in", "small cuts; first aid at hand, blue plasters"},
	recipe.Grater:  {"Scraped fingers and knuckles", "Top to bottom, stop before the finger ends; peel away from the hand or down onto the board", "scrapes"},
	recipe.Blade:   {"Blades that turn", "Plug out before fingers go near; a stick blender stays under the surface", "low while the plug rule is kept"},
	recipe.Hob:     {"Burns from rings and pans", "Handles turned to the side; sleeves up, hair tied; knobs off and called out at the end", "touch burns; cold water at once for 20 minutes"},
	recipe.HotFat:  {"Burns from hot fat", "Dry food, little fat, laid in away from the body; never left alone; a lid and a fire blanket in reach, no water", "splashes"},
	recipe.Boiling: {"Scalds from boiling water and steam", "Lids opened away from the face; pans drained at the sink with the way to it clear", "steam"},
	recipe.HotOven: {"Burns from ovens and trays", "Dry gloves for both hands; a clear way to the heat mat; one tray at a time, called out", "touch burns; cold water at once for 20 minutes"},
	recipe.RawMeat: {"Bacteria from raw meat and fish", "A board and knife of their own, or vegetables first; hands, board and knife in hot soapy water after; cold until used", "nothing that is not cooked through"},
}

// Compose writes a sheet from what a lesson is made of.
func Compose(on On) []Line {
	who := on.Class
	if on.Age > 0 {
		who = fmt.Sprintf("%s, about %d years", on.Class, on.Age)
	}
	out := []Line{{
		Key: "hygiene", Hazard: "Dirt on hands, hair and clothes", Who: who,
		Done: "Hands for 20 s with soap, hair tied, sleeves up, aprons; cuts covered with blue plasters", Adult: "the teacher looks at the door", Left: "low",
		Because: people(on.Learners) + " in " + on.Room,
	}}
	for _, d := range recipe.Dangers {
		if l, ok := on.danger(d, who); ok {
			out = append(out, l)
		}
	}
	out = append(out, on.temperature(who)...)
	for _, n := range on.Needs {
		l := Line{
			Key: "need:" + n.What, Hazard: "Reaction to food: " + n.What, Who: people(n.Learners),
			Done: "The swaps of the grid at their bench, packets read again on the day", Adult: "the teacher knows who, and where the medicine is", Left: "what is in packets and not on them",
			Because: n.In,
		}
		if n.Apart {
			l.Done += "; a bench, tools and cloths of their own, set up first and washed up first"
		}
		if n.Unsafe {
			l.Left = "NOT SAFE as it stands: choose swaps, or another dish for them"
		}
		out = append(out, l)
	}
	if len(on.Helps) > 0 {
		out = append(out, Line{Key: "access", Hazard: "Steps that are too much for somebody", Who: people(len(on.Helps)), Done: "Other ways chosen step by step, printed on their bench’s sheet", Adult: "as chosen", Left: "tiredness: a seat is near", Because: strings.Join(unique(on.Helps), ", ")})
	}
	if on.Sharps > 0 {
		out = append(out, Line{Key: "sharps", Hazard: "A blade that is missing", Who: "all", Done: fmt.Sprintf("%d sharp things counted out and in; nobody leaves before the count is right", on.Sharps), Adult: "the teacher counts", Left: "low", Because: on.Room})
	}
	out = append(out, Line{Key: "floor", Hazard: "Slips and collisions", Who: "all", Done: "Bags out of the way; spills wiped at once and called; hot trays have the right of way", Adult: "the teacher walks round", Left: "low", Because: words.Plural(on.Benches, "bench", "benches")})
	if len(on.Outages) > 0 {
		out = append(out, Line{Key: "outages", Hazard: "Something that does not work", Who: "all", Done: "Marked and not used: " + strings.Join(on.Outages, "; "), Adult: "the technician", Left: "more at the other ovens and rings", Because: on.Room})
	}
	return out
}

func people(n int) string { return words.Plural(n, "learner", "learners") }

func (on On) danger(d recipe.Danger, who string) (Line, bool) {
	var steps, own []string
	adult := fit.NoAdult
	for _, r := range on.Recipes {
		every := r.EveryDanger(on.Pantry)
		for n, s := range r.Steps {
			if !slices.Contains(every[n], d) {
				continue
			}
			steps = append(steps, s.Title)
			adult = Stricter(adult, Stricter(s.Adult, on.Book.Adult(d, on.Age, 0)))
			if s.Hazard != "" {
				own = append(own, strings.TrimSuffix(s.Hazard, "."))
			}
		}
	}
	if steps == nil {
		return Line{}, false
	}
	text := dangers[d]
	l := Line{Key: string(d), Hazard: text.hazard, Who: who, Done: text.done, Left: text.left, Because: strings.Join(unique(steps), "; ")}
	if own = unique(own); len(own) > 0 {
		l.Done += ". In the recipe: " + strings.Join(own, ". ")
	}
	if d == recipe.RawMeat && on.OneBoard {
		l.Done = "One board for both here: vegetables are cut first, the plan keeps that order; then hands, board and knife in hot soapy water. " + l.Done
	}
	switch adult {
	case fit.Does:
		l.Adult = "an adult does it"
	case fit.Watches:
		l.Adult = "an adult watches each bench"
	default:
		l.Adult = "the teacher walks round"
	}
	return l, true
}

// temperature is what the school's table of temperatures has to do with the
// dish.
func (on On) temperature(who string) []Line {
	var out []Line
	r := on.Book.Region
	var raw []string
	for _, d := range on.Recipes {
		raw = append(raw, d.Raw(on.Pantry)...)
	}
	if raw = unique(raw); len(raw) > 0 {
		out = append(out, Line{
			Key: "core", Hazard: "Food that is not cooked through", Who: who,
			Done:  "Probed in the thickest part of the biggest piece, at once, and written down. " + r.done(),
			Adult: "an adult reads the probe", Left: "low once it is written down", Because: strings.Join(raw, ", ") + "; table for " + r.Name,
		})
	}
	if len(on.Waits) > 0 {
		l := Line{Key: "waits", Hazard: "Food that stands too long", Who: who, Done: strings.Join(on.Waits, " "), Adult: "the teacher calls the time", Left: "low while the plan is kept", Because: "the plan and the table for " + r.Name}
		if on.TooLong {
			l.Left = "TOO LONG as it is planned: change the plan"
		}
		out = append(out, l)
	}
	if on.Hold != "" {
		out = append(out, Line{
			Key: "hold", Hazard: "Food that is kept for another lesson", Who: who,
			Done:  fmt.Sprintf("%s. Cooled to %g °C within %d min, covered, labelled with class, bench and date", on.Hold, r.CoolTo, r.CoolIn),
			Adult: "the technician, with the fridge’s log", Left: "low", Because: "the dish is made over two lessons",
		})
	}
	return out
}

func unique(list []string) []string {
	var out []string
	for _, s := range list {
		if !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// Waits judges the steps of a dish in a plan by the school's table: how long raw things wait between
// being taken in hand and cooking, and how long hot things stand before they
// are eaten. Each sentence has its figure; bad is set where one is too long.
func (r Region) Waits(dish recipe.Recipe, p *pantry.Pantry, f fit.Lesson, plan *fit.Plan) (says []string, bad bool) {
	kind := map[string]fit.Kind{}
	raw := map[string]bool{}
	for n, s := range dish.Steps {
		kind[s.ID] = s.Kind
		raw[s.ID] = slices.Contains(dish.Dangers(n, p), recipe.RawMeat)
	}
	mine := func(s fit.StepPlan) bool {
		return slices.ContainsFunc(f.Dishes, func(d fit.Dish) bool { return d.ID == s.Dish && (d.Of == "" || d.Of == dish.ID) })
	}
	var rawMost, hotMost float64
	for _, g := range plan.Groups {
		taken, cooked, eaten := -1.0, -1.0, plan.Deadline
		for _, s := range g.Steps {
			if !mine(s) {
				continue
			}
			hot := kind[s.Step] == fit.Cook || kind[s.Step] == fit.Bake
			if raw[s.Step] && !hot && (taken < 0 || s.Start < taken) {
				taken = s.Start
			}
			if hot && raw[s.Step] && taken >= 0 {
				rawMost = max(rawMost, s.Start-taken)
				taken = -1
			}
			if hot {
				cooked = max(cooked, s.End)
			}
		}
		if taken >= 0 { // shaped raw and cooked in a step that does not name it
			for _, s := range g.Steps {
				if mine(s) && (kind[s.Step] == fit.Cook || kind[s.Step] == fit.Bake) && s.Start >= taken {
					rawMost = max(rawMost, s.Start-taken)
					break
				}
			}
		}
		if cooked >= 0 {
			hotMost = max(hotMost, eaten-cooked)
		}
	}
	if rawMost > 0 {
		s, over := within("Raw food is out of the cold for", rawMost, r.ColdOut)
		says, bad = append(says, s), bad || over
	}
	if hotMost > 0 {
		s, over := within("Hot food stands until it is tasted for", hotMost, r.HotOut)
		says, bad = append(says, s), bad || over
	}
	return says, bad
}

func within(what string, minutes float64, most int) (string, bool) {
	s := fmt.Sprintf("%s %.0f min; %d min is the most by the table.", what, minutes, most)
	if minutes > float64(most) {
		return s + " That is too long.", true
	}
	return s, false
}
