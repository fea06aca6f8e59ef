package side_test

import (
	"fmt"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/side"
)

func ExampleBy() {
	sums := make([]int, 3)
	side.By(3, func(w int) { sums[w] = w * w })
	fmt.Println(sums)
	// Output: [0 1 4]
}

// A panic reaches whoever asked, after the others have ended.
func TestPanics(t *testing.T) {
	var ended atomic.Int64
	func() {
		defer func() {
			p, ok := recover().(*side.Panic)
			assert.True(t, ok)
			assert.Equal(t, "spilt", p.Value)
			assert.ErrorContains(t, p, "spilt")
			assert.Contains(t, string(p.Stack), "TestPanics")
		}()
		side.By(5, func(w int) {
			if w == 2 {
				panic("spilt")
			}
			ended.Add(1)
		})
		t.Error("it goes on")
	}()
	assert.EqualValues(t, 4, ended.Load())
	side.By(0, func(int) { t.Error("nobody works") })
}
