package app

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/class"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/pantry"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/recipe"
	"freshapron/internal/core/safety"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Care is a lesson with its class, as the staff of the class see it.
type Care struct {
	*View
	Who ClassView
}

// Care returns a lesson with what its learners need. It returns ErrNotYours
// where whoever acts does not belong to the class. That they saw it is noted.
func (a *App) Care(ctx context.Context, id int64) (*Care, error) {
	v, err := a.Lesson(ctx, id)
	if err != nil {
		return nil, err
	}
	c, err := a.class(ctx, v.Class.ID)
	if err != nil {
		return nil, err
	}
	if !c.Mine {
		return nil, ErrNotYours
	}
	return &Care{v, c}, a.note(ctx, a.School, store.Note{Did: "saw", About: "needs", Class: c.ID, Lesson: id, Says: "the needs of " + c.Class.Name + " for " + v.Dish.Title})
}

// present returns who is there, with what they need.
func (c *Care) present() []class.Learner {
	return slices.DeleteFunc(slices.Clone(c.Who.Roster), func(l class.Learner) bool { return slices.Contains(c.Absent, l.ID) })
}

// change loads a lesson of the actor's own class at a version, lets f change
// it, and saves it where it can be planned.
func (a *App) changeOwn(ctx context.Context, id int64, version string, f func(*store.Lesson) (did string, err error)) error {
	l, err := a.at(ctx, id, version)
	if err != nil {
		return err
	}
	if mine, err := a.Mine(ctx, l.Class.ID); err != nil {
		return err
	} else if !mine {
		return ErrNotYours
	}
	did, err := f(&l)
	if err != nil {
		return err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	if err := l.Plan(larder.tables()).Check(); err != nil {
		return err
	}
	return a.School.ChangeLesson(ctx, l, did)
}

// SetAbsent says who is away. Groups, amounts and the plan follow.
func (a *App) SetAbsent(ctx context.Context, id int64, version string, away []string) error {
	return a.changeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Absent = nil
		for _, p := range l.Class.Roster {
			if slices.Contains(away, strconv.FormatInt(p.ID, 10)) {
				l.Absent = append(l.Absent, p.ID)
			}
		}
		if len(l.Absent) == 0 {
			return "Everybody is there", nil
		}
		return fmt.Sprintf("%d away", len(l.Absent)), nil
	})
}

// SetTeams puts learners into groups by hand: group says for each in which,
// from 1. Nil deals them by the rules again.
func (a *App) SetTeams(ctx context.Context, id int64, version string, group map[int64]string) error {
	return a.changeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Teams = nil
		if group == nil {
			return "Groups dealt by the rules", nil
		}
		const most = 60
		teams := map[int][]int64{}
		for _, p := range l.Class.Roster {
			if slices.Contains(l.Absent, p.ID) {
				continue
			}
			n, err := strconv.Atoi(strings.TrimSpace(group[p.ID]))
			if err != nil || n < 1 || n > most {
				return "", problem.List{{Path: "teams", Says: fmt.Sprintf("%s: “%s” is not the number of a group.", p.Name(), words.Short(group[p.ID]))}}
			}
			teams[n] = append(teams[n], p.ID)
		}
		for n := 1; n <= most; n++ {
			if teams[n] != nil {
				l.Teams = append(l.Teams, teams[n])
			}
		}
		return "Groups put together by hand", nil
	})
}

// An Eater is a learner with needs about food, and how a dish suits them.
type Eater struct {
	class.Learner
	Bench   string
	Written []safety.Against // of the dish as it is written
	Swaps   []SwapVerdict    // each of the recipe's swaps alone
	Best    safety.WayToEat
	Chosen  []lesson.Swap    // for them
	Left    []safety.Against // with what their bench makes
	Apart   bool
}

// A SwapVerdict is a swap of the recipe, and how the dish suits somebody with
// this swap alone.
type SwapVerdict struct {
	recipe.Swap
	Verdict pantry.Verdict
	Helps   bool // something less stands against it
}

// Eaters judges the dish for everybody who is there and has needs about food.
func (c *Care) Eaters() []Eater {
	var out []Eater
	p := c.Larder.Pantry
	benches := c.Core.Benches()
	for _, l := range c.present() {
		if !slices.ContainsFunc(l.Needs, func(n class.Need) bool { return n.Kind != class.Access }) {
			continue
		}
		e := Eater{Learner: l, Written: safety.Eats(c.Dish.Recipe, p, l.Needs), Apart: safety.Apart(c.Dish.Recipe, p, l.Needs)}
		for _, s := range c.Dish.Swaps {
			left := safety.Eats(c.Dish.Recipe.Swapped(c.Core.Take, s), p, l.Needs)
			e.Swaps = append(e.Swaps, SwapVerdict{s, safety.Worst(left), len(left) < len(e.Written)})
		}
		e.Best = safety.CanEat(c.Dish.Recipe, p, l.Needs, c.Core.Take)
		for _, s := range c.Swaps {
			if s.Learner == l.ID {
				e.Chosen = append(e.Chosen, s)
			}
		}
		made := c.Dish.Recipe
		if g := c.group(l.ID); g >= 0 && g < len(benches) {
			e.Bench = benches[g].Name
			made = c.kindOf(benches[g]).Recipe
		}
		e.Left = safety.Eats(made, p, l.Needs)
		out = append(out, e)
	}
	return out
}

