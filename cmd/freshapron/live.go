package main

import (
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/live"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/lessonfile"
)

func rehearseCommand() *cobra.Command {
	var script live.Script
	var asJSON bool
	c := &cobra.Command{
		Use:   "rehearse [--json] [--seed N] [--mishap KIND] LESSON",
		Short: "Simulate a lesson and print what happens (- is standard input)",
		Long: `Read a lesson file, plan it, and print the events of a simulated class that goes by
the plan: as sentences, or with --json as a line of JSON for each event, which
"fold" reads. The same seed gives the same lesson. Mishaps are ` + strings.Join(live.Mishaps, ", ") + `.

Exit status: 0 the lesson was rehearsed; 2 the file can't be used, and every
problem is on standard error.`,
		Args: oneFile("rehearse takes one lesson file"),
		RunE: func(c *cobra.Command, args []string) error {
			return runRehearse(c.InOrStdin(), c.OutOrStdout(), c.ErrOrStderr(), args[0], script, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the events as JSON lines")
	c.Flags().Uint64Var(&script.Seed, "seed", 1, "which of the possible lessons")
	c.Flags().StringVar(&script.Mishap, "mishap", "", "what goes wrong: "+strings.Join(live.Mishaps, ", "))
	return c
}

func oneFile(says string) cobra.PositionalArgs {
	return func(_ *cobra.Command, args []string) error {
		if len(args) != 1 {
			return errors.Join(usage{fmt.Errorf("%s, or - for standard input; got %d", says, len(args))}, exit(exitUnusable))
		}
		return nil
	}
}

// planned reads a lesson file and plans it; nil where it can't be used, which has
// then been said.
func planned(in io.Reader, complain io.Writer, file string) (fit.Lesson, *fit.Plan) {
	from, err := openFile(in, file)
	if err != nil {
		fmt.Fprintln(complain, err)
		return fit.Lesson{}, nil
	}
	defer from.Close() //nolint:errcheck // it is only read
	l, err := lessonfile.Read(from)
	if err != nil {
		fmt.Fprintln(complain, err)
		return l, nil
	}
	l.Now, l.Progress = nil, nil // the events say how far it is
	p, err := fit.Solve(l, fit.Options{})
	if err != nil {
		fmt.Fprintln(complain, err)
		return l, nil
	}
	return l, p
}

func runRehearse(in io.Reader, out, complain io.Writer, file string, script live.Script, asJSON bool) error {
	if script.Mishap != "" && !slices.Contains(live.Mishaps, script.Mishap) {
		fmt.Fprintf(complain, "--mishap %q is none of %s\n", script.Mishap, strings.Join(live.Mishaps, ", "))
		return exit(exitUnusable)
	}
	l, p := planned(in, complain, file)
	if p == nil {
		return exit(exitUnusable)
	}
	events := live.Rehearse(l, p, script)
	if asJSON {
		return eventfile.Write(out, events)
	}
	for _, e := range events {
		if _, err := fmt.Fprintf(out, "%s %s\n", l.At(e.At), eventfile.Says(l, e)); err != nil {
			return err
		}
	}
	return nil
}

func foldCommand() *cobra.Command {
	var at float64
	var asJSON bool
	c := &cobra.Command{
		Use:   "fold [--json] [--at MIN] LESSON EVENTS",
		Short: "Print how a lesson stands after events (- is standard input)",
		Long: `Read a lesson file, plan it, and print the state of the lesson after the events of a
file of JSON lines: after the last one, or with --at at a minute from the planned
beginning. What can't be of this lesson, such as a step that its bench does not
make, is said on standard error and does not count.

Exit status: 0 the state was printed; 2 a file can't be used, and every problem is
on standard error.`,
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) != 2 {
				return errors.Join(usage{fmt.Errorf("fold takes a lesson file and a file of events, either as - for standard input; got %d", len(args))}, exit(exitUnusable))
			}
			return nil
		},
		RunE: func(c *cobra.Command, args []string) error {
			if args[0] == "-" && args[1] == "-" {
				fmt.Fprintln(c.ErrOrStderr(), "only one of lesson and events can be standard input; give the other as a file")
				return exit(exitUnusable)
			}
			if c.Flags().Changed("at") && (math.IsNaN(at) || math.IsInf(at, 0)) {
				fmt.Fprintln(c.ErrOrStderr(), "--at takes a minute from the planned beginning, such as 30 or -2.5")
				return exit(exitUnusable)
			}
			if !c.Flags().Changed("at") {
				at = math.NaN()
			}
			return runFold(c.InOrStdin(), c.OutOrStdout(), c.ErrOrStderr(), args, at, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the state as JSON")
	c.Flags().Float64Var(&at, "at", 0, "the minute from the planned beginning; after the last event where it is not given")
	return c
}

func runFold(in io.Reader, out, complain io.Writer, files []string, at float64, asJSON bool) error {
	l, p := planned(in, complain, files[0])
	if p == nil {
		return exit(exitUnusable)
	}
	from, err := openFile(in, files[1])
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	defer from.Close() //nolint:errcheck // it is only read
	events, err := eventfile.Read(from)
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	events = ofLesson(complain, live.Fold(l, p, nil, 0), events)
	if math.IsNaN(at) {
		at = 0
		for _, e := range events {
			at = max(at, e.At)
		}
	}
	s := live.Fold(l, p, events, at)
	if asJSON {
		return eventfile.WriteState(out, s)
	}
	return eventfile.WriteText(out, l, s)
}

// ofLesson returns the events that can be of a lesson, and says of the others why not.
func ofLesson(complain io.Writer, s *live.State, events []live.Event) []live.Event {
	var out []live.Event
	for _, e := range events {
		if err := s.Check(e); err != nil {
			fmt.Fprintf(complain, "event %s: %s; it does not count\n", e.ID, err)
			continue
		}
		out = append(out, e)
	}
	return out
}
