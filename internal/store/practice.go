package store

import (
	"context"
	"fmt"
	"reflect"
	"strings"
	"time"

	"gorm.io/gorm/clause"

	"freshapron/internal/core/skills"
	"freshapron/internal/core/train"
)

// A Practice that was set for a class.
type Practice struct {
	ID, School int64
	Class      int64
	Lesson     int64 // 0 where it has gone
	Title      string
	Source     []byte // JSON of what is practised
	Code       string
	By         string
	At, Until  time.Time
}

type practiceRow struct {
	ID       int64
	SchoolID int64
	ClassID  int64
	LessonID *int64
	Title    string
	Source   string
	Code     string
	SetBy    string
	SetAt    time.Time
	Until    time.Time
}

// TableName of the practices.
func (practiceRow) TableName() string { return "practices" }

func (r practiceRow) practice() Practice {
	return Practice{r.ID, r.SchoolID, r.ClassID, none(r.LessonID), r.Title, []byte(r.Source), r.Code, r.SetBy, r.SetAt, r.Until}
}

// SetPractice keeps a practice, and returns under which id. It returns ErrTaken where its
// code is another's.
func (s *School) SetPractice(ctx context.Context, p Practice) (int64, error) {
	row := practiceRow{ClassID: p.Class, LessonID: some(p.Lesson), Title: p.Title, Source: string(p.Source), Code: p.Code, SetBy: p.By, SetAt: p.At, Until: p.Until}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, translate(err)
}

// Practices returns those of a class, the last first.
func (s *School) Practices(ctx context.Context, class int64) ([]Practice, error) {
	var rows []practiceRow
	err := s.db.WithContext(ctx).Where("class_id = ?", class).Order("id DESC").Find(&rows).Error
	return each(rows, practiceRow.practice), err
}

// isCode reports whether a text can be a code: what an address holds need not be text
// that a database takes.
func isCode(text string) bool {
	return strings.IndexFunc(text, func(r rune) bool { return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '-') }) < 0
}

// EndPractice lets nobody in any more.
func (s *School) EndPractice(ctx context.Context, id int64, at time.Time) error {
	result := s.db.WithContext(ctx).Model(&practiceRow{}).Where("id = ? AND until > ?", id, at).Update("until", at)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return result.Error
}

// PracticeOf returns the practice of a code, of any school. It returns ErrNotFound where
// there is none, or none any more.
func (s *Store) PracticeOf(ctx context.Context, code string, now time.Time) (Practice, error) {
	var row practiceRow
	if !isCode(code) {
		return Practice{}, ErrNotFound
	}
	err := s.door(ctx).Where("code = ? AND until > ?", code, now).First(&row).Error
	return row.practice(), translate(err)
}

// A Practiser has come in to practise.
type Practiser struct {
	Token    string
	School   int64
	Practice int64
	Learner  int64 // 0 for somebody who is not on the list
	Seen     time.Time
	Ended    bool
	Left     bool // cuts with the left hand
}

type practiserRow struct {
	Token      string `gorm:"primaryKey"`
	SchoolID   int64
	PracticeID int64
	LearnerID  *int64
	Seen       time.Time
	Ended      bool
	LeftHanded bool
}

// TableName of the practisers.
func (practiserRow) TableName() string { return "practisers" }

func (r practiserRow) practiser() Practiser {
	return Practiser{r.Token, r.SchoolID, r.PracticeID, none(r.LearnerID), r.Seen, r.Ended, r.LeftHanded}
}

// AddPractiser lets somebody in; whoever was in under the same learner is ended.
func (s *School) AddPractiser(ctx context.Context, p Practiser) error {
	return s.InTransaction(ctx, func(in *School) error {
		if p.Learner != 0 {
			if err := in.db.Model(&practiserRow{}).Where("learner_id = ? AND NOT ended", p.Learner).Update("ended", true).Error; err != nil {
				return err
			}
		}
		return in.db.Create(&practiserRow{Token: p.Token, PracticeID: p.Practice, LearnerID: some(p.Learner), Seen: p.Seen, LeftHanded: p.Left}).Error
	})
}

