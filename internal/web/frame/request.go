package frame

import (
	"errors"
	"io"
	"mime"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"unicode"

	"github.com/go-chi/chi/v5"
	"github.com/go-playground/form/v4"
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

// Uploaded reads a form that takes a file or text: what was pasted, and the
// bytes to read, of the file where one was chosen.
func Uploaded(r *http.Request) (text string, data []byte, err error) {
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

// mostRows bounds the rows of a form’s list, far above what any form takes: it
// says itself what is too much.
const mostRows = 3000

// decoder reads forms into structs by the names of their fields: GroupSize is
// group_size. A tag "form" says otherwise.
var decoder = func() *form.Decoder {
	d := form.NewDecoder()
	d.SetMaxArraySize(mostRows)
	d.RegisterTagNameFunc(func(f reflect.StructField) string {
		if name, ok := f.Tag.Lookup("form"); ok {
			return name
		}
		var b strings.Builder
		for i, r := range f.Name {
			if unicode.IsUpper(r) && i > 0 && unicode.IsLower(rune(f.Name[i-1])) {
				b.WriteByte('_')
			}
			b.WriteRune(unicode.ToLower(r))
		}
		return b.String()
	})
	return d
}()

// Decode reads a form, or for a page that is asked for its address, into a
// struct. What does not fit the struct's shape is as good as missing.
func Decode(r *http.Request, into any) error {
	if err := ParseForm(r); err != nil {
		return err
	}
	values := r.PostForm
	if r.Method == http.MethodGet || r.Method == http.MethodHead {
		values = r.Form
	}
	_ = decoder.Decode(into, values)
	return nil
}

// Attach says that what follows is a file with a name.
func Attach(w http.ResponseWriter, kind, name string) {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	w.Header().Set("Cache-Control", "no-store")
}
