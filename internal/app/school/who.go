package school

import (
	"context"
	"slices"
	"strconv"
	"time"

	"freshapron/internal/core/staff"
	"freshapron/internal/store"
)

func minutes(d time.Duration) string { return strconv.Itoa(int(d.Minutes())) }

// here is the key of the school in which somebody acts, acting that of who
// they are.
type (
	here   struct{}
	acting struct{}
)

// As returns a context in which an account acts in a school.
func As(ctx context.Context, s *School, a store.Account) context.Context {
	return context.WithValue(context.WithValue(ctx, here{}, s), acting{}, a)
}

// Looking returns a context for somebody who only looks, and not for long: in
// what state the school is, is asked for once.
func Looking(ctx context.Context) context.Context { return store.Remember(ctx) }

// In returns the school in which whoever asks acts. It panics where nobody
// does: who that is has to be known before anything of a school is touched.
func In(ctx context.Context) *School {
	s, ok := ctx.Value(here{}).(*School)
	if !ok {
		panic("school: nobody acts here")
	}
	return s
}

// Name returns the name of the school in which somebody acts; empty where
// nobody does.
func Name(ctx context.Context) string {
	if s, ok := ctx.Value(here{}).(*School); ok {
		return s.School.Name
	}
	return ""
}

// Acting returns whoever acts; the zero account where that is nobody, who may
// do nothing.
func Acting(ctx context.Context) store.Account {
	a, _ := ctx.Value(acting{}).(store.Account)
	return a
}

// May reports whether whoever acts may do something.
func May(ctx context.Context, a staff.Action) bool { return Acting(ctx).Role.May(a) }

// Note adds to the trail what whoever acts has seen or done: with the changes
// that it tells of where those are made in a transaction.
func Note(ctx context.Context, in *store.School, n store.Note) error {
	who := Acting(ctx)
	n.Account, n.Who, n.At = who.ID, who.Name, In(ctx).Now()
	return in.Note(ctx, n)
}

// Mine reports whether whoever acts belongs to a class.
func Mine(ctx context.Context, class int64) (bool, error) {
	own, err := In(ctx).ClassesOf(ctx, Acting(ctx).ID)
	return slices.Contains(own, class), err
}
