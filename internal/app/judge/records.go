package judge

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"freshapron/internal/app/school"
	"freshapron/internal/core/assess"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/photo"
	"freshapron/internal/store"
)

// errShut says that a task is closed.
var errShut = problem.New("task", "This task is closed. Whoever teaches the class can open it again, with a reason")

type recordDoc struct {
	Kind      assess.RecordKind `json:"kind"`
	Criterion string            `json:"criterion,omitempty"`
	Says      string            `json:"says,omitempty"`
	Done      string            `json:"done,omitempty"`
}

func recordsOf(list []store.Record) []assess.Record {
	var out []assess.Record
	for _, r := range list {
		var d recordDoc
		if json.Unmarshal(r.Doc, &d) != nil {
			continue // of another release
		}
		out = append(out, assess.Record{ID: r.Press, At: r.At, Marker: r.Account, Who: r.Who, Learner: r.Learner, Kind: d.Kind, Criterion: d.Criterion, Says: d.Says, Done: d.Done})
	}
	return out
}

// A Book is what was recorded of a task.
type Book struct {
	Sheets map[int64]*assess.Sheet
	Shut   bool
	List   []assess.Record // in the order in which they came
}

// Sheet of a learner; an empty one where nothing is known.
func (b Book) Sheet(learner int64) *assess.Sheet {
	if s := b.Sheets[learner]; s != nil {
		return s
	}
	return &assess.Sheet{Pupil: learner}
}

// BookOf returns what was recorded of a task. Marks of others are in it: whoever shows
// them asks the sheet whether it is open.
func BookOf(ctx context.Context, t *Task) (Book, error) {
	list, err := school.In(ctx).Records(ctx, store.AboutTask(t.ID))
	if err != nil {
		return Book{}, err
	}
	b := Book{List: recordsOf(list)}
	b.Sheets, b.Shut = assess.Sheets(t.Scheme, b.List)
	return b, nil
}

// longestNote is how long a note may be.
const longestNote = 500

// A Said is what a screen sends: a record that is not kept yet, and how many minutes ago
// it was made.
type Said struct {
	Press   string
	Learner int64
	Kind    assess.RecordKind
	Says    string
	Done    string
	Ago     time.Duration
}

// longestAgo is for how long a screen may have been without a network.
const longestAgo = 4 * time.Hour

// Walk keeps what was seen while walking round. What arrives twice counts once; none is
// kept where one can't be.
func Walk(ctx context.Context, t *Task, list []Said) error {
	b, err := BookOf(ctx, t)
	if err != nil {
		return err
	}
	if b.Shut {
		return errShut
	}
	in := school.In(ctx)
	var out []store.Record
	var problems problem.List
	for i, s := range list {
		at := fmt.Sprintf("records[%d]", i)
		if _, ok := t.Learner(s.Learner); !ok {
			problems.Add(at, "Choose whom it is about")
			continue
		}
		switch s.Says = strings.TrimSpace(strings.ToValidUTF8(strings.ReplaceAll(s.Says, "\x00", ""), "")); {
		case uuid.Validate(s.Press) != nil:
			problems.Add(at, "It has no number of its own")
		case !slices.Contains(assess.Walked, s.Kind):
			problems.Add(at, "“%s” is nothing that is seen while walking round", s.Kind)
		case s.Says == "" && (s.Kind == assess.Noted || s.Kind == assess.Question || s.Kind == assess.Hygiene || s.Kind == assess.Safety):
			problems.Add(at, "Write what was seen")
		case utf8.RuneCountInString(s.Says) > longestNote:
			problems.Add(at, "The note is longer than %d letters", longestNote)
		}
		when := in.Now()
		if s.Ago > 0 && s.Ago < longestAgo {
			when = when.Add(-s.Ago)
		}
		out = append(out, record(ctx, s.Press, when, s.Learner, recordDoc{Kind: s.Kind, Says: s.Says, Done: s.Done}))
	}
	if err := problems.Err(); err != nil {
		return err
	}
	return in.AddRecords(ctx, store.AboutTask(t.ID), out...)
}

func record(ctx context.Context, press string, at time.Time, learner int64, d recordDoc) store.Record {
	who := school.Acting(ctx)
	text, _ := json.Marshal(d) // of strings
	return store.Record{Press: press, At: at, Account: who.ID, Who: who.Name, Learner: learner, Doc: text}
}

