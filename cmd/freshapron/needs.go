package main

import (
	"bufio"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"freshapron/internal/core/class"
	"freshapron/internal/formats/jsonout"
)

type needsJSON struct {
	Format  string      `json:"format"`
	Version int         `json:"version"`
	Entries []entryJSON `json:"entries"`
}

type entryJSON struct {
	Line  int      `json:"line"`
	Text  string   `json:"text"`
	Needs []string `json:"needs"`
	None  bool     `json:"none"`
	Asks  []string `json:"asks"`
}

// maxEntries is how many bytes of entries are read: far more than any school
// has.
const maxEntries = 2 << 20

func needsCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "needs [--json] FILE",
		Short: "Say what entries of a class list mean, and what has to be asked",
		Long: `Read needs as offices write them, one entry a line, and say what each means.
What is not known is asked, never taken for nothing. FILE - is standard input.

Exit status: 0 it was read; 2 it can't be used.`,
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) != 1 {
				return misuse("needs: give one FILE, or - for standard input")
			}
			return nil
		},
		RunE: func(c *cobra.Command, args []string) error {
			from, err := openFile(c.InOrStdin(), args[0])
			if err != nil {
				fmt.Fprintln(c.ErrOrStderr(), err)
				return exit(exitUnusable)
			}
			defer from.Close() //nolint:errcheck // it is only read
			out, err := readNeeds(from)
			if err != nil {
				fmt.Fprintln(c.ErrOrStderr(), err)
				return exit(exitUnusable)
			}
			return writeNeeds(c.OutOrStdout(), out, asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON")
	return c
}

// readNeeds reads one entry a line. Blank lines are counted and are no entry.
func readNeeds(from io.Reader) (needsJSON, error) {
	out := needsJSON{Format: "fresh-apron/needs", Version: 1, Entries: []entryJSON{}}
	text, err := io.ReadAll(io.LimitReader(from, maxEntries+1))
	if err != nil {
		return out, err
	}
	if len(text) > maxEntries {
		return out, fmt.Errorf("there are more than %d MB of entries: give one class at a time", maxEntries>>20)
	}
	lines := bufio.NewScanner(strings.NewReader(strings.ToValidUTF8(string(text), "\uFFFD")))
	lines.Buffer(nil, maxEntries+1)
	for n := 1; lines.Scan(); n++ {
		entry := strings.TrimSpace(strings.TrimPrefix(lines.Text(), "\uFEFF"))
		if entry == "" {
			continue
		}
		u := class.Understand(entry)
		out.Entries = append(out.Entries, entryJSON{n, entry, append([]string{}, u.Needs...), u.None, append([]string{}, u.Asks...)})
	}
	return out, lines.Err()
}

func writeNeeds(w io.Writer, n needsJSON, asJSON bool) error {
	if asJSON {
		return jsonout.Write(w, n)
	}
	for _, e := range n.Entries {
		says := strings.Join(e.Needs, ", ")
		if e.None {
			says = "none"
		}
		if len(e.Asks) > 0 {
			says = strings.TrimPrefix(says+"; ask: "+strings.Join(e.Asks, "; "), "; ")
		}
		if _, err := fmt.Fprintf(w, "%d: %s: %s\n", e.Line, e.Text, says); err != nil {
			return err
		}
	}
	return nil
}
