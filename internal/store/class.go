package store

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/class"
	"freshapron/internal/core/exact"
	"freshapron/internal/core/lesson"
)

// A Class with its identity.
type Class struct {
	ID      int64
	Version int // goes up with everything that a plan depends on
	lesson.Class
}

type classRow struct {
	ID       int64
	SchoolID int64
	Name     string
	Learners int
	Pace     string // numeric, exact
	Age      int
	Rules    []ruleDoc `gorm:"serializer:json"`
	Version  int
}

// TableName of the classes.
func (classRow) TableName() string { return "classes" }

type ruleDoc struct {
	Kind     string  `json:"kind"`
	Learners []int64 `json:"learners,omitempty"`
	Skill    string  `json:"skill,omitempty"`
}

func ruleDocs(rules []class.Rule) []ruleDoc {
	out := []ruleDoc{}
	for _, r := range rules {
		out = append(out, ruleDoc{string(r.Kind), r.Learners, r.Skill})
	}
	return out
}

func (row classRow) class() (Class, error) {
	pace, err := exact.Parse(row.Pace)
	c := Class{row.ID, row.Version, lesson.Class{Name: row.Name, Learners: row.Learners, Pace: pace, Age: row.Age}}
	for _, r := range row.Rules {
		c.Rules = append(c.Rules, class.Rule{Kind: class.RuleKind(r.Kind), Learners: r.Learners, Skill: r.Skill})
	}
	return c, err
}

// CreateClass adds a class. It returns ErrTaken where the name is in use.
func (s *School) CreateClass(ctx context.Context, c lesson.Class) (int64, error) {
	row := classRow{Name: c.Name, Learners: c.Learners, Pace: c.Pace.Decimal(6), Age: c.Age, Rules: ruleDocs(c.Rules), Version: 1}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, translate(err)
}

// Classes returns the classes by name, without their learners.
func (s *School) Classes(ctx context.Context) ([]Class, error) {
	return remembered(ctx, s, &s.memory.classes, func(n Standing) string { return n.classes }, func() ([]Class, error) { return s.loadClasses(ctx) })
}

func (s *School) loadClasses(ctx context.Context) ([]Class, error) {
	var rows []classRow
	if err := s.db.WithContext(ctx).Order("name").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Class, len(rows))
	for i, r := range rows {
		c, err := r.class()
		if err != nil {
			return nil, err
		}
		out[i] = c
	}
	return out, nil
}

// Class returns a class with its learners, without their needs.
func (s *School) Class(ctx context.Context, id int64) (Class, error) {
	var row classRow
	if err := s.db.WithContext(ctx).First(&row, id).Error; err != nil {
		return Class{}, translate(err)
	}
	c, err := row.class()
	if err != nil {
		return c, err
	}
	rosters, err := s.rosters(ctx, id)
	c.Roster = rosters[id]
	return c, err
}

// ChangeClass writes name, age, pace, rules and, where nobody is named, the
// number of learners, over the version that it was read as.
func (s *School) ChangeClass(ctx context.Context, c Class) error {
	row := classRow{Name: c.Name, Learners: c.Learners, Pace: c.Pace.Decimal(6), Age: c.Age, Rules: ruleDocs(c.Rules), Version: c.Version + 1}
	return s.inTurn(ctx, "classes", c.ID, func(in *School) error {
		result := in.db.Model(&classRow{}).Where("id = ? AND version = ?", c.ID, c.Version).
			Select("name", "learners", "pace", "age", "rules", "version").Updates(&row)
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrChanged
		}
		return translate(result.Error)
	})
}

type learnerRow struct {
	ID       int64
	SchoolID int64
	ClassID  int64
	Code     string
	Given    string
	Family   string
	Born     *time.Time `gorm:"type:date"`
	Level    int
	Can      []string `gorm:"serializer:json"`
}

// TableName of the learners.
func (learnerRow) TableName() string { return "learners" }

func learnerRowOf(in int64, l class.Learner) learnerRow {
	row := learnerRow{ID: l.ID, ClassID: in, Code: l.Code, Given: l.Given, Family: l.Family, Level: int(l.Level), Can: l.Can}
	if !l.Born.IsZero() {
		row.Born = &l.Born
	}
	if row.Can == nil {
		row.Can = []string{}
	}
	return row
}

func (row learnerRow) learner() class.Learner {
	l := class.Learner{ID: row.ID, Code: row.Code, Given: row.Given, Family: row.Family, Level: class.Level(row.Level), Can: row.Can}
	if len(l.Can) == 0 {
		l.Can = nil
	}
	if row.Born != nil {
		l.Born = *row.Born
	}
	return l
}

