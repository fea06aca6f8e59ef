// Package document reads the text of files as people have them: plain text in whatever encoding,
// and documents, OpenDocument (.odt, .ods, .odp) and Office Open XML (.docx, .pptx).
package document

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"freshapron/internal/core/pattern"
)

// maxUnzip is how many bytes of a document's text are read when it is unpacked; no school's is longer.
const maxUnzip = 8 << 20

// Zipped is how a file of packed parts begins, such as a document or a spreadsheet.
const Zipped = "PK\x03\x04"

// Text returns the text of a file, a line for each paragraph and for each row of a table, with the heads, the
// notes and the feet of its pages. The error says in a sentence what the file is instead, and what to do.
func Text(data []byte) (string, error) {
	text, below, err := read(data)
	if len(below) > 0 {
		text += "\n" + strings.Join(below, "\n") + "\n"
	}
	return text, err
}

// List is Text without notes and feet: where each line is somebody or some hour, they are neither.
func List(data []byte) (string, error) {
	text, _, err := read(data)
	return text, err
}

// read returns the text of a file, and the lines of its notes and feet.
func read(data []byte) (text string, below []string, err error) {
	switch other := Other(data); {
	case other == noText:
		return "", nil, errors.New("the file holds no text that can be read: open it, copy the text and paste it")
	case other != "":
		return "", nil, fmt.Errorf("this is %s, whose text can't be read: open it, copy the text and paste it", other)
	case !bytes.HasPrefix(data, []byte(Zipped)):
		return Decoded(data), nil, nil
	}
	files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return "", nil, errors.New("the file is damaged: save it again, or paste its text")
	}
	switch {
	case has(files, "word/document.xml"):
		text, below, err = wordText(files)
	case has(files, "content.xml") && !has(files, "xl/workbook.xml"):
		text, below, err = openText(files)
	case has(files, presentation):
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
	if !bytes.HasPrefix(data, []byte(Zipped)) {
		return false
	}
	files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	return err == nil && (has(files, "word/document.xml") || has(files, presentation) || has(files, "content.xml") && strings.HasPrefix(mimeOf(files), "application/vnd.oasis.opendocument."))
}

// mimeOf is what an OpenDocument file says that it is.
func mimeOf(files *zip.Reader) string {
	data, err := part(files, "mimetype")
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(data))
}

func has(files *zip.Reader, name string) bool {
	for _, f := range files.File {
		if f.Name == name {
			return true
		}
	}
	return false
}

// part returns a part of a document; nothing where it has none.
func part(files *zip.Reader, name string) ([]byte, error) {
	if !has(files, name) {
		return nil, nil
	}
	from, err := files.Open(name)
	if err != nil {
		return nil, errors.New("the file is damaged: save it again, or paste its text")
	}
	defer from.Close() //nolint:errcheck // it is only read
	data, err := io.ReadAll(io.LimitReader(from, maxUnzip+1))
	switch {
	case err != nil:
		return nil, errors.New("the file is damaged: save it again, or paste its text")
	case len(data) > maxUnzip:
		return nil, errTooLong
	}
	return data, nil
}

var errTooLong = fmt.Errorf("the text of the document is over %d MB: take it in parts", maxUnzip>>20)

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
	if !bytes.HasPrefix(data, []byte(Zipped)) && !isUTF16(data) && bytes.IndexByte(data, 0) >= 0 {
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
