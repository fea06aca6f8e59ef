// Package times is the school's time: terms and days off, the periods of each
// day, and the week of each class.
package times

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"freshapron/internal/app/school"
	"freshapron/internal/core/clock"
	"freshapron/internal/core/pattern"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/term"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/table"
	"freshapron/internal/formats/timetable"
	"freshapron/internal/store"
)

// A Timetable is all that a school has said of its time.
type Timetable struct {
	Terms   []store.Term
	Periods []store.Period
	Slots   []store.Slot
	Classes []store.Class
	Rooms   []store.Room
}

// All loads it.
func All(ctx context.Context) (Timetable, error) { return timetableOf(ctx, school.In(ctx).School) }

// RemoveTerm takes a term or days off away.
func RemoveTerm(ctx context.Context, id int64) error { return school.In(ctx).RemoveTerm(ctx, id) }

// RemoveSlot takes a class out of the week.
func RemoveSlot(ctx context.Context, id int64) error { return school.In(ctx).RemoveSlot(ctx, id) }

// Bytes is the size of the largest timetable that is read.
const Bytes = table.MaxBytes

// WriteCalendar writes the week as iCalendar, from the beginning of the term.
func WriteCalendar(ctx context.Context, w io.Writer) error {
	a := school.In(ctx)
	t, err := All(ctx)
	if err != nil {
		return err
	}
	from := a.Today()
	for _, s := range t.Terms {
		if !s.Off && !s.Last.Before(a.Today()) && s.First.Before(from) {
			from = s.First
		}
	}
	return timetable.Write(w, t.Lessons(), t.Spans(), from, a.Now().Truncate(time.Second), a.Location)
}

// WriteTable writes the week as CSV.
func WriteTable(ctx context.Context, w io.Writer) error {
	t, err := All(ctx)
	if err != nil {
		return err
	}
	return table.WriteCSV(w, timetable.Rows(t.Lessons(), t.Spans()))
}

func timetableOf(ctx context.Context, s *store.School) (t Timetable, err error) {
	if t.Terms, err = s.Terms(ctx); err != nil {
		return t, err
	}
	if t.Periods, err = s.Periods(ctx); err != nil {
		return t, err
	}
	if t.Slots, err = s.Slots(ctx, 0); err != nil {
		return t, err
	}
	if t.Classes, err = s.Classes(ctx); err != nil {
		return t, err
	}
	t.Rooms, err = s.Rooms(ctx)
	return t, err
}

// ClassName and RoomName return names by id; empty for none.
func (t Timetable) ClassName(id int64) string {
	for _, c := range t.Classes {
		if c.ID == id {
			return c.Name
		}
	}
	return ""
}

// RoomName returns the name of a room.
func (t Timetable) RoomName(id int64) string {
	for _, r := range t.Rooms {
		if r.ID == id {
			return r.Name
		}
	}
	return ""
}

// Period returns a period by its id.
func (t Timetable) Period(id int64) (store.Period, bool) {
	i := slices.IndexFunc(t.Periods, func(p store.Period) bool { return p.ID == id })
	if i < 0 {
		return store.Period{}, false
	}
	return t.Periods[i], true
}

// Lessons returns the week as it is written.
func (t Timetable) Lessons() []timetable.Lesson {
	var out []timetable.Lesson
	for _, s := range t.Slots {
		p, _ := t.Period(s.Period)
		out = append(out, timetable.Lesson{UID: fmt.Sprintf("slot-%d@freshapron", s.ID), Class: t.ClassName(s.Class), Room: t.RoomName(s.Room), Period: p, Day: s.Day})
	}
	return out
}

// Spans returns terms and days off.
func (t Timetable) Spans() []term.Span {
	var out []term.Span
	for _, s := range t.Terms {
		out = append(out, s.Span)
	}
	return out
}

// wrong lists what can't be: a class, or a room, in two places at once.
// Periods may overlap, since juniors and seniors have their own; see
// term.Overlaps.
func (t Timetable) wrong() []string {
	var slots []term.Slot
	for _, s := range t.Slots {
		slots = append(slots, s.Slot)
	}
	return term.Clashes(slots, t.Periods, t.ClassName, t.RoomName)
}

// A TermForm is a term or days off as a form has it.
type TermForm struct {
	Name, First, Last string
	Off               bool
}

