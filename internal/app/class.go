package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/roster"
	"freshapron/internal/store"
)

// ErrNotYours says that somebody does not belong to a class.
var ErrNotYours = errors.New("the class is somebody else's")

// A ClassView is a class as whoever acts may see it: with what its learners
// need where they belong to it.
type ClassView struct {
	store.Class
	Staff []int64 // accounts
	Mine  bool
}

// Name returns the name of a learner of the class; empty where there is none.
func (c ClassView) Name(id int64) string {
	for _, l := range c.Roster {
		if l.ID == id {
			return l.Name()
		}
	}
	return ""
}

// Mine reports whether whoever acts belongs to a class.
func (a *App) Mine(ctx context.Context, class int64) (bool, error) {
	own, err := a.School.ClassesOf(ctx, Acting(ctx).ID)
	return slices.Contains(own, class), err
}

// Class returns a class. Where whoever acts belongs to it, that they have seen
// its learners' needs is noted.
func (a *App) Class(ctx context.Context, id int64) (ClassView, error) {
	v, err := a.class(ctx, id)
	if err != nil || !v.Mine {
		return v, err
	}
	return v, a.note(ctx, a.School, store.Note{Did: "saw", About: "needs", Class: id, Says: "the needs of " + v.Class.Name})
}

func (a *App) class(ctx context.Context, id int64) (ClassView, error) {
	c, err := a.School.Class(ctx, id)
	if err != nil {
		return ClassView{}, err
	}
	v := ClassView{Class: c}
	if v.Staff, err = a.School.StaffOf(ctx, id); err != nil {
		return v, err
	}
	v.Mine = slices.Contains(v.Staff, Acting(ctx).ID)
	if v.Mine {
		v.Class, err = a.School.WithNeeds(ctx, c)
	}
	return v, err
}

// own returns a class that whoever acts may change.
func (a *App) own(ctx context.Context, id int64) (ClassView, error) {
	v, err := a.class(ctx, id)
	if err == nil && !v.Mine {
		err = ErrNotYours
	}
	return v, err
}

// A ClassForm is a class as a form has it, in the words that were typed.
type ClassForm struct{ Name, Age, Pace, Learners string }

const oldest = 99

func (f *form) class(in ClassForm) lesson.Class {
	c := lesson.Class{Name: strings.TrimSpace(in.Name), Pace: exact.Int(1)}
	switch n := utf8.RuneCountInString(c.Name); {
	case n == 0:
		f.add("name", "Give the class a name.")
	case n > longestName:
		f.add("name", "The name is longer than %d letters.", longestName)
	}
	if strings.TrimSpace(in.Age) != "" {
		if c.Age = f.whole("age", "Age", in.Age); c.Age < 3 || c.Age > oldest {
			f.add("age", "Age: %d is not between 3 and %d years.", c.Age, oldest)
		}
	}
	if strings.TrimSpace(in.Pace) != "" {
		if c.Pace = f.minutes("pace", "Pace", in.Pace); c.Pace.Sign() <= 0 || mostPace.Less(c.Pace) {
			f.add("pace", "Pace: %s is not between 0.1 and 5. 1 is as the recipe says, 1.2 a fifth slower.", c.Pace.Decimal(2))
		}
	}
	if strings.TrimSpace(in.Learners) != "" {
		const most = 60
		if c.Learners = f.whole("learners", "Learners", in.Learners); c.Learners < 0 || c.Learners > most {
			f.add("learners", "Learners: %d is not between 0 and %d.", c.Learners, most)
		}
	}
	return c
}

// AddClass adds a class to which whoever acts then belongs.
func (a *App) AddClass(ctx context.Context, in ClassForm) (int64, error) {
	var f form
	c := f.class(in)
	if f.problems != nil {
		return 0, f.problems
	}
	if err := a.alike(ctx, c.Name, 0); err != nil {
		return 0, err
	}
	var id int64
	err := a.School.InTransaction(ctx, func(tx *store.School) (err error) {
		if id, err = tx.CreateClass(ctx, c); err != nil {
			return err
		}
		return tx.SetStaff(ctx, id, []int64{Acting(ctx).ID})
	})
	return id, sameName(err)
}

