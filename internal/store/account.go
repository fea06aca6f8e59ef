package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"

	"freshapron/internal/core/staff"
)

// ErrTaken says that something of which there can be one is there already.
var ErrTaken = errors.New("taken already")

// An Account is somebody who can sign in to a school.
type Account struct {
	ID        int64
	School    int64
	Name      string
	Email     string
	Role      staff.Role
	Password  string // argon2id hash; empty until it is set
	Closed    bool
	CreatedAt time.Time
	// Stand of the school when somebody was let in: it goes up with every change.
	Stand int64
}

type accountRow struct {
	ID        int64
	SchoolID  int64
	Name      string
	Email     string
	Role      string
	Password  string
	Closed    bool
	CreatedAt time.Time
	Stand     int64 `gorm:"->"`
}

// TableName of the accounts.
func (accountRow) TableName() string { return "accounts" }

func (row accountRow) account() Account {
	return Account{row.ID, row.SchoolID, row.Name, row.Email, staff.Role(row.Role), row.Password, row.Closed, row.CreatedAt, row.Stand}
}

// Account returns the account with the id, of whatever school, and in what state
// the school is.
func (s *Store) Account(ctx context.Context, id int64) (Account, error) {
	return first(s.door(ctx).Select("*, (SELECT stand FROM stands WHERE stands.school_id = accounts.school_id) AS stand").Where("id = ?", id))
}

// AccountByEmail returns the account with the address, of whatever school.
func (s *Store) AccountByEmail(ctx context.Context, email string) (Account, error) {
	return first(s.door(ctx).Where("lower(email) = lower(?)", email))
}

func first(db *gorm.DB) (Account, error) {
	var row accountRow
	err := db.First(&row).Error
	return row.account(), translate(err)
}

// Offered returns the accounts that the demonstration offers to whoever comes.
func (s *Store) Offered(ctx context.Context) ([]Account, error) {
	var rows []accountRow
	err := s.door(ctx).Where("NOT closed AND school_id IN (SELECT id FROM schools WHERE demo_day IS NOT NULL)").Order("id").Find(&rows).Error
	return accounts(rows), err
}

func accounts(rows []accountRow) []Account {
	out := make([]Account, len(rows))
	for i, r := range rows {
		out[i] = r.account()
	}
	return out
}

// Accounts returns those of the school by name.
func (s *School) Accounts(ctx context.Context) ([]Account, error) {
	var rows []accountRow
	err := s.db.WithContext(ctx).Order("name, id").Find(&rows).Error
	return accounts(rows), err
}

// Account returns one of the school.
func (s *School) Account(ctx context.Context, id int64) (Account, error) {
	return first(s.db.WithContext(ctx).Where("id = ?", id))
}

// CreateAccount adds an account. It returns ErrTaken where the address is in
// use, in this school or another.
func (s *School) CreateAccount(ctx context.Context, a Account) (int64, error) {
	row := accountRow{Name: a.Name, Email: a.Email, Role: string(a.Role), Password: a.Password, CreatedAt: a.CreatedAt}
	err := s.db.WithContext(ctx).Create(&row).Error
	return row.ID, translate(err)
}

// ChangeAccount writes name, role and whether the account is closed. Whoever
// is closed or changes roles is signed out everywhere.
func (s *School) ChangeAccount(ctx context.Context, a Account) error {
	return s.InTransaction(ctx, func(in *School) error {
		was, err := in.Account(ctx, a.ID)
		if err != nil {
			return err
		}
		row := accountRow{Name: a.Name, Role: string(a.Role), Closed: a.Closed}
		if err := in.db.Model(&accountRow{}).Where("id = ?", a.ID).Select("name", "role", "closed").Updates(&row).Error; err != nil {
			return err
		}
		if a.Closed || was.Role != a.Role {
			return in.EndSessions(ctx, a.ID, "")
		}
		return nil
	})
}

// SetPassword writes the hash of a new password; whoever was signed in with
// the old one no longer is.
func (s *School) SetPassword(ctx context.Context, account int64, hash string) error {
	if err := s.db.WithContext(ctx).Model(&accountRow{}).Where("id = ?", account).Update("password", hash).Error; err != nil {
		return err
	}
	return s.EndSessions(ctx, account, "")
}

// A Link lets somebody set a password, once.
type Link struct {
	Token   string // hash of what was sent
	School  int64
	Account int64
	Purpose string // invitation or reset
	Expires time.Time
}

type linkRow struct {
	Token     string `gorm:"primaryKey"`
	SchoolID  int64
	AccountID int64
	Purpose   string
	ExpiresAt time.Time
	UsedAt    *time.Time
}

