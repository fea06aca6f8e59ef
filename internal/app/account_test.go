package app_test

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

	"freshapron/internal/app"
	"freshapron/internal/core/staff"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
)

var link = regexp.MustCompile(`/link/([\w-]+)`)

// newest returns the newest message, and the token of its link.
func (h house) newest() (store.Message, string) {
	h.t.Helper()
	box, err := h.School.Outbox(context.Background(), 1)
	require.NoError(h.t, err)
	require.NotEmpty(h.t, box)
	found := link.FindStringSubmatch(box[0].Body)
	require.NotNil(h.t, found, box[0].Body)
	return box[0], found[1]
}

const password = "kettle harbour ninepence"

// An invitation is a link that works once and for a week.
func TestInvitations(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	for _, c := range []struct {
		in   app.Person
		says []string
	}{
		{app.Person{}, []string{"name: Give the person’s name.", "role: Choose what the person does here.", "email: “” is not an address such as sam@quillhaven.example."}},
		{app.Person{Name: "Sam", Email: "Sam <sam@quillhaven.example>", Role: "teacher"}, []string{"email: “Sam <sam@quillhaven.example>” is not an address such as sam@quillhaven.example."}},
		{app.Person{Name: strings.Repeat("é", 81), Email: "sam@quillhaven.example", Role: "king"}, []string{"name: The name is longer than 80 letters.", "role: Choose what the person does here."}},
		{app.Person{Name: "Sam", Email: "MAREN.HOLT@quillhaven.example", Role: "teacher"}, []string{"email: Somebody with that address has an account already. Take another, or ask them to sign in."}},
	} {
		_, err := h.Invite(ctx, c.in)
		says(t, err, c.says...)
	}
	sam, err := h.Invite(ctx, app.Person{Name: "Sam Ardent", Email: "sam@quillhaven.example", Role: "assistant"})
	require.NoError(t, err)
	m, token := h.newest()
	assert.Equal(t, "sam@quillhaven.example", m.To)
	assert.Contains(t, m.Body, "Thursday 3 December, 09:00", "a week, by the school's clocks")
	assert.Contains(t, m.Body, "assistant")
	_, err = h.site.SignIn(ctx, "sam@quillhaven.example", "", "here")
	assert.ErrorIs(t, err, app.ErrWrong, "nobody comes in without a password")

	for wrong, want := range map[string]string{
		"short":                  "The password has 5 characters; it needs at least 12.",
		strings.Repeat("x", 201): "longer than 200 characters",
		strings.Repeat("Aa", 9):  "one character over and over",
		"passwordpassword":       "among the first to be guessed",
	} {
		_, err = h.site.FollowLink(ctx, token, wrong)
		require.Error(t, err)
		assert.Contains(t, err.Error(), want)
	}
	who, err := h.site.FollowLink(ctx, token, password)
	require.NoError(t, err)
	assert.Equal(t, sam.ID, who.ID)
	_, err = h.site.FollowLink(ctx, token, password)
	assert.ErrorIs(t, err, store.ErrNotFound, "once")
	_, err = h.site.FollowLink(ctx, "", password)
	assert.ErrorIs(t, err, store.ErrNotFound)
	who, err = h.site.SignIn(ctx, " SAM@quillhaven.example ", password, "here")
	require.NoError(t, err)
	assert.Equal(t, "Sam Ardent", who.Name)

	require.NoError(t, h.SendLink(ctx, sam.ID))
	m, token = h.newest()
	assert.Contains(t, m.Subject, "password")
	h.site.Now = func() time.Time { return demotest.Nine.Add(time.Hour + time.Second) }
	_, err = h.site.Link(ctx, token)
	assert.ErrorIs(t, err, store.ErrNotFound, "a reset works for an hour")
	assert.ErrorIs(t, h.SendLink(ctx, 9999), store.ErrNotFound)
}

