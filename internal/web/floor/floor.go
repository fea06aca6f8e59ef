// Package floor draws a room from above as SVG: what stands where, and on a
// lesson who is where, which oven is whose, and the walk with a hot tray.
package floor

import (
	"fmt"
	"strings"

	"freshapron/internal/core/room"
)

// A Drawing is a floor, ready to draw. Lengths are centimetres.
type Drawing struct {
	W, H  int
	View  string
	Items []Item
	Walks []Walk
	Label string
}

// An Item of the drawing. TX is where its words begin.
type Item struct {
	N          int
	Kind, Name string
	X, Y, W, H int
	TX         int
	Lines      []Line
	Marked     bool // out of order
}

// A Line of words in an item.
type Line struct {
	Text string
	Y    int
	Bold bool
}

// A Walk is a way with a hot tray.
type Walk struct{ Points, Says string }

// Of draws a floor. Says gives the lines of words in each thing after its
// name, by its id; marked tells what is out of order.
func Of(f room.Floor, says func(id string) []string, marked func(id string) bool) Drawing {
	const margin = 10
	d := Drawing{W: f.W, H: f.H, View: fmt.Sprintf("%d %d %d %d", -margin, -margin, f.W+2*margin, f.H+2*margin)}
	for n, i := range f.Items {
		it := Item{N: n, Kind: string(i.Kind), Name: i.Name, X: i.X, Y: i.Y, W: i.W, H: i.H, TX: i.X + 7, Marked: marked != nil && marked(i.ID)}
		const first, line = 24, 23
		name := strings.TrimPrefix(i.Name, "Bench ")
		if i.Kind == room.Bench || i.W >= 90 {
			name = i.Name
		}
		if i.Kind == room.Oven {
			name = strings.TrimPrefix(i.Name, "Oven ")
		}
		if i.Kind == room.Sink && i.W < 90 {
			name = "Sink"
		}
		if it.Marked {
			name += " ✕"
		}
		if i.H >= first {
			it.Lines = append(it.Lines, Line{name, i.Y + first, true})
		}
		if says != nil {
			for k, s := range says(i.ID) {
				it.Lines = append(it.Lines, Line{s, i.Y + first + (k+1)*line, false})
			}
		}
		d.Items = append(d.Items, it)
	}
	return d
}

// Points prints a way for a polyline.
func Points(way []room.Point) string {
	var b strings.Builder
	for i, p := range way {
		if i > 0 {
			b.WriteByte(' ')
		}
		fmt.Fprintf(&b, "%d,%d", p.X, p.Y)
	}
	return b.String()
}
