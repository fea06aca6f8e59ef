package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"github.com/jackc/pgx/v5"
	"gorm.io/gorm/clause"
)

// A Tick is a line of a list that was done, or undone.
type Tick struct {
	List, Line string
	Done       bool
	Who        string
	Made, At   time.Time // when it was made, and when it arrived
	Press      string    // a UUID: one that arrives twice counts once
}

type tickRow struct {
	ID       int64
	SchoolID int64
	List     string
	Line     string
	Done     bool
	Who      string
	Made     time.Time
	At       time.Time
	Press    string
}

// TableName of the ticks.
func (tickRow) TableName() string { return "ticks" }

func (r tickRow) tick() Tick { return Tick{r.List, r.Line, r.Done, r.Who, r.Made, r.At, r.Press} }

// AddTicks keeps ticks, each press once, and tells whoever looks at their lists.
func (s *School) AddTicks(ctx context.Context, list []Tick) error {
	return s.InTransaction(ctx, func(in *School) error {
		lists := map[string]bool{}
		for _, t := range list {
			row := tickRow{List: t.List, Line: t.Line, Done: t.Done, Who: t.Who, Made: t.Made, At: t.At, Press: t.Press}
			once := clause.OnConflict{Columns: []clause.Column{{Name: "school_id"}, {Name: "press"}}, DoNothing: true}
			result := in.db.Clauses(once).Create(&row)
			if result.Error != nil {
				return result.Error
			}
			lists[t.List] = lists[t.List] || result.RowsAffected > 0
		}
		for name, added := range lists {
			if added {
				if err := in.tell(Notice{School: s.ID, About: name}); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// Ticks returns how the lines of lists stand: of each the tick that was made last.
func (s *School) Ticks(ctx context.Context, lists ...string) ([]Tick, error) {
	var rows []tickRow
	err := s.db.WithContext(ctx).Select("DISTINCT ON (list, line) *").Where("list IN ?", lists).Order("list, line, made DESC, id DESC").Find(&rows).Error
	return each(rows, tickRow.tick), err
}

// A Notice says that something of a school has changed.
type Notice struct {
	School int64  `json:"school"`
	About  string `json:"about"`
}

// channel is where PostgreSQL passes notices on to all copies of the program.
const channel = "freshapron_news"

// tell passes a notice on when the transaction is made.
func (s *School) tell(n Notice) error {
	text, err := json.Marshal(n)
	if err != nil {
		return err
	}
	return s.db.Exec("SELECT pg_notify(?, ?)", channel, string(text)).Error
}

// Listen calls heard with every notice, from all copies of the program, until the
// context ends: on a connection of its own, which is made anew where it breaks.
// After it was broken it calls heard with the zero notice, since some may have
// been missed.
func (s *Store) Listen(ctx context.Context, heard func(Notice)) {
	for pause := time.Duration(0); ctx.Err() == nil; pause = min(5*time.Second, 2*pause+100*time.Millisecond) {
		select {
		case <-ctx.Done():
			return
		case <-time.After(pause):
		}
		begun := false
		err := s.listen(ctx, func() { begun = true; heard(Notice{}) }, heard)
		if begun {
			pause = 0
		}
		if err != nil && ctx.Err() == nil {
			slog.WarnContext(ctx, "news broke off", "error", err)
		}
	}
}

func (s *Store) listen(ctx context.Context, ready func(), heard func(Notice)) (err error) {
	connecting, cancel := context.WithTimeout(ctx, longestConnect)
	defer cancel()
	conn, err := pgx.Connect(connecting, s.url)
	if err != nil {
		return err
	}
	defer func() {
		closing, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
		defer cancel()
		err = errors.Join(err, conn.Close(closing))
	}()
	if _, err := conn.Exec(connecting, "LISTEN "+channel); err != nil {
		return err
	}
	ready()
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		var notice Notice
		if err := json.Unmarshal([]byte(n.Payload), &notice); err != nil {
			return fmt.Errorf("a notice can't be read: %w", err)
		}
		heard(notice)
	}
}
