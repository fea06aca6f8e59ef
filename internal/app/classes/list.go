package classes

import (
	"context"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/roster"
	"freshapron/internal/store"
)

// A Column of a list is what its cells say.
type Column = roster.Column

// Skip is a column that says nothing of use.
const Skip = roster.Skip

// Columns lists what a column can be.
var Columns = roster.Columns

// BringList keeps a list of learners that somebody has pasted or chosen, to
// be looked over, and returns its id. Class is of those who have no column
// for it; 0 for none.
func BringList(ctx context.Context, data []byte, class int64) (string, error) {
	a := school.In(ctx)
	list, err := roster.Open(data)
	if err != nil {
		return "", problem.List{{Path: "list", Says: words.Capital(err.Error()) + "."}}
	}
	if class != 0 {
		if v, err := school.ClassOf(ctx, a.School, class); err != nil {
			return "", err
		} else if !mayBring(ctx, v) {
			return "", school.ErrNotYours
		}
	}
	if class != 0 {
		list.InOneClass()
	}
	l := store.List{ID: uuid.NewString(), Account: school.Acting(ctx).ID, Class: class, Cells: list.Rows, Head: list.Head, At: a.Now()}
	for _, c := range list.Columns {
		l.Columns = append(l.Columns, string(c))
	}
	return l.ID, a.KeepList(ctx, l)
}

// A Preview is what a list would do, before it does it.
type Preview struct {
	store.List
	Rows    []PreviewRow
	Classes []string // that would be made
	In      string   // the class of those who have no column for it
	Faulty  int
	Aside   int // that name no learner
	Added   int
	Changed int
	Same    int
}

// A PreviewRow is a row of the list and what it would do.
type PreviewRow struct {
	roster.Row
	Cells []string
	Does  string       // adds, changes, nothing; empty where it is faulty
	Said  []class.Need // that the list itself names
	was   class.Learner
}

// Asks lists the words of what a learner needs that nobody has explained.
func (r PreviewRow) Asks() []string {
	var out []string
	for _, n := range r.Learner.Needs {
		out = append(out, n.Unclear()...)
	}
	return out
}

// Look returns what a list would do.
func Look(ctx context.Context, id string) (Preview, error) {
	a := school.In(ctx)
	p, _, err := preview(ctx, a.School, id)
	return p, err
}

func preview(ctx context.Context, in *store.School, id string) (Preview, map[string]school.Class, error) {
	a := school.In(ctx)
	l, err := in.List(ctx, id, school.Acting(ctx).ID)
	if err != nil {
		return Preview{}, nil, err
	}
	p := Preview{List: l}
	columns := make([]roster.Column, len(l.Columns))
	for i, c := range l.Columns {
		columns[i] = roster.Column(c)
	}
	known := map[string]school.Class{}
	all, err := in.Classes(ctx)
	if err != nil {
		return p, nil, err
	}
	for _, c := range all {
		if c.ID == l.Class {
			p.In = c.Name
		}
		known[strings.ToLower(c.Name)] = school.Class{Class: c}
	}
	rows := roster.Read(l.Cells, columns, l.Head, p.In, a.Today())
	loaded := map[string]bool{}
	for _, r := range rows {
		row := PreviewRow{Row: r, Cells: l.Cells[r.Line-1], Said: r.Learner.Needs}
		if r.Aside {
			p.Aside++
			p.Rows = append(p.Rows, row)
			continue
		}
		key := strings.ToLower(r.Class)
		c, there := known[key]
		if there && !loaded[key] {
			if c, err = school.ClassOf(ctx, in, c.ID); err != nil {
				return p, nil, err
			}
			if mayBring(ctx, c) { // what people need is compared, and shown only as "changes"
				if c, err = c.Needs(ctx, in, store.Note{Says: "a list was compared with the needs of " + c.Class.Name}); err != nil {
					return p, nil, err
				}
			}
			known[key], loaded[key] = c, true
		}
		switch {
		case len(row.Problems) > 0:
		case there && !mayBring(ctx, c):
			row.Problems = append(row.Problems, r.Class+" is somebody else’s class: they can bring learners in, or the head of food")
		case !there && r.Class != "":
			if !slices.Contains(p.Classes, r.Class) {
				p.Classes = append(p.Classes, r.Class)
			}
			row.Does = "adds"
		default:
			row.match(c, columns)
		}
		switch row.Does {
		case "adds":
			p.Added++
		case "changes":
			p.Changed++
		case "nothing":
			p.Same++
		default:
			p.Faulty++
		}
		p.Rows = append(p.Rows, row)
	}
	return p, known, nil
}

// match finds whom of the class a row is about, and what it changes: only
// what the list has columns for.
func (r *PreviewRow) match(c school.Class, columns []roster.Column) {
	var same []class.Learner
	for _, l := range c.Roster {
		if roster.Key("", l) == roster.Key("", r.Learner) {
			same = append(same, l)
		}
	}
	if same == nil { // the birthday or the number may be missing on one side
		is := r.Learner
		for _, l := range c.Roster {
			number := l.Code == "" || is.Code == ""
			birthday := l.Born.IsZero() || is.Born.IsZero() || l.Born.Equal(is.Born)
			if number && birthday && strings.EqualFold(l.Name(), is.Name()) {
				same = append(same, l)
			}
		}
	}
	switch len(same) {
	case 0:
		r.Does = "adds"
	case 1:
		r.was = same[0]
		r.Learner = merged(same[0], r.Learner, columns)
		if r.Does = "changes"; reflect.DeepEqual(r.was, r.Learner) {
			r.Does = "nothing"
		}
	default:
		r.Problems = append(r.Problems, fmt.Sprintf("%d learners of %s are called %s: give the birthday or the school’s number", len(same), c.Class.Name, r.Learner.Name()))
	}
}

