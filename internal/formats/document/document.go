// Package document reads the text of files as people have them: plain text in whatever encoding,
// and documents, OpenDocument (.odt, .ods, .odp) and Office Open XML (.docx, .pptx).
package document

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"freshapron/internal/core/pattern"
	"freshapron/internal/formats/packed"
)

// Text returns the text of a file, a line for each paragraph and for each row of a table, with the heads, the
// notes and the feet of its pages. The error says in a sentence what the file is instead, and what to do.
func Text(data []byte) (string, error) {
	text, below, err := read(data, false)
	if len(below) > 0 {
		text += "\n" + strings.Join(below, "\n") + "\n"
	}
	return text, err
}

// List is Text of what is one table: without notes and feet, which are no row of it, and with what stands in one
// cell over several in each of them.
func List(data []byte) (string, error) {
	text, _, err := read(data, true)
	return text, err
}

// read returns the text of a file, and the lines of its notes and feet.
func read(data []byte, table bool) (text string, below []string, err error) {
	switch other := Other(data); {
	case other == noText:
		return "", nil, errors.New("the file holds no text that can be read: open it, copy the text and paste it")
	case other != "":
		return "", nil, fmt.Errorf("this is %s, whose text can't be read: open it, copy the text and paste it", other)
	case !bytes.HasPrefix(data, []byte(packed.Begins)):
		return Decoded(data), nil, nil
	}
	files, err := packed.Open(data)
	if err != nil {
		return "", nil, err
	}
	switch {
	case files.Has("word/document.xml"):
		text, below, err = wordText(files, table)
	case files.Has("content.xml") && !files.Has("xl/workbook.xml"):
		text, below, err = openText(files, table)
	case files.Has(presentation):
		text, err = slidesText(files)
	default:
		return "", nil, errors.New("this is a file of packed parts and no document of a word processor: open it, copy the text and paste it")
	}
	if err == nil && strings.TrimSpace(text) == "" && slices.ContainsFunc(files.File, func(f *zip.File) bool { return isPicture.MatchString(f.Name) }) {
		return "", nil, errors.New("the document holds pictures and no text that can be read: type what they show")
	}
	return text, below, err
}

// isPicture is how the parts are called in which documents keep their pictures.
var isPicture = pattern.Must(`^(?:word|ppt)/media/|^Pictures/`)

// presentation is the part that a file of slides has.
const presentation = "ppt/presentation.xml"

// IsDocument reports whether a file is a document that Text reads: one of a word processor, slides, or an
// OpenDocument spreadsheet (.ods).
func IsDocument(data []byte) bool {
	if !bytes.HasPrefix(data, []byte(packed.Begins)) {
		return false
	}
	files, err := packed.Open(data)
	return err == nil && (files.Has("word/document.xml") || files.Has(presentation) || files.Has("content.xml") && strings.HasPrefix(mimeOf(files), "application/vnd.oasis.opendocument."))
}

// mimeOf is what an OpenDocument file says that it is.
func mimeOf(files packed.File) string {
	data, err := files.Part("mimetype")
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(data))
}

// Other names what a file is that holds no text to be read; empty where it may hold some.
func Other(data []byte) string {
	for _, kind := range []struct{ begins, name string }{
		{"\x89PNG", "a picture"}, {"\xff\xd8\xff", "a picture"}, {"GIF8", "a picture"}, {"RIFF", "a picture or a sound"}, {"BM\x00", "a picture"},
		{"%PDF", "a PDF"}, {"\xd0\xcf\x11\xe0", "an old Excel or Word file"}, {"{\\rtf", "a text document"},
	} {
		if bytes.HasPrefix(data, []byte(kind.begins)) {
			return kind.name
		}
	}
	if !bytes.HasPrefix(data, []byte(packed.Begins)) && !isUTF16(data) && bytes.IndexByte(data, 0) >= 0 {
		return noText
	}
	return ""
}

// noText is said of a file that is nothing known.
const noText = "no text"

func isUTF16(data []byte) bool {
	return bytes.HasPrefix(data, []byte{0xff, 0xfe}) || bytes.HasPrefix(data, []byte{0xfe, 0xff})
}

// Decoded turns UTF-8, UTF-16 with its mark, or else Windows-1252 into text.
func Decoded(data []byte) string {
	if isUTF16(data) {
		if out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(data); err == nil {
			return string(out)
		}
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if utf8.Valid(data) {
		return string(data)
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return strings.ToValidUTF8(string(data), "�")
	}
	return string(out)
}
