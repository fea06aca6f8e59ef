package document_test

import (
	"archive/zip"
	"bytes"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/document"
	. "freshapron/internal/formats/document/documenttest"
	"freshapron/internal/formats/packed"
)

func textOf(t *testing.T, data []byte) string {
	text, err := document.Text(data)
	require.NoError(t, err)
	return strings.TrimSpace(text)
}

func TestEncodings(t *testing.T) {
	const says = "½ tsp “hot” purée at 180 °C"
	wide := []byte{0xff, 0xfe}
	for _, u := range utf16.Encode([]rune(says)) {
		wide = append(wide, byte(u), byte(u>>8))
	}
	for name, data := range map[string][]byte{
		"UTF-8": []byte(says), "UTF-8 with a mark": []byte("\xef\xbb\xbf" + says), "UTF-16": wide,
		"Windows-1252": []byte("\xbd tsp \x93hot\x94 pur\xe9e at 180 \xb0C"),
	} {
		assert.Equal(t, says, textOf(t, data), name)
		assert.False(t, document.IsDocument(data), name)
	}
}

const lists = `<w:abstractNum w:abstractNumId="7"><w:lvl w:ilvl="0"><w:numFmt w:val="decimal"/></w:lvl><w:lvl w:ilvl="1"><w:numFmt w:val="lowerLetter"/></w:lvl></w:abstractNum>` +
	`<w:abstractNum w:abstractNumId="8"><w:lvl w:ilvl="0"><w:numFmt w:val="bullet"/></w:lvl></w:abstractNum>` +
	`<w:num w:numId="1"><w:abstractNumId w:val="7"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="8"/></w:num>`

func inList(list, level string) string {
	return `<w:numPr><w:ilvl w:val="` + level + `"/><w:numId w:val="` + list + `"/></w:numPr>`
}

// A document of a word processor is its paragraphs, with the marks of their lists; not what was
// taken out of it, nor what is said a second time for older programs.
func TestWord(t *testing.T) {
	data := Word(
		Paragraph(`<w:pStyle w:val="Title"/>`, "Leek tart")+
			Paragraph(`<w:pStyle w:val="Heading2"/>`, "You need")+
			`<w:p><w:pPr>`+inList("2", "0")+`</w:pPr><w:r><w:t>2</w:t></w:r><w:proofErr w:type="spellStart"/><w:r><w:t xml:space="preserve"> leeks</w:t></w:r></w:p>`+
			Paragraph(inList("2", "0"), "100 ml cream")+
			`<w:p><w:pPr><w:pStyle w:val="ListBullet"/></w:pPr><w:del w:id="1"><w:r><w:delText>old </w:delText></w:r></w:del><w:hyperlink><w:r><w:t>1 egg</w:t></w:r></w:hyperlink></w:p>`+
			Paragraph("", "")+
			Paragraph(inList("1", "0"), "Slice the leeks.")+Paragraph(inList("1", "1"), "Wash them.")+Paragraph(inList("1", "1"), "Dry them.")+Paragraph(inList("1", "0"), "Fry them.")+Paragraph(inList("1", "1"), "Gently.")+
			`<w:p><w:pPr><w:pStyle w:val="ListNumber"/></w:pPr><w:r><w:t>Mix</w:t><w:tab/><w:t>all</w:t><w:br/><w:t>oven</w:t><w:noBreakHyphen/><w:t>proof</w:t><w:instrText>PAGE</w:instrText></w:r></w:p>`+
			`<w:p><w:r><mc:AlternateContent><mc:Choice><w:txbxContent>`+Paragraph("", "Mind the tray.")+`</w:txbxContent></mc:Choice><mc:Fallback>`+Paragraph("", "Mind the tray.")+`</mc:Fallback></mc:AlternateContent></w:r></w:p>`, lists)
	assert.True(t, document.IsDocument(data))
	assert.Equal(t, "Leek tart\n\nYou need\n- 2 leeks\n- 100 ml cream\n- 1 egg\n\n1. Slice the leeks.\na. Wash them.\nb. Dry them.\n2. Fry them.\na. Gently.\n1. Mix\tall\noven-proof\nMind the tray.", textOf(t, data))
}

