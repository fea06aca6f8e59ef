// Package photo makes photographs that people take small, and takes everything out of
// them but the picture itself: where and when it was taken, and by what.
package photo

import (
	"bytes"
	"context"
	"image"
	_ "image/jpeg" // photographs of tablets
	_ "image/png"  // and pictures of screens

	"github.com/disintegration/imaging"
	"golang.org/x/sync/semaphore"

	"freshapron/internal/core/problem"
)

const (
	// MostPixels is how many pixels a photograph may have: the decoded picture takes
	// four bytes for each.
	MostPixels = 25_000_000
	longest    = 1280 // pixels, of the longer side of what is kept
	quality    = 80
)

// atOnce bounds the memory that decoded pictures take.
var atOnce = semaphore.NewWeighted(2)

// Size returns how large the picture in a file is, of what is a PNG or JPEG within
// MostPixels. Anything else is a problem.
func Size(data []byte) (image.Config, error) {
	c, _, err := image.DecodeConfig(bytes.NewReader(data))
	switch {
	case err != nil:
		return c, problem.New("file", "This is no picture that can be read here. A photograph as JPEG or PNG can be")
	case c.Width < 1 || c.Height < 1 || c.Width > MostPixels/c.Height:
		return c, problem.New("file", "The picture is %d × %d pixels, and at most %d million can be read. Take it with fewer", c.Width, c.Height, MostPixels/1_000_000)
	}
	return c, nil
}

// Decode reads a photograph, turned as it was taken. It waits for its turn: few are
// read at once.
func Decode(ctx context.Context, data []byte) (image.Image, error) {
	if _, err := Size(data); err != nil {
		return nil, err
	}
	if err := atOnce.Acquire(ctx, 1); err != nil {
		return nil, err
	}
	defer atOnce.Release(1)
	img, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, problem.New("file", "The picture breaks off, or is damaged. Take it again")
	}
	return img, nil
}

// Small returns a photograph as a JPEG of at most 1280 pixels, turned as it was taken,
// with nothing in it but the picture.
func Small(ctx context.Context, data []byte) ([]byte, error) {
	img, err := Decode(ctx, data)
	if err != nil {
		return nil, err
	}
	return JPEG(imaging.Fit(img, longest, longest, imaging.Box))
}

// JPEG writes a picture.
func JPEG(img image.Image) ([]byte, error) {
	var b bytes.Buffer
	err := imaging.Encode(&b, img, imaging.JPEG, imaging.JPEGQuality(quality))
	return b.Bytes(), err
}
