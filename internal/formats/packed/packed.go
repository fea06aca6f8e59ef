// Package packed reads the parts of files that are packed XML: documents, slides and spreadsheets, OpenDocument
// or Office Open XML.
package packed

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"
)

// Begins is how such a file begins.
const Begins = "PK\x03\x04"

// MaxPart is how many bytes of a part are read when it is unpacked; no school's is longer.
const MaxPart = 8 << 20

// What is said of files that can't be read.
var (
	ErrDamaged    = errors.New("the file is damaged: save it again, or paste its text")
	ErrDamagedXML = errors.New("the document is damaged: open it, copy the text and paste it")
	ErrTooLong    = fmt.Errorf("the text of the document is over %d MB: take it in parts", MaxPart>>20)
)

// A File is a packed file that is open.
type File struct{ *zip.Reader }

// Open opens a packed file in memory.
func Open(data []byte) (File, error) {
	files, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return File{}, ErrDamaged
	}
	return File{files}, nil
}

// Has reports whether there is a part.
func (f File) Has(name string) bool {
	for _, part := range f.File {
		if part.Name == name {
			return true
		}
	}
	return false
}

// Part returns a part; nothing where there is none.
func (f File) Part(name string) ([]byte, error) {
	if !f.Has(name) {
		return nil, nil
	}
	from, err := f.Open(name)
	if err != nil {
		return nil, ErrDamaged
	}
	defer from.Close() //nolint:errcheck // it is only read
	data, err := io.ReadAll(io.LimitReader(from, MaxPart+1))
	switch {
	case err != nil:
		return nil, ErrDamaged
	case len(data) > MaxPart:
		return nil, ErrTooLong
	}
	return data, nil
}

// Elements calls a function for each element that begins in a part.
func (f File) Elements(name string, begin func(e xml.StartElement)) error {
	data, err := f.Part(name)
	if err != nil {
		return err
	}
	return Walk(data, func(string) bool { return false }, begin, func(string) {}, func(string) {})
}

// Linked returns the parts that a part of Office Open XML refers to, by what it calls them.
func (f File) Linked(name string) (map[string]string, error) {
	of := map[string]string{}
	dir, file := path.Split(name)
	err := f.Elements(dir+"_rels/"+file+".rels", func(e xml.StartElement) {
		if e.Name.Local == "Relationship" && Attribute(e, "TargetMode") != "External" {
			target := Attribute(e, "Target")
			if !strings.HasPrefix(target, "/") {
				target = path.Join("/"+dir, target)
			}
			of[Attribute(e, "Id")] = strings.TrimPrefix(target, "/")
		}
	})
	return of, err
}

// Attribute returns an attribute of an element by its name without the space that it is in.
func Attribute(e xml.StartElement, name string) string {
	for _, a := range e.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

// Link returns by what an element calls another part, rather than its own number, which may be called id too.
func Link(e xml.StartElement) string {
	for _, a := range e.Attr {
		if a.Name.Local == "id" && a.Name.Space != "" {
			return a.Value
		}
	}
	return ""
}

// Walk calls functions for each element that begins and ends and for the letters within, and leaves out
// the elements that skip names.
func Walk(data []byte, skip func(name string) bool, begin func(e xml.StartElement), end func(name string), letters func(s string)) error {
	d := xml.NewDecoder(bytes.NewReader(data))
	for {
		token, err := d.Token()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return ErrDamagedXML
		}
		switch t := token.(type) {
		case xml.StartElement:
			if skip(t.Name.Local) {
				if d.Skip() != nil {
					return ErrDamagedXML
				}
				continue
			}
			begin(t)
		case xml.EndElement:
			end(t.Name.Local)
		case xml.CharData:
			letters(string(t))
		}
	}
}
