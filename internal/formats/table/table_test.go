package table_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"runtime"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"freshapron/internal/formats/document/documenttest"
	"freshapron/internal/formats/packed"
	"freshapron/internal/formats/table"
)

func utf16le(s string) []byte {
	out := []byte{0xff, 0xfe}
	for _, u := range utf16.Encode([]rune(s)) {
		out = append(out, byte(u), byte(u>>8))
	}
	return out
}

func TestRead(t *testing.T) {
	want := [][]string{{"Given name", "Family name"}, {"Zoë", "O’Neill, Ó"}}
	for name, data := range map[string][]byte{
		"UTF-8":               []byte("Given name,Family name\nZoë,\"O’Neill, Ó\"\n"),
		"UTF-8 with its mark": []byte("\xef\xbb\xbfGiven name;Family name\r\nZoë;O’Neill, Ó\r\n"),
		"UTF-16":              utf16le("Given name\tFamily name\rZoë\tO’Neill, Ó\r"),
		"Windows-1252":        []byte("Given name;Family name\nZo\xeb;O\x92Neill, \xd3\n"),
		"Word": documenttest.Word("<w:tbl>"+documenttest.Row(documenttest.Cell("Given name"), documenttest.Cell("Family name"))+
			documenttest.Row(documenttest.Cell("Zoë"), documenttest.Cell("O’Neill, Ó"))+"</w:tbl>", ""),
		"OpenDocument": documenttest.Open("", "<table:table><table:table-row><table:table-cell><text:p>Given name</text:p></table:table-cell><table:table-cell><text:p>Family name</text:p></table:table-cell></table:table-row>"+
			"<table:table-row><table:table-cell><text:p>Zoë</text:p></table:table-cell><table:table-cell><text:p>O’Neill, Ó</text:p></table:table-cell></table:table-row></table:table>"),
		"with empty rows, cells": []byte(",,\n  Given name , Family name,\n,,\nZoë,\"O’Neill, Ó\",,,\n"),
	} {
		rows, err := table.Read(data)
		require.NoError(t, err, name)
		assert.Equal(t, want, rows, name)
	}
	rows, err := table.Read([]byte("a,b\n\"x \"\"y\"\" z\",'=1+1\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{`x "y" z`, "=1+1"}, rows[1])
	rows, err = table.Read([]byte("a\tb\x01\nc\td\x7f"))
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"a", "b"}, {"c", "d"}}, rows)
}

func TestReadRefuses(t *testing.T) {
	for says, data := range map[string][]byte{
		"this is a picture":           []byte("\x89PNG\r\n\x1a\n...."),
		"this is a PDF":               []byte("%PDF-1.7"),
		"this is no text":             []byte("a,b\x00c"),
		"this is an old Excel":        []byte("\xd0\xcf\x11\xe0...."),
		"this is no XLSX file":        []byte("PK\x03\x04 and something else"),
		"there is nothing in it":      []byte(" \n,,\n"),
		"there are 100000 rows":       []byte(strings.Repeat("Ada,Okafor\n", 99_999) + "Ada,Okafor"),
		"there are 12002 rows":        []byte(strings.Repeat("Ada,Okafor\n", 12_002)),
		"there are 48002 rows":        []byte(strings.Repeat("\r", 48_001)),
		"there is nothing in it: ":    []byte(strings.Repeat("\r\n", 48_000)),
		"row 2 has 125001 letters":    []byte("a\n" + strings.Repeat("x", 125_001)),
		"row 2, cell 1 has 125000 le": []byte("a\n" + strings.Repeat("x", 125_000)),
		"row 1 has 61 cells":          documenttest.Open("", `<table:table><table:table-row><table:table-cell table:number-columns-repeated="999"><text:p>x</text:p></table:table-cell></table:table-row></table:table>`),
		"row 2 has 61 cells":          []byte("a\n" + strings.Repeat("x,", 60) + "x"),
		"row 1, cell 2 has 501 lette": []byte("a," + strings.Repeat("x", 501)),
		"the file has 11 MB":          make([]byte, 11<<20),
	} {
		_, err := table.Read(data)
		assert.ErrorContains(t, err, says)
	}
}

// What is written reads back as the same, and nothing in it is a formula.
func TestThereAndBack(t *testing.T) {
	rows := [][]string{{"Name", "Notes"}, {"=1+1", "@SUM(A1)"}, {"-2", "+44 20"}, {`"quoted", and; so`, "Zoë"}, {"2026-11-26", ""}, {"'=1+1", "''-2"}, {"'tis", "'"}, {"＝1+1", "＠SUM(A1)"}}
	var csv, xlsx bytes.Buffer
	require.NoError(t, table.WriteCSV(&csv, rows))
	assert.Contains(t, csv.String(), "'=1+1,'@SUM(A1)")
	assert.Contains(t, csv.String(), "'＝1+1,'＠SUM(A1)", "full-width forms too")
	require.NoError(t, table.WriteXLSX(&xlsx, "7 Alder: [the/longest] name of all the classes", rows))
	for _, data := range [][]byte{csv.Bytes(), xlsx.Bytes()} {
		back, err := table.Read(data)
		require.NoError(t, err)
		assert.Equal(t, rows, back)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("a;b\n\"x"))
	f.Add([]byte("\xff\xfea\x00"))
	f.Add([]byte("PK\x03\x04"))
	f.Fuzz(func(t *testing.T, data []byte) {
		rows, err := table.Read(data)
		if err != nil {
			return
		}
		for _, row := range rows {
			if len(row) != len(rows[0]) {
				t.Fatal("rows of different width")
			}
		}
	})
}

