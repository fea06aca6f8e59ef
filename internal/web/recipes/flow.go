package recipes

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/words"
)

// Sizes of the flow in its own units; the page scales it.
const (
	flowWidth = 960.0
	flowRow   = 28.0
	flowBar   = 16.0
	flowHead  = 20.0
	letter    = 6.9 // of a step's title, on average
)

// A flow is the view model of the picture of a recipe's steps: each as soon as
// what it waits for is done, if hands were never short.
type flow struct {
	Width, Height float64
	Says          string
	Ticks         []flowTick
	Steps         []flowStep
	Links         []flowLink
}

type flowTick struct {
	X, Y float64
	Text string
}

type flowStep struct {
	X, Y, H        float64
	WorkW, WaitX   float64
	WaitW          float64
	Class          string
	WaitClass      string
	Title          string
	TitleX, TitleY float64
	End            bool // the title stands before the bar
	Says           string
	Icons          []flowIcon
}

type flowIcon struct {
	X, Y float64
	Name string
}

type flowLink struct{ Path string }

// flowOf lays a recipe's steps out for a pair's share.
func flowOf(r recipe.Recipe) *flow {
	if len(r.Steps) == 0 {
		return nil
	}
	steps := r.Dish(2 * max(1, r.Each)).Steps
	start := earliest(steps)
	if start == nil {
		return nil
	}
	order := make([]int, len(steps))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case start[a] < start[b]:
			return -1
		case start[a] > start[b]:
			return 1
		}
		return 0
	})
	last := 1.0
	row := make([]int, len(steps))
	for n, i := range order {
		row[i] = n
		last = math.Max(last, start[i]+length(steps[i]))
	}
	f := &flow{Width: flowWidth, Height: flowHead + flowRow*float64(len(steps)) + 6}
	const margin = 8
	x := func(m float64) float64 { return math.Round(10*(margin+(flowWidth-2*margin)*m/last)) / 10 }
	y := func(i int) float64 { return flowHead + flowRow*float64(row[i]) + 5 }
	every := tickStep(last)
	for m := every; m <= last; m += every {
		f.Ticks = append(f.Ticks, flowTick{x(m), 12, fmt.Sprintf("%.0f min", m)})
	}
	for _, i := range order {
		s := steps[i]
		work, wait := handsOn(s), s.Wait.Float()
		st := flowStep{
			X: x(start[i]), Y: y(i), H: flowBar, Title: s.Title,
			WorkW: math.Max(x(start[i]+work)-x(start[i]), 0), WaitX: x(start[i] + work),
			WaitW: math.Max(x(start[i]+work+wait)-x(start[i]+work), 0), Class: "hands", WaitClass: "wait", Says: flowSays(s, work, wait),
		}
		if s.Adult != fit.NoAdult {
			st.Class = "adult"
			st.Icons = append(st.Icons, flowIcon{Name: "adult"})
		}
		if r.Steps[i].WorkFrom == recipe.Typical {
			st.Class += " guess"
			st.Title += ", typical"
		}
		if r.Steps[i].WaitFrom == recipe.Typical {
			st.WaitClass += " guess"
		}
		if slices.ContainsFunc(s.Uses, func(u fit.Use) bool { return u.Equipment == "oven" }) {
			st.Icons = append(st.Icons, flowIcon{Name: "oven"})
		}
		end := x(start[i] + work + wait)
		icons := 20 * float64(len(st.Icons)) // between the bar and its name
		st.TitleX, st.TitleY = end+6+icons, st.Y+flowBar-3.5
		if st.TitleX+letter*float64(len([]rune(st.Title)))+20 > flowWidth {
			st.TitleX, st.End = st.X-6-icons, true
			st.Title = within(st.Title, st.TitleX-20)
		}
		for k := range st.Icons {
			st.Icons[k].Y = st.Y - 1
			st.Icons[k].X = end + 5 + 20*float64(k)
			if st.End {
				st.Icons[k].X = st.X - 22 - 20*float64(k)
			}
		}
		f.Steps = append(f.Steps, st)
		for _, a := range s.After {
			j := slices.IndexFunc(steps, func(t fit.Step) bool { return t.ID == a.Step })
			if j < 0 || a.Dish != "" {
				continue
			}
			from := x(start[j] + length(steps[j]))
			x1 := math.Max(from-1.5, 0)
			f.Links = append(f.Links, flowLink{fmt.Sprintf("M%g %gV%gH%g", x1, y(j)+flowBar, st.Y+flowBar/2, st.X)})
		}
	}
	f.Says = fmt.Sprintf("%s, %.0f min on the longest way through them for a pair.", words.Plural(len(steps), "step", "steps"), math.Ceil(last-1e-9))
	return f
}

// within shortens a title to so much room.
func within(title string, room float64) string {
	r := []rune(title)
	most := max(3, int(room/letter))
	if len(r) <= most {
		return title
	}
	return string(r[:most-1]) + "…"
}

// tickStep returns the minutes between two ticks, of which there are at most
// a dozen however long the recipe takes.
func tickStep(last float64) float64 {
	const most = 12
	for _, step := range []float64{5, 10, 20, 30, 60, 120} {
		if last/step <= most {
			return step
		}
	}
	return 240 * math.Ceil(last/240/most)
}

// handsOn returns the minutes of work of a pair, which shares what can be
// shared: by the rule of the planner, in 1/1.8 of the time of one.
func handsOn(s fit.Step) float64 {
	work := s.Work.Float()
	if s.Shareable {
		work /= 1.8
	}
	return work + s.Load.Float()*float64(s.Loads())
}

func length(s fit.Step) float64 { return handsOn(s) + s.Wait.Float() }

// earliest returns when each step can start at the earliest, or nil where the
// steps wait for each other in a circle.
func earliest(steps []fit.Step) []float64 {
	start := make([]float64, len(steps))
	for round := 0; ; round++ {
		changed := false
		for i, s := range steps {
			for _, a := range s.After {
				j := slices.IndexFunc(steps, func(t fit.Step) bool { return t.ID == a.Step })
				if j < 0 {
					continue
				}
				if at := start[j] + length(steps[j]) + a.MinGap.Float(); at > start[i]+1e-9 {
					start[i], changed = at, true
				}
			}
		}
		if !changed {
			return start
		}
		if round > len(steps) {
			return nil
		}
	}
}

func flowSays(s fit.Step, work, wait float64) string {
	parts := []string{s.Title}
	if work > 0 {
		parts = append(parts, fmt.Sprintf("%s min of work", trim(work)))
	}
	if wait > 0 {
		parts = append(parts, fmt.Sprintf("then waits %s min", trim(wait)))
	}
	for _, u := range s.Uses {
		use := u.Equipment
		if u.Temperature != nil {
			use += fmt.Sprintf(" at %s °C", u.Temperature.Decimal(0))
		}
		parts = append(parts, use)
	}
	switch s.Adult {
	case fit.Does:
		parts = append(parts, "an adult does it")
	case fit.Watches:
		parts = append(parts, "an adult watches")
	}
	return strings.Join(parts, ", ")
}

func trim(m float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", m), ".0") }
