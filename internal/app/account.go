package app

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"net/mail"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/semaphore"

	"freshapron/internal/core/problem"
	"freshapron/internal/core/staff"
	"freshapron/internal/core/words"
	"freshapron/internal/store"
)

// Errors of signing in.
var (
	// ErrWrong says that address and password don't belong together, and not
	// which of them is wrong.
	ErrWrong = errors.New("address and password do not belong together")
	// ErrTooMany says that there were too many failed attempts.
	ErrTooMany = errors.New("too many failed attempts")
	// ErrBusy says that too many sign in at this moment.
	ErrBusy = errors.New("too many at once")
)

// Limits of signing in.
const (
	// Window is the time over which failed attempts are counted.
	Window          = 15 * time.Minute
	attemptsByName  = 8
	attemptsByPlace = 40 // a school's people share one address to the outside

	// signInPatience is how long somebody waits for their turn to sign in.
	signInPatience = 5 * time.Second

	invitationLasts = 7 * 24 * time.Hour
	resetLasts      = time.Hour

	shortestPassword = 12
	longestPassword  = 200
)

// Hashing follows the OWASP password storage cheat sheet for argon2id: 19 MiB
// and two passes, on one thread, so that many who sign in at once don't need
// many times 64 MiB.
var Hashing = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// nobody's password is compared where there is no account, so that the time
// that it takes does not tell. It is the hash of random bytes that nobody kept.
const nobody = "$argon2id$v=19$m=19456,t=2,p=1$2IsmhsOEmuf2AkAbVbkJkQ$57JWCzm1+PMLcLZq9dWaFV8CqSvL7V65X74V0ysEwEI"

func hashOf(token string) string {
	sum := sha256.Sum256([]byte(token))
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// hashesAtOnce is how many passwords are hashed at once, at 19 MiB each.
const hashesAtOnce = 4

// gate lets a few through at a time to what takes memory; who waits longer
// than its patience is told to come again.
type gate struct {
	places   *semaphore.Weighted
	patience time.Duration
}

func (g gate) through(ctx context.Context, f func() error) error {
	wait, cancel := context.WithTimeout(ctx, g.patience)
	defer cancel()
	if err := g.places.Acquire(wait, 1); err != nil {
		return cmp.Or(ctx.Err(), ErrBusy)
	}
	defer g.places.Release(1)
	return f()
}

// SignIn returns the account to which an address and a password belong. From
// names where the attempt comes from. The attempt is noted before the password
// is looked at, so that many at once are many.
func (s *Site) SignIn(ctx context.Context, email, password, from string) (store.Account, error) {
	now := s.Now()
	name, place := hashOf("name "+strings.ToLower(strings.TrimSpace(email))), hashOf("from "+from)
	attempt, err := s.Store.Attempt(ctx, now, now.Add(-Window), name, place)
	if err != nil {
		return store.Account{}, err
	}
	if attempt.Counts[0] > attemptsByName || attempt.Counts[1] > attemptsByPlace {
		return store.Account{}, errors.Join(ErrTooMany, s.Store.TakeBack(ctx, attempt))
	}
	account, err := s.Store.AccountByEmail(ctx, strings.TrimSpace(email))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return store.Account{}, err
	}
	hash := nobody
	if err == nil && account.Password != "" && !account.Closed {
		hash = account.Password
	}
	match := false
	err = s.hashing.through(ctx, func() error {
		if utf8.RuneCountInString(password) <= longestPassword {
			match, _ = argon2id.ComparePasswordAndHash(password, hash)
		}
		return nil
	})
	switch {
	case err != nil:
		return store.Account{}, errors.Join(err, s.Store.TakeBack(ctx, attempt))
	case !match || hash == nobody:
		return store.Account{}, ErrWrong
	}
	if err := s.Store.TakeBack(ctx, attempt); err != nil {
		return store.Account{}, err
	}
	return account, s.Store.Forget(ctx, name)
}

// Offered returns the accounts that the demonstration offers.
func (s *Site) Offered(ctx context.Context) ([]store.Account, error) { return s.Store.Offered(ctx) }

// SignInOffered returns the account of the demonstration with the id.
func (s *Site) SignInOffered(ctx context.Context, id string) (store.Account, error) {
	list, err := s.Offered(ctx)
	if err != nil {
		return store.Account{}, err
	}
	for _, a := range list {
		if strconv.FormatInt(a.ID, 10) == id {
			return a, nil
		}
	}
	return store.Account{}, ErrWrong
}

