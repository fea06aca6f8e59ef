package frame

import (
	"bytes"
	"compress/gzip"
	"fmt"
	"io"
	"maps"
	"net/http"
	"strconv"
	"strings"
	"time"

	"freshapron/internal/app/school"
)

const (
	// keptPages is how many drawn pages are kept of all schools together; one is
	// 10 to 40 kB.
	keptPages = 600
	// keptFor is how long a page may say what time it is.
	keptFor = 10 * time.Second
)

// A drawn page as it is sent, compressed.
type drawn struct {
	header http.Header
	body   []byte
}

// drawing takes what a handler answers.
type drawing struct {
	header http.Header
	status int
	body   bytes.Buffer
}

func (d *drawing) Header() http.Header { return d.header }

func (d *drawing) WriteHeader(status int) {
	if d.status == 0 {
		d.status = status
	}
}

func (d *drawing) Write(b []byte) (int, error) {
	d.WriteHeader(http.StatusOK)
	return d.body.Write(b)
}

// pageKey names what a page depends on: what stands in the school's part of the
// database, who looks, at what, how, and when.
type pageKey struct {
	stand, account  int64
	host, page, way string
	at              int64
}

// kept answers with the page as it was drawn, where nothing that it shows has
// changed since: in what state the school is came with who is signed in, before
// anything was read, so that what was drawn is at least as new.
func (f *Frame) kept(w http.ResponseWriter, r *http.Request, do Handler) {
	ctx := r.Context()
	s, who := school.In(ctx), school.Acting(ctx)
	pages := school.Keep[pageKey, drawn](s.Site, keptPages)
	key := pageKey{
		stand: who.Stand, account: who.ID, host: r.Host, page: r.URL.RequestURI(), way: r.Header.Get("HX-Request") + r.Header.Get("HX-History-Restore-Request"),
		at: s.Now().UnixNano() / int64(keptFor),
	}
	if page, ok := pages.Get(key); ok {
		page.send(w, r)
		return
	}
	d := &drawing{header: http.Header{}}
	f.Answer(d, r, do)
	if d.status != http.StatusOK {
		maps.Copy(w.Header(), d.header)
		w.WriteHeader(d.status)
		_, _ = d.body.WriteTo(w) // whoever asked may have gone
		return
	}
	page := drawn{d.header, compressed(d.body.Bytes())}
	pages.Add(key, page)
	page.send(w, r)
}

func compressed(body []byte) []byte {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	_, _ = z.Write(body) // a buffer takes everything
	_ = z.Close()
	return b.Bytes()
}

// send sends a page to a browser, unpacked to the few that can't unpack it.
func (d drawn) send(w http.ResponseWriter, r *http.Request) {
	for name, values := range d.header {
		for _, v := range values {
			w.Header().Add(name, v)
		}
	}
	w.Header().Add("Vary", "Accept-Encoding")
	if strings.Contains(r.Header.Get("Accept-Encoding"), "gzip") {
		w.Header().Set("Content-Encoding", "gzip")
		w.Header().Set("Content-Length", strconv.Itoa(len(d.body)))
		_, _ = w.Write(d.body) // whoever asked may have gone
		return
	}
	z, err := gzip.NewReader(bytes.NewReader(d.body))
	if err != nil {
		panic(fmt.Sprint("a page that was packed can't be unpacked: ", err))
	}
	_, _ = io.Copy(w, z) //nolint:gosec // packed here
}