func TestForgottenPasswords(t *testing.T) {
	h := open(t)
	ctx := context.Background()
	before, err := h.School.Outbox(ctx, 50)
	require.NoError(t, err)
	require.NoError(t, h.site.Forgotten(ctx, "nobody@quillhaven.example", "there"), "it is not told that nobody has this address")
	after, err := h.School.Outbox(ctx, 50)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	require.NoError(t, h.site.Forgotten(ctx, "idris.bell@quillhaven.example", "there"))
	m, token := h.newest()
	assert.Equal(t, "idris.bell@quillhaven.example", m.To)
	_, err = h.site.FollowLink(ctx, token, "idris.bell and more")
	require.Error(t, err, "the own name is guessed first")
	_, err = h.site.FollowLink(ctx, token, password)
	require.NoError(t, err)

	for range 20 {
		require.NoError(t, h.site.Forgotten(ctx, "maren.holt@quillhaven.example", "a bore"))
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

// Eight wrong passwords close an account's door for a quarter of an hour, to
// the right one too; a place has forty.
func TestGuessing(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	require.NoError(t, h.site.Forgotten(ctx, "idris.bell@quillhaven.example", "there"))
	_, token := h.newest()
	_, err := h.site.FollowLink(ctx, token, password)
	require.NoError(t, err)
	for i := range 8 {
		_, err = h.site.SignIn(ctx, "idris.bell@quillhaven.example", password+"!", "place "+id(int64(i)))
		require.ErrorIs(t, err, app.ErrWrong)
	}
	_, err = h.site.SignIn(ctx, "idris.bell@quillhaven.example", password, "elsewhere")
	assert.ErrorIs(t, err, app.ErrTooMany)
	h.site.Now = func() time.Time { return demotest.Nine.Add(app.Window + time.Second) }
	_, err = h.site.SignIn(ctx, "idris.bell@quillhaven.example", password, "elsewhere")
	assert.NoError(t, err)
	for i := range 40 {
		_, err = h.site.SignIn(ctx, id(int64(i))+"@quillhaven.example", strings.Repeat("long", 60), "one place")
		require.ErrorIs(t, err, app.ErrWrong)
	}
	_, err = h.site.SignIn(ctx, "idris.bell@quillhaven.example", password, "one place")
	assert.ErrorIs(t, err, app.ErrTooMany)
}

func TestChangingPeople(t *testing.T) {
	h := open(t)
	ctx := h.as("Maren Holt")
	me := app.Acting(ctx)
	own := app.Person{Name: "Maren Holt-Bray", Role: string(staff.Head)}
	require.NoError(t, h.ChangePerson(ctx, me.ID, own), "a name may change")
	own.Role = string(staff.Teacher)
	says(t, h.ChangePerson(ctx, me.ID, own), "role: You can’t take your own place away: another head of food can.")
	own.Role, own.Closed = string(staff.Head), true
	says(t, h.ChangePerson(ctx, me.ID, own), "role: You can’t take your own place away: another head of food can.")
	bea := app.Acting(h.as("Bea Lindqvist"))
	require.NoError(t, h.ChangePerson(ctx, bea.ID, app.Person{Name: bea.Name, Role: string(bea.Role), Closed: true}))
	assert.Equal(t, "Bea Lindqvist may no longer come in", h.trail().Says)
	_, err := h.site.SignedIn(ctx, bea.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = h.site.SignInOffered(ctx, id(bea.ID))
	assert.ErrorIs(t, err, app.ErrWrong)
	assert.ErrorIs(t, h.ChangePerson(ctx, 9999, own), store.ErrNotFound)
	for _, wrong := range []string{"", "0", "x"} {
		_, err = h.site.SignInOffered(ctx, wrong)
		assert.ErrorIs(t, err, app.ErrWrong, wrong)
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
		assert.Equal(t, want, app.Browser(agent), agent)
	}
}

// However many guess at once, each is counted before it is heard.
func TestGuessingAtOnce(t *testing.T) {
	h := open(t)
	heard, refused := atomic.Int64{}, atomic.Int64{}
	var wait sync.WaitGroup
	for range 60 {
		wait.Go(func() {
			switch _, err := h.site.SignIn(context.Background(), "idris.bell@quillhaven.example", "wrong and wrong again", "one place"); {
			case errors.Is(err, app.ErrWrong):
				heard.Add(1)
			case errors.Is(err, app.ErrTooMany):
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
