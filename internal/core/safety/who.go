package safety

import (
	"slices"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/recipe"
)

// Typical marks what ships with the program and no law says.
const Typical = "typical of school risk assessments: the school and its adviser set their own"

// A WhoRule says who does what is dangerous below an age.
type WhoRule struct {
	Danger recipe.Danger
	Under  int         // years; the rule holds for classes younger than this
	Level  class.Level // and, where it is not 0, for benches of which nobody is above it
	Adult  fit.Adult   // Watches or Does
	Source string
}

// UsualWho is the table that a school begins with.
func UsualWho() []WhoRule {
	var out []WhoRule
	for _, r := range []struct {
		danger        recipe.Danger
		does, watches int
	}{
		{recipe.HotOven, 9, 11}, {recipe.Hob, 9, 11}, {recipe.HotFat, 11, 0}, {recipe.Boiling, 11, 0},
		{recipe.Blade, 8, 11}, {recipe.Knife, 5, 0}, {recipe.Grater, 5, 0}, {recipe.RawMeat, 9, 11},
	} {
		out = append(out, WhoRule{Danger: r.danger, Under: r.does, Adult: fit.Does, Source: Typical})
		if r.watches > 0 {
			out = append(out, WhoRule{Danger: r.danger, Under: r.watches, Adult: fit.Watches, Source: Typical})
		}
	}
	return append(out, WhoRule{Danger: recipe.Knife, Under: 9, Level: class.Starting, Adult: fit.Watches, Source: Typical})
}

// strictness orders what an adult has to do.
var strictness = map[fit.Adult]int{fit.NoAdult: 0, "": 0, fit.Watches: 1, fit.Does: 2}

// Stricter returns the stricter of two.
func Stricter(a, b fit.Adult) fit.Adult {
	if strictness[b] > strictness[a] {
		return b
	}
	return a
}

// Adult returns what an adult has to do about a danger for learners of an age,
// 0 where it is not known, of whom the surest has a level, 0 where none is
// said. Of unknown ages no rule is taken.
func (b Book) Adult(d recipe.Danger, age int, level class.Level) fit.Adult {
	out := fit.NoAdult
	for _, r := range b.Who {
		if r.Danger == d && age > 0 && age < r.Under && (r.Level == 0 || level > 0 && level <= r.Level) {
			out = Stricter(out, r.Adult)
		}
	}
	return out
}

// A Bench is who works at a bench, as far as the tables ask.
type Bench struct {
	Age   int
	Level class.Level
	Ways  map[string][]Way // by the id of the step that is done another way
	// OneBoard says that vegetables and raw meat share a board or a knife.
	OneBoard bool
}

// Adapt returns the recipe as a bench makes it: adults where the tables ask
// for them, other ways with the time that they take, and vegetables before
// meat where both use one board.
func (b Book) Adapt(r recipe.Recipe, p *pantry.Pantry, at Bench) recipe.Recipe {
	out := r
	out.Steps = slices.Clone(r.Steps)
	dangers := r.EveryDanger(p)
	for n := range out.Steps {
		s := &out.Steps[n]
		gone := map[recipe.Danger]bool{}
		for _, w := range at.Ways[s.ID] {
			s.Work, s.WorkEach = s.Work.Mul(w.times()), s.WorkEach.Mul(w.times())
			s.Adult = Stricter(s.Adult, w.Adult)
			for _, d := range w.Dangers {
				gone[d] = gone[d] || w.Instead
			}
		}
		for _, d := range dangers[n] {
			if !gone[d] {
				s.Adult = Stricter(s.Adult, b.Adult(d, at.Age, at.Level))
			}
		}
		if s.Adult == fit.Does {
			s.Cooks, s.Shareable = 0, false
		}
	}
	if at.OneBoard {
		out.Steps = vegetablesFirst(dangers, out.Steps)
	}
	return out
}

