package room_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"freshapron/internal/core/room"
)

// square is the side of the squares on which the way is sought, in cm.
const square = 25

// slowly finds the length of the shortest way in metres by relaxing every step
// until nothing gets shorter (Bellman and Ford): it knows nothing of estimates
// or of the order in which squares are looked at.
func slowly(f room.Floor, from, to room.Item) (float64, bool) {
	w, h := f.W/square, f.H/square
	on := func(i room.Item, x, y int) bool {
		return x >= i.X/square && x*square < i.X+i.W && y >= i.Y/square && y*square < i.Y+i.H
	}
	free := func(x, y int) bool {
		if x < 0 || y < 0 || x >= w || y >= h {
			return false
		}
		for _, i := range f.Items {
			if i.Kind != room.Door && on(i, x, y) {
				return false
			}
		}
		return true
	}
	touches := func(i room.Item, x, y int) bool {
		return on(i, x-1, y) || on(i, x+1, y) || on(i, x, y-1) || on(i, x, y+1)
	}
	length := map[[2]int]float64{}
	for y := range h {
		for x := range w {
			if free(x, y) && touches(from, x, y) {
				length[[2]int{x, y}] = 0
			}
		}
	}
	for changed := true; changed; {
		changed = false
		for at, so := range length {
			for dx := -1; dx <= 1; dx++ {
				for dy := -1; dy <= 1; dy++ {
					x, y := at[0]+dx, at[1]+dy
					if !free(x, y) || !free(at[0], y) || !free(x, at[1]) {
						continue
					}
					longer := so + math.Hypot(float64(dx), float64(dy))
					if was, ok := length[[2]int{x, y}]; !ok || longer < was-1e-9 {
						length[[2]int{x, y}] = longer
						changed = true
					}
				}
			}
		}
	}
	best := math.Inf(1)
	for at, so := range length {
		if touches(to, at[0], at[1]) {
			best = math.Min(best, so*square/100)
		}
	}
	return best, !math.IsInf(best, 1)
}

// No way is shorter than the one that is shown, whatever stands between and
// however long a thing is.
func TestNoWayIsShorter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := rapid.IntRange(8, 34)
		f := room.Floor{W: square * side.Draw(t, "w"), H: square * side.Draw(t, "h")}
		for n := range rapid.IntRange(2, 7).Draw(t, "things") {
			i := room.Item{Kind: room.Kinds[n%len(room.Kinds)], Name: string(rune('a' + n))}
			i.W = square * rapid.IntRange(1, f.W/square).Draw(t, "width")
			i.H = square * rapid.IntRange(1, 4).Draw(t, "depth")
			i.X = square * rapid.IntRange(0, (f.W-i.W)/square).Draw(t, "x")
			i.Y = square * rapid.IntRange(0, f.H/square-1).Draw(t, "y")
			if with := (room.Floor{W: f.W, H: f.H, Items: append(f.Items[:len(f.Items):len(f.Items)], i)}); with.Check() == nil {
				f = with
			}
		}
		if len(f.Items) < 2 {
			return
		}
		from, to := f.Items[0], f.Items[1]
		want, there := slowly(f, from, to)
		way, metres, ok := f.Walk(from, to)
		require.Equal(t, there, ok)
		if !ok {
			return
		}
		require.InDelta(t, want, metres, 1e-6)
		sum := 0.0
		for i := range way[1:] {
			sum += math.Hypot(float64(way[i+1].X-way[i].X), float64(way[i+1].Y-way[i].Y)) / 100
		}
		require.InDelta(t, metres, sum, 0.02*float64(len(way)), "the way that is drawn is as long as is said")
		_, back, _ := f.Walk(to, from)
		require.InDelta(t, metres, back, 1e-6, "there and back")
	})
}

// Whatever was drawn, a room that gets other benches and ovens has each of
// them once, and what stays stands where it stood.
func TestFittedFloors(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		count := rapid.IntRange(1, 16)
		before, after := count.Draw(t, "before"), count.Draw(t, "after")
		had, has := rapid.IntRange(0, 8).Draw(t, "had"), rapid.IntRange(0, 8).Draw(t, "has")
		f := room.Usual(before, ovens(had))
		g := f.Fitted(after, ovens(has))
		require.Empty(t, g.Check())
		benches, hot := 0, 0
		for _, i := range g.Items {
			switch i.Kind {
			case room.Bench:
				benches++
			case room.Oven:
				hot++
			}
			if was, ok := f.Find(i.Name); ok {
				require.Equal(t, was, i)
			}
		}
		require.Equal(t, after, benches)
		require.Equal(t, has, hot)
		require.Equal(t, g, g.Fitted(after, ovens(has)), "once it fits nothing more is done")
	})
}
