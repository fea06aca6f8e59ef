// Package term knows the school's year: terms, days off, the periods of each
// weekday, and which class is where when.
package term

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"freshapron/internal/core/clock"
)

// A Weekday counts from Monday, 0, to Sunday, 6.
type Weekday int

// Names of the weekdays, from Monday.
var Names = []string{"Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"}

// Of returns the weekday of a date.
func Of(d time.Time) Weekday { return Weekday((int(d.Weekday()) + 6) % 7) }

// Name returns the weekday in a word.
func (w Weekday) Name() string { return Names[w] }

// WeekdayOf reads a weekday by its name, the first letters of it, or as all of them: “Mondays”.
func WeekdayOf(s string) (Weekday, bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	if s == "weds" {
		s = "wed"
	}
	if strings.HasSuffix(s, "days") {
		s = strings.TrimSuffix(s, "s")
	}
	for i, n := range Names {
		if len(s) >= 2 && strings.HasPrefix(strings.ToLower(n), s) {
			return Weekday(i), true
		}
	}
	return 0, false
}

// Days is a set of weekdays, a bit each from Monday.
type Days int

// SchoolDays are Monday to Friday.
const SchoolDays Days = 31

// Has reports whether the set has the weekday.
func (d Days) Has(w Weekday) bool { return d&(1<<w) != 0 }

// Says prints the set: "Mon, Tue, Fri"; empty for Monday to Friday.
func (d Days) Says() string {
	if d == SchoolDays {
		return ""
	}
	var out []string
	for w := range Weekday(7) {
		if d.Has(w) {
			out = append(out, w.Name()[:3])
		}
	}
	return strings.Join(out, ", ")
}

// A Span is a term, or days off in one; both dates belong to it.
type Span struct {
	Name        string
	First, Last time.Time
	Off         bool
}

// A Year is all that a school has said of its terms and days off.
type Year []Span

// School reports whether there is school on a day: in a term, where any term
// is known, and on no day off.
func (y Year) School(day time.Time) bool {
	in, terms := false, false
	for _, s := range y {
		has := !day.Before(s.First) && !day.After(s.Last)
		if s.Off && has {
			return false
		}
		if !s.Off {
			terms = true
			in = in || has
		}
	}
	return in || !terms
}

// A Period of the day, in the school's local time.
type Period struct {
	ID         int64
	Name       string
	Start, End clock.Time
	Days       Days
}

// Overlaps lists pairs of periods that share time on a day, though neither is
// made of whole others: a double period may hold two single ones.
func Overlaps(periods []Period) []string {
	var out []string
	for i, a := range periods {
		for _, b := range periods[i+1:] {
			if a.Days&b.Days == 0 || a.End <= b.Start || b.End <= a.Start {
				continue
			}
			inside := a.Start <= b.Start && b.End <= a.End || b.Start <= a.Start && a.End <= b.End
			if !inside {
				out = append(out, fmt.Sprintf("%s (%s–%s) and %s (%s–%s) overlap", a.Name, a.Start, a.End, b.Name, b.Start, b.End))
			}
		}
	}
	return out
}

// A Slot is a class in a room at a period, each week.
type Slot struct {
	Class, Room, Period int64
	Day                 Weekday
}

// A Free lesson of a class: nothing is planned in it yet.
type Free struct {
	Date time.Time
	Slot
}

// Next returns the next lessons of a class that are free, from a day on: its
// slots on school days, without those that are taken.
func (y Year) Next(slots []Slot, from time.Time, taken func(date time.Time, period int64) bool, most int) []Free {
	const horizon = 200 // days that are looked ahead
	var out []Free
	for i := 0; i < horizon && len(out) < most; i++ {
		day := from.AddDate(0, 0, i)
		if !y.School(day) {
			continue
		}
		for _, s := range slots {
			if s.Day == Of(day) && !taken(day, s.Period) {
				out = append(out, Free{day, s})
			}
		}
	}
	return out[:min(most, len(out))]
}

// Crosses tells of a lesson over a change of the clocks: how many minutes the
// school's clocks say, and how many there really are. It reports false where
// they are the same.
func Crosses(day time.Time, start, end clock.Time, loc *time.Location) (says, really int, crosses bool) {
	at := func(c clock.Time) time.Time {
		return time.Date(day.Year(), day.Month(), day.Day(), int(c)/60, int(c)%60, 0, 0, loc)
	}
	says, really = int(end-start), int(at(end).Sub(at(start)).Minutes())
	return says, really, says != really
}

// Clashes lists slots of which two put one class, or one room, in two places at
// overlapping times.
func Clashes(slots []Slot, periods []Period, class, room func(int64) string) []string {
	at := func(id int64) (Period, bool) {
		i := slices.IndexFunc(periods, func(p Period) bool { return p.ID == id })
		if i < 0 {
			return Period{}, false
		}
		return periods[i], true
	}
	var out []string
	for i, a := range slots {
		pa, ok := at(a.Period)
		for _, b := range slots[i+1:] {
			pb, ok2 := at(b.Period)
			if !ok || !ok2 || a.Day != b.Day || pa.End <= pb.Start || pb.End <= pa.Start {
				continue
			}
			switch {
			case a.Class == b.Class:
				out = append(out, fmt.Sprintf("%s is in two places on %s: %s and %s", class(a.Class), a.Day.Name(), pa.Name, pb.Name))
			case a.Room == b.Room:
				out = append(out, fmt.Sprintf("%s has %s and %s on %s: %s and %s", room(a.Room), class(a.Class), class(b.Class), a.Day.Name(), pa.Name, pb.Name))
			}
		}
	}
	return out
}