// vegetablesFirst lets every step that cuts raw meat or fish wait for those
// that cut something else, unless those come after it by the recipe.
func vegetablesFirst(dangers [][]recipe.Danger, steps []recipe.Step) []recipe.Step {
	cuts := func(n int) (knife, raw bool) {
		d := dangers[n]
		return slices.Contains(d, recipe.Knife), slices.Contains(d, recipe.RawMeat)
	}
	for n := range steps {
		if knife, raw := cuts(n); !knife || !raw {
			continue
		}
		for k := range steps {
			if knife, raw := cuts(k); !knife || raw || follows(steps, k, n) || follows(steps, n, k) {
				continue
			}
			steps[n].After = append(slices.Clone(steps[n].After), fit.After{Step: steps[k].ID})
		}
	}
	return steps
}

// follows reports whether a step waits for another, perhaps through others.
func follows(steps []recipe.Step, n, other int) bool {
	at := func(id string) int {
		return slices.IndexFunc(steps, func(s recipe.Step) bool { return s.ID == id })
	}
	seen := map[int]bool{}
	var reaches func(int) bool
	reaches = func(i int) bool {
		if i < 0 || seen[i] {
			return false
		}
		seen[i] = true
		for _, a := range steps[i].After {
			if k := at(a.Step); k == other || reaches(k) {
				return true
			}
		}
		return false
	}
	return reaches(n)
}

// A Way is another way to do something: for those who can't, or should not
// yet, do it as the recipe says.
type Way struct {
	ID      string
	Name    string // "a fork to hold with"
	Says    string // what stands on the bench's sheet
	Dangers []recipe.Danger
	Kinds   []fit.Kind // of steps for which it is; with Dangers, either
	Helps   []string   // access needs for which it is offered
	Level   class.Level
	Times   float64   // how many times as long it takes; 0 is 1
	Adult   fit.Adult // who has to be there for it
	Instead bool      // the danger is gone
	Whole   bool      // for the whole lesson, not one step
	Apart   bool      // offered where contact with what is in the dish is enough
}

func (w Way) times() exact.Number {
	if w.Times <= 0 {
		return exact.Int(1)
	}
	const hundredths = 100
	return exact.Frac(int64(w.Times*hundredths+0.5), hundredths)
}

// Access needs that the shipped ways speak of.
const (
	LowVision  = "low vision"
	OneHand    = "one-handed"
	Tires      = "tires easily"
	ReadLittle = "reads little"
	Hearing    = "hard of hearing"
	Wheelchair = "uses a wheelchair"
)

// AccessNeeds lists them.
var AccessNeeds = []string{LowVision, OneHand, Tires, ReadLittle, Hearing, Wheelchair}