// The heads of the pages stand over the body and the feet below it, once each; not the numbers of the pages. A fraction of a
// formula is one.
func TestHeads(t *testing.T) {
	parts := map[string]string{}
	for name, text := range map[string]string{"header1": "Greenhill School", "header2": "Greenhill School", "header3": "Page 1 of 2", "footer1": "Mind the oven", "document": "Leek tart"} {
		parts["word/"+name+".xml"] = `<w:x>` + Paragraph("", text) + `<w:p><w:r><w:t>1</w:t></w:r><m:oMath><m:f><m:num><m:r><m:t>1</m:t></m:r></m:num><m:den><m:r><m:t>2</m:t></m:r></m:den></m:f></m:oMath><w:r><w:t xml:space="preserve"> tsp</w:t></w:r></w:p></w:x>`
		if name == "header3" {
			parts["word/"+name+".xml"] = `<w:x>` + Paragraph("", text) + `</w:x>`
		}
	}
	assert.Equal(t, "Greenhill School\n1 1/2 tsp\nLeek tart\n1 1/2 tsp\n\nMind the oven\n1 1/2 tsp", textOf(t, Pack(parts)))
	parts["word/header1.xml"] = "<w:p>"
	_, err := document.Text(Pack(parts))
	assert.ErrorContains(t, err, "the document is damaged")
	list, err := document.List(Word(Paragraph("", "Leek tart"), ""))
	require.NoError(t, err)
	assert.Equal(t, "\nLeek tart\n", "\n"+list)
}

// A table is its rows, but for one that only lays a page out in columns.
func TestTables(t *testing.T) {
	rows := Word("<w:tbl>"+Row(Cell("Time plan"), Cell(""))+Row(Cell("Time"), Cell("What"))+Row(Cell("9.10"), Cell("Slice the leeks", "Fry them."))+Row(Cell("9.30"), Cell("Bake.", "Wash up"))+Row(Cell(""), Cell(""))+"</w:tbl>"+Paragraph("", "Well done"), "")
	assert.Equal(t, "Time plan\nTime | What\n9.10 | Slice the leeks. Fry them.\n9.30 | Bake. Wash up\n\nWell done", textOf(t, rows))
	columns := Word("<w:tbl>"+Row(Cell("Ingredients"), Cell("Method"))+Row(Cell("2 leeks", "1 egg", "100 ml cream"), Cell("Slice.", "Fry."))+"</w:tbl>", "")
	assert.Equal(t, "Ingredients\n2 leeks\n1 egg\n100 ml cream\n\nMethod\nSlice.\nFry.", textOf(t, columns))
	within := Word("<w:tbl>"+Row(Cell("a"), "<w:tc><w:tbl>"+Row(Cell("b"), Cell("c"))+"</w:tbl></w:tc>")+"</w:tbl>", "")
	assert.Equal(t, "a | b / c", textOf(t, within))
}

func TestOpen(t *testing.T) {
	data := Open(`<text:list-style style:name="L1"><text:list-level-style-number text:level="1" style:num-format="1"/></text:list-style><text:list-style style:name="L2"><text:list-level-style-bullet text:level="1"/></text:list-style>`,
		"<text:h>Leek\n tart</text:h><text:list text:style-name=\"L2\"><text:list-item><text:p>2<text:s text:c=\"2\"/>leeks</text:p></text:list-item><text:list-item><text:p>1 <text:span>egg</text:span></text:p><text:p>beaten</text:p></text:list-item></text:list>"+
			`<text:list text:style-name="L1"><text:list-item><text:p>Slice.<office:annotation><text:p>how?</text:p></office:annotation></text:p><text:list><text:list-item><text:p>thinly</text:p></text:list-item></text:list></text:list-item></text:list>`+
			`<text:list text:style-name="L1" text:continue-numbering="true"><text:list-item><text:p>Fry.</text:p></text:list-item></text:list><text:list text:style-name="L1"><text:list-item><text:p>Begin<text:tab/>again<text:line-break/>here.</text:p></text:list-item></text:list>`+
			`<table:table><table:table-row><table:table-cell><text:p>9.10</text:p></table:table-cell><table:table-cell><text:p>Bake</text:p></table:table-cell></table:table-row></table:table>`)
	assert.True(t, document.IsDocument(data))
	assert.Equal(t, "Leek  tart\n- 2  leeks\n- 1 egg\nbeaten\n1. Slice.\n- thinly\n2. Fry.\n1. Begin\tagain\nhere.\n\n9.10 | Bake", textOf(t, data))
}

