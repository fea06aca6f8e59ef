package train

import (
	"context"
	"errors"
	"strconv"
	"strings"

	"freshapron/internal/app/lessons"
	"freshapron/internal/app/school"
	"freshapron/internal/core/drawn"
	"freshapron/internal/core/even"
	"freshapron/internal/core/live"
	"freshapron/internal/core/problem"
	"freshapron/internal/core/skills"
	"freshapron/internal/core/typed"
	"freshapron/internal/core/words"
	"freshapron/internal/formats/eventfile"
	"freshapron/internal/formats/photo"
	"freshapron/internal/store"
)

// An EvenForm is what was measured, as it was typed.
type EvenForm struct {
	Target, Pieces, Way, Start, Around, To string
	Reference                              string // how far the strip's discs are apart
}

// UsualEven is what is measured where nobody says otherwise; typical.
var UsualEven = EvenForm{Target: "10 10 10", Way: "simmer", Start: "15", Around: "98", To: "85", Reference: "100"}

// A Measurement is what comes of measured pieces.
type Measurement struct {
	Target   even.Piece
	Pieces   []even.Piece
	Evenness even.Evenness
	Times    even.Times
	Doubtful int // of those that were found on a photograph

	Photographed bool
}

// Measure measures what was photographed, or else what was written down. What can't be
// is a problem at its field.
func Measure(ctx context.Context, f EvenForm, photograph []byte) (Measurement, error) {
	var m Measurement
	var err error
	if m.Target, err = even.ReadPiece(f.Target); err != nil {
		return m, problem.New("target", "What they are to be: %s", problem.Of(err)[0].Says)
	}
	if m.Photographed = len(photograph) > 0; !m.Photographed {
		m.Pieces, err = even.ReadPieces(f.Pieces)
	} else {
		var found even.Photo
		found, err = Photographed(ctx, photograph, f.Reference)
		for _, p := range found.Pieces {
			m.Pieces = append(m.Pieces, even.Piece{p.Size[0], p.Size[1], p.Size[1]}) // as thick as it is wide
			if p.Doubtful {
				m.Doubtful++
			}
		}
		if err == nil && len(m.Pieces) == 0 {
			err = problem.New("file", "The strip is there, and no piece beside it that differs from the ground")
		}
	}
	if err != nil {
		return m, err
	}
	volumes := make([]float64, len(m.Pieces))
	for i, p := range m.Pieces {
		volumes[i] = p.Volume()
	}
	m.Evenness = even.Of(volumes, m.Target.Volume())
	cook, err := f.cook()
	if err != nil {
		return m, err
	}
	m.Times = cook.Times(m.Pieces)
	return m, nil
}

// cook reads how the pieces are heated.
func (f EvenForm) cook() (even.Cook, error) {
	var in typed.Form
	degrees := func(field, text string) float64 {
		v, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(text), ",", "."), 64)
		if err != nil {
			in.Add(field, "“%s” is no temperature", words.Short(text))
		}
		return v
	}
	c := even.Cook{H: even.Ways[f.Way], Start: degrees("start", f.Start), Around: degrees("around", f.Around), To: degrees("to", f.To)}
	if err := in.Err(); err != nil {
		return c, err
	}
	if c.Check() != nil {
		return c, problem.New("to", "The middle comes from %g to %g °C only where that lies between the two, and what is around it is at %g °C", c.Start, c.To, c.Around)
	}
	return c, nil
}

// Photographed finds the pieces on a photograph beside the strip, whose discs lie so many
// millimetres apart. The photograph is not kept.
func Photographed(ctx context.Context, data []byte, apart string) (even.Photo, error) {
	reference, err := strconv.ParseFloat(strings.TrimSpace(apart), 64)
	if err != nil || !(reference >= even.LeastReference && reference <= even.MostReference) {
		return even.Photo{}, problem.New("reference", "How far the strip’s discs are apart: “%s” is no number from %d to %d mm", words.Short(apart), even.LeastReference, even.MostReference)
	}
	img, err := photo.Decode(ctx, data)
	if err != nil {
		return even.Photo{}, err
	}
	found, err := even.Measure(img, reference)
	if err != nil {
		return even.Photo{}, problem.New("file", "%s", words.Capital(err.Error()))
	}
	return found, nil
}

// Example draws one of the photographs to try measuring with; they are numbered from 1.
// It returns ErrNotFound of the school where there is none of a number.
func Example(number string) ([]byte, error) {
	n, err := strconv.Atoi(number)
	if err != nil || n < 1 || n > len(drawn.Examples) {
		return nil, school.ErrNotFound
	}
	return photo.JPEG(drawn.Examples[n-1].Scene().Draw())
}

// A Bench is a bench of a lesson that runs, as its screen's code opens it.
type Bench struct {
	Code, Name string
	View       *lessons.View
	Rehearsed  bool // nothing that comes of it counts
	run        int64
	id         string
	members    []int64
}

// AtBench returns the bench that a code opens, and a context in which it acts.
func AtBench(ctx context.Context, site *school.Site, code string) (context.Context, *Bench, error) {
	x, err := site.Store.ScreenOf(ctx, code, site.Now())
	if errors.Is(err, store.ErrNotFound) {
		return ctx, nil, ErrShut
	}
	if err != nil {
		return ctx, nil, err
	}
	in, err := site.Of(ctx, x.School)
	if err != nil {
		return ctx, nil, err
	}
	ctx = school.As(ctx, in, store.Account{Name: "bench " + x.Bench})
	run, err := in.Run(ctx, x.Run)
	if err != nil {
		return ctx, nil, err
	}
	v, err := lessons.One(ctx, run.Lesson)
	if err != nil {
		return ctx, nil, err
	}
	b := &Bench{Code: x.Code, Name: x.Bench, View: v, run: x.Run, id: x.Bench}
	for _, o := range v.Benches {
		if o.ID == x.Bench {
			b.Name = o.Name
			for _, m := range o.Members {
				b.members = append(b.members, m.ID)
			}
		}
	}
	if run.Rehearsal != nil {
		b.members, b.Rehearsed = nil, true // of a rehearsal nothing is counted
	}
	return ctx, b, nil
}

// Measured keeps how even the pieces of a bench were: in the log of the lesson, and as
// evidence for who works there. What arrives twice counts once.
func Measured(ctx context.Context, b *Bench, m Measurement, press string) error {
	in := school.In(ctx)
	found, ok := skills.ByPieces(m.Evenness, m.Target, in.Now())
	line, err := eventfile.Line(live.Event{ID: press, Kind: live.Measured, Bench: b.id, Says: found.By})
	if err != nil {
		return err
	}
	return in.InTransaction(ctx, func(in *store.School) error {
		if err := in.AddEvents(ctx, b.run, []store.Event{{Press: press, At: found.At, Who: "bench " + b.id, Line: string(line)}}); err != nil || !ok {
			return err
		}
		return in.AddEvidence(ctx, press, []skills.Evidence{found}, b.members...)
	})
}
