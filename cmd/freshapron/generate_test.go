package main

import (
	"bytes"
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/app/people"
	"freshapron/internal/app/school"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

func TestGenerate(t *testing.T) {
	url := storetest.URL(t)
	t.Setenv("DATABASE_URL", url)
	run := func(args ...string) (string, error) {
		var out bytes.Buffer
		c := generateCommand()
		c.SetOut(&out)
		c.SetErr(&out)
		c.SetArgs(args)
		err := c.ExecuteContext(context.Background())
		return out.String(), err
	}
	for _, wrong := range [][]string{{"--schools", "0"}, {"--schools", "5", "--learners", "4"}, {"--lessons", "-1"}} {
		_, err := run(wrong...)
		require.ErrorContains(t, err, "at least one school", wrong)
	}
	out, err := run("--schools", "2", "--learners", "40", "--lessons", "12", "--password", "kettle harbour ninepence")
	require.NoError(t, err)
	assert.Contains(t, out, "2 of 2 schools")

	// Whoever is made can sign in and finds classes and lessons.
	ctx := context.Background()
	s, err := store.Open(url)
	require.NoError(t, err)
	defer s.Close()
	site := school.NewSite(s, time.Now)
	_, err = people.NewDoor(site).SignIn(ctx, "head@school-002.example", "a guess of mine", "here")
	require.ErrorIs(t, err, people.ErrWrong)
	head, err := people.NewDoor(site).SignIn(ctx, "head@school-002.example", "kettle harbour ninepence", "here")
	require.NoError(t, err)
	a, err := site.Of(ctx, head.School)
	require.NoError(t, err)
	classes, err := a.Classes(ctx)
	require.NoError(t, err)
	learners := 0
	for _, c := range classes {
		learners += c.Learners
	}
	assert.Equal(t, 20, learners)
	lessons, err := a.LessonsBetween(ctx, time.Now().AddDate(-2, 0, 0), time.Now().AddDate(2, 0, 0))
	require.NoError(t, err)
	assert.Len(t, lessons, 6)
}
