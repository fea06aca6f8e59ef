package clock_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/core/clock"
)

func ExampleTyped() {
	c, _ := clock.Typed(" 9.05 ")
	fmt.Println(c, int(c))
	// Output: 09:05 545
}

// Every minute of the day is written and read as the same.
func TestEveryMinuteOfTheDay(t *testing.T) {
	for m := range clock.Time(24 * 60) {
		read, err := clock.Parse(m.String())
		require.NoError(t, err)
		require.Equal(t, m, read)
		typed, err := clock.Typed(fmt.Sprintf("%d.%02d", int(m)/60, int(m)%60))
		require.NoError(t, err)
		require.Equal(t, m, typed)
	}
}

func TestWhatIsNoTimeOfDay(t *testing.T) {
	for _, s := range []string{"", ":", "9", "24:00", "12:60", "12:5", "12-05", "+9:05", "-1:05", " 9:05", "09:05 ", "09:05:00", "９:05", "ab:cd", "12:0x"} {
		_, err := clock.Parse(s)
		assert.Error(t, err, s)
	}
	for _, s := range []string{"", ".", "9", "9.5", "24.00", "9:60", "1.2.3", "9.05.", "nine", "-9:05", "9:05pm"} {
		_, err := clock.Typed(s)
		assert.Error(t, err, s)
	}
	for s, want := range map[string]string{"9:05": "09:05", "09.05": "09:05", "\t23:59\n": "23:59", "0:00": "00:00"} {
		c, err := clock.Typed(s)
		require.NoError(t, err, s)
		assert.Equal(t, want, c.String())
	}
}