// PractiserOf returns who holds a token, of any school, with the practice. It returns
// ErrNotFound where nobody does any more.
func (s *Store) PractiserOf(ctx context.Context, token string, now time.Time) (Practiser, Practice, error) {
	var row practiserRow
	if !isCode(token) {
		return Practiser{}, Practice{}, ErrNotFound
	}
	if err := s.door(ctx).Where("token = ? AND NOT ended", token).First(&row).Error; err != nil {
		return Practiser{}, Practice{}, translate(err)
	}
	var of practiceRow
	err := s.door(ctx).Where("id = ? AND until > ?", row.PracticeID, now).First(&of).Error
	return row.practiser(), of.practice(), translate(err)
}

// Practisers returns who has come in to a practice.
func (s *School) Practisers(ctx context.Context, practice int64) ([]Practiser, error) {
	var rows []practiserRow
	err := s.db.WithContext(ctx).Where("practice_id = ?", practice).Order("seen").Find(&rows).Error
	return each(rows, practiserRow.practiser), err
}

// LastSeen returns when somebody last practised as a learner and is still in; zero where
// nobody is.
func (s *School) LastSeen(ctx context.Context, learner int64) (time.Time, error) {
	var rows []practiserRow
	err := s.db.WithContext(ctx).Where("learner_id = ? AND NOT ended", learner).Order("seen DESC").Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return time.Time{}, err
	}
	return rows[0].Seen, nil
}

type markRow struct {
	SchoolID  int64 `gorm:"primaryKey"`
	LearnerID int64 `gorm:"primaryKey"`
	Picture   string
}

// TableName of the pictures by which learners come in.
func (markRow) TableName() string { return "learner_marks" }

// Mark returns the picture of a learner; empty where none was chosen.
func (s *School) Mark(ctx context.Context, learner int64) (string, error) {
	var rows []markRow
	err := s.db.WithContext(ctx).Where("learner_id = ?", learner).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return "", err
	}
	return rows[0].Picture, nil
}

// SetMark keeps the first picture that a learner chooses; ClearMark lets them choose
// anew.
func (s *School) SetMark(ctx context.Context, learner int64, picture string) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&markRow{LearnerID: learner, Picture: picture}).Error
}

// ClearMark forgets the picture of a learner.
func (s *School) ClearMark(ctx context.Context, learner int64) error {
	return s.db.WithContext(ctx).Where("learner_id = ?", learner).Delete(&markRow{}).Error
}

type tryRow struct {
	ID       int64
	SchoolID int64
	Token    string
	Press    string
	Template string
	Correct  bool
	Percent  float64
	At       time.Time
}

// TableName of the tries.
func (tryRow) TableName() string { return "tries" }

// A Try with who made it.
type Try struct {
	Token, Press string
	train.Try
	Percent float64
}

// AddTry keeps a try; one that arrives twice counts once. It says that whoever made it
// was there, and keeps the evidence that comes of it, too.
func (s *School) AddTry(ctx context.Context, t Try, learner int64, of []skills.Evidence) error {
	return s.InTransaction(ctx, func(in *School) error {
		row := tryRow{Token: t.Token, Press: t.Press, Template: t.Template, Correct: t.Right, Percent: min(max(t.Percent, -1e6), 1e6), At: t.At}
		over := clause.OnConflict{DoNothing: true}
		if err := in.db.Clauses(over).Create(&row).Error; err != nil {
			return err
		}
		if err := in.db.Model(&practiserRow{}).Where("token = ?", t.Token).Update("seen", t.At).Error; err != nil {
			return err
		}
		if learner == 0 {
			return nil
		}
		return in.AddEvidence(ctx, t.Press, of, learner)
	})
}

// TriesOf returns what somebody has tried: all of a learner, or what was tried with a
// token.
func (s *School) TriesOf(ctx context.Context, p Practiser) ([]train.Try, error) {
	var rows []tryRow
	q := s.db.WithContext(ctx).Where("token = ?", p.Token)
	if p.Learner != 0 {
		own := s.db.Model(&practiserRow{}).Select("token").Where("learner_id = ?", p.Learner)
		q = s.db.WithContext(ctx).Where("token IN (?)", own)
	}
	err := q.Order("id").Find(&rows).Error
	return each(rows, func(r tryRow) train.Try { return train.Try{Template: r.Template, At: r.At, Right: r.Correct} }), err
}

