package train

import (
	"slices"
	"strings"

	"freshapron/internal/core/knife"
)

// Drawn is put before a kind of task that is done on a drawn instrument.
const Drawn = "do-"

// Templates are all exercises: what is done on drawn instruments, what is done with the
// knife, and what is answered.
var Templates = func() []string {
	var out []string
	for _, k := range Exercises {
		out = append(out, Drawn+string(k))
	}
	out = append(out, knife.ExerciseKinds...)
	for _, k := range Kinds {
		out = append(out, string(k))
	}
	return out
}()

// youngest is from which age on, in years, all exercises are given.
const youngest = 11

var forYoung = []string{Drawn + string(OnScale), Drawn + string(InJug), Drawn + string(BySpoons), knife.HoldExercise, knife.OrderExercise, knife.CareExercise, knife.ToolsExercise, string(OnScale), string(OnDial), string(BySpoons), string(Time)}

// For returns the exercises for learners of an age in years; 0 is not known.
func For(age int) []string {
	if age > 0 && age < youngest {
		return forYoung
	}
	return Templates
}

// Together are the exercises that a whole class can answer by raised hands, in turn.
var Together = []string{string(OnScale), knife.HoldExercise, string(Time), knife.CareExercise, string(Instrument), string(BySpoons), knife.ToolsExercise, string(InJug), string(Scaling), string(OvenDial)}

// An Item is what is to be done: a task to answer, an instrument to use, or something
// with the knife.
type Item struct {
	Template string
	Number   int
	Task     *Task
	Do       *Exercise
	Knife    *knife.Exercise
}

// NewItem makes the exercise of a template and a number, from what is practised and the
// foods that are cut. The same seed makes the same; ok is false where there is no such
// template.
func NewItem(template string, seed uint64, number int, from Source, foods []knife.Food) (it Item, ok bool) {
	it = Item{Template: template, Number: number}
	switch kind, drawn := strings.CutPrefix(template, Drawn); {
	case !slices.Contains(Templates, template):
		return it, false
	case drawn:
		e := Do(Kind(kind), seed, number, from)
		it.Do = &e
	case slices.Contains(knife.ExerciseKinds, template):
		e := knife.NewExercise(template, seed, number, foods)
		it.Knife = &e
	default:
		t := Make(Kind(template), seed, number, from)
		it.Task = &t
	}
	return it, true
}

// Ask is what the item asks for.
func (it Item) Ask() string {
	switch {
	case it.Do != nil:
		return it.Do.Ask
	case it.Knife != nil:
		return it.Knife.Ask
	}
	return it.Task.Ask
}

// Stuck returns the template that went wrong most in tries, where one went wrong twice
// at least; empty where none did.
func Stuck(tries []Try) string {
	wrong := map[string]int{}
	for _, t := range tries {
		if !t.Right {
			wrong[t.Template]++
		}
	}
	stuck, most := "", 1
	for _, k := range Templates {
		if wrong[k] > most {
			stuck, most = k, wrong[k]
		}
	}
	return stuck
}

// Hard is an exercise that goes wrong.
type Hard struct {
	Template     string
	Wrong, Tries int
}

// Hardest returns the exercises that went wrong in tries, by the share, the most first.
func Hardest(tries []Try) []Hard {
	all := map[string]*Hard{}
	for _, t := range tries {
		h := all[t.Template]
		if h == nil {
			h = &Hard{Template: t.Template}
			all[t.Template] = h
		}
		if h.Tries++; !t.Right {
			h.Wrong++
		}
	}
	var out []Hard
	for _, k := range Templates {
		if h := all[k]; h != nil && h.Wrong > 0 {
			out = append(out, *h)
		}
	}
	slices.SortStableFunc(out, func(a, b Hard) int { return b.Wrong*a.Tries - a.Wrong*b.Tries })
	return out
}
