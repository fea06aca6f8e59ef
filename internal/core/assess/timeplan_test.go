package assess_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/fit"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/formats/lessonfile"
)

func table(t testing.TB) fit.Lesson {
	f, err := os.Open("testdata/table.lesson.json")
	require.NoError(t, err)
	defer f.Close()
	l, err := lessonfile.Read(f)
	require.NoError(t, err)
	return l
}

// What learners of different kinds write for the same steps. The first three are those
// that the reading was made by; the others only measured it.
var learners = []map[string]string{
	{"on": "turn the oven on to 190", "weigh": "Weigh all ingredients for pastry", "rub": "rub butter into flour to crumbs", "rest": "pastry to rest in fridge", "soften": "fry leeks until soft", "shred": "shred carrot + cabbage",
		"fill": "roll out, line tins and add filling", "bake": "tartlets in the oven", "mix": "mix mince and spices", "shape": "shape into koftas", "hands": "wash hands and board", "roast": "put koftas in oven to roast", "outT": "take tartlets out", "dress": "mix dressing and toss", "wash": "wash up", "outK": "koftas out and probe the middle"},
	{"on": "Preheat oven", "weigh": "weighing", "rub": "rubbing in", "rest": "resting", "soften": "soften leeks", "shred": "shredding the vegetables", "fill": "lining and filling", "bake": "baking", "mix": "mixing turkey", "shape": "shaping", "hands": "hand wash", "roast": "roasting", "outT": "tartlets out of oven", "dress": "dressing", "wash": "washing up", "outK": "take koftas out, probe"},
	{"on": "I will switch the oven on at 190 degrees", "weigh": "I will weigh my flour and butter for the pastry", "rub": "Next I rub the fat into the flour with my fingertips", "rest": "I leave the pastry to rest", "soften": "I soften the leeks in a pan", "shred": "I shred the red cabbage and the carrots finely", "fill": "I line the tins with pastry and fill them", "bake": "I bake the tartlets for 20 minutes",
		"mix": "I mix the turkey mince with the spices in a bowl", "shape": "I shape the koftas around the sticks", "hands": "I wash my hands well and change the board", "roast": "I roast the koftas", "outT": "I take the tartlets out of the oven", "dress": "I dress the slaw and toss it", "wash": "I do my washing up while things bake", "outK": "I get the koftas out and use the probe"},
	{"on": "oven on", "weigh": "measure out pastry stuff", "rub": "fat + flour, rub in till like breadcrumbs", "rest": "rest pastry", "soften": "cook leeks gently till soft", "shred": "chop cabbage and carrots into shreds", "fill": "line & fill tins", "bake": "tartlets into oven", "mix": "combine mince, spices", "shape": "make the kofta shapes", "hands": "wash hands", "roast": "koftas into oven", "outT": "remove tartlets from oven", "dress": "toss slaw in dressing", "wash": "clean up, wipe down", "outK": "check temp of koftas with probe"},
	{"on": "light the oven", "weigh": "Weigh out", "rub": "Rub fat into flour", "rest": "Chill / rest the pastry", "soften": "Sweat the leeks", "shred": "Slice cabbage, shred carrots", "fill": "Line tins; fill", "bake": "Put tartlets in to bake", "mix": "Stir spices through turkey mince", "shape": "Form koftas", "hands": "Wash hands + board in hot soapy water", "roast": "Cook koftas in oven", "outT": "Lift tartlets out", "dress": "Dress slaw", "wash": "Clear away and wash the dishes", "outK": "Koftas out, core temperature with probe"},
	{"on": "switch on oven 190C", "weigh": "get everything weighed for the pastry", "rub": "flour & butter rubbed together", "rest": "pastry rests", "soften": "leeks softened on the hob", "shred": "cabbage and carrots shredded", "fill": "tins lined, filled", "bake": "tartlets baked", "mix": "turkey and spices mixed", "shape": "koftas shaped", "hands": "hands washed", "roast": "koftas roasted", "outT": "tartlets come out", "dress": "slaw dressed", "wash": "tidy and wipe the bench", "outK": "probe koftas"},
}

