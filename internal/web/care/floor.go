package care

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/rooms"
	"freshapron/internal/core/class"
	"freshapron/internal/core/fit"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/room"
	"freshapron/internal/web/floor"
	"freshapron/internal/web/frame"
	"freshapron/internal/web/head"
)

type floorPage struct {
	Top   head.Top
	Floor floor.Drawing
	Walks []walkRow
}

type walkRow struct {
	Bench, Oven, In, Out, Metres string
	from, to                     string // ids on the floor
}

// floor shows who stands where, which oven is whose, and the walk with a hot
// tray.
func (p *place) floor(w http.ResponseWriter, r *http.Request) error {
	v, mine, err := open(r)
	if err != nil {
		return err
	}
	data := floorPage{Top: head.TopOf(r, v, "Floor", "Floor", "", mine)}
	f := rooms.Floor(v.Room)
	at := map[string][]string{}
	if v.Problems == nil {
		data.Walks = walks(v, f, at)
	}
	data.Floor = floor.Of(f, func(id string) []string { return at[id] }, func(id string) bool {
		return slices.ContainsFunc(v.Room.Out, func(u fit.Unit) bool { return u.ID == id })
	})
	for _, row := range data.Walks {
		from, ok := f.Find(row.from)
		to, ok2 := f.Find(row.to)
		if ok && ok2 {
			if way, metres, ok := f.Walk(from, to); ok {
				data.Floor.Walks = append(data.Floor.Walks, floor.Walk{Points: floor.Points(way), Says: fmt.Sprintf("%s to %s, %.1f m", row.Oven, row.Bench, metres)})
			}
		}
	}
	return p.Render(w, r, http.StatusOK, templates, "lesson-floor", frame.Page{Title: head.Title("Floor", v), Place: "lesson", Data: data})
}

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

// walks lists the trays that come out of ovens, and notes at each thing, by its
// id, who is there.
func walks(v *lessons.View, f room.Floor, at map[string][]string) []walkRow {
	bench := map[string]lesson.Bench{}
	for _, b := range v.Benches {
		who := []string{makes(v, b)}
		if b.Members != nil {
			who = onBench(b.Members)
		}
		bench[b.ID] = b
		at[room.BenchID(b.Number)] = append(at[room.BenchID(b.Number)], who...)
	}
	oven := map[string]string{} // name to id
	for _, o := range v.Room.OvensOf() {
		oven[o.Name] = o.ID
	}
	whose := map[string][]string{}
	var out []walkRow
	for _, t := range fit.Trays(v.Fit, v.Plan) {
		id, ok := oven[t.Unit]
		if !ok {
			continue
		}
		b := bench[t.Group]
		row := walkRow{Bench: b.Name, Oven: t.Unit, In: v.Fit.At(t.In), Out: v.Fit.At(t.Out), Metres: "not drawn", from: id, to: room.BenchID(b.Number)}
		from, ok := f.Find(row.from)
		to, ok2 := f.Find(row.to)
		if ok && ok2 {
			row.Metres = "walled in"
			if _, metres, ok := f.Walk(from, to); ok {
				row.Metres = fmt.Sprintf("%.1f m", metres)
			}
		}
		if number := strconv.Itoa(b.Number); !slices.Contains(whose[id], number) {
			whose[id] = append(whose[id], number)
		}
		out = append(out, row)
	}
	for id, benches := range whose {
		at[id] = []string{strings.Join(benches, ", ")}
	}
	slices.SortStableFunc(out, func(a, b walkRow) int { return strings.Compare(a.Out, b.Out) })
	return out
}
