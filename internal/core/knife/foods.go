package knife

import (
	_ "embed"
	"encoding/csv"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/core/pantry"
	"freshapron/internal/core/words"
)

// A Food is what is cut, as a solid of a usual size. Sizes are typical.
type Food struct {
	Name   string
	Solid  Solid
	Hold   Hold
	Flat   string   // how a flat side is made first; empty where it lies still
	Root   bool     // the root is left on to hold it together
	Browns bool     // in air: it is cut last
	Raw    bool     // raw meat or fish: a board of its own, after everything else
	Cuts   []string // that it is cut into, each on the one before
	Tool   string   // another tool for the same end
}

// A Hold of the hand that does not cut.
type Hold string

// The holds.
const (
	Bridge Hold = "bridge" // fingers arched over, the blade through the arch
	Claw   Hold = "claw"   // finger tips tucked in, the blade along the knuckles
)

// HoldSays is what the hand does.
var HoldSays = map[Hold]string{
	Bridge: "Bridge: thumb on one side, fingers on the other, and the knife goes through under the arch. For what is round and is halved.",
	Claw:   "Claw: finger tips tucked in, thumb behind them, and the blade slides along the knuckles. For what lies still and is sliced.",
}

//go:embed foods.csv
var foodTable string

// Foods are the foods that are known.
var Foods = func() []Food {
	rows, err := csv.NewReader(strings.NewReader(foodTable)).ReadAll()
	if err != nil {
		panic(err)
	}
	var out []Food
	for _, r := range rows[1:] {
		n := func(i int) float64 {
			v, err := strconv.ParseFloat(r[i], 64)
			if r[i] != "" && err != nil {
				panic(err)
			}
			return v
		}
		f := Food{Name: r[0], Solid: Solid{Shape: Shape(r[1]), Size: [3]float64{n(2), n(3), n(4)}}, Hold: Hold(r[6]), Flat: r[7], Root: r[8] == "yes", Browns: r[9] == "yes", Cuts: strings.Fields(r[10]), Tool: r[11]}
		switch f.Solid.Shape {
		case Frustum:
			f.Solid.End = n(5)
		case Shell:
			f.Solid.Wall = n(5)
		case HalfEllipsoid:
			f.Solid.Layers, f.Solid.Root = int(n(5)), f.Root && n(5) > 0
		}
		f.Raw = f.Name == "chicken breast" || f.Name == "fish fillet"
		out = append(out, f)
	}
	return out
}()

// FoodNamed returns the food that a text names, in the singular or the plural, the
// longest name first, and whether it names one.
func FoodNamed(text string) (Food, bool) {
	said := pantry.Words(text)
	best, longest := -1, 0
	for i, f := range Foods {
		name := pantry.Words(f.Name)
		for at := range said {
			if len(said)-at >= len(name) && slices.Equal(said[at:at+len(name)], name) && len(name) > longest {
				best, longest = i, len(name)
			}
		}
	}
	if best < 0 {
		return Food{}, false
	}
	return Foods[best], true
}

// A Size of a named cut, in millimetres.
type Size struct {
	Name string
	MM   [3]float64
}

// A Tradition is a set of names of cuts; they differ from one to another, and a school
// picks one.
type Tradition struct {
	ID, Name string
	Sizes    []Size
}

// Traditions are those that ship.
var Traditions = []Tradition{
	{"plain", "Plain words", []Size{{"small dice", [3]float64{6, 6, 6}}, {"dice", [3]float64{10, 10, 10}}, {"large dice", [3]float64{20, 20, 20}}, {"thin sticks", [3]float64{50, 4, 4}}, {"sticks", [3]float64{60, 8, 8}}, {"slices", [3]float64{5, 40, 40}}}},
	{"continental", "Brunoise 3 mm", []Size{{"brunoise", [3]float64{3, 3, 3}}, {"macédoine", [3]float64{5, 5, 5}}, {"jardinière", [3]float64{30, 5, 5}}, {"julienne", [3]float64{50, 3, 3}}, {"paysanne", [3]float64{10, 10, 1.5}}}},
	{"american", "Fine brunoise 1.5 mm", []Size{{"fine brunoise", [3]float64{1.5, 1.5, 1.5}}, {"brunoise", [3]float64{3, 3, 3}}, {"small dice", [3]float64{6, 6, 6}}, {"medium dice", [3]float64{12, 12, 12}}, {"large dice", [3]float64{20, 20, 20}}, {"bâtonnet", [3]float64{60, 6, 6}}, {"julienne", [3]float64{60, 3, 3}}}},
}