// Slides are read in the order in which they are shown, without their numbers and feet.
func TestSlides(t *testing.T) {
	data := Slides(
		Shape("title", Said("", "Leek tart"))+Shape("sldNum", Said("", "1"))+Shape("ftr", Said("", "Food, year 9"))+"<a:tbl><a:tr><a:tc>"+Said("", "Serves 4")+"</a:tc></a:tr></a:tbl>",
		Shape("title", Said("", "You need"))+Shape("body", Said(`<a:buChar char="•"/>`, "2 leeks"), Said("", "1 egg<a:br/>100 ml cream"))+
			"<a:tbl><a:tr><a:tc>"+Said("", "9.10")+"</a:tc><a:tc>"+Said("", "Slice")+"</a:tc></a:tr></a:tbl>",
		Shape("body", Said("<a:buAutoNum/>", "Slice."), Said("<a:buAutoNum/>", "Fry."))+Shape("body", "<a:p><a:pPr><a:buAutoNum/></a:pPr><a:r><a:t>Bake</a:t></a:r><a:fld type=\"slidenum\"><a:t>3</a:t></a:fld></a:p>"))
	assert.True(t, document.IsDocument(data))
	assert.Equal(t, "Leek tart\n\n\n\n\n\n\nServes 4\n\nYou need\n\n- 2 leeks\n1 egg\n100 ml cream\n\n\n9.10 | Slice\n\n1. Slice.\n2. Fry.\n\n1. Bake", textOf(t, data))
}

// What is drawn as arrows or boxes out of a list is read where it stands, in text and on slides.
func TestDrawings(t *testing.T) {
	drawing := func(id string) string { return `<x:graphicData><dgm:relIds r:dm="` + id + `"/></x:graphicData>` }
	link := func(to string) string {
		return `<Relationships><Relationship Id="rId7" Target="` + to + `"/></Relationships>`
	}
	data := "<dgm:dataModel><dgm:pt><dgm:t>" + Said("", "Slice.") + "</dgm:t></dgm:pt><dgm:pt><dgm:t/></dgm:pt><dgm:pt><dgm:t>" + Said("", "Fry.") + "</dgm:t></dgm:pt></dgm:dataModel>"
	word := Pack(map[string]string{
		"word/document.xml":            "<w:x>" + Paragraph("", "Method") + "<w:p><w:r><w:drawing>" + drawing("rId7") + "</w:drawing></w:r></w:p>" + Paragraph("", "Well done") + "</w:x>",
		"word/_rels/document.xml.rels": link("diagrams/data1.xml"), "word/diagrams/data1.xml": data,
	})
	assert.Equal(t, []string{"Method", "Slice.", "Fry.", "Well done"}, linesOf(textOf(t, word)))
	slides := Pack(map[string]string{
		"ppt/presentation.xml":            `<p:presentation xmlns:r="r"><p:sldId id="1" r:id="rId7"/></p:presentation>`,
		"ppt/_rels/presentation.xml.rels": link("slides/slide1.xml"), "ppt/slides/slide1.xml": "<p:x>" + Shape("title", Said("", "Method")) + drawing("rId7") + "</p:x>",
		"ppt/slides/_rels/slide1.xml.rels": link("../diagrams/data1.xml"), "ppt/diagrams/data1.xml": data,
	})
	assert.Equal(t, []string{"Method", "Slice.", "Fry."}, linesOf(textOf(t, slides)))
}

