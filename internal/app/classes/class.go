// Package classes is who is taught: classes, who is in them, what each needs,
// and the rules by which groups are dealt.
package classes

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/scale"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/roster"
	"freshapron/internal/formats/table"
	"freshapron/internal/store"
)

// What the store keeps of classes.
type (
	// A Class with its identity.
	Class = store.Class
	// A List of learners that somebody is bringing in.
	List = store.List
)

// All returns the school's classes by name, without their learners.
func All(ctx context.Context) ([]Class, error) { return school.In(ctx).Classes(ctx) }

// Staff returns who belongs to which class.
func Staff(ctx context.Context) (map[int64][]int64, error) { return school.In(ctx).Staff(ctx) }

// One returns a class. Where whoever acts belongs to it, it comes with what its
// learners need, and that they have seen that is noted.
func One(ctx context.Context, id int64) (school.Class, error) {
	in := school.In(ctx).School
	c, err := school.ClassOf(ctx, in, id)
	if err != nil || !c.Mine {
		return c, err
	}
	return c.Needs(ctx, in, store.Note{Says: "the needs of " + c.Class.Name})
}

// A ClassForm is a class as a form has it, in the words that were typed.
type ClassForm struct{ Name, Age, Pace, Learners string }

// class reads the form.
func (in ClassForm) class(f *typed.Form) lesson.Class {
	c := lesson.Class{Name: f.Name("name", "Give the class a name.", in.Name), Pace: exact.Int(1)}
	if strings.TrimSpace(in.Age) != "" {
		if c.Age = f.Whole("age", "Age", in.Age); c.Age < 3 || c.Age > class.Oldest {
			f.Add("age", "Age: %d is not between 3 and %d years.", c.Age, class.Oldest)
		}
	}
	if strings.TrimSpace(in.Pace) != "" {
		c.Pace = f.Minutes("pace", "Pace", in.Pace)
		if says := class.CheckPace(c.Pace); says != "" {
			f.Add("pace", "%s", says)
		}
	}
	if strings.TrimSpace(in.Learners) != "" {
		const most = 60
		if c.Learners = f.Whole("learners", "Learners", in.Learners); c.Learners < 0 || c.Learners > most {
			f.Add("learners", "Learners: %d is not between 0 and %d.", c.Learners, most)
		}
	}
	return c
}

// AddClass adds a class to which whoever acts then belongs.
func AddClass(ctx context.Context, in ClassForm) (int64, error) {
	a := school.In(ctx)
	var f typed.Form
	c := in.class(&f)
	if f.Problems != nil {
		return 0, f.Problems
	}
	if err := alike(ctx, c.Name, 0); err != nil {
		return 0, err
	}
	var id int64
	err := a.InTransaction(ctx, func(tx *store.School) (err error) {
		if id, err = tx.CreateClass(ctx, c); err != nil {
			return err
		}
		return tx.SetStaff(ctx, id, []int64{school.Acting(ctx).ID})
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
func alike(ctx context.Context, name string, id int64) error {
	a := school.In(ctx)
	all, err := a.Classes(ctx)
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
func ChangeClass(ctx context.Context, id int64, version string, in ClassForm) error {
	a := school.In(ctx)
	v, err := school.Own(ctx, id)
	if err != nil {
		return err
	}
	if version != strconv.Itoa(v.Version) {
		return school.ErrChanged
	}
	var f typed.Form
	c := in.class(&f)
	if f.Problems != nil {
		return f.Problems
	}
	if err := alike(ctx, c.Name, id); err != nil {
		return err
	}
	c.Rules = v.Rules
	if len(v.Roster) > 0 {
		c.Learners = len(v.Roster)
	}
	return sameName(a.ChangeClass(ctx, store.Class{ID: id, Version: v.Version, Class: c}))
}

// SetStaff says who belongs to a class, and so sees its learners' needs.
func SetStaff(ctx context.Context, id int64, accounts []string) error {
	a := school.In(ctx)
	c, err := a.Class(ctx, id)
	if err != nil {
		return err
	}
	all, err := a.Accounts(ctx)
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
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.SetStaff(ctx, id, ids); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "people", Class: id, Says: fmt.Sprintf("%s belongs to: %s", c.Name, strings.Join(names, ", "))})
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
func SaveLearner(ctx context.Context, in, id int64, f LearnerForm) error {
	a := school.In(ctx)
	v, err := school.Own(ctx, in)
	if err != nil {
		return err
	}
	if id != 0 && v.NameOf(id) == "" {
		return school.ErrNotFound
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
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.SaveLearners(ctx, in, []class.Learner{l}, nil); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "needs", Class: in, Says: l.Name() + " of " + v.Class.Name})
	})
}

