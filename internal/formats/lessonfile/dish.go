package lessonfile

import (
	"fmt"
	"io"

	"freshapron/internal/core/fit"
	"freshapron/internal/core/problem"
	"freshapron/internal/formats/jsonout"
	"freshapron/internal/formats/tree"
)

// ReadDish reads a dish of a lesson file by itself. It returns problem.List
// with the path of each.
func ReadDish(from io.Reader) (fit.Dish, error) {
	v, err := tree.Decode(from)
	if err != nil {
		return fit.Dish{}, err
	}
	r := &reader{}
	d := r.dish(r.Root(v).Object())
	if len(r.Problems) > 0 {
		return d, r.Problems
	}
	return d, nil
}

// WriteDish writes a dish as it stands in a lesson file.
func WriteDish(to io.Writer, d fit.Dish) error { return jsonout.Write(to, dishOf(d)) }

// OnlyDish returns the dish of a lesson file that has just one.
func OnlyDish(l fit.Lesson) (fit.Dish, error) {
	if n := len(l.Dishes); n != 1 {
		return fit.Dish{}, problem.List{{Path: "dishes", Says: fmt.Sprintf("this is a lesson file with %d dishes; give one dish", n)}}
	}
	return l.Dishes[0], nil
}
