package judge

import (
	"io"

	"freshapron/internal/formats/table"
)

// A ResultLine is a line of a table, cell by cell.
type ResultLine = []string

// WriteCSV writes lines as CSV that a spreadsheet does not take for formulas.
func WriteCSV(to io.Writer, lines []ResultLine) error { return table.WriteCSV(to, lines) }

// WriteXLSX writes lines as a spreadsheet.
func WriteXLSX(to io.Writer, name string, lines []ResultLine) error {
	return table.WriteXLSX(to, name, lines)
}