func sameName(err error) error {
	if errors.Is(err, store.ErrTaken) {
		return problem.List{{Path: "name", Says: "There is a class with this name already."}}
	}
	return err
}

// alike refuses a name that another class has, in large letters or small:
// lists and timetables name classes either way.
func (a *App) alike(ctx context.Context, name string, id int64) error {
	all, err := a.School.Classes(ctx)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(all, func(o store.Class) bool { return o.ID != id && strings.EqualFold(o.Name, name) }) {
		return sameName(store.ErrTaken)
	}
	return nil
}

// ChangeClass writes a class's name, age, pace and, where nobody is named,
// how many they are.
func (a *App) ChangeClass(ctx context.Context, id int64, version string, in ClassForm) error {
	v, err := a.own(ctx, id)
	if err != nil {
		return err
	}
	if version != strconv.Itoa(v.Version) {
		return store.ErrChanged
	}
	var f form
	c := f.class(in)
	if f.problems != nil {
		return f.problems
	}
	if err := a.alike(ctx, c.Name, id); err != nil {
		return err
	}
	c.Rules = v.Rules
	if len(v.Roster) > 0 {
		c.Learners = len(v.Roster)
	}
	return sameName(a.School.ChangeClass(ctx, store.Class{ID: id, Version: v.Version, Class: c}))
}

// SetStaff says who belongs to a class, and so sees its learners' needs.
func (a *App) SetStaff(ctx context.Context, id int64, accounts []string) error {
	c, err := a.School.Class(ctx, id)
	if err != nil {
		return err
	}
	all, err := a.School.Accounts(ctx)
	if err != nil {
		return err
	}
	var ids []int64
	var names []string
	for _, acc := range all {
		if slices.Contains(accounts, strconv.FormatInt(acc.ID, 10)) {
			ids, names = append(ids, acc.ID), append(names, acc.Name)
		}
	}
	return a.School.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.SetStaff(ctx, id, ids); err != nil {
			return err
		}
		return a.note(ctx, tx, store.Note{Did: "changed", About: "people", Class: id, Says: fmt.Sprintf("%s belongs to: %s", c.Name, strings.Join(names, ", "))})
	})
}

// A LearnerForm is a learner as a form has it. Allergies, diet and access are
// as in a list that is brought in.
type LearnerForm struct {
	Code, Given, Family, Born, Level, Can, Allergies, Diet, Access, Notes string
}

// LearnerFormOf returns a learner in the words of the form.
func LearnerFormOf(l class.Learner) LearnerForm {
	cells := roster.Write("", []class.Learner{l}, true)[1]
	return LearnerForm{Code: cells[1], Given: cells[2], Family: cells[3], Born: cells[4], Level: cells[5], Can: cells[6], Allergies: cells[7], Diet: cells[8], Access: cells[9], Notes: cells[10]}
}

// SaveLearner writes a learner of a class; id 0 adds one.
func (a *App) SaveLearner(ctx context.Context, in, id int64, f LearnerForm) error {
	v, err := a.own(ctx, in)
	if err != nil {
		return err
	}
	if id != 0 && v.Name(id) == "" {
		return store.ErrNotFound
	}
	const longestNote = 2000
	cells := []string{f.Code, f.Given, f.Family, f.Born, f.Level, f.Can, f.Allergies, f.Diet, f.Access, f.Notes}
	for i := range cells {
		if cells[i] = strings.TrimSpace(cells[i]); utf8.RuneCountInString(cells[i]) > longestNote {
			return problem.List{{Path: "learner", Says: fmt.Sprintf("That is longer than %d letters.", longestNote)}}
		}
	}
	columns := []roster.Column{roster.Code, roster.Given, roster.Family, roster.Born, roster.Level, roster.Can, roster.Allergy, roster.Diet, roster.Access, roster.Notes}
	row := roster.Read([][]string{cells}, columns, false, v.Class.Name, a.Today())
	if len(row) == 0 {
		return problem.List{{Path: "learner", Says: "There is no name."}}
	}
	l := row[0].Learner
	l.ID = id
	for _, o := range v.Roster {
		if o.ID != id && roster.Key("", o) == roster.Key("", l) {
			row[0].Problems = append(row[0].Problems, l.Name()+" is in this class already: give a birthday or the school’s number, so that they can be told apart")
		}
	}
	if p := row[0].Problems; p != nil {
		return problem.List{{Path: "learner", Says: words.Capital(strings.Join(p, "; ")) + "."}}
	}
	return a.School.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.SaveLearners(ctx, in, []class.Learner{l}, nil); err != nil {
			return err
		}
		return a.note(ctx, tx, store.Note{Did: "changed", About: "needs", Class: in, Says: l.Name() + " of " + v.Class.Name})
	})
}

