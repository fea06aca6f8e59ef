// Package clock knows times of day.
package clock

import (
	"fmt"
	"strings"
	"time"
)

// A Time is a time of day in minutes after midnight. Past midnight of the next
// day it goes on counting: 1445 prints as 24:05.
type Time int

// String prints hh:mm.
func (t Time) String() string { return fmt.Sprintf("%02d:%02d", int(t)/60, int(t)%60) }

// Parse reads "hh:mm", 00:00 to 23:59.
func Parse(s string) (Time, error) {
	t, err := time.Parse("15:04", s)
	if err != nil || len(s) != len("15:04") {
		return 0, fmt.Errorf("%q is no time of day such as 10:05", s)
	}
	return Time(t.Hour()*60 + t.Minute()), nil
}

// Typed reads a time of day as people type it: 9:05, 9.05 or 09:05, with
// spaces round it.
func Typed(s string) (Time, error) {
	padded := strings.Replace(strings.TrimSpace(s), ".", ":", 1)
	if strings.Index(padded, ":") == 1 {
		padded = "0" + padded
	}
	return Parse(padded)
}