// Mark keeps marks of whoever acts for a learner, of those criteria that are given, with
// why where one is changed after they were done. Nothing is kept where one can't be.
func Mark(ctx context.Context, t *Task, learner int64, press string, marks map[string]string, why string, ready bool) error {
	sheet, err := marking(ctx, t, learner, press)
	if err != nil {
		return err
	}
	me := school.Acting(ctx).ID
	in := school.In(ctx)
	var out []store.Record
	var problems problem.List
	was := sheet.Marks[me]
	for _, c := range t.Scheme.Criteria {
		text, sent := marks[c.ID]
		text = strings.TrimSpace(text)
		old, had := was[c.ID]
		if !sent || text == "" && !had {
			continue
		}
		if text != "" {
			n, err := c.Mark(text)
			if err != nil {
				problems.Add("mark-"+c.ID, "%s: %s", c.Name, err)
				continue
			}
			if had && n.Cmp(old) == 0 {
				continue
			}
		}
		if text == "" && sheet.Ready[me] {
			problems.Add("mark-"+c.ID, "You were done with these marks: %s needs one", c.Name)
		}
		if had && sheet.Ready[me] && strings.TrimSpace(why) == "" {
			problems.Add("why", "You were done with these marks. Say why “%s” is changed", c.Name)
		}
		out = append(out, record(ctx, press+"/"+c.ID, in.Now(), learner, recordDoc{Kind: assess.Marked, Criterion: c.ID, Done: text, Says: strings.TrimSpace(why)}))
	}
	if ready && problems == nil {
		for _, c := range t.Scheme.Criteria {
			text, sent := marks[c.ID]
			if _, had := was[c.ID]; (!sent && !had) || sent && strings.TrimSpace(text) == "" {
				problems.Add("mark-"+c.ID, "%s has no mark yet. Give one before you are done", c.Name)
			}
		}
		if !sheet.Ready[me] {
			out = append(out, record(ctx, press+"/ready", in.Now(), learner, recordDoc{Kind: assess.Ready}))
		}
	}
	if err := problems.Err(); err != nil {
		return err
	}
	return in.AddRecords(ctx, store.AboutTask(t.ID), out...)
}

// marking returns the sheet of a learner for somebody who marks.
func marking(ctx context.Context, t *Task, learner int64, press string) (*assess.Sheet, error) {
	if _, ok := t.Learner(learner); !ok {
		return nil, school.ErrNotFound
	}
	if !t.Marks {
		return nil, school.ErrNotYours
	}
	if uuid.Validate(press) != nil {
		return nil, problem.New("press", "The form has no number of its own. Load the page again")
	}
	b, err := BookOf(ctx, t)
	if err == nil && b.Shut {
		err = errShut
	}
	return b.Sheet(learner), err
}

// Agree keeps the total that the markers have agreed on, with the reason. Both are done
// before.
func Agree(ctx context.Context, t *Task, learner int64, press, total, why string) error {
	sheet, err := marking(ctx, t, learner, press)
	if err != nil {
		return err
	}
	var problems problem.List
	n, err := assess.ReadMark(total)
	switch {
	case !sheet.Open(t.Markers):
		problems.Add("total", "Not all who mark are done yet")
	case err != nil:
		problems.Add("total", "%s", err)
	case t.Scheme.OutOf.Less(n):
		problems.Add("total", "%s is above %s", n.Decimal(2), t.Scheme.OutOf.Decimal(2))
	}
	if strings.TrimSpace(why) == "" {
		problems.Add("reason", "Say why: it is kept with the mark")
	}
	if err := problems.Err(); err != nil {
		return err
	}
	in := school.In(ctx)
	return in.AddRecords(ctx, store.AboutTask(t.ID), record(ctx, press, in.Now(), learner, recordDoc{Kind: assess.Agreed, Done: strings.TrimSpace(total), Says: strings.TrimSpace(why)}))
}

// Shut closes a task, or opens it again with a reason.
func Shut(ctx context.Context, id int64, press string, shut bool, why string) error {
	t, err := own(ctx, id)
	if err != nil {
		return err
	}
	d := recordDoc{Kind: assess.Shut}
	says := "closed the task “" + t.Title + "”"
	if !shut {
		if d = (recordDoc{Kind: assess.Reopened, Says: strings.TrimSpace(why)}); d.Says == "" {
			return problem.New("why", "Say why it is opened again: it is kept")
		}
		says = "opened the task “" + t.Title + "” again: " + d.Says
	}
	if uuid.Validate(press) != nil {
		return problem.New("press", "The form has no number of its own. Load the page again")
	}
	in := school.In(ctx)
	return in.InTransaction(ctx, func(tx *store.School) error {
		if err := tx.AddRecords(ctx, store.AboutTask(id), record(ctx, press, in.Now(), 0, d)); err != nil {
			return err
		}
		return school.Note(ctx, tx, store.Note{Did: "changed", About: "task", Class: t.View.Class.ID, Says: says})
	})
}

// Looked notes in the trail that whoever acts has looked at marks.
func Looked(ctx context.Context, t *Task, says string) error {
	return school.Note(ctx, school.In(ctx).School, store.Note{Did: "saw", About: "marks", Class: t.View.Class.ID, Says: says + " of “" + t.Title + "”"})
}

// Photograph keeps a picture of what a learner has made, small and with nothing in it but
// the picture.
func Photograph(ctx context.Context, t *Task, learner int64, data []byte) error {
	if _, ok := t.Learner(learner); !ok {
		return school.ErrNotFound
	}
	small, err := photo.Small(ctx, data)
	if err != nil {
		return err
	}
	in := school.In(ctx)
	return in.SavePlate(ctx, t.ID, learner, in.Now(), small)
}
