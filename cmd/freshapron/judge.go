package main

import (
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"freshapron/internal/core/assess"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/formats/lessonfile"
)

// judged makes a command that reads one file and writes what comes of it.
func judged[T any](c *cobra.Command, name, what string, read func(io.Reader) (T, error), asJSON, asText func(io.Writer, T) error) *cobra.Command {
	var inJSON bool
	c.Args = one(name, what)
	c.RunE = func(c *cobra.Command, args []string) error {
		from, err := openFile(c.InOrStdin(), args[0])
		if err != nil {
			return unusable(c.ErrOrStderr(), err)
		}
		defer from.Close() //nolint:errcheck // it is only read
		v, err := read(from)
		if err != nil {
			return unusable(c.ErrOrStderr(), err)
		}
		if inJSON {
			return asJSON(c.OutOrStdout(), v)
		}
		return asText(c.OutOrStdout(), v)
	}
	c.Flags().BoolVar(&inJSON, "json", false, "print it as JSON")
	return c
}

func tasteCommand() *cobra.Command {
	return judged(&cobra.Command{
		Use:   "taste [--json] TASTE",
		Short: "Say what a tasting shows, and how many tasters it takes (- is standard input)",
		Long: `Read a tasting - triangle, duo-trio, paired or ranking - and print how likely it
would come of chance, exactly where that can be counted; and how many tasters it
takes to notice a difference, where that is asked.

Exit status: 0 it was worked out; 2 the file can't be used, and every problem is on
standard error.`,
	}, "taste", "file of a tasting", judgefile.ReadTaste, judgefile.WriteTaste, judgefile.WriteTasteText)
}

func marksCommand() *cobra.Command {
	return judged(&cobra.Command{
		Use:   "marks [--json] MARKS",
		Short: "Add up marks exactly, and compare two markers (- is standard input)",
		Long: `Read criteria, a scale, boundaries and the marks of markers, and print each
learner's exact and rounded total and grade, how far the first two markers agree,
and whom to talk about. People judge; this counts and compares.

Exit status: 0 it was worked out; 2 the file can't be used, and every problem is on
standard error.`,
	}, "marks", "file of marks", judgefile.ReadMarks, judgefile.WriteMarks, judgefile.WriteMarksText)
}

func timeplanCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "timeplan [--json] LESSON PLAN",
		Short: "Check a learner's own time plan by the rules of the planner",
		Long: `Read a lesson file of one group and a learner's time plan - CSV with the columns
clock, dish, what and, where they are there, minutes and step - and print what each
row is taken for, what is wrong with the plan, and what has to be asked.

Exit status: 0 it was checked, whatever was found; 2 a file can't be used, and every
problem is on standard error.`,
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) != 2 {
				return errors.Join(usage{fmt.Errorf("timeplan takes a lesson file and a time plan; got %d files", len(args))}, exit(exitUnusable))
			}
			return nil
		},
		RunE: func(c *cobra.Command, args []string) error {
			return runTimeplan(c, args[0], args[1], asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print it as JSON")
	return c
}

func runTimeplan(c *cobra.Command, lesson, plan string, asJSON bool) error {
	from, err := openFile(c.InOrStdin(), lesson)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	defer from.Close() //nolint:errcheck // it is only read
	l, err := lessonfile.Read(from)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	if len(l.Groups) != 1 {
		return unusable(c.ErrOrStderr(), problem.New("groups", "are %d; a time plan is of one", len(l.Groups)))
	}
	rows, err := openFile(c.InOrStdin(), plan)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	defer rows.Close() //nolint:errcheck // it is only read
	list, err := judgefile.ReadTimePlan(rows, l)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	p := assess.CheckTimePlan(l, list)
	if asJSON {
		return judgefile.WriteTimePlan(c.OutOrStdout(), l, p)
	}
	return judgefile.WriteTimePlanText(c.OutOrStdout(), l, p)
}
