// Package hostile holds every reader of files against files that were made to bring a
// program down.
package hostile_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"runtime"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/measure"
	"freshapron/internal/core/pantry"
	"freshapron/internal/formats/cutfile"
	"freshapron/internal/formats/document/documenttest"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/judgefile"
	"freshapron/internal/formats/lessonfile"
	"freshapron/internal/formats/orderfile"
	"freshapron/internal/formats/photo"
	"freshapron/internal/formats/pricelist"
	"freshapron/internal/formats/recipefile"
	"freshapron/internal/formats/roster"
	"freshapron/internal/formats/stocklist"
	"freshapron/internal/formats/table"
	"freshapron/internal/formats/timetable"
)

// The bounds of one file: what any upload may take.
const (
	mostTime   = 5 * time.Second
	mostMemory = 200 << 20 // bytes above what there was
)

var readers = map[string]func([]byte){
	"table": func(d []byte) { _, _ = table.Lines(d) },
	"list of learners": func(d []byte) {
		if l, err := roster.Open(d); err == nil {
			roster.Read(l.Rows, l.Columns, l.Head, "7 Alder", time.Now())
		}
	},
	"list of prices": func(d []byte) {
		if rows, err := table.Read(d); err == nil {
			_, _ = pricelist.Read(rows, pantry.Stock())
		}
	},
	"count":      func(d []byte) { _, _ = stocklist.Read(d, pantry.Stock(), measure.Metric, time.Now()) },
	"time plan":  func(d []byte) { _, _ = judgefile.ReadTimePlan(bytes.NewReader(d), fit.Lesson{End: 60}) },
	"recipes":    func(d []byte) { _, _ = recipefile.Read(bytes.NewReader(d), measure.System{}, pantry.Stock()) },
	"timetable":  func(d []byte) { timetable.Read(d, time.UTC) },
	"lesson":     func(d []byte) { _, _ = lessonfile.Read(bytes.NewReader(d)) },
	"plan":       func(d []byte) { _, _ = lessonfile.ReadPlan(bytes.NewReader(d)) },
	"events":     func(d []byte) { _, _ = eventfile.Read(bytes.NewReader(d)) },
	"order":      func(d []byte) { _, _ = orderfile.Read(bytes.NewReader(d)) },
	"cut":        func(d []byte) { _, _ = cutfile.ReadCut(bytes.NewReader(d)) },
	"pieces":     func(d []byte) { _, _ = cutfile.ReadPieces(bytes.NewReader(d)) },
	"tasting":    func(d []byte) { _, _ = judgefile.ReadTaste(bytes.NewReader(d)) },
	"marks":      func(d []byte) { _, _ = judgefile.ReadMarks(bytes.NewReader(d)) },
	"photograph": func(d []byte) { _, _ = photo.Small(context.Background(), d) },
}