var dishOf = map[string]string{"weigh": "tartlets", "rub": "tartlets", "rest": "tartlets", "soften": "tartlets", "fill": "tartlets", "bake": "tartlets", "outT": "tartlets", "mix": "koftas", "shape": "koftas", "roast": "koftas", "outK": "koftas", "shred": "slaw", "dress": "slaw"}

type entry struct {
	what        string
	clock       string // instead of the minute
	at, minutes int
}

// sound is a plan that works, from nine o'clock on; 1 has the koftas first.
func sound(which int) []entry {
	if which%2 == 1 {
		return []entry{{"on", "", 5, 1}, {"mix", "", 6, 6}, {"shape", "", 12, 8}, {"hands", "", 20, 2}, {"roast", "", 22, 1}, {"weigh", "", 23, 5}, {"rub", "", 28, 8}, {"rest", "", 36, 1}, {"outK", "", 41, 2}, {"soften", "", 43, 8}, {"fill", "", 52, 10}, {"bake", "", 62, 1}, {"shred", "", 63, 15}, {"wash", "", 78, 4}, {"outT", "", 83, 1}, {"dress", "", 84, 4}}
	}
	return []entry{{"on", "", 5, 1}, {"weigh", "", 6, 5}, {"rub", "", 11, 8}, {"rest", "", 19, 1}, {"soften", "", 20, 8}, {"shred", "", 28, 15}, {"fill", "", 43, 10}, {"bake", "", 53, 1}, {"mix", "", 54, 6}, {"shape", "", 60, 8}, {"hands", "", 68, 2}, {"roast", "", 70, 1}, {"outT", "", 74, 1}, {"dress", "", 75, 4}, {"wash", "", 79, 9}, {"outK", "", 89, 2}}
}

func place(list []entry, what string) int {
	return slices.IndexFunc(list, func(e entry) bool { return e.what == what })
}

// A fault is put into a plan that works; it returns the plan and which of its entries
// the finding has to be about, -1 for none.
type fault struct {
	rule string
	put  func([]entry) ([]entry, int)
}

var faults = []fault{
	{"missing", func(l []entry) ([]entry, int) { i := place(l, "shred"); return slices.Delete(l, i, i+1), -1 }},
	{"missing", func(l []entry) ([]entry, int) { i := place(l, "soften"); return slices.Delete(l, i, i+1), -1 }},
	{"before", func(l []entry) ([]entry, int) {
		i, j := place(l, "soften"), place(l, "fill")
		l[i].what, l[j].what = "fill", "soften"
		l[i].minutes, l[j].minutes = 8, 8
		return l, i
	}},
	{"before", func(l []entry) ([]entry, int) {
		i, j := place(l, "mix"), place(l, "shape")
		l[i].what, l[j].what = "shape", "mix"
		l[i].minutes, l[j].minutes = 6, 6
		return l, i
	}},
	{"heat", func(l []entry) ([]entry, int) {
		i := place(l, "on")
		k := min(place(l, "bake"), place(l, "roast"))
		l[i].at = l[k].at - 4
		e := l[i]
		l = slices.Delete(l, i, i+1)
		k = slices.IndexFunc(l, func(x entry) bool { return x.at >= e.at })
		l = slices.Insert(l, k, e)
		return l, min(place(l, "bake"), place(l, "roast"))
	}},
	{"wash", func(l []entry) ([]entry, int) { i := place(l, "wash"); return slices.Delete(l, i, i+1), -1 }},
	{"safe", func(l []entry) ([]entry, int) {
		i := place(l, "hands")
		return slices.Delete(l, i, i+1), place(l, "shape")
	}},
	{"short", func(l []entry) ([]entry, int) { i := place(l, "shred"); l[i].minutes = 5; return l, i }},
	{"short", func(l []entry) ([]entry, int) {
		i, j := place(l, "outT"), place(l, "bake")
		l[i].at = l[j].at + 9
		e := l[i]
		l = slices.Delete(l, i, i+1)
		k := slices.IndexFunc(l, func(x entry) bool { return x.at > e.at })
		return slices.Insert(l, k, e), j
	}},
	{"hands", func(l []entry) ([]entry, int) {
		i, j := place(l, "shred"), place(l, "weigh")
		l[i].at = l[j].at + 1
		e := l[i]
		l = slices.Delete(l, i, i+1)
		j = place(l, "weigh")
		return slices.Insert(l, j+1, e), j + 1
	}},
	{"late", func(l []entry) ([]entry, int) {
		i := place(l, "dress")
		l[i].at = 121
		e := l[i]
		l = append(slices.Delete(l, i, i+1), e)
		return l, len(l) - 1
	}},
	{"row", func(l []entry) ([]entry, int) { i := place(l, "dress"); l[i].clock = "half ten"; return l, i }},
	{"keeps", func(l []entry) ([]entry, int) {
		i := place(l, "outK")
		l[i].at = 115
		e := l[i]
		l = append(slices.Delete(l, i, i+1), e)
		return l, len(l) - 1
	}},
	{"idle", func(l []entry) ([]entry, int) {
		i := place(l, "shred")
		for k := range l {
			if k >= i {
				l[k].at += 11
			}
		}
		return l, i
	}},
	{"short", func(l []entry) ([]entry, int) { i := place(l, "rub"); l[i].minutes = 3; return l, i }},
}