// AddTerm adds a term or days off.
func AddTerm(ctx context.Context, in TermForm) error {
	a := school.In(ctx)
	var f typed.Form
	s := term.Span{Name: strings.TrimSpace(in.Name), Off: in.Off}
	if s.Name == "" || utf8.RuneCountInString(s.Name) > typed.LongestName {
		f.Add("term", "Give it a name of at most %d letters.", typed.LongestName)
	}
	var err error
	if s.First, err = time.Parse(time.DateOnly, in.First); err != nil {
		f.Add("term", "“%s” is not a date such as 2026-09-01.", words.Short(in.First))
	}
	if s.Last, err = time.Parse(time.DateOnly, in.Last); err != nil {
		f.Add("term", "“%s” is not a date such as 2026-12-18.", words.Short(in.Last))
	}
	if f.Problems == nil && s.Last.Before(s.First) {
		f.Add("term", "%s ends before it begins.", s.Name)
	}
	if f.Problems != nil {
		return f.Problems
	}
	return a.AddTerm(ctx, s)
}

// A PeriodForm is a period as a form has it.
type PeriodForm struct {
	ID, Name, Start, End string
	Days                 []string `form:"day"` // weekdays by number, from 0 for Monday
}

// SavePeriod adds a period, or changes the one with the id. It refuses one
// with which a class or a room would be in two places.
func SavePeriod(ctx context.Context, in PeriodForm) error {
	a := school.In(ctx)
	var f typed.Form
	p := store.Period{Name: strings.TrimSpace(in.Name)}
	if p.Name == "" || utf8.RuneCountInString(p.Name) > typed.LongestName {
		f.Add("period", "Give the period a name of at most %d letters.", typed.LongestName)
	}
	var err error
	if p.Start, err = clock.Typed(in.Start); err != nil {
		f.Add("period", "“%s” is no time of day such as 10:05.", words.Short(in.Start))
	}
	if p.End, err = clock.Typed(in.End); err != nil {
		f.Add("period", "“%s” is no time of day such as 11:10.", words.Short(in.End))
	}
	if f.Problems == nil && p.End <= p.Start {
		f.Add("period", "%s ends before it begins.", p.Name)
	}
	for _, d := range in.Days {
		if n, err := strconv.Atoi(d); err == nil && n >= 0 && n < len(term.Names) {
			p.Days |= 1 << n
		}
	}
	if p.Days == 0 {
		f.Add("period", "Choose the days on which %s is.", p.Name)
	}
	if f.Problems != nil {
		return f.Problems
	}
	if in.ID != "" {
		if p.ID, err = strconv.ParseInt(in.ID, 10, 64); err != nil {
			return school.ErrNotFound
		}
	}
	err = a.InTransaction(ctx, func(tx *store.School) error {
		if p.ID != 0 {
			err = tx.ChangePeriod(ctx, p)
		} else {
			_, err = tx.CreatePeriod(ctx, p)
		}
		if err != nil {
			return err
		}
		return fits(ctx, tx)
	})
	if errors.Is(err, store.ErrTaken) {
		return problem.List{{Path: "period", Says: "There is a period with this name already."}}
	}
	return err
}

// fits returns problem.List where the timetable can't be as it stands.
func fits(ctx context.Context, tx *store.School) error {
	t, err := timetableOf(ctx, tx)
	if err != nil {
		return err
	}
	const few = 5
	if wrong := t.wrong(); wrong != nil {
		says := strings.Join(wrong[:min(few, len(wrong))], "; ")
		if len(wrong) > few {
			says += fmt.Sprintf("; and %d more", len(wrong)-few)
		}
		return problem.List{{Path: "timetable", Says: says + ". Nothing was saved."}}
	}
	return nil
}

// A SlotForm is a lesson of the week as a form has it.
type SlotForm struct{ Class, Room, Period, Day string }

// AddSlot puts a class into the week.
func AddSlot(ctx context.Context, in SlotForm) error {
	a := school.In(ctx)
	t, err := All(ctx)
	if err != nil {
		return err
	}
	var f typed.Form
	c := typed.Choose(&f, "slot", "a class", in.Class, t.Classes, func(c store.Class) int64 { return c.ID })
	r := typed.Choose(&f, "slot", "a room", in.Room, t.Rooms, func(r store.Room) int64 { return r.ID })
	p := typed.Choose(&f, "slot", "a period", in.Period, t.Periods, func(p store.Period) int64 { return p.ID })
	day, err := strconv.Atoi(in.Day)
	if err != nil || day < 0 || day >= len(term.Names) {
		f.Add("slot", "Choose a day.")
	} else if p.ID != 0 && !p.Days.Has(term.Weekday(day)) {
		f.Add("slot", "%s is not on %s.", p.Name, term.Names[day])
	}
	if f.Problems != nil {
		return f.Problems
	}
	s := term.Slot{Class: c.ID, Room: r.ID, Period: p.ID, Day: term.Weekday(day)}
	if there, wrong := t.there(s); wrong != "" {
		return problem.List{{Path: "slot", Says: words.Capital(wrong) + "."}}
	} else if there {
		return nil
	}
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.AddSlots(ctx, []term.Slot{s}); err != nil {
			return err
		}
		return fits(ctx, tx)
	})
}

