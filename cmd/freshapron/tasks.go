package main

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"freshapron/internal/core/train"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/taskfile"
)

// mostTasks is how many are made at once.
const mostTasks = 10_000

func tasksCommand() *cobra.Command {
	var asJSON bool
	var kind, file string
	var count int
	var seed uint64
	var names []string
	for _, k := range train.Kinds {
		names = append(names, string(k))
	}
	c := &cobra.Command{
		Use:   "tasks [--json] [--kind KIND] [--count N] [--seed S] [--lesson LESSON]",
		Short: "Make tasks for practising to measure, with their answers",
		Long: `Print tasks for practising to measure, each with what is given, what is wanted and
the answer, which follows from the two alone. The same seed makes the same tasks.
With a lesson file they are about its amounts, settings and times.

Kinds: ` + strings.Join(names, ", ") + `. Without one, all in turn.

Exit status: 0 they were made; 2 the lesson file or a flag can't be used.`,
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			bad := func(format string, args ...any) error {
				return errors.Join(usage{fmt.Errorf(format, args...)}, exit(exitUnusable))
			}
			kinds := train.Kinds
			if kind != "" {
				if !slices.Contains(names, kind) {
					return bad("--kind is %q; it must be one of %s%s", kind, strings.Join(names, ", "), words.DidYouMean(kind, names))
				}
				kinds = []train.Kind{train.Kind(kind)}
			}
			if count < 1 || count > mostTasks {
				return bad("--count is %d; it must be from 1 to %d", count, mostTasks)
			}
			var from train.Source
			if file != "" {
				in, err := openFile(c.InOrStdin(), file)
				if err != nil {
					return unusable(c.ErrOrStderr(), err)
				}
				defer in.Close() //nolint:errcheck // it is only read
				l, err := lessonfile.Read(in)
				if err != nil {
					return unusable(c.ErrOrStderr(), err)
				}
				from = taskfile.Source(l)
			}
			tasks := train.Tasks(kinds, count, seed, from)
			if asJSON {
				return taskfile.Write(c.OutOrStdout(), tasks)
			}
			return taskfile.WriteText(c.OutOrStdout(), tasks)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the tasks as JSON")
	c.Flags().StringVar(&kind, "kind", "", "of one kind only")
	c.Flags().IntVar(&count, "count", len(train.Kinds), "how many")
	c.Flags().Uint64Var(&seed, "seed", 1, "which tasks")
	c.Flags().StringVar(&file, "lesson", "", "lesson file whose amounts and times are practised (- is standard input)")
	return c
}
