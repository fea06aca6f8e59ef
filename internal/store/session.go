package store

import (
	"context"
	"errors"
	"time"

	"github.com/alexedwards/scs/v2"
	"gorm.io/gorm/clause"
)

// Keys of what a session holds.
const (
	SessionSchool  = "school"  // int64
	SessionAccount = "account" // int64
	SessionAgent   = "agent"   // string: the browser, in its own words
	SessionBegan   = "began"   // int64: seconds since 1970
)

// A Session is somebody signed in at some browser.
type Session struct {
	Token          string // a hash; it names the session and opens nothing
	Agent          string
	Began, Expires time.Time
}

type sessionRow struct {
	Token     string `gorm:"primaryKey"`
	SchoolID  int64
	AccountID int64
	Data      []byte
	Agent     string
	BeganAt   time.Time
	ExpiresAt time.Time
}

// TableName of the sessions.
func (sessionRow) TableName() string { return "sessions" }

// Sessions keeps sessions in the database, so that any copy of the program
// knows them.
type Sessions struct {
	Store *Store
	Now   func() time.Time
}

var _ scs.CtxStore = Sessions{}

// FindCtx returns what a session holds.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var row sessionRow
	err := translate(s.Store.door(ctx).Where("token = ? AND expires_at > ?", token, s.Now()).First(&row).Error)
	if errors.Is(err, ErrNotFound) {
		return nil, false, nil
	}
	return row.Data, err == nil, err
}

// CommitCtx writes a session. One that belongs to nobody is not kept.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expires time.Time) error {
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return err
	}
	row := sessionRow{Token: token, Data: data, ExpiresAt: expires}
	row.SchoolID, _ = values[SessionSchool].(int64)
	row.AccountID, _ = values[SessionAccount].(int64)
	row.Agent, _ = values[SessionAgent].(string)
	began, _ := values[SessionBegan].(int64)
	row.BeganAt = time.Unix(began, 0)
	if row.AccountID == 0 {
		return s.DeleteCtx(ctx, token)
	}
	over := clause.OnConflict{Columns: []clause.Column{{Name: "token"}}, DoUpdates: clause.AssignmentColumns([]string{"data", "expires_at"})}
	return s.Store.as(row.SchoolID).WithContext(ctx).Clauses(over).Create(&row).Error
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.Store.door(ctx).Where("token = ? OR expires_at <= ?", token, s.Now()).Delete(&sessionRow{}).Error
}

// Find is FindCtx without a context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx without a context.
func (s Sessions) Commit(token string, data []byte, expires time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expires)
}

// Delete is DeleteCtx without a context.
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// SessionsOf returns where somebody is signed in, the newest first.
func (s *School) SessionsOf(ctx context.Context, account int64, now time.Time) ([]Session, error) {
	var rows []sessionRow
	err := s.db.WithContext(ctx).Where("account_id = ? AND expires_at > ?", account, now).Order("began_at DESC").Find(&rows).Error
	out := make([]Session, len(rows))
	for i, r := range rows {
		out[i] = Session{r.Token, r.Agent, r.BeganAt, r.ExpiresAt}
	}
	return out, err
}

// EndSessions signs somebody out: of one session, or of all where token is
// empty.
func (s *School) EndSessions(ctx context.Context, account int64, token string) error {
	db := s.db.WithContext(ctx).Where("account_id = ?", account)
	if token != "" {
		db = db.Where("token = ?", token)
	}
	return db.Delete(&sessionRow{}).Error
}