// merged returns a learner with what a list has columns for.
func merged(was, is class.Learner, columns []roster.Column) class.Learner {
	out := was
	kinds, beside := map[class.Kind]bool{}, false
	for _, c := range columns {
		switch c {
		case roster.Code:
			out.Code = is.Code
		case roster.Name:
			out.Given, out.Family, beside = is.Given, is.Family, true
		case roster.Given:
			out.Given, beside = is.Given, true
		case roster.Family:
			out.Family, beside = is.Family, true
		case roster.Born:
			out.Born = is.Born
		case roster.Level:
			out.Level = is.Level
		case roster.Can:
			out.Can = is.Can
		case roster.Notes:
			out.Notes = is.Notes
		case roster.Allergy:
			kinds[class.Allergy] = true
		case roster.Diet:
			kinds[class.Diet] = true
		case roster.Access:
			kinds[class.Access] = true
		case roster.Needs:
			for _, k := range class.Kinds {
				kinds[k] = true
			}
		}
	}
	if len(kinds) == 0 {
		if beside { // what stands behind a name is told of who has it, and nothing of who has not
			for _, n := range is.Needs {
				if !slices.ContainsFunc(out.Needs, func(o class.Need) bool { return o.IsCalled(n.What) }) {
					out.Needs = append(slices.Clone(out.Needs), n)
				}
			}
		}
		return out
	}
	out.Needs = nil
	for _, kind := range class.Kinds {
		from := was.Needs
		if kinds[kind] {
			from = is.Needs
		}
		for _, n := range from {
			if n.Kind == kind {
				out.Needs = append(out.Needs, n)
			}
		}
	}
	return out
}

// MendList writes other columns and cells into a list. Cells are by row, from
// 1, and column.
func MendList(ctx context.Context, id string, columns []string, inClass int64, cells map[[2]int]string) error {
	a := school.In(ctx)
	l, err := a.List(ctx, id, school.Acting(ctx).ID)
	if err != nil {
		return err
	}
	for i, c := range columns {
		if i < len(l.Columns) && (c == "" || slices.Contains(roster.Columns, roster.Column(c))) {
			l.Columns[i] = c
		}
	}
	l.Class = inClass
	for at, text := range cells {
		if row, column := at[0]-1, at[1]; row >= 0 && row < len(l.Cells) && column >= 0 && column < len(l.Cells[row]) {
			l.Cells[row][column] = strings.TrimSpace(text)
		}
	}
	return a.KeepList(ctx, l)
}

// TakeList brings a list in, all of it or nothing, and calls done with how
// many learners are written. It returns problem.List where a row is faulty.
func TakeList(ctx context.Context, id string, done func(n, of int)) (Preview, error) {
	a := school.In(ctx)
	var p Preview
	err := a.InTransaction(ctx, func(tx *store.School) (err error) {
		var known map[string]school.Class
		if p, known, err = preview(ctx, tx, id); err != nil {
			return err
		}
		if p.Faulty > 0 {
			return problem.List{{Path: "list", Says: fmt.Sprintf("%d rows can’t be taken as they stand.", p.Faulty)}}
		}
		to := map[int64][]class.Learner{}
		var order []int64
		for _, r := range p.Rows {
			if r.Aside || r.Does == "nothing" {
				continue
			}
			key := strings.ToLower(r.Class)
			if _, ok := known[key]; !ok {
				made, err := classFor(ctx, tx, r)
				if err != nil {
					return err
				}
				known[key] = made
			}
			at := known[key].ID
			if to[at] == nil {
				order = append(order, at)
			}
			to[at] = append(to[at], r.Learner)
		}
		written, all := 0, p.Added+p.Changed
		for _, at := range order {
			if err := tx.SaveLearners(ctx, at, to[at], func(n int) { done(written+n, all) }); err != nil {
				return err
			}
			written += len(to[at])
		}
		if err := school.Note(ctx, tx, store.Note{Did: "changed", About: "needs", Class: p.Class, Says: fmt.Sprintf("brought in a list: %s added, %d changed", words.Plural(p.Added, "learner", "learners"), p.Changed)}); err != nil {
			return err
		}
		return tx.ForgetList(ctx, id)
	})
	return p, err
}

// classFor makes the class that a row names.
func classFor(ctx context.Context, tx *store.School, r PreviewRow) (school.Class, error) {
	a := school.In(ctx)
	c := lesson.Class{Name: r.Class, Pace: exact.Int(1), Age: r.Learner.Age(a.Today())}
	id, err := tx.CreateClass(ctx, c)
	if err != nil {
		return school.Class{}, err
	}
	if !school.May(ctx, staff.Govern) {
		err = tx.SetStaff(ctx, id, []int64{school.Acting(ctx).ID})
	}
	return school.Class{Class: store.Class{ID: id, Class: c}}, err
}
