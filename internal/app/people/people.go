// Package people is who may come in to a school and what they may do there:
// signing in, links that set a password, accounts and sessions.
package people

import (
	"context"
	"errors"
	"fmt"
	"net/mail"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// A Person is an account as a form has it, in the words that were typed.
type Person struct {
	Name, Email, Role string
	Closed            bool
}

// account reads the form.
func (p Person) account(f *typed.Form) store.Account {
	a := store.Account{Name: f.Name("name", "Give the person’s name.", p.Name), Email: strings.TrimSpace(p.Email), Role: staff.Role(p.Role), Closed: p.Closed}
	if a.Role.Name() == "" {
		f.Add("role", "Choose what the person does here.")
	}
	return a
}

// Invite adds somebody to the school and sends a link.
func Invite(ctx context.Context, p Person) (store.Account, error) {
	a := school.In(ctx)
	var f typed.Form
	account := p.account(&f)
	if parsed, err := mail.ParseAddress(account.Email); err != nil || parsed.Address != account.Email || len(account.Email) > 200 {
		f.Add("email", "“%s” is not an address such as sam@quillhaven.example.", words.Short(account.Email))
	}
	if f.Problems != nil {
		return account, f.Problems
	}
	account.CreatedAt, account.School = a.Now(), a.ID
	err := a.InTransaction(ctx, func(in *store.School) (err error) {
		if account.ID, err = in.CreateAccount(ctx, account); err != nil {
			return err
		}
		if err := sendLink(ctx, a, in, account, "invitation"); err != nil {
			return err
		}
		return school.Note(ctx, in, store.Note{Did: "changed", About: "people", Says: account.Name + " was invited as " + account.Role.Name()})
	})
	if errors.Is(err, store.ErrTaken) {
		err = problem.New("email", "Somebody with that address has an account already. Take another, or ask them to sign in.")
	}
	return account, err
}

// ChangePerson writes somebody's name, role and whether they may come in.
func ChangePerson(ctx context.Context, id int64, p Person) error {
	a := school.In(ctx)
	was, err := a.Account(ctx, id)
	if err != nil {
		return err
	}
	var f typed.Form
	is := p.account(&f)
	if was.ID == school.Acting(ctx).ID && (is.Role != was.Role || is.Closed) {
		f.Add("role", "You can’t take your own place away: another head of food can.")
	}
	if f.Problems != nil {
		return f.Problems
	}
	is.ID = id
	says := fmt.Sprintf("%s is %s", is.Name, is.Role.Name())
	if is.Closed {
		says = is.Name + " may no longer come in"
	}
	return a.InTransaction(ctx, func(in *store.School) error {
		if err := in.ChangeAccount(ctx, is); err != nil {
			return err
		}
		return school.Note(ctx, in, store.Note{Did: "changed", About: "people", Says: says})
	})
}

// SendLink sends somebody of the school a new link.
func SendLink(ctx context.Context, id int64) error {
	a := school.In(ctx)
	to, err := a.Account(ctx, id)
	if err != nil {
		return err
	}
	purpose := "reset"
	if to.Password == "" {
		purpose = "invitation"
	}
	return a.InTransaction(ctx, func(in *store.School) error {
		if err := school.Note(ctx, in, store.Note{Did: "changed", About: "people", Says: "a link was sent to " + to.Name}); err != nil {
			return err
		}
		return sendLink(ctx, a, in, to, purpose)
	})
}

// SessionsOf returns where somebody of the school is signed in.
func SessionsOf(ctx context.Context, account int64) ([]store.Session, error) {
	a := school.In(ctx)
	return a.SessionsOf(ctx, account, time.Now()) // a browser keeps to the real time
}

// EndSession signs out of one session, or of all where session is empty. Only
// who may govern ends those of another account.
func EndSession(ctx context.Context, account, session string) error {
	a := school.In(ctx)
	who := school.Acting(ctx)
	id := who.ID
	if n, err := strconv.ParseInt(account, 10, 64); err == nil && who.Role.May(staff.Govern) {
		id = n
	}
	if err := a.EndSessions(ctx, id, session); err != nil {
		return err
	}
	return school.Note(ctx, a.School, store.Note{Did: "changed", About: "people", Says: "ended a session"})
}

// Browser names a browser by what it says of itself.
func Browser(agent string) string {
	name := "A browser"
	for _, b := range []struct{ has, name string }{
		{"Edg/", "Edge"}, {"Firefox/", "Firefox"}, {"Chrome/", "Chrome"}, {"Safari/", "Safari"},
	} {
		if strings.Contains(agent, b.has) {
			name = b.name
			break
		}
	}
	for _, on := range []struct{ has, name string }{
		{"Android", "Android"}, {"iPhone", "a phone"}, {"iPad", "a tablet"}, {"Windows", "Windows"}, {"Macintosh", "a Mac"}, {"CrOS", "a Chromebook"}, {"Linux", "Linux"},
	} {
		if strings.Contains(agent, on.has) {
			return name + " on " + on.name
		}
	}
	return name
}

// What the store keeps of people.
type (
	// An Account is somebody who can sign in.
	Account = store.Account
	// A Message would be sent by mail.
	Message = store.Message
	// A Note of the trail says who saw or changed what is sensitive.
	Note = store.Note
	// A Session is somebody signed in at some browser.
	Session = store.Session
)

// shown is how many messages or notes are shown at once.
const shown = 50

// All returns the school's people by name.
func All(ctx context.Context) ([]Account, error) { return school.In(ctx).Accounts(ctx) }

// One returns one of them.
func One(ctx context.Context, id int64) (Account, error) { return school.In(ctx).Account(ctx, id) }

// Invited reports whether somebody has not set a password yet. In a
// demonstration nobody has to.
func Invited(ctx context.Context, a Account) bool {
	return a.Password == "" && !school.In(ctx).Demonstration
}

// Outbox returns the newest messages.
func Outbox(ctx context.Context) ([]Message, error) { return school.In(ctx).Outbox(ctx, shown) }

// Trail returns the newest notes about something, about all where it is empty,
// from before the note with the id; 0 begins with the newest. Next is the id to
// go on from; 0 where there are no more.
func Trail(ctx context.Context, about string, before int64) (notes []Note, next int64, err error) {
	return school.In(ctx).Trail(ctx, about, before, shown)
}
