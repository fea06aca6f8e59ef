package people

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/alexedwards/scs/v2"
	"golang.org/x/sync/semaphore"

	"freshapron/internal/app/school"
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
	attempts        = 8  // at one name from one place
	attemptsByPlace = 40 // a school's people share one address to the outside:
	attemptsInCrowd = 2  // beyond that each name has so many from there

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

// A Door is where people come in to a site. It is safe for many goroutines.
type Door struct {
	*school.Site
	hashing gate
}

// NewDoor returns the door of a site.
func NewDoor(s *school.Site) *Door {
	return &Door{s, gate{semaphore.NewWeighted(hashesAtOnce), signInPatience}}
}

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

// nameKey stands for the name of an account where attempts at it are kept.
func nameKey(email string) string {
	return hashOf("name " + strings.ToLower(strings.TrimSpace(email)))
}

// SignIn returns the account to which an address and a password belong. From
// names where the attempt comes from. The attempt is noted before the password
// is looked at, so that many at once are many. It counts for the name at that place, so
// that nobody who guesses elsewhere keeps somebody out.
func (d *Door) SignIn(ctx context.Context, email, password, from string) (store.Account, error) {
	now := d.Now()
	place := hashOf("from " + from)
	name := store.AttemptKey(nameKey(email), place)
	attempt, err := d.Store.Attempt(ctx, now, now.Add(-Window), name, place)
	if err != nil {
		return store.Account{}, err
	}
	if n := attempt.Counts[0]; n > attempts || n > attemptsInCrowd && attempt.Counts[1] > attemptsByPlace {
		return store.Account{}, errors.Join(ErrTooMany, d.Store.TakeBack(ctx, attempt))
	}
	account, err := d.Store.AccountByEmail(ctx, strings.TrimSpace(email))
	if err != nil && !errors.Is(err, school.ErrNotFound) {
		return store.Account{}, err
	}
	hash := nobody
	if err == nil && account.Password != "" && !account.Closed {
		hash = account.Password
	}
	match := false
	err = d.hashing.through(ctx, func() error {
		if utf8.RuneCountInString(password) <= longestPassword {
			match, _ = argon2id.ComparePasswordAndHash(password, hash)
		}
		return nil
	})
	switch {
	case err != nil:
		return store.Account{}, errors.Join(err, d.Store.TakeBack(ctx, attempt))
	case !match || hash == nobody:
		return store.Account{}, ErrWrong
	}
	if err := d.Store.TakeBack(ctx, attempt); err != nil {
		return store.Account{}, err
	}
	return account, d.Store.Forget(ctx, name)
}

// Offered returns the accounts that the demonstration offers.
func (d *Door) Offered(ctx context.Context) ([]store.Account, error) { return d.Store.Offered(ctx) }

// SignInOffered returns the account of the demonstration with the id.
func (d *Door) SignInOffered(ctx context.Context, id string) (store.Account, error) {
	list, err := d.Offered(ctx)
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
func (d *Door) SignedIn(ctx context.Context, id int64) (store.Account, error) {
	if id == 0 {
		return store.Account{}, school.ErrNotFound
	}
	a, err := d.Store.Account(ctx, id)
	if err == nil && a.Closed {
		err = school.ErrNotFound
	}
	return a, err
}

// Keys of what a session holds.
const (
	SessionSchool  = store.SessionSchool
	SessionAccount = store.SessionAccount
	SessionAgent   = store.SessionAgent
	SessionBegan   = store.SessionBegan
)

// Sessions returns where sessions are kept: in the database, so that any copy
// of the program knows them. A browser keeps to the real time.
func (d *Door) Sessions() scs.CtxStore { return store.Sessions{Store: d.Store, Now: time.Now} }
