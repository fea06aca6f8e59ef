package care

import (
	"fmt"
	"net/http"
	"slices"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/rooms"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/room"
	"freshapron/internal/web/floor"
	"freshapron/internal/web/frame"
)

type floorPage struct {
	Top   top
	Floor floor.Drawing
	Walks []walkRow
}

type walkRow struct{ Bench, Oven, In, Out, Metres string }

// floor shows who stands where, which oven is whose, and the walk with a hot
// tray.
func (p *place) floor(w http.ResponseWriter, r *http.Request) error {
	v, mine, err := open(r)
	if err != nil {
		return err
	}
	data := floorPage{Top: topOf(r, v, "Floor", "Floor", "", mine)}
	f := rooms.Floor(v.Room)
	at := map[string][]string{}
	if v.Problems == nil {
		data.Walks = walks(v, f, at)
	}
	data.Floor = floor.Of(f, func(name string) []string { return at[name] }, func(name string) bool {
		return slices.ContainsFunc(v.Room.Outages, func(o string) bool { return o == name || strings.HasPrefix(o, name+":") })
	})
	for _, row := range data.Walks {
		from, ok := f.Find(row.Oven)
		to, ok2 := f.Find(benchName(row.Bench))
		if ok && ok2 {
			if way, metres, ok := f.Walk(from, to); ok {
				data.Floor.Walks = append(data.Floor.Walks, floor.Walk{Points: floor.Points(way), Says: fmt.Sprintf("%s to %s, %.1f m", row.Oven, row.Bench, metres)})
			}
		}
	}
	return p.Render(w, r, http.StatusOK, templates, "lesson-floor", frame.Page{Title: "Floor: " + v.Dish.Title + ", " + v.Class.Name, Place: "lesson", Data: data})
}

// benchName is the bench of a group that may share it: Bench 3a is at Bench 3.
func benchName(name string) string { return strings.TrimRight(name, "abcdefgh") }

// onBench are the names of a group in as many lines as a bench has room for.
func onBench(group []class.Learner) []string {
	const lines, letters = 3, 15
	per := (len(group) + lines - 1) / lines
	var out []string
	for i := 0; i < len(group); i += max(1, per) {
		var names []string
		for _, l := range group[i:min(i+per, len(group))] {
			name := l.Given
			if name == "" {
				name = l.Family
			}
			names = append(names, name)
		}
		line := strings.Join(names, ", ")
		if r := []rune(line); len(r) > letters {
			line = string(r[:letters-1]) + "…"
		}
		out = append(out, line)
	}
	return out
}

// walks lists the trays that come out of ovens, and notes at each thing who is
// there.
func walks(v *lessons.View, f room.Floor, at map[string][]string) []walkRow {
	benches := v.Core.Benches()
	for i, b := range benches {
		who := []string{v.Dish.Count(b.Pieces)}
		if i < len(v.Dealt.Groups) {
			who = onBench(v.Dealt.Groups[i])
		}
		at[benchName(b.Name)] = append(at[benchName(b.Name)], who...)
	}
	ovens := rooms.OvenNames(v.Room.Room)
	var out []walkRow
	for _, g := range v.Plan.Groups {
		b := slices.IndexFunc(benches, func(b lesson.Bench) bool { return b.ID == g.ID })
		for _, s := range g.Steps {
			for _, u := range s.Units {
				if b < 0 || !slices.Contains(ovens, u.Unit) {
					continue
				}
				row := walkRow{Bench: benches[b].Name, Oven: u.Unit, In: v.Fit.At(s.WorkEnd), Out: v.Fit.At(s.End), Metres: "not drawn"}
				from, ok := f.Find(u.Unit)
				to, ok2 := f.Find(benchName(row.Bench))
				if ok && ok2 {
					row.Metres = "walled in"
					if _, metres, ok := f.Walk(from, to); ok {
						row.Metres = fmt.Sprintf("%.1f m", metres)
					}
				}
				if label := strings.TrimPrefix(benchName(row.Bench), "Bench "); !slices.Contains(at[u.Unit], label) {
					at[u.Unit] = append(at[u.Unit], label)
				}
				out = append(out, row)
			}
		}
	}
	for name, list := range at {
		if slices.Contains(ovens, name) {
			at[name] = []string{strings.Join(list, ", ")}
		}
	}
	slices.SortStableFunc(out, func(a, b walkRow) int { return strings.Compare(a.Out, b.Out) })
	return out
}
