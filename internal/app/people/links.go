package people

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"

	"freshapron/internal/app/school"
	"freshapron/internal/core/problem"
	"freshapron/internal/store"
)

// Forgotten sends a link to set a new password to an address, where there is
// an account with it. The caller does not learn whether there is. It returns ErrTooMany
// where too many were asked for from there: none is promised that is not sent.
func (d *Door) Forgotten(ctx context.Context, email, from string) error {
	now := d.Now()
	key := hashOf("forgotten " + from)
	attempt, err := d.Store.Attempt(ctx, now, now.Add(-Window), key)
	if err != nil {
		return err
	}
	if attempt.Counts[0] > attempts {
		return errors.Join(ErrTooMany, d.Store.TakeBack(ctx, attempt))
	}
	account, err := d.Store.AccountByEmail(ctx, strings.TrimSpace(email))
	if errors.Is(err, school.ErrNotFound) || err == nil && account.Closed {
		return nil
	}
	if err != nil {
		return err
	}
	a, err := d.Of(ctx, account.School)
	if err != nil {
		return err
	}
	return a.InTransaction(ctx, func(in *store.School) error { return sendLink(ctx, a, in, account, "reset") })
}

// sendLink puts a link into the outbox, with the change that asks for it.
func sendLink(ctx context.Context, a *school.School, in *store.School, to store.Account, purpose string) error {
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
		to.Name, why, a.Local(until).Format("Monday 2 January, 15:04"), a.Site.Address, token)
	if err := in.CreateLink(ctx, store.Link{Token: hashOf(token), Account: to.ID, Purpose: purpose, Expires: until}); err != nil {
		return err
	}
	return in.Send(ctx, store.Message{To: to.Email, Subject: subject, Body: body, At: a.Now()})
}

// Link returns whose link it is, or school.ErrNotFound where it does not count.
func (d *Door) Link(ctx context.Context, token string) (store.Account, error) {
	l, err := d.Store.Link(ctx, hashOf(token), d.Now())
	if err != nil {
		return store.Account{}, err
	}
	return d.SignedIn(ctx, l.Account)
}

// FollowLink sets the password of whoever has the link. It returns
// problem.List where the password won't do.
func (d *Door) FollowLink(ctx context.Context, token, password string) (store.Account, error) {
	account, err := d.Link(ctx, token)
	if err != nil {
		return account, err
	}
	if err := passwordProblem(password, account); err != "" {
		return account, problem.List{{Path: "password", Says: err}}
	}
	var hash string
	if err := d.hashing.through(ctx, func() (err error) {
		hash, err = argon2id.CreateHash(password, Hashing)
		return err
	}); err != nil {
		return account, err
	}
	a, err := d.Of(ctx, account.School)
	if err != nil {
		return account, err
	}
	err = a.InTransaction(ctx, func(in *store.School) error {
		if err := in.UseLink(ctx, hashOf(token), d.Now()); err != nil {
			return err
		}
		if err := in.SetPassword(ctx, account.ID, hash); err != nil {
			return err
		}
		return school.Note(school.As(ctx, a, account), in, store.Note{Did: "changed", About: "people", Says: "a password of their own, by a link"})
	})
	if err == nil { // whoever guessed at the old one keeps nobody from the new one
		err = d.Store.ForgetName(ctx, nameKey(account.Email))
	}
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
