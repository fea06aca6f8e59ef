package main

import (
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/rescue"
	"freshapron/internal/formats/lessonfile"
)

func fitCommand() *cobra.Command {
	var asJSON, withRescues bool
	var budget time.Duration
	var opt fit.Options
	c := &cobra.Command{
		Use:   "fit [--json] [--budget 200ms | --iterations N] [--seed N] [--simulate N] FILE",
		Short: "Plan a lesson file (- is standard input)",
		Long: `Plan a lesson file and print a running sheet, or the plan as JSON.

A file that says what has happened so far ("now_min", "progress") is planned
from there.

The same file, seed and budget give the same plan on every machine: the search
counts its steps, not the clock.

Exit status: 0 a plan was computed, whether or not it fits; 3 the file's rules
contradict each other, and the plan holds the groups that can be planned;
2 the file can't be used, and every problem is on standard error.`,
		Args: one("fit", "lesson file"),
		RunE: func(c *cobra.Command, args []string) error {
			if budget < time.Millisecond || budget > time.Hour {
				return errors.Join(usage{fmt.Errorf("--budget %s: give 1ms to 1h", budget)}, exit(exitUnusable))
			}
			if c.Flags().Changed("iterations") && opt.Placements < 1 {
				return errors.Join(usage{fmt.Errorf("--iterations %d: give 1 or more", opt.Placements)}, exit(exitUnusable))
			}
			if opt.Runs < 1 || opt.Runs > 1_000_000 {
				return errors.Join(usage{fmt.Errorf("--simulate %d: give 1 to 1000000", opt.Runs)}, exit(exitUnusable))
			}
			if c.Flags().Changed("budget") {
				opt.Budget = int(budget.Milliseconds())
			}
			return runFit(c.InOrStdin(), c.OutOrStdout(), c.ErrOrStderr(), args[0], asJSON, withRescues, opt)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the plan as JSON")
	c.Flags().DurationVar(&budget, "budget", 200*time.Millisecond, "how long the search may go on, on an ordinary machine (80ms where the lesson is under way)")
	c.Flags().IntVar(&opt.Placements, "iterations", 0, "how many times the search may place a step, in place of the budget")
	c.Flags().Uint64Var(&opt.Seed, "seed", 0, "start of the random numbers of the search and the simulation")
	c.Flags().IntVar(&opt.Runs, "simulate", 2000, "how many lessons to simulate")
	c.Flags().BoolVar(&withRescues, "rescues", true, "where the lesson does not fit or is at risk, try what would help")
	return c
}

func runFit(in io.Reader, out, complain io.Writer, file string, asJSON, withRescues bool, opt fit.Options) error {
	from, err := openFile(in, file)
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	defer from.Close() //nolint:errcheck // it is only read
	lesson, err := lessonfile.Read(from)
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	plan, err := fit.Solve(lesson, opt)
	if err != nil {
		return err
	}
	var help rescue.Outcome
	if withRescues && len(plan.Groups) > 0 && rescue.Needed(plan) {
		help = rescue.Try(rescue.Trial{Lesson: lesson, Plan: plan, Ways: rescue.Ways(lesson, plan), Options: fit.Options{Seed: opt.Seed, Runs: opt.Runs}})
	}
	if asJSON {
		err = lessonfile.WritePlan(out, plan, help.Rescues)
	} else {
		err = lessonfile.WriteSheet(out, lesson, plan, help)
	}
	if err != nil {
		return err
	}
	if plan.Conflicts != nil {
		return exit(exitConflict)
	}
	return nil
}
