package main

import (
	"fmt"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"freshapron/internal/app/people"
	"freshapron/internal/demo"
)

// generateCommand fills a database to measure with.
func generateCommand() *cobra.Command {
	m := demo.Many{}
	var learners, lessons int
	var password string
	c := &cobra.Command{
		Use:   "generate",
		Short: "Fill the database with made-up schools, to measure with",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if m.Schools < 1 || learners < m.Schools || lessons < 0 {
				return fmt.Errorf("%w\n%w", usage{fmt.Errorf("there must be at least one school, and one learner in each")}, exit(exitUnusable))
			}
			cfg, err := env.ParseAs[config]()
			if err != nil {
				return err
			}
			s, err := open(c.Context(), cfg)
			if err != nil {
				return err
			}
			defer s.Close()
			if m.Password, err = argon2id.CreateHash(password, people.Hashing); err != nil {
				return err
			}
			m.Learners, m.Lessons = learners/m.Schools, lessons/m.Schools
			clock, err := cfg.clock()
			if err != nil {
				return err
			}
			return demo.Make(c.Context(), s, clock().UTC().Truncate(24*time.Hour), m, func(n int) {
				fmt.Fprintf(c.OutOrStdout(), "%d of %d schools\n", n, m.Schools)
			})
		},
	}
	c.Flags().IntVar(&m.Schools, "schools", 200, "how many schools")
	c.Flags().IntVar(&learners, "learners", 60_000, "how many learners in all")
	c.Flags().IntVar(&lessons, "lessons", 40_000, "how many lessons in all")
	c.Flags().StringVar(&password, "password", "made to be measured", "password of every account: head@school-001.example and so on")
	return c
}