// workbook makes a spreadsheet of one part that is as it is given.
func workbook(t *testing.T, sheet func(w *bytes.Buffer)) []byte {
	t.Helper()
	f := excelize.NewFile()
	var plain bytes.Buffer
	require.NoError(t, f.Write(&plain))
	in, err := zip.NewReader(bytes.NewReader(plain.Bytes()), int64(plain.Len()))
	require.NoError(t, err)
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, part := range in.File {
		to, err := w.Create(part.Name)
		require.NoError(t, err)
		var b bytes.Buffer
		if part.Name == "xl/worksheets/sheet1.xml" {
			sheet(&b)
		} else {
			from, err := part.Open()
			require.NoError(t, err)
			_, err = b.ReadFrom(from)
			require.NoError(t, err)
		}
		_, err = to.Write(b.Bytes())
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

func rows(b *bytes.Buffer, each func(n int) string, count int) {
	b.WriteString(`<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`)
	for n := 1; n <= count; n++ {
		b.WriteString(each(n))
	}
	b.WriteString(`</sheetData></worksheet>`)
}

// corpus is files that are small and ask for much.
func corpus(t *testing.T) map[string][]byte {
	const million = 1 << 20
	recipe := func(field, item string, n int) []byte {
		return []byte(`{"@type":"Recipe","name":"x","recipeYield":"4","` + field + `":[` + strings.TrimSuffix(strings.Repeat(item+",", n), ",") + `]}`)
	}
	return map[string][]byte{
		"nothing":                    {},
		"zeros":                      make([]byte, million),
		"one long line":              bytes.Repeat([]byte("a"), 8*million),
		"a sentence without end":     []byte("x\n1. " + strings.Repeat(strings.Repeat("add 2 tbsp oats and ", 80)+"\n", 400)),
		"quotes":                     bytes.Repeat([]byte(`"`), 4*million),
		"separators":                 bytes.Repeat([]byte(";"), 4*million),
		"a million short lines":      bytes.Repeat([]byte("a\n"), million),
		"deep lists":                 bytes.Repeat([]byte("["), 2*million),
		"deep objects":               bytes.Repeat([]byte(`{"a":`), million),
		"deep tags":                  bytes.Repeat([]byte("<div>"), million),
		"a figure without end":       []byte(`{"format":"fresh-apron/lesson","version":` + strings.Repeat("9", million) + `}`),
		"an exponent":                []byte(`{"format":"fresh-apron/lesson","version":1,"start":"09:00","end":"10:00","groups":[{"id":"a","cooks":1e308}]}`),
		"many keys":                  []byte("{" + strings.Repeat(`"k":1,`, million) + `"z":1}`),
		"ingredients":                recipe("recipeIngredient", `"100 g flour"`, 200_000),
		"instructions":               recipe("recipeInstructions", `{"@type":"HowToStep","text":"Mix for 5 minutes and bake."}`, 100_000),
		"recipes":                    []byte("[" + strings.TrimSuffix(strings.Repeat(`{"@type":"Recipe","name":"x"},`, 150_000), ",") + "]"),
		"steps of a text":            []byte("Cake\n\n" + strings.Repeat("1. Mix the flour and the butter for 10 minutes, meanwhile bake.\n", 60_000)),
		"ingredients of a text":      []byte("Cake\n\n" + strings.Repeat("- 100 g flour, finely chopped\n", 100_000)),
		"figures in a text":          []byte("Cake\n\n1. Bake " + strings.Repeat("1 1/2 hours or 20 to 30 min ", 20_000)),
		"a calendar that never ends": []byte("BEGIN:VCALENDAR\nVERSION:2.0\nBEGIN:VEVENT\nUID:1\nDTSTART:20260101T090000Z\nDTEND:20260101T100000Z\nRRULE:FREQ=SECONDLY;COUNT=2000000000\nSUMMARY:7 Alder\nEND:VEVENT\nEND:VCALENDAR\n"),
		"entries of a calendar":      []byte("BEGIN:VCALENDAR\nVERSION:2.0\n" + strings.Repeat("BEGIN:VEVENT\nUID:1\nDTSTART:20260101T090000Z\nDTEND:20260101T100000Z\nSUMMARY:7 Alder\nEND:VEVENT\n", 60_000) + "END:VCALENDAR\n"),
		"a cell far to the right": workbook(t, func(b *bytes.Buffer) {
			rows(b, func(n int) string { return fmt.Sprintf(`<row r="%d"><c r="XFD%d"><v>1</v></c></row>`, n, n) }, 3000)
		}),
		"a row far down": workbook(t, func(b *bytes.Buffer) {
			rows(b, func(int) string { return `<row r="1048576"><c r="A1048576"><v>1</v></c></row>` }, 1)
		}),
		"rows upon rows": workbook(t, func(b *bytes.Buffer) {
			rows(b, func(n int) string { return fmt.Sprintf(`<row r="%d"><c r="A%d"><v>1</v></c></row>`, n, n) }, 200_000)
		}),
		"a part that unpacks to much":     workbook(t, func(b *bytes.Buffer) { b.Write(make([]byte, 120*million)) }),
		"paragraphs of a document":        documenttest.Word(strings.Repeat("<w:p><w:r><w:t>1 g oats</w:t></w:r></w:p>", 13_000), ""),
		"tables in tables of a document":  documenttest.Word(strings.Repeat("<w:tbl><w:tr><w:tc>", 20_000), ""),
		"cells that are repeated":         documenttest.Open("", "<table:table>"+strings.Repeat(`<table:table-row><table:table-cell table:number-columns-repeated="999999"><text:p>x</text:p></table:table-cell></table:table-row>`, 3_000)+"</table:table>"),
		"a document that unpacks to much": documenttest.Word(strings.Repeat(" ", 120*million), ""),
		"a cell of words": workbook(t, func(b *bytes.Buffer) {
			rows(b, func(int) string {
				return `<row r="1"><c r="A1" t="inlineStr"><is><t>` + strings.Repeat("word ", 4*million/5) + `</t></is></c></row>`
			}, 1)
		}),
	}
}

// Every reader is done with every such file within bounds of time and memory.
func TestEveryReaderHoldsAgainstEveryFile(t *testing.T) {
	files := corpus(t)
	runtime.GC()
	for name, data := range files {
		require.LessOrEqual(t, len(data), recipefile.MaxBytes, name)
		for what, read := range readers {
			took, peak := measured(func() { read(data) })
			assert.Less(t, took, mostTime, "%s as %s", name, what)
			assert.Less(t, peak, int64(mostMemory), "%s as %s: %d MB", name, what, peak>>20)
		}
	}
}

// measured runs something and says how much of the processor's time it took, which does not
// depend on what else the machine does, and how much memory above what there was it held
// at most, looked at every few milliseconds.
func measured(f func()) (took time.Duration, peak int64) {
	var m runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&m)
	base := int64(m.HeapAlloc)
	done := make(chan struct{})
	most := make(chan int64)
	go func() {
		high := int64(0)
		for {
			select {
			case <-done:
				most <- high
				return
			case <-time.After(20 * time.Millisecond):
				var m runtime.MemStats
				runtime.ReadMemStats(&m)
				high = max(high, int64(m.HeapAlloc)-base)
			}
		}
	}()
	before := processor()
	f()
	took = processor() - before
	close(done)
	return took, <-most
}

// processor is the time that this process has used.
func processor() time.Duration {
	var u syscall.Rusage
	_ = syscall.Getrusage(syscall.RUSAGE_SELF, &u)
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}
