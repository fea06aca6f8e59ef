package main

import (
	"io"

	"github.com/spf13/cobra"

	"freshapron/internal/formats/judgefile"
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