// TriesIn returns what was tried in a practice, by token.
func (s *School) TriesIn(ctx context.Context, practice int64) (map[string][]train.Try, error) {
	var rows []tryRow
	in := s.db.Model(&practiserRow{}).Select("token").Where("practice_id = ?", practice)
	err := s.db.WithContext(ctx).Where("token IN (?)", in).Order("id").Find(&rows).Error
	out := map[string][]train.Try{}
	for _, r := range rows {
		out[r.Token] = append(out[r.Token], train.Try{Template: r.Template, At: r.At, Right: r.Correct})
	}
	return out, err
}

type evidenceRow struct {
	ID        int64
	SchoolID  int64
	LearnerID int64
	Skill     string
	How       string
	Level     int
	Who       string
	At        time.Time
	Press     string
}

// TableName of the evidence.
func (evidenceRow) TableName() string { return "evidence" }

func evidenceOf(learner int64, press string, e skills.Evidence) evidenceRow {
	return evidenceRow{LearnerID: learner, Skill: e.Skill, How: string(e.How), Level: int(e.Level), Who: e.By, At: e.At, Press: press}
}

// AddEvidence keeps that each of some learners has skills; what arrives twice counts once.
func (s *School) AddEvidence(ctx context.Context, press string, list []skills.Evidence, learners ...int64) error {
	var rows []evidenceRow
	for _, id := range learners {
		for _, e := range list {
			rows = append(rows, evidenceOf(id, press, e))
		}
	}
	if len(rows) == 0 {
		return nil
	}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&rows).Error
}

// A Practised is what a learner tried with a token, and what is known of them.
type Practised struct {
	Token    string
	Practice int64
	Learner  int64
	Picture  string
	Tries    []train.Try
	Evidence []skills.Evidence
}

// AddPractised keeps what many have practised and are known to do, all at once.
func (s *School) AddPractised(ctx context.Context, list []Practised) error {
	const batch = 100 // what a log can still show of a slow statement
	var who []practiserRow
	var marks []markRow
	var tries []tryRow
	var known []evidenceRow
	for _, p := range list {
		if len(p.Tries) > 0 {
			who = append(who, practiserRow{Token: p.Token, PracticeID: p.Practice, LearnerID: some(p.Learner), Seen: p.Tries[len(p.Tries)-1].At})
			marks = append(marks, markRow{LearnerID: p.Learner, Picture: p.Picture})
		}
		for i, t := range p.Tries {
			tries = append(tries, tryRow{Token: p.Token, Press: fmt.Sprint(i), Template: t.Template, Correct: t.Right, At: t.At})
		}
		for i, e := range p.Evidence {
			known = append(known, evidenceOf(p.Learner, fmt.Sprint("laid ", i), e))
		}
	}
	return s.InTransaction(ctx, func(in *School) error {
		for _, rows := range []any{&who, &marks, &tries, &known} {
			if reflect.ValueOf(rows).Elem().Len() == 0 {
				continue
			}
			if err := in.db.CreateInBatches(rows, batch).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// Evidence returns what is known of the learners of a class, by learner.
func (s *School) Evidence(ctx context.Context, class int64) (map[int64][]skills.Evidence, error) {
	var rows []evidenceRow
	in := s.db.Model(&learnerRow{}).Select("id").Where("class_id = ?", class)
	err := s.db.WithContext(ctx).Where("learner_id IN (?)", in).Order("id").Find(&rows).Error
	out := map[int64][]skills.Evidence{}
	for _, r := range rows {
		out[r.LearnerID] = append(out[r.LearnerID], skills.Evidence{Skill: r.Skill, At: r.At, How: skills.How(r.How), Level: skills.Level(r.Level), By: r.Who})
	}
	return out, err
}