// group returns the place of a learner's group, or -1.
func (c *Care) group(id int64) int {
	return slices.IndexFunc(c.Dealt.Groups, func(g []class.Learner) bool {
		return slices.ContainsFunc(g, func(l class.Learner) bool { return l.ID == id })
	})
}

func (v *View) kindOf(b lesson.Bench) lesson.KindOfBench {
	for _, s := range v.Sizes {
		if slices.ContainsFunc(s.Benches, func(o lesson.Bench) bool { return o.ID == b.ID }) {
			return s.KindOfBench
		}
	}
	return lesson.KindOfBench{Recipe: v.Dish.Recipe}
}

// Unsafe counts those for whom nothing makes what their bench makes safe.
func Unsafe(eaters []Eater) int {
	n := 0
	for _, e := range eaters {
		if safety.Worst(e.Left) == pantry.Never {
			n++
		}
	}
	return n
}

// SetSwaps says which swaps of the recipe a learner's bench works with: by
// their places in the recipe's list.
func (a *App) SetSwaps(ctx context.Context, id int64, version string, learner int64, chosen []string) error {
	return a.changeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		if !slices.ContainsFunc(l.Class.Roster, func(p class.Learner) bool { return p.ID == learner }) {
			return "", store.ErrNotFound
		}
		l.Swaps = slices.DeleteFunc(slices.Clone(l.Swaps), func(s lesson.Swap) bool { return s.Learner == learner })
		for i, s := range l.Dish.Swaps {
			if slices.Contains(chosen, strconv.Itoa(i)) {
				l.Swaps = append(l.Swaps, lesson.Swap{Learner: learner, For: s.For, Use: s.Use})
			}
		}
		return "Changed: swaps", nil
	})
}

// SwapAll takes for everybody the swaps with which they can eat the dish.
func (a *App) SwapAll(ctx context.Context, id int64, version string) error {
	c, err := a.Care(ctx, id)
	if err != nil {
		return err
	}
	return a.changeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		l.Swaps = nil
		for _, e := range c.Eaters() {
			for _, s := range e.Best.Swaps {
				l.Swaps = append(l.Swaps, lesson.Swap{Learner: e.ID, For: s.For, Use: s.Use})
			}
		}
		return "Swaps taken for everybody who needs them", nil
	})
}

// A Helped is a learner for whom something goes beyond what they can do, with
// the ways that are offered.
type Helped struct {
	class.Learner
	Bench string
	Steps []HelpedStep
	Whole []OfferedWay
}

// A HelpedStep is a step with the other ways to do it.
type HelpedStep struct {
	ID, Title string
	Dangers   []recipe.Danger
	Ways      []OfferedWay
}

// An OfferedWay is another way, and whether it was chosen.
type OfferedWay struct {
	safety.Way
	Chosen bool
}

// Helped returns for whom other ways are offered, and which.
func (c *Care) Helped() []Helped {
	var out []Helped
	book, p := c.Core.Safety, c.Larder.Pantry
	benches := c.Core.Benches()
	dangers := c.Dish.EveryDanger(p)
	for _, l := range c.present() {
		taken := func(step, way string) bool {
			return slices.Contains(c.OtherWays, lesson.WayTaken{Learner: l.ID, Step: step, Way: way})
		}
		h := Helped{Learner: l}
		for n, s := range c.Dish.Steps {
			step := HelpedStep{ID: s.ID, Title: s.Title, Dangers: dangers[n]}
			for _, w := range book.Offers(l, s, dangers[n]) {
				step.Ways = append(step.Ways, OfferedWay{w, taken(s.ID, w.ID)})
			}
			if step.Ways != nil {
				h.Steps = append(h.Steps, step)
			}
		}
		for _, w := range book.Wholes(l) {
			if w.Apart && !safety.Apart(c.Dish.Recipe, p, l.Needs) {
				continue // nothing in this dish asks for it
			}
			h.Whole = append(h.Whole, OfferedWay{w, taken("", w.ID)})
		}
		if h.Steps == nil && h.Whole == nil {
			continue
		}
		if g := c.group(l.ID); g >= 0 && g < len(benches) {
			h.Bench = benches[g].Name
		}
		out = append(out, h)
	}
	// Those who need it come before those who only begin.
	slices.SortStableFunc(out, func(a, b Helped) int { return cmp.Compare(a.rank(), b.rank()) })
	return out
}

