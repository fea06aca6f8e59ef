// Package instrument draws what an amount is measured with: the jug with the mark to
// fill it to, the scale with what it must show, the spoons and how often each is filled.
package instrument

import (
	"embed"
	"html/template"
	"strings"

	"freshapron/internal/core/exact"
	"freshapron/internal/core/measure"
)

//go:embed templates/*.html
var files embed.FS

var templates = template.Must(template.ParseFS(files, "templates/*.html"))

// The drawings are this wide and high, in their own units; a jug's marks stand
// between bottom and top.
const (
	bottom, top = 74.0, 12.0
	mostMarks   = 16 // that are drawn; of more every second, fourth … is
	mostNumbers = 5
)

type jug struct {
	Level float64 // where the surface lies
	Depth float64 // of what is in it
	Marks []mark
	Says  string
}

type mark struct {
	Y    float64
	Long bool
	Says string
}

// Of draws the instrument of an instruction; nothing where something is counted or
// divided by eye.
func Of(i *measure.Instruction) template.HTML {
	if i == nil {
		return ""
	}
	switch i.Way {
	case measure.ByScale:
		return draw("scale", i.Says)
	case measure.ByJug:
		return draw("jug", jugOf(i))
	case measure.BySpoon:
		if len(i.Fillings) > 0 {
			return draw("spoons", i.Fillings)
		}
	}
	return ""
}

func draw(name string, data any) template.HTML {
	var b strings.Builder
	if err := templates.ExecuteTemplate(&b, name, data); err != nil {
		panic(err) // the templates are the program's own
	}
	return template.HTML(b.String()) //nolint:gosec // escaped by the template
}

func jugOf(i *measure.Instruction) jug {
	holds, step := i.Jug.Holds.Float(), i.Jug.Marks.Float()
	y := func(ml float64) float64 { return bottom - (bottom-top)*ml/holds }
	left := i.Measured.Amount.Float()
	for left > holds { // what is left for the last filling
		left -= holds
	}
	out := jug{Level: y(left), Depth: bottom - y(left), Says: i.Says}
	every := 1
	for holds/step/float64(every) > mostMarks {
		every *= 2
	}
	marks := int(holds / step / float64(every))
	numbers := max(1, (marks+mostNumbers-1)/mostNumbers)
	for n := 1; n <= marks; n++ {
		ml := float64(n*every) * step
		m := mark{Y: y(ml)}
		if n%numbers == 0 {
			m.Long, m.Says = true, i.Jug.Marks.Mul(exact.Int(int64(n*every))).String()
		}
		out.Marks = append(out.Marks, m)
	}
	return out
}
