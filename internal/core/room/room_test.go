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
	f := room.Floor{W: 500, H: 500, Items: []room.Item{{room.Oven, "Oven 1", 0, 0, 50, 50}, {room.Bench, "Bench 1", 400, 0, 100, 50}}}
	_, metres, ok := f.Walk(f.Items[0], f.Items[1])
	fmt.Println(metres, ok)
	// Output: 3.25 true
}

func ovens(n int) []string {
	var out []string
	for i := range n {
		out = append(out, fmt.Sprintf("Oven %d", i+1))
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
		{room.Oven, "Oven 1", 0, 100, 50, 50}, {room.Store, "Wall", 200, 0, 50, 300}, {room.Bench, "Bench 1", 400, 100, 50, 50},
	}}
	_, _, ok := f.Walk(f.Items[0], f.Items[2])
	assert.False(t, ok)
	_, _, ok = room.Floor{}.Walk(room.Item{}, room.Item{})
	assert.False(t, ok)
}

func TestCheck(t *testing.T) {
	f := room.Floor{W: 100, H: 400, Items: []room.Item{{room.Bench, "Bench 1", 0, 0, 60, 10}, {room.Bench, "Bench 2", 50, 0, 60, 60}, {room.Sink, "Sink", -1, 200, 30, 30}}}
	assert.Equal(t, []string{
		"A side of the room is 100 cm; it must be 200 to 3000.", "Bench 1 is 60 × 10 cm; each side must be at least 20.", "Bench 1 and Bench 2 stand on the same place.",
		"Bench 2 does not stand inside the room.", "Sink does not stand inside the room.",
	}, f.Check())
}

func TestCounts(t *testing.T) {
	assert.Equal(t, 7, room.Count([]room.Thing{{Count: 4}, {Count: 3}}))
	assert.Equal(t, 6, room.Boards([]room.Board{{For: room.RawUse, Count: 6}, {For: "bread", Count: 9}}))
}