func (h Helped) rank() int {
	if slices.ContainsFunc(h.Needs, func(n class.Need) bool { return n.Kind == class.Access }) {
		return 0
	}
	return 1
}

// SetWays says which other ways a learner works in: each as step and way with
// a space between; the step is empty for what holds the whole lesson.
func (a *App) SetWays(ctx context.Context, id int64, version string, learner int64, chosen []string) error {
	larder, err := a.Larder(ctx)
	if err != nil {
		return err
	}
	return a.changeOwn(ctx, id, version, func(l *store.Lesson) (string, error) {
		if !slices.ContainsFunc(l.Class.Roster, func(p class.Learner) bool { return p.ID == learner }) {
			return "", store.ErrNotFound
		}
		book := larder.Settings.Book()
		l.OtherWays = slices.DeleteFunc(slices.Clone(l.OtherWays), func(w lesson.WayTaken) bool { return w.Learner == learner })
		for _, c := range chosen {
			step, way, _ := strings.Cut(c, " ")
			there := step == "" || slices.ContainsFunc(l.Dish.Steps, func(s recipe.Step) bool { return s.ID == step })
			if _, ok := book.Way(way); ok && there {
				l.OtherWays = append(l.OtherWays, lesson.WayTaken{Learner: learner, Step: step, Way: way})
			}
		}
		return "Changed: other ways to do it", nil
	})
}

// A Sheet is a lesson's safety sheet as it stands.
type Sheet struct {
	Lines   []safety.Line
	Edited  map[string]bool // by key
	Version int             // of what was written into it
	Signed  *store.Signature
	Stale   []string // what has changed since it was signed
	basis   string
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

// Sheet composes the safety sheet of a lesson.
func (a *App) Sheet(ctx context.Context, c *Care) (Sheet, error) {
	var s Sheet
	edits, version, err := a.School.SheetEdits(ctx, c.ID)
	if err != nil {
		return s, err
	}
	s.Version, s.Edited = version, map[string]bool{}
	composed, _ := a.composed(c)
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
	signed, err := a.School.Signed(ctx, c.ID)
	if errors.Is(err, store.ErrNotFound) {
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
// learners the lesson is not safe.
type composedSheet struct {
	lines  []safety.Line
	unsafe int
}

// composed composes a sheet, or takes it as it was composed: it is a function
// of the lesson as it is seen, of which the class's version is a part.
func (a *App) composed(c *Care) ([]safety.Line, int) {
	key := c.key()
	s, ok := a.sheets.Get(key)
	if !ok {
		eaters := c.Eaters()
		s = composedSheet{safety.Compose(c.on(eaters)), Unsafe(eaters)}
		a.sheets.Add(key, s)
	}
	return slices.Clone(s.lines), s.unsafe
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
		Recipe: c.Dish.Recipe, Pantry: c.Larder.Pantry, Book: c.Core.Safety, Class: c.Class.Name, Learners: c.Core.Learners(), Age: c.Class.Age,
		Room: c.Room.Name, Benches: len(c.Core.Benches()), Sharps: c.Room.Sharps, OneBoard: c.Core.OneBoard(), Outages: c.Room.Outages,
	}
	touched := map[string]int{}
	for _, e := range eaters {
		for _, n := range e.Needs {
			against := safety.Eats(c.Dish.Recipe, c.Larder.Pantry, []class.Need{n})
			if n.Kind == class.Access || len(against) == 0 {
				continue
			}
			i, ok := touched[n.What]
			if !ok {
				i = len(on.Needs)
				touched[n.What] = i
				on.Needs = append(on.Needs, safety.Touched{What: n.What})
			}
			t := &on.Needs[i]
			t.Learners++
			t.Apart = t.Apart || n.Apart()
			t.Unsafe = t.Unsafe || slices.ContainsFunc(e.Left, func(l safety.Against) bool { return l.Need == n && l.Verdict == pantry.Never })
		}
	}
	for _, h := range c.Helped() {
		for _, n := range h.Needs {
			if n.Kind == class.Access {
				on.Helps = append(on.Helps, n.What)
			}
		}
	}
	if c.Plan != nil {
		on.Waits, on.TooLong = on.Book.Region.Waits(c.Dish.Recipe, c.Larder.Pantry, c.Fit, c.View.Plan)
	}
	if _, hold := c.Core.Half(); hold != nil {
		on.Hold = "Kept in the " + hold.Where
	}
	return on
}

// EditSheet writes a teacher's words into a sheet, by key.
func (a *App) EditSheet(ctx context.Context, c *Care, version string, edits []safety.Line) error {
	const longest = 2000
	n, err := strconv.Atoi(version)
	if err != nil {
		return store.ErrChanged
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
	return a.School.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.EditSheet(ctx, c.ID, n, kept); err != nil {
			return err
		}
		return a.note(ctx, tx, store.Note{Did: "changed", About: "safety", Class: c.Who.ID, Lesson: c.ID, Says: "the safety sheet of " + c.Dish.Title + " with " + c.Who.Class.Name})
	})
}

// SignSheet signs a sheet as it stands, where it is still the version that was
// seen.
func (a *App) SignSheet(ctx context.Context, c *Care, seen string) error {
	s, err := a.Sheet(ctx, c)
	if err != nil {
		return err
	}
	if seen != s.Seen() {
		return store.ErrChanged
	}
	return a.School.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.Sign(ctx, store.Signature{Lesson: c.ID, Lines: s.Lines, Basis: s.basis, Who: Acting(ctx).Name, At: a.Now()}); err != nil {
			return err
		}
		return a.note(ctx, tx, store.Note{Did: "signed", About: "safety", Class: c.Who.ID, Lesson: c.ID, Says: "the safety sheet of " + c.Dish.Title + " with " + c.Who.Class.Name})
	})
}

