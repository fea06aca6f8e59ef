package main

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/demo"
	"freshapron/internal/demo/demotest"
	"freshapron/internal/store"
	"freshapron/internal/store/storetest"
)

// owned is an empty database whose owner is no superuser and may make nothing else.
func owned(t *testing.T) string {
	t.Helper()
	address := storetest.URL(t)
	u, err := url.Parse(address)
	require.NoError(t, err)
	db, err := sql.Open("pgx", address)
	require.NoError(t, err)
	owner := "owner_" + strings.TrimPrefix(u.Path, "/test_")[:12]
	for _, s := range []string{"CREATE ROLE " + owner + " LOGIN PASSWORD 'secret'", "ALTER DATABASE " + strings.TrimPrefix(u.Path, "/") + " OWNER TO " + owner, "ALTER SCHEMA public OWNER TO " + owner} {
		_, err := db.Exec(s)
		require.NoError(t, err, s)
	}
	t.Cleanup(func() {
		_, err := db.Exec("REASSIGN OWNED BY " + owner + " TO CURRENT_USER; DROP OWNED BY " + owner + "; DROP ROLE " + owner)
		assert.NoError(t, err)
		_ = db.Close()
	})
	u.User = url.UserPassword(owner, "secret")
	return u.String()
}

func runs(t *testing.T, c *cobra.Command, address string, args ...string) (string, error) {
	t.Helper()
	t.Setenv("DATABASE_URL", address)
	var out bytes.Buffer
	c.SetOut(&out)
	c.SetErr(&out)
	c.SilenceUsage, c.SilenceErrors = true, true
	c.SetArgs(args)
	err := c.ExecuteContext(context.Background())
	return out.String(), err
}

// unpacked is a backup without its compression.
func unpacked(t *testing.T, file string) string {
	t.Helper()
	f, err := os.Open(file)
	require.NoError(t, err)
	defer f.Close()
	z, err := gzip.NewReader(f)
	require.NoError(t, err)
	text, err := io.ReadAll(z)
	require.NoError(t, err)
	return string(text)
}

// What is backed up of a server's superuser is restored for an owner who is none, and what
// is backed up of that is the same, byte for byte. Into what is not empty nothing goes.
func TestBackupAndRestore(t *testing.T) {
	_, _, from := demotest.Open(t, nil)
	file, again := filepath.Join(t.TempDir(), "a.backup"), filepath.Join(t.TempDir(), "b.backup")
	_, err := runs(t, backupCommand(), from, file)
	require.NoError(t, err)
	to := owned(t)
	_, err = runs(t, restoreCommand(), to, file)
	require.NoError(t, err)
	_, err = runs(t, backupCommand(), to, again)
	require.NoError(t, err)
	first, second := unpacked(t, file), unpacked(t, again)
	require.Equal(t, len(first), len(second))
	assert.True(t, first == second, "the same, byte for byte")
	assert.Greater(t, strings.Count(first, "\n"), 3000)

	_, err = runs(t, restoreCommand(), to, file)
	assert.ErrorIs(t, err, store.ErrNotEmpty)
	ctx := context.Background()
	s, err := store.Open(to)
	require.NoError(t, err)
	defer s.Close()
	school, err := s.SchoolByName(ctx, demo.School)
	require.NoError(t, err)
	id, err := school.CreateClass(ctx, demo.Classes()[0])
	assert.ErrorIs(t, err, store.ErrTaken, "it is there, and the next")
	assert.Zero(t, id)
	c := demo.Classes()[0]
	c.Name = "11 Larch"
	_, err = school.CreateClass(ctx, c)
	assert.NoError(t, err, "is numbered on")

	_, err = runs(t, removeSchoolCommand(), to, "Nowhere School")
	assert.ErrorContains(t, err, "there is no school “Nowhere School”")
	_, err = runs(t, removeSchoolCommand(), to, demo.School)
	require.NoError(t, err)
	_, err = runs(t, backupCommand(), to, again)
	require.NoError(t, err)
	assert.Equal(t, 2, strings.Count(unpacked(t, again), "\n"), "nothing is left but the head and the end")
	_, err = runs(t, restoreCommand(), to, file)
	assert.NoError(t, err, "which is empty enough")
}

// One school of several; files that are none, that break off, or are of a later release.
func TestPartsOfBackups(t *testing.T) {
	_, in, from := demotest.Open(t, nil)
	ctx := context.Background()
	s, err := store.Open(from)
	require.NoError(t, err)
	defer s.Close()
	_, err = s.CreateSchool(ctx, "Thornby", "Europe/London")
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "a.backup")
	_, err = runs(t, backupCommand(), from, "--school", "Nowhere", file)
	assert.ErrorContains(t, err, "there is no school “Nowhere”")
	_, err = os.Stat(file)
	assert.ErrorIs(t, err, os.ErrNotExist, "whole or not at all")
	out, err := runs(t, backupCommand(), from, "--school", "Thornby", "-")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, []byte(out), 0o600))
	assert.Less(t, strings.Count(unpacked(t, file), "\n"), 200)
	assert.NotContains(t, unpacked(t, file), in.Name)

	zipped := func(text string) string {
		var b bytes.Buffer
		z := gzip.NewWriter(&b)
		_, _ = z.Write([]byte(text))
		_ = z.Close()
		return b.String()
	}
	whole := unpacked(t, file)
	lines := strings.SplitAfter(whole, "\n")
	to := storetest.URL(t)
	for name, c := range map[string]struct {
		data string
		want error
	}{
		"no file":        {"", store.ErrNoBackup},
		"text":           {"not a backup", store.ErrNoBackup},
		"another":        {zipped(`{"format":"x"}` + "\n"), store.ErrNoBackup},
		"broken off":     {out[:len(out)/2], store.ErrNoBackup},
		"without an end": {zipped(strings.Join(lines[:len(lines)-2], "")), store.ErrNoBackup},
		"a row short":    {zipped(strings.Replace(whole, "Thornby\tEurope/London", "", 1)), nil},
		"later":          {zipped(strings.Replace(whole, `"schema":`, `"schema":9`, 1)), store.ErrLater},
		"another table":  {zipped(strings.Replace(whole, `"table":"classes"`, `"table":"pg_class"`, 1)), store.ErrNoBackup},
	} {
		require.NoError(t, os.WriteFile(file, []byte(c.data), 0o600))
		_, err := runs(t, restoreCommand(), to, file)
		assert.Error(t, err, name)
		if c.want != nil {
			assert.ErrorIs(t, err, c.want, name)
		}
	}
	require.NoError(t, os.WriteFile(file, []byte(out), 0o600))
	_, err = runs(t, restoreCommand(), to, file)
	require.NoError(t, err, "after all that nothing was in it")
	r, err := store.Open(to)
	require.NoError(t, err)
	defer r.Close()
	one, err := r.SchoolByName(ctx, "Thornby")
	require.NoError(t, err)
	assert.Equal(t, "Thornby", fmt.Sprint(one.Name))
}