// Bring brings in a week, terms and days off from CSV or iCalendar:
// all of it or nothing. It returns in a sentence what it did.
func Bring(ctx context.Context, data []byte) (string, error) {
	a := school.In(ctx)
	week := timetable.Read(data, a.Location)
	problems := week.Problems
	says := ""
	err := a.InTransaction(ctx, func(tx *store.School) error {
		t, err := timetableOf(ctx, tx)
		if err != nil {
			return err
		}
		var slots []term.Slot
		var taken []string
		made, read := 0, 0
		for _, e := range t.lessons(week.Entries) {
			s, wrong := t.slot(e)
			if wrong != "" {
				problems = append(problems, e.Where+": "+wrong)
				continue
			}
			if c := t.ClassName(s.Class); !strings.EqualFold(c, strings.TrimSpace(e.Class)) {
				if says := fmt.Sprintf("“%s” for %s", words.Short(e.Class), c); !slices.Contains(taken, says) {
					taken = append(taken, says)
				}
			}
			if s.Period == 0 { // its times are a period that is not there yet
				p := store.Period{Name: fmt.Sprintf("%s–%s", e.Start, e.End), Start: e.Start, End: e.End, Days: term.SchoolDays | 1<<e.Day}
				if p.ID, err = tx.CreatePeriod(ctx, p); err != nil {
					return err
				}
				t.Periods = append(t.Periods, p)
				s.Period = p.ID
				made++
			}
			there, wrong := t.there(s)
			if wrong != "" {
				problems = append(problems, e.Where+": "+wrong)
			}
			if !there {
				slots = append(slots, s)
				t.Slots = append(t.Slots, store.Slot{Slot: s})
			}
			read++
		}
		if problems != nil {
			const few = 8
			more := ""
			if len(problems) > few {
				more = fmt.Sprintf("; and %d more", len(problems)-few)
			}
			return problem.List{{Path: "timetable", Says: "Nothing was brought in. " + words.Capital(strings.Join(problems[:min(few, len(problems))], "; ")) + more + "."}}
		}
		if err := tx.AddSlots(ctx, slots); err != nil {
			return err
		}
		spans := 0
		for _, s := range week.Spans {
			if !slices.ContainsFunc(t.Terms, func(o store.Term) bool { return o.Name == s.Name && o.First.Equal(s.First) && o.Last.Equal(s.Last) }) {
				if err := tx.AddTerm(ctx, s); err != nil {
					return err
				}
				spans++
			}
		}
		says = fmt.Sprintf("%s of the week, %d terms and days off, %s.", words.Plural(read, "lesson", "lessons"), spans, words.Plural(made, "new period", "new periods"))
		if taken != nil {
			says += " Taken: " + strings.Join(taken, ", ") + "."
		}
		if week.Beside != nil {
			says += " Left out, since it is no lesson: " + besideSays(week.Beside) + "."
		}
		return fits(ctx, tx)
	})
	return says, err
}

// besideSays names what stands over a week or below it.
func besideSays(lines []string) string {
	const few = 4
	var names []string
	for _, l := range lines[:min(few, len(lines))] {
		names = append(names, "“"+words.Short(l)+"”")
	}
	if more := len(lines) - few; more > 0 {
		names = append(names, words.Plural(more, "line more", "lines more"))
	}
	return words.Names(names)
}

// there reports whether a lesson is in the week already, and what is wrong
// where another class is in its place.
func (t Timetable) there(s term.Slot) (bool, string) {
	for _, o := range t.Slots {
		if o.Room != s.Room || o.Period != s.Period || o.Day != s.Day {
			continue
		}
		if o.Class == s.Class {
			return true, ""
		}
		p, _ := t.Period(s.Period)
		return true, fmt.Sprintf("%s has %s in %s on %s already", t.RoomName(s.Room), t.ClassName(o.Class), p.Name, s.Day.Name())
	}
	return false, ""
}

