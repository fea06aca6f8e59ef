package photo_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"freshapron/internal/formats/photo"
)

// taken draws a photograph, red on its left half.
func taken(t *testing.T, w, h int) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{B: 255, A: 255}
			if x < w/2 {
				c = color.RGBA{R: 255, A: 255}
			}
			img.Set(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

// withPlace puts into a JPEG that it lies on its side, and a place where it was taken.
func withPlace(data []byte) []byte {
	tiff := []byte("MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x06\x00\x00\x00\x00\x00\x00GPS 51.5 N 0.1 W")
	exif := append([]byte("Exif\x00\x00"), tiff...)
	out := append([]byte{0xff, 0xd8, 0xff, 0xe1}, binary.BigEndian.AppendUint16(nil, uint16(len(exif)+2))...)
	return append(append(out, exif...), data[2:]...)
}

func TestSmall(t *testing.T) {
	small, err := photo.Small(t.Context(), withPlace(taken(t, 2600, 1300)))
	require.NoError(t, err)
	assert.NotContains(t, string(small), "GPS")
	assert.NotContains(t, string(small), "Exif")
	img, err := jpeg.Decode(bytes.NewReader(small))
	require.NoError(t, err)
	assert.Equal(t, image.Pt(640, 1280), img.Bounds().Size(), "turned as it was taken")
	r, _, b, _ := img.At(320, 100).RGBA()
	assert.Greater(t, r, b, "its left is now above")
}

func TestWhatIsNoPicture(t *testing.T) {
	var huge bytes.Buffer
	require.NoError(t, png.Encode(&huge, image.NewRGBA(image.Rect(0, 0, 1, 1))))
	bomb := huge.Bytes()
	binary.BigEndian.PutUint32(bomb[16:], 50_000)
	binary.BigEndian.PutUint32(bomb[20:], 50_000)
	binary.BigEndian.PutUint32(bomb[29:], crc32.ChecksumIEEE(bomb[12:29]))
	whole := taken(t, 200, 100)
	for name, c := range map[string]struct {
		data []byte
		says string
	}{
		"nothing":    {nil, "no picture"},
		"text":       {[]byte("GIF of a cake"), "no picture"},
		"broken off": {whole[:len(whole)/2], "breaks off"},
		"huge":       {bomb, "at most 25 million"},
	} {
		_, err := photo.Small(t.Context(), c.data)
		assert.ErrorContains(t, err, c.says, name)
	}
}