type needsRow struct {
	SchoolID  int64
	LearnerID int64 `gorm:"primaryKey;autoIncrement:false"`
	ClassID   int64
	Needs     []needDoc `gorm:"serializer:json"`
	Notes     string
}

// TableName of the needs.
func (needsRow) TableName() string { return "learner_needs" }

type needDoc struct {
	Kind     string `json:"kind"`
	What     string `json:"what"`
	Severity string `json:"severity,omitempty"`
	Helps    string `json:"helps,omitempty"`
}

// rosters returns the learners of classes by family name, without what is
// sensitive.
func (s *School) rosters(ctx context.Context, classes ...int64) (map[int64][]class.Learner, error) {
	out := map[int64][]class.Learner{}
	if len(classes) == 0 {
		return out, nil
	}
	var rows []learnerRow
	err := s.db.WithContext(ctx).Where("class_id IN ?", classes).Order("family, given, id").Find(&rows).Error
	for _, r := range rows {
		out[r.ClassID] = append(out[r.ClassID], r.learner())
	}
	return out, err
}

// WithNeeds fills in what the learners of a class need and what is noted of
// them. Whoever shows any of it must be allowed to, and it is noted.
func (s *School) WithNeeds(ctx context.Context, c Class) (Class, error) {
	var rows []needsRow
	if err := s.db.WithContext(ctx).Where("class_id = ?", c.ID).Find(&rows).Error; err != nil {
		return c, err
	}
	c.Roster = slices.Clone(c.Roster)
	for i := range c.Roster {
		l := &c.Roster[i]
		l.Needs, l.Notes = nil, ""
		if k := slices.IndexFunc(rows, func(r needsRow) bool { return r.LearnerID == l.ID }); k >= 0 {
			l.Notes = rows[k].Notes
			for _, d := range rows[k].Needs {
				l.Needs = append(l.Needs, class.Need{Kind: class.Kind(d.Kind), What: d.What, Severity: class.Severity(d.Severity), Helps: d.Helps})
			}
		}
	}
	return c, nil
}

// SaveLearners writes learners of a class with all that is known of them:
// those with an id are changed, the others added. All or none are written. It
// calls done, where that is given, with how many are.
func (s *School) SaveLearners(ctx context.Context, in int64, learners []class.Learner, done func(int)) error {
	const batch = 100
	return s.InTransaction(ctx, func(in2 *School) error {
		if err := in2.db.First(&classRow{}, in).Error; err != nil {
			return translate(err)
		}
		for from := 0; from < len(learners); from += batch {
			part := learners[from:min(from+batch, len(learners))]
			if err := in2.saveLearners(in, part); err != nil {
				return err
			}
			if done != nil {
				done(from + len(part))
			}
		}
		return in2.countLearners(in)
	})
}

func (s *School) saveLearners(in int64, learners []class.Learner) error {
	var added []learnerRow
	var places []int
	ids := make([]int64, len(learners))
	for i, l := range learners {
		row := learnerRowOf(in, l)
		if ids[i] = l.ID; l.ID == 0 {
			added, places = append(added, row), append(places, i)
			continue
		}
		result := s.db.Model(&learnerRow{}).Where("id = ? AND class_id = ?", l.ID, in).
			Select("code", "given", "family", "born", "level", "can").Updates(&row)
		if result.Error != nil {
			return result.Error
		}
		if result.RowsAffected == 0 {
			return ErrNotFound
		}
	}
	if len(added) > 0 {
		if err := s.db.Create(&added).Error; err != nil {
			return err
		}
		for k, i := range places {
			ids[i] = added[k].ID
		}
	}
	var needs []needsRow
	for i, l := range learners {
		row := needsRow{LearnerID: ids[i], ClassID: in, Needs: []needDoc{}, Notes: l.Notes}
		for _, n := range l.Needs {
			row.Needs = append(row.Needs, needDoc{string(n.Kind), n.What, string(n.Severity), n.Helps})
		}
		needs = append(needs, row)
	}
	over := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "learner_id"}}, DoUpdates: clause.AssignmentColumns([]string{"needs", "notes", "class_id"})}
	return s.db.Clauses(over).Create(&needs).Error
}

// countLearners brings the number of a class's learners up to date, and says
// that its plans are to be made anew.
func (s *School) countLearners(in int64) error {
	return s.db.Model(&classRow{}).Where("id = ?", in).Updates(map[string]any{
		"learners": gorm.Expr("(SELECT count(*) FROM learners WHERE class_id = ? AND school_id = ?)", in, s.ID),
		"version":  gorm.Expr("version + 1"),
	}).Error
}

