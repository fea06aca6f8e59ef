package main

import (
	"context"
	"errors"
	"fmt"
	"io"

	"github.com/spf13/cobra"

	"freshapron/internal/core/even"
	"freshapron/internal/formats/cutfile"
	"freshapron/internal/formats/photo"
)

func cutCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "cut [--json] CUT",
		Short: "Cut a food by planes and say how even the pieces are (- is standard input)",
		Long: `Read a food, its cuts and what its pieces are to be like, and print every piece
with its volume and extents, what is wasted, and how even they are.

Exit status: 0 it was cut; 2 the file can't be used, and every problem is on
standard error.`,
		Args: one("cut", "file"),
		RunE: func(c *cobra.Command, args []string) error {
			from, err := openFile(c.InOrStdin(), args[0])
			if err != nil {
				return unusable(c.ErrOrStderr(), err)
			}
			defer from.Close() //nolint:errcheck // it is only read
			task, err := cutfile.ReadCut(from)
			if err != nil {
				return unusable(c.ErrOrStderr(), err)
			}
			cut, err := task.Do()
			if err != nil {
				return unusable(c.ErrOrStderr(), err)
			}
			if asJSON {
				return cutfile.WriteCut(c.OutOrStdout(), cut)
			}
			return cutfile.WriteCutText(c.OutOrStdout(), cut)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print the pieces as JSON")
	return c
}

func evenCommand() *cobra.Command {
	var asJSON bool
	var picture string
	var reference float64
	c := &cobra.Command{
		Use:   "even [--json] PIECES, or even [--json] --photo FILE --reference-mm N",
		Short: "Say how even pieces are, measured or photographed, and what that does to cooking",
		Long: `Read measured pieces, and print how even they are with intervals that are honest
about few pieces, and when their centres are hot enough. Or find the pieces on a
photograph (PNG or JPEG), measured by the reference strip that lies beside them.

Exit status: 0 it was worked out; 2 the file can't be used, or the strip is not
to be seen.`,
		Args: func(c *cobra.Command, args []string) error {
			if picture == "" {
				return one("even", "file of measured pieces")(c, args)
			}
			if len(args) > 0 {
				return errors.Join(usage{fmt.Errorf("with --photo even takes no file of pieces; got %q", args[0])}, exit(exitUnusable))
			}
			if !(reference >= even.LeastReference && reference <= even.MostReference) {
				return errors.Join(usage{fmt.Errorf("--reference-mm is %g; say how far the strip's discs are apart, from %d to %d mm", reference, even.LeastReference, even.MostReference)}, exit(exitUnusable))
			}
			return nil
		},
		RunE: func(c *cobra.Command, args []string) error {
			if picture != "" {
				return runPhoto(c, picture, reference, asJSON)
			}
			from, err := openFile(c.InOrStdin(), args[0])
			if err != nil {
				return unusable(c.ErrOrStderr(), err)
			}
			defer from.Close() //nolint:errcheck // it is only read
			pieces, err := cutfile.ReadPieces(from)
			if err != nil {
				return unusable(c.ErrOrStderr(), err)
			}
			if asJSON {
				return cutfile.WriteEven(c.OutOrStdout(), pieces)
			}
			return cutfile.WriteEvenText(c.OutOrStdout(), pieces)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print it as JSON")
	c.Flags().StringVar(&picture, "photo", "", "photograph of the pieces with the reference strip (- is standard input)")
	c.Flags().Float64Var(&reference, "reference-mm", 0, "how far the centres of the strip's discs are apart")
	return c
}

func runPhoto(c *cobra.Command, file string, reference float64, asJSON bool) error {
	from, err := openFile(c.InOrStdin(), file)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	defer from.Close() //nolint:errcheck // it is only read
	data, err := io.ReadAll(io.LimitReader(from, mostPhoto+1))
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	if len(data) > mostPhoto {
		return unusable(c.ErrOrStderr(), fmt.Errorf("the photograph is larger than %d MB", mostPhoto>>20))
	}
	img, err := photo.Decode(context.Background(), data)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	found, err := even.Measure(img, reference)
	if err != nil {
		return unusable(c.ErrOrStderr(), err)
	}
	if asJSON {
		return cutfile.WritePhoto(c.OutOrStdout(), found)
	}
	return cutfile.WritePhotoText(c.OutOrStdout(), found)
}

const mostPhoto = 60 << 20