// Strokes is how many cuts of the knife a set of planes takes: each plane along x once
// for what lies side by side, and each of the others once.
func (c Cuts) Strokes(s Solid) int {
	n := 0
	for a := range 3 {
		n += len(s.planes(a, c[a])) - 2
	}
	return n
}

// Even returns the cuts that leave pieces of a size, squared off to whole pieces: what
// does not fill one is waste at the far ends.
func (s Solid) Even(size [3]float64) Cuts {
	var out Cuts
	for a := range 3 {
		lo, hi := s.from(a), s.to(a)
		n := int((hi - lo) / size[a])
		start := lo
		if a > 0 { // from the middle out, so that what is waste is alike on both sides
			start = lo + (hi-lo-float64(n)*size[a])/2
		}
		for i := range n + 1 {
			if at := start + float64(i)*size[a]; at > lo && at < hi {
				out[a] = append(out[a], at)
			}
		}
	}
	return out
}

// An Act is a step of preparing a food with the knife.
type Act struct {
	ID, Says string
	Else     string // what happens where it is left out or comes too late
	Drawn    Drawn  // as what that is drawn
}

// Order returns the acts by which a food comes to a cut, in the order in which they
// work, each standing on those before.
func (f Food) Order(cut string) []Act {
	var out []Act
	add := func(id, says, otherwise string, drawn Drawn) { out = append(out, Act{id, says, otherwise, drawn}) }
	add("board", "Lay a damp cloth under the board", "the board slips", Slips)
	if f.Flat != "" {
		otherwise, drawn := "the "+f.Name+" rolls", Rolls
		if f.Solid.Shape == Shell {
			otherwise, drawn = "it rocks, and the blade slides off the skin", Slides
		}
		add("flat", words.Capital(f.Flat), otherwise, drawn)
	}
	stages := []string{"slices", "sticks", "dice"}
	says := map[string]string{"slices": "Cut even slices, with the " + string(f.Hold), "sticks": "Lay the slices flat and cut sticks", "dice": "Turn the sticks and cut dice"}
	otherwise := map[string]string{"slices": "the pieces are as thick as they happen to be", "sticks": "there is nothing flat to cut dice from", "dice": "they stay sticks"}
	drawn := map[string]Drawn{"slices": Uneven, "sticks": Slides, "dice": Stays}
	if f.Solid.Layers > 1 {
		says = map[string]string{"slices": "Cut along it towards the root, not through it", "dice": "Cut across, from the tip to the root"}
		otherwise = map[string]string{"slices": "the rings fall apart and slide", "dice": "they stay strips"}
		drawn["slices"] = Apart
	}
	for _, s := range stages {
		if s == "sticks" && f.Solid.Layers > 1 {
			continue
		}
		add(s, says[s], otherwise[s], drawn[s])
		if s == cut {
			break
		}
	}
	if f.Root {
		add("root", "Cut the root off last", "the "+f.Name+" falls apart", Apart)
	}
	return out
}

// Played says what happens when acts are done in an order: the first that comes before
// what it stands on goes wrong, by the act whose time it was. It returns −1 where all
// goes well.
func Played(right []Act, order []string) (at int, wrong Act) {
	place := map[string]int{}
	for i, id := range order {
		place[id] = i
	}
	for i, id := range order {
		k := slices.IndexFunc(right, func(a Act) bool { return a.ID == id })
		if k < 0 {
			return i, Act{Else: "this is none of it"}
		}
		for _, before := range right[:k] {
			if p, ok := place[before.ID]; !ok || p > i {
				return i, before
			}
		}
		for _, after := range right[k+1:] {
			if p, ok := place[after.ID]; ok && p < i {
				return i, right[k]
			}
		}
	}
	if len(order) < len(right) {
		return len(order), right[len(order)]
	}
	return -1, Act{}
}