// SignedIn returns an account that may go on, or ErrNotFound.
func (s *Site) SignedIn(ctx context.Context, id int64) (store.Account, error) {
	a, err := s.Store.Account(ctx, id)
	if err == nil && a.Closed {
		err = store.ErrNotFound
	}
	return a, err
}

// Forgotten sends a link to set a new password to an address, where there is
// an account with it. The caller does not learn whether there is.
func (s *Site) Forgotten(ctx context.Context, email, from string) error {
	now := s.Now()
	key := hashOf("forgotten " + from)
	attempt, err := s.Store.Attempt(ctx, now, now.Add(-Window), key)
	if err != nil {
		return err
	}
	if attempt.Counts[0] > attemptsByName {
		return s.Store.TakeBack(ctx, attempt)
	}
	account, err := s.Store.AccountByEmail(ctx, strings.TrimSpace(email))
	if errors.Is(err, store.ErrNotFound) || err == nil && account.Closed {
		return nil
	}
	if err != nil {
		return err
	}
	a, err := s.Of(ctx, account.School)
	if err != nil {
		return err
	}
	return a.sendLink(ctx, account, "reset")
}

func (a *App) sendLink(ctx context.Context, to store.Account, purpose string) error {
	secret := make([]byte, 32)
	if _, err := rand.Read(secret); err != nil {
		return err
	}
	token := base64.RawURLEncoding.EncodeToString(secret)
	lasts, subject, why := resetLasts, "A new password for Fresh Apron", "Somebody asked for a new password for you. If it was not you, leave this message; your password stays as it is."
	if purpose == "invitation" {
		lasts, subject, why = invitationLasts, "Your place in the food room of "+a.School.Name, a.School.Name+" plans its practical lessons with Fresh Apron, and you are to be there as "+to.Role.Name()+"."
	}
	until := a.Now().Add(lasts)
	body := fmt.Sprintf("%s,\n\n%s\n\nSet your password here, once, until %s:\n%s/link/%s\n",
		to.Name, why, a.Local(until).Format("Monday 2 January, 15:04"), a.site.Address, token)
	return a.School.InTransaction(ctx, func(in *store.School) error {
		if err := in.CreateLink(ctx, store.Link{Token: hashOf(token), Account: to.ID, Purpose: purpose, Expires: until}); err != nil {
			return err
		}
		return in.Send(ctx, store.Message{To: to.Email, Subject: subject, Body: body, At: a.Now()})
	})
}

// Link returns whose link it is, or store.ErrNotFound where it does not count.
func (s *Site) Link(ctx context.Context, token string) (store.Account, error) {
	l, err := s.Store.Link(ctx, hashOf(token), s.Now())
	if err != nil {
		return store.Account{}, err
	}
	return s.SignedIn(ctx, l.Account)
}

// FollowLink sets the password of whoever has the link. It returns
// problem.List where the password won't do.
func (s *Site) FollowLink(ctx context.Context, token, password string) (store.Account, error) {
	account, err := s.Link(ctx, token)
	if err != nil {
		return account, err
	}
	if err := passwordProblem(password, account); err != "" {
		return account, problem.List{{Path: "password", Says: err}}
	}
	var hash string
	if err := s.hashing.through(ctx, func() (err error) {
		hash, err = argon2id.CreateHash(password, Hashing)
		return err
	}); err != nil {
		return account, err
	}
	a, err := s.Of(ctx, account.School)
	if err != nil {
		return account, err
	}
	err = a.School.InTransaction(ctx, func(in *store.School) error {
		if err := in.UseLink(ctx, hashOf(token), s.Now()); err != nil {
			return err
		}
		if err := in.SetPassword(ctx, account.ID, hash); err != nil {
			return err
		}
		return a.note(As(ctx, account), in, store.Note{Did: "changed", About: "people", Says: "a password of their own, by a link"})
	})
	return account, err
}

func passwordProblem(password string, a store.Account) string {
	n := utf8.RuneCountInString(password)
	low := strings.ToLower(password)
	switch {
	case n < shortestPassword:
		return fmt.Sprintf("The password has %d characters; it needs at least %d. Three or four words that don’t belong together are easy to keep.", n, shortestPassword)
	case n > longestPassword:
		return fmt.Sprintf("The password is longer than %d characters.", longestPassword)
	case strings.Count(low, low[:1]) == len(low):
		return "The password is one character over and over. Take words that don’t belong together."
	case len(a.Email) > 8 && strings.Contains(low, strings.ToLower(strings.Split(a.Email, "@")[0])) || strings.Contains("password passwordpassword 123456789012 qwertyuiopas freshapron", low):
		return "That password is among the first to be guessed. Take words that don’t belong together."
	}
	return ""
}

