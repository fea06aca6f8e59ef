package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"freshapron/internal/core/safety"
)

type lineDoc struct {
	Key     string `json:"key"`
	Hazard  string `json:"hazard"`
	Who     string `json:"who"`
	Done    string `json:"done"`
	Adult   string `json:"adult"`
	Left    string `json:"left"`
	Because string `json:"because"`
}

func lineDocs(lines []safety.Line) []lineDoc {
	out := []lineDoc{}
	for _, l := range lines {
		out = append(out, lineDoc(l))
	}
	return out
}

func linesOf(docs []lineDoc) []safety.Line {
	var out []safety.Line
	for _, d := range docs {
		out = append(out, safety.Line(d))
	}
	return out
}

type sheetRow struct {
	SchoolID int64
	LessonID int64     `gorm:"primaryKey;autoIncrement:false"`
	Edits    []lineDoc `gorm:"serializer:json"`
	Version  int
}

// TableName of what was written into sheets.
func (sheetRow) TableName() string { return "sheets" }

// SheetEdits returns what a teacher has written into a lesson's sheet, and its
// version; 0 where nothing was.
func (s *School) SheetEdits(ctx context.Context, lesson int64) ([]safety.Line, int, error) {
	var row sheetRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", lesson).First(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, 0, nil
	}
	return linesOf(row.Edits), row.Version, err
}

// EditSheet writes what a teacher has changed in a sheet over the version that
// it was read as.
func (s *School) EditSheet(ctx context.Context, lesson int64, version int, edits []safety.Line) error {
	row := sheetRow{LessonID: lesson, Edits: lineDocs(edits), Version: version + 1}
	over := clause.OnConflict{
		Columns:   []clause.Column{{Name: "school_id"}, {Name: "lesson_id"}},
		DoUpdates: clause.AssignmentColumns([]string{"edits", "version"}),
		Where:     clause.Where{Exprs: []clause.Expression{gorm.Expr("sheets.version = ?", version)}},
	}
	result := s.db.WithContext(ctx).Clauses(over).Create(&row)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrChanged
	}
	return result.Error
}

// A Signature is a sheet as somebody signed it.
type Signature struct {
	Lesson int64
	Lines  []safety.Line
	Basis  string
	Who    string
	At     time.Time
}

type signatureRow struct {
	ID       int64
	SchoolID int64
	LessonID int64
	Lines    []lineDoc `gorm:"serializer:json"`
	Basis    string
	Who      string
	At       time.Time
}

// TableName of the signatures.
func (signatureRow) TableName() string { return "signatures" }

// Sign adds a signature.
func (s *School) Sign(ctx context.Context, g Signature) error {
	return s.db.WithContext(ctx).Create(&signatureRow{LessonID: g.Lesson, Lines: lineDocs(g.Lines), Basis: g.Basis, Who: g.Who, At: g.At}).Error
}

// Signed returns the last signature of a lesson's sheet, or ErrNotFound.
func (s *School) Signed(ctx context.Context, lesson int64) (Signature, error) {
	var row signatureRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", lesson).Order("id DESC").First(&row).Error
	return Signature{row.LessonID, linesOf(row.Lines), row.Basis, row.Who, row.At}, translate(err)
}

// A TempReading is a temperature that somebody has written down.
type TempReading struct {
	Lesson    int64
	Bench     string
	Kind      string // core, hot or cold
	Food      string
	Celsius   float64
	Seconds   int // for which it was held; minutes off temperature × 60 for hot and cold
	Good      bool
	Says      string
	Simulated bool
	Who       string
	At        time.Time
}

type readingRow struct {
	ID        int64
	SchoolID  int64
	LessonID  int64
	Bench     string
	Kind      string
	Food      string
	Celsius   float64
	Seconds   int
	Good      bool
	Says      string
	Simulated bool
	Who       string
	At        time.Time
}

// TableName of the readings.
func (readingRow) TableName() string { return "readings" }

// AddReading writes a temperature down.
func (s *School) AddReading(ctx context.Context, r TempReading) error {
	return s.db.WithContext(ctx).Create(&readingRow{
		LessonID: r.Lesson, Bench: r.Bench, Kind: r.Kind, Food: r.Food, Celsius: r.Celsius, Seconds: r.Seconds,
		Good: r.Good, Says: r.Says, Simulated: r.Simulated, Who: r.Who, At: r.At,
	}).Error
}

// Readings returns what was written down in a lesson, the newest first.
func (s *School) Readings(ctx context.Context, lesson int64) ([]TempReading, error) {
	var rows []readingRow
	err := s.db.WithContext(ctx).Where("lesson_id = ?", lesson).Order("id DESC").Find(&rows).Error
	out := make([]TempReading, len(rows))
	for i, r := range rows {
		out[i] = TempReading{r.LessonID, r.Bench, r.Kind, r.Food, r.Celsius, r.Seconds, r.Good, r.Says, r.Simulated, r.Who, r.At}
	}
	return out, err
}