// Lists that count on, begin elsewhere, are like a named one, or have no marks.
func TestListsOfWord(t *testing.T) {
	level := func(n, format, start string) string {
		return `<w:lvl w:ilvl="` + n + `"><w:start w:val="` + start + `"/><w:numFmt w:val="` + format + `"/></w:lvl>`
	}
	numbering := `<w:abstractNum w:abstractNumId="1"><w:styleLink w:val="Steps"/>` + level("0", "decimal", "4") + level("1", "upperRoman", "1") + `</w:abstractNum><w:abstractNum w:abstractNumId="2"><w:numStyleLink w:val="Steps"/></w:abstractNum><w:abstractNum w:abstractNumId="3">` + level("0", "none", "1") + level("1", "upperLetter", "26") + `</w:abstractNum>` +
		`<w:num w:numId="1"><w:abstractNumId w:val="2"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="3"/></w:num><w:num w:numId="3"><w:abstractNumId w:val="1"/><w:lvlOverride w:ilvl="0"><w:startOverride w:val="1"/></w:lvlOverride></w:num>`
	data := Word(Paragraph(inList("1", "0"), "d")+Paragraph(inList("1", "1"), "one")+Paragraph(inList("1", "1"), "two")+Paragraph(inList("1", "0"), "e")+
		Paragraph(inList("2", "0"), "none")+Paragraph(inList("2", "1"), "z")+Paragraph(inList("2", "1"), "beyond")+Paragraph(inList("3", "0"), "again")+Paragraph(inList("0", "0"), "no list")+Paragraph(inList("9", "0"), "unknown"), numbering)
	assert.Equal(t, "4. d\nI. one\nII. two\n5. e\nnone\nZ. z\n27. beyond\n1. again\nno list\n- unknown", textOf(t, data))
}

// A cell of a spreadsheet may say how often it stands in its row; those behind the last that is filled are none.
func TestSheet(t *testing.T) {
	cell := func(repeated, text string) string {
		return `<table:table-cell table:number-columns-repeated="` + repeated + `"><text:p>` + text + `</text:p></table:table-cell>`
	}
	data := Open("", "<table:table><table:table-row>"+cell("1", "Given name")+cell("1", "Group|set")+cell("1000", "")+"</table:table-row><table:table-row>"+cell("2", "x")+cell("1", "y")+"</table:table-row></table:table>")
	assert.Equal(t, "Given name | Group/set\nx | x | y", textOf(t, data))
}

// What holds no text that can be read says what it is, and what to do.
func TestNoDocuments(t *testing.T) {
	for data, says := range map[string]string{
		"%PDF-1.7": "this is a PDF, whose text can't be read: open it, copy the text and paste it", "\xd0\xcf\x11\xe0": "an old Excel or Word file", "\x89PNG\r\n": "a picture", `{\rtf1`: "a text document",
		"a\x00b": "the file holds no text", packed.Begins + "xx": "the file is damaged",
		string(Pack(map[string]string{"photo.jpg": "x"})):                                 "a file of packed parts",
		string(Pack(map[string]string{"xl/workbook.xml": "<x/>", "content.xml": "<x/>"})): "a file of packed parts",
		string(Word("<w:p>", "")): "the document is damaged",
		string(Pack(map[string]string{"word/document.xml": "<w:p/>", "word/media/image1.png": "x"})): "the document holds pictures and no text",
		string(Word(Paragraph("", "x"), "<w:num>")):                                                  "the document is damaged",
		string(Pack(map[string]string{"word/document.xml": strings.Repeat(" ", 8<<20) + "  "})):      "the text of the document is over 8 MB",
	} {
		_, err := document.Text([]byte(data))
		assert.ErrorContains(t, err, says)
	}
	broken := Word(Paragraph("", strings.Repeat("long ", 2000)), "")
	files, err := zip.NewReader(bytes.NewReader(broken), int64(len(broken)))
	require.NoError(t, err)
	at, err := files.File[1].DataOffset()
	require.NoError(t, err)
	broken[at+20] ^= 0xff
	_, err = document.Text(broken)
	assert.ErrorContains(t, err, "the file is damaged")
}