// RemoveLearner takes a learner out of a class, and their name and what was noted of them
// out of everything into which it was copied. The trail says that somebody left, by a
// number.
func RemoveLearner(ctx context.Context, in, id int64) error {
	a := school.In(ctx)
	v, err := school.Own(ctx, in)
	if err != nil {
		return err
	}
	return a.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.RemoveLearner(ctx, in, id); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "needs", Class: in, Says: store.Left(id) + " left " + v.Class.Name + ", and is forgotten"})
	})
}

// A RuleForm is a rule of dealing groups as a form has it.
type RuleForm struct {
	Kind, Skill string
	Learners    []string `form:"learner"`
}

// AddRule adds a rule by which groups of a class are dealt.
func AddRule(ctx context.Context, id int64, in RuleForm) error {
	a := school.In(ctx)
	v, err := school.Own(ctx, id)
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
	var f typed.Form
	switch {
	case !slices.Contains(class.RuleKinds, r.Kind):
		f.Add("rule", "Choose what the rule asks for.")
	case len(v.Rules) >= mostRules:
		f.Add("rule", "There are %d rules; more could hardly be kept. Take one back first.", mostRules)
	}
	switch r.Kind {
	case class.Together, class.AwayFrom:
		if len(r.Learners) < 2 {
			f.Add("rule", "Choose two learners or more.")
		}
	case class.Near:
		if len(r.Learners) == 0 {
			f.Add("rule", "Choose who is to be near the teacher.")
		}
	case class.OneCan:
		r.Learners, r.Skill = nil, strings.TrimSpace(in.Skill)
		if r.Skill == "" || utf8.RuneCountInString(r.Skill) > typed.LongestName {
			f.Add("rule", "Name a skill that is written beside some learners, such as claw.")
		}
	case class.SameDiet:
		r.Learners = nil
	}
	if f.Problems != nil {
		return f.Problems
	}
	v.Rules = append(slices.Clone(v.Rules), r)
	return a.ChangeClass(ctx, v.Class)
}

// RemoveRule takes a rule back, by its place in the list.
func RemoveRule(ctx context.Context, id int64, version, at string) error {
	a := school.In(ctx)
	v, err := school.Own(ctx, id)
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(at)
	if err != nil || n < 0 || n >= len(v.Rules) || version != strconv.Itoa(v.Version) {
		return school.ErrChanged
	}
	v.Rules = slices.Delete(slices.Clone(v.Rules), n, n+1)
	return a.ChangeClass(ctx, v.Class)
}

// An Exported is a class as a table.
type Exported struct {
	Name string
	Rows [][]string
}

// Write writes the table: as XLSX where the ending says so, otherwise as CSV.
func (e Exported) Write(w io.Writer, ending string) error {
	if ending == ".xlsx" {
		return table.WriteXLSX(w, e.Name, e.Rows)
	}
	return table.WriteCSV(w, e.Rows)
}

// Export returns a class as a table. Needs are in it where whoever acts
// belongs to the class, and that is noted.
func Export(ctx context.Context, id int64) (Exported, error) {
	a := school.In(ctx)
	v, err := school.ClassOf(ctx, a.School, id)
	if err == nil && v.Mine {
		v, err = v.Needs(ctx, a.School, store.Note{Says: "took out the list of " + v.Class.Name})
	}
	return Exported{v.Class.Name, roster.Write(v.Class.Name, v.Roster, v.Mine)}, err
}

// mayBring reports whether whoever acts may bring learners into a class.
func mayBring(ctx context.Context, v school.Class) bool {
	return v.Mine || school.May(ctx, staff.Govern)
}

// Pairs deals a class into pairs by its rules, as a look at what they do.
func Pairs(v school.Class) class.Dealt {
	const pair, benches = 2, 99
	return class.Deal(v.Roster, scale.Groups(len(v.Roster), pair, benches), v.Rules)
}

// About returns all that is held about a learner of one's own class, as JSON, to be given
// to them or their family; that it was asked for is noted in the trail.
func About(ctx context.Context, in, id int64) ([]byte, error) {
	v, err := school.Own(ctx, in)
	if err != nil {
		return nil, err
	}
	a := school.In(ctx)
	held, err := a.About(ctx, in, id)
	if err != nil {
		return nil, err
	}
	if err := school.Note(ctx, a.School, store.Note{Did: "saw", About: "needs", Class: in, Says: "all that is held about " + v.NameOf(id)}); err != nil {
		return nil, err
	}
	return json.MarshalIndent(held, "", "  ")
}