// slot finds class, room and period of an entry by their names; period 0 where
// there is none at these times.
func (t Timetable) slot(e timetable.Entry) (s term.Slot, wrong string) {
	s.Day = e.Day
	classes, rooms, periods := map[int64]string{}, map[int64]string{}, map[int64]string{}
	for _, c := range t.Classes {
		classes[c.ID] = c.Name
	}
	for _, r := range t.Rooms {
		rooms[r.ID] = r.Name
	}
	for _, p := range t.Periods {
		if e.Timed && p.Start == e.Start && p.End == e.End {
			s.Period = p.ID
		}
		periods[p.ID] = numbered(p.Name)
	}
	s.Class = named(classes, e.Class)
	if s.Room = named(rooms, cmp.Or(e.Room, e.Class)); e.Room == "" && len(t.Rooms) == 1 {
		s.Room = t.Rooms[0].ID
	}
	if !e.Timed {
		s.Period = named(periods, numbered(e.Period))
	}
	switch {
	case s.Class != 0 && s.Room == 0 && e.Room == "":
		wrong = fmt.Sprintf("“%s” names no room", words.Short(e.Class))
	case s.Class == 0:
		wrong = fmt.Sprintf("there is no class “%s”", words.Short(e.Class))
	case s.Room == 0:
		wrong = fmt.Sprintf("there is no room “%s”", words.Short(e.Room))
	case s.Period == 0 && !e.Timed:
		wrong = fmt.Sprintf("there is no period “%s”", words.Short(e.Period))
	}
	return s, wrong
}

// lessons are the entries of a week, those in several periods in each of them: “P1-2”,
// where no period is called so.
func (t Timetable) lessons(entries []timetable.Entry) []timetable.Entry {
	var out []timetable.Entry
	for _, e := range entries {
		if slices.ContainsFunc(t.Periods, func(p store.Period) bool { return strings.EqualFold(numbered(p.Name), numbered(e.Period)) }) {
			out = append(out, e)
		} else {
			out = append(out, e.Each()...)
		}
	}
	return out
}

// named returns what is called so, or else the one thing whose name stands in the words,
// where the names of all others that stand there are part of its own; 0 where there is none.
func named(list map[int64]string, text string) (id int64) {
	plain := func(s string) string {
		return " " + strings.Join(strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }), " ") + " "
	}
	found := ""
	for i, name := range list {
		if strings.EqualFold(name, strings.TrimSpace(text)) {
			return i
		}
		if p := plain(name); strings.Contains(plain(text), p) && len(p) > len(found) {
			id, found = i, p
		}
	}
	for i, name := range list {
		if p := plain(name); i != id && strings.Contains(plain(text), p) && (!strings.Contains(found, p) || p == found) {
			return 0
		}
	}
	return id
}

var number = pattern.Must(`(?i)^(?:period|lesson|p|l)\s*(\d+)$`)

// numbered is the name of a period, by its number alone where it is called by that:
// "Period 3", "P3" and "3" are the same.
func numbered(name string) string { return number.ReplaceAllString(strings.TrimSpace(name), "$1") }

// A NextLesson is a free lesson of a class, with its names.
type NextLesson struct {
	term.Free
	Class, Room string
	Period      store.Period
}

// NextFree returns the next free lesson of each of the actor's classes that
// has a place in the week, by date.
func NextFree(ctx context.Context) ([]NextLesson, error) {
	a := school.In(ctx)
	own, err := a.ClassesOf(ctx, school.Acting(ctx).ID)
	if err != nil || len(own) == 0 {
		return nil, err
	}
	t, err := All(ctx)
	if err != nil || len(t.Slots) == 0 {
		return nil, err
	}
	year := term.Year(t.Spans())
	const ahead = 120 // days
	planned, err := a.Planned(ctx, a.Today(), a.Today().AddDate(0, 0, ahead))
	if err != nil {
		return nil, err
	}
	var out []NextLesson
	for _, c := range own {
		var slots []term.Slot
		for _, s := range t.Slots {
			if s.Class == c {
				slots = append(slots, s.Slot)
			}
		}
		taken := func(date time.Time, period int64) bool {
			return slices.ContainsFunc(planned, func(p store.Planned) bool { return p.Class == c && p.Period == period && p.Date.Equal(date) })
		}
		for _, f := range year.Next(slots, a.Today(), taken, 1) {
			p, _ := t.Period(f.Period)
			out = append(out, NextLesson{f, t.ClassName(c), t.RoomName(f.Room), p})
		}
	}
	slices.SortStableFunc(out, func(a, b NextLesson) int { return a.Date.Compare(b.Date) })
	return out, nil
}

// UsualRoom returns the id of the room in which whoever acts is most likely to
// teach: that of their classes in the week, or the first by name; empty where
// there is none.
func UsualRoom(ctx context.Context) (string, error) {
	a := school.In(ctx)
	own, err := a.ClassesOf(ctx, school.Acting(ctx).ID)
	if err != nil {
		return "", err
	}
	slots, err := a.Slots(ctx, 0)
	if err != nil {
		return "", err
	}
	for _, s := range slots {
		if slices.Contains(own, s.Class) {
			return strconv.FormatInt(s.Room, 10), nil
		}
	}
	rooms, err := a.Rooms(ctx)
	if err != nil || len(rooms) == 0 {
		return "", err
	}
	return strconv.FormatInt(rooms[0].ID, 10), nil
}