// A Person is an account as a form has it, in the words that were typed.
type Person struct {
	Name, Email, Role string
	Closed            bool
}

const longestName = 80

func (f *form) person(p Person) store.Account {
	a := store.Account{Name: strings.TrimSpace(p.Name), Email: strings.TrimSpace(p.Email), Role: staff.Role(p.Role), Closed: p.Closed}
	switch n := utf8.RuneCountInString(a.Name); {
	case n == 0:
		f.add("name", "Give the person’s name.")
	case n > longestName:
		f.add("name", "The name is longer than %d letters.", longestName)
	}
	if a.Role.Name() == "" {
		f.add("role", "Choose what the person does here.")
	}
	return a
}

// Invite adds somebody to the school and sends a link.
func (a *App) Invite(ctx context.Context, p Person) (store.Account, error) {
	var f form
	account := f.person(p)
	if parsed, err := mail.ParseAddress(account.Email); err != nil || parsed.Address != account.Email || len(account.Email) > 200 {
		f.add("email", "“%s” is not an address such as sam@quillhaven.example.", words.Short(account.Email))
	}
	if f.problems != nil {
		return account, f.problems
	}
	account.CreatedAt, account.School = a.Now(), a.School.ID
	err := a.School.InTransaction(ctx, func(in *store.School) (err error) {
		if account.ID, err = in.CreateAccount(ctx, account); err != nil {
			return err
		}
		return a.note(ctx, in, store.Note{Did: "changed", About: "people", Says: account.Name + " was invited as " + account.Role.Name()})
	})
	if errors.Is(err, store.ErrTaken) {
		return account, problem.List{{Path: "email", Says: "Somebody with that address has an account already. Take another, or ask them to sign in."}}
	}
	if err != nil {
		return account, err
	}
	return account, a.sendLink(ctx, account, "invitation")
}

// ChangePerson writes somebody's name, role and whether they may come in.
func (a *App) ChangePerson(ctx context.Context, id int64, p Person) error {
	was, err := a.School.Account(ctx, id)
	if err != nil {
		return err
	}
	var f form
	is := f.person(p)
	if was.ID == Acting(ctx).ID && (is.Role != was.Role || is.Closed) {
		f.add("role", "You can’t take your own place away: another head of food can.")
	}
	if f.problems != nil {
		return f.problems
	}
	is.ID = id
	says := fmt.Sprintf("%s is %s", is.Name, is.Role.Name())
	if is.Closed {
		says = is.Name + " may no longer come in"
	}
	return a.School.InTransaction(ctx, func(in *store.School) error {
		if err := in.ChangeAccount(ctx, is); err != nil {
			return err
		}
		return a.note(ctx, in, store.Note{Did: "changed", About: "people", Says: says})
	})
}

// SendLink sends somebody of the school a new link.
func (a *App) SendLink(ctx context.Context, id int64) error {
	to, err := a.School.Account(ctx, id)
	if err != nil {
		return err
	}
	purpose := "reset"
	if to.Password == "" {
		purpose = "invitation"
	}
	if err := a.note(ctx, a.School, store.Note{Did: "changed", About: "people", Says: "a link was sent to " + to.Name}); err != nil {
		return err
	}
	return a.sendLink(ctx, to, purpose)
}

// SessionsOf returns where somebody of the school is signed in.
func (a *App) SessionsOf(ctx context.Context, account int64) ([]store.Session, error) {
	return a.School.SessionsOf(ctx, account, time.Now()) // a browser keeps to the real time
}

// EndSession signs out of one session, or of all where session is empty. Only
// who may govern ends those of another account.
func (a *App) EndSession(ctx context.Context, account, session string) error {
	who := Acting(ctx)
	id := who.ID
	if n, err := strconv.ParseInt(account, 10, 64); err == nil && who.Role.May(staff.Govern) {
		id = n
	}
	if err := a.School.EndSessions(ctx, id, session); err != nil {
		return err
	}
	return a.note(ctx, a.School, store.Note{Did: "changed", About: "people", Says: "ended a session"})
}

// Local returns a time as the school's clocks show it.
func (a *App) Local(t time.Time) time.Time { return t.In(a.School.Location) }

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
