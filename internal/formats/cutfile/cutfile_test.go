package cutfile_test

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"freshapron/internal/formats/cutfile"
)

// Whatever is read is either refused with a word, or cut: the pieces can be written.
func FuzzReadCut(f *testing.F) {
	for _, s := range []string{
		`{"format":"fresh-apron/cut","version":1,"food":{"shape":"box","size_mm":[10,20,30]},"cuts":[{"axis":"x","at_mm":[5]}],"target_mm":[5,5,5]}`,
		`{"format":"fresh-apron/cut","version":1,"food":{"shape":"half-ellipsoid","axes_mm":[80,70,70],"layers":3,"root":true},"cuts":[{"axis":"y","at_mm":[0,1e3]}],"target_mm":[5,5,5]}`,
		`{"food":{"shape":"shell"}}`, `{"cuts":[[]]}`, `null`,
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		task, err := cutfile.ReadCut(strings.NewReader(text))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		cut, err := task.Do()
		if err != nil || len(cut.Pieces) == 0 {
			return
		}
		var b bytes.Buffer
		assert.NoError(t, cutfile.WriteCut(&b, cut))
		assert.True(t, json.Valid(b.Bytes()))
	})
}

func FuzzReadPieces(f *testing.F) {
	for _, s := range []string{
		`{"format":"fresh-apron/pieces","version":1,"target_mm":[10,10,10],"pieces_mm":[[10,11,9]],"cook":{"way":{"h":30},"start_c":5,"around_c":180,"to_c":70}}`,
		`{"format":"fresh-apron/pieces","version":1,"target_mm":[10,10,10],"pieces_mm":[[10,11,9],[1,1,1]],"cook":{"way":"fry","start_c":5,"around_c":180,"to_c":179.99}}`,
		`{"pieces_mm":[[1]]}`, `7`,
	} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		pieces, err := cutfile.ReadPieces(strings.NewReader(text))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		var b bytes.Buffer
		assert.NoError(t, cutfile.WriteEven(&b, pieces))
		assert.True(t, json.Valid(b.Bytes()))
	})
}