// sheetOf writes a spreadsheet whose only sheet has the given rows, as XML.
func sheetOf(t *testing.T, rows string) []byte {
	t.Helper()
	var whole, out bytes.Buffer
	require.NoError(t, excelize.NewFile().Write(&whole))
	from, err := zip.NewReader(bytes.NewReader(whole.Bytes()), int64(whole.Len()))
	require.NoError(t, err)
	to := zip.NewWriter(&out)
	for _, f := range from.File {
		w, err := to.Create(f.Name)
		require.NoError(t, err)
		if f.Name == "xl/worksheets/sheet1.xml" {
			_, err = io.WriteString(w, `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`+rows+`</sheetData></worksheet>`)
			require.NoError(t, err)
			continue
		}
		r, err := f.Open()
		require.NoError(t, err)
		_, err = io.Copy(w, r)
		require.NoError(t, err)
	}
	require.NoError(t, to.Close())
	return out.Bytes()
}

// A spreadsheet of a few kilobytes whose rows have a cell in the last column
// is refused at its first row, before the others take memory.
func TestWideSpreadsheetsAreRefusedAtOnce(t *testing.T) {
	var rows strings.Builder
	for n := 1; n <= 5000; n++ {
		fmt.Fprintf(&rows, `<row r="%d"><c r="XFD%d" t="inlineStr"><is><t>x</t></is></c></row>`, n, n)
	}
	data := sheetOf(t, rows.String())
	require.Less(t, len(data), 100_000)
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	_, err := table.Read(data)
	runtime.ReadMemStats(&after)
	assert.ErrorContains(t, err, "row 1 has 16384 cells, and at most 60 are read")
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(40<<20), "bytes allocated on the way")
	_, err = table.Read(sheetOf(t, `<row r="1048576"><c r="A1048576" t="inlineStr"><is><t>x</t></is></c></row>`))
	assert.ErrorContains(t, err, "rows, and at most 12000")
}

// A table drawn with bars, or lined up with spaces, is one; what only has two spaces
// somewhere is not.
func TestDrawnTables(t *testing.T) {
	for text, want := range map[string][][]string{
		"Code | Pack\n-----+-----\n1 | 2 kg\n| 2 | |\n":                 {{"Code", "Pack"}, {"1", "2 kg"}, {"2", ""}},
		"| Code | Pack |\n|---|:--|\n| 1 | 2 kg |\n| 2 | |\n":           {{"Code", "Pack"}, {"1", "2 kg"}, {"2", ""}},
		"Prices\n\n| a | b |\n| 1 | 2 |\n":                              {{"Prices", ""}, {"a", "b"}, {"1", "2"}},
		"Name      Form   Needs\nAda Reed  9H\nBo        9L     eggs\n": {{"Name", "Form", "Needs"}, {"Ada Reed", "9H", ""}, {"Bo", "9L", "eggs"}},
		"Name    Price\nFlour, plain  1.10\nOat 2\n":                    {{"Name", "Price"}, {"Flour, plain", "1.10"}, {"Oat 2", ""}},
		"a,b  c\nd,e  f\n": {{"a", "b  c"}, {"d", "e  f"}},
		"Name\t\tForm\tNeeds\nAda Reed\t9H\nBo\t\t\teggs\n":               {{"Name", "Form", "Needs"}, {"Ada Reed", "9H", ""}, {"Bo", "", "eggs"}},
		"\tMon\tTue\n1\t\t9 Elm\n":                                        {{"", "Mon", "Tue"}, {"1", "", "9 Elm"}},
		"        Mon      Tue\n1       9 Elm\n2                8 Hazel\n": {{"", "Mon", "Tue"}, {"1", "9 Elm", ""}, {"2", "", "8 Hazel"}},
		"One line.  And another.\nTwo\nThree\n":                           {{"One line.  And another."}, {"Two"}, {"Three"}},
	} {
		rows, err := table.Read([]byte(text))
		require.NoError(t, err, text)
		assert.Equal(t, want, rows, text)
	}
}

// book packs a workbook whose sheets are made by functions.
func book(t *testing.T, sheets ...func(f *excelize.File, sheet string)) []byte {
	f := excelize.NewFile()
	for i, fill := range sheets {
		name := fmt.Sprintf("Sheet%d", i+1)
		_, err := f.NewSheet(name)
		require.NoError(t, err)
		fill(f, name)
	}
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	return b.Bytes()
}