// RemoveLearner takes a learner out of a class.
func (a *App) RemoveLearner(ctx context.Context, in, id int64) error {
	v, err := a.own(ctx, in)
	if err != nil {
		return err
	}
	return a.School.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.RemoveLearner(ctx, in, id); err != nil {
			return err
		}
		return a.note(ctx, tx, store.Note{Did: "changed", About: "needs", Class: in, Says: v.Name(id) + " left " + v.Class.Name})
	})
}

// A RuleForm is a rule of dealing groups as a form has it.
type RuleForm struct {
	Kind, Skill string
	Learners    []string
}

// AddRule adds a rule by which groups of a class are dealt.
func (a *App) AddRule(ctx context.Context, id int64, in RuleForm) error {
	v, err := a.own(ctx, id)
	if err != nil {
		return err
	}
	r := class.Rule{Kind: class.RuleKind(in.Kind)}
	for _, l := range v.Roster {
		if slices.Contains(in.Learners, strconv.FormatInt(l.ID, 10)) {
			r.Learners = append(r.Learners, l.ID)
		}
	}
	const mostRules = 40
	var f form
	switch {
	case !slices.Contains(class.RuleKinds, r.Kind):
		f.add("rule", "Choose what the rule asks for.")
	case len(v.Rules) >= mostRules:
		f.add("rule", "There are %d rules; more could hardly be kept. Take one back first.", mostRules)
	}
	switch r.Kind {
	case class.Together, class.AwayFrom:
		if len(r.Learners) < 2 {
			f.add("rule", "Choose two learners or more.")
		}
	case class.Near:
		if len(r.Learners) == 0 {
			f.add("rule", "Choose who is to be near the teacher.")
		}
	case class.OneCan:
		r.Learners, r.Skill = nil, strings.TrimSpace(in.Skill)
		if r.Skill == "" || utf8.RuneCountInString(r.Skill) > longestName {
			f.add("rule", "Name a skill that is written beside some learners, such as claw.")
		}
	case class.SameDiet:
		r.Learners = nil
	}
	if f.problems != nil {
		return f.problems
	}
	v.Rules = append(slices.Clone(v.Rules), r)
	return a.School.ChangeClass(ctx, v.Class)
}

// RemoveRule takes a rule back, by its place in the list.
func (a *App) RemoveRule(ctx context.Context, id int64, version, at string) error {
	v, err := a.own(ctx, id)
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(at)
	if err != nil || n < 0 || n >= len(v.Rules) || version != strconv.Itoa(v.Version) {
		return store.ErrChanged
	}
	v.Rules = slices.Delete(slices.Clone(v.Rules), n, n+1)
	return a.School.ChangeClass(ctx, v.Class)
}

// Export returns a class as a table. Needs are in it where whoever acts
// belongs to the class, and that is noted.
func (a *App) Export(ctx context.Context, id int64) (ClassView, [][]string, error) {
	v, err := a.class(ctx, id)
	if err != nil {
		return v, nil, err
	}
	if v.Mine {
		if err := a.note(ctx, a.School, store.Note{Did: "saw", About: "needs", Class: id, Says: "took out the list of " + v.Class.Name}); err != nil {
			return v, nil, err
		}
	}
	return v, roster.Write(v.Class.Name, v.Roster, v.Mine), nil
}

// mayBring reports whether whoever acts may bring learners into a class.
func (a *App) mayBring(ctx context.Context, v ClassView) bool {
	return v.Mine || May(ctx, staff.Govern)
}

// Pairs deals a class into pairs by its rules, as a look at what they do.
func (a *App) Pairs(v ClassView) class.Dealt {
	const pair, benches = 2, 99
	return class.Deal(v.Roster, scale.Groups(len(v.Roster), pair, benches), v.Rules)
}
