package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"freshapron/internal/store"
)

func backupCommand() *cobra.Command {
	var school string
	c := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write all schools, or one, to a file; - is standard output",
		Args:  one("backup", "file"),
		RunE: func(c *cobra.Command, args []string) error {
			s, err := connected()
			if err != nil {
				return err
			}
			defer s.Close()
			if args[0] == "-" {
				return named(s.Backup(c.Context(), c.OutOrStdout(), school), school)
			}
			return named(wholeFile(args[0], func(to io.Writer) error { return s.Backup(c.Context(), to, school) }), school)
		},
	}
	c.Flags().StringVar(&school, "school", "", "only the school of this name")
	return c
}

// named says which school is not there.
func named(err error, school string) error {
	if errors.Is(err, store.ErrNotFound) {
		return fmt.Errorf("there is no school “%s” in the database", school)
	}
	return err
}

// wholeFile writes a file whole or not at all.
func wholeFile(name string, write func(io.Writer) error) error {
	f, err := os.CreateTemp(filepath.Dir(name), filepath.Base(name)+".part-*")
	if err != nil {
		return err
	}
	defer os.Remove(f.Name()) // nothing where it has its name
	if err := errors.Join(write(f), f.Sync(), f.Close()); err != nil {
		return err
	}
	return os.Rename(f.Name(), name)
}

func restoreCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "restore FILE",
		Short: "Put a backup into an empty database; - is standard input",
		Args:  one("restore", "file"),
		RunE: func(c *cobra.Command, args []string) error {
			in, err := openFile(c.InOrStdin(), args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			s, err := connected()
			if err != nil {
				return err
			}
			defer s.Close()
			return s.Restore(c.Context(), in)
		},
	}
}

func removeSchoolCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "remove-school NAME",
		Short: "Take a school and everything of it out of the database, for good",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			s, err := connected()
			if err != nil {
				return err
			}
			defer s.Close()
			school, err := s.SchoolByName(c.Context(), args[0])
			if err == nil {
				err = school.Remove(context.WithoutCancel(c.Context()))
			}
			return named(err, args[0])
		},
	}
}

// connected is the database that the environment names, as it is.
func connected() (*store.Store, error) {
	cfg, err := env.ParseAs[config]()
	if err != nil {
		return nil, err
	}
	if cfg.DatabaseURL == "" {
		return nil, errors.New("DATABASE_URL is not set: it names the database")
	}
	return store.Open(cfg.DatabaseURL)
}
