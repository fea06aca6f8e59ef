package room_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/room"
)

func ExampleFloor_Walk() {
	f := room.Floor{W: 500, H: 500, Items: []room.Item{{"oven-1", room.Oven, "Oven 1", 0, 0, 50, 50}, {"bench-1", room.Bench, "Bench 1", 400, 0, 100, 50}}}
	_, metres, ok := f.Walk(f.Items[0], f.Items[1])
	fmt.Println(metres, ok)
	// Output: 3.25 true
}

func ovens(n int) []room.Named {
	var out []room.Named
	for i := range n {
		out = append(out, room.Named{ID: fmt.Sprintf("oven-%d", i+1), Name: fmt.Sprintf("Oven %d", i+1)})
	}
	return out
}

// Rooms of any size are laid out so that nothing stands on anything, and every
// bench can be reached from every oven, by a way that is on no furniture and no
// shorter than the crow flies.
func TestUsualRooms(t *testing.T) {
	for _, benches := range []int{1, 2, 5, 12, 20} {
		for _, n := range []int{0, 1, 6} {
			f := room.Usual(benches, ovens(n))
			require.Empty(t, f.Check(), "%d benches, %d ovens", benches, n)
			for _, o := range f.Items {
				for _, b := range f.Items {
					if o.Kind != room.Oven || b.Kind != room.Bench {
						continue
					}
					way, metres, ok := f.Walk(o, b)
					require.True(t, ok)
					a, z := way[0], way[len(way)-1]
					require.GreaterOrEqual(t, metres+0.01, math.Hypot(float64(a.X-z.X), float64(a.Y-z.Y))/100)
					for _, p := range way {
						for _, i := range f.Items {
							inside := p.X > i.X && p.X < i.X+i.W && p.Y > i.Y && p.Y < i.Y+i.H
							require.False(t, inside && i.Kind != room.Door, "the way is through %s", i.Name)
						}
					}
				}
			}
		}
	}
}

func TestWalledIn(t *testing.T) {
	f := room.Floor{W: 500, H: 300, Items: []room.Item{
		{"oven-1", room.Oven, "Oven 1", 0, 100, 50, 50}, {"wall", room.Store, "Wall", 200, 0, 50, 300}, {"bench-1", room.Bench, "Bench 1", 400, 100, 50, 50},
	}}
	_, _, ok := f.Walk(f.Items[0], f.Items[2])
	assert.False(t, ok)
	_, _, ok = room.Floor{}.Walk(room.Item{}, room.Item{})
	assert.False(t, ok)
}

func TestCheck(t *testing.T) {
	f := room.Floor{W: 100, H: 400, Items: []room.Item{{"bench-1", room.Bench, "Bench 1", 0, 0, 60, 10}, {"bench-2", room.Bench, "Bench 2", 50, 0, 60, 60}, {"sink", room.Sink, "Sink", -1, 200, 30, 30}}}
	assert.Equal(t, []string{
		"A side of the room is 100 cm; it must be 200 to 3000.", "Bench 1 is 60 × 10 cm; each side must be at least 20.", "Bench 1 and Bench 2 stand on the same place.",
		"Bench 2 does not stand inside the room.", "Sink does not stand inside the room.",
	}, f.Check())
}

func TestCounts(t *testing.T) {
	assert.Equal(t, 7, room.Count([]room.Thing{{Count: 4}, {Count: 3}}))
	assert.Equal(t, 6, room.Boards([]room.Board{{For: room.RawUse, Count: 6}, {For: "bread", Count: 9}}))
}

// What is renamed in place is the same thing; what is added is new.
func TestKept(t *testing.T) {
	for _, c := range []struct {
		says    string
		was, is []string
		want    []int
	}{
		{"nothing changed", []string{"a", "b"}, []string{"a", "b"}, []int{0, 1}},
		{"one renamed", []string{"a", "b", "c"}, []string{"a", "x", "c"}, []int{0, 1, 2}},
		{"the last renamed", []string{"a", "b"}, []string{"a", "x"}, []int{0, 1}},
		{"all renamed", []string{"a", "b"}, []string{"x", "y"}, []int{0, 1}},
		{"one added at the end", []string{"a", "b"}, []string{"a", "b", "c"}, []int{0, 1, -1}},
		{"one added in the middle", []string{"a", "b"}, []string{"a", "c", "b"}, []int{0, -1, 1}},
		{"one taken away", []string{"a", "b", "c"}, []string{"a", "c"}, []int{0, 2}},
		{"swapped", []string{"a", "b"}, []string{"b", "a"}, []int{1, 0}},
		{"renamed to what another was", []string{"a", "b"}, []string{"b"}, []int{1}},
		{"one renamed and one added: which is which is not known", []string{"a", "b"}, []string{"a", "x", "y"}, []int{0, -1, -1}},
		{"from nothing", nil, []string{"a"}, []int{-1}},
		{"to nothing", []string{"a"}, nil, []int{}},
	} {
		assert.Equal(t, c.want, room.Kept(c.was, c.is), c.says)
	}
}

// What stands on a floor has its least size, stays inside, and may touch.
func TestFloorsOnBothSides(t *testing.T) {
	floor := func(w, h int, items ...room.Item) int { return len(room.Floor{W: w, H: h, Items: items}.Check()) }
	for side, faults := range map[int]int{199: 1, 200: 0, 3000: 0, 3001: 1} {
		assert.Equal(t, faults, floor(side, 500), side)
		assert.Equal(t, faults, floor(500, side), side)
	}
	item := func(x, y, w, h int) room.Item {
		return room.Item{ID: "a", Kind: room.Bench, Name: "A", X: x, Y: y, W: w, H: h}
	}
	for _, c := range []struct {
		i      room.Item
		faults int
	}{
		{item(0, 0, 20, 20), 0}, {item(0, 0, 19, 20), 1}, {item(0, 0, 20, 19), 1},
		{item(480, 480, 20, 20), 0}, {item(481, 480, 20, 20), 1}, {item(480, 481, 20, 20), 1}, {item(-1, 0, 20, 20), 1}, {item(0, -1, 20, 20), 1},
	} {
		assert.Equal(t, c.faults, floor(500, 500, c.i), "%+v", c.i)
	}
	for _, c := range []struct{ x, y, faults int }{{100, 0, 0}, {99, 0, 1}, {0, 100, 0}, {0, 99, 1}, {100, 100, 0}, {50, 50, 1}} {
		assert.Equal(t, c.faults, floor(500, 500, item(0, 0, 100, 100), item(c.x, c.y, 100, 100)), "%+v", c)
		assert.Equal(t, c.faults, floor(500, 500, item(c.x, c.y, 100, 100), item(0, 0, 100, 100)), "%+v", c)
	}
}
