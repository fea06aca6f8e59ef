package frame

import (
	"errors"
	"io"
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"
)

// ID reads a part of the address as an id; 0, which nothing has, stands for
// what is none.
func ID(r *http.Request, part string) int64 {
	n, err := strconv.ParseInt(chi.URLParam(r, part), 10, 64)
	if err != nil || n < 1 {
		return 0
	}
	return n
}

// Parsed reads the form of a request. Where it can't, because it is too large
// or has too many fields, it answers that and reports false.
func (f *Frame) Parsed(w http.ResponseWriter, r *http.Request) bool {
	if err := r.ParseForm(); err != nil {
		f.tooLarge(w, r)
		return false
	}
	return true
}

// Upload reads a form that takes a file or text: what was pasted, and the
// bytes to read, of the file where one was chosen.
func Upload(r *http.Request) (text string, data []byte, err error) {
	const inMemory = 1 << 20
	if err := r.ParseMultipartForm(inMemory); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		return "", nil, err
	}
	if r.MultipartForm != nil {
		defer r.MultipartForm.RemoveAll() //nolint:errcheck // temporary files
	}
	text = r.PostFormValue("text")
	file, _, err := r.FormFile("file")
	if err != nil {
		return text, []byte(text), nil
	}
	defer file.Close()
	data, err = io.ReadAll(file)
	if len(data) == 0 {
		data = []byte(text)
	}
	return text, data, err
}