// TableName of the links.
func (linkRow) TableName() string { return "links" }

// CreateLink adds a link; those that the account had before no longer count.
func (s *School) CreateLink(ctx context.Context, l Link) error {
	return s.InTransaction(ctx, func(in *School) error {
		if err := in.db.Where("account_id = ?", l.Account).Delete(&linkRow{}).Error; err != nil {
			return err
		}
		return in.db.Create(&linkRow{Token: l.Token, AccountID: l.Account, Purpose: l.Purpose, ExpiresAt: l.Expires}).Error
	})
}

// Link returns a link that still counts, or ErrNotFound.
func (s *Store) Link(ctx context.Context, token string, now time.Time) (Link, error) {
	var row linkRow
	err := s.door(ctx).Where("token = ? AND used_at IS NULL AND expires_at > ?", token, now).First(&row).Error
	return Link{row.Token, row.SchoolID, row.AccountID, row.Purpose, row.ExpiresAt}, translate(err)
}

// UseLink marks a link as used. It returns ErrNotFound where somebody was
// quicker.
func (s *School) UseLink(ctx context.Context, token string, now time.Time) error {
	result := s.db.WithContext(ctx).Model(&linkRow{}).Where("token = ? AND used_at IS NULL AND expires_at > ?", token, now).Update("used_at", now)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return result.Error
}

// A Message would be sent by mail.
type Message struct {
	To, Subject, Body string
	At                time.Time
}

type messageRow struct {
	ID        int64
	SchoolID  int64
	Recipient string
	Subject   string
	Body      string
	SentAt    time.Time
}

// TableName of the messages.
func (messageRow) TableName() string { return "outbox" }

// Send puts a message into the outbox.
func (s *School) Send(ctx context.Context, m Message) error {
	return s.db.WithContext(ctx).Create(&messageRow{Recipient: m.To, Subject: m.Subject, Body: m.Body, SentAt: m.At}).Error
}

// Outbox returns the newest messages.
func (s *School) Outbox(ctx context.Context, most int) ([]Message, error) {
	var rows []messageRow
	err := s.db.WithContext(ctx).Order("sent_at DESC, id DESC").Limit(most).Find(&rows).Error
	out := make([]Message, len(rows))
	for i, r := range rows {
		out[i] = Message{r.Recipient, r.Subject, r.Body, r.SentAt}
	}
	return out, err
}

type attemptRow struct {
	ID  int64
	Key string
	At  time.Time
}

// TableName of the attempts.
func (attemptRow) TableName() string { return "attempts" }

// An Attempt to sign in, as it was noted.
type Attempt struct {
	ids []int64
	// Counts says for each key how many attempts there are under it, this one
	// among them.
	Counts []int64
}

// Attempt notes an attempt under some keys, forgets those that are older than
// a time, and counts what is left. It is noted before it is counted: however
// many come at once, the n-th to be noted counts n at least.
func (s *Store) Attempt(ctx context.Context, now, old time.Time, keys ...string) (Attempt, error) {
	var a Attempt
	rows := make([]attemptRow, len(keys))
	for i, k := range keys {
		rows[i] = attemptRow{Key: k, At: now}
	}
	if err := s.door(ctx).Create(&rows).Error; err != nil {
		return a, err
	}
	for _, r := range rows {
		a.ids = append(a.ids, r.ID)
	}
	if err := s.door(ctx).Where("at <= ?", old).Delete(&attemptRow{}).Error; err != nil {
		return a, err
	}
	for _, k := range keys {
		var n int64
		if err := s.door(ctx).Model(&attemptRow{}).Where("key = ? AND at > ?", k, old).Count(&n).Error; err != nil {
			return a, err
		}
		a.Counts = append(a.Counts, n)
	}
	return a, nil
}

// TakeBack forgets an attempt that is not to count: it was refused unheard, or
// it was right.
func (s *Store) TakeBack(ctx context.Context, a Attempt) error {
	return s.door(ctx).Where("id IN ?", a.ids).Delete(&attemptRow{}).Error
}

// AttemptKey is the key of attempts at a name from a place.
func AttemptKey(name, place string) string { return name + ":" + place }

// ForgetName forgets the failed attempts at a name, from whatever place.
func (s *Store) ForgetName(ctx context.Context, name string) error {
	return s.door(ctx).Where("key >= ? AND key < ?", name+":", name+";").Delete(&attemptRow{}).Error // ";" comes after ":"
}

// Forget forgets the failed attempts under a key.
func (s *Store) Forget(ctx context.Context, key string) error {
	return s.door(ctx).Where("key = ?", key).Delete(&attemptRow{}).Error
}
