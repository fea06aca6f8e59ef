package people_test

import (
	"context"
	"errors"
	"regexp"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/core/staff"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

var link = regexp.MustCompile(`/link/([\w-]+)`)

// newest returns the newest message, and the token of its link.
func newest(t *testing.T, h demotest.House) (store.Message, string) {
	t.Helper()
	box, err := h.School.Outbox(context.Background(), 1)
	require.NoError(t, err)
	require.NotEmpty(t, box)
	found := link.FindStringSubmatch(box[0].Body)
	require.NotNil(t, found, box[0].Body)
	return box[0], found[1]
}

const password = "kettle harbour ninepence"

// An invitation is a link that works once and for a week.
func TestInvitations(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	for _, c := range []struct {
		in   people.Person
		says []string
	}{
		{people.Person{}, []string{"name: Give the person’s name.", "role: Choose what the person does here.", "email: “” is not an address such as sam@quillhaven.example."}},
		{people.Person{Name: "Sam", Email: "Sam <sam@quillhaven.example>", Role: "teacher"}, []string{"email: “Sam <sam@quillhaven.example>” is not an address such as sam@quillhaven.example."}},
		{people.Person{Name: strings.Repeat("é", 81), Email: "sam@quillhaven.example", Role: "king"}, []string{"name: The name is longer than 80 letters.", "role: Choose what the person does here."}},
		{people.Person{Name: "Sam", Email: "MAREN.HOLT@quillhaven.example", Role: "teacher"}, []string{"email: Somebody with that address has an account already. Take another, or ask them to sign in."}},
	} {
		_, err := people.Invite(ctx, c.in)
		demotest.Says(t, err, c.says...)
	}
	sam, err := people.Invite(ctx, people.Person{Name: "Sam Ardent", Email: "sam@quillhaven.example", Role: "assistant"})
	require.NoError(t, err)
	m, token := newest(t, h)
	assert.Equal(t, "sam@quillhaven.example", m.To)
	assert.Contains(t, m.Body, "Thursday 3 December, 09:00", "a week, by the school's clocks")
	assert.Contains(t, m.Body, "assistant")
	_, err = people.NewDoor(h.Site).SignIn(ctx, "sam@quillhaven.example", "", "here")
	assert.ErrorIs(t, err, people.ErrWrong, "nobody comes in without a password")

	for wrong, want := range map[string]string{
		"short":                  "The password has 5 characters; it needs at least 12.",
		strings.Repeat("x", 201): "longer than 200 characters",
		strings.Repeat("Aa", 9):  "one character over and over",
		"passwordpassword":       "among the first to be guessed",
	} {
		_, err = people.NewDoor(h.Site).FollowLink(ctx, token, wrong)
		require.Error(t, err)
		assert.Contains(t, err.Error(), want)
	}
	who, err := people.NewDoor(h.Site).FollowLink(ctx, token, password)
	require.NoError(t, err)
	assert.Equal(t, sam.ID, who.ID)
	_, err = people.NewDoor(h.Site).FollowLink(ctx, token, password)
	assert.ErrorIs(t, err, school.ErrNotFound, "once")
	_, err = people.NewDoor(h.Site).FollowLink(ctx, "", password)
	assert.ErrorIs(t, err, school.ErrNotFound)
	who, err = people.NewDoor(h.Site).SignIn(ctx, " SAM@quillhaven.example ", password, "here")
	require.NoError(t, err)
	assert.Equal(t, "Sam Ardent", who.Name)

	require.NoError(t, people.SendLink(ctx, sam.ID))
	m, token = newest(t, h)
	assert.Contains(t, m.Subject, "password")
	h.At(demotest.Nine.Add(time.Hour + time.Second))
	_, err = people.NewDoor(h.Site).Link(ctx, token)
	assert.ErrorIs(t, err, school.ErrNotFound, "a reset works for an hour")
	assert.ErrorIs(t, people.SendLink(ctx, 9999), school.ErrNotFound)
}

func TestForgottenPasswords(t *testing.T) {
	h := demotest.Enter(t)
	ctx := context.Background()
	before, err := h.School.Outbox(ctx, 50)
	require.NoError(t, err)
	require.NoError(t, people.NewDoor(h.Site).Forgotten(ctx, "nobody@quillhaven.example", "there"), "it is not told that nobody has this address")
	after, err := h.School.Outbox(ctx, 50)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	require.NoError(t, people.NewDoor(h.Site).Forgotten(ctx, "idris.bell@quillhaven.example", "there"))
	m, token := newest(t, h)
	assert.Equal(t, "idris.bell@quillhaven.example", m.To)
	_, err = people.NewDoor(h.Site).FollowLink(ctx, token, "idris.bell and more")
	require.Error(t, err, "the own name is guessed first")
	_, err = people.NewDoor(h.Site).FollowLink(ctx, token, password)
	require.NoError(t, err)

	for n := range 20 {
		err := people.NewDoor(h.Site).Forgotten(ctx, "maren.holt@quillhaven.example", "a bore")
		assert.Equal(t, n >= 8, errors.Is(err, people.ErrTooMany), "what is not sent is said")
	}
	box, err := h.School.Outbox(ctx, 50)
	require.NoError(t, err)
	sent := 0
	for _, m := range box {
		if m.To == "maren.holt@quillhaven.example" {
			sent++
		}
	}
	assert.Equal(t, 8, sent, "one place can't fill a letter box")
}

// Eight wrong passwords close an account's door at that place for a quarter of an hour, to
// the right one too, and nowhere else; from a place with forty wrong ones each name has
// two. A password that is set by a link works at once.
func TestGuessing(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	door := people.NewDoor(h.Site)
	link := func() {
		t.Helper()
		require.NoError(t, door.Forgotten(ctx, "idris.bell@quillhaven.example", "there"))
		_, token := newest(t, h)
		_, err := door.FollowLink(ctx, token, password)
		require.NoError(t, err)
	}
	try := func(name, with, from string) error {
		_, err := door.SignIn(ctx, name+"@quillhaven.example", with, from)
		return err
	}
	link()
	for range 8 {
		require.ErrorIs(t, try("idris.bell", password+"!", "a stranger's"), people.ErrWrong)
	}
	assert.ErrorIs(t, try("idris.bell", password, "a stranger's"), people.ErrTooMany)
	assert.NoError(t, try("idris.bell", password, "the school's"), "whoever guesses elsewhere keeps nobody out")
	h.At(demotest.Nine.Add(people.Window + time.Second))
	assert.NoError(t, try("idris.bell", password, "a stranger's"))
	for range 8 {
		require.ErrorIs(t, try("idris.bell", "wrong", "home"), people.ErrWrong)
	}
	require.ErrorIs(t, try("idris.bell", password, "home"), people.ErrTooMany)
	link()
	assert.NoError(t, try("idris.bell", password, "home"), "the new one works at once")
	for i := range 41 {
		require.ErrorIs(t, try(demotest.ID(int64(i)), strings.Repeat("long", 60), "one place"), people.ErrWrong)
	}
	assert.NoError(t, try("idris.bell", password, "one place"), "somebody else's guesses are not theirs")
	for range 2 {
		require.ErrorIs(t, try("idris.bell", "wrong", "one place"), people.ErrWrong)
	}
	assert.ErrorIs(t, try("idris.bell", password, "one place"), people.ErrTooMany, "in a crowd")
}

func TestChangingPeople(t *testing.T) {
	h := demotest.Enter(t)
	ctx := h.As("Maren Holt")
	me := school.Acting(ctx)
	own := people.Person{Name: "Maren Holt-Bray", Role: string(staff.Head)}
	require.NoError(t, people.ChangePerson(ctx, me.ID, own), "a name may change")
	own.Role = string(staff.Teacher)
	demotest.Says(t, people.ChangePerson(ctx, me.ID, own), "role: You can’t take your own place away: another head of food can.")
	own.Role, own.Closed = string(staff.Head), true
	demotest.Says(t, people.ChangePerson(ctx, me.ID, own), "role: You can’t take your own place away: another head of food can.")
	bea := school.Acting(h.As("Bea Lindqvist"))
	require.NoError(t, people.ChangePerson(ctx, bea.ID, people.Person{Name: bea.Name, Role: string(bea.Role), Closed: true}))
	assert.Equal(t, "Bea Lindqvist may no longer come in", h.LastNote().Says)
	_, err := people.NewDoor(h.Site).SignedIn(ctx, bea.ID)
	assert.ErrorIs(t, err, school.ErrNotFound)
	_, err = people.NewDoor(h.Site).SignInOffered(ctx, demotest.ID(bea.ID))
	assert.ErrorIs(t, err, people.ErrWrong)
	assert.ErrorIs(t, people.ChangePerson(ctx, 9999, own), school.ErrNotFound)
	for _, wrong := range []string{"", "0", "x"} {
		_, err = people.NewDoor(h.Site).SignInOffered(ctx, wrong)
		assert.ErrorIs(t, err, people.ErrWrong, wrong)
	}
}

func TestBrowsers(t *testing.T) {
	for agent, want := range map[string]string{
		"Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0":                                                  "Firefox on Linux",
		"Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36 Edg/140.0":               "Edge on Windows",
		"Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Mobile Safari/537.36":                "Chrome on Android",
		"Mozilla/5.0 (iPad; CPU OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile Safari/604.1": "Safari on a tablet",
		"curl/8":   "A browser",
		"":         "A browser",
		"Firefox/": "Firefox",
	} {
		assert.Equal(t, want, people.Browser(agent), agent)
	}
}

// However many guess at once, each is counted before it is heard; whom a slow machine sends
// away is not heard either.
func TestGuessingAtOnce(t *testing.T) {
	h := demotest.Enter(t)
	heard, refused := atomic.Int64{}, atomic.Int64{}
	var wait sync.WaitGroup
	for range 60 {
		wait.Go(func() {
			switch _, err := people.NewDoor(h.Site).SignIn(context.Background(), "idris.bell@quillhaven.example", "wrong and wrong again", "one place"); {
			case errors.Is(err, people.ErrWrong):
				heard.Add(1)
			case errors.Is(err, people.ErrTooMany), errors.Is(err, people.ErrBusy), errors.Is(err, school.ErrBusy):
				refused.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	wait.Wait()
	assert.LessOrEqual(t, heard.Load(), int64(8))
	assert.Equal(t, int64(60), heard.Load()+refused.Load())
}
