package store

import (
	"context"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"gorm.io/gorm"

	"freshapron/internal/core/class"
)

// Left stands in the place of the name of a learner who is not to be known any more.
func Left(id int64) string { return fmt.Sprintf("learner %d", id) }

// copied are the texts into which names of learners are copied: of sheets and their
// signatures, of notes while a lesson runs and a task is walked round, of the trail.
var copied = []struct{ table, column, kind string }{
	{"audit", "says", "text"}, {"sheets", "edits", "jsonb"}, {"signatures", "lines", "jsonb"}, {"signatures", "basis", "text"}, {"lesson_versions", "did", "text"}, {"events", "line", "text"},
	{"records", "doc", "jsonb"}, {"readings", "bench", "text"}, {"ticks", "line", "text"}, {"outbox", "body", "text"}, {"runs", "lesson", "text"}, {"runs", "plan", "text"}, {"lesson_files", "lesson", "text"},
}

// forgetting lets a transaction change and take away what otherwise only grows.
func (s *School) forgetting() error {
	return s.db.Exec("SELECT set_config('freshapron.forgetting', 'yes', true)").Error
}

// forget takes the name of a learner, and what is noted of them, out of everything into
// which it was copied: in its place stands a number that says nothing.
func (s *School) forget(in int64, l class.Learner) error {
	if err := s.forgetting(); err != nil {
		return err
	}
	if name := l.Name(); strings.Contains(name, " ") { // a given name alone is others', and a word: a class is called Wren
		before, after, err := s.namesAround(name)
		if err != nil {
			return err
		}
		for _, c := range copied {
			was, is := name, Left(l.ID)
			as := func(text string) string { return text }
			if c.kind == "jsonb" {
				was, is, as = inJSON(was), inJSON(is), inJSON
			}
			pattern := whole(was)
			for _, b := range before { // "Ann Lee" is no part of Mary Ann Lee
				pattern = `(?<!` + regexp.QuoteMeta(as(b)) + `)` + pattern
			}
			for _, a := range after { // nor of Ann Lee Park
				pattern += `(?!` + whole(as(a)) + `)`
			}
			change := fmt.Sprintf("UPDATE %s SET %s = regexp_replace(%s::text, ?, ?, 'g')::%s WHERE strpos(%s::text, ?) > 0", c.table, c.column, c.column, c.kind, c.column)
			if err := s.db.Exec(change, pattern, strings.ReplaceAll(is, `\`, `\\`), was).Error; err != nil {
				return fmt.Errorf("%s: %w", c.table, err)
			}
		}
	}
	lists := s.db.Where("class_id = ?", in)
	if l.Given != "" && l.Family != "" { // in one cell or in two
		lists = lists.Or("cells::text ~ ? AND cells::text ~ ?", asWord(l.Given), asWord(l.Family))
	}
	if err := s.db.Where(lists).Delete(&listRow{}).Error; err != nil {
		return err
	}
	return s.forgetSetups(in, l.ID)
}

// namesAround are what stands before a name in the longer names of others, or else after it:
// "Mary " of Mary Ann Lee and " Park" of Ann Lee Park for Ann Lee.
func (s *School) namesAround(name string) (before, after []string, err error) {
	var longer []string
	err = s.db.Raw("SELECT n FROM (SELECT concat_ws(' ', given, family) AS n FROM learners WHERE school_id = ? UNION SELECT name FROM accounts WHERE school_id = ?) x WHERE strpos(' ' || n || ' ', ' ' || ? || ' ') > 0 AND n <> ?",
		s.ID, s.ID, name, name).Scan(&longer).Error
	for _, n := range longer {
		first, last, _ := strings.Cut(" "+n+" ", " "+name+" ")
		if first != "" {
			before = append(before, first[1:]+" ")
		} else {
			after = append(after, " "+strings.TrimSpace(last))
		}
	}
	return before, after, err
}

// inJSON is a text as it stands inside a text of JSON, as PostgreSQL writes it.
func inJSON(text string) string { return strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(text) }

// asWord is an expression for a name where it stands as words of its own in a text of JSON.
func asWord(name string) string { return whole(inJSON(name)) }

// whole is an expression for a text that is no part of a longer word.
func whole(text string) string {
	out := regexp.QuoteMeta(text)
	if first, _ := utf8.DecodeRuneInString(text); unicode.IsLetter(first) {
		out = `\m` + out
	}
	if last, _ := utf8.DecodeLastRuneInString(text); unicode.IsLetter(last) {
		out += `\M`
	}
	return out
}

// forgetSetups takes what a learner needs and where they work out of the lessons of a
// class, their older versions, and its rules.
func (s *School) forgetSetups(in, learner int64) error {
	for _, table := range []string{"lessons", "lesson_versions"} {
		var rows []struct {
			ID      int64
			Version int
			Setup   string
		}
		id := map[string]string{"lessons": "id", "lesson_versions": "lesson_id"}[table]
		if err := s.db.Raw(fmt.Sprintf("SELECT %s AS id, version, setup::text AS setup FROM %s WHERE (setup->>'class')::bigint = ?", id, table), in).Scan(&rows).Error; err != nil {
			return err
		}
		for _, r := range rows {
			var d setupDoc
			if err := json.Unmarshal([]byte(r.Setup), &d); err != nil {
				return err
			}
			if !d.without(learner) {
				continue
			}
			text, err := json.Marshal(d)
			if err != nil {
				return err
			}
			if err := s.db.Exec(fmt.Sprintf("UPDATE %s SET setup = ?::jsonb WHERE %s = ? AND version = ?", table, id), string(text), r.ID, r.Version).Error; err != nil {
				return err
			}
		}
	}
	var row classRow
	if err := s.db.First(&row, in).Error; err != nil {
		return translate(err)
	}
	rules := []ruleDoc{}
	for _, r := range row.Rules {
		if slices.Contains(r.Learners, learner) {
			const fewest = 2 // a rule about one alone says nothing
			if r.Learners = slices.DeleteFunc(slices.Clone(r.Learners), func(id int64) bool { return id == learner }); len(r.Learners) < fewest {
				continue
			}
		}
		rules = append(rules, r)
	}
	if len(rules) == len(row.Rules) && fmt.Sprint(rules) == fmt.Sprint(row.Rules) {
		return nil
	}
	return s.db.Model(&classRow{}).Where("id = ?", in).Select("rules", "version").Updates(&classRow{Rules: rules, Version: row.Version + 1}).Error
}

// without takes a learner out of a set-up, and reports whether they were in it. Where they
// alone make a course their number stays: nobody named would be everybody.
func (d *setupDoc) without(learner int64) bool {
	was, _ := json.Marshal(d) // of what came from JSON
	is := func(id int64) bool { return id == learner }
	d.Absent = slices.DeleteFunc(d.Absent, is)
	for i := range d.Teams {
		d.Teams[i] = slices.DeleteFunc(d.Teams[i], is)
	}
	d.Teams = slices.DeleteFunc(d.Teams, func(t []int64) bool { return len(t) == 0 })
	d.Swaps = slices.DeleteFunc(d.Swaps, func(x benchSwapDoc) bool { return is(x.Learner) })
	d.Ways = slices.DeleteFunc(d.Ways, func(x wayDoc) bool { return is(x.Learner) })
	for i := range d.Menu {
		c := &d.Menu[i]
		c.Picks = slices.DeleteFunc(c.Picks, func(x pickDoc) bool { return is(x.Learner) })
		if len(c.Learners)+len(c.Groups) > 1 {
			c.Learners = slices.DeleteFunc(c.Learners, is)
		}
	}
	now, _ := json.Marshal(d)
	return string(was) != string(now)
}

// heldAbout are the tables in which rows are about a learner, with what a person is not
// given: tokens that let in.
const heldAbout = `SELECT table_name FROM information_schema.columns WHERE table_schema = 'public' AND column_name = 'learner_id' ORDER BY table_name`

// About returns all that is held about a learner of a class, as JSON by table: what is
// noted of them, what they have done, and where they stand in lessons.
func (s *School) About(ctx context.Context, in, learner int64) (map[string]json.RawMessage, error) {
	db := s.db.WithContext(ctx)
	out := map[string]json.RawMessage{}
	keep := func(name, query string, args ...any) error {
		var text string
		if err := db.Raw("SELECT COALESCE(jsonb_agg(to_jsonb(x) - 'token' - 'school_id' ORDER BY to_jsonb(x)::text), '[]')::text FROM ("+query+") x", args...).Scan(&text).Error; err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		if text != "[]" {
			out[name] = json.RawMessage(text)
		}
		return nil
	}
	if err := keep("learners", "SELECT * FROM learners WHERE id = ? AND class_id = ?", learner, in); err != nil {
		return nil, err
	}
	if out["learners"] == nil {
		return nil, ErrNotFound
	}
	var tables []string
	if err := db.Raw(heldAbout).Scan(&tables).Error; err != nil {
		return nil, err
	}
	for _, t := range tables {
		if err := keep(t, "SELECT * FROM "+t+" WHERE learner_id = ?", learner); err != nil {
			return nil, err
		}
	}
	if err := keep("tries", "SELECT tries.* FROM tries JOIN practisers USING (school_id, token) WHERE practisers.learner_id = ?", learner); err != nil {
		return nil, err
	}
	const inLessons = `SELECT id, setup->>'date' AS date,
		(SELECT jsonb_agg(w) FROM jsonb_array_elements(setup->'swaps') w WHERE (w->>'learner')::bigint = ?) AS swaps,
		(SELECT jsonb_agg(w) FROM jsonb_array_elements(setup->'ways') w WHERE (w->>'learner')::bigint = ?) AS ways,
		setup->'absent' @> to_jsonb(?::bigint) AS away
		FROM lessons WHERE class_id = ?`
	err := keep("lessons", "SELECT * FROM ("+inLessons+") l WHERE swaps IS NOT NULL OR ways IS NOT NULL OR away", learner, learner, learner, in)
	return out, err
}

// Remove takes a school and everything of it out of the database, for good.
func (s *School) Remove(ctx context.Context) error {
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.forgetting(); err != nil {
			return err
		}
		order, err := in.tablesByNeed()
		if err != nil {
			return err
		}
		for _, t := range slices.Backward(order) {
			if err := in.db.Exec("DELETE FROM "+t+" WHERE school_id = ?", s.ID).Error; err != nil {
				return fmt.Errorf("%s: %w", t, err)
			}
		}
		return in.db.Exec("DELETE FROM schools WHERE id = ?", s.ID).Error
	})
}

// tablesByNeed are the tables of a school, each after those that it refers to.
func (s *School) tablesByNeed() ([]string, error) {
	var rows []struct{ Name, Needs string }
	err := s.db.Raw(`SELECT c.relname AS name, COALESCE((SELECT string_agg(DISTINCT r.relname::text, ' ') FROM pg_constraint f JOIN pg_class r ON r.oid = f.confrelid WHERE f.conrelid = c.oid AND f.contype = 'f' AND r.oid <> c.oid), '') AS needs
		FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'school_id' WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace ORDER BY 1`).Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	needs := map[string][]string{}
	var names []string
	for _, r := range rows {
		names, needs[r.Name] = append(names, r.Name), strings.Fields(r.Needs)
	}
	return byNeed(names, needs), nil
}

// byNeed puts names in an order in which each comes after those that it needs; what is
// needed and not among them is left out.
func byNeed(names []string, needs map[string][]string) []string {
	var out []string
	done := map[string]bool{}
	var add func(name string)
	add = func(name string) {
		if done[name] || !slices.Contains(names, name) {
			return
		}
		done[name] = true
		for _, n := range needs[name] {
			add(n)
		}
		out = append(out, name)
	}
	for _, n := range names {
		add(n)
	}
	return out
}

// Sweep throws away what its day has ended of: lists with needs that were brought in, old
// presses, tokens of those who came in to practise or to a task, and the pictures of
// benches that are older than the school keeps them.
func (s *School) Sweep(ctx context.Context, now time.Time) error {
	settings, err := s.Settings(ctx)
	if err != nil {
		return err
	}
	return s.InTransaction(ctx, func(in *School) error {
		for _, d := range []*gorm.DB{
			in.db.Where("created_at < ?", now.Add(-listsLast)).Delete(&listRow{}),
			in.db.Where("at < ?", now.Add(-pressLasts)).Delete(&pressRow{}),
			in.db.Where("until < ?", now).Delete(&entrantRow{}),
			in.db.Where("at < ?", now.AddDate(0, 0, -settings.PictureDays())).Delete(&pictureRow{}),
		} {
			if d.Error != nil {
				return d.Error
			}
		}
		return nil
	})
}