// RemoveLearner takes a learner out of a class, with all that is known of
// them.
func (s *School) RemoveLearner(ctx context.Context, in, id int64) error {
	return s.InTransaction(ctx, func(tx *School) error {
		var row learnerRow
		if err := tx.db.Where("id = ? AND class_id = ?", id, in).First(&row).Error; err != nil {
			return translate(err)
		}
		if err := tx.forget(in, class.Learner{ID: row.ID, Given: row.Given, Family: row.Family}); err != nil {
			return err
		}
		result := tx.db.Where("id = ? AND class_id = ?", id, in).Delete(&learnerRow{})
		if result.Error != nil {
			return result.Error
		}
		if result.RowsAffected == 0 {
			return ErrNotFound
		}
		return tx.countLearners(in)
	})
}

type classStaffRow struct {
	SchoolID  int64
	ClassID   int64 `gorm:"primaryKey;autoIncrement:false"`
	AccountID int64 `gorm:"primaryKey;autoIncrement:false"`
}

// TableName of who teaches whom.
func (classStaffRow) TableName() string { return "class_staff" }

// StaffOf returns the accounts that belong to a class.
func (s *School) StaffOf(ctx context.Context, in int64) ([]int64, error) {
	var ids []int64
	err := s.db.WithContext(ctx).Model(&classStaffRow{}).Where("class_id = ?", in).Order("account_id").Pluck("account_id", &ids).Error
	return ids, err
}

// ClassesOf returns the ids of the classes to which an account belongs.
func (s *School) ClassesOf(ctx context.Context, account int64) ([]int64, error) {
	var ids []int64
	err := s.db.WithContext(ctx).Model(&classStaffRow{}).Where("account_id = ?", account).Pluck("class_id", &ids).Error
	return ids, err
}

// SetStaff writes who belongs to a class.
func (s *School) SetStaff(ctx context.Context, in int64, accounts []int64) error {
	return s.InTransaction(ctx, func(tx *School) error {
		if err := tx.db.Where("class_id = ?", in).Delete(&classStaffRow{}).Error; err != nil {
			return err
		}
		var rows []classStaffRow
		for _, a := range accounts {
			rows = append(rows, classStaffRow{ClassID: in, AccountID: a})
		}
		if rows == nil {
			return nil
		}
		return tx.db.Create(&rows).Error
	})
}

// A List is a list of learners that somebody is bringing in.
type List struct {
	ID      string // UUID
	Account int64
	Class   int64 // of those who have no column for it; 0 for none
	Cells   [][]string
	Columns []string
	Head    bool
	At      time.Time
}

type listRow struct {
	ID        string `gorm:"primaryKey"`
	SchoolID  int64
	AccountID int64
	ClassID   *int64
	Cells     [][]string `gorm:"serializer:json"`
	Columns   []string   `gorm:"serializer:json"`
	Head      bool
	CreatedAt time.Time
}

// TableName of the lists.
func (listRow) TableName() string { return "lists" }

// listsLast is how long a list that nobody has taken is kept: it has needs in
// it.
const listsLast = 24 * time.Hour

// KeepList keeps a list in place of what it was, and forgets old ones.
func (s *School) KeepList(ctx context.Context, l List) error {
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Where("created_at < ?", l.At.Add(-listsLast)).Delete(&listRow{}).Error; err != nil {
			return err
		}
		row := listRow{ID: l.ID, AccountID: l.Account, ClassID: some(l.Class), Cells: l.Cells, Columns: l.Columns, Head: l.Head, CreatedAt: l.At}
		over := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "id"}}, DoUpdates: clause.AssignmentColumns([]string{"cells", "columns", "head", "class_id"})}
		return in.db.Clauses(over).Create(&row).Error
	})
}

// List returns a list of somebody's own.
func (s *School) List(ctx context.Context, id string, account int64) (List, error) {
	var row listRow
	if uuid.Validate(id) != nil {
		return List{}, ErrNotFound
	}
	if err := s.db.WithContext(ctx).Where("id = ? AND account_id = ?", id, account).First(&row).Error; err != nil {
		return List{}, translate(err)
	}
	return List{row.ID, row.AccountID, none(row.ClassID), row.Cells, row.Columns, row.Head, row.CreatedAt}, nil
}

// ForgetList takes a list away.
func (s *School) ForgetList(ctx context.Context, id string) error {
	return s.db.WithContext(ctx).Where("id = ?", id).Delete(&listRow{}).Error
}

// Staff returns who belongs to which class.
func (s *School) Staff(ctx context.Context) (map[int64][]int64, error) {
	var rows []classStaffRow
	err := s.db.WithContext(ctx).Order("class_id, account_id").Find(&rows).Error
	out := map[int64][]int64{}
	for _, r := range rows {
		out[r.ClassID] = append(out[r.ClassID], r.AccountID)
	}
	return out, err
}
