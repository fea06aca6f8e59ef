package care

import (
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Sheet is a lesson's safety sheet as it stands.
type Sheet struct {
	Lines   []safety.Line
	Edited  map[string]bool // by key
	Version int             // of what was written into it
	Signed  *store.Signature
	Stale   []string // what has changed since it was signed
	basis   string
	unsafe  int
}

// State of the sheet in a word: "signed", "stale" or "open".
func (s Sheet) State() string {
	switch {
	case s.Signed == nil:
		return "open"
	case s.Stale != nil:
		return "stale"
	}
	return "signed"
}

// SheetOf composes the safety sheet of a lesson.
func SheetOf(ctx context.Context, c *Care) (Sheet, error) {
	return sheetOf(ctx, c.View, func() (*Care, error) { return c, nil })
}

func sheetOf(ctx context.Context, c *lessons.View, who func() (*Care, error)) (Sheet, error) {
	a := school.In(ctx)
	var s Sheet
	edits, version, err := a.SheetEdits(ctx, c.ID)
	if err != nil {
		return s, err
	}
	s.Version, s.Edited = version, map[string]bool{}
	composed, unsafe, err := composed(a.Site, c, who)
	if err != nil {
		return s, err
	}
	s.unsafe = unsafe
	s.basis = basisOf(composed)
	for _, l := range composed {
		if at := slices.IndexFunc(edits, func(e safety.Line) bool { return e.Key == l.Key }); at >= 0 {
			e := edits[at]
			s.Edited[l.Key] = e.Done != l.Done || e.Adult != l.Adult || e.Left != l.Left
			l.Done, l.Adult, l.Left = e.Done, e.Adult, e.Left
		}
		s.Lines = append(s.Lines, l)
	}
	for _, e := range edits {
		if strings.HasPrefix(e.Key, "own:") {
			s.Lines = append(s.Lines, e)
			s.Edited[e.Key] = true
		}
	}
	signed, err := a.Signed(ctx, c.ID)
	if errors.Is(err, school.ErrNotFound) {
		return s, nil
	}
	if err != nil {
		return s, err
	}
	s.Signed = &signed
	if signed.Basis != s.basis || basisOf(signed.Lines) != basisOf(s.Lines) {
		s.Stale = differences(signed.Lines, s.Lines)
	}
	return s, nil
}

// A composedSheet is a sheet before anybody has written in it, and for how many
// learners the lesson is not safe. Nobody's name is in it.
type composedSheet struct {
	lines  []safety.Line
	unsafe int
}

// keptSheets is how many are kept.
const keptSheets = 300

// composed composes a sheet, or takes it as it was composed: it is a function
// of the lesson as it is seen, of which the class's version is a part. Who
// loads the lesson's class with what its learners need; it is called only where
// the sheet is not there yet.
func composed(s *school.Site, v *lessons.View, who func() (*Care, error)) ([]safety.Line, int, error) {
	kept := school.Keep[string, composedSheet](s, keptSheets)
	sheet, ok := kept.Get(v.Key())
	if !ok {
		c, err := who()
		if err != nil {
			return nil, 0, err
		}
		eaters := c.Eaters()
		sheet = composedSheet{safety.Compose(c.on(eaters)), Unsafe(eaters)}
		kept.Add(v.Key(), sheet)
	}
	return slices.Clone(sheet.lines), sheet.unsafe, nil
}

// basisOf is a hash of lines.
func basisOf(lines []safety.Line) string {
	sum := sha256.Sum256([]byte(fmt.Sprintf("%q", lines)))
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// differences says what is other than it was signed.
func differences(was, is []safety.Line) []string {
	var out []string
	for _, l := range is {
		at := slices.IndexFunc(was, func(o safety.Line) bool { return o.Key == l.Key })
		switch {
		case at < 0:
			out = append(out, "new: "+l.Hazard)
		case was[at] != l:
			out = append(out, "changed: "+l.Hazard)
		}
	}
	for _, l := range was {
		if !slices.ContainsFunc(is, func(o safety.Line) bool { return o.Key == l.Key }) {
			out = append(out, "gone: "+l.Hazard)
		}
	}
	if out == nil {
		out = []string{"something under it that your words stand for"}
	}
	return out
}

// on is what the sheet is composed of.
func (c *Care) on(eaters []Eater) safety.On {
	on := safety.On{
		Pantry: c.Larder.Pantry, Book: c.Core.Safety, Class: c.Class.Name, Learners: c.Core.Learners(), Age: c.Class.Age,
		Room: c.Room.Name, Benches: len(c.Benches), Sharps: c.Room.Sharps, Outages: c.Room.Outages,
	}
	for _, course := range c.Core.Menu {
		on.Recipes = append(on.Recipes, course.Recipe)
		on.OneBoard = on.OneBoard || c.Core.OneBoard(course)
	}
	on.Needs = touched(eaters)
	for _, h := range c.Helped() {
		for _, n := range h.Needs {
			if n.Kind == class.Access {
				on.Helps = append(on.Helps, n.What)
			}
		}
	}
	if c.Plan != nil {
		for _, r := range on.Recipes {
			waits, long := on.Book.Region.Waits(r, c.Larder.Pantry, c.Fit, c.View.Plan)
			if len(on.Recipes) > 1 {
				for i := range waits {
					waits[i] = r.Title + ": " + waits[i]
				}
			}
			on.Waits, on.TooLong = append(on.Waits, waits...), on.TooLong || long
		}
	}
	if _, hold := c.Core.Half(); hold != nil {
		on.Hold = "Kept in the " + hold.Where
	}
	return on
}

// touched counts the needs that dishes touch whose owners make them.
func touched(eaters []Eater) []safety.Touched {
	var out []safety.Touched
	at := map[string]int{}
	for _, e := range eaters {
		for _, n := range e.Needs {
			mine := func(a safety.Against) bool { return a.Need == n }
			var in []string
			unsafe := false
			for _, d := range e.Dishes {
				if slices.ContainsFunc(d.Written, mine) {
					in = append(in, d.Title)
				}
				unsafe = unsafe || slices.ContainsFunc(d.Left, func(a safety.Against) bool { return mine(a) && a.Verdict == pantry.Never })
			}
			if n.Kind == class.Access || in == nil {
				continue
			}
			i, ok := at[n.What]
			if !ok {
				i = len(out)
				at[n.What] = i
				out = append(out, safety.Touched{What: n.What, In: words.Names(in)})
			}
			t := &out[i]
			t.Learners++
			t.Apart = t.Apart || n.Apart()
			t.Unsafe = t.Unsafe || unsafe
		}
	}
	return out
}

// EditSheet writes a teacher's words into a sheet, by key.
func EditSheet(ctx context.Context, c *Care, version string, edits []safety.Line) error {
	a := school.In(ctx)
	const longest = 2000
	n, err := strconv.Atoi(version)
	if err != nil {
		return school.ErrChanged
	}
	var kept []safety.Line
	for _, e := range edits {
		for _, text := range []string{e.Hazard, e.Who, e.Done, e.Adult, e.Left} {
			if utf8.RuneCountInString(text) > longest {
				return problem.List{{Path: e.Key, Says: fmt.Sprintf("“%s” is longer than %d letters.", words.Short(text), longest)}}
			}
		}
		if !strings.HasPrefix(e.Key, "own:") || e.Hazard != "" {
			kept = append(kept, e)
		}
	}
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.EditSheet(ctx, c.ID, n, kept); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "safety", Class: c.Who.ID, Lesson: c.ID, Says: "the safety sheet of " + c.Core.Titles() + " with " + c.Who.Class.Name})
	})
}