// written writes a plan in a learner's words, and returns at which line each entry is.
func written(list []entry, who map[string]string, style int) string {
	sep := []string{",", ";", "\t"}[style%3]
	lines := []string{strings.Join([]string{"clock", "dish", "what", "minutes"}, sep)}
	for _, e := range list {
		clock := e.clock
		if clock == "" {
			clock = fmt.Sprintf("%02d:%02d", 9+e.at/60, e.at%60)
			if style%4 == 3 {
				clock = fmt.Sprint(e.at)
			}
		}
		lines = append(lines, strings.Join([]string{clock, dishOf[e.what], `"` + who[e.what] + `"`, fmt.Sprint(e.minutes)}, sep))
	}
	return strings.Join(lines, "\n") + "\n"
}

func TestTimePlans(t *testing.T) {
	l := table(t)
	check := func(list []entry, who map[string]string, style int) assess.TimePlan {
		rows, err := judgefile.ReadTimePlan(strings.NewReader(written(list, who, style)), l)
		require.NoError(t, err)
		return assess.CheckTimePlan(l, rows)
	}
	for _, half := range []struct {
		name string
		who  []map[string]string
	}{{"tuned", learners[:3]}, {"measured only", learners[3:]}} {
		clean, found, blamed, asked := 0, 0, 0, 0
		n := 15
		for i := range n {
			who := half.who[i%3]
			p := check(sound(i), who, i)
			asked += len(p.Asks)
			if len(p.Asks) > 0 {
				t.Logf("%s asks of sound %d: %v", half.name, i, p.Asks)
			}
			if len(p.Findings) == 0 {
				clean++
			} else {
				t.Logf("%s sound %d: %v", half.name, i, p.Findings)
			}
			list, at := faults[i].put(sound(i))
			p = check(list, who, i)
			hit := slices.IndexFunc(p.Findings, func(f assess.Finding) bool {
				return f.Rule == faults[i].rule && (at < 0 || slices.Contains(f.Lines, at+2))
			})
			if hit >= 0 {
				found++
			} else {
				t.Logf("%s fault %d, %s in line %d: %v asks %v", half.name, i, faults[i].rule, at+2, p.Findings, p.Asks)
			}
			blamed += len(p.Findings)
		}
		t.Logf("%s: of %d sound plans %d without a finding, of %d faults %d found with rule and row; %d findings on them in all, %d rows asked", half.name, n, clean, n, found, blamed, asked)
		assert.GreaterOrEqual(t, clean, n-1, half.name)
		assert.GreaterOrEqual(t, found, n-1, half.name)
	}
}

func BenchmarkTimePlanOf60(b *testing.B) {
	l := table(b)
	var list []entry
	for i := range 4 {
		for _, e := range sound(i) {
			e.at += i % 2
			list = append(list, e)
		}
	}
	rows, err := judgefile.ReadTimePlan(strings.NewReader(written(list[:60], learners[2], 0)), l)
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		assess.CheckTimePlan(l, rows)
	}
}
