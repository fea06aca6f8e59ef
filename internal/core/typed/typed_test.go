package typed_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/core/typed"
)

func ExampleForm() {
	var f typed.Form
	fmt.Println(f.Between("benches", "Benches", "12", 1, 64), f.Minutes("wait", "The wait", "2,5"))
	f.Between("adults", "Adults", "many", 0, 20)
	fmt.Println(f.Err())
	// Output:
	// 12 5/2
	// adults: Adults: “many” is not a whole number from 0 to 20.
}

// Each reading takes the least and the most, and refuses one beyond either.
func TestReadings(t *testing.T) {
	for name, c := range map[string]struct {
		read      func(f *typed.Form, text string) any
		good, bad []string
	}{
		"whole":    {func(f *typed.Form, s string) any { return f.Whole("x", "N", s) }, []string{"0", "-3", " 7 "}, []string{"", "1.5", "x", "1e3"}},
		"between":  {func(f *typed.Form, s string) any { return f.Between("x", "N", s, 1, 64) }, []string{"1", "64"}, []string{"0", "65", ""}},
		"count":    {func(f *typed.Form, s string) any { return f.Count("x", "N", s, 100) }, []string{"1", "100"}, []string{"0", "101", "x"}},
		"minutes":  {func(f *typed.Form, s string) any { return f.Minutes("x", "N", s) }, []string{"0", "1440", "0.5", "2,5"}, []string{"-1", "1440.5", "1441", "", "9999999999"}},
		"positive": {func(f *typed.Form, s string) any { return f.Positive("x", "N", s) }, []string{"0.1", "1000000"}, []string{"0", "-1", "1000001", ""}},
		"name":     {func(f *typed.Form, s string) any { return f.Name("x", "it", s) }, []string{"a", strings.Repeat("é", 80)}, []string{"", "  ", strings.Repeat("é", 81)}},
		"date":     {func(f *typed.Form, s string) any { return f.Date("x", s, "2026-11-26") }, []string{"2000-01-01", "2100-12-31"}, []string{"1999-12-31", "2101-01-01", "2026-02-30", "26.11.2026", ""}},
		"rows":     {func(f *typed.Form, s string) any { return f.Rows("x", "L", s, 2) }, []string{"a; b\r\nc;d", "", strings.Repeat("a;b\n", 200)}, []string{"a", ";b", "a;b;c", strings.Repeat("a;b\n", 201), "a;" + strings.Repeat("b", 239)}},
	} {
		for _, s := range c.good {
			var f typed.Form
			c.read(&f, s)
			assert.NoError(t, f.Err(), "%s: %q", name, s)
		}
		for _, s := range c.bad {
			var f typed.Form
			c.read(&f, s)
			assert.Len(t, f.Problems, 1, "%s: %q", name, s)
		}
	}
}

func TestChoose(t *testing.T) {
	var f typed.Form
	id := func(n int) int64 { return int64(n) }
	assert.Equal(t, 2, typed.Choose(&f, "room", "a room", "2", []int{1, 2}, id))
	assert.Zero(t, typed.Choose(&f, "room", "a room", "3", []int{1, 2}, id))
	assert.Equal(t, "room: Choose a room.", f.Err().Error())
}

// What is out of range is said, and what is returned is in it: nobody makes a thing that
// often before the problem is seen.
func TestNumbersOutOfRange(t *testing.T) {
	var f typed.Form
	for text, want := range map[string]int{"7": 7, " 3 ": 3, "9999999999": 2, "99999999999999999999999": 2, "-1": 2, "": 2, "1e3": 2} {
		assert.Equal(t, want, f.Between("n", "Rings", text, 2, 8), text)
	}
	assert.Len(t, f.Problems, 5)
	assert.Zero(t, f.Whole("n", "Rings", "99999999999999999999999"))
}

// Minutes may be typed with their unit, and numbers with a fraction; what could be several
// times is none.
func TestMinutesWithTheirUnit(t *testing.T) {
	for text, want := range map[string]string{
		"5 min": "5", "5 mins.": "5", "90 minutes": "90", "1h": "60", "1 hour": "60", "1 h 15": "75", "1h15": "75", "half an hour": "30", "1½ hours": "90", "½": "1/2", "1 1/2": "3/2", "2½": "5/2", "ten": "10", "5 min each side": "10",
		"5-10": "", "5-10 min": "", "5 or 10": "", "5 g": "", "every 5 minutes": "", "2 x 5 min": "", "1e2": "100",
	} {
		f := &typed.Form{}
		n := f.Minutes("wait", "The wait", text)
		if want == "" {
			assert.Error(t, f.Err(), text)
			continue
		}
		assert.NoError(t, f.Err(), text)
		assert.Equal(t, want, n.String(), text)
	}
}