// UsualWays is the table that a school begins with. The factors are typical:
// a school measures its own.
func UsualWays() []Way {
	knife := []recipe.Danger{recipe.Knife}
	return []Way{
		{ID: "fork", Name: "a fork to hold with", Says: "Hold it with a fork, and cut beside the fork.", Dangers: knife, Level: class.Starting, Times: 1.2},
		{ID: "table-knife", Name: "a table knife", Says: "Cut what is soft with a table knife.", Dangers: knife, Level: class.Starting, Times: 1.3, Instead: true},
		{ID: "scissors", Name: "kitchen scissors", Says: "Cut with scissors into a bowl.", Dangers: knife, Helps: []string{OneHand}, Level: class.Starting, Times: 1.2, Instead: true},
		{ID: "spiked-board", Name: "a spiked board", Says: "Press it onto the spiked board, and cut with one hand.", Dangers: knife, Helps: []string{OneHand}, Times: 1.4},
		{ID: "ready-cut", Name: "ready-cut pieces", Says: "The pieces stand cut at the top of the board: go on from there.", Dangers: []recipe.Danger{recipe.Knife, recipe.Grater}, Helps: []string{OneHand, Tires}, Level: class.Starting, Times: 0.2, Instead: true},
		{ID: "grater-clamp", Name: "a grater that is clamped", Says: "The grater is clamped to the table: use one hand.", Dangers: []recipe.Danger{recipe.Grater}, Helps: []string{OneHand}, Times: 1.2},
		{ID: "rocking", Name: "a rocking knife", Says: "Rock the blade with both hands on its handle.", Dangers: knife, Helps: []string{OneHand, LowVision}, Times: 1.2},
		{ID: "beside", Name: "an adult beside", Says: "An adult stays beside you.", Dangers: []recipe.Danger{recipe.Knife, recipe.HotOven, recipe.Hob, recipe.HotFat, recipe.Boiling, recipe.Blade}, Helps: []string{LowVision}, Level: class.Starting, Adult: fit.Watches},
		{ID: "adult-does", Name: "an adult does it", Says: "An adult does this with you watching.", Dangers: []recipe.Danger{recipe.HotOven, recipe.HotFat, recipe.Boiling}, Helps: []string{OneHand, Wheelchair}, Adult: fit.Does, Instead: true},
		{ID: "contrast-board", Name: "a board of the other colour", Says: "Dark food on the light board, light food on the dark one.", Dangers: knife, Helps: []string{LowVision}, Times: 1.1},
		{ID: "talking-scale", Name: "a talking scale", Says: "The scale says the weight: press the large key first.", Kinds: []fit.Kind{fit.Weigh}, Helps: []string{LowVision}, Times: 1.2},
		{ID: "weighed", Name: "weighed out before", Says: "Your ingredients stand weighed on the tray.", Kinds: []fit.Kind{fit.Weigh}, Helps: []string{Tires, OneHand, ReadLittle}, Times: 0.3},
		{ID: "seated", Name: "seated at a low table", Says: "Work seated; everything is within reach.", Kinds: []fit.Kind{fit.Prepare, fit.Mix, fit.Shape, fit.Cut}, Helps: []string{Tires, Wheelchair}, Times: 1.1},
		{ID: "talking-timer", Name: "a talking timer", Says: "The timer says the minutes.", Helps: []string{LowVision}, Whole: true},
		{ID: "flashing-timer", Name: "a timer that flashes", Says: "Watch for the flash of the timer.", Helps: []string{Hearing}, Whole: true},
		{ID: "apart", Name: "a bench apart", Says: "Set up before the others, with board, tools and cloths of your own; wash up before the others.", Whole: true, Apart: true},
		{ID: "large-print", Name: "a sheet in large print", Says: "", Helps: []string{LowVision, ReadLittle}, Whole: true},
	}
}

// Offers returns the ways that can be offered to a learner for a step with its
// dangers: those that help with what they need, and those for their level
// where the step is dangerous.
func (b Book) Offers(l class.Learner, s recipe.Step, dangers []recipe.Danger) []Way {
	var out []Way
	for _, w := range b.Ways {
		fits := slices.Contains(w.Kinds, s.Kind) || slices.ContainsFunc(w.Dangers, func(d recipe.Danger) bool { return slices.Contains(dangers, d) })
		if !w.Whole && fits && w.helps(l) {
			out = append(out, w)
		}
	}
	return out
}

// Wholes returns the ways that can be offered to a learner for the whole
// lesson.
func (b Book) Wholes(l class.Learner) []Way {
	return slices.DeleteFunc(slices.Clone(b.Ways), func(w Way) bool { return !w.Whole || !w.helps(l) })
}

func (w Way) helps(l class.Learner) bool {
	if w.Level > 0 && l.Level > 0 && l.Level <= w.Level {
		return true
	}
	return slices.ContainsFunc(l.Needs, func(n class.Need) bool {
		return w.Apart && n.Apart() || n.Kind == class.Access && slices.ContainsFunc(w.Helps, func(h string) bool { return n.IsCalled(h) })
	})
}

// Way returns the way with the id.
func (b Book) Way(id string) (Way, bool) {
	i := slices.IndexFunc(b.Ways, func(w Way) bool { return w.ID == id })
	if i < 0 {
		return Way{}, false
	}
	return b.Ways[i], true
}
