// Freshapron plans practical cooking lessons between the door and the bell.
package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"
)

// Exit statuses of the commands that read a file.
const (
	exitFailed   = 1
	exitUnusable = 2 // the file or the flags can't be used
	exitConflict = 3 // the file's rules contradict each other
)

// openFile opens a file to read; "-" is standard input.
func openFile(in io.Reader, file string) (io.ReadCloser, error) {
	if file == "-" {
		return io.NopCloser(in), nil
	}
	return os.Open(file)
}

// one takes the one file that a command reads.
func one(name, what string) cobra.PositionalArgs {
	return func(_ *cobra.Command, args []string) error {
		if len(args) != 1 {
			return errors.Join(usage{fmt.Errorf("%s takes one %s, or - for standard input; got %d", name, what, len(args))}, exit(exitUnusable))
		}
		return nil
	}
}

// unusable says what is wrong with what was given.
func unusable(complain io.Writer, err error) error {
	fmt.Fprintln(complain, err)
	return exit(exitUnusable)
}

// An exit ends the program with a status after the command has said why.
type exit int

func (e exit) Error() string { return fmt.Sprintf("exit status %d", int(e)) }

func main() {
	root := &cobra.Command{
		Use:           "freshapron",
		Short:         "Plan practical cooking lessons between the door and the bell",
		SilenceErrors: true,
		SilenceUsage:  true,
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.AddCommand(fitCommand(), scaleCommand(), checkCommand(), needsCommand(), readCommand(), orderCommand(), rehearseCommand(), foldCommand(), cutCommand(), evenCommand(), tasksCommand(), tasteCommand(), marksCommand(), timeplanCommand(), serveCommand(), migrateCommand(), generateCommand(), backupCommand(), restoreCommand(), removeSchoolCommand())
	root.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		return fmt.Errorf("%w\n%w", usage{err}, exit(exitUnusable))
	})
	if err := root.Execute(); err != nil {
		status := exitFailed
		var code exit
		if errors.As(err, &code) {
			status = int(code)
		}
		var u usage
		switch {
		case errors.As(err, &u):
			fmt.Fprintln(os.Stderr, "freshapron: "+u.Error())
		case code == 0:
			fmt.Fprintln(os.Stderr, "freshapron: "+err.Error())
		}
		os.Exit(status)
	}
}

// usage marks an error in how a command was called.
type usage struct{ error }