// SignSheet signs a sheet as it stands, where it is still the version that was
// seen.
func SignSheet(ctx context.Context, c *Care, seen string) error {
	a := school.In(ctx)
	s, err := SheetOf(ctx, c)
	if err != nil {
		return err
	}
	if seen != s.Seen() {
		return school.ErrChanged
	}
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.Sign(ctx, store.Signature{Lesson: c.ID, Lines: s.Lines, Basis: s.basis, Who: school.Acting(ctx).Name, At: a.Now()}); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "signed", About: "safety", Class: c.Who.ID, Lesson: c.ID, Says: "the safety sheet of " + c.Core.Titles() + " with " + c.Who.Class.Name})
	})
}

// Seen names what somebody sees of a sheet, so that they sign that and nothing
// else.
func (s Sheet) Seen() string { return basisOf(s.Lines) }

// Safe judges in a sentence whether a lesson is safe, for the staff of its
// class; nil for everybody else. No name and no need is in it.
func Safe(ctx context.Context, v *lessons.View, mine bool) (*lesson.Verdict, error) {
	if !mine || v.Problems != nil {
		return nil, nil
	}
	s, err := sheetOf(ctx, v, func() (*Care, error) {
		// The program reads what is needed to count for how many it is not
		// safe; nobody is shown it here.
		who, err := school.In(ctx).Class(ctx, v.Class.ID)
		if err == nil {
			who, err = school.In(ctx).WithNeeds(ctx, who)
		}
		return &Care{v, school.Class{Class: who}}, err
	})
	if err != nil {
		return nil, err
	}
	out := lesson.SafetyVerdict(s.State(), s.unsafe)
	return &out, nil
}
