package main

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"freshapron/internal/core/order"
	"freshapron/internal/formats/orderfile"
)

func orderCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "order [--json] WEEK",
		Short: "Find the cheapest order for what lessons need (- is standard input)",
		Long: `Read an order file, which says what is needed on which day, what is in stock
and what can be bought, and print the cheapest order that meets all that can be
met.

Exit status: 0 an order was worked out, also where something is short; 2 the file
can't be used, and every problem is on standard error.`,
		Args: one("order", "order file"),
		RunE: func(c *cobra.Command, args []string) error {
			return runOrder(c.InOrStdin(), c.OutOrStdout(), c.ErrOrStderr(), args[0], asJSON)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the order as JSON")
	return c
}

func runOrder(in io.Reader, out, complain io.Writer, file string, asJSON bool) error {
	from, err := openFile(in, file)
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	defer from.Close() //nolint:errcheck // it is only read
	week, err := orderfile.Read(from)
	if err != nil {
		fmt.Fprintln(complain, err)
		return exit(exitUnusable)
	}
	o, err := order.Solve(week)
	if err != nil {
		return err
	}
	if asJSON {
		return orderfile.WritePlan(out, o)
	}
	return orderfile.WriteText(out, o)
}
