// Package documenttest packs documents for the tests of what reads them.
package documenttest

import (
	"archive/zip"
	"bytes"
	"fmt"
	"slices"
	"strings"
)

const word = `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"><w:body>`

const open = `<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" ` +
	`xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0">`

// Word returns an Office Open XML document with what stands in its body, and its lists.
func Word(body, numbering string) []byte {
	parts := map[string]string{"[Content_Types].xml": "<Types/>", "word/document.xml": word + body + "</w:body></w:document>"}
	if numbering != "" {
		parts["word/numbering.xml"] = `<w:numbering xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">` + numbering + "</w:numbering>"
	}
	return Pack(parts)
}

// Open returns an OpenDocument text with its styles and what stands in its body.
func Open(styles, body string) []byte {
	return Pack(map[string]string{"mimetype": "application/vnd.oasis.opendocument.text", "content.xml": open + "<office:automatic-styles>" + styles + "</office:automatic-styles><office:body><office:text>" + body + "</office:text></office:body></office:document-content>"})
}

const slide = `<p:sld xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><p:cSld><p:spTree>`

// Slides returns an Office Open XML presentation whose slides hold shapes, the last first in the file.
func Slides(shapes ...string) []byte {
	parts := map[string]string{}
	links, shown := "", ""
	for i, s := range shapes {
		parts[fmt.Sprintf("ppt/slides/slide%d.xml", len(shapes)-i)] = slide + s + "</p:spTree></p:cSld></p:sld>"
		links += fmt.Sprintf(`<Relationship Id="rId%d" Target="slides/slide%d.xml"/>`, i, len(shapes)-i)
		shown += fmt.Sprintf(`<p:sldId id="%d" r:id="rId%d"/>`, 256+i, i)
	}
	parts["ppt/_rels/presentation.xml.rels"] = `<Relationships>` + links + `</Relationships>`
	parts["ppt/presentation.xml"] = `<p:presentation xmlns:p="http://schemas.openxmlformats.org/presentationml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><p:sldIdLst>` + shown + `</p:sldIdLst></p:presentation>`
	return Pack(parts)
}

// Shape returns a shape of a slide, of a kind such as "title" or "sldNum", with its paragraphs.
func Shape(kind string, paragraphs ...string) string {
	return `<p:sp><p:nvSpPr><p:nvPr><p:ph type="` + kind + `"/></p:nvPr></p:nvSpPr><p:txBody>` + strings.Join(paragraphs, "") + "</p:txBody></p:sp>"
}

// Said returns a paragraph of a shape, whose properties may be empty.
func Said(properties, text string) string {
	return "<a:p><a:pPr>" + properties + "</a:pPr><a:r><a:t>" + text + "</a:t></a:r></a:p>"
}

// Pack packs parts by their names.
func Pack(parts map[string]string) []byte {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	var names []string
	for name := range parts {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		f, err := w.Create(name)
		if err == nil {
			_, err = f.Write([]byte(parts[name]))
		}
		if err != nil {
			panic(err)
		}
	}
	if err := w.Close(); err != nil {
		panic(err)
	}
	return out.Bytes()
}

// Paragraph returns a paragraph of a Word document, whose properties may be empty.
func Paragraph(properties, text string) string {
	return "<w:p><w:pPr>" + properties + `</w:pPr><w:r><w:t xml:space="preserve">` + text + "</w:t></w:r></w:p>"
}

// Cell returns a cell of a table with its paragraphs.
func Cell(lines ...string) string {
	out := "<w:tc><w:tcPr/>"
	for _, l := range lines {
		out += Paragraph("", l)
	}
	return out + "</w:tc>"
}

// Row returns a row of a table.
func Row(cells ...string) string {
	out := "<w:tr>"
	for _, c := range cells {
		out += c
	}
	return out + "</w:tr>"
}