// row puts cells into a row of a sheet.
func row(n int, cells ...any) func(*excelize.File, string) {
	return func(f *excelize.File, sheet string) {
		if err := f.SetSheetRow(sheet, fmt.Sprintf("A%d", n), &cells); err != nil {
			panic(err)
		}
	}
}

// all does several things to a sheet.
func all(each ...func(*excelize.File, string)) func(*excelize.File, string) {
	return func(f *excelize.File, sheet string) {
		for _, do := range each {
			do(f, sheet)
		}
	}
}

// Days and hours are read as they are shown, numbers as they are kept.
func TestCellsOfWorkbooks(t *testing.T) {
	format := func(cell string, id int, custom string) func(*excelize.File, string) {
		return func(f *excelize.File, sheet string) {
			style := &excelize.Style{NumFmt: id}
			if custom != "" {
				style = &excelize.Style{CustomNumFmt: &custom}
			}
			n, err := f.NewStyle(style)
			require.NoError(t, err)
			require.NoError(t, f.SetCellStyle(sheet, cell, cell, n))
		}
	}
	day := 41396.0 // 2 May 2013
	data := book(t, all(
		row(1, day, day, day+0.375, 0.375, 0.375, 0.375), format("A1", 14, ""), format("B1", 0, "dd/mm/yyyy"), format("C1", 0, "dd/mm/yyyy hh:mm"), format("D1", 0, "h:mm:ss"), format("E1", 18, ""), format("F1", 0, ""),
		row(2, 1.25, 2.4900000000000002, 0.2, 1200, true, false), format("A2", 0, `"£"0.0`), format("C2", 9, ""), format("D2", 3, ""),
		row(3, day, "3-4", "0012"), format("A3", 0, "yyyy-mm-dd h:mm:ss"),
	))
	rows, err := table.Read(data)
	require.NoError(t, err)
	assert.Equal(t, [][]string{
		{"2013-05-02", "02/05/2013", "02/05/2013 09:00", "9:00", "9:00 AM", "0.375"},
		{"1.25", "2.49", "0.2", "1200", "TRUE", "FALSE"},
		{"2013-05-02", "3-4", "0012", "", "", ""},
	}, rows)
}

// What is one cell over several stands in each of them, but for a title.
func TestMergedCells(t *testing.T) {
	merge := func(from, to string) func(*excelize.File, string) {
		return func(f *excelize.File, sheet string) { require.NoError(t, f.MergeCell(sheet, from, to)) }
	}
	rows, err := table.Read(book(t, all(
		row(1, "Class list"), merge("A1", "C1"), row(2, "Set", "Name", "Diet"), row(3, "A", "Mira", "vegan"), row(4, "", "Kofi"), row(5, "Absent", "", "Lena"),
		merge("A3", "A4"), merge("C3", "C4"), merge("A5", "B5"), merge("A9", "B9"),
	)))
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"Class list", "", ""}, {"Set", "Name", "Diet"}, {"A", "Mira", "vegan"}, {"A", "Kofi", "vegan"}, {"Absent", "Absent", "Lena"}}, rows)
}

// The first sheet with a table is read, which can be seen; the others are named.
func TestSheetsOfWorkbooks(t *testing.T) {
	hidden := func(f *excelize.File, sheet string) { require.NoError(t, f.SetSheetVisible(sheet, false)) }
	list := all(row(1, "Name", "Diet"), row(2, "Mira", "vegan"), row(3, "Kofi", "halal"))
	small := all(row(1, "Teacher", "Ms Fenn"), row(2, "Year", 2026))
	names := all(row(1, "Mira"), row(2, "Kofi"), row(3, "Lena"), row(4, "Noor"))
	notes := row(1, strings.Repeat("A long note. ", 4))
	for says, c := range map[string]struct {
		sheets []func(*excelize.File, string)
		first  string
		unread []string
	}{
		"a cover":             {[]func(*excelize.File, string){row(1, "Read me"), list}, "Name", nil},
		"a small one":         {[]func(*excelize.File, string){small, list, notes}, "Name", []string{"Sheet1"}},
		"hidden":              {[]func(*excelize.File, string){row(1, "x"), all(list, hidden), names, list}, "Mira", []string{"Sheet4"}},
		"small ones alone":    {[]func(*excelize.File, string){row(1, "Read me"), small}, "Teacher", nil},
		"nothing but a cover": {[]func(*excelize.File, string){row(3, "Read me")}, "Read me", nil},
	} {
		data := book(t, c.sheets...)
		rows, err := table.Read(data)
		require.NoError(t, err, says)
		assert.Equal(t, c.first, rows[0][0], says)
		assert.Equal(t, c.unread, table.Unread(data), says)
	}
	assert.Nil(t, table.Unread([]byte("Name,Diet")))
	assert.Nil(t, table.Unread([]byte(packed.Begins)))
}