// Seen names what somebody sees of a sheet, so that they sign that and nothing
// else.
func (s Sheet) Seen() string { return basisOf(s.Lines) }

// A Probing is a temperature as a form has it, in the words that were typed.
type Probing struct {
	Bench, Kind, Food, Celsius, Seconds string
	Simulated                           bool
}

// WriteDown judges a temperature by the school's table and writes it into the
// lesson's log, where it stays.
func (a *App) WriteDown(ctx context.Context, id int64, in Probing) (store.TempReading, error) {
	l, err := a.School.Lesson(ctx, id)
	if err != nil {
		return store.TempReading{}, err
	}
	larder, err := a.Larder(ctx)
	if err != nil {
		return store.TempReading{}, err
	}
	region := larder.Settings.Book().Region
	var f form
	r := store.TempReading{Lesson: l.ID, Bench: strings.TrimSpace(in.Bench), Kind: in.Kind, Food: in.Food, Simulated: in.Simulated, Who: Acting(ctx).Name, At: a.Now()}
	if r.Celsius, err = strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(in.Celsius), ",", "."), 64); err != nil || !(r.Celsius > -60 && r.Celsius < 350) {
		f.add("celsius", "“%s” is no temperature in °C between −60 and 350.", words.Short(in.Celsius))
	}
	if strings.TrimSpace(in.Seconds) != "" {
		if r.Seconds = f.whole("seconds", "How long", in.Seconds); r.Seconds < 0 || r.Seconds > 86_400 {
			f.add("seconds", "How long: %d is not between 0 and 86 400.", r.Seconds)
		}
	}
	if n := utf8.RuneCountInString(r.Bench); n == 0 || n > longestName {
		f.add("bench", "Say at which bench, or of what.")
	}
	switch r.Kind {
	case "core":
		if !slices.Contains(region.Foods(), r.Food) {
			f.add("food", "Choose what was probed.")
		}
		r.Good, r.Says = region.Cooked(r.Food, r.Celsius, r.Seconds)
	case "hot", "cold":
		const minute = 60
		r.Good, r.Says = region.Kept(r.Kind == "hot", r.Celsius, r.Seconds/minute)
	default:
		f.add("kind", "Choose what was measured.")
	}
	if f.problems != nil {
		return r, f.problems
	}
	return r, a.School.AddReading(ctx, r)
}

// Safe judges in a sentence whether a lesson is safe, for the staff of its
// class; nil for everybody else. No name and no need is in it.
func (a *App) Safe(ctx context.Context, v *View) (*lesson.Verdict, error) {
	c, err := a.class(ctx, v.Class.ID)
	if err != nil || !c.Mine || v.Problems != nil {
		return nil, err
	}
	care := &Care{v, c}
	s, err := a.Sheet(ctx, care)
	if err != nil {
		return nil, err
	}
	_, unsafe := a.composed(care)
	out := &lesson.Verdict{About: "safety", Light: lesson.Good, Head: "Signed", Says: "the safety sheet is signed and as it was."}
	switch s.State() {
	case "open":
		out.Light, out.Head, out.Says = lesson.Look, "Not signed", "the safety sheet waits for a name."
	case "stale":
		out.Light, out.Head, out.Says = lesson.Stop, "Out of date", "something has changed since the safety sheet was signed."
	}
	if unsafe > 0 {
		out.Light, out.Head, out.Says = lesson.Stop, fmt.Sprintf("Not safe for %d", unsafe), "what their bench makes is not for them. "+words.Capital(out.Says)
	}
	return out, nil
}
